// Every proof of a piece: made without a stop, closed, watertight, valid, and the volume of its closed form.
#pragma once

#include "build/build.hpp"

#include <catch2/catch.hpp>

namespace whorl::test {

inline Preview prove(const Piece& piece) {
    const Preview p = make_preview(piece, 0, {}, LengthUnit::millimetre, 0.005);
    for (const auto& f : p.findings)
        UNSCOPED_INFO(f.sentence);
    REQUIRE(p.made());
    const auto solid = make_verified_solid(p); // closed, watertight
    CHECK(solid->valid);
    CHECK(solid::kernel_volume(solid->solid) == Approx(p.volume()).epsilon(1e-6));
    CHECK(std::abs(solid->mesh_error) < 2e-3);
    return p;
}

} // namespace whorl::test
