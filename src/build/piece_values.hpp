// What a piece measures as a whole, for the sheet and the command line.
#pragma once

#include "build/build.hpp"

namespace whorl {

// overall_length (mm, from outside to outside), volume (mm³, closed form) and mass (g, by the finish's density); of one
// with an axis moment_of_inertia about it (g·mm², within the preview's chord squared); of a bent one far_end_x, _y, _z
// (mm) and angle_between_ends (rad), developed_length and, where its material has one, least_bend_radius (mm); of a bored one least_wall (mm), and
// of a hollow one thickest_wall (mm) and contents (ml). None of a piece that is not made.
std::vector<ResolvedValue> piece_values(const Preview& preview, const Piece& piece);

} // namespace whorl
