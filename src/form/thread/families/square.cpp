// Square threads, by rule.
#include "form/thread/families/profile.hpp"
#include "form/thread/reading.hpp"

namespace whorl {
namespace {

FamilyProfile profile(const ThreadSpec& s, const StandardStatus&) {
    const double d = in_mm(s.diameter), p = in_mm(s.pitch);
    // flanks may not stand quite upright: half a micrometre aside over their depth
    FamilyProfile out = plain_profile(s, "form rule", std::atan(0.0005 / (p / 2)), d, d - p / 2, d - p);
    out.basic_source = "square form: depth P/2";
    return out;
}

std::size_t claims(std::string_view text) {
    return letters_before_number(text, {"SQ"});
}

Designation read(Reader& r, std::string_view, std::span<const OwnSection>) {
    return read_pair_family(r, "SQ", ThreadFamily::square);
}

std::string write(const ThreadSpec& t) {
    return write_pair("SQ", t);
}

std::vector<Usual> usual(std::span<const OwnSection>) {
    std::vector<Usual> out;
    for (const auto& [d, p] :
         {std::pair{10.0, 2.0}, {16.0, 4.0}, {20.0, 4.0}, {30.0, 6.0}, {40.0, 7.0}, {60.0, 9.0}})
        out.push_back({"SQ{" + number_text(d, 0) + "}x{" + number_text(p, 0) + "}", ""});
    return out;
}

} // namespace

const FamilyPage square_page{
    .word = "square",
    .key = "square",
    .card = {"Square thread",
             "Flanks square to the axis: the least friction of all, by rule, in no standard.", "SQ20x4 x 26"},
    .example = "SQ20x4",
    .use = ThreadUse::motion,
    .classless = true,
    .claims = claims,
    .read = read,
    .write = write,
    .usual = usual,
    .profile = profile,
};

} // namespace whorl
