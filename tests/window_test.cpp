// The real window, driven by keyboard and mouse through whole tasks. Needs a display (scripts/test starts a
// virtual one).
#define CATCH_CONFIG_RUNNER
#include "app/checks_line.hpp"
#include "app/comparison.hpp"
#include "app/designation_line.hpp"
#include "app/developed_view.hpp"
#include "app/locale.hpp"
#include "app/main_window.hpp"
#include "app/section_view.hpp"
#include "app/shelf.hpp"
#include "app/solid_view.hpp"
#include "app/spec_sheet.hpp"
#include "app/theme.hpp"
#include "app/zone_strip.hpp"
#include "bench.hpp"
#include "drawn_text.hpp"
#include "exchange/export.hpp"
#include "exchange/tooth_outline.hpp"
#include "model/job_file.hpp"
#include "model/section_library.hpp"
#include "model/starter.hpp"

#include <QApplication>
#include <QClipboard>
#include <QFile>
#include <QLabel>
#include <QLocale>
#include <QMessageBox>
#include <QPushButton>
#include <QScreen>
#include <QSettings>
#include <QTemporaryDir>
#include <QtTest/QtTest>
#include <catch2/catch.hpp>
#include <clocale>
#include <cstdio>
#include <filesystem>
#include <fstream>

using namespace whorl;
using namespace whorl::app;

TEST_CASE("from a designation to a STEP file another program opens", "[once]") {
    Bench b;
    CHECK(b.session.job().pieces.empty());
    b.designate("M10x1.5-6g LH x 40");
    REQUIRE(b.session.has_piece());
    REQUIRE(b.session.preview());
    CHECK(b.session.preview()->made());
    REQUIRE(b.session.solid());
    CHECK(b.session.solid()->valid);
    CHECK(b.section().hand == Hand::left);
    CHECK(b.window.checks()->sentence() == "Every check holds.");

    // change the pitch where it is dimensioned; everything follows
    b.type_at(b.window.section(), "pitch", "1.25");
    CHECK(b.section().pitch == 1.25);
    CHECK(b.window.designation()->text() == "M10x1.25-6g LH x 40");
    CHECK(b.session.findings().empty());
    b.type_at(b.window.section(), "pitch", "1.3");
    REQUIRE(!b.session.findings().empty());
    CHECK(b.session.findings().front().id == "off_standard");

    // what no longer fits is said; the last good solid stays
    b.type_at(b.window.section(), "pitch", "18");
    CHECK(b.session.findings().front().severity == Severity::stop);
    CHECK(b.window.checks()->sentence().contains("no core"));
    CHECK_FALSE(b.session.preview()->made());

    // the remedy by its button, then undo and redo by keys
    auto* remedy = b.window.checks()->findChild<QPushButton*>("remedy");
    REQUIRE(remedy->isVisible());
    QTest::mouseClick(remedy, Qt::LeftButton);
    b.settle();
    CHECK(b.section().pitch == 1.5);
    CHECK(b.session.preview()->made());
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(b.section().pitch == 18);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    b.settle();
    CHECK(b.section().pitch == 1.5);

    QTemporaryDir folder;
    const QString step = folder.filePath("stud.step");
    REQUIRE(b.exports(step));
    const StepContent back = read_step(step.toStdString());
    CHECK(back.solids == 1);
    CHECK(back.valid);
    CHECK(back.volume == Approx(b.session.preview()->volume()).epsilon(1e-5));
    CHECK(b.exports(folder.filePath("stud.stl")));
    CHECK(b.exports(folder.filePath("stud.svg")));
    CHECK_FALSE(b.exports("/nonexistent/stud.step"));
    CHECK(b.window.checks()->sentence().contains("/nonexistent/stud.step"));

    // saved, opened again, the same
    const QString file = folder.filePath("gauge.whorl");
    REQUIRE(b.window.save_to(file));
    const Job saved = b.session.job();
    QTest::keyClick(&b.window, Qt::Key_H, Qt::ControlModifier);
    b.settle();
    CHECK(b.section().hand == Hand::right);
    REQUIRE(b.window.open(file));
    b.settle();
    CHECK(b.session.job() == saved);
}

TEST_CASE("an export right after an edit holds the edit, not what was on screen before") {
    Bench b;
    b.designate("M10x1.5-6g x 20");
    const double before = b.session.preview()->volume();
    REQUIRE(b.session.edit(field::length, "8").isEmpty()); // the preview is not there yet
    QTemporaryDir folder;
    REQUIRE(b.exports(folder.filePath("short.step")));
    b.settle();
    const StepContent back = read_step(folder.filePath("short.step").toStdString());
    CHECK(back.volume < before / 2);
    CHECK(back.volume == Approx(b.session.preview()->volume()).epsilon(1e-5));
}

TEST_CASE("Tab goes on to the next dimension and Esc steps back") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    auto* view = b.window.section();
    b.type_at(view, "pitch", "1.25", Qt::Key_Tab);
    CHECK(b.section().pitch == 1.25);
    auto* editor = view->findChild<QLineEdit*>("dimension");
    CHECK(editor->isVisible()); // on the depth now
    QTest::keyClick(editor, Qt::Key_Escape);
    CHECK_FALSE(editor->isVisible());
    CHECK_FALSE(b.session.resolved_zone()->thread()->spec.depth);
    // a value set by hand is marked and can be handed back
    b.type_at(view, "thread_depth", "0.5");
    CHECK(find_value(b.session.resolved_zone()->thread()->values, "thread_depth")->overridden);
    b.type_at(view, "thread_depth", " ");
    CHECK_FALSE(find_value(b.session.resolved_zone()->thread()->values, "thread_depth")->overridden);
}

TEST_CASE("what is typed shows at once; Esc takes it back, Enter keeps it as one step") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    auto* view = b.window.section();
    const auto open = [&] {
        const auto* s = b.spot(view, "pitch");
        REQUIRE(s);
        QTest::mouseClick(view, Qt::LeftButton, {}, s->rect.center().toPoint());
        auto* editor = view->findChild<QLineEdit*>("dimension");
        editor->selectAll();
        QTest::keyClicks(editor, "1.25");
        return editor;
    };
    auto* editor = open();
    CHECK(b.section().pitch == 1.25); // before any Enter
    QTest::keyClick(editor, Qt::Key_Escape);
    CHECK(b.section().pitch == 1.5);
    CHECK_FALSE(b.session.can_redo());
    editor = open();
    QTest::keyClick(editor, Qt::Key_Return);
    CHECK(b.section().pitch == 1.25);
    b.session.undo();
    CHECK(b.section().pitch == 1.5); // one step, not four
}

TEST_CASE("nonsense in a field keeps the editor open, says why and changes nothing") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    const Job before = b.session.job();
    for (const char* text : {"abc", "0", "-1", "1/0", "pi*", "1e99"}) {
        b.type_at(b.window.section(), "pitch", text);
        auto* editor = b.window.section()->findChild<QLineEdit*>("dimension");
        CHECK(editor->isVisible());
        CHECK(b.session.job() == before);
        QTest::keyClick(editor, Qt::Key_Escape);
    }
    auto* line = b.window.designation();
    line->setFocus();
    line->selectAll();
    QTest::keyClicks(line, "M10x1.5-9q");
    QTest::keyClick(line, Qt::Key_Return);
    CHECK(b.session.job() == before);
    CHECK(line->hint().contains("9q"));
    QTest::keyClick(line, Qt::Key_Escape);
    CHECK(line->text() == "M10x1.5-6g x 40");
}

TEST_CASE("the spec sheet is typed in, with formulas over named values") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    auto* sheet = b.window.sheet();
    b.type_at(sheet, "new_value", "plate = 6 mm");
    REQUIRE(b.session.job().values.size() == 1);
    b.type_at(sheet, "length", "2*plate + 20");
    CHECK(in_mm(b.session.resolved_zone()->length) == Approx(32));
    b.type_at(sheet, "value_plate", "8 mm");
    CHECK(in_mm(b.session.resolved_zone()->length) == Approx(36));
    b.type_at(sheet, "starts", "2");
    CHECK(b.section().starts == 2);
    b.type_at(sheet, "hand", "left");
    CHECK(b.section().hand == Hand::left);
    b.type_at(sheet, "far_end", "run-out 1");
    CHECK(b.session.resolved_zone()->far_end.turns == 1);
    b.settle();
    CHECK(b.session.solid()->valid);
    // inch: the same length read in another unit
    QTest::keyClick(&b.window, Qt::Key_U, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.unit() == LengthUnit::inch);
    CHECK(in_mm(b.session.resolved_zone()->length) == Approx(36));
    b.type_at(sheet, "length", "1 1/2");
    CHECK(in_mm(b.session.resolved_zone()->length) == Approx(38.1));
}

TEST_CASE(
    "the lead is dragged in the developed view and the length in the zone strip, each one step of history") {
    Bench b;
    b.designate("M10x1.5-6g x 12");
    auto* view = b.window.developed();
    view->repaint();
    REQUIRE(view->grip(DevelopedView::Grip::lead));
    const QPoint ring = view->grip(DevelopedView::Grip::lead)->toPoint();
    QTest::mousePress(view, Qt::LeftButton, {}, ring);
    for (int i = 1; i <= 10; ++i)
        QTest::mouseMove(view, ring - QPoint(0, 2 * i));
    QTest::mouseRelease(view, Qt::LeftButton, {}, ring - QPoint(0, 20));
    b.settle();
    CHECK(b.section().pitch > 1.55);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(b.section().pitch == 1.5);

    // across the view it changes the hand, the figure beside it the starts, the square the start angle
    const auto drag = [&](DevelopedView::Grip which, QPoint by) {
        view->repaint();
        REQUIRE(view->grip(which));
        const QPoint from = view->grip(which)->toPoint();
        QTest::mousePress(view, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 10; ++i)
            QTest::mouseMove(view, from + by * i / 10);
        QTest::mouseRelease(view, Qt::LeftButton, {}, from + by);
        b.settle();
    };
    const auto back = [&] {
        QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
        b.settle();
    };
    drag(DevelopedView::Grip::lead, QPoint(-(view->width() - 90), 0));
    CHECK(b.section().hand == Hand::left);
    drag(DevelopedView::Grip::lead, QPoint(view->width() - 90, 0));
    CHECK(b.section().hand == Hand::right);
    back();
    CHECK(b.section().hand == Hand::left);
    back();
    const double px_per_mm = (view->height() - 62.0) / 12; // what the axis beside it says
    drag(DevelopedView::Grip::starts, QPoint(0, -static_cast<int>(1.5 * 2 * px_per_mm)));
    CHECK(b.section().starts == 3);
    CHECK(b.section().pitch == 1.5);
    drag(DevelopedView::Grip::starts, QPoint(0, 500));
    CHECK(b.section().starts == 1);
    back();
    back();
    for (const int down : {3, 11, 40}) { // the groove goes where the hand is
        const QPointF before = (view->repaint(), *view->grip(DevelopedView::Grip::start_angle));
        drag(DevelopedView::Grip::start_angle, QPoint(0, down));
        const double turned = b.section().start_angle / (2 * std::numbers::pi);
        CHECK(std::abs(turned) <= 0.5);
        // the hand takes the square at a whole pixel, which it is not drawn at
        const double moved = (before.toPoint().y() + down - before.y()) / px_per_mm / 1.5;
        CHECK(std::remainder(turned - moved, 1) == Approx(0).margin(0.01));
        CHECK(before.x() == view->grip(DevelopedView::Grip::start_angle)->x());
        back();
    }
    CHECK(b.section().start_angle == 0);
    CHECK(b.section().pitch == 1.5);
    CHECK(b.section().hand == Hand::right);

    auto* strip = b.window.strip();
    strip->repaint();
    REQUIRE(strip->stretch_handle(0));
    const QPoint edge = strip->stretch_handle(0)->toPoint();
    QTest::mousePress(strip, Qt::LeftButton, {}, edge);
    for (int i = 1; i <= 10; ++i)
        QTest::mouseMove(strip, edge - QPoint(10 * i, 0));
    QTest::mouseRelease(strip, Qt::LeftButton, {}, edge - QPoint(100, 0));
    b.settle();
    CHECK(b.session.resolved_zone()->length < mm(12));
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    CHECK(b.session.resolved_zone()->length == mm(12));
}

TEST_CASE("a grip stays under the hand whatever the start angle, and Esc gives the drag up") {
    Bench b;
    b.designate("M10x1.5-6g x 12");
    auto* view = b.window.developed();
    for (const char* angle : {"90", "-120"}) {
        INFO(angle);
        REQUIRE(b.session.edit(field::start_angle, angle).isEmpty());
        b.settle();
        view->repaint();
        const QPointF before = *view->grip(DevelopedView::Grip::lead);
        const QPoint from = before.toPoint();
        QTest::mousePress(view, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 10; ++i)
            QTest::mouseMove(view, from - QPoint(0, 6 * i));
        b.settle();
        view->repaint();
        CHECK(b.section().pitch > 1.55);
        CHECK(std::abs(before.y() - 60 - view->grip(DevelopedView::Grip::lead)->y()) < 10);
        QTest::keyClick(view, Qt::Key_Escape);
        QTest::mouseRelease(view, Qt::LeftButton, {}, from - QPoint(0, 60));
        b.settle();
        CHECK(b.section().pitch == 1.5);
    }
    // what was given up is no step of history: the start angles are
    b.session.undo();
    CHECK(b.session.job().pieces[0].zones[0].as<ThreadForm>()->start_angle.text == "90");
    b.session.undo();
    CHECK(b.session.job().pieces[0].zones[0].as<ThreadForm>()->start_angle.text.empty());
}

TEST_CASE("zones are added and removed, pieces too") {
    Bench b;
    b.designate("M10x1.5-6g x 20");
    b.window.strip()->setFocus();
    QTest::keyClick(&b.window, Qt::Key_Insert);
    b.settle();
    REQUIRE(b.session.resolved()->zones.size() == 2);
    CHECK(b.session.zone() == 1);
    b.designate("round 16 x 6");
    CHECK(b.session.resolved()->zones[1].diameter == mm(16));
    QTest::keyClick(b.window.strip(), Qt::Key_Left);
    CHECK(b.session.zone() == 0);
    QTest::keyClick(b.window.strip(), Qt::Key_Right);
    QTest::keyClick(b.window.strip(), Qt::Key_Delete);
    b.settle();
    CHECK(b.session.resolved()->zones.size() == 1);
    // Shift+Enter starts a new piece
    auto* line = b.window.designation();
    line->setFocus();
    line->selectAll();
    QTest::keyClicks(line, "1/4-20 UNC-2A x 1");
    QTest::keyClick(line, Qt::Key_Return, Qt::ShiftModifier);
    b.settle();
    CHECK(b.session.job().pieces.size() == 2);
    CHECK(b.session.piece() == 1);
    CHECK(b.session.resolved_zone()->thread()->spec.family == ThreadFamily::unified);
    QTest::keyClick(&b.window, Qt::Key_PageUp, Qt::ControlModifier);
    CHECK(b.session.piece() == 0);
}

TEST_CASE("a refused file leaves the open job untouched and is named") {
    Bench b;
    REQUIRE(b.window.open(WHORL_SOURCE_DIR "/demo/saltmarsh-tide-gauge.whorl"));
    b.settle();
    const Job before = b.session.job();
    QTemporaryDir folder;
    const QString bad = folder.filePath("bad.whorl");
    QFile f(bad);
    REQUIRE(f.open(QIODevice::WriteOnly));
    f.write("{\"format\": \"regular-whorl job\", \"pieces\": [");
    f.close();
    CHECK_FALSE(b.window.open(bad));
    CHECK(b.session.job() == before);
    CHECK(b.window.checks()->sentence().contains("bad.whorl"));
    CHECK(b.window.checks()->sentence().contains("line 1"));
    CHECK_FALSE(b.window.open(folder.filePath("missing.whorl")));
}

TEST_CASE("unsaved work survives in the recovery file and is offered") {
    QString kept;
    {
        Bench b;
        b.designate("M12x1.75-6g x 30");
        kept = Session::recovery_path();
        REQUIRE(QTest::qWaitFor([&] { return QFile::exists(kept); }, 5000));
    }
    {
        Bench b;
        CHECK(b.session.job().pieces.empty());
        QPushButton* bring = nullptr;
        for (auto* p : b.window.findChildren<QPushButton*>())
            if (p->text() == "Bring it back") bring = p;
        REQUIRE(bring);
        CHECK(bring->isVisible());
        QTest::mouseClick(bring, Qt::LeftButton);
        b.settle();
        CHECK(b.window.designation()->text() == "M12x1.75-6g x 30");
        QTemporaryDir folder;
        REQUIRE(b.window.save_to(folder.filePath("kept.whorl")));
        CHECK_FALSE(QFile::exists(kept)); // saved: nothing left to recover
    }
}

TEST_CASE("work that was brought back is not saved yet, and waits again when the window is closed") {
    const QString kept = Session::recovery_path();
    {
        Bench b;
        b.designate("M12x1.75-6g x 30");
        b.window.close();
    }
    REQUIRE(QFile::exists(kept));
    {
        Bench b;
        b.session.recover();
        CHECK(b.session.unsaved());
        CHECK(b.session.path().isEmpty());
        b.window.close(); // nothing was changed since, and nothing is asked
    }
    CHECK(QFile::exists(kept));
    {
        Bench b;
        b.session.recover();
        REQUIRE(b.session.job().pieces.size() == 1);
        CHECK(b.session.job().pieces[0].zones[0].as<ThreadForm>()->pitch.text == "1.75");
        QTemporaryDir folder;
        REQUIRE(b.window.save_to(folder.filePath("kept.whorl")));
    }
    CHECK_FALSE(QFile::exists(kept));
}

TEST_CASE("another job is opened only when the changes of this one are saved or given up") {
    QTemporaryDir folder;
    const QString other = folder.filePath("other.whorl"), own = folder.filePath("own.whorl");
    save_job(add_piece({}, parse_designation("round 9 x 9")), other.toStdString());
    Bench b;
    b.designate("M12x1.75-6g x 30");
    const auto answer = [&](const QString& words) {
        bool asked = false;
        QTimer::singleShot(100, [&, words] {
            for (QWidget* w : QApplication::topLevelWidgets())
                if (auto* box = qobject_cast<QMessageBox*>(w); box && box->isVisible())
                    for (auto* button : box->buttons())
                        if (QString(button->text()).remove('&') == words) {
                            asked = true;
                            button->click();
                            return;
                        }
        });
        for (QAction* a : b.window.actions())
            if (a->text() == "New job") a->trigger();
        QTest::qWait(150);
        return asked;
    };
    REQUIRE(answer("Stay here"));
    REQUIRE(b.session.job().pieces.size() == 1);
    CHECK(b.session.unsaved());
    REQUIRE(b.window.save_to(own));
    CHECK_FALSE(b.session.unsaved());
    CHECK_FALSE(answer("Stay here")); // nothing to ask: the new job is there
    CHECK(b.session.job().pieces.empty());
    b.designate("M10 x 20");
    REQUIRE(answer("Give them up"));
    CHECK(b.session.job().pieces.empty());
    CHECK(load_job(own.toStdString()).pieces.size() == 1);
}

TEST_CASE("units are switched in a step of history, and every number says which it is in") {
    Bench b;
    b.designate("M12x1.75-6g x 30");
    const auto said = [&] {
        b.session.select(0, 0);
        QCoreApplication::processEvents();
        return test::drawn_text(*b.window.findChild<SpecSheet*>());
    };
    QStringList texts = said();
    CHECK(texts.contains("30"));
    CHECK(texts.contains("mm"));
    CHECK_FALSE(texts.contains("in"));
    REQUIRE_FALSE(b.session.unit() == LengthUnit::inch);
    b.session.set_unit(LengthUnit::inch);
    texts = said();
    INFO(texts.join(" | ").toStdString());
    CHECK(texts.contains("in"));
    CHECK_FALSE(texts.contains("mm"));
    CHECK(texts.contains("1.1811")); // 30 mm
    b.session.undo();
    CHECK(b.session.unit() == LengthUnit::millimetre);
    CHECK(said().contains("mm"));
    b.session.redo();
    CHECK(b.session.unit() == LengthUnit::inch);
}

TEST_CASE("undo goes back to the piece and the zone where the change was made") {
    Bench b;
    b.designate("M12x1.75-6g x 30");
    b.session.change(
        [](const Job& j) { return insert_zone(j, 0, 1, zone_of(parse_designation("round 14 x 5"))); });
    b.session.change([](const Job& j) { return add_piece(j, parse_designation("M8 x 20")); });
    b.session.select(0, 1);
    REQUIRE(b.session.edit(field::length, "6").isEmpty());
    b.session.select(1, 0);
    REQUIRE(b.session.edit(field::length, "21").isEmpty());
    b.session.undo();
    CHECK(b.session.piece() == 1);
    b.session.select(1, 0);
    b.session.undo(); // the shoulder's length
    CHECK(b.session.piece() == 0);
    CHECK(b.session.zone() == 1);
    CHECK(b.session.job().pieces[0].zones[1].length.text == "5");
    b.settle();
    CHECK(b.window.designation()->text().contains("round 14"));
}

TEST_CASE("the solid view draws, cuts and picks zones; light and dark") {
    Bench b;
    REQUIRE(b.window.open(WHORL_SOURCE_DIR "/demo/saltmarsh-tide-gauge.whorl"));
    b.session.select(1, 2);
    b.settle();
    auto* view = b.window.solid();
    QTest::keyClick(&b.window, Qt::Key_F2);
    QTest::qWait(100);
    const auto brightness = [](const QImage& i, QPoint p) { return i.pixelColor(p).lightness(); };
    const QImage whole = view->grab().toImage();
    const QColor corner = whole.pixelColor(30, whole.height() / 2),
                 middle = whole.pixelColor(whole.width() / 2, whole.height() / 2);
    CHECK(corner == theme().paper);
    CHECK(middle != corner); // the piece is there
    QTest::keyClick(&b.window, Qt::Key_F5);
    CHECK(view->cut());
    QTest::qWait(100);
    CHECK(view->grab().toImage() != whole);
    QTest::keyClick(&b.window, Qt::Key_F5);
    // clicking the head of the screw selects its zone; from the side the near end is on the left
    QTest::mouseClick(view, Qt::LeftButton, {},
                      QPoint(view->width() / 2 - int(view->width() * 0.36), view->height() / 2));
    CHECK(b.session.zone() == 0);
    QTest::keyClick(&b.window, Qt::Key_F9);
    QTest::qWait(100);
    CHECK(theme().dark);
    CHECK(brightness(view->grab().toImage(), {30, 60}) < 80);
    b.window.set_dark(false);
    // a drag sideways rolls the part: the picture changes, the selection does not
    const QImage before = view->grab().toImage();
    QTest::mousePress(view, Qt::LeftButton, {}, view->rect().center());
    for (int i = 1; i < 8; ++i)
        QTest::mouseMove(view, view->rect().center() + QPoint(0, 6 * i));
    QTest::mouseRelease(view, Qt::LeftButton, {}, view->rect().center() + QPoint(0, 48));
    QTest::qWait(50);
    CHECK(view->grab().toImage() != before);
    CHECK(b.session.zone() == 0);
}

TEST_CASE("many fast edits end at the last one") {
    Bench b;
    b.designate("M10x1.5-6g x 100");
    for (int i = 0; i < 60; ++i)
        b.session.edit(field::length, QString::number(100 + i));
    b.settle();
    CHECK(b.session.resolved_zone()->length == mm(159));
    CHECK(b.session.preview()->piece.length() == mm(159));
    CHECK(b.session.solid()->valid);
}

TEST_CASE("a cap screw, a nut that fits it and a pipe nipple, by keyboard alone", "[once]") {
    Bench b;
    b.designate("ISO 4762 M6 x 25");
    REQUIRE(b.session.job().pieces.size() == 1);
    CHECK(b.session.solid()->valid);
    CHECK(b.session.resolved_zone()->thread()); // the thread is looked at, not the head
    CHECK(b.window.checks()->sentence() == "Every check holds.");

    // the nut in one step, and back and forth between the two
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.job().pieces.size() == 2);
    REQUIRE(b.session.job().pairs.size() == 1);
    CHECK(b.session.piece() == 1);
    REQUIRE(b.session.fit());
    CHECK(b.session.fit()->fit.goes_together());
    CHECK(b.session.solid()->valid);
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    CHECK(b.session.piece() == 0);

    // the nut follows; one that is given another pitch is named, and the remedy mends it
    b.type_at(b.window.section(), "pitch", "0.75");
    CHECK(resolve_piece(b.session.job().pieces[1], {}).zones[1].thread()->section.pitch == 0.75);
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.type_at(b.window.section(), "pitch", "0.5");
    REQUIRE(!b.session.findings().empty());
    const auto misfit = std::find_if(b.session.findings().begin(), b.session.findings().end(),
                                     [](const Finding& f) { return f.id == "pair_pitch"; });
    REQUIRE(misfit != b.session.findings().end());
    REQUIRE(misfit->remedy);
    CHECK(b.session.apply_remedy(*misfit->remedy).isEmpty());
    CHECK(b.session.fit()->fit.goes_together());

    b.designate("nipple R1/2 x 60");
    REQUIRE(b.session.job().pieces.size() == 3);
    CHECK(b.session.solid()->valid);
    QTemporaryDir dir;
    const QString file = dir.filePath("nipple.step");
    CHECK(b.exports(file));
    const StepContent read = read_step(file.toStdString());
    CHECK(read.solids == 1);
    CHECK(read.valid);
    CHECK(read.volume == Approx(b.session.solid()->volume).epsilon(1e-4));
}

TEST_CASE("a nut is screwed along its screw, by mouse, wheel and keys") {
    Bench b;
    b.designate("ISO 4017 M8 x 30");
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    SolidView& view = *b.window.solid();
    REQUIRE(b.session.together());
    REQUIRE(QTest::qWaitFor([&] { return b.session.counterpart_preview() != nullptr; }, 5000));
    const QImage alone = view.grab().toImage();
    QTest::keyClick(&b.window, Qt::Key_F7);
    CHECK(view.together());
    QTest::keyClick(&b.window, Qt::Key_F2); // from the side, so that millimetres are pixels
    const QImage together = view.grab().toImage();
    CHECK(together != alone);

    const Mating m = b.session.together()->mating;
    CHECK(view.travel() == m.usual);
    view.setFocus();
    QTest::keyClick(&view, Qt::Key_PageDown); // a quarter of a turn on
    CHECK(view.travel() == Approx(m.usual - 1.25 / 4));
    CHECK(view.grab().toImage() != together);
    QTest::keyClick(&view, Qt::Key_End);
    CHECK(view.travel() == m.seated);
    QTest::keyClick(&view, Qt::Key_PageDown); // the head stops it
    CHECK(view.travel() == m.seated);
    QTest::keyClick(&view, Qt::Key_Home);
    CHECK(view.travel() == m.apart);
    view.screw_to(m.usual);

    // dragged by a third of the screw's length, as it lies on the screen
    const double whole = in_mm(b.session.resolved()->length()),
                 height = in_mm(b.session.counterpart_preview()->piece.length()),
                 widest = in_mm(b.session.counterpart_preview()->piece.largest_radius());
    const double scale = std::max(whole / (view.width() - 90.0), 2 * widest / (view.height() - 140.0));
    const auto at = [&](double z) {
        return QPoint(static_cast<int>(view.width() / 2.0 + (z - whole / 2) / scale), view.height() / 2);
    };
    const QPoint nut = at(m.usual + height / 2), to = at(m.usual + height / 2 - 10);
    const auto drag = [&](QPoint from, QPoint there) {
        QTest::mousePress(&view, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 10; ++i)
            QTest::mouseMove(&view, from + (there - from) * i / 10);
    };
    drag(nut, to);
    CHECK(view.travel() == Approx(m.usual - 10).margin(1.5 * scale));
    QTest::keyClick(&view, Qt::Key_Escape); // thought better of it
    CHECK(view.travel() == m.usual);
    QTest::mouseRelease(&view, Qt::LeftButton, {}, to);
    drag(nut, to);
    QTest::mouseRelease(&view, Qt::LeftButton, {}, to);
    CHECK(view.travel() == Approx(m.usual - 10).margin(1.5 * scale));
    const double reached = view.travel();

    // a click on it goes over to it, and it stays where it is
    QTest::mouseClick(&view, Qt::LeftButton, {}, at(reached + height / 2));
    b.settle();
    CHECK(b.session.piece() == 1);
    REQUIRE(b.session.together());
    CHECK(b.session.together()->mating.engaged(view.travel()) == Approx(m.engaged(reached)));
    CHECK(view.travel() == Approx(-reached));

    // another pitch: it does not go on at all, and says so
    b.session.select(1, b.session.together()->here.zone);
    CHECK(b.session.edit(field::pitch, "1").isEmpty());
    b.settle();
    CHECK(b.session.together()->mating.seated_by == SeatedBy::mismatch);
    CHECK(b.session.together()->mating.engaged(view.travel()) == 0);
    CHECK(!view.grab().toImage().isNull());
    // and with the counterpart gone the piece is alone again
    QTest::keyClick(&b.window, Qt::Key_Delete, Qt::ControlModifier | Qt::ShiftModifier);
    b.settle();
    CHECK_FALSE(b.session.together());
    CHECK(b.session.counterpart_preview() == nullptr);
}

TEST_CASE("a bore is added, threaded and stretched") {
    Bench b;
    b.designate("hex 24 x 20");
    CHECK(b.session.resolved_zone()->outline() == Outline::hexagon);
    QTest::keyClick(&b.window, Qt::Key_B, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.resolved()->zones.size() == 2);
    CHECK(b.session.zone() == 1);
    CHECK(b.session.resolved_zone()->in_bore());
    // an external thread has no place in it, and the sentence says what has
    b.designate("M12-6g");
    CHECK_FALSE(b.session.resolved_zone()->thread());
    QTest::keyClick(b.window.designation(), Qt::Key_Escape);
    b.designate("M12-6H");
    REQUIRE(b.session.resolved_zone()->thread());
    CHECK(b.section().side == Side::internal);
    CHECK(b.session.solid()->valid);
    // clearing its length sends it through
    b.type_at(b.window.sheet(), "length", "");
    CHECK(in_mm(b.session.resolved_zone()->length) == Approx(20));
    CHECK(b.session.solid()->valid);
    // sections of bores can be picked in the strip
    b.window.strip()->repaint();
    b.session.select(0, 0);
    b.window.strip()->repaint();
    CHECK_FALSE(b.window.strip()->stretch_handle(1)); // its length follows
}

TEST_CASE("a bore from the far end is stretched at its inner end") {
    Bench b;
    b.designate("round 24 x 60");
    Zone bore = zone_of(parse_designation("round 8 x 20"));
    bore.where = Where::far_bore;
    REQUIRE(b.session.change([&](const Job& j) { return insert_zone(j, 0, 1, bore); }).isEmpty());
    b.session.select(0, 1);
    b.settle();
    auto* strip = b.window.strip();
    strip->repaint();
    REQUIRE(strip->stretch_handle(0));
    REQUIRE(strip->stretch_handle(1));
    // it lies in from the far face, which the bar's own handle stands at
    CHECK(strip->stretch_handle(1)->x() < strip->stretch_handle(0)->x() - 20);
    const QPoint at = strip->stretch_handle(1)->toPoint();
    QTest::mousePress(strip, Qt::LeftButton, {}, at);
    for (int i = 1; i <= 5; ++i)
        QTest::mouseMove(strip, at - QPoint(6 * i, 0));
    QTest::mouseRelease(strip, Qt::LeftButton, {}, at - QPoint(30, 0));
    b.settle();
    CHECK(b.session.resolved_zone()->length > mm(21)); // towards the near end it grows
    CHECK(in_mm(b.session.resolved_zone()->end()) == Approx(60));
}

TEST_CASE("arrows move a point of one's own section the way they look, in a screw and in a nut") {
    for (const char* text : {"Tr30x6 x 40", "Tr30x6-7H x 20"}) {
        INFO(text);
        Bench b;
        b.designate(text);
        QTest::keyClick(&b.window, Qt::Key_M, Qt::ControlModifier);
        b.settle();
        SectionView* view = b.window.section();
        view->repaint();
        const auto own = [&] { return b.session.resolved_zone()->thread()->spec.own_section; };
        std::size_t root = 0;
        for (std::size_t i = 0; i < own().points.size(); ++i)
            if (own().points[i].h < own().points[root].h - 1e-6) root = i;
        const auto where = [&] {
            view->repaint();
            for (const auto& h : view->handles())
                if (h.point == root && !h.bow) return h.at;
            FAIL("no handle");
            return QPointF();
        };
        QTest::mouseClick(view, Qt::LeftButton, {}, where().toPoint());
        b.settle();
        const OwnPoint before = own().points[root];
        const double outwards = b.section().side == Side::internal ? -1 : 1; // up on the page
        const auto press = [&](Qt::Key key) {
            QTest::keyClick(view, key);
            b.settle();
            return own().points[root];
        };
        CHECK(press(Qt::Key_Down).h == Approx(before.h - 0.01 * outwards));
        CHECK(press(Qt::Key_Up).h == Approx(before.h));
        CHECK(press(Qt::Key_Right).z == Approx(before.z + 0.01));
        QTest::keyClick(view, Qt::Key_Z, Qt::ControlModifier); // each is a step
        b.settle();
        CHECK(own().points[root].z == Approx(before.z));
        CHECK(press(Qt::Key_Left).z == Approx(before.z - 0.01));
    }
}

TEST_CASE("a zone put at the far end is as wide as what it is put to") {
    Bench b;
    b.designate("M10x1.5-6g x 20");
    REQUIRE(b.session
                .change([](const Job& j) {
                    return insert_zone(j, 0, 1, zone_of(parse_designation("round 14 x 5")));
                })
                .isEmpty());
    QTest::keyClick(&b.window, Qt::Key_Insert);
    b.settle();
    REQUIRE(b.session.resolved()->zones.size() == 3);
    CHECK(b.session.zone() == 2);
    CHECK(in_mm(b.session.resolved_zone()->diameter) == 14);
    REQUIRE(b.session.edit(field::far_diameter, "11").isEmpty()); // and to a cone's end as that ends
    QTest::keyClick(&b.window, Qt::Key_Insert);
    b.settle();
    CHECK(in_mm(b.session.resolved_zone()->diameter) == 11);
}

TEST_CASE("a pair that would not turn says so in the section, on the sheet and in the checks") {
    Bench b;
    b.designate("SQ20x4 x 60");
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    const auto says = [](QWidget* w, const QString& what) {
        return test::drawn_text(*w).join(" ").contains(what);
    };
    ChecksLine* checks = b.window.findChild<ChecksLine*>();
    b.window.sheet()->resize(b.window.sheet()->width(), 2000); // as if scrolled to its end
    CHECK(says(b.window.section(), "will not turn"));
    CHECK(says(b.window.sheet(), "will not turn"));
    CHECK(says(checks, "nothing is left between them"));
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier); // the remedy: an allowance
    b.settle();
    CHECK_FALSE(says(b.window.section(), "will not turn"));
    CHECK(says(b.window.sheet(), "goes together"));
    CHECK(test::drawn_text(*checks).contains("fits"));
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(says(b.window.section(), "will not turn"));
}

TEST_CASE("a tapered pipe thread's sheet says how far it goes by hand and how much of it is of use") {
    Bench b;
    b.designate("R1/2 x 20");
    b.window.sheet()->resize(b.window.sheet()->width(), 2400);
    QStringList texts = test::drawn_text(*b.window.sheet());
    INFO(texts.join(" | ").toStdString());
    CHECK(texts.contains("Hand-tight length"));
    CHECK(texts.contains("8.200"));
    CHECK(texts.contains("Useful length"));
    CHECK(texts.contains("13.200"));
    CHECK_FALSE(texts.contains("Stress area")); // a pipe is no solid bar
    CHECK_FALSE(texts.contains("Tap drill"));
}

TEST_CASE("what stops says so in a word, in its colour, and on the shelf") {
    Bench b;
    ChecksLine* checks = b.window.findChild<ChecksLine*>();
    Shelf* shelf = b.window.findChild<Shelf*>();
    const auto wears = [](QWidget* w, const QColor& colour, int least) {
        const QImage image = w->grab().toImage();
        int n = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x)
                n += image.pixelColor(x, y) == colour;
        return n >= least;
    };
    b.designate("M10x1.5-6g x 40");
    CHECK(test::drawn_text(*checks).contains("fits"));
    CHECK_FALSE(wears(shelf, theme().stop, 20));
    REQUIRE(b.session.edit(field::pitch, "1.3").isEmpty());
    b.settle();
    CHECK(test::drawn_text(*checks).contains("advice"));
    CHECK(wears(shelf, theme().advice, 10));
    REQUIRE(b.session.edit(field::pitch, "15").isEmpty()); // deeper than the bar is thick
    b.settle();
    CHECK(test::drawn_text(*checks).contains("stops"));
    CHECK(test::drawn_text(*checks).join(" ").contains("no solid"));
    CHECK(wears(shelf, theme().stop, 20));
}

TEST_CASE("every family is written, shown and changed in the section", "[once]") {
    Bench b;
    b.designate("M10 x 20");
    for (const char* text :
         {"1/2-12 BSW-medium x 1", "G1/2 A x 20", "R1/2 x 20", "1/2-14 NPT x 0.8", "Tr20x4-7e x 40",
          "1-5 ACME-2G x 2", "S40x7 x 60", "Rd40x1/6 x 50", "SQ20x4 x 40", "V60 1-18 x 1"}) {
        INFO(text);
        b.designate(text);
        REQUIRE(b.session.resolved_zone()->thread());
        CHECK(b.window.designation()->text() == text);
        REQUIRE(b.session.solid());
        CHECK(b.session.solid()->valid);
    }
    b.type_at(b.window.section(), "flank_angle", "55");
    CHECK(b.window.designation()->text().startsWith("V55"));
    b.type_at(b.window.sheet(), "turns", "10");
    CHECK(in_mm(b.session.resolved_zone()->length) == Approx(10 * 25.4 / 18));
    b.type_at(b.window.sheet(), "printing_allowance", "0.1");
    CHECK(in_mm(b.session.resolved_zone()->thread()->spec.allowance) == Approx(0.1));
}

TEST_CASE("a gear, its wheel, and the two running: by keyboard and mouse", "[once]") {
    Bench b;
    b.designate("gear m2 z19 a20 b12");
    REQUIRE(b.session.resolved_zone());
    REQUIRE(b.session.resolved_zone()->gear());
    REQUIRE(b.session.solid());
    CHECK(b.session.solid()->valid);
    const auto teeth = [&]() -> const ResolvedGear& { return *b.session.resolved_zone()->gear(); };
    CHECK(b.spot(b.window.section(), "module"));

    // the numbers in the section and on the sheet are the input
    b.type_at(b.window.section(), "profile_shift", "0.2");
    CHECK(teeth().spec.profile_shift == 0.2);
    b.type_at(b.window.sheet(), "helix_angle", "-15");
    CHECK(teeth().spec.hand == Hand::left);
    CHECK(in_deg(teeth().spec.helix_angle) == Approx(15));
    CHECK(b.window.designation()->text() == "gear m2 z19 a20 helix 15 LH x0.2 b12");
    b.type_at(b.window.sheet(), "tip_edge", "chamfer 0.2");
    CHECK(teeth().spec.tip_edge == TipEdge::chamfered);
    b.type_at(b.window.sheet(), "tip_edge", "sharp");
    // nonsense stays in the editor and changes nothing
    const Job before = b.session.job();
    b.type_at(b.window.sheet(), "teeth", "4");
    CHECK(b.session.job() == before);
    QTest::keyClick(b.window.sheet()->findChild<QLineEdit*>("dimension"), Qt::Key_Escape);

    // the wheel in one step: it follows in module, angles and hand
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.job().pairs.size() == 1);
    CHECK(b.session.piece() == 1);
    CHECK(teeth().spec.teeth == 38);
    CHECK(teeth().spec.hand == Hand::right);
    b.type_at(b.window.sheet(), "teeth", "73");
    REQUIRE(b.session.mesh());
    CHECK(b.session.mesh()->mesh.runs());
    CHECK(b.window.checks()->sentence() == "Every check holds.");
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.piece() == 0);

    // 19 teeth to 43, to 11, and back: the wheel goes along
    for (const int z : {43, 11, 19}) {
        b.type_at(b.window.section(), "centre_distance", ""); // follows
        b.type_at(b.window.sheet(), "teeth", QString::number(z));
        REQUIRE(b.session.mesh());
        CHECK(b.session.mesh()->mesh.meshes);
        CHECK(b.session.mesh()->mesh.ratio == Approx(73.0 / z));
        CHECK(b.session.solid()->valid);
    }
    // a ratio typed finds the teeth; both can be said
    b.type_at(b.window.sheet(), "ratio", "pi");
    CHECK(b.session.mesh()->mesh.ratio == Approx(22.0 / 7).epsilon(2e-3));
    b.type_at(b.window.sheet(), "ratio", "19:3"); // refused
    QTest::keyClick(b.window.sheet()->findChild<QLineEdit*>("dimension"), Qt::Key_Escape);
    b.type_at(b.window.sheet(), "ratio", "19:73");
    CHECK(b.session.mesh()->mesh.ratio == Approx(73.0 / 19));
    CHECK(teeth().spec.teeth == 19);
    b.type_at(b.window.sheet(), "module", "2.5");
    CHECK(b.session.mesh()->second->spec.module == mm(2.5));
    b.type_at(b.window.section(), "centre_distance", "110");
    CHECK(b.session.findings().front().id == "mesh_centre"); // too near
    b.type_at(b.window.section(), "centre_distance", "");
    CHECK(b.session.findings().empty());

    // the thickness on any diameter, and the drawing's data
    b.type_at(b.window.sheet(), "thickness_at", "49");
    b.type_at(b.window.sheet(), "thickness_at", "100"); // off the tooth: refused, the editor stays
    CHECK(b.window.sheet()->findChild<QLineEdit*>("dimension")->isVisible());
    QTest::keyClick(b.window.sheet()->findChild<QLineEdit*>("dimension"), Qt::Key_Escape);
    QTest::keyClick(&b.window, Qt::Key_D, Qt::ControlModifier | Qt::AltModifier);
    CHECK(QGuiApplication::clipboard()->text().contains("Number of teeth\t19"));

    // dragged: the gears roll, the solid with them
    const double roll = b.session.roll();
    const QPoint at(b.window.section()->width() / 2, b.window.section()->height() / 2);
    QTest::mousePress(b.window.section(), Qt::LeftButton, {}, at);
    QTest::mouseMove(b.window.section(), at - QPoint(40, 0));
    QTest::mouseRelease(b.window.section(), Qt::LeftButton, {}, at - QPoint(40, 0));
    CHECK(b.session.roll() > roll);
    // both in the solid view, run by key, stopped again
    QTest::keyClick(&b.window, Qt::Key_F7);
    REQUIRE(QTest::qWaitFor([&] { return b.session.counterpart_preview() != nullptr; }, 5000));
    const double still = b.session.roll();
    QTest::keyClick(&b.window, Qt::Key_F8);
    CHECK(b.session.running());
    REQUIRE(QTest::qWaitFor([&] { return b.session.roll() > still + 0.01; }, 5000));
    QTest::keyClick(&b.window, Qt::Key_F8);
    CHECK_FALSE(b.session.running());

    // a module of its own on the wheel ends the following and is named; the remedy mends it
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    b.type_at(b.window.sheet(), "module", "3");
    REQUIRE_FALSE(b.session.findings().empty());
    CHECK(b.session.findings().front().id == "mesh_module");
    CHECK(b.session.apply_remedy(*b.session.findings().front().remedy).isEmpty());
    b.settle();
    CHECK(b.session.findings().empty());

    // another source's wheel, a little thinner, laid over it: found, charted, and it goes along with an edit
    QTemporaryDir other;
    write_file_atomically(
        other.filePath("other.dxf").toStdString(),
        gear_dxf(resolve_gear(parse_gear("gear m2.5 z73 helix 15 RH thin 0.1").spec), true));
    QSignalSpy compared(b.window.comparison(), &Comparison::updated);
    b.window.compare_with(other.filePath("other.dxf"));
    REQUIRE(QTest::qWaitFor([&] { return b.window.comparison()->result().has_value(); }, 10000));
    CHECK(std::abs(b.window.comparison()->result()->worst.off) > 0.03);
    b.window.section()->repaint();
    b.window.developed()->repaint();
    compared.clear();
    b.type_at(b.window.sheet(), "thinning", "0.1");
    REQUIRE(QTest::qWaitFor([&] { return compared.count() > 0; }, 10000));
    CHECK(std::abs(b.window.comparison()->result()->worst.off) < 1e-3);
    b.type_at(b.window.sheet(), "thinning", "");
    QTest::keyClick(&b.window, Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier); // taken away again
    CHECK_FALSE(b.window.comparison()->loaded());
    b.window.compare_with(other.filePath("missing.dxf"));
    (void)QTest::qWaitFor([&] { return b.window.checks()->sentence().contains("missing.dxf' can't"); },
                          10000);
    INFO(b.window.checks()->sentence().toStdString());
    CHECK(b.window.checks()->sentence().contains("missing.dxf' can't"));

    // and a rack's side over a rack
    write_file_atomically(other.filePath("rack.dxf").toStdString(),
                          rack_dxf(resolve_rack(parse_rack_bar("rack m2 z12 b10 h12 thin 0.1").spec), true));
    CHECK(b.session.change([](const Job& j) { return add_piece(j, piece_of("rack m2 z12 b10 h12")); })
              .isEmpty());
    b.session.select(b.session.job().pieces.size() - 1, 0);
    b.settle();
    b.window.compare_with(other.filePath("rack.dxf"));
    REQUIRE(QTest::qWaitFor([&] { return b.window.comparison()->rack_result().has_value(); }, 10000));
    CHECK(b.window.comparison()->rack_result()->worst.off == Approx(-0.047).margin(0.002));
    b.window.section()->repaint();
    b.window.developed()->repaint();
    b.session.undo(); // the gear is there again, which nothing of that drawing is like
    REQUIRE(QTest::qWaitFor(
        [&] {
            return !b.window.comparison()->why().isEmpty() || b.window.comparison()->result().has_value();
        },
        10000));
    CHECK_FALSE(b.window.comparison()->rack_result());
    // taken away from anywhere, also where nothing can be compared
    CHECK(b.session.change([](const Job& j) { return add_piece(j, piece_of("round 12 x 30")); }).isEmpty());
    b.session.select(b.session.job().pieces.size() - 1, 0);
    QTest::keyClick(&b.window, Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK_FALSE(b.window.comparison()->loaded());
    b.session.undo();
    b.settle();

    // out as DXF and STEP
    QTemporaryDir dir;
    CHECK(b.exports(dir.filePath("wheel.dxf")));
    CHECK(QFile(dir.filePath("wheel.dxf")).size() > 10000);
    CHECK(b.exports(dir.filePath("wheel.step")));
    const StepContent read = read_step(dir.filePath("wheel.step").toStdString());
    CHECK(read.valid);
    CHECK(read.volume == Approx(b.session.preview()->volume()).epsilon(1e-6));
}

TEST_CASE("a rack for a pinion, changed from 19 teeth to 43 and 11 and back, and run to its end", "[once]") {
    Bench b;
    b.designate("gear m1.25 z19 b10");
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier | Qt::AltModifier);
    b.settle();
    REQUIRE(b.session.resolved_zone());
    const auto rack = [&]() -> const ResolvedRack& { return *b.session.resolved_zone()->rack(); };
    REQUIRE(b.session.resolved_zone()->rack());
    CHECK(rack().teeth == 19);
    CHECK(b.session.solid()->valid);
    REQUIRE(b.session.mesh());
    CHECK(b.session.mesh()->mesh.runs());
    CHECK(b.session.mesh()->second_first);

    // typed on the sheet and in the section: the teeth follow from the length, the length from the teeth
    b.type_at(b.window.sheet(), "length", "150");
    CHECK(rack().teeth == 38);
    b.type_at(b.window.sheet(), "near_plain", "12");
    CHECK(rack().first_space > 12);
    b.type_at(b.window.sheet(), "teeth", "40");
    CHECK(rack().teeth == 40);
    b.type_at(b.window.sheet(), "height", "12");
    CHECK(in_mm(rack().spec.height) == 12);
    const Job before = b.session.job();
    b.type_at(b.window.sheet(), "face_width", "0");
    CHECK(b.session.job() == before);
    QTest::keyClick(b.window.sheet()->findChild<QLineEdit*>("dimension"), Qt::Key_Escape);

    // the pinion is changed; the rack goes along, whatever its teeth
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.piece() == 0);
    for (const int z : {43, 11, 19}) {
        b.type_at(b.window.sheet(), "teeth", QString::number(z));
        REQUIRE(b.session.mesh());
        CHECK(b.session.mesh()->mesh.meshes);
        CHECK(b.session.mesh()->mesh.rack_travel(1) == Approx(1.25 * z / 2));
        CHECK(b.session.solid()->valid);
    }
    b.type_at(b.window.sheet(), "helix_angle", "15");
    CHECK(in_deg(b.session.mesh()->rack->spec.helix_angle) == Approx(15));
    CHECK(b.session.mesh()->rack->spec.hand == Hand::left);
    CHECK(b.window.checks()->sentence() == "Every check holds.");
    b.type_at(b.window.section(), "centre_distance", "12");
    CHECK(b.session.findings().front().id == "mesh_centre");
    b.type_at(b.window.section(), "centre_distance", "");
    CHECK(b.session.findings().empty());

    // run: it goes to the end of its teeth and comes back
    QTest::keyClick(&b.window, Qt::Key_F7);
    REQUIRE(QTest::qWaitFor([&] { return b.session.counterpart_preview() != nullptr; }, 5000));
    b.session.set_roll(1000);
    const double end = b.session.roll();
    CHECK(end == Approx(rack_reach(*b.session.mesh()->rack) / b.session.mesh()->mesh.first_radius));
    QTest::keyClick(&b.window, Qt::Key_F8);
    CHECK(b.session.running());
    REQUIRE(QTest::qWaitFor([&] { return b.session.roll() < end - 0.01; }, 5000));
    QTest::keyClick(&b.window, Qt::Key_F8);
    for (Canvas* c : {static_cast<Canvas*>(b.window.section()), static_cast<Canvas*>(b.window.developed())})
        c->repaint();

    // alone: its own section and face are drawn, the angle typed there
    b.designate("rack m2 l100 b15 h15");
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    QTemporaryDir dir;
    CHECK(b.exports(dir.filePath("rack.dxf")));
    CHECK(b.exports(dir.filePath("rack.step")));
    const StepContent read = read_step(dir.filePath("rack.step").toStdString());
    CHECK(read.valid);
    CHECK(read.volume == Approx(b.session.preview()->volume()).epsilon(1e-6));
}

TEST_CASE("no two actions share a shortcut") {
    Bench b;
    std::map<QString, QString> taken;
    for (const QAction* a : b.window.findChildren<QAction*>())
        for (const QKeySequence& k : a->shortcuts()) {
            INFO(a->text().toStdString() << " and " << taken[k.toString()].toStdString());
            CHECK(taken[k.toString()].isEmpty());
            taken[k.toString()] = a->text();
        }
    CHECK(taken.size() > 25);
}

TEST_CASE("a rack alone is drawn, measured and typed in every view") {
    Bench b;
    b.designate("rack m2 l100 b15 h15");
    REQUIRE(b.session.resolved_zone()->rack());
    b.type_at(b.window.section(), "pressure_angle", "25");
    b.type_at(b.window.section(), "height", "18");
    b.type_at(b.window.developed(), "helix_angle", "-10");
    b.type_at(b.window.developed(), "face_width", "22");
    CHECK(b.window.designation()->text() == "rack m2 l100 a25 helix 10 LH b22 h18");
    QTest::keyClick(&b.window, Qt::Key_H, Qt::ControlModifier);
    CHECK(b.session.resolved_zone()->rack()->spec.hand == Hand::right);
    // its own pinion in one step
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.mesh());
    CHECK(b.session.mesh()->mesh.runs());
    CHECK(b.session.resolved_zone()->gear()->spec.teeth == 20);
    // and what can't be is refused with a sentence
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    QTest::keyClick(&b.window, Qt::Key_T, Qt::ControlModifier);
    CHECK(b.session.job().pieces[0].zones.size() == 1);
}

TEST_CASE("a section of one's own is drawn: taken over, dragged, bowed, typed, renamed, undone") {
    Bench b;
    b.designate("Tr30x6 x 40");
    QTest::keyClick(&b.window, Qt::Key_M, Qt::ControlModifier);
    b.settle();
    SectionView* view = b.window.section();
    const auto own = [&] { return b.session.resolved_zone()->thread()->spec.own_section; };
    REQUIRE(b.session.resolved_zone()->thread()->spec.family == ThreadFamily::own);
    CHECK(own().name == "own-1");
    view->repaint();
    const auto handle = [&](std::size_t point, bool bow) {
        for (const auto& h : view->handles())
            if (h.point == point && h.bow == bow) return h.at.toPoint();
        FAIL("no such handle");
        return QPoint();
    };
    const auto drag = [&](QPoint from, QPoint by) {
        QTest::mousePress(view, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 4; ++i)
            QTest::mouseMove(view, from + by * i / 4);
        QTest::mouseRelease(view, Qt::LeftButton, {}, from + by);
        b.settle();
    };
    // the root's two corners: the first goes down
    std::size_t root = 0;
    for (std::size_t i = 0; i < own().points.size(); ++i)
        if (own().points[i].h < own().points[root].h - 1e-6) root = i;
    const OwnSection before = own();
    drag(handle(root, false), {0, 18});
    CHECK(own().points[root].h < before.points[root].h - 0.02);
    CHECK(own().points[root].z == Approx(before.points[root].z).margin(0.02));
    CHECK(b.session.preview()->made());
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(own() == before); // one step
    // the root is bowed downwards
    drag(handle(root, true), {0, 14});
    CHECK(own().points[root].bow < -0.01);
    // a chosen point's number is typed
    QTest::mouseClick(view, Qt::LeftButton, {}, handle(root, false));
    b.settle();
    b.type_at(view, "own_h", "3.6");
    CHECK(own().points[root].h == Approx(-0.6));
    const OwnSection typed = own();
    b.type_at(view, "own_h", "-3"); // above the crest
    CHECK(own() == typed);
    QTest::keyClick(view->findChild<QLineEdit*>("dimension"), Qt::Key_Escape);
    // a new point, and out again
    view->repaint();
    const std::size_t count = own().points.size();
    QTest::mouseDClick(view, Qt::LeftButton, {}, handle(root, true));
    b.settle();
    REQUIRE(own().points.size() == count + 1);
    QTest::keyClick(view, Qt::Key_Delete);
    b.settle();
    CHECK(own().points.size() == count);
    // its name, and its nut follows
    b.type_at(b.window.sheet(), "own_section", "my_groove");
    CHECK(own().name == "my_groove");
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    CHECK(own().name == "my_groove");
    REQUIRE(b.session.fit());
    CHECK(b.session.fit()->fit.goes_together());
    CHECK(b.session.preview()->made());
}

TEST_CASE("an action's key is the action's wherever the focus is") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    // an inline editor open as well
    const auto* spot = b.spot(b.window.section(), "pitch");
    REQUIRE(spot);
    QTest::mouseClick(b.window.section(), Qt::LeftButton, {}, spot->rect.center().toPoint());
    int widgets = 0, actions = 0;
    for (QWidget* w : b.window.findChildren<QWidget*>()) {
        if (w->focusPolicy() == Qt::NoFocus || !w->isVisible()) continue;
        ++widgets;
        const bool inline_editor = w->objectName() == "dimension";
        for (const QAction* a : b.window.findChildren<QAction*>()) {
            if (a->shortcut().isEmpty()) continue;
            ++actions;
            const QString name = a->shortcut().toString();
            if (inline_editor && (name == "Ctrl+Z" || name == "Ctrl+Shift+Z")) continue; // undoes the typing
            const QKeyCombination keys = a->shortcut()[0];
            QKeyEvent asked(QEvent::ShortcutOverride, keys.key(), keys.keyboardModifiers());
            asked.setAccepted(false);
            QCoreApplication::sendEvent(w, &asked);
            INFO(name.toStdString() << " in " << w->metaObject()->className() << " "
                                    << w->objectName().toStdString());
            CHECK(!asked.isAccepted()); // the widget leaves the key to the action
        }
    }
    CHECK(widgets > 6);
    CHECK(actions > 200);
    // keys that everybody edits text with belong to no action
    for (const QAction* a : b.window.findChildren<QAction*>())
        for (const QKeySequence::StandardKey k :
             {QKeySequence::SelectAll, QKeySequence::Copy, QKeySequence::Cut, QKeySequence::Paste,
              QKeySequence::DeleteStartOfWord, QKeySequence::DeleteEndOfWord, QKeySequence::MoveToNextWord,
              QKeySequence::MoveToPreviousWord})
            CHECK(!(a->shortcut() == QKeySequence(k) && !a->shortcut().isEmpty()));
}

TEST_CASE("after Enter the designation line leaves Ctrl+Z to the job, while typing it does not") {
    Bench b;
    b.designate("M10x1.5-6g x 40");
    b.designate("M10x1.25-6g x 40");
    REQUIRE(b.section().pitch == 1.25);
    b.window.designation()->setFocus();
    QTest::keyClick(b.window.designation(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(b.section().pitch == 1.5);
    QTest::keyClick(b.window.designation(), Qt::Key_End);
    QTest::keyClicks(b.window.designation(), "5");
    QTest::keyClick(b.window.designation(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(b.section().pitch == 1.5);
    CHECK(b.window.designation()->text() == "M10x1.5-6g x 40");
}

TEST_CASE("a zone added behind a gear is a plain one") {
    Bench b;
    b.designate("gear m2 z40 b20 web");
    QTest::keyClick(&b.window, Qt::Key_Insert);
    b.settle();
    const auto& zones = b.session.job().pieces[0].zones;
    REQUIRE(zones.size() == 2);
    CHECK(!zones[1].teeth());
    CHECK(!zones[1].as<ThreadForm>());
    CHECK(zones[1].web.text.empty());
    CHECK(zones[1].keyway.text.empty());
    CHECK(b.session.preview()->made());
}

TEST_CASE("decimal commas may be typed where the locale writes them; points are shown and written") {
    const QLocale before;
    QLocale::setDefault(QLocale(QLocale::German, QLocale::Germany));
    {
        Bench b;
        b.designate("M10x1,25-6g LH x 40,5");
        CHECK(b.window.designation()->text() == "M10x1.25-6g LH x 40.5");
        REQUIRE(b.section().pitch == 1.25);
        b.type_at(b.window.section(), "pitch", "1,5");
        CHECK(b.section().pitch == 1.5);
        b.type_at(b.window.section(), "pitch", "max(1,2)*0,75"); // a list inside, a number outside
        CHECK(b.section().pitch == 1.5);
        QTemporaryDir dir;
        const QString path = dir.filePath("a.whorl");
        b.session.save(path);
        const std::string text = read_file(path.toStdString(), 1 << 20);
        CHECK(text.find("40.5") != std::string::npos);
        CHECK(text.find("0,75") == std::string::npos);
        CHECK(std::string(std::localeconv()->decimal_point) == ".");
    }
    QLocale::setDefault(before);
}

TEST_CASE("where decimals have a point, a typed comma is refused, not guessed") {
    const QLocale before;
    QLocale::setDefault(QLocale::c());
    {
        Bench b;
        b.designate("M10");
        const auto* s = b.spot(b.window.section(), "pitch");
        REQUIRE(s);
        CHECK(!b.session.edit(field::pitch, "1,5").isEmpty());
    }
    QLocale::setDefault(before);
}

int main(int argc, char** argv) {
    QTemporaryDir home;
    qputenv("XDG_DATA_HOME", home.path().toUtf8());
    qputenv("XDG_CONFIG_HOME", home.path().toUtf8());
    QApplication app(argc, argv);
    use_plain_numbers();
    if (qEnvironmentVariableIsSet("WHORL_COMMA_LOCALE") && QLocale().decimalPoint() != ",") {
        std::fprintf(stderr, "This run wants a locale with decimal commas; is it generated?\n");
        return 1;
    }
    QCoreApplication::setOrganizationName("regular-whorl");
    QCoreApplication::setApplicationName("regular-whorl-test");
    load_fonts();
    set_theme(false);
    return Catch::Session().run(argc, argv);
}

TEST_CASE("a knurl is written, typed in every view, flipped and simplified") {
    Bench b;
    b.designate("knurl left pitch 1 on 20 x 10");
    const auto knurl = [&]() -> const ResolvedKnurl& { return *b.session.resolved_zone()->knurl(); };
    REQUIRE(b.session.resolved_zone()->knurl());
    REQUIRE(b.session.solid());
    CHECK(b.session.solid()->valid);
    CHECK(knurl().teeth == 54);
    // the drawings' dimensions are the input; teeth and pitch hand each other back
    b.type_at(b.window.section(), "knurl_pitch", "1.2");
    CHECK(knurl().teeth == 45);
    b.type_at(b.window.developed(), "knurl_teeth", "50");
    CHECK(knurl().teeth == 50);
    CHECK(b.window.designation()->text() == "knurl left 50 teeth on 20 x 10");
    b.type_at(b.window.section(), "knurl_depth", "0.4");
    CHECK(knurl().depth == Approx(0.4));
    b.type_at(b.window.section(), "profile_angle", "90");
    CHECK(knurl().depth == Approx(knurl().pitch / 2));
    b.type_at(b.window.section(), "diameter", "22");
    CHECK(knurl().radius == 11);
    // hand, kind and history
    QTest::keyClick(&b.window, Qt::Key_H, Qt::ControlModifier);
    b.settle();
    CHECK(knurl().spec.kind == KnurlKind::right);
    b.type_at(b.window.sheet(), "knurl", "crossed sunk");
    CHECK(knurl().spec.sunk);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(knurl().spec.kind == KnurlKind::left);
    // what can't be is said, and nothing changes
    b.type_at(b.window.section(), "diameter", "0.2");
    CHECK(knurl().radius == 11);
    QTest::keyClick(&b.window, Qt::Key_Escape);
    QTest::keyClick(&b.window, Qt::Key_Escape);
    // thousands of points stop with a remedy
    b.type_at(b.window.sheet(), "knurl", "crossed");
    b.type_at(b.window.sheet(), "knurl_pitch", "0.5");
    b.type_at(b.window.sheet(), "length", "60");
    CHECK(b.window.checks()->sentence().contains("faces"));
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.resolved_zone()->simplified());
    CHECK(b.session.preview()->made());
}

TEST_CASE("a spring is written, measured and typed in every view, flipped and exported") {
    Bench b;
    b.designate("spring d2 D20 L50 n7 closed ground");
    const auto coil = [&]() -> const ResolvedCoil& { return *b.session.resolved_zone()->coil(); };
    REQUIRE(b.session.resolved_zone()->coil());
    REQUIRE(b.session.solid());
    CHECK(b.session.solid()->valid);
    CHECK(b.window.checks()->sentence() == "Every check holds.");
    // the section's dimensions are the input; what was asked before hands itself back
    b.type_at(b.window.section(), "free_length", "60");
    CHECK(coil().pitch == Approx(8));
    b.type_at(b.window.section(), "pitch", "5");
    CHECK(coil().free_length == Approx(39));
    b.type_at(b.window.section(), "active_coils", "8.5");
    CHECK(coil().total == Approx(10.5));
    b.type_at(b.window.section(), "mean_diameter", "De 24");
    CHECK(coil().largest_mean == Approx(22));
    CHECK(b.window.designation()->text() == "spring d2 De24 p5 n8.5 closed ground RH");
    // the unrolled view and the sheet likewise
    b.type_at(b.window.developed(), "pitch", "6");
    CHECK(coil().pitch == Approx(6));
    b.type_at(b.window.sheet(), "wire_diameter", "2.2");
    CHECK(coil().wire == Approx(2.2));
    b.type_at(b.window.sheet(), "ends", "open");
    CHECK(coil().total == Approx(8.5));
    // too thick a wire stops, its remedy mends it
    b.type_at(b.window.section(), "wire_diameter", "7");
    CHECK(b.window.checks()->sentence().contains("coils merge"));
    CHECK_FALSE(b.session.preview()->made());
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.preview()->made());
    CHECK(coil().wire < 7);
    // hand and history
    QTest::keyClick(&b.window, Qt::Key_H, Qt::ControlModifier);
    b.settle();
    CHECK(coil().spec.hand == Hand::left);
    for (int i = 0; i < 3; ++i)
        QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(coil().wire == Approx(2.2));
    CHECK(coil().spec.hand == Hand::right);
    // what is a whole piece takes no zone beside it
    QTest::keyClick(&b.window, Qt::Key_Insert);
    CHECK(b.session.job().pieces[0].zones.size() == 1);
    QTemporaryDir folder;
    const QString step = folder.filePath("spring.step");
    REQUIRE(b.exports(step));
    const StepContent back = read_step(step.toStdString());
    CHECK(back.valid);
    CHECK(back.volume == Approx(b.session.preview()->volume()).epsilon(1e-6));
}

TEST_CASE("a piece is found on the shelf by typing", "[once]") {
    Bench b;
    for (const char* d :
         {"M10x1.5-6g x 40", "ISO 4762 M6 x 25", "gear m2 z24 b12", "spring d2 D20 L50 n7 closed"})
        REQUIRE(b.session.change([&](const Job& j) { return add_piece(j, piece_of(d)); }).isEmpty());
    b.session.select(0, 0);
    b.window.shelf()->setFocus();
    QTest::keyClicks(b.window.shelf(), "spr");
    CHECK(b.session.piece() == 3);
    QTest::qWait(1100);
    QTest::keyClicks(b.window.shelf(), "Z24"); // by its designation, in either case
    CHECK(b.session.piece() == 2);
    QTest::qWait(1100);
    QTest::keyClicks(b.window.shelf(), "qq"); // nothing: stays
    CHECK(b.session.piece() == 2);
    QTest::qWait(1100);
    QTest::keyClick(b.window.shelf(), Qt::Key_M); // the next one, and the next
    const auto first = b.session.piece();
    QTest::keyClick(b.window.shelf(), Qt::Key_M);
    CHECK(first != 2);
    CHECK(b.session.piece() != first);
}

TEST_CASE("actions that mean nothing to a spring are off, and lit again where they mean something") {
    Bench b;
    const auto lit = [&](const QString& text) {
        for (const QAction* a : b.window.findChildren<QAction*>())
            if (a->text().startsWith(text)) return a->isEnabled();
        FAIL(text.toStdString() << " is no action");
        return false;
    };
    const QStringList of_bars{"Bore from the near end", "Bore from the far end",
                              "Hole for a screw at the near end", "Split the zone in two",
                              "Add a zone at the far end"};
    for (const QString& text : of_bars)
        CHECK_FALSE(lit(text)); // there is no piece
    b.designate("spring d2 D20 L50 n7");
    for (const QString& text : of_bars)
        CHECK_FALSE(lit(text));
    for (const char* text : {"Hollow the silhouette", "Relief groove at the near end",
                             "Relief groove at the far end", "Remove the zone"})
        CHECK_FALSE(lit(text));
    b.designate("M10 x 40");
    for (const QString& text : of_bars)
        CHECK(lit(text));
    CHECK(lit("Relief groove at the near end"));
    CHECK_FALSE(lit("Hollow the silhouette"));
    CHECK_FALSE(lit("Remove the zone"));
    b.designate("silhouette 0:20 30:26 60:20");
    CHECK(lit("Hollow the silhouette"));
    CHECK_FALSE(lit("Relief groove at the near end"));
    QTest::keyClick(&b.window, Qt::Key_H, Qt::ControlModifier | Qt::AltModifier);
    b.settle();
    CHECK_FALSE(lit("Hollow the silhouette")); // it is
    CHECK(lit("Remove the zone"));
}

TEST_CASE("a section of the library that can't be read is said when the window opens") {
    const std::filesystem::path folder = section_folder();
    std::filesystem::create_directories(folder);
    const auto broken = folder / "broken.section.json";
    std::ofstream(broken) << "{ this is no section";
    {
        Bench b;
        auto* notice = b.window.findChild<QWidget*>("library_notice");
        REQUIRE(notice);
        CHECK(notice->isVisible());
        const QString says = notice->findChild<QLabel*>()->text();
        CHECK(says.contains("can't be read"));
        CHECK(says.contains("broken.section.json"));
        QTest::mouseClick(notice->findChild<QPushButton*>(), Qt::LeftButton);
        CHECK_FALSE(notice->isVisible());
    }
    std::filesystem::remove(broken);
    Bench b;
    CHECK_FALSE(b.window.findChild<QWidget*>("library_notice"));
}

TEST_CASE("a misfit is not exported from the window either") {
    Bench b;
    b.designate("M10 x 30");
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.job().pairs.size() == 1);
    QTemporaryDir dir;
    CHECK(b.exports(dir.filePath("nut.step")));
    b.type_at(b.window.sheet(), "pitch", "1.25");
    CHECK_FALSE(b.exports(dir.filePath("wrong.step")));
    CHECK_FALSE(QFile::exists(dir.filePath("wrong.step")));
}

TEST_CASE("a window that is larger than its screen is made to fit") {
    Session session;
    MainWindow window(session);
    window.resize(3000, 2000);
    window.show();
    REQUIRE(QTest::qWaitForWindowExposed(&window));
    const QSize room = window.screen()->availableSize();
    CHECK(QTest::qWaitFor([&] { return window.width() <= room.width() && window.height() <= room.height(); },
                          3000));
}
