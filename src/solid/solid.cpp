#include "solid/solid.hpp"

#include "solid/attach_mesh.hpp"
#include "solid/bent_spline.hpp"
#include "solid/kernel_shape.hpp"
#include "solid/screw_spline.hpp"
#include "solid/tooth_mesh.hpp"

#include <BRepGProp.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <Geom2d_Circle.hxx>
#include <Geom2d_Line.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Circle.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Line.hxx>
#include <Geom_Plane.hxx>
#include <Geom_SphericalSurface.hxx>
#include <Geom_SurfaceOfLinearExtrusion.hxx>
#include <Standard_Failure.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace whorl::solid {
namespace {

constexpr double full_turn = 2 * std::numbers::pi;
// Curves and surfaces keep within spline_tolerance of the truth, so two of them meet within twice that.
constexpr double edge_tolerance = 4 * spline_tolerance;
constexpr double vertex_tolerance = 6 * spline_tolerance;

// A tooth's edges lie on the very splines of its faces, so they meet whatever the splines' distance from the
// true outline is: a nanometre here, which leaves the kernel less to check. Where a neighbour cuts a
// curve, its corner lies on the true outline, and the spline must meet it there.
constexpr double tooth_tolerance = 1e-6;

enum class CurveKind { line, circle, spline, bent, tooth };

CurveKind curve_kind(const Edge& e) {
    if (e.shape == EdgeShape::flat_trace && e.trace.slope == 0) return CurveKind::line; // in space
    if (e.shape == EdgeShape::tooth) return CurveKind::tooth;
    if (e.shape != EdgeShape::straight) return CurveKind::bent;
    if (std::abs(e.begin.theta - e.end.theta) < 1e-12) return CurveKind::line;
    if (std::abs(e.begin.r - e.end.r) < 1e-10 && std::abs(e.begin.z - e.end.z) < 1e-10)
        return CurveKind::circle;
    return CurveKind::spline;
}

gp_Pnt at(const UnrolledPoint& p) {
    return {p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z};
}

TColStd_Array1OfReal reals(const std::vector<double>& v) {
    TColStd_Array1OfReal a(1, static_cast<int>(v.size()));
    for (std::size_t i = 0; i < v.size(); ++i)
        a(static_cast<int>(i) + 1) = v[i];
    return a;
}
TColStd_Array1OfInteger integers(const std::vector<int>& v) {
    TColStd_Array1OfInteger a(1, static_cast<int>(v.size()));
    for (std::size_t i = 0; i < v.size(); ++i)
        a(static_cast<int>(i) + 1) = v[i];
    return a;
}

class Builder {
public:
    explicit Builder(const Skin& skin) : skin_(skin) {
        for (const Edge& e : skin.edges)
            if (e.shape == EdgeShape::tooth && (std::min(e.tooth_from, e.tooth_to) > e.tooth.curve->from ||
                                                std::max(e.tooth_from, e.tooth_to) < e.tooth.curve->to))
                outline_tolerance_ = spline_tolerance;
    }

    TopoDS_Solid solid() {
        vertices_.resize(skin_.corners.size());
        for (std::size_t i = 0; i < vertices_.size(); ++i)
            brep_.MakeVertex(vertices_[i], at(skin_.corners[i]), vertex_tolerance);
        edges_.resize(skin_.edges.size());
        for (std::size_t i = 0; i < edges_.size(); ++i)
            make_edge(i);
        TopoDS_Shell shell;
        brep_.MakeShell(shell);
        for (const Face& f : skin_.faces) {
            faces_.push_back(make_face(f));
            brep_.Add(shell, faces_.back());
        }
        shell.Closed(true);
        TopoDS_Solid solid;
        brep_.MakeSolid(solid);
        brep_.Add(solid, shell);
        return solid;
    }

    void attach(const Mesh& mesh) const {
        std::vector<KernelEdge> edges;
        for (std::size_t i = 0; i < edges_.size(); ++i) {
            const CurveKind kind = curve_kind(skin_.edges[i]);
            edges.push_back(
                {edges_[i].edge, edges_[i].swapped, kind == CurveKind::bent || kind == CurveKind::tooth});
        }
        attach_mesh(skin_, mesh, faces_, edges);
    }

private:
    // Edges run in rising θ (lines: from → to). `swapped` edges run against the skin's direction.
    void make_edge(std::size_t i) {
        const Edge& e = skin_.edges[i];
        const CurveKind kind = curve_kind(e);
        const bool swapped = kind == CurveKind::bent || kind == CurveKind::tooth
                                 ? first_parameter(e) > last_parameter(e)
                             : kind == CurveKind::line ? false
                                                       : e.begin.theta > e.end.theta;
        const UnrolledPoint &p = swapped ? e.end : e.begin, &q = swapped ? e.begin : e.end;
        double first = p.theta, last = q.theta;
        int spans = 1;
        Handle(Geom_Curve) curve;
        switch (kind) {
        case CurveKind::line: {
            const gp_Pnt a = at(p), b = at(q);
            first = 0;
            last = a.Distance(b);
            curve = new Geom_Line(a, gp_Dir(gp_Vec(a, b)));
            break;
        }
        case CurveKind::circle:
            curve = new Geom_Circle(gp_Ax2(gp_Pnt(0, 0, p.z), gp::DZ(), gp::DX()), p.r);
            break;
        case CurveKind::spline:
            curve = spline_curve(screw_spline(p, q, screw_spans(p, q)));
            break;
        case CurveKind::tooth: {
            first = std::min(e.tooth_from, e.tooth_to);
            last = std::max(e.tooth_from, e.tooth_to);
            curve = tooth_curve(e.tooth, e.begin.z);
            break;
        }
        case CurveKind::bent: {
            first = std::min(first_parameter(e), last_parameter(e));
            last = std::max(first_parameter(e), last_parameter(e));
            const auto jet = [&](double x) { return space_jet(e, x); };
            // the images in the faces' charts have the same spans; θ counts by the radius
            const double reach = std::max(p.r, q.r);
            const auto image_jet = [&](double x) {
                JetPoint j = chart_jet(e, x, 0, 1, 0);
                for (double& v : j.x.c)
                    v *= reach;
                return j;
            };
            spans = std::max(fitted_spans(jet, first, last), fitted_spans(image_jet, first, last));
            curve = spline_curve(fitted_spline(jet, first, last, spans));
            break;
        }
        }
        TopoDS_Edge edge;
        brep_.MakeEdge(edge, curve, edge_tolerance);
        const auto &from = vertices_[static_cast<std::size_t>(swapped ? e.to : e.from)],
                   &to = vertices_[static_cast<std::size_t>(swapped ? e.from : e.to)];
        brep_.Add(edge, from.Oriented(TopAbs_FORWARD));
        brep_.Add(edge, to.Oriented(TopAbs_REVERSED));
        brep_.Range(edge, first, last);
        edges_[i] = {edge, swapped, first, last, spans};
    }

    struct MadeEdge {
        TopoDS_Edge edge;
        bool swapped = false;
        double first = 0, last = 0;
        int spans = 1; // of a bent curve
    };
    static Handle(Geom_Curve) spline_curve(const ScrewSpline& s) {
        TColgp_Array1OfPnt poles(1, static_cast<int>(s.poles.size()));
        for (std::size_t k = 0; k < s.poles.size(); ++k)
            poles(static_cast<int>(k) + 1) = gp_Pnt(s.poles[k].x, s.poles[k].y, s.poles[k].z);
        return new Geom_BSplineCurve(poles, reals(s.knots), integers(s.multiplicity), spline_degree);
    }

    // A tooth's curve as it was resolved, in the plane z = 0; all teeth of a zone share it.
    const ScrewSpline& outline(const TransverseCurve& c) {
        ScrewSpline& s = outlines_[&c];
        if (s.poles.empty()) {
            const auto jet = [&](double t) {
                const TransverseJet j = jet_at(c, t);
                return JetPoint{j.x, j.y, {}};
            };
            s = fitted_spline(jet, c.from, c.to, fitted_spans(jet, c.from, c.to, outline_tolerance_));
        }
        return s;
    }
    ScrewSpline placed(const ToothCurve& tooth, double z) {
        ScrewSpline s = outline(*tooth.curve);
        const double angle = tooth.turned + tooth.twist * z, co = std::cos(angle), si = std::sin(angle);
        for (Point& p : s.poles) {
            const double x = p.x, y = tooth.mirrored ? -p.y : p.y;
            p = {x * co - y * si, x * si + y * co, z};
        }
        return s;
    }

    // As a curve of the kernel's, which a face and its edge share.
    Handle(Geom_Curve) tooth_curve(const ToothCurve& tooth, double z) {
        Handle(Geom_Curve)& made =
            tooth_curves_[{tooth.curve.get(), tooth.mirrored, tooth.turned + tooth.twist * z, z}];
        if (made.IsNull()) made = spline_curve(placed(tooth, z));
        return made;
    }

    // How a face's unrolled chart becomes the surface's parameters: (u, v) of a point.
    struct Chart {
        Handle(Geom_Surface) surface;
        enum { plane, cylinder, cone, flipped_cone, ruled, arc, tooth } kind = plane;
        const Face* face = nullptr;       // arc, tooth
        double z0 = 0, stretch = 1;       // cone: v = (z − z0)·stretch; tooth: v = ±(z − z0)
        double v0 = 0, v1 = 1, slope = 0; // ruled
        double quarter = 0;               // arc: π/2 on a sphere, whose v is the latitude
        gp_Pnt2d operator()(const UnrolledPoint& p) const {
            switch (kind) {
            case cylinder:
                return {p.theta, p.z};
            case cone:
                return {p.theta, (p.z - z0) * stretch};
            case flipped_cone:
                return {-p.theta, -(p.z - z0) * stretch};
            case tooth: {
                // rails lie at either end of the curve
                const TransverseCurve& curve = *face->tooth.curve;
                const double a = whorl::point_at(curve, curve.from).radius(),
                             b = whorl::point_at(curve, curve.to).radius();
                return {std::abs(p.r - a) < std::abs(p.r - b) ? curve.from : curve.to, tooth_v(p.z)};
            }
            case arc: {
                // rails lie at either end of the arc
                const double zeta = p.z - face->rail_slope * p.theta;
                const double a = face->arc_z + face->arc_radius * std::cos(face->arc_from),
                             b = face->arc_z + face->arc_radius * std::cos(face->arc_to);
                return {p.theta,
                        arc_v(std::abs(zeta - a) < std::abs(zeta - b) ? face->arc_from : face->arc_to)};
            }
            default:
                return {p.theta, (p.z - slope * p.theta - v0) / (v1 - v0)};
            }
        }
        // turned so that the natural normal points outwards
        double tooth_v(double z) const { return face->tooth.mirrored ? z0 - z : z - z0; }
        // φ, turned so that v rises with z and the natural normal points outwards
        double arc_v(double phi) const { return quarter + (face->arc_to > face->arc_from ? phi : -phi); }
        double arc_turn() const { return face->arc_to > face->arc_from ? 1 : -1; }
    };

    // The outline's curve pushed along the axis (then receivers know it for that), or multiplied as a complex
    // number with the turn of the helix.
    // A turn along the axis, which the teeth of a zone share; its knots are z.
    const ScrewSpline& turn_along(double speed, double z0, double z1, int spans) {
        auto [it, is_new] = turns_.try_emplace({speed, z0, z1, spans});
        if (is_new) {
            it->second = screw_spline({speed * z0, 1, z0}, {speed * z1, 1, z1}, spans);
            for (double& k : it->second.knots)
                k /= speed;
        }
        return it->second;
    }

    Chart tooth_chart(const Face& f) {
        Chart c;
        const TransverseCurve& curve = *f.tooth.curve;
        if (curve.shape == CurveShape::circle) {
            c.kind = Chart::cylinder;
            c.surface = new Geom_CylindricalSurface(gp_Ax3(gp::XOY()), curve.radius);
            return c;
        }
        c.kind = Chart::tooth;
        c.face = &f;
        double z0 = 1e300, z1 = -1e300;
        for (const EdgeUse& u : f.loops.front()) {
            const double z = start_of(skin_, u).z;
            z0 = std::min(z0, z);
            z1 = std::max(z1, z);
        }
        c.z0 = z0;
        // receivers take an extrusion for smooth, and weigh it with few points: too few for a trochoid
        if (f.tooth.twist == 0 && curve.shape != CurveShape::trochoid) {
            c.surface = new Geom_SurfaceOfLinearExtrusion(tooth_curve(f.tooth, z0),
                                                          f.tooth.mirrored ? gp::DZ().Reversed() : gp::DZ());
            return c;
        }
        ToothCurve level = f.tooth; // the turn is taken along with z
        level.twist = 0;
        const ScrewSpline along = placed(level, 0);
        // the way along the axis, as a complex number
        const double speed = std::abs(f.tooth.twist), sense = f.tooth.twist < 0 ? -1 : 1;
        ScrewSpline turn{{{1, 0, z0}, {1, 0, z1}}, {z0, z1}, {2, 2}};
        if (speed > 0) {
            double largest = 0;
            for (const Point& p : along.poles)
                largest = std::max(largest, std::hypot(p.x, p.y));
            turn = turn_along(speed, z0, z1, screw_spans(speed * (z1 - z0), largest, 0));
        }
        for (double& k : turn.knots)
            k = c.tooth_v(k);
        if (f.tooth.mirrored) {
            std::reverse(turn.poles.begin(), turn.poles.end());
            std::reverse(turn.knots.begin(), turn.knots.end());
        }
        turn.knots.front() = f.tooth.mirrored ? c.tooth_v(z1) : 0;
        turn.knots.back() = f.tooth.mirrored ? 0 : c.tooth_v(z1);
        const int n = static_cast<int>(along.poles.size());
        TColgp_Array2OfPnt poles(1, n, 1, static_cast<int>(turn.poles.size()));
        for (int i = 0; i < n; ++i)
            for (std::size_t j = 0; j < turn.poles.size(); ++j) {
                const Point &p = along.poles[static_cast<std::size_t>(i)], &q = turn.poles[j];
                poles(i + 1, static_cast<int>(j) + 1) =
                    gp_Pnt(p.x * q.x - p.y * sense * q.y, p.x * sense * q.y + p.y * q.x, q.z);
            }
        c.surface = new Geom_BSplineSurface(poles, reals(along.knots), reals(turn.knots),
                                            integers(along.multiplicity), integers(turn.multiplicity),
                                            spline_degree, speed > 0 ? spline_degree : 1);
        return c;
    }

    Chart chart(const Face& f) {
        Chart c;
        if (f.kind == FaceKind::toothed) return tooth_chart(f);
        if (f.kind == FaceKind::flat) {
            c.surface =
                new Geom_Plane(gp_Ax3(gp_Pnt(0, 0, f.a), f.up ? gp::DZ() : gp::DZ().Reversed(), gp::DX()));
            return c;
        }
        if (f.kind == FaceKind::side) {
            const gp_Dir n(std::cos(f.side_theta), std::sin(f.side_theta), 0);
            c.surface = new Geom_Plane(gp_Ax3(gp_Pnt(f.a * n.X(), f.a * n.Y(), 0), n, gp::DZ()));
            return c;
        }
        if (f.kind == FaceKind::curved) return arc_chart(f);
        if (f.c == 0 && f.b == 0) {
            c.kind = Chart::cylinder;
            c.surface = new Geom_CylindricalSurface(gp_Ax3(gp::XOY()), f.a);
            return c;
        }
        if (f.c == 0) {
            // referred to a circle on the face, where the radius is positive
            const UnrolledPoint p = start_of(skin_, f.loops.front().front());
            c.z0 = p.z;
            const double angle = std::atan(std::abs(f.b));
            c.stretch = 1 / std::cos(angle);
            const double r = f.a + f.b * p.z;
            if (f.b > 0) {
                c.kind = Chart::cone;
                c.surface = new Geom_ConicalSurface(gp_Ax3(gp_Pnt(0, 0, p.z), gp::DZ(), gp::DX()), angle, r);
            } else {
                c.kind = Chart::flipped_cone;
                c.surface = new Geom_ConicalSurface(gp_Ax3(gp_Pnt(0, 0, p.z), gp::DZ().Reversed(), gp::DX()),
                                                    angle, r);
            }
            return c;
        }
        c.kind = Chart::ruled;
        c.slope = f.rail_slope;
        double t0 = 1e300, t1 = -1e300;
        c.v0 = 1e300;
        c.v1 = -1e300;
        for (const EdgeUse& u : f.loops.front()) {
            const UnrolledPoint p = start_of(skin_, u);
            const double v = p.z - c.slope * p.theta;
            t0 = std::min(t0, p.theta);
            t1 = std::max(t1, p.theta);
            c.v0 = std::min(c.v0, v);
            c.v1 = std::max(c.v1, v);
        }
        const auto rail = [&](double v, double t) {
            const double z = v + c.slope * t;
            return UnrolledPoint{t, f.a + f.b * z + f.c * t, z};
        };
        const int spans = std::max(screw_spans(rail(c.v0, t0), rail(c.v0, t1)),
                                   screw_spans(rail(c.v1, t0), rail(c.v1, t1)));
        const ScrewSpline low = screw_spline(rail(c.v0, t0), rail(c.v0, t1), spans),
                          high = screw_spline(rail(c.v1, t0), rail(c.v1, t1), spans);
        const int n = static_cast<int>(low.poles.size());
        TColgp_Array2OfPnt poles(1, n, 1, 2);
        for (int i = 0; i < n; ++i) {
            const Point &a = low.poles[static_cast<std::size_t>(i)],
                        &b = high.poles[static_cast<std::size_t>(i)];
            poles(i + 1, 1) = gp_Pnt(a.x, a.y, a.z);
            poles(i + 1, 2) = gp_Pnt(b.x, b.y, b.z);
        }
        c.surface = new Geom_BSplineSurface(poles, reals(low.knots), reals({0, 1}),
                                            integers(low.multiplicity), integers({2, 2}), spline_degree, 1);
        return c;
    }

    // An arc swept along the rails: in θ a screw spline, across a fitted spline of the arc.
    Chart arc_chart(const Face& f) const {
        Chart c;
        c.kind = Chart::arc;
        c.face = &f;
        if (f.a == 0 && f.b == 0 && f.c == 0 && f.rail_slope == 0 && f.arc_to < f.arc_from) {
            c.quarter = std::numbers::pi / 2;
            c.surface =
                new Geom_SphericalSurface(gp_Ax3(gp_Pnt(0, 0, f.arc_z), gp::DZ(), gp::DX()), f.arc_radius);
            return c;
        }
        double t0 = 1e300, t1 = -1e300;
        for (const EdgeUse& u : f.loops.front()) {
            const Edge& e = skin_.edges[static_cast<std::size_t>(u.edge)];
            std::vector<double> reached{start_of(skin_, u).theta};
            if (e.shape == EdgeShape::bow)
                for (const double phi : bow_turns(e.bow))
                    reached.push_back(point_at(e.bow, phi).theta + u.turn * full_turn);
            for (const double t : reached) {
                t0 = std::min(t0, t);
                t1 = std::max(t1, t);
            }
        }
        // r = g(φ) + κ·θ and z = ζ(φ) + slope·θ
        const double kappa = f.b * f.rail_slope + f.c, turn = f.arc_to > f.arc_from ? 1 : -1;
        const auto profile = [&](double v) {
            Jet co = cosine(turn * v), si = sine(turn * v), zeta, g;
            for (std::size_t k = 0; k < 4; ++k) {
                const double chain = k % 2 == 1 ? turn : 1; // derivatives by v instead of φ
                zeta.c[k] = (k == 0 ? f.arc_z : 0) + f.arc_radius * co.c[k] * chain;
                g.c[k] = (k == 0 ? f.a + f.b * zeta.c[0] : f.b * zeta.c[k]) + f.arc_radius * si.c[k] * chain;
            }
            return JetPoint{g, zeta, {}};
        };
        const double v0 = std::min(c.arc_v(f.arc_from), c.arc_v(f.arc_to)),
                     v1 = std::max(c.arc_v(f.arc_from), c.arc_v(f.arc_to));
        const ScrewSpline across = fitted_spline(profile, v0, v1, fitted_spans(profile, v0, v1));
        double largest = 0;
        for (const auto& p : across.poles)
            largest = std::max(largest, p.x + std::max(kappa * t0, kappa * t1));
        const int spans = screw_spans(t1 - t0, largest, kappa);
        const ScrewSpline unit = screw_spline({t0, 1, 0}, {t1, 1, 0}, spans),
                          drift = screw_spline({t0, kappa * t0, f.rail_slope * t0},
                                               {t1, kappa * t1, f.rail_slope * t1}, spans);
        TColgp_Array2OfPnt poles(1, static_cast<int>(unit.poles.size()), 1,
                                 static_cast<int>(across.poles.size()));
        for (std::size_t i = 0; i < unit.poles.size(); ++i)
            for (std::size_t j = 0; j < across.poles.size(); ++j) {
                const double g = across.poles[j].x;
                poles(static_cast<int>(i) + 1, static_cast<int>(j) + 1) =
                    gp_Pnt(g * unit.poles[i].x + drift.poles[i].x, g * unit.poles[i].y + drift.poles[i].y,
                           across.poles[j].y + drift.poles[i].z);
            }
        c.surface = new Geom_BSplineSurface(poles, reals(unit.knots), reals(across.knots),
                                            integers(unit.multiplicity), integers(across.multiplicity),
                                            spline_degree, spline_degree);
        return c;
    }

    // The image of a bent edge, fitted in the chart with the spans of its curve.
    Handle(Geom2d_Curve) bent_image(const Chart& c, const EdgeUse& use) const {
        const Edge& skin_edge = skin_.edges[static_cast<std::size_t>(use.edge)];
        const MadeEdge& e = edges_[static_cast<std::size_t>(use.edge)];
        const auto jet = [&](double x) {
            const double shift = use.turn * full_turn;
            JetPoint j = chart_jet(skin_edge, x, shift, 1, 0);
            const auto scale = [](Jet& jet_, double by) {
                for (double& v : jet_.c)
                    v *= by;
            };
            switch (c.kind) {
            case Chart::cone:
            case Chart::flipped_cone:
                j.y.c[0] -= c.z0;
                scale(j.y, c.kind == Chart::cone ? c.stretch : -c.stretch);
                if (c.kind == Chart::flipped_cone) scale(j.x, -1);
                break;
            case Chart::arc:
                j.y = {{c.arc_v(x), c.arc_turn(), 0, 0}};
                break;
            case Chart::ruled:
                for (std::size_t k = 0; k < 4; ++k)
                    j.y.c[k] -= c.slope * j.x.c[k];
                j.y.c[0] -= c.v0;
                scale(j.y, 1 / (c.v1 - c.v0));
                break;
            default:
                break;
            }
            return j;
        };
        const ScrewSpline s = fitted_spline(jet, e.first, e.last, e.spans);
        TColgp_Array1OfPnt2d poles(1, static_cast<int>(s.poles.size()));
        for (std::size_t k = 0; k < s.poles.size(); ++k)
            poles(static_cast<int>(k) + 1) = gp_Pnt2d(s.poles[k].x, s.poles[k].y);
        return new Geom2d_BSplineCurve(poles, reals(s.knots), integers(s.multiplicity), spline_degree);
    }

    // The edge's image in the face's parameters, with the edge's own parameter.
    Handle(Geom2d_Curve) image(const Chart& c, const EdgeUse& use) const {
        const MadeEdge& e = edges_[static_cast<std::size_t>(use.edge)];
        const Edge& skin_edge = skin_.edges[static_cast<std::size_t>(use.edge)];
        if (curve_kind(skin_edge) == CurveKind::bent) return bent_image(c, use);
        if (skin_edge.shape == EdgeShape::tooth) // along the surface's own lines
            return new Geom2d_Line(gp_Pnt2d(0, c.tooth_v(skin_edge.begin.z)), gp::DX2d());
        EdgeUse along = use;
        along.forward = !e.swapped;
        const gp_Pnt2d a = c(start_of(skin_, along)), b = c(end_of(skin_, along));
        const double range = e.last - e.first, reach = a.Distance(b);
        if (std::abs(reach - range) < 1e-12 * std::max(1.0, range)) { // a unit-speed line serves
            const gp_Dir2d d(b.X() - a.X(), b.Y() - a.Y());
            return new Geom2d_Line(gp_Pnt2d(a.X() - e.first * d.X(), a.Y() - e.first * d.Y()), d);
        }
        TColgp_Array1OfPnt2d poles(1, 2);
        poles(1) = a;
        poles(2) = b;
        return new Geom2d_BSplineCurve(poles, reals({e.first, e.last}), integers({2, 2}), 1);
    }

    // A curve's image in a flat face. Kept for the ends of teeth only: otherwise the kernel projects every
    // edge anew whenever it looks at one.
    Handle(Geom2d_Curve) flat_image(const Face& f, const EdgeUse& use) const {
        const MadeEdge& e = edges_[static_cast<std::size_t>(use.edge)];
        const double side = f.up ? 1 : -1;
        double first, last;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(e.edge, first, last);
        if (const auto circle = Handle(Geom_Circle)::DownCast(curve); !circle.IsNull())
            return new Geom2d_Circle(gp_Ax2d(gp::Origin2d(), gp::DX2d()), circle->Radius(), f.up);
        const auto spline = Handle(Geom_BSplineCurve)::DownCast(curve);
        if (spline.IsNull()) return {}; // a line is projected in no time
        TColgp_Array1OfPnt2d poles(1, spline->NbPoles());
        for (int k = 1; k <= spline->NbPoles(); ++k)
            poles(k) = gp_Pnt2d(spline->Pole(k).X(), side * spline->Pole(k).Y());
        return new Geom2d_BSplineCurve(poles, spline->Knots(), spline->Multiplicities(), spline_degree);
    }

    TopoDS_Face make_face(const Face& f) {
        const Chart c = chart(f);
        const bool toothed_end = f.kind == FaceKind::flat && has_teeth(skin_, f);
        TopoDS_Face face;
        brep_.MakeFace(face, c.surface, edge_tolerance);
        std::map<int, Handle(Geom2d_Curve)> first_image; // by edge, to find seams
        for (const auto& loop : f.loops) {
            TopoDS_Wire wire;
            brep_.MakeWire(wire);
            for (std::size_t at = 0; at < loop.size(); ++at) {
                // a face that looks at the axis is made as it is seen from inside and turned over as a whole
                EdgeUse use = loop[f.inward ? loop.size() - 1 - at : at];
                if (f.inward) use.forward = !use.forward;
                MadeEdge& e = edges_[static_cast<std::size_t>(use.edge)];
                const bool forward = use.forward != e.swapped;
                if (toothed_end)
                    if (const auto flat = flat_image(f, use); !flat.IsNull())
                        brep_.UpdateEdge(e.edge, flat, face, edge_tolerance);
                if (c.kind != Chart::plane) {
                    Handle(Geom2d_Curve) now = image(c, use);
                    const auto earlier = first_image.find(use.edge);
                    if (earlier == first_image.end()) {
                        first_image[use.edge] = now;
                        brep_.UpdateEdge(e.edge, now, face, edge_tolerance);
                    } else if (forward) {
                        brep_.UpdateEdge(e.edge, now, earlier->second, face, edge_tolerance);
                        brep_.Continuity(e.edge, face, face, GeomAbs_CN);
                    } else {
                        brep_.UpdateEdge(e.edge, earlier->second, now, face, edge_tolerance);
                        brep_.Continuity(e.edge, face, face, GeomAbs_CN);
                    }
                }
                brep_.Add(wire, e.edge.Oriented(forward ? TopAbs_FORWARD : TopAbs_REVERSED));
            }
            wire.Closed(true);
            brep_.Add(face, wire);
        }
        if (f.inward) face.Reverse();
        return face;
    }

    const Skin& skin_;
    BRep_Builder brep_;
    std::vector<TopoDS_Vertex> vertices_;
    std::vector<MadeEdge> edges_;
    std::vector<TopoDS_Face> faces_;
    std::map<const TransverseCurve*, ScrewSpline> outlines_;
    std::map<std::tuple<double, double, double, int>, ScrewSpline> turns_; // by speed, z0, z1, spans
    std::map<std::tuple<const TransverseCurve*, bool, double, double>, Handle(Geom_Curve)> tooth_curves_;
    double outline_tolerance_ = tooth_tolerance;
};

Solid build(const Skin& skin, const Mesh* mesh) {
    try {
        Builder builder(skin);
        auto shape = std::make_shared<KernelShape>();
        shape->solid = builder.solid();
        if (mesh) builder.attach(*mesh);
        return Solid(std::move(shape));
    } catch (const Standard_Failure& e) {
        throw std::logic_error(std::string("The kernel refused a curve or surface: ") + e.GetMessageString());
    }
}

} // namespace

Solid make_solid(const Skin& skin) {
    return build(skin, nullptr);
}
Solid make_solid(const Skin& skin, const Mesh& mesh) {
    return build(skin, &mesh);
}

double kernel_volume(const Solid& solid) {
    GProp_GProps g;
    BRepGProp::VolumeProperties(solid.shape().solid, g, 1e-8, true);
    return g.Mass();
}

} // namespace whorl::solid
