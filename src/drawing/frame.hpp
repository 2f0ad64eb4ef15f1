// The frame of a sheet (ISO 5457) and its title block (ISO 7200).
#pragma once

#include "drawing/sheet.hpp"

namespace whorl::drawing {

Box inside_frame(const SheetSize& size);
Box title_block_box(const SheetSize& size);

struct TitleBlock {
    const TitleFields& own;
    std::string title = {}, material = {}, mass = {}, scale = {}, unit = {}, sheet = {}, size = {};
    Projection projection;
};
void draw_frame(Paper& to, const SheetSize& size);
void draw_title_block(Paper& to, const SheetSize& size, const TitleBlock& block);

// A table with a title: as wide as its texts, at most `most` mm.
struct TableText {
    std::string title;
    std::vector<std::array<std::string, 2>> rows = {};
};
Paper table(const TableText& text, double most);

// A text's height that lets it stand in so many mm.
double height_for(const std::string& words, double height, double room);

} // namespace whorl::drawing
