// What a spring bears, and how far it goes.
//
// A compression spring of one diameter and one pitch: F = R·s up to the solid length (EN 13906-1). Otherwise turn by turn: a
// short piece dn of wire of the mean diameter D gives 8·F·D³/(G·d⁴)·dn until it has fallen (p − s)·dn and lies, s = √(d² − ΔR²)
// or, of one diameter, d; so travel over load is piecewise straight, each piece beginning where one lies down. Closed turns
// with a gap give likewise. An extension spring: F = F0 + R·s. A torsion spring: M = R_φ·α.
#pragma once

#include "form/coil/coil.hpp"

namespace whorl {

// Up to solid; of extension and torsion springs up to what they bear, or where that is not known to twice the diameter, or a turn.
LoadCurve load_curve(const ResolvedCoil& free);

// Travel and load in a state. Throws InputError for one the spring can't have, with what it can.
LoadCurve::Point at_state(const ResolvedCoil& coil, const SprungState& state);
// The spring as it stands there, asked for as a free one: coils nearer or farther, or wound with fewer turns left.
CoilSpec sprung(const ResolvedCoil& free, const LoadCurve::Point& at);

// How long it is there, mm; of a torsion spring the angle it is wound by, degrees.
double standing(const ResolvedCoil& free, double travel);
// Whether all its turns lie down at one load, so that its rate holds from the free to the solid length.
bool closes_at_once(const ResolvedCoil& free);

// One state or several with two dots between: "32" (mm, inch, or degrees of a torsion spring), "40N", "500Nmm"; what
// write_states() writes is read as the same.
std::vector<SprungState> read_states(std::string_view text, SpringKind kind, LengthUnit unit,
                                     const Names& names = {});
std::string write_states(const std::vector<SprungState>& states, SpringKind kind, LengthUnit unit);

// "650..900": the line's stress at 0 and where both stresses meet, MPa.
FatigueLine read_fatigue(std::string_view text, const Names& names = {});
std::string write_fatigue(const FatigueLine& line);

// Solid length, and force and stress there, and what ends bear, into the coil.
void close_coil(ResolvedCoil& coil);
void load_ends(ResolvedCoil& coil, double elastic_modulus);

} // namespace whorl
