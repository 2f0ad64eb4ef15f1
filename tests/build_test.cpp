// The previews that are kept: by what they were made from, the latest hundred.
#include "build/build.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>

using namespace whorl;

TEST_CASE("a preview is made once for what it is made from, and again for anything else") {
    PreviewCache cache;
    const Piece bar = piece_of("round 10 x 20");
    Piece named = bar;
    named.zones[0].length = {"l", LengthUnit::millimetre};
    const Names ten{{"l", mm(10)}}, eleven{{"l", mm(11)}}, ten_inch{{"l", InchNumber{10}}};
    const auto get = [&](const Piece& p, const Names& names, std::size_t index = 0,
                         LengthUnit unit = LengthUnit::millimetre, double chord = 0.02) {
        return cache.get(p, index, names, unit, chord);
    };
    const auto first = get(bar, {});
    REQUIRE(first->made());
    CHECK(get(bar, {}) == first);
    CHECK(get(bar, {}, 1) != first); // its findings name the piece
    CHECK(get(bar, {}, 0, LengthUnit::inch) != first);
    CHECK(get(bar, {}, 0, LengthUnit::millimetre, 0.01) != first);
    CHECK(in_mm(get(named, ten)->piece.length()) == 10);
    CHECK(in_mm(get(named, eleven)->piece.length()) == 11);
    CHECK(in_mm(get(named, ten_inch)->piece.length()) == Approx(254));
    CHECK(get(named, ten) == get(named, Names{{"l", mm(10)}})); // by value, not by who holds them
}

TEST_CASE("what was looked at longest ago is forgotten first") {
    PreviewCache cache;
    const auto bar = [&](int length) {
        return cache.get(piece_of("round 10 x " + std::to_string(length)), 0, {}, LengthUnit::millimetre);
    };
    const auto one = bar(1), two = bar(2);
    for (int length = 3; length <= 100; ++length)
        (void)bar(length);
    CHECK(bar(1) == one); // looked at again: now 2 is the oldest
    (void)bar(101);
    CHECK(bar(1) == one);
    CHECK(bar(2) != two);
}
