#include "form/cam/drum.hpp"

#include "form/cam/track_walls.hpp"
#include "form/cam/walk.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr double steepest = 70 * pi / 180; // of the track to the way around

void require_between(double v, double least, double most, const char* what, const char* unit = "mm") {
    if (v >= least && v <= most) return;
    throw InputError(std::string("The ") + what + " of a drum cam is " + outside_text(v, least, most) + " " +
                     unit + "; it must be between " + number_text(least, 3) + " and " + number_text(most, 3) +
                     " " + unit + ".");
}

// The half widths of blends that leave this radius where the developed surface is bent most sharply between
// straight runs: w = |m1 − m0|·radius/(2R²), blended half as much again.
std::vector<double> half_widths(const Motion& m, double drum_radius, double radius, CornerKind kind) {
    std::vector<double> out(m.parts.size());
    const double reach = (kind == CornerKind::blended ? 1.5 : 1) * radius / (2 * drum_radius * drum_radius);
    for (const CamJump& j : m.jumps)
        if (std::abs(j.velocity) >= 1e-9 && std::abs(j.lift) <= 1e-9)
            out[j.after] = std::abs(j.velocity) * reach;
    return out;
}

// How sharply the track's middle bends, developed on the drum's diameter, 1/mm, with its sign.
double bend_at(const ResolvedDrum& d, double theta, std::size_t part) {
    if (!d.spec.arm) {
        const Derivatives g = d.motion.at(theta, part);
        return d.radius * g[2] / std::pow(d.radius * d.radius + g[1] * g[1], 1.5);
    }
    const TrackPath p = path_at(d, part, (d.spec.clockwise ? 1 : -1) * theta);
    const Jet h = square_root(constant(d.radius * d.radius) - p.y * p.y), aside = angle_of(h, p.y);
    const double du = d.radius * (1 + aside.c[1]), ddu = d.radius * 2 * aside.c[2], dz = p.z.c[1],
                 ddz = 2 * p.z.c[2];
    return (du * ddz - dz * ddu) / std::pow(du * du + dz * dz, 1.5);
}

// How far a wall sunk straight in is off the roller's on the other level, square to it in the developed surface.
double walls_apart(const ResolvedDrum& rolled, const ResolvedDrum& straight, double theta, std::size_t part) {
    const double r = rolled.other_radius, t = (rolled.spec.clockwise ? 1 : -1) * theta;
    double most = 0;
    for (const double side : {-1.0, 1.0}) {
        const WallJet a = DrumWall(rolled, part, side, t, t).along(t, r),
                      b = DrumWall(straight, part, side, t, t).along(t, r);
        const double around = r * a.theta.c[1], along = a.z.c[1];
        most = std::max(most,
                        std::abs((b.z.c[0] - a.z.c[0]) * around - r * (b.theta.c[0] - a.theta.c[0]) * along) /
                            std::hypot(around, along));
    }
    return most;
}

void look_at(ResolvedDrum& d) {
    const DrumSpec& s = d.spec;
    const Motion& m = d.motion;
    const double R = d.radius, rho = d.half_width;
    ResolvedDrum rolled = d, straight = d;
    rolled.spec.walls = WallKind::envelope;
    straight.spec.walls = WallKind::straight;
    const Peak steepest_at = peak_of(
        m, [&](double theta, std::size_t i) { return std::abs(middle_at(d, theta, i).pressure_angle); });
    d.max_pressure_angle = std::max(0.0, steepest_at.value);
    d.max_pressure_at = steepest_at.theta;
    const Peak sharpest =
        peak_of(m, [&](double theta, std::size_t i) { return std::abs(bend_at(d, theta, i)); });
    d.least_curvature_radius = sharpest.value > 1e-12 ? 1 / sharpest.value : 1e12;
    d.wall_difference = std::max(0.0, peak_of(m, [&](double theta, std::size_t i) {
                                          if (s.arm) return walls_apart(rolled, straight, theta, i);
                                          // the straight wall at the other level off the roller's, square to it in that level's developed surface
                                          const double slope = m.at(theta, i)[1], r = d.other_radius,
                                                       w = std::hypot(r, slope), flat = std::hypot(R, slope);
                                          const double along = rho * (r / w - R / flat),
                                                       around = -rho * slope * (1 / w - r / (R * flat));
                                          return std::abs(along * r / w - around * slope / w);
                                      }).value);
    d.near_wall =
        -peak_of(m, [&](double theta, std::size_t i) { return -middle_at(d, theta, i).z; }).value - rho;
    d.far_wall = d.length -
                 peak_of(m, [&](double theta, std::size_t i) { return middle_at(d, theta, i).z; }).value -
                 rho;
    const auto trouble = [&](DrumTrouble what, double at) {
        d.trouble = what;
        d.trouble_at = at;
    };
    if (s.track == TrackKind::groove && d.other_radius < std::max(0.5, 1.05 * rho))
        return trouble(DrumTrouble::too_deep, 0);
    if (d.max_pressure_angle > steepest) return trouble(DrumTrouble::too_steep, d.max_pressure_at);
    // on the other level the developed track is shorter, and its bends sharper
    const double scale = d.inner_scale();
    if (d.least_curvature_radius * scale * scale < rho * 1.001)
        return trouble(DrumTrouble::undercut, sharpest.theta);
    if (std::min(d.near_wall, d.far_wall) < 0.05) return trouble(DrumTrouble::no_room, 0);
    if (d.turns() == 1 && !d.keeps_corners()) return;
    Crossings crossings = crossings_of(d);
    d.crossings = std::move(crossings.places);
    if (crossings.trouble != DrumTrouble::none) return trouble(crossings.trouble, crossings.trouble_at);
    if (const TrackWalls walls = walls_of(d); walls.trouble != DrumTrouble::none)
        trouble(walls.trouble, walls.trouble_at);
}

// The wall bends as the developed track does on the drum's diameter.
CamLoads loads_at_work(const ResolvedDrum& d) {
    const DrumSpec& s = d.spec;
    return loads_of(
        s.load, d.motion, s.rpm, in_mm(s.depth), Held::by_other_wall, [&](double theta, std::size_t part) {
            const double phi = middle_at(d, theta, part).pressure_angle, bend = bend_at(d, theta, part);
            if (s.track != TrackKind::groove) return Contact{phi, 0}; // no roller is said
            // A wall that lifts the roller lies below it: hollow where the track bends upwards, by ρ wider than
            // its middle, convex and by ρ narrower where it bends down.
            const double hollow = force_along(s.load, d.motion.at(theta, part), s.rpm) > 0 ? bend : -bend;
            return Contact{phi, 1 / d.half_width - hollow / (1 + d.half_width * hollow)};
        });
}

void add_values(ResolvedDrum& d) {
    const DrumSpec& s = d.spec;
    const auto add = [&](const char* key, const char* label, ValueKind kind, double value,
                         const std::string& source) {
        d.values.push_back({.key = key, .label = label, .kind = kind, .value = value, .source = source});
    };
    add("drum_diameter", "Drum Ø", ValueKind::length, 2 * d.radius, "as asked");
    add("track_length", "Length around", ValueKind::length, full_turn * d.radius,
        "π·d: the developed track is as long by construction");
    if (d.turns() > 1) {
        d.values.back().source =
            "π·d: the developed track is " + std::to_string(d.turns()) + " times as long by construction";
    }
    add("closure_gap", "Closure gap", ValueKind::length, d.motion.closure_gap(),
        "lift at the end less lift at the beginning");
    d.values.push_back(stroke_row(d.motion, d.spec.timing, ""));
    const bool rib = d.is_rib();
    if (!d.is_line()) {
        add("roller_diameter", rib ? "Rib thickness" : "Roller Ø", ValueKind::length, 2 * d.half_width,
            rib ? "as asked" : "the groove's width");
        add(rib ? "top_diameter" : "bottom_diameter", rib ? "Ø over the rib" : "Ø of the bottom",
            ValueKind::length, 2 * d.other_radius, rib ? "drum Ø + 2 × height" : "drum Ø − 2 × depth");
    }
    if (d.motion.parts.empty()) return;
    add("max_pressure_angle", "Largest pressure angle", ValueKind::angle, d.max_pressure_angle,
        std::string(s.arm ? "between the contact's normal and the arm's way: φ = atan(z'/(h + y')) − α, "
                          : "tan φ = s'/R, ") +
            "on the drum Ø, at " + number_text(d.max_pressure_at * 180 / pi, 1) + "°");
    if (d.least_curvature_radius < 1e9)
        add("least_radius_of_curvature", "Sharpest bend", ValueKind::length, d.least_curvature_radius,
            "of the track's middle, developed on the drum Ø");
    if (!d.crossings.empty()) {
        const auto flattest = std::min_element(
            d.crossings.begin(), d.crossings.end(), [](const TrackCrossing& a, const TrackCrossing& b) {
                return std::min(a.angle, pi - a.angle) < std::min(b.angle, pi - b.angle);
            });
        add("crossings", "Crossings", ValueKind::number, static_cast<double>(d.crossings.size()),
            "where the track meets itself");
        add("crossing_angle", "Flattest crossing", ValueKind::angle, flattest->angle,
            "between both ways, at " + number_text(flattest->first * 180 / pi, 1) + "° and " +
                number_text(flattest->second * 180 / pi, 1) + "°");
        if (!d.is_line())
            add("crossing_opening", "Opening of a crossing", ValueKind::length, d.crossing_opening(),
                "width/tan(γ/2), the largest: a follower longer than this is guided all the way");
    }
    if (d.corner_radius > 0) {
        const double k = d.inner_scale();
        add("corner_radius", s.corners == CornerKind::blended ? "Corners blended by" : "Corners rounded by",
            ValueKind::length, d.corner_radius,
            s.corner ? "as asked, developed on the drum Ø"
                     : "half the width + 1 mm at the bottom, developed on the drum Ø");
        if (k < 1)
            add("corner_radius_at_bottom", "Corners at the bottom", ValueKind::length,
                d.corner_radius * k * k, "× (Ø of the bottom / drum Ø)²: developed there");
    }
    add("near_wall", "Left at the near end", ValueKind::length, d.near_wall, "beside the track");
    add("far_wall", "Left at the far end", ValueKind::length, d.far_wall, "beside the track");
    if (s.arm)
        add("swing_angle", "Swing", ValueKind::angle, (d.motion.highest - d.motion.lowest) / in_mm(*s.arm),
            "stroke / arm, half of it to either side of square");
    if (!d.is_line())
        add("wall_difference", "Straight against rolled walls", ValueKind::length, d.wall_difference,
            "at the other edge: how far walls sunk straight in are off what the roller needs");
    const auto largest = [&](std::size_t derivative) {
        return peak_of(d.motion,
                       [&](double theta, std::size_t part) {
                           return std::abs(d.motion.at(theta, part)[derivative]);
                       })
            .value;
    };
    const double v = largest(1), a = largest(2);
    const double omega = s.rpm * full_turn / 60;
    const std::string at = " at " + number_text(s.rpm, 3) + " rpm";
    add("max_velocity", "Largest speed, mm/s", ValueKind::number, v * omega, "s'·ω" + at);
    d.values.push_back(largest_acceleration(d.motion, a, s.rpm));
    if (d.loads) add_values(d.values, *d.loads, s.rpm, Held::by_other_wall);
}

} // namespace

std::string_view word(TrackKind kind) {
    constexpr std::string_view words[]{"groove", "rib", "line"};
    return words[static_cast<int>(kind)];
}

namespace {
void require_swing(const ResolvedDrum& d) {
    const DrumSpec& s = d.spec;
    const double arm = in_mm(*s.arm), half = (d.motion.highest - d.motion.lowest) / 2;
    require_between(arm, 1, 5000, "follower's arm");
    const double aside = half < 0.7 * arm ? arm * (1 - std::cos(half / arm)) : 1e300,
                 most = 0.3 * std::min(d.radius, d.other_radius);
    if (aside > most)
        throw InputError("An arm of " + number_text(arm, 3) +
                         " mm swings its roller too far off the drum's axis over a "
                         "stroke of " +
                         number_text(2 * half, 3) + " mm; take one of " +
                         number_text(std::ceil(std::max(half / 0.7, half * half / (2 * most) * 1.05)), 3) +
                         " mm at least.");
}
} // namespace

double ResolvedDrum::crossing_opening() const {
    double out = 0;
    for (const TrackCrossing& c : crossings)
        out = std::max(out, 2 * half_width / std::tan(c.angle / 2));
    return out;
}

double ResolvedDrum::usual_corner() const {
    return (half_width + 1) / std::pow(inner_scale(), 2);
}

double ResolvedDrum::inner_scale() const {
    return std::min(radius, other_radius) / radius;
}

ResolvedDrum resolve_drum(const DrumSpec& spec, Length length) {
    require_between(in_mm(spec.diameter), 2, 2000, "diameter");
    const bool line = spec.track == TrackKind::line, rib = spec.track == TrackKind::rib;
    require_between(in_mm(spec.width), 0.2, 500, rib ? "rib's thickness" : "groove's width");
    require_between(in_mm(spec.depth), 0.05, 500, rib ? "rib's height" : "groove's depth");
    require_between(in_mm(length), 0.5, 5000, "length");
    require_between(spec.rpm, 0.001, 100000, "speed", "rpm");
    if (spec.corner) require_between(in_mm(*spec.corner), 0.01, 1000, "corners' radius");
    if (spec.from) require_between(in_mm(*spec.from), -5000, 5000, "place of the track");
    if (spec.timing.turns < 1 || spec.timing.turns > most_turns)
        throw InputError("A track has from 1 to " + std::to_string(most_turns) + " turns.");
    if (rib && spec.timing.turns > 1)
        throw InputError(
            "A rib of several turns would stand in its own rollers' way where it crosses itself; "
            "sink a groove, or take one turn.");
    if (spec.corners == CornerKind::sharp && spec.track != TrackKind::groove)
        throw InputError(
            rib ? "A rib's corners are rounded or blended; only those of a groove are kept sharp."
                : "A line's corners are sharp unless a radius is said; leave sharp out.");
    require_in_range(spec.load);
    ResolvedDrum d;
    d.spec = spec;
    d.length = in_mm(length);
    d.radius = in_mm(spec.diameter) / 2;
    d.half_width = line ? 0 : in_mm(spec.width) / 2;
    d.other_radius = line ? d.radius : d.radius + (rib ? 1 : -1) * in_mm(spec.depth);
    d.motion = motion_of(spec.timing);
    const Motion asked = d.motion;
    const double mean = (asked.highest + asked.lowest) / 2;
    d.zero = spec.from  ? in_mm(*spec.from)
             : spec.arm ? d.length / 2 - in_mm(*spec.arm) * std::sin(mean / in_mm(*spec.arm))
                        : d.length / 2 - mean;
    if (spec.arm) require_swing(d);
    const auto trouble = [&](DrumTrouble what, double at) {
        d.trouble = what;
        d.trouble_at = at;
    };
    if (asked.angle_left() < -1e-9)
        trouble(DrumTrouble::past_full_turn, asked.whole);
    else if (asked.parts.empty() || asked.angle_left() > 1e-9 || std::abs(asked.closure_gap()) > 1e-7)
        trouble(DrumTrouble::not_closed, asked.turn);
    else if (d.other_radius < 0.5)
        trouble(DrumTrouble::too_deep, 0);
    if (d.trouble == DrumTrouble::none) {
        const double radius = spec.corner ? in_mm(*spec.corner) : d.usual_corner();
        const bool kept = d.keeps_corners() || (line && !spec.corner && spec.corners == CornerKind::rounded);
        Rounded rounded =
            kept ? Rounded{asked, {}}
                 : round_corners(asked, half_widths(asked, d.radius, radius, spec.corners), spec.corners);
        d.corners = rounded.corners;
        if (!d.corners.empty()) d.corner_radius = radius;
        if (d.keeps_corners())
            for (const CamJump& j : asked.jumps)
                if (std::abs(j.velocity) > 1e-7) d.corners.push_back(j.angle);
        d.motion = rounded.motion;
        if (d.motion.parts.empty()) {
            trouble(DrumTrouble::undercut, d.corners.front());
            d.motion = asked;
        } else {
            look_at(d);
            if (d.trouble == DrumTrouble::none && spec.load.said() && !jumps_in_speed(d.motion))
                d.loads = loads_at_work(d);
        }
    }
    add_values(d);
    return d;
}

} // namespace whorl
