// Sections of one's own: their outline as a groove, what is refused, and what a thread makes of them.
#include "form/designation.hpp"
#include "pair/fit.hpp"
#include "random_piece.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <numbers>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

// Half a pitch wide at the crest, a quarter at the root, half a pitch deep.
const OwnSection trapeze{"trapeze", {{-0.25, 0}, {-0.125, -0.5}, {0.125, -0.5}, {0.25, 0}}};
const OwnSection half_round{"rope", {{-0.3, 0, -0.3}, {0.3, 0}, {0.3, 0}}};
const OwnSection upright{"slot", {{-0.25, 0}, {-0.25, -0.4}, {0.25, -0.4}, {0.25, 0}}};

ThreadSpec thread(const OwnSection& section, double d, double pitch, Side side = Side::external) {
    ThreadSpec s;
    s.family = ThreadFamily::own;
    s.tolerance_class = "";
    s.own_section = section;
    s.diameter = mm(d);
    s.pitch = mm(pitch);
    s.side = side;
    return s;
}

std::string refusal(const OwnSection& s) {
    try {
        require_usable(s);
        return {};
    } catch (const InputError& e) {
        return e.what();
    }
}

// The area of a groove below its crest, per pitch.
double groove_area(const ThreadSection& s) {
    const auto p = groove_polyline(s, 1e-9 * s.pitch);
    double area = 0;
    for (std::size_t i = 0; i + 1 < p.size(); ++i)
        area += (p[i + 1].z - p[i].z) *
                (std::abs(s.crest_radius - p[i].r) + std::abs(s.crest_radius - p[i + 1].r)) / 2;
    return area;
}

} // namespace

TEST_CASE("an outline says its depth, flats, pitch line and flanks") {
    const OwnShape s = shape_of(trapeze);
    CHECK(s.depth == Approx(0.5));
    CHECK(s.crest_flat == Approx(0.5));
    CHECK(s.root_flat == Approx(0.25));
    CHECK(std::tan(s.lower_angle) == Approx(0.25));
    CHECK(std::tan(s.upper_angle) == Approx(0.25));
    // nowhere wider than half a pitch but at the crest: the pitch line is put half way down
    CHECK(s.pitch_line == Approx(-0.25));
    const OwnShape wide = shape_of({"wide", {{-0.4, 0}, {-0.1, -0.3}, {0.1, -0.3}, {0.4, 0}}});
    CHECK(wide.pitch_line == Approx(-0.15)); // where 0.8 − 2·h = 0.5
    CHECK(in_deg(rad(wide.lower_angle)) == Approx(45));
}

TEST_CASE("an own section scales with the pitch, outside and inside") {
    for (const double pitch : {0.5, 4.0, 12.0}) {
        const ThreadSection s = resolve_thread(thread(trapeze, 40, pitch)).section;
        REQUIRE(s.sweepable());
        CHECK(s.crest_radius == Approx(20));
        CHECK(s.root_radius == Approx(20 - pitch / 2));
        CHECK(s.crest_flat == Approx(pitch / 2));
        CHECK(s.root_flat == Approx(pitch / 4));
        CHECK(groove_area(s) == Approx(pitch * pitch * 0.5 * 0.375));
        const ThreadSection n = resolve_thread(thread(trapeze, 40, pitch, Side::internal)).section;
        REQUIRE(n.sweepable());
        CHECK(n.crest_radius == Approx(20 - pitch / 2));
        CHECK(n.root_radius == Approx(20));
        CHECK(n.crest_flat == Approx(pitch / 4));
        // groove and ridge fill the rectangle between the two cylinders
        CHECK(groove_area(n) + groove_area(s) == Approx(pitch * pitch / 2));
    }
}

TEST_CASE("a half-round groove is a half circle") {
    CHECK(refusal({"flat", {{-0.3, 0}, {0.3, 0}}}).find("3 to 64 points") != std::string::npos);
    OwnSection s{"rope", {{-0.3, 0, -0.3}, {0.3, 0}}};
    require_usable(s); // one arc is enough
    const double of_one_arc = groove_area(resolve_thread(thread(s, 30, 5)).section);
    CHECK(of_one_arc == Approx(pi * 1.5 * 1.5 / 2).epsilon(1e-6));
    s = with_point_after(s, 0);
    CHECK(s.points[1].h == Approx(-0.3));
    require_usable(s);
    const ThreadSection t = resolve_thread(thread(s, 30, 5)).section;
    CHECK(groove_area(t) == Approx(pi * 1.5 * 1.5 / 2).epsilon(1e-6));
    for (const double z : {-1.4, -0.7, 0.0, 0.9, 1.45})
        CHECK(groove_radius(t, z) == Approx(15 - std::sqrt(1.5 * 1.5 - z * z)).epsilon(1e-9));
}

TEST_CASE("a layer for printing is taken off square to the outline") {
    for (const Side side : {Side::external, Side::internal}) {
        ThreadSpec s = thread(trapeze, 40, 4, side);
        s.allowance = mm(0.1);
        const ThreadSection a = resolve_thread(thread(trapeze, 40, 4, side)).section,
                            b = resolve_thread(s).section;
        const double sign = side == Side::external ? 1 : -1;
        CHECK(sign * (a.crest_radius - b.crest_radius) == Approx(0.1));
        CHECK(sign * (a.root_radius - b.root_radius) == Approx(0.1));
        // the flank moves by 0.1 square to itself: along the axis at one radius by 0.1 / cos
        const double slope = 0.25, aside = 0.1 * std::sqrt(1 + slope * slope);
        const double r = (a.crest_radius + a.root_radius) / 2;
        const auto width = [&](const ThreadSection& t) {
            double low = 0, high = t.groove.back().z;
            for (int i = 0; i < 60; ++i) {
                const double m = (low + high) / 2;
                (sign * groove_radius(t, m) < sign * r ? low : high) = m;
            }
            return 2 * low;
        };
        CHECK(width(b) - width(a) == Approx(2 * aside).epsilon(1e-6));
    }
    // an arc stays concentric
    OwnSection rope = with_point_after({"rope", {{-0.3, 0, -0.2}, {0.3, 0}}}, 0);
    ThreadSpec s = thread(rope, 40, 4);
    const auto before = resolve_thread(s).section;
    s.allowance = mm(0.05);
    const auto after = resolve_thread(s).section;
    REQUIRE(after.sweepable());
    // of second order in the layer where the arc meets the crest at a corner: 2 µm of 50
    CHECK(after.groove[0].arc_radius == Approx(before.groove[0].arc_radius + 0.05).margin(2.5e-3));
    CHECK(after.groove[0].centre_r == Approx(before.groove[0].centre_r).margin(2.5e-3));
}

TEST_CASE("upright flanks lean half a micrometre") {
    const ThreadSection s = resolve_thread(thread(upright, 30, 4)).section;
    REQUIRE(s.sweepable());
    CHECK(s.groove[1].z - s.groove[0].z == Approx(0.0005).epsilon(1e-6));
    CHECK(groove_area(s) == Approx(2 * 1.6).epsilon(1e-3));
}

TEST_CASE("outlines that can't be swept are refused with the point and the reason") {
    const auto says = [](const OwnSection& s, const char* what) {
        INFO(what);
        CHECK(refusal(s).find(what) != std::string::npos);
    };
    says({"a b", trapeze.points}, "letters, digits");
    says({"x", {{0, 0}, {0.5, 0}}}, "3 to 64 points");
    says({"x", {{-0.25, 0}, {0, -0.5}, {-0.1, -0.2}, {0.25, 0}}}, "overhangs");
    says({"x", {{-0.25, 0}, {0, -0.5}, {0.25, -0.1}}}, "at the crest");
    says({"x", {{-0.25, 0}, {0, 0.1}, {0.25, 0}}}, "above the crest");
    says({"x", {{-0.6, 0}, {0, -0.3}, {0.6, 0}}}, "pitches wide");
    says({"x", {{-0.4, 0}, {-0.2, -0.3}, {0, -0.1}, {0.2, -0.3}, {0.4, 0}}}, "falls again at point 4");
    says({"x", {{-0.25, 0}, {0, -0.001}, {0.25, 0}}}, "hundredth of the pitch deep");
    says({"x", {{-0.25, 0}, {-0.25, 0}, {0, -0.4}, {0.25, 0}}}, "lies on the point before");
    says({"x", {{-0.25, 0, -0.3}, {0, -0.4}, {0.25, 0}}}, "overhangs");
    says({"x", {{-0.25, 0}, {std::nan(""), -0.4}, {0.25, 0}}}, "not a number");
}

TEST_CASE("any thread's section can be taken over and is then the same") {
    for (const char* text : {"M12-6g", "M12-6H", "Tr30x6-7e", "Tr30x6-7H", "S40x7", "Rd40x1/6",
                             "Rd40x1/6 internal", "G1/2 A", "SQ20x4", "1/2-12 BSW-medium", "V60 20x2"}) {
        INFO(text);
        ThreadSpec s = std::get<ThreadSpec>(parse_designation(text).what);
        s.modelled_at = ModelledAt::basic;
        const ThreadSection was = resolve_thread(s).section;
        const OwnSection own = own_section_of(was, "mine");
        REQUIRE(refusal(own).empty());
        const double outer = s.side == Side::external ? was.crest_radius : was.root_radius;
        const ThreadSection now = resolve_thread(thread(own, 2 * outer, was.pitch, s.side)).section;
        REQUIRE(now.sweepable());
        CHECK(now.crest_radius == Approx(was.crest_radius));
        CHECK(now.root_radius == Approx(was.root_radius));
        // upright flanks lean anew
        for (double z = -0.49; z < 0.5; z += 0.03)
            if (s.family != ThreadFamily::square)
                CHECK(groove_radius(now, z * was.pitch) ==
                      Approx(groove_radius(was, z * was.pitch)).margin(2e-3));
        CHECK(groove_area(now) == Approx(groove_area(was)).epsilon(2e-3));
    }
}

TEST_CASE("points are put in on the outline and taken out again") {
    OwnSection s = half_round;
    s.points = {{-0.3, 0, -0.1}, {0.3, 0}};
    const OwnSection more = with_point_after(s, 0);
    REQUIRE(more.points.size() == 3);
    CHECK(more.points[1].h == Approx(-0.1));
    // the halves lie on the same circle
    const double radius = (0.3 * 0.3 + 0.1 * 0.1) / (2 * 0.1), half = std::hypot(0.3, 0.1) / 2;
    CHECK(more.points[0].bow == Approx(-(radius - std::sqrt(radius * radius - half * half))));
    CHECK(without_point(trapeze, 1).points.size() == 3);
    CHECK(without_point(trapeze, 0) == trapeze); // the crest's edges stay
    CHECK(without_point(trapeze, 3) == trapeze);
}

TEST_CASE("designations name own sections") {
    const std::vector<OwnSection> known{trapeze, upright};
    const auto d = parse_designation("section trapeze 20x4 (2 starts) LH x 60", known);
    const auto& s = std::get<ThreadSpec>(d.what);
    CHECK(s.own_section == trapeze);
    CHECK(in_mm(s.pitch) == Approx(4));
    CHECK(s.starts == 2);
    CHECK(s.hand == Hand::left);
    CHECK(write_designation(s, d.length) == "section trapeze 20x4 (2 starts) LH x 60");
    CHECK(std::get<ThreadSpec>(parse_designation("section slot 20x4 internal", known).what).side ==
          Side::internal);
    CHECK(complete_designation("section", 8, known).size() == 2);
    for (const auto& [text, what] : {std::pair{"section nothing 20x4", "There are: trapeze, slot"},
                                     {"section", "name of a section"},
                                     {"section slot", "diameter is expected"},
                                     {"section slot 20", "pitch is expected"},
                                     {"section slot 20x", "pitch is expected"}}) {
        INFO(text);
        CHECK_THROWS_WITH(parse_designation(text, known), Catch::Contains(what));
    }
    CHECK_THROWS_WITH(parse_designation("section slot 20x4"),
                      Catch::Contains("none in this job or in your library"));
    ThreadSpec deep = thread(trapeze, 20, 4);
    deep.depth = mm(1);
    CHECK_THROWS_WITH(resolve_thread(deep), Catch::Contains("move its points"));
}

TEST_CASE("screw and nut of one own section touch and do not overlap") {
    test::RandomPiece random(7);
    for (int i = 0; i < 60; ++i) {
        const OwnSection own = random.own_section();
        const double p = 3;
        const ThreadSpec s = thread(own, 40, p);
        const ResolvedThread screw = resolve_thread(s), nut = resolve_thread(counterpart(s));
        INFO("round " << i);
        for (const OwnPoint& q : own.points)
            UNSCOPED_INFO(q.z << " " << q.h << " " << q.bow);
        REQUIRE(screw.section.sweepable());
        REQUIRE(nut.section.sweepable());
        const Fit f = fit_of(screw, nut);
        CHECK(f.goes_together());
        // steep flanks turn a tenth of a micrometre aside into much more across
        CHECK(f.shift ==
              Approx(p * (middle_of(own, Side::internal) - middle_of(own, Side::external))).margin(2e-3));
        // a pointed root leaves the nut a needle of a crest, which is cut a thousandth of the pitch wide
        const double both = groove_area(screw.section) + groove_area(nut.section),
                     depth = screw.section.depth();
        CHECK(both < p * depth * 1.002);
        CHECK(both > p * nut.section.depth() * 0.998);
        CHECK(depth - nut.section.depth() < 0.02 * p);
    }
    const Fit other = fit_of(resolve_thread(thread(trapeze, 40, 4)),
                             resolve_thread(thread(upright, 40, 4, Side::internal)));
    CHECK_FALSE(other.goes_together());
}
