// Springs that are more than a helix: pitches and diameters at stations, ends each by itself, what they bear turn by turn,
// and how they stand under a load.
#include "form/coil/coil_designation.hpp"
#include "form/coil/coil_load.hpp"
#include "form/coil/find_spring.hpp"
#include "form/coil/spring_block.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"
#include "spring_words.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <random>

using namespace whorl;
using Catch::Matchers::Contains;
using test::spring, test::value, test::why;

TEST_CASE("a profile goes through its points, is C2 and monotone, and its integral is that of sums") {
    std::mt19937 random(3);
    const auto real = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    for (int round = 0; round < 40; ++round) {
        std::vector<Profile::Point> points;
        double turn = 0;
        for (int k = 0; k < 2 + round % 6; ++k) {
            points.push_back({turn, real(1, 9), round % 3 == 0 && k % 2 == 1});
            turn += real(0.2, 3);
        }
        const Profile p(points);
        INFO("seed 3, round " << round);
        double sum = 0;
        for (std::size_t i = 0; i < points.size(); ++i) {
            const auto here = p(points[i].turn);
            CHECK(here.v == Approx(points[i].value).epsilon(1e-12));
            CHECK(std::abs(here.d2) < 1e-8);
            if (points[i].level) CHECK(std::abs(here.d1) < 1e-9);
            CHECK(p.integral(points[i].turn) == Approx(sum).margin(1e-9));
            CHECK(p.turn_at(p.integral(points[i].turn)) == Approx(points[i].turn).margin(1e-9));
            if (i + 1 == points.size()) break;
            const double from = points[i].turn, to = points[i + 1].turn;
            sum += gauss<gauss_12>(from, to, 4, [&](double t) { return p(t).v; });
            double before = points[i].value;
            for (int k = 1; k <= 50; ++k) {
                const double t = from + (to - from) * k / 50, h = 1e-6;
                CHECK((p(t).v - before) * (points[i + 1].value - points[i].value) >= -1e-9);
                before = p(t).v;
                if (k == 50) break;
                CHECK((p(t + h).v - p(t - h).v) / (2 * h) == Approx(p(t).d1).margin(1e-5));
                CHECK((p(t + h).d1 - p(t - h).d1) / (2 * h) == Approx(p(t).d2).margin(1e-4));
                CHECK((p.integral(t + h) - p.integral(t - h)) / (2 * h) == Approx(p(t).v).epsilon(1e-6));
            }
        }
    }
}

TEST_CASE("the centreline has the pitch and the diameter asked at every station") {
    struct At {
        double turn, pitch, diameter; // 0: not looked at
    };
    const auto holds = [](const char* text, const std::vector<At>& stations) {
        const ResolvedCoil c = spring(text);
        INFO(text);
        for (const At& s : stations) {
            INFO("turn " << s.turn);
            if (s.pitch > 0) CHECK(std::abs(c.line.pitch(full_turn * s.turn) - s.pitch) < 1e-9);
            if (s.diameter > 0) CHECK(std::abs(2 * c.line.radius(full_turn * s.turn) - s.diameter) < 1e-9);
        }
        return c;
    };
    // closed ends: over the active turns, from where the transition from the end turns is over
    const ResolvedCoil even =
        holds("spring d1.5 D20 p4.6..2.1..4.6 n7", {{1.25, 4.6, 20}, {4.5, 2.1, 0}, {7.75, 4.6, 0}});
    // a mean by Simpson's rule, the ends' halves of the windows at 4.6
    CHECK(even.pitch == Approx((even.line.rise() - 2 * 1.5) / 7).epsilon(1e-12));
    double sum = 0;
    for (int i = 0; i < 7000; ++i)
        sum += pitch_asked_at(even, 1 + (i + 0.5) / 1000) / 1000;
    CHECK(even.free_length == Approx(sum + 2 * 1.5 + 1.5).epsilon(1e-7));
    holds("spring d1.5 D20 p4.6@1.5..2.1@3..4.6 n7",
          {{1.4, 4.6, 0}, {1.5, 4.6, 0}, {3, 2.1, 0}, {7.75, 4.6, 0}});
    holds("spring d1 D16..10@3..16 p4..6 n8 open", {{0, 4, 16}, {8, 6, 16}, {4, 5, 0}, {3, 0, 10}});
    // the length alone: so many turns that it comes out
    const ResolvedCoil by_length = holds("spring d1.5 D20 p4.6..2.1..4.6 L40", {{1.25, 4.6, 0}});
    CHECK(by_length.free_length == Approx(40).epsilon(1e-9));
    CHECK(by_length.active == Approx((40 - 4.5) / by_length.pitch).epsilon(1e-9));
    // heights over the near end
    for (const char* text :
         {"spring d1.5 D20 p4.6..2.1@z18..4.6 L40", "spring d1.5 D20 p4.6@z6..2.1@z18..4.6@z30 n9",
          "spring d2 D20 p5..3@z20..6 L60 closed ground", "spring d2 D20 p5..3@z20..6 L60 open"}) {
        const ResolvedCoil c = spring(text);
        INFO(text);
        const auto& p = c.spec.pitch;
        for (const CoilStation& s : p) {
            if (s.by != StationBy::height) continue;
            const double turn = c.line.turn_at_height(s.at - c.lift());
            CHECK(std::abs(c.line.height(full_turn * turn) + c.lift() - s.at) < 1e-9);
            CHECK(std::abs(c.line.pitch(full_turn * turn) - in_mm(s.value)) < 1e-9);
        }
        if (c.spec.free_length) CHECK(c.free_length == Approx(in_mm(*c.spec.free_length)).epsilon(1e-9));
    }
    const ResolvedCoil waist = spring("spring d2.5 D52..30@z15..52 L44 nt5 open");
    const double turn = waist.line.turn_at_height(15 - 1.25);
    CHECK(turn == Approx((15 - 1.25) / waist.pitch).epsilon(1e-12));
    CHECK(std::abs(2 * waist.line.radius(full_turn * turn) - 30) < 1e-9);
    CHECK(2 * waist.line.radius(0) == Approx(52));

    CHECK_THAT(why("spring d1.5 D20 p4.6..2.1..4.6 n7 L40"),
               Contains("28.") && Contains("leave L or the turns out"));
    CHECK_THAT(why("spring d1.5 D20 p4.6..2.1@0.5..4.6 n7"), Contains("between 1.25 and 7.75 turns"));
    CHECK_THAT(why("spring d1.5 D20 p4.6..2.1@5..3@4..4.6 n7"), Contains("4 is not behind 5"));
    CHECK_THAT(why("spring d1.5 D20 p4.6..2.1@5..3@z14..4.6 L40"), Contains("not some at these"));
    CHECK_THAT(why("spring d1.5 D20 p4.6..2.1@z14..4.6 n7"), Contains("last pitch's height"));
    CHECK_THAT(why("spring d1.5 D20 p4.6..2.1 L5"), Contains("too short"));
    CHECK_THAT(why("torsion spring d2 D16 n6 p3..4 legs 30"), Contains("one pitch"));
}

TEST_CASE("each end of a compression spring is by itself, with turns, pitch and grinding of its own") {
    // L0 = n·p + near dead turns × their pitch + far ones × theirs, d/2 at an end as wound, −(d/2 − t) at a ground one
    const ResolvedCoil own = spring("spring d1.8 D14 L44 n8 end pitch 2.4");
    CHECK(own.pitch == Approx((44 - 1.8 - 2 * 2.4) / 8).epsilon(1e-12));
    CHECK(own.line.pitch(0) == 2.4);
    CHECK(value(own, "closed_pitch") == 2.4);
    CHECK(value(own, "dead_coils") == 2);
    const ResolvedCoil gap = spring("spring d1.8 D14 L44 n8 ends gap 0.6");
    CHECK(gap.pitch == Approx(own.pitch).epsilon(1e-12));
    const ResolvedCoil two = spring("spring d2 D20 L50 n7 near closed 1.5 pitch 2.6 ground tip 0.5 far open");
    CHECK(two.near_turns.dead == 1.5);
    CHECK(two.far_turns.dead == 0);
    CHECK(two.total == 8.5);
    CHECK(two.pitch == Approx((50 - 1 + 0.5 - 1.5 * 2.6) / 7).epsilon(1e-12));
    CHECK(two.line.rise() == Approx(1.5 * 2.6 + 7 * two.pitch).epsilon(1e-12));
    CHECK(two.ground(false));
    CHECK_FALSE(two.ground(true));
    CHECK(value(two, "tip_thickness") == 0.5);
    CHECK(value(two, "near_closed_pitch") == 2.6);
    CHECK_FALSE(find_value(two.values, "far_closed_pitch"));
    CHECK(find_value(two.values, "dead_coils")->source == "1.5 at the near, 0 at the far end");
    // the ground face stands at z = 0, and the far wire ends d/2 below the length
    CHECK(two.lift() == Approx(-0.5));
    CHECK(two.lift() + two.line.rise() + 1 == Approx(50));
    // dead turns in all are shared by the end that says none
    const ResolvedCoil shared = spring("spring d2 D20 p6 n7 nt10.5 near closed 1");
    CHECK(shared.far_turns.dead == 2.5);
    const ResolvedCoil asked = spring("spring d2 D20 p6 n7 dead 3 near closed 1");
    CHECK(asked.far_turns.dead == 2);
    // one for both is what both are
    const ResolvedCoil both = spring("spring d2 D20 L50 n7 ends closed ground"),
                       usual = spring("spring d2 D20 L50 n7 closed ground");
    CHECK(both.pitch == usual.pitch);
    CHECK(both.volume == Approx(usual.volume).epsilon(1e-12));
    CHECK(both.solid_length == usual.solid_length);
    // EN 13906-1 by each end: 0.75·d at a closed, 0.5·d at an open one that is not ground
    CHECK(spring("spring d2 D20 L50 n7 near closed far open").solid_length == 8 * 2 + 1.5 + 1);
    CHECK(spring("spring d2 D20 L50 n7 near closed ground far open").solid_length == 8 * 2 + 1);

    // what the length is of
    const ResolvedCoil wire = spring("spring d2 D20 L50 over wire n7 closed ground"),
                       line = spring("spring d2 D20 L50 over centreline n7 closed ground tip 0.5");
    CHECK(wire.free_length == 48);
    CHECK(wire.line.rise() + 2 == Approx(50).epsilon(1e-12));
    CHECK(line.line.rise() == Approx(50).epsilon(1e-12));
    CHECK(line.free_length == 49);

    CHECK_THAT(why("spring d2 D20 L50 n7 end pitch 1.8"), Contains("at least 2 mm"));
    CHECK_THAT(why("spring d2 D20 L50 n7 nt8 near closed 1.5 far closed 1"),
               Contains("2.5 turns of their own"));
    CHECK_THAT(why("spring d2 D20 L50 n7 near open pitch 3"), Contains("open end"));
    CHECK_THAT(why("spring d2 D20 L50 n7 near closed tip 0.5"), Contains("Only a ground end"));
    CHECK_THAT(why("spring d2 D20 L50 n7 near full"), Contains("neither hooks nor legs"));
    CHECK_THAT(why("extension spring d2 D20 n7 near closed"), Contains("hooks"));
    CHECK_THAT(why("spring d2 D20 L50 over everything n7"), Contains("faces"));
}

TEST_CASE("a spring of several pitches closes turn by turn, as a sum over short pieces says") {
    const double G = 81500;
    for (const char* text : {"spring d2 D20 p6..3..6 n7", "spring d2 D20 p3..7 n9 closed ground",
                             "spring d1.6 D30..18 p6.4 nt7 open", "spring d1.6 D30..18 p4..7 nt7 open",
                             "spring d1.8 D14 L44 n8 end pitch 2.4"}) {
        const ResolvedCoil c = spring(text);
        INFO(text);
        const double d = c.wire;
        // how far it goes under a load: every piece by itself
        const int n = 60000;
        const auto travel = [&](double force) {
            double sum = 0;
            for (int i = 0; i < n; ++i) {
                const double turn = c.total * (i + 0.5) / n, D = mean_diameter_at(c, turn);
                const double at = std::clamp(turn - 0.5, 0.0, c.total - 1),
                             step = (mean_diameter_at(c, at + 1) - mean_diameter_at(c, at)) / 2,
                             lies = std::sqrt(std::max(0.0, d * d - step * step));
                const double p = pitch_asked_at(c, turn);
                const bool dead = turn < c.near_turns.dead || turn > c.total - c.far_turns.dead;
                if (dead && p <= d + 1e-9) continue;
                sum += std::min(8 * force * D * D * D / (G * std::pow(d, 4)), std::max(0.0, p - lies)) *
                       c.total / n;
            }
            return sum;
        };
        const double most = c.force_at_solid;
        CHECK(c.curve.points().back().load == Approx(most).epsilon(3e-3));
        for (const double part : {0.05, 0.2, 0.4, 0.6, 0.8, 0.97}) {
            const double s = travel(part * most);
            CHECK(c.curve.at_load(part * most).travel == Approx(s).epsilon(1e-3));
            CHECK(c.curve.at_travel(s).load == Approx(part * most).epsilon(2e-3));
        }
        double before = -1, steep = 0; // stiffer and stiffer
        for (const LoadCurve::Point& p : c.curve.points()) {
            CHECK(p.load > before);
            before = p.load;
        }
        for (std::size_t i = 1; i < c.curve.points().size(); ++i) {
            const auto &a = c.curve.points()[i - 1], &b = c.curve.points()[i];
            const double rate = (b.load - a.load) / (b.travel - a.travel);
            CHECK(rate >= steep * (1 - 1e-6));
            steep = rate;
        }
    }
    // of two pitches: the narrow turns lie at G·d⁴·(p − d)/(8·D³), the wide ones last
    const ResolvedCoil c = spring("spring d2 D20 p6..3..6 n7");
    CHECK(c.straight_to == Approx(G * 16 * 1 / (8 * 8000)).epsilon(1e-4));
    CHECK(c.force_at_solid == Approx(G * 16 * 4 / (8 * 8000)).epsilon(1e-9));
    CHECK(c.stress_at_solid == Approx(8 * c.force_at_solid * 20 / (pi * 8)).epsilon(1e-9));
    CHECK(c.solid_length == Approx((9 + 1.5) * 2));
    CHECK(c.curve.at_load(0.9 * c.straight_to).travel == Approx(0.9 * c.straight_to / c.rate).epsilon(1e-6));
    // closed turns with a gap give as well until they lie: softer at first
    const ResolvedCoil gapes = spring("spring d1.8 D14 L44 n8 end pitch 2.4");
    const double lie = G * std::pow(1.8, 4) * 0.6 / (8 * 14 * 14 * 14);
    CHECK(gapes.curve.at_load(0.5 * lie).travel == Approx(0.5 * lie / gapes.rate * 10 / 8).epsilon(1e-6));
    CHECK(gapes.curve.at_load(2 * lie).travel == Approx(2 * lie / gapes.rate + 2 * 0.6).epsilon(1e-6));
}

TEST_CASE("what a spring works between is said with loads, stresses, their range and the work") {
    const ResolvedCoil c = spring("spring d2 D20 L50 n7 closed ground works 40..60N");
    const double rate = 81500 * 16 / (8.0 * 8000 * 7), tau = 8 * 20 / (pi * 8);
    CHECK(value(c, "length_1") == 40);
    CHECK(value(c, "load_1") == Approx(10 * rate));
    CHECK(value(c, "stress_1") == Approx(10 * rate * tau));
    CHECK(value(c, "load_2") == 60);
    CHECK(value(c, "length_2") == Approx(50 - 60 / rate));
    CHECK(value(c, "stress_range") == Approx((60 - 10 * rate) * tau));
    CHECK(value(c, "corrected_stress_range") == Approx((60 - 10 * rate) * tau * 10.5 / 9.25));
    CHECK(value(c, "work") == Approx((60 * 60 - 100 * rate * rate) / (2 * rate)));
    CHECK(value(c, "used_2") == Approx(100 * 60 * tau / (0.56 * (1980 - 740 * std::log10(2.0)))));
    const ResolvedCoil e = spring("extension spring d1.6 D12 n20 F0 10 works 20N..30N");
    CHECK(value(e, "length_1") == Approx(e.free_length + 10 / e.rate));
    CHECK(value(e, "work") == Approx(25 * 10 / e.rate));
    const ResolvedCoil t = spring("torsion spring d2 D16 n6 legs 30 works 30..500Nmm");
    CHECK(value(t, "load_1") == Approx(30 * t.torsion_rate));
    CHECK(value(t, "length_2") == Approx(500 / t.torsion_rate * pi / 180));
    CHECK(value(t, "stress_2") == Approx(500 * 32 / (pi * 8) * (8 + 0.07) / (8 - 0.75)));
    CHECK(value(t, "work") ==
          Approx((500 * 500 - std::pow(30 * t.torsion_rate, 2)) / (2 * t.torsion_rate) * pi / 180));
    // what a wire bears where it is known, and nothing where it is not
    CHECK(value(t, "permissible_angle") ==
          Approx(value(t, "permissible_moment") / t.torsion_rate * pi / 180));
    CHECK_FALSE(
        find_value(spring("torsion spring d2 D16 n6 legs 30 wire EN 10270-2").values, "permissible_angle"));
    CHECK_THAT(why("spring d2 D20 L50 n7 closed ground works 52"), Contains("from 50 mm to 18 mm"));
    CHECK_THAT(why("spring d2 D20 L50 n7 closed ground works 10"), Contains("18 mm"));
    CHECK_THAT(why("spring d2 D20 L50 n7 closed ground works 300N"), Contains("93"));
}

TEST_CASE("a fatigue line of one's own is held against the stresses between two states") {
    const std::string works = "spring d2 D20 L50 n7 closed ground works 40..60N";
    const ResolvedCoil c = spring(works + " fatigue 600..1000");
    const double k = 10.5 / 9.25, tau = 8 * 20 / (pi * 8), low = k * 10 * c.rate * tau,
                 high = k * 60 * tau; // EN 13906-1
    const auto stresses = working_stresses(c);
    REQUIRE(stresses);
    CHECK(stresses->first == Approx(low));
    CHECK(stresses->second == Approx(high));
    CHECK(value(c, "fatigue_upper") == Approx(600 + 0.4 * low));
    CHECK(value(c, "fatigue_safety") == Approx((600 + 0.4 * low - low) / (high - low)));
    CHECK(c.spec.fatigue->upper(1000) == Approx(1000)); // they meet there
    CHECK(write_spring(c.spec) == "spring d2 D20 L50 n7 closed ground RH works 40..60N fatigue 600..1000");
    CHECK(parse_spring(write_spring(c.spec)).spec == c.spec);
    CHECK_FALSE(
        find_value(spring("spring d2 D20 L50 n7 closed ground fatigue 600..1000").values, "fatigue_upper"));
    CHECK_FALSE(working_stresses(spring("spring d2 D20 L50 n7 closed ground works 40")));
    // of torsion springs with q, of flat-sided wire as they are
    const ResolvedCoil t = spring("torsion spring d2 D16 n6 legs 30 works 500Nmm..30 fatigue 900..1300");
    CHECK(working_stresses(t)->first == Approx(value(t, "stress_2")));
    CHECK(working_stresses(t)->second == Approx(value(t, "stress_1")));
    const ResolvedCoil f = spring("spring d2x2 D20 L50 n7 closed ground works 40..30");
    CHECK(working_stresses(f)->second ==
          Approx(1.1263 * value(f, "stress_2")).epsilon(1e-3)); // square wire of index 10
    for (const auto& [words, says] :
         {std::pair{"fatigue 600", "two stresses"}, std::pair{"fatigue 900..600", "rise"},
          std::pair{"fatigue -5..600", "rise"}, std::pair{"fatigue 5..6000", "at most 5000"},
          std::pair{"fatigue a..b", "a"}})
        CHECK_THAT(why(works + " " + words), Contains(says));
}

TEST_CASE("a spring is made as it stands under a load") {
    // shorter by the travel, its coils still clear of each other
    for (const char* text :
         {"spring d2 D20 L50 n7 closed ground", "spring d2 D20 L50 n7 open",
          "spring d1.6 D30..18 p6.4 nt7 open", "spring d2 D20 p6..3..6 n7",
          "spring d1.8 D14 L44 n8 end pitch 2.4", "spring d2.5 D52..30..52 L44 nt5 open LH"}) {
        const ResolvedCoil free = spring(text);
        INFO(text);
        for (const double part : {0.1, 0.5, 0.9}) {
            const double travel = part * free.curve.points().back().travel;
            const ResolvedCoil made =
                spring(std::string(text) + " at " + number_text(free.free_length - travel, 9));
            REQUIRE(made.made_at);
            CHECK(made.made_at->travel == Approx(travel).epsilon(1e-6));
            // lying coils are held half a hundredth of the wire apart: √((1.005·d)² − ΔR²) − √(d² − ΔR²) along the axis,
            // up to a tenth of the wire a turn where they nest
            const double held = part < 0.6           ? 1e-8
                                : free.is_cylinder() ? 0.011
                                                     : 0.1; // exact while others give way
            CHECK(made.length == Approx(free.free_length - travel).margin(held * free.wire * free.total));
            CHECK(made.line.rise() + (free.free_length - free.line.rise()) ==
                  Approx(made.length).margin(1e-9));
            CHECK(made.least_distance > 0.999 * free.wire);
            CHECK(made.free_length == free.free_length);
            CHECK(made.rate == free.rate);
        }
    }
    const ResolvedCoil half = spring("spring d2 D20 L50 n7 closed ground at 32");
    CHECK(half.length == Approx(32).epsilon(1e-12));
    CHECK(value(half, "made_load") == Approx(18 * half.rate));
    // it grows on the way: by EN 13906-1's growth when solid, less before
    const ResolvedCoil solid = spring("spring d2 D20 L50 n7 closed ground at 18.2");
    CHECK(solid.largest_mean - 20 == Approx(value(solid, "growth")).epsilon(0.02));
    CHECK(half.largest_mean - 20 ==
          Approx(0.1 * (46 / 7.0 - 4) * (46 / 7.0 + 0.2 * 4) / 20).epsilon(1e-3)); // its pitch is 4
    CHECK(half.free_length == 50);
    CHECK(value(half, "free_length") == 50);
    // diameters at heights stay on their turns
    const ResolvedCoil waist = spring("spring d2.5 D52..30@z15..52 L44 nt5 open"),
                       pressed = spring("spring d2.5 D52..30@z15..52 L44 nt5 open at 30");
    for (const double turn : {0.0, 1.7, 3.1, 5.0})
        CHECK(mean_diameter_at(pressed, turn) == Approx(mean_diameter_at(waist, turn)).epsilon(1e-9));
    // how far they reach: a plain body's wire by its radius, its length by its turns
    const ResolvedCoil plain = spring("extension spring d1.6 D12 n20 hooks plain");
    CHECK(plain.reach == Approx(6.8).margin(0.01));
    const double level = std::cos(std::atan(plain.pitch / (pi * 12))); // of the wire's section, as it leans
    CHECK(plain.overall == Approx(plain.line.rise() + 1.6 * level).epsilon(1e-9));
    CHECK(plain.lowest == Approx(-0.8 * level).epsilon(1e-9));
    // pulled: longer by (F − F0)/R, its hooks as they were
    const ResolvedCoil e = spring("extension spring d1.6 D12 n20 F0 10"),
                       pulled = spring("extension spring d1.6 D12 n20 F0 10 at 30N");
    CHECK(pulled.overall == Approx(e.overall + 20 / e.rate).margin(0.02));
    CHECK(pulled.near_laid.clear == Approx(e.near_laid.clear).margin(0.02));
    CHECK(spring("extension spring d1.6 D12 n20 F0 10 at 5N").overall == Approx(e.overall).epsilon(1e-12));
    // wound: more turns of less diameter, of the same wire
    const ResolvedCoil t = spring("torsion spring d2 D16 n6 legs 30"),
                       wound = spring("torsion spring d2 D16 n6 legs 30 at 90");
    CHECK(wound.line.shape().turns == Approx(6.25));
    CHECK(wound.largest_mean == Approx(16 * 6 / 6.25));
    CHECK(wound.wire_length == Approx(t.wire_length).epsilon(2e-3));
    CHECK(value(wound, "made_load") == Approx(90 * t.torsion_rate));
    CHECK_THAT(why("extension spring d1.6 D12 n20 F0 10 at 300N"), Contains("can't stand at 300 N"));
    CHECK_THAT(why("spring d2 D20 L50 n7 at"), Contains("32"));
    CHECK_THAT(why("spring d2 D20 L50 n7 at x"), Contains("x") && !Contains("understood in a spring"));
    CHECK_THAT(why("spring d2 D20 L50 n7 at 40..30"), Contains("one state"));
    CHECK_THAT(why("spring d2 D20 L50 n7 works 40..30..20"), Contains("two states"));
    const ResolvedCoil gapes = spring("spring d1.8 D14 L44 n8 end pitch 2.4");
    CHECK_THAT(find_value(gapes.values, "spring_rate")->source, Contains("once the closed turns lie"));
    CHECK_THAT(find_value(gapes.values, "force_at_solid")->source, Contains("last turn"));
}

TEST_CASE("loads and lengths have EN 15800's tolerances, grade by grade") {
    // d 2, D 20, n 7: w/10 = 1, so the polynomial is −0.84 + 3.781 − 4.244 + 2.274 = 0.971
    const double of = 65.92 * std::pow(2, 3.3) / std::pow(20, 1.6) * 0.971 * (-1 / 147.0 + 8 / 35.0 + 0.803);
    for (const auto& [grade, q] : {std::pair{1, 0.63}, std::pair{2, 1.0}, std::pair{3, 1.6}}) {
        const ResolvedCoil c =
            spring("spring d2 D20 L50 n7 closed ground works 60N grade " + std::to_string(grade));
        CHECK(value(c, "length_tolerance") == Approx(of * q / c.rate));
        CHECK(value(c, "load_tolerance_1") == Approx((of + 0.9) * q));
        CHECK(value(c, "load_tolerance") == Approx((of + 0.015 * c.force_at_solid) * q));
    }
    for (const char* text :
         {"spring d2 D20..16 L50 n7", "spring d2 D20 p4..6 n7", "spring d2 D20 L50 n1.5 open",
          "spring d2 D7 L50 n7", "extension spring d2 D20 n7"})
        CHECK_FALSE(find_value(spring(text).values, "length_tolerance"));
    CHECK_THAT(why("spring d2 D20 L50 n7 grade 4"), Contains("1, 2 and 3"));
}

TEST_CASE("a spring's maker is told the data of ISO 2162") {
    const auto block = [](const char* text) {
        std::string all;
        for (const auto& [name, value] : data_block(spring(text)))
            all += name + ": " + value + "\n";
        return all;
    };
    const std::string pressed = block("spring d2 D20 L50 n7 closed ground works 40..60N");
    for (const char* row : {"Wire: EN 10270-1 SM", "Outside diameter De: 22 mm", "Total coils nt: 9",
                            "Near end: closed, ground", "Direction of coiling: right",
                            "Solid length Lc: 18 mm", "Load F1: 29.11 ± ", "Load F2: 60 ± ",
                            "Tolerances: EN 15800, grade 2", "Developed length of wire: 567"})
        CHECK_THAT(pressed, Contains(row));
    const std::string pulled = block("extension spring d1.6 D12 n20 F0 10 near half LH works 20N");
    for (const char* row : {"Near hook: half", "Far hook: full", "Initial tension F0: 10 N",
                            "Load F1: 20 N at ", "coiling: left"})
        CHECK_THAT(pulled, Contains(row));
    CHECK_THAT(block("torsion spring d2 D16 n6 legs 30 works 30"),
               Contains("Torque M1: ") && Contains("at 30°"));
}

TEST_CASE("a search for a spring is written in one line") {
    const SpringWanted w =
        parse_spring_search("find spring 40@32 65@24 outside 24 inside 10 solid 20 wire sh");
    REQUIRE(w.loads.size() == 2);
    CHECK(w.loads[1].force == 65);
    CHECK(w.loads[1].length == 24);
    CHECK(w.outside == 24);
    CHECK(w.inside == 10);
    CHECK(w.solid == 20);
    CHECK(w.wire_class == "SH");
    CHECK(parse_spring_search("find spring 40@1 rate 2.5 in").loads[0].length == Approx(25.4));
    CHECK(parse_spring_search("find spring 40@1 rate 2.5 in").rate == 2.5);
    CHECK(is_spring_search("Find spring 40@32"));
    CHECK_FALSE(is_spring_search("spring d2 D20"));
    const auto refused = [](const char* text) {
        try {
            (void)parse_spring_search(text);
        } catch (const InputError& e) {
            return std::string(e.what()) + " at " + std::to_string(e.position);
        }
        return std::string("understood");
    };
    CHECK_THAT(refused("find spring"), Contains("two loads"));
    CHECK(find_springs(w).size() > 3);
    CHECK_THROWS_AS(find_springs(parse_spring_search("find spring 65@32 40@24")),
                    InputError); // it grows as it gets shorter
    CHECK_THAT(refused("find spring 40@x 65@24"), Contains("at 15"));
    CHECK_THAT(refused("find spring 40@32 strong"), Contains("'strong'") && Contains("at 18"));
}

TEST_CASE("a wire begins where it is asked to") {
    for (const char* hand : {"RH", "LH"}) {
        const ResolvedCoil c = spring(std::string("spring d2 D20 L50 n7 closed ground start 90 ") + hand),
                           as_usual = spring(std::string("spring d2 D20 L50 n7 closed ground ") + hand);
        const Vec3 at = c.line.point(0).at;
        CHECK(at.x == Approx(0).margin(1e-12));
        CHECK(at.y == Approx(std::string(hand) == "LH" ? -10 : 10));
        CHECK(c.volume == Approx(as_usual.volume).epsilon(1e-12));
        CHECK(c.least_distance == Approx(as_usual.least_distance).epsilon(1e-12));
    }
}

TEST_CASE("what springs say of stations, ends, lengths and states is written as it is read") {
    for (const char* text :
         {"spring d1.5 D20 p4.6..2.1@3..4.6 n7", "spring d1.5 D20 p4.6..2.1@z18..4.6 L40 open",
          "spring d2.5 D52..30@z15..52 L44 nt5 open", "spring d1.8 D14 L44 n8 end pitch 2.4",
          "spring d2 D20 L50 n7 near closed 1.5 ground tip 0.5 far open",
          "spring d2 D20 L50 n7 near closed gap 0.3 ground",
          "spring d2 D20 L50 over wire n7 closed ground start 45 LH",
          "spring d2 D20 L50 n7 works 40..60N at 32 grade 3",
          "torsion spring d2 D16 n6 legs 30 works 10..500Nmm at 30", "extension spring d1.6 D12 n20 at 20N",
          "spring d1/8 D3/2..1@z5/4..3/2 L3 n6 at 2.5 in", "spring d2 D20 L50 n7 far open ground"}) {
        INFO(text);
        const CoilDesignation d = parse_spring(text);
        INFO(write_spring(d.spec, d.unit));
        const CoilDesignation again = parse_spring(write_spring(d.spec, d.unit));
        CHECK(again.spec == d.spec);
        CHECK(again.unit == d.unit);
    }
    CHECK(write_spring(parse_spring("spring d1.8 D14 L44 n8 end pitch 2.4").spec) ==
          "spring d1.8 D14 L44 n8 ends closed pitch 2.4 RH");
}
