#include "app/developed_view.hpp"
#include "model/ends/ends.hpp"

#include "app/comparison.hpp"
#include "app/forms/form_views.hpp"

#include "quantity/expression.hpp"

#include <cmath>

namespace whorl::app {

QRectF DevelopedView::area() const {
    return QRectF(44, 34, std::max(60, width() - 44 - 22), std::max(40, height() - 34 - 28));
}

double DevelopedView::y_of(double along) const {
    const QRectF a = area();
    return a.bottom() - along / length_ * a.height();
}

double DevelopedView::along_at(double y) const {
    const QRectF a = area();
    return (a.bottom() - y) / a.height() * length_;
}

namespace {
// A round step that gives about `count` ticks over a span.
double tick_step(double span, int count) {
    const double raw = span / count, decade = std::pow(10, std::floor(std::log10(raw)));
    for (const double k : {1.0, 2.0, 5.0, 10.0})
        if (k * decade >= raw) return k * decade;
    return decade * 10;
}
} // namespace

void DevelopedView::draw(QPainter& p) {
    p.fillRect(rect(), theme().paper);
    for (auto& g : grips_)
        g.reset();
    joints_.clear();
    const ResolvedZone* z = session_.resolved_zone();
    if (!z) {
        draw_title(p, "Developed", "");
        draw_hint(p, "The surface unrolled: helices as straight lines, with a ring to drag the lead.");
        return;
    }
    views_of(*z).developed(*this, p, *z);
}

// Turns a pair's chart or the comparison into the view, where there is one.
bool DevelopedView::draw_chart(QPainter& p, const ResolvedZone& zone) {
    if (comparison_ && comparison_->loaded()) return draw_comparison(p, zone), true;
    if (session_.mesh() && session_.mesh()->mesh.meshes) return draw_mesh_chart(p), true;
    return false;
}

void DevelopedView::draw_teeth(QPainter& p, const ResolvedZone& zone) {
    if (!draw_chart(p, zone)) draw_unrolled(p, zone);
}

void DevelopedView::draw_bar_or_mesh(QPainter& p, const ResolvedZone& zone) {
    if (!draw_chart(p, zone)) draw_face(p, *zone.rack());
}

namespace {
// Around a prism, mm.
double girth(const ResolvedZone& zone) {
    const double d = in_mm(zone.diameter);
    if (zone.outline() == Outline::flat) return 2 * (d + in_mm(zone.as<ResolvedPlain>()->thickness));
    return zone.outline() == Outline::square ? 4 * d : 6 * d * std::tan(std::numbers::pi / 6);
}
} // namespace

void DevelopedView::draw_unrolled(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const double d = 2 * (zone.gear() ? zone.gear()->pitch_radius : in_mm(zone.outer_radius()));
    const QString unit = symbol(session_.unit());
    draw_title(p, "Developed",
               zone.outline() == Outline::round
                   ? QString("Ø %1 unrolled, %2 %3 around").arg(shown(d), shown(d * std::numbers::pi), unit)
                   : QString("its faces unrolled by angle, %1 %2 around").arg(shown(girth(zone)), unit));
    draw_axes(p, in_mm(zone.length));
    if (zone.gear()) {
        draw_tooth_traces(p, zone);
    } else if (zone.swept()) {
        draw_helices(p, zone);
        draw_ends(p, zone);
        draw_grips(p, zone);
    } else {
        draw_plain(p, zone);
    }
    p.setPen(QPen(t.hairline, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(area());
}

void DevelopedView::draw_axes(QPainter& p, double length) {
    length_ = length;
    const Theme& t = theme();
    const QRectF a = area();
    p.fillRect(a, t.field);
    p.setFont(text_font(11));
    const QFontMetricsF m(p.font());
    p.setPen(QPen(t.hairline, 1));
    for (int i = 1; i < 4; ++i)
        p.drawLine(QPointF(a.left() + a.width() * i / 4, a.top()),
                   QPointF(a.left() + a.width() * i / 4, a.bottom()));
    p.setPen(t.muted);
    for (int i = 0; i <= 4; ++i) {
        const QString s = QString("%1°").arg(90 * i);
        const double x = a.left() + a.width() * i / 4 - m.horizontalAdvance(s) / 2;
        p.drawText(QPointF(std::min(x, width() - m.horizontalAdvance(s) - 3), a.bottom() + 16), s);
    }
    const double span = in_unit(mm(length), session_.unit()),
                 step = tick_step(span, std::max(2, int(a.height() / 36)));
    for (double v = 0; v <= span * 1.0001; v += step) {
        const double y = a.bottom() - v / span * a.height();
        p.setPen(QPen(t.hairline, 1));
        p.drawLine(QPointF(a.left() - 4, y), QPointF(a.left(), y));
        p.setPen(t.muted);
        draw_number(p, a.left() - 7, y + 4, QString::fromStdString(number_text(v, 4)));
    }
}

// The helix nearest the middle of the view, or the one that is dragged.
DevelopedView::LitHelix DevelopedView::lit_helix(const ResolvedZone& zone) const {
    const ThreadSection& s = *zone.swept();
    const double turned = (s.hand == Hand::left ? -1 : 1) * s.lead() * s.start_angle / (2 * std::numbers::pi);
    const int middle = static_cast<int>(std::round(((length_ - s.lead()) / 2 + turned) / s.pitch - 0.5));
    LitHelix lit;
    lit.index = dragged_ ? dragged_index_ : middle;
    lit.low = (lit.index + 0.5) * s.pitch - turned;
    lit.high = lit.low + s.lead();
    return lit;
}

// A groove that its tool has cut from one place of its middle to another, that at angle 0 being `low` high.
QPainterPath DevelopedView::milled_band(const ResolvedZone& zone, double low) const {
    const ThreadSection& s = *zone.swept();
    const QRectF a = area();
    const double around = 2 * std::numbers::pi * in_mm(zone.outer_radius()), reach = milled_reach(s),
                 turn = s.hand == Hand::left ? -1 : 1;
    const auto at = [&](double z) { // on the unrolled surface, mm
        const double x = (z - low) / s.lead() * around;
        return QPointF(turn > 0 ? x : around - x, z);
    };
    const double from = zone.near_end.kind == EndKind::milled ? reach : -s.lead(),
                 to = zone.far_end.kind == EndKind::milled ? length_ - reach : length_ + s.lead();
    QPainterPath way(at(from));
    way.lineTo(at(to));
    QPainterPathStroker tool;
    tool.setWidth(2 * (reach - s.pitch / 20));
    tool.setCapStyle(Qt::RoundCap);
    tool.setCurveThreshold(0.01);
    QTransform page;
    page.translate(a.left(), y_of(0));
    page.scale(a.width() / around, -a.height() / length_);
    return page.map(tool.createStroke(way));
}

void DevelopedView::draw_helices(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const QRectF a = area();
    const ThreadSection& s = *zone.swept();
    const bool left_hand = s.hand == Hand::left;
    const LitHelix lit = lit_helix(zone);
    p.save();
    p.setClipRect(a);
    // lines closer than 3 px say nothing: then every n-th is drawn
    const double gap = s.pitch / length_ * a.height();
    const int every = gap >= 3 ? 1 : static_cast<int>(std::ceil(3 / gap));
    const int first = lit.index - static_cast<int>(std::ceil((lit.high) / s.pitch)) - 1,
              last = lit.index + static_cast<int>(std::ceil((length_ - lit.low) / s.pitch)) + 1;
    for (int i = first; i <= last; ++i) {
        const int start = ((i % s.starts) + s.starts) % s.starts;
        if (every > 1 && i != lit.index && i % every != 0) continue;
        const double low = lit.low + (i - lit.index) * s.pitch;
        QPointF from(a.left(), y_of(low)), to(a.right(), y_of(low + s.lead()));
        if (left_hand) from = {a.left(), y_of(low + s.lead())}, to = {a.right(), y_of(low)};
        if (const ResolvedGroove* g = zone.groove()) { // as wide as it is, its middle marked where it is held
            const QPointF half(0, g->width / 2 / length_ * a.height());
            p.setPen(QPen(t.part, gap >= 8 ? 1.1 : 0.7));
            p.setBrush(t.part_fill);
            if (zone.near_end.kind == EndKind::milled || zone.far_end.kind == EndKind::milled)
                p.drawPath(milled_band(zone, low));
            else
                p.drawPolygon(QPolygonF{from - half, to - half, to + half, from + half});
            if (i == lit.index) {
                p.setPen(QPen(t.active, 1.6, Qt::DashDotLine));
                p.drawLine(from, to);
            }
            continue;
        }
        QColor c = t.part;
        if (s.starts > 1) c = start % 2 ? t.part.lighter(t.dark ? 80 : 145) : t.part;
        p.setPen(QPen(c, i == lit.index ? 2.6 : 1.1));
        p.drawLine(from, to);
    }
    p.restore();
}

// Chamfers and run-outs.
void DevelopedView::draw_ends(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const QRectF a = area();
    const ThreadSection& s = *zone.swept();
    const double length = length_;
    const QFontMetricsF m(text_font(11));
    const auto end_line = [&](const ResolvedEnd& e, bool far) {
        double h = 0;
        QString what;
        if (e.kind == EndKind::chamfer) {
            // to where the cone meets the crest, which a taper narrows or widens on the way
            const double inwards = far ? -zone.taper() : zone.taper(), dome = in_mm(e.dome_height),
                         crest = s.crest_radius +
                                 zone.taper() * in_mm((far ? zone.end() : zone.start) - zone.taper_from()) +
                                 inwards * dome,
                         slope = std::tan(in_rad(e.angle)) * (zone.in_bore() ? -1 : 1) - inwards;
            h = dome + std::max(0.0, (crest - in_mm(e.diameter) / 2) / slope);
            what = e.is_dome()  ? "rounded, r " + shown(in_mm(e.dome_radius))
                   : e.is_dog() ? QString::fromStdString(end_shown(e, session_.unit()))
                                : QString("chamfer %1° to Ø %2")
                                      .arg(number_text(in_deg(e.angle), 2).c_str(), shown(in_mm(e.diameter)));
        } else if (e.kind == EndKind::run_out) {
            h = s.lead() * e.turns;
            what = "run-out, " + turns_text(e.turns);
        } else if (e.kind == EndKind::milled) {
            h = milled_reach(s);
            what = "milled";
        }
        if (h <= 0) return;
        const double y = y_of(far ? length - h : h);
        p.setPen(QPen(t.active, 1, Qt::DashLine));
        p.drawLine(QPointF(a.left(), y), QPointF(a.right(), y));
        p.setFont(text_font(11));
        const double w = m.horizontalAdvance(what) + 8;
        // at the far end the right is where the lead stands
        const bool left = far && e.kind == EndKind::milled;
        QRectF box(left ? a.left() + 3 : a.right() - w - 3, far ? y + 2 : y - 17, w, 15);
        p.fillRect(box, t.field);
        p.setPen(t.active);
        p.drawText(box, Qt::AlignCenter, what);
    };
    end_line(zone.near_end, false);
    end_line(zone.far_end, true);
}

// Where holes square to the axis break through.
void DevelopedView::draw_mouths(QPainter& p, const ResolvedZone& zone, const ResolvedCrossHoles& holes) {
    const Theme& t = theme();
    const QRectF a = area();
    constexpr double turn = 2 * std::numbers::pi;
    p.save();
    p.setClipRect(a);
    p.setPen(QPen(session_.hovered() == "cross_hole" ? t.active : t.ink, 1.3));
    p.setBrush(t.panel);
    for (const double at : holes.at)
        for (const double behind : {0.0, turn / 2}) {
            if (behind > 0 && holes.one_side) continue;
            for (const double wrap : {-turn, 0.0, turn}) {
                QPolygonF mouth;
                for (int k = 0; k <= 64; ++k) {
                    const double phi = turn * k / 64, y = holes.radius * std::cos(phi),
                                 z = at - in_mm(zone.start) + holes.radius * std::sin(phi),
                                 part = z / length_;
                    double r = (in_mm(zone.diameter) + part * in_mm(zone.far_diameter - zone.diameter)) / 2;
                    if (zone.outline() == Outline::flat && std::abs(std::sin(holes.towards)) > 0.7)
                        r = in_mm(zone.as<ResolvedPlain>()->thickness) / 2;
                    const double off = zone.outline() == Outline::round
                                           ? std::asin(std::clamp(y / r, -1.0, 1.0))
                                           : std::atan2(y, r);
                    mouth << QPointF(a.left() + (holes.towards + behind + wrap + off) / turn * a.width(),
                                     y_of(z));
                }
                p.drawPolygon(mouth);
            }
        }
    p.restore();
    p.setFont(text_font(11));
    const QString what = "cross hole Ø " + shown(2 * holes.radius);
    const double x = a.left() + holes.towards / turn * a.width(),
                 wide = QFontMetricsF(p.font()).horizontalAdvance(what),
                 left = std::clamp(x + 8, a.left() + 6, a.right() - wide - 6);
    p.setPen(t.muted);
    p.drawText(
        QPointF(left, std::max(a.top() + 14, y_of(holes.at.back() - in_mm(zone.start) + holes.radius) - 6)),
        what);
}

void DevelopedView::draw_plain(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const QRectF a = area();
    const double length = length_;
    p.setFont(text_font(11));
    const QFontMetricsF m(p.font());
    // a plain surface says its area and where it is chamfered
    const double R = in_mm(zone.outer_radius());
    double area = 0, low = 0, high = length;
    for (const auto& [e, far] : {std::pair{&zone.near_end, false}, std::pair{&zone.far_end, true}}) {
        if (e->kind != EndKind::chamfer && !e->is_dome()) continue;
        const double r = in_mm(e->diameter) / 2,
                     h = e->is_dome() ? in_mm(e->dome_height) : std::abs(R - r) / std::tan(in_rad(e->angle));
        area += e->is_edge() ? 2 * std::numbers::pi * in_mm(e->dome_radius) *
                                   (in_mm(e->arc_middle) * std::acos(1 - h / in_mm(e->dome_radius)) +
                                    (e->hollow ? -1 : 1) * h)
                : e->is_dome() ? 2 * std::numbers::pi * in_mm(e->dome_radius) * h
                               : std::numbers::pi * (R + r) * std::hypot(h, R - r);
        (far ? high : low) = far ? length - h : h;
        const QRectF strip = far ? QRectF(QPointF(a.left(), a.top()), QPointF(a.right(), y_of(length - h)))
                                 : QRectF(QPointF(a.left(), y_of(h)), QPointF(a.right(), a.bottom()));
        QColor tint = t.part_fill;
        p.fillRect(strip, tint);
        p.setPen(QPen(t.active, 1, Qt::DashLine));
        p.drawLine(QPointF(a.left(), y_of(far ? length - h : h)),
                   QPointF(a.right(), y_of(far ? length - h : h)));
        p.setPen(t.active);
        const QString what =
            e->is_edge() ? (e->kind == EndKind::fillet ? "fillet " : "radius ") + shown(in_mm(e->dome_radius))
            : e->is_dome() ? "rounded, r " + shown(in_mm(e->dome_radius))
                           : QString("chamfer %1° to Ø %2")
                                 .arg(number_text(in_deg(e->angle), 2).c_str(), shown(in_mm(e->diameter)));
        p.drawText(
            QPointF(a.right() - m.horizontalAdvance(what) - 6, far ? y_of(length - h) + 15 : y_of(h) - 6),
            what);
    }
    if (const ResolvedCrossHoles* holes = zone.cross()) return draw_mouths(p, zone, *holes);
    const bool prism = zone.outline() != Outline::round;
    if (prism) {
        if (area > 0) return; // its corners are cut, which has no such area
        area = girth(zone) * length;
    } else if (zone.diameter != zone.far_diameter) {
        const double a0 = in_mm(zone.diameter) / 2, a1 = in_mm(zone.far_diameter) / 2;
        if (area > 0) return;
        area = std::numbers::pi * (a0 + a1) * std::hypot(length, a1 - a0);
    } else {
        area += 2 * std::numbers::pi * R * std::max(0.0, high - low);
    }
    p.setPen(t.muted);
    const bool inches = session_.unit() == LengthUnit::inch;
    p.drawText(a, Qt::AlignCenter,
               QString("plain, %1 %2")
                   .arg(number_text(inches ? area / 645.16 : area / 100, 3).c_str(), inches ? "in²" : "cm²"));
}

} // namespace whorl::app
