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

// A dimension from a to b (a left of b, or under it), its text over the line; with arrows outside where there is no room.
struct DimensionLine {
    At a, b;
    std::string words;
    TextPlace place = TextPlace::inside;
    std::optional<Link> link = {};
    double shift = 0; // of the text along the line, mm, from where its place is
};
double room_for_text(const std::string& words); // mm that a dimension needs for its text inside
double room_for_arrows();
void draw(Paper& to, const DimensionLine& d);

// An extension line from a feature to beyond a dimension line.
void extension(Paper& to, At feature, At dimension);

// What belongs together at one place of a view: a dimension with its extension lines, or a leader with its words.
struct Item {
    Link link = {};
    std::optional<DimensionLine> line = {}; // else a leader
    // Where the line's extension lines start, at a and at b (of a diameter run through: its upper and lower edge); none: it
    // has none.
    std::vector<At> features = {};
    std::vector<At> points = {}; // a leader's, from its tip to the end of its shelf
    Text text = {};              // … its words
    double through = 0; // … of a diameter that it runs through upright, half of that; 0: it only points there
};
void draw(Paper& to, const Item& item);
// By so much on paper: a dimension line square to itself, its text along it; a leader's shelf.
void move(Item& item, At by);

} // namespace whorl::drawing
