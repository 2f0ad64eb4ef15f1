#include "check/form_checks.hpp"
#include "check/timing_check.hpp"

#include "model/forms/drum.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <cmath>
#include <numbers>

namespace whorl {
namespace {

// Crossings that a roller does not hold its way over.
void check_crossings(const Looking& look, const ResolvedDrum& d) {
    constexpr double degree = pi / 180;
    const TrackCrossing* flattest = &d.crossings.front();
    for (const TrackCrossing& c : d.crossings)
        if (c.angle < flattest->angle) flattest = &c;
    if (flattest->angle > usual_crossing) return;
    const double wanted = 2 * d.radius * std::tan(flattest->angle / 2) / std::tan(usual_crossing / 2);
    const std::string diameter = rounded_down(wanted, 0.5);
    look.advise(
        "crossing_needs_follower",
        "At " + degrees(flattest->first, 1) + " the track crosses itself at " + degrees(flattest->angle, 1) +
            ". Below 60° a roller can leave its way there; a turning blade longer than " +
            look.shown(d.crossing_opening()) + " is guided over every crossing.",
        flattest->angle / degree, usual_crossing / degree,
        wanted > 4 * d.half_width + 2 * std::abs(d.radius - d.other_radius)
            ? std::optional<Remedy>(look.edit("Drum Ø " + diameter + " mm", field::diameter, diameter))
            : std::nullopt);
}

// --- what keeps a drum from being made ---

void not_closed(const ZoneLook& look, const ResolvedDrum& d) {
    const DrumSpec& s = d.spec;
    if (const double n = d.motion.turn / (2 * pi); !d.is_rib() && n < most_turns + 0.5 &&
                                                   n > s.timing.turns + 0.5 &&
                                                   std::abs(n - std::round(n)) < 1e-6) {
        const std::string all = std::to_string(std::lround(n));
        look.stop("past_full_turn",
                  "The stretches of this timing take " + all +
                      " turns together; the track is asked to meet "
                      "itself after " +
                      (s.timing.turns > 1 ? std::to_string(s.timing.turns) : "one") + ".",
                  n * 360, s.timing.turns * 360.0,
                  look.edit("Track of " + all + " turns", field::track_turns, all));
        return;
    }
    if (const auto t = timing_trouble(s.timing, motion_of(s.timing), look.unit))
        look.stop(t->id, t->sentence, t->value, t->limit,
                  t->label.empty() ? std::optional<Remedy>{}
                                   : look.edit(t->label, field::timing, write_timing(t->mended)));
}

void leaves_drum(const ZoneLook& look, const ResolvedDrum& d) {
    const double stroke = d.motion.highest - d.motion.lowest;

    const double need = stroke + 2 * d.half_width + 2;
    look.stop("track_leaves_drum",
              "The track leaves the drum: beside it there are " + look.shown(d.near_wall) +
                  " at the near end and " + look.shown(d.far_wall) +
                  " at the far end; with 1 mm at either it needs a length of " + look.shown(need) + ".",
              std::min(d.near_wall, d.far_wall), 0,
              need > d.length
                  ? look.edit("Length " + rounded_up(need, 0.5) + " mm", field::length, rounded_up(need, 0.5))
                  : look.edit("Track in the middle", field::track_from, ""));
}

void too_steep(const ZoneLook& look, const ResolvedDrum& d) {
    constexpr double degree = pi / 180;

    // tan φ = s'/R: a drum as much larger
    const double wanted = 2 * d.radius * std::tan(d.max_pressure_angle) / std::tan(usual_track_limit);
    look.stop(
        "track_too_steep",
        "At " + degrees(d.trouble_at, 1) + " the track runs at " + degrees(d.max_pressure_angle, 1) +
            " to the way around; above 70° the roller jams. A larger drum or a longer stretch makes it "
            "flatter.",
        d.max_pressure_angle / degree, 70,
        look.edit("Drum Ø " + rounded_up(wanted, 0.5) + " mm", field::diameter, rounded_up(wanted, 0.5)));
}

void undercut(const ZoneLook& look, const ResolvedDrum& d) {
    if (!d.corners.empty() && !d.motion.jumps.empty() && d.least_curvature_radius == 0)
        look.stop("corner_too_wide",
                  "The corner at " + degrees(d.trouble_at, 1) + " can't be rounded by " +
                      look.shown(d.corner_radius) +
                      ": there is no room to the next. A smaller radius, but more than half the width, or a "
                      "longer stretch.",
                  d.corner_radius, d.half_width, {});
    else
        look.stop("track_undercut",
                  "At " + degrees(d.trouble_at, 1) + " the track bends by a radius of " +
                      look.shown(d.least_curvature_radius) + ", too little for a roller of radius " +
                      look.shown(d.half_width) + ": it would cut the inner wall away.",
                  d.least_curvature_radius, d.half_width,
                  d.corners.empty() ? std::optional<Remedy>{}
                                    : look.edit("Corners " + rounded_up(d.usual_corner(), 0.5) + " mm",
                                                field::corners, rounded_up(d.usual_corner(), 0.5)));
}

void flat_crossing(const ZoneLook& look, const ResolvedDrum& d) {
    const DrumSpec& s = d.spec;
    constexpr double degree = pi / 180;

    const TrackCrossing* at = nullptr;
    for (const TrackCrossing& c : d.crossings)
        if (std::abs(c.first - d.trouble_at) < 1e-9) at = &c;
    if (!at) {
        look.stop("turns_touch",
                  "At " + degrees(d.trouble_at, 1) +
                      " the track runs beside another of its turns without room for a wall between them. A "
                      "larger stroke, fewer turns or a narrower groove keep them apart.",
                  d.trouble_at / degree, 0, {});
        return;
    }
    // tan(γ/2) = s'/R where both ways are equally steep
    const double wanted = 2 * d.radius * std::tan(at->angle / 2) / std::tan(15 * degree);
    look.stop("crossing_flat",
              "At " + degrees(at->first, 1) + " the track crosses itself at " + degrees(at->angle, 1) +
                  "; below 20° its walls would meet in slivers far beside the crossing. Fewer turns or a "
                  "thinner "
                  "drum make it squarer.",
              at->angle / degree, least_crossing / degree,
              at->angle < 1 && wanted > 4 * d.half_width + 2 * in_mm(s.depth)
                  ? look.edit("Drum Ø " + rounded_down(wanted, 0.5) + " mm", field::diameter,
                              rounded_down(wanted, 0.5))
                  : std::optional<Remedy>{});
}

void close_crossing(const ZoneLook& look, const ResolvedDrum& d) {
    constexpr double degree = pi / 180;
    look.stop("crossing_close",
              "Beside the crossing or the corner at " + degrees(d.trouble_at, 1) +
                  " nothing is left of a wall up to the next one. A narrower groove or a thinner drum leaves "
                  "more.",
              d.trouble_at / degree, 0, {});
}

void crossing_at_joint(const ZoneLook& look, const ResolvedDrum& d) {
    constexpr double degree = pi / 180;
    look.stop("crossing_at_joint",
              "At " + degrees(d.trouble_at, 1) +
                  " the track crosses itself just where its motion goes over from one formula into the next. "
                  "Move that joint by some degrees, or take a constant velocity over the crossing.",
              d.trouble_at / degree, 0, {});
}

void too_deep(const ZoneLook& look, const ResolvedDrum& d) {
    const DrumSpec& s = d.spec;
    look.stop(
        "track_too_deep",
        "A groove " + look.shown(in_mm(s.depth)) + " deep leaves a radius of " + look.shown(d.other_radius) +
            " at its bottom, less than a roller of radius " + look.shown(d.half_width) + " can be guided by.",
        d.other_radius, d.half_width,
        d.radius > 2 * d.half_width
            ? look.edit(
                  "Depth " + number_text(std::floor((d.radius - 1.2 * d.half_width) * 2) / 2, 3) + " mm",
                  field::track_depth, number_text(std::floor((d.radius - 1.2 * d.half_width) * 2) / 2, 3))
            : std::optional<Remedy>{});
}

// Whether it can be made.
bool is_made(const ZoneLook& look, const ResolvedDrum& d) {
    const auto say = [&] {
        switch (d.trouble) {
        case DrumTrouble::none:
            return;
        case DrumTrouble::not_closed:
        case DrumTrouble::past_full_turn:
            return not_closed(look, d);
        case DrumTrouble::no_room:
            return leaves_drum(look, d);
        case DrumTrouble::too_steep:
            return too_steep(look, d);
        case DrumTrouble::undercut:
            return undercut(look, d);
        case DrumTrouble::crossing_flat:
            return flat_crossing(look, d);
        case DrumTrouble::crossing_close:
            return close_crossing(look, d);
        case DrumTrouble::crossing_at_joint:
            return crossing_at_joint(look, d);
        case DrumTrouble::too_deep:
            return too_deep(look, d);
        }
    };
    say();
    return d.trouble == DrumTrouble::none;
}

} // namespace

void check_form(const ResolvedTrack& track, const ZoneLook& look) {
    check_ends(look);
    const ResolvedDrum& d = track.drum;
    constexpr double degree = pi / 180;
    const DrumSpec& s = d.spec;
    if (!is_made(look, d)) return;
    if (!d.crossings.empty() && !d.is_line()) check_crossings(look, d);
    if (d.max_pressure_angle > usual_track_limit) {
        const double wanted = 2 * d.radius * std::tan(d.max_pressure_angle);
        look.advise(
            "pressure_angle",
            "The pressure angle reaches " + degrees(d.max_pressure_angle, 1) + " at " +
                degrees(d.max_pressure_at, 1) +
                "; above 45° a roller in a track is pressed aside more than along.",
            d.max_pressure_angle / degree, 45,
            look.edit("Drum Ø " + rounded_up(wanted, 0.5) + " mm", field::diameter, rounded_up(wanted, 0.5)));
    }
    // said until their radius is
    if (!d.corners.empty() && d.keeps_corners())
        look.advise(
            "corners_kept",
            "The track keeps " + std::to_string(d.corners.size()) +
                (d.corners.size() == 1 ? " sharp corner" : " sharp corners") + ", the first at " +
                degrees(d.corners.front(), 1) +
                ": the roller stops there for a moment and is not held on the outside while it turns.",
            static_cast<double>(d.corners.size()), 0,
            look.edit("Round the corners", field::keep_corners, "rounded"));
    else if (!d.corners.empty() && !s.corner)
        look.advise("corners_rounded",
                    "The track has " + std::to_string(d.corners.size()) +
                        (d.corners.size() == 1 ? " sharp corner" : " sharp corners") + ", the first at " +
                        degrees(d.corners.front(), 1) + ": no roller goes round them, so they are " +
                        std::string(word(s.corners)) + " by " + look.shown(d.corner_radius) +
                        " on the drum's Ø.",
                    d.corner_radius, d.half_width,
                    look.edit("Corners " + look.shown(d.corner_radius), field::corners,
                              number_text(d.corner_radius, 3)));
}

} // namespace whorl
