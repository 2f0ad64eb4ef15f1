// A tube's kernel solid. Along the wire a strip is one polynomial, through Chebyshev's points of c, outwards
// and upwards; around it every quarter is a rational quadratic, an exact circle, and every side of flat-sided wire straight. A
// quarter's parameter t belongs to the angle ψ from its start by t/(1 − t) = sin(ψ/2)/sin((π/2 − ψ)/2), a side's by
// t = (1 + tan(ψ − π/4))/2.
#include "quantity/numeric.hpp"
#include "solid/kernel/brep.hpp"
#include "solid/tube/tube_body.hpp"

#include <Geom2d_BezierCurve.hxx>
#include <Geom2d_Line.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_BezierCurve.hxx>
#include <Geom_Line.hxx>
#include <Geom_Plane.hxx>
#include <TColStd_Array2OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <TColgp_Array2OfPnt.hxx>

#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

constexpr double tolerance = 2e-7; // mm
constexpr double fit_error = 5e-8; // mm, of polynomials
constexpr int most_degree = 21;

std::size_t index(int i) {
    return static_cast<std::size_t>(i);
}
gp_Pnt pnt(const Point& p) {
    return {p.x, p.y, p.z};
}

using Row = std::vector<double>; // one point of several coordinates

double bernstein(int n, int i, double t) {
    double c = 1;
    for (int k = 0; k < i; ++k)
        c = c * (n - k) / (k + 1);
    return c * std::pow(t, i) * std::pow(1 - t, n - i);
}

Row value(const std::vector<Row>& poles, double t) {
    Row out(poles[0].size());
    const int n = static_cast<int>(poles.size()) - 1;
    for (int i = 0; i <= n; ++i) {
        const double b = bernstein(n, i, t);
        for (std::size_t k = 0; k < out.size(); ++k)
            out[k] += b * poles[index(i)][k];
    }
    return out;
}

// The poles of the polynomial of degree n through f at Chebyshev's points, both ends among them, by
// elimination in Bernstein's basis.
std::vector<Row> polynomial(int n, const std::function<Row(double)>& f) {
    const auto size = static_cast<std::size_t>(n) + 1;
    std::vector<Row> a(size), b(size);
    for (int i = 0; i <= n; ++i) {
        const double t = (1 - std::cos(pi * i / n)) / 2;
        for (int k = 0; k <= n; ++k)
            a[index(i)].push_back(bernstein(n, k, t));
        b[index(i)] = f(t);
    }
    for (std::size_t c = 0; c < size; ++c) {
        std::size_t p = c;
        for (std::size_t i = c; i < size; ++i)
            if (std::abs(a[i][c]) > std::abs(a[p][c])) p = i;
        std::swap(a[c], a[p]);
        std::swap(b[c], b[p]);
        for (std::size_t i = 0; i < size; ++i) {
            if (i == c) continue;
            const double k = a[i][c] / a[c][c];
            if (k == 0) continue;
            for (std::size_t j = c; j < size; ++j)
                a[i][j] -= k * a[c][j];
            for (std::size_t j = 0; j < b[i].size(); ++j)
                b[i][j] -= k * b[c][j];
        }
    }
    for (std::size_t c = 0; c < size; ++c)
        for (double& v : b[c])
            v /= a[c][c];
    return b;
}

// … of the least degree that comes within the tolerance in the first `checked` coordinates.
std::vector<Row> fitted(const std::function<Row(double)>& f, std::size_t checked) {
    for (int n = 7; n <= most_degree; n += 2) {
        std::vector<Row> poles = polynomial(n, f);
        double worst = 0;
        for (int i = 0; i < 2 * n; ++i) {
            const double t = (i + 0.37) / (2 * n);
            const Row is = value(poles, t), should = f(t);
            for (std::size_t k = 0; k < checked; ++k)
                worst = std::max(worst, std::abs(is[k] - should[k]));
        }
        if (worst < fit_error / 2) return poles;
    }
    throw std::logic_error("tube: a strip is too long for one polynomial");
}

// The parameter of the angle ψ from the start of its quarter, or of its side.
double in_quarter(double psi, bool round) {
    if (!round) return (1 + std::tan(psi - pi / 4)) / 2;
    const double a = std::sin(psi / 2), b = std::sin(pi / 4 - psi / 2);
    return std::max(0.0, a / (a + b));
}
// … of φ in a strip that begins at φ0: whole quarters, and where in its own.
double quarter_parameter(double phi, double phi0, bool round) {
    const double k = std::floor((phi - phi0) / (pi / 2) + 1e-9);
    return k + in_quarter(phi - phi0 - k * pi / 2, round);
}

// The control polygon of k quarters from φ0 on, as factors of outwards and upwards, with weights.
struct Polygon {
    std::vector<double> x, y, w;
    int degree = 2;
};
// … or of one side, as factors of half the wire's breadth and height.
Polygon side_of(double phi0) {
    Polygon p;
    p.degree = 1;
    for (const double phi : {phi0, phi0 + pi / 2}) {
        p.x.push_back(std::cos(phi) < 0 ? -1 : 1);
        p.y.push_back(std::sin(phi) < 0 ? -1 : 1);
        p.w.push_back(1);
    }
    return p;
}
Polygon quarters(double phi0, int k, bool round) {
    if (!round) return side_of(phi0);
    Polygon p;
    const double w = std::numbers::sqrt2 / 2;
    for (int i = 0; i <= 2 * k; ++i) {
        const double phi = phi0 + i * pi / 4, r = i % 2 ? 1 / w : 1;
        p.x.push_back(r * std::cos(phi));
        p.y.push_back(r * std::sin(phi));
        p.w.push_back(i % 2 ? w : 1);
    }
    return p;
}

class TubeBuilder {
public:
    TubeBuilder(const TubeBody& body, const Mesh& mesh) : body_(body), mesh_(mesh), brep_(tolerance, &mesh) {}

    Solid solid() {
        for (std::size_t i = 0; i + 1 < body_.cuts.size(); ++i)
            lengths_.push_back(length_poles(body_.cuts[i], body_.cuts[i + 1]));
        for (const Point& p : body_.corners)
            brep_.add_vertex(p);
        for (const TubeEdge& e : body_.edges)
            add_edge(e);
        deflection_ = deflection();
        const auto of_face = triangles_by_face(mesh_, body_.faces.size());
        for (std::size_t f = 0; f < body_.faces.size(); ++f)
            add_face(body_.faces[f], of_face[f]);
        return brep_.solid();
    }

private:
    bool round() const { return body_.coil.round; }
    // c, half the wire's breadth outwards and half its height upwards, over a length.
    std::vector<Row> length_poles(double from, double to) const {
        const double x = body_.coil.wire / 2, y = body_.coil.axial / 2;
        return fitted(
            [&](double t) {
                const double theta = from + t * (to - from);
                const Vec3 c = centre_at(body_, theta);
                const auto f = body_.coil.line.frame(theta);
                return Row{c.x,
                           c.y,
                           c.z,
                           x * f.outwards.x,
                           x * f.outwards.y,
                           x * f.outwards.z,
                           y * f.upwards.x,
                           y * f.upwards.y,
                           y * f.upwards.z};
            },
            9);
    }
    static gp_Pnt combined(const Row& r, double x, double y) {
        return {r[0] + x * r[3] + y * r[6], r[1] + x * r[4] + y * r[7], r[2] + x * r[5] + y * r[8]};
    }
    std::size_t length_at(double theta) const {
        std::size_t i = 0;
        while (i + 2 < body_.cuts.size() && theta > body_.cuts[i + 1] - 1e-9)
            ++i;
        return i;
    }

    // Where θ is in the length in which `from` is.
    double along_length(double from, double theta) const {
        const std::size_t i = length_at(from);
        return (theta - body_.cuts[i]) / (body_.cuts[i + 1] - body_.cuts[i]);
    }

    void add_edge(const TubeEdge& e) {
        const bool swapped = e.begin > e.end;
        const double low = std::min(e.begin, e.end), high = std::max(e.begin, e.end);
        switch (e.kind) {
        case TubeEdge::chord: {
            const gp_Pnt a = pnt(body_.corners[index(e.from)]), b = pnt(body_.corners[index(e.to)]);
            brep_.add_edge(new Geom_Line(a, gp_Dir(gp_Vec(a, b))), 0, a.Distance(b), e.from, e.to);
            break;
        }
        case TubeEdge::ring: {
            // the quarter it lies in, an odd multiple of 45° on
            const double k = std::floor((low - pi / 4) / (pi / 2) + 1e-9), phi0 = pi / 4 + k * pi / 2;
            const Polygon p = quarters(phi0, 1, round());
            const Vec3 c = centre_at(body_, e.at);
            const auto f = body_.coil.line.frame(e.at);
            const double x = body_.coil.wire / 2, y = body_.coil.axial / 2;
            TColgp_Array1OfPnt poles(1, p.degree + 1);
            TColStd_Array1OfReal weights(1, p.degree + 1);
            for (int i = 0; i <= p.degree; ++i) {
                const Vec3 at = c + (x * p.x[index(i)]) * f.outwards + (y * p.y[index(i)]) * f.upwards;
                poles(i + 1) = {at.x, at.y, at.z};
                weights(i + 1) = p.w[index(i)];
            }
            brep_.add_edge(new Geom_BezierCurve(poles, weights), quarter_parameter(low, phi0, round()),
                           std::abs(high - phi0 - pi / 2) < 1e-9 ? 1 : quarter_parameter(high, phi0, round()),
                           e.from, e.to, swapped);
            break;
        }
        case TubeEdge::rail: {
            const auto& rows = lengths_[length_at(low)];
            const Polygon p = quarters(e.at, 1, round()); // it begins on the rail
            TColgp_Array1OfPnt poles(1, static_cast<int>(rows.size()));
            for (std::size_t i = 0; i < rows.size(); ++i)
                poles(static_cast<int>(i) + 1) = combined(rows[i], p.x.front(), p.y.front());
            brep_.add_edge(new Geom_BezierCurve(poles), along_length(low, low), along_length(low, high),
                           e.from, e.to, swapped);
            break;
        }
        case TubeEdge::cut: {
            const auto rows = fitted(
                [&](double t) {
                    const Point p = point_at(body_, e, low + t * (high - low));
                    return Row{p.x, p.y, p.z};
                },
                3);
            TColgp_Array1OfPnt poles(1, static_cast<int>(rows.size()));
            for (std::size_t i = 0; i < rows.size(); ++i)
                poles(static_cast<int>(i) + 1) = {rows[i][0], rows[i][1], rows[i][2]};
            brep_.add_edge(new Geom_BezierCurve(poles), 0, 1, e.from, e.to, swapped);
            break;
        }
        }
    }

    Handle(Geom_Surface) strip(const TubeFace& f) const {
        const auto& rows = lengths_[length_at(f.theta0 + 1e-6)];
        const int n = static_cast<int>(rows.size()),
                  spans = static_cast<int>(std::lround((f.phi1 - f.phi0) / (pi / 2)));
        const Polygon p = quarters(f.phi0, spans, round());
        const int m = p.degree * spans + 1;
        TColgp_Array2OfPnt poles(1, n, 1, m);
        TColStd_Array2OfReal weights(1, n, 1, m);
        for (int i = 1; i <= n; ++i)
            for (int j = 1; j <= m; ++j) {
                poles(i, j) = combined(rows[index(i - 1)], p.x[index(j - 1)], p.y[index(j - 1)]);
                weights(i, j) = p.w[index(j - 1)];
            }
        TColStd_Array1OfReal u(1, 2), v(1, spans + 1);
        TColStd_Array1OfInteger u_count(1, 2), v_count(1, spans + 1);
        u(1) = 0, u(2) = 1;
        u_count(1) = u_count(2) = n;
        for (int k = 0; k <= spans; ++k) {
            v(k + 1) = k;
            v_count(k + 1) = k == 0 || k == spans ? p.degree + 1 : p.degree;
        }
        return new Geom_BSplineSurface(poles, weights, u, v, u_count, v_count, n - 1, p.degree);
    }

    // An edge in its strip's parameters.
    Handle(Geom2d_Curve) image(const TubeFace& f, const TubeEdge& e) const {
        const double low = std::min(e.begin, e.end), high = std::max(e.begin, e.end);
        const auto u_of = [&](double theta) { return (theta - f.theta0) / (f.theta1 - f.theta0); };
        if (e.kind == TubeEdge::rail) {
            const double phi = e.at + 2 * pi * std::round(((f.phi0 + f.phi1) / 2 - e.at) / (2 * pi));
            // a strip of three quarters may have it on either side of its middle
            const double v = std::abs(phi - f.phi0) < 1e-6   ? 0
                             : std::abs(phi - f.phi1) < 1e-6 ? (f.phi1 - f.phi0) / (pi / 2)
                                                             : quarter_parameter(phi, f.phi0, round());
            return new Geom2d_Line(gp_Pnt2d(0, v), gp_Dir2d(1, 0));
        }
        const double shift = 2 * pi * std::round(((f.phi0 + f.phi1) / 2 - (low + high) / 2) / (2 * pi));
        if (e.kind == TubeEdge::ring) {
            const double k = std::floor((low + shift - f.phi0) / (pi / 2) + 1e-9);
            return new Geom2d_Line(gp_Pnt2d(u_of(e.at), k), gp_Dir2d(0, 1));
        }
        const double middle = (low + high) / 2 + shift, k = std::floor((middle - f.phi0) / (pi / 2));
        // fitted in millimetres on the strip, so that it is as near to the edge as the edge is to the wire
        const double along = (f.theta1 - f.theta0) * body_.coil.largest_mean / 2,
                     around = std::max(body_.coil.wire, body_.coil.axial) * pi / 4;
        const auto rows = fitted(
            [&](double t) {
                const double phi = low + t * (high - low);
                const double psi = phi + shift - f.phi0 - k * pi / 2;
                return Row{along * u_of(ground_cut(body_.coil, e.far, phi)),
                           around * (k + in_quarter(psi, round()))};
            },
            2);
        TColgp_Array1OfPnt2d poles(1, static_cast<int>(rows.size()));
        for (std::size_t i = 0; i < rows.size(); ++i)
            poles(static_cast<int>(i) + 1) = {rows[i][0] / along, rows[i][1] / around};
        return new Geom2d_BezierCurve(poles);
    }

    void add_face(const TubeFace& f, const std::vector<std::uint32_t>& triangles) {
        const bool left = body_.coil.spec.hand == Hand::left;
        Handle(Geom_Surface) surface;
        if (f.kind == TubeFace::wall) {
            surface = strip(f);
        } else if (f.kind == TubeFace::ground) {
            surface = new Geom_Plane(gp_Pnt(0, 0, ground_level(body_, f.far)), gp_Dir(0, 0, f.far ? 1 : -1));
        } else {
            const double theta = f.far ? body_.coil.line.end() : body_.coil.line.begin(), s = f.far ? 1 : -1;
            const Vec3 at = centre_at(body_, theta), along = body_.coil.line.frame(theta).along;
            surface = new Geom_Plane(gp_Pnt(at.x, at.y, at.z), gp_Dir(s * along.x, s * along.y, s * along.z));
        }
        const bool turned = f.kind == TubeFace::wall && left;
        const TopoDS_Face face =
            brep_.add_face(surface, only(f.loop), turned, [&](const EdgeUse& use) -> Handle(Geom2d_Curve) {
                if (f.kind != TubeFace::wall) return {};
                return image(f, body_.edges[index(use.edge)]);
            });
        brep_.attach(face, only(f.loop), turned, triangles,
                     {deflection_, {}, [&](int edge) { return parameters(edge); }});
    }

    // How far the mesh's sides are off the wire's surface: the sagittas of the longest steps along and around
    // it.
    double deflection() const {
        double along = 0, around = 0;
        for (std::size_t e = 0; e < body_.edges.size(); ++e) {
            const auto& ids = mesh_.edge_points[e];
            for (std::size_t i = 0; i + 1 < ids.size(); ++i) {
                const UnrolledPoint &a = mesh_.unrolled[ids[i]], &b = mesh_.unrolled[ids[i + 1]];
                if (body_.edges[e].kind == TubeEdge::rail)
                    along = std::max(along, std::abs(b.theta - a.theta));
            }
            if (body_.edges[e].kind == TubeEdge::ring)
                around = std::max(around, std::abs(body_.edges[e].end - body_.edges[e].begin) /
                                              static_cast<double>(ids.size() - 1));
        }
        const double rho = body_.coil.wire / 2;
        return 1.05 * ((body_.coil.largest_mean / 2 + rho) * (1 - std::cos(along / 2)) +
                       (round() ? rho * (1 - std::cos(around / 2)) : side_warp(body_, along, around)));
    }

    // Of an edge's mesh points on its curve, see add_edge().
    std::vector<double> parameters(int edge) const {
        const TubeEdge& e = body_.edges[index(edge)];
        const auto& ids = mesh_.edge_points[index(edge)];
        const double low = std::min(e.begin, e.end), high = std::max(e.begin, e.end);
        std::vector<double> out;
        for (std::size_t i = 0; i < ids.size(); ++i) {
            const UnrolledPoint& at = mesh_.unrolled[ids[i]]; // θ, and φ in r
            switch (e.kind) {
            case TubeEdge::chord: {
                const Point &a = body_.corners[index(e.from)], &b = body_.corners[index(e.to)];
                out.push_back(i == 0 ? 0 : std::hypot(a.x - b.x, a.y - b.y, a.z - b.z));
                break;
            }
            case TubeEdge::rail:
                out.push_back(along_length(low, at.theta));
                break;
            case TubeEdge::ring: {
                const double k = std::floor((low - pi / 4) / (pi / 2) + 1e-9), phi0 = pi / 4 + k * pi / 2;
                const double phi = at.r + 2 * pi * std::round(((low + high) / 2 - at.r) / (2 * pi));
                out.push_back(std::abs(phi - phi0 - pi / 2) < 1e-9 ? 1
                                                                   : quarter_parameter(phi, phi0, round()));
                break;
            }
            case TubeEdge::cut: {
                const double phi = at.r + 2 * pi * std::round(((low + high) / 2 - at.r) / (2 * pi));
                out.push_back((phi - low) / (high - low));
                break;
            }
            }
        }
        return out;
    }

    const TubeBody& body_;
    const Mesh& mesh_;
    BrepMaker brep_;
    std::vector<std::vector<Row>> lengths_;
    double deflection_ = 0;
};

} // namespace

Solid make_solid(const TubeBody& body, const Mesh& mesh) {
    return made_by([&] { return TubeBuilder(body, mesh).solid(); });
}

} // namespace whorl::solid
