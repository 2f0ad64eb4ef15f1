#include "exchange/outline_points.hpp"

#include <cmath>
#include <sstream>

namespace whorl {

std::vector<OutlinePoint> with_middles(const std::vector<OutlinePoint>& p, bool& bent) {
    std::vector<OutlinePoint> out;
    for (std::size_t i = 0; i < p.size(); ++i) {
        out.push_back({p[i].x, p[i].y, 0});
        if (i + 1 == p.size() || p[i].bow == 0) continue;
        bent = true;
        const double dx = p[i + 1].x - p[i].x, dy = p[i + 1].y - p[i].y, chord = std::hypot(dx, dy);
        if (chord < 1e-12) continue;
        // on the arc at quarters of its turn: bow is its height over the chord, to the left
        const double b = p[i].bow, radius = chord * chord / (8 * b) + b / 2,
                     half = 2 * std::atan(2 * b / chord);
        const double cx = (p[i].x + p[i + 1].x) / 2 - dy / chord * (b - radius),
                     cy = (p[i].y + p[i + 1].y) / 2 + dx / chord * (b - radius);
        const double from = std::atan2(p[i].y - cy, p[i].x - cx);
        for (const double part : {0.25, 0.5, 0.75}) {
            const double at = from - 2 * half * part;
            out.push_back({cx + std::abs(radius) * std::cos(at), cy + std::abs(radius) * std::sin(at), 0});
        }
    }
    return out;
}

std::string two_columns(const std::string& text) {
    std::string out;
    std::istringstream lines(text);
    std::string line;
    while (std::getline(lines, line)) {
        std::size_t cells = 0, i = 0;
        for (bool within = false; i < line.size(); ++i) {
            const bool gap =
                line[i] == ',' || line[i] == ';' || line[i] == '\t' || line[i] == ' ' || line[i] == '\r';
            if (within && gap && ++cells == 2) break;
            within = !gap;
        }
        out.append(line, 0, i);
        out += '\n';
    }
    return out;
}

} // namespace whorl
