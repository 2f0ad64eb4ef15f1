// A plug or ring gauge tried against a modelled thread, in place of the real one.
//
// ISO 1502: the GO gauge has the form at maximum material and must pass over the whole length; the NOT GO
// gauge touches the flanks only, at the other limit of the pitch diameter, and must not enter. Both are taken
// at the limits themselves, without the gauges' own tolerances.
#pragma once

#include "form/thread/thread.hpp"

namespace whorl {

struct GaugeTrial {
    bool possible = false;    // the family has limits
    bool go_passes = false;   // else `go` says where it jams
    bool no_go_stops = false; // else the thread is too loose
    double go_clearance = 0;  // mm on the diameter, the least of crest and pitch; negative: it jams
    double no_go_overlap = 0; // mm on the pitch diameter; negative: it drops through
    std::string go, no_go;    // a sentence each
};

GaugeTrial try_gauges(const ResolvedThread& thread);

} // namespace whorl
