// The zone's surface unrolled: angle across, axis up. Helices are straight lines; the lead is dragged here.
#pragma once

#include "app/canvas.hpp"

namespace whorl::app {

class DevelopedView final : public Canvas {
    Q_OBJECT
public:
    explicit DevelopedView(Session& session, QWidget* parent = nullptr) : Canvas(session, parent) {}

    // Where the ring stands that is dragged to change the lead; none on a plain zone.
    std::optional<QPointF> lead_handle() const { return handle_; }

protected:
    void draw(QPainter& p) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;

private:
    QRectF area() const;
    std::optional<QPointF> handle_; // end of the lit helix, dragged to change the lead
    double handle_base_ = 0;        // axial position where that helix starts, px
    bool dragging_ = false;
    double pixels_per_mm_ = 1;
};

} // namespace whorl::app
