#include "form/thread/family.hpp"

#include "form/thread/tolerance_class.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "standard/iso_metric.hpp"
#include "standard/thread_series.hpp"
#include "standard/unified.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

const double height_per_pitch = std::sqrt(3.0) / 2; // H / P of a 60° thread

double rounded_to_micrometre(double v) {
    return std::round(v * 1000) / 1000;
}

double degrees(double d) {
    return in_rad(deg(d));
}

FamilyProfile sixty_degrees(const ThreadSpec& s, const char* standard) {
    FamilyProfile out;
    out.standard = standard;
    out.lower_angle = out.upper_angle = degrees(30);
    out.pitch_line_groove = in_mm(s.pitch) / 2;
    out.round_root = s.rounded_root && s.side == Side::external;
    return out;
}

FamilyProfile metric(const ThreadSpec& s) {
    const Side side = s.side;
    const MetricClass c = metric_class(s.tolerance_class);
    const double d = in_mm(s.diameter), p = in_mm(s.pitch), H = height_per_pitch * p;
    FamilyProfile out = sixty_degrees(s, "ISO 68-1");
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

FamilyProfile unified(const ThreadSpec& s, const StandardStatus& status) {
    const Side side = s.side;
    using namespace standard;
    const UnifiedClass c = unified_class(s.tolerance_class);
    const double p = in_inch(s.pitch), H = height_per_pitch * p, d = in_inch(s.diameter);
    const bool graded = status.series == "UNC" || status.series == "UNF";
    const Length engagement = unified_engagement(s.diameter, s.pitch, graded);
    const Length td2_2a = unified_pitch_tolerance_2a(s.diameter, engagement, s.pitch);
    const Length basic_pitch = rounded_to_ten_thousandth_inch(inch(d - 0.75 * H));
    const std::string cls = "ASME B1.1 clause 5.8, class " + s.tolerance_class;
    FamilyProfile out = sixty_degrees(s, "ASME B1.1");
    out.basic_major = in_mm(s.diameter);
    out.basic_pitch = in_mm(basic_pitch);
    out.basic_minor = in_mm(inch(d - 1.25 * H));
    out.basic_source = "ASME B1.1 clause 8, basic dimension";
    const double h_mm = in_mm(inch(H));
    if (side == Side::external) {
        const auto printed = c.grade == 2 ? unified_printed_2a(s.diameter, s.pitch) : std::nullopt;
        const Length allowance = printed ? printed->allowance : unified_allowance(c.grade, td2_2a);
        out.allowance = in_mm(allowance);
        out.allowance_source = cls + ": 0.3·Td2 of class 2A";
        out.major.max = in_mm(s.diameter - allowance);
        out.major.min = *out.major.max - in_mm(unified_major_tolerance(c.grade, s.pitch));
        out.major.source = cls + (c.grade == 1 ? ": 0.09·∛P²" : ": 0.06·∛P²");
        out.pitch.max = in_mm(basic_pitch - allowance);
        out.pitch.min = *out.pitch.max -
                        in_mm(printed ? printed->tolerance : unified_pitch_tolerance(c.grade, true, td2_2a));
        out.pitch.source = printed ? "ASME B1.1 table 2, class 2A, as printed"
                                   : cls + ": 0.0015·∛D + 0.0015·√LE + 0.015·∛P²";
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
        // printed to three places from #6 on, the upper limit of class 3B to four
        const auto rounded = [&](Length l, bool fine) {
            return in_mm(fine || d < 0.1379 ? rounded_to_ten_thousandth_inch(l)
                                            : rounded_to_thousandth_inch(l));
        };
        const Length least = mm(out.basic_minor);
        out.minor.min = rounded(least, false);
        out.minor.max = rounded(least + unified_minor_tolerance(c.grade, s.diameter, s.pitch), c.grade == 3);
        out.minor.source = cls + ", clause 5.8.1 (f)";
        out.basic_root = in_mm(s.diameter);
    }
    return out;
}

// A profile symmetric about the pitch line without its own tolerances: major, pitch and minor diameters.
FamilyProfile plain_profile(const ThreadSpec& s, const char* standard, double half_angle, double major,
                            double pitch_diameter, double minor) {
    FamilyProfile out;
    out.standard = standard;
    out.lower_angle = out.upper_angle = half_angle;
    out.pitch_line_groove = in_mm(s.pitch) / 2;
    out.basic_major = major;
    out.basic_pitch = pitch_diameter;
    out.basic_minor = minor;
    out.basic_root = s.side == Side::external ? minor : major;
    out.basic_source = std::string(standard) + ", basic dimension";
    return out;
}

// 55°, H = 0.960491·P truncated H/6, depth 0.640327·P, crest and root rounded with 0.137329·P.
FamilyProfile whitworth_form(const ThreadSpec& s, const char* standard) {
    const double d = in_mm(s.diameter), h = 0.640327 * in_mm(s.pitch);
    FamilyProfile out = plain_profile(s, standard, degrees(27.5), d, d - h, d - 2 * h);
    out.round_crest = out.round_root = true;
    return out;
}

// ISO 7-1 and ISO 228-1 print micrometres, and take the diameters from the printed depth.
FamilyProfile pipe_form(const ThreadSpec& s, const char* standard) {
    FamilyProfile out = whitworth_form(s, standard);
    const double h = rounded_to_micrometre(0.640327 * in_mm(s.pitch));
    out.basic_pitch = rounded_to_micrometre(out.basic_major - h);
    out.basic_minor = rounded_to_micrometre(out.basic_major - 2 * h);
    out.basic_root = s.side == Side::external ? out.basic_minor : out.basic_major;
    return out;
}

FamilyProfile whitworth(const ThreadSpec& s) {
    const char* standard = "BS 84";
    FamilyProfile out = whitworth_form(s, standard);
    const double factor = s.tolerance_class == "close"    ? 2.0 / 3
                          : s.tolerance_class == "medium" ? 1
                          : s.tolerance_class == "free"   ? 1.5
                                                          : 0;
    if (factor == 0)
        throw InputError(in_quotes(s.tolerance_class) + " is not a fit of BS 84: close, medium or free.", 0,
                         s.tolerance_class.size());
    const double D = in_inch(s.diameter), p = in_inch(s.pitch);
    const double T =
        in_mm(inch(factor * (0.002 * std::cbrt(D) + 0.003 * std::sqrt(D) + 0.005 * std::sqrt(p))));
    const std::string rule =
        "BS 84, " + s.tolerance_class + " fit: T = k·(0.002·∛D + 0.003·√L + 0.005·√p) in, L = D";
    if (s.side == Side::external) {
        out.pitch = {out.basic_pitch - T, out.basic_pitch, rule};
        const double t = T + in_mm(inch(0.01 * std::sqrt(p)));
        out.major = {out.basic_major - t, out.basic_major, rule + "; major T + 0.01·√p"};
        out.minor = {out.basic_minor - T - in_mm(inch(0.013 * std::sqrt(p))), out.basic_minor,
                     rule + "; minor T + 0.013·√p"};
    } else {
        out.pitch = {out.basic_pitch, out.basic_pitch + T, rule};
        const double tpi = threads_per_inch(s.pitch), more = tpi < 21 ? 0.007 : tpi < 25 ? 0.005 : 0.004;
        out.minor = {out.basic_minor, out.basic_minor + in_mm(inch(0.2 * p + more)),
                     "BS 84 rule: 0.2·p + " + number_text(more, 3) + " in, all fits"};
        out.major = {out.basic_major, {}, "BS 84: basic; no upper limit is set"};
    }
    out.allowance = 0;
    out.allowance_source = "BS 84: no allowance on unplated threads";
    return out;
}

FamilyProfile pipe_g(const ThreadSpec& s, const StandardStatus& status) {
    FamilyProfile out = pipe_form(s, "ISO 228-1");
    const bool external = s.side == Side::external;
    if (external ? s.tolerance_class != "A" && s.tolerance_class != "B" : !s.tolerance_class.empty())
        throw InputError(
            in_quotes(s.tolerance_class) +
                " is not a class of ISO 228-1: A or B for external threads, none for internal ones.",
            0, s.tolerance_class.size());
    out.allowance = 0;
    out.allowance_source = "ISO 228-1: the upper limit is basic";
    const standard::PipeSize* size = nullptr;
    for (const auto& p : standard::pipe_sizes("G"))
        if (status.listed && std::abs(in_mm(p.listed.diameter - s.diameter)) < 1e-6) size = &p;
    if (!size) return out;
    const std::string source = size->listed.source;
    const double k = s.tolerance_class == "B" ? 2 : 1, t2 = k * in_mm(*size->pitch_tolerance);
    if (external) {
        out.major = {out.basic_major - in_mm(*size->major_tolerance), out.basic_major, source};
        out.pitch = {out.basic_pitch - t2, out.basic_pitch, source + ", class " + s.tolerance_class};
    } else {
        out.major = {out.basic_major, {}, source + "; no upper limit is set"};
        out.pitch = {out.basic_pitch, out.basic_pitch + t2, source};
        out.minor = {out.basic_minor, out.basic_minor + in_mm(*size->minor_tolerance), source};
    }
    return out;
}

FamilyProfile pipe_r(const ThreadSpec& s) {
    FamilyProfile out = pipe_form(s, "ISO 7-1");
    const std::string& c = s.tolerance_class;
    if (s.side == Side::external ? c != "R" : c != "Rc" && c != "Rp")
        throw InputError(in_quotes(c) +
                             " is not a thread of ISO 7-1: R outside, Rc (tapered) or Rp (parallel) inside.",
                         0, c.size());
    out.basic_source = "ISO 7-1, in the gauge plane";
    if (c == "Rp") return out;
    out.taper = 1.0 / 32;
    if (s.side == Side::external) {
        out.gauge_distance = in_mm(s.pitch) * 4; // about, where the size is not listed
        for (const auto& p : standard::pipe_sizes("R"))
            if (std::abs(in_mm(p.listed.diameter - s.diameter)) < 1e-6)
                out.gauge_distance = in_mm(*p.gauge_length);
    }
    return out;
}

void refuse_pipe_class(const ThreadSpec& s) {
    if (!s.tolerance_class.empty())
        throw InputError("A thread of ASME B1.20.1 has no class; leave " + in_quotes(s.tolerance_class) +
                             " away.",
                         0, s.tolerance_class.size());
}

// E0 = D − (0.05·D + 1.1)·p, E1 = E0 + L1/16; depth 0.8·p; flats from truncating the sharp triangle.
FamilyProfile american_taper_pipe(const ThreadSpec& s) {
    refuse_pipe_class(s);
    const AmericanPipe pipe = american_pipe(s);
    // held at the small end outside, at the mouth (hand-tight plane) inside
    const double e = s.side == Side::external ? pipe.e0 : pipe.e1, h = 0.8 * in_inch(s.pitch);
    FamilyProfile out =
        plain_profile(s, "ASME B1.20.1", degrees(30), in_mm(inch(e + h)), in_mm(inch(e)), in_mm(inch(e - h)));
    out.basic_source = s.side == Side::external ? "ASME B1.20.1: E0 = D − (0.05·D + 1.1)·p, at the small end"
                                                : "ASME B1.20.1: E1 = E0 + L1/16, at the mouth";
    out.taper = 1.0 / 32;
    return out;
}

// Free-fitting parallel threads: the Unified form on the pitch diameter E1. Sizes whose limits are not kept
// here have them by the rules of classes 2A and 2B.
FamilyProfile american_parallel_pipe(const ThreadSpec& s, const StandardStatus& status) {
    using namespace standard;
    refuse_pipe_class(s);
    const Length pitch_diameter = rounded_to_ten_thousandth_inch(inch(american_pipe(s).e1));
    const double H = height_per_pitch * in_mm(s.pitch), e = in_mm(pitch_diameter);
    FamilyProfile out = sixty_degrees(s, "ASME B1.20.1");
    out.basic_pitch = e;
    out.basic_major = e + 0.75 * H;
    out.basic_minor = e - 0.5 * H;
    out.basic_source = "ASME B1.20.1: E1 = E0 + L1/16, with the Unified heights";
    const PipeSize* size = nullptr;
    for (const auto& p : pipe_sizes("NPSM"))
        if (status.listed && p.allowance && std::abs(in_mm(p.listed.diameter - s.diameter)) < 1e-6) size = &p;
    const Length td2 = unified_pitch_tolerance_2a(s.diameter, s.pitch * 9, s.pitch);
    const std::string source = size ? size->listed.source
                                    : "rule of classes 2A and 2B of ASME B1.1 with 9·p of engagement; the "
                                      "printed limits of this size are not kept here";
    const auto thousandth = [](double l) { return in_mm(rounded_to_thousandth_inch(mm(l))); };
    if (s.side == Side::external) {
        out.allowance = in_mm(size ? *size->allowance : unified_allowance(2, td2));
        out.allowance_source = source;
        out.pitch.max = e - *out.allowance;
        out.pitch.min =
            *out.pitch.max - in_mm(size ? *size->pitch_tolerance : unified_pitch_tolerance(2, true, td2));
        out.major.max = thousandth(*out.pitch.max + 0.75 * H);
        out.major.min =
            *out.major.max - in_mm(size ? *size->major_tolerance
                                        : rounded_to_thousandth_inch(unified_major_tolerance(2, s.pitch)));
        out.pitch.source = out.major.source = source;
        out.basic_root = e - 0.625 * H;
    } else {
        out.allowance = 0;
        out.allowance_source = "ASME B1.20.1: internal threads have no allowance";
        out.pitch = {e, e + in_mm(size ? *size->nut_tolerance : unified_pitch_tolerance(2, false, td2)),
                     source};
        out.minor.min = thousandth(out.basic_minor);
        if (size) out.minor.max = *out.minor.min + in_mm(*size->minor_tolerance);
        out.minor.source = size ? source : source + "; no upper limit";
        out.major = {out.basic_major, {}, "ASME B1.20.1: basic; no upper limit is set"};
        out.basic_root = out.basic_major;
    }
    return out;
}

// ISO 2901 to 2904: H1 = P/2, crest clearance by pitch, flanks 15°; limits by the rules of ISO 2903.
FamilyProfile trapezoidal(const ThreadSpec& s) {
    const double d = in_mm(s.diameter), p = in_mm(s.pitch);
    const double clearance = p < 2 ? 0.15 : p < 5.5 ? 0.25 : p < 13 ? 0.5 : 1;
    FamilyProfile out = plain_profile(s, "ISO 2901", degrees(15), d, d - p / 2, d - p);
    const bool external = s.side == Side::external;
    out.basic_root = external ? d - p - 2 * clearance : d + 2 * clearance;
    out.basic_minor = external ? d - p - 2 * clearance : d - p;
    out.basic_source = external ? "ISO 2904: d3 = d − P − 2·ac" : "ISO 2904: D1 = d − P";
    out.root_rounding = clearance;
    out.crest_rounding = external ? clearance / 2 : 0;
    if (!external) out.basic_major = d + 2 * clearance;
    const std::string& c = s.tolerance_class;
    const auto refuse = [&] {
        throw InputError(in_quotes(c) +
                             " is not a class of ISO 2903: 6 to 9 with c, e or h for screws, with H for nuts "
                             "(7e, 8c, 7H).",
                         0, c.size());
    };
    if (c.size() != 2 || c[0] < '6' || c[0] > '9') refuse();
    const char position = c[1];
    if (external ? position != 'c' && position != 'e' && position != 'h' : position != 'H') refuse();
    const int grade = c[0] - '0';
    const Length step = standard::metric_step_diameter(s.diameter);
    // pitch tolerances of several starts are wider: ISO 2903, clause 7
    constexpr double starts_factor[]{1, 1.12, 1.25, 1.4, 1.6};
    const double wider = starts_factor[std::clamp(s.starts, 1, 5) - 1];
    const double td2 =
        standard::trapezoidal_preferred(in_mm(standard::metric_rule::pitch_external(grade, step, s.pitch))) *
        wider;
    const std::string several = s.starts > 1 ? " × " + number_text(wider, 2) + " for the starts" : "";
    const auto table = standard::trapezoidal_limits(s.pitch);
    const std::string rule = "ISO 2903 rule, class " + c,
                      printed = table ? "ISO 2903 table, class " + c : rule;
    const double shift = position == 'c'   ? -(table ? table->es_c : 95 + 11 * p) / 1000
                         : position == 'e' ? -(table ? table->es_e : 50 + 11 * p) / 1000
                                           : 0;
    out.allowance = std::abs(shift);
    out.allowance_source = table             ? printed
                           : position == 'c' ? rule + ": 95 + 11·P µm"
                           : position == 'e' ? rule + ": 50 + 11·P µm"
                                             : rule;
    const auto um = rounded_to_micrometre;
    if (external) {
        const double td = table ? table->td / 1000 : in_mm(standard::metric_rule::major(4, s.pitch));
        out.major = {um(d - td), d, table ? printed : rule + ": 0.63·(180·∛P² − 3.15/√P) µm"};
        out.pitch = {um(out.basic_pitch + shift - td2), um(out.basic_pitch + shift),
                     rule + ": k·90·P^0.4·d^0.1 µm, to preferred numbers" + several};
        out.minor = {um(out.basic_root - 1.25 * td2 - std::abs(shift)), out.basic_root,
                     rule + ": 1.25·Td2 + |es|"};
    } else {
        const double td1 = table ? table->td1 / 1000 : in_mm(standard::metric_rule::minor(4, s.pitch));
        const double nut2 = standard::trapezoidal_preferred(1.32 * td2 / wider) * wider;
        out.major = {out.basic_major, {}, "ISO 2904: D4 = d + 2·ac; no upper limit is set"};
        out.pitch = {out.basic_pitch, um(out.basic_pitch + nut2),
                     rule + ": 1.32·Td2, to preferred numbers" + several};
        out.minor = {out.basic_minor, um(out.basic_minor + td1),
                     table ? printed : rule + ": 0.63·230·P^0.7 µm"};
    }
    return out;
}

// 29°. Acme: depth p/2 and clearance 0.01 in (0.005 in above 10 threads per inch); stub Acme: depth 0.3·p.
FamilyProfile acme(const ThreadSpec& s) {
    const bool stub = s.family == ThreadFamily::stub_acme, external = s.side == Side::external;
    const char* standard = stub ? "ASME B1.8" : "ASME B1.5";
    const double D = in_inch(s.diameter), p = in_inch(s.pitch), depth = (stub ? 0.3 : 0.5) * p;
    const double gap = 1 / p > 10.0001 ? 0.010 : 0.020; // on the diameter
    const auto to_mm = [](double in) { return in_mm(inch(in)); };
    FamilyProfile out =
        plain_profile(s, standard, degrees(14.5), to_mm(D), to_mm(D - depth), to_mm(D - 2 * depth));
    if (external) {
        out.basic_root = out.basic_minor = to_mm(D - 2 * depth - gap);
        out.basic_source = std::string(standard) + ": minor Ø D − 2·h − clearance";
    } else {
        out.basic_root = out.basic_major = to_mm(D + gap);
        out.basic_source = std::string(standard) + ": major Ø D + clearance";
    }
    const std::string& c = s.tolerance_class;
    if (c != "2G" && c != "3G" && c != "4G")
        throw InputError(in_quotes(c) + " is not a class of " + std::string(standard) + ": 2G, 3G or 4G.", 0,
                         c.size());
    const double root_d = std::sqrt(D), root_p = std::sqrt(p);
    const double allowance = (c == "2G" ? 0.008 : c == "3G" ? 0.006 : 0.004) * root_d;
    const double t2 = c == "2G"   ? 0.030 * root_p + 0.006 * root_d
                      : c == "3G" ? 0.014 * root_p + 0.0028 * root_d
                                  : 0.010 * root_p + 0.0020 * root_d;
    const std::string rule = std::string(standard) + ", class " + c;
    out.allowance = external ? to_mm(allowance) : 0;
    out.allowance_source = rule + ": k·√D";
    if (external) {
        out.major = {to_mm(D - std::max(0.05 * p, 0.005)), to_mm(D), rule + ": 0.05·p, at least 0.005 in"};
        out.pitch = {out.basic_pitch - to_mm(allowance + t2), out.basic_pitch - to_mm(allowance),
                     rule + ": a·√p + b·√D"};
        out.minor = {out.basic_root - to_mm(1.5 * t2), out.basic_root,
                     rule + ": 1.5 × pitch diameter tolerance"};
    } else {
        const double more = 1 / p > 10.0001 ? 0.010 : 0.020; // D + 0.020 in, D + 0.040 in from 10 per inch on
        out.major = {
            out.basic_major, out.basic_major + to_mm(more),
            rule + (more > 0.015 ? ": clearance 0.020 in + 0.020 in" : ": clearance 0.010 in + 0.010 in")};
        out.pitch = {out.basic_pitch, out.basic_pitch + to_mm(t2), rule + ": a·√p + b·√D"};
        out.minor = {out.basic_minor, out.basic_minor + to_mm(std::max(0.05 * p, 0.005)),
                     rule + ": 0.05·p, at least 0.005 in"};
    }
    return out;
}

// DIN 513: load flank 3°, clearing flank 30°, H1 = 0.75·P, h3 = 0.86777·P, R = 0.12427·P, axial play a =
// 0.1·√P.
FamilyProfile buttress(const ThreadSpec& s) {
    const double d = in_mm(s.diameter), p = in_mm(s.pitch), play = 0.1 * std::sqrt(p);
    const bool external = s.side == Side::external;
    FamilyProfile out = plain_profile(s, "DIN 513", degrees(30), d, d - 0.75 * p, d - 1.5 * p);
    out.upper_angle = degrees(3);
    out.basic_minor = external ? d - 2 * 0.86777 * p : d - 1.5 * p;
    out.basic_root = external ? out.basic_minor : d;
    out.basic_source = external ? "DIN 513: d3 = d − 1.73554·P" : "DIN 513: D1 = d − 1.5·P";
    // the width of the crest at d is w = 0.26384·P, less the axial play outside
    const double crest = 0.26384 * p - (external ? play : 0);
    const double slant = (std::tan(out.lower_angle) + std::tan(out.upper_angle)) * 0.375 * p;
    // internal: the groove of the nut is as wide as the nominal thread of the screw
    out.pitch_line_groove = external ? p - crest - slant : 0.26384 * p + slant;
    // what is the upper flank of the screw's groove is the lower flank of its tooth, and so of the nut's
    // groove
    if (!external) std::swap(out.lower_angle, out.upper_angle);
    if (external) out.root_rounding = 0.12427 * p;
    out.allowance = external ? play : 0;
    out.allowance_source = "DIN 513: axial play 0.1·√P";
    return out;
}

// DIN 405: 30°, depth P/2, clearance 0.05·P; crest and root rounded as far as they go.
FamilyProfile knuckle(const ThreadSpec& s) {
    const double d = in_mm(s.diameter), p = in_mm(s.pitch);
    const bool external = s.side == Side::external;
    FamilyProfile out = external
                            ? plain_profile(s, "DIN 405", degrees(15), d, d - p / 2, d - p)
                            : plain_profile(s, "DIN 405", degrees(15), d + 0.1 * p, d - p / 2, d - 0.9 * p);
    out.round_crest = out.round_root = true;
    return out;
}

FamilyProfile square(const ThreadSpec& s) {
    const double d = in_mm(s.diameter), p = in_mm(s.pitch);
    // flanks may not stand quite upright: half a micrometre aside over their depth
    FamilyProfile out = plain_profile(s, "form rule", std::atan(0.0005 / (p / 2)), d, d - p / 2, d - p);
    out.basic_source = "square form: depth P/2";
    return out;
}

FamilyProfile sharp_v(const ThreadSpec& s) {
    const double d = in_mm(s.diameter), p = in_mm(s.pitch);
    const double half = s.flank_angle ? in_rad(*s.flank_angle) / 2 : degrees(30);
    if (!(half > degrees(2) && half < degrees(80)))
        throw InputError("The flank angle of a V thread must be between 4° and 160°.");
    // a thousandth of the pitch stays flat at crest and root
    const double depth = 0.998 * p / 2 / std::tan(half);
    FamilyProfile out = plain_profile(s, "form rule", half, d, d - depth, d - 2 * depth);
    out.basic_source = "sharp V: depth P/2 · cot(half angle), flats P/1000";
    return out;
}

FamilyProfile own(const ThreadSpec& s) {
    if (s.own_section.points.empty())
        throw InputError("No section named '" + s.own_section.name +
                         "' is in this job or in your library. Import one, or draw it in the section view.");
    require_usable(s.own_section);
    if (s.depth || s.root_flat)
        throw InputError(
            "A section of your own has its depth and root in its outline; move its points instead.");
    const OwnShape shape = shape_of(s.own_section);
    const double d = in_mm(s.diameter), p = in_mm(s.pitch);
    FamilyProfile out;
    out.standard = "section " + s.own_section.name;
    out.basic_major = d;
    out.basic_pitch = d + 2 * shape.pitch_line * p;
    out.basic_minor = d - 2 * shape.depth * p;
    out.basic_root = s.side == Side::external ? out.basic_minor : d;
    out.basic_source = "section " + s.own_section.name + " at this pitch";
    out.lower_angle = shape.lower_angle;
    out.upper_angle = shape.upper_angle;
    return out;
}

void require_no_class(const ThreadSpec& s) {
    if (!s.tolerance_class.empty())
        throw InputError(std::string("A ") + word(s.family) + " thread has no class here; leave '" +
                             s.tolerance_class + "' away.",
                         0, s.tolerance_class.size());
}

} // namespace

AmericanPipe american_pipe(const ThreadSpec& s) {
    const double D = in_inch(s.diameter), p = in_inch(s.pitch);
    AmericanPipe out;
    out.l1 = 4.5 * p;
    for (const auto& size : standard::pipe_sizes("NPT"))
        if (std::abs(in_mm(size.listed.diameter - s.diameter)) < 1e-6) {
            out.l1 = in_inch(*size.hand_tight);
            out.listed = true;
        }
    out.e0 = D - (0.05 * D + 1.1) * p;
    out.e1 = out.e0 + out.l1 / 16;
    out.l2 = (0.8 * D + 6.8) * p;
    return out;
}

FamilyProfile family_profile(const ThreadSpec& s, const StandardStatus& status) {
    switch (s.family) {
    case ThreadFamily::iso_metric:
        return metric(s);
    case ThreadFamily::unified:
        return unified(s, status);
    case ThreadFamily::whitworth:
        return whitworth(s);
    case ThreadFamily::pipe_g:
        return pipe_g(s, status);
    case ThreadFamily::pipe_r:
        return pipe_r(s);
    case ThreadFamily::npt:
        return american_taper_pipe(s);
    case ThreadFamily::npsm:
        return american_parallel_pipe(s, status);
    case ThreadFamily::trapezoidal:
        return trapezoidal(s);
    case ThreadFamily::acme:
    case ThreadFamily::stub_acme:
        return acme(s);
    case ThreadFamily::buttress:
        require_no_class(s);
        return buttress(s);
    case ThreadFamily::knuckle:
        require_no_class(s);
        return knuckle(s);
    case ThreadFamily::square:
        require_no_class(s);
        return square(s);
    case ThreadFamily::sharp_v:
        require_no_class(s);
        return sharp_v(s);
    case ThreadFamily::own:
        require_no_class(s);
        return own(s);
    }
    throw std::logic_error("unknown thread family");
}

} // namespace whorl
