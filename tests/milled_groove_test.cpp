// Grooves that end in the round of their tool, sections of one's own, the simplified stand-in, and the pin of a bush.
#include "check/check.hpp"
#include "exchange/section_import.hpp"
#include "form/groove/section_points.hpp"
#include "model/edit.hpp"
#include "model/forms/groove.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "pair/standing.hpp"
#include "prove_piece.hpp"
#include "solid/skin/scoop.hpp"
#include "solid/skin/skin.hpp"
#include "standard/running_fit.hpp"

#include <fstream>
#include <numbers>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

Job edited(Job job, std::size_t zone, std::initializer_list<std::pair<Field, const char*>> edits) {
    for (const auto& [f, text] : edits)
        job = apply(job, {0, zone, f, text, LengthUnit::millimetre});
    return job;
}
Job grooved(const char* text, std::initializer_list<std::pair<Field, const char*>> edits = {}) {
    Job job = add_piece({}, piece_of(text));
    return edited(job, job.pieces[0].zones.size() - 1, edits);
}
std::string refusal(const Job& job) {
    const Preview p = make_preview(job.pieces[0], 0, {}, LengthUnit::millimetre);
    return p.made() ? "made" : p.findings.front().sentence;
}

// What a groove on a cylinder takes between two milled ends, counted in columns along the radius: at each place of the
// unrolled surface how deep the tool has been there. It has been at every place of its way, and stands at both ends.
template<class Depth>
double taken_by_tool(double radius, double lead, double width, double way_from, double way_to, Depth depth) {
    const double slope = lead / (2 * pi * radius), c = 1 / std::hypot(1, slope), s = slope * c;
    const double from = way_from / s, to = way_to / s; // along the groove, on the surface
    const int along = 4000, across = 400;
    double sum = 0;
    const double reach = width / 2 * c;
    for (int i = 0; i < along; ++i) {
        const double p = from - reach + (to - from + 2 * reach) * (i + 0.5) / along;
        for (int k = 0; k < across; ++k) {
            const double q = reach * (2 * (k + 0.5) / across - 1); // square to it
            const double beyond = p < from ? from - p : p > to ? p - to : 0, off = std::hypot(beyond, q);
            if (off >= reach) continue;
            const double h = depth(off / c);
            sum += (radius * radius - (radius - h) * (radius - h)) / 2 / radius *
                   ((to - from + 2 * reach) / along) * (2 * reach / across);
        }
    }
    return sum;
}

} // namespace

TEST_CASE("a groove milled at both ends takes what its tool has passed over") {
    struct Case {
        const char* text;
        double radius, pitch, width, length;
        double (*depth)(double);
    };
    for (const Case& c :
         {Case{"groove rect 2 x 1.5 pitch 25 on 30 x 60", 15, 25, 2, 60, [](double) { return 1.5; }},
          Case{"groove vee 90 1 pitch 12 on 24 x 30 LH", 12, 12, 2, 30, [](double u) { return 1 - u; }},
          Case{"groove round 4 x 2 pitch 30 on 40 x 50", 20, 30, 4, 50,
               [](double u) { return std::sqrt(std::max(0.0, 4 - u * u)); }},
          Case{"groove own 0:0 1:1.5 3:1.5 4:0 pitch 14 on 40 x 40", 20, 14, 4, 40,
               [](double u) { return std::min(1.5, 1.5 * (2 - u)); }}}) {
        INFO(c.text);
        const Preview made =
            test::prove(grooved(c.text, {{field::near_end, "milled"}, {field::far_end, "milled"}}).pieces[0]);
        const double slope = c.pitch / (2 * pi * c.radius), reach = c.width / 2 / std::hypot(1, slope),
                     from = c.pitch / 20 + reach, to = c.length - from;
        const double blank = pi * c.radius * c.radius * c.length,
                     taken = taken_by_tool(c.radius, c.pitch, c.width, from, to, c.depth);
        CHECK(blank - made.volume() == Approx(taken).epsilon(2e-3));
    }
}

TEST_CASE("points of a milled end lie on half the section turned about the radius") {
    const Preview made = test::prove(
        grooved("groove round 4 x 1.5 pitch 10 on 40 x 40", {{field::far_end, "milled"}}).pieces[0]);
    const double gamma = std::atan(10 / (40 * pi)), reach = 2 * std::cos(gamma), middle = 40 - 0.5 - reach,
                 arc = (4 + 1.5 * 1.5) / 3,
                 theta0 = (middle - 5) / 10 * 2 * pi; // of the tool, where the groove has its middle
    int on = 0;
    double worst = 0;
    const solid::Skin& skin = *made.body.skin();
    for (std::size_t i = 0; i < made.mesh.triangles.size(); ++i) {
        if (skin.faces[made.mesh.face[i]].kind != solid::FaceKind::scoop) continue;
        for (const auto id : made.mesh.triangles[i]) {
            const solid::Point& q = made.mesh.points[id];
            const double x = 20 * std::remainder(std::atan2(q.y, q.x) - theta0, 2 * pi), y = q.z - middle,
                         off = std::hypot(x, y) / std::cos(gamma);
            CHECK(off <= 2 + 1e-6);
            CHECK(x * std::cos(gamma) + y * std::sin(gamma) > -1e-6); // beyond the groove
            worst = std::max(worst, std::abs(std::hypot(off, std::hypot(q.x, q.y) - (20 - 1.5 + arc)) - arc));
            ++on;
        }
    }
    CHECK(on > 300);
    CHECK(worst < 1e-6);
}

TEST_CASE("a slot within half a turn is a boundary of its own in the face around it") {
    for (const char* text :
         {"groove vee 60 4.9 pitch 195 on 49.3 x 68 LH", "groove rect 2.8 x 1.5 pitch 97 on 38.4 x 19.7",
          "groove round 6 x 2 pitch 160 in 40 x 60"}) {
        INFO(text);
        const Preview made =
            test::prove(grooved(text, {{field::near_end, "milled"}, {field::far_end, "milled"}}).pieces[0]);
        const solid::Skin& skin = *made.body.skin();
        int holed = 0;
        for (const solid::Face& f : skin.faces) {
            if (f.kind != solid::FaceKind::round || f.loops.size() != 2) continue;
            const auto span = [&](const std::vector<solid::EdgeUse>& loop) {
                double low = 1e300, high = -1e300;
                for (const solid::EdgeUse& u : loop) {
                    const double z = solid::start_of(skin, u).z;
                    low = std::min(low, z);
                    high = std::max(high, z);
                }
                return std::pair{low, high};
            };
            const auto outer = span(f.loops[0]), slot = span(f.loops[1]);
            CHECK(outer.first < slot.first);
            CHECK(outer.second > slot.second);
            ++holed;
        }
        CHECK(holed == 1);
    }
}

TEST_CASE("a milled end says why it can't be one") {
    CHECK_THAT(refusal(grooved("groove own 0:0 1:1.5 4:0 pitch 14 on 40 x 40", {{field::far_end, "milled"}})),
               Catch::Contains("the same on both"));
    CHECK_THAT(refusal(grooved("groove rect 2 x 1 pitch 10 on 20 x 3", {{field::far_end, "milled"}})),
               Catch::Contains("it is only 3 mm long"));
    CHECK_THAT(refusal(grooved("groove rect 20 x 1 pitch 30 on 10 x 80", {{field::far_end, "milled"}})),
               Catch::Contains("halfway around the bar"));
    CHECK_THROWS_WITH(grooved("M10 x 40", {{field::far_end, "milled"}}),
                      Catch::Contains("Only a groove ends"));
    CHECK_THROWS_WITH(grooved("groove rect 2 x 1 pitch 10 on 20 x 30", {{field::far_end, "milled 4"}}),
                      Catch::Contains("no number"));
    CHECK_THROWS_WITH(grooved("groove rect 2 x 1 pitch 10 on 20 x 30", {{field::far_end, "point"}}),
                      Catch::Contains("or is milled"));
    const Job kept = grooved("groove rect 2 x 1 pitch 10 on 20 x 30", {{field::far_end, "milled"}});
    CHECK(job_from_json(job_to_json(kept)) == kept);
}

TEST_CASE("a section of one's own is what the others are") {
    // the same grooves by points: an upright wall, a half-round, a vee
    for (const auto& [own, like] :
         {std::pair{"groove own 0:0 0:1.5 2:1.5 2:0 pitch 25 on 30 x 40",
                    "groove rect 2 x 1.5 pitch 25 on 30 x 40"},
          std::pair{"groove own 0:0:1 4:0 pitch 10 on 40 x 30", "groove round 4 x 1 pitch 10 on 40 x 30"},
          std::pair{"groove own 0:0 1:1 2:0 pitch 6 in 20 x 20", "groove vee 90 1 pitch 6 in 20 x 20"}}) {
        INFO(own);
        const Preview a = test::prove(piece_of(own)), b = test::prove(piece_of(like));
        const double outer = in_mm(a.piece.zones[0].diameter), other = in_mm(b.piece.zones[0].diameter);
        REQUIRE(outer == Approx(other));
        // the one's upright flanks lean outwards, the other's inwards, each half a micrometre
        CHECK(a.volume() == Approx(b.volume()).epsilon(1e-5));
        const ResolvedGroove &g = *a.piece.zones.back().groove(), &h = *b.piece.zones.back().groove();
        CHECK(g.depth == Approx(h.depth));
        CHECK(g.width == Approx(h.width));
        CHECK(g.across == Approx(h.across));
    }
    // inch points are inches; a formula may stand in one
    CHECK(parse_groove("groove own 0:0 0.05:0.05 0.1:0 pitch 0.5 on 1 x 2 in").spec.points[1].z ==
          Approx(1.27));
    Job job = grooved("groove rect 2 x 1 pitch 10 on 20 x 30", {{field::groove, "own"}});
    CHECK(resolve_piece(job.pieces[0], {}).zones[0].groove()->depth == Approx(1));
    job = edited(job, 0, {{field::points, "0:0 1:2*0.8 2:0"}});
    CHECK(resolve_piece(job.pieces[0], {}).zones[0].groove()->depth == Approx(1.6));
    const auto refused = [](const char* text) {
        try {
            (void)parse_section_points(text, LengthUnit::millimetre, {});
        } catch (const InputError& e) {
            return std::string(e.what());
        }
        return std::string("read");
    };
    CHECK_THAT(refused("0:0"), Catch::Contains("two points or more"));
    CHECK_THAT(refused("0:0 1"), Catch::Contains("A depth is missing"));
    CHECK_THAT(refused("0:0 1::2"), Catch::Contains("no point of a groove"));
    CHECK_THAT(refused("0:0 1:1 2:0.5"), Catch::Contains("at the crest"));
    CHECK_THAT(refused("0:0 1:-1 2:0"), Catch::Contains("not negative"));
    CHECK_THAT(refused("0:0 2:1 1:1 3:0"), Catch::Contains("overhangs"));
    CHECK_THAT(refused("0:0 1:1 2:0.2 3:1 4:0"), Catch::Contains("falls again"));
    CHECK_THAT(refused("0:0 1:0.001 2:0"), Catch::Contains("hundredth of its width"));
    CHECK_THAT(refused("2:0 1:1 0:0"), Catch::Contains("beyond its first one"));
    CHECK_THROWS_WITH(piece_of("groove own 0:0 1:1 2:0 pitch 6 on 20 across 18"),
                      Catch::Contains("depths instead"));
}

TEST_CASE("a groove's section comes from a file at its own size") {
    const auto path = std::filesystem::temp_directory_path() / "whorl_groove_outline.csv";
    std::ofstream(path) << "0,0\n3,0\n4,-1.5\n6,-1.5\n7,0\n9,0\n";
    const auto points = import_groove(path);
    CHECK(write_section_points(points, LengthUnit::millimetre) == "0:0 1:1.5 3:1.5 4:0");
    std::filesystem::remove(path);
}

TEST_CASE("a simplified groove is the surface it is cut into") {
    const Job job = grooved(
        "groove rect 2 x 1.5 pitch 25 on 30 x 60",
        {{field::geometry, "simplified"}, {field::far_end, "milled"}, {field::near_end, "chamfer 1 x 45"}});
    const double r = 15, cone = pi / 3 * (r * r + r * (r - 1) + (r - 1) * (r - 1));
    CHECK(test::prove(job.pieces[0]).volume() == Approx(pi * r * r * 59 + cone).epsilon(1e-9));
    CHECK(resolve_piece(job.pieces[0], {}).zones[0].smallest_radius() == mm(15));
    CHECK(job_from_json(job_to_json(job)) == job);
}

TEST_CASE("ISO 286-2: f7 as it is listed") {
    struct Row {
        double d, least, most;
    };
    for (const Row& r : {Row{3, 6, 16}, Row{3.01, 10, 22}, Row{10, 13, 28}, Row{20, 20, 41}, Row{50, 25, 50},
                         Row{100, 36, 71}, Row{180, 43, 83}, Row{500, 68, 131}}) {
        const auto fit = standard::running_fit(mm(r.d));
        REQUIRE(fit);
        CHECK(in_mm(fit->least) == Approx(r.least / 1000));
        CHECK(in_mm(fit->most) == Approx(r.most / 1000));
        CHECK(in_mm(fit->middle()) == Approx((r.least + r.most) / 2000));
    }
    CHECK_FALSE(standard::running_fit(mm(501)));
}

TEST_CASE("a bush has its pin, which follows its bore and turns in it") {
    Job job = add_piece({}, piece_of("groove round 2.4 x 0.8 pitch 20 in 20 x 30"));
    job = add_counterpart(job, 0, 1);
    REQUIRE(job.pieces.size() == 2);
    const auto pin = [&] {
        return in_mm(resolve_piece(job.pieces[1], resolve_names(job)).zones[0].diameter);
    };
    CHECK(pin() == Approx(20 - 0.0305));
    CHECK(std::get<PlainForm>(job.pieces[1].zones[0].form).diameter.text == "20 - 0.0305");
    CHECK_FALSE(stops(findings_of(job, 0)));
    job = apply(job, {0, 1, field::diameter, "16", LengthUnit::millimetre});
    CHECK(pin() == Approx(16 - 0.025));
    // typed over it no longer follows, and what is too thick is said, with what turns
    job = apply(job, {1, 0, field::diameter, "16", LengthUnit::millimetre});
    job.pairs[0].follows = false;
    job = apply(job, {1, 0, field::diameter, "16", LengthUnit::millimetre});
    const auto all = findings_of(job, 1);
    const auto f =
        std::find_if(all.begin(), all.end(), [](const Finding& x) { return x.id == "pin_does_not_go_in"; });
    REQUIRE(f != all.end());
    REQUIRE(f->remedy);
    job = apply(job, *f->remedy);
    CHECK(pin() == Approx(16 - 0.025));
    // beyond the table a pin that is too thick is told so all the same
    Job wide = apply(job, {0, 0, field::diameter, "700", LengthUnit::millimetre});
    wide = apply(wide, {0, 1, field::diameter, "600", LengthUnit::millimetre});
    wide = apply(wide, {1, 0, field::diameter, "600", LengthUnit::millimetre});
    const auto beyond = findings_of(wide, 1);
    CHECK(std::any_of(beyond.begin(), beyond.end(),
                      [](const Finding& x) { return x.id == "pin_does_not_go_in"; }));
    // both middles in one plane, on one axis
    const ResolvedPiece bush = resolve_piece(job.pieces[0], {}), other = resolve_piece(job.pieces[1], {});
    const auto s = standing_of(bush, 1, other, 0);
    REQUIRE(s);
    CHECK(s->origin[2] == Approx(15 - in_mm(other.length()) / 2));
    CHECK_THROWS_WITH(add_counterpart(add_piece({}, piece_of("groove rect 2 x 1 pitch 10 on 20 x 30")), 0, 0),
                      Catch::Contains("grooves outside have none"));
}

TEST_CASE("a strap stands across both legs of its clamp, room for nuts beyond it") {
    Job job = add_piece({}, piece_of("u-clamp M8 for 60 x 80"));
    std::size_t bend = 0;
    while (!job.pieces[0].zones[bend].as<BendForm>())
        ++bend;
    job = add_counterpart(job, 0, bend);
    const ResolvedPiece clamp = resolve_piece(job.pieces[0], {}), plate = resolve_piece(job.pieces[1], {});
    const auto s = standing_of(clamp, bend, plate, 0);
    REQUIRE(s);
    // the holes' middles lie on the legs' centrelines
    const ResolvedCrossHoles& holes = *plate.zones[0].cross();
    const BentLine way = clamp.centreline();
    for (const double hole : holes.at) {
        std::array<double, 3> at{};
        for (std::size_t k = 0; k < 3; ++k)
            at[k] = s->origin[k] + hole * s->z[k];
        double nearest = 1e300, z = 0;
        for (int i = 0; i <= 20000; ++i) {
            const double way_z = way.length() * i / 20000;
            const auto o = way.frame_at(way_z).origin;
            const double d = std::hypot(o[0] - at[0], o[1] - at[1], o[2] - at[2]);
            if (d < nearest) nearest = d, z = way_z;
        }
        CHECK(nearest < 0.02);
        const double thick = in_mm(plate.zones[0].as<ResolvedPlain>()->thickness),
                     left = std::min(z, way.length() - z) - thick / 2; // of the leg beyond it
        CHECK(left == Approx(16).margin(0.02));
        // its wide faces look along the leg
        const auto t = way.frame_at(z).t;
        CHECK(std::abs(t[0] * s->y[0] + t[1] * s->y[1] + t[2] * s->y[2]) == Approx(1));
    }
    const Standing back = inverse(inverse(*s));
    for (std::size_t k = 0; k < 3; ++k)
        CHECK(back.origin[k] == Approx(s->origin[k]).margin(1e-12));
}
