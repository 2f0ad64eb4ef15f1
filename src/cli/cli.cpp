#include "cli/cli.hpp"

#include "build/build.hpp"
#include "check/train.hpp"
#include "cli/gear.hpp"
#include "cli/print.hpp"
#include "cli/section.hpp"
#include "cli/table.hpp"
#include "exchange/form_file.hpp"
#include "exchange/tooth_outline.hpp"
#include "exchange/write_piece.hpp"
#include "model/row.hpp"
#include "model/starter.hpp"
#include "pair/fit.hpp"
#include "pair/gauge.hpp"
#include "quantity/expression.hpp"

#include <CLI/CLI.hpp>
#include <cmath>
#include <nlohmann/json.hpp>
#include <ostream>

namespace whorl {
namespace {

// A one-piece job from a designation or a starter.
Job job_of(const std::string& text) {
    Job job;
    const auto known = known_in(text);
    if (!is_starter(text)) job.unit = parse_designation(text, known).unit;
    return add_piece(job, piece_of(text, known));
}

int show(const std::string& text, double at, bool block, bool as_json, std::ostream& out) {
    const Designation d = parse_designation(text, known_in(text));
    if (const auto* gear = std::get_if<GearSpec>(&d.what)) {
        const GearDesignation g{*gear, d.length, d.unit};
        if (block) return gear_block(g, as_json, out);
        return show_gear(g, findings_of(job_of(text), 0), at, as_json, out);
    }
    if (at != 0 || block) throw InputError("--at and --block are for gears, for example gear m2 z24 b12.");
    if (const auto* rack = std::get_if<RackSpec>(&d.what))
        return show_rack({*rack, d.unit}, findings_of(job_of(text), 0), as_json, out);
    if (const auto* coil = std::get_if<CoilSpec>(&d.what))
        return print_form({{"designation", write_spring(*coil, d.unit)},
                           {"family", "compression spring"},
                           {"hand", word(coil->hand)},
                           {"ends", std::string(coil->ends == CoilEnds::closed ? "closed" : "open") +
                                        (coil->ground ? " ground" : "")}},
                          std::string(word(coil->hand)) + "-hand compression spring",
                          resolve_coil(*coil).values, d.unit, findings_of(job_of(text), 0), as_json, out);
    const auto* spec = std::get_if<ThreadSpec>(&d.what);
    if (!spec)
        throw InputError(
            "whorl show takes a thread, a gear, a rack or a spring, for example M10x1.5-6g, gear m2 z24 b12, "
            "rack m2 z20 or spring d2 D20 L50 n7.");
    const ResolvedThread r = resolve_thread(*spec);
    const bool inch_form = d.unit == LengthUnit::inch;
    const std::vector<Finding> findings = findings_of(job_of(text), 0);
    if (as_json) {
        json j;
        j["designation"] = write_designation(*spec, d.length);
        j["family"] = word(spec->family);
        j["side"] = r.side == Side::external ? "external" : "internal";
        j["listed"] = r.status.listed;
        if (r.status.nearest)
            j["nearest"] = {{"size", r.status.nearest->size},
                            {"pitch", tidy(in_mm(r.status.nearest->pitch))}};
        if (d.length) j["length"] = tidy(in_mm(*d.length));
        j["values"] = json::object();
        for (const auto& v : r.values)
            j["values"][v.key] = value_json(v, inch_form);
        if (const GaugeTrial trial = try_gauges(r); trial.possible)
            j["gauges"] = {{"go_passes", trial.go_passes},
                           {"go_clearance", tidy(trial.go_clearance)},
                           {"no_go_stops", trial.no_go_stops},
                           {"no_go_overlap", tidy(trial.no_go_overlap)}};
        j["findings"] = json::array();
        for (const auto& f : findings)
            j["findings"].push_back(finding_json(f));
        out << j.dump(2) << "\n";
    } else {
        out << write_designation(*spec, d.length) << "\n"
            << (r.side == Side::external ? "external, " : "internal, ") << word(spec->family) << ", "
            << (r.status.listed    ? r.status.series + " series"
                : r.status.nearest ? "off-standard"
                                   : "computed from the form's rules")
            << "; lengths in " << symbol(d.unit) << "\n\n";
        out << column("", 18) << column("value", 10) << column("min", 10) << column("max", 10) << "source\n";
        for (const auto& v : r.values) {
            const auto cell = [&](const std::optional<double>& x) { return cell_text(v, x, d.unit); };
            out << column(v.label, 18);
            if (v.kind == ValueKind::text)
                out << column(v.text, 30);
            else
                out << column(cell(v.value), 10) << column(cell(v.min), 10) << column(cell(v.max), 10);
            out << " " << v.source << "\n";
        }
        if (const GaugeTrial trial = try_gauges(r); trial.possible)
            out << "\n" << trial.go << "\n" << trial.no_go << "\n";
        if (!findings.empty()) out << "\n";
        print_findings(findings, out);
    }
    return stops(findings) ? stopped : done;
}

const ThreadSpec& thread_in(const Designation& d, const std::string& text) {
    if (const auto* t = std::get_if<ThreadSpec>(&d.what)) return *t;
    throw InputError(in_quotes(text) +
                     " is not a thread; a pair is made of two, for example \"M10-6g\" \"M10-6H\".");
}

int pair(const std::string& first, const std::string& second, const std::string& centre, bool as_json,
         std::ostream& out) {
    const auto read = [](const std::string& text) {
        try {
            return parse_designation(text, known_in(text));
        } catch (const InputError& e) {
            throw InputError("In '" + text + "': " + e.what(), e.position, e.extent);
        }
    };
    const Designation a = read(first), b = read(second);
    const auto toothed = [](const Designation& d) {
        return !std::holds_alternative<ThreadSpec>(d.what) && !std::holds_alternative<PlainBar>(d.what);
    };
    if (toothed(a) && toothed(b)) return pair_teeth(a, b, centre, as_json, out);
    ThreadSpec one = thread_in(a, first), two = thread_in(b, second);
    // of two threads whose classes don't say it, the second is the nut
    if (one.side == two.side && !side_of_class(two.family, two.tolerance_class)) two.side = Side::internal;
    const ResolvedThread r1 = resolve_thread(one), r2 = resolve_thread(two);
    const bool swapped = r1.side == Side::internal && r2.side == Side::external;
    const auto engaged = b.length ? b.length : a.length;
    const Fit fit = fit_of(swapped ? r2 : r1, swapped ? r1 : r2, engaged);
    if (as_json) {
        json j;
        j["screw"] = write_designation((swapped ? r2 : r1).spec);
        j["nut"] = write_designation((swapped ? r1 : r2).spec);
        j["goes_together"] = fit.goes_together();
        j["will_turn"] = fit.goes_together() && !fit.will_not_turn;
        j["mistakes"] = json::array();
        constexpr const char* ids[]{"side",   "form",  "pitch",        "diameter", "hand",
                                    "starts", "taper", "interference", "limits"};
        for (const auto& m : fit.mistakes)
            j["mistakes"].push_back({{"id", ids[static_cast<int>(m.what)]},
                                     {"sentence", m.sentence},
                                     {"value", tidy(m.value)},
                                     {"limit", tidy(m.limit)}});
        j["values"] = json::object();
        for (const auto& v : fit.values)
            j["values"][v.key] = value_json(v, a.unit == LengthUnit::inch);
        out << j.dump(2) << "\n";
    } else {
        out << write_designation((swapped ? r2 : r1).spec) << " with "
            << write_designation((swapped ? r1 : r2).spec) << "; lengths in " << symbol(a.unit) << "\n";
        for (const auto& m : fit.mistakes)
            out << "wrong   " << m.sentence << "\n";
        if (fit.will_not_turn)
            out << "They go together, but nothing is left between them: made like this they will not turn. "
                   "Give one of them a printing allowance in a job.\n";
        else if (fit.goes_together())
            out << "They go together.\n";
        if (!fit.values.empty())
            out << "\n"
                << column("", 24) << column("value", 12) << column("min", 10) << column("max", 10)
                << "source\n";
        for (const auto& v : fit.values)
            out << column(v.label, 24) << column(cell_text(v, v.value, a.unit), 12)
                << column(cell_text(v, v.min, a.unit), 10) << column(cell_text(v, v.max, a.unit), 10)
                << v.source << "\n";
    }
    return fit.goes_together() ? done : stopped;
}

int list(const std::string& family, bool as_json, std::ostream& out) {
    std::string known;
    for (int k = 0; k < family_count; ++k) {
        const auto f = static_cast<ThreadFamily>(k);
        const auto& threads = listed_threads(f);
        if (threads.empty()) continue;
        known += (known.empty() ? "" : ", ") + std::string(key_word(f));
        if (family != key_word(f)) continue;
        json rows = json::array();
        for (const auto& l : threads) {
            ThreadSpec s;
            s.family = f;
            s.side = Side::external;
            s.tolerance_class = usual_class(f, s.side);
            s.diameter = l.diameter;
            s.pitch = l.pitch;
            if (as_json)
                rows.push_back({{"designation", write_designation(s)},
                                {"series", l.series},
                                {"diameter", tidy(in_mm(l.diameter))},
                                {"pitch", tidy(in_mm(l.pitch))},
                                {"source", l.source}});
            else
                out << column(write_designation(s), 26) << column(l.series, 11) << l.source << "\n";
        }
        if (as_json) out << rows.dump(2) << "\n";
        return done;
    }
    throw InputError("There is no series for '" + family + "'; there are " + known + ".");
}

// The zone that says what a piece is: its first one that is not plain, else its first.
std::size_t telling_zone(const Piece& piece) {
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        if (!piece.zones[i].as<PlainForm>()) return i;
    return 0;
}

// A field of that zone, as `key=value`.
Job with_field(const Job& job, const std::string& assignment) {
    const auto equals = assignment.find('=');
    const std::size_t zone = telling_zone(job.pieces[0]);
    const Zone& z = job.pieces[0].zones[zone];
    std::string known;
    for (const Row& row : rows_of(z)) {
        if (row.applies && !row.applies(z)) continue;
        if (equals != std::string::npos && assignment.substr(0, equals) == row.field.key)
            return apply(job, {0, zone, row.field, assignment.substr(equals + 1), job.unit});
        known += (known.empty() ? "" : ", ") + std::string(row.field.key);
    }
    throw InputError("--set takes a field and its value, such as length=30, not " +
                     in_quotes(assignment, 40) + "; the fields here are " + known + ".");
}

int make(const std::string& text, const std::vector<std::string>& fields, const std::string& path,
         double chord, bool space, std::ostream& out, std::ostream& err) {
    require_known_ending(path);
    Job job = job_of(text);
    for (const std::string& field : fields)
        job = with_field(job, field);
    const Piece& piece = job.pieces[0];
    const Preview p = make_preview(piece, 0, {}, job.unit, chord);
    print_findings(p.findings, err);
    if (stops(p.findings)) return stopped;
    out << path << ": " << write_piece(p, piece, job.unit, path, {.space = space}) << "\n";
    return done;
}

int check(const std::string& path, bool as_json, std::ostream& out) {
    const Job job = load_job(path);
    const auto findings = check_job(job);
    if (as_json) {
        json j;
        j["job"] = job.name;
        j["pieces"] = job.pieces.size();
        j["stops"] = stops(findings);
        j["findings"] = json::array();
        for (const auto& f : findings)
            j["findings"].push_back(finding_json(f));
        out << j.dump(2) << "\n";
    } else {
        for (const auto& f : findings)
            out << job.pieces[f.piece].name << ", zone " << f.zone + 1 << ": "
                << (f.severity == Severity::stop ? "stop: " : "advice: ") << f.sentence << "\n";
        out << job.pieces.size() << " pieces, " << findings.size() << " findings\n";
    }
    return stops(findings) ? stopped : done;
}

int train(const std::string& path, const std::string& driver, bool as_json, std::ostream& out) {
    const Job job = load_job(path);
    // the piece of that name, or else the first that is in a pair of teeth
    std::optional<std::size_t> from;
    for (std::size_t i = 0; i < job.pieces.size(); ++i)
        if (driver.empty() ? train_of(job, i).members.size() > 1 : job.pieces[i].name == driver) {
            from = i;
            break;
        }
    if (!from)
        throw InputError(driver.empty() ? "There is no pair of gears in '" + path + "'."
                                        : "There is no piece '" + driver + "' in '" + path + "'.");
    const Train t = train_of(job, *from);
    if (as_json) {
        json j{{"driver", job.pieces[*from].name},
               {"locks", t.locked_by.has_value()},
               {"members", json::array()}};
        for (const TrainMember& m : t.members) {
            if (!m.pair) continue;
            json row{{"piece", job.pieces[m.piece].name}, {"driven_by", job.pieces[m.by].name}};
            m.rack ? row["travel_per_turn"] = tidy(m.travel) : row["turns"] = m.turns;
            j["members"].push_back(row);
        }
        out << j.dump(2) << "\n";
    } else {
        out << "One turn of " << job.pieces[*from].name << ":\n";
        for (const TrainMember& m : t.members)
            if (m.pair)
                out << column(job.pieces[m.piece].name, 26) << column(said(m), 40) << "driven by "
                    << job.pieces[m.by].name << "\n";
        if (t.locked_by) out << "This train locks: its ratios contradict each other.\n";
    }
    return t.locked_by ? stopped : done;
}

// Every zone's drawing, numbered by its kind.
void write_drawings(const ResolvedPiece& piece, LengthUnit unit, const std::filesystem::path& base) {
    std::map<std::string, int> count;
    for (const ResolvedZone& z : piece.zones)
        if (const FormFile& f = file_of(z); f.svg && f.drawn(z))
            write_file_atomically(base.string() + "-" + f.drawing + "-" + std::to_string(++count[f.drawing]) +
                                      ".svg",
                                  f.svg(z, unit, false));
}

int export_job(const std::string& path, const std::string& directory, const std::vector<std::string>& formats,
               double chord, std::ostream& out, std::ostream& err) {
    for (const auto& f : formats)
        if (f != "step" && f != "stl" && f != "svg")
            throw InputError("There is no format '" + f + "'; choose among step, stl and svg.");
    const Job job = load_job(path);
    const Names names = resolve_names(job);
    std::error_code error;
    std::filesystem::create_directories(directory, error);
    if (error) throw FileError("'" + directory + "' can't be made: " + error.message() + ".");
    int code = done;
    std::vector<std::string> names_asked;
    for (const Piece& piece : job.pieces)
        names_asked.push_back(piece.name);
    const std::vector<std::string> stems = file_stems(names_asked);
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const Piece& piece = job.pieces[i];
        const Preview p = make_preview(piece, i, names, job.unit, chord);
        if (!p.made()) {
            code = stopped;
            err << piece.name << ": not exported. " << p.findings.front().sentence << "\n";
            continue;
        }
        const std::filesystem::path base = std::filesystem::path(directory) / stems[i];
        try {
            for (const auto& f : formats)
                if (f == "svg")
                    write_drawings(p.piece, job.unit, base);
                else
                    write_piece(p, piece, job.unit, base.string() + "." + f);
        } catch (const FileError& e) {
            code = stopped;
            err << piece.name << ": " << e.what() << "\n";
            continue;
        }
        out << model_note(piece, p.piece) << "\n";
    }
    return code;
}

// As the parser's own range, which lets "nan" through.
CLI::Validator between(double low, double high) {
    const std::string range = number_text(low, 6) + " to " + number_text(high, 6);
    return CLI::Validator(
        [=](std::string& text) {
            double value = 0;
            const bool number = CLI::detail::lexical_cast(text, value);
            return number && value >= low && value <= high
                       ? std::string()
                       : in_quotes(text) + " is not a number from " + range + ".";
        },
        range);
}

} // namespace

int run_command_line(int argc, const char* const* argv, std::ostream& out, std::ostream& err) {
    CLI::App app("Regular Whorl: threads from standard specifications to correct solids.", "whorl");
    app.require_subcommand(1);
    std::string text, path, output;
    bool as_json = false, no_textbook = false;
    double chord = 0.01;
    int textbook_turns = 3, jobs = 1;
    bool again = false;
    std::string formats, second, driver;

    double at = 0;
    bool space = false, block = false;
    auto* show_command =
        app.add_subcommand("show", "Say what a designation means: every value with its limits and source");
    show_command->add_option("designation", text, "for example \"M10x1.5-6g\"")->required();
    show_command->add_option("--at", at, "of a gear, also the tooth's thickness on this diameter, mm")
        ->check(between(0, 1e5));
    show_command->add_flag("--block", block, "of a gear, what its drawing says to the maker, ISO 1340");
    show_command->add_flag("--json", as_json, "as JSON");

    auto* make_command =
        app.add_subcommand("make", "Make one piece: a STEP solid, an STL mesh or an SVG of the section");
    make_command->add_option("designation", text,
                             "for example \"M10x1.5-6g LH x 40\" or \"ISO 4762 M6 x 25\"");
    make_command->add_option("--table", path,
                             "a CSV table with a column 'designation' instead: a piece for each row");
    std::vector<std::string> fields;
    make_command
        ->add_option("--set", fields, "a field of the spec sheet, such as near_end=flat; any number of them")
        ->type_name("FIELD=VALUE");
    make_command->add_flag("--space", space, "of a gear's or rack's DXF or SVG only one tooth space");
    make_command
        ->add_option("-o,--output", output, "the file: .step, .stl, .svg or .dxf; for a table the folder")
        ->required();
    make_command->add_option("--jobs", jobs, "table: so many at a time")->check(CLI::Range(1, 64));
    make_command->add_option("--format", formats, "table: step, stl, separated by commas");
    make_command->add_flag("--again", again, "table: make anew what an earlier run has made");
    make_command->add_option("--chord", chord, "largest distance of an STL side from the surface, mm")
        ->check(between(1e-4, 10.0));

    auto* train_command =
        app.add_subcommand("train", "Say how all gears and racks turn that one piece drives");
    train_command->add_option("job", path, "a .whorl file")->required();
    train_command->add_option("--driver", driver, "name of the driving piece, else the first in a pair");
    train_command->add_flag("--json", as_json, "as JSON");
    auto* check_command = app.add_subcommand("check", "Check every piece of a job");
    check_command->add_option("job", path, "a .whorl file")->required();
    check_command->add_flag("--json", as_json, "as JSON");

    auto* export_command = app.add_subcommand("export", "Export every piece of a job");
    export_command->add_option("job", path, "a .whorl file")->required();
    export_command->add_option("-o,--output", output, "the folder; made if missing")->required();
    export_command->add_option("--format", formats, "step, stl, svg, separated by commas");
    export_command->add_option("--chord", chord, "largest distance of an STL side from the surface, mm")
        ->check(between(1e-4, 10.0));

    auto* pair_command = app.add_subcommand(
        "pair", "Say how two threads go together, or two gears, or a gear and a rack mesh");
    pair_command->add_option("first", text, "for example \"M10-6g\" or \"gear m2 z19 b12\"")->required();
    pair_command->add_option("second", second, "for example \"M10-6H x 8\" or \"gear m2 z73 b12\"")
        ->required();
    std::string centre;
    pair_command->add_option("--centre", centre,
                             "centre distance of gears, or from a gear's axis to a rack's reference line, in "
                             "mm, else that of no backlash");
    pair_command->add_flag("--json", as_json, "as JSON");

    double within = 0.001;
    int largest = 120;
    auto* ratio_command = app.add_subcommand("ratio", "Find tooth counts for a ratio");
    ratio_command
        ->add_option("ratio", text, "z2/z1, a number or an expression, for example 3.84 or 365.2422/31")
        ->required();
    ratio_command->add_option("--within", within, "largest relative error")->check(between(0, 0.1));
    ratio_command->add_option("--largest", largest, "most teeth")->check(CLI::Range(12, 1000));
    ratio_command->add_flag("--json", as_json, "as JSON");

    double tolerated = 0;
    auto* compare_command = app.add_subcommand(
        "compare", "Lay another gear's outline or solid over a gear, or a rack's side over a rack");
    compare_command->add_option("file", path, "a .dxf, .svg or .csv outline, or a .stl or .step solid")
        ->required();
    compare_command->add_option("gear", text, "for example \"gear m2 z24\" or \"rack m2 z20\"")->required();
    compare_command->add_option("--within", tolerated, "exit code 1 beyond this difference, mm")
        ->check(between(0, 1e6));
    compare_command->add_flag("--json", as_json, "as JSON");

    auto* list_command = app.add_subcommand("list", "List the standard series of a thread family");
    list_command->add_option("family", text, "for example trapezoidal")->required();
    list_command->add_flag("--json", as_json, "as JSON");

    auto* section_command = app.add_subcommand("section", "Sections of your own: import, list, show, remove");
    section_command->require_subcommand(1);
    auto* import_command =
        section_command->add_subcommand("import", "Keep an outline (.dxf, .svg, .csv) in your library");
    import_command->add_option("outline", path, "from crest to crest across one groove")->required();
    import_command->add_option("--name", text, "what to call it; else the file's name");
    double section_pitch = 0;
    auto* pitch_option = import_command->add_option(
        "--pitch", section_pitch, "the pitch in the drawing's units; else the outline's width");
    pitch_option->check(between(1e-9, 1e9));
    bool replace = false;
    import_command->add_flag("--replace", replace, "in place of a section of that name");
    auto* sections_command = section_command->add_subcommand("list", "What is in your library");
    sections_command->add_flag("--json", as_json, "as JSON");
    auto* section_show_command = section_command->add_subcommand("show", "The points of one section");
    section_show_command->add_option("name", text)->required();
    section_show_command->add_flag("--json", as_json, "as JSON");
    auto* section_remove_command = section_command->add_subcommand("remove", "Take one out of your library");
    section_remove_command->add_option("name", text)->required();

    auto* bench_command =
        app.add_subcommand("bench", "Measure the speed goals, with the textbook way in the same run");
    bench_command->add_flag("--no-textbook", no_textbook, "leave out the slow comparison");
    bench_command->add_option("--textbook-turns", textbook_turns, "turns of the comparison")
        ->check(CLI::Range(1, 20));

    if (argc > 1 && argv[1][0] != '-') {
        const auto commands = app.get_subcommands([](CLI::App*) { return true; });
        std::string names;
        bool known = false;
        for (const CLI::App* c : commands) {
            names += (names.empty() ? "" : ", ") + c->get_name();
            known = known || c->get_name() == argv[1];
        }
        if (!known) {
            err << "whorl: there is no command '" << argv[1] << "'; there are " << names << ".\n";
            return refused;
        }
    }
    try {
        app.parse(argc, argv);
    } catch (const CLI::CallForHelp&) {
        out << app.help();
        return done;
    } catch (const CLI::ParseError& e) {
        std::string why = e.what();
        for (char& c : why)
            if (c == '\n') c = ' ';
        err << "whorl: " << why << " (whorl --help lists the commands)\n";
        return refused;
    }
    try {
        if (*show_command) return show(text, at, block, as_json, out);
        const auto words = [&](const std::string& usual) {
            std::vector<std::string> all;
            std::string word;
            for (const char c : (formats.empty() ? usual : formats) + ",") {
                if (c != ',') {
                    word += c;
                } else if (!word.empty()) {
                    all.push_back(word);
                    word.clear();
                }
            }
            if (all.empty())
                throw InputError("No format is named in '" + formats + "'; choose among " + usual +
                                 ", separated by commas.");
            return all;
        };
        if (*make_command) {
            if (text.empty() == path.empty())
                throw InputError("Write a designation to make, or --table with a CSV file; not both.");
            if (!path.empty()) return make_table({path, output, words("step"), jobs, chord, again}, out, err);
            return make(text, fields, output, chord, space, out, err);
        }
        if (*pair_command) return pair(text, second, centre, as_json, out);
        if (*ratio_command) return tooth_ratio(text, within, largest, as_json, out);
        if (*import_command)
            return section_import(path, text, *pitch_option ? std::optional(section_pitch) : std::nullopt,
                                  replace, out);
        if (*sections_command) return section_list(as_json, out, err);
        if (*section_show_command) return section_show(text, as_json, out);
        if (*section_remove_command) return section_remove(text, out);
        if (*compare_command && is_rack(text))
            return compare_rack(path, parse_rack_bar(text).spec, tolerated, as_json, out);
        if (*compare_command) return compare_gear(path, parse_gear(text).spec, tolerated, as_json, out);
        if (*list_command) return list(text, as_json, out);
        if (*train_command) return train(path, driver, as_json, out);
        if (*check_command) return check(path, as_json, out);
        if (*export_command) {
            return export_job(path, output, words("step,stl"), chord, out, err);
        }
        if (*bench_command) return run_bench(out, !no_textbook, textbook_turns);
    } catch (const JobError& e) {
        err << "whorl: " << e.what() << "\n";
        return refused;
    } catch (const InputError& e) {
        err << "whorl: " << e.what();
        if (!text.empty() && text.size() < 120 && e.position <= text.size() && e.position + e.extent > 0)
            err << " (at character " << e.position + 1 << ")";
        err << "\n";
        return refused;
    } catch (const FileError& e) {
        err << "whorl: " << e.what() << "\n";
        return refused;
    } catch (const std::exception& e) {
        err << "whorl: something went wrong inside: " << e.what() << "\n";
        return refused;
    }
    return refused;
}

} // namespace whorl
