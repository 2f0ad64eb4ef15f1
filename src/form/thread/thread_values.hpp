// What follows from a thread's specification: the values of the spec sheet, in its order.
#pragma once

#include "form/thread/family.hpp"

namespace whorl {

// Diameters with their limits, depth, flats and roundings, angles, what the workshop measures (over wires,
// tap drill), what the screw does (stress area; efficiency and torque where it moves a load), class and
// series. Each carries its source. The thread's section and lead angle are known already.
std::vector<ResolvedValue> thread_values(const ResolvedThread&, const FamilyProfile&);

} // namespace whorl
