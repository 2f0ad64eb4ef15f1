// Timings from files: tables and drawn profiles, what is scaled and what is refused.
#include "exchange/timing_import.hpp"

#include "exchange/arc_outline.hpp"
#include "exchange/cam_outline.hpp"
#include "quantity/input_error.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <numbers>
#include <unistd.h>

using namespace whorl;
namespace fs = std::filesystem;

namespace {

constexpr double pi = std::numbers::pi;

fs::path written(const std::string& name, const std::string& text) {
    static const fs::path folder = [] {
        const fs::path f = fs::temp_directory_path() / ("whorl-timing-" + std::to_string(::getpid()));
        fs::create_directories(f);
        return f;
    }();
    std::ofstream(folder / name) << text;
    return folder / name;
}
std::string why(const fs::path& path, std::optional<double> around = {},
                OtherLength other = OtherLength::refuse) {
    try {
        (void)import_timing(path, around, other);
    } catch (const InputError& e) {
        return e.what();
    }
    return "taken";
}

} // namespace

TEST_CASE("a flat polygon becomes a timing of constant velocities, scaled where that is asked") {
    const double around = 72 * pi;
    const fs::path file = written("polygon.csv", "around,lift\n0,0\n60,0\n120,20\n180,20\n230,0\n");
    CHECK_THAT(why(file, around), Catch::Contains("230 long") && Catch::Contains("226.195 mm") &&
                                      Catch::Contains("3.805 too long"));
    const ImportedTiming t = import_timing(file, around, OtherLength::scale);
    CHECK(t.polygon);
    CHECK(t.scaled);
    CHECK(t.points == 5);
    CHECK(t.gap == 0);
    REQUIRE(t.timing.stretches.size() == 4);
    const Motion m = motion_of(t.timing);
    CHECK(std::abs(m.angle_left()) < 1e-12);
    CHECK(m.closure_gap() == Approx(0).margin(1e-12));
    CHECK(m.at(2 * pi * 90 / 230)[0] == Approx(10));
    CHECK_THAT(import_words(t, around),
               Catch::Contains("scaled to 226.195 mm") && Catch::Contains("closure gap 0 mm"));
    // and survives being written: angles of six places still make a turn
    const Motion again = motion_of(parse_timing(write_timing(t.timing)));
    CHECK(std::abs(again.angle_left()) < 1e-12);
    CHECK(again.closure_gap() == Approx(0).margin(1e-12));
    // as long as a turn it is taken as it is, in degrees or along the drum
    CHECK_FALSE(
        import_timing(written("degrees.csv", "0 0\n90 5\n180 5\n360 0\n"), around, OtherLength::refuse)
            .scaled);
    CHECK_FALSE(import_timing(written("along.csv", "0;0\n100;5\n" + std::to_string(around) + ";0\n"), around,
                              OtherLength::refuse)
                    .scaled);
}

TEST_CASE("a table of many points becomes a spline through them: a motion's own table gives it back") {
    const Motion m =
        motion_of(parse_timing("rise 10 in 120 cycloidal, dwell 60, return in 120 3-4-5, dwell"));
    const ImportedTiming t = import_timing(written("motion.csv", motion_csv(m, 3)), {}, OtherLength::refuse);
    CHECK_FALSE(t.polygon);
    CHECK_FALSE(t.scaled);
    CHECK(t.points == 121);
    const Motion s = motion_of(t.timing);
    double off = 0;
    for (int k = 0; k < 720; ++k)
        off = std::max(off, std::abs(s.at(k * pi / 360)[0] - m.at(k * pi / 360)[0]));
    CHECK(off < 1e-4);
}

TEST_CASE("a profile drawn with lines and arcs is read from DXF and SVG") {
    // up an arc, level, down a line; the arc's middle lies on the motion
    const double bulge = std::tan(pi / 8 / 1); // a quarter of a circle
    const std::vector<ArcPoint> outline{{0, 0, 0}, {100, 0, -bulge}, {120, 20, 0}, {250, 20, 0}, {360, 0, 0}};
    for (const char* ending : {"dxf", "svg"}) {
        INFO(ending);
        const fs::path file = written(std::string("profile.") + ending,
                                      ending == std::string("dxf")
                                          ? arcs_dxf(outline, false, "profile")
                                          : arcs_svg(outline, false, "profile", {0, -5, 360, 40}, 0.2));
        const ImportedTiming t = import_timing(file, {}, OtherLength::refuse);
        CHECK_FALSE(t.polygon);
        const Motion m = motion_of(t.timing);
        CHECK(m.at(0)[0] == Approx(0).margin(1e-9));
        CHECK(m.at(250 * pi / 180)[0] == Approx(20).epsilon(1e-4));
        // the quarter circle about (120, 0) of radius 20, half way round
        CHECK(m.at((120 - 20 * std::cos(pi / 4)) * pi / 180)[0] ==
              Approx(20 * std::sin(pi / 4)).epsilon(1e-3));
    }
}

TEST_CASE("a profile drawn from right to left is the same profile, its arcs too") {
    const double bulge = -std::tan(pi / 8);
    const std::vector<ArcPoint> there{{0, 0, 0}, {100, 0, bulge}, {120, 20, 0}, {250, 20, 0}, {360, 0, 0}},
        back{{360, 0, 0}, {250, 20, 0}, {120, 20, -bulge}, {100, 0, 0}, {0, 0, 0}};
    const Timing
        a = import_timing(written("there.dxf", arcs_dxf(there, false, "p")), {}, OtherLength::refuse).timing,
        b = import_timing(written("back_again.dxf", arcs_dxf(back, false, "p")), {}, OtherLength::refuse)
                .timing;
    const Motion m = motion_of(a), n = motion_of(b);
    for (int k = 0; k < 360; ++k)
        CHECK(m.at(k * pi / 180)[0] == Approx(n.at(k * pi / 180)[0]).margin(1e-6));
}

TEST_CASE("a profile that is none says why") {
    CHECK_THAT(why(written("open.csv", "0,0\n100,5\n360,0.35\n")),
               Catch::Contains("ends 0.35 mm above where it began"));
    CHECK_THAT(why(written("back.csv", "0,0\n100,5\n90,6\n360,0\n")),
               Catch::Contains("goes back on itself at 100"));
    CHECK_THAT(why(written("two.csv", "0,0\n360,0\n")), Catch::Contains("three points"));
    CHECK_THAT(why(written("words.csv", "0,0\nten,5\n360,0\n")), Catch::Contains("Line 2"));
    CHECK_THAT(why(written("timing.step", "ISO-10303-21;")), Catch::Contains(".csv, .dxf or .svg"));
    CHECK_THAT(why(written("long.csv", "0,0\n100,5\n361,0\n")), Catch::Contains("1 too long"));
}

TEST_CASE("an SVG profile drawn from right to left is the same profile, its arcs too") {
    // a path goes the way it is written; DXF lines are put in order when they are read
    const std::string
        there =
            R"(<svg xmlns="http://www.w3.org/2000/svg"><path d="M 0 0 L 100 0 A 20 20 0 0 1 120 -20 L 250 -20 L 360 0"/></svg>)",
        back =
            R"(<svg xmlns="http://www.w3.org/2000/svg"><path d="M 360 0 L 250 -20 L 120 -20 A 20 20 0 0 0 100 0 L 0 0"/></svg>)";
    const Motion m = motion_of(import_timing(written("there.svg", there), {}, OtherLength::refuse).timing),
                 n = motion_of(import_timing(written("back.svg", back), {}, OtherLength::refuse).timing);
    // the quarter circle about (120, 0), half way round: the arc bulges upwards, to the left
    CHECK(m.at((120 - 20 * std::cos(pi / 4)) * pi / 180)[0] == Approx(20 * std::sin(pi / 4)).epsilon(1e-3));
    for (int k = 0; k < 360; ++k)
        CHECK(m.at(k * pi / 180)[0] == Approx(n.at(k * pi / 180)[0]).margin(1e-6));
}
