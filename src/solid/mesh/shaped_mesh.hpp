// Triangulating silhouettes. Internal to the solid floor.
//
// A face is a grid in (φ, z). Rows are as far apart as the meridians bend, those through the scallops' middles and
// over the ridges alike, and as the rails wind: the density of rows is √(|r''|/(8·√(1 + r'²)·chord)) + |twist|·√(R/(8·
// chord)), and they stand where its integral is whole. All faces between the same heights have the same ones.
#pragma once

#include "solid/mesh/mesh.hpp"

namespace whorl::solid {

// Between the ends of a patch, without these: heights of its rows, and φ of the columns of a fluted one.
std::vector<double> shaped_rows(const ShapedPatch& patch, double chord);
std::vector<double> shaped_columns(const ShapedPatch& patch, double chord);
void add_shaped(const Skin& skin, Mesh& mesh, std::size_t face, double chord);

} // namespace whorl::solid
