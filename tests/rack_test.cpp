// Racks: what the standards and textbooks publish, the written form, and what is refused.
#include "form/tooth/gear_designation.hpp"
#include "quantity/input_error.hpp"

#include <catch2/catch.hpp>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

ResolvedRack rack(const char* text) {
    return resolve_rack(parse_rack_bar(text).spec);
}
double value(const ResolvedRack& r, const std::string& key) {
    for (const auto& v : r.values)
        if (v.key == key) return v.value.value();
    FAIL("no value " << key);
    return 0;
}

} // namespace

TEST_CASE("the standard basic rack tooth of ISO 53, per module") {
    struct Row {
        const char* type;
        double dedendum, radius;
    };
    for (const Row& row :
         {Row{"A", 1.25, 0.38}, Row{"B", 1.25, 0.30}, Row{"C", 1.25, 0.25}, Row{"D", 1.4, 0.39}}) {
        INFO(row.type);
        const ResolvedRack r = rack((std::string("rack m1 z10 profile ") + row.type).c_str());
        CHECK(value(r, "circular_pitch") == Approx(3.14159265).epsilon(1e-8));
        CHECK(value(r, "addendum") == Approx(1));
        CHECK(value(r, "dedendum") == Approx(row.dedendum));
        CHECK(value(r, "root_rounding") == Approx(row.radius).epsilon(2e-3)); // 0.39 just fits
        CHECK(value(r, "tooth_thickness") == Approx(1.57079633).epsilon(1e-8));
        // π/2 − 2·tan 20° and the space's bottom
        CHECK(value(r, "tip_thickness") == Approx(0.84285586).epsilon(1e-7));
    }
}

TEST_CASE("measures of racks, worked out another way") {
    // over a pin of Ø 3.5 in module 2: its middle stands where flanks at 20° are 3.5/cos 20° apart
    const ResolvedRack r = rack("rack m2 z20 b20 h20");
    const double middle = (3.5 / std::cos(pi / 9) - pi) / 2 / std::tan(pi / 9);
    CHECK(over_pin(r, 3.5) == Approx(18 + middle + 1.75).epsilon(1e-12));
    CHECK(r.length == Approx(40 * pi));
    // slanting teeth are farther apart along the rack
    const ResolvedRack s = rack("rack m2 z20 helix 30 RH");
    CHECK(s.pitch() == Approx(2 * pi / std::cos(pi / 6)));
    CHECK(s.lean == Approx(-std::tan(pi / 6)));
    CHECK(rack("rack m2 z20 helix 30 LH").lean == Approx(std::tan(pi / 6)));
    // what is left uncut counts from the edge of the end spaces at the tips
    const ResolvedRack p = rack("rack m2 z10 plain 12/8");
    CHECK(p.length == Approx(20 * pi + 20 + (pi + 4 * std::tan(pi / 9))));
    CHECK(p.first_space == Approx(12 + pi / 2 + 2 * std::tan(pi / 9)));
    // teeth from the length
    CHECK(rack("rack m1 l100").teeth == 31);
    CHECK(rack("rack m1 l31.4159265359").teeth == 10);
    CHECK(rack("rack dp12 z30 b3/4 h1").pitch() == Approx(25.4 * pi / 12));
}

TEST_CASE("the outline of a rack's tooth has no gap and no kink but at the tip") {
    for (const char* text :
         {"rack m2 z5", "rack m2 z5 profile D", "rack m1 z5 a14.5 tip round 0.2",
          "rack m3 z5 a25 tip chamfer 0.4", "rack m2 z5 helix 20", "rack m2 z5 profile 1/1.25/0"}) {
        INFO(text);
        const ResolvedRack r = rack(text);
        REQUIRE(r.trouble == ToothTrouble::none);
        for (std::size_t i = 0; i + 1 < r.half_outline.size(); ++i) {
            const TransverseCurve &a = r.half_outline[i], &b = r.half_outline[i + 1];
            const TransversePoint p = point_at(a, a.to), q = point_at(b, b.from);
            CHECK(std::hypot(p.x - q.x, p.y - q.y) < 1e-12);
            if (b.shape == CurveShape::arc || a.shape == CurveShape::arc) {
                const TransverseJet u = jet_at(a, a.to), v = jet_at(b, b.from);
                const double cross = u.x.c[1] * v.y.c[1] - u.y.c[1] * v.x.c[1];
                CHECK(std::abs(cross) <
                      1e-9 * std::hypot(u.x.c[1], u.y.c[1]) * std::hypot(v.x.c[1], v.y.c[1]));
            }
        }
        CHECK(point_at(r.half_outline.front(), 0).y == 0);
        CHECK(point_at(r.half_outline.back(), 1).y == Approx(pi * in_mm(r.spec.module) / 2));
    }
}

TEST_CASE("racks are written as they are read") {
    std::mt19937 random(7);
    const auto pick = [&](int n) { return std::uniform_int_distribution<int>(0, n - 1)(random); };
    for (int i = 0; i < 300; ++i) {
        std::string text = pick(2) ? "rack m1.25" : "rack dp16";
        text += pick(2) ? " z" + std::to_string(1 + pick(90)) : " l" + std::to_string(20 + pick(4));
        if (pick(2)) text += " helix " + std::to_string(1 + pick(44)) + (pick(2) ? " LH" : " RH");
        if (pick(2)) text += pick(2) ? " profile C" : " profile 1/1.2/0.3";
        if (pick(2)) text += pick(2) ? " tip chamfer 0.01" : " tip round 0.005";
        if (pick(2)) text += " thin 0.002";
        if (pick(2)) text += pick(2) ? " plain 1" : " plain 0.5/0.75";
        text += " b0.75 h0.9";
        INFO(text);
        const RackSpec first = parse_rack_bar(text).spec;
        const RackSpec second = parse_rack_bar(write_rack(first)).spec;
        CHECK(write_rack(second) == write_rack(first));
        CHECK(resolve_rack(second).length == Approx(resolve_rack(first).length).epsilon(1e-9));
        CHECK(in_mm(second.width) == Approx(in_mm(first.width)));
    }
}

TEST_CASE("what can't be a rack says why and where") {
    struct Row {
        const char *text, *says;
        std::size_t at;
    };
    for (const Row& row :
         {Row{"rack z20", "module", 8}, Row{"rack m2", "number of teeth", 7},
          Row{"rack m2 z20 l100", "either", 12}, Row{"rack m2 z0", "1 to 2000", 8},
          Row{"rack m2 z20 x0.3", "no profile shift", 12}, Row{"rack m2 z20 b-3", "more than zero", 12},
          Row{"rack m2 z20 plain", "number is wanted", 12}, Row{"rack m2 z20 profile Q", "basic rack", 20},
          Row{"rack m2 l3", "no room", 0}, Row{"rack m2 z20 a50", "pressure angle", 0}}) {
        INFO(row.text);
        try {
            (void)parse_rack_bar(row.text);
            FAIL("accepted");
        } catch (const InputError& e) {
            CHECK(std::string(e.what()).find(row.says) != std::string::npos);
            CHECK(e.position == row.at);
        }
    }
    // merely impossible ones resolve, with their trouble
    CHECK(rack("rack m2 z20 profile 1.9/1.25/0.3 a25").trouble == ToothTrouble::pointed_tip);
    CHECK(rack("rack m2 z20 tip round 1.9").trouble == ToothTrouble::tip_edge);
}

TEST_CASE("a thinned rack's teeth: thickness, tip, over a pin") {
    RackSpec s;
    s.module = mm(2);
    s.teeth = 12;
    s.helix_angle = deg(15);
    s.thinning = mm(0.1);
    const ResolvedRack r = resolve_rack(s);
    s.thinning = mm(0);
    const ResolvedRack full = resolve_rack(s);
    const auto row = [](const ResolvedRack& of, const char* key) {
        return find_value(of.values, key)->value.value();
    };
    const double stretch = 1 / std::cos(15 * 3.14159265358979 / 180);
    CHECK(row(r, "tooth_thickness") == Approx((3.14159265358979 - 0.1) * stretch));
    CHECK(row(full, "tooth_thickness") - row(r, "tooth_thickness") == Approx(0.1 * stretch));
    CHECK(row(full, "tip_thickness") - row(r, "tip_thickness") == Approx(0.1 * stretch));
    // a pin sinks by half the widening over the slope of the flank, in the normal plane
    const double slope = std::tan(20 * 3.14159265358979 / 180);
    CHECK(over_pin(full, 3.4) - over_pin(r, 3.4) == Approx(0.1 / 2 / slope).margin(1e-6));
}
