// The triangulation of a cross hole's wall, and the samples of its mouths. The wall is ruled along the hole: what is
// sampled on its mouths is joined straight across.
#pragma once

#include "solid/mesh/edge_samples.hpp"

namespace whorl::solid {

// Strictly between a mouth edge's ends, from its begin to its end: where it crosses the angles `at`, and between
// them as its chords need.
std::vector<double> mouth_parameters(const Edge& e, const std::vector<double>& at, const Grid& lines,
                                     double snap, double chord);

void add_hole(const Skin& skin, Mesh& mesh, std::size_t face);

} // namespace whorl::solid
