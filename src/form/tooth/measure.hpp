// What is measured on a gear in the shop. Formulas of ISO 21771 and of DIN 3960, clause 4.
#pragma once

#include "form/tooth/gear.hpp"

namespace whorl {

// The span over k teeth, mm: parallel anvils touching the flanks.
double span_measurement(const ResolvedGear& gear, int teeth);
// The count of teeth whose span touches nearest to the circle d + 2·x·m.
int span_teeth(const ResolvedGear& gear);

// Over (internal: between) two balls of this diameter in opposite spaces, in one plane square to the axis, mm.
double ball_measurement(const ResolvedGear& gear, double ball);
// Over two pins, or three where the count is odd, mm. In helical teeth pins lie along the helix, so that those
// of an odd count also come to lie across from each other: 2·rK + DM (DIN 3960, MdR). In spur teeth they
// measure as balls. Helical internal teeth take no pins: theirs is over balls.
double pin_measurement(const ResolvedGear& gear, double pin);
// The distance of a pin's middle from the axis and of its points of contact, mm.
struct PinSeat {
    double centre = 0, contact = 0;
};
PinSeat pin_seat(const ResolvedGear& gear, double pin);
double usual_pin(const ResolvedGear& gear); // touches near the circle d + 2·x·m, rounded to 0.05 mm

// Transverse tooth thickness on the circle of this radius, mm.
double tooth_thickness(const ResolvedGear& gear, double radius);

// The tooth on a circle between its root and tip: arc and chord, and how far the chord lies under the tip (a
// ring's: over it), for the tooth caliper. Throws InputError for a diameter off the teeth.
struct Thickness {
    double arc = 0, chord = 0, height = 0; // transverse, mm
};
Thickness thickness_at(const ResolvedGear& gear, double diameter);

// What a drawing says to the maker of a gear, ISO 1340, in its order: each a name and a value, lengths in mm.
std::vector<std::pair<std::string, std::string>> data_block(const ResolvedGear& gear,
                                                            std::optional<Length> width = {});

} // namespace whorl
