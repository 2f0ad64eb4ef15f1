#include "form/cam/forces.hpp"

#include "form/cam/walk.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <cmath>

namespace whorl {
namespace {

constexpr double newton = 1e-6; // g·mm/s² in N

void require_between(double v, double least, double most, const char* what, const char* unit) {
    if (v >= least && v <= most) return;
    throw InputError(std::string("The ") + what + " is " + outside_text(v, least, most) + " " + unit +
                     "; it must be between " + number_text(least, 3) + " and " + number_text(most, 3) + " " +
                     unit + ".");
}

std::string at_angle(double theta) {
    return "at " + number_text(theta * 180 / pi, 1) + "°";
}

} // namespace

double angular_speed(double rpm) {
    return rpm * 2 * pi / 60;
}

double force_along(const FollowerLoad& load, const Derivatives& m, double rpm) {
    const double omega = angular_speed(rpm);
    return load.force + load.rate * m[0] + newton * load.mass * m[2] * omega * omega;
}

double shaft_torque(const FollowerLoad& load, const Derivatives& m, double rpm) {
    return force_along(load, m, rpm) * m[1];
}

double line_pressure(double force, double width, double curvature) {
    return std::sqrt(std::max(0.0, force / width * curvature * steel_modulus /
                                       (2 * pi * (1 - steel_poisson * steel_poisson))));
}

CamLoads loads_of(const FollowerLoad& load, const Motion& m, double rpm, double width, Held held,
                  const ContactAt& contact) {
    CamLoads out;
    if (m.parts.empty()) return out;
    const auto along = [&](double theta, std::size_t part) {
        return force_along(load, m.at(theta, part), rpm);
    };
    // nothing presses where the follower is off the cam, or on the other lobe
    const auto pressing = [&](double f) {
        return held == Held::by_other_wall ? std::abs(f) : std::max(0.0, f);
    };
    const auto between = [&](double theta, std::size_t part) {
        return pressing(along(theta, part)) / std::cos(contact(theta, part).pressure_angle);
    };
    const Peak least = peak_of(m, [&](double theta, std::size_t part) { return -along(theta, part); });
    out.least_force = -least.value;
    out.least_at = least.theta;
    const Peak greatest = peak_of(m, between);
    out.greatest_contact = greatest.value;
    out.greatest_at = greatest.theta;
    const Peak torque = peak_of(m, [&](double theta, std::size_t part) {
        return std::abs(shaft_torque(load, m.at(theta, part), rpm));
    });
    out.greatest_torque = torque.value;
    out.torque_at = torque.theta;
    if (width > 0)
        out.greatest_pressure =
            peak_of(m, [&](double theta, std::size_t part) {
                return line_pressure(between(theta, part), width, contact(theta, part).curvature);
            }).value;
    if (held != Held::open) return out;
    const double omega = angular_speed(rpm);
    const Peak needed = peak_of(m, [&](double theta, std::size_t part) {
        const Derivatives d = m.at(theta, part);
        return -newton * load.mass * d[2] * omega * omega - load.rate * d[0];
    });
    out.force_needed = std::max(0.0, needed.value);
    if (load.mass > 0) {
        // ω² = (F0 + c·s)/(−m·s''), the least; as the largest of its inverse
        const Peak inverse = peak_of(m, [&](double theta, std::size_t part) {
            const Derivatives d = m.at(theta, part);
            const double pressed = load.force + load.rate * d[0], thrown = -newton * load.mass * d[2];
            if (thrown <= 0) return pressed < 0 ? 1e30 : 0.0;
            return pressed <= 0 ? 1e30 : thrown / pressed;
        });
        if (inverse.value > 0) out.lift_off_rpm = 30 / pi / std::sqrt(inverse.value);
        if (inverse.value >= 1e30) out.lift_off_rpm = 0;
    }
    return out;
}

void add_values(std::vector<ResolvedValue>& out, const CamLoads& l, double rpm, Held held) {
    const auto add = [&](const char* key, const char* label, double value, const std::string& source) {
        out.push_back(
            {.key = key, .label = label, .kind = ValueKind::number, .value = value, .source = source});
    };
    const std::string speed = " at " + number_text(rpm, 3) + " rpm";
    if (held == Held::open) {
        add("least_contact_force", "Least force on the cam, N", l.least_force,
            "F0 + c·s + m·s''·ω², " + at_angle(l.least_at) + speed);
        add("force_needed", "Force needed at lift 0, N", l.force_needed,
            "the largest −m·s''·ω² − c·s: with less the follower lifts off" + speed);
        if (l.lift_off_rpm)
            add("lift_off_speed", "Lifts off above, rpm", *l.lift_off_rpm,
                "ω² = (F0 + c·s)/(−m·s''), the least");
    }
    add("largest_contact_force", "Largest contact force, N", l.greatest_contact,
        "(F0 + c·s + m·s''·ω²)/cos φ, " + at_angle(l.greatest_at) +
            (held == Held::by_second_lobe ? "; what presses the other way the other lobe carries" : ""));
    add("largest_torque", "Largest torque, N·mm", l.greatest_torque,
        "F·s', without friction, " + at_angle(l.torque_at));
    if (l.greatest_pressure > 0)
        add("contact_pressure", "Contact pressure, N/mm²", l.greatest_pressure,
            "Hertz, line contact of steel on steel, E 206 000 N/mm², ν 0.3");
}

void require_in_range(const FollowerLoad& load) {
    require_between(load.mass, 0, 1e6, "mass of a follower", "g");
    require_between(load.rate, 0, 1e4, "rate of a follower's spring", "N/mm");
    require_between(load.force, -1e5, 1e5, "force on a follower at lift 0", "N");
}

} // namespace whorl
