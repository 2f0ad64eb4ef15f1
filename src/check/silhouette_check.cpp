#include "check/silhouette_check.hpp"

#include "model/forms/silhouette.hpp"
#include "quantity/expression.hpp"

#include <cmath>

namespace whorl {

void check_silhouette(std::vector<Finding>& out, const ResolvedZone& at, std::size_t piece, std::size_t zone,
                      LengthUnit unit) {
    const ResolvedSilhouette& s = *at.silhouette();
    const auto shown = [&](double millimetres) {
        return number_text(in_unit(mm(millimetres), unit), unit == LengthUnit::inch ? 4 : 3) + " " +
               symbol(unit);
    };
    if (!s.spec.wall) return;
    const double asked = *s.spec.wall;
    if (s.least_wall < asked - 5e-3) {
        const double more = std::ceil((2 * asked - s.least_wall) * 100) / 100;
        out.push_back(
            {Severity::advice, "wall_thinner_than_asked",
             "The wall comes down to " + shown(s.least_wall) + " at " + shown(s.thinnest_at - s.z0) +
                 " above the hollow's bottom, where " + shown(asked) +
                 " was asked: the outside bends too tightly there. A wall of " + shown(more) +
                 " leaves about as much.",
             piece, zone, s.least_wall, asked,
             Remedy{"Wall " + shown(more),
                    {Edit{piece, zone, field::wall, number_text(more, 6), LengthUnit::millimetre}}}});
    }
    if (s.spec.smooth && s.thickest_wall > 3 * asked)
        out.push_back(
            {Severity::advice, "wall_much_thicker",
             "The wall is up to " + shown(s.thickest_wall) + " thick, more than three times the " +
                 shown(asked) +
                 " asked, since the hollow is smooth: moulded or printed parts sink in there. A fluted "
                 "inside keeps the wall even.",
             piece, zone, s.thickest_wall, 3 * asked,
             Remedy{"Fluted inside", {Edit{piece, zone, field::inside, "fluted", LengthUnit::millimetre}}}});
}

} // namespace whorl
