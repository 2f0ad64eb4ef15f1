// How a spring goes with what guides it, and with another one inside it.
//
// All clearances are of diameters, between round things on one axis. Over a rod: Di − rod, of the narrowest turn. A torsion
// spring's inside becomes D·n/(n + α/360°) − d as it is wound, to what it works at, else to what it bears, where that is known. In a bore:
// bore − De, of the widest turn; a compression spring's outside grows until it is solid, by 0.1·(p² − 0.8·p·d − 0.2·d²)/D
// (EN 13906-1, round wire, one pitch and diameter). One in another: Di of the outer less De of the inner one, grown.
//
// Nested springs stand between the same seats: at a length L each bears what its load curve says, and together the sum.
#pragma once

#include "form/coil/coil.hpp"
#include "model/resolve.hpp"
#include "pair/pair_mistake.hpp"

#include <vector>

namespace whorl {

struct SpringFit {
    std::vector<PairMistake>
        mistakes; // "rod", "bore", "nest": nothing is left between; "hooks"; "hands", advice
    std::vector<ResolvedValue> values;
    double clearance = 0; // mm, the least
    bool goes_together() const;
};

// With what it is paired with: a spring, a plain rod, or a bore.
SpringFit spring_fit(const ResolvedCoil& spring, const ResolvedZone& other);
SpringFit spring_over_rod(const ResolvedCoil& spring, double rod);            // mm, its largest diameter
SpringFit spring_in_bore(const ResolvedCoil& spring, double bore);            // mm, its smallest diameter
SpringFit nested_springs(const ResolvedCoil& one, const ResolvedCoil& other); // the wider one is the outer

} // namespace whorl
