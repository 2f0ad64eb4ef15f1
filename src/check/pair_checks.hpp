// What keeps two zones from going together. `look` is at the second of them. Internal to the check floor.
#pragma once

#include "check/kit.hpp"

namespace whorl {

// A cam and what goes with it, its roller or the spring that holds it on: nothing where the other is neither.
void check_follower(const Looking& look, const Job& job, const Pair& pair, const ResolvedZone& first,
                    const ResolvedZone& second);
// Two holes of a flat bar that both legs of a bent one go through.
void check_strap(const Looking& look, const std::string& clamp, const ResolvedZone& bend,
                 const ResolvedZone& strap);
// A bush grooved inside and the pin that is to turn in it.
void check_pin(const Looking& look, const ResolvedZone& bush, const ResolvedZone& pin);
// Screw and nut; `other` is the name of the piece that is not looked at.
void check_threads(const Looking& look, const std::string& other, const ResolvedThread& first,
                   const ResolvedThread& second);

} // namespace whorl
