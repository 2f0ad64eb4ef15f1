// Unified inch threads: the series and the limit formulas of ASME B1.1.
//
// The standard defines its limits by formulas and rounds the result to 0.0001 in; so does this page.
// Where the standard rounds the basic pitch diameter, it is rounded first, as in its own worked examples.
#pragma once

#include "standard/listed_thread.hpp"

#include <optional>

namespace whorl::standard {

// UNC, UNF, UNEF and 8-UN (series "UN"), ASME B1.1-2003 table 2, ordered by diameter.
const std::vector<ListedThread>& unified_series();

// Length of engagement the tolerance is reckoned for (ASME B1.1 clause 5.8.1): the diameter for the graded
// series UNC and UNF and the 4-, 6- and 8-thread series, nine pitches for UNEF, other constant-pitch (UN) and
// special (UNS) threads.
Length unified_engagement(Length diameter, Length pitch, bool graded_series);

// Pitch-diameter tolerance of class 2A, rounded to six places as in the standard: 0.0015·∛D + 0.0015·√LE +
// 0.015·∛(P²), all in inch.
Length unified_pitch_tolerance_2a(Length diameter, Length engagement, Length pitch);

// The tolerance and the allowance by class: 1A 2A 3A 1B 2B 3B. Rounded to 0.0001 in.
// Throw std::invalid_argument for another class.
Length unified_pitch_tolerance(int grade, bool external, Length tolerance_2a);
Length unified_allowance(int grade, Length tolerance_2a); // external; 0.3·Td2 for 1A and 2A, 0 for 3A
Length unified_major_tolerance(int grade, Length pitch);  // external; 0.060·∛(P²), 0.090·∛(P²) for 1A
// Internal, unrounded; clause 5.8.1 (f)
Length unified_minor_tolerance(int grade, Length diameter, Length pitch);

// Allowance and pitch tolerance of class 2A where the printed table differs from the formula.
struct PrintedLimits {
    Length allowance, tolerance;
};
std::optional<PrintedLimits> unified_printed_2a(Length diameter, Length pitch);

// Halves up, in decimal.
Length rounded_to_ten_thousandth_inch(Length l);
Length rounded_to_thousandth_inch(Length l);

} // namespace whorl::standard
