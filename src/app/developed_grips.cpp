// What is dragged in the developed view, all on the lit helix: lead and hand at its high end, the starts
// beside it, the start angle at its low end.
#include "app/developed_view.hpp"

#include "quantity/expression.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <cmath>

namespace whorl::app {
namespace {

constexpr double chip_inset = 17; // px from the edge to the figure of the starts
constexpr int most_starts = 8;    // that are dragged; more are typed

} // namespace

std::optional<QPointF> DevelopedView::grip(Grip which) const {
    return grips_[static_cast<int>(which)];
}

void DevelopedView::draw_grips(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const QRectF a = area();
    const ThreadSection& s = *zone.swept();
    const bool left_hand = s.hand == Hand::left;
    const LitHelix lit = lit_helix(zone);
    const double y_low = std::clamp(y_of(lit.low), a.top(), a.bottom()),
                 y_high = std::clamp(y_of(lit.high), a.top(), a.bottom());
    const double high_side = left_hand ? a.left() : a.right(), low_side = left_hand ? a.right() : a.left(),
                 inwards = left_hand ? 1 : -1;
    const QPointF ring(high_side, y_high), square(low_side, y_low),
        chip(high_side + inwards * chip_inset, y_high);
    const auto ink = [&](Grip g) { return dragged_ == g ? t.active : t.part; };

    // one mark for each number of starts there could be at this pitch
    if (const double gap = s.pitch / length_ * a.height(); gap >= 5 || dragged_ == Grip::starts) {
        p.setPen(QPen(t.muted, 1));
        for (int n = 1; n <= most_starts; ++n)
            if (const double y = y_of(lit.low + n * s.pitch); y > a.top() + 20 && n != s.starts)
                p.drawLine(QPointF(high_side + inwards * 5, y), QPointF(high_side + inwards * 12, y));
    }

    // lead and its angle, the start angle: typed or dragged
    p.setFont(text_font(11, Weight::medium));
    Spot lead;
    lead.key = "lead";
    lead.field = field::lead;
    lead.initial = shown(s.lead());
    lead.tip =
        "Lead: advance in one turn, starts × pitch. Click to type, or drag the ring; dragged across to "
        "the other side it changes the hand.";
    QString text = "lead " + shown(s.lead());
    if (s.starts > 1) text += QString(", %1 starts").arg(s.starts);
    if (s.pitch_radius > 0)
        text += QString(", %1°").arg(
            number_text(in_deg(zone.groove() ? rad(zone.groove()->lead_angle) : zone.thread()->lead_angle), 2)
                .c_str());
    // above the helix for its whole width
    const double slant = std::abs(y_of(lit.low) - y_of(lit.high)) / a.width(), above = 0.7;
    const double y_text = y_low + (y_high - y_low) * above - 12 - slant * number_width(p.font(), text) / 2;
    dimension_text(p,
                   {a.left() + a.width() * (left_hand ? 1 - above : above),
                    std::clamp(y_text, a.top() + 24, a.bottom() - 24)},
                   text, lead);
    Spot turned;
    turned.key = "start_angle";
    turned.field = field::start_angle;
    turned.initial = QString::fromStdString(number_text(in_deg(rad(s.start_angle)), 2));
    turned.tip = "Start angle: turns the thread about the axis. Click to type, or drag the square.";
    dimension_text(p, {low_side - inwards * 42, std::clamp(y_low + 13, a.top() + 12, a.bottom() - 24)},
                   "start " + turned.initial + "°", turned);

    p.setBrush(t.field);
    p.setPen(QPen(ink(Grip::lead), 2));
    p.drawEllipse(ring, 5, 5);
    p.setPen(QPen(ink(Grip::start_angle), 2));
    p.drawRect(QRectF(square.x() - 4, square.y() - 4, 8, 8));
    const QRectF box(chip.x() - 7, chip.y() - 7.5, 14, 15);
    p.setPen(QPen(ink(Grip::starts), 1));
    p.drawRoundedRect(box, 3, 3);
    p.setPen(dragged_ == Grip::starts ? t.active : t.ink);
    p.drawText(box, Qt::AlignCenter, QString::number(s.starts));
    grips_[static_cast<int>(Grip::lead)] = ring;
    grips_[static_cast<int>(Grip::start_angle)] = square;
    grips_[static_cast<int>(Grip::starts)] = chip;
}

std::optional<DevelopedView::Grip> DevelopedView::grip_at(QPointF at) const {
    std::optional<Grip> nearest;
    double least = 10; // px
    for (const Grip g : {Grip::lead, Grip::starts, Grip::start_angle})
        if (const auto where = grip(g))
            if (const double d = QLineF(*where, at).length(); d < least) nearest = g, least = d;
    return nearest;
}

// The helix under the hand keeps its number i, so what follows from its end's place is exact:
//   low = (i + 1/2)·P − h·L·φ,   high = low + L,   with L = n·P, φ in turns and h = −1 for left-hand.
void DevelopedView::drag_to(QPointF at, bool fine) {
    const ResolvedZone* z = session_.resolved_zone();
    if (!z || !z->swept()) return;
    const QRectF a = area();
    const ThreadSection& s = *z->swept();
    const double hand = s.hand == Hand::left ? -1 : 1, turns = s.start_angle / (2 * std::numbers::pi),
                 along = along_at(std::clamp(at.y(), a.top() - 200, a.bottom()));
    const auto rounded = [](double v, double grain) { return std::round(v / grain) * grain; };
    switch (*dragged_) {
    case Grip::lead: {
        if ((at.x() < a.center().x()) != (s.hand == Hand::left)) {
            (void)session_.edit(field::hand, s.hand == Hand::left ? "right" : "left");
            return;
        }
        const double pitches = dragged_index_ + 0.5 + s.starts * (1 - hand * turns),
                     grain = fine ? 0.001 : 0.05; // mm
        if (pitches <= 0) return;
        const double pitch = std::max(grain, rounded(along / pitches, grain));
        (void)session_.edit(field::pitch, QString::fromStdString(length_text(mm(pitch), session_.unit())));
        return;
    }
    case Grip::starts: {
        const double low = (dragged_index_ + 0.5) * s.pitch - hand * s.lead() * turns;
        const int n = std::clamp(static_cast<int>(std::round((along - low) / s.pitch)), 1,
                                 std::max(most_starts, s.starts));
        (void)session_.edit(field::starts, QString::number(n));
        return;
    }
    case Grip::start_angle: {
        const double angle =
            rounded(hand * ((dragged_index_ + 0.5) * s.pitch - along) / s.lead() * 360, fine ? 0.1 : 1);
        const double within = std::remainder(angle, 360);
        // the same helix has another number once the angle has gone all the way round
        dragged_index_ -= static_cast<int>(std::round(hand * (angle - within) / 360)) * s.starts;
        (void)session_.edit(field::start_angle, QString::fromStdString(number_text(within, 1)));
        return;
    }
    }
}

void DevelopedView::mousePressEvent(QMouseEvent* e) {
    const ResolvedZone* z = session_.resolved_zone();
    if (const auto g = grip_at(e->position()); g && z && z->swept() && e->button() == Qt::LeftButton) {
        dragged_index_ = lit_helix(*z).index;
        dragged_ = g;
        session_.begin_live();
        return;
    }
    if (begin_joint(e)) return;
    Canvas::mousePressEvent(e);
}

void DevelopedView::mouseMoveEvent(QMouseEvent* e) {
    if (dragged_joint_) return drag_joint(e->position(), e->modifiers() & Qt::ShiftModifier);
    if (dragged_) return drag_to(e->position(), e->modifiers() & Qt::ShiftModifier);
    Canvas::mouseMoveEvent(e);
    if (grip_at(e->position())) setCursor(Qt::SizeVerCursor);
    if (joint_at(e->position())) setCursor(Qt::SizeAllCursor);
}

void DevelopedView::mouseReleaseEvent(QMouseEvent* e) {
    if (!dragged_ && !dragged_joint_) return Canvas::mouseReleaseEvent(e);
    dragged_.reset();
    dragged_joint_.reset();
    session_.end_live();
    update();
}

void DevelopedView::keyPressEvent(QKeyEvent* e) {
    if ((dragged_ || dragged_joint_) && e->key() == Qt::Key_Escape) {
        dragged_.reset();
        dragged_joint_.reset();
        session_.cancel_live();
        update();
        return;
    }
    Canvas::keyPressEvent(e);
}

} // namespace whorl::app
