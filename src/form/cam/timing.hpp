// The timing of a cam: what the follower does while the cam goes round once.
//
//   rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell 60
//   rise stroke in 2*45, dwell, return 4 in 60 3-4-5, return in 60      (named values; a dwell for the rest)
//   spline to 10 in 120 through 30/2.5 60/7/0.08, dwell 60, return in 180       (angle/lift/slope from its beginning)
//   spline in 360 through 45/3 90/8 180/10 270/4                                 (free all the way round)
//
// Angles in degrees; lifts are lengths. `rise` and `return` say how far, `return` alone goes down to where
// the turn began; the law is cycloidal unless it is written. A spline goes to a lift through points, with
// slopes (per degree) where they are given, else with continuous acceleration (cubic); it begins and ends at
// rest, but joined to itself where it is the whole turn.
//
//   Timing --motion_of()--> Motion: s(θ) in closed form, piece by piece.
#pragma once

#include "form/cam/law.hpp"
#include "quantity/expression.hpp"
#include "quantity/quantity.hpp"

#include <algorithm>
#include <optional>
#include <string>
#include <vector>

namespace whorl {

struct TimedPoint {
    double angle = 0;                 // rad, from where its spline begins
    double lift = 0;                  // mm
    std::optional<double> slope = {}; // mm per rad
    friend bool operator==(const TimedPoint&, const TimedPoint&) = default;
};

struct CamStretch {
    enum Kind { rise, back, dwell, spline } kind = dwell;
    std::optional<double> angle; // rad; none: what is left of the turn
    std::optional<double> lift;  // mm: gained, lost (none: all of it), of a spline the one it ends at
    Law law = Law::cycloidal;
    std::vector<TimedPoint> through = {}; // spline
    friend bool operator==(const CamStretch&, const CamStretch&) = default;
};

struct Timing {
    std::vector<CamStretch> stretches;
    int turns = 1; // that it takes together: of a drum's track that meets itself only after several
    friend bool operator==(const Timing&, const Timing&) = default;
};

// Throws InputError with the place of what was not understood and what would be. Whether the table closes is
// not asked here.
Timing parse_timing(std::string_view text, LengthUnit unit = LengthUnit::millimetre, const Names& names = {});
// In standard form; parse_timing() of the result gives the same timing.
std::string write_timing(const Timing& timing, LengthUnit unit = LengthUnit::millimetre);

// The stretches as they are written, and the text with one of them replaced; an empty one is taken out, one
// past the last is added.
std::vector<std::string> timing_items(std::string_view text);
std::string with_timing_item(std::string_view text, std::size_t item, std::string_view replaced);

// The text of a timing with the stretches that differ written anew; the others keep their words, expressions and
// all, and so does one that only changes its law.
std::string with_changes(std::string_view text, const Timing& was, const Timing& now, LengthUnit unit);

// A part of the motion with one formula.
struct MotionPart {
    double from = 0, to = 0; // rad
    std::size_t stretch = 0; // which one it belongs to
    bool law = false;        // by a law from `begin` over `span`, from `low` by `height`; else the polynomial
    Law by = Law::cycloidal;
    std::size_t piece = 0;
    double begin = 0, span = 1, low = 0, height = 0;
    std::array<double, 6> powers{}; // Σ c·(θ − from)^i; a dwell is a constant
    bool is_dwell() const {
        return !law && std::all_of(powers.begin() + 1, powers.end(), [](double c) { return c == 0; });
    }
};

// By the part's formula: mm and mm per rad, rad², rad³, rad⁴.
Derivatives motion_at(const MotionPart& part, double theta);

// Where two parts meet: what changes there by a jump, after minus before. Lift in mm, the others per rad.
struct CamJump {
    double angle = 0;      // rad
    std::size_t after = 0; // the part that begins there
    double lift = 0, velocity = 0, acceleration = 0, jerk = 0;
};

struct Motion {
    std::vector<MotionPart> parts;    // in order, from 0 to `turn`
    double turn = 0;                  // rad: all stretches together; `whole` if the table closes in angle
    double whole = 6.283185307179586; // rad: 2π, or as many of them as the timing has turns
    double highest = 0, lowest = 0, last = 0; // lift, mm; the first is 0
    std::vector<CamJump> jumps; // all that there are, the one from the end back to the beginning too

    // mm and mm per rad, rad², rad³, rad⁴; the angle is taken round the whole.
    Derivatives at(double theta) const;
    Derivatives at(double theta, std::size_t part) const; // by that part's formula
    std::size_t part_at(double theta) const;
    double wrapped(double theta) const;         // into the whole
    double closure_gap() const { return last; } // mm; the lift that is left when the turn is over
    double angle_left() const;                  // rad; negative: the stretches overlap past the whole
};
Motion motion_of(const Timing& timing);
// Sets highest and lowest lift and the jumps from the parts, of which there is one at least.
void look_over(Motion& motion);

// Where a timing can be taken hold of: the joint after a stretch, or a point of its spline.
struct PlacedJoint {
    std::size_t stretch = 0;
    std::optional<std::size_t> point = {};
    double angle = 0, lift = 0; // rad of the turn, mm
};
// In rising angle. The end of the turn, which stands where it begins, is no joint.
std::vector<PlacedJoint> joints_of(const Timing& timing);

// The timing with that joint at another angle and lift. The stretches on either side share their angles anew,
// a degree for each at least; the lift goes to the stretch that leads there, and the next one that moves at
// all makes up for it, so that what follows stays where it is. Where the lift is not said but follows
// (`return` alone), or nothing leads there or away, it stays.
Timing with_joint(const Timing& timing, const PlacedJoint& joint, double angle, double lift);

} // namespace whorl
