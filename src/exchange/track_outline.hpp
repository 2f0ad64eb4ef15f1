// A drum cam's track developed: unrolled at the drum's diameter, x around it from 0 to π·d, or of several turns
// one behind the other, y along the axis.
#pragma once

#include "exchange/arc_outline.hpp"
#include "form/cam/drum.hpp"

namespace whorl {

// A wall's edge on the drum (side −1 near, +1 far), from one end of the developed surface to the other, as
// biarcs within `tolerance` (mm) of it.
std::vector<ArcPoint> track_edge(const ResolvedDrum& drum, double side, double tolerance = 5e-4);
// Both edges as one outline, closed by the ends of the developed surface: DXF and SVG.
std::string track_dxf(const ResolvedDrum& drum, double tolerance = 5e-4);
std::string track_svg(const ResolvedDrum& drum, double tolerance = 5e-4);
// angle,lift,around,along,near_around,near_along,far_around,far_along: the track's middle and both edges on
// the drum, for every `step` degrees of its turn; in degrees and mm. Throws InputError for a step outside
// 0.01 to 90 degrees.
std::string track_points_csv(const ResolvedDrum& drum, double step);

} // namespace whorl
