#include "solid/kernel/screw_spline.hpp"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>

namespace whorl::solid {
namespace {

double alias(double half_step) {
    const double x = half_step, pi = std::numbers::pi;
    return std::pow(x / (pi - x), spline_degree + 1) + std::pow(x / (pi + x), spline_degree + 1);
}

// Boehm's knot insertion: one more knot `u`, next to those already there; `k` is the span it is taken to lie
// in, the one after them at the near end and the one before them at the far end.
enum class Span { after, before };
void insert_knot(std::vector<Point>& poles, std::vector<double>& flat, double u, Span span) {
    const int p = spline_degree;
    const auto at_u = span == Span::after ? std::upper_bound(flat.begin(), flat.end(), u)
                                          : std::lower_bound(flat.begin(), flat.end(), u);
    const auto k = static_cast<int>(at_u - flat.begin()) - 1;
    std::vector<Point> out(poles.size() + 1);
    for (int i = 0; i < static_cast<int>(out.size()); ++i) {
        const auto at = static_cast<std::size_t>(i);
        if (i <= k - p) {
            out[at] = poles[at];
        } else if (i > k) {
            out[at] = poles[at - 1];
        } else {
            const double w = (u - flat[at]) / (flat[at + static_cast<std::size_t>(p)] - flat[at]);
            const Point &a = poles[at - 1], &b = poles[at];
            out[at] = {a.x + w * (b.x - a.x), a.y + w * (b.y - a.y), a.z + w * (b.z - a.z)};
        }
    }
    flat.insert(flat.begin() + k + 1, u);
    poles = std::move(out);
}

} // namespace

int screw_spans(double angle, double largest_radius, double slope) {
    // the largest half step x with (r + (p + 1)·π/(π − x)·|dr/dθ|)·alias(x) ≤ tolerance, x < π/2, from the
    // leading term of the error and then checked
    const double reach = std::max(1e-3, largest_radius + 2 * (spline_degree + 1) * std::abs(slope));
    const double q = std::pow(spline_tolerance / reach, 1.0 / (spline_degree + 1));
    double x = std::min(std::numbers::pi * q / (1 + q), std::numbers::pi / 2);
    while (reach * alias(x) > spline_tolerance)
        x *= 0.99;
    return std::max(1, static_cast<int>(std::ceil(std::abs(angle) / (2 * x))));
}

int screw_spans(const UnrolledPoint& from, const UnrolledPoint& to) {
    const double angle = to.theta - from.theta;
    return screw_spans(angle, std::max(from.r, to.r), (to.r - from.r) / angle);
}

ScrewSpline screw_spline(const UnrolledPoint& from, const UnrolledPoint& to, int spans) {
    constexpr int p = spline_degree;
    const double step = (to.theta - from.theta) / spans, x = step / 2;
    const double lambda = std::pow(x / std::sin(x), p + 1);
    const double lambda_slope = lambda * (p + 1) * (1 - x / std::tan(x)); // dλ/dω at ω = 1
    const double slope = (to.r - from.r) / (to.theta - from.theta);

    // uniform: pole i sits at θ0 + (i − (p − 1)/2)·δ; knots run from θ0 − p·δ to θ1 + p·δ
    const int n = spans + p;
    std::vector<Point> poles(static_cast<std::size_t>(n));
    for (int i = 0; i < n; ++i) {
        const double along = (i - (p - 1) / 2.0) * step;
        const std::complex<double> turn = std::polar(1.0, from.theta + along);
        const std::complex<double> w =
            (from.r * lambda + slope * (lambda * along - std::complex<double>(0, lambda_slope))) * turn;
        poles[static_cast<std::size_t>(i)] = {w.real(), w.imag(),
                                              from.z + (to.z - from.z) * along / (to.theta - from.theta)};
    }
    std::vector<double> flat;
    flat.reserve(static_cast<std::size_t>(spans + 2 * p + 1));
    for (int i = -p; i <= spans + p; ++i)
        flat.push_back(from.theta + i * step);
    // the ends' own knots exactly, so that the insertions find them
    flat[static_cast<std::size_t>(p)] = from.theta;
    flat[static_cast<std::size_t>(p) + static_cast<std::size_t>(spans)] = to.theta;
    for (int i = 0; i < p; ++i)
        insert_knot(poles, flat, from.theta, Span::after);
    for (int i = 0; i < p; ++i)
        insert_knot(poles, flat, to.theta, Span::before);
    // what lies beyond the ends falls away
    const auto first =
        static_cast<long>(std::lower_bound(flat.begin(), flat.end(), from.theta) - flat.begin());
    ScrewSpline out;
    out.poles.assign(poles.begin() + first, poles.begin() + first + spans + p);
    for (int i = 0; i <= spans; ++i) {
        out.knots.push_back(i == spans ? to.theta : from.theta + i * step);
        out.multiplicity.push_back(i == 0 || i == spans ? p + 1 : 1);
    }
    return out;
}

} // namespace whorl::solid
