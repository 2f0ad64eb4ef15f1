// What can go wrong with teeth, each with its remedy.
#pragma once

#include "check/check.hpp"

namespace whorl {

void check_teeth(std::vector<Finding>& out, const ResolvedPiece& piece, std::size_t piece_index,
                 std::size_t zone, LengthUnit unit);

} // namespace whorl
