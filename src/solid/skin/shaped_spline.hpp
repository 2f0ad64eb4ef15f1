// Curves on a silhouette's wall as splines of one span, and the heights between which one span is enough. Kernel-free.
#pragma once

#include "form/silhouette/shaped_wall.hpp"
#include "solid/kernel/screw_spline.hpp"

namespace whorl::solid {

// How far one polynomial may lie off the wall along the axis, and around it, mm.
constexpr double along_tolerance = 1e-6, across_tolerance = 4e-6;

// From z0 to z1 the heights, these among them, between which the wall goes on in one course and each of its rails is one
// span: in the scallops' middles and along their sides, where the ridges' rounds begin, and over the ridges.
std::vector<double> span_heights(const std::shared_ptr<const ShapedWall>& wall, double z0, double z1);
// How far one polynomial around lies off the outline between two φ of a patch, whose heights are looked at.
double across_error(const ShapedPatch& patch);

// In space, by z at one φ from end to end of the patch, and by φ at one z.
ScrewSpline shaped_along(const ShapedPatch& patch, double phi);
ScrewSpline shaped_across(const ShapedPatch& patch, double z, double from, double to);

} // namespace whorl::solid
