#include "solid/mesh/flatten.hpp"

#include "quantity/numeric.hpp"
#include "solid/skin/rim.hpp"
#include "solid/skin/slice_loop.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

class Flattener {
public:
    Flattener(const Skin& skin, double chord) : from_(skin), chord_(chord) {
        out_.skin.corners = skin.corners;
        out_.skin.joins = skin.joins;
        out_.skin.way = skin.way;
    }

    Flattened run() {
        // an edge is cut at the grid of the arc it lies on; both faces of a shared arc have the same grid
        std::vector<const Face*> arc_of(from_.edges.size(), nullptr);
        for (const Face& f : from_.faces)
            if (f.kind == FaceKind::curved)
                for (const auto& loop : f.loops)
                    for (const EdgeUse& u : loop)
                        arc_of[static_cast<std::size_t>(u.edge)] = &f;
        for (std::size_t i = 0; i < from_.edges.size(); ++i)
            cut_edge(from_.edges[i], arc_of[i]);
        for (std::size_t i = 0; i < from_.faces.size(); ++i) {
            face_ = static_cast<std::uint32_t>(i);
            if (from_.faces[i].kind == FaceKind::curved)
                cut_face(from_.faces[i]);
            else
                copy_face(from_.faces[i]);
        }
        for (auto& join : out_.skin.joins)
            std::sort(join.theta.begin(), join.theta.end());
        return std::move(out_);
    }

private:
    int parts(const Face& f) const {
        const double step = 2 * std::acos(std::clamp(1 - chord_ / f.arc_radius, -1.0, 1.0));
        return std::clamp(static_cast<int>(std::ceil(std::abs(f.arc_to - f.arc_from) / std::max(step, 1e-6))),
                          2, 64);
    }
    static double grid_phi(const Face& f, int i, int n) {
        return f.arc_from + (f.arc_to - f.arc_from) * i / n;
    }

    void cut_edge(const Edge& e, const Face* arc) {
        auto& chain = out_.chains.emplace_back();
        const auto add = [&](const Edge& part) {
            chain.push_back(static_cast<int>(out_.skin.edges.size()));
            out_.skin.edges.push_back(part);
        };
        if (e.shape == EdgeShape::flat_trace && e.trace.ball > 0 && arc) {
            cut_trace(e, *arc, add);
            return;
        }
        if (e.shape != EdgeShape::bow || e.scooped) return add(e);
        if (!arc) throw std::logic_error("flatten: a bow that lies on no arc");
        const int n = parts(*arc);
        std::vector<double> phi;
        const double low = std::min(e.bow.from, e.bow.to), high = std::max(e.bow.from, e.bow.to);
        for (int i = 1; i < n; ++i)
            if (const double p = grid_phi(*arc, i, n); p > low + 1e-9 && p < high - 1e-9) phi.push_back(p);
        // so that every part is monotone in θ; a turn right beside another place changes θ by less than 1e-6
        const double apart = 1e-3;
        for (const double p : bow_turns(e.bow))
            if (p > low + apart && p < high - apart &&
                std::none_of(phi.begin(), phi.end(), [&](double q) { return std::abs(p - q) < apart; }))
                phi.push_back(p);
        std::sort(phi.begin(), phi.end());
        if (e.bow.to < e.bow.from) std::reverse(phi.begin(), phi.end());
        Edge part = e; // parts stay on the true curve, so that all their samples do
        for (const double p : phi) {
            const UnrolledPoint at = point_at(e.bow, p);
            out_.skin.corners.push_back(at);
            part.to = static_cast<int>(out_.skin.corners.size()) - 1;
            part.end = at;
            part.bow.to = p;
            add(part);
            part.from = part.to;
            part.begin = at;
            part.bow.from = p;
            if (e.join >= 0)
                out_.skin.joins[static_cast<std::size_t>(e.join)].theta.push_back(wrapped(at.theta));
        }
        part.to = e.to;
        part.end = e.end;
        part.bow.to = e.bow.to;
        add(part);
    }

    // Where a flat's trace on a ball crosses the strips' rails.
    template<class Add>
    void cut_trace(const Edge& e, const Face& arc, const Add& add) {
        const int n = parts(arc);
        const double low = std::min(e.begin.theta, e.end.theta), high = std::max(e.begin.theta, e.end.theta);
        std::vector<double> theta;
        for (int i = 1; i < n; ++i) {
            const double cosine = e.trace.distance / (arc.arc_radius * std::sin(grid_phi(arc, i, n)));
            if (!(cosine < 1 - 1e-12)) continue;
            for (const double side : {-1.0, 1.0})
                if (const double t = e.trace.theta + side * std::acos(cosine);
                    t > low + 1e-9 && t < high - 1e-9)
                    theta.push_back(t);
        }
        std::sort(theta.begin(), theta.end());
        if (e.end.theta < e.begin.theta) std::reverse(theta.begin(), theta.end());
        Edge part = e;
        for (const double t : theta) {
            const UnrolledPoint at = point_at(e, t);
            out_.skin.corners.push_back(at);
            part.to = static_cast<int>(out_.skin.corners.size()) - 1;
            part.end = at;
            add(part);
            part.from = part.to;
            part.begin = at;
        }
        part.to = e.to;
        part.end = e.end;
        add(part);
    }

    std::vector<EdgeUse> cut_use(const EdgeUse& u) const {
        std::vector<EdgeUse> out;
        for (const int part : out_.chains[static_cast<std::size_t>(u.edge)])
            out.push_back({part, u.forward, u.turn});
        if (!u.forward) std::reverse(out.begin(), out.end());
        return out;
    }

    void add_face(Face f) {
        out_.skin.faces.push_back(std::move(f));
        out_.face.push_back(face_);
    }

    void copy_face(const Face& f) {
        Face copy = f;
        for (auto& loop : copy.loops) {
            std::vector<EdgeUse> cut;
            for (const EdgeUse& u : loop)
                for (const EdgeUse& part : cut_use(u))
                    cut.push_back(part);
            loop = std::move(cut);
        }
        add_face(std::move(copy));
    }

    // The arc becomes strips between rails.
    void cut_face(const Face& f) {
        const int n = parts(f);
        std::vector<EdgeUse> around;
        std::vector<long> strip_of;
        for (const EdgeUse& u : f.loops.front())
            for (const EdgeUse& part : cut_use(u)) {
                const Edge& whole = from_.edges[static_cast<std::size_t>(u.edge)];
                const UnrolledPoint a = start_of(out_.skin, part), b = end_of(out_.skin, part);
                double position; // along the arc, in strips
                if (whole.shape == EdgeShape::flat_trace && whole.trace.ball > 0) {
                    const Edge& e = out_.skin.edges[static_cast<std::size_t>(part.edge)];
                    const UnrolledPoint m = point_at(e, (first_parameter(e) + last_parameter(e)) / 2);
                    position = (std::atan2(m.r, m.z - f.arc_z) - f.arc_from) / (f.arc_to - f.arc_from) * n;
                } else if (whole.shape == EdgeShape::bow) {
                    const double zeta = (a.z + b.z - f.rail_slope * (a.theta + b.theta)) / 2;
                    const double r =
                        (a.r + b.r) / 2 - f.a - f.b * (a.z + b.z) / 2 - f.c * (a.theta + b.theta) / 2;
                    double phi = std::atan2(r, zeta - f.arc_z);
                    const double middle = (f.arc_from + f.arc_to) / 2;
                    phi += std::round((middle - phi) / full_turn) * full_turn;
                    position = (phi - f.arc_from) / (f.arc_to - f.arc_from) * n;
                } else { // a rail at either border
                    const double zeta = a.z - f.rail_slope * a.theta;
                    const double first = f.arc_z + f.arc_radius * std::cos(f.arc_from),
                                 last = f.arc_z + f.arc_radius * std::cos(f.arc_to);
                    position = std::abs(zeta - first) < std::abs(zeta - last) ? 0.5 : n - 0.5;
                }
                around.push_back(part);
                strip_of.push_back(std::clamp(static_cast<int>(std::floor(position)), 0, n - 1));
            }
        // strips are counted along φ, with which z falls or rises
        const bool down = std::cos(f.arc_to) < std::cos(f.arc_from);
        const auto slices = slice_loop(
            around, strip_of, down != f.inward,
            [&](std::size_t i) { return end_of(out_.skin, around[i]).theta; },
            [&](long, std::size_t from, std::size_t to) {
                const auto corner = [&](std::size_t i) {
                    const Edge& e = out_.skin.edges[static_cast<std::size_t>(around[i].edge)];
                    return around[i].forward ? e.to : e.from;
                };
                if (corner(from) == corner(to)) throw std::logic_error("flatten: an arc's face has no width");
                return add_straight(out_.skin, corner(from), end_of(out_.skin, around[from]), corner(to),
                                    end_of(out_.skin, around[to]));
            });
        for (const LoopSlice& slice : slices) {
            Face strip = f;
            strip.kind = FaceKind::round;
            const double p0 = grid_phi(f, static_cast<int>(slice.strip), n),
                         p1 = grid_phi(f, static_cast<int>(slice.strip) + 1, n);
            const double z0 = f.arc_z + f.arc_radius * std::cos(p0),
                         z1 = f.arc_z + f.arc_radius * std::cos(p1);
            const double r0 = f.arc_radius * std::sin(p0), r1 = f.arc_radius * std::sin(p1);
            const double beta = (r1 - r0) / (z1 - z0);
            strip.a = f.a + r0 - beta * z0;
            strip.b = f.b + beta;
            strip.c = f.c - beta * f.rail_slope;
            strip.loops = {slice.loop};
            add_face(std::move(strip));
        }
    }

    const Skin& from_;
    double chord_;
    Flattened out_;
    std::uint32_t face_ = 0;
};

} // namespace

Flattened flatten(const Skin& skin, double chord) {
    return Flattener(skin, chord).run();
}

} // namespace whorl::solid
