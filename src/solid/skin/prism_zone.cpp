// A hexagonal, square or flat zone; of the first two the corners (in a bore: the flats) a cone, outside also a ball, may cut at
// either end.
//
// A flat at the distance h from the axis is r = h/cos(θ − θf); in a bore, where radii are taken negative, it
// is the same with −h, so that "what stands above the cone's end radius" are the corners outside and the
// flats' middles inside.
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/skin/zone_skin.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace whorl::solid {
namespace {

struct End {
    int side = 1;
    double z = 0;
    double rc = std::numeric_limits<double>::max(); // height of the cone at the end plane
    double slope = 1;                               // dr/dz along the cone
    double ball = 0, centre = 0;                    // instead of a cone: its radius and its centre's z
};

class PrismZone final : public ZoneSkin {
public:
    PrismZone(const ResolvedZone& zone, std::size_t index)
        : index_(static_cast<int>(index)), sides_(zone.outline() == Outline::hexagon ? 6 : 4),
          flat_bar_(zone.outline() == Outline::flat), width_(full_turn / sides_),
          sign_(zone.in_bore() ? -1 : 1), flat_(sign_ * in_mm(zone.diameter) / 2),
          other_flat_(flat_bar_ ? in_mm(zone.as<ResolvedPlain>()->thickness) / 2 : flat_),
          corner_(flat_bar_ ? std::hypot(flat_, other_flat_) : flat_ / std::cos(width_ / 2)),
          z0_(in_mm(zone.start)), z1_(in_mm(zone.end())), near_(make_end(zone.near_end, -1, z0_)),
          far_(make_end(zone.far_end, 1, z1_)) {
        double need = 0;
        for (const End* e : {&near_, &far_})
            need += std::abs(trim_z(*e, std::max(flat_, corner_)) - e->z);
        if (need > z1_ - z0_ - 1e-6)
            throw CannotMake("The chamfers of this zone need " + number_text(need, 3) +
                                 " mm but it is only " + number_text(z1_ - z0_, 3) +
                                 " mm long; make it longer or the chamfers smaller.",
                             index);
    }

    Rim near_rim() const override { return rim(near_); }
    Rim far_rim() const override { return rim(far_); }

    void add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const override {
        // corners of the prism at both ends, and the upright edges between them
        std::vector<int> low(sides_), high(sides_), upright(sides_);
        for (std::size_t i = 0; i < sides_; ++i) {
            low[i] = corner_of(skin, near_, near, i);
            high[i] = corner_of(skin, far_, far, i);
            upright[i] = add_straight(skin, low[i], corner_theta(i), high[i], corner_theta(i));
        }
        std::vector<std::vector<EdgeUse>> near_boundary, far_boundary;
        for (std::size_t i = 0; i < sides_; ++i) {
            near_boundary.push_back(boundary(skin, near_, near, low, i));
            far_boundary.push_back(boundary(skin, far_, far, high, i));
        }
        for (std::size_t i = 0; i < sides_; ++i) {
            Face f;
            f.kind = FaceKind::side;
            f.zone = index_;
            f.a = distance(i);
            f.side_theta = flat_theta(i);
            std::vector<EdgeUse> loop = near_boundary[i];
            loop.push_back({upright[i], true, 0});
            append(loop, reversed(far_boundary[i]));
            const std::size_t before = (i + sides_ - 1) % sides_;
            loop.push_back({upright[before], false, i == 0 ? -1 : 0});
            f.loops = {std::move(loop)};
            skin.faces.push_back(std::move(f));
        }
        add_cones(skin, near_, near, near_boundary);
        add_cones(skin, far_, far, far_boundary);
    }

private:
    using Loop = std::vector<EdgeUse>;

    double flat_theta(std::size_t i) const { return static_cast<double>(i) * width_; }
    // of a flat bar, which has no chamfers, the first is a narrow side and the next a wide face
    double distance(std::size_t i) const { return i % 2 == 0 ? flat_ : other_flat_; }
    // corner i lies after flat i in rising θ
    double corner_theta(std::size_t i) const {
        if (!flat_bar_) return (static_cast<double>(i) + 0.5) * width_;
        const double half = std::atan2(distance(i + 1), distance(i)); // from flat i
        return flat_theta(i) + half;
    }
    double corner_before(std::size_t i) const {
        return i == 0 ? corner_theta(sides_ - 1) - full_turn : corner_theta(i - 1);
    }
    double trim_z(const End& e, double height) const {
        if (height <= e.rc) return e.z;
        return e.ball > 0 ? height_at(ball_trace(e), height) : e.z + (height - e.rc) / e.slope;
    }
    static FlatTrace ball_trace(const End& e) {
        FlatTrace t;
        t.z0 = e.centre;
        t.ball = e.ball;
        t.above = e.side;
        return t;
    }
    // The ball's angle φ at one of its points.
    static double phi(const End& e, double r, double z) { return std::atan2(r, z - e.centre); }
    bool complete(const End& e) const { return e.rc < std::min(flat_, corner_); }
    bool partial(const End& e) const { return !complete(e) && e.rc < std::max(flat_, corner_); }
    // half the angle between the two places of a flat where it lies at the cone's end radius
    double cross_angle(const End& e) const { return std::acos(flat_ / e.rc); }

    End make_end(const ResolvedEnd& asked, int side, double z) const {
        End e;
        e.side = side;
        e.z = z;
        if (asked.is_dome()) {
            e.rc = in_mm(asked.tip_diameter) / 2;
            if (std::abs(e.rc - flat_) < 1e-4) e.rc = flat_ - 1e-4;
            e.ball = in_mm(asked.dome_radius);
            e.centre = z - side * std::sqrt(e.ball * e.ball - e.rc * e.rc);
            return e;
        }
        if (asked.kind != EndKind::chamfer) return e;
        e.rc = sign_ * in_mm(asked.diameter) / 2;
        e.slope = -side * std::tan(in_rad(asked.angle));
        // not within 0.1 µm of touching a flat or a corner
        for (const double h : {flat_, corner_})
            if (std::abs(e.rc - h) < 1e-4) e.rc = h - 1e-4;
        return e;
    }

    FlatTrace trace(std::size_t i, const End& e, bool on_cone) const {
        FlatTrace out = on_cone && e.ball > 0 ? ball_trace(e) : FlatTrace{0, 0, e.z, 0};
        if (on_cone && e.ball == 0) out = {0, 0, e.z - e.rc / e.slope, 1 / e.slope};
        out.distance = distance(i);
        out.theta = flat_theta(i);
        return out;
    }

    Rim rim(const End& e) const {
        if (complete(e)) return sorted_rim({{flat_theta(0) - width_ / 2, e.rc}}); // above a corner
        std::vector<RimPoint> points;
        const auto flat_from = [&](std::size_t i, double theta, double r) {
            RimPoint p{theta, r};
            p.shape = EdgeShape::flat_trace;
            p.trace = trace(i, e, false);
            points.push_back(p);
        };
        for (std::size_t i = 0; i < sides_; ++i) {
            const double middle = flat_theta(i);
            if (!partial(e)) {
                flat_from(i, corner_before(i), corner_);
            } else if (sign_ > 0) {
                flat_from(i, middle - cross_angle(e), e.rc);
                points.push_back({middle + cross_angle(e), e.rc});
            } else {
                flat_from(i, middle - width_ / 2, corner_);
                points.push_back({middle - cross_angle(e), e.rc});
                flat_from(i, middle + cross_angle(e), e.rc);
            }
        }
        return sorted_rim(std::move(points));
    }

    int corner_of(Skin& skin, const End& e, const RimEdges& rim_edges, std::size_t i) const {
        if (corner_ <= e.rc) return rim_edges.corner_at(corner_theta(i));
        skin.corners.push_back({corner_theta(i), corner_, trim_z(e, corner_)});
        return static_cast<int>(skin.corners.size()) - 1;
    }

    int cone_trace(Skin& skin, const End& e, std::size_t i, int from, double theta0, int to,
                   double theta1) const {
        const int made = add_straight(skin, from, theta0, to, theta1);
        skin.edges.back().shape = EdgeShape::flat_trace;
        skin.edges.back().trace = trace(i, e, true);
        return made;
    }
    static void append(Loop& to, const Loop& more) { to.insert(to.end(), more.begin(), more.end()); }

    // Where flat i ends, in rising θ from corner i − 1 to corner i, in the chart around flat i.
    Loop boundary(Skin& skin, const End& e, const RimEdges& rim_edges, const std::vector<int>& corners,
                  std::size_t i) const {
        const double a = corner_before(i), b = corner_theta(i);
        const int from = corners[(i + sides_ - 1) % sides_], to = corners[i];
        if (complete(e)) return {{cone_trace(skin, e, i, from, a, to, b), true, 0}};
        if (!partial(e)) return rim_edges.path(a, b);
        const double x = flat_theta(i) - cross_angle(e), y = flat_theta(i) + cross_angle(e);
        const int cx = rim_edges.corner_at(x), cy = rim_edges.corner_at(y);
        Loop out;
        if (sign_ > 0) {
            out.push_back({cone_trace(skin, e, i, from, a, cx, x), true, 0});
            append(out, rim_edges.path(x, y));
            out.push_back({cone_trace(skin, e, i, cy, y, to, b), true, 0});
        } else {
            out = rim_edges.path(a, x);
            out.push_back({cone_trace(skin, e, i, cx, x, cy, y), true, 0});
            append(out, rim_edges.path(y, b));
        }
        return out;
    }

    void add_cones(Skin& skin, const End& e, const RimEdges& rim_edges,
                   const std::vector<Loop>& edges) const {
        if (!complete(e) && !partial(e)) return;
        // `loop` as for the far end: the traces lie below the rim, so the boundary runs along them in rising
        // θ
        const auto cone = [&](Loop loop) {
            Face f;
            f.role = FaceRole::chamfer;
            f.zone = index_;
            if (e.ball > 0) {
                f.kind = FaceKind::curved;
                f.arc_z = e.centre;
                f.arc_radius = e.ball;
                f.arc_from = phi(e, corner_, trim_z(e, corner_));
                f.arc_to = phi(e, e.rc, e.z);
                if (e.side < 0) std::swap(f.arc_from, f.arc_to);
            } else {
                f.b = e.slope;
                f.a = e.rc - e.slope * e.z;
            }
            if (e.side < 0) loop = reversed(std::move(loop));
            f.loops = {std::move(loop)};
            skin.faces.push_back(std::move(f));
        };
        if (complete(e)) {
            // all around, cut open along the generator at the corner before flat 0
            const double start = flat_theta(0) - width_ / 2;
            const int first = skin.edges[static_cast<std::size_t>(edges[0].front().edge)].from;
            const int on_rim = rim_edges.corner_at(start);
            const int generator = add_straight(skin, first, start, on_rim, start);
            if (e.ball > 0) {
                Edge& g = skin.edges.back();
                g.shape = EdgeShape::bow;
                g.bow = {{start, 0, e.centre},
                         {0, 0, e.ball},
                         {0, e.ball, 0},
                         phi(e, g.begin.r, g.begin.z),
                         phi(e, g.end.r, g.end.z)};
            }
            Loop loop;
            for (std::size_t i = 0; i < sides_; ++i)
                append(loop, edges[i]);
            loop.push_back({generator, true, 1});
            append(loop, reversed(rim_edges.path(start, start + full_turn)));
            loop.push_back({generator, false, 0});
            cone(std::move(loop));
            return;
        }
        for (std::size_t i = 0; i < sides_; ++i) {
            Loop loop;
            if (sign_ > 0) { // around corner i: from flat i to the next
                const std::size_t next = (i + 1) % sides_;
                loop.push_back(edges[i].back());
                EdgeUse after = edges[next].front();
                after.turn += next == 0 ? 1 : 0;
                loop.push_back(after);
                const double x = corner_theta(i) - (width_ / 2 - cross_angle(e)),
                             y = corner_theta(i) + (width_ / 2 - cross_angle(e));
                append(loop, rim_edges.path(y, x));
            } else { // across flat i
                for (const EdgeUse& u : edges[i])
                    if (skin.edges[static_cast<std::size_t>(u.edge)].trace.slope != 0) loop.push_back(u);
                const double x = flat_theta(i) - cross_angle(e), y = flat_theta(i) + cross_angle(e);
                append(loop, rim_edges.path(y, x));
            }
            cone(std::move(loop));
        }
    }

    int index_;
    std::size_t sides_;
    bool flat_bar_;
    double width_, sign_, flat_, other_flat_, corner_, z0_, z1_;
    End near_, far_;
};

} // namespace

std::unique_ptr<ZoneSkin> prism_zone_skin(const ResolvedZone& zone, std::size_t index) {
    return std::make_unique<PrismZone>(zone, index);
}

} // namespace whorl::solid
