// The domain model: plain values that say what the user asked for, nothing derived.
//
// A job is a value: copying it is undo, serialising it is saving, and a background build works on its own
// copy. Numbers are kept as the text that was typed; resolve_piece() in resolve.hpp turns them into lengths.
#pragma once

#include "form/designation.hpp"
#include "model/drawing_settings.hpp"
#include "model/one_of.hpp"
#include "quantity/quantity.hpp"

#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace whorl {

// What was typed in a number's field, and the unit its plain-number part is in.
struct Number {
    std::string text;
    LengthUnit unit = LengthUnit::millimetre;
    friend bool operator==(const Number&, const Number&) = default;
};

// How a zone ends. Near is the end towards the piece's start, far the other.
enum class EndKind {
    flat,    // the form is cut off square to the axis
    chamfer, // a cone down to `diameter` at the end plane; in a bore a countersink up to it
    point,   // a cone to the axis: a cone point, or in a bore the trace of the drill
    dog, // a pin of `diameter` and the length `distance` behind a shoulder of 45°, ISO 4753 LD; outside only
    edge,    // its edge rounded by `radius`; in a bore that of its mouth or step; plain round zones only
    fillet,  // the corner at a shoulder, in a bore at its bottom or step, filled by `radius`
    rounded, // a dome of `radius`, ISO 4753 RN; over a thread it goes on as the cone that touches it
    run_out, // the groove is withdrawn evenly over `turns` and ends inside the zone; threads only
    milled   // the groove ends inside the zone in the round of the tool that cuts it; grooves only
};
struct EndTreatment {
    EndKind kind = EndKind::flat;
    Number diameter; // of a dog; chamfer: at the end plane; empty: just below the root (threads) or d − 2 mm
    Number distance;            // chamfer: along the axis, instead of the diameter; dog: its length
    Number angle = {"45", {}};  // chamfer, point: between cone and axis, degrees
    Number turns = {"0.5", {}}; // run-out
    Number radius;              // rounded: empty: 1.4 d; edge, fillet
    friend bool operator==(const EndTreatment&, const EndTreatment&) = default;
};

// A row of holes square to the axis, along a plain outer zone. They go through the piece, or from one side into
// its bore.
struct CrossHoles {
    Number diameter = {}; // empty: none
    Number at = {};       // of the row's middle from the zone's near end; empty: its middle
    Number turned = {};   // degrees; empty: 0, of a flat bar through its wide face
    Number count = {};    // empty: 1
    Number spacing = {};  // of several; empty: spread evenly along the zone
    bool one_side = false;
    friend bool operator==(const CrossHoles&, const CrossHoles&) = default;
};

// A plain stretch: a cylinder or a cone, or a bar with flats.
struct PlainForm {
    Outline outline = Outline::round;
    Number diameter = {"10", {}}; // across the flats of a hexagon or square; the width of a flat bar
    Number far_diameter = {};     // round ones; empty: the same, else a cone from `diameter` to this
    Number thickness = {"5", {}}; // of a flat bar
    CrossHoles cross = {};
    friend bool operator==(const PlainForm&, const PlainForm&) = default;
};

// An external thread, or in a bore an internal one.
struct ThreadForm {
    Number diameter = {"10", {}};
    ThreadFamily family = ThreadFamily::iso_metric;
    Number pitch = {"1.5", {}};
    std::string tolerance_class = "6g";
    Hand hand = Hand::right;
    int starts = 1;
    ModelledAt modelled_at = ModelledAt::middle;
    Number material = {"50", {}}; // chosen point: percent of the way from minimum to maximum material
    Number start_angle;           // degrees, empty: 0
    bool simplified = false;      // a plain cylinder of the crest's diameter instead of the real thread
    Number depth;                 // empty: follows from the form
    Number root_flat;             // empty: follows from the form
    Number flank_angle;           // sharp V only, degrees; empty: 60
    Number taper;                 // "1:16" on the diameter, "3.6°" between the cone's sides, "to 19" at the
                                  // small end; negative: the other way; empty: as the family has it
    bool rounded_root = false;    // 60° threads: a root rounded as far as it goes instead of flat
    Number allowance;             // for printing: taken off the thread all around, empty: none
    OwnSection own_section;       // family `own` only
    friend bool operator==(const ThreadForm&, const ThreadForm&) = default;
};

// What the teeth of gears and racks have in common.
struct Teeth {
    Number module = {"2", {}};    // normal, mm
    Number count = {"24", {}};    // a whole number; of a rack, empty: they follow from its length
    Number pressure_angle;        // degrees, empty: 20
    Number helix_angle;           // degrees, empty: 0
    Hand hand = Hand::right;      // of the helix
    Number profile_shift;         // × module, empty: 0; gears
    std::string basic_rack = "A"; // type of ISO 53, or "addendum/dedendum/root radius"
    Number tip_shortening;        // × module, empty: 0
    TipEdge tip_edge = TipEdge::sharp;
    Number tip_size; // of a chamfered or rounded tip
    Number thinning; // of each tooth for backlash, empty: none
    friend bool operator==(const Teeth&, const Teeth&) = default;
};

// Teeth around a zone, in a bore internal ones: its diameters follow from them.
struct GearForm {
    Teeth teeth;
    friend bool operator==(const GearForm&, const GearForm&) = default;
};

// An involute spline's teeth around a zone, in a bore its hub's.
struct SplineForm {
    Number module = {"2", {}};
    Number teeth;              // empty: by DIN 5480, those of the reference diameter
    Number reference_diameter; // DIN 5480; empty: ISO 4156
    Number pressure_angle;     // ISO 4156, degrees; empty: 30
    std::string root;          // a word of SplineRoot; empty: the usual one
    std::string tolerance_class;
    Number thinning; // off each tooth beside its limits; empty: none
    friend bool operator==(const SplineForm&, const SplineForm&) = default;
};

// Teeth along a bar, which is the whole piece: its length follows from the teeth when that is empty, the
// teeth from its length when they are.
struct RackForm {
    Teeth teeth;
    Number width = {"20", {}};    // of the face
    Number height = {"20", {}};   // from the back to the tips
    Number near_plain, far_plain; // left uncut at either end; empty: cut off in the middle of a space
    friend bool operator==(const RackForm&, const RackForm&) = default;
};

// A coil of round wire, which is the whole piece. Its free length is the zone's; of that and the pitch one is
// asked, and of the turns as many as are needed.
struct CoilForm {
    SpringKind kind = SpringKind::compression;
    Number wire = {"2", {}};
    Number diameters = {
        "20", {}}; // "20", or at stations spread over all turns "52..30..52": form/coil/stations.hpp
    CoilDiameter measured = CoilDiameter::mean;
    Number pitch; // of the active turns, "6" or stations; empty: it follows from the free length
    LengthOver length_over = LengthOver::faces;
    Number active, total, dead; // turns; `dead` of both ends together
    CoilEnds ends = CoilEnds::closed;
    bool ground = false;
    Number tip; // thickness of a ground wire's end, empty: half the wire
    Hand hand = Hand::right;
    std::string material = "EN 10270-1"; // of spring_wires()
    std::string wire_class = "SM";       // of wire_classes()
    Number near_wire, far_wire; // how the wire ends, in words: wire_end.hpp; empty: plain, or as `ends` says
    Number initial_tension;     // N, of an extension spring
    Number start;               // degrees, where the wire begins; empty: 0
    int grade = 2;              // of EN 15800
    Number works;               // "32..24", "40N..65N": what it works between
    Number fatigue;             // "650..900", MPa: one's own line for the stresses between
    Number made_at;             // "32", "40N": the state it is made in; empty: free
    friend bool operator==(const CoilForm&, const CoilForm&) = default;
};

// A knurl around a zone, outside. Its pitch or its teeth are asked, the other follows; of its depth and its
// profile angle at most one.
struct KnurlForm {
    KnurlKind kind = KnurlKind::axial;
    bool sunk = false; // crossed ones: pyramids sunk in instead of raised
    Number diameter = {"20", {}};
    Number pitch, teeth;
    Number depth, profile_angle; // degrees; empty: 90
    bool simplified = false;     // the plain surface over its ridges instead
    friend bool operator==(const KnurlForm&, const KnurlForm&) = default;
};

// Helical grooves around a zone, or in a bore. Of the depth and the diameter across the groove bottoms one is asked.
struct GrooveForm {
    GrooveShape shape = GrooveShape::rectangle;
    Number diameter = {"20", {}}, far_diameter = {}; // of the surface; far: empty: the same
    Number width = {"2", {}};                        // along the axis; not of a vee
    Number depth = {"1", {}}, across = {};           // of a round one both empty: half the width
    Number angle = {};                               // degrees, between the flanks; empty: 60
    Number pitch = {"10", {}};                       // from groove to groove
    Number starts = {};                              // empty: 1
    Hand hand = Hand::right;
    Number start_angle = {}; // degrees; empty: 0
    Number points = {};      // own ones: position:depth, blanks between; see section_points.hpp
    bool simplified = false; // the plain surface it is cut into instead
    friend bool operator==(const GrooveForm&, const GrooveForm&) = default;
};

// A curve through points turned about the axis, fluted or not; or the hollow inside one, with a wall and no points.
struct SilhouetteForm {
    Number points = {"0:20 30:25 60:18", {}}; // height:radius from the near end, or height:radius:angle
    Course course = Course::spline;
    Number flutes = {};                              // how many; empty: none
    Number flute_depth = {"4", {}};                  // or a curve, height:depth
    Number flutes_from = {}, flutes_to = {};         // from the near end; empty: the zone's ends
    Number twist = {}, ridge = {}, start_angle = {}; // degrees, right-hand; radius, empty: sharp; degrees
    Number wall = {};                                // of a hollow; empty: none
    Number bottom = {"3", {}};                       // what a hollow leaves, where its length is empty
    bool smooth = false;                             // a hollow without the flutes of its silhouette
    friend bool operator==(const SilhouetteForm&, const SilhouetteForm&) = default;
};

// A disc cam's lobe. Its follower moves straight, set off or not, or swings.
struct LobeForm {
    Number timing = {"rise 10 in 120 cycloidal, dwell 60, return in 120 cycloidal, dwell", {}};
    Number base_radius = {"20", {}};
    FollowerKind follower = FollowerKind::roller;
    Number roller = {"8", {}};       // its diameter
    Number face_radius = {"60", {}}; // of a mushroom
    Number offset;                   // empty: none
    Number swing;                    // "50 60": arm, pivot from the axis; empty: it moves straight
    bool clockwise = false;          // seen from the far end
    Number at;                       // degrees; empty: 0
    Number speed;                    // rpm; empty: 60
    Number disc, depth;              // of a closed track sunk into a disc's face; empty: an open cam
    Number conjugate; // of a second lobe: how far both followers are apart; all else is then that of the lobe
                      // before
    Number mass, rate, force; // of its follower: g, N/mm of its spring, N at lift 0; empty: 0
    friend bool operator==(const LobeForm&, const LobeForm&) = default;
};

// A drum cam's track around a zone: a groove, a rib or only a line.
struct DrumForm {
    Number timing = {"rise 20 in 150 cycloidal, dwell 30, return in 150 cycloidal, dwell", {}};
    Number diameter = {"72", {}};
    Number width = {"8", {}}, depth = {"6", {}};
    TrackKind track = TrackKind::groove;
    bool straight = false; // walls sunk straight in instead of as the roller leaves them
    Number turns;          // that the timing takes together; empty: 1
    CornerKind keep_corners = CornerKind::rounded;
    Number corners; // radius on the drum's Ø; empty: half the width + 1 mm at the bottom
    Number arm;     // of a follower that swings; empty: it moves along the axis
    Number from;    // of its middle at lift 0 from the near end; empty: in the middle
    bool clockwise = false;
    Number at;          // degrees; empty: 0
    Number speed;       // rpm; empty: 60
    Number mass, force; // of its follower: g, N against its rise; empty: 0
    friend bool operator==(const DrumForm&, const DrumForm&) = default;
};

// A bend of the bar: its length follows from angle and radius.
struct BendForm {
    Number diameter = {"8", {}}; // of the bar, outside
    Number angle = {"90", {}};   // degrees
    Number radius = {"20", {}};  // to the centreline, or to the inside
    bool inside = false;
    Number roll; // degrees from the plane of the bend before; empty: 0
    friend bool operator==(const BendForm&, const BendForm&) = default;
};

// What a zone wears. What each of them means on a floor is said once there: FormModel in form_model.hpp is
// this floor's.
using Form = OneOf<PlainForm, ThreadForm, GearForm, RackForm, CoilForm, KnurlForm, LobeForm, DrumForm,
                   BendForm, GrooveForm, SilhouetteForm, SplineForm>;

bool operator==(const Form& a, const Form& b);

// The chain a zone belongs to. Outer zones follow each other from the piece's near end, near-bore zones from
// its near face inwards, far-bore zones from its far face inwards.
enum class Where { outer, near_bore, far_bore };

// Another zone of the same piece that a zone is like, until it is edited itself: as it stands, or seen in a
// mirror across the bar, near and far changed.
struct Following {
    std::size_t zone = 0;
    bool mirrored = false;
    friend bool operator==(const Following&, const Following&) = default;
};

// A stretch of the centreline wearing one form.
struct Zone {
    Where where = Where::outer;
    Number length = {"10", {}}; // in a bore, empty: all the way to the other face or its bores (through); see
                                // RackForm, BendForm
    Form form;
    Number keyway; // plain round bores: "standard" for that of DIN 6885-1, or its width x depth; empty: none
    Number web; // gears and plain round discs: "standard", its thickness, or thickness, rim's and hub's Ø;
                // empty: none
    EndTreatment near_end, far_end;
    std::string finish = {};               // of this zone alone; empty: the piece's
    std::optional<Following> follows = {}; // length, form and ends are then that zone's

    Zone(); // these six compiled once: one_of.hpp
    Zone(const Zone&);
    Zone(Zone&&) noexcept;
    Zone& operator=(const Zone&);
    Zone& operator=(Zone&&) noexcept;
    ~Zone();
    friend bool operator==(const Zone&, const Zone&) = default;

    bool in_bore() const { return where != Where::outer; }
    // The form if it is this one, else none.
    template<class F>
    const F* as() const {
        return std::get_if<F>(&form);
    }
    template<class F>
    F* as() {
        return std::get_if<F>(&form);
    }
    const Teeth* teeth() const; // a gear's or a rack's
    Teeth* teeth() { return const_cast<Teeth*>(std::as_const(*this).teeth()); }
};

struct Piece {
    std::string name;
    std::string reason; // what it does in the instrument
    std::string finish = "brass";
    std::vector<Zone> zones; // along a straight centreline; each chain in its own order
    Number stands = {}; // where it stands in the job, see free_place.hpp; empty: its pairs say so, or beside the others
    PieceDrawing drawing = {};

    Piece(); // these six compiled once: one_of.hpp
    Piece(const Piece&);
    Piece(Piece&&) noexcept;
    Piece& operator=(const Piece&);
    Piece& operator=(Piece&&) noexcept;
    ~Piece();
    friend bool operator==(const Piece&, const Piece&) = default;
};

struct NamedValue {
    std::string name;
    Number number;
    friend bool operator==(const NamedValue&, const NamedValue&) = default;
};

// The sections of one's own that a job's threads wear, each name once.
std::vector<OwnSection> sections_in(const struct Job& job);

struct ZoneRef {
    std::size_t piece = 0, zone = 0;
    friend bool operator==(const ZoneRef&, const ZoneRef&) = default;
};

// Two threaded or two toothed zones that belong together. While it follows, the second zone keeps the first
// one's size, pitch, hand and starts, or its module, angles and the hand that meshes; an edit of one of these
// on the second ends that.
struct Pair {
    ZoneRef first, second;
    bool follows = true;
    Number centre = {}; // between the axes of gears, or from a gear's axis to its rack's reference line;
                        // empty: that of no backlash but the thinning
    Number stands = {}; // how far on the second stands, see Freedom in pair_model.hpp; empty: as is usual
    friend bool operator==(const Pair&, const Pair&) = default;
};

struct Job {
    std::string name = "Untitled";
    LengthUnit unit = LengthUnit::millimetre; // for reading and typing; changes no dimension
    std::vector<NamedValue> values;           // each may use those before it
    std::vector<Piece> pieces;
    std::vector<Pair> pairs;
    JobDrawing drawing = {};

    Job(); // these six compiled once: one_of.hpp
    Job(const Job&);
    Job(Job&&) noexcept;
    Job& operator=(const Job&);
    Job& operator=(Job&&) noexcept;
    ~Job();
    friend bool operator==(const Job&, const Job&) = default;
};

constexpr std::size_t most_pieces = 500, most_zones = 50, most_values = 200;

// How a bent piece of a material comes by its shape: a bar bent cold, or cast, moulded, printed or blown.
enum class Shaping { cold, poured };
// Finishes that a piece can have, with the colour it is shown and exported in (sRGB, 0…1).
struct Finish {
    const char* name;
    double red, green, blue;
    double density; // g/cm³, of the usual grade
    Shaping shaping = Shaping::cold;
    // At fracture, as a part of the length, of a usual grade as its standard has it at least; 0: grades differ too much.
    double elongation = 0;
    const char* grade = "";
};
const std::vector<Finish>& finishes();
const Finish&
finish_called(const std::string& text);      // "steel", "steel #7A5AA8"; brass if the name is not known
const Finish& finish_of(const Piece& piece); // brass if the name is not known
const Finish& finish_of(const Piece& piece, std::size_t zone);

} // namespace whorl
