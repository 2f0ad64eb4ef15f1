// Load over length of a spring, of torsion springs torque over angle: as a table and as a drawing.
#pragma once

#include "form/coil/coil.hpp"

#include <string>

namespace whorl {

// travel, length (mm) or angle (°), load (N, N·mm), stress (MPa), where EN 15800 has tolerances the limits of the load: every
// hundredth of the travel, and where it works.
std::string spring_csv(const ResolvedCoil& coil);

// SVG elements that fill a rectangle with its left upper corner at (x, y), mm: the curve with its axes and limits, the least working
// length, what it works between. Classes axis, thin, band and curve are those of the drawing it stands in.
std::string spring_chart(const ResolvedCoil& coil, LengthUnit unit, double x, double y, double width,
                         double height);

} // namespace whorl
