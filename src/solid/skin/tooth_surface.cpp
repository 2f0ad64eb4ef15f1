#include "solid/skin/tooth_surface.hpp"

#include "solid/kernel/bent_spline.hpp"
#include "solid/kernel/kernel_spline.hpp"

#include <Geom_SurfaceOfLinearExtrusion.hxx>

#include <algorithm>
#include <cmath>

namespace whorl::solid {

ToothSurfaces::ToothSurfaces(const Skin& skin) {
    for (const Edge& e : skin.edges)
        if (e.shape == EdgeShape::tooth && (std::min(e.tooth_from, e.tooth_to) > e.tooth.curve->from ||
                                            std::max(e.tooth_from, e.tooth_to) < e.tooth.curve->to))
            tolerance_ = spline_tolerance;
}

// A tooth's curve as it was resolved, in the plane z = 0; all teeth of a zone share it.
const ScrewSpline& ToothSurfaces::outline(const TransverseCurve& c) {
    ScrewSpline& s = outlines_[&c];
    if (s.poles.empty()) {
        const auto jet = [&](double t) {
            const TransverseJet j = jet_at(c, t);
            return JetPoint{j.x, j.y, {}};
        };
        s = fitted_spline(jet, c.from, c.to, fitted_spans(jet, c.from, c.to, tolerance_));
    }
    return s;
}

ScrewSpline ToothSurfaces::placed(const ToothCurve& tooth, double z) {
    ScrewSpline s = outline(*tooth.curve);
    const double angle = tooth.turned + tooth.twist * z, co = std::cos(angle), si = std::sin(angle);
    for (Point& p : s.poles) {
        const double x = p.x, y = tooth.mirrored ? -p.y : p.y;
        p = {x * co - y * si, x * si + y * co, z};
    }
    return s;
}

Handle(Geom_Curve) ToothSurfaces::curve(const ToothCurve& tooth, double z) {
    Handle(Geom_Curve)& made =
        curves_[{tooth.curve.get(), tooth.mirrored, tooth.turned + tooth.twist * z, z}];
    if (made.IsNull()) made = kernel_curve(placed(tooth, z));
    return made;
}

// A turn along the axis, which the teeth of a zone share; its knots are z.
const ScrewSpline& ToothSurfaces::turn_along(double speed, double z0, double z1, int spans) {
    auto [it, is_new] = turns_.try_emplace({speed, z0, z1, spans});
    if (is_new) {
        it->second = screw_spline({speed * z0, 1, z0}, {speed * z1, 1, z1}, spans);
        for (double& k : it->second.knots)
            k /= speed;
    }
    return it->second;
}

Handle(Geom_Surface) ToothSurfaces::surface(const ToothCurve& tooth, double z0, double z1) {
    // receivers take an extrusion for smooth, and weigh it with few points: too few for a trochoid or a cam
    if (tooth.twist == 0 && tooth.curve->shape != CurveShape::trochoid &&
        tooth.curve->shape != CurveShape::traced)
        return new Geom_SurfaceOfLinearExtrusion(curve(tooth, z0),
                                                 tooth.mirrored ? gp::DZ().Reversed() : gp::DZ());
    ToothCurve level = tooth; // the turn is taken along with z
    level.twist = 0;
    const ScrewSpline across = placed(level, 0);
    // the way along the axis, as a complex number
    const double speed = std::abs(tooth.twist), sense = tooth.twist < 0 ? -1 : 1;
    ScrewSpline turn{{{1, 0, z0}, {1, 0, z1}}, {z0, z1}, {2, 2}};
    if (speed > 0) {
        double largest = 0;
        for (const Point& p : across.poles)
            largest = std::max(largest, std::hypot(p.x, p.y));
        turn = turn_along(speed, z0, z1, screw_spans(speed * (z1 - z0), largest, 0));
    }
    for (double& k : turn.knots)
        k = tooth.mirrored ? z0 - k : k - z0;
    if (tooth.mirrored) {
        std::reverse(turn.poles.begin(), turn.poles.end());
        std::reverse(turn.knots.begin(), turn.knots.end());
    }
    turn.knots.front() = tooth.mirrored ? z0 - z1 : 0;
    turn.knots.back() = tooth.mirrored ? 0 : z1 - z0;
    std::vector<Point> poles;
    for (const Point& p : across.poles)
        for (const Point& q : turn.poles)
            poles.push_back({p.x * q.x - p.y * sense * q.y, p.x * sense * q.y + p.y * q.x, q.z});
    return kernel_surface(poles, across, turn, speed > 0 ? spline_degree : 1);
}

} // namespace whorl::solid
