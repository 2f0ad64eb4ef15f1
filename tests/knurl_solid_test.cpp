// Knurls as solids: random ones through every proof, volumes by closed form and by sums, points on theory,
// what stands beside them, checks with their remedies.
#include "build/build.hpp"
#include "check/check.hpp"
#include "model/edit.hpp"
#include "model/forms/knurl.hpp"
#include "model/forms/plain.hpp"
#include "model/job_file.hpp"
#include "model/ready_zone.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"

#include <cmath>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

Piece flat_ended(const std::string& text) {
    Piece p = piece_of(text);
    p.zones[0].near_end = p.zones[0].far_end = {};
    return p;
}

// How far the mesh's corners are off the closed form's surface. The pattern may stand shifted along the axis
// by up to half a pitch, see knurl_zone.cpp.
double off_theory(const Preview& p, double shift) {
    const ResolvedKnurl& k = *p.piece.zones[0].knurl();
    const double middle = in_mm(p.piece.zones[0].length) / 2 + shift;
    double worst = 0;
    for (std::size_t t = 0; t < p.mesh.triangles.size(); ++t) {
        const solid::Face& face = p.body.skin()->faces[p.mesh.face[t]];
        if (face.role != solid::FaceRole::flank) continue;
        for (const auto i : p.mesh.triangles[t]) {
            const solid::Point& q = p.mesh.points[i];
            worst = std::max(
                worst, std::abs(std::hypot(q.x, q.y) - knurl_radius(k, std::atan2(q.y, q.x), q.z - middle)));
        }
    }
    return worst;
}

std::string random_knurl(std::mt19937& random) {
    const auto real = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    const auto whole = [&](int low, int high) {
        return std::uniform_int_distribution<int>(low, high)(random);
    };
    const char* const kinds[]{"axial",   "ring",         "left",       "right",
                              "crossed", "crossed sunk", "axial-ring", "axial-ring sunk"};
    const double pitch = real(0.5, 2), d = pitch * real(5, 10);
    std::string s = std::string("knurl ") + kinds[whole(0, 7)] + " pitch " + number_text(pitch, 3);
    if (whole(0, 2) == 0) s += " angle " + std::to_string(whole(60, 110));
    return s + " on " + number_text(d, 3) + " x " + number_text(real(2, 7) * pitch + 1, 3);
}

void prove_knurls(unsigned from, unsigned count) {
    unsigned made = 0;
    for (unsigned seed = from; seed < from + count; ++seed) {
        std::mt19937 random(seed);
        Piece piece;
        const std::string text = random_knurl(random);
        INFO("seed " << seed << ": " << text);
        piece = piece_of(text);
        if (random() % 2) piece.zones[0].near_end = {};
        if (random() % 2) piece.zones[0].far_end = {};
        if (random() % 3 == 0) { // on a shank, thinner or thicker
            Zone shank = plain(mm(in_mm(resolve_piece(piece, {}).zones[0].diameter) *
                                  std::uniform_real_distribution<double>(0.5, 1.2)(random)),
                               mm(3));
            piece.zones.insert(random() % 2 ? piece.zones.begin() : piece.zones.end(), shank);
        }
        if (random() % 4 == 0) {
            Zone bore = plain(mm(1.2), mm(1));
            bore.where = Where::near_bore;
            bore.length = {"", {}};
            piece.zones.push_back(bore);
        }
        const Preview p = make_preview(piece, 0, {}, LengthUnit::millimetre, 0.02);
        for (const Finding& f : p.findings)
            CHECK(f.id != "own_fault");
        if (!p.made()) {
            for (const Finding& f : p.findings)
                UNSCOPED_INFO(f.sentence);
            CHECK(stops(p.findings));
            continue;
        }
        ++made;
        const auto solid = make_verified_solid(p);
        CHECK(solid->valid);
        CHECK(solid::kernel_volume(solid->solid) == Approx(p.volume()).epsilon(1e-6));
        CHECK(std::abs(solid->mesh_error) < 0.02);
    }
    CHECK(made > count * 8 / 10);
}

} // namespace

TEST_CASE("randomised knurls are closed, valid, watertight and of their closed volume") {
    prove_knurls(500, 20);
}
TEST_CASE("3 000 randomised knurls", "[.][long]") {
    prove_knurls(10000, 3000);
}

TEST_CASE("knurls lie on theory, with a volume found by sums") {
    for (const char* text :
         {"knurl axial pitch 1 on 20 x 8", "knurl left pitch 1.2 on 16 x 9",
          "knurl right 30 teeth on 20 x 31", "knurl ring pitch 1 on 20 x 7.3",
          "knurl crossed pitch 1.6 on 20 x 8.7", "knurl crossed sunk pitch 1.6 on 12 x 8.7",
          "knurl axial-ring pitch 1.6 on 12 x 8.7", "knurl axial-ring sunk 23 teeth on 12 x 7"}) {
        INFO(text);
        const Preview p = test::prove(flat_ended(text));
        CHECK(off_theory(p, 0) < 1e-3); // µm
        const ResolvedKnurl& k = *p.piece.zones[0].knurl();
        const double length = in_mm(p.piece.zones[0].length);
        constexpr int n = 1500;
        double sum = 0;
        for (int i = 0; i < n; ++i)
            for (int j = 0; j < n; ++j) {
                const double r = knurl_radius(k, (i + 0.5) / n * 2 * pi, ((j + 0.5) / n - 0.5) * length);
                sum += r * r / 2 * (2 * pi / n) * (length / n);
            }
        CHECK(p.volume() == Approx(sum).epsilon(2e-5)); // what sums of this fineness leave
    }
}

TEST_CASE("a knurl's corners lie on its closed form to a micrometre, under its chamfers, too") {
    const Preview p = test::prove(piece_of("knurl crossed pitch 1.6 on 10 x 12"));
    const ResolvedKnurl& k = *p.piece.zones[0].knurl();
    for (const solid::Face& f : p.body.skin()->faces)
        for (const auto& loop : f.loops)
            for (const auto& use : loop) {
                const solid::UnrolledPoint q = solid::start_of(*p.body.skin(), use);
                if (f.role == solid::FaceRole::flank)
                    CHECK(std::abs(q.r - knurl_radius(k, q.theta, q.z - 6)) < 1e-9);
                CHECK(q.r <= knurl_radius(k, q.theta, q.z - 6) + 1e-9);
            }
}

TEST_CASE("lengths at which grooves end beside the end plane are moved out of its way") {
    for (const double off : {0.0, 1e-10, 1e-7, 1e-5, 1e-4, 3e-4})
        for (const char* kind : {"ring", "crossed", "axial-ring"}) {
            const std::string text =
                std::string("knurl ") + kind + " pitch 1.6 on 8 x " + number_text(4.8 + off, 12);
            INFO(text);
            for (const Piece& piece : {flat_ended(text), piece_of(text)}) {
                const Preview p = test::prove(piece);
                // nothing is left that a receiver would take for a point
                const solid::Skin& skin = *p.body.skin();
                for (const solid::Edge& e : skin.edges)
                    CHECK(std::hypot(e.end.r * std::sin(e.end.theta - e.begin.theta), e.end.r - e.begin.r,
                                     e.end.z - e.begin.z) > 5e-5);
            }
        }
}

TEST_CASE("a simplified knurl is the plain surface over its ridges") {
    Job job = add_piece({}, flat_ended("knurl crossed pitch 1 on 20 x 15"));
    job = apply(job, {0, 0, field::geometry, "simplified", LengthUnit::millimetre});
    const Preview p = test::prove(job.pieces[0]);
    CHECK(p.volume() == Approx(pi * 100 * 15));
    CHECK(job_from_json(job_to_json(job)).pieces == job.pieces);
}

TEST_CASE("knurls are checked, and their remedies help") {
    const auto findings = [](const std::string& text) {
        return findings_of(add_piece({}, piece_of(text)), 0);
    };
    const auto has = [](const std::vector<Finding>& all, const char* id) {
        return std::any_of(all.begin(), all.end(), [&](const Finding& f) { return f.id == id; });
    };
    CHECK(findings("knurl axial pitch 1 on 20 x 15").empty());
    CHECK(has(findings("knurl axial pitch 0.9 on 20 x 15"), "pitch_not_preferred"));
    CHECK(has(findings("knurl axial pitch 1.6 on 5.3 x 5"), "pitch_moves"));
    // π·5.3/1.6 is 10.4: ten teeth of 1.66504, which close as asked on 16/π
    CHECK_THAT(findings("knurl axial pitch 1.6 on 5.3 x 5").back().sentence,
               Catch::Contains("10 teeth, makes the pitch 1.665 mm, 4.1 % off; on Ø 5.093 mm"));
    CHECK(has(findings("knurl crossed pitch 0.6 on 30 x 20"), "too_many_facets")); // about 18 000
    CHECK_FALSE(has(findings("knurl crossed pitch 1 on 30 x 20"), "too_many_facets"));
    const Job large = add_piece({}, piece_of("knurl crossed pitch 0.5 on 80 x 60"));
    const auto stopping = findings_of(large, 0);
    REQUIRE(has(stopping, "too_many_facets"));
    REQUIRE(stopping.front().remedy);
    Job mended = large;
    for (const Edit& e : stopping.front().remedy->edits)
        mended = apply(mended, e);
    CHECK_FALSE(has(findings_of(mended, 0), "too_many_facets"));
    for (const char* text : {"knurl axial pitch 0.9 on 20 x 15", "knurl axial pitch 1.6 on 5.3 x 5"}) {
        Job job = add_piece({}, piece_of(text));
        const std::vector<Finding> before = findings_of(job, 0);
        REQUIRE(before.front().remedy);
        for (const Edit& e : before.front().remedy->edits)
            job = apply(job, e);
        CHECK(findings_of(job, 0).size() < before.size());
    }
    // chamfers that need more than there is
    const auto shallow = findings("knurl axial pitch 1 on 20 x 0.8");
    CHECK(stops(shallow));
}

TEST_CASE("a knurl refuses a bore and ends it can't have") {
    Job job = add_piece({}, piece_of("knurl axial pitch 1 on 20 x 15"));
    CHECK_THROWS_AS(apply(job, {0, 0, field::near_end, "rounded", LengthUnit::millimetre}), InputError);
    CHECK_THROWS_AS(apply(job, {0, 0, field::near_end, "run-out 1", LengthUnit::millimetre}), InputError);
    CHECK_THROWS_AS(apply(job, {0, 0, field::knurl_teeth, "3", LengthUnit::millimetre}), InputError);
    CHECK_THROWS_AS(apply(job, {0, 0, field::knurl, "wavy", LengthUnit::millimetre}), InputError);
    CHECK_THROWS_AS(apply(job, {0, 0, field::knurl_pitch, "", LengthUnit::millimetre}), InputError);
    // teeth and pitch free each other, as depth and angle do
    job = apply(job, {0, 0, field::knurl_teeth, "60", LengthUnit::millimetre});
    CHECK(resolve_piece(job.pieces[0], {}).zones[0].knurl()->teeth == 60);
    job = apply(job, {0, 0, field::knurl_pitch, "1.2", LengthUnit::millimetre});
    CHECK(resolve_piece(job.pieces[0], {}).zones[0].knurl()->teeth == 52);
    job = apply(job, {0, 0, field::knurl_depth, "0.4", LengthUnit::millimetre});
    job = apply(job, {0, 0, field::profile_angle, "105", LengthUnit::millimetre});
    CHECK(job.pieces[0].zones[0].as<KnurlForm>()->depth.text.empty());
    CHECK(zone_designation(job.pieces[0].zones[0], job) == "knurl axial pitch 1.2 angle 105 on 20 x 15");
}
