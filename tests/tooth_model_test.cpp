// Toothed zones in jobs: edits, files, pairs that follow, checks with remedies that work.
#include "check/check.hpp"
#include "check/mesh_check.hpp"
#include "check/train.hpp"
#include "model/edit.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"

#include "zone_parts.hpp"

#include <catch2/catch.hpp>

using namespace whorl;

namespace {

Job job_with(std::initializer_list<const char*> pieces) {
    Job job;
    for (const char* p : pieces)
        job = add_piece(job, piece_of(p));
    return job;
}
GearSpec spec(const Job& job, std::size_t piece, std::size_t zone = 0) {
    return resolve_piece(job.pieces.at(piece), resolve_names(job)).zones.at(zone).gear()->spec;
}
Job edited(const Job& job, std::size_t piece, Field field, const char* text,
           LengthUnit unit = LengthUnit::millimetre) {
    return apply(job, Edit{piece, 0, field, text, unit});
}
bool found(const std::vector<Finding>& findings, const std::string& id) {
    return std::any_of(findings.begin(), findings.end(), [&](const Finding& f) { return f.id == id; });
}

} // namespace

TEST_CASE("the fields of teeth are typed, with formulas and in the trade's ways") {
    Job job = job_with({"gear m2 z24 b12"});
    job = set_value(job, "teeth_1", {"24", {}});
    job = edited(job, 0, field::teeth, "2*teeth_1 - 5");
    CHECK(spec(job, 0).teeth == 43);
    CHECK(in_mm(spec(edited(job, 0, field::module, "12 dp"), 0).module) == Approx(25.4 / 12));
    CHECK(in_mm(spec(edited(job, 0, field::module, "1/10", LengthUnit::inch), 0).module) == Approx(2.54));
    CHECK(spec(edited(job, 0, field::helix_angle, "-20"), 0).hand == Hand::left);
    // whichever way the helix angle is written, the hand typed is the hand had
    for (const char* angle : {"20", "-20", "5 - 25"})
        for (const char* hand : {"left", "right"}) {
            const Job j = edited(edited(job, 0, field::helix_angle, angle), 0, field::hand, hand);
            CHECK((spec(j, 0).hand == Hand::left) == (hand == std::string("left")));
            CHECK(field_text(j, 0, 0, field::hand, LengthUnit::millimetre) == hand);
        }
    CHECK(spec(edited(job, 0, field::basic_rack, "d"), 0).rack.dedendum == 1.4);
    CHECK(spec(edited(job, 0, field::basic_rack, "1/1.157/0.3"), 0).rack.dedendum == Approx(1.157));
    CHECK(spec(edited(job, 0, field::tip_edge, "round 0.3"), 0).tip_edge == TipEdge::rounded);
    CHECK(spec(edited(edited(job, 0, field::tip_edge, "chamfer 0.3"), 0, field::tip_edge, "sharp"), 0)
              .tip_edge == TipEdge::sharp);
    for (const auto& [field, text] :
         {std::pair{field::teeth, "4"}, std::pair{field::teeth, "19.5"}, std::pair{field::module, "0"},
          std::pair{field::pressure_angle, "50"}, std::pair{field::helix_angle, "80"},
          std::pair{field::basic_rack, "Q"}, std::pair{field::tip_edge, "blunt"},
          std::pair{field::profile_shift, "abc"}, std::pair{field::near_end, "chamfer 45"}}) {
        INFO(text);
        CHECK_THROWS_AS(edited(job, 0, field, text), InputError);
    }
    // every field comes back as it can be typed again
    for (const Field f : {field::module, field::teeth, field::pressure_angle, field::helix_angle,
                          field::profile_shift, field::basic_rack, field::tip_shortening, field::tip_edge})
        CHECK(spec(edited(job, 0, f, field_text(job, 0, 0, f, LengthUnit::millimetre).c_str()), 0) ==
              spec(job, 0));
}

TEST_CASE("a piece that goes by its designation goes on doing so, its mate too") {
    Job job = add_mate(job_with({"gear m2 z19 b12"}), 0, 0, Mate::rack);
    CHECK(job.pieces[0].name == "gear m2 z19 a20 b12");
    job = edited(job, 0, field::teeth, "43");
    CHECK(job.pieces[0].name == "gear m2 z43 a20 b12");
    job = edited(job, 1, field::teeth, "25");
    CHECK(job.pieces[1].name.find("rack m2 z25") == 0);
    job = edited(job, 0, field::module, "3"); // the rack follows
    CHECK(job.pieces[1].name.find("rack m3 z25") == 0);
    job = edited(job, 0, field::piece_name, "Pinion");
    job = edited(job, 0, field::teeth, "11");
    CHECK(job.pieces[0].name == "Pinion");
    CHECK(add_mate(job, 0, 0).pieces.back().name == "Gear for Pinion");
}

TEST_CASE("a whole wheel is written in one line: bore, keyway, web") {
    const Piece p = piece_of("gear m2 z60 b20 web bore 16 key");
    const ResolvedPiece r = resolve_piece(p, {});
    REQUIRE(r.zones.size() == 2);
    CHECK(r.zones[0].web);
    CHECK(r.zones[1].in_bore());
    CHECK(r.zones[1].diameter == mm(16));
    CHECK(in_mm(r.zones[1].keyway()->width) == 5);
    CHECK(in_inch(resolve_piece(piece_of("gear dp12 z30 b1/2 bore 3/8"), {}).zones[1].diameter) ==
          Approx(0.375));
    for (const char* wrong : {"gear m2 z60 key", "internal gear m2 z60 bore 16", "gear m2 z60 bore",
                              "gear m2 z60 bore 5 key", "gear m2 z60 bore -3"}) {
        INFO(wrong);
        CHECK_THROWS_AS(resolve_piece(piece_of(wrong), {}), InputError);
    }
    // a zone alone does not take it
    CHECK_THROWS_AS(respec_zone(job_with({"gear m2 z20 b12"}), 0, 0, parse_designation("gear m2 z20 bore 8")),
                    InputError);
}

TEST_CASE("gears are saved and read back") {
    Job job = job_with({"gear m1.25 z19 a25 helix 15 LH x0.2 rack C k0.02 tip chamfer 0.1 thin 0.03 b12",
                        "internal gear dp12 z60 b0.5", "gear m2 z20 rack 1/1.3/0.2 b8", "gear m2 z40 b8"});
    job = add_pair(job, {2, 0}, {3, 0});
    job = apply(job, Edit{2, 0, field::centre_distance, "60.1", LengthUnit::millimetre});
    CHECK(job_from_json(job_to_json(job)) == job);
    CHECK_THROWS_AS(add_pair(job_with({"gear m2 z20", "M10 x 20"}), {0, 0}, {1, 0}), InputError);
    // what a file may not hold
    std::string text = job_to_json(job);
    text.replace(text.find("\"teeth\": \"19\""), 13, "\"teeth\": \"4\"");
    CHECK_THROWS_AS(job_from_json(text), InputError);
}

TEST_CASE("a wheel follows its pinion, until it is given a mind of its own") {
    Job job = add_mate(job_with({"gear m2 z19 helix 15 LH b12"}), 0, 0, Mate::gear, 73);
    CHECK(spec(job, 1).teeth == 73);
    CHECK(spec(job, 1).hand == Hand::right);
    CHECK(in_mm(resolve_length(job.pieces[1].zones[0].length, {})) == Approx(12));
    job = edited(job, 0, field::module, "3");
    CHECK(spec(job, 1).module == mm(3));
    job = edited(job, 0, field::hand, "right");
    CHECK(spec(job, 1).hand == Hand::left);
    job = edited(job, 1, field::teeth, "40"); // its own business
    job = edited(job, 0, field::pressure_angle, "25");
    CHECK(in_deg(spec(job, 1).pressure_angle) == Approx(25));
    job = edited(job, 1, field::module, "4");
    job = edited(job, 0, field::module, "2");
    CHECK(spec(job, 1).module == mm(4));
    CHECK(found(check_pairs(job, 0), "mesh_module"));
    // a pinion inside a ring has its hand
    const Job ring = add_mate(job_with({"internal gear m2 z73 helix 10 LH b12"}), 0, 1, Mate::gear, 24);
    CHECK(spec(ring, 1).hand == Hand::left);
    CHECK_FALSE(spec(ring, 1).internal);
}

TEST_CASE("a rack's teeth follow from its length, or its length from the teeth") {
    Job job = job_with({"rack m2 z20 b20 h20 plain 10"});
    const auto rack = [&] { return *resolve_piece(job.pieces[0], resolve_names(job)).zones[0].rack(); };
    CHECK(rack().teeth == 20);
    job = edited(job, 0, field::length, "150");
    CHECK(rack().length == Approx(150));
    CHECK(rack().teeth == 19);
    job = set_value(job, "n", {"5", {}});
    job = edited(job, 0, field::teeth, "2*n");
    CHECK(rack().teeth == 10);
    CHECK(field_text(job, 0, 0, field::length, LengthUnit::millimetre).empty());
    job = edited(job, 0, field::near_plain, "");
    CHECK(rack().first_space == 0);
    job = edited(job, 0, field::body_height, "1", LengthUnit::inch);
    CHECK(in_mm(rack().spec.height) == Approx(25.4));
    job = edited(job, 0, field::helix_angle, "-12");
    CHECK(rack().spec.hand == Hand::left);
    CHECK(job_from_json(job_to_json(job)) == job);
    CHECK(zone_designation(job.pieces[0].zones[0], job) ==
          "rack m2 z10 a20 helix 12 LH plain 0/10 b20 h25.4");
    for (const auto& [field, text] :
         {std::pair{field::teeth, "0"}, std::pair{field::length, "3"}, std::pair{field::face_width, "0"},
          std::pair{field::near_plain, "-1"}, std::pair{field::body_height, "x"}}) {
        INFO(text);
        CHECK_THROWS_AS(edited(job, 0, field, text), InputError);
    }
    // it is a piece of its own
    CHECK_THROWS_AS(split_zone(job, 0, 0), InputError);
    CHECK_THROWS_AS(insert_zone(job, 0, 1, zone_of(parse_designation("round 10 x 10"))), InputError);
    CHECK_THROWS_AS(edited(job_with({"gear m2 z20"}), 0, field::face_width, "10"), InputError);
}

TEST_CASE("mates are made in one step and follow: a rack, a ring, a gear for a rack") {
    Job job = add_mate(job_with({"gear m2 z19 helix 15 LH b12"}), 0, 0, Mate::rack);
    const auto rack = [&] { return resolve_piece(job.pieces[1], resolve_names(job)).zones[0].rack()->spec; };
    CHECK(rack().teeth == 19);
    CHECK(rack().hand == Hand::right);
    CHECK(rack().width == mm(12));
    CHECK(check_pairs(job, 0).empty());
    for (const char* z : {"43", "11", "19"}) { // the rack keeps its teeth, and the pair its sense
        job = edited(job, 0, field::teeth, z);
        job = edited(job, 0, field::profile_shift, z == std::string("11") ? "0.4" : "0");
        const auto mesh = mesh_of_pair(job, job.pairs[0], resolve_names(job));
        REQUIRE(mesh);
        CHECK(mesh->mesh.runs());
    }
    job = edited(job, 0, field::module, "3");
    CHECK(rack().module == mm(3));
    job = edited(job, 1, field::module, "2.5");
    CHECK_FALSE(job.pairs[0].follows);
    CHECK(found(check_pairs(job, 1), "mesh_module"));

    const Job ring = add_mate(job_with({"gear m1 z20 helix 10 RH b12"}), 0, 0, Mate::ring);
    CHECK(spec(ring, 1, 1).internal);
    CHECK(spec(ring, 1, 1).teeth == 60);
    CHECK(spec(ring, 1, 1).hand == Hand::right);
    const auto inside = mesh_of_pair(ring, ring.pairs[0], {});
    REQUIRE(inside);
    CHECK(inside->mesh.internal);

    const Job back = add_counterpart(job_with({"rack m2 z30 b15 h15"}), 0, 0);
    CHECK(spec(back, 1).teeth == 20);
    CHECK(check_pairs(back, 0).empty());
    CHECK_THROWS_AS(add_mate(back, 0, 0, Mate::rack), InputError);
    CHECK_THROWS_AS(add_mate(ring, 1, 1, Mate::rack), InputError);
    CHECK_THROWS_AS(add_pair(job_with({"rack m2 z30", "rack m2 z20"}), {0, 0}, {1, 0}), InputError);
    CHECK_THROWS_AS(add_pair(job_with({"rack m2 z30", "internal gear m2 z60"}), {0, 0}, {1, 1}), InputError);
}

TEST_CASE("a train says how everything turns, and when it locks") {
    // 17:51 on one arbor with 20, which moves a rack
    Job job = job_with({"gear m1 z17 b5", "gear m1 z51 b5", "rack m2 z40"});
    Zone pinion =
        zone_of({.what = parse_gear("gear m2 z20").spec, .length = mm(8), .unit = LengthUnit::millimetre});
    job = insert_zone(job, 1, 1, pinion);
    job = add_pair(job, {0, 0}, {1, 0});
    job = add_pair(job, {1, 1}, {2, 0});
    const Train t = train_of(job, 0);
    REQUIRE(t.members.size() == 3);
    CHECK(t.members[1].turns == Approx(-1.0 / 3));
    CHECK(t.members[2].rack);
    CHECK(t.members[2].travel == Approx(-40 * 3.14159265358979 / 3));
    CHECK(t.members[2].by == 1);
    CHECK_FALSE(t.locked_by);
    // the other way round: a turn of the arbor, and over the rack to another gear on it
    CHECK(train_of(job, 1).members[1].turns == Approx(-3));
    job = add_piece(job, piece_of("gear m2 z40 b8"));
    job = add_pair(job, {3, 0}, {2, 0});
    CHECK(train_of(job, 0).members[3].turns == Approx(-1.0 / 6));
    CHECK(check_pairs(job, job.pieces.size()).empty());

    // a centre distance goes to the pair it was typed for
    Edit distance{0, 0, field::centre_distance, "38", LengthUnit::millimetre};
    Job two = add_pair(job_with({"gear m1 z20 b5", "gear m1 z30 b5", "gear m1 z50 b5"}), {0, 0}, {1, 0});
    two = add_pair(two, {0, 0}, {2, 0});
    distance.pair = 1;
    two = apply(two, distance);
    CHECK(two.pairs[0].centre.text.empty());
    CHECK(two.pairs[1].centre.text == "38");
    CHECK(field_text(two, 0, 0, field::centre_distance, LengthUnit::millimetre, 1) == "38");
    CHECK(field_text(two, 0, 0, field::centre_distance, LengthUnit::millimetre).empty());

    // a ring of three gears can't turn; of four it can
    Job ring = job_with({"gear m1 z20 b5", "gear m1 z30 b5", "gear m1 z40 b5", "gear m1 z25 b5"});
    ring = add_pair(add_pair(ring, {0, 0}, {1, 0}), {1, 0}, {2, 0});
    CHECK_FALSE(train_of(ring, 0).locked_by);
    CHECK(found(check_pairs(add_pair(ring, {2, 0}, {0, 0}), 0), "train_locks"));
    const Job four = add_pair(add_pair(ring, {2, 0}, {3, 0}), {3, 0}, {0, 0});
    CHECK_FALSE(found(check_pairs(four, four.pieces.size()), "train_locks"));
}

TEST_CASE("every remedy of a gear mends what it was offered for") {
    const auto mends = [](Job job, const std::string& id, std::size_t piece = 0) {
        auto findings = check_piece(resolve_piece(job.pieces[piece], resolve_names(job)), piece, job.unit);
        const auto pairs = check_pairs(job, piece);
        findings.insert(findings.end(), pairs.begin(), pairs.end());
        INFO(id);
        const auto it =
            std::find_if(findings.begin(), findings.end(), [&](const Finding& f) { return f.id == id; });
        REQUIRE(it != findings.end());
        INFO(it->sentence);
        REQUIRE(it->remedy);
        const Job after = apply(job, *it->remedy);
        auto left = check_piece(resolve_piece(after.pieces[piece], resolve_names(after)), piece, after.unit);
        const auto more = check_pairs(after, piece);
        left.insert(left.end(), more.begin(), more.end());
        CHECK_FALSE(found(left, id));
        CHECK_FALSE(stops(left));
    };
    mends(job_with({"gear m2 z12 b10"}), "undercut");
    mends(job_with({"gear m2 z9 x0.8 b10"}), "pointed_tip");
    mends(job_with({"gear m2 z14 x0.75 b10"}), "thin_tip");
    mends(job_with({"gear m2.1 z30 b10"}), "module_not_preferred");
    mends(job_with({"gear m2 z24 tip round 1.2 b10"}), "tip_edge");
    mends(job_with({"internal gear m2 z30 b10"}), "tip_below_base");
    const auto pair = [](const char* a, const char* b) { return add_pair(job_with({a, b}), {0, 0}, {1, 0}); };
    mends(pair("gear m2 z19", "gear m3 z40"), "mesh_module");
    mends(pair("gear m2 z19", "gear m2 z40 a25"), "mesh_pressure_angle");
    mends(pair("gear m2 z19 helix 10", "gear m2 z40"), "mesh_helix");
    mends(pair("gear m2 z19 helix 10 LH", "gear m2 z40 helix 10 LH"), "mesh_hand");
    mends(pair("gear m2 z20 x0.2 rack 1/1.05/0.4", "gear m2 z80 x0.1 rack 1.15/1.25/0.3"),
          "mesh_root_contact");
    mends(apply(pair("gear m2 z19", "gear m2 z73"),
                Edit{0, 0, field::centre_distance, "91", LengthUnit::millimetre}),
          "mesh_centre");
    mends(pair("gear m2 z11", "rack m2 z30"), "mesh_contact_ratio");
    mends(pair("gear m2 z10", "gear m2 z80"), "mesh_contact_ratio");
    mends(pair("gear m2 z12", "gear m2 z12"), "mesh_contact_ratio");
    mends(job_with({"rack m2 z20 h4"}), "no_body");
    mends(job_with({"rack m2 z20 h5.5"}), "thin_body");
    mends(job_with({"rack m2 z20 tip round 1.9"}), "tip_edge");
    mends(job_with({"rack m2 z20 a25 profile 1.9/1.25/0.3 h20"}), "pointed_tip");
    mends(job_with({"rack m2 z20 a25 profile 1.5/1.25/0.3 h20"}), "thin_tip");
    mends(job_with({"rack m2 z20 plain 0.5/0"}), "thin_end");
    mends(job_with({"rack m2.1 z20"}), "module_not_preferred");
    mends(pair("gear m2 z20", "rack m3 z30"), "mesh_module");
    mends(pair("gear m2 z20 helix 10 LH", "rack m2 z30 helix 10 LH"), "mesh_hand");
    mends(pair("rack m2 z30", "gear m2 z20 a25"), "mesh_pressure_angle");
    mends(pair("gear m2 z20", "rack m2 z30 profile 1/1.02/0"), "mesh_tip_clearance");
    mends(apply(pair("rack m2 z30", "gear m2 z20"),
                Edit{0, 0, field::centre_distance, "19", LengthUnit::millimetre}),
          "mesh_centre");
    mends(apply(pair("gear m2 z19", "gear m2 z73"),
                Edit{0, 0, field::centre_distance, "93", LengthUnit::millimetre}),
          "mesh_loose");
    mends(apply(pair("gear m2 z20", "rack m2 z30"),
                Edit{0, 0, field::centre_distance, "21", LengthUnit::millimetre}),
          "mesh_loose");
    // a ring's tips against its pinion
    Job ring = job_with({"gear m2 z19 b12", "internal gear m2 z73 b12"});
    mends(add_pair(ring, {0, 0}, {1, 1}), "mesh_root_contact");
}

TEST_CASE("a bore that leaves too little under the roots is named") {
    Piece p = piece_of("gear m2 z24 b10");
    Zone bore;
    bore.where = Where::near_bore;
    bore.length = {"", {}};
    diameter_of(bore) = {"41", {}}; // roots at Ø 43
    p.zones.push_back(bore);
    CHECK(found(check_piece(resolve_piece(p, {}), 0, LengthUnit::millimetre), "thin_rim"));
    diameter_of(p.zones.back()) = {"30", {}};
    CHECK_FALSE(found(check_piece(resolve_piece(p, {}), 0, LengthUnit::millimetre), "thin_rim"));
}

TEST_CASE("a rim is thin over a bore that lies under it, not over one elsewhere") {
    Job job = job_with({"gear m2 z24 b12"});
    job = insert_zone(job, 0, 1, zone_of(parse_designation("round 60 x 30")));
    Zone bore = zone_of(parse_designation("round 41 x 10"));
    bore.where = Where::far_bore; // in the shoulder behind the gear
    Job behind = job;
    behind.pieces[0].zones.push_back(bore);
    CHECK_FALSE(found(check_job(behind), "thin_rim"));
    bore.where = Where::near_bore; // and under the teeth, roots Ø 43
    Job under = job;
    under.pieces[0].zones.push_back(bore);
    CHECK(found(check_job(under), "thin_rim"));
}

TEST_CASE("a ring turns the way its pinion does, the pinion's wheel the other way") {
    Job job = job_with({"gear m1 z20 b5", "internal gear m1 z60 b5", "gear m1 z40 b5"});
    job = add_pair(job, {0, 0}, {1, 1});
    job = add_pair(job, {0, 0}, {2, 0});
    const Train t = train_of(job, 0);
    REQUIRE(t.members.size() == 3);
    CHECK(t.members[1].turns == Approx(20.0 / 60));
    CHECK(t.members[2].turns == Approx(-20.0 / 40));
    CHECK(said(t.members[1]).find("the same way") != std::string::npos);
    CHECK(said(t.members[2]).find("the other way") != std::string::npos);
    // from the ring: the pinion the same way, its wheel the other
    const Train from_ring = train_of(job, 1);
    CHECK(from_ring.members[1].turns == Approx(3));
    CHECK(from_ring.members[2].turns == Approx(-1.5));
}
