// Points of a curve that are dragged in a drawing: squares are points, a ring between two is a new one, and the chosen
// one's numbers stand below. They are the words of the field `points`, "first:second" or "first:second:third": dragging
// one leaves the others as they were typed.
#pragma once

#include "app/section_view.hpp"

#include <functional>

namespace whorl::app {

struct CurvePoints {
    int count = 0;
    std::function<QPointF(int point)> at;           // on the drawing
    std::function<QPointF(int point)> between;      // in the middle of the curve to the next one
    std::function<QPointF(int point)> values;       // mm, as the words say them
    std::function<QPointF(QPointF place)> read;     // a place on the drawing as values
    std::function<QPointF(int right, int up)> way;  // of the arrow keys, in values
    std::function<bool(int point, int part)> fixed; // a number that can't be changed
    const char* names[3]{"height", "radius", "angle"};
    const char* tips[3]{"", "", ""};
};

// What is dragged goes in steps of 0.1 mm or 0.005 in, with Shift in a tenth of them.
double drag_grain(LengthUnit unit, bool fine); // mm
double in_steps(double v, double step);
QString dragged_number(double millimetres, LengthUnit unit);

// Nothing where the field has other words than points (a formula that is several).
void add_point_knobs(SectionView& view, QPainter& p, const CurvePoints& curve);

} // namespace whorl::app
