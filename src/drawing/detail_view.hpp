// The enlarged detail of what a screw motion sweeps: its true section in the axial plane, with its dimensions.
#pragma once

#include "drawing/placed_view.hpp"

namespace whorl::drawing {

// mm on paper for a mm: of the standard scales the one that a pitch is about 25 mm on paper with.
double detail_scale(const ThreadSection& section);
// About its own origin, the root's or crest's level at y = 0.
PlacedView place_detail(const Draft& draft, std::size_t zone, double scale, const std::string& letter);
// Where it is taken, on the main view: a thin circle with its letter.
void mark_detail(PlacedView& main, const Draft& draft, std::size_t zone, double main_scale,
                 const std::string& letter);

} // namespace whorl::drawing
