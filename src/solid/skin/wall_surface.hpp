// The walls of a drum cam's track as the kernel keeps them: along t the splines of bent edges, across of
// degree 7 through the wall at eight radii, so that the edges at its ends are its very borders. Internal to
// the solid floor; includes the kernel.
#pragma once

#include "form/cam/drum.hpp"
#include "solid/kernel/screw_spline.hpp"

#include <Geom_Surface.hxx>

namespace whorl::solid {

int wall_spans(const DrumWall& wall); // along it, for all its radii alike
// Along it at a radius, in t; and across it at a t, in r.
ScrewSpline wall_along(const DrumWall& wall, double r, int spans);
ScrewSpline wall_across(const DrumWall& wall, double t);
// Its parameters are t and r.
Handle(Geom_Surface) wall_surface(const DrumWall& wall);

} // namespace whorl::solid
