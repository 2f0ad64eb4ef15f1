#include "form/tooth/transverse_curve.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>

namespace whorl {
// Trochoid: the rack's tip corner at the angle τ from its lowest point stands at the height
// Y = yc − ρ·cos τ over the pitch line and touches the gear when the normal there passes through the pitch
// point, that is when it stands U = −Y·cos β·tan τ beside it; the gear has then rolled by
// φ = (X − U)/r, and the point is (r + Y, U) turned by φ. (Litvin and Fuentes, Gear Geometry and Applied
// Theory, chapter 6, with the corner stretched by 1/cos β into the transverse plane.) The parameter t is that
// of tan τ = sinh t, in which everything is smooth to far off the real axis: splines then need few spans.
TransverseJet jet_at(const TransverseCurve& c, double at) {
    const Jet t = variable(at);
    switch (c.shape) {
    case CurveShape::circle: {
        const auto [co, si] = cos_sin(t);
        return {c.radius * co, c.radius * si};
    }
    case CurveShape::arc: {
        const auto [co, si] = cos_sin(c.sense * t);
        return {constant(c.x0) + c.radius * co, constant(c.y0) + c.radius * si};
    }
    case CurveShape::line:
        return {constant(c.x0) + (c.x1 - c.x0) * t, constant(c.y0) + (c.y1 - c.y0) * t};
    case CurveShape::involute: { // rb·e^{i(origin + t)}·(1 − i·t)
        const auto [co, si] = cos_sin(constant(c.origin) + t);
        return {c.radius * (co + t * si), c.radius * (si - t * co)};
    }
    case CurveShape::trochoid: {
        const auto [secant, tangent] = cosh_sinh(t);
        const Jet co = reciprocal(secant), si = tangent * co;
        const Jet height = constant(c.corner_y) - c.corner_radius * co;
        const Jet along = constant(c.corner_x) + (c.corner_radius / c.cos_helix) * si;
        const Jet beside = (-c.cos_helix) * (height * tangent);
        const auto [cp, sp] = cos_sin((1 / c.radius) * (along - beside));
        const Jet up = constant(c.radius) + height;
        return {up * cp - beside * sp, beside * cp + up * sp};
    }
    case CurveShape::traced:
        return (*c.traced)(at);
    }
    return {};
}

TransversePoint point_at(const TransverseCurve& c, double at) {
    switch (c.shape) {
    case CurveShape::circle:
        return {c.radius * std::cos(at), c.radius * std::sin(at)};
    case CurveShape::arc:
        return {c.x0 + c.radius * std::cos(at), c.y0 + c.sense * c.radius * std::sin(at)};
    case CurveShape::line:
        return {c.x0 + (c.x1 - c.x0) * at, c.y0 + (c.y1 - c.y0) * at};
    case CurveShape::involute: {
        const double co = std::cos(c.origin + at), si = std::sin(c.origin + at);
        return {c.radius * (co + at * si), c.radius * (si - at * co)};
    }
    case CurveShape::trochoid: {
        const double tangent = std::sinh(at), co = 1 / std::cosh(at), si = tangent * co;
        const double height = c.corner_y - c.corner_radius * co;
        const double along = c.corner_x + c.corner_radius / c.cos_helix * si;
        const double beside = -c.cos_helix * height * tangent;
        const double phi = (along - beside) / c.radius, cp = std::cos(phi), sp = std::sin(phi);
        const double up = c.radius + height;
        return {up * cp - beside * sp, beside * cp + up * sp};
    }
    case CurveShape::traced: {
        const TransverseJet j = (*c.traced)(at);
        return {j.x.c[0], j.y.c[0]};
    }
    }
    return {};
}

namespace {
// The zero of a function that has one between a and b, or the end nearer to one: Chandrupatla, A new hybrid
// quadratic/bisection algorithm for finding the zero of a nonlinear function, Advances in Engineering
// Software 28 (1997).
template<class Function>
double zero_between(double a, double b, const Function& off) {
    double fa = off(a), fb = off(b);
    if (fa == 0 || fb == 0 || (fa > 0) == (fb > 0)) return std::abs(fa) < std::abs(fb) ? a : b;
    double at = 0.5;
    for (int i = 0; i < 80; ++i) {
        const double t = a + at * (b - a), f = off(t);
        const bool same_side = (f > 0) == (fa > 0);
        const double old = same_side ? a : b, f_old = same_side ? fa : fb;
        if (!same_side) {
            b = a;
            fb = fa;
        }
        a = t;
        fa = f;
        const double best = std::abs(fa) < std::abs(fb) ? a : b,
                     smallest = std::min(std::abs(fa), std::abs(fb));
        const double nearest = 1e-15 * (1 + std::abs(best)) / std::abs(b - a);
        if (smallest == 0 || nearest > 0.5) return best;
        const double xi = (a - b) / (old - b), phi = (fa - fb) / (f_old - fb);
        at = phi * phi < xi && (1 - phi) * (1 - phi) < 1 - xi
                 ? fa / (fb - fa) * f_old / (fb - f_old) +
                       (old - a) / (b - a) * fa / (f_old - fa) * fb / (f_old - fb)
                 : 0.5;
        at = std::clamp(at, nearest, 1 - nearest);
    }
    return a;
}
} // namespace

double parameter_at_radius(const TransverseCurve& c, double radius) {
    if (c.shape == CurveShape::involute) {
        const double t = std::sqrt(std::max(0.0, radius * radius / (c.radius * c.radius) - 1));
        return std::clamp(c.from < 0 ? -t : t, c.from, c.to);
    }
    return zero_between(c.to, c.from, [&](double t) { return point_at(c, t).radius() - radius; });
}

double parameter_at(const TransverseCurve& c, double radius, double angle) {
    if (!c.by_angle) return parameter_at_radius(c, radius);
    // across the ray at that angle
    const double co = std::cos(angle), si = std::sin(angle);
    return zero_between(c.to, c.from, [&](double t) {
        const TransversePoint p = point_at(c, t);
        return p.y * co - p.x * si;
    });
}

double swept(const TransverseCurve& c, double from, double to) {
    if (c.shape == CurveShape::circle) return c.radius * c.radius * (to - from);
    // rb²·(t³ as the integral of t²): x·dy − y·dx = rb²·t² dt on an involute
    if (c.shape == CurveShape::involute) return c.radius * c.radius * (to * to * to - from * from * from) / 3;
    return gauss<gauss_8>(from, to, 6, [&](double t) {
        const TransverseJet j = jet_at(c, t);
        return j.x.c[0] * j.y.c[1] - j.y.c[0] * j.x.c[1];
    });
}

std::vector<double> samples(const TransverseCurve& c, double chord) {
    std::vector<double> out{c.from};
    if (c.shape == CurveShape::line) {
        out.push_back(c.to);
        return out;
    }
    // the sagitta grows with the square of the step; steps are chosen one after the other
    constexpr int most = 64;
    const double least = (c.to - c.from) / most;
    double t = c.from;
    while (t < c.to - 1e-12 && static_cast<int>(out.size()) <= most) {
        double h = c.to - t;
        for (int tries = 0; tries < 12; ++tries) {
            const TransversePoint a = point_at(c, t), b = point_at(c, t + h);
            const double dx = b.x - a.x, dy = b.y - a.y, length = std::hypot(dx, dy);
            double off = 0; // not only in the middle: curvature changes along a fillet
            for (const double part : {0.3, 0.5, 0.7}) {
                const TransversePoint m = point_at(c, t + part * h);
                off = std::max(off, std::abs(dx * (m.y - a.y) - dy * (m.x - a.x)) / std::max(1e-300, length));
            }
            if (off <= 0.9 * chord || h <= least) break;
            h = std::max(least, h * std::clamp(std::sqrt(0.85 * chord / off), 0.2, 0.95));
        }
        if (t + h > c.to - 0.2 * h && t + h < c.to - 1e-12) h = (c.to - t) / 2; // no sliver at the end
        t = t + h > c.to - 1e-12 ? c.to : t + h;
        out.push_back(t);
    }
    out.back() = c.to;
    return out;
}

} // namespace whorl
