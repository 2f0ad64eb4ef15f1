// The table of starters: their words, their cards in the catalogue and how each is made. Internal to the
// model floor; see starter.hpp.
#pragma once

#include "model/starter.hpp"

namespace whorl {

struct Starter {
    const char* words; // in lower case
    const char* example;
    const char* group;
    Card card;
    Piece (*make)(const Starter& starter, std::string_view text, std::size_t rest,
                  std::span<const OwnSection> known);
    std::vector<Usual> (*usual)(); // lines with {the words to change}
};
const std::vector<Starter>& starters();

// Of pieces that aren't straight, see bent_starters.cpp; holes for screws, see hole_starters.cpp.
using Make = Piece(const Starter& starter, std::string_view text, std::size_t rest,
                   std::span<const OwnSection> known);
// Vessels, see vessel_starters.cpp.
Make u_clamp, screw_hook, screw_eye, elbow, clearance_hole, counterbored_hole, countersunk_hole, strap, cup,
    bottle;

struct FoundStarter {
    const Starter* starter;
    std::size_t rest; // where the thread begins
};
std::optional<FoundStarter> find_starter(std::string_view text);

} // namespace whorl
