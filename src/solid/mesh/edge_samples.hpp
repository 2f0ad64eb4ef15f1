// The lines of equal θ that a skin's edges are sampled on and its faces cut along, and the samples. Internal to
// the triangulation.
#pragma once

#include "solid/mesh/mesh.hpp"
#include "solid/mesh/tooth_mesh.hpp"

#include <cmath>

namespace whorl::solid {

// Lines of equal θ, `step` apart, along which round faces are cut into slabs.
struct Grid {
    double step = 0, phase = 0; // rad; of a step
    double of(double theta) const { return theta / step - phase; }
    double at(double line) const { return (line + phase) * step; }
};

// Lines on multiples of a step, where most corners are; turned out of the way where a corner that lies on one
// has another hardly beside it, which would leave a sliver between them.
Grid grid_for(const Skin& skin, double step);

// A corner closer to a grid line than this part of a step counts as lying on it, which avoids slivers.
double snap_of(const Skin& skin, const Grid& lines);

// The points of every edge, shared by both its faces: on the grid's lines, at what other edges of its join are
// sampled at, and between them as its chords need. Fills the mesh's points, edge_points and edge_theta.
void sample_edges(const Skin& skin, Mesh& mesh, const Grid& lines, const ToothMesher& teeth);

inline Point to_space(const UnrolledPoint& p) {
    return {p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z};
}

} // namespace whorl::solid
