// Keyways in bores: the standard's sizes, and every proof of their solids.
#include "model/edit.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"
#include "standard/keyway.hpp"

#include "zone_parts.hpp"

#include <catch2/catch.hpp>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

Zone bore(double diameter, const char* keyway, double countersink = 0) {
    Zone z;
    z.where = Where::near_bore;
    z.length = {};
    diameter_of(z) = {number_text(diameter, 6), {}};
    z.keyway = {keyway, {}};
    if (countersink > 0)
        for (EndTreatment* e : {&z.near_end, &z.far_end}) {
            e->kind = EndKind::chamfer;
            e->angle = {"45", {}};
            e->diameter = {number_text(diameter + 2 * countersink, 6), {}};
        }
    return z;
}

// Cross-section of a bore of this radius with a slot of width w to the distance t from the axis.
double area(double r, double w, double t) {
    return pi * r * r + w * t - (w / 2 * std::sqrt(r * r - w * w / 4) + r * r * std::asin(w / 2 / r));
}

} // namespace

TEST_CASE("keyways of DIN 6885-1, by bore") {
    struct Row {
        double bore, width, hub;
    };
    for (const Row& row :
         {Row{8, 2, 1.0}, Row{10, 3, 1.4}, Row{12, 4, 1.8}, Row{16, 5, 2.3}, Row{20, 6, 2.8}, Row{25, 8, 3.3},
          Row{30, 8, 3.3}, Row{30.5, 10, 3.3}, Row{50, 14, 3.8}, Row{75, 20, 4.9}}) {
        INFO(row.bore);
        const auto* k = standard::keyway_for(mm(row.bore));
        REQUIRE(k);
        CHECK(in_mm(k->width) == row.width);
        CHECK(in_mm(k->hub) == row.hub);
        // the key fills both keyways but for a little clearance over it
        CHECK(k->shaft + k->hub > k->height);
    }
    CHECK_FALSE(standard::keyway_for(mm(6)));
    CHECK_FALSE(standard::keyway_for(mm(231)));
    for (std::size_t i = 1; i < standard::keyways().size(); ++i)
        CHECK(standard::keyways()[i].over == standard::keyways()[i - 1].to);
}

TEST_CASE("a keyed bore takes away its circle and its slot") {
    Piece p = piece_of("round 40 x 20");
    p.zones.push_back(bore(20, "standard"));
    CHECK(test::prove(p).volume() == Approx(20 * (pi * 400 - area(10, 6, 12.8))).epsilon(1e-9));
    p.zones.back() = bore(20, "5 x 3");
    CHECK(test::prove(p).volume() == Approx(20 * (pi * 400 - area(10, 5, 13))).epsilon(1e-9));
    // countersunk: by Simpson's rule over the cones
    p.zones.back() = bore(20, "standard", 1);
    double cones = 0;
    constexpr int steps = 200;
    for (int i = 0; i <= steps; ++i)
        cones += (i == 0 || i == steps ? 1
                  : i % 2              ? 4
                                       : 2) *
                 area(10 + double(i) / steps, 6, 12.8) / steps / 3;
    CHECK(test::prove(p).volume() ==
          Approx(20 * pi * 400 - 18 * area(10, 6, 12.8) - 2 * cones).epsilon(1e-8));
}

TEST_CASE("randomised keyed bores are closed, valid and watertight") {
    std::mt19937 random(11);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const auto chance = [&](double q) { return between(0, 1) < q; };
    for (int i = 0; i < 25; ++i) {
        const double d = between(6.1, 60);
        const std::string own =
            number_text(between(0.1, 0.5) * d, 3) + " x " + number_text(between(0.1, 0.3) * d, 3);
        Zone keyed = bore(d, chance(0.5) ? "standard" : own.c_str(), chance(0.5) ? 0.03 * d : 0);
        const int kind = static_cast<int>(between(0, 4));
        const int teeth = static_cast<int>(d) + 14;
        Piece p =
            kind == 0 ? piece_of(("round " + number_text(2.2 * d, 2) + " x 15").c_str())
            : kind == 1
                ? piece_of(("hex " + number_text(2.2 * d, 2) + " x 15").c_str())
                : piece_of(("gear m2 z" + std::to_string(teeth) + (kind == 3 ? " helix 15 LH" : "") + " b15")
                               .c_str());
        if (chance(0.4)) { // out of a wider or narrower bore
            Zone other = bore(chance(0.5) ? 0.6 * d : 1.05 * d, "");
            other.length = {"4", {}};
            keyed.near_end = {};
            p.zones.push_back(other);
        }
        p.zones.push_back(keyed);
        INFO(i << ": bore " << d << ", keyway " << keyed.keyway.text << ", outside " << kind);
        test::prove(p);
    }
}

TEST_CASE("a keyway is typed, saved, put under a tooth, and refused with reasons") {
    Job job = add_piece(Job{}, piece_of("gear m2 z24 b12"));
    job = insert_zone(job, 0, 1, bore(16, ""));
    const auto keyed = [&](const char* text) {
        return apply(job, Edit{0, 1, field::keyway, text, LengthUnit::millimetre});
    };
    const auto keyway = [](const Job& j) -> std::optional<ResolvedKeyway> {
        const ResolvedPiece piece = resolve_piece(j.pieces[0], resolve_names(j));
        const ResolvedKeyway* k = piece.zones[1].keyway();
        return k ? std::optional(*k) : std::nullopt;
    };
    CHECK(in_mm(keyway(keyed("Standard"))->width) == 5);
    CHECK(keyway(keyed("standard"))->at == Approx(pi / 24));
    CHECK(in_mm(keyway(keyed("4 x 1.5"))->depth) == 1.5);
    CHECK_FALSE(keyway(keyed("none")));
    CHECK(job_from_json(job_to_json(keyed("4 x 1.5"))) == keyed("4 x 1.5"));
    CHECK(field_text(keyed("4 x 1.5"), 0, 1, field::keyway, LengthUnit::millimetre) == "4 x 1.5");
    for (const char* wrong : {"wide", "20 x 2", "4 x -1", "4", "0.1 x 1"}) {
        INFO(wrong);
        CHECK_THROWS_AS(keyed(wrong), InputError);
    }
    // the table ends at 6 mm; threads and outer zones have none
    CHECK_THROWS_AS(apply(keyed("standard"), Edit{0, 1, field::diameter, "5", LengthUnit::millimetre}),
                    InputError);
    CHECK_THROWS_AS(apply(job, Edit{0, 0, field::keyway, "standard", LengthUnit::millimetre}), InputError);
    // a countersink that reaches the bottom, a wall that is gone
    Piece p = piece_of("round 40 x 20");
    p.zones.push_back(bore(20, "5 x 1", 1.5));
    CHECK(make_preview(p, 0, {}, LengthUnit::millimetre).findings.front().sentence.find("keyway's bottom") !=
          std::string::npos);
    p.zones.back() = bore(34, "10 x 3.5");
    CHECK(make_preview(p, 0, {}, LengthUnit::millimetre).findings.front().sentence.find("no wall") !=
          std::string::npos);
}
