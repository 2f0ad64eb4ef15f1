#include "solid/skin/rim.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

constexpr double same_theta = 1e-9;
constexpr double same_radius = 1e-7;   // mm
constexpr double least_overlap = 1e-5; // mm; a sliver shallower than this has no triangles

struct Node {
    double theta;
    double below, above; // radius of either rim
    bool on_below, on_above;
};

int add_corner(Skin& skin, double theta, double r, double z) {
    skin.corners.push_back({theta, r, z});
    return static_cast<int>(skin.corners.size()) - 1;
}

// The rim point from which the piece at θ starts, and θ unrolled to follow it.
std::pair<const RimPoint*, double> piece_at(const Rim& rim, double theta) {
    const double t = wrapped(theta);
    auto next =
        std::upper_bound(rim.begin(), rim.end(), t, [](double v, const RimPoint& p) { return v < p.theta; });
    const RimPoint& lo = next == rim.begin() ? rim.back() : *(next - 1);
    return {&lo, t < lo.theta ? t + full_turn : t};
}

// θ strictly between two angles (unrolled) at which a rim's radius turns back, so that a circle may touch it:
// the middles of flats, the heights and depths of bows.
std::vector<double> touching_angles(const Rim& rim, double from, double to) {
    std::vector<double> out;
    const auto add = [&](double theta) {
        const double t = theta + std::ceil((from - theta) / full_turn) * full_turn;
        if (t > from + same_theta && t < to - same_theta) out.push_back(t);
    };
    for (const RimPoint& p : rim) {
        if (p.shape == EdgeShape::flat_trace) add(p.trace.theta);
        if (p.shape == EdgeShape::bow) {
            const double at = std::atan2(p.bow.v.r, p.bow.u.r), low = std::min(p.bow.from, p.bow.to),
                         high = std::max(p.bow.from, p.bow.to);
            for (int k = -4; k <= 4; ++k)
                if (const double phi = at + k * pi; phi > low && phi < high) add(point_at(p.bow, phi).theta);
        }
    }
    return out;
}

// The edge of a rim between two of its places, on the rim's piece there.
int add_arc(Skin& skin, const Rim& rim, int from, double theta_from, int to, double theta_to, double z,
            int join) {
    const auto& c = skin.corners;
    Edge e;
    e.from = from;
    e.to = to;
    e.begin = {theta_from, c[static_cast<std::size_t>(from)].r, z};
    e.end = {theta_to, c[static_cast<std::size_t>(to)].r, z};
    e.join = join;
    const double middle = (theta_from + theta_to) / 2;
    const auto [piece, at] = piece_at(rim, middle);
    e.shape = piece->shape;
    const double shift = middle - at; // from the piece's chart to the edge's
    if (e.shape == EdgeShape::bow) {
        e.bow = piece->bow;
        e.bow.from = bow_parameter(piece->bow, theta_from - shift);
        e.bow.to = bow_parameter(piece->bow, theta_to - shift);
        e.bow.centre.theta += shift;
        e.bow.centre.z = z;
        e.bow.u.z = e.bow.v.z = 0;
    } else if (e.shape == EdgeShape::flat_trace) {
        e.trace = piece->trace;
        e.trace.theta += shift;
        e.trace.z0 = z;
        e.trace.slope = 0;
    }
    skin.edges.push_back(e);
    return static_cast<int>(skin.edges.size()) - 1;
}

std::vector<EdgeUse> around(const RimEdges& rim, bool rising) {
    std::vector<EdgeUse> loop;
    for (const int e : rim.edge)
        loop.push_back({e, true, 0});
    if (!rising) {
        std::reverse(loop.begin(), loop.end());
        for (auto& u : loop)
            u.forward = false;
    }
    return loop;
}

} // namespace

RimEdges lone_rim(Skin& skin, const Rim& rim, double z, int join) {
    RimEdges out;
    for (const auto& p : rim) {
        out.theta.push_back(p.theta);
        out.corner.push_back(add_corner(skin, p.theta, p.r, z));
    }
    const std::size_t n = rim.size();
    for (std::size_t i = 0; i < n; ++i) {
        const std::size_t j = (i + 1) % n;
        const double to = rim[j].theta + (j <= i ? full_turn : 0);
        out.edge.push_back(add_arc(skin, rim, out.corner[i], rim[i].theta, out.corner[j], to, z, join));
    }
    return out;
}

double wrapped(double theta) {
    double t = std::fmod(theta, full_turn);
    if (t < 0) t += full_turn;
    return full_turn - t < same_theta || t < same_theta ? 0.0 : t;
}

Rim sorted_rim(std::vector<RimPoint> points) {
    for (auto& p : points) {
        const double unrolled = p.theta;
        p.theta = wrapped(p.theta);
        p.bow.centre.theta += p.theta - unrolled;
        p.trace.theta += p.theta - unrolled;
    }
    std::sort(points.begin(), points.end(), [](auto a, auto b) { return a.theta < b.theta; });
    points.erase(std::unique(points.begin(), points.end(),
                             [](auto a, auto b) { return b.theta - a.theta < same_theta; }),
                 points.end());
    return points;
}

double radius_at(const Rim& rim, double theta) {
    const auto [lo, at] = piece_at(rim, theta);
    if (lo->shape == EdgeShape::bow) return point_at(lo->bow, bow_parameter(lo->bow, at)).r;
    if (lo->shape == EdgeShape::flat_trace) return lo->trace.distance / std::cos(at - lo->trace.theta);
    const RimPoint& hi = lo == &rim.back() ? rim.front() : *(lo + 1);
    const double t1 = hi.theta <= lo->theta ? hi.theta + full_turn : hi.theta;
    return lo->r + (hi.r - lo->r) * (at - lo->theta) / (t1 - lo->theta);
}

std::vector<EdgeUse> RimEdges::path(double from, double to) const {
    const auto n = static_cast<long>(theta.size());
    // the corner nearest to an unrolled θ, as an index that counts on through the turns
    const auto index = [&](double t) {
        const std::size_t best = nearest(t);
        return static_cast<long>(best) + std::lround((t - theta[best]) / full_turn) * n;
    };
    const long a = index(from), b = index(to);
    std::vector<EdgeUse> out;
    const auto use = [&](long i, bool forward) {
        const long turn = i >= 0 ? i / n : -((-i + n - 1) / n);
        out.push_back({edge[static_cast<std::size_t>(i - turn * n)], forward, static_cast<int>(turn)});
    };
    for (long i = a; i < b; ++i)
        use(i, true);
    for (long i = a; i > b; --i)
        use(i - 1, false);
    return out;
}

int RimEdges::corner_at(double t) const {
    return corner[nearest(t)];
}

std::size_t RimEdges::nearest(double t) const {
    // the nearest: upright flanks of a large lead have both their corners nearer than the tolerance
    std::size_t best = 0;
    double miss = 1e9;
    for (std::size_t i = 0; i < theta.size(); ++i)
        if (const double d = std::abs(std::remainder(theta[i] - t, full_turn)); d < miss) miss = d, best = i;
    if (miss > 1e-7) throw std::logic_error("rim: no corner at the asked angle");
    return best;
}

Joined join_rims(Skin& skin, double z, const Rim* below, int zone_below, const Rim* above, int zone_above,
                 bool open) {
    Joined out;
    const auto flat = [&](FaceRole role, int zone, bool up, std::vector<std::vector<EdgeUse>> loops) {
        Face f;
        f.kind = FaceKind::flat;
        f.role = role;
        f.zone = zone;
        f.a = z;
        f.up = up;
        f.loops = std::move(loops);
        skin.faces.push_back(std::move(f));
    };
    if (!below || !above) {
        RimEdges rim = lone_rim(skin, below ? *below : *above, z, -1);
        if (!open)
            flat(FaceRole::end, below ? zone_below : zone_above, below != nullptr,
                 {around(rim, below != nullptr)});
        (below ? out.below : out.above) = std::move(rim);
        return out;
    }

    // every θ at which either rim has a corner, then the crossings between them
    std::vector<Node> nodes;
    const auto gather = [&](const Rim& rim, bool is_below) {
        for (const auto& p : rim) {
            const auto same = std::find_if(nodes.begin(), nodes.end(), [&](const Node& n) {
                return std::abs(n.theta - p.theta) < same_theta;
            });
            if (same != nodes.end()) {
                (is_below ? same->on_below : same->on_above) = true;
                (is_below ? same->below : same->above) = p.r;
            } else {
                Node n{p.theta, radius_at(*below, p.theta), radius_at(*above, p.theta), is_below, !is_below};
                (is_below ? n.below : n.above) = p.r;
                nodes.push_back(n);
            }
        }
    };
    gather(*below, true);
    gather(*above, false);
    std::sort(nodes.begin(), nodes.end(), [](const Node& a, const Node& b) { return a.theta < b.theta; });
    const auto zeroed = [](double d) { return std::abs(d) < same_radius ? 0.0 : d; };
    const auto difference = [&](const Node& n) { return zeroed(n.below - n.above); };
    const auto gap_at = [&](double theta) {
        return zeroed(radius_at(*below, theta) - radius_at(*above, theta));
    };
    const auto bent = [&](double from, double to) {
        const double middle = (from + to) / 2;
        return piece_at(*below, middle).first->shape != EdgeShape::straight ||
               piece_at(*above, middle).first->shape != EdgeShape::straight;
    };
    const auto refuse_sliver = [&](double theta) {
        throw CannotMake("Two neighbouring zones of Ø " +
                             number_text(2 * std::abs(radius_at(*below, theta)), 6) +
                             " mm differ by less than a hundredth of a micrometre where they meet; make them "
                             "the same, or clearly different.",
                         static_cast<std::size_t>(std::max(0, zone_above)));
    };
    std::vector<Node> all;
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const Node& a = nodes[i];
        Node b = nodes[(i + 1) % nodes.size()];
        if (i + 1 == nodes.size()) b.theta += full_turn;
        all.push_back(a);
        const double da = difference(a), db = difference(b);
        if (bent(a.theta, b.theta)) {
            // sampled, also where they may touch, and every change of sign narrowed down by halving
            std::vector<std::pair<double, double>> at{{a.theta, da}};
            std::vector<double> inner = touching_angles(*below, a.theta, b.theta);
            for (const double t : touching_angles(*above, a.theta, b.theta))
                inner.push_back(t);
            constexpr int samples = 8;
            for (int k = 1; k < samples; ++k)
                inner.push_back(a.theta + (b.theta - a.theta) * k / samples);
            std::sort(inner.begin(), inner.end());
            for (const double t : inner)
                if (t > at.back().first + same_theta) at.emplace_back(t, gap_at(t));
            at.emplace_back(b.theta, db);
            for (std::size_t k = 1; k + 1 < at.size(); ++k)
                if (std::abs(at[k].second) < least_overlap && at[k].second != 0 &&
                    at[k].second * at[k - 1].second < 0 && at[k].second * at[k + 1].second < 0)
                    refuse_sliver(at[k].first);
            for (std::size_t k = 0; k + 1 < at.size(); ++k) {
                const auto [t0, d0] = at[k];
                const auto [t1, d1] = at[k + 1];
                if (d0 == 0 && k > 0 && at[k - 1].second != 0 && d1 != 0) { // they touch there
                    const double r = radius_at(*below, t0);
                    all.push_back({t0, r, r, true, true});
                }
                if (d0 * d1 >= 0) continue;
                const auto before = [&, sign = d0](double m) {
                    return (radius_at(*below, m) - radius_at(*above, m)) * sign > 0;
                };
                const double t = halved(t0, t1, before, 1e-14).middle(), r = radius_at(*below, t);
                all.push_back({t, r, r, true, true});
            }
            continue;
        }
        // a step all along that has no height
        if (da * db > 0 && std::max(std::abs(da), std::abs(db)) < least_overlap && b.theta - a.theta > 1e-3)
            refuse_sliver(a.theta);
        if (da * db < 0) {
            const double t = da / (da - db);
            const double theta = a.theta + t * (b.theta - a.theta);
            const double r = a.below + t * (b.below - a.below);
            all.push_back({theta, r, r, true, true});
        }
    }
    for (auto& n : all)
        if (n.theta >= full_turn) n.theta -= full_turn;
    std::sort(all.begin(), all.end(), [](const Node& a, const Node& b) { return a.theta < b.theta; });
    const std::size_t n = all.size();
    // sign of each interval i → i+1: 0 where the rims coincide
    std::vector<int> sign(n);
    for (std::size_t i = 0; i < n; ++i) {
        const double from = all[i].theta, to = all[(i + 1) % n].theta + (i + 1 == n ? full_turn : 0);
        const double d =
            bent(from, to) ? gap_at((from + to) / 2) : difference(all[i]) + difference(all[(i + 1) % n]);
        sign[i] = d > 0 ? 1 : d < 0 ? -1 : 0;
    }
    // where the rims touch both have the corner, and a ring is parted there
    std::vector<bool> touch(n);
    for (std::size_t i = 0; i < n; ++i) {
        Node& node = all[i];
        if (difference(node) != 0) continue;
        const int before = sign[(i + n - 1) % n], after = sign[i];
        touch[i] = before != 0 || after != 0;
        node.on_below = node.on_above = true;
        node.above = node.below;
    }
    if (std::all_of(sign.begin(), sign.end(), [](int s) { return s == 0; }))
        for (auto& node : all)
            node.on_below = node.on_above = true, node.above = node.below;

    const int join = static_cast<int>(skin.joins.size());
    skin.joins.push_back({z, {}});
    // between two curves from corner to corner there is a sample, so that a sliver has triangles
    for (std::size_t i = 0; i < n; ++i) {
        const double from = all[i].theta, to = all[(i + 1) % n].theta + (i + 1 == n ? full_turn : 0);
        if (sign[i] != 0 && bent(from, to)) skin.joins.back().theta.push_back(wrapped((from + to) / 2));
    }
    RimEdges rb, ra;
    for (const Node& node : all) {
        skin.joins.back().theta.push_back(node.theta);
        const bool shared = node.on_below && node.on_above && difference(node) == 0;
        int corner = -1;
        if (node.on_below) {
            corner = add_corner(skin, node.theta, node.below, z);
            rb.theta.push_back(node.theta);
            rb.corner.push_back(corner);
        }
        if (node.on_above) {
            ra.theta.push_back(node.theta);
            ra.corner.push_back(shared ? corner : add_corner(skin, node.theta, node.above, z));
        }
    }
    std::sort(skin.joins.back().theta.begin(), skin.joins.back().theta.end());
    const auto interval_sign = [&](double from, double to) { // of the first interval in [from, to)
        const double middle = wrapped((from + to) / 2);
        for (std::size_t i = 0; i < n; ++i) {
            double t0 = all[i].theta, t1 = all[(i + 1) % n].theta;
            if (t1 <= t0) t1 += full_turn;
            double m = middle;
            if (m < t0 - same_theta) m += full_turn;
            if (m >= t0 - same_theta && m < t1) return sign[i];
        }
        return 1;
    };
    const auto make_edges = [&](const Rim& shape, RimEdges& rim, const RimEdges* share_with) {
        const std::size_t m = rim.corner.size();
        for (std::size_t i = 0; i < m; ++i) {
            const std::size_t j = (i + 1) % m;
            const double from = rim.theta[i], to = rim.theta[j] + (j <= i ? full_turn : 0);
            if (share_with && interval_sign(from, to) == 0) {
                for (std::size_t k = 0; k < share_with->corner.size(); ++k)
                    if (share_with->corner[k] == rim.corner[i]) rim.edge.push_back(share_with->edge[k]);
                continue;
            }
            rim.edge.push_back(add_arc(skin, shape, rim.corner[i], from, rim.corner[j], to, z, join));
        }
    };
    make_edges(*below, rb, nullptr);
    make_edges(*above, ra, &rb);

    // the flat faces between the rims: a ring if one encloses the other all around, else one per stretch
    const bool constant = std::all_of(sign.begin(), sign.end(), [&](int s) { return s == sign.front(); }) &&
                          std::none_of(touch.begin(), touch.end(), [](bool t) { return t; });
    if (constant && sign.front() != 0) {
        const bool up = sign.front() > 0; // the zone below is larger: its shoulder faces up
        flat(FaceRole::step, up ? zone_below : zone_above, up,
             {around(up ? rb : ra, up), around(up ? ra : rb, !up)});
    } else if (!constant) {
        const auto part = std::find(touch.begin(), touch.end(), true);
        if (part == touch.end()) throw std::logic_error("rim: two rims change sides without meeting");
        const auto first = static_cast<std::size_t>(part - touch.begin());
        for (std::size_t k = 0; k < n;) {
            const std::size_t i = (first + k) % n;
            std::size_t run = 1;
            while (k + run < n && !touch[(first + k + run) % n])
                ++run;
            if (sign[i] != 0) {
                const double from = all[i].theta;
                double to = all[(i + run) % n].theta;
                if (to <= from) to += full_turn;
                const bool up = sign[i] > 0;
                // counter-clockwise from above: outer rising, inner falling; from below the other way round
                const RimEdges& outer = up ? rb : ra;
                const RimEdges& inner = up ? ra : rb;
                std::vector<EdgeUse> loop = up ? outer.path(from, to) : outer.path(to, from);
                const auto back = up ? inner.path(to, from) : inner.path(from, to);
                loop.insert(loop.end(), back.begin(), back.end());
                flat(FaceRole::step, up ? zone_below : zone_above, up, {loop});
            }
            k += run;
        }
    }
    out.below = std::move(rb);
    out.above = std::move(ra);
    return out;
}

} // namespace whorl::solid
