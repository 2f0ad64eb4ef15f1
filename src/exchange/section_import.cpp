#include "exchange/section_import.hpp"

#include "form/groove/section_points.hpp"
#include "model/section_library.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

constexpr std::size_t largest_drawing = 8u << 20;
constexpr double chord_error = 1e-4; // of the outline's width

// Points that straight pieces do without, within the error (Ramer's division at the farthest point).
void thin_out(const std::vector<OutlinePoint>& p, std::size_t a, std::size_t b, double error,
              std::vector<bool>& keep) {
    if (b <= a + 1) return;
    std::size_t farthest = a;
    double most = error;
    const double length = distance(p[a], p[b]);
    for (std::size_t i = a + 1; i < b; ++i) {
        const double off =
            length < 1e-12
                ? distance(p[a], p[i])
                : std::abs((p[b].x - p[a].x) * (p[i].y - p[a].y) - (p[b].y - p[a].y) * (p[i].x - p[a].x)) /
                      length;
        if (off > most) most = off, farthest = i;
    }
    if (farthest == a) return;
    keep[farthest] = true;
    thin_out(p, a, farthest, error, keep);
    thin_out(p, farthest, b, error, keep);
}

// How far the arc over a chord stands off it to pass through a point beside it; to the left of the way.
double bow_through(const OutlinePoint& a, const OutlinePoint& b, const OutlinePoint& p) {
    const double chord = distance(a, b);
    const double along = ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / chord - chord / 2,
                 off = ((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)) / chord;
    if (std::abs(off) < 1e-15) return 0;
    // centre on the chord's bisector at height c: chord²/4 + c² = along² + (off − c)²
    const double c = (along * along + off * off - chord * chord / 4) / (2 * off);
    const double radius = std::hypot(chord / 2, c);
    return off > 0 ? c + radius : c - radius;
}

// Runs of five or more points that turn a little at each lie on an arc where one fits within the error.
std::vector<OutlinePoint> with_arcs(const std::vector<OutlinePoint>& p, double error) {
    const auto turn_at = [&](std::size_t i) {
        return std::abs(std::remainder(std::atan2(p[i + 1].y - p[i].y, p[i + 1].x - p[i].x) -
                                           std::atan2(p[i].y - p[i - 1].y, p[i].x - p[i - 1].x),
                                       2 * std::numbers::pi));
    };
    std::vector<OutlinePoint> out;
    std::size_t i = 0;
    while (i + 1 < p.size()) {
        std::size_t best = i;
        double bow = 0;
        for (std::size_t j = i + 2; j < p.size(); ++j) {
            if (p[j - 1].bow != 0 || p[j - 2].bow != 0 || turn_at(j - 1) > 0.35) break;
            const double b = bow_through(p[i], p[j], p[(i + j) / 2]), chord = distance(p[i], p[j]);
            if (std::abs(b) > 0.45 * chord) break;
            bool fits = true;
            for (std::size_t k = i + 1; fits && k < j; ++k) {
                const double bk = bow_through(p[i], p[j], p[k]);
                // the arcs through two points differ by about their bows; near the ends that overstates it
                const double x = distance(p[i], p[k]) * distance(p[k], p[j]) * 4 / (chord * chord);
                fits = std::abs(bk - b) * x < error;
            }
            if (!fits) break;
            // an arc may be level between its ends only where the points have their highest or lowest there
            const double radius = std::abs(b) < 1e-12 ? 0 : (chord * chord / 4 + b * b) / (2 * b);
            const double top = (p[i].y + p[j].y) / 2 + (p[j].x - p[i].x) / chord * (b - radius) +
                               std::abs(radius),
                         bottom = top - 2 * std::abs(radius);
            const double level_x = (p[i].x + p[j].x) / 2 - (p[j].y - p[i].y) / chord * (b - radius);
            if (radius != 0 && level_x > std::min(p[i].x, p[j].x) && level_x < std::max(p[i].x, p[j].x)) {
                const bool upper = p[(i + j) / 2].y > (top + bottom) / 2;
                double extreme = p[i + 1].y,
                       end = upper ? std::max(p[i].y, p[j].y) : std::min(p[i].y, p[j].y);
                for (std::size_t k = i + 1; k < j; ++k)
                    extreme = upper ? std::max(extreme, p[k].y) : std::min(extreme, p[k].y);
                if (upper ? extreme <= end : extreme >= end) continue;
            }
            if (j - i >= 4) best = j, bow = b;
        }
        OutlinePoint q = p[i];
        if (best > i) q.bow = std::abs(bow) < error / 4 ? 0 : bow;
        out.push_back(q);
        i = best > i ? best : i + 1;
    }
    out.push_back(p.back());
    return out;
}

// One groove from crest to crest about its middle, in the drawing's units; level is what lies within a thousandth of
// `pitch`, its width if none is said.
std::vector<OwnPoint> groove_of_outline(std::vector<OutlinePoint> p, std::optional<double> pitch) {
    if (p.size() < 2) throw InputError("An outline has at least three points.");
    if (p.front().x > p.back().x) { // drawn from right to left
        std::reverse(p.begin(), p.end());
        for (std::size_t i = 0; i + 1 < p.size(); ++i)
            p[i].bow = -p[i + 1].bow;
        p.back().bow = 0;
    }
    const double width = p.back().x - p.front().x;
    const double unit = pitch.value_or(width);
    if (!(unit > 0) || !std::isfinite(unit))
        throw InputError("The pitch of the outline must be more than zero.");
    // curves that came as many points
    p = with_arcs(p, chord_error * width);
    std::vector<bool> keep(p.size(), false);
    keep.front() = keep.back() = true;
    std::size_t from = 0;
    for (std::size_t i = 0; i < p.size(); ++i)
        if (p[i].bow != 0 || i + 1 == p.size() || (i > 0 && p[i - 1].bow != 0)) {
            keep[i] = true;
            thin_out(p, from, i, chord_error * width, keep);
            from = i;
        }
    std::vector<OutlinePoint> q;
    for (std::size_t i = 0; i < p.size(); ++i)
        if (keep[i]) q.push_back(p[i]);
    // level stretches at the ends are crest
    const double level = 1e-3 * unit, top = (q.front().y + q.back().y) / 2;
    if (std::abs(q.front().y - q.back().y) > level)
        throw InputError("The outline begins at height " + number_text(q.front().y, 4) + " and ends at " +
                         number_text(q.back().y, 4) + "; both ends must lie at the crest.");
    while (q.size() > 2 && q[0].bow == 0 && std::abs(q[1].y - top) < level)
        q.erase(q.begin());
    while (q.size() > 2 && q[q.size() - 2].bow == 0 && std::abs(q[q.size() - 2].y - top) < level)
        q.pop_back();
    if (q.size() > most_own_points)
        throw InputError("The outline has " + std::to_string(q.size()) + " points; at most 64 can be used.");
    std::vector<OwnPoint> out;
    out.reserve(q.size());
    const double middle = (q.front().x + q.back().x) / 2;
    for (const OutlinePoint& o : q)
        out.push_back({o.x - middle, o.y - top, o.bow});
    out.front().h = out.back().h = 0;
    out.back().bow = 0;
    return out;
}

std::string ending_of(const std::filesystem::path& path) {
    std::string ending = path.extension().string();
    for (char& c : ending)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return ending;
}

std::vector<OutlinePoint> outline_of(const std::filesystem::path& path, const std::string& text) {
    const std::string ending = ending_of(path);
    if (ending == ".dxf") return outline_from_dxf(text);
    if (ending == ".svg") return outline_from_svg(text);
    if (ending == ".csv" || ending == ".txt") return outline_from_csv(text);
    throw InputError(in_quotes(ending) +
                     " is not an ending of an outline that can be read: .dxf, .svg, .csv or .json.");
}

} // namespace

OwnSection section_from_outline(std::vector<OutlinePoint> p, const std::string& name,
                                std::optional<double> pitch) {
    const double unit = pitch ? *pitch : p.empty() ? 1 : std::abs(p.back().x - p.front().x);
    OwnSection out{name, groove_of_outline(std::move(p), pitch)};
    for (OwnPoint& q : out.points)
        q = {q.z / unit, q.h / unit, q.bow / unit};
    // a groove that is a single arc gets a point in its middle, since a section has three at least
    if (out.points.size() == 2 && out.points[0].bow != 0) out = with_point_after(out, 0);
    require_usable(out);
    return out;
}

OwnSection import_section(const std::filesystem::path& path, std::string name, std::optional<double> pitch) {
    const std::string text = read_file(path, largest_drawing);
    if (name.empty()) {
        name = path.stem().string();
        for (char& c : name)
            if (!std::isalnum(static_cast<unsigned char>(c)) && c != '-') c = '_';
        name.resize(std::min<std::size_t>(name.size(), 40));
    }
    require_section_name(name);
    if (ending_of(path) == ".json") return section_from_text(text);
    return section_from_outline(outline_of(path, text), name, pitch);
}

std::vector<OwnPoint> import_groove(const std::filesystem::path& path) {
    std::vector<OwnPoint> out =
        groove_of_outline(outline_of(path, read_file(path, largest_drawing)), std::nullopt);
    const double from = out.front().z;
    for (OwnPoint& q : out)
        q.z -= from;
    require_groove(out);
    return out;
}

} // namespace whorl
