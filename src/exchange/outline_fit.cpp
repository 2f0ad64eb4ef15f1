#include "exchange/outline_fit.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

std::vector<OutlineSample> sampled(const std::vector<OutlinePiece>& pieces, double spacing) {
    std::vector<OutlineSample> out;
    for (const auto& [a, b] : pieces) {
        const double dx = b.x - a.x, dy = b.y - a.y, chord = std::hypot(dx, dy);
        if (!(chord > 0) || !std::isfinite(chord)) continue;
        // an arc of this chord and sagitta, to the left of the way
        const double bow = a.bow, half = 2 * std::atan(2 * std::abs(bow) / chord);
        const double length = half > 1e-9 ? chord * half / std::sin(half) : chord;
        const int least = half > 1e-9 ? 6 : 2;
        const int parts =
            spacing > 0 ? std::max(static_cast<int>(std::min(length / spacing, 4999.0)) + 1, least) : least;
        for (int i = 0; i <= parts; ++i) {
            const double t = static_cast<double>(i) / parts;
            double x = a.x + t * dx, y = a.y + t * dy;
            if (half > 1e-9) { // along the chord and up from it
                const double r = chord / 2 / std::sin(half), angle = half * (2 * t - 1);
                const double along = r * std::sin(angle),
                             up = (r * std::cos(angle) - r * std::cos(half)) * (bow < 0 ? -1 : 1);
                x = (a.x + b.x) / 2 + (along * dx - up * dy) / chord;
                y = (a.y + b.y) / 2 + (along * dy + up * dx) / chord;
            }
            out.push_back({x, y, length / (parts + 1)});
        }
    }
    return out;
}

double off_half_outline(const std::vector<TransverseCurve>& half, double stretch, double depth, double x,
                        double y) {
    double best = 1e300, sign = 1;
    for (const TransverseCurve& c : half) {
        const auto distance = [&](double t) {
            const TransversePoint p = point_at(c, t);
            return std::hypot(p.x - x, p.y * stretch - y);
        };
        constexpr int steps = 24;
        double least = 1e300, where = c.from;
        for (int i = 0; i <= steps; ++i) {
            const double t = c.from + (c.to - c.from) * i / steps;
            if (const double d = distance(t); d < least) least = d, where = t;
        }
        if (least > best + depth / 2) continue;
        const double t = golden_minimum(std::max(c.from, where - (c.to - c.from) / steps),
                                        std::min(c.to, where + (c.to - c.from) / steps), 48, distance);
        if (const double d = distance(t); d < best) {
            best = d;
            const TransverseJet j = jet_at(c, t);
            // outwards of the material is to the right of the rising outline
            const double out = (x - j.x.c[0]) * j.y.c[1] * stretch - (y - j.y.c[0] * stretch) * j.x.c[1];
            sign = out < 0 ? -1 : 1;
        }
    }
    return sign * best;
}

} // namespace whorl
