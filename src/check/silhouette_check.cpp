#include "check/form_checks.hpp"

#include "model/forms/silhouette.hpp"
#include "quantity/expression.hpp"

#include <cmath>

namespace whorl {

void check_form(const ResolvedShape&, const ZoneLook& look) {
    check_ends(look);
    const ResolvedSilhouette& s = *look.resolved().silhouette();
    if (!s.spec.wall) return;
    const double asked = *s.spec.wall;
    if (s.least_wall < asked - 5e-3) {
        const double more = std::ceil((2 * asked - s.least_wall) * 100) / 100;
        look.advise("wall_thinner_than_asked",
                    "The wall comes down to " + look.shown(s.least_wall) + " at " +
                        look.shown(s.thinnest_at - s.z0) + " above the hollow's bottom, where " +
                        look.shown(asked) + " was asked: the outside bends too tightly there. A wall of " +
                        look.shown(more) + " leaves about as much.",
                    s.least_wall, asked, look.edit("Wall " + look.shown(more), field::wall, more));
    }
    if (s.spec.smooth && s.thickest_wall > 3 * asked)
        look.advise(
            "wall_much_thicker",
            "The wall is up to " + look.shown(s.thickest_wall) + " thick, more than three times the " +
                look.shown(asked) +
                " asked, since the hollow is smooth: moulded or printed parts sink in there. A fluted "
                "inside keeps the wall even.",
            s.thickest_wall, 3 * asked, look.edit("Fluted inside", field::inside, "fluted"));
}

} // namespace whorl
