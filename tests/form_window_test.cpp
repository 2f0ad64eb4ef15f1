// The real window: the forms of a zone, written, dragged and typed in every view.
#include "app/checks_line.hpp"
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
#include <QMenu>
#include <QTemporaryDir>
#include <QtTest/QtTest>
#include <catch2/catch.hpp>

using namespace whorl;
using namespace whorl::app;

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

TEST_CASE("a spring's stations and its load are dragged over the turns, typed and taken out") {
    Bench b;
    b.designate("spring d1.6 D20 p4.6 n7 works 30..25");
    const auto coil = [&]() -> const ResolvedCoil& { return *b.session.resolved_zone()->coil(); };
    Canvas& view = *b.window.developed();
    const auto drag = [&](const char* key, QPoint by) { b.drag(view, key, by); };
    // a ring is a new station; what was one pitch stays at both ends
    drag("pitch_between_0", {0, 12});
    REQUIRE(coil().spec.pitch.size() == 3);
    CHECK(in_mm(coil().spec.pitch[0].value) == 4.6);
    CHECK(in_mm(coil().spec.pitch[1].value) < 4.6);
    CHECK(in_mm(coil().spec.pitch[2].value) == 4.6);
    CHECK(coil().spec.pitch[1].at == Approx(4.5).margin(0.2));
    // along the turns, and as one step of history
    drag("pitch_1", {40, 0});
    CHECK(coil().spec.pitch[1].at > 4.9);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(coil().spec.pitch[1].at == Approx(4.5).margin(0.2));
    // the chosen one goes by arrow keys, Delete takes it out
    drag("pitch_1", {0, 3});
    const double before = in_mm(coil().spec.pitch[1].value);
    QTest::keyClick(&view, Qt::Key_Up);
    b.settle();
    CHECK(in_mm(coil().spec.pitch[1].value) == Approx(before + 0.1));
    QTest::keyClick(&view, Qt::Key_Delete);
    b.settle();
    CHECK(coil().spec.pitch.size() == 2);
    b.type_at(&view, "pitch", "4.6..3@4..5");
    CHECK(coil().largest_pitch == 5);
    b.type_at(&view, "mean_diameter", "De 22..18");
    CHECK(coil().largest_mean == Approx(20.4));
    drag("mean_diameter_1", {0, -6});
    CHECK(coil().spec.measured == CoilDiameter::outside);
    CHECK(in_mm(coil().spec.diameters[1].value) > 18);
    CHECK(in_mm(coil().spec.diameters[0].value) == 22);
    // pressed along its curve: section, solid and sheet follow; Delete sets it free
    const double free = coil().free_length;
    drag("state_knob", {60, 0});
    REQUIRE(coil().made_at);
    CHECK(coil().length < free - 1);
    CHECK(coil().free_length == free);
    CHECK(b.window.section()->spots().size() > 3);
    QTest::keyClick(&view, Qt::Key_Delete);
    b.settle();
    CHECK_FALSE(coil().made_at);
    b.type_at(&view, "made_length", "10N");
    CHECK(coil().made_at->load == 10);
    b.type_at(&view, "length_1", "28..24");
    CHECK(coil().spec.works.size() == 2);
    // stations at heights that the pressed one no longer has
    b.designate("spring d2.5 D52..30@z36..52 L44 nt5 open at 20");
    CHECK(coil().length == Approx(20).margin(1));
    view.grab();
    CHECK(view.knobs().size() == 1); // its state alone
    b.type_at(&view, "made_length", "");
    CHECK(Bench::knob(view, "mean_diameter_1"));
    b.designate("spring d1.6 D20 p4.6..3 n7 at 10N");
    // beyond solid it does not go
    b.type_at(&view, "made_length", "2");
    CHECK(coil().made_at->load == 10);
}

TEST_CASE("in every drawing of the demo job dimension texts stand at their lines, inside the view",
          "[once]") {
    Bench b;
    REQUIRE(b.window.open(WHORL_SOURCE_DIR "/demo/saltmarsh-tide-gauge.whorl"));
    int looked = 0;
    for (std::size_t piece = 0; piece < b.session.job().pieces.size(); ++piece)
        for (std::size_t zone = 0; zone < b.session.job().pieces[piece].zones.size(); ++zone) {
            b.session.select(piece, zone);
            b.settle();
            for (Canvas* view :
                 {static_cast<Canvas*>(b.window.section()), static_cast<Canvas*>(b.window.developed())}) {
                view->grab();
                for (const Canvas::Spot& s : view->spots()) {
                    INFO(b.session.job().pieces[piece].name << ", zone " << zone + 1 << ", "
                                                            << s.key.toStdString());
                    CHECK(QRectF(view->rect()).adjusted(-3, -3, 3, 3).contains(s.rect));
                    if (s.line.isNull()) continue;
                    ++looked;
                    // beside the line or on it, somewhere between its ends or just past one of them
                    const QPointF way = s.line.p2() - s.line.p1(), to = s.rect.center() - s.line.p1();
                    const double length = s.line.length(), along = QPointF::dotProduct(way, to) / length,
                                 off = std::abs(way.x() * to.y() - way.y() * to.x()) / length,
                                 half = std::max(s.rect.width(), s.rect.height()) / 2;
                    CHECK(along > -half - 26);
                    CHECK(along < length + half + 26);
                    CHECK(off < half + 26);
                }
            }
        }
    CHECK(looked > 100);
}

TEST_CASE("a spring is found from its loads: rows are tried by arrow keys, one key takes one") {
    Bench b;
    b.designate("M10 x 20");
    QTest::keyClick(&b.window, Qt::Key_L, Qt::ControlModifier);
    auto* line = b.window.designation();
    line->selectAll();
    QTest::keyClicks(line, "find spring 40@32 65@24 outside 24");
    b.settle();
    REQUIRE(b.session.trying());
    CHECK(line->hint().contains("springs"));
    const auto tried = [&] { return *b.session.resolved_zone()->coil(); };
    const ResolvedCoil first = tried();
    QTest::keyClick(line, Qt::Key_Down);
    b.settle();
    CHECK_FALSE(tried().spec == first.spec);
    CHECK(line->text().startsWith("find spring")); // what is asked can be changed on
    CHECK(tried().rate == Approx(25 / 8.0).epsilon(0.03));
    QTest::keyClick(line, Qt::Key_Return);
    b.settle();
    CHECK_FALSE(b.session.trying());
    REQUIRE(b.session.job().pieces.size() == 2);
    CHECK(line->text().startsWith("spring d"));
    // what can't be says what stands in the way, and nothing is left
    line->selectAll();
    QTest::keyClicks(line, "find spring 40@32 65@24 outside 5");
    b.settle();
    CHECK(line->hint().contains("too wide outside"));
    QTest::keyClick(line, Qt::Key_Return); // what the words before found is not taken for these
    b.settle();
    CHECK(line->text().startsWith("find spring"));
    QTest::keyClick(line, Qt::Key_Escape);
    b.settle();
    CHECK(b.session.job().pieces.size() == 2);
}

TEST_CASE("an extension spring's hooks are typed over its ends, and it becomes a torsion spring") {
    Bench b;
    b.designate("extension spring d1.6 D12 n20");
    REQUIRE(b.session.resolved_zone()->coil());
    CHECK(b.session.solid()->valid);
    CHECK(b.session.job().pieces[0].name == "Extension spring 1.6 x 12");
    b.type_at(b.window.section(), "far_hook", "extended 30");
    CHECK(b.session.resolved_zone()->coil()->far_laid.clear == Approx(30));
    b.type_at(b.window.section(), "near_hook", "half");
    CHECK(b.window.designation()->text().contains("near half far extended 30"));
    CHECK(b.session.solid()->valid);
    // what can't be leaves the last good one, with its sentence
    b.type_at(b.window.section(), "near_hook", "half 2");
    CHECK(b.session.resolved_zone()->coil()->spec.near.size == std::nullopt);
    QTest::keyClick(b.window.section()->findChild<QWidget*>(), Qt::Key_Escape);
    b.type_at(b.window.sheet(), "initial_tension", "5");
    CHECK(b.session.resolved_zone()->coil()->initial_tension == 5);
    b.type_at(b.window.sheet(), "wire_class", "SH");
    CHECK(b.session.job().pieces[0].zones[0].as<CoilForm>()->wire_class == "SH");
    b.type_at(b.window.sheet(), "spring_kind", "torsion");
    REQUIRE(b.session.resolved_zone()->coil()->torsion_rate > 0);
    CHECK(b.session.job().pieces[0].name == "Torsion spring 1.6 x 12");
    b.type_at(b.window.section(), "far_hook", "leg 25 axial");
    CHECK(b.session.resolved_zone()->coil()->far_laid.stretches.size() == 2);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.resolved_zone()->coil()->far_laid.stretches.empty());
}

TEST_CASE("rectangular wire is typed in sheet and section, and its spring stands on a rod") {
    Bench b;
    b.designate("round 15 x 60");
    b.session.change(
        [](const Job& j) { return add_piece(j, parse_designation("spring d2 D20 L50 n7 closed ground")); });
    b.session.select(1, 0);
    b.settle();
    const auto coil = [&]() -> const ResolvedCoil& { return *b.session.resolved_zone()->coil(); };
    b.type_at(b.window.sheet(), "wire_diameter", "3 x 2");
    CHECK_FALSE(coil().round);
    CHECK(coil().wire == 3);
    CHECK(coil().axial == 2);
    b.type_at(b.window.section(), "wire_diameter", "4x2");
    CHECK(coil().wire == 4);
    b.type_at(b.window.section(), "wire_diameter", "2");
    CHECK(coil().round);
    // its guide: listed, ticked, told in the sheet
    const auto entries = [&] {
        QStringList texts;
        for (QMenu* menu : b.window.findChildren<QMenu*>())
            if (menu->title() == "Guide it on a rod, in a bore or in a spring") {
                emit menu->aboutToShow();
                for (QAction* a : menu->actions())
                    texts << a->text() + (a->isChecked() ? " *" : "");
            }
        return texts;
    };
    const auto choose = [&](int at) {
        for (QMenu* menu : b.window.findChildren<QMenu*>())
            if (menu->title() == "Guide it on a rod, in a bore or in a spring")
                menu->actions().at(at)->trigger();
        b.settle();
    };
    const QString rod = QString::fromStdString(b.session.job().pieces[0].name);
    CHECK(entries() == QStringList{rod});
    choose(0);
    REQUIRE(b.session.job().pairs.size() == 1);
    CHECK(entries() == QStringList{rod + " *"});
    const QModelIndex clearance = b.window.sheet()->row_of("rod_clearance");
    REQUIRE(clearance.isValid());
    b.window.sheet()->setCurrentIndex(clearance);
    QTest::keyClick(b.window.sheet(), Qt::Key_C, Qt::ControlModifier);
    CHECK(QApplication::clipboard()->text() == "3.000 mm"); // 20 − 2 − 15
    choose(0);
    CHECK(b.session.job().pairs.empty());
    // a fatigue line of one's own is drawn beside the load, and typed there
    b.type_at(b.window.sheet(), "works", "40..30");
    b.type_at(b.window.sheet(), "fatigue", "600..1000");
    REQUIRE(b.spot(b.window.developed(), "fatigue_upper"));
    b.type_at(b.window.developed(), "fatigue_upper", "300..900");
    CHECK(coil().spec.fatigue->zero == 300);
}

TEST_CASE("a splined shaft gets its hub, and both are drawn in each other") {
    Bench b;
    b.designate("spline W 30x2x14 x 25");
    REQUIRE(b.session.resolved_zone()->spline());
    b.type_at(b.window.section(), "teeth", "");
    b.type_at(b.window.section(), "reference_diameter", "32");
    CHECK(b.session.resolved_zone()->spline()->spec.teeth == 14);
    b.type_at(b.window.sheet(), "spline_root", "shaped");
    CHECK(b.session.resolved_zone()->spline()->root == SplineRoot::shaped);
    b.window.setFocus();
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.job().pieces.size() == 2);
    REQUIRE(b.session.resolved_zone()->spline());
    CHECK(b.session.resolved_zone()->in_bore());
    CHECK(in_mm(*b.session.resolved_zone()->spline()->spec.reference_diameter) == 32);
    CHECK(b.session.beside());
    b.window.section()->repaint();
    CHECK(std::ranges::any_of(b.window.section()->spots(),
                              [](const Canvas::Spot& s) { return s.key == "basic_width"; }));
    // the sheet says how the two fit, and with which piece
    QStringList groups;
    for (int g = 0; g < b.window.sheet()->model()->rowCount(); ++g)
        groups << b.window.sheet()->model()->index(g, 0).data().toString();
    CHECK(groups.contains("Fit with " + QString::fromStdString(b.session.job().pieces[0].name)));
    // nothing runs, and no rack goes with it
    QTest::keyClick(&b.window, Qt::Key_F8);
    CHECK_FALSE(b.session.running());
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier | Qt::AltModifier);
    CHECK(b.session.job().pieces.size() == 2);
}
