#include "check/mesh_check.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

namespace {

GearMesh mesh_of(const ResolvedGear& first, const PairMesh& p, std::optional<Length> centre, double width) {
    return p.rack ? mesh_of(first, *p.rack, centre, width) : mesh_of(first, *p.second, centre, width);
}

} // namespace

std::optional<PairMesh> mesh_of_zones(const ResolvedZone& a, const ResolvedZone& b,
                                      std::optional<Length> centre) {
    if ((!a.gear() && !a.rack()) || (!b.gear() && !b.rack()) || (a.rack() && b.rack())) return {};
    PairMesh out;
    out.second_first = a.rack() || (!b.rack() && a.gear()->spec.internal && !b.gear()->spec.internal);
    const ResolvedZone &first = out.second_first ? b : a, &second = out.second_first ? a : b;
    out.first = *first.gear();
    if (second.gear()) out.second = *second.gear();
    if (second.rack()) out.rack = *second.rack();
    const double width = std::min(in_mm(first.length),
                                  second.rack() ? in_mm(second.rack()->spec.width) : in_mm(second.length));
    out.mesh = mesh_of(out.first, out, centre, width);
    return out;
}

std::optional<PairMesh> mesh_of_pair(const Job& job, const Pair& pair, const Names& names) {
    if (!job.pieces.at(pair.first.piece).zones.at(pair.first.zone).teeth()) return {}; // threads
    const auto zone_at = [&](ZoneRef at) {
        return resolve_piece(job.pieces.at(at.piece), names).zones.at(at.zone);
    };
    std::optional<Length> centre;
    if (!pair.centre.text.empty()) centre = resolve_length(pair.centre, names);
    return mesh_of_zones(zone_at(pair.first), zone_at(pair.second), centre);
}

void check_mesh(std::vector<Finding>& out, const Job& job, const Pair& pair, const Names& names,
                const std::string& other_name) {
    const auto both = mesh_of_pair(job, pair, names);
    if (!both) return;
    const GearSpec other_spec =
        both->rack ? rolled_up(both->rack->spec, both->first.spec.teeth) : both->second->spec;
    const GearSpec& like = both->second_first ? other_spec : both->first.spec; // of the pair's first zone
    const GearSpec& second = both->second_first ? both->first.spec : other_spec;
    const auto edit = [&](Field f, std::string text) {
        return Edit{
            pair.second.piece, pair.second.zone,       f,
            std::move(text),   LengthUnit::millimetre, static_cast<std::size_t>(&pair - job.pairs.data())};
    };
    // with the tips of the pair's first or second zone shortened so far
    const auto with_tips = [&](bool of_second, double k) {
        PairMesh changed = *both;
        if (of_second == both->second_first) {
            GearSpec s = both->first.spec;
            s.tip_shortening = k;
            changed.first = resolve_gear(s);
        } else if (both->rack) {
            RackSpec s = both->rack->spec;
            s.tip_shortening = k;
            changed.rack = resolve_rack(s);
        } else {
            GearSpec s = both->second->spec;
            s.tip_shortening = k;
            changed.second = resolve_gear(s);
        }
        return mesh_of(changed.first, changed, mm(both->mesh.centre), 0);
    };
    // the tip shortening of one of the two that makes the complaint go away
    const auto shortened = [&](bool of_second, MeshFault what) -> std::optional<Remedy> {
        const double now = both->rack && of_second != both->second_first ? both->rack->spec.tip_shortening
                           : of_second                                   ? second.tip_shortening
                                                                         : like.tip_shortening;
        for (double k = now + 0.02; k <= 0.6; k += 0.02) {
            const GearMesh m = with_tips(of_second, k);
            bool gone = m.meshes;
            for (const auto& w : m.mistakes)
                gone = gone && w.what != what;
            if (!gone) continue;
            const ZoneRef at = of_second ? pair.second : pair.first;
            const std::string text = number_text(k, 2);
            return Remedy{"Shorten the tips of " + job.pieces[at.piece].name + " by " + text + " modules",
                          {Edit{at.piece, at.zone, field::tip_shortening, text, LengthUnit::millimetre}}};
        }
        return {};
    };
    // the profile shift that suits the distance asked, if the gears run with it
    const auto closing = [&]() -> std::optional<Remedy> {
        if (!both->mesh.closing_shift) return {};
        const bool of_second = both->rack ? both->second_first : !both->second_first;
        GearSpec s = both->rack ? both->first.spec : both->second->spec;
        // three decimals, on the side that leaves a little backlash
        s.profile_shift = std::floor(*both->mesh.closing_shift * 1000 + 1e-6) / 1000;
        if (std::abs(s.profile_shift) > 1) return {};
        PairMesh changed = *both;
        (both->rack ? changed.first : *changed.second) = resolve_gear(s);
        if (!mesh_of(changed.first, changed, mm(both->mesh.centre), 0).runs()) return {};
        const ZoneRef at = of_second ? pair.second : pair.first;
        const std::string text = number_text(s.profile_shift, 3);
        return Remedy{"Profile shift " + text + " for " + job.pieces[at.piece].name,
                      {Edit{at.piece, at.zone, field::profile_shift, text, LengthUnit::millimetre}}};
    };
    // profile shifts that bring back what undercut took of the path of contact, where the distance may follow
    const auto whole_flanks = [&](MeshFault what) -> std::optional<Remedy> {
        if (!pair.centre.text.empty()) return {};
        PairMesh changed = *both;
        Remedy remedy;
        const auto mend = [&](ResolvedGear& g, ZoneRef at) {
            if (!g.undercut) return;
            GearSpec s = g.spec;
            s.profile_shift = std::ceil(g.least_profile_shift * 1000 - 1e-6) / 1000;
            const std::string text = number_text(s.profile_shift, 3);
            remedy.label +=
                (remedy.label.empty() ? "Profile shift " : ", ") + text + " for " + job.pieces[at.piece].name;
            remedy.edits.push_back({at.piece, at.zone, field::profile_shift, text, LengthUnit::millimetre});
            g = resolve_gear(s);
        };
        mend(changed.first, both->second_first ? pair.second : pair.first);
        if (changed.second && !both->rack)
            mend(*changed.second, both->second_first ? pair.first : pair.second);
        if (remedy.edits.empty()) return {};
        const GearMesh m = mesh_of(changed.first, changed, {}, 0);
        if (!m.runs() || std::any_of(m.mistakes.begin(), m.mistakes.end(),
                                     [&](const MeshMistake& w) { return w.what == what; }))
            return {};
        return remedy;
    };
    for (const MeshMistake& m : both->mesh.mistakes) {
        std::optional<Remedy> remedy;
        switch (m.what) {
        case MeshFault::module:
            remedy = Remedy{"Module " + number_text(in_mm(like.module), 4),
                            {edit(field::module, number_text(in_mm(like.module), 9))}};
            break;
        case MeshFault::pressure_angle:
            remedy = Remedy{"Pressure angle " + number_text(in_deg(like.pressure_angle), 3) + "°",
                            {edit(field::pressure_angle, number_text(in_deg(like.pressure_angle), 9))}};
            break;
        case MeshFault::helix:
            remedy = Remedy{"Helix angle " + number_text(in_deg(like.helix_angle), 3) + "°",
                            {edit(field::helix_angle, number_text(in_deg(like.helix_angle), 9))}};
            // and the hand that meshes: the other one, in a ring the same
            if (const bool inside = like.internal || second.internal;
                in_rad(like.helix_angle) != 0 && (second.hand == like.hand) != inside)
                remedy->edits.push_back(edit(field::hand, second.hand == Hand::left ? "right" : "left"));
            break;
        case MeshFault::hand:
            remedy = Remedy{second.hand == Hand::left ? "Make it right-hand" : "Make it left-hand",
                            {edit(field::hand, second.hand == Hand::left ? "right" : "left")}};
            break;
        case MeshFault::loose:
            remedy = closing();
            break;
        case MeshFault::centre:
            remedy = closing();
            if (!remedy && !pair.centre.text.empty())
                remedy = Remedy{"Centre distance without backlash", {edit(field::centre_distance, "")}};
            break;
        case MeshFault::root_contact:
        case MeshFault::tip_clearance:
            remedy = shortened(true, m.what);
            if (!remedy) remedy = shortened(false, m.what);
            break;
        case MeshFault::contact_ratio:
            remedy = whole_flanks(m.what);
            break;
        case MeshFault::both_internal:
        case MeshFault::internal_rack:
        case MeshFault::internal_tips:
            break;
        }
        out.push_back({m.stops ? Severity::stop : Severity::advice, std::string("mesh_") + key_word(m.what),
                       "With " + other_name + ": " + m.sentence, pair.second.piece, pair.second.zone, m.value,
                       m.limit, std::move(remedy)});
    }
}

} // namespace whorl
