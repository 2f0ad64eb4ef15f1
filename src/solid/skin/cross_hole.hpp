// Holes square to the axis, drilled into a finished skin: through planes, cylinders and cones, never through a
// helicoid.
//
// In the hole's own frame a point of its wall is (u, ρ·cos t, ρ·sin t); a face r = a + b·z gives u = ±√(r² − ρ²·cos²t),
// a plane a linear u. So both edges of a wall have a closed form in t, and nothing is intersected. Mouths are further
// loops of the faces they lie in, which must hold them whole: the planes that cut the faces around keep clear of
// them (keep_clear_of()). Each wall is two faces of half a turn.
#pragma once

#include "model/resolve.hpp"
#include "solid/skin/axial_cut.hpp"

namespace whorl::solid {

std::vector<KeepClear> keep_clear_of(const ResolvedPiece& piece);

// Into a skin that has been cut around. Throws CannotMake where a mouth would not lie in one such face.
void drill_cross_holes(Skin& skin, const ResolvedPiece& piece);

} // namespace whorl::solid
