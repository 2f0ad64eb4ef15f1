#include "pair/standing.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

double dot(const std::array<double, 3>& a, const std::array<double, 3>& b) {
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

// How long the bar runs straight from a bend's end, z and the zones beyond it in order.
double straight_from(const ResolvedPiece& piece, std::size_t bend, bool behind) {
    double length = 0;
    for (std::size_t i = 0; i < piece.zones.size(); ++i) {
        const ResolvedZone& z = piece.zones[i];
        if (z.in_bore()) continue;
        if (behind && i > bend) {
            if (z.bend()) break;
            length += in_mm(z.length);
        }
        if (!behind && i < bend) length = z.bend() ? 0 : length + in_mm(z.length);
    }
    return length;
}

Standing strap_across(const ResolvedPiece& clamp, std::size_t zone, const ResolvedPiece& strap) {
    const ResolvedZone& bend = clamp.zones[zone];
    const BentLine way = clamp.centreline();
    const double bar = 2 * bend.bend()->bar,
                 legs = std::min(straight_from(clamp, zone, false), straight_from(clamp, zone, true));
    double thick = 0;
    for (const ResolvedZone& z : strap.zones)
        if (const auto* p = z.as<ResolvedPlain>()) thick = std::max(thick, in_mm(p->thickness));
    const double along = std::max(thick / 2, legs - 2 * bar - thick / 2);
    const BarFrame near = way.frame_at(in_mm(bend.start) - along),
                   far = way.frame_at(in_mm(bend.end()) + along);
    Standing s;
    double apart = 0;
    for (std::size_t k = 0; k < 3; ++k) {
        s.z[k] = far.origin[k] - near.origin[k];
        apart += s.z[k] * s.z[k];
    }
    for (double& v : s.z)
        v /= std::sqrt(apart);
    s.y = {far.t[0], far.t[1], far.t[2]}; // its wide faces look along the legs
    s.x = {s.y[1] * s.z[2] - s.y[2] * s.z[1], s.y[2] * s.z[0] - s.y[0] * s.z[2],
           s.y[0] * s.z[1] - s.y[1] * s.z[0]};
    for (std::size_t k = 0; k < 3; ++k)
        s.origin[k] = (near.origin[k] + far.origin[k]) / 2 - in_mm(strap.length()) / 2 * s.z[k];
    return s;
}

} // namespace

std::optional<Standing> standing_of(const ResolvedPiece& first, std::size_t zone, const ResolvedPiece& second,
                                    std::size_t second_zone) {
    const ResolvedZone &a = first.zones.at(zone), &b = second.zones.at(second_zone);
    if (a.bend() && std::abs(a.bend()->spec.angle - std::numbers::pi) < 1e-6 && b.outline() == Outline::flat)
        return strap_across(first, zone, second);
    const bool straight = !first.bent() && !second.bent();
    const double up = in_mm(a.start + a.length / 2) - in_mm(b.start + b.length / 2); // middles in one plane
    if (((a.groove() && a.in_bore()) || (a.coil() && (b.coil() || b.as<ResolvedPlain>()))) && straight)
        return Standing{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0, 0, up}};
    if (a.spline() && b.spline() && straight) {
        const double half = a.gear()->pitch_angle() / 2, c = std::cos(half), s = std::sin(half);
        return Standing{{c, s, 0}, {-s, c, 0}, {0, 0, 1}, {0, 0, up}};
    }
    return {};
}

Standing inverse(const Standing& s) {
    Standing out;
    out.x = {s.x[0], s.y[0], s.z[0]};
    out.y = {s.x[1], s.y[1], s.z[1]};
    out.z = {s.x[2], s.y[2], s.z[2]};
    out.origin = {-dot(s.x, s.origin), -dot(s.y, s.origin), -dot(s.z, s.origin)};
    return out;
}

} // namespace whorl
