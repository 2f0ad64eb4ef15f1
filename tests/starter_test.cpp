// Starters, bores, outlines and pairs as plain values.
#include "model/edit.hpp"
#include "model/job_file.hpp"
#include "model/resolve.hpp"
#include "model/starter.hpp"

#include "zone_parts.hpp"

#include <catch2/catch.hpp>

using namespace whorl;

namespace {

ResolvedPiece made(const std::string& text) {
    return resolve_piece(piece_of(text), {});
}
const ResolvedZone& threaded(const ResolvedPiece& p) {
    for (const auto& z : p.zones)
        if (z.thread()) return z;
    throw std::runtime_error("no thread");
}

} // namespace

TEST_CASE("fasteners have the standard's sizes") {
    struct Row {
        const char* text;
        double across, height;
    };
    for (const Row& r :
         {Row{"ISO 4017 M3 x 12", 5.5, 2}, Row{"ISO 4017 M6 x 20", 10, 4}, Row{"ISO 4017 M8 x 30", 13, 5.3},
          Row{"ISO 4014 M12 x 60", 18, 7.5}, Row{"iso4017 M20 x 80", 30, 12.5}}) {
        const auto p = made(r.text);
        INFO(r.text);
        CHECK(p.zones[0].outline() == Outline::hexagon);
        CHECK(in_mm(p.zones[0].diameter) == Approx(r.across));
        CHECK(in_mm(p.zones[0].length) == Approx(r.height));
    }
    for (const Row& r :
         {Row{"ISO 4032 M6", 10, 5.2}, Row{"ISO 4032 M10", 16, 8.4}, Row{"ISO 4032 M16", 24, 14.8}}) {
        const auto p = made(r.text);
        CHECK(in_mm(p.zones[0].diameter) == Approx(r.across));
        CHECK(in_mm(p.length()) == Approx(r.height));
        CHECK(threaded(p).in_bore());
        CHECK(in_mm(threaded(p).length) == Approx(r.height));
    }
    // ISO 4762: head dk × k = d, key s, depth t
    const auto cap = made("ISO 4762 M6 x 25");
    CHECK(in_mm(cap.zones[0].diameter) == Approx(10));
    CHECK(in_mm(cap.zones[0].length) == Approx(6));
    const auto socket = cap.chain(Where::near_bore);
    CHECK(in_mm(cap.zones[socket[0]].diameter) == Approx(5));
    CHECK(in_mm(cap.zones[socket[0]].length) == Approx(3));
    CHECK(in_mm(cap.length()) == Approx(31));
    // ISO 888: b = 2d + 6
    CHECK(in_mm(threaded(made("ISO 4014 M12 x 80")).length) == Approx(30));
}

TEST_CASE("a starter that lacks something says what") {
    for (const char* bad : {"ISO 4017", "ISO 4017 M8", "ISO 4017 M11 x 20", "ISO 4762 Tr20x4 x 30", "nut",
                            "nut 17", "nipple R1/2 x 10", "stud M10 nonsense"}) {
        INFO(bad);
        try {
            (void)piece_of(bad);
            FAIL_CHECK("was accepted");
        } catch (const InputError& e) {
            CHECK(std::string(e.what()).size() > 20);
            CHECK(e.position <= std::string(bad).size());
        }
    }
    CHECK(is_starter("lead screw Tr16x4"));
    CHECK_FALSE(is_starter("M10"));
    CHECK_FALSE(is_starter("nutty"));
}

TEST_CASE("a designation of an internal thread makes a tapped ring") {
    const auto p = made("M10-6H x 8");
    CHECK(in_mm(p.length()) == Approx(8));
    CHECK(threaded(p).in_bore());
    CHECK(threaded(p).thread()->side == Side::internal);
}

TEST_CASE("completions begin with what is typed and can be made") {
    for (const char* begun : {"ISO", "nu", "Tr2", "G1", "ISO 4762 M", "1/2-14"}) {
        const auto all = complete_piece(begun);
        INFO(begun);
        CHECK_FALSE(all.empty());
        for (const auto& s : all) {
            INFO(s);
            CHECK(s.starts_with(begun));
        }
    }
    CHECK_NOTHROW(piece_of(complete_piece("nut Tr").front()));
}

TEST_CASE("bores chain from their faces, and an empty length goes through") {
    Piece p = piece_of("round 30 x 40");
    Zone near, far, through;
    near.where = Where::near_bore;
    diameter_of(near).text = "10";
    near.length.text = "12";
    far = near;
    far.where = Where::far_bore;
    far.length.text = "5";
    p.zones.push_back(near);
    p.zones.push_back(far);
    auto r = resolve_piece(p, {});
    CHECK(in_mm(r.zones[1].start) == 0);
    CHECK(in_mm(r.zones[2].start) == Approx(35));
    CHECK(in_mm(r.length()) == Approx(40));
    through = near;
    through.length.text = "";
    diameter_of(through).text = "6";
    p.zones = {p.zones[0], near, through};
    r = resolve_piece(p, {});
    CHECK(in_mm(r.zones[2].start) == Approx(12));
    CHECK(in_mm(r.zones[2].end()) == Approx(40));
}

TEST_CASE("tapered threads have their small end outwards, their mouth wide") {
    const auto nipple = made("nipple R1/2 x 60");
    const auto ends = nipple.chain(Where::outer);
    const auto &first = nipple.zones[ends.front()], &last = nipple.zones[ends.back()];
    CHECK(first.taper() == Approx(1.0 / 32));
    CHECK(last.taper() == Approx(-1.0 / 32));
    CHECK(in_mm(first.taper_from()) == Approx(8.2));
    CHECK(in_mm(last.taper_from()) == Approx(60 - 8.2));
    const auto socket = threaded(made("Rc1/2 x 16"));
    CHECK(socket.taper() == Approx(-1.0 / 32)); // narrows away from the mouth at the near face
    CHECK(in_mm(socket.taper_from()) == 0);
}

TEST_CASE("a class of the wrong side is refused where it stands") {
    Piece p = piece_of("nut M10");
    thread_of(p.zones[1]).tolerance_class = "6g";
    CHECK_THROWS_AS(resolve_piece(p, {}), JobError);
    Piece q = piece_of("M10");
    thread_of(q.zones[0]).tolerance_class = "6H";
    CHECK_THROWS_AS(resolve_piece(q, {}), JobError);
}

TEST_CASE("a counterpart follows its original until it is edited itself") {
    Job j = add_piece({}, piece_of("M10-6g LH x 40"));
    j = add_counterpart(j, 0, 0);
    REQUIRE(j.pieces.size() == 2);
    REQUIRE(j.pairs.size() == 1);
    const ZoneRef nut = j.pairs[0].second;
    const auto thread = [&](const Job& job) {
        return *job.pieces[nut.piece].zones[nut.zone].as<ThreadForm>();
    };
    CHECK(thread(j).hand == Hand::left);
    CHECK(thread(j).tolerance_class == "6H");
    Job k = apply(j, {0, 0, field::pitch, "1", LengthUnit::millimetre});
    CHECK(thread(k).pitch.text == "1");
    k = apply(k, {0, 0, field::starts, "2", LengthUnit::millimetre});
    CHECK(thread(k).starts == 2);
    k = respec_zone(k, 0, 0, parse_designation("Tr12x3-7e"));
    CHECK(thread(k).family == ThreadFamily::trapezoidal);
    CHECK(thread(k).tolerance_class == "7H");
    // edited itself: it stops following
    k = apply(k, {nut.piece, nut.zone, field::hand, "left", LengthUnit::millimetre});
    CHECK_FALSE(k.pairs[0].follows);
    k = apply(k, {0, 0, field::pitch, "2", LengthUnit::millimetre});
    CHECK(thread(k).pitch.text == "3");
    CHECK_THROWS_AS(add_counterpart(add_piece({}, piece_of("round 10 x 5")), 0, 0), InputError);
}

TEST_CASE("pairs keep to their zones through every renumbering") {
    Job j = add_piece({}, piece_of("M10-6g x 40"));
    j = add_counterpart(j, 0, 0);
    j = insert_zone(j, 0, 0, zone_of(parse_designation("round 10 x 10")));
    CHECK(j.pairs[0].first == ZoneRef{0, 1});
    j = move_zone(j, 0, 1, 0);
    CHECK(j.pairs[0].first == ZoneRef{0, 0});
    j = split_zone(j, 0, 0);
    CHECK(j.pairs[0].first == ZoneRef{0, 0});
    Job k = add_piece(j, piece_of("round 5 x 5"));
    k = remove_piece(k, 2);
    CHECK(k.pairs.size() == 1);
    CHECK(remove_piece(k, 1).pairs.empty());
    CHECK(remove_zone(k, 0, 0).pairs.empty());
    CHECK(respec_zone(k, 0, 0, parse_designation("round 10 x 5")).pairs.empty()); // no thread is left there
    CHECK(job_from_json(job_to_json(k)) == k);
    CHECK_THROWS_AS(add_pair(k, {0, 0}, {0, 1}), InputError);
}

TEST_CASE("a relief groove of DIN 76 takes its width from the thread") {
    Job j = add_piece({}, piece_of("ISO 4014 M12 x 60"));
    const ResolvedPiece before = resolve_piece(j.pieces[0], {});
    std::size_t at = 0;
    while (!before.zones[at].thread())
        ++at;
    j = add_relief_groove(j, 0, at, false);
    const ResolvedPiece after = resolve_piece(j.pieces[0], {});
    REQUIRE(after.zones.size() == before.zones.size() + 1);
    CHECK(in_mm(after.length()) == Approx(in_mm(before.length())));
    CHECK(in_mm(after.zones[at].diameter) == Approx(12 - 2.6)); // P 1.75
    CHECK(in_mm(after.zones[at].length) == Approx(6.1));
    CHECK(after.zones[at + 1].thread());
    CHECK_THROWS_AS(add_relief_groove(j, 0, at, true), InputError);
    CHECK_THROWS_AS(add_relief_groove(add_piece({}, piece_of("M12 x 8")), 0, 0, true), InputError);
    // a formula stays one
    Job k = set_value(add_piece({}, piece_of("M12 x 40")), "reach", {"40 mm", {}});
    k = apply(k, {0, 0, field::length, "reach", LengthUnit::millimetre});
    k = add_relief_groove(k, 0, 0, true);
    k = set_value(k, "reach", {"50 mm", {}});
    CHECK(in_mm(resolve_piece(k.pieces[0], resolve_names(k)).length()) == Approx(50));
}

TEST_CASE("a piece that goes by its line follows its length, a name of one's own stays") {
    const auto with_length = [](Job job, const char* length) {
        std::size_t zone = 0;
        while (!job.pieces[0].zones[zone].as<ThreadForm>())
            ++zone;
        return apply(job, {0, zone, field::length, length, LengthUnit::millimetre});
    };
    const Job screw = add_piece({}, piece_of("ISO 4762 M10 x 25"));
    REQUIRE(screw.pieces[0].name == "ISO 4762 M10 x 25");
    CHECK(with_length(screw, "40").pieces[0].name == "ISO 4762 M10 x 40");
    CHECK(with_length(with_length(screw, "40"), "25").pieces[0].name == "ISO 4762 M10 x 25");
    Job own = screw;
    own.pieces[0].name = "Lid screw x 25";
    CHECK(with_length(own, "40").pieces[0].name == "Lid screw x 25");
    CHECK(with_length(add_piece({}, piece_of("M10 x 25")), "40").pieces[0].name.find("x 40") !=
          std::string::npos);
    // what does not change the length does not change the name
    std::size_t thread = 0;
    while (!screw.pieces[0].zones[thread].as<ThreadForm>())
        ++thread;
    const Job finer = apply(screw, {0, thread, field::tolerance_class, "6h", LengthUnit::millimetre});
    CHECK(finer.pieces[0].name == "ISO 4762 M10 x 25");
}

TEST_CASE("starters take their words in the trade's usual orders") {
    const auto same = [](const char* a, const char* b) {
        INFO(a);
        Piece p = piece_of(a), q = piece_of(b);
        CHECK(p.zones == q.zones);
    };
    same("ISO 4014 M8x60", "ISO 4014 M8 x 60");
    same("ISO 4762 M6x25", "ISO 4762 M6 x 25");
    same("thumb screw M5x16", "thumb screw M5 x 16");
    same("ISO 4762 M5 x 80 LH", "ISO 4762 M5 LH x 80");
    same("elbow 1/2 NPT 90", "elbow 1/2-14 NPT 90");
    same("cup 3 x 4 in", "cup 76.2 x 101.6");
    const ResolvedPiece smooth = made("bottle 70 x 180 without flutes"), fluted = made("bottle 70 x 180");
    REQUIRE(smooth.zones[0].silhouette());
    CHECK_FALSE(smooth.zones[0].silhouette()->spec.flutes);
    CHECK(fluted.zones[0].silhouette()->spec.flutes);
    CHECK(smooth.zones.size() == 2); // it is hollow all the same
    CHECK_NOTHROW(made("cup 90 x 70, dish 80"));
    const ResolvedPiece wide = made("elbow G1/2 90 r60");
    CHECK(wide.zones[1].bend()->radius == Approx(60));
    CHECK_THROWS_WITH(piece_of("elbow G1/2 90 r5"), Catch::Matchers::Contains("bent round"));
    CHECK_THROWS_WITH(piece_of("u-clamp 1/4-20 UNC for 50 x 76"),
                      Catch::Matchers::Contains("50 in") && Catch::Matchers::Contains("50 mm"));
    CHECK_NOTHROW(piece_of("u-clamp 1/4-20 UNC for 2 x 3"));
}

TEST_CASE("inch starters give round inches") {
    const auto sixteenths = [](Length l) { return in_inch(l) * 16; };
    for (const char* text : {"nut 1/2-13 UNC", "nut 3/8-16 UNC", "nut 1/4-20 UNC"}) {
        INFO(text);
        const ResolvedPiece p = made(text);
        CHECK(sixteenths(p.zones[0].length) == Approx(std::round(sixteenths(p.zones[0].length))));
        CHECK(sixteenths(p.zones[0].diameter) == Approx(std::round(sixteenths(p.zones[0].diameter))));
    }
    CHECK(in_inch(made("nut 1/2-13 UNC").zones[0].diameter) == Approx(0.75));
    CHECK(in_inch(made("nut 1/2-13 UNC").zones[0].length) == Approx(0.5));
    const ResolvedPiece clamp = made("u-clamp 1/4-20 UNC for 2 x 3");
    CHECK(sixteenths(clamp.zones[0].length) == Approx(std::round(sixteenths(clamp.zones[0].length))));
}

TEST_CASE("a blind hole is drilled by the drill before tapping") {
    for (const auto& [text, drill] : {std::pair{"blind M5 x 12", 4.2},
                                      {"blind M6 x 12", 5.0},
                                      {"blind M8 x 20", 6.8},
                                      {"blind M10 x 20", 8.5},
                                      {"blind M12 x 25", 10.2},
                                      {"blind M16 x 30", 14.0},
                                      {"blind M10x1 x 20", 9.0}}) {
        INFO(text);
        CHECK(in_mm(made(text).zones.back().diameter) == Approx(drill));
    }
}

TEST_CASE("a section may be one arc: a half circle") {
    OwnSection half{"half", {{-0.25, 0, -0.25}, {0.25, 0, 0}}};
    CHECK_NOTHROW(require_usable(half));
    ThreadSpec s;
    s.family = ThreadFamily::own;
    s.own_section = half;
    s.diameter = mm(20);
    s.pitch = mm(4);
    s.tolerance_class = "";
    const ThreadSection section = resolve_thread(s).section;
    CHECK(section.sweepable());
    CHECK(section.depth() == Approx(1)); // a quarter of the pitch
    half.points[0].bow = 0;
    CHECK_THROWS_WITH(require_usable(half), Catch::Matchers::Contains("2 with an arc"));
}
