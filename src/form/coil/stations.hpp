// Several values one after another along a coil, and what a stroke between two numbers means there.
//
//   52..30..52      values at stations evenly spread over all turns, from the near end
//   52@0..30@2..52  some of them at so many turns, the others evenly between
//   52..30@z22..52  some at a height (mm or inch) of the wire's middle over the near end, the others evenly between by height
//   9/8, 1 1/2      fractions
//
// A stroke is never guessed at. Between whole numbers over 2, 4, 8, 16, 32 or 64 it is a fraction where lengths are in
// inch, and refused in mm, where it may be one. Plain numbers with strokes that can't be such a fraction (`52/30/52`,
// `30/18`, `4.6/2.1`) are stations, as they were once written. Beside anything else (`drum_d/2`, `pi*64/3`) it divides.
#pragma once

#include "quantity/expression.hpp"
#include "quantity/quantity.hpp"

#include <string>
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

enum class StationBy { spread, turns, height };

// A length asked for at a place along the coil: pitch or diameter.
struct CoilStation {
    Length value;
    StationBy by = StationBy::spread;
    double at = 0; // turns from the near end of the wire, or mm over the spring's near end
    friend bool operator==(const CoilStation&, const CoilStation&) = default;
};

// Throws InputError with the place of what is not understood.
std::vector<CoilStation> read_stations(std::string_view text, LengthUnit unit, const Names& names = {});
std::string write_stations(const std::vector<CoilStation>& stations, LengthUnit unit);
bool by_height(const std::vector<CoilStation>& stations);
bool all_alike(const std::vector<CoilStation>& stations);

// Where they stand, rising, in turns or, if any of them says a height, in mm: the first and the last at `from` and `to` unless
// they say it. Throws InputError for one outside that, or not behind the one before.
std::vector<double> placed(const std::vector<CoilStation>& stations, double from, double to);

} // namespace whorl
