// Triangulating the round in which a milled groove ends. Internal to the solid floor.
//
// A face is a grid in (α, v) within, and four strips between its border, whose points its neighbours share, and that.
#pragma once

#include "solid/mesh/mesh.hpp"

namespace whorl::solid {

// Parameters of a scooped edge between its ends at which it is sampled: `at` are the grid's angles between them.
std::vector<double> scooped_parameters(const Edge& e, const std::vector<double>& at, double chord);
void add_scoop(const Skin& skin, Mesh& mesh, std::size_t face, double chord);

} // namespace whorl::solid
