#include "solid/mesh/grid_mesh.hpp"

#include <algorithm>
#include <stdexcept>

namespace whorl::solid {

void triangle(Mesh& mesh, std::uint32_t face, bool over, std::uint32_t a, std::uint32_t b, std::uint32_t c) {
    if (a == b || b == c || c == a) return;
    if (over) std::swap(b, c);
    mesh.triangles.push_back({a, b, c});
    mesh.face.push_back(face);
}

void zip(Mesh& mesh, std::uint32_t face, bool over, const Chain& low, const Chain& high) {
    std::size_t i = 0, j = 0;
    while (i + 1 < low.ids.size() || j + 1 < high.ids.size()) {
        const bool step_low =
            j + 1 == high.ids.size() ||
            (i + 1 < low.ids.size() && low.at[i + 1] + low.at[i] < high.at[j + 1] + high.at[j]);
        if (step_low) {
            triangle(mesh, face, over, low.ids[i], low.ids[i + 1], high.ids[j]);
            ++i;
        } else {
            triangle(mesh, face, over, low.ids[i], high.ids[j + 1], high.ids[j]);
            ++j;
        }
    }
}

void add_points(const Mesh& mesh, const EdgeUse& use, Ids& ids) {
    const auto& e = mesh.edge_points[static_cast<std::size_t>(use.edge)];
    const std::size_t n = e.size();
    for (std::size_t k = ids.empty() ? 0 : 1; k < n; ++k)
        ids.push_back(e[use.forward ? k : n - 1 - k]);
}

std::array<Ids, 4> four_sides(const Skin& skin, const Mesh& mesh, const Face& f,
                              const std::function<bool(const Edge&)>& is_rail) {
    const std::vector<EdgeUse> loop = f.inward ? reversed(f.loops.front()) : f.loops.front();
    const std::size_t n = loop.size();
    const auto rail = [&](std::size_t i) {
        return is_rail(skin.edges[static_cast<std::size_t>(loop[i % n].edge)]);
    };
    std::size_t first = 2 * n;
    for (std::size_t i = 0; i < n; ++i)
        if (rail(i) && !rail(i + 1) && start_of(skin, loop[i]).z > end_of(skin, loop[i]).z) first = i + 1;
    std::array<Ids, 4> side;
    std::size_t at_side = 0;
    for (std::size_t k = first; first < 2 * n && k < first + n && at_side < 4; ++k) {
        if (k > first && rail(k) != rail(k - 1)) ++at_side;
        if (at_side < 4) add_points(mesh, loop[k % n], side[at_side]);
    }
    if (at_side != 3) throw std::logic_error("mesh: a face that is meshed in rows has no four sides");
    for (const std::size_t k : {2, 3})
        std::reverse(side[k].begin(), side[k].end());
    return side;
}

} // namespace whorl::solid
