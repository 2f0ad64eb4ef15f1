// How the selected zone goes together with others of the job: pure functions over a resolved selection.
#pragma once

#include "check/mesh_check.hpp"
#include "pair/mating.hpp"
#include "pair/standing.hpp"

namespace whorl::app {

// A zone's thread and its counterpart's.
struct ShownFit {
    ZoneRef there;
    ResolvedThread counterpart;
    Fit fit;
    bool follows; // the second zone of the pair follows the first
};

// A piece put together with another: the one its selected zone is paired with, or else the first that any of
// its zones is.
struct Together {
    ZoneRef here, there;
    Mating mating;
};

// A toothed zone in mesh with the one it is paired with. The first gear is the selected one, unless that is a
// ring or a rack: then `second_first` says so.
struct ShownMesh : PairMesh {
    std::size_t pair = 0;
    ZoneRef here, there;
    ResolvedZone here_zone, there_zone;
    bool follows = false;
};

// What runs on the selected cam: the piece of the job that is paired with it, else one made for the look of
// it.
struct ShownFollower {
    Piece piece;
    std::optional<ZoneRef> there;
};

// A piece beside the selected zone's that nothing screws or turns on: the strap of a clamp, the pin of a bush.
struct ShownBeside {
    ZoneRef there;
    Standing place; // in the shown piece's space
};

struct PairLook {
    std::optional<ShownBeside> beside;
    std::optional<ShownFit> fit;
    std::optional<Together> together;
    std::optional<ShownMesh> mesh;
    std::optional<ShownFollower> follower;
    std::optional<ZoneRef> other; // of any pair that the selected zone is in, its first
};

// `resolved` is the piece of `selected`; of several pairs of a toothed zone `preferred` is looked at.
PairLook pair_look(const Job& job, const ResolvedPiece& resolved, ZoneRef selected, std::size_t preferred);

} // namespace whorl::app
