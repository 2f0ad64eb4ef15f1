// A cam's profile for the cutter and the drawing: as arcs, as a cutter's path, as points.
#pragma once

#include "exchange/arc_outline.hpp"
#include "form/cam/cam.hpp"

namespace whorl {

// The closed profile, counter-clockwise: dwells as the arcs they are, the rest as biarcs no further than
// `tolerance` (mm, 1e-5 to 0.1) from the true curve.
std::vector<ArcPoint> cam_outline(const ResolvedCam& cam, double tolerance = 5e-4);

// With the base circle, and the pitch curve's prime circle, as DXF; as SVG. Of a groove both walls, and the disc.
std::string cam_dxf(const ResolvedCam& cam, double tolerance = 5e-4);
std::string cam_svg(const ResolvedCam& cam, double tolerance = 5e-4);

// Points of the profile and of the path of a cutter of that radius (mm; 0: as large as the follower, which
// then runs on the pitch curve), one for every `step` degrees of the cam's turn:
// angle,lift,radius,polar_angle,x,y,cutter_x,cutter_y, degrees and mm.
std::string cam_points_csv(const ResolvedCam& cam, double step, double cutter_radius = 0);

// The motion alone: angle,lift,velocity,acceleration,jerk, in degrees, mm and mm per rad, rad², rad³; with
// `rpm` > 0 in mm/s, m/s² and m/s³. The last line is the end of the turn. Throws InputError for a step
// outside 0.01 to 90 degrees.
std::string motion_csv(const Motion& motion, double step, double rpm = 0);
// Of a cam with a load, at its own speed where `rpm` is 0, further columns: contact_force,torque, N and N·mm
// (see form/cam/forces.hpp); motions per rad stay per rad.
std::string motion_csv(const ResolvedCam& cam, double step, double rpm = 0);

} // namespace whorl
