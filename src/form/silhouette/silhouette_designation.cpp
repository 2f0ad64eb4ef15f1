#include "form/reader.hpp"
#include "form/silhouette/silhouette.hpp"
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
std::vector<CurvePoint> take_points(Reader& r) {
    std::vector<CurvePoint> out;
    for (r.skip_blanks(); !r.done(); r.skip_blanks()) {
        const std::string_view rest = r.rest();
        std::size_t size = 0;
        while (size < rest.size() && !is_blank(rest[size]) && rest[size] != ',')
            ++size;
        const std::string_view word = rest.substr(0, size);
        if (word.find(':') == std::string_view::npos) break;
        out.push_back(point_of(word, r.at(), LengthUnit::millimetre, {}));
        r.move_to(r.at() + size);
    }
    return out;
}

std::string number(double v) {
    return number_text(v, 6);
}

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

SilhouetteDesignation parse_silhouette(std::string_view text) {
    Reader r(text);
    SilhouetteDesignation out;
    SilhouetteSpec& s = out.spec;
    const auto value = [&](const char* what, const char* example, bool may_be_negative = false) {
        r.skip_blanks();
        const bool minus = may_be_negative && r.take("-");
        const double v = may_be_negative && r.peek() == '0' &&
                                 !std::isdigit(static_cast<unsigned char>(r.peek(1))) && r.peek(1) != '.'
                             ? (r.take("0"), 0.0)
                             : r.positive(what, expected_here(what, example));
        r.take("°");
        return minus ? -v : v;
    };
    r.skip_blanks();
    const bool hollow = r.take_word_ignoring_case("hollow");
    if (hollow) {
        s.points.clear();
        s.in_bore = true;
        s.wall = value("wall", "hollow 1.5 bottom 3");
    } else {
        r.take_word_ignoring_case("silhouette");
        r.skip_blanks();
        s.in_bore = r.take_word_ignoring_case("in");
        s.points = take_points(r);
        if (s.points.size() < 2)
            r.refuse("A silhouette goes through two points or more, height:radius. " + std::string(examples));
    }
    FluteSpec flutes;
    bool fluted = false, needs_flutes = false;
    std::size_t flute_word = 0;
    for (r.skip_blanks(); !r.done(); r.skip_blanks()) {
        const std::size_t from = r.at();
        const auto is_flutes = [&] {
            needs_flutes = true;
            flute_word = from;
        };
        if (r.take(",")) continue;
        bool known = false;
        for (int c = 0; c < course_count && !known && !hollow; ++c)
            if (r.take_word_ignoring_case(word(static_cast<Course>(c)))) {
                s.course = static_cast<Course>(c);
                known = true;
            }
        if (known) continue;
        if (r.take_word_ignoring_case("bottom")) {
            s.bottom = value("bottom", "bottom 3");
        } else if (r.take_word_ignoring_case("smooth")) {
            s.smooth = true;
        } else if (r.take_word_ignoring_case("dish")) {
            s.dish = value("radius", "dish 60");
        } else if (hollow) {
            r.refuse("This is not understood in a hollow; write for example hollow 1.5 bottom 3, or smooth "
                     "for one "
                     "without flutes.");
        } else if (r.take_word_ignoring_case("wall")) {
            s.wall = value("wall", "wall 1.5 bottom 3");
        } else if (r.take_word_ignoring_case("twist")) {
            is_flutes();
            flutes.twist = value("twist", "twist 60", true) * to_rad;
            r.skip_blanks();
            if (r.take_word_ignoring_case("LH")) flutes.twist = -flutes.twist;
        } else if (r.take_word_ignoring_case("from")) {
            is_flutes();
            flutes.from = value("height", "from 20", true);
        } else if (r.take_word_ignoring_case("to")) {
            is_flutes();
            flutes.to = value("height", "to 170");
        } else if (r.take_word_ignoring_case("ridges")) {
            is_flutes();
            flutes.ridge = value("radius", "ridges 1.5");
        } else if (r.take_word_ignoring_case("turned")) {
            is_flutes();
            flutes.turned = value("angle", "turned 15", true) * to_rad;
        } else if (r.take_word_ignoring_case("depth")) {
            is_flutes();
            flutes.depths = take_points(r);
            if (flutes.depths.empty())
                r.refuse("The depths of flutes are points, height:depth, for example depth 20:0 60:4 140:4 "
                         "170:0.");
        } else if (r.take_times()) {
            out.length = value("length", "x 200");
        } else if (std::isdigit(static_cast<unsigned char>(r.peek()))) {
            const double n = value("number", "8 flutes 4 deep");
            r.skip_blanks();
            if (r.take_word_ignoring_case("deep")) {
                flutes.depth = n;
                is_flutes();
            } else if (r.take_word_ignoring_case("flutes") && n == std::floor(n)) {
                flutes.count = static_cast<int>(std::min(n, 1e6));
                fluted = true;
            } else {
                r.refuse_from(
                    from, "What is this number? Write for example 8 flutes 4 deep, or x 200 for the length.");
            }
        } else {
            r.refuse("This is not understood in a silhouette. " + std::string(examples));
        }
    }
    if (needs_flutes && !fluted)
        r.refuse_from(flute_word,
                      "That is said of flutes; say how many there are, for example 8 flutes 4 deep.");
    if (s.wall && !hollow && s.in_bore)
        r.refuse("A silhouette in a bore has no wall of its own; write hollow 1.5 bottom 3 for one that "
                 "follows the "
                 "outside.");
    if (fluted) s.flutes = flutes;
    if (!hollow) {
        SilhouetteSpec alone = s;
        alone.wall = {};
        (void)resolve_silhouette(alone, 0, out.length.value_or(s.points.back().at));
    }
    return out;
}

std::string write_silhouette(const SilhouetteSpec& s, std::optional<double> length) {
    std::string out;
    const auto hollow = [&] {
        return number(*s.wall) + " bottom " + number(s.bottom) +
               (s.dish ? " dish " + number(*s.dish) : std::string()) + (s.smooth ? " smooth" : "");
    };
    if (s.wall && s.points.empty()) return "hollow " + hollow();
    out = std::string("silhouette ") + (s.in_bore ? "in " : "") + write_points(s.points);
    if (s.course != Course::spline) out += " " + std::string(word(s.course));
    if (length && std::abs(*length - s.points.back().at) > 1e-9) out += " x " + number(*length);
    if (s.flutes) {
        const FluteSpec& f = *s.flutes;
        out += ", " + std::to_string(f.count) + " flutes";
        out += f.depths.empty() ? " " + number(f.depth) + " deep" : ", depth " + write_points(f.depths);
        if (f.twist != 0) out += ", twist " + number(std::abs(f.twist) / to_rad) + (f.twist < 0 ? " LH" : "");
        if (f.from) out += ", from " + number(*f.from);
        if (f.to) out += ", to " + number(*f.to);
        if (f.ridge > 0) out += ", ridges " + number(f.ridge);
        if (f.turned != 0) out += ", turned " + number(f.turned / to_rad);
    }
    if (s.wall) out += ", wall " + hollow();
    return out;
}

} // namespace whorl
