#include "drawing/clipped.hpp"

#include "drawing/runs.hpp"

#include <algorithm>

namespace whorl::drawing {

std::vector<Run> scaled(std::vector<Run> runs, double k) {
    for (Run& r : runs)
        for (At& p : r.points)
            p = k * p;
    return runs;
}

std::vector<Run> half_of(const std::vector<Run>& runs, bool upper) {
    std::vector<Link2> bits;
    const double sign = upper ? 1 : -1;
    for (const Run& r : runs)
        for (std::size_t i = 0; i + 1 < r.points.size() + (r.closed ? 1 : 0); ++i) {
            At a = r.points[i], b = r.points[(i + 1) % r.points.size()];
            const double ya = sign * a.y, yb = sign * b.y;
            if (ya <= 0 && yb <= 0) continue;
            if (ya < 0 || yb < 0) {
                const At on = a + (ya / (ya - yb)) * (b - a);
                (ya < 0 ? a : b) = on;
            }
            bits.push_back({a, b});
        }
    return chained(std::move(bits), 1e-6);
}

std::vector<Run> within(const std::vector<Run>& runs, const std::vector<Stretch>& stretches, bool inside) {
    std::vector<Link2> bits;
    for (const Run& r : runs)
        for (std::size_t i = 0; i + 1 < r.points.size() + (r.closed ? 1 : 0); ++i) {
            const At a = r.points[i], b = r.points[(i + 1) % r.points.size()];
            std::vector<double> at{0, 1};
            for (const Stretch& s : stretches)
                for (const double x : {s.from, s.to})
                    if ((a.x < x) != (b.x < x)) at.push_back((x - a.x) / (b.x - a.x));
            std::sort(at.begin(), at.end());
            for (std::size_t k = 0; k + 1 < at.size(); ++k) {
                const double middle = a.x + (at[k] + at[k + 1]) / 2 * (b.x - a.x);
                const bool in = std::any_of(stretches.begin(), stretches.end(), [&](const Stretch& s) {
                    return s.from <= middle && middle <= s.to;
                });
                if (in == inside) bits.push_back({a + at[k] * (b - a), a + at[k + 1] * (b - a)});
            }
        }
    return chained(std::move(bits), 1e-6);
}

std::vector<Run> area_within(const std::vector<Run>& area, const Stretch& s) {
    std::vector<Run> out;
    for (const Run& r : area) {
        std::vector<At> p = r.points;
        for (const auto& [limit, sign] : {std::pair{s.from, 1.0}, std::pair{s.to, -1.0}}) {
            std::vector<At> kept;
            for (std::size_t i = 0; i < p.size(); ++i) {
                const At a = p[i], b = p[(i + 1) % p.size()];
                const double da = sign * (a.x - limit), db = sign * (b.x - limit);
                if (da >= 0) kept.push_back(a);
                if ((da > 0 && db < 0) || (da < 0 && db > 0)) kept.push_back(a + (da / (da - db)) * (b - a));
            }
            p = std::move(kept);
        }
        if (p.size() > 2) out.push_back({std::move(p), true});
    }
    return out;
}

std::vector<Run> area_half(const std::vector<Run>& area, bool upper) {
    std::vector<Run> out;
    const double sign = upper ? 1 : -1;
    for (const Run& r : area) {
        Run half{{}, true};
        for (std::size_t i = 0; i < r.points.size(); ++i) {
            const At a = r.points[i], b = r.points[(i + 1) % r.points.size()];
            const double ya = sign * a.y, yb = sign * b.y;
            if (ya >= 0) half.points.push_back(a);
            if ((ya > 0 && yb < 0) || (ya < 0 && yb > 0))
                half.points.push_back(a + (ya / (ya - yb)) * (b - a));
        }
        if (half.points.size() > 2) out.push_back(std::move(half));
    }
    return out;
}

} // namespace whorl::drawing
