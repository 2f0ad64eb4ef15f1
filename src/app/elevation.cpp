#include "app/elevation.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::app {

QPolygonF silhouette(const ResolvedZone& zone, double least_pitch_mm) {
    const double z0 = in_mm(zone.start), length = in_mm(zone.length), R = in_mm(zone.outer_radius());
    QPolygonF line;
    if (zone.thread && zone.thread->section.sweepable() && zone.thread->section.pitch >= least_pitch_mm) {
        const ThreadSection& s = zone.thread->section;
        line << QPointF(0, s.crest_radius);
        for (double c = s.pitch / 2; c < length + s.pitch; c += s.pitch) {
            const double w = s.groove_width() / 2, f = s.root_flat / 2;
            line << QPointF(c - w, s.crest_radius) << QPointF(c - f, s.root_radius)
                 << QPointF(c + f, s.root_radius) << QPointF(c + w, s.crest_radius);
        }
        // cut to the zone
        QPolygonF cut;
        for (int i = 0; i < line.size(); ++i) {
            if (line[i].x() <= length) {
                cut << line[i];
            } else {
                const QPointF a = line[i - 1], b = line[i];
                const double x = (length - a.x()) / std::max(1e-9, b.x() - a.x());
                cut << a + x * (b - a);
                break;
            }
        }
        line = cut;
    } else {
        line << QPointF(0, R) << QPointF(length, R);
    }
    // chamfers take the lesser radius
    const auto limit = [&](double x) {
        double r = 1e9;
        const auto at = [&](const ResolvedEnd& e, double from_end) {
            if (e.kind == EndKind::chamfer)
                r = std::min(r, in_mm(e.diameter) / 2 + from_end * std::tan(in_rad(e.angle)));
        };
        at(zone.near_end, x);
        at(zone.far_end, length - x);
        return r;
    };
    const auto run_out = [&](double x, double r) {
        if (!zone.thread) return r;
        const double lead = zone.thread->section.lead();
        const auto raise = [&](const ResolvedEnd& e, double from_end) {
            if (e.kind != EndKind::run_out) return;
            const double part = 1 - from_end / std::max(1e-9, lead * e.turns);
            if (part > 0) r += part * (zone.thread->section.crest_radius - zone.thread->section.root_radius);
        };
        raise(zone.near_end, x);
        raise(zone.far_end, length - x);
        return std::min(r, zone.thread->section.crest_radius);
    };
    QPolygonF out;
    const auto put = [&](double x, double r) { out << QPointF(z0 + x, std::min(run_out(x, r), limit(x))); };
    for (int i = 0; i < line.size(); ++i) {
        if (i > 0) { // enough points for the chamfer's slope to show
            const QPointF a = line[i - 1], b = line[i];
            const int n = std::clamp(static_cast<int>((b.x() - a.x()) / std::max(1e-6, length / 60)), 0, 60);
            for (int k = 1; k < n; ++k)
                put(a.x() + (b.x() - a.x()) * k / n, a.y() + (b.y() - a.y()) * k / n);
        }
        put(line[i].x(), line[i].y());
    }
    return out;
}

} // namespace whorl::app
