#include "drawing/sheet.hpp"

#include "build/piece_values.hpp"
#include "drawing/arrows.hpp"
#include "drawing/detail_view.hpp"
#include "drawing/forms/form_drawing.hpp"
#include "drawing/frame.hpp"
#include "drawing/letters.hpp"
#include "drawing/placed_view.hpp"
#include "drawing/scales.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

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

Block notes_block(const std::vector<std::string>& notes, double width) {
    Block out;
    double y = 0;
    for (const std::string& n : notes) { // broken into lines at blanks
        std::string line;
        const auto put = [&] {
            if (line.empty()) return;
            out.paper.add(Text{.at = {0, y - 3}, .words = line, .height = 2.5});
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
    out.box = out.paper.bounds();
    return out;
}

struct Content {
    const Draft& draft;
    std::vector<DataTable> tables;
    std::vector<std::string> notes;
    bool incomplete = false; // what finds no place may be left out
};

struct LaidOut {
    Paper paper;
    std::vector<std::string> left_out; // words
};

// The piece on a sheet at a scale; none: it doesn't go on it.
std::optional<LaidOut> laid_out(const Content& c, const SheetSize& size, double scale, Projection projection) {
    std::size_t first_view = 0;
    const Box in = inside_frame(size), title = title_block_box(size);
    PlacedView main = place_main_view(c.draft, scale);
    if (!main.left_out.empty() && !c.incomplete) return {};
    std::vector<std::string> left_out = main.left_out;
    std::vector<PlacedView> details;
    char letter = 'Z';
    for (const std::size_t zone : c.draft.enlarged) {
        if (letter < 'V') break; // five are enough
        const ThreadSection* s = c.draft.piece.zones[zone].swept();
        if (!s || !s->sweepable()) continue;
        const double k = detail_scale(*s);
        if (k < 2 * scale) continue;
        details.push_back(place_detail(c.draft, zone, k, std::string(1, letter)));
        mark_detail(main, c.draft, zone, scale, std::string(1, letter));
        --letter;
    }
    const Block views =
        row_of_views(std::move(main), place_end_view(c.draft, scale), c.draft.end_is_near, projection);
    const Box room{in.left + 6, in.bottom + 4, in.right - 6, in.top - 6};
    Paper paper;
    std::vector<Box> taken{title.grown(2)};
    std::vector<std::pair<Block, At>> placed;
    Packing packing(room, taken);
    std::vector<Block> tables;
    for (const DataTable& t : c.tables) {
        Paper p = table(t, 95);
        const Box b = p.bounds();
        tables.push_back({std::move(p), b});
    }
    for (Block& t : tables) {
        const auto at = packing.place(t.box, true);
        if (!at) return {};
        placed.emplace_back(std::move(t), *at);
    }
    first_view = placed.size();
    const auto main_at = packing.place(views.box);
    if (!main_at) return {};
    placed.emplace_back(views, *main_at);
    for (PlacedView& d : details) {
        Block b = block(std::move(d));
        const auto at = packing.place(b.box);
        if (!at) return {};
        placed.emplace_back(std::move(b), *at);
    }
    if (!c.notes.empty()) {
        const double width = title.left - room.left > 60 ? title.left - room.left - gap : 120;
        Block n = notes_block(c.notes, width);
        // as far down as it goes
        std::optional<At> best;
        for (double low = room.bottom; low + n.box.height() <= room.top && !best; low += 4) {
            const Box at{room.left, low, room.left + n.box.width(), low + n.box.height()};
            bool free = !title.grown(2).meets(at);
            for (const auto& [b, off] : placed)
                free = free && !b.box.moved(off).grown(2).meets(at);
            if (free) best = At{at.left - n.box.left, at.bottom - n.box.bottom};
        }
        if (!best) return {};
        placed.emplace_back(std::move(n), *best);
    }
    // the views into the middle of what is free, as far as nothing is in their way
    const std::size_t end = first_view + 1 + details.size();
    Box all;
    for (std::size_t i = first_view; i < end; ++i)
        all.hold(placed[i].first.box.moved(placed[i].second));
    const auto can_move = [&](At by) {
        for (std::size_t i = first_view; i < end; ++i) {
            const Box b = placed[i].first.box.moved(placed[i].second + by);
            if (!room.holds(b) || title.grown(2).meets(b)) return false;
            for (std::size_t k = 0; k < placed.size(); ++k)
                if ((k < first_view || k >= end) &&
                    placed[k].first.box.moved(placed[k].second).grown(2).meets(b))
                    return false;
        }
        return true;
    };
    const double down = (all.bottom - title.top) * 0.45, across = (room.right - all.right) / 2;
    for (const At by : {At{across, -down}, At{across / 2, -down}, At{0, -down}, At{across, -down / 2},
                        At{0, -down / 2}, At{across, 0}})
        if (can_move(by)) {
            for (std::size_t i = first_view; i < end; ++i)
                placed[i].second = placed[i].second + by;
            break;
        }
    for (const auto& [b, at] : placed)
        paper.add(b.paper, at);
    return LaidOut{std::move(paper), std::move(left_out)};
}

std::vector<DataTable> tables_of(const Draft& d) {
    std::vector<DataTable> out;
    for (std::size_t i = 0; i < d.piece.zones.size(); ++i)
        if (const auto tables = drawing_of(d.piece.zones[i]).tables)
            for (DataTable& t : tables({d.piece, d.piece.zones[i], d.index, i, d.unit, 1, true}))
                if (!t.rows.empty() && std::none_of(out.begin(), out.end(),
                                                    [&](const DataTable& o) { return o.rows == t.rows; }))
                    out.push_back(std::move(t));
    return out;
}

bool is_inch(const SheetSize& size) {
    return std::string(size.name).size() == 1; // A, B, C
}

std::string mass_words(double grams) {
    return grams >= 1000 ? number_text(grams / 1000, 3) + " kg"
                         : number_text(grams, grams < 10 ? 2 : 1) + " g";
}

// A piece that stops: its name and why, across the sheet.
Paper stopped_sheet(const Preview& preview, const SheetSize& size) {
    Paper p;
    const double y = size.height * 0.6;
    const std::string head = "Not made";
    p.add(Text{.at = {size.width / 2, y}, .words = head, .height = 10, .anchor = Anchor::middle});
    std::string why;
    for (const Finding& f : preview.findings)
        if (f.severity == Severity::stop) {
            why = f.sentence;
            break;
        }
    Block b = notes_block({why}, size.width - 60);
    p.add(b.paper, {30, y - 10});
    return p;
}

} // namespace

DrawnSheet draw_sheet(const Preview& preview, const Piece& piece, std::size_t index, const SheetSettings& s) {
    DrawnSheet out;
    TitleWords title{.own = s.title,
                     .piece = index,
                     .title = piece.name,
                     .material = piece.finish,
                     .projection = s.projection};
    title.unit = symbol(s.unit);
    title.sheet = std::to_string(s.sheet) + "/" + std::to_string(s.sheets);
    std::optional<Paper> body;
    if (!preview.made()) {
        out.size = s.size.value_or(sheet_sizes().front());
        body = stopped_sheet(preview, out.size);
        out.left_out.push_back(piece.name + " is not made, so there is nothing to draw.");
    } else {
        Draft draft = make_draft(preview.piece, index, {s.unit, s.true_form, s.hidden});
        draft.by_hand = piece.drawing;
        for (const MovedItem& m : piece.drawing.items)
            out.taken_off += m.left_out;
        Content content{draft, tables_of(draft), draft.notes};
        for (const ResolvedValue& v : piece_values(preview, piece))
            if (v.key == "mass" && v.value) title.mass = mass_words(*v.value);
        const double reach = std::max(in_mm(draft.piece.length()), 2 * in_mm(draft.piece.largest_radius()));
        using Found = std::optional<std::pair<double, LaidOut>>;
        const auto best_on = [&](const SheetSize& size, std::optional<double> scale) -> Found {
            for (const double k : standard_scales()) {
                if (scale ? std::abs(k - *scale) > 1e-9 : k > 10) continue;
                if (!scale && k > 1 && reach * k > (k > 5 ? 30 : 130)) continue; // no larger than it needs to be
                if (reach * k > std::max(size.width, size.height)) continue;
                if (auto laid = laid_out(content, size, k, s.projection)) return std::pair{k, std::move(*laid)};
            }
            return {};
        };
        // the smallest sheet that takes it at full size or larger, else the one that takes it largest
        const auto search = [&](std::optional<double> scale, bool any_size) -> Found {
            Found best;
            for (const SheetSize& size : sheet_sizes()) {
                if (!any_size && s.size) {
                    if (std::string(size.name) != s.size->name) continue;
                } else if (is_inch(size) != (s.size ? is_inch(*s.size) : s.unit == LengthUnit::inch) ||
                           (s.size && size.width * size.height <= s.size->width * s.size->height)) {
                    continue;
                }
                if (auto fits = best_on(size, scale); fits && (!best || fits->first > best->first)) {
                    best = std::move(fits);
                    out.size = size;
                    if (best->first >= 1 || any_size) break;
                }
            }
            return best;
        };
        Found best = search(s.scale, false);
        if (!best && s.size) {
            if ((best = search(s.scale, true)))
                out.left_out.push_back("What is said of " + piece.name + " doesn't go on " + s.size->name +
                                       "; it is drawn on " + out.size.name + ".");
        }
        if (!best && s.scale) {
            if ((best = search({}, s.size.has_value())))
                out.left_out.push_back(piece.name + " goes on no sheet at " + scale_words(*s.scale) + "; it is drawn at " +
                                       scale_words(best->first) + ".");
        }
        if (!best) { // something finds no place anywhere
            content.incomplete = true;
            best = search({}, false);
            if (!best) best = search({}, true);
            if (!best)
                throw InputError("The drawing of " + piece.name + " goes on no sheet at any scale.");
            std::string words;
            for (const std::string& w : best->second.left_out)
                words += (words.empty() ? "" : ", ") + w;
            out.left_out.push_back("There is no room for " + words + "; a larger sheet or scale may have it.");
        }
        body = std::move(best->second.paper);
        out.scale = best->first;
        title.scale = scale_words(out.scale);
        out.dimensions = draft.dimensions;
    }
    title.size = out.size.name;
    out.paper.width = out.size.width;
    out.paper.height = out.size.height;
    out.paper.title = piece.name;
    draw_frame(out.paper, out.size);
    draw_title_block(out.paper, out.size, title);
    out.paper.add(*body);
    return out;
}

} // namespace whorl::drawing
