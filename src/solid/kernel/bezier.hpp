// One polynomial of the splines' degree through eight points. Kernel-free.
#pragma once

#include "solid/kernel/screw_spline.hpp"

#include <array>
#include <cstddef>

namespace whorl::solid {

// Where it is interpolated between 0 and 1: the extremes of a Chebyshev polynomial, both ends among them.
double bezier_node(std::size_t k);
// From values at the nodes to Bézier poles; the ends are taken as they are.
std::array<Point, spline_degree + 1> bezier_through(const std::array<Point, spline_degree + 1>& values);

} // namespace whorl::solid
