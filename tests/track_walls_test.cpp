// Drum cams whose tracks cross themselves or keep their corners: walls against a roller carried past them,
// what they leave, solids through every proof, and what is refused.
#include "build/build.hpp"
#include "check/check.hpp"
#include "form/cam/track_walls.hpp"
#include "model/edit.hpp"
#include "model/forms/drum.hpp"
#include "model/forms/plain.hpp"
#include "model/job_file.hpp"
#include "model/ready_zone.hpp"
#include "model/starter.hpp"
#include "prove_piece.hpp"
#include "roller_passage.hpp"

#include <cmath>
#include <numbers>
#include <random>

using namespace whorl;

namespace {

constexpr double pi = std::numbers::pi;
constexpr double degree = pi / 180;

constexpr const char* reversing =
    "drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; groove 4 wide 3 deep; 4 turns";
constexpr const char* tracks[]{
    reversing,
    "drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; groove 4 wide 3 deep; 4 turns; at 77 "
    "clockwise",
    "drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; groove 4 wide 3 deep; 4 turns; "
    "straight walls",
    "drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; groove 4 wide 3 deep swing 200; 4 "
    "turns",
    "drum cam d40 b90: rise 50 in 300 constant, return in 420 constant; groove 5 wide 4 deep; 2 turns",
    "drum cam d40 b60: rise 30 in 360 constant, return in 360 constant; groove 4 wide 3 deep corners sharp; "
    "2 turns",
    "drum cam d40 b60: rise 25 in 90 constant, dwell 90, return in 120 constant, dwell; groove 4 wide 5 deep "
    "corners sharp",
    "drum cam d40 b60: rise 25 in 90 constant, dwell 90, return in 120 constant, dwell; groove 4 wide 5 deep "
    "corners sharp; straight walls clockwise"};

ResolvedDrum drum(const std::string& text) {
    const DrumDesignation d = parse_drum(text);
    return resolve_drum(d.spec, *d.length);
}

std::string why(const std::string& text) {
    try {
        (void)parse_drum(text);
    } catch (const InputError& e) {
        return e.what();
    }
    return "understood";
}

const Finding* found(const std::vector<Finding>& all, const std::string& id) {
    for (const Finding& f : all)
        if (f.id == id) return &f;
    return nullptr;
}

// What the track takes off the drum, from its walls alone: ring by ring.
double taken_by(const ResolvedDrum& d) {
    static constexpr double node[]{0.1834346424956498, 0.5255324099163290, 0.7966664774136267,
                                   0.9602898564975363};
    static constexpr double weight[]{0.3626837833783620, 0.3137066458778873, 0.2223810344533745,
                                     0.1012285362903763};
    const TrackWalls walls = walls_of(d);
    const double half = (d.radius - d.other_radius) / 2;
    double taken = 0;
    for (std::size_t i = 0; i < 4; ++i)
        for (const double up : {-1.0, 1.0}) {
            const double r = d.other_radius + half * (1 + up * node[i]);
            double area = 0;
            for (const TrackPiece& p : walls.pieces)
                for (int k = 0; k < 12; ++k) {
                    const double h = (p.wall.to() - p.wall.from()) / 12 / 2,
                                 m = p.wall.from() + (2 * k + 1) * h;
                    for (std::size_t q = 0; q < 4; ++q)
                        for (const double e : {-1.0, 1.0}) {
                            const WallJet j = p.wall.along(m + e * node[q] * h, r);
                            area += (p.side == 0 ? -1 : 1) * weight[q] * h * j.z.c[0] * j.theta.c[1];
                        }
                }
            taken += weight[i] * half * r * area;
        }
    return taken;
}

std::string random_track(std::mt19937& random) {
    const auto real = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    const auto whole = [&](int low, int high) {
        return std::uniform_int_distribution<int>(low, high)(random);
    };
    const auto text_of = [](double v) { return number_text(v, 3); };
    for (;;) {
        const double d = real(15, 60), width = d * real(0.05, 0.14), depth = d * real(0.04, 0.16);
        const int turns = whole(1, 6);
        // so steep that it crosses itself squarely enough
        const double slope = std::tan(real(12, 40) * degree) * d / 2;
        const int out = turns == 1 ? whole(60, 150) : whole(120 * turns, 240 * turns),
                  back = 360 * turns - out;
        const double stroke = slope * out * degree;
        std::string timing = "rise " + text_of(stroke) + " in ";
        static constexpr const char* laws[]{"constant", "constant", "modified-sine", "harmonic"};
        const std::string law = laws[whole(0, 3)];
        if (turns == 1)
            timing += std::to_string(out) + " constant, dwell 60, return in " + std::to_string(back - 100) +
                      " constant, dwell";
        else if (whole(0, 3) == 0)
            timing += std::to_string(out - 20) + " " + law + ", dwell 20, return in " +
                      std::to_string(back - 10) + " " + law + ", dwell 10";
        else
            timing += std::to_string(out) + " " + law + ", return in " + std::to_string(back) + " " + law;
        std::string s = "drum cam d" + text_of(d) + " b" + text_of(stroke + 2 * width + real(3, 20)) + ": " +
                        timing + "; groove " + text_of(width) + " wide " + text_of(depth) + " deep";
        if (turns == 1 || whole(0, 3) == 0) s += " corners sharp";
        if (turns > 1) s += "; " + std::to_string(turns) + " turns";
        switch (whole(0, 4)) {
        case 0:
            s += "; straight walls";
            break;
        case 1:
            s += "; swing " + text_of(std::max(stroke, stroke * stroke / (0.8 * d)) * real(1.2, 4));
            break;
        default:
            break;
        }
        if (whole(0, 1)) s += "; at " + std::to_string(whole(1, 359));
        if (whole(0, 2) == 0) s += "; clockwise";
        try {
            if (drum(s).trouble == DrumTrouble::none) return s;
        } catch (const InputError&) {
            // a stroke or an arm out of range: another one
        }
    }
}

void prove_tracks(unsigned from, unsigned count) {
    test::prove_random(from, count, 0.6, [](std::mt19937& random, std::string& text) {
        text = random_track(random);
        Piece piece = piece_of(text);
        const double d = in_mm(resolve_piece(piece, {}).zones[0].diameter);
        if (random() % 2) piece.zones.insert(piece.zones.begin(), plain(mm(d * 0.6), mm(4)));
        return piece;
    });
}

} // namespace

TEST_CASE("a track of several turns crosses itself where both its ways are equally high") {
    const ResolvedDrum d = drum(reversing);
    REQUIRE(d.trouble == DrumTrouble::none);
    // out and back over 2·m turns: 2·m − 1 crossings, half a turn apart, all between opposite slopes
    REQUIRE(d.crossings.size() == 3);
    const double slope = 60 / (720 * degree);
    for (std::size_t k = 0; k < 3; ++k) {
        const TrackCrossing& c = d.crossings[k];
        CHECK(c.first / degree == Approx(180.0 * static_cast<double>(k + 1)));
        CHECK(c.second / degree == Approx(1440 - 180.0 * static_cast<double>(k + 1)));
        CHECK(c.angle == Approx(2 * std::atan(slope / 15)));
        CHECK(d.motion.at(c.first)[0] == Approx(d.motion.at(c.second)[0]));
    }
    CHECK(d.crossing_opening() == Approx(4 / std::tan(std::atan(slope / 15))));
    // as many as its turns ask for, whatever its timing: a closed way of n turns meets itself n − 1 times at least
    for (int turns = 2; turns <= 6; ++turns) {
        const ResolvedDrum e =
            drum("drum cam d20 b300: rise " + std::to_string(20 * turns) + " in " +
                 std::to_string(150 * turns) + " constant, return in " + std::to_string(210 * turns) +
                 " constant; line; " + std::to_string(turns) + " turns");
        CHECK(e.trouble == DrumTrouble::none);
        CHECK(e.crossings.size() == static_cast<std::size_t>(turns - 1));
    }
}

TEST_CASE("walls that end on each other against a roller carried past them") {
    for (const char* text : tracks) {
        INFO(text);
        const ResolvedDrum d = drum(text);
        REQUIRE(d.trouble == DrumTrouble::none);
        const TrackWalls walls = walls_of(d);
        REQUIRE(walls.trouble == DrumTrouble::none);
        double worst = 0, deepest = -1e300;
        for (const TrackPiece& p : walls.pieces)
            for (const double part : {0.01, 0.4, 0.99})
                for (const double r :
                     {p.wall.inner(), (p.wall.inner() + p.wall.outer()) / 2, p.wall.outer()}) {
                    const WallJet j = p.wall.along(p.wall.from() + part * (p.wall.to() - p.wall.from()), r);
                    const double in = test::swept_over(d, j.theta.c[0], r, j.z.c[0]);
                    worst = std::max(worst, std::abs(in));
                    deepest = std::max(deepest, in);
                }
        // touched by the roller, and nowhere cut into by another of its ways; straight walls are what they are
        if (d.spec.walls == WallKind::envelope) CHECK(worst < 1e-6);
        CHECK(deepest < (d.spec.walls == WallKind::envelope ? 1e-6 : d.wall_difference * 1.1 + 1e-6));
    }
}

TEST_CASE("the two walls at a node share their border, at every radius") {
    for (const char* text : tracks) {
        INFO(text);
        const ResolvedDrum d = drum(text);
        const TrackWalls walls = walls_of(d);
        for (int node = 0; node < walls.nodes; ++node) {
            std::vector<std::pair<const DrumWall*, double>> ends;
            for (const TrackPiece& p : walls.pieces) {
                if (p.begin == node) ends.push_back({&p.wall, p.wall.from()});
                if (p.end == node) ends.push_back({&p.wall, p.wall.to()});
            }
            REQUIRE(ends.size() == 2);
            for (int k = 0; k <= 20; ++k) {
                const double r =
                    ends[0].first->inner() + (ends[0].first->outer() - ends[0].first->inner()) * k / 20;
                const WallJet a = ends[0].first->along(ends[0].second, r),
                              b = ends[1].first->along(ends[1].second, r);
                CHECK(std::abs(std::remainder(a.theta.c[0] - b.theta.c[0], 2 * pi)) * r < 1e-8);
                CHECK(std::abs(a.z.c[0] - b.z.c[0]) < 1e-8);
                // across it goes as its derivative says
                const double h = 1e-5,
                             in = std::clamp(r, ends[0].first->inner() + h, ends[0].first->outer() - h);
                const auto& [wall, t] = ends[0];
                CHECK((wall->along(t, in + h).z.c[0] - wall->along(t, in - h).z.c[0]) / (2 * h) ==
                      Approx(wall->across(t, in).z.c[1]).margin(1e-5));
            }
        }
    }
}

TEST_CASE("tracks that cross themselves as solids: closed, valid, of their volume") {
    for (const char* text : tracks) {
        INFO(text);
        const Preview p = test::prove(piece_of(text));
        const ResolvedDrum& d = *p.piece.zones[0].drum();
        CHECK(p.volume() == Approx(pi * d.radius * d.radius * d.length - taken_by(d)).epsilon(1e-9));
    }
    // scored only: the drum's volume, and a face for every part between the crossings
    const Preview p = test::prove(
        piece_of("drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; line; 4 turns"));
    CHECK(p.volume() == Approx(pi * 15 * 15 * 90).epsilon(1e-12));
}

TEST_CASE("randomised tracks that cross themselves or keep their corners") {
    prove_tracks(700, 30);
}
TEST_CASE("1 000 randomised tracks that cross themselves or keep their corners", "[.][long]") {
    prove_tracks(9000, 1000);
}

TEST_CASE("turns and corners are read, written, kept and refused") {
    for (const char* text :
         {reversing,
          "drum cam d40 b60: rise 25 in 90 constant, dwell 90, return in 120 constant, dwell; groove "
          "4 wide 5 deep corners sharp"}) {
        const DrumDesignation d = parse_drum(text);
        CHECK(write_drum(d.spec, d.length, d.unit) == text);
        const Job job = add_piece({}, piece_of(text));
        CHECK(job_from_json(job_to_json(job)) == job);
    }
    const std::string timing = "drum cam d40 b60: rise 25 in 360 constant, return in 360 constant; ";
    CHECK_THAT(why(timing + "groove 4 wide 3 deep; 2.5 turns"), Catch::Contains("whole number of turns"));
    CHECK_THAT(why(timing + "groove 4 wide 3 deep; 90 turns"), Catch::Contains("from 1 to 40"));
    CHECK_THAT(why(timing + "rib 4 wide 3 high; 2 turns"), Catch::Contains("own rollers' way"));
    CHECK_THAT(why(timing + "rib 4 wide 3 high corners sharp"), Catch::Contains("only those of a groove"));
    CHECK_THAT(why(timing + "line corners sharp; 2 turns"), Catch::Contains("leave sharp out"));
    CHECK(parse_drum(timing + "line corners 3 blended; 2 turns").spec.corners == CornerKind::blended);
    const auto findings = [](const std::string& text) {
        return findings_of(add_piece({}, piece_of(text)), 0);
    };
    struct Wrong {
        std::string text;
        const char* id;
        bool mended;
    };
    for (const Wrong& w :
         {Wrong{"drum cam d30 b90: rise 60 in 720 constant, return in 720 constant; groove 4 wide 3 deep",
                "past_full_turn", true},
          Wrong{"drum cam d30 b90: rise 60 in 700 constant, return in 700 constant; groove 4 wide 3 deep; 4 "
                "turns",
                "timing_short", true},
          Wrong{
              "drum cam d60 b90: rise 60 in 1440 constant, return in 1440 constant; groove 2 wide 3 deep; 8 "
              "turns",
              "crossing_flat", true},
          Wrong{
              "drum cam d40 b90: rise 50 in 240 constant, dwell 480, return in 360 constant; groove 4 wide 3 "
              "deep; 3 turns",
              "turns_touch", false},
          Wrong{"drum cam d40 b90: rise 10 in 360 3-4-5, return in 360 3-4-5; groove 9 wide 3 deep; 2 turns",
                "crossing_flat", false},
          Wrong{"drum cam d40 b90: rise 20 in 170 constant, rise 25 in 190 constant, return in 360 constant; "
                "groove 4 wide 3 deep; 2 turns",
                "crossing_at_joint", false},
          Wrong{reversing, "crossing_needs_follower", true},
          Wrong{"drum cam d40 b60: rise 25 in 90 constant, dwell 90, return in 120 constant, dwell; groove 4 "
                "wide 5 deep corners sharp",
                "corners_kept", true}}) {
        INFO(w.text);
        const std::vector<Finding> all = findings(w.text);
        for (const Finding& f : all)
            UNSCOPED_INFO(f.id << ": " << f.sentence);
        const Finding* f = found(all, w.id);
        REQUIRE(f);
        if (w.mended) REQUIRE(f->remedy);
        if (!f->remedy) continue;
        const Job job = apply(add_piece({}, piece_of(w.text)), *f->remedy);
        CHECK_FALSE(found(findings_of(job, 0), w.id));
    }
}
