#include "model/edit.hpp"
#include "model/job_file.hpp"
#include "model/resolve.hpp"
#include "model/row.hpp"
#include "model/starter.hpp"

#include "zone_parts.hpp"

#include <catch2/catch.hpp>
#include <sstream>

using namespace whorl;

namespace {
Job stud() {
    return add_piece({}, parse_designation("M10x1.5-6g x 40"));
}
Job with(const Job& j, Field f, const std::string& text, LengthUnit u = LengthUnit::millimetre) {
    return apply(j, {0, 0, f, text, u});
}
ResolvedZone zone(const Job& j) {
    return resolve_piece(j.pieces[0], resolve_names(j)).zones[0];
}
} // namespace

TEST_CASE("a designation becomes a zone and back") {
    const Job j = stud();
    CHECK(zone_designation(j.pieces[0].zones[0], j) == "M10x1.5-6g x 40");
    CHECK(zone(j).near_end.kind == EndKind::chamfer);
    CHECK(zone(j).near_end.follows);
    // the chamfer that follows ends just below the root
    const double root = 2 * zone(j).thread()->section.root_radius;
    CHECK(in_mm(zone(j).near_end.diameter) < root);
    CHECK(in_mm(zone(j).near_end.diameter) > root - 0.1);
}

TEST_CASE("edits change one thing and leave the job they came from alone") {
    const Job j = stud();
    const Job k = with(j, field::pitch, "1.25");
    CHECK(zone(k).thread()->section.pitch == 1.25);
    CHECK(zone(j).thread()->section.pitch == 1.5);
    CHECK(with(j, field::hand, "left").pieces[0].zones[0].as<ThreadForm>()->hand == Hand::left);
    CHECK(with(j, field::starts, "1+1").pieces[0].zones[0].as<ThreadForm>()->starts == 2);
    CHECK(zone(with(j, field::lead, "3")).thread()->section.pitch == 3);
    CHECK(zone(with(with(j, field::starts, "2"), field::lead, "3")).thread()->section.pitch == 1.5);
    CHECK(in_mm(zone(with(j, field::length, "1 1/2", LengthUnit::inch)).length) == Approx(38.1));
    CHECK(with(j, field::modelled_at, "max").pieces[0].zones[0].as<ThreadForm>()->modelled_at ==
          ModelledAt::maximum_material);
    CHECK(with(j, field::piece_name, "  Pillar ").pieces[0].name == "Pillar");
    CHECK(with(j, field::piece_finish, "Steel").pieces[0].finish == "steel");
    // a colour alone keeps the material, whose mass it has
    const Piece own = with(with(j, field::piece_finish, "steel"), field::piece_finish, "#7a5aa8").pieces[0];
    CHECK(own.finish == "steel #7A5AA8");
    CHECK(finish_of(own).red == Approx(0x7A / 255.0));
    CHECK(finish_of(own).green == Approx(0x5A / 255.0));
    CHECK(finish_of(own).blue == Approx(0xA8 / 255.0));
    CHECK(finish_of(own).density == 7.85);
    CHECK(with(j, field::piece_finish, "pla").pieces[0].finish == "PLA");
    CHECK_THROWS_WITH(with(j, field::piece_finish, "#7A5A"), Catch::Contains("six digits"));
    CHECK_THROWS_WITH(with(j, field::piece_finish, "gold #7A5AA8"), Catch::Contains("There is no finish"));
    const Job deep = with(j, field::depth, "0.5");
    CHECK(zone(deep).thread()->section.depth() == Approx(0.5));
    CHECK(with(deep, field::depth, "") == j); // handed back
}

TEST_CASE("ends are typed in words") {
    const Job j = stud();
    CHECK(zone(with(j, field::far_end, "flat")).far_end.kind == EndKind::flat);
    const auto c = zone(with(j, field::far_end, "chamfer 30 8.1")).far_end;
    CHECK(in_deg(c.angle) == Approx(30));
    CHECK(in_mm(c.diameter) == Approx(8.1));
    CHECK(in_mm(zone(with(j, field::far_end, "chamfer 30°, Ø 8.1")).far_end.diameter) == Approx(8.1));
    CHECK(zone(with(j, field::near_end, "run-out 0.75 turns")).near_end.turns == 0.75);
    // what is shown can be typed back
    for (const char* text :
         {"flat", "chamfer 30 8.1", "chamfer 45", "run-out 0.5", "rounded", "rounded 12"}) {
        const Job k = with(j, field::far_end, text);
        CHECK(field_text(k, 0, 0, field::far_end, LengthUnit::millimetre) == text);
        CHECK(with(k, field::far_end, field_text(k, 0, 0, field::far_end, LengthUnit::millimetre)) == k);
    }
}

TEST_CASE("a rounded end is a dome of 1.4 d on the circle below the root, with the cone that touches it") {
    const Job j = with(stud(), field::far_end, "rounded");
    const ResolvedEnd e = zone(j).far_end;
    CHECK(e.is_dome());
    CHECK(in_mm(e.dome_radius) == Approx(1.4 * in_mm(zone(j).diameter))); // ISO 4753, RN
    CHECK(e.follows);
    const double base = in_mm(e.diameter) / 2;
    CHECK(base < zone(j).thread()->section.root_radius);
    // at the height of the dome its radius is the base's, and there dr/dz is the cone's
    const double h = in_mm(e.dome_height), step = 1e-6;
    CHECK(in_mm(e.radius_at(h)) == Approx(base));
    CHECK(in_mm(e.radius_at(0)) == Approx(in_mm(e.tip_diameter) / 2));
    CHECK((base - in_mm(e.radius_at(h - step))) / step == Approx(std::tan(in_rad(e.angle))).epsilon(1e-4));
    // a hemisphere is the least radius that reaches over a plain zone
    const Job plain = add_piece({}, parse_designation("round 12 x 30"));
    CHECK(in_mm(zone(with(plain, field::near_end, "rounded 6")).near_end.dome_height) ==
          Approx(6 - (6 - std::sqrt(36 - 0.06 * 0.06))));
    CHECK_THROWS_WITH(with(plain, field::near_end, "rounded 5.9"), Catch::Contains("between 6 mm"));
    CHECK_THROWS_WITH(with(plain, field::near_end, "rounded 49"), Catch::Contains("48 mm"));
    CHECK_THROWS_WITH(with(plain, field::near_end, "rounded 9 9"), Catch::Contains("one number"));
    const Job bored = add_bores(plain, 0, piece_of("clearance M3"), false);
    CHECK_THROWS_WITH(apply(bored, {0, 1, field::near_end, "rounded", LengthUnit::millimetre}),
                      Catch::Contains("Only the outside"));
}

TEST_CASE("a taper is asked for by ratio, by the cone's angle or by the small end's diameter") {
    const Job j = stud(); // one zone: the small end is the near one, the diameter holds at the far one
    const double d = in_mm(zone(j).diameter), l = in_mm(zone(j).length);
    const auto small_end = [&](const std::string& text) {
        const ResolvedZone z = zone(with(j, field::taper, text));
        CHECK(z.taper_from() == (z.taper() > 0 ? z.end() : z.start));
        return d - 2 * std::abs(z.taper()) * l;
    };
    CHECK(small_end("1:16") == Approx(d - l / 16));
    CHECK(small_end("-1:16") == Approx(d - l / 16));
    CHECK(zone(with(j, field::taper, "1:16")).taper() > 0);
    CHECK(zone(with(j, field::taper, "-1:16")).taper() < 0);
    CHECK(small_end("4°") == Approx(d - 2 * l * std::tan(in_rad(deg(2)))));
    CHECK(small_end("to 9") == Approx(9));
    CHECK(small_end("to Ø 8.5") == Approx(8.5));
    CHECK(with(with(j, field::taper, "1:16"), field::taper, "none") == j);
    // an end diameter stays when the length changes, a ratio does too
    const ResolvedZone longer = zone(with(with(j, field::taper, "to 9"), field::length, "80"));
    CHECK(d - 2 * longer.taper() * 80 == Approx(9));
    CHECK(zone(with(with(j, field::taper, "1:16"), field::length, "80")).taper() == Approx(1.0 / 32));
    // the chamfer goes below the root at each end
    const ResolvedZone z = zone(with(with(j, field::taper, "to 9"), field::far_end, "chamfer 45"));
    CHECK(in_mm(z.far_end.diameter) - in_mm(z.near_end.diameter) == Approx(d - 9).margin(0.11));
    for (const char* text : {"1:0", "1:2", "40°", "to 11", "to", "x", "1:", "to 0.1"}) {
        INFO(text);
        CHECK_THROWS_AS(with(j, field::taper, text), InputError);
    }
    // the counterpart has the ratio, not the end's diameter
    const Job both = add_counterpart(with(j, field::taper, "to 9"), 0, 0);
    const ZoneRef nut = both.pairs.back().second;
    const ResolvedZone in_nut = resolve_piece(both.pieces[nut.piece], {}).zones[nut.zone];
    CHECK(std::abs(in_nut.taper()) == Approx((d - 9) / l / 2));
    CHECK(in_nut.taper_from() == in_nut.start); // its mouth
    CHECK(zone_designation(both.pieces[nut.piece].zones[nut.zone], both).find(" taper 1:") !=
          std::string::npos);
    const Job pipe = add_piece({}, parse_designation("R1/2"));
    CHECK_THROWS_WITH(with(pipe, field::taper, "1:10"), Catch::Contains("by its standard"));
}

TEST_CASE("what can't be is refused and nothing changes") {
    const Job j = stud();
    for (const auto& [f, text] : std::vector<std::pair<Field, std::string>>{{field::pitch, "0"},
                                                                            {field::pitch, "-1"},
                                                                            {field::pitch, "abc"},
                                                                            {field::pitch, ""},
                                                                            {field::length, "1e9"},
                                                                            {field::length, "0"},
                                                                            {field::diameter, "0.01"},
                                                                            {field::hand, "up"},
                                                                            {field::starts, "0"},
                                                                            {field::starts, "1.5"},
                                                                            {field::starts, "99"},
                                                                            {field::tolerance_class, "6H"},
                                                                            {field::tolerance_class, ""},
                                                                            {field::modelled_at, "big"},
                                                                            {field::near_end, "round"},
                                                                            {field::near_end, "chamfer 90"},
                                                                            {field::near_end, "run-out"
                                                                                              " 99"},
                                                                            {field::far_end, "flat 3"},
                                                                            {field::piece_name, ""},
                                                                            {field::piece_finish, "gold"},
                                                                            {field::depth, "-1"},
                                                                            {field::root_flat, "x"}}) {
        INFO(f.key << " '" << text << "'");
        CHECK_THROWS_AS(with(j, f, text), InputError);
    }
    Job plain = add_piece({}, parse_designation("round 10 x 10"));
    CHECK_THROWS_AS(with(plain, field::pitch, "1"), InputError);
    CHECK_THROWS_AS(with(plain, field::far_end, "run-out 1"), InputError);
}

TEST_CASE("named values are used, followed and protected") {
    Job j = set_value(stud(), "p", {"1.25 mm", {}});
    j = set_value(j, "l", {"20*p", {}});
    j = with(j, field::pitch, "p");
    j = with(j, field::length, "l + 5");
    CHECK(in_mm(zone(j).length) == Approx(30));
    j = set_value(j, "p", {"2 mm", {}});
    CHECK(zone(j).thread()->section.pitch == 2);
    CHECK(in_mm(zone(j).length) == Approx(45));
    CHECK_THROWS_AS(remove_value(j, "p"), InputError);
    CHECK_THROWS_AS(set_value(j, "p", {"0", {}}), InputError);
    CHECK_THROWS_AS(set_value(j, "2p", {"1", {}}), InputError);
    CHECK_THROWS_AS(set_value(j, "q", {"later", {}}), InputError);
    CHECK_NOTHROW(remove_value(with(j, field::length, "40"), "l"));
}

TEST_CASE("named values are those of the job at hand, however many jobs there are") {
    std::vector<Job> jobs;
    for (int i = 0; i < 9; ++i) {
        Job j = stud();
        j = set_value(j, "pitch", {"1 + " + std::to_string(i) + "/8", LengthUnit::millimetre});
        j = set_value(j, "twice", {"2*pitch", LengthUnit::millimetre});
        jobs.push_back(with(j, field::pitch, "twice/2"));
    }
    for (int round = 0; round < 2; ++round)
        for (std::size_t i = 0; i < jobs.size(); ++i)
            CHECK(zone(jobs[i]).thread()->section.pitch == Approx(1 + static_cast<double>(i) / 8));
    Job wrong = jobs[0];
    wrong.values.push_back({"third", {"twice/", LengthUnit::millimetre}});
    for (int round = 0; round < 2; ++round)
        CHECK_THROWS_WITH(resolve_names(wrong), Catch::StartsWith("values[2]"));
    // in inch a plain number is a length where one is asked, and the same text in mm is not
    Job inch = set_value(stud(), "p", {"1/16", LengthUnit::inch});
    CHECK(zone(with(inch, field::pitch, "p")).thread()->section.pitch == Approx(25.4 / 16));
    inch.values[0].number.unit = LengthUnit::millimetre;
    CHECK(in_mm(resolve_length({"p", LengthUnit::millimetre}, resolve_names(inch))) == Approx(1. / 16));
}

TEST_CASE("every word of every choice is typed, read back and kept in the file") {
    int choices = 0, words = 0;
    for (const char* text :
         {"M10x1.5-6g x 40", "gear m2 z19 helix 20 b12", "rack m2 z6 helix 15 b10 h12", "round 20 x 30",
          "hex 17 x 20", "spring d2 D20 L30 n3 closed ground", "knurl left pitch 1.6 on 10 x 6",
          "groove rect 2 x 0.8 pitch 25 on 30 x 40", "silhouette 0:12 8:16 22:10 40:14:0", "bend d8 90 r20",
          "cam r20: rise 10 in 120, dwell 60, return in 120, dwell; roller 8; b10",
          "drum cam d40 b30: rise 12 in 150, return in 150, dwell; groove 5 wide 4 deep"}) {
        const Job job = add_piece({}, piece_of(text));
        const Zone& first = job.pieces[0].zones[0];
        for (const Row& row : rows_of(first)) {
            if (!row.choice.of || (row.applies && !row.applies(first))) continue;
            INFO(text << ": " << row.shown_key());
            ++choices;
            const Words all = choices_of(row, resolve_piece(job.pieces[0], {}).zones[0]);
            CHECK(all.size() == row.choice.words.size());
            for (std::size_t i = 0; i < all.size(); ++i) {
                INFO(all[i]);
                ++words;
                Zone z = first;
                const Names none;
                set(row, z, {all[i], LengthUnit::millimetre, none});
                CHECK(text_of(row, z, {LengthUnit::millimetre, none}) == all[i]);
                CHECK(row.choice.of(z) == i);
                Job changed = job;
                changed.pieces[0].zones[0] = z;
                const Zone back = job_from_json(job_to_json(changed)).pieces[0].zones[0];
                if (row.kept.key) CHECK(row.choice.of(back) == i);
                Zone also = first;
                std::istringstream others(row.choice.words[i].also);
                for (std::string other; std::getline(others, other, '|');) {
                    set(row, also, {other, LengthUnit::millimetre, none});
                    CHECK(row.choice.of(also) == i);
                }
            }
            Zone z = first;
            CHECK_THROWS_WITH(set(row, z, {"nonsense", LengthUnit::millimetre, {}}),
                              Catch::StartsWith("Choose " + std::string(row.choice.words[0].text)) &&
                                  Catch::Contains(" or "));
        }
    }
    CHECK(choices >= 18);
    CHECK(words >= 45);
}

TEST_CASE("the unit switch converts what is read, not what was asked") {
    Job j = stud();
    CHECK(field_text(j, 0, 0, field::length, LengthUnit::inch) == "1.5748");
    CHECK(field_text(j, 0, 0, field::length, LengthUnit::millimetre) == "40");
    j.unit = LengthUnit::inch;
    CHECK(in_mm(zone(j).length) == 40);
    const Job k = with(j, field::length, "2", LengthUnit::inch);
    CHECK(in_mm(zone(k).length) == Approx(50.8));
    CHECK(field_text(k, 0, 0, field::length, LengthUnit::inch) == "2");
}

TEST_CASE("zones are inserted, moved, split and removed") {
    Job j = stud();
    Zone plain;
    diameter_of(plain).text = "8";
    plain.length.text = "5";
    j = insert_zone(j, 0, 1, plain);
    REQUIRE(j.pieces[0].zones.size() == 2);
    CHECK(in_mm(resolve_piece(j.pieces[0], {}).length()) == 45);
    const Job moved = move_zone(j, 0, 1, 0);
    CHECK(moved.pieces[0].zones[0] == plain);
    const Job split = split_zone(j, 0, 0);
    CHECK(split.pieces[0].zones.size() == 3);
    CHECK(in_mm(resolve_piece(split.pieces[0], {}).length()) == Approx(45));
    CHECK(split.pieces[0].zones[0].far_end.kind == EndKind::flat);
    CHECK(remove_zone(j, 0, 1) == stud());
    CHECK_THROWS_AS(remove_zone(stud(), 0, 0), InputError);
    CHECK_THROWS_AS(remove_zone(j, 0, 5), std::out_of_range);
    CHECK(remove_piece(j, 0).pieces.empty());
}

TEST_CASE("a new designation keeps the zone's length and ends unless it says otherwise") {
    Job j = with(stud(), field::far_end, "run-out 1");
    const Job k = respec_zone(j, 0, 0, parse_designation("M8x1 LH"));
    CHECK(in_mm(zone(k).length) == 40);
    CHECK(zone(k).far_end.kind == EndKind::run_out);
    CHECK(zone(k).thread()->spec.hand == Hand::left);
    const Job round = respec_zone(j, 0, 0, parse_designation("round 8 x 3"));
    CHECK_FALSE(zone(round).thread());
    CHECK(in_mm(zone(round).length) == 3);
}
