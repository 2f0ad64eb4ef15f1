// Several values one after another along a coil, and what a stroke between two numbers means there.
//
//   52..30..52      values at stations evenly spread over all turns, from the near end
//   9/8, 1 1/2      fractions
//
// A stroke is never guessed at. Between whole numbers over 2, 4, 8, 16, 32 or 64 it is a fraction where lengths are in
// inch, and refused in mm, where it may be one. Plain numbers with strokes that can't be such a fraction (`52/30/52`,
// `30/18`, `4.6/2.1`) are stations, as they were once written. Beside anything else (`drum_d/2`, `pi*64/3`) it divides.
#pragma once

#include "quantity/quantity.hpp"

#include <string_view>
#include <vector>

namespace whorl {

struct Station {
    std::string_view text;
    std::size_t at = 0; // its place in the whole text
};

// At least one. Throws InputError for a stroke that may mean either.
std::vector<Station> stations_in(std::string_view text, LengthUnit unit);

// Of what is one number only, such as a pitch: throws InputError where decimals stand on both sides of a stroke, which is
// no fraction. `what`: "pitch", …
void require_one_number(std::string_view text, const char* what);

} // namespace whorl
