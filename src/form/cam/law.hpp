// The laws by which a follower rises: how far it is, of a whole rise of 1, when a part x of the angle has
// gone by.
//
// With y(0) = 0 and y(1) = 1. A return is a rise run backwards. What tells laws apart is how their speed,
// acceleration and jerk (y', y'', y''' by x) begin, peak and end:
//
//   law                  peak y'   peak |y''|   peak |y'''|   at the ends
//   constant velocity    1         ∞            ∞             speed jumps
//   parabolic            2         4            ∞             acceleration jumps, and in the middle
//   harmonic             π/2       π²/2         π³/2          acceleration jumps
//   cycloidal            2         2π           4π²           jerk jumps
//   3-4-5 polynomial     15/8      5.774        60            jerk jumps
//   4-5-6-7 polynomial   35/16     7.513        52.5          jerk is continuous
//   modified sine        1.760     5.528        69.47         jerk jumps
//   modified trapezoid   2         4.888        61.43         jerk jumps
//
// Rothbart, Cam Design Handbook, chapters 2 and 3; VDI 2143. All in closed form.
#pragma once

#include <array>
#include <span>
#include <string_view>

namespace whorl {

enum class Law {
    constant,
    parabolic,
    harmonic,
    cycloidal,
    poly345,
    poly4567,
    modified_sine,
    modified_trapezoid
};
constexpr int law_count = 8;

// As it is written: "constant", "parabolic", "harmonic", "cycloidal", "3-4-5", "4-5-6-7", "modified-sine",
// "modified-trapezoid".
std::string_view word(Law law);

// A value and its first four derivatives.
using Derivatives = std::array<double, 5>;

// The places strictly between 0 and 1 where one piece of the law's formula ends and the next begins.
std::span<const double> law_breaks(Law law);

// At x, 0 to 1, by the formula of one of its pieces, so that a derivative that jumps is had from either side.
Derivatives law_at(Law law, double x, std::size_t piece);

} // namespace whorl
