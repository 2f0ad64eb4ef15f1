// Zones that follow another of their piece: what they take over, until when, and what is refused.
#include "model/edit.hpp"
#include "model/forms/bend.hpp"
#include "model/job_file.hpp"
#include "model/ready_zone.hpp"
#include "model/resolve.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>

using namespace whorl;

namespace {
Job clamp() {
    return add_piece({}, piece_of("u-clamp M6 for 60 x 80"));
}
Job set(const Job& job, std::size_t zone, Field f, const char* text) {
    return apply(job, {0, zone, f, text, LengthUnit::millimetre});
}
const Zone& zone(const Job& job, std::size_t i) {
    return job.pieces[0].zones[i];
}
std::string why(const Job& job, std::size_t z, const char* text) {
    try {
        (void)set(job, z, field::follows, text);
    } catch (const InputError& e) {
        return e.what();
    }
    return "done";
}
} // namespace

TEST_CASE("the second leg of a clamp follows the first, turned round, until it is edited") {
    Job job = clamp();
    REQUIRE(zone(job, 4).follows == Following{0, true});
    job = set(job, 0, field::length, "30");
    job = set(job, 0, field::pitch, "0.75");
    job = set(job, 0, field::near_end, "chamfer 30 4");
    job = set(job, 0, field::far_end, "flat");
    CHECK(zone(job, 4).length.text == "30");
    CHECK(zone(job, 4).as<ThreadForm>()->pitch.text == "0.75");
    CHECK(zone(job, 4).far_end == zone(job, 0).near_end);
    CHECK(zone(job, 4).near_end == zone(job, 0).far_end);
    job = set(job, 1, field::diameter, "5.8");
    CHECK(zone(job, 3).as<PlainForm>()->diameter.text == "5.8");
    // a designation of the leader goes over, too
    const Job other = respec_zone(job, 0, 0, parse_designation("M6x1-6g LH x 25"));
    CHECK(zone(other, 4).as<ThreadForm>()->hand == Hand::left);
    CHECK(zone(other, 4).length.text == "25");
    // edited itself, it goes its own way
    job = set(job, 4, field::tolerance_class, "6e");
    CHECK_FALSE(zone(job, 4).follows);
    job = set(job, 0, field::length, "35");
    CHECK(zone(job, 4).length.text == "30");
    CHECK(zone(job, 4).as<ThreadForm>()->tolerance_class == "6e");
    // and comes back
    job = set(job, 4, field::follows, "1 mirrored");
    CHECK(zone(job, 4).length.text == "35");
    CHECK(zone(job, 4).as<ThreadForm>()->tolerance_class == "6g");
    job = set(job, 4, field::follows, "none");
    CHECK_FALSE(zone(job, 4).follows);
    CHECK(zone(job, 4).length.text == "35");
}

TEST_CASE("a cone that follows in the mirror has its diameters changed round") {
    Job job = add_piece({}, piece_of("round 12 x 20"));
    job = set(job, 0, field::far_diameter, "8");
    job = insert_zone(job, 0, 1, plain(mm(8), mm(10)));
    job = insert_zone(job, 0, 2, plain(mm(5), mm(5)));
    job = set(job, 2, field::follows, "1 mirrored");
    const ResolvedPiece r = resolve_piece(job.pieces[0], {});
    CHECK(in_mm(r.zones[2].diameter) == 8);
    CHECK(in_mm(r.zones[2].far_diameter) == 12);
    job = set(job, 2, field::follows, "1");
    CHECK(in_mm(resolve_piece(job.pieces[0], {}).zones[2].diameter) == 12);
    // one that follows a follower is what that is: turned round twice, as it was
    job = set(job, 1, field::follows, "1 mirrored");
    job = set(job, 2, field::follows, "2 mirrored");
    CHECK(in_mm(resolve_piece(job.pieces[0], {}).zones[2].diameter) == 12);
}

TEST_CASE("who follows whom stays when zones are added, taken out and moved") {
    const Job job = clamp();
    const Job longer = insert_zone(job, 0, 0, plain(mm(4), mm(3)));
    CHECK(zone(longer, 5).follows == Following{1, true});
    CHECK(zone(longer, 4).follows == Following{2, true});
    const Job headless = remove_zone(job, 0, 0);
    CHECK_FALSE(zone(headless, 3).follows); // it stays as it was
    CHECK(zone(headless, 3).as<ThreadForm>());
    CHECK(zone(headless, 2).follows == Following{0, true});
    const Job moved = move_zone(job, 0, 0, 1);
    CHECK(zone(moved, 4).follows == Following{1, true});
    CHECK(zone(moved, 3).follows == Following{0, true});
    const Job split = split_zone(job, 0, 4);
    CHECK_FALSE(zone(split, 4).follows);
    CHECK_FALSE(zone(split, 5).follows);
    CHECK(zone(split, 3).follows == Following{1, true});
}

TEST_CASE("what can't be followed says why; files keep it and are checked") {
    const Job job = clamp();
    CHECK_THAT(why(job, 0, "5"), Catch::Contains("would follow itself"));
    CHECK_THAT(why(job, 0, "1"), Catch::Contains("would follow itself"));
    CHECK_THAT(why(job, 0, "9"), Catch::Contains("no zone 9 to follow"));
    CHECK_THAT(why(job, 0, "first"), Catch::Contains("number of a zone"));
    CHECK_THAT(why(job, 0, "2 sideways"), Catch::Contains("number of a zone"));
    const Job elbow = add_piece({}, piece_of("elbow G3/8 90"));
    CHECK(zone(elbow, 5).follows == Following{3, true});
    CHECK_THAT(why(elbow, 3, "1"), Catch::Contains("a bore a bore"));
    CHECK(job_from_json(job_to_json(job)) == job);
    CHECK(job_from_json(job_to_json(elbow)) == elbow);
    std::string broken = job_to_json(job);
    const auto at = broken.find("\"follows\"");
    REQUIRE(at != std::string::npos);
    const auto number = broken.find(": 1", broken.find("\"zone\"", at));
    broken.replace(number, 3, ": 7");
    CHECK_THROWS_WITH(job_from_json(broken), Catch::Contains("no zone 8 to follow"));
    // a mouth of the elbow is changed once for both
    const Job deeper = set(elbow, 3, field::length, "9");
    CHECK(zone(deeper, 5).length.text == "9");
}

TEST_CASE("what stands right behind a repeat keeps its pair and its followers") {
    // a thread, a collar, a thread that is paired and followed by a last one
    Piece p = piece_of("M10 x 10");
    p.zones.push_back(plain(mm(14), mm(4)));
    p.zones.push_back(p.zones[0]);
    p.zones.push_back(p.zones[0]);
    p.zones[3].follows = Following{2, false};
    Job job = add_piece({}, p);
    job = add_counterpart(job, 0, 2);
    REQUIRE(job.pairs.size() == 1);
    REQUIRE(job.pairs[0].first == ZoneRef{0, 2});
    const Job repeated =
        apply(job, {0, 1, field::repeat, "3", LengthUnit::millimetre}); // the collar, right before
    const auto& zones = repeated.pieces[0].zones;
    REQUIRE(zones.size() == 6);
    CHECK(repeated.pairs[0].first == ZoneRef{0, 4});
    CHECK(zones[4].as<ThreadForm>());
    CHECK(zones[5].follows == Following{4, false});
    CHECK(zones[2].follows == Following{1, false});
    CHECK(zones[3].follows == Following{1, false});
}
