#include "cli/cli.hpp"

#include "build/build.hpp"
#include "exchange/export.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"

#include <CLI/CLI.hpp>
#include <cmath>
#include <nlohmann/json.hpp>
#include <ostream>

namespace whorl {
namespace {

using json = nlohmann::ordered_json;

constexpr int done = 0, stopped = 1, refused = 2;

// Numbers to a nanometre; JSON prints the shortest text that reads back.
double tidy(double v) {
    return std::strtod(number_text(v, 6).c_str(), nullptr);
}

json value_json(const ResolvedValue& v, bool inch_form) {
    json j;
    const auto amounts = [&](auto convert) {
        json a;
        if (v.value) a["value"] = tidy(convert(*v.value));
        if (v.min) a["min"] = tidy(convert(*v.min));
        if (v.max) a["max"] = tidy(convert(*v.max));
        return a;
    };
    switch (v.kind) {
    case ValueKind::text:
        j["value"] = v.text;
        break;
    case ValueKind::length:
        j = amounts([](double x) { return x; }), j["unit"] = "mm";
        break;
    case ValueKind::angle:
        j = amounts([](double x) { return in_deg(rad(x)); }), j["unit"] = "deg";
        break;
    case ValueKind::area:
        j = amounts([](double x) { return x; }), j["unit"] = "mm2";
        break;
    case ValueKind::number:
        j = amounts([](double x) { return x; });
        break;
    }
    if (inch_form && v.kind == ValueKind::length) {
        json own = amounts([](double x) { return in_inch(mm(x)); });
        own["unit"] = "in";
        j["own_unit"] = own;
    }
    j["source"] = v.source;
    return j;
}

json finding_json(const Finding& f) {
    json j{{"severity", f.severity == Severity::stop ? "stop" : "advice"},
           {"id", f.id},
           {"sentence", f.sentence},
           {"piece", f.piece},
           {"zone", f.zone},
           {"value", tidy(f.value)},
           {"limit", tidy(f.limit)}};
    if (f.remedy) j["remedy"] = f.remedy->label;
    return j;
}

void print_findings(const std::vector<Finding>& findings, std::ostream& out) {
    for (const auto& f : findings) {
        out << (f.severity == Severity::stop ? "stop    " : "advice  ") << f.sentence;
        if (f.remedy) out << " Remedy: " << f.remedy->label << ".";
        out << "\n";
    }
}

// A one-piece job from a designation or a starter.
Job job_of(const std::string& text) {
    Job job;
    if (!is_starter(text)) job.unit = parse_designation(text).unit;
    return add_piece(job, piece_of(text));
}

std::string column(std::string s, std::size_t width) {
    // counts characters, not bytes, so that Ø lines up
    std::size_t length = 0;
    for (const char c : s)
        if ((c & 0xC0) != 0x80) ++length;
    if (length < width) s.append(width - length, ' ');
    return s;
}

int show(const std::string& text, bool as_json, std::ostream& out) {
    const Designation d = parse_designation(text);
    const auto* spec = std::get_if<ThreadSpec>(&d.what);
    if (!spec) throw InputError("whorl show takes a thread designation, for example M10x1.5-6g.");
    const ResolvedThread r = resolve_thread(*spec);
    const bool inch_form = d.unit == LengthUnit::inch;
    std::vector<Finding> findings;
    findings = check_piece(resolve_piece(job_of(text).pieces[0], {}), 0, d.unit);
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
            const auto cell = [&](const std::optional<double>& x) -> std::string {
                if (!x) return "";
                switch (v.kind) {
                case ValueKind::length:
                    return length_text(mm(*x), d.unit);
                case ValueKind::angle:
                    return number_text(in_deg(rad(*x)), 3) + "°";
                case ValueKind::area:
                    return number_text(*x, 2) + " mm²";
                default:
                    return number_text(*x, 4);
                }
            };
            out << column(v.label, 18);
            if (v.kind == ValueKind::text)
                out << column(v.text, 30);
            else
                out << column(cell(v.value), 10) << column(cell(v.min), 10) << column(cell(v.max), 10);
            out << " " << v.source << "\n";
        }
        if (!findings.empty()) out << "\n";
        print_findings(findings, out);
    }
    return stops(findings) ? stopped : done;
}

int make(const std::string& text, const std::string& path, double chord, std::ostream& out,
         std::ostream& err) {
    const std::string extension = std::filesystem::path(path).extension();
    if (extension != ".step" && extension != ".stp" && extension != ".stl" && extension != ".svg")
        throw InputError("The file name must end in .step, .stl or .svg, not '" + extension + "'.");
    const Job job = job_of(text);
    const Piece& piece = job.pieces[0];
    const Preview p = make_preview(piece, 0, {}, job.unit, chord);
    print_findings(p.findings, err);
    if (extension == ".svg") {
        const auto threaded = std::find_if(p.piece.zones.begin(), p.piece.zones.end(),
                                           [](const ResolvedZone& z) { return z.thread.has_value(); });
        if (threaded == p.piece.zones.end()) throw InputError("Only a thread has a section to draw.");
        if (stops(p.findings)) return stopped;
        write_file_atomically(path, section_svg(*threaded->thread, job.unit));
        out << path << "\n";
        return done;
    }
    if (!p.made()) return stopped;
    if (extension == ".stl") {
        write_stl(p.mesh, model_note(piece, p.piece), path);
    } else {
        const auto solid = make_verified_solid(p);
        if (!solid->valid) {
            err << "The kernel does not accept this solid as valid; nothing was written.\n";
            return stopped;
        }
        write_step(*solid, piece, model_note(piece, p.piece), job.unit, path);
    }
    out << path << ": " << model_note(piece, p.piece) << ", " << number_text(p.volume, 3) << " mm3\n";
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
    std::map<std::string, int> used;
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const Piece& piece = job.pieces[i];
        const Preview p = make_preview(piece, i, names, job.unit, chord);
        std::string stem = file_stem(piece.name);
        if (const int n = ++used[stem]; n > 1) stem += "-" + std::to_string(n);
        if (!p.made()) {
            code = stopped;
            err << piece.name << ": not exported. " << p.findings.front().sentence << "\n";
            continue;
        }
        const std::filesystem::path base = std::filesystem::path(directory) / stem;
        for (const auto& f : formats) {
            if (f == "step") {
                const auto solid = make_verified_solid(p);
                if (!solid->valid) {
                    code = stopped;
                    err << piece.name << ": the kernel does not accept the solid; no STEP written.\n";
                    continue;
                }
                write_step(*solid, piece, model_note(piece, p.piece), job.unit, base.string() + ".step");
            } else if (f == "stl") {
                write_stl(p.mesh, model_note(piece, p.piece), base.string() + ".stl");
            } else {
                int n = 0;
                for (const auto& z : p.piece.zones)
                    if (z.thread)
                        write_file_atomically(base.string() + "-section-" + std::to_string(++n) + ".svg",
                                              section_svg(*z.thread, job.unit));
            }
        }
        out << model_note(piece, p.piece) << "\n";
    }
    return code;
}

} // namespace

int run_command_line(int argc, const char* const* argv, std::ostream& out, std::ostream& err) {
    CLI::App app("Regular Whorl: threads from standard specifications to correct solids.", "whorl");
    app.require_subcommand(1);
    std::string text, path, output;
    bool as_json = false, no_textbook = false;
    double chord = 0.01;
    int textbook_turns = 3;
    std::string formats = "step,stl";

    auto* show_command =
        app.add_subcommand("show", "Say what a designation means: every value with its limits and source");
    show_command->add_option("designation", text, "for example \"M10x1.5-6g\"")->required();
    show_command->add_flag("--json", as_json, "as JSON");

    auto* make_command =
        app.add_subcommand("make", "Make one piece: a STEP solid, an STL mesh or an SVG of the section");
    make_command->add_option("designation", text, "for example \"M10x1.5-6g LH x 40\"")->required();
    make_command->add_option("-o,--output", output, "the file: .step, .stl or .svg")->required();
    make_command->add_option("--chord", chord, "largest distance of an STL side from the surface, mm")
        ->check(CLI::Range(1e-4, 10.0));

    auto* check_command = app.add_subcommand("check", "Check every piece of a job");
    check_command->add_option("job", path, "a .whorl file")->required();
    check_command->add_flag("--json", as_json, "as JSON");

    auto* export_command = app.add_subcommand("export", "Export every piece of a job");
    export_command->add_option("job", path, "a .whorl file")->required();
    export_command->add_option("-o,--output", output, "the folder; made if missing")->required();
    export_command->add_option("--format", formats, "step, stl, svg, separated by commas");
    export_command->add_option("--chord", chord, "largest distance of an STL side from the surface, mm")
        ->check(CLI::Range(1e-4, 10.0));

    auto* bench_command =
        app.add_subcommand("bench", "Measure the speed goals, with the textbook way in the same run");
    bench_command->add_flag("--no-textbook", no_textbook, "leave out the slow comparison");
    bench_command->add_option("--textbook-turns", textbook_turns, "turns of the comparison")
        ->check(CLI::Range(1, 20));

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
        if (*show_command) return show(text, as_json, out);
        if (*make_command) return make(text, output, chord, out, err);
        if (*check_command) return check(path, as_json, out);
        if (*export_command) {
            std::vector<std::string> list;
            std::string word;
            for (const char c : formats + ",") {
                if (c != ',') {
                    word += c;
                } else if (!word.empty()) {
                    list.push_back(word);
                    word.clear();
                }
            }
            return export_job(path, output, list, chord, out, err);
        }
        if (*bench_command) return run_bench(out, !no_textbook, textbook_turns);
    } catch (const JobError& e) {
        err << "whorl: " << e.what() << "\n";
        return refused;
    } catch (const InputError& e) {
        err << "whorl: " << e.what();
        if (!text.empty() && text.size() < 120 && e.position <= text.size())
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
