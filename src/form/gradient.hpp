// First-order arithmetic in two variables: a value and its slopes by both. Where a surface's normal or a step
// of Newton's is wanted and no more, it takes a third of a jet's time.
#pragma once

#include <array>
#include <cmath>
#include <utility>

namespace whorl {

struct Gradient {
    std::array<double, 3> c{}; // the value, its slope by the first variable, and by the second
};

// A function of a value that is known, with its slope there.
inline Gradient chained(const Gradient& a, double value, double slope) {
    return {{value, slope * a.c[1], slope * a.c[2]}};
}
inline Gradient operator+(const Gradient& a, const Gradient& b) {
    return {{a.c[0] + b.c[0], a.c[1] + b.c[1], a.c[2] + b.c[2]}};
}
inline Gradient operator-(const Gradient& a, const Gradient& b) {
    return {{a.c[0] - b.c[0], a.c[1] - b.c[1], a.c[2] - b.c[2]}};
}
inline Gradient operator+(const Gradient& a, double k) {
    return {{a.c[0] + k, a.c[1], a.c[2]}};
}
inline Gradient operator*(double k, const Gradient& a) {
    return {{k * a.c[0], k * a.c[1], k * a.c[2]}};
}
inline Gradient operator*(const Gradient& a, const Gradient& b) {
    return {{a.c[0] * b.c[0], a.c[0] * b.c[1] + a.c[1] * b.c[0], a.c[0] * b.c[2] + a.c[2] * b.c[0]}};
}
inline Gradient reciprocal(const Gradient& a) {
    const double v = 1 / a.c[0];
    return chained(a, v, -v * v);
}
inline Gradient square_root(const Gradient& a) {
    const double v = std::sqrt(a.c[0]);
    return chained(a, v, 0.5 / v);
}
inline std::pair<Gradient, Gradient> cos_sin(const Gradient& a) {
    const double c = std::cos(a.c[0]), s = std::sin(a.c[0]);
    return {chained(a, c, -s), chained(a, s, c)};
}
// The angle of (x, y), from dφ = (x·dy − y·dx)/(x² + y²).
inline Gradient angle_of(const Gradient& x, const Gradient& y) {
    const double over = 1 / (x.c[0] * x.c[0] + y.c[0] * y.c[0]);
    return {{std::atan2(y.c[0], x.c[0]), (x.c[0] * y.c[1] - y.c[0] * x.c[1]) * over,
             (x.c[0] * y.c[2] - y.c[0] * x.c[2]) * over}};
}

} // namespace whorl
