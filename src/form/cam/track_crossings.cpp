#include "form/cam/track_walls.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr double step = pi / 90;    // of the search
constexpr double least_land = 0.05; // mm, between two turns

class Search {
public:
    explicit Search(const ResolvedDrum& d) : d_(d), way_(d.spec.clockwise ? 1 : -1) {}

    Crossings all() {
        const int n = d_.turns();
        for (int k = 1; 2 * k <= n; ++k) // every pair of ways once
            look_at(k, 2 * k == n ? d_.motion.whole / 2 : d_.motion.whole);
        std::sort(out_.places.begin(), out_.places.end(),
                  [](const TrackCrossing& a, const TrackCrossing& b) { return a.first < b.first; });
        for (const TrackCrossing& c : out_.places)
            if (out_.trouble == DrumTrouble::none && std::min(c.angle, pi - c.angle) < least_crossing)
                flat(c.first);
        return std::move(out_);
    }

private:
    struct Place {
        double z = 0, slope = 0; // mm, mm per rad of the timing
    };
    Place at(double theta) const {
        theta = d_.motion.wrapped(theta);
        const TrackPath p = path_at(d_, d_.motion.part_at(theta), way_ * theta);
        return {p.z.c[0], way_ * p.dz.c[0]};
    }
    double apart(double theta, int k) const { return at(theta + k * full_turn).z - at(theta).z; }

    void flat(double theta) {
        if (out_.trouble != DrumTrouble::none) return;
        out_.trouble = DrumTrouble::crossing_flat;
        out_.trouble_at = theta;
    }

    // Over the angles from 0 to `end`: where the track, k turns on, crosses itself or comes near.
    void look_at(int k, double end) {
        const auto n = static_cast<std::size_t>(std::ceil(end / step));
        const double h = end / static_cast<double>(n);
        std::vector<double> f; // from one step before 0
        for (std::size_t i = 0; i < n + 3; ++i)
            f.push_back(apart((static_cast<double>(i) - 1) * h, k));
        for (std::size_t i = 0; i < n; ++i) {
            const double before = f[i], here = f[i + 1], after = f[i + 2], at = static_cast<double>(i) * h;
            if ((here < 0) != (after < 0)) {
                add(k, root(k, at, at + h));
            } else if (std::abs(here) <= std::abs(before) && std::abs(here) <= std::abs(after) &&
                       (before < 0) == (here < 0)) {
                nearest(k, at - h, at + h);
            }
        }
    }

    double root(int k, double a, double b) const {
        const bool below = apart(a, k) < 0;
        return halved(a, b, [&](double at) { return (apart(at, k) < 0) == below; }).middle();
    }

    void add(int k, double theta) {
        const double other = d_.motion.wrapped(theta + k * full_turn);
        theta = d_.motion.wrapped(theta);
        const Place p = at(theta), q = at(other);
        TrackCrossing c;
        c.first = std::min(theta, other);
        c.second = std::max(theta, other);
        c.z = p.z;
        c.angle = std::abs(std::atan2(p.slope, d_.radius) - std::atan2(q.slope, d_.radius));
        out_.places.push_back(c);
    }

    // Two ways that come near without crossing keep a wall between them, on the smaller level too.
    void nearest(int k, double a, double b) {
        const double theta = lowest_between(a, b, 1e-7, [&](double at) { return std::abs(apart(at, k)); }),
                     r = std::min(d_.radius, d_.other_radius);
        const double need = 2 * d_.half_width * std::hypot(r, at(theta).slope) / r + least_land;
        if (std::abs(apart(theta, k)) < need) flat(d_.motion.wrapped(theta));
    }

    const ResolvedDrum& d_;
    double way_;
    Crossings out_;
};

} // namespace

Crossings crossings_of(const ResolvedDrum& d) {
    return Search(d).all();
}

} // namespace whorl
