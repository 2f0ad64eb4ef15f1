#include "solid/skin/wall_surface.hpp"

#include "solid/kernel/bent_spline.hpp"
#include "solid/kernel/bezier.hpp"
#include "solid/kernel/kernel_spline.hpp"

#include <array>
#include <cmath>

namespace whorl::solid {
namespace {

constexpr std::size_t count = spline_degree + 1;

double radius(const DrumWall& w, std::size_t k) {
    if (k + 1 == count) return w.outer();
    return w.inner() + bezier_node(k) * (w.outer() - w.inner());
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
    const auto poles = bezier_through(at);
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
        for (const Point& p : bezier_through(values))
            poles.push_back(p);
    }
    const ScrewSpline across{std::vector<Point>(count), {w.inner(), w.outer()}, {count, count}};
    return kernel_surface(poles, rows[0], across, spline_degree);
}

} // namespace whorl::solid
