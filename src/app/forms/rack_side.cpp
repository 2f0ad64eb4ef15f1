#include "app/forms/rack_side.hpp"

#include "exchange/tooth_outline.hpp"

#include <QRectF>

namespace whorl::app {

QPolygonF rack_side(const ResolvedRack& r, double least_pitch_mm) {
    if (r.half_outline.empty() || r.pitch() < least_pitch_mm)
        return QRectF(0, 0, r.length, in_mm(r.spec.height));
    QPolygonF out;
    for (const ArcPoint& p : rack_outline(r, true))
        out << QPointF(p.x, p.y);
    return out;
}

} // namespace whorl::app
