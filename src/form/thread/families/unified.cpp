// Unified inch threads: ASME B1.1.
#include "standard/unified.hpp"
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"

namespace whorl {
namespace {

struct UnifiedClass {
    int grade; // 1 2 3
    bool external;
};

UnifiedClass unified_class(const std::string& text) {
    if (text.size() == 2 && text[0] >= '1' && text[0] <= '3' && (text[1] == 'A' || text[1] == 'B'))
        return {text[0] - '0', text[1] == 'A'};
    throw InputError(in_quotes(text) + " is not a Unified class: 1A, 2A, 3A for screws, 1B, 2B, 3B for nuts.",
                     0, text.size());
}

std::optional<Side> side(const std::string& text) {
    return unified_class(text).external ? Side::external : Side::internal;
}

FamilyProfile profile(const ThreadSpec& s, const StandardStatus& status) {
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
        out.stress_diameter = in_mm(s.diameter) - 0.9743 * in_mm(s.pitch);
        out.stress_source = "ASME B1.1: π/4·(D − 0.9743·p)²"; // appendix B
    } else {
        out.allowance = 0;
        out.allowance_source = "ASME B1.1: internal threads have no allowance";
        out.major.min = in_mm(s.diameter);
        out.major.source = cls + ": basic; no upper limit is set";
        out.pitch.min = in_mm(basic_pitch);
        out.pitch.max = *out.pitch.min + in_mm(unified_pitch_tolerance(c.grade, false, td2_2a));
        out.pitch.source = cls + ": class factor × Td2 of class 2A";
        // the least one and the tolerance are rounded to four places each and added; printed to three places
        // from #6 on, the upper limit of class 3B to four
        const auto printed = [&](Length l, bool fine) {
            return in_mm(fine || d < 0.1379 ? rounded_to_ten_thousandth_inch(l)
                                            : rounded_to_thousandth_inch(l));
        };
        const Length least = rounded_to_ten_thousandth_inch(mm(out.basic_minor));
        const Length tolerance =
            rounded_to_ten_thousandth_inch(unified_minor_tolerance(c.grade, s.diameter, s.pitch));
        out.minor.min = printed(mm(out.basic_minor), false);
        out.minor.max = printed(least + tolerance, c.grade == 3);
        out.minor.source = cls + ", clause 5.8.1 (f)";
        out.basic_root = in_mm(s.diameter);
        out.tap_drill = in_mm(s.diameter) - in_mm(s.pitch);
        out.tap_drill_source = "rule of thumb: d − P";
    }
    return out;
}

// UNR and its kin: the same threads with a rounded root, external only (ASME B1.1, clause 4).
void read_series(Reader& r, const InchStart& from, std::string_view word, ThreadSpec& t) {
    std::string series(word);
    if (word.starts_with("UNR")) {
        series.erase(2, 1);
        t.rounded_root = true;
    }
    t.tolerance_class = "2A";
    if (series == "UNC" || series == "UNF" || series == "UNEF") {
        const standard::ListedThread* in_series = nullptr;
        for (const auto& l : standard::unified_series())
            if (l.series == series && std::abs(in_inch(l.diameter) - from.diameter) < 1e-6) in_series = &l;
        if (!in_series)
            throw InputError("The " + series + " series has no size " + number_text(from.diameter, 5) +
                                 " in; write UN or UNS for a special one.",
                             from.series_at, series.size());
        if (std::abs(in_inch(in_series->pitch) * from.per_inch - 1) > 1e-6)
            throw InputError("In the " + series + " series " + in_series->size + " has " +
                                 number_text(1 / in_inch(in_series->pitch), 3) + " threads per inch, not " +
                                 number_text(from.per_inch, 3) + "; write UNS for a special one.",
                             from.per_inch_at, from.series_at + series.size() - from.per_inch_at);
    }
    if (r.peek() == '-' && std::isdigit(static_cast<unsigned char>(r.peek(1)))) {
        r.take("-");
        t.tolerance_class = class_at(r, t.family);
    }
    t.side = *side_of_class(t.family, t.tolerance_class);
    if (t.rounded_root && t.side == Side::internal)
        throw InputError("Only external threads are UNR, with a rounded root; a nut for one is " + series +
                             "-" + t.tolerance_class + ".",
                         from.series_at, 3);
}

std::string size_of(Length diameter) {
    for (const auto& l : standard::unified_series())
        if (std::abs(in_inch(l.diameter - diameter)) < 1e-7) return l.size;
    return number_text(in_inch(diameter), 7);
}

std::string series_word(const ThreadSpec& t) {
    if (const auto* l = standard::find_listed(standard::unified_series(), t.diameter, t.pitch))
        return l->series;
    const double tpi = threads_per_inch(t.pitch);
    for (double constant : {4.0, 6.0, 8.0, 12.0, 16.0, 20.0, 28.0, 32.0}) // ASME B1.1 constant-pitch series
        if (std::abs(tpi - constant) < 1e-9) return "UN";
    return "UNS";
}

std::string write(const ThreadSpec& t) {
    std::string series = series_word(t);
    if (t.rounded_root && t.side == Side::external) series.insert(2, "R");
    return size_of(t.diameter) + "-" + number_text(threads_per_inch(t.pitch), 6) + " " + series;
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    std::vector<Usual> out;
    for (const auto& t : standard::unified_series())
        out.push_back(
            {"{" + t.size + "}-{" + number_text(threads_per_inch(t.pitch), 3) + "} {" + t.series + "}",
             t.series == "UNC"   ? "coarse"
             : t.series == "UNF" ? "fine"
                                 : "extra fine"});
    return out;
}

std::string counterpart_class(const ThreadSpec& t, Side side) {
    return t.tolerance_class.substr(0, 1) + (side == Side::internal ? "B" : "A");
}

} // namespace

const FamilyPage unified_page{
    .word = "Unified",
    .key = "unified",
    .card = {"Unified thread", "The inch fastening thread of ASME B1.1: UNC, UNF, UNEF, 60°.",
             "3/8-16 UNC-2A x 0.5"},
    .example = "3/8-16",
    .use = ThreadUse::fastening,
    .inch = true,
    .per_inch = true,
    .series = {"UNREF", "UNRC", "UNRF", "UNRS", "UNR", "UNEF", "UNC", "UNF", "UNS", "UN"},
    .read_series = read_series,
    .write = write,
    .usual = usual,
    .listed = standard::unified_series,
    .side = side,
    .external_classes = {"2A", "1A", "3A"},
    .internal_classes = {"2B", "1B", "3B"},
    .counterpart_class = counterpart_class,
    .profile = profile,
};

} // namespace whorl
