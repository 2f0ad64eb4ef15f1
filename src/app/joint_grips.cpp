// What is dragged of a cam's timing: the joints between its stretches and the points of its splines, on the
// curve of the lift or on the unrolled track. Across goes the angle, upwards the lift.
#include "app/developed_view.hpp"

#include "app/forms/stretch_input.hpp"
#include "model/forms/cam_rows.hpp"

#include <QMouseEvent>
#include <cmath>
#include <numbers>

namespace whorl::app {

namespace {
constexpr double degree = std::numbers::pi / 180;
}

void DevelopedView::draw_joints(QPainter& p, const std::function<QPointF(double, double)>& place,
                                double per_rad, double per_mm) {
    per_rad_ = per_rad;
    per_mm_ = per_mm;
    const ResolvedZone* z = session_.resolved_zone();
    const Timing* timing = z ? z->timing() : nullptr;
    if (!timing || session_.text_of(field::timing).isEmpty())
        return; // a second lobe has its timing from the first
    const Theme& t = theme();
    for (const PlacedJoint& j : joints_of(*timing)) {
        const QPointF at = place(j.angle, j.lift);
        joints_.push_back({at, j});
        const bool held = dragged_joint_ && dragged_joint_->from.place.stretch == j.stretch &&
                          dragged_joint_->from.place.point == j.point;
        p.setPen(QPen(held ? t.active : t.part, 1.6));
        p.setBrush(t.field);
        if (j.point)
            p.drawEllipse(at, 3.5, 3.5);
        else
            p.drawRect(QRectF(at.x() - 3.5, at.y() - 3.5, 7, 7));
    }
}

const DevelopedView::Joint* DevelopedView::joint_at(QPointF at) const {
    const Joint* nearest = nullptr;
    double least = 9; // px
    for (const Joint& j : joints_)
        if (const double d = QLineF(j.at, at).length(); d < least) nearest = &j, least = d;
    return nearest;
}

bool DevelopedView::begin_joint(QMouseEvent* e) {
    const Joint* j = joint_at(e->position());
    const ResolvedZone* z = session_.resolved_zone();
    const Timing* timing = z ? z->timing() : nullptr;
    if (!j || !timing || e->button() != Qt::LeftButton) return false;
    dragged_joint_ = {*j,       *timing, session_.text_of(field::timing).toStdString(), e->position(),
                      per_rad_, per_mm_};
    session_.begin_live();
    return true;
}

void DevelopedView::drag_joint(QPointF at, bool fine) {
    const DraggedJoint& d = *dragged_joint_;
    const double angle_grain = (fine ? 0.1 : 1) * degree,
                 lift_grain = in_mm(of_unit(session_.unit() == LengthUnit::inch ? (fine ? 0.0005 : 0.005)
                                                                                : (fine ? 0.01 : 0.1),
                                            session_.unit()));
    const auto moved = [](double from, double by, double grain) {
        // a joint that is only moved the other way stays as exact as it was
        return std::abs(by) < grain / 2 ? from : std::round((from + by) / grain) * grain;
    };
    const double angle = moved(d.from.place.angle, (at.x() - d.begin.x()) / d.per_rad, angle_grain),
                 lift = moved(d.from.place.lift, (d.begin.y() - at.y()) / d.per_mm, lift_grain);
    const Timing now = with_joint(d.timing, d.from.place, angle, lift);
    const std::string text = with_changes(d.text, d.timing, now, session_.unit());
    (void)session_.edit(field::timing, QString::fromStdString(text));
}

} // namespace whorl::app
