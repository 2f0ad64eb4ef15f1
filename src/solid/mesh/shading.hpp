// What a picture needs of a mesh beside its triangles: normals, the zone each belongs to, and the edges a
// draughtsman would draw.
#pragma once

#include "solid/bar/bar_body.hpp"

namespace whorl::solid {

struct Shading {
    std::vector<std::array<Point, 3>> normals; // of each triangle's corners, outwards
    std::vector<int> zone;                     // of each triangle
    // Pairs of mesh points. Where faces of one surface meet, or a flank runs smoothly into its root, there is
    // no line.
    std::vector<std::array<std::uint32_t, 2>> lines;
};

Shading shade(const Skin& skin, const Mesh& mesh);
Shading shade(const BarBody& body, const Mesh& mesh);

} // namespace whorl::solid
