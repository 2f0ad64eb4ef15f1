// All pieces of a job as they stand: each by the pairs that hold it, from the first piece of its group on. Groups that no
// pair ties together stand beside each other along x, in the order of the job.
//
// The first piece of a group keeps its own axes. From it the pairs are followed breadth first, each pair placing the piece
// that has no place yet (pair_place.hpp). A pair between two pieces that both have one closes a circle: by how much it
// does not close is said. Nothing in a circle gives way to close it: threads stand as far on as is usual, racks in the middle
// of their travel, each mate of a gear at its right; only two gears that already stand beside each other may do so anywhere.
#pragma once

#include "together/pair_place.hpp"

#include <array>
#include <vector>

namespace whorl {

struct Placed {
    Standing at;
    std::optional<std::size_t> by; // the pair that holds it; none: it is its group's first
    std::size_t group = 0;
};

// A circle of pairs that does not close.
struct OpenCircle {
    std::size_t pair = 0;
    double gap = 0;   // mm, of the second piece's origin from where this pair wants it
    double turn = 0;  // rad, between its axis and the one this pair wants
    double teeth = 0; // mm on the second gear's pitch circle, of its teeth from the nearest spaces
};

struct Arrangement {
    std::vector<Placed> pieces; // of the job's, in their order
    std::vector<OpenCircle> open;
    std::size_t groups = 0;
};

// A piece's box in its own axes, mm.
struct Box {
    std::array<double, 3> low{}, high{};
};

constexpr double between_groups = 10; // mm

// `pieces` and `boxes` are of the job's pieces, resolved; where a piece has no box, the job is placed without room for it.
// Throws JobError for a centre distance that does not resolve.
Arrangement arrangement_of(const Job& job, const std::vector<ResolvedPiece>& pieces, const Names& names,
                           const std::vector<Box>& boxes);

// The box about a box that stands somewhere.
Box box_of(const Box& own, const Standing& at);

} // namespace whorl
