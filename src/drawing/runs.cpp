#include "drawing/runs.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_map>

namespace whorl::drawing {
namespace {

double length(At v) {
    return std::hypot(v.x, v.y);
}

double cross(At a, At b) {
    return a.x * b.y - a.y * b.x;
}

double dot(At a, At b) {
    return a.x * b.x + a.y * b.y;
}

// One number for each place, within a distance.
class Places {
public:
    explicit Places(double near) : near_(near) {}
    std::size_t of(At p) {
        const long x = std::lround(p.x / near_), y = std::lround(p.y / near_);
        for (long i = -1; i <= 1; ++i)
            for (long k = -1; k <= 1; ++k)
                if (const auto found = cells_.find({x + i, y + k});
                    found != cells_.end() && length(points[found->second] - p) <= near_)
                    return found->second;
        cells_[{x, y}] = points.size();
        points.push_back(p);
        return points.size() - 1;
    }
    std::vector<At> points;

private:
    double near_;
    std::map<std::pair<long, long>, std::size_t> cells_;
};

// A straight line through the picture, its direction in the right half.
struct Straight {
    At along;
    double off = 0;
    explicit Straight(At a, At b) {
        along = b - a;
        along = (1 / std::max(1e-300, length(along))) * along;
        if (along.x < -1e-9 || (std::abs(along.x) <= 1e-9 && along.y < 0)) along = -1.0 * along;
        off = cross(along, a);
    }
};

struct Interval {
    double from, to;
};

// Bits on one line, by that line. `near`: how far off one may lie.
struct OnLine {
    Straight line;
    std::vector<Interval> parts;
};
class Lines {
public:
    Lines(double near, double reach) : near_(near), turn_(near / std::max(reach, near)) {}
    OnLine& of(At a, At b) {
        const Straight s(a, b);
        const long angle = std::lround(std::atan2(s.along.y, s.along.x) / (20 * turn_)),
                   off = std::lround(s.off / (20 * near_));
        for (long i = -1; i <= 1; ++i)
            for (long k = -1; k <= 1; ++k)
                if (const auto found = known_.find({angle + i, off + k}); found != known_.end())
                    for (const std::size_t at : found->second)
                        if (const Straight& l = lines[at].line;
                            std::abs(cross(l.along, a) - l.off) < 3 * near_ &&
                            std::abs(cross(l.along, b) - l.off) < 3 * near_)
                            return lines[at];
        known_[{angle, off}].push_back(lines.size());
        lines.push_back({s, {}});
        return lines.back();
    }
    std::vector<OnLine> lines;

private:
    double near_, turn_;
    std::map<std::pair<long, long>, std::vector<std::size_t>> known_;
};

Interval along(const Straight& s, At a, At b) {
    const double p = dot(s.along, a), q = dot(s.along, b);
    return {std::min(p, q), std::max(p, q)};
}

At on(const Straight& s, double at) {
    return at * s.along + s.off * At{-s.along.y, s.along.x};
}

double reach_of(const std::vector<Link2>& bits) {
    Box box;
    for (const Link2& b : bits) {
        box.hold(b.a);
        box.hold(b.b);
    }
    return std::max({std::abs(box.left), std::abs(box.right), std::abs(box.top), std::abs(box.bottom), 1e-6});
}

} // namespace

void tidy(Run& run, double near) {
    std::vector<At>& p = run.points;
    const auto same = [&](At a, At b) { return length(a - b) <= near; };
    std::vector<At> out;
    for (const At& q : p)
        if (out.empty() || !same(out.back(), q)) out.push_back(q);
    while (run.closed && out.size() > 1 && same(out.front(), out.back()))
        out.pop_back();
    for (bool again = true; again;) {
        again = false;
        std::vector<At> kept;
        const std::size_t n = out.size();
        for (std::size_t i = 0; i < n; ++i) {
            if (!run.closed && (i == 0 || i + 1 == n)) {
                kept.push_back(out[i]);
                continue;
            }
            const At a = kept.empty() ? out[(i + n - 1) % n] : kept.back(), b = out[i], c = out[(i + 1) % n];
            const double size = length(c - a);
            if (n > 2 && size > near && std::abs(cross(c - a, b - a)) / size <= near && dot(b - a, c - b) > 0)
                again = true;
            else
                kept.push_back(b);
        }
        if (kept.size() == out.size()) break;
        out = std::move(kept);
    }
    p = std::move(out);
}

std::vector<Run> chained(std::vector<Link2> bits, double near) {
    std::erase_if(bits, [&](const Link2& b) { return length(b.b - b.a) <= near; });
    // what lies on one line, once
    Lines lines(near, reach_of(bits));
    for (const Link2& b : bits) {
        OnLine& l = lines.of(b.a, b.b);
        l.parts.push_back(along(l.line, b.a, b.b));
    }
    Places places(2 * near);
    std::vector<std::array<std::size_t, 2>> ends;
    for (OnLine& l : lines.lines) {
        std::sort(l.parts.begin(), l.parts.end(), [](auto a, auto b) { return a.from < b.from; });
        for (std::size_t i = 0; i < l.parts.size();) {
            Interval all = l.parts[i++];
            while (i < l.parts.size() && l.parts[i].from <= all.to + near)
                all.to = std::max(all.to, l.parts[i++].to);
            const std::size_t a = places.of(on(l.line, all.from)), b = places.of(on(l.line, all.to));
            if (a != b) ends.push_back({a, b});
        }
    }
    std::vector<std::vector<std::size_t>> at(places.points.size());
    for (std::size_t i = 0; i < ends.size(); ++i)
        for (const std::size_t p : ends[i])
            at[p].push_back(i);
    std::vector<bool> used(ends.size());
    std::vector<Run> out;
    const auto walk = [&](std::size_t from, std::size_t bit) {
        Run run{{places.points[from]}, false};
        std::size_t place = from;
        for (;;) {
            used[bit] = true;
            place = ends[bit][0] == place ? ends[bit][1] : ends[bit][0];
            if (place == from) {
                run.closed = true;
                break;
            }
            run.points.push_back(places.points[place]);
            if (at[place].size() != 2) break;
            const std::size_t next = at[place][0] == bit ? at[place][1] : at[place][0];
            if (used[next]) break;
            bit = next;
        }
        tidy(run, near);
        if (run.points.size() > 1) out.push_back(std::move(run));
    };
    for (std::size_t p = 0; p < at.size(); ++p)
        if (at[p].size() != 2)
            for (const std::size_t bit : at[p])
                if (!used[bit]) walk(p, bit);
    for (std::size_t i = 0; i < ends.size(); ++i)
        if (!used[i]) walk(ends[i][0], i);
    return out;
}

std::vector<Run> without(const std::vector<Run>& runs, const std::vector<Run>& others, double near) {
    std::vector<Link2> bits;
    const auto each_bit = [](const Run& r, const auto& use) {
        for (std::size_t i = 0; i + 1 < r.points.size() + (r.closed ? 1 : 0); ++i)
            use(r.points[i], r.points[(i + 1) % r.points.size()]);
    };
    double reach = 1e-6;
    for (const auto* list : {&runs, &others})
        for (const Run& r : *list)
            for (const At& p : r.points)
                reach = std::max({reach, std::abs(p.x), std::abs(p.y)});
    Lines lines(near, reach);
    for (const Run& r : others)
        each_bit(r, [&](At a, At b) {
            OnLine& l = lines.of(a, b);
            l.parts.push_back(along(l.line, a, b));
        });
    for (const Run& r : runs)
        each_bit(r, [&](At a, At b) {
            OnLine& l = lines.of(a, b);
            std::vector<Interval> left{along(l.line, a, b)};
            for (const Interval& taken : l.parts) {
                std::vector<Interval> next;
                for (const Interval& v : left) {
                    if (taken.to <= v.from || taken.from >= v.to) {
                        next.push_back(v);
                        continue;
                    }
                    if (taken.from > v.from + near) next.push_back({v.from, taken.from});
                    if (taken.to < v.to - near) next.push_back({taken.to, v.to});
                }
                left = std::move(next);
            }
            const double whole = length(b - a);
            for (const Interval& v : left)
                if (v.to - v.from > 0.999999 * whole)
                    bits.push_back({a, b});
                else
                    bits.push_back({on(l.line, v.from), on(l.line, v.to)});
        });
    return chained(std::move(bits), near / 100);
}

namespace {

struct Round {
    At centre;
    double radius = 0;
};

Round through(At a, At b, At c) {
    const At u = b - a, v = c - a;
    const double d = 2 * cross(u, v);
    if (std::abs(d) < 1e-300) return {};
    const double uu = dot(u, u), vv = dot(v, v);
    const At m{(v.y * uu - u.y * vv) / d, (u.x * vv - v.x * uu) / d};
    return {a + m, length(m)};
}

constexpr double most_turn = 0.36; // of one chord of an arc to the next, about 20°

double turn(At a, At b, At c) {
    const At u = b - a, v = c - b;
    return std::atan2(cross(u, v), dot(u, v));
}

} // namespace

std::vector<Stroke> strokes_of(const std::vector<Run>& runs, LineKind kind, double tolerance) {
    std::vector<Stroke> strokes;
    for (const Run& run : runs) {
        std::vector<Stroke> out; // of this one
        const auto done = [&] { strokes.insert(strokes.end(), out.begin(), out.end()); };
        std::vector<At> p = run.points;
        if (run.closed && p.size() > 5) { // a circle as a whole
            const Round r = through(p[0], p[p.size() / 3], p[2 * p.size() / 3]);
            bool all = r.radius > 0;
            for (std::size_t i = 0; all && i < p.size(); ++i)
                all = std::abs(length(p[i] - r.centre) - r.radius) < tolerance &&
                      std::abs(turn(p[i], p[(i + 1) % p.size()], p[(i + 2) % p.size()])) < most_turn;
            if (all) {
                strokes.push_back(circle(kind, r.centre, r.radius));
                continue;
            }
        }
        if (run.closed) { // begins at a corner
            std::size_t corner = 0;
            double most = -1;
            for (std::size_t i = 0; i < p.size(); ++i)
                if (const double t =
                        std::abs(turn(p[(i + p.size() - 1) % p.size()], p[i], p[(i + 1) % p.size()]));
                    t > most) {
                    most = t;
                    corner = i;
                }
            std::rotate(p.begin(), p.begin() + static_cast<std::ptrdiff_t>(corner), p.end());
            p.push_back(p.front());
        }
        std::vector<At> curve{p.front()};
        const auto finish = [&] {
            if (curve.size() > 1) out.push_back({.kind = kind, .points = curve, .smooth = curve.size() > 3});
        };
        for (std::size_t i = 0; i + 1 < p.size();) {
            // as many points as lie on one arc
            std::size_t end = i + 1;
            Round r;
            if (i + 3 < p.size()) {
                r = through(p[i], p[i + 1], p[i + 2]);
                const double sense = turn(p[i], p[i + 1], p[i + 2]);
                for (std::size_t k = i + 2; r.radius > 0 && k < p.size(); ++k) {
                    const double t = turn(p[k - 2], p[k - 1], p[k]);
                    if (std::abs(t) > most_turn || t * sense <= 0 ||
                        std::abs(length(p[k] - r.centre) - r.radius) > tolerance)
                        break;
                    end = k;
                }
            }
            if (end >= i + 3) {
                finish();
                // the best circle through first, middle and last
                r = through(p[i], p[(i + end) / 2], p[end]);
                double a = std::atan2(p[i].y - r.centre.y, p[i].x - r.centre.x),
                       b = std::atan2(p[end].y - r.centre.y, p[end].x - r.centre.x);
                if (turn(p[i], p[i + 1], p[i + 2]) < 0) std::swap(a, b);
                while (b <= a)
                    b += full_turn;
                out.push_back(arc(kind, r.centre, r.radius, a, b));
                curve = {p[end]};
                i = end;
                continue;
            }
            if (curve.size() > 1 &&
                std::abs(turn(curve[curve.size() - 2], curve.back(), p[i + 1])) > most_turn) {
                finish();
                curve = {p[i]};
            }
            curve.push_back(p[i + 1]);
            ++i;
        }
        finish();
        // nothing but straight lines: one stroke
        if (std::all_of(out.begin(), out.end(), [](const Stroke& s) { return !s.is_arc() && !s.smooth; }))
            out = {{.kind = kind, .points = run.points, .closed = run.closed}};
        done();
    }
    return strokes;
}

} // namespace whorl::drawing
