// A cam's motion in the place of the developed view: lift, velocity, acceleration and jerk over its turn,
// each in a band of its own, with the cam's place now. The stretches stand over it as they were written and
// are typed over there.
#include "app/developed_view.hpp"

#include "app/forms/stretch_input.hpp"
#include "form/cam/contact_force.hpp"
#include "model/forms/lobe.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <cmath>

namespace whorl::app {
namespace {

struct Band {
    const char *name, *unit;
    double (*value)(const ResolvedCam&, double theta, std::size_t part); // in units of one radian
    double scale = 1;                                                    // to what is shown
    const char* small_unit = nullptr; // a thousandth of the unit, for slow cams
    bool heavy = false, warns_below_zero = false;
    double low = 0, high = 0;
    double span() const { return std::max(1e-12, high - low); }
};

template<std::size_t derivative>
double moved(const ResolvedCam& c, double theta, std::size_t part) {
    return c.motion.at(theta, part)[derivative];
}
double pressed(const ResolvedCam& c, double theta, std::size_t part) {
    return contact_force(c, theta, part, c.spec.rpm);
}
double turned(const ResolvedCam& c, double theta, std::size_t part) {
    return shaft_torque(c.spec.load, c.motion.at(theta, part), c.spec.rpm);
}

QString three_figures(double v) {
    if (std::abs(v) < 1000) return QString::number(v, 'g', 3);
    const double grain = std::pow(10, std::floor(std::log10(std::abs(v))) - 2);
    return QString::number(std::round(v / grain) * grain, 'f', 0);
}

// A quantity over the turn, what it is now, and its name beside it.
void draw_band(QPainter& p, const ResolvedCam& c, Band& band, const QRectF& within,
               const std::function<double(double)>& x, double now) {
    const Theme& t = theme();
    const Motion& m = c.motion;
    constexpr int samples = 48;
    std::vector<std::pair<double, double>> points;
    for (std::size_t i = 0; i < m.parts.size(); ++i)
        for (int k = 0; k <= samples; ++k) {
            const double theta = m.parts[i].from + (m.parts[i].to - m.parts[i].from) * k / samples;
            points.emplace_back(theta, band.value(c, theta, i) * band.scale);
            band.low = std::min(band.low, points.back().second);
            band.high = std::max(band.high, points.back().second);
        }
    if (band.small_unit && std::max(band.high, -band.low) < 0.1) { // slow cams: in mm
        band.unit = band.small_unit;
        for (double* v : {&band.scale, &band.low, &band.high})
            *v *= 1000;
        for (auto& point : points)
            point.second *= 1000;
    }
    const auto y = [&](double v) { return within.top() + (band.high - v) / band.span() * within.height(); };
    p.setPen(QPen(t.hairline, 0.9));
    p.drawLine(QPointF(within.left(), y(0)), QPointF(within.right(), y(0)));
    QPolygonF line;
    for (const auto& [theta, v] : points)
        line << QPointF(x(theta), y(v));
    if (band.warns_below_zero && band.low < 0) { // where the follower is off the cam
        p.save();
        p.setClipRect(QRectF(within.left(), y(0), within.width(), within.bottom() - y(0)));
        QPolygonF under = line;
        under << QPointF(within.right(), y(0)) << QPointF(within.left(), y(0));
        QColor tint = t.advice;
        tint.setAlphaF(0.35f);
        p.setPen(Qt::NoPen);
        p.setBrush(tint);
        p.drawPolygon(under);
        p.restore();
    }
    p.setPen(QPen(band.heavy ? t.ink : band.value == moved<2> ? t.part : t.active, band.heavy ? 1.8 : 1.3));
    p.setBrush(Qt::NoBrush);
    p.drawPolyline(line);
    const double here = band.value(c, now, m.part_at(now)) * band.scale;
    p.setFont(text_font(11, Weight::medium));
    p.setPen(t.muted);
    // in a low band name and figure stand beside each other
    const bool low = within.height() < 30;
    const double middle = within.center().y();
    p.drawText(QPointF(6, low ? middle + 4 : middle - 4),
               QString("%1  %2").arg(band.name, QString::fromUtf8(band.unit)));
    p.setFont(text_font(11));
    p.setPen(t.ink);
    draw_number(p, within.left() - 6, low ? middle + 4 : middle + 11,
                three_figures(std::abs(here) < 1e-9 * (band.high - band.low) ? 0 : here));
    p.setBrush(t.field);
    p.setPen(QPen(t.part, 1.4));
    p.drawEllipse(QPointF(x(now), y(here)), 3, 3);
}

} // namespace

void DevelopedView::draw_motion(QPainter& p, const ResolvedZone& zone) {
    const Theme& t = theme();
    const ResolvedCam& c = *zone.lobe();
    const Motion& m = c.motion;
    const QString speed = QString::fromStdString(number_text(c.spec.rpm, 3)) + " rpm";
    draw_title(p, "Motion",
               c.loads ? "lift to jerk, contact force, torque" : "lift, velocity, acceleration and jerk");
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
    std::vector<Band> bands{
        {"s", symbol(session_.unit()), moved<0>, inches, nullptr, true},
        {"v", session_.unit() == LengthUnit::inch ? "in/s" : "mm/s", moved<1>, omega * inches},
        {"a", "m/s²", moved<2>, omega * omega / 1000, "mm/s²"},
        {"j", "m/s³", moved<3>, omega * omega * omega / 1000, "mm/s³"}};
    if (c.loads) {
        bands.push_back({"F", "N", pressed, 1, nullptr, false, !c.spec.disc});
        bands.push_back({"M", "N·mm", turned});
    }
    const double left = c.loads ? 100 : 56; // low bands have their figures beside their names
    const QRectF a(left, 56, std::max(60.0, width() - left - 14), std::max(60.0, height() - 56.0 - 26));
    const auto x = [&](double theta) { return a.left() + theta / turn * a.width(); };
    p.fillRect(a, t.field);
    const double high = a.height() / static_cast<double>(bands.size());
    const double now = session_.roll() - std::floor(session_.roll() / (2 * pi)) * 2 * pi;
    for (std::size_t b = 0; b < bands.size(); ++b) {
        const double top = a.top() + high * static_cast<double>(b);
        if (b > 0) {
            p.setPen(QPen(t.hairline, 0.9));
            p.drawLine(QPointF(a.left(), top), QPointF(a.right(), top));
        }
        const QRectF within(a.left(), top + 5, a.width(), high - 10);
        draw_band(p, c, bands[b], within, x, now);
        if (b == 0) {
            const Band& lift = bands[0];
            const double per_mm = within.height() * lift.scale / lift.span();
            const double zero = within.top() + lift.high / lift.scale * per_mm;
            draw_joints(
                p, [&](double theta, double s) { return QPointF(x(theta), zero - s * per_mm); },
                a.width() / turn, per_mm);
        }
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
