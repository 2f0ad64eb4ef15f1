#include "form/bend/bend.hpp"

#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <cmath>

namespace whorl {
namespace {

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

} // namespace whorl
