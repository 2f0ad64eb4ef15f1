// One triangulation of a skin, used by the preview, by STL and attached to the kernel solid.
//
// Edges are sampled on a common grid of θ, so both faces of an edge share its points: the mesh is watertight
// by construction. Faces are cut into the slabs between grid lines and triangulated slab by slab. Rulings are
// straight, so the deviation from the true surface is the chord of one grid step, r·(1 − cos(δ/2)), and on
// helical faces the twist of a quad, at most |dr/dθ|·Δr·δ/(4r) in r, less by the surface's lean, of which the
// better of the two diagonals leaves the smaller part.
#pragma once

#include "solid/skin/skin.hpp"

#include <array>
#include <cstdint>
#include <map>

namespace whorl::solid {

struct Point {
    double x = 0, y = 0, z = 0;
};

struct Mesh {
    std::vector<Point> points;                           // mm
    std::vector<UnrolledPoint> unrolled;                 // of each point, θ in its edge's chart
    std::vector<std::array<std::uint32_t, 3>> triangles; // counter-clockwise from outside
    std::vector<std::uint32_t> face;                     // of each triangle: index into Skin::faces
    int steps_per_turn = 0;
    std::vector<std::vector<std::uint32_t>> edge_points; // of each skin edge, from begin to end
    std::vector<std::vector<double>> edge_theta;         // θ of those points, in the edge's chart
};

// The number of grid steps per turn, a multiple of 4 from 24 to 720, that keeps the deviation at or below
// `chord` (mm): the sagitta of a circle of this radius (mm), or both sagitta and twist of everything on a
// skin.
int steps_for_chord(double largest_radius, double chord);
int steps_for_chord(const Skin& skin, double chord);

// About how many triangles that makes, without making them.
double triangles_expected(const Skin& skin, int steps_per_turn);

Mesh triangulate(const Skin& skin, int steps_per_turn);

double volume(const Mesh& mesh); // mm³, by the divergence theorem

// Throws std::logic_error unless every triangle has area and every side is shared by exactly two triangles in
// opposite directions.
void require_watertight(const Mesh& mesh);

// The outward normal of a face at a point of its mesh (unit length).
Point normal_at(const Face& face, const UnrolledPoint& at);

// The same for many points; remembers what teeth, which are all alike, have in common.
class NormalReader {
public:
    Point operator()(const Face& face, const UnrolledPoint& at);

private:
    std::map<std::pair<const TransverseCurve*, double>, std::pair<double, double>> known_;
};

} // namespace whorl::solid
