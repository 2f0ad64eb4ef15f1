#include "solid/skin.hpp"

#include <cmath>
#include <numbers>

namespace whorl::solid {

namespace {
constexpr double turn_angle = 2 * std::numbers::pi;

UnrolledPoint moved(UnrolledPoint p, int turns) {
    p.theta += turns * turn_angle;
    return p;
}
} // namespace

UnrolledPoint start_of(const Skin& skin, const EdgeUse& use) {
    const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
    return moved(use.forward ? e.begin : e.end, use.turn);
}

UnrolledPoint end_of(const Skin& skin, const EdgeUse& use) {
    const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
    return moved(use.forward ? e.end : e.begin, use.turn);
}

double volume(const Skin& skin) {
    // Over a fan of triangles: ∫ r² = A/6·(r1² + r2² + r3² + r1r2 + r2r3 + r3r1), r linear in (θ, z).
    double twice = 0;
    for (const Face& f : skin.faces) {
        if (f.kind != FaceKind::round) continue;
        for (const auto& loop : f.loops) {
            const UnrolledPoint o = start_of(skin, loop.front());
            for (const EdgeUse& use : loop) {
                const UnrolledPoint p = start_of(skin, use), q = end_of(skin, use);
                const double area =
                    0.5 * ((p.theta - o.theta) * (q.z - o.z) - (q.theta - o.theta) * (p.z - o.z));
                twice += area / 6 * (o.r * o.r + p.r * p.r + q.r * q.r + o.r * p.r + p.r * q.r + q.r * o.r);
            }
        }
    }
    return twice / 2;
}

void require_closed(const Skin& skin) {
    const auto complain = [](const std::string& what) { throw std::logic_error("skin: " + what); };
    std::vector<int> forward(skin.edges.size()), backward(skin.edges.size());
    for (std::size_t i = 0; i < skin.faces.size(); ++i) {
        const Face& f = skin.faces[i];
        const std::string name = "face " + std::to_string(i) + " (role " +
                                 std::to_string(static_cast<int>(f.role)) + ", zone " +
                                 std::to_string(f.zone) + ")";
        for (const auto& loop : f.loops) {
            if (loop.empty()) complain(name + " has an empty loop");
            for (std::size_t k = 0; k < loop.size(); ++k) {
                const EdgeUse& use = loop[k];
                const Edge& e = skin.edges.at(static_cast<std::size_t>(use.edge));
                (use.forward ? forward : backward)[static_cast<std::size_t>(use.edge)]++;
                const EdgeUse& next = loop[(k + 1) % loop.size()];
                const Edge& n = skin.edges.at(static_cast<std::size_t>(next.edge));
                if ((use.forward ? e.to : e.from) != (next.forward ? n.from : n.to))
                    complain(name + " has a broken loop at edge " + std::to_string(k));
                const UnrolledPoint end = end_of(skin, use), begin = start_of(skin, next);
                const bool wraps = f.kind == FaceKind::flat;
                if (!wraps && std::abs(end.theta - begin.theta) > 1e-9)
                    complain(name + " jumps in theta at edge " + std::to_string(k) + " by " +
                             std::to_string(end.theta - begin.theta));
                for (const UnrolledPoint& p : {start_of(skin, use), end}) {
                    const double off =
                        f.kind == FaceKind::flat ? p.z - f.a : p.r - (f.a + f.b * p.z + f.c * p.theta);
                    if (std::abs(off) > 1e-7)
                        complain(name + " has a corner " + std::to_string(off * 1e6) + " nm off its surface");
                }
            }
        }
    }
    for (std::size_t i = 0; i < skin.edges.size(); ++i)
        if (forward[i] != 1 || backward[i] != 1)
            complain("edge " + std::to_string(i) + " is used " + std::to_string(forward[i]) +
                     " times forward and " + std::to_string(backward[i]) + " times backward");
}

} // namespace whorl::solid
