// Edges, holes for screws and repeated zones in the real window, by keyboard and mouse.
#include "app/designation_line.hpp"
#include "bench.hpp"
#include "drawn_text.hpp"
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
    QTest::keyClick(&b.window, Qt::Key_F4);
    b.settle();
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
