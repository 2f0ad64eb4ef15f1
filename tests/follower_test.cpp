// What runs on a cam as pieces of the job: made in one step, following, standing where it touches.
#include "build/build.hpp"
#include "check/check.hpp"
#include "model/edit.hpp"
#include "model/forms/coil.hpp"
#include "model/forms/drum.hpp"
#include "model/forms/follower.hpp"
#include "model/forms/lobe.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <numbers>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;
constexpr const char* roller_cam = "cam r20: rise 8 in 120, dwell 60, return in 120, dwell; roller 8; b10";

Job job_with(std::initializer_list<const char*> pieces) {
    Job job;
    for (const char* p : pieces)
        job = add_piece(job, piece_of(p));
    return job;
}
Job edited(const Job& job, std::size_t piece, Field field, const char* text) {
    return apply(job, {piece, 0, field, text, LengthUnit::millimetre});
}
ResolvedPiece resolved(const Job& job, std::size_t piece) {
    return resolve_piece(job.pieces[piece], resolve_names(job));
}
const Finding* found(const Job& job, std::size_t piece, const std::string& id) {
    static std::vector<Finding> all;
    all = findings_of(job, piece);
    for (const Finding& f : all)
        if (f.id == id) return &f;
    return nullptr;
}

// The least distance of the follower's surface from that of the cam, both as meshes, the cam having turned.
double gap(const Preview& cam, const Preview& follower, double theta) {
    const ResolvedZone& zone = cam.piece.zones[0];
    const Standing s = follower_standing(zone, theta);
    const double turn = zone.turns_clockwise() ? -theta : theta;
    double least = 1e300;
    std::vector<solid::Point> there;
    for (const solid::Point& p : follower.mesh.points)
        there.push_back({s.origin[0] + p.x * s.x[0] + p.y * s.y[0] + p.z * s.z[0],
                         s.origin[1] + p.x * s.x[1] + p.y * s.y[1] + p.z * s.z[1],
                         s.origin[2] + p.x * s.x[2] + p.y * s.y[2] + p.z * s.z[2]});
    for (const solid::Point& c : cam.mesh.points) {
        const double x = c.x * std::cos(turn) - c.y * std::sin(turn),
                     y = c.x * std::sin(turn) + c.y * std::cos(turn);
        // in the plane square to the shaft: neither has points in the other's middle
        for (const solid::Point& f : there)
            least = std::min(least, std::hypot(f.x - x, f.y - y));
    }
    return least;
}

} // namespace

TEST_CASE("a roller is made in one step, and follows") {
    Job job = add_counterpart(job_with({roller_cam}), 0, 0);
    REQUIRE(job.pieces.size() == 2);
    CHECK(job.pieces[1].name == "Roller for " + job.pieces[0].name);
    CHECK(in_mm(resolved(job, 1).zones[0].diameter) == Approx(8));
    CHECK(in_mm(resolved(job, 1).length()) == Approx(10));
    CHECK(resolved(job, 1).zones.size() == 2); // the pin's bore
    job = edited(job, 0, field::roller, "6.5");
    CHECK(in_mm(resolved(job, 1).zones[0].diameter) == Approx(6.5));
    job = edited(job, 0, field::length, "12");
    CHECK(in_mm(resolved(job, 1).length()) == Approx(12));
    CHECK(job_from_json(job_to_json(job)) == job);
    CHECK_FALSE(found(job, 0, "roller_size"));
    // typed over, it goes its own way, and that is said
    job = edited(job, 1, field::diameter, "7");
    CHECK_FALSE(job.pairs[0].follows);
    job = edited(job, 0, field::roller, "8");
    CHECK(in_mm(resolved(job, 1).zones[0].diameter) == Approx(7));
    const Finding* f = found(job, 0, "roller_size");
    REQUIRE(f);
    CHECK(f->value == Approx(7));
    for (const Edit& e : f->remedy->edits)
        job = apply(job, e);
    CHECK_FALSE(found(job, 0, "roller_size"));
}

TEST_CASE("followers of all kinds are solids, and touch the cam wherever it stands") {
    for (const char* follower : {"roller 8", "roller 8 offset 3", "roller 8 swing 50 60", "knife",
                                 "knife swing 50 60", "flat", "mushroom 40", "mushroom 40 swing 50 60"})
        for (const char* way : {"", " clockwise", " at 70"}) {
            const std::string text = "cam r20: rise 5 in 120, dwell 60, return in 120, dwell; " +
                                     std::string(follower) + "; b6" + way;
            INFO(text);
            const Job job = add_counterpart(job_with({text.c_str()}), 0, 0);
            const Preview cam = make_preview(job.pieces[0], 0, {}, LengthUnit::millimetre, 0.001),
                          part = make_preview(job.pieces[1], 1, {}, LengthUnit::millimetre, 0.001);
            REQUIRE(part.made());
            REQUIRE_NOTHROW(solid::require_watertight(part.mesh));
            CHECK(make_verified_solid(part)->valid);
            for (const double theta : {0.0, 0.8, 1.9, 3.6, 4.4})
                // points of both meshes lie apart from each other along the surfaces
                CHECK(gap(cam, part, theta) < 1.2);
        }
}

TEST_CASE("a follower stands where theory has it touch") {
    const Job job = job_with({"cam r20: rise 5 in 120, dwell 60, return in 120, dwell; flat; b6 at 30"});
    const ResolvedZone zone = resolved(job, 0).zones[0];
    for (int k = 0; k < 36; ++k) {
        const double theta = 2 * pi * k / 36, lift = zone.lobe()->motion.at(theta)[0];
        const Standing s = follower_standing(zone, theta);
        // its face lies square to its way, the base radius and the lift from the axis
        CHECK(s.origin[0] * s.z[0] + s.origin[1] * s.z[1] == Approx(20 + lift));
        CHECK(std::atan2(s.z[1], s.z[0]) == Approx(30 * pi / 180));
        CHECK(s.origin[2] == Approx(3));
    }
}

TEST_CASE("a drum cam's groove has its roller, a rib says why it has none") {
    Job job =
        job_with({"drum cam d72 b50: rise 20 in 150, dwell 30, return in 150, dwell; groove 8 wide 6 deep",
                  "drum cam d72 b50: rise 20 in 150, dwell 30, return in 150, dwell; rib 5 wide 4 high"});
    job = add_counterpart(job, 0, 0);
    CHECK(in_mm(resolved(job, 2).zones[0].diameter) == Approx(8));
    job = edited(job, 0, field::track_width, "9");
    CHECK(in_mm(resolved(job, 2).zones[0].diameter) == Approx(9));
    CHECK_THROWS_WITH(add_counterpart(job, 1, 0), Catch::Contains("between two rollers"));
    // pointing at the axis, its end on the groove's bottom, along the axis where the lift has it
    const ResolvedZone drum = resolved(job, 0).zones[0];
    const Standing s = follower_standing(drum, 1.2);
    CHECK(std::hypot(s.origin[0], s.origin[1]) == Approx(30));
    CHECK(s.origin[2] == Approx(drum.drum()->zero + drum.drum()->motion.at(1.2)[0]));
    CHECK(s.z[0] * s.origin[0] + s.z[1] * s.origin[1] == Approx(30));
}

TEST_CASE("a spring of the job holds a follower on, and says its rate") {
    Job job = job_with({roller_cam, "spring d1 D12 L30 n8"});
    const double rate = resolved(job, 1).zones[0].coil()->rate;
    job = hold_follower(job, {0, 0}, ZoneRef{1, 0});
    CHECK(resolved(job, 0).zones[0].lobe()->spec.load.rate == Approx(rate).epsilon(1e-5));
    job = edited(job, 1, field::wire_diameter, "1.2");
    const double stiffer = resolved(job, 1).zones[0].coil()->rate;
    CHECK(stiffer > 1.8 * rate);
    CHECK(resolved(job, 0).zones[0].lobe()->spec.load.rate == Approx(stiffer).epsilon(1e-5));
    CHECK(job_from_json(job_to_json(job)) == job);
    // a second roller's pair and the spring's stand beside each other
    job = add_counterpart(job, 0, 0);
    CHECK(job.pairs.size() == 2);
    // pressed further than it can go
    CHECK_FALSE(found(job, 0, "spring_goes_solid"));
    job = edited(job, 0, field::preload, "60");
    const Finding* f = found(job, 0, "spring_goes_solid");
    REQUIRE(f);
    CHECK(f->value == Approx(60 / stiffer + 8).epsilon(1e-4));
    // one's own rate frees it, none of the job's takes it away
    const Job own = edited(job, 0, field::spring_rate, "2");
    CHECK_FALSE(own.pairs[0].follows);
    CHECK(hold_follower(job, {0, 0}, {}).pairs.size() == 1);
    CHECK_THROWS_WITH(hold_follower(job, {1, 0}, ZoneRef{0, 0}), Catch::Contains("no spring and no lobe"));
}

TEST_CASE("a follower that would lift off is said, and the remedy holds it on") {
    Job job = job_with(
        {"cam r30: rise 10 in 120, dwell 60, return in 120, dwell; roller 8; b10; mass 200 spring 0.8 "
         "preload 5; 900 rpm"});
    const Finding* f = found(job, 0, "lifts_off");
    REQUIRE(f);
    CHECK(f->value < 0);
    CHECK_THAT(f->sentence, Catch::Contains("900 rpm"));
    for (const Edit& e : f->remedy->edits)
        job = apply(job, e);
    CHECK_FALSE(found(job, 0, "lifts_off"));
    CHECK(resolved(job, 0).zones[0].lobe()->loads->least_force > 0);
}

TEST_CASE("a conjugate pair is one piece with a journal between, and the second lobe follows the first") {
    Job job =
        job_with({"cam r20: rise 8 in 120, dwell 60, return in 120, dwell; roller 8; b6; conjugate 60"});
    REQUIRE(job.pieces[0].zones.size() == 3);
    const auto second = [&] { return *resolved(job, 0).zones[2].lobe(); };
    CHECK(in_mm(second().spec.base_radius) == Approx(60 - 24 - 4));
    CHECK(second().motion.lowest == Approx(-8));
    const auto made = [&] {
        const Preview p = make_preview(job.pieces[0], 0, resolve_names(job), LengthUnit::millimetre);
        REQUIRE(p.made());
        REQUIRE_NOTHROW(solid::require_watertight(p.mesh));
        CHECK(make_verified_solid(p)->valid);
    };
    made();
    job = edited(job, 0, field::timing, "rise 6 in 100, dwell 80, return in 120, dwell");
    CHECK(second().motion.lowest == Approx(-6));
    job = apply(job, {0, 2, field::conjugate, "58", LengthUnit::millimetre});
    CHECK(in_mm(second().spec.base_radius) == Approx(58 - 24 - 4));
    made();
    CHECK(job_from_json(job_to_json(job)) == job);
    CHECK(zone_designation(job.pieces[0].zones[2], job) == "cam conjugate 58; b6");
    CHECK_THROWS_WITH(apply(job, {0, 2, field::conjugate, "", LengthUnit::millimetre}),
                      Catch::Contains("is expected here"));
    // its own rows are those of the first
    CHECK_THROWS_AS(apply(job, {0, 2, field::base_radius, "30", LengthUnit::millimetre}), InputError);
    // from a lobe that stands already
    job = add_conjugate(job_with({roller_cam}), {0, 0});
    CHECK(job.pieces[0].zones.size() == 3);
    CHECK_THROWS_WITH(add_conjugate(job, {0, 2}), Catch::Contains("already"));
    // the first one can't be taken away from under it
    CHECK_THROWS_WITH(remove_zone(job, 0, 0), Catch::Contains("no lobe before"));
}

TEST_CASE("a second lobe too steep or too small is mended by its distance") {
    Job job =
        job_with({"cam r40: rise 12 in 60, dwell 60, return in 120, dwell; roller 8; b6; conjugate 60"});
    for (int tries = 0; tries < 4; ++tries) {
        std::optional<Remedy> remedy;
        for (const Finding& f : findings_of(job, 0))
            if (f.zone == 2 && f.remedy) remedy = f.remedy;
        if (!remedy) break;
        for (const Edit& e : remedy->edits) {
            CHECK(e.field == field::conjugate);
            job = apply(job, e);
        }
    }
    for (const Finding& f : findings_of(job, 0))
        CHECK((f.zone != 2 || f.severity != Severity::stop));
    CHECK(resolved(job, 0).zones[2].lobe()->trouble == CamTrouble::none);
}

TEST_CASE("a remedy for a timing leaves the named values that it does not concern") {
    Job job = set_value({}, "stroke", {"8", LengthUnit::millimetre});
    job = add_piece(job, piece_of(roller_cam));
    job = edited(job, 0, field::timing,
                 "rise stroke in 120 harmonic, dwell 60, return in 2*60 cycloidal, dwell");
    const Finding* f = found(job, 0, "acceleration_jumps");
    REQUIRE(f);
    REQUIRE(f->remedy);
    for (const Edit& e : f->remedy->edits)
        job = apply(job, e);
    CHECK(job.pieces[0].zones[0].as<LobeForm>()->timing.text ==
          "rise stroke in 120 cycloidal, dwell 60, return in 2*60 cycloidal, dwell");
}
