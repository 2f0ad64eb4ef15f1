// A diameter and pitch that a standard lists together.
#pragma once

#include "quantity/quantity.hpp"

#include <string>
#include <vector>

namespace whorl::standard {

struct ListedThread {
    std::string size; // as the standard writes it: "10", "7/16", "#10"
    Length diameter;
    Length pitch;
    std::string series; // "coarse", "fine", "UNC", "UNF", "UNEF"
    std::string source; // standard, year, table
};

// The listed thread with this diameter and pitch (both within 0.5 µm), or nullptr.
const ListedThread* find_listed(const std::vector<ListedThread>& series, Length diameter, Length pitch);

// The listed thread closest to the given pair, by relative difference in diameter first, pitch second.
// `series` must not be empty.
const ListedThread& nearest_listed(const std::vector<ListedThread>& series, Length diameter, Length pitch);

} // namespace whorl::standard
