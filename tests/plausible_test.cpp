// Pieces as people write them, in their thousands: what has no finding that stops is made, closed and
// watertight, and no fault of ours comes to light. 3 000 always, 50 000 with [long], a million with
// [million].
#include "build/build.hpp"
#include "model/job_file.hpp"
#include "plausible_piece.hpp"
#include "solid/skin/axial_cut.hpp"

#include <catch2/catch.hpp>
#include <filesystem>

using namespace whorl;

namespace {

void build_plausible(unsigned from, unsigned pieces) {
    unsigned made = 0;
    for (unsigned seed = from; seed < from + pieces; ++seed) {
        test::RandomChoices choices(seed);
        Job job;
        try {
            job.pieces = {test::PlausiblePiece(choices).make()};
            const Preview p = make_preview(job.pieces[0], 0, {}, LengthUnit::millimetre, 0.1);
            for (const Finding& f : p.findings)
                if (f.id == "own_fault")
                    FAIL_CHECK("seed " << seed << ": " << f.sentence << "\n" << job_to_json(job));
            if (!p.made()) continue;
            ++made;
            if (p.body.skin()) {
                solid::require_closed(*p.body.skin());
                solid::require_cut_around(*p.body.skin());
            }
            solid::require_watertight(p.mesh);
        } catch (const InputError&) {
        } catch (const std::exception& e) {
            FAIL_CHECK("seed " << seed << ": " << e.what() << "\n" << job_to_json(job));
        }
    }
    CHECK(made > pieces / 8); // refusals are not the rule
}

} // namespace

TEST_CASE("3 000 plausible pieces are made or refused in a sentence") {
    build_plausible(1, 3000);
}
TEST_CASE("50 000 plausible pieces are made or refused in a sentence", "[.][long]") {
    build_plausible(10000, 50000);
}
TEST_CASE("a million plausible pieces are made or refused in a sentence", "[.][million]") {
    build_plausible(1000000, 1000000);
}

TEST_CASE("pieces that were once a fault of ours") {
    int jobs = 0;
    for (const auto& entry : std::filesystem::directory_iterator(WHORL_SOURCE_DIR "/tests/hostile")) {
        if (entry.path().extension() != ".whorl") continue;
        INFO(entry.path().filename().string());
        const Job job = load_job(entry.path());
        ++jobs;
        for (std::size_t i = 0; i < job.pieces.size(); ++i) {
            const Preview p = make_preview(job.pieces[i], i, resolve_names(job), job.unit, 0.1);
            for (const Finding& f : p.findings) {
                INFO(f.sentence);
                CHECK(f.id != "own_fault");
            }
            if (!p.made()) continue;
            REQUIRE_NOTHROW(solid::require_closed(*p.body.skin()));
            REQUIRE_NOTHROW(solid::require_cut_around(*p.body.skin()));
            REQUIRE_NOTHROW(solid::require_watertight(p.mesh));
            CHECK(make_verified_solid(p)->valid);
        }
    }
    CHECK(jobs >= 8);
}
