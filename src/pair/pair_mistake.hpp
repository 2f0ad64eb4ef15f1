// What keeps two pieces from going together, or from going together well.
#pragma once

#include <string>

namespace whorl {

struct PairMistake {
    std::string id; // of its kind, said where that kind is checked
    std::string sentence;
    double value = 0, limit = 0; // mm, rad or a count, as the sentence says
    bool stops = true;           // else advice
};

} // namespace whorl
