// What can go wrong with teeth, each with its remedy.
#pragma once

#include "check/check.hpp"

namespace whorl {

void check_teeth(std::vector<Finding>& out, const ResolvedPiece& piece, std::size_t piece_index,
                 std::size_t zone, LengthUnit unit);

void check_rack(std::vector<Finding>& out, const ResolvedRack& rack, std::size_t piece, std::size_t zone,
                LengthUnit unit);
// That cutters of this module are made.
void check_module(std::vector<Finding>& out, Length module, std::size_t piece, std::size_t zone);

} // namespace whorl
