// A sharp triangle of any flank angle, by rule.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"

namespace whorl {
namespace {

FamilyProfile profile(const ThreadSpec& s, const StandardStatus&) {
    const double d = in_mm(s.diameter), p = in_mm(s.pitch);
    const double half = s.flank_angle ? in_rad(*s.flank_angle) / 2 : degrees(30);
    if (!(half > degrees(2) && half < degrees(80)))
        throw InputError("The flank angle of a V thread must be between 4° and 160°.");
    // A thousandth of the pitch stays flat at crest and root. On a cone one flank is steeper by its slope and the other
    // flatter, which together reach further along the axis: less deep by that.
    const double steep = 1 / std::tan(half), slope = s.taper.value_or(0);
    const double depth = 0.998 * p / 2 * (steep - slope * slope / steep);
    FamilyProfile out = plain_profile(s, "form rule", half, d, d - depth, d - 2 * depth);
    out.sharp = true;
    out.basic_source =
        slope == 0 ? "sharp V: depth P/2 · cot(half angle), flats P/1000"
                   : "sharp V: depth P/2 · (cot(half angle) − taper²/(4·cot(half angle))), flats P/1000";
    return out;
}

std::size_t claims(std::string_view text) {
    return letters_before_number(text, {"V"});
}

// V60 20x2 (mm) or V60 1-18 (inch, threads per inch): a sharp triangle of that angle.
Designation read(Reader& r, std::string_view, std::span<const OwnSection>) {
    Designation out;
    ThreadSpec t;
    t.family = ThreadFamily::sharp_v;
    t.tolerance_class = "";
    const std::size_t start = r.at();
    const auto angle = r.take_decimal();
    if (!angle) r.refuse("The flank angle is expected after V, for example V60 20x2 or V60 1-18.");
    if (!(*angle > 4 && *angle < 160))
        throw InputError("The flank angle of a V thread must be between 4° and 160°.", start, r.at() - start);
    if (*angle != 60) t.flank_angle = deg(*angle);
    r.skip_blanks();
    const std::size_t size_start = r.at();
    const auto first = r.take_inch_size();
    if (!first)
        r.refuse("A size is expected here: 20x2 in millimetres or 1-18 in inch and threads per inch.");
    require_positive(r, size_start, *first, "diameter");
    const std::size_t pitch_start = r.at() + 1;
    if (r.take("-")) {
        const auto tpi = r.take_decimal();
        if (!tpi) r.refuse("Threads per inch are expected here, for example V60 1-18.");
        require_positive(r, pitch_start, *tpi, "number of threads per inch");
        out.unit = LengthUnit::inch;
        t.diameter = inch(*first);
        t.pitch = inch(1 / *tpi);
    } else if (r.peek() != ' ' && r.take_times()) {
        const auto pitch = r.take_decimal();
        if (!pitch) r.refuse("A pitch is expected after the x, for example V60 20x2.");
        require_positive(r, pitch_start, *pitch, "pitch");
        t.diameter = mm(*first);
        t.pitch = mm(*pitch);
    } else {
        r.refuse("The pitch is expected here: x2 in millimetres or -18 threads per inch.");
    }
    out.what = t;
    read_tail(r, out);
    return out;
}

bool asked_in_inches(const ThreadSpec& t) {
    const double inverse = threads_per_inch(t.pitch);
    return std::abs(inverse - std::round(inverse * 2) / 2) < 1e-9 &&
           std::abs(in_mm(t.pitch) * 1000 - std::round(in_mm(t.pitch) * 1000)) > 1e-6;
}

std::string write(const ThreadSpec& t) {
    const std::string angle = number_text(t.flank_angle ? in_deg(*t.flank_angle) : 60, 4);
    return "V" + angle + " " +
           (asked_in_inches(t)
                ? number_text(in_inch(t.diameter), 7) + "-" + number_text(threads_per_inch(t.pitch), 6)
                : number_text(in_mm(t.diameter), 6) + "x" + number_text(in_mm(t.pitch), 6));
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    return {{"V{60} {20}x{2}", "60°"},
            {"V{55} {20}x{2}", "55°"},
            {"V{90} {30}x{3}", "90°"},
            {"V{60} {1}-{18}", "60°, in inch"}};
}

} // namespace

const FamilyPage sharp_v_page{
    .word = "sharp V",
    .key = "sharp_v",
    .card = {"Sharp V thread", "A triangle of any flank angle: an old thread, or one to be copied.",
             "V60 20x4 x 26"},
    .example = "V60 20x2",
    .use = ThreadUse::fastening,
    .classless = true,
    .claims = claims,
    .read = read,
    .write = write,
    .writes_in_inches = asked_in_inches,
    .usual = usual,
    .profile = profile,
};

} // namespace whorl
