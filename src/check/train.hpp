// Chains of pairs: how everything turns that one piece drives.
//
// All axes are parallel and counted the same way. A piece turns as a whole, so a train goes on from any of
// its toothed zones, and over a rack to other gears on it.
#pragma once

#include "check/check.hpp"

#include <optional>
#include <string>
#include <vector>

namespace whorl {

struct TrainMember {
    std::size_t piece = 0;
    std::optional<std::size_t> pair; // by which it is driven; none: the driver itself
    std::size_t by = 0;              // the piece that drives it
    double turns = 0;                // for each turn of the driver, negative the other way; of a rack 0
    double travel = 0;               // of a rack for each turn of the driver, mm
    bool rack = false;
};

struct Train {
    std::vector<TrainMember> members; // the driver first, then as they are reached
    // Of a pair that closes a ring of pieces whose ratios contradict each other: nothing can turn.
    std::optional<std::size_t> locked_by;
};

// Throws JobError if the job does not resolve. Pairs that don't mesh drive nothing.
Train train_of(const Job& job, std::size_t driver);

// A finding for every ring of gears that locks: of all, or those that `piece` is in.
void check_trains(std::vector<Finding>& out, const Job& job, std::size_t piece);

// "turns 0.26027 times, the other way" or "moves 62.832 mm a turn".
std::string said(const TrainMember& member);

} // namespace whorl
