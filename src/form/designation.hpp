// The trade's own language: reading and writing designations.
//
//   M10            M10x1.5-6g        M12x1.25-6g LH x 40       M16xPh4P2-6g       M8x1-5g6g
//   1/4-20 UNC-2A  #10-32 UNF-2A LH  1.125-12 UN-2A x 2        1 3/8-6 UNC-2A x 50 mm
//   1/2-13 UNC-2A (2 starts) LH      1/2-12 BSW-medium    G1/2 A     R1/2    Rc1/2    Rp1/2    1/2-14 NPT
//   Tr40x7-7e    Tr12x6(P3)-7e LH    1-5 ACME-2G          1/2-10 STUB ACME-2G     S40x7   Rd40x1/6   SQ20x4
//   section rope 20x4   (a section of one's own)          V60 1-18     V55 20x2
//   gear m2 z24 a20 b12, rack m2 z20 b20 h20                           (tooth/gear_designation.hpp)
//   spline W 30x2x14 x 25, spline EXT 24z x 2.5m x 30P x 5f           (tooth/spline.hpp)
//   extension spring d1.6 D12 n20, torsion spring d2 D16 n6 legs 30
//   spring d2 D20 L50 n7                                               (coil/coil_designation.hpp)
//   cam r20: rise 10 in 120, dwell, return in 120; roller 8; b10       (cam/cam.hpp; drum cams: cam/drum.hpp)
//   knurl axial pitch 1 on 20 x 15                                     (knurl/knurl.hpp)
//   groove rect 2 x 1.5 pitch 25 on 30 x 300                           (groove/groove.hpp)
//   silhouette 0:30 60:38 180:16, hollow 1.5 bottom 3                  (silhouette/silhouette.hpp)
//   bend d8 90 r20                                                     (bend/bend.hpp)
//   round 12 x 30     hex 17 x 8     square 10 x 6     flat 30 x 6 x 90        (plain zones)
//
// A number may be worked out where it stands, in brackets: round (2*6) x 30.
// Threads whose class does not say it are external unless `internal` is written.
// `x`, `X` and `×` are the same. A metric thread without a pitch has the coarse pitch of its diameter;
// without a class it gets 6g, a Unified one 2A. The length after the last ` x ` is in the family's unit
// unless it names one.
#pragma once

#include "form/bend/bend.hpp"
#include "form/cam/cam.hpp"
#include "form/cam/drum.hpp"
#include "form/coil/coil_designation.hpp"
#include "form/groove/groove.hpp"
#include "form/knurl/knurl.hpp"
#include "form/silhouette/silhouette.hpp"
#include "form/thread/thread.hpp"
#include "form/tooth/gear_designation.hpp"
#include "form/tooth/spline.hpp"
#include "quantity/input_error.hpp"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace whorl {

// What a zone looks like along the axis. Hexagon and square are measured across their flats, a flat bar across its
// wide face and its thickness.
enum class Outline { round, hexagon, square, flat };

struct PlainBar {
    Length diameter;
    Outline outline = Outline::round;
    Length thickness = {}; // of a flat bar
    friend bool operator==(const PlainBar&, const PlainBar&) = default;
};

struct Designation {
    std::variant<ThreadSpec, PlainBar, GearSpec, RackSpec, CoilSpec, KnurlSpec, CamSpec, DrumSpec, BendSpec,
                 GrooveSpec, SilhouetteSpec, SplineSpec>
        what;
    std::optional<Length> length;
    LengthUnit unit = LengthUnit::millimetre; // the family's own unit
    WheelBody body = {};                      // of gears, cams and plain bars
};

// Throws InputError with the place of what wasn't understood and what would be. Sections of one's own are
// found by their name among `known`.
Designation parse_designation(std::string_view text, std::span<const OwnSection> known = {});

// In standard form; parse_designation() of the result gives the same spec. Values the designation has no
// place for (modelled size, overrides) are not written.
std::string write_designation(const ThreadSpec& spec, std::optional<Length> length = {});
std::string write_designation(const PlainBar& round, std::optional<Length> length = {},
                              LengthUnit unit = LengthUnit::millimetre);

// Whole designations that the text can be completed to, most usual first, at most `limit`.
std::vector<std::string> complete_designation(std::string_view text, std::size_t limit = 8,
                                              std::span<const OwnSection> known = {});

// How the catalogue shows what can be written.
struct Card {
    std::string title, sentence;
    std::string drawn = {}; // a line whose drawing says more than the usual member's
};
// A usual designation, the words one would change in braces: M{10}x{1.5}. What it says beside, or nothing.
struct Usual {
    std::string text, says;
};
std::string without_marks(std::string_view usual);

// One kind of designation: how it is known, read and shown. Forms register theirs in designation.cpp, thread
// families stand on their own pages (thread/family.hpp).
struct DesignationKind {
    std::string key, group; // group: "Threads", "Gears and racks", …
    Card card;
    std::string example; // how the usual designation that stands for the kind begins
    std::vector<Usual> (*usual)(std::span<const OwnSection> known);
    bool (*claims)(std::string_view text) = nullptr; // none: one of the kinds above has read it
    Designation (*read)(std::string_view text) = nullptr;
    bool list = false; // of points or stretches, and as long as they are many
};
const std::vector<DesignationKind>& designation_kinds();

std::string designation_examples(); // "Write for example …"

} // namespace whorl
