// Neighbours that touch: hexagons and squares whose flats or corners lie on a round neighbour's circle,
// nearly so, or on each other; upright flanks on a ray; pieces too large to be meshed.
#include "model/edit.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "quantity/expression.hpp"

#include "zone_parts.hpp"

#include <catch2/catch.hpp>
#include <numbers>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

Zone zone(Outline outline, double across, double length) {
    Zone z;
    plain_of(z).outline = outline;
    diameter_of(z) = {number_text(across, 9), {}};
    z.length = {number_text(length, 6), {}};
    return z;
}
Piece of(std::vector<Zone> zones) {
    Piece p;
    p.name = "shoulders";
    p.zones = std::move(zones);
    return p;
}
double hexagon_area(double across) {
    return std::sqrt(3.0) / 2 * across * across;
}

} // namespace

TEST_CASE("a flat that touches a round neighbour's circle is made, and so is one that nearly does") {
    // what differs by no more than a tenth of a nanometre is taken for the same
    for (const double off : {0.0, 1e-9, 1e-7, 1e-4, 1e-2, -1e-7, -1e-6, -1e-4, -1e-2}) {
        INFO("the circle is " << off << " mm larger than the flats are apart");
        const double d = 17 + off;
        CHECK(test::prove(of({zone(Outline::hexagon, 17, 8), zone(Outline::round, d, 20)})).volume() ==
              Approx(8 * hexagon_area(17) + 20 * pi / 4 * d * d).epsilon(1e-8));
        CHECK(test::prove(of({zone(Outline::round, d, 20), zone(Outline::square, 17, 8)})).volume() ==
              Approx(8 * 17.0 * 17 + 20 * pi / 4 * d * d).epsilon(1e-8));
    }
}

TEST_CASE("a circle that stands over the flats by less than 10 nm is refused in a sentence") {
    const Preview p = make_preview(of({zone(Outline::hexagon, 17, 8), zone(Outline::round, 17 + 1e-6, 20)}),
                                   0, {}, LengthUnit::millimetre);
    CHECK(!p.made());
    REQUIRE(stops(p.findings));
    CHECK(p.findings.front().sentence.find("make them the same, or clearly different") != std::string::npos);
}

TEST_CASE("corners on a circle, and hexagon on hexagon") {
    const double corners = 17 / std::cos(pi / 6);
    test::prove(of({zone(Outline::hexagon, 17, 8), zone(Outline::round, corners, 20)}));
    test::prove(of({zone(Outline::hexagon, 17, 8), zone(Outline::hexagon, 17, 5)}));
    test::prove(of({zone(Outline::hexagon, 17, 8), zone(Outline::hexagon, 13, 5)}));
    test::prove(of({zone(Outline::hexagon, 17, 8), zone(Outline::square, 17, 5)}));
}

TEST_CASE("a socket over a bore of its own width") {
    for (const Outline outline : {Outline::hexagon, Outline::square}) {
        Zone socket = zone(outline, 10, 8), bore = zone(Outline::round, 10, 0);
        socket.where = bore.where = Where::near_bore;
        bore.length = {};
        const double area = outline == Outline::hexagon ? hexagon_area(10) : 100;
        CHECK(test::prove(of({zone(Outline::round, 30, 20), socket, bore})).volume() ==
              Approx(20 * pi * 225 - 8 * area - 12 * pi * 25).epsilon(1e-9));
    }
}

TEST_CASE("a hexagon as wide as the thread beside it is thick") {
    Piece p = piece_of("M10 x 20");
    thread_of(p.zones[0]).modelled_at = ModelledAt::basic;
    p.zones.insert(p.zones.begin(), zone(Outline::hexagon, 10, 8));
    test::prove(p);
}

TEST_CASE("upright flanks on a ray of the end's mesh") {
    for (const auto& [d, pitch, length] : {std::tuple{8.0, 500.0, 8.0}, std::tuple{20.0, 50.0, 8.0},
                                           std::tuple{20.0, 5.0, 8.0}, std::tuple{20.0, 5.0, 6.0}})
        for (const double chord : {0.002, 0.01, 0.03, 0.1, 0.5, 2.0}) {
            INFO("square thread, pitch " << pitch << " on " << d << ", chord " << chord);
            Piece p = piece_of("SQ20x5 x 20");
            diameter_of(p.zones[0]) = {number_text(d, 3), {}};
            thread_of(p.zones[0]).pitch = {number_text(pitch, 3), {}};
            thread_of(p.zones[0]).depth = {"1.5", {}};
            p.zones[0].length = {number_text(length, 3), {}};
            const Preview made = make_preview(p, 0, {}, LengthUnit::millimetre, chord);
            REQUIRE(made.made());
            CHECK_NOTHROW(solid::require_watertight(made.mesh));
            CHECK(make_verified_solid(made)->valid);
        }
}

TEST_CASE("what would take all memory is refused with what would do") {
    const Piece huge = piece_of("Tr2000x1 x 9000"), fine = piece_of("M100x0.2 x 300");
    const Preview a = make_preview(huge, 0, {}, LengthUnit::millimetre);
    CHECK(!a.made());
    REQUIRE(stops(a.findings));
    CHECK(a.findings.front().sentence.find("9000 pitches") != std::string::npos);
    const Preview b = make_preview(fine, 0, {}, LengthUnit::millimetre, 1e-4);
    REQUIRE(!b.made());
    const std::string why = b.findings.front().sentence;
    const auto at = why.find("A chord of ");
    REQUIRE(at != std::string::npos);
    const double chord = std::stod(why.substr(at + 11));
    CHECK(make_preview(fine, 0, {}, LengthUnit::millimetre, chord).made());
}
