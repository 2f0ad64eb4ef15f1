// What stands in the developed view of a toothed zone: its pitch cylinder unrolled with the teeth's traces,
// or for a pair the chart of its mesh along the line of action: sliding of both flanks, and how many pairs of
// teeth carry.
#include "app/comparison.hpp"
#include "app/developed_view.hpp"

#include "quantity/expression.hpp"

#include <QPainterPath>
#include <cmath>

namespace whorl::app {

void DevelopedView::draw_tooth_traces(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const ResolvedGear& g = *zone.gear();
    const QRectF a = area();
    const double turn = g.twist * in_mm(zone.length), full = 2 * std::numbers::pi;
    p.save();
    p.setClipRect(a);
    // lines closer than 3 px say nothing: then every n-th is drawn
    const double gap = g.pitch_angle() / full * a.width();
    const int every = gap >= 3 ? 1 : static_cast<int>(std::ceil(3 / gap));
    p.setPen(QPen(t.part, 1.2));
    const int beyond = static_cast<int>(std::abs(turn) / g.pitch_angle()) + 2;
    for (int k = -beyond; k < g.spec.teeth + beyond; k += every) {
        const double low = zone.turned() + (k + 0.5) * g.pitch_angle(), high = low + turn;
        p.drawLine(QPointF(a.left() + low / full * a.width(), a.bottom()),
                   QPointF(a.left() + high / full * a.width(), a.top()));
    }
    p.restore();
    const QString text = in_rad(g.spec.helix_angle) == 0
                             ? QString("%1 teeth along the axis, pitch %2")
                                   .arg(g.spec.teeth)
                                   .arg(shown(2 * std::numbers::pi * g.pitch_radius / g.spec.teeth))
                             : QString("%1 teeth, %2-hand, helix %3°")
                                   .arg(g.spec.teeth)
                                   .arg(g.spec.hand == Hand::left ? "left" : "right")
                                   .arg(number_text(in_deg(g.spec.helix_angle), 3).c_str());
    p.setFont(text_font(11));
    dimension_text(p, {a.center().x(), a.top() + 16}, text,
                   spot_of("helix_angle", field::helix_angle,
                           "Helix angle. Click to type; a minus sign turns it round."));
}

void DevelopedView::draw_mesh_chart(QPainter& p) {
    const Theme& t = theme();
    const auto& shown_mesh = *session_.mesh();
    const GearMesh& m = shown_mesh.mesh;
    const ResolvedGear& first = shown_mesh.first;
    // involute flanks stand off each other equally at every place of contact
    draw_title(p, "Mesh",
               "sliding along the line of action; backlash " +
                   shown(std::abs(m.backlash) < 5e-7 ? 0 : m.backlash) + " throughout");
    const QRectF a = area();
    p.fillRect(a, t.field);
    const double from = m.contact_from, to = m.contact_to, span = std::max(1e-9, to - from);
    const auto X = [&](double s) { return a.left() + (s - from) / span * a.width(); };
    // where only one pair of teeth carries
    const double single_from = to - m.base_pitch, single_to = from + m.base_pitch;
    if (m.contact_ratio < 2 && single_from > from && single_to < to) {
        p.fillRect(QRectF(X(std::min(single_from, single_to)), a.top(),
                          std::abs(X(single_to) - X(single_from)), a.height()),
                   t.active_tint);
        p.setFont(text_font(11));
        p.setPen(t.muted);
        const auto label = [&](double s0, double s1, const QString& text) {
            if (X(s1) - X(s0) < QFontMetricsF(p.font()).horizontalAdvance(text) + 4) return;
            p.drawText(QRectF(X(s0), a.top() + 2, X(s1) - X(s0), 16), Qt::AlignCenter, text);
        };
        label(from, single_from, "two pairs");
        label(single_from, single_to, "one pair");
        label(single_to, to, "two pairs");
    }
    // sliding of both, cut off where a flank comes near its base circle
    constexpr double lowest = -3, highest = 1;
    const auto Y = [&](double v) {
        return a.bottom() - (std::clamp(v, lowest, highest) - lowest) / (highest - lowest) * a.height();
    };
    p.setFont(text_font(11));
    for (int v = -3; v <= 1; ++v) {
        p.setPen(QPen(t.hairline, v == 0 ? 1.6 : 0.8));
        p.drawLine(QPointF(a.left(), Y(v)), QPointF(a.right(), Y(v)));
        p.setPen(t.muted);
        draw_number(p, a.left() - 7, Y(v) + 4, QString::number(v));
    }
    p.save();
    p.setClipRect(a);
    QPolygonF one, two;
    constexpr int steps = 120;
    for (int i = 0; i <= steps; ++i) {
        const double s = from + span * i / steps;
        const Sliding v = sliding_at(m, s);
        one << QPointF(X(s), Y(v.first));
        two << QPointF(X(s), Y(v.second));
    }
    p.setPen(QPen(t.ink, 1.6));
    p.drawPolyline(one);
    p.setPen(QPen(t.active, 1.6));
    p.drawPolyline(two);
    // the pitch point, where nothing slides
    p.setPen(QPen(t.muted, 1, Qt::DashDotLine));
    p.drawLine(QPointF(X(0), a.top()), QPointF(X(0), a.bottom()));
    p.restore();
    // where flanks touch now
    p.setBrush(t.field);
    for (const double s : contact_places(first, m, session_.roll())) {
        const Sliding v = sliding_at(m, s);
        p.setPen(QPen(t.ink, 1.4));
        p.drawEllipse(QPointF(X(s), Y(v.first)), 3.5, 3.5);
        p.setPen(QPen(t.active, 1.4));
        p.drawEllipse(QPointF(X(s), Y(v.second)), 3.5, 3.5);
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(t.hairline, 1));
    p.drawRect(a);
    p.setPen(t.muted);
    const QFontMetricsF fm(p.font());
    const QString left = shown(from), right = shown(to);
    p.drawText(QPointF(a.left(), a.bottom() + 16), left);
    p.drawText(QPointF(a.right() - fm.horizontalAdvance(right), a.bottom() + 16), right);
    p.drawText(
        QPointF(std::clamp(X(0) - fm.horizontalAdvance("pitch point") / 2,
                           a.left() + fm.horizontalAdvance(left) + 8,
                           a.right() - fm.horizontalAdvance(right) - fm.horizontalAdvance("pitch point") - 8),
                a.bottom() + 16),
        "pitch point");
    // whose line is whose
    const auto name = [&](bool of_first) {
        const ZoneRef at = of_first != shown_mesh.second_first ? shown_mesh.here : shown_mesh.there;
        return QString::fromStdString(session_.job().pieces[at.piece].name);
    };
    // on the side where no curve comes down
    const bool to_left = sliding_at(m, from).first > -1.6;
    double y = a.bottom() - 24;
    for (const bool of_first : {true, false}) {
        const QString text = fm.elidedText((of_first ? "driving: " : "driven: ") + name(of_first),
                                           Qt::ElideRight, a.width() / 2 + 20);
        const QPointF at(to_left ? a.left() + 8 : a.right() - 8 - fm.horizontalAdvance(text), y);
        p.fillRect(QRectF(at.x() - 3, y - 11, fm.horizontalAdvance(text) + 6, 15), t.field); // over the lines
        p.setPen(of_first ? t.ink : t.active);
        p.drawText(at, text);
        y += 16;
    }
}

// How far the other outline lies off ours, over the height of the teeth.
void DevelopedView::draw_comparison(QPainter& p, const ResolvedZone& z) {
    Deviations d;
    if (const auto& c = comparison_->result(); c && z.gear()) {
        const ResolvedGear& g = *z.gear();
        d.low = std::min(g.root_radius, g.tip_radius);
        d.high = std::max(g.root_radius, g.tip_radius);
        d.marks = {{g.spec.internal ? "tip" : "root", d.low},
                   {"pitch", g.pitch_radius},
                   {g.spec.internal ? "root" : "tip", d.high}};
        for (const GearDeviation& v : c->points)
            d.points.push_back({v.radius, v.off, v.angle < 0});
        d.worst = {c->worst.radius, c->worst.off, false};
        d.words = QString("largest %1 at Ø %2, mean square %3")
                      .arg(shown(c->worst.off), shown(2 * c->worst.radius), shown(c->root_mean_square));
        if (!c->missing.empty())
            d.words =
                QString("%1 of %2 teeth not there; %3").arg(c->missing.size()).arg(g.spec.teeth).arg(d.words);
    } else if (const auto& r = comparison_->rack_result(); r && z.rack()) {
        d.low = z.rack()->root_height;
        d.high = z.rack()->tip_height;
        d.marks = {{"root", d.low}, {"reference", 0}, {"tip", d.high}};
        for (const RackDeviation& v : r->points)
            d.points.push_back({v.height, v.off, v.beside < 0});
        d.worst = {r->worst.height, r->worst.off, false};
        d.words = QString("largest %1 at height %2, mean square %3")
                      .arg(shown(r->worst.off), shown(r->worst.height), shown(r->root_mean_square));
    }
    draw_deviations(p, d);
}

void DevelopedView::draw_deviations(QPainter& p, const Deviations& c) {
    const Theme& t = theme();
    draw_title(p, "Compared", "with " + comparison_->name() + ", µm, up: more material");
    const QRectF a = area();
    p.fillRect(a, t.field);
    p.setFont(text_font(11));
    if (c.points.empty()) {
        p.setPen(comparison_->why().isEmpty() ? t.muted : t.stop);
        p.drawText(a.adjusted(12, 8, -12, -8), Qt::AlignCenter | Qt::TextWordWrap,
                   comparison_->why().isEmpty() ? "comparing…" : comparison_->why());
        return;
    }
    const double margin = 0.04 * (c.high - c.low);
    double reach = 1e-3; // mm, at least a micrometre
    for (const Deviation& d : c.points)
        reach = std::max(reach, std::abs(d.off));
    reach *= 1.15;
    const auto X = [&](double r) {
        return a.left() + (r - c.low + margin) / (c.high - c.low + 2 * margin) * a.width();
    };
    const auto Y = [&](double off) { return a.center().y() - off / reach * a.height() / 2; };
    for (const double part : {-1.0, -0.5, 0.0, 0.5, 1.0}) {
        const double off = part * reach / 1.15;
        p.setPen(QPen(t.hairline, part == 0 ? 1.6 : 0.8));
        p.drawLine(QPointF(a.left(), Y(off)), QPointF(a.right(), Y(off)));
        p.setPen(t.muted);
        draw_number(p, a.left() - 7, Y(off) + 4,
                    QString::fromStdString(number_text(1000 * off, reach < 0.05 ? 1 : 0)));
    }
    p.save();
    p.setClipRect(a);
    for (const Deviation& d : c.points) {
        p.setPen(QPen(d.other_flank ? t.active : t.part, 2.4, Qt::SolidLine, Qt::RoundCap));
        p.drawPoint(QPointF(X(d.at), Y(d.off)));
    }
    p.restore();
    p.setPen(QPen(t.ink, 1.4));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(QPointF(X(c.worst.at), Y(c.worst.off)), 5, 5);
    p.setPen(QPen(t.hairline, 1));
    p.drawRect(a);
    p.setPen(t.muted);
    const QFontMetricsF fm(p.font());
    for (const auto& [name, at] : c.marks)
        p.drawText(QPointF(std::clamp(X(at) - fm.horizontalAdvance(name) / 2, a.left(),
                                      a.right() - fm.horizontalAdvance(name)),
                           a.bottom() + 16),
                   name);
    p.setPen(t.ink);
    const QString words = fm.elidedText(c.words, Qt::ElideRight, a.width() - 20);
    p.fillRect(QRectF(a.left() + 6, a.top() + 5, fm.horizontalAdvance(words) + 8, 17), t.field);
    p.drawText(QPointF(a.left() + 10, a.top() + 18), words);
}

} // namespace whorl::app
