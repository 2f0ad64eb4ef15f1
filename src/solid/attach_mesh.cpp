#include "solid/attach_mesh.hpp"

#include <BRep_Builder.hxx>
#include <Poly_PolygonOnTriangulation.hxx>
#include <Poly_Triangulation.hxx>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <tuple>

namespace whorl::solid {
namespace {

// How far a bent edge strays from the polyline that stands for it.
double measured_stray(const Edge& e, const Mesh& mesh, const std::vector<std::uint32_t>& ids) {
    constexpr int samples = 48;
    double worst = 0;
    const double a = first_parameter(e), b = last_parameter(e);
    for (int k = 1; k < samples; ++k) {
        const UnrolledPoint p = point_at(e, a + (b - a) * k / samples);
        const gp_Pnt at(p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z);
        double nearest = 1e300;
        for (std::size_t i = 0; i + 1 < ids.size(); ++i) {
            const Point &q = mesh.points[ids[i]], &r = mesh.points[ids[i + 1]];
            const gp_Vec side(r.x - q.x, r.y - q.y, r.z - q.z), to(at.X() - q.x, at.Y() - q.y, at.Z() - q.z);
            const double along = std::clamp(to.Dot(side) / std::max(1e-30, side.SquareMagnitude()), 0.0, 1.0);
            nearest = std::min(nearest, (to - along * side).SquareMagnitude());
        }
        worst = std::max(worst, nearest);
    }
    return std::sqrt(worst);
}

// All teeth share their curves and are sampled alike, so each curve is measured once.
class Strays {
public:
    double of(const Edge& e, const Mesh& mesh, const std::vector<std::uint32_t>& ids) {
        if (e.shape != EdgeShape::tooth) return measured_stray(e, mesh, ids);
        const auto key = std::tuple(e.tooth.curve.get(), std::min(e.tooth_from, e.tooth_to),
                                    std::max(e.tooth_from, e.tooth_to), ids.size());
        const auto known = known_.find(key);
        if (known != known_.end()) return known->second;
        return known_[key] = measured_stray(e, mesh, ids);
    }

private:
    std::map<std::tuple<const TransverseCurve*, double, double, std::size_t>, double> known_;
};

} // namespace

void attach_mesh(const Skin& skin, const Mesh& mesh, const std::vector<TopoDS_Face>& faces,
                 const std::vector<KernelEdge>& edges) {
    const BRep_Builder brep;
    Strays strays;
    std::vector<std::vector<std::uint32_t>> of_face(skin.faces.size());
    for (std::uint32_t i = 0; i < mesh.triangles.size(); ++i)
        of_face[mesh.face[i]].push_back(i);
    std::vector<int> local(mesh.points.size(), 0);
    // a step's chord from (r + b·θ)·e^{iθ}: δ²/8·|second derivative| = δ²/8·√(r² + 4b²), to first order
    double bend = 0;
    for (const auto& e : skin.edges) {
        const double angle = e.end.theta - e.begin.theta;
        const double b = std::abs(angle) > 1e-12 ? (e.end.r - e.begin.r) / angle : 0;
        bend = std::max(bend, std::hypot(std::max(e.begin.r, e.end.r), 2 * b));
    }
    const double step = 2 * std::numbers::pi / mesh.steps_per_turn;
    const bool arcs = std::any_of(skin.faces.begin(), skin.faces.end(),
                                  [](const Face& f) { return f.kind == FaceKind::curved; });
    const double deflection = (arcs ? 1.6 : 1.05) * bend * step * step / 8;
    for (std::size_t f = 0; f < of_face.size(); ++f) {
        std::vector<std::uint32_t> nodes;
        for (const auto t : of_face[f])
            for (const auto p : mesh.triangles[t])
                if (local[p] == 0) {
                    nodes.push_back(p);
                    local[p] = static_cast<int>(nodes.size());
                }
        Handle(Poly_Triangulation) poly = new Poly_Triangulation(static_cast<int>(nodes.size()),
                                                                 static_cast<int>(of_face[f].size()), false);
        for (std::size_t i = 0; i < nodes.size(); ++i) {
            const Point& p = mesh.points[nodes[i]];
            poly->SetNode(static_cast<int>(i) + 1, gp_Pnt(p.x, p.y, p.z));
        }
        for (std::size_t i = 0; i < of_face[f].size(); ++i) {
            const auto& t = mesh.triangles[of_face[f][i]];
            const bool over = skin.faces[f].inward;
            poly->SetTriangle(static_cast<int>(i) + 1,
                              Poly_Triangle(local[t[0]], local[t[over ? 2 : 1]], local[t[over ? 1 : 2]]));
        }
        poly->Deflection(deflection);
        brep.UpdateFace(faces[f], poly);
        std::vector<int> uses;
        for (const auto& loop : skin.faces[f].loops)
            for (const auto& u : loop)
                uses.push_back(u.edge);
        std::sort(uses.begin(), uses.end());
        for (std::size_t k = 0; k < uses.size(); ++k) {
            const bool seam = k + 1 < uses.size() && uses[k + 1] == uses[k];
            const auto e = static_cast<std::size_t>(uses[k]);
            if (seam) ++k;
            auto ids = mesh.edge_points[e];
            if (edges[e].swapped) std::reverse(ids.begin(), ids.end());
            TColStd_Array1OfInteger index(1, static_cast<int>(ids.size()));
            bool complete = true;
            for (std::size_t i = 0; i < ids.size(); ++i) {
                index(static_cast<int>(i) + 1) = local[ids[i]];
                complete = complete && local[ids[i]] > 0;
            }
            if (!complete) continue;
            Handle(Poly_PolygonOnTriangulation) polygon = new Poly_PolygonOnTriangulation(index);
            polygon->Deflection(edges[e].bent ? std::max(deflection, 1.2 * strays.of(skin.edges[e], mesh,
                                                                                     mesh.edge_points[e]))
                                              : deflection);
            if (seam)
                brep.UpdateEdge(edges[e].edge, polygon, polygon, poly, TopLoc_Location());
            else
                brep.UpdateEdge(edges[e].edge, polygon, poly, TopLoc_Location());
        }
        for (const auto p : nodes)
            local[p] = 0;
    }
}

} // namespace whorl::solid
