// How two gears, or a gear and a rack, run together: centre distance, backlash, contact, sliding, and what
// keeps them from meshing.
//
// Geometry of ISO 21771. The second may be an internal gear or a rack; the first is always an external gear.
// Teeth are placed so that the first gear's space at its angle 0 looks at the pitch point and a tooth of the
// second stands in its middle.
#pragma once

#include "form/tooth/rack.hpp"

namespace whorl {

enum class MeshFault {
    both_internal,
    module,
    pressure_angle,
    helix,
    hand,
    centre,       // no line of action at this centre distance, or the teeth jam
    loose,        // the centre distance asked leaves more than a tenth of a module between the teeth
    root_contact, // a tip reaches below where the other's involute begins
    tip_clearance,
    internal_tips, // tips of pinion and ring foul each other away from the pitch point
    contact_ratio,
    internal_rack // a rack does not go with internal teeth
};

struct MeshMistake {
    MeshFault what;
    bool stops = true; // else they run, but not well
    std::string sentence;
    double value = 0, limit = 0; // mm, degrees or a ratio, as the sentence says
};

const char* key_word(MeshFault what); // "both_internal", "module", … as in JSON and in findings' ids

// Places on the path of contact are distances (mm) from the pitch point along the line of action, positive
// towards the tips of the first gear.
struct GearMesh {
    std::vector<MeshMistake> mistakes;
    std::vector<ResolvedValue> values;
    bool meshes = false;                        // whether the numbers below hold
    bool internal = false;                      // the second gear is a ring
    bool rack = false;                          // the second is a rack
    double centre = 0;                          // mm, between the axes; to a rack's reference line
    double working_angle = 0;                   // transverse pressure angle at this centre distance, rad
    double first_radius = 0, second_radius = 0; // working pitch circles, mm; a rack has none
    double first_string = 0, second_string = 0; // from either base circle along the line of action to the
                                                // pitch point, mm
    double contact_from = 0, contact_to = 0;    // path of contact
    double base_pitch = 0;
    double contact_ratio = 0, overlap_ratio = 0;
    double tip_clearance = 0; // the smaller one of both, tip to root, mm
    double backlash = 0;      // circumferential, on the working pitch circles, mm
    // At the centre distance asked, the profile shift of the second gear (with a rack: of the gear) that
    // leaves no backlash but the thinning, ISO 21771; none where it follows anyway.
    std::optional<double> closing_shift;
    double ratio = 0; // z2/z1; the second turns the other way unless it is a ring. None with a rack
    // rad, of the second gear when the first has turned by `first`, both seen along the first one's axis, the
    // second's centre in the direction of angle 0 (external) or π (a ring).
    double second_turn(double first) const;
    double second_phase = 0;
    // How far a rack has moved when the gear has turned by `first` (rad), mm, the way the gear's teeth go at
    // the pitch point. At 0 the middle of a tooth lies in the gear's space at angle 0.
    double rack_travel(double first) const { return first * first_radius; }

    bool runs() const;
};

// Without a centre distance that of no backlash but the thinning asked for. `width` (mm): common face width,
// for the overlap of helical teeth.
GearMesh mesh_of(const ResolvedGear& first, const ResolvedGear& second, std::optional<Length> centre = {},
                 double width = 0);
// A rack's pitch line always runs on the gear's pitch circle; what its distance changes is the backlash.
GearMesh mesh_of(const ResolvedGear& gear, const ResolvedRack& rack, std::optional<Length> centre = {},
                 double width = 0);

// Where flanks touch when the first gear, driving, has turned so far (rad).
std::vector<double> contact_places(const ResolvedGear& first, const GearMesh& mesh, double turned);

// Specific sliding of the first and the second gear at a place of the path of contact: sliding over rolling
// speed.
struct Sliding {
    double first = 0, second = 0;
};
Sliding sliding_at(const GearMesh& mesh, double place);

// Tooth counts whose ratio z2/z1 lies within a part `tolerance` of the wanted one; those without a common
// factor (every tooth meets every other, "hunting") first, then by error, then by size. At most `most`.
struct RatioChoice {
    int first = 0, second = 0;
    double error = 0; // relative
    bool hunting = false;
};
std::vector<RatioChoice> teeth_for_ratio(double ratio, double tolerance, int least, int largest,
                                         std::size_t most);

} // namespace whorl
