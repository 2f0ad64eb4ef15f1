// What keeps pairs together while a job is edited. Internal to the model floor.
#pragma once

#include "model/edit.hpp"

namespace whorl {

// Whether two zones can belong together: both threaded, both toothed, a cam and what runs on it, a spring and a
// lobe. Not where one of them does not exist.
bool pairable(const Job& job, ZoneRef first, ZoneRef second);

// The asked pair if the toothed zone is in it, else the first pair that it is in; none if it is in no pair.
std::optional<std::size_t> gear_pair_of(const Job& job, ZoneRef zone, std::optional<std::size_t> asked);

// Every zone that follows another one becomes what that is. Throws InputError for one that is not there or of
// another side, and for a circle.
void follow_zones(Piece& piece);

// Passes a changed job on: zones and pairs that follow take over what they follow, pairs whose zones no
// longer go together are dropped, and what is not as it was `before`, where everything resolved, still resolves. Throws
// InputError without a place, since the person is at it.
Job checked(Job job, const Job& before);

} // namespace whorl
