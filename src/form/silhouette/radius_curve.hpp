// A radius as a function of the height: what a silhouette, a flute's depth and the inside of a wall are made of.
//
// Points are joined by cubics with given slopes at both ends (Hermite), or by pairs of arcs that touch each other and
// those slopes (biarcs, Bolton 1975). What the slopes are is the course's choice:
//
//   spline     curvature goes on evenly from cubic to cubic (de Boor, A practical guide to splines, IV); at the ends
//              it is none
//   monotone   nothing between two points is beyond them: the harmonic means of Fritsch and Butland (1984)
//   arcs       the tangent of the circle through a point and its neighbours
//
// Where a point says its slope, it has that, in every course.
#pragma once

#include "form/jet.hpp"

#include <array>
#include <optional>
#include <string_view>
#include <vector>

namespace whorl {

enum class Course { spline, monotone, arcs };
constexpr int course_count = 3;
std::string_view word(Course course); // "spline", "monotone", "arcs"

struct CurvePoint {
    double at = 0, value = 0;    // mm
    std::optional<double> slope; // of the value over the height; none: by the course
    friend bool operator==(const CurvePoint&, const CurvePoint&) = default;
};

// A point that a curve goes through with this slope, bent by this second derivative before and behind it.
struct BentPoint {
    double at = 0, value = 0, slope = 0, bend_before = 0, bend_behind = 0;
};

class RadiusCurve {
public:
    RadiusCurve() = default;
    // Two points or more, their heights rising. Throws InputError where arcs would fold back.
    RadiusCurve(const std::vector<CurvePoint>& points, Course course);
    // Of degree 5 from point to point.
    explicit RadiusCurve(const std::vector<BentPoint>& points);

    double from() const { return pieces_.front().from; }
    double to() const { return pieces_.back().to; }
    double operator()(double z) const;
    // By the height. Beyond the ends the curve goes on straight.
    Jet jet(double z) const;
    // Where one piece ends and the next begins, both ends of the curve among them, in rising order.
    std::vector<double> breaks() const;

    struct Extreme {
        double at = 0, value = 0;
    };
    Extreme least() const;
    Extreme largest() const;
    Extreme steepest() const; // its value: the largest |dr/dz|

private:
    struct Piece {
        double from = 0, to = 0;
        std::array<double, 6> c{};       // in powers of z − from
        double z = 0, r = 0, radius = 0; // of an arc: its centre and radius, radius 0: a cubic
        int side = 1;                    // of the centre on which it lies: +1 at larger radii
    };
    static Jet jet_of(const Piece& piece, double z);
    void add_cubic(const CurvePoint& a, const CurvePoint& b);
    void add_arcs(const CurvePoint& a, const CurvePoint& b);
    void add_arc(double z0, double r0, double slope, double z1, double r1);
    std::vector<double> candidates() const; // heights of the extremes
    std::vector<Piece> pieces_;
};

} // namespace whorl
