// Silhouettes: a zone whose outline is a curve through points, turned about the axis; with flutes that wind around it
// if they are asked; and the hollow inside one.
//
//   SilhouetteSpec --resolve_silhouette()--> ResolvedSilhouette (values with sources, the wall)
//
// Heights are counted along the axis from the zone's near end. The points' heights are stretched to the zone's length
// where that is another than theirs. A hollow has no points: it keeps a distance from the outside of the silhouette
// it lies in, in the axial plane: at the height z its radius is the least of f(s) − √(w² − (s − z)²) over the
// outside f, so that nothing is nearer than w. Of flutes both curves are taken inwards so, that of the silhouette
// and that of the scallops' middles, and joined by the same scallops. What wall that leaves in space is measured: from
// points of the inside to the nearest one of the outside, and w is mended until the least is what was asked, to 2 µm.
#pragma once

#include "form/resolved_value.hpp"
#include "form/silhouette/shaped_wall.hpp"
#include "form/written.hpp"
#include "quantity/expression.hpp"

#include <string>
#include <string_view>

namespace whorl {

constexpr int least_flutes = 3, most_flutes = 60, most_silhouette_points = 60;

struct FluteSpec {
    int count = 8;
    double depth = 4;               // mm, the largest: reached and left over a third of the height each
    std::vector<CurvePoint> depths; // or a curve through these, none at both ends; heights as said
    std::optional<double> from, to; // mm; none: the zone's ends
    double twist = 0;               // rad from `from` to `to`; right-hand
    double ridge = 0;               // radius of the ridges where the flutes are deepest; 0: sharp
    double turned = 0;              // rad, of a scallop's middle at `from`
    friend bool operator==(const FluteSpec&, const FluteSpec&) = default;
};

struct SilhouetteSpec {
    std::vector<CurvePoint> points{{0, 20, {}}, {30, 25, {}}, {60, 18, {}}}; // height and radius
    Course course = Course::spline;
    std::optional<FluteSpec> flutes;
    // A hollow instead: the wall it leaves, and its bottom.
    std::optional<double> wall;
    double bottom = 3;
    std::optional<double> dish; // radius of a ball that its bottom is; none: flat
    bool smooth = false;        // a hollow without flutes, whatever the outside has
    bool in_bore = false;
    friend bool operator==(const SilhouetteSpec&, const SilhouetteSpec&) = default;
};

struct ResolvedSilhouette {
    SilhouetteSpec spec;
    std::shared_ptr<const ShapedWall> wall;   // by the height along the piece
    double z0 = 0, z1 = 0;                    // of its zone
    double deepest = 0, deepest_possible = 0; // of flutes, where they come nearest to what is possible
    double ridge = 0;                         // radius of the ridges where the flutes are deepest
    double least_wall = 0, thickest_wall = 0, thinnest_at = 0; // of a hollow
    double body_from = 0; // where a hollow's wall begins: z0, or above its dish
    double contents = 0;  // of a hollow to its brim, mm³
    std::vector<ResolvedValue> values;
    // The radius at a height as it is seen from the side: over the ridges, and of a dish that of its ball.
    double outline(double z) const;
};

// Of a zone from z0 to z1 along its piece. Throws InputError with the limit: too few or too many points, heights that
// do not rise, a radius below 0.05 mm, a count, an angle or a depth out of range.
ResolvedSilhouette resolve_silhouette(const SilhouetteSpec& spec, double z0, double z1);
// A hollow from z0 to z1 in the silhouette `outside`.
ResolvedSilhouette resolve_hollow(const SilhouetteSpec& spec, const ResolvedSilhouette& outside, double z0,
                                  double z1);

// Half the flat that stays where a dish comes to the axis, for the radius at which the wall stands on it, mm.
double dish_tip(double radius);

// The distance in space from a point of the inside, by its height and φ, to the nearest of the outside, mm.
double wall_at(const std::shared_ptr<const ShapedWall>& outside,
               const std::shared_ptr<const ShapedWall>& inside, double phi, double z);

// "0:30 60:38 140:24:0 180:16": heights and radii, with the angle to the axis of the tangent where it is said.
// Each of them may be an expression without blanks. Throws InputError with the place in the text.
std::vector<CurvePoint> parse_points(std::string_view text, LengthUnit unit = LengthUnit::millimetre,
                                     const Names& names = {});
std::string write_points(const std::vector<CurvePoint>& points, LengthUnit unit = LengthUnit::millimetre);

// Reading and writing silhouettes, mm unless `in` stands last:
//
//   silhouette 0:30 60:38 140:24:0 180:16            a curve through points, height:radius or height:radius:angle
//   silhouette 0:30 60:38 180:16 monotone x 200      stretched to another length
//   silhouette 0:38 200:38, 8 flutes 4 deep, twist 60, from 20 to 170, ridges 1.5
//   silhouette in 0:30 60:38                         in a bore
//   hollow 1.5 bottom 3                              in a silhouette; `smooth`: without its flutes; `dish 60`: its
//                                                    bottom part of a ball
// and a silhouette with `wall 1.5 bottom 3` is hollow at once: a piece of two zones.
using SilhouetteDesignation = Written<SilhouetteSpec>;
bool is_silhouette(std::string_view text);
// Throws InputError with the place of what was not understood and what would be.
// What stands before `usual_to` is usual, and may be said otherwise behind it.
SilhouetteDesignation parse_silhouette(std::string_view text, std::size_t usual_to = 0);
// In standard form; parse_silhouette() of the result gives the same spec.
std::string write_silhouette(const SilhouetteSpec& spec, std::optional<Length> length = {},
                             LengthUnit unit = LengthUnit::millimetre);

} // namespace whorl
