// Our splines as the kernel keeps them. Internal to the solid floor; includes the kernel.
#pragma once

#include "solid/kernel/screw_spline.hpp"

#include <Geom2d_Curve.hxx>
#include <Geom_Curve.hxx>
#include <Geom_Surface.hxx>

namespace whorl::solid {

Handle(Geom_Curve) kernel_curve(const ScrewSpline& spline);
// Of x and y alone: an image in a surface's parameters.
Handle(Geom2d_Curve) kernel_image(const ScrewSpline& spline);

// A surface of degree 7 along u, with the knots of one spline along u and of another along v. Poles lie row
// by row, v within u.
Handle(Geom_Surface)
    kernel_surface(const std::vector<Point>& poles, const ScrewSpline& u, const ScrewSpline& v, int degree_v);

} // namespace whorl::solid
