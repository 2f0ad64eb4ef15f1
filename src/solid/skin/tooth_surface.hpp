// The curves and surfaces of teeth as the kernel keeps them. Internal to the solid floor; includes the
// kernel.
//
// A tooth's outline is fitted once and placed for every tooth. Along the axis a face is that curve pushed
// (then receivers know it for that), or multiplied as a complex number with the turn of the helix, a screw
// spline; so the edges of a face lie on its very surface.
#pragma once

#include "solid/kernel/screw_spline.hpp"
#include "solid/skin/skin.hpp"

#include <Geom_Curve.hxx>
#include <Geom_Surface.hxx>

#include <map>

namespace whorl::solid {

class ToothSurfaces {
public:
    // Of this skin's teeth. A tooth's edges lie on the very splines of its faces, so they meet whatever the
    // splines' distance from the true outline is: a nanometre here, which leaves the kernel less to check.
    // Where a neighbour cuts a curve, its corner lies on the true outline, and the spline must meet it there.
    explicit ToothSurfaces(const Skin& skin);

    // A curve in the plane z, which a face and its edge share.
    Handle(Geom_Curve) curve(const ToothCurve& tooth, double z);
    // A face from z0 to z1. Its parameters: the outline's own, and from z0 on along the axis, turned so that
    // the natural normal points outwards: z − z0, of a mirrored flank z0 − z.
    Handle(Geom_Surface) surface(const ToothCurve& tooth, double z0, double z1);

private:
    const ScrewSpline& outline(const TransverseCurve& curve);
    ScrewSpline placed(const ToothCurve& tooth, double z);
    const ScrewSpline& turn_along(double speed, double z0, double z1, int spans);

    double tolerance_ = 1e-6; // mm
    std::map<const TransverseCurve*, ScrewSpline> outlines_;
    std::map<std::tuple<double, double, double, int>, ScrewSpline> turns_; // by speed, z0, z1, spans
    std::map<std::tuple<const TransverseCurve*, bool, double, double>, Handle(Geom_Curve)> curves_;
};

} // namespace whorl::solid
