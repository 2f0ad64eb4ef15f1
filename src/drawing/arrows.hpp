// Dimension lines, leaders and their texts on paper, in the manner of ISO 129-1: arrows 3 long of 15°, texts over their
// line, extension lines 2 beyond it.
#pragma once

#include "drawing/paper.hpp"

namespace whorl::drawing {

constexpr double arrow_length = 3, text_height = 3.5, over_line = 1.2, beyond_line = 2;
constexpr double first_row = 10, next_row = 7.5; // of dimension lines from the outline, and from each other

// A filled head with its tip there, pointing along a unit vector.
Fill arrow_head(At tip, At along);

// Where a dimension's text goes along its line.
enum class TextPlace { inside, after, before };

// A dimension from a to b (level or upright, a left of or under b), its text over the line; with arrows outside where there is no room.
struct DimensionLine {
    At a, b;
    std::string words;
    TextPlace place = TextPlace::inside;
    std::optional<Link> link = {};
};
double room_for_text(const std::string& words); // mm that a dimension needs for its text inside
double room_for_arrows();
void draw(Paper& to, const DimensionLine& d);

// An extension line from a feature to beyond a dimension line.
void extension(Paper& to, At feature, At dimension);

} // namespace whorl::drawing
