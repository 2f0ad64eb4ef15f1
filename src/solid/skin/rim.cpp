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

namespace {

void add_flat(Skin& skin, double z, FaceRole role, int zone, bool up,
              std::vector<std::vector<EdgeUse>> loops) {
    Face f;
    f.kind = FaceKind::flat;
    f.role = role;
    f.zone = zone;
    f.a = z;
    f.up = up;
    f.loops = std::move(loops);
    skin.faces.push_back(std::move(f));
}

double zeroed(double d) {
    return std::abs(d) < same_radius ? 0.0 : d;
}
double difference(const Node& n) {
    return zeroed(n.below - n.above);
}

// Two rims in one plane, in steps: their corners, where they cross, which is larger where, corners and edges of the skin,
// and the flat faces between.
class RimJoin {
public:
    RimJoin(Skin& skin, double z, const Rim& below, int zone_below, const Rim& above, int zone_above)
        : skin_(skin), z_(z), below_(below), above_(above), zone_below_(zone_below), zone_above_(zone_above),
          join_(static_cast<int>(skin.joins.size())) {}

    Joined join() {
        gather(below_, true);
        gather(above_, false);
        std::sort(all_.begin(), all_.end(), [](const Node& a, const Node& b) { return a.theta < b.theta; });
        find_crossings();
        find_signs();
        unite_touching();
        add_corners();
        make_edges(below_, rb_, nullptr);
        make_edges(above_, ra_, &rb_);
        add_faces();
        return {std::move(rb_), std::move(ra_)};
    }

private:
    // every θ at which either rim has a corner
    void gather(const Rim& rim, bool is_below) {
        for (const auto& p : rim) {
            const auto same = std::find_if(all_.begin(), all_.end(), [&](const Node& n) {
                return std::abs(n.theta - p.theta) < same_theta;
            });
            if (same != all_.end()) {
                (is_below ? same->on_below : same->on_above) = true;
                (is_below ? same->below : same->above) = p.r;
            } else {
                Node n{p.theta, radius_at(below_, p.theta), radius_at(above_, p.theta), is_below, !is_below};
                (is_below ? n.below : n.above) = p.r;
                all_.push_back(n);
            }
        }
    }

    double gap_at(double theta) const { return zeroed(radius_at(below_, theta) - radius_at(above_, theta)); }
    bool bent(double from, double to) const {
        const double middle = (from + to) / 2;
        return piece_at(below_, middle).first->shape != EdgeShape::straight ||
               piece_at(above_, middle).first->shape != EdgeShape::straight;
    }
    [[noreturn]] void refuse_sliver(double theta) const {
        throw CannotMake("Two neighbouring zones of Ø " +
                             number_text(2 * std::abs(radius_at(below_, theta)), 6) +
                             " mm differ by less than a hundredth of a micrometre where they meet; make them "
                             "the same, or clearly different.",
                         static_cast<std::size_t>(std::max(0, zone_above_)));
    }

    // Adds a node where the rims cross or touch, between one corner and the next.
    void find_crossings() {
        const std::vector<Node> corners = std::move(all_);
        all_.clear();
        for (std::size_t i = 0; i < corners.size(); ++i) {
            const Node& a = corners[i];
            Node b = corners[(i + 1) % corners.size()];
            if (i + 1 == corners.size()) b.theta += full_turn;
            all_.push_back(a);
            if (bent(a.theta, b.theta))
                cross_curves(a, b);
            else
                cross_straight(a, b);
        }
        for (auto& n : all_)
            if (n.theta >= full_turn) n.theta -= full_turn;
        std::sort(all_.begin(), all_.end(), [](const Node& a, const Node& b) { return a.theta < b.theta; });
    }
    void cross_straight(const Node& a, const Node& b) {
        const double da = difference(a), db = difference(b);
        // a step all along that has no height
        if (da * db > 0 && std::max(std::abs(da), std::abs(db)) < least_overlap && b.theta - a.theta > 1e-3)
            refuse_sliver(a.theta);
        if (da * db >= 0) return;
        const double t = da / (da - db), r = a.below + t * (b.below - a.below);
        all_.push_back({a.theta + t * (b.theta - a.theta), r, r, true, true});
    }
    // Sampled, also where they may touch, and every change of sign narrowed down by halving.
    void cross_curves(const Node& a, const Node& b) {
        const auto at = sampled(a, b);
        for (std::size_t k = 1; k + 1 < at.size(); ++k)
            if (std::abs(at[k].second) < least_overlap && at[k].second != 0 &&
                at[k].second * at[k - 1].second < 0 && at[k].second * at[k + 1].second < 0)
                refuse_sliver(at[k].first);
        for (std::size_t k = 0; k + 1 < at.size(); ++k) {
            const auto [t0, d0] = at[k];
            const auto [t1, d1] = at[k + 1];
            if (d0 == 0 && k > 0 && at[k - 1].second != 0 && d1 != 0) { // they touch there
                const double r = radius_at(below_, t0);
                all_.push_back({t0, r, r, true, true});
            }
            if (d0 * d1 >= 0) continue;
            const auto before = [&, sign = d0](double m) {
                return (radius_at(below_, m) - radius_at(above_, m)) * sign > 0;
            };
            const double t = halved(t0, t1, before, 1e-14).middle(), r = radius_at(below_, t);
            all_.push_back({t, r, r, true, true});
        }
    }
    std::vector<std::pair<double, double>> sampled(const Node& a,
                                                   const Node& b) const { // θ and the difference
        std::vector<std::pair<double, double>> at{{a.theta, difference(a)}};
        std::vector<double> inner = touching_angles(below_, a.theta, b.theta);
        for (const double t : touching_angles(above_, a.theta, b.theta))
            inner.push_back(t);
        constexpr int samples = 8;
        for (int k = 1; k < samples; ++k)
            inner.push_back(a.theta + (b.theta - a.theta) * k / samples);
        std::sort(inner.begin(), inner.end());
        for (const double t : inner)
            if (t > at.back().first + same_theta) at.emplace_back(t, gap_at(t));
        at.emplace_back(b.theta, difference(b));
        return at;
    }

    std::size_t count() const { return all_.size(); }
    std::pair<double, double> interval(std::size_t i) const { // from this node to the next
        return {all_[i].theta, all_[(i + 1) % count()].theta + (i + 1 == count() ? full_turn : 0)};
    }

    // Of each interval: 1 where the rim below is larger, 0 where the rims coincide.
    void find_signs() {
        sign_.resize(count());
        for (std::size_t i = 0; i < count(); ++i) {
            const auto [from, to] = interval(i);
            const double d = bent(from, to) ? gap_at((from + to) / 2)
                                            : difference(all_[i]) + difference(all_[(i + 1) % count()]);
            sign_[i] = d > 0 ? 1 : d < 0 ? -1 : 0;
        }
    }

    // Where the rims touch both have the corner, and a ring is parted there.
    void unite_touching() {
        touch_.resize(count());
        const auto unite = [](Node& node) { node.on_below = node.on_above = true, node.above = node.below; };
        for (std::size_t i = 0; i < count(); ++i) {
            if (difference(all_[i]) != 0) continue;
            touch_[i] = sign_[(i + count() - 1) % count()] != 0 || sign_[i] != 0;
            unite(all_[i]);
        }
        if (std::all_of(sign_.begin(), sign_.end(), [](int s) { return s == 0; }))
            std::for_each(all_.begin(), all_.end(), unite);
    }

    void add_corners() {
        skin_.joins.push_back({z_, {}});
        std::vector<double>& samples = skin_.joins.back().theta;
        // between two curves from corner to corner there is a sample, so that a sliver has triangles
        for (std::size_t i = 0; i < count(); ++i)
            if (const auto [from, to] = interval(i); sign_[i] != 0 && bent(from, to))
                samples.push_back(wrapped((from + to) / 2));
        for (const Node& node : all_) {
            samples.push_back(node.theta);
            const bool shared = node.on_below && node.on_above && difference(node) == 0;
            int corner = -1;
            if (node.on_below) {
                corner = add_corner(skin_, node.theta, node.below, z_);
                rb_.theta.push_back(node.theta);
                rb_.corner.push_back(corner);
            }
            if (node.on_above) {
                ra_.theta.push_back(node.theta);
                ra_.corner.push_back(shared ? corner : add_corner(skin_, node.theta, node.above, z_));
            }
        }
        std::sort(samples.begin(), samples.end());
    }

    int sign_between(double from, double to) const { // of the first interval in [from, to)
        const double middle = wrapped((from + to) / 2);
        for (std::size_t i = 0; i < count(); ++i) {
            double t0 = all_[i].theta, t1 = all_[(i + 1) % count()].theta;
            if (t1 <= t0) t1 += full_turn;
            double m = middle;
            if (m < t0 - same_theta) m += full_turn;
            if (m >= t0 - same_theta && m < t1) return sign_[i];
        }
        return 1;
    }

    void make_edges(const Rim& shape, RimEdges& rim, const RimEdges* share_with) {
        const std::size_t m = rim.corner.size();
        for (std::size_t i = 0; i < m; ++i) {
            const std::size_t j = (i + 1) % m;
            const double from = rim.theta[i], to = rim.theta[j] + (j <= i ? full_turn : 0);
            if (share_with && sign_between(from, to) == 0) {
                for (std::size_t k = 0; k < share_with->corner.size(); ++k)
                    if (share_with->corner[k] == rim.corner[i]) rim.edge.push_back(share_with->edge[k]);
                continue;
            }
            rim.edge.push_back(add_arc(skin_, shape, rim.corner[i], from, rim.corner[j], to, z_, join_));
        }
    }

    // A ring if one encloses the other all around, else one face per stretch.
    void add_faces() {
        const bool constant =
            std::all_of(sign_.begin(), sign_.end(), [&](int s) { return s == sign_.front(); }) &&
            std::none_of(touch_.begin(), touch_.end(), [](bool t) { return t; });
        if (!constant) return add_stretches();
        if (sign_.front() == 0) return;
        const bool up = sign_.front() > 0; // the zone below is larger: its shoulder faces up
        add_flat(skin_, z_, FaceRole::step, up ? zone_below_ : zone_above_, up,
                 {around(up ? rb_ : ra_, up), around(up ? ra_ : rb_, !up)});
    }
    void add_stretches() {
        const auto part = std::find(touch_.begin(), touch_.end(), true);
        if (part == touch_.end()) throw std::logic_error("rim: two rims change sides without meeting");
        const auto first = static_cast<std::size_t>(part - touch_.begin());
        for (std::size_t k = 0; k < count();) {
            const std::size_t i = (first + k) % count();
            std::size_t run = 1;
            while (k + run < count() && !touch_[(first + k + run) % count()])
                ++run;
            if (sign_[i] != 0) {
                const double from = all_[i].theta;
                double to = all_[(i + run) % count()].theta;
                if (to <= from) to += full_turn;
                add_stretch(from, to, sign_[i] > 0);
            }
            k += run;
        }
    }
    void add_stretch(double from, double to, bool up) {
        // counter-clockwise from above: outer rising, inner falling; from below the other way round
        const RimEdges& outer = up ? rb_ : ra_;
        const RimEdges& inner = up ? ra_ : rb_;
        std::vector<EdgeUse> loop = up ? outer.path(from, to) : outer.path(to, from);
        const auto back = up ? inner.path(to, from) : inner.path(from, to);
        loop.insert(loop.end(), back.begin(), back.end());
        add_flat(skin_, z_, FaceRole::step, up ? zone_below_ : zone_above_, up, {loop});
    }

    Skin& skin_;
    double z_;
    const Rim &below_, &above_;
    int zone_below_, zone_above_, join_;
    std::vector<Node> all_;
    std::vector<int> sign_;
    std::vector<bool> touch_;
    RimEdges rb_, ra_; // of the rim below and above
};

} // namespace

Joined join_rims(Skin& skin, double z, const Rim* below, int zone_below, const Rim* above, int zone_above,
                 bool open) {
    if (below && above) return RimJoin(skin, z, *below, zone_below, *above, zone_above).join();
    Joined out;
    RimEdges rim = lone_rim(skin, below ? *below : *above, z, -1);
    if (!open)
        add_flat(skin, z, FaceRole::end, below ? zone_below : zone_above, below != nullptr,
                 {around(rim, below != nullptr)});
    (below ? out.below : out.above) = std::move(rim);
    return out;
}

} // namespace whorl::solid
