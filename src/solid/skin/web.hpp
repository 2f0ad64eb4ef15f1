// A wheel's web: rings sunk into the flat sides of an outer zone, between its rim and its hub. Internal to
// the solid floor.
#pragma once

#include "model/resolve.hpp"
#include "solid/skin/skin.hpp"

namespace whorl::solid {

// Sinks the ring into each free side of the zone. Throws CannotMake if that shows no flat face, or if what is
// bored there reaches into the ring.
void sink_web(Skin& skin, const ResolvedPiece& piece, std::size_t zone);

} // namespace whorl::solid
