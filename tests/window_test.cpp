// The real window, driven by keyboard and mouse through whole tasks. Needs a display (scripts/test starts a
// virtual one).
#include "app/checks_line.hpp"
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
#include "model/job_file.hpp"
#include "model/section_library.hpp"

#include <QApplication>
#include <QFile>
#include <QLabel>
#include <QLocale>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <QTemporaryDir>
#include <QTextEdit>
#include <QtTest/QtTest>
#include <catch2/catch.hpp>
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

TEST_CASE("an action that is off says why, and F1 lists every key") {
    Bench b;
    const auto check = [&](const char* where, int least) {
        int off = 0;
        for (const QMenu* menu : b.window.findChildren<QMenu*>())
            for (const QAction* a : menu->actions()) {
                if (a->isEnabled() || a->isSeparator() || a->text().isEmpty()) continue;
                ++off;
                INFO(where << ": " << a->text().toStdString() << ": " << a->toolTip().toStdString());
                CHECK(a->toolTip().endsWith('.'));
                CHECK(a->toolTip().size() > 15);
                CHECK(menu->toolTipsVisible());
            }
        CHECK(off >= least);
    };
    check("without a piece", 20);
    b.designate("spring d2 D20 L50 n7");
    check("a spring", 14);
    b.designate("gear m2 z24 b20");
    check("a gear", 6);
    QTest::keyClick(&b.window, Qt::Key_F1);
    auto* keys = b.window.findChild<QTextEdit*>();
    REQUIRE(keys);
    CHECK(keys->isVisible());
    for (const QAction* a : b.window.actions())
        if (!a->shortcut().isEmpty()) CHECK(keys->toPlainText().contains(a->shortcut().toString()));
    QTest::keyClick(&b.window, Qt::Key_F1);
    CHECK_FALSE(keys->isVisible());
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
