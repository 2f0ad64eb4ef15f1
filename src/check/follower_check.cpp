#include "check/pair_checks.hpp"

#include "model/forms/lobe.hpp"
#include "quantity/expression.hpp"

#include <cmath>

namespace whorl {
namespace {

class FollowerChecks : Looking {
public:
    FollowerChecks(const Looking& look, const Job& job, const Pair& pair)
        : Looking(look), job_(job), pair_(pair) {}

    // The spring is compressed by what presses at lift 0, then by the whole stroke.
    void spring(const ResolvedCoil& coil, const ResolvedCam& cam) const {
        const double force = cam.spec.load.force,
                     stroke = cam.motion.highest - std::min(0.0, cam.motion.lowest);
        const double asked = force / coil.rate + stroke, room = coil.free_length - coil.solid_length;
        if (asked <= room + 1e-9) return;
        const double length = std::ceil((coil.solid_length + 1.15 * asked) * 2) / 2; // 15 % left at the top
        advise("spring_goes_solid",
               name(pair_.first) + " goes solid: " + number_text(force, 2) +
                   " N at lift 0 and the stroke press it by " + shown(asked) + ", it has " + shown(room) +
                   ".",
               asked, room,
               Remedy{"Free length " + shown(length) + " of " + name(pair_.first),
                      {Edit{pair_.first.piece, pair_.first.zone, field::length, number_text(length, 3),
                            LengthUnit::millimetre}}});
    }
    void roller(double wanted, const ResolvedZone& roller) const {
        const double is = in_mm(roller.diameter);
        if (std::abs(is - wanted) < 1e-6) return;
        advise("roller_size",
               name(pair_.second) + " is Ø " + shown(is) + "; " + name(pair_.first) +
                   " is made for a roller of Ø " + shown(wanted) + ".",
               is, wanted,
               edit("Ø " + shown(wanted) + " for " + name(pair_.second), field::diameter, wanted));
    }

private:
    std::string name(ZoneRef of) const { return job_.pieces[of.piece].name; }

    const Job& job_;
    const Pair& pair_;
};

} // namespace

void check_follower(const Looking& look, const Job& job, const Pair& pair, const ResolvedZone& first,
                    const ResolvedZone& second) {
    const FollowerChecks checks(look, job, pair);
    if (first.coil() && second.lobe()) return checks.spring(*first.coil(), *second.lobe());
    if (!second.as<ResolvedPlain>()) return;
    if (first.lobe() && first.lobe()->spec.follower == FollowerKind::roller)
        checks.roller(in_mm(first.lobe()->spec.size), second);
    if (first.drum() && first.drum()->spec.track == TrackKind::groove)
        checks.roller(in_mm(first.drum()->spec.width), second);
}

} // namespace whorl
