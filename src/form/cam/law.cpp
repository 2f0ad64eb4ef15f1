#include "form/cam/law.hpp"

#include "quantity/numeric.hpp"

#include <cmath>

namespace whorl {
namespace {

constexpr std::string_view words[]{"constant", "parabolic", "harmonic",      "cycloidal",
                                   "3-4-5",    "4-5-6-7",   "modified-sine", "modified-trapezoid"};

// c·sin(w·x + p), added to what is there.
void add_sine(Derivatives& y, double c, double w, double p, double x) {
    const double s = std::sin(w * x + p), k = std::cos(w * x + p);
    y[0] += c * s;
    y[1] += c * w * k;
    y[2] -= c * w * w * s;
    y[3] -= c * w * w * w * k;
    y[4] += c * w * w * w * w * s;
}

// Σ c[i]·x^i
template<std::size_t N>
Derivatives polynomial(const std::array<double, N>& c, double x) {
    Derivatives y{};
    for (std::size_t d = 0; d < 5; ++d)
        for (std::size_t i = N; i-- > d;) {
            double factor = c[i];
            for (std::size_t k = 0; k < d; ++k)
                factor *= static_cast<double>(i - k);
            y[d] = y[d] * x + factor;
        }
    return y;
}

// y(1 − x) = 1 − y(x) for all laws here.
Derivatives turned_round(Derivatives y) {
    return {1 - y[0], y[1], -y[2], y[3], -y[4]};
}

// Sine-like over the first and last eighth, a third as fast in between.
Derivatives modified_sine(double x, std::size_t piece) {
    const double k = 1 / (4 + pi);
    Derivatives y{k * pi * x, k * pi, 0, 0, 0};
    if (piece == 0) {
        add_sine(y, -k / 4, 4 * pi, 0, x);
    } else if (piece == 1) {
        y[0] += 2 * k;
        add_sine(y, -9 * k / 4, 4 * pi / 3, pi / 3, x);
    } else {
        y[0] += 4 * k;
        add_sine(y, -k / 4, 4 * pi, 0, x);
    }
    return y;
}

// Acceleration: up in an eighth, level for a quarter, down through zero in a quarter, and so on: integrated.
Derivatives modified_trapezoid(double x, std::size_t piece) {
    if (piece > 2) return turned_round(modified_trapezoid(1 - x, 4 - piece));
    const double w = 4 * pi, a = 8 * pi / (2 + pi);
    Derivatives y{};
    if (piece == 0) {
        y[0] = a / w * x;
        y[1] = a / w;
        add_sine(y, -a / (w * w), w, 0, x);
        return y;
    }
    const double s1 = a / w / 8 - a / (w * w), v1 = a / w;
    if (piece == 1) {
        const double u = x - 1.0 / 8;
        return {s1 + v1 * u + a * u * u / 2, v1 + a * u, a, 0, 0};
    }
    const double s2 = s1 + v1 / 4 + a / 32, v2 = v1 + a / 4, u = x - 3.0 / 8;
    y[0] = s2 + v2 * u + a / (w * w);
    y[1] = v2;
    add_sine(y, -a / (w * w), w, pi / 2, u); // −cos
    return y;
}

} // namespace

std::string_view word(Law law) {
    return words[static_cast<int>(law)];
}

std::span<const double> law_breaks(Law law) {
    static constexpr double half[]{0.5}, eighths[]{0.125, 0.875}, quarters[]{0.125, 0.375, 0.625, 0.875};
    switch (law) {
    case Law::parabolic:
        return half;
    case Law::modified_sine:
        return eighths;
    case Law::modified_trapezoid:
        return quarters;
    default:
        return {};
    }
}

Derivatives law_at(Law law, double x, std::size_t piece) {
    switch (law) {
    case Law::constant:
        return {x, 1, 0, 0, 0};
    case Law::parabolic:
        if (piece == 0) return {2 * x * x, 4 * x, 4, 0, 0};
        return turned_round({2 * (1 - x) * (1 - x), 4 * (1 - x), 4, 0, 0});
    case Law::harmonic: {
        Derivatives y{0.5, 0, 0, 0, 0};
        add_sine(y, -0.5, pi, pi / 2, x);
        return y;
    }
    case Law::cycloidal: {
        Derivatives y{x, 1, 0, 0, 0};
        add_sine(y, -1 / (2 * pi), 2 * pi, 0, x);
        return y;
    }
    case Law::poly345:
        return polynomial(std::array<double, 6>{0, 0, 0, 10, -15, 6}, x);
    case Law::poly4567:
        return polynomial(std::array<double, 8>{0, 0, 0, 0, 35, -84, 70, -20}, x);
    case Law::modified_sine:
        return modified_sine(x, piece);
    case Law::modified_trapezoid:
        return modified_trapezoid(x, piece);
    }
    return {};
}

} // namespace whorl
