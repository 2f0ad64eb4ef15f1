// Pairs that nothing screws or turns on: where the second piece stands, in the first one's space.
//
//   a U-clamp and its strap   across both legs, two bars' thicknesses before the ends: room for nuts
//   a splined shaft and hub   the same, a tooth of one in a space of the other
//   a bush and its pin        along the bush's axis, the middles of both zones in one plane
//   a spring and what guides it, or another one in it: the same
#pragma once

#include "model/forms/follower.hpp"

#include <optional>

namespace whorl {

// None where the two are no such pair.
std::optional<Standing> standing_of(const ResolvedPiece& first, std::size_t zone, const ResolvedPiece& second,
                                    std::size_t second_zone);
// Where the first stands in the second one's space.
Standing inverse(const Standing& s);

} // namespace whorl
