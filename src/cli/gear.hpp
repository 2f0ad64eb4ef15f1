// Gears on the command line: shown, paired, and tooth counts found for a ratio. Each gives an exit code.
#pragma once

#include "form/designation.hpp"

#include "check/check.hpp"

#include <iosfwd>

namespace whorl {

// `at` (mm), where it is not 0: also the tooth's thickness on the circle of that diameter.
int show_gear(const GearDesignation& gear, const std::vector<Finding>& findings, double at, bool as_json,
              std::ostream& out);
// What a drawing says to the gear's maker.
int gear_block(const GearDesignation& gear, bool as_json, std::ostream& out);
int show_rack(const RackDesignation& rack, const std::vector<Finding>& findings, bool as_json,
              std::ostream& out);
// Two gears, or a gear and a rack, in either order. `centre` (mm) may be empty: the distance of no backlash.
int pair_teeth(const Designation& one, const Designation& two, const std::string& centre, bool as_json,
               std::ostream& out);
int tooth_ratio(const std::string& wanted, double within, int largest, bool as_json, std::ostream& out);

// Another outline or solid laid over the gear; `stopped` if it differs by more than `within` (mm), where that
// is not 0.
int compare_gear(const std::string& path, const GearSpec& gear, double within, bool as_json,
                 std::ostream& out);
int compare_rack(const std::string& path, const RackSpec& rack, double within, bool as_json,
                 std::ostream& out);

} // namespace whorl
