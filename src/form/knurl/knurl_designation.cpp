#include "form/kinds.hpp"
#include "form/spec_reader.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

// DIN 82
struct Code {
    std::string_view letters;
    KnurlKind kind;
    bool sunk;
};
constexpr Code codes[]{{"RAA", KnurlKind::axial, false},      {"RBL", KnurlKind::left, false},
                       {"RBR", KnurlKind::right, false},      {"RGE", KnurlKind::crossed, false},
                       {"RGV", KnurlKind::crossed, true},     {"RKE", KnurlKind::crossed_ring, false},
                       {"RKV", KnurlKind::crossed_ring, true}};

using Read = KnurlDesignation;

// A code of DIN 82, with its pitch behind it.
bool take_code(SpecReader& r, Read& out) {
    const std::size_t from = r.at();
    if (r.take("DIN 82") || r.take("DIN82")) {
        r.take("-");
        r.skip_blanks();
    }
    std::string head(r.rest().substr(0, 3));
    for (char& letter : head)
        letter = static_cast<char>(std::toupper(static_cast<unsigned char>(letter)));
    const auto* code = std::ranges::find(codes, head, &Code::letters);
    if (code == std::end(codes) || std::isalpha(static_cast<unsigned char>(r.peek(3)))) return false;
    r.move_to(r.at() + 3);
    out.spec.kind = code->kind;
    out.spec.sunk = code->sunk;
    if (code->sunk) r.once("sunk", from);
    r.skip_blanks();
    if (const auto pitch = r.take_decimal()) {
        r.once("The pitch", from);
        out.spec.pitch = of_unit(*pitch, r.unit());
    }
    return true;
}

bool take_kind(SpecReader& r, Read& out) {
    for (const int i : {5, 0, 1, 2, 3, 4}) { // "axial-ring" before "axial", which it begins with
        out.spec.kind = static_cast<KnurlKind>(i);
        if (r.take_word_ignoring_case(word(out.spec.kind))) return true;
    }
    return false;
}

constexpr auto teeth = [](SpecReader& r, Read& out) {
    out.spec.teeth = r.said_whole(0, 1000000, "The number of teeth is a whole number.");
};
constexpr SpecWord<Read> words[]{
    {"sunk", "sunk", [](SpecReader&, Read& out) { out.spec.sunk = true; }},
    {"raised", nullptr, [](SpecReader&, Read&) {}},
    {"mm", nullptr, [](SpecReader&, Read&) {}},
    {"pitch", "The pitch", [](SpecReader& r, Read& out) { out.spec.pitch = r.length("pitch", "pitch 1"); }},
    {"depth", "The depth", [](SpecReader& r, Read& out) { out.spec.depth = r.length("depth", "depth 0.4"); }},
    {"angle", "The angle",
     [](SpecReader& r, Read& out) {
         out.spec.profile_angle = r.angle("An angle is expected here, for example angle 90.");
     }},
    {"on", "The diameter",
     [](SpecReader& r, Read& out) { out.spec.diameter = r.length("diameter", "on 20 x 15"); }},
    {"x", "The length", [](SpecReader& r, Read& out) { out.length = r.length("length", "x 15"); }},
    {"teeth", "The number of teeth", teeth, true},
    {"z", "The number of teeth", teeth, true},
};

} // namespace

bool is_knurl(std::string_view text) {
    return Reader(text).take_word_ignoring_case("knurl");
}

KnurlDesignation parse_knurl(std::string_view text) {
    SpecReader r(text);
    r.take_word_ignoring_case("knurl");
    r.skip_blanks();
    Read out;
    out.unit = r.unit();
    if (!take_code(r, out) && !take_kind(r, out))
        r.refuse("A knurl is axial, ring, left, right, crossed or axial-ring, or one of DIN 82's RAA, RBL, "
                 "RBR, RGE, RGV, "
                 "RKE and RKV, for example knurl axial pitch 1 on 20 x 15 or knurl RAA 1 on 20 x 15.");
    read_words<Read>(
        r, out, {words},
        "This is not understood in a knurl; write sunk, pitch, teeth, depth, angle, on Ø x length, "
        "for example knurl crossed pitch 1 on 20 x 15.",
        "What is this number? Write for example 60 teeth, pitch 1 or on 20 x 15.");
    if (!r.given("The diameter")) r.refuse("A knurl needs its outside diameter, for example on 20 x 15.");
    const bool counted = r.given("The number of teeth");
    if (r.given("The pitch") == counted)
        r.refuse(counted ? "A knurl has its pitch or its teeth; the other follows. Write one of them."
                         : "A knurl needs its pitch, such as pitch 1, or its teeth, such as 60 teeth.");
    try {
        (void)resolve_knurl(out.spec);
    } catch (const InputError& e) {
        throw InputError(e.what(), text.size());
    }
    return out;
}

std::string write_knurl(const KnurlSpec& s, std::optional<Length> length, LengthUnit unit) {
    const auto number = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    std::string text = "knurl " + std::string(word(s.kind)) + (s.sunk ? " sunk" : "");
    text += s.teeth ? " " + std::to_string(*s.teeth) + " teeth" : " pitch " + number(s.pitch);
    if (s.depth) text += " depth " + number(*s.depth);
    if (s.profile_angle > 0) text += " angle " + number_text(s.profile_angle * 180 / pi, 6);
    text += " on " + number(s.diameter);
    if (length) text += " x " + number(*length);
    return text + (unit == LengthUnit::inch ? " in" : "");
}

namespace {
std::vector<Usual> usual_knurls(std::span<const OwnSection>) {
    std::vector<double> pitches = preferred_knurl_pitches(); // 1 mm before the others
    std::rotate(pitches.begin(), std::find(pitches.begin(), pitches.end(), 1.0), pitches.end());
    std::vector<Usual> out;
    for (const double pitch : pitches)
        for (const auto& [kind, says] : {std::pair{"axial", "grooves along the axis, DIN 82-RAA"},
                                         std::pair{"crossed", "points raised, DIN 82-RGE"},
                                         std::pair{"crossed sunk", "points sunk in, DIN 82-RGV"},
                                         std::pair{"left", "aslant, left-hand, DIN 82-RBL"},
                                         std::pair{"right", "aslant, right-hand, DIN 82-RBR"},
                                         std::pair{"axial-ring", "square pyramids raised, DIN 82-RKE"},
                                         std::pair{"axial-ring sunk", "square pyramids sunk in, DIN 82-RKV"},
                                         std::pair{"ring", "grooves around, in rings"}}) {
            // about 60 teeth around, so that the pattern reads
            const std::string d = number_text(std::round(20 * pitch), 0);
            out.push_back({"knurl {" + std::string(kind) + "} pitch {" + number_text(pitch, 1) + "} on {" +
                               d + "} x {" + number_text(std::round(12 * pitch), 0) + "}",
                           says});
        }
    return out;
}
} // namespace

DesignationKind knurl_kind() {
    return {"knurl",
            "Surfaces",
            {"Knurl", "For the fingers: grooves along, around, aslant or crossed, by DIN 82.",
             "knurl crossed pitch 1.6 on 20 x 14"},
            "knurl axial pitch 1 ",
            usual_knurls,
            is_knurl,
            read_as<parse_knurl>};
}

} // namespace whorl
