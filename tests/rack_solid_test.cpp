// Racks as solids: every proof, over randomised racks.
#include "form/tooth/rack.hpp"
#include "quantity/input_error.hpp"
#include "solid/bar/bar_body.hpp"

#include <catch2/catch.hpp>
#include <random>

using namespace whorl;
using namespace whorl::solid;

namespace {

class RandomRack {
public:
    explicit RandomRack(unsigned seed) : random_(seed) {}
    double between(double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random_);
    }
    int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }
    bool chance(double p) { return between(0, 1) < p; }

    ResolvedRack rack() {
        for (;;) {
            RackSpec s;
            const auto& modules = standard::preferred_modules();
            s.module =
                modules[static_cast<std::size_t>(whole(0, static_cast<int>(modules.size()) - 1))].module;
            if (in_mm(s.module) < 0.3 || in_mm(s.module) > 12) continue;
            const double m = in_mm(s.module);
            if (chance(0.3)) s.pressure_angle = deg(chance(0.5) ? 14.5 : 25);
            if (chance(0.6)) s.helix_angle = deg(between(0.1, 45));
            s.hand = chance(0.5) ? Hand::left : Hand::right;
            const char* types[]{"A", "B", "C", "D"};
            s.rack = *standard::basic_rack(types[whole(0, 3)]);
            if (chance(0.1)) s.rack.root_radius = 0;
            if (chance(0.3)) s.thinning = mm(m * between(0.005, 0.08));
            if (chance(0.2)) s.tip_shortening = between(0, 0.2);
            if (chance(0.5)) {
                s.tip_edge = chance(0.5) ? TipEdge::chamfered : TipEdge::rounded;
                s.tip_size = mm(m * between(0.02, 0.15));
            }
            s.width = mm(m * between(2, 25));
            s.height = mm(m * between(3, 15));
            if (chance(0.4)) s.near_plain = mm(m * between(0.1, 20));
            if (chance(0.4)) s.far_plain = mm(m * between(0.1, 20));
            if (chance(0.5))
                s.teeth = whole(1, 60);
            else
                s.length = mm(m * between(60, 300));
            const ResolvedRack r = resolve_rack(s);
            if (r.trouble == ToothTrouble::none) return r;
        }
    }

private:
    std::mt19937 random_;
};

double distance_to_outline(const ResolvedRack& r, double eta, double height) {
    const double pitch = 3.14159265358979323846 * in_mm(r.spec.module);
    const double y = std::abs(std::remainder(eta, pitch));
    double nearest = 1e9;
    for (const TransverseCurve& c : r.half_outline) {
        if (c.shape == CurveShape::arc) {
            const double a = std::atan2((y - c.y0) * c.sense, height - c.x0);
            const double t = c.from < -1.6 && a > 0 ? a - 2 * 3.14159265358979323846 : a;
            if (t > c.from - 1e-6 && t < c.to + 1e-6)
                nearest = std::min(nearest, std::abs(std::hypot(y - c.y0, height - c.x0) - c.radius));
        } else {
            const double dx = c.x1 - c.x0, dy = c.y1 - c.y0, l = std::hypot(dx, dy);
            const double k = std::clamp(((height - c.x0) * dx + (y - c.y0) * dy) / (l * l), 0.0, 1.0);
            nearest = std::min(nearest, std::hypot(height - c.x0 - k * dx, y - c.y0 - k * dy));
        }
    }
    return nearest;
}

void prove(const ResolvedRack& r) {
    const BarBody body = rack_body(r);
    REQUIRE_NOTHROW(require_closed(body));
    const Mesh mesh = triangulate(body, 0.01);
    REQUIRE_NOTHROW(require_watertight(mesh));
    const double exact = rack_volume(r);
    // a chord's error is at most itself over the whole face, and goes with it
    const double face = r.length * in_mm(r.spec.width);
    for (const double chord : {0.01, 1e-4, 1e-5})
        CHECK(std::abs(volume(triangulate(body, chord)) - exact) < chord * face + 1e-9 * exact);
    const Solid solid = make_solid(body, mesh);
    CHECK(is_valid(solid));
    CHECK(kernel_volume(solid) == Approx(exact).epsilon(1e-6));
    // points on the toothed side lie on the outline, as the plan view of slanting teeth has it
    const double cosine = std::cos(in_rad(r.spec.helix_angle));
    double worst = 0;
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const BarFace& f = body.faces[mesh.face[i]];
        if (f.role == FaceRole::end || f.role == FaceRole::plain || f.role == FaceRole::crest) continue;
        for (const auto id : mesh.triangles[i]) {
            const Point& p = mesh.points[id];
            const double height = p.x + in_mm(r.spec.height) / 2 - r.body();
            const double sense = r.spec.hand == Hand::left ? 1 : -1;
            const double eta =
                (p.z - r.first_space) * cosine - sense * p.y * std::sin(in_rad(r.spec.helix_angle));
            worst = std::max(worst, distance_to_outline(r, eta, height));
        }
    }
    CHECK(worst < 1e-3);
}

} // namespace

TEST_CASE("A rack's body is closed, valid and as large as its outline says") {
    RackSpec s;
    s.teeth = 10;
    const auto both = GENERATE(0.0, 15.0);
    s.helix_angle = deg(both);
    SECTION("cut off in the middle of spaces") {}
    SECTION("with plain ends") {
        s.near_plain = mm(12);
        s.far_plain = mm(0.5);
    }
    SECTION("of a length that cuts a flank") {
        s.teeth = {};
        s.length = mm(52.2);
    }
    SECTION("with rounded tips") {
        s.tip_edge = TipEdge::rounded;
        s.tip_size = mm(0.3);
    }
    prove(resolve_rack(s));
}

TEST_CASE("A spur rack's volume is its section times its width") {
    RackSpec s; // 2 mm module, ISO 53 A, no rounding, so that the section is made of trapezoids
    s.rack = {"", 1, 1.25, 0};
    s.teeth = 7;
    const ResolvedRack r = resolve_rack(s);
    const double space = 4.5 * (3.14159265358979 * 2 / 2 + (2.0 - 2.5) * std::tan(in_rad(deg(20))));
    CHECK(r.length == Approx(7 * 3.14159265358979 * 2));
    CHECK(rack_volume(r) == Approx(20 * (r.length * 20 - 7 * space)).epsilon(1e-12));
}

TEST_CASE("Randomised racks are valid closed solids on their outline") {
    for (unsigned seed = 1; seed <= 30; ++seed) {
        CAPTURE(seed);
        RandomRack random(seed);
        prove(random.rack());
    }
}

TEST_CASE("1 000 randomised racks", "[.][long]") {
    for (unsigned seed = 1000; seed < 2000; ++seed) {
        CAPTURE(seed);
        RandomRack random(seed);
        prove(random.rack());
    }
}
