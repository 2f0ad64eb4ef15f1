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
// (the groove is raised evenly until it is at the crest), milled (it ends in the round of its tool, scoop.hpp).
// Internal to the solid floor.
#pragma once

#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/skin/zone_skin.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace whorl::solid {

// Of the pitch: plain strip between the end of a groove that ends inside and the zone's end.
constexpr double run_out_land = 0.05;

// A point of the section, and the arc to the next one.
struct SectionPoint {
    double zeta, rho;
    double arc_radius = 0, arc_zeta = 0, arc_rho = 0, arc_from = 0, arc_to = 0;
};

// One end of the zone.
struct ThreadEnd {
    EndKind kind = EndKind::flat;
    bool ends_inside() const { return kind == EndKind::run_out || kind == EndKind::milled; }
    int side = 1;           // +1 far, −1 near
    double z = 0;           // the end plane
    double rc = 0;          // height of the chamfer at the end plane; none: out of reach
    double cot = 0;         // of the chamfer's angle to the axis: dz per radius
    double rho = 0;         // run-out: angle over which the groove is withdrawn, rad
    std::vector<double> te; // run-out: where groove j ends, in t; milled: where the line to the rim starts
    // milled: the round's radius at the surface, mm per rad there, the lead angle, and its middle of groove j in t
    double reach = 0, unroll = 1, gamma = 0;
    std::vector<double> middle;
    std::vector<double> angles; // α from one side of the groove to the other between the round's faces
    std::size_t at_generator = 0;
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
        if (zone.near_end.kind == EndKind::milled || zone.far_end.kind == EndKind::milled) divide_arcs();
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
    friend class ThreadFaces;

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
    double cut_height(const ThreadEnd& e) const { return e.rc - taper_ * (e.z - gauge_); }
    bool inside(const ThreadEnd& e, std::size_t m) const { return rho(m) <= cut_height(e); }
    // dr/dz along an end's cone
    static double cone_slope(const ThreadEnd& e) { return -e.side / e.cot; }
    // z on an end's trimming surface at height ρ
    double trim_z(const ThreadEnd& e, double rho_value) const {
        const double beyond = rho_value - cut_height(e);
        return beyond <= 0 ? e.z : e.z + beyond / (cone_slope(e) - taper_);
    }
    bool cone_complete(const ThreadEnd& e) const {
        return e.kind == EndKind::chamfer && lowest_ > cut_height(e);
    }
    // where band m crosses the chamfer's end radius in the end plane: t, and φ on an arc
    struct Crossing {
        double t, phi;
    };
    Crossing crossing(const ThreadEnd& e, std::size_t m) const {
        const SectionPoint &p = point(m), &q = point(m + 1);
        const double at = cut_height(e);
        if (!is_arc(m)) {
            const double x = (at - p.rho) / (q.rho - p.rho);
            return {(e.z - zeta(m) - x * (zeta(m + 1) - zeta(m))) / slope(), 0};
        }
        double phi = std::asin(std::clamp((at - p.arc_rho) / p.arc_radius, -1.0, 1.0));
        const double middle = (p.arc_from + p.arc_to) / 2;
        if (std::cos(middle) < 0) phi = pi - phi;
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
    Trim plane_trim(const ThreadEnd& e) const { return {e.z / slope(), -1 / slope(), 0, 0, 0}; }
    Trim cone_trim(const ThreadEnd& e) const {
        const double q = cone_slope(e);
        // r = ρ + taper·(z − gauge) = rc + q·(z − e.z)
        const double z_per_rho = 1 / (q - taper_);
        const double z0 = (-taper_ * gauge_ - e.rc + q * e.z) * z_per_rho;
        return {z0 / slope(), -1 / slope(), z_per_rho / slope(), 0, 0};
    }
    static Trim axial_trim(double t) { return {t, 0, 0, 0, 0}; }
    Trim crest_trim(const ThreadEnd& e, std::size_t j) const { // t = tr + (crest − ρ)/c, ρ' = crest
        const double c = rise(e, j);
        return {e.tr(j) + crest_ / c, 0, -1 / c, -c * e.tr(j), c};
    }
    // the plane square to the groove at the surface, in which a milled one's round begins
    double milled_slope(const ThreadEnd& e) const { return std::sin(e.gamma) * std::cos(e.gamma) / e.unroll; }
    Trim milled_trim(const ThreadEnd& e, std::size_t j) const {
        const double k = milled_slope(e);
        return {e.middle[j] + k * (middle_zeta() + static_cast<double>(j) * s_.pitch), -k, 0, 0, 0};
    }
    double milled_t(const ThreadEnd& e, std::size_t m) const {
        return e.middle[m / k_] - milled_slope(e) * (point(m).zeta - middle_zeta());
    }
    double middle_zeta() const { return (points_.front().zeta + points_.back().zeta) / 2; }
    void mill(ThreadEnd& e) const;
    bool is_symmetric() const;
    void divide_arcs();
    // how fast a run-out raises the groove, per t
    double rise(const ThreadEnd& e, std::size_t j) const { return (crest_ - lowest_) / (e.te[j] - e.tr(j)); }

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

    ThreadEnd make_end(const ResolvedEnd& asked, int side, double z) const;

    Rim rim(const ThreadEnd& e) const;

    ThreadSection s_;
    int index_;
    double z0_ = 0, z1_ = 0;
    int h_ = 1;
    double lead_ = 0, taper_ = 0, gauge_ = 0;
    std::size_t starts_ = 1, lines_ = 0, k_ = 0;
    std::vector<SectionPoint> points_;
    double crest_ = 0, lowest_ = 0;
    std::size_t deepest_ = 0, deepest_last_ = 0; // first and last point at the lowest height
    ThreadEnd near_, far_;
};

} // namespace whorl::solid
