// Sheets as files: PDF (a page a sheet, texts searchable, the typeface embedded), SVG and PNG by cairo and Pango, DXF R2000
// with a layer for each kind of line.
#pragma once

#include "drawing/paper.hpp"

#include <filesystem>

namespace whorl::drawing {

// The whole file. `papers` has at least one; all but PDF take one only.
std::string pdf_of(const std::vector<Paper>& papers);
std::string svg_of(const Paper& paper);
std::string png_of(const Paper& paper, double dots_per_mm = 8);
std::string dxf_of(const Paper& paper);

const std::vector<std::string>& sheet_formats(); // "pdf", "svg", "dxf", "png"
// By the path's ending, atomically. Throws FileError for another ending and for the path.
void write_sheet(const Paper& paper, const std::filesystem::path& path);

} // namespace whorl::drawing
