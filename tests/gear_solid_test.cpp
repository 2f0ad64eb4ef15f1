// Gears as solids: every proof over randomised gears, neighbours and bores.
#include "build/build.hpp"
#include "form/tooth/measure.hpp"
#include "mesh_area.hpp"
#include "model/edit.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "off_outline.hpp"
#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/solid.hpp"

#include "zone_parts.hpp"

#include <catch2/catch.hpp>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

class RandomGear {
public:
    explicit RandomGear(unsigned seed) : random_(seed) {}
    double between(double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random_);
    }
    int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }
    bool chance(double p) { return between(0, 1) < p; }

    GearSpec spec() {
        for (;;) {
            GearSpec s;
            s.internal = chance(0.25);
            const auto& modules = standard::preferred_modules();
            do
                s.module =
                    modules[static_cast<std::size_t>(whole(0, static_cast<int>(modules.size()) - 1))].module;
            while (in_mm(s.module) < 0.3 || in_mm(s.module) > 12);
            s.teeth = chance(0.5) ? whole(5, 40) : whole(5, 160);
            if (chance(0.3)) s.pressure_angle = deg(chance(0.5) ? 14.5 : 25);
            if (chance(0.5)) s.helix_angle = deg(between(1, 40));
            s.hand = chance(0.5) ? Hand::left : Hand::right;
            if (chance(0.5)) s.profile_shift = std::round(between(-0.4, 0.8) * 1000) / 1000;
            const char* types[]{"A", "B", "C", "D"};
            s.rack = *standard::basic_rack(types[whole(0, 3)]);
            if (chance(0.3)) s.thinning = s.module * between(0.005, 0.08);
            if (chance(0.2)) s.tip_shortening = between(0, 0.2);
            if (chance(0.35)) {
                s.tip_edge = chance(0.5) ? TipEdge::chamfered : TipEdge::rounded;
                s.tip_size = s.module * between(0.02, 0.15);
            }
            try {
                if (resolve_gear(s).trouble == ToothTrouble::none) return s;
            } catch (const InputError&) {
            }
        }
    }

    // The gear alone or between neighbours of every width, bored or not; a herringbone now and then.
    Piece piece() {
        const GearSpec s = spec();
        const ResolvedGear g = resolve_gear(s);
        const double m = in_mm(s.module), width = m * between(2, 12);
        Designation d;
        d.what = s;
        d.length = mm(std::round(width * 100) / 100);
        Piece p;
        p.name = "random gear";
        const auto plain = [&](double diameter, double length) {
            Zone z;
            diameter_of(z) = {number_text(diameter, 6), {}};
            z.length = {number_text(length, 4), {}};
            return z;
        };
        if (s.internal) {
            p.zones.push_back(plain(std::ceil(2 * g.root_radius + m * between(2, 8)), width));
            Zone z = zone_of(d);
            if (chance(0.6)) {
                z.length = {"", {}};
                p.zones.push_back(z);
            } else { // blind, and perhaps a shaft's hole behind
                z.length = {number_text(width * 0.6, 4), {}};
                p.zones.push_back(z);
                if (chance(0.6)) {
                    Zone hole = plain(2 * g.tip_radius * between(0.3, chance(0.5) ? 0.95 : 1.2), 1);
                    hole.where = Where::near_bore;
                    hole.length = {"", {}};
                    p.zones.push_back(hole);
                }
            }
            return p;
        }
        const auto neighbour = [&] {
            const int kind = whole(0, 4);
            const double d0 = kind == 0   ? 2 * g.root_radius * between(0.3, 0.98)
                              : kind == 1 ? 2 * g.tip_radius * between(1.01, 1.3)
                              : kind == 2
                                  ? 2 * (g.root_radius + (g.tip_radius - g.root_radius) * between(0.05, 0.95))
                              : kind == 3 ? 2 * g.root_radius
                                          : 2 * g.tip_radius;
            Zone z = plain(d0, m * between(1, 6));
            diameter_of(z).text = number_text(d0, 12);
            if (kind == 0 && chance(0.3))
                plain_of(z).outline = Outline::hexagon, diameter_of(z).text = number_text(d0 * 0.8, 5);
            return z;
        };
        p.zones.push_back(zone_of(d));
        if (chance(0.2)) { // herringbone
            Zone other = p.zones.back();
            other.teeth()->hand = s.hand == Hand::left ? Hand::right : Hand::left;
            p.zones.push_back(other);
        }
        if (chance(0.5)) p.zones.insert(p.zones.begin(), neighbour());
        if (chance(0.5)) p.zones.push_back(neighbour());
        if (chance(0.5)) {
            double narrowest = 2 * g.root_radius;
            for (const Zone& z : p.zones)
                if (!z.teeth()) narrowest = std::min(narrowest, std::stod(diameter_of(z).text));
            Zone bore = plain(narrowest * between(0.2, 0.8), 1);
            bore.where = Where::near_bore;
            bore.length = {"", {}};
            p.zones.push_back(bore);
        }
        return p;
    }

private:
    std::mt19937 random_;
};

// How far a point of the mesh lies from the outline, turned as the zone's definition says; needs no skin.
double off_teeth(const ResolvedZone& z, double theta, double r, double along) {
    const ResolvedGear& g = *z.gear();
    const double angle = theta - z.as<ResolvedWheel>()->turned - g.twist * (along - in_mm(z.start));
    return test::off_outline(g, r * std::cos(angle), r * std::sin(angle));
}

constexpr double chord = 0.05; // mm

int prove(unsigned seed, int wanted, int* refused = nullptr) {
    RandomGear random(seed);
    int made = 0;
    for (int i = 0; made < wanted && i < 3 * wanted; ++i) {
        const Piece piece = random.piece();
        Job job;
        job.pieces = {piece};
        INFO("seed " << seed << ", round " << i << ":\n" << job_to_json(job));
        Preview p;
        REQUIRE_NOTHROW(p = make_preview(piece, 0, {}, LengthUnit::millimetre, chord));
        if (!p.made()) {
            REQUIRE(stops(p.findings));
            INFO(p.findings.front().sentence);
            if (refused) ++*refused;
            continue;
        }
        ++made;
        REQUIRE_NOTHROW(solid::require_closed(*p.body.skin()));
        REQUIRE_NOTHROW(solid::require_watertight(p.mesh));
        // within a layer as thick as the chord, which twice as many steps make four times thinner
        CHECK(std::abs(solid::volume(p.mesh) - p.volume()) <= chord * test::area(p.mesh));
        const auto fine = solid::triangulate(*p.body.skin(), 2 * p.mesh.steps_per_turn);
        CHECK(std::abs(solid::volume(fine) - p.volume()) <= chord / 4 * test::area(fine));
        for (std::size_t t = 0; t < p.mesh.triangles.size(); t += 37) {
            const auto& f = p.body.skin()->faces[p.mesh.face[t]];
            if (f.kind != solid::FaceKind::toothed) continue;
            const auto& at = p.mesh.points[p.mesh.triangles[t][0]];
            const double off = off_teeth(p.piece.zones[static_cast<std::size_t>(f.zone)],
                                         std::atan2(at.y, at.x), std::hypot(at.x, at.y), at.z);
            if (!(off < 1e-3)) FAIL("a point lies " << 1e3 * off << " µm off at z " << at.z);
            // the normal looks the way the triangle does
            const auto n = solid::normal_at(f, p.mesh.unrolled[p.mesh.triangles[t][0]]);
            const auto& q = p.mesh.points[p.mesh.triangles[t][1]];
            const auto& w = p.mesh.points[p.mesh.triangles[t][2]];
            const double u[3]{q.x - at.x, q.y - at.y, q.z - at.z}, v[3]{w.x - at.x, w.y - at.y, w.z - at.z};
            const double c[3]{u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2],
                              u[0] * v[1] - u[1] * v[0]};
            REQUIRE(n.x * c[0] + n.y * c[1] + n.z * c[2] > 0.5 * std::hypot(c[0], c[1], c[2]));
        }
        const auto solid = solid::make_solid(*p.body.skin(), p.mesh);
        REQUIRE(solid::is_valid(solid));
        if (p.body.skin()->faces.size() < 300) // the kernel's quadrature takes seconds for hundreds of faces
            CHECK(solid::kernel_volume(solid) == Approx(p.volume()).epsilon(1e-6));
    }
    return made;
}

} // namespace

TEST_CASE("randomised gears of every kind are closed, valid and watertight") {
    int refused = 0;
    CHECK(prove(41, 30, &refused) == 30);
    CHECK(refused < 40);
}

TEST_CASE("2 000 randomised gears", "[.][long]") {
    CHECK(prove(42, 2000) == 2000);
}

TEST_CASE("every tooth count from 5 to 200 makes a closed skin of the right volume") {
    for (int z = 5; z <= 200; ++z) {
        GearSpec s;
        s.module = mm(1);
        s.teeth = z;
        Designation d;
        d.what = s;
        d.length = mm(3);
        Piece piece;
        piece.zones = {zone_of(d)};
        const ResolvedPiece r = resolve_piece(piece, {});
        const auto skin = solid::build_skin(r);
        INFO("z " << z);
        REQUIRE_NOTHROW(solid::require_closed(skin));
        // the same area by the polygon of the outline's points, outlines and mirror images in turn
        double area = 0;
        const ResolvedGear& g = *r.zones[0].gear();
        for (const auto& c : g.half_outline)
            for (int i = 0; i < 4000; ++i) {
                const auto p = point_at(c, c.from + (c.to - c.from) * i / 4000),
                           q = point_at(c, c.from + (c.to - c.from) * (i + 1) / 4000);
                area += (p.x * q.y - p.y * q.x) / 2;
            }
        CHECK(solid::volume(skin) == Approx(3 * 2 * z * area).epsilon(1e-7));
    }
}

TEST_CASE("a herringbone's halves share their outline and leave no face between") {
    Piece p = piece_of("gear m2 z20 helix 30 LH b10");
    Zone other = p.zones[0];
    other.teeth()->hand = Hand::right;
    p.zones.push_back(other);
    const ResolvedPiece r = resolve_piece(p, {});
    CHECK(r.zones[1].as<ResolvedWheel>()->turned == Approx(r.zones[0].gear()->twist * 10));
    const auto skin = solid::build_skin(r);
    CHECK_NOTHROW(solid::require_closed(skin));
    int flats = 0;
    for (const auto& f : skin.faces)
        flats += f.kind == solid::FaceKind::flat;
    CHECK(flats == 2);
    CHECK(solid::is_valid(solid::make_solid(skin)));
}

TEST_CASE("neighbours that can't meet teeth are refused with a sentence") {
    const auto sentence = [](const Zone& first, const char* gear) {
        Piece p = piece_of(gear);
        p.zones.insert(p.zones.begin(), first);
        const Preview preview = make_preview(p, 0, {}, LengthUnit::millimetre);
        return preview.made() ? std::string() : preview.findings.front().sentence;
    };
    Zone hexagon;
    plain_of(hexagon).outline = Outline::hexagon;
    diameter_of(hexagon) = {"44", {}}; // across the teeth of Ø 43 to 52
    CHECK(sentence(hexagon, "gear m2 z24 b10").find("not round") != std::string::npos);
    Zone near;
    diameter_of(near) = {"43.0001", {}}; // hardly more than the root circle
    CHECK(sentence(near, "gear m2 z24 b10").find("root circle") != std::string::npos);
    diameter_of(near) = {"43", {}};
    CHECK(sentence(near, "gear m2 z24 b10").empty());
    CHECK(sentence(piece_of("gear m2 z25 b10").zones[0], "gear m2 z24 b10").find("different teeth") !=
          std::string::npos);
}
