#include "form/kinds.hpp"
#include "form/spec_reader.hpp"
#include "quantity/input_error.hpp"

#include <cctype>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

constexpr double to_rad = std::numbers::pi / 180;
constexpr const char* examples =
    "Write for example silhouette 0:30 60:38 180:16, silhouette 0:38 200:38, 8 flutes 4 deep, twist 60, or "
    "hollow 1.5 bottom 3.";

bool is_blank(char c) {
    return c == ' ' || c == '\t' || c == ';';
}

double tangent(double degrees, std::size_t at, std::size_t size) {
    if (!(std::abs(degrees) <= 88))
        throw InputError("A slope is between -88° and 88° to the axis.", at, size);
    return std::tan(degrees * to_rad);
}

// One point of a text, "60:38" or "140:24:0".
CurvePoint point_of(std::string_view word, std::size_t at, LengthUnit unit, const Names& names) {
    std::vector<std::string_view> parts;
    for (std::size_t from = 0;;) {
        const std::size_t colon = word.find(':', from);
        parts.push_back(word.substr(from, colon == std::string_view::npos ? colon : colon - from));
        if (colon == std::string_view::npos) break;
        from = colon + 1;
    }
    if (parts.size() < 2 || parts.size() > 3)
        throw InputError(
            "'" + std::string(word) +
                "' is no point; write height:radius, or height:radius:angle for the tangent's angle to "
                "the axis, such as 60:38 or 140:24:0.",
            at, word.size());
    const auto read = [&](std::string_view part, auto evaluate) {
        const std::size_t place = at + static_cast<std::size_t>(part.data() - word.data());
        if (part.empty())
            throw InputError("A number is missing here; write height:radius, such as 60:38.", at,
                             word.size());
        try {
            return evaluate(part);
        } catch (const InputError& e) {
            throw InputError(e.what(), place + e.position, e.extent);
        }
    };
    CurvePoint p;
    p.at = in_mm(read(parts[0], [&](std::string_view t) { return evaluate_length(t, unit, names); }));
    p.value = in_mm(read(parts[1], [&](std::string_view t) { return evaluate_length(t, unit, names); }));
    if (parts.size() == 3)
        p.slope =
            tangent(in_deg(read(parts[2], [&](std::string_view t) { return evaluate_angle(t, names); })), at,
                    word.size());
    return p;
}

// The points that stand here; stops at the first word without a colon.
std::vector<CurvePoint> take_points(SpecReader& r) {
    std::vector<CurvePoint> out;
    for (r.skip_blanks(); !r.done(); r.skip_blanks()) {
        const std::string_view rest = r.rest();
        std::size_t size = 0;
        while (size < rest.size() && !is_blank(rest[size]) && rest[size] != ',')
            ++size;
        const std::string_view word = rest.substr(0, size);
        if (word.find(':') == std::string_view::npos) break;
        out.push_back(point_of(word, r.at(), r.unit(), {}));
        r.move_to(r.at() + size);
    }
    return out;
}

std::string number(double v) {
    return number_text(v, 6);
}

struct Read : SilhouetteDesignation {
    FluteSpec flutes;
    std::optional<std::size_t> flute_word; // where something was said of flutes
};

double length(SpecReader& r, const char* what, const char* example) {
    return in_mm(r.length(what, example));
}
FluteSpec& flutes(SpecReader& r, Read& out) {
    out.flute_word = r.word_at();
    return out.flutes;
}

constexpr SpecWord<Read> hollow_words[]{
    {"bottom", "The bottom",
     [](SpecReader& r, Read& out) { out.spec.bottom = length(r, "bottom", "bottom 3"); }},
    {"smooth", "smooth", [](SpecReader&, Read& out) { out.spec.smooth = true; }},
    {"dish", "The dish", [](SpecReader& r, Read& out) { out.spec.dish = length(r, "radius", "dish 60"); }},
};

constexpr SpecWord<Read> words[]{
    {"spline", "The course", [](SpecReader&, Read& out) { out.spec.course = Course::spline; }},
    {"monotone", "The course", [](SpecReader&, Read& out) { out.spec.course = Course::monotone; }},
    {"arcs", "The course", [](SpecReader&, Read& out) { out.spec.course = Course::arcs; }},
    {"wall", "The wall",
     [](SpecReader& r, Read& out) { out.spec.wall = length(r, "wall", "wall 1.5 bottom 3"); }},
    {"x", "The length", [](SpecReader& r, Read& out) { out.length = r.length("length", "x 200"); }},
    {"flutes", "The number of flutes",
     [](SpecReader& r, Read& out) {
         out.flutes.count = r.said_whole(0, 1000000, "The number of flutes is a whole number.");
     },
     true},
    {"deep", "The depth of the flutes",
     [](SpecReader& r, Read& out) {
         flutes(r, out).depth = in_mm(of_unit(r.said(), r.unit()));
         out.flutes.depths.clear();
     },
     true},
    {"depth", "The depth of the flutes",
     [](SpecReader& r, Read& out) {
         flutes(r, out).depths = take_points(r);
         if (out.flutes.depths.empty())
             r.refuse("The depths of flutes are points, height:depth, for example depth 20:0 60:4 140:4 "
                      "170:0.");
     }},
    {"twist", "The twist",
     [](SpecReader& r, Read& out) {
         double& twist = flutes(r, out).twist;
         twist = r.angle("An angle is expected here, for example twist 60.");
         r.skip_blanks();
         if (r.take_word_ignoring_case("LH")) twist = -twist;
     }},
    {"from", "from",
     [](SpecReader& r, Read& out) { flutes(r, out).from = in_mm(r.any_length("height", "from 20")); }},
    {"to", "to", [](SpecReader& r, Read& out) { flutes(r, out).to = length(r, "height", "to 170"); }},
    {"ridges", "ridges",
     [](SpecReader& r, Read& out) { flutes(r, out).ridge = length(r, "radius", "ridges 1.5"); }},
    {"turned", "turned",
     [](SpecReader& r, Read& out) {
         flutes(r, out).turned = r.angle("An angle is expected here, for example turned 15.");
     }},
};

} // namespace

std::vector<CurvePoint> parse_points(std::string_view text, LengthUnit unit, const Names& names) {
    std::vector<CurvePoint> out;
    for (std::size_t at = 0; at < text.size();) {
        if (is_blank(text[at])) {
            ++at;
            continue;
        }
        std::size_t end = at;
        while (end < text.size() && !is_blank(text[end]))
            ++end;
        std::string_view word = text.substr(at, end - at);
        if (word.ends_with(',')) word.remove_suffix(1);
        out.push_back(point_of(word, at, unit, names));
        at = end;
    }
    return out;
}

std::string write_points(const std::vector<CurvePoint>& points, LengthUnit unit) {
    std::string out;
    for (const CurvePoint& p : points) {
        if (!out.empty()) out += ' ';
        out += number(in_unit(mm(p.at), unit)) + ":" + number(in_unit(mm(p.value), unit));
        if (p.slope) out += ":" + number(std::atan(*p.slope) / to_rad);
    }
    return out;
}

bool is_silhouette(std::string_view text) {
    Reader r(text);
    r.skip_blanks();
    return r.take_word_ignoring_case("silhouette") || r.take_word_ignoring_case("hollow");
}

SilhouetteDesignation parse_silhouette(std::string_view text, std::size_t usual_to) {
    SpecReader r(text);
    r.usual_to(usual_to);
    Read out;
    out.unit = r.unit();
    SilhouetteSpec& s = out.spec;
    s.bottom = in_mm(of_unit(out.unit == LengthUnit::inch ? 0.125 : 3, out.unit)); // unless one is said
    r.skip_blanks();
    if (r.take_word_ignoring_case("hollow")) {
        s.points.clear();
        s.in_bore = true;
        s.wall = length(r, "wall", "hollow 1.5 bottom 3");
        const char* unknown =
            "This is not understood in a hollow; write for example hollow 1.5 bottom 3, or smooth for one "
            "without flutes.";
        read_words<Read>(r, out, {hollow_words}, unknown, unknown);
        return out;
    }
    r.take_word_ignoring_case("silhouette");
    r.skip_blanks();
    s.in_bore = r.take_word_ignoring_case("in");
    s.points = take_points(r);
    if (s.points.size() < 2)
        r.refuse("A silhouette goes through two points or more, height:radius. " + std::string(examples));
    read_words<Read>(r, out, {words, hollow_words},
                     "This is not understood in a silhouette. " + std::string(examples),
                     "What is this number? Write for example 8 flutes 4 deep, or x 200 for the length.");
    const bool fluted = r.given("The number of flutes");
    if (out.flute_word && !fluted)
        r.refuse_from(*out.flute_word,
                      "That is said of flutes; say how many there are, for example 8 flutes 4 deep.");
    if (s.wall && s.in_bore)
        r.refuse("A silhouette in a bore has no wall of its own; write hollow 1.5 bottom 3 for one that "
                 "follows the outside.");
    if (fluted) s.flutes = out.flutes;
    SilhouetteSpec alone = s;
    alone.wall = {};
    (void)resolve_silhouette(alone, 0, out.length ? in_mm(*out.length) : s.points.back().at);
    return out;
}

std::string write_silhouette(const SilhouetteSpec& s, std::optional<Length> length, LengthUnit unit) {
    const auto size = [&](double millimetres) { return number(in_unit(mm(millimetres), unit)); };
    const std::string in = unit == LengthUnit::inch ? " in" : "";
    const auto hollow = [&] {
        return size(*s.wall) + " bottom " + size(s.bottom) +
               (s.dish ? " dish " + size(*s.dish) : std::string()) + (s.smooth ? " smooth" : "");
    };
    if (s.wall && s.points.empty()) return "hollow " + hollow() + in;
    std::string out = std::string("silhouette ") + (s.in_bore ? "in " : "") + write_points(s.points, unit);
    if (s.course != Course::spline) out += " " + std::string(word(s.course));
    if (length && std::abs(in_mm(*length) - s.points.back().at) > 1e-9) out += " x " + size(in_mm(*length));
    if (s.flutes) {
        const FluteSpec& f = *s.flutes;
        out += ", " + std::to_string(f.count) + " flutes";
        out += f.depths.empty() ? " " + size(f.depth) + " deep" : ", depth " + write_points(f.depths, unit);
        if (f.twist != 0) out += ", twist " + number(std::abs(f.twist) / to_rad) + (f.twist < 0 ? " LH" : "");
        if (f.from) out += ", from " + size(*f.from);
        if (f.to) out += ", to " + size(*f.to);
        if (f.ridge > 0) out += ", ridges " + size(f.ridge);
        if (f.turned != 0) out += ", turned " + number(f.turned / to_rad);
    }
    if (s.wall) out += ", wall " + hollow();
    return out + in;
}

namespace {
std::vector<Usual> usual_silhouettes(std::span<const OwnSection>) {
    return {{"silhouette 0:{12} 8:{16} 22:{10} 40:{14:0}", "a knob, a curve through four points"},
            {"silhouette 0:{30} 60:{38} 140:{24} 180:{16:0}", "the tangent's angle said at its end"},
            {"silhouette 0:{8} 10:{20} 30:{20} 40:{8} monotone", "nothing beyond its points"},
            {"silhouette 0:{20} 30:{25} 60:{20} arcs", "arcs that touch each other"},
            {"silhouette 0:{38} 100:{38}, {8} flutes {4} deep, twist {60}, from {8}, wall {2} bottom {3}",
             "fluted and hollow"},
            {"silhouette 0:{12} 60:{10}, {6} flutes {2} deep", "a handle, its flutes straight"}};
}
} // namespace

DesignationKind silhouette_kind() {
    return {"silhouette",
            "Surfaces",
            {"Silhouette", "A curve through points, turned; fluted and hollow if you ask.",
             "silhouette 0:20 30:26 70:16 90:18, 8 flutes 3 deep, twist 60, from 8 to 84"},
            "silhouette 0:12 ",
            usual_silhouettes,
            is_silhouette,
            [](std::string_view text) { return read_as<parse_silhouette>(text, 0); },
            true};
}

} // namespace whorl
