// What can be wrong with a cam's lobe.
#pragma once

#include "check/check.hpp"

namespace whorl {

void check_lobe(std::vector<Finding>& out, const ResolvedCam& cam, std::size_t piece, std::size_t zone,
                LengthUnit unit);

} // namespace whorl
