#include "solid/kernel/kernel_spline.hpp"

#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>

namespace whorl::solid {
namespace {

TColStd_Array1OfReal knots(const ScrewSpline& s) {
    TColStd_Array1OfReal a(1, static_cast<int>(s.knots.size()));
    for (std::size_t i = 0; i < s.knots.size(); ++i)
        a(static_cast<int>(i) + 1) = s.knots[i];
    return a;
}
TColStd_Array1OfInteger multiplicities(const ScrewSpline& s) {
    TColStd_Array1OfInteger a(1, static_cast<int>(s.multiplicity.size()));
    for (std::size_t i = 0; i < s.multiplicity.size(); ++i)
        a(static_cast<int>(i) + 1) = s.multiplicity[i];
    return a;
}

} // namespace

Handle(Geom_Curve) kernel_curve(const ScrewSpline& s) {
    TColgp_Array1OfPnt poles(1, static_cast<int>(s.poles.size()));
    for (std::size_t k = 0; k < s.poles.size(); ++k)
        poles(static_cast<int>(k) + 1) = gp_Pnt(s.poles[k].x, s.poles[k].y, s.poles[k].z);
    return new Geom_BSplineCurve(poles, knots(s), multiplicities(s), spline_degree);
}

Handle(Geom2d_Curve) kernel_image(const ScrewSpline& s) {
    TColgp_Array1OfPnt2d poles(1, static_cast<int>(s.poles.size()));
    for (std::size_t k = 0; k < s.poles.size(); ++k)
        poles(static_cast<int>(k) + 1) = gp_Pnt2d(s.poles[k].x, s.poles[k].y);
    return new Geom2d_BSplineCurve(poles, knots(s), multiplicities(s), spline_degree);
}

Handle(Geom_Surface) kernel_surface(const std::vector<Point>& poles, const ScrewSpline& u,
                                    const ScrewSpline& v, int degree_v) {
    const auto n = u.poles.size(), m = v.poles.size();
    TColgp_Array2OfPnt table(1, static_cast<int>(n), 1, static_cast<int>(m));
    for (std::size_t i = 0; i < n; ++i)
        for (std::size_t j = 0; j < m; ++j) {
            const Point& p = poles[i * m + j];
            table(static_cast<int>(i) + 1, static_cast<int>(j) + 1) = gp_Pnt(p.x, p.y, p.z);
        }
    return new Geom_BSplineSurface(table, knots(u), knots(v), multiplicities(u), multiplicities(v),
                                   spline_degree, degree_v);
}

} // namespace whorl::solid
