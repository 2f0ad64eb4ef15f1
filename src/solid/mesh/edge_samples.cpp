#include "solid/mesh/edge_samples.hpp"

#include "quantity/numeric.hpp"
#include "solid/mesh/scoop_mesh.hpp"
#include "solid/mesh/shaped_mesh.hpp"

#include "solid/mesh/hole_mesh.hpp"

#include <algorithm>
#include <map>

namespace whorl::solid {
namespace {

bool has_teeth(const Skin& skin) {
    return std::any_of(skin.faces.begin(), skin.faces.end(),
                       [](const Face& f) { return f.kind == FaceKind::toothed; });
}

// A flank in a plane at its curve's samples, a rail between two of a zone's faces at its rows.
void sample_tooth_edge(const Edge& e, std::size_t index, Mesh& mesh, const ToothMesher& teeth) {
    auto& ids = mesh.edge_points[index];
    auto& thetas = mesh.edge_theta[index];
    const auto add = [&](const UnrolledPoint& p) {
        ids.push_back(static_cast<std::uint32_t>(mesh.points.size()));
        thetas.push_back(p.theta);
        mesh.points.push_back(to_space(p));
        mesh.unrolled.push_back(p);
    };
    ids.push_back(static_cast<std::uint32_t>(e.from));
    thetas.push_back(e.begin.theta);
    if (e.rail) {
        const int rows = teeth.rows_of(e);
        for (int k = 1; k < rows; ++k)
            add(point_at(e, static_cast<double>(k) / rows));
    } else {
        std::vector<double> inner;
        const double low = std::min(e.tooth_from, e.tooth_to), high = std::max(e.tooth_from, e.tooth_to);
        for (const double t : teeth.samples_of(*e.tooth.curve))
            if (t > low + 1e-9 && t < high - 1e-9) inner.push_back(t);
        if (e.tooth_to < e.tooth_from) std::reverse(inner.begin(), inner.end());
        for (const double t : inner)
            add(point_at(e, t));
    }
    ids.push_back(static_cast<std::uint32_t>(e.to));
    thetas.push_back(e.end.theta);
}

// Between the grid's lines a lobe's edge gets as many points more as its chords need. It is sampled on the
// lines like everything that runs around the axis, so that a thin ring between it and a circle can't fold.
void refine_lobe_edge(const Edge& e, std::vector<double>& at, double chord) {
    const auto place = [&](double theta) {
        return to_space(point_at(e.tooth, parameter_at(e.tooth, {theta, 0, e.begin.z}), e.begin.z));
    };
    std::vector<double> all{e.begin.theta};
    for (std::size_t i = 0; i <= at.size(); ++i) {
        const double from = all.back(), to = i < at.size() ? at[i] : e.end.theta;
        const Point p = place(from), q = place(to), m = place((from + to) / 2);
        const double dx = q.x - p.x, dy = q.y - p.y, length = std::hypot(dx, dy);
        const double off = std::abs(dx * (m.y - p.y) - dy * (m.x - p.x)) / std::max(1e-300, length);
        const int parts = std::clamp(static_cast<int>(std::ceil(std::sqrt(off / (0.9 * chord)))), 1, 64);
        for (int k = 1; k < parts; ++k)
            all.push_back(from + (to - from) * k / parts);
        all.push_back(to);
    }
    at.assign(all.begin() + 1, all.end() - 1);
}

// The angles strictly between an edge's ends at which it is sampled, from its begin to its end: the grid's
// lines, and the corners of its plane's other boundary.
std::vector<double> angles_along(const Edge& e, const Grid& lines, double snap,
                                 const std::vector<double>& joined) {
    const double low = std::min(e.begin.theta, e.end.theta), high = std::max(e.begin.theta, e.end.theta);
    std::vector<double> at;
    if (high - low <= 1e-12) return at;
    const double first = std::floor(lines.of(low) + snap) + 1, last = std::ceil(lines.of(high) - snap) - 1;
    for (double k = first; k <= last; ++k)
        at.push_back(lines.at(k));
    const std::size_t grid_samples = at.size();
    // corners of the other boundary that stand this close one above the other, where it runs nearly along the radius,
    // count as one here: they would leave triangles of no area
    const double beside = 5e-4 / std::max(1e-3, std::max(e.begin.r, e.end.r));
    for (const double t : joined)
        for (double shifted = t + std::floor((low - t) / full_turn) * full_turn; shifted < high;
             shifted += full_turn) {
            if (shifted <= low + 1e-9 || shifted >= high - 1e-9) continue;
            const double g = lines.of(shifted);
            if (std::abs(g - std::round(g)) < snap) {
                // the grid line's own sample moves there, so that both rims have it at the same angle
                for (std::size_t k = 0; k < grid_samples; ++k)
                    if (std::abs(at[k] - lines.at(std::round(g))) < 1e-9) at[k] = shifted;
            } else if (std::none_of(at.begin() + static_cast<long>(grid_samples), at.end(),
                                    [&](double t2) { return std::abs(t2 - shifted) < beside; })) {
                at.push_back(shifted);
            }
        }
    std::sort(at.begin(), at.end());
    at.erase(std::unique(at.begin(), at.end(), [](double p, double q) { return q - p < 1e-9; }), at.end());
    if (e.end.theta < e.begin.theta) std::reverse(at.begin(), at.end());
    return at;
}

bool is_lobe(const Edge& e) {
    return e.shape == EdgeShape::tooth && e.tooth.curve->by_angle;
}

// The edge of a drum cam's track: on the grid's lines, and between them as its chords in space need.
std::vector<double> traced_parameters(const Edge& e, const std::vector<double>& at, double chord) {
    if (e.across) {
        const int rows = wall_rows(e.wall_bulge, chord);
        std::vector<double> out;
        for (int k = 1; k < rows; ++k)
            out.push_back(e.tooth_from + (e.tooth_to - e.tooth_from) * k / rows);
        return out;
    }
    std::vector<double> all{e.tooth_from};
    for (std::size_t i = 0; i <= at.size(); ++i) {
        const double from = all.back(), to = i < at.size() ? e.wall->parameter(at[i], e.level) : e.tooth_to;
        const Point p = to_space(point_at(e, from)), q = to_space(point_at(e, to)),
                    m = to_space(point_at(e, (from + to) / 2));
        const double off = std::hypot(m.x - (p.x + q.x) / 2, m.y - (p.y + q.y) / 2, m.z - (p.z + q.z) / 2);
        const int parts = std::clamp(static_cast<int>(std::ceil(std::sqrt(off / (2 * chord)))), 1, 64);
        for (int k = 1; k < parts; ++k)
            all.push_back(from + (to - from) * k / parts);
        all.push_back(to);
    }
    return {all.begin() + 1, all.end() - 1};
}

// The angles of each plane between zones at which both its boundaries are sampled: the corners, and where a
// lobe needs more points than the grid has.
std::vector<std::vector<double>> joined_angles(const Skin& skin, const Grid& lines, double snap,
                                               double chord) {
    std::vector<std::vector<double>> out;
    for (const Join& j : skin.joins)
        out.push_back(j.theta);
    for (const Edge& e : skin.edges) {
        if (!is_lobe(e) || e.join < 0) continue;
        const auto join = static_cast<std::size_t>(e.join);
        std::vector<double> at = angles_along(e, lines, snap, skin.joins[join].theta);
        refine_lobe_edge(e, at, chord);
        for (const double t : at)
            out[join].push_back(t - std::floor(t / full_turn) * full_turn);
    }
    return out;
}

} // namespace

// The root arcs of fully rounded teeth may be hardly wider than the usual part of a step, so teeth take it more
// exactly; and where two corners lie that close to one line, only the nearer one is on it.
double snap_of(const Skin& skin, const Grid& lines) {
    const double step = lines.step;
    double snap = has_teeth(skin) ? 1e-5 : 1e-3;
    const double per_turn = std::round(full_turn / step);
    std::map<double, double> near; // a line, and how far off it the nearest corner is, in steps
    const auto take = [&](double theta) {
        const double grid = lines.of(theta), line = std::round(grid), off = grid - line;
        if (std::abs(off) >= snap) return;
        const auto [it, is_new] = near.try_emplace(line - per_turn * std::floor(line / per_turn), off);
        if (is_new || std::abs(off - it->second) * step < 1e-8) return;
        // the farther one is left off the line; of two as far on either side both are
        const double far = std::max(std::abs(off), std::abs(it->second));
        snap = std::min(snap, far * (std::abs(off + it->second) < 1e-3 * far ? 0.5 : 1 - 1e-6));
        if (std::abs(off) < std::abs(it->second)) it->second = off;
    };
    for (const UnrolledPoint& c : skin.corners)
        take(c.theta);
    for (const Join& j : skin.joins)
        for (const double theta : j.theta)
            take(theta);
    return snap;
}

Grid grid_for(const Skin& skin, double step) {
    constexpr double clear = 1e-4, part = 0.381966; // of a step
    const Grid usual{step, 0};
    if (has_teeth(skin) || snap_of(skin, usual) > clear) return usual;
    for (int k = 1; k <= 12; ++k)
        if (const Grid turned{step, std::fmod(k * part, 1)}; snap_of(skin, turned) > clear) return turned;
    return usual;
}

void sample_edges(const Skin& skin, Mesh& mesh, const Grid& lines, const ToothMesher& teeth) {
    const double snap = snap_of(skin, lines);
    mesh.edge_points.resize(skin.edges.size());
    mesh.edge_theta.resize(skin.edges.size());
    const auto joined = joined_angles(skin, lines, snap, teeth.chord());
    const std::vector<double> none;
    for (std::size_t i = 0; i < skin.edges.size(); ++i) {
        const Edge& e = skin.edges[i];
        const double t0 = e.begin.theta, t1 = e.end.theta;
        const bool lobe = is_lobe(e);
        if ((e.shape == EdgeShape::tooth && !lobe) || e.rail) {
            sample_tooth_edge(e, i, mesh, teeth);
            continue;
        }
        std::vector<double> at =
            angles_along(e, lines, snap, e.join >= 0 ? joined[static_cast<std::size_t>(e.join)] : none);
        if (lobe && e.join < 0) refine_lobe_edge(e, at, teeth.chord());
        if (e.along_hole) at.clear();
        if (e.shape == EdgeShape::traced || e.shape == EdgeShape::mouth || e.shape == EdgeShape::shaped ||
            e.scooped) {
            std::vector<double> thetas{t0};
            mesh.edge_points[i].push_back(static_cast<std::uint32_t>(e.from));
            const std::vector<double> parameters =
                e.scooped                      ? scooped_parameters(e, at, teeth.chord())
                : e.shape == EdgeShape::mouth  ? mouth_parameters(e, at, lines, snap, teeth.chord())
                : e.shape == EdgeShape::traced ? traced_parameters(e, at, teeth.chord())
                : e.across                     ? shaped_columns(*e.patch, teeth.chord())
                                               : shaped_rows(*e.patch, teeth.chord());
            for (const double x : parameters) {
                const UnrolledPoint p = point_at(e, x);
                mesh.edge_points[i].push_back(static_cast<std::uint32_t>(mesh.points.size()));
                thetas.push_back(p.theta);
                mesh.points.push_back(to_space(p));
                mesh.unrolled.push_back(p);
            }
            mesh.edge_points[i].push_back(static_cast<std::uint32_t>(e.to));
            thetas.push_back(t1);
            mesh.edge_theta[i] = std::move(thetas);
            continue;
        }
        auto& ids = mesh.edge_points[i];
        auto& thetas = mesh.edge_theta[i];
        ids.push_back(static_cast<std::uint32_t>(e.from));
        thetas.push_back(t0);
        if (e.bend >= 0) {
            const int rows = bend_rows(skin, e, teeth.chord() * 2 / 3);
            for (int k = 1; k < rows; ++k) {
                const UnrolledPoint p = point_at(e, static_cast<double>(k) / rows);
                ids.push_back(static_cast<std::uint32_t>(mesh.points.size()));
                thetas.push_back(p.theta);
                mesh.points.push_back(to_space(p));
                mesh.unrolled.push_back(p);
            }
        }
        for (const double t : at) {
            const UnrolledPoint p = point_at(e, lobe ? parameter_at(e.tooth, {t, 0, e.begin.z})
                                                : e.shape == EdgeShape::flat_trace ? t
                                                : e.shape == EdgeShape::bow        ? bow_parameter(e.bow, t)
                                                                                   : (t - t0) / (t1 - t0));
            ids.push_back(static_cast<std::uint32_t>(mesh.points.size()));
            thetas.push_back(t);
            mesh.points.push_back(to_space(p));
            mesh.unrolled.push_back(p);
        }
        ids.push_back(static_cast<std::uint32_t>(e.to));
        thetas.push_back(t1);
    }
}

} // namespace whorl::solid
