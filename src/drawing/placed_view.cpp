#include "drawing/placed_view.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::drawing {
namespace {

Stroke scaled(Stroke s, double k) {
    for (At& p : s.points)
        p = k * p;
    s.centre = k * s.centre;
    s.radius *= k;
    return s;
}

} // namespace

std::optional<Stroke> on_paper(const Mark& m, double k, int half, const std::vector<Stretch>& broken) {
    Stroke s = scaled(m.stroke, k);
    if (m.surface && s.points.size() == 2)
        for (const Stretch& b : broken) { // what of it is left beside one broken-out place
            At &p = s.points[0], &q = s.points[1];
            if (p.x > q.x) std::swap(p, q);
            const double from = b.from * k, to = b.to * k;
            if (p.x >= from && q.x <= to) return {};
            const auto at = [&](double x) { return p + ((x - p.x) / (q.x - p.x)) * (q - p); };
            if (p.x < from && q.x > from && q.x <= to)
                q = at(from);
            else if (p.x >= from && p.x < to && q.x > to)
                p = at(to);
        }
    if (half != 0 && !s.is_arc()) {
        for (std::size_t i = 0; i < s.points.size(); ++i)
            if (half * s.points[i].y < 0) {
                if (half * s.points[1 - std::min<std::size_t>(i, 1)].y <= 0) return {};
                s.points[i].y = 0; // an upright one ends on the axis
            }
    }
    if (m.beyond > 0 && s.points.size() == 2) {
        const At v = s.points[1] - s.points[0];
        const At along = (m.beyond / std::max(1e-9, std::hypot(v.x, v.y))) * v;
        s.points[0] = s.points[0] - along;
        s.points[1] = s.points[1] + along;
    }
    return s;
}

void add_strokes(PlacedView& view, const std::vector<Run>& runs, LineKind kind) {
    constexpr double tolerance = 2e-4; // mm on paper that points of an arc may lie off it
    for (Stroke& s : strokes_of(runs, kind, tolerance)) {
        view.outline.hold(bounds(s));
        view.paper.add(std::move(s));
    }
}

const MovedItem* moved_item(const PieceDrawing& drawing, const Link& link) {
    const auto found = std::find_if(drawing.items.begin(), drawing.items.end(), [&](const MovedItem& m) {
        return m.zone == link.zone && m.key == link.key;
    });
    return found == drawing.items.end() ? nullptr : &*found;
}

void settle(PlacedView& view, const Draft& draft) {
    for (Item& item : view.items) {
        if (const MovedItem* by_hand = moved_item(draft.by_hand, item.link)) {
            if (by_hand->left_out) continue;
            move(item, {by_hand->x, by_hand->y});
        }
        draw(view.paper, item);
    }
    view.items.clear();
}

} // namespace whorl::drawing
