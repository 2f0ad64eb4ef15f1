// Ends that are flat or cones: flat, chamfer, point.
#include "model/ends/ends.hpp"
#include "model/resolve_zone.hpp"
#include "quantity/trimmed.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

template<>
const EndModel& end_model<EndKind::flat>() {
    static const EndModel model{
        .word = {"flat"},
        .written = "flat",
        .numbers = {},
        .read =
            [](EndTreatment&, const EndWords& w) {
                if (!w.first.empty())
                    throw InputError("A flat end has no number; write only flat.", 4, w.first.size() + 1);
            },
        .text = [](const EndTreatment&, const Reading&) { return std::string("flat"); },
        .resolve = [](const EndInZone&) { return ResolvedEnd{}; },
        .offered = [](const ResolvedZone&) { return Words{"flat"}; }};
    return model;
}

namespace {

bool prism(const ResolvedZone& z) {
    return z.outline() != Outline::round;
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

// ANGLE [Ø], or LENGTH x ANGLE.
void read_chamfer(EndTreatment& e, const EndWords& w) {
    if (!w.rest.empty() && (w.rest[0] == 'x' || w.rest[0] == 'X')) {
        e.distance = {w.first, w.unit};
        if (const std::string angle(trimmed(w.rest.substr(1))); !angle.empty()) e.angle = {angle, {}};
        return;
    }
    if (!w.first.empty()) e.angle = {w.first, {}};
    if (!w.rest.empty()) e.diameter = {w.rest, w.unit};
}

std::string chamfer_text(const EndTreatment& e, const Reading& as) {
    if (!e.distance.text.empty())
        return "chamfer " + typed_as(e.distance, as.unit, as.names) + " x " + e.angle.text;
    std::string s = "chamfer " + e.angle.text;
    if (!e.diameter.text.empty())
        s += " " + (e.diameter.unit == as.unit ? e.diameter.text
                                               : length_text(resolve_length(e.diameter, as.names), as.unit));
    return s;
}

ResolvedEnd resolve_chamfer(const EndInZone& at) {
    const EndTreatment& e = at.end;
    ResolvedEnd r;
    r.kind = e.kind;
    r.angle = angle_to_axis(at, "A chamfer angle");
    r.follows = e.diameter.text.empty() && e.distance.text.empty();
    r.diameter = r.follows                 ? default_chamfer(at.zone, at.far)
                 : e.diameter.text.empty() ? chamfer_by_distance(e, at.zone, at.names, r.angle, at.far)
                                           : length_in_range(e.diameter, at.names, "chamfer diameter");
    return r;
}

} // namespace

template<>
const EndModel& end_model<EndKind::chamfer>() {
    static constexpr EndNumber numbers[]{{"diameter", &EndTreatment::diameter},
                                         {"distance", &EndTreatment::distance},
                                         {"angle", &EndTreatment::angle}};
    static const EndModel model{.word = {"chamfer"},
                                .written =
                                    "chamfer 45 8.1 (angle, end diameter), chamfer 1 x 45 (length, angle)",
                                .numbers = numbers,
                                .read = read_chamfer,
                                .text = chamfer_text,
                                .resolve = resolve_chamfer,
                                .offered = [](const ResolvedZone& z) {
                                    const bool steep = !z.knurl() && !z.groove() && (z.in_bore() || prism(z));
                                    return Words{"chamfer 45", steep ? "chamfer 60" : "chamfer 30"};
                                }};
    return model;
}

template<>
const EndModel& end_model<EndKind::point>() {
    static constexpr EndNumber numbers[]{{"angle", &EndTreatment::angle}};
    static const EndModel model{
        .word = {"point"},
        .written = "point 59 (angle to the axis)",
        .numbers = numbers,
        .read =
            [](EndTreatment& e, const EndWords& w) {
                if (!w.first.empty()) e.angle = {w.first, {}};
                if (!w.rest.empty())
                    throw InputError("A point has one number, its angle to the axis: point 59.");
            },
        .text = [](const EndTreatment& e, const Reading&) { return "point " + e.angle.text; },
        .resolve =
            [](const EndInZone& at) {
                if (at.zone.in_bore() && !at.closed_bottom)
                    throw InputError("Only the bottom of a blind bore can end in a point; this end is open.");
                ResolvedEnd r;
                r.kind = EndKind::chamfer;
                r.diameter = tip_flat(at.zone); // as a drill's web leaves it
                r.angle = angle_to_axis(at, "The angle of a point");
                return r;
            },
        .offered =
            [](const ResolvedZone& z) {
                if (prism(z) || z.knurl() || z.groove() || (z.in_bore() && z.thread())) return Words{};
                return Words{z.in_bore() ? "point 59" : "point 45"};
            }};
    return model;
}

} // namespace whorl
