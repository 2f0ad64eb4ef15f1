#include "form/kinds.hpp"
#include "form/spec_reader.hpp"
#include "quantity/numeric.hpp"

namespace whorl {
namespace {

constexpr const char* example = "bend d8 90 r20";

struct Read : BendDesignation {
    Length radius = mm(0); // as asked, to the centreline or inside
};

constexpr auto diameter = [](SpecReader& r, Read& out) { out.spec.diameter = r.length("diameter", example); };

constexpr SpecWord<Read> words[]{
    {"inside", "The radius",
     [](SpecReader& r, Read& out) {
         out.radius = r.length("inside radius", "bend d8 90 inside 16");
         out.spec.inside = true;
     }},
    {"roll", "The roll",
     [](SpecReader& r, Read& out) {
         out.spec.roll = r.angle("An angle in degrees is expected here, for example roll 90.");
     }},
    {"d", "The diameter", diameter},
    {"Ø", "The diameter", diameter},
    {"r", "The radius", [](SpecReader& r, Read& out) { out.radius = r.length("radius", example); }},
    {"", "The angle",
     [](SpecReader& r, Read& out) {
         out.spec.angle = r.said() * pi / 180;
         r.take("°");
     },
     true},
};

} // namespace

bool is_bend(std::string_view text) {
    return Reader(text).take_word_ignoring_case("bend");
}

BendDesignation parse_bend(std::string_view text) {
    SpecReader r(text);
    r.take_word_ignoring_case("bend");
    Read out;
    out.unit = r.unit();
    read_words<Read>(
        r, out, {words},
        "This is not understood in a bend; write the bar's diameter, the angle, the radius to the "
        "centreline or inside, and roll, for example bend d8 90 r20 or bend d8 90 inside 16 roll "
        "90.",
        "");
    if (!r.given("The diameter") || !r.given("The angle") || !r.given("The radius"))
        throw InputError(
            std::string("A bend is said by the bar's diameter, its angle and its radius, for example ") +
                example + ".",
            text.size());
    out.spec.radius = out.spec.inside ? out.radius + out.spec.diameter / 2 : out.radius;
    try {
        (void)resolve_bend(out.spec);
    } catch (const InputError& e) {
        throw InputError(e.what(), text.size());
    }
    return out;
}

std::string write_bend(const BendSpec& s, LengthUnit unit) {
    const auto number = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    std::string out = "bend d" + number(s.diameter) + " " + number_text(s.angle * 180 / pi, 6) +
                      (s.inside ? " inside " + number(s.radius - s.diameter / 2) : " r" + number(s.radius));
    if (s.roll != 0) out += " roll " + number_text(s.roll * 180 / pi, 6);
    return out + (unit == LengthUnit::inch ? " in" : "");
}

DesignationKind bend_kind() {
    return {
        "bend",
        "Plain bars",
        {"Bend", "A round bar bent by an angle at a radius; straight zones beside it may carry any form."},
        "bend d8 90 ",
        [](std::span<const OwnSection>) {
            return std::vector<Usual>{
                {"bend d{8} {90} r{20}", "an elbow"},
                {"bend d{8} {180} r{20}", "a U"},
                {"bend d{8} {45} r{30}", "half an elbow"},
                {"bend d{8} {90} inside {16}", "by its inside radius"},
                {"bend d{8} {90} r{20} roll {90}", "out of the plane of the bend before"}};
        },
        is_bend,
        read_as<parse_bend>};
}

} // namespace whorl
