#include "quantity/numeric.hpp"

#include <catch2/catch.hpp>
#include <cmath>

using namespace whorl;

TEST_CASE("Gauss points are exact for polynomials to degree 15 and 23") {
    for (int degree = 0; degree <= 23; ++degree) {
        const auto f = [&](double x) { return std::pow(x, degree); };
        const double exact = (std::pow(2.0, degree + 1) - std::pow(-0.5, degree + 1)) / (degree + 1);
        if (degree <= 15) CHECK(gauss<gauss_8>(-0.5, 2, 1, f) == Approx(exact).epsilon(1e-13));
        CHECK(gauss<gauss_12>(-0.5, 2, 1, f) == Approx(exact).epsilon(1e-13));
    }
    double ones = 0;
    for (const GaussNode& n : gauss_8)
        ones += n.weight;
    CHECK(ones == Approx(2).epsilon(1e-15));
    // from the far end back it counts less, and parts add up
    CHECK(gauss<gauss_12>(1, 0, 3, [](double x) { return std::exp(x); }) ==
          Approx(1 - std::exp(1.0)).epsilon(1e-14));
    CHECK(gauss<gauss_8>(0, pi, 4, 0, 2, 2, [](double x, double y) { return std::sin(x) * y; }) ==
          Approx(4).epsilon(1e-12));
}

TEST_CASE("halving ends on both sides of the place, whichever way it is asked") {
    const auto below = [](double x) { return x * x < 2; };
    const Bracket up = halved(0, 2, below);
    CHECK(up.low <= std::sqrt(2.0));
    CHECK(up.high >= std::sqrt(2.0));
    CHECK(up.middle() == Approx(std::sqrt(2.0)).epsilon(1e-15));
    const Bracket down = halved(2, 0, [&](double x) { return !below(x); });
    CHECK(down.low >= std::sqrt(2.0));
    CHECK(down.middle() == Approx(std::sqrt(2.0)).epsilon(1e-15));
    int looks = 0;
    const Bracket wide = halved(
        0, 2,
        [&](double x) {
            ++looks;
            return below(x);
        },
        0.1);
    CHECK(wide.high - wide.low <= 0.1);
    CHECK(looks == 5); // 2 halved to 0.0625
    CHECK(halved(0, 2, below, 0, 3).high - halved(0, 2, below, 0, 3).low == Approx(0.25));
}

TEST_CASE("golden section finds the one valley, at an end too") {
    CHECK(lowest_between(0, 3, 1e-8, [](double x) { return (x - 1.25) * (x - 1.25); }) ==
          Approx(1.25).margin(1e-7));
    CHECK(lowest_between(0, 3, 1e-8, [](double x) { return x; }) == Approx(0).margin(1e-7));
    CHECK(lowest_between(0, 3, 1e-8, [](double x) { return -x; }) == Approx(3).margin(1e-7));
    CHECK(lowest_between(-1, 4, 1e-9, [](double x) { return std::abs(x - 2); }) == Approx(2).margin(1e-8));
}
