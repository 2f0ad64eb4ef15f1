// A drawing sheet: its size, frame and title block, and a piece's views, tables and notes on it.
#pragma once

#include "drawing/draft.hpp"

namespace whorl::drawing {

// ISO 5457 and ASME Y14.1.
struct SheetSize {
    const char* name;
    double width, height; // mm
};
const std::vector<SheetSize>& sheet_sizes();          // from the smallest, ISO's first
const SheetSize& sheet_size(const std::string& name); // throws InputError with those there are

struct SheetSettings {
    LengthUnit unit = LengthUnit::millimetre;
    Projection projection = Projection::first_angle;
    std::optional<SheetSize> size = {}; // none: the smallest that shows it well
    std::optional<double> scale = {};   // none: the largest of the standard ones
    bool true_form = false, hidden = false;
    TitleBlock title = {};
    int sheet = 1, sheets = 1;
};

struct DrawnSheet {
    Paper paper;
    SheetSize size;
    double scale = 1;
    std::vector<Dimension> dimensions; // what it says, for whoever reads it back
    std::vector<std::string> left_out; // sentences: what is not on it, and what would help
    std::size_t taken_off = 0;         // how many dimensions were taken off by hand
};

// A piece that can't be made has a sheet that says why across it.
DrawnSheet draw_sheet(const Preview& preview, const Piece& piece, std::size_t index,
                      const SheetSettings& settings);

} // namespace whorl::drawing
