#include "exchange/cam_outline.hpp"

#include "form/cam/contact_force.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <cmath>

namespace whorl {
namespace {

ArcPoint turned(const ArcPoint& p, double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {p.x * c - p.y * s, p.x * s + p.y * c, p.bulge};
}

int steps_in(double step, double turn) {
    if (!(step >= 0.01 && step <= 90))
        throw InputError("A step is between 0.01 and 90 degrees, for example --step 5.");
    return static_cast<int>(std::ceil(turn * 180 / pi / step - 1e-9));
}

std::string row(const std::vector<double>& values) {
    std::string out;
    for (const double v : values)
        out += (out.empty() ? "" : ",") + number_text(std::abs(v) < 5e-10 ? 0 : v, 9);
    return out + "\n";
}

} // namespace

namespace {
std::vector<ArcPoint> outline_of(const std::vector<LobeCurve>& curves, double tolerance) {
    std::vector<ArcPoint> out;
    for (const LobeCurve& l : curves) {
        const TransverseCurve& c = l.curve;
        std::vector<ArcPoint> part;
        if (c.shape == CurveShape::circle || c.shape == CurveShape::arc) {
            const TransversePoint p = point_at(c, c.from);
            part.push_back({p.x, p.y, std::tan(c.sense * (c.to - c.from) / 4)});
        } else if (c.shape == CurveShape::line) {
            part.push_back({c.x0, c.y0, 0});
        } else {
            add_arcs(
                part, [&](double t) { return jet_at(c, t); }, c.from, c.to, 0.9 * tolerance);
        }
        for (const ArcPoint& p : part)
            out.push_back(turned(p, l.turned));
    }
    return out;
}

// The profile; of a groove both its walls.
std::vector<std::vector<ArcPoint>> all_outlines(const ResolvedCam& cam, double tolerance) {
    std::vector<std::vector<ArcPoint>> out{outline_of(cam.outline, tolerance)};
    if (!cam.outer_wall.empty()) out.push_back(outline_of(cam.outer_wall, tolerance));
    return out;
}
} // namespace

std::vector<ArcPoint> cam_outline(const ResolvedCam& cam, double tolerance) {
    return outline_of(cam.outline, tolerance);
}

std::string cam_dxf(const ResolvedCam& cam, double tolerance) {
    std::vector<double> circles{in_mm(cam.spec.base_radius)};
    if (roller_radius(cam.spec) > 0) circles.push_back(cam.prime_radius);
    if (cam.spec.disc) circles.push_back(in_mm(*cam.spec.disc) / 2);
    return arcs_dxf(all_outlines(cam, tolerance), true,
                    write_cam(cam.spec) + ", profile in mm, within " + number_text(tolerance, 6) + " mm",
                    circles);
}

std::string cam_svg(const ResolvedCam& cam, double tolerance) {
    const double reach = std::max(cam.largest_radius, cam.outer_reach) * 1.05;
    return arcs_svg(all_outlines(cam, tolerance), true,
                    write_cam(cam.spec) + ", profile within " + number_text(tolerance, 6) + " mm",
                    {-reach, -reach, 2 * reach, 2 * reach}, 0.01 * reach);
}

std::string cam_points_csv(const ResolvedCam& cam, double step, double cutter_radius) {
    const CamSpec& s = cam.spec;
    const double rho = cutter_radius > 0 ? cutter_radius : roller_radius(s);
    std::string out = "angle,lift,radius,polar_angle,x,y,cutter_x,cutter_y\n";
    const int n = steps_in(step, 2 * pi);
    for (int k = 0; k < n; ++k) {
        const double theta = std::min(k * step, 360.0) * pi / 180;
        const std::size_t part = cam.motion.part_at(theta);
        const FollowerPlace f = follower_at(s, cam.motion, theta, part);
        // back into the cam, turned to where the lobe stands on its shaft
        const double back = (s.clockwise ? theta : -theta) + s.at, co = std::cos(back), si = std::sin(back);
        const double x = f.touches.x * co - f.touches.y * si, y = f.touches.x * si + f.touches.y * co;
        const double cx = f.touches.x + rho * f.normal.x, cy = f.touches.y + rho * f.normal.y;
        double polar = std::atan2(y, x) * 180 / pi;
        if (polar < 0) polar += 360;
        out += row({theta * 180 / pi, cam.motion.at(theta, part)[0], std::hypot(x, y), polar, x, y,
                    cx * co - cy * si, cx * si + cy * co});
    }
    return out;
}

namespace {
// The table, with what `more` adds to the head and to each line.
template<class More>
std::string motion_table(const Motion& m, double step, double rpm, const char* heads, const More& more) {
    const int n = steps_in(step, m.turn);
    const double omega = rpm > 0 ? rpm * 2 * pi / 60 : 1;
    std::string out =
        std::string(rpm > 0
                        ? "angle_deg,lift_mm,velocity_mm_per_s,acceleration_mm_per_s2,jerk_mm_per_s3"
                        : "angle_deg,lift_mm,velocity_mm_per_rad,acceleration_mm_per_rad2,jerk_mm_per_rad3") +
        heads + "\n";
    for (int k = 0; k <= n; ++k) {
        const double theta = std::min(k * step * pi / 180, m.turn);
        // the end of the turn by the last part's own formula
        const std::size_t part = k == n ? m.parts.size() - 1 : m.part_at(theta);
        const Derivatives d = m.at(theta, part);
        std::vector<double> cells{theta * 180 / pi, d[0], d[1] * omega, d[2] * omega * omega,
                                  d[3] * omega * omega * omega};
        more(theta, part, cells);
        out += row(cells);
    }
    return out;
}
} // namespace

std::string motion_csv(const Motion& m, double step, double rpm) {
    return motion_table(m, step, rpm, "", [](double, std::size_t, std::vector<double>&) {});
}

std::string motion_csv(const ResolvedCam& cam, double step, double rpm) {
    if (!cam.loads) return motion_csv(cam.motion, step, rpm);
    const double speed = rpm > 0 ? rpm : cam.spec.rpm;
    return motion_table(cam.motion, step, rpm, ",contact_force_N,torque_N_mm",
                        [&](double theta, std::size_t part, std::vector<double>& cells) {
                            const Derivatives d = cam.motion.at(theta, part);
                            cells.push_back(contact_force(cam, theta, part, speed));
                            cells.push_back(shaft_torque(cam.spec.load, d, speed));
                        });
}

} // namespace whorl
