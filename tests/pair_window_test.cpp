// The real window: pieces and their counterparts, drawn, checked and run.
#include "app/checks_line.hpp"
#include "app/comparison.hpp"
#include "app/designation_line.hpp"
#include "app/developed_view.hpp"
#include "app/main_window.hpp"
#include "app/section_view.hpp"
#include "app/shelf.hpp"
#include "app/solid_view.hpp"
#include "app/spec_sheet.hpp"
#include "app/zone_strip.hpp"
#include "bench.hpp"
#include "drawn_text.hpp"
#include "exchange/export.hpp"
#include "exchange/tooth_outline.hpp"

#include <QApplication>
#include <QClipboard>
#include <QFile>
#include <QTemporaryDir>
#include <QtTest/QtTest>
#include <catch2/catch.hpp>

using namespace whorl;
using namespace whorl::app;

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
