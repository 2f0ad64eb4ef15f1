// Outlines from other programs as sections of one's own.
//
//   .dxf   lines, arcs and polylines, joined end to end         .csv .txt   z, r [, bow] on each line
//   .svg   the first path of the drawing (y points down there)  .json       a section kept before
//
// The outline runs from crest to crest across one groove: along the thread's axis from left to right, the
// metal of the screw below it. Level stretches at its two ends are crest. The pitch is the outline's width
// unless it is said. Free curves are taken as straight pieces within a ten-thousandth of the width.
#pragma once

#include "form/thread/own_section.hpp"

#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
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

OwnSection section_from_outline(std::vector<OutlinePoint> outline, const std::string& name,
                                std::optional<double> pitch = {});

// By the file's ending. An empty name becomes that of the file. Throws InputError or FileError.
OwnSection import_section(const std::filesystem::path& path, std::string name = {},
                          std::optional<double> pitch = {});

// The same outline at its own size, for a groove: mm, its first point at z = 0.
std::vector<OwnPoint> import_groove(const std::filesystem::path& path);

} // namespace whorl
