#include "form/silhouette/shaped_wall.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <type_traits>

namespace whorl {
namespace {

// The same for numbers as for jets.
double reciprocal(double a) {
    return 1 / a;
}
double square_root(double a) {
    return std::sqrt(a);
}
std::pair<double, double> cos_sin(double a) {
    return {std::cos(a), std::sin(a)};
}
template<class T>
T fixed(double v) {
    if constexpr (std::is_same_v<T, Jet>)
        return constant(v);
    else
        return v;
}

// ρ of a scallop at φ from its middle.
template<class T>
T scallop(const T& phi, const T& outer, const T& inner, double alpha) {
    const double ca = std::cos(alpha);
    const T a = inner - ca * outer, b = outer * outer - inner * inner,
            c = (-1.0) * (inner * outer * (outer - ca * inner)), bc = b * cos_sin(phi).first;
    return (-2.0) * (c * reciprocal(bc + square_root(bc * bc - 4.0 * (a * c))));
}
// dρ/dφ of it at its radius ρ, from A·ρ² + B·ρ·cos φ + C = 0: B·ρ·sin φ/(2·A·ρ + B·cos φ).
template<class T>
T rise_of(double phi, const T& rho, const T& outer, const T& inner, double alpha) {
    const T b = outer * outer - inner * inner, a = inner - std::cos(alpha) * outer;
    return std::sin(phi) * (b * rho * reciprocal(2.0 * (a * rho) + std::cos(phi) * b));
}

// The arc that touches the scallop at the angle `contact` from its middle, π/N − contact from the ridge.
template<class T>
struct Round {
    T centre, square; // along the ridge's radius, and the radius²
};
template<class T>
Round<T> round_of(double contact, const T& outer, const T& inner, double alpha) {
    const T radius = scallop(fixed<T>(contact), outer, inner, alpha);
    const double beta = alpha - contact, co = std::cos(beta), si = std::sin(beta);
    const T k = rise_of(contact, radius, outer, inner, alpha) * reciprocal(radius);
    const T reach = si * (radius * reciprocal(co * k + si)); // along the normal to the ridge's radius
    const T centre = co * radius - reach * ((-si) * k + co);
    const T across = centre - co * radius;
    return {centre, across * across + (si * si) * (radius * radius)};
}
template<class T>
T on_round(const Round<T>& round, const T& from_ridge) {
    const auto [c, s] = cos_sin(from_ridge);
    const T off = round.centre * s;
    return round.centre * c + square_root(round.square - off * off);
}

// φ from the middle of the scallop that the patch's middle lies in.
struct Place {
    double phi; // in −π/N … π/N
    bool ridge;
    int side; // of the scallop's middle on which the ridge is
};
Place place_of(const Flutes& f, double phi, double middle) {
    const double alpha = pi / f.count,
                 scallop_at = f.start + 2 * alpha * std::round((middle - f.start) / (2 * alpha));
    const double off = middle - scallop_at;
    return {phi - scallop_at, f.contact < alpha - 1e-9 && std::abs(off) > f.contact, off < 0 ? -1 : 1};
}

} // namespace

double ShapedWall::half_angle() const {
    return flutes_ ? pi / flutes_->count : pi;
}

double ShapedWall::turned(double z) const {
    return flutes_ ? flutes_->twist * (std::clamp(z, flutes_->from, flutes_->to) - flutes_->from) : 0;
}

double ShapedWall::least_radius(double z) const {
    return outer_(z) - (fluted(z) ? flutes_->depth(z) : 0);
}

double ShapedWall::ridge_radius(double z) const {
    if (!fluted(z) || flutes_->contact >= half_angle()) return outer_(z);
    return on_round(round_of(flutes_->contact, outer_(z), least_radius(z), half_angle()), 0.0);
}

double ShapedWall::area(double z) const {
    if (!fluted(z)) return pi * outer_(z) * outer_(z);
    const double outer = outer_(z), inner = least_radius(z), a = half_angle(),
                 contact = std::min(flutes_->contact, a);
    double half = 0; // of one scallop and its ridge
    half += gauss<gauss_8>(0, contact, 2, [&](double phi) {
        const double r = scallop(phi, outer, inner, a);
        return r * r / 2;
    });
    if (contact < a) {
        const Round<double> round = round_of(contact, outer, inner, a);
        half += gauss<gauss_8>(0, a - contact, 1, [&](double x) {
            const double r = on_round(round, x);
            return r * r / 2;
        });
    }
    return 2 * flutes_->count * half;
}

double ShapedWall::volume(double z0, double z1) const {
    const std::vector<double> at = breaks(z0, z1);
    double sum = 0;
    for (std::size_t i = 0; i + 1 < at.size(); ++i)
        sum += gauss<gauss_8>(at[i], at[i + 1], 1, [&](double z) { return area(z); });
    return sum;
}

std::vector<double> ShapedWall::breaks(double z0, double z1) const {
    std::vector<double> out{z0, z1};
    const auto take = [&](double z) {
        if (z > z0 + 1e-9 && z < z1 - 1e-9) out.push_back(z);
    };
    for (const double z : outer_.breaks())
        take(z);
    if (flutes_) {
        take(flutes_->from);
        take(flutes_->to);
        for (const double z : flutes_->depth.breaks())
            take(z);
    }
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end(), [](double a, double b) { return b - a < 1e-9; }),
              out.end());
    return out;
}

bool ShapedPatch::is_turned() const {
    return !wall->fluted((z0 + z1) / 2);
}

namespace {
// At φ and between radii, each a number or a jet; `at` is φ's value.
template<class T>
T outline(const ShapedPatch& p, const T& phi, double at, const T& outer, const T& inner) {
    const Flutes& f = *p.wall->flutes();
    const double a = p.wall->half_angle();
    const Place place = place_of(f, at, p.middle());
    const T off = phi + (place.phi - at);
    if (!place.ridge) return scallop(off, outer, inner, a);
    return on_round(round_of(f.contact, outer, inner, a), off + -place.side * a);
}
} // namespace

double ShapedPatch::radius(double phi, double z) const {
    const double outer = wall->outer()(z);
    return is_turned() ? outer : outline(*this, phi, phi, outer, outer - wall->flutes()->depth(z));
}

Jet ShapedPatch::up(double z, double phi) const {
    const Jet outer = wall->outer().jet(z);
    return is_turned() ? outer
                       : outline(*this, constant(phi), phi, outer, outer - wall->flutes()->depth.jet(z));
}

Jet ShapedPatch::around(double phi, double z) const {
    const double outer = wall->outer()(z);
    return is_turned() ? constant(outer)
                       : outline(*this, variable(phi), phi, constant(outer),
                                 constant(outer - wall->flutes()->depth(z)));
}

ShapedPatch::Slopes ShapedPatch::slopes(double phi, double z) const {
    const Jet along = up(z, phi);
    return {along.c[0], is_turned() ? 0 : around(phi, z).c[1], along.c[1]};
}

double deepest_scallop(double radius, int count) {
    const double a = pi / count;
    return radius * (1 - (1 - std::sin(a)) / std::cos(a));
}

double round_radius(double radius, double depth, int count, double contact) {
    const double a = pi / count;
    if (contact >= a) return 0;
    return std::sqrt(round_of(contact, radius, radius - depth, a).square);
}

double contact_angle(double radius, double depth, int count, double round) {
    const double a = pi / count;
    const double low = 0.02 * a; // the larger the round, the sooner it begins
    const auto larger = [&](double at) { return round_radius(radius, depth, count, at) > round; };
    return larger(low) ? halved(low, a, larger).middle() : low;
}

} // namespace whorl
