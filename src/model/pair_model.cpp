#include "model/pair_model.hpp"

#include "model/resolve.hpp"
#include "quantity/each_of.hpp"
#include "quantity/expression.hpp"

#include <cmath>

namespace whorl {

const PairModel& model_of(PairKind kind) {
    static const auto all = each_of<PairKind, pair_kind_count>([]<PairKind k>() { return &pair_model<k>(); });
    return *all.at(static_cast<std::size_t>(kind));
}

std::optional<PairKind> pair_kind(const Zone& first, const Zone& second) {
    for (int k = 0; k < pair_kind_count; ++k)
        if (model_of(static_cast<PairKind>(k)).fits(first, second)) return static_cast<PairKind>(k);
    return {};
}

std::optional<PairKind> pair_kind(const Job& job, const Pair& pair) {
    return pair_kind(job.pieces.at(pair.first.piece).zones.at(pair.first.zone),
                     job.pieces.at(pair.second.piece).zones.at(pair.second.zone));
}

const char* word(Freedom f) {
    switch (f) {
    case Freedom::none:
        return "";
    case Freedom::height:
        return "Height";
    case Freedom::about:
        return "Around it at";
    case Freedom::travel:
        return "Travel";
    case Freedom::turned:
        return "Cam turned";
    case Freedom::shift:
        return "Shifted by";
    }
    return "";
}

Freedom freedom_of(const Job& job, const Pair& pair) {
    const Zone &first = job.pieces.at(pair.first.piece).zones.at(pair.first.zone),
               &second = job.pieces.at(pair.second.piece).zones.at(pair.second.zone);
    const auto kind = pair_kind(first, second);
    return kind ? model_of(*kind).freedom(first, second) : Freedom::none;
}

std::optional<double> stands_of(const Job& job, const Pair& pair, const Names& names) {
    if (pair.stands.text.empty()) return {};
    const Freedom freedom = freedom_of(job, pair);
    if (freedom == Freedom::none) throw InputError("This pair says by itself where its pieces stand.");
    if (is_angle(freedom)) return in_rad(evaluate_angle(pair.stands.text, names));
    const double at = in_mm(resolve_length(pair.stands, names));
    if (!(std::abs(at) < 1e5))
        throw InputError("A piece stands less than 100000 mm away.", 0, pair.stands.text.size());
    return at;
}

std::string what_pairs() {
    std::string all;
    for (int k = 0; k < pair_kind_count; ++k)
        all += (k == 0                     ? ""
                : k + 1 == pair_kind_count ? ", or "
                                           : ", ") +
               std::string(model_of(static_cast<PairKind>(k)).of);
    return all;
}

} // namespace whorl
