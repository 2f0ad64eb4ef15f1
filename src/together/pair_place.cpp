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
    const double roll = (aside - towards - start.turn) / a_radian;
    const MeshStanding s = mesh_standing(mesh, first, second, roll);
    const Standing out = within(turned_about_axis(-s.turn), s.second);
    if (!mesh.rack) return out;
    const double tooth = mesh.mesh.rack_travel(first.gear()->pitch_angle());
    return within(out, moved(0, 0, -tooth * std::round(mesh.mesh.rack_travel(roll) / tooth)));
}

Standing thread_standing(const Mating& m, const ResolvedPiece& first, std::size_t zone,
                         const ResolvedPiece& second, std::size_t second_zone, double travel) {
    // along the straightened bar, and with it to its place
    Standing place = within(moved(0, 0, travel), turned_about_axis(m.angle(travel)));
    if (m.flipped) place = within(place, {{1, 0, 0}, {0, -1, 0}, {0, 0, -1}, {0, 0, 0}});
    return within(within(straight_part(first, zone), place), inverse(straight_part(second, second_zone)));
}

namespace {

PairPlace on_thread(const ResolvedPiece& first, std::size_t zone, const ResolvedPiece& second,
                    std::size_t second_zone, std::optional<double> asked) {
    const ResolvedThread &a = *first.zones[zone].thread(), &b = *second.zones[second_zone].thread();
    const Fit fit = a.side == Side::external ? fit_of(a, b) : fit_of(b, a);
    const Mating m = mating_of(first, zone, second, second_zone, fit);
    const double face =
        m.flipped ? in_mm(second.length()) : 0; // of the second that looks at the first's near end
    PairPlace out;
    out.range = {m.clamped(m.usual) - face, std::min(m.apart, m.seated) - face,
                 std::max(m.apart, m.seated) - face};
    out.at = out.range.within(asked.value_or(out.range.usual));
    out.second = thread_standing(m, first, zone, second, second_zone, out.at + face);
    return out;
}

std::optional<PairPlace> in_mesh(const PairMesh& mesh, const ResolvedZone& a, const ResolvedZone& b,
                                 std::optional<double> asked) {
    if (!mesh.mesh.meshes) return {};
    PairPlace out;
    if (mesh.rack && mesh.second_first) { // along the rack
        const double half = mesh.rack->length / 2;
        out.range = {0, -half, half};
        out.at = out.range.within(asked.value_or(0));
        out.second = mesh_standing(mesh, a, b, -out.at / mesh.mesh.rack_travel(1)).second;
        return out;
    }
    const MeshStanding s = mesh_standing(mesh, a, b, 0);
    const Standing usual = within(turned_about_axis(-s.turn), s.second);
    out.range.usual = mesh.rack ? -s.turn : std::atan2(usual.origin[1], usual.origin[0]);
    out.at = asked.value_or(out.range.usual);
    out.second = asked ? mesh_standing_towards(mesh, a, b, *asked) : usual;
    return out;
}

// Moved along the first one's axis; of a bent one along its far end.
PairPlace shifted(const ResolvedPiece& first, const Standing& usual, std::optional<double> asked) {
    PairPlace out{usual, {}, asked.value_or(0)};
    std::array<double, 3> along{0, 0, 1};
    if (first.bent()) {
        const BentLine way = first.centreline();
        const auto end = way.frame_at(way.length()).t;
        along = {end[0], end[1], end[2]};
    }
    for (std::size_t k = 0; k < 3; ++k)
        out.second.origin[k] += out.at * along[k];
    return out;
}

} // namespace

std::optional<PairPlace> pair_place(const ResolvedPiece& first, std::size_t zone, const ResolvedPiece& second,
                                    std::size_t second_zone, std::optional<Length> centre,
                                    std::optional<double> asked) {
    const ResolvedZone &a = first.zones.at(zone), &b = second.zones.at(second_zone);
    if (a.thread() && b.thread()) return on_thread(first, zone, second, second_zone, asked);
    if (const auto mesh = mesh_of_zones(a, b, centre)) return in_mesh(*mesh, a, b, asked);
    if (const auto s = standing_of(first, zone, second, second_zone)) return shifted(first, *s, asked);
    const bool cam =
        (a.lobe() && !a.lobe()->outline.empty()) || (a.drum() && a.drum()->trouble == DrumTrouble::none);
    if (cam && !b.coil()) return PairPlace{follower_standing(a, asked.value_or(0)), {}, asked.value_or(0)};
    return {};
}

} // namespace whorl
