#include "solid/kernel/bezier.hpp"

#include <cmath>
#include <numbers>
#include <utility>

namespace whorl::solid {

double bezier_node(std::size_t k) {
    return (1 - std::cos(std::numbers::pi * static_cast<double>(k) / spline_degree)) / 2;
}

namespace {

constexpr std::size_t count = spline_degree + 1;

// From values at the nodes to Bézier poles: the inverse of the Bernstein polynomials there (Gauss and
// Jordan).
const std::array<std::array<double, count>, count>& poles_from_values() {
    static const auto inverse = [] {
        std::array<std::array<double, 2 * count>, count> m{};
        for (std::size_t j = 0; j < count; ++j) {
            const double x = bezier_node(j);
            double choose = 1;
            for (std::size_t k = 0; k < count; ++k) {
                m[j][k] = choose * std::pow(x, static_cast<double>(k)) *
                          std::pow(1 - x, static_cast<double>(spline_degree - k));
                choose = choose * static_cast<double>(spline_degree - k) / static_cast<double>(k + 1);
            }
            m[j][count + j] = 1;
        }
        for (std::size_t c = 0; c < count; ++c) {
            std::size_t pivot = c;
            for (std::size_t j = c + 1; j < count; ++j)
                if (std::abs(m[j][c]) > std::abs(m[pivot][c])) pivot = j;
            std::swap(m[c], m[pivot]);
            for (std::size_t k = 2 * count; k-- > c;)
                m[c][k] /= m[c][c];
            for (std::size_t j = 0; j < count; ++j)
                if (j != c)
                    for (std::size_t k = 2 * count; k-- > c;)
                        m[j][k] -= m[j][c] * m[c][k];
        }
        std::array<std::array<double, count>, count> out{};
        for (std::size_t j = 0; j < count; ++j)
            for (std::size_t k = 0; k < count; ++k)
                out[j][k] = m[j][count + k];
        return out;
    }();
    return inverse;
}

} // namespace

std::array<Point, spline_degree + 1> bezier_through(const std::array<Point, spline_degree + 1>& values) {
    std::array<Point, count> out{};
    for (std::size_t j = 0; j < count; ++j)
        for (std::size_t k = 0; k < count; ++k) {
            const double w = poles_from_values()[j][k];
            out[j] = {out[j].x + w * values[k].x, out[j].y + w * values[k].y, out[j].z + w * values[k].z};
        }
    // the ends are taken as they are
    out.front() = values.front();
    out.back() = values.back();
    return out;
}

} // namespace whorl::solid
