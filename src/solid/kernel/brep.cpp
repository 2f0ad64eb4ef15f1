#include "solid/kernel/brep.hpp"

#include "solid/kernel/kernel_shape.hpp"

#include <Geom2d_Line.hxx>
#include <Poly_PolygonOnTriangulation.hxx>
#include <Poly_Triangulation.hxx>
#include <TopoDS_Wire.hxx>
#include <gp.hxx>
#include <gp_Pnt.hxx>

#include <map>

namespace whorl::solid {

namespace {
gp_Pnt pnt(const Point& p) {
    return {p.x, p.y, p.z};
}
std::size_t index(int i) {
    return static_cast<std::size_t>(i);
}
} // namespace

BrepMaker::BrepMaker(double tolerance, const Mesh* mesh)
    : mesh_(mesh), tolerance_(tolerance), local_(mesh ? mesh->points.size() : 0, 0) {
    brep_.MakeShell(shell_);
}

int BrepMaker::add_vertex(const Point& at) {
    vertices_.emplace_back();
    brep_.MakeVertex(vertices_.back(), pnt(at), 2 * tolerance_);
    return static_cast<int>(vertices_.size()) - 1;
}

int BrepMaker::add_edge(const Handle(Geom_Curve) & curve, double first, double last, int from, int to,
                        bool swapped) {
    Made m;
    m.from = from;
    m.to = to;
    m.swapped = swapped;
    brep_.MakeEdge(m.edge, curve, tolerance_);
    brep_.Add(m.edge, vertices_[index(swapped ? to : from)].Oriented(TopAbs_FORWARD));
    brep_.Add(m.edge, vertices_[index(swapped ? from : to)].Oriented(TopAbs_REVERSED));
    brep_.Range(m.edge, first, last);
    edges_.push_back(std::move(m));
    return static_cast<int>(edges_.size()) - 1;
}

TopoDS_Face BrepMaker::add_face(const Handle(Geom_Surface) & surface, Loops loops, bool turned,
                                const std::function<Handle(Geom2d_Curve)(const EdgeUse&)>& image,
                                const std::optional<Pole>& pole) {
    TopoDS_Face face;
    brep_.MakeFace(face, surface, tolerance_);
    std::map<int, Handle(Geom2d_Curve)> images; // by edge: one met again is a seam
    for (const auto& loop : loops) {
        TopoDS_Wire wire;
        brep_.MakeWire(wire);
        for (std::size_t at = 0; at < loop.size(); ++at) {
            // a surface that looks inwards is bounded as it is seen from inside, and turned over as a whole
            EdgeUse use = loop[turned ? loop.size() - 1 - at : at];
            if (turned) use.forward = !use.forward;
            const Made& m = edges_[index(use.edge)];
            const bool forward = use.forward != m.swapped;
            if (const Handle(Geom2d_Curve) curve = image(use); !curve.IsNull()) {
                const auto [earlier, is_first] = images.try_emplace(use.edge, curve);
                if (is_first) {
                    brep_.UpdateEdge(m.edge, curve, face, tolerance_);
                } else {
                    brep_.UpdateEdge(m.edge, forward ? curve : earlier->second,
                                     forward ? earlier->second : curve, face, tolerance_);
                    brep_.Continuity(m.edge, face, face, GeomAbs_CN);
                }
            }
            brep_.Add(wire, m.edge.Oriented(forward ? TopAbs_FORWARD : TopAbs_REVERSED));
            if (pole && (use.forward ? m.to : m.from) == pole->vertex) {
                TopoDS_Edge none;
                brep_.MakeEdge(none);
                brep_.UpdateEdge(none, new Geom2d_Line(gp_Pnt2d(0, pole->v), gp::DX2d()), face, tolerance_);
                brep_.Add(none, vertices_[index(pole->vertex)].Oriented(TopAbs_FORWARD));
                brep_.Add(none, vertices_[index(pole->vertex)].Oriented(TopAbs_REVERSED));
                brep_.Range(none, face, pole->from, pole->to);
                brep_.Degenerated(none, true);
                brep_.Add(wire, none.Oriented(TopAbs_REVERSED)); // the inner side is run from high to low u
            }
        }
        wire.Closed(true);
        brep_.Add(face, wire);
    }
    if (turned) face.Reverse();
    brep_.Add(shell_, face);
    return face;
}

void BrepMaker::attach(const TopoDS_Face& face, Loops loops, bool turned,
                       const std::vector<std::uint32_t>& triangles, const Approximation& how) {
    std::vector<std::uint32_t> nodes;
    for (const auto t : triangles)
        for (const auto p : mesh_->triangles[t])
            if (local_[p] == 0) {
                nodes.push_back(p);
                local_[p] = static_cast<int>(nodes.size());
            }
    Handle(Poly_Triangulation) poly =
        new Poly_Triangulation(static_cast<int>(nodes.size()), static_cast<int>(triangles.size()), false);
    for (std::size_t i = 0; i < nodes.size(); ++i)
        poly->SetNode(static_cast<int>(i) + 1, pnt(mesh_->points[nodes[i]]));
    for (std::size_t i = 0; i < triangles.size(); ++i) {
        const auto& t = mesh_->triangles[triangles[i]];
        poly->SetTriangle(static_cast<int>(i) + 1,
                          Poly_Triangle(local_[t[0]], local_[t[turned ? 2 : 1]], local_[t[turned ? 1 : 2]]));
    }
    poly->Deflection(how.deflection);
    brep_.UpdateFace(face, poly);
    std::map<int, int> uses;
    for (const auto& loop : loops)
        for (const EdgeUse& u : loop)
            ++uses[u.edge];
    for (const auto& [edge, times] : uses)
        attach_edge(poly, edge, times > 1, how);
    for (const auto p : nodes)
        local_[p] = 0;
}

void BrepMaker::attach_edge(const Handle(Poly_Triangulation) & poly, int edge, bool seam,
                            const Approximation& how) {
    const auto& ids = mesh_->edge_points[index(edge)];
    const Made& m = edges_[index(edge)];
    const auto from_first = [&](std::size_t i) { return m.swapped ? ids.size() - 1 - i : i; };
    TColStd_Array1OfInteger on(1, static_cast<int>(ids.size()));
    for (std::size_t i = 0; i < ids.size(); ++i) {
        const int point = local_[ids[from_first(i)]];
        if (point == 0) return; // no triangle of the face comes near it
        on(static_cast<int>(i) + 1) = point;
    }
    Handle(Poly_PolygonOnTriangulation) polygon = new Poly_PolygonOnTriangulation(on);
    if (how.parameters) {
        const std::vector<double> at = how.parameters(edge);
        TColStd_Array1OfReal values(1, static_cast<int>(at.size()));
        for (std::size_t i = 0; i < at.size(); ++i)
            values(static_cast<int>(i) + 1) = at[from_first(i)];
        polygon = new Poly_PolygonOnTriangulation(on, values);
    }
    polygon->Deflection(how.of_edge ? std::max(how.deflection, how.of_edge(edge)) : how.deflection);
    if (seam)
        brep_.UpdateEdge(m.edge, polygon, polygon, poly, TopLoc_Location());
    else
        brep_.UpdateEdge(m.edge, polygon, poly, TopLoc_Location());
}

Solid BrepMaker::solid() {
    shell_.Closed(true);
    auto shape = std::make_shared<KernelShape>();
    brep_.MakeSolid(shape->solid);
    brep_.Add(shape->solid, shell_);
    return Solid(std::move(shape));
}

std::vector<std::vector<std::uint32_t>> triangles_by_face(const Mesh& mesh, std::size_t faces) {
    std::vector<std::vector<std::uint32_t>> out(faces);
    for (std::uint32_t i = 0; i < mesh.triangles.size(); ++i)
        out[mesh.face[i]].push_back(i);
    return out;
}

} // namespace whorl::solid
