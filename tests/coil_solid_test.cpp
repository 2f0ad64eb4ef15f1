// Springs as solids: random ones through every proof, points on theory, checks with their remedies.
#include "build/build.hpp"
#include "check/check.hpp"
#include "form/coil/coil_designation.hpp"
#include "model/edit.hpp"
#include "model/forms/coil.hpp"
#include "model/job_file.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;

class RandomSpring {
public:
    explicit RandomSpring(unsigned seed) : random_(seed) {}
    std::string text() {
        const double across = real(0.3, 5), index = real(4.5, 18);
        const bool flat = whole(0, 3) == 0;                       // square or rectangular wire
        const double d = flat ? across * real(0.4, 1.6) : across; // along the axis
        std::string s = "spring d" + number_text(across, 3) + (flat ? "x" + number_text(d, 3) : "") +
                        (whole(0, 1)   ? " D"
                         : whole(0, 1) ? " De"
                                       : " Di");
        const int stations = whole(0, 2) ? 1 : whole(2, 4);
        for (int k = 0; k < stations; ++k)
            s += (k ? "/" : "") +
                 number_text(across * index * (stations > 1 ? real(0.7, 1.3) : 1) + 2 * across, 3);
        s += " n" + number_text(whole(8, 60) / 4.0, 2);
        const int pitches = whole(0, 2) ? 1 : whole(2, 4);
        for (int k = 0; k < pitches; ++k)
            s += (k ? ".." : " p") + number_text(d * real(1.2, 4), 3);
        if (whole(0, 2)) {
            s += whole(0, 1) ? " closed" : " open";
            if (whole(0, 1)) s += " ground" + tip(d);
        } else { // each end by itself
            for (const char* end : {" near ", " far "})
                s += end +
                     (whole(0, 2) ? "closed" + (whole(0, 1) ? " " + number_text(whole(4, 8) / 4.0, 2) : "") +
                                        (whole(0, 2) ? "" : " gap " + number_text(d * real(0.05, 0.5), 3))
                                  : "open") +
                     (whole(0, 1) ? " ground" + tip(d) : "");
        }
        if (whole(0, 2) == 0) s += " start " + number_text(real(-180, 180), 1);
        return s + (whole(0, 1) ? " LH" : "");
    }

private:
    std::string tip(double d) { return whole(0, 1) ? "" : " tip " + number_text(d * real(0.2, 0.6), 3); }
    int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }
    double real(double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random_);
    }
    std::mt19937 random_;
};

void prove_springs(unsigned from, unsigned count) {
    unsigned made = 0;
    for (unsigned seed = from; seed < from + count; ++seed) {
        const std::string text = RandomSpring(seed).text();
        INFO("seed " << seed << ": " << text);
        Piece piece;
        try {
            piece = piece_of(text);
            if (seed % 4 == 0) { // somewhere between free and solid
                const ResolvedCoil free = resolve_coil(parse_spring(text).spec);
                const double to =
                    free.free_length - (0.2 + 0.2 * (seed % 3)) * free.curve.points().back().travel;
                piece = piece_of(text + " at " + number_text(to, 6));
            }
        } catch (const InputError&) {
            continue;
        }
        const Preview p = make_preview(piece, 0, {}, LengthUnit::millimetre, 0.05);
        for (const Finding& f : p.findings)
            CHECK(f.id != "own_fault");
        if (!p.made()) continue;
        ++made;
        const auto solid = make_verified_solid(p);
        CHECK(solid->valid);
        CHECK(solid::kernel_volume(solid->solid) == Approx(p.volume()).epsilon(1e-6));
        CHECK(std::abs(solid->mesh_error) < 0.1);
        CHECK(solid->mesh_error < 0);
        // every point of the mesh lies on the wire or in a ground face, and within the length
        const ResolvedCoil& c = *p.piece.zones[0].coil();
        for (std::size_t i = 0; i < p.mesh.points.size(); i += 7) {
            const auto& q = p.mesh.points[i];
            const double theta = p.mesh.unrolled[i].theta;
            const Vec3 off = Vec3{q.x, q.y, q.z - c.lift()} - c.line.point(theta).at;
            const auto f = c.line.frame(theta);
            const double x = dot(off, f.outwards) / (c.wire / 2), y = dot(off, f.upwards) / (c.axial / 2);
            const double edge = c.round ? std::hypot(x, y) : std::max(std::abs(x), std::abs(y));
            CHECK(edge < 1 + 1e-8);
            if (c.round || (theta > c.line.begin() + 1e-9 &&
                            theta < c.line.end() - 1e-9)) // else one inside the wire's end
                CHECK(edge > 1 - 1e-8);
            CHECK(std::abs(dot(off, c.line.point(theta).d1)) < 1e-9 * c.largest_mean);
            if (c.ground(false)) CHECK(q.z > -1e-9);
            if (c.ground(true)) CHECK(q.z < c.length + 1e-9);
        }
    }
    CHECK(made > count / 2);
}

} // namespace

TEST_CASE("60 random springs hold every proof") {
    prove_springs(1, 60);
}
TEST_CASE("3 000 random springs hold every proof", "[.][long]") {
    prove_springs(1000, 3000);
}

TEST_CASE("a spring's solid has its volume by Pappus, and its mesh converges to it") {
    const Piece piece = piece_of("spring d4 D36 L85 nt7.5 open");
    const double theory = pi * 4 * 7.5 * std::hypot(36 * pi, 10.8);
    double last = 1;
    for (const double chord : {0.1, 0.01, 0.001}) {
        const Preview p = make_preview(piece, 0, {}, LengthUnit::millimetre, chord);
        CHECK(p.volume() == Approx(theory).epsilon(1e-12));
        const double error = 1 - solid::volume(p.mesh) / theory;
        CHECK(error > 0);
        CHECK(error < last / 5);
        last = error;
    }
}

TEST_CASE("a spring stands between its ends, left and right-handed alike") {
    for (const char* text : {"spring d2 D20 L50 n7 closed ground", "spring d2 D20 L50 n7 closed ground LH"}) {
        const Preview p = make_preview(piece_of(text), 0, {}, LengthUnit::millimetre, 0.02);
        REQUIRE(p.made());
        double low = 1e9, high = -1e9, wide = 0, turned = 0;
        for (const auto& q : p.mesh.points) {
            low = std::min(low, q.z);
            high = std::max(high, q.z);
            wide = std::max(wide, std::hypot(q.x, q.y));
        }
        for (std::size_t i = 0; i < p.mesh.points.size(); ++i) // the wire at θ = 90° stands at y > 0 or y < 0
            if (std::abs(p.mesh.unrolled[i].theta - 2.5 * pi) < 0.05) turned += p.mesh.points[i].y;
        CHECK(low == Approx(0).margin(1e-9));
        CHECK(high == Approx(50));
        CHECK(wide == Approx(11).epsilon(1e-4));
        CHECK((turned < 0) == (std::string(text).find("LH") != std::string::npos));
    }
}

TEST_CASE("what is wrong with a spring is said with a remedy that helps") {
    struct Case {
        const char *text, *id;
        Severity severity;
    };
    for (const Case& k :
         {Case{"spring d3 D10 L20 n9 closed", "coils_merge", Severity::stop},
          Case{"spring d9 D52/30/52 L44 nt5 open", "coils_merge", Severity::stop},
          Case{"spring d2 D6 L50 n7", "small_index", Severity::advice},
          Case{"spring d1 D30 L50 n7", "large_index", Severity::advice},
          Case{"spring d2 D20 L50 n7 ground tip 0.35", "thin_ground_end", Severity::advice},
          Case{"spring d2 D20 L50 n7 closed ground works 40..25 fatigue 300..900", "fatigue",
               Severity::advice},
          Case{"spring d4x2 D32 L50 n7 closed ground tip 0.35", "thin_ground_end", Severity::advice}}) {
        INFO(k.text);
        const Job job = add_piece({}, piece_of(k.text));
        const auto findings = findings_of(job, 0);
        REQUIRE_FALSE(findings.empty());
        CHECK(findings[0].id == k.id);
        CHECK(findings[0].severity == k.severity);
        REQUIRE(findings[0].remedy);
        const auto after = findings_of(apply(job, *findings[0].remedy), 0);
        for (const Finding& f : after)
            CHECK(f.id != k.id);
    }
    CHECK(findings_of(add_piece({}, piece_of("spring d2 D20 L50 n7 closed ground")), 0).empty());
    // flat-sided wire: where it is inside the next coil, however far the middles are apart; a cone's turns nest
    const auto merges = [](const char* text) {
        const auto found = findings_of(add_piece({}, piece_of(text)), 0);
        return !found.empty() && found[0].id == "coils_merge";
    };
    CHECK(merges("spring d2x4 D24 p3.9 n6 open"));
    CHECK_FALSE(merges("spring d2x4 D24 p4.2 n6 open"));
    CHECK_FALSE(merges("spring d4x2 D32 p2.2 n6 open"));
    CHECK_FALSE(merges("spring d2x4 D60..20 p3 n6 open"));
    CHECK(merges("spring d4x4 D60..20 p3 n6 open")); // 3.33 narrower from turn to turn, the wire 4 broad
    for (const auto& [text, clear] :
         {std::pair{"torsion spring d3x2 D24 p3 n6 legs 30", true},
          std::pair{"torsion spring d3x2 D24 n6 near leg 20 far leg 3 bent 90 r 4 40 down", false}}) {
        INFO(text);
        bool stopped = false;
        for (const Finding& f : findings_of(add_piece({}, piece_of(text)), 0))
            stopped = stopped || f.id == "ends_meet_coils";
        CHECK(stopped != clear);
    }
    // ends that are ground where the pitch changes already are refused in a sentence
    const Preview p =
        make_preview(piece_of("spring d2 D20 L50 n7 dead 1 closed ground"), 0, {}, LengthUnit::millimetre);
    CHECK_FALSE(p.made());
    REQUIRE_FALSE(p.findings.empty());
    CHECK(p.findings[0].sentence.find("more dead turns") != std::string::npos);
}

TEST_CASE("a spring is edited by its fields, and goes through the file") {
    Job job = add_piece({}, piece_of("spring d2 D20 L50 n7 closed ground"));
    const auto say = [&](Field f, const char* text) {
        job = apply(job, {0, 0, f, text, LengthUnit::millimetre});
        CHECK(job_from_json(job_to_json(job)) == job);
    };
    const auto coil = [&] { return *resolve_piece(job.pieces[0], resolve_names(job)).zones[0].coil(); };
    say(field::pitch, "5"); // the free length follows
    CHECK(coil().free_length == Approx(7 * 5 + 4));
    say(field::length, "60"); // and the pitch again
    CHECK(coil().pitch == Approx(8));
    say(field::total_coils, "8");
    CHECK(coil().active == Approx(6));
    say(field::active_coils, "7.25");
    CHECK(coil().total == Approx(9.25));
    say(field::coil_diameter, "De 24/18/24");
    CHECK(coil().largest_mean == Approx(22));
    CHECK(coil().smallest_mean == Approx(16));
    say(field::coil_ends, "open");
    CHECK(coil().total == Approx(7.25));
    say(field::spring_wire, "EN 10270-3 1.4310");
    say(field::hand, "left");
    CHECK(job.pieces[0].name == "Compression spring 2 x 24"); // it goes by what it is
    job = set_value(job, "wire", {"2.2", LengthUnit::millimetre});
    say(field::wire_diameter, "wire");
    CHECK(coil().wire == Approx(2.2));
    // what a spring has not is refused, naming what it is
    for (const Field f : {field::diameter, field::keyway, field::starts, field::module, field::near_end}) {
        INFO(f.key);
        try {
            (void)apply(job, {0, 0, f, "3", LengthUnit::millimetre});
            FAIL_CHECK("taken");
        } catch (const InputError& e) {
            CHECK(std::string(e.what()).find("spring") != std::string::npos);
        }
    }
    CHECK_THROWS_AS(insert_zone(job, 0, 1, zone_of(parse_designation("round 5 x 5"))), InputError);
    CHECK_THROWS_AS(split_zone(job, 0, 0), InputError);
    CHECK_THROWS_AS(add_counterpart(job, 0, 0), InputError);
}
