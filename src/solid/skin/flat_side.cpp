#include "solid/skin/flat_side.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {

namespace {
using Loop = std::vector<EdgeUse>;
} // namespace

double nearest(const Skin& skin, const Loop& loop) {
    double r = 1e300;
    for (const EdgeUse& u : loop) {
        const Edge& e = skin.edges[static_cast<std::size_t>(u.edge)];
        r = std::min({r, e.begin.r, e.end.r, point_at(e, (first_parameter(e) + last_parameter(e)) / 2).r});
    }
    return r;
}

double farthest(const Skin& skin, const std::vector<Loop>& loops) {
    double r = 0;
    for (const Loop& l : loops)
        for (const EdgeUse& u : l) {
            const Edge& e = skin.edges[static_cast<std::size_t>(u.edge)];
            r = std::max({r, e.begin.r, e.end.r});
        }
    return r;
}

std::optional<std::size_t> flat_side(const Skin& skin, int zone, double z, bool up) {
    std::optional<std::size_t> found;
    for (std::size_t i = 0; i < skin.faces.size(); ++i) {
        const Face& f = skin.faces[i];
        if (f.kind != FaceKind::flat || f.bore != 0 || f.zone != zone || f.up != up ||
            std::abs(f.a - z) > 1e-9)
            continue;
        if (found) return {};
        found = i;
    }
    return found;
}

int shared_join(Skin& skin, std::size_t face) {
    int join = -1;
    for (const Loop& l : skin.faces[face].loops)
        for (const EdgeUse& u : l)
            join = std::max(join, skin.edges[static_cast<std::size_t>(u.edge)].join);
    if (join >= 0) return join;
    join = static_cast<int>(skin.joins.size());
    skin.joins.push_back({skin.faces[face].a, {}});
    for (const Loop& l : skin.faces[face].loops)
        for (const EdgeUse& u : l) {
            Edge& e = skin.edges[static_cast<std::size_t>(u.edge)];
            e.join = join;
            skin.joins.back().theta.push_back(e.begin.theta -
                                              std::floor(e.begin.theta / full_turn) * full_turn);
        }
    return join;
}

std::size_t add_flat_face(Skin& skin, FaceRole role, int zone, bool up, double z, std::vector<Loop> rising) {
    Face f;
    f.kind = FaceKind::flat;
    f.role = role;
    f.zone = zone;
    f.a = z;
    f.up = up;
    // outer loop first; it rises seen against the outward normal, the hole falls
    for (std::size_t i = 0; i < rising.size(); ++i)
        f.loops.push_back((i == 0) == up ? std::move(rising[i]) : reversed(std::move(rising[i])));
    skin.faces.push_back(std::move(f));
    return skin.faces.size() - 1;
}

} // namespace whorl::solid
