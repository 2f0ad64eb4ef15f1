#include "together/clash.hpp"

#include <fcl/geometry/bvh/BVH_model.h>
#include <fcl/math/bv/OBB.h>
#include <fcl/narrowphase/collision.h>

#include <algorithm>
#include <cmath>
#include <mutex>

namespace whorl {

using Tree = fcl::BVHModel<fcl::OBBd>;

class ClashBody {
public:
    // Made when first asked for: most pieces stand clear of every other one's box.
    const Tree* tree() const {
        std::call_once(made_, [&] {
            std::vector<fcl::Triangle> all;
            all.reserve(triangles.size());
            for (const auto& t : triangles)
                all.emplace_back(t[0], t[1], t[2]);
            tree_ = std::make_unique<Tree>();
            tree_->beginModel(int(all.size()), int(points.size()));
            tree_->addSubModel(points, all);
            tree_->endModel();
        });
        return tree_.get();
    }
    std::vector<fcl::Vector3d> points;
    std::vector<std::array<std::uint32_t, 3>> triangles;
    Box box;

private:
    mutable std::once_flag made_;
    mutable std::unique_ptr<Tree> tree_;
};

namespace {

fcl::Vector3d vec(const solid::Point& p) {
    return {p.x, p.y, p.z};
}

fcl::Transform3d transform(const Standing& s) {
    fcl::Transform3d out = fcl::Transform3d::Identity();
    for (int k = 0; k < 3; ++k) {
        const auto i = static_cast<std::size_t>(k);
        out.linear()(k, 0) = s.x[i];
        out.linear()(k, 1) = s.y[i];
        out.linear()(k, 2) = s.z[i];
        out.translation()(k) = s.origin[i];
    }
    return out;
}

bool boxes_meet(const Box& a, const Box& b) {
    for (std::size_t k = 0; k < 3; ++k)
        if (a.low[k] > b.high[k] || b.low[k] > a.high[k]) return false;
    return true;
}

// Whether a point in the body's own axes lies in its material: a ray in a direction of no symmetry leaves it an odd number of
// times (Möller, Trumbore 1997).
bool inside(const ClashBody& body, const fcl::Vector3d& from) {
    for (int k = 0; k < 3; ++k)
        if (from(k) < body.box.low[std::size_t(k)] || from(k) > body.box.high[std::size_t(k)]) return false;
    const fcl::Vector3d way(0.5377, 0.3219, 0.7793);
    bool in = false;
    for (const auto& t : body.triangles) {
        const fcl::Vector3d &a = body.points[t[0]], u = body.points[t[1]] - a, v = body.points[t[2]] - a,
                            h = way.cross(v);
        const double det = u.dot(h);
        if (std::abs(det) < 1e-14) continue;
        const fcl::Vector3d s = from - a, q = s.cross(u);
        const double p = s.dot(h) / det, r = way.dot(q) / det;
        if (p < 0 || r < 0 || p + r > 1) continue;
        if (v.dot(q) / det > 0) in = !in;
    }
    return in;
}

} // namespace

std::shared_ptr<const ClashBody> clash_body(const solid::Mesh& mesh, double skin) {
    auto out = std::make_shared<ClashBody>();
    // inwards along the mean of what meets in a point, each face as much as its angle there
    std::vector<fcl::Vector3d> normals(mesh.points.size(), fcl::Vector3d::Zero());
    for (const auto& t : mesh.triangles)
        for (std::size_t k = 0; k < 3; ++k) {
            const fcl::Vector3d u = vec(mesh.points[t[(k + 1) % 3]]) - vec(mesh.points[t[k]]),
                                v = vec(mesh.points[t[(k + 2) % 3]]) - vec(mesh.points[t[k]]), n = u.cross(v);
            const double size = n.norm();
            if (size > 0) normals[t[k]] += n / size * std::atan2(size, u.dot(v));
        }
    out->points.reserve(mesh.points.size());
    for (std::size_t i = 0; i < mesh.points.size(); ++i) {
        const double size = normals[i].norm();
        fcl::Vector3d at = vec(mesh.points[i]);
        if (size > 0) at -= normals[i] * (skin / size);
        out->points.push_back(at);
    }
    out->triangles = mesh.triangles;
    out->box = {{1e300, 1e300, 1e300}, {-1e300, -1e300, -1e300}};
    for (const auto& p : out->points)
        for (int k = 0; k < 3; ++k) {
            out->box.low[std::size_t(k)] = std::min(out->box.low[std::size_t(k)], p(k));
            out->box.high[std::size_t(k)] = std::max(out->box.high[std::size_t(k)], p(k));
        }
    return out;
}

bool clash(const ClashBody& one, const Standing& one_at, const ClashBody& other, const Standing& other_at) {
    if (one.points.empty() || other.points.empty()) return false;
    if (!boxes_meet(box_of(one.box, one_at), box_of(other.box, other_at))) return false;
    fcl::CollisionRequestd ask;
    fcl::CollisionResultd found;
    const fcl::Transform3d a = transform(one_at), b = transform(other_at);
    if (fcl::collide<double>(one.tree(), a, other.tree(), b, ask, found) > 0) return true;
    return inside(other, b.inverse() * (a * one.points.front())) ||
           inside(one, a.inverse() * (b * other.points.front()));
}

std::vector<Clash> clashes(const Job& job, const Arrangement& all,
                           const std::vector<std::shared_ptr<const ClashBody>>& bodies,
                           const std::stop_token& stop) {
    std::vector<Clash> out;
    const auto tied = [&](std::size_t i, std::size_t j) {
        return std::any_of(job.pairs.begin(), job.pairs.end(), [&](const Pair& p) {
            return (p.first.piece == i && p.second.piece == j) || (p.first.piece == j && p.second.piece == i);
        });
    };
    const std::size_t n = std::min(bodies.size(), all.pieces.size());
    for (std::size_t i = 0; i < n; ++i)
        for (std::size_t j = i + 1; j < n && !stop.stop_requested(); ++j)
            if (bodies[i] && bodies[j] && !tied(i, j) &&
                clash(*bodies[i], all.pieces[i].at, *bodies[j], all.pieces[j].at))
                out.push_back({i, j});
    return out;
}

} // namespace whorl
