#include "exchange/gear_compare.hpp"

#include "exchange/outline_fit.hpp"
#include "model/job_file.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <numbers>
#include <sstream>

namespace whorl {
namespace {

// Of a point given by radius and angle from the middle of a space.
double off_outline(const ResolvedGear& g, double radius, double angle) {
    const double u = std::abs(angle);
    const double off = off_half_outline(g.half_outline, 1, std::abs(g.tip_radius - g.root_radius),
                                        radius * std::cos(u), radius * std::sin(u));
    return g.spec.internal ? -off : off;
}

} // namespace

GearComparison compare_outline(const ResolvedGear& g, const std::vector<OutlinePiece>& pieces) {
    if (g.half_outline.empty())
        throw InputError("This gear can't be made, so nothing can be compared with it.");
    if (pieces.size() < 8)
        throw InputError("The outline has only " + std::to_string(pieces.size()) +
                         " pieces; a gear's has more.");
    const std::vector<OutlineSample> all = sampled(pieces);
    double length = 0, cx = 0, cy = 0, ours = 0;
    for (const OutlineSample& s : all) {
        length += s.weight;
        cx += s.weight * s.x;
        cy += s.weight * s.y;
    }
    for (const TransverseCurve& c : g.half_outline)
        for (int i = 0; i < 50; ++i) {
            const TransversePoint p = point_at(c, c.from + (c.to - c.from) * i / 50),
                                  q = point_at(c, c.from + (c.to - c.from) * (i + 1) / 50);
            ours += 2 * g.spec.teeth * std::hypot(p.x - q.x, p.y - q.y);
        }
    GearComparison out;
    out.whole = length > 0.8 * ours;
    if (out.whole) out.axis_x = cx / length, out.axis_y = cy / length;
    // what lies about the teeth; bores and hubs are not looked at
    const double depth = std::abs(g.tip_radius - g.root_radius);
    const double low = std::min(g.tip_radius, g.root_radius) - 0.5 * depth,
                 high = std::max(g.tip_radius, g.root_radius) + 0.5 * depth;
    // bores and keyways have drawn the centre of all lines aside: the teeth's own is found again
    for (int pass = 0; out.whole && pass < 4; ++pass) {
        double sum = 0, x = 0, y = 0;
        for (const OutlineSample& s : all)
            if (const double r = std::hypot(s.x - out.axis_x, s.y - out.axis_y); r > low && r < high) {
                sum += s.weight;
                x += s.weight * s.x;
                y += s.weight * s.y;
            }
        if (sum <= 0) break;
        out.axis_x = x / sum, out.axis_y = y / sum;
    }
    struct Polar {
        double radius, angle;
    };
    std::vector<Polar> near;
    for (const OutlineSample& s : all) {
        const double x = s.x - out.axis_x, y = s.y - out.axis_y, r = std::hypot(x, y);
        if (r > low && r < high) near.push_back({r, std::atan2(y, x)});
    }
    if (near.size() < 16)
        throw InputError("Nothing of the outline lies between Ø " + number_text(2 * low, 3) + " and Ø " +
                         number_text(2 * high, 3) +
                         " mm, where this gear has its teeth; is it in mm, and about its axis?");
    // the phase: tried all over a pitch on some of the flanks' points, then closed in on with all of them
    const double pitch = g.pitch_angle(), middle = (g.tip_radius + g.root_radius) / 2;
    const auto folded = [&](double angle, double turned) { return std::remainder(angle - turned, pitch); };
    struct FlankPoint {
        double radius, angle, half; // half the space's angle there
    };
    std::vector<FlankPoint> flanks; // tips and roots don't say the phase
    for (const Polar& p : near)
        if (std::abs(p.radius - middle) < 0.3 * depth)
            flanks.push_back({p.radius, p.angle, space_half_angle_at(g, p.radius)});
    const auto misfit = [&](double turned, std::size_t every) {
        double sum = 0;
        for (std::size_t i = 0; i < flanks.size(); i += every) {
            const FlankPoint& f = flanks[i];
            const double d = (std::abs(folded(f.angle, turned)) - f.half) * f.radius;
            sum += d * d;
        }
        return sum;
    };
    const std::size_t every = std::max<std::size_t>(1, flanks.size() / 400);
    double best = 0, least = 1e300;
    for (int i = 0; i < 240; ++i)
        if (const double m = misfit(pitch * i / 240, every); m < least) least = m, best = pitch * i / 240;
    double from = best - pitch / 120, to = best + pitch / 120;
    for (int i = 0; i < 50; ++i) {
        const double p = from + (to - from) * 0.381966, q = from + (to - from) * 0.618034;
        (misfit(p, 1) < misfit(q, 1) ? to : from) = misfit(p, 1) < misfit(q, 1) ? q : p;
    }
    out.turned = (from + to) / 2;
    double squares = 0;
    const std::size_t step = std::max<std::size_t>(1, near.size() / 6000);
    for (std::size_t i = 0; i < near.size(); i += step) {
        const double angle = folded(near[i].angle, out.turned);
        const GearDeviation d{near[i].radius, angle, off_outline(g, near[i].radius, angle)};
        squares += d.off * d.off;
        if (std::abs(d.off) > std::abs(out.worst.off)) out.worst = d;
        out.points.push_back(d);
    }
    out.root_mean_square = std::sqrt(squares / static_cast<double>(out.points.size()));
    return out;
}

std::vector<CutTriangle> triangles_of_stl(const std::string& content) {
    std::vector<CutTriangle> out;
    std::uint32_t count = 0;
    if (content.size() >= 84) std::memcpy(&count, content.data() + 80, 4);
    if (content.size() == 84 + 50ull * count && count > 0) {
        for (std::uint32_t i = 0; i < count; ++i) {
            float v[12];
            std::memcpy(v, content.data() + 84 + 50ull * i, sizeof v);
            out.push_back({{{v[3], v[4], v[5]}, {v[6], v[7], v[8]}, {v[9], v[10], v[11]}}});
        }
    } else if (content.starts_with("solid")) {
        std::istringstream in(content);
        std::string word;
        CutTriangle t{};
        for (int corner = 0; in >> word;)
            if (word == "vertex" && in >> t.corner[corner][0] >> t.corner[corner][1] >> t.corner[corner][2] &&
                ++corner == 3) {
                out.push_back(t);
                corner = 0;
            }
    }
    if (out.empty()) throw InputError("This is not an STL mesh: it holds no triangles, or is cut short.");
    return out;
}

std::vector<OutlinePiece> cut_at_half_height(const std::vector<CutTriangle>& triangles) {
    double low = 1e300, high = -1e300;
    for (const auto& t : triangles)
        for (const auto& c : t.corner) {
            low = std::min(low, c[2]);
            high = std::max(high, c[2]);
        }
    const double z = low + (high - low) * 0.49731; // not where a layer of corners may lie
    std::vector<OutlinePiece> out;
    for (const auto& t : triangles) {
        std::vector<OutlinePoint> cut;
        for (std::size_t k = 0; k < 3; ++k) {
            const auto &a = t.corner[k], &b = t.corner[(k + 1) % 3];
            if ((a[2] > z) == (b[2] > z)) continue;
            const double s = (z - a[2]) / (b[2] - a[2]);
            cut.push_back({a[0] + s * (b[0] - a[0]), a[1] + s * (b[1] - a[1]), 0});
        }
        if (cut.size() == 2) out.push_back({cut[0], cut[1]});
    }
    return out;
}

std::vector<OutlinePiece> outline_pieces(const std::filesystem::path& path) {
    const std::string ending = path.extension();
    if (ending == ".step" || ending == ".stp") return outline_of_step(path);
    const std::string content = read_file(path, 200u << 20);
    if (ending == ".stl") return cut_at_half_height(triangles_of_stl(content));
    if (ending == ".dxf") return pieces_from_dxf(content);
    if (ending != ".svg" && ending != ".csv" && ending != ".txt")
        throw InputError(
            "A gear is compared with a .dxf, .svg or .csv outline or a .stl or .step solid, not '" + ending +
            "'.");
    const std::vector<OutlinePoint> points =
        ending == ".svg" ? closed_outline_from_svg(content) : outline_from_csv(content);
    std::vector<OutlinePiece> pieces;
    for (std::size_t i = 0; i + 1 < points.size(); ++i)
        pieces.push_back({points[i], points[i + 1]});
    return pieces;
}

GearComparison compare_file(const ResolvedGear& gear, const std::filesystem::path& path) {
    return compare_outline(gear, outline_pieces(path));
}

} // namespace whorl
