// The generating section in its own plane, to scale, dimensioned.
#pragma once

#include "app/canvas.hpp"

namespace whorl::app {

class SectionView final : public Canvas {
    Q_OBJECT
public:
    explicit SectionView(Session& session, QWidget* parent = nullptr) : Canvas(session, parent) {}

protected:
    void draw(QPainter& p) override;

private:
    void draw_thread(QPainter& p, const ResolvedZone& zone);
    void draw_round(QPainter& p, const ResolvedZone& zone);
};

} // namespace whorl::app
