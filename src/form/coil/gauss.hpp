// Gauss–Legendre quadrature with 12 points a part, exact for polynomials up to degree 23. Internal to the
// form floor's coils and what is measured of them.
#pragma once

#include <array>

namespace whorl {

template<class F>
double gauss(double from, double to, int parts, F f) {
    constexpr std::array<double, 6> x{0.1252334085114689, 0.3678314989981802, 0.5873179542866175,
                                      0.7699026741943047, 0.9041172563704749, 0.9815606342467193};
    constexpr std::array<double, 6> w{0.2491470458134028, 0.2334925365383548, 0.2031674267230659,
                                      0.1600783285433462, 0.1069393259953184, 0.0471753363865118};
    double sum = 0;
    const double half = (to - from) / parts / 2;
    for (int k = 0; k < parts; ++k) {
        const double middle = from + (2 * k + 1) * half;
        for (std::size_t i = 0; i < 6; ++i)
            sum += w[i] * (f(middle - half * x[i]) + f(middle + half * x[i]));
    }
    return sum * half;
}

} // namespace whorl
