// Pairs of gears: distances, contact and conjugate action, run numerically.
#include "form/tooth/gear_designation.hpp"
#include "gear_table.hpp"
#include "pair/gear_mesh.hpp"

#include <catch2/catch.hpp>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

ResolvedGear gear(const char* text) {
    return resolve_gear(parse_gear(text).spec);
}

bool says(const GearMesh& m, MeshFault what) {
    for (const auto& w : m.mistakes)
        if (w.what == what) return true;
    return false;
}

// The angle by which the second gear can turn on before its flank meets the driving flank of the first, when
// the first has turned by `roll`: by following the first one's flank point by point in the second one's own
// frame.
double free_angle(const ResolvedGear& a, const ResolvedGear& b, const GearMesh& m, double roll) {
    const TransverseCurve* flank = nullptr;
    for (const auto& c : a.half_outline)
        if (c.shape == CurveShape::involute) flank = &c;
    const double axis = m.internal ? -m.centre : m.centre;
    double least = 1e9;
    for (int tooth = -3; tooth <= 3; ++tooth) {
        const auto at = [&](double t) {
            const TransversePoint p = point_at(*flank, t);
            const double angle = roll + tooth * a.pitch_angle() - p.angle(),
                         r = p.radius(); // the space's other flank
            const double x = r * std::cos(angle) - axis, y = r * std::sin(angle), r2 = std::hypot(x, y);
            if (m.internal ? r2 < b.tip_radius || r2 > b.form_radius
                           : r2 > b.tip_radius || r2 < b.form_radius)
                return 1e9;
            const double half = space_half_angle_at(b, r2);
            // the second gear's tooth that stands in this space of the first
            const double middle =
                m.second_turn(roll) + (m.internal ? 1 : -1) * tooth * b.pitch_angle() + b.pitch_angle() / 2;
            const double its = std::remainder(std::atan2(y, x) - middle, 2 * std::numbers::pi);
            const double tooth_half = b.pitch_angle() / 2 - half;
            return m.internal ? -its - tooth_half : its - tooth_half;
        };
        constexpr int steps = 3000;
        double best = 1e9;
        int where = 0;
        for (int i = 0; i <= steps; ++i)
            if (const double d = at(flank->from + (flank->to - flank->from) * i / steps); d < best)
                best = d, where = i;
        if (best > 1e8) continue;
        double low = flank->from + (flank->to - flank->from) * std::max(0, where - 1) / steps,
               high = flank->from + (flank->to - flank->from) * std::min(steps, where + 1) / steps;
        for (int i = 0; i < 60; ++i) {
            const double p = low + (high - low) * 0.382, q = low + (high - low) * 0.618;
            (at(p) < at(q) ? high : low) = at(p) < at(q) ? q : p;
        }
        least = std::min({least, best, at((low + high) / 2)});
    }
    return least;
}

// As free_angle, but for one tooth and its whole flank, root and tip included, in mm at the second one's base
// circle; positive where it stands clear. The teeth touch on this side when the second has turned by
// `closed`.
double clearance(const ResolvedGear& a, const ResolvedGear& b, const GearMesh& m, double roll, int tooth,
                 double closed) {
    const double axis = m.internal ? -m.centre : m.centre;
    const double middle =
        m.second_turn(roll) + closed + (m.internal ? 1 : -1) * tooth * b.pitch_angle() + b.pitch_angle() / 2;
    double least = 1e9;
    for (const TransverseCurve& c : a.half_outline)
        for (int i = 0; i <= 800; ++i) {
            const TransversePoint p = point_at(c, c.from + (c.to - c.from) * i / 800);
            const double angle = roll + tooth * a.pitch_angle() - p.angle(), r = p.radius();
            const double x = r * std::cos(angle) - axis, y = r * std::sin(angle), r2 = std::hypot(x, y);
            if (m.internal ? r2 < b.tip_radius || r2 > b.root_radius
                           : r2 > b.tip_radius || r2 < b.root_radius)
                continue;
            const double its = std::remainder(std::atan2(y, x) - middle, 2 * std::numbers::pi);
            const double tooth_half = b.pitch_angle() / 2 - space_half_angle_at(b, r2);
            least = std::min(least, (m.internal ? -its : its) - tooth_half);
        }
    return least * b.base_radius;
}

} // namespace

TEST_CASE("undercut gears run on what is left: nothing overlaps, and as many teeth touch as is said") {
    for (const auto& [one, two] :
         {std::pair{"gear m2 z10", "gear m2 z80"}, std::pair{"gear m1.25 z11", "gear m1.25 z40"},
          std::pair{"gear m2 z40", "gear m2 z9"}, std::pair{"gear m2 z8", "gear m2 z14"},
          std::pair{"gear m2 z12 helix 15 LH", "gear m2 z60 helix 15 RH"},
          std::pair{"gear m2 z10", "internal gear m2 z60 k0.2"},
          std::pair{"gear m2 z24", "gear m2 z31"}}) { // not undercut, for comparison
        INFO(one << " with " << two);
        const ResolvedGear a = gear(one), b = gear(two);
        const GearMesh m = mesh_of(a, b);
        REQUIRE_FALSE(says(m, MeshFault::root_contact));
        constexpr int steps = 200;
        int touching = 0;
        double deepest = 1e9;
        for (int i = 0; i < steps; ++i)
            for (int tooth = -3; tooth <= 3; ++tooth) {
                const double gap = clearance(a, b, m, a.pitch_angle() * i / steps, tooth, 0);
                deepest = std::min(deepest, gap);
                if (gap < 3e-5) ++touching; // samples leave 1e-5
            }
        CHECK(deepest > -1e-5);
        CHECK(static_cast<double>(touching) / steps == Approx(m.contact_ratio).margin(0.03));
    }
}

TEST_CASE("tips that dig into an undercut root are a mistake, and do overlap when they are run") {
    // the pinion's cutter reached less deep than the wheel's long tips do
    for (const auto& [one, two] :
         {std::pair{"gear m2 z10 rack 1/1.05/0.2", "gear m2 z80 rack 1.15/1.25/0.3"},
          std::pair{"gear m2 z12 rack 1/1.02/0.3", "gear m2 z40 rack 1.1/1.25/0.3"}}) {
        INFO(one << " with " << two);
        const ResolvedGear a = gear(one), b = gear(two);
        REQUIRE(a.undercut);
        const GearMesh m = mesh_of(a, b);
        CHECK(says(m, MeshFault::root_contact));
        double deepest = 1e9;
        for (int i = 0; i < 200; ++i)
            for (int tooth = -3; tooth <= 3; ++tooth)
                deepest = std::min(deepest, clearance(a, b, m, a.pitch_angle() * i / 200, tooth, 0));
        CHECK(deepest < -1e-3);
    }
}

TEST_CASE("centre distances, contact ratios and backlash of textbook pairs") {
    const GearMesh m = mesh_of(gear("gear m2 z19"), gear("gear m2 z73"));
    CHECK(m.runs());
    CHECK(m.centre == Approx(92));
    CHECK(m.ratio == Approx(73.0 / 19));
    CHECK_FALSE(m.closing_shift);
    CHECK(std::abs(m.backlash) < 1e-9);
    // ε = (z1·(tan αa1 − tan α) + z2·(tan αa2 − tan α))/2π
    for (const auto& [z1, z2] :
         {std::pair{20, 20}, std::pair{20, 40}, std::pair{17, 60}, std::pair{31, 31}, std::pair{25, 100}}) {
        const auto tangent = [](int z) {
            return std::tan(std::acos(z * std::cos(in_rad(deg(20))) / (z + 2)));
        };
        const double t = std::tan(in_rad(deg(20)));
        GearSpec a, b;
        a.teeth = z1;
        b.teeth = z2;
        CHECK(mesh_of(resolve_gear(a), resolve_gear(b)).contact_ratio ==
              Approx((z1 * (tangent(z1) - t) + z2 * (tangent(z2) - t)) / 2 / std::numbers::pi).epsilon(1e-9));
    }
    CHECK(mesh_of(gear("gear m1 z20"), gear("gear m1 z20")).contact_ratio == Approx(1.557).margin(1e-3));
    // shifts that add to nothing leave the distance; 0.5 and 0.5 on 12 and 12 teeth of module 1 widen it
    CHECK(mesh_of(gear("gear m2 z19 x0.3"), gear("gear m2 z73 x-0.3")).centre == Approx(92));
    const GearMesh wide = mesh_of(gear("gear m1 z12 x0.5"), gear("gear m1 z12 x0.5"));
    CHECK(wide.centre ==
          Approx(12 * std::cos(in_rad(deg(20))) /
                 std::cos(inverse_involute(involute(in_rad(deg(20))) + 2 * std::tan(in_rad(deg(20))) / 24))));
    CHECK(std::abs(wide.backlash) < 1e-9);
    // thinning both by 0.05 gives 0.1 of backlash on the pitch circles
    CHECK(mesh_of(gear("gear m2 z19 thin 0.05"), gear("gear m2 z73 thin 0.05")).backlash ==
          Approx(0.1).epsilon(1e-6));
    // moved apart by 0.1 mm: j = 2·Δa·tan α to first order
    CHECK(mesh_of(gear("gear m2 z19"), gear("gear m2 z73"), mm(92.1)).backlash ==
          Approx(0.2 * std::tan(in_rad(deg(20)))).epsilon(0.01));
    // in a ring
    const GearMesh ring = mesh_of(gear("gear m2 z20"), gear("internal gear m2 z60 k0.2"));
    CHECK(ring.centre == Approx(40));
    CHECK(std::abs(ring.backlash) < 1e-9);
    const GearMesh shifted = mesh_of(gear("gear m2 z20 x0.2"), gear("internal gear m2 z60 x-0.2 k0.2"));
    CHECK(shifted.centre == Approx(40));
    CHECK(std::abs(shifted.backlash) < 1e-9);
}

TEST_CASE("pairs that can't mesh say which number differs") {
    const ResolvedGear a = gear("gear m2 z19");
    CHECK(says(mesh_of(a, gear("gear m2.5 z40")), MeshFault::module));
    CHECK(says(mesh_of(a, gear("gear m2 z40 a25")), MeshFault::pressure_angle));
    CHECK(says(mesh_of(a, gear("gear m2 z40 helix 10")), MeshFault::helix));
    CHECK(says(mesh_of(gear("gear m2 z19 helix 10 LH"), gear("gear m2 z40 helix 10 LH")), MeshFault::hand));
    CHECK_FALSE(
        says(mesh_of(gear("gear m2 z19 helix 10 LH"), gear("gear m2 z40 helix 10 RH")), MeshFault::hand));
    CHECK(says(mesh_of(gear("gear m2 z19 helix 10 LH"), gear("internal gear m2 z60 helix 10 RH")),
               MeshFault::hand));
    CHECK(says(mesh_of(a, gear("gear m2 z73"), mm(91.8)), MeshFault::centre)); // too near: the teeth overlap
    CHECK(says(mesh_of(a, gear("gear m2 z73"), mm(80)), MeshFault::centre));   // no line of action
    CHECK(says(mesh_of(a, gear("gear m2 z73"), mm(95.5)), MeshFault::contact_ratio));
    CHECK(
        says(mesh_of(gear("internal gear m2 z60"), gear("internal gear m2 z80")), MeshFault::both_internal));
    CHECK(says(mesh_of(gear("gear m2 z40"), gear("internal gear m2 z43 k0.2")), MeshFault::internal_tips));
    // a cutter that hardly reached deeper than the wheel's tips left roots that they dig into
    CHECK(says(mesh_of(gear("gear m2 z20 x0.2 rack 1/1.05/0.4"), gear("gear m2 z80 x0.1 rack 1.15/1.25/0.3")),
               MeshFault::root_contact));
    // undercut took the foot of the involute away: the wheel's tips pass, but touch less
    const GearMesh undercut = mesh_of(gear("gear m2 z10"), gear("gear m2 z80"));
    CHECK_FALSE(says(undercut, MeshFault::root_contact));
    CHECK(says(undercut, MeshFault::contact_ratio));
    CHECK_FALSE(says(mesh_of(gear("gear m2 z10 x0.5"), gear("gear m2 z80")), MeshFault::root_contact));
}

TEST_CASE("flanks are conjugate: run numerically, the gap stays constant within half a micrometre") {
    for (const auto& [one, two] : {std::pair{"gear m2 z19 thin 0.1", "gear m2 z73"},
                                   std::pair{"gear m2 z12 x0.5 thin 0.1", "gear m2 z31 x0.2"},
                                   std::pair{"gear m2 z24 helix 20 LH thin 0.1", "gear m2 z40 helix 20 RH"},
                                   std::pair{"gear m2 z20 thin 0.1", "internal gear m2 z60 k0.2"}}) {
        INFO(one << " with " << two);
        const ResolvedGear a = gear(one), b = gear(two);
        const GearMesh m = mesh_of(a, b);
        REQUIRE(m.runs());
        // half the backlash on either side of a tooth that stands in the middle of its space
        const double expected = m.backlash / 2 / m.second_radius;
        for (int i = 0; i < 12; ++i) {
            const double gap = free_angle(a, b, m, a.pitch_angle() * i / 12.0 - 0.01);
            INFO("turned by " << i << "/12 of a pitch, gap " << gap * b.base_radius << " mm, expected "
                              << expected * b.base_radius);
            CHECK(std::abs(gap - expected) * b.base_radius < 5e-4);
        }
    }
}

TEST_CASE("tooth counts for a ratio") {
    const auto choices = teeth_for_ratio(73.0 / 19, 1e-9, 12, 120, 10);
    REQUIRE(choices.size() == 1);
    CHECK(choices[0].first == 19);
    CHECK(choices[0].second == 73);
    CHECK(choices[0].hunting);
    const auto third = teeth_for_ratio(3, 0.02, 12, 60, 50);
    REQUIRE_FALSE(third.empty());
    CHECK(third.front().hunting); // 3 : 1 itself has a common factor and stands behind
    CHECK_FALSE(third.back().hunting);
    for (const auto& c : third)
        CHECK(std::abs(static_cast<double>(c.second) / c.first / 3 - 1) <= 0.02);
}

TEST_CASE("random pairs: the same seen from either gear, and without backlash at their own distance") {
    std::mt19937 random(5);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const auto whole = [&](int a, int b) { return std::uniform_int_distribution<int>(a, b)(random); };
    int meshed = 0;
    for (int i = 0; i < 400; ++i) {
        GearSpec s;
        s.module = mm(std::round(between(0.5, 8) * 100) / 100);
        s.teeth = whole(8, 120);
        s.pressure_angle = deg(between(15, 25));
        if (whole(0, 1) == 1) s.helix_angle = deg(between(1, 35));
        s.profile_shift = between(-0.3, 0.6);
        GearSpec t = mating_gear(s, whole(8, 200));
        t.profile_shift = between(-0.3, 0.6);
        const ResolvedGear a = resolve_gear(s), b = resolve_gear(t);
        if (a.trouble != ToothTrouble::none || b.trouble != ToothTrouble::none) continue;
        INFO(write_gear(s) << " with " << write_gear(t));
        const GearMesh m = mesh_of(a, b), n = mesh_of(b, a);
        if (!m.meshes) continue;
        ++meshed;
        CHECK(std::abs(m.backlash) < 1e-9 * m.centre);
        CHECK(n.centre == Approx(m.centre).epsilon(1e-12));
        CHECK(n.contact_ratio == Approx(m.contact_ratio).epsilon(1e-9));
        CHECK(n.ratio == Approx(1 / m.ratio));
        CHECK(n.contact_from == Approx(-m.contact_to).epsilon(1e-9).margin(1e-9));
        CHECK(m.first_radius + m.second_radius == Approx(m.centre).epsilon(1e-12));
        CHECK(m.second_radius / m.first_radius == Approx(m.ratio).epsilon(1e-12));
        // the classical length of contact: √(ra1² − rb1²) + √(ra2² − rb2²) − a·sin αw; where undercut took
        // the foot of a flank away, it ends there instead of at the other one's tip
        const auto string = [](const ResolvedGear& g, double radius) {
            return std::sqrt(radius * radius - g.base_radius * g.base_radius);
        };
        const double all = m.centre * std::sin(m.working_angle); // between the base circles
        double from = all - string(b, b.tip_radius), to = string(a, a.tip_radius);
        if (a.undercut) from = std::max(from, string(a, a.form_radius));
        if (b.undercut) to = std::min(to, all - string(b, b.form_radius));
        if (!says(m, MeshFault::root_contact)) // else a tip stands where the path would end
            CHECK(m.contact_to - m.contact_from == Approx(to - from).epsilon(1e-9).margin(1e-9));
        // nothing slides at the pitch point, and the two flanks slide against each other elsewhere
        CHECK(std::abs(sliding_at(m, 0).first) < 1e-9);
        const Sliding v = sliding_at(m, 0.3 * m.contact_to);
        CHECK(v.first * v.second < 0);
        // apart by a little: the backlash grows as 2·Δa·tan αw to first order
        const double apart = 1e-3 * in_mm(s.module);
        CHECK(mesh_of(a, b, mm(m.centre + apart)).backlash ==
              Approx(2 * apart * std::tan(m.working_angle)).epsilon(0.02));
        // one turn of the first turns the second by the ratio, the other way
        CHECK(m.second_turn(1) - m.second_turn(0) == Approx(-1 / m.ratio));
    }
    CHECK(meshed > 200);
}

TEST_CASE("a ring turns the same way as its pinion, and sits around it") {
    for (const int z : {18, 24, 31}) {
        GearSpec s;
        s.teeth = z;
        GearSpec r;
        r.internal = true;
        r.teeth = 3 * z + 1;
        r.tip_shortening = 0.2;
        const ResolvedGear a = resolve_gear(s), b = resolve_gear(r);
        const GearMesh m = mesh_of(a, b);
        INFO("z " << z);
        REQUIRE(m.meshes);
        CHECK(m.internal);
        CHECK(m.centre == Approx(r.teeth - s.teeth)); // (z2 − z1)·m/2 with m = 2
        CHECK(std::abs(m.backlash) < 1e-9);
        CHECK(m.second_turn(1) - m.second_turn(0) == Approx(1 / m.ratio));
        CHECK(m.second_radius - m.first_radius == Approx(m.centre));
        // more contact than the same teeth outside
        GearSpec outside = r;
        outside.internal = false;
        CHECK(m.contact_ratio > mesh_of(a, resolve_gear(outside)).contact_ratio);
    }
}

TEST_CASE("the profile shift for a centre distance is the one whose distance that is") {
    for (const auto& [one, two] : {std::pair{"gear m2 z19 x0.1", "gear m2 z73"},
                                   std::pair{"gear m3 z12 x0.3 helix 15 RH", "gear m3 z40 helix 15 LH"},
                                   std::pair{"gear m2 z20", "internal gear m2 z73"}}) {
        INFO(two);
        const ResolvedGear a = gear(one);
        GearSpec spec = parse_gear(two).spec;
        spec.profile_shift = 0.37;
        const double distance = mesh_of(a, resolve_gear(spec)).centre;
        const GearMesh asked = mesh_of(a, gear(two), mm(distance));
        REQUIRE(asked.closing_shift);
        CHECK(*asked.closing_shift == Approx(0.37).epsilon(1e-9));
        CHECK(says(asked, MeshFault::loose) !=
              says(asked, MeshFault::centre)); // too wide, or for the ring too far
    }
    CHECK_FALSE(says(mesh_of(gear("gear m2 z19"), gear("gear m2 z73"), mm(92.05)), MeshFault::loose));
}

TEST_CASE("centre distances and contact ratios of 48 pairs by a second derivation") {
    for (const test::GearRow& row : test::gear_table) {
        const GearSpec s = test::spec_of(row);
        GearSpec t = mating_gear(s, row.other_teeth);
        t.profile_shift = row.other_shift;
        INFO(write_gear(s) << " with " << write_gear(t));
        const GearMesh m = mesh_of(resolve_gear(s), resolve_gear(t));
        CHECK(m.centre == Approx(row.centre).margin(2e-7));
        CHECK(m.contact_ratio == Approx(row.contact_ratio).margin(2e-8));
    }
}

TEST_CASE("backlash of a helical pair: square to the flanks it is the plane of action's") {
    const ResolvedGear a = gear("gear m2 z19 helix 20 LH"), b = gear("gear m2 z43 helix 20 RH");
    const double without = mesh_of(a, b).centre;
    const GearMesh m = mesh_of(a, b, mm(without + 0.2));
    const auto row = [&](const char* key) { return find_value(m.values, key)->value.value(); };
    CHECK(row("backlash") == Approx(m.backlash));
    // along the line of action in the transverse plane, then square to the teeth on the base cylinder
    const double base_helix =
        std::asin(std::sin(20 * std::numbers::pi / 180) * std::cos(20 * std::numbers::pi / 180));
    const double along = row("backlash") * std::cos(std::acos((a.base_radius + b.base_radius) / m.centre));
    CHECK(row("normal_backlash") == Approx(along * std::cos(base_helix)));
    CHECK(row("normal_backlash") < row("backlash"));
}

TEST_CASE("specific sliding, from the speeds at the point of contact") {
    // The gears turn about their own axes; at a distance s from the pitch point the contact slides by s times
    // the difference of turning, and the first one's flank rolls by its radius of curvature times its own.
    for (const auto& [first, second] :
         {std::pair{"gear m2 z19", "gear m2 z43"}, std::pair{"gear m2 z19", "internal gear m2 z60"},
          std::pair{"gear m2 z25 helix 15 LH", "gear m2 z25 helix 15 RH"}}) {
        INFO(first << " in " << second);
        const ResolvedGear a = gear(first), b = gear(second);
        const GearMesh m = mesh_of(a, b);
        const double turned = (m.internal ? 1 : -1) * a.spec.teeth / static_cast<double>(b.spec.teeth);
        for (const double s :
             {0.5 * m.contact_from, 0.2 * m.contact_from, 0.4 * m.contact_to, m.contact_to}) {
            const double slides = s * (1 - turned), first_rolls = m.first_string + s,
                         second_rolls = first_rolls - slides; // what of the speed the second has
            const Sliding is = sliding_at(m, s);
            CHECK(is.first == Approx(slides / first_rolls));
            CHECK(is.second == Approx(-slides / second_rolls));
        }
        CHECK(sliding_at(m, 0).first == Approx(0).margin(1e-12)); // at the pitch point they roll
    }
}
