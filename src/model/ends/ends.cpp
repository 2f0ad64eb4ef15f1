#include "model/ends/ends.hpp"

#include "quantity/each_of.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

const EndModel& model_of(EndKind kind) {
    static const auto all = each_of<EndKind, end_kind_count>([]<EndKind k>() { return &end_model<k>(); });
    return *all.at(static_cast<std::size_t>(kind));
}

std::string end_shown(const ResolvedEnd& e, LengthUnit unit) {
    const std::string word = model_of(e.kind).word.text;
    if (e.is_edge()) return word + " " + shown_length(in_mm(e.dome_radius), unit);
    if (e.is_dome()) return "rounded, r " + shown_length(in_mm(e.dome_radius), unit);
    if (e.is_dog())
        return "dog Ø " + shown_length(in_mm(e.tip_diameter), unit) + ", " +
               shown_length(in_mm(e.dome_height), unit) + " long";
    if (e.kind == EndKind::chamfer)
        return word + " " + number_text(in_deg(e.angle), 2) + "°, Ø " + shown_length(in_mm(e.diameter), unit);
    if (e.kind == EndKind::run_out)
        return word + ", " + number_text(e.turns, 3) + (e.turns == 1 ? " turn" : " turns");
    return e.kind == EndKind::milled ? word + ", in the tool's round" : word;
}

Length default_chamfer(const ResolvedZone& z, bool far, double inset) {
    const double outer = 2 * in_mm(z.outer_radius());
    // what a taper makes of the thread's radii at this end
    const Length plane = far ? z.end() - mm(inset) : z.start + mm(inset);
    const double gain = z.swept() ? z.taper() * in_mm(plane - z.taper_from()) : 0;
    if (z.in_bore()) { // a countersink a twentieth wider than the thread, or half a millimetre on a plain
                       // bore
        const double wide = z.swept() ? 2 * (std::max(z.swept()->crest_radius, z.swept()->root_radius) + gain)
                                      : 2 * in_mm(z.largest_radius());
        return mm(z.swept() ? std::ceil((1.02 * wide + 0.05) / 0.05) * 0.05
                            : wide + std::min(1.0, 0.1 * wide));
    }
    if (z.outline() !=
        Outline::round) // fasteners' corners: 0.95 of the width across flats, ISO 4017 and its kin
        return mm(std::round(0.95 * in_mm(z.diameter) * 20) / 20);
    if (z.swept()) {
        const double root = 2 * (std::min(z.swept()->crest_radius, z.swept()->root_radius) + gain);
        const double round = std::floor((root - 0.02) / 0.05) * 0.05;
        return mm(round > 0.1 ? round : std::max(root * 0.9, 0.02));
    }
    if (z.knurl()) // below the grooves
        return mm(std::max(0.5 * outer, std::floor((2 * z.knurl()->root() - 0.1) / 0.05) * 0.05));
    return mm(std::max(outer - 2, outer * 0.8));
}

Length tip_flat(const ResolvedZone& z) {
    return mm(std::max(0.02, 0.01 * in_mm(z.diameter)));
}

Angle angle_to_axis(const EndInZone& at, const char* what) {
    const Angle a = evaluate_angle(at.end.angle.text, at.names);
    if (!(in_deg(a) >= 5 && in_deg(a) <= 85))
        throw InputError(std::string(what) + " must be between 5° and 85° to the axis.", 0,
                         at.end.angle.text.size());
    return a;
}

} // namespace whorl
