#include "solid/skin/thread_faces.hpp"

#include "quantity/expression.hpp"

namespace whorl::solid {

ThreadEnd ThreadZone::make_end(const ResolvedEnd& asked, int side, double z) const {
    const double sign = s_.side == Side::external ? 1 : -1;
    ThreadEnd e;
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
                    if (std::abs(cut_height(e) - p.rho) < 0.999e-4) e.rc -= cut_height(e) - (p.rho - 1e-4);
        }
    } else if (e.kind == EndKind::milled) {
        mill(e);
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

// Its middle lies so that the round keeps the land to the zone's end; the line from it to the rim starts halfway
// between the groove's own direction and its far side, where it leaves the round steeply at every lead.
void ThreadZone::mill(ThreadEnd& e) const {
    constexpr double quarter = std::numbers::pi / 2;
    const double land = run_out_land * s_.pitch, half = (points_.back().zeta - points_.front().zeta) / 2;
    double at = e.z;
    for (int pass = 0; pass < 8; ++pass) { // on a cone the surface is unrolled where the round's middle lies
        e.unroll = std::max(1e-3, std::abs(r_at(crest_, at)));
        e.gamma = std::atan(slope() / e.unroll);
        e.reach = half * std::cos(e.gamma);
        at = e.z - e.side * (land + e.reach);
    }
    const double turned = e.side > 0 ? 0 : 2 * quarter, first = e.gamma + turned - quarter,
                 generator = e.gamma + turned + quarter / 2;
    Scoop widest;
    widest.unroll = e.unroll;
    widest.height0 = e.unroll;
    widest.reach0 = e.reach;
    // where θ turns back and where the line starts there is a face's border; between them as many as one polynomial
    // on each can follow
    e.angles = {first};
    for (const double to : {turned, generator, e.gamma + turned + quarter}) {
        const double from = e.angles.back();
        int parts = 1;
        while (parts < 12 && error_around(widest, from, from + (to - from) / parts) > scoop_tolerance)
            ++parts;
        for (int k = 1; k <= parts; ++k)
            e.angles.push_back(k == parts ? to : from + (to - from) * k / parts);
        if (to == generator) e.at_generator = e.angles.size() - 1;
    }
    for (std::size_t j = 0; j < starts_; ++j) {
        e.middle.push_back((at - middle_zeta() - static_cast<double>(j) * s_.pitch) / slope());
        e.te.push_back(e.middle.back() + e.reach * std::cos(generator) / e.unroll);
    }
}

// Arcs in as many pieces as one polynomial each can follow around a milled end.
void ThreadZone::divide_arcs() {
    std::vector<SectionPoint> out;
    for (std::size_t k = 0; k < points_.size(); ++k) {
        out.push_back(points_[k]);
        const SectionPoint& p = points_[k];
        if (k + 1 == points_.size() || p.arc_radius <= 0) continue;
        Scoop s;
        s.unroll = std::abs(crest_);
        s.arc = true;
        s.reach0 = middle_zeta() - p.arc_zeta;
        s.reach1 = -p.arc_radius;
        s.height0 = std::abs(p.arc_rho);
        s.height1 = p.arc_radius;
        int parts = 1;
        while (parts < 12 &&
               error_along(s, p.arc_from, p.arc_from + (p.arc_to - p.arc_from) / parts) > scoop_tolerance)
            ++parts;
        for (int i = 1; i < parts; ++i) {
            SectionPoint q = p;
            q.arc_from = p.arc_from + (p.arc_to - p.arc_from) * i / parts;
            q.zeta = p.arc_zeta + p.arc_radius * std::cos(q.arc_from);
            q.rho = p.arc_rho + p.arc_radius * std::sin(q.arc_from);
            out.back().arc_to = q.arc_from;
            out.push_back(q);
        }
    }
    points_ = std::move(out);
    k_ = points_.size();
}

bool ThreadZone::is_symmetric() const {
    const double twice = 2 * middle_zeta();
    for (std::size_t k = 0; k < k_; ++k) {
        const SectionPoint &a = points_[k], &b = points_[k_ - 1 - k];
        if (std::abs(a.zeta + b.zeta - twice) > 1e-8 || std::abs(a.rho - b.rho) > 1e-8) return false;
        if (k + 1 == k_) break;
        const SectionPoint& arc = points_[k_ - 2 - k];
        if (std::abs(a.arc_radius - arc.arc_radius) > 1e-8) return false;
        if (a.arc_radius > 0 &&
            (std::abs(a.arc_zeta + arc.arc_zeta - twice) > 1e-8 || std::abs(a.arc_rho - arc.arc_rho) > 1e-8))
            return false;
    }
    return true;
}

Rim ThreadZone::rim(const ThreadEnd& e) const {
    std::vector<RimPoint> points;
    if (e.ends_inside()) {
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

double ThreadZone::needed_length() const {
    double need = 0;
    bool full_form = true;
    for (const ThreadEnd* e : {&near_, &far_}) {
        if (e->kind == EndKind::chamfer) need += std::abs(e->z - trim_z(*e, crest_));
        if (e->kind == EndKind::run_out) {
            // the run-out, its land, and the width of the groove that has to fit beside it
            need += lead_ * e->rho / full_turn + run_out_land * s_.pitch + s_.groove_width();
            full_form = false;
        }
        if (e->kind == EndKind::milled) need += run_out_land * s_.pitch + e->reach + s_.groove_width();
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
    for (const ThreadEnd* e : {&near_, &far_}) {
        if (e->kind == EndKind::chamfer && std::abs(cone_slope(*e)) <= 2 * std::abs(taper_))
            throw CannotMake("The chamfer is nearly as slender as the thread's taper; make it steeper.",
                             index);
        if (e->kind == EndKind::milled) {
            if (!is_symmetric() || deepest_last_ > deepest_ + 1)
                throw CannotMake(
                    "A tool that turns leaves both sides of a groove alike; a milled end needs a section "
                    "that is the same on both, or let it run out.",
                    index);
            if (e->reach > 1.2 * e->unroll)
                throw CannotMake(
                    "The round of this groove's tool would reach halfway around the bar; let the "
                    "groove run out, or make it narrower.",
                    index);
        }
        if (!e->ends_inside()) continue;
        for (std::size_t k = 0; k + 1 < k_; ++k) {
            const double step = points_[k + 1].rho - points_[k].rho;
            if ((k < deepest_ && step > -1e-9) || (k >= deepest_last_ && step < 1e-9))
                throw CannotMake("A run-out and a milled end need a section that falls to one root and rises "
                                 "again; choose a "
                                 "flat or chamfered end for this section.",
                                 index);
        }
    }
}

void ThreadZone::add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const {
    ThreadFaces(*this, skin, near, far).add();
}

std::unique_ptr<ZoneSkin> thread_zone_skin(const ResolvedZone& zone, std::size_t index) {
    auto made = std::make_unique<ThreadZone>(zone, index);
    made->require_room();
    return made;
}

double thread_zone_need(const ResolvedZone& zone) {
    return zone.swept()->sweepable() ? ThreadZone(zone, 0).needed_length() : 0;
}

} // namespace whorl::solid
