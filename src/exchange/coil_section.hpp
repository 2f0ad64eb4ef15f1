// A coil cut along its axis, for drawings: where the wire goes through the plane, and as SVG.
#pragma once

#include "model/resolve.hpp"

namespace whorl {

// The wire's section there: an ellipse, of flat-sided wire a rectangle, about (z, x), `along` half as long along the axis as
// it is tall, `across` half as wide; x is the distance from the axis, negative on the other side. What lies beyond `low`
// and `high` is ground off.
struct WireSection {
    double z = 0, x = 0;
    double along = 0, across = 0;
    double low = 0, high = 0;
    bool round = true;
};

// In rising θ, z from the spring's near end.
std::vector<WireSection> wire_sections(const ResolvedCoil& coil);

// The section to scale with its dimensions, and load over length under it; one SVG unit is one mm on paper.
std::string coil_svg(const ResolvedCoil& coil, LengthUnit unit);

} // namespace whorl
