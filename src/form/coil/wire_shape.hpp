// What a wire looks like square to itself, and what it does when it is twisted or bent.
//
// Round wire: It = π·d⁴/32, Wt = π·d³/16. Square and rectangular wire stands upright in the coil: one side square to the axis,
// the other along it, corners sharp. Its torsion is St Venant's (Timoshenko and Goodier, Theory of Elasticity, art. 109), with
// the longer side a and the shorter one b, sums over k = 1, 3, 5 …:
//
//   It = a·b³·(1/3 − (64·b)/(π⁵·a)·Σ tanh(k·π·a/(2·b))/k⁵)
//   Wt = It/(b·(1 − (8/π²)·Σ 1/(k²·cosh(k·π·a/(2·b)))))        the stress is largest in the middle of the longer sides
//
// The sums end where their terms are below 1e-12. All in mm.
#pragma once

#include "quantity/expression.hpp"
#include "quantity/quantity.hpp"

#include <optional>
#include <string>
#include <string_view>

namespace whorl {

struct WireShape {
    double across = 0, axial = 0; // square to the coil's axis and along it; of round wire both its diameter
    bool round = true;

    struct At {
        double x = 0, y = 0; // away from the coil's axis, and up along it
    };
    // Of its edge, from φ = 0 away from the axis to π/2 up. Of flat-sided wire, φ is the angle on a square as wide as high:
    // its corners are at odd multiples of π/4, whatever its sides.
    At at(double phi) const;
    // How far it reaches from its middle in a direction; the direction's parts along x and y.
    double reach(double x, double y) const;
    double area() const;
    double twist() const;         // It, mm⁴
    double twist_modulus() const; // Wt, mm³
    double bend() const;          // I of bending about a line along the coil's axis, mm⁴
    double bend_modulus() const;  // mm³
};

// A wire as it is written: "2", its diameter, or "3 x 2", what it has square to the axis and along it.
struct WireSize {
    Length across;
    std::optional<Length> axial;
};
WireSize read_wire(std::string_view text, LengthUnit unit, const Names& names = {}); // throws InputError
std::string_view axial_part(std::string_view text); // what is written of it along the axis; of round wire all
std::string write_wire(const WireSize& wire, LengthUnit unit);

} // namespace whorl
