#include "app/point_knobs.hpp"

#include "quantity/expression.hpp"

#include <cmath>

namespace whorl::app {

double drag_grain(LengthUnit unit, bool fine) {
    return unit == LengthUnit::inch ? (fine ? 0.0127 : 0.127) : (fine ? 0.01 : 0.1);
}

double in_steps(double v, double step) {
    return std::round(v / step) * step;
}

QString dragged_number(double v, LengthUnit unit) {
    return QString::fromStdString(number_text(in_unit(mm(v), unit), unit == LengthUnit::inch ? 4 : 2));
}

namespace {

QPointF stepped(QPointF v, double step) {
    return {in_steps(v.x(), step), in_steps(v.y(), step)};
}
QString third_of(const QString& word) {
    const QStringList parts = word.split(':');
    return parts.size() > 2 ? ":" + parts[2] : QString();
}

// The chosen point's numbers to type, from the left at a height of the drawing.
void draw_numbers(SectionView& view, QPainter& p, const CurvePoints& c, const QStringList& words, int at) {
    Session& session = view.session();
    const double y = view.height() - 16.0;
    double x = 18;
    const auto text = [&](const QString& words_) {
        p.setPen(theme().muted);
        p.drawText(QPointF(x, y + 4), words_);
        x += QFontMetricsF(p.font()).horizontalAdvance(words_) + 6;
    };
    const QStringList parts = words[at].split(':');
    text(QString("Point %1").arg(at + 1));
    for (int part = 0; part < 3; ++part) {
        if (c.fixed(at, part)) continue;
        text(c.names[part]);
        Canvas::Spot spot;
        spot.key = QString("point_%1").arg(c.names[part]);
        spot.initial = parts.value(part);
        spot.tip = c.tips[part];
        spot.commit = [=, &session](const QString& now) -> QString {
            QStringList all = words, one = parts;
            QString bare = now;
            bare.remove(' ');
            while (one.size() <= part)
                one << QString();
            one[part] = bare;
            if (one.last().isEmpty()) one.removeLast();
            all[at] = one.join(':');
            return session.edit(field::points, all.join(' '));
        };
        const QString shown = spot.initial.isEmpty() ? "free" : spot.initial;
        const double w = number_width(p.font(), shown) + 8;
        view.dimension_text(p, {x + w / 2, y}, shown, spot);
        x += w + 8;
    }
}

} // namespace

void add_point_knobs(SectionView& view, QPainter& p, const CurvePoints& c) {
    Session& session = view.session();
    const QStringList words = session.text_of(field::points).split(' ', Qt::SkipEmptyParts);
    if (words.size() != c.count) return;
    const LengthUnit unit = session.unit();
    const auto set = [&session](const QStringList& all) { (void)session.edit(field::points, all.join(' ')); };
    const auto word = [=](QPointF v) {
        return dragged_number(v.x(), unit) + ":" + dragged_number(v.y(), unit);
    };
    for (int i = 0; i + 1 < c.count; ++i)
        view.add_knob(p, {.key = QString("between_%1").arg(i),
                          .at = c.between(i),
                          .ring = true,
                          .tip = "Drag for a new point here",
                          .drag = [=, read = c.read](QPointF to, bool fine) {
                              QStringList all = words;
                              all.insert(i + 1, word(stepped(read(to), drag_grain(unit, fine))));
                              set(all);
                          }});
    for (int i = 0; i < c.count; ++i) {
        const auto move = [=, values = c.values(i), keep_first = c.fixed(i, 0),
                           keep_second = c.fixed(i, 1)](QPointF v) {
            QStringList all = words;
            all[i] = word({keep_first ? values.x() : v.x(), keep_second ? values.y() : v.y()}) +
                     third_of(words[i]);
            set(all);
        };
        view.add_knob(
            p, {.key = QString("point_%1").arg(i),
                .at = c.at(i),
                .tip = "Drag it, or move it with the arrow keys; Delete takes it out",
                .drag = [=, read = c.read](QPointF to,
                                           bool fine) { move(stepped(read(to), drag_grain(unit, fine))); },
                .nudge = [=, values = c.values(i), way = c.way](
                             int right, int up) { move(values + way(right, up) * drag_grain(unit, false)); },
                .remove =
                    [=, keep = c.fixed(i, 0) || c.fixed(i, 1)] {
                        QStringList all = words;
                        if (!keep && all.size() > 2) all.removeAt(i);
                        set(all);
                    }});
    }
    p.setFont(text_font(11));
    const QString chosen = view.chosen_knob();
    const int at = chosen.startsWith("point_") ? chosen.mid(6).toInt() : -1;
    if (at >= 0 && at < c.count) return draw_numbers(view, p, c, words, at);
    p.setPen(theme().muted);
    p.drawText(QPointF(18, view.height() - 12.0),
               QFontMetricsF(p.font()).elidedText("Drag a point, or a ring between two for a new one.",
                                                  Qt::ElideRight, view.width() - 30));
}

} // namespace whorl::app
