// A disc cam's closed track: a groove between two lobes' walls, sunk into the disc's near face. Internal to the
// solid floor.
#pragma once

#include "model/resolve.hpp"
#include "solid/skin/skin.hpp"

namespace whorl::solid {

// The disc itself, as a plain round zone.
ResolvedZone disc_of(const ResolvedZone& cam);

// Throws CannotMake where the near face isn't flat all around, or what stands or is bored there reaches into the
// groove.
void sink_track(Skin& skin, const ResolvedPiece& piece, std::size_t zone);

} // namespace whorl::solid
