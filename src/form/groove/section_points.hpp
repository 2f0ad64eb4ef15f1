// The outline of a groove of one's own as text: position:depth, blanks between.
//
//   0:0 1:1.5 3:1.5 4:0      along the axis from the groove's first edge, and how deep there; straight in between
//   0:0:2 4:0                a third number is the height of the arc to the next point over its chord, into the metal
#pragma once

#include "form/thread/own_section.hpp"
#include "quantity/expression.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace whorl {

class Reader;

// In mm, the first point at z = 0; depths are negative heights. Throws InputError with the place.
std::vector<OwnPoint> parse_section_points(std::string_view text, LengthUnit unit, const Names& names);
std::vector<OwnPoint> take_section_points(Reader& r, LengthUnit unit); // those that stand here
std::string write_section_points(const std::vector<OwnPoint>& points, LengthUnit unit);

// Throws InputError unless the outline falls from the surface to one bottom and rises again without an overhang.
void require_groove(const std::vector<OwnPoint>& points);

} // namespace whorl
