// Pairs put together in space: how far they go, what stops them, and that their solids keep apart all the
// way.
#include "build/build.hpp"
#include "model/starter.hpp"
#include "pair/mating.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <numbers>
#include <random>

using namespace whorl;
using std::numbers::pi;

namespace {

struct Couple {
    Job job;
    ResolvedPiece shown, other;
    std::size_t zone, other_zone;
    Fit fit;
    Mating mating;
};

std::size_t threaded(const Piece& p) {
    for (std::size_t i = 0; i < p.zones.size(); ++i)
        if (p.zones[i].as<ThreadForm>()) return i;
    FAIL("no thread in " << p.name);
    return 0;
}

Couple couple(Job job, std::size_t a, std::size_t za, std::size_t b, std::size_t zb) {
    Couple c{std::move(job), {}, {}, za, zb, {}, {}};
    c.shown = resolve_piece(c.job.pieces.at(a), {});
    c.other = resolve_piece(c.job.pieces.at(b), {});
    const auto &ta = *c.shown.zones.at(za).thread(), &tb = *c.other.zones.at(zb).thread();
    c.fit = ta.side == Side::external ? fit_of(ta, tb) : fit_of(tb, ta);
    c.mating = mating_of(c.shown, za, c.other, zb, c.fit);
    return c;
}

Couple couple(const char* shown, const char* other) {
    Job job;
    job.pieces = {piece_of(shown), piece_of(other)};
    return couple(job, 0, threaded(job.pieces[0]), 1, threaded(job.pieces[1]));
}

struct Placed {
    double turn[2][2], z, flip;
    solid::Point operator()(const solid::Point& p) const {
        const double y = flip * p.y;
        return {turn[0][0] * p.x + turn[0][1] * y, turn[1][0] * p.x + turn[1][1] * y, flip * p.z + z};
    }
};
Placed placed(const Mating& m, double travel, double wrong = 0) {
    const double a = m.angle(travel) + wrong;
    return {{{std::cos(a), -std::sin(a)}, {std::sin(a), std::cos(a)}}, travel, m.flipped ? -1.0 : 1.0};
}

// How often a closed mesh winds around a point: 1 inside, 0 outside. Sum of the solid angles of its triangles
// (A. van Oosterom, J. Strackee: The solid angle of a plane triangle, 1983).
double winding(const solid::Mesh& mesh, const solid::Point& at) {
    double sum = 0;
    for (const auto& t : mesh.triangles) {
        double v[3][3], l[3];
        for (std::size_t k = 0; k < 3; ++k) {
            const auto& p = mesh.points[t[k]];
            v[k][0] = p.x - at.x, v[k][1] = p.y - at.y, v[k][2] = p.z - at.z;
            l[k] = std::hypot(v[k][0], v[k][1], v[k][2]);
        }
        const auto dot = [&](int i, int j) {
            return v[i][0] * v[j][0] + v[i][1] * v[j][1] + v[i][2] * v[j][2];
        };
        const double det = v[0][0] * (v[1][1] * v[2][2] - v[1][2] * v[2][1]) -
                           v[0][1] * (v[1][0] * v[2][2] - v[1][2] * v[2][0]) +
                           v[0][2] * (v[1][0] * v[2][1] - v[1][1] * v[2][0]);
        sum +=
            2 * std::atan2(det, l[0] * l[1] * l[2] + dot(0, 1) * l[2] + dot(0, 2) * l[1] + dot(1, 2) * l[0]);
    }
    return sum / (4 * pi);
}

// Of points of the other piece's threads, a little inside its material: how many lie in the shown piece.
int points_in_both(const Preview& shown, const Preview& other, const Mating& m, double travel, double depth,
                   double wrong_turn = 0) {
    const Placed place = placed(m, travel, wrong_turn);
    std::mt19937 random(5);
    std::vector<solid::Point> tried;
    for (std::size_t i = 0; i < other.mesh.triangles.size(); ++i) {
        const auto& face = other.body.skin()->faces[other.mesh.face[i]];
        if (face.role != solid::FaceRole::flank && face.role != solid::FaceRole::root &&
            face.role != solid::FaceRole::crest)
            continue;
        // the middle of a triangle, away from the edges it shares with its neighbours
        solid::Point p[3], middle;
        for (std::size_t k = 0; k < 3; ++k) {
            p[k] = other.mesh.points[other.mesh.triangles[i][k]];
            middle.x += p[k].x / 3, middle.y += p[k].y / 3, middle.z += p[k].z / 3;
        }
        const double u[3]{p[1].x - p[0].x, p[1].y - p[0].y, p[1].z - p[0].z},
            v[3]{p[2].x - p[0].x, p[2].y - p[0].y, p[2].z - p[0].z};
        const double n[3]{u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]};
        const double in = depth / std::hypot(n[0], n[1], n[2]);
        tried.push_back(place({middle.x - in * n[0], middle.y - in * n[1], middle.z - in * n[2]}));
    }
    std::shuffle(tried.begin(), tried.end(), random);
    int beside = 0, inside = 0;
    for (const auto& p : tried) {
        if (p.z < m.shown_from || p.z > m.shown_to) continue;
        if (++beside > 150) break;
        inside += winding(shown.mesh, p) > 0.5;
    }
    CHECK(beside > 40); // enough of the threads are beside each other to tell
    return inside;
}

} // namespace

TEST_CASE("a nut goes up to the head, with two pitches of the screw out of it as it is usual") {
    const Couple c = couple("ISO 4017 M8 x 30", "ISO 4032 M8");
    const auto& thread = c.shown.zones[c.zone];
    CHECK(c.mating.apart == Approx(in_mm(thread.end())));
    CHECK(c.mating.seated == Approx(in_mm(thread.start)));
    CHECK(c.mating.seated_by == SeatedBy::shoulder);
    const double height = in_mm(c.other.length());
    CHECK(c.mating.usual == Approx(in_mm(thread.end()) - 2 * 1.25 - height));
    CHECK(c.mating.engaged(c.mating.usual) == Approx(height));
    CHECK(c.mating.engaged(c.mating.apart) == 0);
    // a pitch of travel is a turn, clockwise seen from the nut's side: right-handed
    CHECK(c.mating.angle(10) - c.mating.angle(10 - 1.25) == Approx(2 * pi));
    CHECK(c.mating.clamped(-100) == c.mating.seated);
    CHECK(c.mating.clamped(1000) == c.mating.apart);
}

TEST_CASE("seen from the nut it is the screw that moves, by the same amount") {
    const Couple c = couple("ISO 4017 M8 x 30", "ISO 4032 M8"),
                 back = couple("ISO 4032 M8", "ISO 4017 M8 x 30");
    CHECK(std::abs(back.mating.apart - back.mating.seated) ==
          Approx(std::abs(c.mating.apart - c.mating.seated)));
    CHECK(back.mating.engaged(back.mating.usual) == Approx(c.mating.engaged(c.mating.usual)));
    CHECK(back.mating.seated_by == SeatedBy::shoulder);
    for (const auto& [screw, nut] :
         {std::pair{"stud M10 x 80", "ISO 4032 M10"}, {"rod M10 LH x 60", "nut M10 LH"}}) {
        const Mating m = couple(screw, nut).mating, from_nut = couple(nut, screw).mating;
        REQUIRE_FALSE(m.flipped);
        REQUIRE_FALSE(from_nut.flipped);
        CHECK(from_nut.apart == Approx(-m.apart));
        CHECK(from_nut.seated == Approx(-m.seated));
        CHECK(from_nut.usual == Approx(-m.usual));
        // a turn of the one is the other turned back
        CHECK(std::remainder(m.angle(7.3) + from_nut.angle(-7.3), 2 * pi) == Approx(0).margin(1e-9));
    }
}

TEST_CASE("a rod takes its nut over its whole length, a bore's bottom stops a screw") {
    const Couple rod = couple("rod M10 x 200", "ISO 4032 M10");
    CHECK(rod.mating.seated_by == SeatedBy::free_end);
    CHECK(std::abs(rod.mating.apart - rod.mating.seated) == Approx(200 + in_mm(rod.other.length())));
    const Couple hole = couple("blind M8 x 20", "ISO 4026 M8 x 30");
    CHECK(hole.mating.seated_by == SeatedBy::shoulder);
    CHECK(hole.mating.engaged(hole.mating.seated) > 15);
    CHECK(hole.mating.engaged(hole.mating.seated) <= in_mm(hole.shown.zones[hole.zone].length) + 1e-9);
    CHECK(hole.mating.usual == Approx(hole.mating.seated)); // it can't come out at the other end
    // a left-hand pair turns the other way
    const Couple left = couple("rod M10 LH x 50", "nut M10 LH");
    CHECK(left.mating.angle(1.5) - left.mating.angle(0) == Approx(-2 * pi));
}

TEST_CASE("tapered threads are tight where their pitch cones meet") {
    for (const auto& [screw, nut] : {std::pair{"nipple R1/2 x 60", "ring Rc1/2 x 16"},
                                     {"nipple 1/2-14 NPT x 2.5", "ring 1/2-14 NPT internal x 16 mm"},
                                     {"M20x1.5-6g taper 1:10 x 30", ""}}) {
        INFO(screw);
        Job job;
        job.pieces = {piece_of(screw)};
        for (std::size_t z = 0; z < job.pieces[0].zones.size(); ++z) {
            if (!job.pieces[0].zones[z].as<ThreadForm>()) continue;
            const Job both = add_counterpart(job, 0, z);
            const Couple c = couple(both, 0, z, 1, both.pairs.back().second.zone);
            CHECK(c.mating.seated_by == SeatedBy::taper);
            CHECK(c.mating.usual == c.mating.seated);
            CHECK(c.mating.engaged(c.mating.seated) > 3);
            // there the pitch radii are the same wherever both are
            const auto &a = c.shown.zones[z], &b = c.other.zones[c.other_zone];
            const double flip = c.mating.flipped ? -1 : 1;
            for (const double at : {0.0, 5.0, 11.0}) {
                const double on_a =
                                 a.thread()->section.pitch_radius + a.taper() * (at - in_mm(a.taper_from())),
                             z_b = flip * (at - c.mating.seated),
                             on_b =
                                 b.thread()->section.pitch_radius + b.taper() * (z_b - in_mm(b.taper_from()));
                CHECK(on_a == Approx(on_b).epsilon(1e-9));
            }
        }
    }
    // ISO 7-1: a tapered screw in a parallel thread is tight at its mouth
    const Couple c = couple("nipple R1/2 x 60", "ring Rp1/2 x 20");
    CHECK(c.mating.seated_by == SeatedBy::taper);
    const double gauge_length = 8.2; // ISO 7-1 table 1, R 1/2
    CHECK(c.mating.engaged(c.mating.seated) == Approx(gauge_length).margin(0.01));
}

TEST_CASE("threads that don't match do not go on at all") {
    for (const char* nut : {"nut M10x1.25", "nut M12", "nut M10 LH", "nut M10xPh3P1.5"}) {
        INFO(nut);
        const Couple c = couple("rod M10 x 50", nut);
        CHECK(c.mating.seated_by == SeatedBy::mismatch);
        CHECK(c.mating.seated == c.mating.apart);
        CHECK(c.mating.engaged(c.mating.usual) == 0);
    }
    // one that is only too tight is shown where it would jam
    Job job;
    job.pieces = {piece_of("rod M10 x 50"), piece_of("nut M10")};
    job.pieces[0].zones[0].as<ThreadForm>()->allowance = {"-0.2", {}};
    const Couple c = couple(job, 0, 0, 1, threaded(job.pieces[1]));
    CHECK_FALSE(c.fit.goes_together());
    CHECK(c.mating.engaged(c.mating.usual) > 5);
}

TEST_CASE("solids of a pair at basic size have no material in common, wherever it is screwed to") {
    constexpr double chord = 0.01;
    for (const char* text : {"M12 x 24", "M12 LH x 24", "M16xPh6P2 x 30", "Tr20x8(P4) x 40", "1/2-12 BSW x 1",
                             "G1/2 x 20", "S20x4 x 30", "Rd20x1/8 x 30", "SQ20x4 x 30", "1/2-13 UNC x 1",
                             "1/2-10 ACME x 1", "R1/2 x 17", "Tr20x4 taper 1:12 x 30"}) {
        INFO(text);
        Job job;
        job.pieces = {piece_of(text)};
        const std::size_t zone = threaded(job.pieces[0]);
        job.pieces[0].zones[zone].as<ThreadForm>()->modelled_at = ModelledAt::basic;
        job.pieces[0].zones[zone].as<ThreadForm>()->start_angle = {"77", {}};
        job = add_counterpart(job, 0, zone);
        const ZoneRef nut = job.pairs.back().second;
        job.pieces[nut.piece].zones[nut.zone].as<ThreadForm>()->modelled_at = ModelledAt::basic;
        job.pieces[nut.piece].zones[nut.zone].as<ThreadForm>()->start_angle = {"-31", {}};
        for (const bool from_nut : {false, true}) {
            const std::size_t a = from_nut ? nut.piece : 0, b = from_nut ? 0 : nut.piece;
            const Couple c = from_nut ? couple(job, a, nut.zone, b, zone) : couple(job, a, zone, b, nut.zone);
            const Preview shown = make_preview(job.pieces[a], a, {}, LengthUnit::millimetre, chord),
                          other = make_preview(job.pieces[b], b, {}, LengthUnit::millimetre, chord);
            REQUIRE(shown.made());
            REQUIRE(other.made());
            const Mating& m = c.mating;
            const double depth = 2 * chord; // both meshes lie within one chord of their surfaces
            const bool tapered = m.seated_by == SeatedBy::taper;
            const double inwards = m.apart > m.seated ? -1 : 1;
            const double tried[]{m.usual, tapered ? m.usual : m.clamped(m.usual + inwards * 1.37)};
            for (const double travel : tried)
                CHECK(points_in_both(shown, other, m, travel, depth) == 0);
            // and the test would see it: half a groove out, or a taper driven on by half a millimetre
            CHECK(points_in_both(shown, other, m, m.usual, depth,
                                 pi / c.shown.zones[c.zone].thread()->spec.starts) > 10);
        }
    }
}
