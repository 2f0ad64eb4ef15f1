#include "solid/kernel/screw_spline.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <numbers>
#include <random>

using namespace whorl::solid;

namespace {

// De Boor's algorithm, written for the test: independent of how the poles were found.
Point evaluate(const ScrewSpline& s, double u) {
    std::vector<double> flat;
    for (std::size_t i = 0; i < s.knots.size(); ++i)
        for (int m = 0; m < s.multiplicity[i]; ++m)
            flat.push_back(s.knots[i]);
    const int p = spline_degree;
    int k = p;
    while (k + 1 < static_cast<int>(s.poles.size()) && u >= flat[static_cast<std::size_t>(k + 1)])
        ++k;
    std::vector<Point> d;
    for (int j = 0; j <= p; ++j)
        d.push_back(s.poles[static_cast<std::size_t>(k - p + j)]);
    for (int r = 1; r <= p; ++r)
        for (int j = p; j >= r; --j) {
            const double a = flat[static_cast<std::size_t>(k - p + j)],
                         b = flat[static_cast<std::size_t>(k + 1 + j - r)];
            const double w = (u - a) / (b - a);
            Point &q = d[static_cast<std::size_t>(j)], &o = d[static_cast<std::size_t>(j - 1)];
            q = {o.x + w * (q.x - o.x), o.y + w * (q.y - o.y), o.z + w * (q.z - o.z)};
        }
    return d[static_cast<std::size_t>(p)];
}

} // namespace

TEST_CASE("screw splines keep within their stated error of the true curve") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> u(0, 1);
    for (int i = 0; i < 400; ++i) {
        UnrolledPoint a{u(random) * 20 - 10, u(random) * 60 + 0.3, u(random) * 50}, b = a;
        b.theta += std::pow(10, u(random) * 5 - 3); // 0.001 to 100 rad
        b.z += u(random) * 20 - 10;
        if (i % 2) b.r *= 0.6 + 0.8 * u(random);
        const int spans = screw_spans(a, b);
        const ScrewSpline s = screw_spline(a, b, spans);
        REQUIRE(s.poles.size() == static_cast<std::size_t>(spans + spline_degree));
        double worst = 0;
        for (int k = 0; k <= 97; ++k) {
            const double x = k / 97.0, t = a.theta + x * (b.theta - a.theta);
            const double r = a.r + x * (b.r - a.r), z = a.z + x * (b.z - a.z);
            const Point p = evaluate(s, t);
            worst = std::max(worst, std::hypot(p.x - r * std::cos(t), p.y - r * std::sin(t), p.z - z));
        }
        INFO("seed 3, round " << i << ": angle " << b.theta - a.theta << ", radius " << a.r << " to " << b.r
                              << ", worst " << worst);
        CHECK(worst < spline_tolerance);
    }
}

TEST_CASE("a finer tolerance costs few poles: 20 turns of M8 stay below 300") {
    const UnrolledPoint a{0, 4, 0}, b{40 * std::numbers::pi, 4, 20};
    CHECK(screw_spans(a, b) < 300);
}
