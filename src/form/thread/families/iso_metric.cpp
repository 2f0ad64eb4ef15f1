// ISO metric threads: ISO 68-1, 261, 724 and 965.
#include "standard/iso_metric.hpp"
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"

namespace whorl {
namespace {

// ISO 965-1: a class for the pitch diameter and one for the crest (major external, minor internal) diameter.
struct MetricClass {
    int pitch_grade;
    char pitch_position;
    int crest_grade;
    char crest_position;
};

[[noreturn]] void refuse_metric(const std::string& text, const std::string& why) {
    throw InputError(in_quotes(text) + " is not a metric tolerance class: " + why +
                         " Examples: 6g, 4h, 5g6g for screws; 6H, 6G, 4H5H for nuts.",
                     0, text.size());
}

MetricClass metric_class(const std::string& text) {
    const auto pair_at = [&](std::size_t i) {
        const char g = text[i], p = text[i + 1];
        if (g < '3' || g > '9') refuse_metric(text, "the grade is a digit from 3 to 9.");
        if (std::string_view("efghGH").find(p) == std::string_view::npos)
            refuse_metric(text, "the position is e, f, g or h for screws, G or H for nuts.");
        return std::pair{g - '0', p};
    };
    if (text.size() != 2 && text.size() != 4) refuse_metric(text, "a grade and a letter belong together.");
    const auto [pg, pp] = pair_at(0);
    const auto [cg, cp] = text.size() == 4 ? pair_at(2) : std::pair{pg, pp};
    const bool internal = pp == 'G' || pp == 'H', crest_internal = cp == 'G' || cp == 'H';
    if (internal != crest_internal)
        refuse_metric(text, "small letters (screws) and capitals (nuts) are mixed.");
    if (!internal && cg != 4 && cg != 6 && cg != 8)
        refuse_metric(text, "the major diameter has grades 4, 6 and 8 only; write the crest class too.");
    if (internal && (pg < 4 || pg > 8 || cg < 4 || cg > 8)) refuse_metric(text, "nuts have grades 4 to 8.");
    return {pg, pp, cg, cp};
}

std::optional<Side> side(const std::string& text) {
    const char p = metric_class(text).pitch_position;
    return p == 'G' || p == 'H' ? Side::internal : Side::external;
}

FamilyProfile profile(const ThreadSpec& s, const StandardStatus&) {
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
        // clause 9.1.6.1, basic sizes, d3 = d1 − H/6
        out.stress_diameter = (out.basic_pitch + out.basic_minor - std::sqrt(3.0) / 2 * p / 6) / 2;
        out.stress_source = "ISO 898-1: π/4·((d2 + d3)/2)²";
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
        const auto drill = standard::metric_tap_drill(s.diameter, s.pitch);
        out.tap_drill = in_mm(drill.diameter);
        out.tap_drill_source = drill.source;
    }
    return out;
}

Designation read(Reader& r, std::string_view, std::span<const OwnSection>) {
    Designation out;
    ThreadSpec t;
    const std::size_t start = r.at();
    const auto d = r.take_decimal();
    if (!d) r.refuse("A diameter is expected after M, for example M10.");
    require_positive(r, start, *d, "diameter");
    t.diameter = mm(*d);
    bool pitch_given = false;
    // `x1.5` is a pitch; ` x 40` (with a blank before it) is the length, as is what no thread's pitch can be: M8x60
    const auto is_length = [&] {
        Reader ahead = r;
        const auto n = ahead.take_times() ? ahead.take_decimal() : std::nullopt;
        return n && *n >= 0.75 * *d && ahead.peek() != '-'; // a class stands behind a pitch
    };
    if (r.peek() != ' ' && !is_length() && r.take_times()) {
        const std::size_t pitch_start = r.at();
        if (r.take("Ph") || r.take("PH") || r.take("ph")) {
            const auto lead = r.take_decimal();
            if (!lead) r.refuse("A lead is expected after Ph, for example M16xPh4P2.");
            if (!(r.take("P") || r.take("p")))
                r.refuse("P and the pitch are expected after the lead: M16xPh4P2.");
            const auto pitch = r.take_decimal();
            if (!pitch) r.refuse("A pitch is expected after P, for example M16xPh4P2.");
            require_positive(r, pitch_start, *pitch, "pitch");
            require_positive(r, pitch_start, *lead, "lead");
            set_starts(r, pitch_start, *lead, *pitch,
                       "Ph" + number_text(*lead, 4) + "P" + number_text(*pitch, 4) + " is ", " times.", t);
        } else {
            const auto pitch = r.take_decimal();
            if (!pitch) r.refuse("A pitch is expected after the x, for example M10x1.5.");
            require_positive(r, pitch_start, *pitch, "pitch");
            t.pitch = mm(*pitch);
        }
        pitch_given = true;
    }
    if (!pitch_given) {
        const auto* coarse = standard::iso_coarse(t.diameter);
        if (!coarse)
            throw InputError("M" + number_text(*d, 4) +
                                 " has no coarse pitch in ISO 261; write the pitch, as in M" +
                                 number_text(*d, 4) + "x1.",
                             start, r.at() - start);
        t.pitch = coarse->pitch;
    }
    if (r.peek() == '-' && !(std::toupper(static_cast<unsigned char>(r.peek(1))) == 'L' ||
                             std::toupper(static_cast<unsigned char>(r.peek(1))) == 'R')) {
        r.take("-");
        t.tolerance_class = class_at(r, t.family);
    }
    t.side = *side_of_class(t.family, t.tolerance_class);
    out.what = t;
    read_tail(r, out);
    return out;
}

std::size_t claims(std::string_view text) {
    if (text.empty() || (text[0] != 'M' && text[0] != 'm')) return 0;
    const char next = text.size() > 1 ? text[1] : '\0';
    return !std::isalpha(static_cast<unsigned char>(next)) || next == 'x' ? 1 : 0;
}

std::string write(const ThreadSpec& t) {
    const std::string pitch = number_text(in_mm(t.pitch), 6);
    return "M" + number_text(in_mm(t.diameter), 6) + "x" +
           (t.starts > 1 ? "Ph" + number_text(in_mm(t.pitch) * t.starts, 6) + "P" + pitch : pitch);
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    std::vector<Usual> out;
    for (const char* series : {"coarse", "fine"})
        for (const auto& t : standard::iso_metric_series())
            if (t.series == series)
                out.push_back({"M{" + t.size + "}x{" + number_text(in_mm(t.pitch), 4) + "}",
                               std::string(series) + " pitch"});
    return out;
}

} // namespace

const FamilyPage iso_metric_page{
    .word = "ISO metric",
    .key = "iso_metric",
    .card = {"Metric thread", "The fastening thread of ISO 68-1, coarse or fine, 60°.", "M10x1.5-6g x 13"},
    .example = "M10x1.5",
    .use = ThreadUse::fastening,
    .claims = claims,
    .read = read,
    .write = write,
    .writes_starts = true,
    .usual = usual,
    .listed = standard::iso_metric_series,
    .side = side,
    .external_classes = {"6g", "6h", "6e", "6f", "4h", "5g6g", "8g"},
    .internal_classes = {"6H", "6G", "5H", "4H", "4H5H", "7H"},
    .profile = profile,
    .class_source = "ISO 965-1",
};

} // namespace whorl
