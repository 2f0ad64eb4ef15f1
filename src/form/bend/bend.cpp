#include "form/bend/bend.hpp"

#include "form/reader.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <cmath>
#include <numbers>

namespace whorl {
namespace {

constexpr double pi = std::numbers::pi;
constexpr const char* example = "bend d8 90 r20";

void require_between(double v, double least, double most, const char* what, const char* unit) {
    if (v >= least && v <= most) return;
    throw InputError(std::string("The ") + what + " is " + outside_text(v, least, most) + " " + unit +
                     "; it must be between " + number_text(least, 3) + " and " + number_text(most, 3) + " " +
                     unit + ".");
}

} // namespace

double least_bend_radius(double bar, double elongation) {
    return std::max(bar / elongation, 1.5 * bar);
}

ResolvedBend resolve_bend(const BendSpec& s) {
    require_between(in_mm(s.diameter), 0.1, 1000, "bent bar's diameter", "mm");
    require_between(s.angle * 180 / pi, 0.5, 360, "angle of a bend", "degrees");
    ResolvedBend b;
    b.spec = s;
    b.bar = in_mm(s.diameter) / 2;
    b.radius = in_mm(s.radius);
    b.angle = s.angle;
    if (!(b.radius > 1.02 * b.bar))
        throw InputError("A bend of radius " + number_text(b.radius, 3) +
                         " mm to its centreline is tighter than the bar, "
                         "which is " +
                         number_text(2 * b.bar, 3) + " mm thick, can go round; take more than " +
                         number_text(1.02 * b.bar, 3) + " mm.");
    require_between(b.radius, 0.1, 5000, "bend's radius", "mm");
    const auto add = [&](const char* key, const char* label, ValueKind kind, double value,
                         const std::string& source) {
        b.values.push_back({.key = key, .label = label, .kind = kind, .value = value, .source = source});
    };
    add("bend_radius", "Radius to the centreline", ValueKind::length, b.radius,
        s.inside ? "inside radius + half the bar" : "as asked");
    add("inside_radius", "Inside radius", ValueKind::length, b.radius - b.bar, "radius less half the bar");
    add("bend_length", "Length of the bend", ValueKind::length, b.length(), "R·φ along the centreline");
    add("outer_stretch", "Stretch outside, %", ValueKind::number, 100 * b.bar / b.radius,
        "d/(2R): the middle keeps its length");
    return b;
}

bool is_bend(std::string_view text) {
    Reader r(text);
    return r.take_word_ignoring_case("bend");
}

BendDesignation parse_bend(std::string_view text) {
    Reader r(text);
    r.take_word_ignoring_case("bend");
    BendDesignation out;
    // the unit stands last
    std::string_view body = text;
    while (!body.empty() && body.back() == ' ')
        body.remove_suffix(1);
    if (body.size() > 3 && body.ends_with(" in")) {
        out.unit = LengthUnit::inch;
        body.remove_suffix(3);
    }
    const auto number = [&](const char* what) {
        r.skip_blanks();
        return of_unit(r.positive(what, expected_here(what, example)), out.unit);
    };
    bool diameter = false, angle = false, radius = false, inside = false, roll = false;
    Length asked = mm(0);
    for (r.skip_blanks(); r.at() < body.size(); r.skip_blanks()) {
        const std::size_t from = r.at();
        const auto once = [&](bool& given, const char* what) {
            if (given) r.refuse_from(from, std::string(what) + " is said a second time; write it once.");
            given = true;
        };
        if (r.take_word_ignoring_case("inside")) {
            once(radius, "The radius");
            asked = number("inside radius");
            inside = true;
        } else if (r.take_word_ignoring_case("roll")) {
            once(roll, "The roll");
            r.skip_blanks();
            const bool minus = r.take("-");
            const auto v = r.take_decimal();
            if (!v) r.refuse("An angle in degrees is expected here, for example roll 90.");
            out.spec.roll = (minus ? -*v : *v) * pi / 180;
            r.take("°");
        } else if (r.take("d") || r.take("D") || r.take("Ø")) {
            once(diameter, "The diameter");
            out.spec.diameter = number("diameter");
        } else if (r.take("r") || r.take("R")) {
            once(radius, "The radius");
            asked = number("radius");
        } else if (const auto v = r.take_decimal()) {
            once(angle, "The angle");
            out.spec.angle = *v * pi / 180;
            r.take("°");
        } else {
            r.refuse(
                "This is not understood in a bend; write the bar's diameter, the angle, the radius to the "
                "centreline or inside, and roll, for example bend d8 90 r20 or bend d8 90 inside 16 roll "
                "90.");
        }
    }
    if (!diameter || !angle || !radius)
        throw InputError(
            std::string("A bend is said by the bar's diameter, its angle and its radius, for example ") +
                example + ".",
            text.size());
    out.spec.inside = inside;
    out.spec.radius = inside ? asked + out.spec.diameter / 2 : asked;
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

} // namespace whorl
