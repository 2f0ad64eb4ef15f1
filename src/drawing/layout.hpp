// Views, data blocks and notes on a sheet of a size, clear of its title block and of each other.
#pragma once

#include "drawing/forms/form_drawing.hpp"
#include "drawing/sheet.hpp"

namespace whorl::drawing {

struct Content {
    const Draft& draft;
    std::vector<DataTable> tables;
    std::vector<std::string> notes;
    bool incomplete = false; // what finds no place may be left out
};

struct LaidOut {
    Paper paper;
    std::vector<std::string> left_out; // words
};

// The piece on a sheet at a scale; none: it doesn't go on it.
std::optional<LaidOut> laid_out(const Content& content, const SheetSize& size, double scale,
                                Projection projection);

// Words in lines no longer than so many mm, from the origin down.
Paper in_lines(const std::vector<std::string>& sentences, double width);

} // namespace whorl::drawing
