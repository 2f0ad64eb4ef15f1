#include "app/elevation.hpp"

#include "app/bent_elevation.hpp"
#include "app/cross_hole_marks.hpp"
#include "app/forms/form_views.hpp"
#include "app/theme.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::app {

QPolygonF silhouette(const ResolvedZone& zone, double least_pitch_mm) {
    return views_of(zone).side.outline(zone, least_pitch_mm);
}

QPolygonF half_section(const ResolvedZone& zone, double least_pitch_mm) {
    const SideView& side = views_of(zone).side;
    return (side.cut ? side.cut : side.outline)(zone, least_pitch_mm);
}

namespace {

// The zone of a piece that is wider than long which is better seen from its end.
const ResolvedZone* disc_zone(const ResolvedPiece& piece) {
    const ResolvedZone* found = nullptr;
    if (piece.length() > 2 * piece.largest_radius()) return nullptr;
    for (const auto& z : piece.zones)
        if (const auto from_end = views_of(z).side.from_end; from_end && !from_end(z).isEmpty())
            if (!found || z.largest_radius() > found->largest_radius()) found = &z;
    return found;
}

void draw_end(QPainter& p, const ResolvedPiece& piece, const ResolvedZone& zone, QPointF centre,
              double reach) {
    const Theme& t = theme();
    const double k = reach / in_mm(piece.largest_radius());
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    path.addPath(QTransform(k, 0, 0, k, centre.x(), centre.y()).map(views_of(zone).side.from_end(zone)));
    if (zone.in_bore()) path.addEllipse(centre, reach, reach);
    for (const auto& z : piece.zones)
        if (z.in_bore() && !z.gear()) {
            QPainterPath hole;
            hole.addEllipse(centre, in_mm(z.outer_radius()) * k, in_mm(z.outer_radius()) * k);
            if (z.keyway()) {
                QPainterPath slot;
                const double half = in_mm(z.keyway()->width) / 2 * k;
                slot.addRect(QRectF(0, -half, in_mm(z.outer_radius() + z.keyway()->depth) * k, 2 * half));
                QTransform place;
                place.translate(centre.x(), centre.y());
                place.rotateRadians(z.keyway()->at);
                hole = hole.united(place.map(slot));
            }
            path.addPath(hole);
        }
    p.setPen(QPen(t.part, zone.gear() && zone.gear()->spec.teeth > 60 ? 0.7 : 1.1));
    p.setBrush(t.part_fill);
    p.drawPath(path);
}

// A nut, ring or plate from its end: its outline, the crest of its thread and three quarters of a circle at
// the root (ISO 6410-1).
void draw_ring(QPainter& p, const ResolvedPiece& piece, QPointF centre, double reach) {
    const Theme& t = theme();
    const ResolvedZone *body = &piece.zones.front(), *bore = nullptr;
    for (const auto& z : piece.zones) {
        if (z.in_bore()) bore = &z;
        if (!z.in_bore() && z.outer_radius() > body->outer_radius()) body = &z;
    }
    const double k = reach / in_mm(piece.largest_radius());
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    if (const int corners = body->outline() == Outline::hexagon  ? 6
                            : body->outline() == Outline::square ? 4
                                                                 : 0) {
        QPolygonF shape;
        for (int i = 0; i < corners; ++i) {
            const double a = std::numbers::pi * (2 * i + 1) / corners;
            shape << centre + reach * QPointF(std::cos(a), std::sin(a));
        }
        path.addPolygon(shape);
        path.closeSubpath();
    } else {
        path.addEllipse(centre, reach, reach);
    }
    const auto* thread = bore->thread();
    const double hole = k * (thread ? thread->section.crest_radius : in_mm(bore->outer_radius()));
    path.addEllipse(centre, hole, hole);
    p.setPen(QPen(t.part, 1.2));
    p.setBrush(t.part_fill);
    p.drawPath(path);
    if (!thread) return;
    const double root = k * thread->section.root_radius;
    p.setPen(QPen(t.part, 0.8));
    p.drawArc(QRectF(centre.x() - root, centre.y() - root, 2 * root, 2 * root), 100 * 16, 270 * 16);
}

bool is_ring(const ResolvedPiece& piece) {
    const bool bored = std::any_of(piece.zones.begin(), piece.zones.end(), [&](const auto& z) {
        return z.in_bore() && in_mm(z.length) > 0.99 * in_mm(piece.length());
    });
    const bool tracked =
        std::any_of(piece.zones.begin(), piece.zones.end(), [](const auto& z) { return z.drum(); });
    return bored && !tracked && piece.length() < piece.largest_radius() * 1.9;
}

// A bar from its side, its axis level.
void draw_turned(QPainter& p, const ResolvedPiece& piece, const SidePlace& place) {
    const Theme& t = theme();
    QPainterPath path;
    for (const auto& z : piece.zones) {
        if (z.in_bore()) continue;
        QPolygonF shape;
        if (const auto whole = views_of(z).side.whole; whole && !whole(z).isEmpty()) {
            for (const QPointF& q : whole(z))
                shape << place.at(q.x(), q.y());
        } else {
            const QPolygonF upper = silhouette(z, least_drawn_pitch / place.k);
            for (const auto& q : upper)
                shape << place.at(q.x(), q.y());
            for (auto it = upper.rbegin(); it != upper.rend(); ++it)
                shape << place.at(it->x(), -it->y());
        }
        path.addPolygon(shape);
        path.closeSubpath();
    }
    p.setPen(QPen(t.part, 1.2));
    p.setBrush(t.part_fill);
    p.drawPath(path);
    for (const auto& z : piece.zones) {
        p.setPen(QPen(t.part, 0.7));
        if (z.in_bore()) { // hidden edges
            p.setPen(QPen(t.part, 0.8, Qt::DashLine));
            if (!z.as<ResolvedPlain>() && !z.silhouette()) {
                lines_at_radius(p, z, in_mm(z.outer_radius()), place);
                continue;
            }
            for (const double side : {-1.0, 1.0}) { // with its countersinks
                QPolygonF line;
                for (const auto& q : silhouette(z, 1e9))
                    line << place.at(q.x(), -side * q.y());
                p.drawPolyline(line);
            }
            continue;
        }
        if (z.cross()) draw_cross_holes(p, z, place);
        if (const auto marks = views_of(z).side.marks) marks(p, z, place);
    }
    p.setPen(QPen(t.muted, 0.8, Qt::DashDotLine));
    p.drawLine(place.at(0, 0) - QPointF(5, 0), place.at(in_mm(piece.length()), 0) + QPointF(5, 0));
}

} // namespace

void draw_elevation(QPainter& p, const ResolvedPiece& piece, const QRectF& room) {
    const double mid = room.center().y();
    if (const ResolvedZone* zone = disc_zone(piece)) { // a disc's side says nothing: it is seen from its end
        const double reach = std::min(room.width(), room.height()) / 2;
        return draw_end(p, piece, *zone, {room.left() + reach, mid}, reach);
    }
    if (is_ring(piece)) {
        const double reach = std::min(room.width(), room.height()) / 2;
        return draw_ring(p, piece, {room.left() + reach, mid}, reach);
    }
    if (piece.bent()) return draw_bent(p, piece, room);
    if (const auto alone = views_of(piece.zones.front()).side.alone) return alone(p, piece, room);
    const double k = std::min(room.width() / std::max(1e-3, in_mm(piece.length())),
                              room.height() / std::max(1e-3, 2 * in_mm(piece.largest_radius())));
    draw_turned(p, piece, {room.left(), mid, k});
}

QString largest_size(const ResolvedPiece& piece, LengthUnit unit) {
    const Length across = piece.largest_radius() * 2;
    const bool long_one = piece.length() >= across;
    const double size = in_unit(long_one ? piece.length() : across, unit);
    return (long_one ? QString() : QString("Ø ")) +
           QString::fromStdString(number_text(size, unit == LengthUnit::inch ? 2
                                                    : size < 10              ? 1
                                                                             : 0)) +
           (unit == LengthUnit::inch ? " in" : " mm");
}

} // namespace whorl::app
