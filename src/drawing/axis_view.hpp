// What is said around a view of a piece with an axis: lengths under it, diameters beside it or through their zone, notes at
// its corners and above.
#pragma once

#include "drawing/placed_view.hpp"

namespace whorl::drawing {

// Onto a view whose outline is known.
void place_around_axis(PlacedView& view, const Draft& draft, double scale);

} // namespace whorl::drawing
