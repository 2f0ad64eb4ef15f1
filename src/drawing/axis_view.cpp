#include "drawing/axis_view.hpp"

#include "drawing/letters.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace whorl::drawing {
namespace {

// Dimensions around a view of a piece with an axis.
class Around {
public:
    Around(const Draft& draft, double k, PlacedView& view) : draft_(draft), k_(k), view_(view) {}

    void place() {
        const Box& o = view_.outline;
        room_.take_line({o.left - 4, 0}, {o.right + 4, 0}); // the axis
        place_diameters();
        place_corner_notes();
        place_notes_below();
        place_lengths();
        place_notes();
    }
    const std::vector<const Dimension*>& left_out() const { return left_out_; }

private:
    bool fits(const DimensionLine& d) const {
        Paper drawn;
        draw(drawn, d);
        return std::all_of(drawn.texts.begin(), drawn.texts.end(),
                           [&](const Text& t) { return room_.free(bounds(t)); }) &&
               std::all_of(drawn.strokes.begin(), drawn.strokes.end(), [&](const Stroke& s) {
                   return room_.free(s.points[0], s.points[1]) && clear_of_lines(s);
               });
    }
    // Dimension lines of one row don't lie on each other.
    bool clear_of_lines(const Stroke& s) const {
        const At a = s.points[0], b = s.points[1];
        const bool level = std::abs(a.y - b.y) < 1e-9;
        return std::none_of(dimension_lines_.begin(), dimension_lines_.end(), [&](const Stroke& o) {
            const At p = o.points[0], q = o.points[1];
            if (level != (std::abs(p.y - q.y) < 1e-9)) return false;
            return level ? std::abs(p.y - a.y) < 1 && std::max(p.x, q.x) > std::min(a.x, b.x) + 0.01 &&
                               std::min(p.x, q.x) < std::max(a.x, b.x) - 0.01
                         : std::abs(p.x - a.x) < 1 && std::max(p.y, q.y) > std::min(a.y, b.y) + 0.01 &&
                               std::min(p.y, q.y) < std::max(a.y, b.y) - 0.01;
        });
    }
    void put_line(const DimensionLine& d, std::vector<At> features) {
        Paper drawn;
        draw(drawn, d);
        for (const Text& t : drawn.texts)
            room_.take(bounds(t).grown(0.4));
        for (const Stroke& s : drawn.strokes)
            room_.take_line(s.points[0], s.points[1]);
        dimension_lines_.push_back(drawn.strokes.front());
        view_.items.push_back({.link = d.link.value_or(Link{}), .line = d, .features = std::move(features)});
    }
    // Where extension lines will come down: everything that is still to be placed.
    bool clear_of_edges(const DimensionLine& d, const std::vector<double>& edges, bool level) const {
        Paper drawn;
        draw(drawn, d);
        const Box t = bounds(drawn.texts.front());
        return std::none_of(edges.begin(), edges.end(), [&](double e) {
            return level ? t.left - 0.3 < e && e < t.right + 0.3 : t.bottom - 0.3 < e && e < t.top + 0.3;
        });
    }

    // Lengths of the outer zones and the bores, in rows under the view.
    void place_lengths() {
        std::vector<const Dimension*> all;
        for (const Dimension& d : draft_.dimensions)
            if (d.measure == Measure::along) all.push_back(&d);
        std::stable_sort(all.begin(), all.end(), [](auto* a, auto* b) {
            return a->reference != b->reference ? b->reference : a->to - a->from < b->to - b->from - 1e-9;
        });
        double lowest = view_.outline.bottom;
        for (const Box& t : room_.texts()) // corner notes
            if (t.top < view_.outline.bottom) lowest = std::min(lowest, t.bottom);
        lowest = std::min(lowest, view_.outline.bottom - first_row + 4.5);
        const std::vector<double> edges = length_edges();
        for (std::size_t i = 0; i < all.size(); ++i) {
            const Dimension& d = *all[i];
            DimensionLine best;
            bool found = false;
            for (int row = 0; row < 24 && !found; ++row) {
                const double y = lowest - 4.5 - row * next_row;
                // inside longer ones already there? then further out
                bool encloses = false;
                for (const auto& p : placed_)
                    if (p.y <= y + 1e-9 && p.from >= d.from * k_ - 1e-6 && p.to <= d.to * k_ + 1e-6)
                        encloses = true;
                if (encloses) continue;
                const bool roomy = (d.to - d.from) * k_ >= room_for_text(d.words);
                // beside the piece rather than over a neighbour
                const bool first = d.from * k_ < view_.outline.left + 1;
                const auto tries = roomy   ? std::vector{TextPlace::inside}
                                   : first ? std::vector{TextPlace::before, TextPlace::after}
                                           : std::vector{TextPlace::after, TextPlace::before};
                for (const TextPlace place : tries) {
                    const DimensionLine l{{d.from * k_, y}, {d.to * k_, y}, d.words, place, d.link};
                    if (!fits(l)) continue;
                    if (place != TextPlace::inside && !clear_of_edges(l, edges, true)) continue;
                    best = l;
                    found = true;
                    break;
                }
            }
            if (!found) { // beyond all rows: never on another one
                const double y = lowest - 4.5 - 24 * next_row - static_cast<double>(i) * next_row;
                best = {{d.from * k_, y}, {d.to * k_, y}, d.words, TextPlace::after, d.link};
            }
            const double start = -d.radius * k_;
            for (const double x : {d.from * k_, d.to * k_})
                room_.take_line({x, start}, {x, best.a.y - beyond_line});
            put_line(best, {{best.a.x, start}, {best.b.x, start}});
            placed_.push_back({best.a.y, d.from * k_, d.to * k_});
        }
    }

    // The largest outer radius between two places.
    double largest_between(double a, double b) const {
        double out = 0;
        for (const ResolvedZone& z : draft_.piece.zones)
            if (!z.in_bore() && in_mm(z.start) < b - 1e-6 && in_mm(z.end()) > a + 1e-6)
                out = std::max(out, in_mm(z.largest_radius()));
        return out;
    }
    double smallest_bore_between(double a, double b) const {
        double out = std::numeric_limits<double>::max();
        for (const ResolvedZone& z : draft_.piece.zones)
            if (z.in_bore() && in_mm(z.start) < b - 1e-6 && in_mm(z.end()) > a + 1e-6)
                out = std::min(out, in_mm(z.smallest_radius()));
        return out;
    }

    // Rows left (−1) and right (+1) of the view.
    void place_diameters() {
        std::vector<const Dimension*> all;
        for (const Dimension& d : draft_.dimensions)
            if (d.measure == Measure::across) all.push_back(&d);
        std::stable_sort(all.begin(), all.end(),
                         [](auto* a, auto* b) { return a->radius < b->radius - 1e-9; });
        const double length = in_mm(draft_.piece.length());
        std::vector<std::vector<double>> edges(2);
        std::vector<const Dimension*> above;
        // which side each can go to
        std::vector<int> side(all.size(), 0);
        for (std::size_t i = 0; i < all.size(); ++i) {
            const Dimension& d = *all[i];
            const double r = d.radius;
            bool left, right;
            if (d.inner) { // out of its own mouth through air: no narrower bore between
                const ResolvedZone& z = draft_.piece.zones[*d.link.zone];
                left = z.where == Where::near_bore && smallest_bore_between(0, d.from) >= r - 1e-6;
                right = (z.where == Where::far_bore && smallest_bore_between(d.to, length) >= r - 1e-6) ||
                        (std::abs(in_mm(z.end()) - length) < 1e-6 && z.where == Where::near_bore);
            } else {
                // past what is narrower enough to be told from it
                left = largest_between(0, d.from) < 0.97 * r;
                right = largest_between(d.to, length) < 0.97 * r;
            }
            const double middle = (d.from + d.to) / 2;
            if (left && right)
                side[i] = middle < length / 2 ? -1 : 1;
            else
                side[i] = left ? -1 : right ? 1 : 0;
            if (side[i] != 0)
                for (const double s : {1.0, -1.0})
                    edges[side[i] > 0].push_back(s * r * k_);
        }
        for (std::size_t i = 0; i < all.size(); ++i) {
            const Dimension& d = *all[i];
            if (side[i] == 0 || !place_beside(d, side[i], edges[side[i] > 0])) above.push_back(&d);
        }
        // from both ends inwards, each higher than the one before, its shelf outwards: so none crosses another
        const auto middle = [](const Dimension* d) { return (d->from + d->to) / 2; };
        std::stable_sort(above.begin(), above.end(), [&](auto* a, auto* b) {
            const bool left = middle(a) < length / 2, other = middle(b) < length / 2;
            return left != other ? left : left ? middle(a) < middle(b) : middle(a) > middle(b);
        });
        for (const Dimension* d : above)
            place_through(*d, middle(d) < length / 2);
    }

    bool place_beside(const Dimension& d, int side, const std::vector<double>& edges) {
        const double r = d.radius * k_;
        const double edge = side < 0 ? view_.outline.left : view_.outline.right;
        for (int row = 0; row < 10; ++row) {
            const double x = edge + side * (first_row + row * next_row);
            bool encloses = false;
            for (const auto& p : beside_)
                if (p.side == side && side * (p.x - x) > -1e-9 && p.r < r - 1e-9) encloses = true;
            if (encloses) continue;
            const bool roomy = 2 * r >= room_for_text(d.words);
            for (const TextPlace place :
                 roomy ? std::vector{TextPlace::inside} : std::vector{TextPlace::after, TextPlace::before}) {
                const DimensionLine l{{x, -r}, {x, r}, d.words, place, d.link};
                if (!fits(l) || (place != TextPlace::inside && !clear_of_edges(l, edges, false))) continue;
                const double from = (side < 0 ? d.from : d.to) * k_;
                for (const double y : {r, -r})
                    room_.take_line({from, y}, {x + side * beyond_line, y});
                put_line(l, {{from, -r}, {from, r}});
                beside_.push_back({side, x, r});
                return true;
            }
        }
        return false;
    }

    // Through its own zone, the words on a shelf above the view.
    void place_through(const Dimension& d, bool left) {
        const double r = d.radius * k_, width = text_width(d.words, text_height);
        const ResolvedZone& zone = draft_.piece.zones[*d.link.zone];
        const double inwards = d.from < in_mm(zone.start + zone.length * 0.5) ? 1 : -1;
        const double middle = (d.from + d.to) / 2 * k_, span = (d.to - d.from) * k_;
        for (int row = 0; row < 40; ++row) {
            const double y = view_.outline.top + 7 + row * 6.5;
            for (const double part : {0.0, -0.25, 0.25, -0.4, 0.4})
                for (const bool leftwards : {left, !left}) {
                    // one that holds at a zone's end only is taken beside it, in the zone
                    const double x =
                        d.conical ? middle + inwards * (2.5 + 5 * (part + 0.4)) : middle + part * span;
                    const Text text{.at = {leftwards ? x - 1 : x + 1, y + over_line},
                                    .words = d.words,
                                    .height = text_height,
                                    .anchor = leftwards ? Anchor::right : Anchor::left,
                                    .link = d.link};
                    const At shelf{x + (leftwards ? -1 : 1) * (width + 2), y};
                    if (!room_.free(bounds(text)) || !room_.free({x, view_.outline.top}, {x, y}) ||
                        !room_.free({x, y}, shelf) || crosses_leader(x, y, shelf.x))
                        continue;
                    take_leader(text, {x, -r}, {x, y}, shelf, r);
                    if (d.conical) view_.items.back().features = {{middle, r}, {middle, -r}};
                    return;
                }
        }
        // no room for that: a leader to its edge
        if (!slanted(d, 1, {})) left_out_.push_back(&d);
    }

    // Leaders are upright with a level shelf: none crosses another's.
    bool crosses_leader(double x, double y, double shelf) const {
        return std::any_of(leaders_.begin(), leaders_.end(), [&](const Leader& l) {
            const double a0 = std::min(x, shelf), a1 = std::max(x, shelf), b0 = std::min(l.x, l.shelf),
                         b1 = std::max(l.x, l.shelf);
            return (std::abs(x - l.x) < 1.2) || (y < l.y && a0 - 0.5 < l.x && l.x < a1 + 0.5) ||
                   (l.y < y && b0 - 0.5 < x && x < b1 + 0.5);
        });
    }
    void take_leader(const Text& text, At from, At knee, At shelf, double through) {
        view_.items.push_back({.link = text.link.value_or(Link{}),
                               .points = {from, knee, shelf},
                               .text = text,
                               .through = through});
        room_.take(bounds(text).grown(0.4));
        room_.take_line(from, knee);
        room_.take_leader(from, knee);
        room_.take_leader(knee, shelf);
        room_.take_line(knee, shelf);
        leaders_.push_back({knee.x, knee.y, shelf.x});
    }

    // Of bores, where the upper half shows none of them.
    bool is_below(const Dimension& d) const { return d.inner && draft_.sectioned == Sectioned::half; }
    std::vector<double> length_edges() const {
        std::vector<double> out;
        for (const Dimension& d : draft_.dimensions)
            if (d.measure == Measure::along)
                for (const double e : {d.from, d.to})
                    out.push_back(e * k_);
        return out;
    }
    void place_notes_below() {
        const std::vector<double> edges = length_edges();
        for (const Dimension& d : draft_.dimensions)
            if (d.measure == Measure::note && is_below(d) && !placed_notes_.contains(&d))
                slanted(d, -1, edges);
    }

    // A leader up or down to a shelf beside the view's edge, at the first place that is free.
    bool slanted(const Dimension& d, int up, const std::vector<double>& edges) {
        const double along = d.measure == Measure::across ? (d.from + d.to) / 2 : d.from;
        const At tip{along * k_, up * d.radius * k_};
        const double width = text_width(d.words, text_height);
        for (int tried = 0; tried < 32; ++tried)
            for (const double lean : {4.0, -4.0, 9.0, -9.0, 16.0, -16.0, 1.5, -1.5, 26.0, -26.0}) {
                const int row = tried < 8 ? tried : tried - 8;
                const double y =
                    (up > 0 ? view_.outline.top + 7 + row * 6.5 : view_.outline.bottom - 8 - row * 6.5);
                const double x = tip.x + lean, side = lean > 0 ? 1 : -1;
                const At knee{x, y}, shelf{x + side * (width + 2), y};
                const Text text{.at = {x + side, y + over_line},
                                .words = d.words,
                                .height = text_height,
                                .anchor = side > 0 ? Anchor::left : Anchor::right,
                                .link = d.link};
                const Box b = bounds(text);
                if (!room_.free(b) || !room_.free(tip, knee) || !room_.free(knee, shelf) ||
                    // crossing another, rather than that it isn't there
                    (tried < 8 && ((up > 0 && crosses_leader(x, y, shelf.x)) || !room_.uncrossed(tip, knee) ||
                                   !room_.uncrossed(knee, shelf))) ||
                    std::any_of(edges.begin(), edges.end(),
                                [&](double e) { return b.left - 0.5 < e && e < b.right + 0.5; }))
                    continue;
                leader(tip, knee, shelf, text);
                if (up > 0) leaders_.push_back({x, y, shelf.x});
                placed_notes_.insert(&d);
                return true;
            }
        return false;
    }

    bool is_corner(const Dimension& d) const {
        const double length = in_mm(draft_.piece.length());
        const bool end = d.from < 0.12 * length || d.from > 0.88 * length;
        return end && (d.inner || d.link.key == "near_end" || d.link.key == "far_end");
    }

    // Notes of the piece's ends go out slantwise: of the outside upwards, of bores downwards.
    void place_corner_notes() {
        for (const Dimension& d : draft_.dimensions) {
            if (d.measure != Measure::note || !is_corner(d)) continue;
            const bool left = d.from < in_mm(draft_.piece.length()) / 2;
            const double side = left ? -1 : 1, up = d.inner ? -1 : 1;
            const At tip{d.from * k_, up * d.radius * k_};
            const double width = text_width(d.words, text_height);
            const double edge = left ? view_.outline.left : view_.outline.right;
            for (int row = 0; row < 3; ++row) {
                const double y = (d.inner ? view_.outline.bottom : view_.outline.top) + up * (4 + row * 5.5);
                const double drop = std::abs(y - tip.y);
                const double x =
                    std::abs(edge - tip.x) > 0.6 * drop ? edge + side * 1.5 : tip.x + side * 0.6 * drop;
                const At knee{x, y}, shelf{x + side * (width + 2), y};
                const Text text{.at = {x + side, y + over_line},
                                .words = d.words,
                                .height = text_height,
                                .anchor = left ? Anchor::right : Anchor::left,
                                .link = d.link};
                if (!room_.free(bounds(text)) || !room_.free(tip, knee) || !room_.free(knee, shelf) ||
                    !room_.uncrossed(tip, knee) || !room_.uncrossed(knee, shelf))
                    continue;
                leader(tip, knee, shelf, text);
                placed_notes_.insert(&d);
                break;
            }
        }
    }

    void leader(At tip, At knee, At shelf, const Text& text) {
        view_.items.push_back(
            {.link = text.link.value_or(Link{}), .points = {tip, knee, shelf}, .text = text});
        room_.take(bounds(text).grown(0.4));
        room_.take_line(tip, knee);
        room_.take_leader(tip, knee);
        room_.take_leader(knee, shelf);
        room_.take_line(knee, shelf);
    }

    void place_notes() {
        std::vector<const Dimension*> all;
        for (const Dimension& d : draft_.dimensions)
            if (d.measure == Measure::note && !placed_notes_.contains(&d)) all.push_back(&d);
        std::stable_sort(all.begin(), all.end(), [](auto* a, auto* b) { return a->from < b->from; });
        for (const Dimension* d : all)
            if (!slanted(*d, 1, {})) left_out_.push_back(d);
    }

    struct Leader {
        double x, y, shelf;
    };
    struct Row {
        double y, from, to;
    };
    struct Beside {
        int side;
        double x, r;
    };
    const Draft& draft_;
    double k_;
    PlacedView& view_;
    Room room_;
    std::vector<Stroke> dimension_lines_;
    std::vector<Leader> leaders_;
    std::vector<Row> placed_;
    std::vector<Beside> beside_;
    std::set<const Dimension*> placed_notes_;
    std::vector<const Dimension*> left_out_;
};

} // namespace

void place_around_axis(PlacedView& view, const Draft& d, double k) {
    Around around(d, k, view);
    around.place();
    for (const Dimension* none : around.left_out())
        view.left_out.push_back(none->words);
    const Box& o = view.outline;
    view.paper.add(line(LineKind::centre, {o.left - 3, 0}, {o.right + 3, 0}));
}

} // namespace whorl::drawing
