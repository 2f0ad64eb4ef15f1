// What can be wrong with a groove.
#pragma once

#include "check/check.hpp"

namespace whorl {

void check_groove(std::vector<Finding>& out, const ResolvedZone& at, std::size_t piece, std::size_t zone,
                  LengthUnit unit);

// A bush and the pin that is to turn in it.
void check_pin(std::vector<Finding>& out, const Job& job, const Pair& pair, const ResolvedZone& bush,
               const ResolvedZone& pin);

} // namespace whorl
