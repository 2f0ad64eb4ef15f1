#include "solid/skin/chart.hpp"

#include "quantity/numeric.hpp"
#include "solid/kernel/bent_spline.hpp"
#include "solid/kernel/kernel_spline.hpp"
#include "solid/skin/bent_place.hpp"
#include "solid/skin/scoop_surface.hpp"
#include "solid/skin/shaped_surface.hpp"
#include "solid/skin/wall_surface.hpp"

#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Plane.hxx>
#include <Geom_SphericalSurface.hxx>
#include <Geom_ToroidalSurface.hxx>

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

Chart tooth_chart(const Skin& skin, const Face& f, ToothSurfaces& teeth) {
    Chart c;
    if (f.tooth.curve->shape == CurveShape::circle) {
        c.kind = Chart::cylinder;
        c.surface = new Geom_CylindricalSurface(gp_Ax3(gp::XOY()), f.tooth.curve->radius);
        return c;
    }
    c.kind = Chart::tooth;
    c.face = &f;
    double z0 = 1e300, z1 = -1e300;
    for (const EdgeUse& u : f.loops.front()) {
        const double z = start_of(skin, u).z;
        z0 = std::min(z0, z);
        z1 = std::max(z1, z);
    }
    c.z0 = z0;
    c.surface = teeth.surface(f.tooth, z0, z1);
    return c;
}

// A helicoid between its two rails.
Chart ruled_chart(const Skin& skin, const Face& f) {
    Chart c;
    c.kind = Chart::ruled;
    c.slope = f.rail_slope;
    double t0 = 1e300, t1 = -1e300;
    c.v0 = 1e300;
    c.v1 = -1e300;
    for (const EdgeUse& u : f.loops.front()) {
        const UnrolledPoint p = start_of(skin, u);
        const double v = p.z - c.slope * p.theta;
        t0 = std::min(t0, p.theta);
        t1 = std::max(t1, p.theta);
        c.v0 = std::min(c.v0, v);
        c.v1 = std::max(c.v1, v);
    }
    const auto rail = [&](double v, double t) {
        const double z = v + c.slope * t;
        return UnrolledPoint{t, f.a + f.b * z + f.c * t, z};
    };
    const int spans =
        std::max(screw_spans(rail(c.v0, t0), rail(c.v0, t1)), screw_spans(rail(c.v1, t0), rail(c.v1, t1)));
    const ScrewSpline low = screw_spline(rail(c.v0, t0), rail(c.v0, t1), spans),
                      high = screw_spline(rail(c.v1, t0), rail(c.v1, t1), spans);
    std::vector<Point> poles;
    for (std::size_t i = 0; i < low.poles.size(); ++i) {
        poles.push_back(low.poles[i]);
        poles.push_back(high.poles[i]);
    }
    const ScrewSpline across{{{}, {}}, {0, 1}, {2, 2}};
    c.surface = kernel_surface(poles, low, across, 1);
    return c;
}

// An arc swept along the rails: in θ a screw spline, across a fitted spline of the arc.
Chart arc_chart(const Skin& skin, const Face& f) {
    Chart c;
    c.kind = Chart::arc;
    c.face = &f;
    if (f.a == 0 && f.b == 0 && f.c == 0 && f.rail_slope == 0 && f.arc_to < f.arc_from) {
        c.quarter = pi / 2;
        c.surface =
            new Geom_SphericalSurface(gp_Ax3(gp_Pnt(0, 0, f.arc_z), gp::DZ(), gp::DX()), f.arc_radius);
        return c;
    }
    if (f.a > f.arc_radius + 1e-6 && f.b == 0 && f.c == 0 && f.rail_slope == 0) {
        // within the surface's own turn
        const double quarter = pi / 2, largest = std::max(f.arc_from, f.arc_to);
        c.quarter = largest > quarter + 1e-9 ? quarter + full_turn : quarter;
        c.against = f.arc_to > f.arc_from;
        c.surface =
            new Geom_ToroidalSurface(gp_Ax3(gp_Pnt(0, 0, f.arc_z), gp::DZ(), gp::DX()), f.a, f.arc_radius);
        return c;
    }
    double t0 = 1e300, t1 = -1e300;
    for (const EdgeUse& u : f.loops.front()) {
        const Edge& e = skin.edges[static_cast<std::size_t>(u.edge)];
        std::vector<double> reached{start_of(skin, u).theta};
        if (e.shape == EdgeShape::bow)
            for (const double phi : bow_turns(e.bow))
                reached.push_back(point_at(e.bow, phi).theta + u.turn * full_turn);
        for (const double t : reached) {
            t0 = std::min(t0, t);
            t1 = std::max(t1, t);
        }
    }
    // r = g(φ) + κ·θ and z = ζ(φ) + slope·θ
    const double kappa = f.b * f.rail_slope + f.c, turn = f.arc_to > f.arc_from ? 1 : -1;
    const auto profile = [&](double v) {
        Jet co = cosine(turn * v), si = sine(turn * v), zeta, g;
        for (std::size_t k = 0; k < 4; ++k) {
            const double chain = k % 2 == 1 ? turn : 1; // derivatives by v instead of φ
            zeta.c[k] = (k == 0 ? f.arc_z : 0) + f.arc_radius * co.c[k] * chain;
            g.c[k] = (k == 0 ? f.a + f.b * zeta.c[0] : f.b * zeta.c[k]) + f.arc_radius * si.c[k] * chain;
        }
        return JetPoint{g, zeta, {}};
    };
    const double v0 = std::min(c.arc_v(f.arc_from), c.arc_v(f.arc_to)),
                 v1 = std::max(c.arc_v(f.arc_from), c.arc_v(f.arc_to));
    const ScrewSpline across = fitted_spline(profile, v0, v1, fitted_spans(profile, v0, v1));
    double largest = 0;
    for (const auto& p : across.poles)
        largest = std::max(largest, p.x + std::max(kappa * t0, kappa * t1));
    const int spans = screw_spans(t1 - t0, largest, kappa);
    const ScrewSpline unit = screw_spline({t0, 1, 0}, {t1, 1, 0}, spans),
                      drift = screw_spline({t0, kappa * t0, f.rail_slope * t0},
                                           {t1, kappa * t1, f.rail_slope * t1}, spans);
    std::vector<Point> poles;
    for (std::size_t i = 0; i < unit.poles.size(); ++i)
        for (const Point& p : across.poles)
            poles.push_back({p.x * unit.poles[i].x + drift.poles[i].x,
                             p.x * unit.poles[i].y + drift.poles[i].y, p.y + drift.poles[i].z});
    c.surface = kernel_surface(poles, unit, across, spline_degree);
    return c;
}

} // namespace

gp_Pnt2d Chart::operator()(const UnrolledPoint& p) const {
    switch (kind) {
    case torus:
        return {torus_u(*bend, p.z), torus_v(*bend, p.theta) + v0};
    case hole: {
        const double middle = (face->arc_from + face->arc_to) / 2;
        return {middle + std::remainder(around_hole(*face->hole, p) - middle, full_turn),
                along_hole(*face->hole, p)};
    }
    case cylinder:
    case turned:
        return {p.theta, p.z};
    case scoop: {
        const Scoop& s = *face->scoop;
        const ScoopPlace at = place_on(s, {p.theta, face->tooth.sign * p.r, p.z});
        return {at.alpha, (at.v - s.from) / (s.to - s.from)};
    }
    case fluted:
        return {p.z, p.theta - face->patch->turned(p.z)};
    case cone:
        return {p.theta, (p.z - z0) * stretch};
    case flipped_cone:
        return {-p.theta, -(p.z - z0) * stretch};
    case tooth: {
        // rails lie at either end of the curve
        const TransverseCurve& curve = *face->tooth.curve;
        if (curve.by_angle) {
            const double t = parameter_at(face->tooth, p);
            return {t - curve.from < curve.to - t ? curve.from : curve.to, tooth_v(p.z)};
        }
        const double a = whorl::point_at(curve, curve.from).radius(),
                     b = whorl::point_at(curve, curve.to).radius();
        return {std::abs(p.r - a) < std::abs(p.r - b) ? curve.from : curve.to, tooth_v(p.z)};
    }
    case arc: {
        // rails lie at either end of the arc
        const double zeta = p.z - face->rail_slope * p.theta;
        const double a = face->arc_z + face->arc_radius * std::cos(face->arc_from),
                     b = face->arc_z + face->arc_radius * std::cos(face->arc_to);
        return {p.theta, arc_v(std::abs(zeta - a) < std::abs(zeta - b) ? face->arc_from : face->arc_to)};
    }
    default:
        return {p.theta, (p.z - slope * p.theta - v0) / (v1 - v0)};
    }
}

Chart chart_of(const Skin& skin, const Face& f, ToothSurfaces& teeth) {
    Chart c;
    if (f.kind == FaceKind::toothed) return tooth_chart(skin, f, teeth);
    if (f.kind == FaceKind::wall) {
        c.kind = Chart::wall;
        c.face = &f;
        c.surface = wall_surface(*f.wall);
        return c;
    }
    if (f.kind == FaceKind::shaped) {
        c.kind = f.patch->is_turned() ? Chart::turned : Chart::fluted;
        c.face = &f;
        c.surface = shaped_surface(*f.patch);
        c.against = c.kind == Chart::fluted; // along z × around looks to the axis
        return c;
    }
    if (f.kind == FaceKind::scoop) {
        c.kind = Chart::scoop;
        c.face = &f;
        c.surface = scoop_surface(*f.scoop, f.tooth.sign);
        c.against = f.scoop->unroll < 0; // the natural normal, along α × v, looks to the axis
        return c;
    }
    if (f.kind == FaceKind::hole) {
        c.kind = Chart::hole;
        c.face = &f;
        const double co = std::cos(f.hole->towards), si = std::sin(f.hole->towards);
        c.surface = new Geom_CylindricalSurface(
            gp_Ax3(gp_Pnt(0, 0, f.hole->z), gp_Dir(co, si, 0), gp_Dir(-si, co, 0)), f.hole->radius);
        return c;
    }
    if (f.bend >= 0) {
        c.kind = Chart::torus;
        c.bend = &skin.way.parts()[static_cast<std::size_t>(f.bend)];
        c.surface = torus_of(*c.bend, f.a);
        double lowest = 1e300; // the face begins within the surface's own turn
        for (const EdgeUse& u : f.loops.front())
            lowest = std::min(lowest, torus_v(*c.bend, start_of(skin, u).theta));
        c.v0 = -full_turn * std::floor((lowest + 1e-9) / full_turn);
        return c;
    }
    if (f.kind == FaceKind::flat) {
        c.surface =
            new Geom_Plane(gp_Ax3(gp_Pnt(0, 0, f.a), f.up ? gp::DZ() : gp::DZ().Reversed(), gp::DX()));
        return c;
    }
    if (f.kind == FaceKind::side) {
        const gp_Dir n(std::cos(f.side_theta), std::sin(f.side_theta), 0);
        c.surface = new Geom_Plane(gp_Ax3(gp_Pnt(f.a * n.X(), f.a * n.Y(), 0), n, gp::DZ()));
        return c;
    }
    if (f.kind == FaceKind::curved) return arc_chart(skin, f);
    if (f.c == 0 && f.b == 0) {
        c.kind = Chart::cylinder;
        c.surface = new Geom_CylindricalSurface(gp_Ax3(gp::XOY()), f.a);
        return c;
    }
    if (f.c == 0) {
        // referred to a circle on the face, where the radius is positive
        const UnrolledPoint p = start_of(skin, f.loops.front().front());
        c.z0 = p.z;
        const double angle = std::atan(std::abs(f.b));
        c.stretch = 1 / std::cos(angle);
        const double r = f.a + f.b * p.z;
        if (f.b > 0) {
            c.kind = Chart::cone;
            c.surface = new Geom_ConicalSurface(gp_Ax3(gp_Pnt(0, 0, p.z), gp::DZ(), gp::DX()), angle, r);
        } else {
            c.kind = Chart::flipped_cone;
            c.surface =
                new Geom_ConicalSurface(gp_Ax3(gp_Pnt(0, 0, p.z), gp::DZ().Reversed(), gp::DX()), angle, r);
        }
        return c;
    }
    return ruled_chart(skin, f);
}

} // namespace whorl::solid
