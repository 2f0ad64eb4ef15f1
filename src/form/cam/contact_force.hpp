// The force between a disc cam and its follower at one place of its motion.
#pragma once

#include "form/cam/cam.hpp"

#include <cmath>

namespace whorl {

// N, F/cos φ at this speed; negative: the follower is off an open cam, or on a groove's outer wall.
inline double contact_force(const ResolvedCam& cam, double theta, std::size_t part, double rpm) {
    return force_along(cam.spec.load, cam.motion.at(theta, part), rpm) /
           std::cos(follower_at(cam.spec, cam.motion, theta, part).pressure_angle);
}

} // namespace whorl
