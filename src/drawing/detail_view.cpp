#include "drawing/detail_view.hpp"

#include "drawing/arrows.hpp"
#include "drawing/hatch.hpp"
#include "drawing/letters.hpp"
#include "drawing/scales.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::drawing {

double detail_scale(const ThreadSection& s) {
    double best = 1;
    for (const double k : standard_scales())
        if (k >= 1 && k <= 100 && k * s.pitch <= 42 && k * s.depth() <= 55) best = std::max(best, k);
    return best;
}

PlacedView place_detail(const Draft& d, std::size_t index, double k, const std::string& letter) {
    const ResolvedZone& zone = d.piece.zones[index];
    const ThreadSection& s = *zone.swept();
    const bool inner = s.side == Side::internal;
    const ZoneDrawn z{d.piece, zone, d.index, index, d.unit, k, true};
    PlacedView view;
    view.letter = letter + " (" + scale_words(k) + ")";
    // heights over the axis as they are on the upper side of a view; y = 0 at the crest
    const auto at = [&](double x, double r) { return At{x * k, (r - s.crest_radius) * k}; };
    const double reach = 1.25 * s.pitch; // on both sides of a groove's middle
    std::vector<At> profile;
    std::vector<GroovePoint> groove = groove_polyline(s, 0.005 / k);
    for (int n = -2; n <= 2; ++n)
        for (const GroovePoint& g : groove) {
            const double x = n * s.pitch + g.z;
            profile.push_back(at(x, g.r));
        }
    // cut off at both sides
    std::vector<At> shown;
    for (std::size_t i = 0; i + 1 < profile.size(); ++i) {
        At a = profile[i], b = profile[i + 1];
        const double lo = -reach * k, hi = reach * k;
        if (b.x <= lo || a.x >= hi) continue;
        if (a.x < lo) a = a + ((lo - a.x) / (b.x - a.x)) * (b - a);
        if (b.x > hi) b = a + ((hi - a.x) / (b.x - a.x)) * (b - a);
        if (shown.empty()) shown.push_back(a);
        shown.push_back(b);
    }
    for (Stroke& st : strokes_of({Run{shown, false}}, LineKind::outline, 2e-3))
        view.paper.add(std::move(st));
    // material to a broken edge beyond the root
    const double base = (inner ? 1 : -1) * (s.depth() * k + std::clamp(0.5 * s.pitch * k, 6.0, 12.0));
    Run area{{}, true};
    area.points = shown;
    const auto broken = [&](At from, At to, std::vector<At>& out) { // drawn freehand: a thin wave
        const int n = 8;
        const At v = to - from;
        const double length = std::hypot(v.x, v.y);
        const At across{-v.y / length, v.x / length};
        for (int i = 1; i < n; ++i)
            out.push_back(from + (static_cast<double>(i) / n) * v +
                          ((i % 2 ? 0.5 : -0.5) * (i % 4 < 2 ? 1 : 0.6)) * across);
    };
    const At c1{shown.back().x, base}, c0{shown.front().x, base};
    std::vector<At> edge{shown.back()};
    broken(shown.back(), c1, edge);
    edge.push_back(c1);
    broken(c1, c0, edge);
    edge.push_back(c0);
    broken(c0, shown.front(), edge);
    edge.push_back(shown.front());
    area.points.insert(area.points.end(), edge.begin() + 1, edge.end() - 1);
    view.paper.add({.kind = LineKind::thin, .points = edge});
    view.outline = view.paper.bounds();

    const double up = inner ? -1 : 1; // away from the material
    const auto say = [&](const DimensionLine& l, At from_a, At from_b) {
        view.items.push_back({.link = l.link.value_or(Link{}), .line = l, .features = {from_a, from_b}});
    };
    const auto place = [](double length, const std::string& words) {
        return length >= room_for_text(words) ? TextPlace::inside : TextPlace::after;
    };
    // pitch: from crest middle to crest middle
    const double crest = up > 0 ? view.outline.top : view.outline.bottom;
    const double y1 = crest + up * (up > 0 ? 8.0 : 12.0);
    const double half = s.pitch * k / 2;
    const std::string pitch = "P " + z.figure(s.pitch);
    say({{-half, y1}, {half, y1}, pitch, place(s.pitch * k, pitch), z.link("pitch", field::pitch)},
        {-half, 0}, {half, 0});
    // crest's flat, further out on the right crest
    if (s.crest_flat * k > 0.2) {
        const double y = y1 + up * next_row, f = s.crest_flat * k / 2;
        say({{half - f, y}, {half + f, y}, z.figure(s.crest_flat), TextPlace::after, z.link("crest_flat")},
            {half - f, 0}, {half + f, 0});
    }
    // depth, to the right of it
    const double right = view.outline.right + 9, root = -up * s.depth() * k;
    const double foot = std::max(0.0, s.root_flat) * k / 2;
    const double foot_x = 2 * half + foot < reach * k ? reach * k : foot;
    const std::string depth = z.figure(s.depth());
    const At at_crest{half + s.crest_flat * k / 2, 0}, at_root{foot_x, root};
    say({{right, std::min(0.0, root)},
         {right, std::max(0.0, root)},
         depth,
         place(s.depth() * k, depth),
         z.link("thread_depth", zone.groove() ? field::groove_depth : field::depth)},
        root < 0 ? at_root : at_crest, root < 0 ? at_crest : at_root);
    // between the flanks, inside the middle groove
    const double angle = s.flank_half_angle + s.other_half_angle;
    if (angle > 0.02) {
        const double width = s.pitch - s.crest_flat,
                     slope = std::tan(s.flank_half_angle) + std::tan(s.other_half_angle);
        // where the flanks would meet, and the arc between them at the crest's height
        const double deep = width / std::max(1e-9, slope) * k;
        const double apex_x = (-width / 2 + std::tan(s.flank_half_angle) * width / std::max(1e-9, slope)) * k;
        const At apex{apex_x, -up * deep};
        const double r = deep + 3.5;
        const double a = pi / 2 - s.other_half_angle, b = pi / 2 + s.flank_half_angle;
        const double f = up > 0 ? 0 : pi;
        if (deep < 200) {
            view.paper.add(up > 0 ? arc(LineKind::thin, apex, r, a, b)
                                  : arc(LineKind::thin, apex, r, f + pi / 2 - s.flank_half_angle,
                                        f + pi / 2 + s.other_half_angle));
            for (const double side : {-1.0, 1.0}) { // flanks carried on
                const double lean = side < 0 ? s.flank_half_angle : s.other_half_angle;
                const At along{side * std::sin(lean), up * std::cos(lean)};
                view.paper.add(line(LineKind::thin, apex + (deep / std::cos(lean) + 0.6) * along,
                                    apex + (r + 1.5) * along));
                const At tip = apex + r * along;
                view.paper.fills.push_back(arrow_head(tip, {side * std::cos(lean), -up * std::sin(lean)}));
            }
            view.paper.add(Text{.at = {apex.x, apex.y + up * r + (up > 0 ? -4.6 : 1.2)},
                                .words = degrees(angle),
                                .anchor = Anchor::middle,
                                .link = z.link("flank_angle", field::flank_angle)});
        }
    }
    // the root: its flat, or its rounding
    double rounding = 0;
    for (const GroovePoint& g : s.groove)
        if (g.arc_radius > 0 &&
            std::abs((inner ? -1 : 1) * (g.centre_r - s.root_radius)) < 1.001 * g.arc_radius)
            rounding = std::max(rounding, g.arc_radius);
    const double inwards = inner ? 1 : -1;
    if (rounding > 0) {
        const At tip{0, root}, knee{3.5, root + inwards * 6};
        const std::string words = "R" + z.figure(rounding);
        const double width = text_width(words, text_height);
        const Link link = z.link("root_radius", field::root_shape);
        view.items.push_back({.link = link,
                              .points = {tip, knee, knee + At{width + 2, 0}},
                              .text = {.at = knee + At{1, over_line}, .words = words, .link = link}});
    } else if (s.root_flat * k > 0.2) {
        const double y = base + inwards * 7, f = s.root_flat * k / 2;
        const std::string words = z.figure(s.root_flat);
        say({{-f, y}, {f, y}, words, place(s.root_flat * k, words), z.link("root_flat", field::root_flat)},
            {-f, root}, {f, root});
    }
    settle(view, d);
    std::vector<Box> spared;
    for (const Text& t : view.paper.texts)
        spared.push_back(bounds(t).grown(0.4));
    for (Stroke& st : hatching({area}, 2.2, pi / 4, spared))
        view.paper.add(std::move(st));
    view.box = view.paper.bounds();
    Text name{.at = {(view.outline.left + view.outline.right) / 2, view.box.top + 4},
              .words = view.letter,
              .height = 5,
              .anchor = Anchor::middle};
    view.box.hold(bounds(name));
    view.paper.add(std::move(name));
    return view;
}

void mark_detail(PlacedView& main, const Draft& d, std::size_t index, double k, const std::string& letter) {
    const ResolvedZone& z = d.piece.zones[index];
    const ThreadSection& s = *z.swept();
    const double side = z.in_bore() && d.sectioned == Sectioned::half ? -1 : 1;
    const double r = std::clamp(0.9 * s.pitch * k, 2.5, 12.0);
    Room room;
    for (const Text& t : main.paper.texts)
        room.take(bounds(t).grown(0.4));
    for (const Stroke& line : main.paper.strokes)
        if (line.kind == LineKind::thin && line.points.size() < 4)
            for (std::size_t i = 0; i + 1 < line.points.size(); ++i)
                room.take_line(line.points[i], line.points[i + 1]);
    // where the letter has room beside its circle
    for (const bool last : {false, true})
        for (const double along : {0.62, 0.5, 0.38, 0.75, 0.25})
            for (const double way : {1.0, -1.0}) {
                const At at{in_mm(z.start + z.length * along) * k,
                            side * (s.crest_radius + s.root_radius) / 2 * k};
                const Text name{.at = at +
                                      At{way * (r * 0.75 + 0.8), side * (r * 0.75 + (side > 0 ? 0.6 : 5.8))},
                                .words = letter,
                                .height = 5,
                                .anchor = way > 0 ? Anchor::left : Anchor::right};
                if (!last && !room.free(bounds(name))) continue;
                main.paper.add(circle(LineKind::thin, at, r));
                main.box.hold(bounds(name));
                main.paper.add(name);
                return;
            }
}

} // namespace whorl::drawing
