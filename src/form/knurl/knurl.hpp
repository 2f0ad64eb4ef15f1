// Knurls: what is asked, and what follows from it. DIN 82.
//
//   KnurlSpec --resolve_knurl()--> ResolvedKnurl (values with sources, the surface in closed form)
//
// A knurl is V-grooves of one profile angle, side by side: along the axis (RAA), around it in rings, aslant
// by 30° to either hand (RBL, RBR), or two of these crossing, which leaves pyramids that stand up (raised:
// RGE, RKE) or are sunk in (RGV, RKV). In (θ, r, z) every flank is a plane. With the phases u of the
// directions, one to each groove, and the wave w(u) = |2·(u − ⌊u⌋) − 1|, which is 1 in a groove and 0 half
// way to the next,
//
//   r = R − h·w(u)           one direction
//   r = R − h·max(w1, w2)    crossed, raised
//   r = R − h·(1 − max)      crossed, sunk
//
// where R is half the outside diameter and h = p/(2·tan(α/2)), p the pitch square to the grooves as it comes
// out on that diameter. The count that closes is the whole number nearest to π·D·cos β/p. Knurling pushes
// material about and takes none away: the blank has the volume that the knurl has, so r averaged over the
// pattern, which gives the table's blank diameters D − p/2, D − 2p/3 and D − p/3 to second order in p/D.
#pragma once

#include "form/resolved_value.hpp"
#include "form/written.hpp"
#include "quantity/quantity.hpp"

#include <optional>
#include <string_view>
#include <vector>

namespace whorl {

enum class KnurlKind { axial, ring, left, right, crossed, crossed_ring };
constexpr int knurl_kind_count = 6;
constexpr bool is_crossed(KnurlKind kind) {
    return kind == KnurlKind::crossed || kind == KnurlKind::crossed_ring;
}
std::string_view word(KnurlKind kind); // "axial", "ring", "left", "right", "crossed", "axial-ring"

struct KnurlSpec {
    KnurlKind kind = KnurlKind::axial;
    bool sunk = false; // crossed ones: pyramids sunk in instead of raised
    Length diameter = mm(20);
    Length pitch = mm(1);        // nominal, square to the grooves
    std::optional<int> teeth;    // around; none: the count nearest to the pitch
    double profile_angle = 0;    // rad; 0: 90°
    std::optional<Length> depth; // none: sharp ridges and grooves
    friend bool operator==(const KnurlSpec&, const KnurlSpec&) = default;
};

struct ResolvedKnurl {
    KnurlSpec spec;
    int teeth = 0;             // around; 0: rings alone
    double pitch = 0;          // square to the grooves, on the outside diameter, mm
    double helix = 0;          // of the slanting grooves to the axis, rad, positive right-hand
    double twist = 0;          // of them, rad of θ per mm of z
    double ring_pitch = 0;     // of rings, mm; 0: there are none
    double radius = 0;         // outside, mm
    double depth = 0;          // mm
    double blank_diameter = 0; // mm
    std::vector<ResolvedValue> values;
    double root() const { return radius - depth; }
};

// The pitches DIN 82 prefers, mm.
const std::vector<double>& preferred_knurl_pitches();

constexpr int most_knurl_teeth = 1000;

// Throws InputError for a value outside its range, with the limit.
ResolvedKnurl resolve_knurl(const KnurlSpec& spec);

// The radius, mm, at θ and at the distance z from the zone's middle.
double knurl_radius(const ResolvedKnurl& knurl, double theta, double z);

// About how many facets a length (mm) of it has.
double facet_count(const ResolvedKnurl& knurl, double length);

// Reading and writing knurls.
//
//   knurl axial pitch 1 on 20 x 15             knurl left 60 teeth on 20 x 15
//   knurl ring pitch 0.8 on 16 x 10            knurl crossed pitch 1 on 20 x 15
//   knurl crossed sunk pitch 1 on 20 x 15      knurl axial-ring pitch 1 depth 0.3 angle 105 on 20 x 15
using KnurlDesignation = Written<KnurlSpec>;
bool is_knurl(std::string_view text);
// Throws InputError with the place of what was not understood and what would be.
KnurlDesignation parse_knurl(std::string_view text);
// In standard form; parse_knurl() of the result gives the same spec.
std::string write_knurl(const KnurlSpec& spec, std::optional<Length> length = {},
                        LengthUnit unit = LengthUnit::millimetre);

} // namespace whorl
