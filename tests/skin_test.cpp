#include "build/build.hpp"
#include "quantity/expression.hpp"
#include "random_piece.hpp"
#include "solid/skin/axial_cut.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/solid.hpp"

#include "zone_parts.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <numbers>
#include <set>

using namespace whorl;
using namespace whorl::solid;
using std::numbers::pi;

namespace {

ResolvedPiece stud(const std::string& designation, const std::string& near, const std::string& far) {
    Job j = add_piece({}, parse_designation(designation));
    j = apply(j, {0, 0, field::near_end, near, LengthUnit::millimetre});
    j = apply(j, {0, 0, field::far_end, far, LengthUnit::millimetre});
    return resolve_piece(j.pieces[0], {});
}

// The body without run-outs is r ≤ min(f(z − L·θ/2π), g(z)): its volume is ∫ π·mean(min(f, g)²) dz, here by
// midpoints.
double volume_by_quadrature(const ResolvedZone& zone) {
    const ThreadSection& s = zone.thread()->section;
    const double length = in_mm(zone.length);
    const auto f = [&](double zeta) {
        const double x = std::abs(std::remainder(zeta, s.pitch)); // from the groove's middle
        if (x <= s.root_flat / 2) return s.root_radius;
        if (x >= s.groove_width() / 2) return s.crest_radius;
        return s.root_radius + (x - s.root_flat / 2) / std::tan(s.flank_half_angle);
    };
    const auto limit = [](const ResolvedEnd& e, double from_end) {
        return e.kind == EndKind::chamfer ? in_mm(e.diameter) / 2 + from_end * std::tan(in_rad(e.angle))
                                          : 1e9;
    };
    // mean of min(f, g)² over a pitch is smooth in g except at crest and root: cut the axis at the chamfers
    std::vector<double> cuts{0, length};
    for (const auto& [e, far] : {std::pair{&zone.near_end, false}, std::pair{&zone.far_end, true}})
        if (e->kind == EndKind::chamfer)
            for (const double r : {s.root_radius, s.crest_radius}) {
                const double h = (r - in_mm(e->diameter) / 2) / std::tan(in_rad(e->angle));
                if (h > 0 && h < length) cuts.push_back(far ? length - h : h);
            }
    std::sort(cuts.begin(), cuts.end());
    const int fine = 6000;
    const auto mean_square = [&](double g) {
        double sum = 0;
        for (int i = 0; i < fine; ++i) {
            const double r = std::min(f((i + 0.5) / fine * s.pitch), g);
            sum += r * r;
        }
        return sum / fine;
    };
    double v = 0;
    for (std::size_t k = 0; k + 1 < cuts.size(); ++k) {
        const double a = cuts[k], b = cuts[k + 1];
        const bool full = limit(zone.near_end, (a + b) / 2) > s.crest_radius &&
                          limit(zone.far_end, length - (a + b) / 2) > s.crest_radius;
        const int n = full ? 1 : 160;
        for (int i = 0; i < n; ++i) {
            const double z = a + (i + 0.5) * (b - a) / n;
            v += pi * mean_square(std::min({limit(zone.near_end, z), limit(zone.far_end, length - z), 1e9})) *
                 (b - a) / n;
        }
    }
    return v;
}

} // namespace

TEST_CASE("a plain piece has the volume every handbook gives") {
    Job j = add_piece({}, parse_designation("round 12 x 30"));
    const Skin s = build_skin(resolve_piece(j.pieces[0], {}));
    require_closed(s);
    CHECK(volume(s) == Approx(pi * 36 * 30).epsilon(1e-12));
    CHECK(s.faces.size() == 4); // two ends, two halves of the cylinder
    require_cut_around(s);
    j = apply(j, {0, 0, field::far_end, "chamfer 45 10", LengthUnit::millimetre});
    const Skin c = build_skin(resolve_piece(j.pieces[0], {}));
    // frustum: πh/3·(R² + Rr + r²)
    CHECK(volume(c) == Approx(pi * 36 * 29 + pi / 3 * (36 + 30 + 25)).epsilon(1e-12));
    CHECK(kernel_volume(make_solid(c)) == Approx(volume(c)).epsilon(1e-6));
}

TEST_CASE("a rounded end is a true sphere") {
    Job j = add_piece({}, parse_designation("round 12 x 30"));
    j = apply(j, {0, 0, field::far_end, "rounded 20", LengthUnit::millimetre});
    const ResolvedPiece piece = resolve_piece(j.pieces[0], {});
    const Skin s = build_skin(piece);
    require_closed(s);
    // a spherical segment between two circles: πh/6·(3a² + 3b² + h²)
    const double a = 6, b = 0.06, h = in_mm(piece.zones[0].far_end.dome_height);
    CHECK(h == Approx(20 - std::sqrt(400 - 36.0)).epsilon(1e-3));
    CHECK(volume(s) ==
          Approx(pi * 36 * (30 - h) + pi * h / 6 * (3 * a * a + 3 * b * b + h * h)).epsilon(1e-12));
    const Solid solid = make_solid(s, triangulate(s, 96));
    CHECK(is_valid(solid));
    CHECK(kernel_volume(solid) == Approx(volume(s)).epsilon(1e-7));
    // over a thread: shorter threads need room for it
    const auto screw = stud("M10x1.5-6g x 20", "rounded", "rounded 40");
    CHECK(is_valid(make_solid(build_skin(screw))));
    Piece brief;
    brief.zones = {zone_of(parse_designation("M10x1.5-6g x 1"))};
    brief.zones[0].near_end.kind = brief.zones[0].far_end.kind = EndKind::rounded;
    CHECK_THROWS_AS(build_skin(resolve_piece(brief, {})), CannotMake);
    CHECK(shortest_for_ends(resolve_piece(brief, {}).zones[0]) > mm(1));
}

TEST_CASE("volumes agree with an independent quadrature") {
    for (const char* designation : {"M10x1.5-6g x 20", "M10x1.5-6g LH x 20", "M16xPh4P2-6g x 30",
                                    "1/2-13 UNC-2A (3 starts) x 1", "M6x0.5-6g x 4.3"})
        for (const auto& [near, far] : {std::pair{"flat", "flat"}, std::pair{"chamfer 45", "flat"},
                                        std::pair{"chamfer 30", "chamfer 60"}}) {
            const auto piece = stud(designation, near, far);
            const Skin skin = build_skin(piece);
            require_closed(skin);
            INFO(designation << ", " << near << ", " << far);
            CHECK(volume(skin) == Approx(volume_by_quadrature(piece.zones[0])).epsilon(1e-6));
        }
    const auto partial = stud("M10x1.5-6g x 20", "chamfer 45 9.2", "flat");
    CHECK(volume(build_skin(partial)) == Approx(volume_by_quadrature(partial.zones[0])).epsilon(1e-6));
}

TEST_CASE("volumes of randomised chamfered threads agree with the quadrature") {
    test::RandomPiece random(41);
    int compared = 0;
    for (int i = 0; compared < 60; ++i) {
        Piece piece;
        piece.name = "random";
        piece.zones = {random.thread_zone()};
        auto& z = piece.zones[0];
        if (z.near_end.kind == EndKind::run_out || z.far_end.kind == EndKind::run_out) continue;
        const auto resolved = resolve_piece(piece, {});
        if (!resolved.zones[0].thread()->section.sweepable() ||
            shortest_for_ends(resolved.zones[0]) > resolved.zones[0].length)
            continue;
        const Skin skin = build_skin(resolved);
        require_closed(skin);
        INFO("seed 41, round " << i << ": Ø " << diameter_of(z).text << " P " << thread_of(z).pitch.text
                               << " length " << z.length.text);
        CHECK(volume(skin) == Approx(volume_by_quadrature(resolved.zones[0])).epsilon(1e-6));
        ++compared;
    }
}

TEST_CASE("a run-out removes less than a full groove and ends inside its zone") {
    const double flat = volume(build_skin(stud("M10x1.5-6g x 20", "flat", "flat")));
    for (const char* turns : {"run-out 0.1", "run-out 0.5", "run-out 1", "run-out 2"}) {
        const auto piece = stud("M10x1.5-6g x 20", "flat", turns);
        const Skin s = build_skin(piece);
        require_closed(s);
        CHECK(volume(s) > flat);
        const double crest = piece.zones[0].thread()->section.crest_radius;
        for (const auto& c : s.corners)
            if (c.z > 20 - 1e-9) CHECK(c.r == Approx(crest)); // the far rim is the blank's circle
    }
}

TEST_CASE("left hand is the mirror image of right hand") {
    const Skin r = build_skin(stud("M10x1.5-6g x 20", "chamfer 45", "run-out 0.5"));
    const Skin l = build_skin(stud("M10x1.5-6g LH x 20", "chamfer 45", "run-out 0.5"));
    CHECK(volume(r) == Approx(volume(l)).epsilon(1e-12));
    // helicoids are cut at every second plane, and which ones those are is no matter of hand
    CHECK(std::abs(static_cast<int>(r.faces.size()) - static_cast<int>(l.faces.size())) <= 4);
    // a right-hand helix rises with θ
    for (const auto& [skin, sign] : {std::pair{&r, 1.0}, std::pair{&l, -1.0}})
        for (const auto& f : skin->faces)
            if (f.role == FaceRole::flank) CHECK(f.rail_slope * sign == Approx(1.5 / (2 * pi)));
}

TEST_CASE("a face that runs around further than half a turn is found") {
    // the everyday cylinder with a seam, as it was made once
    Skin s;
    const auto circle = [&](double z) {
        s.corners.push_back({0, 5, z});
        const int c = static_cast<int>(s.corners.size()) - 1;
        return add_straight(s, c, {0, 5, z}, c, {2 * pi, 5, z});
    };
    const int low = circle(0), high = circle(10);
    const int seam = add_straight(s, 0, {0, 5, 0}, 1, {0, 5, 10});
    Face f;
    f.a = 5;
    f.loops = {{{low, true, 0}, {seam, true, 1}, {high, false, 0}, {seam, false, 0}}};
    s.faces = {f};
    CHECK(angle_around(s, s.faces[0]) == Approx(2 * pi));
    CHECK_THROWS_AS(require_cut_around(s), std::logic_error);
    const double before = volume(s);
    cut_around(s);
    require_cut_around(s);
    CHECK(s.faces.size() == 2);
    CHECK(s.edges.size() == 6); // two arcs at either end, two lines: the seam is gone
    CHECK(s.corners.size() == 4);
    CHECK(volume(s) == Approx(before).epsilon(1e-13));
}

TEST_CASE("cylinders are cylinders, and no patch runs around more than once") {
    const Skin s = build_skin(stud("M10x1.5-6g x 40", "chamfer 45", "run-out 0.5"));
    int round = 0;
    for (const auto& f : s.faces) {
        if (f.role != FaceRole::crest && f.role != FaceRole::root) continue;
        ++round;
        CHECK(f.b == 0);
        CHECK(f.c == 0);
        double low = 1e9, high = -1e9;
        for (const auto& use : f.loops[0]) {
            const auto p = start_of(s, use);
            low = std::min(low, p.theta);
            high = std::max(high, p.theta);
        }
        CHECK(high - low <= 2 * pi + 1e-9);
    }
    CHECK(round > 40);
}

TEST_CASE("neighbours of every size are joined without a gap") {
    // smaller than the root, between root and crest (crossing), equal to the crest, larger
    const auto section = stud("M10x1.5-6g x 12", "flat", "flat").zones[0].thread()->section;
    for (const double d : {6.0, 2 * section.root_radius, 9.0, 9.5, 2 * section.crest_radius, 10.0, 14.0})
        for (const char* end : {"flat", "chamfer 45", "chamfer 45 9.2", "run-out 0.5"}) {
            Job j = add_piece({}, parse_designation("M10x1.5-6g x 12"));
            j = apply(j, {0, 0, field::far_end, end, LengthUnit::millimetre});
            Zone plain;
            diameter_of(plain).text = number_text(d, 12);
            plain.length.text = "5";
            j = insert_zone(j, 0, 1, plain);
            j = insert_zone(j, 0, 0, plain);
            INFO("neighbour " << d << ", end " << end);
            const Preview p = make_preview(j.pieces[0], 0, {}, LengthUnit::millimetre);
            REQUIRE(p.made());
            require_closed(*p.body.skin());
            require_watertight(p.mesh);
            CHECK(is_valid(make_solid(*p.body.skin(), p.mesh)));
        }
}

TEST_CASE("threads meet threads of other pitch and hand") {
    Job j = add_piece({}, parse_designation("M10x1.5-6g x 12"));
    const auto with = [&](const char* d) {
        Zone z = zone_of(parse_designation(d));
        z.near_end = z.far_end = {};
        return z;
    };
    j = insert_zone(j, 0, 1, with("M9.6x1-6g LH x 8"));
    j = insert_zone(j, 0, 2, with("M10xPh3P1-6g x 8"));
    j = apply(j, {0, 0, field::far_end, "flat", LengthUnit::millimetre});
    const Preview p = make_preview(j.pieces[0], 0, {}, LengthUnit::millimetre);
    REQUIRE(p.made());
    const auto solid = make_verified_solid(p);
    CHECK(solid->valid);
    CHECK(kernel_volume(solid->solid) == Approx(p.volume()).epsilon(1e-6));
}

TEST_CASE("the mesh converges to the solid with the square of the step") {
    const Skin s = build_skin(stud("M10x1.5-6g x 20", "chamfer 45", "run-out 0.5"));
    const double exact = volume(s);
    double last = 0;
    for (const int steps : {32, 64, 128, 256}) {
        const Mesh m = triangulate(s, steps);
        require_watertight(m);
        const double error = std::abs(volume(m) / exact - 1);
        if (last > 0) CHECK(error < last / 3.5);
        last = error;
    }
    CHECK(last < 2e-4);
}

TEST_CASE("mesh points lie on the theoretical surface") {
    const auto piece = stud("M10x1.5-6g LH x 20", "chamfer 45 9.2", "run-out 0.7");
    const Skin s = build_skin(piece);
    const Mesh m = triangulate(s, 96);
    for (std::size_t i = 0; i < m.triangles.size(); ++i) {
        const Face& f = s.faces[m.face[i]];
        for (const auto id : m.triangles[i]) {
            const Point& p = m.points[id];
            const double r = std::hypot(p.x, p.y);
            if (f.kind == FaceKind::flat) {
                CHECK(std::abs(p.z - f.a) < 1e-9);
                continue;
            }
            if (f.c == 0) {
                CHECK(std::abs(r - (f.a + f.b * p.z)) < 1e-9);
                continue;
            }
            // θ is known up to whole turns
            const double step = 2 * pi * std::abs(f.c);
            const double off = std::remainder(r - (f.a + f.b * p.z + f.c * std::atan2(p.y, p.x)), step);
            CHECK(std::abs(off) < 1e-9);
        }
    }
}

TEST_CASE("a chord tolerance is kept") {
    for (const double r : {1.0, 5.0, 40.0})
        for (const double chord : {0.1, 0.01, 0.002}) {
            const int n = steps_for_chord(r, chord);
            CHECK(n % 4 == 0);
            if (n < 720) CHECK(r * (1 - std::cos(pi / n)) <= chord * (1 + 1e-9));
        }
}

TEST_CASE("a zone too short for its ends is refused with what would fit") {
    const auto piece = stud("M10x1.5-6g x 4", "run-out 1", "run-out 1");
    try {
        (void)build_skin(piece);
        FAIL("it was made");
    } catch (const CannotMake& e) {
        CHECK(e.zone == 0);
        CHECK(std::string(e.what()).find("make it longer") != std::string::npos);
    }
    CHECK(shortest_for_ends(piece.zones[0]) > piece.zones[0].length);
}

TEST_CASE("a countersink narrower than a socket's corners leaves the corners where they are") {
    // 28 across the flats is 39.6 across the corners: a wall in a bar of 41, none in one of 39
    const auto piece = [](const char* diameter) {
        Piece p;
        Zone bar, socket;
        diameter_of(bar).text = diameter;
        bar.length.text = "20";
        socket.where = Where::near_bore;
        plain_of(socket).outline = Outline::square;
        diameter_of(socket).text = "28";
        socket.length.text = "10";
        socket.near_end.kind = EndKind::chamfer;
        socket.near_end.diameter.text = "30";
        p.zones = {bar, socket};
        return p;
    };
    const auto made = [&](const char* diameter) {
        return solid::build_skin(resolve_piece(piece(diameter), {}));
    };
    CHECK_NOTHROW(solid::require_closed(made("41")));
    CHECK_THROWS_WITH(made("39"), Catch::Contains("no wall is left"));
}
