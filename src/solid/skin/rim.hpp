// Rims: the closed curve in which a zone ends at a plane, and how two of them are joined.
#pragma once

#include "solid/skin/skin.hpp"

#include <optional>

namespace whorl::solid {

// A point of a rim and how it goes on to the next one in rising θ. Straight pieces are linear in θ, bows are
// where a rounded root is cut, flat traces are the sides of a hexagon.
struct RimPoint {
    double theta = 0, r = 0;
    EdgeShape shape = EdgeShape::straight;
    Bow bow = {};         // z is not used
    FlatTrace trace = {}; // slope and z0 are not used
};
// r as a periodic function of θ, points ascending in θ, all in [0, 2π).
using Rim = std::vector<RimPoint>;

double wrapped(double theta);                 // into [0, 2π); values within 1e-9 below 2π become 0
Rim sorted_rim(std::vector<RimPoint> points); // wraps, sorts, and drops points that coincide
double radius_at(const Rim& rim, double theta);

// The rim after joining: corners in order of θ, and the edge from each to the next.
struct RimEdges {
    std::vector<double> theta; // ascending, in [0, 2π)
    std::vector<int> corner;
    std::vector<int> edge; // edge[i] goes from corner[i] to corner[i+1 mod n] in rising θ

    // The edges from one θ to another (unrolled, both at corners), rising or falling. Throws std::logic_error
    // if there is no corner within 1e-7 rad.
    std::vector<EdgeUse> path(double from, double to) const;
    int corner_at(double theta_unrolled) const;
    std::size_t nearest(double theta_unrolled) const; // index of a corner within 1e-7 rad of it, all around
};

// A rim on its own: one corner per point.
RimEdges lone_rim(Skin& skin, const Rim& rim, double z, int join);

struct Joined {
    std::optional<RimEdges> below, above;
};

// Adds corners, edges and the flat faces at the plane z between the zone that ends there (`below`) and the
// one that starts (`above`). Either may be absent: then the flat face is a disc, or none if `open`.
Joined join_rims(Skin& skin, double z, const Rim* below, int zone_below, const Rim* above, int zone_above,
                 bool open = false);

} // namespace whorl::solid
