// A wire along a centreline: a tube, its ends flat, or ground in a plane square to the axis.
//
// The surface is c(θ) + x(φ)·outwards + y(φ)·upwards, x and y the wire's edge (wire_shape.hpp). Square to the wire it is cut into lengths (at
// every place where the centreline's third derivative jumps, and no longer than half a turn), along the wire
// into strips between φ = 45°, 135°, 225° and 315°, of flat-sided wire its sides; the length that a ground face cuts keeps
// round wire's ground side as one strip, flat-sided wire's sides end at the face. The ground face's edge is
// z(θ) + y(φ)·(upwards)z = const, which gives θ for every φ.
//
// Loops are those of a right-hand coil; a left-hand one is its mirror image, and its loops run the other way.
// Units: mm and radians.
#pragma once

#include "form/coil/coil.hpp"
#include "solid/mesh/mesh.hpp"
#include "solid/mesh/shading.hpp"
#include "solid/solid.hpp"

namespace whorl::solid {

struct TubeEdge {
    enum Kind {
        ring, // around the wire at θ, from φ to φ
        rail, // along the wire at φ, from θ to θ
        cut,  // of a ground face in the wire's surface, from φ to φ
        chord // across the wire's end face
    } kind = ring;
    int from = -1, to = -1; // corners
    double begin = 0, end = 0;
    double at = 0;    // θ of a ring, φ of a rail
    bool far = false; // cut, chord: which end
};

struct TubeFace {
    enum Kind { wall, tip, ground } kind = wall;
    FaceRole role = FaceRole::plain;
    double theta0 = 0, theta1 = 0, phi0 = 0, phi1 = 0; // wall
    bool far = false;                                  // tip, ground
    std::vector<EdgeUse> loop; // counter-clockwise seen from outside; `turn` is not used
};

struct TubeBody {
    ResolvedCoil coil;
    std::vector<double> cuts; // θ of the lengths' ends, ascending
    std::vector<Point> corners;
    std::vector<TubeEdge> edges;
    std::vector<TubeFace> faces;
};

// Throws CannotMake for a coil that can't be made, with what would do.
TubeBody tube_body(const ResolvedCoil& coil);

Vec3 centre_at(const TubeBody& body, double theta); // of the wire, z from the spring's near end
Point point_at(const TubeBody& body, double theta, double phi);
Point normal_at(const TubeBody& body, const TubeFace& wall, double theta, double phi);
Point point_at(const TubeBody& body, const TubeEdge& edge, double parameter);
double ground_level(const TubeBody& body, bool far); // z of the ground face

// Throws std::logic_error with what is wrong unless every edge is used exactly twice in opposite directions,
// every loop is connected, and corners and edges lie on their faces within 1e-7 mm.
void require_closed(const TubeBody& body);

// How far facets over `along` rad of the axis, `around` of φ, stand off flat-sided wire's screw-shaped sides, mm.
double side_warp(const TubeBody& body, double along, double around);
// With sides within `chord` (mm) of the surface.
Mesh triangulate(const TubeBody& body, double chord);
Shading shade(const TubeBody& body, const Mesh& mesh);

// Strips are polynomials along the wire (their error is below 5e-8 mm) and exact circles around it.
Solid make_solid(const TubeBody& body, const Mesh& mesh);

} // namespace whorl::solid
