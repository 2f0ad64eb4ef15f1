#include "solid/skin/shaped_surface.hpp"

#include "solid/kernel/bezier.hpp"
#include "solid/kernel/kernel_spline.hpp"

#include <algorithm>

namespace whorl::solid {

Handle(Geom_Surface) shaped_surface(const ShapedPatch& p) {
    std::vector<Point> poles;
    if (p.is_turned()) { // every circle of it is the same spline, as large as the meridian says
        const ScrewSpline up = shaped_along(p, -p.turned(p.z0));
        double largest = 0;
        for (const Point& q : up.poles)
            largest = std::max(largest, q.x);
        const double from = p.from + p.turned(p.z0), to = p.to + p.turned(p.z0);
        const ScrewSpline around = screw_spline({from, 1, 0}, {to, 1, 0}, screw_spans(to - from, largest, 0));
        for (const Point& a : around.poles)
            for (const Point& b : up.poles)
                poles.push_back({a.x * b.x, a.y * b.x, b.z});
        return kernel_surface(poles, around, up, spline_degree);
    }
    constexpr std::size_t count = spline_degree + 1;
    std::array<ScrewSpline, count> rows;
    for (std::size_t k = 0; k < count; ++k)
        rows[k] = shaped_along(p, k + 1 == count ? p.to : p.from + bezier_node(k) * (p.to - p.from));
    for (std::size_t i = 0; i < rows[0].poles.size(); ++i) {
        std::array<Point, count> values;
        for (std::size_t k = 0; k < count; ++k)
            values[k] = rows[k].poles[i];
        for (const Point& q : bezier_through(values))
            poles.push_back(q);
    }
    const ScrewSpline across{std::vector<Point>(count), {p.from, p.to}, {count, count}};
    return kernel_surface(poles, rows[0], across, spline_degree);
}

} // namespace whorl::solid
