#include "check/check.hpp"

#include "check/form_checks.hpp"
#include "check/lone_threads.hpp"
#include "check/pair_checks.hpp"
#include "check/train.hpp"
#include "model/forms/cam_rows.hpp"
#include "quantity/each_of.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace whorl {

std::vector<Finding> check_piece(const ResolvedPiece& piece, std::size_t piece_index, LengthUnit unit) {
    std::vector<Finding> out;
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        std::visit(
            [&](const auto& form) {
                check_form(form, {{out, piece_index, i, unit}, piece});
            },
            piece.zones[i].form);
    std::stable_sort(out.begin(), out.end(),
                     [](const Finding& a, const Finding& b) { return a.severity > b.severity; });
    return out;
}

namespace {
void check_pair(PairKind kind, const Looking& look, const PairInJob& both) {
    static const auto all =
        each_of<PairKind, pair_kind_count>([]<PairKind k>() { return &whorl::check_pair<k>; });
    all.at(static_cast<std::size_t>(kind))(look, both);
}
} // namespace

std::vector<Finding> check_pairs(const Job& job, std::size_t piece) {
    std::vector<Finding> out;
    const Names names = job.pairs.empty() ? Names{} : resolve_names(job);
    for (const Pair& pair : job.pairs) {
        if (piece < job.pieces.size() && pair.first.piece != piece && pair.second.piece != piece) continue;
        const auto zone_at = [&](ZoneRef at) {
            return resolve_piece(job.pieces.at(at.piece), names).zones.at(at.zone);
        };
        const ResolvedZone first = zone_at(pair.first), second = zone_at(pair.second);
        const Looking look{out, pair.second.piece, pair.second.zone, job.unit};
        if (pair.first == pair.second) {
            look.stop("pair_with_itself",
                      "A pair names zone " + std::to_string(pair.first.zone + 1) + " of '" +
                          job.pieces[pair.first.piece].name +
                          "' twice; a pair is of two zones. Make the counterpart as a piece of its own.",
                      0, 0);
            continue;
        }
        if (!pair.centre.text.empty())
            if (const double centre = in_mm(resolve_length(pair.centre, names)); !(centre > 0)) {
                Edit follow{pair.second.piece,      pair.second.zone,
                            field::centre_distance, "",
                            LengthUnit::millimetre, static_cast<std::size_t>(&pair - job.pairs.data())};
                look.stop("centre_not_positive",
                          "The centre distance of '" + job.pieces[pair.first.piece].name + "' and '" +
                              job.pieces[pair.second.piece].name + "' is " + number_text(centre, 3) +
                              " mm; it must be more than nothing, or left to follow from the teeth.",
                          centre, 0, Remedy{"Let it follow", {follow}});
                continue;
            }
        if (const auto kind = pair_kind(job, pair))
            check_pair(*kind, look,
                       {job, pair, names, first, second,
                        job.pieces[piece == pair.first.piece ? pair.second.piece : pair.first.piece].name});
    }
    check_trains(out, job, piece);
    return out;
}

namespace {

std::vector<Finding> untried(const Job& job, std::size_t piece) {
    std::vector<Finding> out =
        check_piece(resolve_piece(job.pieces.at(piece), resolve_names(job)), piece, job.unit);
    for (Finding& f : check_pairs(job, piece))
        out.push_back(std::move(f));
    check_lone_threads(out, job, piece);
    return out;
}

// How many findings of this one's kind there are at its place, and how many in all that stop.
struct Count {
    std::ptrdiff_t of_kind = 0, stopping = 0;
};
Count count_like(const std::vector<Finding>& all, const Finding& finding) {
    return {
        std::count_if(all.begin(), all.end(),
                      [&](const Finding& f) {
                          return f.id == finding.id && f.piece == finding.piece && f.zone == finding.zone;
                      }),
        std::count_if(all.begin(), all.end(), [](const Finding& f) { return f.severity == Severity::stop; })};
}

// Takes away the remedies that the job refuses, that leave as many findings of their kind or that bring more
// that stop.
std::vector<Finding> with_tried_remedies(const Job& job, std::vector<Finding> findings) {
    std::map<std::size_t, std::vector<Finding>> now; // of the pieces that have remedies
    const auto mends = [&](const Finding& finding) {
        try {
            const auto [it, is_new] = now.try_emplace(finding.piece);
            if (is_new) it->second = untried(job, finding.piece);
            const Count before = count_like(it->second, finding),
                        after = count_like(untried(apply(job, *finding.remedy), finding.piece), finding);
            return after.of_kind < before.of_kind && after.stopping <= before.stopping;
        } catch (const InputError&) {
            return false;
        }
    };
    for (Finding& f : findings)
        if (f.remedy && !mends(f)) f.remedy.reset();
    return findings;
}

// Remedies write a timing whole; what they leave alone keeps the words it was typed with.
std::vector<Finding> keeping_words(const Job& job, std::vector<Finding> findings) {
    for (Finding& f : findings)
        for (std::size_t i = 0; f.remedy && i < f.remedy->edits.size(); ++i) {
            Edit& e = f.remedy->edits[i];
            if (e.field != field::timing) continue;
            const Zone& zone = job.pieces.at(e.piece).zones.at(e.zone);
            const Number* typed = zone.as<LobeForm>()   ? &zone.as<LobeForm>()->timing
                                  : zone.as<DrumForm>() ? &zone.as<DrumForm>()->timing
                                                        : nullptr;
            if (!typed) continue;
            const Timing was = parse_timing(typed->text, typed->unit, resolve_names(job)),
                         now = parse_timing(e.text, e.unit);
            e.text = with_changes(typed->text, was, now, typed->unit);
            e.unit = typed->unit;
        }
    return findings;
}

} // namespace

std::vector<Finding> findings_of(const Job& job, std::size_t piece) {
    return with_tried_remedies(job, keeping_words(job, untried(job, piece)));
}

std::vector<Finding> check_job(const Job& job) {
    std::vector<Finding> out;
    const Names names = resolve_names(job);
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        auto more = check_piece(resolve_piece(job.pieces[i], names), i, job.unit);
        out.insert(out.end(), more.begin(), more.end());
    }
    const auto pairs = check_pairs(job, job.pieces.size());
    out.insert(out.end(), pairs.begin(), pairs.end());
    check_lone_threads(out, job, job.pieces.size());
    return with_tried_remedies(job, keeping_words(job, std::move(out)));
}

Job apply(const Job& job, const Remedy& remedy) {
    Job changed = job;
    for (const auto& e : remedy.edits)
        changed = apply(changed, e);
    return changed;
}

bool stops(const std::vector<Finding>& findings) {
    return std::any_of(findings.begin(), findings.end(),
                       [](const auto& f) { return f.severity == Severity::stop; });
}

} // namespace whorl
