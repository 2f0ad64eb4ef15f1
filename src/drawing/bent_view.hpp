// What is said of a bent piece, seen square to its first bend's plane: lengths along its straight parts, radius and angle at
// each bend, all else on leaders.
#pragma once

#include "drawing/placed_view.hpp"

namespace whorl::drawing {

// Onto a view whose lines stand already.
void place_along_bent(PlacedView& view, const Draft& draft, double scale);

} // namespace whorl::drawing
