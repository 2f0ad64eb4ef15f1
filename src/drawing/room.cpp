#include "drawing/placed_view.hpp"

#include <algorithm>

namespace whorl::drawing {
namespace {

// A straight line passes through a box.
bool passes(At a, At b, const Box& box) {
    double low = 0, high = 1;
    const auto cut = [&](double from, double step, double least, double most) {
        if (step == 0) {
            if (from <= least || from >= most) high = -1;
            return;
        }
        const double p = (least - from) / step, q = (most - from) / step;
        low = std::max(low, std::min(p, q));
        high = std::min(high, std::max(p, q));
    };
    cut(a.x, b.x - a.x, box.left, box.right);
    cut(a.y, b.y - a.y, box.bottom, box.top);
    return high > low;
}

} // namespace

bool Room::free(const Box& text) const {
    return std::none_of(texts_.begin(), texts_.end(), [&](const Box& b) { return b.meets(text); }) &&
           std::none_of(lines_.begin(), lines_.end(),
                        [&](const auto& l) { return passes(l[0], l[1], text); });
}

bool Room::free(At a, At b) const {
    return std::none_of(texts_.begin(), texts_.end(), [&](const Box& t) { return passes(a, b, t); });
}

bool Room::uncrossed(At a, At b) const {
    const auto side = [](At p, At q, At r) { return (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x); };
    return std::none_of(leaders_.begin(), leaders_.end(), [&](const auto& l) {
        return side(a, b, l[0]) * side(a, b, l[1]) < 0 && side(l[0], l[1], a) * side(l[0], l[1], b) < 0;
    });
}

} // namespace whorl::drawing
