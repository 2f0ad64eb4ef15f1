// Taylor arithmetic to the third order: a value and its first three derivatives, each divided by its
// factorial. Curves are written once with jets, and their derivatives follow.
#pragma once

#include <array>
#include <cmath>
#include <cstddef>
#include <utility>

namespace whorl {

struct Jet {
    std::array<double, 4> c{};
};

inline Jet constant(double v) {
    return {{v, 0, 0, 0}};
}
inline Jet variable(double at) {
    return {{at, 1, 0, 0}};
}
inline Jet operator+(const Jet& a, const Jet& b) {
    Jet r;
    for (std::size_t i = 0; i < 4; ++i)
        r.c[i] = a.c[i] + b.c[i];
    return r;
}
inline Jet operator+(Jet a, double k) {
    a.c[0] += k;
    return a;
}
inline Jet operator*(double k, const Jet& a) {
    Jet r;
    for (std::size_t i = 0; i < 4; ++i)
        r.c[i] = k * a.c[i];
    return r;
}
inline Jet operator-(const Jet& a, const Jet& b) {
    return a + (-1.0) * b;
}
inline Jet operator*(const Jet& a, const Jet& b) {
    Jet r;
    for (std::size_t i = 0; i < 4; ++i)
        for (std::size_t j = 0; j <= i; ++j)
            r.c[i] += a.c[j] * b.c[i - j];
    return r;
}
inline Jet reciprocal(const Jet& a) {
    Jet r;
    r.c[0] = 1 / a.c[0];
    for (std::size_t i = 1; i < 4; ++i) {
        double sum = 0;
        for (std::size_t j = 1; j <= i; ++j)
            sum += a.c[j] * r.c[i - j];
        r.c[i] = -sum / a.c[0];
    }
    return r;
}

inline Jet square_root(const Jet& a) {
    Jet b = constant(std::sqrt(a.c[0]));
    for (std::size_t k = 1; k < 4; ++k) {
        double sum = a.c[k];
        for (std::size_t j = 1; j < k; ++j)
            sum -= b.c[j] * b.c[k - j];
        b.c[k] = sum / (2 * b.c[0]);
    }
    return b;
}
// The angle of (x, y), from φ' = (x·y' − y·x')/(x² + y²).
inline Jet angle_of(const Jet& x, const Jet& y) {
    const auto slope = [](const Jet& a) { return Jet{{a.c[1], 2 * a.c[2], 3 * a.c[3], 0}}; };
    const Jet d = (x * slope(y) - y * slope(x)) * reciprocal(x * x + y * y);
    return {{std::atan2(y.c[0], x.c[0]), d.c[0], d.c[1] / 2, d.c[2] / 3}};
}

// cos and sin of a jet, from s' = θ'·c and c' = −θ'·s.
inline std::pair<Jet, Jet> cos_sin(const Jet& t) {
    Jet c = constant(std::cos(t.c[0])), s = constant(std::sin(t.c[0]));
    for (std::size_t k = 1; k < 4; ++k) {
        double ds = 0, dc = 0;
        for (std::size_t j = 1; j <= k; ++j) {
            ds += static_cast<double>(j) * t.c[j] * c.c[k - j];
            dc -= static_cast<double>(j) * t.c[j] * s.c[k - j];
        }
        s.c[k] = ds / static_cast<double>(k);
        c.c[k] = dc / static_cast<double>(k);
    }
    return {c, s};
}

// cosh and sinh of a jet, from s' = θ'·c and c' = θ'·s.
inline std::pair<Jet, Jet> cosh_sinh(const Jet& t) {
    Jet c = constant(std::cosh(t.c[0])), s = constant(std::sinh(t.c[0]));
    for (std::size_t k = 1; k < 4; ++k) {
        double ds = 0, dc = 0;
        for (std::size_t j = 1; j <= k; ++j) {
            ds += static_cast<double>(j) * t.c[j] * c.c[k - j];
            dc += static_cast<double>(j) * t.c[j] * s.c[k - j];
        }
        s.c[k] = ds / static_cast<double>(k);
        c.c[k] = dc / static_cast<double>(k);
    }
    return {c, s};
}

} // namespace whorl
