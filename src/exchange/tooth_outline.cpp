#include "exchange/tooth_outline.hpp"

#include "form/tooth/gear_designation.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

ArcPoint turned(const ArcPoint& p, double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {p.x * c - p.y * s, p.x * s + p.y * c, p.bulge};
}

} // namespace

std::vector<ArcPoint> tooth_outline(const ResolvedGear& g, bool whole, double tolerance) {
    // from the middle of a space up to where the tip's arc begins; the root's and the tip's arcs are whole
    std::vector<ArcPoint> up;
    for (std::size_t i = 1; i + 1 < g.half_outline.size(); ++i) {
        const TransverseCurve& c = g.half_outline[i];
        if (c.shape == CurveShape::line)
            up.push_back({c.x0, c.y0, 0});
        else
            add_arcs(
                up, [&](double t) { return jet_at(c, t); }, c.from, c.to, 0.9 * tolerance);
    }
    const double tip_angle = g.half_outline.back().from, root_angle = g.half_outline.front().to,
                 pitch = g.pitch_angle();
    const ArcPoint tip{g.tip_radius * std::cos(tip_angle), g.tip_radius * std::sin(tip_angle),
                       std::tan((pitch - 2 * tip_angle) / 4)};
    // the flank on the other side of this space, from the tip down to the root: the mirror image, run
    // backwards
    std::vector<ArcPoint> down;
    down.push_back({tip.x, -tip.y, up.back().bulge});
    for (std::size_t i = up.size(); i-- > 0;)
        down.push_back({up[i].x, -up[i].y, i > 0 ? up[i - 1].bulge : std::tan(root_angle / 2)});
    std::vector<ArcPoint> space = down;
    space.insert(space.end(), up.begin(), up.end());
    space.push_back(tip);
    std::vector<ArcPoint> out;
    for (int k = 0; k < (whole ? g.spec.teeth : 1); ++k)
        for (std::size_t i = 0; i < space.size(); ++i) {
            // the tip's arc ends where the next space begins
            out.push_back(turned(space[i], k * pitch));
        }
    if (!whole) {
        out.back().bulge = 0;
        return out;
    }
    return out;
}

std::string gear_dxf(const ResolvedGear& g, bool whole, double tolerance) {
    return arcs_dxf(tooth_outline(g, whole, tolerance), whole,
                    write_gear(g.spec) + ", transverse outline in mm, within " + number_text(tolerance, 6) +
                        " mm",
                    whole ? std::vector{g.pitch_radius, g.base_radius} : std::vector<double>{});
}

std::string gear_svg(const ResolvedGear& g, bool whole, double tolerance) {
    const auto outline = tooth_outline(g, whole, tolerance);
    const double reach = std::max(g.tip_radius, g.root_radius) * 1.05;
    Frame f{-reach, -reach, 2 * reach, 2 * reach};
    if (!whole) {
        double low = 1e300, high = 0, wide = 0;
        for (const auto& p : outline) {
            low = std::min(low, p.x);
            high = std::max(high, p.x);
            wide = std::max(wide, std::abs(p.y));
        }
        f = {low - 1, -wide - 1, high - low + 2, 2 * wide + 2};
    }
    return arcs_svg(outline, whole,
                    write_gear(g.spec) + ", transverse outline within " + number_text(tolerance, 6) + " mm",
                    f, 0.02 * in_mm(g.spec.module));
}

} // namespace whorl
