#include "app/section_view.hpp"

#include "app/comparison.hpp"
#include "app/forms/form_views.hpp"
#include "app/thread_section.hpp"

#include "quantity/expression.hpp"

#include <QPainterPath>
#include <cmath>

namespace whorl::app {

namespace {

QString scale_text(double s) {
    return s >= 1 ? QString("%1 : 1").arg(number_text(s, s < 10 ? 1 : 0).c_str())
                  : QString("1 : %1").arg(number_text(1 / s, 2).c_str());
}

constexpr double paper_mm = 96 / 25.4; // screen pixels for a millimetre of paper

} // namespace

void SectionView::draw(QPainter& p) {
    p.fillRect(rect(), theme().paper);
    const ResolvedZone* z = session_.resolved_zone();
    if (!z) {
        draw_title(p, "Section", "");
        draw_hint(p, "The generating section to scale. Its dimensions are the input: click one and type.");
        return;
    }
    views_of(*z).section(*this, p, *z);
}

void SectionView::draw_bar_or_mesh(QPainter& p, const ResolvedZone& zone) {
    const bool compared = comparison_ && comparison_->loaded(); // then it is looked at alone
    if (compared || !(session_.mesh() && session_.mesh()->mesh.meshes))
        draw_rack_alone(p, *zone.rack());
    else
        draw_teeth(p, zone);
}

void SectionView::draw_thread(QPainter& p, const ResolvedZone& zone) {
    const ResolvedThread& r = *zone.thread();
    const ThreadSection& s = r.section;
    const bool own = r.spec.family == ThreadFamily::own;
    const double left = 18, right = width() - 76, top = 66, bottom = height() - (own ? 44 : 16);
    const double turns = 2.05;
    const bool internal = s.side == Side::internal;
    const double depth_mm = std::max(s.depth(), s.pitch * 0.05);
    const double raw = std::min((right - left) / (turns * s.pitch), (bottom - top) / (depth_mm * 1.62));
    // while a point is dragged the scale stands still
    const double k = held_ ? frame_.scale : std::max(raw, 1e-6);
    draw_title(p, "Section",
               QString("%1, %2, modelled at %3")
                   .arg(internal ? "axial, axis above" : "axial", scale_text(k / paper_mm),
                        QString::fromStdString(modelled_text(r.spec))));
    const double centre_x = (left + right) / 2;
    double shift = 0; // of the groove's middle, while a point is dragged
    if (own) {
        // of a nut the outline lies across a ridge, half a pitch from the groove drawn in the middle
        const double middle = (middle_of(r.spec.own_section, s.side) - (internal ? 0.5 : 0)) * s.pitch;
        if (!held_)
            frame_ = {centre_x, top,     k,      internal ? -k : k,
                      middle,   s.pitch, s.side, in_mm(r.spec.diameter) / 2 - s.crest_radius};
        shift = middle - frame_.middle;
    }
    draw_thread_section(*this, p, r, {left, right, top, bottom, k, centre_x, shift});
    if (own && s.sweepable()) draw_handles(p, r.spec.own_section);
}

namespace {
// A hole square to the axis, as it lies across a section of this radius (pixels); 0 looks up.
QPainterPath hole_across(const ResolvedCrossHoles& holes, QPointF c, double half, double radius) {
    QPainterPath hole;
    hole.addRect(QRectF(-half, -radius - 2, 2 * half, (holes.one_side ? 1 : 2) * (radius + 2)));
    return QTransform().translate(c.x(), c.y()).rotate(in_deg(rad(holes.towards))).map(hole);
}
} // namespace

// The axis of a hole square to the zone's, and its diameter where it leaves.
void SectionView::draw_cross_hole(QPainter& p, const ResolvedCrossHoles& holes, QPointF c, double half,
                                  double radius) {
    const QPointF out(std::sin(holes.towards), -std::cos(holes.towards));
    p.setPen(QPen(theme().active, 1, Qt::DashDotLine));
    p.drawLine(c + (radius + 12) * out, holes.one_side ? c : c - (radius + 12) * out);
    p.setFont(text_font(11));
    // away from the dimension on the right
    const QPointF free = out.x() > 0.3 ? -out : out;
    const QPointF at =
        c + (radius + 30) * free + (std::abs(out.x()) > 0.3 ? QPointF() : QPointF(half + 22, 10));
    dimension_text(p, at, "Ø " + shown(2 * holes.radius),
                   spot_of("cross_hole", field::cross_hole, "Cross hole. Click to type; formulas work."));
}

void SectionView::draw_round(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    draw_title(p, "Section", "square to the axis");
    const double d = in_mm(zone.diameter);
    const double room =
        std::min(width() - 150.0, height() - (zone.outline() == Outline::flat ? 130.0 : 70.0));
    // the keyway stands on top, out of the bore
    const double out = zone.keyway() ? 2 * in_mm(zone.keyway()->depth) / d : 0;
    const double radius = std::max(20.0, zone.keyway() ? (room / 2 - 10) / (1 + out) : room / 2);
    const QPointF c(width() / 2.0 - 20, height() / 2.0 + (zone.outline() == Outline::flat ? -8 : 12));
    QPainterPath disc;
    double scale = radius; // pixels for half the diameter, or half the width across flats
    if (zone.outline() == Outline::round) {
        disc.addEllipse(c, radius, radius);
    } else {
        const bool bar = zone.outline() == Outline::flat;
        const int sides = zone.outline() == Outline::hexagon ? 6 : 4;
        const double lean =
            bar ? std::atan2(in_mm(zone.as<ResolvedPlain>()->thickness), d) : std::numbers::pi / sides;
        scale = radius * std::cos(lean);
        for (int i = 0; i < sides; ++i) {
            const int half_turns = (i + 1) / 2;
            const double a = bar ? (i % 2 == 0 ? lean : -lean) + std::numbers::pi * half_turns
                                 : 2 * std::numbers::pi * (i + 0.5) / sides;
            const QPointF corner = c + radius * QPointF(std::sin(a), -std::cos(a));
            i == 0 ? disc.moveTo(corner) : disc.lineTo(corner);
        }
        disc.closeSubpath();
    }
    const double half = zone.keyway() ? in_mm(zone.keyway()->width) / d * radius : 0;
    const double bottom = c.y() - radius * (1 + out); // of the keyway
    if (zone.keyway()) {
        QPainterPath slot;
        slot.addRect(QRectF(QPointF(c.x() - half, bottom), QPointF(c.x() + half, c.y())));
        disc = disc.united(slot);
    }
    if (const ResolvedCrossHoles* holes = zone.cross())
        disc = disc.subtracted(hole_across(*holes, c, holes->radius * scale / (d / 2), radius));
    if (zone.in_bore()) { // the metal lies around it
        QPainterPath around;
        const double rim = radius * (1 + out) + (zone.keyway() ? 10 : 16);
        around.addEllipse(c, rim, rim);
        disc = around.subtracted(disc);
    }
    fill_metal(p, disc);
    p.setPen(QPen(t.ink, 1.7));
    p.setBrush(Qt::NoBrush);
    p.drawPath(disc);
    p.setPen(QPen(t.active, 1, Qt::DashDotLine));
    p.drawLine(c - QPointF(radius + 10, 0), c + QPointF(radius + 10, 0));
    p.drawLine(c - QPointF(0, radius + 10), c + QPointF(0, radius + 10));
    const double x = c.x() + radius * (1 + out) + (zone.keyway() ? 36 : 26);
    p.setFont(text_font(13, Weight::medium));
    const Spot s =
        spot_of("diameter", field::diameter,
                zone.outline() == Outline::round  ? "Diameter. Click to type; formulas work."
                : zone.outline() == Outline::flat ? "Width. Click to type; formulas work."
                                                  : "Width across the flats. Click to type; formulas work.");
    const QPointF above = c - QPointF(0, scale), below = c + QPointF(0, scale);
    dimension(p, {x, above.y()}, {x, below.y()}, {above, below}, {x, c.y() - 18},
              (zone.outline() == Outline::round  ? "Ø "
               : zone.outline() == Outline::flat ? ""
                                                 : "AF ") +
                  shown(d),
              s);
    if (zone.outline() == Outline::flat) { // its thickness below
        const double edge_x = radius * std::sqrt(1 - scale * scale / radius / radius), y = c.y() + scale + 30;
        const QPointF left = c + QPointF(-edge_x, scale), right = c + QPointF(edge_x, scale);
        dimension(p, {left.x(), y}, {right.x(), y}, {left, right}, {c.x() + edge_x + 34, y},
                  shown(in_mm(zone.as<ResolvedPlain>()->thickness)),
                  spot_of("thickness", field::thickness, "Thickness. Click to type; formulas work."));
    }
    if (const ResolvedCrossHoles* holes = zone.cross())
        draw_cross_hole(p, *holes, c, holes->radius * scale / (d / 2), radius);
    if (!zone.keyway()) return;
    // what is measured: the width, and over bore and keyway
    p.setFont(text_font(11));
    const double left = c.x() - radius * (1 + out) - 34;
    dimension(p, {left, bottom}, {left, c.y() + radius}, {{c.x() - half, bottom}, {c.x(), c.y() + radius}},
              {left, c.y() - 18}, shown(d + in_mm(zone.keyway()->depth)),
              spot_of("keyway_over", {}, "Over bore and keyway, d + t2"));
    const QPointF a(c.x() - half, bottom + 12), b(c.x() + half, bottom + 12);
    dimension(p, a, b, {a, b}, {c.x(), bottom + 27}, shown(in_mm(zone.keyway()->width)),
              spot_of("keyway", field::keyway,
                      QString::fromStdString(zone.keyway()->source) +
                          ". Click to type: standard, none, or width x depth in the hub."));
}

} // namespace whorl::app
