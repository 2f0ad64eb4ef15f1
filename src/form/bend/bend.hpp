// Bends of a round bar or tube: what is asked, and what follows.
//
//   BendSpec --resolve_bend()--> ResolvedBend (values with sources)
//
// A bend turns the bar's centreline by an angle φ about an axis square to it, at the radius R from that axis to
// the centreline; its surface is a torus, whose volume is that of the straightened bar, section · R·φ (Pappus).
// `roll` turns the bend's plane about the bar, from that of the bend before: 0 goes on the same way (a U of two
// elbows), 180° back again (an S); 90° leaves the plane. Stretched on the outside by d/(2R), shortened inside by as
// much; the middle keeps its length, so the developed length is that of the centreline.
#pragma once

#include "form/resolved_value.hpp"
#include "form/written.hpp"
#include "quantity/quantity.hpp"

#include <optional>
#include <string_view>
#include <vector>

namespace whorl {

struct BendSpec {
    Length diameter = mm(8);           // of the bar, outside
    double angle = 1.5707963267948966; // rad, more than 0
    Length radius = mm(20);            // to the centreline
    double roll = 0;                   // rad, from the plane of the bend before
    bool inside = false;               // the radius was said to the inside
    friend bool operator==(const BendSpec&, const BendSpec&) = default;
};

struct ResolvedBend {
    BendSpec spec;
    double radius = 0, angle = 0, bar = 0; // mm to the centreline, rad, the bar's radius in mm
    double length() const { return radius * angle; }
    std::vector<ResolvedValue> values;
};

// To the centreline, mm, where the outside of a bar is stretched by that part of its length: d/(2·elongation), and never
// so tight that the bar can't go round.
double least_bend_radius(double bar_radius, double elongation);

// Throws InputError for a value outside its range, with the limit: an angle up to 360°, a radius larger than half
// the bar is thick.
ResolvedBend resolve_bend(const BendSpec& spec);

// Reading and writing bends.
//
//   bend d8 90 r20          90 degrees, 20 from the bend's axis to the centreline
//   bend d6 180 inside 30 roll 90
using BendDesignation = Written<BendSpec>;
bool is_bend(std::string_view text);
// Throws InputError with the place of what was not understood and what would be.
BendDesignation parse_bend(std::string_view text);
// In standard form; parse_bend() of the result gives the same spec.
std::string write_bend(const BendSpec& spec, LengthUnit unit = LengthUnit::millimetre);

} // namespace whorl
