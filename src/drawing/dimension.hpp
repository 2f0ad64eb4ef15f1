// What is said of a piece in its views: dimensions, before they have a place on paper.
//
// In the side view's picture, millimetres of the piece: x along the axis from the near end, y the height over it.
#pragma once

#include "drawing/paper.hpp"
#include "model/resolve.hpp"

namespace whorl::drawing {

enum class Measure {
    along,        // between two places on the axis
    across,       // a diameter or thickness, square to the axis
    note,         // words on a leader to a place
    between_flats // in the end view: across two flats
};

struct Dimension {
    Measure measure = Measure::along;
    Link link = {};
    std::string words = {};
    double value = 0; // mm, what is measured; a note's may be nothing
    double from = 0,
           to = 0;      // along: the two places; across: where on the axis it can be taken; a note: its place
    double radius = 0;  // across: half of it; along: from where its extension lines start; a note: its height
    bool inner = false; // of a bore: in the section
    bool reference = false; // follows from others, in brackets
    bool conical = false;   // across: holds at `from` only
};

// A line that stands for something: in the side view's or the end view's picture. `beyond`: mm on paper that it goes on at
// its ends.
struct Mark {
    Stroke stroke;
    double beyond = 0;
    bool surface = false; // lies on the surface: not where that is cut away
};

// A zone on its way into a drawing.
struct ZoneDrawn {
    const ResolvedPiece& piece;
    const ResolvedZone& zone; // as it really is
    std::size_t piece_index, index;
    LengthUnit unit;
    double scale; // mm on paper for a mm
    bool section; // the bores are seen

    Link link(const char* key, Field field) const;
    Link link(const char* key) const;
    std::string figure(double millimetres) const; // as it stands in a drawing, without its unit
};

std::string figure(double millimetres, LengthUnit unit);
std::string degrees(double radians);
std::string mass_words(double grams);

} // namespace whorl::drawing
