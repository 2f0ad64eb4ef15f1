// Looking for peaks along a motion: even steps through each of its parts, then golden section about the
// highest. Internal to the cams.
#pragma once

#include "form/cam/forces.hpp"
#include "form/cam/timing.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
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
    const double top = lowest_between(std::max(p.from, peak.theta - step), std::min(p.to, peak.theta + step),
                                      1e-7, [&](double at) { return -value(at, peak.part); });
    peak.take(value(top, peak.part), top, peak.part);
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

// Whether the speed jumps somewhere, so that the acceleration there is without end.
inline bool jumps_in_speed(const Motion& m) {
    return std::any_of(m.jumps.begin(), m.jumps.end(),
                       [](const CamJump& j) { return std::abs(j.velocity) > 1e-7; });
}

// The row of the stroke: what the follower still goes through where corners are rounded.
inline ResolvedValue stroke_row(const Motion& m, const Timing& asked, const std::string& more) {
    const Motion as_asked = motion_of(asked);
    const double stroke = m.highest - m.lowest, lost = as_asked.highest - as_asked.lowest - stroke;
    return {.key = "stroke",
            .label = "Stroke",
            .kind = ValueKind::length,
            .value = stroke,
            .source = "from the timing" + more +
                      (lost > 1e-9 ? ", less " + number_text(lost, 4) + " mm at its rounded corners" : "")};
}

// The row of the largest acceleration, given as mm/rad².
inline ResolvedValue largest_acceleration(const Motion& m, double per_rad2, double rpm) {
    ResolvedValue out{.key = "max_acceleration", .label = "Largest acceleration, m/s²"};
    const std::string at = " at " + number_text(rpm, 3) + " rpm";
    if (jumps_in_speed(m)) {
        out.kind = ValueKind::text;
        out.text = "without end";
        out.source = "where the speed jumps";
    } else {
        const double omega = angular_speed(rpm);
        out.kind = ValueKind::number;
        out.value = per_rad2 * omega * omega / 1000;
        out.source = "s''·ω²" + at;
    }
    return out;
}

} // namespace whorl
