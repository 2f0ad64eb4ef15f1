// A gear's exact transverse outline as arcs, for DXF and SVG: circles stay what they are, flanks and roots
// become pairs of arcs that share their tangents (biarcs) within a stated tolerance.
#pragma once

#include "exchange/arc_outline.hpp"
#include "model/resolve.hpp"

namespace whorl {

// The whole closed outline, or one tooth space from tip to tip, counter-clockwise. `tolerance` (mm) is the
// largest distance from the true curve, 1e-5 to 0.1.
std::vector<ArcPoint> tooth_outline(const ResolvedGear& gear, bool whole, double tolerance = 5e-4);

// As DXF with the pitch and the base circle, and as SVG.
std::string gear_dxf(const ResolvedGear& gear, bool whole, double tolerance = 5e-4);
std::string gear_svg(const ResolvedGear& gear, bool whole, double tolerance = 5e-4);

// A rack seen from its side, square to its length, in the middle of its face: x along it from the near end, y
// over its back. Whole with its body, or one space from tip to tip. Roundings of a straight rack stay arcs as
// they are; those of slanting teeth are ellipses there, and become biarcs.
std::vector<ArcPoint> rack_outline(const ResolvedRack& rack, bool whole, double tolerance = 5e-4);
std::string rack_dxf(const ResolvedRack& rack, bool whole, double tolerance = 5e-4);
std::string rack_svg(const ResolvedRack& rack, bool whole, double tolerance = 5e-4);

} // namespace whorl
