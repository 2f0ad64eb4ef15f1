// Findings about bends. Internal to the check floor.
#pragma once

#include "check/check.hpp"

namespace whorl {

void check_bend(std::vector<Finding>& out, const ResolvedPiece& piece, std::size_t piece_index,
                std::size_t zone, LengthUnit unit);

} // namespace whorl
