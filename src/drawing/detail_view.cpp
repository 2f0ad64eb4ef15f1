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

namespace {

// A freehand line between two places, less its ends.
void add_wave(std::vector<At>& to, At from, At end) {
    constexpr int n = 8;
    const At v = end - from;
    const double length = std::hypot(v.x, v.y);
    const At across{-v.y / length, v.x / length};
    for (int i = 1; i < n; ++i)
        to.push_back(from + (static_cast<double>(i) / n) * v +
                     ((i % 2 ? 0.5 : -0.5) * (i % 4 < 2 ? 1 : 0.6)) * across);
}

// One pitch and a half of a section, its crest at y = 0, the middle of a groove at x = 0.
class Detail {
public:
    Detail(const Draft& draft, std::size_t index, double k)
        : draft_(draft), zone_(draft.piece.zones[index]), s_(*zone_.swept()),
          k_(k), z_{draft.piece, zone_, draft.index, index, draft.unit, k, true} {}

    PlacedView place() {
        const Run area = outline();
        lengths();
        if (s_.flank_half_angle + s_.other_half_angle > 0.02) flank_angle();
        root();
        settle(view_, draft_);
        hatch_around_texts(view_.paper, {area}, 2.2);
        view_.box = view_.paper.bounds();
        return std::move(view_);
    }

private:
    bool inner() const { return s_.side == Side::internal; }
    double up() const { return inner() ? -1 : 1; } // away from the material
    double root_y() const { return -up() * s_.depth() * k_; }
    double base_y() const { return root_y() - up() * std::clamp(0.5 * s_.pitch * k_, 6.0, 12.0); }

    // The profile, cut off at both sides, over material to a broken edge beyond the root; gives what is hatched.
    Run outline() {
        const double low = -1.25 * s_.pitch * k_, high = -low;
        std::vector<At> profile, shown;
        const std::vector<GroovePoint> groove = groove_polyline(s_, 0.005 / k_);
        for (int n = -2; n <= 2; ++n)
            for (const GroovePoint& g : groove)
                profile.push_back({(n * s_.pitch + g.z) * k_, (g.r - s_.crest_radius) * k_});
        for (std::size_t i = 0; i + 1 < profile.size(); ++i) {
            At a = profile[i], b = profile[i + 1];
            if (b.x <= low || a.x >= high) continue;
            if (a.x < low) a = a + ((low - a.x) / (b.x - a.x)) * (b - a);
            if (b.x > high) b = a + ((high - a.x) / (b.x - a.x)) * (b - a);
            if (shown.empty()) shown.push_back(a);
            shown.push_back(b);
        }
        for (Stroke& st : strokes_of({Run{shown, false}}, LineKind::outline, 2e-3))
            view_.paper.add(std::move(st));
        const At last{shown.back().x, base_y()}, first{shown.front().x, base_y()};
        std::vector<At> edge{shown.back()};
        add_wave(edge, shown.back(), last);
        edge.push_back(last);
        add_wave(edge, last, first);
        edge.push_back(first);
        add_wave(edge, first, shown.front());
        edge.push_back(shown.front());
        view_.paper.add({.kind = LineKind::thin, .points = edge});
        view_.outline = view_.paper.bounds();
        Run area{shown, true};
        area.points.insert(area.points.end(), edge.begin() + 1, edge.end() - 1);
        return area;
    }

    // A dimension between two features.
    void say(At a, At b, double length, const Link& link, At from_a, At from_b,
             const std::string& sign = {}) {
        const std::string words = sign + z_.figure(length);
        const bool roomy = length * k_ >= room_for_text(words);
        view_.items.push_back({.link = link,
                               // the pitch's to the left, since the depth stands right
                               .line = DimensionLine{a, b, words,
                                                     roomy          ? TextPlace::inside
                                                     : sign.empty() ? TextPlace::after
                                                                    : TextPlace::before,
                                                     link},
                               .features = {from_a, from_b}});
    }

    void lengths() {
        // pitch, from crest's middle to crest's middle; the right crest's flat further out
        const double crest = inner() ? view_.outline.bottom : view_.outline.top, half = s_.pitch * k_ / 2;
        const double y = crest + (inner() ? -12.0 : 8.0), flat = s_.crest_flat * k_ / 2;
        say({-half, y}, {half, y}, s_.pitch, z_.link("pitch", field::pitch), {-half, 0}, {half, 0}, "P ");
        if (s_.crest_flat * k_ > 0.2) {
            const double over = y + up() * next_row;
            say({half - flat, over}, {half + flat, over}, s_.crest_flat, z_.link("crest_flat"),
                {half - flat, 0}, {half + flat, 0});
        }
        // depth, to the right of it all
        const double right = view_.outline.right + 9, root = root_y();
        const At at_crest{half + flat, 0}, at_root{view_.outline.right - 0.5, root};
        say({right, std::min(0.0, root)}, {right, std::max(0.0, root)}, s_.depth(),
            z_.link("thread_depth", zone_.groove() ? field::groove_depth : field::depth),
            root < 0 ? at_root : at_crest, root < 0 ? at_crest : at_root);
    }

    // Between the flanks carried on beyond the crests, about where they would meet.
    void flank_angle() {
        const double near = s_.flank_half_angle, far = s_.other_half_angle, width = s_.pitch - s_.crest_flat;
        const double slope = std::max(1e-9, std::tan(near) + std::tan(far)), deep = width / slope * k_;
        if (deep > 200) return; // all but parallel
        const At apex{(-width / 2 + std::tan(near) * width / slope) * k_, -up() * deep};
        const double r = deep + 3.5, middle = inner() ? 1.5 * pi : pi / 2;
        view_.paper.add(
            arc(LineKind::thin, apex, r, middle - (inner() ? near : far), middle + (inner() ? far : near)));
        for (const double side : {-1.0, 1.0}) {
            const double lean = side < 0 ? near : far;
            const At along{side * std::sin(lean), up() * std::cos(lean)};
            view_.paper.add(
                line(LineKind::thin, apex + (deep / std::cos(lean) + 0.6) * along, apex + (r + 1.5) * along));
            view_.paper.fills.push_back(
                arrow_head(apex + r * along, {side * std::cos(lean), -up() * std::sin(lean)}));
        }
        view_.paper.add(Text{.at = {apex.x, apex.y + up() * r + (inner() ? 1.2 : -4.6)},
                             .words = degrees(near + far),
                             .anchor = Anchor::middle,
                             .link = z_.link("flank_angle", field::flank_angle)});
    }

    // Its flat, or its rounding.
    void root() {
        double rounding = 0;
        for (const GroovePoint& g : s_.groove)
            if (g.arc_radius > 0 && std::abs(g.centre_r - s_.root_radius) < 1.001 * g.arc_radius)
                rounding = std::max(rounding, g.arc_radius);
        const double root = root_y(), half = s_.root_flat * k_ / 2;
        if (rounding > 0) {
            const At tip{0, root}, knee{3.5, root - up() * 6};
            const std::string words = "R" + z_.figure(rounding);
            const Link link = z_.link("root_radius", field::root_shape);
            view_.items.push_back({.link = link,
                                   .points = {tip, knee, knee + At{text_width(words, text_height) + 2, 0}},
                                   .text = {.at = knee + At{1, over_line}, .words = words, .link = link}});
        } else if (s_.root_flat * k_ > 0.2) {
            const double y = base_y() - up() * 7;
            say({-half, y}, {half, y}, s_.root_flat, z_.link("root_flat", field::root_flat), {-half, root},
                {half, root});
        }
    }

    const Draft& draft_;
    const ResolvedZone& zone_;
    const ThreadSection& s_;
    double k_;
    ZoneDrawn z_;
    PlacedView view_;
};

} // namespace

PlacedView place_detail(const Draft& d, std::size_t index, double k, const std::string& letter) {
    PlacedView view = Detail(d, index, k).place();
    view.letter = letter + " (" + scale_words(k) + ")";
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
    // where the letter has room beside its circle, the nearest such place
    for (const double off : {0.8, 3.0, 6.0, 10.0, 15.0, 40.0})
        for (const double along : {0.62, 0.5, 0.38, 0.75, 0.25, 0.9, 0.1})
            for (const double way : {1.0, -1.0})
                for (const double over : {1.0, -1.0}) {
                    const At at{in_mm(z.start + z.length * along) * k,
                                side * (s.crest_radius + s.root_radius) / 2 * k};
                    const double away = r * 0.75 + off;
                    const Text name{.at = at + At{way * away, over * side > 0 ? away - 0.2 : -away - 5},
                                    .words = letter,
                                    .height = 5,
                                    .anchor = way > 0 ? Anchor::left : Anchor::right};
                    if (off < 20 && !room.free(bounds(name))) continue;
                    main.paper.add(circle(LineKind::thin, at, r));
                    main.box.hold(bounds(name));
                    main.paper.add(name);
                    return;
                }
}

} // namespace whorl::drawing
