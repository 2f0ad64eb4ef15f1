#include "exchange/gear_compare.hpp"

#include "exchange/gear_fit.hpp"
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
    if (out.whole) { // bores, keyways and missing teeth draw the centre of all lines aside
        const OutlinePoint middle = middle_of_tips(all, g.spec.teeth, cx / length, cy / length);
        out.axis_x = middle.x, out.axis_y = middle.y;
    }
    const double pitch = g.pitch_angle(), depth = std::abs(g.tip_radius - g.root_radius);
    // what lies about the teeth; bores and hubs are not looked at
    const double low = std::min(g.tip_radius, g.root_radius) - 0.5 * depth,
                 high = std::max(g.tip_radius, g.root_radius) + 0.5 * depth;
    const GearPose pose = pose_of(g, all, out.axis_x, out.axis_y, out.whole);
    if (!pose.found)
        throw InputError("Nothing of the outline lies between Ø " + number_text(2 * low, 3) + " and Ø " +
                         number_text(2 * high, 3) +
                         " mm, where this gear has its teeth; is it in mm, and about its axis?");
    out.axis_x = pose.x, out.axis_y = pose.y;
    out.turned = std::remainder(pose.turned, pitch);
    // a whole outline's teeth that it does not have
    const double first = pose.turned - pitch / 2; // the tooth before the first space
    const int usual = *std::max_element(pose.used.begin(), pose.used.end());
    for (std::size_t k = 0; out.whole && k < pose.used.size(); ++k)
        if (pose.used[k] < usual / 8 + 1)
            out.missing.push_back(
                std::remainder(first + pitch * static_cast<double>(k), 2 * std::numbers::pi));
    const auto left_out = [&](double angle) {
        return std::any_of(out.missing.begin(), out.missing.end(), [&](double tooth) {
            return std::abs(std::remainder(angle - tooth, 2 * std::numbers::pi)) < pitch / 2;
        });
    };
    struct Polar {
        double radius, angle;
    };
    std::vector<Polar> near;
    for (const OutlineSample& s : all) {
        const double x = s.x - out.axis_x, y = s.y - out.axis_y, r = std::hypot(x, y),
                     angle = std::atan2(y, x);
        if (r > low && r < high && !left_out(angle)) near.push_back({r, angle});
    }
    double squares = 0;
    std::vector<double> off;
    const std::size_t step = std::max<std::size_t>(1, near.size() / 6000);
    for (std::size_t i = 0; i < near.size(); i += step) {
        const double angle = std::remainder(near[i].angle - out.turned, pitch);
        const GearDeviation d{near[i].radius, angle, off_outline(g, near[i].radius, angle)};
        squares += d.off * d.off;
        off.push_back(d.off);
        if (std::abs(d.off) > std::abs(out.worst.off)) out.worst = d;
        out.points.push_back(d);
    }
    const double m = in_mm(g.spec.module);
    const auto beside =
        std::count_if(off.begin(), off.end(), [&](double d) { return std::abs(d) > 0.35 * m; });
    if (off.size() < 16 || 5 * static_cast<std::size_t>(beside) > 2 * off.size() || pose.spread > 0.25 * m ||
        2 * out.missing.size() > pose.used.size())
        throw InputError(
            "The outline does not go along this gear's teeth: " +
            number_text(off.empty() ? 100
                                    : 100.0 * static_cast<double>(beside) / static_cast<double>(off.size()),
                        0) +
            " % of what lies between root and tip is further off them than " + number_text(0.35 * m, 3) +
            " mm. Is it of this module and number of teeth, in mm, with its axis along z?");
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
        ending == ".svg" ? closed_outline_from_svg(content) : long_outline_from_csv(content);
    std::vector<OutlinePiece> pieces;
    for (std::size_t i = 0; i + 1 < points.size(); ++i)
        pieces.push_back({points[i], points[i + 1]});
    return pieces;
}

GearComparison compare_file(const ResolvedGear& gear, const std::filesystem::path& path) {
    return compare_outline(gear, outline_pieces(path));
}

} // namespace whorl
