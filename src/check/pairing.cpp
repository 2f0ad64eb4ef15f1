#include "check/pairing.hpp"

#include "model/forms/forms.hpp"
#include "model/pair_edit.hpp"
#include "model/pair_model.hpp"

#include <algorithm>

namespace whorl {
namespace {

std::vector<std::size_t> zones_of(const Job& job, const PairSide& side) {
    if (side.zone) return {*side.zone};
    std::vector<std::size_t> out;
    for (std::size_t z = 0; z < job.pieces.at(side.piece).zones.size(); ++z)
        out.push_back(z);
    return out;
}

std::string what(const Job& job, const PairSide& side) {
    const Piece& piece = job.pieces.at(side.piece);
    std::string out = "'" + piece.name + "' is ";
    std::vector<std::string> all;
    for (const std::size_t z : zones_of(job, side)) {
        const std::string is =
            with_model(piece.zones.at(z), [&]<class M>(M) { return M::what(piece.zones[z]); });
        if (std::find(all.begin(), all.end(), is) == all.end()) all.push_back(is);
    }
    for (std::size_t i = 0; i < all.size(); ++i)
        out += (i == 0 ? "" : i + 1 == all.size() ? " and " : ", ") + all[i];
    return out;
}

bool is_side(ZoneRef at, const PairSide& side) {
    return at.piece == side.piece && (!side.zone || *side.zone == at.zone);
}

bool between(const Pair& pair, const PairSide& one, const PairSide& other) {
    return (is_side(pair.first, one) && is_side(pair.second, other)) ||
           (is_side(pair.first, other) && is_side(pair.second, one));
}

// What stops the last pair of a job.
std::ptrdiff_t against(const Job& job) {
    const ZoneRef at = job.pairs.back().second;
    const auto found = check_pairs(job, at.piece);
    return std::count_if(found.begin(), found.end(), [&](const Finding& f) {
        return f.severity == Severity::stop && f.piece == at.piece && f.zone == at.zone;
    });
}

} // namespace

Pair pairing_of(const Job& job, const PairSide& one, const PairSide& other) {
    if (one.piece == other.piece) throw InputError("A pair is made of two pieces; this is one.");
    std::optional<Pair> best;
    std::ptrdiff_t least = 0;
    bool there = false;
    for (const bool turned : {false, true})
        for (const std::size_t a : zones_of(job, turned ? other : one))
            for (const std::size_t b : zones_of(job, turned ? one : other)) {
                const ZoneRef first{(turned ? other : one).piece, a}, second{(turned ? one : other).piece, b};
                if (!pairable(job, first, second)) continue;
                if (std::any_of(job.pairs.begin(), job.pairs.end(), [&](const Pair& p) {
                        return (p.first == first && p.second == second) ||
                               (p.first == second && p.second == first);
                    })) {
                    there = true;
                    continue;
                }
                const Pair pair{first, second, false, {}, {}};
                Job with = job;
                with.pairs.push_back(pair);
                const std::ptrdiff_t stops = against(with);
                if (best && stops >= least) continue;
                best = pair;
                least = stops;
            }
    if (best) return *best;
    if (there)
        throw InputError("'" + job.pieces.at(one.piece).name + "' and '" + job.pieces.at(other.piece).name +
                         "' are a pair already.");
    throw InputError(what(job, one) + "; " + what(job, other) +
                     ". These don't go together: a pair is made of " + what_pairs() + ".");
}

Job pair_up(const Job& job, const PairSide& one, const PairSide& other) {
    const Pair pair = pairing_of(job, one, other);
    return add_pair(job, pair.first, pair.second);
}

Job part(const Job& job, const PairSide& one, const PairSide& other) {
    Job out = job;
    for (std::size_t i = out.pairs.size(); i-- > 0;)
        if (between(out.pairs[i], one, other)) out = remove_pair(out, i);
    if (out.pairs.size() == job.pairs.size())
        throw InputError("'" + job.pieces.at(one.piece).name + "' and '" + job.pieces.at(other.piece).name +
                         "' are no pair.");
    return out;
}

} // namespace whorl
