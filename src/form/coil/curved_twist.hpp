// Wire that is twisted in a coil is curved already: it is stiffer than straight wire, and its stress is larger inside.
//
// A coil of small pitch under an axial force P (Michell; Timoshenko and Goodier, Theory of Elasticity, "Torsion of a circular
// ring sector"): with the travel δ of one turn there is a stress function ψ(r, z), 0 on the wire's edge, for which
//
//   ψ_rr − 3·ψ_r/r + ψ_zz = δ/π,   τ_rθ = G·ψ_z/r²,   τ_θz = −G·ψ_r/r²,   P = −2·G·∫∫ ψ/r³ dr dz
//
// For a rectangle ψ is a series of cosines along the axis, each with an equation in r of its own, solved by differences on 64
// and 128 steps and extrapolated. Against a solution eight times as fine, for sides of up to 8 to 1 and D from 1.25 times the
// breadth, the stiffness is off by less than 2e-4 and the stress by less than 3e-3.
// The round wire of EN 13906 has no such factors here: its formulas are used as they stand.
#pragma once

#include "form/coil/wire_shape.hpp"

#include <vector>

namespace whorl {

struct CurvedTwist {
    double stiffness = 1; // over that of straight wire's twist, 4·G·It/(π·D³)
    double stress = 1;    // the largest, direct shear with it, over P·D/(2·Wt)
};
CurvedTwist curved_twist(const WireShape& wire, double mean_diameter); // mm

// The same over a coil's diameters: nine of them are worked out, what lies between is read off straight.
class TwistOver {
public:
    TwistOver(const WireShape& wire, double smallest_mean, double largest_mean);
    // It as a turn of this mean diameter has it, mm⁴: straight wire's times its stiffness.
    double twist(double mean_diameter) const;
    double stress(double mean_diameter) const;

private:
    CurvedTwist at(double mean_diameter) const;
    double from_, to_, straight_;
    std::vector<CurvedTwist> known_;
};

} // namespace whorl
