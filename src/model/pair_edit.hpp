// What keeps pairs together while a job is edited. Internal to the model floor.
#pragma once

#include "model/edit.hpp"

namespace whorl {

// Whether two zones can belong together: both threaded, both toothed, a cam and what runs on it, a spring and a
// lobe. Not where one of them does not exist.
bool pairable(const Job& job, ZoneRef first, ZoneRef second);

// The asked pair if the toothed zone is in it, else the first pair that it is in; none if it is in no pair.
std::optional<std::size_t> gear_pair_of(const Job& job, ZoneRef zone, std::optional<std::size_t> asked);

// Passes a changed job on: pairs whose zones no longer go together are dropped, those that follow take over
// what they follow, and what is not as it was `before`, where everything resolved, still resolves. Throws
// InputError without a place, since the person is at it.
Job checked(Job job, const Job& before);

} // namespace whorl
