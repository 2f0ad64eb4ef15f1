// Drawings: what is seen and cut against closed forms, the kernel and rays; dimensions complete and clear of each other;
// files read back by other readers.
#include "build/build.hpp"
#include "drawing/detail_view.hpp"
#include "drawing/drawing_fields.hpp"
#include "drawing/forms/form_drawing.hpp"
#include "drawing/frame.hpp"
#include "drawing/hatch.hpp"
#include "drawing/job_drawings.hpp"
#include "drawing/letters.hpp"
#include "drawing/limits.hpp"
#include "drawing/placed_view.hpp"
#include "drawing/runs.hpp"
#include "drawing/scales.hpp"
#include "drawing/write_sheet.hpp"
#include "model/catalogue.hpp"
#include "model/file.hpp"
#include "model/job_file.hpp"
#include "model/title_defaults.hpp"
#include "plausible_piece.hpp"
#include "quantity/numeric.hpp"
#include "solid/kernel/kernel_shape.hpp"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <cairo.h>
#include <catch2/catch.hpp>
#include <filesystem>
#include <gp_Pln.hxx>
#include <set>
#include <unistd.h>

using namespace whorl;
using namespace whorl::drawing;

namespace {

ResolvedPiece resolved(const std::string& text) {
    return resolve_piece(piece_of(text), {});
}

struct Shaded {
    solid::Body body;
    solid::Mesh mesh;
    solid::Shading shading;
};
Shaded shaded(const ResolvedPiece& piece, double chord) {
    Shaded out{solid::make_body(piece), {}, {}};
    out.mesh = out.body.mesh(chord);
    out.shading = out.body.shading(out.mesh);
    return out;
}

DrawnSheet sheet_of(const Piece& piece, SheetSettings settings = {}) {
    return draw_sheet(make_preview(piece, 0, {}, LengthUnit::millimetre), piece, 0, settings);
}

std::set<std::string> words_on(const Paper& p) {
    std::set<std::string> out;
    for (const Text& t : p.texts)
        out.insert(t.words);
    return out;
}

double kernel_cut(const solid::Solid& solid, double size) {
    // the plane of the side view: x = 0
    BRepBuilderAPI_MakeFace face(gp_Pln(gp_Pnt(0, 0, 0), gp_Dir(-1, 0, 0)), -size, size, -size, size);
    BRepAlgoAPI_Common common(face.Shape(), solid.shape().solid);
    REQUIRE(common.IsDone());
    GProp_GProps props;
    BRepGProp::SurfaceProperties(common.Shape(), props);
    return props.Mass();
}

// Texts don't meet each other, and are inside the frame.
std::string crowded(const DrawnSheet& s) {
    const Box frame = inside_frame(s.size);
    std::vector<std::pair<Box, std::string>> boxes;
    for (const Text& t : s.paper.texts) {
        if (t.words.empty()) continue;
        const Box b = bounds(t).grown(-0.05);
        if (!frame.holds(b)) return t.words + " is outside the frame";
        for (const auto& [other, words] : boxes)
            if (b.meets(other)) return t.words + " meets " + words;
        boxes.emplace_back(b, t.words);
    }
    return {};
}

// No text stands on a dimension line or leader but over its own: lines are 1.2 under their text.
std::string struck(const DrawnSheet& s) {
    for (const Text& t : s.paper.texts) {
        if (!t.link || t.words.empty() || t.angle != 0) continue;
        const Box b = bounds(t).grown(-0.2);
        Room room;
        for (const Stroke& line : s.paper.strokes)
            if (line.kind == LineKind::thin && line.points.size() >= 2 && line.points.size() <= 3 &&
                !line.smooth)
                for (std::size_t i = 0; i + 1 < line.points.size(); ++i)
                    room.take_line(line.points[i], line.points[i + 1]);
        if (!room.free(b)) return t.words + " is struck through";
    }
    return {};
}

} // namespace

// --- what is seen and cut ---

TEST_CASE("a cut through the axis is exact where the surface is straight along it") {
    // a bush: two rectangles
    const ResolvedPiece bush = [] {
        Piece p = piece_of("round 30 x 20");
        Zone bore;
        bore.where = Where::near_bore;
        bore.length = {};
        std::get<PlainForm>(bore.form).diameter = {"18", {}};
        p.zones.push_back(bore);
        return resolve_piece(p, {});
    }();
    const Shaded b = shaded(bush, 0.05);
    const Seen cut = see(b.mesh, b.shading, {.cut = true, .chord = 0.05});
    CHECK(area(cut.cut) == Approx(2 * 6 * 20).epsilon(1e-12));
    CHECK(cut.cut.size() == 2);
    for (const Run& r : cut.cut)
        CHECK(r.points.size() == 4);
    CHECK(inside(cut.cut, {10, 12}));
    CHECK_FALSE(inside(cut.cut, {10, 5}));
    // the bore's mouths are seen as lines across
    double across = 0;
    for (const Run& r : cut.lines)
        for (std::size_t i = 0; i + 1 < r.points.size(); ++i)
            if (std::abs(r.points[i].x - r.points[i + 1].x) < 1e-9)
                across += std::abs(r.points[i].y - r.points[i + 1].y);
    CHECK(across == Approx(2 * 18).epsilon(1e-9));
}

TEST_CASE("what is cut is what the kernel cuts of the solid") {
    for (const char* text : {"M12x1.75-6g x 7", "round 20 x 30", "Tr16x4-7e x 10", "ISO 4762 M6 x 25",
                             "groove rect 4 x 2 pitch 20 on 40 x 50"}) {
        INFO(text);
        const ResolvedPiece piece = resolved(text);
        const Shaded s = shaded(piece, 0.001);
        const double ours = area(see(s.mesh, s.shading, {.cut = true, .chord = 0.001}).cut);
        const double theirs =
            kernel_cut(s.body.solid(s.mesh), 3 * (in_mm(piece.length()) + in_mm(piece.largest_radius())));
        CHECK(ours == Approx(theirs).epsilon(1e-6));
    }
}

TEST_CASE("the outline from the side is exact, and lines of a cylinder are four") {
    const Shaded s = shaded(resolved("round 20 x 30"), 0.05);
    const Seen seen = see(s.mesh, s.shading, {.chord = 0.05});
    REQUIRE(seen.lines.size() == 1);
    CHECK(seen.lines[0].closed);
    CHECK(seen.lines[0].points.size() == 4);
    CHECK(std::abs(area(seen.lines)) == Approx(600).epsilon(1e-12));
    const auto strokes = strokes_of(seen.lines, LineKind::outline, 1e-6);
    REQUIRE(strokes.size() == 1);
    CHECK_FALSE(strokes[0].smooth);
}

TEST_CASE("circles are circles again from the end") {
    const Shaded s = shaded(resolved("round 20 x 30"), 0.01);
    for (const Gaze& gaze : {from_end({}, true), from_end({}, false)}) {
        const Seen seen = see(s.mesh, s.shading, {.gaze = gaze, .chord = 0.01});
        const auto strokes = strokes_of(seen.lines, LineKind::outline, 1e-5);
        REQUIRE(strokes.size() == 1);
        CHECK(strokes[0].is_arc());
        CHECK(strokes[0].radius == Approx(10).epsilon(1e-9));
        CHECK(strokes[0].to - strokes[0].from == Approx(full_turn));
    }
}

namespace {

// What a ray from the viewer meets first.
struct Met {
    bool any = false;
    double depth = -1e9;
    solid::Point normal;
};
class Rays {
public:
    Rays(const Shaded& s, const Gaze& gaze) : s_(s), gaze_(gaze) {
        for (const auto& t : s.mesh.triangles) {
            Box b;
            for (const auto id : t)
                b.hold(gaze.at(s.mesh.points[id]));
            boxes_.push_back(b);
        }
    }
    Met at(At p) const {
        Met out;
        for (std::size_t i = 0; i < boxes_.size(); ++i) {
            const Box& box = boxes_[i];
            if (p.x < box.left || p.x > box.right || p.y < box.bottom || p.y > box.top) continue;
            const auto& t = s_.mesh.triangles[i];
            const At a = gaze_.at(s_.mesh.points[t[0]]), b = gaze_.at(s_.mesh.points[t[1]]),
                     c = gaze_.at(s_.mesh.points[t[2]]);
            const double whole = (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
            if (std::abs(whole) < 1e-12) continue;
            const double u = ((p.x - a.x) * (c.y - a.y) - (p.y - a.y) * (c.x - a.x)) / whole,
                         v = ((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)) / whole;
            if (u < 0 || v < 0 || u + v > 1) continue;
            const auto depth = [&](std::size_t k) { return gaze_.depth(s_.mesh.points[t[k]]); };
            const double there = depth(0) * (1 - u - v) + depth(1) * u + depth(2) * v;
            if (out.any && there <= out.depth) continue;
            out = {true, there, s_.shading.normals[i][0]};
        }
        return out;
    }

private:
    const Shaded& s_;
    const Gaze& gaze_;
    std::vector<Box> boxes_;
};

bool differ(const Met& a, const Met& b) {
    if (a.any != b.any) return true;
    if (!a.any) return false;
    const double cosine = a.normal.x * b.normal.x + a.normal.y * b.normal.y + a.normal.z * b.normal.z;
    return std::abs(a.depth - b.depth) > 0.15 || cosine < 0.999;
}

double distance_to(const std::vector<Run>& runs, At p) {
    double least = 1e9;
    for (const Run& r : runs)
        for (std::size_t i = 0; i + 1 < r.points.size() + (r.closed ? 1 : 0); ++i) {
            const At a = r.points[i], b = r.points[(i + 1) % r.points.size()], v = b - a, w = p - a;
            const double t =
                std::clamp((w.x * v.x + w.y * v.y) / std::max(1e-18, v.x * v.x + v.y * v.y), 0.0, 1.0);
            least = std::min(least, std::hypot(w.x - t * v.x, w.y - t * v.y));
        }
    return least;
}

} // namespace

TEST_CASE("seen lines are where rays on their two sides meet different surfaces, and nowhere else") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> part(0.2, 0.8);
    for (const char* text : {"ISO 4014 M10 x 40", "M12x1.75-6g x 10", "ISO 4762 M6 x 25", "nut M12",
                             "spring d2 D20 L40 n5", "gear m2 z17 b12", "knurl crossed pitch 1.6 on 20 x 12",
                             "rack m2 z8 b10 h12", "groove rect 4 x 2 pitch 20 on 40 x 50",
                             "cam r20: rise 10 in 120, dwell 60, return in 120, dwell 60; roller 8; b10"}) {
        INFO(text);
        const Shaded s = shaded(resolved(text), 0.01);
        const Gaze gaze;
        const Seen seen = see(s.mesh, s.shading, {.gaze = gaze, .chord = 0.01});
        const Rays rays(s, gaze);
        REQUIRE_FALSE(seen.lines.empty());
        // every seen line parts two surfaces
        int wrong = 0, asked = 0;
        for (int i = 0; i < 4000 && asked < 400; ++i) {
            const Run& r = seen.lines[random() % seen.lines.size()];
            const std::size_t k = random() % (r.points.size() - 1);
            const At a = r.points[k], b = r.points[k + 1], v = b - a;
            const double length = std::hypot(v.x, v.y);
            if (length < 0.05) continue;
            const At p = a + part(random) * v, across{-v.y / length, v.x / length};
            ++asked;
            bool parts = false;
            for (const double off : {0.03, 0.08})
                parts = parts || differ(rays.at(p + off * across), rays.at(p - off * across));
            wrong += !parts;
        }
        CHECK(wrong <= asked / 100);
        CHECK(asked > 30);
        // where the nearest surface jumps there is a line
        int missing = 0, jumps = 0;
        std::uniform_real_distribution<double> x(seen.box.left - 0.5, seen.box.right + 0.5),
            y(seen.box.bottom - 0.5, seen.box.top + 0.5);
        for (int i = 0; i < 1000; ++i) {
            const At p{x(random), y(random)}, q = p + At{0.05, 0.03};
            const Met a = rays.at(p), b = rays.at(q);
            if (a.any == b.any && (!a.any || std::abs(a.depth - b.depth) < 1)) continue;
            ++jumps;
            missing += distance_to(seen.lines, 0.5 * (p + q)) > 0.08;
        }
        CHECK(missing == 0);
    }
}

TEST_CASE("a smaller cylinder behind a larger one is hidden, before it seen") {
    // seen from the near end: the thin one behind the thick one, then the other way
    Piece p = piece_of("round 30 x 10");
    Zone thin = piece_of("round 12 x 10").zones[0];
    p.zones.push_back(thin);
    const Shaded s = shaded(resolve_piece(p, {}), 0.01);
    const Seen behind = see(s.mesh, s.shading, {.gaze = from_end({}, true), .hidden = true, .chord = 0.01});
    CHECK(strokes_of(behind.lines, LineKind::outline, 1e-5).size() == 1);
    const auto hidden = strokes_of(behind.hidden, LineKind::hidden, 1e-5);
    REQUIRE(hidden.size() == 1);
    CHECK(hidden[0].radius == Approx(6).epsilon(1e-6));
    const Seen before = see(s.mesh, s.shading, {.gaze = from_end({}, false), .hidden = true, .chord = 0.01});
    CHECK(strokes_of(before.lines, LineKind::outline, 1e-5).size() == 2);
    CHECK(before.hidden.empty());
}

// --- runs and hatching ---

TEST_CASE("bits are united, joined and freed of what lies on each other") {
    const auto runs =
        chained({{{0, 0}, {1, 0}}, {{0.5, 0}, {2, 0}}, {{2, 0}, {2, 1}}, {{2, 1}, {2, 0.2}}}, 1e-6);
    REQUIRE(runs.size() == 1);
    CHECK(runs[0].points.size() == 3);
    const auto left = without({{{{0, 0}, {10, 0}}, false}}, {{{{3, 0}, {4, 0}}, false}}, 1e-6);
    REQUIRE(left.size() == 2);
    double length = 0;
    for (const Run& r : left)
        length += std::hypot(r.points[1].x - r.points[0].x, r.points[1].y - r.points[0].y);
    CHECK(length == Approx(9).epsilon(1e-5));
}

TEST_CASE("hatching covers its area, spares texts and holes") {
    const std::vector<Run> area{{{{0, 0}, {20, 0}, {20, 10}, {0, 10}}, true},
                                {{{5, 3}, {5, 7}, {9, 7}, {9, 3}}, true}};
    const double spacing = 0.5;
    double length = 0;
    for (const Stroke& s : hatching(area, spacing, pi / 4, {{12, 2, 16, 6}})) {
        length += std::hypot(s.points[1].x - s.points[0].x, s.points[1].y - s.points[0].y);
        for (const double t : {0.01, 0.5, 0.99}) {
            const At p = s.points[0] + t * (s.points[1] - s.points[0]);
            CHECK(inside(area, p));
            CHECK_FALSE((p.x > 12.01 && p.x < 15.99 && p.y > 2.01 && p.y < 5.99));
        }
    }
    CHECK(length * spacing == Approx(200 - 16 - 16).epsilon(0.03));
}

TEST_CASE("letters are as wide as the typeface has them, wherever the system has it") {
    // Inter's figures are of one width in a drawing
    CHECK(text_width("1", 3.5) == Approx(text_width("8", 3.5)));
    CHECK(text_width("1234", 3.5) == Approx(4 * text_width("0", 3.5)).epsilon(1e-3));
    CHECK(text_width("12", 7) == Approx(2 * text_width("12", 3.5)));
    CHECK(text_width("0", 3.5) ==
          Approx(3.5 / capital_height * 0.63).epsilon(0.03)); // its advance, 0.63 of the size
}

// --- what a sheet says ---

TEST_CASE("every piece of the catalogue has a sheet with nothing on anything") {
    int drawn = 0;
    for (const CatalogueFamily& family : catalogue())
        for (const std::size_t at : {std::size_t{0}, family.lines.size() / 2}) {
            const std::string& text = family.lines[at].text;
            INFO(text);
            const DrawnSheet s = sheet_of(piece_of(text));
            CHECK(crowded(s) == "");
            CHECK(struck(s) == "");
            CHECK(s.left_out.empty());
            ++drawn;
        }
    CHECK(drawn > 60);
}

TEST_CASE("every dimension of a piece is on its sheet, each once") {
    Piece p = piece_of("round 30 x 12");
    p.zones.push_back(piece_of("round 20 x 25").zones[0]);
    p.zones.push_back(piece_of("M16x2-6g x 30").zones[0]);
    p.zones[0].near_end.kind = EndKind::chamfer;
    p.zones[0].near_end.distance = {"1.5", {}};
    p.zones[1].far_end = {};
    const DrawnSheet s = sheet_of(p);
    std::map<std::string, int> count;
    for (const Text& t : s.paper.texts)
        if (t.link) ++count[t.words];
    for (const char* words : {"Ø30", "Ø20", "M16×2-6g", "12", "25", "30", "(67)", "1.5 × 45°"})
        CHECK(count[words] == 1);
    // they are the piece's own fields
    for (const Text& t : s.paper.texts)
        if (t.words == "Ø20") {
            CHECK(t.link->zone == 1u);
            CHECK(t.link->field == field::diameter);
        }
}

TEST_CASE("webs, keyways, cross holes and bends are said") {
    const auto says = [](const Piece& p, const std::string& words) {
        const auto on = words_on(sheet_of(p).paper);
        return std::any_of(on.begin(), on.end(),
                           [&](const std::string& w) { return w.find(words) != std::string::npos; });
    };
    const Piece wheel = piece_of("gear m2 z60 b20 bore 16 key web");
    CHECK(says(wheel, "web "));
    CHECK(says(wheel, "keyway 5 × t2 2.3"));
    CHECK(says(wheel, "Ø124"));
    Job job;
    job.pieces.push_back(piece_of("round 16 x 40"));
    for (const auto& [key, text] : {std::pair{"cross_hole", "5"}, std::pair{"cross_hole_at", "8"}})
        job = apply(job, {0, 0, Field{key}, text, LengthUnit::millimetre});
    CHECK(says(job.pieces[0], "Ø5 through"));
    CHECK(says(job.pieces[0], "8"));
    const Piece elbow = piece_of("elbow G3/8 90");
    CHECK(says(elbow, "90°"));
    CHECK(says(elbow, "R"));
    CHECK(says(elbow, "G3/8"));
}

TEST_CASE("a turned piece is rebuilt from its sheet's dimensions alone") {
    for (unsigned seed = 0; seed < 500; ++seed) {
        test::RandomChoices choices(seed);
        Piece piece;
        const int zones = choices.whole(1, 5);
        for (int i = 0; i < zones; ++i) {
            Zone z = piece_of("round " + std::to_string(choices.whole(4, 40)) + " x " +
                              std::to_string(choices.whole(2, 40)))
                         .zones[0];
            if (choices.whole(0, 4) == 0)
                std::get<PlainForm>(z.form).far_diameter = {std::to_string(choices.whole(4, 40)), {}};
            piece.zones.push_back(z);
        }
        piece.name = "turned";
        INFO(seed);
        const DrawnSheet s = sheet_of(piece);
        CHECK(crowded(s) == "");
        CHECK(struck(s) == "");
        const ResolvedPiece r = resolve_piece(piece, {});
        // lengths along the axis, and diameters where they hold
        std::map<std::pair<long, long>, int> lengths;
        std::map<std::string, std::vector<const Dimension*>> across;
        const std::set<std::string> words = words_on(s.paper);
        for (const Dimension& d : s.dimensions) {
            CHECK(words.contains(d.words));
            if (d.measure == Measure::along && !d.reference)
                ++lengths[{std::lround(d.from * 1e6), std::lround(d.to * 1e6)}];
        }
        for (const ResolvedZone& z : r.zones) {
            CHECK(lengths[{std::lround(in_mm(z.start) * 1e6), std::lround(in_mm(z.end()) * 1e6)}] == 1);
            int near = 0, far = 0;
            for (const Dimension& d : s.dimensions) {
                if (d.measure != Measure::across || d.from > in_mm(z.end()) + 1e-6 ||
                    d.to < in_mm(z.start) - 1e-6)
                    continue;
                if (!d.conical && d.from <= in_mm(z.start) + 1e-6 && d.to >= in_mm(z.end()) - 1e-6) {
                    near += std::abs(d.value - in_mm(z.diameter)) < 1e-9;
                    far += std::abs(d.value - in_mm(z.far_diameter)) < 1e-9;
                } else if (d.conical && *d.link.zone < r.zones.size() && &r.zones[*d.link.zone] == &z) {
                    near += std::abs(d.from - in_mm(z.start)) < 1e-6 &&
                            std::abs(d.value - in_mm(z.diameter)) < 1e-9;
                    far += std::abs(d.from - in_mm(z.end())) < 1e-6 &&
                           std::abs(d.value - in_mm(z.far_diameter)) < 1e-9;
                }
            }
            CHECK(near == 1);
            CHECK(far == 1);
        }
    }
}

TEST_CASE("random pieces have sheets with nothing on anything") {
    int drawn = 0;
    for (unsigned seed = 0; seed < 500; ++seed) {
        test::RandomChoices choices(seed);
        Piece piece;
        try {
            piece = test::PlausiblePiece(choices).make();
            (void)resolve_piece(piece, {});
        } catch (const InputError&) {
            continue;
        }
        INFO(seed);
        const Preview preview = make_preview(piece, 0, {}, LengthUnit::millimetre);
        if (!preview.made()) continue;
        const DrawnSheet s = draw_sheet(preview, piece, 0, {});
        CHECK(crowded(s) == "");
        ++drawn;
    }
    CHECK(drawn > 80);
}

TEST_CASE("a piece that stops has a sheet that says why") {
    Piece p = piece_of("M12x1.75-6g x 40");
    std::get<ThreadForm>(p.zones[0].form).depth = {"9", {}};
    const DrawnSheet s = sheet_of(p);
    CHECK(words_on(s.paper).contains("Not made"));
    CHECK(s.left_out.size() == 1);
}

TEST_CASE("conventional threads are what ISO 6410-1 draws, true ones the real thing") {
    const Piece screw = piece_of("M12x1.75-6g x 40");
    const DrawnSheet usual = sheet_of(screw);
    int thin = 0;
    for (const Stroke& s : usual.paper.strokes)
        if (s.kind == LineKind::thin && s.points.size() == 2 && s.points[0].y == s.points[1].y &&
            std::abs(s.points[0].x - s.points[1].x) > 40 * 1.4 &&
            std::abs(s.points[0].x - s.points[1].x) < 40 * 2.01)
            ++thin;
    CHECK(thin == 3); // both roots and the dimension line of the length
    const DrawnSheet real = sheet_of(screw, {.true_form = true});
    CHECK(real.paper.strokes.size() > usual.paper.strokes.size() + 20);
}

TEST_CASE("a thread off the list is drawn enlarged, one of a series is not") {
    CHECK(words_on(sheet_of(piece_of("M12x1.75-6g x 40")).paper).count("Z (10 : 1)") == 0);
    const DrawnSheet s = sheet_of(piece_of("13/32-18 UNS-2A x 1"));
    bool detail = false;
    for (const std::string& w : words_on(s.paper))
        detail = detail || w.starts_with("Z (");
    CHECK(detail);
    CHECK(words_on(s.paper).contains("60°"));
    CHECK(words_on(s.paper).contains("Z"));
}

TEST_CASE("sections and details are drawn where they are asked for") {
    Job job;
    job.pieces.push_back(piece_of("round 30 x 12"));
    job.pieces[0].zones.push_back(piece_of("M12x1.75-6g x 30").zones[0]);
    const auto hatched = [](const DrawnSheet& s) { // mm² of the piece
        double length = 0;
        for (const Stroke& l : s.paper.strokes)
            if (l.kind == LineKind::hatching)
                length += std::hypot(l.points[1].x - l.points[0].x, l.points[1].y - l.points[0].y);
        return length / s.scale;
    };
    CHECK(hatched(sheet_of(job.pieces[0])) == 0); // a solid shaft isn't cut unasked
    const auto half = hatched(sheet_of(with_drawing(job, 0, "section", "half").pieces[0])),
               whole = hatched(sheet_of(with_drawing(job, 0, "section", "whole").pieces[0]));
    CHECK(half > 50);
    CHECK(whole > 1.1 * half); // twice the area, its lines farther apart
    CHECK(words_on(sheet_of(with_drawing(job, 0, "details", "all").pieces[0]).paper).contains("60°"));
    CHECK_FALSE(words_on(sheet_of(job.pieces[0]).paper).contains("60°"));
    CHECK_THROWS_WITH(with_drawing(job, 0, "section", "quarter"),
                      Catch::Contains("as needed, none, half, whole"));
    const Job both = with_drawing(with_drawing(job, 0, "section", "half"), 0, "details", "all");
    CHECK(job_from_json(job_to_json(both)).pieces[0].drawing == both.pieces[0].drawing);
}

TEST_CASE("the scale and sheet asked for are taken, or the next that will do is said") {
    const Piece p = piece_of("round 20 x 30");
    SheetSettings asked;
    asked.size = sheet_size("A3");
    asked.scale = 5.0;
    const DrawnSheet s = sheet_of(p, asked);
    CHECK(std::string(s.size.name) == "A3");
    CHECK(s.scale == 5);
    CHECK(s.left_out.empty());
    asked.size = sheet_size("A4");
    asked.scale = 10.0;
    const DrawnSheet larger = sheet_of(p, asked);
    CHECK(std::string(larger.size.name) == "A3");
    REQUIRE(larger.left_out.size() == 1);
    CHECK_THAT(larger.left_out[0], Catch::Contains("doesn't go on A4"));
    CHECK_THROWS_WITH(sheet_size("B5"), Catch::Contains("A4, A3, A2, A1"));
    CHECK(scale_of("1:2") == 0.5);
    CHECK_THROWS_WITH(scale_of("3:1"), Catch::Contains("ISO 5455"));
}

TEST_CASE("views change sides with the projection") {
    const Piece hex = piece_of("ISO 4014 M10 x 40");
    const auto middle_of_circle = [](const DrawnSheet& s) {
        double x = 0;
        for (const Stroke& st : s.paper.strokes)
            if (st.is_arc() && st.to - st.from > 6 && st.kind == LineKind::outline) x = st.centre.x;
        return x;
    };
    const double first = middle_of_circle(sheet_of(hex));
    const double third = middle_of_circle(sheet_of(hex, {.projection = Projection::third_angle}));
    CHECK(first > 0);
    CHECK(third > 0);
    CHECK(first > third); // seen from the left: right in first angle, left in third
}

namespace {

std::string printed_by(const std::string& command) {
    std::string out;
    FILE* pipe = popen(command.c_str(), "r");
    REQUIRE(pipe);
    char buffer[4096];
    while (const std::size_t n = fread(buffer, 1, sizeof buffer, pipe))
        out.append(buffer, n);
    CHECK(pclose(pipe) == 0);
    return out;
}

std::filesystem::path temporary(const char* name) {
    const auto folder =
        std::filesystem::temp_directory_path() / ("whorl-drawing-" + std::to_string(::getpid()));
    std::filesystem::create_directories(folder);
    return folder / name;
}

} // namespace

// --- what is done by hand ---

TEST_CASE("dimensions are moved, taken off and brought back, and stay with their zone") {
    Job job;
    Piece p = piece_of("round 30 x 12");
    p.zones.push_back(piece_of("round 20 x 25").zones[0]);
    job.pieces.push_back(p);
    const Link length{0, 1, "length", field::length};
    const auto at = [&](const Job& j, const char* words) {
        const DrawnSheet s =
            draw_sheet(make_preview(j.pieces[0], 0, {}, j.unit), j.pieces[0], 0, settings_of(j, 0));
        for (const Text& t : s.paper.texts)
            if (t.link && t.words == words) return std::optional<At>(t.at);
        return std::optional<At>();
    };
    const auto before = at(job, "25");
    REQUIRE(before);
    const Job moved = with_moved(job, 0, length, {3, -6});
    REQUIRE(at(moved, "25"));
    // as a whole the views stay in the middle: against another dimension
    const At other0 = *at(job, "12"), other1 = *at(moved, "12");
    CHECK((*at(moved, "25")).x - (*before).x - (other1.x - other0.x) == Approx(3));
    CHECK((*at(moved, "25")).y - (*before).y - (other1.y - other0.y) == Approx(-6));
    const Job off = with_left_out(moved, 0, length);
    CHECK_FALSE(at(off, "25"));
    CHECK(at(with_all_back(off, 0), "25"));
    // in the file, and after a zone came before it
    const Job read = job_from_json(job_to_json(off));
    CHECK(read.pieces[0].drawing == off.pieces[0].drawing);
    const Job later = insert_zone(read, 0, 0, piece_of("round 10 x 5").zones[0]);
    REQUIRE(later.pieces[0].drawing.items.size() == 1);
    CHECK(later.pieces[0].drawing.items[0].zone == 2u);
    CHECK(remove_zone(later, 0, 2).pieces[0].drawing.items.empty());
}

TEST_CASE("tolerances are understood as they are typed, and said behind the figure") {
    for (const auto& [typed, said] :
         {std::pair{"h7", "h7"}, std::pair{" H8 ", "H8"}, std::pair{"js01", "js01"},
          std::pair{"+-0.05", "±0.05"}, std::pair{"± 0,05", "±0.05"}, std::pair{"+0.1/-0.2", "+0.1/−0.2"},
          std::pair{"-0.2 +0.1", "+0.1/−0.2"}, std::pair{"0 −0.03", "0/−0.03"}, std::pair{"", ""}})
        CHECK(limits_of(typed) == said);
    for (const char* typed : {"h", "h19", "hhh7", "0.05", "±0", "±x", "+0.1/+0.1", "loose", "+0.1/-0.2/3"}) {
        INFO(typed);
        CHECK_THROWS_WITH(limits_of(typed), Catch::Contains("h7 or H8"));
    }
    Job job;
    job.pieces.push_back(piece_of("round 30 x 12"));
    const Link diameter{0, 0, "diameter", field::diameter}, length{0, 0, "length", field::length};
    job = with_limits(job, 0, diameter, "h7");
    job = with_reference(job, 0, length, true);
    job = with_limits(job, 0, length, "+-0.1");
    const auto words = words_on(sheet_of(job.pieces[0]).paper);
    CHECK(words.contains("Ø30 h7"));
    CHECK(words.contains("(12 ±0.1)"));
    CHECK(job_from_json(job_to_json(job)).pieces[0].drawing == job.pieces[0].drawing);
    CHECK(words_on(sheet_of(with_limits(job, 0, diameter, "").pieces[0]).paper).contains("Ø30"));
}

TEST_CASE("new jobs begin with the title block that was kept") {
    const auto file = temporary("own/title-block.json");
    CHECK(load_title_defaults(file) == JobDrawing{});
    JobDrawing mine;
    mine.title.owner = "Saltmarsh";
    mine.title.number = "7";
    mine.title.revision = "C";
    mine.title.date = "today";
    mine.title.tolerance = "ISO 2768-m";
    mine.third_angle = true;
    keep_title_defaults(mine, file);
    const JobDrawing kept = load_title_defaults(file);
    CHECK(kept.title.owner == "Saltmarsh");
    CHECK(kept.title.tolerance == "ISO 2768-m");
    CHECK(kept.title.number.empty());
    CHECK(kept.title.date.empty());
    CHECK(kept.third_angle);
    write_file_atomically(file, "{ damaged");
    CHECK(load_title_defaults(file) == JobDrawing{});
    CHECK_THROWS_AS(keep_title_defaults(mine, "/proc/nowhere/title-block.json"), FileError);
}

TEST_CASE("a title block's fields are the job's and the piece's, and are kept") {
    Job job;
    job.pieces.push_back(piece_of("round 30 x 12"));
    job = with_drawing(job, 0, "owner", " Saltmarsh Instruments ");
    job = with_drawing(job, 0, "number", "SM-17");
    job = with_drawing(job, 0, "revision", "B");
    job = with_drawing(job, 0, "projection", "third angle");
    job = with_drawing(job, 0, "sheet", "A3");
    job = with_drawing(job, 0, "scale", "2:1");
    job = with_drawing(job, 0, "form", "true");
    job = with_note(job, 0, {.words = "deburr", .tip_x = 3, .tip_y = 15, .x = 10, .y = 12});
    const Job read = job_from_json(job_to_json(job));
    CHECK(read.drawing == job.drawing);
    CHECK(read.pieces[0].drawing == job.pieces[0].drawing);
    const SheetSettings s = settings_of(read, 0);
    CHECK(s.title.owner == "Saltmarsh Instruments");
    CHECK(s.title.number == "SM-17");
    CHECK(s.projection == Projection::third_angle);
    CHECK(s.scale == 2.0);
    CHECK(s.true_form);
    const DrawnSheet drawn = draw_sheet(make_preview(read.pieces[0], 0, {}, read.unit), read.pieces[0], 0, s);
    for (const char* words : {"Saltmarsh Instruments", "SM-17", "B", "deburr", "2 : 1", "A3"})
        CHECK(words_on(drawn.paper).contains(words));
    CHECK_THROWS_WITH(with_drawing(job, 0, "projection", "second"),
                      Catch::Contains("first angle, third angle"));
    CHECK_THROWS_WITH(with_drawing(job, 0, "sheet", "A9"), Catch::Contains("A4"));
    CHECK_THROWS_WITH(with_drawing(job, 0, "owner", std::string(300, 'x')), Catch::Contains("200"));
    CHECK(with_note_words(job, 0, 0, "").pieces[0].drawing.notes.empty());
    for (const DrawingField& f : drawing_fields()) // what it says now can be typed back
        CHECK(with_drawing(job, 0, f.key, f.get(job, 0)).pieces[0].drawing.scale ==
              job.pieces[0].drawing.scale);
}

TEST_CASE("a job is drawn with its parts list first, and can be stopped") {
    Job job;
    job.name = "Tide gauge";
    job.pieces.push_back(piece_of("round 30 x 12"));
    job.pieces.push_back(piece_of("M12x1.75-6g x 40"));
    const JobDrawings all = draw_job(job, [](std::size_t) { return true; });
    CHECK(all.pages.size() == 3);
    CHECK_FALSE(all.stopped);
    CHECK(words_on(all.pages[0]).contains("Tide gauge, parts list"));
    CHECK(words_on(all.pages[0]).contains("M12x1.75-6g x 40"));
    const JobDrawings none = draw_job(job, [](std::size_t done) { return done == 0; });
    CHECK(none.pages.empty());
}

// --- files ---

TEST_CASE("another reader finds every dimension and the title in the PDF") {
    const Piece p = piece_of("ISO 4762 M6 x 25");
    const DrawnSheet s = sheet_of(p);
    const auto path = temporary("cap.pdf");
    write_sheet(s.paper, path);
    const std::string text = printed_by("pdftotext -raw '" + path.string() + "' -");
    for (const Dimension& d : s.dimensions) {
        INFO(d.words);
        CHECK(text.find(d.words) != std::string::npos);
    }
    CHECK(text.find(p.name) != std::string::npos);
    const std::string fonts = printed_by("pdffonts '" + path.string() + "'");
    CHECK_THAT(fonts, Catch::Contains("Inter"));
    CHECK_THAT(fonts, Catch::Contains("yes yes yes")); // embedded, a subset, with its letters' meaning
}

TEST_CASE("another reader's audit of the DXF is clean") {
    for (const char* text : {"ISO 4762 M6 x 25", "13/32-18 UNS-2A x 1", "spring d2 D20 L40 n5"}) {
        const DrawnSheet s = sheet_of(piece_of(text));
        const auto path = temporary("sheet.dxf");
        write_sheet(s.paper, path);
        const std::string said = printed_by(
            "/usr/bin/python3 -c \"import ezdxf,sys; d=ezdxf.readfile('" + path.string() +
            "'); a=d.audit(); print('errors', len(a.errors), 'fixes', len(a.fixes)); print('texts', "
            "len(d.modelspace().query('TEXT'))); print(chr(10).join(t.dxf.text for t in "
            "d.modelspace().query('TEXT')))\"");
        INFO(said);
        CHECK_THAT(said, Catch::StartsWith("errors 0 fixes 0"));
        for (const Dimension& d : s.dimensions) {
            INFO(d.words);
            CHECK(said.find(d.words) != std::string::npos);
        }
    }
}

TEST_CASE("another renderer draws the SVG as it is") {
    const DrawnSheet s = sheet_of(piece_of("ISO 4762 M6 x 25"));
    const auto svg = temporary("sheet.svg"), png = temporary("sheet.png"), theirs = temporary("theirs.png");
    write_sheet(s.paper, svg);
    write_file_atomically(png, png_of(s.paper, 4));
    (void)printed_by("rsvg-convert --background-color=white -w " +
                     std::to_string(static_cast<int>(s.paper.width * 4)) + " -o '" + theirs.string() + "' '" +
                     svg.string() + "'");
    // both read by the same reader, letter for letter and line for line
    cairo_surface_t* a = cairo_image_surface_create_from_png(png.c_str());
    cairo_surface_t* b = cairo_image_surface_create_from_png(theirs.c_str());
    REQUIRE(cairo_image_surface_get_width(a) == cairo_image_surface_get_width(b));
    const int width = cairo_image_surface_get_width(a),
              height = std::min(cairo_image_surface_get_height(a), cairo_image_surface_get_height(b));
    const auto dark = [](cairo_surface_t* of, int x, int y) {
        return cairo_image_surface_get_data(of)[y * cairo_image_surface_get_stride(of) + 4 * x] < 110;
    };
    int inked = 0, astray = 0; // ink of one with none of the other within a pixel
    for (int y = 1; y + 1 < height; ++y)
        for (int x = 1; x + 1 < width; ++x)
            for (const auto& [one, other] : {std::pair{a, b}, std::pair{b, a}}) {
                if (!dark(one, x, y)) continue;
                ++inked;
                bool near = false;
                for (int dy = -1; dy <= 1; ++dy)
                    for (int dx = -1; dx <= 1; ++dx)
                        near = near || dark(other, x + dx, y + dy);
                astray += !near;
            }
    cairo_surface_destroy(a);
    cairo_surface_destroy(b);
    CHECK(inked > 10000);
    CHECK(astray <= inked / 200); // strokes so thin that one rounds them to light grey
    CHECK(read_file(png, 10'000'000).starts_with("\x89PNG"));
    CHECK_THROWS_WITH(write_sheet(s.paper, temporary("sheet.xyz")),
                      Catch::Contains(".pdf, .svg, .dxf or .png"));
}

TEST_CASE("smooth curves keep to a circle through their points") {
    std::vector<At> p;
    for (int i = 0; i <= 12; ++i)
        p.push_back({10 * std::cos(i * 0.11), 10 * std::sin(i * 0.11)});
    const std::vector<At> c = curve_through(p);
    REQUIRE(c.size() == 3 * 12 + 1);
    for (std::size_t i = 3; i + 6 < c.size(); i += 3) // the inner pieces
        for (const double t : {0.25, 0.5, 0.75}) {
            const double u = 1 - t;
            const At q =
                u * u * u * c[i] + 3 * u * u * t * c[i + 1] + 3 * u * t * t * c[i + 2] + t * t * t * c[i + 3];
            CHECK(std::hypot(q.x, q.y) == Approx(10).epsilon(1e-5));
        }
}

TEST_CASE("room is what neither texts nor lines take") {
    Room room;
    room.take({10, 10, 20, 14});
    room.take_line({0, 0}, {30, 0});
    room.take_line({40, 0}, {60, 20});
    CHECK_FALSE(room.free(Box{15, 12, 25, 16}));
    CHECK(room.free(Box{21, 10, 25, 14}));
    CHECK_FALSE(room.free(Box{5, -1, 8, 1}));   // on the level line
    CHECK(room.free(Box{5, 1, 8, 3}));          // over it
    CHECK(room.free(Box{31, -1, 35, 1}));       // beyond its end
    CHECK_FALSE(room.free(Box{49, 9, 51, 11})); // on the slanted one
    CHECK(room.free(Box{41, 10, 45, 14}));
    CHECK(room.free(At{0, 20}, At{30, 20}));
    CHECK_FALSE(room.free(At{15, 0}, At{15, 30}));
    CHECK(room.free(At{5, 12}, At{9, 12})); // ends before the text
    room.take_leader({0, 30}, {10, 40});
    CHECK_FALSE(room.uncrossed({0, 40}, {10, 30}));
    CHECK(room.uncrossed({20, 30}, {30, 40}));
}

TEST_CASE("figures have the places of their unit") {
    CHECK(figure(25.4 / 18, LengthUnit::inch) == "0.0556");
    CHECK(figure(25.4 / 18, LengthUnit::millimetre) == "1.411");
    CHECK(figure(30, LengthUnit::millimetre) == "30");
    CHECK(degrees(pi / 6) == "30°");
}

TEST_CASE("conventional lines stand where the standards have them") {
    const auto marks_of = [](const ResolvedPiece& p, std::size_t zone, bool section) {
        std::vector<Mark> out;
        drawing_of(p.zones[zone]).side({p, p.zones[zone], 0, zone, LengthUnit::millimetre, 1, section}, out);
        return out;
    };
    // ISO 2203: of a ring in section its pitch line and root; outside nothing of it
    const ResolvedPiece ring = resolved("internal gear m2 z40 b10");
    const std::size_t teeth = ring.zones[0].gear() ? 0 : 1;
    CHECK(marks_of(ring, teeth, false).empty());
    const auto cut = marks_of(ring, teeth, true);
    REQUIRE(cut.size() == 4);
    CHECK(std::abs(cut[0].stroke.points[0].y) == Approx(40));
    CHECK(std::abs(cut[2].stroke.points[0].y) == Approx(ring.zones[teeth].gear()->root_radius));
    // ISO 6410-1: the root of M12 thin, from chamfer to chamfer
    const ResolvedPiece screw = resolved("M12x1.75-6g x 40");
    const auto roots = marks_of(screw, 0, false);
    REQUIRE(roots.size() == 2);
    CHECK(roots[0].stroke.kind == LineKind::thin);
    CHECK(roots[0].stroke.points[0].y == Approx(screw.zones[0].thread()->section.root_radius));
    CHECK(roots[0].stroke.points[1].x < 40);
}

TEST_CASE("notes of ends point at what they name") {
    Job job;
    job.pieces.push_back(piece_of("round 10 x 30"));
    job = apply(job, {0, 0, field::far_end, "point 45", LengthUnit::millimetre});
    const auto all = dimensions_of(resolve_piece(job.pieces[0], {}), 0, LengthUnit::millimetre, false);
    const auto note = std::ranges::find_if(all, [](const Dimension& d) { return d.link.key == "far_end"; });
    REQUIRE(note != all.end());
    CHECK(note->words == "point 90°");
    CHECK(note->radius == Approx(2.5).margin(0.05)); // half up the cone
    const double slope = std::tan(in_rad(resolve_piece(job.pieces[0], {}).zones[0].far_end.angle));
    CHECK((30 - note->from) * slope == Approx(2.5).margin(0.05));
}

TEST_CASE("a detail has its profile the right way round, and its table its width") {
    // a buttress thread leans: its steep flank looks the other way in a mirror
    const ResolvedPiece p = resolved("S40x7 x 60");
    const ThreadSection& s = *p.zones[0].swept();
    REQUIRE(s.flank_half_angle != s.other_half_angle);
    Draft draft = make_draft(p, 0, {});
    const PlacedView view = place_detail(draft, 0, 2, "Z");
    double wrong = 0, asked = 0;
    for (const Stroke& line : view.paper.strokes)
        if (line.kind == LineKind::outline)
            for (const At& q : points_of(line, 0.1)) {
                const double z = q.x / 2 - s.pitch * std::round(q.x / 2 / s.pitch);
                ++asked;
                wrong += std::abs(groove_radius(s, z) - s.crest_radius - q.y / 2) > 0.05;
            }
    CHECK(asked > 5);
    CHECK(wrong <= 2); // where it is cut off
    const Paper narrow = table({"A title that is wider than all of its rows are", {{"a", "1"}}}, 95);
    CHECK(narrow.bounds().width() > text_width("A title that is wider than all of its rows are", 2.5));
    for (const Text& t : narrow.texts)
        CHECK(narrow.bounds().holds(bounds(t)));
    for (const Stroke& line : narrow.strokes)
        CHECK(narrow.bounds().holds(bounds(line)));
}
