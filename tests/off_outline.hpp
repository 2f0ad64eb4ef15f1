// The distance of a point from a gear's true outline, by looking over all of it.
#pragma once

#include "form/tooth/gear.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::test {

// In the transverse plane, mm; the x axis runs through the middle of a space.
inline double off_outline(const ResolvedGear& g, double x, double y) {
    // the outline repeats with the pitch and is its own mirror image about a space
    const double angle = std::abs(std::remainder(std::atan2(y, x), g.pitch_angle())), r = std::hypot(x, y);
    const double px = r * std::cos(angle), py = r * std::sin(angle);
    double least = 1e9;
    for (const TransverseCurve& c : g.half_outline) {
        const auto d = [&](double t) {
            const TransversePoint p = point_at(c, t);
            return std::hypot(p.x - px, p.y - py);
        };
        constexpr int steps = 200;
        double at = c.from;
        for (int i = 0; i <= steps; ++i)
            if (const double t = c.from + (c.to - c.from) * i / steps; d(t) < d(at)) at = t;
        double low = std::max(c.from, at - (c.to - c.from) / steps),
               high = std::min(c.to, at + (c.to - c.from) / steps);
        for (int i = 0; i < 50; ++i) {
            const double a = low + (high - low) * 0.382, b = low + (high - low) * 0.618;
            (d(a) < d(b) ? high : low) = d(a) < d(b) ? b : a;
        }
        least = std::min(least, d((low + high) / 2));
    }
    return least;
}

} // namespace whorl::test
