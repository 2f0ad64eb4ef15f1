// Cylindrical involute gears: what is asked, and what follows from it.
//
//   GearSpec --resolve_gear()--> ResolvedGear (values with sources, the exact transverse outline)
//
// Terms of ISO 1122-1, geometry of ISO 21771: the normal module and pressure angle are asked, a tooth count
// of an internal gear is positive here, and a positive profile shift makes teeth thicker on both kinds, which
// on an internal gear brings its teeth nearer to the axis.
#pragma once

#include "form/resolved_value.hpp"
#include "form/thread/section.hpp"
#include "form/tooth/transverse_curve.hpp"
#include "quantity/quantity.hpp"
#include "standard/gear.hpp"

#include <optional>
#include <string>
#include <vector>

namespace whorl {

enum class TipEdge { sharp, chamfered, rounded };

struct GearSpec {
    bool internal = false;
    Length module = mm(2);          // normal
    int teeth = 24;                 // 5 to 1000
    Angle pressure_angle = deg(20); // normal, 10° to 45°
    Angle helix_angle = deg(0);     // at the pitch circle, 0° to 60°
    Hand hand = Hand::right;        // of the helix; of no meaning when it is 0°
    double profile_shift = 0;       // multiple of the module, −2 to 4
    standard::BasicRack rack{"A", 1, 1.25, 0.38};
    double tip_shortening = 0; // multiple of the module, taken off the tip
    TipEdge tip_edge = TipEdge::sharp;
    Length tip_size = mm(0); // of the chamfer (square to the tip and at 45°) or the rounding's radius
    Length thinning = mm(0); // taken off the normal tooth thickness at the pitch circle, for backlash
    friend bool operator==(const GearSpec&, const GearSpec&) = default;
};

// Why a gear has no outline.
enum class ToothTrouble {
    none,
    pointed_tip,    // the flanks meet below the tip circle
    no_involute,    // the root reaches above the tip: nothing is left of the flank
    tip_below_base, // internal: the tip lies inside the base circle, where there is no involute
    no_core,        // the root circle comes to the axis
    thin_foot,      // undercut goes through the tooth
    tip_edge        // the chamfer or rounding of the tip leaves no land or reaches the root
};

struct ResolvedGear {
    GearSpec spec;
    double transverse_module = 0;                                              // mm
    double transverse_pressure_angle = 0;                                      // rad
    double base_radius = 0, pitch_radius = 0, tip_radius = 0, root_radius = 0; // mm
    double form_radius = 0;         // where the involute begins (external) or ends (internal)
    double twist = 0;               // dθ/dz of the teeth, rad per mm; positive for right hand
    double space_half_angle = 0;    // at the pitch circle, rad
    double least_profile_shift = 0; // that avoids undercut (external)
    bool undercut = false;
    double tip_thickness = 0; // transverse, mm
    double root_rounding = 0; // normal tip radius of the generating rack as far as it fits, mm
    // The outline from the middle of a space to the middle of the next tooth, in rising angle; its mirror
    // image goes on from there. Empty with a trouble.
    std::vector<TransverseCurve> half_outline;
    ToothTrouble trouble = ToothTrouble::none;
    std::vector<ResolvedValue> values;

    double pitch_angle() const; // between neighbouring teeth, rad
};

// Throws InputError for a value outside its range. A gear that is merely impossible still resolves, with its
// trouble; check_gear() in the check floor says why it stops.
ResolvedGear resolve_gear(const GearSpec& spec);

// tan x − x, and its inverse by Newton's method, as exact as the value itself; 0 for values below 0.
double involute(double angle);
double inverse_involute(double value);

// Half the angle of a space at this radius, rad: of the outline, or by the involute alone, which is carried
// on where the outline has its root or its tip's edge.
double involute_half_space(const ResolvedGear& gear, double radius);
double space_half_angle_at(const ResolvedGear& gear, double radius);

// The external gear that goes with this one: its module, angles and rack, the hand that meshes, so many
// teeth.
GearSpec mating_gear(const GearSpec& spec, int teeth);

struct PreferredModuleStatus {
    int series = 0; // 1 or 2; 0: not a preferred module
    Length nearest; // of series I
};
PreferredModuleStatus preferred_module(Length module);

} // namespace whorl
