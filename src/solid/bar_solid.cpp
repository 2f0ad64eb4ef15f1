// A rack's kernel solid: every surface and curve is one the kernel has, so nothing is approximated but the
// images of slanting ellipses in their cylinders.
#include "solid/bar_body.hpp"
#include "solid/bent_spline.hpp"
#include "solid/kernel_shape.hpp"

#include <BRep_Builder.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <Geom2d_Line.hxx>
#include <Geom_Circle.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Ellipse.hxx>
#include <Geom_Line.hxx>
#include <Geom_Plane.hxx>
#include <Poly_PolygonOnTriangulation.hxx>
#include <Poly_Triangulation.hxx>
#include <Standard_Failure.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>

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
    BarBuilder(const BarBody& body, const Mesh& mesh)
        : body_(body), mesh_(mesh), local_(mesh.points.size(), 0) {}

    TopoDS_Solid solid() {
        for (const Point& p : body_.corners) {
            vertices_.emplace_back();
            brep_.MakeVertex(vertices_.back(), pnt(p), 2 * tolerance);
        }
        for (const BarEdge& e : body_.edges)
            edges_.push_back(make_edge(e));
        std::vector<std::vector<std::uint32_t>> of_face(body_.faces.size());
        for (std::uint32_t i = 0; i < mesh_.triangles.size(); ++i)
            of_face[mesh_.face[i]].push_back(i);
        TopoDS_Shell shell;
        brep_.MakeShell(shell);
        for (std::size_t f = 0; f < body_.faces.size(); ++f) {
            const TopoDS_Face face = make_face(body_.faces[f]);
            attach(face, body_.faces[f], of_face[f]);
            brep_.Add(shell, face);
        }
        shell.Closed(true);
        TopoDS_Solid solid;
        brep_.MakeSolid(solid);
        brep_.Add(solid, shell);
        return solid;
    }

private:
    struct MadeEdge {
        TopoDS_Edge edge;
        bool swapped = false; // runs against the body's direction, in rising φ
        double first = 0, last = 0;
    };

    // An ellipse counts its parameter from its long axis, which lies a quarter turn on from φ = 0.
    MadeEdge make_edge(const BarEdge& e) {
        MadeEdge m;
        Handle(Geom_Curve) curve;
        if (!e.bowed) {
            const gp_Pnt a = pnt(body_.corners[index(e.from)]), b = pnt(body_.corners[index(e.to)]);
            m.last = a.Distance(b);
            curve = new Geom_Line(a, gp_Dir(gp_Vec(a, b)));
        } else {
            m.swapped = e.phi_from > e.phi_to;
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
        brep_.MakeEdge(m.edge, curve, tolerance);
        brep_.Add(m.edge, vertices_[index(m.swapped ? e.to : e.from)].Oriented(TopAbs_FORWARD));
        brep_.Add(m.edge, vertices_[index(m.swapped ? e.from : e.to)].Oriented(TopAbs_REVERSED));
        brep_.Range(m.edge, m.first, m.last);
        return m;
    }

    // The image of an edge in a cylinder whose parameter u is the ellipse's own.
    Handle(Geom2d_Curve) image(const BarFace& f, const BarEdge& e, const MadeEdge& m) const {
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
        const ScrewSpline s = fitted_spline(jet, m.first, m.last, fitted_spans(jet, m.first, m.last));
        TColgp_Array1OfPnt2d poles(1, static_cast<int>(s.poles.size()));
        TColStd_Array1OfReal knots(1, static_cast<int>(s.knots.size()));
        TColStd_Array1OfInteger counts(1, static_cast<int>(s.knots.size()));
        for (std::size_t k = 0; k < s.poles.size(); ++k)
            poles(static_cast<int>(k) + 1) = gp_Pnt2d(s.poles[k].x, s.poles[k].y);
        for (std::size_t k = 0; k < s.knots.size(); ++k) {
            knots(static_cast<int>(k) + 1) = s.knots[k];
            counts(static_cast<int>(k) + 1) = s.multiplicity[k];
        }
        return new Geom2d_BSplineCurve(poles, knots, counts, spline_degree);
    }
    double middle_of(const BarFace& f) const {
        for (const EdgeUse& u : f.loop)
            if (const BarEdge& e = body_.edges[index(u.edge)]; e.bowed) return (e.phi_from + e.phi_to) / 2;
        return 0;
    }

    TopoDS_Face make_face(const BarFace& f) {
        Handle(Geom_Surface) surface;
        if (f.round) { // u counts from where the ellipses do
            const gp_Dir axis = dir(f.normal);
            surface =
                new Geom_CylindricalSurface(gp_Ax3(pnt(f.origin), axis, axis ^ dir(f.across)), f.radius);
        } else {
            surface = new Geom_Plane(pnt(f.origin), dir(f.normal));
        }
        TopoDS_Face face;
        brep_.MakeFace(face, surface, tolerance);
        TopoDS_Wire wire;
        brep_.MakeWire(wire);
        for (std::size_t at = 0; at < f.loop.size(); ++at) {
            // a face that looks at its axis is made as it is seen from inside and turned over as a whole
            EdgeUse use = f.loop[f.inward ? f.loop.size() - 1 - at : at];
            if (f.inward) use.forward = !use.forward;
            MadeEdge& m = edges_[index(use.edge)];
            if (f.round) brep_.UpdateEdge(m.edge, image(f, body_.edges[index(use.edge)], m), face, tolerance);
            brep_.Add(wire, m.edge.Oriented(use.forward != m.swapped ? TopAbs_FORWARD : TopAbs_REVERSED));
        }
        wire.Closed(true);
        brep_.Add(face, wire);
        if (f.inward) face.Reverse();
        return face;
    }

    void attach(const TopoDS_Face& face, const BarFace& f, const std::vector<std::uint32_t>& triangles) {
        std::vector<std::uint32_t> nodes;
        for (const auto t : triangles)
            for (const auto p : mesh_.triangles[t])
                if (local_[p] == 0) {
                    nodes.push_back(p);
                    local_[p] = static_cast<int>(nodes.size());
                }
        Handle(Poly_Triangulation) poly =
            new Poly_Triangulation(static_cast<int>(nodes.size()), static_cast<int>(triangles.size()), false);
        for (std::size_t i = 0; i < nodes.size(); ++i)
            poly->SetNode(static_cast<int>(i) + 1, pnt(mesh_.points[nodes[i]]));
        for (std::size_t i = 0; i < triangles.size(); ++i) {
            const auto& t = mesh_.triangles[triangles[i]];
            poly->SetTriangle(
                static_cast<int>(i) + 1,
                Poly_Triangle(local_[t[0]], local_[t[f.inward ? 2 : 1]], local_[t[f.inward ? 1 : 2]]));
        }
        // of the longest step of a rounding's edges
        double deflection = 1e-3;
        for (const EdgeUse& u : f.loop)
            if (const BarEdge& e = body_.edges[index(u.edge)]; e.bowed) {
                const double parts = static_cast<double>(mesh_.edge_points[index(u.edge)].size() - 1);
                const double long_axis = std::sqrt(e.v.x * e.v.x + e.v.y * e.v.y + e.v.z * e.v.z);
                deflection = std::max(
                    deflection, 2 * long_axis * (1 - std::cos(std::abs(e.phi_to - e.phi_from) / parts)));
            }
        poly->Deflection(deflection);
        brep_.UpdateFace(face, poly);
        for (const EdgeUse& u : f.loop) {
            const auto& ids = mesh_.edge_points[index(u.edge)];
            const MadeEdge& m = edges_[index(u.edge)];
            TColStd_Array1OfInteger on(1, static_cast<int>(ids.size()));
            for (std::size_t i = 0; i < ids.size(); ++i)
                on(static_cast<int>(i) + 1) = local_[ids[m.swapped ? ids.size() - 1 - i : i]];
            Handle(Poly_PolygonOnTriangulation) polygon = new Poly_PolygonOnTriangulation(on);
            polygon->Deflection(deflection);
            brep_.UpdateEdge(m.edge, polygon, poly, TopLoc_Location());
        }
        for (const auto p : nodes)
            local_[p] = 0;
    }

    const BarBody& body_;
    const Mesh& mesh_;
    std::vector<int> local_;
    BRep_Builder brep_;
    std::vector<TopoDS_Vertex> vertices_;
    std::vector<MadeEdge> edges_;
};

} // namespace

Solid make_solid(const BarBody& body, const Mesh& mesh) {
    try {
        auto shape = std::make_shared<KernelShape>();
        shape->solid = BarBuilder(body, mesh).solid();
        return Solid(std::move(shape));
    } catch (const Standard_Failure& e) {
        throw std::logic_error(std::string("The kernel refused a curve or surface: ") + e.GetMessageString());
    }
}

} // namespace whorl::solid
