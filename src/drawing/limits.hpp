// What a dimension says behind its figure: a tolerance class of ISO 286-1, or deviations; and brackets around what is for
// information (ISO 129-1).
#pragma once

#include "drawing/draft.hpp"

namespace whorl::drawing {

// "h7", "±0.05", "+0.1/−0.2" from how they are typed: h7, +-0.05, +0.1 -0.2, -0.2/0. Empty: none. Throws InputError with
// what would be understood.
std::string limits_of(std::string_view typed);

// Onto the words of those dimensions that have some.
void say_limits(std::vector<Dimension>& dimensions, const PieceDrawing& drawing);

} // namespace whorl::drawing
