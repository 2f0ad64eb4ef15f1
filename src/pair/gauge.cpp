#include "pair/gauge.hpp"

#include "quantity/expression.hpp"

#include <algorithm>

namespace whorl {

GaugeTrial try_gauges(const ResolvedThread& t) {
    GaugeTrial out;
    const ResolvedValue *pitch = find_value(t.values, "pitch_diameter"),
                        *crest = find_value(t.values,
                                            t.side == Side::external ? "major_diameter" : "minor_diameter");
    if (!pitch || !pitch->min || !pitch->max || t.section.taper != 0 || !t.section.sweepable()) {
        out.go = out.no_go = "no limits are kept for this thread, so there is nothing to gauge it by";
        return out;
    }
    out.possible = true;
    const bool screw = t.side == Side::external;
    const double sign = screw ? 1 : -1;
    const double d2 = 2 * t.section.pitch_radius, d = 2 * t.section.crest_radius;
    const bool inches = is_inch(t.spec.family);
    const auto text = [&](double v) {
        return inches ? number_text(in_inch(mm(std::abs(v))), 4) + " in"
                      : number_text(std::abs(v), 3) + " mm";
    };
    // room between the thread and the GO gauge at its flanks and at its crest
    const double at_flanks = sign * ((screw ? *pitch->max : *pitch->min) - d2);
    const auto limit = crest ? (screw ? crest->max : crest->min) : std::optional<double>{};
    const double at_crest = limit ? sign * (*limit - d) : at_flanks;
    out.go_clearance = std::min(at_flanks, at_crest);
    constexpr double rounding = 5e-4; // limits are printed to the micrometre
    out.go_passes = out.go_clearance > -rounding;
    const char* gauge = screw ? "ring" : "plug";
    out.go = out.go_passes ? std::string("The GO ") + gauge + " passes, with " + text(out.go_clearance) +
                                 " on the diameter to spare."
                           : std::string("The GO ") + gauge + " jams by " + text(out.go_clearance) +
                                 (at_flanks < at_crest ? " on the pitch diameter."
                                  : screw              ? " on the major diameter."
                                                       : " on the minor diameter.");
    out.no_go_overlap = sign * (d2 - (screw ? *pitch->min : *pitch->max));
    out.no_go_stops = out.no_go_overlap > -rounding;
    out.no_go = out.no_go_stops ? std::string("The NOT GO ") + gauge + " stops, by " +
                                      text(out.no_go_overlap) + " on the pitch diameter."
                                : std::string("The NOT GO ") + gauge + " goes on: the pitch diameter is " +
                                      text(out.no_go_overlap) + (screw ? " too small." : " too large.");
    return out;
}

} // namespace whorl
