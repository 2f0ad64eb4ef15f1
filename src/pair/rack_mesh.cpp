// A gear on a rack. The rack's pitch line is whichever line of it runs at the gear's pitch circle, so the
// transverse pressure angle is always that of the teeth; moving the rack only opens or closes the backlash.
#include "pair/tip_path.hpp"
#include "pair/tooth_pair.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {} // namespace

GearMesh mesh_of(const ResolvedGear& g, const ResolvedRack& r, std::optional<Length> centre, double width) {
    GearMesh m;
    m.rack = true;
    const auto wrong = [&](MeshFault what, bool stops, std::string sentence, double value, double limit) {
        m.mistakes.push_back({what, stops, std::move(sentence), value, limit});
    };
    if (g.spec.internal)
        wrong(MeshFault::internal_rack, true,
              "A rack does not go with internal teeth: it needs a gear whose teeth are outside.", 0, 0);
    compare_teeth(m.mistakes, g.spec, rolled_up(r.spec, g.spec.teeth), false);
    if (!m.mistakes.empty() || g.trouble != ToothTrouble::none || r.trouble != ToothTrouble::none) return m;

    const double module = in_mm(g.spec.module), alpha = g.transverse_pressure_angle;
    const double beta = in_rad(g.spec.helix_angle);
    const double close = g.pitch_radius + g.spec.profile_shift * module;
    m.centre = centre ? in_mm(*centre) : close;
    m.working_angle = alpha;
    m.first_radius = g.pitch_radius;
    m.first_string = g.base_radius * std::tan(alpha);
    m.base_pitch = g.pitch_angle() * g.base_radius;
    if (centre) m.closing_shift = (m.centre - g.pitch_radius) / module;
    // room on the pitch line: the rack's flanks open by 2·tan α for what it stands off
    m.backlash = (in_mm(g.spec.thinning) + in_mm(r.spec.thinning)) / std::cos(beta) +
                 2 * (m.centre - close) * std::tan(alpha);
    if (centre) judge_looseness(m.mistakes, m, in_mm(g.spec.thinning + r.spec.thinning), module, "the gear");
    if (m.backlash < -1e-6)
        wrong(MeshFault::centre, true,
              "The teeth overlap by " + length_words(-m.backlash) + " with the reference line " +
                  length_words(m.centre) + " from the axis; without backlash it is " +
                  length_words(close - (in_mm(g.spec.thinning) + in_mm(r.spec.thinning)) / std::cos(beta) /
                                           2 / std::tan(alpha)) +
                  ".",
              m.centre, close);
    // the rack's flank ends so far from the pitch line towards the gear
    const double reach = g.pitch_radius - (m.centre - r.flank_tip_height);
    m.contact_from = -reach / std::sin(alpha);
    m.contact_to = string_at(g, flank_tip(g)) - m.first_string;
    // tips that pass an undercut foot have nothing to touch there
    const double form = string_at(g, g.form_radius);
    const bool clear =
        g.undercut && m.first_string + m.contact_from < form && tip_overlap(g, r, m) < 1e-4 * module;
    if (clear) m.contact_from = form - m.first_string;
    m.contact_ratio = (m.contact_to - m.contact_from) / m.base_pitch;
    m.overlap_ratio = width * std::sin(beta) / (pi * module);
    m.meshes = true;

    const double low = m.first_string + m.contact_from;
    if (low < form - 1e-4 * module)
        wrong(MeshFault::root_contact, true,
              "The rack's tips reach below the gear's involute, into its root (form Ø " +
                  length_words(2 * g.form_radius) +
                  "): shorten the rack's tips or give the gear a larger profile shift.",
              2 * std::hypot(g.base_radius, std::max(0.0, low)), 2 * g.form_radius);
    // and the gear's tips reach so far down the rack's flank
    const double down = g.pitch_radius + m.contact_to * std::sin(alpha) - m.centre;
    if (-down < r.form_height - 1e-4 * module)
        wrong(MeshFault::root_contact, true,
              "The gear's tips reach past the rack's straight flank, into its root rounding: shorten the "
              "gear's tips.",
              -down, r.form_height);
    const double clearance = m.tip_clearance =
        std::min(m.centre - r.root_height - g.tip_radius, m.centre - r.tip_height - g.root_radius);
    judge_clearance(m.mistakes, clearance, module);
    judge_contact_ratio(m.mistakes, m.contact_ratio + m.overlap_ratio);
    if (m.contact_to <= m.contact_from) m.meshes = false;

    const auto put = [&](const char* key, const char* label, ValueKind kind, double value,
                         std::string source) {
        m.values.push_back(
            {.key = key, .label = label, .kind = kind, .value = value, .source = std::move(source)});
    };
    put("centre_distance", "Axis to reference", ValueKind::length, m.centre,
        m.closing_shift ? "as asked" : "r + x·mn, without backlash");
    if (m.closing_shift)
        put("closing_shift", "Shift for it", ValueKind::number, *m.closing_shift, "of the gear: (a − r)/mn");
    put("mounting_distance", "Axis to back", ValueKind::length, m.centre + r.body(),
        "to the reference line and its height over the back");
    put("travel_per_turn", "Travel per turn", ValueKind::length, 2 * pi * g.pitch_radius, "π·mt·z");
    put("turns_for_teeth", "Turns for all teeth", ValueKind::number,
        static_cast<double>(r.teeth) / g.spec.teeth, "teeth of the rack over those of the gear");
    put("working_pressure_angle", "Working angle", ValueKind::angle, alpha, "αt at any distance");
    list_running(m, g.spec, "along the pitch line", clear, "gear", "rack");
    return m;
}

} // namespace whorl
