// Compression springs: EN 13906-1's numbers by hand, turns and lengths in every sufficient set, the
// centreline's mathematics, and what is ground off by a second route.
#include "form/coil/coil_designation.hpp"
#include "form/designation.hpp"
#include "quantity/input_error.hpp"
#include "spring_words.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <numbers>
#include <random>

using namespace whorl;
using test::spring, test::value, test::why;

constexpr double pi = std::numbers::pi;

TEST_CASE("a closed and ground spring has EN 13906-1's numbers") {
    const ResolvedCoil c = spring("spring d2 D20 L50 n7 closed ground RH");
    CHECK(value(c, "wire_diameter") == 2);
    CHECK(value(c, "mean_diameter") == 20);
    CHECK(value(c, "outside_diameter") == 22);
    CHECK(value(c, "inside_diameter") == 18);
    CHECK(value(c, "free_length") == 50);
    CHECK(value(c, "pitch") == Approx((50 - 2 * 2) / 7.0));
    CHECK(value(c, "active_coils") == 7);
    CHECK(value(c, "total_coils") == 9);
    CHECK(value(c, "index") == 10);
    CHECK(value(c, "spring_rate") == Approx(81500 * 16 / (8.0 * 8000 * 7)));
    CHECK(value(c, "shear_modulus") == 81500);
    CHECK(value(c, "solid_length") == 18);
    CHECK(value(c, "stress_at_solid") == Approx(8 * (81500 * 16 / 448000.0) * 32 * 20 / (pi * 8)));
    const double force = 81500 * 16 / 448000.0 * 32, w = 10;
    CHECK(value(c, "force_at_solid") == Approx(force));
    CHECK(value(c, "corrected_stress_at_solid") ==
          Approx(8 * force * 20 / (pi * 8) * (w + 0.5) / (w - 0.75)));
    CHECK(value(c, "least_gap") == Approx(7 * (0.0015 * 400 / 2 + 0.2)));
    CHECK(value(c, "tip_thickness") == 1);
    CHECK(value(c, "dead_coils") == 2);
    // of several diameters each turn gives by its own: here by sums over short pieces of a turn
    const ResolvedCoil waist = spring("spring d2.5 D52..30..52 L44 nt5 open");
    double cubes = 0;
    for (int i = 0; i < 5000; ++i)
        cubes += std::pow(2 * waist.line.radius(2 * pi * (i + 0.5) / 1000), 3) / 1000;
    CHECK(waist.rate == Approx(81500 * std::pow(2.5, 4) / (8 * cubes)).epsilon(1e-6));
    CHECK(value(c, "natural_frequency") ==
          Approx(3.63e5 * 2 / (7 * 400)).epsilon(0.001)); // the textbooks' figure
    // nine turns of a helix, to first order
    CHECK(value(c, "wire_length") == Approx(9 * pi * 20).epsilon(0.005));
    CHECK(value(c, "mass") == Approx(9 * pi * 20 * pi * 7.85e-3).epsilon(0.03)); // less what is ground off
}

TEST_CASE("a spring of several diameters closes turn by turn, the smallest last, and its turns nest") {
    // turns lie √(d² − ΔR²) high, ΔR = (15 − 9)/7 from turn to turn
    const ResolvedCoil c = spring("spring d1.6 D30..18 p6.4 nt7 open");
    const double d = 1.6, lies = std::sqrt(d * d - 36.0 / 49), G = 81500;
    CHECK(value(c, "force_at_solid") ==
          Approx(G * std::pow(d, 4) * (6.4 - lies) / (8 * 18 * 18 * 18)).epsilon(1e-9));
    CHECK(value(c, "stress_at_solid") == Approx(G * d * (6.4 - lies) / (pi * 18 * 18)).epsilon(1e-9));
    CHECK(value(c, "straight_to") ==
          Approx(G * std::pow(d, 4) * (6.4 - lies) / (8 * 30 * 30 * 30)).epsilon(1e-9));
    // the ends' half turns have no neighbour on one side
    CHECK(value(c, "solid_length") == Approx(7 * lies + d).epsilon(0.02));
    CHECK(value(c, "solid_length") < 8 * d - 0.5);
    // a straight line would have said 21.8 N and 407 MPa
    CHECK(value(c, "force_at_solid") > 2.5 * 21.8);
    // the length under a force by a sum over short pieces: at the one said nothing is left to fall, a little below there is
    const auto length = [&](double force) {
        double sum = 0;
        const int n = 70000;
        for (int i = 0; i < n; ++i) {
            const double D = 2 * c.line.radius(2 * pi * 7 * (i + 0.5) / n);
            sum += std::max(lies, 6.4 - 8 * force * D * D * D / (G * std::pow(d, 4))) * 7 / n;
        }
        return sum;
    };
    const double force = value(c, "force_at_solid");
    CHECK(length(force) == Approx(7 * lies).epsilon(1e-9));
    CHECK(length(0.97 * force) > 7 * lies + 1e-4);
    CHECK(length(value(c, "straight_to")) ==
          Approx(7 * 6.4 - value(c, "straight_to") / c.rate).epsilon(1e-6));
    // no clause that is for cylinders only
    CHECK_FALSE(find_value(c.values, "least_gap"));
    for (const char* key : {"solid_length", "force_at_solid", "stress_at_solid", "spring_rate"})
        CHECK(find_value(c.values, key)->source.find("EN 13906") == std::string::npos);
    // a steep cone lies flat in itself
    const ResolvedCoil flat = spring("spring d1 D60..10 p5 nt5 open");
    CHECK(value(flat, "solid_length") == Approx(1).margin(1));
    CHECK(value(flat, "force_at_solid") == Approx(G * 5 / (8 * 1000)).epsilon(0.02));
    // of a cylinder all is as it was
    const ResolvedCoil even = spring("spring d2 D20..20 L50 n7 closed ground");
    CHECK(value(even, "force_at_solid") == Approx(81500 * 16 / 448000.0 * 32));
}

TEST_CASE("a stroke in a spring's line is a fraction or parts stations, and is never guessed") {
    using Catch::Matchers::Contains;
    const auto same = [](const char* a, const char* b) {
        INFO(a);
        CHECK(parse_spring(a).spec == parse_spring(b).spec);
    };
    same("spring d1/8 D9/8 L3 n6 in", "spring d0.125 D1.125 L3 n6 in");
    same("spring d1/8 D1 1/2 L3 n6 in", "spring d0.125 D1.5 L3 n6 in");
    same("spring d 1/8 De 1 1/2 L 3 1/4 n6 in", "spring d0.125 De1.5 L3.25 n6 in");
    same("spring d2.5 D52/30/52 L44 nt5 open",
         "spring d2.5 D52..30..52 L44 nt5 open"); // as it was once written
    same("spring d1.6 D30/18 p6.4 nt7 open", "spring d1.6 D30..18 p6.4 nt7 open");
    same("spring d0.1 D1.2/0.9 L3 n6 in", "spring d0.1 D1.2..0.9 L3 n6 in");
    CHECK_THAT(why("spring d2 D32/16 L50 n7"), Contains("32..16"));
    CHECK_THAT(why("spring d2 D32/16 L50 n7"), Contains("(32/16)"));
    same("spring d2 D20 p4.6/2.1 n7", "spring d2 D20 p4.6..2.1 n7");
    CHECK_THAT(why("spring d4.6/2.1 D20 p6 n7"), Contains("one number"));
    CHECK_THAT(why("spring d4..2 D20 p6 n7"), Contains("one number"));
    same("spring d2 D20 p(9.2/2) n7", "spring d2 D20 p4.6 n7");
    CHECK(parse_spring("spring d1/8 D9/8..5/8 L3 n6 in").spec.diameters.size() == 2);
}

TEST_CASE("a spring's wire is said in its line") {
    CHECK(parse_spring("spring d2 D20 L50 n7 wire EN 10270-2").spec.material == "EN 10270-2");
    CHECK(parse_spring("spring d2 D20 wire EN 10270-3 1.4310 L50 n7").spec.material == "EN 10270-3 1.4310");
    CHECK(parse_spring("spring d2 D20 wire 10270-3 L50 n7").spec.material == "EN 10270-3 1.4310");
    CHECK_THAT(why("spring d2 D20 L50 n7 wire steel"), Catch::Matchers::Contains("EN 10270-1"));
    CHECK(write_spring(parse_spring("spring d2 D20 L50 n7 wire EN 10270-2").spec).find("wire EN 10270-2") !=
          std::string::npos);
}

TEST_CASE("what a spring's sheet says of its dead turns, its free length and its largest wire is so") {
    // four dead turns stand a little apart: L0 = n·p + (nt − n)·pc + d to the last digit
    const ResolvedCoil c = spring("spring d2 D20 p6 n7 nt11");
    CHECK(find_value(c.values, "dead_coils")->source == "nt − n");
    CHECK(value(c, "free_length") == Approx(7 * 6 + 4 * value(c, "closed_pitch") + 2).epsilon(1e-12));
    CHECK(find_value(c.values, "free_length")->source == "L0 = n·p + (nt − n)·pc + d");
    CHECK(value(c, "closed_pitch") > 2.01);
    CHECK(value(spring("spring d2 D20 p6 n7 closed ground tip 0.5"), "free_length") ==
          Approx(7 * 6 + 2 * 2 - 2 + 2 * 0.5));
    CHECK(find_value(spring("spring d2 D20 p6 n7").values, "dead_coils")->source == "one at each closed end");
    // L, p and n together hold for one wire only: the length gives way
    const ResolvedCoil all = spring("spring d2 D20 L50 p6.571428571428571 n7 closed ground"),
                       two = spring("spring d2 D20 p6.571428571428571 n7 closed ground");
    CHECK(value(all, "largest_wire") == value(two, "largest_wire"));
    CHECK(value(all, "largest_wire") > 4);
    // what is left of the end stays what it is
    const ResolvedCoil tip = spring("spring d2 D20 p6.5 n7 closed ground tip 0.5");
    CHECK(value(tip, "largest_wire") > 2);
}

TEST_CASE("any sufficient set of turns, length and pitch gives the same spring") {
    const ResolvedCoil c = spring("spring d2 D20 L50 n7 closed ground");
    for (const char* same :
         {"spring d2 D20 L50 nt9 closed ground", "spring d2 De22 L50 n7 ground closed",
          "spring d2 Di18 L50 n7 nt9 ground", "spring d2 D20 p6.571428571428571 n7 closed ground",
          "spring d2 D20 L50 p6.571428571428571 closed ground", "spring n7 ground D 20 d 2 L 50 dead 2",
          "spring d2 D20 L50 n7 closed ground tip 1"}) {
        INFO(same);
        const ResolvedCoil other = spring(same);
        CHECK(other.active == Approx(7));
        CHECK(other.total == Approx(9));
        CHECK(other.pitch == Approx(c.pitch));
        CHECK(other.free_length == Approx(50));
        CHECK(other.rate == Approx(c.rate));
        CHECK(other.volume == Approx(c.volume));
    }
    // free lengths by their ends: L0 = n·p + dead·d + d, ground − (d − 2·tip)
    CHECK(spring("spring d2 D20 p6 n7 open").free_length == Approx(7 * 6 + 2));
    CHECK(spring("spring d2 D20 p6 n7 closed").free_length == Approx(7 * 6 + 3 * 2));
    CHECK(spring("spring d2 D20 p6 n7 closed ground").free_length == Approx(7 * 6 + 2 * 2));
    CHECK(spring("spring d2 D20 p6 n7 closed ground tip 0.5").free_length ==
          Approx(7 * 6 + 1.5 * 2)); // tip d/4
    CHECK(spring("spring d2 D20 p6 n7.25 open").total == 7.25);
    CHECK(spring("spring d4 D36 L85 nt7.5 open").pitch == Approx(81 / 7.5));
    // solid lengths
    CHECK(value(spring("spring d2 D20 L50 n7 closed"), "solid_length") == Approx(10.5 * 2));
    CHECK(value(spring("spring d2 D20 L50 n7 open"), "solid_length") == Approx(8 * 2));
    // and by materials
    CoilSpec stainless = parse_spring("spring d2 D20 L50 n7 closed ground").spec;
    stainless.material = "EN 10270-3 1.4310";
    CHECK(resolve_coil(stainless).rate == Approx(c.rate * 70.0 / 81.5));
}

TEST_CASE("what is too little, too much or contradicts itself is said") {
    using Catch::Matchers::Contains;
    CHECK_THAT(why("spring"), Contains("needs its wire"));
    CHECK_THAT(why("spring d2 L50 n7"), Contains("needs a diameter"));
    CHECK_THAT(why("spring d2 D20 L50"), Contains("needs its turns"));
    CHECK_THAT(why("spring d2 D20 n7"), Contains("free length L or its pitch p"));
    CHECK_THAT(why("spring d2 D20 L50 n7 p5"), Contains("has the pitch 6.2857"));
    CHECK_THAT(why("spring d2 D20 L50 n7 nt9 dead 1"), Contains("leave 2 dead, not 1"));
    CHECK_THAT(why("spring d2 D20 L50 n9 nt7"), Contains("can't be active"));
    CHECK_THAT(why("spring d2 D20 L5 n7 closed"), Contains("no pitch"));
    CHECK_THAT(why("spring d2 D2 L50 n7"), Contains("must be more than 2.4 mm"));
    CHECK_THAT(why("spring d2 D20 L50 n7 d3"), Contains("a second time"));
    CHECK_THAT(why("spring d2 D20 L50 n7 tip 0.5"), Contains("Only a ground end"));
    CHECK_THAT(why("spring d2 D20 L50 n7 ground tip 1.9"), Contains("thickness of the wire's end"));
    CHECK_THAT(why("spring d2 D20 L50 n7 coiled"), Contains("not understood in a spring"));
    CHECK_THAT(why("spring d2 D20..x..20 L50 n7"), Contains("x"));
    CHECK_THAT(why("spring d2 D20 L50 nt900"), Contains("at most 500"));
}

TEST_CASE("springs are written as they are read") {
    std::mt19937 random(7);
    const auto whole = [&](int low, int high) {
        return std::uniform_int_distribution<int>(low, high)(random);
    };
    for (int i = 0; i < 300; ++i) {
        CoilSpec s;
        const int tenths = whole(2, 40);
        const auto times = [&](int k) { return mm(tenths * k / 10.0); };
        s.wire = times(1);
        s.measured = static_cast<CoilDiameter>(whole(0, 2));
        s.diameters.clear();
        for (int k = whole(1, 4); k > 0; --k)
            s.diameters.push_back(CoilStation{times(whole(6, 15))});
        s.ends = whole(0, 1) ? CoilEnds::open : CoilEnds::closed;
        s.ground = whole(0, 1);
        if (s.ground && whole(0, 1)) s.tip = mm(tenths * 25 / 1000.0);
        (whole(0, 1) ? s.active : s.total) = whole(12, 60) / 4.0;
        if (whole(0, 3) == 0) s.dead = whole(4, 8) / 2.0;
        if (whole(0, 1))
            s.pitch = {CoilStation{times(whole(2, 6))}};
        else
            s.free_length = times(whole(80, 200));
        s.hand = whole(0, 1) ? Hand::left : Hand::right;
        INFO("seed 7, round " << i << ": " << write_spring(s));
        CHECK(parse_spring(write_spring(s)).spec == s);
        const Designation d = parse_designation(write_spring(s));
        CHECK(std::get<CoilSpec>(d.what) == s);
    }
    CHECK(write_spring(parse_spring("spring d0.08 D0.8 L2 n7 in").spec, LengthUnit::inch) ==
          "spring d0.08 D0.8 L2 n7 closed RH in");
}

TEST_CASE("the centreline goes through its stations, monotone, with two continuous derivatives") {
    std::mt19937 random(11);
    const auto real = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    for (int i = 0; i < 60; ++i) {
        CoilShape s;
        s.turns = real(3, 12);
        const std::size_t n = static_cast<std::size_t>(1 + i % 6);
        for (std::size_t k = 0; k < n; ++k)
            s.diameters.push_back(
                {n == 1 ? 0 : s.turns * static_cast<double>(k) / static_cast<double>(n - 1), real(10, 60)});
        // one end's turns closed, over to the active pitch in a window
        const double dead = i % 3 ? real(0.5, 1.2) : 0, active_pitch = real(2, 12);
        s.pitch = {{0, active_pitch}};
        if (dead > 0)
            s.pitch = {{0, 1.5, true},
                       {dead - 0.25, 1.5, true},
                       {dead + 0.25, active_pitch, true},
                       {s.turns, active_pitch, true}};
        s.left = i % 2;
        s.start = i % 4;
        const Centreline line(s);
        INFO("seed 11, round " << i);
        CHECK(line.rise() == Approx(dead * 1.5 + (s.turns - dead) * active_pitch).epsilon(1e-13));
        for (std::size_t k = 0; k < n; ++k)
            CHECK(
                line.radius(n == 1 ? 0 : line.end() * static_cast<double>(k) / static_cast<double>(n - 1)) ==
                Approx(s.diameters[k].value / 2));
        // monotone between stations
        for (std::size_t k = 0; k + 1 < n; ++k)
            for (int j = 0; j < 40; ++j) {
                const double step = line.end() / static_cast<double>(n - 1);
                const double a = line.radius(step * (static_cast<double>(k) + j / 40.0)),
                             b = line.radius(step * (static_cast<double>(k) + (j + 1) / 40.0));
                CHECK((b - a) * (s.diameters[k + 1].value - s.diameters[k].value) >= -1e-9);
            }
        // derivatives by differences, at breaks from both sides as well
        std::vector<double> places;
        for (int j = 0; j < 20; ++j)
            places.push_back(real(0.01, line.end() - 0.01));
        for (const double b : line.breaks())
            if (b > 0.01 && b < line.end() - 0.01) places.insert(places.end(), {b - 2e-6, b + 2e-6});
        for (const double theta : places) {
            const double h = 1e-6;
            const auto p = line.point(theta), a = line.point(theta - h), b = line.point(theta + h);
            CHECK(norm((0.5 / h) * (b.at - a.at) - p.d1) < 1e-6);
            CHECK(norm((0.5 / h) * (b.d1 - a.d1) - p.d2) < 1e-3);
            const auto f = line.frame(theta), fa = line.frame(theta - h), fb = line.frame(theta + h);
            CHECK(dot((0.5 / h) * (fb.upwards - fa.upwards), f.along) ==
                  Approx(f.upwards_turns).margin(1e-6));
            CHECK(std::abs(dot(f.along, f.outwards)) < 1e-12);
            CHECK(std::abs(dot(f.along, f.upwards)) < 1e-12);
            CHECK(f.upwards.z > 0);
            CHECK(f.outwards.z == 0);
        }
        for (const double b : line.breaks()) // no jump in the second derivative
            if (b > 1e-3 && b < line.end() - 1e-3)
                CHECK(norm(line.point(b - 1e-9).d2 - line.point(b + 1e-9).d2) < 1e-5);
    }
}

TEST_CASE("lengths and distances of a plain helix have closed forms") {
    CoilShape s;
    s.diameters = {{0, 30}};
    s.turns = 6;
    s.pitch = {{0, 7}};
    const Centreline line(s);
    CHECK(line.length() == Approx(6 * std::hypot(30 * pi, 7)).epsilon(1e-13));
    const double k = 7 / (2 * pi);
    CHECK(line.least_bend() == Approx((15 * 15 + k * k) / 15)); // (R² + k²)/R
    // the distance of neighbouring coils: least over α of |c(α) − c(0)| near a turn
    double least = 1e9;
    for (double a = 2 * pi - 0.3; a < 2 * pi + 0.3; a += 1e-5)
        least = std::min(least, std::hypot(15 * std::cos(a) - 15, 15 * std::sin(a), k * a));
    CHECK(line.least_distance() == Approx(least).epsilon(1e-8));
    CHECK(least < 7);
}

TEST_CASE("the largest wire is the one whose coils just keep apart") {
    for (const char* text : {"spring d2.5 D52..30..52 L44 nt5 open", "spring d2 D20 L50 n7 closed ground",
                             "spring d3 D10 L20 n9 closed", "spring d1 D12 L20 n6 open"}) {
        INFO(text);
        CoilSpec s = parse_spring(text).spec;
        const double widest = largest_wire(s);
        REQUIRE(widest > 0);
        s.wire = mm(widest);
        const ResolvedCoil just = resolve_coil(s);
        CHECK(just.least_distance >= widest);
        s.wire = mm(widest * 1.01);
        CHECK(resolve_coil(s).least_distance < widest * 1.01);
    }
}

TEST_CASE("what is ground off agrees with slices square to the axis") {
    // by counting: points of the wire's section beyond the face, over the length of wire near the end
    for (const char* text : {"spring d2 D20 L50 n7 closed ground", "spring d4 D20 L80 n5 closed ground tip 1",
                             "spring d3 D30/20 L60 n5 open ground LH"}) {
        const ResolvedCoil c = spring(text);
        INFO(text);
        const double whole = pi * c.wire * c.wire / 4 * c.wire_length, rho = c.wire / 2;
        double off = 0;
        for (const bool far : {false, true}) {
            const double start = far ? c.line.end() : 0, leaves = c.ground_to(far);
            CHECK(std::abs(leaves - start) > 0.1);
            const int n = 1500, m = 1500;
            for (int i = 0; i < n; ++i) {
                const double theta = start + (leaves - start) * (i + 0.5) / n;
                const auto f = c.line.frame(theta);
                const double level =
                    far ? c.line.rise() - c.far_turns.ground_height : c.near_turns.ground_height;
                for (int j = 0; j < m; ++j) { // strips of the section, each as wide as the chord there
                    const double y = -rho + c.wire * (j + 0.5) / m;
                    const double z = c.line.height(theta) + y * f.upwards.z;
                    if (far ? z < level : z > level) continue;
                    off += 2 * std::sqrt(rho * rho - y * y) * c.wire / m * (f.speed + y * f.upwards_turns) *
                           std::abs(leaves - start) / n;
                }
            }
        }
        CHECK(whole - c.volume == Approx(off).epsilon(3e-4));
    }
}
