// Hatching: thin lines at an angle over what is cut, left out where texts stand.
#pragma once

#include "drawing/paper.hpp"
#include "drawing/seen.hpp"

namespace whorl::drawing {

// mm on paper between lines for an area's box: 1.2 for small ones to 4.
double hatch_spacing(const Box& box);

// `area`: closed runs, even and odd. Every line is whole, however the runs are cut.
std::vector<Stroke> hatching(const std::vector<Run>& area, double spacing, double angle,
                             const std::vector<Box>& spared);

// An area of a sheet that has its texts already.
void hatch_around_texts(Paper& paper, const std::vector<Run>& area, double spacing);

} // namespace whorl::drawing
