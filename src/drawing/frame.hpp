// The frame of a sheet (ISO 5457) and its title block (ISO 7200).
#pragma once

#include "drawing/forms/form_drawing.hpp"
#include "drawing/sheet.hpp"

namespace whorl::drawing {

Box inside_frame(const SheetSize& size);
Box title_block_box(const SheetSize& size);

struct TitleWords {
    const TitleBlock& own;
    std::size_t piece; // for what links to it
    std::string title = {}, material = {}, mass = {}, scale = {}, unit = {}, sheet = {}, size = {};
    Projection projection;
};
void draw_frame(Paper& to, const SheetSize& size);
void draw_title_block(Paper& to, const SheetSize& size, const TitleWords& block);

// A data block: as wide as its texts, at most `most` mm.
Paper table(const DataTable& text, double most);

// A text's height that lets it stand in so many mm.
double height_for(const std::string& words, double height, double room);

} // namespace whorl::drawing
