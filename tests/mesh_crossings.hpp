// Whether a triangulation crosses itself, and how deep: every triangle against every other that does not share a side
// with it, by a tree of boxes. The depth of a crossing is how far an edge reaches through the other triangle: the nearer
// of its ends off that one's plane, and the place where it goes through off that one's border, whichever is less.
#pragma once

#include "solid/mesh/mesh.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <vector>

namespace whorl::test {

struct MeshCrossing {
    double depth = 0;                  // mm; 0: none
    std::size_t first = 0, second = 0; // triangles
    std::size_t count = 0;             // pairs that cross deeper than asked
};

class MeshCrossings {
public:
    explicit MeshCrossings(const solid::Mesh& mesh) : mesh_(mesh), order_(mesh.triangles.size()) {
        boxes_.reserve(order_.size());
        for (const auto& t : mesh.triangles) {
            Box b;
            for (const auto p : t)
                b.take(mesh.points[p]);
            boxes_.push_back(b);
        }
        std::iota(order_.begin(), order_.end(), 0u);
        if (!order_.empty()) split(0, order_.size());
    }

    // The deepest, and how many are deeper than `least`.
    MeshCrossing deepest(double least) {
        worst_ = {};
        least_ = least;
        if (!tree_.empty()) against(0, 0);
        return worst_;
    }

private:
    struct Vec {
        double x, y, z;
    };
    static Vec minus(const solid::Point& a, const solid::Point& b) {
        return {a.x - b.x, a.y - b.y, a.z - b.z};
    }
    static Vec cross(const Vec& a, const Vec& b) {
        return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
    }
    static double dot(const Vec& a, const Vec& b) { return a.x * b.x + a.y * b.y + a.z * b.z; }

    struct Box {
        std::array<double, 3> low{1e300, 1e300, 1e300}, high{-1e300, -1e300, -1e300};
        void take(const solid::Point& p) {
            const double v[3]{p.x, p.y, p.z};
            for (std::size_t k = 0; k < 3; ++k)
                low[k] = std::min(low[k], v[k]), high[k] = std::max(high[k], v[k]);
        }
        void take(const Box& b) {
            for (std::size_t k = 0; k < 3; ++k)
                low[k] = std::min(low[k], b.low[k]), high[k] = std::max(high[k], b.high[k]);
        }
        bool meets(const Box& b) const {
            for (std::size_t k = 0; k < 3; ++k)
                if (low[k] > b.high[k] || b.low[k] > high[k]) return false;
            return true;
        }
    };
    struct Node {
        Box box;
        std::size_t begin, end;
        std::size_t left = 0, right = 0; // 0: a leaf
    };

    std::size_t split(std::size_t begin, std::size_t end) {
        const std::size_t at = tree_.size();
        tree_.push_back({{}, begin, end});
        Box box;
        for (std::size_t i = begin; i < end; ++i)
            box.take(boxes_[order_[i]]);
        tree_[at].box = box;
        if (end - begin <= 4) return at;
        std::size_t axis = 0;
        for (std::size_t k = 1; k < 3; ++k)
            if (box.high[k] - box.low[k] > box.high[axis] - box.low[axis]) axis = k;
        const auto middle = order_.begin() + static_cast<long>((begin + end) / 2);
        std::nth_element(order_.begin() + static_cast<long>(begin), middle,
                         order_.begin() + static_cast<long>(end), [&](auto a, auto b) {
                             return boxes_[a].low[axis] + boxes_[a].high[axis] <
                                    boxes_[b].low[axis] + boxes_[b].high[axis];
                         });
        const std::size_t left = split(begin, (begin + end) / 2), right = split((begin + end) / 2, end);
        tree_[at].left = left, tree_[at].right = right;
        return at;
    }

    void against(std::size_t i, std::size_t j) {
        const Node &a = tree_[i], &b = tree_[j];
        if (!a.box.meets(b.box)) return;
        if (a.left == 0 && b.left == 0) {
            for (std::size_t k = a.begin; k < a.end; ++k)
                for (std::size_t l = i == j ? k + 1 : b.begin; l < b.end; ++l)
                    if (boxes_[order_[k]].meets(boxes_[order_[l]])) pair(order_[k], order_[l]);
            return;
        }
        if (i == j) {
            against(a.left, a.left);
            against(a.left, a.right);
            against(a.right, a.right);
        } else if (b.left == 0 || (a.left != 0 && a.end - a.begin > b.end - b.begin)) {
            against(tree_[i].left, j);
            against(tree_[i].right, j);
        } else {
            against(i, tree_[j].left);
            against(i, tree_[j].right);
        }
    }

    void pair(std::size_t a, std::size_t b) {
        const auto &t = mesh_.triangles[a], &u = mesh_.triangles[b];
        int shared = 0;
        for (const auto p : t)
            shared += std::count(u.begin(), u.end(), p) > 0;
        if (shared >= 2) return;
        const double depth = std::max(through(t, u), through(u, t));
        if (depth > least_) ++worst_.count;
        if (depth > worst_.depth) worst_.depth = depth, worst_.first = a, worst_.second = b;
    }

    // How far an edge of t reaches through u.
    double through(const std::array<std::uint32_t, 3>& t, const std::array<std::uint32_t, 3>& u) const {
        const auto &a = mesh_.points[u[0]], &b = mesh_.points[u[1]], &c = mesh_.points[u[2]];
        const Vec ab = minus(b, a), ac = minus(c, a), n = cross(ab, ac);
        const double size = std::sqrt(dot(n, n));
        if (!(size > 0)) return 0;
        double most = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t i = t[k], j = t[(k + 1) % 3];
            if (std::count(u.begin(), u.end(), i) || std::count(u.begin(), u.end(), j)) continue;
            const auto &p = mesh_.points[i], &q = mesh_.points[j];
            const double dp = dot(minus(p, a), n) / size, dq = dot(minus(q, a), n) / size;
            if ((dp > 0) == (dq > 0) || dp == 0 || dq == 0) continue;
            const double s = dp / (dp - dq);
            const solid::Point x{p.x + s * (q.x - p.x), p.y + s * (q.y - p.y), p.z + s * (q.z - p.z)};
            double inside = 1e300; // off the border
            const solid::Point* corners[]{&a, &b, &c};
            for (std::size_t e = 0; e < 3; ++e) {
                const auto &from = *corners[e], &to = *corners[(e + 1) % 3];
                const Vec side = minus(to, from);
                inside =
                    std::min(inside, dot(cross(side, minus(x, from)), n) / size / std::sqrt(dot(side, side)));
            }
            most = std::max(most, std::min({std::abs(dp), std::abs(dq), inside}));
        }
        return most;
    }

    const solid::Mesh& mesh_;
    std::vector<std::uint32_t> order_;
    std::vector<Box> boxes_;
    std::vector<Node> tree_;
    MeshCrossing worst_;
    double least_ = 0;
};

} // namespace whorl::test
