// Looking for peaks along a motion: even steps through each of its parts, then golden section about the
// highest. Internal to the cams.
#pragma once

#include "form/cam/timing.hpp"

#include <algorithm>
#include <vector>

namespace whorl {

// The largest of a value that is looked at all along a motion, and where it stands.
struct Peak {
    double value = -1e300, theta = 0;
    std::size_t part = 0;
    void take(double v, double at, std::size_t in) {
        if (v > value) *this = {v, at, in};
    }
};

// Calls `look` with every angle of even steps through each part; a dwell has two.
constexpr int steps_in_part = 48;
template<class Look>
void walk(const Motion& m, const Look& look) {
    for (std::size_t i = 0; i < m.parts.size(); ++i) {
        const MotionPart& p = m.parts[i];
        const int steps = p.is_dwell() ? 1 : steps_in_part;
        for (int k = 0; k <= steps; ++k)
            look(p.from + (p.to - p.from) * k / steps, i);
    }
}

// Golden section between the steps on either side of a peak.
template<class Value>
void refine(const Motion& m, Peak& peak, const Value& value) {
    if (m.parts.empty() || m.parts[peak.part].is_dwell()) return;
    const MotionPart& p = m.parts[peak.part];
    const double step = (p.to - p.from) / steps_in_part;
    double a = std::max(p.from, peak.theta - step), b = std::min(p.to, peak.theta + step);
    constexpr double golden = 0.6180339887498949;
    while (b - a > 1e-7) { // near its top a value hardly changes: this is exact to its square
        const double c = b - golden * (b - a), d = a + golden * (b - a);
        if (value(c, peak.part) >= value(d, peak.part))
            b = d;
        else
            a = c;
    }
    peak.take(value((a + b) / 2, peak.part), (a + b) / 2, peak.part);
}

// The highest place of value(theta, part). Parts that come near the highest step are all looked at closely:
// two peaks can be all but equally high.
template<class Value>
Peak peak_of(const Motion& m, const Value& value) {
    std::vector<Peak> in_part(m.parts.size());
    double lowest = 1e300, highest = -1e300;
    walk(m, [&](double theta, std::size_t part) {
        const double v = value(theta, part);
        lowest = std::min(lowest, v);
        highest = std::max(highest, v);
        in_part[part].take(v, theta, part);
    });
    Peak best;
    for (Peak& peak : in_part) {
        if (peak.value < highest - 0.02 * (highest - lowest)) continue;
        refine(m, peak, value);
        best.take(peak.value, peak.theta, peak.part);
    }
    return best;
}

} // namespace whorl
