// From what was asked to dimensions: names evaluated, forms resolved, ends made definite.
#pragma once

#include "form/bend/bent_line.hpp"
#include "model/job.hpp"
#include "quantity/expression.hpp"

namespace whorl {

// An end treatment with its numbers worked out.
struct ResolvedEnd {
    EndKind kind = EndKind::flat;
    Length diameter;      // chamfer
    Angle angle;          // chamfer, between cone and axis
    double turns = 0;     // run-out
    bool follows = false; // chamfer diameter or dome radius was not asked but follows
    // A rounded end: the zone ends `dome_height` before its length does, flat (plain zones) or in the chamfer
    // that touches the dome (threads, simplified ones too), and carries a dome on the circle it ends in. The
    // dome keeps a flat of `tip_diameter`, as points do. Radius 0: no dome.
    Length dome_radius, dome_height, tip_diameter;
    // Of an edge rounded or a corner filled it is an arc, on a cylinder a quarter of a circle, whose middle runs around
    // the axis at this radius; `hollow`: one that bulges to the axis.
    Length arc_middle;
    bool hollow = false;
    // A dog is a cylinder of `tip_diameter` there instead, behind the chamfer that is its shoulder.
    bool is_dog() const { return in_mm(dome_height) > 0 && in_mm(dome_radius) == 0; }
    bool has_cap() const { return is_dog() || is_dome(); } // something stands before the zone's end
    bool is_dome() const { return in_mm(dome_radius) > 0; }
    // The groove ends before the zone does.
    bool ends_inside() const { return kind == EndKind::run_out || kind == EndKind::milled; }
    bool is_edge() const { return kind == EndKind::edge || kind == EndKind::fillet; }
    // Of the surface of revolution that the end leaves, `from_end` (mm) before the zone's length ends; a
    // large radius where it does not reach. Not for countersinks and bottoms of bores.
    Length radius_at(double from_end) const;
};

// A keyway along a bore. It lies under a tooth, where the piece has teeth.
struct ResolvedKeyway {
    Length width, depth; // depth t2 from the bore's surface in the keyway's middle
    double at = 0;       // rad, of its middle
    std::string source;
};

// A disc's web: rings are sunk into those of its sides that are free between rim and hub, evenly, so that
// `thickness` is left.
struct ResolvedWeb {
    double thickness = 0;         // mm
    double rim = 0, hub = 0;      // radius inside the rim, and of the hub, mm
    bool near = true, far = true; // which sides are free
    double depth = 0;             // of each ring, mm
    std::string source;
};

// A row of holes square to the axis, their axes in one plane with it.
struct ResolvedCrossHoles {
    double radius = 0;      // mm
    double towards = 0;     // rad, of the axis on the side the holes start from
    std::vector<double> at; // z of each, mm
    bool one_side = false;  // only from there, into the bore
    double spacing = 0;     // of neighbours, mm
};

// What the forms of a zone become; `Asked` is what each was.
struct ResolvedPlain {
    using Asked = PlainForm;
    Outline outline = Outline::round;
    Length thickness; // of a flat bar, square to the wide faces; these look to 90° and 270°
    std::optional<ResolvedKeyway> keyway;
    std::optional<ResolvedCrossHoles> cross;
};
struct ResolvedScrew { // a thread on its zone
    using Asked = ThreadForm;
    ResolvedThread thread;
    bool simplified = false; // shown and made as a plain surface at its crest
    double taper = 0;        // dr per mm of z
    Length taper_from;       // where on the axis the thread's own diameters hold (the gauge plane)
};
struct ResolvedWheel { // teeth on their zone
    using Asked = GearForm;
    ResolvedGear gear;
    double turned = 0; // rad: the middle of a space at the zone's near end
};
struct ResolvedBar {
    using Asked = RackForm;
    ResolvedRack rack;
};
struct ResolvedSpring {
    using Asked = CoilForm;
    ResolvedCoil coil;
};
struct ResolvedKnurling {
    using Asked = KnurlForm;
    ResolvedKnurl knurl;
    bool simplified = false; // shown and made as the plain surface over its ridges
};
struct ResolvedLobe {
    using Asked = LobeForm;
    ResolvedCam cam;
};
struct ResolvedTrack { // of a drum cam
    using Asked = DrumForm;
    ResolvedDrum drum;
};
struct ResolvedElbow { // a bend
    using Asked = BendForm;
    ResolvedBend bend;
};
struct ResolvedGrooving { // grooves around their zone
    using Asked = GrooveForm;
    ResolvedGroove groove;
    double taper = 0;        // dr per mm of z
    Length taper_from;       // where on the axis the groove's own diameters hold
    bool simplified = false; // shown and made as the plain surface that it is cut into
};
struct ResolvedShape { // a silhouette, or the hollow in one
    using Asked = SilhouetteForm;
    ResolvedSilhouette silhouette;
};
struct ResolvedSplining { // a spline's teeth on their zone
    using Asked = SplineForm;
    ResolvedSpline spline;
};
using ResolvedForm =
    OneOf<ResolvedPlain, ResolvedScrew, ResolvedWheel, ResolvedBar, ResolvedSpring, ResolvedKnurling,
          ResolvedLobe, ResolvedTrack, ResolvedElbow, ResolvedGrooving, ResolvedShape, ResolvedSplining>;

struct Radii {
    double smallest = 0, largest = 0; // mm
};

struct ResolvedZone {
    Where where = Where::outer;
    Length start, length; // along the axis, from the piece's near end
    Length diameter;      // nominal; across flats; over the tips; the height of a rack
    Length far_diameter;  // of a conical zone at its far end, else the same
    ResolvedForm form;
    std::optional<ResolvedWeb> web;
    ResolvedEnd near_end, far_end;

    ResolvedZone(); // these six compiled once: one_of.hpp
    ResolvedZone(const ResolvedZone&);
    ResolvedZone(ResolvedZone&&) noexcept;
    ResolvedZone& operator=(const ResolvedZone&);
    ResolvedZone& operator=(ResolvedZone&&) noexcept;
    ~ResolvedZone();

    Length end() const { return start + length; }
    bool in_bore() const { return where != Where::outer; }
    // The radius of the blank: the crest of a thread at its modelled size, half the diameter of a plain zone,
    // half across the corners of a hexagon. For bores the smallest radius that is free.
    Length outer_radius() const;
    // The largest and smallest radius the zone's surface has anywhere.
    Length largest_radius() const;
    Length smallest_radius() const;

    // The form, if it is this one.
    template<class R>
    const R* as() const {
        return std::get_if<R>(&form);
    }
    const ResolvedThread* thread() const {
        return as<ResolvedScrew>() ? &as<ResolvedScrew>()->thread : nullptr;
    }
    const ResolvedSpline* spline() const {
        return as<ResolvedSplining>() ? &as<ResolvedSplining>()->spline : nullptr;
    }
    // Teeth around it, a gear's or a spline's, and where the middle of a space looks to at its near end, rad.
    const ResolvedGear* gear() const {
        return as<ResolvedWheel>() ? &as<ResolvedWheel>()->gear : spline() ? &spline()->gear : nullptr;
    }
    double turned() const { return as<ResolvedWheel>() ? as<ResolvedWheel>()->turned : 0; }
    const ResolvedRack* rack() const { return as<ResolvedBar>() ? &as<ResolvedBar>()->rack : nullptr; }
    const ResolvedCoil* coil() const { return as<ResolvedSpring>() ? &as<ResolvedSpring>()->coil : nullptr; }
    const ResolvedKnurl* knurl() const {
        return as<ResolvedKnurling>() ? &as<ResolvedKnurling>()->knurl : nullptr;
    }
    const ResolvedGroove* groove() const {
        return as<ResolvedGrooving>() ? &as<ResolvedGrooving>()->groove : nullptr;
    }
    const ResolvedSilhouette* silhouette() const {
        return as<ResolvedShape>() ? &as<ResolvedShape>()->silhouette : nullptr;
    }
    // Inside a silhouette, at a distance from it.
    bool is_hollow() const { return silhouette() && silhouette()->spec.wall; }
    // What the screw motion sweeps along the zone, a thread's or a groove's; none: nothing.
    const ThreadSection* swept() const {
        return thread() ? &thread()->section : groove() ? &groove()->section : nullptr;
    }
    const ResolvedCam* lobe() const { return as<ResolvedLobe>() ? &as<ResolvedLobe>()->cam : nullptr; }
    const ResolvedBend* bend() const { return as<ResolvedElbow>() ? &as<ResolvedElbow>()->bend : nullptr; }
    const ResolvedDrum* drum() const { return as<ResolvedTrack>() ? &as<ResolvedTrack>()->drum : nullptr; }
    // Of a cam, disc or drum: what its follower does (corners rounded), what was asked, and which way it
    // turns.
    const Motion* motion() const { return lobe() ? &lobe()->motion : drum() ? &drum()->motion : nullptr; }
    const Timing* timing() const {
        return lobe() ? &lobe()->spec.timing : drum() ? &drum()->spec.timing : nullptr;
    }
    bool turns_clockwise() const {
        return lobe() ? lobe()->spec.clockwise : drum() && drum()->spec.clockwise;
    }
    const ResolvedKeyway* keyway() const {
        return as<ResolvedPlain>() && as<ResolvedPlain>()->keyway ? &*as<ResolvedPlain>()->keyway : nullptr;
    }
    const ResolvedCrossHoles* cross() const {
        return as<ResolvedPlain>() && as<ResolvedPlain>()->cross ? &*as<ResolvedPlain>()->cross : nullptr;
    }
    Outline outline() const { return as<ResolvedPlain>() ? as<ResolvedPlain>()->outline : Outline::round; }
    bool simplified() const {
        return (as<ResolvedScrew>() && as<ResolvedScrew>()->simplified) ||
               (as<ResolvedKnurling>() && as<ResolvedKnurling>()->simplified) ||
               (as<ResolvedGrooving>() && as<ResolvedGrooving>()->simplified);
    }
    double taper() const {
        return as<ResolvedScrew>() ? as<ResolvedScrew>()->taper
               : groove()          ? as<ResolvedGrooving>()->taper
                                   : 0;
    }
    Length taper_from() const {
        return as<ResolvedScrew>() ? as<ResolvedScrew>()->taper_from
               : groove()          ? as<ResolvedGrooving>()->taper_from
                                   : mm(0);
    }
};

struct ResolvedPiece {
    std::string name, finish;
    std::vector<ResolvedZone> zones;
    Length length() const;                             // of the outer zones together, along the centreline
    bool bent() const;                                 // it has bends
    BentLine centreline() const;                       // of the outer zones
    std::vector<std::size_t> chain(Where where) const; // indices of its zones, in order of rising z
    Length largest_radius() const;
};

// Where in a job an input error lies, for messages: `pieces[0].zones[1].pitch`.
class JobError : public InputError {
public:
    JobError(const InputError& e, std::string where)
        : InputError(where + ": " + e.what(), e.position, e.extent), place(std::move(where)) {}
    std::string place;
};

// The named values in order, each evaluated once for as long as they stay as they are; throws JobError.
Names resolve_names(const Job& job);

// Throws JobError if a text cannot be evaluated or a dimension is out of range (lengths 0.01…10000 mm).
ResolvedPiece resolve_piece(const Piece& piece, const Names& names);

// Everything of a job that can throw, tried: a job that passes can be shown. Pieces that are as they were in
// `known`, a job that has passed, are not tried again while the named values are the same.
void require_resolvable(const Job& job, const Job* known = nullptr);

// The taper asked for in a zone's thread as diameter lost per mm towards the end that is the small one unless
// said otherwise, negative for the other; 0 if none is. Throws InputError with what would be accepted.
double resolve_taper(const Number& taper, Length diameter, Length length, const Names& names);

// A number typed for a chamfer, run-out, … as a length, for use by editors.
Length resolve_length(const Number& n, const Names& names);

// A length's text as it can be typed back where plain numbers are in `unit`: as it was typed if it means the
// same there (typed in that unit, or a formula of named values and units only), else its value.
std::string typed_as(const Number& n, LengthUnit unit, const Names& names);

} // namespace whorl
