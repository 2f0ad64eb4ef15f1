// Splines: teeth that can't be, modules and shifts that the standard hasn't; shaft and hub.
#include "check/form_checks.hpp"
#include "check/pair_checks.hpp"
#include "model/forms/spline.hpp"
#include "pair/spline_fit.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

void check_listed_module(const ZoneLook& look, const SplineSpec& s) {
    const bool din = s.reference_diameter.has_value();
    const auto& known = spline_modules(din);
    const double m = in_mm(s.module);
    const double nearest =
        *std::ranges::min_element(known, {}, [&](double other) { return std::abs(std::log(other / m)); });
    if (std::abs(nearest - m) < 1e-6) return;
    look.advise("module_not_listed",
                "Module " + number_text(m, 4) + " is not one of " + (din ? "DIN 5480" : "ISO 4156") +
                    "; broaches and hobs for it are made to order. The nearest is " +
                    number_text(nearest, 3) + ".",
                m, nearest, look.edit("Module " + number_text(nearest, 3), field::module, nearest));
}

void check_shift(const ZoneLook& look, const ResolvedSpline& spline) {
    const SplineSpec& s = spline.spec;
    if (!s.reference_diameter ||
        (spline.shift >= least_spline_shift - 1e-9 && spline.shift <= most_spline_shift + 1e-9))
        return;
    std::optional<Remedy> remedy;
    const auto usual = usual_spline_teeth(*s.reference_diameter, s.module);
    if (usual) remedy = look.edit(std::to_string(*usual) + " teeth", field::teeth, std::to_string(*usual));
    look.advise("shift_out_of_range",
                "With " + std::to_string(s.teeth) +
                    " teeth this reference diameter needs a profile shift of " +
                    number_text(spline.shift, 3) + "; by DIN 5480 it lies between −0.05 and 0.45" +
                    (usual ? ", as with " + std::to_string(*usual) + " teeth." : "."),
                spline.shift, spline.shift < 0 ? least_spline_shift : most_spline_shift, std::move(remedy));
}

Remedy shaped_root(const ZoneRef& shaft) {
    return {"Shaft with a shaped root",
            {{shaft.piece, shaft.zone, field::spline_root, "shaped", LengthUnit::millimetre}}};
}

// What a slip fit of this module has, about 0.03 modules, mm.
double rounded_play(double module) {
    return std::max(0.02, std::round(3 * module) / 100);
}

} // namespace

void check_form(const ResolvedSplining& form, const ZoneLook& look) {
    check_ends(look);
    const ResolvedSpline& spline = form.spline;
    const ResolvedGear& g = spline.gear;
    if (g.trouble != ToothTrouble::none) {
        std::optional<Remedy> remedy;
        if (spline.spec.reference_diameter)
            if (const auto usual = usual_spline_teeth(*spline.spec.reference_diameter, spline.spec.module);
                usual && *usual != spline.spec.teeth)
                remedy = look.edit(std::to_string(*usual) + " teeth", field::teeth, std::to_string(*usual));
        look.stop("no_spline_teeth",
                  "These numbers leave no whole tooth between Ø " + look.shown(2 * g.root_radius) +
                      " and Ø " + look.shown(2 * g.tip_radius) +
                      "; take more teeth, or the usual number for this diameter.",
                  spline.spec.teeth, 0, std::move(remedy));
        return;
    }
    check_listed_module(look, spline.spec);
    check_shift(look, spline);
    const ResolvedZone& z = look.resolved();
    if (z.in_bore()) return;
    for (const ResolvedZone& bore : look.whole.zones) {
        if (!bore.in_bore() || bore.end() <= z.start || bore.start >= z.end()) continue;
        const double wall = g.root_radius - in_mm(bore.largest_radius()), least = in_mm(spline.spec.module);
        if (wall >= least || wall <= 0) continue;
        look.advise("thin_rim",
                    "Only " + look.shown(wall) + " of wall is left between the roots (Ø " +
                        look.shown(2 * g.root_radius) +
                        ") and the bore; the teeth want at least one module (" + look.shown(least) +
                        ") under them.",
                    wall, least, {});
    }
}

template<>
void check_pair<PairKind::spline>(const Looking& look, const PairInJob& both) {
    const bool hub_second = both.second.in_bore();
    const ResolvedZone &shaft = hub_second ? both.first : both.second,
                       &hub = hub_second ? both.second : both.first;
    if (shaft.gear()->trouble != ToothTrouble::none || hub.gear()->trouble != ToothTrouble::none) return;
    const SplineFit fit = spline_fit(*shaft.spline(), *hub.spline(), std::min(shaft.length, hub.length));
    for (const PairMistake& m : fit.mistakes) {
        std::optional<Remedy> remedy;
        const SplineSpec& other = both.first.spline()->spec;
        if (m.id == "teeth")
            remedy =
                look.edit(std::to_string(other.teeth) + " teeth", field::teeth, std::to_string(other.teeth));
        if (m.id == "module")
            remedy = look.edit("Module " + number_text(in_mm(other.module), 4), field::module,
                               in_mm(other.module));
        if (m.id == "reference_diameter" && other.reference_diameter)
            remedy = look.edit("Reference Ø " + number_text(in_mm(*other.reference_diameter), 4),
                               field::reference_diameter, in_mm(*other.reference_diameter));
        look.stop("spline_" + m.id, m.sentence + " They do not go together.", m.value, m.limit,
                  std::move(remedy));
    }
    if (!fit.goes_together()) return;
    if (fit.form_clearance < 0)
        look.advise("spline_form_clearance",
                    "A tip reaches " + look.shown(-fit.form_clearance) +
                        " into where the other's fillet begins. Cut the deeper root of shaping, or check the "
                        "cutter's own "
                        "tip radius.",
                    fit.form_clearance, 0,
                    shaft.spline()->spec.reference_diameter && shaft.spline()->root != SplineRoot::shaped
                        ? std::optional(shaped_root(hub_second ? both.pair.first : both.pair.second))
                        : std::nullopt);
    if (fit.flank_clearance > 1e-6) return;
    const double play = rounded_play(in_mm(shaft.spline()->spec.module));
    look.advise("spline_no_clearance",
                "Shaft and hub are both made at their basic size: nothing is left between their flanks. Give "
                "them classes "
                "(ISO 4156) or take something off the teeth.",
                0, play,
                look.edit("Take " + number_text(play, 3) + " mm off each tooth", field::thinning, play));
}

} // namespace whorl
