#include "form/designation.hpp"
#include "form/thread/thread.hpp"
#include "quantity/input_error.hpp"
#include "standard/iso_metric.hpp"
#include "standard/unified.hpp"

#include <catch2/catch.hpp>
#include <random>

using namespace whorl;

namespace {

ResolvedThread resolved(const std::string& designation) {
    return resolve_thread(std::get<ThreadSpec>(parse_designation(designation).what));
}
struct Row {
    const char* designation;
    double major_max, major_min, pitch_max, pitch_min;
};

} // namespace

TEST_CASE("external limits as ISO 965-2 prints them") {
    // ISO 965-2:1998, external threads of tolerance class 6g, mm
    const Row table[]{{"M3-6g", 2.980, 2.874, 2.655, 2.580},      {"M4-6g", 3.978, 3.838, 3.523, 3.433},
                      {"M5-6g", 4.976, 4.826, 4.456, 4.361},      {"M6-6g", 5.974, 5.794, 5.324, 5.212},
                      {"M8-6g", 7.972, 7.760, 7.160, 7.042},      {"M10-6g", 9.968, 9.732, 8.994, 8.862},
                      {"M12-6g", 11.966, 11.701, 10.829, 10.679}, {"M16-6g", 15.962, 15.682, 14.663, 14.503},
                      {"M20-6g", 19.958, 19.623, 18.334, 18.164}, {"M24-6g", 23.952, 23.577, 22.003, 21.803}};
    for (const auto& row : table) {
        INFO(row.designation);
        const auto r = resolved(row.designation);
        const auto* major = find_value(r.values, "major_diameter");
        const auto* pitch = find_value(r.values, "pitch_diameter");
        CHECK(*major->max == Approx(row.major_max).margin(5e-4));
        CHECK(*major->min == Approx(row.major_min).margin(5e-4));
        CHECK(*pitch->max == Approx(row.pitch_max).margin(5e-4));
        CHECK(*pitch->min == Approx(row.pitch_min).margin(5e-4));
        CHECK(r.status.listed);
        CHECK(r.status.series == "coarse");
    }
}

TEST_CASE("external limits of fine pitches and other classes") {
    // ISO 965-2:1998 for 6g fine pitches; ISO 965-3:1998 for 4h, mm
    const Row table[]{
        {"M8x1-6g", 7.974, 7.794, 7.324, 7.212},         {"M10x1.25-6g", 9.972, 9.760, 9.160, 9.042},
        {"M12x1.25-6g", 11.972, 11.760, 11.160, 11.028}, {"M16x1.5-6g", 15.968, 15.732, 14.994, 14.854},
        {"M20x1.5-6g", 19.968, 19.732, 18.994, 18.854},  {"M6-4h", 6.000, 5.888, 5.350, 5.279},
        {"M10-4h", 10.000, 9.850, 9.026, 8.941}};
    for (const auto& row : table) {
        INFO(row.designation);
        const auto r = resolved(row.designation);
        CHECK(*find_value(r.values, "major_diameter")->max == Approx(row.major_max).margin(5e-4));
        CHECK(*find_value(r.values, "major_diameter")->min == Approx(row.major_min).margin(5e-4));
        CHECK(*find_value(r.values, "pitch_diameter")->max == Approx(row.pitch_max).margin(5e-4));
        CHECK(*find_value(r.values, "pitch_diameter")->min == Approx(row.pitch_min).margin(5e-4));
    }
}

TEST_CASE("a class for the pitch diameter and another for the crest") {
    // 5g6g: pitch diameter of grade 5, major diameter of grade 6 (ISO 965-1 clause 6.2)
    const auto mixed = resolved("M10-5g6g"), six = resolved("M10-6g");
    CHECK(*find_value(mixed.values, "major_diameter")->min == *find_value(six.values, "major_diameter")->min);
    CHECK(*find_value(mixed.values, "pitch_diameter")->max == *find_value(six.values, "pitch_diameter")->max);
    CHECK(*find_value(mixed.values, "pitch_diameter")->max -
              *find_value(mixed.values, "pitch_diameter")->min ==
          Approx(0.106));
    for (const char* bad : {"5g", "3h", "6k", "66", "g6", "6g6H", "9H9H", "", "6", "6g6", "10g"})
        CHECK_THROWS_AS(side_of_class(ThreadFamily::iso_metric, bad), InputError);
    for (const char* bad : {"4A", "2C", "A2", "", "2", "2AB"})
        CHECK_THROWS_AS(side_of_class(ThreadFamily::unified, bad), InputError);
}

TEST_CASE("basic dimensions as ISO 724 prints them") {
    for (const auto& [d, pitch, minor] : {std::tuple{"M3", 2.675, 2.459},
                                          {"M4", 3.545, 3.242},
                                          {"M5", 4.480, 4.134},
                                          {"M6", 5.350, 4.917},
                                          {"M8", 7.188, 6.647},
                                          {"M10", 9.026, 8.376},
                                          {"M12", 10.863, 10.106},
                                          {"M16", 14.701, 13.835},
                                          {"M20", 18.376, 17.294},
                                          {"M24", 22.051, 20.752},
                                          {"M30", 27.727, 26.211},
                                          {"M36", 33.402, 31.670}}) {
        INFO(d);
        const auto r = resolved(d);
        CHECK(*find_value(r.values, "pitch_diameter_basic")->value == Approx(pitch).margin(5e-4));
        CHECK(*find_value(r.values, "minor_diameter_basic")->value == Approx(minor).margin(5e-4));
    }
}

TEST_CASE("internal limits as ISO 965-2 prints them") {
    // ISO 965-2:1998, internal threads of tolerance class 6H, mm: pitch max/min, minor max/min
    const Row table[]{{"M6-6H", 5.500, 5.350, 5.153, 4.917},
                      {"M8-6H", 7.348, 7.188, 6.912, 6.647},
                      {"M10-6H", 9.206, 9.026, 8.676, 8.376},
                      {"M12-6H", 11.063, 10.863, 10.441, 10.106}};
    for (const auto& row : table) {
        INFO(row.designation);
        const auto r = resolved(row.designation);
        CHECK(r.side == Side::internal);
        const auto* pitch = find_value(r.values, "pitch_diameter");
        const auto* minor = find_value(r.values, "minor_diameter");
        CHECK(*pitch->max == Approx(row.major_max).margin(5e-4));
        CHECK(*pitch->min == Approx(row.major_min).margin(5e-4));
        CHECK(*minor->max == Approx(row.pitch_max).margin(5e-4));
        CHECK(*minor->min == Approx(row.pitch_min).margin(5e-4));
        CHECK(!find_value(r.values, "major_diameter")->max); // the standard sets none
    }
}

TEST_CASE("Unified limits as ASME B1.1 prints them") {
    // ASME B1.1 table 3A, external, inch
    const Row table[]{{"1/4-20 UNC-2A", 0.2489, 0.2408, 0.2164, 0.2127},
                      {"1/2-13 UNC-2A", 0.4985, 0.4876, 0.4485, 0.4435},
                      {"#10-32 UNF-2A", 0.1891, 0.1831, 0.1688, 0.1658},
                      {"3/8-16 UNC-2A", 0.3737, 0.3643, 0.3331, 0.3287}};
    for (const auto& row : table) {
        INFO(row.designation);
        const auto r = resolved(row.designation);
        const auto* major = find_value(r.values, "major_diameter");
        const auto* pitch = find_value(r.values, "pitch_diameter");
        CHECK(in_inch(mm(*major->max)) == Approx(row.major_max).margin(5e-5));
        CHECK(in_inch(mm(*major->min)) == Approx(row.major_min).margin(5e-5));
        CHECK(in_inch(mm(*pitch->max)) == Approx(row.pitch_max).margin(5e-5));
        CHECK(in_inch(mm(*pitch->min)) == Approx(row.pitch_min).margin(5e-5));
    }
}

TEST_CASE("stress areas as ISO 898-1 prints them") {
    // ISO 898-1:2013 tables 4 and 6, nominal stress area, mm²
    for (const auto& [d, area] : {std::pair{"M3", 5.03},
                                  {"M4", 8.78},
                                  {"M5", 14.2},
                                  {"M6", 20.1},
                                  {"M8", 36.6},
                                  {"M10", 58.0},
                                  {"M12", 84.3},
                                  {"M16", 157.0},
                                  {"M20", 245.0},
                                  {"M24", 353.0},
                                  {"M30", 561.0},
                                  {"M36", 817.0}}) {
        INFO(d);
        CHECK(*find_value(resolved(d).values, "stress_area")->value == Approx(area).epsilon(0.004));
    }
}

TEST_CASE("every listed size of every usual class resolves to something sensible") {
    for (const auto& t : standard::iso_metric_series())
        for (const char* cls : {"6g", "6h", "4h", "6e", "8g", "6H", "7H", "6G", "4H5H"}) {
            ThreadSpec s;
            s.diameter = t.diameter;
            s.pitch = t.pitch;
            s.tolerance_class = cls;
            INFO(t.size << " x " << in_mm(t.pitch) << " " << cls);
            const auto r = resolve_thread(s);
            CHECK(r.status.listed);
            for (const auto& v : r.values) {
                CHECK(!v.source.empty());
                if (v.min && v.max) CHECK(*v.min < *v.max);
            }
            if (r.side == Side::external) CHECK(r.section.sweepable());
        }
    for (const auto& t : standard::unified_series())
        for (const char* cls : {"1A", "2A", "3A", "1B", "2B", "3B"}) {
            ThreadSpec s;
            s.family = ThreadFamily::unified;
            s.diameter = t.diameter;
            s.pitch = t.pitch;
            s.tolerance_class = cls;
            INFO(t.size << " " << t.series << " " << cls);
            const auto r = resolve_thread(s);
            CHECK(r.status.listed);
            if (r.side == Side::external) CHECK(r.section.sweepable());
        }
}

TEST_CASE("the modelled size lies within the limits, in order of material") {
    for (const char* d : {"M3", "M10x1.25-6e", "M42-8g", "1/4-20 UNC-2A", "1 1/2-6 UNC-3A"}) {
        auto spec = std::get<ThreadSpec>(parse_designation(d).what);
        double last = 1e9;
        for (const auto at :
             {ModelledAt::maximum_material, ModelledAt::middle, ModelledAt::minimum_material}) {
            spec.modelled_at = at;
            const auto r = resolve_thread(spec);
            INFO(d << " at " << word(at));
            const auto* pitch = find_value(r.values, "pitch_diameter");
            CHECK(2 * r.section.pitch_radius <= *pitch->max + 1e-12);
            CHECK(2 * r.section.pitch_radius >= *pitch->min - 1e-12);
            CHECK(r.section.pitch_radius < last);
            last = r.section.pitch_radius;
            // the groove is half a pitch wide at the pitch line
            const double width = r.section.root_flat + 2 * (r.section.pitch_radius - r.section.root_radius) *
                                                           std::tan(r.section.flank_half_angle);
            CHECK(width == Approx(r.section.pitch / 2).epsilon(1e-9));
        }
    }
}

TEST_CASE("any pitch on any diameter is computed and named as such") {
    const auto r = resolved("M10x1.3");
    CHECK_FALSE(r.status.listed);
    REQUIRE(r.status.nearest);
    CHECK(r.status.nearest->diameter == mm(10));
    CHECK(r.status.nearest->pitch == mm(1.25));
    CHECK(find_value(r.values, "major_diameter")->source.find("computed") != std::string::npos);
    CHECK(find_value(r.values, "pitch_diameter")->source.find("computed") != std::string::npos);
    const auto u = resolved("0.3-18 UNS-2A");
    CHECK_FALSE(u.status.listed);
    CHECK(in_inch(mm(*find_value(u.values, "pitch")->value)) == Approx(1.0 / 18));
}

TEST_CASE("overrides change the section and say so") {
    auto spec = std::get<ThreadSpec>(parse_designation("M10").what);
    spec.depth = mm(0.5);
    const auto r = resolve_thread(spec);
    CHECK(r.section.depth() == Approx(0.5));
    CHECK(find_value(r.values, "thread_depth")->overridden);
    CHECK(find_value(r.values, "thread_depth")->source == "set by you");
    spec.depth.reset();
    spec.root_flat = mm(1.5);
    const auto wide = resolve_thread(spec);
    CHECK(wide.section.crest_flat < 0);
    CHECK_FALSE(wide.section.sweepable());
}

TEST_CASE("sizes outside every reason are refused with a sentence") {
    ThreadSpec s;
    for (const double bad : {0.0, -1.0, 1e9, std::numeric_limits<double>::quiet_NaN(),
                             std::numeric_limits<double>::infinity()}) {
        s = {};
        s.diameter = mm(bad);
        CHECK_THROWS_AS(resolve_thread(s), InputError);
        s = {};
        s.pitch = mm(bad);
        CHECK_THROWS_AS(resolve_thread(s), InputError);
        s = {};
        s.depth = mm(bad);
        CHECK_THROWS_AS(resolve_thread(s), InputError);
    }
    for (const int bad : {0, -1, 9, 1000}) {
        s = {};
        s.starts = bad;
        CHECK_THROWS_AS(resolve_thread(s), InputError);
    }
    s = {};
    s.pitch = mm(18); // impossible, but it resolves; the checks say why it stops
    CHECK_FALSE(resolve_thread(s).section.sweepable());
}
