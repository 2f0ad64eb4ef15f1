// whorl job: what is paired with what and where it stands; and to change that.
#include "cli/commands.hpp"
#include "cli/print.hpp"

#include "check/pairing.hpp"
#include "model/job_file.hpp"
#include "model/pair_model.hpp"
#include "quantity/expression.hpp"
#include "together/arrangement.hpp"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <ostream>

namespace whorl {
namespace {

struct Arranged {
    std::string path, output;
    std::vector<std::string> pair, unpair, number, place;
    bool as_json = false;
};

PairSide side_called(const Job& job, const std::string& text) {
    if (const auto piece = piece_called(job, text)) return {*piece, {}};
    if (const std::size_t colon = text.rfind(':'); colon != text.npos) {
        const auto piece = piece_called(job, text.substr(0, colon));
        const auto digits = text.substr(colon + 1);
        std::optional<std::size_t> zone;
        if (!digits.empty() && digits.size() < 4 && digits.find_first_not_of("0123456789") == digits.npos)
            zone = std::stoul(digits);
        if (piece && zone) {
            const std::size_t zones = job.pieces[*piece].zones.size();
            if (*zone < 1 || *zone > zones)
                throw InputError("'" + job.pieces[*piece].name + "' has " + std::to_string(zones) +
                                 (zones == 1 ? " zone" : " zones") + ", no zone " + std::to_string(*zone) +
                                 ".");
            return {*piece, *zone - 1};
        }
    }
    throw InputError("There is no piece '" + text +
                     "' in the job; write its name or its number, and with a zone " + "'name:2'.");
}

// The pair that a piece stands by: the one that says so, else the first that it is the second of.
std::size_t pair_of(const Job& job, std::size_t piece, const Arrangement& all) {
    if (const auto by = all.pieces.at(piece).by) return *by;
    for (std::size_t i = 0; i < job.pairs.size(); ++i)
        if (job.pairs[i].second.piece == piece) return i;
    throw InputError("'" + job.pieces[piece].name + "' stands by no pair; say where it stands with --place.");
}

std::vector<ResolvedPiece> resolved(const Job& job, const Names& names) {
    std::vector<ResolvedPiece> out;
    for (const Piece& p : job.pieces)
        out.push_back(resolve_piece(p, names));
    return out;
}

Arrangement arranged(const Job& job) {
    const Names names = resolve_names(job);
    return arrangement_of(job, resolved(job, names), names, {});
}

std::string shown(double v, Freedom freedom, LengthUnit unit) {
    return is_angle(freedom) ? number_text(in_deg(rad(v)), 3) + "°"
                             : length_text(mm(v), unit) + " " + symbol(unit);
}

void list(const Job& job, const Arrangement& all, std::ostream& out) {
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const Placed& p = all.pieces[i];
        std::string where = "in group " + std::to_string(p.group + 1);
        if (!job.pieces[i].stands.text.empty())
            where = "stands at " + job.pieces[i].stands.text;
        else if (p.by) {
            const Pair& pair = job.pairs[*p.by];
            const Freedom freedom = freedom_of(job, pair);
            where =
                "by '" + job.pieces[pair.first.piece == i ? pair.second.piece : pair.first.piece].name + "'";
            if (freedom != Freedom::none && p.held) {
                std::string label = word(freedom);
                label.front() = char(std::tolower(static_cast<unsigned char>(label.front())));
                where += ", " + label + " " + shown(p.held->at, freedom, job.unit);
                if (pair.stands.text.empty()) where += ", as is usual";
            }
        }
        out << column(std::to_string(i + 1), 5) << column(job.pieces[i].name, 34) << where << "\n";
    }
}

json listed(const Job& job, const Arrangement& all) {
    json j{{"job", job.name}, {"pieces", json::array()}};
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const Placed& p = all.pieces[i];
        json row{{"piece", job.pieces[i].name}, {"group", p.group + 1}};
        for (const auto& [key, v] :
             {std::pair{"origin", &p.at.origin}, {"axis", &p.at.z}, {"zero", &p.at.x}}) {
            row[key] = json::array();
            for (const double x : *v)
                row[key].push_back(tidy(x));
        }
        if (p.by) {
            const Pair& pair = job.pairs[*p.by];
            row["by"] = job.pieces[pair.first.piece == i ? pair.second.piece : pair.first.piece].name;
            const Freedom freedom = freedom_of(job, pair);
            if (freedom != Freedom::none && p.held) {
                const double unit = is_angle(freedom) ? in_deg(rad(1)) : 1;
                row["number"] = {{"what", word(freedom)},
                                 {"at", tidy(p.held->at * unit)},
                                 {"usual", pair.stands.text.empty()}};
                if (std::abs(p.held->range.low) < 1e5)
                    row["number"]["from"] = tidy(p.held->range.low * unit),
                    row["number"]["to"] = tidy(p.held->range.high * unit);
            }
        }
        j["pieces"].push_back(row);
    }
    return j;
}

Job changed(Job job, const Arranged& o) {
    for (std::size_t i = 0; i + 1 < o.unpair.size(); i += 2)
        job = part(job, side_called(job, o.unpair[i]), side_called(job, o.unpair[i + 1]));
    for (std::size_t i = 0; i + 1 < o.pair.size(); i += 2)
        job = pair_up(job, side_called(job, o.pair[i]), side_called(job, o.pair[i + 1]));
    for (std::size_t i = 0; i + 1 < o.place.size(); i += 2)
        job = place_piece(job, side_called(job, o.place[i]).piece, {o.place[i + 1], job.unit});
    for (std::size_t i = 0; i + 1 < o.number.size(); i += 2)
        job = place_pair(job, pair_of(job, side_called(job, o.number[i]).piece, arranged(job)),
                         {o.number[i + 1], job.unit});
    return job;
}

int run(const Arranged& o, std::ostream& out, std::ostream& err) {
    const Job before = load_job(o.path);
    const Job job = changed(before, o);
    if (!(job == before)) save_job(job, o.output.empty() ? o.path : o.output);
    const Arrangement all = arranged(job);
    if (o.as_json)
        print(out, listed(job, all));
    else
        list(job, all, out);
    bool stop = false;
    for (const Finding& f : check_pairs(job, job.pieces.size()))
        if (f.severity == Severity::stop) {
            err << job.pieces[f.piece].name << ", zone " << f.zone + 1 << ": stop: " << f.sentence << "\n";
            stop = true;
        }
    if (const auto trouble = trouble_of(all, job)) {
        err << *trouble << "\n";
        stop = true;
    }
    return stop ? stopped : done;
}

} // namespace

void add_arrange(Commands& commands) {
    add_command<Arranged>(
        commands, "job", "Say how a job's pieces are paired and where they stand, or change it",
        [](CLI::App& c, Arranged& o) {
            c.add_option("job", o.path, "a .whorl file")->required();
            const auto two = [&](const char* name, std::vector<std::string>& to, const char* about,
                                 const char* of) {
                c.add_option(name, to, about)
                    ->type_size(2)
                    ->expected(-1)
                    ->allow_extra_args(false)
                    ->type_name(of);
            };
            two("--pair", o.pair, "make a pair of two pieces, or of two zones of them",
                "PIECE[:ZONE] PIECE[:ZONE]");
            two("--unpair", o.unpair, "take a pair off", "PIECE[:ZONE] PIECE[:ZONE]");
            two("--number", o.number,
                "the free number of the pair that a piece stands by: how far on, or at which angle; empty: "
                "as is usual",
                "PIECE NUMBER");
            two("--place", o.place,
                "where a piece stands: 'x y z' or 'x y z turned a b c'; empty: as its pairs say",
                "PIECE PLACE");
            c.add_option("-o,--output", o.output, "the changed job; without it the file itself");
            c.add_flag("--json", o.as_json, "as JSON");
        },
        [](const Arranged& o, Commands& to) { return run(o, to.out, to.err); });
}

} // namespace whorl
