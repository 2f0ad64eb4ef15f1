#include "drawing/job_drawings.hpp"

#include "build/piece_values.hpp"
#include "drawing/frame.hpp"
#include "drawing/letters.hpp"
#include "model/edit.hpp"

#include <algorithm>

namespace whorl::drawing {
namespace {

struct Part {
    std::string item, name, what, material, mass, sheet;
};

std::string mass_of(const Preview& p, const Piece& piece) {
    if (!p.made()) return "not made";
    for (const ResolvedValue& v : piece_values(p, piece))
        if (v.key == "mass" && v.value) return mass_words(*v.value);
    return {};
}

// As much of it as goes into so many mm, no smaller than 2 mm.
Text fitted(const std::string& words, double room) {
    Text t{.at = {}, .words = words};
    t.height = std::max(2.0, height_for(words, 2.5, room));
    while (text_width(t.words, t.height) > room && t.words.size() > 4) {
        std::size_t cut = t.words.ends_with("…") ? t.words.size() - 4 : t.words.size() - 1;
        while (cut > 1 && (static_cast<unsigned char>(t.words[cut]) & 0xC0) == 0x80)
            --cut; // whole letters
        t.words = t.words.substr(0, cut) + "…";
    }
    return t;
}

// What a piece is by its zone that tells: a designation for its threads, teeth, spring or cam.
std::string what_of(const Job& job, const Piece& piece) {
    for (const Zone& z : piece.zones)
        if (!z.as<PlainForm>()) return zone_designation(z, job);
    return piece.zones.empty() ? std::string() : zone_designation(piece.zones.front(), job);
}

Paper list_page(const std::vector<Part>& parts, const SheetSize& size, const Job& job, std::size_t page,
                std::size_t pages) {
    Paper paper{.width = size.width, .height = size.height};
    paper.title = job.name;
    draw_frame(paper, size);
    TitleWords title{.own = job.drawing.title,
                     .piece = 0,
                     .title = job.name + ", parts list",
                     .projection =
                         job.drawing.third_angle ? Projection::third_angle : Projection::first_angle};
    title.unit = std::string(symbol(job.unit));
    title.size = size.name;
    title.sheet = std::to_string(page) + "/" + std::to_string(pages);
    draw_title_block(paper, size, title);
    const Box in = inside_frame(size);
    const double widths[]{12, 48, 48, 26, 18, 14}, high = 5.5, left = in.left + 6;
    double y = in.top - 6;
    const auto row = [&](const std::array<std::string, 6>& cells, LineKind under) {
        double x = left;
        for (std::size_t i = 0; i < cells.size(); ++i) {
            const double room = widths[i] - 3;
            Text text = fitted(cells[i], room);
            text.at = {x + 1.5, y - high + 1.6};
            paper.add(std::move(text));
            x += widths[i];
        }
        y -= high;
        paper.add(line(under, {left, y}, {x, y}));
    };
    const double top = y;
    row({"Item", "Name", "What it is", "Material", "Mass", "Sheet"}, LineKind::outline);
    for (const Part& p : parts)
        row({p.item, p.name, p.what, p.material, p.mass, p.sheet}, LineKind::thin);
    double x = left;
    for (const double w : widths) {
        x += w;
        paper.add(line(LineKind::thin, {x, top}, {x, y}));
    }
    return paper;
}

std::vector<Paper> list_pages(const std::vector<Part>& parts, const SheetSize& size, const Job& job) {
    const double room = inside_frame(size).top - title_block_box(size).top - 16;
    const std::size_t fit = static_cast<std::size_t>(room / 5.5) - 1;
    const std::size_t pages = std::max<std::size_t>(1, (parts.size() + fit - 1) / fit);
    std::vector<Paper> out;
    for (std::size_t i = 0; i < pages; ++i) {
        const auto from = parts.begin() + static_cast<std::ptrdiff_t>(std::min(parts.size(), i * fit)),
                   to = parts.begin() + static_cast<std::ptrdiff_t>(std::min(parts.size(), (i + 1) * fit));
        out.push_back(list_page({from, to}, size, job, i + 1, pages));
    }
    return out;
}

Part part_of(const Job& job, std::size_t i, const Preview& p, std::string sheet) {
    const Piece& piece = job.pieces[i];
    return {std::to_string(i + 1), piece.name,        what_of(job, piece),
            piece.finish,          mass_of(p, piece), std::move(sheet)};
}

} // namespace

JobDrawings draw_job(const Job& job, const std::function<bool(std::size_t)>& go_on,
                     const std::function<SheetSettings(std::size_t)>& settings) {
    JobDrawings out;
    const Names names = resolve_names(job);
    std::vector<Part> parts;
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        if (!go_on(i)) return {.stopped = true};
        const Preview p = make_preview(job.pieces[i], i, names, job.unit);
        parts.push_back(part_of(job, i, p, std::to_string(i + 1)));
        out.stopped = out.stopped || !p.made();
        try {
            DrawnSheet sheet = draw_sheet(p, job.pieces[i], i, settings ? settings(i) : settings_of(job, i));
            out.said.insert(out.said.end(), sheet.left_out.begin(), sheet.left_out.end());
            out.pages.push_back(std::move(sheet.paper));
        } catch (const InputError& e) {
            out.said.push_back(e.what());
            out.stopped = true;
            parts.back().sheet = "none";
        }
    }
    std::vector<Paper> list = list_pages(parts, sheet_size("A4"), job);
    out.pages.insert(out.pages.begin(), std::make_move_iterator(list.begin()),
                     std::make_move_iterator(list.end()));
    return out;
}

} // namespace whorl::drawing
