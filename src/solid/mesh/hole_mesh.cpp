#include "solid/mesh/hole_mesh.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

// The t at which an edge of a mouth, which never turns back in θ, is at this angle.
double parameter_at(const Edge& e, double theta) {
    const bool rises = e.end.theta > e.begin.theta;
    return halved(e.tooth_from, e.tooth_to, [&](double t) { return (point_at(e, t).theta < theta) == rises; })
        .middle();
}

} // namespace

std::vector<double> mouth_parameters(const Edge& e, const std::vector<double>& at, const Grid& lines,
                                     double snap, double chord) {
    std::vector<double> out;
    out.reserve(at.size());
    for (const double theta : at)
        out.push_back(parameter_at(e, theta));
    const double radius = e.mouth->hole.radius, low = std::min(e.tooth_from, e.tooth_to),
                 high = std::max(e.tooth_from, e.tooth_to);
    // half the chord, since one of the even samples may give way to a crossing beside it
    const double wide = 2 * std::acos(std::clamp(1 - chord / 2 / radius, -1.0, 1.0));
    const int per_turn = std::clamp(4 * static_cast<int>(std::ceil(full_turn / wide / 4)), 16, 360);
    const double step = full_turn / per_turn;
    const std::vector<double> crossings = out;
    for (double k = std::ceil(low / step); k * step < high; ++k) {
        const double t = k * step;
        if (t < low + 0.3 * step || t > high - 0.3 * step) continue;
        if (std::any_of(crossings.begin(), crossings.end(),
                        [&](double c) { return std::abs(c - t) < 0.3 * step; }))
            continue;
        const double grid = lines.of(point_at(e, t).theta);
        if (std::abs(grid - std::round(grid)) < 2 * snap) continue; // would be taken for one on the line
        out.push_back(t);
    }
    std::sort(out.begin(), out.end());
    if (e.tooth_to < e.tooth_from) std::reverse(out.begin(), out.end());
    return out;
}

void add_hole(const Skin& skin, Mesh& mesh, std::size_t index) {
    const Face& f = skin.faces[index];
    struct Node {
        std::uint32_t id;
        double t;
    };
    // the loop runs along the high mouth in rising t, down a line, back along the low mouth and up
    std::vector<Node> high, low;
    const double middle = (f.arc_from + f.arc_to) / 2;
    for (const EdgeUse& use : f.loops.front()) {
        const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
        if (e.shape != EdgeShape::mouth) continue;
        const auto& ids = mesh.edge_points[static_cast<std::size_t>(use.edge)];
        auto& chain = (use.forward == (e.tooth_to > e.tooth_from)) ? high : low;
        for (std::size_t k = 0; k < ids.size(); ++k) {
            const std::uint32_t id = ids[use.forward ? k : ids.size() - 1 - k];
            const double t = around_hole(*f.hole, mesh.unrolled[id]);
            if (chain.empty() || chain.back().id != id)
                chain.push_back({id, middle + std::remainder(t - middle, full_turn)});
        }
    }
    std::reverse(low.begin(), low.end());
    const auto add = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        mesh.triangles.push_back({a, b, c});
        mesh.face.push_back(static_cast<std::uint32_t>(index));
    };
    std::size_t i = 0, j = 0;
    while (i + 1 < high.size() || j + 1 < low.size()) {
        const bool along_high = j + 1 == low.size() ||
                                (i + 1 < high.size() && high[i + 1].t + high[i].t <= low[j + 1].t + low[j].t);
        if (along_high) {
            add(high[i].id, high[i + 1].id, low[j].id);
            ++i;
        } else {
            add(low[j + 1].id, low[j].id, high[i].id);
            ++j;
        }
    }
}

} // namespace whorl::solid
