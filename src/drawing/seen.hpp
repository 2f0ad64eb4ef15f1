// What of a body is seen from a direction, and what a plane cuts of it.
//
// From the body's triangulation. Its points lie on the true surface, and wherever the plane or the outline runs along its
// grid (lengthwise cuts and side views of what turns about the axis do) the result is exact there: cylinders, cones and
// planes as they are, arcs as points on them. Elsewhere it is within the triangulation's chord.
//
//   edges      sides of the triangulation where two faces meet at an angle
//   outlines   where the surface turns away: n·v = 0, between the normals at a triangle's corners
//   cut        triangles met by the plane, chained through the sides they share
//
// Edges and outlines are cut where they cross each other in the picture; what is between two crossings is seen or hidden
// as a whole, and its middle tells: hidden where a triangle lies before it, or before the plane there is material.
#pragma once

#include "drawing/paper.hpp"
#include "solid/body.hpp"

namespace whorl::drawing {

using Direction3 = std::array<double, 3>;

// Where it is seen from: a right-handed frame of unit vectors. A point's place in the picture is (p·right, p·up).
struct Gaze {
    Direction3 right{0, 0, 1}, up{0, 1, 0}, towards{-1, 0, 0}; // the viewer: a turned piece from its side
    At at(const solid::Point& p) const;
    double depth(const solid::Point& p) const; // towards the viewer
};
// The piece from its near or far end, what is up in its side view still up.
Gaze from_end(const Gaze& side, bool near);

// A run of points in the picture, mm.
struct Run {
    std::vector<At> points;
    bool closed = false;
};

struct Seen {
    std::vector<Run> lines;  // that are seen, of the cut's own edges none
    std::vector<Run> hidden; // none unless asked for
    std::vector<Run> cut;    // outlines of what is cut, closed: outer ones counter-clockwise, holes clockwise
    Box box;                 // of all of it
};

struct Look {
    Gaze gaze = {};
    bool cut = false; // by the plane through the origin square to the view; what lies before it is taken away
    bool hidden = false; // tell hidden lines too
    double chord = 0.01; // mm, that the triangulation was made with
};

Seen see(const solid::Mesh& mesh, const solid::Shading& shading, const Look& look);

double area(const std::vector<Run>& cut); // mm²
bool inside(const std::vector<Run>& cut, At p);

// As strokes: straight lines, arcs where all points lie on one within a millionth of the box, else smooth curves.
std::vector<Stroke> strokes_of(const std::vector<Run>& runs, LineKind kind, double tolerance);

} // namespace whorl::drawing
