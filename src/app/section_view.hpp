// The generating section in its own plane, to scale, dimensioned. A section of one's own is drawn here: its
// points are dragged, its pieces bowed, points put in and taken out, and typed. Gears are rolled by dragging.
#pragma once

#include "app/canvas.hpp"

namespace whorl::app {

class Comparison;

class SectionView final : public Canvas {
    Q_OBJECT
public:
    explicit SectionView(Session& session, QWidget* parent = nullptr) : Canvas(session, parent) {}

    // Where the points of a section of one's own (bow false) and the middles of its pieces (bow true) are
    // drawn.
    struct Handle {
        QPointF at;
        std::size_t point = 0;
        bool bow = false;
    };
    const std::vector<Handle>& handles() const { return handles_; }
    void set_comparison(const Comparison* comparison) { comparison_ = comparison; }

    // For the forms' tables.
    void draw_thread(QPainter& p, const ResolvedZone& zone);
    void draw_round(QPainter& p, const ResolvedZone& zone);
    void draw_cross_hole(QPainter& p, const ResolvedCrossHoles& holes, QPointF centre, double half,
                         double radius);
    void draw_teeth(QPainter& p, const ResolvedZone& zone); // see tooth_section.cpp
    void draw_spline(QPainter& p, const ResolvedZone& zone,
                     const ResolvedZone* other); // in its hub, if it has one
    void draw_bar_or_mesh(QPainter& p, const ResolvedZone& zone);
    void draw_lobe(QPainter& p, const ResolvedZone& zone); // see lobe_section.cpp
    void draw_drum(QPainter& p, const ResolvedZone& zone); // see drum_views.cpp

protected:
    void draw(QPainter& p) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    // From an outline's units of the pitch to the page.
    struct Frame {
        double centre_x = 0, top = 0, scale = 1, down = 1; // pixels; pixels per mm along and outwards
        double middle = 0, pitch = 1;                      // mm
        Side side = Side::external;
        double depth = 0; // mm from the outline's crest down to what is drawn at the top
    };

    void draw_gear(QPainter& p, const ResolvedGear& gear, double axis_x, double turned, bool ghost);
    static void fill_teeth(QPainter& p, const QPainterPath& metal, const QPolygonF& edge, bool ghost);
    void draw_circle(QPainter& p, double axis_x, double radius);
    void draw_rack(QPainter& p, const ResolvedGear& gear, double turned);
    // A rack piece; see rack_views.cpp. Its reference line stands at x = `line`, its teeth look to `side`,
    // and the middle of its middle tooth stands at y = `along`.
    void draw_bar(QPainter& p, const ResolvedRack& rack, double line, double side, double along, bool ghost);
    void draw_rack_alone(QPainter& p, const ResolvedRack& rack);
    void draw_ways(QPainter& p, const ShownMesh& mesh); // arrows: which way each goes
    void draw_mesh(QPainter& p, const ShownMesh& pair, double roll);
    void draw_alone(QPainter& p, const ResolvedGear& gear, double roll);
    double centre_text(QPainter& p, const GearMesh& mesh);
    void mesh_texts(QPainter& p, const GearMesh& mesh);
    void circle_texts(QPainter& p, const ResolvedGear& gear);
    void gear_texts(QPainter& p, const ResolvedGear& gear);
    void thickness_text(QPainter& p, const ResolvedGear& gear, double roll);
    QPointF on_teeth(double x, double y) const;
    QString frame_teeth(const ResolvedGear& g, double pitches, double depths);
    void spline_texts(QPainter& p, const ResolvedSpline& s);
    QRectF switch_word(QPainter& p, double right, const QString& text, bool on);
    void draw_follower(QPainter& p, const ResolvedCam& cam, const FollowerPlace& at);
    void draw_pressure(QPainter& p, const ResolvedCam& cam, const FollowerPlace& at);
    void lobe_asked(QPainter& p, const ResolvedCam& cam);
    void lobe_texts(QPainter& p, const ResolvedCam& cam, double theta);
    bool press_teeth(QMouseEvent* e);
    bool roll_teeth(QMouseEvent* e);
    void draw_handles(QPainter& p, const OwnSection& section);
    QPointF on_page(const OwnPoint& point) const;
    OwnPoint from_page(QPointF at) const;
    const OwnSection* own_section() const;
    const Handle* handle_at(QPointF at) const;
    QString set_section(const OwnSection& section);
    void take_out(std::size_t point);

    std::vector<Handle> handles_;
    Frame frame_;
    std::optional<Handle> held_;
    std::optional<std::size_t> selected_; // a point

    struct ToothFrame {
        QPointF centre;                   // of the page
        double x0 = 0, y0 = 0, scale = 1; // what is shown there, mm; pixels per mm
    };
    ToothFrame teeth_;
    const Comparison* comparison_ = nullptr;
    QRectF run_word_, rack_word_;
    bool rack_shown_ = false;
    std::optional<QPointF> rolled_from_; // while a gear is dragged
    double roll_before_ = 0;
};

} // namespace whorl::app
