#include "drawing/placed_view.hpp"

#include "drawing/arrows.hpp"
#include "drawing/axis_view.hpp"
#include "drawing/bent_view.hpp"
#include "drawing/clipped.hpp"
#include "drawing/forms/form_drawing.hpp"
#include "drawing/hatch.hpp"
#include "drawing/letters.hpp"
#include "drawing/runs.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace whorl::drawing {
namespace {

// Words of one's own.
void add_notes(PlacedView& view, const Draft& d, double k) {
    for (std::size_t i = 0; i < d.by_hand.notes.size(); ++i) {
        const FreeNote& n = d.by_hand.notes[i];
        const Link link{d.index, {}, "note " + std::to_string(i + 1), {}};
        const At tip{n.tip_x * k, n.tip_y * k}, knee = tip + At{n.x, n.y};
        const double width = text_width(n.words, text_height), way = n.x < 0 ? -1 : 1;
        view.items.push_back({.link = link,
                              .points = {tip, knee, knee + At{way * (width + 2), 0}},
                              .text = {.at = knee + At{way, over_line},
                                       .words = n.words,
                                       .height = text_height,
                                       .anchor = way > 0 ? Anchor::left : Anchor::right,
                                       .link = link}});
    }
}

// The edge of what is broken out, drawn freehand across all that is cut there.
void add_broken_edge(Paper& to, const std::vector<Run>& cut, double x) {
    std::vector<double> ys;
    for (const Run& r : cut)
        for (std::size_t i = 0; i < r.points.size(); ++i) {
            const At a = r.points[i], b = r.points[(i + 1) % r.points.size()];
            if ((a.x < x) != (b.x < x)) ys.push_back(a.y + (x - a.x) / (b.x - a.x) * (b.y - a.y));
        }
    std::sort(ys.begin(), ys.end());
    for (std::size_t i = 0; i + 1 < ys.size(); i += 2) {
        std::vector<At> wave;
        const int n = std::max(4, static_cast<int>((ys[i + 1] - ys[i]) / 2.5));
        for (int w = 0; w <= n; ++w) {
            const double off = w == 0 || w == n ? 0 : w % 2 ? 0.5 : -0.5;
            wave.push_back({x + off, ys[i] + (ys[i + 1] - ys[i]) * w / n});
        }
        to.add({.kind = LineKind::thin, .points = wave, .smooth = true});
    }
}

// The side view with places where the cut is seen instead; gives what is hatched there.
std::vector<Run> add_broken_out(PlacedView& view, const Draft& d, double k) {
    std::vector<Stretch> places = d.broken;
    for (Stretch& s : places)
        s = {s.from * k, s.to * k};
    const std::vector<Run> cut = scaled(d.cut.cut, k), hatched = scaled(d.hatched, k);
    add_strokes(view, within(scaled(d.side.lines, k), places, false), LineKind::outline);
    add_strokes(view, within(scaled(d.cut.lines, k), places, true), LineKind::outline);
    add_strokes(view, within(cut, places, true), LineKind::outline);
    std::vector<Run> area;
    for (const Stretch& s : places) {
        for (Run& r : area_within(hatched, s))
            area.push_back(std::move(r));
        for (const double x : {s.from, s.to})
            if (x > 0 && x < in_mm(d.piece.length()) * k) add_broken_edge(view.paper, cut, x);
    }
    return area;
}

// What is seen and cut; gives what is hatched.
std::vector<Run> add_lines(PlacedView& view, const Draft& d, double k) {
    switch (d.sectioned) {
    case Sectioned::no:
        add_strokes(view, scaled(d.side.lines, k), LineKind::outline);
        add_strokes(view, scaled(d.side.hidden, k), LineKind::hidden);
        return {};
    case Sectioned::whole:
        add_strokes(view, scaled(d.cut.lines, k), LineKind::outline);
        add_strokes(view, scaled(d.cut.cut, k), LineKind::outline);
        return scaled(d.hatched, k);
    case Sectioned::broken:
        return add_broken_out(view, d, k);
    case Sectioned::half:
        break;
    }
    add_strokes(view, half_of(scaled(d.side.lines, k), true), LineKind::outline);
    add_strokes(view, half_of(scaled(d.cut.lines, k), false), LineKind::outline);
    add_strokes(view, half_of(scaled(d.cut.cut, k), false), LineKind::outline);
    return area_half(scaled(d.hatched, k), false);
}

// Lines of the conventions: of half a section each half has its own.
void add_marks(PlacedView& view, const Draft& d, double k) {
    for (std::size_t i = 0; i < d.piece.zones.size(); ++i) {
        const ResolvedZone& z = d.piece.zones[i];
        const FormDrawing& f = drawing_of(z);
        if (!f.side || (f.simplify && d.true_form)) continue;
        const auto marks = [&](int half, bool section) {
            std::vector<Mark> found;
            f.side({d.piece, z, d.index, i, d.unit, k, section}, found);
            for (const Mark& m : found)
                if (auto s = on_paper(m, k, half, d.broken)) view.paper.add(std::move(*s));
        };
        if (d.sectioned == Sectioned::half) {
            marks(1, false);
            marks(-1, true);
        } else {
            marks(0, d.sectioned == Sectioned::whole || (d.sectioned == Sectioned::broken && z.in_bore()));
        }
    }
}

} // namespace

PlacedView place_main_view(const Draft& d, double k) {
    PlacedView view;
    const std::vector<Run> area = add_lines(view, d, k);
    if (d.axial()) {
        add_marks(view, d, k);
        place_around_axis(view, d, k);
    } else {
        place_along_bent(view, d, k);
    }
    add_notes(view, d, k);
    settle(view, d);
    Box reach;
    for (const Run& r : area)
        for (const At& p : r.points)
            reach.hold(p);
    const double most = d.axial() ? 4 : 2.5; // thin walls along a bend
    hatch_around_texts(view.paper, area, std::min(most, hatch_spacing(reach)));
    view.box = view.paper.bounds();
    return view;
}

} // namespace whorl::drawing
