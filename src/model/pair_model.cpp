#include "model/pair_model.hpp"

#include "quantity/each_of.hpp"

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
