// Laying another source's gear over ours: by how much they differ, and where.
//
// The other outline is taken as a loose set of pieces in the plane, from a drawing or cut from a solid at
// half its height. Its axis and its phase are those that bring its flanks nearest to ours (gear_fit.hpp); of an
// outline that is not whole the axis is the drawing's origin. Teeth that a whole outline lacks are left out, and said.
#pragma once

#include "exchange/section_import.hpp"
#include "form/tooth/gear.hpp"

#include <filesystem>

namespace whorl {

struct GearDeviation {
    double radius = 0,
           angle = 0; // of the other outline's point about its axis: mm, rad from the middle of a space
    double off = 0;   // mm, square to our outline; positive: the other has more material
};

struct GearComparison {
    bool whole = false;            // all around, so that the axis is its own; else it is the drawing's origin
    double axis_x = 0, axis_y = 0; // mm
    double turned = 0;             // rad, of a space's middle
    std::vector<double>
        missing; // rad, the middles of teeth that a whole outline lacks; left out of all below
    double root_mean_square = 0; // mm
    GearDeviation worst;
    std::vector<GearDeviation> points;
};

using OutlinePiece = std::pair<OutlinePoint, OutlinePoint>; // `first.bow` is the piece's

// Throws InputError if there are fewer than 8 pieces, if none of them comes near the gear's teeth, or if they don't go
// along them.
GearComparison compare_outline(const ResolvedGear& gear, const std::vector<OutlinePiece>& pieces);

// By the file's ending: .dxf, .svg, .csv; .stl and .step with the axis along z. Throws InputError or
// FileError.
std::vector<OutlinePiece> outline_pieces(const std::filesystem::path& path);
GearComparison compare_file(const ResolvedGear& gear, const std::filesystem::path& path);

// A solid cut by a plane near the middle of its height; a STEP solid within half a micrometre.
struct CutTriangle {
    double corner[3][3]; // x, y, z
};
std::vector<OutlinePiece> cut_at_half_height(const std::vector<CutTriangle>& triangles);
std::vector<CutTriangle> triangles_of_stl(const std::string& content); // binary or text
// Where a STEP solid is cut at half its height, on its own surfaces.
std::vector<OutlinePiece> outline_of_step(const std::filesystem::path& path);

} // namespace whorl
