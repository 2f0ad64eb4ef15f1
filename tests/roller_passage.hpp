// A drum cam's roller carried along its track by brute force.
#pragma once

#include "form/cam/drum.hpp"

#include <cmath>
#include <numbers>

namespace whorl::test {

// How deep a point of the drum lies inside the roller as it passes, at the most: the roller's axis points at
// the drum's.
inline double swept_over(const ResolvedDrum& d, double theta, double r, double z) {
    const double way = d.spec.clockwise ? 1 : -1;
    double most = -1e300;
    const auto inside = [&](double t) { // the roller at the place t of the outline
        double y = 0, lift = d.motion.at(way * t)[0];
        if (d.spec.arm) { // about the pivot, square in the middle of the stroke
            const double arm = in_mm(*d.spec.arm), mean = (d.motion.highest + d.motion.lowest) / 2;
            y = arm * std::cos((lift - mean) / arm) - arm;
            lift = arm * std::sin((lift - mean) / arm) + arm * std::sin(mean / arm);
        }
        const double turn = theta - d.spec.at - t;
        if (std::cos(turn) <= 0) return -1e300;
        return d.half_width - std::hypot(r * std::sin(turn) - y, z - d.zero - lift);
    };
    int best = 0;
    const int n = 3600 * d.turns();
    const double all = 2 * std::numbers::pi * d.turns();
    for (int k = 0; k < n; ++k)
        if (const double v = inside(all * k / n); v > most) most = v, best = k;
    // finer about the deepest
    double a = all * (best - 1) / n, b = all * (best + 1) / n;
    for (int k = 0; k < 60; ++k) {
        const double c = b - 0.618033988749895 * (b - a), e = a + 0.618033988749895 * (b - a);
        if (inside(c) > inside(e))
            b = e;
        else
            a = c;
    }
    return std::max(most, inside((a + b) / 2));
}

} // namespace whorl::test
