// Reading and writing springs.
//
//   spring d2 D20 L50 n7 closed ground RH         spring d2.5 D52..30..52 L44 nt5 open
//   spring d4 D36 L85 nt7.5 open                  spring d1 De12 p3 n6 dead 3 LH
//   spring d2 Di16 L40 n5 closed ground tip 0.5   extension spring d1.6 D12 n20 hooks full F0 12
//   extension spring d1 D8 n15 near half far eye 3  torsion spring d2 D16 n6.25 legs 30 axial
//   spring d3x2 D30 L60 n7 closed ground          spring d2 D20 L44 n6.5 near closed 1.5 ground far open start 90
//   spring d2 D20 L50 over wire n7 closed grade 1 works 40..30 fatigue 650..900 at 60N
//
// d the wire, round, or what square and rectangular wire has across and along the axis; D the mean diameter, De the outside
// and Di the inside one; several, with two dots between, are diameters evenly spread over all turns (stations.hpp). L free length, p pitch, n active turns, nt all of them, dead
// those of both ends together; open or closed ends, ground or not, tip the thickness that grinding leaves of the
// wire's end, wire its standard (`wire EN 10270-2`). Words may stand in any order after `spring`; capitals matter in d and D. Lengths are in mm, or
// in inch with the word `in` at the end. `wire SH` is its class by EN 10270-1.
// Extension springs: hooks, or near and far each by itself (wire_end.hpp; full if not said), F0 the initial tension in N.
// Compression springs: near, far or ends, each closed with its turns, pitch or gap, ground, tip, or open; over (faces, wire,
// centreline) says what L is of, start where the wire begins, grade that of EN 15800's tolerances. All: works, the states it
// works between, fatigue, one's own line for their stresses, and at, the one it is made in (coil_load.hpp).
// Torsion springs: legs 30, legs 30/20, or near leg 30 axial far leg 20.
#pragma once

#include "form/coil/coil.hpp"
#include "form/written.hpp"

#include <string_view>

namespace whorl {

using CoilDesignation = Written<CoilSpec>;

bool is_spring(std::string_view text); // begins with `spring`, `extension spring` or `torsion spring`

// Throws InputError with the place of what was not understood and what would be.
CoilDesignation parse_spring(std::string_view text);

// In standard form; parse_spring() of the result gives the same spec.
std::string write_spring(const CoilSpec& spec, LengthUnit unit = LengthUnit::millimetre);

} // namespace whorl
