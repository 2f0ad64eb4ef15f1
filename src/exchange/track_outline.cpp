#include "exchange/track_outline.hpp"

#include "form/cam/track_walls.hpp"
#include "quantity/input_error.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
std::vector<ArcPoint> track_edge(const ResolvedDrum& d, double side, double tolerance) {
    ResolvedDrum uncrossed = d; // each wall all along, as a cutter goes
    uncrossed.crossings.clear();
    std::vector<ArcPoint> out;
    // from where the timing begins, or ends
    const double first = d.spec.at - (d.spec.clockwise ? 0 : d.motion.whole);
    for (const TrackPiece& p : walls_of(uncrossed).pieces) {
        if (p.side != (side < 0 ? 0 : 1)) continue;
        add_arcs(
            out,
            [&](double t) {
                const WallJet j = p.wall.along(t, d.radius);
                return TransverseJet{d.radius * (j.theta - constant(first)), j.z};
            },
            p.wall.from(), p.wall.to(), 0.9 * tolerance);
    }
    // the end of the developed surface is its beginning, π·d on
    out.push_back({out.front().x + d.motion.whole * d.radius, out.front().y, 0});
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
           number_text(d.motion.whole * d.radius, 6) + " mm around, within " + number_text(tolerance, 6) +
           " mm";
}
} // namespace

std::string track_dxf(const ResolvedDrum& d, double tolerance) {
    return arcs_dxf(outline(d, tolerance), true, note(d, tolerance));
}

std::string track_svg(const ResolvedDrum& d, double tolerance) {
    return arcs_svg(outline(d, tolerance), true, note(d, tolerance),
                    {-2, -2, d.motion.whole * d.radius + 4, d.length + 4}, 0.004 * d.radius);
}

std::string track_points_csv(const ResolvedDrum& d, double step) {
    if (!(step >= 0.01 && step <= 90))
        throw InputError("A step is between 0.01 and 90 degrees, for example --step 5.");
    std::string out = "angle,lift,around,along,near_around,near_along,far_around,far_along\n";
    const double way = d.spec.clockwise ? 1 : -1;
    const int n = static_cast<int>(std::ceil(d.motion.whole * 180 / std::numbers::pi / step - 1e-9));
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
