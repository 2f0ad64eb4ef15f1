#include "exchange/gear_fit.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace whorl {
namespace {

template<std::size_t N>
using Row = std::array<double, N>;

// Least squares of rows·v = value by the normal equations; those of no weight of their own keep v = 0.
template<std::size_t N>
class Fit {
public:
    void add(const Row<N>& row, double value) {
        for (std::size_t i = 0; i < N; ++i) {
            right_[i] += row[i] * value;
            for (std::size_t k = 0; k < N; ++k)
                normal_[i][k] += row[i] * row[k];
        }
    }
    Row<N> solved() {
        Row<N> v{};
        double largest = 0;
        for (std::size_t i = 0; i < N; ++i)
            largest = std::max(largest, normal_[i][i]);
        std::array<bool, N> taken{};
        for (std::size_t step = 0; step < N; ++step) { // Gauss and Jordan, the diagonal's largest first
            std::size_t at = N;
            for (std::size_t i = 0; i < N; ++i)
                if (!taken[i] && normal_[i][i] > 1e-12 * largest &&
                    (at == N || normal_[i][i] > normal_[at][at]))
                    at = i;
            if (at == N) break;
            taken[at] = true;
            for (std::size_t i = 0; i < N; ++i) {
                if (i == at) continue;
                const double factor = normal_[i][at] / normal_[at][at];
                for (std::size_t k = 0; k < N; ++k)
                    normal_[i][k] -= factor * normal_[at][k];
                right_[i] -= factor * right_[at];
            }
        }
        for (std::size_t i = 0; i < N; ++i)
            if (taken[i]) v[i] = right_[i] / normal_[i][i];
        return v;
    }

private:
    std::array<Row<N>, N> normal_{};
    Row<N> right_{};
};

double median(std::vector<double> v) {
    const auto middle = v.begin() + static_cast<long>(v.size() / 2);
    std::nth_element(v.begin(), middle, v.end());
    return *middle;
}

// The points near the middle of the teeth, as they lie about an axis.
struct FlankPoint {
    double radius, angle, half; // half the space's angle there
};
std::vector<FlankPoint> flanks_about(const ResolvedGear& g, const std::vector<OutlineSample>& outline,
                                     double x, double y) {
    const double depth = std::abs(g.tip_radius - g.root_radius), middle = (g.tip_radius + g.root_radius) / 2;
    std::vector<FlankPoint> out;
    const std::size_t step = std::max<std::size_t>(1, outline.size() / 20000); // more tell no more
    for (std::size_t i = 0; i < outline.size(); i += step) {
        const OutlineSample& s = outline[i];
        const double r = std::hypot(s.x - x, s.y - y);
        if (std::abs(r - middle) < 0.3 * depth)
            out.push_back({r, std::atan2(s.y - y, s.x - x), space_half_angle_at(g, r)});
    }
    return out;
}

// Tried all over a pitch, then closed in on. What is far off counts no more than a quarter of a pitch.
double phase_of(const ResolvedGear& g, const std::vector<FlankPoint>& flanks) {
    const double pitch = g.pitch_angle();
    const auto misfit = [&](double turned, std::size_t every) {
        double sum = 0;
        for (std::size_t i = 0; i < flanks.size(); i += every) {
            const FlankPoint& f = flanks[i];
            const double d = (std::abs(std::remainder(f.angle - turned, pitch)) - f.half) * f.radius;
            sum += d * d;
        }
        return sum;
    };
    const std::size_t every = std::max<std::size_t>(1, flanks.size() / 400);
    double best = 0, least = 1e300;
    for (int i = 0; i < 240; ++i)
        if (const double m = misfit(pitch * i / 240, every); m < least) least = m, best = pitch * i / 240;
    return golden_minimum(best - pitch / 120, best + pitch / 120, 50, [&](double t) { return misfit(t, 1); });
}

} // namespace

OutlinePoint middle_of_tips(const std::vector<OutlineSample>& outline, int sectors, double x, double y) {
    for (int pass = 0; pass < 12; ++pass) {
        std::vector<OutlineSample> farthest(static_cast<std::size_t>(sectors), {0, 0, -1});
        for (const OutlineSample& s : outline) {
            const double turn = std::atan2(s.y - y, s.x - x) / full_turn + 0.5,
                         r = std::hypot(s.x - x, s.y - y);
            auto& f = farthest[std::min(static_cast<std::size_t>(turn * sectors), farthest.size() - 1)];
            if (r > f.weight) f = {s.x, s.y, r};
        }
        std::erase_if(farthest, [](const OutlineSample& s) { return s.weight <= 0; });
        if (farthest.size() < 5) break;
        std::vector<double> radii, off;
        for (const OutlineSample& s : farthest)
            radii.push_back(s.weight);
        const double usual = median(radii);
        for (double& r : radii)
            off.push_back(std::abs(r - usual));
        const double most = std::max(4 * median(off), 1e-6 * usual);
        Fit<3> fit;
        for (const OutlineSample& s : farthest)
            if (std::abs(s.weight - usual) <= most)
                fit.add({(s.x - x) / s.weight, (s.y - y) / s.weight, 1}, s.weight - usual);
        const auto moved = fit.solved();
        x += moved[0], y += moved[1];
        if (std::hypot(moved[0], moved[1]) < 1e-9 * usual) break;
    }
    return {x, y, 0};
}

GearPose pose_of(const ResolvedGear& g, const std::vector<OutlineSample>& outline, double x, double y,
                 bool free_axis) {
    const double pitch = g.pitch_angle(), small = 1e-4 * std::abs(g.tip_radius - g.root_radius);
    GearPose out;
    out.x = x, out.y = y;
    std::vector<FlankPoint> flanks = flanks_about(g, outline, x, y);
    if (flanks.size() < 16) return out;
    out.found = true;
    out.turned = phase_of(g, flanks);
    double common = 0;
    for (int pass = 0; pass < 20; ++pass) {
        std::vector<double> beside, spread;
        for (const FlankPoint& f : flanks)
            beside.push_back((std::abs(std::remainder(f.angle - out.turned, pitch)) - f.half) * f.radius);
        common = median(beside);
        for (const double e : beside)
            spread.push_back(std::abs(e - common));
        out.spread = median(spread);
        const double most = std::max(3 * 1.4826 * out.spread, small);
        Fit<4> fit;
        out.used.assign(static_cast<std::size_t>(g.spec.teeth), 0);
        for (std::size_t i = 0; i < flanks.size(); ++i) {
            if (std::abs(beside[i] - common) > most) continue;
            const FlankPoint& f = flanks[i];
            const double folded = std::remainder(f.angle - out.turned, pitch), side = folded < 0 ? -1 : 1;
            const double co = std::cos(f.angle), si = std::sin(f.angle), h = 1e-4 * f.radius;
            const double widens =
                (space_half_angle_at(g, f.radius + h) - space_half_angle_at(g, f.radius - h)) / (2 * h);
            fit.add({free_axis ? side * si + f.radius * widens * co : 0,
                     free_axis ? -side * co + f.radius * widens * si : 0, -side * f.radius, 1},
                    -beside[i]);
            // the tooth on whose side of its space it is
            const double space = std::round((f.angle - out.turned - folded) / pitch);
            const int tooth = static_cast<int>(space) + (side > 0 ? 1 : 0);
            ++out.used[static_cast<std::size_t>(((tooth % g.spec.teeth) + g.spec.teeth) % g.spec.teeth)];
        }
        const auto moved = fit.solved();
        out.x += moved[0], out.y += moved[1], out.turned += moved[2];
        if (std::hypot(moved[0], moved[1]) + std::abs(moved[2]) * g.tip_radius < 1e-10) break;
        if (free_axis) flanks = flanks_about(g, outline, out.x, out.y);
        if (flanks.size() < 16) break;
    }
    return out;
}

} // namespace whorl
