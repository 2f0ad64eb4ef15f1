#include "solid/skin/shaped_spline.hpp"

#include "solid/kernel/bent_spline.hpp"
#include "solid/kernel/bezier.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

constexpr std::size_t count = spline_degree + 1;

JetPoint jet_along(const ShapedPatch& p, double phi, double z) {
    const Jet theta{{phi + p.turned(z), p.wall->twist((p.z0 + p.z1) / 2), 0, 0}}, r = p.up(z, phi);
    const auto [c, s] = cos_sin(theta);
    return {r * c, r * s, variable(z)};
}

} // namespace

std::vector<double> span_heights(const std::shared_ptr<const ShapedWall>& wall, double z0, double z1) {
    std::vector<double> out;
    const std::vector<double> at = wall->breaks(z0, z1);
    const Flutes* f = wall->flutes();
    const double half = wall->half_angle(), contact = f ? std::min(f->contact, half) : 0,
                 start = f ? f->start : 0;
    for (std::size_t i = 0; i + 1 < at.size(); ++i) {
        int spans = 1;
        const auto need = [&](double from, double to, double phi) {
            const ShapedPatch one{wall, from, to, at[i], at[i + 1]};
            spans = std::max(spans, fitted_spans([&](double z) { return jet_along(one, phi, z); }, at[i],
                                                 at[i + 1], along_tolerance));
        };
        need(start - contact, start + contact, start);
        for (const double part : {0.5, 0.75, 0.9, 1.0}) // of a deep scallop's sides
            if (f) need(start - contact, start + contact, start + part * contact);
        if (f && contact < half) need(start + contact, start + 2 * half - contact, start + half);
        for (int k = 0; k < spans; ++k)
            out.push_back(at[i] + (at[i + 1] - at[i]) * k / spans);
    }
    out.push_back(z1);
    return out;
}

double across_error(const ShapedPatch& p) {
    double worst = 0;
    constexpr int heights = 6;
    for (int k = 1; k < heights; ++k) {
        const double z = p.z0 + (p.z1 - p.z0) * k / heights;
        const ScrewSpline one = shaped_across(p, z, p.from, p.to);
        for (const double x : {0.02, 0.11, 0.5, 0.89, 0.98}) { // where its error swings furthest
            std::vector<Point> q = one.poles;
            for (std::size_t n = spline_degree; n > 0; --n)
                for (std::size_t i = 0; i < n; ++i)
                    q[i] = {q[i].x + x * (q[i + 1].x - q[i].x), q[i].y + x * (q[i + 1].y - q[i].y), z};
            const double phi = p.from + x * (p.to - p.from), r = p.radius(phi, z), theta = phi + p.turned(z);
            worst = std::max(worst, std::hypot(q[0].x - r * std::cos(theta), q[0].y - r * std::sin(theta)));
        }
    }
    return worst;
}

ScrewSpline shaped_along(const ShapedPatch& p, double phi) {
    return fitted_spline([&](double z) { return jet_along(p, phi, z); }, p.z0, p.z1, 1);
}

ScrewSpline shaped_across(const ShapedPatch& p, double z, double from, double to) {
    std::array<Point, count> at;
    for (std::size_t k = 0; k < count; ++k) {
        const double phi = k + 1 == count ? to : from + bezier_node(k) * (to - from);
        const double r = p.radius(phi, z), theta = phi + p.turned(z);
        at[k] = {r * std::cos(theta), r * std::sin(theta), z};
    }
    const auto poles = bezier_through(at);
    return {{poles.begin(), poles.end()}, {from, to}, {count, count}};
}

} // namespace whorl::solid
