// What is proved of a mesh: its volume, and that it is watertight.
#include "solid/mesh.hpp"

#include <stdexcept>
#include <unordered_map>

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
    std::unordered_map<std::uint64_t, int> sides;
    sides.reserve(mesh.triangles.size() * 3);
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const auto& t = mesh.triangles[i];
        const Point &a = mesh.points[t[0]], &b = mesh.points[t[1]], &c = mesh.points[t[2]];
        const Point u{b.x - a.x, b.y - a.y, b.z - a.z}, v{c.x - a.x, c.y - a.y, c.z - a.z};
        const Point n{u.y * v.z - u.z * v.y, u.z * v.x - u.x * v.z, u.x * v.y - u.y * v.x};
        if (!(n.x * n.x + n.y * n.y + n.z * n.z > 1e-24))
            throw std::logic_error("mesh: triangle " + std::to_string(i) + " on face " +
                                   std::to_string(mesh.face[i]) + " has no area");
        for (int k = 0; k < 3; ++k) {
            const std::uint64_t p = t[static_cast<std::size_t>(k)],
                                q = t[static_cast<std::size_t>((k + 1) % 3)];
            if (++sides[p << 32 | q] > 1)
                throw std::logic_error("mesh: a side is used twice in one direction");
        }
    }
    for (const auto& [side, count] : sides)
        if (!sides.contains((side & 0xffffffffu) << 32 | side >> 32))
            throw std::logic_error("mesh: an open side between points " + std::to_string(side >> 32) +
                                   " and " + std::to_string(side & 0xffffffffu));
}

} // namespace whorl::solid
