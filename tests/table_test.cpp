// The standards' tables as they ship: held by what was typed of them a second time, by relations between
// tables that were printed apart, and by fingerprints that a changed entry changes.
#include "quantity/quantity.hpp"
#include "standard/iso_metric.hpp"
#include "standard/keyway.hpp"
#include "standard/thread_series.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>

using namespace whorl;
using namespace whorl::standard;

namespace {

void gather(const nlohmann::json& j, std::vector<double>& out) {
    if (j.is_number())
        out.push_back(j.get<double>());
    else
        for (const auto& x : j) // objects in the order of their keys
            if (x.is_structured() || x.is_number()) gather(x, out);
}

} // namespace

TEST_CASE("no entry of a standard's table has changed since it was read against its source") {
    struct Print {
        const char* file;
        std::size_t numbers;
        double sum; // each number times 1 + its place modulo 89
    };
    for (const Print& p : {Print{"acme.json", 92, 14173.5}, Print{"fasteners.json", 324, 133979.65},
                           Print{"gears.json", 78, 21759.935}, Print{"iso_metric.json", 1479, 8151001.32},
                           Print{"keyways.json", 120, 147833.0}, Print{"knuckle.json", 128, 215386.0},
                           Print{"pipe.json", 318, 191979.1498}, Print{"trapezoidal.json", 360, 2301275.0},
                           Print{"unified.json", 164, 72522.853}, Print{"whitworth.json", 94, 26163.0}}) {
        INFO(p.file << ": read the row that changed against the standard, then change it here");
        std::ifstream in(std::string(WHORL_SOURCE_DIR "/src/standard/data/") + p.file);
        std::vector<double> all;
        gather(nlohmann::json::parse(in), all);
        CHECK(all.size() == p.numbers);
        double sum = 0;
        for (std::size_t i = 0; i < all.size(); ++i)
            sum += all[i] * static_cast<double>(1 + i % 89);
        CHECK(sum == Approx(p.sum).epsilon(0).margin(1e-4));
    }
}

TEST_CASE("ISO 965-1: the diameter steps") {
    const double steps[]{0.99, 1.4, 2.8, 5.6, 11.2, 22.4, 45, 90, 180, 355};
    for (std::size_t i = 1; i + 1 < std::size(steps); ++i) {
        const double mean = std::sqrt(steps[i] * steps[i + 1]);
        INFO(steps[i] << " to " << steps[i + 1]);
        // over the lower end, up to and including the upper
        CHECK(in_mm(metric_step_diameter(mm(steps[i] + 0.01))) == Approx(mean));
        CHECK(in_mm(metric_step_diameter(mm(mean))) == Approx(mean));
        CHECK(in_mm(metric_step_diameter(mm(steps[i + 1]))) == Approx(mean));
    }
}

TEST_CASE("ISO 228-1 and ISO 7-1 have the same diameters, and G's tolerances their relations") {
    int both = 0;
    for (const PipeSize& g : pipe_sizes("G")) {
        INFO(g.listed.size);
        CHECK(in_mm(*g.major_tolerance) == Approx(2 * in_mm(*g.pitch_tolerance)));
        if (const PipeSize* r = pipe_size("R", g.listed.size)) {
            ++both;
            CHECK(in_mm(r->listed.diameter) == in_mm(g.listed.diameter));
            CHECK(in_mm(r->listed.pitch) == in_mm(g.listed.pitch));
            CHECK(in_mm(*r->gauge_length) < in_mm(*r->useful_length));
        }
    }
    CHECK(both == 15);
    // and NPSM with NPT, whose limits come from the tolerance of class 2A
    for (const PipeSize& n : pipe_sizes("NPSM")) {
        INFO(n.listed.size);
        CHECK(in_mm(n.listed.diameter) == in_mm(pipe_size("NPT", n.listed.size)->listed.diameter));
        CHECK(in_mm(*n.hand_tight) == in_mm(*pipe_size("NPT", n.listed.size)->hand_tight));
        if (!n.allowance) continue;
        CHECK(in_inch(*n.allowance) == Approx(0.3 * in_inch(*n.pitch_tolerance)).margin(6e-5));
        CHECK(in_inch(*n.nut_tolerance) == Approx(1.3 * in_inch(*n.pitch_tolerance)).margin(1.1e-4));
        CHECK(in_inch(*n.major_tolerance) ==
              Approx(0.06 * std::pow(in_inch(n.listed.pitch), 2. / 3)).margin(6e-4));
    }
}

TEST_CASE("DIN 6885-1: a key reaches into shaft and hub, and has room over it") {
    // typed a second time: bore, width, hub depth
    struct Row {
        double bore, width, hub;
    };
    for (const Row& r :
         {Row{7, 2, 1.0}, Row{9, 3, 1.4}, Row{11, 4, 1.8}, Row{14, 5, 2.3}, Row{20, 6, 2.8}, Row{25, 8, 3.3},
          Row{35, 10, 3.3}, Row{40, 12, 3.3}, Row{48, 14, 3.8}, Row{55, 16, 4.3}, Row{60, 18, 4.4},
          Row{70, 20, 4.9}, Row{80, 22, 5.4}, Row{90, 25, 5.4}, Row{100, 28, 6.4}}) {
        INFO("bore " << r.bore);
        const auto key = keyway_for(mm(r.bore));
        REQUIRE(key);
        CHECK(in_mm(key->width) == r.width);
        CHECK(in_mm(key->hub) == r.hub);
    }
    // over the lower end, up to and including the upper
    CHECK(keyway_for(mm(6)) == nullptr);
    CHECK(in_mm(keyway_for(mm(8))->width) == 2);
    CHECK(in_mm(keyway_for(mm(8.01))->width) == 3);
    CHECK(in_mm(keyway_for(mm(30))->width) == 8);
    CHECK(keyway_for(mm(231)) == nullptr);
}
