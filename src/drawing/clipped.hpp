// Parts of a picture: what of runs and areas lies over or under the axis, or between places along it.
#pragma once

#include "drawing/draft.hpp"

namespace whorl::drawing {

std::vector<Run> scaled(std::vector<Run> runs, double k);
// Of runs what lies over (or under) the axis.
std::vector<Run> half_of(const std::vector<Run>& runs, bool upper);
// Of runs what lies in some stretches of the axis, or outside all of them.
std::vector<Run> within(const std::vector<Run>& runs, const std::vector<Stretch>& stretches, bool inside);
// Of closed runs what lies between two places of the axis, or over (or under) it; closed again.
std::vector<Run> area_within(const std::vector<Run>& area, const Stretch& s);
std::vector<Run> area_half(const std::vector<Run>& area, bool upper);

} // namespace whorl::drawing
