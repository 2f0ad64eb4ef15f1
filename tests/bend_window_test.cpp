// Bent pieces in the real window: written, typed in every view, mended, handed on; nuts on both legs.
#include "bench.hpp"
#include "drawn_text.hpp"
#include "model/forms/bend.hpp"

#include <QTemporaryDir>
#include <cmath>
#include <numbers>

using namespace whorl;
using namespace whorl::app;

TEST_CASE("a U-clamp is written, its bend typed in every view, mended and exported") {
    Bench b;
    b.designate("u-clamp M6 for 60 x 80");
    REQUIRE(b.session.has_piece());
    CHECK(b.session.preview()->made());
    REQUIRE(b.session.resolved()->zones.size() == 5);
    b.session.select(b.session.piece(), 2);
    b.settle();
    const auto bend = [&]() -> const ResolvedBend& { return *b.session.resolved_zone()->bend(); };
    CHECK(bend().radius == Approx(33));
    CHECK(test::drawn_text(*b.window.section()).join(' ').contains("in the bend's plane"));
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("to cut"));
    b.type_at(b.window.section(), "bend_angle", "150");
    CHECK(bend().angle == Approx(150 * std::numbers::pi / 180));
    b.type_at(b.window.section(), "bend_radius", "25");
    CHECK(bend().radius == Approx(28)); // the inside was said
    b.type_at(b.window.sheet(), "bend_measured", "centreline");
    CHECK(bend().radius == Approx(25));
    b.type_at(b.window.sheet(), "roll", "30");
    CHECK(bend().spec.roll == Approx(std::numbers::pi / 6));
    CHECK(b.session.preview()->made());
    // too far round: said, and the remedy mends it
    b.type_at(b.window.sheet(), "roll", "");
    b.type_at(b.window.section(), "bend_angle", "230");
    REQUIRE(stops(b.session.findings()));
    CHECK(b.session.findings().front().id == "bends_cross");
    // no value: it stays as it was
    b.type_at(b.window.section(), "bend_angle", "500");
    CHECK(bend().angle == Approx(230 * std::numbers::pi / 180));
    b.type_at(b.window.section(), "bend_angle", "180");
    CHECK_FALSE(stops(b.session.findings()));
    QTemporaryDir folder;
    for (const char* ending : {"step", "stl"})
        CHECK(b.exports(folder.filePath(QString("clamp.") + ending)));
    // its nut, on the second leg
    b.session.select(b.session.piece(), 4);
    b.settle();
    QTest::keyClick(&b.window, Qt::Key_K, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.job().pairs.size() == 1);
    CHECK(b.session.preview()->made());
    QTest::keyClick(&b.window, Qt::Key_Z, Qt::ControlModifier);
    b.settle();
    CHECK(b.session.job().pairs.empty());
}

TEST_CASE("an elbow is written and turned; a bend is added to a bar by its designation") {
    Bench b;
    b.designate("elbow G3/8 90");
    REQUIRE(b.session.has_piece());
    CHECK(b.session.preview()->made());
    CHECK(b.session.resolved()->zones.size() == 6);
    b.session.select(b.session.piece(), 1);
    b.settle();
    CHECK(test::drawn_text(*b.window.developed()).join(' ').contains("R 33"));
    b.type_at(b.window.sheet(), "bend_angle", "45");
    CHECK(b.session.preview()->made());
    // the through bore keeps up with it
    CHECK(in_mm(b.session.resolved()->zones[4].length + b.session.resolved()->zones[3].length * 2) ==
          Approx(in_mm(b.session.resolved()->length())));
}
