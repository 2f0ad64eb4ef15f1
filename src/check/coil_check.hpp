// What can go wrong with a coil, each with its remedy.
#pragma once

#include "check/check.hpp"

namespace whorl {

void check_coil(std::vector<Finding>& out, const ResolvedCoil& coil, std::size_t piece, std::size_t zone,
                LengthUnit unit);

} // namespace whorl
