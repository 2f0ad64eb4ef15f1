// Outlines as other programs draw them.
//
//   .dxf   lines, arcs and polylines, joined end to end         .csv .txt   z, r [, bow] on each line
//   .svg   the first path of the drawing (y points down there)
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace whorl {

// A point of an outline in the drawing's units; `bow` as in OwnPoint, to the left of the way to the next
// point.
struct OutlinePoint {
    double x = 0, y = 0, bow = 0;
};

// As many pieces as are read of a section's or a silhouette's drawing, and of one that is laid over ours.
constexpr std::size_t most_pieces_in_drawing = 2000, most_pieces_compared = 200000;

// Each throws InputError with what is wrong and what would be accepted.
std::vector<OutlinePoint> outline_from_dxf(const std::string& text);
// All its lines, arcs and polylines as loose pieces; circles are left out. At most 200 000.
std::vector<std::pair<OutlinePoint, OutlinePoint>> pieces_from_dxf(const std::string& text);
std::vector<OutlinePoint> outline_from_svg(std::string_view text);
std::vector<OutlinePoint>
closed_outline_from_svg(std::string_view text); // or open, as a whole gear's is drawn
std::vector<OutlinePoint> outline_from_csv(std::string_view text);
std::vector<OutlinePoint> long_outline_from_csv(std::string_view text); // as many points as are compared

double distance(const OutlinePoint& a, const OutlinePoint& b);

} // namespace whorl
