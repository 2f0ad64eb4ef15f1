// What can be wrong with a groove.
#pragma once

#include "check/check.hpp"

namespace whorl {

void check_groove(std::vector<Finding>& out, const ResolvedZone& at, std::size_t piece, std::size_t zone,
                  LengthUnit unit);

} // namespace whorl
