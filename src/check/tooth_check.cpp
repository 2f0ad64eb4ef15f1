#include "check/form_checks.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <functional>

namespace whorl {
namespace {

// A tip thinner than this part of the module is broken off or worn away soon: the textbooks' limit.
constexpr double thin_tip = 0.2;
// Less wall than this many modules between the roots and a bore is too little to carry the teeth.
constexpr double least_rim = 1.0;

// The smallest value in [low, high], in steps of `grain`, for which `good` holds; none if even `high` is not
// good.
std::optional<double> first_good(double low, double high, double grain,
                                 const std::function<bool(double)>& good) {
    if (!good(high)) return {};
    high = halved(
               low, high, [&](double v) { return !good(v); }, grain / 8)
               .high;
    double found = std::ceil(high / grain - 1e-9) * grain;
    return good(found) ? std::optional(found) : std::optional(high);
}

ToothTrouble trouble_with(GearSpec s, const std::function<void(GearSpec&)>& change) {
    change(s);
    try {
        return resolve_gear(s).trouble;
    } catch (const std::exception&) {
        return ToothTrouble::no_core;
    }
}

} // namespace

void check_module(const Looking& look, Length module) {
    const auto status = preferred_module(module);
    const double m = in_mm(module), dp = 25.4 / m;
    if (status.series != 0 || std::abs(dp - std::round(dp)) < 1e-6) return;
    const std::string nearest = number_text(in_mm(status.nearest), 4);
    look.advise(
        "module_not_preferred",
        "Module " + number_text(m, 4) +
            " is not one of ISO 54; cutters for it are made to order. The nearest is " + nearest + ".",
        m, in_mm(status.nearest), look.edit("Module " + nearest, field::module, in_mm(status.nearest)));
}

void check_form(const ResolvedWheel&, const ZoneLook& look) {
    check_ends(look);
    const ResolvedPiece& piece = look.whole;
    const ResolvedZone& z = look.resolved();
    const ResolvedGear& g = *z.gear();
    const GearSpec& s = g.spec;
    const double m = in_mm(s.module);
    const auto shortened = [](double k) { return [k](GearSpec& c) { c.tip_shortening = k; }; };
    const auto shorter_tips = [&](const std::optional<double>& k) -> std::optional<Remedy> {
        if (!k) return {};
        return look.edit("Shorten the tips by " + number_text(*k, 3) + " modules", field::tip_shortening,
                         number_text(*k, 4));
    };
    const auto shifted = [](double x) { return [x](GearSpec& c) { c.profile_shift = x; }; };

    switch (g.trouble) {
    case ToothTrouble::none:
        break;
    case ToothTrouble::pointed_tip: {
        const auto k = first_good(s.tip_shortening, 1, 0.01, [&](double v) {
            GearSpec c = s;
            c.tip_shortening = v;
            const ResolvedGear r = resolve_gear(c);
            return r.trouble == ToothTrouble::none && r.tip_thickness >= thin_tip * m;
        });
        look.stop("pointed_tip",
                  "The flanks meet before the tip circle of Ø " + look.shown(2 * g.tip_radius) +
                      ": the teeth would be pointed; shorten the tips or take a smaller profile shift.",
                  g.tip_thickness, 0, shorter_tips(k));
        break;
    }
    case ToothTrouble::no_involute:
    case ToothTrouble::thin_foot: {
        const auto x = first_good(s.profile_shift, 1.5, 0.01, [&](double v) {
            return trouble_with(s, shifted(v)) == ToothTrouble::none;
        });
        std::optional<Remedy> remedy;
        if (x && !s.internal)
            remedy =
                look.edit("Profile shift " + number_text(*x, 3), field::profile_shift, number_text(*x, 4));
        look.stop(g.trouble == ToothTrouble::thin_foot ? "undercut_through" : "no_involute",
                  g.trouble == ToothTrouble::thin_foot
                      ? "The undercut goes through the foot of the teeth; a "
                        "larger profile shift or more teeth keep it sound."
                      : "Nothing is left of the involute between root and tip; "
                        "a larger profile shift, more teeth or a "
                        "smaller dedendum bring it back.",
                  s.profile_shift, x.value_or(0), remedy);
        break;
    }
    case ToothTrouble::tip_below_base: {
        const auto k = first_good(s.tip_shortening, 1, 0.01, [&](double v) {
            return trouble_with(s, shortened(v)) == ToothTrouble::none;
        });
        look.stop("tip_below_base",
                  "The internal teeth reach inside their base circle of Ø " + look.shown(2 * g.base_radius) +
                      ", where there is no involute; shorten the tips, or take more teeth.",
                  2 * g.tip_radius, 2 * g.base_radius, shorter_tips(k));
        break;
    }
    case ToothTrouble::no_core:
        look.stop("no_core", "The root circle comes to the axis; take more teeth or a smaller dedendum.",
                  2 * g.root_radius, 0, {});
        break;
    case ToothTrouble::tip_edge:
        look.stop("tip_edge",
                  "The edge of " + look.shown(in_mm(s.tip_size)) +
                      " on the tips leaves no land between the flanks, or reaches the root; make it smaller.",
                  in_mm(s.tip_size), g.tip_thickness / 2, look.edit("Sharp tips", field::tip_edge, "sharp"));
        break;
    }
    if (g.trouble != ToothTrouble::none) return;

    if (g.undercut) {
        const double x = std::ceil(g.least_profile_shift * 1000 - 1e-6) / 1000;
        look.advise("undercut",
                    "The generating rack undercuts these teeth up to Ø " + look.shown(2 * g.form_radius) +
                        "; from a profile shift of " + number_text(x, 3) +
                        " on they have their whole involute.",
                    s.profile_shift, x,
                    look.edit("Profile shift " + number_text(x, 3), field::profile_shift, number_text(x, 4)));
    }
    if (g.tip_thickness < thin_tip * m) {
        const auto k = first_good(s.tip_shortening, 1, 0.01, [&](double v) {
            GearSpec c = s;
            c.tip_shortening = v;
            return resolve_gear(c).tip_thickness >= thin_tip * m;
        });
        look.advise("thin_tip",
                    "The tips are only " + look.shown(g.tip_thickness) + " thick, less than 0.2 modules (" +
                        look.shown(thin_tip * m) + "): they chip and wear.",
                    g.tip_thickness, thin_tip * m, shorter_tips(k));
    }
    check_module(look, s.module);
    if (z.in_bore()) return;
    // the wall between the roots and what is bored under them
    for (const ResolvedZone& bore : piece.zones) {
        if (!bore.in_bore() || bore.end() <= z.start || bore.start >= z.end()) continue;
        const double wall = g.root_radius - in_mm(bore.largest_radius());
        if (wall >= least_rim * m || wall <= 0) continue;
        look.advise("thin_rim",
                    "Only " + look.shown(wall) + " of wall is left between the roots (Ø " +
                        look.shown(2 * g.root_radius) +
                        ") and the bore; a tooth wants at least one module (" + look.shown(least_rim * m) +
                        ") under it.",
                    wall, least_rim * m, {});
    }
}

} // namespace whorl
