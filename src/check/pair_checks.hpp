// What keeps two zones from going together: one check a kind of pair. A kind without one does not link. Internal to the
// check floor.
#pragma once

#include "check/kit.hpp"
#include "model/pair_model.hpp"

namespace whorl {

struct PairInJob {
    const Job& job;
    const Pair& pair;
    const Names& names;
    const ResolvedZone &first, &second;
    const std::string& other; // name of the piece that is not looked at
};

// `look` is at the second of them.
template<PairKind kind>
void check_pair(const Looking& look, const PairInJob& both);

} // namespace whorl
