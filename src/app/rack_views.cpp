// A rack in the section view, alone and under its gear, the ways both go; and its toothed face from above.
#include "app/comparison.hpp"
#include "app/developed_view.hpp"
#include "app/section_view.hpp"

#include "quantity/expression.hpp"

#include <QPainterPath>
#include <cmath>
#include <numbers>

namespace whorl::app {
namespace {

// A tooth of the rack from space to space, square to its length: along it and over the reference line.
std::vector<QPointF> tooth_of(const ResolvedRack& r, double chord) {
    const double stretch = 1 / std::cos(in_rad(r.spec.helix_angle));
    std::vector<QPointF> half, out;
    for (const TransverseCurve& c : r.half_outline)
        for (const double t : samples(c, chord)) {
            const TransversePoint q = point_at(c, t);
            half.push_back({q.y * stretch, q.x});
        }
    out = half;
    for (auto it = half.rbegin(); it != half.rend(); ++it)
        out.push_back({r.pitch() - it->x(), it->y()});
    return out;
}

} // namespace

void SectionView::draw_bar(QPainter& p, const ResolvedRack& r, double line, double side, double along,
                           bool ghost) {
    const Theme& t = theme();
    const double near = along - rack_middle(r), far = near + r.length;
    const auto at = [&](double y, double height) { return on_teeth(line + side * height, y); };
    // the spaces that show, of those that the rack has
    const double reach = width() / teeth_.scale / 2 + r.pitch();
    const bool open_near = in_mm(r.spec.near_plain) == 0, open_far = in_mm(r.spec.far_plain) == 0;
    const double zero = near + r.first_space;
    const int lowest = open_near ? -1 : 0, highest = open_far ? r.teeth + 1 : r.teeth;
    const int first = std::max(lowest, static_cast<int>(std::floor((teeth_.y0 - reach - zero) / r.pitch()))),
              last = std::min(highest, static_cast<int>(std::ceil((teeth_.y0 + reach - zero) / r.pitch())));
    const auto tooth = tooth_of(r, 0.15 / teeth_.scale);
    const double tip = r.tip_height;
    QPolygonF edge;
    const double from = std::max(near, teeth_.y0 - reach - r.pitch()),
                 to = std::min(far, teeth_.y0 + reach + r.pitch());
    if (!open_near || first > lowest) edge << at(from, tip);
    for (int k = first; k <= last; ++k) {
        const double middle = zero + k * r.pitch();
        for (std::size_t i = 0; i < tooth.size(); ++i) // down into the space, and up again
            if (i >= tooth.size() / 2) edge << at(middle - r.pitch() + tooth[i].x(), tooth[i].y());
        for (std::size_t i = 0; i < tooth.size() / 2; ++i)
            edge << at(middle + tooth[i].x(), tooth[i].y());
    }
    edge << at(to, tip);
    QPainterPath metal;
    metal.addPolygon(edge);
    metal.lineTo(at(to, -r.body()));
    metal.lineTo(at(from, -r.body()));
    metal.closeSubpath();
    // cut off where the rack ends
    QPainterPath whole;
    whole.addPolygon(QPolygonF{at(near, tip + 1), at(far, tip + 1), at(far, -r.body()), at(near, -r.body())});
    whole.closeSubpath();
    p.save();
    p.setClipPath(whole, Qt::IntersectClip);
    fill_teeth(p, metal, edge, ghost);
    p.restore();
    p.setPen(ghost ? QPen(t.active, 1.4) : QPen(t.ink, 1.7));
    for (const double end : {near, far})
        if (end > from - 1e-6 && end < to + 1e-6) {
            const double off = std::abs(std::remainder(end - zero, r.pitch()));
            double height = tip;
            if (end == near ? open_near : open_far)
                for (std::size_t i = 0; i + 1 < tooth.size() / 2; ++i)
                    if (off >= tooth[i].x() && off <= tooth[i + 1].x()) height = tooth[i].y();
            p.drawLine(at(end, height), at(end, -r.body()));
        }
    p.drawLine(at(from, -r.body()), at(to, -r.body()));
}

void SectionView::draw_rack_alone(QPainter& p, const ResolvedRack& r) {
    const Theme& t = theme();
    const RackSpec& s = r.spec;
    const double m = in_mm(s.module), depth = r.tip_height - r.root_height;
    run_word_ = rack_word_ = QRectF();
    const double top = 40, bottom = height() - 40.0;
    // two pitches across, and as much of the body as there is room for, at least a module of it
    const double left = 74, right = width() - 62.0;
    const double k = std::min((right - left) / (2.1 * r.pitch()),
                              (bottom - top) / std::min(depth + 2 * m, in_mm(s.height)));
    teeth_.scale = k;
    teeth_.centre = {(left + right) / 2, top};
    teeth_.x0 = r.tip_height;
    teeth_.y0 = 0;
    const double scale = k / (96 / 25.4);
    draw_title(p, "Section",
               QString("transverse, %1")
                   .arg(scale >= 1 ? QString("%1 : 1").arg(number_text(scale, scale < 10 ? 1 : 0).c_str())
                                   : QString("1 : %1").arg(number_text(1 / scale, 2).c_str())));
    if (r.half_outline.empty()) {
        draw_hint(p, "These teeth can't be made as they are; the checks line says why and what would work.");
        return;
    }
    p.save();
    p.setClipRect(QRectF(left, 28, right - left, height() - 28));
    draw_bar(p, r, 0, 1, 0, false);
    if (comparison_ &&
        comparison_->rack_result()) { // the other rack, each of its points in every space that shows
        p.setPen(QPen(t.active, 1.8, Qt::SolidLine, Qt::RoundCap));
        QPolygonF dots;
        for (const RackDeviation& d : comparison_->rack_result()->points)
            for (int i = -2; i <= 2; ++i) // a tooth's middle stands in the middle
                dots << on_teeth(d.height, (i + 0.5) * r.pitch() + d.beside);
        p.drawPoints(dots);
    }
    p.restore();
    p.setPen(QPen(t.hairline, 0.8)); // out to where the heights are measured
    for (const double h : {r.tip_height, r.root_height})
        p.drawLine(QPointF(right - 4, on_teeth(h, 0).y()), QPointF(width() - 18.0, on_teeth(h, 0).y()));
    // the reference line, and what is measured on it
    p.setPen(QPen(t.active, session_.hovered() == "reference_height" ? 1.8 : 0.9, Qt::DashDotLine));
    p.drawLine(QPointF(left - 6, on_teeth(0, 0).y()), QPointF(width() - 14.0, on_teeth(0, 0).y()));
    p.setFont(text_font(11));
    const double thick = (r.pitch() / 2 - in_mm(s.thinning) / std::cos(in_rad(s.helix_angle))) / 2;
    const QPointF a = on_teeth(0, thick), b = on_teeth(0, -thick);
    dimension(p, a, b, {a, b}, on_teeth(0, 0) + QPointF(0, 15), shown(2 * thick),
              spot_of("tooth_thickness", {}, "Tooth thickness on the reference line"));
    // one pitch, from tooth to tooth under the roots
    const double under = on_teeth(r.root_height, 0).y() + 22;
    const QPointF below(0, 25); // the text of the thickness
    dimension(p, {on_teeth(0, 0).x(), under}, {on_teeth(0, -r.pitch()).x(), under},
              {on_teeth(0, 0) + below, on_teeth(0, -r.pitch()) + below},
              {on_teeth(0, -r.pitch() / 2).x(), under + 13}, shown(r.pitch()),
              spot_of("circular_pitch", {}, "Pitch along the rack"));
    // heights at the right edge
    const double x = width() - 24.0;
    const auto upright = [&](const char* key, std::optional<Field> field, double low, double high,
                             const QString& value, const QString& tip) {
        const double y0 = on_teeth(low, 0).y(), y1 = on_teeth(high, 0).y();
        const double w = number_width(p.font(), value) + 8;
        dimension(p, {x, y0}, {x, y1}, {{x, y0}, {x, y1}}, {x - w / 2 - 5, (y0 + y1) / 2}, value,
                  spot_of(key, field, tip));
    };
    upright("addendum", {}, 0, r.tip_height, shown(r.tip_height), "Addendum");
    upright("dedendum", {}, r.root_height, 0, shown(-r.root_height), "Dedendum");
    const auto left_text = [&](double y, const char* key, std::optional<Field> field, const QString& text,
                               const QString& tip) {
        const double w = number_width(p.font(), text) + 8;
        dimension_text(p, {w / 2 + 12, y}, text, spot_of(key, field, tip));
    };
    p.setFont(text_font(13, Weight::medium));
    const auto text = [](double v, int decimals) { return QString::fromStdString(number_text(v, decimals)); };
    left_text(46, "module", field::module, "m " + text(m, 4),
              "Module, normal. Click to type; 12 dp works too.");
    left_text(70, "teeth", field::teeth, "z " + QString::number(r.teeth),
              "Number of teeth. Click to type; the length follows.");
    left_text(94, "pressure_angle", field::pressure_angle, "α " + text(in_deg(s.pressure_angle), 3) + "°",
              "Pressure angle, normal. Click to type.");
    if (in_rad(s.helix_angle) != 0)
        left_text(118, "helix_angle", field::helix_angle, "β " + text(in_deg(s.helix_angle), 3) + "°",
                  "Helix angle. Click to type; a minus sign turns it round.");
    left_text(height() - 18.0, "height", field::body_height, "h " + shown(in_mm(s.height)),
              "Height of the body, from its back to the tips. Click to type.");
}

// An arrow on either side of the pitch point: the way its teeth go when the first gear turns on.
void SectionView::draw_ways(QPainter& p, const ShownMesh& shown_mesh) {
    const GearMesh& m = shown_mesh.mesh;
    const double off = 1.05 * in_mm(shown_mesh.first.spec.module), length = 0.5 * m.base_pitch;
    const auto arrow = [&](double axis, double radius, bool here) {
        // along the circle through the pitch line, far from the contact
        QPolygonF shaft;
        const double at = m.first_radius - axis > 0 ? 0 : std::numbers::pi;
        const double r = std::abs(radius);
        const double middle = -std::min(0.8 * m.base_pitch, 0.35 * m.first_radius);
        for (int i = 0; i <= 12; ++i) {
            const double y = middle - length / 2 + length * i / 12;
            if (radius == 0) {
                shaft << on_teeth(axis, y);
            } else {
                const double a = (at == 0 ? y : -y) / r + at;
                shaft << on_teeth(axis + r * std::cos(a), r * std::sin(a));
            }
        }
        const QPointF tip = shaft.last(), before = shaft[shaft.size() - 3];
        const double angle = std::atan2(tip.y() - before.y(), tip.x() - before.x());
        p.setPen(QPen(here ? theme().ink : theme().active, 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.setBrush(Qt::NoBrush);
        p.drawPolyline(shaft);
        for (const double turn : {2.6, -2.6})
            p.drawLine(tip, tip + 8 * QPointF(std::cos(angle + turn), std::sin(angle + turn)));
    };
    const bool second_here = shown_mesh.second_first;
    // inside the driving gear's body, and in the other's
    arrow(0, m.first_radius - 1.75 * off, !second_here);
    if (m.rack)
        arrow(m.first_radius + 1.9 * off, 0, second_here);
    else
        arrow(m.internal ? -m.centre : m.centre,
              m.internal ? m.second_radius + 1.9 * off : m.second_radius - 1.9 * off, second_here);
}

void DevelopedView::draw_face(QPainter& p, const ResolvedRack& r) {
    const Theme& t = theme();
    draw_title(p, "Face", "of the rack, from above");
    const QRectF a = area();
    const double width = in_mm(r.spec.width);
    // to one scale; a long rack shows the stretch at its near end
    const double k =
        std::max(a.width() / r.length, std::min(a.height() / width, a.width() / (12 * r.pitch())));
    const double high = std::min(a.height(), width * k), shown_length = std::min(r.length, a.width() / k);
    const QRectF bar(a.left(), a.center().y() - high / 2, shown_length * k, high);
    const double half = high / k / 2;
    p.fillRect(bar, t.part_fill);
    p.save();
    p.setClipRect(bar);
    const bool open_near = in_mm(r.spec.near_plain) == 0, open_far = in_mm(r.spec.far_plain) == 0;
    const int beyond = static_cast<int>(std::ceil(half * std::abs(r.lean) / r.pitch())) + 1;
    const int first = open_near ? -beyond : 0, last = open_far ? r.teeth + beyond : r.teeth;
    const double opening = r.half_outline.empty()
                               ? 0
                               : r.half_outline.back().y0 / std::cos(in_rad(r.spec.helix_angle)),
                 floor = r.half_outline.empty()
                             ? 0
                             : r.half_outline.front().y1 / std::cos(in_rad(r.spec.helix_angle));
    const auto at = [&](double z, double w) {
        return QPointF(bar.left() + z * k, bar.center().y() + w * k); // z to the right puts w down
    };
    for (int j = first; j <= last; ++j) {
        const double z = r.first_space + j * r.pitch();
        if (z - opening - half * std::abs(r.lean) > shown_length) break;
        const auto strip = [&](double reach) {
            return QPolygonF{at(z - reach - half * r.lean, -half), at(z + reach - half * r.lean, -half),
                             at(z + reach + half * r.lean, half), at(z - reach + half * r.lean, half)};
        };
        p.setPen(QPen(t.part, 1.2));
        p.setBrush(t.field);
        p.drawPolygon(strip(opening));
        p.setPen(QPen(t.part, 0.6));
        p.setBrush(Qt::NoBrush);
        if (floor > 0) p.drawPolygon(strip(floor));
    }
    p.restore();
    p.setPen(QPen(t.ink, 1.4));
    p.setBrush(Qt::NoBrush);
    p.drawRect(bar);
    p.setFont(text_font(11));
    const auto text_at = [&](const char* key, Field field, const QString& words, QPointF place,
                             const QString& tip) {
        dimension_text(p, place, words, spot_of(key, field, tip));
    };
    text_at("length", field::length,
            "length " + shown(r.length) + (shown_length < r.length - 1e-9 ? ", the near end shown" : ""),
            {a.center().x(), a.bottom() + 14}, "Length of the rack. Click to type; the teeth follow.");
    text_at("helix_angle", field::helix_angle,
            in_rad(r.spec.helix_angle) == 0 ? QString("teeth square to the length")
                                            : QString("helix %1°, %2-hand")
                                                  .arg(number_text(in_deg(r.spec.helix_angle), 3).c_str(),
                                                       r.spec.hand == Hand::left ? "left" : "right"),
            {a.center().x(), std::max(a.top() + 12, bar.top() - 12)},
            "Helix angle. Click to type; a minus sign turns it round.");
    text_at("face_width", field::face_width, "b " + shown(width), {a.left() - 24, bar.center().y()},
            "Face width. Click to type.");
}

} // namespace whorl::app
