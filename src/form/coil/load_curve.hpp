// Load over travel of a spring, piecewise straight, with the stress beside it.
#pragma once

#include <vector>

namespace whorl {

class LoadCurve {
public:
    struct Point {
        double travel = 0, load = 0; // mm, N; of torsion springs degrees, N·mm
        double stress = 0; // the largest in its coils, MPa: shear, of torsion springs bending times q
    };
    LoadCurve() = default;
    explicit LoadCurve(std::vector<Point> points)
        : points_(std::move(points)) {} // rising, from the free state on
    // Before the first point and beyond the last, a solid spring, it stays there.
    Point at_travel(double travel) const;
    Point at_load(double load) const;
    const std::vector<Point>& points() const { return points_; }

private:
    std::vector<Point> points_;
};

} // namespace whorl
