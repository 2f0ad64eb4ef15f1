// The wall of a silhouette, given by its outline at every height: a circle, or N scallops and the ridges between
// them.
//
// At the height z the silhouette has the radius R and the scallops are d deep. A scallop is the circle through two
// neighbouring points on R and one at r = R − d midway between them, α = π/N from either. In polar coordinates about
// its middle it is the root nearer to the axis of
//
//   A·ρ² + B·ρ·cos φ + C = 0,   A = r − R·cos α,  B = R² − r²,  C = −r·R·(R − r·cos α)
//   ρ = −2C/(B·cos φ + √(B²·cos²φ − 4·A·C))
//
// which is the circle about the axis where d = 0 and a straight line where A = 0: flutes fade out where the curves
// meet, with nothing special about it. A scallop of that kind is a function of φ as long as r/R is more than
// (1 − sin α)/cos α, where it meets the ridges radially. Ridges are sharp, or round: from the angle `contact` on
// the arc that touches both neighbours, its centre on the ridge's own radius.
// The outline turns with the height by `twist` between `from` and `to`; below and above it stands still.
// Units: mm, rad.
#pragma once

#include "form/silhouette/radius_curve.hpp"

#include <memory>

namespace whorl {

struct Flutes {
    int count = 8;     // 3 to 60
    RadiusCurve depth; // from `from` to `to`, none at both
    double from = 0, to = 0;
    double twist = 0;   // rad per mm
    double start = 0;   // θ of a scallop's middle at `from`
    double contact = 0; // from a scallop's middle to where the ridge's round begins; π/N: sharp
};

class ShapedWall {
public:
    explicit ShapedWall(RadiusCurve outer) : outer_(std::move(outer)), widest_(outer_.largest().value) {}
    ShapedWall(RadiusCurve outer, Flutes flutes) : ShapedWall(std::move(outer)) {
        flutes_ = std::move(flutes);
    }

    const RadiusCurve& outer() const { return outer_; }
    const Flutes* flutes() const { return flutes_ ? &*flutes_ : nullptr; }
    bool fluted(double z) const { return flutes_ && z > flutes_->from && z < flutes_->to; }
    double half_angle() const; // π/N
    // How far the outline has turned at a height, and by how much per mm there.
    double turned(double z) const;
    double twist(double z) const { return fluted(z) ? flutes_->twist : 0; }
    double widest() const { return widest_; } // the silhouette's largest radius
    double least_radius(double z) const;      // in the middle of a scallop
    double ridge_radius(double z) const; // over the ridges, less than the silhouette's where they are round
    // ½∮ρ² dφ, mm²; and what the wall encloses between two heights, mm³.
    double area(double z) const;
    double volume(double z0, double z1) const;
    // Where anything changes its course between two heights, these among them.
    std::vector<double> breaks(double z0, double z1) const;

private:
    RadiusCurve outer_;
    std::optional<Flutes> flutes_;
    double widest_ = 0;
};

// A part of a wall between two heights, from one φ to another, φ = θ − turned(z): within one scallop or one ridge, or
// where there are no flutes any.
struct ShapedPatch {
    std::shared_ptr<const ShapedWall> wall;
    double from = 0, to = 0; // φ
    double z0 = 0, z1 = 0;

    double middle() const { return (from + to) / 2; }
    double turned(double z) const { return wall->turned(z); }
    bool is_turned() const; // no flutes: a surface of revolution
    double radius(double phi, double z) const;
    struct Slopes {
        double radius = 0, by_phi = 0, by_z = 0; // at a constant φ
    };
    Slopes slopes(double phi, double z) const;
    // By the height at a φ, and around at a height: the radius; θ is φ + turned.
    Jet up(double z, double phi) const;
    Jet around(double phi, double z) const;
};

// The flutes' limits at a height: the deepest scallop that still leaves the ridges radially.
double deepest_scallop(double radius, int count);
// Where a ridge's round of that radius begins, for the outline of R and d; π/N where it is none.
double contact_angle(double radius, double depth, int count, double round);
// The radius of the round that begins there.
double round_radius(double radius, double depth, int count, double contact);

} // namespace whorl
