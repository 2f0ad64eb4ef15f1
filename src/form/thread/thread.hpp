// Screw threads of the 60° triangular families: what is asked, and what follows from it.
//
//   ThreadSpec --resolve_thread()--> ResolvedThread (limits, sources, axial section)
//
// Basic profile of ISO 68-1 and ASME B1.1: a sharp triangle of height H = P·√3/2, truncated H/8 at the crest
// and H/4 at the basic root, pitch diameter d2 = d − 3H/4. External roots are modelled flat at the depth of
// the rounded root, so that no material stands where the standard's rounded root has none.
#pragma once

#include "form/resolved_value.hpp"
#include "quantity/quantity.hpp"
#include "standard/listed_thread.hpp"

#include <optional>
#include <string>
#include <vector>

namespace whorl {

enum class ThreadFamily { iso_metric, unified };
enum class Hand { right, left };
enum class Side { external, internal };

// Where in the tolerance band the solid is made. `basic` is the profile without any deviation.
enum class ModelledAt { basic, maximum_material, middle, minimum_material };

struct ThreadSpec {
    ThreadFamily family = ThreadFamily::iso_metric;
    Length diameter = mm(10);           // nominal (major) diameter
    Length pitch = mm(1.5);             // crest to crest; the lead is starts × pitch
    std::string tolerance_class = "6g"; // "6g", "5g6g", "6H"; "2A", "3B"
    Hand hand = Hand::right;
    int starts = 1; // 1 to 8
    ModelledAt modelled_at = ModelledAt::middle;
    // Set by the user instead of following from the form; empty means it follows.
    std::optional<Length> depth;     // radial, crest to root
    std::optional<Length> root_flat; // axial width of the root

    friend bool operator==(const ThreadSpec&, const ThreadSpec&) = default;
};

// The section one pitch long that is swept, symmetric about the middle of the groove. All in mm and rad.
struct ThreadSection {
    double pitch = 0;
    double crest_radius = 0;
    double pitch_radius = 0;
    double root_radius = 0;
    double crest_flat = 0; // axial width; ≤ 0 when the groove is wider than the pitch
    double root_flat = 0;
    double flank_half_angle = 0; // between flank and the plane square to the axis
    int starts = 1;
    Hand hand = Hand::right;

    double depth() const { return crest_radius - root_radius; }
    double lead() const { return pitch * starts; }
    double groove_width() const { return pitch - crest_flat; }
    // A section that can be swept: a crest and a root of at least one thousandth of the pitch, a core left.
    bool sweepable() const;
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
    Angle lead_angle;
    std::vector<ResolvedValue> values;
};

// The side a tolerance class belongs to. Throws InputError for a class the family doesn't have.
Side side_of_class(ThreadFamily family, const std::string& tolerance_class);

// Throws InputError for a diameter outside 0.1…2000 mm, a pitch outside 0.01…500 mm, starts outside 1…8, or a
// class the family does not have. A thread that is merely impossible to cut still resolves: check_thread() in
// the check floor says why it stops.
ResolvedThread resolve_thread(const ThreadSpec& spec);

// Threads per inch of a Unified thread.
double threads_per_inch(Length pitch);

const char* word(Hand hand);
const char* word(ThreadFamily family);
const char* word(ModelledAt at);

} // namespace whorl
