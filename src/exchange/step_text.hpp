// A STEP file's text made smaller without changing what it says (ISO 10303-21).
//
// The kernel's writer repeats each point for every curve and surface that has it, with twelve decimals, indents the lists
// of poles and numbers with the width of the whole. Here
//   - coordinates of points keep `decimals` places: 9 of a millimetre are a thousandth of what any kernel tells apart;
//   - equal CARTESIAN_POINTs, DIRECTIONs, VECTORs and AXIS2_PLACEMENT_3Ds are one, used by all (the standard's instances
//     may be referred to as often as one likes); what is topology, presentation or product stays as it is;
//   - instances are numbered anew, without gaps; blanks outside texts go.
// Linear in the text's length.
#pragma once

#include <string>
#include <string_view>

namespace whorl {

// Gives the text back as it is where it has no DATA section that can be read so.
std::string smaller_step(std::string_view text, int decimals = 9);

} // namespace whorl
