// What goes with a cam's lobe or track: its follower's size, the spring that holds it on. Internal to the
// check floor.
#pragma once

#include "check/check.hpp"

namespace whorl {

// Of a pair of which one is a cam. Nothing where the other is none of these.
void check_follower(std::vector<Finding>& out, const Job& job, const Pair& pair, const ResolvedZone& first,
                    const ResolvedZone& second);

} // namespace whorl
