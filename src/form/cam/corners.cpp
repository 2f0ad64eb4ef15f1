#include "form/cam/corners.hpp"

#include <algorithm>

namespace whorl {
namespace {

using Powers = std::array<double, 6>;

// The same polynomial counted from `by` on.
Powers counted_from(Powers c, double by) {
    for (std::size_t i = 0; i + 1 < c.size(); ++i)
        for (std::size_t k = c.size() - 1; k-- > i;)
            c[k] += by * c[k + 1];
    return c;
}

Powers blend_of(const Derivatives& a, const Derivatives& b, double h, CornerKind kind) {
    if (kind != CornerKind::blended) {
        const double rise = (b[0] - a[0]) / h;
        return {a[0], a[1], (3 * rise - 2 * a[1] - b[1]) / h, (a[1] + b[1] - 2 * rise) / (h * h)};
    }
    const double rise = b[0] - a[0];
    return {a[0],
            a[1],
            a[2] / 2,
            (20 * rise - (8 * b[1] + 12 * a[1]) * h - (3 * a[2] - b[2]) * h * h) / (2 * h * h * h),
            (-30 * rise + (14 * b[1] + 16 * a[1]) * h + (3 * a[2] - 2 * b[2]) * h * h) / (2 * h * h * h * h),
            (12 * rise - 6 * (b[1] + a[1]) * h - (a[2] - b[2]) * h * h) / (2 * h * h * h * h * h)};
}

std::size_t before(const Motion& m, std::size_t part) {
    return part > 0 ? part - 1 : m.parts.size() - 1;
}

} // namespace

std::string_view word(CornerKind kind) {
    constexpr std::string_view words[]{"rounded", "blended", "sharp"};
    return words[static_cast<int>(kind)];
}

MotionPart blend_before(const Motion& m, std::size_t part, double w, CornerKind kind) {
    const std::size_t last = before(m, part);
    const MotionPart &p = m.parts[last], &q = m.parts[part];
    MotionPart blend;
    blend.from = q.from - w;
    blend.to = q.from + w;
    blend.stretch = q.stretch;
    blend.powers = blend_of(m.at(p.to - w, last), m.at(q.from + w, part), 2 * w, kind);
    return blend;
}

Rounded round_corners(const Motion& m, const std::vector<double>& half_widths, CornerKind kind) {
    Rounded out{m, {}};
    const std::size_t n = m.parts.size();
    for (std::size_t i = 0; i < n; ++i)
        if (half_widths[i] > 0) {
            out.corners.push_back(m.parts[i].from);
            out.widest = std::max(out.widest, half_widths[i]);
        }
    if (out.corners.empty()) return out;
    const auto cut_after = [&](std::size_t i) { return half_widths[i + 1 < n ? i + 1 : 0]; };
    out.motion.parts.clear();
    for (std::size_t i = 0; i < n; ++i)
        if (half_widths[i] + cut_after(i) > m.parts[i].to - m.parts[i].from - 1e-6) return out;
    for (std::size_t i = 0; i < n; ++i) {
        if (half_widths[i] > 0 && i > 0) out.motion.parts.push_back(blend_before(m, i, half_widths[i], kind));
        MotionPart p = m.parts[i];
        // a polynomial counts from its own begin, which moves
        if (!p.law) p.powers = counted_from(p.powers, half_widths[i]);
        p.from += half_widths[i];
        p.to -= cut_after(i);
        out.motion.parts.push_back(p);
    }
    if (const double w = half_widths[0];
        w > 0) { // across the end of the turn: its two halves stand at either end
        MotionPart begin = blend_before(m, 0, w, kind), end = begin;
        begin.powers = counted_from(begin.powers, w);
        begin.from = 0;
        begin.to = w;
        end.from = m.turn - w;
        end.to = m.turn;
        out.motion.parts.insert(out.motion.parts.begin(), begin);
        out.motion.parts.push_back(end);
    }
    look_over(out.motion);
    return out;
}

} // namespace whorl
