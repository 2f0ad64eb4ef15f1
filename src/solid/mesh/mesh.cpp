#include "solid/mesh/mesh.hpp"

#include "quantity/numeric.hpp"
#include "solid/mesh/face_triangulator.hpp"
#include "solid/mesh/flatten.hpp"
#include "solid/mesh/hole_mesh.hpp"
#include "solid/mesh/scoop_mesh.hpp"
#include "solid/mesh/shaped_mesh.hpp"
#include "solid/mesh/tooth_mesh.hpp"
#include "solid/skin/axial_cut.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

// Of its corners, and of silhouettes between them.
double largest_radius(const Skin& skin) {
    double largest = 0;
    for (const auto& c : skin.corners)
        largest = std::max(largest, c.r);
    for (const Face& f : skin.faces)
        if (f.kind == FaceKind::shaped) largest = std::max(largest, f.patch->wall->widest());
    return largest;
}

} // namespace

int steps_for_chord(double largest_radius, double chord) {
    const double delta = 2 * std::acos(std::clamp(1 - chord / std::max(largest_radius, 1e-6), -1.0, 1.0));
    const int steps = delta > 0 ? static_cast<int>(std::ceil(full_turn / delta / 4)) * 4 : 720;
    return std::clamp(steps, 24, 720);
}

int steps_for_chord(const Skin& skin, double chord) {
    // the bands and strips of all arcs count by their twist; flats need no steps but share those of the rest
    double largest = 0, finest = full_turn;
    const bool arcs = std::any_of(skin.faces.begin(), skin.faces.end(),
                                  [](const Face& f) { return f.kind == FaceKind::curved; });
    const bool teeth = std::any_of(skin.faces.begin(), skin.faces.end(), [](const Face& f) {
        return f.kind == FaceKind::toothed || f.kind == FaceKind::wall || f.kind == FaceKind::shaped;
    });
    // the rest is for the chords across arcs, see triangulate(), and for the chords and the twist of teeth
    if (arcs) chord *= 2.0 / 3;
    if (teeth)
        chord /= 2;
    else if (skin.bent() && !arcs)
        chord *= 0.75; // the rest is for the rows in a bend, where no arc lies
    largest = largest_radius(skin);
    for (const auto& f : skin.faces) {
        if (f.kind == FaceKind::hole) { // so that two lines at least cross every mouth
            for (const auto& use : f.loops.front())
                if (const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
                    e.shape == EdgeShape::mouth)
                    finest =
                        std::min(finest, 0.9 * std::asin(std::min(1.0, e.mouth->hole.radius / e.begin.r)));
            continue;
        }
        if (f.kind == FaceKind::flat || f.kind == FaceKind::side || f.kind == FaceKind::toothed ||
            f.kind == FaceKind::wall || f.kind == FaceKind::shaped || f.kind == FaceKind::scoop ||
            (f.c == 0 && f.kind == FaceKind::round))
            continue;
        double low = 1e300, high = 0;
        for (const auto& use : f.loops.front()) {
            const double r = start_of(skin, use).r;
            low = std::min(low, r);
            high = std::max(high, r);
        }
        // the twist is one of r; square to the surface it is less by the surface's lean along the axis. On an
        // arc no strip is steeper than its own lean makes up for, and each is at most half as high as the
        // arc.
        const double lean = f.kind == FaceKind::round ? std::abs(f.c) / std::hypot(1, f.b)
                                                      : (std::abs(f.c) + std::abs(f.rail_slope)) / 2;
        const double twist = lean * (high - low) / (4 * std::max(low, 1e-6)); // per radian of step
        if (twist > 0) finest = std::min(finest, chord / twist);
    }
    const int for_twist = static_cast<int>(std::ceil(full_turn / finest / 4)) * 4;
    return std::min(720, std::max(steps_for_chord(largest, chord), for_twist));
}

double triangles_expected(const Skin& skin, int steps_per_turn) {
    double total = 0;
    for (const Face& f : skin.faces) {
        double edges = 0;
        for (const auto& loop : f.loops)
            edges += static_cast<double>(loop.size());
        // two triangles a step and edge or so; an arc is as many strips as its chord asks for
        const double strips = f.kind == FaceKind::curved
                                  ? std::max(2.0, std::abs(f.arc_to - f.arc_from) * steps_per_turn / 25)
                                  : 1;
        total += edges + 2 * strips * angle_around(skin, f) / full_turn * steps_per_turn;
    }
    return total;
}

namespace {

Mesh triangulate_flat(const Skin& skin, int steps_per_turn) {
    Mesh mesh;
    mesh.steps_per_turn = steps_per_turn;
    const double step = full_turn / steps_per_turn;
    for (const auto& c : skin.corners) {
        mesh.points.push_back(to_space(c));
        mesh.unrolled.push_back(c);
    }
    const double largest = largest_radius(skin);
    const ToothMesher teeth(skin, step, largest * (1 - std::cos(step / 2)) / 2);
    const Grid lines = grid_for(skin, step);
    sample_edges(skin, mesh, lines, teeth);
    mesh.triangles.reserve(mesh.points.size() * 2);
    mesh.face.reserve(mesh.points.size() * 2);
    FaceTriangulator triangulator(skin, mesh, lines);
    for (std::size_t i = 0; i < skin.faces.size(); ++i)
        if (const Face& f = skin.faces[i]; f.kind == FaceKind::toothed)
            teeth.add_toothed(skin, mesh, i);
        else if (f.kind == FaceKind::wall)
            add_wall(skin, mesh, i, teeth.chord());
        else if (f.kind == FaceKind::shaped)
            add_shaped(skin, mesh, i, teeth.chord());
        else if (f.kind == FaceKind::scoop)
            add_scoop(skin, mesh, i, teeth.chord());
        else if (f.kind == FaceKind::hole)
            add_hole(skin, mesh, i);
        else if (f.bend >= 0)
            add_bent(skin, mesh, i);
        else if (f.kind == FaceKind::flat && has_teeth(skin, f))
            teeth.add_flat(skin, mesh, i);
        else
            triangulator.add(i);
    return mesh;
}

// The straightened bar's points, where they are in space.
void bend(Mesh& mesh, const BentLine& way) {
    if (way.straight()) return;
    for (std::size_t i = 0; i < mesh.points.size(); ++i) {
        Point& p = mesh.points[i];
        const Direction at = way.frame_at(p.z).placed({p.x, p.y, 0});
        p = {at[0], at[1], at[2]};
    }
}

Mesh triangulate_straight(const Skin& skin, int steps_per_turn) {
    const bool arcs = std::any_of(skin.faces.begin(), skin.faces.end(),
                                  [](const Face& f) { return f.kind == FaceKind::curved; });
    if (!arcs) return triangulate_flat(skin, steps_per_turn);
    // across the arcs half the chord that this step leaves on the largest circle
    const double largest = largest_radius(skin);
    const double chord = largest * (1 - std::cos(pi / steps_per_turn)) / 2;
    const Flattened flat = flatten(skin, chord);
    Mesh mesh = triangulate_flat(flat.skin, steps_per_turn);
    for (auto& f : mesh.face)
        f = flat.face[f];
    std::vector<std::vector<std::uint32_t>> points(skin.edges.size());
    std::vector<std::vector<double>> theta(skin.edges.size());
    for (std::size_t i = 0; i < skin.edges.size(); ++i)
        for (const int part : flat.chains[i]) {
            const auto& p = mesh.edge_points[static_cast<std::size_t>(part)];
            const auto& t = mesh.edge_theta[static_cast<std::size_t>(part)];
            const auto skip = points[i].empty() ? 0 : 1;
            points[i].insert(points[i].end(), p.begin() + skip, p.end());
            theta[i].insert(theta[i].end(), t.begin() + skip, t.end());
        }
    mesh.edge_points = std::move(points);
    mesh.edge_theta = std::move(theta);
    return mesh;
}

} // namespace

Mesh triangulate(const Skin& skin, int steps_per_turn) {
    Mesh mesh = triangulate_straight(skin, steps_per_turn);
    bend(mesh, skin.way);
    return mesh;
}

} // namespace whorl::solid
