// The tables that a new kind of end or of pair is an entry of.
#include "model/ends/ends.hpp"
#include "model/job_file.hpp"
#include "model/pair_edit.hpp"
#include "model/pair_model.hpp"
#include "model/row.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>
#include <set>

using namespace whorl;

TEST_CASE("the schema knows the ends and their numbers, both ways") {
    const auto schema = nlohmann::json::parse(job_schema());
    const auto& end = schema.at("definitions").at("end").at("properties");
    std::set<std::string> kinds, keys{"kind"}, said_kinds, said_keys;
    for (int k = 0; k < end_kind_count; ++k) {
        const EndModel& model = model_of(static_cast<EndKind>(k));
        CHECK(kinds.insert(model.word.saved()).second);
        for (const EndNumber& n : model.numbers)
            keys.insert(n.key);
    }
    for (const auto& kind : end.at("kind").at("enum"))
        said_kinds.insert(kind);
    for (const auto& [key, value] : end.items())
        said_keys.insert(key);
    CHECK(kinds == said_kinds);
    CHECK(keys == said_keys);
}

TEST_CASE("every end that a zone is offered can be chosen, reads back as it is said, and survives a file") {
    for (const char* line : {"M10 x 20", "round 12 x 20", "hex 17 x 8", "flat 30 x 6 x 90",
                             "ring M30x1.5 x 12", "blind M8 x 20", "knurl axial pitch 1 on 20 x 15",
                             "groove rect 2 x 1.5 pitch 25 on 30 x 60", "Tr20x4 x 60", "nut M8"}) {
        const Job job = add_piece({}, piece_of(line));
        for (std::size_t zone = 0; zone < job.pieces[0].zones.size(); ++zone) {
            const ResolvedZone r = resolve_piece(job.pieces[0], {}).zones[zone];
            const Row* row = row_of(job.pieces[0].zones[zone], field::far_end);
            if (!row) continue;
            const Words offered = choices_of(*row, r);
            CHECK(offered.front() == "flat");
            CHECK(std::set(offered.begin(), offered.end()).size() == offered.size());
            for (const std::string& text : offered) {
                INFO(line << ", zone " << zone << ": " << text);
                Job now;
                try {
                    now = apply(job, {0, zone, field::far_end, text, LengthUnit::millimetre});
                } catch (const InputError&) {
                    continue; // what has no room here says so; it is offered by what the zone is
                }
                const Zone& z = now.pieces[0].zones[zone];
                const std::string said = text_of(*row, z, {LengthUnit::millimetre, {}});
                CHECK(said.starts_with(text.substr(0, text.find(' '))));
                CHECK(apply(now, {0, zone, field::far_end, said, LengthUnit::millimetre}) == now);
                CHECK(job_from_json(job_to_json(now)) == now);
                CHECK_FALSE(shown_of(*row, z, resolve_piece(now.pieces[0], {}).zones[zone],
                                     {LengthUnit::millimetre, {}})
                                .text.empty());
            }
        }
    }
}

TEST_CASE("which two zones go together, and in which order") {
    struct Two {
        const char *first, *second;
        std::optional<PairKind> kind, other_way;
    };
    const char *cam = "cam r20: rise 8 in 120, dwell 60, return in 120, dwell; roller 8; b10",
               *drum =
                   "drum cam d72 b50: rise 20 in 150, dwell 30, return in 150, dwell; groove 8 wide 6 deep",
               *rib = "drum cam d60 b40: rise 10 in 150, dwell 30, return in 150, dwell; rib 5 wide 4 high";
    const Two all[]{
        {"M10 x 20", "nut M10", PairKind::threads, PairKind::threads},
        {"gear m2 z24 b10", "gear m2 z40 b10", PairKind::teeth, PairKind::teeth},
        {"gear m2 z24 b10", "rack m2 z20 b10 h10", PairKind::teeth, PairKind::teeth},
        {"internal gear m2 z60 b10", "rack m2 z20 b10 h10", {}, {}},
        {"rack m2 z20 b10 h10", "rack m2 z20 b10 h10", {}, {}},
        {"spline W 30x2x14 x 25", "spline N 30x2x14 x 25", PairKind::spline, PairKind::spline},
        {"spline W 30x2x14 x 25", "spline W 30x2x14 x 25", {}, {}},
        {"spline W 30x2x14 x 25", "internal gear m2 z60 b10", {}, {}},
        {"gear m2 z24 b10", "M10 x 20", {}, {}},
        {cam, "round 8 x 10", PairKind::cam_and_follower, {}},
        {drum, "round 8 x 10", PairKind::drum_and_roller, {}},
        {rib, "round 8 x 10", {}, {}},
        {"spring d1 D12 L30 n8", cam, PairKind::spring_and_lobe, {}},
        {"spring d1 D12 L30 n8", "round 8 x 10", PairKind::spring_and_guide, {}},
        {"spring d1 D12 L30 n8", "hex 8 x 10", {}, {}},
        {"spring d1 D12 L30 n8", "spring d2 D20 L30 n4", PairKind::nested_springs, PairKind::nested_springs},
        {"bend d8 180 r20", "round 8 x 10", {}, {}},
        {"round 8 x 10", "round 9 x 10", {}, {}},
        {"knurl axial pitch 1 on 20 x 15", "nut M10", {}, {}},
    };
    const auto zone = [](const char* line, bool thread_in_bore = true) {
        const Piece p = piece_of(line);
        for (const Zone& z : p.zones)
            if (thread_in_bore && z.as<ThreadForm>()) return z;
        for (const Zone& z : p.zones)
            if (!z.as<PlainForm>()) return z;
        return p.zones.front();
    };
    for (const Two& t : all) {
        INFO(t.first << " and " << t.second);
        CHECK(pair_kind(zone(t.first), zone(t.second)) == t.kind);
        CHECK(pair_kind(zone(t.second), zone(t.first)) == t.other_way);
    }
    // a clamp and its strap, a bush and its pin, made for each other
    for (const auto& [line, kind] :
         {std::pair{"u-clamp M8 for 60 x 80", PairKind::clamp_and_strap},
          std::pair{"groove round 3 x 1 pitch 20 in 20 x 30, 2 starts", PairKind::bush_and_pin}}) {
        Job job = add_piece({}, piece_of(line));
        std::size_t at = 0;
        while (!job.pieces[0].zones[at].as<BendForm>() && !job.pieces[0].zones[at].as<GrooveForm>())
            ++at;
        job = add_counterpart(job, 0, at);
        REQUIRE(job.pairs.size() == 1);
        CHECK(pair_kind(job, job.pairs[0]) == kind);
    }
}

TEST_CASE("two zones that don't go together are refused with what does") {
    Job job = add_piece(add_piece({}, piece_of("knurl axial pitch 1 on 20 x 15")), piece_of("M10 x 20"));
    for (const char* word :
         {"two threads", "two gears", "a cam and its follower", "roller", "a spring",
          "a U-clamp and its strap", "a grooved bush and its pin", "a splined shaft and its hub",
          "a spring and the round rod or bore", ", or a spring in another one; these don't go together"})
        CHECK_THROWS_WITH(add_pair(job, {0, 0}, {1, 0}), Catch::Contains(word));
}
