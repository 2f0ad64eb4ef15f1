// A piece's side elevation as a drawing: outline of the upper half or both, thread as its true zigzag.
#pragma once

#include "model/resolve.hpp"

#include <QPainter>
#include <QPolygonF>
#include <QRectF>

namespace whorl::app {

// Radius along the axis as a polyline, millimetres: x along the axis from the near end, y the radius. What is narrower
// than `least_pitch_mm` is drawn as its crest.
QPolygonF silhouette(const ResolvedZone& zone, double least_pitch_mm);
// The same where the cut shows more than the outside: a disc's groove, a drum's track where its timing begins.
QPolygonF half_section(const ResolvedZone& zone, double least_pitch_mm);

// A whole piece as large as the room allows, from its left edge on: from its side, a disc of teeth from its
// end.
void draw_elevation(QPainter& p, const ResolvedPiece& piece, const QRectF& room);
// What is written beside such a drawing, since each has its own scale: the length, or the diameter of a disc.
QString largest_size(const ResolvedPiece& piece, LengthUnit unit);

} // namespace whorl::app
