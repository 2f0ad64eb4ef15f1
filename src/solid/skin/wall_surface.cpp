#include "solid/skin/wall_surface.hpp"

#include "solid/kernel/bent_spline.hpp"
#include "solid/kernel/kernel_spline.hpp"

#include <array>
#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

constexpr std::size_t count = spline_degree + 1;

// Where the wall is interpolated from edge to edge: the extremes of a Chebyshev polynomial, both ends among
// them.
double node(std::size_t k) {
    return (1 - std::cos(std::numbers::pi * static_cast<double>(k) / spline_degree)) / 2;
}

// From values at the nodes to Bézier poles: the inverse of the Bernstein polynomials there (Gauss and
// Jordan).
const std::array<std::array<double, count>, count>& poles_from_values() {
    static const auto inverse = [] {
        std::array<std::array<double, 2 * count>, count> m{};
        for (std::size_t j = 0; j < count; ++j) {
            const double x = node(j);
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

std::array<Point, count> bezier(const std::array<Point, count>& values) {
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

double radius(const DrumWall& w, std::size_t k) {
    if (k + 1 == count) return w.outer();
    return w.inner() + node(k) * (w.outer() - w.inner());
}

JetPoint jet_along(const DrumWall& w, double t, double r) {
    const WallJet at = w.along(t, r);
    const auto [c, s] = cos_sin(at.theta);
    return {r * c, r * s, at.z};
}

} // namespace

int wall_spans(const DrumWall& w) {
    int spans = 1;
    for (const double r : {w.inner(), (w.inner() + w.outer()) / 2, w.outer()}) {
        const auto space = [&](double t) { return jet_along(w, t, r); };
        const auto image = [&](double t) { // on the drum, θ counted by the radius
            const WallJet at = w.along(t, r);
            return JetPoint{r * at.theta, at.z, {}};
        };
        spans =
            std::max({spans, fitted_spans(space, w.from(), w.to()), fitted_spans(image, w.from(), w.to())});
    }
    return spans;
}

ScrewSpline wall_along(const DrumWall& w, double r, int spans) {
    return fitted_spline([&](double t) { return jet_along(w, t, r); }, w.from(), w.to(), spans);
}

ScrewSpline wall_across(const DrumWall& w, double t) {
    std::array<Point, count> at;
    for (std::size_t k = 0; k < count; ++k) {
        const JetPoint j = jet_along(w, t, radius(w, k));
        at[k] = {j.x.c[0], j.y.c[0], j.z.c[0]};
    }
    const auto poles = bezier(at);
    return {{poles.begin(), poles.end()}, {w.inner(), w.outer()}, {count, count}};
}

Handle(Geom_Surface) wall_surface(const DrumWall& w) {
    const int spans = wall_spans(w);
    std::array<ScrewSpline, count> rows;
    for (std::size_t k = 0; k < count; ++k)
        rows[k] = wall_along(w, radius(w, k), spans);
    std::vector<Point> poles;
    for (std::size_t i = 0; i < rows[0].poles.size(); ++i) {
        std::array<Point, count> values;
        for (std::size_t k = 0; k < count; ++k)
            values[k] = rows[k].poles[i];
        for (const Point& p : bezier(values))
            poles.push_back(p);
    }
    const ScrewSpline across{std::vector<Point>(count), {w.inner(), w.outer()}, {count, count}};
    return kernel_surface(poles, rows[0], across, spline_degree);
}

} // namespace whorl::solid
