// Knuckle threads: DIN 405.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"
#include "standard/thread_series.hpp"

namespace whorl {
namespace {

// DIN 405: 30°, depth P/2, clearance 0.05·P; crest and root rounded as far as they go.
FamilyProfile profile(const ThreadSpec& s, const StandardStatus&) {
    const double d = in_mm(s.diameter), p = in_mm(s.pitch);
    const bool external = s.side == Side::external;
    FamilyProfile out = external
                            ? plain_profile(s, "DIN 405", degrees(15), d, d - p / 2, d - p)
                            : plain_profile(s, "DIN 405", degrees(15), d + 0.1 * p, d - p / 2, d - 0.9 * p);
    out.round_crest = out.round_root = true;
    return out;
}

const std::vector<standard::ListedThread>& listed() {
    return standard::thread_series("Rd");
}

std::size_t claims(std::string_view text) {
    return letters_before_number(text, {"Rd"});
}

// Rd40x1/6: diameter in mm, pitch as a fraction of an inch.
Designation read(Reader& r, std::string_view, std::span<const OwnSection>) {
    ThreadSpec t;
    t.family = ThreadFamily::knuckle;
    const std::size_t start = r.at();
    const auto d = r.take_decimal();
    if (!d) r.refuse("A diameter is expected after Rd, for example Rd40x1/6.");
    require_positive(r, start, *d, "diameter");
    t.diameter = mm(*d);
    if (r.peek() == ' ' || !r.take_times())
        r.refuse("The pitch in inch is expected after an x, for example Rd40x1/6.");
    const std::size_t pitch_start = r.at();
    const auto pitch = r.take_inch_size();
    if (!pitch) r.refuse("The pitch in inch is expected after the x, for example Rd40x1/6.");
    require_positive(r, pitch_start, *pitch, "pitch");
    t.pitch = inch(*pitch);
    t.tolerance_class = "";
    return with_tail(r, t);
}

std::string write(const ThreadSpec& t) {
    const double inverse = threads_per_inch(t.pitch);
    const bool whole = std::abs(inverse - std::round(inverse)) < 1e-6;
    return "Rd" + number_text(in_mm(t.diameter), 6) + "x" +
           (whole ? "1/" + number_text(inverse, 6) : number_text(in_inch(t.pitch), 7));
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    std::vector<Usual> out;
    for (const auto& t : listed())
        out.push_back({"Rd{" + t.size + "}x{1/" + number_text(threads_per_inch(t.pitch), 3) + "}", ""});
    return out;
}

} // namespace

const FamilyPage knuckle_page{
    .word = "knuckle",
    .key = "knuckle",
    .card = {"Knuckle thread", "Round all over, DIN 405: for rough use, dirt and couplings.",
             "Rd20x1/8 x 26"},
    .example = "Rd40",
    .per_inch = true,
    .classless = true,
    .claims = claims,
    .read = read,
    .write = write,
    .usual = usual,
    .listed = listed,
    .profile = profile,
};

} // namespace whorl
