#include "pair/spline_fit.hpp"

#include "form/tooth/measure.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr double touching = 1e-6; // mm

constexpr double overlap_allowed = 1e-3; // mm

// The least that is left between one flank of each, along the circle, and its radius; both outlines as they are.
std::pair<double, double> least_room(const ResolvedGear& shaft, const ResolvedGear& hub) {
    const double from = std::max(hub.tip_radius, shaft.root_radius),
                 to = std::min(shaft.tip_radius, hub.root_radius);
    std::pair<double, double> least{1e9, from};
    constexpr int steps = 400;
    for (int i = 0; i <= steps; ++i) {
        const double r = from + (to - from) * i / steps;
        const double tooth = pi / shaft.spec.teeth - space_half_angle_at(shaft, r),
                     room = (space_half_angle_at(hub, r) - tooth) * r;
        if (room < least.first) least = {room, r};
    }
    return least;
}

std::string millimetre(double v) {
    return number_text(v, 3) + " mm";
}

} // namespace

SplineFit spline_fit(const ResolvedSpline& shaft, const ResolvedSpline& hub, Length engaged) {
    SplineFit out;
    const auto wrong = [&](const char* id, std::string sentence, double value, double limit) {
        out.mistakes.push_back({id, std::move(sentence), value, limit});
    };
    const SplineSpec &a = shaft.spec, &b = hub.spec;
    if (a.teeth != b.teeth)
        wrong("teeth",
              "The shaft has " + std::to_string(a.teeth) + " teeth and the hub " + std::to_string(b.teeth) +
                  ".",
              a.teeth, b.teeth);
    if (std::abs(in_mm(a.module - b.module)) > touching)
        wrong("module",
              "The shaft's module is " + millimetre(in_mm(a.module)) + ", the hub's " +
                  millimetre(in_mm(b.module)) + ".",
              in_mm(a.module), in_mm(b.module));
    if (std::abs(in_rad(a.pressure_angle - b.pressure_angle)) > 1e-9)
        wrong("pressure_angle",
              "The shaft's flanks stand at " + number_text(in_deg(a.pressure_angle), 2) + "°, the hub's at " +
                  number_text(in_deg(b.pressure_angle), 2) + "°.",
              in_rad(a.pressure_angle), in_rad(b.pressure_angle));
    if (a.reference_diameter != b.reference_diameter) {
        const auto named = [](const SplineSpec& s) {
            return s.reference_diameter ? "Ø " + millimetre(in_mm(*s.reference_diameter))
                                        : std::string("none (ISO 4156)");
        };
        wrong("reference_diameter",
              "The shaft's reference diameter is " + named(a) + ", the hub's " + named(b) + ".",
              in_mm(a.reference_diameter.value_or(mm(0))), in_mm(b.reference_diameter.value_or(mm(0))));
    }
    if (!out.mistakes.empty()) return out;

    const ResolvedGear &s = shaft.gear, &h = hub.gear;
    const double r = s.pitch_radius, space = 2 * pi * r / a.teeth - tooth_thickness(h, r),
                 tooth = tooth_thickness(s, r);
    out.flank_clearance = space - tooth;
    out.form_clearance = std::min(h.tip_radius - s.form_radius, h.form_radius - s.tip_radius);
    if (const auto [room, at] = least_room(s, h); room < -overlap_allowed)
        wrong("overlap",
              "Put together, the shaft's teeth overlap the hub's by " + millimetre(-room) + " on Ø " +
                  millimetre(2 * at) + ".",
              room, 0);

    const auto length = [&](const char* key, const char* label, double v, const char* source) {
        out.values.push_back(valued(key, label, ValueKind::length, v, source));
    };
    length("flank_clearance", "Between the flanks", out.flank_clearance,
           "space less tooth on the pitch circle, as both are made");
    if (shaft.limits && hub.limits) {
        ResolvedValue v{.key = "clearance_limits", .label = "At the limits"};
        v.min = hub.limits->effective - shaft.limits->effective + in_mm(a.thinning + b.thinning);
        v.max = hub.limits->most - shaft.limits->least + in_mm(a.thinning + b.thinning);
        v.source = "Ev min − Sv max to E max − S min, ISO 4156-1";
        out.values.push_back(std::move(v));
    }
    out.values.push_back(valued("play", "Turning play", ValueKind::angle, out.flank_clearance / r,
                                "of the hub on the shaft, as both are made"));
    length("outer_tip_clearance", "Shaft's tip to root", h.root_radius - s.tip_radius, "(df2 − da1)/2");
    length("inner_tip_clearance", "Hub's tip to root", h.tip_radius - s.root_radius, "(da2 − df1)/2");
    length("form_clearance", "Form clearance", out.form_clearance,
           "of a tip to where the other's fillet begins, radially; DIN 5480-1 has 0.02·m at least");
    length("flank_depth", "Depth of contact",
           std::min(s.tip_radius, h.form_radius) - std::max(h.tip_radius, s.form_radius),
           "of the flanks that bear, radially");
    length("engaged_length", "Engaged length", in_mm(engaged), "over which both have teeth");
    return out;
}

} // namespace whorl
