#include "drawing/bent_view.hpp"

#include "drawing/arrows.hpp"
#include "drawing/forms/form_drawing.hpp"
#include "drawing/letters.hpp"
#include "model/forms/bend.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::drawing {
namespace {

class AlongBent {
public:
    AlongBent(PlacedView& view, const Draft& draft, double k)
        : view_(view), draft_(draft), k_(k), way_(draft.piece.centreline()) {
        for (const Stroke& s : view.paper.strokes) {
            const std::vector<At> p = points_of(s, 0.2);
            for (std::size_t i = 0; i + 1 < p.size(); ++i)
                room_.take_line(p[i], p[i + 1]);
        }
    }

    void place() {
        centre_line();
        conventional_lines();
        for (const Dimension& d : draft_.dimensions)
            if (d.measure == Measure::along) length(d);
        for (std::size_t i = 0; i < draft_.piece.zones.size(); ++i)
            if (const ResolvedBend* b = draft_.piece.zones[i].bend()) bend(i, *b);
        for (const Dimension& d : draft_.dimensions)
            if (d.measure != Measure::along) {
                const double z = (d.from + d.to) / 2;
                note(d.measure == Measure::across ? z : d.from, d.radius, d.words, d.link);
            }
    }

private:
    // The centreline on paper, and which way it runs there.
    struct Place {
        At at, along;
    };
    Place place_of(double z) const {
        const BarFrame f = way_.frame_at(z);
        const auto seen = [&](const Direction& d) { return draft_.gaze.at({d[0], d[1], d[2]}); };
        At along = seen(f.t);
        const double size = std::hypot(along.x, along.y);
        along = size > 1e-6 ? (1 / size) * along : At{1, 0};
        return {k_ * seen(f.origin), along};
    }
    At beside(double z, double off) const { // to the left of the way
        const Place p = place_of(z);
        return p.at + off * k_ * At{-p.along.y, p.along.x};
    }

    void centre_line() {
        for (const ResolvedZone& z : draft_.piece.zones) {
            if (z.in_bore()) continue;
            const double a = in_mm(z.start), b = in_mm(z.end());
            std::vector<At> p;
            const int n = z.bend() ? 24 : 1;
            for (int i = 0; i <= n; ++i)
                p.push_back(place_of(a + (b - a) * i / n).at);
            view_.paper.add({.kind = LineKind::centre, .points = p, .smooth = z.bend() != nullptr});
        }
    }

    // Thread roots and pitch lines, along straight parts.
    void conventional_lines() {
        for (std::size_t i = 0; i < draft_.piece.zones.size(); ++i) {
            const ResolvedZone& z = draft_.piece.zones[i];
            const auto side = drawing_of(z).side;
            if (!side || z.bend() || draft_.true_form) continue;
            std::vector<Mark> marks;
            side({draft_.piece, z, draft_.index, i, draft_.unit, k_, draft_.sectioned != Sectioned::no},
                 marks);
            for (const Mark& m : marks)
                if (m.stroke.points.size() == 2) {
                    const At a = m.stroke.points[0], b = m.stroke.points[1];
                    view_.paper.add(line(m.stroke.kind, beside(a.x, a.y), beside(b.x, b.y)));
                }
        }
    }

    // Beside its part, on whichever side there is room.
    void length(const Dimension& d) {
        for (int row = 0; row < 12; ++row)
            for (const double side : {1.0, -1.0}) {
                const double off = side * (d.radius * k_ + first_row + row * next_row) / k_;
                At a = beside(d.from, off), b = beside(d.to, off), fa = beside(d.from, side * d.radius),
                   fb = beside(d.to, side * d.radius);
                if (b.x < a.x - 1e-6 || (std::abs(b.x - a.x) <= 1e-6 && b.y < a.y)) {
                    std::swap(a, b);
                    std::swap(fa, fb);
                }
                const bool roomy = std::hypot(b.x - a.x, b.y - a.y) >= room_for_text(d.words);
                for (const TextPlace place : roomy ? std::vector{TextPlace::inside}
                                                   : std::vector{TextPlace::after, TextPlace::before}) {
                    const DimensionLine l{a, b, d.words, place, d.link};
                    Paper p;
                    draw(p, l);
                    if (!room_.free(tight(p.texts[0])) ||
                        !room_.free(p.strokes[0].points[0], p.strokes[0].points[1]))
                        continue;
                    extension(p, fa, a);
                    extension(p, fb, b);
                    take(p);
                    view_.items.push_back({.link = d.link, .line = l, .features = {fa, fb}});
                    return;
                }
            }
        view_.left_out.push_back(d.words);
    }

    void bend(std::size_t zone, const ResolvedBend& b) {
        const ResolvedZone& z = draft_.piece.zones[zone];
        const Link radius{draft_.index, zone, "bend_radius", field::bend_radius};
        const Link angle{draft_.index, zone, "bend_angle", field::bend_angle};
        const double middle = in_mm(z.start + z.length * 0.5);
        note(middle - 0.12 * in_mm(z.length), 0, "R" + figure(b.radius, draft_.unit), radius);
        std::string words = degrees(b.angle);
        if (std::abs(b.spec.roll) > 1e-9) words += ", rolled " + degrees(b.spec.roll);
        note(middle + 0.12 * in_mm(z.length), 0, words, angle);
    }

    // A leader away from the bar, longer and longer until its words are free.
    void note(double z, double off, const std::string& words, const Link& link) {
        const double width = text_width(words, text_height);
        const Place p = place_of(z);
        const At left{-p.along.y, p.along.x};
        for (double reach = 8; reach < 160; reach += 4)
            for (const double side : {1.0, -1.0})
                for (const double lean : {0.0, 0.5, -0.5, 1.0, -1.0}) {
                    const At tip = p.at + side * off * k_ * left;
                    At away = side * left + lean * p.along;
                    away = (1 / std::hypot(away.x, away.y)) * away;
                    const At knee = tip + reach * away;
                    const double way = away.x >= 0 ? 1 : -1;
                    const At shelf = knee + At{way * (width + 2), 0};
                    const Text text{.at = knee + At{way, over_line},
                                    .words = words,
                                    .height = text_height,
                                    .anchor = way > 0 ? Anchor::left : Anchor::right,
                                    .link = link};
                    if (!room_.free(bounds(text)) || !room_.free(tip, knee) || !room_.free(knee, shelf))
                        continue;
                    view_.items.push_back({.link = link, .points = {tip, knee, shelf}, .text = text});
                    Paper drawn;
                    draw(drawn, view_.items.back());
                    take(drawn);
                    return;
                }
        view_.left_out.push_back(words);
    }

    // A slanted text's own box is larger than it: its middle part decides.
    static Box tight(const Text& t) {
        const double slant = std::abs(std::sin(2 * t.angle));
        return bounds(t).grown(-slant * 0.2 * text_width(t.words, t.height) * 0.5);
    }
    void take(const Paper& p) {
        for (const Text& t : p.texts)
            room_.take(bounds(t).grown(0.4));
        for (const Stroke& s : p.strokes)
            for (std::size_t i = 0; i + 1 < s.points.size(); ++i)
                room_.take_line(s.points[i], s.points[i + 1]);
    }

    PlacedView& view_;
    const Draft& draft_;
    double k_;
    BentLine way_;
    Room room_;
};

} // namespace

void place_along_bent(PlacedView& view, const Draft& d, double k) {
    AlongBent(view, d, k).place();
}

} // namespace whorl::drawing
