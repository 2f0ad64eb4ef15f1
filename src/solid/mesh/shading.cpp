#include "solid/mesh/shading.hpp"

namespace whorl::solid {
namespace {

// Directions this close are one surface going into the other, about 11°.
constexpr double smooth = 0.98;

double dot(const Point& a, const Point& b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}

// The two faces of every edge, and then the edges that show.
template<class Body, class Hidden>
void draw_edges(Shading& out, const Body& body, const Mesh& mesh, Hidden hidden,
                const std::vector<std::array<int, 2>>& faces) {
    for (std::size_t e = 0; e < body.edges.size(); ++e) {
        const auto [a, b] = faces[e];
        if (a < 0 || b < 0 || a == b ||
            hidden(body.faces[static_cast<std::size_t>(a)], body.faces[static_cast<std::size_t>(b)],
                   body.edges[e]))
            continue;
        const auto& ids = mesh.edge_points[e];
        for (std::size_t k = 0; k + 1 < ids.size(); ++k)
            out.lines.push_back({ids[k], ids[k + 1]});
    }
}

void meet(std::vector<std::array<int, 2>>& faces, const std::vector<EdgeUse>& loop, std::size_t face) {
    for (const EdgeUse& use : loop) {
        auto& pair = faces[static_cast<std::size_t>(use.edge)];
        (pair[0] < 0 ? pair[0] : pair[1]) = static_cast<int>(face);
    }
}

} // namespace

Shading shade(const Skin& skin, const Mesh& mesh) {
    Shading out;
    out.normals.reserve(mesh.triangles.size());
    out.zone.reserve(mesh.triangles.size());
    NormalReader normal;
    struct Known {
        std::uint32_t face = ~std::uint32_t{0};
        Point normal;
    };
    std::vector<Known> known(mesh.points.size()); // triangles of a face share their points
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const Face& f = skin.faces[mesh.face[i]];
        std::array<Point, 3>& normals = out.normals.emplace_back();
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t id = mesh.triangles[i][k];
            Known& at = known[id];
            if (at.face != mesh.face[i]) {
                at = {mesh.face[i], normal(f, mesh.unrolled[id])};
                if (skin.bent()) {
                    const Point& n = at.normal;
                    const Direction in_space = skin.way.frame_at(mesh.unrolled[id].z).turned({n.x, n.y, n.z});
                    at.normal = {in_space[0], in_space[1], in_space[2]};
                }
            }
            normals[k] = at.normal;
        }
        out.zone.push_back(f.zone);
    }
    std::vector<std::array<int, 2>> faces(skin.edges.size(), {-1, -1});
    for (std::size_t f = 0; f < skin.faces.size(); ++f)
        for (const auto& loop : skin.faces[f].loops)
            meet(faces, loop, f);
    draw_edges(
        out, skin, mesh,
        [&](const Face& a, const Face& b, const Edge& e) {
            if (e.shape == EdgeShape::traced && !e.across) return false; // a line scored on a drum, too
            if (((a.kind == FaceKind::toothed && e.rail) || (a.kind == FaceKind::wall && e.across)) &&
                b.kind == a.kind && dot(normal_at(a, e.begin), normal_at(b, e.begin)) > smooth)
                return true;
            if (a.kind == FaceKind::shaped && b.kind == a.kind && a.zone == b.zone && a.bore == b.bore) {
                const UnrolledPoint at = point_at(e, (first_parameter(e) + last_parameter(e)) / 2);
                return dot(normal_at(a, at), normal_at(b, at)) > smooth;
            }
            if (a.kind == FaceKind::scoop || b.kind == FaceKind::scoop) {
                const UnrolledPoint at = point_at(e, (first_parameter(e) + last_parameter(e)) / 2);
                return dot(normal_at(a, at), normal_at(b, at)) > smooth;
            }
            if (a.kind == FaceKind::curved && b.kind == a.kind && a.a == b.a && a.b == b.b && a.c == b.c &&
                a.arc_z == b.arc_z && a.arc_radius == b.arc_radius && a.zone == b.zone)
                return true; // parts of one arc
            return a.kind == b.kind && a.role == b.role && a.a == b.a && a.b == b.b && a.c == b.c &&
                   a.zone == b.zone && (a.kind != FaceKind::side || a.side_theta == b.side_theta);
        },
        faces);
    return out;
}

Shading shade(const BarBody& body, const Mesh& mesh) {
    Shading out;
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const BarFace& f = body.faces[mesh.face[i]];
        const auto& t = mesh.triangles[i];
        out.normals.push_back({normal_at(f, mesh.points[t[0]]), normal_at(f, mesh.points[t[1]]),
                               normal_at(f, mesh.points[t[2]])});
    }
    out.zone.assign(mesh.triangles.size(), 0);
    std::vector<std::array<int, 2>> faces(body.edges.size(), {-1, -1});
    for (std::size_t f = 0; f < body.faces.size(); ++f)
        meet(faces, body.faces[f].loop, f);
    draw_edges(
        out, body, mesh,
        [&](const BarFace& a, const BarFace& b, const BarEdge& e) {
            const Point& at = body.corners[static_cast<std::size_t>(e.from)];
            return dot(normal_at(a, at), normal_at(b, at)) > smooth;
        },
        faces);
    return out;
}

} // namespace whorl::solid
