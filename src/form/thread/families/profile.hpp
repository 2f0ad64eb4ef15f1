// Profiles that several thread families share.
#pragma once

#include "form/thread/family.hpp"
#include "quantity/expression.hpp"

#include <cmath>

namespace whorl {

extern const double height_per_pitch; // H / P of a 60° thread
double rounded_to_micrometre(double v);
double degrees(double d); // in rad

// 60°, its root rounded where the spec says so.
FamilyProfile sixty_degrees(const ThreadSpec& s, const char* standard);
// A profile symmetric about the pitch line without its own tolerances: major, pitch and minor diameters.
FamilyProfile plain_profile(const ThreadSpec& s, const char* standard, double half_angle, double major,
                            double pitch_diameter, double minor);
// 55°, H = 0.960491·P truncated H/6, depth 0.640327·P, crest and root rounded with 0.137329·P.
FamilyProfile whitworth_form(const ThreadSpec& s, const char* standard);
// ISO 7-1 and ISO 228-1 print micrometres, and take the diameters from the printed depth.
FamilyProfile pipe_form(const ThreadSpec& s, const char* standard);

// ASME B1.20.1, inch: pitch diameters at the small end and in the hand-tight plane, hand-tight engagement and
// effective length. Of sizes that are not listed, L1 is taken as 4.5 p.
struct AmericanPipe {
    double e0 = 0, e1 = 0, l1 = 0, l2 = 0;
    bool listed = false;
};
AmericanPipe american_pipe(const ThreadSpec& spec);

} // namespace whorl
