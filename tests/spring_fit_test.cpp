// Springs with what guides them and in each other: clearances, what they bear together, what is refused.
#include "spring_words.hpp"

#include "check/check.hpp"
#include "form/coil/coil_load.hpp"
#include "model/edit.hpp"
#include "model/forms/coil.hpp"
#include "model/job_file.hpp"
#include "model/pair_model.hpp"
#include "model/starter.hpp"
#include "pair/spring_fit.hpp"
#include "pair/standing.hpp"

using namespace whorl;
using test::spring;

namespace {

double value(const SpringFit& fit, const char* key) {
    const ResolvedValue* v = find_value(fit.values, key);
    INFO(key);
    REQUIRE(v);
    return v->value.value();
}
std::vector<std::string> wrong(const SpringFit& fit) {
    std::vector<std::string> ids;
    for (const PairMistake& m : fit.mistakes)
        ids.push_back(m.id);
    return ids;
}
using Ids = std::vector<std::string>;

} // namespace

TEST_CASE("a rod goes into a spring that leaves it room, free and wound") {
    const ResolvedCoil press = spring("spring d2 D20 L50 n7 closed ground");
    CHECK(value(spring_over_rod(press, 16), "rod_clearance") == Approx(18 - 16));
    CHECK(spring_over_rod(press, 16).goes_together());
    CHECK(spring_over_rod(press, 16).clearance == Approx(2));
    const SpringFit thick = spring_over_rod(press, 18.5);
    CHECK(wrong(thick) == Ids{"rod"});
    CHECK_THAT(thick.mistakes[0].sentence,
               Catch::Contains("18.5 mm does not go into") && Catch::Contains("18 mm inside"));
    CHECK(thick.mistakes[0].value == 18.5);
    CHECK(thick.mistakes[0].limit == 18);
    // the narrowest turn of a cone
    CHECK(spring_over_rod(spring("spring d2 D30..20 L50 n7 open"), 15).clearance == Approx(20 - 2 - 15));
    // wound by what it works at: 16·6/(6 + 90/360) − 2
    const ResolvedCoil twist = spring("torsion spring d2 D16 n6 legs 30 works 30..90");
    const SpringFit wound = spring_over_rod(twist, 13);
    CHECK(value(wound, "wound_inside") == Approx(16 * 6 / 6.25 - 2));
    CHECK(value(wound, "rod_clearance_wound") == Approx(16 * 6 / 6.25 - 2 - 13));
    CHECK(wound.clearance == Approx(16 * 6 / 6.25 - 2 - 13));
    CHECK_THAT(spring_over_rod(twist, 13.5).mistakes.at(0).sentence, Catch::Contains("binds"));
    // else by what it bears, as its sheet has it
    const ResolvedCoil bears = spring("torsion spring d2 D16 n6 legs 30");
    CHECK(value(spring_over_rod(bears, 10), "wound_inside") ==
          Approx(test::value(bears, "wound_diameter") - 2));
    // neither known: free only
    const SpringFit free = spring_over_rod(spring("torsion spring d3x2 D24 p3 n6 legs 30"), 20);
    CHECK(free.goes_together());
    CHECK(free.clearance == Approx(1));
    CHECK_FALSE(find_value(free.values, "wound_inside"));
    // hooks over the axis
    CHECK(wrong(spring_over_rod(spring("extension spring d1.6 D12 n20"), 8)) == Ids{"hooks"});
    CHECK(wrong(spring_over_rod(spring("extension spring d1.6 D12 n20 near side far extended 40"), 8)) ==
          Ids{"hooks"});
    CHECK(spring_over_rod(spring("extension spring d1.6 D12 n20 hooks side"), 8).goes_together());
}

TEST_CASE("a spring goes into a bore that leaves it room when it is solid") {
    const ResolvedCoil press = spring("spring d2 D20 L50 n7 closed ground");
    const double p = (50 - 4) / 7.0, grows = 0.1 * (p * p - 0.8 * p * 2 - 0.2 * 4) / 20;
    const SpringFit fit = spring_in_bore(press, 23);
    CHECK(value(fit, "bore_clearance") == Approx(1));
    CHECK(value(fit, "bore_clearance_solid") == Approx(1 - grows));
    CHECK(fit.clearance == Approx(1 - grows));
    CHECK(fit.goes_together());
    CHECK_THAT(spring_in_bore(press, 22 + grows / 2).mistakes.at(0).sentence, Catch::Contains("jams"));
    CHECK_THAT(spring_in_bore(press, 21).mistakes.at(0).sentence,
               Catch::Contains("does not go into the bore"));
    CHECK(spring_in_bore(press, 22 + 1.01 * grows).goes_together());
    CHECK(spring_in_bore(spring("spring d2 D30..20 L50 n7 open"), 33).clearance ==
          Approx(1)); // the widest turn
}

TEST_CASE("nested springs bear the sum of both, and are wound against each other") {
    const ResolvedCoil outer = spring("spring d3 D30 L60 n6 closed ground"),
                       inner = spring("spring d2 D20 L55 n8 closed ground LH");
    for (const SpringFit& fit : {nested_springs(outer, inner), nested_springs(inner, outer)}) {
        CHECK(fit.goes_together());
        CHECK(fit.mistakes.empty());
        CHECK(value(fit, "nest_clearance") == Approx(27 - 22));
        CHECK(value(fit, "nest_clearance_solid") == Approx(27 - 22 - test::value(inner, "growth")));
        CHECK(value(fit, "nested_rate") ==
              Approx(81500 * 81 / (8 * 27000.0 * 6) + 81500 * 16 / (8 * 8000.0 * 8)));
        CHECK(value(fit, "free_lengths_apart") == Approx(5));
        CHECK(value(fit, "nested_solid") == Approx(24)); // 8·3; the inner one 10·2
        const double all = outer.rate * (60 - 24) + inner.rate * (55 - 24);
        CHECK(value(fit, "nested_load") == Approx(all));
        CHECK(value(fit, "inner_share") == Approx(100 * inner.rate * (55 - 24) / all));
    }
    const SpringFit alike = nested_springs(outer, spring("spring d2 D20 L55 n8 closed ground"));
    CHECK(wrong(alike) == Ids{"hands"});
    CHECK(alike.goes_together());
    CHECK(wrong(nested_springs(outer, spring("spring d2 D26 L55 n8 closed ground LH"))) == Ids{"nest"});
    CHECK_THAT(
        nested_springs(outer, spring("spring d2 D24.9 L60 n6 closed ground LH")).mistakes.at(0).sentence,
        Catch::Contains("grows to"));
}

TEST_CASE("a job pairs springs with rods, bores and springs, and its checks say what is wrong") {
    Job job = add_piece({}, piece_of("spring d2 D20 L50 n7 closed ground"));
    job = add_piece(job, piece_of("round 19 x 60"));
    job = add_piece(job, piece_of("spring d1.2 D12 L45 n8 closed ground"));
    job = add_piece(job, piece_of("round 40 x 60 bore 21"));
    job = add_piece(job, piece_of("hex 17 x 40"));
    const auto zone = [&](std::size_t piece) -> const Zone& { return job.pieces[piece].zones.back(); };
    CHECK(pair_kind(zone(0), zone(1)) == PairKind::spring_and_guide);
    CHECK(pair_kind(zone(0), zone(3)) == PairKind::spring_and_guide);
    CHECK(pair_kind(zone(0), zone(2)) == PairKind::nested_springs);
    CHECK_FALSE(pair_kind(zone(0), zone(4)));
    job = add_pair(job, {0, 0}, {1, 0});
    job = add_pair(job, {0, 0}, {2, 0});
    job = add_pair(job, {0, 0}, {3, job.pieces[3].zones.size() - 1});
    CHECK(job_from_json(job_to_json(job)) == job);
    const auto found = [&](std::size_t piece, const char* id) -> std::optional<Finding> {
        for (const Finding& f : findings_of(job, piece))
            if (f.id == id) return f;
        return {};
    };
    const auto rod = found(1, "spring_rod"), bore = found(3, "spring_bore"), hands = found(2, "spring_hands");
    REQUIRE(rod);
    REQUIRE(bore);
    REQUIRE(hands);
    CHECK(rod->severity == Severity::stop);
    CHECK(hands->severity == Severity::advice);
    for (const auto& f : {rod, bore, hands})
        job = apply(job, f->remedy.value());
    CHECK_FALSE(found(1, "spring_rod"));
    CHECK_FALSE(found(3, "spring_bore"));
    CHECK_FALSE(found(2, "spring_hands"));
    const ResolvedPiece coil = resolve_piece(job.pieces[0], {}), guide = resolve_piece(job.pieces[1], {});
    CHECK(in_mm(guide.zones[0].diameter) < 18);
    // the rod stands on the spring's axis, the middles of both together
    const auto place = standing_of(coil, 0, guide, 0);
    REQUIRE(place);
    CHECK(place->origin[2] == Approx(25 - 30));
    CHECK(place->z == std::array<double, 3>{0, 0, 1});
}
