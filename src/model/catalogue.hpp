// The catalogue: everything that can be made, for whoever does not know the words. Drawn from the tables in
// which starters (starter_table.hpp), forms and thread families (designation_kinds()) stand: what registers
// there is in it.
#pragma once

#include "model/starter.hpp"

namespace whorl {

// A line for the designation line, and what in it one would change: byte ranges, in order.
struct CatalogueLine {
    std::string text, says;
    std::vector<std::pair<std::size_t, std::size_t>> marks; // place and extent
};
// From "M{10}x{1.5}", the braces being the marks.
CatalogueLine catalogue_line(const Usual& usual);

struct CatalogueFamily {
    std::string key, group; // "Screws and nuts", "Threads", …
    Card card;
    std::vector<CatalogueLine>
        lines; // usual members, from the standards' tables where there are any; piece_of() takes each
    std::size_t shown = 0; // the one that stands for the family
    const std::string& drawn() const { return card.drawn.empty() ? lines[shown].text : card.drawn; }
};

// Groups stand together. Families without a member (sections of one's own, where there are none) are left
// out.
std::vector<CatalogueFamily> catalogue(std::span<const OwnSection> known = {});

// Whether a line answers to what is typed to find it: every word of it begins a word of the line or is a
// number in it, and the size may be typed half: "10" finds M10x1.5 and M100x6 but not a pitch of 1.05 or a
// length of 100.
bool answers(const CatalogueLine& line, std::string_view typed);

} // namespace whorl
