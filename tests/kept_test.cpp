// Nothing a person said gets lost: every field through a file and back, pairs through every move of a zone,
// a thread's own settings through a new designation.
#include "check/check.hpp"
#include "model/forms/bend.hpp"
#include "model/forms/coil.hpp"
#include "model/forms/drum.hpp"
#include "model/forms/groove.hpp"
#include "model/forms/knurl.hpp"
#include "model/forms/lobe.hpp"
#include "model/forms/silhouette.hpp"
#include "model/forms/spline.hpp"
#include "model/job_file.hpp"
#include "model/row.hpp"
#include "model/starter.hpp"
#include "quantity/expression.hpp"

#include <catch2/catch.hpp>
#include <set>

using namespace whorl;

namespace {

struct Said {
    const char* piece; // in which it can be said
    std::size_t zone;
    Field field;
    const char* text;
};
constexpr const char* screw = "M12x1.75-6g x 40";
constexpr const char* toothed = "gear m2 z24 a20 b12";
constexpr const char* spring = "spring d2 D20 L50 n7 closed ground";
constexpr const char* knurled = "knurl axial pitch 1 on 20 x 15";
constexpr const char* lobe =
    "cam r20: rise 8 in 120 cycloidal, dwell 60, return in 120, dwell; roller 8; b10";
constexpr const char* drum =
    "drum cam d72 b50: rise 20 in 150 cycloidal, dwell 30, return in 150, dwell; groove 8 wide 6 deep";
constexpr const char* bar = "rack m2 z20 b20 h20";

const std::vector<Said>& everything() {
    static const std::vector<Said> all{
        {screw, 0, field::piece_name, "spindle"},
        {screw, 0, field::piece_finish, "bronze"},
        {screw, 0, field::piece_finish, "pla"},
        {screw, 0, field::piece_finish, "glass #7a5aa8"},
        {screw, 0, field::piece_finish, "#00FF7F"},
        {screw, 0, field::length, "41.5"},
        {screw, 0, field::diameter, "13"},
        {screw, 0, field::pitch, "1.25"},
        {screw, 0, field::tolerance_class, "4h"},
        {screw, 0, field::hand, "left"},
        {screw, 0, field::starts, "3"},
        {screw, 0, field::modelled_at, "30 %"},
        {screw, 0, field::near_end, "chamfer 30 9"},
        {screw, 0, field::far_end, "run-out 1.25"},
        {screw, 0, field::near_end, "rounded 15"},
        {screw, 0, field::far_end, "flat"},
        {screw, 0, field::depth, "0.8"},
        {screw, 0, field::root_flat, "0.3"},
        {"V60 20x2 x 30", 0, field::flank_angle, "50"},
        {screw, 0, field::taper, "1:20"},
        {screw, 0, field::allowance, "0.15"},
        {screw, 0, field::root_shape, "rounded"},
        {"round 12 x 30", 0, field::far_diameter, "9"},
        {"round 12 x 30", 0, field::near_end, "radius 2*gap/gap"},
        {"round 12 x 30", 0, field::far_end, "fillet 1.25"},
        {"round 12 x 30", 0, field::near_end, "chamfer 1.5 x 30"},
        {"hex 12 x 30", 0, field::near_end, "rounded 13"},
        {"round 12 x 30", 0, field::outline, "hex"},
        {screw, 0, field::start_angle, "75"},
        {screw, 0, field::turns, "11"},
        {screw, 0, field::geometry, "simplified"},
        {screw, 0, field::lead, "3.5"},
        {toothed, 0, field::module, "2.5"},
        {toothed, 0, field::teeth, "31"},
        {toothed, 0, field::pressure_angle, "25"},
        {toothed, 0, field::helix_angle, "12"},
        {toothed, 0, field::profile_shift, "0.25"},
        {toothed, 0, field::basic_rack, "C"},
        {toothed, 0, field::tip_shortening, "0.1"},
        {toothed, 0, field::tip_edge, "chamfer 0.2"},
        {toothed, 0, field::thinning, "0.05"},
        {bar, 0, field::face_width, "18"},
        {bar, 0, field::body_height, "25"},
        {bar, 0, field::near_plain, "7"},
        {bar, 0, field::far_plain, "9"},
        {spring, 0, field::length, "61"},
        {spring, 0, field::wire_diameter, "1.8"},
        {spring, 0, field::coil_diameter, "De 24/20"},
        {spring, 0, field::pitch, "6.5"},
        {spring, 0, field::active_coils, "7.25"},
        {spring, 0, field::total_coils, "8.5"},
        {spring, 0, field::dead_coils, "2.5"},
        {spring, 0, field::coil_ends, "open"},
        {spring, 0, field::tip_thickness, "0.6"},
        {spring, 0, field::hand, "left"},
        {spring, 0, field::spring_wire, "EN 10270-2"},
        {knurled, 0, field::knurl, "crossed sunk"},
        {knurled, 0, field::diameter, "24*gap/gap"},
        {knurled, 0, field::knurl_pitch, "1.2"},
        {knurled, 0, field::knurl_teeth, "60"},
        {knurled, 0, field::knurl_depth, "0.4"},
        {knurled, 0, field::profile_angle, "105"},
        {knurled, 0, field::geometry, "simplified"},
        {lobe, 0, field::timing, "rise 2*gap in 120 3-4-5, dwell, return in 240/2 harmonic"},
        {lobe, 0, field::base_radius, "25"},
        {lobe, 0, field::follower, "flat"},
        {lobe, 0, field::roller, "9.5"},
        {"cam r30: rise 8 in 120, dwell 60, return in 120, dwell; mushroom 40", 0, field::face_radius, "50"},
        {lobe, 0, field::follower_offset, "-2.5"},
        {lobe, 0, field::swing, "50 60"},
        {lobe, 0, field::disc, "95"},
        {"cam r20: rise 8 in 120, dwell 60, return in 120, dwell; roller 8; b10; groove 4 deep in d90", 0,
         field::groove_depth, "3"},
        {"cam r20: rise 8 in 120, dwell 60, return in 120, dwell; roller 8; conjugate 60", 2,
         field::conjugate, "62"},
        {lobe, 0, field::sense, "clockwise"},
        {lobe, 0, field::lobe_angle, "75"},
        {lobe, 0, field::speed, "120"},
        {lobe, 0, field::follower_mass, "200/2"},
        {lobe, 0, field::spring_rate, "0.8"},
        {lobe, 0, field::preload, "12.5"},
        {drum, 0, field::timing, "rise 5*gap in 150 3-4-5, dwell 30, return in 150 constant, dwell"},
        {drum, 0, field::diameter, "80"},
        {drum, 0, field::track, "rib"},
        {drum, 0, field::track_width, "7.5"},
        {drum, 0, field::track_depth, "5"},
        {drum, 0, field::walls, "straight"},
        {drum, 0, field::corners, "6"},
        {drum, 0, field::keep_corners, "blended"},
        {"drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; line; 4 turns", 0,
         field::track_turns, "2*2"},
        {drum, 0, field::arm, "55"},
        {drum, 0, field::track_from, "14"},
        {"bend d8 90 r20", 1, field::bend_angle, "45*2"},
        {"bend d8 90 r20", 1, field::bend_radius, "12*gap"},
        {"bend d8 90 r20", 1, field::bend_measured, "inside"},
        {"bend d8 90 r20", 1, field::roll, "-30"},
        {"bend d8 90 r20", 2, field::follows, "1 mirrored"},
        {"flat 30 x 6 x 90", 0, field::thickness, "2*gap/gap"},
        {"flat 30 x 6 x 90", 0, field::cross_hole, "7.5"},
        {"strap M8 at 48", 0, field::cross_hole_at, "30"},
        {"strap M8 at 48", 0, field::cross_hole_turned, "180"},
        {"strap M8 at 48", 0, field::cross_hole_side, "one side"},
        {"strap M8 at 48", 0, field::cross_holes, "3"},
        {"strap M8 at 48", 0, field::cross_hole_spacing, "6*gap/gap"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 100", 0, field::groove, "vee"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 100", 0, field::groove_width, "2.5"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 100", 0, field::groove_depth, "gap/gap"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 100", 0, field::across_grooves, "26"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 100", 0, field::pitch, "8*gap/gap"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 100", 0, field::starts, "4"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 100", 0, field::turns, "0.25"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 100", 0, field::hand, "left"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 100", 0, field::start_angle, "30"},
        {"groove rect 2 x 1.5 pitch 25 on 30 x 100", 0, field::far_diameter, "33"},
        {"groove vee 60 1 pitch 6 on 20 x 40", 0, field::groove_angle, "75"},
        {"cup", 0, field::points, "0:28 30:32+gap/gap 95:40:5"},
        {"cup", 0, field::course, "monotone"},
        {"cup", 0, field::flutes, "9"},
        {"cup", 0, field::flute_depth, "12:1 40:3 80:1"},
        {"cup", 0, field::flutes_from, "12"},
        {"cup", 0, field::flutes_to, "80"},
        {"cup", 0, field::twist, "-30"},
        {"cup", 0, field::ridge, "0.8"},
        {"cup", 0, field::start_angle, "12.5"},
        {"cup", 1, field::wall, "1.75"},
        {"cup", 1, field::bottom, "3.5"},
        {"cup", 1, field::inside, "smooth"},
        {screw, 0, field::zone_finish, "#7A5AA8"},
        {knurled, 0, field::zone_finish, "brass #112233"},
        {"spring d2 D20 L50 n7", 0, field::spring_kind, "extension"},
        {"extension spring d1.6 D12 n20", 0, field::near_wire, "half 3*gap/gap*6 r 2"},
        {"torsion spring d2 D16 n6 legs 30", 0, field::far_wire, "leg 12 bent 90 r 2*2 15 up"},
        {"spring d2 D20 L50 n7", 0, field::near_wire, "closed 1.5 ground tip gap/gap/2"},
        {"spring d2 D20 L50 n7", 0, field::tolerance_grade, "1"},
        {"spring d2 D20 L50 n7", 0, field::length_over, "centreline"},
        {"spring d2 D20 L50 n7", 0, field::works, "40..10*gap/gap+20"},
        {"spring d2 D20 L50 n7 works 40..30", 0, field::fatigue, "600*gap/gap..1000"},
        {"spring d2 D20 L50 n7", 0, field::made_at, "40N"},
        {"spring d2 D20 L50 n7", 0, field::start_angle, "30"},
        {"spring d2 D20 p6 n7", 0, field::pitch, "6..gap/gap*4@5..6"},
        {"extension spring d1.6 D12 n20", 0, field::initial_tension, "2*4"},
        {"extension spring d1.6 D12 n20", 0, field::wire_class, "SH"},
        {"spline W 30x2x14 x 25", 0, field::reference_diameter, "29 + gap/25.4/3"},
        {"spline EXT 24z x 2m x 30P x 25", 0, field::module, "1.75"},
        {"spline W 30x2x14 x 25", 0, field::teeth, "13"},
        {"spline W 30x2x14 x 25", 0, field::spline_root, "shaped"},
        {"spline W 30x2x14 x 25", 0, field::tolerance_class, "8f"},
        {"spline W 30x2x14 x 25", 0, field::thinning, "0.1"},
        {"spline EXT 24z x 2m x 30P x 25", 0, field::pressure_angle, "45"},
        {"gear m2 z60 b20 bore 16", 0, field::web, "6 90 40"},
        {"gear m2 z60 b20 bore 16", 1, field::keyway, "5 x 2.3"},
    };
    return all;
}

Job with_piece(const char* text) {
    Job job = add_piece({}, piece_of(text));
    return set_value(job, "gap", {"3", LengthUnit::inch});
}

} // namespace

TEST_CASE("every field survives the file, and is said back as it was typed") {
    std::set<Field> seen{field::centre_distance, field::repeat}; // of a pair, below; an order, no value
    for (const Said& s : everything()) {
        INFO(s.piece << ", " << s.field.key << " \"" << s.text << "\"");
        const Job before = with_piece(s.piece);
        const Job after = apply(before, {0, s.zone, s.field, s.text, LengthUnit::millimetre});
        CHECK_FALSE(after == before);
        const Job read = job_from_json(job_to_json(after));
        CHECK(read == after);
        // what the field says makes the same of the job as it was before
        const std::string said = field_text(read, 0, s.zone, s.field, LengthUnit::millimetre);
        CHECK_FALSE(said.empty());
        CHECK(apply(before, {0, s.zone, s.field, said, LengthUnit::millimetre}).pieces[0].zones ==
              after.pieces[0].zones);
        seen.insert(s.field);
    }
    for (const Field f : all_fields()) {
        INFO("no text for " << f.key);
        CHECK(seen.count(f) == 1);
    }
    Job pair = add_mate(with_piece(toothed), 0, 0, Mate::gear, 30);
    pair = apply(pair, {1, 0, field::centre_distance, "54.2", LengthUnit::millimetre});
    CHECK(pair.pairs[0].centre.text == "54.2");
    CHECK(job_from_json(job_to_json(pair)) == pair);
}

TEST_CASE("a pair goes with its zones wherever they are moved") {
    Job job = add_piece({}, piece_of("round 10 x 5"));
    for (const char* z : {"M8 x 10", "round 12 x 4", "M10 x 12", "round 14 x 3"})
        job = insert_zone(job, 0, job.pieces[0].zones.size(), zone_of(parse_designation(z)));
    job = add_counterpart(job, 0, 1);
    job = add_counterpart(job, 0, 3);
    const auto named = [](const Job& j, ZoneRef at) { return j.pieces[at.piece].zones[at.zone]; };
    for (std::size_t from = 0; from < 5; ++from)
        for (std::size_t to = 0; to < 5; ++to) {
            INFO("zone " << from << " to " << to);
            const Job moved = move_zone(job, 0, from, to);
            CHECK(moved.pieces[0].zones[to] == job.pieces[0].zones[from]);
            for (std::size_t p = 0; p < 2; ++p)
                for (const auto side : {&Pair::first, &Pair::second})
                    CHECK(named(moved, moved.pairs[p].*side) == named(job, job.pairs[p].*side));
        }
    // removing one in front of them counts down, inserting counts up, removing a paired one ends its pair
    CHECK(remove_zone(job, 0, 0).pairs[0].first.zone + 1 == job.pairs[0].first.zone);
    CHECK(insert_zone(job, 0, 0, job.pieces[0].zones[0]).pairs[1].first.zone == job.pairs[1].first.zone + 1);
    CHECK(remove_zone(job, 0, job.pairs[0].first.zone).pairs.size() == 1);
}

TEST_CASE("a new designation keeps what it has no word for") {
    Job job = add_piece({}, piece_of("M12x1.75-6g x 40"));
    const auto say = [&](Field f, const char* text) {
        job = apply(job, {0, 0, f, text, LengthUnit::millimetre});
    };
    say(field::allowance, "0.15");
    say(field::modelled_at, "30 %");
    say(field::start_angle, "75");
    say(field::geometry, "simplified");
    say(field::root_shape, "rounded");
    const ThreadForm was = *job.pieces[0].zones[0].as<ThreadForm>();
    const ThreadForm is =
        *respec_zone(job, 0, 0, parse_designation("M16x1.5-6g")).pieces[0].zones[0].as<ThreadForm>();
    CHECK(is.allowance == was.allowance);
    CHECK(is.modelled_at == ModelledAt::chosen);
    CHECK(is.material == was.material);
    CHECK(is.start_angle == was.start_angle);
    CHECK(is.simplified);
    CHECK(is.rounded_root);
    CHECK(is.pitch.text == "1.5");
}

TEST_CASE("a named value of a length and a number is refused: which unit would the number be in?") {
    const Job job = with_piece(screw);
    CHECK_THROWS_AS(set_value(job, "width", {"10 mm + 2", LengthUnit::millimetre}), InputError);
    CHECK_THROWS_AS(evaluate("10 mm + 2"), InputError);
    // in a field the number is in the field's unit
    CHECK(in_mm(evaluate_length("10 mm + 2", LengthUnit::inch)) == Approx(60.8));
}

TEST_CASE("the printing allowance, a chosen percentage: both reach the thread, screw and nut") {
    for (const char* text : {"M12x1.75-6g x 40", "M12x1.75-6H x 20"}) {
        INFO(text);
        const bool external = text[10] == 'g';
        Job job = add_piece({}, piece_of(text));
        const std::size_t zone = external ? 0 : 1;
        const auto thread = [&](Field f, const char* t) {
            const Job j = apply(job, {0, zone, f, t, LengthUnit::millimetre});
            return *resolve_piece(j.pieces[0], {}).zones[zone].thread();
        };
        const ResolvedThread t = thread(field::modelled_at, "25 %");
        const ResolvedValue* pitch = find_value(t.values, "pitch_diameter");
        // a quarter of the way from minimum to maximum material: a screw's grows with it, a nut's shrinks
        const double from = external ? *pitch->min : *pitch->max, to = external ? *pitch->max : *pitch->min;
        CHECK(2 * t.section.pitch_radius == Approx(from + 0.25 * (to - from)));
        const ResolvedThread plain = thread(field::modelled_at, "middle of limits"),
                             loose = thread(field::allowance, "0.2");
        const double sign = external ? 1 : -1;
        CHECK(loose.section.crest_radius == Approx(plain.section.crest_radius - sign * 0.2));
        CHECK(loose.section.root_radius == Approx(plain.section.root_radius - sign * 0.2));
        // square to a 30° flank 0.2 is 0.4 on the pitch radius
        CHECK(loose.section.pitch_radius == Approx(plain.section.pitch_radius - sign * 0.4));
    }
}

TEST_CASE("ISO 888: how much of a long bolt is threaded") {
    struct Row {
        const char* text;
        double threaded;
    };
    for (const Row& r :
         {Row{"ISO 4014 M12 x 125", 30}, Row{"ISO 4014 M12 x 130", 36}, Row{"ISO 4014 M12 x 200", 36},
          Row{"ISO 4014 M20 x 220", 65}, Row{"ISO 4014 M8 x 60", 22}}) {
        INFO(r.text);
        const ResolvedPiece p = resolve_piece(piece_of(r.text), {});
        for (const auto& z : p.zones)
            if (z.thread()) CHECK(in_mm(z.length) == Approx(r.threaded));
    }
}

TEST_CASE("a split zone keeps its ends outside and is cut square between") {
    Job job = add_piece({}, piece_of(screw));
    job = apply(job, {0, 0, field::near_end, "chamfer 30 9", LengthUnit::millimetre});
    job = apply(job, {0, 0, field::far_end, "run-out 1.25", LengthUnit::millimetre});
    const Job split = split_zone(job, 0, 0);
    const auto& zones = split.pieces[0].zones;
    REQUIRE(zones.size() == 2);
    CHECK(zones[0].near_end == job.pieces[0].zones[0].near_end);
    CHECK(zones[1].far_end == job.pieces[0].zones[0].far_end);
    CHECK(zones[0].far_end.kind == EndKind::flat);
    CHECK(zones[1].near_end.kind == EndKind::flat);
    CHECK(in_mm(resolve_piece(split.pieces[0], resolve_names(split)).length()) == Approx(40));
}

TEST_CASE("a counterpart and a mate are of the piece's own finish") {
    for (const char* text : {screw, toothed}) {
        Job job = add_piece({}, piece_of(text));
        job = apply(job, {0, 0, field::piece_finish, "bronze", LengthUnit::millimetre});
        job = add_counterpart(job, 0, 0);
        CHECK(job.pieces[1].finish == "bronze");
        CHECK(job.pairs.at(0).follows);
    }
}
