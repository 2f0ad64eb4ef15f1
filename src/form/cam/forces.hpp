// What a follower's mass and its spring do to a cam: the force between them, the torque on the shaft, the
// pressure in the touching line, and the speed above which the follower lifts off.
//
//   along its way    F = F0 + c·s + m·s''·ω²                    (F < 0: nothing holds it on an open cam)
//   between them     N = F / cos φ                              (no friction; φ: the pressure angle)
//   on the shaft     M = F·s'                                   (virtual work)
//   in the line      p = √( N/b · (1/ρ1 + 1/ρ2) · E / (2·π·(1 − ν²)) )      (Hertz, two cylinders of steel)
//
// with the lift s and its derivatives by the cam's angle, F0 what presses at lift 0 (spring, weight and work
// together), the spring's rate c, the mass m that goes with the follower (of one that swings, reduced to its
// roller's centre: moment of inertia / arm²), ω the speed; b the width that touches, ρ1 the profile's radius
// of curvature, negative where it is hollow, ρ2 the follower's. (Norton, Design of Machinery, chapter 15;
// Hertz after Niemann, Maschinenelemente, volume 1.)
#pragma once

#include "form/cam/timing.hpp"
#include "form/resolved_value.hpp"

#include <functional>
#include <optional>

namespace whorl {

struct FollowerLoad {
    double mass = 0;  // g
    double rate = 0;  // N/mm
    double force = 0; // N, at lift 0
    bool said() const { return mass != 0 || rate != 0 || force != 0; }
    friend bool operator==(const FollowerLoad&, const FollowerLoad&) = default;
};

constexpr double steel_modulus = 206000, steel_poisson = 0.3; // N/mm²

double angular_speed(double rpm); // rad/s

// Along the follower's way, N; positive: towards the cam. `motion` as Motion::at gives it.
double force_along(const FollowerLoad& load, const Derivatives& motion, double rpm);
double shaft_torque(const FollowerLoad& load, const Derivatives& motion, double rpm); // N·mm, that the shaft
                                                                                      // must give
// N/mm², for the sum of both curvatures in 1/mm.
double line_pressure(double force, double width, double curvature);

// How the follower stands on the cam at a place of its motion.
struct Contact {
    double pressure_angle = 0; // rad
    double curvature = 0;      // 1/ρ1 + 1/ρ2, 1/mm; 0: an edge, which has no pressure
};
using ContactAt = std::function<Contact(double theta, std::size_t part)>;

struct CamLoads {
    double least_force = 0, least_at = 0;         // along the way, N, rad
    double greatest_contact = 0, greatest_at = 0; // N, rad
    double greatest_torque = 0, torque_at = 0;    // N·mm, either way
    double greatest_pressure = 0;                 // N/mm²; 0: not told
    std::optional<double> lift_off_rpm;           // none: it never lifts off
    double force_needed = 0;                      // N at lift 0 that would keep it on at this speed
};
// What holds the follower against what presses it away: nothing, so that it can lift off; the other wall of the same
// track; or the second lobe of its pair, which then carries what this one does not.
enum class Held { open, by_other_wall, by_second_lobe };

// A width of 0 tells no pressure.
CamLoads loads_of(const FollowerLoad& load, const Motion& motion, double rpm, double width, Held held,
                  const ContactAt& contact);
void add_values(std::vector<ResolvedValue>& out, const CamLoads& loads, double rpm, Held held);

// Throws InputError for one outside its range, with the limits.
void require_in_range(const FollowerLoad& load);

} // namespace whorl
