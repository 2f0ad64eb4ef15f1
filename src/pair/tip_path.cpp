#include "pair/tip_path.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>

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

// `into_host` gives the tip point in the host's frame, whose space has its middle at angle 0, when the host
// has turned so far.
double worst_overlap(const ResolvedGear& host, std::size_t points,
                     const std::function<TransversePoint(std::size_t, double)>& into_host) {
    constexpr int steps = 1000;
    const double pitch = host.pitch_angle();
    double worst = -1e300;
    for (std::size_t i = 0; i < points; ++i)
        for (int k = -2 * steps; k <= 2 * steps; ++k) {
            const TransversePoint p = into_host(i, pitch * k / steps);
            const double r = p.radius();
            if (r < host.root_radius || r > host.form_radius) continue;
            worst = std::max(worst, (p.angle() - space_half_angle_at(host, r)) * r);
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
    struct Tip {
        double radius, angle; // from the tooth's middle
    };
    std::vector<Tip> tips;
    for (const TransversePoint& p : tip_points(guest.half_outline, flank_of(guest)))
        tips.push_back({p.radius(), guest.pitch_angle() / 2 - p.angle() + closer});
    return worst_overlap(host, tips.size(), [&](std::size_t i, double turn) {
        const auto& [r, angle] = tips[i];
        if (guest.spec.internal) { // both turn the same way, the ring's axis lies behind the pinion's
            const double a = angle + ratio * turn;
            return turned(r * std::cos(a) - m.centre, r * std::sin(a), -turn);
        }
        const double a =
            angle + ratio * turn; // the guest's turn is the other way, but seen from its far side
        return turned(m.centre - r * std::cos(a), r * std::sin(a), -turn);
    });
}

double tip_overlap(const ResolvedGear& host, const ResolvedRack& rack, const GearMesh& m) {
    const double cos_helix = std::cos(in_rad(rack.spec.helix_angle)), closer = std::max(0.0, m.backlash) / 2;
    const auto tips = tip_points(rack.half_outline, flank_of(rack));
    return worst_overlap(host, tips.size(), [&](std::size_t i, double turn) {
        const double beside = rack.pitch() / 2 - tips[i].y / cos_helix + closer;
        return turned(m.centre - tips[i].x, beside + m.rack_travel(turn), -turn);
    });
}

} // namespace whorl
