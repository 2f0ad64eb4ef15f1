// Where the curves and surfaces of a bent piece stand in space, which are known for its straightened bar.
// Internal to the solid floor; includes the kernel.
#pragma once

#include "solid/skin/skin.hpp"

#include <Geom_Circle.hxx>
#include <Geom_ToroidalSurface.hxx>
#include <gp_Trsf.hxx>

namespace whorl::solid {

// Takes what stands square to the bar at z, or lies within a straight part there, to its place.
gp_Trsf placed_at(const BentLine& way, double z);

// A cylinder about the centreline inside a bend: u is the bend's angle, v goes round the bar backwards from the
// outside of the bend.
Handle(Geom_ToroidalSurface) torus_of(const BentPart& bend, double radius);
double torus_u(const BentPart& bend, double z);
double torus_v(const BentPart& bend, double theta);
// The line along the bar at θ and a radius; its parameter is u.
Handle(Geom_Circle) along_bend(const BentPart& bend, double theta, double radius);

} // namespace whorl::solid
