#include "app/pair_look.hpp"

#include "model/forms/follower.hpp"

namespace whorl::app {

namespace {

std::optional<ShownMesh> mesh_look(const Job& job, const ResolvedPiece& resolved, ZoneRef selected,
                                   std::size_t preferred) {
    const ResolvedZone& z = resolved.zones.at(selected.zone);
    if (!z.gear() && !z.rack()) return {};
    const Names names = resolve_names(job);
    std::optional<ShownMesh> found;
    for (std::size_t i = 0; i < job.pairs.size(); ++i) {
        const Pair& pair = job.pairs[i];
        if (pair.first != selected && pair.second != selected) continue;
        const ZoneRef there = pair.first == selected ? pair.second : pair.first;
        const ResolvedZone other = resolve_piece(job.pieces[there.piece], names).zones.at(there.zone);
        std::optional<Length> centre;
        if (!pair.centre.text.empty()) centre = resolve_length(pair.centre, names);
        auto both = mesh_of_zones(z, other, centre);
        if (!both) continue;
        if (i == preferred || !found)
            found = ShownMesh{std::move(*both), i, selected, there, z, other, pair.follows};
        if (i == preferred) break;
    }
    return found;
}

std::optional<ShownFollower> follower_look(const Job& job, const ResolvedZone& cam, ZoneRef selected) {
    const bool made = cam.lobe()   ? !cam.lobe()->outline.empty()
                      : cam.drum() ? cam.drum()->trouble == DrumTrouble::none
                                   : false;
    if (!made) return {}; // nothing has a place on it
    for (const Pair& pair : job.pairs)
        if (pair.first == selected) return ShownFollower{job.pieces[pair.second.piece], pair.second};
    try {
        return ShownFollower{follower_piece(cam, job.unit), {}};
    } catch (const InputError&) {
        return {}; // a rib, a line
    }
}

// By the selected zone's own pairs, else by those of the whole piece.
std::optional<ShownBeside> beside_look(const Job& job, const ResolvedPiece& resolved, ZoneRef selected) {
    const Names names = resolve_names(job);
    std::optional<ShownBeside> found;
    for (const Pair& pair : job.pairs) {
        const bool first = pair.first.piece == selected.piece;
        if (!first && pair.second.piece != selected.piece) continue;
        const Zone& leads = job.pieces[pair.first.piece].zones[pair.first.zone];
        if (!leads.as<BendForm>() && !leads.as<GrooveForm>() && !leads.as<SplineForm>())
            continue; // nothing to resolve for
        const ZoneRef here = first ? pair.first : pair.second, there = first ? pair.second : pair.first;
        const ResolvedPiece other = resolve_piece(job.pieces[there.piece], names);
        const auto s = first ? standing_of(resolved, here.zone, other, there.zone)
                             : standing_of(other, there.zone, resolved, here.zone);
        if (!s || (found && here.zone != selected.zone)) continue;
        found = ShownBeside{there, first ? *s : inverse(*s)};
        if (here.zone == selected.zone) break;
    }
    return found;
}

} // namespace

PairLook pair_look(const Job& job, const ResolvedPiece& resolved, ZoneRef selected, std::size_t preferred) {
    PairLook out;
    out.mesh = mesh_look(job, resolved, selected, preferred);
    out.follower = follower_look(job, resolved.zones.at(selected.zone), selected);
    for (const Pair& pair : job.pairs)
        if ((pair.first == selected || pair.second == selected) && !out.other)
            out.other = pair.first == selected ? pair.second : pair.first;
    const Names names = resolve_names(job);
    out.beside = beside_look(job, resolved, selected);
    for (const Pair& pair : job.pairs) {
        if (pair.first.piece != selected.piece && pair.second.piece != selected.piece) continue;
        const bool first_here = pair.first.piece == selected.piece &&
                                (pair.second.piece != selected.piece || pair.first.zone == selected.zone);
        const ZoneRef here = first_here ? pair.first : pair.second,
                      there = first_here ? pair.second : pair.first;
        const bool is_selected = here.zone == selected.zone;
        if (!is_selected && out.together) continue;
        const ResolvedPiece other = resolve_piece(job.pieces[there.piece], names);
        const ResolvedZone &a = resolved.zones[here.zone], &b = other.zones[there.zone];
        if (!a.thread() || !b.thread()) continue;
        const bool screw_here = a.thread()->side == Side::external;
        const ResolvedZone &screw = screw_here ? a : b, &nut = screw_here ? b : a;
        const Fit fit = fit_of(*screw.thread(), *nut.thread(), std::min(screw.length, nut.length));
        out.together = Together{here, there, mating_of(resolved, here.zone, other, there.zone, fit)};
        if (!is_selected) continue;
        out.fit = ShownFit{there, *b.thread(), fit, pair.follows};
        break;
    }
    // one is shown: what the selected zone is paired with, before what another zone is
    if (out.mesh || out.follower || (out.together && out.together->here.zone == selected.zone))
        out.beside.reset();
    if (out.beside) out.together.reset();
    return out;
}

} // namespace whorl::app
