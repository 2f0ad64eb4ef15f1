// Where the tips of the mating teeth go in a gear's spaces. Internal to the pair floor.
//
// An undercut gear has lost the foot of its involute, so tips that reach below the form circle find nothing
// to touch there: the path of contact ends at the form circle (ISO 21771, clause 5.4: usable flank), and they
// interfere only if they run into the root itself. That is tried: the tip's corner, with its chamfer or
// rounding, is followed through the root in 400 steps.
#pragma once

#include "pair/gear_mesh.hpp"

namespace whorl {

// How far tips reach into the root of `host`, mm along the circle; 0 or less if they stay clear. The teeth
// touch on the side that is looked at. The host must be an external gear.
enum class Host { first, second };
double tip_overlap(const ResolvedGear& host, const ResolvedGear& guest, const GearMesh& mesh, Host which);
double tip_overlap(const ResolvedGear& host, const ResolvedRack& guest, const GearMesh& mesh);

} // namespace whorl
