// All pieces of a job as they stand: each by the pairs that hold it, from the first piece of its group on. Groups that no
// pair ties together stand beside each other in the order of the job, in columns along x that follow each other along z.
//
// Pieces whose place is typed (free_place.hpp) stand there, and with them the job's first piece at its own axes, if none of
// them holds it: one group, the first. Of any other group the first piece
// that does not run on a cam keeps its own axes. From these the pairs are followed breadth first, each pair placing the piece
// that has no place yet, at the pair's own number if it has one (pair_place.hpp). A pair between two pieces that both have
// a place closes a circle: by how much it does not close is said. Nothing in a circle gives way to close it: threads stand as
// far on as is usual, each mate of a gear at its right; only two gears that already stand beside each other may do so anywhere.
//
// What runs turns about its own axis where it stands, and what is held by it, but by teeth or as its follower, turns with it.
#pragma once

#include "check/train.hpp"
#include "solid/mesh/mesh.hpp"
#include "together/pair_place.hpp"

#include <array>
#include <vector>

namespace whorl {

struct Placed {
    Standing at;
    std::optional<std::size_t>
        by; // the pair that holds it; none: its place is typed, or it is its group's first
    std::size_t group = 0;
    std::optional<PairPlace> held = {}; // as that pair has it
    Standing still = {};                // before it has turned or moved where it stands
};

// A pair whose number lies beyond its range, mm or rad: it stands at the range's end.
struct Beyond {
    std::size_t pair = 0;
    double asked = 0;
    PairRange range;
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
    std::vector<Beyond> beyond;
    std::size_t groups = 0;
};

// How far each piece has turned (rad) or, a rack, moved along itself (mm).
struct Run {
    std::vector<double> turned, travelled;
};
// When `driver` has turned by `roll` (rad): a gear with the train it drives, a cam alone; anything else moves nothing.
Run run_of(const Job& job, const std::vector<ResolvedPiece>& pieces, std::size_t driver, double roll);
// The same, the train known.
Run run_of(const Train& train, const std::vector<ResolvedPiece>& pieces, double roll);

// A piece's box in its own axes, mm.
struct Box {
    std::array<double, 3> low{}, high{};
};

constexpr double between_groups = 10; // mm

// `pieces` and `boxes` are of the job's pieces, resolved; where a piece has no box, the job is placed without room for it.
// Throws InputError for a centre distance or a number that does not resolve.
Arrangement arrangement_of(const Job& job, const std::vector<ResolvedPiece>& pieces, const Names& names,
                           const std::vector<Box>& boxes, const Run& run_now = {});
// What keeps it from being handed on, in a sentence that names the pair; none: nothing.
std::optional<std::string> trouble_of(const Arrangement& all, const Job& job);

Box box_about(const solid::Mesh& mesh);
// The box about a box that stands somewhere.
Box box_of(const Box& own, const Standing& at);

} // namespace whorl
