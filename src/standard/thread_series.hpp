// The diameter and pitch combinations that the standards of the other thread families list, and what their
// tables add. Sources stand with each row.
#pragma once

#include "standard/listed_thread.hpp"

#include <optional>

namespace whorl::standard {

// "BSW", "BSF", "G", "R", "NPT", "NPSM", "Tr", "S", "ACME", "STUB ACME", "Rd"; in the order of the standard.
// Throws std::invalid_argument for another name.
const std::vector<ListedThread>& thread_series(const std::string& name);

// A pipe size's own numbers; none where the table of the series does not have it.
struct PipeSize {
    ListedThread listed;                   // G, R: major diameter; NPT, NPSM: outside diameter of the pipe
    std::optional<Length> gauge_length;    // R: from the small end to the gauge plane
    std::optional<Length> useful_length;   // R
    std::optional<Length> hand_tight;      // NPT, NPSM: L1
    std::optional<Length> pitch_tolerance; // G, class A external and internal, class B is twice that; NPSM
    std::optional<Length> major_tolerance; // external: G, NPSM
    std::optional<Length> minor_tolerance; // internal: G, NPSM
    std::optional<Length> allowance;       // external: NPSM
    std::optional<Length> nut_tolerance;   // of the internal pitch diameter: NPSM
};
const std::vector<PipeSize>& pipe_sizes(const std::string& series); // "G", "R", "NPT", "NPSM"
// By the size as it is written ("1/2"), or nullptr.
const PipeSize* pipe_size(const std::string& series, const std::string& size);

// ISO 2903: what a trapezoidal thread's limits are made of, by pitch; none for a pitch that is not tabulated.
struct TrapezoidalLimits {
    double es_c = 0, es_e = 0; // fundamental deviations of screws, taken off, µm
    double td = 0, td1 = 0;    // tolerances of the screw's major and the nut's minor diameter, µm
};
std::optional<TrapezoidalLimits> trapezoidal_limits(Length pitch);

// The nearest preferred number of R 40 (ISO 3), to which ISO 2903 rounds its pitch tolerances. Any unit.
double trapezoidal_preferred(double value);

} // namespace whorl::standard
