// A spring from its side: the wire's middle line, half turn by half turn behind the axis and in front of it.
#pragma once

#include "form/coil/coil.hpp"

#include <QPainter>
#include <QPolygonF>
#include <vector>

namespace whorl::app {

// x along the axis, y over it, millimetres.
struct CoilSide {
    std::vector<QPolygonF> behind, before;
    std::vector<QPolygonF> ends;                  // of hooks and legs, which are among them
    double wire = 0;                              // as high as it is seen
    bool round = true;                            // it
    bool near_ground = false, far_ground = false; // faces, at x = 0 and at the length
    double length = 0;
};
QRectF bounds(const CoilSide& side); // with its wire
// Hooks and legs alone, as they are seen.
void draw_wire_ends(QPainter& p, const CoilSide& side, const QTransform& to_page);
CoilSide coil_side(const ResolvedCoil& coil);
void draw_coil_side(QPainter& p, const CoilSide& side, const QTransform& to_page, const QColor& ink);

} // namespace whorl::app
