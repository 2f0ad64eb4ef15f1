// How the wire of a spring ends: closed or open turns of compression springs, hooks of extension springs, legs of torsion
// springs. What is asked, in words, and the stretches that follow from it (centreline.hpp).
//
//   open                         the pitch goes on to the end
//   closed, closed 1.5           a turn (or so many) that lies on the next one
//   … ground, ground tip 0.5     ground flat; tip: the thickness that is left of the wire's end
//   … pitch 2.4, gap 0.6         of the closed turns, of their own; gap: between their wires
//
//   plain                        nothing: cut off where the coil ends, as for a threaded plug
//   half, half 8                 up from the coil's side and half a circle over the axis; 8: clear height over the body
//   full, full 12                across the coil to the axis and a circle standing on it; 12: clear height
//   side, side 12                the same circle at the coil's side
//   eye 5                        the same over the axis, of 5 mm clear width
//   extended 30                  as half, on a long shank
//   … r 2                        radius of the bends to the wire's middle; if not said the wire's diameter
//
//   leg 30                       straight on, tangential
//   leg 30 axial|radial|inward   bent off along the axis, away from it, towards it; radius as above, of 1.5 wires
//   … bent 90 r 4 15 [in|up|down]   then bent by 90° away from the axis (or towards it, away from the body, back to it) round
//                                   4 mm, and 15 straight; as often as it is said
//
// With the coil's radius R, slope λ at its end, wire d and bends of radius r:
//
//   half, extended  bent up by 90° − λ it stands y = r·(1 − sin λ) off the coil's end; the half circle's radius is
//                   √(R² + y²), so that its middle lies over the axis. Clear height r·cos λ + shank + √(R² + y²) − d
//   full, eye       bent inwards by γ, cos γ = −r/(R − r), it runs to the axis, by δ off the level, sin δ = cos γ·sin λ; there
//                   a circle of radius ρ stands upright, its middle over the axis. Clear height
//                   r·sin γ·sin λ + w·tan δ + ρ·(1 + cos δ + sin δ·tan δ) − d, w the way to the axis
//   side            the circle begins at once, in the plane that touches the coil: ρ·(1 + cos λ) − d
//
// A full circle is as high inside as the coil is wide unless it is said. It is open by 60°, or where it is small by what
// lets the wire's end clear itself by half its thickness.
//
// Units: mm, rad.
#pragma once

#include "form/coil/centreline.hpp"
#include "quantity/expression.hpp"
#include "quantity/quantity.hpp"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace whorl {

enum class WireEndKind { plain, half, full, side, eye, extended, leg, closed, open };
enum class LegDirection { tangential, axial, radial, inward };
enum class BendTowards { out, in, up, down };
std::string_view word(WireEndKind kind);

struct LegBend {
    double angle = 0; // rad
    Length radius, straight;
    BendTowards towards = BendTowards::out;
    friend bool operator==(const LegBend&, const LegBend&) = default;
};

struct WireEnd {
    WireEndKind kind = WireEndKind::plain;
    std::optional<Length> size;   // clear height over the body, an eye's clear width, a leg's straight length
    std::optional<Length> radius; // of the first bends
    LegDirection direction = LegDirection::tangential;
    std::vector<LegBend> bends = {};
    // of closed and open ones
    std::optional<double> turns;
    bool ground = false;
    std::optional<Length> tip, pitch, gap;

    bool is_turns() const { return kind == WireEndKind::closed || kind == WireEndKind::open; }
    bool is_hook() const { return kind != WireEndKind::plain && kind != WireEndKind::leg && !is_turns(); }
    friend bool operator==(const WireEnd&, const WireEnd&) = default;
};

// Throws InputError with the place of what is not understood.
WireEnd parse_wire_end(std::string_view text, LengthUnit unit, const Names& names = {});
std::string write_wire_end(const WireEnd& end, LengthUnit unit); // parse_wire_end() of it gives the same
bool is_wire_end_word(std::string_view lowered);                 // of those above

// What the coil is where it ends.
struct CoilEnd {
    double radius = 0, slope = 0, wire = 0; // mm; rad, of the centreline against the level
};

struct LaidEnd {
    std::vector<WireStretch> stretches;
    double clear = 0;    // of a hook: height over the body inside, mm
    double tightest = 0; // the smallest radius it is bent by, mm; 0: none
    double loop = 0;     // mean radius of a hook's circle, mm
};
// Throws InputError where it can't be, with what could.
LaidEnd lay(const WireEnd& end, const CoilEnd& at);

} // namespace whorl
