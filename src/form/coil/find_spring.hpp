// Backwards: from what a compression spring has to bear, and the room it has, to springs of wire that is on stock.
//
// From two loads F1 at L1 and F2 at L2 (or one and a rate) the rate R = (F2 − F1)/(L1 − L2). For every preferred wire d and
// every number n of active turns, by halves from 2.5 on, the mean diameter that has that rate is
//
//   D = (G·d⁴/(8·n·R))^(1/3),
//
// the free length is that with which both loads are missed alike; both in whole twentieths of a millimetre. Ends are closed and
// ground, nt = n + 2. A spring fits if (EN 13906-1; w = D/d)
//
//   w is 4 to 20                                                index
//   D + d + growth ≤ outside, growth = 0.1·(p² − 0.8·p·d − 0.2·d²)/D;  D − d ≥ inside
//   L2 ≥ nt·d + n·(0.0015·D²/d + 0.1·d)                         least sum of gaps
//   nt·d ≤ solid, if asked
//   8·R·(L0 − nt·d)·D/(π·d³) ≤ 0.56·Rm                          stress at solid
//   L0 − L2 ≤ s_K, with ν = 0.5, if nothing leads it inside     buckling
//
// Best first: the lightest, of what is not off its loads by more than 2 %.
#pragma once

#include "form/coil/coil.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace whorl {

struct LoadAt {
    double force = 0, length = 0; // N, mm
};

struct SpringWanted {
    std::vector<LoadAt> loads;                    // one or two
    std::optional<double> rate;                   // N/mm, with one load
    std::optional<double> outside, inside, solid; // mm
    std::string wire_class = "SM";                // of EN 10270-1
};

struct SpringFound {
    CoilSpec spec;
    double rate = 0, mass = 0;           // N/mm, g
    std::vector<double> forces;          // at the lengths asked, N
    double solid_length = 0, margin = 0; // mm; what is left over solid and gaps at the shortest length
    double used = 0;                     // stress at solid over what is permitted
    std::optional<double> buckles_at;    // travel, mm; none: never
    std::string why, in_short;           // in words
};

// The search in one line: `find spring 40@32 65@24 outside 24 inside 10 solid 20 wire SH`, or `find spring 40@32 rate 3`. N at mm,
// with `in` at the end at inch. Throws InputError with the place of what is not understood.
bool is_spring_search(std::string_view text);
SpringWanted parse_spring_search(std::string_view text);

// At most 60. Throws InputError for what contradicts itself; where nothing fits, with what stands in the way.
std::vector<SpringFound> find_springs(const SpringWanted& wanted);

// The preferred diameters of spring wire, mm, ascending.
const std::vector<double>& preferred_wires();

// The travel at which a compression spring buckles (EN 13906-1), mm; none if it never does. ν = 0.5: both ends held square.
std::optional<double> buckling_travel(double free_length, double mean_diameter, double shear_modulus,
                                      double elastic_modulus, double seating = 0.5);

} // namespace whorl
