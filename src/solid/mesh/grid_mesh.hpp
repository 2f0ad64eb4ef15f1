// Faces with four sides, meshed as rows from the near one to the far one. Internal to the solid floor.
#pragma once

#include "solid/mesh/mesh.hpp"

#include <array>
#include <functional>

namespace whorl::solid {

using Ids = std::vector<std::uint32_t>;

// A chain of mesh points with their places along it, rising.
struct Chain {
    Ids ids;
    std::vector<double> at;
};

void triangle(Mesh& mesh, std::uint32_t face, bool over, std::uint32_t a, std::uint32_t b, std::uint32_t c);
// The strip between two chains, the second beyond the first; counter-clockwise when they run to the right.
void zip(Mesh& mesh, std::uint32_t face, bool over, const Chain& low, const Chain& high);
// The points of a stretch of a loop, in its direction.
void add_points(const Mesh& mesh, const EdgeUse& use, Ids& ids);

// The near side in rising θ, the one at the face's end in rising z, the far one in rising θ, the one at its begin in
// rising z. `is_rail` tells the edges that run along the piece; there are two.
std::array<Ids, 4> four_sides(const Skin& skin, const Mesh& mesh, const Face& face,
                              const std::function<bool(const Edge&)>& is_rail);

} // namespace whorl::solid
