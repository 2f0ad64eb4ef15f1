#include "form/tooth/measure.hpp"

#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {
double base_helix_cos(const ResolvedGear& g) { // sin βb = sin β·cos αn
    const double s = std::sin(in_rad(g.spec.helix_angle)) * std::cos(in_rad(g.spec.pressure_angle));
    return std::sqrt(1 - s * s);
}
// half the angle of the space on the base circle, by the involute carried on to there
double space_on_base(const ResolvedGear& g) {
    const double inv = involute(g.transverse_pressure_angle);
    return g.spec.internal ? g.space_half_angle + inv : g.space_half_angle - inv;
}
} // namespace

double tooth_thickness(const ResolvedGear& g, double radius) {
    return 2 * radius * (std::numbers::pi / g.spec.teeth - space_half_angle_at(g, radius));
}

double span_measurement(const ResolvedGear& g, int k) {
    const double base_pitch = g.pitch_angle() * g.base_radius; // transverse
    const double part = g.spec.internal ? 2 * space_on_base(g) : g.pitch_angle() - 2 * space_on_base(g);
    return ((k - 1) * base_pitch + part * g.base_radius) * base_helix_cos(g);
}

int span_teeth(const ResolvedGear& g) {
    const double target =
        g.pitch_radius + (g.spec.internal ? -1 : 1) * g.spec.profile_shift * in_mm(g.spec.module);
    int best = 1;
    double miss = 1e300;
    for (int k = 1; k <= std::max(1, g.spec.teeth / 2); ++k) {
        const double half = span_measurement(g, k) / base_helix_cos(g) / 2;
        const double off = std::abs(std::hypot(g.base_radius, half) - target);
        if (off < miss) miss = off, best = k;
    }
    return best;
}

PinSeat pin_seat(const ResolvedGear& g, double pin) {
    // the pin's middle lies on the involute shifted by half the pin, which meets the middle of the space
    // there
    const double turned = pin / 2 / base_helix_cos(g) / g.base_radius;
    const double inv = g.spec.internal ? space_on_base(g) - turned : turned - space_on_base(g);
    if (inv <= 0) return {};
    const double angle = inverse_involute(inv);
    const double length = g.base_radius * std::tan(angle);
    const double reach = length + (g.spec.internal ? 1 : -1) * pin / 2 * base_helix_cos(g);
    return {g.base_radius / std::cos(angle), std::hypot(g.base_radius, std::max(0.0, reach))};
}

double ball_measurement(const ResolvedGear& g, double pin) {
    const double across = 2 * pin_seat(g, pin).centre;
    const double chord =
        g.spec.teeth % 2 == 0 ? across : across * std::cos(std::numbers::pi / g.spec.teeth / 2);
    return g.spec.internal ? chord - pin : chord + pin;
}

double pin_measurement(const ResolvedGear& g, double pin) {
    const bool along_helix = in_rad(g.spec.helix_angle) != 0 && !g.spec.internal;
    return along_helix ? 2 * pin_seat(g, pin).centre + pin : ball_measurement(g, pin);
}

double usual_pin(const ResolvedGear& g) {
    const double target =
        g.pitch_radius + (g.spec.internal ? -1 : 1) * g.spec.profile_shift * in_mm(g.spec.module);
    const double module = in_mm(g.spec.module);
    const auto narrow = [&](double pin) { // wider pins lie further out (external) or further in (internal)
        const double contact = pin_seat(g, pin).contact;
        return contact == 0 ? g.spec.internal != true : g.spec.internal ? contact > target : contact < target;
    };
    return std::max(0.05, std::round(halved(0.2 * module, 4 * module, narrow).low / 0.05) * 0.05);
}

Thickness thickness_at(const ResolvedGear& g, double diameter) {
    const double r = diameter / 2, low = std::min(g.root_radius, g.tip_radius),
                 high = std::max(g.root_radius, g.tip_radius);
    if (g.half_outline.empty()) throw InputError("These teeth can't be made, so they have no thickness.");
    if (!(r >= low - 1e-9 && r <= high + 1e-9))
        throw InputError("A tooth has a thickness between Ø " + number_text(2 * low, 4) + " and Ø " +
                         number_text(2 * high, 4) + " mm; Ø " + number_text(diameter, 4) + " is off it.");
    const double half = g.pitch_angle() / 2 - space_half_angle_at(g, r);
    return {2 * r * half, 2 * r * std::sin(half), std::abs(g.tip_radius - r * std::cos(half))};
}

std::vector<std::pair<std::string, std::string>> data_block(const ResolvedGear& g,
                                                            std::optional<Length> width) {
    const GearSpec& s = g.spec;
    const bool helical = in_rad(s.helix_angle) != 0;
    std::vector<std::pair<std::string, std::string>> out;
    const auto put = [&](const char* name, std::string value) { out.emplace_back(name, std::move(value)); };
    put("Normal module", number_text(in_mm(s.module), 4));
    put("Number of teeth",
        (s.internal ? "-" : "") + std::to_string(s.teeth)); // a ring's are counted negative
    put("Basic rack tooth profile", s.rack.type.empty() ? number_text(s.rack.addendum, 3) + " / " +
                                                              number_text(s.rack.dedendum, 3) + " / " +
                                                              number_text(s.rack.root_radius, 3)
                                                        : "ISO 53 " + s.rack.type);
    put("Normal pressure angle", number_text(in_deg(s.pressure_angle), 4) + "°");
    put("Helix angle", number_text(in_deg(s.helix_angle), 4) + "°");
    put("Direction of helix", helical ? (s.hand == Hand::left ? "left" : "right") : "none (spur)");
    put("Reference diameter", number_text(2 * g.pitch_radius, 4));
    put("Profile shift coefficient", number_text(s.profile_shift, 4));
    put("Tip diameter", number_text(2 * g.tip_radius, 3));
    put("Root diameter", number_text(2 * g.root_radius, 3));
    put("Base diameter", number_text(2 * g.base_radius, 4));
    put("Tooth depth", number_text(std::abs(g.tip_radius - g.root_radius), 3));
    if (width) put("Face width", number_text(in_mm(*width), 3));
    if (helical)
        put("Lead", number_text(2 * std::numbers::pi * g.pitch_radius / std::tan(in_rad(s.helix_angle)), 3));
    if (g.trouble == ToothTrouble::none) {
        const int k = span_teeth(g);
        if (!s.internal || !helical)
            put(s.internal ? "Span over spaces" : "Span over teeth",
                number_text(span_measurement(g, k), 3) + " over " + std::to_string(k));
        const double pin = usual_pin(g);
        const std::string with = " with Ø " + number_text(pin, 2);
        if (!s.internal || !helical)
            put(s.internal ? "Between pins" : "Over pins", number_text(pin_measurement(g, pin), 3) + with);
        if (helical)
            put(s.internal ? "Between balls" : "Over balls", number_text(ball_measurement(g, pin), 3) + with);
        put("Transverse tooth thickness", number_text(tooth_thickness(g, g.pitch_radius), 4));
    }
    put("Backlash allowance", in_mm(s.thinning) == 0
                                  ? std::string("none")
                                  : number_text(in_mm(s.thinning), 4) + " off the normal thickness");
    return out;
}

} // namespace whorl
