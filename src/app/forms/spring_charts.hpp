// A spring in the place of the developed view: pitch and diameter over the turns, their stations dragged, and under them load
// over length (of torsion springs moment over angle), its state dragged.
#pragma once

#include "app/developed_view.hpp"

namespace whorl::app {

void draw_spring_charts(DevelopedView& view, QPainter& p, const ResolvedZone& zone);

} // namespace whorl::app
