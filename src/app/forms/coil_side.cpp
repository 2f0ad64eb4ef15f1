#include "app/forms/coil_side.hpp"

#include "app/theme.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::app {

CoilSide coil_side(const ResolvedCoil& c) {
    CoilSide out;
    out.wire = c.axial;
    out.round = c.round;
    // flat-sided wire is seen as its outer side, as broad as it is high
    const double outer = c.round ? 0 : c.wire / 2;
    out.near_ground = c.ground(false);
    out.far_ground = c.ground(true);
    out.length = c.length;
    constexpr double half = std::numbers::pi;
    const double start = c.line.shape().start, end = c.line.coil_end();
    // from one pass through the plane of the axis to the next
    for (double from = 0; from < end - 1e-9;) {
        const double to = std::min(end, (std::floor((from + start) / half + 1e-9) + 1) * half - start);
        QPolygonF line;
        for (int i = 0; i <= 24; ++i) {
            const double theta = from + (to - from) * i / 24;
            const Vec3 p = c.line.point(theta).at + outer * c.line.frame(theta).outwards;
            line << QPointF(p.z + c.lift(), p.x);
        }
        (c.line.point((from + to) / 2).at.y < 0 ? out.before : out.behind).push_back(line);
        from = to;
    }
    // hooks and legs
    const auto& breaks = c.line.breaks();
    for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
        if (breaks[i] > -1e-9 && breaks[i + 1] < c.line.coil_end() + 1e-9) continue;
        QPolygonF line;
        double deep = 0;
        for (int k = 0; k <= 32; ++k) {
            const auto p = c.line.point(breaks[i] + (breaks[i + 1] - breaks[i]) * k / 32);
            line << QPointF(p.at.z + c.lift(), p.at.x);
            deep += p.at.y;
        }
        (deep <= 0 ? out.before : out.behind).push_back(line);
        out.ends.push_back(line);
    }
    return out;
}

QRectF bounds(const CoilSide& side) {
    QRectF out;
    for (const auto* lines : {&side.before, &side.behind})
        for (const QPolygonF& line : *lines)
            out = out.isNull() ? line.boundingRect() : out.united(line.boundingRect());
    const double half = side.wire / 2;
    return out.adjusted(-half, -half, half, half);
}

void draw_wire_ends(QPainter& p, const CoilSide& side, const QTransform& to_page) {
    const Theme& t = theme();
    const double thick = side.wire * to_page.m11();
    p.setBrush(Qt::NoBrush);
    for (const bool inside : {false, true})
        for (const QPolygonF& line : side.ends) {
            p.setPen(QPen(inside ? t.paper : t.part,
                          inside ? std::max(0.0, thick - 2.4) : std::max(1.0, thick), Qt::SolidLine,
                          Qt::FlatCap, Qt::RoundJoin));
            p.drawPolyline(to_page.map(line));
        }
}

void draw_coil_side(QPainter& p, const CoilSide& side, const QTransform& to_page, const QColor& ink) {
    const Theme& t = theme();
    const double thick = side.wire * to_page.m11();
    p.save();
    if (side.near_ground || side.far_ground) { // nothing stands out beyond the ground faces
        const double a = side.near_ground ? to_page.map(QPointF(0, 0)).x() - 0.6 : -1e4,
                     b = side.far_ground ? to_page.map(QPointF(side.length, 0)).x() + 0.6 : 1e4;
        p.setClipRect(QRectF(a, -1e4, b - a, 2e4), Qt::IntersectClip);
    }
    p.setBrush(Qt::NoBrush);
    QColor faint = ink;
    faint.setAlphaF(0.5f);
    const Qt::PenCapStyle cap = side.round ? Qt::RoundCap : Qt::FlatCap;
    // the wire as a broad line, and a narrower one that leaves its edges
    const auto draw = [&](const std::vector<QPolygonF>& lines, const QColor& edge, const QColor& inside) {
        for (const QPolygonF& line : lines) {
            const QPolygonF on_page = to_page.map(line);
            p.setPen(QPen(edge, std::max(1.0, thick), Qt::SolidLine, cap, Qt::RoundJoin));
            p.drawPolyline(on_page);
            if (thick < 3) continue;
            p.setPen(QPen(inside, thick - 2, Qt::SolidLine, cap, Qt::RoundJoin));
            p.drawPolyline(on_page);
        }
    };
    draw(side.behind, faint, t.panel);
    draw(side.before, ink, t.part_fill);
    p.restore();
}

} // namespace whorl::app
