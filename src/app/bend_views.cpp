// A bend: the bar cut in the bend's plane in the section view, and the whole bar straightened, as it is cut to
// length, in the developed view.
#include "app/developed_view.hpp"
#include "app/forms/form_views.hpp"
#include "app/section_view.hpp"

#include "model/forms/bend.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace whorl::app {
namespace {

QString degrees(double angle) {
    return QString::fromStdString(number_text(angle * 180 / pi, 2)) + "°";
}

// The radius that is free inside the bar, mm; 0: it is solid.
double bore_in(const ResolvedPiece& piece, const ResolvedZone& bend) {
    const Length middle = bend.start + bend.length / 2;
    double r = 0;
    for (const ResolvedZone& z : piece.zones)
        if (z.in_bore() && z.start <= middle && z.end() >= middle) r = std::max(r, in_mm(z.outer_radius()));
    return r;
}

void draw_section(SectionView& view, QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const ResolvedBend& b = *zone.bend();
    const Session& session = view.session();
    view.draw_title(p, "Section", QString("in the bend's plane"));
    const double R = b.radius, r = b.bar, bore = bore_in(*session.resolved(), zone),
                 stub = std::max(r, 0.35 * R); // of the straight bar on either side
    // the bend's axis in the origin, its begin to the left, the bar coming from below
    const auto place = [&](double u, double off) { // u: rad; beyond both ends straight on
        const double in = std::clamp(u, 0.0, b.angle), along = (u - in) * R;
        const QPointF out(-std::cos(in), std::sin(in)), way(std::sin(in), std::cos(in));
        return out * (R + off) + way * along;
    };
    const double past = stub / R;
    constexpr int steps = 60;
    const auto line = [&](double off) {
        QPolygonF out;
        for (int i = 0; i <= steps; ++i)
            out << place(-past + (b.angle + 2 * past) * i / steps, off);
        return out;
    };
    QRectF bounds = line(r).boundingRect().united(line(-r).boundingRect());
    bounds = bounds.united(QRectF(0, 0, 1e-6, 1e-6));
    const QRectF room(64, 74, view.width() - 64.0 - 84, view.height() - 74.0 - 40);
    const double k = std::min(room.width() / bounds.width(), room.height() / bounds.height());
    const auto at = [&](QPointF q) {
        return QPointF(room.center().x() + (q.x() - bounds.center().x()) * k,
                       room.center().y() - (q.y() - bounds.center().y()) * k);
    };
    const auto on_page = [&](const QPolygonF& poly) {
        QPolygonF out;
        for (const QPointF& q : poly)
            out << at(q);
        return out;
    };
    const auto strip = [&](double low, double high) {
        QPolygonF out = on_page(line(low));
        const QPolygonF back = on_page(line(high));
        for (auto it = back.rbegin(); it != back.rend(); ++it)
            out << *it;
        QPainterPath path;
        path.addPolygon(out);
        path.closeSubpath();
        return path;
    };
    for (const auto& [low, high] :
         bore > 0 ? std::vector{std::pair{-r, -bore}, std::pair{bore, r}} : std::vector{std::pair{-r, r}})
        fill_metal(p, strip(low, high));
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(t.ink, 1.7));
    for (const double off : {-r, r})
        p.drawPolyline(on_page(line(off)));
    p.setPen(QPen(t.ink, 1.2));
    if (bore > 0)
        for (const double off : {-bore, bore})
            p.drawPolyline(on_page(line(off)));
    p.setPen(QPen(t.part, 0.9));
    for (const double u : {0.0, b.angle}) // where it begins and ends
        p.drawLine(at(place(u, -r)), at(place(u, r)));
    p.setPen(QPen(t.muted, 0.9, Qt::DashDotLine));
    p.drawPolyline(on_page(line(0)));
    // its axis, and what is said of it
    const QPointF axis = at({0, 0});
    p.setPen(QPen(t.muted, 0.9));
    p.drawLine(axis - QPointF(5, 0), axis + QPointF(5, 0));
    p.drawLine(axis - QPointF(0, 5), axis + QPointF(0, 5));
    p.setFont(text_font(13, Weight::medium));
    const auto lit = [&](const char* key) {
        p.setPen(QPen(session.hovered() == key ? t.active : t.ink, 0.8));
    };
    const auto text = [&](QPointF centre, const char* key, Field field, const QString& words,
                          const QString& tip) {
        view.dimension_text(p, centre, words, view.spot_of(key, field, tip));
    };
    const double to = b.spec.inside ? -r : 0.0, middle = b.angle * 0.32;
    lit("bend_radius");
    p.drawLine(axis, at(place(middle, to)));
    arrow_head(p, at(place(middle, to)), at(place(middle, to)) - axis);
    text((axis + at(place(middle, to))) / 2, "bend_radius", field::bend_radius,
         "R " + view.shown(b.radius + to),
         b.spec.inside ? "From the bend's axis to the inside of the bar. Click to type."
                       : "From the bend's axis to the bar's centreline. Click to type.");
    lit("bend_angle");
    QPolygonF arc;
    const double small = std::max(0.22 * R, 16 / k);
    for (int i = 0; i <= 30; ++i) {
        const double u = b.angle * i / 30;
        arc << at(QPointF(-std::cos(u), std::sin(u)) * small);
    }
    p.drawPolyline(arc);
    p.setPen(QPen(t.hairline, 0.9));
    for (const double u : {0.0, b.angle})
        p.drawLine(axis, at(place(u, -r)));
    const double half = b.angle * 0.72;
    text(at(QPointF(-std::cos(half), std::sin(half)) * (small + 20 / k)), "bend_angle", field::bend_angle,
         degrees(b.angle), "That the bar is bent by. Click to type.");
    lit("diameter");
    const QPointF a = at(place(b.angle + past, r)), e = at(place(b.angle + past, -r));
    dimension_line(p, a, e);
    const QPointF beyond = at(place(b.angle + past + 16 / k / R, 0));
    text({std::clamp(beyond.x(), 40.0, view.width() - 40.0),
          std::clamp(beyond.y(), 60.0, view.height() - 14.0)},
         "diameter", field::diameter, "Ø " + view.shown(2 * r), "Of the bar. Click to type.");
}

// What is cut off the bar, with its zones and the places where it is bent.
void draw_straightened(DevelopedView& view, QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const ResolvedPiece& piece = *view.session().resolved();
    const double whole = in_mm(piece.length()), reach = in_mm(piece.largest_radius());
    view.draw_title(p, "Developed",
                    QString("%1 %2 to cut; the bar's middle keeps its length")
                        .arg(view.shown(whole), QString(symbol(view.session().unit()))));
    const double left = 28, right = view.width() - 28.0, mid = (60 + view.height()) / 2.0 - 10;
    const double k = (right - left) / whole, half = std::clamp(reach * k, 9.0, (view.height() - 150.0) / 2);
    const auto x = [&](Length z) { return left + in_mm(z) * k; };
    p.setFont(text_font(11));
    int row = 0;
    for (const ResolvedZone& z : piece.zones) {
        if (z.in_bore()) continue;
        const QRectF bar(x(z.start), mid - half * in_mm(z.largest_radius()) / reach, in_mm(z.length) * k,
                         2 * half * in_mm(z.largest_radius()) / reach);
        const bool here = z.start == zone.start && z.bend();
        p.setPen(QPen(t.part, 1.2));
        p.setBrush(here ? t.active_tint : z.bend() ? t.field : t.part_fill);
        p.drawRect(bar);
        p.setPen(QPen(t.ink, 0.8));
        const double under = mid + half + 22;
        p.drawLine(QPointF(bar.left(), mid + half + 4), QPointF(bar.left(), under + 5));
        p.drawLine(QPointF(bar.right(), mid + half + 4), QPointF(bar.right(), under + 5));
        dimension_line(p, {bar.left(), under}, {bar.right(), under});
        const double at = under + 15 + (row++ % 2) * 15;
        p.setPen(t.ink);
        const QString words = view.shown(in_mm(z.length));
        const QFontMetricsF metrics(p.font());
        p.drawText(QPointF(bar.center().x() - metrics.horizontalAdvance(words) / 2, at), words);
        if (!z.bend()) continue;
        const QString bend =
            degrees(z.bend()->angle) + "  R " + view.shown(z.bend()->radius) +
            (z.bend()->spec.roll != 0 ? "  roll " + degrees(z.bend()->spec.roll) : QString());
        p.setPen(t.muted);
        p.drawText(QPointF(std::clamp(bar.center().x() - metrics.horizontalAdvance(bend) / 2, 4.0,
                                      view.width() - metrics.horizontalAdvance(bend) - 4),
                           mid - half - 10),
                   bend);
    }
    p.setPen(QPen(t.muted, 0.8, Qt::DashDotLine));
    p.drawLine(QPointF(left - 8, mid), QPointF(right + 8, mid));
}

// The bar is drawn straightened: how a bend turns it, in small, with its angle.
void bend_mark(QPainter& p, const ResolvedZone& z, const StripPlace& place) {
    const Theme& t = theme();
    const ResolvedBend& bend = *z.bend();
    const QRectF& block = place.block;
    constexpr double straight = 7, room = 18, most = 1.5 * std::numbers::pi;
    const double angle = std::min(bend.angle, most), radius = room / (1 + angle);
    QPolygonF way{QPointF(-straight, 0)};
    constexpr int steps = 24;
    for (int i = 0; i <= steps; ++i) {
        const double s = angle * i / steps;
        way << QPointF(radius * std::sin(s), -radius * (1 - std::cos(s)));
    }
    way << way.back() + straight * QPointF(std::cos(angle), -std::sin(angle));
    p.setFont(text_font(11));
    const QString text = QString::fromStdString(number_text(in_deg(rad(bend.angle)), 2)) + "\u00B0";
    const double w = QFontMetricsF(p.font()).horizontalAdvance(text);
    const QRectF drawn = way.boundingRect();
    if (drawn.width() + w + 22 > block.width()) return;
    // over the bar where there is room, else in it
    const double bar = place.mid - bend.bar * place.k,
                 over = bar - 7 - drawn.bottom() - drawn.height() > block.top() ? bar - 7 : place.mid - 7;
    const double x = block.center().x() - (drawn.width() + 6 + w) / 2 - drawn.left(), y = over;
    p.fillRect(QRectF(x + drawn.left() - 4, y + drawn.top() - 4, drawn.width() + w + 14, drawn.height() + 8),
               t.panel);
    p.setPen(QPen(t.active, 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    p.setBrush(Qt::NoBrush);
    p.drawPolyline(way.translated(x, y));
    p.setPen(t.ink);
    p.drawText(QPointF(x + drawn.right() + 6, y), text);
}

} // namespace

const FormViews& views(const ResolvedElbow&) {
    static const FormViews table{
        .title = [](const ResolvedZone&, std::size_t number) { return QString("Bend, zone %1").arg(number); },
        .detail = [](const ResolvedZone&,
                     const Piece& piece) { return QString::fromStdString(piece.name + ", " + piece.finish); },
        .asks = asks_nothing_more,
        .follows = [](SheetBuilder& b,
                      const ResolvedZone& z) { b.follow_all(z.bend()->values, {"bend_radius"}, {}); },
        .section = draw_section,
        .developed = draw_straightened,
        .side = {.outline = turned_outline, .strip_marks = bend_mark}};
    return table;
}

} // namespace whorl::app
