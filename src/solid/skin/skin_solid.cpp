// A skin's kernel solid: exact lines and circles, splines for screwed and bent edges, each edge's image in
// the charts of its faces.
#include "quantity/numeric.hpp"
#include "solid/kernel/bent_spline.hpp"
#include "solid/kernel/brep.hpp"
#include "solid/kernel/kernel_spline.hpp"
#include "solid/mesh/tooth_mesh.hpp"
#include "solid/skin/bent_place.hpp"
#include "solid/skin/chart.hpp"
#include "solid/skin/mesh_stray.hpp"
#include "solid/skin/shaped_surface.hpp"
#include "solid/skin/wall_surface.hpp"

#include <Geom2d_BSplineCurve.hxx>
#include <Geom2d_Circle.hxx>
#include <Geom2d_Line.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Line.hxx>

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

// Curves and surfaces keep within spline_tolerance of the truth, so two of them meet within twice that.
constexpr double edge_tolerance = 4 * spline_tolerance;

enum class CurveKind { line, circle, spline, bent, tooth, along_bend };

CurveKind curve_kind(const Edge& e) {
    if (e.bend >= 0) return CurveKind::along_bend;
    if (e.shape == EdgeShape::flat_trace && e.trace.level()) return CurveKind::line; // in space
    if (e.shape == EdgeShape::tooth) return CurveKind::tooth;
    if (e.shape != EdgeShape::straight) return CurveKind::bent;
    if (std::abs(e.begin.theta - e.end.theta) < 1e-12) return CurveKind::line;
    if (std::abs(e.begin.r - e.end.r) < 1e-10 && std::abs(e.begin.z - e.end.z) < 1e-10)
        return CurveKind::circle;
    return CurveKind::spline;
}
// A hole's mouth in a plane that it stands square to.
bool is_circle(const Edge& e) {
    return e.shape == EdgeShape::mouth && e.mouth->plane &&
           std::abs(std::sin(e.mouth->side_theta - e.mouth->hole.towards)) < 1e-12;
}
bool bends(CurveKind kind) {
    return kind == CurveKind::bent || kind == CurveKind::tooth;
}

Point in_space(const UnrolledPoint& p) {
    return {p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z};
}

class SkinBuilder {
public:
    SkinBuilder(const Skin& skin, const Mesh* mesh)
        : skin_(skin), mesh_(mesh), brep_(edge_tolerance, mesh), teeth_(skin) {}

    Solid solid() {
        for (const UnrolledPoint& p : skin_.corners) {
            const Point at = in_space(p);
            if (!skin_.bent()) {
                brep_.add_vertex(at);
                continue;
            }
            const Direction d = skin_.way.frame_at(p.z).placed({at.x, at.y, 0});
            brep_.add_vertex({d[0], d[1], d[2]});
        }
        for (const Edge& e : skin_.edges)
            add_edge(e);
        std::vector<std::vector<std::uint32_t>> triangles;
        Approximation how;
        StrayReader strays;
        if (mesh_) {
            triangles = triangles_by_face(*mesh_, skin_.faces.size());
            how.deflection = skin_deflection(skin_, *mesh_);
            how.of_edge = [&](int edge) {
                const Edge& e = edge_of(edge);
                return bends(curve_kind(e)) ? 1.2 * strays(e, *mesh_, mesh_->edge_points[index(edge)]) : 0;
            };
        }
        for (std::size_t i = 0; i < skin_.faces.size(); ++i) {
            const Face& f = skin_.faces[i];
            const Chart c = chart_of(skin_, f, teeth_);
            const TopoDS_Face made = add_face(f, c);
            if (mesh_) brep_.attach(made, f.loops, f.inward != c.against, triangles[i], how);
        }
        return brep_.solid();
    }

private:
    // Which part of its curve an edge is. Edges run in rising parameter (lines: from → to); `swapped` ones
    // run against the skin's direction.
    struct Range {
        bool swapped = false;
        double first = 0, last = 0;
        int spans = 1; // of a bent curve
        Handle(Geom_Curve) curve;
    };

    static std::size_t index(int i) { return static_cast<std::size_t>(i); }
    const Edge& edge_of(int edge) const { return skin_.edges[index(edge)]; }

    void add_edge(const Edge& e) {
        const CurveKind kind = curve_kind(e);
        Range m;
        m.swapped = bends(kind)                     ? first_parameter(e) > last_parameter(e)
                    : kind == CurveKind::line       ? false
                    : kind == CurveKind::along_bend ? e.begin.z > e.end.z
                                                    : e.begin.theta > e.end.theta;
        const UnrolledPoint &p = m.swapped ? e.end : e.begin, &q = m.swapped ? e.begin : e.end;
        if (bends(kind)) {
            m.first = std::min(first_parameter(e), last_parameter(e));
            m.last = std::max(first_parameter(e), last_parameter(e));
        } else {
            m.first = p.theta;
            m.last = q.theta;
        }
        switch (kind) {
        case CurveKind::line: {
            const Point a = in_space(p), b = in_space(q);
            const gp_Pnt from(a.x, a.y, a.z), to(b.x, b.y, b.z);
            m.first = 0;
            m.last = from.Distance(to);
            m.curve = new Geom_Line(from, gp_Dir(gp_Vec(from, to)));
            break;
        }
        case CurveKind::along_bend: {
            const BentPart& b = skin_.way.parts()[index(e.bend)];
            m.first = torus_u(b, p.z);
            m.last = torus_u(b, q.z);
            m.curve = along_bend(b, p.theta, p.r);
            break;
        }
        case CurveKind::circle:
            m.curve = new Geom_Circle(gp_Ax2(gp_Pnt(0, 0, p.z), gp::DZ(), gp::DX()), p.r);
            break;
        case CurveKind::spline:
            m.curve = kernel_curve(screw_spline(p, q, screw_spans(p, q)));
            break;
        case CurveKind::tooth:
            m.curve = teeth_.curve(e.tooth, e.begin.z);
            break;
        case CurveKind::bent: {
            if (e.shape == EdgeShape::traced) { // the very borders of the walls
                m.spans = e.across ? 1 : wall_spans(*e.wall);
                m.curve = kernel_curve(e.across ? wall_across(*e.wall, e.level)
                                                : wall_along(*e.wall, e.level, m.spans));
                break;
            }
            if (e.shape == EdgeShape::shaped) { // the very borders of the surfaces
                m.curve = kernel_curve(e.across ? shaped_across(*e.patch, e.level, m.first, m.last)
                                                : shaped_along(*e.patch, e.level));
                break;
            }
            if (is_circle(e)) {
                const Mouth& at = *e.mouth;
                const double co = std::cos(at.side_theta), si = std::sin(at.side_theta);
                const double looks = at.hole.towards;
                m.curve = new Geom_Circle(gp_Ax2(gp_Pnt(at.a * co, at.a * si, at.hole.z),
                                                 gp_Dir(std::cos(looks), std::sin(looks), 0),
                                                 gp_Dir(-std::sin(looks), std::cos(looks), 0)),
                                          at.hole.radius);
                break;
            }
            const auto jet = [&](double x) { return space_jet(e, x); };
            // the images in the faces' charts have the same spans; θ counts by the radius
            const double reach = std::max(p.r, q.r);
            const auto image_jet = [&](double x) {
                JetPoint j = chart_jet(e, x, 0, 1, 0);
                for (double& v : j.x.c)
                    v *= reach;
                return j;
            };
            m.spans = std::max(fitted_spans(jet, m.first, m.last), fitted_spans(image_jet, m.first, m.last));
            if (e.shape == EdgeShape::mouth)
                m.spans = std::max(m.spans,
                                   fitted_spans([&](double x) { return hole_jet(e, x); }, m.first, m.last));
            m.curve = kernel_curve(fitted_spline(jet, m.first, m.last, m.spans));
            break;
        }
        }
        brep_.add_edge(in_place(m.curve, kind == CurveKind::along_bend, (e.begin.z + e.end.z) / 2), m.first,
                       m.last, e.from, e.to, m.swapped);
        ranges_.push_back(std::move(m));
    }

    // As it stands in space, of a bent piece: what runs through a bend is made there at once.
    template<class Geometry>
    Handle(Geometry) in_place(const Handle(Geometry) & straightened, bool placed, double z) const {
        if (!skin_.bent() || placed) return straightened;
        return Handle(Geometry)::DownCast(straightened->Transformed(placed_at(skin_.way, z)));
    }

    // The image of a bent edge, fitted in the chart with the spans of its curve.
    Handle(Geom2d_Curve) bent_image(const Chart& c, const EdgeUse& use) const {
        const Edge& skin_edge = edge_of(use.edge);
        const Range& e = ranges_[index(use.edge)];
        if (c.kind == Chart::hole) {
            if (is_circle(skin_edge))
                return new Geom2d_Line(gp_Pnt2d(0, along_hole(*c.face->hole, skin_edge.begin)), gp::DX2d());
            return kernel_image(
                fitted_spline([&](double x) { return hole_jet(skin_edge, x); }, e.first, e.last, e.spans));
        }
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
                if (skin_edge.shape == EdgeShape::flat_trace) { // on a ball, by its latitude
                    const Jet up = j.y + -c.face->arc_z;
                    const double r = c.face->arc_radius;
                    j.y = angle_of(square_root((-1.0) * (up * up) + r * r), up);
                } else {
                    j.y = {{c.arc_v(x), c.arc_turn(), 0, 0}};
                }
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
        return kernel_image(fitted_spline(jet, e.first, e.last, e.spans));
    }

    // Which end of a wall an edge across it is, which may be another wall's end.
    double border_of(const DrumWall& wall, const EdgeUse& use) const {
        const Edge& e = edge_of(use.edge);
        const UnrolledPoint p = point_at(e, (e.tooth_from + e.tooth_to) / 2);
        const double at = wall.parameter(p.theta + use.turn * full_turn, p.r);
        return at < (wall.from() + wall.to()) / 2 ? wall.from() : wall.to();
    }

    // The edge's image in the face's parameters, with the edge's own parameter.
    Handle(Geom2d_Curve) image(const Chart& c, const EdgeUse& use) const {
        const Range& e = ranges_[index(use.edge)];
        const Edge& skin_edge = edge_of(use.edge);
        if (c.kind == Chart::wall)
            return skin_edge.across ? new Geom2d_Line(gp_Pnt2d(border_of(*c.face->wall, use), 0), gp::DY2d())
                                    : new Geom2d_Line(gp_Pnt2d(0, skin_edge.level), gp::DX2d());
        if (c.kind == Chart::turned && skin_edge.shape == EdgeShape::shaped)
            return new Geom2d_Line(gp_Pnt2d(skin_edge.begin.theta + use.turn * full_turn, 0), gp::DY2d());
        if (c.kind == Chart::fluted && skin_edge.shape == EdgeShape::shaped) // φ counts from turn to turn
            return skin_edge.across
                       ? new Geom2d_Line(gp_Pnt2d(skin_edge.level, use.turn * full_turn), gp::DY2d())
                       : new Geom2d_Line(gp_Pnt2d(0, skin_edge.level + use.turn * full_turn), gp::DX2d());
        if (c.kind == Chart::scoop) return scoop_image(c, use);
        if (curve_kind(skin_edge) == CurveKind::bent) return bent_image(c, use);
        if (skin_edge.shape == EdgeShape::tooth) // along the surface's own lines
            return new Geom2d_Line(gp_Pnt2d(0, c.tooth_v(skin_edge.begin.z)), gp::DX2d());
        EdgeUse along = use;
        along.forward = !e.swapped;
        return line_image(e, c(start_of(skin_, along)), c(end_of(skin_, along)));
    }

    // The line from one place of a chart to another, with an edge's own parameter.
    static Handle(Geom2d_Curve) line_image(const Range& e, const gp_Pnt2d& a, const gp_Pnt2d& b) {
        const double range = e.last - e.first, reach = a.Distance(b);
        if (std::abs(reach - range) < 1e-12 * std::max(1.0, range)) { // a unit-speed line serves
            const gp_Dir2d d(b.X() - a.X(), b.Y() - a.Y());
            return new Geom2d_Line(gp_Pnt2d(a.X() - e.first * d.X(), a.Y() - e.first * d.Y()), d);
        }
        TColgp_Array1OfPnt2d poles(1, 2);
        poles(1) = a;
        poles(2) = b;
        TColStd_Array1OfReal knots(1, 2);
        knots(1) = e.first;
        knots(2) = e.last;
        TColStd_Array1OfInteger ends(1, 2);
        ends.Init(2);
        return new Geom2d_BSplineCurve(poles, knots, ends, 1);
    }

    // Every edge of a scoop is a line of its chart. At its pole α is that of the edge's other places.
    Handle(Geom2d_Curve) scoop_image(const Chart& c, const EdgeUse& use) const {
        const Edge& skin_edge = edge_of(use.edge);
        const Range& e = ranges_[index(use.edge)];
        EdgeUse along = use;
        along.forward = !e.swapped;
        gp_Pnt2d a = c(start_of(skin_, along)), b = c(end_of(skin_, along));
        const auto settle = [](double& x, double to) {
            if (std::abs(x - to) < 1e-6) x = to;
        };
        const gp_Pnt2d middle =
            c(point_at(skin_edge, (first_parameter(skin_edge) + last_parameter(skin_edge)) / 2));
        const Scoop& s = *c.face->scoop;
        for (gp_Pnt2d* p : {&a, &b}) {
            double u = p->X(), v = p->Y();
            if (std::min(std::abs(middle.X() - s.alpha_from), std::abs(middle.X() - s.alpha_to)) < 1e-6)
                u = middle.X(); // along v
            for (const double to : {s.alpha_from, s.alpha_to})
                settle(u, to);
            for (const double to : {0.0, 1.0})
                settle(v, to);
            *p = {u, v};
        }
        return line_image(e, a, b);
    }

    // A curve's image in a flat face. Kept for the ends of teeth only: otherwise the kernel projects every
    // edge anew whenever it looks at one.
    Handle(Geom2d_Curve) flat_image(const Face& f, const EdgeUse& use) const {
        const Handle(Geom_Curve)& curve = ranges_[index(use.edge)].curve;
        if (const auto circle = Handle(Geom_Circle)::DownCast(curve); !circle.IsNull())
            return new Geom2d_Circle(gp_Ax2d(gp::Origin2d(), gp::DX2d()), circle->Radius(), f.up);
        const auto spline = Handle(Geom_BSplineCurve)::DownCast(curve);
        if (spline.IsNull()) return {}; // a line is projected in no time
        TColgp_Array1OfPnt2d poles(1, spline->NbPoles());
        for (int k = 1; k <= spline->NbPoles(); ++k)
            poles(k) = gp_Pnt2d(spline->Pole(k).X(), (f.up ? 1 : -1) * spline->Pole(k).Y());
        return new Geom2d_BSplineCurve(poles, spline->Knots(), spline->Multiplicities(), spline_degree);
    }

    TopoDS_Face add_face(const Face& f, const Chart& c) {
        const bool toothed_end = f.kind == FaceKind::flat && has_teeth(skin_, f);
        double low = 1e300, high = -1e300;
        for (const EdgeUse& u : f.loops.front())
            for (const double z : {start_of(skin_, u).z, end_of(skin_, u).z}) {
                low = std::min(low, z);
                high = std::max(high, z);
            }
        const Handle(Geom_Surface) surface = in_place(c.surface, c.kind == Chart::torus, (low + high) / 2);
        std::optional<Pole> pole;
        if (c.kind == Chart::scoop && f.scoop->has_pole())
            for (const EdgeUse& u : f.loops.front()) {
                const Edge& e = edge_of(u.edge);
                for (const auto& [corner, at] : {std::pair{e.from, e.begin}, std::pair{e.to, e.end}})
                    if (c(at).Y() > 0.5 &&
                        std::abs(c(at).X() - (f.scoop->alpha_from + f.scoop->alpha_to) / 2) < 1e-9)
                        pole = Pole{corner, f.scoop->alpha_from, f.scoop->alpha_to, 1};
            }
        return brep_.add_face(
            surface, f.loops, f.inward != c.against,
            [&](const EdgeUse& use) -> Handle(Geom2d_Curve) {
                if (toothed_end) return flat_image(f, use);
                if (c.kind == Chart::plane) return {};
                return image(c, use);
            },
            pole);
    }

    const Skin& skin_;
    const Mesh* mesh_;
    BrepMaker brep_;
    ToothSurfaces teeth_;
    std::vector<Range> ranges_;
};

} // namespace

Solid make_solid(const Skin& skin) {
    return made_by([&] { return SkinBuilder(skin, nullptr).solid(); });
}
Solid make_solid(const Skin& skin, const Mesh& mesh) {
    return made_by([&] { return SkinBuilder(skin, &mesh).solid(); });
}

} // namespace whorl::solid
