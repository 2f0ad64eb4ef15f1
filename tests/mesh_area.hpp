// The surface of a mesh, for bounds on volumes.
#pragma once

#include "solid/mesh/mesh.hpp"

#include <cmath>

namespace whorl::test {

inline double area(const solid::Mesh& mesh) {
    double twice = 0;
    for (const auto& t : mesh.triangles) {
        const auto &a = mesh.points[t[0]], &b = mesh.points[t[1]], &c = mesh.points[t[2]];
        const double u[3]{b.x - a.x, b.y - a.y, b.z - a.z}, v[3]{c.x - a.x, c.y - a.y, c.z - a.z};
        twice += std::hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]);
    }
    return twice / 2;
}

} // namespace whorl::test
