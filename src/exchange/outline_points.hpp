// Outlines from drawings and tables as plain points.
#pragma once

#include "exchange/section_import.hpp"

namespace whorl {

// Points with those on the quarters of arcs put in; `bent`: there was one.
std::vector<OutlinePoint> with_middles(const std::vector<OutlinePoint>& points, bool& bent);
// The first two columns of each line of a table.
std::string two_columns(const std::string& text);

} // namespace whorl
