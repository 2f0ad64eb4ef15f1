// Grooves in the real window: a section of one's own drawn, dragged and imported, a milled end chosen, a bush with its
// pin and a clamp with its strap beside it.
#include "bench.hpp"
#include "drawn_text.hpp"
#include "model/forms/groove.hpp"

#include <QFile>
#include <QTemporaryDir>

using namespace whorl;
using namespace whorl::app;

namespace {

const ResolvedGroove& groove(Bench& b) {
    return *b.session.resolved_zone()->groove();
}
// Colours of the solid view that are not its ground, as a measure of how much stands there.
int drawn(SolidView& view) {
    const QImage image = view.grab().toImage();
    const QRgb ground = image.pixel(4, image.height() / 2);
    int count = 0;
    for (int y = 40; y < image.height() - 70; y += 2)
        for (int x = 0; x < image.width(); x += 2)
            if (image.pixel(x, y) != ground) ++count;
    return count;
}

} // namespace

TEST_CASE("a groove's own section is dragged, typed and imported; its end is milled") {
    Bench b;
    b.designate("groove rect 4 x 2 pitch 20 on 40 x 50");
    REQUIRE(b.session.resolved_zone()->groove());
    b.type_at(b.window.sheet(), "groove", "own");
    REQUIRE(groove(b).spec.points.size() == 4);
    CHECK(groove(b).depth == Approx(2));
    auto& view = *b.window.section();
    b.drag(view, "point_1", {8, 0});
    CHECK(groove(b).spec.points[1].z > 0.2);
    CHECK(groove(b).spec.points[1].h == Approx(-2).margin(0.05));
    CHECK(test::drawn_text(view).join(' ').contains("Point 2"));
    b.drag(view, "between_1", {0, 12}); // a new one, deeper
    REQUIRE(groove(b).spec.points.size() == 5);
    CHECK(groove(b).depth > 2.2);
    b.drag(view, "point_0", {0, 30}); // the surface's edges stay on it
    CHECK(groove(b).spec.points[0].h == 0);
    b.drag(view, "point_2", {0, -4});
    QTest::keyClick(&view, Qt::Key_Delete);
    b.settle();
    CHECK(groove(b).spec.points.size() == 4);
    QTemporaryDir folder;
    QFile table(folder.filePath("groove.csv"));
    REQUIRE(table.open(QIODevice::WriteOnly));
    table.write("0, 0\n1, -1.5\n3, -1.5\n4, 0\n");
    table.close();
    b.designate("groove rect 2 x 1 pitch 20 on 40");
    b.window.import_outline(table.fileName());
    b.settle();
    CHECK(groove(b).spec.shape == GrooveShape::own);
    CHECK(groove(b).depth == Approx(1.5));
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier); // one step
    b.settle();
    CHECK(groove(b).spec.shape == GrooveShape::rectangle);
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    b.settle();
    b.type_at(b.window.sheet(), "far_end", "milled");
    CHECK(b.session.preview()->made());
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("milled"));
    CHECK(b.exports(folder.filePath("milled.step")));
    b.type_at(b.window.sheet(), "geometry", "simplified");
    CHECK(b.session.preview()->made());
    CHECK(b.session.resolved_zone()->simplified());
}

TEST_CASE("a bush shows its pin, and a clamp its strap") {
    Bench b;
    b.designate("groove round 2.4 x 0.8 pitch 20 in 20 x 30");
    REQUIRE(b.session.resolved_zone()->groove());
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.job().pieces.size() == 2);
    CHECK(b.session.piece() == 1);
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.piece() == 0);
    REQUIRE(b.session.beside());
    auto& solid = *b.window.solid();
    CHECK(test::drawn_text(solid).join(' ').contains("alone"));
    QTest::keyClick(&b.window, Qt::Key_F7);
    REQUIRE(QTest::qWaitFor([&] { return b.session.counterpart_preview() != nullptr; }, 20000));
    b.settle();
    CHECK(test::drawn_text(solid).join(' ').contains("with Pin for"));
    // from the pin's side the bush stands beside it
    QTest::keyClick(&b.window, Qt::Key_J, Qt::ControlModifier);
    b.settle();
    REQUIRE(b.session.beside());
    CHECK(b.session.beside()->there.piece == 0);
    CHECK(b.session.beside()->place.origin[2] == Approx(in_mm(b.session.resolved()->length()) / 2 - 15));

    Bench c;
    c.designate("u-clamp M8 for 60 x 80");
    std::size_t bend = 0;
    while (!c.session.resolved()->zones[bend].bend())
        ++bend;
    c.session.select(c.session.piece(), bend);
    c.settle();
    QTest::keyClick(&c.window, Qt::Key_K, Qt::ControlModifier);
    c.settle();
    REQUIRE(c.session.job().pieces.size() == 2);
    QTest::keyClick(&c.window, Qt::Key_J, Qt::ControlModifier);
    c.settle();
    REQUIRE(c.session.beside());
    const int alone = drawn(*c.window.solid());
    QTest::keyClick(&c.window, Qt::Key_F7);
    REQUIRE(QTest::qWaitFor([&] { return c.session.counterpart_preview() != nullptr; }, 20000));
    c.settle();
    CHECK(test::drawn_text(*c.window.solid()).join(' ').contains("with Plate for"));
    CHECK(drawn(*c.window.solid()) != alone);
}
