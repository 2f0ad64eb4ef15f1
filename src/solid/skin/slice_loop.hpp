// A face's boundary cut into those of its parts between parallel lines of its chart.
#pragma once

#include "solid/skin/skin.hpp"

#include <functional>

namespace whorl::solid {

struct LoopSlice {
    long strip = 0; // between line `strip` and line `strip + 1`
    std::vector<EdgeUse> loop;
};

// Cuts a loop whose every use lies in one strip; uses that follow each other lie in the same or in
// neighbouring strips. Between neighbouring parts comes an edge of `cut`, which is asked for the edge on a
// line between the ends of two uses, by their places in the loop, from the one of smaller `along` to the
// other; parts use it with turn 0. `along` says where on the line a use ends. `rising`: at the smaller of the
// two the loop goes on to the higher strip.
// Throws std::logic_error if the loop can't bound a face there.
std::vector<LoopSlice> slice_loop(const std::vector<EdgeUse>& loop, const std::vector<long>& strip,
                                  bool rising, const std::function<double(std::size_t use)>& along,
                                  const std::function<int(long line, std::size_t from, std::size_t to)>& cut);

} // namespace whorl::solid
