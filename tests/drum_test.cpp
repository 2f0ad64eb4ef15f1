// Drum cams: walls against a roller carried past them, corners rounded, what closes, solids through every
// proof, and what is refused.
#include "build/build.hpp"
#include "check/check.hpp"
#include "exchange/track_outline.hpp"
#include "form/cam/drum.hpp"
#include "model/edit.hpp"
#include "model/forms/drum.hpp"
#include "model/forms/plain.hpp"
#include "model/job_file.hpp"
#include "model/ready_zone.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "roller_passage.hpp"

#include <cmath>
#include <numbers>
#include <random>

using namespace whorl;
using test::swept_over;

namespace {

constexpr double pi = std::numbers::pi;
constexpr double degree = pi / 180;
constexpr const char* usual = "drum cam d72 b50: rise 20 in 150 cycloidal, dwell 30, return in 150 "
                              "cycloidal, dwell; groove 8 wide 6 deep";
constexpr const char* polygon =
    "drum cam d72 b50: rise 20 in 90 constant, dwell 90, return in 90 constant, dwell; groove 8 wide 6 deep";

ResolvedDrum drum(const std::string& text) {
    const DrumDesignation d = parse_drum(text);
    return resolve_drum(d.spec, *d.length);
}
std::string why(const std::string& text) {
    try {
        (void)parse_drum(text);
    } catch (const InputError& e) {
        return e.what();
    }
    return "understood";
}

std::string text_of(double v) {
    return number_text(v, 3);
}

std::string random_drum(std::mt19937& random) {
    const auto real = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    const auto whole = [&](int low, int high) {
        return std::uniform_int_distribution<int>(low, high)(random);
    };
    const double d = real(20, 100), stroke = d * real(0.05, 0.35), width = d * real(0.05, 0.15);
    const bool rib = whole(0, 3) == 0;
    std::string timing;
    const auto law = [&] { return std::string(word(static_cast<Law>(whole(0, law_count - 1)))); };
    if (whole(0, 5) == 0) {
        timing = "spline in 360 through 60/" + text_of(stroke * real(0.3, 0.6)) + " 150/" + text_of(stroke) +
                 " 270/" + text_of(stroke * real(0.2, 0.6));
    } else {
        timing = "rise " + text_of(stroke) + " in " + std::to_string(whole(90, 150)) + " " + law() +
                 ", dwell " + std::to_string(whole(10, 40)) + ", return in " +
                 std::to_string(whole(90, 140)) + " " + law() + ", dwell";
        if (whole(0, 2) == 0) timing = "dwell 15, " + timing;
    }
    std::string s = "drum cam d" + text_of(d) + " b" + text_of(stroke + width + real(3, 20)) + ": " + timing +
                    "; " + (rib ? "rib " : "groove ") + text_of(width) + " wide " +
                    text_of(d * real(0.03, 0.1)) + (rib ? " high" : " deep");
    const int kind = whole(0, 5);
    if (kind < 2) s += "; straight walls";
    if (kind == 1 || kind == 2) // an arm long enough to keep its roller over the drum
        s += " swing " + text_of(std::max(stroke, stroke * stroke / (0.9 * d)) * real(1.2, 4));
    if (whole(0, 3) == 0) s += " corners blended";
    if (whole(0, 1)) s += " at " + std::to_string(whole(1, 359));
    if (whole(0, 2) == 0) s += " clockwise";
    return s;
}

void prove_drums(unsigned from, unsigned count) {
    test::prove_random(from, count, 0.6, [](std::mt19937& random, std::string& text) {
        text = random_drum(random);
        Piece piece = piece_of(text);
        const double d = in_mm(resolve_piece(piece, {}).zones[0].diameter);
        const auto real = [&](double a, double b) {
            return std::uniform_real_distribution<double>(a, b)(random);
        };
        if (random() % 2) // a shaft or a flange beside it
            piece.zones.insert(random() % 2 ? piece.zones.begin() : piece.zones.end(),
                               plain(mm(d * real(0.3, 1.3)), mm(4)));
        if (random() % 3 == 0) {
            Zone bore = plain(mm(d * 0.3), mm(1));
            bore.where = Where::near_bore;
            bore.length = {"", {}};
            piece.zones.push_back(bore);
        }
        return piece;
    });
}

bool has(const std::vector<Finding>& all, const char* id) {
    return std::any_of(all.begin(), all.end(), [&](const Finding& f) { return f.id == id; });
}

} // namespace

TEST_CASE("rolled walls against a roller carried past them") {
    for (const char* text :
         {usual, polygon,
          "drum cam d40 b40: rise 15 in 120 3-4-5, return in 120 modified-sine, dwell; "
          "groove 6 wide 5 deep; at 30 clockwise",
          "drum cam d72 b50: rise 20 in 150 cycloidal, dwell 30, return in 150 cycloidal, dwell; groove "
          "8 wide 6 deep swing 45",
          "drum cam d60 b60: rise 24 in 120 3-4-5, return in 150 modified-sine, dwell; groove 6 wide 5 "
          "deep swing 40; at 30 clockwise"}) {
        INFO(text);
        const ResolvedDrum d = drum(text);
        REQUIRE(d.trouble == DrumTrouble::none);
        double worst = 0;
        for (const WallStretch& s : wall_stretches(d))
            for (const double side : {-1.0, 1.0}) {
                const DrumWall w(d, s.part, side, s.from, s.to);
                for (const double part : {0.07, 0.4, 0.8})
                    for (const double r : {w.inner(), (w.inner() + w.outer()) / 2, w.outer()}) {
                        const WallJet j = w.along(s.from + part * (s.to - s.from), r);
                        // it touches: neither a gap nor cut into
                        worst = std::max(worst, std::abs(swept_over(d, j.theta.c[0], r, j.z.c[0])));
                    }
            }
        CHECK(worst < 1e-6); // mm
    }
    // straight walls don't: by as much as the sheet says, at the bottom
    for (const char* arm : {"", " swing 45"}) {
        const ResolvedDrum d = drum(std::string(usual) + arm + "; straight walls");
        double worst = 0;
        for (const WallStretch& s : wall_stretches(d))
            for (const double side : {-1.0, 1.0}) {
                const DrumWall w(d, s.part, side, s.from, s.to);
                for (int k = 0; k <= 40; ++k) {
                    const WallJet j = w.along(s.from + k * (s.to - s.from) / 40, w.inner());
                    worst = std::max(worst, std::abs(swept_over(d, j.theta.c[0], w.inner(), j.z.c[0])));
                }
            }
        CHECK(worst > 1e-3);
        CHECK(d.wall_difference == Approx(worst).epsilon(0.05));
        CHECK(drum(std::string(usual) + arm).wall_difference == Approx(d.wall_difference));
        // on the drum they stand as far from the middle as the roller is wide
        for (const WallStretch& s : wall_stretches(d))
            for (int k = 0; k <= 10; ++k) {
                const double t = s.from + k * (s.to - s.from) / 10;
                const TrackPath p = path_at(d, s.part, t);
                const double around = t + std::asin(p.y.c[0] / d.radius);
                const WallJet j = DrumWall(d, s.part, 1, s.from, s.to).along(t, d.radius);
                CHECK(std::hypot(d.radius * (j.theta.c[0] - around), j.z.c[0] - p.z.c[0]) ==
                      Approx(d.half_width));
            }
    }
}

TEST_CASE("a wall's derivatives, and its places found again") {
    for (const std::string& text : {std::string(usual), std::string(usual) + " swing 40",
                                    std::string(usual) + " swing 40; straight walls"}) {
        const ResolvedDrum d = drum(text);
        for (const WallStretch& s : wall_stretches(d))
            for (const double side : {-1.0, 1.0}) {
                const DrumWall w(d, s.part, side, s.from, s.to);
                const double t = s.from + 0.37 * (s.to - s.from), r = 0.3 * w.inner() + 0.7 * w.outer(),
                             h = 1e-5;
                const WallJet a = w.along(t, r), c = w.across(t, r);
                CHECK((w.along(t + h, r).theta.c[0] - w.along(t - h, r).theta.c[0]) / (2 * h) ==
                      Approx(a.theta.c[1]).margin(1e-7));
                CHECK((w.along(t + h, r).z.c[0] - w.along(t - h, r).z.c[0]) / (2 * h) ==
                      Approx(a.z.c[1]).margin(1e-6));
                CHECK((w.along(t, r + h).theta.c[0] - w.along(t, r - h).theta.c[0]) / (2 * h) ==
                      Approx(c.theta.c[1]).margin(1e-8));
                CHECK((w.along(t, r + h).z.c[0] - w.along(t, r - h).z.c[0]) / (2 * h) ==
                      Approx(c.z.c[1]).margin(1e-7));
                CHECK(w.parameter(a.theta.c[0], r) == Approx(t).epsilon(1e-12));
            }
    }
}

TEST_CASE("a developed track closes by construction") {
    for (const char* text :
         {usual, polygon,
          "drum cam d61.3 b50: spline in 360 through 45/3 90/8 180/10 270/4; groove 5 wide 4 deep"}) {
        const ResolvedDrum d = drum(text);
        const std::vector<WallStretch> all = wall_stretches(d);
        CHECK(all.back().to - all.front().from == Approx(2 * pi).epsilon(1e-15));
        for (const double side : {-1.0, 1.0})
            for (const double r : {d.radius, d.other_radius})
                for (std::size_t i = 0; i < all.size(); ++i) {
                    const WallStretch &s = all[i], &n = all[(i + 1) % all.size()];
                    const WallJet a = DrumWall(d, s.part, side, s.from, s.to).along(s.to, r),
                                  b = DrumWall(d, n.part, side, n.from, n.to).along(n.from, r);
                    CHECK(std::abs(std::remainder(a.theta.c[0] - b.theta.c[0], 2 * pi)) * r < 1e-9);
                    CHECK(std::abs(a.z.c[0] - b.z.c[0]) < 1e-9);
                }
        const std::vector<ArcPoint> edge = track_edge(d, 1);
        CHECK(edge.back().x - edge.front().x == Approx(2 * pi * d.radius).epsilon(1e-13));
        CHECK(std::abs(edge.back().y - edge.front().y) < 1e-9);
    }
}

TEST_CASE("corners of a polygon are rounded by the radius that was asked, developed on the drum's diameter") {
    const ResolvedDrum d = drum(std::string(polygon) + " corners 7");
    REQUIRE(d.corners.size() == 4);
    CHECK(d.corner_radius == 7);
    // between the corners it is the polygon
    CHECK(d.motion.at(45 * degree)[0] == Approx(10));
    CHECK(d.motion.at(135 * degree)[0] == Approx(20));
    CHECK(d.motion.closure_gap() == Approx(0).margin(1e-12));
    double sharpest = 1e300;
    for (std::size_t i = 0; i < d.motion.parts.size(); ++i) {
        const MotionPart& p = d.motion.parts[i];
        const std::size_t next = (i + 1) % d.motion.parts.size();
        const Derivatives a = d.motion.at(p.to, i), b = d.motion.at(d.motion.parts[next].from, next);
        CHECK(a[0] == Approx(b[0]).margin(1e-9));
        CHECK(a[1] == Approx(b[1]).margin(1e-9));
        for (int k = 0; k <= 100; ++k) {
            const Derivatives g = d.motion.at(p.from + (p.to - p.from) * k / 100, i);
            const double r = d.radius, slope = g[1] / r;
            if (std::abs(g[2]) > 1e-9)
                sharpest = std::min(sharpest, r * r * std::pow(1 + slope * slope, 1.5) / std::abs(g[2]));
        }
    }
    CHECK(sharpest == Approx(7).epsilon(1e-6));
    CHECK(d.least_curvature_radius == Approx(7).epsilon(1e-9));
    CHECK(find_value(d.values, "corner_radius")->value == Approx(7));
    CHECK(find_value(d.values, "corner_radius_at_bottom")->value == Approx(7 * 30 * 30 / (36. * 36)));
    // what is usual leaves half the width and a millimetre on the bottom
    const ResolvedDrum usual_corners = drum(polygon);
    CHECK(usual_corners.corner_radius == Approx(5 * 36 * 36 / (30. * 30)));
    CHECK(find_value(usual_corners.values, "corner_radius_at_bottom")->value == Approx(5));
    // one at the end of the turn, too
    const ResolvedDrum saw =
        drum("drum cam d72 b50: rise 10 in 180 constant, return in 180 constant; groove 6 wide 4 deep");
    CHECK(saw.trouble == DrumTrouble::none);
    CHECK(saw.corners.size() == 2);
    CHECK(saw.motion.parts.front().from == 0);
    CHECK(saw.motion.parts.back().to == Approx(2 * pi));
}

TEST_CASE("blended corners bend the track as sharply, without a jump of the acceleration") {
    for (const char* words : {" corners 7 blended", " corners blended"}) {
        const ResolvedDrum d = drum(std::string(polygon) + words);
        REQUIRE(d.trouble == DrumTrouble::none);
        CHECK(d.corners.size() == 4);
        const double asked = words[9] == '7' ? 7 : 5 * 36 * 36 / (30. * 30);
        CHECK(d.corner_radius == Approx(asked));
        CHECK(d.motion.at(45 * degree)[0] == Approx(10));
        CHECK(d.motion.closure_gap() == Approx(0).margin(1e-12));
        double sharpest = 1e300;
        for (std::size_t i = 0; i < d.motion.parts.size(); ++i) {
            const MotionPart& p = d.motion.parts[i];
            const std::size_t next = (i + 1) % d.motion.parts.size();
            const Derivatives a = d.motion.at(p.to, i), b = d.motion.at(d.motion.parts[next].from, next);
            for (std::size_t k = 0; k < 3; ++k)
                CHECK(a[k] == Approx(b[k]).margin(1e-7));
            for (int k = 1; k < 100; ++k) {
                const double theta = p.from + (p.to - p.from) * k / 100, h = 1e-4;
                const Derivatives g = d.motion.at(theta, i);
                // its derivatives against differences
                CHECK((d.motion.at(theta + h, i)[0] - d.motion.at(theta - h, i)[0]) / (2 * h) ==
                      Approx(g[1]).margin(1e-4));
                CHECK((d.motion.at(theta + h, i)[1] - d.motion.at(theta - h, i)[1]) / (2 * h) ==
                      Approx(g[2]).margin(0.02));
                const double r = d.radius, slope = g[1] / r;
                if (std::abs(g[2]) > 1e-6)
                    sharpest = std::min(sharpest, r * r * std::pow(1 + slope * slope, 1.5) / std::abs(g[2]));
            }
        }
        // its slope in the middle bends it a little less than a level track would
        CHECK(sharpest > asked * 0.9999);
        CHECK(sharpest < asked * 1.2);
    }
    // one over the end of the turn stands in two halves
    const ResolvedDrum saw =
        drum("drum cam d72 b50: rise 10 in 180 constant, return in 180 constant; groove 6 "
             "wide 4 deep corners blended");
    REQUIRE(saw.trouble == DrumTrouble::none);
    const Derivatives end = saw.motion.at(2 * pi, saw.motion.parts.size() - 1), begin = saw.motion.at(0, 0);
    for (std::size_t k = 0; k < 4; ++k)
        CHECK(end[k] == Approx(begin[k]).margin(1e-7));
    test::prove(piece_of(std::string(polygon) + " corners blended"));
}

TEST_CASE("a drum whose corners are kept has no largest acceleration, and no force of it") {
    const ResolvedDrum d = drum(std::string(polygon) + " corners sharp; mass 100 preload 3; 60 rpm");
    const ResolvedValue* a = find_value(d.values, "max_acceleration");
    REQUIRE(a);
    CHECK(a->text == "without end");
    CHECK_FALSE(a->value);
    CHECK_FALSE(d.loads);
    const ResolvedDrum rounded = drum(std::string(polygon) + "; mass 100 preload 3; 60 rpm");
    const double omega = 2 * pi;
    double most = 0;
    for (int k = 0; k < 20000; ++k)
        most = std::max(most, std::abs(rounded.motion.at(2 * pi * k / 20000)[2]));
    CHECK(find_value(rounded.values, "max_acceleration")->value ==
          Approx(most * omega * omega / 1000).epsilon(1e-6));
    CHECK(rounded.loads);
}

TEST_CASE("a drum's sharpest bend and its walls' difference are the largest of all, not of a step") {
    for (const char* text : {"drum cam d60 b60: rise 18 in 100 modified-sine, dwell 80, return in 110 "
                             "4-5-6-7, dwell; groove 8 wide 6 deep",
                             "drum cam d56 b33: rise 12.8 in 154 modified-trapezoid, dwell 48, return in 127 "
                             "cycloidal, dwell; groove 4 wide 2.6 "
                             "deep; swing 29.9; at 75"}) {
        INFO(text);
        const ResolvedDrum d = drum(text);
        ResolvedDrum rolled = d, straight = d;
        rolled.spec.walls = WallKind::envelope;
        straight.spec.walls = WallKind::straight;
        double sharpest = 1e300, apart = 0;
        for (std::size_t i = 0; i < d.motion.parts.size(); ++i) {
            const MotionPart& p = d.motion.parts[i];
            if (p.is_dwell()) continue;
            for (int k = 1; k < 4000; ++k) {
                // the circle through three places of the developed middle
                const double theta = p.from + (p.to - p.from) * k / 4000, h = 2e-4;
                const auto place = [&](double at) {
                    const TrackPlace m = middle_at(d, at, i);
                    return std::array{d.radius * m.around, m.z};
                };
                if (theta - h < p.from || theta + h > p.to) continue;
                const auto a = place(theta - h), b = place(theta), c = place(theta + h);
                const double area = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
                const double product = std::hypot(b[0] - a[0], b[1] - a[1]) *
                                       std::hypot(c[0] - b[0], c[1] - b[1]) *
                                       std::hypot(c[0] - a[0], c[1] - a[1]);
                if (std::abs(area) > 1e-12) sharpest = std::min(sharpest, product / (2 * std::abs(area)));
                // straight and rolled wall on the bottom, square to the track there
                const double r = d.other_radius, t = (d.spec.clockwise ? 1 : -1) * theta;
                for (const double side : {-1.0, 1.0}) {
                    const WallJet x = DrumWall(rolled, i, side, t, t).along(t, r),
                                  y = DrumWall(straight, i, side, t, t).along(t, r);
                    const double around = r * x.theta.c[1], along = x.z.c[1];
                    apart = std::max(apart, std::abs((y.z.c[0] - x.z.c[0]) * around -
                                                     r * (y.theta.c[0] - x.theta.c[0]) * along) /
                                                std::hypot(around, along));
                }
            }
        }
        CHECK(d.least_curvature_radius == Approx(sharpest).epsilon(2e-4));
        CHECK(d.wall_difference == Approx(apart).epsilon(d.spec.arm ? 1e-4 : 0.03));
    }
}

TEST_CASE(
    "the pressure angle of a swinging drum follower lies between the contact's normal and the arm's way") {
    const ResolvedDrum d = drum("drum cam d56 b33: rise 12.8 in 154 modified-trapezoid, dwell 48, return in "
                                "127 cycloidal, dwell; groove 4 wide 2.6 deep; "
                                "swing 29.9; at 75; mass 138 preload 3; 150 rpm");
    CHECK(d.max_pressure_angle / degree == Approx(24.59).margin(0.01));
    double largest = 0;
    for (std::size_t i = 0; i < d.motion.parts.size(); ++i) {
        const MotionPart& p = d.motion.parts[i];
        if (p.is_dwell()) continue;
        for (int k = 5; k < 96; ++k) {
            const double theta = p.from + (p.to - p.from) * k / 100, way = d.spec.clockwise ? 1 : -1,
                         t = way * theta, h = 1e-5;
            // a point of the roller's axis, on the drum's diameter, as it moves over the turning drum
            const double y0 = path_at(d, i, t).y.c[0], x0 = std::sqrt(d.radius * d.radius - y0 * y0);
            const auto on_drum = [&](double at) {
                const TrackPath q = path_at(d, i, at);
                const double y = q.y.c[0], turned = at - t; // in the frame of the middle
                return std::array{x0 * std::cos(turned) - y * std::sin(turned),
                                  x0 * std::sin(turned) + y * std::cos(turned), q.z.c[0]};
            };
            const auto a = on_drum(t - h), b = on_drum(t + h);
            const double around = b[1] - a[1], along = b[2] - a[2];
            const TrackPath q = path_at(d, i, t - h), r = path_at(d, i, t + h);
            const double wy = r.y.c[0] - q.y.c[0], wz = r.z.c[0] - q.z.c[0];
            // normal (−along, around), the arm's way (wy, wz)
            const double cosine =
                std::abs(-along * wy + around * wz) / std::hypot(along, around) / std::hypot(wy, wz);
            const double phi = std::acos(std::min(1.0, cosine));
            largest = std::max(largest, phi);
            CHECK(std::abs(middle_at(d, theta, i).pressure_angle) == Approx(phi).margin(2e-4));
        }
    }
    CHECK(d.max_pressure_angle == Approx(largest).epsilon(1e-3));
    // and what presses is that divided by its cosine
    REQUIRE(d.loads);
    double pressed = 0;
    for (std::size_t i = 0; i < d.motion.parts.size(); ++i)
        for (int k = 0; k <= 2000; ++k) {
            const double theta =
                d.motion.parts[i].from + (d.motion.parts[i].to - d.motion.parts[i].from) * k / 2000;
            const double f = 3 + 1e-6 * 138 * d.motion.at(theta, i)[2] * std::pow(150 * pi / 30, 2);
            pressed = std::max(pressed, std::abs(f) / std::cos(middle_at(d, theta, i).pressure_angle));
        }
    CHECK(d.loads->greatest_contact == Approx(pressed).epsilon(1e-5));
    CHECK(find_value(d.values, "max_pressure_angle")->source.find("drum Ø") != std::string::npos);
}

TEST_CASE("what is left beside a track off the middle is what the mesh leaves") {
    for (const char* text : {"drum cam d72 b60: rise 20 in 150 cycloidal, dwell 30, return in 150 cycloidal, "
                             "dwell; groove 8 wide 6 "
                             "deep; from 12",
                             "drum cam d72 b60: rise 20 in 150 cycloidal, dwell 30, return in 150 cycloidal, "
                             "dwell; groove 8 wide 6 "
                             "deep; from 31 clockwise"}) {
        INFO(text);
        const Preview p = make_preview(piece_of(text), 0, {}, LengthUnit::millimetre, 0.005);
        REQUIRE(p.made());
        const ResolvedDrum& d = *p.piece.zones[0].drum();
        double low = 1e300, high = -1e300; // of the groove
        for (const auto& point : p.mesh.points)
            if (const double r = std::hypot(point.x, point.y);
                r < d.radius - 0.05 && r > d.other_radius - 0.05)
                low = std::min(low, point.z), high = std::max(high, point.z);
        CHECK(d.near_wall == Approx(low).margin(0.01));
        CHECK(d.far_wall == Approx(60 - high).margin(0.01));
        CHECK(d.near_wall != Approx(d.far_wall).margin(1));
    }
}

TEST_CASE("drum cams as solids: closed, valid, of their volume") {
    for (const char* text :
         {usual, polygon,
          "drum cam d60 b40: rise 20 in 150 cycloidal, return in 150 cycloidal, dwell; rib 5 wide 4 high",
          "drum cam d72 b50: rise 20 in 150 cycloidal, return in 150 cycloidal, dwell; groove 8 wide 6 deep; "
          "straight walls at 33 clockwise"}) {
        INFO(text);
        const Preview p = test::prove(piece_of(text));
        // by rings: at each radius between the levels, the part of the circle's cylinder that the track takes
        const ResolvedDrum& d = *p.piece.zones[0].drum();
        double taken = 0;
        constexpr int n = 24;
        static constexpr double node[]{0.1834346424956498, 0.5255324099163290, 0.7966664774136267,
                                       0.9602898564975363};
        static constexpr double weight[]{0.3626837833783620, 0.3137066458778873, 0.2223810344533745,
                                         0.1012285362903763};
        const double low = std::min(d.radius, d.other_radius), high = std::max(d.radius, d.other_radius),
                     half = (high - low) / 2;
        for (std::size_t i = 0; i < 4; ++i)
            for (const double up : {-1.0, 1.0}) {
                const double r = low + half * (1 + up * node[i]);
                double area = 0; // between both walls, in (θ, z)
                for (const WallStretch& s : wall_stretches(d))
                    for (const double side : {-1.0, 1.0}) {
                        const DrumWall w(d, s.part, side, s.from, s.to);
                        for (int k = 0; k < n; ++k) {
                            const double h = (s.to - s.from) / n / 2, m = s.from + (2 * k + 1) * h;
                            for (std::size_t q = 0; q < 4; ++q)
                                for (const double e : {-1.0, 1.0}) {
                                    const WallJet j = w.along(m + e * node[q] * h, r);
                                    area += side * weight[q] * h * j.z.c[0] * j.theta.c[1];
                                }
                        }
                    }
                taken += weight[i] * half * r * area;
            }
        const double whole = pi * d.radius * d.radius * d.length + (d.is_rib() ? taken : -taken);
        CHECK(p.volume() == Approx(whole).epsilon(1e-9));
    }
}

TEST_CASE("an arm that swings its roller too far aside is refused with the arm that would do") {
    CHECK_THAT(why(std::string(usual) + " swing 12"), Catch::Contains("take one of"));
    const DrumDesignation d = parse_drum(std::string(usual) + " swing 60");
    CHECK(parse_drum(write_drum(d.spec, d.length)).spec == d.spec);
    // square in the middle of the stroke: there the roller's axis points at the drum's
    const ResolvedDrum r = resolve_drum(d.spec, *d.length);
    const double half = 75 * degree;
    CHECK(path_at(r, r.motion.part_at(half), -half).y.c[0] == Approx(0).margin(1e-12));
    CHECK(middle_at(r, half).z == Approx(25));
    CHECK(path_at(r, 0, 0).y.c[0] == Approx(60 * (std::cos(10.0 / 60) - 1)));
    // a very long arm is as good as none
    const ResolvedDrum straight = drum(usual), longest = drum(std::string(usual) + " swing 5000");
    for (int k = 0; k < 36; ++k)
        CHECK(middle_at(longest, k * 10 * degree).around ==
              Approx(middle_at(straight, k * 10 * degree).around).margin(4e-4));
}

TEST_CASE("randomised drum cams are closed, valid, watertight and of their closed volume") {
    prove_drums(300, 40);
}
TEST_CASE("1 000 randomised drum cams", "[.][long]") {
    prove_drums(5000, 1000);
}

TEST_CASE("drum cams are read, written, checked and mended") {
    for (const char* text :
         {usual, "drum cam d60 b40: rise 10 in 90 3-4-5, dwell, return in 90 harmonic; rib 5 wide 4 high "
                 "corners 6; straight walls from 12 at 90 clockwise; 30 rpm"}) {
        const DrumDesignation d = parse_drum(text);
        CHECK(write_drum(d.spec, d.length, d.unit) == text);
    }
    CHECK_THAT(why("drum cam d72: rise 10"), Catch::Contains("diameter and its length"));
    CHECK_THAT(why("drum cam d72 b50: rise 10 in 90, dwell; groove 8 wide 6 deap"),
               Catch::Contains("Say what this is"));
    CHECK_THAT(why("drum cam d72 b50: rise 10 in 90, dwell; slot 8"),
               Catch::Contains("not understood in a drum cam"));
    CHECK_THAT(why("drum cam d1 b50: dwell"), Catch::Contains("between 2 and 2000"));
    const auto findings = [](const std::string& text) {
        return findings_of(add_piece({}, piece_of(text)), 0);
    };
    CHECK(findings(usual).empty());
    struct Wrong {
        std::string text;
        const char* id;
        bool mended;
    };
    for (const Wrong& w :
         {Wrong{"drum cam d72 b50: rise 20 in 150, dwell; groove 8 wide 6 deep", "timing_not_closed", false},
          Wrong{"drum cam d72 b50: rise 20 in 150, return 19 in 150, dwell; groove 8 wide 6 deep",
                "timing_not_closed", true},
          Wrong{"drum cam d72 b50: rise 20 in 250, return in 250; groove 8 wide 6 deep", "past_full_turn",
                true},
          Wrong{"drum cam d72 b26: rise 20 in 150, return in 150, dwell; groove 8 wide 6 deep",
                "track_leaves_drum", true},
          Wrong{"drum cam d72 b50: rise 20 in 150, return in 150, dwell; groove 8 wide 6 deep from 3",
                "track_leaves_drum", true},
          Wrong{"drum cam d20 b90: rise 60 in 90, return in 90, dwell; groove 4 wide 3 deep",
                "track_too_steep", true},
          Wrong{"drum cam d72 b70: rise 20 in 30 cycloidal, return in 30, dwell; groove 30 wide 6 deep",
                "track_undercut", false},
          Wrong{"drum cam d20 b50: rise 6 in 150, return in 150, dwell; groove 8 wide 8 deep",
                "track_too_deep", true},
          Wrong{"drum cam d40 b70: rise 40 in 90, return in 90, dwell; groove 4 wide 3 deep",
                "pressure_angle", true},
          Wrong{"drum cam d72 b50: rise 5 in 20 constant, dwell 10, return in 20 constant, dwell; groove 4 "
                "wide 3 deep corners 90",
                "corner_too_wide", false},
          Wrong{polygon, "corners_rounded", true}}) {
        INFO(w.text);
        const std::vector<Finding> all = findings(w.text);
        for (const Finding& f : all)
            UNSCOPED_INFO(f.id << ": " << f.sentence);
        REQUIRE(has(all, w.id));
        const auto f = std::find_if(all.begin(), all.end(), [&](const Finding& g) { return g.id == w.id; });
        if (w.mended) CHECK(f->remedy);
        if (!f->remedy) continue;
        const Job job = apply(add_piece({}, piece_of(w.text)), *f->remedy);
        CHECK_FALSE(has(findings_of(job, 0), w.id));
    }
    Job job = add_piece({}, piece_of(usual));
    const auto set = [&](Field f, const char* text) {
        return apply(job, {0, 0, f, text, LengthUnit::millimetre});
    };
    CHECK_THROWS_AS(set(field::near_end, "chamfer 45"), InputError);
    CHECK_THROWS_AS(set(field::track, "slot"), InputError);
    CHECK_THROWS_AS(set(field::walls, "bent"), InputError);
    CHECK(job_from_json(job_to_json(set(field::walls, "straight"))) == set(field::walls, "straight"));
}
