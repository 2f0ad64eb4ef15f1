// Pieces that stand in each other: their triangulations against each other, by bounding volume trees (FCL).
//
// A piece is taken smaller all around than it is by `skin`, so that what only touches, or what two triangulations' chords take
// from each other, is no clash. One piece wholly inside another's material is one too.
#pragma once

#include "solid/mesh/mesh.hpp"
#include "together/arrangement.hpp"

#include <memory>
#include <stop_token>

namespace whorl {

// A piece as it is tried: made once, of use wherever the piece stands.
class ClashBody;
std::shared_ptr<const ClashBody> clash_body(const solid::Mesh& mesh, double skin = 0.05); // mm

// Whether two of them stand in each other.
bool clash(const ClashBody& one, const Standing& one_at, const ClashBody& other, const Standing& other_at);

struct Clash {
    std::size_t one = 0, other = 0; // pieces
    friend bool operator==(const Clash&, const Clash&) = default;
};
// All pairs of pieces that stand in each other and that no pair of the job ties together, in order. Pieces without a body, not
// made yet or not to be made, are left out.
std::vector<Clash> clashes(const Job& job, const Arrangement& all,
                           const std::vector<std::shared_ptr<const ClashBody>>& bodies,
                           const std::stop_token& stop = {});

} // namespace whorl
