// Half silhouette along the centreline: zones as blocks to select, stretch, split, add and reorder.
#pragma once

#include "app/canvas.hpp"

namespace whorl::app {

class ZoneStrip final : public Canvas {
    Q_OBJECT
public:
    explicit ZoneStrip(Session& session, QWidget* parent = nullptr);

    // Where a zone's far end is taken hold of to stretch it.
    std::optional<QPointF> stretch_handle(std::size_t zone) const;

    // A plain bore further in from that end, to be changed from there.
    void add_zone(); // a plain one at the far end
    void add_bore(Where where);

protected:
    void draw(QPainter& p) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void contextMenuEvent(QContextMenuEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;

private:
    // One zone above the axis, where it is cut out, what is written, what is taken hold of.
    void draw_metal(QPainter& p, const ResolvedZone& z, const QRectF& block, bool selected);
    void draw_bore(QPainter& p, const ResolvedZone& z, bool selected);
    void draw_names(QPainter& p, const ResolvedPiece& piece);
    void draw_handles(QPainter& p);
    void draw_plus(QPainter& p);

    struct Scale {
        double k = 1, x0 = 0, axis = 0; // pixels per millimetre, where the piece begins, where its axis lies
        double x(double z) const { return x0 + z * k; }
    };
    struct Block {
        QRectF rect;
        std::size_t zone;
        bool bore;
    };
    std::optional<std::size_t> stretch_at(QPointF at) const;
    std::optional<std::size_t> block_at(QPointF at) const;
    std::vector<Block> blocks_;
    QRectF plus_;
    Scale scale_;
    std::optional<std::size_t> stretching_;
    double stretch_left_ = 0; // where the first block stood when a drag began; the scale stays too
    double grab_x_ = 0, grab_length_ = 0, pixels_per_mm_ = 1;
};

} // namespace whorl::app
