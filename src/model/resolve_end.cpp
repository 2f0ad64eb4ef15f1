// A zone's ends: chamfers that follow from the thread, points, rounded ends, run-outs.
#include "model/resolve_zone.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

Length length_in_range(const Number& n, const Names& names, const char* what, double least) {
    const Length l = resolve_length(n, names);
    if (!(in_mm(l) >= least && in_mm(l) <= longest_length))
        throw InputError(std::string("The ") + what + " is " + outside_text(in_mm(l), least, longest_length) +
                             " mm; it must be between " + number_text(least, 4) + " and " +
                             number_text(longest_length, 0) + " mm.",
                         0, n.text.size());
    return l;
}

namespace {

// Just below the thread's root, down to a round twentieth of a millimetre, so that the thread starts cleanly.
// `inset`: how far before the zone's end the chamfer's small circle lies.
Length default_chamfer(const ResolvedZone& z, bool far, double inset = 0) {
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

// A flat a hundredth as wide as the zone stays where a cone or a dome comes to the axis.
Length tip_flat(const ResolvedZone& z) {
    return mm(std::max(0.02, 0.01 * in_mm(z.diameter)));
}

// The corners of a hexagon or a square: a ball about the axis through the circle that a chamfer would leave.
ResolvedEnd rounded_corners(const EndTreatment& e, const ResolvedZone& z, const Names& names) {
    ResolvedEnd r;
    r.follows = e.radius.text.empty();
    const double across = in_mm(z.diameter), corner = in_mm(z.outer_radius()),
                 radius = r.follows
                              ? across
                              : in_mm(length_in_range(e.radius, names, "radius of the rounded corners"));
    const double least = 1.05 * corner, most = 10 * across;
    if (!(radius >= least - 1e-9 && radius <= most))
        throw InputError("The radius of rounded corners is " + outside_text(radius, least, most) +
                             " mm; here it must be between " + number_text(least, 3) + " and " +
                             number_text(most, 3) + " mm.",
                         0, e.radius.text.size());
    r.dome_radius = mm(radius);
    r.tip_diameter = default_chamfer(z, false);
    const double tip = in_mm(r.tip_diameter) / 2;
    r.dome_height = mm(std::sqrt(radius * radius - tip * tip) - std::sqrt(radius * radius - corner * corner));
    return r;
}

// ISO 4753, RN: a dome of about 1.4 d. The dome itself stands on the circle below the thread's root, since
// its trace in the flanks has no closed form; between root and crest the cone that touches it there goes on.
ResolvedEnd rounded_end(const EndTreatment& e, const ResolvedZone& z, const Names& names, bool far) {
    if (z.is_hollow() && z.silhouette()->spec.dish) { // worked out with the hollow
        const ResolvedSilhouette& s = *z.silhouette();
        ResolvedEnd r;
        r.dome_radius = mm(*s.spec.dish);
        r.dome_height = mm(s.body_from - s.z0);
        r.tip_diameter = mm(2 * dish_tip(s.wall->outer()(s.body_from)));
        return r;
    }
    if (z.in_bore())
        throw InputError("Only the outside of a zone can have a rounded end; choose flat or chamfer.");
    if (z.outline() != Outline::round) return rounded_corners(e, z, names);
    ResolvedEnd r;
    r.follows = e.radius.text.empty();
    const double d = in_mm(far ? z.far_diameter : z.diameter);
    const double radius =
        r.follows ? 1.4 * d : in_mm(length_in_range(e.radius, names, "radius of the rounded end"));
    const double widest = z.thread() ? in_mm(z.largest_radius()) : d / 2;
    if (!(radius >= widest - 1e-9 && radius <= 4 * d))
        throw InputError("The radius of a rounded end is " + outside_text(radius, widest, 4 * d) +
                             " mm; here it must be between " + number_text(widest, 3) +
                             " mm, half the diameter, and " + number_text(4 * d, 3) + " mm.",
                         0, e.radius.text.size());
    const auto depth = [&](double at) { return std::sqrt(std::max(0.0, radius * radius - at * at)); };
    r.dome_radius = mm(radius);
    r.tip_diameter = tip_flat(z);
    const double tip = depth(in_mm(r.tip_diameter) / 2);
    double base = d / 2;
    if (z.thread()) { // below the root where the dome ends, also where a taper narrows the thread on the way
                      // there
        base = in_mm(default_chamfer(z, far)) / 2;
        base = std::min(base, in_mm(default_chamfer(z, far, tip - depth(base))) / 2);
    }
    if (base <= in_mm(r.tip_diameter) / 2)
        throw InputError("There is only Ø " + number_text(2 * base, 3) +
                         " mm where the rounded end would stand, and its tip alone is " +
                         number_text(in_mm(r.tip_diameter), 3) + " mm wide. Choose flat or chamfer.");
    r.dome_height = mm(tip - depth(base));
    if (z.thread()) {
        r.kind = EndKind::chamfer;
        r.diameter = mm(2 * base);
        r.angle = rad(std::atan2(depth(base), base));
    }
    return r;
}

// An arc that touches the plane a zone ends in and its surface: of a cylinder a quarter of a circle. On a cone whose
// radius gains m per mm towards the end, with k = √(1 + m²), the arc's middle runs at r − m·ρ ∓ k·ρ, r the cone's radius
// in the plane, and it leaves the cone ρ·(1 ± m/k) before that; the upper signs are those of an outer edge.
ResolvedEnd arc_end(const EndTreatment& e, const ResolvedZone& z, const Names& names, bool far) {
    const bool fillet = e.kind == EndKind::fillet;
    const char* const what = fillet ? "radius of a fillet" : "radius of an edge";
    if (!z.as<ResolvedPlain>() || z.outline() != Outline::round || z.keyway())
        throw InputError(std::string("Only a plain cylinder or cone without a keyway has ") +
                         (fillet ? "a fillet" : "a rounded edge") +
                         "; put a plain zone between, or choose flat or chamfer.");
    if (e.radius.text.empty())
        throw InputError(std::string("A ") + (fillet ? "fillet" : "rounded edge") +
                         " has a radius, for example " + (fillet ? "fillet 0.5." : "radius 0.5."));
    ResolvedEnd r;
    r.kind = e.kind;
    const double radius = in_mm(length_in_range(e.radius, names, what)),
                 d = in_mm(far ? z.far_diameter : z.diameter);
    r.hollow = fillet != z.in_bore(); // in a bore the material lies outside
    const double m = (far ? 1 : -1) * in_mm(z.far_diameter - z.diameter) / 2 / in_mm(z.length),
                 k = std::sqrt(1 + m * m), side = r.hollow ? -1 : 1;
    const double most = (d - in_mm(tip_flat(z))) / 2 / (m + k);
    if (!r.hollow && radius > most + 1e-9)
        throw InputError(std::string("The ") + what + " is " + number_text(radius, 3) + " mm; on Ø " +
                             number_text(d, 3) + " mm it is at most " + number_text(most, 3) + " mm.",
                         0, e.radius.text.size());
    r.dome_radius = mm(radius);
    r.dome_height = mm(radius * (1 + side * m / k));
    r.arc_middle = mm(d / 2 - radius * (m + side * k));
    r.tip_diameter = r.arc_middle * 2;
    return r;
}

// A chamfer by its length along the axis: the diameter it ends in.
Length chamfer_by_distance(const EndTreatment& e, const ResolvedZone& z, const Names& names, Angle angle,
                           bool far) {
    const double along = in_mm(length_in_range(e.distance, names, "length of a chamfer")),
                 gain = z.swept() ? z.taper() * in_mm((far ? z.end() : z.start) - z.taper_from()) : 0,
                 widest = z.swept() ? std::max(z.swept()->crest_radius, z.swept()->root_radius) + gain
                          : z.as<ResolvedPlain>() && z.outline() == Outline::round
                              ? in_mm(far ? z.far_diameter : z.diameter) / 2
                              : in_mm(z.outer_radius());
    const double sunk = along * std::tan(in_rad(angle));
    if (z.in_bore()) return mm(2 * (widest + sunk));
    if (sunk > widest - 0.01)
        throw InputError("A chamfer of " + number_text(along, 3) + " mm by " + number_text(in_deg(angle), 2) +
                             "° leaves nothing of Ø " + number_text(2 * widest, 3) + " mm; it is at most " +
                             number_text((widest - 0.01) / std::tan(in_rad(angle)), 3) + " mm long.",
                         0, e.distance.text.size());
    return mm(2 * (widest - sunk));
}

} // namespace

ResolvedEnd resolve_end(const EndTreatment& e, const ResolvedZone& z, const Names& names, bool closed_bottom,
                        bool far) {
    ResolvedEnd r;
    r.kind = e.kind;
    if (z.outline() == Outline::flat && e.kind != EndKind::flat)
        throw InputError("A flat bar is sawn off square; its ends are flat.");
    if (e.kind == EndKind::chamfer) {
        r.angle = evaluate_angle(e.angle.text, names);
        if (!(in_deg(r.angle) >= 5 && in_deg(r.angle) <= 85))
            throw InputError("A chamfer angle must be between 5° and 85° to the axis.", 0,
                             e.angle.text.size());
        r.follows = e.diameter.text.empty() && e.distance.text.empty();
        r.diameter = r.follows                 ? default_chamfer(z, far)
                     : e.diameter.text.empty() ? chamfer_by_distance(e, z, names, r.angle, far)
                                               : length_in_range(e.diameter, names, "chamfer diameter");
    } else if (e.kind == EndKind::point) {
        if (z.in_bore() && !closed_bottom)
            throw InputError("Only the bottom of a blind bore can end in a point; this end is open.");
        r.kind = EndKind::chamfer;
        r.diameter = tip_flat(z); // as a drill's web leaves it
        r.angle = evaluate_angle(e.angle.text, names);
        if (!(in_deg(r.angle) >= 5 && in_deg(r.angle) <= 85))
            throw InputError("The angle of a point must be between 5° and 85° to the axis.", 0,
                             e.angle.text.size());
    } else if (e.kind == EndKind::rounded) {
        return rounded_end(e, z, names, far);
    } else if (e.kind == EndKind::edge || e.kind == EndKind::fillet) {
        return arc_end(e, z, names, far);
    } else if (e.kind == EndKind::milled) {
        if (!z.groove())
            throw InputError("Only a groove ends in the round of its tool; choose flat or chamfer, or for a "
                             "thread a run-out.");
    } else if (e.kind == EndKind::run_out) {
        if (!z.swept())
            throw InputError("Only a threaded or grooved zone can have a run-out; choose flat or chamfer.");
        r.turns = evaluate_number(e.turns.text, names);
        if (!(r.turns >= 0.05 && r.turns <= 20))
            throw InputError("A run-out takes 0.05 to 20 turns.", 0, e.turns.text.size());
    }
    return r;
}

} // namespace whorl
