#include "check/mesh_check.hpp"

#include "quantity/expression.hpp"

#include <cmath>

namespace whorl {

std::optional<PairMesh> mesh_of_pair(const Job& job, const Pair& pair, const Names& names) {
    const auto zone_at = [&](ZoneRef at) {
        return resolve_piece(job.pieces.at(at.piece), names).zones.at(at.zone);
    };
    const ResolvedZone a = zone_at(pair.first), b = zone_at(pair.second);
    if (!a.teeth || !b.teeth) return {};
    PairMesh out;
    out.second_first = a.teeth->spec.internal && !b.teeth->spec.internal;
    out.first = out.second_first ? *b.teeth : *a.teeth;
    out.second = out.second_first ? *a.teeth : *b.teeth;
    std::optional<Length> centre;
    if (!pair.centre.text.empty()) centre = resolve_length(pair.centre, names);
    out.mesh = mesh_of(out.first, out.second, centre, std::min(in_mm(a.length), in_mm(b.length)));
    return out;
}

void check_mesh(std::vector<Finding>& out, const Job& job, const Pair& pair, const Names& names,
                const std::string& other_name) {
    const auto both = mesh_of_pair(job, pair, names);
    if (!both) return;
    const GearSpec& like =
        both->second_first ? both->second.spec : both->first.spec; // of the pair's first zone
    const GearSpec& second = both->second_first ? both->first.spec : both->second.spec;
    const auto edit = [&](Field f, std::string text) {
        return Edit{pair.second.piece, pair.second.zone, f, std::move(text), LengthUnit::millimetre};
    };
    // the tip shortening of one of the two that makes the complaint go away
    const auto shortened = [&](bool of_second, MeshFault what) -> std::optional<Remedy> {
        const GearSpec& base = of_second ? second : like;
        for (double k = base.tip_shortening + 0.02; k <= 0.6; k += 0.02) {
            GearSpec changed = base;
            changed.tip_shortening = k;
            const ResolvedGear g = resolve_gear(changed);
            const bool is_first = of_second == both->second_first;
            const GearMesh m =
                mesh_of(is_first ? g : both->first, is_first ? both->second : g, mm(both->mesh.centre));
            bool gone = m.meshes;
            for (const auto& w : m.mistakes)
                gone = gone && w.what != what;
            if (!gone) continue;
            const ZoneRef at = of_second ? pair.second : pair.first;
            const std::string text = number_text(k, 2);
            return Remedy{"Shorten the tips of " + job.pieces[at.piece].name + " by " + text + " modules",
                          {Edit{at.piece, at.zone, Field::tip_shortening, text, LengthUnit::millimetre}}};
        }
        return {};
    };
    for (const MeshMistake& m : both->mesh.mistakes) {
        std::optional<Remedy> remedy;
        switch (m.what) {
        case MeshFault::module:
            remedy = Remedy{"Module " + number_text(in_mm(like.module), 4),
                            {edit(Field::module, number_text(in_mm(like.module), 9))}};
            break;
        case MeshFault::pressure_angle:
            remedy = Remedy{"Pressure angle " + number_text(in_deg(like.pressure_angle), 3) + "°",
                            {edit(Field::pressure_angle, number_text(in_deg(like.pressure_angle), 9))}};
            break;
        case MeshFault::helix:
            remedy = Remedy{"Helix angle " + number_text(in_deg(like.helix_angle), 3) + "°",
                            {edit(Field::helix_angle, number_text(in_deg(like.helix_angle), 9))}};
            break;
        case MeshFault::hand:
            remedy = Remedy{second.hand == Hand::left ? "Make it right-hand" : "Make it left-hand",
                            {edit(Field::hand, second.hand == Hand::left ? "right" : "left")}};
            break;
        case MeshFault::centre:
            if (!pair.centre.text.empty())
                remedy = Remedy{"Centre distance without backlash", {edit(Field::centre_distance, "")}};
            break;
        case MeshFault::root_contact:
        case MeshFault::tip_clearance:
            remedy = shortened(true, m.what);
            if (!remedy) remedy = shortened(false, m.what);
            break;
        case MeshFault::both_internal:
        case MeshFault::internal_tips:
        case MeshFault::contact_ratio:
            break;
        }
        out.push_back({Severity::advice, std::string("mesh_") + key_word(m.what),
                       "With " + other_name + ": " + m.sentence, pair.second.piece, pair.second.zone, m.value,
                       m.limit, std::move(remedy)});
    }
}

} // namespace whorl
