// What is left between a bore and the outside, along the piece.
#pragma once

#include "model/resolve.hpp"

namespace whorl::solid {

// Throws CannotMake where a bore leaves the piece, meets another one or breaks through the outside.
void require_walls(const ResolvedPiece& piece);

} // namespace whorl::solid
