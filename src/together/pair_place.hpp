// How the second piece of a pair stands in the first one's space, from the numbers of the pair alone.
//
//   two threads         on one axis, turned one lead a turn: pair/mating.hpp; on a bent piece along its straight part
//   gears               the axes a centre distance apart along x, the middles of both zones in one plane, a tooth in a space
//   gear and rack       the rack at the gear's right, its length along y, the reference line at the distance of the mesh
//   cam and follower    where the follower stands at the cam's angle: model/forms/follower.hpp
//   those nothing turns pair/standing.hpp
//
// Placements are turns with a way: unit vectors of the own axes, origin in mm.
#pragma once

#include "check/mesh_check.hpp"
#include "pair/mating.hpp"
#include "pair/standing.hpp"

#include <algorithm>
#include <optional>

namespace whorl {

// What stands at `inner` in the space of what stands at `outer`, in the space that one stands in.
Standing within(const Standing& outer, const Standing& inner);
Standing turned_about_axis(double angle); // rad, about z
Standing same_space();                    // nothing turned or moved
// A point (mm) of what stands there, in the space it stands in.
std::array<double, 3> carried(const Standing& place, const std::array<double, 3>& point);

struct MeshStanding {
    double turn = 0; // of the first piece about its own axis, rad; a rack's is 0
    Standing second; // in the first one's space as it is before it turns
};
// `first` is the pair's first zone or whichever is looked at; `mesh` is of these two. `roll`: how far the mesh's first
// gear has turned, rad; at 0 a space of it looks at the pitch point.
MeshStanding mesh_standing(const PairMesh& mesh, const ResolvedZone& first, const ResolvedZone& second,
                           double roll);

// `travel`: see Mating.
Standing thread_standing(const Mating& mating, const ResolvedPiece& first, std::size_t zone,
                         const ResolvedPiece& second, std::size_t second_zone, double travel);

// Where the second gear or the rack of a mesh stands in the first gear's own space when it lies at the angle `towards` (rad)
// about the first one's axis: it has rolled there, tooth by tooth; a rack is where its middle is nearest.
Standing mesh_standing_towards(const PairMesh& mesh, const ResolvedZone& first, const ResolvedZone& second,
                               double towards);

// The free number of a pair (Freedom in pair_model.hpp), mm or rad: what it is where nothing is asked, and how far it goes.
struct PairRange {
    double usual = 0, low = -1e5, high = 1e5;
    double within(double asked) const { return std::clamp(asked, low, high); }
};

// Where the second piece stands and what its number may be; at `asked`, or as is usual, and never beyond the range. A cam that
// has turned lies as it does before: only what runs on it has moved. None where the pair says no place: a spring that holds a
// follower on, gears that don't mesh, a cam that can't be made. `centre`: the pair's, of teeth.
struct PairPlace {
    Standing second; // in the first one's space
    PairRange range;
    double at = 0; // the number it stands at
};
std::optional<PairPlace> pair_place(const ResolvedPiece& first, std::size_t zone, const ResolvedPiece& second,
                                    std::size_t second_zone, std::optional<Length> centre = {},
                                    std::optional<double> asked = {});

} // namespace whorl
