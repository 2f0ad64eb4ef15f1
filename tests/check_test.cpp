#include "check/check.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <catch2/catch.hpp>

using namespace whorl;

namespace {

Job stud(const std::string& designation) {
    return add_piece({}, parse_designation(designation));
}
Job with(const Job& j, Field f, const std::string& text, std::size_t zone = 0) {
    return apply(j, {0, zone, f, text, LengthUnit::millimetre});
}

const Finding* find(const std::vector<Finding>& all, const std::string& id) {
    const auto it = std::find_if(all.begin(), all.end(), [&](const auto& f) { return f.id == id; });
    return it == all.end() ? nullptr : &*it;
}

// The finding is there, says so in a sentence, and its remedy makes it go away.
void mended_by_remedy(const Job& job, const std::string& id, Severity severity) {
    INFO(id);
    const auto before = check_job(job);
    const Finding* f = find(before, id);
    REQUIRE(f);
    CHECK(f->severity == severity);
    CHECK(f->sentence.back() == '.');
    CHECK(f->sentence.size() > 30);
    REQUIRE(f->remedy);
    CHECK(!f->remedy->label.empty());
    const auto after = check_job(apply(job, *f->remedy));
    CHECK(find(after, id) == nullptr);
    CHECK(!stops(after));
}

} // namespace

TEST_CASE("a sound stud has nothing to say") {
    CHECK(check_job(stud("M10x1.5-6g LH x 40")).empty());
}

TEST_CASE("each finding is found and its remedy mends it") {
    mended_by_remedy(with(stud("M10x1.5-6g x 40"), field::root_flat, "1"), "section_wider_than_pitch",
                     Severity::stop);
    mended_by_remedy(with(stud("M10x1.5-6g x 40"), field::depth, "1.6"), "section_wider_than_pitch",
                     Severity::stop);
    mended_by_remedy(stud("M10x12-6g x 40"), "depth_beyond_axis", Severity::stop);
    mended_by_remedy(with(stud("M10x1.5-6g x 40"), field::depth, "6"), "depth_beyond_axis", Severity::stop);
    mended_by_remedy(stud("M10x1.3-6g x 40"), "off_standard", Severity::advice);
    mended_by_remedy(stud("M10.4x1.3-6g x 40"), "off_standard", Severity::advice);
    mended_by_remedy(stud("0.3-18 UNS-2A x 2"), "off_standard", Severity::advice);
    mended_by_remedy(with(stud("M10x1.5-6g x 40"), field::far_end, "chamfer 45 9.4"),
                     "chamfer_smaller_than_thread_depth", Severity::advice);
    mended_by_remedy(with(with(stud("M10x1.5-6g x 1.2"), field::near_end, "flat"), field::far_end, "flat"),
                     "zone_shorter_than_a_turn", Severity::advice);
    mended_by_remedy(stud("M16xPh12P2-6g x 40"), "steep_lead_angle", Severity::advice);
    mended_by_remedy(with(stud("M10x1.5-6g x 4"), field::near_end, "run-out 2"), "ends_do_not_fit",
                     Severity::stop);
}

TEST_CASE("stops come before advice") {
    const auto all = check_job(stud("M10x12-6g x 40"));
    REQUIRE(all.size() >= 2);
    CHECK(all.front().severity == Severity::stop);
    CHECK(all.back().severity == Severity::advice);
    CHECK(stops(all));
}

TEST_CASE("sentences are in the job's unit") {
    Job j = stud("M10x1.3-6g x 40");
    j.unit = LengthUnit::inch;
    CHECK(find(check_job(j), "off_standard")->sentence.find(" in ") != std::string::npos);
    CHECK(find(check_job(j), "off_standard")->sentence.find("0.0512") != std::string::npos);
}

TEST_CASE("a pair of a zone with itself, and a centre distance of nothing or less, stop") {
    const Job gears =
        add_piece(add_piece({}, parse_designation("gear m1 z20 b10")), parse_designation("gear m1 z30 b10"));
    Job itself = gears;
    itself.pairs.push_back({{0, 0}, {0, 0}, false, {}});
    const auto all = check_job(itself);
    REQUIRE(find(all, "pair_with_itself"));
    CHECK(stops(all));
    for (const char* centre : {"-5", "0"}) {
        Job apart = gears;
        apart.pairs.push_back({{0, 0}, {1, 0}, false, {centre, {}}});
        INFO(centre);
        mended_by_remedy(apart, "centre_not_positive", Severity::stop);
    }
    Job right = gears;
    right.pairs.push_back({{0, 0}, {1, 0}, false, {"25", {}}});
    CHECK(!stops(check_job(right)));
}

TEST_CASE("a turn of a several-start thread is its lead") {
    // longer than the pitch, shorter than a turn: nothing can be screwed on it
    Job job = with(with(stud("M16xPh6P2-6g x 4"), field::near_end, "flat"), field::far_end, "flat");
    const auto short_one = check_job(job);
    REQUIRE(find(short_one, "zone_shorter_than_a_turn"));
    CHECK(find(short_one, "zone_shorter_than_a_turn")->limit == Approx(6));
    CHECK_FALSE(find(check_job(with(job, field::length, "6.1")), "zone_shorter_than_a_turn"));
}

TEST_CASE("a pair's sentence names the other piece, whichever is looked at") {
    Job job = add_piece({}, parse_designation("M10x1.5-6g x 40"), "spindle");
    Piece collar = piece_of("M10x1.5-6H x 8");
    collar.name = "collar";
    job = add_piece(job, collar);
    job = add_pair(job, {0, 0}, {1, 1});
    job = apply(job, {1, 1, field::pitch, "1.25", LengthUnit::millimetre});
    const auto at_spindle = check_pairs(job, 0), at_collar = check_pairs(job, 1);
    REQUIRE(find(at_spindle, "pair_pitch"));
    REQUIRE(find(at_collar, "pair_pitch"));
    CHECK(find(at_spindle, "pair_pitch")->sentence.starts_with("With collar"));
    CHECK(find(at_collar, "pair_pitch")->sentence.starts_with("With spindle"));
    CHECK(find(check_job(job), "pair_pitch")->remedy);
}

TEST_CASE("a pair without clearance is told so, and an allowance mends it") {
    for (const char* family : {"SQ20x4", "Rd40x1/6", "S40x7"}) {
        INFO(family);
        Job job = add_piece({}, parse_designation(std::string(family) + " x 40"), "screw");
        job = add_counterpart(job, 0, 0);
        const auto found = check_job(job);
        const Finding* f = find(found, "pair_without_clearance");
        REQUIRE(f);
        CHECK(f->severity == Severity::advice);
        REQUIRE(f->remedy);
        CHECK_FALSE(find(check_job(apply(job, *f->remedy)), "pair_without_clearance"));
    }
    Job usual = add_counterpart(stud("M10x1.5-6g x 40"), 0, 0);
    CHECK_FALSE(find(check_job(usual), "pair_without_clearance"));
}

TEST_CASE("a remedy that mends one thing and brings a new stop is not offered") {
    // the nearest listed pitch mends the screw, but its nut has the same odd one
    Job job = add_counterpart(stud("M10x1.3-6g x 40"), 0, 0);
    job.pairs[0].follows = false;
    const Finding* alone = nullptr;
    const auto of_stud = findings_of(stud("M10x1.3-6g x 40"), 0);
    alone = find(of_stud, "off_standard");
    REQUIRE(alone);
    CHECK(alone->remedy);
    const auto paired = findings_of(job, 0);
    const Finding* f = find(paired, "off_standard");
    REQUIRE(f);
    CHECK_FALSE(f->remedy);
    // where the nut follows, it goes along
    job.pairs[0].follows = true;
    const auto following = findings_of(job, 0);
    REQUIRE(find(following, "off_standard"));
    CHECK(find(following, "off_standard")->remedy);
}

TEST_CASE("a misfit stops, and names the other piece") {
    Job job = add_counterpart(stud("M10x1.5-6g x 40"), 0, 0);
    job.pairs[0].follows = false;
    job = with(job, field::length, "40");
    job = apply(job, {1, job.pairs[0].second.zone, field::pitch, "1.25", LengthUnit::millimetre});
    const auto all = check_job(job);
    const Finding* f = find(all, "pair_pitch");
    REQUIRE(f);
    CHECK(f->severity == Severity::stop);
    CHECK(f->piece == 1);
    CHECK(f->sentence.find("With " + job.pieces[0].name) == 0);
    CHECK(stops(all));
    // looked at from the screw it names the nut
    const auto of_screw = check_pairs(job, 0);
    REQUIRE(find(of_screw, "pair_pitch"));
    CHECK(find(of_screw, "pair_pitch")->sentence.find("With " + job.pieces[1].name) == 0);
}

TEST_CASE("a full V with a taper has nothing to stop it, and the widest groove that works does work") {
    for (const char* text :
         {"V60 20x2.5 taper 1:16 x 30", "V55 20x2 taper 1:10 x 20", "V90 30x3 taper 1:3 x 20",
          "V60 20x2.5 x 30", "V60 20x2.5 internal taper 1:16 x 30"}) {
        INFO(text);
        CHECK_FALSE(stops(check_job(add_piece({}, piece_of(text)))));
    }
    const Job wide = with(stud("M10x1.5-6g x 40"), field::root_flat, "1");
    const auto findings = check_job(wide);
    const Finding* f = find(findings, "section_wider_than_pitch");
    REQUIRE(f);
    CHECK(f->limit == Approx(1.5 * 0.999));
    REQUIRE(f->remedy);
    CHECK_FALSE(stops(check_job(apply(wide, *f->remedy))));
}

TEST_CASE("a cross hole that would run into the rings beside a web is refused, and the remedy makes it") {
    struct Row {
        const char *text, *web, *hole, *at;
        bool stops;
    };
    for (const Row& r :
         {Row{"round 25 x 40", "3", "5", "", true}, Row{"round 60 x 20", "5", "4", "3", true},
          Row{"round 60 x 20", "5", "4", "", false}, Row{"round 60 x 20", "8", "4", "8.5", false},
          Row{"round 60 x 20", "8", "4", "5", true}}) {
        INFO(r.text << " web " << r.web << " hole " << r.hole << " at " << r.at);
        Job job = add_piece({}, piece_of(r.text));
        job = with(with(job, field::web, r.web), field::cross_hole, r.hole);
        if (*r.at) job = with(job, field::cross_hole_at, r.at);
        const auto all = findings_of(job, 0);
        CHECK(stops(all) == r.stops);
        if (!r.stops) continue;
        const Finding* f = find(all, "cross_hole_in_web");
        REQUIRE(f);
        REQUIRE(f->remedy);
        CHECK_FALSE(stops(findings_of(apply(job, *f->remedy), 0)));
    }
}
