// What can be wrong with a silhouette or the hollow in one.
#pragma once

#include "check/check.hpp"

namespace whorl {

void check_silhouette(std::vector<Finding>& out, const ResolvedZone& at, std::size_t piece, std::size_t zone,
                      LengthUnit unit);

} // namespace whorl
