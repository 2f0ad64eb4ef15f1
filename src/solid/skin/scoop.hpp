// The round in which a milled groove ends inside its zone.
//
// A tool that turns about a radius of the bar leaves half its own section turned about that radius. A groove's walls
// stand along the radius, since its section is the axial one, and so do those of its end: every height of the section
// ends in half a circle of X = unroll·(θ − θ₀), as the surface is unrolled there, and z:
//
//     θ = θ₀ + ρ·cos α / unroll        z = z₀ + ρ·sin α        r = h + taper·(z − gauge)
//
// Along one piece of half the section, from its outer end (v = from) to its inner one (v = to),
//
//     ρ = ρ₀ + ρ₁·v, h = h₀ + h₁·v  (straight)        ρ = ρ₀ + ρ₁·cos v, h = h₀ + h₁·sin v  (an arc, by its angle)
//
// so that all its edges are straight in (θ, r, z) or affine images of circles. It touches the groove's walls.
#pragma once

#include <vector>

namespace whorl::solid {

struct UnrolledPoint;

struct Scoop {
    double theta0 = 0, z0 = 0;
    double unroll = 1; // mm per rad; negative for a left-hand groove, whose α turns the other way
    double taper = 0, gauge = 0;
    bool arc = false;
    double reach0 = 0, reach1 = 0, height0 = 0, height1 = 0;
    double from = 0, to = 1;             // of v
    double alpha_from = 0, alpha_to = 0; // of one face

    double reach(double v) const; // ρ
    double height(double v) const;
    double reach_slope(double v) const; // by v
    double height_slope(double v) const;
    bool has_pole() const { return reach(to) < 1e-9; } // its inner end is a point
};

UnrolledPoint point_at(const Scoop& s, double alpha, double v);
// α and v of a point on it, its θ within half a turn of the middle. Where ρ is 0 any α does: the middle one is given.
struct ScoopPlace {
    double alpha = 0, v = 0;
};
ScoopPlace place_on(const Scoop& s, const UnrolledPoint& p);
double off_scoop(const Scoop& s, const UnrolledPoint& p); // mm

// Covector of the outside, by r, θ and z.
struct ScoopNormal {
    double r = 0, theta = 0, z = 0;
};
ScoopNormal normal_of(const Scoop& s, const UnrolledPoint& p);

double scoop_volume(const Scoop& s); // ∫∫ r²/2 dθ dz

// How far one polynomial of degree 7 lies off it, mm: in α at its outer end, and in v at α = 0, where θ changes most.
double error_around(const Scoop& s, double alpha_from, double alpha_to);
double error_along(const Scoop& s, double v_from, double v_to);
constexpr double scoop_tolerance = 5e-8; // that is allowed

} // namespace whorl::solid
