// Silhouettes, flutes and hollows: curves against what they interpolate, scallops against circles through three
// points, volumes by a quadrature of their own, walls measured on the mesh, random ones through every proof.
#include "check/check.hpp"
#include "model/edit.hpp"
#include "model/forms/silhouette.hpp"
#include "model/job_file.hpp"
#include "model/ready_zone.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "quantity/expression.hpp"

#include <numbers>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

Job set(const Job& job, std::size_t zone, Field f, const char* text) {
    return apply(job, {0, zone, f, text, LengthUnit::millimetre});
}
std::string why(const std::string& text) {
    try {
        (void)piece_of(text);
    } catch (const InputError& e) {
        return e.what();
    }
    return "read";
}
const ResolvedSilhouette& shape(const ResolvedPiece& p, std::size_t zone = 0) {
    return *p.zones.at(zone).silhouette();
}

// The outline at a height as the textbook draws it: a circle through two ridges and the middle of the scallop between
// them, met by a ray from the axis at φ from that middle.
double on_circle(double outer, double inner, double alpha, double phi) {
    const double ax = outer * std::cos(alpha),
                 ay = outer * std::sin(alpha); // the ridges (ax, ±ay), the middle (inner, 0)
    const double centre = (ax * ax + ay * ay - inner * inner) / (2 * (ax - inner)),
                 radius = std::abs(centre - inner);
    const double along = centre * std::cos(phi), off = centre * std::sin(phi),
                 reach = std::sqrt(radius * radius - off * off);
    return inner < centre ? along - reach : along + reach;
}

// ∫ of the outline's area over the height, Simpson's rule both ways on the textbook's circles.
double volume_of(double z0, double z1, int count, const std::function<double(double)>& outer,
                 const std::function<double(double)>& depth) {
    const int n = 1200, m = 400;
    const double alpha = pi / count;
    double sum = 0;
    for (int i = 0; i <= n; ++i) {
        const double z = z0 + (z1 - z0) * i / n, r = outer(z), d = depth(z);
        double area = pi * r * r;
        if (d > 1e-7) {
            area = 0;
            for (int k = 0; k <= m; ++k) {
                const double rho = on_circle(r, r - d, alpha, alpha * k / m);
                area += (k == 0 || k == m ? 1 : k % 2 == 1 ? 4 : 2) * rho * rho / 2;
            }
            area *= 2 * count * alpha / m / 3;
        }
        sum += (i == 0 || i == n ? 1 : i % 2 == 1 ? 4 : 2) * area;
    }
    return sum * (z1 - z0) / n / 3;
}

Piece any_silhouette(std::mt19937& random, std::string& text) {
    const auto real = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const auto chance = [&](double p) { return real(0, 1) < p; };
    SilhouetteForm f;
    const int n = static_cast<int>(real(2, 5.99));
    const double wide = real(4, 25);
    double z = 0;
    std::vector<CurvePoint> points;
    for (int i = 0; i < n; ++i) {
        CurvePoint p{std::round(z * 100) / 100, std::round(wide * real(0.5, 1) * 100) / 100, {}};
        if (chance(0.2)) p.slope = std::tan(real(-40, 40) * pi / 180);
        points.push_back(p);
        z += wide * real(0.3, 1.2);
    }
    const double length = points.back().at;
    f.points = {write_points(points), {}};
    f.course = static_cast<Course>(static_cast<int>(real(0, 2.99)));
    const bool fluted = chance(0.45);
    if (fluted) {
        const int count = static_cast<int>(chance(0.03) ? real(3, 60.99) : real(3, 8.99));
        f.flutes = {std::to_string(count), {}};
        f.flute_depth = {
            number_text(std::min(0.5 * wide, deepest_scallop(0.5 * wide, count)) * real(0.05, 0.9), 3), {}};
        if (chance(0.7)) f.twist = {number_text(real(-270, 270), 1), {}};
        if (chance(0.5)) f.flutes_from = {number_text(length * real(0.02, 0.3), 2), {}};
        if (chance(0.5)) f.flutes_to = {number_text(length * real(0.6, 0.98), 2), {}};
        if (chance(0.4)) f.ridge = {number_text(wide * real(0.01, 0.1), 2), {}};
        if (chance(0.3)) f.start_angle = {number_text(real(-180, 360), 2), {}};
    }
    Zone zone;
    zone.form = f;
    zone.length = chance(0.2) ? Number{number_text(length * real(0.7, 1.5), 2), {}} : Number{};
    Piece p;
    if (chance(0.2))
        p.zones.push_back(
            plain(mm(2 * points.front().value * (chance(0.5) ? 1 : real(0.6, 1.4))), mm(wide / 3)));
    const bool near_plain = !p.zones.empty();
    p.zones.push_back(zone);
    text = zone_designation(zone, {});
    if (chance(0.4)) {
        Zone hollow = hollow_zone(mm(wide * real(0.02, 0.15)), mm(length * real(0.02, 0.2)));
        std::get<SilhouetteForm>(hollow.form).smooth = chance(0.3);
        if (chance(0.2)) {
            hollow.near_end.kind = EndKind::rounded;
            hollow.near_end.radius = {number_text(wide * real(0.6, 2), 2), {}};
        }
        if (near_plain)
            hollow.length = {number_text(length * real(0.3, 0.9), 2), {}},
            hollow.length.text = number_text(length * 0.5, 2);
        p.zones.push_back(hollow);
        text += ", " + zone_designation(hollow, {});
    } else if (chance(0.15)) {
        SilhouetteForm inside;
        inside.points = {"0:" + number_text(wide * 0.2, 2) + " " + number_text(length / 4, 2) + ":" +
                             number_text(wide * 0.1, 2) + " " + number_text(length / 2, 2) + ":" +
                             number_text(wide * 0.15, 2),
                         {}};
        Zone bore;
        bore.where = chance(0.5) ? Where::near_bore : Where::far_bore;
        bore.form = inside;
        bore.length = {number_text(length / 2, 2), {}};
        p.zones.push_back(bore);
        text += " bored";
    }
    return p;
}

// The first that can be resolved.
Piece random_silhouette(std::mt19937& random, std::string& text) {
    for (int i = 0; i < 40; ++i)
        try {
            Piece p = any_silhouette(random, text);
            (void)resolve_piece(p, {});
            return p;
        } catch (const InputError&) { // with a sentence
        }
    throw std::logic_error("random_silhouette: none resolves");
}

} // namespace

TEST_CASE("a curve goes through its points, with their slopes, by its course") {
    const std::vector<CurvePoint> points{{0, 10, {}}, {10, 14, 0.5}, {25, 9, {}}, {40, 12, {}}};
    for (const Course course : {Course::spline, Course::monotone, Course::arcs}) {
        INFO(word(course));
        const RadiusCurve c(points, course);
        for (const CurvePoint& p : points)
            CHECK(c(p.at) == Approx(p.value));
        CHECK(c.jet(10).c[1] == Approx(0.5));
        // no kink anywhere
        for (const double z : c.breaks())
            CHECK(c.jet(z - 1e-7).c[1] == Approx(c.jet(z + 1e-7).c[1]).margin(1e-5));
    }
    // curvature goes on where no slope is said, and is none at free ends
    const RadiusCurve even({{0, 10, {}}, {10, 14, {}}, {25, 9, {}}, {40, 12, {}}}, Course::spline);
    for (const double z : {10.0, 25.0})
        CHECK(even.jet(z - 1e-9).c[2] == Approx(even.jet(z + 1e-9).c[2]).epsilon(1e-6));
    CHECK(even.jet(0).c[2] == Approx(0).margin(1e-12));
    CHECK(even.jet(40).c[2] == Approx(0).margin(1e-12));
    // monotone: nothing beyond its points
    const RadiusCurve flat({{0, 10, {}}, {10, 10, {}}, {11, 20, {}}, {30, 20, {}}}, Course::monotone);
    CHECK(flat.largest().value == Approx(20));
    CHECK(flat.least().value == Approx(10));
    CHECK(even.largest().value > 14);
    // arcs through three points of a circle are that circle
    const auto on = [](double z) { return 30 + std::sqrt(50 * 50 - (z - 20) * (z - 20)); };
    const RadiusCurve circle({{0, on(0), {}}, {15, on(15), {}}, {40, on(40), {}}}, Course::arcs);
    for (double z = 0; z <= 40; z += 1)
        CHECK(circle(z) == Approx(on(z)).epsilon(1e-12));
    CHECK(circle.largest().value == Approx(80));
    CHECK_THROWS_WITH(RadiusCurve({{0, 10, 5}, {1, 11, -5}, {1.5, 30, {}}}, Course::arcs),
                      Catch::Contains("fold back"));
}

TEST_CASE("scallops are circles through two ridges and the middle between them, and fade out") {
    for (const int count : {3, 5, 8, 24})
        for (const double part : {0.02, 0.3, 0.7, 0.95}) {
            const double a = pi / count, deep = part * deepest_scallop(20, count);
            Flutes f;
            f.count = count;
            f.depth = RadiusCurve({{0, 0, 0}, {10, deep, 0}, {20, 0, 0}}, Course::monotone);
            f.from = 0, f.to = 20;
            f.contact = a;
            const auto wall = std::make_shared<const ShapedWall>(
                RadiusCurve({{0, 20, {}}, {20, 20, {}}}, Course::spline), f);
            const ShapedPatch p{wall, -a, a, 0, 20};
            INFO(count << " flutes " << deep << " deep");
            CHECK(p.radius(0, 10) == Approx(20 - deep));
            for (const double x : {-1.0, -0.6, 0.0, 0.3, 1.0}) {
                CHECK(p.radius(x * a, 10) == Approx(on_circle(20, 20 - deep, a, x * a)).epsilon(1e-9));
                CHECK(p.radius(x * a, 1e-6) == Approx(20).epsilon(1e-9));
                // its slopes by differences
                const double h = 1e-5;
                const auto s = p.slopes(x * 0.99 * a, 7);
                CHECK(s.by_phi ==
                      Approx((p.radius(x * 0.99 * a + h, 7) - p.radius(x * 0.99 * a - h, 7)) / (2 * h))
                          .margin(1e-6));
                CHECK(s.by_z ==
                      Approx((p.radius(x * 0.99 * a, 7 + h) - p.radius(x * 0.99 * a, 7 - h)) / (2 * h))
                          .margin(1e-6));
            }
        }
}

TEST_CASE("rounded ridges touch both scallops") {
    const int count = 8;
    const double a = pi / count, deep = 3, contact = contact_angle(30, deep, count, 2);
    CHECK(round_radius(30, deep, count, contact) == Approx(2).epsilon(1e-6));
    Flutes f;
    f.count = count;
    f.depth = RadiusCurve({{0, 0, 0}, {10, deep, 0}, {20, 0, 0}}, Course::monotone);
    f.from = 0, f.to = 20;
    f.contact = contact;
    const auto wall =
        std::make_shared<const ShapedWall>(RadiusCurve({{0, 30, {}}, {20, 30, {}}}, Course::spline), f);
    const ShapedPatch scallop{wall, -contact, contact, 0, 20}, ridge{wall, contact, 2 * a - contact, 0, 20};
    for (const double z : {3.0, 10.0, 16.0}) {
        const auto s = scallop.slopes(contact, z), r = ridge.slopes(contact, z);
        CHECK(s.radius == Approx(r.radius));
        CHECK(s.by_phi == Approx(r.by_phi));
        CHECK(s.by_z == Approx(r.by_z));
    }
    // at the deepest it is a circle of 2 mm about a point on the ridge's own radius
    const double top = ridge.radius(a, 10), middle = top - 2;
    for (const double x : {0.0, 0.3, 0.8}) {
        const double phi = contact + (a - contact) * x, r = ridge.radius(phi, 10);
        CHECK(std::hypot(r * std::cos(phi - a) - middle, r * std::sin(phi - a)) == Approx(2).epsilon(1e-6));
    }
    CHECK(wall->ridge_radius(10) == Approx(top));
    CHECK(top < 30);
}

TEST_CASE("silhouettes have the volume of their curves") {
    // a cone, a ball's zone by arcs and a barrel by its spline
    CHECK(test::prove(piece_of("silhouette 0:10 30:20")).volume() == Approx(pi * 30 * (100 + 200 + 400) / 3));
    const auto on = [](double z) { return std::sqrt(25 * 25 - (z - 20) * (z - 20)); };
    const std::string ball = "silhouette 0:" + number_text(on(0), 9) + " 10:" + number_text(on(10), 9) +
                             " 35:" + number_text(on(35), 9) + " arcs";
    CHECK(test::prove(piece_of(ball)).volume() ==
          Approx(pi * (625 * 35 - (15 * 15 * 15 + 20 * 20 * 20) / 3.0)).epsilon(1e-7));
    for (const char* text : {"silhouette 0:20 30:25 60:18", "silhouette 0:12 8:16 22:10 40:14:0",
                             "silhouette 0:8 10:20 30:20 40:8 monotone", "silhouette 0:20 30:25 60:20 arcs",
                             "silhouette 0:20 30:25 60:18 x 80"}) {
        INFO(text);
        const Piece p = piece_of(text);
        const ResolvedPiece r = resolve_piece(p, {});
        const RadiusCurve& c = shape(r).wall->outer();
        CHECK(test::prove(p).volume() ==
              Approx(volume_of(
                         0, in_mm(r.length()), 8, [&](double z) { return c(z); }, [](double) { return 0; }))
                  .epsilon(1e-7));
    }
}

TEST_CASE("fluted silhouettes have the volume of the circles through their ridges") {
    for (const char* text :
         {"silhouette 0:30 100:30, 8 flutes 4 deep", "silhouette 0:30 100:30, 8 flutes 4 deep, twist 90",
          "silhouette 0:20 40:28 90:16, 5 flutes 3 deep, twist 120 LH, from 10 to 80",
          "silhouette 0:20 40:28 90:16, 24 flutes, twist 45, depth 5:0 20:0.8 70:1 85:0, from 5 to "
          "85",
          "silhouette 0:12 60:10, 3 flutes 2 deep, turned 15"}) {
        INFO(text);
        const Piece p = piece_of(text);
        const ResolvedPiece r = resolve_piece(p, {});
        const ShapedWall& w = *shape(r).wall;
        const auto depth = [&](double z) { return w.fluted(z) ? w.flutes()->depth(z) : 0; };
        const double own = volume_of(
            0, in_mm(r.length()), w.flutes()->count, [&](double z) { return w.outer()(z); }, depth);
        CHECK(test::prove(p).volume() == Approx(own).epsilon(2e-6));
        CHECK(w.volume(0, in_mm(r.length())) == Approx(own).epsilon(2e-6));
    }
}

TEST_CASE("points of a fluted wall lie on its circles, turned") {
    const Piece p = piece_of("silhouette 0:30 100:30, 8 flutes 4 deep, twist 90");
    const Preview made = test::prove(p);
    const double a = pi / 8;
    double worst = 0;
    int on = 0;
    for (const solid::Point& q : made.mesh.points) {
        const double r = std::hypot(q.x, q.y);
        if (r < 20 || q.z < 34 || q.z > 66) continue; // 4 mm deep there
        const double phi = std::remainder(std::atan2(q.y, q.x) - q.z / 100 * pi / 2, 2 * a);
        worst = std::max(worst, std::abs(r - on_circle(30, 26, a, phi)));
        ++on;
    }
    CHECK(on > 400);
    CHECK(worst < 1e-9);
}

TEST_CASE("a hollow leaves the wall that is asked, measured on the mesh") {
    for (const char* text :
         {"cup", "bottle 70 x 180", "cup 60 x 70, 12 flutes, twist 90 LH, ridges 0.5",
          "silhouette 0:30 60:38 140:24 180:16:0, wall 1.5 bottom 3",
          "silhouette 0:30 30:40 80:40, 6 flutes 3 deep, from 8, wall 2 bottom 3 smooth",
          "silhouette 0:30 30:40 80:40, 6 flutes 3 deep, from 25, wall 2 bottom 3 dish 60"}) {
        INFO(text);
        const Piece p = piece_of(text);
        const ResolvedPiece r = resolve_piece(p, {});
        const ResolvedSilhouette& inside = shape(r, 1);
        (void)test::prove(p);
        const Preview made = make_preview(p, 0, {}, LengthUnit::millimetre, 0.02);
        // points of the inside and triangles of the outside
        std::vector<std::array<solid::Point, 3>> outside;
        std::vector<solid::Point> in;
        for (std::size_t i = 0; i < made.mesh.triangles.size(); ++i) {
            const solid::Face& f = made.body.skin()->faces[made.mesh.face[i]];
            const auto& t = made.mesh.triangles[i];
            if (f.kind != solid::FaceKind::shaped) continue;
            if (f.bore == 0)
                outside.push_back({made.mesh.points[t[0]], made.mesh.points[t[1]], made.mesh.points[t[2]]});
            else if (i % 61 == 0)
                in.push_back(made.mesh.points[t[0]]);
        }
        REQUIRE(in.size() > 50);
        double least = 1e300;
        for (const solid::Point& q : in) {
            double nearest = 1e300;
            for (const auto& t : outside) { // to the plane of the triangle, near its middle, or its corners
                for (const solid::Point& c : t)
                    nearest = std::min(nearest, std::hypot(c.x - q.x, c.y - q.y, c.z - q.z));
                const double ux = t[1].x - t[0].x, uy = t[1].y - t[0].y, uz = t[1].z - t[0].z,
                             vx = t[2].x - t[0].x, vy = t[2].y - t[0].y, vz = t[2].z - t[0].z;
                const double nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx,
                             size = std::hypot(nx, ny, nz);
                const double off = ((q.x - t[0].x) * nx + (q.y - t[0].y) * ny + (q.z - t[0].z) * nz) / size;
                if (std::abs(off) >= nearest) continue;
                const double wx = q.x - off * nx / size - t[0].x, wy = q.y - off * ny / size - t[0].y,
                             wz = q.z - off * nz / size - t[0].z;
                const double uu = ux * ux + uy * uy + uz * uz, vv = vx * vx + vy * vy + vz * vz,
                             uv = ux * vx + uy * vy + uz * vz, wu = wx * ux + wy * uy + wz * uz,
                             wv = wx * vx + wy * vy + wz * vz, det = uu * vv - uv * uv;
                const double a = (wu * vv - wv * uv) / det, b = (wv * uu - wu * uv) / det;
                if (a >= 0 && b >= 0 && a + b <= 1) nearest = std::abs(off);
            }
            least = std::min(least, nearest);
        }
        const double asked = *inside.spec.wall;
        CHECK(least > asked - 0.02); // chords of 0.02 mm, to the hollow's side of the outside
        CHECK(least < asked + 0.25);
        CHECK(inside.least_wall == Approx(asked).margin(3e-3));
        CHECK(inside.thickest_wall >= inside.least_wall);
        // what it holds: its volume by the curves, and what the solid lacks
        const ResolvedSilhouette& o = shape(r, 0);
        CHECK(inside.contents == Approx(o.wall->volume(o.z0, o.z1) - made.volume()).epsilon(1e-6));
        CHECK(inside.z0 == Approx(inside.spec.bottom));
        // the draft is that of the steepest inward meridian, of scallops too
        double draft = 1e9;
        for (double z = inside.body_from + 0.01; z < inside.z1 - 0.01; z += 0.05)
            for (const bool middle : {false, true}) {
                const auto at = [&](double h) {
                    return middle ? inside.wall->least_radius(h) : inside.wall->outer()(h);
                };
                draft = std::min(draft, (at(z + 1e-4) - at(z - 1e-4)) / 2e-4);
            }
        CHECK(*find_value(inside.values, "draft")->value == Approx(std::atan(draft)).margin(0.02));
    }
}

TEST_CASE("randomised silhouettes are closed, valid and of their closed volume") {
    test::prove_random(31000, 60, 0.5, random_silhouette, solid::plain_kernel_volume);
}
TEST_CASE("3 000 randomised silhouettes", "[.][long]") {
    test::prove_random(310000, 3000, 0.5, random_silhouette, solid::plain_kernel_volume);
}

TEST_CASE("silhouettes are written as they are read") {
    for (const char* text :
         {"silhouette 0:30 60:38 140:24:0 180:16", "silhouette 0:30 60:38 180:16 monotone x 200",
          "silhouette 0:38 200:38, 8 flutes 4 deep, twist 60, from 20, to 170, ridges 1.5",
          "silhouette 0:38 200:38, 12 flutes, depth 20:0 60:4 140:4 170:0, twist 90 LH, from 20, to 170",
          "silhouette in 0:30 60:38", "hollow 1.5 bottom 3", "hollow 2 bottom 4 dish 60",
          "hollow 2 bottom 4 smooth", "silhouette 0:38 200:38, wall 1.5 bottom 3"}) {
        INFO(text);
        const Designation d = parse_designation(text);
        CHECK(write_silhouette(std::get<SilhouetteSpec>(d.what), d.length, d.unit) == text);
        const Job job = add_piece({}, piece_of(text));
        CHECK(job_from_json(job_to_json(job)) == job);
    }
    CHECK_THAT(why("silhouette"), Catch::Contains("two points or more"));
    CHECK_THAT(why("silhouette 0:30 60"), Catch::Contains("two points or more"));
    CHECK_THAT(why("silhouette 0:30 60:"), Catch::Contains("number is missing"));
    CHECK_THAT(why("silhouette 0:30 60:20:0:1"), Catch::Contains("no point"));
    CHECK_THAT(why("silhouette 5:30 60:20"), Catch::Contains("at the height 0"));
    CHECK_THAT(why("silhouette 0:30 60:20 50:20"), Catch::Contains("folds back"));
    CHECK_THAT(why("silhouette 0:30 60:0"), Catch::Contains("between 0.05 and 5000"));
    CHECK_THAT(why("silhouette 0:20 10:1 20:0.1 30:20"), Catch::Contains("take monotone"));
    CHECK_THAT(why("silhouette 0:30 60:20:89"), Catch::Contains("between -88"));
    CHECK_THAT(why("silhouette 0:30 60:20, twist 30"), Catch::Contains("how many there are"));
    CHECK_THAT(why("silhouette 0:30 60:20, 2 flutes"), Catch::Contains("3 to 60 flutes"));
    CHECK_THAT(why("silhouette 0:30 60:30, 8 flutes 20 deep"), Catch::Contains("are at most 9.6"));
    CHECK_THAT(why("silhouette 0:30 60:30, 8 flutes 3 deep, ridges 40"),
               Catch::Contains("rounded by at most"));
    CHECK_THAT(why("silhouette 0:30 60:30, 8 flutes 3 deep, from 50 to 40"),
               Catch::Contains("1 mm long at least"));
    CHECK_THAT(why("silhouette 0:30 60:20 sideways"), Catch::Contains("not understood in a silhouette"));
    CHECK_THAT(why("hollow 1.5 flutes"), Catch::Contains("not understood in a hollow"));
    CHECK_THAT(why("silhouette in 0:30 60:20, wall 2"), Catch::Contains("no wall of its own"));
    CHECK_THAT(why("cup 5 x 5"), Catch::Contains("10 to 1000 mm wide"));
}

TEST_CASE("a hollow says why it can't be made") {
    const auto refused = [](const char* text) {
        try {
            (void)resolve_piece(piece_of(text), {});
        } catch (const InputError& e) {
            return std::string(e.what());
        }
        return std::string("made");
    };
    CHECK_THAT(refused("silhouette 0:30 60:20, wall 25 bottom 3"), Catch::Contains("leaves no hollow"));
    CHECK_THAT(refused("silhouette 0:30 60:20, wall 2 bottom 70"), Catch::Contains("make it thinner"));
    CHECK_THAT(refused("silhouette 0:30 60:30, 8 flutes 4 deep, wall 2 bottom 20"),
               Catch::Contains("begin above it"));
    CHECK_THAT(refused("silhouette 0:30 60:30, wall 2 bottom 3 dish 20"), Catch::Contains("at least 28.56"));
    CHECK_THAT(refused("silhouette 0:30 20:30, wall 2 bottom 3 dish 29"), Catch::Contains("larger radius"));
    // a dish is part of a ball: what it adds to the bottom, by the cap's height
    const double dish = 60, wide = 28, cap = dish - std::sqrt(dish * dish - wide * wide);
    const ResolvedPiece dished =
        resolve_piece(piece_of("silhouette 0:30 60:30, wall 2 bottom 3 dish 60"), {});
    CHECK(shape(dished, 1).body_from == Approx(3 + cap).margin(2e-3));
    CHECK(shape(dished, 1).contents ==
          Approx(pi * wide * wide * (57 - cap) + pi * cap * cap * (dish - cap / 3)).epsilon(1e-4));
    // flutes deeper than the wall are no trouble: the inside follows them
    CHECK(refused("silhouette 0:30 60:30, 8 flutes 4 deep, from 5, wall 2 bottom 3") == "made");
    Job job = add_piece({}, piece_of("cup"));
    CHECK_THROWS_WITH(set(job, 1, field::wall, ""), Catch::Contains("delete the zone"));
    CHECK_THROWS_WITH(set(job, 0, field::flute_depth, "30"), Catch::Contains("at most"));
    CHECK_THROWS_WITH(set(job, 0, field::points, "0:30"), Catch::Contains("two points"));
    CHECK_THROWS_WITH(set(job, 0, field::near_end, "chamfer"),
                      Catch::Contains("is no near_end") || Catch::Contains("near end"));
}

TEST_CASE("a hollow follows its silhouette, and a smooth one that is much thicker is mended") {
    Job job = add_piece({}, piece_of("cup 80 x 95"));
    const auto at = [&](std::size_t zone) { return shape(resolve_piece(job.pieces[0], {}), zone); };
    const double holds = at(1).contents;
    CHECK(holds == Approx(320e3).epsilon(0.2)); // a third of a litre
    job = set(job, 0, field::length, "120");
    CHECK(at(1).z1 == Approx(120));
    CHECK(at(1).contents > 1.2 * holds);
    job = set(job, 1, field::bottom, "6");
    CHECK(at(1).z0 == Approx(6));
    job = set(job, 0, field::flutes, "");
    CHECK(at(0).wall->flutes() == nullptr);
    CHECK(at(1).wall->flutes() == nullptr);
    CHECK(at(1).least_wall == Approx(2).margin(2e-3));
    job = set(set(job, 0, field::flutes, "6"), 0, field::flute_depth, "9");
    job = set(job, 1, field::inside, "smooth");
    const auto all = findings_of(job, 0);
    const auto f =
        std::find_if(all.begin(), all.end(), [](const Finding& x) { return x.id == "wall_much_thicker"; });
    REQUIRE(f != all.end());
    job = apply(job, *f->remedy);
    CHECK(at(1).wall->flutes() != nullptr);
    CHECK(findings_of(job, 0).empty());
}

TEST_CASE("a silhouette is hollowed by its line, and by one step") {
    const auto line = [](const Job& job, const char* text) {
        return respec_zone(job, 0, 0, parse_designation(text));
    };
    Job job = add_piece({}, piece_of("silhouette 0:30 60:30, 8 flutes 3 deep, from 10"));
    job = line(job, "hollow 2 bottom 4");
    REQUIRE(job.pieces[0].zones.size() == 2);
    const auto hollow = [&] { return shape(resolve_piece(job.pieces[0], {}), 1).spec; };
    CHECK(*hollow().wall == Approx(2));
    job = line(job, "hollow 1.5 bottom 3 smooth");
    REQUIRE(job.pieces[0].zones.size() == 2); // the same one
    CHECK(*hollow().wall == Approx(1.5));
    CHECK(hollow().smooth);
    job = line(job, "silhouette 0:20 50:30, wall 3 bottom 5");
    REQUIRE(job.pieces[0].zones.size() == 2);
    CHECK(*hollow().wall == Approx(3));
    CHECK(shape(resolve_piece(job.pieces[0], {})).z1 == Approx(50)); // as long as its points say
    (void)test::prove(job.pieces[0]);
    CHECK_THROWS_WITH(line(job, "silhouette in 0:10 20:12"), Catch::Contains("select a bore zone"));
    const Job bar = add_piece({}, piece_of("round 20 x 30"));
    CHECK_THROWS_WITH(line(bar, "hollow 2 bottom 3"), Catch::Contains("this piece has none"));
    CHECK_THROWS_WITH(with_hollow(bar, 0), Catch::Contains("this piece has none"));
    const Job knob = with_hollow(add_piece({}, piece_of("silhouette 0:30 60:36")), 0);
    CHECK(*shape(resolve_piece(knob.pieces[0], {}), 1).spec.wall == Approx(2));
    (void)test::prove(knob.pieces[0]);
}

TEST_CASE("a hollow may stand before its silhouette in the list of zones") {
    const Piece cup = piece_of("silhouette 0:30 60:36, 6 flutes 2 deep, from 10, wall 2 bottom 4");
    REQUIRE(cup.zones.size() == 2);
    Piece turned = cup;
    std::swap(turned.zones[0], turned.zones[1]);
    const ResolvedPiece a = resolve_piece(cup, {}), b = resolve_piece(turned, {});
    REQUIRE(b.zones[0].is_hollow());
    CHECK(b.zones[0].silhouette()->least_wall == Approx(a.zones[1].silhouette()->least_wall));
    CHECK(test::prove(turned).volume() == Approx(test::prove(cup).volume()));
}

TEST_CASE("a zone's finish is its own until it is cleared") {
    Job job = add_piece({}, piece_of("ISO 4017 M8 x 30"));
    CHECK(finish_of(job.pieces[0], 1).red == finish_of(job.pieces[0]).red);
    job = set(job, 1, field::zone_finish, "#7A5AA8");
    CHECK(job.pieces[0].zones[1].finish == "#7A5AA8");
    CHECK(finish_of(job.pieces[0], 1).red == Approx(0x7A / 255.0));
    CHECK(finish_of(job.pieces[0], 0).red == finish_of(job.pieces[0]).red);
    CHECK(finish_of(job.pieces[0], 1).density == finish_of(job.pieces[0]).density);
    CHECK(job_from_json(job_to_json(job)) == job);
    job = set(job, 1, field::zone_finish, "brass");
    CHECK(finish_of(job.pieces[0], 1).name == std::string("brass"));
    CHECK_THROWS_WITH(set(job, 1, field::zone_finish, "gold"), Catch::Contains("no finish 'gold'"));
    CHECK_THROWS_WITH(set(job, 1, field::zone_finish, "#12"), Catch::Contains("six digits"));
    job = set(job, 1, field::zone_finish, "");
    CHECK(job.pieces[0].zones[1].finish.empty());
    std::string text = job_to_json(job);
    const auto place = text.find("\"near_end\"");
    REQUIRE(place != std::string::npos);
    CHECK_THROWS_WITH(job_from_json(std::string(text).insert(place, "\"finish\": \"gold\", ")),
                      Catch::Contains("a finish is a material"));
}
