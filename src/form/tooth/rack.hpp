// Racks: straight teeth along a bar, what is asked and what follows from it.
//
//   RackSpec --resolve_rack()--> ResolvedRack (values with sources, the exact outline of its teeth)
//
// A rack is a gear whose axis is infinitely far away; its tooth is that of the basic rack itself, ISO 53. All
// heights are over the reference line, on which tooth and space are equally wide. Along the rack z counts
// from its near end and w across its face from the middle, so that teeth, z and w are seen as a gear's are:
// with the teeth towards the viewer and w upwards z runs to the left.
#pragma once

#include "form/tooth/gear.hpp"

namespace whorl {

struct RackSpec {
    Length module = mm(2);          // normal
    Angle pressure_angle = deg(20); // normal, 10° to 45°
    Angle helix_angle = deg(0);     // between the teeth and the face's breadth, 0° to 60°
    Hand hand = Hand::right;        // as of a gear: right-hand teeth rise to the right; none when it is 0°
    standard::BasicRack rack{"A", 1, 1.25, 0.38};
    double tip_shortening = 0; // multiple of the module
    TipEdge tip_edge = TipEdge::sharp;
    Length tip_size = mm(0);      // in the normal plane
    Length thinning = mm(0);      // taken off the normal tooth thickness, for backlash
    std::optional<int> teeth;     // whole teeth, 1 to 2000; none: as many as `length` has room for
    std::optional<Length> length; // of the whole rack; none: it follows from the teeth
    Length width = mm(20);        // of the face
    Length height = mm(20);       // of the body, from its back to the tips
    // Left uncut beyond the first and the last space, on the middle of the face. 0: the rack is cut off in
    // the middle of a space, where it can be put to the next one.
    Length near_plain = mm(0), far_plain = mm(0);
    friend bool operator==(const RackSpec&, const RackSpec&) = default;
};

struct ResolvedRack {
    RackSpec spec;
    int teeth = 0;
    double transverse_module = 0;           // mm, of the pitch along the rack
    double transverse_pressure_angle = 0;   // rad
    double length = 0;                      // mm
    double first_space = 0;                 // z of its middle at w = 0, mm
    double lean = 0;                        // dz/dw of the teeth; negative for right hand
    double tip_height = 0, root_height = 0; // mm over the reference line; the root's is negative
    double form_height = 0;                 // where the straight flank begins
    double flank_tip_height = 0;            // where it ends, below the tip's edge
    double root_rounding = 0;               // mm, as far as it fits
    // In the plane square to the teeth, x over the reference line and y along, from the middle of a space to
    // the middle of the next tooth; its mirror image goes on from there. Lines and arcs only. Empty with a
    // trouble.
    std::vector<TransverseCurve> half_outline;
    ToothTrouble trouble = ToothTrouble::none;
    std::vector<ResolvedValue> values;

    double pitch() const; // along the rack, mm
    double body() const;  // height of the reference line over the back, mm
};

// Throws InputError for a value outside its range, or without either teeth or length.
ResolvedRack resolve_rack(const RackSpec& spec);

// The rack that goes with a gear, and the gear of so many teeth that goes with a rack: their module, angles
// and basic rack, the hand that meshes.
RackSpec mating_rack(const GearSpec& gear, int teeth, Length width);
GearSpec mating_gear(const RackSpec& rack, int teeth);
// The rack's teeth on a gear: same module, angles, hand and basic rack.
GearSpec rolled_up(const RackSpec& rack, int teeth);

// Where along the rack the middle of its middle tooth stands, and how far a gear runs from there to either
// side with a tooth of the rack to spare, mm.
double rack_middle(const ResolvedRack& rack);
double rack_reach(const ResolvedRack& rack);

// Half the width of a space in the normal plane at this height over the reference line, mm.
double rack_half_space(const ResolvedRack& rack, double height);

// From the back over a pin that lies in a space, mm. The pin touches the straight flanks.
double over_pin(const ResolvedRack& rack, double pin);
double usual_pin(const ResolvedRack& rack); // touches near the reference line, rounded to 0.05 mm

} // namespace whorl
