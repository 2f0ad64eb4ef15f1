// Turning diagonals of a triangulated polygon where that makes the worse of the two triangles beside one better. Ear
// clipping alone can leave triangles of three neighbouring points of a curved edge, which stand on edge or have no area
// once they are rounded. Each turn makes the worst of the two better, so that it ends. Internal to the meshes.
#pragma once

#include <algorithm>
#include <array>
#include <cstdint>
#include <vector>

namespace whorl::solid {

using Corners = std::array<std::uint32_t, 3>;

// `quality(a, b, c)`: the larger the better, not above 0 for a triangle turned over. `same(a, b)`: whether two corners are
// one point.
template<class Quality, class Same>
void turn_diagonals(std::vector<Corners>& triangles, const Quality& quality, const Same& same) {
    constexpr std::size_t none = 3;
    const auto across = [](const Corners& t, std::uint32_t from, std::uint32_t to) {
        for (std::size_t k = 0; k < 3; ++k)
            if (t[k] == from && t[(k + 1) % 3] == to) return (k + 2) % 3;
        return none;
    };
    constexpr int most_passes = 12;
    for (int pass = 0; pass < most_passes; ++pass) {
        bool turned = false;
        for (std::size_t i = 0; i < triangles.size(); ++i)
            for (std::size_t side = 0; side < 3; ++side) {
                const std::uint32_t a = triangles[i][side], b = triangles[i][(side + 1) % 3],
                                    p = triangles[i][(side + 2) % 3];
                for (std::size_t j = 0; j < triangles.size(); ++j) {
                    if (j == i) continue;
                    const std::size_t k = across(triangles[j], b, a);
                    if (k == none) continue;
                    const std::uint32_t q = triangles[j][k];
                    if (same(p, q)) break;
                    const double now = std::min(quality(a, b, p), quality(b, a, q)),
                                 then = std::min(quality(a, q, p), quality(q, b, p));
                    if (then > now * 1.001 && then > 0) {
                        triangles[i] = {a, q, p};
                        triangles[j] = {q, b, p};
                        turned = true;
                    }
                    break;
                }
            }
        if (!turned) return;
    }
}

} // namespace whorl::solid
