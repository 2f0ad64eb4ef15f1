// Starters: whole pieces from one line, whose zones can be edited afterwards like any others.
//
//   ISO 4017 M8 x 30              hexagon head screw, threaded to the head
//   ISO 4014 M8 x 60              with a shank
//   ISO 4762 M6 x 25              hexagon socket head cap screw
//   ISO 4032 M10                  hexagon nut
//   ISO 4026 M6 x 12              set screw, flat point          ISO 4027 M6 x 12    cone point
//   nut Tr20x4                    hexagon nut for any thread     ring M30x1.5 x 12   tapped round ring
//   plate M10 x 12                tapped square plate            blind M8 x 20       tapped blind hole, drill point
//   rod M10 x 200                 threaded all along             stud M10 x 80       threaded at both ends
//   lead screw Tr16x4 x 200       with a journal at each end     nipple R1/2 x 60    pipe threaded at both ends
//
// Holes for screws in a disc: clearance M6 fine x 10, counterbore M6 x 12, countersink M6 x 12.
// Bent: u-clamp M6 for 60 x 80, elbow G3/8 90, hook M6 for 20 x 50, eye M6 for 16 x 50.
//
// Anything else is a designation: an external thread, gear or plain zone becomes a bar, an internal thread a
// tapped ring, an internal gear a toothed one.
#pragma once

#include "model/job.hpp"

#include <string_view>

namespace whorl {

// `known`: sections of one's own that can be named. Throws InputError with the place of what was not
// understood and what would be.
Piece piece_of(std::string_view text, std::span<const OwnSection> known = {});

// Whether the text asks for a starter rather than for a single zone.
bool is_starter(std::string_view text);

// Lines the text can be completed to, starters first.
std::vector<std::string> complete_piece(std::string_view text, std::size_t limit = 8,
                                        std::span<const OwnSection> known = {});

} // namespace whorl
