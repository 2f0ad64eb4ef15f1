#include "form/tooth/spline.hpp"

#include "form/tooth/measure.hpp"
#include "form/tooth/tooth_range.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

struct Proportions { // × module
    double tip, root, form, rounding;
};

// ISO 4156: over the pitch circle to the shaft's tip, to the root, hs, ρ.
Proportions iso_proportions(double degrees, SplineRoot root) {
    if (degrees > 40) return {0.4, 0.6, 0.5, 0.25};
    if (degrees > 33) return {0.45, 0.7, 0.55, 0.3};
    return root == SplineRoot::flat ? Proportions{0.5, 0.75, 0.6, 0.2} : Proportions{0.5, 0.9, 0.6, 0.4};
}

double din_dedendum(SplineRoot root) {
    return root == SplineRoot::broached ? 0.55 : root == SplineRoot::hobbed ? 0.6 : 0.65;
}

bool is_din(const SplineSpec& s) {
    return s.reference_diameter.has_value();
}

SplineRoot root_of(const SplineSpec& s) {
    if (is_din(s)) {
        if (!s.root) return s.hub ? SplineRoot::broached : SplineRoot::hobbed;
        if (*s.root == SplineRoot::flat || *s.root == SplineRoot::fillet)
            throw InputError(
                "By DIN 5480 a spline's root is broached, hobbed or shaped; flat and fillet are those "
                "of ISO 4156.");
        return *s.root;
    }
    const bool steep = in_deg(s.pressure_angle) > 31;
    if (!s.root) return steep ? SplineRoot::fillet : SplineRoot::flat;
    if (*s.root != SplineRoot::flat && *s.root != SplineRoot::fillet)
        throw InputError(
            "By ISO 4156 a spline's root is flat or a fillet; broached, hobbed and shaped are words of "
            "DIN 5480.");
    if (steep && *s.root == SplineRoot::flat)
        throw InputError("At 37.5° and 45° the root of ISO 4156 is a fillet; flat ones are of 30°.");
    return *s.root;
}

void require_asked(const SplineSpec& s) {
    require_range(in_mm(s.module), 0.2, 20, "module", " mm");
    require_range(s.teeth, 6, 200, "number of teeth", "");
    require_range(in_mm(s.thinning), 0, 0.2 * in_mm(s.module), "thinning of the teeth", " mm");
    const double a = in_deg(s.pressure_angle);
    const auto is = [a](double other) { return std::abs(a - other) < 1e-6; };
    if (is_din(s) && !is(30))
        throw InputError(
            "The pressure angle of DIN 5480 is 30°; clear the reference diameter for 37.5° or 45°, "
            "ISO 4156.");
    if (!is(30) && !is(37.5) && !is(45))
        throw InputError("The pressure angle is " + number_text(a, 3) +
                         "°; splines of ISO 4156 have 30°, 37.5° or 45°.");
}

// The grade and the deviation letter of a class; throws for what is none.
std::pair<int, char> class_of(const SplineSpec& s) {
    const std::string& text = s.tolerance_class;
    const char letter = text.empty() ? '\0' : text.back();
    int grade = 0;
    if (text.size() >= 2 && text.size() <= 3 && std::all_of(text.begin(), text.end() - 1, [](char c) {
            return std::isdigit(static_cast<unsigned char>(c));
        }))
        grade = std::stoi(text.substr(0, text.size() - 1));
    const bool letter_fits =
        s.hub ? letter == 'H' : std::string_view("defgh").find(letter) != std::string::npos;
    if (is_din(s)) {
        if (grade < 5 || grade > 12 || (s.hub ? !std::isupper(letter) : !std::islower(letter)))
            throw InputError("There is no class '" + text +
                                 "'; by DIN 5480 it is a grade with a letter, such as " +
                                 (s.hub ? "9H of a hub." : "8f of a shaft."),
                             0, text.size());
        return {grade, letter};
    }
    if (grade < 4 || grade > 7 || !letter_fits)
        throw InputError("There is no class '" + text + "'; by ISO 4156 " +
                             (s.hub ? "a hub has 4H, 5H, 6H or 7H."
                                    : "a shaft has 4 to 7 with d, e, f, g or h, such as "
                                      "5f."),
                         0, text.size());
    return {grade, letter};
}

double deviation_of(char letter, double d) { // ISO 286-1, mm
    switch (letter) {
    case 'd':
        return 16 * std::pow(d, 0.44) / 1000;
    case 'e':
        return 11 * std::pow(d, 0.41) / 1000;
    case 'f':
        return 5.5 * std::pow(d, 0.41) / 1000;
    case 'g':
        return 2.5 * std::pow(d, 0.34) / 1000;
    default:
        return 0;
    }
}

// ISO 4156-1, clause 9.
SplineLimits limits_of(const SplineSpec& s, double basic, double length) {
    const auto [grade, letter] = class_of(s);
    const double m = in_mm(s.module), d = m * s.teeth;
    const double of_diameter = std::array{10.0, 16.0, 25.0, 40.0}[static_cast<std::size_t>(grade - 4)];
    const double i1 = d <= 500 ? 0.45 * std::cbrt(d) + 0.001 * d : 0.004 * d + 2.1,
                 i2 = 0.45 * std::cbrt(basic) + 0.001 * basic, total = (of_diameter * (i1 + 4 * i2)) / 1000;
    struct Grade {
        double pitch, pitch0, profile, profile0, helix, helix0;
    };
    constexpr Grade grades[]{{2.5, 6.3, 1.6, 10, 0.8, 4},
                             {3.55, 9, 2.5, 16, 1, 5},
                             {5, 12.5, 4, 25, 1.25, 6.3},
                             {7.1, 18, 6.3, 40, 2, 10}};
    const Grade& g = grades[grade - 4];
    const double pitch = g.pitch * std::sqrt(pi * d / 2) + g.pitch0,
                 profile = g.profile * (m + 0.0125 * d) + g.profile0,
                 helix = g.helix * std::sqrt(length) + g.helix0;
    SplineLimits out;
    out.variation = 0.6 * std::hypot(pitch, profile, helix) / 1000;
    out.deviation = s.hub ? 0 : deviation_of(letter, d);
    const double side = s.hub ? 1 : -1;
    out.effective = basic - out.deviation;
    const double near = out.effective + side * out.variation, far = out.effective + side * total;
    out.least = std::min(near, far);
    out.most = std::max(near, far);
    return out;
}

// The shaft's form diameter that its hub's tip is set by, mm.
double iso_form_diameter(double m, double d, double alpha, double hs) {
    return 2 * std::hypot(d / 2 * std::cos(alpha), d / 2 * std::sin(alpha) - hs * m / std::sin(alpha));
}

double pins(const ResolvedSpline& s, double width, double pin) {
    GearSpec g = s.gear.spec;
    const double half = pi * in_mm(g.module) / 2,
                 shift = 2 * g.profile_shift * std::tan(in_rad(g.pressure_angle));
    // the tooth on the pitch circle that this width is or leaves
    const double tooth = g.internal ? 2 * half - width : width;
    g.thinning = mm(half + shift * in_mm(g.module) - tooth);
    return pin_measurement(resolve_gear(g), pin);
}

ResolvedValue text_value(const char* key, const char* label, std::string text, std::string source) {
    return {.key = key,
            .label = label,
            .kind = ValueKind::text,
            .text = std::move(text),
            .source = std::move(source)};
}

ResolvedValue between(const char* key, const char* label, double a, double b, std::string source) {
    ResolvedValue v{.key = key, .label = label};
    v.min = std::min(a, b);
    v.max = std::max(a, b);
    v.source = std::move(source);
    return v;
}

void list_values(ResolvedSpline& s) {
    const SplineSpec& spec = s.spec;
    const ResolvedGear& g = s.gear;
    const bool din = is_din(spec), hub = spec.hub;
    const double m = in_mm(spec.module);
    auto& v = s.values;
    const auto length = [&](const char* key, const char* label, double value, std::string source) {
        v.push_back(valued(key, label, ValueKind::length, value, std::move(source)));
    };
    const auto& modules = spline_modules(din);
    const bool listed =
        std::ranges::any_of(modules, [&](double known) { return std::abs(known - m) < 1e-6; });
    const std::string standard = din ? "DIN 5480-1" : "ISO 4156-1";
    length("module", "Module", m, listed ? standard : "not a module of " + standard);
    v.push_back(valued("teeth", "Teeth", ValueKind::number, spec.teeth, "as asked"));
    v.push_back(valued("pressure_angle", "Pressure angle", ValueKind::angle, in_rad(spec.pressure_angle),
                       din ? "of DIN 5480" : "as asked"));
    if (din) {
        length("reference_diameter", "Reference Ø", in_mm(*spec.reference_diameter), "dB, as asked");
        v.push_back(valued("profile_shift", "Profile shift", ValueKind::number, g.spec.profile_shift,
                           hub ? "x2 = −x1, DIN 5480-1" : "x1 = (dB/m − z − 1.1)/2, DIN 5480-1"));
    }
    length("pitch_diameter", "Pitch Ø", 2 * g.pitch_radius, "d = m·z");
    length("base_diameter", "Base Ø", 2 * g.base_radius, "db = m·z·cos α");
    const bool drawn_in = s.limits && s.limits->deviation > 0;
    const std::string less = drawn_in ? " − es/tan α" : "";
    const Proportions p = iso_proportions(in_deg(spec.pressure_angle), s.root);
    const auto z_plus = [&](double off) {
        return "m·(z " + std::string(off < 0 ? "− " : "+ ") + number_text(std::abs(off), 2) + ")";
    };
    length("tip_diameter", "Tip Ø", 2 * g.tip_radius,
           din   ? (hub ? "da2 = dB − 2·m, DIN 5480-1" : "da1 = dB − 0.2·m, DIN 5480-1")
           : hub ? "DII = DFE + 0.2·m, ISO 4156-1"
                 : "DEE = " + z_plus(2 * p.tip) + less + ", ISO 4156-1");
    length("root_diameter", "Root Ø", 2 * g.root_radius,
           din ? "df = m·z + 2·x1·m " + std::string(hub ? "+ " : "− ") +
                     number_text(2 * din_dedendum(s.root), 2) + "·m, DIN 5480-1"
           : hub ? "DEI = " + z_plus(2 * p.root) + ", ISO 4156-1"
                 : "DIE = " + z_plus(-2 * p.root) + less + ", ISO 4156-1");
    if (g.trouble == ToothTrouble::none)
        length("form_diameter", "Form Ø", 2 * g.form_radius, "where the involute ends at the root");
    const char* const width = hub ? "Space width" : "Tooth thickness";
    length("basic_width", width, s.width,
           din ? std::string(hub ? "e2" : "s1") + " = m·π/2 + 2·x1·m·tan α" : "m·π/2, basic");
    if (s.limits) {
        const SplineLimits& l = *s.limits;
        const std::string rule = ", ISO 4156-1, clause 9, by its formula";
        length("effective_width", hub ? "Effective space" : "Effective tooth", l.effective,
               (hub ? "Ev min = m·π/2" : "Sv max = m·π/2 − es") + rule);
        v.push_back(between(
            "actual_width", hub ? "Actual space" : "Actual tooth", l.least, l.most,
            (hub ? "E = Ev min + λ to Ev min + (T + λ)" : "S = Sv max − (T + λ) to Sv max − λ") + rule));
        length("effective_variation", "Variation λ", l.variation, "0.6·√(Fp² + Fα² + Fβ²)" + rule);
        if (!hub)
            length("fundamental_deviation", "Deviation es", l.deviation,
                   spec.tolerance_class.substr(1) + " on D, ISO 286-1, by its formula");
        length("made_width", "Made at", l.middle(), "the middle of the actual limits");
    } else if (!spec.tolerance_class.empty()) {
        v.push_back(text_value("class_limits", "Limits of the class", "not held here",
                               "tables of DIN 5480-1; the teeth are made at their basic size"));
    }
    if (in_mm(spec.thinning) > 0)
        length("thinning", "Thinning", in_mm(spec.thinning), "as asked, off each tooth beside its limits");
    length("circular_pitch", "Pitch", pi * m, "p = π·m");
    length("root_rounding", "Root radius", g.root_rounding,
           din ? "ρfP = 0.16·m, as far as it fits" : number_text(p.rounding, 2) + "·m, as far as it fits");
    if (g.trouble != ToothTrouble::none) return;
    const double pin = usual_pin(g);
    length("pin_diameter", "Pin Ø", pin, "touches near the pitch circle; to 0.05 mm");
    const std::string seat = "inv αK = inv α + DM/(m·z·cos α) − η, DIN 3960";
    const char* const over = hub ? "Between pins" : "Over pins";
    if (s.limits)
        v.push_back(
            between("over_pins", over, pins(s, s.limits->least, pin), pins(s, s.limits->most, pin), seat));
    else
        length("over_pins", over, pin_measurement(g, pin),
               in_mm(spec.thinning) > 0 ? seat + ", thinned" : seat);
}

} // namespace

std::string_view word(SplineRoot root) {
    constexpr std::string_view words[]{"flat", "fillet", "broached", "hobbed", "shaped"};
    return words[static_cast<std::size_t>(root)];
}

const std::vector<double>& spline_modules(bool din) {
    static const std::vector<double> of_din{0.5, 0.6, 0.75, 0.8, 1, 1.25, 1.5, 1.75,
                                            2,   2.5, 3,    4,   5, 6,    8,   10};
    static const std::vector<double> of_iso{0.25, 0.5, 0.75, 1, 1.25, 1.5, 1.75, 2, 2.5, 3, 4, 5, 6, 8, 10};
    return din ? of_din : of_iso;
}

std::optional<int> usual_spline_teeth(Length reference_diameter, Length module) {
    const double z = reference_diameter / module - 1.1; // without shift
    const int most = static_cast<int>(std::floor(z - 2 * least_spline_shift + 1e-9)),
              least = static_cast<int>(std::ceil(z - 2 * most_spline_shift - 1e-9));
    if (most < 6 || least > most) return {};
    for (int n = least; n <= most; ++n)
        if (n % 2 == 0 && n >= 6) return n;
    return std::max(least, 6);
}

SplineSpec counterpart(const SplineSpec& s) {
    SplineSpec out = s;
    out.hub = !s.hub;
    if (is_din(s)) out.root = {};
    if (!s.tolerance_class.empty()) {
        const std::string grade = s.tolerance_class.substr(0, s.tolerance_class.size() - 1);
        out.tolerance_class = is_din(s) ? (out.hub ? "9H" : "8f") : grade + (out.hub ? "H" : "h");
    }
    return out;
}

ResolvedSpline resolve_spline(const SplineSpec& s, Length length) {
    require_asked(s);
    ResolvedSpline out;
    out.spec = s;
    out.root = root_of(s);
    const double m = in_mm(s.module), d = m * s.teeth, alpha = in_rad(s.pressure_angle);
    GearSpec g;
    g.internal = s.hub;
    g.module = s.module;
    g.teeth = s.teeth;
    g.pressure_angle = s.pressure_angle;
    g.rack.type.clear();
    out.width = pi * m / 2;
    if (is_din(s)) {
        out.shift = (in_mm(*s.reference_diameter) / m - s.teeth - 1.1) / 2;
        require_range(out.shift, -1, 1, "profile shift that this reference diameter asks for", " modules");
        g.profile_shift = s.hub ? -out.shift : out.shift;
        g.rack.addendum = 0.45;
        g.rack.dedendum = din_dedendum(out.root);
        g.rack.root_radius = 0.16;
        out.width += 2 * out.shift * m * std::tan(alpha);
        if (!s.tolerance_class.empty()) (void)class_of(s);
    } else {
        const Proportions p = iso_proportions(in_deg(s.pressure_angle), out.root);
        g.rack.addendum = s.hub ? (d - iso_form_diameter(m, d, alpha, p.form)) / (2 * m) - 0.1 : p.tip;
        g.rack.dedendum = p.root;
        g.rack.root_radius = p.rounding;
        if (!s.tolerance_class.empty()) {
            out.limits = limits_of(s, out.width, in_mm(length));
            // es draws teeth and diameters in alike, the rest the teeth alone
            g.profile_shift = -out.limits->deviation / (2 * m * std::tan(alpha));
            g.thinning = mm(std::abs(out.limits->middle() - out.limits->effective));
        }
    }
    g.thinning = g.thinning + s.thinning;
    out.gear = resolve_gear(g);
    out.gear.values.clear();
    list_values(out);
    return out;
}

} // namespace whorl
