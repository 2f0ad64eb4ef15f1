#include "solid/skin/axial_cut.hpp"

#include "quantity/numeric.hpp"
#include "solid/skin/rim.hpp"
#include "solid/skin/slice_loop.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace whorl::solid {
namespace {

constexpr double step = full_turn / cuts_per_turn;

bool is_round(const Face& f) {
    return f.kind == FaceKind::round || f.kind == FaceKind::curved;
}

// A helicoid's surface does not close, so that it may run a whole turn: it is cut at every second plane.
int planes_apart(const Face& f) {
    return f.rail_slope == 0 ? 1 : cuts_per_turn;
}
bool runs_too_far(const Skin& skin, const Face& f) {
    return angle_around(skin, f) > planes_apart(f) * step + 1e-9;
}

// The parameters, from begin to end, at which an edge crosses one of the planes θ = first + k·step.
std::vector<double> crossings(const Edge& e, double first) {
    std::vector<double> out;
    const double p0 = first_parameter(e), p1 = last_parameter(e);
    double low = std::min(e.begin.theta, e.end.theta), high = std::max(e.begin.theta, e.end.theta);
    if (e.shape == EdgeShape::bow)
        for (const double phi : bow_turns(e.bow)) {
            const double t = point_at(e.bow, phi).theta;
            low = std::min(low, t), high = std::max(high, t);
        }
    if (high - low < 1e-12) return out;
    for (double k = std::ceil((low - first) / step); first + k * step < high; ++k) {
        const double line = first + k * step;
        if (e.shape == EdgeShape::flat_trace) {
            out.push_back(line);
        } else if (e.shape == EdgeShape::bow) {
            const double reach = std::hypot(e.bow.u.theta, e.bow.v.theta),
                         at = std::atan2(e.bow.v.theta, e.bow.u.theta),
                         x = std::acos(std::clamp((line - e.bow.centre.theta) / reach, -1.0, 1.0));
            for (const double phi : {at - x, at + x})
                for (int turn = -2; turn <= 2; ++turn)
                    if (const double p = phi + turn * full_turn; p > std::min(p0, p1) && p < std::max(p0, p1))
                        out.push_back(p);
        } else if (e.shape == EdgeShape::traced) {
            out.push_back(e.wall->parameter(line, e.level));
        } else {
            out.push_back((line - e.begin.theta) / (e.end.theta - e.begin.theta));
        }
    }
    std::sort(out.begin(), out.end());
    if (p1 < p0) std::reverse(out.begin(), out.end());
    return out;
}

class Cutter {
public:
    Cutter(Skin& skin, std::optional<double> towards, const std::vector<KeepClear>& clear)
        : skin_(skin), towards_(towards), keep_clear_(clear), wide_(skin.faces.size()) {
        for (std::size_t i = 0; i < wide_.size(); ++i)
            wide_[i] = is_round(skin.faces[i]) && runs_too_far(skin, skin.faces[i]);
    }

    bool cut() {
        if (std::none_of(wide_.begin(), wide_.end(), [](bool w) { return w; })) return true;
        const std::optional<double> first = clear_angle();
        if (!first) return false;
        first_ = *first;
        split_edges();
        std::vector<Face> faces;
        for (std::size_t i = 0; i < wide_.size(); ++i)
            if (wide_[i])
                add_parts(skin_.faces[i], faces);
            else
                faces.push_back(std::move(skin_.faces[i]));
        skin_.faces = std::move(faces);
        mend_circles();
        drop_unused();
        gather_joins();
        return true;
    }

private:
    using Loop = std::vector<EdgeUse>;

    Edge& edge(int i) { return skin_.edges[static_cast<std::size_t>(i)]; }

    // The middle of the widest gap between the angles that a plane should keep clear of: every corner of the
    // faces that are cut, where their arcs turn back, and the multiples of 15°. None if all are kept clear of.
    std::optional<double> clear_angle() const {
        std::vector<double> taken;
        const auto take = [&](double theta) { taken.push_back(theta - step * std::floor(theta / step)); };
        for (int k = 0; k < 24; ++k)
            take(k * full_turn / 24);
        for (std::size_t i = 0; i < wide_.size(); ++i) {
            if (!wide_[i]) continue;
            for (const Loop& loop : skin_.faces[i].loops)
                for (const EdgeUse& use : loop) {
                    take(start_of(skin_, use).theta);
                    if (const Edge& e = skin_.edges[static_cast<std::size_t>(use.edge)];
                        e.shape == EdgeShape::bow)
                        for (const double phi : bow_turns(e.bow))
                            take(point_at(e.bow, phi).theta);
                }
        }
        for (const KeepClear& k : keep_clear_)
            take(k.middle - k.half), take(k.middle + k.half);
        std::sort(taken.begin(), taken.end());
        taken.push_back(taken.front() + step);
        const auto allowed = [&](std::size_t i) {
            const double middle = (taken[i] + taken[i + 1]) / 2;
            return std::none_of(keep_clear_.begin(), keep_clear_.end(), [&](const KeepClear& k) {
                return std::abs(std::remainder(middle - k.middle, step)) < k.half;
            });
        };
        double widest = 0, best = 1e300;
        std::optional<double> out;
        for (std::size_t i = 0; i + 1 < taken.size(); ++i)
            if (allowed(i)) widest = std::max(widest, taken[i + 1] - taken[i]);
        for (std::size_t i = 0; i + 1 < taken.size(); ++i) {
            if (!allowed(i)) continue;
            const double gap = taken[i + 1] - taken[i], middle = (taken[i] + taken[i + 1]) / 2,
                         off = towards_ ? std::abs(std::remainder(middle - *towards_, step)) : -gap;
            if (gap < widest * 0.98 || off > best - 1e-9) continue;
            best = off;
            out = middle;
        }
        return out;
    }

    // Cuts the edges of wide faces at the planes, in every loop that has them.
    void split_edges() {
        // of each edge: every how manieth plane it is wanted at; 0: at none. Turns change nothing about that.
        std::vector<int> wanted(skin_.edges.size());
        for (std::size_t i = 0; i < wide_.size(); ++i)
            if (wide_[i])
                for (const Loop& loop : skin_.faces[i].loops)
                    for (const EdgeUse& use : loop)
                        if (int& apart = wanted[static_cast<std::size_t>(use.edge)]; apart != 1)
                            apart = planes_apart(skin_.faces[i]);
        std::vector<std::vector<int>> parts(wanted.size());
        for (std::size_t i = 0; i < parts.size(); ++i) {
            parts[i] = {static_cast<int>(i)};
            if (wanted[i] == 0) continue;
            const Edge whole = skin_.edges[i];
            Edge rest = whole;
            for (const double x : crossings(whole, first_)) {
                UnrolledPoint p = point_at(whole, x);
                const long line = std::lround((p.theta - first_) / step);
                p.theta = first_ + step * static_cast<double>(line);
                if (line % wanted[i] != 0) continue;
                const int corner = static_cast<int>(skin_.corners.size());
                skin_.corners.push_back(p);
                Edge part = rest;
                part.to = rest.from = corner;
                part.end = rest.begin = p;
                part.bow.to = rest.bow.from = x;
                if (whole.shape == EdgeShape::traced) part.tooth_to = rest.tooth_from = x;
                edge(parts[i].back()) = part;
                parts[i].push_back(static_cast<int>(skin_.edges.size()));
                skin_.edges.push_back(rest);
            }
        }
        for (Face& f : skin_.faces)
            for (Loop& loop : f.loops) {
                Loop out;
                for (const EdgeUse& use : loop) {
                    const auto& p = parts[static_cast<std::size_t>(use.edge)];
                    for (std::size_t k = 0; k < p.size(); ++k)
                        out.push_back({p[use.forward ? k : p.size() - 1 - k], use.forward, use.turn});
                }
                loop = std::move(out);
            }
    }

    // The strip between two planes that are `width` apart in which a part of an edge lies.
    long strip_of(const EdgeUse& use, double width) const {
        const Edge& e = skin_.edges[static_cast<std::size_t>(use.edge)];
        const double middle = point_at(e, (first_parameter(e) + last_parameter(e)) / 2).theta;
        return std::lround(std::floor((middle + use.turn * full_turn - first_) / width));
    }

    // The line in which a plane cuts a face, from the lower of two of its points.
    int cut_edge(const Face& f, int from, const UnrolledPoint& begin, int to, const UnrolledPoint& end) {
        const int made = add_straight(skin_, from, begin, to, end);
        if (f.kind == FaceKind::curved) {
            Edge& e = skin_.edges.back();
            e.shape = EdgeShape::bow;
            const double theta = begin.theta, middle = (f.arc_from + f.arc_to) / 2,
                         centre_z = f.arc_z + f.rail_slope * theta;
            const double centre_r = f.a + f.b * centre_z + f.c * theta;
            const auto phi = [&](const UnrolledPoint& p) {
                const double at = std::atan2(p.r - (f.a + f.b * p.z + f.c * theta), p.z - centre_z);
                return middle + std::remainder(at - middle, full_turn);
            };
            e.bow = {{theta, centre_r, centre_z},
                     {0, f.b * f.arc_radius, f.arc_radius},
                     {0, f.arc_radius, 0},
                     phi(begin),
                     phi(end)};
        }
        return made;
    }

    void add_parts(const Face& f, std::vector<Face>& out) {
        if (f.loops.size() != 1) throw std::logic_error("axial cut: a round face has more than one boundary");
        const Loop& loop = f.loops.front();
        const double width = planes_apart(f) * step;
        std::vector<long> strip;
        for (const EdgeUse& use : loop)
            strip.push_back(strip_of(use, width));
        // seen from outside, the boundary goes on to greater θ at the lower crossing of a plane
        const auto slices = slice_loop(
            loop, strip, !f.inward, [&](std::size_t i) { return end_of(skin_, loop[i]).z; },
            [&](long plane, std::size_t from, std::size_t to) {
                const auto place = [&](std::size_t i) {
                    UnrolledPoint p = end_of(skin_, loop[i]);
                    p.theta = first_ + static_cast<double>(plane) * width;
                    return p;
                };
                const auto corner = [&](std::size_t i) {
                    const Edge& e = edge(loop[i].edge);
                    return loop[i].forward ? e.to : e.from;
                };
                return cut_edge(f, corner(from), place(from), corner(to), place(to));
            });
        std::vector<Part> parts;
        parts.reserve(slices.size());
        for (const LoopSlice& slice : slices)
            parts.push_back({slice.loop});
        std::vector<int> edges;
        for (const EdgeUse& use : loop)
            edges.push_back(use.edge);
        std::sort(edges.begin(), edges.end());
        for (std::size_t i = 0; i + 1 < edges.size(); ++i)
            if (edges[i] == edges[i + 1])
                join_at_seam(parts, edges[i], f.inward); // the face has it on both sides
        Face like = f;
        like.loops.clear();
        for (Part& boundary : parts) {
            Face part = like;
            part.loops = std::move(boundary);
            out.push_back(std::move(part));
        }
    }

    using Part = std::vector<Loop>; // its outer boundary first

    // The two parts at either side of the uncut face's seam become one. A part that another seam has already closed
    // around a groove has both of its sides: without the seam the groove is a boundary of its own.
    void join_at_seam(std::vector<Part>& parts, int seam, bool inward) const {
        const auto is_seam = [&](const EdgeUse& u) { return u.edge == seam; };
        const auto use_in = [&](Loop& loop) { return std::find_if(loop.begin(), loop.end(), is_seam); };
        const auto has = [&](Part& part) { return use_in(part.front()) != part.front().end(); };
        const auto one = std::find_if(parts.begin(), parts.end(), has),
                   other = std::find_if(one + 1, parts.end(), has);
        Loop& a = one->front();
        std::rotate(a.begin(), use_in(a), a.end());
        if (other == parts.end()) {
            const auto back = std::find_if(a.begin() + 1, a.end(), is_seam);
            if (back == a.end() || back->turn != a.front().turn)
                throw std::logic_error("axial cut: a part lies on both sides of a seam");
            Loop inner(a.begin() + 1, back), outer(back + 1, a.end());
            if ((enclosed(outer) < 0) != inward) std::swap(inner, outer);
            *one = {std::move(outer), std::move(inner)};
            return;
        }
        Loop& b = other->front();
        std::rotate(b.begin(), use_in(b), b.end());
        const int turn = a.front().turn - b.front().turn;
        for (EdgeUse& u : b)
            u.turn += turn;
        a.erase(a.begin());
        a.insert(a.end(), b.begin() + 1, b.end());
        parts.erase(other);
    }
    // Twice the area that a loop runs around in (θ, z), by its corners and middles.
    double enclosed(const Loop& loop) const {
        double sum = 0;
        for (const EdgeUse& use : loop) {
            const Edge& e = skin_.edges[static_cast<std::size_t>(use.edge)];
            UnrolledPoint middle = point_at(e, (first_parameter(e) + last_parameter(e)) / 2);
            middle.theta += use.turn * full_turn;
            const UnrolledPoint p = start_of(skin_, use), q = end_of(skin_, use);
            sum += p.theta * middle.z - middle.theta * p.z + middle.theta * q.z - q.theta * middle.z;
        }
        return sum;
    }

    // Where a seam was, the circles at its ends have a corner that nothing else needs.
    void mend_circles() {
        std::vector<int> used(skin_.edges.size());
        for (const Face& f : skin_.faces)
            for (const Loop& loop : f.loops)
                for (const EdgeUse& u : loop)
                    ++used[static_cast<std::size_t>(u.edge)];
        std::vector<std::vector<int>> meeting(skin_.corners.size());
        std::vector<int> candidates;
        for (std::size_t i = 0; i < skin_.edges.size(); ++i) {
            const Edge& e = skin_.edges[i];
            if (used[i] > 0) {
                meeting[static_cast<std::size_t>(e.from)].push_back(static_cast<int>(i));
                meeting[static_cast<std::size_t>(e.to)].push_back(static_cast<int>(i));
            } else {
                candidates.insert(candidates.end(), {e.from, e.to});
            }
        }
        std::map<int, int> into; // edge → the one it has become part of
        for (const int corner : candidates) {
            const auto& pair = meeting[static_cast<std::size_t>(corner)];
            if (pair.size() != 2 || pair[0] == pair[1]) continue;
            const int a = edge(pair[0]).to == corner ? pair[0] : pair[1],
                      b = a == pair[0] ? pair[1] : pair[0];
            Edge &p = edge(a), &q = edge(b);
            const auto circle = [](const Edge& e) {
                return e.shape == EdgeShape::straight && std::abs(e.begin.r - e.end.r) < 1e-12 &&
                       std::abs(e.begin.z - e.end.z) < 1e-12;
            };
            if (p.to != corner || q.from != corner || !circle(p) || !circle(q)) continue;
            mended_.push_back(wrapped(q.begin.theta));
            p.end.theta += q.end.theta - q.begin.theta;
            p.to = q.to;
            for (int& m : meeting[static_cast<std::size_t>(q.to)])
                if (m == b) m = a;
            into[b] = a;
        }
        if (into.empty()) return;
        for (Face& f : skin_.faces)
            for (Loop& loop : f.loops)
                loop.erase(std::remove_if(loop.begin(), loop.end(),
                                          [&](const EdgeUse& u) { return into.contains(u.edge); }),
                           loop.end());
    }

    void drop_unused() {
        std::vector<int> edge_now(skin_.edges.size(), -1), corner_now(skin_.corners.size(), -1);
        std::vector<Edge> edges;
        std::vector<UnrolledPoint> corners;
        for (Face& f : skin_.faces)
            for (Loop& loop : f.loops)
                for (EdgeUse& u : loop) {
                    int& now = edge_now[static_cast<std::size_t>(u.edge)];
                    if (now < 0) {
                        now = static_cast<int>(edges.size());
                        edges.push_back(edge(u.edge));
                        for (int* c : {&edges.back().from, &edges.back().to}) {
                            int& at = corner_now[static_cast<std::size_t>(*c)];
                            if (at < 0) {
                                at = static_cast<int>(corners.size());
                                corners.push_back(skin_.corners[static_cast<std::size_t>(*c)]);
                            }
                            *c = at;
                        }
                    }
                    u.edge = now;
                }
        skin_.edges = std::move(edges);
        skin_.corners = std::move(corners);
    }

    // Samples at corners that are gone would stand right over what else is at their angle.
    void gather_joins() {
        for (Join& join : skin_.joins)
            std::erase_if(join.theta, [&](double t) {
                return std::any_of(mended_.begin(), mended_.end(),
                                   [&](double m) { return std::abs(t - m) < 1e-9; });
            });
        for (const Edge& e : skin_.edges)
            if (e.join >= 0)
                for (const double t : {e.begin.theta, e.end.theta})
                    skin_.joins[static_cast<std::size_t>(e.join)].theta.push_back(wrapped(t));
        for (Join& join : skin_.joins) {
            std::sort(join.theta.begin(), join.theta.end());
            join.theta.erase(std::unique(join.theta.begin(), join.theta.end(),
                                         [](double a, double b) { return b - a < 1e-9; }),
                             join.theta.end());
        }
    }

    Skin& skin_;
    std::optional<double> towards_;
    const std::vector<KeepClear>& keep_clear_;
    std::vector<bool> wide_;     // of each face
    double first_ = 0;           // θ of one of the planes
    std::vector<double> mended_; // θ of corners that are gone
};

} // namespace

double angle_around(const Skin& skin, const Face& face) {
    if (face.kind == FaceKind::flat || face.kind == FaceKind::side || face.kind == FaceKind::hole) return 0;
    double low = 1e300, high = -1e300;
    for (const auto& loop : face.loops)
        for (const EdgeUse& use : loop) {
            const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
            const auto reach = [&](double theta) {
                low = std::min(low, theta + use.turn * full_turn);
                high = std::max(high, theta + use.turn * full_turn);
            };
            reach(e.begin.theta);
            reach(e.end.theta);
            if (e.shape == EdgeShape::bow)
                for (const double phi : bow_turns(e.bow))
                    reach(point_at(e.bow, phi).theta);
        }
    return high - low;
}

void require_cut_around(const Skin& skin) {
    for (std::size_t i = 0; i < skin.faces.size(); ++i)
        if (const Face& f = skin.faces[i]; runs_too_far(skin, f))
            throw std::logic_error("skin: face " + std::to_string(i) + " runs " +
                                   std::to_string(angle_around(skin, f) / full_turn) +
                                   " turns around the axis");
}

bool cut_around(Skin& skin, std::optional<double> towards, const std::vector<KeepClear>& clear) {
    return Cutter(skin, towards, clear).cut();
}

} // namespace whorl::solid
