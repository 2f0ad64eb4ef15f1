// Gears on the command line: shown, paired, and tooth counts found for a ratio. Each gives an exit code.
#pragma once

#include "form/tooth/gear_designation.hpp"

#include "check/check.hpp"

#include <iosfwd>

namespace whorl {

int show_gear(const GearDesignation& gear, const std::vector<Finding>& findings, bool as_json,
              std::ostream& out);
// `centre` (mm) may be empty: the distance of no backlash.
int pair_gears(const GearSpec& one, const GearSpec& two, Length width, const std::string& centre,
               bool as_json, std::ostream& out);
int tooth_ratio(const std::string& wanted, double within, int largest, bool as_json, std::ostream& out);

// Another outline or solid laid over the gear; `stopped` if it differs by more than `within` (mm), where that
// is not 0.
int compare_gear(const std::string& path, const GearSpec& gear, double within, bool as_json,
                 std::ostream& out);

} // namespace whorl
