// Bits of lines made runs again: joined, straightened, freed of what lies on each other; and runs made lines, arcs and
// curves.
#pragma once

#include "drawing/seen.hpp"

#include <cstdint>

namespace whorl::drawing {

constexpr std::uint64_t no_key = ~std::uint64_t{0};
// A straight bit; ends of one key are one point.
struct Link2 {
    At a, b;
    std::uint64_t from = no_key, to = no_key;
};

// Points within `near` (mm) of each other are one, straight bits on one line are united, and what is left is joined
// where exactly two meet.
std::vector<Run> chained(std::vector<Link2> bits, double near);

// Takes out points that lie on the line of their neighbours, within `near` (mm).
void tidy(Run& run, double near);

// Runs less their straight parts that lie on straight parts of others, within `near` (mm).
std::vector<Run> without(const std::vector<Run>& runs, const std::vector<Run>& others, double near);

} // namespace whorl::drawing
