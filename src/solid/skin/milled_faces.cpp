// Where a groove ends in the round of its tool: what lies between the faces of the round, and these.
#include "solid/skin/thread_faces.hpp"

namespace whorl::solid {

ThreadFaces::Loop ThreadFaces::around_to_rim(const ThreadEnd& e, std::size_t m) {
    const std::size_t j = m / z_.k_, next = (j + 1) % z_.starts_;
    const int turn = j + 1 == z_.starts_ ? -1 : 0;
    const auto part = [&](std::size_t groove, bool to_generator) {
        const auto& all = rounds_.at({at_end(e), groove, 0}).around;
        // seen along the round's own way B lies at its end (far) or at its beginning (near)
        const bool front = (e.side < 0) == to_generator;
        Loop path;
        for (std::size_t i = front ? 0 : e.at_generator; i < (front ? e.at_generator : all.size()); ++i)
            path.push_back({all[i], true, 0});
        return e.side > 0 ? reversed(std::move(path)) : path;
    };
    Loop path = part(j, true);
    path.push_back({generators_.at({at_end(e), j}), true, 0});
    append(path, rim_path(e, e.te[j], e.te[next] + turn * full_turn));
    path.push_back({generators_.at({at_end(e), next}), false, turn});
    append(path, part(next, false), turn);
    return path;
}

Scoop ThreadFaces::scoop_of(const ThreadEnd& e, std::size_t j, std::size_t k) const {
    const SectionPoint &p = z_.points_[k], &q = z_.points_[k + 1];
    const double squeeze = std::cos(e.gamma), middle = z_.middle_zeta();
    Scoop s;
    s.theta0 = z_.theta(e.middle[j]);
    s.z0 = middle + static_cast<double>(j) * z_.s_.pitch + z_.slope() * e.middle[j];
    s.unroll = e.unroll * z_.h_;
    s.taper = z_.taper_;
    s.gauge = z_.gauge_;
    if (p.arc_radius > 0) {
        s.arc = true;
        s.reach0 = squeeze * (middle - p.arc_zeta);
        s.reach1 = -squeeze * p.arc_radius;
        s.height0 = p.arc_rho;
        s.height1 = p.arc_radius;
        s.from = p.arc_from;
        s.to = p.arc_to;
    } else {
        s.reach0 = squeeze * (middle - p.zeta);
        s.reach1 = squeeze * (p.zeta - q.zeta);
        s.height0 = p.rho;
        s.height1 = q.rho - p.rho;
    }
    return s;
}

void ThreadFaces::make_round(const ThreadEnd& e, std::size_t j) {
    const double middle = e.middle[j];
    for (std::size_t k = 0; k <= z_.deepest_; ++k) {
        const Scoop s = scoop_of(e, j, k < z_.deepest_ ? k : k - 1);
        const double v = k < z_.deepest_ ? s.from : s.to, reach = s.reach(v), height = s.height(v);
        Round& round = rounds_[{at_end(e), j, k}];
        const std::size_t a = z_.k_ * j + k, b = z_.k_ * j + last() - k, first = e.side > 0 ? a : b,
                          beyond = e.side > 0 ? b : a;
        const auto t_at = [&](double alpha) { return middle + reach * std::cos(alpha) / e.unroll; };
        const std::size_t n = e.angles.size();
        if (a == b) {
            round.corners.assign(n, rail_corner(a, z_.milled_t(e, a)));
            continue;
        }
        for (std::size_t i = 0; i < n; ++i) {
            const double t = t_at(e.angles[i]), z = s.z0 + reach * std::sin(e.angles[i]);
            round.corners.push_back(i == 0       ? rail_corner(first, z_.milled_t(e, first))
                                    : i + 1 == n ? rail_corner(beyond, z_.milled_t(e, beyond))
                                                 : corner(t, z_.r_at(height, z), z));
        }
        for (std::size_t i = 0; i + 1 < n; ++i) {
            round.around.push_back(
                edge(round.corners[i], t_at(e.angles[i]), round.corners[i + 1], t_at(e.angles[i + 1])));
            Edge& made = skin_.edges.back();
            made.shape = EdgeShape::bow;
            made.scooped = true;
            made.bow = {{s.theta0, z_.r_at(height, s.z0), s.z0},
                        {reach / s.unroll, 0, 0},
                        {0, z_.taper_ * reach, reach},
                        e.angles[i],
                        e.angles[i + 1]};
        }
    }
    const int from = rounds_.at({at_end(e), j, 0}).corners[e.at_generator];
    generators_[{at_end(e), j}] = edge(from, e.te[j], rim(e).corner_at(z_.theta(e.te[j])), e.te[j]);
}

int ThreadFaces::profile_edge(const ThreadEnd& e, std::size_t j, std::size_t k, std::size_t i,
                              const Scoop& s) {
    const auto t_at = [&](double v) { return e.middle[j] + s.reach(v) * std::cos(e.angles[i]) / e.unroll; };
    const int made = edge(rounds_.at({at_end(e), j, k}).corners[i], t_at(s.from),
                          rounds_.at({at_end(e), j, k + 1}).corners[i], t_at(s.to));
    Edge& line = skin_.edges.back();
    line.scooped = line.across_scoop = true;
    if (s.arc) {
        const double c = std::cos(e.angles[i]), si = std::sin(e.angles[i]), z = s.z0 + s.reach0 * si;
        line.shape = EdgeShape::bow;
        line.bow = {{s.theta0 + s.reach0 * c / s.unroll, z_.r_at(s.height0, z), z},
                    {s.reach1 * c / s.unroll, z_.taper_ * s.reach1 * si, s.reach1 * si},
                    {0, s.height1, 0},
                    s.from,
                    s.to};
    }
    return made;
}

void ThreadFaces::add_scoops(const ThreadEnd& e, std::size_t j) {
    const std::size_t n = e.angles.size();
    for (std::size_t k = 0; k < z_.deepest_; ++k) {
        const Scoop like = scoop_of(e, j, k);
        const std::size_t a = z_.k_ * j + k,
                          b = z_.k_ * j + last() - k - 1; // the groove's own bands beside it
        const auto beside = [&](bool first) {             // from its outer to its inner end
            return first == (e.side > 0) ? closure(a, e) : reversed(closure(b, e));
        };
        Loop side = beside(true);
        for (std::size_t i = 0; i + 1 < n; ++i) {
            Loop next = i + 2 == n ? beside(false) : Loop{{profile_edge(e, j, k, i + 1, like), true, 0}};
            const Round &outer = rounds_.at({at_end(e), j, k}), &inner = rounds_.at({at_end(e), j, k + 1});
            Loop loop{{outer.around[i], true, 0}};
            append(loop, next);
            if (!inner.around.empty()) loop.push_back({inner.around[i], false, 0});
            append(loop, reversed(std::move(side)));
            auto scoop = std::make_shared<Scoop>(like);
            scoop->alpha_from = e.angles[i];
            scoop->alpha_to = e.angles[i + 1];
            Face f;
            f.kind = FaceKind::scoop;
            f.role = FaceRole::run_out;
            f.zone = z_.index_;
            f.scoop = std::move(scoop);
            for (auto& u : loop)
                u.turn *= z_.h_;
            f.loops = {z_.h_ < 0 ? reversed(std::move(loop)) : std::move(loop)};
            skin_.faces.push_back(std::move(f));
            side = std::move(next);
        }
    }
}

} // namespace whorl::solid
