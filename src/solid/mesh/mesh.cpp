#include "solid/mesh/mesh.hpp"

#include "solid/mesh/flatten.hpp"
#include "solid/mesh/tooth_mesh.hpp"
#include "solid/skin/axial_cut.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numbers>
#include <unordered_map>

namespace whorl::solid {
namespace {

constexpr double full_turn = 2 * std::numbers::pi;

// Lines of equal θ, `step` apart, along which round faces are cut into slabs.
struct Grid {
    double step = 0, phase = 0; // rad; of a step
    double of(double theta) const { return theta / step - phase; }
    double at(double line) const { return (line + phase) * step; }
};

// A corner closer to a grid line than this part of a step counts as lying on it, which avoids slivers. The
// root arcs of fully rounded teeth may be hardly wider than that, so teeth take it more exactly; and where
// two corners lie that close to one line, only the nearer one is on it.
bool has_teeth(const Skin& skin) {
    return std::any_of(skin.faces.begin(), skin.faces.end(),
                       [](const Face& f) { return f.kind == FaceKind::toothed; });
}
double snap_of(const Skin& skin, const Grid& lines) {
    const double step = lines.step;
    double snap = has_teeth(skin) ? 1e-5 : 1e-3;
    const double per_turn = std::round(full_turn / step);
    std::map<double, double> near; // a line, and how far off it the nearest corner is, in steps
    const auto take = [&](double theta) {
        const double grid = lines.of(theta), line = std::round(grid), off = grid - line;
        if (std::abs(off) >= snap) return;
        const auto [it, is_new] = near.try_emplace(line - per_turn * std::floor(line / per_turn), off);
        if (is_new || std::abs(off - it->second) * step < 1e-8) return;
        // the farther one is left off the line; of two as far on either side both are
        const double far = std::max(std::abs(off), std::abs(it->second));
        snap = std::min(snap, far * (std::abs(off + it->second) < 1e-3 * far ? 0.5 : 1 - 1e-6));
        if (std::abs(off) < std::abs(it->second)) it->second = off;
    };
    for (const UnrolledPoint& c : skin.corners)
        take(c.theta);
    for (const Join& j : skin.joins)
        for (const double theta : j.theta)
            take(theta);
    return snap;
}

// Lines on multiples of a step, where most corners are; turned out of the way where a corner that lies on one
// has another hardly beside it, which would leave a sliver between them.
Grid grid_for(const Skin& skin, double step) {
    constexpr double clear = 1e-4, part = 0.381966; // of a step
    const Grid usual{step, 0};
    if (has_teeth(skin) || snap_of(skin, usual) > clear) return usual;
    for (int k = 1; k <= 12; ++k)
        if (const Grid turned{step, std::fmod(k * part, 1)}; snap_of(skin, turned) > clear) return turned;
    return usual;
}

Point to_space(const UnrolledPoint& p) {
    return {p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z};
}

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

class FaceTriangulator {
public:
    FaceTriangulator(const Skin& skin, Mesh& mesh, const Grid& lines)
        : skin_(skin), mesh_(mesh), lines_(lines), snap_(snap_of(skin, lines)) {}

    void add(std::size_t face_index) {
        face_ = &skin_.faces[face_index];
        index_ = static_cast<std::uint32_t>(face_index);
        collect();
        if (flat() && face_->role == FaceRole::end && face_->loops.size() == 1) return disc();
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
        on_line_.clear();
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

    void slab(std::size_t begin, std::size_t end) {
        const long s = segments_[begin].slab;
        const bool clockwise = flat() && !face_->up; // charts of downward faces are seen from behind
        // the everyday case: one segment across below, one back above
        if (end - begin == 2 && !flat()) {
            const Segment *low = &segments_[begin], *high = &segments_[begin + 1];
            if (nodes_[low->from].line != s) std::swap(low, high);
            if (nodes_[low->from].line == s && nodes_[low->to].line == s + 1 &&
                nodes_[high->from].line == s + 1 && nodes_[high->to].line == s &&
                !has_others_between(s, *low, *high)) {
                const Node &a = nodes_[low->from], &b = nodes_[low->to], &c = nodes_[high->from],
                           &d = nodes_[high->to];
                const bool ab = a.id == d.id, bc = b.id == c.id;
                if (ab && bc) return;
                if (ab) return triangle(low->from, low->to, high->from);
                if (bc) return triangle(low->from, low->to, high->to);
                if (off_surface(a, c) <= off_surface(b, d)) {
                    triangle(low->from, low->to, high->from);
                    triangle(low->from, high->from, high->to);
                } else {
                    triangle(low->from, low->to, high->to);
                    triangle(low->to, high->from, high->to);
                }
                return;
            }
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
            const auto it = on_line_.find(line);
            if (it == on_line_.end() || it->second.size() <= 2) return false;
            const double a = nodes_[below].sort, b = nodes_[above].sort;
            for (const auto n : it->second)
                if (nodes_[n].id != nodes_[below].id && nodes_[n].id != nodes_[above].id &&
                    nodes_[n].sort > a && nodes_[n].sort < b)
                    return true;
            return false;
        };
        return between(s, low.from, high.to) || between(s + 1, low.to, high.from);
    }

    void index_lines() {
        if (interior_lines_) return;
        interior_lines_ = true;
        for (std::uint32_t i = 0; i < nodes_.size(); ++i)
            if (nodes_[i].line != not_on_line) on_line_[nodes_[i].line].push_back(i);
        for (auto& [line, list] : on_line_)
            std::sort(list.begin(), list.end(),
                      [&](std::uint32_t a, std::uint32_t b) { return nodes_[a].sort < nodes_[b].sort; });
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
        const auto it = on_line_.find(flat() ? line % mesh_.steps_per_turn : line);
        const double low = std::min(nodes_[from].sort, nodes_[to].sort),
                     high = std::max(nodes_[from].sort, nodes_[to].sort);
        std::vector<std::uint32_t> between;
        for (const auto n : it->second) {
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

    // Ear clipping; slab polygons have a handful of corners. Ears are taken best-shaped first so that no
    // triangle without area is left over.
    void clip(std::vector<std::uint32_t>& polygon, bool clockwise) {
        // drop repeated points
        for (std::size_t i = 0; i < polygon.size() && polygon.size() > 2;) {
            if (nodes_[polygon[i]].id == nodes_[polygon[(i + 1) % polygon.size()]].id)
                polygon.erase(polygon.begin() + static_cast<long>(i));
            else
                ++i;
        }
        const double sign = clockwise ? -1 : 1;
        while (polygon.size() > 3) {
            const std::size_t n = polygon.size();
            double best = 0;
            std::size_t ear = n;
            for (std::size_t i = 0; i < n; ++i) {
                const Node &a = nodes_[polygon[(i + n - 1) % n]], &b = nodes_[polygon[i]],
                           &c = nodes_[polygon[(i + 1) % n]];
                const double area = sign * cross(a, b, c);
                if (area <= 0) continue;
                bool blocked = false;
                for (std::size_t k = 0; k < n && !blocked; ++k) {
                    const Node& p = nodes_[polygon[k]];
                    if (p.id == a.id || p.id == b.id || p.id == c.id) continue;
                    blocked = sign * cross(a, b, p) >= 0 && sign * cross(b, c, p) >= 0 &&
                              sign * cross(c, a, p) >= 0;
                }
                if (blocked) continue;
                const auto square = [](const Node& p, const Node& q) {
                    return (p.u - q.u) * (p.u - q.u) + (p.v - q.v) * (p.v - q.v);
                };
                double quality = area / std::max({square(a, b), square(b, c), square(c, a)});
                if (leaves_nothing(polygon, i)) quality *= 1e-9;
                if (quality > best) best = quality, ear = i;
            }
            if (ear == n)
                throw std::logic_error("mesh: a slab of face " + std::to_string(index_) + " has no ear");
            const std::size_t m = polygon.size();
            triangle(polygon[(ear + m - 1) % m], polygon[ear], polygon[(ear + 1) % m]);
            polygon.erase(polygon.begin() + static_cast<long>(ear));
        }
        if (polygon.size() == 3) triangle(polygon[0], polygon[1], polygon[2]);
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
    bool interior_lines_ = false;
    std::unordered_map<long, std::vector<std::uint32_t>> on_line_;
    std::vector<std::pair<std::uint32_t, std::uint32_t>> links_;
    std::vector<bool> used_;
    std::vector<Side> sides_;
    std::vector<std::uint32_t> polygon_;
};

// A flank in a plane at its curve's samples, a rail between two of a zone's faces at its rows.
void sample_tooth_edge(const Edge& e, std::size_t index, Mesh& mesh, const ToothMesher& teeth) {
    auto& ids = mesh.edge_points[index];
    auto& thetas = mesh.edge_theta[index];
    const auto add = [&](const UnrolledPoint& p) {
        ids.push_back(static_cast<std::uint32_t>(mesh.points.size()));
        thetas.push_back(p.theta);
        mesh.points.push_back(to_space(p));
        mesh.unrolled.push_back(p);
    };
    ids.push_back(static_cast<std::uint32_t>(e.from));
    thetas.push_back(e.begin.theta);
    if (e.rail) {
        const int rows = teeth.rows_of(e);
        for (int k = 1; k < rows; ++k)
            add(point_at(e, static_cast<double>(k) / rows));
    } else {
        std::vector<double> inner;
        const double low = std::min(e.tooth_from, e.tooth_to), high = std::max(e.tooth_from, e.tooth_to);
        for (const double t : teeth.samples_of(*e.tooth.curve))
            if (t > low + 1e-9 && t < high - 1e-9) inner.push_back(t);
        if (e.tooth_to < e.tooth_from) std::reverse(inner.begin(), inner.end());
        for (const double t : inner)
            add(point_at(e, t));
    }
    ids.push_back(static_cast<std::uint32_t>(e.to));
    thetas.push_back(e.end.theta);
}

// Between the grid's lines a lobe's edge gets as many points more as its chords need. It is sampled on the
// lines like everything that runs around the axis, so that a thin ring between it and a circle can't fold.
void refine_lobe_edge(const Edge& e, std::vector<double>& at, double chord) {
    const auto place = [&](double theta) {
        return to_space(point_at(e.tooth, parameter_at(e.tooth, {theta, 0, e.begin.z}), e.begin.z));
    };
    std::vector<double> all{e.begin.theta};
    for (std::size_t i = 0; i <= at.size(); ++i) {
        const double from = all.back(), to = i < at.size() ? at[i] : e.end.theta;
        const Point p = place(from), q = place(to), m = place((from + to) / 2);
        const double dx = q.x - p.x, dy = q.y - p.y, length = std::hypot(dx, dy);
        const double off = std::abs(dx * (m.y - p.y) - dy * (m.x - p.x)) / std::max(1e-300, length);
        const int parts = std::clamp(static_cast<int>(std::ceil(std::sqrt(off / (0.9 * chord)))), 1, 64);
        for (int k = 1; k < parts; ++k)
            all.push_back(from + (to - from) * k / parts);
        all.push_back(to);
    }
    at.assign(all.begin() + 1, all.end() - 1);
}

// The angles strictly between an edge's ends at which it is sampled, from its begin to its end: the grid's
// lines, and the corners of its plane's other boundary.
std::vector<double> angles_along(const Edge& e, const Grid& lines, double snap,
                                 const std::vector<double>& joined) {
    const double low = std::min(e.begin.theta, e.end.theta), high = std::max(e.begin.theta, e.end.theta);
    std::vector<double> at;
    if (high - low <= 1e-12) return at;
    const double first = std::floor(lines.of(low) + snap) + 1, last = std::ceil(lines.of(high) - snap) - 1;
    for (double k = first; k <= last; ++k)
        at.push_back(lines.at(k));
    const std::size_t grid_samples = at.size();
    for (const double t : joined)
        for (double shifted = t + std::floor((low - t) / full_turn) * full_turn; shifted < high;
             shifted += full_turn) {
            if (shifted <= low + 1e-9 || shifted >= high - 1e-9) continue;
            const double g = lines.of(shifted);
            if (std::abs(g - std::round(g)) < snap) {
                // the grid line's own sample moves there, so that both rims have it at the same angle
                for (std::size_t k = 0; k < grid_samples; ++k)
                    if (std::abs(at[k] - lines.at(std::round(g))) < 1e-9) at[k] = shifted;
            } else {
                at.push_back(shifted);
            }
        }
    std::sort(at.begin(), at.end());
    at.erase(std::unique(at.begin(), at.end(), [](double p, double q) { return q - p < 1e-9; }), at.end());
    if (e.end.theta < e.begin.theta) std::reverse(at.begin(), at.end());
    return at;
}

bool is_lobe(const Edge& e) {
    return e.shape == EdgeShape::tooth && e.tooth.curve->by_angle;
}

// The edge of a drum cam's track: on the grid's lines, and between them as its chords in space need.
std::vector<double> traced_parameters(const Edge& e, const std::vector<double>& at, double chord) {
    if (e.across) {
        const int rows = wall_rows(e.wall_bulge, chord);
        std::vector<double> out;
        for (int k = 1; k < rows; ++k)
            out.push_back(e.tooth_from + (e.tooth_to - e.tooth_from) * k / rows);
        return out;
    }
    std::vector<double> all{e.tooth_from};
    for (std::size_t i = 0; i <= at.size(); ++i) {
        const double from = all.back(), to = i < at.size() ? e.wall->parameter(at[i], e.level) : e.tooth_to;
        const Point p = to_space(point_at(e, from)), q = to_space(point_at(e, to)),
                    m = to_space(point_at(e, (from + to) / 2));
        const double off = std::hypot(m.x - (p.x + q.x) / 2, m.y - (p.y + q.y) / 2, m.z - (p.z + q.z) / 2);
        const int parts = std::clamp(static_cast<int>(std::ceil(std::sqrt(off / (2 * chord)))), 1, 64);
        for (int k = 1; k < parts; ++k)
            all.push_back(from + (to - from) * k / parts);
        all.push_back(to);
    }
    return {all.begin() + 1, all.end() - 1};
}

// The angles of each plane between zones at which both its boundaries are sampled: the corners, and where a
// lobe needs more points than the grid has.
std::vector<std::vector<double>> joined_angles(const Skin& skin, const Grid& lines, double snap,
                                               double chord) {
    std::vector<std::vector<double>> out;
    for (const Join& j : skin.joins)
        out.push_back(j.theta);
    for (const Edge& e : skin.edges) {
        if (!is_lobe(e) || e.join < 0) continue;
        const auto join = static_cast<std::size_t>(e.join);
        std::vector<double> at = angles_along(e, lines, snap, skin.joins[join].theta);
        refine_lobe_edge(e, at, chord);
        for (const double t : at)
            out[join].push_back(t - std::floor(t / full_turn) * full_turn);
    }
    return out;
}

void sample_edges(const Skin& skin, Mesh& mesh, const Grid& lines, const ToothMesher& teeth) {
    const double snap = snap_of(skin, lines);
    mesh.edge_points.resize(skin.edges.size());
    mesh.edge_theta.resize(skin.edges.size());
    const auto joined = joined_angles(skin, lines, snap, teeth.chord());
    const std::vector<double> none;
    for (std::size_t i = 0; i < skin.edges.size(); ++i) {
        const Edge& e = skin.edges[i];
        const double t0 = e.begin.theta, t1 = e.end.theta;
        const bool lobe = is_lobe(e);
        if ((e.shape == EdgeShape::tooth && !lobe) || e.rail) {
            sample_tooth_edge(e, i, mesh, teeth);
            continue;
        }
        std::vector<double> at =
            angles_along(e, lines, snap, e.join >= 0 ? joined[static_cast<std::size_t>(e.join)] : none);
        if (lobe && e.join < 0) refine_lobe_edge(e, at, teeth.chord());
        if (e.shape == EdgeShape::traced) {
            std::vector<double> thetas{t0};
            mesh.edge_points[i].push_back(static_cast<std::uint32_t>(e.from));
            for (const double x : traced_parameters(e, at, teeth.chord())) {
                const UnrolledPoint p = point_at(e, x);
                mesh.edge_points[i].push_back(static_cast<std::uint32_t>(mesh.points.size()));
                thetas.push_back(p.theta);
                mesh.points.push_back(to_space(p));
                mesh.unrolled.push_back(p);
            }
            mesh.edge_points[i].push_back(static_cast<std::uint32_t>(e.to));
            thetas.push_back(t1);
            mesh.edge_theta[i] = std::move(thetas);
            continue;
        }
        auto& ids = mesh.edge_points[i];
        auto& thetas = mesh.edge_theta[i];
        ids.push_back(static_cast<std::uint32_t>(e.from));
        thetas.push_back(t0);
        if (e.bend >= 0) {
            const int rows = bend_rows(skin, e, teeth.chord() * 2 / 3);
            for (int k = 1; k < rows; ++k) {
                const UnrolledPoint p = point_at(e, static_cast<double>(k) / rows);
                ids.push_back(static_cast<std::uint32_t>(mesh.points.size()));
                thetas.push_back(p.theta);
                mesh.points.push_back(to_space(p));
                mesh.unrolled.push_back(p);
            }
        }
        for (const double t : at) {
            const UnrolledPoint p = point_at(e, lobe ? parameter_at(e.tooth, {t, 0, e.begin.z})
                                                : e.shape == EdgeShape::flat_trace ? t
                                                : e.shape == EdgeShape::bow        ? bow_parameter(e.bow, t)
                                                                                   : (t - t0) / (t1 - t0));
            ids.push_back(static_cast<std::uint32_t>(mesh.points.size()));
            thetas.push_back(t);
            mesh.points.push_back(to_space(p));
            mesh.unrolled.push_back(p);
        }
        ids.push_back(static_cast<std::uint32_t>(e.to));
        thetas.push_back(t1);
    }
}

} // namespace

int steps_for_chord(double largest_radius, double chord) {
    const double delta = 2 * std::acos(std::clamp(1 - chord / std::max(largest_radius, 1e-6), -1.0, 1.0));
    const int steps = delta > 0 ? static_cast<int>(std::ceil(full_turn / delta / 4)) * 4 : 720;
    return std::clamp(steps, 24, 720);
}

int steps_for_chord(const Skin& skin, double chord) {
    // the bands and strips of all arcs count by their twist; flats need no steps but share those of the rest
    double largest = 0, finest = full_turn;
    const bool arcs = std::any_of(skin.faces.begin(), skin.faces.end(),
                                  [](const Face& f) { return f.kind == FaceKind::curved; });
    const bool teeth = std::any_of(skin.faces.begin(), skin.faces.end(), [](const Face& f) {
        return f.kind == FaceKind::toothed || f.kind == FaceKind::wall;
    });
    // the rest is for the chords across arcs, see triangulate(), and for the chords and the twist of teeth
    if (arcs) chord *= 2.0 / 3;
    if (teeth)
        chord /= 2;
    else if (skin.bent())
        chord *= 0.75; // the rest is for the rows in a bend
    for (const auto& c : skin.corners)
        largest = std::max(largest, c.r);
    for (const auto& f : skin.faces) {
        if (f.kind == FaceKind::flat || f.kind == FaceKind::side || f.kind == FaceKind::toothed ||
            f.kind == FaceKind::wall || (f.c == 0 && f.kind == FaceKind::round))
            continue;
        double low = 1e300, high = 0;
        for (const auto& use : f.loops.front()) {
            const double r = start_of(skin, use).r;
            low = std::min(low, r);
            high = std::max(high, r);
        }
        // the twist is one of r; square to the surface it is less by the surface's lean along the axis. On an
        // arc no strip is steeper than its own lean makes up for, and each is at most half as high as the
        // arc.
        const double lean = f.kind == FaceKind::round ? std::abs(f.c) / std::hypot(1, f.b)
                                                      : (std::abs(f.c) + std::abs(f.rail_slope)) / 2;
        const double twist = lean * (high - low) / (4 * std::max(low, 1e-6)); // per radian of step
        if (twist > 0) finest = std::min(finest, chord / twist);
    }
    const int for_twist = static_cast<int>(std::ceil(full_turn / finest / 4)) * 4;
    return std::min(720, std::max(steps_for_chord(largest, chord), for_twist));
}

double triangles_expected(const Skin& skin, int steps_per_turn) {
    double total = 0;
    for (const Face& f : skin.faces) {
        double edges = 0;
        for (const auto& loop : f.loops)
            edges += static_cast<double>(loop.size());
        // two triangles a step and edge or so; an arc is as many strips as its chord asks for
        const double strips = f.kind == FaceKind::curved
                                  ? std::max(2.0, std::abs(f.arc_to - f.arc_from) * steps_per_turn / 25)
                                  : 1;
        total += edges + 2 * strips * angle_around(skin, f) / full_turn * steps_per_turn;
    }
    return total;
}

namespace {

Mesh triangulate_flat(const Skin& skin, int steps_per_turn) {
    Mesh mesh;
    mesh.steps_per_turn = steps_per_turn;
    const double step = full_turn / steps_per_turn;
    for (const auto& c : skin.corners) {
        mesh.points.push_back(to_space(c));
        mesh.unrolled.push_back(c);
    }
    double largest = 0;
    for (const auto& c : skin.corners)
        largest = std::max(largest, c.r);
    const ToothMesher teeth(skin, step, largest * (1 - std::cos(step / 2)) / 2);
    const Grid lines = grid_for(skin, step);
    sample_edges(skin, mesh, lines, teeth);
    mesh.triangles.reserve(mesh.points.size() * 2);
    mesh.face.reserve(mesh.points.size() * 2);
    FaceTriangulator triangulator(skin, mesh, lines);
    for (std::size_t i = 0; i < skin.faces.size(); ++i)
        if (const Face& f = skin.faces[i]; f.kind == FaceKind::toothed)
            teeth.add_toothed(skin, mesh, i);
        else if (f.kind == FaceKind::wall)
            add_wall(skin, mesh, i, teeth.chord());
        else if (f.bend >= 0)
            add_bent(skin, mesh, i);
        else if (f.kind == FaceKind::flat && has_teeth(skin, f))
            teeth.add_flat(skin, mesh, i);
        else
            triangulator.add(i);
    return mesh;
}

// The straightened bar's points, where they are in space.
void bend(Mesh& mesh, const BentLine& way) {
    if (way.straight()) return;
    for (std::size_t i = 0; i < mesh.points.size(); ++i) {
        Point& p = mesh.points[i];
        const Direction at = way.frame_at(p.z).placed({p.x, p.y, 0});
        p = {at[0], at[1], at[2]};
    }
}

Mesh triangulate_straight(const Skin& skin, int steps_per_turn) {
    const bool arcs = std::any_of(skin.faces.begin(), skin.faces.end(),
                                  [](const Face& f) { return f.kind == FaceKind::curved; });
    if (!arcs) return triangulate_flat(skin, steps_per_turn);
    // across the arcs half the chord that this step leaves on the largest circle
    double largest = 0;
    for (const auto& c : skin.corners)
        largest = std::max(largest, c.r);
    const double chord = largest * (1 - std::cos(std::numbers::pi / steps_per_turn)) / 2;
    const Flattened flat = flatten(skin, chord);
    Mesh mesh = triangulate_flat(flat.skin, steps_per_turn);
    for (auto& f : mesh.face)
        f = flat.face[f];
    std::vector<std::vector<std::uint32_t>> points(skin.edges.size());
    std::vector<std::vector<double>> theta(skin.edges.size());
    for (std::size_t i = 0; i < skin.edges.size(); ++i)
        for (const int part : flat.chains[i]) {
            const auto& p = mesh.edge_points[static_cast<std::size_t>(part)];
            const auto& t = mesh.edge_theta[static_cast<std::size_t>(part)];
            const auto skip = points[i].empty() ? 0 : 1;
            points[i].insert(points[i].end(), p.begin() + skip, p.end());
            theta[i].insert(theta[i].end(), t.begin() + skip, t.end());
        }
    mesh.edge_points = std::move(points);
    mesh.edge_theta = std::move(theta);
    return mesh;
}

} // namespace

Mesh triangulate(const Skin& skin, int steps_per_turn) {
    Mesh mesh = triangulate_straight(skin, steps_per_turn);
    bend(mesh, skin.way);
    return mesh;
}

} // namespace whorl::solid
