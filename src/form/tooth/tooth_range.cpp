#include "form/tooth/tooth_range.hpp"

#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <cmath>
#include <numbers>

namespace whorl {

void require_range(double value, double least, double most, const std::string& what,
                   const std::string& unit) {
    if (value >= least && value <= most) return;
    throw InputError("The " + what + " is " + outside_text(value, least, most) + unit +
                     "; it must be between " + number_text(least, 3) + " and " + number_text(most, 3) + unit +
                     ".");
}

void require_rack_land(const standard::BasicRack& rack, Angle pressure_angle) {
    const double deepest = std::numbers::pi / 4 / std::tan(in_rad(pressure_angle)) - 0.02;
    if (rack.dedendum > deepest)
        throw InputError("With a pressure angle of " + number_text(in_deg(pressure_angle), 2) +
                         "° the rack comes to a point " + number_text(deepest, 3) +
                         " modules deep; choose a smaller dedendum than " + number_text(rack.dedendum, 3) +
                         ".");
}

} // namespace whorl
