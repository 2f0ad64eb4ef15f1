// An external threaded zone as bands of the screw motion.
//
// Local coordinates: t = hand·θ, so that every thread is right-handed here. One pitch of the section, from
// the groove's lower crest edge upwards, has four lines; start j repeats them at j pitches:
//
//        A ────╮            k = 0  A   groove begins   r = crest
//               ╲           k = 1  D   root begins     r = root
//                ╲ D
//                 │ root    k = 2  E   root ends       r = root
//                ╱ E        k = 3  B   groove ends     r = crest
//        B ────╯            then the crest up to the next A
//
// Line m = 4j + k is z = ζ_m + L·t/2π with the lead L. Line 4n is line 0 one turn on. Bands lie between m and
// m + 1.
//
// Ends, at both sides: flat (lines stop at the plane), chamfer (lines stop where r meets the cone z_c(r)),
// run-out (the groove's lines A, D close in on each other, likewise E, B, while the root rises evenly to the
// crest).
#include "solid/build_skin.hpp"
#include "solid/zone_skin.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace whorl::solid {
namespace {

constexpr double full_turn = 2 * std::numbers::pi;
// A cylinder's patch of less than a turn needs no seam. Flanks may run on; the kernel's checks grow with the
// square of a face's edges, and at this length the cost per turn stays level (measured at 20 to 500 turns).
constexpr double longest_cylinder_patch = 0.95 * full_turn;
constexpr double longest_flank_patch = 5 * full_turn;
constexpr double run_out_land =
    0.05; // of the pitch: plain strip between the end of a run-out and the zone's end

enum Line { A = 0, D = 1, E = 2, B = 3 };

// One end of the zone.
struct End {
    EndKind kind = EndKind::flat;
    int side = 1;           // +1 far, −1 near
    double z = 0;           // the end plane
    double rc = 0;          // chamfer radius at the end plane
    double cot = 0;         // of the chamfer's angle to the axis: dz per radius
    double rho = 0;         // run-out: angle over which the groove is withdrawn, rad
    std::vector<double> te; // run-out: where groove j ends, in t
    double tr(std::size_t j) const { return te[j] - side * rho; } // and where it starts to be withdrawn
};

// A point of a line's rail, in order of rising t.
struct RailPoint {
    double t;
    int corner;
    int edge_to_next = -1;
};
using Rail = std::vector<RailPoint>;

class ThreadZone final : public ZoneSkin {
public:
    ThreadZone(const ResolvedZone& zone, std::size_t index)
        : s_(zone.thread->section), index_(static_cast<int>(index)) {
        if (!s_.sweepable())
            throw CannotMake(
                "This section can't be swept: its groove leaves no crest or no core. See the checks.", index);
        z0_ = in_mm(zone.start);
        z1_ = in_mm(zone.end());
        h_ = s_.hand == Hand::left ? -1 : 1;
        lead_ = s_.lead();
        starts_ = static_cast<std::size_t>(s_.starts);
        lines_ = 4 * starts_;
        const double centre =
            z0_ + s_.pitch / 2; // the groove's middle at t = 0, so a crest's middle lies at z0
        const double w = s_.groove_width() / 2, f = s_.root_flat / 2;
        zeta_ = {centre - w, centre - f, centre + f, centre + w};
        near_ = make_end(zone.near_end, -1, z0_);
        far_ = make_end(zone.far_end, 1, z1_);
        require_room(zone);
    }

    Rim near_rim() const override { return rim(near_); }
    Rim far_rim() const override { return rim(far_); }
    void add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const override;

    static double needed_length(const ResolvedZone& zone);

private:
    friend class Faces;

    double radius(std::size_t k) const { return k == A || k == B ? s_.crest_radius : s_.root_radius; }
    double zeta(std::size_t m) const { return zeta_[m % 4] + static_cast<double>(m / 4) * s_.pitch; }
    double t_at(std::size_t m, double z) const { return full_turn * (z - zeta(m)) / lead_; }
    double z_at(std::size_t m, double t) const { return zeta(m) + lead_ * t / full_turn; }
    // z on an end's trimming surface at radius r
    static double trim_z(const End& e, double r) {
        return r <= e.rc ? e.z : e.z - e.side * (r - e.rc) * e.cot;
    }
    bool cone_complete(const End& e) const { return e.kind == EndKind::chamfer && e.rc < s_.root_radius; }
    // where the flank between lines m and m+1 crosses the chamfer's end radius, in t at the end plane
    double crossing_t(const End& e, std::size_t m) const {
        const double r0 = radius(m % 4), r1 = radius((m + 1) % 4);
        const double x = (e.rc - r0) / (r1 - r0);
        const double z = zeta(m) + x * (zeta(m + 1) - zeta(m));
        return full_turn * (e.z - z) / lead_;
    }
    double theta(double t) const { return h_ * t; }

    End make_end(const ResolvedEnd& asked, int side, double z) const {
        End e;
        e.side = side;
        e.z = z;
        e.kind = asked.kind;
        e.rc = s_.crest_radius;
        if (e.kind == EndKind::chamfer) {
            e.rc = in_mm(asked.diameter) / 2;
            e.cot = 1 / std::tan(in_rad(asked.angle));
            // a cone within 0.1 µm of the crest is no chamfer; one that close to the root is moved just below
            // it
            if (e.rc > s_.crest_radius - 1e-4) {
                e.kind = EndKind::flat;
                e.rc = s_.crest_radius;
            } else if (std::abs(e.rc - s_.root_radius) < 1e-4) {
                e.rc = s_.root_radius - 1e-4;
            }
        } else if (e.kind == EndKind::run_out) {
            e.rho = asked.turns * full_turn;
            const double land = run_out_land * s_.pitch;
            for (std::size_t j = 0; j < starts_; ++j) {
                const double travel = lead_ * e.rho / full_turn;
                // the groove's outer edge stays inside the land: check it at full width and at the tip
                const double outermost = side > 0 ? std::max(zeta(4 * j + B) - travel, zeta(4 * j + E))
                                                  : std::min(zeta(4 * j + A) + travel, zeta(4 * j + D));
                e.te.push_back(full_turn * (z - side * land - outermost) / lead_);
            }
        }
        return e;
    }

    void require_room(const ResolvedZone& zone) const;

    Rim rim(const End& e) const {
        std::vector<RimPoint> points;
        if (e.kind == EndKind::run_out) {
            for (const double t : e.te)
                points.push_back({theta(t), s_.crest_radius});
        } else if (cone_complete(e)) {
            points.push_back({theta(t_at(D, trim_z(e, s_.root_radius))), e.rc});
        } else {
            for (std::size_t m = 0; m < lines_; ++m) {
                if (radius(m % 4) <= e.rc) points.push_back({theta(t_at(m, e.z)), radius(m % 4)});
                if (e.kind == EndKind::chamfer && (m % 4 == A || m % 4 == E))
                    points.push_back({theta(crossing_t(e, m)), e.rc});
            }
        }
        return sorted_rim(std::move(points));
    }

    ThreadSection s_;
    int index_;
    double z0_, z1_;
    int h_;
    double lead_;
    std::size_t starts_, lines_;
    std::array<double, 4> zeta_;
    End near_, far_;
};

double ThreadZone::needed_length(const ResolvedZone& zone) {
    const ThreadSection& s = zone.thread->section;
    double need = 0;
    bool full_form = true;
    for (const ResolvedEnd* e : {&zone.near_end, &zone.far_end}) {
        if (e->kind == EndKind::chamfer)
            need += std::max(0.0, (s.crest_radius - in_mm(e->diameter) / 2) / std::tan(in_rad(e->angle)));
        if (e->kind == EndKind::run_out) {
            // the run-out, its land, and the width of the groove that has to fit beside it
            need += s.lead() * e->turns + run_out_land * s.pitch + s.groove_width();
            full_form = false;
        }
    }
    return need + (full_form ? 1e-6 : 0.02 * s.pitch);
}

void ThreadZone::require_room(const ResolvedZone& zone) const {
    const double need = needed_length(zone);
    if (z1_ - z0_ < need)
        throw CannotMake("The ends of this thread need " + number_text(std::ceil(need * 100) / 100, 2) +
                             " mm but the zone is only " + number_text(z1_ - z0_, 3) +
                             " mm long; make it longer or the chamfers and run-outs shorter.",
                         static_cast<std::size_t>(index_));
}

// Builds the faces; holds what the steps share.
class Faces {
public:
    Faces(const ThreadZone& zone, Skin& skin, const RimEdges& near, const RimEdges& far)
        : z_(zone), skin_(skin), near_rim_(near), far_rim_(far), rails_(zone.lines_) {}

    void add() {
        for (std::size_t m = 0; m < z_.lines_; ++m) {
            plan_[m] = {};
            plan_end(m, z_.near_);
            plan_end(m, z_.far_);
        }
        for (std::size_t m = 0; m < z_.lines_; ++m)
            plan_cuts(m);
        for (std::size_t m = 0; m < z_.lines_; ++m)
            lay_rail(m);
        for (const End* e : {&z_.near_, &z_.far_})
            if (e->kind == EndKind::run_out)
                for (std::size_t j = 0; j < z_.starts_; ++j)
                    make_tip(*e, j);
        for (std::size_t m = 0; m < z_.lines_; ++m)
            add_band(m);
        for (const End* e : {&z_.near_, &z_.far_}) {
            if (e->kind == EndKind::chamfer) add_cones(*e);
            if (e->kind == EndKind::run_out)
                for (std::size_t j = 0; j < z_.starts_; ++j)
                    add_run_out(*e, j);
        }
    }

private:
    using Loop = std::vector<EdgeUse>; // in local t: turn counts are of t

    struct Planned {
        double t, r, z;
        int corner = -1; // a rim's corner, where there is one already
    };

    std::size_t at_end(const End& e) const { return e.side > 0 ? 1 : 0; }
    const RimEdges& rim(const End& e) const { return e.side > 0 ? far_rim_ : near_rim_; }

    int corner(double t, double r, double z) {
        skin_.corners.push_back({z_.theta(t), r, z});
        return static_cast<int>(skin_.corners.size()) - 1;
    }
    int edge(int from, double t0, int to, double t1) {
        const UnrolledPoint &p = skin_.corners[static_cast<std::size_t>(from)],
                            &q = skin_.corners[static_cast<std::size_t>(to)];
        skin_.edges.push_back({from, to, {z_.theta(t0), p.r, p.z}, {z_.theta(t1), q.r, q.z}, -1});
        return static_cast<int>(skin_.edges.size()) - 1;
    }
    // A rim's edges between two places given in t, with turns counted in t.
    Loop rim_path(const End& e, double t0, double t1) const {
        Loop path = rim(e).path(z_.theta(t0), z_.theta(t1));
        for (auto& u : path)
            u.turn *= z_.h_;
        return path;
    }
    static Loop reversed(Loop l) {
        std::reverse(l.begin(), l.end());
        for (auto& u : l)
            u.forward = !u.forward;
        return l;
    }
    static void append(Loop& to, const Loop& more, int turn = 0) {
        for (EdgeUse u : more) {
            u.turn += turn;
            to.push_back(u);
        }
    }

    void plan_end(std::size_t m, const End& e) {
        const std::size_t k = m % 4, j = m / 4;
        const double r = z_.radius(k);
        if (e.kind == EndKind::run_out) {
            const double tr = e.tr(j), te = e.te[j];
            plan_[m].push_back({tr, r, z_.z_at(m, tr)});
            // A and D meet at the tip's lower corner, E and B at its upper one; the tip's corner is made once
            const std::size_t tip_line = 4 * j + (k == A || k == D ? D : E);
            plan_[m].push_back(
                {te, z_.s_.crest_radius, z_.z_at(tip_line, te), tip_corner(e, j, k == A || k == D)});
            return;
        }
        const double z = ThreadZone::trim_z(e, r);
        const double t = z_.t_at(m, z);
        Planned p{t, r, z};
        if (z == e.z) p.corner = rim(e).corner_at(z_.theta(t));
        plan_[m].push_back(p);
    }

    int tip_corner(const End& e, std::size_t j, bool lower) {
        const auto key = std::tuple{at_end(e), j, lower};
        const auto it = tips_.find(key);
        if (it != tips_.end()) return it->second;
        const double te = e.te[j];
        return tips_[key] = corner(te, z_.s_.crest_radius, z_.z_at(4 * j + (lower ? D : E), te));
    }

    // Where line m starts and ends; for run-outs including the tip.
    double low_t(std::size_t m) const { return extreme(m, true); }
    double high_t(std::size_t m) const { return extreme(m, false); }
    double extreme(std::size_t m, bool low) const {
        const auto& p = plan_.at(m);
        const auto less = [](const Planned& a, const Planned& b) { return a.t < b.t; };
        return low ? std::min_element(p.begin(), p.end(), less)->t
                   : std::max_element(p.begin(), p.end(), less)->t;
    }

    // Axial cuts through the band above line m, so that no patch of a cylinder runs around the axis more than
    // once and no flank gets too long. Cuts go through existing corners where a run-out ends.
    void plan_cuts(std::size_t m) {
        const std::size_t upper = (m + 1) % z_.lines_;
        const double shift = m + 1 == z_.lines_ ? full_turn : 0; // the upper rail's own t is this much more
        const bool crest = m % 4 == B;
        double low, high; // the stretch where the band lies between its two rails
        if (crest) {
            low = std::max(low_t(m), low_t(upper) - shift);
            high = std::min(high_t(m), high_t(upper) - shift);
        } else {
            low = std::max(stop_t(m, z_.near_), stop_t(m + 1, z_.near_));
            high = std::min(stop_t(m, z_.far_), stop_t(m + 1, z_.far_));
        }
        auto& cuts = cuts_[m];
        // at a crest's run-out the patch beyond the cut is the plain land, so a cut right there is wanted
        const bool cut_low = crest && z_.near_.kind == EndKind::run_out;
        const bool cut_high = crest && z_.far_.kind == EndKind::run_out;
        if (high - low < 1e-6) return;
        // beyond the rails' common stretch a patch reaches on by the band's own width in t
        const double reach = full_turn * (z_.zeta(m + 1) - z_.zeta(m)) / z_.lead_;
        const double extra_low = cut_low ? 0 : reach, extra_high = cut_high ? 0 : reach;
        const double span = high - low + extra_low + extra_high;
        const auto pieces = static_cast<int>(
            std::ceil(span / (m % 4 == A || m % 4 == E ? longest_flank_patch : longest_cylinder_patch)));
        const double step = span / pieces;
        if (cut_low) cuts.push_back(low);
        for (int i = 1; i < pieces; ++i)
            if (const double t = low - extra_low + i * step; t > low + 1e-4 && t < high - 1e-4)
                cuts.push_back(t);
        if (cut_high) cuts.push_back(high);
        for (const double t : cuts) {
            plan_cut(m, t);
            plan_cut(upper, t + shift);
        }
    }
    // A corner on line m at t, unless there is one.
    void plan_cut(std::size_t m, double t) {
        for (const auto& p : plan_[m])
            if (std::abs(p.t - t) < 1e-9) return;
        plan_[m].push_back({t, -1, 0});
    }

    void lay_rail(std::size_t m) {
        auto plan = plan_[m];
        std::sort(plan.begin(), plan.end(), [](const Planned& a, const Planned& b) { return a.t < b.t; });
        Rail& rail = rails_[m];
        for (std::size_t i = 0; i < plan.size(); ++i) {
            Planned& p = plan[i];
            if (p.r < 0) { // a cut: between its neighbours, straight in (t, r, z)
                std::size_t a = i, b = i;
                while (plan[a].r < 0)
                    --a;
                while (plan[b].r < 0)
                    ++b;
                const double x = (p.t - plan[a].t) / (plan[b].t - plan[a].t);
                p.r = plan[a].r + x * (plan[b].r - plan[a].r);
                p.z = plan[a].z + x * (plan[b].z - plan[a].z);
                p.corner = corner(p.t, p.r, p.z);
                // keep the plan's neighbours usable for the next cut: an interpolated point is as good as
                // they
            }
            if (p.corner < 0) p.corner = corner(p.t, p.r, p.z);
            rail.push_back({p.t, p.corner});
        }
        for (std::size_t i = 0; i + 1 < rail.size(); ++i)
            rail[i].edge_to_next = edge(rail[i].corner, rail[i].t, rail[i + 1].corner, rail[i + 1].t);
    }

    std::size_t rail_index(std::size_t m, double t) const {
        const Rail& rail = rails_[m];
        for (std::size_t i = 0; i < rail.size(); ++i)
            if (std::abs(rail[i].t - t) < 1e-8) return i;
        throw std::logic_error("thread zone: no corner on the rail at the asked angle");
    }
    // Along line m (which may be 4n: line 0 one turn on) from t0 to t1, in the t of band m.
    Loop rail_path(std::size_t m, double t0, double t1) const {
        const int turn = m == z_.lines_ ? -1 : 0;
        const std::size_t line = m % z_.lines_;
        const std::size_t a = rail_index(line, t0 - turn * full_turn),
                          b = rail_index(line, t1 - turn * full_turn);
        Loop path;
        for (std::size_t i = a; i < b; ++i)
            path.push_back({rails_[line][i].edge_to_next, true, turn});
        for (std::size_t i = a; i > b; --i)
            path.push_back({rails_[line][i - 1].edge_to_next, false, turn});
        return path;
    }
    int rail_corner(std::size_t m, double t) const {
        const std::size_t line = m % z_.lines_;
        return rails_[line][rail_index(line, m == z_.lines_ ? t + full_turn : t)].corner;
    }

    // The corner where line m (0…4n) stops being part of its full-form band, in the t of band m or m − 1.
    double stop_t(std::size_t m, const End& e) const {
        const std::size_t line = m % z_.lines_;
        const double shift = m == z_.lines_ ? full_turn : 0;
        if (e.kind == EndKind::run_out) return e.tr(line / 4) - shift;
        return z_.t_at(line, ThreadZone::trim_z(e, z_.radius(line % 4))) - shift;
    }

    // From the end of line m to the end of line m + 1, along the trimming surface. Made once, used by both
    // its faces. Turn numbers are for the t of band m.
    const Loop& closure(std::size_t m, const End& e) {
        const auto key = std::pair{m, at_end(e)};
        if (const auto it = closures_.find(key); it != closures_.end()) return it->second;
        Loop path;
        const double t0 = stop_t(m, e), t1 = stop_t(m + 1, e);
        if (e.kind == EndKind::run_out) {
            path = {{axial(m, t0, m + 1), true, 0}};
        } else {
            const double r0 = z_.radius(m % 4), r1 = z_.radius((m + 1) % 4);
            const bool in0 = r0 <= e.rc, in1 = r1 <= e.rc; // cut by the plane rather than by the cone
            if (in0 && in1) {
                path = rim_path(e, t0, t1);
            } else if (!in0 && !in1) {
                path = {{trim_edge(m, t0, t1), true, 0}};
            } else {
                const double tx = z_.crossing_t(e, m);
                const int cx = rim(e).corner_at(z_.theta(tx));
                if (in0) {
                    path = rim_path(e, t0, tx);
                    path.push_back({edge(cx, tx, rail_corner(m + 1, t1), t1), true, 0});
                } else {
                    path = {{edge(rail_corner(m, t0), t0, cx, tx), true, 0}};
                    append(path, rim_path(e, tx, t1));
                }
            }
        }
        return closures_[key] = path;
    }
    int trim_edge(std::size_t m, double t0, double t1) {
        return edge(rail_corner(m, t0), t0, rail_corner(m + 1, t1), t1);
    }
    // Straight line in the axial plane at t from line m to line `to`.
    int axial(std::size_t m, double t, std::size_t to) {
        return edge(rail_corner(m, t), t, rail_corner(to, t), t);
    }

    void face(FaceRole role, double a, double b, double c_local, double slope_local, Loop loop) {
        Face f;
        f.role = role;
        f.zone = z_.index_;
        f.a = a;
        f.b = b;
        f.c = c_local * z_.h_;
        f.rail_slope = slope_local * z_.h_;
        for (auto& u : loop)
            u.turn *= z_.h_;
        if (z_.h_ < 0) loop = reversed(std::move(loop)); // mirrored: the loop turns the other way
        f.loops = {std::move(loop)};
        skin_.faces.push_back(std::move(f));
    }

    void add_band(std::size_t m) {
        const std::size_t k = m % 4;
        if (k == D || k == B) {
            const FaceRole role = k == D ? FaceRole::root : FaceRole::crest;
            add_patches(m, k == B, [&](Loop loop) { face(role, z_.radius(k), 0, 0, 0, std::move(loop)); });
            return;
        }
        const double r0 = z_.radius(k), r1 = z_.radius((k + 1) % 4);
        const double b = (r1 - r0) / (z_.zeta(m + 1) - z_.zeta(m));
        // r = r0 + b·(z − ζ_m − L·t/2π)
        const double slope = z_.lead_ / full_turn;
        add_patches(m, false, [&](Loop loop) {
            face(FaceRole::flank, r0 - b * z_.zeta(m), b, -b * slope, slope, std::move(loop));
        });
    }

    // What closes a band beyond its last cut at an end: from line m to line m + 1.
    Loop strip_closure(std::size_t m, const End& e) {
        if (e.kind != EndKind::run_out || m % 4 != B) return closure(m, e);
        // a crest at a run-out: the land up to the rim, between the tips of groove j and groove j + 1
        const std::size_t j = m / 4, next = (j + 1) % z_.starts_;
        const int turn = j + 1 == z_.starts_ ? -1 : 0;
        const double t0 = e.te[j], t1 = e.te[next] + turn * full_turn;
        Loop path;
        if (e.side > 0) { // from the tip's upper corner up to the rim, along it, down to the next tip and its
                          // lower corner
            path.push_back({generators_.at({1, j}), true, 0});
            append(path, rim_path(e, t0, t1));
            path.push_back({generators_.at({1, next}), false, turn});
            path.push_back({tip_edges_.at({1, next}), false, turn});
        } else {
            path.push_back({tip_edges_.at({0, j}), false, 0});
            path.push_back({generators_.at({0, j}), true, 0});
            append(path, rim_path(e, t0, t1));
            path.push_back({generators_.at({0, next}), false, turn});
        }
        return path;
    }

    // The band above line m in patches between its cuts.
    template<class AddFace>
    void add_patches(std::size_t m, bool crest, AddFace add_face) {
        const auto end_of_rail = [&](std::size_t line, const End& e) {
            if (crest && e.kind == EndKind::run_out) {
                const std::size_t own = line % z_.lines_;
                return e.te[own / 4] - (line == z_.lines_ ? full_turn : 0);
            }
            return stop_t(line, e);
        };
        double lower = end_of_rail(m, z_.near_), upper = end_of_rail(m + 1, z_.near_);
        Loop back = reversed(strip_closure(m, z_.near_));
        for (const double t : cuts_[m]) {
            Loop loop = rail_path(m, lower, t);
            const int cut = axial(m, t, m + 1);
            loop.push_back({cut, true, 0});
            append(loop, rail_path(m + 1, t, upper));
            append(loop, back);
            add_face(std::move(loop));
            back = {{cut, false, 0}};
            lower = upper = t;
        }
        Loop loop = rail_path(m, lower, end_of_rail(m, z_.far_));
        append(loop, strip_closure(m, z_.far_));
        append(loop, rail_path(m + 1, end_of_rail(m + 1, z_.far_), upper));
        append(loop, back);
        add_face(std::move(loop));
    }

    // The short axial edge in which a withdrawn groove ends, and the generator from it to the rim.
    void make_tip(const End& e, std::size_t j) {
        const double t = e.te[j];
        const int low = tip_corner(e, j, true), high = tip_corner(e, j, false);
        tip_edges_[{at_end(e), j}] = edge(low, t, high, t);
        generators_[{at_end(e), j}] = edge(e.side > 0 ? high : low, t, rim(e).corner_at(z_.theta(t)), t);
    }

    // The withdrawn groove: two flanks and the rising root, each a plane in (t, r, z).
    void add_run_out(const End& e, std::size_t j) {
        const double tr = e.tr(j), te = e.te[j], R = z_.s_.crest_radius, r = z_.s_.root_radius;
        const double c = (R - r) / (te - tr); // the root's rise per t
        const double slope = z_.lead_ / full_turn;
        const auto oriented = [&](Loop l) { return e.side > 0 ? l : reversed(std::move(l)); };
        for (const std::size_t k : {A, D, E}) {
            const std::size_t m = 4 * j + k;
            Loop loop;
            loop = rail_path(m, tr, te); // written for the far end, where te > tr
            if (k == D) loop.push_back({tip_edges_.at({at_end(e), j}), true, 0});
            append(loop, rail_path(m + 1, te, tr));
            append(loop, reversed(closure(m, e)));
            if (k == D) {
                face(FaceRole::run_out, r - c * tr, 0, c, slope, oriented(loop));
            } else {
                const double r0 = z_.radius(k), r1 = z_.radius(k + 1);
                const double b = (r1 - r0) / (z_.zeta(m + 1) - z_.zeta(m));
                // the flank of the full form, raised by c·(t − tr)
                face(FaceRole::run_out, r0 - b * z_.zeta(m) - c * tr, b, -b * slope + c, slope,
                     oriented(loop));
            }
        }
    }

    // The chamfer's cone: one face all around if it ends below the root, else one per crest.
    void add_cones(const End& e) {
        const double b = -e.side / e.cot; // dr/dz
        const double a = e.rc - b * e.z;
        const auto oriented = [&](Loop l) { return e.side > 0 ? reversed(std::move(l)) : l; };
        if (z_.cone_complete(e)) {
            // cut open along the generator at line D of the first start
            const double t0 = stop_t(D, e), t1 = t0 - full_turn;
            const int generator = edge(rail_corner(D, t0), t0, rim(e).corner_at(z_.theta(t0)), t0);
            Loop loop;
            for (std::size_t i = 0; i < z_.lines_; ++i) {
                const std::size_t m = D + i;
                append(loop, closure(m % z_.lines_, e), m >= z_.lines_ ? -1 : 0);
            }
            loop.push_back({generator, true, -1});
            append(loop, rim_path(e, t1, t0));
            loop.push_back({generator, false, 0});
            face(FaceRole::chamfer, a, b, 0, 0, oriented(loop));
            return;
        }
        for (std::size_t j = 0; j < z_.starts_; ++j) {
            const std::size_t rising = 4 * j + E, crest = 4 * j + B,
                              falling = 4 * j + 4; // falling: A of the next start
            const int turn = falling == z_.lines_ ? -1 : 0;
            const std::size_t falling_line = falling % z_.lines_;
            Loop loop;
            loop.push_back(closure(rising, e).back()); // from the crossing up the flank to the crest
            append(loop, closure(crest, e));
            append(loop, {closure(falling_line, e).front()}, turn);
            const double from = z_.crossing_t(e, falling_line) + turn * full_turn;
            append(loop, rim_path(e, from, z_.crossing_t(e, rising)));
            face(FaceRole::chamfer, a, b, 0, 0, oriented(loop));
        }
    }

    const ThreadZone& z_;
    Skin& skin_;
    const RimEdges& near_rim_;
    const RimEdges& far_rim_;
    std::map<std::size_t, std::vector<Planned>> plan_;
    std::map<std::size_t, std::vector<double>> cuts_;
    std::vector<Rail> rails_;
    std::map<std::pair<std::size_t, std::size_t>, Loop> closures_;              // (line, end)
    std::map<std::tuple<std::size_t, std::size_t, bool>, int> tips_;            // (end, start, lower)
    std::map<std::pair<std::size_t, std::size_t>, int> tip_edges_, generators_; // (end, start)
};

void ThreadZone::add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const {
    Faces(*this, skin, near, far).add();
}

} // namespace

std::unique_ptr<ZoneSkin> thread_zone_skin(const ResolvedZone& zone, std::size_t index) {
    return std::make_unique<ThreadZone>(zone, index);
}

Length shortest_for_ends(const ResolvedZone& zone) {
    if (zone.thread) return mm(ThreadZone::needed_length(zone));
    double need = 0;
    for (const ResolvedEnd* e : {&zone.near_end, &zone.far_end})
        if (e->kind == EndKind::chamfer)
            need += std::max(0.0, in_mm(zone.diameter - e->diameter) / 2 / std::tan(in_rad(e->angle)));
    return mm(need);
}

} // namespace whorl::solid
