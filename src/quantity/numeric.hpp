// The small numerical methods that several floors need.
#pragma once

#include <array>
#include <numbers>

namespace whorl {

inline constexpr double pi = std::numbers::pi, full_turn = 2 * pi;

// --- Gauss–Legendre quadrature (Abramowitz and Stegun, table 25.4): exact for polynomials to degree 2n − 1 ---

struct GaussNode {
    double at, weight; // in [−1, 1]
};
inline constexpr std::array<GaussNode, 8> gauss_8{{{-0.9602898564975363, 0.1012285362903763},
                                                   {-0.7966664774136267, 0.2223810344533745},
                                                   {-0.5255324099163290, 0.3137066458778873},
                                                   {-0.1834346424956498, 0.3626837833783620},
                                                   {0.1834346424956498, 0.3626837833783620},
                                                   {0.5255324099163290, 0.3137066458778873},
                                                   {0.7966664774136267, 0.2223810344533745},
                                                   {0.9602898564975363, 0.1012285362903763}}};
inline constexpr std::array<GaussNode, 12> gauss_12{{{-0.9815606342467193, 0.0471753363865118},
                                                     {-0.9041172563704749, 0.1069393259953184},
                                                     {-0.7699026741943047, 0.1600783285433462},
                                                     {-0.5873179542866175, 0.2031674267230659},
                                                     {-0.3678314989981802, 0.2334925365383548},
                                                     {-0.1252334085114689, 0.2491470458134028},
                                                     {0.1252334085114689, 0.2491470458134028},
                                                     {0.3678314989981802, 0.2334925365383548},
                                                     {0.5873179542866175, 0.2031674267230659},
                                                     {0.7699026741943047, 0.1600783285433462},
                                                     {0.9041172563704749, 0.1069393259953184},
                                                     {0.9815606342467193, 0.0471753363865118}}};

// ∫f from one place to another, in so many equal parts.
template<const auto& nodes, class F>
double gauss(double from, double to, int parts, const F& f) {
    const double half = (to - from) / parts / 2;
    double sum = 0;
    for (int part = 0; part < parts; ++part) {
        const double middle = from + (2 * part + 1) * half;
        for (const GaussNode& n : nodes)
            sum += n.weight * f(middle + n.at * half);
    }
    return sum * half;
}
// ∫∫f(x, y), each way in so many equal parts.
template<const auto& nodes, class F>
double gauss(double x0, double x1, int x_parts, double y0, double y1, int y_parts, const F& f) {
    return gauss<nodes>(x0, x1, x_parts, [&](double x) {
        return gauss<nodes>(y0, y1, y_parts, [&](double y) { return f(x, y); });
    });
}

// --- Halving ---

// `holds` is true at `low` (or would be) and false at `high`, which may lie below it; what is between is halved to
// `width`, at most `most` times, each of which is one look.
struct Bracket {
    double low, high;
    double middle() const { return (low + high) / 2; }
};
template<class Holds>
Bracket halved(double low, double high, const Holds& holds, double width = 0, int most = 60) {
    for (int i = 0; i < most && (high > low ? high - low : low - high) > width; ++i) {
        const double middle = (low + high) / 2;
        (holds(middle) ? low : high) = middle;
    }
    return {low, high};
}

// --- Golden section: the place of the least of f between a and b, where it has one valley; exact to the square root of
// the value's rounding ---
template<class F>
double lowest_between(double a, double b, double width, const F& f) {
    constexpr double part = 0.6180339887498949;
    double c = b - part * (b - a), d = a + part * (b - a), fc = f(c), fd = f(d);
    while (b - a > width)
        if (fc <= fd) {
            b = d, d = c, fd = fc, c = b - part * (b - a), fc = f(c);
        } else {
            a = c, c = d, fc = fd, d = a + part * (b - a), fd = f(d);
        }
    return (a + b) / 2;
}

} // namespace whorl
