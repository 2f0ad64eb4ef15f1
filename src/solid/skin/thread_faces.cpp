#include "solid/skin/thread_faces.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::solid {

void ThreadFaces::add() {
    for (std::size_t m = 0; m < z_.lines_; ++m) {
        plan_[m] = {};
        plan_end(m, z_.near_);
        plan_end(m, z_.far_);
    }
    for (std::size_t m = 0; m < z_.lines_; ++m)
        plan_cuts(m);
    for (std::size_t m = 0; m < z_.lines_; ++m)
        lay_rail(m);
    for (const ThreadEnd* e : {&z_.near_, &z_.far_})
        if (e->kind == EndKind::run_out)
            for (std::size_t j = 0; j < z_.starts_; ++j)
                make_tip(*e, j);
    for (const ThreadEnd* e : {&z_.near_, &z_.far_})
        if (e->kind == EndKind::milled)
            for (std::size_t j = 0; j < z_.starts_; ++j)
                make_round(*e, j);
    for (std::size_t m = 0; m < z_.lines_; ++m)
        add_band(m);
    for (const ThreadEnd* e : {&z_.near_, &z_.far_}) {
        if (e->kind == EndKind::chamfer) add_cones(*e);
        if (e->kind == EndKind::run_out)
            for (std::size_t j = 0; j < z_.starts_; ++j)
                add_run_out(*e, j);
        if (e->kind == EndKind::milled)
            for (std::size_t j = 0; j < z_.starts_; ++j)
                add_scoops(*e, j);
    }
}

int ThreadFaces::edge(int from, double t0, int to, double t1) {
    const UnrolledPoint &p = skin_.corners[static_cast<std::size_t>(from)],
                        &q = skin_.corners[static_cast<std::size_t>(to)];
    Edge e;
    e.from = from;
    e.to = to;
    e.begin = {z_.theta(t0), p.r, p.z};
    e.end = {z_.theta(t1), q.r, q.z};
    skin_.edges.push_back(e);
    return static_cast<int>(skin_.edges.size()) - 1;
}

ThreadFaces::Loop ThreadFaces::rim_path(const ThreadEnd& e, double t0, double t1) const {
    Loop path = rim(e).path(z_.theta(t0), z_.theta(t1));
    for (auto& u : path)
        u.turn *= z_.h_;
    return path;
}

void ThreadFaces::append(Loop& to, const Loop& more, int turn) {
    for (EdgeUse u : more) {
        u.turn += turn;
        to.push_back(u);
    }
}

int ThreadFaces::surfaces_corner(const ThreadEnd& e, std::size_t j, std::size_t k) {
    const auto key = std::tuple{at_end(e), j, k};
    const auto it = surfaced_.find(key);
    if (it != surfaced_.end()) return it->second;
    const double t = surfaces_t(e, j, k), z = z_.z_at(z_.k_ * j + k, t);
    return surfaced_[key] = corner(t, z_.r_at(z_.crest_, z), z);
}

std::size_t ThreadFaces::band_surfacing(const ThreadEnd& e, std::size_t j, bool of_a, double t) const {
    const double way = e.side * t;
    if (of_a) {
        for (std::size_t k = 0; k < z_.deepest_; ++k)
            if (way < e.side * surfaces_t(e, j, k + 1)) return z_.k_ * j + k;
        return z_.k_ * j + z_.deepest_ - 1;
    }
    for (std::size_t k = last(); k > z_.deepest_last_; --k)
        if (way < e.side * surfaces_t(e, j, k - 1)) return z_.k_ * j + k - 1;
    return z_.k_ * j + z_.deepest_last_;
}

double ThreadFaces::phi_surfacing(const ThreadEnd& e, std::size_t j, std::size_t m, double t) const {
    const SectionPoint& p = z_.point(m);
    // the arc's own ends exactly: where it is level, the arcsine has lost half its digits
    const std::size_t k = m % z_.k_;
    if (std::abs(t - surfaces_t(e, j, k)) < 1e-12) return p.arc_from;
    if (std::abs(t - surfaces_t(e, j, k + 1)) < 1e-12) return p.arc_to;
    const double height = z_.crest_ - z_.rise(e, j) * (t - e.tr(j));
    double phi = std::asin(std::clamp((height - p.arc_rho) / p.arc_radius, -1.0, 1.0));
    const double middle = (p.arc_from + p.arc_to) / 2;
    if (std::cos(middle) < 0) phi = std::numbers::pi - phi;
    return phi + std::round((middle - phi) / full_turn) * full_turn;
}

ThreadFaces::Planned ThreadFaces::on_line(std::size_t m, double t) const {
    const std::size_t k = m % z_.k_, j = m / z_.k_;
    const ThreadEnd* e = run_out_at(m, t);
    if (!e) {
        const double z = z_.z_at(m, t);
        return {t, z_.r_at(z_.rho(m), z), z};
    }
    if (k != 0 && k != last()) {
        const double z = z_.z_at(m, t);
        return {t, z_.r_at(z_.rho(m) + z_.rise(*e, j) * (t - e->tr(j)), z), z};
    }
    const std::size_t band = band_surfacing(*e, j, k == 0, t);
    const SectionPoint &p = z_.point(band), &q = z_.point(band + 1);
    double zeta;
    if (z_.is_arc(band)) {
        zeta = p.arc_zeta + p.arc_radius * std::cos(phi_surfacing(*e, j, band, t));
    } else {
        const double height = z_.crest_ - z_.rise(*e, j) * (t - e->tr(j));
        zeta = p.zeta + (height - p.rho) / (q.rho - p.rho) * (q.zeta - p.zeta);
    }
    const double z = zeta + z_.shift(band) + z_.slope() * t;
    return {t, z_.r_at(z_.crest_, z), z};
}

void ThreadFaces::plan_end(std::size_t m, const ThreadEnd& e) {
    const std::size_t k = m % z_.k_, j = m / z_.k_;
    if (e.kind == EndKind::run_out) {
        const double tr = e.tr(j);
        const double z = z_.z_at(m, tr);
        plan_[m].push_back({tr, z_.r_at(z_.rho(m), z), z});
        const auto surfacing = [&](std::size_t line) {
            const int c = surfaces_corner(e, j, line);
            const UnrolledPoint& p = skin_.corners[static_cast<std::size_t>(c)];
            plan_[m].push_back({surfaces_t(e, j, line), p.r, p.z, c});
        };
        if (k == 0)
            for (std::size_t i = 1; i <= z_.deepest_; ++i)
                surfacing(i);
        else if (k == last())
            for (std::size_t i = last() - 1; i >= z_.deepest_last_; --i)
                surfacing(i);
        else
            surfacing(k);
        return;
    }
    if (e.kind == EndKind::milled) {
        const double t = z_.milled_t(e, m), z = z_.z_at(m, t);
        plan_[m].push_back({t, z_.r_at(z_.rho(m), z), z});
        return;
    }
    const bool in = z_.inside(e, m);
    const double z = z_.trim_z(e, z_.rho(m));
    const double t = z_.t_at(m, z);
    Planned p{t, z_.r_at(z_.rho(m), z), z};
    if (in) p.corner = rim(e).corner_at(z_.theta(t));
    plan_[m].push_back(p);
}

double ThreadFaces::extreme(std::size_t m, bool low) const {
    const auto& p = plan_.at(m);
    const auto less = [](const Planned& a, const Planned& b) { return a.t < b.t; };
    return low ? std::min_element(p.begin(), p.end(), less)->t
               : std::max_element(p.begin(), p.end(), less)->t;
}

void ThreadFaces::plan_cuts(std::size_t m) {
    if (!z_.is_crest(m)) return;
    const std::size_t upper = (m + 1) % z_.lines_;
    const double shift = m + 1 == z_.lines_ ? full_turn : 0; // the upper rail's own t is this much more
    const double low = std::max(low_t(m), low_t(upper) - shift),
                 high = std::min(high_t(m), high_t(upper) - shift);
    if (high - low < 1e-6) return;
    if (z_.near_.ends_inside()) cuts_[m].push_back(low);
    if (z_.far_.ends_inside()) cuts_[m].push_back(high);
    for (const double t : cuts_[m]) {
        plan_cut(m, t);
        plan_cut(upper, t + shift);
    }
}

void ThreadFaces::lay_rail(std::size_t m) {
    auto plan = plan_[m];
    std::sort(plan.begin(), plan.end(), [](const Planned& a, const Planned& b) { return a.t < b.t; });
    Rail& rail = rails_[m];
    for (Planned& p : plan) {
        if (p.corner < 0) p.corner = corner(p.t, p.r, p.z);
        rail.push_back({p.t, p.corner});
    }
    const std::size_t k = m % z_.k_, j = m / z_.k_;
    for (std::size_t i = 0; i + 1 < rail.size(); ++i) {
        const RailPoint &a = rail[i], &b = rail[i + 1];
        const double middle = (a.t + b.t) / 2;
        const ThreadEnd* e = k == 0 || k == last() ? run_out_at(m, middle) : nullptr;
        if (e) {
            const std::size_t band = band_surfacing(*e, j, k == 0, middle);
            const bool arc = z_.is_arc(band);
            rail[i].edge_to_next =
                edge_on(band, z_.crest_trim(*e, j), a.corner, a.t, arc ? phi_surfacing(*e, j, band, a.t) : 0,
                        b.corner, b.t, arc ? phi_surfacing(*e, j, band, b.t) : 0);
        } else {
            rail[i].edge_to_next = edge(a.corner, a.t, b.corner, b.t);
        }
    }
}

std::size_t ThreadFaces::rail_index(std::size_t m, double t) const {
    const Rail& rail = rails_[m];
    for (std::size_t i = 0; i < rail.size(); ++i)
        if (std::abs(rail[i].t - t) < 1e-8) return i;
    throw std::logic_error("thread zone: no corner on the rail at the asked angle");
}

ThreadFaces::Loop ThreadFaces::rail_path(std::size_t m, double t0, double t1) const {
    const int turn = m == z_.lines_ ? -1 : 0;
    const std::size_t line = m % z_.lines_; // NOLINT(clang-analyzer-core.DivideZero): a groove has lines
    const std::size_t a = rail_index(line, t0 - turn * full_turn),
                      b = rail_index(line, t1 - turn * full_turn);
    Loop path;
    for (std::size_t i = a; i < b; ++i)
        path.push_back({rails_[line][i].edge_to_next, true, turn});
    for (std::size_t i = a; i > b; --i)
        path.push_back({rails_[line][i - 1].edge_to_next, false, turn});
    return path;
}

double ThreadFaces::stop_t(std::size_t m, const ThreadEnd& e) const {
    const std::size_t line = m % z_.lines_; // NOLINT(clang-analyzer-core.DivideZero): as above
    const double shift = m == z_.lines_ ? full_turn : 0;
    if (e.kind == EndKind::run_out) return e.tr(line / z_.k_) - shift;
    if (e.kind == EndKind::milled) return z_.milled_t(e, line) - shift;
    return z_.t_at(line, z_.trim_z(e, z_.rho(line))) - shift;
}

const ThreadFaces::Loop& ThreadFaces::closure(std::size_t m, const ThreadEnd& e) {
    const auto key = std::pair{m, at_end(e)};
    if (const auto it = closures_.find(key); it != closures_.end()) return it->second;
    Loop path;
    const double t0 = stop_t(m, e), t1 = stop_t(m + 1, e);
    const int from = rail_corner(m, t0), to = rail_corner(m + 1, t1);
    const double phi0 = phi_of(m, false), phi1 = phi_of(m, true);
    if (e.kind == EndKind::run_out) {
        path = {{axial(m, t0, m + 1), true, 0}};
    } else if (e.kind == EndKind::milled) {
        const std::size_t j = m / z_.k_;
        if (m % z_.k_ == z_.deepest_ && z_.deepest_last_ > z_.deepest_)
            path = around(e, j, z_.deepest_, e.side > 0);
        else
            path = {{edge_on(m, z_.milled_trim(e, j), from, t0, phi0, to, t1, phi1), true, 0}};
    } else {
        const bool in0 = z_.inside(e, m), in1 = z_.inside(e, m + 1); // cut by the plane rather than the cone
        if (in0 && in1) {
            path = rim_path(e, t0, t1);
        } else if (!in0 && !in1) {
            path = {{edge_on(m, z_.cone_trim(e), from, t0, phi0, to, t1, phi1), true, 0}};
        } else {
            const auto [tx, phix] = z_.crossing(e, m);
            const int cx = rim(e).corner_at(z_.theta(tx));
            if (in0) {
                path = rim_path(e, t0, tx);
                path.push_back({edge_on(m, z_.cone_trim(e), cx, tx, phix, to, t1, phi1), true, 0});
            } else {
                path = {{edge_on(m, z_.cone_trim(e), from, t0, phi0, cx, tx, phix), true, 0}};
                append(path, rim_path(e, tx, t1));
            }
        }
    }
    return closures_[key] = path;
}

void ThreadFaces::face(FaceRole role, std::size_t m, double raise0, double raise_t, Loop loop) {
    const SectionPoint& p = z_.point(m);
    Face f;
    f.role = role;
    f.zone = z_.index_;
    double c = raise_t;
    if (z_.is_arc(m)) {
        f.kind = FaceKind::curved;
        f.a = p.arc_rho - z_.taper_ * z_.gauge_ + raise0;
        f.b = z_.taper_;
        f.rail_slope = z_.slope() * z_.h_;
        f.arc_z = p.arc_zeta + z_.shift(m);
        f.arc_radius = p.arc_radius;
        f.arc_from = p.arc_from;
        f.arc_to = p.arc_to;
    } else {
        const double beta = level(m) ? 0 : (z_.rho(m + 1) - z_.rho(m)) / (z_.zeta(m + 1) - z_.zeta(m));
        f.a = z_.rho(m) - beta * z_.zeta(m) - z_.taper_ * z_.gauge_ + raise0;
        f.b = beta + z_.taper_;
        c -= beta * z_.slope();
        f.rail_slope = beta == 0 && raise_t == 0 ? 0 : z_.slope() * z_.h_;
    }
    f.c = c * z_.h_;
    for (auto& u : loop)
        u.turn *= z_.h_;
    if (z_.h_ < 0) loop = reversed(std::move(loop)); // mirrored: the loop turns the other way
    f.loops = {std::move(loop)};
    skin_.faces.push_back(std::move(f));
}

ThreadFaces::Loop ThreadFaces::strip_closure(std::size_t m, const ThreadEnd& e) {
    if (!e.ends_inside() || !z_.is_crest(m)) return closure(m, e);
    if (e.kind == EndKind::milled) return around_to_rim(e, m);
    // a crest at a run-out: the land up to the rim, between the tips of groove j and groove j + 1
    const std::size_t j = m / z_.k_, next = (j + 1) % z_.starts_;
    const int turn = j + 1 == z_.starts_ ? -1 : 0;
    const double t0 = e.te[j], t1 = e.te[next] + turn * full_turn;
    const auto tip = [&](std::size_t groove, int at_turn) -> Loop {
        const int made = tip_edges_.at({at_end(e), groove});
        return made < 0 ? Loop{} : Loop{{made, false, at_turn}};
    };
    Loop path;
    if (e.side < 0) append(path, tip(j, 0));
    // up to the rim, along it, and down to the next tip
    path.push_back({generators_.at({at_end(e), j}), true, 0});
    append(path, rim_path(e, t0, t1));
    path.push_back({generators_.at({at_end(e), next}), false, turn});
    if (e.side > 0) append(path, tip(next, turn));
    return path;
}

void ThreadFaces::make_tip(const ThreadEnd& e, std::size_t j) {
    const double t = e.te[j];
    const int low = surfaces_corner(e, j, z_.deepest_), high = surfaces_corner(e, j, z_.deepest_last_);
    tip_edges_[{at_end(e), j}] = low == high ? -1 : edge(low, t, high, t);
    generators_[{at_end(e), j}] = edge(e.side > 0 ? high : low, t, rim(e).corner_at(z_.theta(t)), t);
}

void ThreadFaces::add_run_out(const ThreadEnd& e, std::size_t j) {
    const double c = z_.rise(e, j);
    const auto oriented = [&](Loop l) { return e.side > 0 ? l : reversed(std::move(l)); };
    for (std::size_t k = 0; k < last(); ++k) {
        const std::size_t m = z_.k_ * j + k;
        const double tr = e.tr(j), t0 = surfaces_t(e, j, k), t1 = surfaces_t(e, j, k + 1);
        Loop loop; // written for the far end, where te > tr
        if (k > 0) loop = rail_path(m, tr, t0);
        if (k < z_.deepest_) {
            append(loop, rail_path(z_.k_ * j, t0, t1));
        } else if (k < z_.deepest_last_) {
            if (const int tip = tip_edges_.at({at_end(e), j}); tip >= 0) loop.push_back({tip, true, 0});
        } else {
            append(loop, rail_path(z_.k_ * j + last(), t0, t1));
        }
        if (k + 1 < last()) append(loop, rail_path(m + 1, t1, tr));
        append(loop, reversed(closure(m, e)));
        face(FaceRole::run_out, m, -c * tr, c, oriented(loop));
    }
}

ThreadFaces::Loop ThreadFaces::around(const ThreadEnd& e, std::size_t j, std::size_t k, bool forward) const {
    Loop path;
    for (const int edge : rounds_.at({at_end(e), j, k}).around)
        path.push_back({edge, true, 0});
    return forward ? path : reversed(std::move(path));
}

void ThreadFaces::add_cones(const ThreadEnd& e) {
    const double b = ThreadZone::cone_slope(e); // dr/dz
    const auto cone = [&](Loop loop) {
        Face f;
        f.role = FaceRole::chamfer;
        f.zone = z_.index_;
        f.a = e.rc - b * e.z;
        f.b = b;
        if (e.side > 0) loop = reversed(std::move(loop));
        for (auto& u : loop)
            u.turn *= z_.h_;
        if (z_.h_ < 0) loop = reversed(std::move(loop));
        f.loops = {std::move(loop)};
        skin_.faces.push_back(std::move(f));
    };
    if (z_.cone_complete(e)) {
        // cut open along the generator at the deepest line of the first start
        const std::size_t first = z_.deepest_;
        const double t0 = stop_t(first, e), t1 = t0 - full_turn;
        const int generator = edge(rail_corner(first, t0), t0, rim(e).corner_at(z_.theta(t0)), t0);
        Loop loop;
        for (std::size_t i = 0; i < z_.lines_; ++i) {
            const std::size_t m = first + i;
            append(loop, closure(m % z_.lines_, e), m >= z_.lines_ ? -1 : 0);
        }
        loop.push_back({generator, true, -1});
        append(loop, rim_path(e, t1, t0));
        loop.push_back({generator, false, 0});
        cone(std::move(loop));
        return;
    }
    for (std::size_t rising = 0; rising < z_.lines_; ++rising) {
        if (!z_.inside(e, rising) || z_.inside(e, rising + 1)) continue;
        Loop loop{closure(rising, e).back()}; // from the crossing up to the next line
        std::size_t m = rising + 1;
        const auto turn = [&] { return m >= z_.lines_ ? -1 : 0; };
        for (; !z_.inside(e, m + 1); ++m)
            append(loop, closure(m % z_.lines_, e), turn());
        append(loop, {closure(m % z_.lines_, e).front()}, turn());
        const double from = z_.crossing(e, m % z_.lines_).t + turn() * full_turn;
        append(loop, rim_path(e, from, z_.crossing(e, rising).t));
        cone(std::move(loop));
    }
}

} // namespace whorl::solid
