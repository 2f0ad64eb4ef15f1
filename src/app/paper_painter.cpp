#include "app/paper_painter.hpp"

#include "app/theme.hpp"
#include "drawing/letters.hpp"

#include <QPainterPath>
#include <cmath>
#include <numbers>

namespace whorl::app {

using namespace drawing;

QTransform sheet_to_page(const Paper& paper, QPointF upper_left, double k) {
    return {k, 0, 0, -k, upper_left.x(), upper_left.y() + paper.height * k};
}

namespace {

QPointF point(At p) {
    return {p.x, p.y};
}

QPainterPath path_of(const Stroke& s) {
    QPainterPath path;
    if (s.is_arc()) {
        const double degree = 180 / std::numbers::pi;
        const QRectF box(s.centre.x - s.radius, s.centre.y - s.radius, 2 * s.radius, 2 * s.radius);
        // Qt counts against y down
        path.arcMoveTo(box, -s.from * degree);
        path.arcTo(box, -s.from * degree, -(s.to - s.from) * degree);
        return path;
    }
    path.moveTo(point(s.points[0]));
    const auto at = [&](std::size_t i) { return point(s.points[i]); };
    if (!s.smooth || s.points.size() < 3) {
        for (std::size_t i = 1; i < s.points.size(); ++i)
            path.lineTo(at(i));
    } else {
        const std::vector<At> c = curve_through(s.points);
        for (std::size_t i = 1; i + 2 < c.size(); i += 3)
            path.cubicTo(point(c[i]), point(c[i + 1]), point(c[i + 2]));
    }
    if (s.closed) path.closeSubpath();
    return path;
}

// Figures are all as wide as a zero, as the other writers have them.
template<class Each>
double each_run(const QFontMetricsF& m, const QString& words, const Each& each) {
    const double cell = m.horizontalAdvance('0');
    double x = 0;
    for (qsizetype i = 0; i < words.size();) {
        if (words[i].isDigit()) {
            each(x + (cell - m.horizontalAdvance(words[i])) / 2, QString(words[i]));
            x += cell;
            ++i;
            continue;
        }
        qsizetype end = i;
        while (end < words.size() && !words[end].isDigit())
            ++end;
        const QString run = words.mid(i, end - i);
        each(x, run);
        x += m.horizontalAdvance(run);
        i = end;
    }
    return x;
}

double words_width(const QFontMetricsF& m, const QString& words) {
    return each_run(m, words, [](double, const QString&) {});
}

void draw_words(QPainter& p, const QFontMetricsF& m, double left, const QString& words) {
    each_run(m, words, [&](double x, const QString& run) { p.drawText(QPointF(left + x, 0), run); });
}

} // namespace

void paint_sheet(QPainter& p, const Paper& paper, const QTransform& to_page, double least, const QString& lit,
                 const QColor& colour) {
    const double k = to_page.m11();
    const QColor ink = Qt::black;
    p.setBrush(Qt::NoBrush);
    for (const Stroke& s : paper.strokes) {
        const LineStyle& style = style_of(s.kind);
        const double width = std::max(least, style.width * k);
        QPen pen(ink, width, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
        if (!style.dashes.empty()) {
            QList<qreal> pattern;
            for (const double d : style.dashes)
                pattern << std::max(0.01, d * k / width);
            pen.setDashPattern(pattern);
            pen.setCapStyle(Qt::FlatCap);
        }
        p.setPen(pen);
        p.drawPath(to_page.map(path_of(s)));
    }
    p.setPen(Qt::NoPen);
    p.setBrush(ink);
    for (const Fill& f : paper.fills) {
        QPolygonF polygon;
        for (const At& q : f.points)
            polygon << to_page.map(point(q));
        p.drawPolygon(polygon);
    }
    constexpr double size = 100; // laid out large, so that letters keep their places at every zoom
    const QFont font = text_font(static_cast<int>(size));
    const QFontMetricsF metrics(font);
    for (const Text& t : paper.texts) {
        if (t.words.empty()) continue;
        const QString words = QString::fromStdString(t.words);
        const double scale = t.height / capital_height * k / size;
        p.save();
        p.translate(to_page.map(point(t.at)));
        p.rotate(-t.angle * 180 / std::numbers::pi);
        p.scale(scale, scale);
        p.setFont(font);
        p.setPen(t.link && !lit.isEmpty() && QString::fromStdString(t.link->key) == lit ? colour : ink);
        const double width = words_width(metrics, words);
        draw_words(p, metrics,
                   t.anchor == Anchor::left     ? 0
                   : t.anchor == Anchor::middle ? -width / 2
                                                : -width,
                   words);
        p.restore();
    }
}

} // namespace whorl::app
