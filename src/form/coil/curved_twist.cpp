#include "form/coil/curved_twist.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

namespace whorl {
namespace {

constexpr int most_term = 81; // of the odd ones

// g'' − 3·g'/r − λ²·g = 1 between r0 and r1, 0 at both, at n + 1 places; by differences, forwards and back.
std::vector<double> solved(double r0, double r1, double lambda, int n) {
    const double h = (r1 - r0) / n;
    std::vector<double> c(static_cast<std::size_t>(n) + 1), g(static_cast<std::size_t>(n) + 1);
    for (int i = 1; i < n; ++i) {
        const auto at = static_cast<std::size_t>(i);
        const double skew = 1.5 * h / (r0 + h * i), below = 1 + skew, above = 1 - skew,
                     middle = -2 - lambda * lambda * h * h - below * c[at - 1];
        c[at] = above / middle;
        g[at] = (h * h - below * g[at - 1]) / middle;
    }
    for (int i = n - 1; i >= 0; --i)
        g[static_cast<std::size_t>(i)] -= c[static_cast<std::size_t>(i)] * g[static_cast<std::size_t>(i) + 1];
    g[0] = 0;
    return g;
}

struct Found {
    double force = 0, stress = 0; // over G, for δ = π
};

Found on(const WireShape& wire, double mean_diameter, int n) {
    const double r0 = (mean_diameter - wire.across) / 2, r1 = r0 + wire.across, high = wire.axial,
                 h = wire.across / n;
    Found out;
    double inside = 0;                                              // ψ_r in the middle of the inner side
    std::vector<double> face(static_cast<std::size_t>(n) + 1, 0.0); // −ψ_z on the upper one
    for (int k = 1; k <= most_term; k += 2) {
        const double lambda = k * pi / high, share = 4 / (k * pi), sign = k % 4 == 1 ? 1 : -1;
        const std::vector<double> g = solved(r0, r1, lambda, n);
        double area = 0; // ∫ g/r³ dr, which is 0 at both ends
        for (int i = 1; i < n; ++i)
            area += g[static_cast<std::size_t>(i)] / std::pow(r0 + h * i, 3) * h;
        out.force -= 2 * share * 2 * high / (k * pi) * area;
        inside += sign * share * (4 * g[1] - g[2]) / (2 * h);
        for (std::size_t i = 0; i < face.size(); ++i)
            face[i] -= 4 / high * g[i];
    }
    out.stress = std::abs(inside) / (r0 * r0);
    const double tail =
        4 / high * high * high / (2 * pi * pi * (most_term + 1)); // what the terms left out add, g → −1/λ²
    for (int i = 1; i < n; ++i)
        out.stress =
            std::max(out.stress, (face[static_cast<std::size_t>(i)] + tail) / std::pow(r0 + h * i, 2));
    return out;
}

} // namespace

CurvedTwist curved_twist(const WireShape& wire, double D) {
    if (wire.round) return {};
    // a spring asks for the same few of them again and again
    thread_local std::map<std::tuple<double, double, double>, CurvedTwist> known;
    const auto key = std::tuple(wire.across, wire.axial, D);
    if (const auto it = known.find(key); it != known.end()) return it->second;
    if (known.size() > 200) known.clear();
    const Found coarse = on(wire, D, 64), fine = on(wire, D, 128);
    const double force = fine.force + (fine.force - coarse.force) / 3,
                 stress = fine.stress + (fine.stress - coarse.stress) / 3;
    CurvedTwist out;
    out.stiffness = force / (4 * wire.twist() / (D * D * D)); // G·It·δ/(2·π·R³) with δ = π
    out.stress = stress / (force * D / (2 * wire.twist_modulus()));
    return known[key] = out;
}

TwistOver::TwistOver(const WireShape& wire, double smallest, double largest)
    : from_(smallest), to_(largest), straight_(wire.twist()) {
    const int n = wire.round || smallest == largest ? 1 : 9;
    for (int i = 0; i < n; ++i)
        known_.push_back(
            curved_twist(wire, n == 1 ? smallest : smallest + (largest - smallest) * i / (n - 1)));
}

CurvedTwist TwistOver::at(double D) const {
    if (known_.size() == 1) return known_.front();
    const double x =
        std::clamp((D - from_) / (to_ - from_), 0.0, 1.0) * static_cast<double>(known_.size() - 1);
    const auto i = std::min(static_cast<std::size_t>(x), known_.size() - 2);
    const double t = x - static_cast<double>(i);
    return {known_[i].stiffness + t * (known_[i + 1].stiffness - known_[i].stiffness),
            known_[i].stress + t * (known_[i + 1].stress - known_[i].stress)};
}

double TwistOver::twist(double D) const {
    return straight_ * at(D).stiffness;
}
double TwistOver::stress(double D) const {
    return at(D).stress;
}

} // namespace whorl
