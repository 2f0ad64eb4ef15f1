// Whitworth threads: BS 84.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"
#include "standard/thread_series.hpp"

namespace whorl {
namespace {

FamilyProfile profile(const ThreadSpec& s, const StandardStatus&) {
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
        out.tap_drill = *out.minor.min + (*out.minor.max - *out.minor.min) * 5 / 6;
        out.tap_drill_source = "rule of thumb: five sixths up the minor Ø limits";
        out.major = {out.basic_major, {}, "BS 84: basic; no upper limit is set"};
    }
    out.allowance = 0;
    out.allowance_source = "BS 84: no allowance on unplated threads";
    return out;
}

const std::vector<standard::ListedThread>& listed() {
    static const std::vector<standard::ListedThread> both = [] {
        auto all = standard::thread_series("BSW");
        const auto& fine = standard::thread_series("BSF");
        all.insert(all.end(), fine.begin(), fine.end());
        return all;
    }();
    return both;
}

void read_series(Reader& r, const InchStart& from, std::string_view series, ThreadSpec& t) {
    const std::string name(series);
    if (name != "Whit" && !standard::find_listed(standard::thread_series(name), t.diameter, t.pitch))
        throw InputError("The " + name + " series has no " + number_text(from.diameter, 5) + "-" +
                             number_text(from.per_inch, 3) + "; write Whit for a special one.",
                         from.start, from.series_at + 3 - from.start);
    read_class(r, t);
}

std::string write(const ThreadSpec& t) {
    const auto* found = standard::find_listed(listed(), t.diameter, t.pitch);
    return (found ? found->size : number_text(in_inch(t.diameter), 7)) + "-" +
           number_text(threads_per_inch(t.pitch), 6) + " " + (found ? found->series : "Whit");
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    std::vector<Usual> out;
    for (const auto& t : listed())
        out.push_back({"{" + t.size + "}-{" + number_text(threads_per_inch(t.pitch), 3) + "} " + t.series,
                       t.series == "BSW" ? "coarse" : "fine"});
    return out;
}

std::string counterpart_class(const ThreadSpec& t, Side) {
    return t.tolerance_class;
}

} // namespace

const FamilyPage whitworth_page{
    .word = "Whitworth",
    .key = "whitworth",
    .card = {"Whitworth thread", "BSW and BSF of BS 84: 55° with rounded crests and roots.",
             "1/2-12 BSW-medium x 0.65"},
    .example = "1/2-12",
    .use = ThreadUse::fastening,
    .inch = true,
    .per_inch = true,
    .series = {"BSW", "BSF", "Whit"},
    .read_series = read_series,
    .write = write,
    .usual = usual,
    .listed = listed,
    .external_classes = {"medium", "close", "free"},
    .internal_classes = {"medium", "close", "free"},
    .counterpart_class = counterpart_class,
    .profile = profile,
};

} // namespace whorl
