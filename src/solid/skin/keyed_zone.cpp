// A round bore with a keyway along it, perhaps with a countersink at either end.
//
// Radii are taken negative, as everywhere in a bore. Around the axis, counted from the keyway's middle, the
// bore has four faces: the cylinder of radius R from φ₀ to 2π − φ₀ with sin φ₀ = w/2R, the keyway's sides
// y = ±w/2 and its bottom x = T. A countersink is a cone; it takes the mouth off cylinder and sides, and must
// leave the bottom alone, so T must be larger than its radius.
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/skin/zone_skin.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

using Loop = std::vector<EdgeUse>;

void append(Loop& to, const Loop& more, int turn = 0) {
    for (EdgeUse u : more) {
        u.turn += turn;
        to.push_back(u);
    }
}

struct End {
    int side = 1;
    double z = 0;
    double cone = 0;  // radius of the countersink at the end plane; 0: none
    double slope = 0; // dr/dz of the cone, r negative
};

// What one end of the zone leaves: corners on the keyway's four edges, and the edges between them, each in
// rising θ and in the chart around the keyway's middle; `arc` runs on to the next turn.
struct Boundary {
    int corner[4]; // at −φ₀, −φ₁, φ₁, φ₀
    Loop lower, bottom, upper, arc;
};

class KeyedZone final : public ZoneSkin {
public:
    KeyedZone(const ResolvedZone& zone, std::size_t index)
        : index_(static_cast<int>(index)), radius_(in_mm(zone.diameter) / 2),
          half_(in_mm(zone.keyway()->width) / 2), depth_(radius_ + in_mm(zone.keyway()->depth)),
          corner_(std::hypot(depth_, half_)), at_(zone.keyway()->at), z0_(in_mm(zone.start)),
          z1_(in_mm(zone.end())), phi_{-std::asin(half_ / radius_), -std::atan2(half_, depth_),
                                       std::atan2(half_, depth_), std::asin(half_ / radius_)},
          near_(end_of(zone.near_end, -1, z0_)), far_(end_of(zone.far_end, 1, z1_)) {
        if (cone_length(near_) + cone_length(far_) > z1_ - z0_ - 1e-6)
            throw CannotMake(
                "The countersinks of this bore leave nothing of it; make it longer or them smaller.", index);
    }

    Rim near_rim() const override { return rim(near_); }
    Rim far_rim() const override { return rim(far_); }

    void add_faces(Skin& skin, const RimEdges& near_edges, const RimEdges& far_edges) const override {
        const Boundary near = boundary(skin, near_, near_edges), far = boundary(skin, far_, far_edges);
        int rail[4];
        for (int k = 0; k < 4; ++k)
            rail[k] = add_straight(skin, near.corner[k], theta(k), far.corner[k], theta(k));
        const auto face = [&](FaceKind kind, double a, double side_theta, const Loop& low, const Loop& high,
                              int first, int last, int turn) {
            Face f;
            f.kind = kind;
            f.role = kind == FaceKind::side ? FaceRole::step : FaceRole::plain;
            f.zone = index_;
            f.a = a;
            f.side_theta = side_theta;
            Loop loop = low;
            loop.push_back({rail[last], true, turn});
            append(loop, reversed(high));
            loop.push_back({rail[first], false, 0});
            f.loops = {std::move(loop)};
            skin.faces.push_back(std::move(f));
        };
        face(FaceKind::side, -half_, at_ - full_turn / 4, near.lower, far.lower, 0, 1, 0);
        face(FaceKind::side, -depth_, at_, near.bottom, far.bottom, 1, 2, 0);
        face(FaceKind::side, -half_, at_ + full_turn / 4, near.upper, far.upper, 2, 3, 0);
        face(FaceKind::round, -radius_, 0, near.arc, far.arc, 3, 0, 1);
        add_cone(skin, near_, near_edges, near);
        add_cone(skin, far_, far_edges, far);
    }

private:
    double theta(int k) const { return at_ + phi_[k]; }
    double cone_phi(const End& e) const { return std::asin(half_ / e.cone); }
    double cone_length(const End& e) const {
        return e.cone == 0 ? 0 : std::abs((e.cone - radius_) / e.slope);
    }
    double cylinder_z(const End& e) const { return e.z - e.side * cone_length(e); }

    End end_of(const ResolvedEnd& asked, int side, double z) const {
        End e;
        e.side = side;
        e.z = z;
        if (asked.kind != EndKind::chamfer) return e;
        const double r = in_mm(asked.diameter) / 2;
        const auto zone = static_cast<std::size_t>(index_);
        if (r < radius_ - 1e-4)
            throw CannotMake("A bore with a keyway goes through or ends flat; it has no drill's point.",
                             zone);
        if (r < radius_ + 1e-4) return e;
        if (r > depth_ - 1e-3)
            throw CannotMake("The countersink of Ø " + number_text(2 * r, 3) +
                                 " mm reaches the keyway's bottom; make it smaller than Ø " +
                                 number_text(2 * depth_, 3) + " mm.",
                             zone);
        e.cone = r;
        e.slope = -side * std::tan(in_rad(asked.angle)); // of −r
        return e;
    }

    FlatTrace on_plane(int face, const End& e, bool cone) const { // face 0 and 2: the sides, 1: the bottom
        FlatTrace t{face == 1 ? -depth_ : -half_, at_ + (face - 1) * full_turn / 4, e.z, 0};
        if (cone) {
            t.slope = 1 / e.slope;
            t.z0 = e.z + e.cone / e.slope;
        }
        return t;
    }

    Rim rim(const End& e) const {
        const double outer = e.cone > 0 ? cone_phi(e) : phi_[3], r = e.cone > 0 ? e.cone : radius_;
        const auto flat_from = [&](double phi, double height, int face) {
            RimPoint p{at_ + phi, -height};
            p.shape = EdgeShape::flat_trace;
            p.trace = on_plane(face, e, false);
            return p;
        };
        return sorted_rim({flat_from(-outer, r, 0), flat_from(phi_[1], corner_, 1),
                           flat_from(phi_[2], corner_, 2), RimPoint{at_ + outer, -r}});
    }

    int on_cone(Skin& skin, const End& e, int face, int from, double theta0, int to, double theta1) const {
        const int made = add_straight(skin, from, theta0, to, theta1);
        skin.edges.back().shape = EdgeShape::flat_trace;
        skin.edges.back().trace = on_plane(face, e, true);
        return made;
    }

    Boundary boundary(Skin& skin, const End& e, const RimEdges& rim_edges) const {
        Boundary b;
        b.corner[1] = rim_edges.corner_at(theta(1));
        b.corner[2] = rim_edges.corner_at(theta(2));
        b.bottom = rim_edges.path(theta(1), theta(2));
        if (e.cone == 0) {
            b.corner[0] = rim_edges.corner_at(theta(0));
            b.corner[3] = rim_edges.corner_at(theta(3));
            b.lower = rim_edges.path(theta(0), theta(1));
            b.upper = rim_edges.path(theta(2), theta(3));
            b.arc = rim_edges.path(theta(3), theta(0) + full_turn);
            return b;
        }
        const double before = at_ - cone_phi(e), after = at_ + cone_phi(e);
        for (const int k : {0, 3}) {
            skin.corners.push_back({theta(k), -radius_, cylinder_z(e)});
            b.corner[k] = static_cast<int>(skin.corners.size()) - 1;
        }
        b.lower = {
            {on_cone(skin, e, 0, b.corner[0], theta(0), rim_edges.corner_at(before), before), true, 0}};
        append(b.lower, rim_edges.path(before, theta(1)));
        b.upper = rim_edges.path(theta(2), after);
        b.upper.push_back(
            {on_cone(skin, e, 2, rim_edges.corner_at(after), after, b.corner[3], theta(3)), true, 0});
        b.arc = {{add_straight(skin, b.corner[3], theta(3), b.corner[0], theta(0) + full_turn), true, 0}};
        return b;
    }

    void add_cone(Skin& skin, const End& e, const RimEdges& rim_edges, const Boundary& b) const {
        if (e.cone == 0) return;
        const double before = at_ - cone_phi(e), after = at_ + cone_phi(e);
        // for the far end: along the cylinder's arc, over the lower side's trace, and back along the rim
        Loop loop = b.arc;
        EdgeUse lower = b.lower.front(), upper = b.upper.back();
        lower.turn += 1;
        loop.push_back(lower);
        append(loop, rim_edges.path(before + full_turn, after));
        loop.push_back(upper);
        Face f;
        f.role = FaceRole::chamfer;
        f.zone = index_;
        f.b = e.slope;
        f.a = -e.cone - e.slope * e.z;
        if (e.side < 0) loop = reversed(std::move(loop));
        f.loops = {std::move(loop)};
        skin.faces.push_back(std::move(f));
    }

    int index_;
    double radius_, half_, depth_, corner_, at_, z0_, z1_;
    double phi_[4]; // −φ₀, −φ₁, φ₁, φ₀
    End near_, far_;
};

} // namespace

std::unique_ptr<ZoneSkin> keyed_zone_skin(const ResolvedZone& zone, std::size_t index) {
    return std::make_unique<KeyedZone>(zone, index);
}

} // namespace whorl::solid
