// Trapezoidal threads: ISO 2901 to 2904.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"
#include "standard/iso_metric.hpp"
#include "standard/thread_series.hpp"

#include <algorithm>

namespace whorl {
namespace {

// ISO 2901 to 2904: H1 = P/2, crest clearance by pitch, flanks 15°; limits by the rules of ISO 2903.
FamilyProfile profile(const ThreadSpec& s, const StandardStatus&) {
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

std::optional<Side> side(const std::string& text) {
    if (text.size() != 2 || text[0] < '6' || text[0] > '9' ||
        std::string_view("cehH").find(text[1]) == std::string_view::npos)
        throw InputError(in_quotes(text) +
                             " is not a class of ISO 2903: 6 to 9 with c, e or h for screws, with H "
                             "for nuts (7e, 8c, 7H).",
                         0, text.size());
    return text[1] == 'H' ? Side::internal : Side::external;
}

const std::vector<standard::ListedThread>& listed() {
    return standard::thread_series("Tr");
}

std::size_t claims(std::string_view text) {
    return letters_before_number(text, {"Tr", "TR", "tr"});
}

// Tr40x7; Tr12x6(P3) has a lead of 6.
Designation read(Reader& r, std::string_view, std::span<const OwnSection>) {
    ThreadSpec t;
    t.family = ThreadFamily::trapezoidal;
    const std::size_t pitch_at = read_millimetre_pair(r, "Tr", t);
    if (r.take("(P")) {
        const double lead = in_mm(t.pitch);
        const std::string expected = "The pitch and a closing bracket are expected: Tr12x6(P3).";
        const double pitch = r.positive("pitch", expected);
        if (!r.take(")")) r.refuse(expected);
        set_starts(r, pitch_at, lead, pitch, number_text(lead, 4) + " is ",
                   " times " + number_text(pitch, 4) + ".", t);
    }
    read_class(r, t);
    return with_tail(r, t);
}

std::string write(const ThreadSpec& t) {
    const std::string pitch = number_text(in_mm(t.pitch), 6);
    return "Tr" + number_text(in_mm(t.diameter), 6) + "x" +
           (t.starts > 1 ? number_text(in_mm(t.pitch) * t.starts, 6) + "(P" + pitch + ")" : pitch);
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    return usual_pairs("Tr", listed());
}

std::string counterpart_class(const ThreadSpec& t, Side side) {
    return t.tolerance_class.substr(0, 1) + (side == Side::internal ? "H" : "e");
}

} // namespace

const FamilyPage trapezoidal_page{
    .word = "trapezoidal",
    .key = "trapezoidal",
    .card = {"Trapezoidal thread",
             "The motion thread of ISO 2901 to 2904, 30°: lead screws, one start or several.",
             "Tr20x4-7e x 26"},
    .example = "Tr20x4",
    .use = ThreadUse::motion,
    .claims = claims,
    .read = read,
    .write = write,
    .writes_starts = true,
    .usual = usual,
    .listed = listed,
    .side = side,
    .external_classes = {"7e", "8e", "8c", "9c", "7h"},
    .internal_classes = {"7H", "8H", "9H"},
    .counterpart_class = counterpart_class,
    .profile = profile,
};

} // namespace whorl
