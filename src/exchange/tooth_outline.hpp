// A gear's exact transverse outline as arcs, for DXF and SVG: circles stay what they are, flanks and roots
// become pairs of arcs that share their tangents (biarcs) within a stated tolerance.
#pragma once

#include "form/tooth/gear.hpp"

#include <string>
#include <vector>

namespace whorl {

struct ArcPoint {
    double x = 0, y = 0; // mm
    double bulge =
        0; // tan of a quarter of the arc to the next point, positive counter-clockwise; 0: straight
};

// The whole closed outline, or one tooth space from tip to tip, counter-clockwise. `tolerance` (mm) is the
// largest distance from the true curve, 1e-5 to 0.1.
std::vector<ArcPoint> tooth_outline(const ResolvedGear& gear, bool whole, double tolerance = 5e-4);

// DXF of the oldest kind every program reads: one polyline with bulges on the layer OUTLINE, in mm, and on a
// layer CIRCLES the pitch and base circle.
std::string gear_dxf(const ResolvedGear& gear, bool whole, double tolerance = 5e-4);
// SVG: one path of arcs, a unit is a millimetre.
std::string gear_svg(const ResolvedGear& gear, bool whole, double tolerance = 5e-4);

} // namespace whorl
