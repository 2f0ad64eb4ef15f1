// Holes square to the axis: volumes by quadrature of their own, walls and mouths on their surfaces, random drilled
// pieces through every proof, what is refused and mended; flat bars, and the plate across a clamp's legs.
#include "check/check.hpp"
#include "model/edit.hpp"
#include "model/forms/bend.hpp"
#include "model/forms/plain.hpp"
#include "model/job_file.hpp"
#include "model/pair_edit.hpp"
#include "model/ready_zone.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"
#include "standard/screw_hole.hpp"

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
Zone in_bore(Zone z) {
    z.where = Where::near_bore;
    return z;
}
CrossHoles& holes(Piece& p, std::size_t zone = 0) {
    return std::get<PlainForm>(p.zones[zone].form).cross;
}
double volume_of(const Piece& p) {
    return test::prove(p).volume();
}

// ∫∫ of a length along the hole over its circle, in rings and sectors, by Gauss and the midpoint rule.
template<class Length>
double over_circle(double rho, Length length) {
    static constexpr double node[]{0.1834346424956498, 0.5255324099163290, 0.7966664774136267,
                                   0.9602898564975363},
        weight[]{0.3626837833783620, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763};
    constexpr int rings = 8, sectors = 240;
    double sum = 0;
    for (int ring = 0; ring < rings; ++ring)
        for (int i = 0; i < 4; ++i)
            for (const double side : {-1.0, 1.0}) {
                const double s = rho * (ring + 0.5 + side * node[i] / 2) / rings;
                for (int k = 0; k < sectors; ++k) {
                    const double t = 2 * pi * (k + 0.5) / sectors;
                    sum += weight[i] * s * length(s * std::cos(t), s * std::sin(t));
                }
            }
    return sum * rho / rings / 2 * 2 * pi / sectors;
}
double half_chord(double r, double y) {
    return std::sqrt(r * r - y * y);
}

// A pin, a tube, a cone, a prism or a plate with one to four holes anywhere they fit.
Piece random_drilled(std::mt19937& random, std::string& text) {
    const auto real = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const auto chance = [&](double p) { return real(0, 1) < p; };
    Piece p;
    const double d = std::round(real(4, 60) * 10) / 10, length = d * real(0.8, 4);
    const int kind = static_cast<int>(real(0, 5.99)); // two of six round ones
    const Outline outline = kind == 3   ? Outline::hexagon
                            : kind == 4 ? Outline::square
                            : kind == 5 ? Outline::flat
                                        : Outline::round;
    Zone z = plain(mm(d), mm(length), outline);
    PlainForm& f = std::get<PlainForm>(z.form);
    double widest = 0.78 * d, step = 0;
    if (outline == Outline::flat) {
        const double thick = d * real(0.05, 0.9);
        f.thickness = millimetres(mm(thick));
        const bool narrow = chance(0.3); // through the narrow sides
        widest = 0.9 * (narrow ? thick : d);
        step = 90;
        f.cross.turned = {narrow ? "90" : "180", {}};
    } else if (outline != Outline::round) {
        step = outline == Outline::hexagon ? 60 : 90;
        widest = 0.9 * d * (outline == Outline::hexagon ? std::tan(pi / 6) : 1);
        f.cross.turned = {number_text(step * std::floor(real(0, 360 / step)), 0), {}};
        if (chance(0.3)) z.near_end.kind = EndKind::chamfer;
    } else {
        f.cross.turned = {number_text(real(-180, 360), 4), {}};
        if (kind == 2) {
            const double far = d * real(0.7, 1.4);
            f.far_diameter = millimetres(mm(far));
            widest = 0.75 * std::min(d, far);
        }
        if (chance(0.4)) z.far_end = chamfer(45, mm(0.9 * d * (kind == 2 ? 0.7 : 1)));
    }
    double bore = 0;
    if (outline != Outline::flat && chance(0.5)) {
        bore = d * (kind == 2 ? 0.7 : 1) * real(0.2, 0.7);
        widest = std::min(widest, 0.88 * bore);
    }
    const double reach = 0.12 * d, room = length - 2 * reach - 0.4;
    const double hole = std::min(real(0.05, 0.95) * widest, 0.9 * room);
    f.cross.diameter = millimetres(mm(std::max(0.2, hole)));
    const int n =
        std::clamp(static_cast<int>(real(1, 4.5)), 1, std::max(1, static_cast<int>(room / (1.2 * hole))));
    if (n > 1) {
        f.cross.count = {std::to_string(n), {}};
        f.cross.spacing =
            millimetres(mm((room - hole) / (n - 1) * real(1.15 * hole * (n - 1) / (room - hole), 1)));
    } else if (chance(0.5)) {
        f.cross.at = millimetres(mm(length / 2 + real(-0.45, 0.45) * (room - hole)));
    }
    if (bore > 0) f.cross.one_side = chance(0.5);
    p.zones = {z};
    if (bore > 0) {
        Zone inner = in_bore(plain(mm(bore), mm(1)));
        inner.length = {};
        p.zones.push_back(inner);
    }
    text += zone_designation(z, {}) + ", cross " + f.cross.diameter.text +
            (f.cross.one_side ? " in from one side" : "") + " turned " + f.cross.turned.text +
            (bore > 0 ? ", bore " + number_text(bore, 3) : "");
    return p;
}

} // namespace

TEST_CASE("cross holes take away what a quadrature over their circles says") {
    Piece p = piece_of("round 20 x 30");
    const double bar = pi * 100 * 30;
    for (const double d : {0.5, 2.0, 8.0, 15.9}) {
        INFO(d);
        holes(p).diameter = millimetres(mm(d));
        holes(p).turned = {"33", {}};
        const double taken = over_circle(d / 2, [](double y, double) { return 2 * half_chord(10, y); });
        CHECK(volume_of(p) == Approx(bar - taken).epsilon(1e-9));
    }
    // into a bore from one side, and through both walls
    p.zones.push_back(in_bore(plain(mm(12), mm(1))));
    p.zones[1].length = {};
    holes(p).diameter = {"4", {}};
    const double tube = pi * (100 - 36) * 30,
                 wall = over_circle(2, [](double y, double) { return half_chord(10, y) - half_chord(6, y); });
    CHECK(volume_of(p) == Approx(tube - 2 * wall).epsilon(1e-9));
    holes(p).one_side = true;
    CHECK(volume_of(p) == Approx(tube - wall).epsilon(1e-9));
    holes(p).count = {"3", {}};
    CHECK(volume_of(p) == Approx(tube - 3 * wall).epsilon(1e-9));
    // a cone from Ø 20 to Ø 10
    Piece cone = piece_of("round 20 x 30");
    std::get<PlainForm>(cone.zones[0].form).far_diameter = {"10", {}};
    const double whole = volume_of(cone);
    holes(cone).diameter = {"6", {}};
    holes(cone).at = {"18", {}};
    const double taken =
        over_circle(3, [](double y, double z) { return 2 * half_chord(10 - (18 + z) / 6, y); });
    CHECK(volume_of(cone) == Approx(whole - taken).epsilon(1e-9));
}

TEST_CASE("a flat bar is its three sizes, and its holes are cylinders through it") {
    Piece p = piece_of("flat 30 x 6 x 90");
    CHECK(volume_of(p) == Approx(30 * 6 * 90).epsilon(1e-12));
    holes(p).diameter = {"6.6", {}};
    holes(p).count = {"2", {}};
    holes(p).spacing = {"66", {}};
    const Preview made = test::prove(p);
    CHECK(made.volume() == Approx(30 * 6 * 90 - 2 * pi * 3.3 * 3.3 * 6).epsilon(1e-10));
    // on the wide faces, 33 either way of the middle
    double worst = 0;
    int on = 0;
    for (const solid::Point& q : made.mesh.points)
        for (const double at : {12.0, 78.0})
            if (std::hypot(q.x, q.z - at) < 4) {
                worst = std::max(worst, std::abs(std::hypot(q.x, q.z - at) - 3.3));
                CHECK(std::abs(std::abs(q.y) - 3) < 1e-9);
                ++on;
            }
    CHECK(on > 100);
    CHECK(worst < 1e-9);
    // hexagon and square through their flats
    Piece hexagon = piece_of("hex 17 x 12");
    const double solid = volume_of(hexagon);
    holes(hexagon).diameter = {"4", {}};
    holes(hexagon).turned = {"120", {}};
    CHECK(volume_of(hexagon) == Approx(solid - pi * 4 * 17).epsilon(1e-10));
}

TEST_CASE("points of a cross hole's wall and mouths lie on their cylinders") {
    Piece p = piece_of("round 16 x 24");
    holes(p).diameter = {"7", {}};
    holes(p).turned = {"20", {}};
    const Preview made = test::prove(p);
    int mouth = 0;
    double worst = 0;
    for (const solid::Point& q : made.mesh.points) {
        const double y = -q.x * std::sin(pi / 9) + q.y * std::cos(pi / 9), off = std::hypot(y, q.z - 12);
        if (off > 3.6) continue;
        ++mouth;
        worst = std::max({worst, std::abs(off - 3.5), std::abs(std::hypot(q.x, q.y) - 8)});
    }
    CHECK(mouth > 60);
    CHECK(worst < 1e-9);
}

TEST_CASE("randomised drilled pieces are closed, valid and of their closed volume") {
    test::prove_random(11000, 300, 0.9, random_drilled);
}
TEST_CASE("3 000 randomised drilled pieces", "[.][long]") {
    test::prove_random(120000, 3000, 0.9, random_drilled);
}

TEST_CASE("cross holes and flat bars are read, written, kept and refused") {
    Job job = add_piece({}, piece_of("round 20 x 30"));
    CHECK_FALSE(row_of(job.pieces[0].zones[0], field::cross_hole_at)); // nothing to place yet
    for (const auto& [f, text] : {std::pair{field::cross_hole, "4"},
                                  {field::cross_hole_at, "10"},
                                  {field::cross_hole_turned, "45"},
                                  {field::cross_hole_side, "one side"},
                                  {field::cross_holes, "2"},
                                  {field::cross_hole_spacing, "8"}}) {
        job = set(job, 0, f, text);
        CHECK(field_text(job, 0, 0, f, LengthUnit::millimetre) == text);
        CHECK(job_from_json(job_to_json(job)) == job);
    }
    CHECK(resolve_piece(job.pieces[0], {}).zones[0].cross()->at == std::vector<double>{6, 14});
    CHECK(respec_zone(job, 0, 0, parse_designation("round 25 x 30"))
              .pieces[0]
              .zones[0]
              .as<PlainForm>()
              ->cross == job.pieces[0].zones[0].as<PlainForm>()->cross);
    CHECK(set(job, 0, field::cross_hole, "none").pieces[0].zones[0].as<PlainForm>()->cross == CrossHoles{});
    CHECK_THAT(why(job, 0, field::cross_hole, "-4"), Catch::Contains("must be between"));
    CHECK_THAT(why(job, 0, field::cross_holes, "2.5"), Catch::Contains("whole number"));
    CHECK_THAT(why(job, 0, field::cross_holes, "0"), Catch::Contains("1 to 40"));
    CHECK_THAT(why(add_piece({}, piece_of("M10 x 30")), 0, field::cross_hole, "4"),
               Catch::Contains("a plain outer zone"));

    CHECK(zone_designation(piece_of("flat 30 x 6 x 90").zones[0], {}) == "flat 30 x 6 x 90");
    CHECK(zone_designation(piece_of("flat 1 x 0.25 in x 3").zones[0], {}) == "flat 25.4 x 6.35 x 76.2");
    const Job bar = add_piece({}, piece_of("flat 30 x 6 x 90"));
    CHECK(job_from_json(job_to_json(bar)) == bar);
    CHECK_THAT(why(bar, 0, field::thickness, "30"), Catch::Contains("thinner than it is wide"));
    CHECK_THAT(why(bar, 0, field::far_end, "chamfer 45"), Catch::Contains("its ends are flat"));
    CHECK_THROWS_WITH(piece_of("flat 30 x 90"), Catch::Contains("for example flat 30 x 6 x 90"));
    CHECK_THROWS_WITH(piece_of("flat 6 x 30 x 90"), Catch::Contains("thinner than it is wide"));
}

TEST_CASE("a cross hole that can't be made says why, and the remedy mends it") {
    const auto stopped = [](const Job& job, const char* id, double limit, bool has_remedy = true) {
        INFO(id);
        const auto all = findings_of(job, 0);
        const auto f = std::find_if(all.begin(), all.end(), [&](const Finding& x) { return x.id == id; });
        REQUIRE(f != all.end());
        CHECK(f->limit == Approx(limit).margin(1e-9));
        CHECK(f->remedy.has_value() == has_remedy);
        if (!f->remedy) return;
        const Job now = apply(job, *f->remedy);
        CHECK_FALSE(stops(findings_of(now, 0)));
        (void)test::prove(now.pieces[0]);
    };
    const Job round = set(add_piece({}, piece_of("round 20 x 30")), 0, field::cross_hole, "4");
    CHECK_FALSE(stops(findings_of(round, 0)));
    stopped(set(round, 0, field::cross_hole, "17"), "cross_hole_too_wide", 16);
    stopped(set(round, 0, field::cross_hole, "0.2"), "cross_hole_too_narrow", 0.24);
    stopped(set(round, 0, field::cross_hole_at, "29"), "cross_hole_outside", 0);
    stopped(set(round, 0, field::cross_hole_side, "one side"), "cross_hole_without_bore", 0);
    stopped(set(set(round, 0, field::cross_holes, "3"), 0, field::cross_hole_spacing, "4"),
            "cross_holes_meet", 4.1);
    stopped(set(set(round, 0, field::cross_holes, "3"), 0, field::cross_hole_spacing, "14"),
            "cross_hole_outside", 0);
    const Job hexagon = set(add_piece({}, piece_of("hex 17 x 12")), 0, field::cross_hole, "4");
    stopped(set(hexagon, 0, field::cross_hole_turned, "25"), "cross_hole_aslant", 0);
    stopped(set(hexagon, 0, field::cross_hole, "10"), "cross_hole_too_wide", 9.5);
    Piece tube = piece_of("round 20 x 30");
    tube.zones.push_back(in_bore(plain(mm(6), mm(12))));
    const Job blind = set(add_piece({}, tube), 0, field::cross_hole, "4");
    stopped(set(blind, 0, field::cross_hole_at, "11"), "cross_hole_at_bore_end", 0, false);
    CHECK_FALSE(stops(findings_of(set(blind, 0, field::cross_hole_at, "6"), 0)));
    CHECK_FALSE(stops(findings_of(set(blind, 0, field::cross_hole_at, "20"), 0)));
    stopped(set(set(blind, 0, field::cross_hole_at, "6"), 0, field::cross_hole, "5.8"), "cross_hole_too_wide",
            5.4);
    Piece nipple = piece_of("round 20 x 30");
    Zone tapped = piece_of("M8 x 20").zones[0];
    tapped.where = Where::near_bore;
    std::get<ThreadForm>(tapped.form).tolerance_class = "6H";
    nipple.zones.push_back(tapped);
    stopped(set(set(add_piece({}, nipple), 0, field::cross_hole, "3"), 0, field::cross_hole_at, "10"),
            "cross_hole_in_thread", 0, false);
    // a groove in the bore is no better, wherever on it the hole's axis comes out
    const Job grooved = add_piece({}, piece_of("groove round 3 x 1 pitch 12 in 20 x 30, 2 starts"));
    for (const char* turned : {"0", "20", "45", "90", "150"}) {
        const Job drilled = set(set(grooved, 0, field::cross_hole, "3"), 0, field::cross_hole_turned, turned);
        stopped(drilled, "cross_hole_in_thread", 0, false);
        // the solid floor itself leaves a sentence, or drills the land between two grooves, never past the bore
        try {
            const solid::Skin skin = solid::build_skin(resolve_piece(drilled.pieces[0], {}));
            solid::require_closed(skin);
            CHECK(std::count_if(skin.faces.begin(), skin.faces.end(),
                                [](const solid::Face& f) { return f.kind == solid::FaceKind::hole; }) == 4);
        } catch (const solid::CannotMake& e) {
            CHECK_THAT(e.what(), Catch::Contains("a groove") || Catch::Contains("the bore it meets"));
        }
    }
    // of a row every hole has to find its bore
    stopped(set(set(blind, 0, field::cross_holes, "2"), 0, field::cross_hole_side, "one side"),
            "cross_hole_without_bore", 0);
}

TEST_CASE("a U-clamp's counterpart is a plate with two clearance holes that follow its legs") {
    Job job = add_piece({}, piece_of("u-clamp M8 for 40 x 50"));
    std::size_t bend = 0;
    while (!job.pieces[0].zones[bend].as<BendForm>())
        ++bend;
    job = add_counterpart(job, 0, bend);
    REQUIRE(job.pieces.size() == 2);
    REQUIRE(job.pairs.size() == 1);
    const auto plate = [&] { return resolve_piece(job.pieces[1], {}).zones[0]; };
    CHECK(2 * plate().cross()->radius == Approx(9)); // ISO 273, medium, M8
    CHECK(plate().cross()->spacing == Approx(48));
    CHECK(plate().cross()->at[1] - plate().cross()->at[0] == Approx(48));
    CHECK_FALSE(stops(check_job(job)));
    (void)test::prove(job.pieces[1]);
    job = set(job, bend, field::bend_radius, "30");
    CHECK(plate().cross()->spacing ==
          Approx(2 * 30 + (job.pieces[0].zones[bend].as<BendForm>()->inside ? 8 : 0)));
    CHECK(in_mm(plate().length) == Approx(75 + plate().cross()->spacing - 48));
    CHECK(job_from_json(job_to_json(job)) == job);
    // another hole of one's own, and it follows no longer
    job = apply(job, {1, 0, field::cross_hole, "10", LengthUnit::millimetre});
    CHECK_FALSE(job.pairs[0].follows);
    job = set(job, bend, field::bend_radius, "35");
    CHECK(2 * plate().cross()->radius == Approx(10));
    // legs and holes that don't meet say so, and are mended
    job = apply(job, {1, 0, field::length, "120", LengthUnit::millimetre});
    const auto mended = [](const Job& now, const char* id) {
        INFO(id);
        const auto all = findings_of(now, 1);
        const auto f = std::find_if(all.begin(), all.end(), [&](const Finding& x) { return x.id == id; });
        REQUIRE(f != all.end());
        REQUIRE(f->remedy);
        CHECK_FALSE(stops(findings_of(apply(now, *f->remedy), 1)));
    };
    const auto strap = [&](Field f, const char* text) {
        return apply(job, {1, 0, f, text, LengthUnit::millimetre});
    };
    mended(job, "strap_holes_off"); // for a narrower U
    const double legs = findings_of(job, 1).front().limit;
    job = apply(job, findings_of(job, 1).front().remedy.value());
    mended(strap(field::cross_hole, "8"), "strap_hole_too_narrow");
    mended(strap(field::cross_holes, "1"), "strap_holes_off");
    CHECK_FALSE(stops(findings_of(strap(field::cross_hole_spacing, std::to_string(legs + 1.9).c_str()), 1)));
    mended(strap(field::cross_hole_spacing, std::to_string(legs + 2.1).c_str()), "strap_holes_off");
    CHECK_THROWS_WITH(add_counterpart(add_piece({}, piece_of("bend d8 90 r20")), 0, 1),
                      Catch::Contains("180"));
    CHECK(in_mm(standard::clearance_hole(mm(8))) == 9);
    CHECK(in_mm(standard::clearance_hole(mm(11))) == 12.5);
}

TEST_CASE("the mouth of a hole in a cone runs one way round the axis along each of its edges") {
    for (const char* cone : {"round 30 x 30", "round 40 x 20"}) {
        Job job = add_piece({}, piece_of(cone));
        const auto set = [&](Field f, const char* text) {
            job = apply(job, {0, 0, f, text, LengthUnit::millimetre});
        };
        set(field::far_diameter, "20");
        set(field::cross_hole, "8");
        INFO(cone);
        const Preview p = make_preview(job.pieces[0], 0, {}, LengthUnit::millimetre, 0.002);
        REQUIRE(p.made());
        const solid::Skin& skin = *p.body.skin();
        int mouths = 0;
        for (std::size_t e = 0; e < skin.edges.size(); ++e) {
            if (skin.edges[e].shape != solid::EdgeShape::mouth) continue;
            ++mouths;
            const auto& theta = p.mesh.edge_theta[e];
            const double way = theta.back() - theta.front();
            for (std::size_t k = 0; k + 1 < theta.size(); ++k)
                CHECK((theta[k + 1] - theta[k]) * way > -1e-9);
        }
        CHECK(mouths >= 8); // two mouths, each split at its sides and where it is widest around the axis
    }
}
