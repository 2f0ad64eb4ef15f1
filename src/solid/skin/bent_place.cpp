#include "solid/skin/bent_place.hpp"

#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

gp_Vec vec(const Direction& d) {
    return {d[0], d[1], d[2]};
}

// At the bend's axis: T × D along it, and the way from it to the begin of the centreline.
gp_Ax3 axes(const BentPart& b) {
    const double c = std::cos(b.towards), s = std::sin(b.towards);
    const gp_Vec towards = c * vec(b.begin.x) + s * vec(b.begin.y),
                 axis = -s * vec(b.begin.x) + c * vec(b.begin.y);
    const gp_Vec centre = vec(b.begin.origin) + b.radius * towards;
    return {gp_Pnt(centre.XYZ()), gp_Dir(axis), gp_Dir(-towards)};
}

} // namespace

gp_Trsf placed_at(const BentLine& way, double z) {
    const BarFrame f = way.frame_at(z);
    const gp_Vec origin = vec(f.origin) - z * vec(f.t);
    gp_Trsf out;
    out.SetValues(f.x[0], f.y[0], f.t[0], origin.X(), f.x[1], f.y[1], f.t[1], origin.Y(), f.x[2], f.y[2],
                  f.t[2], origin.Z());
    return out;
}

Handle(Geom_ToroidalSurface) torus_of(const BentPart& b, double radius) {
    return new Geom_ToroidalSurface(axes(b), b.radius, radius);
}

double torus_u(const BentPart& b, double z) {
    return (z - b.from) / b.radius;
}

double torus_v(const BentPart& b, double theta) {
    return std::numbers::pi + b.towards - theta;
}

Handle(Geom_Circle) along_bend(const BentPart& b, double theta, double radius) {
    const double v = torus_v(b, theta);
    gp_Ax3 at = axes(b);
    at.Translate(radius * std::sin(v) * gp_Vec(at.Direction()));
    return new Geom_Circle(at.Ax2(), b.radius + radius * std::cos(v));
}

} // namespace whorl::solid
