// Edges, holes for screws and repeated zones in the real window, by keyboard and mouse.
#include "app/designation_line.hpp"
#include "bench.hpp"
#include "drawn_text.hpp"
#include "model/forms/groove.hpp"
#include "model/forms/plain.hpp"

#include <QTemporaryDir>

using namespace whorl;
using namespace whorl::app;

TEST_CASE("a hexagon bolt gets rounded corners and a fillet under its head; a wrong one is mended") {
    Bench b;
    b.designate("ISO 4014 M8 x 60");
    REQUIRE(b.session.has_piece());
    b.session.select(b.session.piece(), 0);
    b.settle();
    b.type_at(b.window.sheet(), "near_end", "rounded");
    CHECK(b.session.resolved_zone()->near_end.is_dome());
    CHECK(b.session.preview()->made());
    b.session.select(b.session.piece(), 1);
    b.settle();
    b.type_at(b.window.sheet(), "near_end", "fillet 0.4");
    CHECK(b.session.resolved_zone()->near_end.kind == EndKind::fillet);
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("fillet 0.4"));
    CHECK_FALSE(stops(b.session.findings()));
    // more than the shoulder: said, and the remedy leaves the largest
    b.type_at(b.window.sheet(), "near_end", "fillet 4");
    REQUIRE(stops(b.session.findings()));
    CHECK(b.session.findings().front().id == "fillet_too_large");
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK_FALSE(stops(b.session.findings()));
    CHECK(in_mm(b.session.resolved_zone()->near_end.dome_radius) < 3);
    // no value: it stays as it was
    b.type_at(b.window.sheet(), "near_end", "fillet 0.4");
    b.type_at(b.window.sheet(), "near_end", "fillet wide");
    CHECK(b.session.text_of(field::near_end) == "fillet 0.4");
    QTemporaryDir folder;
    for (const char* ending : {"step", "stl"})
        CHECK(b.exports(folder.filePath(QString("bolt.") + ending)));
}

TEST_CASE("a hole for a screw is put into a piece by keyboard, either end; Esc leaves it") {
    Bench b;
    b.designate("round 30 x 40");
    REQUIRE(b.session.has_piece());
    const std::size_t pieces = b.session.job().pieces.size();
    auto* line = b.window.findChild<DesignationLine*>("designation");
    REQUIRE(line);
    const auto zones = [&] { return b.session.resolved()->zones.size(); };
    QTest::keyClick(&b.window, Qt::Key_B, Qt::ControlModifier | Qt::AltModifier);
    b.settle();
    CHECK(line->text() == "counterbore M10"); // its head leaves a third of the end
    QTest::keyClick(line, Qt::Key_Escape);
    b.settle();
    CHECK(zones() == 1);
    CHECK(line->text().startsWith("round 30"));
    QTest::keyClick(&b.window, Qt::Key_B, Qt::ControlModifier | Qt::AltModifier | Qt::ShiftModifier);
    b.settle();
    line->selectAll();
    QTest::keyClicks(line, "countersink M6");
    QTest::keyClick(line, Qt::Key_Return);
    b.settle();
    REQUIRE(zones() == 2);
    CHECK(b.session.job().pieces.size() == pieces); // no new piece
    CHECK(in_mm(b.session.resolved()->zones[1].far_end.diameter) == Approx(13.44));
    CHECK(b.session.preview()->made());
    // another one is refused with a sentence, and nothing is lost
    QTest::keyClick(&b.window, Qt::Key_B, Qt::ControlModifier | Qt::AltModifier);
    b.settle();
    QTest::keyClick(line, Qt::Key_Return);
    b.settle();
    CHECK(zones() == 2);
    CHECK(line->hint().contains("goes through this piece already"));
    QTest::keyClick(line, Qt::Key_Escape);
    b.settle();
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(zones() == 1);
}

TEST_CASE("zones are repeated from the sheet, and all of them change with the first") {
    Bench b;
    b.designate("round 20 x 6");
    REQUIRE(b.session.has_piece());
    b.type_at(b.window.sheet(), "repeat", "4 gap 3");
    REQUIRE(b.session.resolved()->zones.size() == 7);
    CHECK(in_mm(b.session.resolved()->length()) == Approx(33));
    b.session.select(b.session.piece(), 0);
    b.settle();
    b.type_at(b.window.sheet(), "near_end", "radius 1 both");
    CHECK(b.session.resolved()->zones[6].far_end.kind == EndKind::edge);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.resolved()->zones.size() == 1);
}

TEST_CASE("a cross hole is asked for in the sheet, seen in the views, mended and taken out again") {
    Bench b;
    b.designate("round 16 x 40");
    REQUIRE(b.session.has_piece());
    b.type_at(b.window.sheet(), "cross_hole", "5");
    REQUIRE(b.session.resolved_zone()->cross());
    CHECK(b.session.preview()->made());
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("cross hole Ø 5"));
    CHECK(test::drawn_text(*b.window.section()).join(' ').contains("Ø 5"));
    b.type_at(b.window.sheet(), "cross_hole_turned", "30");
    CHECK(in_deg(rad(b.session.resolved_zone()->cross()->towards)) == Approx(30));
    b.type_at(b.window.sheet(), "cross_hole_at", "39"); // over the edge: the remedy moves it back
    REQUIRE(stops(b.session.findings()));
    CHECK(b.session.findings().front().id == "cross_hole_outside");
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK_FALSE(stops(b.session.findings()));
    CHECK(b.session.text_of(field::cross_hole_at) == "37.45");
    // its diameter is typed in the section as well
    b.type_at(b.window.section(), "cross_hole", "4");
    CHECK(b.session.resolved_zone()->cross()->radius == Approx(2));
    QTemporaryDir folder;
    for (const char* ending : {"step", "stl"})
        CHECK(b.exports(folder.filePath(QString("pin.") + ending)));
    b.type_at(b.window.sheet(), "cross_hole", "none");
    CHECK_FALSE(b.session.resolved_zone()->cross());
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.resolved_zone()->cross());
}

TEST_CASE("a clamp's bend makes its strap by Ctrl+K, and the strap follows the clamp") {
    Bench b;
    b.designate("u-clamp M8 for 40 x 50");
    REQUIRE(b.session.has_piece());
    const std::size_t clamp = b.session.piece();
    std::size_t bend = 0;
    while (!b.session.resolved()->zones[bend].bend())
        ++bend;
    b.session.select(clamp, bend);
    b.settle();
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.piece() != clamp);
    REQUIRE(b.session.resolved_zone()->cross());
    CHECK(b.session.resolved_zone()->cross()->spacing == Approx(48));
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.piece() == clamp);
    b.type_at(b.window.sheet(), "bend_radius", "30");
    const double apart = 2 * b.session.resolved_zone()->bend()->radius;
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.resolved_zone()->cross());
    CHECK(b.session.resolved_zone()->cross()->spacing == Approx(apart));
    CHECK_FALSE(stops(b.session.findings()));
}

TEST_CASE("a groove in a tube's bore is written, typed in its views, mended and exported") {
    Bench b;
    b.designate("groove rect 2 pitch 25 in 30 across 33 x 100");
    REQUIRE(b.session.has_piece());
    b.session.select(b.session.piece(), 1);
    b.settle();
    REQUIRE(b.session.resolved_zone()->groove());
    CHECK(b.session.resolved_zone()->groove()->depth == Approx(1.5));
    CHECK(test::drawn_text(*b.window.section()).join(' ').contains("across Ø 33"));
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("lead 25"));
    b.type_at(b.window.section(), "groove_depth", "1");
    CHECK(b.session.text_of(field::across_grooves).isEmpty());
    CHECK(b.session.resolved_zone()->groove()->across == Approx(32));
    b.type_at(b.window.sheet(), "starts", "3");
    b.type_at(b.window.section(), "pitch", "1.5"); // narrower than the groove: said, and mended
    REQUIRE(stops(b.session.findings()));
    CHECK(b.session.findings().front().id == "groove_wider_than_pitch");
    QTest::keyClick(&b.window, Qt::Key_R, Qt::ControlModifier);
    b.settle();
    CHECK_FALSE(stops(b.session.findings()));
    CHECK(b.session.preview()->made());
    QTest::keyClick(&b.window, Qt::Key_H, Qt::ControlModifier); // the other hand
    b.settle();
    CHECK(b.session.resolved_zone()->groove()->spec.hand == Hand::left);
    QTemporaryDir folder;
    for (const char* ending : {"step", "stl"})
        CHECK(b.exports(folder.filePath(QString("tube.") + ending)));
}
