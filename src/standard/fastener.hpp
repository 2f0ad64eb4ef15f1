// Sizes of metric fasteners: heads, nuts, sockets. Nominal or maximum sizes of the standards named in
// `source`.
#pragma once

#include "quantity/quantity.hpp"

#include <optional>
#include <string>
#include <vector>

namespace whorl::standard {

struct FastenerSize {
    Length thread;                         // nominal thread diameter
    Length across_flats = mm(0);           // hexagon head, nut
    Length height = mm(0);                 // head or nut
    Length head_diameter = mm(0);          // socket head
    Length key = mm(0), key_depth = mm(0); // hexagon socket
    Length point = mm(0);                  // set screw: Ø of its flat point
    std::string source;
};

// "hexagon_head", "hexagon_nut", "socket_head", "set_screw". Throws std::invalid_argument for another kind.
const std::vector<FastenerSize>& fastener_sizes(const std::string& kind);
// The row for a thread diameter, or nullptr.
const FastenerSize* fastener_size(const std::string& kind, Length thread);

// Relief grooves behind external metric threads, by pitch.
struct ReliefGroove {
    Length pitch, narrower, least_width, width; // the groove's Ø is d − narrower
    std::string source;
};
// The row for a pitch, or that of the next larger pitch; nullptr above the largest.
const ReliefGroove* relief_groove(Length pitch);

} // namespace whorl::standard
