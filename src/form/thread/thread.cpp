#include "form/thread/thread.hpp"

#include "form/thread/tolerance_class.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "standard/iso_metric.hpp"
#include "standard/unified.hpp"

#include <cmath>
#include <numbers>

namespace whorl {
namespace {

using std::numbers::pi;

constexpr double flank_half_angle = pi / 6;
const double height_per_pitch = std::sqrt(3.0) / 2; // H / P

struct Limits {
    std::optional<double> min, max; // mm
    std::string source;
};

double rounded_to_micrometre(double v) {
    return std::round(v * 1000) / 1000;
}

struct Diameters {
    Limits major, pitch, minor;
    double basic_major, basic_pitch, basic_minor; // mm
    double basic_root;                            // of the modelled root at basic size, mm
    std::string basic_source;
    std::optional<double> allowance;
    std::string allowance_source;
};

Diameters metric_diameters(const ThreadSpec& s, Side side) {
    const MetricClass c = metric_class(s.tolerance_class);
    const double d = in_mm(s.diameter), p = in_mm(s.pitch), H = height_per_pitch * p;
    Diameters out;
    out.basic_major = d;
    const double exact_pitch = d - 0.75 * H;
    out.basic_pitch =
        rounded_to_micrometre(exact_pitch); // ISO 724 prints three decimals, and limits start from them
    out.basic_minor = rounded_to_micrometre(d - 1.25 * H);
    out.basic_source = "ISO 724, basic dimension";
    const auto pitch_deviation = standard::metric_deviation(c.pitch_position, s.pitch);
    const auto crest_deviation = standard::metric_deviation(c.crest_position, s.pitch);
    const std::string cls = s.tolerance_class + ", ";
    out.allowance = std::abs(in_mm(pitch_deviation.value));
    out.allowance_source = pitch_deviation.source;
    if (side == Side::external) {
        const auto td = standard::metric_major_tolerance(c.crest_grade, s.pitch);
        const auto td2 = standard::metric_pitch_tolerance_external(c.pitch_grade, s.diameter, s.pitch);
        out.major.max = d + in_mm(crest_deviation.value);
        out.major.min = *out.major.max - in_mm(td.value);
        out.major.source = cls + td.source;
        out.pitch.max = out.basic_pitch + in_mm(pitch_deviation.value);
        out.pitch.min = *out.pitch.max - in_mm(td2.value);
        out.pitch.source = cls + td2.source;
        const double high = exact_pitch + in_mm(pitch_deviation.value);
        out.minor.max = rounded_to_micrometre(high - 2 * H / 3);
        out.minor.min = rounded_to_micrometre(high - in_mm(td2.value) - 0.75 * H);
        out.minor.source = "ISO 965-1 clause 11, rounded root: d2 − 2H/3 and d2 − 3H/4";
        out.basic_root = out.basic_pitch - 2 * H / 3;
    } else {
        const auto td1 = standard::metric_minor_tolerance(c.crest_grade, s.pitch);
        const auto td2 = standard::metric_pitch_tolerance_internal(c.pitch_grade, s.diameter, s.pitch);
        out.major.min = d + in_mm(pitch_deviation.value);
        out.major.source = cls + pitch_deviation.source + "; no upper limit is set";
        out.pitch.min = out.basic_pitch + in_mm(pitch_deviation.value);
        out.pitch.max = *out.pitch.min + in_mm(td2.value);
        out.pitch.source = cls + td2.source;
        out.minor.min = out.basic_minor + in_mm(crest_deviation.value);
        out.minor.max = *out.minor.min + in_mm(td1.value);
        out.minor.source = cls + td1.source;
        out.basic_root = d;
    }
    return out;
}

Diameters unified_diameters(const ThreadSpec& s, Side side, const StandardStatus& status) {
    using namespace standard;
    const UnifiedClass c = unified_class(s.tolerance_class);
    const double p = in_inch(s.pitch), H = height_per_pitch * p, d = in_inch(s.diameter);
    const bool graded = status.series == "UNC" || status.series == "UNF";
    const Length engagement = unified_engagement(s.diameter, s.pitch, graded);
    const Length td2_2a = unified_pitch_tolerance_2a(s.diameter, engagement, s.pitch);
    const Length basic_pitch = rounded_to_ten_thousandth_inch(inch(d - 0.75 * H));
    const std::string cls = "ASME B1.1 clause 5.8, class " + s.tolerance_class;
    Diameters out;
    out.basic_major = in_mm(s.diameter);
    out.basic_pitch = in_mm(basic_pitch);
    out.basic_minor = in_mm(inch(d - 1.25 * H));
    out.basic_source = "ASME B1.1 clause 8, basic dimension";
    const double h_mm = in_mm(inch(H));
    if (side == Side::external) {
        const Length allowance = unified_allowance(c.grade, td2_2a);
        out.allowance = in_mm(allowance);
        out.allowance_source = cls + ": 0.3·Td2 of class 2A";
        out.major.max = in_mm(s.diameter - allowance);
        out.major.min = *out.major.max - in_mm(unified_major_tolerance(c.grade, s.pitch));
        out.major.source = cls + (c.grade == 1 ? ": 0.09·∛P²" : ": 0.06·∛P²");
        out.pitch.max = in_mm(basic_pitch - allowance);
        out.pitch.min = *out.pitch.max - in_mm(unified_pitch_tolerance(c.grade, true, td2_2a));
        out.pitch.source = cls + ": 0.0015·∛D + 0.0015·√LE + 0.015·∛P²";
        out.minor.max = *out.pitch.max - 0.625 * h_mm;
        out.minor.min = *out.pitch.min - 0.75 * h_mm;
        out.minor.source = "ASME B1.1, rounded root: d2 − 5H/8 and d2 − 3H/4";
        out.basic_root = out.basic_pitch - 0.625 * h_mm;
    } else {
        out.allowance = 0;
        out.allowance_source = "ASME B1.1: internal threads have no allowance";
        out.major.min = in_mm(s.diameter);
        out.major.source = cls + ": basic; no upper limit is set";
        out.pitch.min = in_mm(basic_pitch);
        out.pitch.max = *out.pitch.min + in_mm(unified_pitch_tolerance(c.grade, false, td2_2a));
        out.pitch.source = cls + ": class factor × Td2 of class 2A";
        out.minor.min = out.basic_minor;
        out.minor.max = *out.minor.min + in_mm(unified_minor_tolerance(c.grade, s.diameter, s.pitch));
        out.minor.source = cls + ", clause 5.8.1 (f)";
        out.basic_root = in_mm(s.diameter);
    }
    return out;
}

// The diameter of the solid, for a limit that has both ends.
double modelled(const Limits& l, double basic, ModelledAt at, bool more_material_is_larger) {
    if (at == ModelledAt::basic) return basic;
    const double low = l.min.value_or(basic), high = l.max.value_or(low);
    if (at == ModelledAt::middle) return (low + high) / 2;
    return (at == ModelledAt::maximum_material) == more_material_is_larger ? high : low;
}

StandardStatus status_of(const ThreadSpec& s) {
    StandardStatus out;
    const auto& series =
        s.family == ThreadFamily::unified ? standard::unified_series() : standard::iso_metric_series();
    if (const auto* listed = standard::find_listed(series, s.diameter, s.pitch)) {
        out.listed = true;
        out.series = listed->series;
        out.source = listed->source;
    } else {
        out.nearest = standard::nearest_listed(series, s.diameter, s.pitch);
    }
    return out;
}

void require_sensible(const ThreadSpec& s) {
    const auto outside = [](Length l, double low, double high) {
        return !(in_mm(l) >= low && in_mm(l) <= high);
    };
    if (outside(s.diameter, 0.1, 2000))
        throw InputError("A thread diameter of " + number_text(in_mm(s.diameter), 4) +
                         " mm can't be made; it must be between 0.1 and 2000 mm.");
    if (outside(s.pitch, 0.01, 500))
        throw InputError("A pitch of " + number_text(in_mm(s.pitch), 4) +
                         " mm can't be made; it must be between 0.01 and 500 mm.");
    if (s.starts < 1 || s.starts > 8)
        throw InputError("A thread has 1 to 8 starts, not " + std::to_string(s.starts) + ".");
    if (s.depth && outside(*s.depth, 1e-4, 1000))
        throw InputError("A thread depth must be between 0.0001 and 1000 mm.");
    if (s.root_flat && outside(*s.root_flat, 0, 500))
        throw InputError("A root flat must be between 0 and 500 mm.");
}

// Stands for a diameter that would be negative.
ResolvedValue no_diameter(std::string key, std::string label) {
    return {.key = std::move(key),
            .label = std::move(label),
            .kind = ValueKind::text,
            .text = "none",
            .source = "the groove would pass the axis"};
}

ResolvedValue length_value(std::string key, std::string label, double mm_value, std::string source) {
    if (mm_value < 0 && key.find("_diameter_basic") != std::string::npos)
        return no_diameter(std::move(key), std::move(label));
    ResolvedValue v{.key = std::move(key), .label = std::move(label), .source = std::move(source)};
    v.value = mm_value;
    return v;
}
ResolvedValue limits_value(std::string key, std::string label, const Limits& l) {
    if (l.max.value_or(*l.min) <= 0) return no_diameter(std::move(key), std::move(label));
    ResolvedValue v{.key = std::move(key), .label = std::move(label), .source = l.source};
    v.min = l.min;
    v.max = l.max;
    return v;
}
ResolvedValue text_value(std::string key, std::string label, std::string text, std::string source) {
    return {.key = std::move(key),
            .label = std::move(label),
            .kind = ValueKind::text,
            .text = std::move(text),
            .source = std::move(source)};
}

} // namespace

bool ThreadSection::sweepable() const {
    return crest_flat >= pitch / 1000 && root_flat >= pitch / 1000 && depth() > 0 && root_radius > 0;
}

double threads_per_inch(Length pitch) {
    return 1 / in_inch(pitch);
}

const char* word(Hand hand) {
    return hand == Hand::left ? "left" : "right";
}
const char* word(ThreadFamily f) {
    return f == ThreadFamily::unified ? "Unified" : "ISO metric";
}
const char* word(ModelledAt at) {
    switch (at) {
    case ModelledAt::basic:
        return "basic";
    case ModelledAt::maximum_material:
        return "maximum material";
    case ModelledAt::middle:
        return "middle of limits";
    case ModelledAt::minimum_material:
        return "minimum material";
    }
    return "";
}

ResolvedThread resolve_thread(const ThreadSpec& spec) {
    require_sensible(spec);
    ResolvedThread r;
    r.spec = spec;
    r.side = side_of_class(spec.family, spec.tolerance_class);
    r.status = status_of(spec);
    const bool external = r.side == Side::external;
    const Diameters d = spec.family == ThreadFamily::unified ? unified_diameters(spec, r.side, r.status)
                                                             : metric_diameters(spec, r.side);
    const double p = in_mm(spec.pitch);

    // The section, at the size it is modelled. For internal threads the crest is the minor diameter.
    ThreadSection& s = r.section;
    s.pitch = p;
    s.starts = spec.starts;
    s.hand = spec.hand;
    s.flank_half_angle = flank_half_angle;
    const double t = std::tan(flank_half_angle);
    s.pitch_radius = modelled(d.pitch, d.basic_pitch, spec.modelled_at, external) / 2;
    double crest, root;
    if (external) {
        crest = modelled(d.major, d.basic_major, spec.modelled_at, true) / 2;
        root = modelled(d.minor, d.basic_root, spec.modelled_at, true) / 2;
    } else {
        crest = modelled(d.minor, d.basic_minor, spec.modelled_at, false) / 2;
        root = (d.major.min.value_or(d.basic_major)) / 2;
    }
    const double sign = external ? 1 : -1;
    if (spec.depth) root = crest - sign * in_mm(*spec.depth);
    s.crest_radius = crest;
    s.root_radius = root;
    s.root_flat = p / 2 - 2 * sign * (s.pitch_radius - root) * t;
    if (spec.root_flat)
        s.root_flat = in_mm(*spec.root_flat);
    else if (s.root_flat < p / 100)
        s.root_flat = p / 100; // a deeper groove than the triangle keeps a narrow root and widens
    s.crest_flat = p - s.root_flat - 2 * std::abs(crest - root) * t;

    const double lead = spec.starts * p;
    // a pitch so coarse that the pitch line lies beyond the axis has no lead angle; a right angle stands for
    // it
    r.lead_angle = rad(d.basic_pitch > 0 ? std::atan(lead / (pi * d.basic_pitch)) : pi / 2);

    auto& v = r.values;
    const std::string standard_name = spec.family == ThreadFamily::unified ? "ASME B1.1" : "ISO 68-1";
    v.push_back(limits_value("major_diameter", "Major Ø", d.major));
    v.push_back(limits_value("pitch_diameter", "Pitch Ø", d.pitch));
    v.push_back(limits_value("minor_diameter", "Minor Ø", d.minor));
    v.push_back(
        length_value("pitch", "Pitch", p,
                     r.status.listed ? r.status.source : "as asked; not a listed pitch for this diameter"));
    v.push_back(length_value("lead", "Lead", lead, "starts × pitch"));
    ResolvedValue starts{.key = "starts", .label = "Starts", .kind = ValueKind::number, .source = "as asked"};
    starts.value = spec.starts;
    v.push_back(starts);
    v.push_back(text_value("hand", "Hand", word(spec.hand), "as asked; right unless LH is written"));
    auto depth = length_value("thread_depth", "Thread depth", std::abs(crest - root),
                              "modelled (major Ø − minor Ø) / 2");
    depth.overridden = spec.depth.has_value();
    v.push_back(depth);
    auto crest_flat =
        length_value("crest_flat", "Crest flat", s.crest_flat, "modelled: pitch − groove width");
    v.push_back(crest_flat);
    auto root_flat = length_value("root_flat", "Root flat", s.root_flat,
                                  "modelled: P/2 − 2·(pitch radius − root radius)·tan 30°");
    root_flat.overridden = spec.root_flat.has_value();
    if (root_flat.overridden) root_flat.source = "set by you";
    if (depth.overridden) v[v.size() - 2].source = "set by you";
    v.push_back(root_flat);
    ResolvedValue angle{.key = "flank_angle",
                        .label = "Flank angle",
                        .kind = ValueKind::angle,
                        .source = standard_name + ", basic profile"};
    angle.value = 2 * flank_half_angle;
    v.push_back(angle);
    ResolvedValue lead_angle{.key = "lead_angle",
                             .label = "Lead angle",
                             .kind = ValueKind::angle,
                             .source = "atan(lead / (π·d2))"};
    lead_angle.value = in_rad(r.lead_angle);
    v.push_back(lead_angle);
    v.push_back(length_value("major_diameter_basic", "Major Ø, basic", d.basic_major, d.basic_source));
    v.push_back(length_value("pitch_diameter_basic", "Pitch Ø, basic", d.basic_pitch, d.basic_source));
    v.push_back(length_value("minor_diameter_basic", "Minor Ø, basic", d.basic_minor, d.basic_source));
    v.push_back(length_value("allowance", "Allowance", *d.allowance, d.allowance_source));
    if (external) {
        const double H = height_per_pitch * p;
        // ISO 898-1 clause 9.1.6.1: As = π/4·((d2 + d3)/2)², d3 = d1 − H/6, basic sizes
        const double mean = (d.basic_pitch + d.basic_minor - H / 6) / 2;
        ResolvedValue area{.key = "stress_area",
                           .label = "Stress area",
                           .kind = ValueKind::area,
                           .source = "ISO 898-1: π/4·((d2 + d3)/2)²"};
        area.value = pi / 4 * mean * mean;
        v.push_back(area);
    } else {
        v.push_back(length_value("tap_drill", "Tap drill", d.basic_major - p, "rule of thumb: d − P"));
    }
    v.push_back(text_value("tolerance_class", "Class", spec.tolerance_class,
                           spec.family == ThreadFamily::unified ? "ASME B1.1" : "ISO 965-1"));
    v.push_back(text_value("modelled_at", "Modelled at", word(spec.modelled_at), "as asked"));
    v.push_back(text_value("series", "Series", r.status.listed ? r.status.series : "off-standard",
                           r.status.listed ? r.status.source : "not listed; computed from the form's rules"));
    return r;
}

} // namespace whorl
