// The curves of tooth outlines: derivatives, samples, radii and areas against plain numerics, over random
// gears.
#include "form/tooth/gear.hpp"
#include "form/tooth/gear_designation.hpp"
#include "form/tooth/measure.hpp"
#include "quantity/input_error.hpp"

#include <catch2/catch.hpp>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

// Gears of every kind that have an outline; always the same for the same seed.
std::vector<GearSpec> random_specs(unsigned seed, int count) {
    std::mt19937 random(seed);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const auto whole = [&](int a, int b) { return std::uniform_int_distribution<int>(a, b)(random); };
    std::vector<GearSpec> out;
    while (static_cast<int>(out.size()) < count) {
        GearSpec s;
        s.internal = whole(0, 3) == 0;
        s.module = mm(std::round(between(0.2, 12) * 100) / 100);
        s.teeth = whole(0, 2) == 0 ? whole(5, 1000) : whole(5, 80);
        s.pressure_angle = deg(std::round(between(14, 26) * 10) / 10);
        if (whole(0, 1) == 1) s.helix_angle = deg(std::round(between(1, 45) * 10) / 10);
        s.hand = whole(0, 1) == 0 && in_rad(s.helix_angle) != 0 ? Hand::left : Hand::right;
        s.profile_shift = whole(0, 1) == 0 ? 0 : std::round(between(-0.5, 0.9) * 1000) / 1000;
        const char* types[]{"A", "B", "C", "D"};
        s.rack = *standard::basic_rack(types[whole(0, 3)]);
        if (whole(0, 4) == 0)
            s.rack = {"", 1, std::round(between(1.1, 1.35) * 100) / 100,
                      std::round(between(0, 0.4) * 100) / 100};
        if (whole(0, 3) == 0) s.tip_shortening = std::round(between(0, 0.25) * 1000) / 1000;
        if (whole(0, 2) == 0) {
            s.tip_edge = whole(0, 1) == 0 ? TipEdge::chamfered : TipEdge::rounded;
            s.tip_size = mm(std::round(in_mm(s.module) * between(0.03, 0.15) * 1000) / 1000);
            if (in_mm(s.tip_size) == 0) s.tip_edge = TipEdge::sharp;
        }
        if (whole(0, 2) == 0)
            s.thinning = mm(std::round(in_mm(s.module) * between(0.01, 0.08) * 1000) / 1000);
        try {
            if (resolve_gear(s).trouble == ToothTrouble::none) out.push_back(s);
        } catch (const InputError&) {
        }
    }
    return out;
}

} // namespace

TEST_CASE(
    "outlines of random gears are continuous, rise or fall in radius, and never turn back past a tooth") {
    for (const GearSpec& s : random_specs(7, 400)) {
        const ResolvedGear g = resolve_gear(s);
        INFO(write_gear(s));
        const double m = in_mm(s.module);
        REQUIRE(g.half_outline.size() >= 4);
        CHECK(point_at(g.half_outline.front(), 0).angle() == Approx(0).margin(1e-12));
        CHECK(point_at(g.half_outline.back(), g.half_outline.back().to).angle() ==
              Approx(g.pitch_angle() / 2).epsilon(1e-12));
        for (std::size_t i = 0; i < g.half_outline.size(); ++i) {
            const TransverseCurve& c = g.half_outline[i];
            REQUIRE(c.to > c.from);
            if (i > 0) {
                const TransversePoint p = point_at(g.half_outline[i - 1], g.half_outline[i - 1].to),
                                      q = point_at(c, c.from);
                CHECK(std::hypot(p.x - q.x, p.y - q.y) < 1e-8 * std::max(1.0, g.pitch_radius));
            }
            if (c.shape == CurveShape::circle) continue;
            const double side = s.internal ? -1 : 1;
            double before = side * point_at(c, c.from).radius();
            for (int k = 1; k <= 64; ++k) {
                const TransversePoint p = point_at(c, c.from + (c.to - c.from) * k / 64);
                CHECK(side * p.radius() > before - 1e-12 * g.pitch_radius);
                before = side * p.radius();
                CHECK(p.angle() > 0);
                CHECK(p.angle() < g.pitch_angle() / 2);
            }
        }
        // the outline begins at the root circle and ends at the tip circle
        CHECK(point_at(g.half_outline[1], g.half_outline[1].from).radius() ==
              Approx(g.root_radius).margin(1e-8 * m + 1e-9 * g.pitch_radius));
        CHECK(g.half_outline.back().radius == Approx(g.tip_radius));
    }
}

TEST_CASE("jets are the derivatives, samples keep their chord, radii and areas agree with plain sums") {
    for (const GearSpec& s : random_specs(8, 60)) {
        const ResolvedGear g = resolve_gear(s);
        INFO(write_gear(s));
        for (const TransverseCurve& c : g.half_outline) {
            const double span = c.to - c.from, h = 1e-5 * span;
            for (const double part : {0.1, 0.4, 0.75, 0.95}) {
                const double t = c.from + part * span;
                const TransverseJet j = jet_at(c, t);
                const TransversePoint p = point_at(c, t), a = point_at(c, t - h), b = point_at(c, t + h);
                CHECK(std::hypot(j.x.c[0] - p.x, j.y.c[0] - p.y) < 1e-11 * g.pitch_radius);
                const double speed = std::hypot(j.x.c[1], j.y.c[1]);
                CHECK(std::hypot((b.x - a.x) / (2 * h) - j.x.c[1], (b.y - a.y) / (2 * h) - j.y.c[1]) <
                      1e-4 * speed + 1e-9 * g.pitch_radius / span);
                if (c.shape != CurveShape::circle) {
                    const double at = parameter_at_radius(c, p.radius());
                    const TransversePoint q = point_at(c, at);
                    CHECK(std::abs(q.radius() - p.radius()) < 1e-10 * g.pitch_radius);
                }
            }
            const double chord = 2e-3 * in_mm(s.module);
            const auto places = samples(c, chord);
            REQUIRE(places.front() == c.from);
            REQUIRE(places.back() == c.to);
            double polygon = 0;
            for (std::size_t i = 0; i + 1 < places.size(); ++i) {
                REQUIRE(places[i + 1] > places[i]);
                const TransversePoint a = point_at(c, places[i]), b = point_at(c, places[i + 1]);
                const double dx = b.x - a.x, dy = b.y - a.y, length = std::hypot(dx, dy);
                for (int k = 1; k < 8; ++k) {
                    const TransversePoint p = point_at(c, places[i] + (places[i + 1] - places[i]) * k / 8);
                    if (places.size() < 60) // else the count is what stopped it
                        CHECK(std::abs(dx * (p.y - a.y) - dy * (p.x - a.x)) / length < 1.05 * chord);
                }
            }
            constexpr int fine = 4000;
            for (int i = 0; i < fine; ++i) {
                const TransversePoint a = point_at(c, c.from + span * i / fine),
                                      b = point_at(c, c.from + span * (i + 1) / fine);
                polygon += a.x * b.y - a.y * b.x;
            }
            CHECK(swept(c, c.from, c.to) == Approx(polygon).epsilon(2e-6).margin(1e-9));
        }
    }
}

TEST_CASE("random gears are written and read back as the same spec") {
    for (const GearSpec& s : random_specs(9, 500)) {
        INFO(write_gear(s));
        const GearDesignation d = parse_gear(write_gear(s, mm(12.5)));
        CHECK(write_gear(d.spec, d.length) == write_gear(s, mm(12.5)));
        CHECK(resolve_gear(d.spec).tip_radius == Approx(resolve_gear(s).tip_radius).epsilon(1e-12));
        CHECK(in_mm(d.length.value()) == Approx(12.5));
    }
}

TEST_CASE("thickness and span agree with the outline they are measured on") {
    for (const GearSpec& s : random_specs(10, 60)) {
        const ResolvedGear g = resolve_gear(s);
        INFO(write_gear(s));
        const double pi = std::numbers::pi, beta = in_rad(s.helix_angle), m = in_mm(s.module);
        // ISO 21771: st = mn·(π/2 + 2x·tan αn)/cos β, less the thinning
        CHECK(tooth_thickness(g, g.pitch_radius) ==
              Approx((m * (pi / 2 + 2 * s.profile_shift * std::tan(in_rad(s.pressure_angle))) -
                      in_mm(s.thinning)) /
                     std::cos(beta))
                  .epsilon(1e-9));
        if (s.internal) continue;
        // Wk = mn·cos αn·((k − ½)·π + z·inv αt + 2x·tan αn) − thinning·cos αn
        const double a = in_rad(s.pressure_angle), at = std::atan(std::tan(a) / std::cos(beta));
        const int k = span_teeth(g);
        CHECK(span_measurement(g, k) ==
              Approx(m * std::cos(a) *
                         ((k - 0.5) * pi + s.teeth * involute(at) + 2 * s.profile_shift * std::tan(a)) -
                     in_mm(s.thinning) * std::cos(a))
                  .epsilon(1e-9));
        // the anvils touch the flanks, above the form circle and below the tip
        const double half =
            span_measurement(g, k) / 2 / std::sqrt(1 - std::pow(std::sin(beta) * std::cos(a), 2));
        const double touches = std::hypot(g.base_radius, half);
        CHECK(touches < g.tip_radius + 0.6 * m);
        CHECK(touches > g.form_radius - 0.6 * m);
    }
}
