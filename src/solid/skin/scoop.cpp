#include "solid/skin/scoop.hpp"

#include "quantity/numeric.hpp"
#include "solid/kernel/bezier.hpp"
#include "solid/skin/skin.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

double spread(const Scoop& s, double theta) {
    return s.unroll * std::remainder(theta - s.theta0, full_turn);
}

} // namespace

double Scoop::reach(double v) const {
    return reach0 + reach1 * (arc ? std::cos(v) : v);
}
double Scoop::height(double v) const {
    return height0 + height1 * (arc ? std::sin(v) : v);
}
double Scoop::reach_slope(double v) const {
    return arc ? -reach1 * std::sin(v) : reach1;
}
double Scoop::height_slope(double v) const {
    return arc ? height1 * std::cos(v) : height1;
}

UnrolledPoint point_at(const Scoop& s, double alpha, double v) {
    const double reach = s.reach(v), z = s.z0 + reach * std::sin(alpha);
    return {s.theta0 + reach * std::cos(alpha) / s.unroll, s.height(v) + s.taper * (z - s.gauge), z};
}

ScoopPlace place_on(const Scoop& s, const UnrolledPoint& p) {
    const double x = spread(s, p.theta), y = p.z - s.z0, reach = std::hypot(x, y),
                 height = p.r - s.taper * (p.z - s.gauge), middle = (s.alpha_from + s.alpha_to) / 2;
    ScoopPlace out;
    out.alpha = reach < 1e-9 ? middle : middle + std::remainder(std::atan2(y, x) - middle, full_turn);
    if (s.arc) {
        const double centre = (s.from + s.to) / 2,
                     at = std::atan2((height - s.height0) / s.height1, (reach - s.reach0) / s.reach1);
        out.v = centre + std::remainder(at - centre, full_turn);
    } else {
        out.v = ((reach - s.reach0) * s.reach1 + (height - s.height0) * s.height1) /
                (s.reach1 * s.reach1 + s.height1 * s.height1);
    }
    return out;
}

double off_scoop(const Scoop& s, const UnrolledPoint& p) {
    const double reach = std::hypot(spread(s, p.theta), p.z - s.z0), height = p.r - s.taper * (p.z - s.gauge);
    if (s.arc)
        return (std::hypot((reach - s.reach0) / s.reach1, (height - s.height0) / s.height1) - 1) *
               std::min(std::abs(s.reach1), std::abs(s.height1));
    return ((reach - s.reach0) * s.height1 - (height - s.height0) * s.reach1) /
           std::hypot(s.reach1, s.height1);
}

ScoopNormal normal_of(const Scoop& s, const UnrolledPoint& p) {
    const ScoopPlace at = place_on(s, p);
    const double c = std::cos(at.alpha), si = std::sin(at.alpha);
    // ∂α × ∂v over ρ, which is 0 at a pole; from the outer end to the inner one
    const double way = s.to > s.from ? 1 : -1, dr = way * s.reach_slope(at.v),
                 dh = way * s.height_slope(at.v);
    const double theta_a = -si / s.unroll, z_a = c, r_a = s.taper * c, theta_v = dr * c / s.unroll,
                 z_v = dr * si, r_v = dh + s.taper * dr * si;
    const double turn = s.unroll > 0 ? 1 : -1;
    return {turn * (theta_a * z_v - z_a * theta_v), turn * (z_a * r_v - r_a * z_v),
            turn * (r_a * theta_v - theta_a * r_v)};
}

double scoop_volume(const Scoop& s) {
    const double sum =
        gauss<gauss_8>(s.from, s.to, 2, s.alpha_from, s.alpha_to, 1, [&](double v, double alpha) {
            const double r = point_at(s, alpha, v).r;
            return -r * r / 2 * s.reach(v) * s.reach_slope(v);
        });
    return sum / std::abs(s.unroll);
}

namespace {
// At places where an interpolation's error swings furthest.
template<class Place>
double polynomial_error(const Place& place) {
    const auto in_space = [&](double x) {
        const UnrolledPoint p = place(x);
        return Point{p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z};
    };
    std::array<Point, spline_degree + 1> at;
    for (std::size_t k = 0; k <= spline_degree; ++k)
        at[k] = in_space(bezier_node(k));
    const auto poles = bezier_through(at);
    double worst = 0;
    for (const double x : {0.02, 0.11, 0.3, 0.5, 0.7, 0.89, 0.98}) {
        auto q = poles;
        for (std::size_t n = spline_degree; n > 0; --n)
            for (std::size_t i = 0; i < n; ++i)
                q[i] = {q[i].x + x * (q[i + 1].x - q[i].x), q[i].y + x * (q[i + 1].y - q[i].y),
                        q[i].z + x * (q[i + 1].z - q[i].z)};
        const Point p = in_space(x);
        worst = std::max(worst, std::hypot(q[0].x - p.x, q[0].y - p.y, q[0].z - p.z));
    }
    return worst;
}
} // namespace

double error_around(const Scoop& s, double alpha_from, double alpha_to) {
    return polynomial_error(
        [&](double x) { return point_at(s, alpha_from + x * (alpha_to - alpha_from), s.from); });
}

double error_along(const Scoop& s, double v_from, double v_to) {
    return polynomial_error([&](double x) { return point_at(s, 0, v_from + x * (v_to - v_from)); });
}

} // namespace whorl::solid
