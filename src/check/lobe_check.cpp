#include "check/form_checks.hpp"
#include "check/timing_check.hpp"

#include "model/forms/lobe.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

class LobeChecks : Looking {
public:
    LobeChecks(const Looking& look, const ResolvedCam& cam) : Looking(look), c_(cam), s_(cam.spec) {}

    void run() {
        trouble();
        if (c_.trouble != CamTrouble::none) return;
        pressure();
        lift_off();
        if (!c_.corners.empty()) rounded();
        jumps();
    }

private:
    // None for a second lobe, which has nothing of its own but its distance.
    std::optional<Remedy> edit(std::string words, Field f, std::string text) const {
        if (s_.conjugate) return {};
        return Looking::edit(std::move(words), f, std::move(text));
    }
    // This base radius, rounded up to half a millimetre; a second lobe has it with its followers further
    // apart.
    std::optional<Remedy> with_base(double base) const {
        const double round = std::ceil(base * 2 - 1e-6) / 2;
        if (!s_.conjugate)
            return edit("Base radius " + shown(round), field::base_radius, number_text(round, 4));
        const double apart = std::ceil(in_mm(apart_with_base(s_, round)) * 2) / 2;
        return Remedy{"Followers " + shown(apart) + " apart",
                      {with(field::conjugate, number_text(apart, 4))}};
    }
    std::optional<Remedy> with_timing(std::string words, const Timing& t) const {
        return edit(std::move(words), field::timing, write_timing(t));
    }

    // A base radius that mends it, up to half a millimetre.
    std::optional<Remedy> larger_base(double limit) const {
        const auto r = smallest_base_radius(s_, limit);
        if (!r) return {};
        return with_base(*r);
    }
    // Small enough for a groove's outer wall, by steps of a quarter.
    std::optional<Remedy> smaller_roller() const {
        CamSpec s = s_;
        for (int tries = 0; tries < 8; ++tries) {
            const double d = std::max(0.5, std::floor(2 * 0.75 * in_mm(s.size)) / 2);
            s.size = mm(d);
            if (resolve_cam(s).trouble == CamTrouble::none)
                return edit("Roller Ø " + shown(d), field::roller, number_text(d, 3));
        }
        return {};
    }
    // The stretches that meet at a joint, by another law.
    Timing with_law(const CamJump& j, Law law) const {
        Timing t = s_.timing;
        const auto& parts = c_.motion.parts;
        const std::size_t after = parts[j.after].stretch,
                          before = parts[j.after > 0 ? j.after - 1 : parts.size() - 1].stretch;
        for (const std::size_t i : {before, after})
            if (t.stretches[i].kind == CamStretch::rise || t.stretches[i].kind == CamStretch::back)
                t.stretches[i].law = law;
        return t;
    }

    void trouble() {
        const Motion& m = c_.motion;
        switch (c_.trouble) {
        case CamTrouble::none:
            return;
        case CamTrouble::past_full_turn:
        case CamTrouble::not_closed:
            if (const auto t = timing_trouble(s_.timing, m, unit))
                stop(t->id, t->sentence, t->value, t->limit,
                     t->label.empty() ? std::optional<Remedy>{} : with_timing(t->label, t->mended));
            return;
        case CamTrouble::no_reach:
            stop("no_reach",
                 s_.swings()
                     ? "An arm of " + shown(in_mm(*s_.arm)) + " on a pivot " + shown(in_mm(*s_.centre)) +
                           " from the axis can't follow from the prime radius " + shown(c_.prime_radius) +
                           " through this stroke: the three must make a triangle all the way."
                     : "The follower passes the axis " + shown(std::abs(in_mm(s_.offset))) +
                           " beside it, which is more than the prime radius " + shown(c_.prime_radius) +
                           " lets it touch.",
                 in_mm(s_.offset), c_.prime_radius,
                 s_.swings() ? std::optional<Remedy>{} : edit("No offset", field::follower_offset, ""));
            return;
        case CamTrouble::too_small:
            stop("cam_too_small",
                 "The lift falls to " + shown(m.lowest) +
                     ", which brings the profile to the axis; the base radius is " +
                     shown(in_mm(s_.base_radius)) + ".",
                 m.lowest, -in_mm(s_.base_radius), with_base(5 - m.lowest));
            return;
        case CamTrouble::jammed:
            stop("follower_jams",
                 "At " + degrees(c_.trouble_at, 2) + " the pressure angle is " +
                     degrees(c_.max_pressure_angle, 2) +
                     ": the lobe would push the follower aside instead of lifting it.",
                 c_.max_pressure_angle * 180 / pi, 80, larger_base(usual_pressure_limit(s_.swings())));
            return;
        case CamTrouble::undercut:
            undercut();
            return;
        case CamTrouble::speed_drops:
            if (s_.disc) {
                stop("speed_drops",
                     "At " + degrees(c_.trouble_at, 2) +
                         " the speed jumps, and no groove can turn a roller that sharply; a law that begins "
                         "and ends at "
                         "rest can be made.",
                     c_.trouble_at * 180 / pi, 0,
                     with_timing("All constant stretches modified-sine", smooth()));
                return;
            }
            for (const CamJump& j : m.jumps)
                if (std::abs(j.velocity) > 1e-9) {
                    stop("speed_drops",
                         "At " + degrees(c_.trouble_at, 2) +
                             " the speed drops at once, and no profile can hold the follower " +
                             "down to that; a law that ends at rest can be made.",
                         c_.trouble_at * 180 / pi, 0,
                         with_timing("All constant stretches modified-sine", smooth()));
                    return;
                }
            stop("speed_drops", "The profile can't follow this timing.", 0, 0, {});
            return;
        case CamTrouble::wall_undercut:
            stop("wall_undercut",
                 "At " + degrees(c_.trouble_at, 2) + " the track turns inwards by a radius of " +
                     shown(*c_.least_hollow_radius - roller_radius(s_)) + ", not more than the roller's, " +
                     shown(roller_radius(s_)) + ": the groove's outer wall would be undercut.",
                 *c_.least_hollow_radius - 2 * roller_radius(s_), 0, smaller_roller());
            return;
        case CamTrouble::no_rim: {
            const double disc = std::ceil(2 * c_.outer_reach + 0.2 * roller_radius(s_) + 2);
            stop("groove_at_the_edge",
                 "The groove's outer wall reaches Ø " + shown(2 * c_.outer_reach) + ", the disc has Ø " +
                     shown(in_mm(*s_.disc)) + ": no rim is left.",
                 in_mm(*s_.disc) / 2 - c_.outer_reach, 0.05,
                 edit("Disc Ø " + shown(disc), field::disc, number_text(disc, 3)));
            return;
        }
        case CamTrouble::cut_away:
            stop("profile_cut_away",
                 "The profile at " + degrees(c_.trouble_at, 2) +
                     " would be cut away by the follower on its way past; a smaller follower or a larger "
                     "base radius leaves it.",
                 c_.trouble_at * 180 / pi, 0, with_base(1.5 * in_mm(s_.base_radius)));
            return;
        }
    }

    Timing smooth() const {
        Timing t = s_.timing;
        for (CamStretch& s : t.stretches)
            if (s.law == Law::constant) s.law = Law::modified_sine;
        return t;
    }

    void undercut() {
        const bool flat = s_.follower == FollowerKind::flat;
        const double rho = roller_radius(s_);
        std::optional<Remedy> remedy;
        if (const auto largest = s_.follower == FollowerKind::roller ? largest_roller(s_) : std::nullopt;
            largest && *largest > 0.4 * rho) {
            const double d = std::floor(2 * *largest * 2) / 2;
            if (d > 0.3) remedy = edit("Roller Ø " + shown(d), field::roller, number_text(d, 3));
        }
        if (!remedy) remedy = larger_base(80 * pi / 180);
        stop("undercut",
             flat ? "At " + degrees(c_.trouble_at, 2) + " r + s + s'' falls to " +
                        shown(c_.least_curvature_radius) +
                        ": the flat follower would cut the profile away on either side. A larger base radius "
                        "or a gentler "
                        "law keeps it."
                  : "At " + degrees(c_.trouble_at, 2) + " the pitch curve's radius, " +
                        shown(c_.least_curvature_radius + rho) + ", is not larger than the follower's, " +
                        shown(rho) + ": the profile would be undercut.",
             c_.least_curvature_radius, 0, std::move(remedy));
    }

    void pressure() {
        if (s_.follower == FollowerKind::flat) return;
        const double limit = usual_pressure_limit(s_.swings());
        if (c_.max_pressure_angle <= limit + 1e-9) return;
        advise("pressure_angle",
               "The pressure angle reaches " + degrees(c_.max_pressure_angle, 2) + " at " +
                   degrees(c_.max_pressure_at, 2) + "; above " + degrees(limit, 2) + " a follower that " +
                   (s_.swings() ? "swings" : "moves straight") + " is pushed aside more than lifted.",
               c_.max_pressure_angle * 180 / pi, limit * 180 / pi, larger_base(limit));
    }

    void lift_off() {
        if (!c_.loads || s_.held_by() != Held::open || c_.loads->least_force >= 0) return;
        const CamLoads& l = *c_.loads;
        const double force = std::ceil(1.1 * l.force_needed * 10) / 10; // a tenth to spare
        advise("lifts_off",
               "At " + degrees(l.least_at, 2) + " and " + number_text(s_.rpm, 3) +
                   " rpm the follower lifts off: " + number_text(-l.least_force, 2) +
                   " N are missing there to hold it on." +
                   (l.lift_off_rpm && *l.lift_off_rpm > 0
                        ? " Up to " + number_text(std::floor(*l.lift_off_rpm), 4) + " rpm it stays."
                        : ""),
               l.least_force, 0,
               edit(number_text(force, 1) + " N at lift 0", field::preload, number_text(force, 1)));
    }

    void rounded() {
        const std::string many = std::to_string(c_.corners.size());
        advise("corners_rounded",
               "The timing has " + many + (c_.corners.size() == 1 ? " corner" : " corners") +
                   " that no follower goes round, the first at " + degrees(c_.corners.front(), 2) +
                   ": rounded so that a radius of " + shown(1) +
                   " is left, which presses hard at every turn; a law that ends at rest goes over without.",
               static_cast<double>(c_.corners.size()), 0,
               with_timing("All constant stretches modified-sine", smooth()));
    }

    // The worst joint: where the speed jumps, else where the acceleration does.
    void jumps() {
        const double omega = s_.rpm * full_turn / 60;
        const CamJump *speed = nullptr, *acceleration = nullptr;
        for (const CamJump& j : c_.motion.jumps) {
            if (std::abs(j.velocity) > 1e-9 && (!speed || std::abs(j.velocity) > std::abs(speed->velocity)))
                speed = &j;
            if (std::abs(j.acceleration) > 1e-6 &&
                (!acceleration || std::abs(j.acceleration) > std::abs(acceleration->acceleration)))
                acceleration = &j;
        }
        const std::string at_speed = " at " + number_text(s_.rpm, 3) + " rpm";
        if (speed)
            return advise("velocity_jumps",
                          "The speed jumps by " + number_text(std::abs(speed->velocity) * omega, 3) +
                              " mm/s at " + degrees(speed->angle, 2) + at_speed +
                              ": a blow at every turn, and a corner in the profile.",
                          std::abs(speed->velocity) * omega, 0,
                          with_timing("Cycloidal there", with_law(*speed, Law::cycloidal)));
        if (acceleration && c_.corners.empty()) // those of rounded corners are said with them
            advise("acceleration_jumps",
                   "The acceleration jumps by " +
                       number_text(std::abs(acceleration->acceleration) * omega * omega / 1000, 4) +
                       " m/s² at " + degrees(acceleration->angle, 2) + at_speed +
                       ": a jerk without end, which slow cams bear.",
                   std::abs(acceleration->acceleration) * omega * omega / 1000, 0,
                   with_timing("Cycloidal there", with_law(*acceleration, Law::cycloidal)));
    }

    const ResolvedCam& c_;
    const CamSpec& s_;
};

} // namespace

void check_form(const ResolvedLobe& lobe, const ZoneLook& look) {
    check_ends(look);
    LobeChecks(look, lobe.cam).run();
}

} // namespace whorl
