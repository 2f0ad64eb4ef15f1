// Ends that are arcs turned about the axis: rounded, edge, fillet.
#include "model/ends/ends.hpp"
#include "model/resolve_zone.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

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
ResolvedEnd rounded_end(const EndInZone& at) {
    const auto& [e, z, names, closed_bottom, far] = at;
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
    const auto depth = [radius](double off) { return std::sqrt(std::max(0.0, radius * radius - off * off)); };
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
ResolvedEnd arc_end(const EndInZone& at) {
    const auto& [e, z, names, closed_bottom, far] = at;
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

// RADIUS, or `r RADIUS`; `sentence` for more than that.
void read_radius(EndTreatment& e, EndWords w, const char* sentence) {
    if (w.first == "r" || w.first == "R") w.first.swap(w.rest), w.rest.clear();
    if (!w.rest.empty()) throw InputError(sentence);
    if (!w.first.empty()) e.radius = {w.first, w.unit};
}

void read_arc(EndTreatment& e, const EndWords& w, const char* word) {
    const std::string sentence =
        std::string("A rounded edge and a fillet have one number, their radius: ") + word + " 0.5.";
    read_radius(e, w, sentence.c_str());
    if (e.radius.text.empty()) throw InputError(sentence);
}

Words arcs_offered(const ResolvedZone& z, const char* text) {
    return z.as<ResolvedPlain>() && z.outline() == Outline::round && !z.keyway() ? Words{text} : Words{};
}

constexpr EndNumber radius[]{{"radius", &EndTreatment::radius}};

} // namespace

template<>
const EndModel& end_model<EndKind::rounded>() {
    static const EndModel model{
        .word = {"rounded"},
        .written = "rounded 14 (a dome)",
        .numbers = radius,
        .read =
            [](EndTreatment& e, const EndWords& w) {
                read_radius(e, w, "A rounded end has one number, its radius: rounded 14.");
            },
        .text =
            [](const EndTreatment& e, const Reading& as) {
                return e.radius.text.empty() ? std::string("rounded")
                                             : "rounded " + typed_as(e.radius, as.unit, as.names);
            },
        .resolve = rounded_end,
        .offered =
            [](const ResolvedZone& z) {
                return z.in_bore() || z.knurl() || z.groove() ? Words{} : Words{"rounded"};
            }};
    return model;
}

template<>
const EndModel& end_model<EndKind::edge>() {
    static const EndModel model{
        .word = {"radius", "", "edge"},
        .written = "radius 0.5 (its edge rounded)",
        .numbers = radius,
        .read = [](EndTreatment& e, const EndWords& w) { read_arc(e, w, "radius"); },
        .text = [](const EndTreatment& e,
                   const Reading& as) { return "radius " + typed_as(e.radius, as.unit, as.names); },
        .resolve = arc_end,
        .offered = [](const ResolvedZone& z) { return arcs_offered(z, "radius 0.5"); }};
    return model;
}

template<>
const EndModel& end_model<EndKind::fillet>() {
    static const EndModel model{
        .word = {"fillet"},
        .written = "fillet 0.5 (the corner at a shoulder filled)",
        .numbers = radius,
        .read = [](EndTreatment& e, const EndWords& w) { read_arc(e, w, "fillet"); },
        .text = [](const EndTreatment& e,
                   const Reading& as) { return "fillet " + typed_as(e.radius, as.unit, as.names); },
        .resolve = arc_end,
        .offered = [](const ResolvedZone& z) { return arcs_offered(z, "fillet 0.5"); }};
    return model;
}

} // namespace whorl
