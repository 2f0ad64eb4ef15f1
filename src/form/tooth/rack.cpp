#include "form/tooth/rack.hpp"

#include "form/tooth/tooth_range.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

// A space's bottom and a tooth's tip keep at least this part of the module as a land.
constexpr double least_land = 1e-3;
constexpr int most_teeth = 2000;

TransverseCurve line(double x0, double y0, double x1, double y1) {
    TransverseCurve c;
    c.shape = CurveShape::line;
    c.to = 1;
    c.x0 = x0;
    c.y0 = y0;
    c.x1 = x1;
    c.y1 = y1;
    return c;
}

TransverseCurve arc(double x, double y, double radius, double from, double to, double sense) {
    TransverseCurve c;
    c.shape = CurveShape::arc;
    c.x0 = x;
    c.y0 = y;
    c.radius = radius;
    c.from = from;
    c.to = to;
    c.sense = sense;
    return c;
}

// Half a space at the reference line, in the normal plane.
double half_space(const RackSpec& s) {
    return (pi * in_mm(s.module) / 2 + in_mm(s.thinning)) / 2;
}

// Root flat, its rounding, straight flank, the tip's edge, tip flat: each touches or meets the next.
void trace(ResolvedRack& r) {
    const RackSpec& s = r.spec;
    const double m = in_mm(s.module), alpha = in_rad(s.pressure_angle), land = least_land * m;
    const double si = std::sin(alpha), co = std::cos(alpha), tangent = std::tan(alpha), w = half_space(s);
    const double root = r.root_height, tip = r.tip_height, middle = pi * m / 2; // of the tooth
    const double room = (w + root * tangent - land) * co / (1 - si);
    const double rho = r.root_rounding = std::clamp(room, 0.0, s.rack.root_radius * m);
    const auto flank = [&](double height) { return w + height * tangent; };
    auto& out = r.half_outline;
    double low = root;
    if (rho > land) {
        const double x = root + rho, y = flank(x) - rho / co;
        low = x - rho * si;
        out.push_back(line(root, 0, root, y));
        out.push_back(arc(x, y, rho, -pi, -(pi / 2 + alpha), -1));
    } else {
        out.push_back(line(root, 0, root, flank(root)));
    }
    double high = tip, end = flank(tip);
    std::optional<TransverseCurve> edge;
    const double size = in_mm(s.tip_size);
    if (s.tip_edge == TipEdge::chamfered && size > 0) {
        high = tip - size;
        end = flank(high) + size;
        edge = line(high, flank(high), tip, end);
    } else if (s.tip_edge == TipEdge::rounded && size > 0) {
        const double x = tip - size;
        end = flank(x) + size / co;
        high = x + size * si;
        edge = arc(x, end, size, alpha - pi / 2, 0, 1);
    }
    r.form_height = low;
    r.flank_tip_height = high;
    const auto fail = [&](ToothTrouble why) {
        out.clear();
        r.trouble = why;
    };
    if (middle - flank(tip) < land) return fail(ToothTrouble::pointed_tip);
    if (high < low + land) return fail(edge ? ToothTrouble::tip_edge : ToothTrouble::no_involute);
    if (middle - end < land) return fail(ToothTrouble::tip_edge);
    out.push_back(line(low, flank(low), high, flank(high)));
    if (edge) out.push_back(*edge);
    out.push_back(line(tip, end, tip, middle));
}

void list_values(ResolvedRack& r) {
    const RackSpec& s = r.spec;
    const double m = in_mm(s.module), stretch = 1 / std::cos(in_rad(s.helix_angle));
    const bool helical = in_rad(s.helix_angle) != 0;
    const auto put = [&](const char* key, const char* label, ValueKind kind, double value,
                         std::string source) {
        r.values.push_back(
            {.key = key, .label = label, .kind = kind, .value = value, .source = std::move(source)});
    };
    const auto status = preferred_module(s.module);
    put("module", "Module", ValueKind::length, m,
        status.series > 0 ? standard::preferred_module_source() + ", series " +
                                std::string(static_cast<std::size_t>(status.series), 'I')
                          : "not a preferred module of ISO 54");
    put("teeth", "Teeth", ValueKind::number, r.teeth,
        s.teeth ? "as asked" : "whole teeth in the length asked");
    put("pressure_angle", "Pressure angle", ValueKind::angle, in_rad(s.pressure_angle), "as asked, normal");
    put("helix_angle", "Helix angle", ValueKind::angle, in_rad(s.helix_angle), "as asked");
    if (helical)
        r.values.push_back({.key = "hand",
                            .label = "Hand",
                            .kind = ValueKind::text,
                            .text = s.hand == Hand::left ? "left" : "right",
                            .source = "as asked"});
    put("circular_pitch", "Pitch", ValueKind::length, r.pitch(), helical ? "pt = π·mn/cos β" : "p = π·m");
    if (helical) {
        put("normal_pitch", "Normal pitch", ValueKind::length, pi * m, "pn = π·mn");
        put("transverse_pressure_angle", "Transverse angle", ValueKind::angle, r.transverse_pressure_angle,
            "tan αt = tan αn/cos β");
    }
    put("length", "Length", ValueKind::length, r.length,
        s.length ? "as asked" : "teeth · pitch, and what is left uncut");
    put("face_width", "Face width", ValueKind::length, in_mm(s.width), "as asked");
    put("height", "Height", ValueKind::length, in_mm(s.height), "as asked, back to tips");
    put("reference_height", "Reference line", ValueKind::length, r.body(), "over the back: h − mn·(ha* − k)");
    put("addendum", "Addendum", ValueKind::length, r.tip_height, "ha = mn·(ha* − k), ISO 53");
    put("dedendum", "Dedendum", ValueKind::length, -r.root_height, "hf = mn·hf*, ISO 53");
    put("tooth_depth", "Tooth depth", ValueKind::length, r.tip_height - r.root_height, "ha + hf");
    put("body_under_roots", "Under the roots", ValueKind::length, r.body() + r.root_height,
        "height less the tooth depth");
    put("tooth_thickness", "Tooth thickness", ValueKind::length, (pi * m / 2 - in_mm(s.thinning)) * stretch,
        helical ? "st = (π·mn/2 − thinning)/cos β" : "s = π·m/2, less the thinning");
    if (r.trouble != ToothTrouble::none) return;
    put("tip_thickness", "Tip thickness", ValueKind::length,
        2 * (pi * m / 2 - half_space(s) - r.tip_height * std::tan(in_rad(s.pressure_angle))) * stretch,
        "along the rack, by the flanks: st − 2·ha·tan αt");
    put("root_rounding", "Root radius", ValueKind::length, r.root_rounding,
        r.root_rounding < s.rack.root_radius * m - 1e-9 ? "as far as it fits" : "ρfP·mn, ISO 53");
    const double pin = usual_pin(r);
    put("pin_diameter", "Pin Ø", ValueKind::length, pin, "touches near the reference line; to 0.05 mm");
    put("over_pin", "Over a pin", ValueKind::length, over_pin(r, pin),
        "from the back: h0 + D/2·(1 + 1/sin αn) − (space/2)/tan αn");
}

} // namespace

double ResolvedRack::pitch() const {
    return pi * transverse_module;
}
double ResolvedRack::body() const {
    return in_mm(spec.height) - tip_height;
}

ResolvedRack resolve_rack(const RackSpec& s) {
    const double m = in_mm(s.module), alpha = in_rad(s.pressure_angle), beta = in_rad(s.helix_angle);
    require_tooth_ranges(s);
    require_rack_land(s.rack, s.pressure_angle);
    require_range(in_mm(s.width), 0.1, 2000, "face width", " mm");
    require_range(in_mm(s.height), 0.1, 2000, "height of the body", " mm");
    require_range(in_mm(s.near_plain), 0, 5000, "plain end", " mm");
    require_range(in_mm(s.far_plain), 0, 5000, "plain end", " mm");
    ResolvedRack r;
    r.spec = s;
    r.transverse_module = m / std::cos(beta);
    r.transverse_pressure_angle = std::atan(std::tan(alpha) / std::cos(beta));
    r.lean = (s.hand == Hand::left ? 1 : -1) * std::tan(beta);
    r.tip_height = m * (s.rack.addendum - s.tip_shortening);
    r.root_height = -m * s.rack.dedendum;
    if (r.tip_height <= r.root_height + 0.1 * m)
        throw InputError("The tips are shortened to the roots; nothing is left of the teeth.");
    // from the middle of an end space to its edge at the tips
    const double opening = (half_space(s) + r.tip_height * std::tan(alpha)) / std::cos(beta);
    const double near = in_mm(s.near_plain), far = in_mm(s.far_plain);
    r.first_space = near > 0 ? near + opening : 0;
    const double ends = r.first_space + (far > 0 ? far + opening : 0);
    if (s.teeth) {
        require_range(*s.teeth, 1, most_teeth, "number of teeth", "");
        r.teeth = *s.teeth;
        r.length = ends + r.teeth * r.pitch();
    } else if (s.length) {
        r.length = in_mm(*s.length);
        const double room = (r.length - ends) / r.pitch();
        if (room < 1 - 1e-9)
            throw InputError("A length of " + number_text(r.length, 3) +
                             " mm has no room for a tooth; it takes " + number_text(ends + r.pitch(), 3) +
                             " mm.");
        require_range(room, 1, most_teeth, "number of teeth", "");
        r.teeth = static_cast<int>(std::floor(room + 1e-9));
    } else {
        throw InputError("A rack needs its number of teeth or its length.");
    }
    require_range(r.length, 0.1, 10000, "length of the rack", " mm");
    trace(r);
    list_values(r);
    return r;
}

RackSpec mating_rack(const GearSpec& g, int teeth, Length width) {
    RackSpec r;
    r.module = g.module;
    r.pressure_angle = g.pressure_angle;
    r.helix_angle = g.helix_angle;
    r.hand = g.hand == Hand::left ? Hand::right : Hand::left;
    r.rack = g.rack;
    r.teeth = teeth;
    r.width = width;
    // as high as it is wide, but at least six modules: then more than the tooth depth is left under the roots
    r.height = mm(std::max(std::ceil(6 * in_mm(g.module)), std::round(in_mm(width))));
    return r;
}

GearSpec mating_gear(const RackSpec& r, int teeth) {
    GearSpec g = rolled_up(r, teeth);
    g.hand = r.hand == Hand::left ? Hand::right : Hand::left;
    return g;
}

GearSpec rolled_up(const RackSpec& r, int teeth) {
    GearSpec g;
    g.module = r.module;
    g.teeth = teeth;
    g.pressure_angle = r.pressure_angle;
    g.helix_angle = r.helix_angle;
    g.hand = r.hand;
    g.rack = r.rack;
    return g;
}

double rack_middle(const ResolvedRack& r) {
    const int before = r.teeth / 2; // whole ones
    return r.first_space + (before + 0.5) * r.pitch();
}

double rack_reach(const ResolvedRack& r) {
    // to the middle of the first and of the last tooth; the middle tooth of an even number is the upper one
    return std::max(0, r.teeth - 1 - r.teeth / 2) * r.pitch();
}

double rack_half_space(const ResolvedRack& r, double height) {
    return half_space(r.spec) + height * std::tan(in_rad(r.spec.pressure_angle));
}

double over_pin(const ResolvedRack& r, double pin) {
    const double alpha = in_rad(r.spec.pressure_angle);
    const double centre = pin / 2 / std::sin(alpha) - half_space(r.spec) / std::tan(alpha);
    return r.body() + centre + pin / 2;
}

double usual_pin(const ResolvedRack& r) {
    // D such that it touches on the reference line: the normal there meets the space's middle
    const double d = 2 * half_space(r.spec) / std::cos(in_rad(r.spec.pressure_angle));
    return std::max(0.05, std::round(d / 0.05) * 0.05);
}

} // namespace whorl
