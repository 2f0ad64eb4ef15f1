// What follows from a thread's specification, as the spec sheet lists it: each value with its source.
#include "form/thread/thread_values.hpp"

#include "form/thread/value_rows.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

using std::numbers::pi;

ResolvedValue plain_value(std::string key, std::string label, ValueKind kind, double value,
                          std::string source) {
    ResolvedValue v{
        .key = std::move(key), .label = std::move(label), .kind = kind, .source = std::move(source)};
    v.value = value;
    return v;
}

class Rows {
public:
    Rows(const ResolvedThread& r, const FamilyProfile& profile, std::vector<ResolvedValue>& out)
        : r_(r), spec(r.spec), d(profile), s(r.section), page(page_of(r.spec.family)), v(out) {}

    void sizes();
    void depth();
    void crest_and_root();
    void angles_and_taper();
    void basic_sizes();
    void stress_area();
    void over_wires();
    void tap_drill();
    void as_a_screw(); // that moves a load
    void words();

private:
    void angle_value(std::string key, std::string label, double radians, std::string source) {
        v.push_back(
            plain_value(std::move(key), std::move(label), ValueKind::angle, radians, std::move(source)));
    }
    void number_value(std::string key, std::string label, double number, std::string source) {
        v.push_back(
            plain_value(std::move(key), std::move(label), ValueKind::number, number, std::move(source)));
    }
    void limits_or_basic(const char* key, const char* label, const Limits& l, double basic) {
        if (l.min || l.max)
            v.push_back(limits_value(key, label, l));
        else
            v.push_back(length_value(key, label, basic, d.basic_source + "; no limits are kept here"));
    }

    const ResolvedThread& r_;
    const ThreadSpec& spec;
    const FamilyProfile& d;
    const ThreadSection& s;
    const FamilyPage& page;
    std::vector<ResolvedValue>& v;
    const double p = in_mm(spec.pitch);
    const bool external = r_.side == Side::external;
};

void Rows::sizes() {
    limits_or_basic("major_diameter", "Major Ø", d.major, d.basic_major);
    limits_or_basic("pitch_diameter", "Pitch Ø", d.pitch, d.basic_pitch);
    limits_or_basic("minor_diameter", "Minor Ø", d.minor, d.basic_minor);
    const std::string how_listed = r_.status.listed    ? r_.status.source
                                   : r_.status.nearest ? "as asked; not a listed pitch for this diameter"
                                                       : "as asked";
    v.push_back(length_value("pitch", "Pitch", p, how_listed));
    if (page.per_inch)
        number_value("threads_per_inch", "Threads per inch", threads_per_inch(spec.pitch), "1 in / pitch");
    v.push_back(length_value("lead", "Lead", spec.starts * p, "starts × pitch"));
    number_value("starts", "Starts", spec.starts, "as asked");
    v.push_back(text_value("hand", "Hand", word(spec.hand), "as asked; right unless LH is written"));
}

void Rows::depth() {
    auto depth = length_value("thread_depth", "Thread depth", std::abs(s.crest_radius - s.root_radius),
                              "modelled (major Ø − minor Ø) / 2");
    depth.overridden = spec.depth.has_value();
    if (depth.overridden) depth.source = "set by you";
    v.push_back(depth);
}

void Rows::crest_and_root() {
    const bool arcs =
        std::any_of(s.groove.begin(), s.groove.end(), [](const auto& g) { return g.arc_radius > 0; });
    const auto arc_at = [&](double radius) -> double {
        for (std::size_t i = 0; i + 1 < s.groove.size(); ++i)
            if (s.groove[i].arc_radius > 0 &&
                std::min(std::abs(s.groove[i].r - radius), std::abs(s.groove[i + 1].r - radius)) < 1e-4 * p)
                return s.groove[i].arc_radius;
        return 0;
    };
    if (const double r_crest = arcs ? arc_at(s.crest_radius) : 0; r_crest > 0)
        v.push_back(length_value("crest_rounding", "Crest radius", r_crest, d.standard + ", modelled"));
    if (s.crest_flat > 1.001e-3 * p || s.groove.empty())
        v.push_back(length_value("crest_flat", "Crest flat", s.crest_flat, "modelled: pitch − groove width"));
    if (const double r_root = arcs ? arc_at(s.root_radius) : 0; r_root > 0)
        v.push_back(length_value("root_rounding", "Root radius", r_root, d.standard + ", modelled"));
    if (s.root_flat > 0 || s.groove.empty() || spec.root_flat) {
        auto root_flat =
            length_value("root_flat", "Root flat", s.root_flat,
                         "modelled: P/2 − 2·(pitch radius − root radius)·tan of half the flank angle");
        root_flat.overridden = spec.root_flat.has_value();
        if (root_flat.overridden) root_flat.source = "set by you";
        v.push_back(root_flat);
    }
}

void Rows::angles_and_taper() {
    angle_value("flank_angle", "Flank angle", d.lower_angle + d.upper_angle,
                spec.flank_angle ? "as asked" : d.standard + ", basic profile");
    if (std::abs(d.lower_angle - d.upper_angle) > 1e-9)
        angle_value("load_flank_angle", "Load flank", std::min(d.lower_angle, d.upper_angle),
                    d.standard + ", to the plane square to the axis");
    angle_value("lead_angle", "Lead angle", in_rad(r_.lead_angle), "atan(lead / (π·d2))");
    if (d.taper != 0) {
        v.push_back(text_value("taper", "Taper", taper_text(d.taper),
                               (spec.taper ? std::string("as asked") : d.standard) + ", on the diameter"));
        angle_value("cone_angle", "Cone angle", 2 * std::atan(std::abs(d.taper)), "2·atan(taper / 2)");
    }
    if (d.taper != 0 && spec.taper)
        v.push_back(text_value("gauge_distance", "Gauge plane", external ? "wide end" : "mouth",
                               "the diameters hold there"));
    else if (d.taper != 0)
        v.push_back(length_value("gauge_distance", "Gauge plane", d.gauge_distance,
                                 external ? "from the small end; the diameters hold there"
                                          : "at the mouth; the diameters hold there"));
}

void Rows::basic_sizes() {
    v.push_back(length_value("major_diameter_basic", "Major Ø, basic", d.basic_major, d.basic_source));
    v.push_back(length_value("pitch_diameter_basic", "Pitch Ø, basic", d.basic_pitch, d.basic_source));
    v.push_back(length_value("minor_diameter_basic", "Minor Ø, basic", d.basic_minor, d.basic_source));
    if (d.allowance) v.push_back(length_value("allowance", "Allowance", *d.allowance, d.allowance_source));
    if (in_mm(spec.allowance) != 0)
        v.push_back(length_value("printing_allowance", "Printing allowance", in_mm(spec.allowance),
                                 "set by you; taken off crest, flanks and root"));
}

void Rows::stress_area() {
    if (external && page.use != ThreadUse::pipe && d.basic_pitch > 0 &&
        d.basic_minor > 0) { // a pipe is no solid bar
        ResolvedValue area{.key = "stress_area", .label = "Stress area", .kind = ValueKind::area};
        const double across = d.stress_diameter.value_or((d.basic_pitch + d.basic_minor) / 2);
        area.value = pi / 4 * across * across;
        area.source = d.stress_diameter ? d.stress_source : "π/4·((d2 + d3)/2)²";
        v.push_back(area);
    }
}

void Rows::over_wires() {
    if (external && d.lower_angle == d.upper_angle && d.lower_angle > 0.1 && d.taper == 0 &&
        d.basic_pitch > 0) {
        // the wire that touches the flanks at the pitch line
        const double half = d.lower_angle, wire = p / 2 / std::cos(half);
        // the lead makes the wires lie askew and further out: ½·w·tan²φ·cos α·cot α
        const double lead_slope = p * spec.starts / (pi * d.basic_pitch);
        const double askew = wire / 2 * lead_slope * lead_slope * std::cos(half) / std::tan(half);
        const double add = wire * (1 + 1 / std::sin(half)) - p / 2 / std::tan(half) + askew;
        v.push_back(length_value("best_wire", "Best wire Ø", wire, "P / (2·cos of half the flank angle)"));
        Limits over{
            d.pitch.min.value_or(d.basic_pitch) + add, d.pitch.max.value_or(d.basic_pitch) + add,
            "three best wires: d2 + W·(1 + 1/sin α) − P/2·cot α + W/2·tan²φ·cos α·cot α, α half the "
            "flank angle, φ lead angle" +
                (askew > 0.01 ? ", of which " + number_text(askew, 3) + " mm for the lead" : std::string())};
        v.push_back(limits_value("over_wires", "Over wires", over));
    }
}

void Rows::tap_drill() {
    if (external || d.taper != 0) return;
    const bool middle = d.minor.min && d.minor.max;
    v.push_back(length_value("tap_drill", "Tap drill",
                             d.tap_drill ? *d.tap_drill
                             : middle    ? (*d.minor.min + *d.minor.max) / 2
                                         : d.basic_minor,
                             d.tap_drill ? d.tap_drill_source
                             : middle    ? "middle of the minor Ø limits"
                                         : "basic minor Ø"));
}

void Rows::as_a_screw() {
    // friction µ on the flanks: Roloff/Matek, chapter on motion screws
    const double mu = 0.1, load = std::min(d.lower_angle, d.upper_angle);
    const double friction = std::atan(mu / std::cos(load)), rise = in_rad(r_.lead_angle);
    number_value("efficiency", "Efficiency", std::tan(rise) / std::tan(rise + friction),
                 "tan φ / tan(φ + ρ), ρ = atan(µ/cos α), µ = 0.1");
    // per kilonewton of load, without a collar: T = F·d2/2·tan(φ ± ρ)
    number_value("torque_to_lift", "Torque to lift, N·m/kN", d.basic_pitch / 2 * std::tan(rise + friction),
                 "F·d2/2·tan(φ + ρ), µ = 0.1, without collar friction");
    number_value("torque_to_lower", "Torque to lower, N·m/kN", d.basic_pitch / 2 * std::tan(friction - rise),
                 "F·d2/2·tan(ρ − φ), µ = 0.1; negative: it runs down by itself");
    v.push_back(text_value("self_locking", "Self-locking", rise < friction ? "yes" : "no",
                           "lead angle below ρ = atan(µ/cos α), µ = 0.1"));
}

void Rows::words() {
    v.push_back(text_value("tolerance_class", "Class",
                           spec.tolerance_class.empty() ? "none" : spec.tolerance_class,
                           page.class_source.empty() ? d.standard : page.class_source));
    v.push_back(text_value("modelled_at", "Modelled at", modelled_text(spec),
                           d.pitch.min || d.major.min ? "as asked"
                                                      : "no limits are kept for this family: basic size"));
    v.push_back(
        text_value("series", "Series",
                   r_.status.listed    ? r_.status.series
                   : r_.status.nearest ? "off-standard"
                                       : "none",
                   r_.status.listed ? r_.status.source : "not listed; computed from the form's rules"));
}

} // namespace

std::vector<ResolvedValue> thread_values(const ResolvedThread& r, const FamilyProfile& d) {
    std::vector<ResolvedValue> v;
    const FamilyPage& page = page_of(r.spec.family);
    Rows rows(r, d, v);
    rows.sizes();
    rows.depth();
    rows.crest_and_root();
    rows.angles_and_taper();
    rows.basic_sizes();
    rows.stress_area();
    rows.over_wires();
    if (d.taper != 0 && !r.spec.taper && page.taper_values) page.taper_values(v, r.spec, d);
    rows.tap_drill();
    if (page.use == ThreadUse::motion) rows.as_a_screw();
    rows.words();
    return v;
}

} // namespace whorl
