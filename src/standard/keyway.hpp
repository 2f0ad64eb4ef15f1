// Keyways for parallel keys, ISO/R 773 and DIN 6885-1, data/keyways.json.
#pragma once

#include "quantity/quantity.hpp"

#include <string>
#include <vector>

namespace whorl::standard {

struct Keyway {
    Length over, to;      // bores this row is for: over < d ≤ to
    Length width, height; // of the key
    Length shaft, hub;    // depth of the keyway in the shaft, t1, and in the hub, t2
};
const std::vector<Keyway>& keyways();
const Keyway* keyway_for(Length bore); // nullptr outside 6 to 230 mm
const std::string& keyway_source();

} // namespace whorl::standard
