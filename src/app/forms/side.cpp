#include "app/forms/side.hpp"

#include "app/theme.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::app {

QPolygonF turned_outline(const ResolvedZone& zone, double least_pitch_mm) {
    const double z0 = in_mm(zone.start), length = in_mm(zone.length);
    // heights are radii, in a bore minus the radius, so that chamfers and run-outs always lower or raise them
    const double sign = zone.in_bore() ? -1 : 1;
    const bool drawn = zone.swept() && !zone.simplified() && zone.swept()->sweepable() &&
                       zone.swept()->pitch >= least_pitch_mm;
    const double near = sign * in_mm(zone.diameter) / 2, far = sign * in_mm(zone.far_diameter) / 2;
    const auto surface = [&](double x) { // without its grooves
        if (!zone.swept()) return near + (far - near) * x / length;
        return sign * (zone.swept()->crest_radius + zone.taper() * (z0 + x - in_mm(zone.taper_from())));
    };
    QPolygonF line;
    line << QPointF(0, surface(0));
    if (drawn) {
        const ThreadSection& s = *zone.swept();
        const double crest = sign * s.crest_radius, root = sign * s.root_radius;
        const auto groove = groove_polyline(s, s.pitch / 200);
        // a milled groove's middle goes no farther than its tool's
        const auto beyond = [&](const ResolvedEnd& e, double from_end) {
            return e.kind == EndKind::milled && from_end < milled_reach(s);
        };
        for (double c = s.pitch / 2; c < length + s.pitch; c += s.pitch) {
            if (beyond(zone.near_end, c) || beyond(zone.far_end, length - c)) continue;
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
    }
    line << QPointF(length, surface(length));
    // cones at the ends
    const auto limited = [&](double x, double h) {
        for (const auto& [e, d] : {std::pair{&zone.near_end, x}, std::pair{&zone.far_end, length - x}}) {
            if (e->is_edge()) {
                if (d < in_mm(e->dome_height)) h = sign * in_mm(e->radius_at(d));
                continue;
            }
            if (e->has_cap()) {
                h = std::min(h, in_mm(e->radius_at(d)));
                continue;
            }
            if (e->kind != EndKind::chamfer || zone.outline() != Outline::round) continue;
            const double end = sign * in_mm(e->diameter) / 2, slant = d * std::tan(in_rad(e->angle));
            if (zone.in_bore() && !zone.swept() && end > surface(x))
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
                if (e->has_cap()) step = std::min(step, in_mm(e->dome_height) / 16);
            const int n = std::clamp(static_cast<int>((b.x() - a.x()) / std::max(1e-6, step)), 0, 200);
            for (int k = 1; k < n; ++k)
                put(a.x() + (b.x() - a.x()) * k / n, a.y() + (b.y() - a.y()) * k / n);
        }
        put(line[i].x(), line[i].y());
    }
    return out;
}

QColor strip_metal(bool selected) {
    const Theme& t = theme();
    if (!selected) return t.part_fill;
    return {(t.part_fill.red() + t.active_tint.red()) / 2, (t.part_fill.green() + t.active_tint.green()) / 2,
            (t.part_fill.blue() + t.active_tint.blue()) / 2};
}

void draw_strip_metal(QPainter& p, const QPainterPath& metal, bool selected) {
    const Theme& t = theme();
    p.fillPath(metal, strip_metal(selected));
    QColor hatching = t.part;
    hatching.setAlphaF(0.35f);
    hatch(p, metal, hatching, 6);
    p.setPen(QPen(selected ? t.active : t.part, 1.5));
    p.setBrush(Qt::NoBrush);
    p.drawPath(metal);
}

void lines_at_radius(QPainter& p, const ResolvedZone& zone, double radius, const SidePlace& place) {
    for (const double side : {-1.0, 1.0})
        p.drawLine(place.at(in_mm(zone.start), side * radius), place.at(in_mm(zone.end()), side * radius));
}

void thread_marks(QPainter& p, const ResolvedZone& z, const SidePlace& place) {
    if ((z.simplified() || z.swept()->pitch < least_drawn_pitch / place.k) && z.swept()->root_radius > 0)
        lines_at_radius(p, z, z.swept()->root_radius, place);
}

} // namespace whorl::app
