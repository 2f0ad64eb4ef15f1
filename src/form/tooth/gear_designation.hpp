// Reading and writing gears.
//
//   gear m2 z24 b12                      gear m2 z24 a20 b12 x0.1          gear dp12 z30 b3/4
//   gear m2 z24 helix 15 LH b20          internal gear m2 z73 b12          gear m1.25 z19 rack C thin 0.05
//   gear m2 z20 rack 1/1.4/0.2 k0.05 tip chamfer 0.2
//   gear m2 z60 b20 bore 16 key web              (a whole wheel: its bore, the keyway in it, its web)
//
//   rack m2 z20 b20 h20                  rack m1.25 z40 profile C plain 12/12 b8 h10
//   rack m2 l300 helix 15 LH b20 h25     rack dp12 z30 thin 0.002 b3/4 h1
//
// m module, z teeth, a pressure angle, b face width, x profile shift, k tip shortening, dp diametral pitch.
// Of a rack h is the body's height from its back to the tips, l its whole length where the teeth follow from
// it, plain what is left uncut at its near and far end, and profile its basic rack.
// Words may stand in any order after `gear`; a number may follow its letter at once or after a blank. Lengths
// are in mm, after dp in inch.
#pragma once

#include "form/tooth/rack.hpp"
#include "form/written.hpp"

#include <string>
#include <string_view>

namespace whorl {

using GearDesignation = Written<GearSpec>;

bool is_gear(std::string_view text); // begins with `gear` or `internal gear`

// Throws InputError with the place of what was not understood and what would be.
GearDesignation parse_gear(std::string_view text);

// A type of ISO 53 in either case, or addendum/dedendum/root radius such as 1/1.25/0.38. Throws InputError.
standard::BasicRack parse_rack(const std::string& text);

// In standard form; parse_gear() of the result gives the same spec.
std::string write_gear(const GearSpec& spec, std::optional<Length> width = {});

using RackDesignation = Written<RackSpec>;
bool is_rack(std::string_view text);                   // begins with `rack`
RackDesignation parse_rack_bar(std::string_view text); // throws as parse_gear()
std::string write_rack(const RackSpec& spec);          // parse_rack_bar() of it gives the same spec

} // namespace whorl
