// Findings about holes square to the axis. Internal to the check floor.
#pragma once

#include "check/check.hpp"

namespace whorl {

// Whether the holes of a plain zone lie in it, in one face of a prism, clear of each other and of what is in the
// piece's bores.
void check_cross_holes(std::vector<Finding>& out, const ResolvedPiece& piece, std::size_t piece_index,
                       std::size_t zone, LengthUnit unit);

// Whether two holes of a flat bar let both legs of a U through.
void check_strap(std::vector<Finding>& out, const Job& job, const Pair& pair, const ResolvedZone& bend,
                 const ResolvedZone& strap);

} // namespace whorl
