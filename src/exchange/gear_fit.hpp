// Where an outline's own axis and phase are, from the flanks of its teeth. Internal to the exchange floor.
//
// Each point of the outline near the middle of the teeth lies on the flank of some space, e beside ours along the arc:
//
//   e = s·(θ − φ − k·τ)·r − h(r)·r,   s = ±1 the side, h half the space's angle, τ the pitch angle
//
// Moving the axis by (x, y) and turning by φ changes it by s·(x·sin θ − y·cos θ) − s·r·φ + r·h'(r)·(x·cos θ + y·sin θ).
// Least squares of that and of a common difference b (thicker or thinner teeth), of the points that lie within three
// times the usual deviation of the median: teeth that are missing, burrs and whatever else the outline has are no
// part of the fit (Rousseeuw and Leroy, Robust Regression, chapter 5).
#pragma once

#include "exchange/outline_fit.hpp"

#include <vector>

namespace whorl {

struct GearPose {
    double x = 0, y = 0;   // the axis, mm
    double turned = 0;     // of a space's middle, rad
    bool found = false;    // false: too few points near the middle of the teeth
    double spread = 0;     // of the points that were used about b, mm, by the median
    std::vector<int> used; // points of each tooth's flanks, from the one behind the first space on
};

// From an axis that is near; it stays where it is unless `free_axis`.
GearPose pose_of(const ResolvedGear& gear, const std::vector<OutlineSample>& outline, double x, double y,
                 bool free_axis);

// The middle of the circle on which the outermost points lie, one from each of so many sectors, but for those that
// don't lie on it; (x, y) is near.
OutlinePoint middle_of_tips(const std::vector<OutlineSample>& outline, int sectors, double x, double y);

} // namespace whorl
