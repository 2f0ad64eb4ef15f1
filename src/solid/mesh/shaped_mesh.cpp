#include "solid/mesh/shaped_mesh.hpp"

#include "quantity/numeric.hpp"
#include "solid/mesh/grid_mesh.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

constexpr int most_rows = 4000, most_columns = 200;

// Rows per mm at a height.
double density(const ShapedPatch& p, double z, double chord) {
    const ShapedWall& w = *p.wall;
    const auto of = [&](const Jet& r) {
        return std::sqrt(2 * std::abs(r.c[2]) / (8 * std::hypot(1, r.c[1]) * chord));
    };
    const Jet outer = w.outer().jet(z);
    double out = of(outer);
    if (p.is_turned()) return out;
    out = std::max(out, of(outer - w.flutes()->depth.jet(z)));
    return out + std::abs(w.flutes()->twist) * std::sqrt(outer.c[0] / (8 * chord));
}

} // namespace

namespace {
std::vector<double> rows_of(const ShapedPatch& p, double chord) {
    constexpr int samples = 192;
    std::vector<double> sum{0};
    const double h = (p.z1 - p.z0) / samples;
    double last = density(p, p.z0, chord);
    for (int k = 1; k <= samples; ++k) {
        const double here = density(p, p.z0 + k * h, chord);
        sum.push_back(sum.back() + std::max(here, last) * h);
        last = here;
    }
    const int n = std::clamp(static_cast<int>(std::ceil(sum.back())), 1, most_rows);
    std::vector<double> out;
    for (int row = 1, k = 1; row < n; ++row) {
        const double at = sum.back() * row / n;
        while (sum[static_cast<std::size_t>(k)] < at)
            ++k;
        const auto i = static_cast<std::size_t>(k);
        out.push_back(p.z0 + (k - 1 + (at - sum[i - 1]) / (sum[i] - sum[i - 1])) * h);
    }
    return out;
}

// All faces between the same heights of a wall, and their rails, ask for the same.
struct KnownRows {
    std::shared_ptr<const ShapedWall> wall; // kept, so that no other one has its address
    double z0, z1, chord;
    std::vector<double> rows;
};
} // namespace

std::vector<double> shaped_rows(const ShapedPatch& p, double chord) {
    constexpr std::size_t most = 128;
    thread_local std::vector<KnownRows> known;
    for (const KnownRows& k : known)
        if (k.wall == p.wall && k.z0 == p.z0 && k.z1 == p.z1 && k.chord == chord) return k.rows;
    if (known.size() == most) known.erase(known.begin());
    known.push_back({p.wall, p.z0, p.z1, chord, rows_of(p, chord)});
    return known.back().rows;
}

std::vector<double> shaped_columns(const ShapedPatch& p, double chord) {
    constexpr int parts = 4;
    double worst = 0;
    for (const double x : {0.0, 0.25, 0.5, 0.75, 1.0}) {
        const double z = p.z0 + x * (p.z1 - p.z0), step = (p.to - p.from) / parts;
        const auto at = [&](double phi) {
            const double r = p.radius(phi, z);
            return std::pair{r * std::cos(phi), r * std::sin(phi)};
        };
        auto a = at(p.from);
        for (int k = 0; k < parts; ++k) {
            const auto m = at(p.from + (k + 0.5) * step), b = at(p.from + (k + 1) * step);
            worst = std::max(
                worst, std::hypot(m.first - (a.first + b.first) / 2, m.second - (a.second + b.second) / 2));
            a = b;
        }
    }
    const int n = std::clamp(static_cast<int>(std::ceil(parts * std::sqrt(worst / chord))), 1, most_columns);
    std::vector<double> out;
    for (int k = 1; k < n; ++k)
        out.push_back(p.from + (p.to - p.from) * k / n);
    return out;
}

void add_shaped(const Skin& skin, Mesh& mesh, std::size_t index, double chord) {
    const Face& f = skin.faces[index];
    const ShapedPatch& p = *f.patch;
    const auto face = static_cast<std::uint32_t>(index);
    const auto side =
        four_sides(skin, mesh, f, [](const Edge& e) { return e.shape == EdgeShape::shaped && !e.across; });
    const auto chain = [&](const Ids& ids) { // places by φ
        Chain out{ids, {}};
        for (std::size_t i = 0; i < ids.size(); ++i) {
            const UnrolledPoint& at = mesh.unrolled[ids[i]];
            out.at.push_back(i == 0 ? p.from
                             : i + 1 == ids.size()
                                 ? p.to
                                 : p.middle() +
                                       std::remainder(at.theta - p.turned(at.z) - p.middle(), full_turn));
        }
        return out;
    };
    Chain low = chain(side[0]);
    const Chain high = chain(side[2]);
    // a turned one's columns go on from its near side
    const std::vector<double> columns =
        p.is_turned() ? std::vector<double>(low.at.begin() + 1, low.at.end() - 1) : shaped_columns(p, chord);
    const std::vector<double> rows = shaped_rows(p, chord);
    if (side[1].size() != rows.size() + 2 || side[3].size() != rows.size() + 2)
        throw std::logic_error("mesh: a silhouette's rails are not sampled in its rows");
    for (std::size_t row = 0; row <= rows.size(); ++row) {
        Chain next;
        if (row == rows.size()) {
            next = high;
        } else {
            const double z = rows[row], turned = p.turned(z);
            next.ids.push_back(side[3][row + 1]);
            next.at.push_back(p.from);
            for (const double phi : columns) {
                const UnrolledPoint at{phi + turned, f.tooth.sign * p.radius(phi, z), z};
                next.at.push_back(phi);
                next.ids.push_back(static_cast<std::uint32_t>(mesh.points.size()));
                mesh.points.push_back({at.r * std::cos(at.theta), at.r * std::sin(at.theta), at.z});
                mesh.unrolled.push_back(at);
            }
            next.ids.push_back(side[1][row + 1]);
            next.at.push_back(p.to);
        }
        zip(mesh, face, f.inward, low, next);
        low = std::move(next);
    }
}

} // namespace whorl::solid
