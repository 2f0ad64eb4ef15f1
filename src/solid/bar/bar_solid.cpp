// A rack's kernel solid: every surface and curve is one the kernel has, so nothing is approximated but the
// images of slanting ellipses in their cylinders.
#include "solid/bar/bar_body.hpp"
#include "solid/kernel/bent_spline.hpp"
#include "solid/kernel/brep.hpp"
#include "solid/kernel/kernel_spline.hpp"

#include <Geom2d_Line.hxx>
#include <Geom_Circle.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Ellipse.hxx>
#include <Geom_Line.hxx>
#include <Geom_Plane.hxx>

#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

constexpr double quarter = std::numbers::pi / 2;
constexpr double tolerance = 2e-7; // mm; corners are exact to rounding

gp_Pnt pnt(const Point& p) {
    return {p.x, p.y, p.z};
}
gp_Dir dir(const Point& p) {
    return {p.x, p.y, p.z};
}
std::size_t index(int i) {
    return static_cast<std::size_t>(i);
}

class BarBuilder {
public:
    BarBuilder(const BarBody& body, const Mesh& mesh) : body_(body), mesh_(mesh), brep_(tolerance, &mesh) {}

    Solid solid() {
        for (const Point& p : body_.corners)
            brep_.add_vertex(p);
        for (const BarEdge& e : body_.edges)
            add_edge(e);
        const auto of_face = triangles_by_face(mesh_, body_.faces.size());
        for (std::size_t f = 0; f < body_.faces.size(); ++f)
            add_face(body_.faces[f], of_face[f]);
        return brep_.solid();
    }

private:
    // Which part of its curve an edge is.
    struct Range {
        double first = 0, last = 0;
    };

    // An ellipse counts its parameter from its long axis, which lies a quarter turn on from φ = 0.
    void add_edge(const BarEdge& e) {
        Range m;
        Handle(Geom_Curve) curve;
        bool swapped = false;
        if (!e.bowed) {
            const gp_Pnt a = pnt(body_.corners[index(e.from)]), to = pnt(body_.corners[index(e.to)]);
            m.last = a.Distance(to);
            curve = new Geom_Line(a, gp_Dir(gp_Vec(a, to)));
        } else {
            swapped = e.phi_from > e.phi_to;
            m.first = std::min(e.phi_from, e.phi_to) - quarter;
            m.last = std::max(e.phi_from, e.phi_to) - quarter;
            const gp_Vec u(e.u.x, e.u.y, e.u.z), v(e.v.x, e.v.y, e.v.z);
            const gp_Ax2 axes(pnt(e.centre), gp_Dir(v ^ -u), gp_Dir(v));
            const double small = u.Magnitude(), large = v.Magnitude();
            if (large - small < 1e-12 * large)
                curve = new Geom_Circle(axes, small);
            else
                curve = new Geom_Ellipse(axes, large, small);
        }
        brep_.add_edge(curve, m.first, m.last, e.from, e.to, swapped);
        ranges_.push_back(m);
    }

    // The image of an edge in a cylinder whose parameter u is the ellipse's own.
    Handle(Geom2d_Curve) image(const BarFace& f, const BarEdge& e, const Range& m) const {
        const gp_Vec axis(f.normal.x, f.normal.y, f.normal.z);
        const auto along = [&](const Point& p) { return gp_Vec(pnt(f.origin), pnt(p)).Dot(axis); };
        if (!e.bowed) { // a ruling
            const Point &a = body_.corners[index(e.from)], &b = body_.corners[index(e.to)];
            const gp_Vec to(pnt(f.origin), pnt(a));
            const gp_Dir x = dir(f.across), y = gp_Dir(axis) ^ x;
            double u = std::atan2(to.Dot(gp_Vec(y)), to.Dot(gp_Vec(x)));
            // roots lie about ±π; the face's own range says which
            const double middle = middle_of(f);
            u += 2 * std::numbers::pi * std::round((middle - u) / (2 * std::numbers::pi));
            return new Geom2d_Line(gp_Pnt2d(u - quarter, along(a)),
                                   gp_Dir2d(0, along(b) > along(a) ? 1 : -1));
        }
        const double v0 = along(e.centre), vc = gp_Vec(e.v.x, e.v.y, e.v.z).Dot(axis);
        if (std::abs(vc) < 1e-12) return new Geom2d_Line(gp_Pnt2d(0, v0), gp_Dir2d(1, 0));
        const auto jet = [&](double t) {
            JetPoint j;
            j.x = variable(t);
            j.y = constant(v0) + vc * cosine(t);
            return j;
        };
        return kernel_image(fitted_spline(jet, m.first, m.last, fitted_spans(jet, m.first, m.last)));
    }
    double middle_of(const BarFace& f) const {
        for (const EdgeUse& u : f.loop)
            if (const BarEdge& e = body_.edges[index(u.edge)]; e.bowed) return (e.phi_from + e.phi_to) / 2;
        return 0;
    }

    void add_face(const BarFace& f, const std::vector<std::uint32_t>& triangles) {
        Handle(Geom_Surface) surface;
        if (f.round) { // u counts from where the ellipses do
            const gp_Dir axis = dir(f.normal);
            surface =
                new Geom_CylindricalSurface(gp_Ax3(pnt(f.origin), axis, axis ^ dir(f.across)), f.radius);
        } else {
            surface = new Geom_Plane(pnt(f.origin), dir(f.normal));
        }
        const TopoDS_Face face =
            brep_.add_face(surface, only(f.loop), f.inward, [&](const EdgeUse& use) -> Handle(Geom2d_Curve) {
                if (!f.round) return {};
                return image(f, body_.edges[index(use.edge)], ranges_[index(use.edge)]);
            });
        // of the longest step of a rounding's edges
        double deflection = 1e-3;
        for (const EdgeUse& u : f.loop)
            if (const BarEdge& e = body_.edges[index(u.edge)]; e.bowed) {
                const double parts = static_cast<double>(mesh_.edge_points[index(u.edge)].size() - 1);
                const double long_axis = std::sqrt(e.v.x * e.v.x + e.v.y * e.v.y + e.v.z * e.v.z);
                deflection = std::max(
                    deflection, 2 * long_axis * (1 - std::cos(std::abs(e.phi_to - e.phi_from) / parts)));
            }
        brep_.attach(face, only(f.loop), f.inward, triangles, {deflection});
    }

    const BarBody& body_;
    const Mesh& mesh_;
    BrepMaker brep_;
    std::vector<Range> ranges_;
};

} // namespace

Solid make_solid(const BarBody& body, const Mesh& mesh) {
    return made_by([&] { return BarBuilder(body, mesh).solid(); });
}

} // namespace whorl::solid
