#include "form/cam/cam_words.hpp"
#include "form/kinds.hpp"

#include <cmath>

namespace whorl {
namespace {

constexpr std::string_view follower_words[]{"roller", "knife", "flat", "mushroom"};
constexpr const char* example =
    "cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120, dwell 60; roller 8; b10";

using Read = CamDesignation;

void take_groove(SpecReader& r, Read& out) {
    out.spec.groove_depth = r.length("depth", "groove 5 deep in d80");
    r.skip_blanks();
    const bool deep = r.take_word_ignoring_case("deep");
    r.skip_blanks();
    const bool in = deep && r.take_word_ignoring_case("in");
    r.skip_blanks();
    if (!in || !r.take_key("d"))
        r.refuse("A groove is written by its depth and the disc it is sunk into, for example groove "
                 "5 deep in d80.");
    out.spec.disc = r.length("diameter", "groove 5 deep in d80");
}

constexpr SpecWord<Read> width_words[]{
    {"b", "The width", [](SpecReader& r, Read& out) { out.length = r.length("width", "b10"); }}};

constexpr SpecWord<Read> words[]{
    {"roller", "The follower",
     [](SpecReader& r, Read& out) {
         out.spec.follower = FollowerKind::roller;
         out.spec.size = r.length("diameter", "roller 8");
     }},
    {"knife", "The follower", [](SpecReader&, Read& out) { out.spec.follower = FollowerKind::knife; }},
    {"flat", "The follower", [](SpecReader&, Read& out) { out.spec.follower = FollowerKind::flat; }},
    {"mushroom", "The follower",
     [](SpecReader& r, Read& out) {
         out.spec.follower = FollowerKind::mushroom;
         out.spec.size = r.length("radius", "mushroom 60");
     }},
    {"offset", "offset",
     [](SpecReader& r, Read& out) { out.spec.offset = r.any_length("offset", "offset 4"); }},
    {"swing", "swing",
     [](SpecReader& r, Read& out) {
         out.spec.arm = r.length("length of the arm", "swing 50 60");
         out.spec.centre = r.length("distance of the pivot from the axis", "swing 50 60");
     }},
    {"groove", "The groove", take_groove},
    {"conjugate", "conjugate",
     [](SpecReader& r, Read& out) {
         r.skip_blanks();
         if (r.begins_number()) out.spec.conjugate = r.length("distance of the followers", "conjugate 60");
     }},
};

} // namespace

std::string_view word(FollowerKind kind) {
    return follower_words[static_cast<int>(kind)];
}

bool is_cam(std::string_view text) {
    return Reader(text).take_word_ignoring_case("cam");
}

CamDesignation parse_cam(std::string_view text) {
    SpecReader r(text);
    r.take_word_ignoring_case("cam");
    Read out;
    out.unit = r.unit();
    CamSpec& s = out.spec;
    s.size = of_unit(out.unit == LengthUnit::inch ? 0.4 : 10, out.unit); // a roller, unless one is said
    r.skip_blanks();
    if (r.take_word_ignoring_case("conjugate")) {
        s.conjugate = r.length("distance of the followers", "cam conjugate 60; b10");
        read_words<Read>(
            r, out, {width_words, bore_words<Read>},
            "A second lobe has its follower and all else from the first; only its width is said, for "
            "example cam conjugate 60; b10.",
            "A second lobe has its follower and all else from the first; only its width is said, for "
            "example cam conjugate 60; b10.");
        return out;
    }
    if (!r.take_key("r"))
        r.refuse(std::string("A cam begins with its base radius, for example ") + example + ".");
    s.base_radius = r.length("base radius", "cam r20: …");
    r.skip_blanks();
    if (!r.take(":")) r.refuse(std::string("The timing follows a colon, for example ") + example + ".");
    s.timing = take_timing(r);
    read_words<Read>(
        r, out, {width_words, words, turning_words<Read>, bore_words<Read>},
        "This is not understood in a cam; write roller, knife, flat or mushroom, offset, swing, "
        "groove, conjugate, b and the width, bore, key, at and an angle, clockwise, mass, spring, "
        "preload or rpm, for example " +
            std::string(example) + ".",
        "What is this number? Write what it is before it, or rpm after a speed, for example 120 rpm.");
    try {
        (void)resolve_cam(s, out.length ? in_mm(*out.length) : 0);
        if (r.given("conjugate")) {
            if (!s.conjugate) // as it is written
                s.conjugate = of_unit(std::round(in_unit(usual_apart(s), out.unit) * 100) / 100, out.unit);
            (void)resolve_cam(conjugate_of(s, *s.conjugate));
        }
    } catch (const InputError& e) {
        throw InputError(e.what(), text.size());
    }
    return out;
}

std::string write_cam(const CamSpec& s, std::optional<Length> length, LengthUnit unit) {
    const auto number = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    if (s.conjugate && s.timing.stretches.empty())
        return "cam conjugate " + number(*s.conjugate) + (length ? "; b" + number(*length) : "") +
               (unit == LengthUnit::inch ? "; in" : "");
    std::string text = "cam r" + number(s.base_radius) + ": " + write_timing(s.timing, unit) + "; " +
                       std::string(word(s.follower));
    if (s.follower == FollowerKind::roller || s.follower == FollowerKind::mushroom)
        text += " " + number(s.size);
    if (s.swings()) text += " swing " + number(*s.arm) + " " + number(*s.centre);
    if (in_mm(s.offset) != 0) text += " offset " + number(s.offset);
    if (length) text += "; b" + number(*length);
    if (s.disc) text += "; groove " + number(s.groove_depth) + " deep in d" + number(*s.disc);
    if (s.conjugate) text += "; conjugate " + number(*s.conjugate);
    text += cam_words(s.clockwise, s.at, s.rpm, s.load);
    return text + (unit == LengthUnit::inch ? "; in" : "");
}

namespace {
std::vector<Usual> usual_cams(std::span<const OwnSection>) {
    std::vector<Usual> out;
    for (const auto& [law, says] :
         {std::pair{"cycloidal", "smooth, for higher speeds"},
          std::pair{"modified-sine", "smooth, with the lowest torque peaks"},
          std::pair{"modified-trapezoid", "smooth, with the lowest acceleration"},
          std::pair{"3-4-5", "smooth, a polynomial"}, std::pair{"4-5-6-7", "smoother yet: no jump in jerk"},
          std::pair{"harmonic", "for slow cams: the acceleration jumps"},
          std::pair{"parabolic", "least peak acceleration, which jumps"}})
        out.push_back({"cam r{20}: rise {10} in {120} {" + std::string(law) +
                           "}, dwell {60}, return in {120} " + law + ", dwell; roller {8}; b{10}",
                       says});
    out.push_back(
        {"cam r{30}: rise {8} in {120} cycloidal, dwell {60}, return in {120} cycloidal, dwell; flat; b{10}",
         "under a flat follower"});
    out.push_back(
        {"cam r{20}: rise {10} in {110} cycloidal, dwell {70}, return in {110} cycloidal, dwell; roller {8}; "
         "b{12}; groove {5} deep in d{80}",
         "a closed track in a disc's face: holds the roller both ways"});
    out.push_back(
        {"cam r{20}: rise {8} in {120} cycloidal, dwell {60}, return in {120} cycloidal, dwell; roller {8}; "
         "b{8}; conjugate {60}",
         "a pair of lobes for a yoke with two rollers: positive drive"});
    out.push_back({"cam r{25}: rise {6} in {90} cycloidal, dwell, return in {90} cycloidal; roller {10} "
                   "offset {4}; b{8}",
                   "a follower set off from the axis"});
    out.push_back({"cam r{25}: rise {8} in {100} cycloidal, dwell, return in {100} cycloidal; roller {10} "
                   "swing {50} {60}; "
                   "b{8}",
                   "a follower that swings on an arm"});
    out.push_back({"cam r{20}: dwell {30}, rise {4} in {75} cycloidal, dwell {15}, rise {5} in {75} "
                   "cycloidal, dwell {15}, "
                   "return in {110} cycloidal, dwell; roller {8}; b{10}",
                   "two steps up, one back"});
    return out;
}
} // namespace

DesignationKind cam_kind() {
    return {"cam",
            "Cams",
            {"Disc cam", "Lifts a follower by a timing table; profile, pressure angle and speeds follow."},
            "cam r20: rise 10 in 120 cycloidal",
            usual_cams,
            is_cam,
            read_as<parse_cam>,
            true};
}

} // namespace whorl
