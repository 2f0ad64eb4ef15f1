// The closed skin of a piece, in unrolled coordinates.
//
// In cylinder coordinates (θ, r, z) a threaded piece is a polyhedron. A flank swept by the screw motion is
// the plane r = a + b·z + c·θ there; so are a cylinder (r = a), a chamfer cone (r = a + b·z) and a groove
// that is withdrawn evenly in a run-out; a flat end is the plane z = a. Two planes meet in a straight line,
// so every edge of the piece is a straight segment in (θ, r, z): helix, circle, spiral, chamfer trim and
// axial line alike. All trims are therefore exact; nothing is intersected numerically.
//
// The skin is the one description that the triangulation, the kernel solid, the volume and the picking all
// use. Units: mm and radians. θ is unrolled: a loop on a band of many turns runs through many times 2π.
#pragma once

#include <array>
#include <cstdint>
#include <stdexcept>
#include <string>
#include <vector>

namespace whorl::solid {

struct UnrolledPoint {
    double theta = 0, r = 0, z = 0;
};

// Straight in (θ, r, z) from one corner to another.
struct Edge {
    int from = -1, to = -1;   // corner indices
    UnrolledPoint begin, end; // begin.theta and end.theta are unrolled continuously along the edge
    int join = -1;            // index into Skin::joins for edges in a plane between zones, else −1
};

// An edge in a loop: its direction, and how many turns its θ is moved to lie in the loop's unrolled chart.
struct EdgeUse {
    int edge = -1;
    bool forward = true;
    int turn = 0;
};

enum class FaceKind {
    flat,  // z = a; the outward normal is +z or −z
    round, // r = a + b·z + c·θ, outward normal away from the axis
};

// What a face is on the piece, for selection and colour.
enum class FaceRole { end, step, plain, chamfer, crest, flank, root, run_out };

struct Face {
    FaceKind kind = FaceKind::round;
    FaceRole role = FaceRole::plain;
    int zone = 0;
    double a = 0, b = 0, c = 0; // round: r = a + b·z + c·θ in the loop's chart. flat: z = a
    bool up = true;             // flat: outward normal is +z
    // dz/dθ of the ruling rails, for surfaces that are neither cylinder nor cone: rails run along z − slope·θ
    // = const.
    double rail_slope = 0;
    // Outer loop first. Round: counter-clockwise in (θ, z). Flat: counter-clockwise seen against the outward
    // normal. Flat rings and discs are bounded by loops that go once around the axis.
    std::vector<std::vector<EdgeUse>> loops;
};

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
};

// Closed-form volume in mm³: the integral of r²/2 over the round faces' charts. Exact for the skin.
double volume(const Skin& skin);

// Throws std::logic_error with what is wrong unless every edge is used exactly twice in opposite directions,
// every loop is connected, and every corner of a face lies on its surface within 1e-7 mm.
void require_closed(const Skin& skin);

// Where a loop's use of an edge starts and ends, in the loop's chart.
UnrolledPoint start_of(const Skin& skin, const EdgeUse& use);
UnrolledPoint end_of(const Skin& skin, const EdgeUse& use);

} // namespace whorl::solid
