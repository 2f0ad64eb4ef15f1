// What can be wrong with a drum cam.
#pragma once

#include "check/check.hpp"

namespace whorl {

void check_drum(std::vector<Finding>& out, const ResolvedDrum& drum, std::size_t piece, std::size_t zone,
                LengthUnit unit);

} // namespace whorl
