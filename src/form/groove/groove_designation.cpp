#include "form/groove/section_points.hpp"
#include "form/kinds.hpp"
#include "form/spec_reader.hpp"
#include "quantity/numeric.hpp"

namespace whorl {
namespace {

using Read = GrooveDesignation;

// Its shape, and the numbers that stand behind that.
void take_shape(SpecReader& r, GrooveSpec& s) {
    bool known = false;
    for (int i = 0; i < groove_shape_count && !known; ++i) {
        s.shape = static_cast<GrooveShape>(i);
        known = r.take_word_ignoring_case(word(s.shape));
    }
    if (!known)
        r.refuse(
            "A groove is rect, round, vee, trapezium or own, for example groove rect 2 x 1.5 pitch 25 on "
            "30 x 300, or groove own 0:0 1:1.5 3:1.5 4:0 pitch 10 on 30 x 60.");
    s.depth.reset();
    if (s.shape == GrooveShape::own) {
        const std::size_t from = r.at();
        s.points = take_section_points(r, r.unit());
        try {
            require_groove(s.points);
        } catch (const InputError& e) {
            r.refuse_from(from, e.what());
        }
    } else if (s.shape == GrooveShape::vee) {
        s.angle = r.angle("An angle is expected here, for example groove vee 60 1.");
        r.skip_blanks();
        const bool times = r.take_times();
        r.skip_blanks();
        if (times || r.peek() == '(' || (r.peek() >= '0' && r.peek() <= '9'))
            s.depth = r.length("depth", "groove vee 60 1");
    } else {
        s.width = r.length("width", "groove rect 2 x 1.5");
        if (s.shape == GrooveShape::trapezium)
            s.angle = r.angle("An angle is expected here, for example groove trapezium 4 30 x 1.5.");
        r.skip_blanks();
        if (r.take_times()) s.depth = r.length("depth", "groove rect 2 x 1.5");
    }
}

constexpr auto left_hand = [](SpecReader&, Read& out) { out.spec.hand = Hand::left; };
constexpr auto right_hand = [](SpecReader&, Read& out) { out.spec.hand = Hand::right; };
constexpr auto starts = [](SpecReader& r, Read& out) {
    out.spec.starts = r.said_whole(0, 1000000, "The number of starts is a whole number.");
};
constexpr SpecWord<Read> words[]{
    {"pitch", "The pitch", [](SpecReader& r, Read& out) { out.spec.pitch = r.length("pitch", "pitch 25"); }},
    {"on", "The diameter",
     [](SpecReader& r, Read& out) { out.spec.diameter = r.length("diameter", "on 30 x 300"); }},
    {"in", "The diameter",
     [](SpecReader& r, Read& out) {
         out.spec.side = Side::internal;
         out.spec.diameter = r.length("diameter", "in 30 x 300");
     }},
    {"across", "The diameter across the bottoms",
     [](SpecReader& r, Read& out) { out.spec.across = r.length("diameter", "across 33"); }},
    {"x", "The length", [](SpecReader& r, Read& out) { out.length = r.length("length", "x 300"); }},
    {"LH", "The hand", left_hand},
    {"RH", "The hand", right_hand},
    {"mm", nullptr, [](SpecReader&, Read&) {}},
    {"starts", "The number of starts", starts, true},
    {"start", "The number of starts", starts, true},
};

} // namespace

bool is_groove(std::string_view text) {
    return Reader(text).take_word_ignoring_case("groove");
}

GrooveDesignation parse_groove(std::string_view text) {
    SpecReader r(text);
    r.take_word_ignoring_case("groove");
    r.skip_blanks();
    Read out;
    out.unit = r.unit();
    GrooveSpec& s = out.spec;
    take_shape(r, s);
    read_words<Read>(r, out, {words},
                     "This is not understood in a groove; write pitch, on or in Ø x length, across, starts, "
                     "LH, for example groove rect 2 x 1.5 pitch 25 on 30 x 300.",
                     "What is this number? Write for example 3 starts, pitch 25 or on 30 x 300.");
    if (!r.given("The diameter"))
        r.refuse("A groove needs the diameter it is cut into, for example on 30 x 300, or in 30 of a bore.");
    if (!r.given("The pitch")) r.refuse("A groove needs its pitch along the axis, for example pitch 25.");
    if (s.depth && s.across)
        r.refuse("A groove has its depth or the diameter across its bottoms; the other follows. Write one of "
                 "them.");
    const bool own = s.shape == GrooveShape::own;
    if (own && s.across)
        r.refuse("A groove of one's own has the depth of its points; say their depths instead of across.");
    if (!s.depth && !s.across && s.shape != GrooveShape::round && !own)
        r.refuse("A groove needs its depth, as in groove rect 2 x 1.5, or the diameter across its bottoms, "
                 "as across 33.");
    (void)resolve_groove(s);
    return out;
}

std::string write_groove(const GrooveSpec& s, std::optional<Length> length, LengthUnit unit) {
    const auto text = [&](Length l) { return number_text(in_unit(l, unit), 6); };
    std::string out = "groove " + std::string(word(s.shape));
    const std::string angle = number_text(s.angle * 180 / pi, 6);
    if (s.shape == GrooveShape::own) {
        out += " " + write_section_points(s.points, unit);
    } else if (s.shape == GrooveShape::vee) {
        out += " " + angle;
        if (s.depth) out += " " + text(*s.depth);
    } else {
        out += " " + text(s.width);
        if (s.shape == GrooveShape::trapezium) out += " " + angle;
        if (s.depth) out += " x " + text(*s.depth);
    }
    out += " pitch " + text(s.pitch) + (s.side == Side::internal ? " in " : " on ") + text(s.diameter);
    if (s.across) out += " across " + text(*s.across);
    if (length) out += " x " + text(*length);
    if (s.starts > 1) out += ", " + std::to_string(s.starts) + " starts";
    if (s.hand == Hand::left) out += " LH";
    if (unit == LengthUnit::inch) out += " in";
    return out;
}

namespace {
std::vector<Usual> usual_grooves(std::span<const OwnSection>) {
    return {{"groove round {4.2} pitch {4.5} on {60} x {40}", "a rope drum's, half-round"},
            {"groove rect {2} x {1.5} pitch {25} on {30} x {100}", "a keyway that winds"},
            {"groove rect {2} pitch {25} in {30} across {33} x {60}", "in a tube's bore"},
            {"groove round {3} x {1} pitch {20} in {20} x {30}, {2} starts", "oil grooves in a bush"},
            {"groove vee {60} {1} pitch {6} on {20} x {40}, {3} starts LH", "three sharp ones, left-hand"},
            {"groove trapezium {4} {30} x {1.5} pitch {10} on {40} x {60}", "flanks aslant"},
            {"groove round {6} x {2} pitch {40} on {30} x {60}, {4} starts", "a fluted shank"}};
}
} // namespace

DesignationKind groove_kind() {
    return {"groove",
            "Surfaces",
            {"Helical groove", "Of any pitch, one to sixty starts, outside or in a bore.",
             "groove round 4.2 pitch 4.5 on 40 x 30"},
            "groove round 4.2 ",
            usual_grooves,
            is_groove,
            read_as<parse_groove>,
            true};
}

} // namespace whorl
