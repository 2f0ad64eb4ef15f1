#include "model/pair_edit.hpp"

#include "model/resolve.hpp"
#include "model/starter.hpp"

#include <algorithm>

namespace whorl {
namespace {

// A taper as its counterpart has it: the same ratio whatever the lengths are, small ends the same way round.
Number ratio_of_taper(const Zone& z, const Job& job) {
    const Number& taper = z.thread->taper;
    if (taper.text.empty()) return {};
    try {
        const Names names = resolve_names(job);
        const Length d = resolve_length(z.diameter, names);
        // a ratio does not ask how long a through bore is; an end's diameter does, and is left as it is
        const bool through = z.length.text.empty() && !taper.text.starts_with("to");
        const double lost = resolve_taper(taper, d, through ? d : resolve_length(z.length, names), names);
        return lost == 0 ? Number{} : Number{"1:" + number_text(1 / std::abs(lost), 9), {}};
    } catch (const InputError&) {
        return taper; // what does not resolve is refused with its own sentence
    }
}

// What a following zone takes over from the one it follows.
void follow(Job& job) {
    for (const Pair& pair : job.pairs) {
        if (!pair.follows) continue;
        const Zone& from = job.pieces.at(pair.first.piece).zones.at(pair.first.zone);
        Zone& to = job.pieces.at(pair.second.piece).zones.at(pair.second.zone);
        if (from.teeth && to.teeth) {
            const bool same_hand = from.where != Where::outer || to.where != Where::outer;
            to.teeth->module = from.teeth->module;
            to.teeth->pressure_angle = from.teeth->pressure_angle;
            to.teeth->helix_angle = from.teeth->helix_angle;
            to.teeth->hand = (from.teeth->hand == Hand::left) == same_hand ? Hand::left : Hand::right;
            continue;
        }
        if (!from.thread || !to.thread) continue;
        const ThreadFamily old = to.thread->family;
        to.diameter = from.diameter;
        to.thread->family = from.thread->family;
        to.thread->pitch = from.thread->pitch;
        to.thread->hand = from.thread->hand;
        to.thread->starts = from.thread->starts;
        to.thread->flank_angle = from.thread->flank_angle;
        to.thread->taper = ratio_of_taper(from, job);
        to.thread->own_section = from.thread->own_section;
        if (old != to.thread->family)
            to.thread->tolerance_class =
                usual_class(to.thread->family, to.where == Where::outer ? Side::external : Side::internal);
    }
}

} // namespace

bool pairable(const Job& job, ZoneRef first, ZoneRef second) {
    const auto zone = [&](ZoneRef at) {
        return at.piece < job.pieces.size() && at.zone < job.pieces[at.piece].zones.size()
                   ? &job.pieces[at.piece].zones[at.zone]
                   : nullptr;
    };
    const Zone *a = zone(first), *b = zone(second);
    if (!a || !b) return false;
    if (a->teeth && b->teeth) { // a rack goes with an external gear
        const auto beside = [](const Zone& rack, const Zone& z) {
            return !rack.teeth->is_rack() || (!z.teeth->is_rack() && z.where == Where::outer);
        };
        return beside(*a, *b) && beside(*b, *a);
    }
    return a->thread && b->thread;
}

std::optional<std::size_t> gear_pair_of(const Job& job, ZoneRef zone, std::optional<std::size_t> asked) {
    if (!job.pieces.at(zone.piece).zones.at(zone.zone).teeth) return {};
    const auto holds = [&](std::size_t i) {
        return job.pairs[i].first == zone || job.pairs[i].second == zone;
    };
    if (asked && *asked < job.pairs.size() && holds(*asked)) return asked;
    for (std::size_t i = 0; i < job.pairs.size(); ++i)
        if (holds(i)) return i;
    return {};
}

Job checked(Job job) {
    std::erase_if(job.pairs, [&](const Pair& p) { return !pairable(job, p.first, p.second); });
    follow(job);
    if (job.pieces.size() > most_pieces) throw InputError("A job holds at most 500 pieces.");
    for (const auto& p : job.pieces)
        if (p.zones.size() > most_zones) throw InputError("A piece holds at most 50 zones.");
    try {
        require_resolvable(job);
    } catch (const JobError& e) {
        throw InputError(std::string(e.what()).substr(e.place.size() + 2), e.position, e.extent);
    }
    return job;
}

Job add_mate(const Job& before, std::size_t piece, std::size_t zone, Mate mate, std::optional<int> teeth) {
    Job job = before;
    const ResolvedPiece resolved = resolve_piece(job.pieces.at(piece), resolve_names(job));
    const ResolvedZone& z = resolved.zones.at(zone);
    if (!z.teeth && !z.rack) throw InputError("Only teeth have a mate; this zone has none.");
    if (mate != Mate::gear && (z.rack || z.in_bore()))
        throw InputError(mate == Mate::ring ? "A ring goes around an external gear; this is not one."
                                            : "A rack goes with an external gear; this is not one.");
    const char* word = mate == Mate::ring ? "Ring for " : mate == Mate::rack ? "Rack for " : "Gear for ";
    std::string text;
    if (z.rack) {
        text = write_gear(mating_gear(z.rack->spec, teeth.value_or(20)), z.rack->spec.width);
    } else if (const GearSpec& spec = z.teeth->spec; mate == Mate::rack) {
        text = write_rack(mating_rack(spec, teeth.value_or(spec.teeth), z.length));
    } else {
        const int usual = mate == Mate::ring ? 3 * spec.teeth
                          : spec.internal    ? std::max(12, spec.teeth / 3)
                                             : 2 * spec.teeth;
        GearSpec other = mating_gear(spec, teeth.value_or(std::min(1000, usual)));
        if (mate == Mate::ring) {
            other.internal = true;
            other.hand = spec.hand;
        }
        text = write_gear(other, z.length);
    }
    Piece made = piece_of(text);
    std::size_t at = 0;
    while (!made.zones[at].teeth)
        ++at;
    // one that goes by its designation has a mate that does
    const std::string& name = job.pieces[piece].name;
    if (name != zone_designation(job.pieces[piece].zones[zone], job).substr(0, 80))
        made.name = (word + name).substr(0, 80);
    made.finish = job.pieces[piece].finish;
    job.pieces.push_back(std::move(made));
    job.pairs.push_back({{piece, zone}, {job.pieces.size() - 1, at}, true, {}});
    return checked(std::move(job));
}

Job add_counterpart(const Job& before, std::size_t piece, std::size_t zone) {
    Job job = before;
    const Zone& original = job.pieces.at(piece).zones.at(zone);
    if (original.teeth) return add_mate(before, piece, zone);
    if (!original.thread)
        throw InputError("Only a threaded or toothed zone has a counterpart; this one is plain.");
    const ResolvedPiece resolved = resolve_piece(job.pieces[piece], resolve_names(job));
    const ThreadSpec spec = counterpart(resolved.zones[zone].thread->spec);
    const Length d = spec.diameter;
    const bool nut = spec.side == Side::internal;
    const std::span known(&spec.own_section, 1);
    Piece made = nut ? piece_of("nut " + write_designation(spec), known)
                     : piece_of(write_designation(spec, d * 2), known);
    made.name = ((nut ? "Nut for " : "Screw for ") + job.pieces[piece].name).substr(0, 80);
    made.finish = job.pieces[piece].finish;
    std::size_t at = 0;
    while (!made.zones[at].thread)
        ++at;
    made.zones[at].thread->modelled_at = original.thread->modelled_at;
    job.pieces.push_back(std::move(made));
    job.pairs.push_back({{piece, zone}, {job.pieces.size() - 1, at}, true, {}});
    return checked(std::move(job));
}

Job add_pair(const Job& before, ZoneRef first, ZoneRef second) {
    Job job = before;
    if (first.piece == second.piece) throw InputError("A pair is made of two pieces.");
    if (!pairable(job, first, second))
        throw InputError(
            "A pair is made of two threaded zones, of two gears or of an external gear and a rack; "
            "these don't go together.");
    job.pairs.push_back({first, second, false, {}});
    return checked(std::move(job));
}

Job remove_pair(const Job& before, std::size_t pair) {
    Job job = before;
    (void)job.pairs.at(pair);
    job.pairs.erase(job.pairs.begin() + static_cast<long>(pair));
    return job;
}

} // namespace whorl
