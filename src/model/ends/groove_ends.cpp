// How grooves and threads end inside their zone: run out, or in the round of the tool that cuts them.
#include "model/ends/ends.hpp"

namespace whorl {

template<>
const EndModel& end_model<EndKind::run_out>() {
    static constexpr EndNumber numbers[]{{"turns", &EndTreatment::turns}};
    static const EndModel model{
        .word = {"run-out", "runout", "run_out"},
        .written = "run-out 0.5 (turns)",
        .numbers = numbers,
        .read =
            [](EndTreatment& e, const EndWords& w) {
                if (!w.first.empty()) e.turns = {w.first, {}};
                if (!w.rest.empty()) throw InputError("A run-out has one number, its turns: run-out 0.5.");
            },
        .text = [](const EndTreatment& e, const Reading&) { return "run-out " + e.turns.text; },
        .resolve =
            [](const EndInZone& at) {
                if (!at.zone.swept())
                    throw InputError(
                        "Only a threaded or grooved zone can have a run-out; choose flat or chamfer.");
                ResolvedEnd r;
                r.kind = EndKind::run_out;
                r.turns = evaluate_number(at.end.turns.text, at.names);
                if (!(r.turns >= 0.05 && r.turns <= 20))
                    throw InputError("A run-out takes 0.05 to 20 turns.", 0, at.end.turns.text.size());
                return r;
            },
        .offered =
            [](const ResolvedZone& z) {
                return z.thread()   ? Words{"run-out 0.5", "run-out 1"}
                       : z.groove() ? Words{"run-out 0.25", "run-out 0.5"}
                                    : Words{};
            }};
    return model;
}

template<>
const EndModel& end_model<EndKind::milled>() {
    static const EndModel model{
        .word = {"milled"},
        .written = "milled (a groove's, in its tool's round)",
        .numbers = {},
        .read =
            [](EndTreatment&, const EndWords& w) {
                if (!w.first.empty())
                    throw InputError(
                        "A milled end has no number: its round is the tool's, as wide as the groove.");
            },
        .text = [](const EndTreatment&, const Reading&) { return std::string("milled"); },
        .resolve =
            [](const EndInZone& at) {
                if (!at.zone.groove())
                    throw InputError(
                        "Only a groove ends in the round of its tool; choose flat or chamfer, or "
                        "for a thread a run-out.");
                ResolvedEnd r;
                r.kind = EndKind::milled;
                return r;
            },
        .offered = [](const ResolvedZone& z) { return z.groove() ? Words{"milled"} : Words{}; }};
    return model;
}

} // namespace whorl
