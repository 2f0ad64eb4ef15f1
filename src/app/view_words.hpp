// What every view of something solid has written over it.
#pragma once

#include "app/camera.hpp"
#include "quantity/quantity.hpp"

#include <QPainter>
#include <QRectF>
#include <array>

namespace whorl::app {

// side, end, oblique at the right of the title's line, in the order of Look; where they can be clicked.
void draw_look_words(QPainter& p, double width, const Camera& camera, std::array<QRectF, 3>& words);
// A scale bar, so that size is never a guess. `pixel`: mm of one.
void draw_scale(QPainter& p, QSizeF view, double pixel, LengthUnit unit);

} // namespace whorl::app
