// Outlines made of lines and arcs, and how they are written as DXF and SVG.
#pragma once

#include "form/tooth/transverse_curve.hpp"

#include <functional>
#include <string>
#include <vector>

namespace whorl {

struct ArcPoint {
    double x = 0, y = 0; // mm
    double bulge =
        0; // tan of a quarter of the arc to the next point, positive counter-clockwise; 0: straight
};

// Adds a smooth curve without its end as pairs of arcs that share their tangents (biarcs), within `tolerance`
// (mm) of it.
void add_arcs(std::vector<ArcPoint>& out, const std::function<TransverseJet(double)>& curve, double from,
              double to, double tolerance);

// The outline run backwards; its first point stays the first if it is closed.
std::vector<ArcPoint> run_backwards(const std::vector<ArcPoint>& outline);

// DXF of the oldest kind every program reads: one polyline with bulges on the layer OUTLINE, in mm; circles
// about the origin on the layer CIRCLES.
std::string arcs_dxf(const std::vector<ArcPoint>& outline, bool closed, const std::string& note,
                     const std::vector<double>& circles = {});
std::string arcs_dxf(const std::vector<std::vector<ArcPoint>>& outlines, bool closed, const std::string& note,
                     const std::vector<double>& circles);
// SVG: one path of arcs, a unit is a millimetre, in a frame from (x0, y0), y upwards.
struct Frame {
    double x0 = 0, y0 = 0, width = 0, height = 0;
};
std::string arcs_svg(const std::vector<ArcPoint>& outline, bool closed, const std::string& title, Frame frame,
                     double stroke);
std::string arcs_svg(const std::vector<std::vector<ArcPoint>>& outlines, bool closed,
                     const std::string& title, Frame frame, double stroke);

} // namespace whorl
