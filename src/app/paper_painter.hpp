// A drawing sheet's list on the screen and the printer.
#pragma once

#include "drawing/paper.hpp"

#include <QPainter>

namespace whorl::app {

// Millimetres of the sheet to the painter's own units: y down there.
QTransform sheet_to_page(const drawing::Paper& paper, QPointF upper_left, double per_mm);
// `least`: the thinnest line, in the painter's units. What is linked as `lit` stands in `colour`.
void paint_sheet(QPainter& p, const drawing::Paper& paper, const QTransform& to_page, double least,
                 const QString& lit, const QColor& colour);

} // namespace whorl::app
