// The curves of a tooth's outline in the plane square to the axis.
//
// Each runs from the middle of a space (angle 0) towards the middle of a tooth, in rising parameter. Lengths
// in mm, angles in rad about the axis. A curve is smooth inside its range, and its distance from the axis
// rises or falls all the way.
#pragma once

#include "form/jet.hpp"

#include <functional>
#include <memory>
#include <vector>

namespace whorl {

enum class CurveShape {
    circle,   // about the axis: the root and the tip; the parameter is the angle
    trochoid, // the root fillet: what the rounded tip corner of the generating rack leaves; the parameter t
              // has sinh t = tan of the angle from the corner's lowest point
    involute, // the flank; parameter ±tan of the pressure angle, negative on internal teeth
    arc,      // a rounding; the parameter times `sense` is the angle about its own centre
    line,     // a chamfer; parameter 0 to 1
    traced    // given by a function of its parameter: a cam's profile
};

struct TransverseJet {
    Jet x, y;
};

struct TransverseCurve {
    CurveShape shape = CurveShape::circle;
    double from = 0, to = 0;  // parameter
    double radius = 0;        // circle, arc: its own; involute: base circle; trochoid: pitch circle
    double origin = 0;        // involute: the angle at which it leaves the base circle
    double x0 = 0, y0 = 0;    // arc: centre; line: begin. The middle of the space is at y = 0, x > 0
    double x1 = 0, y1 = 0;    // line: end
    double sense = 1;         // arc: +1, or −1 for one that turns clockwise
    double corner_x = 0;      // trochoid: centre of the rack's tip corner along the rack, transverse
    double corner_y = 0;      // and its height over the pitch line, negative
    double corner_radius = 0; // in the normal plane
    double cos_helix = 1;     // cosine of the helix angle at the pitch circle
    std::shared_ptr<const std::function<TransverseJet(double)>> traced = {};
    // Seen from the axis it goes round one way all along: places on it are found by their angle, which serves
    // where its radius hardly changes. Else by their radius.
    bool by_angle = false;
};
TransverseJet jet_at(const TransverseCurve& c, double parameter);

struct TransversePoint {
    double x = 0, y = 0;
    double radius() const { return std::hypot(x, y); }
    double angle() const { return std::atan2(y, x); }
};
TransversePoint point_at(const TransverseCurve& c, double parameter);

// The parameter at which the curve has this distance from the axis, clamped to its range. Not for circles.
double parameter_at_radius(const TransverseCurve& c, double radius);

// The parameter of the place on the curve that is nearest to one at this radius and angle (rad, within half a
// turn of the curve's own), clamped to its range.
double parameter_at(const TransverseCurve& c, double radius, double angle);

// Twice the area swept by the radius along the curve, ∫ (x·dy − y·dx), to 1e-13 relative.
double swept(const TransverseCurve& c, double from, double to);

// Parameters, ends included, at which the curve is cut so that its chords keep within `chord` (mm).
std::vector<double> samples(const TransverseCurve& c, double chord);

} // namespace whorl
