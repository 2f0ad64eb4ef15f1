// Involute gears against published values, closed forms and a brute-force generation.
#include "form/designation.hpp"
#include "form/tooth/gear.hpp"
#include "form/tooth/measure.hpp"
#include "gear_table.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <numbers>

using namespace whorl;

namespace {
GearSpec spur(double module, int teeth, double shift = 0) {
    GearSpec s;
    s.module = mm(module);
    s.teeth = teeth;
    s.profile_shift = shift;
    return s;
}
} // namespace

TEST_CASE("the involute function and its inverse") {
    // tabulated to seven places in every gear handbook
    CHECK(involute(in_rad(deg(14.5))) == Approx(0.0055448).margin(5e-8));
    CHECK(involute(in_rad(deg(20))) == Approx(0.0149044).margin(5e-8));
    CHECK(involute(in_rad(deg(25))) == Approx(0.0299753).margin(5e-8));
    CHECK(involute(in_rad(deg(30))) == Approx(0.0537515).margin(5e-8));
    for (double a = 0.02; a < 1.45; a += 0.013)
        CHECK(inverse_involute(involute(a)) == Approx(a).epsilon(1e-11));
}

TEST_CASE("outlines are without a gap at every tooth count") {
    for (int z = 5; z <= 1000; z += z < 200 ? 1 : 50)
        for (const double shift : {0.0, 0.5}) {
            const ResolvedGear g = resolve_gear(spur(2, z, shift));
            INFO("z " << z << ", x " << shift << ", trouble " << static_cast<int>(g.trouble));
            if (g.trouble == ToothTrouble::pointed_tip) {
                CHECK((shift == 0.5 && z < 9));
                continue;
            }
            REQUIRE(g.trouble == ToothTrouble::none);
            REQUIRE(g.half_outline.size() == 4);
            for (std::size_t i = 0; i + 1 < g.half_outline.size(); ++i) {
                const auto &a = g.half_outline[i], &b = g.half_outline[i + 1];
                const TransversePoint p = point_at(a, a.to), q = point_at(b, b.from);
                CHECK(std::hypot(p.x - q.x, p.y - q.y) < 1e-8);
                // tangents agree, but where an undercut cuts the flank off and at the tip's edge
                const TransverseJet j = jet_at(a, a.to), k = jet_at(b, b.from);
                const double turn = std::atan2(j.x.c[1] * k.y.c[1] - j.y.c[1] * k.x.c[1],
                                               j.x.c[1] * k.x.c[1] + j.y.c[1] * k.y.c[1]);
                if (i == 0) CHECK(std::abs(turn) < 1e-7);
                if (i == 1 && !g.undercut && b.from > 1e-3) CHECK(std::abs(turn) < 1e-6);
            }
        }
}

TEST_CASE("span measurements agree with the handbooks' constants for 20 degrees") {
    // W = m·(1.476066·(2k − 1) + 0.01400554·z + 0.6840403·x), the form tables of Wk are printed from
    struct Row {
        int z, k;
        double x, w; // for module 1
    };
    for (const Row& r :
         {Row{10, 2, 0, 4.5683}, Row{14, 2, 0, 4.6243}, Row{17, 2, 0, 4.6663}, Row{18, 3, 0, 7.6324},
          Row{19, 3, 0, 7.6464}, Row{22, 3, 0, 7.6885}, Row{24, 3, 0, 7.7165}, Row{25, 3, 0, 7.7305},
          Row{27, 4, 0, 10.7106}, Row{30, 4, 0, 10.7526}, Row{36, 5, 0, 13.7888}, Row{40, 5, 0, 13.8448},
          Row{45, 6, 0, 16.8670}, Row{50, 6, 0, 16.9370}, Row{60, 7, 0, 20.0292}, Row{72, 9, 0, 26.1015},
          Row{73, 9, 0, 26.1155}, Row{80, 9, 0, 26.2136}, Row{100, 12, 0, 35.3500}}) {
        INFO("z " << r.z << " k " << r.k);
        CHECK(span_measurement(resolve_gear(spur(1, r.z, r.x)), r.k) == Approx(r.w).margin(1.2e-4));
    }
    for (int z = 8; z < 140; z += 7)
        for (const double x : {-0.2, 0.0, 0.35})
            for (int k = 2; k <= 2 + z / 12; ++k) {
                const double w = 1.476066 * (2 * k - 1) + 0.01400554 * z + 0.6840403 * x;
                const ResolvedGear g = resolve_gear(spur(2.5, z, x));
                if (g.trouble != ToothTrouble::none) continue;
                CHECK(span_measurement(g, k) ==
                      Approx(2.5 * w).margin(2.5 * ((2 * k - 1) * 5e-7 + z * 5e-9 + 5e-8)));
            }
}

TEST_CASE("circles, thicknesses and limits of gears") {
    const ResolvedGear g = resolve_gear(spur(2, 24));
    CHECK(2 * g.pitch_radius == Approx(48));
    CHECK(2 * g.tip_radius == Approx(52));
    CHECK(2 * g.root_radius == Approx(43));
    CHECK(2 * g.base_radius == Approx(45.105).margin(5e-4)); // 48·cos 20°
    CHECK(tooth_thickness(g, g.pitch_radius) == Approx(std::numbers::pi));
    // the shift that just avoids undercut with an addendum of one module: x = 1 − z·sin²α/2 = (17.097 −
    // z)/17.097
    for (const int z : {8, 10, 12, 15, 17}) {
        const ResolvedGear u = resolve_gear(spur(3, z));
        CHECK(u.undercut);
        CHECK(u.least_profile_shift ==
              Approx((17.0973 - z) / 17.0973).margin(1.2e-4)); // hf − ρ(1 − sin α) = 1 to 4 digits
        CHECK_FALSE(resolve_gear(spur(3, z, u.least_profile_shift + 1e-6)).undercut);
        CHECK(resolve_gear(spur(3, z, u.least_profile_shift - 1e-3)).undercut);
    }
    CHECK_FALSE(resolve_gear(spur(3, 18)).undercut);
    // root and base circle swap at about 42 teeth
    CHECK(resolve_gear(spur(1, 41)).root_radius < resolve_gear(spur(1, 41)).base_radius);
    CHECK(resolve_gear(spur(1, 42)).root_radius > resolve_gear(spur(1, 42)).base_radius);
    // helical, ISO 21771: mt = mn/cos β, tan αt = tan αn/cos β, sin βb = sin β·cos αn
    GearSpec h = spur(4, 30);
    h.helix_angle = deg(20);
    const ResolvedGear r = resolve_gear(h);
    CHECK(2 * r.pitch_radius == Approx(30 * 4 / std::cos(in_rad(deg(20)))));
    CHECK(in_deg(rad(r.transverse_pressure_angle)) == Approx(21.1728).margin(1e-4));
    CHECK(2 * std::numbers::pi / r.twist ==
          Approx(std::numbers::pi * 4 * 30 / std::sin(in_rad(deg(20)))).epsilon(1e-9));
}

namespace {

// How far a point of the gear lies outside the rack's tooth, mm, negative inside it: the rack is written down
// anew here, by its flat tip, corner arcs and flanks.
double outside_rack(const GearSpec& s, const ResolvedGear& g, double along, double height) {
    const double m = in_mm(s.module), a = in_rad(s.pressure_angle), cb = std::cos(in_rad(s.helix_angle));
    const double pitch = std::numbers::pi * m;
    double x = std::abs(std::remainder(along * cb, pitch)); // in the normal plane
    const double y = height - s.profile_shift * m, tip = -s.rack.dedendum * m, rho = g.root_rounding;
    const double half = (std::numbers::pi * m / 2 + in_mm(s.thinning)) / 2;
    const double cy = tip + rho, cx = half + cy * std::tan(a) - rho / std::cos(a);
    const double flank = (x - half - y * std::tan(a)) * std::cos(a);
    if (x <= cx) return tip - y;
    // in the corner's sector, seen from the arc's centre
    const double dx = x - cx, dy = y - cy, angle = std::atan2(-dy, dx);
    if (angle >= a) return std::hypot(dx, dy) - rho;
    return flank;
}

// The least distance over a whole passage of the rack, by trying positions and closing in on the best.
double least_outside(const GearSpec& s, const ResolvedGear& g, const TransversePoint& p) {
    const auto at = [&](double phi) {
        const double gamma = p.angle() - phi, r = p.radius();
        return outside_rack(s, g, r * std::sin(gamma) + g.pitch_radius * phi,
                            r * std::cos(gamma) - g.pitch_radius);
    };
    double best = 1e9, where = 0;
    constexpr int steps = 4000;
    const double reach = 4 * std::numbers::pi / g.spec.teeth + 0.6;
    for (int i = -steps; i <= steps; ++i)
        if (const double d = at(reach * i / steps); d < best) best = d, where = reach * i / steps;
    double low = where - reach / steps, high = where + reach / steps;
    for (int i = 0; i < 60; ++i) {
        const double a = low + (high - low) * 0.382, b = low + (high - low) * 0.618;
        (at(a) < at(b) ? high : low) = at(a) < at(b) ? b : a;
    }
    return std::min(best, at((low + high) / 2));
}

} // namespace

TEST_CASE("outlines are what a passing rack leaves, to less than a micrometre") {
    struct Case {
        int z;
        double x, beta, thin;
        const char* rack;
    };
    for (const Case& c :
         {Case{5, 0, 0, 0, "A"}, Case{7, 0.2, 0, 0, "A"}, Case{11, 0, 0, 0.1, "C"}, Case{17, 0, 0, 0, "D"},
          Case{19, 0, 0, 0, "A"}, Case{43, -0.3, 0, 0, "B"}, Case{131, 0.4, 0, 0, "A"},
          Case{9, 0, 25, 0, "A"}, Case{23, 0.1, 15, 0.05, "C"}, Case{73, 0, 35, 0, "A"}}) {
        GearSpec s = spur(2, c.z, c.x);
        s.helix_angle = deg(c.beta);
        s.thinning = mm(c.thin);
        s.rack = *standard::basic_rack(c.rack);
        const ResolvedGear g = resolve_gear(s);
        INFO("z " << c.z << " x " << c.x << " beta " << c.beta << " trouble " << static_cast<int>(g.trouble));
        REQUIRE(g.trouble == ToothTrouble::none);
        for (std::size_t k = 0; k < 3; ++k)
            for (const double part : {0.02, 0.3, 0.5, 0.77, 0.98}) {
                const auto& curve = g.half_outline[k];
                const double off =
                    least_outside(s, g, point_at(curve, curve.from + part * (curve.to - curve.from)));
                INFO("curve " << k << " at " << part);
                CHECK(std::abs(off) < 1e-3 * 0.1); // a tenth of a micrometre
            }
    }
}

TEST_CASE("pins are measured as they lie in the space") {
    // a circle against the outline by brute force: how far from the axis it comes to rest
    for (const int z : {12, 19, 24, 43, 80})
        for (const bool internal : {false, true}) {
            GearSpec s = spur(2, z, internal ? 0 : 0.1);
            s.internal = internal;
            if (internal && z < 40) continue;
            const ResolvedGear g = resolve_gear(s);
            REQUIRE(g.trouble == ToothTrouble::none);
            const double pin = usual_pin(g);
            const auto& flank = *std::find_if(g.half_outline.begin(), g.half_outline.end(),
                                              [](const auto& c) { return c.shape == CurveShape::involute; });
            const auto clearance = [&](double centre) {
                double least = 1e9;
                for (int i = 0; i <= 20000; ++i) {
                    const TransversePoint p =
                        point_at(flank, flank.from + (flank.to - flank.from) * i / 20000);
                    least = std::min(least, std::hypot(p.x - centre, p.y) - pin / 2);
                }
                return least;
            };
            // outside it rests where it would sink in further towards the axis, inside away from it
            double low = pin_seat(g, pin).centre - 0.2, high = low + 0.4;
            for (int i = 0; i < 40; ++i) {
                const double middle = (low + high) / 2;
                ((clearance(middle) > 0) == internal ? low : high) = middle;
            }
            INFO("z " << z << " internal " << internal << " pin " << pin);
            CHECK(low == Approx(pin_seat(g, pin).centre).margin(2e-5));
            const double across = z % 2 == 0 ? 2 * low : 2 * low * std::cos(std::numbers::pi / 2 / z);
            CHECK(pin_measurement(g, pin) == Approx(internal ? across - pin : across + pin).margin(5e-5));
        }
}

TEST_CASE("gears are written and read back") {
    for (const char* text :
         {"gear m2 z24 a20 b12", "gear m1.25 z19 a20 helix 15 LH b10", "internal gear m2 z73 a20 b12",
          "gear m2 z11 a14.5 x0.45 rack C k0.05 tip chamfer 0.2 thin 0.05", "gear dp12 z30 a20 b0.75",
          "gear m3 z20 a25 rack 1/1.35/0.2 tip round 0.3"}) {
        const GearDesignation d = parse_gear(text);
        CHECK(write_gear(d.spec, d.length) == text);
        CHECK(parse_gear(write_gear(d.spec, d.length)).spec == d.spec);
    }
    // any order, any case, blanks as one likes
    const GearSpec s = parse_gear("Gear B 12 Z24 m 2 LH helix15 A20").spec;
    CHECK(s.teeth == 24);
    CHECK(s.hand == Hand::left);
    CHECK(in_deg(s.helix_angle) == Approx(15));
    CHECK(in_inch(parse_gear("gear dp 12 z30 b3/4").length.value()) == Approx(0.75));
    CHECK(is_gear("internal gear m2"));
    CHECK_FALSE(is_gear("M10"));
    CHECK(std::holds_alternative<GearSpec>(parse_designation("gear m2 z24 b12").what));
}

TEST_CASE("what is wrong with a gear is said with its place") {
    const auto position = [](const char* text) {
        try {
            (void)parse_gear(text);
        } catch (const InputError& e) {
            CHECK(std::string(e.what()).size() > 20);
            return static_cast<int>(e.position);
        }
        return -1;
    };
    CHECK(position("gear z24 b12") == 12);   // no module
    CHECK(position("gear m2 b12") == 11);    // no teeth
    CHECK(position("gear m2 z4.5") == 8);    // half a tooth
    CHECK(position("gear m2 z24 q7") == 12); // no such letter
    CHECK(position("gear m2 z24 rack E") == 17);
    CHECK(position("gear m2 z24 tip blunt 1") == 16);
    CHECK(position("gear m2 z24 b") == 12); // a number is missing
    CHECK(position("gear m2 z24 x9") >= 0); // out of range
    CHECK(position("gear m0.001 z24") >= 0);
    CHECK(position("gear m2 z24 a35 rack D") >= 0); // the rack comes to a point
}

TEST_CASE("a tooth is as thick on any circle as its involute says, and the caliper's numbers follow") {
    const ResolvedGear g = resolve_gear(parse_gear("gear m2 z24").spec);
    const double pi = std::numbers::pi;
    // on the pitch circle the chord is d·sin(π/2z), its height m + d/2·(1 − cos(π/2z))
    const Thickness pitch = thickness_at(g, 48);
    CHECK(pitch.arc == Approx(pi));
    CHECK(pitch.chord == Approx(48 * std::sin(pi / 48)));
    CHECK(pitch.height == Approx(2 + 24 * (1 - std::cos(pi / 48))));
    CHECK(thickness_at(g, 50).arc == Approx(2.4092).margin(5e-5)); // dy·(s/d + inv α − inv αy) by hand
    CHECK(thickness_at(g, 52).arc == Approx(g.tip_thickness));
    CHECK(thickness_at(g, 43).arc > 1.25 * pi); // the foot spreads into its fillets
    CHECK(thickness_at(g, 43).arc < 43 * pi / 24);
    for (const double off : {42.9, 52.1, 0.0, -48.0})
        CHECK_THROWS_AS(thickness_at(g, off), InputError);
    const ResolvedGear ring = resolve_gear(parse_gear("internal gear m2 z60").spec);
    CHECK(thickness_at(ring, 120).arc == Approx(pi));
    CHECK(thickness_at(ring, 120).height == Approx(2 - 60 * (1 - std::cos(pi / 120))));
}

TEST_CASE("a drawing's data block says what the maker needs") {
    const auto block =
        data_block(resolve_gear(parse_gear("gear m2 z24 helix 12 LH x0.2 thin 0.05").spec), mm(12));
    const auto said = [&](const std::string& name) {
        for (const auto& [n, v] : block)
            if (n == name) return v;
        return std::string("(missing)");
    };
    CHECK(block.front().first == "Normal module");
    CHECK(said("Number of teeth") == "24");
    CHECK(said("Direction of helix") == "left");
    CHECK(said("Profile shift coefficient") == "0.2");
    CHECK(said("Face width") == "12");
    CHECK(said("Backlash allowance") == "0.05 off the normal thickness");
    CHECK(said("Over pins").find(" with Ø ") != std::string::npos);
    const auto ring = data_block(resolve_gear(parse_gear("internal gear m2 z60").spec));
    CHECK(ring[1].second == "-60");
}

TEST_CASE("48 gears measured by a second derivation: span, pins, centre, contact, undercut limit") {
    for (const test::GearRow& row : test::gear_table) {
        const GearSpec s = test::spec_of(row);
        INFO(write_gear(s));
        const ResolvedGear g = resolve_gear(s);
        CHECK(span_measurement(g, row.spanned) == Approx(row.span).margin(2e-7));
        CHECK(ball_measurement(g, row.pin) == Approx(row.over_balls).margin(2e-7));
        const bool helical = row.helix_angle != 0;
        const double across = (row.over_balls - row.pin) /
                              (row.teeth % 2 == 0 ? 1 : std::cos(std::numbers::pi / 2 / row.teeth));
        CHECK(pin_measurement(g, row.pin) ==
              Approx(helical ? across + row.pin : row.over_balls).margin(2e-7));
        CHECK(g.least_profile_shift == Approx(row.least_shift).margin(1e-8));
    }
}

TEST_CASE("a word that is said a second time is the one that is marked") {
    for (const auto& [text, second] : {std::pair{"gear m2 m3 z24", "m3"}, std::pair{"gear m2 z24 z25", "z25"},
                                       std::pair{"gear m2 z24 b5 b6", "b6"}}) {
        INFO(text);
        try {
            (void)parse_gear(text);
            FAIL("not refused");
        } catch (const InputError& e) {
            CHECK(std::string(text).substr(e.position, e.extent) == second);
            CHECK(std::string(e.what()).find("second time") != std::string::npos);
        }
    }
    CHECK_THROWS_AS(parse_rack_bar("rack m2 z20 z21"), InputError);
}

TEST_CASE("an odd count of helical teeth measures differently over balls and over pins") {
    // printed beside each other for mn 2, z 25, β 20° and Ø 3.6: 57.724 over two balls, 57.831 over pins
    GearSpec s;
    s.module = mm(2);
    s.teeth = 25;
    s.helix_angle = deg(20);
    const ResolvedGear g = resolve_gear(s);
    const double pin = find_value(g.values, "pin_diameter")->value.value();
    INFO("pin " << pin);
    CHECK(*find_value(g.values, "over_balls")->value == Approx(57.724).margin(5e-4));
    CHECK(*find_value(g.values, "over_pins")->value == Approx(57.831).margin(5e-4));
    CHECK(find_value(g.values, "over_pins")->source.starts_with("three pins"));
    s.internal = true;
    s.teeth = 61;
    const ResolvedGear ring = resolve_gear(s);
    CHECK(find_value(ring.values, "over_pins")->label == "Between balls");
    CHECK(find_value(ring.values, "over_balls") == nullptr);
    s.helix_angle = deg(0);
    CHECK(find_value(resolve_gear(s).values, "over_pins")->label == "Between pins");
}

TEST_CASE("a gear's remaining rows by another way: base helix, transverse values, thinned teeth") {
    GearSpec s;
    s.module = mm(2);
    s.teeth = 31;
    s.helix_angle = deg(17);
    s.thinning = mm(0.08);
    const ResolvedGear g = resolve_gear(s);
    const auto row = [&](const char* key) { return find_value(g.values, key)->value.value(); };
    const double b = 17 * std::numbers::pi / 180, an = 20 * std::numbers::pi / 180;
    // from the lead: one and the same for every cylinder
    const double lead = 2 * std::numbers::pi * row("pitch_diameter") / 2 / std::tan(b);
    CHECK(row("lead") == Approx(lead));
    CHECK(std::tan(row("base_helix_angle")) == Approx(std::numbers::pi * row("base_diameter") / lead));
    CHECK(row("transverse_module") == Approx(2 / std::cos(b)));
    CHECK(std::tan(row("transverse_pressure_angle")) == Approx(std::tan(an) / std::cos(b)));
    CHECK(row("base_pitch") * row("teeth") == Approx(std::numbers::pi * row("base_diameter")));
    CHECK(row("circular_pitch") * row("teeth") == Approx(std::numbers::pi * row("pitch_diameter")));
    // the thinning is taken off square to the tooth
    CHECK(row("tooth_thickness") == Approx((std::numbers::pi * 2 / 2 - 0.08) / std::cos(b)));
    CHECK(row("tooth_depth") == Approx(2.25 * 2));
    CHECK(row("diametral_pitch") == Approx(12.7));
}

TEST_CASE("the data block of a drawing says each thing under its own name") {
    GearSpec s;
    s.module = mm(2);
    s.teeth = 25;
    s.helix_angle = deg(20);
    s.hand = Hand::left;
    s.profile_shift = 0.25;
    s.thinning = mm(0.05);
    const ResolvedGear g = resolve_gear(s);
    const auto block = data_block(g, mm(14));
    const auto said = [&](const std::string& name) {
        for (const auto& [key, value] : block)
            if (key == name) return value;
        FAIL("the data block has no " << name);
        return std::string();
    };
    const double d = 2 * 25 / std::cos(20 * std::numbers::pi / 180);
    const auto number = [&](const char* name) { return std::stod(said(name)); };
    CHECK(number("Normal module") == 2);
    CHECK(number("Number of teeth") == 25);
    CHECK(said("Direction of helix") == "left");
    CHECK(number("Helix angle") == 20);
    CHECK(number("Reference diameter") == Approx(d).margin(6e-5));
    CHECK(number("Tip diameter") == Approx(d + 2 * 2 * 1.25).margin(6e-4));
    CHECK(number("Root diameter") == Approx(d - 2 * 2 * (1.25 - 0.25)).margin(6e-4));
    CHECK(number("Base diameter") == Approx(2 * g.base_radius).margin(6e-5));
    CHECK(number("Tooth depth") == Approx(4.5));
    CHECK(number("Face width") == 14);
    CHECK(number("Lead") ==
          Approx(std::numbers::pi * d / std::tan(20 * std::numbers::pi / 180)).margin(6e-4));
    CHECK(number("Profile shift coefficient") == 0.25);
    CHECK(said("Backlash allowance").starts_with("0.05 off"));
    CHECK(said("Over balls") != said("Over pins"));
    s.helix_angle = deg(0);
    s.internal = true;
    s.teeth = 60;
    s.thinning = mm(0);
    for (const auto& [key, value] : data_block(resolve_gear(s))) {
        if (key == "Number of teeth") CHECK(value == "-60"); // ISO counts a ring's negative
        if (key == "Direction of helix") CHECK(value == "none (spur)");
        if (key == "Backlash allowance") CHECK(value == "none");
        CHECK(key != "Face width");
    }
}
