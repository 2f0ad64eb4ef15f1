// The outline of a cam's lobe, made from its motion; and the follower's place, which both need. Internal to
// cam.cpp.
#pragma once

#include "form/cam/cam.hpp"

#include <complex>

namespace whorl {

// The follower's reference point F in the fixed plane, its derivatives by the cam's angle, and the unit
// vector in which it moves outwards.
struct FollowerReference {
    std::complex<double> f, f1, f2, way;
};
FollowerReference follower_reference(const CamSpec& spec, const Derivatives& motion);

// ψ0 of a swinging follower.
double arm_at_rest(const CamSpec& spec);

// Fills the outline, and a groove's outer wall; where the speed drops at once, for a groove where it jumps at
// all, it sets the trouble instead.
void make_outline(ResolvedCam& cam);

} // namespace whorl
