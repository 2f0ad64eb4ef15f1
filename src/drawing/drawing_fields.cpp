#include "drawing/drawing_fields.hpp"

#include "drawing/limits.hpp"
#include "drawing/scales.hpp"
#include "quantity/input_error.hpp"
#include "quantity/trimmed.hpp"

#include <algorithm>

namespace whorl::drawing {
namespace {

template<std::string TitleBlock::*Member>
constexpr DrawingField title_field(const char* key, const char* label, const char* tip) {
    return {key,
            label,
            tip,
            false,
            [](const Job& j, std::size_t) { return j.drawing.title.*Member; },
            [](Job& j, std::size_t, const std::string& text) { j.drawing.title.*Member = text; }};
}

std::vector<std::string> sheets() {
    std::vector<std::string> out{"as it fits"};
    for (const SheetSize& s : sheet_sizes())
        out.push_back(s.name);
    return out;
}

std::vector<std::string> scales() {
    std::vector<std::string> out{"as it fits"};
    for (const double k : standard_scales())
        out.push_back(scale_words(k));
    return out;
}

std::vector<std::string> projections() {
    return {"first angle", "third angle"};
}

std::vector<std::string> forms() {
    return {"conventional", "true"};
}

std::vector<std::string> sections() {
    return {"as needed", "none", "half", "whole"};
}

std::vector<std::string> details() {
    return {"off any series", "all", "none"};
}

bool as_it_fits(const std::string& text) {
    return text.empty() || text == "as it fits";
}

const std::string& chosen(const std::string& text, const std::vector<std::string>& among, const char* what) {
    std::string known;
    for (const std::string& word : among) {
        if (word == text) return text;
        known += (known.empty() ? "" : ", ") + word;
    }
    throw InputError(std::string(what) + " is one of " + known + ", not '" + text + "'.");
}

constexpr DrawingField fields[]{
    title_field<&TitleBlock::owner>("owner", "Owner", "Who owns the drawing: all drawings of the job"),
    {"number", "Number", "Of this drawing; the job's where it has none of its own", true,
     [](const Job& j, std::size_t p) {
         return j.pieces[p].drawing.number.empty() ? j.drawing.title.number : j.pieces[p].drawing.number;
     },
     [](Job& j, std::size_t p, const std::string& text) { j.pieces[p].drawing.number = text; }},
    {"revision", "Rev.", "Of this drawing", true,
     [](const Job& j, std::size_t p) {
         return j.pieces[p].drawing.revision.empty() ? j.drawing.title.revision
                                                     : j.pieces[p].drawing.revision;
     },
     [](Job& j, std::size_t p, const std::string& text) { j.pieces[p].drawing.revision = text; }},
    title_field<&TitleBlock::drawn_by>("drawn_by", "Drawn by", "All drawings of the job"),
    title_field<&TitleBlock::checked_by>("checked_by", "Checked by", "All drawings of the job"),
    title_field<&TitleBlock::date>("date", "Date", "All drawings of the job"),
    title_field<&TitleBlock::tolerance>("tolerance", "General tolerance",
                                        "As you word it, such as ISO 2768-m"),
    {"sheet", "Size", "Of this drawing; as it fits: the smallest sheet that shows the piece well", true,
     [](const Job& j, std::size_t p) {
         const std::string& own = j.pieces[p].drawing.sheet;
         return own.empty() ? (j.drawing.sheet.empty() ? "as it fits" : j.drawing.sheet) : own;
     },
     [](Job& j, std::size_t p, const std::string& text) {
         j.pieces[p].drawing.sheet = as_it_fits(text) ? "" : sheet_size(text).name;
     },
     sheets},
    {"scale", "Scale", "Of ISO 5455, such as 2 : 1; as it fits: the largest that goes on the sheet", true,
     [](const Job& j, std::size_t p) {
         return j.pieces[p].drawing.scale.empty() ? std::string("as it fits") : j.pieces[p].drawing.scale;
     },
     [](Job& j, std::size_t p, const std::string& text) {
         j.pieces[p].drawing.scale = as_it_fits(text) ? "" : scale_words(scale_of(text));
     },
     scales},
    {"projection", "Projection",
     "Where views stand: first angle as ISO has it, third as ASME; all drawings of the job", false,
     [](const Job& j, std::size_t) { return projections()[j.drawing.third_angle]; },
     [](Job& j, std::size_t, const std::string& text) {
         j.drawing.third_angle = chosen(text, projections(), "The projection") == projections()[1];
     },
     projections},
    {"form", "Threads, teeth, knurls", "As the standards' conventions draw them, or as they are", true,
     [](const Job& j, std::size_t p) {
         return forms()[j.pieces[p].drawing.true_form.value_or(j.drawing.true_form)];
     },
     [](Job& j, std::size_t p, const std::string& text) {
         j.pieces[p].drawing.true_form = chosen(text, forms(), "The form drawn") == forms()[1];
     },
     forms},
    {"section", "Lengthwise section", "As needed: where it is bored; half: under the axis", true,
     [](const Job& j, std::size_t p) {
         return j.pieces[p].drawing.section.empty() ? sections()[0] : j.pieces[p].drawing.section;
     },
     [](Job& j, std::size_t p, const std::string& text) {
         const std::string& word = chosen(text, sections(), "The section");
         j.pieces[p].drawing.section = word == sections()[0] ? "" : word;
     },
     sections},
    {"details", "Enlarged details", "Of threads and grooves: those off any series, all or none", true,
     [](const Job& j, std::size_t p) {
         return j.pieces[p].drawing.details.empty() ? details()[0] : j.pieces[p].drawing.details;
     },
     [](Job& j, std::size_t p, const std::string& text) {
         const std::string& word = chosen(text, details(), "What is enlarged");
         j.pieces[p].drawing.details = word == details()[0] ? "" : word;
     },
     details}};

MovedItem& item_of(PieceDrawing& d, const Link& link) {
    if (const MovedItem* found = moved_item(d, link)) return const_cast<MovedItem&>(*found);
    d.items.push_back({.zone = link.zone, .key = link.key});
    return d.items.back();
}

// The place of a note among those of one's own; none: the link is of something else.
std::optional<std::size_t> note_of(const PieceDrawing& d, const Link& link) {
    for (std::size_t i = 0; i < d.notes.size(); ++i)
        if (!link.zone && link.key == "note " + std::to_string(i + 1)) return i;
    return {};
}

} // namespace

std::span<const DrawingField> drawing_fields() {
    return fields;
}

const DrawingField* drawing_field(std::string_view key) {
    const auto found = std::ranges::find_if(fields, [&](const DrawingField& f) { return f.key == key; });
    return found == std::end(fields) ? nullptr : &*found;
}

Job with_drawing(const Job& before, std::size_t piece, std::string_view key, const std::string& text) {
    const DrawingField* field = drawing_field(key);
    if (!field) throw InputError("A drawing has no '" + std::string(key) + "'.");
    const std::string said = std::string(trimmed(text));
    if (said.size() > 200) throw InputError("A title block holds 200 characters in a field.");
    Job job = before;
    field->set(job, piece, said);
    return job;
}

Job with_moved(const Job& before, std::size_t piece, const Link& link, At by) {
    Job job = before;
    PieceDrawing& d = job.pieces.at(piece).drawing;
    if (const auto note = note_of(d, link)) {
        d.notes[*note].x += by.x;
        d.notes[*note].y += by.y;
        return job;
    }
    MovedItem& item = item_of(d, link);
    item.x += by.x;
    item.y += by.y;
    return job;
}

Job with_left_out(const Job& before, std::size_t piece, const Link& link) {
    Job job = before;
    PieceDrawing& d = job.pieces.at(piece).drawing;
    if (const auto note = note_of(d, link))
        d.notes.erase(d.notes.begin() + static_cast<std::ptrdiff_t>(*note));
    else
        item_of(d, link).left_out = true;
    return job;
}

Job with_limits(const Job& before, std::size_t piece, const Link& link, const std::string& text) {
    Job job = before;
    item_of(job.pieces.at(piece).drawing, link).limits = limits_of(text);
    return job;
}

Job with_reference(const Job& before, std::size_t piece, const Link& link, bool on) {
    Job job = before;
    item_of(job.pieces.at(piece).drawing, link).reference = on;
    return job;
}

Job with_all_back(const Job& before, std::size_t piece) {
    Job job = before;
    for (MovedItem& item : job.pieces.at(piece).drawing.items) {
        item.x = item.y = 0;
        item.left_out = false;
    }
    std::erase_if(job.pieces[piece].drawing.items,
                  [](const MovedItem& m) { return m.limits.empty() && !m.reference; });
    return job;
}

bool anything_moved(const PieceDrawing& drawing) {
    return std::ranges::any_of(drawing.items,
                               [](const MovedItem& m) { return m.left_out || m.x != 0 || m.y != 0; });
}

Job with_note(const Job& before, std::size_t piece, FreeNote note) {
    Job job = before;
    PieceDrawing& d = job.pieces.at(piece).drawing;
    if (d.notes.size() >= most_drawing_notes)
        throw InputError("A drawing has 50 notes of one's own at most.");
    d.notes.push_back(std::move(note));
    return job;
}

Job with_note_words(const Job& before, std::size_t piece, std::size_t note, const std::string& words) {
    Job job = before;
    auto& notes = job.pieces.at(piece).drawing.notes;
    const std::string said = std::string(trimmed(words));
    if (said.size() > 400) throw InputError("A note holds 400 characters.");
    if (said.empty())
        notes.erase(notes.begin() + static_cast<std::ptrdiff_t>(note));
    else
        notes.at(note).words = said;
    return job;
}

SheetSettings settings_of(const Job& job, std::size_t piece) {
    const PieceDrawing& d = job.pieces.at(piece).drawing;
    SheetSettings s{.unit = job.unit};
    s.projection = job.drawing.third_angle ? Projection::third_angle : Projection::first_angle;
    const std::string& sheet = d.sheet.empty() ? job.drawing.sheet : d.sheet;
    if (!sheet.empty()) s.size = sheet_size(sheet);
    if (!d.scale.empty()) s.scale = scale_of(d.scale);
    s.true_form = d.true_form.value_or(job.drawing.true_form);
    s.title = job.drawing.title;
    if (!d.number.empty()) s.title.number = d.number;
    if (!d.revision.empty()) s.title.revision = d.revision;
    s.sheet = static_cast<int>(piece) + 1;
    s.sheets = static_cast<int>(job.pieces.size());
    return s;
}

} // namespace whorl::drawing
