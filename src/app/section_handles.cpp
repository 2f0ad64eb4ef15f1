// Drawing a section of one's own: the points and pieces of its outline as handles in the section view.
#include "app/section_view.hpp"

#include "quantity/expression.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <cmath>

namespace whorl::app {

namespace {

constexpr double grip = 8;           // px around a handle that count as on it
constexpr double snap = 4;           // px within which a point takes its neighbour's position
constexpr double finest_step = 1e-3; // of the pitch

QPointF middle_of_piece(const OwnPoint& a, const OwnPoint& b) {
    const double chord = std::atan2(b.h - a.h, b.z - a.z);
    return {(a.z + b.z) / 2 - std::sin(chord) * a.bow, (a.h + b.h) / 2 + std::cos(chord) * a.bow};
}

} // namespace

const OwnSection* SectionView::own_section() const {
    const ResolvedZone* z = session_.resolved_zone();
    if (!z || !z->thread() || z->thread()->spec.family != ThreadFamily::own) return nullptr;
    return &z->thread()->spec.own_section;
}

QPointF SectionView::on_page(const OwnPoint& q) const {
    return {frame_.centre_x + (q.z * frame_.pitch - frame_.middle) * frame_.scale,
            frame_.top + (-q.h * frame_.pitch - frame_.depth) * frame_.down};
}

OwnPoint SectionView::from_page(QPointF at) const {
    return {((at.x() - frame_.centre_x) / frame_.scale + frame_.middle) / frame_.pitch,
            -((at.y() - frame_.top) / frame_.down + frame_.depth) / frame_.pitch, 0};
}

const SectionView::Handle* SectionView::handle_at(QPointF at) const {
    const Handle* best = nullptr;
    double nearest = grip;
    for (const Handle& h : handles_) {
        // points before bows where both are in reach
        const double d = std::hypot(h.at.x() - at.x(), h.at.y() - at.y()) + (h.bow ? 2 : 0);
        if (d < nearest) nearest = d, best = &h;
    }
    return best;
}

QString SectionView::set_section(const OwnSection& section) {
    const std::size_t p = session_.piece(), z = session_.zone();
    return session_.change([&](const Job& j) { return set_own_section(j, p, z, section); });
}

void SectionView::draw_handles(QPainter& p, const OwnSection& section) {
    const Theme& t = theme();
    const auto& points = section.points;
    if (selected_ && *selected_ >= points.size()) selected_.reset();
    handles_.clear();
    for (std::size_t i = 0; i + 1 < points.size(); ++i) {
        const QPointF m = middle_of_piece(points[i], points[i + 1]);
        handles_.push_back({on_page({m.x(), m.y(), 0}), i, true});
    }
    for (std::size_t i = 0; i < points.size(); ++i)
        handles_.push_back({on_page(points[i]), i, false});
    for (const Handle& h : handles_) {
        const bool chosen = !h.bow && selected_ == h.point;
        p.setPen(QPen(chosen ? t.active : t.part, 1.5));
        p.setBrush(chosen ? t.active : t.paper);
        if (h.bow)
            p.drawEllipse(h.at, 3.0, 3.0);
        else
            p.drawRect(QRectF(h.at.x() - 4, h.at.y() - 4, 8, 8));
    }
    p.setBrush(Qt::NoBrush);

    // the chosen point's numbers, or what can be done
    p.setFont(text_font(11));
    const double y = height() - 18;
    if (!selected_) {
        p.setPen(t.muted);
        const QString hint = "Drag a point, or a ring to bow its piece. Double-click a ring for a new point.";
        p.drawText(QPointF(18, y + 4),
                   QFontMetricsF(p.font()).elidedText(hint, Qt::ElideRight, width() - 30));
        return;
    }
    const std::size_t i = *selected_;
    double x = 18;
    const auto text = [&](const QString& s) {
        p.setPen(t.muted);
        p.drawText(QPointF(x, y + 4), s);
        x += QFontMetricsF(p.font()).horizontalAdvance(s) + 6;
    };
    const auto number = [&](const char* key, double units, double OwnPoint::*part, double sign,
                            const QString& tip) {
        Spot s;
        s.key = key;
        s.initial = shown(units * frame_.pitch);
        s.tip = tip;
        s.commit = [this, i, part, sign](const QString& typed) -> QString {
            const OwnSection* now = own_section();
            if (!now || i >= now->points.size()) return {};
            try {
                OwnSection next = *now;
                const Length v =
                    evaluate_length(typed.toStdString(), session_.unit(), resolve_names(session_.job()));
                next.points[i].*part = sign * in_mm(v) / frame_.pitch;
                return set_section(next);
            } catch (const InputError& e) {
                return QString::fromStdString(e.what());
            }
        };
        const double w = number_width(p.font(), s.initial) + 8;
        dimension_text(p, {x + w / 2, y}, s.initial, s);
        x += w + 10;
    };
    const bool at_crest = i == 0 || i + 1 == points.size();
    text(QString("Point %1").arg(i + 1));
    text("along");
    number("own_z", points[i].z, &OwnPoint::z, 1, "Along the axis from the outline's origin");
    if (!at_crest) {
        text("below the crest");
        number("own_h", -points[i].h, &OwnPoint::h, -1, "Radial distance from the screw's crest");
    }
    if (i + 1 < points.size()) {
        text("bow");
        number("own_bow", points[i].bow, &OwnPoint::bow, 1,
               "Height of the arc to the next point over its chord, outwards; 0 is straight");
    }
}

void SectionView::take_out(std::size_t point) {
    const OwnSection* now = own_section();
    if (!now) return;
    if (set_section(without_point(*now, point)).isEmpty()) selected_.reset();
}

void SectionView::mousePressEvent(QMouseEvent* e) {
    const bool own = own_section() != nullptr;
    if (!own) {
        handles_.clear();
        selected_.reset();
    }
    const Handle* h = own && e->button() == Qt::LeftButton && !editing() ? handle_at(e->position()) : nullptr;
    if (h) {
        held_ = *h;
        selected_ = h->bow ? selected_ : std::optional(h->point);
        setFocus();
        session_.begin_live();
        update();
        return;
    }
    if (!editing() && press_teeth(e)) return;
    Canvas::mousePressEvent(e);
    if (own && !editing()) {
        selected_.reset();
        update();
    }
}

void SectionView::mouseMoveEvent(QMouseEvent* e) {
    if (roll_teeth(e)) return;
    if (!held_) {
        Canvas::mouseMoveEvent(e);
        if (own_section() && !handles_.empty())
            if (const Handle* h = handle_at(e->position()))
                setCursor(h->bow ? Qt::SizeVerCursor : Qt::SizeAllCursor);
        return;
    }
    const OwnSection* now = own_section();
    if (!now || held_->point >= now->points.size()) return;
    OwnSection next = *now;
    OwnPoint to = from_page(e->position());
    const std::size_t i = held_->point;
    const auto rounded = [](double v) { return std::round(v / finest_step) * finest_step; };
    if (held_->bow) {
        const OwnPoint &a = now->points[i], &b = now->points[i + 1];
        const double chord = std::atan2(b.h - a.h, b.z - a.z);
        const double bow =
            -std::sin(chord) * (to.z - (a.z + b.z) / 2) + std::cos(chord) * (to.h - (a.h + b.h) / 2);
        next.points[i].bow = std::abs(bow) * frame_.pitch * frame_.scale < snap ? 0 : rounded(bow);
    } else {
        const bool at_crest = i == 0 || i + 1 == now->points.size();
        to.z = rounded(to.z);
        to.h = at_crest ? 0 : rounded(to.h);
        // upright over a neighbour, level with one
        const double reach = snap / (frame_.pitch * frame_.scale);
        for (const std::size_t j : {i - 1, i + 1})
            if (j < now->points.size()) {
                if (std::abs(to.z - now->points[j].z) < reach) to.z = now->points[j].z;
                if (!at_crest && std::abs(to.h - now->points[j].h) < reach) to.h = now->points[j].h;
            }
        next.points[i].z = to.z;
        next.points[i].h = to.h;
    }
    (void)set_section(next); // where it can't go, the last good place stays
    update();
}

void SectionView::mouseReleaseEvent(QMouseEvent* e) {
    rolled_from_.reset();
    if (!held_) return Canvas::mouseReleaseEvent(e);
    held_.reset();
    session_.end_live();
    update();
}

void SectionView::mouseDoubleClickEvent(QMouseEvent* e) {
    const OwnSection* now = own_section();
    const Handle* h = now ? handle_at(e->position()) : nullptr;
    if (!h || !h->bow) return Canvas::mouseDoubleClickEvent(e);
    held_.reset();
    session_.end_live();
    const std::size_t i = h->point;
    if (set_section(with_point_after(*now, i)).isEmpty()) selected_ = i + 1;
    update();
}

void SectionView::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape && held_) {
        held_.reset();
        session_.cancel_live();
        return;
    }
    if (const OwnSection* now = own_section(); now && selected_ && !editing()) {
        const std::size_t i = *selected_;
        if (e->key() == Qt::Key_Delete || e->key() == Qt::Key_Backspace) return take_out(i);
        if (e->key() == Qt::Key_Escape) {
            selected_.reset();
            update();
            return;
        }
        // arrows move the point by a hundredth of the pitch
        const double step = 0.01, outwards = frame_.side == Side::internal ? -1 : 1;
        OwnSection next = *now;
        OwnPoint& q = next.points[i];
        const bool at_crest = i == 0 || i + 1 == next.points.size();
        switch (e->key()) {
        case Qt::Key_Left:
            q.z -= step;
            break;
        case Qt::Key_Right:
            q.z += step;
            break;
        case Qt::Key_Up:
            q.h += at_crest ? 0 : step * outwards;
            break;
        case Qt::Key_Down:
            q.h -= at_crest ? 0 : step * outwards;
            break;
        default:
            return Canvas::keyPressEvent(e);
        }
        (void)set_section(next);
        return;
    }
    Canvas::keyPressEvent(e);
}

} // namespace whorl::app
