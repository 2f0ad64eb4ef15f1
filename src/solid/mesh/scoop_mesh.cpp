#include "solid/mesh/scoop_mesh.hpp"

#include "solid/mesh/edge_samples.hpp"
#include "solid/mesh/grid_mesh.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

// How often a curve is to be divided between two parameters, so that its chords keep to it.
template<class Place>
int parts_of(const Place& place, double from, double to, double chord) {
    double worst = 0;
    for (const double x : {0.25, 0.5, 0.75}) { // a bend back and forth has none in its middle
        const Point p = place(from), q = place(to), m = place(from + x * (to - from));
        worst = std::max(worst, std::hypot(m.x - (p.x + x * (q.x - p.x)), m.y - (p.y + x * (q.y - p.y)),
                                           m.z - (p.z + x * (q.z - p.z))));
    }
    return std::clamp(static_cast<int>(std::ceil(std::sqrt(worst / chord))), 1, 64);
}

enum SideOf { outer, high, inner, low };

} // namespace

std::vector<double> scooped_parameters(const Edge& e, const std::vector<double>& at, double chord) {
    const auto place = [&](double x) { return to_space(point_at(e, x)); };
    std::vector<double> out{first_parameter(e)};
    const std::size_t lines = e.across_scoop ? 0 : at.size();
    for (std::size_t i = 0; i <= lines; ++i) {
        const double from = out.back(), to = i < lines ? bow_parameter(e.bow, at[i]) : last_parameter(e);
        const int parts = parts_of(place, from, to, chord);
        for (int k = 1; k < parts; ++k)
            out.push_back(from + (to - from) * k / parts);
        out.push_back(to);
    }
    return {out.begin() + 1, out.end() - 1};
}

void add_scoop(const Skin& skin, Mesh& mesh, std::size_t index, double chord) {
    const Face& f = skin.faces[index];
    const Scoop& s = *f.scoop;
    const auto face = static_cast<std::uint32_t>(index);
    const double sign = f.tooth.sign;
    const auto place = [&](double x, double y) { // x over α, y over v, both from 0 to 1
        UnrolledPoint p =
            point_at(s, s.alpha_from + x * (s.alpha_to - s.alpha_from), s.from + y * (s.to - s.from));
        p.r *= sign;
        return p;
    };
    const auto on = [&](const UnrolledPoint& p) {
        const ScoopPlace at = place_on(s, {p.theta, sign * p.r, p.z});
        return std::pair{(at.alpha - s.alpha_from) / (s.alpha_to - s.alpha_from),
                         (at.v - s.from) / (s.to - s.from)};
    };
    // the border side by side, in the direction of the loop
    const std::vector<EdgeUse> loop = f.inward ? reversed(f.loops.front()) : f.loops.front();
    std::vector<SideOf> of;
    for (const EdgeUse& use : loop) {
        const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
        const auto [x, y] = on(point_at(e, (first_parameter(e) + last_parameter(e)) / 2));
        const double off[]{std::abs(y), std::abs(1 - x), std::abs(1 - y), std::abs(x)};
        of.push_back(static_cast<SideOf>(std::min_element(off, off + 4) - off));
    }
    const std::size_t n = loop.size();
    std::size_t first = 0;
    while (first < n && !(of[first] == outer && of[(first + n - 1) % n] != outer))
        ++first;
    std::array<Ids, 4> side;
    bool rising = true; // α rises along the outer side
    for (std::size_t i = 0; i < n; ++i) {
        const std::size_t k = (first + i) % n;
        add_points(mesh, loop[k], side[of[k]]);
        if (i > 0 && of[k] != outer && of[(k + n - 1) % n] == outer) rising = of[k] == high;
    }
    if (side[inner].empty()) side[inner] = {side[rising ? high : low].back()}; // a pole
    // the grid within
    const auto parts = [&](bool along) {
        int most = 2;
        for (const double at : {0.0, 0.5})
            most = std::max(most,
                            parts_of([&](double x) { return to_space(along ? place(x, at) : place(0.5, x)); },
                                     0, 1, chord));
        return std::min(most, 48);
    };
    const int columns = parts(true), rows = parts(false);
    const auto id = [&](int column, int row) {
        return static_cast<std::uint32_t>(mesh.points.size()) +
               static_cast<std::uint32_t>((row - 1) * (columns - 1) + column - 1);
    };
    std::vector<std::vector<std::uint32_t>> grid;
    for (int row = 1; row < rows; ++row) {
        grid.emplace_back();
        for (int column = 1; column < columns; ++column)
            grid.back().push_back(id(column, row));
    }
    for (int row = 1; row < rows; ++row)
        for (int column = 1; column < columns; ++column) {
            const UnrolledPoint p =
                place(static_cast<double>(column) / columns, static_cast<double>(row) / rows);
            mesh.points.push_back(to_space(p));
            mesh.unrolled.push_back(p);
        }
    const auto chain = [&](Ids ids) { // evenly spread places serve: both its chains are
        Chain out{std::move(ids), {}};
        for (std::size_t i = 0; i < out.ids.size(); ++i)
            out.at.push_back(
                out.ids.size() == 1 ? 0.5 : static_cast<double>(i) / static_cast<double>(out.ids.size() - 1));
        return out;
    };
    const auto facing = [&](SideOf which) {
        Ids ids;
        if (which == outer || which == inner) {
            ids = which == outer ? grid.front() : grid.back();
            if (rising != (which == outer)) std::reverse(ids.begin(), ids.end());
        } else {
            for (const auto& row : grid)
                ids.push_back(which == high ? row.back() : row.front());
            if (rising != (which == high)) std::reverse(ids.begin(), ids.end());
        }
        return ids;
    };
    for (const SideOf which : {outer, high, inner, low})
        zip(mesh, face, f.inward, chain(side[which]), chain(facing(which)));
    for (std::size_t row = 0; row + 1 < grid.size(); ++row) {
        Ids a = grid[row], b = grid[row + 1];
        if (!rising) std::reverse(a.begin(), a.end()), std::reverse(b.begin(), b.end());
        zip(mesh, face, f.inward, chain(a), chain(b));
    }
}

} // namespace whorl::solid
