// What a drawing sheet holds, flat: strokes of a few kinds, filled arrow heads, hatching and texts. Writers and the
// window know only this list.
//
// Millimetres on paper, x to the right and y up from the sheet's lower left corner. Angles in radians, counter-clockwise.
#pragma once

#include "model/field.hpp"

#include <optional>
#include <string>
#include <vector>

namespace whorl::drawing {

struct At {
    double x = 0, y = 0;
    friend At operator+(At a, At b) { return {a.x + b.x, a.y + b.y}; }
    friend At operator-(At a, At b) { return {a.x - b.x, a.y - b.y}; }
    friend At operator*(double k, At a) { return {k * a.x, k * a.y}; }
    friend bool operator==(const At&, const At&) = default;
};

// Upright rectangles; an empty one holds nothing.
struct Box {
    double left = 1, bottom = 1, right = 0, top = 0;
    bool empty() const { return right < left || top < bottom; }
    double width() const { return empty() ? 0 : right - left; }
    double height() const { return empty() ? 0 : top - bottom; }
    void hold(At p);
    void hold(const Box& b);
    Box grown(double by) const;
    Box moved(At by) const;
    bool meets(const Box& b) const; // they have an area in common
    bool holds(const Box& b) const; // all of it
};

// Line group 0.5 of ISO 128-2: wide lines 0.5, narrow ones 0.25.
enum class LineKind {
    outline,  // visible edges, wide
    thin,     // dimensions, leaders, thread roots, hatching
    hatching, // as thin; a layer of its own
    hidden,   // dashed, narrow
    centre,   // long-dashed dotted, narrow: axes, pitch lines
    cut,      // long-dashed dotted, wide: where a section is taken
    frame     // of the sheet, wide
};
constexpr int line_kinds = 7;
struct LineStyle {
    const char* layer;          // its name in files that have layers
    double width;               // mm
    std::vector<double> dashes; // mm, stroke and gap in turn; empty: unbroken
};
const LineStyle& style_of(LineKind kind);

// Points joined by straight lines, or a smooth curve through them, or part of a circle.
struct Stroke {
    LineKind kind = LineKind::outline;
    std::vector<At> points = {}; // none: an arc
    bool closed = false;
    bool smooth = false;     // a curve, of which these are points
    At centre = {};          // of an arc
    double radius = 0;       // … above 0
    double from = 0, to = 0; // … counter-clockwise; a turn apart: a circle
    bool is_arc() const { return points.empty(); }
};
Stroke line(LineKind kind, At a, At b);
Stroke circle(LineKind kind, At centre, double radius);
Stroke arc(LineKind kind, At centre, double radius, double from, double to);
Box bounds(const Stroke& s);
// Its points, of an arc chords no farther than `chord` (mm) from it.
std::vector<At> points_of(const Stroke& s, double chord = 0.01);

struct Fill { // black, a closed polygon
    std::vector<At> points;
};

enum class Anchor { left, middle, right };

// What a text stands for and where it is typed over; the window's input.
struct Link {
    std::size_t piece = 0;
    std::optional<std::size_t> zone = {}; // none: of the piece as a whole
    std::string key = {};                 // of the value, as the spec sheet has it
    std::optional<Field> field = {};      // none: it follows from others
    friend bool operator==(const Link&, const Link&) = default;
};

// One line of text. `at` lies on its base line.
struct Text {
    At at;
    std::string words;
    double height = 3.5; // of its capitals, mm
    Anchor anchor = Anchor::left;
    double angle = 0;
    std::optional<Link> link = {};
    Box room = {}; // that it fills of a form, though it be empty; none: its own box
};
// What it covers: its turned rectangle's corners, and the upright one around these.
std::vector<At> corners(const Text& t);
Box bounds(const Text& t);

struct Paper {
    double width = 0, height = 0;
    std::vector<Stroke> strokes = {};
    std::vector<Fill> fills = {};
    std::vector<Text> texts = {};
    std::string title = {}; // of the document

    void add(Stroke s) { strokes.push_back(std::move(s)); }
    void add(Text t) { texts.push_back(std::move(t)); }
    // All that stands on another list, moved.
    void add(const Paper& other, At by = {});
    Box bounds() const;
};

// The control points of cubic pieces through a smooth stroke's points, three a piece and the first: its slope at each is that
// of the circle through it and its neighbours.
std::vector<At> curve_through(const std::vector<At>& points);

Stroke moved(Stroke s, At by);

} // namespace whorl::drawing
