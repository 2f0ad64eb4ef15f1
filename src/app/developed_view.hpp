// The zone's surface unrolled: angle across, axis up. Helices are straight lines. On the lit one lead, hand,
// starts and start angle are dragged.
#pragma once

#include "app/canvas.hpp"
#include "form/cam/timing.hpp"

#include <QPainterPath>

namespace whorl::app {

class Comparison;

class DevelopedView final : public Canvas {
    Q_OBJECT
public:
    explicit DevelopedView(Session& session, QWidget* parent = nullptr) : Canvas(session, parent) {}

    // What can be dragged: the ring at the high end of the lit helix (up and down the lead, across the view
    // the hand), the figure beside it (from one pitch to the next: the starts), the square at the low end
    // (the start angle).
    enum class Grip { lead, starts, start_angle };
    std::optional<QPointF> grip(Grip which) const; // where it stands; none on a plain zone
    // The joints of a cam's timing and the points of its splines, dragged along and up, see joint_grips.cpp.
    struct Joint {
        QPointF at;
        PlacedJoint place;
    };
    const std::vector<Joint>& joints() const { return joints_; }
    // `place` gives where an angle (rad) and a lift (mm) stand, px; the others how far a drag goes there.
    void draw_joints(QPainter& p, const std::function<QPointF(double, double)>& place, double per_rad,
                     double per_mm);
    void set_comparison(const Comparison* comparison) { comparison_ = comparison; }

    // For the forms' tables. Axes for `length` millimetres along, then what is drawn in them.
    void draw_axes(QPainter& p, double length);
    QRectF area() const;
    double y_of(double along) const;
    void draw_unrolled(QPainter& p, const ResolvedZone& zone);
    void draw_teeth(QPainter& p, const ResolvedZone& zone);
    void draw_bar_or_mesh(QPainter& p, const ResolvedZone& zone);
    void draw_motion(QPainter& p, const ResolvedZone& zone); // of a cam; see motion_chart.cpp
    void draw_track(QPainter& p, const ResolvedZone& zone);  // of a drum cam; see drum_views.cpp

protected:
    void draw(QPainter& p) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;

private:
    // The helix that is lit: its low and high end on the axis (mm from the zone's near end). Helix i lies
    // half a pitch above i pitches at 0° and no start angle.
    struct LitHelix {
        int index = 0;
        double low = 0, high = 0;
    };
    LitHelix lit_helix(const ResolvedZone& zone) const;
    QPainterPath milled_band(const ResolvedZone& zone, double low) const;
    double along_at(double y) const;
    void draw_helices(QPainter& p, const ResolvedZone& zone);
    void draw_ends(QPainter& p, const ResolvedZone& zone);
    void draw_grips(QPainter& p, const ResolvedZone& zone);
    void draw_mouths(QPainter& p, const ResolvedZone& zone, const ResolvedCrossHoles& holes);
    void draw_plain(QPainter& p, const ResolvedZone& zone);
    void draw_steep(QPainter& p, const ResolvedDrum& drum, const std::function<double(double)>& x);
    void draw_crossing(QPainter& p, const ResolvedDrum& drum, const std::function<double(double)>& x);
    void draw_tooth_traces(QPainter& p, const ResolvedZone& zone); // see gear_chart.cpp
    bool draw_chart(QPainter& p, const ResolvedZone& zone);
    void draw_mesh_chart(QPainter& p);
    struct Deviation {
        double at = 0, off = 0; // radius, or height over a rack's reference line; mm
        bool other_flank = false;
    };
    struct Deviations {
        double low = 0, high = 0; // of the teeth
        std::vector<std::pair<QString, double>> marks;
        std::vector<Deviation> points;
        Deviation worst;
        QString words;
    };
    void draw_comparison(QPainter& p, const ResolvedZone& zone);
    void draw_deviations(QPainter& p, const Deviations& deviations);
    void draw_face(QPainter& p, const ResolvedRack& rack); // of a rack, seen from above; see rack_views.cpp
    const Comparison* comparison_ = nullptr;
    std::optional<Grip> grip_at(QPointF at) const;
    void drag_to(QPointF at, bool fine);

    const Joint* joint_at(QPointF at) const;
    bool begin_joint(QMouseEvent* e);
    void drag_joint(QPointF at, bool fine);

    double length_ = 1; // of the zone, mm
    std::optional<QPointF> grips_[3];
    std::optional<Grip> dragged_;
    struct DraggedJoint {
        Joint from;
        Timing timing;
        std::string text; // as they were
        QPointF begin;
        double per_rad = 1, per_mm = 1;
    };
    std::vector<Joint> joints_;
    std::optional<DraggedJoint> dragged_joint_;
    double per_rad_ = 1, per_mm_ = 1;
    int dragged_index_ = 0; // of the lit helix, while the lead or the starts are dragged
};

} // namespace whorl::app
