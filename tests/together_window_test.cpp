// All pieces together in the real window: shown, cut, run, pointed at; where they stand typed and dragged; pairs made by
// pointing.
#include "app/hand_on_view.hpp"
#include "app/together_view.hpp"
#include "bench.hpp"
#include "drawn_text.hpp"
#include "exchange/export.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"

#include <QDir>
#include <QTemporaryDir>
#include <QToolButton>

using namespace whorl;
using namespace whorl::app;

namespace {

TogetherView& shown(Bench& b) {
    QTest::keyClick(&b.window, Qt::Key_F11);
    TogetherView& view = *b.window.together();
    REQUIRE(b.window.together_shown());
    REQUIRE(QTest::qWaitFor([&] { return !view.waiting(); }, 20000));
    view.grab();
    return view;
}

// Somewhere on a piece.
QPoint on_piece(TogetherView& view, std::size_t piece) {
    view.grab();
    for (const int step : {40, 12, 5})
        for (int y = step; y < view.height(); y += step)
            for (int x = step; x < view.width(); x += step)
                if (view.piece_at(QPointF(x, y)) == piece) return {x, y};
    FAIL("piece " << piece << " is nowhere to be seen");
    return {};
}

bool says(QWidget* view, const QString& words) {
    return test::drawn_text(*view).join("\n").contains(words);
}

} // namespace

TEST_CASE("the tide gauge is shown together, cut, turned, and goes to a piece by a click") {
    Bench b;
    REQUIRE(b.window.open(WHORL_SOURCE_DIR "/demo/saltmarsh-tide-gauge.whorl"));
    b.settle();
    TogetherView& view = shown(b);
    CHECK(view.arrangement().pieces.size() == b.session.job().pieces.size());
    CHECK(says(&view, "36 pieces in "));
    const QImage whole = view.grab().toImage();
    QTest::keyClick(&b.window, Qt::Key_F5);
    CHECK(view.cut());
    CHECK_FALSE(b.window.solid()->cut()); // of what is shown
    CHECK(view.grab().toImage() != whole);
    QTest::keyClick(&b.window, Qt::Key_F5);
    QTest::keyClick(&b.window, Qt::Key_F2);
    CHECK(view.grab().toImage() != whole);
    QTest::mouseClick(&view, Qt::LeftButton, {}, on_piece(view, 12));
    CHECK(b.session.piece() == 12);
    b.settle();
    CHECK(says(&view, "Recorder wheel stands by Drum pinion, around it at"));
    // running: the wheel and what drives it turn where they are
    const auto still = view.arrangement();
    QTest::keyClick(&b.window, Qt::Key_F8);
    REQUIRE(QTest::qWaitFor([&] { return b.session.roll() > 0.05; }, 5000));
    QTest::keyClick(&b.window, Qt::Key_F8);
    view.grab();
    const double roll = b.session.roll();
    const auto turned = [&](std::size_t i) {
        const Standing s = within(inverse(still.pieces[i].at), view.arrangement().pieces[i].at);
        return std::atan2(s.x[1], s.x[0]);
    };
    CHECK(turned(12) == Approx(roll).margin(1e-6));
    const auto teeth = [&](std::size_t i) {
        const ResolvedPiece p = resolve_piece(b.session.job().pieces[i], resolve_names(b.session.job()));
        for (const auto& z : p.zones)
            if (z.gear()) return double(z.gear()->spec.teeth);
        return 0.0;
    };
    CHECK(std::remainder(turned(11) + roll * teeth(12) / teeth(11), 2 * M_PI) == Approx(0).margin(1e-6));
    CHECK(view.arrangement().pieces[11].at.origin == still.pieces[11].at.origin);
    // a double click goes to the piece's own views
    QTest::mouseDClick(&view, Qt::LeftButton, {}, on_piece(view, 12));
    CHECK_FALSE(b.window.together_shown());
    CHECK(b.session.piece() == 12);
}

TEST_CASE("where a nut stands is typed and dragged, kept in the job, and undone") {
    Bench b;
    b.designate("M10 x 40");
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.job().pairs.size() == 1);
    TogetherView& view = shown(b);
    QTest::keyClick(&b.window, Qt::Key_F2); // millimetres are pixels
    REQUIRE(b.session.piece() == 1);
    CHECK(says(&view, "height"));
    const auto height = [&] { return view.arrangement().pieces[1].held->at; };
    const auto type = [&](const QString& text) {
        QTest::keyClick(&view, Qt::Key_Return);
        auto* editor = view.findChild<QLineEdit*>("dimension");
        REQUIRE(editor->isVisible());
        editor->selectAll();
        QTest::keyClick(editor, Qt::Key_Delete);
        QTest::keyClicks(editor, text);
        QTest::keyClick(editor, Qt::Key_Return);
        view.grab();
        return !editor->isVisible();
    };
    const double usual = height();
    CHECK(type("20"));
    CHECK(b.session.job().pairs[0].stands.text == "20");
    CHECK(height() == Approx(20));
    CHECK(says(&view, "20 mm"));
    CHECK_FALSE(type("up"));
    CHECK(height() == Approx(20));
    QTest::keyClick(view.findChild<QLineEdit*>("dimension"), Qt::Key_Escape);
    CHECK(type("500")); // beyond: it stays at the end and says so
    CHECK(height() == view.arrangement().pieces[1].held->range.high);
    CHECK(says(&view, "asks for 500 mm"));
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    view.grab();
    CHECK(height() == Approx(20));

    // dragged to the right, which is up the screw, by so many millimetres
    const QPoint at = on_piece(view, 1);
    const double pixel = view.pixel();
    const auto pull = [&](int by) {
        QTest::mousePress(&view, Qt::LeftButton, {}, at);
        for (int i = 1; i <= 8; ++i)
            QTest::mouseMove(&view, at + QPoint(by * i / 8, 0));
    };
    pull(-40);
    view.grab();
    CHECK(height() == Approx(20 - 40 * pixel).margin(0.1));
    CHECK(view.pixel() == pixel);           // the picture stands still under the hand
    QTest::keyClick(&view, Qt::Key_Escape); // as it was
    QTest::mouseRelease(&view, Qt::LeftButton, {}, at);
    view.grab();
    CHECK(height() == Approx(20));
    pull(-40);
    QTest::mouseRelease(&view, Qt::LeftButton, {}, at - QPoint(40, 0));
    view.grab();
    const double dragged = height();
    CHECK(dragged == Approx(20 - 40 * pixel).margin(0.1));
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier); // one step
    view.grab();
    CHECK(height() == Approx(20));
    CHECK(type(""));
    CHECK(height() == Approx(usual));

    QTemporaryDir dir;
    CHECK(type("15"));
    REQUIRE(b.window.save_to(dir.filePath("job.whorl")));
    CHECK(load_job(dir.filePath("job.whorl").toStdString()).pairs[0].stands.text == "15");
}

TEST_CASE("a piece that no pair holds is put where it belongs, and what it stands in is named") {
    Bench b;
    b.designate("round 20 x 40");
    QTest::keyClick(&b.window, Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
    QTest::keyClicks(b.window.designation(), "round 10 x 10");
    QTest::keyClick(b.window.designation(), Qt::Key_Return, Qt::ShiftModifier);
    b.settle();
    if (b.session.trying()) b.session.keep_trial();
    b.settle();
    REQUIRE(b.session.job().pieces.size() == 2);
    TogetherView& view = shown(b);
    REQUIRE(QTest::qWaitFor([&] { return view.clashes().has_value(); }, 5000));
    CHECK(view.clashes()->empty());
    QTest::keyClick(&b.window, Qt::Key_F2);
    b.session.select(1, 0);
    b.settle();
    const auto before = view.arrangement().pieces[1].at.origin;
    const QPoint at = on_piece(view, 1);
    const double pixel = view.pixel();
    QTest::mousePress(&view, Qt::LeftButton, {}, at);
    for (int i = 1; i <= 5; ++i)
        QTest::mouseMove(&view, at + QPoint(10 * i, 4 * i));
    QTest::mouseRelease(&view, Qt::LeftButton, {}, at + QPoint(50, 20));
    view.grab();
    const auto after = view.arrangement().pieces[1].at.origin;
    CHECK(after[2] - before[2] == Approx(50 * pixel).margin(0.11)); // the axis lies to the right, x up
    CHECK(after[0] - before[0] == Approx(-20 * pixel).margin(0.11));
    CHECK(after[1] == Approx(before[1]).margin(0.11));
    CHECK(view.edit_stand());
    auto* editor = view.findChild<QLineEdit*>("dimension");
    editor->selectAll();
    QTest::keyClicks(editor, "0 0 5");
    QTest::keyClick(editor, Qt::Key_Return);
    REQUIRE(QTest::qWaitFor([&] { return view.clashes() && !view.clashes()->empty(); }, 5000));
    CHECK(says(&view, "stands in"));
    QTest::mouseClick(&view, Qt::LeftButton, {}, QPoint(60, 40)); // on the sentence: to the other one
    CHECK(b.session.piece() == 0);
}

TEST_CASE("a screw and a nut made one by one: the misfit seen unasked, mended, and paired by pointing") {
    Bench b;
    b.designate("M10 x 40");
    REQUIRE(
        b.session.change([](const Job& j) { return add_piece(j, piece_of("M10x1.25-6H x 8")); }).isEmpty());
    b.session.select(1, b.session.telling_zone(1));
    b.settle();
    CHECK(b.window.checks()->sentence().contains("a pitch of 1.25 mm instead of 1.5 mm"));
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK_FALSE(b.window.checks()->sentence().contains("instead of"));
    b.session.select(0, 0);
    b.settle();
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier | Qt::AltModifier);
    CHECK(b.window.pairing());
    QTest::mouseClick(b.window.shelf(), Qt::LeftButton, {}, QPoint(80, 105)); // its second card
    REQUIRE(QTest::qWaitFor([&] { return b.session.job().pairs.size() == 1; }, 2000));
    CHECK_FALSE(b.window.pairing());
    CHECK(b.session.together());
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier | Qt::AltModifier);
    CHECK(b.session.job().pairs.empty());
    // what can't be a pair says so, and nothing changed
    REQUIRE(
        b.session.change([](const Job& j) { return add_piece(j, piece_of("gear m2 z20 b10")); }).isEmpty());
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier | Qt::AltModifier);
    b.session.select(2, 0);
    QTest::qWait(20);
    CHECK(b.session.job().pairs.empty());
    CHECK(b.window.checks()->sentence().contains("don't go together"));
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier | Qt::AltModifier);
    CHECK(b.window.pairing());
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier | Qt::AltModifier);
    CHECK_FALSE(b.window.pairing());
}

TEST_CASE("one step to files: what, in which formats, listed before, written, and said") {
    Bench b;
    b.designate("M10 x 40");
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.change([](const Job& j) { return add_piece(j, piece_of("round 20 x 10")); }).isEmpty());
    b.session.select(0, 0);
    b.settle();
    QTemporaryDir dir;
    QTest::keyClick(&b.window, Qt::Key_E, Qt::ControlModifier);
    HandOnView& page = *b.window.hand_on();
    REQUIRE(page.isVisible());
    const auto planned = [&] {
        REQUIRE(QTest::qWaitFor([&] { return !page.planning(); }, 10000));
        QStringList out;
        for (const PlannedFile& f : page.plan())
            out << QString::fromStdString(f.why_not.empty() ? f.path.filename().string() : f.why_not);
        return out;
    };
    const auto written = [&] {
        QSignalSpy spy(&page, &HandOnView::written);
        QTest::keyClick(&page, Qt::Key_Return);
        REQUIRE(QTest::qWaitFor([&] { return spy.count() == 1; }, 60000));
        return spy.at(0).at(0).toBool();
    };
    page.set_folder(dir.filePath("new/folder"));
    for (const Format& f : formats())
        page.set_format(f.name, std::string(f.name) == "stl");
    page.set_what(HandOnView::What::piece);
    const QString stem = QString::fromStdString(file_stem(b.session.job().pieces[0].name));
    CHECK(planned() == QStringList{stem + ".stl"});
    CHECK(written());
    CHECK(page.result() == "1 file is in " + dir.filePath("new/folder") + ".");
    CHECK(QFileInfo(dir.filePath("new/folder/" + stem + ".stl")).size() > 10000);
    // the pair, and all; what has nothing to write is said before
    page.set_what(HandOnView::What::group);
    CHECK(planned().size() == 2);
    page.set_what(HandOnView::What::all);
    page.set_format("svg", true);
    const QStringList all = planned();
    CHECK(all.size() == 6);
    CHECK(all.filter("round 20 x 10: there is no drawing of it to write as SVG.").size() == 1);
    CHECK(written());
    CHECK(page.result().startsWith("5 files are in "));
    // together
    page.set_together(true);
    for (const Format& f : formats())
        page.set_format(f.name, std::string(f.name) == "3mf" || std::string(f.name) == "glb");
    CHECK(planned().size() == 2);
    CHECK(written());
    CHECK(QDir(dir.filePath("new/folder")).entryList({"*.3mf", "*.glb"}).size() == 2);
    page.set_what(HandOnView::What::group);
    CHECK(planned().contains(
        QString::fromStdString(file_stem(b.session.job().pieces[0].name + " with others")) + ".glb"));
    // remembered
    {
        HandOnView again(b.session);
        again.show();
        REQUIRE(QTest::qWaitFor([&] { return !again.planning(); }, 10000));
        CHECK(again.plan().size() == 2);
    }
    // a place that can't be written to, and a fineness that is none
    page.set_folder("/proc/nowhere");
    planned();
    CHECK_FALSE(written());
    CHECK(page.result().contains("can't be made"));
    page.findChildren<QLineEdit*>().last()->setText("0");
    CHECK(planned().isEmpty());
    CHECK(says(&page, "Triangles lie within 0.0001 to 10 mm"));
    page.findChildren<QLineEdit*>().last()->setText("0.01");
    QTest::keyClick(&page, Qt::Key_Escape);
    CHECK_FALSE(page.isVisible());
}

TEST_CASE("writing many files is stopped, and what is written stays") {
    Bench b;
    REQUIRE(b.window.open(WHORL_SOURCE_DIR "/demo/saltmarsh-tide-gauge.whorl"));
    b.settle();
    QTemporaryDir dir;
    QTest::keyClick(&b.window, Qt::Key_E, Qt::ControlModifier);
    HandOnView& page = *b.window.hand_on();
    page.set_folder(dir.path());
    page.set_together(false);
    for (const Format& f : formats())
        page.set_format(f.name, std::string(f.name) == "step");
    page.set_what(HandOnView::What::all);
    REQUIRE(QTest::qWaitFor([&] { return !page.planning(); }, 10000));
    CHECK(page.plan().size() == b.session.job().pieces.size());
    QSignalSpy spy(&page, &HandOnView::written);
    page.write();
    CHECK(page.writing());
    QTest::qWait(150);
    QTest::keyClick(&page, Qt::Key_Escape); // stops; the page stays
    REQUIRE(QTest::qWaitFor([&] { return spy.count() == 1; }, 30000));
    CHECK_FALSE(spy.at(0).at(0).toBool());
    CHECK(page.result().startsWith("Stopped"));
    CHECK(page.isVisible());
    const QStringList files = QDir(dir.path()).entryList(QDir::Files | QDir::Hidden);
    CHECK(files.size() < int(b.session.job().pieces.size()));
    for (const QString& f : files) // none half-written
        CHECK(f.endsWith(".step"));
}
