// The follower of a cam as a piece of its own: a roller with a bore for its pin, a pin with a point, a tappet
// with a flat or a domed face. It begins where it touches the cam, or, as a roller, lies along the cam.
// Internal to the forms of cams, but for where it stands.
#pragma once

#include "model/job.hpp"
#include "model/resolve.hpp"

#include <array>

namespace whorl {

// Of a cam's zone. Throws InputError where nothing can follow (a rib, a cam that can't be made).
Piece follower_piece(const ResolvedZone& cam, LengthUnit unit);
// Whether a zone can be the one that touches: a plain round one outside.
bool can_follow_cam(const Zone& zone);
// What a follower's zone takes over while it follows: its diameter, a roller's length, a dome's radius.
void follow_cam(Zone& follower, const Zone& cam, const Job& job);
// The follower with its pair.
Job add_follower(const Job& job, ZoneRef cam);

// Where a follower of that kind stands when the cam has turned by θ (rad) from how it is made: its own axes
// x, y, z (unit vectors) and its origin, in the cam's space.
struct Standing {
    std::array<double, 3> x, y, z, origin;
};
Standing follower_standing(const ResolvedZone& cam, double theta);

} // namespace whorl
