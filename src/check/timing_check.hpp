// What can be wrong with a cam's timing by itself, whatever it drives.
#pragma once

#include "check/check.hpp"
#include "form/cam/timing.hpp"

namespace whorl {

struct TimingTrouble {
    const char* id;
    std::string sentence;
    double value, limit;
    std::string label; // of the remedy; empty: there is none
    Timing mended;
};
// A timing that does not close, in angle or in lift, or runs past the turn.
std::optional<TimingTrouble> timing_trouble(const Timing& timing, const Motion& motion, LengthUnit unit);

} // namespace whorl
