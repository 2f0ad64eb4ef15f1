// Buttress threads: DIN 513.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"
#include "standard/thread_series.hpp"

namespace whorl {
namespace {

// DIN 513: load flank 3°, clearing flank 30°, H1 = 0.75·P, h3 = 0.86777·P, R = 0.12427·P, axial play a =
// 0.1·√P.
FamilyProfile profile(const ThreadSpec& s, const StandardStatus&) {
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

const std::vector<standard::ListedThread>& listed() {
    return standard::thread_series("S");
}

std::size_t claims(std::string_view text) {
    return letters_before_number(text, {"S"});
}

Designation read(Reader& r, std::string_view, std::span<const OwnSection>) {
    return read_pair_family(r, "S", ThreadFamily::buttress);
}

std::string write(const ThreadSpec& t) {
    return write_pair("S", t);
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    return usual_pairs("S", listed());
}

} // namespace

const FamilyPage buttress_page{
    .word = "buttress",
    .key = "buttress",
    .card = {"Buttress thread", "For a load from one side, DIN 513: flanks of 3° and 30°.", "S40x7 x 52"},
    .example = "S40x7",
    .use = ThreadUse::motion,
    .classless = true,
    .claims = claims,
    .read = read,
    .write = write,
    .usual = usual,
    .listed = listed,
    .profile = profile,
};

} // namespace whorl
