// Findings about rounded edges and fillets. Internal to the check floor.
#pragma once

#include "check/check.hpp"

namespace whorl {

// Whether the shoulder or the rim that each is asked for is there, and large enough.
void check_edges(std::vector<Finding>& out, const ResolvedPiece& piece, std::size_t piece_index,
                 std::size_t zone, LengthUnit unit);

} // namespace whorl
