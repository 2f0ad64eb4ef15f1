#include "exchange/export.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

void put(std::string& out, const void* data, std::size_t size) {
    out.append(static_cast<const char*>(data), size);
}

} // namespace

std::string stl_of(const solid::Mesh& mesh, const std::string& name) {
    std::string header = "Regular Whorl, mm, " + name;
    header.resize(80, ' ');
    std::string out = header;
    std::string body;
    body.reserve(mesh.triangles.size() * 50);
    std::uint32_t count = 0;
    for (const auto& t : mesh.triangles) {
        float v[3][3];
        for (int k = 0; k < 3; ++k) {
            const auto& p = mesh.points[t[static_cast<std::size_t>(k)]];
            v[k][0] = static_cast<float>(p.x);
            v[k][1] = static_cast<float>(p.y);
            v[k][2] = static_cast<float>(p.z);
        }
        const auto same = [&](int a, int b) { return std::ranges::equal(v[a], v[b]); };
        // a side shorter than single precision resolves vanishes with both its triangles: still watertight
        if (same(0, 1) || same(1, 2) || same(2, 0)) continue;
        double n[3];
        const double u[3]{double(v[1][0]) - v[0][0], double(v[1][1]) - v[0][1], double(v[1][2]) - v[0][2]};
        const double w[3]{double(v[2][0]) - v[0][0], double(v[2][1]) - v[0][1], double(v[2][2]) - v[0][2]};
        n[0] = u[1] * w[2] - u[2] * w[1];
        n[1] = u[2] * w[0] - u[0] * w[2];
        n[2] = u[0] * w[1] - u[1] * w[0];
        const double length = std::sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
        float normal[3]{};
        if (length > 0)
            for (int k = 0; k < 3; ++k)
                normal[k] = static_cast<float>(n[k] / length);
        put(body, normal, sizeof normal);
        put(body, v, sizeof v);
        const std::uint16_t attribute = 0;
        put(body, &attribute, sizeof attribute);
        ++count;
    }
    put(out, &count, sizeof count);
    return out + body;
}

void write_stl(const solid::Mesh& mesh, const std::string& name, const std::filesystem::path& path) {
    solid::require_watertight(mesh); // nothing leaks out of here, whatever came before
    write_file_atomically(path, stl_of(mesh, name));
}

} // namespace whorl
