#include "standard/iso_metric.hpp"
#include "standard/unified.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <map>
#include <set>

using namespace whorl;
using namespace whorl::standard;

TEST_CASE("every printed metric tolerance lies within one preferred-number step of the standard's formula") {
    // ISO 965-1 clause 13 rounds to the R40 series of preferred numbers (ISO 3). Rounding the formula's value
    // gives a place in that series; what is printed stands there or next to it.
    const auto r40 = [](double micrometres) { return std::lround(40 * std::log10(micrometres)); };
    REQUIRE(metric_printed_tolerances().size() > 500);
    for (const auto& t : metric_printed_tolerances()) {
        const Length step = mm(std::sqrt(in_mm(t.over) * in_mm(t.to)));
        const double rule =
            in_mm(t.kind == "major_external"   ? metric_rule::major(t.grade, t.pitch)
                  : t.kind == "minor_internal" ? metric_rule::minor(t.grade, t.pitch)
                  : t.kind == "pitch_external" ? metric_rule::pitch_external(t.grade, step, t.pitch)
                                               : metric_rule::pitch_internal(t.grade, step, t.pitch));
        INFO(t.kind << " grade " << t.grade << " P " << in_mm(t.pitch) << " d to " << in_mm(t.to) << ": "
                    << in_mm(t.value) << " against " << rule);
        CHECK(std::abs(r40(in_mm(t.value) * 1000) - r40(rule * 1000)) <= 1);
    }
}

TEST_CASE("printed tolerances grow with the grade, the pitch and the diameter") {
    std::map<std::tuple<std::string, double, double>, std::map<int, double>> by_grade;
    std::map<std::tuple<std::string, double, int>, std::map<double, double>> by_pitch;
    for (const auto& t : metric_printed_tolerances()) {
        by_grade[{t.kind, in_mm(t.to), in_mm(t.pitch)}][t.grade] = in_mm(t.value);
        by_pitch[{t.kind, in_mm(t.to), t.grade}][in_mm(t.pitch)] = in_mm(t.value);
    }
    const auto rising = [](const auto& series, bool strictly) {
        double last = 0;
        for (const auto& [k, v] : series) {
            if (strictly ? v <= last : v < last) return false;
            last = v;
        }
        return true;
    };
    for (const auto& [k, series] : by_grade) {
        INFO(std::get<0>(k) << " d " << std::get<1>(k) << " P " << std::get<2>(k));
        CHECK(rising(series, true));
    }
    for (const auto& [k, series] : by_pitch) {
        INFO(std::get<0>(k) << " d " << std::get<1>(k) << " grade " << std::get<2>(k));
        CHECK(rising(series, false));
    }
}

TEST_CASE("fundamental deviations follow their formulas") {
    for (double p : {0.2, 0.25, 0.3, 0.35, 0.4, 0.45, 0.5, 0.6, 0.7, 0.75, 0.8, 1.0, 1.25,
                     1.5, 1.75, 2.0, 2.5,  3.0, 3.5,  4.0, 4.5, 5.0, 5.5,  6.0, 8.0})
        for (const char position : {'e', 'f', 'g', 'G'}) {
            const auto d = metric_deviation(position, mm(p));
            const double rule = in_mm(metric_rule::deviation(position, mm(p)));
            INFO(position << " at P " << p << ": " << in_mm(d.value) << " against " << rule);
            // printed in preferred numbers; the two finest pitches of position e are printed smaller than the
            // formula
            const bool printed_smaller = position == 'e' && (p == 0.5 || p == 0.6);
            CHECK(std::abs(in_mm(d.value) - rule) <=
                  (printed_smaller ? 0.006 : std::max(0.0025, 0.06 * std::abs(rule))));
        }
    CHECK(metric_deviation('h', mm(1)).value == mm(0));
    CHECK(metric_deviation('H', mm(1)).value == mm(0));
    CHECK_THROWS_AS(metric_deviation('k', mm(1)), std::invalid_argument);
    CHECK(in_mm(metric_deviation('g', mm(1)).value) == Approx(-0.026));
    CHECK(in_mm(metric_deviation('g', mm(1.5)).value) == Approx(-0.032));
}

TEST_CASE("the metric series is that of ISO 261") {
    const auto& s = iso_metric_series();
    REQUIRE(s.size() > 200);
    CHECK(iso_coarse(mm(10))->pitch == mm(1.5));
    CHECK(iso_coarse(mm(12))->pitch == mm(1.75));
    CHECK(iso_coarse(mm(64))->pitch == mm(6));
    CHECK(iso_coarse(mm(10.5)) == nullptr);
    double last_d = 0, last_p = 0;
    std::set<std::pair<double, double>> seen;
    for (const auto& t : s) {
        CHECK(in_mm(t.diameter) >= last_d);
        last_d = in_mm(t.diameter);
        CHECK(seen.insert({in_mm(t.diameter), in_mm(t.pitch)}).second);
        if (t.series != "coarse") {
            if (const auto* coarse = iso_coarse(t.diameter)) CHECK(t.pitch < coarse->pitch);
            continue;
        }
        CHECK(in_mm(t.pitch) >= last_p); // coarse pitches never fall with the diameter
        last_p = in_mm(t.pitch);
    }
    CHECK(find_listed(s, mm(10), mm(1.25))->series == "fine");
    CHECK(find_listed(s, mm(10), mm(1.3)) == nullptr);
    const auto& near = nearest_listed(s, mm(10), mm(1.3));
    CHECK(near.diameter == mm(10));
    CHECK(near.pitch == mm(1.25));
}

TEST_CASE("the Unified series") {
    const auto& s = unified_series();
    CHECK(find_listed(s, inch(0.25), inch(1.0 / 20))->series == "UNC");
    CHECK(find_listed(s, inch(0.25), inch(1.0 / 28))->series == "UNF");
    CHECK(find_listed(s, inch(0.19), inch(1.0 / 32))->size == "#10");
    CHECK(find_listed(s, inch(1.375), inch(1.0 / 6))->size == "1 3/8");
    // ASME B1.1: numbered sizes are 0.060 + 0.013·n inch
    for (const auto& t : s)
        if (t.size[0] == '#')
            CHECK(in_inch(t.diameter) == Approx(0.060 + 0.013 * std::stoi(t.size.substr(1))));
}

TEST_CASE("Unified tolerances as the standard's worked values") {
    // ASME B1.1 table 3A, 1/4-20 UNC: allowance 0.0011, Td2 2A 0.0037, 1A 0.0056, 3A 0.0028, 2B 0.0049
    const Length td2 = unified_pitch_tolerance_2a(inch(0.25), inch(0.25), inch(0.05));
    CHECK(in_inch(unified_allowance(2, td2)) == Approx(0.0011));
    CHECK(in_inch(unified_allowance(3, td2)) == 0);
    CHECK(in_inch(unified_pitch_tolerance(2, true, td2)) == Approx(0.0037));
    CHECK(in_inch(unified_pitch_tolerance(1, true, td2)) == Approx(0.0056));
    CHECK(in_inch(unified_pitch_tolerance(3, true, td2)) == Approx(0.0028));
    CHECK(in_inch(unified_pitch_tolerance(2, false, td2)) == Approx(0.0049).margin(1e-4));
    CHECK(in_inch(unified_major_tolerance(2, inch(0.05))) == Approx(0.0081));
    CHECK_THROWS_AS(unified_allowance(4, td2), std::invalid_argument);
}
