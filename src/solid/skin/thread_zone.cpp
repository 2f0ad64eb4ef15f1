// A threaded zone as bands of the screw motion.
//
// Local coordinates: t = hand·θ, so that every thread is right-handed here; the height ρ is the radius of an
// external thread and minus the radius of an internal one, so that the groove always lies below the crest.
// One pitch of the section has K points, from the crest's edge A down the groove and up to the crest's edge
// B:
//
//        A ────╮            k = 0      A  groove begins   ρ = crest
//               ╲           1 … K − 2  the groove's points, joined by straight lines or arcs
//               ╱
//        B ────╯            k = K − 1  B  groove ends; then the crest up to the next A
//
// Start j repeats them at j pitches. Line m = K·j + k is z = ζ_m + L·t/2π with the lead L; line K·starts is
// line 0 one turn on. Band m lies between lines m and m + 1. On a tapered thread r = ρ + taper·(z − z_gauge).
//
// Ends, at both sides: flat (lines stop at the plane), chamfer (lines stop where r meets the cone), run-out
// (the groove is raised evenly until it is at the crest).
#include "solid/skin/build_skin.hpp"
#include "solid/skin/zone_skin.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numbers>

namespace whorl::solid {
namespace {

constexpr double full_turn = 2 * std::numbers::pi;
constexpr double run_out_land =
    0.05; // of the pitch: plain strip between the end of a run-out and the zone's end

// A point of the section, and the arc to the next one.
struct SectionPoint {
    double zeta, rho;
    double arc_radius = 0, arc_zeta = 0, arc_rho = 0, arc_from = 0, arc_to = 0;
};

// One end of the zone.
struct End {
    EndKind kind = EndKind::flat;
    int side = 1;           // +1 far, −1 near
    double z = 0;           // the end plane
    double rc = 0;          // height of the chamfer at the end plane; none: out of reach
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
        : s_(*zone.swept()), index_(static_cast<int>(index)) {
        if (!s_.sweepable())
            throw CannotMake(
                "This section can't be swept: its groove leaves no crest or no core. See the checks.", index);
        z0_ = in_mm(zone.start);
        z1_ = in_mm(zone.end());
        h_ = s_.hand == Hand::left ? -1 : 1;
        lead_ = s_.lead();
        starts_ = static_cast<std::size_t>(s_.starts);
        const double sign = s_.side == Side::external ? 1 : -1;
        taper_ = sign * zone.taper();
        gauge_ = in_mm(zone.taper_from());
        const double centre =
            // the groove's middle at t = 0, so a crest's middle lies at z0; turned by the start angle
            z0_ + s_.pitch / 2 - lead_ * h_ * s_.start_angle / full_turn;
        for (const GroovePoint& g : s_.groove) {
            SectionPoint p{centre + g.z, sign * g.r};
            p.arc_radius = g.arc_radius;
            p.arc_zeta = centre + g.centre_z;
            p.arc_rho = sign * g.centre_r;
            points_.push_back(p);
        }
        k_ = points_.size();
        for (std::size_t k = 0; k + 1 < k_; ++k)
            if (SectionPoint& p = points_[k]; p.arc_radius > 0) {
                const auto angle = [&](const SectionPoint& q) {
                    return std::atan2(q.rho - p.arc_rho, q.zeta - p.arc_zeta);
                };
                p.arc_from = angle(p);
                p.arc_to = p.arc_from + std::remainder(angle(points_[k + 1]) - p.arc_from, full_turn);
            }
        points_.back().rho = points_.front().rho;
        crest_ = points_.front().rho;
        lowest_ = crest_;
        for (std::size_t k = 0; k < k_; ++k)
            if (points_[k].rho < lowest_) lowest_ = points_[k].rho, deepest_ = k;
        deepest_last_ = deepest_;
        while (deepest_last_ + 1 < k_ && points_[deepest_last_ + 1].rho < lowest_ + 1e-9)
            ++deepest_last_;
        lines_ = k_ * starts_;
        near_ = make_end(zone.near_end, -1, z0_);
        far_ = make_end(zone.far_end, 1, z1_);
    }

    // Throws CannotMake if the ends don't fit.
    void require_room() const;
    double needed_length() const;

    Rim near_rim() const override { return rim(near_); }
    Rim far_rim() const override { return rim(far_); }
    void add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const override;

private:
    friend class Faces;

    const SectionPoint& point(std::size_t m) const { return points_[m % k_]; }
    double rho(std::size_t m) const { return point(m).rho; }
    double shift(std::size_t m) const {
        const std::size_t pitches = m / k_;
        return static_cast<double>(pitches) * s_.pitch;
    }
    double zeta(std::size_t m) const { return point(m).zeta + shift(m); }
    bool is_crest(std::size_t m) const { return m % k_ == k_ - 1; }
    bool is_arc(std::size_t m) const { return point(m).arc_radius > 0; }
    double slope() const { return lead_ / full_turn; }
    double t_at(std::size_t m, double z) const { return (z - zeta(m)) / slope(); }
    double z_at(std::size_t m, double t) const { return zeta(m) + slope() * t; }
    // the radius (signed) of height ρ at z
    double r_at(double rho_value, double z) const { return rho_value + taper_ * (z - gauge_); }
    // the height that lies at the chamfer's end radius in the end plane
    double cut_height(const End& e) const { return e.rc - taper_ * (e.z - gauge_); }
    bool inside(const End& e, std::size_t m) const { return rho(m) <= cut_height(e); }
    // dr/dz along an end's cone
    static double cone_slope(const End& e) { return -e.side / e.cot; }
    // z on an end's trimming surface at height ρ
    double trim_z(const End& e, double rho_value) const {
        const double beyond = rho_value - cut_height(e);
        return beyond <= 0 ? e.z : e.z + beyond / (cone_slope(e) - taper_);
    }
    bool cone_complete(const End& e) const { return e.kind == EndKind::chamfer && lowest_ > cut_height(e); }
    // where band m crosses the chamfer's end radius in the end plane: t, and φ on an arc
    struct Crossing {
        double t, phi;
    };
    Crossing crossing(const End& e, std::size_t m) const {
        const SectionPoint &p = point(m), &q = point(m + 1);
        const double at = cut_height(e);
        if (!is_arc(m)) {
            const double x = (at - p.rho) / (q.rho - p.rho);
            return {(e.z - zeta(m) - x * (zeta(m + 1) - zeta(m))) / slope(), 0};
        }
        double phi = std::asin(std::clamp((at - p.arc_rho) / p.arc_radius, -1.0, 1.0));
        const double middle = (p.arc_from + p.arc_to) / 2;
        if (std::cos(middle) < 0) phi = std::numbers::pi - phi;
        phi += std::round((middle - phi) / full_turn) * full_turn;
        const double z = p.arc_zeta + shift(m) + p.arc_radius * std::cos(phi);
        return {(e.z - z) / slope(), phi};
    }
    double theta(double t) const { return h_ * t; }

    // A trim on band m's surface: t as an affine function of the section's (ζ, ρ), the section raised on the
    // way by an affine function of t.
    struct Trim {
        double t0 = 0, per_zeta = 0, per_rho = 0; // t = t0 + per_zeta·ζ + per_rho·ρ
        double raise0 = 0, raise_t = 0;           // ρ' = ρ + raise0 + raise_t·t
    };
    Trim plane_trim(const End& e) const { return {e.z / slope(), -1 / slope(), 0, 0, 0}; }
    Trim cone_trim(const End& e) const {
        const double q = cone_slope(e);
        // r = ρ + taper·(z − gauge) = rc + q·(z − e.z)
        const double z_per_rho = 1 / (q - taper_);
        const double z0 = (-taper_ * gauge_ - e.rc + q * e.z) * z_per_rho;
        return {z0 / slope(), -1 / slope(), z_per_rho / slope(), 0, 0};
    }
    static Trim axial_trim(double t) { return {t, 0, 0, 0, 0}; }
    Trim crest_trim(const End& e, std::size_t j) const { // t = tr + (crest − ρ)/c, ρ' = crest
        const double c = rise(e, j);
        return {e.tr(j) + crest_ / c, 0, -1 / c, -c * e.tr(j), c};
    }
    // how fast a run-out raises the groove, per t
    double rise(const End& e, std::size_t j) const { return (crest_ - lowest_) / (e.te[j] - e.tr(j)); }

    Bow bow_on(std::size_t m, const Trim& trim, double from, double to) const {
        const SectionPoint& p = point(m);
        // each of t, z, r is c + u·cos φ + v·sin φ; ζ = arc_zeta + R·cos φ, ρ = arc_rho + R·sin φ
        const double R = p.arc_radius, zc = p.arc_zeta + shift(m);
        const double t[3]{trim.t0 + trim.per_zeta * zc + trim.per_rho * p.arc_rho, trim.per_zeta * R,
                          trim.per_rho * R};
        const double z[3]{zc + slope() * t[0], R + slope() * t[1], slope() * t[2]};
        const double rho_[3]{p.arc_rho + trim.raise0 + trim.raise_t * t[0], trim.raise_t * t[1],
                             R + trim.raise_t * t[2]};
        const auto part = [&](int i) {
            return UnrolledPoint{h_ * t[i], rho_[i] + taper_ * (z[i] - (i == 0 ? gauge_ : 0)), z[i]};
        };
        return {part(0), part(1), part(2), from, to};
    }

    End make_end(const ResolvedEnd& asked, int side, double z) const {
        const double sign = s_.side == Side::external ? 1 : -1;
        End e;
        e.side = side;
        e.z = z;
        e.kind = asked.kind;
        e.rc = std::numeric_limits<double>::max();
        if (e.kind == EndKind::chamfer) {
            e.rc = sign * in_mm(asked.diameter) / 2;
            e.cot = 1 / std::tan(in_rad(asked.angle));
            // a cone within 0.1 µm of the crest is no chamfer; one that close to a point of the section is
            // moved just below it
            if (cut_height(e) > crest_ - 1e-4) {
                e.kind = EndKind::flat;
                e.rc = std::numeric_limits<double>::max();
            } else {
                for (std::size_t pass = 0; pass < k_; ++pass)
                    for (const SectionPoint& p : points_)
                        if (std::abs(cut_height(e) - p.rho) < 0.999e-4)
                            e.rc -= cut_height(e) - (p.rho - 1e-4);
            }
        } else if (e.kind == EndKind::run_out) {
            e.rho = asked.turns * full_turn;
            const double land = run_out_land * s_.pitch;
            for (std::size_t j = 0; j < starts_; ++j) {
                const double travel = lead_ * e.rho / full_turn;
                // the groove's outer edge stays inside the land, at every height it is raised to
                double outermost = side > 0 ? -1e300 : 1e300;
                const double back = side * travel / (crest_ - lowest_); // per height
                const auto reach = [&](double zeta_value, double rho_value) {
                    const double at =
                        zeta_value + static_cast<double>(j) * s_.pitch - back * (rho_value - lowest_);
                    outermost = side > 0 ? std::max(outermost, at) : std::min(outermost, at);
                };
                for (const SectionPoint& p : points_) {
                    reach(p.zeta, p.rho);
                    if (p.arc_radius <= 0) continue;
                    // where the arc's trim turns back along the axis
                    double phi = std::atan2(-back, 1) + (side > 0 ? 0 : std::numbers::pi);
                    const double middle = (p.arc_from + p.arc_to) / 2;
                    phi += std::round((middle - phi) / full_turn) * full_turn;
                    if (std::abs(phi - middle) < std::abs(p.arc_to - p.arc_from) / 2)
                        reach(p.arc_zeta + p.arc_radius * std::cos(phi),
                              p.arc_rho + p.arc_radius * std::sin(phi));
                }
                e.te.push_back((z - side * land - outermost) / slope());
            }
        }
        return e;
    }

    Rim rim(const End& e) const {
        std::vector<RimPoint> points;
        if (e.kind == EndKind::run_out) {
            for (const double t : e.te)
                points.push_back({theta(t), r_at(crest_, e.z)});
            return sorted_rim(std::move(points));
        }
        if (cone_complete(e)) {
            points.push_back({theta(t_at(deepest_, trim_z(e, lowest_))), e.rc});
            return sorted_rim(std::move(points));
        }
        // the places along the section in the end plane, in order of ζ, each with the band that follows it
        struct Place {
            double t, r;
            std::size_t band;
            bool on_section; // the piece after it follows the section; else it is the chamfer's circle
        };
        std::vector<Place> places;
        for (std::size_t m = 0; m < lines_; ++m) {
            const bool in = inside(e, m), next_in = inside(e, m + 1);
            if (in) places.push_back({t_at(m, e.z), r_at(rho(m), e.z), m, true});
            if (in != next_in) places.push_back({crossing(e, m).t, e.rc, m, !in});
        }
        const Trim trim = plane_trim(e);
        const std::size_t n = places.size();
        for (std::size_t i = 0; i < n; ++i) {
            // the piece from place i to i + 1 in ζ belongs to the one with the smaller θ
            const std::size_t next = (i + 1) % n, at = h_ > 0 ? next : i;
            RimPoint p{theta(places[at].t), places[at].r};
            if (places[i].on_section && is_arc(places[i].band)) {
                const std::size_t m = places[i].band;
                p.shape = EdgeShape::bow;
                // wholly on the arc of band m; its own range is found from θ
                p.bow = bow_on(m, trim, point(m).arc_from, point(m).arc_to);
                if (h_ > 0 && next == 0) // the next place is one pitch of all starts, that is one turn, on
                    p.bow.centre.theta += full_turn;
            }
            points.push_back(p);
        }
        return sorted_rim(std::move(points));
    }

    ThreadSection s_;
    int index_;
    double z0_ = 0, z1_ = 0;
    int h_ = 1;
    double lead_ = 0, taper_ = 0, gauge_ = 0;
    std::size_t starts_ = 1, lines_ = 0, k_ = 0;
    std::vector<SectionPoint> points_;
    double crest_ = 0, lowest_ = 0;
    std::size_t deepest_ = 0, deepest_last_ = 0; // first and last point at the lowest height
    End near_, far_;
};

double ThreadZone::needed_length() const {
    double need = 0;
    bool full_form = true;
    for (const End* e : {&near_, &far_}) {
        if (e->kind == EndKind::chamfer) need += std::abs(e->z - trim_z(*e, crest_));
        if (e->kind == EndKind::run_out) {
            // the run-out, its land, and the width of the groove that has to fit beside it
            need += lead_ * e->rho / full_turn + run_out_land * s_.pitch + s_.groove_width();
            full_form = false;
        }
    }
    return need + (full_form ? 1e-6 : 0.02 * s_.pitch);
}

void ThreadZone::require_room() const {
    const auto index = static_cast<std::size_t>(index_);
    const double need = needed_length();
    if (z1_ - z0_ < need)
        throw CannotMake("The ends of this thread need " + number_text(std::ceil(need * 100) / 100, 2) +
                             " mm but the zone is only " + number_text(z1_ - z0_, 3) +
                             " mm long; make it longer or the chamfers and run-outs shorter.",
                         index);
    for (const double z : {z0_, z1_})
        if (const double inner = s_.side == Side::external ? r_at(lowest_, z) : -r_at(crest_, z);
            inner < 1e-3)
            throw CannotMake("The taper brings this thread to the axis; make the zone shorter.", index);
    for (const End* e : {&near_, &far_}) {
        if (e->kind == EndKind::chamfer && std::abs(cone_slope(*e)) <= 2 * std::abs(taper_))
            throw CannotMake("The chamfer is nearly as slender as the thread's taper; make it steeper.",
                             index);
        if (e->kind != EndKind::run_out) continue;
        for (std::size_t k = 0; k + 1 < k_; ++k) {
            const double step = points_[k + 1].rho - points_[k].rho;
            if ((k < deepest_ && step > -1e-9) || (k >= deepest_last_ && step < 1e-9))
                throw CannotMake("A run-out needs a section that falls to one root and rises again; choose a "
                                 "flat or chamfered end for this section.",
                                 index);
        }
    }
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
        int corner = -1; // a corner that is there already
    };

    std::size_t at_end(const End& e) const { return e.side > 0 ? 1 : 0; }
    const RimEdges& rim(const End& e) const { return e.side > 0 ? far_rim_ : near_rim_; }
    std::size_t last() const { return z_.k_ - 1; } // k of B

    int corner(double t, double r, double z) {
        skin_.corners.push_back({z_.theta(t), r, z});
        return static_cast<int>(skin_.corners.size()) - 1;
    }
    int edge(int from, double t0, int to, double t1) {
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
    // An edge on band m's surface along a trim; the φ at either end are only used on an arc.
    int edge_on(std::size_t m, const ThreadZone::Trim& trim, int from, double t0, double phi0, int to,
                double t1, double phi1) {
        const int made = edge(from, t0, to, t1);
        if (z_.is_arc(m)) {
            Edge& e = skin_.edges.back();
            e.shape = EdgeShape::bow;
            e.bow = z_.bow_on(m, trim, phi0, phi1);
        }
        return made;
    }
    double phi_of(std::size_t m, bool upper) const {
        return upper ? z_.point(m).arc_to : z_.point(m).arc_from;
    }
    // A rim's edges between two places given in t, with turns counted in t.
    Loop rim_path(const End& e, double t0, double t1) const {
        Loop path = rim(e).path(z_.theta(t0), z_.theta(t1));
        for (auto& u : path)
            u.turn *= z_.h_;
        return path;
    }
    static void append(Loop& to, const Loop& more, int turn = 0) {
        for (EdgeUse u : more) {
            u.turn += turn;
            to.push_back(u);
        }
    }

    // --- run-outs: where line k of groove j reaches the crest
    double surfaces_t(const End& e, std::size_t j, std::size_t k) const {
        if (k == 0 || k == last()) return e.tr(j);
        if (z_.points_[k].rho < z_.lowest_ + 1e-9) return e.te[j];
        return e.tr(j) + (z_.crest_ - z_.points_[k].rho) / z_.rise(e, j);
    }
    // and the corner there (not for A and B, which are at the crest all along)
    int surfaces_corner(const End& e, std::size_t j, std::size_t k) {
        const auto key = std::tuple{at_end(e), j, k};
        const auto it = surfaced_.find(key);
        if (it != surfaced_.end()) return it->second;
        const double t = surfaces_t(e, j, k), z = z_.z_at(z_.k_ * j + k, t);
        return surfaced_[key] = corner(t, z_.r_at(z_.crest_, z), z);
    }
    // the band of groove j that is trimmed at the crest at t, on the side of A or of B
    std::size_t band_surfacing(const End& e, std::size_t j, bool of_a, double t) const {
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
    double phi_surfacing(const End& e, std::size_t j, std::size_t m, double t) const {
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
    // The run-out end in which line m lies at t, if any.
    const End* run_out_at(std::size_t m, double t) const {
        for (const End* e : {&z_.near_, &z_.far_})
            if (e->kind == EndKind::run_out && e->side * (t - e->tr(m / z_.k_)) > 1e-12) return e;
        return nullptr;
    }
    // The point of line m at t: on the section's point, or, for A and B beyond the start of a run-out, where
    // the raised groove meets the crest.
    Planned on_line(std::size_t m, double t) const {
        const std::size_t k = m % z_.k_, j = m / z_.k_;
        const End* e = run_out_at(m, t);
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

    void plan_end(std::size_t m, const End& e) {
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
        const bool in = z_.inside(e, m);
        const double z = z_.trim_z(e, z_.rho(m));
        const double t = z_.t_at(m, z);
        Planned p{t, z_.r_at(z_.rho(m), z), z};
        if (in) p.corner = rim(e).corner_at(z_.theta(t));
        plan_[m].push_back(p);
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

    bool level(std::size_t m) const { return !z_.is_arc(m) && std::abs(z_.rho(m + 1) - z_.rho(m)) < 1e-12; }

    // A crest between run-outs is cut where its grooves begin to be withdrawn: beyond lies the plain land.
    void plan_cuts(std::size_t m) {
        if (!z_.is_crest(m)) return;
        const std::size_t upper = (m + 1) % z_.lines_;
        const double shift = m + 1 == z_.lines_ ? full_turn : 0; // the upper rail's own t is this much more
        const double low = std::max(low_t(m), low_t(upper) - shift),
                     high = std::min(high_t(m), high_t(upper) - shift);
        if (high - low < 1e-6) return;
        if (z_.near_.kind == EndKind::run_out) cuts_[m].push_back(low);
        if (z_.far_.kind == EndKind::run_out) cuts_[m].push_back(high);
        for (const double t : cuts_[m]) {
            plan_cut(m, t);
            plan_cut(upper, t + shift);
        }
    }
    // A corner on line m at t, unless there is one.
    void plan_cut(std::size_t m, double t) {
        for (const auto& p : plan_[m])
            if (std::abs(p.t - t) < 1e-9) return;
        plan_[m].push_back(on_line(m, t));
    }

    void lay_rail(std::size_t m) {
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
            const End* e = k == 0 || k == last() ? run_out_at(m, middle) : nullptr;
            if (e) {
                const std::size_t band = band_surfacing(*e, j, k == 0, middle);
                const bool arc = z_.is_arc(band);
                rail[i].edge_to_next = edge_on(band, z_.crest_trim(*e, j), a.corner, a.t,
                                               arc ? phi_surfacing(*e, j, band, a.t) : 0, b.corner, b.t,
                                               arc ? phi_surfacing(*e, j, band, b.t) : 0);
            } else {
                rail[i].edge_to_next = edge(a.corner, a.t, b.corner, b.t);
            }
        }
    }

    std::size_t rail_index(std::size_t m, double t) const {
        const Rail& rail = rails_[m];
        for (std::size_t i = 0; i < rail.size(); ++i)
            if (std::abs(rail[i].t - t) < 1e-8) return i;
        throw std::logic_error("thread zone: no corner on the rail at the asked angle");
    }
    // Along line m (which may be the last: line 0 one turn on) from t0 to t1, in the t of band m.
    Loop rail_path(std::size_t m, double t0, double t1) const {
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
    int rail_corner(std::size_t m, double t) const {
        const std::size_t line = m % z_.lines_; // NOLINT(clang-analyzer-core.DivideZero): as above
        return rails_[line][rail_index(line, m == z_.lines_ ? t + full_turn : t)].corner;
    }

    // The corner where line m stops being part of its full-form band, in the t of band m or m − 1.
    double stop_t(std::size_t m, const End& e) const {
        const std::size_t line = m % z_.lines_; // NOLINT(clang-analyzer-core.DivideZero): as above
        const double shift = m == z_.lines_ ? full_turn : 0;
        if (e.kind == EndKind::run_out) return e.tr(line / z_.k_) - shift;
        return z_.t_at(line, z_.trim_z(e, z_.rho(line))) - shift;
    }

    // From the end of line m to the end of line m + 1, along the trimming surface. Made once, used by both
    // its faces. Turn numbers are for the t of band m.
    const Loop& closure(std::size_t m, const End& e) {
        const auto key = std::pair{m, at_end(e)};
        if (const auto it = closures_.find(key); it != closures_.end()) return it->second;
        Loop path;
        const double t0 = stop_t(m, e), t1 = stop_t(m + 1, e);
        const int from = rail_corner(m, t0), to = rail_corner(m + 1, t1);
        const double phi0 = phi_of(m, false), phi1 = phi_of(m, true);
        if (e.kind == EndKind::run_out) {
            path = {{axial(m, t0, m + 1), true, 0}};
        } else {
            const bool in0 = z_.inside(e, m),
                       in1 = z_.inside(e, m + 1); // cut by the plane rather than the cone
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
    // In the axial plane at t from line m to line m + 1.
    int axial(std::size_t m, double t, std::size_t to) {
        return edge_on(m, ThreadZone::axial_trim(t), rail_corner(m, t), t, phi_of(m, false),
                       rail_corner(to, t), t, phi_of(m, true));
    }

    // The surface of band m, raised by raise0 + raise_t·t.
    void face(FaceRole role, std::size_t m, double raise0, double raise_t, Loop loop) {
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

    FaceRole role(std::size_t m) const {
        if (z_.is_crest(m)) return FaceRole::crest;
        if (!z_.is_arc(m)) return level(m) ? FaceRole::root : FaceRole::flank;
        return z_.rho(m) + z_.rho(m + 1) > z_.crest_ + z_.lowest_ ? FaceRole::crest : FaceRole::root;
    }

    void add_band(std::size_t m) {
        add_patches(m, z_.is_crest(m), [&](Loop loop) { face(role(m), m, 0, 0, std::move(loop)); });
    }

    // What closes a band beyond its last cut at an end: from line m to line m + 1.
    Loop strip_closure(std::size_t m, const End& e) {
        if (e.kind != EndKind::run_out || !z_.is_crest(m)) return closure(m, e);
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

    // The band above line m in patches between its cuts.
    template<class AddFace>
    void add_patches(std::size_t m, bool crest, AddFace add_face) {
        const auto end_of_rail = [&](std::size_t line, const End& e) {
            if (crest && e.kind == EndKind::run_out) {
                const std::size_t own = line % z_.lines_;
                return e.te[own / z_.k_] - (line == z_.lines_ ? full_turn : 0);
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

    // The short axial edge in which a withdrawn groove ends (none if its root is a line), and the generator
    // from it to the rim.
    void make_tip(const End& e, std::size_t j) {
        const double t = e.te[j];
        const int low = surfaces_corner(e, j, z_.deepest_), high = surfaces_corner(e, j, z_.deepest_last_);
        tip_edges_[{at_end(e), j}] = low == high ? -1 : edge(low, t, high, t);
        generators_[{at_end(e), j}] = edge(e.side > 0 ? high : low, t, rim(e).corner_at(z_.theta(t)), t);
    }

    // The withdrawn groove: its bands, raised until they meet the crest.
    void add_run_out(const End& e, std::size_t j) {
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

    // The chamfer's cone: one face all around if it ends below the root, else one for each stretch of the
    // section that stands out of it.
    void add_cones(const End& e) {
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

    const ThreadZone& z_;
    Skin& skin_;
    const RimEdges& near_rim_;
    const RimEdges& far_rim_;
    std::map<std::size_t, std::vector<Planned>> plan_;
    std::map<std::size_t, std::vector<double>> cuts_;
    std::vector<Rail> rails_;
    std::map<std::pair<std::size_t, std::size_t>, Loop> closures_;              // (line, end)
    std::map<std::tuple<std::size_t, std::size_t, std::size_t>, int> surfaced_; // (end, start, k)
    std::map<std::pair<std::size_t, std::size_t>, int> tip_edges_, generators_; // (end, start)
};

void ThreadZone::add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const {
    Faces(*this, skin, near, far).add();
}

} // namespace

std::unique_ptr<ZoneSkin> thread_zone_skin(const ResolvedZone& zone, std::size_t index) {
    auto made = std::make_unique<ThreadZone>(zone, index);
    made->require_room();
    return made;
}

double thread_zone_need(const ResolvedZone& zone) {
    return zone.swept()->sweepable() ? ThreadZone(zone, 0).needed_length() : 0;
}

} // namespace whorl::solid
