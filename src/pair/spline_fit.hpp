// How a splined shaft and its hub go together: clearances as they are made and at their limits, and what is wrong if they
// can't.
#pragma once

#include "form/tooth/spline.hpp"
#include "pair/pair_mistake.hpp"

#include <string>
#include <vector>

namespace whorl {

struct SplineFit {
    // "teeth", "module", "pressure_angle", "reference_diameter", "shaft_tip", "hub_tip", "flanks"; empty: they go together
    std::vector<PairMistake> mistakes;
    double flank_clearance = 0; // mm, of both flanks of a tooth on the pitch circle, as made
    double form_clearance = 0;  // mm, radially, of a tip to where the fillet of the other begins
    std::vector<ResolvedValue> values;
    bool goes_together() const { return mistakes.empty(); }
};

// `engaged`: the length over which both have teeth. Overlap is looked for in the outlines, fillets and all: a tip that
// reaches a fillet just where that leaves the flank is no mistake, but a form clearance below zero.
SplineFit spline_fit(const ResolvedSpline& shaft, const ResolvedSpline& hub, Length engaged);

} // namespace whorl
