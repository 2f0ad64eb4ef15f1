// Disc cams: what is asked, and the lobe that follows from it.
//
//   CamSpec --resolve_cam()--> ResolvedCam (motion, outline in closed form, values with sources)
//
// Seen from the far end, the cam turns counter-clockwise by θ while its follower's reference point, the
// centre of its roller or its knife's edge, stands at F(θ) in the plane: with the prime radius rp = r + ρ,
// the offset e and the lift s,
//
//   translating   F = (√(rp² − e²) + s, −e)
//   swinging      F = (L·sin ψ, L·cos ψ − C),  ψ = ψ0 + s/L,  cos ψ0 = (L² + C² − rp²)/(2·L·C)
//
// with its pivot at (0, −C) and the arm L (the opposite arm of a rocker at −ψ); the lift of a swinging
// follower is measured along the arc of its roller's centre. In the cam, the pitch curve is P = F·e^{−iθ} and,
// T being its tangent,
//
//   profile  Q = P + i·ρ·T/|T|  (inwards)          flat follower  Q = (r + s − i·s')·e^{−iθ}
//
// A positive offset lies on the side that makes the pressure angle of the rise smaller: for a translating
// follower tan φ = (s' − e)/(√(rp² − e²) + s). A convex pitch curve of radius ≤ ρ is undercut; so is a flat
// follower's profile where r + s + s'' ≤ 0. Where the speed jumps up, the roller rests on an arc about its
// own centre; where it jumps down, no profile can hold it: there the motion is rounded (corners.hpp) so that 1 mm
// is left of the profile's radius. A cam that turns clockwise is the mirror image.
// (Rothbart, Cam Design Handbook, chapter 3; Norton, Design of Machinery, chapter 8.)
#pragma once

#include "form/cam/forces.hpp"
#include "form/resolved_value.hpp"
#include "form/tooth/transverse_curve.hpp"
#include "form/written.hpp"

#include <numbers>
#include <string_view>

namespace whorl {

enum class FollowerKind { roller, knife, flat, mushroom };
std::string_view word(FollowerKind kind);

struct CamSpec {
    Timing timing;
    Length base_radius = mm(20); // of the profile
    FollowerKind follower = FollowerKind::roller;
    Length size = mm(10);  // roller: its diameter; mushroom: the radius of its face
    Length offset = mm(0); // of a translating follower
    std::optional<Length> arm,
        centre; // both or neither: a swinging follower, pivot to roller and to the cam's axis
    bool clockwise = false;
    double at = 0;   // rad: where on its shaft the timing begins
    double rpm = 60; // for speeds and accelerations
    FollowerLoad load;
    // A closed track instead of an open cam: a groove for the roller, sunk into the near face of a disc of this
    // diameter. It holds the roller both ways, between the profile and an outer wall 2·ρ on.
    std::optional<Length> disc;
    Length groove_depth = mm(5);
    // Of a pair for a positive drive: how far the centres of both rollers (the faces, the edges) are apart.
    // In a designation with a timing it asks for the second lobe; of a second lobe the timing is that of the
    // first.
    std::optional<Length> conjugate;
    bool held = false;     // of a first lobe: a second one holds its follower on
    bool opposite = false; // of a second lobe: that arm stands on the other side of the line of centres
    bool swings() const { return arm.has_value(); }
    Held held_by() const {
        return disc ? Held::by_other_wall : held || conjugate ? Held::by_second_lobe : Held::open;
    }
    friend bool operator==(const CamSpec&, const CamSpec&) = default;
};

// A part of the outline: its curve stands turned by `turned` about the axis, in rising order all around.
struct LobeCurve {
    TransverseCurve curve;
    double turned = 0;        // rad, `at` included
    double theta = 0, to = 0; // of the cam, where the follower touches it, from begin to end, rad
    bool dwell = false;
};

// Why an outline can't be made, and at which angle of the cam (rad) it shows.
enum class CamTrouble {
    none,
    not_closed,
    past_full_turn,
    no_reach,
    jammed,
    undercut,
    speed_drops,
    cut_away,
    too_small,
    wall_undercut, // of a groove: its outer wall is hollow more sharply than the roller
    no_rim         // of a groove: it reaches the disc's edge
};

struct ResolvedCam {
    CamSpec spec;
    Motion motion;
    double prime_radius = 0;     // of the pitch curve's base circle, mm
    std::vector<double> corners; // that were rounded in the motion, rad
    double corner_width = 0;     // rad to either side, at the widest
    CamTrouble trouble = CamTrouble::none;
    double trouble_at = 0;                                     // rad
    std::vector<LobeCurve> outline;                            // empty in trouble
    std::vector<LobeCurve> outer_wall;                         // of a groove
    double outer_reach = 0;                                    // of that wall from the axis at most, mm
    double least_radius = 0, largest_radius = 0;               // of the outline from the axis, mm
    double max_pressure_angle = 0, max_pressure_at = 0;        // rad
    double least_curvature_radius = 0, least_curvature_at = 0; // of the convex profile, mm; ≤ 0: undercut
    std::optional<double> least_hollow_radius;                 // mm
    double face_reach = 0;         // flat: how far the touching point wanders from the middle, mm
    std::optional<CamLoads> loads; // where a mass, a spring or a force is asked
    std::vector<ResolvedValue> values;
};

// Throws InputError for a value outside its range, with the limit. The width of the lobe (mm) for the
// pressure in its line; 0: that is not told.
ResolvedCam resolve_cam(const CamSpec& spec, double width = 0);

double roller_radius(const CamSpec& spec); // ρ, mm; 0: knife and flat
double prime_radius(const CamSpec& spec);  // mm

// Where the follower's reference point stands (mm, the cam's axis at the origin) when the cam has turned by
// θ, and where it touches then; by the motion's part. Of a flat follower the foot on its face.
struct FollowerPlace {
    TransversePoint centre, touches;
    TransversePoint normal;      // of length 1, square to both, away from the cam
    double pressure_angle = 0;   // rad, signed: positive where the rise pushes it aside
    double curvature_radius = 0; // of the profile there, mm: positive convex, negative hollow
};
FollowerPlace follower_at(const CamSpec& spec, const Motion& motion, double theta, std::size_t part);
FollowerPlace follower_at(const CamSpec& spec, const Motion& motion, double theta);

// The smallest base radius (mm) with which the pressure angle keeps within a limit (rad) and nothing is
// undercut; none if none up to 2 m does. Flat followers have no pressure angle worth the name: undercut
// decides.
std::optional<double> smallest_base_radius(const CamSpec& spec, double pressure_limit);
// The largest roller radius (mm) that leaves no undercut; none if not even a knife's edge does.
std::optional<double> largest_roller(const CamSpec& spec);

constexpr double usual_pressure_limit(bool swings) {
    return (swings ? 45 : 30) * std::numbers::pi / 180; // VDI 2142
}

// The second lobe of a conjugate pair: it falls as the first rises, so that a yoke with two followers
// opposite each other, `apart` between their reference points, touches both all around:
//
//   F2 = F − apart along the way, which is a translating follower on the other side (at + 180°) with the lift
//   −s, the offset −e and √(rp2² − e²) = apart − √(rp² − e²)
//
// Of a swinging follower it is the other arm of one rocker, as long, at the angle γ to the first: ψ2 = γ − ψ
// on the other side of the line of centres, with apart = 2·L·sin(γ/2).
//
// Throws InputError where nothing is left of the second lobe's base, and for a rocker wider than both arms.
CamSpec conjugate_of(const CamSpec& first, Length apart);
// With which the second lobe is as large as the first.
Length usual_apart(const CamSpec& first);
// With which a second lobe has this base radius (mm) instead of its own.
Length apart_with_base(const CamSpec& second, double base);

// Reading and writing cams.
//
//   cam r20: rise 10 in 120 cycloidal, dwell 60, return in 120 harmonic, dwell 60; roller 8; b10
//   cam r25: …; roller 10 offset 4; b8 at 90          cam r30: …; flat; b12 clockwise
//   cam r20: …; roller 8 swing 50 60; b10; 120 rpm    cam r20: …; knife; b6      cam r20: …; mushroom 60; b6
//   cam r20: …; roller 8; b10; groove 5 deep in d80   (a closed track in a disc's face)
//   cam r20: …; roller 8; b10; conjugate 60           (a pair, the rollers 60 apart; `conjugate` alone: as usual)
//   cam conjugate 60; b10                             (the second lobe of one, as a zone behind the first)
//   cam r20: …; roller 8; b10; mass 200 spring 0.8 preload 5; 300 rpm            (g, N/mm, N at lift 0)
using CamDesignation = Written<CamSpec>;
bool is_cam(std::string_view text);
// Throws InputError with the place of what was not understood and what would be.
CamDesignation parse_cam(std::string_view text);
// In standard form; parse_cam() of the result gives the same spec.
std::string write_cam(const CamSpec& spec, std::optional<Length> length = {},
                      LengthUnit unit = LengthUnit::millimetre);

} // namespace whorl
