// Screw and nut: what the second thread takes over from the first, and the counterpart as a piece.
#include "model/edit.hpp"
#include "model/forms/thread.hpp"
#include "model/pair_model.hpp"
#include "model/resolve_zone.hpp"
#include "model/starter.hpp"

#include <cmath>

namespace whorl {

namespace {
// A taper as its counterpart has it: the same ratio whatever the lengths are, small ends the same way round.
Number ratio_of_taper(const Zone& z, const Job& job) {
    const Number& taper = std::get<ThreadForm>(z.form).taper;
    if (taper.text.empty()) return {};
    try {
        const Names names = resolve_names(job);
        const Length d = resolve_length(std::get<ThreadForm>(z.form).diameter, names);
        // a ratio does not ask how long a through bore is; an end's diameter does, and is left as it is
        const bool through = z.length.text.empty() && !taper.text.starts_with("to");
        const double lost = resolve_taper(taper, d, through ? d : resolve_length(z.length, names), names);
        return lost == 0 ? Number{} : Number{"1:" + number_text(1 / std::abs(lost), 9), {}};
    } catch (const InputError&) {
        return taper; // what does not resolve is refused with its own sentence
    }
}
void follow_thread(Zone& second, const Zone& first, const Job& job) {
    const ThreadForm& from = std::get<ThreadForm>(first.form);
    ThreadForm& to = std::get<ThreadForm>(second.form);
    const ThreadFamily old = to.family;
    to.diameter = from.diameter;
    to.family = from.family;
    to.pitch = from.pitch;
    to.hand = from.hand;
    to.starts = from.starts;
    to.flank_angle = from.flank_angle;
    to.taper = ratio_of_taper(first, job);
    to.own_section = from.own_section;
    if (old != to.family)
        to.tolerance_class = usual_class(to.family, second.in_bore() ? Side::internal : Side::external);
}
} // namespace

template<>
const PairModel& pair_model<PairKind::threads>() {
    static const PairModel model{
        .of = "two threads",
        .fits = [](const Zone& first,
                   const Zone& second) { return first.as<ThreadForm>() && second.as<ThreadForm>(); },
        .freedom = always<Freedom::height>,
        .follow = follow_thread};
    return model;
}

Job FormModel<ThreadForm>::counterpart(const Job& before, ZoneRef ref) {
    Job job = before;
    const Piece& piece = job.pieces.at(ref.piece);
    const ResolvedPiece resolved = resolve_piece(piece, resolve_names(job));
    const ThreadSpec spec = whorl::counterpart(resolved.zones.at(ref.zone).thread()->spec);
    const bool nut = spec.side == Side::internal;
    const std::span known(&spec.own_section, 1);
    Piece made = nut ? piece_of("nut " + write_designation(spec), known)
                     : piece_of(write_designation(spec, spec.diameter * 2), known);
    made.name = ((nut ? "Nut for " : "Screw for ") + piece.name).substr(0, 80);
    made.finish = piece.finish;
    std::size_t at = 0;
    while (!made.zones[at].as<ThreadForm>())
        ++at;
    made.zones[at].as<ThreadForm>()->modelled_at = piece.zones[ref.zone].as<ThreadForm>()->modelled_at;
    job.pieces.push_back(std::move(made));
    job.pairs.push_back({ref, {job.pieces.size() - 1, at}, true, {}});
    return job;
}

} // namespace whorl
