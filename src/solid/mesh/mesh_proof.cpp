// What is proved of a mesh: its volume, and that it is watertight.
#include "solid/mesh/mesh.hpp"

#include <algorithm>
#include <numeric>
#include <stdexcept>
#include <string>

namespace whorl::solid {

double volume(const Mesh& mesh) {
    double six = 0;
    for (const auto& t : mesh.triangles) {
        const Point &a = mesh.points[t[0]], &b = mesh.points[t[1]], &c = mesh.points[t[2]];
        six += a.x * (b.y * c.z - b.z * c.y) - a.y * (b.x * c.z - b.z * c.x) + a.z * (b.x * c.y - b.y * c.x);
    }
    return six / 6;
}

void require_watertight(const Mesh& mesh) {
    // sides by the point they leave, then each against those that come back
    std::vector<std::uint32_t> begin(mesh.points.size() + 1), to(3 * mesh.triangles.size());
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const auto& t = mesh.triangles[i];
        const Point &a = mesh.points[t[0]], &b = mesh.points[t[1]], &c = mesh.points[t[2]];
        const Point u{b.x - a.x, b.y - a.y, b.z - a.z}, v{c.x - a.x, c.y - a.y, c.z - a.z};
        const Point n{u.y * v.z - u.z * v.y, u.z * v.x - u.x * v.z, u.x * v.y - u.y * v.x};
        if (!(n.x * n.x + n.y * n.y + n.z * n.z > 1e-24))
            throw std::logic_error("mesh: triangle " + std::to_string(i) + " on face " +
                                   std::to_string(mesh.face[i]) + " has no area");
        for (const std::uint32_t p : t)
            ++begin[p + 1];
    }
    std::partial_sum(begin.begin(), begin.end(), begin.begin());
    std::vector<std::uint32_t> next(begin.begin(), begin.end() - 1);
    for (const auto& t : mesh.triangles)
        for (std::size_t k = 0; k < 3; ++k)
            to[next[t[k]]++] = t[(k + 1) % 3];
    const auto sides_of = [&](std::uint32_t p) {
        return std::pair(to.begin() + begin[p], to.begin() + begin[p + 1]);
    };
    const auto points = static_cast<std::uint32_t>(mesh.points.size());
    for (std::uint32_t p = 0; p < points; ++p) {
        const auto [first, last] = sides_of(p);
        std::sort(first, last);
        if (std::adjacent_find(first, last) != last)
            throw std::logic_error("mesh: a side is used twice in one direction");
    }
    for (std::uint32_t p = 0; p < points; ++p) {
        const auto [first, last] = sides_of(p);
        for (auto q = first; q != last; ++q) {
            const auto [from, until] = sides_of(*q);
            if (!std::binary_search(from, until, p))
                throw std::logic_error("mesh: an open side between points " + std::to_string(p) + " and " +
                                       std::to_string(*q));
        }
    }
}

} // namespace whorl::solid
