#include "solid/skin/web.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/skin/flat_side.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

constexpr double least_land = 1e-3; // mm, of what is left flat beside a ring
using Loop = std::vector<EdgeUse>;

struct Circle {
    int corner, edge;
};
Circle circle(Skin& skin, double r, double z, int join) {
    skin.corners.push_back({0, r, z});
    const int corner = static_cast<int>(skin.corners.size()) - 1;
    return {corner, add_straight(skin, corner, {0, r, z}, corner, {full_turn, r, z}, join)};
}

// The wall between two circles of one radius, `low` nearer to the piece's near end.
void add_wall(Skin& skin, const Circle& low, const Circle& high, double r, bool inward, int zone) {
    const int seam = add_straight(skin, low.corner, 0, high.corner, 0);
    Face f;
    f.zone = zone;
    f.a = r;
    f.inward = inward;
    Loop loop{{low.edge, true, 0}, {seam, true, 1}, {high.edge, false, 0}, {seam, false, 0}};
    if (inward) loop = reversed(std::move(loop));
    f.loops = {std::move(loop)};
    skin.faces.push_back(std::move(f));
}

void sink(Skin& skin, std::size_t side, const ResolvedWeb& web, std::size_t zone) {
    const bool up = skin.faces[side].up;
    const double z = skin.faces[side].a, floor = z - (up ? web.depth : -web.depth);
    std::vector<Loop> inner(skin.faces[side].loops.begin() + 1, skin.faces[side].loops.end());
    if (const double r = farthest(skin, inner); r > web.hub - least_land)
        throw CannotMake("The hub of Ø " + number_text(2 * web.hub, 3) +
                             " mm beside the web is narrower than the Ø " + number_text(2 * r, 3) +
                             " mm that stands or is bored there; make the hub wider.",
                         zone);
    if (const double r = nearest(skin, skin.faces[side].loops.front()); r < web.rim + least_land)
        throw CannotMake("The web's ring of Ø " + number_text(2 * web.rim, 3) +
                             " mm reaches past the flat side, which ends at Ø " + number_text(2 * r, 3) +
                             " mm; make the ring narrower.",
                         zone);
    const int join = shared_join(skin, side);
    auto& at = skin.joins[static_cast<std::size_t>(join)].theta;
    at.push_back(0);
    std::sort(at.begin(), at.end());

    const Circle rim = circle(skin, web.rim, z, join), hub = circle(skin, web.hub, z, join);
    const Circle rim_floor = circle(skin, web.rim, floor, -1), hub_floor = circle(skin, web.hub, floor, -1);
    const auto turning = [&](const Circle& c, bool outer) { return Loop{{c.edge, outer == up, 0}}; };
    Face flat = skin.faces[side];
    skin.faces[side].loops = {skin.faces[side].loops.front(), turning(rim, false)};
    skin.faces[side].role = FaceRole::step; // the hub's face is the end that a bore opens into
    Face hub_face = flat;
    hub_face.loops = {turning(hub, true)};
    hub_face.loops.insert(hub_face.loops.end(), inner.begin(), inner.end());
    skin.faces.push_back(hub_face);
    Face bottom = flat;
    bottom.role = FaceRole::step;
    bottom.a = floor;
    bottom.loops = {turning(rim_floor, true), turning(hub_floor, false)};
    skin.faces.push_back(bottom);
    const int index = static_cast<int>(zone);
    add_wall(skin, up ? rim_floor : rim, up ? rim : rim_floor, web.rim, true, index);
    add_wall(skin, up ? hub_floor : hub, up ? hub : hub_floor, web.hub, false, index);
}

} // namespace

void sink_web(Skin& skin, const ResolvedPiece& piece, std::size_t zone) {
    const ResolvedZone& z = piece.zones[zone];
    const ResolvedWeb& web = *z.web;
    for (const ResolvedZone& bore : piece.zones)
        if (bore.in_bore() && bore.start < z.end() && bore.end() > z.start &&
            in_mm(bore.largest_radius()) > web.hub - least_land)
            throw CannotMake("The bore of Ø " + number_text(2 * in_mm(bore.largest_radius()), 3) +
                                 " mm leaves nothing of the hub of Ø " + number_text(2 * web.hub, 3) +
                                 " mm; make the hub wider.",
                             zone);
    const int index = static_cast<int>(zone);
    for (const bool up : {false, true}) {
        if (!(up ? web.far : web.near)) continue;
        const auto side = flat_side(skin, index, in_mm(up ? z.end() : z.start), up);
        if (!side)
            throw CannotMake(
                "A side of this zone shows no flat face all around, so no web can be sunk into it.", zone);
        sink(skin, *side, web, zone);
    }
}

} // namespace whorl::solid
