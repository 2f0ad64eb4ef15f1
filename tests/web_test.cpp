// Webs of wheels: the rings sunk between rim and hub.
#include "model/edit.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "quantity/expression.hpp"

#include "zone_parts.hpp"

#include <catch2/catch.hpp>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

Zone bore(double diameter, const char* keyway = "") {
    Zone z;
    z.where = Where::near_bore;
    z.length = {};
    diameter_of(z) = {number_text(diameter, 6), {}};
    z.keyway = {keyway, {}};
    return z;
}
Zone plain(double diameter, double length) {
    Zone z;
    diameter_of(z) = {number_text(diameter, 6), {}};
    z.length = {number_text(length, 6), {}};
    return z;
}
Piece with_web(const char* text, const char* web) {
    Piece p = piece_of(text);
    p.zones[0].web = {web, {}};
    return p;
}

} // namespace

TEST_CASE("a web takes its two rings away, and nothing else") {
    CHECK(test::prove(with_web("round 100 x 20", "6 80 30")).volume() ==
          Approx(pi * 50 * 50 * 20 - 14 * pi * (40 * 40 - 15 * 15)).epsilon(1e-9));
    // a hub that stands beyond, bored and keyed
    Piece hubbed = with_web("round 100 x 20", "6 80 30");
    hubbed.zones.push_back(plain(26, 10));
    const double before = test::prove([&] {
                              Piece solid = hubbed;
                              solid.zones[0].web = {};
                              solid.zones.push_back(bore(16, "standard"));
                              return solid;
                          }())
                              .volume();
    hubbed.zones.push_back(bore(16, "standard"));
    CHECK(test::prove(hubbed).volume() == Approx(before - 14 * pi * (40 * 40 - 15 * 15)).epsilon(1e-9));
    // beside something as wide only the free side is sunk, as deep as both together
    Piece one = with_web("round 100 x 20", "6 80 30");
    one.zones.push_back(plain(100, 5));
    CHECK(test::prove(one).volume() ==
          Approx(pi * 50 * 50 * 25 - 14 * pi * (40 * 40 - 15 * 15)).epsilon(1e-9));
}

TEST_CASE("randomised wheels with webs are closed, valid and watertight") {
    std::mt19937 random(5);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const auto chance = [&](double q) { return between(0, 1) < q; };
    for (int i = 0; i < 10; ++i) {
        const int teeth = static_cast<int>(between(36, 90));
        const double helix = chance(0.4) ? between(5, 30) : 0;
        const std::string text = "gear m2 z" + std::to_string(teeth) +
                                 (helix > 0 ? " helix " + number_text(helix, 2) + " RH" : "") + " b" +
                                 number_text(between(8, 30), 2);
        Piece p = with_web(text.c_str(), "standard");
        if (helix > 0 && chance(0.5)) { // herringbone
            p.zones.push_back(p.zones[0]);
            p.zones[1].teeth()->hand = Hand::left;
        }
        if (chance(0.5)) p.zones.push_back(plain(0.4 * teeth + 16, 9));
        if (chance(0.3)) p.zones.insert(p.zones.begin(), plain(0.4 * teeth + 14, 5));
        if (chance(0.7)) p.zones.push_back(bore(0.2 * teeth + 6, chance(0.5) ? "standard" : ""));
        INFO(i << ": " << text << " in " << p.zones.size() << " zones");
        test::prove(p);
    }
}

TEST_CASE("a web is typed, saved, and refused with reasons") {
    Job job = add_piece(Job{}, piece_of("gear m2 z60 b20"));
    job = insert_zone(job, 0, 1, bore(20));
    const auto webbed = [&](const char* text) {
        return apply(job, Edit{0, 0, field::web, text, LengthUnit::millimetre});
    };
    const auto web = [](const Job& j) { return resolve_piece(j.pieces[0], resolve_names(j)).zones[0].web; };
    CHECK(web(webbed("standard"))->thickness == Approx(6));
    CHECK(web(webbed("Standard"))->rim == Approx(57.5 - 5)); // roots at Ø 115
    CHECK(web(webbed("standard"))->hub == Approx(16));
    CHECK(web(webbed("4"))->thickness == 4);
    CHECK(web(webbed("4 100 40"))->hub == 20);
    CHECK_FALSE(web(webbed("none")));
    CHECK(job_from_json(job_to_json(webbed("4 100 40"))) == webbed("4 100 40"));
    for (const char* wrong : {"thin", "25", "4 130 40", "4 40 100", "4 100 40 7", "0.1"}) {
        INFO(wrong);
        CHECK_THROWS_AS(webbed(wrong), InputError);
    }
    CHECK_THROWS_AS(apply(job, Edit{0, 1, field::web, "standard", LengthUnit::millimetre}),
                    InputError); // a bore
    // a hub narrower than the bore
    const Preview p = make_preview(webbed("4 100 18").pieces[0], 0, {}, LengthUnit::millimetre);
    REQUIRE_FALSE(p.made());
    CHECK(p.findings.front().sentence.find("hub wider") != std::string::npos);
}

TEST_CASE("an end that meets the web's ring stops, with a remedy that mends it") {
    const auto mended = [](const Piece& p) {
        Job job = add_piece({}, p);
        const auto findings = check_job(job);
        REQUIRE(stops(findings));
        CHECK(findings.front().id == "end_meets_web");
        REQUIRE(findings.front().remedy);
        job = apply(job, *findings.front().remedy);
        CHECK(!stops(check_job(job)));
        test::prove(job.pieces[0]);
    };
    for (const char* chamfer : {"50", "54"}) { // inside the ring, and at its very edge
        Piece p = with_web("round 60 x 20", "6");
        p.zones[0].near_end.kind = EndKind::chamfer;
        p.zones[0].near_end.diameter = {chamfer, {}};
        mended(p);
    }
    Piece sunk = with_web("round 60 x 20", "6");
    sunk.zones.push_back(bore(16));
    sunk.zones.back().near_end.kind = EndKind::chamfer;
    sunk.zones.back().near_end.diameter = {"30", {}};
    mended(sunk);
    sunk.zones.back().near_end.diameter = {"20", {}}; // inside the hub: nothing wrong
    test::prove(sunk);
}
