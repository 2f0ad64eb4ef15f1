// Forces between cam and follower, joints of a timing that are moved, conjugate lobes.
#include "form/cam/cam.hpp"
#include "form/cam/drum.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

ResolvedCam cam_of(const std::string& text) {
    const CamDesignation d = parse_cam(text);
    return resolve_cam(d.spec, d.length ? in_mm(*d.length) : 0);
}
double value(const std::vector<ResolvedValue>& values, const char* key) {
    const ResolvedValue* v = find_value(values, key);
    INFO(key);
    REQUIRE(v);
    REQUIRE(v->value);
    return *v->value;
}

} // namespace

TEST_CASE("the pressure of steel cylinders is that of the textbook's short formula") {
    // p = 0.418·√(F·E/(b·ρ)), Niemann; the figure has three places
    for (const double rho : {2.0, 10.0, 75.0})
        CHECK(line_pressure(1000, 10, 1 / rho) ==
              Approx(0.418 * std::sqrt(1000 * steel_modulus / (10 * rho))).epsilon(1e-3));
    CHECK(line_pressure(0, 10, 0.1) == 0);
    CHECK(line_pressure(1000, 10, -0.1) == 0); // a follower that does not fit the hollow presses nowhere
}

TEST_CASE("a harmonic rise lifts off where its deceleration takes what presses the follower on") {
    // a_max = h/2·(π/β)²·ω², at the top of the rise
    const double h = 10, beta = 2 * pi / 3, mass = 0.2, force = 12;
    const ResolvedCam c = cam_of("cam r30: rise 10 in 120 harmonic, dwell 60, return in 120 harmonic, dwell; "
                                 "roller 8; b10; mass 200 preload 12; 300 rpm");
    REQUIRE(c.loads);
    const double omega = std::sqrt(force / (mass * h / 2000 * pi * pi / beta / beta));
    REQUIRE(c.loads->lift_off_rpm);
    CHECK(*c.loads->lift_off_rpm == Approx(omega * 30 / pi).epsilon(1e-6));
    CHECK(value(c.values, "lift_off_speed") == *c.loads->lift_off_rpm);
    // and at that speed the force just goes to nothing
    CamSpec s = c.spec;
    s.rpm = *c.loads->lift_off_rpm;
    CHECK(resolve_cam(s).loads->least_force == Approx(0).margin(1e-6));
    CHECK(resolve_cam(s).loads->force_needed == Approx(force).epsilon(1e-6));
}

TEST_CASE("the shaft gives over a rise what spring and load take, and nothing over a turn") {
    for (const char* follower :
         {"roller 8", "roller 8 offset 4", "roller 8 swing 50 60", "flat", "mushroom 60"}) {
        INFO(follower);
        const ResolvedCam c =
            cam_of("cam r40: rise 8 in 100 cycloidal, dwell 50, return in 120 modified-sine, "
                   "dwell; " +
                   std::string(follower) + "; b8; mass 350 spring 1.5 preload 20; 450 rpm");
        REQUIRE(c.loads);
        double rise = 0, turn = 0;
        constexpr int n = 36000;
        for (int k = 0; k < n; ++k) {
            const double theta = 2 * pi * (k + 0.5) / n,
                         m = shaft_torque(c.spec.load, c.motion.at(theta), 450);
            turn += m * 2 * pi / n;
            if (theta < 100 * pi / 180) rise += m * 2 * pi / n;
        }
        // the mass begins and ends at rest, so its work is nothing
        CHECK(rise == Approx(20 * 8 + 1.5 * 8 * 8 / 2).epsilon(1e-6));
        CHECK(turn == Approx(0).margin(1e-6));
    }
}

TEST_CASE("extremes of forces are those of a look at every hundredth of a degree") {
    std::mt19937 random(271);
    std::uniform_real_distribution<double> unit(0, 1);
    const char* laws[]{"parabolic", "harmonic", "cycloidal", "3-4-5", "4-5-6-7", "modified-sine"};
    for (int i = 0; i < 40; ++i) {
        const double h = 2 + 8 * unit(random), up = 80 + 60 * unit(random), down = 80 + 60 * unit(random);
        const std::string text =
            "cam r45: rise " + std::to_string(h) + " in " + std::to_string(up) + " " + laws[i % 6] +
            ", dwell 20, " + "return in " + std::to_string(down) + " " + laws[(i + 2) % 6] + ", dwell; " +
            (i % 3 == 0   ? "roller 10"
             : i % 3 == 1 ? "roller 12 swing 80 95"
                          : "flat") +
            "; b9; mass " + std::to_string(50 + 400 * unit(random)) + " spring " +
            std::to_string(3 * unit(random)) + " preload " + std::to_string(40 * unit(random)) + "; " +
            std::to_string(200 + 1000 * unit(random)) + " rpm";
        INFO(text);
        const ResolvedCam c = cam_of(text);
        REQUIRE(c.loads);
        double least = 1e300, contact = 0, torque = 0, pressure = 0;
        for (std::size_t part = 0; part < c.motion.parts.size(); ++part)
            for (int k = 0; k <= 6000; ++k) {
                const MotionPart& p = c.motion.parts[part];
                const double theta = p.from + (p.to - p.from) * k / 6000;
                const Derivatives d = c.motion.at(theta, part);
                const double omega = c.spec.rpm * 2 * pi / 60;
                const double f = c.spec.load.force + c.spec.load.rate * d[0] +
                                 c.spec.load.mass / 1000 * d[2] / 1000 * omega * omega;
                const FollowerPlace at = follower_at(c.spec, c.motion, theta, part);
                least = std::min(least, f);
                const double n = std::max(0.0, f) / std::cos(at.pressure_angle);
                contact = std::max(contact, n);
                torque = std::max(torque, std::abs(f * d[1]));
                const double rho = roller_radius(c.spec);
                const double bend = 1 / at.curvature_radius + (rho > 0 ? 1 / rho : 0);
                pressure =
                    std::max(pressure, std::sqrt(std::max(0.0, n * 206000 / 9 * bend / (2 * pi * 0.91))));
            }
        CHECK(c.loads->least_force == Approx(least).epsilon(1e-6).margin(2e-5));
        CHECK(c.loads->greatest_contact == Approx(contact).epsilon(1e-6));
        CHECK(c.loads->greatest_torque == Approx(torque).epsilon(1e-6));
        CHECK(c.loads->greatest_pressure == Approx(pressure).epsilon(1e-6));
        // with what is said to be needed it stays on
        CamSpec s = c.spec;
        s.load.force = c.loads->force_needed;
        CHECK(resolve_cam(s).loads->least_force > -1e-6);
    }
}

TEST_CASE("loads are read, written and held within their ranges") {
    const CamSpec s =
        parse_cam("cam r20: rise 5 in 120, dwell 60, return in 120, dwell; roller 8; b10; mass 0.25 kg "
                  "spring 0.8 N/mm preload 5 N; 120 rpm")
            .spec;
    CHECK(s.load == FollowerLoad{250, 0.8, 5});
    CHECK(parse_cam(write_cam(s, mm(10))).spec == s);
    CHECK_FALSE(resolve_cam(parse_cam("cam r20: dwell; roller 8").spec).loads);
    CHECK_THROWS_WITH(parse_cam("cam r20: dwell; roller 8; mass -3"),
                      Catch::Contains("must be between 0 and 1000000 g"));
    CHECK_THROWS_WITH(parse_cam("cam r20: dwell; roller 8; mass 3 mass 4"), Catch::Contains("a second time"));
    CHECK_THROWS_WITH(parse_cam("cam r20: dwell; roller 8; spring"), Catch::Contains("spring 0.8"));
    const DrumSpec d =
        parse_drum("drum cam d72 b50: rise 20 in 150, dwell 30, return in 150, dwell; groove 8 wide 6 "
                   "deep; mass 80 preload 3; 200 rpm")
            .spec;
    CHECK(parse_drum(write_drum(d, mm(50))).spec == d);
    CHECK_THROWS_WITH(parse_drum("drum cam d72 b50: dwell; groove 8 wide 6 deep; spring 2"),
                      Catch::Contains("needs no spring"));
}

TEST_CASE("a drum cam's roller is pressed by its mass both ways, and its torque by its slope") {
    const ResolvedDrum d = resolve_drum(
        parse_drum("drum cam d72 b50: rise 20 in 150 cycloidal, dwell 30, return in 150, dwell; groove 8 "
                   "wide 6 deep; mass 80; 300 rpm")
            .spec,
        mm(50));
    REQUIRE(d.loads);
    CHECK_FALSE(d.loads->lift_off_rpm);
    // m·a of a cycloid is 2π·h/β²·ω² at a quarter of the way
    const double beta = 150 * pi / 180, omega = 10 * pi;
    CHECK(-d.loads->least_force == Approx(0.08 * 2 * pi * 0.020 / beta / beta * omega * omega).epsilon(1e-6));
    CHECK(value(d.values, "largest_contact_force") >
          -d.loads->least_force); // over the pressure angle's cosine
    CHECK(value(d.values, "contact_pressure") > 0);
    CHECK_FALSE(find_value(d.values, "lift_off_speed"));
}

TEST_CASE("a joint that is moved takes its neighbours along and leaves the others where they are") {
    const auto timing = [](const char* text) { return parse_timing(text); };
    const Timing t = timing("rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell 60");
    const std::vector<PlacedJoint> joints = joints_of(t);
    REQUIRE(joints.size() == 3);
    CHECK(joints[0].angle == Approx(120 * pi / 180));
    CHECK(joints[0].lift == Approx(10));
    CHECK(write_timing(with_joint(t, joints[0], 100 * pi / 180, 10)) ==
          "rise 10 in 100 cycloidal, dwell 80, return in 120 harmonic, dwell 60");
    // upwards: `return` alone follows by itself, and so it does across a dwell
    CHECK(write_timing(with_joint(t, joints[1], joints[1].angle, 12)) ==
          "rise 12 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell 60");
    // what is said makes up for it
    const Timing two = timing("rise 4 in 60, dwell 30, rise 6 in 90, dwell, return 10 in 120, dwell 20");
    CHECK(write_timing(with_joint(two, joints_of(two)[0], 50 * pi / 180, 5)) ==
          "rise 5 in 50 cycloidal, dwell 40, rise 5 in 90 cycloidal, dwell, return 10 in 120 cycloidal, "
          "dwell 20");
    // past the other level a rise becomes a return
    CHECK(write_timing(with_joint(two, joints_of(two)[0], 60 * pi / 180, 11)) ==
          "rise 11 in 60 cycloidal, dwell 30, return 1 in 90 cycloidal, dwell, return 10 in 120 cycloidal, "
          "dwell 20");
    // a spline's point goes where it is drawn, between its neighbours
    const Timing free = timing("spline to 10 in 120 through 30/2.5 60/7, dwell 60, return in 180");
    const PlacedJoint point = joints_of(free)[1];
    REQUIRE(point.point == 1);
    CHECK(with_joint(free, point, 70 * pi / 180, 6).stretches[0].through[1].lift == Approx(6));
    CHECK(with_joint(free, point, 200 * pi / 180, 6).stretches[0].through[1].angle < 120 * pi / 180);
}

TEST_CASE("however a joint is moved, the timing closes as it did") {
    std::mt19937 random(9);
    std::uniform_real_distribution<double> unit(0, 1);
    const Timing timings[]{
        parse_timing("rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell 60"),
        parse_timing("rise 4 in 60, dwell 30, rise 6 in 90, dwell, return 10 in 120, dwell 20"),
        parse_timing("rise 4 in 90, return 7 in 90, rise 3 in 90, dwell"),
        parse_timing("dwell 40, rise 4 in 60 3-4-5, return 2 in 60, dwell 20, return 2 in 80, dwell")};
    for (int i = 0; i < 400; ++i) {
        const Timing& t = timings[i % 4];
        const auto joints = joints_of(t);
        const std::size_t k = static_cast<std::size_t>(unit(random) * static_cast<double>(joints.size()));
        const Timing now = with_joint(t, joints[k], 7 * unit(random), 30 * unit(random) - 10);
        INFO(write_timing(t) << " → " << write_timing(now));
        const Motion m = motion_of(now);
        CHECK(m.angle_left() == Approx(0).margin(1e-9));
        CHECK(m.closure_gap() == Approx(0).margin(1e-9));
        const auto moved = joints_of(now);
        REQUIRE(moved.size() == joints.size());
        for (std::size_t j = 0; j < joints.size(); ++j)
            if (j != k) CHECK(moved[j].angle == Approx(joints[j].angle).margin(1e-12));
    }
}

TEST_CASE("a conjugate pair of lobes touches a yoke's two followers all around") {
    for (const char* follower : {"roller 8", "roller 10 offset 3", "knife", "flat", "mushroom 60"})
        for (const char* way : {"", " clockwise", " at 50"}) {
            const CamDesignation d = parse_cam(
                "cam r24: rise 6 in 90 cycloidal, dwell 40, rise 2 in 50 3-4-5, dwell 20, return in 120 "
                "modified-sine, dwell; " +
                std::string(follower) + "; b8; conjugate" + way);
            INFO(write_cam(d.spec));
            REQUIRE(d.spec.conjugate);
            CHECK(parse_cam(write_cam(d.spec, d.length)).spec == d.spec);
            const CamSpec second = conjugate_of(d.spec, *d.spec.conjugate);
            const ResolvedCam a = resolve_cam(d.spec), b = resolve_cam(second);
            CHECK(a.trouble == CamTrouble::none);
            CHECK(b.trouble == CamTrouble::none);
            for (int k = 0; k < 360; ++k) {
                const double theta = (k + 0.3) * pi / 180;
                const FollowerPlace f = follower_at(d.spec, a.motion, theta),
                                    g = follower_at(second, b.motion, theta);
                // the second one stands on the other side: its place turned by half a turn
                CHECK(f.centre.x + g.centre.x == Approx(in_mm(*d.spec.conjugate)).margin(1e-9));
                CHECK(f.centre.y + g.centre.y == Approx(0).margin(1e-9));
                CHECK(a.motion.at(theta)[0] + b.motion.at(theta)[0] == Approx(0).margin(1e-9));
            }
        }
    // splines turn over with their points and slopes
    const CamSpec free =
        parse_cam("cam r30: spline to 0 in 360 through 45/3/0.1 90/8 180/10 270/4; roller 8").spec;
    const CamSpec second = conjugate_of(free, usual_apart(free));
    const Motion m = motion_of(free.timing), n = motion_of(second.timing);
    for (int k = 0; k < 360; ++k)
        CHECK(m.at(k * pi / 180)[0] + n.at(k * pi / 180)[0] == Approx(0).margin(1e-9));
    CHECK_THROWS_WITH(
        parse_cam("cam r20: rise 5 in 90, dwell, return in 90; roller 8 swing 50 60; conjugate 120"),
        Catch::Contains("can't stand"));
    CHECK_THROWS_WITH(
        parse_cam("cam r20: rise 5 in 90, dwell, return in 90; roller 8 swing 50 60; conjugate 10"),
        Catch::Contains("nothing is left"));
    CHECK_THROWS_WITH(parse_cam("cam r20: rise 5 in 90, dwell, return in 90; roller 8; conjugate 20"),
                      Catch::Contains("nothing is left of the second lobe"));
    CHECK_THROWS_WITH(parse_cam("cam conjugate 60; roller 8"), Catch::Contains("from the first"));
}

TEST_CASE("a conjugate pair of lobes touches both arms of a rocker all around") {
    for (const char* follower : {"roller 8 swing 50 60", "knife swing 50 62", "mushroom 30 swing 60 60"})
        for (const char* way : {"; conjugate", "; conjugate clockwise", "; conjugate at 50"}) {
            const CamDesignation d = parse_cam(
                "cam r24: rise 6 in 90 cycloidal, dwell 40, rise 2 in 50 3-4-5, dwell 20, return in 120 "
                "modified-sine, dwell; " +
                std::string(follower) + "; b8" + way);
            INFO(write_cam(d.spec));
            REQUIRE(d.spec.conjugate);
            const CamSpec second = conjugate_of(d.spec, *d.spec.conjugate);
            const ResolvedCam a = resolve_cam(d.spec), b = resolve_cam(second);
            CHECK(a.trouble == CamTrouble::none);
            CHECK(b.trouble == CamTrouble::none);
            if (std::string_view(way) == "; conjugate") // as large as the first
                CHECK(b.largest_radius == Approx(a.largest_radius).margin(0.02));
            const double arm = in_mm(*d.spec.arm),
                         pivot = (d.spec.clockwise ? 1 : -1) * in_mm(*d.spec.centre);
            for (int k = 0; k < 360; ++k) {
                const double theta = (k + 0.3) * pi / 180;
                const FollowerPlace f = follower_at(d.spec, a.motion, theta),
                                    g = follower_at(second, b.motion, theta);
                // one rigid rocker: both on its arms, as far apart as asked
                CHECK(std::hypot(g.centre.x, g.centre.y - pivot) == Approx(arm).margin(1e-9));
                CHECK(std::hypot(f.centre.x - g.centre.x, f.centre.y - g.centre.y) ==
                      Approx(in_mm(*d.spec.conjugate)).margin(1e-9));
                CHECK(f.centre.x > 0);
                CHECK(g.centre.x < 0);
            }
            // and the second one's outline is as far from its follower's place, in the shaft, as it must be
            for (int k = 0; k < 360; k += 31) {
                const double theta = (k + 0.3) * pi / 180,
                             turn = (d.spec.clockwise ? 1 : -1) * theta + second.at;
                const FollowerPlace g = follower_at(second, b.motion, theta);
                double nearest = 1e9;
                for (const LobeCurve& c : b.outline)
                    for (int i = 0; i <= 3000; ++i) {
                        const TransversePoint q =
                            point_at(c.curve, c.curve.from + (c.curve.to - c.curve.from) * i / 3000);
                        const double x = q.x * std::cos(c.turned) - q.y * std::sin(c.turned),
                                     y = q.x * std::sin(c.turned) + q.y * std::cos(c.turned);
                        const double cx = g.centre.x * std::cos(turn) - g.centre.y * std::sin(turn),
                                     cy = g.centre.x * std::sin(turn) + g.centre.y * std::cos(turn);
                        nearest = std::min(nearest, std::hypot(x - cx, y - cy));
                    }
                CHECK(nearest == Approx(roller_radius(second)).margin(0.02));
                CHECK(nearest > roller_radius(second) - 1e-6);
            }
            // the distance that gives another base radius does give it
            const double base = in_mm(second.base_radius) + 1;
            CHECK(in_mm(conjugate_of(d.spec, apart_with_base(second, base)).base_radius) == Approx(base));
        }
}

TEST_CASE("a timing that is changed in one place keeps its words in the others") {
    const Names names{{"stroke", mm(8)}};
    const char* text = "rise stroke in 2*45 harmonic, dwell 30, return in 120";
    const Timing was = parse_timing(text, LengthUnit::millimetre, names);
    Timing now = was;
    now.stretches[0].law = Law::cycloidal;
    CHECK(with_changes(text, was, now, LengthUnit::millimetre) ==
          "rise stroke in 2*45 cycloidal, dwell 30, return in 120");
    now.stretches[1].angle = 1;
    now.stretches.push_back({CamStretch::dwell, {}, {}, Law::cycloidal});
    CHECK(with_changes(text, was, now, LengthUnit::millimetre) ==
          "rise stroke in 2*45 cycloidal, dwell 57.29578, return in 120, dwell");
    now = was;
    now.stretches.pop_back();
    now.stretches[0].lift = 4;
    CHECK(with_changes(text, was, now, LengthUnit::millimetre) == "rise 4 in 90 harmonic, dwell 30");
    CHECK(with_changes(text, was, was, LengthUnit::millimetre) == text);
    now = was;
    now.stretches[2].law = Law::poly345; // none was written
    CHECK(with_changes(text, was, now, LengthUnit::millimetre) ==
          "rise stroke in 2*45 harmonic, dwell 30, return in 120 3-4-5");
}

TEST_CASE("with a hundredth less than the force needed at lift 0 the follower lifts off") {
    for (const char* text :
         {"cam r33: rise 9 in 105 cycloidal, dwell 40, return in 130 3-4-5, dwell; roller 12; b14; mass 150 "
          "spring 0.4; 600 rpm",
          "cam r30: rise 10 in 120 harmonic, dwell 60, return in 120 harmonic, dwell; flat; b10; mass 400; "
          "200 rpm"}) {
        INFO(text);
        const ResolvedCam c = cam_of(text);
        REQUIRE(c.loads);
        REQUIRE(c.loads->force_needed > 1);
        for (const double part : {0.99, 1.01}) {
            CamSpec s = c.spec;
            s.load.force = part * c.loads->force_needed;
            const ResolvedCam with = resolve_cam(s, 10);
            REQUIRE(with.loads);
            CHECK((with.loads->least_force < 0) == (part < 1));
            REQUIRE(with.loads->lift_off_rpm);
            CHECK((*with.loads->lift_off_rpm < s.rpm) == (part < 1));
        }
    }
}

TEST_CASE("the second lobe of a pair holds its follower on: nothing lifts off, each lobe carries its way") {
    const CamDesignation d =
        parse_cam("cam r33: rise 9 in 105 cycloidal, dwell 40, return in 130 3-4-5, dwell; roller 12; "
                  "conjugate 92; b14; mass 150; 300 rpm");
    CamSpec first = d.spec;
    first.conjugate.reset();
    const ResolvedCam alone = resolve_cam(first, 14);
    REQUIRE(alone.loads);
    CHECK(alone.loads->least_force == Approx(-2.49).margin(0.01));
    first.held = true;
    const ResolvedCam held = resolve_cam(first, 14),
                      second = resolve_cam(conjugate_of(first, *d.spec.conjugate), 14);
    for (const ResolvedCam* lobe : {&held, &second}) {
        REQUIRE(lobe->loads);
        CHECK_FALSE(lobe->loads->lift_off_rpm);
        CHECK_FALSE(find_value(lobe->values, "least_contact_force"));
        CHECK_FALSE(find_value(lobe->values, "lift_off_speed"));
    }
    // each by its own: the first where the follower is pressed away from it, the second where it is drawn back
    double pushed = 0, drawn = 0;
    const double omega = 300 * pi / 30;
    for (int k = 0; k < 72000; ++k) {
        const double theta = 2 * pi * k / 72000, f = 150e-6 * held.motion.at(theta)[2] * omega * omega;
        pushed = std::max(pushed, f / std::cos(follower_at(held.spec, held.motion, theta).pressure_angle));
        drawn = std::max(drawn, -f / std::cos(follower_at(second.spec, second.motion, theta).pressure_angle));
    }
    CHECK(held.loads->greatest_contact == Approx(pushed).epsilon(1e-5));
    CHECK(second.loads->greatest_contact == Approx(drawn).epsilon(1e-5));
    CHECK(held.loads->greatest_torque == Approx(second.loads->greatest_torque).epsilon(1e-6));
    // a load at lift 0 presses on the first and off the second
    first.load.force = 40;
    const ResolvedCam loaded = resolve_cam(conjugate_of(first, *d.spec.conjugate), 14);
    CHECK(loaded.loads->greatest_contact == 0);
}

TEST_CASE("where the outer wall of a face groove carries, it is that wall's hollow that is pressed") {
    // drawn outwards all the way round, so that the outer wall carries
    const ResolvedCam c =
        cam_of("cam r30: rise 8 in 120 cycloidal, dwell 60, return in 120 cycloidal, dwell; roller 8; b12; "
               "groove 5 deep in d110; preload -50; 60 rpm");
    REQUIRE(c.loads);
    double most = 0;
    const auto centre = [&](double theta) { // of the roller, on the cam
        const FollowerPlace f = follower_at(c.spec, c.motion, theta);
        const double co = std::cos(theta), si = std::sin(theta);
        return std::array{f.centre.x * co + f.centre.y * si, -f.centre.x * si + f.centre.y * co};
    };
    for (int k = 0; k < 7200; ++k) {
        const double theta = 2 * pi * k / 7200, h = 1e-3;
        const auto a = centre(theta - h), b = centre(theta), d = centre(theta + h);
        const double area = (b[0] - a[0]) * (d[1] - a[1]) - (d[0] - a[0]) * (b[1] - a[1]),
                     product = std::hypot(b[0] - a[0], b[1] - a[1]) * std::hypot(d[0] - b[0], d[1] - b[1]) *
                               std::hypot(d[0] - a[0], d[1] - a[1]);
        // the way goes round the axis against the cam's turning: convex to the axis is positive
        const double pitch_radius = product / (2 * std::abs(area)) * (area < 0 ? 1 : -1);
        const double force = 50 / std::cos(follower_at(c.spec, c.motion, theta).pressure_angle);
        most = std::max(most, line_pressure(force, 5, 1 / 4.0 - 1 / (pitch_radius + 4)));
    }
    CHECK(c.loads->greatest_pressure == Approx(most).epsilon(1e-3));
}
