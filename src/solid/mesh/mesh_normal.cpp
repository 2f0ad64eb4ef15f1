// Outward normals of a skin's faces at the points of their mesh.
#include "solid/mesh/mesh.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

// The outward normal of an outline, along the radius and around the axis, at its parameter t.
std::pair<double, double> outline_normal(const TransverseCurve& c, double t) {
    if (c.shape == CurveShape::circle) return {1, 0};
    const double h = 1e-4 * (c.to - c.from);
    const TransversePoint p = whorl::point_at(c, t), a = whorl::point_at(c, std::max(c.from, t - h)),
                          b = whorl::point_at(c, std::min(c.to, t + h));
    const double co = std::cos(p.angle()), si = std::sin(p.angle());
    const double along = (b.x - a.x) * co + (b.y - a.y) * si, across = (b.y - a.y) * co - (b.x - a.x) * si;
    const double length = std::hypot(along, across);
    return {across / length, -along / length};
}

} // namespace

Point NormalReader::operator()(const Face& f, const UnrolledPoint& p) {
    if (f.kind != FaceKind::toothed) return normal_at(f, p);
    const TransverseCurve& curve = *f.tooth.curve;
    const auto at = [&] { return parameter_at(f.tooth, p); };
    std::pair<double, double> normal;
    if (curve.by_angle) { // no other tooth shares it
        normal = outline_normal(curve, at());
    } else {
        auto known = known_.find(std::pair(&curve, p.r));
        if (known == known_.end())
            known = known_.emplace(std::pair(&curve, p.r), outline_normal(curve, at())).first;
        normal = known->second;
    }
    const double radial = normal.first, around = f.tooth.mirrored ? -normal.second : normal.second;
    const double along = -around * p.r * f.tooth.twist; // it leans with the helix
    const double whole = (f.inward ? -1 : 1) * std::sqrt(1 + along * along);
    const double c = std::cos(p.theta), s = std::sin(p.theta);
    return {(radial * c - around * s) / whole, (radial * s + around * c) / whole, along / whole};
}

Point normal_at(const Face& f, const UnrolledPoint& p) {
    if (f.kind == FaceKind::flat) return {0, 0, f.up ? 1.0 : -1.0};
    const double sign = f.inward ? -1 : 1;
    if (f.kind == FaceKind::toothed) return NormalReader()(f, p);
    if (f.kind == FaceKind::wall) { // ∂/∂t × ∂/∂r
        const double middle = f.wall->point((f.wall->from() + f.wall->to()) / 2, p.r).theta.c[0];
        const double theta = middle + std::remainder(p.theta - middle, 2 * std::numbers::pi);
        const double t = f.wall->parameter(theta, p.r);
        const WallSlopes at = f.wall->point(t, p.r);
        const double radial = p.r * (at.theta.c[1] * at.z.c[2] - at.z.c[1] * at.theta.c[2]),
                     around = at.z.c[1], axial = -p.r * at.theta.c[1];
        const double size = (f.inward ? -1 : 1) * std::hypot(radial, around, axial);
        const double co = std::cos(p.theta), si = std::sin(p.theta);
        return {(radial * co - around * si) / size, (radial * si + around * co) / size, axial / size};
    }
    if (f.kind == FaceKind::shaped) { // gradient of r − ρ(θ − turned(z), z)
        const ShapedPatch& patch = *f.patch;
        const double phi = patch.middle() +
                           std::remainder(p.theta - patch.turned(p.z) - patch.middle(), 2 * std::numbers::pi);
        const auto s = patch.slopes(std::clamp(phi, patch.from, patch.to), p.z);
        const double around = -s.by_phi / s.radius,
                     along = -(s.by_z - patch.wall->twist((patch.z0 + patch.z1) / 2) * s.by_phi);
        const double size = sign * std::sqrt(1 + around * around + along * along);
        const double co = std::cos(p.theta), si = std::sin(p.theta);
        return {(co - around * si) / size, (si + around * co) / size, along / size};
    }
    if (f.kind == FaceKind::scoop) {
        const ScoopNormal n = normal_of(*f.scoop, {p.theta, f.tooth.sign * p.r, p.z});
        const double radial = f.tooth.sign * n.r, around = n.theta / p.r;
        const double size = std::hypot(radial, around, n.z), co = std::cos(p.theta), si = std::sin(p.theta);
        return {(radial * co - around * si) / size, (radial * si + around * co) / size, n.z / size};
    }
    if (f.kind == FaceKind::hole) {
        const double t = around_hole(*f.hole, p), across = -std::cos(t), towards = f.hole->towards;
        return {-std::sin(towards) * across, std::cos(towards) * across, -std::sin(t)};
    }
    if (f.kind == FaceKind::side) return {sign * std::cos(f.side_theta), sign * std::sin(f.side_theta), 0};
    // gradient of r − a − b·z − c·θ − arc
    double by_z = f.b, by_theta = f.c;
    if (f.kind == FaceKind::curved) {
        // the point's θ may be some turns off the face's chart
        const double lead = 2 * std::numbers::pi * f.rail_slope;
        const double x = std::remainder(p.z - f.rail_slope * p.theta - f.arc_z, lead != 0 ? lead : 1e9);
        const double height = std::sqrt(std::max(1e-24, f.arc_radius * f.arc_radius - x * x));
        const double lean = -x / (f.arc_from + f.arc_to > 0 ? height : -height); // d(arc)/dζ
        by_z += lean;
        by_theta -= lean * f.rail_slope;
    }
    const double c = std::cos(p.theta), s = std::sin(p.theta), around = p.r > 1e-9 ? -by_theta / p.r : 0;
    const double length = sign * std::sqrt(1 + around * around + by_z * by_z);
    return {(c - around * s) / length, (s + around * c) / length, -by_z / length};
}

} // namespace whorl::solid
