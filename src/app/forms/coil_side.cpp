#include "app/forms/coil_side.hpp"

#include "app/theme.hpp"

#include <algorithm>
#include <numbers>

namespace whorl::app {

CoilSide coil_side(const ResolvedCoil& c) {
    CoilSide out;
    out.wire = c.wire;
    if (c.spec.ground) out.ground_at = c.free_length;
    constexpr double half = std::numbers::pi;
    for (int k = 0; k * half < c.line.end() - 1e-9; ++k) {
        const double from = k * half, to = std::min(c.line.end(), from + half);
        QPolygonF line;
        for (int i = 0; i <= 24; ++i) {
            const auto p = c.line.point(from + (to - from) * i / 24);
            line << QPointF(p.at.z + c.lift(), p.at.x);
        }
        const bool before = (k % 2 == 0) == (c.spec.hand == Hand::left);
        (before ? out.before : out.behind).push_back(line);
    }
    return out;
}

void draw_coil_side(QPainter& p, const CoilSide& side, const QTransform& to_page, const QColor& ink) {
    const Theme& t = theme();
    const double thick = side.wire * to_page.m11();
    p.save();
    if (side.ground_at) { // nothing stands out beyond the ground faces
        const QPointF a = to_page.map(QPointF(0, 0)), b = to_page.map(QPointF(*side.ground_at, 0));
        p.setClipRect(QRectF(a.x() - 0.6, -1e4, b.x() - a.x() + 1.2, 2e4), Qt::IntersectClip);
    }
    p.setBrush(Qt::NoBrush);
    QColor faint = ink;
    faint.setAlphaF(0.5f);
    // the wire as a broad line, and a narrower one that leaves its edges
    const auto draw = [&](const std::vector<QPolygonF>& lines, const QColor& edge, const QColor& inside) {
        for (const QPolygonF& line : lines) {
            const QPolygonF on_page = to_page.map(line);
            p.setPen(QPen(edge, std::max(1.0, thick), Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
            p.drawPolyline(on_page);
            if (thick < 3) continue;
            p.setPen(QPen(inside, thick - 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
            p.drawPolyline(on_page);
        }
    };
    draw(side.behind, faint, t.panel);
    draw(side.before, ink, t.part_fill);
    p.restore();
}

} // namespace whorl::app
