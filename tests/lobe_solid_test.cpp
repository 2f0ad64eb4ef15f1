// Lobes as solids: random cams through every proof, a follower driven over the finished mesh, volume by an
// independent sum, camshafts, journals that cut through the profile, checks with their remedies.
#include "build/build.hpp"
#include "check/check.hpp"
#include "exchange/cam_outline.hpp"
#include "model/edit.hpp"
#include "model/forms/lobe.hpp"
#include "model/forms/plain.hpp"
#include "model/job_file.hpp"
#include "model/ready_zone.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "solid/kernel/kernel_shape.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Pnt.hxx>

#include <cmath>
#include <numbers>
#include <random>
#include <sstream>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

std::string text_of(double v) {
    return number_text(v, 3);
}

// A timing that closes, of two to six stretches.
std::string random_timing(std::mt19937& random, double stroke, bool jumps) {
    const auto real = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    const auto whole = [&](int low, int high) {
        return std::uniform_int_distribution<int>(low, high)(random);
    };
    const auto law = [&] { return std::string(word(static_cast<Law>(whole(jumps ? 0 : 1, law_count - 1)))); };
    if (whole(0, 7) == 0) { // free points all the way round
        std::string s = "spline in 360 through";
        const int n = whole(3, 7);
        for (int k = 1; k <= n; ++k)
            s += " " + text_of(360.0 * k / (n + 1)) + "/" +
                 text_of(stroke * (0.5 - 0.5 * std::cos(2 * pi * k / (n + 1))) * real(0.8, 1));
        return s;
    }
    std::string s;
    double left = 360;
    const auto take = [&](double least, double most) {
        const double a = std::round(real(least, most));
        left -= a;
        return text_of(a);
    };
    if (whole(0, 2) == 0) s += "dwell " + take(5, 40) + ", ";
    const int steps = whole(1, 2);
    for (int k = 0; k < steps; ++k) {
        s += "rise " + text_of(stroke / steps) + " in " + take(60, 90) + " " + law() + ", ";
        if (whole(0, 1)) s += "dwell " + take(3, 40) + ", ";
    }
    s += "return in " + text_of(std::min(left - 1, std::round(real(70, 120)))) + " " + law() + ", dwell";
    return s;
}

std::string random_cam(std::mt19937& random) {
    const auto real = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    const int kind = std::uniform_int_distribution<int>(0, 5)(random);
    const double r = real(10, 60), stroke = r * real(0.05, kind == 2 ? 0.12 : 0.35);
    std::string s = "cam r" + text_of(r) + ": " + random_timing(random, stroke, kind == 3) + "; ";
    switch (kind) {
    case 0:
        s += "roller " + text_of(r * real(0.1, 0.6));
        break;
    case 1:
        s += "roller " + text_of(r * real(0.1, 0.6)) + " offset " + text_of(r * real(-0.25, 0.25));
        break;
    case 2:
        s += "flat";
        break;
    case 3:
        s += "knife";
        break;
    case 4:
        s += "mushroom " + text_of(r * real(0.5, 1));
        break;
    default:
        s += "roller " + text_of(r * 0.4) + " swing " + text_of(r * real(1.6, 2.4)) + " " +
             text_of(r * real(1.9, 2.6));
    }
    s += "; b" + text_of(real(2, 20));
    if (real(0, 1) < 0.5) s += " at " + text_of(real(1, 359));
    if (real(0, 1) < 0.3) s += " clockwise";
    return s;
}

void prove_cams(unsigned from, unsigned count) {
    test::prove_random(from, count, 0.7, [](std::mt19937& random, std::string& text) {
        text = random_cam(random);
        Piece piece = piece_of(text);
        const ResolvedZone zone = resolve_piece(piece, {}).zones[0];
        const double low = in_mm(zone.smallest_radius()), high = in_mm(zone.largest_radius());
        const auto real = [&](double a, double b) {
            return std::uniform_real_distribution<double>(a, b)(random);
        };
        if (random() % 2) // a journal: inside, through, or outside the profile
            piece.zones.insert(random() % 2 ? piece.zones.begin() : piece.zones.end(),
                               plain(mm(2 * real(0.4 * low, 1.2 * high)), mm(3)));
        if (random() % 3 == 0) { // a second lobe beyond a journal
            piece.zones.push_back(plain(mm(2 * 0.7 * low), mm(2)));
            piece.zones.push_back(zone_asked(parse_cam(text).spec, parse_designation(text)));
            std::get<LobeForm>(piece.zones.back().form).at = {text_of(real(0, 359)), {}};
        }
        if (random() % 4 == 0) {
            Zone bore = plain(mm(2 * 0.3 * low), mm(1));
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

TEST_CASE("randomised cams are closed, valid, watertight and of their closed volume") {
    prove_cams(700, 60);
    prove_cams(20025, 1); // a journal hardly wider than the nose, between the mesh's lines
}
TEST_CASE("1 000 randomised cams", "[.][long]") {
    prove_cams(20000, 1000);
}

TEST_CASE("a follower on the finished solid rises by the timing to a micrometre") {
    for (const char* text :
         {"cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell; roller 8; b4",
          "cam r30: rise 6 in 90 modified-sine, return in 90 3-4-5, dwell; flat; b4",
          "cam r25: rise 6 in 90 4-5-6-7, dwell 20, return in 120 parabolic, dwell; roller 10 offset 4; b4 "
          "at 30"}) {
        INFO(text);
        const Preview p = make_preview(piece_of(text), 0, {}, LengthUnit::millimetre, 0.01);
        REQUIRE(p.made());
        const ResolvedCam& c = *p.piece.zones[0].lobe();
        const double rho = roller_radius(c.spec), e = in_mm(c.spec.offset);
        // the kernel's own curves, as another program reads them
        const auto built = make_verified_solid(p);
        std::vector<gp_Pnt> rim;
        for (TopExp_Explorer it(built->solid.shape().solid, TopAbs_EDGE); it.More(); it.Next()) {
            const BRepAdaptor_Curve curve(TopoDS::Edge(it.Current()));
            for (int k = 0; k <= 2000; ++k) {
                const gp_Pnt q = curve.Value(curve.FirstParameter() +
                                             (curve.LastParameter() - curve.FirstParameter()) * k / 2000);
                if (std::abs(q.Z()) < 1e-9 && std::hypot(q.X(), q.Y()) > 1) rim.push_back(q);
            }
        }
        REQUIRE(rim.size() > 5000);
        double off = 0;
        for (int k = 0; k < 180; ++k) {
            const double theta = (2 * k + 0.7) * pi / 180, turn = theta - c.spec.at, co = std::cos(turn),
                         si = std::sin(turn);
            double most = -1e300;
            for (const auto& q : rim) {
                const double x = q.X() * co - q.Y() * si, y = q.X() * si + q.Y() * co;
                if (rho == 0)
                    most = std::max(most, x - in_mm(c.spec.base_radius));
                else if (std::abs(y + e) <= rho)
                    most = std::max(most, x + std::sqrt(rho * rho - (y + e) * (y + e)) -
                                              std::sqrt(std::pow(prime_radius(c.spec), 2) - e * e));
            }
            off = std::max(off, std::abs(most - c.motion.at(theta)[0]));
        }
        CHECK(off < 1e-4); // mm; what points 0.05 mm apart leave
    }
}

TEST_CASE("the volume of a lobe, by triangles under its polar outline") {
    const Preview p = test::prove(piece_of(
        "cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell; roller 8; b10"));
    const ResolvedCam& c = *p.piece.zones[0].lobe();
    double area = 0;
    constexpr int n = 200000;
    TransversePoint before = follower_at(c.spec, c.motion, 0).touches;
    for (int k = 1; k <= n; ++k) {
        const double theta = 2 * pi * k / n;
        const TransversePoint f = follower_at(c.spec, c.motion, k == n ? 0 : theta).touches;
        const double co = std::cos(theta), si = std::sin(theta);
        const TransversePoint q{f.x * co + f.y * si, f.y * co - f.x * si};
        area += (before.y * q.x - before.x * q.y) / 2; // it runs clockwise
        before = q;
    }
    CHECK(p.volume() == Approx(area * 10).epsilon(1e-8));
}

TEST_CASE("a knife's cam is the motion itself, in polar coordinates, at every point of its mesh") {
    const Preview p = test::prove(
        piece_of("cam r20: rise 5 in 100 constant, dwell 60, return 5 in 100 cycloidal, dwell; knife; b10"));
    const ResolvedCam& c = *p.piece.zones[0].lobe();
    int flanks = 0;
    for (std::size_t t = 0; t < p.mesh.triangles.size(); ++t)
        if (p.body.skin()->faces[p.mesh.face[t]].kind == solid::FaceKind::toothed)
            for (const auto i : p.mesh.triangles[t]) {
                const solid::Point& q = p.mesh.points[i]; // the cam turns counter-clockwise under the knife
                CHECK(std::hypot(q.x, q.y) ==
                      Approx(20 + c.motion.at(-std::atan2(q.y, q.x))[0]).margin(1e-9));
                ++flanks;
            }
    CHECK(flanks > 200);
}

TEST_CASE("a camshaft of two lobes at their angles with journals between is one piece") {
    Piece shaft =
        piece_of("cam r12: rise 4 in 90 cycloidal, dwell 20, return in 90 cycloidal, dwell; roller 8; b6");
    const Zone second = zone_asked(
        parse_cam("cam r12: rise 6 in 90 cycloidal, return in 110 cycloidal, dwell; roller 8; at 140").spec,
        {});
    shaft.zones.insert(shaft.zones.begin(), plain(mm(10), mm(12)));
    shaft.zones.push_back(plain(mm(14), mm(8)));
    shaft.zones.push_back(second);
    shaft.zones.push_back(plain(mm(10), mm(12)));
    const Preview p = test::prove(shaft);
    CHECK(p.piece.zones.size() == 5);
    // and with a journal that is wider than the base circle: it cuts through the profile
    Piece through = shaft;
    std::get<PlainForm>(through.zones[2].form).diameter = {"27", {}};
    test::prove(through);
    // exactly the base circle: the dwell's arc is shared
    std::get<PlainForm>(through.zones[2].form).diameter = {"24", {}};
    test::prove(through);
    // two lobes side by side need a journal between
    Piece touching = shaft;
    touching.zones.erase(touching.zones.begin() + 2);
    const Preview refused = make_preview(touching, 0, {}, LengthUnit::millimetre, 0.02);
    CHECK_FALSE(refused.made());
    CHECK_THAT(refused.findings.front().sentence, Catch::Contains("put a plain zone between"));
    // the same outline twice goes on as one
    Piece alike =
        piece_of("cam r12: rise 4 in 90 cycloidal, dwell 20, return in 90 cycloidal, dwell; roller 8; b6");
    alike.zones.push_back(alike.zones[0]);
    CHECK(
        test::prove(alike).volume() ==
        Approx(
            2 *
            test::prove(
                piece_of(
                    "cam r12: rise 4 in 90 cycloidal, dwell 20, return in 90 cycloidal, dwell; roller 8; b6"))
                .volume()));
}

TEST_CASE("cams are checked, and their remedies help") {
    const auto findings = [](const std::string& text) {
        return findings_of(add_piece({}, piece_of(text)), 0);
    };
    struct Wrong {
        const char* text;
        const char* id;
        bool mended; // whether a remedy is offered
    };
    for (const Wrong& w :
         {Wrong{"cam r20: rise 10 in 120, dwell 60, return 9 in 120, dwell 60; roller 8", "timing_not_closed",
                true},
          Wrong{"cam r20: rise 10 in 120, dwell 60; roller 8", "timing_not_closed", true},
          Wrong{"cam r20: rise 10 in 120, return in 120; roller 8", "timing_short", true},
          Wrong{"cam r20: rise 10 in 200, return in 200; roller 8", "past_full_turn", true},
          Wrong{"cam r5: rise 20 in 20 cycloidal, dwell, return in 90; roller 8", "follower_jams", true},
          Wrong{"cam r5: rise 10 in 60 harmonic, return in 60, dwell; flat", "undercut", true},
          Wrong{"cam r15: rise 8 in 45 harmonic, return in 45 harmonic, dwell; roller 40", "undercut", true},
          Wrong{"cam r20: rise 5 in 180 constant, return in 180 constant; roller 8", "corners_rounded", true},
          Wrong{"cam r20: rise 5 in 180 constant, return in 180 constant; knife", "velocity_jumps", true},
          Wrong{"cam r20: rise 10 in 120 harmonic, dwell 60, return in 120, dwell; roller 8",
                "acceleration_jumps", true},
          Wrong{"cam r10: rise 10 in 60, dwell 60, return in 120, dwell; roller 8", "pressure_angle", true},
          Wrong{"cam r20: rise 5 in 120, dwell, return in 120; roller 8 swing 200 100", "no_reach", false},
          Wrong{"cam r3: return 5 in 120, rise 5 in 120, dwell; roller 8", "cam_too_small", true}}) {
        INFO(w.text);
        const std::vector<Finding> all = findings(w.text);
        REQUIRE(has(all, w.id));
        const auto f = std::find_if(all.begin(), all.end(), [&](const Finding& g) { return g.id == w.id; });
        CHECK(f->remedy.has_value() == w.mended);
        if (!f->remedy) continue;
        const Job job = apply(add_piece({}, piece_of(w.text)), *f->remedy);
        CHECK_FALSE(has(findings_of(job, 0), w.id));
    }
    CHECK(findings("cam r20: rise 10 in 120, dwell 60, return in 120, dwell; roller 8").empty());
    CHECK_THAT(findings("cam r20: rise 10 in 120 harmonic, dwell 60, return in 120, dwell; roller 8; 300 rpm")
                   .front()
                   .sentence,
               Catch::Contains("The acceleration jumps by 11.1033 m/s²")); // 5·(π/(2π/3))²·(10π)²/1000
}

TEST_CASE("a lobe refuses a bore, ends it can't have and numbers that mean nothing") {
    Job job = add_piece({}, piece_of("cam r20: rise 10 in 120, dwell 60, return in 120, dwell; roller 8"));
    const auto set = [&](Field f, const char* text) {
        return apply(job, {0, 0, f, text, LengthUnit::millimetre});
    };
    CHECK_THROWS_AS(set(field::near_end, "chamfer 45"), InputError);
    CHECK_THROWS_AS(set(field::timing, "rise 10"), InputError);
    CHECK_THROWS_AS(set(field::face_radius, "60"), InputError); // a roller has none
    CHECK_THROWS_AS(set(field::follower, "wheel"), InputError);
    CHECK_THROWS_AS(set(field::swing, "50"), InputError);
    CHECK_THROWS_AS(set(field::base_radius, "0"), InputError);
    CHECK_THROWS_AS(set(field::speed, "-5"), InputError);
    // expressions over named values, kept as typed
    job.values.push_back({"stroke", {"8", LengthUnit::millimetre}});
    const Job named = set(field::timing, "rise stroke in 2*60, dwell 60, return in 120 harmonic, dwell");
    CHECK(std::get<LobeForm>(named.pieces[0].zones[0].form).timing.text ==
          "rise stroke in 2*60, dwell 60, return in 120 harmonic, dwell");
    CHECK(in_mm(resolve_piece(named.pieces[0], resolve_names(named)).zones[0].largest_radius()) ==
          Approx(28));
    CHECK(job_from_json(job_to_json(named)).pieces == named.pieces);
}

TEST_CASE("a cam's outline and points: arcs within their tolerance, the cutter as far away as it should be") {
    const ResolvedCam c = resolve_cam(
        parse_cam(
            "cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell; roller 8; b4 at 50")
            .spec);
    const std::vector<ArcPoint> outline = cam_outline(c, 1e-4);
    CHECK(outline.size() < 120);
    // each of 2 000 places of the true profile lies on an arc, within the tolerance
    double worst = 0;
    for (int k = 0; k < 2000; ++k) {
        const double theta = 2 * pi * (k + 0.3) / 2000, back = c.spec.at - theta;
        const TransversePoint f = follower_at(c.spec, c.motion, theta).touches;
        const double x = f.x * std::cos(back) - f.y * std::sin(back),
                     y = f.x * std::sin(back) + f.y * std::cos(back);
        double near = 1e300;
        for (std::size_t i = 0; i < outline.size(); ++i) {
            const ArcPoint &a = outline[i], &b = outline[(i + 1) % outline.size()];
            const double dx = b.x - a.x, dy = b.y - a.y, chord = std::hypot(dx, dy);
            const double along = ((x - a.x) * dx + (y - a.y) * dy) / (chord * chord);
            if (along < -0.05 || along > 1.05) continue;
            if (std::abs(a.bulge) < 1e-9) {
                near = std::min(near, std::abs((x - a.x) * dy - (y - a.y) * dx) / chord);
                continue;
            }
            const double radius = chord * (1 + a.bulge * a.bulge) / (4 * a.bulge),
                         apothem = radius - a.bulge * chord / 2;
            const double cx = (a.x + b.x) / 2 - dy / chord * apothem,
                         cy = (a.y + b.y) / 2 + dx / chord * apothem;
            near = std::min(near, std::abs(std::hypot(x - cx, y - cy) - std::abs(radius)));
        }
        worst = std::max(worst, near);
    }
    CHECK(worst < 1.1e-4);
    std::istringstream lines(cam_points_csv(c, 5, 6));
    std::string line;
    std::getline(lines, line);
    CHECK(line == "angle,lift,radius,polar_angle,x,y,cutter_x,cutter_y");
    int rows = 0;
    while (std::getline(lines, line)) {
        double v[8];
        std::istringstream cells(line);
        for (double& x : v) {
            std::string cell;
            std::getline(cells, cell, ',');
            x = std::stod(cell);
        }
        CHECK(v[0] == Approx(5 * rows).margin(1e-9));
        CHECK(v[1] == Approx(c.motion.at(v[0] * pi / 180)[0]).margin(1e-5));
        CHECK(std::remainder(v[3] - std::atan2(v[5], v[4]) * 180 / pi, 360) == Approx(0).margin(1e-4));
        CHECK(std::hypot(v[4], v[5]) == Approx(v[2]));
        CHECK(std::hypot(v[6] - v[4], v[7] - v[5]) == Approx(6));
        ++rows;
    }
    CHECK(rows == 72);
}

TEST_CASE("of two jumps the larger is named, with its place") {
    const auto sentence = [](const char* text) {
        const auto all = findings_of(add_piece({}, piece_of(text)), 0);
        const auto f = std::find_if(all.begin(), all.end(),
                                    [](const Finding& g) { return g.id == "acceleration_jumps"; });
        REQUIRE(f != all.end());
        return f->sentence;
    };
    // 5·(π/β)² mm/rad² at the ends of a harmonic rise over β: 11.25 over 120°, 45 over 60°
    const double omega2 = std::pow(2 * pi * 20 / 60, 2) / 1000;
    for (const char* text :
         {"cam r40: rise 10 in 120 harmonic, dwell 60, return in 60 harmonic, dwell; roller 8; 20 rpm",
          "cam r40: dwell 60, rise 10 in 60 harmonic, dwell 60, return in 120 harmonic, dwell; roller 8; 20 "
          "rpm"}) {
        INFO(text);
        CHECK_THAT(sentence(text), Catch::Contains("jumps by " + number_text(45 * omega2, 4) + " m/s²"));
    }
    CHECK_THAT(
        sentence(
            "cam r40: rise 10 in 120 harmonic, dwell 60, return in 60 harmonic, dwell; roller 8; 20 rpm"),
        Catch::Contains("at 180"));
}

TEST_CASE("a cutter's points of a lobe that stands at an angle are turned by it") {
    const auto rows = [](const char* at) {
        std::istringstream text(
            cam_points_csv(resolve_cam(parse_cam(std::string("cam r20: rise 10 in 120 cycloidal, dwell 60, "
                                                             "return in 120 harmonic, dwell; roller 8; b4") +
                                                 at)
                                           .spec),
                           5, 6));
        std::vector<std::vector<double>> out;
        std::string line, cell;
        std::getline(text, line);
        while (std::getline(text, line)) {
            std::istringstream cells(line);
            out.emplace_back();
            while (std::getline(cells, cell, ','))
                out.back().push_back(std::stod(cell));
        }
        return out;
    };
    const auto plain = rows(""), turned = rows(" at 30");
    REQUIRE(plain.size() == 72);
    REQUIRE(turned.size() == 72);
    const double co = std::cos(pi / 6), si = std::sin(pi / 6);
    for (std::size_t i = 0; i < plain.size(); ++i) {
        CHECK(turned[i][1] == plain[i][1]); // the lift
        CHECK(std::remainder(turned[i][3] - plain[i][3] - 30, 360) == Approx(0).margin(1e-3));
        for (const std::size_t k : {4u, 6u}) {
            CHECK(turned[i][k] == Approx(co * plain[i][k] - si * plain[i][k + 1]).margin(1e-3));
            CHECK(turned[i][k + 1] == Approx(si * plain[i][k] + co * plain[i][k + 1]).margin(1e-3));
        }
    }
}

TEST_CASE("the first lobe of a conjugate pair knows that a second one holds its follower") {
    const Piece pair = piece_of(
        "cam r33: rise 9 in 105 cycloidal, dwell 40, return in 130 3-4-5, dwell; roller 12; conjugate 92; "
        "b14; mass 150; 300 rpm");
    const ResolvedPiece r = resolve_piece(pair, {});
    for (const std::size_t z : {0u, 2u}) {
        REQUIRE(r.zones[z].lobe());
        CHECK_FALSE(find_value(r.zones[z].lobe()->values, "lift_off_speed"));
    }
    for (const Finding& f : findings_of(add_piece({}, pair), 0))
        CHECK(f.id != "lifts_off");
    // alone it lifts off, and says so
    Piece alone = pair;
    alone.zones.resize(1);
    CHECK(find_value(resolve_piece(alone, {}).zones[0].lobe()->values, "lift_off_speed"));
    CHECK(findings_of(add_piece({}, alone), 0).size() > findings_of(add_piece({}, pair), 0).size());
}
