#include "exchange/track_outline.hpp"

#include "quantity/input_error.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {
constexpr double full_turn = 2 * std::numbers::pi;
}

std::vector<ArcPoint> track_edge(const ResolvedDrum& d, double side, double tolerance) {
    std::vector<ArcPoint> out;
    double first = 0;
    for (const WallStretch& s : wall_stretches(d)) {
        const DrumWall wall(d, s.part, side, s.from, s.to);
        if (out.empty()) first = wall.along(s.from, d.radius).theta.c[0];
        add_arcs(
            out,
            [&](double t) {
                const WallJet j = wall.along(t, d.radius);
                return TransverseJet{d.radius * (j.theta - constant(first)), j.z};
            },
            s.from, s.to, 0.9 * tolerance);
    }
    // the end of the developed surface is its beginning, π·d on
    out.push_back({full_turn * d.radius, out.front().y, 0});
    return out;
}

namespace {
std::vector<ArcPoint> outline(const ResolvedDrum& d, double tolerance) {
    std::vector<ArcPoint> out = track_edge(d, -1, tolerance);
    out.back().bulge = 0;
    const std::vector<ArcPoint> far = run_backwards(track_edge(d, 1, tolerance));
    out.insert(out.end(), far.begin(), far.end());
    out.back().bulge = 0;
    return out;
}
std::string note(const ResolvedDrum& d, double tolerance) {
    return write_drum(d.spec, mm(d.length)) + ", track developed at the drum's diameter, " +
           number_text(full_turn * d.radius, 6) + " mm around, within " + number_text(tolerance, 6) + " mm";
}
} // namespace

std::string track_dxf(const ResolvedDrum& d, double tolerance) {
    return arcs_dxf(outline(d, tolerance), true, note(d, tolerance));
}

std::string track_svg(const ResolvedDrum& d, double tolerance) {
    return arcs_svg(outline(d, tolerance), true, note(d, tolerance),
                    {-2, -2, full_turn * d.radius + 4, d.length + 4}, 0.004 * d.radius);
}

std::string track_points_csv(const ResolvedDrum& d, double step) {
    if (!(step >= 0.01 && step <= 90))
        throw InputError("A step is between 0.01 and 90 degrees, for example --step 5.");
    std::string out = "angle,lift,around,along,near_around,near_along,far_around,far_along\n";
    const double way = d.spec.clockwise ? 1 : -1;
    const int n = static_cast<int>(std::ceil(360 / step - 1e-9));
    for (int k = 0; k < n; ++k) {
        const double theta = k * step * std::numbers::pi / 180, t = way * theta;
        const std::size_t part = d.motion.part_at(theta);
        const double lift = d.motion.at(theta, part)[0];
        const TrackPlace middle = middle_at(d, theta, part);
        std::string row = number_text(k * step, 9) + "," + number_text(lift, 9) + "," +
                          number_text(d.radius * (middle.around + d.spec.at), 9) + "," +
                          number_text(middle.z, 9);
        for (const double side : {-1.0, 1.0}) {
            const WallJet w = DrumWall(d, part, side, t, t).along(t, d.radius);
            row += "," + number_text(d.radius * w.theta.c[0], 9) + "," + number_text(w.z.c[0], 9);
        }
        out += row + "\n";
    }
    return out;
}

} // namespace whorl
