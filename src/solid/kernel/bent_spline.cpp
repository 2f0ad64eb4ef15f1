#include "solid/kernel/bent_spline.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

struct Unrolled {
    Jet theta, r, z;
};
Unrolled unrolled_jet(const Edge& e, double x) {
    if (e.shape == EdgeShape::bow) {
        const Jet c = cosine(x), s = sine(x);
        const auto part = [&](double UnrolledPoint::*m) {
            return constant(e.bow.centre.*m) + e.bow.u.*m * c + e.bow.v.*m * s;
        };
        return {part(&UnrolledPoint::theta), part(&UnrolledPoint::r), part(&UnrolledPoint::z)};
    }
    const Jet theta{{x, 1, 0, 0}};
    if (e.shape == EdgeShape::flat_trace) {
        const Jet r = e.trace.distance * reciprocal(cosine(x - e.trace.theta));
        Jet z = e.trace.slope * r + e.trace.z0;
        if (e.trace.ball > 0)
            z = z + e.trace.above * square_root((-1.0) * (r * r) + e.trace.ball * e.trace.ball);
        return {theta, r, z};
    }
    if (e.shape == EdgeShape::traced) {
        const WallJet at = e.across ? e.wall->across(e.level, x) : e.wall->along(x, e.level);
        return {at.theta, e.across ? variable(x) : constant(e.level), at.z};
    }
    if (e.shape == EdgeShape::mouth) {
        const Mouth& m = *e.mouth;
        const Jet y = m.hole.radius * cosine(x), z = m.hole.radius * sine(x) + m.hole.z;
        Jet u;
        if (m.plane) {
            const double turned = m.side_theta - m.hole.towards;
            u = (1 / std::cos(turned)) * ((-std::sin(turned)) * y + m.a);
        } else {
            const Jet r = m.b * z + m.a;
            u = (m.behind ? -1.0 : 1.0) * square_root(r * r - y * y);
        }
        const Jet turned = m.behind ? angle_of((-1.0) * u, (-1.0) * y) + std::numbers::pi : angle_of(u, y);
        return {turned + m.hole.towards, square_root(u * u + y * y), z};
    }
    if (e.shape == EdgeShape::shaped) {
        const ShapedPatch& p = *e.patch;
        const double sign = e.tooth.sign;
        if (e.across)
            return {variable(x + p.turned(e.level)), sign * p.around(x, e.level), constant(e.level)};
        return {{{e.level + p.turned(x), p.wall->twist((p.z0 + p.z1) / 2), 0, 0}},
                sign * p.up(x, e.level),
                variable(x)};
    }
    throw std::logic_error("unrolled_jet: the edge is straight");
}

Point value(const JetPoint& j) {
    return {j.x.c[0], j.y.c[0], j.z.c[0]};
}

// Where the error's factor (1 − x²)²·q(x) with a free q of degree 4 stays smallest on −1…1, nearly: the zeros
// of the Gegenbauer polynomial C₄⁽⁴⁾(x) ∝ 56x⁴ − 24x² + 1 (Szegő, Orthogonal Polynomials, 4.7).
constexpr std::array<double, 4> inner_nodes{-0.617901, -0.216276, 0.216276, 0.617901};

// For the poles 2 to 5 from what the curve and the other poles leave at the inner nodes.
const std::array<std::array<double, 4>, 4>& inverse_at_nodes() {
    static const auto inverse = [] {
        std::array<std::array<double, 8>, 4> m{}; // Gauss and Jordan
        for (std::size_t j = 0; j < 4; ++j) {
            const double x = (1 + inner_nodes[j]) / 2, y = 1 - x;
            const std::array<double, 4> by_pole{21 * y * y * y, 35 * x * y * y, 35 * x * x * y,
                                                21 * x * x * x};
            for (std::size_t k = 0; k < 4; ++k)
                m[j][k] = x * x * y * y * by_pole[k];
            m[j][4 + j] = 1;
        }
        for (std::size_t c = 0; c < 4; ++c) {
            std::size_t pivot = c;
            for (std::size_t j = c + 1; j < 4; ++j)
                if (std::abs(m[j][c]) > std::abs(m[pivot][c])) pivot = j;
            std::swap(m[c], m[pivot]);
            for (std::size_t k = 8; k-- > c;)
                m[c][k] /= m[c][c];
            for (std::size_t j = 0; j < 4; ++j)
                if (j != c)
                    for (std::size_t k = 8; k-- > c;)
                        m[j][k] -= m[j][c] * m[c][k];
        }
        std::array<std::array<double, 4>, 4> out{};
        for (std::size_t j = 0; j < 4; ++j)
            std::copy(m[j].begin() + 4, m[j].end(), out[j].begin());
        return out;
    }();
    return inverse;
}

double bernstein(const std::array<double, 8>& p, double x) {
    std::array<double, 8> q = p;
    for (std::size_t n = 7; n > 0; --n)
        for (std::size_t i = 0; i < n; ++i)
            q[i] += x * (q[i + 1] - q[i]);
    return q[0];
}

} // namespace

Jet cosine(double at) {
    const double c = std::cos(at), s = std::sin(at);
    return {{c, -s, -c / 2, s / 6}};
}
Jet sine(double at) {
    const double c = std::cos(at), s = std::sin(at);
    return {{s, c, -s / 2, -c / 6}};
}

JetPoint space_jet(const Edge& e, double x) {
    const Unrolled u = unrolled_jet(e, x);
    const auto [c, s] = cos_sin(u.theta);
    return {u.r * c, u.r * s, u.z};
}

JetPoint hole_jet(const Edge& e, double x) {
    const Unrolled at = unrolled_jet(e, x);
    const auto [c, s] = cos_sin(at.theta + constant(-e.mouth->hole.towards));
    return {variable(x), at.r * c, {}};
}

JetPoint chart_jet(const Edge& e, double x, double turn_angle, double stretch, double z0) {
    const Unrolled u = unrolled_jet(e, x);
    return {u.theta + constant(turn_angle), stretch * (u.z + constant(-z0)), {}};
}

namespace {

BezierSpan fitted_piece(const std::function<JetPoint(double)>& jet, double from, double to) {
    BezierSpan out{from, to, {}, 1};
    const double h = to - from;
    const JetPoint a = jet(from), b = jet(to);
    std::array<Point, 4> inner;
    for (std::size_t j = 0; j < 4; ++j)
        inner[j] = value(jet(from + (1 + inner_nodes[j]) / 2 * h));
    const auto fit = [&](const Jet& first, const Jet& last, double Point::*m) {
        std::array<double, 8> p{first.c[0], first.c[0] + first.c[1] * h / 7, 0,        0, 0,
                                0,          last.c[0] - last.c[1] * h / 7,   last.c[0]};
        std::array<double, 4> left;
        for (std::size_t j = 0; j < 4; ++j)
            left[j] = inner[j].*m - bernstein(p, (1 + inner_nodes[j]) / 2);
        const auto& inverse = inverse_at_nodes();
        for (std::size_t k = 0; k < 4; ++k)
            for (std::size_t j = 0; j < 4; ++j)
                p[2 + k] += inverse[k][j] * left[j];
        for (std::size_t k = 0; k < 8; ++k)
            out.poles[k].*m = p[k];
    };
    fit(a.x, b.x, &Point::x);
    fit(a.y, b.y, &Point::y);
    fit(a.z, b.z, &Point::z);
    return out;
}

double distance_at(const BezierSpan& piece, double x, const Point& truth) {
    const auto off = [&](double Point::*m) {
        std::array<double, 8> p{};
        for (std::size_t k = 0; k < 8; ++k)
            p[k] = piece.poles[k].*m;
        return std::abs(bernstein(p, x) - truth.*m);
    };
    return std::max({off(&Point::x), off(&Point::y), off(&Point::z)});
}

} // namespace

int fitted_spans(const std::function<JetPoint(double)>& jet, double from, double to, double tolerance) {
    for (int spans = 1;; ++spans) {
        double worst = 0;
        const double h = (to - from) / spans;
        for (int i = 0; i < spans && worst <= tolerance; ++i) {
            const BezierSpan piece = fitted_piece(jet, from + i * h, from + (i + 1) * h);
            for (const double x : {0.08, 0.28, 0.5, 0.72, 0.92}) // where its error swings furthest
                worst = std::max(worst, distance_at(piece, x, value(jet(from + (i + x) * h))));
        }
        if (worst <= tolerance || spans >= 256) return spans;
    }
}

std::vector<BezierSpan> fitted_pieces(const std::function<JetPoint(double)>& jet, double from, double to,
                                      int spans) {
    std::vector<BezierSpan> out;
    out.reserve(static_cast<std::size_t>(spans));
    const double h = (to - from) / spans;
    for (int i = 0; i < spans; ++i)
        out.push_back(fitted_piece(jet, from + i * h, i + 1 == spans ? to : from + (i + 1) * h));
    return out;
}

ScrewSpline spline_of(const std::vector<BezierSpan>& pieces) {
    ScrewSpline out;
    std::vector<double> flat;        // knots as often as they count
    std::vector<std::size_t> begins; // of each: the piece that begins there
    const auto add_knot = [&](double knot, int times, std::size_t piece) {
        out.knots.push_back(knot);
        out.multiplicity.push_back(times);
        flat.insert(flat.end(), static_cast<std::size_t>(times), knot);
        begins.insert(begins.end(), static_cast<std::size_t>(times), piece);
    };
    for (std::size_t i = 0; i < pieces.size(); ++i)
        add_knot(pieces[i].from, i == 0 ? spline_degree + 1 : spline_degree - pieces[i].continuity, i);
    add_knot(pieces.back().to, spline_degree + 1, pieces.size());
    // A pole is the blossom, at the seven knots within its support, of any piece its support covers (Ramshaw,
    // Blossoming: a connect-the-dots approach to splines): de Casteljau's steps, each with its own argument.
    constexpr std::size_t degree = spline_degree;
    for (std::size_t i = 0; i + degree + 1 < flat.size(); ++i) {
        std::size_t k = i + degree / 2; // from the middle of the support, for the least extrapolation
        for (std::size_t away = 1; flat[k] == flat[k + 1]; ++away)
            k = away % 2 == 1 ? k + away : k - away;
        const BezierSpan& piece = pieces[begins[k]];
        auto p = piece.poles;
        for (std::size_t step = 1; step <= degree; ++step) {
            const double at = (flat[i + step] - piece.from) / (piece.to - piece.from);
            for (std::size_t j = 0; j + step <= degree; ++j)
                p[j] = {p[j].x + at * (p[j + 1].x - p[j].x), p[j].y + at * (p[j + 1].y - p[j].y),
                        p[j].z + at * (p[j + 1].z - p[j].z)};
        }
        out.poles.push_back(p[0]);
    }
    return out;
}

ScrewSpline fitted_spline(const std::function<JetPoint(double)>& jet, double from, double to, int spans) {
    return spline_of(fitted_pieces(jet, from, to, spans));
}

} // namespace whorl::solid
