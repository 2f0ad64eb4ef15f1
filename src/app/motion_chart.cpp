// A cam's motion in the place of the developed view: lift, velocity, acceleration and jerk over its turn,
// each in a band of its own, with the cam's place now. The stretches stand over it as they were written and
// are typed over there.
#include "app/developed_view.hpp"

#include "app/forms/stretch_input.hpp"
#include "model/forms/lobe.hpp"
#include "quantity/expression.hpp"

#include <cmath>
#include <numbers>

namespace whorl::app {
namespace {

constexpr double pi = std::numbers::pi;

struct Band {
    const char *name, *unit;
    std::size_t derivative;
    double scale = 1; // from mm per rad^n to what is shown
    double low = 0, high = 0;
};

} // namespace

void DevelopedView::draw_motion(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const ResolvedCam& c = *zone.lobe();
    const Motion& m = c.motion;
    const QString speed = QString::fromStdString(number_text(c.spec.rpm, 3)) + " rpm";
    draw_title(p, "Motion", "lift, velocity, acceleration and jerk");
    p.setFont(text_font(11));
    {
        const double w = number_width(p.font(), speed) + 8;
        dimension_text(
            p, {width() - w / 2 - 8, 16}, speed,
            spot_of("speed", field::speed, "Turns a minute, for all but the lift. Click to type."));
    }
    if (m.parts.empty()) return;
    const double turn = std::max(m.turn, 2 * pi), omega = c.spec.rpm * 2 * pi / 60;
    const double inches = session_.unit() == LengthUnit::inch ? 1 / 25.4 : 1;
    Band bands[]{{"s", symbol(session_.unit()), 0, inches},
                 {"v", session_.unit() == LengthUnit::inch ? "in/s" : "mm/s", 1, omega * inches},
                 {"a", "m/s²", 2, omega * omega / 1000},
                 {"j", "m/s³", 3, omega * omega * omega / 1000}};
    const QRectF a(56, 56, std::max(60.0, width() - 56.0 - 14), std::max(60.0, height() - 56.0 - 26));
    const auto x = [&](double theta) { return a.left() + theta / turn * a.width(); };
    p.fillRect(a, t.field);
    const double high = a.height() / 4;
    const double now = session_.roll() - std::floor(session_.roll() / (2 * pi)) * 2 * pi;
    for (std::size_t b = 0; b < 4; ++b) {
        Band& band = bands[b];
        constexpr int samples = 48;
        for (std::size_t i = 0; i < m.parts.size(); ++i)
            for (int k = 0; k <= samples; ++k) {
                const double v = m.at(m.parts[i].from + (m.parts[i].to - m.parts[i].from) * k / samples,
                                      i)[band.derivative] *
                                 band.scale;
                band.low = std::min(band.low, v);
                band.high = std::max(band.high, v);
            }
        if (b > 1 && std::max(band.high, -band.low) < 0.1) { // slow cams: in mm
            band.unit = b == 2 ? "mm/s²" : "mm/s³";
            for (double* v : {&band.scale, &band.low, &band.high})
                *v *= 1000;
        }
        const double span = std::max(1e-12, band.high - band.low),
                     top = a.top() + high * static_cast<double>(b) + 5;
        const auto y = [&](double v) { return top + (band.high - v) / span * (high - 10); };
        p.setPen(QPen(t.hairline, 0.9));
        p.drawLine(QPointF(a.left(), y(0)), QPointF(a.right(), y(0)));
        if (b > 0) p.drawLine(QPointF(a.left(), top - 5), QPointF(a.right(), top - 5));
        QPolygonF line;
        for (std::size_t i = 0; i < m.parts.size(); ++i)
            for (int k = 0; k <= samples; ++k) {
                const double theta = m.parts[i].from + (m.parts[i].to - m.parts[i].from) * k / samples;
                line << QPointF(x(theta), y(m.at(theta, i)[band.derivative] * band.scale));
            }
        p.setPen(QPen(b == 0 ? t.ink : b == 2 ? t.part : t.active, b == 0 ? 1.8 : 1.3));
        p.setBrush(Qt::NoBrush);
        p.drawPolyline(line);
        // what it is at the cursor
        const double here = m.at(now)[band.derivative] * band.scale;
        p.setFont(text_font(11, Weight::medium));
        p.setPen(t.muted);
        p.drawText(QPointF(10, top + high / 2 - 8),
                   QString("%1  %2").arg(band.name, QString::fromUtf8(band.unit)));
        p.setFont(text_font(11));
        p.setPen(t.ink);
        draw_number(p, a.left() - 8, top + high / 2 + 7,
                    std::abs(here) < 1e-9 * (band.high - band.low) ? QString("0")
                                                                   : QString::number(here, 'g', 3));
        p.setBrush(t.field);
        p.setPen(QPen(t.part, 1.4));
        p.drawEllipse(QPointF(x(now), y(here)), 3, 3);
    }
    // the angle
    p.setPen(QPen(t.part, 1, Qt::DashDotLine));
    p.drawLine(QPointF(x(now), a.top()), QPointF(x(now), a.bottom()));
    p.setFont(text_font(11));
    p.setPen(t.muted);
    const QFontMetricsF metrics(p.font());
    for (int d = 0; d <= 360; d += 90) {
        const QString text = QString("%1°").arg(d);
        p.drawText(QPointF(std::min(x(d * pi / 180) - metrics.horizontalAdvance(text) / 2,
                                    width() - metrics.horizontalAdvance(text) - 2.0),
                           a.bottom() + 16),
                   text);
    }
    // the stretches, from joint to joint
    p.setPen(QPen(t.hairline, 1.2));
    for (std::size_t i = 1; i < m.parts.size(); ++i)
        if (m.parts[i].stretch != m.parts[i - 1].stretch)
            p.drawLine(QPointF(x(m.parts[i].from), a.top() - 4), QPointF(x(m.parts[i].from), a.bottom()));
    draw_stretches(*this, p, m, 42, x);
    p.setPen(QPen(t.hairline, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(a);
}

} // namespace whorl::app
