#include "check/form_checks.hpp"
#include "check/pair_checks.hpp"

#include "form/coil/coil_load.hpp"
#include "form/coil/find_spring.hpp"
#include "model/forms/coil.hpp"
#include "pair/spring_fit.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr double least_index = 4, most_index = 20; // what is wound well, EN 13906-1

// Hooks and legs: clear of the coils, no weaker than the body; the initial tension one that can be wound.
void check_ends_of(const ResolvedCoil& c, const ZoneLook& look) {
    const double d = c.wire;
    if (c.clear_of_coils < d - 1e-6) {
        look.stop("ends_meet_coils",
                  std::string(c.spec.kind == SpringKind::extension ? "A hook" : "A leg") +
                      " runs into the spring: " +
                      (c.round ? "their middles come " + look.shown(c.clear_of_coils) +
                                     " near, and the wire is " + look.shown(d) + " thick"
                               : "it is " + look.shown(d - c.clear_of_coils) + " inside") +
                      ". Make it longer, or bend it another way.",
                  c.clear_of_coils, d);
        return;
    }
    if (c.spec.kind == SpringKind::extension) {
        const ResolvedValue* most = find_value(c.values, "most_initial_tension");
        if (most && most->value && c.initial_tension > *most->value + 1e-9)
            look.advise("initial_tension_too_high",
                        "An initial tension of " + number_text(c.initial_tension, 2) +
                            " N can't be wound in; at most " + number_text(*most->value, 2) +
                            " N on a bench (EN 13906-2).",
                        c.initial_tension, *most->value,
                        look.edit("Initial tension " + rounded_down(*most->value, 0.1) + " N",
                                  field::initial_tension, rounded_down(*most->value, 0.1)));
        if (c.permissible_force > 0 && c.permissible_force <= c.initial_tension)
            look.advise("no_extension",
                        "The coils part at " + number_text(c.initial_tension, 2) +
                            " N, and the wire bears no more than " + number_text(c.permissible_force, 2) +
                            " N.",
                        c.initial_tension, c.permissible_force);
    }
    for (const auto& [laid, end, field, name] :
         {std::tuple{&c.near_laid, &c.spec.near, field::near_wire, "near"},
          std::tuple{&c.far_laid, &c.spec.far, field::far_wire, "far"}})
        if (laid->tightest > 0 && laid->tightest < d - 1e-9 && !end->is_hook())
            look.advise("leg_bent_tight",
                        std::string("The ") + name + " leg is bent round " + look.shown(laid->tightest) +
                            ", less than the wire is thick: it cracks there sooner than in the coils.",
                        laid->tightest, d);
}

// Closed turns that stand off the next one.
void check_closed_ends(const ResolvedCoil& c, const ZoneLook& look) {
    for (const auto& [end, own, field, name] :
         {std::tuple{&c.near_turns, &c.spec.near, field::near_wire, "near"},
          std::tuple{&c.far_turns, &c.spec.far, field::far_wire, "far"}}) {
        const double gap = end->pitch - c.axial;
        if (end->dead <= 0 || gap < 0.1 * c.axial) continue;
        WireEnd shut = *own;
        shut.pitch.reset(), shut.gap.reset();
        look.advise("closed_end_gapes",
                    std::string("The ") + name + " closed turn stands " + look.shown(gap) +
                        " off the next one: it gives too until it lies there, so that the spring is softer "
                        "at first than its "
                        "rate says.",
                    gap, 0.1 * c.axial,
                    look.edit("Close it", field, write_wire_end(shut, LengthUnit::millimetre)));
    }
}

// Stresses that range beyond one's own fatigue line.
void check_fatigue(const ResolvedCoil& c, const ZoneLook& look) {
    const auto stresses = working_stresses(c);
    if (!c.spec.fatigue || !stresses) return;
    const auto [low, high] = *stresses;
    const double upper = c.spec.fatigue->upper(low);
    if (high <= upper + 1e-9) return;
    const LoadCurve::Point one = at_state(c, c.spec.works[0]), two = at_state(c, c.spec.works[1]);
    const LoadCurve::Point &soft = one.stress < two.stress ? one : two,
                           &hard = one.stress < two.stress ? two : one;
    std::optional<Remedy> remedy;
    if (upper > low) { // as much less as keeps it on the line
        const double load = std::floor(hard.load * upper / high * 100) / 100;
        const std::string text =
            write_states({{true, soft.load}, {true, load}}, c.spec.kind, LengthUnit::millimetre);
        remedy = look.edit("Work between " + text, field::works, text);
    }
    look.advise("fatigue",
                "At a lower stress of " + number_text(low, 0) + " MPa your fatigue line permits " +
                    number_text(upper, 0) + " MPa; it works up to " + number_text(high, 0) + " MPa.",
                high, upper, std::move(remedy));
}

// Wire that is stocked only to order, where the next of the series is near.
void check_wire(const ResolvedCoil& c, const ZoneLook& look) {
    if (!c.round) return;
    const auto& series = preferred_wires();
    if (c.wire < series.front() * 0.98 || c.wire > series.back() * 1.02) return;
    const double nearest =
        *std::ranges::min_element(series, {}, [&](double d) { return std::abs(d - c.wire); });
    if (std::abs(nearest - c.wire) < 1e-9 || look.unit == LengthUnit::inch) return;
    const std::string text = number_text(nearest, 2);
    look.advise("wire_off_series",
                "Wire of " + look.shown(c.wire) + " is not of the usual series; the nearest one is " + text +
                    " mm.",
                c.wire, nearest, look.edit("Wire " + text + " mm", field::wire_diameter, text));
}

} // namespace

void check_form(const ResolvedSpring& spring, const ZoneLook& look) {
    const ResolvedCoil& c = spring.coil;
    const double d = c.wire, h = c.axial;
    if (!c.round && (c.gap_between < 0 || c.least_bend <= d / 2)) {
        look.stop("coils_merge",
                  c.gap_between < 0
                      ? "The coils merge: where they are nearest each is " + look.shown(-c.gap_between) +
                            " inside the next one; make the pitch or the length larger, or the wire lower "
                            "along the axis."
                      : "The wire is bent tighter than it is broad: round " + look.shown(c.least_bend) +
                            "; make the diameter larger or the wire narrower.",
                  c.gap_between, 0);
        return;
    }
    if (c.round && (c.least_distance < d || c.least_bend <= d / 2)) {
        const double widest = largest_wire(c.spec);
        std::optional<Remedy> thinner;
        if (widest > 0.02) {
            const std::string wire = rounded_down(widest, widest > 0.5 ? 0.05 : 0.005);
            thinner = look.edit("Wire " + wire + " mm", field::wire_diameter, wire);
        }
        look.stop("coils_merge",
                  c.least_distance < d
                      ? "The coils merge: where they are nearest their middles are " +
                            look.shown(c.least_distance) + " apart, and the wire is " + look.shown(d) +
                            " thick; the largest that fits is " + look.shown(widest) + "."
                      : "The wire is bent tighter than it is thick: round " + look.shown(c.least_bend) +
                            "; make the diameter larger or the wire thinner.",
                  c.least_distance, d, std::move(thinner));
        return;
    }
    check_wire(c, look);
    check_fatigue(c, look);
    const double low = c.smallest_mean / d, high = c.largest_mean / d;
    const auto diameter = [&](double mean) -> std::optional<Remedy> {
        if (c.spec.diameters.size() > 1) return {}; // which of them is for the person to say
        const std::string text = low < least_index ? rounded_up(mean, 0.1) : rounded_down(mean, 0.1);
        return look.edit("Mean diameter " + text + " mm", field::coil_diameter, text);
    };
    if (low < least_index)
        look.advise("small_index",
                    "The spring index is " + number_text(low, 2) + ", below " + number_text(least_index, 0) +
                        ": such wire is hard to wind and cracks on its inner side.",
                    low, least_index, diameter(least_index * d));
    else if (high > most_index)
        look.advise("large_index",
                    "The spring index is " + number_text(high, 2) + ", above " + number_text(most_index, 0) +
                        ": such coils tangle, sag and vary in diameter.",
                    high, most_index, diameter(most_index * d));
    if (c.has_ends()) return check_ends_of(c, look);
    check_closed_ends(c, look);
    const double tip = h / 2 - std::max(c.near_turns.ground_height, c.far_turns.ground_height);
    if (c.any_ground() && tip < h / 4 - 1e-9) {
        const std::string quarter = rounded_up(h / 4, h > 0.5 ? 0.01 : 0.001);
        std::optional<Remedy> leave;
        if (!c.spec.near.is_turns() && !c.spec.far.is_turns()) // they say it themselves
            leave = look.edit("Leave " + quarter + " mm", field::tip_thickness, quarter);
        look.advise("thin_ground_end",
                    "Grinding leaves only " + look.shown(tip) +
                        " of the wire's end, less than a quarter of its thickness (" + look.shown(h / 4) +
                        "): it breaks off or curls.",
                    tip, h / 4, std::move(leave));
    }
    if (c.free_length <= c.solid_length) {
        const std::string longer = rounded_up(
            c.solid_length + c.active * (0.0015 * c.largest_mean * c.largest_mean / d + 0.1 * d), 0.5);
        look.advise("no_travel",
                    "The free length " + look.shown(c.free_length) + " is no more than the solid length " +
                        look.shown(c.solid_length) + ": there is nothing to compress.",
                    c.free_length, c.solid_length,
                    look.edit("Free length " + longer + " mm", field::length, longer));
    }
}

template<>
void check_pair<PairKind::spring_and_guide>(const Looking& look, const PairInJob& both) {
    const ResolvedCoil& spring = *both.first.coil();
    for (const PairMistake& m : spring_fit(spring, both.second).mistakes) {
        std::optional<Remedy> remedy; // with a tenth of the wire left between, 0.1 mm at least
        const double play = std::max(0.1 * spring.wire, 0.1);
        if (m.id == "rod" && m.limit > 2 * play) {
            const std::string text = rounded_down(m.limit - play, 0.1);
            remedy = look.edit("Ø " + text + " mm", field::diameter, text);
        }
        if (m.id == "bore") {
            const std::string text = rounded_up(m.limit + play, 0.1);
            remedy = look.edit("Ø " + text + " mm", field::diameter, text);
        }
        look.stop("spring_" + m.id, m.sentence, m.value, m.limit, std::move(remedy));
    }
}

template<>
void check_pair<PairKind::nested_springs>(const Looking& look, const PairInJob& both) {
    const ResolvedCoil &first = *both.first.coil(), &second = *both.second.coil();
    for (const PairMistake& m : nested_springs(first, second).mistakes) {
        if (m.stops)
            look.stop("spring_" + m.id, m.sentence, m.value, m.limit);
        else
            look.advise("spring_" + m.id, m.sentence, m.value, m.limit,
                        look.edit("Wind it the other way", field::hand,
                                  second.spec.hand == Hand::left ? "right" : "left"));
    }
}

} // namespace whorl
