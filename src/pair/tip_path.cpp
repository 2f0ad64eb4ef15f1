#include "pair/tip_path.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

// The outline's points from the flank's upper end to the tip's land.
std::vector<TransversePoint> tip_points(const std::vector<TransverseCurve>& half_outline, std::size_t flank) {
    std::vector<TransversePoint> out{point_at(half_outline[flank], half_outline[flank].to)};
    for (std::size_t i = flank + 1; i + 1 < half_outline.size(); ++i)
        for (int k = 1; k <= 8; ++k) {
            const TransverseCurve& c = half_outline[i];
            out.push_back(point_at(c, c.from + (c.to - c.from) * k / 8));
        }
    return out;
}

std::size_t flank_of(const ResolvedGear& g) {
    std::size_t i = 0;
    while (g.half_outline[i].shape != CurveShape::involute)
        ++i;
    return i;
}
std::size_t flank_of(const ResolvedRack& r) { // the first line that rises
    std::size_t i = 0;
    while (r.half_outline[i].shape != CurveShape::line || r.half_outline[i].x1 <= r.half_outline[i].x0 + 1e-9)
        ++i;
    return i;
}

// The largest overlap while a tip passes through the root: `turn` of the host from −`reach` to `reach` about
// the place where it stands deepest, `at` that turn. `into_host` gives the tip in the host's frame, whose
// space has its middle at angle 0.
template<class Path>
double worst_overlap(const ResolvedGear& host, double at, double reach, const Path& into_host) {
    constexpr int steps = 200;
    double worst = -1e300;
    for (int k = -steps; k <= steps; ++k) {
        const TransversePoint p = into_host(at + reach * k / steps);
        const double r = p.radius();
        if (r >= host.root_radius) worst = std::max(worst, (p.angle() - space_half_angle_at(host, r)) * r);
    }
    return worst;
}

TransversePoint turned(double x, double y, double by) {
    return {x * std::cos(by) - y * std::sin(by), x * std::sin(by) + y * std::cos(by)};
}

} // namespace

double tip_overlap(const ResolvedGear& host, const ResolvedGear& guest, const GearMesh& m, Host which) {
    const double guest_radius = which == Host::first ? m.second_radius : m.first_radius;
    const double ratio = static_cast<double>(host.spec.teeth) / guest.spec.teeth; // guest turns per host turn
    const double closer = std::max(0.0, m.backlash) / 2 / guest_radius;           // until the flanks touch
    double worst = -1e300;
    for (const TransversePoint& p : tip_points(guest.half_outline, flank_of(guest))) {
        const double r = p.radius(),
                     angle = guest.pitch_angle() / 2 - p.angle() + closer; // from the tooth's middle
        // within the form circle while it stands nearer to the line of centres than this
        const double nearest =
            (r * r + m.centre * m.centre - host.form_radius * host.form_radius) / (2 * r * m.centre);
        if (nearest >= 1) continue; // it doesn't reach so far
        const double reach = std::acos(std::max(nearest, 0.0)) / ratio;
        worst = std::max(worst, worst_overlap(host, -angle / ratio, reach, [&](double turn) {
                             const double a = angle + ratio * turn;
                             // a ring turns the same way, its axis lies behind the pinion's; a gear the other
                             // way, seen from its far side
                             const double x = guest.spec.internal ? r * std::cos(a) - m.centre
                                                                  : m.centre - r * std::cos(a);
                             return turned(x, r * std::sin(a), -turn);
                         }));
    }
    return worst;
}

double tip_overlap(const ResolvedGear& host, const ResolvedRack& rack, const GearMesh& m) {
    const double cos_helix = std::cos(in_rad(rack.spec.helix_angle)), closer = std::max(0.0, m.backlash) / 2;
    double worst = -1e300;
    for (const TransversePoint& p : tip_points(rack.half_outline, flank_of(rack))) {
        const double beside = rack.pitch() / 2 - p.y / cos_helix + closer, x = m.centre - p.x;
        if (x >= host.form_radius) continue;
        const double reach = std::sqrt(host.form_radius * host.form_radius - x * x) / m.first_radius;
        worst = std::max(worst, worst_overlap(host, -beside / m.first_radius, reach, [&](double turn) {
                             return turned(x, beside + m.rack_travel(turn), -turn);
                         }));
    }
    return worst;
}

} // namespace whorl
