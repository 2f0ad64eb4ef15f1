// A bent bar in its first bend's plane, as large as the room allows.
#pragma once

#include "model/resolve.hpp"

#include <QPainter>

namespace whorl::app {

void draw_bent(QPainter& p, const ResolvedPiece& piece, const QRectF& room);

} // namespace whorl::app
