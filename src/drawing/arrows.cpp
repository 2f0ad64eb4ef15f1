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
    const At along = std::abs(span.x) >= std::abs(span.y) ? At{1, 0} : At{0, 1}, over{-along.y, along.x};
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
    to.add(Text{.at = d.a + at * along + over_line * over,
                .words = d.words,
                .height = text_height,
                .anchor = Anchor::middle,
                .angle = along.y > 0 ? pi / 2 : 0,
                .link = d.link});
}

void extension(Paper& to, At feature, At dimension) {
    const At v = dimension - feature;
    const double length = std::hypot(v.x, v.y);
    if (length < 1e-9) return;
    const At along = (1 / length) * v;
    to.add(line(LineKind::thin, feature + std::min(0.7, length / 2) * along, dimension + beyond_line * along));
}

} // namespace whorl::drawing
