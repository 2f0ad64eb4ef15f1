// Drum cams: a track around a drum, sunk as a groove or raised as a rib, in which a roller goes along the
// axis.
//
//   DrumSpec --resolve_drum()--> ResolvedDrum (motion, levels, values with sources); DrumWall: its walls in
//   closed form
//
// Seen from the far end, the drum turns counter-clockwise by θ while the roller, its axis pointing at the
// drum's, stands at z = z0 + s(θ). On the drum that is the angle t = −θ (clockwise: θ), where the track's
// middle runs along g(t) with the slope g' = ds/dt. The groove's walls are what a roller of radius ρ leaves:
// at the distance h along the roller's axis it touches the wall on the side σ = ±1 with its normal (−g'·e_θ +
// h·e_z)/√(h² + g'²), so that there
//
//   r² = h² + ρ²·g'²/(h² + g'²)   θ = t − atan(σ·ρ·g'/(h·√(h² + g'²)))   z = z0 + g + σ·ρ·h/√(h² + g'²)
//
// and h² = ((r² − g'²) + √((r² − g'²)² + 4·g'²·(r² − ρ²)))/2 for a given r. Walls that are sunk straight in,
// by a cutter smaller than the groove or on a drawing, are offset in the developed surface at the drum's
// radius R instead, and are the same at every r: θ = t − σ·ρ·g'/(R·√(R² + g'²)), z = z0 + g + σ·ρ·R/√(R² +
// g'²). A rib has such walls, ρ being half its thickness. (Rothbart, Cam Design Handbook, chapter 13; Litvin
// and Fuentes, Gear Geometry and Applied Theory, chapter 6.)
//
// A follower that swings carries its roller on an arm L about a pivot beside the drum; the roller's axis keeps
// its direction, and points at the drum's only in the middle of the stroke, where the arm stands square to it.
// With the lift s along its arc from there, α = (s − s_m)/L, the roller stands beside the axis by y = −L·(1 −
// cos α), at z = z_m + L·sin α, and with z' for g' and H = h + y' its walls are those above:
//
//   r² = h² + (y + c)², c = −σ·ρ·z'/√(H² + z'²)   θ = t + atan((y + c)/h)   z = z + σ·ρ·H/√(H² + z'²)
//
// (h by Newton's steps in Taylor arithmetic). The pressure angle lies between the contact's normal (−z', H) and the arm's
// way (−sin α, cos α): φ = atan(z'/H) − α. It is taken on the drum's diameter.
//
// The track closes by construction: its length along the drum is π·d, or as many times that as its timing has
// turns. A track of several turns crosses itself (track_walls.hpp).
//
// Where the slope jumps, as at the corners of a polygon, no roller goes round the inner wall: corners are
// rounded or blended in the surface developed on the drum's diameter, or kept. On a groove's bottom, at R·k, bends are
// sharper by k²; what is usual there is ρ + 1 mm. Kept: then the inner wall has an edge, and
// the outer one goes round the roller where it turns the corner.
#pragma once

#include "form/cam/corners.hpp"
#include "form/cam/forces.hpp"
#include "form/gradient.hpp"
#include "form/jet.hpp"
#include "form/resolved_value.hpp"
#include "form/written.hpp"

#include <numbers>
#include <string_view>

namespace whorl {

enum class WallKind { envelope, straight };
enum class TrackKind {
    groove, // sunk, for a roller
    rib,    // raised, between two rollers
    line    // scored: the track's middle as edges in the drum's surface, for marking; no width, no depth
};
std::string_view word(TrackKind kind);

struct DrumSpec {
    Timing timing;
    Length diameter = mm(72);
    Length width = mm(8); // of the groove, which is the roller's diameter; of a rib its thickness
    Length depth = mm(6); // of the groove, or the height of the rib
    TrackKind track = TrackKind::groove;
    WallKind walls = WallKind::envelope;
    std::optional<Length>
        from; // of the track's middle at lift 0 from the drum's near end; none: in the middle
    std::optional<Length>
        corner; // radius that corners are rounded to, on the drum's Ø; none: width/2 + 1 mm at the bottom; a line keeps them
    CornerKind corners = CornerKind::rounded;
    std::optional<Length> arm; // of a follower that swings; none: it moves along the axis
    bool clockwise = false;    // seen from the far end
    double at = 0;             // rad: where on the drum the timing begins
    double rpm = 60;
    FollowerLoad load;
    friend bool operator==(const DrumSpec&, const DrumSpec&) = default;
};

constexpr int most_turns = 40;
// Above which a roller in a track is pressed aside more than along.
constexpr double usual_track_limit = std::numbers::pi / 4;

// Below which a track's crossings are too flat: its walls would meet far beside them, in slivers.
constexpr double least_crossing = std::numbers::pi / 9;
// Above which a roller holds its way over a crossing; below it takes a longer follower.
constexpr double usual_crossing = std::numbers::pi / 3;

enum class DrumTrouble {
    none,
    not_closed,
    past_full_turn,
    no_room,
    too_steep,
    undercut,
    too_deep,
    crossing_flat,    // or two turns run beside each other without room for a wall between them
    crossing_close,   // to the next one, or to a corner
    crossing_at_joint // a wall would be cut where its motion goes over into another formula
};

// Where a track of several turns meets itself.
struct TrackCrossing {
    double first = 0, second = 0; // rad of the timing, the first the smaller
    double z = 0;                 // mm
    double angle = 0;             // between its two ways, developed on the drum's diameter, rad
};

struct ResolvedDrum {
    DrumSpec spec;
    double length = 0;                   // of the zone, mm
    Motion motion;                       // corners rounded
    double radius = 0, other_radius = 0; // of the drum, and of the groove's bottom or the rib's top, mm
    double half_width = 0;               // ρ, mm
    double zero = 0;                     // z of the track's middle at lift 0, from the near end, mm
    double corner_radius = 0;    // that corners were rounded to, on the drum's Ø, mm; 0: there were none
    std::vector<double> corners; // where, rad of the timing
    std::vector<TrackCrossing> crossings;
    DrumTrouble trouble = DrumTrouble::none;
    double trouble_at = 0;                              // rad of the timing
    double max_pressure_angle = 0, max_pressure_at = 0; // rad
    double least_curvature_radius = 0;  // of the track's middle, developed at the drum's radius, mm
    double near_wall = 0, far_wall = 0; // what is left beside the track at either end, mm
    double wall_difference = 0;         // mm: how far straight walls would be off the roller's at most
    std::optional<CamLoads> loads;
    std::vector<ResolvedValue> values;
    bool is_rib() const { return spec.track == TrackKind::rib; }
    bool is_line() const { return spec.track == TrackKind::line; }
    int turns() const { return spec.timing.turns; }
    bool keeps_corners() const { return spec.corners == CornerKind::sharp; }
    // How long a follower must be so that one wall at least guides it over the flattest crossing, mm.
    double crossing_opening() const;
    double usual_corner() const; // mm, on the drum's Ø
    double inner_scale() const; // of the developed surface on the smaller of both levels, to that on the drum
};

// Throws InputError for a value outside its range, with the limit.
ResolvedDrum resolve_drum(const DrumSpec& spec, Length length);

// Where the roller stands, by the outline's angle t: beside the plane through the drum's axis, and along it, mm;
// and their derivatives by t.
template<class Number>
struct PathOf {
    Number y, z, dy, dz;
};
using TrackPath = PathOf<Jet>;
TrackPath path_at(const ResolvedDrum& drum, std::size_t part, double t);
// The track's middle on the drum at the timing's angle: around (rad, `at` left out) and along (mm); and the
// pressure angle there (rad).
struct TrackPlace {
    double around = 0, z = 0, pressure_angle = 0;
    double slope =
        0; // of the developed track to the way around, rad; what the pressure angle is without an arm
};
TrackPlace middle_at(const ResolvedDrum& drum, double theta);
TrackPlace middle_at(const ResolvedDrum& drum, double theta, std::size_t part);

// One wall between two angles of the outline, with one formula.
template<class Number>
struct WallOf {
    Number theta, z; // rad, mm
};
using WallJet = WallOf<Jet>;
using WallSlopes = WallOf<Gradient>; // by t and by r
// Where a wall ends on another one, as its own t over the radius: a Chebyshev sum.
struct WallTrim {
    static constexpr std::size_t count = 14;
    double inner = 0, outer = 0; // mm
    std::array<double, count> c{};
    template<class Number>
    Number at(const Number& r) const; // a jet's, a gradient's, or a plain one
};
class DrumWall {
public:
    // `side`: −1 near, +1 far. Angles t in rising order about the axis, of one part of the motion.
    DrumWall(const ResolvedDrum& drum, std::size_t part, double side, double from, double to);
    // Between trims, where there are any: t is its own parameter at the drum's radius, and scaled to the room
    // between them elsewhere.
    DrumWall(const ResolvedDrum& drum, std::size_t part, double side, double from, double to,
             std::optional<WallTrim> begin, std::optional<WallTrim> end);
    // Round the roller where it turns a corner that is kept, from one part's wall to the next one's.
    static DrumWall around_corner(const ResolvedDrum& drum, std::size_t before, std::size_t after,
                                  double side, double t_before, double t_after);

    double from() const { return from_; }
    double to() const { return to_; }
    double inner() const { return std::min(radius_, other_); }
    double outer() const { return std::max(radius_, other_); }
    // Along it at a radius, and across it at an angle t, with derivatives.
    WallJet along(double t, double r) const;
    WallJet across(double t, double r) const;
    WallSlopes point(double t, double r) const;     // … both ways at once
    double parameter(double theta, double r) const; // t at which it stands at this angle, within its own turn
    double bulge() const; // how far its middle is off a straight line from edge to edge at most, mm

private:
    template<class Number>
    WallOf<Number> at(const Number& t, const PathOf<Number>& path, const Number& r) const;
    template<class Number>
    WallOf<Number> at_own(const Number& t, const Number& r) const; // by the formula's own t

    std::array<double, 2> ends_at(double r) const; // t at which it begins and ends

    MotionPart part_;
    double arm_, middle_; // of a swinging follower, else 0; the lift in the middle of its stroke
    double way_, side_, from_, to_, rho_, zero_, radius_, other_, at_;
    WallKind kind_;
    std::optional<WallTrim> begin_, end_;
    // … at the smaller and the larger radius, where edges run
    std::array<std::array<double, 2>, 2> ends_{};
    std::optional<std::array<TrackPath, 2>> corner_; // the roller's place and slopes on either side of it
    double begin_turn_ = 0;                          // … and where it stands
};

// The angles t, rising over the whole timing, between which walls have one formula and run no further than 85°.
struct WallStretch {
    std::size_t part = 0;
    double from = 0, to = 0;
};
std::vector<WallStretch> wall_stretches(const ResolvedDrum& drum);

// Reading and writing drum cams.
//
//   drum cam d72 b50: rise 20 in 150 cycloidal, dwell 30, return in 150, dwell; groove 8 wide 6 deep
//   drum cam d72 b50: rise 20 in 90 constant, dwell 90, return in 90 constant, dwell; groove 8 wide 6 deep
//   corners 6
//   drum cam d72 b50: …; groove 8 wide 6 deep swing 60        (on an arm of 60)
//   drum cam d72 b50: …; line              (only scored, corners sharp)
//   drum cam d72 b50: …; groove 8 wide 6 deep corners sharp   (or blended)
//   drum cam d30 b90: rise 60 in 1440 constant, return in 1440 constant; groove 4 wide 3 deep; 8 turns
//   drum cam d60 b40: …; rib 5 wide 4 high; straight walls from 12 at 90 clockwise; 30 rpm
using DrumDesignation = Written<DrumSpec>;
bool is_drum(std::string_view text);
// Throws InputError with the place of what was not understood and what would be.
DrumDesignation parse_drum(std::string_view text);
// In standard form; parse_drum() of the result gives the same spec.
std::string write_drum(const DrumSpec& spec, std::optional<Length> length,
                       LengthUnit unit = LengthUnit::millimetre);

} // namespace whorl
