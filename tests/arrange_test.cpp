// Where pieces stand: the free number of a pair, typed places, what runs, pieces that stand in each other; and pairing what is
// there already.
#include "build/build.hpp"
#include "check/pairing.hpp"
#include "model/free_place.hpp"
#include "model/job_file.hpp"
#include "model/pair_model.hpp"
#include "model/starter.hpp"
#include "together/clash.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <numbers>

using namespace whorl;

namespace {

Job job_of(std::initializer_list<const char*> lines) {
    Job job;
    for (const char* line : lines)
        job.pieces.push_back(piece_of(line));
    return job;
}

std::vector<ResolvedPiece> resolved(const Job& job) {
    std::vector<ResolvedPiece> out;
    for (const Piece& p : job.pieces)
        out.push_back(resolve_piece(p, resolve_names(job)));
    return out;
}

Arrangement arranged(const Job& job, const Run& run = {}) {
    return arrangement_of(job, resolved(job), resolve_names(job), {}, run);
}

double apart(const Standing& a, const Standing& b) {
    double sum = 0;
    for (std::size_t k = 0; k < 3; ++k)
        sum += std::pow(a.x[k] - b.x[k], 2) + std::pow(a.z[k] - b.z[k], 2) +
               std::pow(a.origin[k] - b.origin[k], 2);
    return std::sqrt(sum);
}

double turn_of(const Standing& s) {
    return std::atan2(s.x[1], s.x[0]);
}

std::string why(const std::function<void()>& what) {
    try {
        what();
    } catch (const InputError& e) {
        return e.what();
    }
    return {};
}

Job with_teeth(const char* first, const char* second) {
    return pair_up(job_of({first, second}), {0, {}}, {1, {}});
}

} // namespace

TEST_CASE("a nut stands at the height that is typed, and has turned a lead a turn", "[arrange]") {
    Job job = add_counterpart(job_of({"M10 x 40"}), 0, 0);
    const Standing usual = arranged(job).pieces[1].at;
    job = place_pair(job, 0, {"12.5", {}});
    const Arrangement at = arranged(job);
    REQUIRE(at.pieces[1].held);
    CHECK(at.beyond.empty());
    CHECK(at.pieces[1].held->at == Approx(12.5));
    // its lower face, whichever way round it is
    const double length = in_mm(resolved(job)[1].length());
    const double low =
        std::min(at.pieces[1].at.origin[2], at.pieces[1].at.origin[2] + at.pieces[1].at.z[2] * length);
    CHECK(low == Approx(12.5).margin(1e-12));
    const double moved = at.pieces[1].at.origin[2] - usual.origin[2];
    const double turned = turn_of(at.pieces[1].at) - turn_of(usual);
    CHECK(std::remainder(turned - 2 * std::numbers::pi * moved / 1.5, 2 * std::numbers::pi) ==
          Approx(0).margin(1e-9));
    CHECK(job.pairs[0].stands.text == "12.5");
    CHECK(stands_of(job, job.pairs[0], {}) == Approx(12.5));
    // inch is typed where it is written
    CHECK(arranged(place_pair(job, 0, {"0.5", LengthUnit::inch})).pieces[1].held->at == Approx(12.7));
    CHECK(apart(arranged(place_pair(job, 0, {})).pieces[1].at, usual) < 1e-12);
}

TEST_CASE("the height is that of the face that looks at the first one's near end, whichever way round the "
          "second goes on",
          "[arrange]") {
    int flipped = 0;
    for (const Where bore : {Where::near_bore, Where::far_bore}) {
        Job job = job_of({"round 20 x 40", "ISO 4762 M8 x 30"});
        Zone z = zone_of(parse_designation("M8-6H x 25"));
        z.where = bore;
        job.pieces[0].zones.push_back(z);
        job = pair_up(job, {0, {}}, {1, {}});
        if (job.pairs[0].first.piece != 0) std::swap(job.pairs[0].first, job.pairs[0].second);
        const Placed usual = arranged(job).pieces[1];
        REQUIRE(usual.held);
        const double to = usual.held->range.within(usual.held->at + 0.25);
        job = place_pair(job, 0, {std::to_string(to), {}});
        const Standing at = arranged(job).pieces[1].at;
        const double length = in_mm(resolved(job)[1].length());
        CHECK(std::min(at.origin[2], at.origin[2] + at.z[2] * length) == Approx(to).margin(1e-5));
        flipped += at.z[2] < 0;
    }
    CHECK(flipped == 1);
}

TEST_CASE("a nut does not go beyond where its thread lets it, and that is said", "[arrange]") {
    const Job job = place_pair(add_counterpart(job_of({"M10 x 40"}), 0, 0), 0, {"400", {}});
    const Arrangement at = arranged(job);
    REQUIRE(at.beyond.size() == 1);
    CHECK(at.beyond[0].asked == 400);
    CHECK(at.pieces[1].held->at == at.beyond[0].range.high);
    const auto trouble = trouble_of(at, job);
    REQUIRE(trouble);
    CHECK(trouble->find("asks for 400 mm; it goes from ") != std::string::npos);
    CHECK(!trouble_of(arranged(place_pair(job, 0, {"20", {}})), job));
}

TEST_CASE("a gear stands around another at the angle that is typed, its teeth in the spaces", "[arrange]") {
    for (const char* mate : {"gear m2 z31 b10", "internal gear m2 z60 b10", "gear m2 z17 b10"}) {
        Job job = with_teeth("gear m2 z20 b10", mate);
        const double centre =
            std::hypot(arranged(job).pieces[1].at.origin[0], arranged(job).pieces[1].at.origin[1]);
        for (const double degrees : {0.0, 37.0, 200.0}) {
            job = place_pair(job, 0, {std::to_string(degrees), {}});
            const Arrangement at = arranged(job);
            const auto& o = at.pieces[1].at.origin;
            CHECK(std::hypot(o[0], o[1]) == Approx(centre).epsilon(1e-12));
            CHECK(std::remainder(std::atan2(o[1], o[0]) - in_rad(deg(degrees)), 2 * std::numbers::pi) ==
                  Approx(0).margin(1e-9));
            // rolled there: around the fixed one by δ, an outer gear turns δ(1 + z1/z2), in a ring δ(1 − z1/z2)
            const Arrangement zero = arranged(place_pair(job, 0, {"0", {}}));
            const auto ring = resolved(job)[1].zones;
            const bool internal =
                std::any_of(ring.begin(), ring.end(), [](const auto& z) { return z.gear() && z.in_bore(); });
            const double z2 = std::string(mate).find("z31") != std::string::npos ? 31 : internal ? 60 : 17;
            const double turned = turn_of(at.pieces[1].at) - turn_of(zero.pieces[1].at);
            const double wanted = in_rad(deg(degrees)) * (internal ? 1 - 20 / z2 : 1 + 20 / z2);
            CHECK(std::remainder(turned - wanted, 2 * std::numbers::pi / z2) == Approx(0).margin(1e-9));
        }
    }
}

TEST_CASE("a rack stands around its gear, a gear travels along its rack", "[arrange]") {
    Job job = with_teeth("gear m2 z20 b10", "rack m2 z30 b10 h12");
    for (const double degrees : {0.0, 90.0, 123.0}) {
        job = place_pair(job, 0, {std::to_string(degrees), {}});
        const Standing& at = arranged(job).pieces[1].at;
        // its length lies square to where it stands, its middle within half a tooth of the foot
        const double a = in_rad(deg(degrees));
        CHECK(at.z[0] == Approx(-std::sin(a)).margin(1e-9));
        CHECK(at.z[1] == Approx(std::cos(a)).margin(1e-9));
        const double along = at.origin[0] * at.z[0] + at.origin[1] * at.z[1];
        CHECK(std::abs(along + in_mm(resolved(job)[1].length()) / 2) < 2 * std::numbers::pi / 2 + 1e-6);
    }
    const Job rack = with_teeth("rack m2 z30 b10 h12", "gear m2 z20 b10");
    const Standing middle = arranged(rack).pieces[1].at,
                   on = arranged(place_pair(rack, 0, {"31", {}})).pieces[1].at;
    CHECK(on.origin[2] - middle.origin[2] == Approx(31).margin(1e-9)); // a rack's own length lies along z
    CHECK(on.origin[0] == Approx(middle.origin[0]).margin(1e-9));
    // rolled: 31 mm are 1.55 rad of a pitch radius of 20 mm
    const double turned = std::acos(
        std::clamp(on.x[0] * middle.x[0] + on.x[1] * middle.x[1] + on.x[2] * middle.x[2], -1.0, 1.0));
    CHECK(turned == Approx(1.55).margin(1e-9));
    CHECK(trouble_of(arranged(place_pair(rack, 0, {"900", {}})), rack));
}

TEST_CASE("a follower stands on the cam as far as the cam has turned", "[arrange]") {
    Job job = add_counterpart(
        job_of({"cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell; roller 8; b10"}),
        0, 0);
    const auto reach = [&](const Job& j) {
        const Arrangement at = arranged(j);
        return std::hypot(at.pieces[1].at.origin[0], at.pieces[1].at.origin[1]);
    };
    CHECK(reach(job) == Approx(24).margin(1e-9)); // base 20 and the roller's radius
    CHECK(reach(place_pair(job, 0, {"60", {}})) == Approx(29).margin(1e-9)); // half the rise
    CHECK(reach(place_pair(job, 0, {"150", {}})) == Approx(34).margin(1e-9));
    const Arrangement at = arranged(place_pair(job, 0, {"150", {}}));
    CHECK(turn_of(at.pieces[0].at) == Approx(in_rad(deg(150))));
    Job other =
        add_counterpart(job_of({"cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell; "
                                "roller 8; b10 clockwise"}),
                        0, 0);
    other = place_pair(other, 0, {"60", {}});
    CHECK(std::abs(turn_of(arranged(other).pieces[0].at) + in_rad(deg(60))) < 1e-9);
    // what runs adds to it
    const Arrangement run = arranged(job, run_of(job, resolved(job), 0, in_rad(deg(150))));
    CHECK(apart(run.pieces[0].at, at.pieces[0].at) < 1e-9);
    CHECK(apart(run.pieces[1].at, at.pieces[1].at) < 1e-9);
    // though the follower comes first in the job
    Job swapped = job;
    std::swap(swapped.pieces[0], swapped.pieces[1]);
    std::swap(swapped.pairs[0].first.piece, swapped.pairs[0].second.piece);
    CHECK(arranged(swapped).pieces[1].group == 0);
    CHECK(apart(arranged(swapped).pieces[1].at, same_space()) < 1e-12);
}

TEST_CASE("a pin is shifted along its bush, a strap along its clamp", "[arrange]") {
    Job job = job_of({"groove rect 2 pitch 25 in 20 across 23 x 20"});
    std::size_t grooved = 0;
    while (!job.pieces[0].zones[grooved].as<GrooveForm>())
        ++grooved;
    job = add_counterpart(job, 0, grooved);
    const double z = arranged(job).pieces[1].at.origin[2];
    CHECK(arranged(place_pair(job, 0, {"-3.5", {}})).pieces[1].at.origin[2] == Approx(z - 3.5));
    Job clamp = job_of({"u-clamp M8 for 40 x 50"});
    std::size_t bend = 0;
    while (!clamp.pieces[0].zones[bend].as<BendForm>())
        ++bend;
    clamp = add_counterpart(clamp, 0, bend);
    REQUIRE(clamp.pairs.size() == 1);
    REQUIRE(freedom_of(clamp, clamp.pairs[0]) == Freedom::shift);
    const Standing a = arranged(clamp).pieces[1].at,
                   b = arranged(place_pair(clamp, 0, {"2", {}})).pieces[1].at;
    const double along = (b.origin[0] - a.origin[0]) * a.y[0] + (b.origin[1] - a.origin[1]) * a.y[1] +
                         (b.origin[2] - a.origin[2]) * a.y[2];
    CHECK(along == Approx(2).margin(1e-9)); // its wide faces look along the legs
}

TEST_CASE("a piece stands where its place is typed, and others by it", "[arrange]") {
    Job job = add_counterpart(job_of({"round 20 x 10", "M10 x 40"}), 1, 0);
    job = place_piece(job, 1, {"100 20 -5 turned 0 90 0", {}});
    const Arrangement at = arranged(job);
    CHECK(at.pieces[1].at.origin == std::array<double, 3>{100, 20, -5});
    CHECK(at.pieces[1].at.z[0] == Approx(1)); // about y by 90°: z to x
    CHECK(at.pieces[1].at.x[2] == Approx(-1));
    CHECK(at.pieces[2].by == 0u);
    CHECK(at.pieces[2].at.origin[1] == Approx(20)); // on its axis
    CHECK(at.pieces[2].group == at.pieces[1].group);
    CHECK(at.pieces[0].group == 0); // the first one keeps its own axes beside it
    CHECK(apart(at.pieces[0].at, same_space()) < 1e-12);
    // about x first, then y, then z, of the job's axes
    const Standing s = arranged(place_piece(job, 0, {"0 0 0 turned 90 90 0", {}})).pieces[0].at;
    CHECK(s.z[1] == Approx(-1)); // z to −y by x; about y that stays
    CHECK(s.x[2] == Approx(-1));
    // both of a pair typed: what does not meet is said
    const Job both = place_piece(job, 2, {"0 0 0", {}});
    REQUIRE(arranged(both).open.size() == 1);
    CHECK(arranged(both).open[0].gap > 50);
    CHECK(trouble_of(arranged(both), both)->find("closes a circle") != std::string::npos);
}

TEST_CASE("places that are none are refused where they stand", "[arrange]") {
    const Job job = job_of({"round 20 x 10"});
    CHECK(free_place({"", {}}, {}) == std::nullopt);
    CHECK(free_place({"1 2 1/2", {}}, {})->at == std::array<double, 3>{1, 2, 0.5});
    CHECK(free_place({"1 2 3", LengthUnit::inch}, {})->at[2] == Approx(76.2));
    for (const char* text : {"1 2", "1 2 3 4", "1 2 3 turned 4 5", "1 2 3 by 4 5 6", "here"})
        CHECK(why([&] { place_piece(job, 0, {text, {}}); }).find("three lengths") != std::string::npos);
    CHECK(why([&] { place_piece(job, 0, {"1 2 1e9", {}}); }) == "A piece stands less than 100000 mm away.");
    CHECK(why([&] { place_piece(job, 0, {"1 nothing 3", {}}); }) != "");
    try {
        place_piece(job, 0, {"10 nothing 3", {}});
    } catch (const InputError& e) {
        CHECK(e.position == 3);
    }
    const FreePlace place{{1.25, -2, 30}, {0, std::numbers::pi / 2, 0}};
    CHECK(written(place, LengthUnit::millimetre) == "1.25 -2 30 turned 0 90 0");
    CHECK(written({{25.4, 0, 0}, {}}, LengthUnit::inch) == "1 0 0");
    const Job pair = add_counterpart(job_of({"M10 x 40"}), 0, 0);
    CHECK(why([&] { place_pair(pair, 0, {"200000", {}}); }) == "A piece stands less than 100000 mm away.");
    CHECK(why([&] { place_pair(pair, 0, {"up", {}}); }) != "");
}

TEST_CASE("where pieces stand is kept in the file", "[arrange]") {
    Job job = add_counterpart(job_of({"round 20 x 10", "M10 x 40"}), 1, 0);
    job = place_pair(place_piece(job, 0, {"1 2 3 turned 0 0 45", LengthUnit::inch}), 0, {"12.5", {}});
    const Job back = job_from_json(job_to_json(job));
    CHECK(back == job);
    CHECK(back.pieces[0].stands.unit == LengthUnit::inch);
    CHECK(back.pairs[0].stands.text == "12.5");
    std::string text = job_to_json(job);
    const std::size_t at = text.find("1 2 3 turned");
    text.replace(at, 5, "1 2 x");
    CHECK(why([&] { job_from_json(text); }).find("pieces[0].stands") != std::string::npos);
}

TEST_CASE("a train runs together, each in its own place", "[arrange]") {
    Job job = with_teeth("gear m2 z20 b10", "gear m2 z40 b10");
    job.pieces.push_back(piece_of("rack m2 z30 b10 h12"));
    job = pair_up(job, {1, {}}, {2, {}});
    const auto pieces = resolved(job);
    const Arrangement still = arranged(job);
    const double roll = 0.3;
    const Arrangement run = arranged(job, run_of(job, pieces, 0, roll));
    CHECK(turn_of(run.pieces[0].at) == Approx(roll));
    CHECK(std::remainder(turn_of(run.pieces[1].at) - turn_of(still.pieces[1].at) + roll / 2,
                         2 * std::numbers::pi) == Approx(0).margin(1e-9));
    CHECK(run.pieces[1].at.origin == still.pieces[1].at.origin);
    CHECK(apart(run.pieces[1].still, still.pieces[1].at) < 1e-12);
    // what stands beside does not move with it
    Job more = job;
    more.pieces.push_back(piece_of("round 20 x 5"));
    std::vector<Box> boxes;
    for (std::size_t i = 0; i < 4; ++i)
        boxes.push_back(box_about(make_preview(more.pieces[i], i, {}, LengthUnit::millimetre).mesh));
    const auto all = resolved(more);
    CHECK(arrangement_of(more, all, {}, boxes, run_of(more, all, 0, 0.1)).pieces[3].at.origin ==
          arrangement_of(more, all, {}, boxes).pieces[3].at.origin);
    // the second turns −0.15 rad of a radius of 40 mm: 6 mm against the way its rack has at +
    double along = 0;
    for (std::size_t k = 0; k < 3; ++k)
        along += (run.pieces[2].at.origin[k] - still.pieces[2].at.origin[k]) * still.pieces[2].at.z[k];
    CHECK(along == Approx(-6).margin(1e-9));
    // at every moment as a pair would stand that is turned so: the second in the first one's own space rolls around it
    const Standing rel = within(inverse(run.pieces[0].at), run.pieces[1].at);
    const auto mesh = mesh_of_zones(pieces[0].zones[0], pieces[1].zones[0], {});
    REQUIRE(mesh);
    const Standing there = mesh_standing_towards(*mesh, pieces[0].zones[0], pieces[1].zones[0],
                                                 std::atan2(rel.origin[1], rel.origin[0]));
    CHECK(std::remainder(turn_of(rel) - turn_of(there), 2 * std::numbers::pi / 40) == Approx(0).margin(1e-9));
    CHECK(run_of(job_of({"round 10 x 10"}), resolved(job_of({"round 10 x 10"})), 0, 1).turned[0] == 0);
}

TEST_CASE("pieces that stand in each other are found, those that touch or are a pair are not", "[arrange]") {
    const auto bodies = [](const Job& job) {
        std::vector<std::shared_ptr<const ClashBody>> out;
        for (std::size_t i = 0; i < job.pieces.size(); ++i)
            out.push_back(clash_body(make_preview(job.pieces[i], i, {}, LengthUnit::millimetre).mesh));
        return out;
    };
    Job job = job_of({"round 20 x 40", "round 10 x 10", "M10 x 40", "round 4 x 4"});
    const auto at = [&](const char* second, const char* fourth) {
        Job j =
            place_piece(place_piece(place_piece(job, 0, {"0 0 0", {}}), 1, {second, {}}), 2, {"200 0 0", {}});
        j = place_piece(j, 3, {fourth, {}});
        return clashes(j, arranged(j), bodies(j));
    };
    CHECK(at("0 0 40", "100 0 0").empty());                         // on its face
    CHECK(at("14.9 0 5", "100 0 0") == std::vector<Clash>{{0, 1}}); // a tenth into it
    CHECK(at("15.1 0 5", "100 0 0").empty());
    CHECK(at("50 0 0", "0 0 10") == std::vector<Clash>{{0, 3}});         // wholly inside
    CHECK(at("5 0 -5", "8 0 38") == std::vector<Clash>{{0, 1}, {0, 3}}); // both
    CHECK(at("208 0 5 turned 90 0 0", "100 0 0") == std::vector<Clash>{{1, 2}});
    // whichever of the two is the one inside
    Job inner = job_of({"round 4 x 4", "round 20 x 40"});
    inner = place_piece(place_piece(inner, 0, {"0 0 10", {}}), 1, {"0 0 0", {}});
    CHECK(clashes(inner, arranged(inner), bodies(inner)) == std::vector<Clash>{{0, 1}});
    // a pair is never asked, though the nut is far from the usual
    const Job nut = add_counterpart(job_of({"M10 x 40"}), 0, 0);
    CHECK(clashes(nut, arranged(nut), bodies(nut)).empty());
    CHECK(clashes(nut, arranged(nut), {nullptr, nullptr}).empty());
    Job gears = with_teeth("gear m2 z20 b10", "gear m2 z31 b10");
    gears = place_piece(place_piece(gears, 0, {"0 0 0", {}}), 1,
                        {"1 0 0", {}}); // its circle does not close, which is said
    CHECK(clashes(gears, arranged(gears), bodies(gears)).empty());
    gears.pairs.clear();
    CHECK(clashes(gears, arranged(gears), bodies(gears)).size() == 1);
}

TEST_CASE("what is there already is paired by its pieces", "[arrange]") {
    const Job job =
        job_of({"ISO 4017 M10 x 40", "ISO 4032 M10", "ISO 4032 M8", "gear m2 z20 b10", "gear m2 z31 b10"});
    const Job pair = pair_up(job, {1, {}}, {0, {}});
    REQUIRE(pair.pairs.size() == 1);
    CHECK(pair.pieces[pair.pairs[0].first.piece].zones[pair.pairs[0].first.zone].as<ThreadForm>());
    CHECK(pair.pieces[pair.pairs[0].second.piece].zones[pair.pairs[0].second.zone].as<ThreadForm>());
    CHECK(!pair.pairs[0].follows);
    CHECK(check_pairs(pair, 0).empty());
    CHECK(why([&] { pair_up(pair, {0, {}}, {1, {}}); }).find("are a pair already") != std::string::npos);
    CHECK(why([&] { pair_up(job, {0, {}}, {0, {}}); }) == "A pair is made of two pieces; this is one.");
    const std::string no = why([&] { pair_up(job, {0, {}}, {3, {}}); });
    CHECK(no.find("These don't go together: a pair is made of two threads") != std::string::npos);
    CHECK(no.find("'" + job.pieces[3].name + "' is ") != std::string::npos);
    CHECK(part(pair, {0, {}}, {1, {}}).pairs.empty());
    CHECK(why([&] { part(job, {0, {}}, {1, {}}); }).find("are no pair") != std::string::npos);
    // a misfit is a pair, and stops
    const Job misfit = pair_up(job, {0, {}}, {2, {}});
    CHECK(stops(check_pairs(misfit, 0)));
    // of two zones that could, the one that fits
    Job two = job_of({"M10 x 20", "round 30 x 40"});
    for (const char* line : {"M8-6H x 10", "M10-6H x 10"}) {
        Zone z = zone_of(parse_designation(line));
        z.where = line[1] == '8' ? Where::near_bore : Where::far_bore;
        two.pieces[1].zones.push_back(z);
    }
    const Pair chosen = pairing_of(two, {0, {}}, {1, {}});
    CHECK(two.pieces[1]
              .zones[chosen.second.piece == 1 ? chosen.second.zone : chosen.first.zone]
              .as<ThreadForm>()
              ->diameter.text == "10");
    CHECK(pairing_of(job, {3, {}}, {4, {}}).first.piece == 3);
}

TEST_CASE("a screw and a nut of one diameter that don't go together are pointed out unasked", "[arrange]") {
    const auto said = [](const Job& job, std::size_t piece) {
        for (const Finding& f : findings_of(job, piece))
            if (f.id == "threads_do_not_meet") return std::optional(f);
        return std::optional<Finding>();
    };
    Job job = job_of({"M10 x 40", "M10x1.25-6H x 8"});
    for (const std::size_t piece : {0u, 1u}) {
        const auto f = said(job, piece);
        REQUIRE(f);
        CHECK(f->severity == Severity::advice);
        CHECK(f->piece == piece);
        CHECK(f->sentence.find("a pitch of 1.25 mm instead of 1.5 mm") != std::string::npos);
        REQUIRE(f->remedy);
        const Job mended = apply(job, *f->remedy);
        CHECK(!said(mended, 0));
        CHECK(!said(mended, 1));
        CHECK(mended.pieces[1].zones[0].as<ThreadForm>() == nullptr); // the bar around it
    }
    CHECK(std::ranges::count_if(check_job(job),
                                [](const Finding& f) { return f.id == "threads_do_not_meet"; }) == 1);
    // hand and starts
    const auto hand = said(job_of({"M10 x 40", "M10-6H LH x 8"}), 1);
    REQUIRE(hand);
    CHECK(hand->sentence.find("a left-hand thread instead of a right-hand one") != std::string::npos);
    CHECK(hand->remedy);
    Job two = job_of({"Tr20x4 x 40", "Tr20x4-7H x 20"});
    two = apply(two, Edit{0, 0, field::starts, "2", LengthUnit::millimetre});
    const auto starts = said(two, 1);
    REQUIRE(starts);
    CHECK(starts->sentence.find("1 start instead of 2") != std::string::npos);
    // silent: one that fits something, one in a pair, another diameter
    CHECK(!said(job_of({"M10 x 40", "M10-6H x 8"}), 1));
    CHECK(!said(job_of({"M10 x 40", "M10x1.25-6H x 8", "M10x1.25 x 30"}), 1));
    CHECK(!said(job_of({"M10 x 40", "M8x1-6H x 8"}), 1));
    CHECK(!said(pair_up(job, {0, {}}, {1, {}}), 1));
    CHECK(!said(job_of({"M10 x 40", "M10x1.25-6H x 8", "M10-6H x 8"}), 1)); // the screw has its nut
}
