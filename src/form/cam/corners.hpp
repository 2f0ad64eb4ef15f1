// Sharp corners of a motion, where the speed jumps, and how they are rounded.
//
// Over ±w about a corner the motion becomes the cubic that takes lift and speed from both sides: between two
// straight runs the parabola that touches both, s'' = (m1 − m0)/(2w). Blended, the quintic that takes the
// acceleration from both, too; between straight runs its s'' is largest in the middle, half as large again. How
// wide w is depends on what runs round the corner: a drum's and a disc's say so themselves.
#pragma once

#include "form/cam/timing.hpp"

#include <string_view>
#include <vector>

namespace whorl {

enum class CornerKind {
    rounded, // by a parabola: the acceleration is constant over it
    blended, // by a quintic: the acceleration goes over without a jump, its largest bends the track as sharply
    sharp    // kept, of a groove
};
std::string_view word(CornerKind kind);

// What a corner before a part becomes; w in rad.
MotionPart blend_before(const Motion& motion, std::size_t part, double w, CornerKind kind);

struct Rounded {
    Motion motion;               // no parts: there is no room between two corners
    std::vector<double> corners; // where they were, rad
    double widest = 0;           // w, rad
};
// The half widths w by the part that begins at the corner, rad; 0: as it is. Highest and lowest lift are those
// that are still reached.
Rounded round_corners(const Motion& motion, const std::vector<double>& half_widths, CornerKind kind);

} // namespace whorl
