// B-splines for the edges that are not straight in (θ, r, z), and for arcs. Kernel-free.
//
// Degree 7. Each span takes value and first derivative from the curve at both ends, so that spans go on in
// one direction (inner knots of multiplicity 6), and the value at four points between, placed so that the
// error stays small all along it: with a span of length h at most 0.018·(h/2)⁸/8!·max|f⁽⁸⁾|, a 56th of what
// three derivatives at either end would leave. Spans are added until it is below the tolerance where it
// swings furthest. The parameter is the edge's own, rising.
#pragma once

#include "form/jet.hpp"
#include "solid/kernel/screw_spline.hpp"

#include <functional>

namespace whorl::solid {

// A point of up to three coordinates with its derivatives.
struct JetPoint {
    Jet x, y, z;
};

// The edge in space; in a chart (u, v) with v = stretch·(z − z0); and a mouth on its hole's wall, in (t, u).
JetPoint space_jet(const Edge& e, double parameter);
JetPoint chart_jet(const Edge& e, double parameter, double turn_angle, double stretch, double z0);
JetPoint hole_jet(const Edge& e, double parameter);

// A polynomial piece of a spline.
struct BezierSpan {
    double from = 0, to = 0;
    std::array<Point, spline_degree + 1> poles{};
    int continuity = 0; // how many derivatives it shares with the piece before it
};
std::vector<BezierSpan> fitted_pieces(const std::function<JetPoint(double)>& jet, double from, double to,
                                      int spans);
// The same curve with as few poles as the continuity allows; `from` of each piece is `to` of the last.
ScrewSpline spline_of(const std::vector<BezierSpan>& pieces);

// Spans that keep within the tolerance (mm) for a curve given by its jets.
int fitted_spans(const std::function<JetPoint(double)>& jet, double from, double to,
                 double tolerance = spline_tolerance);
ScrewSpline fitted_spline(const std::function<JetPoint(double)>& jet, double from, double to, int spans);

Jet cosine(double at);
Jet sine(double at);

} // namespace whorl::solid
