#include "check/mesh_check.hpp"

#include "check/pair_checks.hpp"

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
    if (a.spline() || b.spline()) return {}; // they don't run
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

namespace {

// What mends a mistake of a mesh: edits of the pair's second zone, or of both.
class MeshRemedies {
public:
    MeshRemedies(const Job& job, const Pair& pair, const PairMesh& both)
        : job_(job), pair_(pair), both_(both),
          other_(both.rack ? rolled_up(both.rack->spec, both.first.spec.teeth) : both.second->spec),
          like_(both.second_first ? other_ : both.first.spec),
          second_(both.second_first ? both.first.spec : other_) {}

    std::optional<Remedy> for_mistake(MeshFault what) const {
        switch (what) {
        case MeshFault::module:
            return Remedy{"Module " + number_text(in_mm(like_.module), 4),
                          {edit(field::module, number_text(in_mm(like_.module), 9))}};
        case MeshFault::pressure_angle:
            return Remedy{"Pressure angle " + number_text(in_deg(like_.pressure_angle), 3) + "°",
                          {edit(field::pressure_angle, number_text(in_deg(like_.pressure_angle), 9))}};
        case MeshFault::helix: {
            Remedy remedy{"Helix angle " + number_text(in_deg(like_.helix_angle), 3) + "°",
                          {edit(field::helix_angle, number_text(in_deg(like_.helix_angle), 9))}};
            // and the hand that meshes: the other one, in a ring the same
            if (const bool inside = like_.internal || second_.internal;
                in_rad(like_.helix_angle) != 0 && (second_.hand == like_.hand) != inside)
                remedy.edits.push_back(edit(field::hand, second_.hand == Hand::left ? "right" : "left"));
            return remedy;
        }
        case MeshFault::hand:
            return Remedy{second_.hand == Hand::left ? "Make it right-hand" : "Make it left-hand",
                          {edit(field::hand, second_.hand == Hand::left ? "right" : "left")}};
        case MeshFault::loose:
            return closing();
        case MeshFault::centre:
            if (auto remedy = closing()) return remedy;
            if (pair_.centre.text.empty()) return {};
            return Remedy{"Centre distance without backlash", {edit(field::centre_distance, "")}};
        case MeshFault::root_contact:
        case MeshFault::tip_clearance: {
            auto remedy = shortened(true, what);
            return remedy ? remedy : shortened(false, what);
        }
        case MeshFault::contact_ratio:
            return whole_flanks(what);
        case MeshFault::both_internal:
        case MeshFault::internal_rack:
        case MeshFault::internal_tips:
            break;
        }
        return {};
    }

private:
    Edit edit(Field f, std::string text) const {
        return Edit{
            pair_.second.piece, pair_.second.zone,      f,
            std::move(text),    LengthUnit::millimetre, static_cast<std::size_t>(&pair_ - job_.pairs.data())};
    }
    // With the tips of the pair's first or second zone shortened so far.
    GearMesh with_tips(bool of_second, double k) const {
        PairMesh changed = both_;
        if (of_second == both_.second_first) {
            GearSpec s = both_.first.spec;
            s.tip_shortening = k;
            changed.first = resolve_gear(s);
        } else if (both_.rack) {
            RackSpec s = both_.rack->spec;
            s.tip_shortening = k;
            changed.rack = resolve_rack(s);
        } else {
            GearSpec s = both_.second->spec;
            s.tip_shortening = k;
            changed.second = resolve_gear(s);
        }
        return mesh_of(changed.first, changed, mm(both_.mesh.centre), 0);
    }
    // The tip shortening of one of the two that makes the complaint go away.
    std::optional<Remedy> shortened(bool of_second, MeshFault what) const {
        const double now = both_.rack && of_second != both_.second_first ? both_.rack->spec.tip_shortening
                           : of_second                                   ? second_.tip_shortening
                                                                         : like_.tip_shortening;
        for (double k = now + 0.02; k <= 0.6; k += 0.02) {
            const GearMesh m = with_tips(of_second, k);
            bool gone = m.meshes;
            for (const auto& w : m.mistakes)
                gone = gone && w.what != what;
            if (!gone) continue;
            const ZoneRef at = of_second ? pair_.second : pair_.first;
            const std::string text = number_text(k, 2);
            return Remedy{"Shorten the tips of " + job_.pieces[at.piece].name + " by " + text + " modules",
                          {Edit{at.piece, at.zone, field::tip_shortening, text, LengthUnit::millimetre}}};
        }
        return {};
    }
    // The profile shift that suits the distance asked, if the gears run with it.
    std::optional<Remedy> closing() const {
        if (!both_.mesh.closing_shift) return {};
        const bool of_second = both_.rack ? both_.second_first : !both_.second_first;
        GearSpec s = both_.rack ? both_.first.spec : both_.second->spec;
        // three decimals, on the side that leaves a little backlash
        s.profile_shift = std::floor(*both_.mesh.closing_shift * 1000 + 1e-6) / 1000;
        if (std::abs(s.profile_shift) > 1) return {};
        PairMesh changed = both_;
        (both_.rack ? changed.first : *changed.second) = resolve_gear(s);
        if (!mesh_of(changed.first, changed, mm(both_.mesh.centre), 0).runs()) return {};
        const ZoneRef at = of_second ? pair_.second : pair_.first;
        const std::string text = number_text(s.profile_shift, 3);
        return Remedy{"Profile shift " + text + " for " + job_.pieces[at.piece].name,
                      {Edit{at.piece, at.zone, field::profile_shift, text, LengthUnit::millimetre}}};
    }
    // Profile shifts that bring back what undercut took of the path of contact, where the distance may follow.
    std::optional<Remedy> whole_flanks(MeshFault what) const {
        if (!pair_.centre.text.empty()) return {};
        PairMesh changed = both_;
        Remedy remedy;
        const auto mend = [&](ResolvedGear& g, ZoneRef at) {
            if (!g.undercut) return;
            GearSpec s = g.spec;
            s.profile_shift = std::ceil(g.least_profile_shift * 1000 - 1e-6) / 1000;
            const std::string text = number_text(s.profile_shift, 3);
            remedy.label += (remedy.label.empty() ? "Profile shift " : ", ") + text + " for " +
                            job_.pieces[at.piece].name;
            remedy.edits.push_back({at.piece, at.zone, field::profile_shift, text, LengthUnit::millimetre});
            g = resolve_gear(s);
        };
        mend(changed.first, both_.second_first ? pair_.second : pair_.first);
        if (changed.second && !both_.rack)
            mend(*changed.second, both_.second_first ? pair_.first : pair_.second);
        if (remedy.edits.empty()) return {};
        const GearMesh m = mesh_of(changed.first, changed, {}, 0);
        if (!m.runs() || std::any_of(m.mistakes.begin(), m.mistakes.end(),
                                     [&](const MeshMistake& w) { return w.what == what; }))
            return {};
        return remedy;
    }

    const Job& job_;
    const Pair& pair_;
    const PairMesh& both_;
    GearSpec other_;
    const GearSpec &like_, &second_; // of the pair's first and second zone
};

} // namespace

template<>
void check_pair<PairKind::teeth>(const Looking& look, const PairInJob& in) {
    const auto both = mesh_of_pair(in.job, in.pair, in.names);
    if (!both) return;
    const MeshRemedies remedies(in.job, in.pair, *both);
    for (const MeshMistake& m : both->mesh.mistakes)
        look.found(m.stops ? Severity::stop : Severity::advice, std::string("mesh_") + key_word(m.what),
                   "With " + in.other + ": " + m.sentence, m.value, m.limit, remedies.for_mistake(m.what));
}

} // namespace whorl
