// Involute gears against published values, closed forms and a brute-force generation.
#include "form/tooth/gear.hpp"
#include "form/tooth/measure.hpp"

#include <catch2/catch.hpp>
#include <numbers>

using namespace whorl;

namespace {
GearSpec spur(double module, int teeth, double shift = 0) {
    GearSpec s;
    s.module = mm(module);
    s.teeth = teeth;
    s.profile_shift = shift;
    return s;
}
} // namespace

TEST_CASE("the involute function and its inverse") {
    // tabulated to seven places in every gear handbook
    CHECK(involute(in_rad(deg(14.5))) == Approx(0.0055448).margin(5e-8));
    CHECK(involute(in_rad(deg(20))) == Approx(0.0149044).margin(5e-8));
    CHECK(involute(in_rad(deg(25))) == Approx(0.0299753).margin(5e-8));
    CHECK(involute(in_rad(deg(30))) == Approx(0.0537515).margin(5e-8));
    for (double a = 0.02; a < 1.45; a += 0.013)
        CHECK(inverse_involute(involute(a)) == Approx(a).epsilon(1e-11));
}

TEST_CASE("outlines are without a gap at every tooth count") {
    for (int z = 5; z <= 1000; z += z < 200 ? 1 : 50)
        for (const double shift : {0.0, 0.5}) {
            const ResolvedGear g = resolve_gear(spur(2, z, shift));
            INFO("z " << z << ", x " << shift << ", trouble " << static_cast<int>(g.trouble));
            if (g.trouble == ToothTrouble::pointed_tip) {
                CHECK((shift == 0.5 && z < 9));
                continue;
            }
            REQUIRE(g.trouble == ToothTrouble::none);
            REQUIRE(g.half_outline.size() == 4);
            for (std::size_t i = 0; i + 1 < g.half_outline.size(); ++i) {
                const auto &a = g.half_outline[i], &b = g.half_outline[i + 1];
                const TransversePoint p = point_at(a, a.to), q = point_at(b, b.from);
                CHECK(std::hypot(p.x - q.x, p.y - q.y) < 1e-8);
                // tangents agree, but where an undercut cuts the flank off and at the tip's edge
                const TransverseJet j = jet_at(a, a.to), k = jet_at(b, b.from);
                const double turn =
                    std::atan2(j.x.c[1] * k.y.c[1] - j.y.c[1] * k.x.c[1],
                               j.x.c[1] * k.x.c[1] + j.y.c[1] * k.y.c[1]);
                if (i == 0) CHECK(std::abs(turn) < 1e-7);
                if (i == 1 && !g.undercut && b.from > 1e-3) CHECK(std::abs(turn) < 1e-6);
            }
        }
}
