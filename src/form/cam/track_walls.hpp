// The walls of a drum's track as a whole: every piece of them from node to node, and where what lies between
// them is cut across.
//
// Along the timing either wall runs from joint to joint of the motion. Three things interrupt it. A crossing:
// where the track meets itself, a wall of one way ends on each wall of the other, so that four corners stand
// about the crossing. A corner that is kept: the walls inside it end on each other. And outside of that corner
// a piece goes round the roller. Where two walls end on each other, that is at every radius r the solution of
//
//   θ_a(t_a, r) = θ_b(t_b, r) + 2π·k     z_a(t_a, r) = z_b(t_b, r)
//
// by Newton's steps from the crossing of both ways' tangents, once for every node of a Chebyshev sum in r
// (WallTrim), which has the walls' whole smoothness and so is exact to about 1e-10 mm.
//
//   near walls have side 0, far ones side 1
#pragma once

#include "form/cam/drum.hpp"

#include <array>
#include <vector>

namespace whorl {

// Where the track meets itself, in the order of their first angle. Throws nothing; `trouble` is set, with its
// angle, where two turns touch or run beside each other too close for a wall between them.
struct Crossings {
    std::vector<TrackCrossing> places;
    DrumTrouble trouble = DrumTrouble::none;
    double trouble_at = 0; // rad of the timing
};
Crossings crossings_of(const ResolvedDrum& drum);

struct TrackPiece {
    DrumWall wall;
    int side = 0;
    int begin = 0, end = 0; // nodes
};
// Across the track: the nodes of both walls at which the pieces before it end, and those after it begin.
struct TrackStation {
    std::array<int, 2> in{}, out{};
};
struct TrackWalls {
    std::vector<TrackPiece> pieces;          // those of a side in rising t
    int nodes = 0;                           // two pieces meet at each
    std::vector<TrackStation> stations;      // in rising t
    std::vector<std::array<int, 4>> squares; // about each crossing, counter-clockwise in (θ, z)
    DrumTrouble trouble = DrumTrouble::none;
    double trouble_at = 0; // rad of the timing
};
// Of a drum with its crossings.
TrackWalls walls_of(const ResolvedDrum& drum);

} // namespace whorl
