// Fits of two threads: clearances against the tables' limits, and the mistakes people make.
#include "form/designation.hpp"
#include "pair/fit.hpp"
#include "pair/gauge.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

using namespace whorl;

namespace {

ThreadSpec spec(const std::string& designation) {
    return std::get<ThreadSpec>(parse_designation(designation).what);
}
Fit fit(const std::string& screw, const std::string& nut) {
    return fit_of(resolve_thread(spec(screw)), resolve_thread(spec(nut)));
}
bool says(const Fit& f, Mismatch what) {
    return std::any_of(f.mistakes.begin(), f.mistakes.end(), [&](const auto& m) { return m.what == what; });
}

} // namespace

TEST_CASE("an M6 screw and nut have the clearance of their limits") {
    const Fit f = fit("M6-6g", "M6-6H");
    CHECK(f.goes_together());
    const auto* c = find_value(f.values, "pitch_clearance");
    // 5.350 − 5.324 and 5.500 − 5.212
    CHECK(*c->min == Approx(0.026));
    CHECK(*c->max == Approx(0.288));
    CHECK(f.least_clearance > 0);
}

TEST_CASE("mistakes are named") {
    CHECK(says(fit("M10-6g", "M10x1-6H"), Mismatch::pitch));
    CHECK(says(fit("M10-6g", "M10-6H LH"), Mismatch::hand));
    CHECK(says(fit("M10-6g", "M12x1.5-6H"), Mismatch::diameter));
    CHECK(says(fit("M16xPh4P2-6g", "M16x2-6H"), Mismatch::starts));
    CHECK(says(fit("M10-6g", "M10-6g"), Mismatch::side));
    CHECK(says(fit("Tr20x4-7e", "SQ20x4 internal"), Mismatch::form));
    CHECK(says(fit("1/2-12 BSW", "1/2-12 UN-2B"), Mismatch::form));
    CHECK(says(fit("1/2-14 NPT", "1/2-14 NPSM internal"), Mismatch::taper));
    CHECK(fit("R1/2", "Rp1/2").goes_together()); // ISO 7-1 pairs a tapered screw with a parallel nut
    CHECK(fit("R1/2", "Rc1/2").goes_together());
    for (const auto& m : fit("M10-6g", "M10x1-6H LH").mistakes)
        CHECK(m.sentence.size() > 20);
}

TEST_CASE("at basic size every family's pair touches but does not overlap") {
    for (int k = 0; k < family_count; ++k) {
        const auto family = static_cast<ThreadFamily>(k);
        for (const auto& l : listed_threads(family)) {
            ThreadSpec s;
            s.family = family;
            s.tolerance_class = usual_class(family, Side::external);
            s.diameter = l.diameter;
            s.pitch = l.pitch;
            s.modelled_at = ModelledAt::basic;
            const ThreadSpec n = counterpart(s);
            CHECK(n.side == Side::internal);
            const Fit f = fit_of(resolve_thread(s), resolve_thread(n));
            INFO(write_designation(s));
            CHECK_FALSE(says(f, Mismatch::interference));
            CHECK(f.least_clearance >
                  -1e-3); // 1 µm: diameters are rounded to the micrometre by the standards
            // and at any size within the classes it turns freely
            ThreadSpec large = s, small = n;
            large.modelled_at = small.modelled_at = ModelledAt::maximum_material;
            CHECK_FALSE(says(fit_of(resolve_thread(large), resolve_thread(small)), Mismatch::interference));
        }
    }
}

TEST_CASE(
    "clearance anywhere agrees with the flank's: at the pitch line it is half the difference in diameter") {
    const auto screw = resolve_thread(spec("Tr40x7-7e")), nut = resolve_thread(spec("Tr40x7-7H"));
    // half way down a flank both sections are straight: find the screw's pitch line crossing
    double low = 0, high = screw.section.pitch / 2;
    for (int i = 0; i < 60; ++i) {
        const double m = (low + high) / 2;
        (groove_radius(screw.section, m) < screw.section.pitch_radius ? low : high) = m;
    }
    const double radial = clearance_at(screw.section, nut.section, low);
    CHECK(radial == Approx(nut.section.pitch_radius - screw.section.pitch_radius).epsilon(1e-6));
    // square to the flank it is that times the sine of the half angle
    const Fit f = fit_of(screw, nut);
    CHECK(*find_value(f.values, "flank_clearance")->value == Approx(radial * std::sin(in_rad(deg(15)))));
}

TEST_CASE("tapers must be alike") {
    CHECK(fit("M20x1.5-6g taper 1:16", "M20x1.5-6H taper 1:16").goes_together());
    CHECK(says(fit("M20x1.5-6g taper 1:16", "M20x1.5-6H taper 1:10"), Mismatch::taper));
    CHECK(says(fit("M20x1.5-6g taper 1:16", "M20x1.5-6H"), Mismatch::taper));
    CHECK(says(fit("M20x1.5-6g", "M20x1.5-6H taper 1:16"), Mismatch::taper));
}

TEST_CASE("classes that can jam are said, a thread cut too large interferes") {
    ThreadSpec s = spec("M10-6h"), n = spec("M10-6H");
    CHECK(fit_of(resolve_thread(s), resolve_thread(n)).goes_together()); // h and H just touch
    s.allowance = mm(-0.2);                                              // printed too thick
    const Fit f = fit_of(resolve_thread(s), resolve_thread(n));
    CHECK(says(f, Mismatch::interference));
    CHECK(f.least_clearance < -0.1);
}

TEST_CASE("shear areas by the handbook") {
    // M10, engaged over 8 mm, both at basic size: π·D1·(Le/P)·(P/2 + (d2 − D1)/2·2·tan 30°)
    ThreadSpec s = spec("M10-6g"), n = spec("M10-6H");
    s.modelled_at = n.modelled_at = ModelledAt::basic;
    const Fit f = fit_of(resolve_thread(s), resolve_thread(n), mm(8));
    const double D1 = 8.376, d2 = 9.026, d = 10, P = 1.5, pi = 3.14159265358979, t = std::tan(pi / 6);
    CHECK(*find_value(f.values, "shear_area_screw")->value ==
          Approx(pi * D1 * 8 / P * (P / 2 + (d2 - D1) * t)).epsilon(1e-9));
    CHECK(*find_value(f.values, "shear_area_nut")->value ==
          Approx(pi * d * 8 / P * (P / 2 + (d - d2) * t)).epsilon(1e-9));
}

TEST_CASE("gauges pass and stop as the limits say") {
    for (const char* designation :
         {"M6-6g", "M6-6H", "1/4-20 UNC-2A", "1/4-20 UNC-2B", "Tr20x4-7e", "Tr20x4-7H", "G1/2 A"}) {
        ThreadSpec s = spec(designation);
        INFO(designation);
        for (const auto at :
             {ModelledAt::maximum_material, ModelledAt::middle, ModelledAt::minimum_material}) {
            s.modelled_at = at;
            const GaugeTrial t = try_gauges(resolve_thread(s));
            REQUIRE(t.possible);
            CHECK(t.go_passes);
            CHECK(t.no_go_stops);
            CHECK(t.go.size() > 20);
        }
        // a layer taken off makes it drop through, one put on makes it jam
        s.modelled_at = ModelledAt::middle;
        s.allowance = mm(0.06);
        CHECK_FALSE(try_gauges(resolve_thread(s)).no_go_stops);
        CHECK(try_gauges(resolve_thread(s)).go_passes);
        s.allowance = mm(-0.06);
        CHECK_FALSE(try_gauges(resolve_thread(s)).go_passes);
    }
    // M6-6g at its middle: 5.324 − 5.268 and 5.268 − 5.212 on the pitch diameter
    const GaugeTrial t = try_gauges(resolve_thread(spec("M6-6g")));
    CHECK(t.no_go_overlap == Approx(0.056));
    CHECK_FALSE(try_gauges(resolve_thread(spec("SQ20x4"))).possible);
}

TEST_CASE("a buttress nut's flanks face those of its screw; its axial play is DIN 513's 0.1·√P") {
    for (const auto& [text, pitch] : {std::pair{"S40x7", 7.0}, {"S100x14", 14.0}, {"S20x2", 2.0}}) {
        INFO(text);
        const Fit f = fit(text, std::string(text) + " internal");
        CHECK(f.goes_together());
        CHECK(f.least_clearance > -1e-6);
        CHECK(*find_value(f.values, "axial_play")->value == Approx(0.1 * std::sqrt(pitch)).epsilon(1e-3));
    }
}

TEST_CASE("the least clearance is a distance between the sections") {
    const auto fit = [](const char* screw, const char* nut) {
        return fit_of(resolve_thread(std::get<ThreadSpec>(parse_designation(screw).what)),
                      resolve_thread(std::get<ThreadSpec>(parse_designation(nut).what)));
    };
    // the flanks are nearest where crests have room
    const Fit metric = fit("M10-6g", "M10-6H");
    CHECK(metric.least_clearance == Approx(*find_value(metric.values, "flank_clearance")->value));
    CHECK(metric.least_clearance == Approx(0.047).margin(5e-5));
    CHECK_FALSE(metric.will_not_turn);
    for (const auto& [screw, nut] :
         {std::pair{"SQ20x4", "SQ20x4 internal"}, std::pair{"S40x7", "S40x7 internal"},
          std::pair{"Rd40x1/6", "Rd40x1/6 internal"}}) {
        INFO(screw);
        const Fit f = fit(screw, nut);
        CHECK(f.goes_together());
        CHECK(f.will_not_turn);
    }
    // upright flanks have no flank clearance that follows from diameters
    CHECK(find_value(fit("SQ20x4", "SQ20x4 internal").values, "flank_clearance") == nullptr);
    // G and R are of one form
    const Fit pipes = fit("G1/2 A", "Rp1/2");
    CHECK(pipes.goes_together());
    for (const auto& m : fit("G1/2 A", "1/2-12 BSW-medium internal").mistakes)
        CHECK(m.what != Mismatch::interference);
}

TEST_CASE("shear areas are those of the sizes that are modelled, not of the basic ones") {
    const Fit f = fit_of(resolve_thread(spec("M10-6g")), resolve_thread(spec("M10-6H")), mm(8));
    // ISO 965-2: the middle of d2 8.994/8.862, d 9.968/9.732; of D1 8.676/8.376, D2 9.206/9.026
    const double D1 = 8.526, d2 = 8.928, d = 9.85, D2 = 9.116, P = 1.5, pi = 3.14159265358979,
                 t = std::tan(pi / 6);
    CHECK(*find_value(f.values, "shear_area_screw")->value ==
          Approx(pi * D1 * 8 / P * (P / 2 + (d2 - D1) * t)).epsilon(1e-6));
    CHECK(*find_value(f.values, "shear_area_nut")->value ==
          Approx(pi * d * 8 / P * (P / 2 + (d - D2) * t)).epsilon(1e-6));
}

TEST_CASE("gauges of inch threads speak inch") {
    const GaugeTrial inch_thread = try_gauges(resolve_thread(spec("1/4-20 UNC-2A"))),
                     metric = try_gauges(resolve_thread(spec("M6-6g")));
    CHECK(inch_thread.go.find(" in ") != std::string::npos);
    CHECK(inch_thread.go.find(" mm") == std::string::npos);
    CHECK(metric.go.find(" mm ") != std::string::npos);
}
