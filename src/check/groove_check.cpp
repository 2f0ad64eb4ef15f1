#include "check/form_checks.hpp"
#include "check/pair_checks.hpp"

#include "model/forms/groove.hpp"
#include "quantity/expression.hpp"
#include "standard/running_fit.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

void check_form(const ResolvedGrooving&, const ZoneLook& look) {
    check_ends(look);
    const ResolvedZone& at = look.resolved();
    const ResolvedGroove& g = *at.groove();
    const double pitch = in_mm(g.spec.pitch), least_land = 0.001 * pitch;
    if (g.land() < least_land) {
        // a little more than the least that can be made, in hundredths
        const double wide = std::ceil((g.width / 0.98) * 100) / 100;
        return look.stop("groove_wider_than_pitch",
                         "The groove is " + look.shown(g.width) +
                             " wide along the axis and the next one follows after " + look.shown(pitch) +
                             ": they run into each other. A pitch of " + look.shown(wide) +
                             " leaves a land, or at most " + look.shown(0.98 * pitch) + " of width.",
                         g.width, pitch, look.edit("Pitch " + look.shown(wide), field::pitch, wide));
    }
    if (g.spec.shape == GrooveShape::trapezium && g.bottom < least_land) {
        const double deep = std::floor(g.width / 2 / std::tan(g.spec.angle / 2) * 0.95 * 1000) / 1000;
        return look.stop("groove_flanks_meet",
                         "The flanks meet before they are " + look.shown(g.depth) + " deep; at most " +
                             look.shown(deep) + " leaves a bottom.",
                         g.depth, deep, look.edit("Depth " + look.shown(deep), field::groove_depth, deep));
    }
    const double thinnest = std::min(in_mm(at.diameter), in_mm(at.far_diameter));
    if (g.spec.side == Side::external && g.depth > 0.49 * thinnest) {
        const double deep = std::floor(0.4 * thinnest * 100) / 100;
        look.stop("groove_too_deep",
                  "The groove is " + look.shown(g.depth) + " deep and leaves no core of Ø " +
                      look.shown(thinnest) + "; at most " + look.shown(0.49 * thinnest) + " does.",
                  g.depth, 0.49 * thinnest,
                  look.edit("Depth " + look.shown(deep), field::groove_depth, deep));
    }
}

template<>
void check_pair<PairKind::bush_and_pin>(const Looking& look, const PairInJob& both) {
    const ResolvedZone &bush = both.first, &pin = both.second;
    const double bore = std::min(in_mm(bush.diameter), in_mm(bush.far_diameter)),
                 thick = std::max(in_mm(pin.diameter), in_mm(pin.far_diameter));
    const auto fit = standard::running_fit(mm(bore));
    if (thick < bore) return;
    const auto shown = [&](double millimetres) {
        return number_text(in_unit(mm(millimetres), look.unit), look.unit == LengthUnit::inch ? 5 : 4) + " " +
               symbol(look.unit);
    };
    std::string sentence = "The pin of Ø " + shown(thick) + " does not turn in the bush of Ø " + shown(bore);
    std::optional<Remedy> remedy;
    if (fit) {
        sentence += "; one between " + shown(bore - in_mm(fit->most)) + " and " +
                    shown(bore - in_mm(fit->least)) + " does (ISO 286-2, f7).";
        const double usual = bore - in_mm(fit->middle());
        remedy = look.edit("Ø " + shown(usual), field::diameter, usual);
    } else {
        sentence += "; make it thinner. ISO 286-2 goes no farther than 500 mm.";
    }
    look.stop("pin_does_not_go_in", std::move(sentence), thick, bore, std::move(remedy));
}

} // namespace whorl
