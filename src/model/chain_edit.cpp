// Edits of a job's pieces and of their chains of zones: adding, removing, moving, splitting. Pairs stay on
// their zones.
#include "model/edit.hpp"
#include "model/forms/forms.hpp"
#include "model/pair_edit.hpp"
#include "standard/fastener.hpp"

#include <algorithm>

namespace whorl {
namespace {

// Keeps the pairs on their zones when zones or pieces are renumbered; `moved` gives a zone's new place, or
// none if it is gone.
template<class Moved>
void renumber(Job& job, Moved moved) {
    std::erase_if(job.pairs, [&](Pair& pair) {
        const std::optional<ZoneRef> first = moved(pair.first), second = moved(pair.second);
        if (!first || !second) return true;
        pair.first = *first;
        pair.second = *second;
        return false;
    });
}

// The same for the zones of a piece that follow others of it: those whose leader is gone follow none.
template<class Moved>
void renumber_following(Piece& piece, Moved moved) {
    for (Zone& z : piece.zones)
        if (z.follows) {
            const std::optional<ZoneRef> now = moved(ZoneRef{0, z.follows->zone});
            if (now)
                z.follows->zone = now->zone;
            else
                z.follows = {};
        }
}

// And for what was moved on the piece's drawing: what is about a zone that is gone goes too.
template<class Moved>
void renumber_drawing(Piece& piece, Moved moved) {
    std::erase_if(piece.drawing.items, [&](MovedItem& item) {
        if (!item.zone) return false;
        const std::optional<ZoneRef> now = moved(ZoneRef{0, *item.zone});
        if (now) item.zone = now->zone;
        return !now;
    });
}

// All of these, of changes within a piece; `moved` gives a zone's new number in it.
template<class Moved>
void renumber_zones(Job& job, std::size_t piece, Moved moved) {
    renumber_following(job.pieces[piece], [&](ZoneRef at) { return moved(at); });
    renumber_drawing(job.pieces[piece], [&](ZoneRef at) { return moved(at); });
    renumber(job, [&](ZoneRef at) -> std::optional<ZoneRef> { return at.piece == piece ? moved(at) : at; });
}

} // namespace

Job add_piece(const Job& before, const Designation& d, const std::string& name) {
    Piece p;
    p.name = name;
    p.zones.push_back(zone_of(d));
    return add_piece(before, std::move(p));
}

Job add_piece(const Job& before, Piece piece) {
    Job job = before;
    if (piece.name.empty()) piece.name = "Piece " + std::to_string(job.pieces.size() + 1);
    job.pieces.push_back(std::move(piece));
    return checked(std::move(job), before);
}

Job remove_piece(const Job& before, std::size_t piece) {
    Job job = before;
    (void)job.pieces.at(piece);
    job.pieces.erase(job.pieces.begin() + static_cast<long>(piece));
    renumber(job, [&](ZoneRef at) -> std::optional<ZoneRef> {
        if (at.piece == piece) return {};
        if (at.piece > piece) --at.piece;
        return at;
    });
    return job;
}

Job insert_zone(const Job& before, std::size_t piece, std::size_t at, const Zone& zone) {
    Job job = before;
    auto& zones = job.pieces.at(piece).zones;
    const std::size_t place = std::min(at, zones.size());
    zones.insert(zones.begin() + static_cast<long>(place), zone);
    renumber_zones(job, piece, [&](ZoneRef ref) -> std::optional<ZoneRef> {
        if (ref.zone >= place) ++ref.zone;
        return ref;
    });
    return checked(std::move(job), before);
}

Job remove_zone(const Job& before, std::size_t piece, std::size_t zone) {
    Job job = before;
    auto& zones = job.pieces.at(piece).zones;
    const auto outer =
        std::count_if(zones.begin(), zones.end(), [](const Zone& z) { return z.where == Where::outer; });
    if (zones.at(zone).where == Where::outer && outer < 2)
        throw InputError("A piece needs at least one zone; remove the piece instead.");
    zones.erase(zones.begin() + static_cast<long>(zone));
    renumber_zones(job, piece, [&](ZoneRef ref) -> std::optional<ZoneRef> {
        if (ref.zone == zone) return {};
        if (ref.zone > zone) --ref.zone;
        return ref;
    });
    return checked(std::move(job), before);
}

Job move_zone(const Job& before, std::size_t piece, std::size_t from, std::size_t to) {
    Job job = before;
    auto& zones = job.pieces.at(piece).zones;
    const Zone z = zones.at(from);
    zones.erase(zones.begin() + static_cast<long>(from));
    const std::size_t place = std::min(to, zones.size());
    zones.insert(zones.begin() + static_cast<long>(place), z);
    renumber_zones(job, piece, [&](ZoneRef ref) -> std::optional<ZoneRef> {
        if (ref.zone == from) return ZoneRef{ref.piece, place};
        if (ref.zone > from) --ref.zone;
        if (ref.zone >= place) ++ref.zone;
        return ref;
    });
    return checked(std::move(job), before);
}

Job add_bores(const Job& before, std::size_t piece, const Piece& from, bool far_end) {
    Job job = before;
    auto& zones = job.pieces.at(piece).zones;
    const Where where = far_end ? Where::far_bore : Where::near_bore;
    for (const Zone& z : zones) {
        if (z.where == where)
            throw InputError(
                "There are bores at this end already; remove them first, or take the other end.");
        if (z.in_bore() && z.length.text.empty()) throw InputError("A bore goes through this piece already.");
    }
    std::vector<Zone> bores;
    for (const Zone& z : from.zones)
        if (z.where == Where::near_bore) bores.push_back(z);
    if (bores.empty()) throw InputError("This has no bore of its own to put into a piece.");
    for (Zone& z : bores) {
        z.where = where;
        z.follows = {};
        if (far_end) std::swap(z.near_end, z.far_end);
    }
    if (zones.size() + bores.size() > most_zones) throw InputError("A piece has 50 zones at most.");
    zones.insert(zones.end(), bores.begin(), bores.end());
    return checked(std::move(job), before);
}

namespace {
// As thin as the zones that are repeated at their ends, in a bore as wide, down to a twentieth of a millimetre.
Zone gap_zone(const Job& job, std::size_t piece, const Repeat& repeat) {
    const ResolvedPiece resolved = resolve_piece(job.pieces[piece], resolve_names(job));
    const ResolvedZone &first = resolved.zones[repeat.first], &last = resolved.zones[repeat.last];
    const Length r = first.in_bore() ? std::max(first.largest_radius(), last.largest_radius())
                                     : std::min(first.smallest_radius(), last.smallest_radius());
    Zone z;
    z.where = first.where;
    z.form = PlainForm{
        .diameter = {length_text(mm(std::floor(2 * in_mm(r) * 20 + 1e-6) / 20), LengthUnit::millimetre),
                     LengthUnit::millimetre}};
    z.length = repeat.gap;
    return z;
}

// A bore among them that goes through takes what is left of the piece; repeated, all of its kind share that evenly.
void share_what_is_left(Job& job, std::size_t piece, const Repeat& repeat) {
    auto& zones = job.pieces[piece].zones;
    const Names names = resolve_names(job);
    const ResolvedPiece resolved = resolve_piece(job.pieces[piece], names);
    double run = 0, through = 0; // mm
    Zone* open = nullptr;
    for (std::size_t i = repeat.first; i <= repeat.last; ++i) {
        const double length = in_mm(resolved.zones[i].length);
        run += length;
        if (!zones[i].in_bore() || !zones[i].length.text.empty()) continue;
        open = &zones[i];
        through = length;
    }
    if (!open) return;
    const double times = repeat.times,
                 gaps = repeat.gap.text.empty() ? 0 : (times - 1) * in_mm(resolve_length(repeat.gap, names)),
                 each = (run - gaps - times * (run - through)) / times;
    if (each < 0.1)
        throw InputError("The bore goes through, and what is repeated shares its " +
                         length_text(mm(run), job.unit) + " " + symbol(job.unit) + "; " +
                         std::to_string(repeat.times) + " times there is no room for it.");
    open->length = {number_text(each, 9), LengthUnit::millimetre};
}
} // namespace

Job repeat_zones(const Job& before, std::size_t piece, const Repeat& repeat) {
    Job job = before;
    auto& zones = job.pieces.at(piece).zones;
    if (repeat.first > repeat.last || repeat.last >= zones.size())
        throw InputError("The zones to repeat are named by their numbers, from 1 to " +
                         std::to_string(zones.size()) + ", for example 1-2.");
    if (repeat.times < 2) throw InputError("Zones are repeated 2 times or more, their own place counted.");
    const std::size_t run = repeat.last - repeat.first + 1;
    const Where where = zones[repeat.first].where;
    for (std::size_t i = repeat.first; i <= repeat.last; ++i) {
        if (zones[i].where != where)
            throw InputError("Zones are repeated along one chain: the outside, or one bore.");
        with_model(zones[i], [&]<class Model>(Model) {
            if (Model::stands == Stands::alone)
                throw InputError("This zone is " + Model::what(zones[i]) +
                                 ", which is one piece and can't be repeated.");
        });
    }
    std::optional<Zone> gap;
    if (!repeat.gap.text.empty()) gap = gap_zone(before, piece, repeat);
    share_what_is_left(job, piece, repeat);
    const std::size_t copies = static_cast<std::size_t>(repeat.times - 1);
    if (zones.size() + copies * (run + (gap ? 1 : 0)) > most_zones)
        throw InputError("That would make more than 50 zones.");
    std::vector<Zone> added;
    std::optional<std::size_t> first_gap;
    const std::size_t place = repeat.last + 1;
    for (std::size_t k = 0; k < copies; ++k) {
        if (gap) {
            Zone between = *gap;
            if (first_gap)
                between.follows = Following{*first_gap, false};
            else
                first_gap = place;
            added.push_back(std::move(between));
        }
        for (std::size_t i = repeat.first; i <= repeat.last; ++i) {
            Zone copy = zones[i];
            copy.follows = Following{i, false};
            added.push_back(std::move(copy));
        }
    }
    // a zone that others follow may stand behind; their numbers move, what is added follows what stands before
    renumber_zones(job, piece, [&](ZoneRef ref) -> std::optional<ZoneRef> {
        if (ref.zone >= place) ref.zone += added.size();
        return ref;
    });
    zones.insert(zones.begin() + static_cast<long>(place), added.begin(), added.end());
    return checked(std::move(job), before);
}

Job split_zone(const Job& before, std::size_t piece, std::size_t zone) {
    Job job = before;
    auto& zones = job.pieces.at(piece).zones;
    Zone& first = zones.at(zone);
    with_model(first, [&]<class Model>(Model) {
        if (Model::stands == Stands::alone)
            throw InputError("This zone is " + Model::what(first) +
                             ", which is one piece and can't be split; change its length.");
    });
    const Names names = resolve_names(job);
    BendForm* bend = first.as<BendForm>();
    if (bend) {
        bend->angle = {number_text(in_deg(evaluate_angle(bend->angle.text, names)) / 2, 9), {}};
    } else {
        const Length half = resolve_length(first.length, names) / 2;
        first.length = {length_text(half, first.length.unit), first.length.unit};
    }
    first.follows = {};
    Zone second = first;
    if (bend) second.as<BendForm>()->roll = {}; // it goes on
    first.far_end = {};
    second.near_end = {};
    zones.insert(zones.begin() + static_cast<long>(zone) + 1, second);
    renumber_zones(job, piece, [&](ZoneRef ref) -> std::optional<ZoneRef> {
        if (ref.zone > zone) ++ref.zone;
        return ref;
    });
    return checked(std::move(job), before);
}

Job add_relief_groove(const Job& before, std::size_t piece, std::size_t zone, bool at_far_end) {
    Job job = before;
    const ResolvedPiece resolved = resolve_piece(job.pieces.at(piece), resolve_names(job));
    const ResolvedZone& r = resolved.zones.at(zone);
    if (!r.thread() || r.in_bore())
        throw InputError("A relief groove is cut behind an external thread; this zone is not one.");
    const auto* row = standard::relief_groove(r.thread()->spec.pitch);
    if (!row) throw InputError("DIN 76 has relief grooves up to pitch 6 mm.");
    if (r.length <= row->width + r.thread()->spec.pitch * 2)
        throw InputError("The thread is " + number_text(in_mm(r.length), 2) + " mm long; a groove " +
                         number_text(in_mm(row->width), 2) + " mm wide leaves too little of it.");
    auto& zones = job.pieces[piece].zones;
    Zone groove;
    groove.form = PlainForm{.diameter = {length_text(r.diameter - row->narrower, LengthUnit::millimetre),
                                         LengthUnit::millimetre}};
    groove.length = {length_text(row->width, LengthUnit::millimetre), LengthUnit::millimetre};
    Zone& thread = zones[zone];
    thread.follows = {};
    // a formula for the length is kept, and what is cut off stands in it
    thread.length = {thread.length.unit == LengthUnit::millimetre
                         ? "(" + thread.length.text + ") - " + groove.length.text + " mm"
                         : length_text(r.length - row->width, LengthUnit::millimetre),
                     LengthUnit::millimetre};
    if (thread.length.text.find_first_not_of("0123456789.()- m") == std::string::npos)
        thread.length.text = length_text(r.length - row->width, LengthUnit::millimetre);
    EndTreatment& end = at_far_end ? thread.far_end : thread.near_end;
    end = {};
    end.kind = EndKind::chamfer; // the groove's 30° shoulder
    end.angle = {"60", {}};
    return insert_zone(job, piece, at_far_end ? zone + 1 : zone, groove);
}

} // namespace whorl
