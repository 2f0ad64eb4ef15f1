// Silhouettes and vessels in the real window: drawn, typed, hollowed, imported, coloured.
#include "bench.hpp"
#include "drawn_text.hpp"
#include "model/forms/silhouette.hpp"

#include <QFile>
#include <QTemporaryDir>

using namespace whorl;
using namespace whorl::app;

namespace {

const Canvas::Knob* knob(Canvas& view, const QString& key) {
    return Bench::knob(view, key);
}
void drag(Bench& b, Canvas& view, const QString& key, QPoint by) {
    b.drag(view, key, by);
}
const ResolvedSilhouette& shape(Bench& b) {
    return *b.session.resolved_zone()->silhouette();
}

} // namespace

TEST_CASE("a silhouette is drawn by its points: dragged, added, typed, nudged and taken out") {
    Bench b;
    b.designate("silhouette 0:20 30:25 60:18");
    REQUIRE(b.session.has_piece());
    REQUIRE(b.session.resolved_zone()->silhouette());
    auto& view = *b.window.section();
    const double before = shape(b).spec.points[1].value;
    drag(b, view, "point_1", {0, -20}); // a slender one lies
    CHECK(shape(b).spec.points[1].value > before + 1);
    CHECK(b.session.preview()->made());
    const double wide = shape(b).spec.points[1].value;
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier); // one step
    b.settle();
    CHECK(shape(b).spec.points[1].value == Approx(before));
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    b.settle();
    CHECK(shape(b).spec.points[1].value == Approx(wide));
    // a ring between two is a new one
    drag(b, view, "between_1", {0, 12});
    REQUIRE(shape(b).spec.points.size() == 4);
    // the chosen one is nudged and taken out
    drag(b, view, "point_2", {0, -4});
    CHECK(view.chosen_knob() == "point_2");
    const double at = shape(b).spec.points[2].value;
    QTest::keyClick(&view, Qt::Key_Up);
    b.settle();
    CHECK(shape(b).spec.points[2].value == Approx(at + 0.1));
    CHECK(test::drawn_text(view).join(' ').contains("Point 3"));
    QTest::keyClick(&view, Qt::Key_Delete);
    b.settle();
    CHECK(shape(b).spec.points.size() == 3);
    // dragged to where it can't go the last good place stays, and Esc puts it back
    const auto* k = knob(view, "point_1");
    REQUIRE(k);
    const QPoint from = k->at.toPoint();
    const double kept = shape(b).spec.points[1].value;
    QTest::mousePress(&view, Qt::LeftButton, {}, from);
    QTest::mouseMove(&view, from + QPoint(0, 30));
    QTest::mouseMove(&view, from + QPoint(0, 400));
    CHECK(b.session.resolved_zone() != nullptr);
    QTest::keyClick(&view, Qt::Key_Escape);
    b.settle();
    CHECK(shape(b).spec.points[1].value == Approx(kept));
    b.type_at(b.window.sheet(), "points", "0:20 30:30:0 60:10");
    CHECK(shape(b).spec.points[1].slope == Approx(0));
    b.type_at(b.window.sheet(), "course", "monotone");
    CHECK(shape(b).spec.course == Course::monotone);
    // a wide one stands, its radii to the right
    b.designate("silhouette 0:50 15:60 30:40");
    drag(b, view, "point_1", {15, 0});
    CHECK(shape(b).spec.points[1].value > 60 + 1);
    CHECK(shape(b).spec.points[1].at == Approx(15).margin(0.2));
}

TEST_CASE("a chosen point is no longer chosen where another zone is") {
    Bench b;
    b.designate("silhouette 0:20 30:25 60:18");
    QTest::keyClick(&b.window, Qt::Key_L, Qt::ControlModifier);
    QTest::keyClicks(b.window.designation(), "silhouette 0:22 30:28 70:18");
    QTest::keyClick(b.window.designation(), Qt::Key_Return, Qt::ShiftModifier);
    b.settle();
    REQUIRE(b.session.job().pieces.size() == 2);
    auto& view = *b.window.section();
    drag(b, view, "point_1", {0, -4});
    REQUIRE(view.chosen_knob() == "point_1");
    const std::size_t other = 1 - b.session.piece();
    b.session.select(other, 0);
    b.settle();
    view.grab();
    CHECK(view.chosen_knob().isEmpty());
    const double kept = shape(b).spec.points[1].value;
    QTest::keyClick(&view, Qt::Key_Up);
    b.settle();
    CHECK(shape(b).spec.points[1].value == Approx(kept));
}

TEST_CASE("flutes are typed, wound by dragging, and hollowed; the wall is what was asked") {
    Bench b;
    b.designate("silhouette 0:30 40:36 90:30");
    REQUIRE(b.session.has_piece());
    const std::size_t piece = b.session.piece();
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("Type how many flutes"));
    b.type_at(b.window.sheet(), "flutes", "8");
    b.type_at(b.window.sheet(), "flute_depth", "3");
    REQUIRE(shape(b).wall->flutes());
    b.type_at(b.window.sheet(), "flutes_from", "10");
    auto& view = *b.window.developed();
    drag(b, view, "twist_knob", {40, 0});
    const double twist = shape(b).spec.flutes->twist;
    CHECK(twist > 0.2);
    drag(b, view, "flutes_to_knob", {0, 30});
    CHECK(*shape(b).spec.flutes->to < 85);
    // too deep: the sentence says the limit, the last good state stays
    b.type_at(b.window.sheet(), "flute_depth", "30");
    CHECK(shape(b).spec.flutes->depth == Approx(3));
    QTest::keyClick(&b.window, Qt::Key_H, Qt::ControlModifier | Qt::AltModifier);
    b.settle();
    REQUIRE(b.session.resolved()->zones.size() == 2);
    CHECK(b.session.zone() == 1);
    CHECK(b.session.resolved_zone()->is_hollow());
    b.type_at(b.window.sheet(), "wall", "1.5");
    CHECK(shape(b).least_wall == Approx(1.5).margin(3e-3));
    CHECK(test::drawn_text(*b.window.section()).join(' ').contains("w 1.5"));
    b.type_at(b.window.sheet(), "inside", "smooth");
    CHECK(shape(b).wall->flutes() == nullptr);
    CHECK(b.session.preview()->made());
    // on the outer zone its line changes the hollow, too
    b.session.select(piece, 0);
    b.settle();
    b.designate("hollow 2 bottom 4");
    REQUIRE(b.session.resolved()->zones.size() == 2);
    CHECK(*b.session.resolved()->zones[1].silhouette()->spec.wall == Approx(2));
    QTemporaryDir folder;
    for (const char* ending : {"step", "stl"})
        CHECK(b.exports(folder.filePath(QString("vessel.") + ending)));
}

TEST_CASE("a silhouette comes from a file, and a zone has a colour of its own") {
    Bench b;
    b.designate("silhouette 0:20 60:20");
    REQUIRE(b.session.has_piece());
    QTemporaryDir folder;
    QFile table(folder.filePath("half.csv"));
    REQUIRE(table.open(QIODevice::WriteOnly));
    table.write("height, radius\n0, 12\n20, 18\n35, 9\n50, 14\n");
    table.close();
    b.window.import_outline(table.fileName());
    b.settle();
    REQUIRE(shape(b).spec.points.size() == 4);
    CHECK(shape(b).spec.points[2].value == Approx(9));
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(shape(b).spec.points.size() == 2);
    b.type_at(b.window.sheet(), "zone_finish", "#7A5AA8");
    CHECK(b.session.job().pieces[b.session.piece()].zones[0].finish == "#7A5AA8");
    b.type_at(b.window.sheet(), "zone_finish", "gold");
    CHECK(b.session.job().pieces[b.session.piece()].zones[0].finish == "#7A5AA8");
}

TEST_CASE("dragging the second of two points with slopes leaves both slopes and the first point") {
    Bench b;
    b.designate("silhouette 0:20 20:26:15 45:22:-10 60:18");
    const auto before = shape(b).spec.points;
    REQUIRE(before.size() == 4);
    drag(b, *b.window.section(), "point_2", {0, -10});
    const auto after = shape(b).spec.points;
    REQUIRE(after.size() == 4);
    CHECK(after[2].value > before[2].value + 0.1);
    for (const std::size_t i : {0u, 1u, 3u}) {
        CHECK(after[i].at == Approx(before[i].at));
        CHECK(after[i].value == Approx(before[i].value));
    }
    REQUIRE(after[1].slope);
    REQUIRE(after[2].slope);
    CHECK(*after[1].slope == Approx(*before[1].slope));
    CHECK(*after[2].slope == Approx(*before[2].slope));
    CHECK(*after[1].slope != Approx(*after[2].slope));
}
