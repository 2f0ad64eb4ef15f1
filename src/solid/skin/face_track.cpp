#include "solid/skin/face_track.hpp"

#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/skin/flat_side.hpp"
#include "solid/skin/tooth_zone.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

using Loop = std::vector<EdgeUse>;
constexpr double least_land = 1e-3; // mm, of what is left flat beside the groove

// A wall as a zone of its own: the groove's length of it, as a lobe or as a bore of that shape.
ResolvedZone wall_of(const ResolvedZone& cam, bool outer) {
    ResolvedZone wall = cam;
    ResolvedCam& c = std::get<ResolvedLobe>(wall.form).cam;
    wall.length = c.spec.groove_depth;
    if (!outer) return wall;
    wall.where = Where::near_bore;
    c.outline = c.outer_wall;
    c.least_radius = c.largest_radius = c.outer_reach;
    return wall;
}

Loop around(const ToothedRim& rim, const Offset& moved = {}) {
    Loop l;
    for (const auto& segment : rim.edges)
        for (const int e : segment)
            l.push_back({e + moved.edge, true, 0});
    return l;
}

// A wall with its rims in both planes; those of the outer one as they are counted in `skin`.
struct Wall {
    Loop face, floor;
};
Wall add_wall(Skin& skin, const ResolvedZone& cam, std::size_t index, bool outer) {
    const ToothZone wall(wall_of(cam, outer), index);
    Skin own;
    Skin& to = outer ? own : skin;
    const ToothedRim low = wall.make_rim(to, false, -1), high = wall.make_rim(to, true, -1);
    wall.add_faces(to, low, high);
    if (!outer) return {around(low), around(high)};
    reflect(own);
    const Offset moved = append(skin, std::move(own));
    return {around(low, moved), around(high, moved)};
}

// All boundaries in a plane are sampled at each other's corners.
void join_loops(Skin& skin, int join, std::initializer_list<const Loop*> loops) {
    auto& at = skin.joins[static_cast<std::size_t>(join)].theta;
    for (const Loop* l : loops)
        for (const EdgeUse& u : *l) {
            Edge& e = skin.edges[static_cast<std::size_t>(u.edge)];
            e.join = join;
            at.push_back(wrapped(e.begin.theta));
        }
    std::sort(at.begin(), at.end());
}

} // namespace

ResolvedZone disc_of(const ResolvedZone& cam) {
    ResolvedZone disc = cam;
    disc.form = ResolvedPlain{};
    return disc;
}

void sink_track(Skin& skin, const ResolvedPiece& piece, std::size_t zone) {
    const ResolvedZone& z = piece.zones[zone];
    const ResolvedCam& cam = *z.lobe();
    const int index = static_cast<int>(zone);
    const double face = in_mm(z.start), floor = in_mm(z.start + cam.spec.groove_depth);
    const auto side = flat_side(skin, index, face, false);
    if (!side)
        throw CannotMake(
            "The disc's near face is not flat all around, so no groove can be sunk into it; what "
            "stands on that side must be narrower than the groove.",
            zone);
    const std::vector<Loop> inner(skin.faces[*side].loops.begin() + 1, skin.faces[*side].loops.end());
    double taken = farthest(skin, inner);
    for (const ResolvedZone& bore : piece.zones)
        if (bore.in_bore() && in_mm(bore.start) < floor && in_mm(bore.end()) > face)
            taken = std::max(taken, in_mm(bore.largest_radius()));
    if (taken > cam.least_radius - least_land)
        throw CannotMake("What stands or is bored on the disc's near side reaches Ø " +
                             number_text(2 * taken, 3) + " mm; the groove begins at Ø " +
                             number_text(2 * cam.least_radius, 3) +
                             " mm. Make it narrower, or the base radius larger.",
                         zone);
    const int plane = shared_join(skin, *side);
    const Wall island = add_wall(skin, z, zone, false), rim = add_wall(skin, z, zone, true);
    join_loops(skin, plane, {&island.face, &rim.face});
    skin.joins.push_back({floor, {}});
    join_loops(skin, static_cast<int>(skin.joins.size()) - 1, {&island.floor, &rim.floor});

    const FaceRole role = skin.faces[*side].role;
    skin.faces[*side].loops = {skin.faces[*side].loops.front(), rim.face};
    skin.faces[*side].role = FaceRole::step; // the island's face is the end that a bore opens into
    const std::size_t top = add_flat_face(skin, role, index, false, face, {island.face});
    auto& loops = skin.faces[top].loops;
    loops.insert(loops.end(), inner.begin(), inner.end());
    add_flat_face(skin, FaceRole::step, index, false, floor, {rim.floor, island.floor});
}

} // namespace whorl::solid
