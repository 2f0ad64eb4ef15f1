// The closed skin of a piece, in unrolled coordinates.
//
// In cylinder coordinates (θ, r, z) a threaded piece is made of planes and of cylinders in the general sense
// (an arc pushed along a straight line). A straight flank swept by the screw motion is the plane
// r = a + b·z + c·θ there; so are a cylinder (r = a), a cone (r = a + b·z), the crest of a tapered thread and
// a groove that is withdrawn evenly in a run-out; a flat end is the plane z = a. A rounded root is an arc
// pushed along the screw direction. Two planes meet in a straight line and an arc's surface meets a plane in
// an affine image of the arc, so every edge has a closed form and all trims are exact. Only where the outlines of
// teeth, lobes and silhouettes cross those of a neighbour (rim.cpp) and where a drum's ways cross (track_walls.cpp) is
// a parameter found by iteration, to rounding. The flats of a hexagon are plane in space instead,
// r = h/cos(θ − θf), and the flanks of teeth are curves of the transverse plane pushed along the axis or screwed
// along it.
//
// The skin is the one description that the triangulation, the kernel solid, the volume and the picking all
// use. A bent piece is that of its straightened bar all along: z runs along the centreline (Skin::way), and only
// points, curves and surfaces are placed in space by it. Inside a bend there are cylinders alone, which become
// tori of the same volume. Units: mm and radians. θ is unrolled: a loop on a band of many turns runs through many times 2π.
#pragma once

#include "form/bend/bent_line.hpp"
#include "form/cam/drum.hpp"
#include "form/silhouette/shaped_wall.hpp"
#include "form/tooth/transverse_curve.hpp"
#include "solid/skin/scoop.hpp"

#include <array>
#include <cstdint>
#include <memory>
#include <stdexcept>
#include <string>
#include <vector>

namespace whorl::solid {

struct UnrolledPoint {
    double theta = 0, r = 0, z = 0;
};

// An affine image of a circular arc: centre + u·cos φ + v·sin φ, from one φ to another.
struct Bow {
    UnrolledPoint centre, u, v;
    double from = 0, to = 0;
};

// The trace of a flat that is plane in space: r = distance/cos(θ − theta), z = z0 + slope·r on a cone, or on a
// ball of this radius about the axis z = z0 ± √(ball² − r²), above its middle (+1) or below (−1).
struct FlatTrace {
    double distance = 0, theta = 0, z0 = 0, slope = 0;
    double ball = 0, above = 0;
    bool level() const { return slope == 0 && ball == 0; }
};
double height_at(const FlatTrace& trace, double r);

// A curve of a tooth's outline, where it stands. Its point at the parameter t is turned by `turned` +
// `twist`·z about the axis, or first mirrored about the middle of its space, as the other flank of that space
// is.
struct ToothCurve {
    std::shared_ptr<const TransverseCurve> curve;
    bool mirrored = false;
    double turned = 0; // rad, at z = 0
    double twist = 0;  // rad per mm
    double sign = 1;   // −1: radii are counted negative, see reflect()
};
UnrolledPoint point_at(const ToothCurve& c, double parameter, double z);
double parameter_at(const ToothCurve& c, const UnrolledPoint& p); // of a point on it

// A hole square to the axis: its own axis lies in the plane z and looks to `towards`. A point of its wall is known
// by u along that axis, counted from the piece's, and the angle t around it: radius·cos t across the piece to the
// left of where it looks, z + radius·sin t along the piece.
struct CrossHole {
    double radius = 0, z = 0, towards = 0;
};
double along_hole(const CrossHole& hole, const UnrolledPoint& p);  // u
double around_hole(const CrossHole& hole, const UnrolledPoint& p); // t, −π to π

// Where a hole breaks through a face r = a + b·z, or through the plane at the distance a that looks to
// `side_theta`: on the side that the hole looks to, or on the other one.
struct Mouth {
    CrossHole hole;
    bool plane = false;
    double a = 0, b = 0, side_theta = 0;
    bool behind = false;
};
UnrolledPoint point_at(const Mouth& mouth, double t);

enum class EdgeShape {
    straight, // in (θ, r, z)
    bow,      // on an arc's surface
    flat_trace,
    tooth,  // a tooth's curve in a plane z = begin.z
    traced, // on the wall of a drum cam's track: along it at one radius, or across it at one t
    mouth,  // of a cross hole, by the angle t around that
    shaped  // on a silhouette's wall: up it at one φ, by z, or around it at one z, by φ
};

struct Edge {
    int from = -1, to = -1;   // corner indices
    UnrolledPoint begin, end; // begin.theta and end.theta are unrolled continuously along the edge
    int join = -1;            // index into Skin::joins for edges in a plane between zones, else −1
    EdgeShape shape = EdgeShape::straight;
    Bow bow = {};
    FlatTrace trace = {};
    ToothCurve tooth = {};
    double tooth_from = 0,
           tooth_to = 0; // parameters at begin and end, of a mouth and a traced edge too: t, or r
                         // across
    std::shared_ptr<const DrumWall> wall = {}; // traced
    double level = 0;                          // … its radius or, across, its t
    bool across = false;
    std::shared_ptr<const ShapedPatch> patch = {}; // shaped; `level` is its φ or, across, its z
    double wall_bulge = 0; // the largest of its zone's, so that all walls take as many rows
    bool rail = false;     // between two faces of a toothed zone: sampled in that zone's rows
    int bend = -1;         // along the bar inside this part of the way
    std::shared_ptr<const Mouth> mouth = {};
    bool along_hole = false; // a level flat trace along a hole's wall
    bool scooped = false; // of a milled end: a bow around it, a bow or a line from its outside to its inside
    bool across_scoop = false; // … the latter, which lies between two of its faces
};

// The edge's own parameter: 0 to 1 (straight), φ (bow), θ (flat trace), the curve's (tooth, traced, mouth, shaped), at
// begin and end.
double first_parameter(const Edge& e);
double last_parameter(const Edge& e);
UnrolledPoint point_at(const Edge& e, double parameter);

// φ inside the bow's range at which its θ turns back; none if it is monotone.
std::vector<double> bow_turns(const Bow& bow);

// φ at which a bow's θ has the given value, within the bow's range. The bow must be monotone in θ.
double bow_parameter(const Bow& bow, double theta);
UnrolledPoint point_at(const Bow& bow, double phi);

// An edge in a loop: its direction, and how many turns its θ is moved to lie in the loop's unrolled chart.
struct EdgeUse {
    int edge = -1;
    bool forward = true;
    int turn = 0;
};

// A loop run the other way.
std::vector<EdgeUse> reversed(std::vector<EdgeUse> loop);

enum class FaceKind {
    flat,    // z = a; the outward normal is +z or −z
    round,   // r = a + b·z + c·θ, outward normal away from the axis
    curved,  // round plus an arc: r = a + b·z + c·θ + arc_radius·sin φ, z − rail_slope·θ = arc_z +
             // arc_radius·cos φ
    side,    // plane in space and parallel to the axis: r = a/cos(θ − side_theta)
    toothed, // a tooth's curve pushed along the axis, or screwed along it
    wall,    // of a drum cam's track, in t and r; its own normal, along t × outwards, looks to the near end
    shaped,  // of a silhouette, in φ and z
    scoop,   // of a groove's milled end, in α and v
    hole     // the wall of a cross hole, in t and u; `inward`, as it looks to the hole's axis
};

// What a face is on the piece, for selection and colour.
enum class FaceRole { end, step, plain, chamfer, crest, flank, root, run_out };

struct Face {
    FaceKind kind = FaceKind::round;
    FaceRole role = FaceRole::plain;
    int zone = 0;               // of the outer chain or, with `bore`, of that bore chain
    int bore = 0;               // 0: outer skin, 1: bore from the near end, 2: bore from the far end
    double a = 0, b = 0, c = 0; // in the loop's chart
    bool up = true;             // flat: outward normal is +z
    bool inward = false;        // round, curved, side: the outward normal points to the axis
    // dz/dθ of the ruling rails, for surfaces that are neither cylinder nor cone: rails run along z − slope·θ
    // = const.
    double rail_slope = 0;
    double arc_z = 0, arc_radius = 0; // curved; φ in (0, π) bulges outwards, (−π, 0) inwards
    double arc_from = 0, arc_to = 0;  // curved: the range of φ
    double side_theta = 0;
    ToothCurve tooth = {}; // toothed
    std::shared_ptr<const DrumWall> wall = {};
    double wall_bulge = 0;
    std::shared_ptr<const ShapedPatch> patch = {}; // shaped; radii have the sign of `tooth`
    std::shared_ptr<const Scoop> scoop = {};       // radii have the sign of `tooth`
    std::shared_ptr<const CrossHole> hole = {};    // its t from arc_from to arc_to
    int bend = -1;                                 // round: a cylinder inside this part of the way
    // Outer loop first. Round, curved, side: counter-clockwise in (θ, z), clockwise if inward. Flat:
    // counter-clockwise seen against the outward normal. Flat rings and discs are bounded by loops that go
    // once around the axis. A hole's wall: clockwise in (t, u). The mouths of cross holes are further loops.
    std::vector<std::vector<EdgeUse>> loops;
};

// How far a point lies from the face's surface, in r (flat: in z).
double off_surface(const Face& f, const UnrolledPoint& p);

// θ of every corner in a plane between two zones; both boundaries are sampled there, so that a thin ring
// between two curves of nearly equal radius can't fold when it is triangulated.
struct Join {
    double z = 0;
    std::vector<double> theta; // in [0, 2π), ascending
};

struct Skin {
    std::vector<UnrolledPoint> corners;
    std::vector<Edge> edges;
    std::vector<Face> faces;
    std::vector<Join> joins;
    BentLine way; // empty: along the axis
    bool bent() const { return !way.straight(); }
};

// Closed-form volume in mm³: the integral of r²/2 over the faces' charts, as a contour integral (Gauss points
// on bent edges, exact on straight ones).
double volume(const Skin& skin);

// Throws std::logic_error with what is wrong unless every edge is used exactly twice in opposite directions,
// every loop is connected, and every corner and edge of a face lies on its surface within 1e-7 mm.
void require_closed(const Skin& skin);

// Where a loop's use of an edge starts and ends, in the loop's chart.
UnrolledPoint start_of(const Skin& skin, const EdgeUse& use);
UnrolledPoint end_of(const Skin& skin, const EdgeUse& use);

// A bore is built as the skin of a bar whose radii are negative, so that its threads, cones and run-outs are
// the outer ones seen in a mirror; this turns it over.
void reflect(Skin& skin);
// Adds an edge that is straight in (θ, r, z) and gives its index; between corners where they stand, but for
// their θ.
int add_straight(Skin& skin, int from, const UnrolledPoint& begin, int to, const UnrolledPoint& end,
                 int join = -1);
int add_straight(Skin& skin, int from, double begin_theta, int to, double end_theta);

// Adds all of `more`; returns the offset of its edges and faces.
struct Offset {
    int corner = 0, edge = 0, face = 0, join = 0;
};
Offset append(Skin& to, Skin&& more);

} // namespace whorl::solid
