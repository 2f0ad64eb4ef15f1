#include "app/elevation.hpp"

#include "app/theme.hpp"

#include "exchange/tooth_outline.hpp"
#include "form/cam/track_walls.hpp"
#include "quantity/expression.hpp"

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
    const bool drawn = zone.swept() && !zone.simplified() && zone.swept()->sweepable() &&
                       zone.swept()->pitch >= least_pitch_mm;
    const double near = sign * in_mm(zone.diameter) / 2, far = sign * in_mm(zone.far_diameter) / 2;
    const auto surface = [&](double x) { // without its grooves
        if (!zone.swept()) return near + (far - near) * x / length;
        return sign * (zone.swept()->crest_radius + zone.taper() * (z0 + x - in_mm(zone.taper_from())));
    };
    if (zone.silhouette()) {
        QPolygonF out;
        constexpr int parts = 120;
        if (zone.is_hollow() && zone.silhouette()->spec.dish) out << QPointF(z0, 0);
        for (int i = 0; i <= parts; ++i) {
            const double z = z0 + length * i / parts;
            out << QPointF(z, zone.silhouette()->outline(z));
        }
        return out;
    }
    if (zone.gear()) { // the tips' envelope
        const double r = zone.gear()->tip_radius;
        return QPolygonF{{z0, r}, {z0 + length, r}};
    }
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
            if (e->is_dome()) {
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
                if (e->is_dome()) step = std::min(step, in_mm(e->dome_height) / 16);
            const int n = std::clamp(static_cast<int>((b.x() - a.x()) / std::max(1e-6, step)), 0, 200);
            for (int k = 1; k < n; ++k)
                put(a.x() + (b.x() - a.x()) * k / n, a.y() + (b.y() - a.y()) * k / n);
        }
        put(line[i].x(), line[i].y());
    }
    return out;
}

QPolygonF half_section(const ResolvedZone& zone, double least_pitch_mm) {
    const double z0 = in_mm(zone.start), z1 = in_mm(zone.end());
    if (const ResolvedCam* c = zone.lobe(); c && c->spec.disc && !c->outline.empty()) {
        const TransversePoint touches = follower_at(c->spec, c->motion, 0).touches;
        const double in = touches.radius(), out = in + 2 * roller_radius(c->spec),
                     disc = in_mm(*c->spec.disc) / 2, floor = z0 + in_mm(c->spec.groove_depth);
        return {{{z0, in}, {floor, in}, {floor, out}, {z0, out}, {z0, disc}, {z1, disc}}};
    }
    if (const ResolvedDrum* d = zone.drum(); d && d->trouble == DrumTrouble::none && !d->is_line()) {
        // where every turn passes at this angle; those that meet are one
        std::vector<double> middles;
        for (int k = 0; k < d->turns(); ++k)
            middles.push_back(z0 + middle_at(*d, k * 2 * std::numbers::pi).z);
        std::sort(middles.begin(), middles.end());
        QPolygonF out{{z0, d->radius}};
        for (const double middle : middles) {
            const double low = middle - d->half_width, high = middle + d->half_width;
            if (out.size() > 1 && out.back().x() > low)
                out.resize(out.size() - 2);
            else
                out << QPointF{low, d->radius} << QPointF{low, d->other_radius};
            out << QPointF{high, d->other_radius} << QPointF{high, d->radius};
        }
        return out << QPointF{z1, d->radius};
    }
    return silhouette(zone, least_pitch_mm);
}

namespace {

// The zone with an outline, teeth or a lobe, of a piece that is wider than long.
const ResolvedZone* disc_gear(const ResolvedPiece& piece) {
    const ResolvedZone* found = nullptr;
    if (piece.length() > 2 * piece.largest_radius()) return nullptr;
    for (const auto& z : piece.zones)
        if ((z.gear() && !z.gear()->half_outline.empty()) || (z.lobe() && !z.lobe()->outline.empty()))
            if (!found || z.largest_radius() > found->largest_radius()) found = &z;
    return found;
}

// A lobe's profile, mm.
QPolygonF curves_of(const std::vector<LobeCurve>& curves) {
    QPolygonF out;
    constexpr int parts = 10;
    for (const LobeCurve& l : curves) {
        const double co = std::cos(l.turned), si = std::sin(l.turned);
        for (int i = 0; i < parts; ++i) {
            const TransversePoint q =
                point_at(l.curve, l.curve.from + (l.curve.to - l.curve.from) * i / parts);
            out << QPointF(q.x * co - q.y * si, q.x * si + q.y * co);
        }
    }
    return out;
}

QPolygonF profile_of(const ResolvedCam& cam) {
    return curves_of(cam.outline);
}

QPolygonF teeth_of(const ResolvedGear& g) {
    QPolygonF teeth;
    for (int i = 0; i < g.spec.teeth; ++i)
        for (const bool down : {false, true}) {
            QPolygonF half;
            for (const TransverseCurve& c : g.half_outline)
                for (const double at : {c.from, (c.from + c.to) / 2, c.to}) {
                    const TransversePoint q = point_at(c, at);
                    const double a = i * g.pitch_angle() + (down ? g.pitch_angle() - q.angle() : q.angle());
                    half << q.radius() * QPointF(std::cos(a), std::sin(a));
                }
            if (down) std::reverse(half.begin(), half.end());
            teeth << half;
        }
    return teeth;
}

void draw_end(QPainter& p, const ResolvedPiece& piece, const ResolvedZone& zone, QPointF centre,
              double reach) {
    const Theme& t = theme();
    const double k = reach / in_mm(piece.largest_radius());
    QPolygonF outline = zone.lobe() ? profile_of(*zone.lobe()) : teeth_of(*zone.gear());
    for (QPointF& q : outline)
        q = centre + k * q;
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    path.addPolygon(outline);
    path.closeSubpath();
    if (zone.in_bore() || (zone.lobe() && zone.lobe()->spec.disc)) path.addEllipse(centre, reach, reach);
    if (zone.lobe() && zone.lobe()->spec.disc) { // the groove between both its walls
        QPolygonF outer = curves_of(zone.lobe()->outer_wall);
        for (QPointF& q : outer)
            q = centre + k * q;
        path.addPolygon(outer);
        path.closeSubpath();
    }
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

// A knurl's grooves, drawn thin in the manner of ISO 6413: no closer than four pixels.
void draw_grooves(QPainter& p, const ResolvedZone& zone, const QRectF& face, double k) {
    if (face.width() < 1 || face.height() < 1) return; // no room, and no scale to count pixels by
    const ResolvedKnurl& knurl = *zone.knurl();
    const auto gap = [&](double pitch) {
        double px = pitch * k;
        while (px < 4)
            px *= 2;
        return px;
    };
    p.save();
    p.setClipRect(face, Qt::IntersectClip);
    p.setPen(QPen(theme().part, 0.6));
    if (knurl.ring_pitch > 0)
        for (double x = face.left(); x < face.right(); x += gap(knurl.ring_pitch))
            p.drawLine(QPointF(x, face.top()), QPointF(x, face.bottom()));
    if (knurl.teeth > 0) {
        const bool crossed = knurl.spec.kind == KnurlKind::crossed;
        const double slope = std::abs(knurl.twist) * knurl.radius;
        // the pitch is square to the grooves; they are further apart around the zone
        const double step = gap(knurl.pitch * std::hypot(1, slope)), drift = slope * face.width();
        for (const double side : {1.0, -1.0}) { // to either hand; a right-hand groove rises to the right
            if (side < 0 && !crossed) continue;
            const double rise = (knurl.twist < 0 ? -1 : 1) * side * drift;
            for (double y = face.top() - std::abs(rise); y < face.bottom() + std::abs(rise); y += step)
                p.drawLine(QPointF(face.left(), y), QPointF(face.right(), y - rise));
        }
    }
    p.restore();
}

// The ridges between flutes where they can be seen.
void draw_flutes(QPainter& p, const ResolvedZone& zone, double x0, double mid, double k) {
    const ShapedWall& w = *zone.silhouette()->wall;
    const Flutes* f = w.flutes();
    if (!f) return;
    const double half = w.half_angle();
    for (int i = 0; i < f->count; ++i) {
        QPolygonF line;
        const auto flush = [&] {
            p.drawPolyline(line);
            line.clear();
        };
        constexpr int parts = 64;
        for (int j = 0; j <= parts; ++j) {
            const double z = f->from + (f->to - f->from) * j / parts,
                         theta = f->start + (2 * i + 1) * half + w.turned(z);
            if (std::sin(theta) < -0.02) // seen from 90°
                flush();
            else
                line << QPointF(x0 + z * k, mid - w.ridge_radius(z) * std::cos(theta) * k);
        }
        flush();
    }
}

// Both edges of a drum cam's track where they can be seen, as the drum is turned about its axis.
void draw_track(QPainter& p, const ResolvedDrum& d, double x0, double mid, double k) {
    if (d.trouble != DrumTrouble::none) return;
    for (const TrackPiece& piece : walls_of(d).pieces) {
        const DrumWall& w = piece.wall;
        QPolygonF line;
        const auto flush = [&] {
            p.drawPolyline(line);
            line.clear();
        };
        for (int i = 0; i <= 12; ++i) {
            const WallJet at = w.along(w.from() + (w.to() - w.from()) * i / 12, d.radius);
            if (std::cos(at.theta.c[0]) < 0)
                flush();
            else
                line << QPointF(x0 + at.z.c[0] * k, mid - d.radius * std::sin(at.theta.c[0]) * k);
        }
        flush();
    }
}

// Holes square to the axis, seen from 90°: their mouths on this side, dashed what is hidden of their walls.
void draw_cross_holes(QPainter& p, const ResolvedZone& zone, double x0, double mid, double k) {
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
                if (u * si + y * co > -1e-9) visible << QPointF(x0 + z * k, mid - (u * co - y * si) * k);
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
            p.drawLine(QPointF(x0 + z * k, mid - u * co * k),
                       QPointF(x0 + z * k, mid + (h.one_side ? 0 : u * co * k)));
        }
    }
    p.setBrush(Qt::NoBrush);
}

// A bar from its side, its axis level: `k` pixels to the millimetre from `x0`.
void draw_turned(QPainter& p, const ResolvedPiece& piece, double x0, double mid, double k) {
    const Theme& t = theme();
    QPainterPath path;
    for (const auto& z : piece.zones) {
        if (z.in_bore()) continue;
        if (z.lobe() && !z.lobe()->outline.empty() && !z.lobe()->spec.disc) { // as it stands on its shaft
            const QRectF reach = profile_of(*z.lobe()).boundingRect();
            path.addRect(QRectF(QPointF(x0 + in_mm(z.start) * k, mid - reach.right() * k),
                                QPointF(x0 + in_mm(z.end()) * k, mid - reach.left() * k)));
            continue;
        }
        const QPolygonF upper = silhouette(z, 2.2 / k);
        QPolygonF shape;
        for (const auto& q : upper)
            shape << QPointF(x0 + q.x() * k, mid - q.y() * k);
        for (auto it = upper.rbegin(); it != upper.rend(); ++it)
            shape << QPointF(x0 + it->x() * k, mid + it->y() * k);
        path.addPolygon(shape);
        path.closeSubpath();
    }
    p.setPen(QPen(t.part, 1.2));
    p.setBrush(t.part_fill);
    p.drawPath(path);
    const auto both_sides = [&](const ResolvedZone& z, double radius) {
        for (const double side : {-1.0, 1.0}) {
            const double y = mid + side * radius * k;
            p.drawLine(QPointF(x0 + in_mm(z.start) * k, y), QPointF(x0 + in_mm(z.end()) * k, y));
        }
    };
    for (const auto& z : piece.zones) {
        p.setPen(QPen(t.part, 0.7));
        if (z.in_bore()) { // hidden edges
            p.setPen(QPen(t.part, 0.8, Qt::DashLine));
            if (!z.as<ResolvedPlain>() && !z.silhouette()) {
                both_sides(z, in_mm(z.outer_radius()));
                continue;
            }
            for (const double side : {-1.0, 1.0}) { // with its countersinks
                QPolygonF line;
                for (const auto& q : silhouette(z, 1e9))
                    line << QPointF(x0 + q.x() * k, mid + side * q.y() * k);
                p.drawPolyline(line);
            }
            continue;
        }
        if (z.cross()) draw_cross_holes(p, z, x0, mid, k);
        if (z.outline() == Outline::hexagon || z.outline() == Outline::square) // the edge between two flats
            p.drawLine(QPointF(x0 + in_mm(z.start) * k, mid), QPointF(x0 + in_mm(z.end()) * k, mid));
        if (z.drum()) draw_track(p, *z.drum(), x0 + in_mm(z.start) * k, mid, k);
        if (z.silhouette()) draw_flutes(p, z, x0, mid, k);
        if (z.knurl() && !z.simplified())
            draw_grooves(p, z,
                         QRectF(QPointF(x0 + in_mm(z.start) * k, mid - z.knurl()->radius * k),
                                QPointF(x0 + in_mm(z.end()) * k, mid + z.knurl()->radius * k)),
                         k);
        // fine threads: the simplified manner of ISO 6410, a thin line at the root
        if (z.thread() && (z.simplified() || z.thread()->section.pitch < 2.2 / k) &&
            z.thread()->section.root_radius > 0)
            both_sides(z, z.thread()->section.root_radius);
    }
    p.setPen(QPen(t.muted, 0.8, Qt::DashDotLine));
    p.drawLine(QPointF(x0 - 5, mid), QPointF(x0 + in_mm(piece.length()) * k + 5, mid));
}

// Where a bent bar's points lie seen square to its first bend's plane: along its begin, and towards the bend.
class BentSide {
public:
    explicit BentSide(const ResolvedPiece& piece) : way_(piece.centreline()) {
        for (const BentPart& b : way_.parts())
            if (!b.straight()) {
                const double c = std::cos(b.towards), s = std::sin(b.towards);
                for (std::size_t k = 0; k < 3; ++k)
                    across_[k] = c * b.begin.x[k] + s * b.begin.y[k];
                along_ = b.begin.t;
                break;
            }
    }
    // `off` (mm) to the left of the centreline.
    QPointF at(double z, double off) const {
        const BarFrame f = way_.frame_at(z);
        const QPointF c = seen(f.origin), t = seen(f.t);
        const double length = std::hypot(t.x(), t.y());
        return length < 1e-6 ? c : c + QPointF(-t.y(), t.x()) * off / length;
    }
    double length() const { return way_.length(); }

private:
    QPointF seen(const Direction& d) const {
        return {d[0] * along_[0] + d[1] * along_[1] + d[2] * along_[2],
                d[0] * across_[0] + d[1] * across_[1] + d[2] * across_[2]};
    }
    BentLine way_;
    Direction along_{0, 0, 1}, across_{1, 0, 0};
};

// A bent bar in its first bend's plane, as large as the room allows.
void draw_bent(QPainter& p, const ResolvedPiece& piece, const QRectF& room) {
    const Theme& t = theme();
    const BentSide side(piece);
    const auto places_of = [](const ResolvedZone& z) {
        std::vector<double> out;
        const int n = z.bend() ? std::max(4, static_cast<int>(z.bend()->angle * 12)) : 1;
        for (int i = 0; i <= n; ++i)
            out.push_back(in_mm(z.start) + in_mm(z.length) * i / n);
        return out;
    };
    QRectF bounds;
    for (const ResolvedZone& z : piece.zones) {
        if (z.in_bore()) continue;
        for (const double at : places_of(z))
            for (const double s : {-1.0, 1.0}) {
                const QPointF q = side.at(at, s * in_mm(z.largest_radius()));
                if (bounds.isNull())
                    bounds = QRectF(q, QSizeF(1e-6, 1e-6));
                else
                    bounds = bounds.united(QRectF(q, QSizeF(1e-6, 1e-6)));
            }
    }
    const double k = std::min(room.width() / std::max(1e-3, bounds.width()),
                              room.height() / std::max(1e-3, bounds.height()));
    const auto on_page = [&](QPointF q) {
        return QPointF(room.left() + (q.x() - bounds.left()) * k,
                       room.center().y() - (q.y() - bounds.center().y()) * k);
    };
    const auto line_at = [&](const ResolvedZone& z, double off) {
        QPolygonF line;
        for (const double at : places_of(z))
            line << on_page(side.at(at, off));
        return line;
    };
    for (const ResolvedZone& z : piece.zones) {
        if (z.in_bore()) continue;
        QPolygonF shape;
        if (z.bend()) {
            shape = line_at(z, in_mm(z.largest_radius()));
            const QPolygonF back = line_at(z, -in_mm(z.largest_radius()));
            for (auto it = back.rbegin(); it != back.rend(); ++it)
                shape << *it;
        } else {
            const QPolygonF upper = silhouette(z, 2.2 / k);
            for (const auto& q : upper)
                shape << on_page(side.at(q.x(), q.y()));
            for (auto it = upper.rbegin(); it != upper.rend(); ++it)
                shape << on_page(side.at(it->x(), -it->y()));
        }
        p.setPen(QPen(t.part, 1.2));
        p.setBrush(t.part_fill);
        p.drawPolygon(shape);
        p.setPen(QPen(t.part, 0.7));
        if (z.thread() && (z.simplified() || z.thread()->section.pitch < 2.2 / k) &&
            z.thread()->section.root_radius > 0)
            for (const double s : {-1.0, 1.0})
                p.drawPolyline(line_at(z, s * z.thread()->section.root_radius));
    }
    p.setPen(QPen(t.part, 0.8, Qt::DashLine)); // hidden edges
    for (const ResolvedZone& bore : piece.zones) {
        if (!bore.in_bore()) continue;
        for (const double s : {-1.0, 1.0}) {
            QPolygonF line;
            constexpr int steps = 40;
            for (int i = 0; i <= steps; ++i)
                line << on_page(side.at(in_mm(bore.start) + in_mm(bore.length) * i / steps,
                                        s * in_mm(bore.outer_radius())));
            p.drawPolyline(line);
        }
    }
    p.setPen(QPen(t.muted, 0.8, Qt::DashDotLine));
    QPolygonF middle;
    for (const ResolvedZone& z : piece.zones)
        if (!z.in_bore()) middle += line_at(z, 0);
    p.drawPolyline(middle);
}

void draw_bar(QPainter& p, const ResolvedRack& rack, double length, double x0, double mid, double k) {
    const Theme& t = theme();
    const double half = in_mm(rack.spec.height) / 2;
    QPolygonF side;
    for (const auto& q : rack_side(rack, 1.6 / k))
        side << QPointF(x0 + q.x() * k, mid + (half - q.y()) * k);
    p.setPen(QPen(t.part, 1.2));
    p.setBrush(t.part_fill);
    p.drawPolygon(side);
    if (rack.pitch() >= 1.6 / k) return; // teeth too fine to be drawn: a thin line at the roots
    p.setPen(QPen(t.part, 0.7));
    const double y = mid + (half - rack.body() - rack.root_height) * k;
    p.drawLine(QPointF(x0, y), QPointF(x0 + length * k, y));
}

} // namespace

void draw_elevation(QPainter& p, const ResolvedPiece& piece, const QRectF& room) {
    const double mid = room.center().y();
    if (const ResolvedZone* gear = disc_gear(piece)) { // a disc's side says nothing: it is seen from its end
        const double reach = std::min(room.width(), room.height()) / 2;
        return draw_end(p, piece, *gear, {room.left() + reach, mid}, reach);
    }
    if (is_ring(piece)) {
        const double reach = std::min(room.width(), room.height()) / 2;
        return draw_ring(p, piece, {room.left() + reach, mid}, reach);
    }
    if (piece.bent()) return draw_bent(p, piece, room);
    const ResolvedZone& first = piece.zones.front();
    const double length = in_mm(piece.length());
    const double across = first.rack() ? in_mm(first.rack()->spec.height) : 2 * in_mm(piece.largest_radius());
    const double k = std::min(room.width() / std::max(1e-3, length), room.height() / std::max(1e-3, across));
    if (first.rack()) return draw_bar(p, *first.rack(), length, room.left(), mid, k);
    if (first.coil())
        return draw_coil_side(p, coil_side(*first.coil()), QTransform(k, 0, 0, -k, room.left(), mid),
                              theme().part);
    draw_turned(p, piece, room.left(), mid, k);
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
