// Compression and torsion springs of round, square and rectangular wire, extension springs of round wire: what is asked, and
// what follows from it.
//
//   CoilSpec --resolve_coil()--> ResolvedCoil (EN 13906-1, the centreline, sources)
//
// Turns: n active, nt in all, nt − n dead. Closed ends have one dead turn each unless it is said otherwise,
// open ones none; each end may be said by itself (wire_end.hpp), with a pitch of its dead turns of its own. The wire's
// centreline rises by
//
//   H = n·p + dead turns, each times its pitch, which is d
//
// and the free length is L0 = H + d/2 at an end as it is wound, − (d/2 − t) at a ground one, where t is the thickness that
// is left of the wire at its very end; unless it is asked, t = d/2. So closed and ground ends have
// L0 = n·p + 2·d, and at p = d the solid length nt·d. More than one dead turn at an end would touch along a
// line; such coils are kept half a hundredth of the wire apart, so that the solid is one body. It may be asked for over the
// wire, H + d, or of the centreline, H, as well.
//
// The active pitch may go through stations (stations.hpp); p is its mean then, ∫p/n.
//
// The rate of wire of any shape is R = 4·G·It·c/(π·D³·n), the shear stress F·D/(2·Wt) (wire_shape.hpp; c of the coil's
// curvature, 1 of round wire: curved_twist.hpp), which for round wire are
// EN 13906-1's G·d⁴/(8·D³·n) and 8·F·D/(π·d³). d stands for what the wire has along the axis where lengths are meant.
//
// Springs of several diameters, or of several pitches, close turn by turn, the widest or the narrowest first. A turn that lies
// takes the height
//
//   s = √(d² − ΔR²), ΔR the difference of radius from one turn to the next; 0 where that is more than the wire
//
// since turns nest; flat-sided wire has 0 where ΔR is its breadth or more, else its height. It lies down at the force
// G·d⁴·(p − s)/(8·D³) and the shear stress G·d·(p − s)/(π·D²), of flat-sided wire at that of its own rate, which does
// not grow any more; the solid length is the sum of s. Up to where the first turn lies the rate holds (coil_load.hpp).
//
// An extension spring is wound tight over all its n turns; its body is LK = (n + 1)·d, in the solid each turn half a
// hundredth of the wire longer, for the same reason. Its free length L0 = LK + LH1 + LH2 is that between its hooks, inside;
// F = F0 + R·s. A torsion spring's body is n·p + d, or wound tight (n + 1.5)·d by EN 13906-3; its moment is R_φ·α.
// How their wire goes on at either end stands in wire_end.hpp.
#pragma once

#include "form/coil/centreline.hpp"
#include "form/coil/load_curve.hpp"
#include "form/coil/stations.hpp"
#include "form/coil/wire_end.hpp"
#include "form/coil/wire_shape.hpp"
#include "form/resolved_value.hpp"
#include "form/thread/section.hpp"
#include "quantity/quantity.hpp"

#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace whorl {

enum class SpringKind { compression, extension, torsion };
constexpr int spring_kind_count = 3;
std::string_view word(SpringKind kind);
enum class CoilEnds { open, closed };
enum class CoilDiameter { mean, outside, inside };
enum class LengthOver { faces, wire, centreline };

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

// A state of a spring that is not its free one: under a load, or at a length or an angle.
struct SprungState {
    bool load = false;
    double value =
        0; // N, of torsion springs N·mm; a length in mm, of torsion springs the angle it is wound by in degrees
    friend bool operator==(const SprungState&, const SprungState&) = default;
};

// One's own fatigue line, MPa: the upper stress that may be at a lower stress of 0, and the stress at which both are one.
// Between them it is straight, as EN 13906-1 draws it: τo = zero + (1 − zero/meet)·τu.
struct FatigueLine {
    double zero = 0, meet = 0;
    double upper(double lower) const { return zero + (1 - zero / meet) * lower; }
    friend bool operator==(const FatigueLine&, const FatigueLine&) = default;
};

struct CoilSpec {
    SpringKind kind = SpringKind::compression;
    Length wire = mm(2);
    std::optional<Length> axial; // of square or rectangular wire, along the axis; wire is then square to it
    CoilDiameter measured = CoilDiameter::mean;
    std::vector<CoilStation> diameters{CoilStation{mm(20)}}; // spread over all turns, from the near end
    std::optional<Length> free_length;
    LengthOver length_over = LengthOver::faces; // what that length is of
    std::vector<CoilStation> pitch;             // none: it follows; spread over the active turns
    std::optional<double> active, total, dead;  // turns; `dead` of both ends together
    // of both ends, unless near or far is closed or open itself
    CoilEnds ends = CoilEnds::closed;
    bool ground = false;
    std::optional<Length> tip; // thickness of a ground wire's end; none: d/2
    Hand hand = Hand::right;
    double start = 0;                    // rad, where the wire begins, in the direction of winding
    std::string material = "EN 10270-1"; // of spring_wires()
    std::string wire_class = "SM";       // of wire_classes(); of no meaning for other standards
    WireEnd near, far;                   // of compression springs closed, open or plain: as above
    std::optional<double>
        initial_tension;                // N, of an extension spring; none: as much as an automatic winds in
    int grade = 2;                      // of EN 15800, 1 to 3; of cylindrical compression springs
    std::vector<SprungState> works;     // what it works between, one or two
    std::optional<FatigueLine> fatigue; // of the stresses between the two
    std::optional<SprungState> made_at; // the state it is made in; none: free
    friend bool operator==(const CoilSpec&, const CoilSpec&) = default;
};

// How a compression spring's turns end.
struct EndTurns {
    bool closed = false, ground = false;
    double dead = 0, pitch = 0; // turns, mm
    double ground_height = 0;   // of its ground face over the centreline's end, into the spring, mm
    double over = 0;            // by how much the end stands over the centreline's, mm
};

// The shape of a spring, free or in a state.
struct CoilBody {
    double wire = 0, axial = 0;                 // mm: square to the axis and along it, alike of round wire
    bool round = true;                          // wire
    double smallest_mean = 0, largest_mean = 0; // mean diameters, mm
    double length = 0;                          // over its ends, or of its body, mm
    EndTurns near_turns, far_turns;             // of a compression spring
    double active_from = 0, active_to = 0;      // turns between which the active pitch changes
    Centreline line;
    double least_distance = 0; // between the centrelines of neighbouring coils, mm
    double gap_between = 0;    // between neighbouring coils, mm; below 0 they merge
    double least_bend = 0;     // radius of curvature of the centreline, mm
    double clear_of_coils =
        0; // of hooks or legs, between the centrelines and the rest's, mm; of flat-sided wire what is
           // left between them and `wire`
    double wire_length = 0;      // along the centreline, mm
    double volume = 0;           // mm³, what is ground off taken away
    LaidEnd near_laid, far_laid; // hooks and legs
    double lowest = 0;  // z of the wire's lowest point over the centreline's end at the coil's near end, mm
    double overall = 0; // length along the axis, mm
    double reach = 0;   // of the wire from the axis, mm
    double body_length = 0; // of the coils, mm

    double outside() const { return largest_mean + wire; }
    WireShape shape() const { return {wire, axial, round}; } // of the wire, square to itself
    // z of the centreline's near end over the spring's near end.
    double lift() const { return near_turns.ground ? -near_turns.ground_height : -lowest; }
    const EndTurns& turns_at(bool far_end) const { return far_end ? far_turns : near_turns; }
    bool ground(bool far_end) const { return turns_at(far_end).ground; }
    bool any_ground() const { return near_turns.ground || far_turns.ground; }
    bool is_cylinder() const { return smallest_mean == largest_mean; }
    // θ up to which an end's wire is ground; the wire's end if it is not.
    double ground_to(bool far) const;
};

// Its body is that of the state it is made in; all else is said of the free one.
struct ResolvedCoil : CoilBody {
    CoilSpec spec;
    double pitch = 0, free_length = 0;                    // mm; the mean of the active turns, over the ends
    double smallest_pitch = 0, largest_pitch = 0;         // of the active turns, mm
    double active = 0, total = 0, dead = 0;               // turns
    double rate = 0;                                      // N/mm
    double solid_length = 0;                              // mm
    double force_at_solid = 0, stress_at_solid = 0;       // N, MPa
    double stressed_diameter = 0;                         // mean diameter where that stress is, mm
    double straight_to = 0;                               // N, up to which the rate holds
    double initial_tension = 0, torsion_rate = 0;         // N; N·mm per degree
    double permissible_force = 0, permissible_moment = 0; // N, N·mm; 0: not known
    LoadCurve curve;
    std::optional<LoadCurve::Point> made_at; // where it stands; none: free
    std::vector<ResolvedValue> values;

    bool of_one_pitch() const { return smallest_pitch == largest_pitch; }
    bool has_ends() const { return spec.kind != SpringKind::compression; }   // hooks, legs
    double coils_from() const { return has_ends() ? lift() - wire / 2 : 0; } // z between which its coils lie
    double coils_to() const { return has_ends() ? lift() + line.rise() + wire / 2 : length; }
};

// Throws InputError for a value outside its range, for too little, and for what contradicts itself, saying
// which.
ResolvedCoil resolve_coil(const CoilSpec& spec);

// The stresses of what it works between, lower and upper, MPa: corrected by EN 13906's k or q, of flat-sided wire that is
// twisted by curved_twist.hpp, of flat-sided wire that is bent not at all. None for less than two states.
std::optional<std::pair<double, double>> working_stresses(const ResolvedCoil& coil);

// The mean diameter and the active pitch as it is asked, before it is led over into the closed turns, at so many turns from
// the near end; of dead turns their own pitch.
double mean_diameter_at(const CoilBody& coil, double turn);
double pitch_asked_at(const CoilBody& coil, double turn);

// The same with its rate and forces in lbf/in and lbf behind those in N/mm and N (NIST SP 811: 1 lbf = 4.4482216152605 N).
std::vector<ResolvedValue> with_pounds(const std::vector<ResolvedValue>& values);

// The thickest round wire, mm, with which the coils keep apart everywhere, all else as asked; 0 if there is none, and of
// flat-sided wire.
double largest_wire(const CoilSpec& spec);

// θ near an end at which the ground face cuts the wire's surface at the angle φ about its centreline (0
// outwards, π/2 upwards).
double ground_cut(const CoilBody& coil, bool far, double phi);

} // namespace whorl
