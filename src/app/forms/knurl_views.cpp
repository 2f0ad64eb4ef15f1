// A knurl in the section view, cut square to its grooves, and unrolled in the developed view.
#include "app/developed_view.hpp"
#include "app/forms/form_views.hpp"
#include "app/section_view.hpp"

#include "model/forms/knurl.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace whorl::app {
namespace {

double main_pitch(const ResolvedKnurl& k) {
    return k.teeth > 0 ? k.pitch : k.ring_pitch;
}

// Three grooves and their ridges, two where there is little room; flat as they are before the zone is bent
// round.
void draw_profile(SectionView& view, QPainter& p, const ResolvedZone& zone) {
    const ResolvedKnurl& k = *zone.knurl();
    const Theme& t = theme();
    const double pitch = main_pitch(k), body = 0.9 * pitch;
    view.draw_title(p, "Section",
                    is_crossed(k.spec.kind) ? QString("square to one direction's grooves")
                                            : QString("square to the grooves"));
    const int grooves = view.width() > 320 ? 3 : 2;
    const double wide = grooves * pitch;
    const double left = 48, right = view.width() - 112.0, top = 84, bottom = view.height() - 30.0;
    const double scale = std::min((right - left) / wide, (bottom - top) / (k.depth + body));
    const double x0 = (left + right) / 2 - wide / 2 * scale, y0 = top;
    const auto at = [&](double x, double down) { return QPointF(x0 + x * scale, y0 + down * scale); };
    QPolygonF edge;
    for (int i = 0; i <= 2 * grooves; ++i) // grooves at 0, 1, 2 … pitches
        edge << at(i * pitch / 2, i % 2 == 0 ? k.depth : 0);
    QPainterPath metal;
    metal.addPolygon(edge);
    metal.lineTo(at(wide, k.depth + body));
    metal.lineTo(at(0, k.depth + body));
    metal.closeSubpath();
    fill_metal(p, metal);
    p.setPen(QPen(t.ink, 1.7));
    p.setBrush(Qt::NoBrush);
    p.drawPolyline(edge);
    p.setFont(text_font(13, Weight::medium));
    // pitch, from ridge to ridge
    const double over = y0 - 20;
    const QPointF ridge = at(0.5 * pitch, 0), next = at(1.5 * pitch, 0);
    view.dimension(p, {ridge.x(), over}, {next.x(), over}, {ridge, next}, {at(pitch, 0).x(), over},
                   "p " + view.shown(pitch),
                   view.spot_of("knurl_pitch", field::knurl_pitch,
                                "Pitch square to the grooves. Click to type; the teeth follow."));
    // depth, on the right
    const double beside = at(wide, 0).x() + 22;
    view.dimension(p, {beside, at(0, 0).y()}, {beside, at(0, k.depth).y()},
                   {at(wide - 0.5 * pitch, 0), at(wide, k.depth)}, {beside + 40, at(0, k.depth / 2).y()},
                   "h " + view.shown(k.depth),
                   view.spot_of("knurl_depth", field::knurl_depth,
                                "Depth of the grooves. Click to type; the profile angle follows."));
    // the angle in a groove
    view.ink(p, "profile_angle");
    const double profile = 2 * std::atan(pitch / (2 * k.depth)), reach = 0.55 * k.depth * scale;
    const QPointF groove = at((grooves - 1) * pitch, k.depth);
    p.drawArc(QRectF(groove.x() - reach, groove.y() - reach, 2 * reach, 2 * reach),
              static_cast<int>((90 - profile * 90 / pi) * 16), static_cast<int>(profile * 180 / pi * 16));
    view.dimension_text(p, groove + QPointF(0, 16),
                        QString::fromStdString(number_text(profile * 180 / pi, 2)) + "°",
                        view.spot_of("profile_angle", field::profile_angle,
                                     "Profile angle, 90° by DIN 82. Click to type; the depth follows."));
    // over the ridges, and what is turned before knurling
    view.ink(p, "diameter");
    view.dimension_text(p, at(0.5 * wide, k.depth + body) - QPointF(0, 14), "Ø " + view.shown(2 * k.radius),
                        view.spot_of("diameter", field::diameter,
                                     "Diameter over the ridges, after knurling. Click to type."));
    const double blank = k.radius - k.blank_diameter / 2;
    p.setPen(QPen(view.session().hovered() == "blank_diameter" ? t.active : t.muted, 1, Qt::DashLine));
    p.drawLine(at(0, blank) - QPointF(10, 0), at(wide, blank) + QPointF(6, 0));
    p.setPen(t.muted);
    p.setFont(text_font(11));
    p.drawText(QPointF(10, at(0, blank).y() - 5), "blank");
}

void draw_lines(DevelopedView& view, QPainter& p, const ResolvedZone& zone) {
    const ResolvedKnurl& k = *zone.knurl();
    const Theme& t = theme();
    const double length = in_mm(zone.length);
    view.draw_title(p, "Developed",
                    QString("Ø %1 unrolled, %2 %3 around")
                        .arg(view.shown(2 * k.radius), view.shown(2 * k.radius * pi),
                             QString(symbol(view.session().unit()))));
    view.draw_axes(p, length);
    const QRectF a = view.area();
    p.save();
    p.setClipRect(a);
    p.fillRect(a, t.part_fill);
    const auto line = [&](double theta, double slope) { // θ at the middle of the zone
        const auto x = [&](double z) { return a.left() + (theta + slope * z) / (2 * pi) * a.width(); };
        p.drawLine(QPointF(x(-length / 2), view.y_of(0)), QPointF(x(length / 2), view.y_of(length)));
    };
    // lines closer than 3 px say nothing: then every n-th is drawn
    const auto every = [](double gap) {
        return std::max(1, static_cast<int>(std::ceil(3 / std::max(gap, 1e-6))));
    };
    p.setPen(QPen(view.session().hovered() == "knurl_pitch" ? t.active : t.part, 1));
    if (k.teeth > 0) {
        const int step = every(a.width() / k.teeth);
        const int beyond = static_cast<int>(std::ceil(std::abs(k.twist) * length / 2 / (2 * pi) * k.teeth));
        for (int i = -beyond; i <= k.teeth + beyond; i += step) {
            line(2 * pi * i / k.teeth, k.twist);
            if (k.spec.kind == KnurlKind::crossed) line(2 * pi * i / k.teeth, -k.twist);
        }
    }
    if (k.ring_pitch > 0) {
        const int rows = static_cast<int>(length / 2 / k.ring_pitch) + 1,
                  step = every(k.ring_pitch / length * a.height());
        for (int i = -rows; i <= rows; i += step) {
            const double y = view.y_of(length / 2 + i * k.ring_pitch);
            p.drawLine(QPointF(a.left(), y), QPointF(a.right(), y));
        }
    }
    p.restore();
    p.setPen(QPen(t.hairline, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(a);
    p.setFont(text_font(13, Weight::medium));
    if (k.teeth > 0)
        view.dimension_text(p, {a.center().x(), a.center().y()}, QString("%1 teeth").arg(k.teeth),
                            view.spot_of("knurl_teeth", field::knurl_teeth,
                                         "Teeth around the zone. Click to type; the pitch follows."));
}

} // namespace

namespace {

// A knurl's grooves, drawn thin in the manner of ISO 6413: no closer than four pixels.
void draw_grooves(QPainter& p, const ResolvedZone& zone, const SidePlace& place) {
    if (zone.simplified()) return;
    const double k = place.k, r = zone.knurl()->radius;
    const QRectF face(place.at(in_mm(zone.start), r), place.at(in_mm(zone.end()), -r));
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

} // namespace

const FormViews& views(const ResolvedKnurling&) {
    static const FormViews table{
        .title = [](const ResolvedZone&, std::size_t number) { return QString("Knurl %1").arg(number); },
        .detail = [](const ResolvedZone&,
                     const Piece& piece) { return QString::fromStdString(piece.name + ", " + piece.finish); },
        .asks = asks_nothing_more,
        .follows =
            [](SheetBuilder& b, const ResolvedZone& z) {
                b.follow_all(z.knurl()->values, {"outside_diameter"}, {"blank_diameter"});
            },
        .section = draw_profile,
        .developed = draw_lines,
        .side = {.outline = turned_outline, .marks = draw_grooves}};
    return table;
}

} // namespace whorl::app
