// Joining two rims: every case of one boundary inside, across, along and equal to another.
#include "solid/skin/rim.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <map>
#include <numbers>
#include <random>

using namespace whorl::solid;

namespace {

constexpr double full = 2 * std::numbers::pi;

struct Result {
    Skin skin;
    Joined joined;
    int rings = 0, patches = 0, up = 0, down = 0;
};

Result join(const Rim& below, const Rim& above) {
    Result r;
    r.joined = join_rims(r.skin, 5, &below, 0, &above, 1);
    for (const auto& f : r.skin.faces) {
        CHECK(f.kind == FaceKind::flat);
        CHECK(f.a == 5);
        (f.loops.size() == 2 ? r.rings : r.patches)++;
        (f.up ? r.up : r.down)++;
    }
    return r;
}

// ∮ ½r² dθ over flat faces: upward ones count plus, downward ones minus. It must be the difference of the
// rims' areas.
double flat_area(const Skin& skin) {
    double sum = 0;
    for (const auto& f : skin.faces)
        for (const auto& loop : f.loops)
            for (const auto& use : loop) {
                const auto a = start_of(skin, use), b = end_of(skin, use);
                sum += (b.theta - a.theta) * (a.r * a.r + a.r * b.r + b.r * b.r) / 6;
            }
    return sum;
}
double area(const Rim& rim) {
    double sum = 0;
    for (std::size_t i = 0; i < rim.size(); ++i) {
        const auto& a = rim[i];
        const auto& b = rim[(i + 1) % rim.size()];
        const double step = b.theta - a.theta + (i + 1 == rim.size() ? full : 0);
        sum += step * (a.r * a.r + a.r * b.r + b.r * b.r) / 6;
    }
    return sum;
}

// Both zones' lateral faces and the flat faces use each edge once in either direction.
void require_all_edges_paired(const Result& r) {
    std::map<int, int> balance, uses;
    const auto count = [&](const EdgeUse& u) {
        balance[u.edge] += u.forward ? 1 : -1;
        ++uses[u.edge];
    };
    for (const auto& f : r.skin.faces)
        for (const auto& loop : f.loops)
            for (const auto& u : loop)
                count(u);
    for (const int e : r.joined.below->edge)
        count({e, false, 0}); // the zone below runs along its top backwards
    for (const int e : r.joined.above->edge)
        count({e, true, 0});
    REQUIRE(uses.size() == r.skin.edges.size());
    for (const auto& [e, n] : uses) {
        INFO("edge " << e);
        CHECK(n == 2);
        CHECK(balance[e] == 0);
    }
}

const Rim circle(double r, double at = 0) {
    return {{at, r}};
}

} // namespace

TEST_CASE("a larger circle below leaves a ring that faces up, a larger one above a ring that faces down") {
    const auto up = join(circle(5), circle(3));
    CHECK(up.rings == 1);
    CHECK(up.up == 1);
    CHECK(flat_area(up.skin) == Approx(std::numbers::pi * (25 - 9)));
    require_all_edges_paired(up);
    const auto down = join(circle(3, 1), circle(5));
    CHECK(down.rings == 1);
    CHECK(down.down == 1);
    require_all_edges_paired(down);
}

TEST_CASE("equal circles share their edges and leave no face") {
    const auto same = join(circle(4), circle(4));
    CHECK(same.skin.faces.empty());
    CHECK(same.skin.edges.size() == 1);
    require_all_edges_paired(same);
    const auto apart = join(circle(4, 0), circle(4, 2)); // corners at different angles
    CHECK(apart.skin.faces.empty());
    CHECK(apart.skin.edges.size() == 2);
    require_all_edges_paired(apart);
}

TEST_CASE("a rim that runs along the other for a stretch shares that stretch") {
    const Rim lobe{{1, 4}, {2, 4}, {2.5, 3}, {4, 3}, {4.5, 4}};
    const auto r = join(lobe, circle(4));
    CHECK(r.rings == 0);
    CHECK(r.patches == 1);
    CHECK(r.down == 1);
    require_all_edges_paired(r);
    CHECK(std::abs(flat_area(r.skin)) == Approx(std::numbers::pi * 16 - area(lobe)));
}

TEST_CASE("a rim that crosses a circle is split where it crosses") {
    const Rim lobe{{1, 5}, {2, 5}, {3, 3}, {5, 3}};
    const auto r = join(lobe, circle(4));
    CHECK(r.patches == 2);
    CHECK(r.up == 1);
    CHECK(r.down == 1);
    require_all_edges_paired(r);
    // the crossing from r = 5 at θ = 2 to r = 3 at θ = 3 lies at θ = 2.5
    bool found = false;
    for (const double t : r.joined.below->theta)
        found = found || std::abs(t - 2.5) < 1e-12;
    CHECK(found);
}

TEST_CASE("the ends of a piece are discs") {
    Skin skin;
    const Rim rim = circle(4);
    const auto end = join_rims(skin, 0, nullptr, -1, &rim, 0);
    CHECK_FALSE(end.below);
    REQUIRE(skin.faces.size() == 1);
    CHECK_FALSE(skin.faces[0].up);
    CHECK(skin.faces[0].role == FaceRole::end);
}

TEST_CASE("paths along a rim count turns both ways") {
    Skin skin;
    const Rim rim = sorted_rim({{0.5, 2}, {2, 3}, {4, 2.5}});
    const auto edges = *join_rims(skin, 0, &rim, 0, nullptr, 1).below;
    CHECK(edges.path(0.5, 0.5 + full).size() == 3);
    CHECK(edges.path(0.5 + full, 0.5).size() == 3);
    CHECK(edges.path(2, 2).empty());
    const auto far = edges.path(2 - 3 * full, 4 - 3 * full);
    REQUIRE(far.size() == 1);
    CHECK(far[0].turn == -3);
    const auto across = edges.path(4, 0.5 + full);
    REQUIRE(across.size() == 1);
    CHECK(end_of(skin, across[0]).theta == Approx(0.5 + full));
    CHECK_THROWS_AS(edges.path(1, 2), std::logic_error);
    CHECK(edges.corner_at(2 + 5 * full) == edges.corner[1]);
}

TEST_CASE("a radius between two corners is read straight in θ") {
    const Rim rim = sorted_rim({{1, 2}, {3, 4}});
    CHECK(radius_at(rim, 2) == Approx(3));
    CHECK(radius_at(rim, 2 + 4 * full) == Approx(3));
    CHECK(radius_at(rim, 1) == Approx(2));
    const double middle = 3 + (full - 2) / 2; // halfway round the back
    CHECK(radius_at(rim, middle) == Approx(3));
}

TEST_CASE("any two random rims join with every edge paired and the right area between them") {
    std::mt19937 random(17);
    std::uniform_real_distribution<double> angle(0, full), radius(2, 6);
    for (int i = 0; i < 500; ++i) {
        const auto make = [&](bool constant) {
            std::vector<RimPoint> p;
            const int n = 1 + static_cast<int>(random() % 9);
            const double r = radius(random);
            for (int k = 0; k < n; ++k)
                p.push_back({angle(random), constant ? r : radius(random)});
            return sorted_rim(p);
        };
        Rim below = make(i % 3 == 0), above = make(i % 5 == 0);
        if (i % 7 == 0) { // with a stretch in common
            above = below;
            for (std::size_t k = above.size() / 2; k < above.size(); ++k)
                above[k].r = radius(random);
        }
        INFO("seed 17, round " << i);
        const auto r = join(below, above);
        require_all_edges_paired(r);
        double up = 0, down = 0;
        for (const auto& f : r.skin.faces) {
            Skin one = r.skin;
            one.faces = {f};
            (f.up ? up : down) += flat_area(one);
        }
        CHECK(up >= -1e-9);  // upward faces turn with θ
        CHECK(down <= 1e-9); // downward ones against it
        CHECK(up + down == Approx(area(below) - area(above)).margin(1e-6));
    }
}
