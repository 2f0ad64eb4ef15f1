#include "drawing/arrows.hpp"

#include "drawing/letters.hpp"
#include "quantity/numeric.hpp"

#include <cmath>

namespace whorl::drawing {

Fill arrow_head(At tip, At along) {
    const double half = arrow_length * std::tan(7.5 * pi / 180);
    const At back = tip - arrow_length * along, across{-along.y, along.x};
    return {{tip, back + half * across, back - half * across}};
}

double room_for_text(const std::string& words) {
    return text_width(words, text_height) + 2 * arrow_length + 1.5;
}

double room_for_arrows() {
    return 2 * arrow_length + 1;
}

void draw(Paper& to, const DimensionLine& d) {
    const At span = d.b - d.a;
    const double length = std::hypot(span.x, span.y);
    const At along = length > 1e-9 ? (1 / length) * span : At{1, 0}, over{-along.y, along.x};
    const double width = text_width(d.words, text_height);
    const bool outside = length < room_for_arrows();
    const double reach = outside ? arrow_length + 2 : 0; // of the line beyond its ends
    const double after = d.place == TextPlace::after ? std::max(reach, 1.5) + width + 1 : reach;
    const double before = d.place == TextPlace::before ? std::max(reach, 1.5) + width + 1 : reach;
    to.add(line(LineKind::thin, d.a - before * along, d.b + after * along));
    to.fills.push_back(arrow_head(d.a, outside ? along : -1.0 * along));
    to.fills.push_back(arrow_head(d.b, outside ? -1.0 * along : along));
    const double at = d.place == TextPlace::inside  ? length / 2
                      : d.place == TextPlace::after ? length + std::max(reach, 1.5) + width / 2
                                                    : -std::max(reach, 1.5) - width / 2;
    const double stands = at + d.shift; // … and the line goes on as far as its text
    if (stands + width / 2 > length + after)
        to.add(line(LineKind::thin, d.b, d.a + (stands + width / 2 + 1) * along));
    if (stands - width / 2 < -before)
        to.add(line(LineKind::thin, d.a, d.a + (stands - width / 2 - 1) * along));
    to.add(Text{.at = d.a + stands * along + over_line * over,
                .words = d.words,
                .height = text_height,
                .anchor = Anchor::middle,
                .angle = std::atan2(along.y, along.x),
                .link = d.link});
}

void extension(Paper& to, At feature, At dimension) {
    const At v = dimension - feature;
    const double length = std::hypot(v.x, v.y);
    if (length < 1e-9) return;
    const At along = (1 / length) * v;
    to.add(
        line(LineKind::thin, feature + std::min(0.7, length / 2) * along, dimension + beyond_line * along));
}

void draw(Paper& to, const Item& item) {
    if (item.line) {
        if (item.features.size() == 2) {
            extension(to, item.features[0], item.line->a);
            extension(to, item.features[1], item.line->b);
        }
        draw(to, *item.line);
        return;
    }
    const At tip = item.points[0], knee = item.points[1];
    if (item.through > 0) { // upright through both its edges
        const double r = item.through;
        const bool outside = 2 * r < room_for_arrows();
        to.add({.kind = LineKind::thin, .points = item.points});
        if (item.features.size() == 2)
            for (const auto& [feature, y] : {std::pair{item.features[0], r}, std::pair{item.features[1], -r}})
                to.add(line(LineKind::thin, feature, {tip.x + (tip.x < feature.x ? -1 : 1), y}));
        if (outside) to.add(line(LineKind::thin, tip, tip + At{0, -5}));
        to.fills.push_back(arrow_head({tip.x, r}, {0, outside ? -1.0 : 1.0}));
        to.fills.push_back(arrow_head({tip.x, -r}, {0, outside ? 1.0 : -1.0}));
    } else {
        to.add({.kind = LineKind::thin, .points = item.points});
        const At v = tip - knee;
        to.fills.push_back(arrow_head(tip, (1 / std::max(1e-9, std::hypot(v.x, v.y))) * v));
    }
    to.add(item.text);
}

void move(Item& item, At by) {
    if (item.line) {
        DimensionLine& l = *item.line;
        const At span = l.b - l.a;
        const double length = std::max(1e-9, std::hypot(span.x, span.y));
        const At along = (1 / length) * span, over{-along.y, along.x};
        const double away = by.x * over.x + by.y * over.y;
        if (item.features.size() == 2) {
            l.a = l.a + away * over;
            l.b = l.b + away * over;
        }
        l.shift += by.x * along.x + by.y * along.y;
        return;
    }
    if (item.through > 0) item.points[0].x += by.x;
    for (std::size_t i = 1; i < item.points.size(); ++i)
        item.points[i] = item.points[i] + by;
    item.text.at = item.text.at + by;
}

} // namespace whorl::drawing
