// A number that changes along the wire, such as the pitch or the coil's diameter: through values at given turns, without a
// kink.
//
// Between two values quintic Hermite polynomials whose second derivative is 0 at both, so that it is C2; its integral is exact.
// The slope at a value is that of the parabola through it and the two beside it, 0 at a turning point. Such a polynomial is
// monotone where its end slopes, measured by the secant's, add up to at most 2: p' is linear in them and not negative for
// (0, 0), (2, 0) and (0, 2). Slopes are limited to that. Two values alone are joined by a straight line.
//
// With the interval h, t = (turn − turn0)/h, a and b the end slopes times h:
//
//   p = v0 + (v1 − v0)·t³·(10 − 15·t + 6·t²) + a·(t − t³·(6 − 8·t + 3·t²)) − b·t³·(4 − 7·t + 3·t²)
//   ∫p over the whole interval = h·((v0 + v1)/2 + (a − b)/10)
//
// It is meant between the first value and the last; a little beyond them the same polynomials go on.
#pragma once

#include <vector>

namespace whorl {

class Profile {
public:
    struct Point {
        double turn = 0, value = 0;
        bool level = false; // with slope 0
        friend bool operator==(const Point&, const Point&) = default;
    };
    struct Jet {
        double v = 0, d1 = 0, d2 = 0;
    };

    Profile() = default;
    explicit Profile(std::vector<Point> points); // by rising turns, at least one

    Jet operator()(double turn) const;
    double integral(double turn) const; // from turn 0, where the first point is
    // The turn at which the integral has this value, between the first point and the last; the profile is positive.
    double turn_at(double integral) const;
    const std::vector<Point>& points() const { return points_; }

private:
    std::size_t interval(double turn) const;
    double within(std::size_t i, double t) const; // the integral from point i on, t of the way to the next

    std::vector<Point> points_;
    std::vector<double> slopes_, sums_; // at the points; the integral up to them
};

} // namespace whorl
