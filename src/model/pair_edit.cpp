#include "model/pair_edit.hpp"

#include "model/forms/forms.hpp"
#include "model/pair_model.hpp"
#include "model/starter.hpp"

#include <algorithm>

namespace whorl {
namespace {

// What a following zone takes over from the one it follows.
void follow(Job& job) {
    for (const Pair& pair : job.pairs) {
        if (!pair.follows) continue;
        const Zone& first = job.pieces.at(pair.first.piece).zones.at(pair.first.zone);
        Zone& second = job.pieces.at(pair.second.piece).zones.at(pair.second.zone);
        if (const auto kind = pair_kind(first, second)) model_of(*kind).follow(second, first, job);
    }
}

} // namespace

namespace {

// Seen in a mirror across the bar.
Zone mirrored(Zone z) {
    std::swap(z.near_end, z.far_end);
    if (PlainForm* f = z.as<PlainForm>(); f && !f->far_diameter.text.empty())
        std::swap(f->diameter, f->far_diameter);
    return z;
}

} // namespace

void follow_zones(Piece& piece) {
    for (std::size_t i = 0; i < piece.zones.size(); ++i) {
        Zone& z = piece.zones[i];
        if (!z.follows) continue;
        // the zone at the end of the line, and whether it is seen in a mirror there
        std::size_t first = i, steps = 0;
        bool turned = false;
        while (piece.zones[first].follows) {
            const Following f = *piece.zones[first].follows;
            if (f.zone >= piece.zones.size())
                throw InputError("There is no zone " + std::to_string(f.zone + 1) +
                                 " to follow; this piece has " + std::to_string(piece.zones.size()) + ".");
            turned = turned != f.mirrored;
            first = f.zone;
            if (++steps > piece.zones.size())
                throw InputError("Zone " + std::to_string(i + 1) +
                                 " would follow itself; let it follow one that follows none.");
        }
        const Zone& from = piece.zones[first];
        if (from.in_bore() != z.in_bore())
            throw InputError("An outer zone follows an outer one, a bore a bore; zone " +
                             std::to_string(first + 1) + " is " +
                             (from.in_bore() ? "a bore." : "an outer zone."));
        Zone now = turned ? mirrored(from) : from;
        now.where = z.where;
        now.follows = z.follows;
        z = std::move(now);
    }
}

bool pairable(const Job& job, ZoneRef first, ZoneRef second) {
    const auto zone = [&](ZoneRef at) {
        return at.piece < job.pieces.size() && at.zone < job.pieces[at.piece].zones.size()
                   ? &job.pieces[at.piece].zones[at.zone]
                   : nullptr;
    };
    const Zone *a = zone(first), *b = zone(second);
    return a && b && pair_kind(*a, *b);
}

std::optional<std::size_t> gear_pair_of(const Job& job, ZoneRef zone, std::optional<std::size_t> asked) {
    if (!job.pieces.at(zone.piece).zones.at(zone.zone).teeth()) return {};
    const auto holds = [&](std::size_t i) {
        return job.pairs[i].first == zone || job.pairs[i].second == zone;
    };
    if (asked && *asked < job.pairs.size() && holds(*asked)) return asked;
    for (std::size_t i = 0; i < job.pairs.size(); ++i)
        if (holds(i)) return i;
    return {};
}

Job checked(Job job, const Job& before) {
    for (Piece& p : job.pieces)
        follow_zones(p);
    std::erase_if(job.pairs, [&](const Pair& p) { return !pairable(job, p.first, p.second); });
    follow(job);
    for (Piece& p : job.pieces) // one that follows a pair may be followed itself
        follow_zones(p);
    if (job.pieces.size() > most_pieces) throw InputError("A job holds at most 500 pieces.");
    for (const auto& p : job.pieces)
        if (p.zones.size() > most_zones) throw InputError("A piece holds at most 50 zones.");
    try {
        require_resolvable(job, &before);
    } catch (const JobError& e) {
        throw InputError(std::string(e.what()).substr(e.place.size() + 2), e.position, e.extent);
    }
    return job;
}

Job add_mate(const Job& before, std::size_t piece, std::size_t zone, Mate mate, std::optional<int> teeth) {
    Job job = before;
    const ResolvedPiece resolved = resolve_piece(job.pieces.at(piece), resolve_names(job));
    const ResolvedZone& z = resolved.zones.at(zone);
    if (z.spline() || (!z.gear() && !z.rack())) throw InputError("Only teeth have a mate; this zone has none.");
    if (mate != Mate::gear && (z.rack() || z.in_bore()))
        throw InputError(mate == Mate::ring ? "A ring goes around an external gear; this is not one."
                                            : "A rack goes with an external gear; this is not one.");
    const char* word = mate == Mate::ring ? "Ring for " : mate == Mate::rack ? "Rack for " : "Gear for ";
    std::string text;
    if (z.rack()) {
        text = write_gear(mating_gear(z.rack()->spec, teeth.value_or(20)), z.rack()->spec.width);
    } else if (const GearSpec& spec = z.gear()->spec; mate == Mate::rack) {
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
    while (!made.zones[at].teeth())
        ++at;
    // one that goes by its designation has a mate that does
    const std::string& name = job.pieces[piece].name;
    if (name != zone_designation(job.pieces[piece].zones[zone], job).substr(0, 80))
        made.name = (word + name).substr(0, 80);
    made.finish = job.pieces[piece].finish;
    job.pieces.push_back(std::move(made));
    job.pairs.push_back({{piece, zone}, {job.pieces.size() - 1, at}, true, {}});
    return checked(std::move(job), before);
}

Job add_counterpart(const Job& job, std::size_t piece, std::size_t zone) {
    return checked(with_model(job.pieces.at(piece).zones.at(zone),
                              [&]<class Model>(Model) {
                                  return Model::counterpart(job, {piece, zone});
                              }),
                   job);
}

Job add_pair(const Job& before, ZoneRef first, ZoneRef second) {
    Job job = before;
    if (first.piece == second.piece) throw InputError("A pair is made of two pieces.");
    if (!pairable(job, first, second))
        throw InputError("A pair is made of " + what_pairs() + "; these don't go together.");
    job.pairs.push_back({first, second, false, {}});
    return checked(std::move(job), before);
}

Job hold_follower(const Job& before, ZoneRef lobe, std::optional<ZoneRef> spring) {
    Job job = before;
    const auto zone = [&](ZoneRef at) -> const Zone& { return job.pieces.at(at.piece).zones.at(at.zone); };
    if (!zone(lobe).as<LobeForm>() || (spring && !zone(*spring).as<CoilForm>()))
        throw InputError(
            "A spring holds the follower of a disc cam's lobe on; these are no spring and no lobe.");
    std::erase_if(job.pairs, [&](const Pair& p) { return p.second == lobe && zone(p.first).as<CoilForm>(); });
    if (spring) job.pairs.push_back({*spring, lobe, true, {}});
    return checked(std::move(job), before);
}

Job remove_pair(const Job& before, std::size_t pair) {
    Job job = before;
    (void)job.pairs.at(pair);
    job.pairs.erase(job.pairs.begin() + static_cast<long>(pair));
    return job;
}

} // namespace whorl
