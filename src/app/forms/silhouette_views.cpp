// A silhouette in the axial plane, its points dragged and typed; its flutes' outline square to the axis; and the flutes
// unrolled, their twist and their ends dragged.
#include "app/developed_view.hpp"
#include "app/forms/form_views.hpp"
#include "app/point_knobs.hpp"
#include "app/section_view.hpp"

#include "model/forms/silhouette.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace whorl::app {
namespace {

// Heights upwards and radii to the right of the axis, or where that shows a slender one larger, it lies: heights to the
// right and radii upwards.
struct Frame {
    double axis = 0, foot = 0, k = 1, z0 = 0;
    bool lies = false;
    QPointF at(double z, double r) const {
        return lies ? QPointF(foot + (z - z0) * k, axis - r * k) : QPointF(axis + r * k, foot - (z - z0) * k);
    }
    double height(QPointF q) const {
        return (lies ? q.x() - foot : foot - q.y()) / k;
    } // from the zone's near end
    double radius(QPointF q) const { return (lies ? axis - q.y() : q.x() - axis) / k; }
    QPointF along() const { return lies ? QPointF(1, 0) : QPointF(0, -1); } // a pixel of height
    QPointF out() const { return lies ? QPointF(0, -1) : QPointF(1, 0); }   // of radius
};

QPolygonF curve(const Frame& u, double z0, double z1, const std::function<double(double)>& radius) {
    QPolygonF out;
    constexpr int parts = 160;
    for (int i = 0; i <= parts; ++i) {
        const double z = z0 + (z1 - z0) * i / parts;
        out << u.at(z, radius(z));
    }
    return out;
}

void point_knobs(SectionView& view, QPainter& p, const ResolvedZone& zone, const Frame& u) {
    const ResolvedSilhouette* s = zone.silhouette();
    const std::vector<CurvePoint> points = s->spec.points;
    const double z0 = s->z0,
                 stretch = (s->z1 - s->z0) / points.back().at; // unless they say the zone's length
    CurvePoints c;
    c.count = static_cast<int>(points.size());
    c.at = [&](int i) {
        return u.at(z0 + stretch * points[std::size_t(i)].at, points[std::size_t(i)].value);
    };
    c.between = [&](int i) {
        const double z = z0 + stretch * (points[std::size_t(i)].at + points[std::size_t(i) + 1].at) / 2;
        return u.at(z, s->wall->outer()(z));
    };
    c.values = [&](int i) { return QPointF(points[std::size_t(i)].at, points[std::size_t(i)].value); };
    c.read = [=](QPointF to) { return QPointF(u.height(to) / stretch, u.radius(to)); };
    c.way = [lies = u.lies](int right, int up) { return lies ? QPointF(right, up) : QPointF(up, right); };
    c.fixed = [](int i, int part) { return i == 0 && part == 0; };
    c.tips[0] = "From the zone's near end";
    c.tips[1] = "From the axis";
    c.tips[2] = "Of the tangent to the axis; cleared it is free";
    add_point_knobs(view, p, c);
}

// The outline square to the axis at a height, to the right.
void draw_outline(SectionView& view, QPainter& p, const ShapedWall& outside, const ShapedWall* inside,
                  double z, const QRectF& box) {
    const Theme& t = theme();
    const double k = std::min(box.width(), box.height()) / 2 / outside.outer()(z);
    const auto path = [&](const ShapedWall& w) {
        QPolygonF out;
        const auto wall = std::make_shared<const ShapedWall>(w);
        const int n = w.flutes() ? w.flutes()->count * 24 : 180;
        for (int i = 0; i < n; ++i) {
            const double phi = (w.flutes() ? w.flutes()->start : 0) + 2 * pi * (i + 0.5) / n,
                         r = ShapedPatch{wall, phi, phi, z, z}.radius(phi, z), theta = phi + w.turned(z);
            out << box.center() + QPointF(r * std::cos(theta) * k, -r * std::sin(theta) * k);
        }
        return out;
    };
    QPainterPath metal;
    metal.addPolygon(path(outside));
    metal.closeSubpath();
    if (inside) {
        metal.addPolygon(path(*inside));
        metal.closeSubpath();
    }
    p.fillPath(metal, t.part_fill);
    QColor lines = t.part;
    lines.setAlphaF(0.4f);
    hatch(p, metal, lines);
    p.setPen(QPen(t.ink, 1.4));
    p.drawPath(metal);
    p.setPen(t.muted);
    p.setFont(text_font(11));
    p.drawText(QRectF(box.left() - 20, box.bottom() + 4, box.width() + 40, 16), Qt::AlignCenter,
               "at " + view.shown(z - outside.outer().from()) + " " + symbol(view.session().unit()));
}

void draw_profile(SectionView& view, QPainter& p, const ResolvedZone& zone) {
    const ResolvedSilhouette& s = *zone.silhouette();
    const Theme& t = theme();
    const ResolvedPiece& piece = *view.session().resolved();
    // the outside that a hollow lies in, and the hollow of an outside
    const ResolvedSilhouette *outside = nullptr, *hollow = nullptr;
    for (const ResolvedZone& z : piece.zones)
        if (z.is_hollow()) {
            hollow = z.silhouette();
        } else if (z.silhouette() && !z.in_bore()) {
            outside = z.silhouette();
        }
    if (s.spec.wall)
        hollow = &s;
    else if (!zone.in_bore())
        outside = &s;
    const bool bored = zone.in_bore() && !s.spec.wall;
    if (hollow && outside && (hollow->z0 > outside->z1 - 1e-9 || hollow->z1 < outside->z0 + 1e-9))
        hollow = nullptr;
    const ResolvedSilhouette& shown = bored || !outside ? s : *outside;
    const auto inside = [&](double z) {
        return z < hollow->body_from ? hollow->outline(z) : hollow->wall->outer()(z);
    };
    const Flutes* flutes = shown.wall->flutes();
    view.draw_title(p, "Section",
                    s.spec.wall ? "the hollow, in the axial plane"
                    : bored     ? "of the bore, in the axial plane"
                                : "in the axial plane");
    const double top = 40, bottom = view.height() - 48.0, left = 52, right = view.width() - 24.0;
    const double widest = shown.wall->widest(), high = shown.z1 - shown.z0;
    const bool beside = flutes && right - left > 200;
    const double room = beside ? 0.55 * (right - left) : right - left - 40, round = right - left - 130,
                 upright = std::min(room / (1.12 * widest), (bottom - top) / high),
                 lying = std::min((beside ? round : right - left - 30) / high,
                                  (bottom - top - 34) / (1.12 * widest));
    Frame u;
    u.z0 = shown.z0;
    u.lies = lying > 1.25 * upright;
    u.k = view.steady_scale(u.lies ? lying : upright);
    if (u.lies) {
        u.axis = std::min(bottom - 26, (top + bottom + 1.12 * widest * u.k) / 2);
        u.foot = left - 20 + ((beside ? round : right - left) - high * u.k) / 2;
    } else {
        u.axis = left + (beside ? 0 : std::max(0.0, (right - left - widest * u.k) / 3));
        u.foot = (top + bottom + high * u.k) / 2;
    }
    const QPolygonF outer = curve(u, shown.z0, shown.z1, [&](double z) { return shown.wall->outer()(z); });
    QPainterPath metal;
    metal.moveTo(u.at(shown.z0, 0));
    if (bored) { // what stands round the bore
        metal = {};
        metal.addPolygon(outer);
        metal.lineTo(u.at(shown.z1, 1.12 * widest));
        metal.lineTo(u.at(shown.z0, 1.12 * widest));
    } else {
        for (const QPointF& q : outer)
            metal.lineTo(q);
        metal.lineTo(u.at(shown.z1, hollow ? hollow->wall->outer()(hollow->z1) : 0));
        if (hollow) {
            const QPolygonF inner = curve(u, hollow->z1, hollow->z0, inside);
            for (const QPointF& q : inner)
                metal.lineTo(q);
            metal.lineTo(u.at(hollow->z0, 0));
        }
    }
    metal.closeSubpath();
    p.fillPath(metal, t.part_fill);
    QColor lines = t.part;
    lines.setAlphaF(0.4f);
    hatch(p, metal, lines);
    p.setPen(QPen(t.muted, 1, Qt::DashDotLine));
    p.drawLine(u.at(shown.z0, 0) - 10 * u.along(), u.at(shown.z1, 0) + 10 * u.along());
    p.setBrush(Qt::NoBrush);
    if (flutes) { // the scallops' middles
        p.setPen(QPen(t.part, 1.2, Qt::DashLine));
        p.drawPolyline(
            curve(u, flutes->from, flutes->to, [&](double z) { return shown.wall->least_radius(z); }));
    }
    p.setPen(QPen(t.ink, s.spec.wall ? 1.0 : 1.8));
    p.drawPolyline(outer);
    if (hollow) {
        p.setPen(QPen(t.ink, s.spec.wall ? 1.8 : 1.0));
        QPolygonF inner = curve(u, hollow->z0, hollow->z1, inside);
        inner.prepend(u.at(hollow->z0, 0));
        p.drawPolyline(inner);
    }
    p.setPen(QPen(t.ink, 1));
    for (const double z : {shown.z0, shown.z1})
        if (!(hollow && z == shown.z1))
            p.drawLine(u.at(z, 0), u.at(z, bored ? 1.12 * widest : shown.wall->outer()(z)));
    // the height, left of the axis
    p.setFont(text_font(13, Weight::medium));
    const auto lit = [&](const char* key) {
        p.setPen(QPen(view.session().hovered() == key ? t.active : t.ink, 0.8));
    };
    if (!s.spec.wall) {
        lit("length");
        for (const double z : {shown.z0, shown.z1})
            p.drawLine(u.at(z, 0) - 3 * u.out(), u.at(z, 0) - 24 * u.out());
        dimension_line(p, u.at(shown.z0, 0) - 20 * u.out(), u.at(shown.z1, 0) - 20 * u.out());
        view.dimension_text(
            p, u.at((shown.z0 + shown.z1) / 2, 0) - 20 * u.out(), view.shown(high),
            view.spot_of("length", field::length,
                         "Length of the zone; the points are stretched to it. Click to type."),
            u.lies ? 0 : -90);
    } else {
        p.setFont(text_font(12, Weight::medium));
        view.dimension_text(p, u.at(s.z0, 0) + (u.lies ? QPointF(-4, 14) : QPointF(34, 14)),
                            "b " + view.shown(s.z0 - shown.z0),
                            view.spot_of("bottom", field::bottom, "Thickness of the bottom. Click to type."));
        const double z = s.z0 + 0.6 * (s.z1 - s.z0);
        view.dimension_text(p, u.at(z, shown.wall->outer()(z)) + (u.lies ? 14 : 30) * u.out(),
                            "w " + view.shown(*s.spec.wall),
                            view.spot_of("wall", field::wall, "The least wall anywhere. Click to type."));
    }
    if (beside) {
        double deep = (flutes->from + flutes->to) / 2;
        for (int i = 1; i < 24; ++i)
            if (const double z = flutes->from + (flutes->to - flutes->from) * i / 24;
                flutes->depth(z) > flutes->depth(deep) + 1e-9)
                deep = z;
        const double size = u.lies ? 96 : std::min(0.38 * (right - left), bottom - top - 30);
        const QRectF box(right - size, (top + bottom - size) / 2, size, size);
        const bool in = hollow && deep > hollow->z0 && deep < hollow->z1;
        draw_outline(view, p, *shown.wall, in ? hollow->wall.get() : nullptr, deep, box);
        p.setPen(QPen(t.muted, 0.8, Qt::DashDotLine));
        p.drawLine(u.at(deep, 0) - 6 * u.out(), u.at(deep, 1.06 * shown.wall->outer()(deep)));
        p.setFont(text_font(12, Weight::medium));
        view.dimension_text(
            p, {box.center().x(), box.top() - 14},
            QString("%1 flutes, h %2").arg(flutes->count).arg(view.shown(flutes->depth(deep))),
            s.spec.wall ? Canvas::Spot{}
                        : view.spot_of("flute_depth", field::flute_depth,
                                       "Depth of the flutes, or a curve of it. Click to type."));
    }
    if (!s.spec.wall) point_knobs(view, p, zone, u);
}

void draw_flutes(DevelopedView& view, QPainter& p, const ResolvedZone& zone) {
    const ResolvedSilhouette& s = *zone.silhouette();
    const Theme& t = theme();
    const Flutes* f = s.wall->flutes();
    const double length = in_mm(zone.length);
    view.draw_title(p, "Developed", f ? "the ridges between the flutes" : "the surface unrolled");
    view.draw_axes(p, length);
    const QRectF a = view.area();
    p.fillRect(a, t.part_fill);
    p.setPen(QPen(t.hairline, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(a);
    if (!f) {
        p.setPen(t.muted);
        p.setFont(text_font(12));
        p.drawText(a.adjusted(16, 0, -16, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   s.spec.wall || zone.in_bore()
                       ? "Nothing winds around this surface."
                       : "Nothing winds around it. Type how many flutes in the sheet.");
        return;
    }
    const double half = s.wall->half_angle();
    const auto x_of = [&](double theta) { return a.left() + theta / (2 * pi) * a.width(); };
    const double y0 = view.y_of(f->from - s.z0), y1 = view.y_of(f->to - s.z0),
                 twist = f->twist * (f->to - f->from);
    p.save();
    p.setClipRect(a);
    // how deep they are, as shade
    constexpr int bands = 48;
    const double deepest = f->depth.largest().value;
    for (int i = 0; i < bands; ++i) {
        const double z = f->from + (f->to - f->from) * (i + 0.5) / bands;
        QColor shade = t.part;
        shade.setAlphaF(static_cast<float>(0.28 * f->depth(z) / deepest));
        const double y = view.y_of(f->from + (f->to - f->from) * i / bands - s.z0);
        p.fillRect(QRectF(QPointF(a.left(), view.y_of(f->from + (f->to - f->from) * (i + 1) / bands - s.z0)),
                          QPointF(a.right(), y)),
                   shade);
    }
    const int around = static_cast<int>(std::ceil(std::abs(twist) / (2 * half))) + 1;
    for (int i = -around; i < f->count + around; ++i) {
        const double theta = f->start + (2 * i + 1) * half;
        p.setPen(QPen(t.ink, 1.3));
        p.drawLine(QPointF(x_of(theta), y0), QPointF(x_of(theta + twist), y1));
    }
    p.restore();
    p.setPen(QPen(t.active, 1, Qt::DashLine));
    for (const double y : {y0, y1})
        p.drawLine(QPointF(a.left(), y), QPointF(a.right(), y));
    if (s.spec.wall) return;
    // the ridge that begins in the left half is lit: its upper end turns all of them
    const double base = f->start + half - 2 * pi * std::floor((f->start + half) / (2 * pi));
    double lit = base;
    while (lit > 0.35 * 2 * pi)
        lit -= 2 * half;
    if (lit < 0) lit += 2 * half;
    const double end = lit + twist;
    const double shown_end = end - 2 * pi * std::floor(end / (2 * pi));
    Session& session = view.session();
    const LengthUnit unit = session.unit();
    const double per_turn = a.width();
    const QPointF upper(x_of(shown_end), y1);
    view.add_knob(
        p, {.key = "twist_knob",
            .at = upper,
            .tip = "Drag to wind the flutes; to the left for left-hand",
            .drag =
                [=, &session](QPointF to, bool fine) {
                    const double turned = twist + (to.x() - upper.x()) / per_turn * 2 * pi;
                    (void)session.edit(field::twist, QString::fromStdString(number_text(
                                                         in_steps(turned * 180 / pi, fine ? 0.1 : 1), 2)));
                },
            .nudge =
                [=, &session](int right, int) {
                    (void)session.edit(field::twist,
                                       QString::fromStdString(number_text(twist * 180 / pi + right, 2)));
                }});
    const auto end_knob = [&](const char* key, double x, double y, double height, Field where,
                              const char* tip) {
        const double px = a.height() / length;
        view.add_knob(
            p,
            {.key = key,
             .at = {x, y},
             .ring = true,
             .tip = tip,
             .drag =
                 [=, &session](QPointF to, bool fine) {
                     (void)session.edit(
                         where,
                         dragged_number(in_steps(height + (y - to.y()) / px, drag_grain(unit, fine)), unit));
                 },
             .nudge =
                 [=, &session](int, int up) {
                     (void)session.edit(where, dragged_number(height + up * drag_grain(unit, false), unit));
                 }});
    };
    end_knob("flutes_from_knob", a.left() + a.width() * 0.5, y0, f->from - s.z0, field::flutes_from,
             "Where the flutes begin: drag it along the axis");
    end_knob("flutes_to_knob", a.left() + a.width() * 0.5, y1, f->to - s.z0, field::flutes_to,
             "Where the flutes have faded out: drag it along the axis");
    p.setFont(text_font(11, Weight::medium));
    view.dimension_text(
        p, {a.left() + a.width() * 0.5, (y0 + y1) / 2},
        QString("twist %1°").arg(number_text(twist * 180 / pi, 2).c_str()),
        view.spot_of("twist", field::twist, "What the flutes wind by. Click to type, or drag the square."));
}

} // namespace

namespace {

QPolygonF shaped_outline(const ResolvedZone& zone, double) {
    QPolygonF out;
    const double z0 = in_mm(zone.start), length = in_mm(zone.length);
    constexpr int parts = 120;
    if (zone.is_hollow() && zone.silhouette()->spec.dish) out << QPointF(z0, 0);
    for (int i = 0; i <= parts; ++i) {
        const double z = z0 + length * i / parts;
        out << QPointF(z, zone.silhouette()->outline(z));
    }
    return out;
}

// The ridges between flutes where they can be seen.
void ridges_from_side(QPainter& p, const ResolvedZone& zone, const SidePlace& place) {
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
                line << place.at(z, w.ridge_radius(z) * std::cos(theta));
        }
        flush();
    }
}

} // namespace

const FormViews& views(const ResolvedShape&) {
    static const FormViews table{
        .title = [](const ResolvedZone& z,
                    std::size_t n) { return QString(z.is_hollow() ? "Hollow %1" : "Silhouette %1").arg(n); },
        .detail = [](const ResolvedZone&,
                     const Piece& piece) { return QString::fromStdString(piece.name + ", " + piece.finish); },
        .asks = asks_nothing_more,
        .follows = [](SheetBuilder& b,
                      const ResolvedZone& z) { b.follow_all(z.silhouette()->values, {}, {}); },
        .section = draw_profile,
        .developed = draw_flutes,
        .side = {.outline = shaped_outline, .marks = ridges_from_side}};
    return table;
}

} // namespace whorl::app
