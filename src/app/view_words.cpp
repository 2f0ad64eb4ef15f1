#include "app/view_words.hpp"

#include "app/theme.hpp"
#include "quantity/expression.hpp"

#include <cmath>

namespace whorl::app {

void draw_look_words(QPainter& p, double width, const Camera& camera, std::array<QRectF, 3>& words) {
    const Theme& t = theme();
    double x = width - 14;
    const char* texts[]{"side", "end", "oblique"};
    for (std::size_t i = 3; i-- > 0;) {
        const bool at = camera.looks() == static_cast<Look>(i);
        p.setFont(text_font(11, at ? Weight::medium : Weight::regular));
        const double w = QFontMetricsF(p.font()).horizontalAdvance(texts[i]);
        x -= w;
        p.setPen(at ? t.active : t.muted);
        p.drawText(QPointF(x, 20), texts[i]);
        words[i] = QRectF(x - 5, 6, w + 10, 20);
        x -= 18;
    }
}

void draw_scale(QPainter& p, QSizeF view, double pixel, LengthUnit unit) {
    const double unit_mm = unit == LengthUnit::inch ? 25.4 : 1;
    const double pixels_per_unit = unit_mm / pixel;
    const double decade = std::pow(10, std::floor(std::log10(110 / pixels_per_unit)));
    double length = decade;
    for (const double k : {2.0, 5.0})
        if (k * decade * pixels_per_unit <= 110) length = k * decade;
    const double w = length * pixels_per_unit, y = view.height() - 26, x1 = view.width() - 18;
    p.setPen(QPen(theme().muted, 1));
    p.drawLine(QPointF(x1 - w, y), QPointF(x1, y));
    p.drawLine(QPointF(x1 - w, y - 3), QPointF(x1 - w, y + 3));
    p.drawLine(QPointF(x1, y - 3), QPointF(x1, y + 3));
    p.setFont(text_font(11));
    const QString text = QString::fromStdString(number_text(length, 4)) + " " + symbol(unit);
    p.drawText(QPointF(x1 - w / 2 - QFontMetricsF(p.font()).horizontalAdvance(text) / 2, y - 6), text);
}

} // namespace whorl::app
