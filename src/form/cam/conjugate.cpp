#include "form/cam/lobe_outline.hpp"
#include "quantity/input_error.hpp"

#include <cmath>
#include <numbers>

namespace whorl {

namespace {

// Along the line on which a follower that moves straight stands, from the axis, at lift 0.
double reach(const CamSpec& s, double base) {
    const double rp = base + roller_radius(s), e = in_mm(s.offset);
    return std::sqrt(std::max(0.0, rp * rp - e * e));
}
// The arm's angle to the line of centres at lift 0, rad.
double arm_angle(const CamSpec& s, double base) {
    CamSpec with = s;
    with.base_radius = mm(base);
    return arm_at_rest(with);
}
// Both arms of a rocker, an angle apart.
double chord(const CamSpec& s, double angle) {
    return 2 * in_mm(*s.arm) * std::sin(angle / 2);
}
double angle_of_chord(const CamSpec& s, double apart) {
    return 2 * std::asin(std::min(1.0, apart / (2 * in_mm(*s.arm))));
}

// The second lobe's base radius.
double second_base(const CamSpec& first, double apart) {
    const double base = in_mm(first.base_radius), rho = roller_radius(first);
    if (!first.swings()) {
        const double left = apart - reach(first, base);
        return left > 0 ? std::hypot(left, in_mm(first.offset)) - rho : 0;
    }
    const double left = angle_of_chord(first, apart) - arm_angle(first, base);
    if (left <= 0) return 0;
    const double l = in_mm(*first.arm), c = in_mm(*first.centre);
    return std::sqrt(l * l + c * c - 2 * l * c * std::cos(left)) - rho;
}

} // namespace

Length usual_apart(const CamSpec& first) {
    const Motion m = motion_of(first.timing);
    const double base = in_mm(first.base_radius), both = m.highest + m.lowest;
    if (!first.swings()) return mm(2 * reach(first, base) + both);
    return mm(
        chord(first, std::min(std::numbers::pi, 2 * arm_angle(first, base) + both / in_mm(*first.arm))));
}

Length apart_with_base(const CamSpec& second, double base) {
    const double now = in_mm(second.base_radius), apart = in_mm(*second.conjugate);
    if (!second.swings()) return mm(apart + reach(second, base) - reach(second, now));
    return mm(
        chord(second, std::min(std::numbers::pi, angle_of_chord(second, apart) + arm_angle(second, base) -
                                                     arm_angle(second, now))));
}

CamSpec conjugate_of(const CamSpec& first, Length apart) {
    if (first.disc)
        throw InputError("A groove holds its roller both ways already; a second lobe goes with an open cam.");
    if (first.swings() && in_mm(apart) >= 2 * in_mm(*first.arm))
        throw InputError("The followers of a rocker whose arms are " + number_text(in_mm(*first.arm), 3) +
                         " mm long can't stand " + number_text(in_mm(apart), 3) +
                         " mm apart; the second lobe is as large as the first with " +
                         number_text(in_mm(usual_apart(first)), 3) + " mm.");
    CamSpec s = first;
    s.conjugate = apart;
    s.held = false;
    s.load.force = -first.load.force; // what presses on the first lobe lifts off the second
    s.base_radius = mm(second_base(first, in_mm(apart)));
    if (in_mm(s.base_radius) < 0.5)
        throw InputError("With followers " + number_text(in_mm(apart), 3) +
                         " mm apart nothing is left of the second lobe; it is as large as the first with " +
                         number_text(in_mm(usual_apart(first)), 3) + " mm.");
    s.offset = mm(-in_mm(first.offset));
    if (first.swings())
        s.opposite = true; // the other arm of one rocker
    else
        s.at = first.at + std::numbers::pi; // the other side of one yoke
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
