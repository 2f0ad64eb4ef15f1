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
    fill_metal(p, metal);
    p.setPen(QPen(t.ink, 1.4));
    p.drawPath(metal);
    p.setPen(t.muted);
    p.setFont(text_font(11));
    p.drawText(QRectF(box.left() - 20, box.bottom() + 4, box.width() + 40, 16), Qt::AlignCenter,
               "at " + view.shown(z - outside.outer().from()) + " " + symbol(view.session().unit()));
}

// A silhouette with the hollow in it, one of which is looked at, in the axial plane.
class ProfileDrawing {
public:
    ProfileDrawing(SectionView& view, QPainter& p, const ResolvedZone& zone)
        : view_(view), p_(p), zone_(zone), s_(*zone.silhouette()) {
        find_both();
        flutes_ = shown_->wall->flutes();
        set_frame();
    }

    void draw() {
        view_.draw_title(p_, "Section",
                         is_hollow() ? "the hollow, in the axial plane"
                         : bored_    ? "of the bore, in the axial plane"
                                     : "in the axial plane");
        draw_metal();
        draw_edges();
        p_.setFont(text_font(13, Weight::medium));
        if (is_hollow())
            dimension_hollow();
        else
            dimension_length();
        if (beside_) draw_beside();
        if (!is_hollow()) point_knobs(view_, p_, zone_, u_);
    }

private:
    bool is_hollow() const { return s_.spec.wall.has_value(); }
    double outer(double z) const { return shown_->wall->outer()(z); }
    double inner(double z) const {
        return z < hollow_->body_from ? hollow_->outline(z) : hollow_->wall->outer()(z);
    }

    // The outside that a hollow lies in, and the hollow of an outside.
    void find_both() {
        const ResolvedSilhouette* outside = nullptr;
        for (const ResolvedZone& z : view_.session().resolved()->zones)
            if (z.is_hollow()) {
                hollow_ = z.silhouette();
            } else if (z.silhouette() && !z.in_bore()) {
                outside = z.silhouette();
            }
        if (is_hollow())
            hollow_ = &s_;
        else if (!zone_.in_bore())
            outside = &s_;
        bored_ = zone_.in_bore() && !is_hollow();
        if (hollow_ && outside && (hollow_->z0 > outside->z1 - 1e-9 || hollow_->z1 < outside->z0 + 1e-9))
            hollow_ = nullptr;
        shown_ = bored_ || !outside ? &s_ : outside;
    }

    void set_frame() {
        bottom_ = view_.height() - 48.0;
        right_ = view_.width() - 24.0;
        widest_ = shown_->wall->widest();
        const double high = shown_->z1 - shown_->z0;
        beside_ = flutes_ && right_ - left > 200;
        const double room = beside_ ? 0.55 * (right_ - left) : right_ - left - 40,
                     round = right_ - left - 130,
                     upright = std::min(room / (1.12 * widest_), (bottom_ - top) / high),
                     lying = std::min((beside_ ? round : right_ - left - 30) / high,
                                      (bottom_ - top - 34) / (1.12 * widest_));
        u_.z0 = shown_->z0;
        u_.lies = lying > 1.25 * upright;
        u_.k = view_.steady_scale(u_.lies ? lying : upright);
        if (u_.lies) {
            u_.axis = std::min(bottom_ - 26, (top + bottom_ + 1.12 * widest_ * u_.k) / 2);
            u_.foot = left - 20 + ((beside_ ? round : right_ - left) - high * u_.k) / 2;
        } else {
            u_.axis = left + (beside_ ? 0 : std::max(0.0, (right_ - left - widest_ * u_.k) / 3));
            u_.foot = (top + bottom_ + high * u_.k) / 2;
        }
        outline_ = curve(u_, shown_->z0, shown_->z1, [&](double z) { return outer(z); });
    }

    void draw_metal() {
        const double z0 = shown_->z0, z1 = shown_->z1;
        QPainterPath metal;
        if (bored_) { // what stands round the bore
            metal.addPolygon(outline_);
            metal.lineTo(u_.at(z1, 1.12 * widest_));
            metal.lineTo(u_.at(z0, 1.12 * widest_));
        } else {
            metal.moveTo(u_.at(z0, 0));
            for (const QPointF& q : outline_)
                metal.lineTo(q);
            metal.lineTo(u_.at(z1, hollow_ ? hollow_->wall->outer()(hollow_->z1) : 0));
            if (hollow_) {
                for (const QPointF& q :
                     curve(u_, hollow_->z1, hollow_->z0, [&](double z) { return inner(z); }))
                    metal.lineTo(q);
                metal.lineTo(u_.at(hollow_->z0, 0));
            }
        }
        metal.closeSubpath();
        fill_metal(p_, metal);
        p_.setPen(QPen(t.muted, 1, Qt::DashDotLine));
        p_.drawLine(u_.at(z0, 0) - 10 * u_.along(), u_.at(z1, 0) + 10 * u_.along());
        p_.setBrush(Qt::NoBrush);
    }

    void draw_edges() {
        if (flutes_) { // the scallops' middles
            p_.setPen(QPen(t.part, 1.2, Qt::DashLine));
            p_.drawPolyline(curve(u_, flutes_->from, flutes_->to,
                                  [&](double z) { return shown_->wall->least_radius(z); }));
        }
        p_.setPen(QPen(t.ink, is_hollow() ? 1.0 : 1.8));
        p_.drawPolyline(outline_);
        if (hollow_) {
            p_.setPen(QPen(t.ink, is_hollow() ? 1.8 : 1.0));
            QPolygonF line = curve(u_, hollow_->z0, hollow_->z1, [&](double z) { return inner(z); });
            line.prepend(u_.at(hollow_->z0, 0));
            p_.drawPolyline(line);
        }
        p_.setPen(QPen(t.ink, 1));
        for (const double z : {shown_->z0, shown_->z1})
            if (!(hollow_ && z == shown_->z1))
                p_.drawLine(u_.at(z, 0), u_.at(z, bored_ ? 1.12 * widest_ : outer(z)));
    }

    void dimension_length() { // left of the axis
        const QPointF low = u_.at(shown_->z0, 0), high = u_.at(shown_->z1, 0), off = 20 * u_.out();
        view_.dimension(p_, low - off, high - off, {low, high}, u_.at((shown_->z0 + shown_->z1) / 2, 0) - off,
                        view_.shown(shown_->z1 - shown_->z0),
                        view_.spot_of("length", field::length,
                                      "Length of the zone; the points are stretched to it. Click to type."),
                        u_.lies ? 0 : -90);
    }

    void dimension_hollow() {
        p_.setFont(text_font(12, Weight::medium));
        view_.dimension_text(
            p_, u_.at(s_.z0, 0) + (u_.lies ? QPointF(-4, 14) : QPointF(34, 14)),
            "b " + view_.shown(s_.z0 - shown_->z0),
            view_.spot_of("bottom", field::bottom, "Thickness of the bottom. Click to type."));
        const double z = s_.z0 + 0.6 * (s_.z1 - s_.z0);
        view_.dimension_text(p_, u_.at(z, outer(z)) + (u_.lies ? 14 : 30) * u_.out(),
                             "w " + view_.shown(*s_.spec.wall),
                             view_.spot_of("wall", field::wall, "The least wall anywhere. Click to type."));
    }

    // The flutes' outline square to the axis where they are deepest.
    void draw_beside() {
        double deep = (flutes_->from + flutes_->to) / 2;
        for (int i = 1; i < 24; ++i)
            if (const double z = flutes_->from + (flutes_->to - flutes_->from) * i / 24;
                flutes_->depth(z) > flutes_->depth(deep) + 1e-9)
                deep = z;
        const double size = u_.lies ? 96 : std::min(0.38 * (right_ - left), bottom_ - top - 30);
        const QRectF box(right_ - size, (top + bottom_ - size) / 2, size, size);
        const bool in = hollow_ && deep > hollow_->z0 && deep < hollow_->z1;
        draw_outline(view_, p_, *shown_->wall, in ? hollow_->wall.get() : nullptr, deep, box);
        p_.setPen(QPen(t.muted, 0.8, Qt::DashDotLine));
        p_.drawLine(u_.at(deep, 0) - 6 * u_.out(), u_.at(deep, 1.06 * outer(deep)));
        p_.setFont(text_font(12, Weight::medium));
        view_.dimension_text(
            p_, {box.center().x(), box.top() - 14},
            QString("%1 flutes, h %2").arg(flutes_->count).arg(view_.shown(flutes_->depth(deep))),
            is_hollow() ? Canvas::Spot{}
                        : view_.spot_of("flute_depth", field::flute_depth,
                                        "Depth of the flutes, or a curve of it. Click to type."));
    }

    static constexpr double top = 40, left = 52;
    SectionView& view_;
    QPainter& p_;
    const ResolvedZone& zone_;
    const ResolvedSilhouette& s_;
    const Theme& t = theme();
    const ResolvedSilhouette *shown_ = nullptr, *hollow_ = nullptr;
    const Flutes* flutes_ = nullptr;
    bool bored_ = false, beside_ = false;
    double bottom_ = 0, right_ = 0, widest_ = 0;
    Frame u_;
    QPolygonF outline_;
};

void draw_profile(SectionView& view, QPainter& p, const ResolvedZone& zone) {
    ProfileDrawing(view, p, zone).draw();
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
