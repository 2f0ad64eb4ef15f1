// Bends: where the centreline runs, solids through every proof, points on their tori, what is refused and mended.
#include "build/build.hpp"
#include "build/piece_values.hpp"
#include "check/check.hpp"
#include "form/bend/bent_line.hpp"
#include "model/edit.hpp"
#include "model/forms/bend.hpp"
#include "model/forms/plain.hpp"
#include "model/job_file.hpp"
#include "model/ready_zone.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "solid/skin/mesh_stray.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

Preview made_of(const Piece& piece) {
    return make_preview(piece, 0, {}, LengthUnit::millimetre, 0.01);
}
std::string why(const std::string& text) {
    try {
        (void)piece_of(text);
    } catch (const InputError& e) {
        return e.what();
    }
    return "understood";
}
double dot_of(const Direction& a, const Direction& b) {
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}
const Finding* found(const std::vector<Finding>& all, const std::string& id) {
    for (const Finding& f : all)
        if (f.id == id) return &f;
    return nullptr;
}

Piece random_bent(std::mt19937& random, std::string& text) {
    const auto real = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const auto whole = [&](int a, int b) { return std::uniform_int_distribution<int>(a, b)(random); };
    const int size = std::array{5, 6, 8, 10, 12, 16}[static_cast<std::size_t>(whole(0, 5))];
    const Length bar = mm(size);
    const std::string m = "M" + std::to_string(size) + " x ";
    Piece p;
    p.finish = "steel";
    const auto add = [&](Zone z) {
        text += (text.empty() ? "" : " | ") + zone_designation(z, {});
        p.zones.push_back(std::move(z));
    };
    const auto leg = [&](bool far) {
        const double length = size * real(1, 4);
        if (whole(0, 1)) {
            Zone z = zone_of(parse_designation(m + number_text(std::max(length, size * 1.5), 2)));
            z.near_end = z.far_end = {};
            (far ? z.far_end : z.near_end) = chamfer(45);
            (far ? z.near_end : z.far_end) = whole(0, 1) ? run_out(0.5) : EndTreatment{};
            add(z);
        } else {
            Zone z = plain(bar * real(0.8, 1.2), mm(length));
            if (whole(0, 1)) (far ? z.far_end : z.near_end) = chamfer(45);
            add(z);
        }
    };
    leg(false);
    const int bends = whole(1, 4);
    for (int i = 0; i < bends; ++i) {
        BendForm f;
        f.diameter = {std::to_string(size), {}};
        f.angle = {number_text(real(8, whole(0, 3) ? 120 : 200), 2), {}};
        f.radius = {number_text(size * real(0.7, 4), 2), {}};
        if (whole(0, 1)) f.roll = {number_text(real(-180, 180), 1), {}};
        Zone z;
        z.length = {};
        z.form = f;
        add(z);
        if (i + 1 < bends && whole(0, 2)) add(plain(bar, mm(size * real(0.3, 3))));
    }
    leg(true);
    if (whole(0, 2) == 0) { // a tube
        Zone bore = plain(bar * real(0.2, 0.5), mm(1));
        bore.where = Where::near_bore;
        bore.length = {"", {}};
        p.zones.push_back(bore);
    }
    return p;
}

} // namespace

TEST_CASE("a bent centreline: frames stay square, its tangent is its derivative, four elbows close") {
    BentLine way;
    way.add_straight(20);
    way.add_bend(15, pi / 2, 0.3);
    way.add_straight(7);
    way.add_bend(9, 1.1, 2);
    way.add_straight(5);
    for (int i = 1; i < 400; ++i) {
        const double z = way.length() * i / 400, h = 1e-5;
        const BarFrame f = way.frame_at(z), a = way.frame_at(z - h), b = way.frame_at(z + h);
        CHECK(dot_of(f.x, f.y) == Approx(0).margin(1e-12));
        CHECK(dot_of(f.x, f.t) == Approx(0).margin(1e-12));
        CHECK(dot_of(f.x, f.x) == Approx(1));
        CHECK(dot_of(f.t, f.t) == Approx(1));
        for (std::size_t k = 0; k < 3; ++k) {
            CHECK((b.origin[k] - a.origin[k]) / (2 * h) == Approx(f.t[k]).margin(2e-6));
            // nothing twists: x changes along the tangent only
            const double turned = (b.x[k] - a.x[k]) / (2 * h);
            CHECK(turned - f.t[k] * dot_of({(b.x[0] - a.x[0]) / (2 * h), (b.x[1] - a.x[1]) / (2 * h),
                                            (b.x[2] - a.x[2]) / (2 * h)},
                                           f.t) ==
                  Approx(0).margin(1e-5));
        }
    }
    BentLine square;
    for (int i = 0; i < 4; ++i) {
        square.add_straight(30);
        square.add_bend(10, pi / 2, 0);
    }
    const BarFrame end = square.frame_at(square.length());
    for (std::size_t k = 0; k < 3; ++k) {
        CHECK(end.origin[k] == Approx(0).margin(1e-12));
        CHECK(end.t[k] == Approx(k == 2 ? 1 : 0).margin(1e-12));
    }
    BentLine s; // there and back: parallel, set off by 2·R·(1 − cos φ)
    s.add_bend(20, pi / 3, 0);
    s.add_bend(20, pi / 3, pi);
    CHECK(s.frame_at(s.length()).t[2] == Approx(1));
    CHECK(s.frame_at(s.length()).origin[0] == Approx(2 * 20 * (1 - std::cos(pi / 3))));
}

TEST_CASE("bends as solids: closed, valid, of their volume by Pappus, on their tori") {
    struct One {
        const char* text;
        double bends; // mm³
    };
    for (const One& one : {One{"bend d8 90 r20", pi * 16 * (20 * pi / 2 + 32)},
                           One{"bend d8 180 inside 16 roll 70", pi * 16 * (20 * pi + 32)},
                           One{"bend d10 30 r6", pi * 25 * (6 * pi / 6 + 40)}}) {
        INFO(one.text);
        const Preview p = test::prove(piece_of(one.text));
        CHECK(p.volume() == Approx(one.bends).epsilon(1e-9));
    }
    for (const char* text : {"u-clamp M6 for 60 x 80", "elbow G3/8 90", "elbow R1/2 45",
                             "hook M6 for 20 x 50", "eye M6 for 16 x 50"}) {
        INFO(text);
        (void)test::prove(piece_of(text));
    }
    // every point of the clamp's bend lies on the torus about (33, 0, 80)
    const Preview p = made_of(piece_of("u-clamp M6 for 60 x 80"));
    double worst = 0;
    int seen = 0;
    for (std::size_t i = 0; i < p.mesh.triangles.size(); ++i) {
        if (p.body.zone_of(p.mesh.face[i]) != 2) continue;
        for (const auto id : p.mesh.triangles[i]) {
            const auto& q = p.mesh.points[id];
            if (std::abs(std::hypot(q.x - 33, q.z - 80) - 33) > 3.01) continue;
            worst = std::max(worst, std::abs(std::hypot(std::hypot(q.x - 33, q.z - 80) - 33, q.y) - 3));
            ++seen;
        }
    }
    CHECK(seen > 500);
    CHECK(worst < 1e-9);
    // both legs lie alongside each other: 60 free between them
    double near = 1e300, far = -1e300;
    for (const auto& q : p.mesh.points) {
        near = std::min(near, q.x);
        far = std::max(far, q.x);
    }
    CHECK(far - near == Approx(72).margin(0.02));
    const auto values = piece_values(p, piece_of("u-clamp M6 for 60 x 80"));
    CHECK(find_value(values, "overall_length")->value == Approx(80 + 33 + 3));
    CHECK(find_value(values, "developed_length")->value == Approx(160 + 33 * pi));
}

TEST_CASE(
    "randomised bent bars and tubes, threaded at their ends, are closed, valid and of their closed volume") {
    test::prove_random(100, 35, 0.35, random_bent);
}
TEST_CASE("3 000 randomised bent bars and tubes", "[.][long]") {
    test::prove_random(40000, 3000, 0.35, random_bent);
}

TEST_CASE("bends are read, written, kept, split and refused") {
    for (const char* text : {"bend d8 90 r20", "bend d6 180 inside 30 roll 90", "bend d0.25 45 r1.5 in"}) {
        const BendDesignation d = parse_bend(text);
        CHECK(write_bend(d.spec, d.unit) == text);
        const Job job = add_piece({}, piece_of(text));
        CHECK(job_from_json(job_to_json(job)) == job);
    }
    CHECK_THAT(why("bend d8 90"), Catch::Contains("its angle and its radius"));
    CHECK_THAT(why("bend d8 90 r3"), Catch::Contains("tighter than the bar"));
    CHECK_THAT(why("bend d8 400 r20"), Catch::Contains("between 0.5 and 360"));
    CHECK_THAT(why("bend d8 90 r20 twist 3"), Catch::Contains("not understood in a bend"));
    CHECK_THAT(why("u-clamp M6 60"), Catch::Contains("width inside"));
    CHECK_THAT(why("u-clamp M6 for 60 x 2"), Catch::Contains("too short for this thread"));
    CHECK_THAT(why("elbow G3/8 300"), Catch::Contains("5 to 180"));
    CHECK_THAT(why("hook G3/8"), Catch::Contains("width inside"));
    // split, it is the same bar
    const Job job = add_piece({}, piece_of("bend d8 90 r20"));
    const Job split = split_zone(job, 0, 1);
    REQUIRE(split.pieces[0].zones.size() == 4);
    CHECK(made_of(split.pieces[0]).volume() == Approx(made_of(job.pieces[0]).volume()));
    // a bend in a bore has no meaning, nor an end treatment, nor its own length
    const auto set = [&](Field f, const char* text) {
        return apply(job, {0, 1, f, text, LengthUnit::millimetre});
    };
    CHECK_THROWS_AS(set(field::near_end, "chamfer 45"), InputError);
    CHECK_THROWS_AS(set(field::length, "20"), InputError);
    CHECK_THROWS_AS(set(field::bend_radius, "3"), InputError);
    CHECK(resolve_piece(set(field::bend_angle, "45").pieces[0], {}).zones[1].bend()->angle == Approx(pi / 4));
    CHECK(resolve_piece(set(field::bend_measured, "inside").pieces[0], {}).zones[1].bend()->radius ==
          Approx(24));
}

TEST_CASE("what can't be bent says why and what would do") {
    const auto findings = [](const Job& job) { return findings_of(job, 0); };
    // runs into itself: the remedy's radius keeps it clear
    Job job = add_piece({}, piece_of("bend d8 300 r9"));
    const auto all = findings(job);
    const Finding* f = found(all, "bends_cross");
    REQUIRE(f);
    REQUIRE(f->remedy);
    job = apply(job, *f->remedy);
    CHECK_FALSE(found(findings(job), "bends_cross"));
    // tight
    job = add_piece({}, piece_of("bend d8 90 r6"));
    const auto tight = findings(job);
    REQUIRE(found(tight, "bend_tight"));
    CHECK_FALSE(found(findings(apply(job, *found(tight, "bend_tight")->remedy)), "bend_tight"));
    // by what it is made of: steel breaks at 26 %, so that 8 mm go round 15.4; stainless at 45 %, which is round 8.9
    const auto of = [&](const char* radius, const char* finish) {
        Job bar = add_piece({}, piece_of(std::string("bend d8 90 r") + radius));
        bar = apply(bar, {0, 0, field::piece_finish, finish, LengthUnit::millimetre});
        const auto all_found = findings(bar);
        const Finding* tight_one = found(all_found, "bend_tight");
        if (!tight_one) return std::string("bends");
        CHECK_FALSE(found(findings(apply(bar, *tight_one->remedy)), "bend_tight"));
        return tight_one->sentence;
    };
    CHECK(of("15.5", "steel") == "bends");
    CHECK_THAT(of("15", "steel"), Catch::Contains("S235JR, EN 10025-2") && Catch::Contains("15.385 mm"));
    CHECK(of("9", "stainless steel") == "bends");
    CHECK_THAT(of("8.5", "stainless steel #7A5AA8"), Catch::Contains("breaks at 45 %"));
    CHECK(of("13", "brass") == "bends"); // by the rule of its thickness
    CHECK_THAT(of("11", "brass"), Catch::Contains("less than the bar's thickness"));
    CHECK(least_bend_radius(4, 0.9) == Approx(6)); // never tighter than it can go round
    // a mouth's thread that reaches into the bend
    Piece elbow = piece_of("elbow G3/8 90");
    elbow.zones[3].length = {"30", {}};
    const Preview p = made_of(elbow);
    CHECK_FALSE(p.made());
    REQUIRE(found(p.findings, "cannot_make") != nullptr);
    CHECK_THAT(found(p.findings, "cannot_make")->sentence, Catch::Contains("lies in the bend"));
}

TEST_CASE("a bar of 8 bent round 20 stretches by a fifth outside") {
    const ResolvedBend b = resolve_bend(parse_bend("bend d8 90 r20").spec);
    CHECK(find_value(b.values, "outer_stretch")->value == Approx(20));
}

TEST_CASE("the overall length of elbows at any angle is their mesh's") {
    for (const char* text : {"elbow G3/4 60", "elbow G3/4 45", "elbow G1/4 120", "elbow G1/2 90 r60",
                             "u-clamp M6 for 60 x 80"}) {
        INFO(text);
        const Piece piece = piece_of(text);
        const Preview p = make_preview(piece, 0, {}, LengthUnit::millimetre, 0.002);
        REQUIRE(p.made());
        double low = 1e300, high = -1e300;
        for (const auto& point : p.mesh.points)
            low = std::min(low, point.z), high = std::max(high, point.z);
        const auto values = piece_values(p, piece);
        CHECK(find_value(values, "overall_length")->value == Approx(high - low).margin(0.004));
        // and where its far end stands
        const BentLine way = p.piece.centreline();
        const BarFrame end = way.frame_at(way.length());
        CHECK(*find_value(values, "far_end_z")->value == Approx(end.origin[2]).margin(1e-9));
        CHECK(*find_value(values, "far_end_x")->value == Approx(end.origin[0]).margin(1e-9));
    }
    const Piece elbow = piece_of("elbow G1/2 90 r60");
    const auto values = piece_values(make_preview(elbow, 0, {}, LengthUnit::millimetre), elbow);
    CHECK(find_value(values, "angle_between_ends")->value == Approx(std::numbers::pi / 2));
}

TEST_CASE("no side of a bend's mesh is further off its torus than the mesh says, nor much nearer") {
    for (const double chord : {0.2, 0.05, 0.01}) {
        const Preview p = make_preview(piece_of("bend d8 90 r20"), 0, {}, LengthUnit::millimetre, chord);
        REQUIRE(p.made());
        const double said = solid::skin_deflection(*p.body.skin(), p.mesh);
        // the torus' axis runs square to the first bend's plane through its centre
        const BentLine way = p.piece.centreline();
        const BentPart& bend = way.parts()[1]; // between its two straight legs
        const BarFrame begin = way.frame_at(bend.from);
        const Direction towards = way.frame_at(way.length()).t; // after a quarter of a turn
        const Direction &t = begin.t,
                        axis{t[1] * towards[2] - t[2] * towards[1], t[2] * towards[0] - t[0] * towards[2],
                             t[0] * towards[1] - t[1] * towards[0]};
        double measured = 0;
        const auto look = [&](double x, double y, double z) {
            const double v[3]{x - begin.origin[0] - 20 * towards[0], y - begin.origin[1] - 20 * towards[1],
                              z - begin.origin[2] - 20 * towards[2]};
            const double along = v[0] * axis[0] + v[1] * axis[1] + v[2] * axis[2];
            const double out = std::sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2] - along * along);
            measured = std::max(measured, std::abs(std::hypot(out - 20, along) - 4));
        };
        for (std::size_t i = 0; i < p.mesh.triangles.size(); ++i) {
            if (p.body.skin()->faces[p.mesh.face[i]].kind == solid::FaceKind::flat) continue; // its ends
            const auto& corners = p.mesh.triangles[i];
            if (std::any_of(corners.begin(), corners.end(), [&](std::uint32_t k) {
                    return p.mesh.unrolled[k].z < bend.from - 1e-9 || p.mesh.unrolled[k].z > bend.to + 1e-9;
                }))
                continue;
            const auto &a = p.mesh.points[corners[0]], &b = p.mesh.points[corners[1]],
                       &c = p.mesh.points[corners[2]];
            look((a.x + b.x) / 2, (a.y + b.y) / 2, (a.z + b.z) / 2);
            look((c.x + b.x) / 2, (c.y + b.y) / 2, (c.z + b.z) / 2);
            look((a.x + c.x) / 2, (a.y + c.y) / 2, (a.z + c.z) / 2);
        }
        INFO("chord " << chord << ": said " << said << ", measured " << measured);
        CHECK(measured <= said * 1.0001);
        CHECK(said < 4 * measured);
    }
}

TEST_CASE("bores that meet are one: no wall of no thickness is left between them") {
    // a body with a hole through it has as many corners and faces as sides: V − E + F = 0; with a wall in the hole 2
    const auto euler = [](const Piece& piece) {
        const Preview p = test::prove(piece);
        const auto triangles = static_cast<long>(p.mesh.triangles.size());
        std::set<std::uint32_t> used;
        for (const auto& t : p.mesh.triangles)
            used.insert(t.begin(), t.end());
        return static_cast<long>(used.size()) - triangles * 3 / 2 + triangles;
    };
    for (const char* text : {"elbow G1/4 90", "elbow G1/2 45", "elbow 1/2 NPT 90", "elbow G3/8 30"}) {
        INFO(text);
        CHECK(euler(piece_of(text)) == 0);
    }
    Piece tube = piece_of("round 40 x 40");
    Zone through = plain(mm(10), mm(1)), far = plain(mm(20), mm(15));
    through.where = Where::near_bore;
    through.length = {"", {}};
    far.where = Where::far_bore;
    tube.zones.push_back(through);
    tube.zones.push_back(far);
    CHECK(euler(tube) == 0);
    tube.zones[1].length = {"20", {}}; // a wall of 5 mm is left
    CHECK(euler(tube) == 2);
}
