// The standards' tables as they ship: held by what was typed of them a second time, by relations between
// tables that were printed apart, and by fingerprints that a changed entry changes.
#include "quantity/quantity.hpp"
#include "standard/fastener.hpp"
#include "standard/iso_metric.hpp"
#include "standard/keyway.hpp"
#include "standard/running_fit.hpp"
#include "standard/screw_hole.hpp"
#include "standard/thread_series.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <fstream>
#include <nlohmann/json.hpp>
#include <tuple>

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
    for (const Print& p :
         {Print{"acme.json", 92, 14173.5}, Print{"fasteners.json", 324, 133979.65},
          Print{"gears.json", 78, 21759.935}, Print{"iso_metric.json", 1559, 8203127.17},
          Print{"keyways.json", 120, 147833.0}, Print{"knuckle.json", 128, 215386.0},
          Print{"pipe.json", 318, 191979.1498}, Print{"trapezoidal.json", 360, 2301275.0},
          Print{"unified.json", 164, 72522.853}, Print{"whitworth.json", 94, 26163.0},
          Print{"running_fits.json", 39, 96608.0}, Print{"screw_holes.json", 182, 192363.7}}) {
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

TEST_CASE("ISO 273, DIN 974-1, ISO 10642: holes for screws") {
    struct Row {
        double d, fine, medium, coarse;
    };
    for (const Row& r : {Row{1, 1.1, 1.2, 1.3}, Row{2.5, 2.7, 2.9, 3.1}, Row{6, 6.4, 6.6, 7},
                         Row{14, 15, 15.5, 16.5}, Row{36, 37, 39, 42}, Row{64, 66, 70, 74}}) {
        INFO("M" << r.d);
        const ScrewHole* h = screw_hole(mm(r.d));
        REQUIRE(h);
        CHECK(in_mm(h->fine) == r.fine);
        CHECK(in_mm(h->medium) == r.medium);
        CHECK(in_mm(h->coarse) == r.coarse);
    }
    CHECK(screw_holes().size() == 35);
    double wider = 0;
    for (const ScrewHole& h : screw_holes()) {
        INFO("M" << in_mm(h.thread));
        CHECK((h.thread < h.fine && h.fine < h.medium && h.medium < h.coarse));
        if (h.counterbore) {
            // the head of ISO 4762 has room in it all around
            const double head = in_mm(fastener_size("socket_head", h.thread)->head_diameter);
            CHECK(in_mm(*h.counterbore) >= head + 0.5);
            CHECK(in_mm(*h.counterbore) <= head + 5);
            CHECK(in_mm(*h.deeper) >= wider);
            wider = in_mm(*h.deeper);
        }
        if (h.countersink && h.thread <= mm(12))
            CHECK(*h.countersink / h.thread == Approx(2.24)); // ISO 10642: dk = 2.24 d up to M12
    }
    // DIN 974-1: how much deeper than the head is high
    for (const auto& [d, more] :
         {std::pair{1.6, 0.4}, {6.0, 0.4}, {8.0, 0.6}, {20.0, 0.6}, {24.0, 0.8}, {30.0, 1.0}, {36.0, 1.0}})
        CHECK(in_mm(screw_hole(mm(d))->deeper.value()) == more);
}

TEST_CASE("ISO 2306: tap drills of coarse threads, and d − P for fine ones") {
    for (const auto& [d, drill] : {std::pair{3.0, 2.5},
                                   {4.0, 3.3},
                                   {5.0, 4.2},
                                   {6.0, 5.0},
                                   {8.0, 6.8},
                                   {10.0, 8.5},
                                   {12.0, 10.2},
                                   {16.0, 14.0},
                                   {20.0, 17.5},
                                   {24.0, 21.0},
                                   {2.5, 2.05}}) {
        INFO("M" << d);
        const TapDrill found = metric_tap_drill(mm(d), iso_coarse(mm(d))->pitch);
        CHECK(in_mm(found.diameter) == drill);
        CHECK(found.source == "ISO 2306:1972, coarse threads");
    }
    // every one of the table lies within the minor diameter's limits of 6H, or is a little below for M1 to M2
    for (const ListedThread& t : iso_metric_series()) {
        if (t.series != "coarse") continue;
        INFO("M" << t.size);
        const double basic = in_mm(t.diameter) - 1.0825317547 * in_mm(t.pitch);
        const double drill = in_mm(metric_tap_drill(t.diameter, t.pitch).diameter);
        CHECK(drill >= basic - 0.001);
        CHECK(drill <=
              basic + in_mm(metric_minor_tolerance(t.pitch < mm(0.35) ? 5 : 6, t.pitch).value) + 0.001);
    }
    CHECK(in_mm(metric_tap_drill(mm(10), mm(1)).diameter) == 9);
    CHECK(in_mm(metric_tap_drill(mm(12), mm(1.25)).diameter) == 10.75);
}

TEST_CASE("ISO 286-2, f7: the middle of the table's limits") {
    for (const auto& [d, least, most] : {std::tuple{3.0, 6, 16},
                                         {3.01, 10, 22},
                                         {20.0, 20, 41},
                                         {30.0, 20, 41},
                                         {80.0, 30, 60},
                                         {81.0, 36, 71}}) {
        INFO(d);
        const auto fit = running_fit(mm(d));
        REQUIRE(fit);
        CHECK(in_mm(fit->least) == Approx(least / 1000.0));
        CHECK(in_mm(fit->most) == Approx(most / 1000.0));
    }
    CHECK_FALSE(running_fit(mm(501)));
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
