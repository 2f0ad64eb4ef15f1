// A view at a scale, with its dimensions placed around it: still about its own origin, the piece's near end on its axis.
//
// Dimensions find their place in a greedy order, shortest first, so that shorter ones stand inside longer ones:
//   lengths      in rows under the view
//   diameters    in rows left or right of it, where nothing larger stands between; else through their zone, the words above
//   notes        at the piece's ends out of its corners, others on leaders above
// No two texts meet, and none meets a dimension line or the extension line of another; a row further out is tried until
// that holds.
#pragma once

#include "drawing/arrows.hpp"
#include "drawing/draft.hpp"

namespace whorl::drawing {

struct PlacedView {
    std::string letter; // "A–A", "Z (5 : 1)"; empty: it needs none
    Paper paper;
    Box outline;                       // of what is seen
    std::vector<Item> items;           // what is said there, until settle()
    Box box;                           // of everything
    std::vector<std::string> left_out; // what found no place
};

PlacedView place_main_view(const Draft& draft, double scale);
// None where the piece needs none.
std::optional<PlacedView> place_end_view(const Draft& draft, double scale);

// Runs as strokes of a kind; its outline holds them.
void add_strokes(PlacedView& view, const std::vector<Run>& runs, LineKind kind);
// A mark at a scale, longer at its ends; of half a view (1 the upper, −1 the lower) and of the surface beside what is broken
// out only what is seen; none: nothing.
std::optional<Stroke> on_paper(const Mark& mark, double scale, int half = 0,
                               const std::vector<Stretch>& broken = {});

// Moves what was moved by hand, takes off what was taken off, and draws the rest onto the view.
void settle(PlacedView& view, const Draft& draft);

// Keeps what stands already, so that nothing comes to lie on it.
class Room {
public:
    void take(const Box& text) { texts_.push_back(text); }
    void take_line(At a, At b) { lines_.push_back({a, b}); }
    // Whether a text can stand there, clear of texts and lines.
    bool free(const Box& text) const;
    // … a line, clear of texts.
    bool free(At a, At b) const;
    // Whether it crosses none of the leaders.
    bool uncrossed(At a, At b) const;
    void take_leader(At a, At b) { leaders_.push_back({a, b}); }
    const std::vector<Box>& texts() const { return texts_; }

private:
    std::vector<Box> texts_;
    std::vector<std::array<At, 2>> lines_, leaders_;
};

} // namespace whorl::drawing
