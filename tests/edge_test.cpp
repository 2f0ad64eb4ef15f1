// Rounded edges and fillets: volumes by Pappus, points on their tori, random stepped pieces through every proof,
// what is refused and mended; holes for screws, put into pieces; zones that are repeated.
#include "build/piece_values.hpp"
#include "check/check.hpp"
#include "model/edit.hpp"
#include "model/forms/plain.hpp"
#include "model/job_file.hpp"
#include "model/ready_zone.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "quantity/expression.hpp"
#include "solid/skin/skin.hpp"

#include <numbers>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

Job set(const Job& job, std::size_t zone, Field f, const char* text) {
    return apply(job, {0, zone, f, text, LengthUnit::millimetre});
}
std::string why(const Job& job, std::size_t zone, Field f, const char* text) {
    try {
        (void)set(job, zone, f, text);
    } catch (const InputError& e) {
        return e.what();
    }
    return "done";
}
const Finding* found(const std::vector<Finding>& all, const std::string& id) {
    for (const Finding& f : all)
        if (f.id == id) return &f;
    return nullptr;
}
Zone in_bore(Zone z, Where where = Where::near_bore) {
    z.where = where;
    return z;
}

// Between a square corner and the quarter of a circle in it, turned about the axis: the area (1 − π/4)·ρ², its
// centroid ρ·(10 − 3π)/(12 − 3π) from the corner, which stands at the radius r; `side` −1: towards the axis.
double corner_volume(double radius, double rho, int side) {
    const double area = (1 - pi / 4) * rho * rho, off = rho * (10 - 3 * pi) / (12 - 3 * pi);
    return 2 * pi * (radius + side * off) * area;
}

// A head, a shank, a collar and a tip, blind holes in both ends: every edge that can be rounded may be.
Piece random_stepped(std::mt19937& random, std::string& text) {
    const auto real = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const auto chance = [&](double p) { return real(0, 1) < p; };
    Piece p;
    const int n = 1 + static_cast<int>(real(0, 3.99));
    std::vector<double> d, to, l; // from a diameter to another, cones too
    for (int i = 0; i < n; ++i) {
        d.push_back(std::round(real(6, 40) * 10) / 10);
        to.push_back(chance(0.3) ? std::round(d.back() * real(0.7, 1.4) * 10) / 10 : d.back());
        l.push_back(std::round(real(3, 25) * 10) / 10);
    }
    for (std::size_t i = 0; i < d.size(); ++i) {
        const bool cone = to[i] != d[i];
        Zone z =
            plain(mm(d[i]), mm(l[i]), i > 0 && !cone && chance(0.15) ? Outline::hexagon : Outline::round);
        if (cone) z.as<PlainForm>()->far_diameter = millimetres(mm(to[i]));
        if (z.as<PlainForm>()->outline != Outline::round) {
            if (chance(0.5)) z.near_end.kind = EndKind::rounded;
            if (chance(0.5)) z.far_end.kind = EndKind::rounded;
        } else
            for (const bool far : {false, true}) {
                const bool next = far ? i + 1 < d.size() : i > 0;
                const double own = far ? to[i] : d[i],
                             other = !next ? 0
                                     : far ? d[i + 1]
                                           : to[i - 1],
                             m = (far ? 1 : -1) * (to[i] - d[i]) / 2 / l[i], k = std::hypot(1, m);
                // what an arc of radius 1 takes of the face, and of the length
                const double step = (other - own) / 2, side = step > 0 ? -1 : 1, face = k + side * m,
                             room = std::min(std::abs(step) / face, l[i] / 2 / (1 + side * m / k));
                if (room < 0.3 || chance(0.2)) continue;
                const double rho = chance(0.1) ? room : real(0.05, 0.95) * room;
                EndTreatment e =
                    step > 0 ? fillet(mm(rho)) : rounded_edge(mm(std::min(rho, 0.49 * own / face)));
                if (step < 0 && !cone && chance(0.2)) e = chamfer(45);
                (far ? z.far_end : z.near_end) = e;
            }
        text += zone_designation(z, {}) + " | ";
        p.zones.push_back(z);
    }
    double whole = 0, least = 1e9;
    for (std::size_t i = 0; i < d.size(); ++i) {
        whole += l[i];
        least = std::min({least, d[i], to[i]});
    }
    if (chance(0.5)) { // drilled flat, the bottom's corner filled and the mouth's edge rounded
        const double bore = real(0.2, 0.6) * least, deep = real(0.2, 0.8) * whole;
        Zone z = in_bore(plain(mm(bore), mm(deep)));
        if (chance(0.6)) z.near_end = rounded_edge(mm(real(0.05, 0.2) * std::min(bore, deep)));
        if (chance(0.6)) z.far_end = fillet(mm(real(0.05, 0.45) * std::min(bore, deep)));
        text += "bore " + number_text(bore, 3);
        p.zones.push_back(z);
    } else if (chance(0.5)) { // stepped, through
        const double narrow = real(0.2, 0.4) * least, wide = narrow * real(1.2, 1.8),
                     deep = real(0.2, 0.6) * whole, room = std::min(wide - narrow, deep) / 2;
        Zone first = in_bore(plain(mm(wide), mm(deep))), second = in_bore(plain(mm(narrow), mm(1)));
        second.length = {"", {}};
        if (chance(0.7)) first.far_end = fillet(mm(real(0.1, 0.9) * room));
        if (chance(0.3)) second.near_end = rounded_edge(mm(real(0.1, 0.3) * std::min(room, whole - deep)));
        if (chance(0.5)) second.far_end = rounded_edge(mm(real(0.05, 0.2) * std::min(narrow, whole - deep)));
        text += "bores " + number_text(wide, 3) + ", " + number_text(narrow, 3);
        p.zones.push_back(first);
        p.zones.push_back(second);
    }
    return p;
}

} // namespace

TEST_CASE("edges and fillets, outside and in bores, have the volumes of Pappus") {
    const double bar = pi * 100 * 30; // Ø 20 x 30
    const Piece round = piece_of("round 20 x 30");
    Piece p = round;
    p.zones[0].far_end = rounded_edge(mm(2));
    CHECK(test::prove(p).volume() == Approx(bar - corner_volume(10, 2, -1)).epsilon(1e-10));
    p.zones[0].near_end = rounded_edge(mm(4));
    CHECK(test::prove(p).volume() ==
          Approx(bar - corner_volume(10, 2, -1) - corner_volume(10, 4, -1)).epsilon(1e-10));
    // a collar on it: a fillet on its near side, its own edges rounded
    p = round;
    p.zones[0].far_end = fillet(mm(3));
    Zone collar = plain(mm(30), mm(10));
    collar.near_end = collar.far_end = rounded_edge(mm(1));
    p.zones.push_back(collar);
    CHECK(
        test::prove(p).volume() ==
        Approx(bar + corner_volume(10, 3, 1) + pi * 225 * 10 - 2 * corner_volume(15, 1, -1)).epsilon(1e-10));
    // a blind hole: its mouth's edge away, its bottom's corner filled; the same from the far end
    for (const Where where : {Where::near_bore, Where::far_bore}) {
        p = round;
        Zone hole = in_bore(plain(mm(8), mm(12)), where);
        (where == Where::near_bore ? hole.near_end : hole.far_end) = rounded_edge(mm(1.5));
        (where == Where::near_bore ? hole.far_end : hole.near_end) = fillet(mm(2.5));
        p.zones.push_back(hole);
        CHECK(
            test::prove(p).volume() ==
            Approx(bar - pi * 16 * 12 - corner_volume(4, 1.5, 1) + corner_volume(4, 2.5, -1)).epsilon(1e-10));
    }
    // a step in a bore: the wide part's corner filled, the narrow one's edge rounded
    p = round;
    Zone wide = in_bore(plain(mm(12), mm(10))), narrow = in_bore(plain(mm(6), mm(1)));
    narrow.length = {"", {}};
    wide.far_end = fillet(mm(1));
    narrow.near_end = rounded_edge(mm(1.5));
    p.zones.push_back(wide);
    p.zones.push_back(narrow);
    CHECK(test::prove(p).volume() ==
          Approx(bar - pi * 36 * 10 - pi * 9 * 20 + corner_volume(6, 1, -1) - corner_volume(3, 1.5, 1))
              .epsilon(1e-10));
    // on a bar that is bent, and a hexagon's shoulder
    p = piece_of("elbow G3/8 90");
    REQUIRE(p.zones[0].near_end.kind == EndKind::edge);
    (void)test::prove(p);
    p = piece_of("ISO 4014 M8 x 60");
    p.zones[1].near_end = fillet(mm(0.4));
    CHECK(test::prove(p).volume() - test::prove(piece_of("ISO 4014 M8 x 60")).volume() ==
          Approx(corner_volume(4, 0.4, 1)).epsilon(1e-6));
}

TEST_CASE("rounded corners of hexagons and squares: what a ball takes off, by quadrature") {
    for (const auto& [text, sides] : {std::pair{"hex 16 x 8", 6}, std::pair{"square 14 x 9", 4}})
        for (const double radius : {0.0, 13.0, 40.0}) {
            Piece p = piece_of(text);
            p.zones[0].near_end.kind = EndKind::rounded;
            if (radius > 0) p.zones[0].near_end.radius = {number_text(radius, 3), {}};
            const ResolvedZone z = resolve_piece(p, {}).zones[0];
            const double a = in_mm(z.diameter) / 2, tip = std::round(0.95 * 2 * a * 20) / 40,
                         ball = radius > 0 ? radius : 2 * a, top = std::sqrt(ball * ball - tip * tip);
            INFO(text << ", " << ball);
            CHECK(in_mm(z.near_end.tip_diameter) == Approx(2 * tip));
            // over half of a flat, r from the tip's circle to the flat: ∫ (top − √(ball² − r²))·r dr
            const auto inner = [&](double r) {
                return top * r * r / 2 + std::pow(ball * ball - r * r, 1.5) / 3;
            };
            double taken = 0;
            const int n = 4000;
            for (int i = 0; i < n; ++i) {
                const double t = (i + 0.5) / n * pi / sides;
                taken += (inner(a / std::cos(t)) - inner(tip)) * pi / sides / n;
            }
            taken *= 2 * sides;
            Piece plain = p;
            plain.zones[0].near_end = {};
            const double whole = test::prove(plain).volume();
            CHECK(taken > 0.2);
            CHECK(whole - test::prove(p).volume() == Approx(taken).epsilon(1e-6));
            p.zones[0].far_end = p.zones[0].near_end;
            CHECK(whole - test::prove(p).volume() == Approx(2 * taken).epsilon(1e-6));
        }
    const Job job = add_piece({}, piece_of("hex 16 x 8"));
    CHECK_THAT(why(job, 0, field::near_end, "rounded 9"), Catch::Contains("between 9.699 and 160"));
    Job bored = add_bores(job, 0, piece_of("clearance M6"), false); // a nut's blank
    bored = set(bored, 0, field::near_end, "rounded both");
    (void)test::prove(bored.pieces[0]);
    bored = set(bored, 0, field::near_end, "rounded 30 both");
    CHECK(job_from_json(job_to_json(bored)) == bored);
}

TEST_CASE("every point of a rounded edge and of a fillet lies on its torus") {
    Piece p = piece_of("round 20 x 30");
    p.zones[0].near_end = rounded_edge(mm(2));
    p.zones[0].far_end = fillet(mm(3));
    p.zones.push_back(plain(mm(40), mm(5)));
    const Preview made = test::prove(p);
    int edge = 0, corner = 0;
    double worst = 0;
    for (const solid::Point& q : made.mesh.points) {
        const double r = std::hypot(q.x, q.y);
        if (q.z > 1e-9 && q.z < 2 - 1e-9 && r > 8) {
            worst = std::max(worst, std::abs(std::hypot(r - 8, q.z - 2) - 2));
            ++edge;
        }
        if (q.z > 27 + 1e-9 && q.z < 30 - 1e-9) {
            worst = std::max(worst, std::abs(std::hypot(r - 13, q.z - 27) - 3));
            ++corner;
        }
    }
    CHECK(edge > 100);
    CHECK(corner > 100);
    CHECK(worst < 1e-9);
}

TEST_CASE("a dog point is a pin behind a shoulder of 45 degrees") {
    const auto frustum = [](double a, double b) {
        return pi * std::abs(a - b) * (a * a + a * b + b * b) / 3;
    };
    Job job = add_piece({}, piece_of("round 10 x 30"));
    job = set(job, 0, field::far_end, "dog 7 x 5");
    CHECK(test::prove(job.pieces[0]).volume() ==
          Approx(pi * 25 * (30 - 5 - 1.5) + frustum(5, 3.5) + pi * 12.25 * 5).epsilon(1e-10));
    CHECK(field_text(job, 0, 0, field::far_end, LengthUnit::millimetre) == "dog 7 x 5");
    CHECK(in_mm(resolve_piece(job.pieces[0], {}).zones[0].far_end.radius_at(5.5)) == Approx(4));
    CHECK(in_mm(resolve_piece(job.pieces[0], {}).zones[0].far_end.radius_at(2)) == 3.5);
    CHECK(job_from_json(job_to_json(job)) == job);
    job = set(job, 0, field::near_end, "dog 4 x 2");
    CHECK(test::prove(job.pieces[0]).volume() == Approx(pi * 25 * (30 - 5 - 1.5 - 2 - 3) + frustum(5, 3.5) +
                                                        pi * 12.25 * 5 + frustum(5, 2) + pi * 4 * 2)
                                                     .epsilon(1e-10));
    CHECK_THAT(why(job, 0, field::far_end, "dog 12 x 5"), Catch::Contains("at most \xC3\x98 9.8"));
    CHECK_THAT(why(job, 0, field::far_end, "dog 7"), Catch::Contains("a diameter and a length"));
    CHECK_THAT(why(job, 0, field::far_end, "dog"), Catch::Contains("M3 to M24"));
    CHECK_THAT(why(add_piece({}, piece_of("hex 17 x 10")), 0, field::far_end, "dog 7 x 5"),
               Catch::Contains("of a thread or of a round bar"));
    // on a set screw that of the standard: ISO 4753, LD
    for (const auto& [text, dp, z2] :
         {std::tuple{"ISO 4028 M3 x 10", 2.0, 1.5}, std::tuple{"ISO 4028 M6 x 16", 4.0, 3.0},
          std::tuple{"ISO 4028 M8 x 20", 5.5, 4.0}, std::tuple{"ISO 4028 M12 x 30", 8.5, 6.0},
          std::tuple{"ISO 4028 M24 x 60", 18.0, 12.0}}) {
        const Piece screw = piece_of(text);
        const ResolvedEnd& e = resolve_piece(screw, {}).zones[0].far_end;
        CHECK(in_mm(e.tip_diameter) == dp);
        CHECK(in_mm(e.dome_height) == z2);
        if (dp > 3) (void)test::prove(screw); // a finer chord for smaller ones
    }
    // a set screw has it from its starter
    const Piece set_screw = piece_of("ISO 4028 M6 x 16");
    CHECK(std::ranges::any_of(set_screw.zones, [](const Zone& z) {
        return z.far_end.kind == EndKind::dog || z.near_end.kind == EndKind::dog;
    }));
    // a bore is designated anew: a plain one stays a bore
    CHECK(respec_zone(add_piece({}, piece_of("round 40 x 60 bore 26")), 0, 1, parse_designation("round 20 x 60"))
              .pieces[0]
              .zones[1]
              .in_bore());
    // a bore that comes too near to it, and a bend that reaches it
    Job thin = add_piece({}, piece_of("round 10 x 30"));
    thin = set(thin, 0, field::far_end, "dog 4 x 5");
    thin.pieces[0].zones.push_back(in_bore(plain(mm(4.5), mm(27))));
    const Preview p = make_preview(thin.pieces[0], 0, {}, LengthUnit::millimetre, 0.01);
    CHECK_FALSE(p.made());
    REQUIRE_FALSE(p.findings.empty());
    CHECK_THAT(p.findings[0].sentence, Catch::Contains("has only"));
}

TEST_CASE("on a cone an edge is the arc that touches it and the plane it ends in") {
    for (const auto& [far, kind, rho] : {std::tuple{26.0, "radius", 2.0}, std::tuple{12.0, "radius", 1.5},
                                         std::tuple{26.0, "fillet", 2.0}, std::tuple{12.0, "fillet", 3.0}}) {
        INFO(far << " " << kind);
        Job job = set(add_piece({}, piece_of("round 20 x 30")), 0, field::far_diameter,
                      number_text(far, 3).c_str());
        const bool fill = std::string(kind) == "fillet";
        if (fill) {
            job.pieces[0].zones.push_back(plain(mm(44), mm(5)));
        }
        const double before = test::prove(job.pieces[0]).volume();
        job = set(job, 0, field::far_end, (std::string(kind) + " " + number_text(rho, 3)).c_str());
        const Preview made = test::prove(job.pieces[0]);
        // the circle's middle: as far from the plane z = 30 as from the cone, by halving
        const double m = (far - 20) / 2 / 30, sign = fill ? 1 : -1;
        const auto off = [&](double r, double z) { return sign * (r - 10 - m * z) / std::hypot(1, m); };
        double low = 0, high = 60;
        for (int i = 0; i < 80; ++i) {
            const double r = (low + high) / 2;
            ((off(r, 30 - rho) < rho) == fill ? low : high) = r;
        }
        const double middle = (low + high) / 2;
        int on = 0;
        double worst = 0;
        for (const auto& face : made.body.skin()->faces) {
            if (face.kind != solid::FaceKind::curved) continue;
            CHECK(face.a == Approx(middle));
            CHECK(face.arc_z == Approx(30 - rho));
        }
        for (const solid::Point& q : made.mesh.points) {
            const double r = std::hypot(q.x, q.y);
            if (q.z > 30 - 1e-9 || q.z < 30 - rho * 0.9) continue;
            worst = std::max(worst, std::abs(std::hypot(r - middle, q.z - (30 - rho)) - rho));
            ++on;
        }
        CHECK(on > 50);
        CHECK(worst < 1e-9);
        // the difference by quadrature over the height: between the cone and the arc
        double taken = 0;
        const int n = 200000;
        for (int i = 0; i < n; ++i) {
            const double z = 30 - 2 * rho * (i + 0.5) / n, cone = 10 + m * z, up = z - (30 - rho);
            if (std::abs(up) >= rho) continue;
            const double arc = middle - sign * std::sqrt(rho * rho - up * up);
            // beyond the place where it touches the cone is itself
            const double touch = (30 - rho) + sign * rho * m / std::hypot(1, m);
            if (z < touch) continue;
            taken += pi * (cone * cone - arc * arc) * 2 * rho / n;
        }
        CHECK(before - made.volume() == Approx(taken).epsilon(1e-5));
    }
    const Job job = set(add_piece({}, piece_of("round 20 x 30")), 0, field::far_diameter, "26");
    CHECK_THAT(why(job, 0, field::far_end, "radius 12"), Catch::Contains("at most 11.6"));
}

TEST_CASE("conical bores have their mouths rounded and their bottoms' corners filled") {
    for (const auto& [near, far] : {std::pair{12.0, 8.0}, std::pair{8.0, 12.0}}) {
        Piece p = piece_of("round 30 x 30");
        Zone z = in_bore(plain(mm(near), mm(20)));
        z.as<PlainForm>()->far_diameter = millimetres(mm(far));
        p.zones.push_back(z);
        const double bored = test::prove(p).volume();
        p.zones[1].near_end = rounded_edge(mm(1.2));
        const double mouth = test::prove(p).volume();
        CHECK(mouth < bored);
        p.zones[1].far_end = fillet(mm(1.5));
        const Preview made = test::prove(p);
        CHECK(made.volume() > mouth);
        // both middles run as far from the bore's wall as their arcs are large, in the bar and in the hole
        const double m = (far - near) / 2 / 20, k = std::hypot(1, m);
        int arcs = 0;
        for (const auto& face : made.body.skin()->faces) {
            if (face.kind != solid::FaceKind::curved) continue;
            const double wall = near / 2 + m * face.arc_z, off = (face.a - wall) / k;
            CHECK(std::abs(off) == Approx(face.arc_radius));
            CHECK((face.arc_z < 10 ? off > 0 : off < 0));
            ++arcs;
        }
        CHECK(arcs == 4);
    }
}

TEST_CASE("randomised stepped pieces with edges and fillets are closed, valid and of their closed volume") {
    test::prove_random(7000, 120, 0.6, random_stepped);
}
TEST_CASE("3 000 randomised stepped pieces with edges and fillets", "[.][long]") {
    test::prove_random(90000, 3000, 0.6, random_stepped);
}

TEST_CASE("edges are read, written, kept and refused") {
    Job job = add_piece({}, piece_of("round 20 x 30"));
    for (const char* text :
         {"radius 0.5", "fillet 1.5", "chamfer 1 x 45", "chamfer 2 x 30", "rounded 14", "flat"}) {
        job = set(job, 0, field::far_end, text);
        CHECK(field_text(job, 0, 0, field::far_end, LengthUnit::millimetre) == text);
        CHECK(job_from_json(job_to_json(job)) == job);
    }
    job = set(job, 0, field::near_end, "radius 1.5 both");
    CHECK(job.pieces[0].zones[0].near_end == job.pieces[0].zones[0].far_end);
    CHECK(job.pieces[0].zones[0].far_end.kind == EndKind::edge);
    // lengths by other words; a chamfer by its length has the diameter that follows
    job = set(job, 0, field::far_end, "chamfer 2 \xC3\x97 30\xC2\xB0");
    CHECK(in_mm(resolve_piece(job.pieces[0], {}).zones[0].far_end.diameter) ==
          Approx(20 - 2 * 2 * std::tan(pi / 6)));
    CHECK_THAT(why(job, 0, field::far_end, "chamfer 20 x 45"), Catch::Contains("at most 9.99 mm long"));
    CHECK_THAT(why(job, 0, field::far_end, "radius"), Catch::Contains("one number"));
    CHECK_THAT(why(job, 0, field::far_end, "radius 11"), Catch::Contains("at most 9.9 mm"));
    CHECK_THAT(why(job, 0, field::far_end, "radius -1"), Catch::Contains("must be between"));
    CHECK_THAT(why(job, 0, field::far_end, "round 2"),
               Catch::Contains("An end is written flat, chamfer 45 8.1 (angle, end diameter)"));
    CHECK_THAT(why(add_piece({}, piece_of("hex 17 x 10")), 0, field::near_end, "radius 1"),
               Catch::Contains("plain cylinder or cone"));
    // another designation keeps them where they can be
    CHECK(respec_zone(job, 0, 0, parse_designation("round 25 x 10")).pieces[0].zones[0].near_end.kind ==
          EndKind::edge);
    CHECK(respec_zone(job, 0, 0, parse_designation("hex 17 x 10")).pieces[0].zones[0].near_end.kind ==
          EndKind::flat);
    CHECK_THAT(why(add_piece({}, piece_of("M10 x 30")), 0, field::far_end, "radius 1"),
               Catch::Contains("plain zone between"));
}

TEST_CASE("an edge without its rim and a fillet without its shoulder say so, and the remedy mends it") {
    const auto mended = [](Job job, const char* id, double limit) {
        const auto all = findings_of(job, 0);
        const Finding* f = found(all, id);
        INFO(id);
        REQUIRE(f);
        CHECK(f->limit == Approx(limit).margin(1e-9));
        REQUIRE(f->remedy);
        job = apply(job, *f->remedy);
        CHECK_FALSE(stops(findings_of(job, 0)));
        (void)test::prove(job.pieces[0]);
    };
    Piece p = piece_of("round 20 x 30");
    p.zones.push_back(plain(mm(30), mm(10)));
    const Job stepped = add_piece({}, p);
    mended(set(stepped, 0, field::near_end, "fillet 2"), "no_shoulder", 0);
    mended(set(stepped, 0, field::far_end, "radius 2"), "no_edge", 0);
    mended(set(stepped, 0, field::far_end, "fillet 6"), "fillet_too_large", 5);
    mended(set(stepped, 1, field::near_end, "radius 6"), "radius_too_large", 5);
    mended(set(stepped, 1, field::far_end, "fillet 2"), "no_shoulder", 0);
    // beside a zone as thick there is neither: flat
    p = piece_of("round 20 x 30");
    p.zones.push_back(plain(mm(20), mm(10)));
    const Job even = add_piece({}, p);
    mended(set(even, 0, field::far_end, "radius 1"), "no_edge", 0);
    mended(set(even, 0, field::far_end, "fillet 1"), "no_shoulder", 0);
    mended(set(stepped, 1, field::near_end, "fillet 9"), "no_shoulder", 0);
    p = piece_of("round 20 x 30");
    p.zones.push_back(in_bore(plain(mm(8), mm(12))));
    const Job blind = add_piece({}, p);
    mended(set(blind, 1, field::far_end, "radius 1"), "no_edge", 0);
    mended(set(blind, 1, field::near_end, "fillet 1"), "no_shoulder", 0);
    // the mouth's edge takes the whole face away
    const Job wide = set(blind, 1, field::diameter, "16");
    const Preview none =
        make_preview(set(wide, 1, field::near_end, "radius 3").pieces[0], 0, {}, LengthUnit::millimetre);
    CHECK_FALSE(none.made());
    CHECK_THAT(none.findings.front().sentence, Catch::Contains("no wall is left"));
}

TEST_CASE("holes for screws have the standards' sizes and go into other pieces") {
    struct Row { // ISO 273 medium, DIN 974-1 row 1, ISO 10642
        int d;
        double clearance, counterbore, depth, countersink;
    };
    for (const Row& r :
         {Row{3, 3.4, 6.5, 3.4, 6.72}, Row{4, 4.5, 8, 4.4, 8.96}, Row{5, 5.5, 10, 5.4, 11.2},
          Row{6, 6.6, 11, 6.4, 13.44}, Row{8, 9, 15, 8.6, 17.92}, Row{10, 11, 18, 10.6, 22.4},
          Row{12, 13.5, 20, 12.6, 26.88}, Row{16, 17.5, 26, 16.6, 33.6}, Row{20, 22, 33, 20.6, 40.32}}) {
        const std::string m = " M" + std::to_string(r.d);
        INFO(m);
        const auto resolved = [](const std::string& text) { return resolve_piece(piece_of(text), {}); };
        CHECK(in_mm(resolved("clearance" + m).zones[1].diameter) == Approx(r.clearance));
        const ResolvedPiece bored = resolved("counterbore" + m);
        CHECK(in_mm(bored.zones[1].diameter) == Approx(r.counterbore));
        CHECK(in_mm(bored.zones[1].length) == Approx(r.depth));
        CHECK(in_mm(bored.zones[2].diameter) == Approx(r.clearance));
        const ResolvedPiece sunk = resolved("countersink" + m);
        CHECK(in_mm(sunk.zones[1].diameter) == Approx(r.clearance));
        CHECK(in_mm(sunk.zones[1].near_end.diameter) == Approx(r.countersink));
        CHECK(in_deg(sunk.zones[1].near_end.angle) == Approx(45));
        (void)test::prove(piece_of("counterbore" + m));
        (void)test::prove(piece_of("countersink" + m));
    }
    CHECK(in_mm(resolve_piece(piece_of("clearance M8 fine x 10"), {}).zones[1].diameter) == Approx(8.4));
    CHECK(in_mm(resolve_piece(piece_of("clearance M8 coarse"), {}).zones[1].diameter) == Approx(10));
    const auto refused = [](const char* text) {
        try {
            (void)piece_of(text);
        } catch (const InputError& e) {
            return std::string(e.what());
        }
        return std::string("understood");
    };
    CHECK_THAT(refused("counterbore M7"), Catch::Contains("its standard has M1.6"));
    CHECK_THAT(refused("countersink M30"), Catch::Contains("its standard has M3, M4"));
    CHECK_THAT(refused("counterbore M6 x 5"), Catch::Contains("6.6 mm thick"));
    CHECK_THAT(refused("clearance G1/2"), Catch::Contains("metric screw"));
    // into a bar, from either end, once
    const Job bar = add_piece({}, piece_of("round 30 x 40"));
    for (const bool far : {false, true}) {
        const Job job = add_bores(bar, 0, piece_of("counterbore M6"), far);
        REQUIRE(job.pieces[0].zones.size() == 3);
        const ResolvedPiece r = resolve_piece(job.pieces[0], {});
        CHECK(in_mm(far ? r.zones[1].end() : r.zones[1].start) == Approx(far ? 40 : 0));
        CHECK(test::prove(job.pieces[0]).volume() ==
              Approx(pi * (225 * 40 - 5.5 * 5.5 * 6.4 - 3.3 * 3.3 * 33.6)).epsilon(1e-9));
        CHECK_THROWS_WITH(add_bores(job, 0, piece_of("clearance M3"), far), Catch::Contains("already"));
        CHECK_THROWS_WITH(add_bores(job, 0, piece_of("clearance M3"), !far), Catch::Contains("already"));
    }
    const Job both =
        add_bores(add_bores(bar, 0, piece_of("blind M8 x 12"), false), 0, piece_of("blind M6 x 10"), true);
    (void)test::prove(both.pieces[0]);
    const Job sunk = add_bores(bar, 0, piece_of("countersink M6"), true);
    CHECK(in_mm(resolve_piece(sunk.pieces[0], {}).zones[1].far_end.diameter) == Approx(13.44));
    CHECK_THROWS_WITH(add_bores(bar, 0, piece_of("round 10"), false), Catch::Contains("no bore"));
}

TEST_CASE("a bored piece says where its wall is thinnest") {
    const auto wall = [](const Piece& p) {
        const auto values = piece_values(make_preview(p, 0, {}, LengthUnit::millimetre), p);
        const ResolvedValue* v = find_value(values, "least_wall");
        return v ? v->value.value_or(-1) : -1;
    };
    CHECK(wall(piece_of("round 20 x 30")) == -1);
    CHECK(wall(piece_of("clearance M6 x 10")) == Approx(15.0 / 2 - 3.3)); // Ø 15
    CHECK(wall(piece_of("counterbore M6 x 12")) == Approx(17.0 / 2 - 5.5));
    CHECK(wall(piece_of("countersink M6 x 12")) == Approx(19.0 / 2 - 6.72).margin(1e-6)); // at its mouth
    // an elbow's: the thread's groove, or its mouth
    const Piece elbow = piece_of("elbow G3/8 90");
    const ResolvedPiece r = resolve_piece(elbow, {});
    const double groove =
        std::max(r.zones[3].thread()->section.root_radius, r.zones[3].thread()->section.crest_radius);
    CHECK(wall(elbow) <= 11 - groove + 1e-9);
    CHECK(wall(elbow) > 0.9);
    // both rounded: the mouth's edge and the rim's come together
    Piece p = piece_of("round 20 x 30");
    p.zones[0].near_end = rounded_edge(mm(2));
    Zone hole = in_bore(plain(mm(10), mm(12)));
    hole.near_end = rounded_edge(mm(2));
    p.zones.push_back(hole);
    CHECK(wall(p) == Approx(1).margin(0.01));
}

TEST_CASE("zones are repeated along the axis, and the copies follow") {
    Piece p = piece_of("round 20 x 6");
    p.zones.push_back(plain(mm(14), mm(2)));
    Job job = add_piece({}, p);
    job = set(job, 0, field::repeat, "1-2 4 times gap 5");
    REQUIRE(job.pieces[0].zones.size() == 2 + 3 * 3);
    ResolvedPiece r = resolve_piece(job.pieces[0], {});
    CHECK(in_mm(r.length()) == Approx(4 * 8 + 3 * 5));
    CHECK(in_mm(r.zones[2].diameter) == Approx(14)); // the gap, as thin as they are at their ends
    CHECK(in_mm(r.zones[9].diameter) == Approx(20));
    (void)test::prove(job.pieces[0]);
    job = set(job, 0, field::diameter, "24");
    job = set(job, 2, field::length, "7");
    r = resolve_piece(job.pieces[0], {});
    CHECK(in_mm(r.zones[9].diameter) == Approx(24));
    CHECK(in_mm(r.length()) == Approx(4 * 8 + 3 * 7));
    CHECK(job_from_json(job_to_json(job)) == job);
    job = set(job, 3, field::diameter, "18"); // one of them goes its own way
    job = set(job, 0, field::diameter, "26");
    r = resolve_piece(job.pieces[0], {});
    CHECK(in_mm(r.zones[3].diameter) == Approx(18));
    CHECK(in_mm(r.zones[6].diameter) == Approx(26));
    // a thread, twice; what stands behind moves on and keeps what it follows
    Job stud = add_piece({}, piece_of("stud M10 x 80"));
    stud = set(stud, 2, field::follows, "1 mirrored");
    stud = set(stud, 1, field::repeat, "2 gap 3");
    REQUIRE(stud.pieces[0].zones.size() == 5);
    CHECK(stud.pieces[0].zones[4].follows == Following{0, true});
    CHECK(stud.pieces[0].zones[3].follows == Following{1, false});
    (void)test::prove(stud.pieces[0]);
    CHECK_THAT(why(job, 0, field::repeat, ""), Catch::Contains("how many times"));
    // a bore that goes through: its copies share what it has, gaps taken off, and it still goes through
    Piece tube = piece_of("round 20 x 50");
    Zone bore = plain(mm(8), mm(1));
    bore.where = Where::near_bore;
    bore.length = {};
    tube.zones.push_back(bore);
    const Job shared = set(add_piece({}, tube), 1, field::repeat, "3 gap 4");
    REQUIRE(shared.pieces[0].zones.size() == 6);
    const ResolvedPiece drilled = resolve_piece(shared.pieces[0], {});
    for (const std::size_t i : {1, 3, 5})
        CHECK(in_mm(drilled.zones[i].length) == Approx(14));
    CHECK(in_mm(drilled.zones[5].end()) == Approx(50).margin(1e-12));
    CHECK(in_mm(resolve_piece(set(shared, 1, field::length, "12").pieces[0], {}).zones[5].length) ==
          Approx(12)); // they follow
    const Job thirds = set(add_piece({}, tube), 1, field::repeat, "3");
    CHECK(in_mm(resolve_piece(thirds.pieces[0], {}).zones[3].end()) == 50);
    CHECK_THAT(why(add_piece({}, tube), 1, field::repeat, "3 gap 25"), Catch::Contains("shares its 50 mm"));
    CHECK_THAT(why(job, 0, field::repeat, "often"), Catch::Contains("how many times"));
    CHECK_THAT(why(job, 0, field::repeat, "1"), Catch::Contains("2 times or more"));
    CHECK_THAT(why(job, 0, field::repeat, "9-40 2"), Catch::Contains("from 1 to 11"));
    CHECK_THAT(why(job, 0, field::repeat, "200"), Catch::Contains("more than 50"));
    CHECK_THAT(why(job, 0, field::repeat, "3 gap wide"), Catch::Contains("wide"));
    const Job bored =
        add_bores(add_piece({}, piece_of("round 30 x 40")), 0, piece_of("counterbore M6"), false);
    CHECK(in_mm(resolve_piece(set(bored, 2, field::repeat, "2").pieces[0], {}).zones[3].end()) == 40);
    CHECK_THAT(why(bored, 0, field::repeat, "1-2 2"), Catch::Contains("one chain"));
}
