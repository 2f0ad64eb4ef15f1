// The rows of holes square to the axis, and what they become. Internal to the model floor's forms.
#pragma once

#include "model/form_model.hpp"

#include <vector>

namespace whorl {

std::vector<Row> cross_hole_rows();

// Of a plain outer zone that has its place and diameters. Throws JobError.
std::optional<ResolvedCrossHoles> resolve_cross_holes(ZoneInPiece& at);

} // namespace whorl
