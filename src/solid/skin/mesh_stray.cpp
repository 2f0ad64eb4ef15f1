#include "solid/skin/mesh_stray.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

Point straightened(const Mesh& mesh, std::uint32_t id) {
    const UnrolledPoint& p = mesh.unrolled[id];
    return {p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z};
}

double measured_stray(const Edge& e, const Mesh& mesh, const std::vector<std::uint32_t>& ids) {
    constexpr int samples = 48;
    double worst = 0;
    const double a = first_parameter(e), b = last_parameter(e);
    for (int k = 1; k < samples; ++k) {
        const UnrolledPoint p = point_at(e, a + (b - a) * k / samples);
        const double x = p.r * std::cos(p.theta), y = p.r * std::sin(p.theta);
        double nearest = 1e300;
        for (std::size_t i = 0; i + 1 < ids.size(); ++i) {
            const Point q = straightened(mesh, ids[i]), r = straightened(mesh, ids[i + 1]);
            const double sx = r.x - q.x, sy = r.y - q.y, sz = r.z - q.z;
            const double tx = x - q.x, ty = y - q.y, tz = p.z - q.z;
            const double along = std::clamp(
                (tx * sx + ty * sy + tz * sz) / std::max(1e-30, sx * sx + sy * sy + sz * sz), 0.0, 1.0);
            const double dx = tx - along * sx, dy = ty - along * sy, dz = tz - along * sz;
            nearest = std::min(nearest, dx * dx + dy * dy + dz * dz);
        }
        worst = std::max(worst, nearest);
    }
    return std::sqrt(worst);
}

} // namespace

// A step's chord from (r + b·θ)·e^{iθ}: δ²/8·|second derivative| = δ²/8·√(r² + 4b²), to first order.
double skin_deflection(const Skin& skin, const Mesh& mesh) {
    double bend = 0;
    for (const auto& e : skin.edges) {
        if (e.along_hole || e.shape == EdgeShape::mouth || e.shape == EdgeShape::shaped)
            continue; // straight in space; measured by themselves
        const double angle = e.end.theta - e.begin.theta;
        const double b = std::abs(angle) > 1e-12 ? (e.end.r - e.begin.r) / angle : 0;
        bend = std::max(bend, std::hypot(std::max(e.begin.r, e.end.r), 2 * b));
    }
    const double step = 2 * std::numbers::pi / mesh.steps_per_turn;
    const bool arcs = std::any_of(skin.faces.begin(), skin.faces.end(),
                                  [](const Face& f) { return f.kind == FaceKind::curved; });
    double along = 0; // of the rows in a bend
    for (std::size_t i = 0; i < skin.edges.size(); ++i)
        if (const Edge& e = skin.edges[i]; e.bend >= 0) {
            const double radius = skin.way.parts()[static_cast<std::size_t>(e.bend)].radius;
            const double row =
                std::abs(e.end.z - e.begin.z) / radius / static_cast<double>(mesh.edge_points[i].size() - 1);
            along = std::max(along, (radius + e.begin.r) * row * row / 8);
        }
    return (arcs ? 1.6 : 1.05) * (bend * step * step / 8 + along);
}

double StrayReader::operator()(const Edge& e, const Mesh& mesh, const std::vector<std::uint32_t>& points) {
    if (e.shape != EdgeShape::tooth) return measured_stray(e, mesh, points);
    const auto key = std::tuple(e.tooth.curve.get(), std::min(e.tooth_from, e.tooth_to),
                                std::max(e.tooth_from, e.tooth_to), points.size());
    const auto known = known_.find(key);
    if (known != known_.end()) return known->second;
    return known_[key] = measured_stray(e, mesh, points);
}

} // namespace whorl::solid
