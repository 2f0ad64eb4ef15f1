// whorl check, train and export: what is asked of a whole job.
#include "cli/commands.hpp"
#include "cli/print.hpp"

#include "build/build.hpp"
#include "check/train.hpp"
#include "exchange/hand_on.hpp"
#include "model/job_file.hpp"

#include <CLI/CLI.hpp>
#include <ostream>

namespace whorl {
namespace {

struct Asked {
    std::string path, driver;
    bool as_json = false;
};

struct Export {
    std::string path, output, formats;
    std::vector<std::string> pieces;
    double chord = 0.01; // mm
    bool together = false;
};

int check(const Asked& o, std::ostream& out) {
    const Job job = load_job(o.path);
    const auto findings = check_job(job);
    if (o.as_json) {
        json j;
        j["job"] = job.name;
        j["pieces"] = job.pieces.size();
        j["stops"] = stops(findings);
        j["findings"] = json::array();
        for (const auto& f : findings)
            j["findings"].push_back(finding_json(f));
        print(out, j);
    } else {
        for (const auto& f : findings)
            out << job.pieces[f.piece].name << ", zone " << f.zone + 1 << ": "
                << (f.severity == Severity::stop ? "stop: " : "advice: ") << f.sentence << "\n";
        out << job.pieces.size() << " pieces, " << findings.size() << " findings\n";
    }
    return stops(findings) ? stopped : done;
}

int train(const Asked& o, std::ostream& out) {
    const Job job = load_job(o.path);
    // the piece of that name, or else the first that is in a pair of teeth
    std::optional<std::size_t> from;
    for (std::size_t i = 0; i < job.pieces.size(); ++i)
        if (o.driver.empty() ? train_of(job, i).members.size() > 1 : job.pieces[i].name == o.driver) {
            from = i;
            break;
        }
    if (!from)
        throw InputError(o.driver.empty() ? "There is no pair of gears in '" + o.path + "'."
                                          : "There is no piece '" + o.driver + "' in '" + o.path + "'.");
    const Train t = train_of(job, *from);
    if (o.as_json) {
        json j{{"driver", job.pieces[*from].name},
               {"locks", t.locked_by.has_value()},
               {"members", json::array()}};
        for (const TrainMember& m : t.members) {
            if (!m.pair) continue;
            json row{{"piece", job.pieces[m.piece].name}, {"driven_by", job.pieces[m.by].name}};
            m.rack ? row["travel_per_turn"] = tidy(m.travel) : row["turns"] = m.turns;
            j["members"].push_back(row);
        }
        print(out, j);
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

std::vector<std::size_t> chosen(const Job& job, const std::vector<std::string>& asked) {
    std::vector<bool> in(job.pieces.size(), asked.empty());
    for (const std::string& text : asked) {
        const auto piece = piece_called(job, text);
        if (!piece)
            throw InputError("There is no piece '" + text + "' in the job; write its name or its number.");
        in[*piece] = true;
    }
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < in.size(); ++i)
        if (in[i]) out.push_back(i);
    return out;
}

// As the pairs place them, in one file.
int export_together(const Export& o, std::ostream& out, std::ostream& err) {
    if (!o.formats.empty())
        throw InputError("--together writes one file, of the kind its name ends in; leave --format out.");
    require_assembly_ending(o.output);
    const Job job = load_job(o.path);
    try {
        const Assembly all = assembly_of(only(job, chosen(job, o.pieces)), o.chord);
        out << o.output << ": " << write_assembly(all, o.output) << "\n";
        return done;
    } catch (const NotTogether& e) {
        err << e.what() << "\n";
        return stopped;
    }
}

int export_job(const Export& o, std::ostream& out, std::ostream& err) {
    if (o.together) return export_together(o, out, err);
    const Job job = load_job(o.path);
    const HandedOn all = hand_on(
        job, {chosen(job, o.pieces), false, listed_formats(o.formats, "step,stl"), o.output, {}, o.chord});
    for (std::size_t i = 0; i < all.written.size(); ++i)
        out << all.written[i].filename().string() << ": " << all.notes[i] << "\n";
    for (const std::string& sentence : all.left)
        out << sentence << "\n";
    for (const std::string& sentence : all.failed)
        err << sentence << "\n";
    return all.failed.empty() ? done : stopped;
}

} // namespace

void add_job(Commands& commands) {
    const auto asked = [](bool driven) {
        return [driven](CLI::App& c, Asked& o) {
            c.add_option("job", o.path, "a .whorl file")->required();
            if (driven)
                c.add_option("--driver", o.driver, "name of the driving piece, else the first in a pair");
            c.add_flag("--json", o.as_json, "as JSON");
        };
    };
    add_command<Asked>(commands, "train", "Say how all gears and racks turn that one piece drives",
                       asked(true), [](const Asked& o, Commands& to) { return train(o, to.out); });
    add_command<Asked>(commands, "check", "Check every piece of a job", asked(false),
                       [](const Asked& o, Commands& to) { return check(o, to.out); });
    add_command<Export>(
        commands, "export", "Export every piece of a job",
        [](CLI::App& c, Export& o) {
            c.add_option("job", o.path, "a .whorl file")->required();
            c.add_option(
                 "-o,--output", o.output,
                 "the folder; made if missing; with --together the file: .step, .3mf, .glb, .stl or .csv")
                ->required();
            c.add_flag("--together", o.together, "all pieces as their pairs place them, in one file");
            c.add_option("--piece", o.pieces, "only this piece, by its name or number; may be given again")
                ->allow_extra_args(false);
            c.add_option("--format", o.formats, "step, stl, svg, dxf, csv, separated by commas");
            c.add_option("--chord", o.chord, "largest distance of an STL side from the surface, mm")
                ->check(between(1e-4, 10.0));
        },
        [](const Export& o, Commands& to) { return export_job(o, to.out, to.err); });
}

} // namespace whorl
