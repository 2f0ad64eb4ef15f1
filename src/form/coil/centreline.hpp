// The line that a coiled wire is wound along, and how near its coils come to each other.
//
//   c(θ) = (R(θ)·cos θ, ±R(θ)·sin θ, z(θ)),   0 ≤ θ ≤ 2π·(turns)
//
// The pitch is that of the closed coils at both ends and the active one between; it goes from one to the
// other as 3x² − 2x³ over a window that lies evenly on both sides of the boundary, so that the rise is
// exactly dead turns × closed pitch + active turns × pitch, and z(θ) has two continuous derivatives. The
// diameter goes through its stations, evenly spread over all turns, as quintic Hermite polynomials whose
// second derivative is 0 there; between two stations it is a straight line. Such a polynomial is monotone
// where its end slopes, measured by the secant's, add up to at most 2: p' is linear in them and not negative
// for (0, 0), (2, 0) and (0, 2). Slopes are limited to that.
//
// Units: mm, rad; turns are counted from the near end.
#pragma once

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

struct CoilShape {
    std::vector<double> diameters; // mean, at the stations; at least one
    double turns = 1;              // all of them
    double dead = 0;               // of them at each end, with the closed pitch
    double pitch = 1, closed_pitch = 1;
    double window =
        0.25; // turns on both sides of a boundary over which the pitch changes, where there is room
    bool left = false;
    friend bool operator==(const CoilShape&, const CoilShape&) = default;
};

class Centreline {
public:
    Centreline() = default;
    explicit Centreline(const CoilShape& shape);

    double end() const; // the largest θ
    double rise() const;

    double radius(double theta) const;
    double height(double theta) const;
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
    // The least distance between the line and itself about a turn on; a large number below a turn.
    double least_distance() const;

    const CoilShape& shape() const { return shape_; }

private:
    struct Value {
        double v = 0, d1 = 0, d2 = 0;
    };
    Value radius_at(double turn) const; // derivatives by the turn
    Value height_at(double turn) const;

    CoilShape shape_;
    std::vector<double> slopes_; // dR/d(turn) at the stations
    std::vector<double> breaks_;
    double window_ = 0; // half of it, in turns
};

} // namespace whorl
