// A piece's side elevation as a drawing: outline of the upper half or both, thread as its true zigzag.
#pragma once

#include "model/resolve.hpp"

#include <QPainter>
#include <QPainterPath>
#include <QRectF>
#include <optional>
#include <vector>

namespace whorl::app {

// Radius along the axis as a polyline, millimetres: x along the axis from the near end, y the radius. Threads
// are drawn by their section as long as a pitch is at least `least_pitch_mm` wide, otherwise as their crest.
QPolygonF silhouette(const ResolvedZone& zone, double least_pitch_mm);
// The same where the cut shows more than the outside: a disc's groove, a drum's track where its timing begins.
QPolygonF half_section(const ResolvedZone& zone, double least_pitch_mm);

// A rack from its side, closed: x along it, y over its back. A bar without teeth where a pitch is narrower.
QPolygonF rack_side(const ResolvedRack& rack, double least_pitch_mm);

// A spring from its side: the wire's middle line, half turn by half turn behind the axis and in front of it.
// x along the axis, y over it, millimetres.
struct CoilSide {
    std::vector<QPolygonF> behind, before;
    double wire = 0;
    std::optional<double> ground_at; // x of the far ground face; the near one is at 0
};
CoilSide coil_side(const ResolvedCoil& coil);
void draw_coil_side(QPainter& p, const CoilSide& side, const QTransform& to_page, const QColor& ink);

// A whole piece as large as the room allows, from its left edge on: from its side, a disc of teeth from its
// end.
void draw_elevation(QPainter& p, const ResolvedPiece& piece, const QRectF& room);
// What is written beside such a drawing, since each has its own scale: the length, or the diameter of a disc.
QString largest_size(const ResolvedPiece& piece, LengthUnit unit);

} // namespace whorl::app
