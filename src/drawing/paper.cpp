#include "drawing/paper.hpp"

#include "drawing/letters.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace whorl::drawing {

void Box::hold(At p) {
    *this = empty()
                ? Box{p.x, p.y, p.x, p.y}
                : Box{std::min(left, p.x), std::min(bottom, p.y), std::max(right, p.x), std::max(top, p.y)};
}

void Box::hold(const Box& b) {
    if (b.empty()) return;
    hold(At{b.left, b.bottom});
    hold(At{b.right, b.top});
}

Box Box::grown(double by) const {
    return empty() ? *this : Box{left - by, bottom - by, right + by, top + by};
}

Box Box::moved(At by) const {
    return {left + by.x, bottom + by.y, right + by.x, top + by.y};
}

bool Box::meets(const Box& b) const {
    return !empty() && !b.empty() && left < b.right && b.left < right && bottom < b.top && b.bottom < top;
}

bool Box::holds(const Box& b) const {
    return b.empty() ||
           (!empty() && left <= b.left && b.right <= right && bottom <= b.bottom && b.top <= top);
}

const LineStyle& style_of(LineKind kind) {
    // ISO 128-2: dash 12 d, long dash 24 d, gaps 3 d, dots half a d, of the narrow line; shorter here than those, as
    // small views need it
    static const std::array<LineStyle, line_kinds> styles{{{"outline", 0.5, {}},
                                                           {"thin", 0.25, {}},
                                                           {"hatching", 0.18, {}},
                                                           {"hidden", 0.25, {2.5, 0.75}},
                                                           {"centre", 0.25, {6, 0.9, 0.4, 0.9}},
                                                           {"cut", 0.5, {6, 1, 0.5, 1}},
                                                           {"frame", 0.7, {}}}};
    return styles[static_cast<std::size_t>(kind)];
}

Stroke line(LineKind kind, At a, At b) {
    return {.kind = kind, .points = {a, b}};
}

Stroke circle(LineKind kind, At centre, double radius) {
    return arc(kind, centre, radius, 0, full_turn);
}

Stroke arc(LineKind kind, At centre, double radius, double from, double to) {
    return {.kind = kind, .centre = centre, .radius = radius, .from = from, .to = to};
}

std::vector<At> points_of(const Stroke& s, double chord) {
    std::vector<At> out = s.points;
    if (s.closed && !out.empty()) out.push_back(out.front());
    if (!s.is_arc()) return out;
    const double step = 2 * std::acos(std::max(0.0, 1 - chord / std::max(s.radius, 2 * chord)));
    const int n = std::max(4, static_cast<int>(std::ceil((s.to - s.from) / step)));
    for (int i = 0; i <= n; ++i) {
        const double a = s.from + (s.to - s.from) * i / n;
        out.push_back(s.centre + s.radius * At{std::cos(a), std::sin(a)});
    }
    return out;
}

Box bounds(const Stroke& s) {
    Box out;
    for (const At& p : points_of(s, 0.005))
        out.hold(p);
    return out;
}

std::vector<At> corners(const Text& t) {
    const double width = text_width(t.words, t.height);
    const double left = t.anchor == Anchor::left ? 0 : t.anchor == Anchor::middle ? -width / 2 : -width;
    const double low = -descent * t.height, high = ascent * t.height;
    const At along{std::cos(t.angle), std::sin(t.angle)}, over{-along.y, along.x};
    std::vector<At> out;
    for (const auto& [x, y] : {std::pair{left, low}, {left + width, low}, {left + width, high}, {left, high}})
        out.push_back(t.at + x * along + y * over);
    return out;
}

Box bounds(const Text& t) {
    Box out;
    for (const At& p : corners(t))
        out.hold(p);
    return out;
}

std::vector<At> curve_through(const std::vector<At>& p) {
    const auto length = [](At v) { return std::max(1e-12, std::hypot(v.x, v.y)); };
    const auto slope = [&](std::size_t i) {
        if (i == 0) return p[1] - p[0];
        if (i + 1 == p.size()) return p[i] - p[i - 1];
        const At a = p[i] - p[i - 1], b = p[i + 1] - p[i];
        return (length(b) / length(a)) * a + (length(a) / length(b)) * b;
    };
    std::vector<At> out{p[0]};
    for (std::size_t i = 0; i + 1 < p.size(); ++i) {
        const double third = length(p[i + 1] - p[i]) / 3;
        const At a = slope(i), b = slope(i + 1);
        out.push_back(p[i] + (third / length(a)) * a);
        out.push_back(p[i + 1] - (third / length(b)) * b);
        out.push_back(p[i + 1]);
    }
    return out;
}

Stroke moved(Stroke s, At by) {
    for (At& p : s.points)
        p = p + by;
    s.centre = s.centre + by;
    return s;
}

void Paper::add(const Paper& other, At by) {
    for (const Stroke& s : other.strokes)
        strokes.push_back(moved(s, by));
    for (Fill f : other.fills) {
        for (At& p : f.points)
            p = p + by;
        fills.push_back(std::move(f));
    }
    for (Text t : other.texts) {
        t.at = t.at + by;
        if (!t.room.empty()) t.room = t.room.moved(by);
        texts.push_back(std::move(t));
    }
}

Box Paper::bounds() const {
    Box out;
    for (const Stroke& s : strokes)
        out.hold(drawing::bounds(s));
    for (const Fill& f : fills)
        for (const At& p : f.points)
            out.hold(p);
    for (const Text& t : texts)
        out.hold(drawing::bounds(t));
    return out;
}

} // namespace whorl::drawing
