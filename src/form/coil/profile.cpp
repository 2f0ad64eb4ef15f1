#include "form/coil/profile.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

using Points = std::vector<Profile::Point>;

std::vector<double> slopes_of(const Points& p) {
    const std::size_t n = p.size();
    if (n < 2) return std::vector<double>(n, 0.0);
    std::vector<double> h(n - 1), secant(n - 1), m(n);
    for (std::size_t i = 0; i + 1 < n; ++i) {
        h[i] = p[i + 1].turn - p[i].turn;
        secant[i] = (p[i + 1].value - p[i].value) / h[i];
    }
    const auto at_end = [&](std::size_t near, std::size_t next) {
        if (n == 2) return secant[0];
        const double slope =
            ((2 * h[near] + h[next]) * secant[near] - h[near] * secant[next]) / (h[near] + h[next]);
        return slope * secant[near] <= 0 ? 0 : slope;
    };
    m[0] = at_end(0, n > 2 ? 1 : 0);
    m[n - 1] = at_end(n - 2, n > 2 ? n - 3 : 0);
    for (std::size_t i = 1; i + 1 < n; ++i)
        m[i] = secant[i - 1] * secant[i] <= 0
                   ? 0
                   : (h[i] * secant[i - 1] + h[i - 1] * secant[i]) / (h[i - 1] + h[i]);
    for (std::size_t i = 0; i < n; ++i)
        if (p[i].level) m[i] = 0;
    for (std::size_t i = 0; i + 1 < n; ++i) {
        if (secant[i] == 0) {
            m[i] = m[i + 1] = 0;
            continue;
        }
        const double sum = (m[i] + m[i + 1]) / secant[i];
        if (sum > 2) m[i] *= 2 / sum, m[i + 1] *= 2 / sum;
    }
    return m;
}

} // namespace

Profile::Profile(std::vector<Point> points) : points_(std::move(points)), slopes_(slopes_of(points_)) {
    sums_.push_back(points_.front().turn * points_.front().value);
    for (std::size_t i = 0; i + 1 < points_.size(); ++i)
        sums_.push_back(sums_.back() + within(i, 1));
}

std::size_t Profile::interval(double turn) const {
    const auto behind = std::upper_bound(points_.begin() + 1, points_.end() - 1, turn,
                                         [](double t, const Point& p) { return t < p.turn; });
    return static_cast<std::size_t>(behind - points_.begin()) - 1;
}

Profile::Jet Profile::operator()(double turn) const {
    if (points_.size() == 1) return {points_.front().value, 0, 0};
    const std::size_t i = interval(turn);
    const double h = points_[i + 1].turn - points_[i].turn, t = (turn - points_[i].turn) / h,
                 v0 = points_[i].value, rise = points_[i + 1].value - v0, a = slopes_[i] * h,
                 b = slopes_[i + 1] * h, t2 = t * t, t3 = t2 * t;
    return {v0 + rise * t3 * (10 - 15 * t + 6 * t2) + a * (t - t3 * (6 - 8 * t + 3 * t2)) -
                b * t3 * (4 - 7 * t + 3 * t2),
            (rise * t2 * (30 - 60 * t + 30 * t2) + a * (1 - t2 * (18 - 32 * t + 15 * t2)) -
             b * t2 * (12 - 28 * t + 15 * t2)) /
                h,
            (rise * t * (60 - 180 * t + 120 * t2) - a * t * (36 - 96 * t + 60 * t2) -
             b * t * (24 - 84 * t + 60 * t2)) /
                (h * h)};
}

double Profile::within(std::size_t i, double t) const {
    const double h = points_[i + 1].turn - points_[i].turn, rise = points_[i + 1].value - points_[i].value,
                 a = slopes_[i] * h, b = slopes_[i + 1] * h, t2 = t * t, t4 = t2 * t2;
    return h * (points_[i].value * t + rise * t4 * (2.5 - 3 * t + t2) +
                a * (t2 / 2 - t4 * (1.5 - 1.6 * t + 0.5 * t2)) - b * t4 * (1 - 1.4 * t + 0.5 * t2));
}

double Profile::integral(double turn) const {
    if (points_.size() == 1) return turn * points_.front().value;
    const std::size_t i = interval(turn);
    return sums_[i] + within(i, (turn - points_[i].turn) / (points_[i + 1].turn - points_[i].turn));
}

double Profile::turn_at(double wanted) const {
    if (points_.size() == 1) return wanted / points_.front().value;
    if (wanted <= sums_.front()) return points_.front().turn;
    if (wanted >= sums_.back()) return points_.back().turn;
    const auto i = static_cast<std::size_t>(std::ranges::upper_bound(sums_, wanted) - sums_.begin()) - 1;
    double low = points_[i].turn, high = points_[i + 1].turn,
           turn = low + (high - low) * (wanted - sums_[i]) / (sums_[i + 1] - sums_[i]);
    for (int k = 0; k < 60; ++k) { // Newton's method, kept between
        const double off = integral(turn) - wanted, slope = (*this)(turn).v;
        (off < 0 ? low : high) = turn;
        double next = slope > 0 ? turn - off / slope : low;
        if (!(next > low && next < high)) next = (low + high) / 2;
        if (std::abs(next - turn) < 1e-14 * (1 + turn)) return next;
        turn = next;
    }
    return turn;
}

} // namespace whorl
