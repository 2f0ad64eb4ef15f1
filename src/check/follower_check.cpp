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

template<>
void check_pair<PairKind::spring_and_lobe>(const Looking& look, const PairInJob& both) {
    FollowerChecks(look, both.job, both.pair).spring(*both.first.coil(), *both.second.lobe());
}

template<>
void check_pair<PairKind::cam_and_follower>(const Looking& look, const PairInJob& both) {
    if (const CamSpec& cam = both.first.lobe()->spec; cam.follower == FollowerKind::roller)
        FollowerChecks(look, both.job, both.pair).roller(in_mm(cam.size), both.second);
}

template<>
void check_pair<PairKind::drum_and_roller>(const Looking& look, const PairInJob& both) {
    FollowerChecks(look, both.job, both.pair).roller(in_mm(both.first.drum()->spec.width), both.second);
}

} // namespace whorl
