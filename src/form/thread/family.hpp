// What a thread family's standard says about one thread: limits, basic sizes and the shape of its profile.
// Internal to the form floor; resolve_thread() makes the section and the sheet's values of it.
#pragma once

#include "form/thread/thread.hpp"

namespace whorl {

struct Limits {
    std::optional<double> min, max; // mm
    std::string source;
};

struct FamilyProfile {
    // Empty limits: the standard sets none, or none is kept here; the sheet then shows the basic size only.
    Limits major, pitch, minor;
    double basic_major = 0, basic_pitch = 0, basic_minor = 0; // mm
    double basic_root = 0;                                    // of the modelled root at basic size, mm (Ø)
    // Ø of the root when not at basic size: follows `minor` (external) if that has limits, else basic_root.
    std::string basic_source;
    std::optional<double> allowance; // mm
    std::string allowance_source;
    std::string standard;                         // of the basic profile
    double lower_angle = 0, upper_angle = 0;      // flanks to the plane square to the axis, rad
    bool round_crest = false, round_root = false; // rounded as far as it goes
    double crest_rounding = 0, root_rounding = 0; // else radii of their corners, mm
    double pitch_line_groove = 0;                 // width of the groove at the pitch line at basic size, mm
    double taper = 0, gauge_distance = 0;         // dr/dz, mm
};

// ASME B1.20.1, inch: pitch diameters at the small end and in the hand-tight plane, hand-tight engagement and
// effective length. Of sizes that are not listed, L1 is taken as 4.5 p.
struct AmericanPipe {
    double e0 = 0, e1 = 0, l1 = 0, l2 = 0;
    bool listed = false;
};
AmericanPipe american_pipe(const ThreadSpec& spec);

// Throws InputError for a class the family does not have.
FamilyProfile family_profile(const ThreadSpec& spec, const StandardStatus& status);

} // namespace whorl
