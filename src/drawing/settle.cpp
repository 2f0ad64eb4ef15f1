#include "drawing/placed_view.hpp"

#include <algorithm>

namespace whorl::drawing {

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
