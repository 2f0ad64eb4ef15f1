// Square and rectangular wire: its torsion against tables, the numbers of its springs, its lines.
#include "spring_words.hpp"

#include "form/coil/coil_load.hpp"
#include "form/coil/curved_twist.hpp"
#include "form/coil/spring_block.hpp"

#include <cmath>
#include <numbers>

using namespace whorl;
using test::spring;
using test::value;
using test::why;

namespace {
constexpr double pi = std::numbers::pi;
}

TEST_CASE("rectangles are twisted as St Venant has them") {
    // Timoshenko and Goodier, Theory of Elasticity, art. 109: It = k1·a·b³, stress T/(k2·a·b²)
    struct {
        double ratio, k1, k2;
    } constexpr table[]{{1, 0.1406, 0.208}, {1.2, 0.166, 0.219}, {1.5, 0.196, 0.231},
                        {2, 0.229, 0.246},  {2.5, 0.249, 0.258}, {3, 0.263, 0.267},
                        {4, 0.281, 0.282},  {5, 0.291, 0.291},   {8, 0.307, 0.307}};
    for (const auto& row : table) {
        const double b = 1.7, a = row.ratio * b;
        INFO(row.ratio);
        for (const WireShape& w :
             {WireShape{a, b, false}, WireShape{b, a, false}}) { // whichever side stands upright
            CHECK(w.twist() / (a * b * b * b) == Approx(row.k1).margin(5.1e-4));
            CHECK(w.twist_modulus() / (a * b * b) == Approx(row.k2).margin(6e-4));
            CHECK(w.area() == Approx(a * b));
        }
    }
    // a long thin one, a·b³/3·(1 − 0.630·b/a); a square to more places (Love, Mathematical Theory of Elasticity, art. 221)
    CHECK((WireShape{20, 0.1, false}.twist()) ==
          Approx(20 * 1e-3 / 3 * (1 - 0.630249 * 0.1 / 20)).epsilon(1e-6));
    CHECK((WireShape{1, 1, false}.twist()) == Approx(0.140577).epsilon(1e-5));
    const WireShape round{2, 2};
    CHECK(round.twist() == Approx(pi * 16 / 32));
    CHECK(round.twist_modulus() == Approx(pi * 8 / 16));
    CHECK(round.bend() == Approx(pi * 16 / 64));
    CHECK((WireShape{3, 2, false}.bend()) == Approx(2 * 27 / 12.0));
    CHECK((WireShape{3, 2, false}.bend_modulus()) == Approx(2 * 9 / 6.0));
}

TEST_CASE("a wire's edge runs round it, and reaches as far as its corners") {
    const WireShape flat{4, 2, false}, round{4, 4};
    for (int k = 0; k < 4; ++k) {
        const auto c = flat.at(pi / 4 + k * pi / 2);
        CHECK(std::abs(c.x) == Approx(2));
        CHECK(std::abs(c.y) == Approx(1));
    }
    CHECK(flat.at(0.3).x == Approx(2));
    CHECK(flat.at(0.3).y == Approx(std::tan(0.3)));
    CHECK(flat.at(pi / 2 + 0.2).y == Approx(1));
    CHECK(std::hypot(round.at(1.1).x, round.at(1.1).y) == Approx(2));
    for (double turn = 0; turn < 6.3; turn += 0.1) {
        double most = 0;
        for (double phi = 0; phi < 2 * pi; phi += 1e-3)
            most = std::max(most, flat.at(phi).x * std::cos(turn) + flat.at(phi).y * std::sin(turn));
        CHECK(flat.reach(std::cos(turn), std::sin(turn)) == Approx(most).margin(4e-3));
    }
}

TEST_CASE("a coil's curvature makes its wire stiffer and its inside more stressed") {
    // square wire: K = 1 + 1.2/c + 0.56/c² + 0.5/c³ (Wahl, Mechanical Springs)
    for (const double c : {4.0, 5.0, 6.0, 8.0, 12.0, 20.0})
        CHECK(curved_twist({1, 1, false}, c).stress ==
              Approx(1 + 1.2 / c + 0.56 / (c * c) + 0.5 / (c * c * c)).epsilon(1e-3));
    CHECK(curved_twist({4, 2.5, false}, 1e4).stiffness == Approx(1).margin(1e-4));
    CHECK(curved_twist({4, 2.5, false}, 1e4).stress == Approx(1).margin(1e-3));
    CHECK(curved_twist({2, 2}, 10).stiffness == 1); // round wire has EN 13906-1's factor
    // Michell's equation over a net of squares, by relaxation: P = −2·∫∫ ψ/r³ for δ = π, against 2·It/(2·R)³
    const auto relaxed = [](double across, double axial, double D, int n) {
        const double h = across / n, r0 = (D - across) / 2;
        const auto rows = static_cast<std::size_t>(n),
                   columns = static_cast<std::size_t>(std::lround(axial / h));
        std::vector<std::vector<double>> psi(rows + 1, std::vector<double>(columns + 1));
        const auto radius = [&](std::size_t i) { return r0 + h * static_cast<double>(i); };
        for (int sweep = 0; sweep < 1500; ++sweep)
            for (std::size_t i = 1; i < rows; ++i)
                for (std::size_t j = 1; j < columns; ++j) {
                    const double skew = 1.5 * h / radius(i);
                    const double to = ((1 - skew) * psi[i + 1][j] + (1 + skew) * psi[i - 1][j] +
                                       psi[i][j + 1] + psi[i][j - 1] - h * h) /
                                      4;
                    psi[i][j] += 1.7 * (to - psi[i][j]);
                }
        double force = 0;
        for (std::size_t i = 1; i < rows; ++i)
            for (const double v : psi[i])
                force -= 2 * v * h * h / std::pow(radius(i), 3);
        return force / (4 * WireShape{across, axial, false}.twist() / (D * D * D));
    };
    for (const auto& [across, axial, D] :
         {std::tuple{4.0, 2.0, 32.0}, std::tuple{4.0, 2.0, 12.0}, std::tuple{2.0, 4.0, 20.0}}) {
        const int n = across > 3 ? 24 : 12;
        const double coarse = relaxed(across, axial, D, n), fine = relaxed(across, axial, D, 2 * n);
        CHECK(curved_twist({across, axial, false}, D).stiffness ==
              Approx(fine + (fine - coarse) / 3).epsilon(1e-3));
    }
    // between the nine diameters of a cone
    const WireShape wire{4, 2.5, false};
    const TwistOver over(wire, 16, 40);
    for (const double D : {16.0, 17.3, 25.5, 38.0, 40.0}) {
        CHECK(over.twist(D) == Approx(wire.twist() * curved_twist(wire, D).stiffness).epsilon(2e-3));
        CHECK(over.stress(D) == Approx(curved_twist(wire, D).stress).epsilon(5e-3));
    }
}

TEST_CASE("springs of square and rectangular wire have the rate of their twist") {
    // square: R = G·a⁴/(5.59·D³·n), τ = 2.40·F·D/a³ (Wahl, Mechanical Springs, chapter on square wire)
    const ResolvedCoil s = spring("spring d2x2 D20 L50 n7 closed ground");
    // the coil is 1.0031 stiffer than straight wire: below
    CHECK(s.rate == Approx(1.0031 * 81500 * 16 / (5.59 * 8000 * 7)).epsilon(1e-3));
    CHECK(value(s, "spring_rate") == s.rate);
    CHECK(value(s, "stress_at_solid") == Approx(2.404 * s.force_at_solid * 20 / 8).epsilon(1e-3));
    CHECK(value(s, "twist_constant") == Approx(0.140577 * 16).epsilon(1e-5));
    CHECK(s.solid_length == Approx(9 * 2));
    // 4 across, 2 along the axis: what lies takes two, the index is of four
    const ResolvedCoil r = spring("spring d4x2 De36 L60 n8 closed ground");
    CHECK(value(r, "mean_diameter") == Approx(32));
    CHECK(value(r, "inside_diameter") == Approx(28));
    CHECK(value(r, "index") == Approx(8));
    CHECK(value(r, "wire_across") == 4);
    CHECK(value(r, "wire_axial") == 2);
    CHECK(r.solid_length == Approx(10 * 2));
    CHECK(r.pitch == Approx((60 - 2 * 2) / 8.0));
    const CurvedTwist curved = curved_twist(r.shape(), 32); // It = 0.2287·a·b³
    CHECK(r.rate ==
          Approx(curved.stiffness * 4 * 81500 * 0.2287 * 4 * 8 / (pi * 32 * 32 * 32 * 8)).epsilon(1e-3));
    CHECK(value(r, "curvature_factor") == curved.stiffness);
    CHECK(value(r, "corrected_stress_at_solid") == Approx(curved.stress * r.stress_at_solid));
    CHECK(r.force_at_solid == Approx(r.rate * 40));
    CHECK(r.volume < 8 * r.wire_length);
    CHECK(r.volume == Approx(8 * r.wire_length).epsilon(0.03)); // less what is ground off
    CHECK_FALSE(find_value(r.values, "tensile_strength"));      // the rule is of round wire
    CHECK_FALSE(find_value(r.values, "least_gap"));
    CHECK_FALSE(spring_tolerance(r));
    // at rest the mass of the active turns swings: ½·√(R/m)
    CHECK(value(r, "natural_frequency") ==
          Approx(0.5 * std::sqrt(r.rate * 1000 / (8 * pi * 32 * 8 * 7.85e-6))).epsilon(1e-6));
    // not ground: half of the wire's height stands over either end of its middle
    const ResolvedCoil o = spring("spring d4x2 D32 p5 n8 open");
    CHECK(o.free_length == Approx(8 * 5 + 2));
    CHECK(o.solid_length == Approx(8 * 2 + 2));
    CHECK(o.gap_between == Approx(5 * std::cos(std::atan(5 / (pi * 32))) - 2).epsilon(1e-6));
    // a cone whose turns go into each other lies flat: each turn is 5 mm narrower than the last, the wire 2 mm
    const ResolvedCoil cone = spring("spring d2x3 D60..20 L40 n4 open");
    CHECK(cone.solid_length < 2 * 3 + 3);
    CHECK(spring("spring d6x3 D60..20 L40 n4 open").solid_length == Approx(4 * 3 + 3));
    // where they pass each other in height, what is between them is a step of the radius less the breadth
    CHECK(spring("spring d2x4 D60..20 p3 n4 open").gap_between == Approx(20.0 / 4 - 2).epsilon(1e-6));
    // two dead turns at an end lie half a hundredth of the height apart
    const double lead = std::atan(2 * 1.005 / (pi * 32));
    CHECK(spring("spring d4x2 D32 L60 n8 dead 4 closed ground").near_turns.pitch ==
          Approx(2 * 1.005 / std::cos(lead)).epsilon(1e-6));
    // as long and as wide as its section stands, leaning by the lead
    const ResolvedCoil bare = spring("torsion spring d3x2 D24 p3 n6");
    CHECK(bare.overall == Approx(18 + 2 * std::cos(std::atan(3 / (pi * 24)))).epsilon(1e-9));
    CHECK(bare.reach == Approx(13.5).margin(0.01));
    // bending: M/α = E·h·b³/(2160·D·n)
    const ResolvedCoil t = spring("torsion spring d3x2 D24 n6 legs 30");
    CHECK(t.torsion_rate == Approx(206000 * 2 * 27 / (2160.0 * 24 * 6)));
    CHECK(t.body_length == Approx((6 + 1.5) * 2));
    const LoadCurve::Point p = t.curve.at_load(1000);
    CHECK(p.stress == Approx(6 * 1000 / (2 * 9.0)));
}

TEST_CASE("flat-sided wire is written as it is read, and what can't be is refused") {
    for (const char* line :
         {"spring d4x2.5 D32 L60 n8 closed ground RH", "spring d2x2 D20 p5 n7 open LH",
          "spring d0.125x0.0625 D1 L2 n6 closed RH in", "torsion spring d3x2 D24 n6 legs 30 RH"})
        CHECK(write_spring(parse_spring(line).spec, parse_spring(line).unit) == line);
    CHECK(parse_spring("spring d 4 x 2.5 D32 L60 n8").spec == parse_spring("spring d4x2.5 D32 L60 n8").spec);
    CHECK(in_mm(parse_spring("spring d1/8x1/16 D1 L2 n6 in").spec.wire) == Approx(3.175));
    CHECK(in_mm(*parse_spring("spring d1/8x1/16 D1 L2 n6 in").spec.axial) == Approx(1.5875));
    CHECK_THAT(why("spring d4x D32 L60 n8"), Catch::Contains("x"));
    CHECK_THAT(why("spring d 4 x"), Catch::Contains("along the axis"));
    CHECK_THAT(why("spring d4x0.3 D32 L60 n8"), Catch::Contains("up to 8 times"));
    CHECK_THAT(why("spring d4x-1 D32 L60 n8"), Catch::Contains("along the axis"));
    CHECK_THAT(why("extension spring d2x2 D20 n10"), Catch::Contains("of round wire"));
    CHECK_THAT(why("spring d20x10 D20 L60 n8"), Catch::Contains("meet in the middle"));
    CHECK(axial_part("w_x*2 x h") == " h");
    CHECK(axial_part("w_x*2") == "w_x*2");
    const ResolvedCoil made = spring("spring d4x2 D32 L60 n8 closed ground at 40");
    CHECK(made.length == Approx(40).margin(1e-6));
    CHECK(made.made_at->load == Approx(20 * made.rate));
    bool said = false;
    for (const auto& [name, text] : data_block(made))
        said = said || (name == "Wire, across x along the axis" && text == "4 x 2 mm");
    CHECK(said);
}
