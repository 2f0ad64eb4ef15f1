#include "form/cam/cam.hpp"

#include "form/cam/corners.hpp"
#include "form/cam/lobe_outline.hpp"
#include "form/cam/walk.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <complex>

namespace whorl {
namespace {

using Complex = std::complex<double>;
constexpr Complex i_unit{0, 1};
constexpr double least_rim = 0.05;         // mm, of a disc outside its groove
constexpr double corner_radius = 1;        // mm, left of the profile where a corner is rounded
constexpr double steepest = 80 * pi / 180; // pressure angle at which a follower jams for certain

void require_between(double v, double least, double most, const char* what, const char* unit = "mm") {
    if (v >= least && v <= most) return;
    throw InputError(std::string("The ") + what + " of a cam is " + outside_text(v, least, most) + " " +
                     unit + "; it must be between " + number_text(least, 3) + " and " + number_text(most, 3) +
                     " " + unit + ".");
}

struct Extremes {
    double pressure = 0, pressure_at = 0;
    double convex = 1e300, convex_at = 0; // least radius of the profile, ≤ 0 where it is undercut
    double hollow = 1e300, hollow_at = 0;
    double reach = 0;
};

// Curvature of the pitch curve (flat: of the profile), positive convex, and the pressure angle.
struct Bend {
    double curvature = 0, pressure = 0;
};
Bend bend_at(const CamSpec& s, const Derivatives& d) {
    if (s.follower == FollowerKind::flat) return {1 / (in_mm(s.base_radius) + d[0] + d[2]), 0};
    const FollowerReference r = follower_reference(s, d);
    const Complex w = i_unit * r.f - r.f1, w1 = i_unit * r.f1 - r.f2;
    const double size = std::abs(w);
    const Complex n = -i_unit * w, aside = std::conj(r.way) * n;
    return {(size * size - (std::conj(w) * w1).imag()) / (size * size * size), std::arg(aside)};
}
// … of the profile, from that of the pitch curve: 1/κ − ρ.
double profile_radius(const CamSpec& s, double curvature) {
    return (std::abs(curvature) < 1e-12 ? 1e12 : 1 / curvature) - roller_radius(s);
}

Extremes extremes_of(const CamSpec& s, const Motion& m) {
    const bool flat = s.follower == FollowerKind::flat;
    // of a flat follower's profile the sign of r + s + s'' tells more than its curvature
    const auto sharpness = [&](const Derivatives& d) {
        return flat ? -(in_mm(s.base_radius) + d[0] + d[2]) : bend_at(s, d).curvature;
    };
    Peak pressure, sharp, hollow, reach;
    walk(m, [&](double theta, std::size_t part) {
        const Derivatives d = m.at(theta, part);
        reach.take(std::abs(d[1]), theta, part);
        if (flat) return sharp.take(sharpness(d), theta, part);
        const Bend bend = bend_at(s, d);
        pressure.take(std::abs(bend.pressure), theta, part);
        sharp.take(bend.curvature, theta, part);
        hollow.take(-bend.curvature, theta, part);
    });
    const auto at = [&](auto value) {
        return [&, value](double theta, std::size_t part) { return value(m.at(theta, part)); };
    };
    refine(m, sharp, at(sharpness));
    Extremes e;
    e.convex_at = sharp.theta;
    if (flat) {
        refine(m, reach, at([](const Derivatives& d) { return std::abs(d[1]); }));
        e.convex = -sharp.value;
        e.reach = reach.value;
        return e;
    }
    refine(m, pressure, at([&](const Derivatives& d) { return std::abs(bend_at(s, d).pressure); }));
    refine(m, hollow, at([&](const Derivatives& d) { return -bend_at(s, d).curvature; }));
    e.pressure = std::max(0.0, pressure.value);
    e.pressure_at = pressure.theta;
    if (sharp.value > 0) e.convex = profile_radius(s, sharp.value);
    if (hollow.value > 1e-9) e.hollow = 1 / hollow.value + roller_radius(s);
    e.hollow_at = hollow.theta;
    return e;
}

// Whether the follower's reference point is where it can be, all around.
bool within_reach(const CamSpec& s, const Motion& m) {
    const double rp = prime_radius(s);
    if (!s.swings()) return std::abs(in_mm(s.offset)) < rp * 0.98 || s.follower == FollowerKind::flat;
    const double l = in_mm(*s.arm), c = in_mm(*s.centre);
    if (!(rp > std::abs(l - c) + 1e-6 && rp < l + c - 1e-6)) return false;
    const double psi = arm_at_rest(s);
    return psi + m.highest / l < pi - 0.02 && psi + m.lowest / l > 0.02;
}

// The timing's motion, its corners rounded where a follower can't go round them as they are: where the speed drops,
// in a groove wherever it jumps. The blends are as narrow as leaves the profile's `corner_radius`; where no room is
// for that the corner stays. A knife goes over any corner, and both lobes of a pair must go by one motion.
Rounded motion_at_work(const CamSpec& s, const Motion& m) {
    std::vector<double> widths(m.parts.size());
    if (s.follower == FollowerKind::knife || s.held || s.conjugate || m.angle_left() < -1e-9) return {m, {}};
    for (const CamJump& j : m.jumps) {
        if (std::abs(j.velocity) < 1e-9 || std::abs(j.lift) > 1e-9 || (j.velocity > 0 && !s.disc)) continue;
        const bool convex = j.velocity < 0;
        const auto leaves = [&](double w) {
            const MotionPart blend = blend_before(m, j.after, w, CornerKind::rounded);
            for (int k = 0; k <= 2 * steps_in_part; ++k) {
                const Derivatives d = motion_at(blend, blend.from + w * k / steps_in_part);
                const double curvature = (convex ? 1 : -1) * bend_at(s, d).curvature;
                // a flat follower's r + s + s'' is the radius itself, negative where it is cut away
                const double left = s.follower == FollowerKind::flat ? in_mm(s.base_radius) + d[0] + d[2]
                                    : curvature <= 0                 ? 1e12
                                                                     : profile_radius(s, curvature);
                if (left < corner_radius) return false;
            }
            return true;
        };
        const MotionPart &p = m.parts[j.after > 0 ? j.after - 1 : m.parts.size() - 1], &q = m.parts[j.after];
        double low = 0, high = 0.45 * std::min(p.to - p.from, q.to - q.from);
        if (!leaves(high)) continue;
        while (high - low > 1e-9)
            (leaves((low + high) / 2) ? high : low) = (low + high) / 2;
        widths[j.after] = high;
    }
    return round_corners(m, widths, CornerKind::rounded);
}

// A place of the profile that the follower would cut away on its way past, if there is one.
std::optional<double> cut_away(const CamSpec& s, const Motion& m) {
    const double rho = roller_radius(s);
    if (rho <= 0) return {};
    constexpr std::size_t n = 360;
    std::vector<Complex> centres, touches;
    if (s.disc) touches.reserve(2 * n);
    for (std::size_t k = 0; k < n; ++k) {
        const double theta = full_turn * (static_cast<double>(k) + 0.5) / n;
        const FollowerPlace f = follower_at(s, m, theta);
        const Complex back = std::exp(i_unit * (s.clockwise ? theta : -theta));
        centres.push_back(Complex(f.centre.x, f.centre.y) * back);
        touches.push_back(Complex(f.touches.x, f.touches.y) * back);
        if (s.disc) touches.push_back(2.0 * centres.back() - touches.back()); // on the other wall
    }
    const double free = rho * rho - 1e-4 * rho; // half a ten-thousandth of a millimetre nearer is no cut
    for (std::size_t k = 0; k < touches.size(); ++k)
        for (const Complex& c : centres)
            if (std::norm(touches[k] - c) < free)
                return full_turn * (static_cast<double>(s.disc ? k / 2 : k) + 0.5) / n;
    return {};
}

void look_for_trouble(ResolvedCam& out, const Extremes& e) {
    const Motion& m = out.motion;
    const auto trouble = [&](CamTrouble what, double at) {
        out.trouble = what;
        out.trouble_at = at;
    };
    if (m.angle_left() < -1e-9) return trouble(CamTrouble::past_full_turn, full_turn);
    if (m.parts.empty() || m.angle_left() > 1e-9 || std::abs(m.closure_gap()) > 1e-7)
        return trouble(CamTrouble::not_closed, m.turn);
    for (const CamJump& j : m.jumps)
        if (std::abs(j.lift) > 1e-7) return trouble(CamTrouble::not_closed, j.angle);
    if (!within_reach(out.spec, m)) return trouble(CamTrouble::no_reach, 0);
    if (in_mm(out.spec.base_radius) + m.lowest < 0.05) return trouble(CamTrouble::too_small, 0);
    if (e.pressure > steepest) return trouble(CamTrouble::jammed, e.pressure_at);
    if (e.convex < 1e-4) return trouble(CamTrouble::undercut, e.convex_at);
    if (out.spec.disc && e.hollow < 1e100 && e.hollow - 2 * roller_radius(out.spec) < 1e-4)
        return trouble(CamTrouble::wall_undercut, e.hollow_at);
}

void measure(ResolvedCam& out) {
    out.least_radius = 1e300;
    for (const LobeCurve& l : out.outline)
        for (const double t : {l.curve.from, l.curve.to}) {
            const double r = point_at(l.curve, t).radius();
            out.least_radius = std::min(out.least_radius, r);
            out.largest_radius = std::max(out.largest_radius, r);
        }
    for (const LobeCurve& l : out.outer_wall)
        for (const double t : {l.curve.from, l.curve.to})
            out.outer_reach = std::max(out.outer_reach, point_at(l.curve, t).radius());
    if (out.spec.disc && out.outer_reach > in_mm(*out.spec.disc) / 2 - least_rim) {
        out.trouble = CamTrouble::no_rim;
        out.outline.clear();
        out.outer_wall.clear();
    }
}

CamLoads loads_at_work(const ResolvedCam& c, double width) {
    const CamSpec& s = c.spec;
    const double line = s.disc ? in_mm(s.groove_depth) : width;
    return loads_of(s.load, c.motion, s.rpm, line, s.held_by(), [&](double theta, std::size_t part) {
        const FollowerPlace at = follower_at(s, c.motion, theta, part);
        const double rho = roller_radius(s);
        if (s.disc && force_along(s.load, c.motion.at(theta, part), s.rpm) < 0) // on the outer wall
            return Contact{at.pressure_angle, 1 / rho - 1 / (at.curvature_radius + 2 * rho)};
        if (s.follower == FollowerKind::knife) return Contact{at.pressure_angle, 0};
        return Contact{at.pressure_angle, 1 / at.curvature_radius + (rho > 0 ? 1 / rho : 0)};
    });
}

void add_values(ResolvedCam& c) {
    const CamSpec& s = c.spec;
    const auto add = [&](const char* key, const char* label, ValueKind kind, double value,
                         const std::string& source) {
        c.values.push_back({.key = key, .label = label, .kind = kind, .value = value, .source = source});
    };
    const bool flat = s.follower == FollowerKind::flat;
    add("base_radius", "Base radius", ValueKind::length, in_mm(s.base_radius), "as asked, of the profile");
    if (roller_radius(s) > 0)
        add("prime_radius", "Prime radius", ValueKind::length, c.prime_radius,
            "base radius + radius of the follower");
    c.values.push_back(
        stroke_row(c.motion, s.timing, s.swings() ? ", along the arc of the follower's centre" : ""));
    if (!c.corners.empty())
        add("corner_radius", "Corners rounded by", ValueKind::length, corner_radius,
            (s.disc ? std::string("left of either wall where the speed jumps: ")
                    : std::string("left of the profile where the speed drops: ")) +
                "±" + number_text(c.corner_width * 180 / pi, 2) + "° at most");
    if (s.swings()) {
        add("swing_angle", "Swing", ValueKind::angle, (c.motion.highest - c.motion.lowest) / in_mm(*s.arm),
            "stroke / arm");
        add("start_angle", "Arm at the beginning", ValueKind::angle, arm_at_rest(s),
            "to the line of centres: acos((L² + C² − rp²)/(2·L·C))");
    }
    const double gap = c.motion.closure_gap(); // no minus before nothing
    add("closure_gap", "Closure gap", ValueKind::length, std::abs(gap) < 1e-12 ? 0 : gap,
        "lift at the end less lift at the beginning");
    if (c.trouble == CamTrouble::none) {
        add("least_radius", "Least radius", ValueKind::length, c.least_radius,
            "of the profile from the axis");
        add("largest_radius", "Largest radius", ValueKind::length, c.largest_radius,
            "of the profile from the axis");
        if (s.disc) {
            add("outer_wall_radius", "Outer wall's largest radius", ValueKind::length, c.outer_reach,
                "of the pitch curve + radius of the roller");
            add("rim", "Rim", ValueKind::length, in_mm(*s.disc) / 2 - c.outer_reach,
                "left of the disc outside the groove");
        }
    }
    if (!flat && c.max_pressure_angle > 0)
        add("max_pressure_angle", "Largest pressure angle", ValueKind::angle, c.max_pressure_angle,
            (s.swings() ? std::string("between the normal and the arm's way")
                        : std::string("tan φ = (s' − e)/(√(rp² − e²) + s)")) +
                ", at " + number_text(c.max_pressure_at * 180 / pi, 1) + "°");
    if (c.least_curvature_radius < 1e100)
        add("least_radius_of_curvature", "Sharpest convex radius", ValueKind::length,
            c.least_curvature_radius,
            (flat ? std::string("r + s + s''")
                  : std::string("1/κ of the pitch curve − radius of the follower")) +
                ", at " + number_text(c.least_curvature_at * 180 / pi, 1) + "°");
    if (c.least_hollow_radius)
        add("least_hollow_radius", "Sharpest hollow radius", ValueKind::length, *c.least_hollow_radius,
            "1/κ of the pitch curve + radius of the follower");
    if (flat)
        add("face_needed", "Face needed", ValueKind::length, 2 * c.face_reach,
            "2 × the largest s': how far the touching point wanders");
    // at speed
    const auto largest = [&](std::size_t derivative) {
        const Peak p = peak_of(c.motion, [&](double theta, std::size_t part) {
            return std::abs(c.motion.at(theta, part)[derivative]);
        });
        return std::max(0.0, p.value);
    };
    const double v = largest(1), a = largest(2), j = largest(3);
    const double omega = s.rpm * full_turn / 60;
    const std::string at = " at " + number_text(s.rpm, 3) + " rpm";
    add("max_velocity", "Largest speed, mm/s", ValueKind::number, v * omega, "s'·ω" + at);
    c.values.push_back(largest_acceleration(c.motion, a, s.rpm));
    add("max_jerk", "Largest jerk, m/s³", ValueKind::number, j * omega * omega * omega / 1000,
        "s'''·ω³" + at +
            (std::any_of(c.motion.jumps.begin(), c.motion.jumps.end(),
                         [](const CamJump& jump) { return std::abs(jump.acceleration) > 1e-6; })
                 ? "; without end where the acceleration jumps"
                 : ""));
    if (c.loads) add_values(c.values, *c.loads, s.rpm, s.held_by());
}

} // namespace

double roller_radius(const CamSpec& s) {
    if (s.follower == FollowerKind::roller) return in_mm(s.size) / 2;
    return s.follower == FollowerKind::mushroom ? in_mm(s.size) : 0;
}

double prime_radius(const CamSpec& s) {
    return in_mm(s.base_radius) + roller_radius(s);
}

FollowerPlace follower_at(const CamSpec& s, const Motion& m, double theta, std::size_t part) {
    const Derivatives d = m.at(theta, part);
    FollowerPlace out;
    Complex centre, touches, normal = 1;
    const Bend bend = bend_at(s, d);
    if (s.follower == FollowerKind::flat) {
        centre = in_mm(s.base_radius) + d[0];
        touches = {centre.real(), -d[1]};
        out.curvature_radius = centre.real() + d[2];
    } else {
        const FollowerReference r = follower_reference(s, d);
        const Complex w = i_unit * r.f - r.f1;
        centre = r.f;
        normal = -i_unit * w / std::abs(w);
        touches = r.f - roller_radius(s) * normal;
        out.pressure_angle = bend.pressure;
        out.curvature_radius = profile_radius(s, bend.curvature);
    }
    if (s.clockwise) {
        centre = std::conj(centre);
        touches = std::conj(touches);
        normal = std::conj(normal);
    }
    out.normal = {normal.real(), normal.imag()};
    out.centre = {centre.real(), centre.imag()};
    out.touches = {touches.real(), touches.imag()};
    return out;
}

FollowerPlace follower_at(const CamSpec& s, const Motion& m, double theta) {
    theta -= std::floor(theta / full_turn) * full_turn;
    return follower_at(s, m, theta, m.part_at(theta));
}

namespace {
void require_groove(const CamSpec& s, double width) {
    if (s.follower != FollowerKind::roller)
        throw InputError("A groove holds a roller; a " + std::string(word(s.follower)) +
                         " follower runs on an open cam.");
    require_between(in_mm(*s.disc), 2, 4000, "disc's diameter");
    require_between(in_mm(s.groove_depth), 0.05, 1000, "groove's depth");
    if (width > 0 && in_mm(s.groove_depth) > width - 0.05)
        throw InputError("The groove is " + number_text(in_mm(s.groove_depth), 3) + " mm deep and the disc " +
                         number_text(width, 3) + " mm wide; a floor must be left under it.");
}
} // namespace

ResolvedCam resolve_cam(const CamSpec& spec, double width) {
    require_between(in_mm(spec.base_radius), 0.5, 1000, "base radius");
    if (spec.follower == FollowerKind::roller)
        require_between(in_mm(spec.size), 0.1, 1000, "roller's diameter");
    if (spec.follower == FollowerKind::mushroom)
        require_between(in_mm(spec.size), 0.5, 10000, "mushroom's radius");
    require_between(spec.rpm, 0.001, 100000, "speed", "rpm");
    if (spec.arm.has_value() != spec.centre.has_value())
        throw InputError("A swinging follower needs its arm and the distance of its pivot from the axis, for "
                         "example swing "
                         "50 60.");
    if (spec.swings()) {
        require_between(in_mm(*spec.arm), 1, 5000, "follower's arm");
        require_between(in_mm(*spec.centre), 1, 5000, "pivot's distance");
        if (spec.follower == FollowerKind::flat)
            throw InputError("A flat follower moves straight here; swinging ones have a roller, a knife or a "
                             "mushroom face.");
        if (in_mm(spec.offset) != 0)
            throw InputError("A swinging follower has no offset; its pivot says where it stands.");
    }
    require_in_range(spec.load);
    if (spec.disc) require_groove(spec, width);
    ResolvedCam out;
    out.spec = spec;
    Rounded rounded = motion_at_work(spec, motion_of(spec.timing));
    out.motion = std::move(rounded.motion);
    out.corners = std::move(rounded.corners);
    out.corner_width = rounded.widest;
    out.prime_radius = prime_radius(spec);
    Extremes e;
    if (!out.motion.parts.empty() && within_reach(spec, out.motion)) e = extremes_of(spec, out.motion);
    out.max_pressure_angle = e.pressure;
    out.max_pressure_at = e.pressure_at;
    out.least_curvature_radius = e.convex;
    out.least_curvature_at = e.convex_at;
    if (e.hollow < 1e100) out.least_hollow_radius = e.hollow;
    out.face_reach = e.reach;
    look_for_trouble(out, e);
    if (out.trouble == CamTrouble::none) {
        make_outline(out);
        if (out.trouble == CamTrouble::none)
            if (const auto at = cut_away(spec, out.motion)) {
                out.trouble = CamTrouble::cut_away;
                out.trouble_at = *at;
            }
        if (out.trouble == CamTrouble::none)
            for (auto* curves : {&out.outline, &out.outer_wall})
                for (LobeCurve& l : *curves)
                    l.turned += spec.at;
        else
            out.outline.clear(), out.outer_wall.clear();
        if (!out.outline.empty()) {
            measure(out);
            if (spec.load.said() && out.trouble == CamTrouble::none) out.loads = loads_at_work(out, width);
        }
    }
    add_values(out);
    return out;
}

std::optional<double> smallest_base_radius(const CamSpec& spec, double limit) {
    const Motion asked = motion_of(spec.timing);
    if (asked.parts.empty()) return {};
    CamSpec s = spec;
    const auto holds = [&](double r) {
        s.base_radius = mm(r);
        const Motion m = motion_at_work(s, asked).motion;
        if (!within_reach(s, m) || r + m.lowest < 0.1) return false;
        const Extremes e = extremes_of(s, m);
        return e.pressure <= limit && e.convex > std::max(1e-3, 0.02 * roller_radius(s));
    };
    // from the radius at hand up to one that holds, or down to one that does not
    double high = in_mm(spec.base_radius), low = high;
    if (holds(high))
        for (low = high / 1.3; low > 0.5 && holds(low); low /= 1.3)
            high = low;
    else
        for (high *= 1.3; !holds(high); high *= 1.3) {
            if (high > 2000) return {};
            low = high;
        }
    while (high - low > 1e-6 * high)
        (holds((low + high) / 2) ? high : low) = (low + high) / 2;
    return high;
}

std::optional<double> largest_roller(const CamSpec& spec) {
    const Motion asked = motion_of(spec.timing);
    CamSpec s = spec;
    const auto holds = [&](double rho) {
        s.follower = FollowerKind::roller;
        s.size = mm(2 * rho);
        const Motion m = motion_at_work(s, asked).motion;
        return within_reach(s, m) && extremes_of(s, m).convex > std::max(1e-3, 0.02 * rho);
    };
    const double low = 0.05, high = 4 * in_mm(spec.base_radius);
    if (!holds(low)) return {};
    return holds(high) ? high : halved(low, high, holds, 0, 50).low;
}

} // namespace whorl
