#include "solid/mesh/face_triangulator.hpp"

#include "quantity/numeric.hpp"
#include "solid/mesh/diagonals.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <optional>
#include <span>

namespace whorl::solid {
namespace {

// A face's boundary point in its own chart.
struct Node {
    std::uint32_t id; // mesh point
    double u,
        v; // chart: (θ, z − slope·θ) for round faces, (x, y) for flat ones; v is used to sort on grid lines
    double sort; // z (round) or r (flat): order along a grid line
    double grid; // θ in grid steps
    long line;   // grid line it lies on, or not_on_line
};
constexpr long not_on_line = std::numeric_limits<long>::min();

struct Segment {
    std::uint32_t from, to; // node indices
    long slab;
};

double cross(const Node& a, const Node& b, const Node& c) {
    return (b.u - a.u) * (c.v - a.v) - (c.u - a.u) * (b.v - a.v);
}

} // namespace

class FaceTriangulator::Work {
public:
    Work(const Skin& skin, Mesh& mesh, const Grid& lines)
        : skin_(skin), mesh_(mesh), lines_(lines), snap_(snap_of(skin, lines)) {}

    void add(std::size_t face_index) {
        face_ = &skin_.faces[face_index];
        index_ = static_cast<std::uint32_t>(face_index);
        collect();
        if (flat() && face_->role == FaceRole::end && face_->loops.size() == 1) return disc();
        known_quad_ = {};
        if (!flat() && quads_only()) return;
        std::erase_if(segments_, [&](const Segment& s) { return is_done(s.slab); });
        std::sort(segments_.begin(), segments_.end(),
                  [](const Segment& a, const Segment& b) { return a.slab < b.slab; });
        for (std::size_t i = 0; i < segments_.size();) {
            std::size_t j = i;
            while (j < segments_.size() && segments_[j].slab == segments_[i].slab)
                ++j;
            slab(i, j);
            i = j;
        }
    }

private:
    bool flat() const { return face_->kind == FaceKind::flat; }

    std::uint32_t node(std::uint32_t id, double theta) {
        const UnrolledPoint& p = mesh_.unrolled[id];
        Node n;
        n.id = id;
        n.grid = lines_.of(theta);
        const double nearest = std::round(n.grid);
        n.line = std::abs(n.grid - nearest) < snap_ ? static_cast<long>(nearest) : not_on_line;
        if (flat()) {
            // rings close around the axis: fold to one turn
            const long per_turn = mesh_.steps_per_turn;
            if (n.line != not_on_line) n.line = ((n.line % per_turn) + per_turn) % per_turn;
            n.grid =
                n.grid - std::floor(n.grid / static_cast<double>(per_turn)) * static_cast<double>(per_turn);
            n.u = mesh_.points[id].x;
            n.v = mesh_.points[id].y;
            n.sort = p.r;
        } else {
            n.u = theta;
            n.v = p.z - face_->rail_slope * theta;
            n.sort = n.v;
        }
        nodes_.push_back(n);
        return static_cast<std::uint32_t>(nodes_.size()) - 1;
    }

    void collect() {
        nodes_.clear();
        segments_.clear();
        on_lines_.clear();
        for (const auto& loop : face_->loops) {
            const std::size_t first = nodes_.size();
            for (std::size_t at = 0; at < loop.size(); ++at) {
                // a face that looks at the axis is worked on as its mirror image, and its triangles turned
                // over
                EdgeUse use = loop[face_->inward ? loop.size() - 1 - at : at];
                if (face_->inward) use.forward = !use.forward;
                const auto e = static_cast<std::size_t>(use.edge);
                const auto& ids = mesh_.edge_points[e];
                const auto& thetas = mesh_.edge_theta[e];
                const std::size_t n = ids.size();
                for (std::size_t k = 0; k + 1 < n; ++k) {
                    const std::size_t i = use.forward ? k : n - 1 - k;
                    node(ids[i], thetas[i] + use.turn * full_turn);
                }
            }
            const std::size_t count = nodes_.size() - first;
            for (std::size_t k = 0; k < count; ++k) {
                const auto a = static_cast<std::uint32_t>(first + k),
                           b = static_cast<std::uint32_t>(first + (k + 1) % count);
                const long s = slab_of(nodes_[a], nodes_[b]);
                if (s != not_on_line) segments_.push_back({a, b, s});
            }
        }
        interior_lines_ = false;
    }

    // The slab between grid lines in which a segment lies; not_on_line for one that lies along a line.
    long slab_of(const Node& a, const Node& b) const {
        const long per_turn = mesh_.steps_per_turn;
        const auto inside = [](const Node& n) { return static_cast<long>(std::floor(n.grid)); };
        if (a.line == not_on_line) return inside(a);
        if (b.line == not_on_line) return inside(b);
        if (a.line == b.line) return not_on_line;
        if (flat()) {
            if ((a.line + 1) % per_turn == b.line) return a.line;
            if ((b.line + 1) % per_turn == a.line) return b.line;
        }
        return std::min(a.line, b.line);
    }

    bool on(const Node& n, long line) const {
        if (n.line == not_on_line) return false;
        return flat() ? n.line == line % mesh_.steps_per_turn : n.line == line;
    }

    void triangle(std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        if (face_->inward) std::swap(b, c);
        mesh_.triangles.push_back({nodes_[a].id, nodes_[b].id, nodes_[c].id});
        mesh_.face.push_back(index_);
    }

    // The everyday slabs of a face that runs around the axis: one segment across below, one back above, and no other node
    // on either line. They are found by counting, since sorting is most of the work on a face of many. True: that is all.
    bool quads_only() {
        slabs_.clear();
        if (segments_.empty()) return true;
        long last = segments_.front().slab;
        first_slab_ = last;
        for (const Segment& s : segments_)
            first_slab_ = std::min(first_slab_, s.slab), last = std::max(last, s.slab);
        if (last - first_slab_ > 1 << 20) return false;
        slabs_.resize(static_cast<std::size_t>(last - first_slab_) + 2);
        const auto in = [&](long line) -> InSlab& {
            return slabs_[static_cast<std::size_t>(line - first_slab_)];
        };
        for (std::size_t i = 0; i < segments_.size(); ++i) {
            InSlab& s = in(segments_[i].slab);
            if (s.segments < 2) s.segment[s.segments] = static_cast<std::uint32_t>(i);
            ++s.segments;
        }
        for (const Node& n : nodes_)
            if (n.line != not_on_line && n.line >= first_slab_ && n.line <= last + 1) ++in(n.line).nodes;
        bool all = true;
        for (long s = first_slab_; s <= last; ++s) {
            InSlab& here = in(s);
            here.done =
                here.segments == 0 || (here.segments == 2 && here.nodes <= 2 && in(s + 1).nodes <= 2 &&
                                       quad(s, segments_[here.segment[0]], segments_[here.segment[1]]));
            all = all && here.done;
        }
        return all;
    }
    bool is_done(long slab) const {
        return !slabs_.empty() && !flat() && slabs_[static_cast<std::size_t>(slab - first_slab_)].done;
    }

    // Between a segment from line s to the next one and one back above it. False where they are no such two.
    bool quad(long s, const Segment& one, const Segment& other) {
        const Segment *low = &one, *high = &other;
        if (nodes_[low->from].line != s) std::swap(low, high);
        if (nodes_[low->from].line != s || nodes_[low->to].line != s + 1 ||
            nodes_[high->from].line != s + 1 || nodes_[high->to].line != s)
            return false;
        const Node &a = nodes_[low->from], &b = nodes_[low->to], &c = nodes_[high->from],
                   &d = nodes_[high->to];
        const bool ab = a.id == d.id, bc = b.id == c.id;
        if (ab && bc) return true;
        if (ab) {
            triangle(low->from, low->to, high->from);
        } else if (bc) {
            triangle(low->from, low->to, high->to);
        } else if (first_diagonal(a, b, c, d)) {
            triangle(low->from, low->to, high->from);
            triangle(low->from, high->from, high->to);
        } else {
            triangle(low->from, low->to, high->to);
            triangle(low->to, high->from, high->to);
        }
        return true;
    }
    // Which diagonal of a quad lies nearer to the surface. Along a helical band all quads are alike.
    bool first_diagonal(const Node& a, const Node& b, const Node& c, const Node& d) {
        if (face_->c == 0) return true;
        const std::array<double, 8> now{a.v,
                                        b.v,
                                        c.v,
                                        d.v,
                                        mesh_.unrolled[a.id].r,
                                        mesh_.unrolled[b.id].r,
                                        mesh_.unrolled[c.id].r,
                                        mesh_.unrolled[d.id].r};
        bool alike = known_quad_.has_value();
        for (std::size_t k = 0; k < now.size() && alike; ++k)
            alike = std::abs(now[k] - known_quad_->at[k]) < 1e-9;
        if (!alike) known_quad_ = KnownQuad{now, off_surface(a, c) <= off_surface(b, d)};
        return known_quad_->first;
    }

    void slab(std::size_t begin, std::size_t end) {
        const long s = segments_[begin].slab;
        const bool clockwise = flat() && !face_->up; // charts of downward faces are seen from behind
        // the everyday case: one segment across below, one back above
        if (end - begin == 2 && !flat()) {
            const Segment *low = &segments_[begin], *high = &segments_[begin + 1];
            if (nodes_[low->from].line != s) std::swap(low, high);
            if (nodes_[low->from].line == s && nodes_[low->to].line == s + 1 &&
                nodes_[high->from].line == s + 1 && nodes_[high->to].line == s &&
                !has_others_between(s, *low, *high) && quad(s, *low, *high))
                return;
        }
        general_slab(begin, end, s, clockwise);
    }

    // How far the middle of a diagonal lies from the face's surface, in r. On a helical face the two
    // diagonals of a quad lie on either side of it, because the quad is twisted.
    double off_surface(const Node& p, const Node& q) const {
        if (face_->c == 0) return 0;
        const Point &x = mesh_.points[p.id], &y = mesh_.points[q.id];
        const Point m{(x.x + y.x) / 2, (x.y + y.y) / 2, (x.z + y.z) / 2};
        const double theta = p.u + std::atan2(x.x * m.y - x.y * m.x, x.x * m.x + x.y * m.y);
        return std::abs(std::hypot(m.x, m.y) - (face_->a + face_->b * m.z + face_->c * theta));
    }

    // Nodes of other slabs that lie on this slab's grid lines inside the quad (tips that touch the line).
    bool has_others_between(long s, const Segment& low, const Segment& high) {
        index_lines();
        const auto between = [&](long line, std::uint32_t below, std::uint32_t above) {
            const auto there = on_line(line);
            if (there.size() <= 2) return false;
            const double a = nodes_[below].sort, b = nodes_[above].sort;
            for (const auto n : there)
                if (nodes_[n].id != nodes_[below].id && nodes_[n].id != nodes_[above].id &&
                    nodes_[n].sort > a && nodes_[n].sort < b)
                    return true;
            return false;
        };
        return between(s, low.from, high.to) || between(s + 1, low.to, high.from);
    }

    // Not worth it where hardly a slab is left.
    void index_lines() {
        constexpr std::size_t few = 64;
        if (interior_lines_ || segments_.size() < few) return;
        interior_lines_ = true;
        for (std::uint32_t i = 0; i < nodes_.size(); ++i)
            if (nodes_[i].line != not_on_line) on_lines_.push_back(i);
        sort_along(on_lines_);
    }
    void sort_along(std::vector<std::uint32_t>& nodes) const {
        std::sort(nodes.begin(), nodes.end(), [&](std::uint32_t a, std::uint32_t b) {
            const Node &p = nodes_[a], &q = nodes_[b];
            return p.line != q.line ? p.line < q.line : p.sort < q.sort;
        });
    }
    // Those on a line, in order along it; good until the next call.
    std::span<const std::uint32_t> on_line(long line) {
        if (!interior_lines_) {
            on_lines_.clear();
            for (std::uint32_t i = 0; i < nodes_.size(); ++i)
                if (nodes_[i].line == line) on_lines_.push_back(i);
            sort_along(on_lines_);
            return on_lines_;
        }
        const auto low = std::lower_bound(on_lines_.begin(), on_lines_.end(), line,
                                          [&](std::uint32_t n, long l) { return nodes_[n].line < l; });
        auto high = low;
        while (high != on_lines_.end() && nodes_[*high].line == line)
            ++high;
        return {low, high};
    }

    // An end disc: its boundary is joined to a point on the axis, edge by edge. Where upright flanks make the
    // boundary run along a ray, the points on that ray are taken along by the edges beside it.
    void disc() {
        const auto centre = static_cast<std::uint32_t>(mesh_.points.size());
        mesh_.points.push_back({0, 0, face_->a});
        mesh_.unrolled.push_back({0, 0, face_->a});
        const auto add = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            mesh_.triangles.push_back({a, b, c});
            mesh_.face.push_back(index_);
        };
        const std::size_t n = nodes_.size();
        const auto id = [&](std::size_t i) { return nodes_[i % n].id; };
        const auto radial = [&](std::size_t i) { // the edge from node i to the next
            const Node &a = nodes_[i % n], &b = nodes_[(i + 1) % n];
            const double across = std::abs(a.u * b.v - a.v * b.u), along = std::abs(a.sort - b.sort);
            return (a.line != not_on_line && a.line == b.line) ||
                   (across < 1e-6 * a.sort * b.sort && across < 0.1 * along * a.sort);
        };
        const auto falls = [&](std::size_t from, std::size_t to) {
            return nodes_[to % n].sort < nodes_[from % n].sort;
        };
        for (std::size_t i = n; i < 2 * n; ++i) {
            if (radial(i)) continue;
            std::vector<std::uint32_t> left{id(i)}, right{id(i + 1)}; // outwards on either ray
            for (std::size_t k = i; radial(k - 1) && falls(k, k - 1); --k)
                left.insert(left.begin(), id(k - 1));
            for (std::size_t k = i + 1; radial(k) && falls(k, k + 1); ++k)
                right.insert(right.begin(), id(k + 1));
            add(centre, left.front(), right.front());
            for (std::size_t k = 0; k + 1 < left.size(); ++k)
                add(left[k], left[k + 1], right.front());
            for (std::size_t k = 0; k + 1 < right.size(); ++k)
                add(left.back(), right[k + 1], right[k]);
        }
    }

    struct Side {
        std::uint32_t node;
        bool arrives;
    };

    void general_slab(std::size_t begin, std::size_t end, long s, bool clockwise) {
        index_lines();
        links_.clear();
        for (std::size_t i = begin; i < end; ++i)
            links_.push_back({segments_[i].from, segments_[i].to});
        add_line_links(begin, end, s, false, clockwise);
        add_line_links(begin, end, s + 1, true, clockwise);
        used_.assign(links_.size(), false);
        for (std::size_t first = 0; first < links_.size(); ++first) {
            if (used_[first]) continue;
            polygon_.clear();
            std::size_t at = first;
            for (;;) {
                used_[at] = true;
                polygon_.push_back(links_[at].first);
                const std::size_t next = next_link(at, first, clockwise);
                if (next == first || next == links_.size()) break;
                at = next;
            }
            clip(polygon_, clockwise);
        }
    }

    // Along a grid line the inside lies between a segment that reaches the line and the next that leaves it.
    void add_line_links(std::size_t begin, std::size_t end, long line, bool right, bool clockwise) {
        sides_.clear();
        for (std::size_t i = begin; i < end; ++i) {
            if (on(nodes_[segments_[i].to], line)) sides_.push_back({segments_[i].to, true});
            if (on(nodes_[segments_[i].from], line)) sides_.push_back({segments_[i].from, false});
        }
        if (sides_.size() < 2) return;
        const auto height = [&](const Side& x) { return nodes_[x.node].sort; };
        std::stable_sort(sides_.begin(), sides_.end(),
                         [&](const Side& a, const Side& b) { return height(a) < height(b); });
        // On the right line the boundary runs upwards, on the left downwards; charts with r upwards mirror
        // that for upward flat faces, since (θ, r) is a left-handed chart of the plane.
        const bool upwards = right != (flat() && !clockwise);
        // from below: a stretch opens with an arrival (upwards) or a departure (downwards)
        std::vector<Side> pending = sides_;
        std::vector<bool> taken(pending.size(), false);
        bool open = false;
        Side opener{};
        for (std::size_t done = 0; done < pending.size(); ++done) {
            std::size_t pick = pending.size();
            const bool want_arrival = open != upwards;
            for (std::size_t i = 0; i < pending.size(); ++i) {
                if (taken[i]) continue;
                if (pick == pending.size()) {
                    pick = i;
                    if (pending[i].arrives == want_arrival) break;
                } else if (nodes_[pending[i].node].id == nodes_[pending[pick].node].id) {
                    if (pending[i].arrives == want_arrival) {
                        pick = i;
                        break;
                    }
                } else {
                    break;
                }
            }
            taken[pick] = true;
            if (!open) {
                opener = pending[pick];
            } else {
                link_along(line, upwards ? opener.node : pending[pick].node,
                           upwards ? pending[pick].node : opener.node);
            }
            open = !open;
        }
    }

    void link_along(long line, std::uint32_t from, std::uint32_t to) {
        if (nodes_[from].id == nodes_[to].id) {
            if (from != to) links_.push_back({from, to});
            return;
        }
        const double low = std::min(nodes_[from].sort, nodes_[to].sort),
                     high = std::max(nodes_[from].sort, nodes_[to].sort);
        std::vector<std::uint32_t> between;
        for (const auto n : on_line(flat() ? line % mesh_.steps_per_turn : line)) {
            if (!(nodes_[n].sort > low && nodes_[n].sort < high)) continue;
            const auto same = [&](std::uint32_t m) { return nodes_[m].id == nodes_[n].id; };
            if (same(from) || same(to) || (!between.empty() && same(between.back()))) continue;
            between.push_back(n);
        }
        if (nodes_[from].sort > nodes_[to].sort) std::reverse(between.begin(), between.end());
        std::uint32_t at = from;
        for (const auto n : between) {
            links_.push_back({at, n});
            at = n;
        }
        links_.push_back({at, to});
    }

    // The link that goes on where this one ends: of several the one that turns most to the inside, which
    // parts polygons that touch in a corner. It is unused or the polygon's first.
    std::size_t next_link(std::size_t at, std::size_t first, bool clockwise) const {
        std::size_t best = links_.size();
        double best_turn = -10;
        const Node &a = nodes_[links_[at].first], &b = nodes_[links_[at].second];
        for (std::size_t i = 0; i < links_.size(); ++i) {
            if ((used_[i] && i != first) || nodes_[links_[i].first].id != b.id) continue;
            const Node& c = nodes_[links_[i].second];
            double turn = std::atan2((b.u - a.u) * (c.v - b.v) - (b.v - a.v) * (c.u - b.u),
                                     (b.u - a.u) * (c.u - b.u) + (b.v - a.v) * (c.v - b.v));
            if (clockwise) turn = -turn;
            if (turn > best_turn) best_turn = turn, best = i;
        }
        return best;
    }

    // Lengths on the face's surface: about the axis by the radius, so that shapes are judged as they are in space.
    double square(const Node& p, const Node& q) const {
        const double du = p.u - q.u, dv = p.v - q.v;
        if (flat()) return du * du + dv * dv;
        const double around = scale_ * du, along = dv + face_->rail_slope * du;
        return around * around + along * along;
    }
    double quality(std::uint32_t i, std::uint32_t j, std::uint32_t k) const {
        const Node &a = nodes_[i], &b = nodes_[j], &c = nodes_[k];
        return sign_ * cross(a, b, c) * scale_ / std::max({square(a, b), square(b, c), square(c, a)});
    }

    // Ear clipping; slab polygons have a handful of corners. Ears are taken best-shaped first so that no
    // triangle without area is left over; then diagonals are turned where that makes the worse of the two triangles
    // beside one better, so that neighbouring points of a curved edge are no triangle of their own that stands on edge.
    void clip(std::vector<std::uint32_t>& polygon, bool clockwise) {
        sign_ = clockwise ? -1 : 1;
        scale_ = 1;
        if (!flat()) {
            scale_ = 0;
            for (const std::uint32_t i : polygon)
                scale_ = std::max(scale_, mesh_.unrolled[nodes_[i].id].r);
            if (!(scale_ > 0)) scale_ = 1;
        }
        clipped_.clear();
        cut_ears(polygon);
        turn_diagonals(
            clipped_, [&](auto a, auto b, auto c) { return quality(a, b, c); },
            [&](auto a, auto b) { return nodes_[a].id == nodes_[b].id; });
        for (const auto& t : clipped_)
            triangle(t[0], t[1], t[2]);
    }

    void cut_ears(std::vector<std::uint32_t>& polygon) {
        // drop repeated points
        for (std::size_t i = 0; i < polygon.size() && polygon.size() > 2;) {
            if (nodes_[polygon[i]].id == nodes_[polygon[(i + 1) % polygon.size()]].id)
                polygon.erase(polygon.begin() + static_cast<long>(i));
            else
                ++i;
        }
        while (polygon.size() > 3) {
            const std::size_t n = polygon.size();
            double best = 0;
            std::size_t ear = n;
            for (std::size_t i = 0; i < n; ++i) {
                const Node &a = nodes_[polygon[(i + n - 1) % n]], &b = nodes_[polygon[i]],
                           &c = nodes_[polygon[(i + 1) % n]];
                if (sign_ * cross(a, b, c) <= 0) continue;
                bool blocked = false;
                for (std::size_t k = 0; k < n && !blocked; ++k) {
                    const Node& p = nodes_[polygon[k]];
                    if (p.id == a.id || p.id == b.id || p.id == c.id) continue;
                    blocked = sign_ * cross(a, b, p) >= 0 && sign_ * cross(b, c, p) >= 0 &&
                              sign_ * cross(c, a, p) >= 0;
                }
                if (blocked) continue;
                double shape = quality(polygon[(i + n - 1) % n], polygon[i], polygon[(i + 1) % n]);
                if (leaves_nothing(polygon, i)) shape *= 1e-9;
                if (shape > best) best = shape, ear = i;
            }
            if (ear == n)
                throw std::logic_error("mesh: a slab of face " + std::to_string(index_) + " has no ear");
            const std::size_t m = polygon.size();
            clipped_.push_back({polygon[(ear + m - 1) % m], polygon[ear], polygon[(ear + 1) % m]});
            polygon.erase(polygon.begin() + static_cast<long>(ear));
        }
        if (polygon.size() == 3) clipped_.push_back({polygon[0], polygon[1], polygon[2]});
    }

    // Whether all corners but one lie on a line, so that taking that one away would leave flat triangles.
    bool leaves_nothing(const std::vector<std::uint32_t>& polygon, std::size_t without) const {
        const std::size_t n = polygon.size();
        double largest = 0;
        std::vector<const Node*> rest;
        for (std::size_t i = 0; i < n; ++i)
            if (i != without) rest.push_back(&nodes_[polygon[i]]);
        for (std::size_t i = 1; i + 1 < rest.size(); ++i)
            largest = std::max(largest, std::abs(cross(*rest[0], *rest[i], *rest[i + 1])));
        double extent = 0, magnitude = 0; // the chart's numbers are rounded by their magnitude
        for (const Node* p : rest) {
            extent = std::max(extent, std::abs(p->u - rest[0]->u) + std::abs(p->v - rest[0]->v));
            magnitude = std::max(magnitude, std::abs(p->u) + std::abs(p->v));
        }
        return largest < 1e-9 * extent * extent + 1e-14 * magnitude * extent;
    }

    const Skin& skin_;
    Mesh& mesh_;
    Grid lines_;
    double snap_;
    const Face* face_ = nullptr;
    std::uint32_t index_ = 0;
    std::vector<Node> nodes_;
    std::vector<Segment> segments_;
    struct InSlab { // what there is in one slab, and on the line that it begins with
        std::uint32_t segment[2]{};
        std::uint32_t segments = 0, nodes = 0;
        bool done = false;
    };
    struct KnownQuad {
        std::array<double, 8> at;
        bool first;
    };
    std::vector<InSlab> slabs_;
    long first_slab_ = 0;
    std::optional<KnownQuad> known_quad_;
    bool interior_lines_ = false;
    std::vector<std::uint32_t> on_lines_; // nodes, line by line
    std::vector<std::pair<std::uint32_t, std::uint32_t>> links_;
    std::vector<bool> used_;
    std::vector<Side> sides_;
    std::vector<std::uint32_t> polygon_;
    std::vector<Corners> clipped_; // triangles of one polygon
    double sign_ = 1, scale_ = 1;
};

FaceTriangulator::FaceTriangulator(const Skin& skin, Mesh& mesh, const Grid& lines)
    : work_(std::make_unique<Work>(skin, mesh, lines)) {}
FaceTriangulator::~FaceTriangulator() = default;

void FaceTriangulator::add(std::size_t face) {
    work_->add(face);
}

} // namespace whorl::solid
