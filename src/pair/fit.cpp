#include "pair/fit.hpp"

#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <algorithm>
#include <cmath>
#include <concepts>
#include <numbers>

namespace whorl {
namespace {

using std::numbers::pi;

constexpr double least_play = 2e-3; // mm; less is none once anything is made

// ISO 228-1 and ISO 7-1 have one form, the 55° of ISO 7-1.
bool of_pipes(const ResolvedThread& t) {
    return t.spec.family == ThreadFamily::pipe_g || t.spec.family == ThreadFamily::pipe_r;
}

std::string mm_text(double v) {
    return number_text(v, 3) + " mm";
}

std::optional<double> limit(const ResolvedThread& t, const char* key, bool upper) {
    const ResolvedValue* v = find_value(t.values, key);
    if (!v) return {};
    if (v->value) return v->value;
    return upper ? v->max : v->min;
}

// At even places and at the corners of both sections: exact where they are straight. `measure` is a clearance
// in mm as a function of z.
double least_along(const ThreadSection& screw, const ThreadSection& nut, double shift, int samples,
                   const std::invocable<double> auto& measure) {
    double least = 1e300;
    const auto at = [&](double z) { least = std::min(least, measure(z)); };
    for (int i = 0; i <= samples; ++i)
        at((static_cast<double>(i) / samples - 0.5) * screw.pitch);
    for (const GroovePoint& g : screw.groove)
        at(g.z);
    for (const GroovePoint& g : nut.groove)
        at(g.z - nut.pitch / 2 + shift);
    return least;
}

double least_clearance(const ThreadSection& screw, const ThreadSection& nut, double shift, int samples) {
    return least_along(screw, nut, shift, samples,
                       [&](double z) { return clearance_at(screw, nut, z, shift); });
}

// Square to the sections: beside an upright flank a radial figure turns every tenth of a micrometre along the
// axis into many across. The slope is the steeper one of both within a micrometre.
double square_clearance_at(const ThreadSection& screw, const ThreadSection& nut, double z, double shift) {
    constexpr double near = 5e-4;
    const auto slope = [&](const ThreadSection& s, double at) {
        const auto radius = [&](double x) { return groove_radius(s, std::remainder(x, s.pitch)); };
        return (radius(at + near) - radius(at - near)) / (2 * near);
    };
    const double steep = std::max(std::abs(slope(screw, z)), std::abs(slope(nut, z + nut.pitch / 2 - shift)));
    return clearance_at(screw, nut, z, shift) / std::sqrt(1 + steep * steep);
}

// The least distance between the two sections where they don't overlap: of the corners of each, arcs taken as
// polylines within a tenth of a micrometre, from the sides of the other.
double distance_apart(const ThreadSection& screw, const ThreadSection& nut, double shift) {
    using Line = std::vector<std::pair<double, double>>; // z, r over three pitches
    const auto line = [](const ThreadSection& s, double middle) {
        Line out;
        const auto groove = groove_polyline(s, 1e-4);
        for (int k = -1; k <= 1; ++k)
            for (const GroovePoint& g : groove)
                out.emplace_back(g.z + middle + k * s.pitch, g.r);
        return out;
    };
    const Line a = line(screw, 0), b = line(nut, shift - nut.pitch / 2);
    double least = 1e300;
    const auto corners_to_sides = [&](const Line& corners, const Line& sides) {
        for (const auto& [z, r] : corners) {
            if (std::abs(z) > 0.75 * screw.pitch) continue; // a whole pitch around the middle is enough
            for (std::size_t i = 0; i + 1 < sides.size(); ++i) {
                const auto& [z0, r0] = sides[i];
                const double dz = sides[i + 1].first - z0, dr = sides[i + 1].second - r0,
                             square = dz * dz + dr * dr;
                const double t =
                    square > 0 ? std::clamp(((z - z0) * dz + (r - r0) * dr) / square, 0.0, 1.0) : 0;
                least = std::min(least, std::hypot(z - z0 - t * dz, r - r0 - t * dr));
            }
        }
    };
    corners_to_sides(a, b);
    corners_to_sides(b, a);
    return least;
}

// Where along the axis the nut's ridges lie best in the screw's grooves: every thirty-second of the pitch is
// tried, and the best place narrowed down by thirds.
double best_shift(const ThreadSection& screw, const ThreadSection& nut) {
    constexpr int places = 32;
    double best = 0, most = -1e300;
    for (int i = 0; i < places; ++i) {
        const double shift = screw.pitch * (static_cast<double>(i) / places - 0.5);
        if (const double c = least_clearance(screw, nut, shift, 48); c > most) most = c, best = shift;
    }
    double low = best - screw.pitch / places, high = best + screw.pitch / places;
    for (int i = 0; i < 28; ++i) {
        const double a = low + (high - low) / 3, b = high - (high - low) / 3;
        if (least_clearance(screw, nut, a, 96) < least_clearance(screw, nut, b, 96))
            low = a;
        else
            high = b;
    }
    return (low + high) / 2;
}

// How far the nut slides along the axis, from touching on one side to touching on the other.
double sliding_room(const ThreadSection& screw, const ThreadSection& nut, double shift) {
    double room = 0;
    for (const double way : {-1.0, 1.0}) {
        double free = 0, touching = screw.pitch;
        for (int i = 0; i < 26; ++i) {
            const double middle = (free + touching) / 2;
            (least_clearance(screw, nut, shift + way * middle, 96) >= -1e-6 ? free : touching) = middle;
        }
        room += free;
    }
    return room;
}

ResolvedValue value_of(std::string key, std::string label, ValueKind kind, double value, std::string source) {
    ResolvedValue r{
        .key = std::move(key), .label = std::move(label), .kind = kind, .source = std::move(source)};
    r.value = value;
    return r;
}

// What keeps two specifications apart, whatever their sizes.
void compare_specs(const ResolvedThread& screw, const ResolvedThread& nut, Fit& fit) {
    const ThreadSection &a = screw.section, &b = nut.section;
    const auto mistake = [&](Mismatch what, std::string sentence, double value, double wanted) {
        fit.mistakes.push_back({what, std::move(sentence), value, wanted});
    };
    const double angle_a = in_deg(rad(a.flank_half_angle + a.other_half_angle)),
                 angle_b = in_deg(rad(b.flank_half_angle + b.other_half_angle));
    if (std::abs(angle_a - angle_b) > 0.05)
        mistake(Mismatch::form,
                "The forms differ: the screw is " + std::string(word(screw.spec.family)) + " with " +
                    number_text(angle_a, 1) + "° flanks, the nut " + word(nut.spec.family) + " with " +
                    number_text(angle_b, 1) + "°.",
                angle_b, angle_a);
    else if (screw.spec.family != nut.spec.family && !(of_pipes(screw) && of_pipes(nut)))
        mistake(Mismatch::form,
                std::string("The forms differ: the screw is ") + word(screw.spec.family) + ", the nut " +
                    word(nut.spec.family) + ".",
                0, 0);
    else if (screw.spec.own_section.points != nut.spec.own_section.points)
        mistake(Mismatch::form,
                "The forms differ: section " + screw.spec.own_section.name + " on the screw, " +
                    nut.spec.own_section.name + " in the nut, with other points.",
                0, 0);
    if (std::abs(a.pitch - b.pitch) > 1e-6 * a.pitch)
        mistake(
            Mismatch::pitch,
            "The pitches differ: " + mm_text(a.pitch) + " on the screw, " + mm_text(b.pitch) +
                " in the nut; they jam within " +
                (std::abs(a.pitch - b.pitch) > 0.125 * a.pitch
                     ? std::string("the first turn.")
                     : number_text(std::ceil(0.125 * a.pitch / std::abs(a.pitch - b.pitch)), 0) + " turns."),
            b.pitch, a.pitch);
    if (screw.spec.starts != nut.spec.starts)
        mistake(Mismatch::starts,
                "The screw has " + std::to_string(screw.spec.starts) + " start" +
                    (screw.spec.starts > 1 ? "s" : "") + ", the nut " + std::to_string(nut.spec.starts) + ".",
                nut.spec.starts, screw.spec.starts);
    if (a.hand != b.hand)
        mistake(Mismatch::hand,
                std::string("The screw is ") + word(a.hand) + "-hand, the nut " + word(b.hand) + "-hand.", 0,
                0);
    // a tapered screw in a parallel nut is usual in ISO 7-1; the other way round nothing seals
    const bool pipe_pair =
        screw.spec.family == ThreadFamily::pipe_r && nut.spec.family == ThreadFamily::pipe_r;
    if (const double screw_taper = std::abs(a.taper), nut_taper = std::abs(b.taper);
        std::abs(screw_taper - nut_taper) > 1e-9 && !pipe_pair)
        mistake(Mismatch::taper,
                nut_taper == 0     ? std::string("The screw is tapered, the nut is parallel.")
                : screw_taper == 0 ? std::string("The nut is tapered, the screw is parallel.")
                                   : "The tapers differ: " + taper_text(screw_taper) + " on the screw, " +
                                         taper_text(nut_taper) + " in the nut.",
                nut_taper, screw_taper);
    if (std::abs(in_mm(screw.spec.diameter - nut.spec.diameter)) > 1e-3)
        mistake(Mismatch::diameter,
                "The nominal diameters differ: " + mm_text(in_mm(screw.spec.diameter)) + " on the screw, " +
                    mm_text(in_mm(nut.spec.diameter)) + " in the nut.",
                in_mm(nut.spec.diameter), in_mm(screw.spec.diameter));
}

// Room between parallel threads, by their limits and as modelled.
void add_clearances(const ResolvedThread& screw, const ResolvedThread& nut, bool symmetric, Fit& fit) {
    const ThreadSection &a = screw.section, &b = nut.section;
    const auto low = limit(nut, "pitch_diameter", false), high = limit(screw, "pitch_diameter", true);
    const auto widest = limit(nut, "pitch_diameter", true), thinnest = limit(screw, "pitch_diameter", false);
    auto& v = fit.values;
    const auto length = [&](std::string key, std::string label, double value, std::string source) {
        v.push_back(value_of(std::move(key), std::move(label), ValueKind::length, value, std::move(source)));
    };
    ResolvedValue pitch{.key = "pitch_clearance", .label = "Pitch Ø clearance", .source = "limits: D2 − d2"};
    if (low && high && widest && thinnest) {
        pitch.min = *low - *high;
        pitch.max = *widest - *thinnest;
    } else {
        pitch.value = 2 * (b.pitch_radius - a.pitch_radius);
        pitch.source = "modelled: D2 − d2";
    }
    v.push_back(pitch);
    // between upright flanks a difference of pitch diameters leaves no room
    if (const double flank = b.pitch_radius - a.pitch_radius; symmetric && a.flank_half_angle > 0.01) {
        length("flank_clearance", "Flank clearance", flank * std::sin(a.flank_half_angle),
               "modelled, square to the flank: (D2 − d2)/2 · sin α");
        length("axial_play", "Axial play", flank * 2 * std::tan(a.flank_half_angle),
               "modelled: (D2 − d2) · tan α");
    } else {
        length("axial_play", "Axial play", sliding_room(a, b, fit.shift),
               "modelled: how far the nut slides until the sections touch on either side");
    }
    length("major_clearance", "Clearance at major Ø", b.root_radius - a.crest_radius,
           "modelled, on the radius");
    length("minor_clearance", "Clearance at minor Ø", b.crest_radius - a.root_radius,
           "modelled, on the radius");
    length("least_clearance", "Least clearance", fit.least_clearance,
           "modelled: the sections' distance from each other, with the nut in the middle");
}

// What shears and how much must be engaged. ISO 898 and FED-STD-H28 reasoning with the modelled sizes: what
// shears is a cylinder through the other's crest.
void add_shear(const ResolvedThread& screw, const ResolvedThread& nut, std::optional<Length> engaged,
               Fit& fit) {
    const ThreadSection &a = screw.section, &b = nut.section;
    auto& v = fit.values;
    const double engaged_mm = engaged ? in_mm(*engaged) : in_mm(screw.spec.diameter),
                 turns = engaged_mm / a.pitch;
    const double slant = std::tan(a.flank_half_angle) + std::tan(a.other_half_angle);
    const double screw_width = a.pitch / 2 + (a.pitch_radius - b.crest_radius) * slant,
                 nut_width = a.pitch / 2 + (a.crest_radius - b.pitch_radius) * slant;
    const auto length = [&](std::string key, std::string label, double value, std::string source) {
        v.push_back(value_of(std::move(key), std::move(label), ValueKind::length, value, std::move(source)));
    };
    const auto area = [&](std::string key, std::string label, double value, std::string source) {
        v.push_back(value_of(std::move(key), std::move(label), ValueKind::area, value, std::move(source)));
    };
    length("engaged_length", "Engaged length", engaged_mm, engaged ? "as asked" : "one diameter");
    const double shear_screw = turns * 2 * pi * b.crest_radius * screw_width,
                 shear_nut = turns * 2 * pi * a.crest_radius * nut_width;
    area("shear_area_screw", "Shear area, screw", shear_screw,
         "π·D1·(Le/P)·(P/2 + (d2 − D1)/2 · (tan α + tan β))");
    area("shear_area_nut", "Shear area, nut", shear_nut, "π·d·(Le/P)·(P/2 + (d − D2)/2 · (tan α + tan β))");
    if (const ResolvedValue* stress = find_value(screw.values, "stress_area");
        stress && stress->value && shear_screw > 0)
        length("needed_engagement", "Needed engagement", engaged_mm * *stress->value / (0.6 * shear_screw),
               "equal materials: the shank breaks first, shear strength 0.6 of tensile");
}

} // namespace

double clearance_at(const ThreadSection& screw, const ThreadSection& nut, double z, double shift) {
    const auto radius = [](const ThreadSection& s, double at) {
        return groove_radius(s, std::remainder(at, s.pitch));
    };
    return radius(nut, z + nut.pitch / 2 - shift) - radius(screw, z);
}

Fit fit_of(const ResolvedThread& screw, const ResolvedThread& nut, std::optional<Length> engaged) {
    Fit fit;
    const ThreadSection &a = screw.section, &b = nut.section;
    const auto mistake = [&](Mismatch what, std::string sentence, double value, double wanted) {
        fit.mistakes.push_back({what, std::move(sentence), value, wanted});
    };
    if (screw.side != Side::external || nut.side != Side::internal) {
        mistake(Mismatch::side,
                screw.side == nut.side ? std::string("Both threads are ") +
                                             (screw.side == Side::external ? "external" : "internal") +
                                             "; a screw goes with a nut."
                                       : "The screw and the nut are the wrong way round.",
                0, 0);
        return fit;
    }
    compare_specs(screw, nut, fit);
    const bool comparable = std::none_of(fit.mistakes.begin(), fit.mistakes.end(), [](const FitMistake& m) {
        return m.what == Mismatch::form || m.what == Mismatch::pitch || m.what == Mismatch::starts ||
               m.what == Mismatch::diameter || m.what == Mismatch::taper;
    });
    if (!comparable || !a.sweepable() || !b.sweepable()) return fit;

    // tapered threads are screwed together until they touch: clearances say nothing there
    const bool tapered = a.taper != 0;
    const bool symmetric = a.flank_half_angle == a.other_half_angle && screw.spec.family != ThreadFamily::own;
    if (!tapered) {
        if (!symmetric) fit.shift = best_shift(a, b);
        fit.least_clearance = least_along(a, b, fit.shift, 1000,
                                          [&](double z) { return square_clearance_at(a, b, z, fit.shift); });
        if (fit.least_clearance > 0) fit.least_clearance = distance_apart(a, b, fit.shift);
        if (fit.least_clearance < -1e-3) // the standards round their diameters to the micrometre
            mistake(Mismatch::interference,
                    "At the modelled sizes the threads overlap by " + mm_text(-fit.least_clearance) +
                        ", square to their flanks: the nut does not go on.",
                    fit.least_clearance, 0);
    }
    const auto low = limit(nut, "pitch_diameter", false), high = limit(screw, "pitch_diameter", true);
    if (!tapered && low && high && *low < *high - 1e-6)
        mistake(Mismatch::limits,
                "By their classes the screw may be " + mm_text(*high - *low) +
                    " larger at the pitch diameter than the nut: they can jam.",
                *low - *high, 0);

    fit.will_not_turn = !tapered && fit.goes_together() && fit.least_clearance < least_play;

    if (!tapered) add_clearances(screw, nut, symmetric, fit);
    const double depth = a.crest_radius - b.crest_radius;
    fit.values.push_back(value_of("engagement_depth", "Overlap of the threads", ValueKind::length, depth,
                                  "modelled: (d − D1)/2"));

    // an own section's teeth have no straight flanks to shear by
    if (screw.spec.family != ThreadFamily::own) add_shear(screw, nut, engaged, fit);
    return fit;
}

} // namespace whorl
