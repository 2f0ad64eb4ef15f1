// Basic racks and preferred modules of cylindrical involute gears.
#pragma once

#include "quantity/quantity.hpp"

#include <string>
#include <vector>

namespace whorl::standard {

// ISO 53: the rack that generates a gear. Coefficients are multiples of the normal module; the pressure angle
// is 20° and may be replaced.
struct BasicRack {
    std::string type; // "A" to "D"; empty for one of the user's own
    double addendum = 1, dedendum = 1.25, root_radius = 0.38;
    friend bool operator==(const BasicRack&, const BasicRack&) = default;
};
const std::vector<BasicRack>& basic_racks();
const BasicRack* basic_rack(const std::string& type); // nullptr if there is none
const std::string& basic_rack_source();

// Modules of series I (1) and II (2).
struct PreferredModule {
    Length module;
    int series;
};
const std::vector<PreferredModule>& preferred_modules(); // ascending
const std::string& preferred_module_source();

} // namespace whorl::standard
