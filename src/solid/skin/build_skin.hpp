// Zones to one closed skin.
//
// Zones meet in planes square to the axis. There each zone has a rim, a closed curve whose radius is a
// piecewise linear function of θ; the rims of two neighbours are compared in closed form, coincident
// stretches become shared edges, and what is left between them becomes flat faces. No boolean is taken.
#pragma once

#include "model/resolve.hpp"
#include "solid/skin/skin.hpp"

#include <optional>

namespace whorl::solid {

// A zone that can't be made as asked: the sentence says why and what would work.
class CannotMake : public std::runtime_error {
public:
    CannotMake(const std::string& sentence, std::size_t in_zone)
        : std::runtime_error(sentence), zone(in_zone) {}
    std::size_t zone;
};

// Throws CannotMake. The time is linear in the number of turns.
Skin build_skin(const ResolvedPiece& piece);

// Where a bored piece is thinnest between its bores and its outside, square to the axis: the least of nine places
// in every stretch between two ends or treated ends, grooves taken as deep as they are anywhere. None of a piece
// without a bore.
struct LeastWall {
    double thickness = 0, at = 0; // mm, z
};
std::optional<LeastWall> least_wall(const ResolvedPiece& piece);

// The shortest length a zone can have with the ends it asks for.
Length shortest_for_ends(const ResolvedZone& zone);

} // namespace whorl::solid
