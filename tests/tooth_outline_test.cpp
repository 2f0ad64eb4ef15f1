// Gear outlines as files, read back by other readers than the writer's own code.
#include "exchange/export.hpp"
#include "exchange/gear_compare.hpp"
#include "exchange/rack_compare.hpp"
#include "exchange/section_import.hpp"
#include "exchange/tooth_outline.hpp"
#include "form/tooth/gear_designation.hpp"
#include "model/starter.hpp"
#include "off_outline.hpp"
#include "solid/bar/bar_body.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <functional>
#include <numbers>
#include <unistd.h>

using namespace whorl;

namespace {

ResolvedGear gear(const char* text) {
    return resolve_gear(parse_gear(text).spec);
}
ResolvedRack rack(const char* text) {
    return resolve_rack(parse_rack_bar(text).spec);
}

} // namespace

TEST_CASE("outlines of arcs keep within their tolerance and are few") {
    for (const char* text :
         {"gear m2 z19", "gear m2 z7 x0.1", "gear m1 z131", "gear m3 z24 helix 25 LH", "internal gear m2 z60",
          "gear m2 z24 tip chamfer 0.2", "gear m2 z24 tip round 0.3"}) {
        const ResolvedGear g = gear(text);
        const auto points = tooth_outline(g, true);
        INFO(text << ": " << points.size() / static_cast<std::size_t>(g.spec.teeth) << " pieces a tooth");
        CHECK(points.size() < 44u * static_cast<std::size_t>(g.spec.teeth));
        for (std::size_t i = 0; i < points.size() / 3; i += 1) {
            const ArcPoint &a = points[i], &b = points[i + 1];
            const double dx = b.x - a.x, dy = b.y - a.y, chord = std::hypot(dx, dy);
            // places on the arc, from its sagitta
            for (const double part : {0.0, 0.3, 0.5, 0.8}) {
                double x = a.x + part * dx, y = a.y + part * dy;
                if (std::abs(a.bulge) > 1e-12) {
                    const double r = chord * (1 + a.bulge * a.bulge) / (4 * a.bulge),
                                 up = r - a.bulge * chord / 2;
                    const double cx = a.x + dx / 2 - dy / chord * up, cy = a.y + dy / 2 + dx / chord * up;
                    const double turn = 4 * std::atan(a.bulge) * part, c = std::cos(turn), s = std::sin(turn);
                    x = cx + (a.x - cx) * c - (a.y - cy) * s;
                    y = cy + (a.x - cx) * s + (a.y - cy) * c;
                }
                CHECK(test::off_outline(g, x, y) < 5.5e-4);
            }
        }
    }
}

TEST_CASE("the DXF of a tooth space is read back by dxflib, the SVG by its own reader") {
    const ResolvedGear g = gear("gear m2 z19");
    for (const auto& points : {outline_from_dxf(gear_dxf(g, false)), outline_from_svg(gear_svg(g, false))}) {
        REQUIRE(points.size() > 8);
        double low = 1e9, high = 0;
        for (const auto& p : points) {
            const double r = std::hypot(p.x, p.y);
            low = std::min(low, r);
            high = std::max(high, r);
            CHECK(test::off_outline(g, p.x, p.y) < 1e-3);
        }
        CHECK(low == Approx(g.root_radius).margin(1e-3));
        CHECK(high == Approx(g.tip_radius).margin(1e-3));
    }
    CHECK(gear_dxf(g, true).find("CIRCLE") != std::string::npos);
}

TEST_CASE("a rack's outline encloses its section, and is read back") {
    for (const char* text :
         {"rack m2 z12", "rack m2 z12 plain 8/0.5", "rack m2 l70.3", "rack m2 l72.1 plain 0/5",
          "rack m1.25 z7 tip round 0.2", "rack m2 z9 tip chamfer 0.3 profile C", "rack m2 z9 helix 25 LH",
          "rack m2 l71.2 helix 8 RH plain 4/0"}) {
        INFO(text);
        const ResolvedRack r = resolve_rack(parse_rack_bar(text).spec);
        const auto outline = rack_outline(r, true);
        // the shoelace formula, and the segment between each arc and its chord
        double twice = 0;
        for (std::size_t i = 0; i < outline.size(); ++i) {
            const ArcPoint &a = outline[i], &b = outline[(i + 1) % outline.size()];
            twice += a.x * b.y - a.y * b.x;
            const double chord = std::hypot(b.x - a.x, b.y - a.y), turn = 4 * std::atan(a.bulge);
            REQUIRE(chord > 1e-7);
            if (a.bulge == 0) continue;
            const double radius = chord / 2 / std::sin(turn / 2);
            twice += radius * radius * (turn - std::sin(turn));
        }
        // a straight rack's section is the same all over its face; a slanting one's on the middle of a thin
        // one
        RackSpec thin = r.spec;
        thin.width = mm(0.1);
        const double area = solid::rack_volume(resolve_rack(thin)) / 0.1;
        CHECK(twice / 2 == Approx(area).epsilon(in_rad(r.spec.helix_angle) == 0 ? 1e-9 : 2e-5));
        const auto space = rack_outline(r, false);
        CHECK(space.back().x - space.front().x == Approx(r.pitch()).epsilon(1e-9));
        for (const auto& points :
             {outline_from_dxf(rack_dxf(r, false)), outline_from_svg(rack_svg(r, false))}) {
            CHECK(points.size() >= space.size());
            double low = 1e9, high = 0;
            for (const auto& p : points) {
                low = std::min(low, p.y);
                high = std::max(high, p.y);
            }
            CHECK(high - low == Approx(r.tip_height - r.root_height).margin(1e-5));
        }
        CHECK(rack_dxf(r, true).find("POLYLINE") != std::string::npos);
    }
}

TEST_CASE("a gear laid over itself differs by nothing, over another by what they differ") {
    const auto folder =
        std::filesystem::temp_directory_path() / ("whorl-compare-" + std::to_string(::getpid()));
    std::filesystem::create_directories(folder);
    const auto file = [&](const char* name, const std::string& content) {
        write_file_atomically(folder / name, content);
        return folder / name;
    };
    for (const char* text : {"gear m2 z19", "gear m2 z11", "internal gear m2 z60"}) {
        const ResolvedGear g = gear(text);
        INFO(text);
        const GearComparison same = compare_file(g, file("same.dxf", gear_dxf(g, true)));
        CHECK(same.whole);
        CHECK(std::hypot(same.axis_x, same.axis_y) < 1e-6);
        CHECK(std::abs(same.worst.off) < 6e-4); // the arcs' tolerance
        const GearComparison space = compare_file(g, file("space.dxf", gear_dxf(g, false)));
        CHECK_FALSE(space.whole);
        CHECK(std::abs(space.worst.off) < 6e-4);
    }
    // thinner by 0.1 on the pitch circle: 0.05 a flank, square to it 0.05·cos 20°
    const GearComparison thin =
        compare_file(gear("gear m2 z19"), file("thin.dxf", gear_dxf(gear("gear m2 z19 thin 0.1"), true)));
    double sum = 0;
    int n = 0;
    for (const auto& d : thin.points)
        if (d.radius > 18 && d.radius < 20) sum += d.off, ++n;
    REQUIRE(n > 100);
    CHECK(sum / n == Approx(-0.05 * std::cos(std::numbers::pi / 9)).epsilon(0.02));
    // one tooth space turned by three degrees about the axis keeps its form, and the turn is found
    const ResolvedGear g = gear("gear m2 z19");
    std::vector<std::pair<OutlinePoint, OutlinePoint>> turned;
    const double a = std::numbers::pi / 60;
    const auto turn = [&](const OutlinePoint& p) {
        return OutlinePoint{p.x * std::cos(a) - p.y * std::sin(a), p.x * std::sin(a) + p.y * std::cos(a),
                            p.bow};
    };
    for (const auto& [p, q] : pieces_from_dxf(gear_dxf(g, true)))
        turned.push_back({turn(p), turn(q)});
    const GearComparison t = compare_outline(g, turned);
    CHECK(std::remainder(t.turned - a, g.pitch_angle()) == Approx(0).margin(1e-6));
    CHECK(std::abs(t.worst.off) < 6e-4);
    // nothing near the teeth, and no drawing at all
    CHECK_THROWS_AS(compare_file(gear("gear m2 z80"), folder / "same.dxf"), InputError);
    CHECK_THROWS_AS(compare_file(g, file("bad.stl", "nothing")), InputError);
    CHECK_THROWS_AS(compare_file(g, file("bad.dxf", "nothing")), InputError);
    CHECK_THROWS(compare_file(g, folder / "missing.step"));
    std::filesystem::remove_all(folder);
}

TEST_CASE("a gear's own solids are found to be that gear, from STL and from STEP") {
    const auto folder =
        std::filesystem::temp_directory_path() / ("whorl-compare-solid-" + std::to_string(::getpid()));
    std::filesystem::create_directories(folder);
    const Piece piece = piece_of("gear m1.25 z19 helix 15 LH b8");
    const Preview p = make_preview(piece, 0, {}, LengthUnit::millimetre, 0.002);
    const ResolvedGear& g = *p.piece.zones[0].gear();
    write_stl(p.mesh, "gear", folder / "gear.stl");
    const GearComparison stl = compare_file(g, folder / "gear.stl");
    CHECK(stl.whole);
    CHECK(std::abs(stl.worst.off) < 0.003);
    write_step(*make_verified_solid(p), piece, "gear", LengthUnit::millimetre, folder / "gear.step");
    const GearComparison step = compare_file(g, folder / "gear.step");
    CHECK(step.whole);
    CHECK(std::abs(step.worst.off) < 0.002);
    std::filesystem::remove_all(folder);
}

TEST_CASE("a rack laid over itself differs by nothing, over another by what they differ, however it lies") {
    for (const char* text : {"rack m2 z12 b20 h20", "rack m1 z30 b8 h8 plain 12/8", "rack m2 z5 b20 h30",
                             "rack m2 l80 b10 h12 helix 15 LH", "rack m2 z12 b20 h20 tip round 0.4",
                             "rack m3 z8 b20 h20 tip chamfer 0.3 profile C"}) {
        INFO(text);
        const ResolvedRack r = rack(text);
        const auto pieces = pieces_from_dxf(rack_dxf(r, true));
        for (const double angle : {0.0, 37.0, 180.0, -93.0}) {
            INFO("turned by " << angle);
            const double co = std::cos(in_rad(deg(angle))), si = std::sin(in_rad(deg(angle)));
            std::vector<OutlinePiece> turned;
            const auto turn = [&](const OutlinePoint& p) {
                return OutlinePoint{p.x * co - p.y * si + 17, p.x * si + p.y * co - 5, p.bow};
            };
            for (const auto& [p, q] : pieces)
                turned.push_back({turn(p), turn(q)});
            const RackComparison c = compare_outline(r, turned);
            CHECK(std::abs(c.worst.off) < 6e-4); // the tolerance of arcs
            CHECK(c.root_mean_square < 3e-4);
            CHECK(c.points.size() > 100);
            // the space's middle that was found is one, on the reference line
            const double along = (c.x - 17) * co + (c.y + 5) * si, up = (c.y + 5) * co - (c.x - 17) * si;
            CHECK(up == Approx(r.body()).margin(1e-3));
            CHECK(std::remainder(along - r.first_space, r.pitch()) == Approx(0).margin(1e-3));
        }
    }
    // thinner teeth: both flanks stand back by half of it, square to the flank
    const ResolvedRack thin = rack("rack m2 z12 b20 h20 thin 0.1");
    const RackComparison c =
        compare_outline(rack("rack m2 z12 b20 h20"), pieces_from_dxf(rack_dxf(thin, true)));
    double flanks = 0, lands = 0;
    int n = 0, m = 0;
    for (const RackDeviation& d : c.points)
        if (std::abs(d.height) < 1)
            flanks += d.off, ++n;
        else if (d.height > 1.9)
            lands += d.off, ++m;
    REQUIRE(n > 100);
    REQUIRE(m > 20);
    CHECK(flanks / n == Approx(-0.05 * std::cos(std::numbers::pi / 9)).epsilon(0.05));
    CHECK(std::abs(lands / m) < 2e-3);
    CHECK_THROWS_AS(compare_outline(rack("rack m5 z12 b20 h40"), pieces_from_dxf(rack_dxf(thin, true))),
                    InputError);
    CHECK_THROWS_AS(compare_outline(thin, pieces_from_dxf(gear_dxf(gear("gear m2 z19"), true))), InputError);
    CHECK_THROWS_AS(compare_file(thin, "a.step"), InputError);
}

namespace {
using Pieces = std::vector<OutlinePiece>;

// Without the pieces that `leaves` takes out, joined straight where one is missing.
Pieces without(const Pieces& all, const std::function<bool(const OutlinePiece&)>& leaves) {
    Pieces out;
    for (const OutlinePiece& p : all)
        if (!leaves(p)) out.push_back(p);
    return out;
}
Pieces moved(const Pieces& all, double x, double y, double turn) {
    Pieces out = all;
    for (auto& [p, q] : out)
        for (OutlinePoint* at : {&p, &q}) {
            const double px = at->x;
            at->x = x + px * std::cos(turn) - at->y * std::sin(turn);
            at->y = y + px * std::sin(turn) + at->y * std::cos(turn);
        }
    return out;
}
} // namespace

TEST_CASE("a missing tooth, an open table and a burr move neither axis nor phase, and are said") {
    for (const char* text : {"gear m2 z24", "gear m2 z19 x0.3", "internal gear m2 z60"}) {
        INFO(text);
        const ResolvedGear g = gear(text);
        const Pieces whole = pieces_from_dxf(gear_dxf(g, true));
        const double pitch = g.pitch_angle(), root = g.root_radius, tip = g.tip_radius;
        // one tooth cut off at its root, somewhere off our axis and turned
        const double middle = pitch * 2.5; // a tooth's, since spaces stand at whole pitches
        const Pieces cut =
            moved(without(whole,
                          [&](const OutlinePiece& p) {
                              const double x = (p.first.x + p.second.x) / 2, y = (p.first.y + p.second.y) / 2;
                              return std::abs(std::remainder(std::atan2(y, x) - middle,
                                                             2 * std::numbers::pi)) < pitch / 2 &&
                                     std::abs(std::hypot(x, y) - root) > 0.02 * std::abs(tip - root);
                          }),
                  7, -3, 0.1);
        const GearComparison c = compare_outline(g, cut);
        CHECK(c.whole);
        CHECK(c.axis_x == Approx(7).margin(2e-4));
        CHECK(c.axis_y == Approx(-3).margin(2e-4));
        CHECK(std::remainder(c.turned - 0.1, pitch) == Approx(0).margin(2e-5));
        REQUIRE(c.missing.size() == 1);
        CHECK(std::remainder(c.missing[0] - middle - 0.1, 2 * std::numbers::pi) == Approx(0).margin(1e-3));
        CHECK(std::abs(c.worst.off) < 2e-3);
        // the last point is not the first again: one short piece is missing
        Pieces open = whole;
        open.pop_back();
        const GearComparison o = compare_outline(g, open);
        CHECK(std::hypot(o.axis_x, o.axis_y) < 2e-4);
        CHECK(o.missing.empty());
        CHECK(std::abs(o.worst.off) < 2e-3);
    }
}

TEST_CASE("an outline that does not go along the teeth is refused with the reason") {
    const ResolvedGear g = gear("gear m2 z24 b10");
    // a gear that lies along another axis, cut as if it stood: a rectangle
    Pieces lying;
    const double r = g.tip_radius;
    const OutlinePoint corners[]{{-5, -r, 0}, {5, -r, 0}, {5, r, 0}, {-5, r, 0}};
    for (int k = 0; k < 4; ++k)
        for (int i = 0; i < 10; ++i) {
            const auto &a = corners[k], &b = corners[(k + 1) % 4];
            const auto between = [&](double t) {
                return OutlinePoint{a.x + t * (b.x - a.x), a.y + t * (b.y - a.y), 0};
            };
            lying.push_back({between(i / 10.0), between((i + 1) / 10.0)});
        }
    CHECK_THROWS_AS(compare_outline(g, lying), InputError);
    // another number of teeth on about the same circle
    CHECK_THROWS_WITH(compare_outline(g, pieces_from_dxf(gear_dxf(gear("gear m1 z48"), true))),
                      Catch::Matchers::Contains("module"));
}

TEST_CASE("a ring with less metal on its flanks is said to have less") {
    const GearComparison thin = compare_outline(
        gear("internal gear m2 z60"), pieces_from_dxf(gear_dxf(gear("internal gear m2 z60 thin 0.1"), true)));
    double sum = 0;
    int n = 0;
    for (const auto& d : thin.points)
        if (d.radius > 59.2 && d.radius < 60.8) sum += d.off, ++n;
    REQUIRE(n > 100);
    CHECK(sum / n == Approx(-0.05 * std::cos(std::numbers::pi / 9)).epsilon(0.05));
}

TEST_CASE("as many pieces as a table has are laid over, and more are refused with the number") {
    const ResolvedGear g = gear("gear m2 z24");
    std::string table;
    std::size_t n = 0;
    for (const auto& [a, b] : pieces_from_dxf(gear_dxf(g, true)))
        for (int i = 0; i < 8; ++i, ++n) // chords, not the arcs themselves
            table += std::to_string(a.x + (b.x - a.x) * i / 8) + "," +
                     std::to_string(a.y + (b.y - a.y) * i / 8) + "\n";
    REQUIRE(n > 2000);
    CHECK(long_outline_from_csv(table).size() == n);
    CHECK_THROWS_WITH(outline_from_csv(table), Catch::Matchers::Contains("2000"));
}
