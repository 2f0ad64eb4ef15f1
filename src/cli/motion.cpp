// whorl motion: a cam's timing as a table of lift, velocity, acceleration and jerk.
#include "cli/commands.hpp"
#include "cli/print.hpp"

#include "exchange/cam_outline.hpp"
#include "quantity/expression.hpp"

#include <CLI/CLI.hpp>
#include <numbers>
#include <ostream>
#include <sstream>

namespace whorl {
namespace {

struct Options {
    std::string text;
    double step = 10, rpm = 0;
    bool as_csv = false;
};

std::string degrees(double angle) {
    return number_text(angle * 180 / std::numbers::pi, 3) + "°";
}

// What a table does not show: whether it closes, and where it jumps.
void print_joints(const Motion& m, std::ostream& out) {
    const double left = m.angle_left();
    if (std::abs(left) > 1e-9)
        out << (left > 0 ? degrees(left) + " of the turn are not said\n"
                         : degrees(-left) + " more than a turn\n");
    if (std::abs(m.closure_gap()) > 1e-9)
        out << "ends " << number_text(m.closure_gap(), 6) << " mm from where it began\n";
    for (const CamJump& j : m.jumps)
        if (std::abs(j.lift) > 1e-9)
            continue;
        else if (std::abs(j.velocity) > 1e-9)
            out << "at " << degrees(j.angle) << " the velocity jumps by " << number_text(j.velocity, 4)
                << " mm/rad\n";
        else if (std::abs(j.acceleration) > 1e-6)
            out << "at " << degrees(j.angle) << " the acceleration jumps by "
                << number_text(j.acceleration, 4) << " mm/rad²\n";
}

int motion(const Options& o, std::ostream& out) {
    const std::optional<ResolvedCam> cam =
        is_cam(o.text) ? std::optional(resolve_cam(parse_cam(o.text).spec)) : std::nullopt;
    // with corners rounded, which is the same on a drum of any length
    const Motion m = cam               ? cam->motion
                     : is_drum(o.text) ? resolve_drum(parse_drum(o.text).spec, mm(1000)).motion
                                       : motion_of(parse_timing(o.text));
    const std::string csv = cam ? motion_csv(*cam, o.step, o.rpm) : motion_csv(m, o.step, o.rpm);
    if (o.as_csv) {
        out << csv;
        return done;
    }
    const bool timed = o.rpm > 0;
    std::vector<const char*> heads{"angle °", "lift mm", timed ? "mm/s" : "mm/rad",
                                   timed ? "mm/s²" : "mm/rad²", timed ? "mm/s³" : "mm/rad³"};
    if (cam && cam->loads) heads.insert(heads.end(), {"contact N", "torque N·mm"});
    for (const char* head : heads)
        out << column(head, 14);
    out << "\n";
    std::istringstream lines(csv);
    std::string line;
    std::getline(lines, line); // its own head
    while (std::getline(lines, line)) {
        std::istringstream cells(line);
        for (std::string cell; std::getline(cells, cell, ',');)
            out << column(number_text(std::stod(cell), 4), 14);
        out << "\n";
    }
    print_joints(m, out);
    return done;
}

} // namespace

void add_motion(Commands& commands) {
    add_command<Options>(
        commands, "motion", "What a cam's timing does: lift, velocity, acceleration and jerk over the angle",
        [](CLI::App& c, Options& o) {
            c.add_option("timing", o.text,
                         "for example \"rise 10 in 120 cycloidal, dwell 60, return in 120, dwell\"")
                ->required();
            c.add_option("--step", o.step, "degrees from line to line")->check(between(0.01, 90));
            c.add_option("--rpm", o.rpm, "per second at this speed, instead of per radian")
                ->check(between(0.001, 100000));
            c.add_flag(
                "--csv", o.as_csv,
                "as a CSV table: angle, lift, velocity, acceleration, jerk, each with its unit in the head, "
                "lengths in mm throughout; of a cam with mass, spring or preload contact force and torque, "
                "too");
        },
        [](const Options& o, Commands& to) { return motion(o, to.out); }, &Options::text);
}

} // namespace whorl
