// Screw threads: what is asked, and what follows from it.
//
//   ThreadSpec --resolve_thread()--> ResolvedThread (limits, sources, axial section)
//
// Basic profile of ISO 68-1 and ASME B1.1: a sharp triangle of height H = P·√3/2, truncated H/8 at the crest
// and H/4 at the basic root, pitch diameter d2 = d − 3H/4. External roots are modelled flat at the depth of
// the rounded root, so that no material stands where the standard's rounded root has none.
#pragma once

#include "form/resolved_value.hpp"
#include "form/thread/own_section.hpp"
#include "form/thread/section.hpp"
#include "quantity/quantity.hpp"
#include "standard/listed_thread.hpp"

#include <optional>
#include <string>
#include <vector>

namespace whorl {

enum class ThreadFamily {
    iso_metric,
    unified,
    whitworth,   // BS 84: BSW, BSF and special pitches
    pipe_g,      // ISO 228-1, parallel
    pipe_r,      // ISO 7-1: R tapered external, Rc tapered and Rp parallel internal
    npt,         // ASME B1.20.1, tapered
    npsm,        // ASME B1.20.1, parallel, free-fitting
    trapezoidal, // ISO 2901 to 2904
    acme,        // ASME B1.5
    stub_acme,   // ASME B1.8
    buttress,    // DIN 513
    knuckle,     // DIN 405
    square,
    sharp_v, // a triangle of any flank angle, without flats
    own      // a section of one's own, ThreadSpec::own_section
};
constexpr int family_count = 15;

// What a thread of the family is for, as far as the sheet's rows and the checks differ by it.
enum class ThreadUse { fastening, motion, pipe, other };

// Where in the tolerance band the solid is made. `basic` is the profile without any deviation.
// `chosen`: at a part of the band, see ThreadSpec::material.
enum class ModelledAt { basic, maximum_material, middle, minimum_material, chosen };

struct ThreadSpec {
    ThreadFamily family = ThreadFamily::iso_metric;
    Length diameter = mm(10); // nominal (major) diameter
    Length pitch = mm(1.5);   // crest to crest; the lead is starts × pitch
    std::string tolerance_class =
        "6g";                   // "6g", "6H"; "2A"; "medium"; "A"; "R", "Rc", "Rp"; "7e"; "2G"; or empty
    Side side = Side::external; // as the class says, where it says anything
    Hand hand = Hand::right;
    int starts = 1; // 1 to 8
    ModelledAt modelled_at = ModelledAt::middle;
    double material = 0.5;      // chosen: 0 is minimum, 1 maximum material
    Angle start_angle = deg(0); // the groove is turned by it about the axis, seen along rising z
    // Set by the user instead of following from the form; empty means it follows.
    std::optional<Length> depth;      // radial, crest to root
    std::optional<Length> root_flat;  // axial width of the root
    std::optional<Angle> flank_angle; // sharp V only: between the flanks, 60° if not set
    // Radius gained per mm of rising z; the diameters hold at the wide end. Not for R and NPT, which have
    // their own. Flanks keep their angles to the axis, crests and roots follow the cone; a section of one's
    // own is sheared with it.
    std::optional<double> taper;
    bool rounded_root = false; // 60° threads: a root rounded as far as it goes
    OwnSection own_section;    // family `own` only: one without points is still unknown
    Length allowance = mm(0);  // for printing: taken off the surface all around

    friend bool operator==(const ThreadSpec&, const ThreadSpec&) = default;
};

struct StandardStatus {
    bool listed = false;
    std::string series;                            // "coarse", "fine", "UNC", …; empty when not listed
    std::string source;                            // of the listing
    std::optional<standard::ListedThread> nearest; // the nearest listed thread, when not listed
};

struct ResolvedThread {
    ThreadSpec spec;
    Side side = Side::external;
    StandardStatus status;
    ThreadSection section;
    // Tapered threads: how far from the small end (external) or the mouth (internal) the diameters hold.
    Length gauge_distance = mm(0);
    Angle lead_angle;
    std::vector<ResolvedValue> values;
};

// The side a tolerance class belongs to; none for classes that serve both. Throws InputError for a class the
// family doesn't have.
std::optional<Side> side_of_class(ThreadFamily family, const std::string& tolerance_class);
// The class a thread of this family and side has when none is said, and the one of its counterpart.
std::string usual_class(ThreadFamily family, Side side);
std::vector<std::string> classes_of(ThreadFamily family, Side side); // the usual one first; none: classless

bool has_own_taper(const ThreadSpec& spec); // R, Rc and NPT: 1:16 by their standards
std::string taper_text(double taper);       // "1:16", on the diameter; of a radius gained per mm
// Inch families are written, listed and shown in inch; of some others the pitch is known by the threads per
// inch.
bool is_inch(ThreadFamily family);
bool is_per_inch(ThreadFamily family);
ThreadUse use_of(ThreadFamily family);
// The listed sizes of a family; empty for families without a series.
const std::vector<standard::ListedThread>& listed_threads(ThreadFamily family);

// Throws InputError for a diameter outside 0.1…2000 mm, a pitch outside 0.01…500 mm, starts outside 1…8, a
// class the family does not have, or a section of one's own that can't be used. A thread that is merely
// impossible to cut still resolves: check_thread() in the check floor says why it stops.
ResolvedThread resolve_thread(const ThreadSpec& spec);

// The thread that goes with this one: the same family, size, pitch, hand and starts, the other side, with the
// class the standard pairs it with (6g with 6H, 2A with 2B, 7e with 7H, R with Rc).
ThreadSpec counterpart(const ThreadSpec& spec);

// Threads per inch of a thread.
double threads_per_inch(Length pitch);

const char* word(Hand hand);
const char* word(ThreadFamily family);     // "ISO metric", "trapezoidal", …
const char* key_word(ThreadFamily family); // "iso_metric", "trapezoidal", … as in files
const char* word(ModelledAt at);
std::string modelled_text(const ThreadSpec& spec); // as word(), a chosen point with its percentage

} // namespace whorl
