// How a pair of toothed zones runs.
#pragma once

#include "check/check.hpp"
#include "pair/gear_mesh.hpp"

namespace whorl {

// The mesh of a pair of toothed zones; the ring or the rack, if there is one, is the second. `second_first`
// says whether the pair's second zone is the mesh's first gear.
struct PairMesh {
    GearMesh mesh;
    ResolvedGear first;
    std::optional<ResolvedGear> second; // or else
    std::optional<ResolvedRack> rack;
    bool second_first = false;
};
// Without a centre distance that of no backlash but the thinning. None unless both have teeth and one of them
// is a gear.
std::optional<PairMesh> mesh_of_zones(const ResolvedZone& first, const ResolvedZone& second,
                                      std::optional<Length> centre);
// Throws JobError if the pieces or the centre distance don't resolve; none unless both zones have teeth.
std::optional<PairMesh> mesh_of_pair(const Job& job, const Pair& pair, const Names& names);

} // namespace whorl
