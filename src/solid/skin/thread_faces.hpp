// The faces of a threaded zone, between its rims. Internal to the solid floor.
#pragma once

#include "solid/skin/thread_zone.hpp"

#include <map>

namespace whorl::solid {

// Builds the faces; holds what the steps share.
class ThreadFaces {
public:
    ThreadFaces(const ThreadZone& zone, Skin& skin, const RimEdges& near, const RimEdges& far)
        : z_(zone), skin_(skin), near_rim_(near), far_rim_(far), rails_(zone.lines_) {}

    void add();

private:
    using Loop = std::vector<EdgeUse>; // in local t: turn counts are of t

    struct Planned {
        double t, r, z;
        int corner = -1; // a corner that is there already
    };

    std::size_t at_end(const ThreadEnd& e) const { return e.side > 0 ? 1 : 0; }
    const RimEdges& rim(const ThreadEnd& e) const { return e.side > 0 ? far_rim_ : near_rim_; }
    std::size_t last() const { return z_.k_ - 1; } // k of B

    int corner(double t, double r, double z) {
        skin_.corners.push_back({z_.theta(t), r, z});
        return static_cast<int>(skin_.corners.size()) - 1;
    }
    int edge(int from, double t0, int to, double t1);
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
    Loop rim_path(const ThreadEnd& e, double t0, double t1) const;
    static void append(Loop& to, const Loop& more, int turn = 0);

    // --- run-outs: where line k of groove j reaches the crest
    double surfaces_t(const ThreadEnd& e, std::size_t j, std::size_t k) const {
        if (k == 0 || k == last()) return e.tr(j);
        if (z_.points_[k].rho < z_.lowest_ + 1e-9) return e.te[j];
        return e.tr(j) + (z_.crest_ - z_.points_[k].rho) / z_.rise(e, j);
    }
    // and the corner there (not for A and B, which are at the crest all along)
    int surfaces_corner(const ThreadEnd& e, std::size_t j, std::size_t k);
    // the band of groove j that is trimmed at the crest at t, on the side of A or of B
    std::size_t band_surfacing(const ThreadEnd& e, std::size_t j, bool of_a, double t) const;
    double phi_surfacing(const ThreadEnd& e, std::size_t j, std::size_t m, double t) const;
    // The run-out end in which line m lies at t, if any.
    const ThreadEnd* run_out_at(std::size_t m, double t) const {
        for (const ThreadEnd* e : {&z_.near_, &z_.far_})
            if (e->kind == EndKind::run_out && e->side * (t - e->tr(m / z_.k_)) > 1e-12) return e;
        return nullptr;
    }
    // The point of line m at t: on the section's point, or, for A and B beyond the start of a run-out, where
    // the raised groove meets the crest.
    Planned on_line(std::size_t m, double t) const;

    void plan_end(std::size_t m, const ThreadEnd& e);

    // Where line m starts and ends; for run-outs including the tip.
    double low_t(std::size_t m) const { return extreme(m, true); }
    double high_t(std::size_t m) const { return extreme(m, false); }
    double extreme(std::size_t m, bool low) const;

    bool level(std::size_t m) const { return !z_.is_arc(m) && std::abs(z_.rho(m + 1) - z_.rho(m)) < 1e-12; }

    // A crest between run-outs is cut where its grooves begin to be withdrawn: beyond lies the plain land.
    void plan_cuts(std::size_t m);
    // A corner on line m at t, unless there is one.
    void plan_cut(std::size_t m, double t) {
        for (const auto& p : plan_[m])
            if (std::abs(p.t - t) < 1e-9) return;
        plan_[m].push_back(on_line(m, t));
    }

    void lay_rail(std::size_t m);

    std::size_t rail_index(std::size_t m, double t) const;
    // Along line m (which may be the last: line 0 one turn on) from t0 to t1, in the t of band m.
    Loop rail_path(std::size_t m, double t0, double t1) const;
    int rail_corner(std::size_t m, double t) const {
        const std::size_t line = m % z_.lines_; // NOLINT(clang-analyzer-core.DivideZero): as above
        return rails_[line][rail_index(line, m == z_.lines_ ? t + full_turn : t)].corner;
    }

    // The corner where line m stops being part of its full-form band, in the t of band m or m − 1.
    double stop_t(std::size_t m, const ThreadEnd& e) const;

    // From the end of line m to the end of line m + 1, along the trimming surface. Made once, used by both
    // its faces. Turn numbers are for the t of band m.
    const Loop& closure(std::size_t m, const ThreadEnd& e);
    // In the axial plane at t from line m to line m + 1.
    int axial(std::size_t m, double t, std::size_t to) {
        return edge_on(m, ThreadZone::axial_trim(t), rail_corner(m, t), t, phi_of(m, false),
                       rail_corner(to, t), t, phi_of(m, true));
    }

    // The surface of band m, raised by raise0 + raise_t·t.
    void face(FaceRole role, std::size_t m, double raise0, double raise_t, Loop loop);

    FaceRole role(std::size_t m) const {
        if (z_.is_crest(m)) return FaceRole::crest;
        if (!z_.is_arc(m)) return level(m) ? FaceRole::root : FaceRole::flank;
        return z_.rho(m) + z_.rho(m + 1) > z_.crest_ + z_.lowest_ ? FaceRole::crest : FaceRole::root;
    }

    void add_band(std::size_t m) {
        add_patches(m, z_.is_crest(m), [&](Loop loop) { face(role(m), m, 0, 0, std::move(loop)); });
    }

    // What closes a band beyond its last cut at an end: from line m to line m + 1.
    Loop strip_closure(std::size_t m, const ThreadEnd& e);

    // The band above line m in patches between its cuts.
    template<class AddFace>
    void add_patches(std::size_t m, bool crest, AddFace add_face) {
        const auto end_of_rail = [&](std::size_t line, const ThreadEnd& e) {
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
    void make_tip(const ThreadEnd& e, std::size_t j);

    // The withdrawn groove: its bands, raised until they meet the crest.
    void add_run_out(const ThreadEnd& e, std::size_t j);

    // Half the round of groove j at the height of its lines k and last − k: all of it from the side of A to that of B,
    // or back.
    Loop around(const ThreadEnd& e, std::size_t j, std::size_t k, bool forward) const;
    // A crest beyond its grooves: along the first one's round to the line from it to the rim, along this, and back.
    Loop around_to_rim(const ThreadEnd& e, std::size_t m);

    // The round's faces below height k of groove j, without a face's own angles.
    Scoop scoop_of(const ThreadEnd& e, std::size_t j, std::size_t k) const;
    // What lies between the faces of a round at one height of the section.
    struct Round {
        std::vector<int> corners; // at the angles; of a pole the same one
        std::vector<int> around;  // from one to the next; of a pole none
    };

    // Corners and edges around the end of groove j, and the line to the rim.
    void make_round(const ThreadEnd& e, std::size_t j);

    // From the outer to the inner end of a scoop's profile at angle i, where neither side of the groove is.
    int profile_edge(const ThreadEnd& e, std::size_t j, std::size_t k, std::size_t i, const Scoop& s);

    void add_scoops(const ThreadEnd& e, std::size_t j);

    // The chamfer's cone: one face all around if it ends below the root, else one for each stretch of the
    // section that stands out of it.
    void add_cones(const ThreadEnd& e);

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
    std::map<std::tuple<std::size_t, std::size_t, std::size_t>, Round> rounds_; // (end, start, k)
};

} // namespace whorl::solid
