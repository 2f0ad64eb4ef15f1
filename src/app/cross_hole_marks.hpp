// Holes square to the axis, seen from 90°: their mouths on this side, dashed what is hidden of their walls.
#pragma once

#include "app/forms/side.hpp"

namespace whorl::app {

void draw_cross_holes(QPainter& p, const ResolvedZone& zone, const SidePlace& place);

} // namespace whorl::app
