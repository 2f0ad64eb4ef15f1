// A piece as a file of whichever kind its name ends in; the window and the command line write by this alone.
#pragma once

#include "exchange/export.hpp"

#include <optional>

namespace whorl {

struct WriteOptions {
    std::optional<std::size_t> zone = {}; // whose drawing a flat file holds; none: the first that has one
    bool space = false;                   // of teeth only one space
    double step = 1;                      // degrees from point to point of a CSV
    double cutter_radius = 0;             // mm, for the cutter's path in it; 0: as large as the follower
};

// Throws FileError for an ending that is none of .step, .stp, .stl, .svg, .dxf and .csv.
void require_known_ending(const std::filesystem::path& path);

// Writes and says what: "M10x1.5-6g x 40 real thread …, 2 345.678 mm3". Throws FileError where the piece is
// not made, where it has nothing for that kind of file, where the kernel does not accept the solid, and for
// the path.
std::string write_piece(const Preview& preview, const Piece& piece, LengthUnit unit,
                        const std::filesystem::path& path, const WriteOptions& options = {});

} // namespace whorl
