// The round of a milled groove's end as the kernel keeps it: one polynomial patch of degree 7 in α and v, v from 0 outside
// to 1 inside. Internal to the solid floor; includes the kernel.
#pragma once

#include "solid/skin/scoop.hpp"

#include <Geom_Surface.hxx>

namespace whorl::solid {

Handle(Geom_Surface) scoop_surface(const Scoop& scoop, double sign); // of its radii

} // namespace whorl::solid
