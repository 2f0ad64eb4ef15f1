// Pairing what is there already: which zones of two pieces go together.
#pragma once

#include "check/check.hpp"

namespace whorl {

// One side of a pair that is asked for: a zone, or whichever of the piece's goes.
struct PairSide {
    std::size_t piece = 0;
    std::optional<std::size_t> zone = {};
};

// The pair that two pieces make, either way round: of several the first one that has nothing against it, else the first. It
// follows nothing. Throws InputError, saying what the two are, where none is made, or where it is made already.
Pair pairing_of(const Job& job, const PairSide& one, const PairSide& other);
Job pair_up(const Job& job, const PairSide& one, const PairSide& other);
// Without the pairs of the two pieces, or of these zones. Throws InputError where there is none.
Job part(const Job& job, const PairSide& one, const PairSide& other);

} // namespace whorl
