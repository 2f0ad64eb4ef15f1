#include "form/cam/cam.hpp"
#include "quantity/input_error.hpp"

#include <cmath>
#include <numbers>

namespace whorl {

Length usual_apart(const CamSpec& first) {
    const Motion m = motion_of(first.timing);
    const double rp = prime_radius(first), e = in_mm(first.offset);
    return mm(2 * std::sqrt(std::max(0.0, rp * rp - e * e)) + m.highest + m.lowest);
}

CamSpec conjugate_of(const CamSpec& first, Length apart) {
    if (first.disc)
        throw InputError("A groove holds its roller both ways already; a second lobe goes with an open cam.");
    if (first.swings())
        throw InputError("Conjugate lobes are made for followers that move straight; this one swings.");
    const double rp = prime_radius(first), e = in_mm(first.offset),
                 reach = in_mm(apart) - std::sqrt(std::max(0.0, rp * rp - e * e));
    CamSpec s = first;
    s.conjugate = apart;
    s.base_radius = mm(std::hypot(std::max(0.0, reach), e) - roller_radius(first));
    const double least = in_mm(usual_apart(first)) / 2;
    if (reach <= 0 || in_mm(s.base_radius) < 0.5)
        throw InputError("With followers " + number_text(in_mm(apart), 3) +
                         " mm apart nothing is left of the second lobe; it is as large as the first with " +
                         number_text(2 * least, 3) + " mm.");
    s.offset = mm(-e);
    s.at = first.at + std::numbers::pi;
    s.timing.stretches.clear();
    // a return that takes all there is says how much, since the second lobe rises by it
    const Motion m = motion_of(first.timing);
    for (std::size_t i = 0; i < first.timing.stretches.size(); ++i) {
        CamStretch c = first.timing.stretches[i];
        double begin = 0, end = 0;
        bool there = false;
        for (const MotionPart& part : m.parts)
            if (part.stretch == i) {
                if (!there) begin = motion_at(part, part.from)[0];
                end = motion_at(part, part.to)[0];
                there = true;
            }
        if (c.kind == CamStretch::rise || c.kind == CamStretch::back) {
            c.kind = c.kind == CamStretch::rise ? CamStretch::back : CamStretch::rise;
            c.lift = std::abs(end - begin);
        } else if (c.kind == CamStretch::spline) {
            c.lift = -c.lift.value_or(0);
            for (TimedPoint& p : c.through) {
                p.lift = -p.lift;
                if (p.slope) *p.slope = -*p.slope;
            }
        }
        s.timing.stretches.push_back(std::move(c));
    }
    return s;
}

} // namespace whorl
