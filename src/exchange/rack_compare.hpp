// Laying another source's rack over ours, seen from its side: by how much they differ, and where.
//
// The drawing may lie as it likes: its direction, which side its teeth are on, a space's middle and the
// height are those that bring it nearest to ours, tips, roots and flanks together.
#pragma once

#include "exchange/gear_compare.hpp"
#include "form/tooth/rack.hpp"

namespace whorl {

struct RackDeviation {
    double height = 0; // of the other outline's point over our reference line, mm
    double beside = 0; // from the middle of a space along the rack, mm
    double off = 0;    // mm, square to our outline in the side view; positive: the other has more material
};

struct RackComparison {
    double x = 0, y = 0;         // in the drawing: a space's middle on the reference line, mm
    double turned = 0;           // rad, of the rack's length against the drawing's x
    double root_mean_square = 0; // mm
    RackDeviation worst;
    std::vector<RackDeviation> points; // between the first and the last flank
};

// Throws InputError if there are fewer than 8 pieces, or no teeth like ours are found in them.
RackComparison compare_outline(const ResolvedRack& rack, const std::vector<OutlinePiece>& pieces);

// A .dxf, .svg or .csv outline of its side. Throws InputError or FileError.
RackComparison compare_file(const ResolvedRack& rack, const std::filesystem::path& path);

} // namespace whorl
