// A piece made ready to be drawn at any scale: which views it takes, what is seen and cut in each, and what is said there.
#pragma once

#include "build/build.hpp"
#include "drawing/dimension.hpp"
#include "drawing/seen.hpp"

namespace whorl::drawing {

enum class Projection { first_angle, third_angle };
// Half: its lower half. Broken: out of the side view where bores are, between two places on the axis.
enum class Sectioned { no, half, whole, broken };
struct Stretch {
    double from, to; // mm
};

struct Draft {
    ResolvedPiece piece;   // as it is
    ResolvedPiece drawn;   // … and as it is drawn
    std::size_t index = 0; // in its job
    LengthUnit unit = LengthUnit::millimetre;
    Gaze gaze = {}; // of the main view
    Sectioned sectioned = Sectioned::no;
    std::vector<Stretch> broken = {}; // of a broken-out section
    Seen side = {}, cut = {};         // the main view uncut and cut, as far as needed
    std::vector<Run> hatched = {};    // what of the cut is hatched: without teeth
    std::optional<Seen> end = {};
    bool end_is_near = true;
    bool true_form = false;                 // nothing stands for anything
    double chord = 0.01;                    // mm
    std::vector<std::size_t> enlarged = {}; // zones whose section is drawn enlarged
    PieceDrawing by_hand = {};              // what was done to it
    std::vector<Dimension> dimensions = {};
    std::vector<std::string> notes = {}; // what is simplified
    bool axial() const;                  // it has a straight axis, along the main view
};

struct DraftOptions {
    LengthUnit unit = LengthUnit::millimetre;
    bool true_form = false; // threads, teeth and knurls as they are
    bool hidden = false;
    std::string section = {}, details = {}; // as PieceDrawing has them
};

// Of what was moved or taken off by hand; none: it stands where it comes to stand.
const MovedItem* moved_item(const PieceDrawing& drawing, const Link& link);

// Throws CannotMake for a piece that can't be made.
Draft make_draft(const ResolvedPiece& piece, std::size_t index, const DraftOptions& options);

// All that is said of a piece that turns about its axis: each length and diameter once.
std::vector<Dimension> dimensions_of(const ResolvedPiece& piece, std::size_t index, LengthUnit unit,
                                     bool section);

} // namespace whorl::drawing
