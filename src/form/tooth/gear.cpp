#include "form/tooth/gear.hpp"

#include "form/tooth/measure.hpp"
#include "form/tooth/tooth_range.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

// A cutter's tip and a tooth's tip keep at least this part of the module as a land.
constexpr double least_land = 1e-3;

TransverseCurve circle(double radius, double from, double to) {
    TransverseCurve c;
    c.radius = radius;
    c.from = from;
    c.to = to;
    return c;
}

TransverseCurve arc(double x, double y, double radius, double from, double to, double sense) {
    TransverseCurve c = circle(radius, from, to);
    c.shape = CurveShape::arc;
    c.x0 = x;
    c.y0 = y;
    c.sense = sense;
    return c;
}

// The numbers of one resolved gear that its outline needs, mm and rad.
class Outline {
public:
    explicit Outline(ResolvedGear& gear)
        : g_(gear), m_(in_mm(gear.spec.module)), cos_(std::cos(in_rad(gear.spec.helix_angle))),
          alpha_(in_rad(gear.spec.pressure_angle)), half_pitch_(pi / gear.spec.teeth),
          origin_(gear.space_half_angle +
                  (gear.spec.internal ? 1 : -1) * involute(gear.transverse_pressure_angle)) {}

    void trace() {
        if (g_.root_radius < 0.02 * m_ || g_.tip_radius <= 0) return fail(ToothTrouble::no_core);
        if (g_.spec.internal ? internal_root() : external_root()) tip();
    }

private:
    void fail(ToothTrouble why) {
        g_.half_outline.clear();
        g_.trouble = why;
    }

    TransverseCurve flank(double from, double to) const {
        TransverseCurve c = circle(g_.base_radius, from, to);
        c.shape = CurveShape::involute;
        c.origin = origin_;
        return c;
    }
    double flank_parameter(double radius) const {
        const double t = std::sqrt(std::max(0.0, radius * radius / (g_.base_radius * g_.base_radius) - 1));
        return g_.spec.internal ? -t : t;
    }

    // The root that a rack leaves whose tip corners are rounded.
    bool external_root() {
        const GearSpec& s = g_.spec;
        const double x = s.profile_shift * m_, r = g_.pitch_radius, dedendum = s.rack.dedendum * m_;
        const double half_width = (pi * m_ / 2 + in_mm(s.thinning)) / 2;
        const double room = (half_width - dedendum * std::tan(alpha_) - least_land * m_) * std::cos(alpha_) /
                            (1 - std::sin(alpha_));
        g_.root_rounding = std::min(s.rack.root_radius * m_, room);
        TransverseCurve foot = circle(r, 0, std::asinh(1 / std::tan(alpha_)));
        foot.shape = CurveShape::trochoid;
        foot.corner_radius = g_.root_rounding;
        foot.corner_y = x - dedendum + foot.corner_radius;
        foot.corner_x = (half_width - dedendum * std::tan(alpha_) -
                         foot.corner_radius * (1 - std::sin(alpha_)) / std::cos(alpha_)) /
                        cos_;
        foot.cos_helix = cos_;
        // where the rack's straight flank ends, as a length on the line of action from the base circle
        const double sin_t = std::sin(g_.transverse_pressure_angle);
        const double end = x - dedendum + foot.corner_radius * (1 - std::sin(alpha_));
        double begin = (r * sin_t + end / sin_t) / g_.base_radius;
        g_.undercut = begin < -1e-9;
        if (g_.undercut) {
            const auto cut = undercut_end(foot);
            if (!cut) return fail(ToothTrouble::no_involute), false;
            foot.to = cut->first;
            begin = cut->second;
            for (int i = 0; i <= 64; ++i)
                if (point_at(foot, foot.to * i / 64).angle() > half_pitch_ - least_land)
                    return fail(ToothTrouble::thin_foot), false;
        }
        begin = std::max(begin, 0.0);
        g_.form_radius = g_.base_radius * std::sqrt(1 + begin * begin);
        if (g_.form_radius > g_.tip_radius - 1e-3 * m_) return fail(ToothTrouble::no_involute), false;
        g_.half_outline = {circle(g_.root_radius, 0, foot.corner_x / r), foot, flank(begin, begin)};
        return true;
    }

    // Where an undercutting trochoid leaves the tooth and meets the involute: its parameter and the flank's.
    std::optional<std::pair<double, double>> undercut_end(const TransverseCurve& foot) const {
        // how far the trochoid lies behind the involute, inside the tooth
        const auto behind = [&](double t) {
            const TransversePoint p = point_at(foot, t);
            const double u = flank_parameter(p.radius());
            return p.angle() - (origin_ + u - std::atan(u));
        };
        // near the limit they meet close to the trochoid's end
        constexpr int steps = 600;
        const auto place = [&](int i) { return foot.to * (1 - std::pow(1 - double(i) / steps, 3)); };
        double before = behind(0);
        for (int i = 1; i <= steps; ++i) {
            const double t = place(i), now = behind(t);
            if (before > 0 && now <= 0 && point_at(foot, t).radius() > g_.base_radius) {
                const double low = halved(
                                       place(i - 1), t, [&](double at) { return behind(at) > 0; }, 0, 80)
                                       .low;
                return std::pair{low, flank_parameter(point_at(foot, low).radius())};
            }
            before = now;
        }
        return {};
    }

    // Internal teeth: the conjugate involute, joined to the root circle by an arc that touches both.
    bool internal_root() {
        const double base = g_.base_radius;
        if (g_.tip_radius < base * (1 + 1e-6)) return fail(ToothTrouble::tip_below_base), false;
        double radius = g_.spec.rack.root_radius * m_;
        for (int tries = 0; tries < 60; ++tries, radius *= 0.93) {
            const double centre = g_.root_radius - radius;
            const double length = std::sqrt(std::max(0.0, centre * centre - base * base)) + radius;
            const double p = -length / base, turned = origin_ + p;
            const double cx = base * std::cos(turned) - std::sin(turned) * (length - radius),
                         cy = base * std::sin(turned) + std::cos(turned) * (length - radius);
            const double towards = std::atan2(cy, cx);
            if (towards * g_.root_radius < least_land * m_) continue;
            g_.root_rounding = radius;
            g_.form_radius = std::hypot(base, length);
            if (g_.form_radius < g_.tip_radius + 1e-3 * m_) return fail(ToothTrouble::no_involute), false;
            g_.half_outline = {circle(g_.root_radius, 0, towards),
                               arc(cx, cy, radius, towards, turned + pi / 2, 1), flank(p, p)};
            return true;
        }
        return fail(ToothTrouble::no_involute), false;
    }

    void tip() {
        const double ra = g_.tip_radius, size = in_mm(g_.spec.tip_size), base = g_.base_radius;
        const double side = g_.spec.internal ? -1 : 1; // outwards of the material
        TransverseCurve& face = g_.half_outline.back();
        face.to = flank_parameter(ra);
        const double at_tip = point_at(face, face.to).angle();
        g_.tip_thickness = 2 * ra * (half_pitch_ - at_tip);
        if (g_.tip_thickness < 2 * least_land * m_) return fail(ToothTrouble::pointed_tip);
        double land = at_tip;
        if (g_.spec.tip_edge != TipEdge::sharp && size > 0) {
            if (side * (ra - side * size - g_.form_radius) < 1e-3 * m_) return fail(ToothTrouble::tip_edge);
            if (g_.spec.tip_edge == TipEdge::chamfered) {
                face.to = flank_parameter(ra - side * size);
                const TransversePoint p = point_at(face, face.to);
                land = p.angle() + size / ra;
                TransverseCurve line;
                line.shape = CurveShape::line;
                line.to = 1;
                line.x0 = p.x;
                line.y0 = p.y;
                line.x1 = ra * std::cos(land);
                line.y1 = ra * std::sin(land);
                g_.half_outline.push_back(line);
            } else {
                const double centre = ra - side * size;
                const double length = std::sqrt(std::max(0.0, centre * centre - base * base)) + side * size;
                face.to = side * length / base;
                if (face.to <= face.from || length < size) return fail(ToothTrouble::tip_edge);
                const double turned = origin_ + face.to, along = length - side * size;
                const double cx = base * std::cos(turned) + side * std::sin(turned) * along,
                             cy = base * std::sin(turned) - side * std::cos(turned) * along;
                land = std::atan2(cy, cx);
                g_.half_outline.push_back(side > 0 ? arc(cx, cy, size, turned - pi / 2, land, 1)
                                                   : arc(cx, cy, size, pi / 2 - turned, pi - land, -1));
            }
            if ((half_pitch_ - land) * ra < least_land * m_) return fail(ToothTrouble::tip_edge);
        }
        g_.half_outline.push_back(circle(ra, land, half_pitch_));
    }

    ResolvedGear& g_;
    double m_, cos_, alpha_, half_pitch_, origin_;
};

ResolvedValue length_of(const char* key, const char* label, double v, std::string source) {
    return {.key = key, .label = label, .kind = ValueKind::length, .value = v, .source = std::move(source)};
}
ResolvedValue number_of(const char* key, const char* label, double v, std::string source) {
    return {.key = key, .label = label, .kind = ValueKind::number, .value = v, .source = std::move(source)};
}
ResolvedValue angle_of(const char* key, const char* label, double v, std::string source) {
    return {.key = key, .label = label, .kind = ValueKind::angle, .value = v, .source = std::move(source)};
}
ResolvedValue text_of(const char* key, const char* label, std::string text, std::string source) {
    return {.key = key,
            .label = label,
            .kind = ValueKind::text,
            .text = std::move(text),
            .source = std::move(source)};
}

void list_values(ResolvedGear& g) {
    const GearSpec& s = g.spec;
    const double m = in_mm(s.module), beta = in_rad(s.helix_angle);
    const bool helical = beta != 0;
    auto& v = g.values;
    const auto status = preferred_module(s.module);
    v.push_back(length_of("module", "Module", m,
                          status.series > 0 ? standard::preferred_module_source() + ", series " +
                                                  std::string(static_cast<std::size_t>(status.series), 'I')
                                            : "not a preferred module of ISO 54"));
    v.push_back(number_of("teeth", "Teeth", s.teeth, "as asked"));
    v.push_back(angle_of("pressure_angle", "Pressure angle", in_rad(s.pressure_angle), "as asked, normal"));
    v.push_back(angle_of("helix_angle", "Helix angle", beta, "as asked, at the pitch circle"));
    if (helical) v.push_back(text_of("hand", "Hand", s.hand == Hand::left ? "left" : "right", "as asked"));
    v.push_back(number_of("profile_shift", "Profile shift", s.profile_shift, "as asked, × module"));
    v.push_back(text_of(
        "basic_rack", "Basic rack",
        s.rack.type.empty() ? number_text(s.rack.addendum, 3) + "/" + number_text(s.rack.dedendum, 3) + "/" +
                                  number_text(s.rack.root_radius, 3)
                            : s.rack.type,
        s.rack.type.empty() ? "addendum, dedendum, root radius × module" : standard::basic_rack_source()));
    v.push_back(length_of("pitch_diameter", "Pitch Ø", 2 * g.pitch_radius, "d = z·mn/cos β, ISO 21771"));
    v.push_back(length_of("base_diameter", "Base Ø", 2 * g.base_radius, "db = d·cos αt, ISO 21771"));
    v.push_back(length_of("tip_diameter", "Tip Ø", 2 * g.tip_radius,
                          s.internal ? "da = d − 2·mn·(ha* + x − k), ISO 21771"
                                     : "da = d + 2·mn·(ha* + x − k), ISO 21771"));
    v.push_back(
        length_of("root_diameter", "Root Ø", 2 * g.root_radius,
                  s.internal ? "df = d + 2·mn·(hf* − x), ISO 21771" : "df = d − 2·mn·(hf* − x), ISO 21771"));
    if (g.trouble == ToothTrouble::none)
        v.push_back(length_of("form_diameter", "Form Ø", 2 * g.form_radius,
                              s.internal   ? "where the root arc touches the involute"
                              : g.undercut ? "where the undercut meets the involute"
                                           : "where the trochoid touches the involute"));
    v.push_back(
        length_of("tooth_depth", "Tooth depth", std::abs(g.tip_radius - g.root_radius), "(da − df)/2"));
    v.push_back(length_of("circular_pitch", "Pitch", pi * g.transverse_module, "pt = π·mn/cos β"));
    v.push_back(length_of("base_pitch", "Base pitch",
                          pi * g.transverse_module * std::cos(g.transverse_pressure_angle),
                          "pbt = pt·cos αt"));
    v.push_back(length_of("tooth_thickness", "Tooth thickness", tooth_thickness(g, g.pitch_radius),
                          in_mm(s.thinning) > 0 ? "st = mn·(π/2 + 2x·tan αn)/cos β, less the thinning"
                                                : "st = mn·(π/2 + 2x·tan αn)/cos β"));
    if (g.tip_thickness > 0)
        v.push_back(length_of("tip_thickness", "Tip thickness", g.tip_thickness,
                              "sat = da·(st/d + inv αt − inv αat), ISO 21771"));
    v.push_back(length_of("root_rounding", "Root radius", g.root_rounding,
                          s.internal ? "arc that touches flank and root circle"
                          : g.root_rounding < s.rack.root_radius * m - 1e-9
                              ? "of the rack's tip, as far as it fits"
                              : "of the rack's tip, ρfP·mn"));
    if (helical) {
        v.push_back(
            length_of("transverse_module", "Transverse module", g.transverse_module, "mt = mn/cos β"));
        v.push_back(angle_of("transverse_pressure_angle", "Transverse angle", g.transverse_pressure_angle,
                             "tan αt = tan αn/cos β"));
        v.push_back(angle_of("base_helix_angle", "Base helix angle",
                             std::asin(std::sin(beta) * std::cos(in_rad(s.pressure_angle))),
                             "sin βb = sin β·cos αn"));
        v.push_back(length_of("lead", "Lead", 2 * pi * g.pitch_radius / std::tan(beta), "pz = π·d/tan β"));
    }
    if (!s.internal)
        v.push_back(number_of("least_profile_shift", "Least shift", g.least_profile_shift,
                              "that avoids undercut: (hf − ρ(1 − sin α))/m − z·sin²αt/(2 cos β)"));
    v.push_back(number_of("diametral_pitch", "Diametral pitch", 25.4 / m, "25.4/mn, per inch"));
    if (g.trouble != ToothTrouble::none) return;
    const int k = span_teeth(g);
    if (!s.internal || !helical) {
        v.push_back(number_of("span_teeth", s.internal ? "Spaces spanned" : "Teeth spanned", k,
                              "touches nearest to d + 2x·m"));
        v.push_back(length_of("span_measurement", "Span", span_measurement(g, k),
                              "Wk = mn·cos αn·((k − ½)π + z·inv αt + 2x·tan αn), ISO 21771"));
    }
    const double pin = usual_pin(g);
    v.push_back(length_of("pin_diameter", "Pin Ø", pin, "touches near d + 2x·m; to 0.05 mm"));
    const std::string seat = "inv αK = inv αt + DM/(z·mn·cos αn) − η, DIN 3960";
    if (!helical) {
        v.push_back(
            length_of("over_pins", s.internal ? "Between pins" : "Over pins", pin_measurement(g, pin), seat));
    } else if (s.internal) {
        v.push_back(length_of("over_pins", "Between balls", ball_measurement(g, pin), "two balls; " + seat));
    } else {
        v.push_back(
            length_of("over_pins", "Over pins", pin_measurement(g, pin),
                      (s.teeth % 2 == 0 ? "two pins: 2·rK + DM; " : "three pins: 2·rK + DM; ") + seat));
        v.push_back(length_of(
            "over_balls", "Over balls", ball_measurement(g, pin),
            (s.teeth % 2 == 0 ? "two balls: 2·rK + DM; " : "two balls: 2·rK·cos(π/2z) + DM; ") + seat));
    }
}

} // namespace

double involute(double a) {
    return std::tan(a) - a;
}

double inverse_involute(double value) {
    if (value <= 0) return 0;
    // tan a − a > a³/3: the cube root starts above the answer, from where Newton's steps fall to it
    double a = std::min(std::cbrt(3 * value), pi / 2 - 1 / (value + pi / 2));
    for (int i = 0; i < 60; ++i) {
        const double t = std::tan(a), step = (t - a - value) / (t * t);
        a -= step;
        if (std::abs(step) < 1e-15 * a) break;
    }
    return a;
}

double ResolvedGear::pitch_angle() const {
    return 2 * pi / spec.teeth;
}

double involute_half_space(const ResolvedGear& g, double radius) {
    const double u = std::sqrt(std::max(0.0, radius * radius / (g.base_radius * g.base_radius) - 1));
    const double gain = (u - std::atan(u)) - involute(g.transverse_pressure_angle);
    return g.space_half_angle + (g.spec.internal ? -gain : gain);
}

double space_half_angle_at(const ResolvedGear& g, double radius) {
    for (const TransverseCurve& c : g.half_outline) {
        if (c.shape == CurveShape::circle) continue;
        const double a = point_at(c, c.from).radius(), b = point_at(c, c.to).radius();
        if (radius >= std::min(a, b) - 1e-9 && radius <= std::max(a, b) + 1e-9)
            return point_at(c, parameter_at_radius(c, radius)).angle();
    }
    return involute_half_space(g, radius);
}

GearSpec mating_gear(const GearSpec& s, int teeth) {
    GearSpec t = s;
    t.teeth = teeth;
    t.internal = false;
    t.profile_shift = 0;
    t.tip_shortening = 0;
    if (!s.internal) t.hand = s.hand == Hand::left ? Hand::right : Hand::left;
    return t;
}

PreferredModuleStatus preferred_module(Length module) {
    PreferredModuleStatus out{0, mm(1)};
    double nearest = 1e300;
    for (const auto& p : standard::preferred_modules()) {
        if (std::abs(p.module / module - 1) < 1e-6) out.series = p.series;
        const double off = std::abs(std::log(p.module / module));
        if (p.series == 1 && off < nearest) nearest = off, out.nearest = p.module;
    }
    return out;
}

ResolvedGear resolve_gear(const GearSpec& s) {
    require_tooth_ranges(s);
    require_range(s.teeth, 5, 1000, "number of teeth", "");
    require_range(s.profile_shift, -2, 4, "profile shift", "");
    if (!s.internal) require_rack_land(s.rack, s.pressure_angle);
    const double m = in_mm(s.module), alpha = in_rad(s.pressure_angle), beta = in_rad(s.helix_angle);
    ResolvedGear g;
    g.spec = s;
    g.transverse_module = m / std::cos(beta);
    g.transverse_pressure_angle = std::atan(std::tan(alpha) / std::cos(beta));
    g.pitch_radius = s.teeth * g.transverse_module / 2;
    g.base_radius = g.pitch_radius * std::cos(g.transverse_pressure_angle);
    const double side = s.internal ? -1 : 1;
    g.tip_radius = g.pitch_radius + side * m * (s.rack.addendum + s.profile_shift - s.tip_shortening);
    g.root_radius = g.pitch_radius - side * m * (s.rack.dedendum - s.profile_shift);
    g.twist = (s.hand == Hand::left ? -1 : 1) * std::tan(beta) / g.pitch_radius;
    const double thickness =
        (m * (pi / 2 + 2 * s.profile_shift * std::tan(alpha)) - in_mm(s.thinning)) / std::cos(beta);
    g.space_half_angle = (pi * g.transverse_module - thickness) / 2 / g.pitch_radius;
    Outline(g).trace();
    const double rounding = s.internal ? 0 : g.root_rounding * (1 - std::sin(alpha));
    const double sin_t = std::sin(g.transverse_pressure_angle);
    g.least_profile_shift = (s.rack.dedendum * m - rounding - g.pitch_radius * sin_t * sin_t) / m;
    list_values(g);
    return g;
}

} // namespace whorl
