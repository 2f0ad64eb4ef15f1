// For the triangulation: arcs replaced by chords, so that only straight edges and plane bands are left.
#pragma once

#include "solid/skin/skin.hpp"

namespace whorl::solid {

struct Flattened {
    Skin skin;
    std::vector<std::uint32_t> face;      // of each face of `skin`: the face it is part of
    std::vector<std::vector<int>> chains; // of each original edge: its parts, from begin to end
};

// Arcs are cut evenly into chords that leave at most `chord` (mm) between them and the arc.
Flattened flatten(const Skin& skin, double chord);

} // namespace whorl::solid
