// Cams in the real window: written, typed in every view, run, mended and handed on.
#include "bench.hpp"
#include "drawn_text.hpp"
#include "model/forms/drum.hpp"
#include "model/forms/follower.hpp"
#include "model/forms/lobe.hpp"

#include <QElapsedTimer>
#include <QFile>
#include <QMenu>
#include <QTemporaryDir>
#include <cmath>
#include <numbers>

using namespace whorl;
using namespace whorl::app;

namespace {
constexpr double degree = std::numbers::pi / 180;

const ResolvedCam& cam(Bench& b) {
    return *b.session.resolved_zone()->lobe();
}
} // namespace

TEST_CASE("a cam is written, typed in every view, mended by its remedy and exported") {
    Bench b;
    b.designate("cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell; roller 8; b10");
    REQUIRE(b.session.has_piece());
    CHECK(cam(b).motion.highest == Approx(10));
    CHECK(b.session.preview()->made());
    // the section's dimensions are the input
    b.type_at(b.window.section(), "base_radius", "25");
    CHECK(in_mm(cam(b).spec.base_radius) == 25);
    b.type_at(b.window.section(), "roller", "1/2 in");
    CHECK(in_mm(cam(b).spec.size) == Approx(12.7));
    b.type_at(b.window.section(), "offset", "3");
    CHECK(in_mm(cam(b).spec.offset) == 3);
    // the stretches over the chart and in the sheet, each by itself
    b.type_at(b.window.developed(), "stretch_1", "rise 8 in 2*50 3-4-5");
    CHECK(cam(b).motion.highest == Approx(8));
    CHECK(b.session.text_of(field::timing) ==
          "rise 8 in 2*50 3-4-5, dwell 60, return in 120 harmonic, dwell");
    b.type_at(b.window.sheet(), "stretch_2", "dwell 80");
    CHECK(cam(b).motion.at(170 * degree)[0] == Approx(8));
    b.type_at(b.window.sheet(), "stretch_5", "dwell 5"); // one more
    CHECK(b.session.text_of(field::timing).endsWith("dwell, dwell 5"));
    b.type_at(b.window.sheet(), "stretch_5", ""); // and away
    CHECK(b.session.text_of(field::timing).endsWith("harmonic, dwell"));
    b.type_at(b.window.developed(), "speed", "300");
    CHECK(cam(b).spec.rpm == 300);
    // what is wrong stays in the editor, with its sentence
    const QString before = b.session.text_of(field::timing);
    const auto* spot = b.spot(b.window.developed(), "stretch_1");
    QTest::mouseClick(b.window.developed(), Qt::LeftButton, {}, spot->rect.center().toPoint());
    auto* editor = b.window.developed()->findChild<QLineEdit*>("dimension");
    editor->selectAll();
    QTest::keyClicks(editor, "climb 8 in 100");
    QTest::keyClick(editor, Qt::Key_Return);
    CHECK(editor->isVisible());
    QTest::keyClick(editor, Qt::Key_Escape);
    CHECK(b.session.text_of(field::timing) == before);
    // the harmonic return jumps; the remedy mends it, and is undone
    REQUIRE_FALSE(b.session.findings().empty());
    CHECK(b.session.findings().front().id == "acceleration_jumps");
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.findings().empty());
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.text_of(field::timing) == before);
    QTemporaryDir folder;
    for (const char* ending : {"step", "stl", "svg", "dxf", "csv"}) {
        INFO(ending);
        CHECK(b.exports(folder.filePath(QString("cam.") + ending)));
    }
    QFile points(folder.filePath("cam.csv"));
    REQUIRE(points.open(QIODevice::ReadOnly));
    CHECK(points.readLine().startsWith("angle,lift,radius"));
}

TEST_CASE("a cam runs in all views, and is turned by dragging") {
    Bench b;
    b.designate("cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 cycloidal, dwell; roller 8; b10");
    CHECK(b.session.roll() == 0);
    QTest::keyClick(&b.window, Qt::Key_F8);
    CHECK(b.session.running());
    CHECK(QTest::qWaitFor([&] { return b.session.roll() > 0.2; }, 5000));
    const double then = b.session.roll();
    CHECK(QTest::qWaitFor([&] { return b.session.roll() > then; }, 5000)); // a cam's turn rises
    QTest::keyClick(&b.window, Qt::Key_F8);
    CHECK_FALSE(b.session.running());
    // the top of the cam dragged to the left goes counter-clockwise
    const double at = b.session.roll();
    SectionView* section = b.window.section();
    section->repaint();
    const QPoint from(section->width() / 2, section->height() * 2 / 3);
    QTest::mousePress(section, Qt::LeftButton, {}, from);
    QTest::mouseMove(section, from - QPoint(20, 0));
    QTest::mouseRelease(section, Qt::LeftButton, {}, from - QPoint(20, 0));
    CHECK(b.session.roll() > at + 0.05);
}

TEST_CASE("what can't be a cam says so and keeps its place; the remedy brings it back") {
    Bench b;
    b.designate("cam r20: rise 10 in 120, dwell 60, return 9 in 120, dwell; roller 8");
    CHECK(stops(b.session.findings()));
    // the section says so where the lobe would stand, the chart shows the motion up to where it breaks off
    CHECK(test::drawn_text(*b.window.section()).join(' ').contains("can't be made"));
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("return 9 in 120"));
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK_FALSE(stops(b.session.findings()));
    CHECK(b.session.preview()->made());
}

TEST_CASE("a follower of every kind is drawn, typed and turned") {
    Bench b;
    b.designate("cam r30: rise 6 in 120 cycloidal, dwell 60, return in 120 cycloidal, dwell; roller 8; b10");
    for (const char* kind : {"flat", "knife", "mushroom", "roller"}) {
        INFO(kind);
        b.type_at(b.window.sheet(), "follower", kind);
        CHECK(word(cam(b).spec.follower) == kind);
        CHECK(cam(b).trouble == CamTrouble::none);
        for (const double roll : {0.0, 1.0, 4.0}) {
            b.session.set_roll(roll);
            const QString lift = "lift " + b.session.shown(cam(b).motion.at(roll)[0]) + " of 6";
            INFO(lift.toStdString());
            CHECK(test::drawn_text(*b.window.section()).join(' ').contains(lift));
        }
    }
    b.type_at(b.window.sheet(), "swing", "60 65");
    CHECK(cam(b).spec.swings());
    b.type_at(b.window.sheet(), "sense", "clockwise");
    CHECK(cam(b).spec.clockwise);
    CHECK(cam(b).trouble == CamTrouble::none);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK_FALSE(cam(b).spec.swings());
}

// The newcomer's task: a drum of Ø 72 with a closed track six millimetres deep, from a flat polygon.
TEST_CASE("a drum cam from a flat polygon, typed in every view, run and exported") {
    Bench b;
    b.designate("drum cam d72 b50: rise 20 in 90 constant, dwell 90, return in 90 constant, dwell; groove 8 "
                "wide 6 deep");
    const auto drum = [&]() -> const ResolvedDrum& { return *b.session.resolved_zone()->drum(); };
    REQUIRE(b.session.has_piece());
    CHECK(b.session.preview()->made());
    CHECK(drum().corners.size() == 4);
    // its corners are rounded, which the checks say; the remedy keeps the radius
    REQUIRE_FALSE(b.session.findings().empty());
    CHECK(b.session.findings().front().id == "corners_rounded");
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.findings().empty());
    CHECK(b.session.text_of(field::corners) == "7.2"); // half the width and 1 mm on the bottom
    b.type_at(b.window.section(), "track_depth", "5");
    CHECK(in_mm(drum().spec.depth) == 5);
    b.type_at(b.window.section(), "track_width", "7");
    b.type_at(b.window.section(), "diameter", "80");
    CHECK(drum().radius == 40);
    b.type_at(b.window.section(), "length", "60");
    CHECK(drum().length == 60);
    b.type_at(b.window.developed(), "stretch_1", "rise 24 in 100 cycloidal");
    CHECK(drum().motion.highest == Approx(24));
    b.type_at(b.window.sheet(), "walls", "straight");
    CHECK(drum().spec.walls == WallKind::straight);
    b.type_at(b.window.sheet(), "track", "rib");
    CHECK(drum().is_rib());
    CHECK(b.session.preview()->made());
    b.type_at(b.window.sheet(), "track", "groove");
    QTest::keyClick(&b.window, Qt::Key_F8);
    CHECK(b.session.running());
    CHECK(QTest::qWaitFor([&] { return b.session.roll() > 0.2; }, 5000));
    QTest::keyClick(&b.window, Qt::Key_F8);
    b.session.set_roll(90 * degree);
    CHECK(test::drawn_text(*b.window.section()).join(' ').contains("at 90°"));
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("φ"));
    QTemporaryDir folder;
    for (const char* ending : {"step", "stl", "svg", "dxf", "csv"})
        CHECK(b.exports(folder.filePath(QString("drum.") + ending)));
    // one that leaves the drum is said and drawn
    b.type_at(b.window.section(), "length", "20");
    CHECK(stops(b.session.findings()));
    for (QWidget* view :
         {static_cast<QWidget*>(b.window.section()), static_cast<QWidget*>(b.window.developed())})
        CHECK(test::drawn_text(*view).join(' ').contains("can't be made"));
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK_FALSE(stops(b.session.findings()));
}

TEST_CASE(
    "a reversing screw is written, given its turns by the remedy, run past its first turn and exported") {
    Bench b;
    b.designate("drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; groove 4 wide 3 deep");
    const auto drum = [&]() -> const ResolvedDrum& { return *b.session.resolved_zone()->drum(); };
    // its timing takes four turns: the checks offer them
    REQUIRE(stops(b.session.findings()));
    CHECK(b.session.findings().front().id == "past_full_turn");
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.text_of(field::track_turns) == "4");
    REQUIRE(drum().crossings.size() == 3);
    CHECK(b.session.preview()->made());
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("crosses at 35.3°"));
    // it comes to another place in the second turn
    b.session.set_roll(40 * degree);
    const double first = follower_standing(*b.session.resolved_zone(), b.session.roll()).origin[2];
    b.session.set_roll(400 * degree);
    CHECK(follower_standing(*b.session.resolved_zone(), b.session.roll()).origin[2] == Approx(first + 30));
    CHECK(test::drawn_text(*b.window.section()).join(' ').contains("at 400°"));
    b.type_at(b.window.sheet(), "track_turns", "2");
    CHECK(stops(b.session.findings()));
    b.type_at(b.window.sheet(), "track_turns", "4");
    b.type_at(b.window.sheet(), "keep_corners", "sharp");
    CHECK(drum().keeps_corners());
    CHECK(b.session.preview()->made());
    b.type_at(b.window.sheet(), "keep_corners", "blended");
    CHECK(drum().spec.corners == CornerKind::blended);
    b.type_at(b.window.sheet(), "track", "rib"); // has no crossings: refused, the groove stays
    CHECK(drum().spec.track == TrackKind::groove);
    QTemporaryDir folder;
    for (const char* ending : {"step", "stl", "svg", "dxf", "csv"})
        CHECK(b.exports(folder.filePath(QString("screw.") + ending)));
    QFile csv(folder.filePath("screw.csv"));
    REQUIRE(csv.open(QIODevice::ReadOnly));
    CHECK(csv.readAll().contains("\n1430,"));
}

TEST_CASE("joints of a timing are dragged in the chart and on the track, live, as one step") {
    const auto drag = [](Bench& b, std::size_t joint, QPoint by, bool cancel = false) {
        DevelopedView* view = b.window.developed();
        view->repaint();
        REQUIRE(view->joints().size() > joint);
        const QPoint from = view->joints()[joint].at.toPoint();
        QTest::mousePress(view, Qt::LeftButton, {}, from);
        QTest::mouseMove(view, from + by / 2);
        QTest::mouseMove(view, from + by);
        if (cancel) QTest::keyClick(view, Qt::Key_Escape);
        QTest::mouseRelease(view, Qt::LeftButton, {}, from + by);
        b.settle();
    };
    Bench b;
    b.designate("cam r25: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell; roller 8; b10");
    const QString before = b.session.text_of(field::timing);
    drag(b, 0, {20, 0});
    const double moved = b.session.resolved_zone()->timing()->stretches[0].angle.value();
    CHECK(moved > 125 * degree);
    CHECK(std::abs(std::remainder(moved, degree)) < 1e-9); // whole degrees
    CHECK(cam(b).motion.angle_left() == Approx(0).margin(1e-9));
    // the words of what was not touched stay
    CHECK(b.session.text_of(field::timing).endsWith("return in 120 harmonic, dwell"));
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.text_of(field::timing) == before); // one step, however many moves
    drag(b, 1, {0, 8});
    CHECK(cam(b).motion.highest < 9);
    CHECK(cam(b).motion.closure_gap() == Approx(0).margin(1e-9));
    const QString lowered = b.session.text_of(field::timing);
    drag(b, 1, {0, 8}, true);
    CHECK(b.session.text_of(field::timing) == lowered); // Esc steps back
    b.designate(
        "drum cam d72 b50: rise 20 in 90 constant, dwell 90, return in 90 constant, dwell; groove 8 wide 6 "
        "deep");
    drag(b, 1, {15, 0});
    CHECK(b.session.resolved_zone()->timing()->stretches[1].angle.value() > 95 * degree);
    CHECK_FALSE(stops(b.session.findings()));
}

TEST_CASE("a cam's roller is made by a key, stands on it, and is gone to and fro") {
    Bench b;
    b.designate("cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 cycloidal, dwell; roller 8; b10");
    REQUIRE(b.session.follower());
    CHECK_FALSE(b.session.follower()->there); // made for the look of it only
    b.session.set_roll(1);
    CHECK(QTest::qWaitFor([&] { return b.session.counterpart_preview() != nullptr; }, 5000));
    CHECK(test::drawn_text(*b.window.solid()).join(' ').contains("with Roller"));
    CHECK(b.session.job().pieces.size() == 1);
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.job().pieces.size() == 2);
    CHECK(b.session.piece() == 1);
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.piece() == 0);
    REQUIRE(b.session.follower());
    CHECK(b.session.follower()->there == ZoneRef{1, 0});
    // on a cam that can't be made it has no place, and takes one again with it
    b.type_at(b.window.developed(), "stretch_3", "return 9 in 120");
    CHECK_FALSE(b.session.follower());
    b.window.grab();
    b.type_at(b.window.developed(), "stretch_3", "return in 120");
    CHECK(b.session.follower());
    b.type_at(b.window.section(), "roller", "7");
    CHECK(b.session.job().pieces[1].zones[0].as<PlainForm>()->diameter.text == "7");
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.piece() == 1);
}

TEST_CASE("forces are typed in the sheet, drawn beneath the motion, and a spring of the job is taken from "
          "the menu") {
    Bench b;
    b.designate("spring d1 D12 L30 n8");
    QTest::keyClick(&b.window, Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
    b.session.change([](const Job& j) {
        return add_piece(
            j, parse_designation("cam r20: rise 8 in 120, dwell 60, return in 120, dwell; roller 8; b10"));
    });
    b.session.select(1, 0);
    b.settle();
    CHECK_FALSE(test::drawn_text(*b.window.developed()).join(' ').contains("N·mm"));
    b.type_at(b.window.sheet(), "follower_mass", "200");
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("N·mm"));
    CHECK(test::drawn_text(*b.window.section()).join(' ').contains("presses with"));
    QMenu* springs = nullptr;
    for (QMenu* m : b.window.findChildren<QMenu*>())
        if (m->title().startsWith("Hold the follower")) springs = m;
    REQUIRE(springs);
    emit springs->aboutToShow();
    REQUIRE(springs->actions().size() == 2);
    springs->actions().front()->trigger();
    b.settle();
    CHECK(cam(b).spec.load.rate > 0.5);
    emit springs->aboutToShow();
    springs->actions().back()->trigger();
    b.settle();
    CHECK(b.session.job().pairs.empty());
}

TEST_CASE("frames a second of all views together while a cam runs", "[.speed]") {
    Bench b;
    for (const char* text : {"cam r25: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell; "
                             "roller 8; b10; mass 200 spring "
                             "0.8 preload 20",
                             "drum cam d72 b50: rise 20 in 150 cycloidal, dwell 30, return in 150, dwell; "
                             "groove 8 wide 6 deep"}) {
        b.designate(text);
        QTest::keyClick(&b.window, Qt::Key_F8);
        QTest::qWait(500);
        const long before = b.window.solid()->frames();
        QElapsedTimer t;
        t.start();
        QTest::qWait(4000);
        WARN(text << ": " << 1000.0 * double(b.window.solid()->frames() - before) / double(t.elapsed())
                  << " frames a second");
        QTest::keyClick(&b.window, Qt::Key_F8);
    }
}

TEST_CASE("a closed track, a conjugate lobe and a scored line are made in the window") {
    Bench b;
    b.designate("cam r20: rise 12 in 110 cycloidal, dwell 70, return in 110, dwell; roller 8; b12");
    b.type_at(b.window.sheet(), "disc", "84");
    REQUIRE(cam(b).spec.disc);
    CHECK(b.session.preview()->made());
    b.type_at(b.window.section(), "disc", "90");
    CHECK(in_mm(*cam(b).spec.disc) == 90);
    b.type_at(b.window.section(), "groove_depth", "4");
    CHECK(in_mm(cam(b).spec.groove_depth) == 4);
    // too small a disc keeps the picture, and the remedy mends it
    b.type_at(b.window.section(), "disc", "80");
    CHECK(stops(b.session.findings()));
    CHECK(test::drawn_text(*b.window.section()).join(' ').contains("can't be made"));
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK_FALSE(stops(b.session.findings()));
    b.type_at(b.window.sheet(), "disc", "");
    CHECK_FALSE(cam(b).spec.disc);
    // a second lobe behind a journal
    QTest::keyClick(&b.window, Qt::Key_L, Qt::ControlModifier | Qt::AltModifier);
    b.settle();
    REQUIRE(b.session.job().pieces[0].zones.size() == 3);
    CHECK(b.session.zone() == 2);
    CHECK(cam(b).spec.conjugate);
    b.type_at(b.window.section(), "conjugate", "64");
    CHECK(b.session.text_of(field::conjugate) == "64"); // the field is empty for a moment while it is typed
    CHECK(in_mm(cam(b).spec.base_radius) == Approx(64 - 24 - 4));
    CHECK(b.window.developed()->joints().empty()); // its timing is that of the first
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.job().pieces[0].zones.size() == 1);
    b.designate(
        "drum cam d72 b50: rise 20 in 90 constant, dwell 90, return in 90 constant, dwell; groove 8 wide 6 "
        "deep");
    b.type_at(b.window.sheet(), "track", "line");
    CHECK(b.session.resolved_zone()->drum()->is_line());
    CHECK(b.session.preview()->made());
    CHECK_FALSE(b.spot(b.window.section(), "track_depth"));
    QTemporaryDir folder;
    for (const char* ending : {"step", "stl", "svg", "dxf", "csv"})
        CHECK(b.exports(folder.filePath(QString("line.") + ending)));
    b.type_at(b.window.sheet(), "track", "groove");
    b.type_at(b.window.sheet(), "arm", "60");
    CHECK(b.session.resolved_zone()->drum()->spec.arm);
    CHECK(b.session.preview()->made());
}

TEST_CASE("the motion's chart in inch: the velocity is the sheet's over 25.4") {
    Bench b;
    b.designate(
        "cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 cycloidal, dwell; roller 8; b10; 47 rpm");
    const auto shown = [&] { return test::drawn_text(*b.window.developed()).join(' '); };
    // the largest speed of a cycloidal rise: 2·h/β·ω
    const double largest =
        2 * 10 / (2 * std::numbers::pi / 3) * 47.0 / 60 * 2 * std::numbers::pi; // 47 mm/s, 1.85 in/s
    b.session.set_roll(std::numbers::pi / 3);                                   // in the middle of the rise
    INFO(shown().toStdString());
    CHECK(shown().contains("mm/s"));
    CHECK(largest == Approx(47));
    CHECK(shown().contains("mm/s 47"));
    QTest::keyClick(&b.window, Qt::Key_U, Qt::ControlModifier);
    b.settle();
    CHECK(shown().contains("in/s"));
    CHECK(shown().contains("in/s " + QString::number(largest / 25.4, 'f', 2)));
    CHECK_FALSE(shown().contains("/s 47"));
}
