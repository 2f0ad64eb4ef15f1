#include "check/pair_checks.hpp"

#include "pair/fit.hpp"
#include "quantity/expression.hpp"

#include <algorithm>

namespace whorl {

template<>
void check_pair<PairKind::threads>(const Looking& look, const PairInJob& both) {
    const ResolvedThread &first = *both.first.thread(), &second = *both.second.thread();
    const std::string& other = both.other;
    const bool screw_first = first.side == Side::external;
    const Fit fit = fit_of(screw_first ? first : second, screw_first ? second : first);
    const ThreadSpec& like = first.spec;
    const LengthUnit own = is_inch(like.family) ? LengthUnit::inch : LengthUnit::millimetre;
    const auto edit = [&](Field f, std::string text, LengthUnit unit) {
        return Edit{look.piece, look.zone, f, std::move(text), unit};
    };
    const auto exact = [&](Length l) { return number_text(in_unit(l, own), 9); };
    if (fit.will_not_turn) {
        const std::string play = number_text(std::max(0.05, 0.025 * in_mm(like.pitch)), 2);
        look.advise(
            "pair_without_clearance",
            "With " + other +
                ": the threads touch and nothing is left between them; made like this they "
                "will not turn.",
            fit.least_clearance, 0,
            Remedy{"Allowance " + play + " mm", {edit(field::allowance, play, LengthUnit::millimetre)}});
    }
    for (const FitMistake& m : fit.mistakes) {
        std::optional<Remedy> remedy;
        std::string id;
        switch (m.what) {
        case Mismatch::pitch:
            id = "pair_pitch";
            remedy = Remedy{"Pitch " + length_text(like.pitch, look.unit),
                            {edit(field::pitch, exact(like.pitch), own)}};
            break;
        case Mismatch::diameter:
            id = "pair_diameter";
            remedy = Remedy{"Diameter " + length_text(like.diameter, look.unit),
                            {edit(field::diameter, exact(like.diameter), own)}};
            break;
        case Mismatch::hand:
            id = "pair_hand";
            remedy = Remedy{std::string("Make it ") + word(like.hand) + "-hand",
                            {edit(field::hand, word(like.hand), own)}};
            break;
        case Mismatch::starts:
            id = "pair_starts";
            remedy = Remedy{std::to_string(like.starts) + (like.starts > 1 ? " starts" : " start"),
                            {edit(field::starts, std::to_string(like.starts), own)}};
            break;
        case Mismatch::side:
            id = "pair_side";
            break;
        case Mismatch::form:
            id = "pair_form";
            break;
        case Mismatch::taper:
            id = "pair_taper";
            break;
        case Mismatch::interference:
        case Mismatch::limits: {
            id = m.what == Mismatch::limits ? "pair_class" : "pair_interferes";
            const ThreadSpec usual = counterpart(like);
            if (usual.tolerance_class != second.spec.tolerance_class)
                remedy = Remedy{"Class " + usual.tolerance_class,
                                {edit(field::tolerance_class, usual.tolerance_class, own)}};
            else if (second.spec.modelled_at != ModelledAt::middle)
                remedy =
                    Remedy{"Modelled at the middle", {edit(field::modelled_at, "middle of limits", own)}};
            break;
        }
        }
        look.stop(id, "With " + other + ": " + m.sentence, m.value, m.limit, std::move(remedy));
    }
}

} // namespace whorl
