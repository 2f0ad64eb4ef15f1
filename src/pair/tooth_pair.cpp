#include "pair/tooth_pair.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

std::string length_words(double v) {
    return number_text(v, 3) + " mm";
}

double string_at(const ResolvedGear& g, double radius) {
    return std::sqrt(std::max(0.0, radius * radius - g.base_radius * g.base_radius));
}

double flank_tip(const ResolvedGear& g) {
    for (const TransverseCurve& c : g.half_outline)
        if (c.shape == CurveShape::involute) return point_at(c, c.to).radius();
    return g.tip_radius;
}

void compare_teeth(std::vector<MeshMistake>& out, const GearSpec& s, const GearSpec& t, bool same_hand) {
    const auto wrong = [&](MeshFault what, std::string sentence, double value, double limit) {
        out.push_back({what, true, std::move(sentence), value, limit});
    };
    if (std::abs(s.module / t.module - 1) > 1e-6)
        wrong(MeshFault::module,
              "Modules " + number_text(in_mm(s.module), 4) + " and " + number_text(in_mm(t.module), 4) +
                  " differ: their teeth are of different size and can't mesh.",
              in_mm(t.module), in_mm(s.module));
    if (std::abs(in_deg(s.pressure_angle - t.pressure_angle)) > 1e-6)
        wrong(MeshFault::pressure_angle,
              "Pressure angles " + number_text(in_deg(s.pressure_angle), 3) + "° and " +
                  number_text(in_deg(t.pressure_angle), 3) +
                  "° differ: their flanks can't share a line of action.",
              in_deg(t.pressure_angle), in_deg(s.pressure_angle));
    if (std::abs(in_deg(s.helix_angle - t.helix_angle)) > 1e-6)
        wrong(MeshFault::helix,
              "Helix angles " + number_text(in_deg(s.helix_angle), 3) + "° and " +
                  number_text(in_deg(t.helix_angle), 3) + "° differ: on parallel axes they must be the same.",
              in_deg(t.helix_angle), in_deg(s.helix_angle));
    else if (in_rad(s.helix_angle) != 0 && (s.hand == t.hand) != same_hand)
        wrong(MeshFault::hand,
              same_hand ? "A helical pinion and its ring must have the same hand; these are opposite."
                        : "Helical gears on parallel axes must be of opposite hand; both are " +
                              std::string(s.hand == Hand::left ? "left." : "right."),
              0, 0);
}

void judge_looseness(std::vector<MeshMistake>& out, const GearMesh& m, double thinning, double module,
                     const char* of) {
    if (m.backlash - thinning <= most_looseness * module) return;
    out.push_back(
        {MeshFault::loose, false,
         "At this distance the teeth have " + length_words(m.backlash) +
             " of backlash, more than a tenth of the module beyond their thinning; a profile shift of " +
             number_text(*m.closing_shift, 4) + " on " + of + " closes it.",
         m.backlash, thinning + most_looseness * module});
}

void judge_clearance(std::vector<MeshMistake>& out, double clearance, double module) {
    const double least = least_tip_clearance * module;
    if (clearance >= least) return;
    out.push_back({MeshFault::tip_clearance, clearance <= 0,
                   clearance <= 0
                       ? "Tips run into roots by " + length_words(-clearance) + "; shorten the tips."
                       : "Only " + length_words(clearance) +
                             " is left between tips and roots; a tenth of the module (" +
                             length_words(least) + ") is usual. Shorten the tips.",
                   clearance, least});
}

void judge_contact_ratio(std::vector<MeshMistake>& out, double ratio) {
    if (ratio >= least_contact_ratio) return;
    out.push_back({MeshFault::contact_ratio, ratio < 1,
                   "The contact ratio is " + number_text(ratio, 3) +
                       (ratio < 1 ? ": a pair of teeth parts before the next one meets."
                                  : ", below 1.2: the next pair takes over late, and the gears run roughly."),
                   ratio, least_contact_ratio});
}

void list_running(GearMesh& m, const GearSpec& teeth, const char* backlash_source, bool undercut,
                  const std::string& first, const std::string& second) {
    const auto put = [&](const char* key, std::string label, ValueKind kind, double value,
                         const char* source) {
        m.values.push_back(
            {.key = key, .label = std::move(label), .kind = kind, .value = value, .source = source});
    };
    const double beta = in_rad(teeth.helix_angle);
    const double beta_b = std::asin(std::sin(beta) * std::cos(in_rad(teeth.pressure_angle)));
    const double backlash = std::abs(m.backlash) < 5e-10 ? 0 : m.backlash;
    put("backlash", "Backlash", ValueKind::length, backlash, backlash_source);
    put("normal_backlash", "Backlash, normal", ValueKind::length,
        backlash * std::cos(m.working_angle) * std::cos(beta_b), "j·cos αw·cos βb, by a feeler");
    put("contact_ratio", "Contact ratio", ValueKind::number, m.contact_ratio,
        "εα = length of contact/pbt, ISO 21771");
    if (beta != 0) {
        put("overlap_ratio", "Overlap ratio", ValueKind::number, m.overlap_ratio, "εβ = b·sin β/(π·mn)");
        put("total_contact_ratio", "Total ratio", ValueKind::number, m.contact_ratio + m.overlap_ratio,
            "εα + εβ");
    }
    put("length_of_contact", "Length of contact", ValueKind::length, m.contact_to - m.contact_from,
        undercut ? "along the line of action, as far as undercut leaves an involute"
                 : "between the tips along the line of action");
    put("tip_clearance", "Tip clearance", ValueKind::length, m.tip_clearance, "the smaller one, tip to root");
    if (std::any_of(m.mistakes.begin(), m.mistakes.end(),
                    [](const MeshMistake& w) { return w.what == MeshFault::root_contact; }))
        return; // no sliding where there is no involute
    const Sliding in = sliding_at(m, m.contact_from), out = sliding_at(m, m.contact_to);
    put("sliding_first", "Sliding, " + first, ValueKind::number, std::min(in.first, out.first),
        "sliding over rolling, where it is worst");
    put("sliding_second", "Sliding, " + second, ValueKind::number, std::min(in.second, out.second),
        "sliding over rolling, where it is worst");
}

} // namespace whorl
