#include "check/drum_check.hpp"
#include "check/timing_check.hpp"

#include "model/forms/drum.hpp"
#include "quantity/expression.hpp"

#include <cmath>
#include <numbers>

namespace whorl {

void check_drum(std::vector<Finding>& out, const ResolvedDrum& d, std::size_t piece, std::size_t zone,
                LengthUnit unit) {
    constexpr double degree = std::numbers::pi / 180;
    const DrumSpec& s = d.spec;
    const auto edit = [&](std::string words, Field f, const std::string& text) {
        return Remedy{std::move(words), {Edit{piece, zone, f, text, LengthUnit::millimetre}}};
    };
    const auto found = [&](Severity severity, const char* id, std::string sentence, double value,
                           double limit, std::optional<Remedy> remedy) {
        out.push_back({severity, id, std::move(sentence), piece, zone, value, limit, std::move(remedy)});
    };
    const auto shown = [&](double millimetres) {
        return number_text(in_unit(mm(millimetres), unit), unit == LengthUnit::inch ? 4 : 3) + " " +
               symbol(unit);
    };
    const auto degrees = [](double angle) { return number_text(angle * 180 / std::numbers::pi, 1) + "°"; };
    const auto rounded_up = [](double v) { return number_text(std::ceil(v * 2 - 1e-6) / 2, 3); };
    const double stroke = d.motion.highest - d.motion.lowest;
    switch (d.trouble) {
    case DrumTrouble::none:
        break;
    case DrumTrouble::not_closed:
    case DrumTrouble::past_full_turn:
        if (const auto t = timing_trouble(s.timing, motion_of(s.timing), unit))
            found(Severity::stop, t->id, t->sentence, t->value, t->limit,
                  t->label.empty() ? std::optional<Remedy>{}
                                   : edit(t->label, field::timing, write_timing(t->mended)));
        return;
    case DrumTrouble::no_room: {
        const double need = stroke + 2 * d.half_width + 2;
        found(Severity::stop, "track_leaves_drum",
              "The track leaves the drum: beside it there are " + shown(d.near_wall) +
                  " at the near end and " + shown(d.far_wall) +
                  " at the far end; with 1 mm at either it needs a length of " + shown(need) + ".",
              std::min(d.near_wall, d.far_wall), 0,
              need > d.length ? edit("Length " + rounded_up(need) + " mm", field::length, rounded_up(need))
                              : edit("Track in the middle", field::track_from, ""));
        return;
    }
    case DrumTrouble::too_steep: {
        // tan φ = s'/R: a drum as much larger
        const double wanted = 2 * d.radius * std::tan(d.max_pressure_angle) / std::tan(usual_track_limit);
        found(Severity::stop, "track_too_steep",
              "At " + degrees(d.trouble_at) + " the track runs at " + degrees(d.max_pressure_angle) +
                  " to the way around; above 70° the roller jams. A larger drum or a longer stretch makes it "
                  "flatter.",
              d.max_pressure_angle / degree, 70,
              edit("Drum Ø " + rounded_up(wanted) + " mm", field::diameter, rounded_up(wanted)));
        return;
    }
    case DrumTrouble::undercut:
        if (!d.corners.empty() && !d.motion.jumps.empty() && d.least_curvature_radius == 0)
            found(Severity::stop, "corner_too_wide",
                  "The corner at " + degrees(d.trouble_at) + " can't be rounded by " +
                      shown(d.corner_radius) +
                      ": there is no room to the next. A smaller radius, but more than half the width, or a "
                      "longer stretch.",
                  d.corner_radius, d.half_width, {});
        else
            found(Severity::stop, "track_undercut",
                  "At " + degrees(d.trouble_at) + " the track bends by a radius of " +
                      shown(d.least_curvature_radius) + ", too little for a roller of radius " +
                      shown(d.half_width) + ": it would cut the inner wall away.",
                  d.least_curvature_radius, d.half_width,
                  d.corners.empty() ? std::optional<Remedy>{}
                                    : edit("Corners " + rounded_up(d.half_width + 1) + " mm", field::corners,
                                           rounded_up(d.half_width + 1)));
        return;
    case DrumTrouble::too_deep:
        found(
            Severity::stop, "track_too_deep",
            "A groove " + shown(in_mm(s.depth)) + " deep leaves a radius of " + shown(d.other_radius) +
                " at its bottom, less than a roller of radius " + shown(d.half_width) + " can be guided by.",
            d.other_radius, d.half_width,
            d.radius > 2 * d.half_width
                ? edit("Depth " + number_text(std::floor((d.radius - 1.2 * d.half_width) * 2) / 2, 3) + " mm",
                       field::track_depth,
                       number_text(std::floor((d.radius - 1.2 * d.half_width) * 2) / 2, 3))
                : std::optional<Remedy>{});
        return;
    }
    if (d.max_pressure_angle > usual_track_limit) {
        const double wanted = 2 * d.radius * std::tan(d.max_pressure_angle);
        found(Severity::advice, "pressure_angle",
              "The pressure angle reaches " + degrees(d.max_pressure_angle) + " at " +
                  degrees(d.max_pressure_at) +
                  "; above 45° a roller in a track is pressed aside more than along.",
              d.max_pressure_angle / degree, 45,
              edit("Drum Ø " + rounded_up(wanted) + " mm", field::diameter, rounded_up(wanted)));
    }
    // said until their radius is
    if (!d.corners.empty() && !s.corner)
        found(Severity::advice, "corners_rounded",
              "The track has " + std::to_string(d.corners.size()) +
                  (d.corners.size() == 1 ? " sharp corner" : " sharp corners") + ", the first at " +
                  degrees(d.corners.front()) + ": no roller goes round them, so they are rounded by " +
                  shown(d.corner_radius) + ".",
              d.corner_radius, d.half_width,
              edit("Corners " + shown(d.corner_radius), field::corners, number_text(d.corner_radius, 3)));
}

} // namespace whorl
