#include "drawing/layout.hpp"

#include "drawing/detail_view.hpp"
#include "drawing/frame.hpp"
#include "drawing/letters.hpp"
#include "drawing/placed_view.hpp"

#include <algorithm>

namespace whorl::drawing {
namespace {

constexpr double gap = 8; // between what stands on a sheet

// What is put on a sheet as one: about its own origin.
struct Block {
    Paper paper;
    Box box;
};

Block block(PlacedView v) {
    return {std::move(v.paper), v.box};
}

// Main view and end view, their axes level with each other. First angle: what is seen from the left stands right.
Block row_of_views(PlacedView main, std::optional<PlacedView> end, bool end_is_near, Projection projection) {
    Block out = block(std::move(main));
    if (!end) return out;
    const bool right = end_is_near == (projection == Projection::first_angle);
    const double x =
        right ? out.box.right + gap + 4 - end->box.left : out.box.left - gap - 4 - end->box.right;
    out.paper.add(end->paper, {x, 0});
    out.box.hold(end->box.moved({x, 0}));
    return out;
}

// Places blocks one after another, from the upper left, clear of what stands there.
class Packing {
public:
    Packing(Box room, std::vector<Box> taken) : room_(room), taken_(std::move(taken)) {}
    std::optional<At> place(const Box& b, bool from_right = false) {
        constexpr double step = 4;
        for (double top = room_.top; top - b.height() >= room_.bottom - 1e-9; top -= step)
            for (double x = 0; x <= room_.width() - b.width() + 1e-9; x += step) {
                const double left = from_right ? room_.right - b.width() - x : room_.left + x;
                const Box at{left, top - b.height(), left + b.width(), top};
                if (std::any_of(taken_.begin(), taken_.end(), [&](const Box& t) { return t.meets(at); }))
                    continue;
                taken_.push_back(at.grown(gap / 2));
                return At{at.left - b.left, at.bottom - b.bottom};
            }
        return {};
    }

private:
    Box room_;
    std::vector<Box> taken_;
};

// One sheet being filled.
class Layout {
public:
    Layout(const Content& content, const SheetSize& size)
        : content_(content),
          title_(title_block_box(size)), room_{inside_frame(size).left + 6, inside_frame(size).bottom + 4,
                                               inside_frame(size).right - 6, inside_frame(size).top - 6},
          packing_(room_, {title_.grown(2)}) {}

    std::optional<LaidOut> at(double scale, Projection projection) {
        PlacedView main = place_main_view(content_.draft, scale);
        if (!main.left_out.empty() && !content_.incomplete) return {};
        LaidOut out{.paper = {}, .left_out = main.left_out};
        std::vector<PlacedView> details = details_of(main, scale);
        for (const DataTable& t : content_.tables)
            if (!put(table(t, 95), true)) return {};
        first_view_ = placed_.size();
        if (!put(row_of_views(std::move(main), place_end_view(content_.draft, scale),
                              content_.draft.end_is_near, projection)))
            return {};
        for (PlacedView& d : details)
            if (!put(block(std::move(d)))) return {};
        end_of_views_ = placed_.size();
        if (!content_.notes.empty() && !put_notes()) return {};
        move_views_to_the_middle();
        for (const auto& [b, at] : placed_)
            out.paper.add(b.paper, at);
        return out;
    }

private:
    // Enlarged, each with its circle on the main view.
    std::vector<PlacedView> details_of(PlacedView& main, double scale) const {
        std::vector<PlacedView> out;
        char letter = 'Z';
        for (const std::size_t zone : content_.draft.enlarged) {
            if (letter < 'V') break; // five are enough
            const ThreadSection* s = content_.draft.piece.zones[zone].swept();
            if (!s || !s->sweepable()) continue;
            const double k = detail_scale(*s);
            if (k < 2 * scale) continue;
            out.push_back(place_detail(content_.draft, zone, k, std::string(1, letter)));
            mark_detail(main, content_.draft, zone, scale, std::string(1, letter));
            --letter;
        }
        return out;
    }

    bool put(Block b, bool from_right = false) {
        const auto at = packing_.place(b.box, from_right);
        if (at) placed_.emplace_back(std::move(b), *at);
        return at.has_value();
    }
    bool put(Paper p, bool from_right) {
        const Box box = p.bounds();
        return put(Block{std::move(p), box}, from_right);
    }

    // As far down as they go, beside the title block where it leaves room.
    bool put_notes() {
        const double beside = title_.left - room_.left;
        Paper p = in_lines(content_.notes, beside > 60 ? beside - gap : 120);
        const Box box = p.bounds();
        for (double low = room_.bottom; low + box.height() <= room_.top; low += 4) {
            const Box at{room_.left, low, room_.left + box.width(), low + box.height()};
            if (title_.grown(2).meets(at) || std::ranges::any_of(placed_, [&](const auto& o) {
                    return o.first.box.moved(o.second).grown(2).meets(at);
                }))
                continue;
            placed_.emplace_back(Block{std::move(p), box}, At{at.left - box.left, at.bottom - box.bottom});
            return true;
        }
        return false;
    }

    bool can_move(At by) const {
        for (std::size_t i = first_view_; i < end_of_views_; ++i) {
            const Box b = placed_[i].first.box.moved(placed_[i].second + by);
            if (!room_.holds(b) || title_.grown(2).meets(b)) return false;
            for (std::size_t k = 0; k < placed_.size(); ++k)
                if ((k < first_view_ || k >= end_of_views_) &&
                    placed_[k].first.box.moved(placed_[k].second).grown(2).meets(b))
                    return false;
        }
        return true;
    }

    // Of what is free, as far as nothing is in their way.
    void move_views_to_the_middle() {
        Box all;
        for (std::size_t i = first_view_; i < end_of_views_; ++i)
            all.hold(placed_[i].first.box.moved(placed_[i].second));
        const double down = (all.bottom - title_.top) * 0.45, across = (room_.right - all.right) / 2;
        for (const At by : {At{across, -down}, At{across / 2, -down}, At{0, -down}, At{across, -down / 2},
                            At{0, -down / 2}, At{across, 0}})
            if (can_move(by)) {
                for (std::size_t i = first_view_; i < end_of_views_; ++i)
                    placed_[i].second = placed_[i].second + by;
                return;
            }
    }

    const Content& content_;
    Box title_, room_;
    Packing packing_;
    std::vector<std::pair<Block, At>> placed_;
    std::size_t first_view_ = 0, end_of_views_ = 0;
};

} // namespace

Paper in_lines(const std::vector<std::string>& sentences, double width) {
    Paper out;
    double y = 0;
    for (const std::string& n : sentences) { // broken into lines at blanks
        std::string line;
        const auto put = [&] {
            if (line.empty()) return;
            out.add(Text{.at = {0, y - 3}, .words = line, .height = 2.5});
            y -= 4.6;
            line.clear();
        };
        std::size_t from = 0;
        while (from < n.size()) {
            std::size_t to = n.find(' ', from);
            if (to == std::string::npos) to = n.size();
            const std::string word = n.substr(from, to - from);
            if (!line.empty() && text_width(line + " " + word, 2.5) > width) put();
            line += (line.empty() ? "" : " ") + word;
            from = to + 1;
        }
        put();
    }
    return out;
}

std::optional<LaidOut> laid_out(const Content& content, const SheetSize& size, double scale,
                                Projection projection) {
    return Layout(content, size).at(scale, projection);
}

} // namespace whorl::drawing
