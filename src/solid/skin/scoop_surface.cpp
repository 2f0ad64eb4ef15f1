#include "solid/skin/scoop_surface.hpp"

#include "solid/kernel/bezier.hpp"
#include "solid/kernel/kernel_spline.hpp"
#include "solid/skin/skin.hpp"

#include <cmath>

namespace whorl::solid {

Handle(Geom_Surface) scoop_surface(const Scoop& s, double sign) {
    constexpr std::size_t count = spline_degree + 1;
    std::array<std::array<Point, count>, count> rows; // by α, of poles along v
    for (std::size_t i = 0; i < count; ++i) {
        const double alpha = s.alpha_from + bezier_node(i) * (s.alpha_to - s.alpha_from);
        std::array<Point, count> at;
        for (std::size_t k = 0; k < count; ++k) {
            UnrolledPoint p = point_at(s, alpha, s.from + bezier_node(k) * (s.to - s.from));
            p.r *= sign;
            at[k] = {p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z};
        }
        rows[i] = bezier_through(at);
    }
    std::vector<Point> poles(count * count);
    for (std::size_t k = 0; k < count; ++k) {
        std::array<Point, count> at;
        for (std::size_t i = 0; i < count; ++i)
            at[i] = rows[i][k];
        const auto across = k + 1 == count && s.has_pole() ? at : bezier_through(at);
        for (std::size_t i = 0; i < count; ++i)
            poles[i * count + k] = k + 1 == count && s.has_pole() ? at[0] : across[i];
    }
    const ScrewSpline u{std::vector<Point>(count), {s.alpha_from, s.alpha_to}, {count, count}},
        v{std::vector<Point>(count), {0, 1}, {count, count}};
    return kernel_surface(poles, u, v, spline_degree);
}

} // namespace whorl::solid
