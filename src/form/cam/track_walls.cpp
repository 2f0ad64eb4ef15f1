#include "form/cam/track_walls.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr double widest = 85 * pi / 180; // of a wall in one piece
constexpr double least_piece = 1e-3;     // rad: between what interrupts a wall
constexpr std::size_t samples = WallTrim::count;

struct Trouble {
    DrumTrouble what;
    double t;
};

// Two walls that end on each other, as t on either.
struct Meeting {
    std::array<WallTrim, 2> trim;
    std::array<double, 2> low{1e300, 1e300}, high{-1e300, -1e300}; // over all radii
};

// A way of the track at an angle t.
struct Way {
    double t = 0;
    std::size_t part = 0;
    double slope = 0; // dz/dt
};

// What interrupts a wall, at the drum's radius and over all radii: from `begin` on it is gone, from `end` on
// there again.
struct Break {
    double at = 0, begin = 0, end = 0, first = 0, last = 0;
    std::optional<WallTrim> trim_before, trim_after;
    int node_before = 0, node_after = 0;
    bool round_corner = false;
    std::size_t part_before = 0, part_after = 0; // of the motion, at a corner
    bool is_joint() const { return !trim_before && !round_corner; }
};

class Layout {
public:
    explicit Layout(const ResolvedDrum& d)
        : d_(d), way_(d.spec.clockwise ? 1 : -1), whole_(d.motion.whole), start_(way_ > 0 ? 0 : -whole_) {}

    TrackWalls all() {
        try {
            for (const TrackCrossing& c : d_.crossings)
                add_crossing(c);
            add_joints();
            add_between();
            for (int side = 0; side < 2; ++side)
                add_pieces(side);
            std::sort(stations_.begin(), stations_.end(),
                      [](const auto& a, const auto& b) { return a.first < b.first; });
            for (const auto& [at, s] : stations_)
                out_.stations.push_back(s);
        } catch (const Trouble& t) {
            out_ = {};
            out_.trouble = t.what;
            out_.trouble_at = d_.motion.wrapped(way_ * t.t);
        }
        return std::move(out_);
    }

private:
    double wrapped(double t) const { return t - std::floor((t - start_) / whole_) * whole_; }
    Way way_at(double t) const {
        t = wrapped(t);
        const std::size_t part = d_.motion.part_at(way_ * t);
        return {t, part, path_at(d_, part, t).dz.c[0]};
    }
    int new_node() { return out_.nodes++; }

    // The walls of side a and b (0, 1) of two ways that cross, from the crossing of their tangents.
    Meeting meeting(const Way& p, int a, const Way& q, int b) const {
        const double R = d_.radius, rho = d_.half_width;
        Meeting out;
        for (WallTrim& trim : out.trim) {
            trim.inner = std::min(R, d_.other_radius);
            trim.outer = std::max(R, d_.other_radius);
        }
        if (rho == 0) { // a line, at the drum's radius only
            for (std::size_t w = 0; w < 2; ++w) {
                out.trim[w].inner = R - 1;
                out.low[w] = out.high[w] = w == 0 ? p.t : q.t;
                out.trim[w].c[0] = out.low[w];
            }
            return out;
        }
        const double sa = a == 0 ? -1 : 1, sb = b == 0 ? -1 : 1;
        const double lp = std::hypot(R, p.slope), lq = std::hypot(R, q.slope);
        // n·x = σ·ρ for both; x in (R·θ, z) about the crossing
        const double p0 = -p.slope / lp, p1 = R / lp, q0 = -q.slope / lq, q1 = R / lq;
        const double det = p0 * q1 - p1 * q0;
        const double x = rho * (sa * q1 - sb * p1) / det, z = rho * (p0 * sb - q0 * sa) / det;
        double t = p.t + (x * R + z * p.slope) / (lp * lp), u = q.t + (x * R + z * q.slope) / (lq * lq);
        const double shift = std::round((q.t - p.t) / full_turn) * full_turn;
        // which formula either has there
        std::size_t part_t = p.part, part_u = q.part;
        const auto step = [&](double r) {
            const WallSlopes f = wall_at(part_t, sa, t, r), g = wall_at(part_u, sb, u, r);
            const double e0 = f.theta.c[0] - g.theta.c[0] + shift, e1 = f.z.c[0] - g.z.c[0];
            const double a0 = f.theta.c[1], a1 = f.z.c[1], b0 = -g.theta.c[1], b1 = -g.z.c[1];
            const double dd = a0 * b1 - a1 * b0;
            const double dt = -(e0 * b1 - b0 * e1) / dd, du = -(a0 * e1 - a1 * e0) / dd;
            t += dt;
            u += du;
            return std::abs(dt) + std::abs(du);
        };
        const bool at_corner = p.part != q.part && std::abs(std::remainder(p.t - q.t, whole_)) < 1e-9;
        for (int i = 0; i < 12; ++i) {
            const double moved = step(R);
            if (!(moved < 2)) throw Trouble{DrumTrouble::crossing_close, p.t};
            if (!at_corner) { // a corner keeps its two
                part_t = way_at(t).part;
                part_u = way_at(u).part;
            }
            if (moved < 1e-15) break;
        }
        std::array<std::array<double, samples>, 2> value;
        for (std::size_t j = 0; j < samples; ++j) {
            const double x_j = std::cos(pi * static_cast<double>(j) / (samples - 1));
            // from the drum's radius on, whichever end that is
            const bool outer_first = R > d_.other_radius;
            const double mid = (out.trim[0].inner + out.trim[0].outer) / 2,
                         half = (out.trim[0].outer - out.trim[0].inner) / 2;
            const double r = mid + (outer_first ? x_j : -x_j) * half;
            for (int i = 0; i < 20; ++i) {
                const double moved = step(r);
                if (!(moved < 2)) throw Trouble{DrumTrouble::crossing_close, p.t};
                if (moved < 1e-15) break;
            }
            const std::size_t k = outer_first ? j : samples - 1 - j;
            value[0][k] = t;
            value[1][k] = u;
            for (std::size_t w = 0; w < 2; ++w) {
                out.low[w] = std::min(out.low[w], value[w][k]);
                out.high[w] = std::max(out.high[w], value[w][k]);
            }
        }
        for (std::size_t w = 0; w < 2; ++w) {
            const std::size_t part = w == 0 ? part_t : part_u;
            const auto range = range_of(part);
            const double turn = into_part(part, (out.low[w] + out.high[w]) / 2);
            const double centre = w == 0 ? p.t : q.t;
            if (out.low[w] + turn < range[0] + least_piece || out.high[w] + turn > range[1] - least_piece)
                throw Trouble{at_corner ? DrumTrouble::undercut : DrumTrouble::crossing_at_joint, centre};
            fit(value[w], out.trim[w]);
        }
        return out;
    }

    // The Chebyshev sum through values at its extremes, the first at the outer radius.
    static void fit(const std::array<double, samples>& value, WallTrim& trim) {
        constexpr std::size_t n = samples - 1;
        for (std::size_t k = 0; k <= n; ++k) {
            double sum = 0;
            for (std::size_t j = 0; j <= n; ++j)
                sum +=
                    value[j] * std::cos(pi * static_cast<double>(j * k) / n) * (j == 0 || j == n ? 0.5 : 1);
            trim.c[k] = sum * 2 / n * (k == 0 || k == n ? 0.5 : 1);
        }
    }

    // What brings an angle near a part to it: turns of the whole.
    double into_part(std::size_t part, double t) const {
        const auto range = range_of(part);
        return std::round(((range[0] + range[1]) / 2 - t) / whole_) * whole_;
    }
    WallSlopes wall_at(std::size_t part, double sign, double t, double r) const {
        const double turn = into_part(part, t);
        WallSlopes out = DrumWall(d_, part, sign, 0, 1).point(t + turn, r);
        out.theta.c[0] -= turn;
        return out;
    }
    std::array<double, 2> range_of(std::size_t part) const {
        const MotionPart& m = d_.motion.parts[part];
        return way_ > 0 ? std::array{m.from, m.to} : std::array{-m.to, -m.from};
    }

    void add_crossing(const TrackCrossing& c) {
        const Way ways[2]{way_at(way_ * c.first), way_at(way_ * c.second)};
        std::array<std::array<Meeting, 2>, 2> meet;
        std::array<std::array<int, 2>, 2> node;
        for (int a = 0; a < 2; ++a)
            for (int b = 0; b < 2; ++b) {
                meet[a][b] = meeting(ways[0], a, ways[1], b);
                node[a][b] = new_node();
            }
        const bool first_steeper = ways[0].slope > ways[1].slope;
        for (int w = 0; w < 2; ++w) {
            // a steeper way comes from below: it meets the other's near wall first
            const int in = (w == 0) == first_steeper ? 0 : 1;
            TrackStation s;
            for (int side = 0; side < 2; ++side) {
                const auto& low = w == 0 ? meet[side][in] : meet[in][side];
                const auto& high = w == 0 ? meet[side][1 - in] : meet[1 - in][side];
                const auto ww = static_cast<std::size_t>(w);
                Break b;
                b.at = ways[w].t;
                b.trim_before = low.trim[ww];
                b.trim_after = high.trim[ww];
                b.begin = b.trim_before->at(d_.radius);
                b.end = b.trim_after->at(d_.radius);
                b.first = low.low[ww];
                b.last = high.high[ww];
                b.node_before = w == 0 ? node[side][in] : node[in][side];
                b.node_after = w == 0 ? node[side][1 - in] : node[1 - in][side];
                s.in[static_cast<std::size_t>(side)] = b.node_before;
                s.out[static_cast<std::size_t>(side)] = b.node_after;
                breaks_[side].push_back(b);
            }
            stations_.push_back({ways[w].t, s});
        }
        // bottom, right, top, left; the steeper way's near side is the right one
        out_.squares.push_back(first_steeper ? std::array{node[0][0], node[0][1], node[1][1], node[1][0]}
                                             : std::array{node[0][0], node[1][0], node[1][1], node[0][1]});
    }

    // Where a wall is gone there is no joint. Near its ends there is none either, see meeting().
    bool is_broken(int side, double t) const {
        return std::any_of(breaks_[side].begin(), breaks_[side].end(), [&](const Break& b) {
            const double near = b.at + std::remainder(t - b.at, whole_);
            return !b.is_joint() && near > b.first - least_piece && near < b.last + least_piece;
        });
    }

    void add_joint(double t) {
        std::array<int, 2> nodes{-1, -1};
        for (int side = 0; side < 2; ++side) {
            if (is_broken(side, t)) continue;
            Break j;
            j.at = j.begin = j.end = j.first = j.last = t;
            j.node_before = j.node_after = nodes[static_cast<std::size_t>(side)] = new_node();
            breaks_[side].push_back(j);
        }
        if (nodes[0] >= 0 && nodes[1] >= 0) stations_.push_back({t, {nodes, nodes}});
    }

    void add_corner(double t, std::size_t before, std::size_t after, double m0, double m1) {
        // the far wall is inside where the track turns upwards
        const int inside = m1 > m0 ? 1 : 0;
        TrackStation s;
        for (int side = 0; side < 2; ++side) {
            if (is_broken(side, t)) throw Trouble{DrumTrouble::crossing_close, t};
            Break b;
            b.at = t;
            b.part_before = before;
            b.part_after = after;
            if (side == inside) {
                const double begin = range_of(before)[1]; // the same angle, but at the end of the whole
                const Meeting m = meeting({begin, before, m0}, side, {t, after, m1}, side);
                const double turn = t - begin;
                b.trim_before = m.trim[0];
                b.trim_before->c[0] += turn;
                b.trim_after = m.trim[1];
                b.begin = b.trim_before->at(d_.radius);
                b.end = b.trim_after->at(d_.radius);
                b.first = m.low[0] + turn;
                b.last = m.high[1];
                b.node_before = b.node_after = new_node();
            } else {
                b.begin = b.end = b.first = b.last = t;
                b.node_before = new_node();
                b.node_after = new_node();
                b.round_corner = true;
            }
            s.in[static_cast<std::size_t>(side)] = s.out[static_cast<std::size_t>(side)] = b.node_before;
            corners_[side].push_back(b);
        }
        stations_.push_back({t, s});
    }

    void add_joints() {
        const auto& parts = d_.motion.parts;
        const std::size_t n = parts.size();
        std::vector<double> plain;
        for (std::size_t i = 0; i < n; ++i) {
            const double t = range_of(i)[0];
            const std::size_t before = way_ > 0 ? (i + n - 1) % n : (i + 1) % n;
            const double m0 = path_at(d_, before, range_of(before)[1]).dz.c[0],
                         m1 = path_at(d_, i, t).dz.c[0];
            if (d_.keeps_corners() && std::abs(m0 - m1) > 1e-7)
                add_corner(t, before, i, m0, m1);
            else
                plain.push_back(t);
        }
        for (int side = 0; side < 2; ++side)
            breaks_[side].insert(breaks_[side].end(), corners_[side].begin(), corners_[side].end());
        for (const double t : plain)
            add_joint(t);
    }

    // So that no piece runs further than the widest.
    void add_between() {
        std::vector<std::array<double, 2>> taken;
        for (int side = 0; side < 2; ++side)
            for (const Break& b : breaks_[side]) {
                const double turn = wrapped(b.at) - b.at;
                taken.push_back({b.first + turn, b.last + turn});
            }
        std::sort(taken.begin(), taken.end());
        taken.push_back({taken.front()[0] + whole_, taken.front()[1] + whole_});
        double from = taken.front()[1];
        std::vector<double> added;
        for (const auto& [first, last] : taken) {
            if (const double room = first - from; room > widest + 1e-9) {
                const int n = static_cast<int>(std::ceil(room / widest - 1e-9));
                for (int k = 1; k < n; ++k)
                    added.push_back(wrapped(from + room * k / n));
            }
            from = std::max(from, last);
        }
        for (const double t : added)
            add_joint(t);
    }

    void add_pieces(int side) {
        std::vector<Break>& list = breaks_[side];
        for (Break& b : list) {
            const double turn = wrapped(b.at) - b.at;
            shift(b, turn);
        }
        std::sort(list.begin(), list.end(), [](const Break& a, const Break& b) { return a.begin < b.begin; });
        const double sign = side == 0 ? -1 : 1;
        for (std::size_t i = 0; i < list.size(); ++i) {
            const Break& b = list[i];
            if (b.round_corner)
                out_.pieces.push_back({DrumWall::around_corner(d_, b.part_before, b.part_after, sign,
                                                               range_of(b.part_before)[1], b.at),
                                       side, b.node_before, b.node_after});
            Break next = list[(i + 1) % list.size()];
            if (i + 1 == list.size()) shift(next, whole_);
            if (next.first < b.last + least_piece) throw Trouble{DrumTrouble::crossing_close, b.at};
            const double turn = wrapped((b.end + next.begin) / 2) - (b.end + next.begin) / 2;
            Break from = b;
            shift(from, turn);
            shift(next, turn);
            const std::size_t part = d_.motion.part_at(way_ * (from.end + next.begin) / 2);
            const bool line = d_.is_line();
            out_.pieces.push_back(
                {line ? DrumWall(d_, part, sign, from.end, next.begin)
                      : DrumWall(d_, part, sign, from.end, next.begin, from.trim_after, next.trim_before),
                 side, b.node_after, next.node_before});
        }
    }

    static void shift(Break& b, double by) {
        for (double* v : {&b.at, &b.begin, &b.end, &b.first, &b.last})
            *v += by;
        for (auto* trim : {&b.trim_before, &b.trim_after})
            if (*trim) (*trim)->c[0] += by;
    }

    const ResolvedDrum& d_;
    double way_, whole_, start_;
    std::vector<Break> breaks_[2], corners_[2];
    std::vector<std::pair<double, TrackStation>> stations_;
    TrackWalls out_;
};

} // namespace

TrackWalls walls_of(const ResolvedDrum& d) {
    return Layout(d).all();
}

} // namespace whorl
