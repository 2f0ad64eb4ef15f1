// B-splines for the edges that are not straight in (θ, r, z), and for arcs. Kernel-free.
//
// Degree 7, each span a two-point Hermite polynomial that takes value and three derivatives from the curve at
// both ends, so spans join with three continuous derivatives (inner knots of multiplicity 4). The error of a
// span of length h is at most h⁸/(8!·2⁸)·max|f⁽⁸⁾|; spans are halved until it is below the tolerance at their
// quarter points. The parameter is the edge's own, rising.
#pragma once

#include "form/jet.hpp"
#include "solid/screw_spline.hpp"

#include <functional>

namespace whorl::solid {

// A point of up to three coordinates with its derivatives.
struct JetPoint {
    Jet x, y, z;
};

// The edge in space; in a chart (u, v) with v = stretch·(z − z0); and the arc's own profile.
JetPoint space_jet(const Edge& e, double parameter);
JetPoint chart_jet(const Edge& e, double parameter, double turn_angle, double stretch, double z0);

// A polynomial piece of a spline.
struct BezierSpan {
    double from = 0, to = 0;
    std::array<Point, spline_degree + 1> poles{};
    int continuity = 0; // how many derivatives it shares with the piece before it
};
std::vector<BezierSpan> hermite_pieces(const std::function<JetPoint(double)>& jet, double from, double to,
                                       int spans);
// The same curve with as few poles as the continuity allows; `from` of each piece is `to` of the last.
ScrewSpline spline_of(const std::vector<BezierSpan>& pieces);

// Spans that keep within the tolerance (mm) for a curve given by its jets.
ScrewSpline hermite_spline(const std::function<JetPoint(double)>& jet, double from, double to, int spans);
int hermite_spans(const std::function<JetPoint(double)>& jet, double from, double to,
                  double tolerance = spline_tolerance);

Jet cosine(double at);
Jet sine(double at);

} // namespace whorl::solid
