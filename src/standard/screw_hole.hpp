// Holes for metric screws to go through, and for their heads.
#pragma once

#include "quantity/quantity.hpp"

#include <optional>
#include <string>
#include <vector>

namespace whorl::standard {

struct ScrewHole {
    Length thread;               // nominal diameter of the screw
    Length fine, medium, coarse; // clearance holes, ISO 273
    // for a socket head of ISO 4762: diameter, and how much deeper than the head is high, DIN 974-1
    std::optional<Length> counterbore, deeper;
    std::optional<Length> countersink; // for a countersunk head of ISO 10642, 90°
};
const std::vector<ScrewHole>& screw_holes();
const ScrewHole* screw_hole(Length thread); // the row for a thread diameter, or nullptr

// For a bar or a screw of this diameter: ISO 273's medium row, between its rows and beyond them a tenth wider,
// in halves of a millimetre.
Length clearance_hole(Length diameter);

} // namespace whorl::standard
