#include "app/elevation.hpp"

#include "app/theme.hpp"

#include "exchange/tooth_outline.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::app {

QPolygonF rack_side(const ResolvedRack& r, double least_pitch_mm) {
    if (r.half_outline.empty() || r.pitch() < least_pitch_mm)
        return QRectF(0, 0, r.length, in_mm(r.spec.height));
    QPolygonF out;
    for (const ArcPoint& p : rack_outline(r, true))
        out << QPointF(p.x, p.y);
    return out;
}

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

QPolygonF silhouette(const ResolvedZone& zone, double least_pitch_mm) {
    const double z0 = in_mm(zone.start), length = in_mm(zone.length);
    // heights are radii, in a bore minus the radius, so that chamfers and run-outs always lower or raise them
    const double sign = zone.in_bore() ? -1 : 1;
    const bool drawn = zone.thread() && !zone.simplified() && zone.thread()->section.sweepable() &&
                       zone.thread()->section.pitch >= least_pitch_mm;
    const double near = sign * in_mm(zone.diameter) / 2, far = sign * in_mm(zone.far_diameter) / 2;
    const auto surface = [&](double x) { // without its grooves
        if (!zone.thread()) return near + (far - near) * x / length;
        return sign *
               (zone.thread()->section.crest_radius + zone.taper() * (z0 + x - in_mm(zone.taper_from())));
    };
    if (zone.gear()) { // the tips' envelope
        const double r = zone.gear()->tip_radius;
        return QPolygonF{{z0, r}, {z0 + length, r}};
    }
    QPolygonF line;
    line << QPointF(0, surface(0));
    if (drawn) {
        const ThreadSection& s = zone.thread()->section;
        const double crest = sign * s.crest_radius, root = sign * s.root_radius;
        const auto groove = groove_polyline(s, s.pitch / 200);
        for (double c = s.pitch / 2; c < length + s.pitch; c += s.pitch)
            for (const auto& g : groove) {
                const double x = c + g.z;
                if (x <= 0 || x >= length) continue;
                double h = sign * g.r;
                const auto raise = [&](const ResolvedEnd& e, double from_end) {
                    if (e.kind != EndKind::run_out) return;
                    h += (crest - root) * std::max(0.0, 1 - from_end / std::max(1e-9, s.lead() * e.turns));
                };
                raise(zone.near_end, x);
                raise(zone.far_end, length - x);
                line << QPointF(x, std::min(h, crest) + surface(x) - crest);
            }
    }
    line << QPointF(length, surface(length));
    // cones at the ends
    const auto limited = [&](double x, double h) {
        for (const auto& [e, d] : {std::pair{&zone.near_end, x}, std::pair{&zone.far_end, length - x}}) {
            if (e->is_dome()) {
                h = std::min(h, in_mm(e->radius_at(d)));
                continue;
            }
            if (e->kind != EndKind::chamfer || zone.outline() != Outline::round) continue;
            const double end = sign * in_mm(e->diameter) / 2, slant = d * std::tan(in_rad(e->angle));
            if (zone.in_bore() && !zone.thread() && end > surface(x))
                h = std::max(h, end - slant);
            else
                h = std::min(h, end + slant);
        }
        return h;
    };
    QPolygonF out;
    const auto put = [&](double x, double h) { out << QPointF(z0 + x, std::max(0.0, sign * limited(x, h))); };
    for (int i = 0; i < line.size(); ++i) {
        if (i > 0) { // enough points for the cones' slopes to show
            const QPointF a = line[i - 1], b = line[i];
            double step = length / 60;
            for (const ResolvedEnd* e : {&zone.near_end, &zone.far_end})
                if (e->is_dome()) step = std::min(step, in_mm(e->dome_height) / 16);
            const int n = std::clamp(static_cast<int>((b.x() - a.x()) / std::max(1e-6, step)), 0, 200);
            for (int k = 1; k < n; ++k)
                put(a.x() + (b.x() - a.x()) * k / n, a.y() + (b.y() - a.y()) * k / n);
        }
        put(line[i].x(), line[i].y());
    }
    return out;
}

} // namespace whorl::app
