// What gears and racks ask alike has the same ranges. Internal to the form floor.
#pragma once

#include "form/tooth/gear.hpp"

namespace whorl {

// Throws InputError with the value, what it is and its range.
void require_range(double value, double least, double most, const std::string& what, const std::string& unit);

// Module, angles, coefficients, thinning and the tip's edge of a GearSpec or RackSpec.
template<class Spec>
void require_tooth_ranges(const Spec& s) {
    const double m = in_mm(s.module);
    require_range(m, 0.05, 100, "module", " mm");
    require_range(in_deg(s.pressure_angle), 10, 45, "pressure angle", "°");
    require_range(in_deg(s.helix_angle), 0, 60, "helix angle", "°");
    require_range(s.tip_shortening, -0.5, 1, "tip shortening", "");
    require_range(s.rack.addendum, 0.2, 2, "addendum coefficient", "");
    require_range(s.rack.dedendum, 0.2, 2.5, "dedendum coefficient", "");
    require_range(s.rack.root_radius, 0, 0.8, "root radius coefficient", "");
    require_range(in_mm(s.thinning), 0, 0.3 * m, "thinning of the teeth", " mm");
    require_range(in_mm(s.tip_size), 0, m, "size of the tip's edge", " mm");
}

// That the rack's spaces, or its teeth as a cutter, keep a land at this dedendum.
void require_rack_land(const standard::BasicRack& rack, Angle pressure_angle);

} // namespace whorl
