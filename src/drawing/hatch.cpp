#include "drawing/hatch.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::drawing {

double hatch_spacing(const Box& box) {
    return std::clamp(0.045 * std::min(box.width(), box.height()) + 1.0, 1.2, 4.0);
}

void hatch_around_texts(Paper& paper, const std::vector<Run>& area, double spacing) {
    if (area.empty()) return;
    std::vector<Box> spared;
    for (const Text& t : paper.texts)
        spared.push_back(bounds(t).grown(0.4));
    for (Stroke& s : hatching(area, spacing, pi / 4, spared))
        paper.add(std::move(s));
}

std::vector<Stroke> hatching(const std::vector<Run>& area, double spacing, double angle,
                             const std::vector<Box>& spared) {
    const At along{std::cos(angle), std::sin(angle)}, over{-along.y, along.x};
    const auto turned = [&](At p) { return At{p.x * along.x + p.y * along.y, p.x * over.x + p.y * over.y}; };
    Box box;
    std::vector<std::array<At, 2>> sides;
    const auto add_ring = [&](const std::vector<At>& p) {
        for (std::size_t i = 0; i < p.size(); ++i) {
            sides.push_back({turned(p[i]), turned(p[(i + 1) % p.size()])});
            box.hold(sides.back()[0]);
        }
    };
    for (const Run& r : area)
        add_ring(r.points);
    if (box.empty()) return {};
    std::vector<Stroke> out;
    for (double y = (std::floor(box.bottom / spacing) + 0.5) * spacing; y < box.top; y += spacing) {
        std::vector<double> at;
        for (const auto& [a, b] : sides)
            if ((a.y > y) != (b.y > y)) at.push_back(a.x + (y - a.y) / (b.y - a.y) * (b.x - a.x));
        std::sort(at.begin(), at.end());
        for (std::size_t i = 0; i + 1 < at.size(); i += 2) {
            std::vector<std::array<double, 2>> parts{{at[i], at[i + 1]}};
            for (const Box& s : spared) {
                // where the line passes the box
                double low = -1e9, high = 1e9;
                for (const auto& [from, to, base, step] :
                     {std::tuple{s.left, s.right, y * over.x, along.x},
                      std::tuple{s.bottom, s.top, y * over.y, along.y}}) {
                    if (std::abs(step) < 1e-9) {
                        if (base < from || base > to) high = low;
                        continue;
                    }
                    const double p = (from - base) / step, q = (to - base) / step;
                    low = std::max(low, std::min(p, q));
                    high = std::min(high, std::max(p, q));
                }
                if (high <= low) continue;
                std::vector<std::array<double, 2>> left;
                for (const auto& [p, q] : parts) {
                    if (high <= p || low >= q) {
                        left.push_back({p, q});
                        continue;
                    }
                    if (low > p) left.push_back({p, low});
                    if (high < q) left.push_back({high, q});
                }
                parts = std::move(left);
            }
            for (const auto& [p, q] : parts)
                if (q - p > 0.2)
                    out.push_back(line(LineKind::hatching, p * along + y * over, q * along + y * over));
        }
    }
    return out;
}

} // namespace whorl::drawing
