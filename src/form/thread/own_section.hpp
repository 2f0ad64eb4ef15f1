// A section of one's own: the outline of one groove of a screw in the axial plane, in units of the pitch, so
// that it fits every size. A nut gets the same outline from the other side.
//
//      A ────╮             z along the axis, rising; h from the crest, negative into the metal of the screw.
//            │   ╭── B     The first point A and the last point B lie at the crest (h = 0); what is left of
//            ╰───╯         the pitch between B and the next A is the crest's flat.
//
// Between them the outline first falls and then rises; it may stand upright but not overhang.
#pragma once

#include "form/thread/section.hpp"

#include <string>
#include <vector>

namespace whorl {

struct OwnPoint {
    double z = 0, h = 0;
    double bow = 0; // height of the arc to the next point over its chord, towards larger h; 0: straight
    friend bool operator==(const OwnPoint&, const OwnPoint&) = default;
};

struct OwnSection {
    std::string name; // letters, digits, - and _; at most 40
    std::vector<OwnPoint> points;
    friend bool operator==(const OwnSection&, const OwnSection&) = default;
};

constexpr std::size_t most_own_points = 64;

// Throws InputError with a sentence that says which point is wrong and what is accepted.
void require_usable(const OwnSection& section);
void require_section_name(const std::string& name);

// What the outline says about itself, in units of the pitch.
struct OwnShape {
    double depth = 0;
    double crest_flat = 0, root_flat = 0;
    double pitch_line = 0;                   // h where the groove is half a pitch wide, else half the depth
    double lower_angle = 0, upper_angle = 0; // of its flanks there, rad
};
OwnShape shape_of(const OwnSection& section);

// The groove in millimetres: the crest of the screw's outline lies at radius `crest`. `layer` is taken off
// the metal all around, square to the outline (exact for straight pieces and where arcs join smoothly, of
// second order in the layer elsewhere). Flanks that stand upright lean half a micrometre, to the open side.
// Empty if nothing is left of the groove or of its crest.
std::vector<GroovePoint> groove_of(const OwnSection& section, double pitch, double crest, Side side,
                                   double layer = 0);

// The outline of a section that is there already, to go on from.
OwnSection own_section_of(const ThreadSection& section, const std::string& name);

// z of the middle of the groove (external) or of the ridge (internal) that a solid's section is centred on.
double middle_of(const OwnSection& section, Side side);

// A point put in the middle of the piece after point i, on it; a point taken out. The result may be unusable.
OwnSection with_point_after(OwnSection section, std::size_t i);
OwnSection without_point(OwnSection section, std::size_t i);

} // namespace whorl
