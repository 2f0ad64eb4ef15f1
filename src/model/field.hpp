// The name of something that can be asked of a piece, a zone or a pair. Which zones have it, and how it is
// read and written, is said by the rows of their forms (row.hpp).
#pragma once

#include <compare>
#include <string_view>

namespace whorl {

struct Field {
    std::string_view key; // a literal, as on the command line: --set key=value
    friend constexpr auto operator<=>(const Field&, const Field&) = default;
};

namespace field {
constexpr Field piece_name{"piece_name"}, piece_finish{"finish"};
// of the pair of gears a zone is in; empty: it follows from the profile shifts
constexpr Field centre_distance{"centre_distance"};

constexpr Field length{"length"};     // of gears and racks the face width
constexpr Field diameter{"diameter"}; // across the flats of a hexagon or square
constexpr Field near_end{"near_end"}; // "flat", "chamfer", "chamfer 45 8.1", "run-out 0.5", "point 59",
                                      // "rounded 14"
constexpr Field far_end{"far_end"};
constexpr Field follows{
    "follows"};                   // another zone of the piece by its number from 1: "1", "1 mirrored", "none"
constexpr Field repeat{"repeat"}; // "3", "3 gap 5", "1-2 3 gap 5": the zone, or those, so many times in all
constexpr Field zone_finish{"zone_finish"}; // a material or a colour of its own; empty: the piece's
constexpr Field hand{"hand"};               // of a thread, or of the helix of teeth

constexpr Field outline{"outline"};       // "round", "hex", "square" or "flat"
constexpr Field thickness{"thickness"};   // of a flat bar
constexpr Field cross_hole{"cross_hole"}; // its diameter; empty: none
constexpr Field cross_hole_at{"cross_hole_at"}, cross_hole_turned{"cross_hole_turned"};
constexpr Field cross_hole_side{"cross_hole_side"}; // "through" or "one side"
constexpr Field cross_holes{"cross_holes"}, cross_hole_spacing{"cross_hole_spacing"}; // of a row
constexpr Field far_diameter{"far_diameter"}; // of a conical zone; empty: the same as the diameter
constexpr Field web{"web"}; // of a gear or disc: "standard", "3", "3 70 26" (thickness, rim's and hub's Ø),
                            // "none"
constexpr Field keyway{"keyway"}; // of a bore: "standard", "5 x 2.3" (width x depth), "none"

constexpr Field pitch{"pitch"}, lead{"lead"}; // the lead sets the pitch to lead / starts
constexpr Field tolerance_class{"tolerance_class"}, starts{"starts"}, modelled_at{"modelled_at"};
constexpr Field groove_depth{"groove_depth"}; // of a helical groove, or of the track in a cam's face
constexpr Field depth{"depth"}, root_flat{"root_flat"}; // empty text hands them back to the form
constexpr Field flank_angle{"flank_angle"};
constexpr Field taper{"taper"};             // "1:16", "3.6°", "to 19"; "none" or empty: as the family has it
constexpr Field allowance{"allowance"};     // for printing; empty: none
constexpr Field root_shape{"root_shape"};   // "flat" or "rounded"
constexpr Field start_angle{"start_angle"}; // degrees; empty: 0
constexpr Field turns{"turns"};             // sets the length to turns × lead
// "0:30 60:38 140:24:0", a silhouette's height:radius or height:radius:angle, or a groove's position:depth
constexpr Field points{"points"};
constexpr Field geometry{"geometry"}; // "real" or "simplified"

constexpr Field module{"module"}; // mm, or "12 dp"
constexpr Field teeth{"teeth"}, pressure_angle{"pressure_angle"}, helix_angle{"helix_angle"};
constexpr Field profile_shift{"profile_shift"};
constexpr Field basic_rack{"basic_rack"};         // "A" to "D", or "1/1.25/0.38"
constexpr Field tip_shortening{"tip_shortening"}; // × module
constexpr Field tip_edge{"tip_edge"};             // "sharp", "chamfer 0.2", "round 0.3"
constexpr Field thinning{"thinning"};
// A rack's length is the whole, and its teeth follow from it, unless `teeth` says the teeth.
constexpr Field face_width{"face_width"}, body_height{"body_height"};
constexpr Field near_plain{"near_plain"}, far_plain{"far_plain"}; // left uncut
} // namespace field

} // namespace whorl
