// B-splines for curves that are straight in (θ, r, z): helices, spirals and their tapered kin. Kernel-free.
//
// On uniform knots of spacing δ, the spline Σ λ·e^{ikδ}·B(θ/δ − k) of degree p reproduces e^{iθ} up to its
// aliases, because B-splines reproduce each frequency times sinc^{p+1}(δ/2) (Schoenberg, cardinal spline
// interpolation). With λ = sinc^{−(p+1)}(δ/2) the remaining relative error is at most
//     ε = (x/(π − x))^{p+1} + (x/(π + x))^{p+1},   x = δ/2.
// Differentiating by the frequency gives the poles of θ·e^{iθ} for a radius linear in θ; its error is at most
// (p + 1)·π/(π − x)·ε per unit of dr/dθ, which screw_spans() adds to the radius. z is reproduced exactly.
// Inner knots are simple: p = 7 needs about 13 poles a turn for 5e-8 mm at a radius of 5 mm.
#pragma once

#include "solid/mesh/mesh.hpp"

#include <vector>

namespace whorl::solid {

constexpr int spline_degree = 7;
constexpr double spline_tolerance = 5e-8; // mm, the largest distance from the true curve

struct ScrewSpline {
    std::vector<Point> poles;
    std::vector<double> knots;     // distinct, ascending
    std::vector<int> multiplicity; // degree + 1 at both ends, 1 between
};

// Spans needed over an angle (rad) for a curve of this largest radius (mm) and this |dr/dθ| (mm/rad).
int screw_spans(double angle, double largest_radius, double slope);
int screw_spans(const UnrolledPoint& from, const UnrolledPoint& to);

// The curve r(θ) = r0 + (r1 − r0)·x, z(θ) = z0 + (z1 − z0)·x with x = (θ − θ0)/(θ1 − θ0), clamped, with its
// parameter running from θ0 to θ1. θ1 must be greater than θ0.
ScrewSpline screw_spline(const UnrolledPoint& from, const UnrolledPoint& to, int spans);

} // namespace whorl::solid
