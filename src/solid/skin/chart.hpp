// A face's surface as the kernel keeps it, and how the face's unrolled chart becomes its parameters.
// Internal to the solid floor; includes the kernel.
#pragma once

#include "solid/skin/tooth_surface.hpp"

#include <gp_Pnt2d.hxx>

namespace whorl::solid {

struct Chart {
    Handle(Geom_Surface) surface;
    enum {
        plane,
        cylinder,
        cone,
        flipped_cone,
        ruled,
        arc,
        tooth,
        wall,
        torus,
        hole,
        turned,
        fluted,
        scoop // (α, v), v from 0 outside to 1 inside
    } kind = plane;
    const Face* face = nullptr;       // arc, tooth, wall, hole, turned (θ, z), fluted (z, φ), scoop
    const BentPart* bend = nullptr;   // torus: u along the bar, v around it, backwards
    double z0 = 0, stretch = 1;       // cone: v = (z − z0)·stretch; tooth: v = ±(z − z0)
    double v0 = 0, v1 = 1, slope = 0; // ruled; torus: v0 is added
    double quarter = 0;               // arc: π/2 on a sphere and a torus, whose v is the latitude
    bool against = false; // the surface's own normal points to the axis where the face's points out

    gp_Pnt2d operator()(const UnrolledPoint& p) const; // (u, v) of a point
    // Turned so that the natural normal points outwards.
    double tooth_v(double z) const { return face->tooth.mirrored ? z0 - z : z - z0; }
    // φ, turned so that v rises with z and the natural normal points outwards.
    double arc_v(double phi) const { return quarter + arc_turn() * phi; }
    double arc_turn() const { return quarter == 0 && face->arc_to > face->arc_from ? 1 : -1; }
};

// Every face gets the surface the kernel has for it; helicoids are ruled splines, swept arcs splines both
// ways.
Chart chart_of(const Skin& skin, const Face& face, ToothSurfaces& teeth);

} // namespace whorl::solid
