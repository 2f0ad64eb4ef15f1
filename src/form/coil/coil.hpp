// Compression, extension and torsion springs of round wire: what is asked, and what follows from it.
//
//   CoilSpec --resolve_coil()--> ResolvedCoil (EN 13906-1, the centreline, sources)
//
// Turns: n active, nt in all, nt − n dead. Closed ends have one dead turn each unless it is said otherwise,
// open ones none. The wire's centreline rises by
//
//   H = n·p + (nt − n)·d
//
// and the free length is L0 = H + d, or with ground ends L0 = H − 2·(d/2 − t), where t is the thickness that
// is left of the wire at its very end; unless it is asked, t = d/2. So closed and ground ends have
// L0 = n·p + 2·d, and at p = d the solid length nt·d. More than one dead turn at an end would touch along a
// line; such coils are kept half a hundredth of the wire apart, so that the solid is one body.
//
// Springs of several diameters close turn by turn, the widest first. A turn that lies takes the height
//
//   s = √(d² − ΔR²), ΔR the difference of radius from one turn to the next; 0 where that is more than the wire
//
// since turns nest. It lies down at the force G·d⁴·(p − s)/(8·D³) and the shear stress G·d·(p − s)/(π·D²), which does
// not grow any more; the solid length is the sum of s. Up to where the first turn lies the rate holds.
//
// An extension spring is wound tight over all its n turns; its body is LK = (n + 1)·d, in the solid each turn half a
// hundredth of the wire longer, for the same reason. Its free length L0 = LK + LH1 + LH2 is that between its hooks, inside;
// F = F0 + R·s. A torsion spring's body is n·p + d, or wound tight (n + 1.5)·d by EN 13906-3; its moment is R_φ·α.
// How their wire goes on at either end stands in wire_end.hpp.
#pragma once

#include "form/coil/centreline.hpp"
#include "form/coil/wire_end.hpp"
#include "form/resolved_value.hpp"
#include "form/thread/section.hpp"
#include "quantity/quantity.hpp"

#include <optional>
#include <string>
#include <vector>

namespace whorl {

enum class SpringKind { compression, extension, torsion };
constexpr int spring_kind_count = 3;
std::string_view word(SpringKind kind);
enum class CoilEnds { open, closed };
enum class CoilDiameter { mean, outside, inside };

// Shear modulus and modulus of elasticity in MPa, density in g/cm³, as EN 13906-1 has them.
struct SpringWire {
    const char* name;
    double shear_modulus, elastic_modulus, density;
};
const std::vector<SpringWire>& spring_wires();
const SpringWire* find_spring_wire(const std::string& name);

// Classes of EN 10270-1: SL SM DM SH DH. Tensile strength in MPa by the rule Rm = a − b·lg d; none for another class.
const std::vector<std::string>& wire_classes();
std::optional<double> tensile_strength(const std::string& wire_class, double diameter);

struct CoilSpec {
    SpringKind kind = SpringKind::compression;
    Length wire = mm(2);
    CoilDiameter measured = CoilDiameter::mean;
    std::vector<Length> diameters{mm(20)}; // at stations evenly spread over all turns, from the near end
    std::optional<Length> free_length, pitch;
    std::optional<double> active, total, dead; // turns; `dead` of both ends together
    CoilEnds ends = CoilEnds::closed;
    bool ground = false;
    std::optional<Length> tip; // thickness of a ground wire's end; none: d/2
    Hand hand = Hand::right;
    std::string material = "EN 10270-1"; // of spring_wires()
    std::string wire_class = "SM";       // of wire_classes(); of no meaning for other standards
    // of extension and torsion springs
    WireEnd near, far;
    std::optional<double>
        initial_tension; // N, of an extension spring; none: as much as an automatic winds in
    friend bool operator==(const CoilSpec&, const CoilSpec&) = default;
};

struct ResolvedCoil {
    CoilSpec spec;
    double wire = 0;                                // mm
    double pitch = 0, free_length = 0;              // mm
    double active = 0, total = 0, dead = 0;         // turns
    double ground_height = 0;                       // of the near ground face over the centreline's end, mm
    double smallest_mean = 0, largest_mean = 0;     // mean diameters, mm
    double rate = 0;                                // N/mm
    double solid_length = 0;                        // mm
    double force_at_solid = 0, stress_at_solid = 0; // N, MPa
    double stressed_diameter = 0;                   // mean diameter where that stress is, mm
    double straight_to = 0;                         // N, up to which the rate holds
    Centreline line;
    double least_distance = 0;   // between the centrelines of neighbouring coils, mm
    double least_bend = 0;       // radius of curvature of the centreline, mm
    double wire_length = 0;      // along the centreline, mm
    LaidEnd near_laid, far_laid; // hooks and legs
    double lowest = 0;  // z of the wire's lowest point over the centreline's end at the coil's near end, mm
    double overall = 0; // length along the axis, mm
    double reach = 0;   // of the wire from the axis, mm
    double body_length = 0;                       // of the coils, mm
    double clear_of_coils = 0;                    // between the centrelines of hooks or legs and the rest, mm
    double initial_tension = 0, torsion_rate = 0; // N; N·mm per degree
    double permissible_force = 0, permissible_moment = 0; // N, N·mm; 0: not known
    double volume = 0;                                    // mm³, what is ground off taken away
    std::vector<ResolvedValue> values;

    double outside() const { return largest_mean + wire; }
    // z of the centreline's near end over the spring's near end.
    double lift() const { return spec.ground ? -ground_height : -lowest; }
    bool has_ends() const { return spec.kind != SpringKind::compression; }   // hooks, legs
    double coils_from() const { return has_ends() ? lift() - wire / 2 : 0; } // z between which its coils lie
    double coils_to() const { return has_ends() ? lift() + line.rise() + wire / 2 : free_length; }
    // θ up to which the near end's wire is ground (mirrored at the far end); 0 if it is not.
    double ground_to(bool far) const;
};

// Throws InputError for a value outside its range, for too little, and for what contradicts itself, saying
// which.
ResolvedCoil resolve_coil(const CoilSpec& spec);

// The same with its rate and forces in lbf/in and lbf behind those in N/mm and N (NIST SP 811: 1 lbf = 4.4482216152605 N).
std::vector<ResolvedValue> with_pounds(const std::vector<ResolvedValue>& values);

// The thickest wire, mm, with which the coils keep apart everywhere, all else as asked; 0 if there is none.
double largest_wire(const CoilSpec& spec);

// θ near an end at which the ground face cuts the wire's surface at the angle φ about its centreline (0
// outwards, π/2 upwards).
double ground_cut(const ResolvedCoil& coil, bool far, double phi);

} // namespace whorl
