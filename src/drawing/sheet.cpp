#include "drawing/sheet.hpp"

#include "build/piece_values.hpp"
#include "drawing/frame.hpp"
#include "drawing/layout.hpp"
#include "drawing/limits.hpp"
#include "drawing/scales.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::drawing {
namespace {

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
    p.add(in_lines({why}, size.width - 60), {30, y - 10});
    return p;
}

// Which sheet and scale a piece is drawn on.
class SheetSearch {
public:
    struct Found {
        SheetSize size;
        double scale;
        LaidOut laid;
    };

    SheetSearch(Content& content, const SheetSettings& settings) : content_(content), s_(settings) {
        const ResolvedPiece& p = content.draft.piece;
        reach_ = std::max(in_mm(p.length()), 2 * in_mm(p.largest_radius()));
    }

    // As asked; else on a larger sheet, at another scale, or less what finds no place, which `said` then says.
    Found best(const std::string& name, std::vector<std::string>& said) {
        auto found = search(s_.scale, false);
        if (!found && s_.size && (found = search(s_.scale, true)))
            said.push_back("What is said of " + name + " doesn't go on " + s_.size->name +
                           "; it is drawn on " + found->size.name + ".");
        if (!found && s_.scale && (found = search({}, s_.size.has_value())))
            said.push_back(name + " goes on no sheet at " + scale_words(*s_.scale) + "; it is drawn at " +
                           scale_words(found->scale) + ".");
        if (found) return std::move(*found);
        content_.incomplete = true;
        found = search({}, false);
        if (!found) found = search({}, true);
        if (!found) throw InputError("The drawing of " + name + " goes on no sheet at any scale.");
        std::string words;
        for (const std::string& w : found->laid.left_out)
            words += (words.empty() ? "" : ", ") + w;
        said.push_back("There is no room for " + words + "; a larger sheet or scale may have it.");
        return std::move(*found);
    }

private:
    std::optional<Found> on(const SheetSize& size, std::optional<double> scale) const {
        for (const double k : standard_scales()) {
            if (scale ? std::abs(k - *scale) > 1e-9 : k > 10) continue;
            if (!scale && k > 1 && reach_ * k > (k > 5 ? 30 : 130)) continue; // no larger than it needs to be
            if (reach_ * k > std::max(size.width, size.height)) continue;
            if (auto laid = laid_out(content_, size, k, s_.projection))
                return Found{size, k, std::move(*laid)};
        }
        return {};
    }
    // The sheet asked for, or `larger` ones. Of several the smallest that takes it at full size or larger, else the one
    // that takes it largest.
    std::optional<Found> search(std::optional<double> scale, bool larger) const {
        const bool inches = s_.size ? is_inch(*s_.size) : s_.unit == LengthUnit::inch;
        std::optional<Found> best;
        for (const SheetSize& size : sheet_sizes()) {
            const bool asked = s_.size && std::string(size.name) == s_.size->name;
            if (s_.size && !larger && !asked) continue;
            if (is_inch(size) != inches) continue;
            if (s_.size && larger && size.width * size.height <= s_.size->width * s_.size->height) continue;
            if (auto fits = on(size, scale); fits && (!best || fits->scale > best->scale)) {
                best = std::move(fits);
                if (best->scale >= 1 || larger) break;
            }
        }
        return best;
    }

    Content& content_;
    const SheetSettings& s_;
    double reach_;
};

} // namespace

DrawnSheet draw_sheet(const Preview& preview, const Piece& piece, std::size_t index, const SheetSettings& s) {
    DrawnSheet out;
    TitleWords title{.own = s.title,
                     .piece = index,
                     .title = piece.name,
                     .material = piece.finish,
                     .projection = s.projection};
    title.unit = std::string(symbol(s.unit));
    title.sheet = std::to_string(s.sheet) + "/" + std::to_string(s.sheets);
    Paper body;
    if (!preview.made()) {
        out.size = s.size.value_or(sheet_sizes().front());
        body = stopped_sheet(preview, out.size);
        out.left_out.push_back(piece.name + " is not made, so there is nothing to draw.");
    } else {
        Draft draft =
            make_draft(preview.piece, index,
                       {s.unit, s.true_form, s.hidden, piece.drawing.section, piece.drawing.details});
        draft.by_hand = piece.drawing;
        for (const MovedItem& m : piece.drawing.items)
            out.taken_off += m.left_out;
        say_limits(draft.dimensions, piece.drawing);
        for (const ResolvedValue& v : piece_values(preview, piece))
            if (v.key == "mass" && v.value) title.mass = mass_words(*v.value);
        Content content{draft, tables_of(draft), draft.notes};
        SheetSearch::Found found = SheetSearch(content, s).best(piece.name, out.left_out);
        body = std::move(found.laid.paper);
        out.size = found.size;
        out.scale = found.scale;
        title.scale = scale_words(out.scale);
        out.dimensions = draft.dimensions;
    }
    title.size = out.size.name;
    out.paper.width = out.size.width;
    out.paper.height = out.size.height;
    out.paper.title = piece.name;
    draw_frame(out.paper, out.size);
    draw_title_block(out.paper, out.size, title);
    out.paper.add(body);
    return out;
}

} // namespace whorl::drawing
