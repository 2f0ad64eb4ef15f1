// A gear on its rack: distances, contact, conjugate action run numerically.
#include "form/tooth/gear_designation.hpp"
#include "pair/gear_mesh.hpp"

#include <catch2/catch.hpp>
#include <numbers>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

ResolvedGear gear(const char* text) {
    return resolve_gear(parse_gear(text).spec);
}
ResolvedRack rack(const char* text) {
    return resolve_rack(parse_rack_bar(text).spec);
}
bool says(const GearMesh& m, MeshFault what) {
    for (const auto& w : m.mistakes)
        if (w.what == what) return true;
    return false;
}

// How far along the rack its flank stands off the gear's driving flank, the gear turned by `roll`: the gear's
// outline followed point by point at the height it has over the rack's reference line.
double gap(const ResolvedGear& g, const ResolvedRack& r, const GearMesh& m, double roll) {
    double least = 1e9;
    const double stretch = 1 / std::cos(in_rad(r.spec.helix_angle));
    for (int tooth = -3; tooth <= 3; ++tooth)
        for (const TransverseCurve& c : g.half_outline) {
            constexpr int steps = 20000;
            for (int i = 0; i <= steps; ++i) {
                const TransversePoint p = point_at(c, c.from + (c.to - c.from) * i / steps);
                // the flank of the space's lower side, whose tooth pushes the rack on
                const double angle = roll + tooth * g.pitch_angle() - p.angle();
                const double height = m.centre - p.radius() * std::cos(angle),
                             y = p.radius() * std::sin(angle);
                if (height > r.flank_tip_height || height < r.form_height) continue;
                // the rack's tooth in this space
                const double middle = m.rack_travel(roll) + tooth * r.pitch();
                const double half = (pi * in_mm(r.spec.module) / 2 - rack_half_space(r, height)) * stretch;
                least = std::min(least, middle - half - y);
            }
        }
    return least;
}

} // namespace

TEST_CASE("textbook contact ratios and travel of pinions on racks") {
    // ε = (√(ra² − rb²) − r·sin α + m/sin α)/(π·m·cos α) for a pinion without undercut
    for (const int z : {18, 20, 25, 40, 100}) {
        const ResolvedGear g = gear(("gear m2 z" + std::to_string(z)).c_str());
        const GearMesh m = mesh_of(g, rack("rack m2 z30"));
        INFO(z);
        CHECK(m.runs());
        const double a = pi / 9, r = z, ra = z + 2, rb = r * std::cos(a);
        CHECK(m.contact_ratio == Approx((std::sqrt(ra * ra - rb * rb) - r * std::sin(a) + 2 / std::sin(a)) /
                                        (2 * pi * std::cos(a))));
        CHECK(m.centre == Approx(z));
        CHECK(m.rack_travel(2 * pi) == Approx(2 * pi * z));
        CHECK(std::abs(m.backlash) < 1e-12);
    }
    // a shifted gear stands farther off, its pitch line runs beside the reference line
    const GearMesh shifted = mesh_of(gear("gear m2 z12 x0.4"), rack("rack m2 z30"));
    CHECK(shifted.centre == Approx(12.8));
    CHECK(shifted.runs());
    // moved off by 0.1: 2·0.1·tan 20°
    CHECK(mesh_of(gear("gear m2 z20"), rack("rack m2 z30"), mm(20.1)).backlash ==
          Approx(0.0727940).epsilon(1e-5));
    CHECK(mesh_of(gear("gear m2 z20 thin 0.03"), rack("rack m2 z30 thin 0.02")).backlash == Approx(0.05));
}

TEST_CASE("a rack is moved evenly by its gear: the gap stays within half a micrometre") {
    struct Row {
        const char *gear, *rack;
        double stands_off;
    };
    for (const Row& row : {Row{"gear m2 z20", "rack m2 z30", 0}, Row{"gear m2 z11 x0.4", "rack m2 z30", 0},
                           Row{"gear m3 z45 helix 20 RH", "rack m3 z30 helix 20 LH", 0},
                           Row{"gear m1 z25 x-0.2 thin 0.04", "rack m1 z30 tip chamfer 0.1", 0.3}}) {
        INFO(row.gear);
        const ResolvedGear g = gear(row.gear);
        const ResolvedRack r = rack(row.rack);
        const double close = g.pitch_radius + g.spec.profile_shift * in_mm(g.spec.module);
        const GearMesh m = mesh_of(g, r, mm(close + row.stands_off));
        REQUIRE(m.meshes);
        for (int i = 0; i < 12; ++i) {
            const double roll = i * g.pitch_angle() / 12;
            CHECK(gap(g, r, m, roll) == Approx(m.backlash / 2).margin(5e-4));
        }
        // across the face both teeth lean alike
        CHECK(r.lean == Approx(g.twist * g.pitch_radius).margin(1e-12));
    }
}

TEST_CASE("flanks touch on the rack where the line of action says") {
    const ResolvedGear g = gear("gear m2 z20");
    const ResolvedRack r = rack("rack m2 z30");
    const GearMesh m = mesh_of(g, r);
    for (int i = 0; i < 10; ++i) {
        const double roll = i * g.pitch_angle() / 10;
        const auto places = contact_places(g, m, roll);
        CHECK(!places.empty());
        for (const double s : places) {
            const double x = m.first_radius + s * std::sin(m.working_angle),
                         y = s * std::cos(m.working_angle);
            const double height = m.centre - x;
            const double half = pi * 2 / 2 - rack_half_space(r, height);
            const double off = std::remainder(y - m.rack_travel(roll) + half, r.pitch());
            CHECK(std::abs(off) < 1e-9);
        }
    }
    // nothing slides at the pitch point; towards the gear's tip it does, evenly on the rack
    CHECK(sliding_at(m, 0).first == Approx(0));
    CHECK(sliding_at(m, 2).second == Approx(-2 / (20 * std::cos(pi / 9) * std::tan(pi / 9))));
}

TEST_CASE("a gear and a rack that can't run say which number differs") {
    CHECK(says(mesh_of(gear("gear m2 z20"), rack("rack m3 z30")), MeshFault::module));
    CHECK(says(mesh_of(gear("gear m2 z20"), rack("rack m2 z30 a25")), MeshFault::pressure_angle));
    CHECK(says(mesh_of(gear("gear m2 z20 helix 10"), rack("rack m2 z30")), MeshFault::helix));
    CHECK(says(mesh_of(gear("gear m2 z20 helix 10 LH"), rack("rack m2 z30 helix 10 LH")), MeshFault::hand));
    CHECK(says(mesh_of(gear("internal gear m2 z60"), rack("rack m2 z30")), MeshFault::internal_rack));
    CHECK(says(mesh_of(gear("gear m2 z20"), rack("rack m2 z30"), mm(19.9)), MeshFault::centre));
    // below the undercut limit the rack's tips reach into the root
    CHECK(says(mesh_of(gear("gear m2 z11"), rack("rack m2 z30 profile 1.2/1.25/0.2"), mm(11.2)),
               MeshFault::root_contact));
    CHECK(says(mesh_of(gear("gear m2 z20"), rack("rack m2 z30 profile 1/1.02/0")), MeshFault::tip_clearance));
    CHECK(says(mesh_of(gear("gear m2 z20 k0.6"), rack("rack m2 z30 k0.4")), MeshFault::contact_ratio));
}
