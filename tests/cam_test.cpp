// Cams: the motion laws against published peaks and automatic differentiation, timing tables, profiles
// against textbook formulas, and a follower driven over the finished outline.
#include "form/cam/cam.hpp"
#include "form/jet.hpp"
#include "quantity/input_error.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <complex>
#include <functional>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;
constexpr double degree = pi / 180;

std::size_t piece_at(Law law, double x) {
    std::size_t piece = 0;
    for (const double b : law_breaks(law))
        if (x > b) ++piece;
    return piece;
}

// The laws once more, as the handbooks print them, in Taylor arithmetic: their derivatives follow.
Jet sine(const Jet& t) {
    return cos_sin(t).second;
}
Jet power(const Jet& x, int n) {
    Jet r = constant(1);
    for (int i = 0; i < n; ++i)
        r = r * x;
    return r;
}
Jet printed(Law law, double at) {
    const Jet x = variable(at);
    switch (law) {
    case Law::constant:
        return x;
    case Law::parabolic:
        return at <= 0.5 ? 2 * (x * x) : constant(1) - 2 * power(constant(1) - x, 2);
    case Law::harmonic:
        return 0.5 * (constant(1) - cos_sin(pi * x).first);
    case Law::cycloidal:
        return x - 1 / (2 * pi) * sine(2 * pi * x);
    case Law::poly345:
        return 10 * power(x, 3) - 15 * power(x, 4) + 6 * power(x, 5);
    case Law::poly4567:
        return 35 * power(x, 4) - 84 * power(x, 5) + 70 * power(x, 6) - 20 * power(x, 7);
    case Law::modified_sine:
        if (at < 0.125) return 1 / (4 + pi) * (pi * x - 0.25 * sine(4 * pi * x));
        if (at < 0.875)
            return 1 / (4 + pi) * (constant(2) + pi * x - 2.25 * sine(constant(pi / 3) + 4 * pi / 3 * x));
        return 1 / (4 + pi) * (constant(4) + pi * x - 0.25 * sine(4 * pi * x));
    case Law::modified_trapezoid: { // Norton's coefficients
        const double ca = 4.8881;
        if (at < 0.125) return ca * (1 / (4 * pi) * x - 1 / (16 * pi * pi) * sine(4 * pi * x));
        if (at < 0.375)
            return ca * (0.5 * (x * x) + (1 / pi - 0.5) / 4 * x +
                         constant(0.25 * (0.125 / 4 - 1 / (4 * pi * pi))) + constant(0));
        if (at < 0.625)
            return ca * (0.25 * (1 / pi + 1) * x - constant(1.0 / 16) * constant(1) -
                         1 / (16 * pi * pi) * cos_sin(4 * pi * (x - constant(0.375))).first + constant(0));
        return {};
    }
    }
    return {};
}

ResolvedCam cam(const std::string& text) {
    return resolve_cam(parse_cam(text).spec);
}
double value(const ResolvedCam& c, const char* key) {
    const ResolvedValue* v = find_value(c.values, key);
    REQUIRE(v);
    REQUIRE(v->value);
    return *v->value;
}
std::string why(const std::string& text) {
    try {
        (void)parse_cam(text);
    } catch (const InputError& e) {
        return e.what();
    }
    return "understood";
}
std::size_t where(const std::string& text) {
    try {
        (void)parse_cam(text);
    } catch (const InputError& e) {
        return e.position;
    }
    return std::string::npos;
}

// How far from the axis the follower stands over the finished outline: the outline's points, each with its
// tangent's normal, and the largest height at which a roller about the follower's way still touches none of
// them.
double driven(const ResolvedCam& c, const std::vector<TransversePoint>& points, double theta) {
    const CamSpec& s = c.spec;
    const double turn = (s.clockwise ? -theta : theta) - s.at, co = std::cos(turn), si = std::sin(turn);
    const double rho = roller_radius(s), e = in_mm(s.offset), flip = s.clockwise ? -1 : 1;
    double most = -1e300, before_x = 0, before = 0;
    bool first = true;
    for (const TransversePoint& q : points) {
        const double x = q.x * co - q.y * si, y = flip * (q.x * si + q.y * co); // as it stands now
        if (s.follower == FollowerKind::flat) {
            most = std::max(most, x);
            continue;
        }
        if (s.swings()) {
            // the angle at which the arm's roller touches this point: |A + L·(sin ψ, cos ψ) − q| = ρ
            const double l = in_mm(*s.arm), dx = x, dy = y + in_mm(*s.centre);
            const double d = std::hypot(dx, dy), cosine = (l * l + d * d - rho * rho) / (2 * l * d);
            if (std::abs(cosine) <= 1) most = std::max(most, std::atan2(dx, dy) + std::acos(cosine));
            continue;
        }
        const double beside = y + e;
        if (rho == 0) { // a knife's edge: where the outline passes under it
            if (!first && before * beside <= 0 && std::abs(beside - before) < 1)
                most = std::max(most, before == beside ? x : x - beside * (x - before_x) / (beside - before));
            first = false;
            before = beside;
            before_x = x;
            continue;
        }
        if (std::abs(beside) <= rho) most = std::max(most, x + std::sqrt(rho * rho - beside * beside));
    }
    if (s.follower == FollowerKind::flat) return most - in_mm(s.base_radius);
    if (s.swings()) {
        const double l = in_mm(*s.arm), cc = in_mm(*s.centre), rp = prime_radius(s);
        return (most - std::acos((l * l + cc * cc - rp * rp) / (2 * l * cc))) * l;
    }
    return most - std::sqrt(prime_radius(s) * prime_radius(s) - e * e);
}

std::vector<TransversePoint> points_of(const ResolvedCam& c, int each) {
    std::vector<TransversePoint> out;
    for (const LobeCurve& l : c.outline)
        for (int k = 0; k <= each; ++k) {
            const TransversePoint p =
                point_at(l.curve, l.curve.from + (l.curve.to - l.curve.from) * k / each);
            const double co = std::cos(l.turned), si = std::sin(l.turned);
            out.push_back({p.x * co - p.y * si, p.x * si + p.y * co});
        }
    return out;
}

} // namespace

TEST_CASE("motion laws: the peaks that handbooks print") {
    // Rothbart, Cam Design Handbook, table of characteristics; VDI 2143
    struct Printed {
        Law law;
        double velocity, acceleration, jerk;
    };
    for (const Printed& p :
         {Printed{Law::parabolic, 2, 4, 0}, Printed{Law::harmonic, 1.571, 4.935, 15.5},
          Printed{Law::cycloidal, 2, 6.283, 39.48}, Printed{Law::poly345, 1.875, 5.777, 60},
          Printed{Law::poly4567, 2.1875, 7.526, 52.5}, Printed{Law::modified_sine, 1.7596, 5.528, 69.47},
          Printed{Law::modified_trapezoid, 2, 4.888, 61.43}}) {
        INFO(word(p.law));
        double v = 0, a = 0, j = 0;
        for (int k = 0; k <= 20000; ++k) {
            const double x = k / 20000.0;
            const Derivatives y = law_at(p.law, x, piece_at(p.law, x));
            v = std::max(v, std::abs(y[1]));
            a = std::max(a, std::abs(y[2]));
            j = std::max(j, std::abs(y[3]));
        }
        CHECK(v == Approx(p.velocity).epsilon(1e-3));
        CHECK(a == Approx(p.acceleration).epsilon(3e-3));
        CHECK(j == Approx(p.jerk).epsilon(3e-3));
    }
}

TEST_CASE("motion laws: whole rises, smooth where they say so, alike from both ends") {
    for (int i = 0; i < law_count; ++i) {
        const auto law = static_cast<Law>(i);
        INFO(word(law));
        const std::size_t last = law_breaks(law).size();
        CHECK(std::abs(law_at(law, 0, 0)[0]) < 1e-12);
        CHECK(law_at(law, 1, last)[0] == Approx(1).margin(1e-12));
        const int rest = law == Law::constant                            ? 0
                         : law == Law::parabolic || law == Law::harmonic ? 1
                         : law == Law::poly4567                          ? 3
                                                                         : 2;
        for (int d = 1; d <= rest; ++d) {
            CHECK(std::abs(law_at(law, 0, 0)[static_cast<std::size_t>(d)]) < 1e-9);
            CHECK(std::abs(law_at(law, 1, last)[static_cast<std::size_t>(d)]) < 1e-9);
        }
        for (std::size_t b = 0; b < last; ++b) {
            const double x = law_breaks(law)[b];
            const Derivatives before = law_at(law, x, b), after = law_at(law, x, b + 1);
            for (std::size_t d = 0; d <= (law == Law::parabolic ? 1u : 2u); ++d)
                CHECK(before[d] == Approx(after[d]).margin(1e-9));
        }
        for (const double x : {0.03, 0.11, 0.2, 0.4, 0.49}) {
            const Derivatives y = law_at(law, x, piece_at(law, x)),
                              z = law_at(law, 1 - x, piece_at(law, 1 - x));
            CHECK(y[0] + z[0] == Approx(1).margin(1e-12));
            CHECK(y[1] == Approx(z[1]).margin(1e-12));
        }
    }
}

TEST_CASE("motion laws: derivatives against automatic differentiation") {
    std::mt19937 random(20261127);
    std::uniform_real_distribution<double> any(0, 1);
    for (int n = 0; n < 4000; ++n) {
        const auto law = static_cast<Law>(n % law_count);
        if (law == Law::modified_trapezoid) continue; // below, by its acceleration
        const double x = any(random);
        const Derivatives y = law_at(law, x, piece_at(law, x));
        const Jet j = printed(law, x);
        INFO(word(law) << " at " << x);
        CHECK(y[0] == Approx(j.c[0]).margin(1e-12));
        CHECK(y[1] == Approx(j.c[1]).margin(1e-11));
        CHECK(y[2] == Approx(2 * j.c[2]).margin(1e-10));
        CHECK(y[3] == Approx(6 * j.c[3]).margin(1e-9));
    }
    // every law: each derivative is the slope of the one before, by differences
    for (int n = 0; n < 4000; ++n) {
        const auto law = static_cast<Law>(n % law_count);
        const double x = 0.001 + 0.998 * any(random), h = 1e-5;
        if (piece_at(law, x - h) != piece_at(law, x + h)) continue;
        const std::size_t piece = piece_at(law, x);
        const Derivatives a = law_at(law, x - h, piece), b = law_at(law, x + h, piece),
                          y = law_at(law, x, piece);
        for (std::size_t d = 0; d < 4; ++d)
            CHECK((b[d] - a[d]) / (2 * h) == Approx(y[d + 1]).margin(2e-4).epsilon(1e-6));
    }
    // the trapezoid's acceleration, which is what gives it its name
    const double top = 8 * pi / (2 + pi);
    for (const double x : {0.13, 0.2, 0.37})
        CHECK(law_at(Law::modified_trapezoid, x, 1)[2] == Approx(top));
    CHECK(law_at(Law::modified_trapezoid, 0.0625, 0)[2] == Approx(top * std::sin(pi / 4)));
    CHECK(std::abs(law_at(Law::modified_trapezoid, 0.5, 2)[2]) < 1e-12);
    CHECK(law_at(Law::modified_trapezoid, 0.75, 3)[2] == Approx(-top));
}

TEST_CASE("a timing is read and written") {
    for (const char* text :
         {"rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell 60",
          "rise 4 in 30 3-4-5, rise 6.5 in 60 4-5-6-7, dwell, return 10.5 in 90 modified-sine",
          "rise 3 in 90 modified-trapezoid, return in 90 constant, rise 3 in 90 parabolic, return in 90 "
          "cycloidal",
          "spline to 10 in 120 through 30/2.5 60/7/0.08, dwell 60, return in 180 cycloidal",
          "spline in 360 through 45/3 90/8 180/10 270/4"}) {
        const Timing t = parse_timing(text);
        CHECK(write_timing(t) == text);
        CHECK(parse_timing(write_timing(t)) == t);
    }
    // as people write
    CHECK(parse_timing("Rise 10 in 120 Modified Sine,dwell 60 , return in 120 simple harmonic, dwell") ==
          parse_timing("rise 10 in 120 modified-sine, dwell 60, return in 120 harmonic, dwell"));
    // expressions, names and inches
    const Names names{{"stroke", mm(8)}, {"n", 3.0}};
    CHECK(parse_timing("rise stroke in 360/n, dwell, return in 90", LengthUnit::millimetre, names) ==
          parse_timing("rise 8 in 120, dwell, return in 90"));
    CHECK(*parse_timing("rise 1/2 in in 90, dwell, return in 90").stretches[0].lift == Approx(12.7));
    CHECK(*parse_timing("rise 1/2 in 90, dwell, return in 90", LengthUnit::inch).stretches[0].lift ==
          Approx(12.7));
}

TEST_CASE("a timing that is not understood says where and what would be") {
    struct Bad {
        const char* text;
        const char* says;
        std::size_t at;
    };
    for (const Bad& b :
         {Bad{"rise 10 in 120, wait 60", "A timing is made of rise, dwell, return and spline", 16},
          Bad{"rise 10, dwell 60", "Say over which angle", 5},
          Bad{"rise in 120", "A lift is expected here", 5},
          Bad{"rise 10 in 0", "An angle of a timing is more than 0", 11},
          Bad{"rise 10 in 120 sinusoidal", "Laws are constant, parabolic", 15},
          Bad{"rise 10 in 120,, dwell", "A timing is expected here", 15},
          Bad{"dwell, rise 1 in 9, dwell", "Only one dwell", 0},
          Bad{"spline to 10 in 120 through 30", "A point is written angle/lift", 28},
          Bad{"spline to 10 in 120 through 60/3 30/4", "rising angle", 33},
          Bad{"spline to 10 in 120 through 130/4", "beyond the end", 28},
          Bad{"rise 1e9 in 90", "A lift is more than 0", 5}, Bad{"rise stork in 90", "stork", 5}}) {
        INFO(b.text);
        try {
            (void)parse_timing(b.text);
            FAIL("understood");
        } catch (const InputError& e) {
            CHECK_THAT(e.what(), Catch::Contains(b.says));
            CHECK(e.position == b.at);
        }
    }
}

TEST_CASE("a motion: lifts, what it does at its joints, whether it closes") {
    const Motion m =
        motion_of(parse_timing("rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell"));
    CHECK(m.turn == Approx(2 * pi).epsilon(1e-15));
    CHECK(m.closure_gap() == Approx(0).margin(1e-12));
    CHECK(m.highest == Approx(10));
    CHECK(m.at(60 * degree)[0] == Approx(5));
    CHECK(m.at(150 * degree)[0] == Approx(10));
    CHECK(m.at(240 * degree)[0] == Approx(5));
    CHECK(m.at(60 * degree)[1] == Approx(2 * 10 / (120 * degree))); // cycloidal: 2·h/β
    CHECK(m.at((60 + 360) * degree)[0] == Approx(5));
    // a harmonic return from a dwell: the acceleration jumps by h/2·(π/β)²
    const double jump = 5 * std::pow(pi / (120 * degree), 2);
    std::size_t found = 0;
    for (const CamJump& j : m.jumps)
        if (std::abs(j.acceleration) > 1e-6) {
            ++found;
            CHECK(std::abs(j.acceleration) == Approx(jump));
            CHECK(std::abs(j.velocity) < 1e-9);
        }
    CHECK(found == 2);
    CHECK(motion_of(parse_timing("rise 10 in 120, dwell 60, return 9 in 120, dwell")).closure_gap() ==
          Approx(1));
    CHECK(motion_of(parse_timing("rise 10 in 200, return in 200")).angle_left() == Approx(-40 * degree));
    CHECK(motion_of(parse_timing("rise 10 in 100, return in 200")).angle_left() == Approx(60 * degree));
    // a spline goes through its points, its acceleration is continuous where no slope is given
    const Motion s =
        motion_of(parse_timing("spline to 10 in 120 through 30/2.5 60/7/0.08, dwell 60, return in 180"));
    CHECK(s.at(30 * degree)[0] == Approx(2.5));
    CHECK(s.at(60 * degree)[0] == Approx(7));
    CHECK(s.at(60 * degree)[1] == Approx(0.08 / degree));
    CHECK(s.at(30 * degree, 0)[2] == Approx(s.at(30 * degree, 1)[2]));
    CHECK(std::abs(s.at(0)[1]) < 1e-12);
    // one that is the whole turn is joined to itself
    const Motion w = motion_of(parse_timing("spline in 360 through 45/3 90/8 180/10 270/4"));
    for (std::size_t d = 0; d < 3; ++d)
        CHECK(w.at(2 * pi, w.parts.size() - 1)[d] == Approx(w.at(0, 0)[d]).margin(1e-9));
    CHECK(std::abs(w.at(0)[1]) > 1e-3);
    for (const CamJump& j : w.jumps)
        CHECK(std::abs(j.acceleration) < 1e-9);
}

TEST_CASE("cams: numbers that can be worked out by hand") {
    SECTION("an eccentric is a harmonic cam with a flat follower") {
        // a circle of radius R about a point e beside the axis lifts a flat face by e·(1 − cos θ)
        const ResolvedCam c = cam("cam r15: rise 10 in 180 harmonic, return in 180 harmonic; flat; b8");
        REQUIRE(c.trouble == CamTrouble::none);
        for (const TransversePoint& p : points_of(c, 7))
            CHECK(std::hypot(p.x + 5, p.y) == Approx(20).epsilon(1e-12));
        CHECK(value(c, "least_radius_of_curvature") == Approx(20));
        CHECK(value(c, "face_needed") == Approx(10).epsilon(1e-8));
        CHECK(value(c, "largest_radius") == Approx(25));
    }
    SECTION("pressure angle of a translating roller: tan φ = (s' − e)/(√(rp² − e²) + s)") {
        const ResolvedCam c = cam("cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 cycloidal, "
                                  "dwell 60; roller 8 offset 3");
        double most = 0;
        for (int k = 0; k < 72000; ++k) {
            const Derivatives d = c.motion.at(k * pi / 36000);
            most = std::max(most, std::abs(std::atan((d[1] - 3) / (std::sqrt(24 * 24 - 9) + d[0]))));
        }
        CHECK(value(c, "max_pressure_angle") == Approx(most).epsilon(1e-7));
        CHECK(value(c, "prime_radius") == 24);
        // without the offset the rise is worse and the return better
        const ResolvedCam plain =
            cam("cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 cycloidal, dwell 60; roller 8");
        CHECK(follower_at(c.spec, c.motion, 60 * degree).pressure_angle <
              follower_at(plain.spec, plain.motion, 60 * degree).pressure_angle);
    }
    SECTION("a dwell all round is a circle") {
        const ResolvedCam c = cam("cam r20: dwell; roller 8");
        for (const TransversePoint& p : points_of(c, 5))
            CHECK(p.radius() == Approx(20));
        CHECK(value(c, "least_radius_of_curvature") == Approx(20));
        CHECK(value(c, "max_velocity") == 0);
        CHECK_FALSE(c.least_hollow_radius);
    }
    SECTION("speeds: 10 mm cycloidal in 120° at 300 rpm") {
        const ResolvedCam c = cam("cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 cycloidal, "
                                  "dwell 60; roller 8; 300 rpm");
        const double beta = 120 * degree, w = 300 * 2 * pi / 60;
        CHECK(value(c, "max_velocity") == Approx(2 * 10 / beta * w));
        CHECK(value(c, "max_acceleration") == Approx(2 * pi * 10 / (beta * beta) * w * w / 1000));
        CHECK(value(c, "max_jerk") == Approx(4 * pi * pi * 10 / (beta * beta * beta) * w * w * w / 1000));
    }
    SECTION("the smallest base circle for a pressure angle, and the largest roller") {
        const CamSpec s =
            parse_cam(
                "cam r20: rise 10 in 60 cycloidal, dwell 120, return in 120 cycloidal, dwell 60; roller 8")
                .spec;
        const auto r = smallest_base_radius(s, 30 * degree);
        REQUIRE(r);
        CamSpec at = s;
        at.base_radius = mm(*r);
        CHECK(resolve_cam(at).max_pressure_angle == Approx(30 * degree).epsilon(1e-5));
        const auto rho = largest_roller(s);
        REQUIRE(rho);
        at = s;
        at.size = mm(2 * *rho * 0.99);
        CHECK(resolve_cam(at).trouble == CamTrouble::none);
        at.size = mm(2 * *rho * 1.1);
        CHECK(resolve_cam(at).trouble != CamTrouble::none);
    }
}

TEST_CASE("what can't be a cam says why") {
    const auto trouble = [](const char* text) { return cam(text).trouble; };
    CHECK(trouble("cam r20: rise 10 in 120, dwell 60, return 9 in 120, dwell; roller 8") ==
          CamTrouble::not_closed);
    CHECK(trouble("cam r20: rise 10 in 120, return in 120; roller 8") == CamTrouble::not_closed);
    CHECK(trouble("cam r20: rise 10 in 200, return in 200; roller 8") == CamTrouble::past_full_turn);
    CHECK(trouble("cam r5: rise 20 in 20 cycloidal, dwell, return in 90; roller 8") == CamTrouble::jammed);
    CHECK(trouble("cam r5: rise 10 in 60 harmonic, return in 60, dwell; flat") == CamTrouble::undercut);
    CHECK(trouble("cam r15: rise 8 in 45 harmonic, return in 45 harmonic, dwell; roller 40") ==
          CamTrouble::undercut);
    CHECK(trouble("cam r20: rise 5 in 180 constant, return in 180 constant; roller 8; conjugate") ==
          CamTrouble::speed_drops); // both lobes go by one motion
    CHECK(trouble("cam r2: rise 8 in 5 constant, return 8 in 5 constant, dwell; roller 8") !=
          CamTrouble::none); // no room
    CHECK(trouble("cam r20: rise 5 in 180 constant, return in 180 constant; knife") == CamTrouble::none);
    CHECK(trouble("cam r20: rise 5 in 120 constant, dwell, return in 120; roller 8 swing 200 100") ==
          CamTrouble::no_reach);
    CHECK(trouble("cam r3: return 5 in 120, rise 5 in 120, dwell; roller 8") == CamTrouble::too_small);
    CHECK(cam("cam r20: rise 10 in 200, return in 200; roller 8").outline.empty());
}

TEST_CASE(
    "a disc cam of constant speeds has its corners rounded until 1 mm is left of the profile's radius") {
    for (const char* text :
         {"cam r20: rise 5 in 180 constant, return in 180 constant; roller 8; b10",
          "cam r20: rise 8 in 120 constant, dwell 60, return in 120 constant, dwell; roller 8",
          "cam r25: rise 8 in 120 constant, dwell 60, return in 100 cycloidal, dwell; roller 10 "
          "offset 3 clockwise",
          "cam r25: rise 8 in 150 constant, return in 150 constant, dwell; roller 8 swing 50 60",
          "cam r30: rise 6 in 150 constant, return in 150 constant, dwell; flat",
          "cam r20: rise 8 in 120 constant, dwell 60, return in 120 constant, dwell; roller 8; "
          "b12; groove 5 deep in d90"}) {
        INFO(text);
        const ResolvedCam c = cam(text);
        REQUIRE(c.trouble == CamTrouble::none);
        REQUIRE_FALSE(c.corners.empty());
        CHECK(c.least_curvature_radius == Approx(1).epsilon(2e-3));
        // the profile itself: the circle through three near places of where the follower touches
        double least = 1e9;
        const auto touch = [&](double theta) {
            const FollowerPlace f = follower_at(c.spec, c.motion, theta);
            return std::complex<double>(f.touches.x, f.touches.y) *
                   std::exp(std::complex<double>(0, c.spec.clockwise ? theta : -theta));
        };
        for (const double corner : c.corners)
            for (double t = corner - 0.9 * c.corner_width; t < corner + 0.9 * c.corner_width;
                 t += c.corner_width / 40) {
                if (c.motion.part_at(t - 2e-5) != c.motion.part_at(t + 2e-5)) continue;
                const auto a = touch(t - 2e-5), b = touch(t), d = touch(t + 2e-5);
                const double area = std::abs((std::conj(b - a) * (d - a)).imag());
                least = std::min(least, std::abs(b - a) * std::abs(d - b) * std::abs(d - a) / (2 * area));
            }
        CHECK(least == Approx(1).epsilon(0.03));
        // outside the corners it is the timing that was asked, and over them both speeds are met
        const Motion asked = motion_of(c.spec.timing);
        for (int k = 0; k < 720; ++k) {
            const double t = pi * k / 360;
            double away = 10;
            for (const double corner : c.corners)
                away = std::min(away, std::abs(std::remainder(t - corner, 2 * pi)));
            if (away > c.corner_width + 1e-9) CHECK(c.motion.at(t)[0] == Approx(asked.at(t)[0]).margin(1e-9));
        }
        for (const CamJump& j : c.motion.jumps)
            CHECK((c.spec.disc ? std::abs(j.velocity) < 1e-7 : j.velocity > -1e-7));
        CHECK(find_value(c.values, "corner_radius")->value == Approx(1));
    }
    // a parabola between +m and −m takes m·w/2 off the top: the stroke that is left is what is said
    const ResolvedCam heart = cam("cam r20: rise 5 in 180 constant, return in 180 constant; roller 8; b10");
    const double lost = 5 / pi * heart.corner_width / 2;
    CHECK(lost > 0.005);
    CHECK(find_value(heart.values, "stroke")->value == Approx(5 - lost));
    CHECK_THAT(find_value(heart.values, "stroke")->source, Catch::Contains("less " + number_text(lost, 4)));
    // s'' is −m/w over it, and the pitch curve's radius there (r² + s'²)^1.5/(r² + 2·s'² − r·s'')
    const double r = 24 + 5 - lost, s2 = 5 / pi / heart.corner_width;
    CHECK(r * r / (r + s2) == Approx(5).epsilon(0.02)); // 1 mm and the roller's radius, in the middle
    // a knife goes over any corner
    CHECK(cam("cam r20: rise 5 in 180 constant, return in 180 constant; knife").corners.empty());
}

TEST_CASE("a cam's designation is read and written") {
    for (const char* text :
         {"cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell 60; roller 8; b10",
          "cam r25: rise 6 in 90 3-4-5, dwell, return in 90 3-4-5; roller 10 offset 4; b8 at 90",
          "cam r30: rise 6 in 90 harmonic, return in 90 harmonic, dwell; flat; b12 clockwise",
          "cam r30: rise 6 in 90 cycloidal, return in 90 cycloidal, dwell; roller 8 swing 50 60; b10; 120 "
          "rpm",
          "cam r30: rise 6 in 90 cycloidal, return in 90 cycloidal, dwell; knife; b6",
          "cam r30: rise 6 in 90 cycloidal, return in 90 cycloidal, dwell; mushroom 60 offset -2; b6"}) {
        const CamDesignation d = parse_cam(text);
        CHECK(write_cam(d.spec, d.length, d.unit) == text);
    }
    const CamDesignation inches =
        parse_cam("cam r0.8: rise 0.4 in 120, dwell, return in 120; roller 0.3; b0.4; in");
    CHECK(in_mm(inches.spec.base_radius) == Approx(20.32));
    CHECK(*inches.spec.timing.stretches[0].lift == Approx(10.16));
    CHECK(parse_cam(write_cam(inches.spec, inches.length, inches.unit)).spec == inches.spec);
    CHECK_THAT(why("cam"), Catch::Contains("begins with its base radius"));
    CHECK_THAT(why("cam r20 rise 10 in 120"), Catch::Contains("colon"));
    CHECK_THAT(why("cam r20: rise 10 in 120, dwell, return in 90; wheel 8"),
               Catch::Contains("not understood in a cam"));
    CHECK(where("cam r20: rise 10 in 120, dwell, return in 90; wheel 8") == 46);
    CHECK(where("cam r20: rise 10 in 120, wait 90; roller 8") == 25);
    CHECK_THAT(why("cam r20: rise 10 in 120, dwell, return in 90; roller 8; roller 9"),
               Catch::Contains("second time"));
    CHECK_THAT(why("cam r20: rise 10 in 120, dwell, return in 90; flat swing 50 60"),
               Catch::Contains("moves straight"));
    CHECK_THAT(why("cam r0.1: dwell; roller 8"), Catch::Contains("between 0.5 and 1000"));
}

// Textbook arrangements: every law, every follower, both senses. The outline is one closed curve, and a
// follower driven over it does what the timing says.
TEST_CASE("thirty cams: closed, and a follower driven over them gives the timing back") {
    const std::string timings[]{
        "rise 10 in 120 LAW, dwell 60, return in 120 LAW, dwell 60",
        "rise 6 in 90 LAW, return in 90 LAW, dwell",
        "dwell 30, rise 4 in 75 LAW, dwell 15, rise 5 in 75 LAW, dwell 15, return in 110 LAW, dwell"};
    const std::string followers[]{"roller 10", "roller 12 offset 3",    "flat",
                                  "knife",     "roller 10 swing 60 70", "mushroom 25"};
    int made = 0;
    for (int n = 0; n < 48; ++n) {
        const auto law = static_cast<Law>(1 + n % 7);
        std::string timing = timings[n % 3];
        for (std::size_t at; (at = timing.find("LAW")) != std::string::npos;)
            timing.replace(at, 3, word(law));
        const std::string follower = followers[(n / 3) % 6];
        const std::string text = "cam r" + std::string(follower == "flat" ? "45" : "40") + ": " + timing +
                                 "; " + follower + (n % 4 == 1 ? "; at 77" : "") +
                                 (n % 5 == 2 ? "; clockwise" : "");
        INFO(text);
        const ResolvedCam c = cam(text);
        if (c.trouble == CamTrouble::undercut) continue; // some are, and say so
        REQUIRE(c.trouble == CamTrouble::none);
        ++made;
        // one curve, once around
        for (std::size_t i = 0; i < c.outline.size(); ++i) {
            const LobeCurve &a = c.outline[i], &b = c.outline[(i + 1) % c.outline.size()];
            const TransversePoint p = point_at(a.curve, a.curve.to), q = point_at(b.curve, b.curve.from);
            CHECK(p.radius() == Approx(q.radius()).margin(1e-9));
            CHECK(std::abs(std::remainder(a.turned + p.angle() - b.turned - q.angle(), 2 * pi)) < 1e-9);
        }
        const LobeCurve &first = c.outline.front(), &last = c.outline.back();
        CHECK(last.turned + point_at(last.curve, last.curve.to).angle() - first.turned -
                  point_at(first.curve, first.curve.from).angle() ==
              Approx(2 * pi).epsilon(1e-9));
        const std::vector<TransversePoint> points = points_of(c, 4000);
        double off = 0;
        for (int k = 0; k < 24; ++k) {
            const double theta = (k * 15 + 3.7) * degree;
            off = std::max(off, std::abs(driven(c, points, theta) - c.motion.at(theta)[0]));
        }
        CHECK(off < 2e-5); // on points a hundredth of a millimetre apart
    }
    CHECK(made >= 30);
}
