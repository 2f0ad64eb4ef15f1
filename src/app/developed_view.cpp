#include "app/developed_view.hpp"

#include "quantity/expression.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <cmath>

namespace whorl::app {

QRectF DevelopedView::area() const {
    return QRectF(44, 34, std::max(60, width() - 44 - 22), std::max(40, height() - 34 - 28));
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
    const Theme& t = theme();
    p.fillRect(rect(), t.paper);
    handle_.reset();
    const ResolvedZone* z = session_.resolved_zone();
    if (!z) {
        draw_title(p, "Developed", "");
        draw_hint(p, "The surface unrolled: helices as straight lines, with a ring to drag the lead.");
        return;
    }
    const QRectF a = area();
    const double d = 2 * in_mm(z->outer_radius()), length = in_mm(z->length);
    const QString unit = symbol(session_.unit());
    draw_title(p, "Developed",
               QString("Ø %1 unrolled, %2 %3 around").arg(shown(d), shown(d * std::numbers::pi), unit));
    pixels_per_mm_ = a.height() / length;
    const auto Y = [&](double along) { return a.bottom() - along * pixels_per_mm_; };
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

    if (z->thread) {
        const ThreadSection& s = z->thread->section;
        const double lead = s.lead();
        const bool left_hand = s.hand == Hand::left;
        p.save();
        p.setClipRect(a);
        // lines closer than 3 px say nothing: then every n-th is drawn
        const double gap = s.pitch * pixels_per_mm_;
        const int every = gap >= 3 ? 1 : static_cast<int>(std::ceil(3 / gap));
        const int first = -s.starts - 1, last = static_cast<int>(std::ceil(length / s.pitch)) + 1;
        const int lit =
            std::clamp(static_cast<int>(length * 0.35 / s.pitch), 0, std::max(0, last - s.starts - 1));
        for (int i = first; i <= last; ++i) {
            const int start = ((i % s.starts) + s.starts) % s.starts;
            if (every > 1 && i != lit && i % every != 0) continue;
            const double low = (i + 0.5) * s.pitch; // groove middle at 0°
            QPointF from(a.left(), Y(low)), to(a.right(), Y(low + lead));
            if (left_hand) from = {a.left(), Y(low + lead)}, to = {a.right(), Y(low)};
            QColor c = t.part;
            if (s.starts > 1) c = start % 2 ? t.part.lighter(t.dark ? 80 : 145) : t.part;
            p.setPen(QPen(c, i == lit ? 2.6 : 1.1));
            p.drawLine(from, to);
        }
        p.restore();
        // chamfers and run-outs
        const auto end_line = [&](const ResolvedEnd& e, bool far) {
            double h = 0;
            QString what;
            if (e.kind == EndKind::chamfer) {
                h = std::abs(s.crest_radius - in_mm(e.diameter) / 2) / std::tan(in_rad(e.angle));
                what = QString("chamfer %1° to Ø %2")
                           .arg(number_text(in_deg(e.angle), 2).c_str(), shown(in_mm(e.diameter)));
            } else if (e.kind == EndKind::run_out) {
                h = s.lead() * e.turns;
                what = "run-out, " + turns_text(e.turns);
            }
            if (h <= 0) return;
            const double y = Y(far ? length - h : h);
            p.setPen(QPen(t.active, 1, Qt::DashLine));
            p.drawLine(QPointF(a.left(), y), QPointF(a.right(), y));
            p.setFont(text_font(11));
            const double w = m.horizontalAdvance(what) + 8;
            QRectF box(a.right() - w - 3, far ? y + 2 : y - 17, w, 15);
            p.fillRect(box, t.field);
            p.setPen(t.active);
            p.drawText(box, Qt::AlignCenter, what);
        };
        end_line(z->near_end, false);
        end_line(z->far_end, true);

        // the lit helix ends in a handle
        const double low = (lit + 0.5) * s.pitch;
        const double y_low = Y(low), y_high = std::max(a.top(), Y(low + lead));
        handle_base_ = y_low;
        handle_ = left_hand ? QPointF(a.left(), y_high) : QPointF(a.right(), y_high);
        // lead and its angle, typed or dragged
        p.setFont(text_font(11, Weight::medium));
        Spot lead_spot;
        lead_spot.key = "lead";
        lead_spot.field = Field::lead;
        lead_spot.initial = shown(lead);
        lead_spot.tip = "Lead: advance in one turn, starts × pitch. Click to type, or drag the ring.";
        const QString text =
            s.pitch_radius > 0 ? QString("lead %1, %2°")
                                     .arg(shown(lead), number_text(in_deg(z->thread->lead_angle), 2).c_str())
                               : QString("lead %1").arg(shown(lead));
        const double x_text = left_hand ? a.left() + a.width() * 0.30 : a.left() + a.width() * 0.70;
        dimension_text(p, {x_text, std::clamp((y_low + y_high) / 2 - 14, a.top() + 24, a.bottom() - 24)},
                       text, lead_spot);
        p.setBrush(t.field);
        p.setPen(QPen(dragging_ ? t.active : t.part, 2));
        p.drawEllipse(*handle_, 5, 5);
    } else {
        // a plain surface says its area and where it is chamfered
        const double R = in_mm(z->outer_radius());
        double area = 0, low = 0, high = length;
        for (const auto& [e, far] : {std::pair{&z->near_end, false}, std::pair{&z->far_end, true}}) {
            if (e->kind != EndKind::chamfer) continue;
            const double r = in_mm(e->diameter) / 2, h = std::abs(R - r) / std::tan(in_rad(e->angle));
            area += std::numbers::pi * (R + r) * std::hypot(h, R - r);
            (far ? high : low) = far ? length - h : h;
            const QRectF strip = far ? QRectF(QPointF(a.left(), a.top()), QPointF(a.right(), Y(length - h)))
                                     : QRectF(QPointF(a.left(), Y(h)), QPointF(a.right(), a.bottom()));
            QColor tint = t.part_fill;
            p.fillRect(strip, tint);
            p.setPen(QPen(t.active, 1, Qt::DashLine));
            p.drawLine(QPointF(a.left(), Y(far ? length - h : h)),
                       QPointF(a.right(), Y(far ? length - h : h)));
            p.setPen(t.active);
            const QString what =
                QString("chamfer %1° to Ø %2")
                    .arg(number_text(in_deg(e->angle), 2).c_str(), shown(in_mm(e->diameter)));
            p.drawText(
                QPointF(a.right() - m.horizontalAdvance(what) - 6, far ? Y(length - h) + 15 : Y(h) - 6),
                what);
        }
        area += 2 * std::numbers::pi * R * std::max(0.0, high - low);
        p.setPen(t.muted);
        const bool inches = session_.unit() == LengthUnit::inch;
        p.drawText(
            a, Qt::AlignCenter,
            QString("plain, %1 %2")
                .arg(number_text(inches ? area / 645.16 : area / 100, 3).c_str(), inches ? "in²" : "cm²"));
    }
    p.setPen(QPen(t.hairline, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(a);
}

void DevelopedView::mousePressEvent(QMouseEvent* e) {
    if (handle_ && e->button() == Qt::LeftButton && QLineF(*handle_, e->position()).length() < 10) {
        dragging_ = true;
        session_.begin_live();
        return;
    }
    Canvas::mousePressEvent(e);
}

void DevelopedView::mouseMoveEvent(QMouseEvent* e) {
    if (dragging_) {
        const ResolvedZone* z = session_.resolved_zone();
        if (!z || !z->thread) return;
        // to hundredths of a millimetre; Shift for thousandths
        const double grain = e->modifiers() & Qt::ShiftModifier ? 0.001 : 0.05;
        const double lead = (handle_base_ - e->position().y()) / pixels_per_mm_;
        const double pitch = std::max(grain, std::round(lead / z->thread->section.starts / grain) * grain);
        session_.edit(Field::pitch, QString::fromStdString(length_text(mm(pitch), session_.unit())));
        return;
    }
    Canvas::mouseMoveEvent(e);
    if (handle_ && QLineF(*handle_, e->position()).length() < 10) setCursor(Qt::SizeVerCursor);
}

void DevelopedView::mouseReleaseEvent(QMouseEvent*) {
    if (!dragging_) return;
    dragging_ = false;
    session_.end_live();
    update();
}

void DevelopedView::keyPressEvent(QKeyEvent* e) {
    if (dragging_ && e->key() == Qt::Key_Escape) {
        dragging_ = false;
        session_.cancel_live();
        update();
        return;
    }
    Canvas::keyPressEvent(e);
}

} // namespace whorl::app
