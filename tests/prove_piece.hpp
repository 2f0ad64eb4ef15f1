// Every proof of a piece: made without a stop, closed, watertight, valid, its mesh without a crossing, and the volume of
// its closed form.
#pragma once

#include "build/build.hpp"
#include "mesh_crossings.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <random>
#include <string>

namespace whorl::test {

// How deep triangles of a mesh may stand in each other: rounding, a thousandth of what any chord allows, mm.
constexpr double touching = 1e-5;

inline void require_uncrossed(const Preview& p) {
    const MeshCrossing c = MeshCrossings(p.mesh).deepest(touching);
    INFO("triangles " << c.first << " and " << c.second << ", of " << c.count << " pairs");
    CHECK(c.depth < touching);
}

inline Preview prove(const Piece& piece, double chord = 0.005) {
    const Preview p = make_preview(piece, 0, {}, LengthUnit::millimetre, chord);
    for (const auto& f : p.findings)
        UNSCOPED_INFO(f.sentence);
    REQUIRE(p.made());
    const auto solid = make_verified_solid(p); // closed, watertight
    CHECK(solid->valid);
    CHECK(solid::kernel_volume(solid->solid) == Approx(p.volume()).epsilon(1e-6));
    CHECK(std::abs(solid->mesh_error) < 2e-3);
    require_uncrossed(p);
    return p;
}

// Random pieces: each is made and passes every proof, or is refused in a sentence that is no fault of ours;
// at least so many of them are made. `piece` makes one from a generator and says what it was; `weigh` is the kernel's
// volume that is held against ours.
template<class MakePiece>
void prove_random(unsigned from, unsigned count, double least_made, const MakePiece& piece,
                  double (*weigh)(const solid::Solid&) = solid::kernel_volume) {
    unsigned made = 0;
    for (unsigned seed = from; seed < from + count; ++seed) {
        std::mt19937 random(seed);
        std::string text;
        const Piece one = piece(random, text);
        INFO("seed " << seed << ": " << text);
        const Preview p = make_preview(one, 0, {}, LengthUnit::millimetre, 0.02);
        for (const Finding& f : p.findings) {
            INFO(f.sentence);
            CHECK(f.id != "own_fault");
        }
        if (!p.made()) {
            for (const Finding& f : p.findings)
                UNSCOPED_INFO(f.sentence);
            CHECK(stops(p.findings));
            continue;
        }
        ++made;
        const auto solid = make_verified_solid(p);
        CHECK(solid->valid);
        CHECK(weigh(solid->solid) == Approx(p.volume()).epsilon(1e-6));
        CHECK(std::abs(solid->mesh_error) < 0.02);
        require_uncrossed(p);
    }
    INFO(made << " of " << count << " made");
    CHECK(made > count * least_made);
}

} // namespace whorl::test
