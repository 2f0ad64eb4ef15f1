// Bodies bounded by planes and by round cylinders that planes cut, in space: what racks are made of.
//
// A rack has no axis, so its skin is not written in unrolled coordinates. As there every trim has a closed
// form: two planes meet in a straight line, a plane and a cylinder in an ellipse. Units: mm and radians.
#pragma once

#include "form/tooth/rack.hpp"
#include "solid/mesh/mesh.hpp"
#include "solid/solid.hpp"

namespace whorl::solid {

// A straight edge between its corners, or part of an ellipse: centre + u·cos φ + v·sin φ with u square to v,
// |u| the cylinder's radius.
struct BarEdge {
    int from = -1, to = -1; // corner indices
    bool bowed = false;
    Point centre, u, v;
    double phi_from = 0, phi_to = 0;
};

struct BarFace {
    FaceRole role = FaceRole::plain;
    bool round = false;
    Point origin; // a point of the plane, or of the cylinder's axis
    Point normal; // of a plane, outwards; of a cylinder along its axis. Unit length
    // A cylinder's point at φ: origin + radius·(across·cos φ + (normal × across)·sin φ), moved along the
    // axis.
    double radius = 0;
    Point across;
    bool inward = false;       // a cylinder's outward normal points to its axis
    std::vector<EdgeUse> loop; // counter-clockwise seen from outside; `turn` is not used
};

struct BarBody {
    std::vector<Point> corners;
    std::vector<BarEdge> edges;
    std::vector<BarFace> faces;
    double back = 0; // x of the flat underneath, from which walls are triangulated
    bool empty() const { return faces.empty(); }
};

// The body of a rack: x over the reference line less half the body's height, so that the middle of the
// height lies on the z axis; y across the face and z along it. Throws std::logic_error for a rack with a
// trouble.
//
// A line of the outline that comes within a ten-thousandth of a millimetre of an end is left out; the surface
// before it goes on instead, less than 0.6 µm off.
BarBody rack_body(const ResolvedRack& rack);

// In closed form (flats and flanks) and by Gauss points (roundings, to 1e-13), mm³.
double rack_volume(const ResolvedRack& rack);

Point point_at(const BarEdge& edge, const BarBody& body, double phi); // of a bowed edge

// Throws std::logic_error with what is wrong unless every edge is used exactly twice in opposite directions,
// every loop is connected, and corners and edges lie on their faces within 1e-7 mm.
void require_closed(const BarBody& body);

double off_surface(const BarFace& face, const Point& p); // mm
Point normal_at(const BarFace& face, const Point& p);    // outwards, unit length

// With chords within `chord` (mm) of the cylinders.
Mesh triangulate(const BarBody& body, double chord);

// As make_solid() of a skin, with the mesh attached: planes, cylinders, lines, circles and ellipses.
Solid make_solid(const BarBody& body, const Mesh& mesh);

} // namespace whorl::solid
