// Zones of a bent bar: it is made straight, and its bends are lengths of it.
#pragma once

#include "model/resolve.hpp"
#include "solid/skin/skin.hpp"

namespace whorl::solid {

// A zone in the lengths that follow from the bends. Throws CannotMake where more than a cylinder lies in one.
std::vector<ResolvedZone> bent_lengths(const ResolvedPiece& piece, std::size_t index);
// Which faces and edges run along the bar inside a bend.
void mark_bends(Skin& skin);

} // namespace whorl::solid
