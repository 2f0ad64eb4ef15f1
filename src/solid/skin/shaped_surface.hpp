// The walls of silhouettes as the kernel keeps them: splines of one span along the axis, since receiving programs weigh
// a face of several wrong, and a surface of revolution, however its meridian bends, worse (by up to 9 %). Where there
// are no flutes the surface is in (θ, z), the spline of a circle times the meridian, which is exact where it is a
// polynomial; where flutes wind around, in (z, φ), around of degree 7 through eight angles, so that the edges at its
// sides are its very borders. Internal to the solid floor; includes the kernel.
#pragma once

#include "solid/skin/shaped_spline.hpp"

#include <Geom_Surface.hxx>

namespace whorl::solid {

Handle(Geom_Surface) shaped_surface(const ShapedPatch& patch);

} // namespace whorl::solid
