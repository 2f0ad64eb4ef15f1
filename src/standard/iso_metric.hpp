// ISO general purpose metric threads: the series of ISO 261 and the tolerances of ISO 965-1.
//
// Every tolerance comes from the printed table where the standard prints one. For a pitch or diameter it does
// not print, the standard's own formula gives the value, and the source says so.
#pragma once

#include "standard/listed_thread.hpp"

#include <string>
#include <vector>

namespace whorl::standard {

// Coarse and fine series, ISO 261:1998 table 2, ordered by diameter.
const std::vector<ListedThread>& iso_metric_series();

// The coarse pitch that belongs to a diameter, or nullptr.
const ListedThread* iso_coarse(Length diameter);

// The drill before tapping. Coarse threads: ISO 2306; others: d − P, in twentieths of a millimetre.
struct TapDrill {
    Length diameter;
    std::string source; // the table, or the formula where that does not go so far
};
TapDrill metric_tap_drill(Length diameter, Length pitch);

struct Tolerance {
    Length value;
    std::string source;
};

// ISO 965-1 tolerance positions: external e f g h (upper deviation es, zero or negative), internal G H
// (lower deviation EI, zero or positive). Throws std::invalid_argument for another letter.
Tolerance metric_deviation(char position, Length pitch);

// Td: major diameter, external. Grades 4, 6, 8. Throws std::invalid_argument for another grade.
Tolerance metric_major_tolerance(int grade, Length pitch);
// TD1: minor diameter, internal. Grades 4 to 8.
Tolerance metric_minor_tolerance(int grade, Length pitch);
// Td2: pitch diameter, external. Grades 3 to 9.
Tolerance metric_pitch_tolerance_external(int grade, Length diameter, Length pitch);
// TD2: pitch diameter, internal. Grades 4 to 8.
Tolerance metric_pitch_tolerance_internal(int grade, Length diameter, Length pitch);

// The formulas of ISO 965-1 clause 13 behind the tables, unrounded.
namespace metric_rule {
Length deviation(char position, Length pitch); // es(g) = −(15 + 11P) µm, …
Length major(int grade, Length pitch);         // Td(6) = 180·P^⅔ − 3.15/√P µm
Length minor(int grade, Length pitch);         // TD1(6) = 433P − 190P^1.22 or 230·P^0.7 µm
Length pitch_external(int grade, Length step_diameter, Length pitch); // Td2(6) = 90·P^0.4·d^0.1 µm
Length pitch_internal(int grade, Length step_diameter, Length pitch); // TD2 = 1.32·Td2 at grade 6
} // namespace metric_rule

// The diameter the pitch-diameter formulas use: the geometric mean of the standard's diameter step.
Length metric_step_diameter(Length diameter);

// Every printed row, for tests and for `whorl list`.
struct PrintedTolerance {
    std::string kind; // "major_external", "minor_internal", "pitch_external", "pitch_internal"
    Length over, to;  // diameter step; both zero where the table has none
    Length pitch;
    int grade;
    Length value;
};
const std::vector<PrintedTolerance>& metric_printed_tolerances();

} // namespace whorl::standard
