#include "check/groove_check.hpp"

#include "model/forms/groove.hpp"
#include "quantity/expression.hpp"
#include "standard/running_fit.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

void check_groove(std::vector<Finding>& out, const ResolvedZone& at, std::size_t piece, std::size_t zone,
                  LengthUnit unit) {
    const ResolvedGroove& g = *at.groove();
    const auto shown = [&](double millimetres) {
        return number_text(in_unit(mm(millimetres), unit), unit == LengthUnit::inch ? 4 : 3) + " " +
               symbol(unit);
    };
    const auto stop = [&](const char* id, std::string sentence, double value, double limit, std::string words,
                          Field field, double set) {
        out.push_back({Severity::stop, id, std::move(sentence), piece, zone, value, limit,
                       Remedy{std::move(words),
                              {Edit{piece, zone, field, number_text(set, 6), LengthUnit::millimetre}}}});
    };
    const double pitch = in_mm(g.spec.pitch), least_land = 0.001 * pitch;
    if (g.land() < least_land) {
        // a little more than the least that can be made, in hundredths
        const double wide = std::ceil((g.width / 0.98) * 100) / 100;
        return stop("groove_wider_than_pitch",
                    "The groove is " + shown(g.width) +
                        " wide along the axis and the next one follows after " + shown(pitch) +
                        ": they run into each other. A pitch of " + shown(wide) +
                        " leaves a land, or at most " + shown(0.98 * pitch) + " of width.",
                    g.width, pitch, "Pitch " + shown(wide), field::pitch, wide);
    }
    if (g.spec.shape == GrooveShape::trapezium && g.bottom < least_land) {
        const double deep = std::floor(g.width / 2 / std::tan(g.spec.angle / 2) * 0.95 * 1000) / 1000;
        return stop("groove_flanks_meet",
                    "The flanks meet before they are " + shown(g.depth) + " deep; at most " + shown(deep) +
                        " leaves a bottom.",
                    g.depth, deep, "Depth " + shown(deep), field::groove_depth, deep);
    }
    const double thinnest = std::min(in_mm(at.diameter), in_mm(at.far_diameter));
    if (g.spec.side == Side::external && g.depth > 0.49 * thinnest) {
        const double deep = std::floor(0.4 * thinnest * 100) / 100;
        stop("groove_too_deep",
             "The groove is " + shown(g.depth) + " deep and leaves no core of Ø " + shown(thinnest) +
                 "; at most " + shown(0.49 * thinnest) + " does.",
             g.depth, 0.49 * thinnest, "Depth " + shown(deep), field::groove_depth, deep);
    }
}

void check_pin(std::vector<Finding>& out, const Job& job, const Pair& pair, const ResolvedZone& bush,
               const ResolvedZone& pin) {
    const double bore = std::min(in_mm(bush.diameter), in_mm(bush.far_diameter)),
                 thick = std::max(in_mm(pin.diameter), in_mm(pin.far_diameter));
    const auto fit = standard::running_fit(mm(bore));
    if (thick < bore) return;
    const auto shown = [&](double millimetres) {
        return number_text(in_unit(mm(millimetres), job.unit), job.unit == LengthUnit::inch ? 5 : 4) + " " +
               symbol(job.unit);
    };
    std::string sentence = "The pin of Ø " + shown(thick) + " does not turn in the bush of Ø " + shown(bore);
    std::optional<Remedy> remedy;
    if (fit) {
        sentence += "; one between " + shown(bore - in_mm(fit->most)) + " and " +
                    shown(bore - in_mm(fit->least)) + " does (ISO 286-2, f7).";
        const double usual = bore - in_mm(fit->middle());
        remedy = Remedy{"Ø " + shown(usual),
                        {Edit{pair.second.piece, pair.second.zone, field::diameter, number_text(usual, 6),
                              LengthUnit::millimetre}}};
    } else {
        sentence += "; make it thinner. ISO 286-2 goes no farther than 500 mm.";
    }
    out.push_back({Severity::stop, "pin_does_not_go_in", std::move(sentence), pair.second.piece,
                   pair.second.zone, thick, bore, std::move(remedy)});
}

} // namespace whorl
