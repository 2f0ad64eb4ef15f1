// The line that a coiled wire is wound along, and how near its coils come to each other.
//
//   c(θ) = (R(θ)·cos θ, ±R(θ)·sin θ, z(θ)),   0 ≤ θ ≤ 2π·(turns)
//
// Pitch and diameter are profiles over the turns (profile.hpp), so that R(θ) has two continuous derivatives and z(θ), the
// integral of the pitch, three. Closed coils are a pitch of their own: it goes over to that of the active ones in a window that
// lies evenly on both sides of the boundary, level at both its ends, so that the rise is exactly closed turns × closed pitch +
// active turns × pitch.
//
// Beyond its ends the line goes on in stretches, straight ones and arcs, each touching the one before: legs and hooks. They
// are told in the frame that goes with the wire: t away from the coil, o and a square to it. At the coil's end o looks away
// from the axis and a away from the coil. An arc turns t by the angle u towards b = o·cos(roll) + a·sin(roll):
//
//   c = c0 + R·(t·sin u + b·(1 − cos u)),  t' = t·cos u + b·sin u,  b' = b·cos u − t·sin u,
//
// and what is square to both stays. So both ends of a coil wear the same hook for the same numbers, of either hand. θ goes on
// by the angle on arcs; on straight stretches by length / the coil's radius there, a quarter at most.
//
// Units: mm, rad; turns are counted from the near end.
#pragma once

#include "form/coil/profile.hpp"

#include <utility>
#include <vector>

namespace whorl {

struct Vec3 {
    double x = 0, y = 0, z = 0;
    friend Vec3 operator+(Vec3 a, Vec3 b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
    friend Vec3 operator-(Vec3 a, Vec3 b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
    friend Vec3 operator*(double k, Vec3 a) { return {k * a.x, k * a.y, k * a.z}; }
};
double dot(Vec3 a, Vec3 b);
Vec3 cross(Vec3 a, Vec3 b);
double norm(Vec3 a);

// A straight length and then an arc; either may be nothing.
struct WireStretch {
    double straight = 0;                    // mm
    double radius = 0, angle = 0, roll = 0; // of the arc: mm, rad
    friend bool operator==(const WireStretch&, const WireStretch&) = default;
};

struct CoilShape {
    std::vector<Profile::Point> diameters; // mean, over the turns; at least one
    std::vector<Profile::Point> pitch;     // over the turns; at least one
    double turns = 1;                      // all of them
    bool left = false;
    double start = 0; // the angle at which the wire begins, in the direction of winding
    std::vector<WireStretch> near_end = {}, far_end = {}; // from the coil on
    friend bool operator==(const CoilShape&, const CoilShape&) = default;
};

class Centreline {
public:
    Centreline() = default;
    explicit Centreline(const CoilShape& shape);

    double begin() const {
        return near_.empty() ? 0 : -near_.back().to;
    } // the least θ of the wire, and the largest
    double end() const { return coil_end() + (far_.empty() ? 0 : far_.back().to); }
    double coil_end() const; // θ of the coil itself is from 0 to this
    double rise() const;     // of the coil

    double radius(double theta) const; // of the coil
    double height(double theta) const;
    double pitch(double theta) const;
    double turn_at_height(double height) const; // turns from the near end
    struct Point {
        Vec3 at, d1, d2; // the point, and its derivatives by θ
    };
    Point point(double theta) const;
    // Along the line, square to it and level (away from the axis), and square to both (upwards).
    struct Frame {
        Vec3 along, outwards, upwards;
        double speed = 0;         // |dc/dθ|
        double upwards_turns = 0; // d(upwards)/dθ · along
    };
    Frame frame(double theta) const;

    double length() const; // along the line, by Gauss points between breaks
    // θ at which a third derivative jumps, both ends included, ascending.
    const std::vector<double>& breaks() const { return breaks_; }
    double least_bend() const; // radius of curvature
    // The least distance between the coil and itself about a turn on; a large number below a turn.
    double least_distance() const;
    // … between a leg or hook and what of the wire is more than `along` (mm) away from there; a large number without them.
    double least_clearance(double along) const;

    const CoilShape& shape() const { return shape_; }

private:
    Point coil_point(double theta) const;
    Frame coil_frame(double theta) const;

    // A straight length or an arc of an end, `from` … `to` by the angle from the coil's end on.
    struct Stretch {
        double from = 0, to = 0;
        Vec3 at = {}, t = {}, o = {}, a = {}; // where it begins
        double radius = 0, roll = 0;          // of an arc
        double speed = 0;                     // of a straight one
    };
    // Where it is, and its frame there.
    struct Onward {
        Vec3 at, d1, d2, t, o, a;
    };
    static Onward onward(const Stretch& s, double angle);
    std::vector<Stretch> laid(const std::vector<WireStretch>& asked, bool far) const;
    // The stretch at θ, and the angle on it; none on the coil.
    std::pair<const Stretch*, double> stretch_at(double theta) const;

    CoilShape shape_;
    Profile diameter_, pitch_;
    std::vector<double> breaks_;
    std::vector<Stretch> near_, far_;
};

} // namespace whorl
