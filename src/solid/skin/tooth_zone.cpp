#include "solid/skin/tooth_zone.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/skin/flat_side.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

constexpr double same_radius = 5e-8; // mm
// A circle nearer than this to the root or the tip, but not on it, would leave edges too short to check.
constexpr double too_near = 2e-4; // mm

using Loop = std::vector<EdgeUse>;

void append(Loop& to, const std::vector<int>& edges, int turn = 0) {
    for (const int e : edges)
        to.push_back({e, true, turn});
}

Loop around(const ToothedRim& rim) {
    Loop l;
    for (const auto& segment : rim.edges)
        append(l, segment);
    return l;
}
Loop around(const RimEdges& rim) {
    Loop l;
    append(l, rim.edge);
    return l;
}

int add_corner(Skin& skin, const UnrolledPoint& p) {
    skin.corners.push_back(p);
    return static_cast<int>(skin.corners.size()) - 1;
}

bool is_circle(const Rim& rim) {
    return std::all_of(rim.begin(), rim.end(), [&](const RimPoint& p) {
        return p.shape == EdgeShape::straight && std::abs(p.r - rim.front().r) < 1e-10;
    });
}

std::pair<double, double> height_range(const Rim& rim) {
    double low = 1e300, high = -1e300;
    for (const RimPoint& p : rim) {
        low = std::min(low, p.r);
        high = std::max(high, p.r);
        if (p.shape == EdgeShape::flat_trace) { // its middle lies nearer to the axis
            low = std::min(low, p.trace.distance);
            high = std::max(high, p.trace.distance);
        }
    }
    return {low, high};
}

// θ of a rim's own corners strictly between two angles, unrolled and rising.
std::vector<double> corners_between(const Rim& rim, double from, double to) {
    std::vector<double> out;
    for (const RimPoint& p : rim)
        for (double t = p.theta + std::floor((from - p.theta) / full_turn) * full_turn; t < to;
             t += full_turn)
            if (t > from + 1e-7 && t < to - 1e-7) out.push_back(t);
    std::sort(out.begin(), out.end());
    return out;
}

// Where on a plane a round neighbour's circle cuts the outline: shoulders over the spaces, ends of the teeth,
// and the circle itself in pieces.
RimEdges cut_by_circle(Skin& skin, double z, const ToothZone& teeth, const ToothedRim& rim, const Rim& circle,
                       int other_zone, bool teeth_below, int join) {
    const double h = circle.front().r;
    const std::size_t per = teeth.segments_per_tooth();
    // the outline's corners on the circle, in rising order: up the first flank, down the second
    struct Crossing {
        double theta;
        int corner;
        std::size_t segment, edge; // the first edge after it
    };
    std::vector<Crossing> crossings;
    for (std::size_t s = 0; s < rim.edges.size(); ++s)
        for (std::size_t k = 0; k < rim.edges[s].size(); ++k) {
            const Edge& e = skin.edges[static_cast<std::size_t>(rim.edges[s][k])];
            if (k > 0 && e.shape == EdgeShape::straight) continue; // inside an arc
            if (std::abs(e.begin.r - h) < 2 * same_radius) crossings.push_back({e.begin.theta, e.from, s, k});
        }
    // a tooth is crossed on its way up and on its way down; a lobe wherever it passes, or begins an arc on
    // the circle
    if (teeth.is_lobe() ? crossings.size() < 2 : crossings.size() != 2 * rim.edges.size() / per)
        throw CannotMake(
            "The neighbour's edge runs along the teeth in a way that can't be made; put a plain round "
            "zone between.",
            static_cast<std::size_t>(teeth.zone()));
    // pieces of the circle, cut also where the neighbour has its own corners
    RimEdges out;
    struct Piece {
        std::vector<int> edges;
    };
    std::vector<Piece> pieces(crossings.size());
    const auto shared = [&](std::size_t i) -> std::optional<std::vector<int>> {
        // a root or tip arc that lies on the circle
        const Crossing& c = crossings[i];
        const Edge& e = skin.edges[static_cast<std::size_t>(rim.edges[c.segment][c.edge])];
        if (e.shape == EdgeShape::straight && std::abs(e.end.r - h) < 2 * same_radius)
            return rim.edges[c.segment];
        return {};
    };
    std::vector<std::pair<double, int>> sorted; // θ in [0, 2π) and the edge that begins there
    for (std::size_t i = 0; i < crossings.size(); ++i) {
        const Crossing &a = crossings[i], &b = crossings[(i + 1) % crossings.size()];
        const double to = b.theta + (i + 1 == crossings.size() ? full_turn : 0);
        if (const auto same = shared(i)) {
            pieces[i].edges = *same;
            for (const int e : *same)
                sorted.push_back({wrapped(skin.edges[static_cast<std::size_t>(e)].begin.theta), e});
            continue;
        }
        std::vector<double> cuts = corners_between(circle, a.theta, to);
        cuts.push_back(to);
        int corner = a.corner;
        double from = a.theta;
        for (const double t : cuts) {
            Edge e;
            e.from = corner;
            e.to = t == to ? b.corner : add_corner(skin, {t, h, z});
            e.begin = {from, h, z};
            e.end = {t, h, z};
            e.join = join;
            skin.edges.push_back(e);
            const int made = static_cast<int>(skin.edges.size()) - 1;
            pieces[i].edges.push_back(made);
            sorted.push_back({wrapped(from), made});
            corner = e.to;
            from = t;
        }
    }
    std::sort(sorted.begin(), sorted.end());
    for (const auto& [theta, i] : sorted) {
        // counted within the first turn, as the neighbour's faces expect
        Edge& e = skin.edges[static_cast<std::size_t>(i)];
        const double gain = e.end.theta - e.begin.theta;
        e.begin.theta = theta;
        e.end.theta = theta + gain;
        out.theta.push_back(theta);
        out.corner.push_back(e.from);
        out.edge.push_back(i);
    }
    // the outline between crossings, against the circle's piece there
    for (std::size_t i = 0; i < crossings.size(); ++i) {
        if (shared(i)) continue;
        const Crossing &a = crossings[i], &b = crossings[(i + 1) % crossings.size()];
        Loop outline;
        std::size_t s = a.segment, k = a.edge;
        double highest = -1e300;
        do {
            const int e = rim.edges[s][k];
            outline.push_back({e, true, 0});
            highest = std::max(highest, skin.edges[static_cast<std::size_t>(e)].end.r);
            if (++k == rim.edges[s].size()) k = 0, s = (s + 1) % rim.edges.size();
        } while (s != b.segment || k != b.edge);
        Loop along;
        append(along, pieces[i].edges);
        const bool tooth = highest > h + same_radius;
        // a tooth's end looks away from its zone, a shoulder towards the teeth
        const bool up = tooth == teeth_below;
        Loop loop = tooth ? outline : along;
        const Loop back = reversed(tooth ? along : outline);
        loop.insert(loop.end(), back.begin(), back.end());
        add_flat_face(skin, FaceRole::step, tooth ? teeth.zone() : other_zone, up, z, {std::move(loop)});
    }
    return out;
}

} // namespace

ToothZone::ToothZone(const ResolvedZone& zone, std::size_t index)
    : index_(static_cast<int>(index)), sign_(zone.in_bore() ? -1 : 1), z0_(in_mm(zone.start)),
      z1_(in_mm(zone.end())) {
    if (const ResolvedCam* cam = zone.lobe()) {
        if (cam->outline.empty()) throw CannotMake("This cam can't be made; the checks say why.", index);
        add_lobe(*cam);
    } else {
        if (zone.gear()->half_outline.empty())
            throw CannotMake("These teeth can't be made; the checks say why.", index);
        add_teeth(zone);
    }
}

void ToothZone::add_lobe(const ResolvedCam& cam) {
    root_radius_ = cam.least_radius;
    tip_radius_ = cam.largest_radius;
    const double middle = (root_radius_ + tip_radius_) / 2;
    for (const LobeCurve& l : cam.outline) {
        const FaceRole role = !l.dwell                  ? FaceRole::flank
                              : l.curve.radius < middle ? FaceRole::root
                                                        : FaceRole::crest;
        pattern_.push_back(
            {ToothCurve{std::make_shared<const TransverseCurve>(l.curve), false, l.turned, 0, sign_},
             l.curve.from, l.curve.to, role});
    }
}

void ToothZone::add_teeth(const ResolvedZone& zone) {
    const ResolvedGear& g = *zone.gear();
    teeth_ = g.spec.teeth;
    root_radius_ = g.root_radius;
    tip_radius_ = g.tip_radius;
    const double turned = zone.turned() - g.twist * z0_, pitch = g.pitch_angle();
    const auto place = [&](const TransverseCurve& c, bool mirrored) {
        return ToothCurve{std::make_shared<const TransverseCurve>(c), mirrored, turned, g.twist, sign_};
    };
    // the two half arcs of a root or a tip are one
    const std::vector<TransverseCurve>& outline = g.half_outline;
    TransverseCurve root = outline.front(), tip = outline.back();
    root.from = -root.to;
    tip.to = pitch - tip.from;
    pattern_.push_back({place(root, false), root.from, root.to, FaceRole::root});
    for (std::size_t i = 1; i + 1 < outline.size(); ++i) {
        const TransverseCurve& c = outline[i];
        const bool flank = c.shape == CurveShape::involute;
        pattern_.push_back({place(c, false), c.from, c.to,
                            flank    ? FaceRole::flank
                            : i == 1 ? FaceRole::root
                                     : FaceRole::chamfer});
    }
    pattern_.push_back({place(tip, false), tip.from, tip.to, FaceRole::crest});
    for (std::size_t i = outline.size() - 2; i >= 1; --i) {
        Segment s = pattern_[i];
        s.curve.mirrored = true; // of the next space
        s.curve.turned += pitch;
        std::swap(s.from, s.to);
        pattern_.push_back(s);
    }
}

ToothZone::Segment ToothZone::segment(std::size_t i) const {
    Segment s = pattern_[i % pattern_.size()];
    const std::size_t tooth = i / pattern_.size();
    s.curve.turned += full_turn / teeth_ * static_cast<double>(tooth);
    return s;
}

bool ToothZone::meets_as_one(const ToothZone& below) const {
    if (teeth_ != below.teeth_ || sign_ != below.sign_ || pattern_.size() != below.pattern_.size())
        return false;
    // the same points in the plane where they meet; a mirrored half goes on from its mirror image
    const double apart = point_at(pattern_[0].curve, pattern_[0].from, z0_).theta -
                         point_at(below.pattern_[0].curve, below.pattern_[0].from, z0_).theta;
    const double whole = std::round(apart / (full_turn / teeth_)) * (full_turn / teeth_);
    for (std::size_t i = 0; i < pattern_.size(); ++i)
        for (const double part : {0.0, 0.4, 0.8}) {
            const Segment &a = pattern_[i], &b = below.pattern_[i];
            const UnrolledPoint p = point_at(a.curve, a.from + part * (a.to - a.from), z0_),
                                q = point_at(b.curve, b.from + part * (b.to - b.from), z0_);
            if (std::abs(p.r - q.r) > 1e-9 || std::abs(p.theta - q.theta - whole) * std::abs(p.r) > 1e-8)
                return false;
        }
    return true;
}

ToothedRim ToothZone::make_rim(Skin& skin, bool far, int join, const Rim* cut_by) const {
    ToothedRim rim;
    const std::size_t n = pattern_.size() * static_cast<std::size_t>(teeth_);
    const double at = z(far);
    rim.edges.resize(n);
    for (std::size_t i = 0; i < n; ++i) {
        const Segment s = segment(i);
        const UnrolledPoint p = point_at(s.curve, s.from, at);
        rim.corner.push_back(add_corner(skin, p));
        rim.theta.push_back(p.theta);
    }
    for (std::size_t i = 0; i < n; ++i) {
        const Segment s = segment(i);
        const bool circle = s.curve.curve->shape == CurveShape::circle;
        Edge e;
        e.from = rim.corner[i];
        e.begin = point_at(s.curve, s.from, at);
        e.join = join;
        if (!circle) {
            e.shape = EdgeShape::tooth;
            e.tooth = s.curve;
            e.tooth_from = s.from;
        }
        const UnrolledPoint end = point_at(s.curve, s.to, at);
        const auto finish = [&](int corner, const UnrolledPoint& p, double parameter) {
            e.to = corner;
            e.end = p;
            e.tooth_to = parameter;
            rim.edges[i].push_back(static_cast<int>(skin.edges.size()));
            skin.edges.push_back(e);
            e.from = corner;
            e.begin = p;
            e.tooth_from = parameter;
        };
        const double split = cut_by ? cut_by->front().r : 0;
        if (cut_by && !circle && (e.begin.r - split) * (end.r - split) < 0 &&
            std::min(std::abs(e.begin.r - split), std::abs(end.r - split)) > same_radius) {
            const double t = parameter_at_radius(*s.curve.curve, sign_ * split);
            const UnrolledPoint p = point_at(s.curve, t, at);
            finish(add_corner(skin, p), p, t);
        }
        if (cut_by && circle && std::abs(e.begin.r - split) < 2 * same_radius)
            for (const double t : corners_between(*cut_by, e.begin.theta, end.theta)) {
                const UnrolledPoint p{t, e.begin.r, at};
                finish(add_corner(skin, p), p, 0);
            }
        finish(rim.corner[(i + 1) % n], end, s.to);
    }
    return rim;
}

void ToothZone::add_faces(Skin& skin, const ToothedRim& near, const ToothedRim& far) const {
    const std::size_t n = near.edges.size();
    const int first_rail = static_cast<int>(skin.edges.size());
    for (std::size_t i = 0; i < n; ++i) {
        Edge e;
        e.from = near.corner[i];
        e.to = far.corner[i];
        const Segment s = segment(i);
        e.begin = point_at(s.curve, s.from, z0_);
        e.end = point_at(s.curve, s.from, z1_);
        e.rail = true;
        skin.edges.push_back(e);
    }
    for (std::size_t i = 0; i < n; ++i) {
        const Segment s = segment(i);
        Face f;
        f.kind = FaceKind::toothed;
        f.role = s.role;
        f.zone = index_;
        f.tooth = s.curve;
        // edges that are shared with a neighbour may be counted some turns off
        const auto along = [&](const std::vector<int>& edges, double z) {
            Loop out;
            double at = point_at(s.curve, s.from, z).theta;
            for (const int e : edges) {
                const Edge& edge = skin.edges[static_cast<std::size_t>(e)];
                const int turn = static_cast<int>(std::lround((at - edge.begin.theta) / full_turn));
                out.push_back({e, true, turn});
                at = edge.end.theta + turn * full_turn;
            }
            return out;
        };
        Loop loop = along(near.edges[i], z0_);
        const bool last = i + 1 == n;
        loop.push_back({first_rail + static_cast<int>(last ? 0 : i + 1), true, last ? 1 : 0});
        const Loop down = reversed(along(far.edges[i], z1_));
        loop.insert(loop.end(), down.begin(), down.end());
        loop.push_back({first_rail + static_cast<int>(i), false, 0});
        f.loops = {std::move(loop)};
        skin.faces.push_back(std::move(f));
    }
}

JoinedPlane join_teeth(Skin& skin, double z, const PlaneSide& below, const PlaneSide& above, bool open) {
    JoinedPlane out;
    const bool teeth_below = below.teeth != nullptr;
    if (below.teeth && above.teeth) {
        if (above.teeth->meets_as_one(*below.teeth)) {
            out.below_teeth = below.teeth->make_rim(skin, true, -1);
            out.above_teeth = out.below_teeth;
            return out;
        }
        // one inside the other's roots: a ring, as with any other neighbour
        const bool wider_below = below.teeth->root() > above.teeth->tip() + too_near;
        const bool wider_above = above.teeth->root() > below.teeth->tip() + too_near;
        if (!wider_below && !wider_above)
            throw CannotMake(
                "Two toothed zones with different teeth meet here; put a plain zone between them, or make "
                "them alike but for the hand.",
                static_cast<std::size_t>(above.zone));
        out.below_teeth = below.teeth->make_rim(skin, true, -1);
        out.above_teeth = above.teeth->make_rim(skin, false, -1);
        const auto &outer = wider_below ? *out.below_teeth : *out.above_teeth,
                   &inner = wider_below ? *out.above_teeth : *out.below_teeth;
        add_flat_face(skin, FaceRole::step, wider_below ? below.zone : above.zone, wider_below, z,
                      {around(outer), around(inner)});
        return out;
    }
    const PlaneSide &side = teeth_below ? below : above, &other = teeth_below ? above : below;
    const ToothZone& teeth = *side.teeth;
    auto& rim = teeth_below ? out.below_teeth : out.above_teeth;
    auto& other_rim = teeth_below ? out.above_rim : out.below_rim;
    if (!other.rim) {
        rim = teeth.make_rim(skin, teeth_below, -1);
        if (!open) add_flat_face(skin, FaceRole::end, side.zone, teeth_below, z, {around(*rim)});
        return out;
    }
    const auto [low, high] = height_range(*other.rim);
    const bool inside = high<teeth.root() - too_near, outside = low> teeth.tip() + too_near;
    if (inside || outside) {
        // both boundaries are sampled at each other's corners, see Join
        const int join = static_cast<int>(skin.joins.size());
        skin.joins.push_back({z, {}});
        rim = teeth.make_rim(skin, teeth_below, join);
        other_rim = lone_rim(skin, *other.rim, z, join);
        auto& at = skin.joins[static_cast<std::size_t>(join)].theta;
        for (const double t : rim->theta)
            at.push_back(wrapped(t));
        at.insert(at.end(), other_rim->theta.begin(), other_rim->theta.end());
        std::sort(at.begin(), at.end());
        // the wider one shows its flat side
        add_flat_face(skin, FaceRole::step, inside ? side.zone : other.zone, inside == teeth_below, z,
                      inside ? std::vector{around(*rim), around(*other_rim)}
                             : std::vector{around(*other_rim), around(*rim)});
        return out;
    }
    const auto zone = static_cast<std::size_t>(side.zone);
    if (!is_circle(*other.rim))
        throw CannotMake(
            "A zone that is not round meets the teeth between their roots and tips; put a plain round zone "
            "between, or make it smaller than the roots.",
            zone);
    const double h = other.rim->front().r;
    for (const double at : {teeth.root(), teeth.tip()})
        if (const double off = std::abs(h - at); off < too_near && off > same_radius)
            throw CannotMake("The neighbour's Ø " + number_text(2 * std::abs(h), 6) +
                                 " mm misses the teeth's " + (at == teeth.root() ? "root" : "tip") +
                                 " circle by less than a thousandth of a "
                                 "millimetre; make it Ø " +
                                 number_text(2 * std::abs(at), 9) + " or clearly different.",
                             zone);
    // a lobe may leave the circle at a slight angle: both are sampled at each other's corners, see Join
    const int join = teeth.is_lobe() ? static_cast<int>(skin.joins.size()) : -1;
    if (join >= 0) skin.joins.push_back({z, {}});
    rim = teeth.make_rim(skin, teeth_below, join, other.rim);
    other_rim = cut_by_circle(skin, z, teeth, *rim, *other.rim, other.zone, teeth_below, join);
    if (join >= 0) {
        auto& at = skin.joins[static_cast<std::size_t>(join)].theta;
        for (const auto& segment : rim->edges)
            for (const int e : segment)
                at.push_back(wrapped(skin.edges[static_cast<std::size_t>(e)].begin.theta));
        at.insert(at.end(), other_rim->theta.begin(), other_rim->theta.end());
        std::sort(at.begin(), at.end());
    }
    return out;
}

RimEdges flattened(const ToothedRim& rim) {
    RimEdges out;
    for (std::size_t i = 0; i < rim.edges.size(); ++i)
        for (const int e : rim.edges[i]) {
            out.edge.push_back(e);
            out.corner.push_back(rim.corner[i]);
            out.theta.push_back(rim.theta[i]);
        }
    return out;
}

} // namespace whorl::solid
