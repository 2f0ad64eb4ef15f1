#include "check/timing_check.hpp"

#include "check/kit.hpp"
#include "model/row.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <cmath>

namespace whorl {
namespace {} // namespace

std::optional<TimingTrouble> timing_trouble(const Timing& timing, const Motion& m, LengthUnit unit) {
    Timing t = timing;
    const double gap = m.closure_gap(), left = m.angle_left();
    const std::string turns = timing.turns > 1 ? "its " + std::to_string(timing.turns) + " turns" : "a turn";
    if (left < -1e-9) {
        for (CamStretch& s : t.stretches) {
            const double scale = m.whole / m.turn;
            if (s.angle) *s.angle *= scale;
            for (TimedPoint& p : s.through)
                p.angle *= scale;
        }
        return TimingTrouble{"past_full_turn",
                             "The stretches of this timing take " + degrees(m.turn, 2) + " together, " +
                                 degrees(m.turn - m.whole, 2) + " more than " + turns +
                                 ": the last would overlap the first.",
                             m.turn * 180 / pi,
                             m.whole * 180 / pi,
                             "Fit all into " + degrees(m.whole, 2),
                             t};
    }
    if (std::abs(gap) < 1e-7) {
        if (left < 1e-9) return {};
        t.stretches.push_back({CamStretch::dwell, {}, {}, Law::cycloidal});
        return TimingTrouble{"timing_short",
                             "The timing ends after " + degrees(m.turn, 2) + "; " + degrees(left, 2) +
                                 " of " + (timing.turns > 1 ? turns : "the turn") + " are not said.",
                             m.turn * 180 / pi,
                             m.whole * 180 / pi,
                             "Dwell for the rest",
                             t};
    }
    std::string label;
    if (left > 0.02 && gap > 0) {
        t.stretches.push_back({CamStretch::back, left, {}, Law::cycloidal});
        label = "Return in the " + degrees(left, 2) + " left";
    } else if (gap > 0) {
        for (std::size_t i = t.stretches.size(); i-- > 0;)
            if (t.stretches[i].kind == CamStretch::back) {
                t.stretches[i].lift = {}; // all the way
                label = "Return all the way";
                break;
            }
    }
    return TimingTrouble{"timing_not_closed",
                         "The follower ends " + shown_length(std::abs(gap), unit) + " " + symbol(unit) +
                             (gap > 0 ? " above" : " below") + " where it began: a turn must bring it back" +
                             (left > 1e-9 ? ", and " + degrees(left, 2) + " of it are not said." : "."),
                         gap,
                         0,
                         label,
                         t};
}

} // namespace whorl
