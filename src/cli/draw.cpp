// whorl draw: the drawing of a piece, or of every piece of a job.
#include "cli/commands.hpp"
#include "cli/print.hpp"

#include "build/build.hpp"
#include "drawing/job_drawings.hpp"
#include "drawing/scales.hpp"
#include "drawing/write_sheet.hpp"
#include "exchange/export.hpp"
#include "model/job_file.hpp"

#include <CLI/CLI.hpp>
#include <ostream>

namespace whorl {
namespace {

using namespace drawing;

struct Options {
    std::string text, output, sheet, scale, formats, section, details;
    std::vector<std::string> fields;
    TitleBlock title;
    bool third = false, true_form = false, hidden = false;
};

// What is said on the line goes before what the job says.
SheetSettings settings_of(const Options& o, const Job& job, std::size_t piece) {
    SheetSettings s = drawing::settings_of(job, piece);
    if (o.third) s.projection = Projection::third_angle;
    if (!o.sheet.empty()) s.size = sheet_size(o.sheet);
    if (!o.scale.empty()) s.scale = scale_of(o.scale);
    s.true_form = s.true_form || o.true_form;
    s.hidden = o.hidden;
    for (const auto member :
         {&TitleBlock::owner, &TitleBlock::number, &TitleBlock::revision, &TitleBlock::drawn_by,
          &TitleBlock::checked_by, &TitleBlock::date, &TitleBlock::tolerance})
        if (!(o.title.*member).empty()) s.title.*member = o.title.*member;
    return s;
}

void say(const DrawnSheet& sheet, const std::string& path, std::ostream& out, std::ostream& err) {
    for (const std::string& s : sheet.left_out)
        err << s << "\n";
    out << path << ": " << sheet.size.name << ", " << scale_words(sheet.scale) << "\n";
}

// What of a piece's drawing is said on the line.
Job with_said(Job job, const Options& o) {
    for (std::size_t i = 0; i < job.pieces.size(); ++i)
        for (const auto& [key, text] : {std::pair{"section", &o.section}, std::pair{"details", &o.details}})
            if (!text->empty()) job = with_drawing(job, i, key, *text);
    return job;
}

int draw_one(const Options& o, std::ostream& out, std::ostream& err) {
    Job job = with_said(job_of(o.text), o);
    for (const std::string& field : o.fields)
        job = with_field(job, field);
    const Preview p = make_preview(job.pieces[0], 0, {}, job.unit);
    print_findings(p.findings, err);
    const DrawnSheet sheet = draw_sheet(p, job.pieces[0], 0, settings_of(o, job, 0));
    if (!p.made()) return stopped;
    write_sheet(sheet.paper, o.output);
    say(sheet, o.output, out, err);
    return done;
}

// A page a piece as one PDF, or a file for each piece and format in a folder.
int draw_all(const Options& o, std::ostream& out, std::ostream& err) {
    const Job job = with_said(load_job(o.text), o);
    const Names names = resolve_names(job);
    if (job.pieces.empty()) throw InputError("'" + o.text + "' has no piece to draw.");
    const std::filesystem::path to(o.output);
    const bool one = to.extension() == ".pdf";
    std::vector<std::string> formats = listed_formats(o.formats, "pdf");
    for (const std::string& f : formats)
        if (std::find(sheet_formats().begin(), sheet_formats().end(), f) == sheet_formats().end())
            throw InputError("There is no format '" + f + "'; choose among pdf, svg, dxf and png.");
    std::vector<std::string> asked;
    for (const Piece& piece : job.pieces)
        asked.push_back(piece.name);
    const std::vector<std::string> stems = file_stems(asked);
    if (one) { // the parts list first
        const JobDrawings all = drawing::draw_job(
            job, [](std::size_t) { return true; }, [&](std::size_t i) { return settings_of(o, job, i); });
        for (const std::string& sentence : all.said)
            err << sentence << "\n";
        write_file_atomically(to, pdf_of(all.pages));
        out << o.output << ": " << all.pages.size() << (all.pages.size() == 1 ? " page" : " pages") << "\n";
        return all.stopped ? stopped : done;
    }
    std::error_code error;
    std::filesystem::create_directories(to, error);
    if (error) throw FileError("'" + o.output + "' can't be made: " + error.message() + ".");
    int code = done;
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const Preview p = make_preview(job.pieces[i], i, names, job.unit);
        if (!p.made()) code = stopped;
        try {
            const DrawnSheet sheet = draw_sheet(p, job.pieces[i], i, settings_of(o, job, i));
            for (const std::string& f : formats) {
                const std::filesystem::path path = to / (stems[i] + "." + f);
                write_sheet(sheet.paper, path);
                say(sheet, path.string(), out, err);
            }
        } catch (const InputError& e) {
            err << e.what() << "\n";
            code = stopped;
        }
    }
    return code;
}

} // namespace

void add_draw(Commands& commands) {
    add_command<Options>(
        commands, "draw", "Draw a piece, or every piece of a job: PDF, SVG, DXF, PNG",
        [](CLI::App& c, Options& o) {
            c.add_option(
                 "designation", o.text,
                 "for example \"M20x2.5 x 60\" or \"ISO 4762 M6 x 25\"; or a job file, ending in .whorl")
                ->required();
            c.add_option(
                 "-o,--output", o.output,
                 "the file: .pdf, .svg, .dxf or .png; of a job a .pdf with a page a piece, or a folder")
                ->required();
            c.add_option("--set", o.fields,
                         "a field of the spec sheet, such as near_end=flat; any number of them")
                ->type_name("FIELD=VALUE");
            c.add_option("--sheet", o.sheet,
                         "A4, A3, A2, A1, or A, B, C; usual: the smallest that shows it well");
            c.add_option("--scale", o.scale,
                         "of ISO 5455, such as 2:1; usual: the largest that goes on the sheet");
            c.add_option("--format", o.formats,
                         "of a job into a folder: pdf, svg, dxf, png, separated by commas");
            c.add_flag("--third-angle", o.third, "views as ASME has them; usual: first angle, as ISO");
            c.add_flag("--true", o.true_form,
                       "threads, teeth and knurls as they are instead of conventionally");
            c.add_option("--section", o.section, "lengthwise: none, half or whole; usual: as it is needed");
            c.add_option("--details", o.details,
                         "enlarged threads and grooves: none or all; usual: those off any series");
            c.add_flag("--hidden", o.hidden, "hidden edges, dashed");
            c.add_option("--owner", o.title.owner, "title block: who owns the drawing");
            c.add_option("--number", o.title.number, "title block: the drawing's number");
            c.add_option("--revision", o.title.revision, "title block");
            c.add_option("--drawn-by", o.title.drawn_by, "title block");
            c.add_option("--checked-by", o.title.checked_by, "title block");
            c.add_option("--date", o.title.date, "title block");
            c.add_option("--tolerance", o.title.tolerance,
                         "title block: the general tolerance, such as ISO 2768-m");
        },
        [](const Options& o, Commands& to) {
            const bool job = o.text.size() > 6 && o.text.ends_with(".whorl");
            return job ? draw_all(o, to.out, to.err) : draw_one(o, to.out, to.err);
        },
        &Options::text);
}

} // namespace whorl
