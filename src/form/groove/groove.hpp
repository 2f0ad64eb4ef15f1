// Helical grooves: what is asked, and what follows from it.
//
//   GrooveSpec --resolve_groove()--> ResolvedGroove (values with sources, the section that is swept)
//
// A groove is a thread whose crest is wide: one section in the axial plane that the screw motion sweeps, its attitude
// to the axis fixed. All sizes are those of that plane; square to the groove it is narrower by cos γ with the lead
// angle tan γ = lead/(π·d), which the sheet says. Sections, w wide at the surface and h deep:
//
//   rectangle    │__│           round   ╰─╯  an arc through the edges, r = (w²/4 + h²)/(2h); half-round: h = w/2
//   vee           ╲╱  w = 2h·tan(α/2)     trapezium  ╲_╱  a bottom of w − 2h·tan(α/2)
//   own           through points, position:depth, straight or on arcs; w and h are theirs
//
// In a bore the groove is sunk outwards. Given by the diameter across the groove bottoms, h is half the difference.
// A zone of the length L with flat ends loses L/P·2π∫r dA over the section, P from groove to groove (Pappus): what a
// turn sweeps, whatever part of a turn the zone has, since all starts and angles share in it alike.
#pragma once

#include "form/resolved_value.hpp"
#include "form/thread/own_section.hpp"
#include "form/written.hpp"
#include "quantity/quantity.hpp"

#include <optional>
#include <string_view>
#include <vector>

namespace whorl {

enum class GrooveShape { rectangle, round, vee, trapezium, own };
constexpr int groove_shape_count = 5;
std::string_view word(GrooveShape shape); // "rect", "round", "vee", "trapezium", "own"

constexpr int most_groove_starts = 60;

struct GrooveSpec {
    GrooveShape shape = GrooveShape::rectangle;
    std::vector<OwnPoint> points = {};   // own ones: mm, as in section_points.hpp
    Length width = mm(2);                // along the axis, at the surface; of a vee and an own one it follows
    std::optional<Length> depth = mm(1); // none: follows from `across`, or of a round one half the width
    std::optional<Length> across = {};   // diameter across the groove bottoms
    double angle = 1.0471975511965976;   // rad, between the flanks of a vee and a trapezium
    Length pitch = mm(10);               // along the axis from groove to groove; lead = pitch × starts
    int starts = 1;                      // 1 to 60
    Hand hand = Hand::right;
    Side side = Side::external; // internal: in a bore
    Length diameter = mm(20);   // of the surface
    friend bool operator==(const GrooveSpec&, const GrooveSpec&) = default;
};

struct ResolvedGroove {
    GrooveSpec spec;
    double width = 0, depth = 0, across = 0; // mm
    double bottom = 0;                       // width of a flat bottom, mm; negative: the flanks meet before
    double arc = 0;                          // radius of a round one, mm
    double lead_angle = 0;                   // rad
    ThreadSection section;                   // not sweepable where the groove leaves no land or no core
    std::vector<ResolvedValue> values;
    double lead() const { return in_mm(spec.pitch) * spec.starts; }
    double land() const { return in_mm(spec.pitch) - width; }
};

// How far before a milled end the middle of its tool stops, mm: its radius, and a twentieth of the pitch that is left.
double milled_reach(const ThreadSection& section);

// Throws InputError for a value outside its range, with the limit. A groove that is merely impossible still
// resolves: check_groove() says why it stops.
ResolvedGroove resolve_groove(const GrooveSpec& spec);

// Reading and writing grooves.
//
//   groove rect 2 x 1.5 pitch 25 on 30 x 300         groove round 4.2 pitch 4.5 on 60 x 80 LH
//   groove vee 60 1 pitch 6 on 20 x 40, 3 starts     groove rect 2 pitch 25 in 30 across 33 x 300
//   groove trapezium 4 30 x 1.5 pitch 10 on 40 x 60  groove own 0:0 1:1.5 3:1.5 4:0 pitch 10 on 40 x 60
using GrooveDesignation = Written<GrooveSpec>;
bool is_groove(std::string_view text);
// Throws InputError with the place of what was not understood and what would be.
GrooveDesignation parse_groove(std::string_view text);
// In standard form; parse_groove() of the result gives the same spec.
std::string write_groove(const GrooveSpec& spec, std::optional<Length> length = {},
                         LengthUnit unit = LengthUnit::millimetre);

} // namespace whorl
