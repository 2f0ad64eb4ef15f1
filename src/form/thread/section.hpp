// The generating section of a thread: one groove and one crest in the axial plane, made of straight lines and
// arcs, that the screw motion sweeps.
//
//        A ────╮              z and r in mm. z runs along the axis from the groove's middle, r from the axis.
//               ╲             Internal threads have their crest at the smaller radius.
//                ( root       The crest from B to the next A is always a little flat: a rounded crest is cut
//               ╱             at a thousandth of the pitch, 2e-6 of the pitch below its top.
//        B ────╯
#pragma once

#include <vector>

namespace whorl {

enum class Hand { right, left };
enum class Side { external, internal };

// How the section goes on from this point to the next: straight, or on an arc that rises or falls all the
// way.
struct GroovePoint {
    double z = 0, r = 0;
    double arc_radius = 0; // 0: straight
    double centre_z = 0, centre_r = 0;
};

struct ThreadSection {
    double pitch = 0;
    double crest_radius = 0;
    double pitch_radius = 0;
    double root_radius = 0;
    double crest_flat = 0; // axial width; ≤ 0 when the groove is wider than the pitch
    double root_flat = 0;
    double flank_half_angle = 0; // between flank and the plane square to the axis; of the lower flank
    double other_half_angle = 0; // of the upper flank, where the profile is not symmetric
    int starts = 1;
    Hand hand = Hand::right;
    Side side = Side::external;
    double start_angle = 0; // rad
    double taper = 0; // dr per mm of z (R, NPT: away from the small end); radii above hold at the gauge plane
    std::vector<GroovePoint> groove; // from A to B, z rising; empty when not sweepable

    double depth() const {
        return side == Side::external ? crest_radius - root_radius : root_radius - crest_radius;
    }
    double lead() const { return pitch * starts; }
    double groove_width() const { return pitch - crest_flat; }
    // A section that can be swept: a crest and a root of at least one thousandth of the pitch, a core left.
    bool sweepable() const { return !groove.empty(); }
};

// A corner of a profile before rounding; `height` is the radius (external) or minus the radius (internal).
struct ProfileCorner {
    double z = 0, height = 0;
    double rounding = 0; // radius of the arc that replaces the corner, 0: sharp
};

// The groove of a profile whose corners repeat with the pitch, in order of z. Corners are rounded by tangent
// arcs, arcs are cut where they turn from falling to rising, and a crest without a flat gets its little one.
// Returns an empty list if roundings overlap or if the profile overhangs itself.
std::vector<GroovePoint> groove_of(const std::vector<ProfileCorner>& corners, double pitch, Side side);

// A straight piece or an arc of a profile; heights as above. An arc's highest or lowest point may be one of
// its ends but does not lie between them.
struct ProfilePoint {
    double z = 0, height = 0;
};
struct ProfilePiece {
    ProfilePoint from, to;
    double radius = 0; // 0: straight
    ProfilePoint centre{};
};

// The groove of one pitch of a profile given piece by piece, in order of z. Returns an empty list if a piece
// stands upright or runs backwards.
std::vector<GroovePoint> groove_of(const std::vector<ProfilePiece>& pieces, double pitch, Side side);

// The groove seen from the other end.
std::vector<GroovePoint> mirrored(const std::vector<GroovePoint>& groove);

// Radius of the section's groove at z from its middle (within half a pitch); the crest's outside of the
// groove.
double groove_radius(const ThreadSection& section, double z);

// The groove as a polyline within `chord` (mm) of it, for drawing: z and r.
std::vector<GroovePoint> groove_polyline(const ThreadSection& section, double chord);

} // namespace whorl
