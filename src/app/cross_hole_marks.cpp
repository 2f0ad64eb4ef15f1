#include "app/cross_hole_marks.hpp"

#include "app/theme.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::app {

void draw_cross_holes(QPainter& p, const ResolvedZone& zone, const SidePlace& place) {
    const ResolvedCrossHoles& h = *zone.cross();
    const double co = std::cos(h.towards), si = std::sin(h.towards);
    const auto reach = [&](double z, double y) { // u on the side the hole looks to
        const double part = (z - in_mm(zone.start)) / in_mm(zone.length),
                     r = (in_mm(zone.diameter) + part * in_mm(zone.far_diameter - zone.diameter)) / 2;
        if (zone.outline() == Outline::round) return std::sqrt(std::max(0.0, r * r - y * y));
        return zone.outline() == Outline::flat && std::abs(si) > 0.7
                   ? in_mm(zone.as<ResolvedPlain>()->thickness) / 2
                   : r;
    };
    for (const double at : h.at) {
        for (const double side : {1.0, -1.0}) {
            if (side < 0 && h.one_side) continue;
            QPolygonF visible;
            for (int i = 0; i <= 48; ++i) {
                const double t = 2 * std::numbers::pi * i / 48, y = h.radius * std::cos(t),
                             z = at + h.radius * std::sin(t), u = side * reach(z, y);
                if (u * si + y * co > -1e-9) visible << place.at(z, u * co - y * si);
            }
            p.setPen(QPen(theme().part, 1));
            p.setBrush(theme().panel);
            if (visible.size() == 49)
                p.drawPolygon(visible);
            else if (visible.size() > 1 && std::abs(co) < 0.995)
                p.drawPolyline(visible);
        }
        if (std::abs(co) < 0.1) continue;
        p.setPen(QPen(theme().part, 0.8, Qt::DashLine));
        for (const double edge : {-1.0, 1.0}) {
            const double z = at + edge * h.radius, u = reach(z, 0);
            p.drawLine(place.at(z, u * co), place.at(z, h.one_side ? 0 : -u * co));
        }
    }
    p.setBrush(Qt::NoBrush);
}

} // namespace whorl::app
