// whorl make: one piece, or a piece for each row of a table. whorl list: what there is to make.
#include "cli/commands.hpp"
#include "cli/print.hpp"
#include "cli/table.hpp"

#include "build/build.hpp"
#include "exchange/section_import.hpp"
#include "exchange/silhouette_import.hpp"
#include "exchange/timing_import.hpp"
#include "exchange/write_piece.hpp"
#include "form/groove/section_points.hpp"
#include "model/forms/cam_rows.hpp"
#include "model/forms/groove.hpp"
#include "model/forms/silhouette.hpp"
#include "model/row.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"

#include <CLI/CLI.hpp>
#include <numbers>
#include <ostream>

namespace whorl {
namespace {

struct Listing {
    std::string family;
    bool as_json = false;
};

int list(const Listing& o, std::ostream& out) {
    std::string known;
    for (int k = 0; k < family_count; ++k) {
        const auto f = static_cast<ThreadFamily>(k);
        const auto& threads = listed_threads(f);
        if (threads.empty()) continue;
        known += (known.empty() ? "" : ", ") + std::string(key_word(f));
        if (o.family != key_word(f)) continue;
        json rows = json::array();
        for (const auto& l : threads) {
            ThreadSpec s;
            s.family = f;
            s.side = Side::external;
            s.tolerance_class = usual_class(f, s.side);
            s.diameter = l.diameter;
            s.pitch = l.pitch;
            if (o.as_json)
                rows.push_back({{"designation", write_designation(s)},
                                {"series", l.series},
                                {"diameter", tidy(in_mm(l.diameter))},
                                {"pitch", tidy(in_mm(l.pitch))},
                                {"source", l.source}});
            else
                out << column(write_designation(s), 26) << column(l.series, 11) << l.source << "\n";
        }
        if (o.as_json) print(out, rows);
        return done;
    }
    throw InputError("There is no series for '" + o.family + "'; there are " + known + ".");
}

struct Options {
    std::string text, table, output, formats;
    std::vector<std::string> fields;
    double chord = 0.01; // mm
    std::string timing;  // a file
    std::string points;  // of a silhouette, a file
    bool fit = false;
    double step = 1, cutter = 0; // of a cam's points: degrees; diameter, mm
    bool space = false, again = false;
    int jobs = 1;
};

// A silhouette's points, or a groove's section, from a file.
Job with_points(const Job& job, const std::string& file, std::ostream& out) {
    const std::size_t zone = telling_zone(job.pieces[0]);
    const auto edit = [&](Field f, std::string text) {
        return Edit{0, zone, f, std::move(text), LengthUnit::millimetre};
    };
    if (job.pieces[0].zones[zone].as<GrooveForm>()) {
        const std::vector<OwnPoint> points = import_groove(file);
        out << file << ": a section through " << points.size() << " points\n";
        return apply(apply(job, edit(field::groove, "own")),
                     edit(field::points, write_section_points(points, LengthUnit::millimetre)));
    }
    if (!job.pieces[0].zones[zone].as<SilhouetteForm>())
        throw InputError("--points is for silhouettes and grooves; this piece has none.");
    const ImportedSilhouette s = import_silhouette(file);
    out << file << ": " << import_words(s) << "\n";
    return apply(job, edit(field::points, write_points(s.points)));
}

int make(const Options& o, std::ostream& out, std::ostream& err) {
    if (o.text.empty() == o.table.empty())
        throw InputError("Write a designation to make, or --table with a CSV file; not both.");
    if (!o.table.empty())
        return make_table({o.table, o.output, listed_formats(o.formats, "step"), o.jobs, o.chord, o.again},
                          out, err);
    require_known_ending(o.output);
    Job job = job_of(o.text);
    for (const std::string& field : o.fields)
        job = with_field(job, field);
    if (!o.timing.empty()) {
        const std::size_t zone = telling_zone(job.pieces[0]);
        const ResolvedZone z = resolve_piece(job.pieces[0], resolve_names(job)).zones[zone];
        if (!z.motion()) throw InputError("--timing is for cams; this piece has none.");
        std::optional<double> around;
        if (z.drum()) around = 2 * std::numbers::pi * z.drum()->radius;
        const ImportedTiming t =
            import_timing(o.timing, around, o.fit ? OtherLength::scale : OtherLength::refuse);
        out << o.timing << ": " << import_words(t, around) << "\n";
        job = apply(job, {0, zone, field::timing, write_timing(t.timing), LengthUnit::millimetre});
    }
    if (!o.points.empty()) job = with_points(job, o.points, out);
    const Piece& piece = job.pieces[0];
    const Preview p = make_preview(piece, 0, {}, job.unit, o.chord);
    print_findings(p.findings, err);
    if (stops(p.findings)) return stopped;
    out << o.output << ": "
        << write_piece(p, piece, job.unit, o.output,
                       {.space = o.space, .step = o.step, .cutter_radius = o.cutter / 2})
        << "\n";
    return done;
}

} // namespace

void add_make(Commands& commands) {
    add_command<Options>(
        commands, "make", "Make one piece: a STEP solid, an STL mesh or an SVG of the section",
        [](CLI::App& c, Options& o) {
            c.add_option("designation", o.text, "for example \"M10x1.5-6g LH x 40\" or \"ISO 4762 M6 x 25\"");
            c.add_option("--table", o.table,
                         "a CSV table with a column 'designation' instead: a piece for each row");
            c.add_option("--set", o.fields,
                         "a field of the spec sheet, such as near_end=flat; any number of them")
                ->type_name("FIELD=VALUE");
            c.add_flag("--space", o.space, "of a gear's or rack's DXF or SVG only one tooth space");
            c.add_option("-o,--output", o.output,
                         "the file: .step, .stl, .svg, .dxf or, of a cam, .csv; for a table the folder")
                ->required();
            c.add_option("--jobs", o.jobs, "table: so many at a time")->check(CLI::Range(1, 64));
            c.add_option("--format", o.formats, "table: step, stl, separated by commas");
            c.add_option(
                "--timing", o.timing,
                "of a cam, its timing from a file: CSV of angle and lift, or a flat profile as DXF or SVG");
            c.add_option("--points", o.points,
                         "of a silhouette, its points from a file: CSV of height and radius, or half an "
                         "outline as DXF or SVG; of "
                         "a groove the outline of its section");
            c.add_flag("--fit", o.fit, "scale a timing of another length to the turn instead of refusing it");
            c.add_option("--step", o.step, "of a cam's CSV, degrees from point to point")
                ->check(between(0.01, 90));
            c.add_option("--cutter", o.cutter,
                         "of a cam's CSV, the cutter's diameter in mm; usual: the roller's")
                ->check(between(0.01, 2000));
            c.add_flag("--again", o.again, "table: make anew what an earlier run has made");
            c.add_option("--chord", o.chord, "largest distance of an STL side from the surface, mm")
                ->check(between(1e-4, 10.0));
        },
        [](const Options& o, Commands& to) { return make(o, to.out, to.err); }, &Options::text);
}

void add_list(Commands& commands) {
    add_command<Listing>(
        commands, "list", "List the standard series of a thread family",
        [](CLI::App& c, Listing& o) {
            c.add_option("family", o.family, "for example trapezoidal")->required();
            c.add_flag("--json", o.as_json, "as JSON");
        },
        [](const Listing& o, Commands& to) { return list(o, to.out); }, &Listing::family);
}

} // namespace whorl
