#include "check/form_checks.hpp"

#include "model/forms/knurl.hpp"
#include "quantity/about.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr double most_facets = 12000; // more no receiver opens in bearable time

double nearest_preferred(double pitch) {
    const auto& all = preferred_knurl_pitches();
    return *std::min_element(all.begin(), all.end(), [&](double a, double b) {
        return std::abs(std::log(a / pitch)) < std::abs(std::log(b / pitch));
    });
}

} // namespace

void check_form(const ResolvedKnurling&, const ZoneLook& look) {
    check_ends(look);
    const ResolvedZone& at = look.resolved();
    const ResolvedKnurl& k = *at.knurl();
    const double length = in_mm(at.length);
    if (const double facets = facet_count(k, length); !at.simplified() && facets > most_facets)
        look.stop("too_many_facets",
                  "This knurl would need " + about(facets) + " faces; at most " +
                      number_text(most_facets, 0) +
                      " are made. Choose a larger pitch or a shorter zone, or make the knurl simplified.",
                  facets, most_facets, look.edit("Simplified", field::geometry, "simplified"));
    const double asked = in_mm(k.spec.pitch), preferred = nearest_preferred(asked);
    if (!k.spec.teeth && std::abs(asked - preferred) > 1e-9)
        look.advise("pitch_not_preferred",
                    "No knurling wheel of DIN 82 has the pitch " + look.shown(asked) +
                        "; the nearest preferred one is " + number_text(preferred, 1) + " mm.",
                    asked, preferred,
                    look.edit("Pitch " + number_text(preferred, 1) + " mm", field::knurl_pitch,
                              number_text(preferred, 1)));
    if (k.teeth > 0 && !k.spec.teeth && std::abs(k.pitch / asked - 1) > 0.02)
        look.advise("pitch_moves",
                    "The nearest count that closes, " + std::to_string(k.teeth) + " teeth, makes the pitch " +
                        number_text(k.pitch, 3) + " mm, " +
                        number_text(100 * std::abs(k.pitch / asked - 1), 1) + " % off; on Ø " +
                        number_text(asked / k.pitch * 2 * k.radius, 3) + " mm it closes as asked.",
                    k.pitch, asked,
                    look.edit("Ø " + number_text(asked / k.pitch * 2 * k.radius, 3) + " mm", field::diameter,
                              number_text(asked / k.pitch * 2 * k.radius, 3)));
}

} // namespace whorl
