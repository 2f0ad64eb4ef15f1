// How a screw's thread and a nut's thread go together: clearances at the modelled sizes and at the limits,
// what the engagement carries, and what is wrong if they can't.
//
// The two sections are laid over each other with every ridge of the nut in the middle of a groove of the
// screw; where flanks differ, with the nut moved along the axis to where the least clearance is largest.
#pragma once

#include "form/thread/thread.hpp"

namespace whorl {

enum class Mismatch { side, form, pitch, diameter, hand, starts, taper, interference, limits };

struct FitMistake {
    Mismatch what;
    std::string sentence;
    double value = 0, limit = 0; // mm or a count, as the sentence says
};

struct Fit {
    std::vector<FitMistake> mistakes; // empty: they go together
    std::vector<ResolvedValue> values;
    double least_clearance = 0; // mm, the sections' distance from each other; negative: they overlap
    // They go together, but nothing is left between them: threads made like this will not turn.
    bool will_not_turn = false;
    double shift = 0; // mm along the axis from a groove of the screw to a ridge of the nut, middle to middle
    bool goes_together() const { return mistakes.empty(); }
};

// `engaged` is the length over which both threads are in contact, for the shear areas; without it they are
// for one diameter. Clearances need the same form, pitch and starts; if those differ, only the mistakes are
// said.
Fit fit_of(const ResolvedThread& screw, const ResolvedThread& nut, std::optional<Length> engaged = {});

// Radial clearance (mm) between two sections at z from the middle of a groove of the screw.
double clearance_at(const ThreadSection& screw, const ThreadSection& nut, double z, double shift = 0);

} // namespace whorl
