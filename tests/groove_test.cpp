// Helical grooves: sections, volumes by Pappus, points on theory, random grooves outside, in bores and on cones
// through every proof, what is written, refused and mended.
#include "check/check.hpp"
#include "form/groove/section_points.hpp"
#include "model/edit.hpp"
#include "model/forms/groove.hpp"
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

// What one turn of one pitch takes away, 2π∫r dA, by Gauss over the width; d(z): how deep it is there, rectangles but
// for the half micrometre that their flanks lean.
template<class Depth>
double swept_area(double radius, double side, double width, Depth depth) {
    static constexpr double node[]{0.1834346424956498, 0.5255324099163290, 0.7966664774136267,
                                   0.9602898564975363},
        weight[]{0.3626837833783620, 0.3137066458778873, 0.2223810344533745, 0.1012285362903763};
    double sum = 0;
    constexpr int parts = 400;
    for (int part = 0; part < parts; ++part)
        for (int i = 0; i < 4; ++i)
            for (const double s : {-1.0, 1.0}) {
                // z = w/2·sin φ, so that a half-round's steep edges count well
                const double phi = pi / 2 * ((part + 0.5 + s * node[i] / 2) / parts * 2 - 1);
                const double h = depth(width / 2 * std::sin(phi));
                sum += weight[i] / 2 * pi / parts * width / 2 * std::cos(phi) * 2 * pi *
                       (radius * h + side * h * h / 2);
            }
    return sum;
}

Piece random_grooved(std::mt19937& random, std::string& text) {
    const auto real = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const auto chance = [&](double p) { return real(0, 1) < p; };
    GrooveForm f;
    f.shape = static_cast<GrooveShape>(static_cast<int>(real(0, 3.99)));
    const double d = std::round(real(6, 60) * 10) / 10;
    const bool bore = chance(0.35), cone = !bore && chance(0.25);
    f.diameter = millimetres(mm(d));
    const double depth = d * real(0.01, 0.12);
    double width = depth * real(1.2, 4);
    if (f.shape == GrooveShape::round) {
        width = depth * real(2, 5);
        if (chance(0.4)) width = 2 * depth, f.depth = {};
    }
    if (f.shape == GrooveShape::vee) width = 2 * depth * std::tan(pi / 6);
    f.width = millimetres(mm(width));
    if (f.shape == GrooveShape::trapezium) f.angle = {number_text(real(10, 35), 2), {}};
    if (f.shape != GrooveShape::round || !f.depth.text.empty()) {
        f.depth = millimetres(mm(depth));
        if (chance(0.4)) {
            f.across = millimetres(mm(d + (bore ? 2 : -2) * depth));
            f.depth = {};
        }
    }
    const int starts = chance(0.5) ? 1 : static_cast<int>(real(1, chance(0.05) ? 60.99 : 6.99));
    // from as close as they go to far more than the piece is long
    const double pitch = width * (chance(0.5) ? real(1.05, 2) : real(2, 40)),
                 length = std::min(5 * pitch * starts, d * real(0.3, 1.5));
    f.pitch = millimetres(mm(pitch));
    f.starts = {std::to_string(starts), {}};
    f.hand = chance(0.5) ? Hand::left : Hand::right;
    if (chance(0.5)) f.start_angle = {number_text(real(-180, 360), 2), {}};
    if (cone) f.far_diameter = millimetres(mm(d * real(0.8, 1.3)));
    if (chance(0.2)) { // one's own, alike on both sides or not
        const double lean = width * real(0, 0.3), other = chance(0.6) ? lean : width * real(0, 0.3),
                     bow = chance(0.5) ? std::min(0.2 * width, 0.3 * depth) : 0;
        f.shape = GrooveShape::own;
        f.points = {
            write_section_points({{0, 0, 0}, {lean, -depth, -bow}, {width - other, -depth, 0}, {width, 0, 0}},
                                 LengthUnit::millimetre),
            {}};
        f.depth = f.across = {};
    }
    Zone z;
    z.form = f;
    z.length = millimetres(mm(length));
    if (chance(0.3)) z.far_end.kind = EndKind::chamfer;
    if (chance(0.2)) {
        z.near_end.kind = EndKind::run_out;
        z.near_end.turns = {number_text(real(0.05, 0.5), 2), {}};
    }
    if (chance(0.25)) z.far_end.kind = EndKind::milled;
    if (chance(0.15)) z.near_end.kind = EndKind::milled;
    Piece p;
    if (bore) {
        z.where = Where::near_bore;
        z.length = chance(0.5) ? Number{} : z.length;
        p.zones.push_back(plain(mm(d + 2 * depth + d * real(0.2, 0.6)), mm(length * real(1, 1.4))));
        text = "in " + p.zones[0].length.text + ": ";
    } else if (chance(0.4)) {
        p.zones.push_back(plain(mm(d * real(0.7, 1.3)), mm(d / 4)));
    }
    p.zones.push_back(z);
    text += zone_designation(z, {}) + (cone ? " far " + f.far_diameter.text : "");
    return p;
}

} // namespace

TEST_CASE("grooves take away what their section sweeps") {
    struct Case {
        const char* text;
        double radius, side, width, depth, pitch, length;
        int shape;
    };
    for (const Case& c :
         {Case{"groove rect 2 x 1.5 pitch 25 on 30 x 100", 15, -1, 2, 1.5, 25, 100, 0},
          Case{"groove rect 2 x 1.5 pitch 25 on 30 x 37", 15, -1, 2, 1.5, 25, 37,
               0}, // one turn and a half, nearly
          Case{"groove rect 2 x 1.5 pitch 25 on 30 x 6 LH", 15, -1, 2, 1.5, 25, 6, 0}, // a quarter
          Case{"groove round 4.2 pitch 4.5 on 60 x 40", 30, -1, 4.2, 2.1, 4.5, 40, 1},
          Case{"groove round 3 x 1 pitch 20 on 20 x 30, 2 starts", 10, -1, 3, 1, 20, 30, 1},
          Case{"groove vee 60 1 pitch 6 on 20 x 40, 3 starts LH", 10, -1, 2 * std::tan(pi / 6), 1, 6, 40, 2},
          Case{"groove rect 1 x 0.5 pitch 3 on 60 x 20, 60 starts", 30, -1, 1, 0.5, 3, 20, 0}}) {
        INFO(c.text);
        const auto depth = [&](double z) {
            if (c.shape == 0) return c.depth;
            if (c.shape == 2) return c.depth * (1 - std::abs(z) / (c.width / 2));
            const double r = (c.width * c.width / 4 + c.depth * c.depth) / (2 * c.depth);
            return std::sqrt(r * r - z * z) - (r - c.depth);
        };
        const double taken = c.length / c.pitch * swept_area(c.radius, c.side, c.width, depth),
                     blank = pi * c.radius * c.radius * c.length;
        // a rectangle's flanks and a half-round's edges lean half a micrometre
        const double lean = c.shape == 2 ? 1e-7
                            : c.depth == c.width / 2
                                ? 1e-3 * c.width * 2 * pi * c.radius * c.length / c.pitch
                                : 1e-3 * c.depth * 2 * pi * c.radius * c.length / c.pitch;
        CHECK(test::prove(piece_of(c.text)).volume() == Approx(blank - taken).margin(lean).epsilon(0));
    }
    // in the bore of a tube, by the diameter across its bottoms
    const Piece tube = piece_of("groove rect 2 pitch 25 in 30 across 33 x 60");
    const ResolvedPiece r = resolve_piece(tube, {});
    REQUIRE(r.zones.size() == 2);
    CHECK(r.zones[1].groove()->depth == Approx(1.5));
    const double outer = in_mm(r.zones[0].diameter) / 2,
                 taken = 60 / 25.0 * swept_area(15, 1, 2, [](double) { return 1.5; });
    CHECK(test::prove(tube).volume() == Approx(pi * (outer * outer - 225) * 60 - taken)
                                            .margin(1e-3 * 1.5 * 2 * pi * 16 * 60 / 25)
                                            .epsilon(0));
}

TEST_CASE("points of a half-round groove lie on its arc, swept") {
    const Preview made = test::prove(piece_of("groove round 4.2 pitch 4.5 on 60 x 40"));
    double worst = 0;
    int on = 0;
    for (const solid::Point& q : made.mesh.points) {
        const double r = std::hypot(q.x, q.y), theta = std::atan2(q.y, q.x);
        if (r > 29.5 || r < 1 || q.z < 0.01 || q.z > 39.99) continue;
        // the groove's middle lies at pitch/2 + lead·θ/2π
        const double z = std::remainder(q.z - 2.25 - 4.5 * theta / (2 * pi), 4.5);
        worst = std::max(worst, std::abs(std::hypot(z, r - 30) - 2.1));
        ++on;
    }
    CHECK(on > 500);
    CHECK(worst < 6e-4); // its edges lean half a micrometre
}

TEST_CASE("randomised grooves are closed, valid and of their closed volume") {
    test::prove_random(21000, 120, 0.8, random_grooved);
}
TEST_CASE("3 000 randomised grooves", "[.][long]") {
    test::prove_random(210000, 3000, 0.8, random_grooved);
}

TEST_CASE("grooves are written as they are read") {
    for (const char* text :
         {"groove rect 2 x 1.5 pitch 25 on 30 x 300", "groove round 4.2 pitch 4.5 on 60 x 80 LH",
          "groove vee 60 1 pitch 6 on 20 x 40, 3 starts", "groove rect 2 pitch 25 in 30 across 33 x 300",
          "groove trapezium 4 30 x 1.5 pitch 10 on 40 x 60",
          "groove own 0:0 1:1.5 3:1.5 4:0 pitch 10 on 40 x 60",
          "groove own 0:0:2 4:0 pitch 10 in 40 x 60, 3 starts LH",
          "groove round 3 x 1 pitch 20 on 20 x 30, 2 starts LH"}) {
        INFO(text);
        const Designation d = parse_designation(text);
        const GrooveSpec& s = std::get<GrooveSpec>(d.what);
        CHECK(write_groove(s, d.length, d.unit) == text);
        CHECK(parse_groove(write_groove(s, d.length, LengthUnit::inch)).spec.starts == s.starts);
        const Piece p = piece_of(text);
        CHECK(zone_designation(p.zones.back(), {}).substr(0, 20) == std::string(text).substr(0, 20));
        Job job = add_piece({}, p);
        CHECK(job_from_json(job_to_json(job)) == job);
    }
    CHECK_THAT(why("groove"), Catch::Contains("rect, round, vee, trapezium or own"));
    CHECK_THAT(why("groove rect 2 x 1 on 30"), Catch::Contains("needs its pitch"));
    CHECK_THAT(why("groove rect 2 x 1 pitch 5"), Catch::Contains("needs the diameter"));
    CHECK_THAT(why("groove rect 2 pitch 5 on 30"), Catch::Contains("needs its depth"));
    CHECK_THAT(why("groove rect 2 x 1 pitch 5 on 30 across 28"), Catch::Contains("the other follows"));
    CHECK_THAT(why("groove rect 2 pitch 5 on 30 across 33"), Catch::Contains("not less than the diameter"));
    CHECK_THAT(why("groove round 2 x 1.5 pitch 5 on 30"), Catch::Contains("at most half as deep"));
    CHECK_THAT(why("groove rect 2 x 1 pitch 5 on 30, 61 starts"), Catch::Contains("1 to 60 starts"));
    CHECK_THAT(why("groove rect 2 x 1 pitch 5 on 30 round"), Catch::Contains("not understood in a groove"));
}

TEST_CASE("a groove outside is not put into a bore by its line, nor one in a bore outside") {
    Job job = add_piece({}, piece_of("groove rect 2 pitch 25 in 30 across 33 x 60"));
    CHECK_THROWS_WITH(respec_zone(job, 0, 1, parse_designation("groove rect 2 x 1 pitch 25 on 30")),
                      Catch::Contains("in a bore write in"));
    CHECK_THROWS_WITH(respec_zone(job, 0, 0, parse_designation("groove rect 2 x 1 pitch 25 in 30")),
                      Catch::Contains("select a bore zone"));
    job = respec_zone(job, 0, 1, parse_designation("groove round 3 x 1 pitch 20 in 30, 2 starts LH"));
    CHECK(resolve_piece(job.pieces[0], {}).zones[1].groove()->spec.hand == Hand::left);
    CHECK(job.pieces[0].zones[1].length.text.empty()); // through, as before
    (void)test::prove(job.pieces[0]);
}

TEST_CASE("a groove's depth and the diameter across it hand each other back; turns set the pitch") {
    Job job = add_piece({}, piece_of("groove rect 2 x 1.5 pitch 25 on 30 x 100"));
    const auto resolved = [&] { return *resolve_piece(job.pieces[0], {}).zones[0].groove(); };
    CHECK(resolved().across == Approx(27));
    job = set(job, 0, field::across_grooves, "26");
    CHECK(resolved().depth == Approx(2));
    CHECK(std::get<GrooveForm>(job.pieces[0].zones[0].form).depth.text.empty());
    job = set(job, 0, field::groove_depth, "1");
    CHECK(resolved().across == Approx(28));
    job = set(job, 0, field::turns, "0.25");
    CHECK(resolved().lead() == Approx(400));
    job = set(job, 0, field::starts, "4");
    job = set(job, 0, field::lead, "100");
    CHECK(in_mm(resolved().spec.pitch) == Approx(25));
    CHECK(resolved().width * std::cos(resolved().lead_angle) ==
          Approx(*find_value(resolved().values, "width_square")->value));
}

TEST_CASE("a groove that can't be made says why, and the remedy mends it") {
    const auto stopped = [](const Job& job, const char* id) {
        INFO(id);
        const auto all = findings_of(job, 0);
        const auto f = std::find_if(all.begin(), all.end(), [&](const Finding& x) { return x.id == id; });
        REQUIRE(f != all.end());
        REQUIRE(f->remedy);
        const Job now = apply(job, *f->remedy);
        CHECK_FALSE(stops(findings_of(now, 0)));
        (void)test::prove(now.pieces[0]);
    };
    const Job groove = add_piece({}, piece_of("groove rect 2 x 1.5 pitch 25 on 30 x 60"));
    CHECK_FALSE(stops(findings_of(groove, 0)));
    stopped(set(groove, 0, field::pitch, "1.5"), "groove_wider_than_pitch");
    stopped(set(groove, 0, field::pitch, "2"), "groove_wider_than_pitch");
    stopped(set(groove, 0, field::groove_depth, "15"), "groove_too_deep");
    stopped(set(add_piece({}, piece_of("groove trapezium 4 30 x 1.5 pitch 10 on 40 x 60")), 0,
                field::groove_depth, "9"),
            "groove_flanks_meet");
    // deeper than the tube's wall
    const Job tube = set(add_piece({}, piece_of("groove rect 2 pitch 25 in 30 across 33 x 60")), 1,
                         field::across_grooves, "45");
    const Preview none = make_preview(tube.pieces[0], 0, {}, LengthUnit::millimetre);
    CHECK_FALSE(none.made());
    CHECK_THAT(none.findings.front().sentence, Catch::Contains("no wall is left"));
}

TEST_CASE("a groove of several starts climbs by its lead, starts times the pitch") {
    const ResolvedGroove g =
        resolve_groove(parse_groove("groove rect 2 x 1.5 pitch 5 on 40 x 60, 3 starts").spec);
    CHECK(g.lead_angle == Approx(std::atan(15 / (std::numbers::pi * 40))));
    CHECK(find_value(g.values, "lead_angle")->value == Approx(std::atan(15 / (std::numbers::pi * 40))));
}

TEST_CASE("turns of a groove in a bore that goes through are those over the piece") {
    Job job = add_piece({}, piece_of("groove rect 2 pitch 25 in 30 across 33 x 300"));
    std::size_t zone = 0;
    while (!job.pieces[0].zones[zone].as<GrooveForm>())
        ++zone;
    job = apply(job, {0, zone, field::turns, "2", LengthUnit::millimetre});
    CHECK(in_mm(resolve_length(std::get<GrooveForm>(job.pieces[0].zones[zone].form).pitch, {})) ==
          Approx(150));
    CHECK(job.pieces[0].zones[zone].length.text.empty()); // it still goes through
}
