#include "solid/bent_spline.hpp"

#include <cmath>

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
        return {theta, r, constant(e.trace.z0) + e.trace.slope * r};
    }
    throw std::logic_error("unrolled_jet: the edge is straight");
}

Point value(const JetPoint& j) {
    return {j.x.c[0], j.y.c[0], j.z.c[0]};
}

// The seven-degree Bézier poles of one span from the jets at its ends.
std::array<double, 8> poles_of(const Jet& a, const Jet& b, double h) {
    const double a1 = a.c[1] * h, a2 = a.c[2] * 2 * h * h, a3 = a.c[3] * 6 * h * h * h;
    const double b1 = b.c[1] * h, b2 = b.c[2] * 2 * h * h, b3 = b.c[3] * 6 * h * h * h;
    std::array<double, 8> p{};
    p[0] = a.c[0];
    p[1] = p[0] + a1 / 7;
    p[2] = a2 / 42 + 2 * p[1] - p[0];
    p[3] = a3 / 210 + 3 * p[2] - 3 * p[1] + p[0];
    p[7] = b.c[0];
    p[6] = p[7] - b1 / 7;
    p[5] = b2 / 42 + 2 * p[6] - p[7];
    p[4] = -b3 / 210 + 3 * p[5] - 3 * p[6] + p[7];
    return p;
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

JetPoint chart_jet(const Edge& e, double x, double turn_angle, double stretch, double z0) {
    const Unrolled u = unrolled_jet(e, x);
    return {u.theta + constant(turn_angle), stretch * (u.z + constant(-z0)), {}};
}

int hermite_spans(const std::function<JetPoint(double)>& jet, double from, double to, double tolerance) {
    int spans = 1;
    for (; spans < 256; spans *= 2) {
        double worst = 0;
        const double h = (to - from) / spans;
        for (int i = 0; i < spans && worst <= tolerance; ++i) {
            const JetPoint a = jet(from + i * h), b = jet(from + (i + 1) * h);
            const auto x = poles_of(a.x, b.x, h), y = poles_of(a.y, b.y, h), z = poles_of(a.z, b.z, h);
            for (const double at : {0.25, 0.5, 0.75}) {
                const Point p = value(jet(from + (i + at) * h));
                worst = std::max({worst, std::abs(bernstein(x, at) - p.x), std::abs(bernstein(y, at) - p.y),
                                  std::abs(bernstein(z, at) - p.z)});
            }
        }
        if (worst <= tolerance) break;
    }
    return spans;
}

std::vector<BezierSpan> hermite_pieces(const std::function<JetPoint(double)>& jet, double from, double to,
                                       int spans) {
    std::vector<BezierSpan> out;
    const double h = (to - from) / spans;
    for (int i = 0; i < spans; ++i) {
        BezierSpan piece{from + i * h, i + 1 == spans ? to : from + (i + 1) * h, {}, i == 0 ? 0 : 3};
        const JetPoint a = jet(piece.from), b = jet(piece.to);
        const auto x = poles_of(a.x, b.x, h), y = poles_of(a.y, b.y, h), z = poles_of(a.z, b.z, h);
        for (std::size_t k = 0; k < 8; ++k)
            piece.poles[k] = {x[k], y[k], z[k]};
        out.push_back(piece);
    }
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

ScrewSpline hermite_spline(const std::function<JetPoint(double)>& jet, double from, double to, int spans) {
    return spline_of(hermite_pieces(jet, from, to, spans));
}

} // namespace whorl::solid
