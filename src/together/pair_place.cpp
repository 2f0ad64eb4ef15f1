#include "together/pair_place.hpp"

#include <cmath>
#include <numbers>

namespace whorl {
namespace {

std::array<double, 3> turned_by(const Standing& s, const std::array<double, 3>& v) {
    std::array<double, 3> out{};
    for (std::size_t k = 0; k < 3; ++k)
        out[k] = s.x[k] * v[0] + s.y[k] * v[1] + s.z[k] * v[2];
    return out;
}

double middle_of(const ResolvedZone& z) {
    return in_mm(z.start + z.length / 2);
}

// A gear's own angles to those of the mesh: the middle of a space at its zone's middle looks along `turn`.
double own_turn(const ResolvedZone& zone, double turn) {
    return turn - zone.turned() - zone.gear()->twist * in_mm(zone.length) / 2;
}

Standing moved(double x, double y, double z) {
    return {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {x, y, z}};
}

// From the straightened bar to where the straight part of a bent piece stands that a zone lies in.
Standing straight_part(const ResolvedPiece& piece, std::size_t zone) {
    if (!piece.bent() || zone >= piece.zones.size())
        return same_space(); // a view's last good piece may be shorter
    const double z = middle_of(piece.zones.at(zone));
    const BarFrame f = piece.centreline().frame_at(z);
    Standing out;
    for (std::size_t k = 0; k < 3; ++k) {
        out.x[k] = f.x[k];
        out.y[k] = f.y[k];
        out.z[k] = f.t[k];
        out.origin[k] = f.origin[k] - z * f.t[k];
    }
    return out;
}

} // namespace

Standing same_space() {
    return moved(0, 0, 0);
}

Standing turned_about_axis(double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {{c, s, 0}, {-s, c, 0}, {0, 0, 1}, {0, 0, 0}};
}

Standing within(const Standing& outer, const Standing& inner) {
    return {turned_by(outer, inner.x), turned_by(outer, inner.y), turned_by(outer, inner.z),
            carried(outer, inner.origin)};
}

std::array<double, 3> carried(const Standing& place, const std::array<double, 3>& point) {
    std::array<double, 3> out = turned_by(place, point);
    for (std::size_t k = 0; k < 3; ++k)
        out[k] += place.origin[k];
    return out;
}

MeshStanding mesh_standing(const PairMesh& both, const ResolvedZone& first, const ResolvedZone& second,
                           double roll) {
    const GearMesh& mesh = both.mesh;
    MeshStanding out;
    if (both.rack) {
        // the rack stands on the gear's right, teeth to it and its length along y
        const ResolvedRack& rack = *both.rack;
        const double lift = in_mm(rack.spec.height) / 2;
        const Standing stands{{-1, 0, 0},
                              {0, 0, 1},
                              {0, 1, 0},
                              {mesh.centre + rack.body() - lift, mesh.rack_travel(roll) - rack_middle(rack),
                               middle_of(both.second_first ? second : first)}};
        if (both.second_first)
            out.second = within(inverse(stands), turned_about_axis(own_turn(second, roll)));
        else
            out.turn = own_turn(first, roll), out.second = stands;
        return out;
    }
    const double other = mesh.second_turn(roll);
    out.turn = own_turn(first, both.second_first ? other : roll);
    const double aside = mesh.internal == both.second_first ? mesh.centre : -mesh.centre;
    out.second = within(moved(aside, 0, middle_of(first) - middle_of(second)),
                        turned_about_axis(own_turn(second, both.second_first ? roll : other)));
    return out;
}

Standing mesh_standing_towards(const PairMesh& mesh, const ResolvedZone& first, const ResolvedZone& second,
                               double towards) {
    // the turn is linear in the roll
    const MeshStanding start = mesh_standing(mesh, first, second, 0);
    const double a_radian = mesh_standing(mesh, first, second, 1).turn - start.turn;
    const double aside = start.second.origin[0] < 0 ? std::numbers::pi : 0;
    const MeshStanding s = mesh_standing(mesh, first, second, (aside - towards - start.turn) / a_radian);
    return within(turned_about_axis(-s.turn), s.second);
}

Standing thread_standing(const Mating& m, const ResolvedPiece& first, std::size_t zone,
                         const ResolvedPiece& second, std::size_t second_zone, double travel) {
    // along the straightened bar, and with it to its place
    Standing place = within(moved(0, 0, travel), turned_about_axis(m.angle(travel)));
    if (m.flipped) place = within(place, {{1, 0, 0}, {0, -1, 0}, {0, 0, -1}, {0, 0, 0}});
    return within(within(straight_part(first, zone), place), inverse(straight_part(second, second_zone)));
}

std::optional<Standing> pair_place(const ResolvedPiece& first, std::size_t zone, const ResolvedPiece& second,
                                   std::size_t second_zone, std::optional<Length> centre) {
    const ResolvedZone &a = first.zones.at(zone), &b = second.zones.at(second_zone);
    if (a.thread() && b.thread()) {
        const bool screw_first = a.thread()->side == Side::external;
        const Fit fit = screw_first ? fit_of(*a.thread(), *b.thread()) : fit_of(*b.thread(), *a.thread());
        const Mating m = mating_of(first, zone, second, second_zone, fit);
        return thread_standing(m, first, zone, second, second_zone, m.clamped(m.usual));
    }
    if (const auto mesh = mesh_of_zones(a, b, centre)) {
        if (!mesh->mesh.meshes) return {};
        const MeshStanding s = mesh_standing(*mesh, a, b, 0);
        return within(turned_about_axis(-s.turn), s.second);
    }
    if (const auto s = standing_of(first, zone, second, second_zone)) return s;
    const bool cam =
        (a.lobe() && !a.lobe()->outline.empty()) || (a.drum() && a.drum()->trouble == DrumTrouble::none);
    if (cam && !b.coil()) return follower_standing(a, 0);
    return {};
}

} // namespace whorl
