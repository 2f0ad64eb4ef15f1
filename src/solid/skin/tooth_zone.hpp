// A toothed zone: the exact outline pushed along the axis, or screwed along it. A cam's lobe is one, too: an
// outline that comes once around. Internal to the solid floor.
//
// Its rim is not a function of θ, since undercut teeth overhang, so it joins its neighbours in its own way: a
// neighbour of the same outline shares all edges; one that stays inside the roots or outside the tips leaves
// one flat face between the two rims; a round one in between cuts the outline into shoulders and tooth ends.
#pragma once

#include "model/resolve.hpp"
#include "solid/skin/rim.hpp"

namespace whorl::solid {

// One end's outline in rising order: the edges of each segment, and the corner each begins at.
struct ToothedRim {
    std::vector<std::vector<int>> edges;
    std::vector<int> corner;
    std::vector<double> theta; // of the corners, unrolled
};

class ToothZone {
public:
    ToothZone(const ResolvedZone& zone, std::size_t index);

    // Heights are radii, in a bore minus the radius; teeth stand up from the root.
    double root() const { return sign_ * root_radius_; }
    double tip() const { return sign_ * tip_radius_; }
    int zone() const { return index_; }
    bool
    meets_as_one(const ToothZone& below) const; // whether `below` ends in the outline that this begins with

    // Makes corners and edges. Flanks are cut where they cross the circle of a neighbour, arcs that lie on it
    // where that has its own corners.
    ToothedRim make_rim(Skin& skin, bool far, int join, const Rim* circle = nullptr) const;
    void add_faces(Skin& skin, const ToothedRim& near, const ToothedRim& far) const;

    // The segments of one tooth: root arc, flank curves up, tip arc, flank curves down.
    struct Segment {
        ToothCurve curve;
        double from = 0, to = 0; // parameter in rising order of the outline
        FaceRole role = FaceRole::flank;
    };
    std::size_t segments_per_tooth() const { return pattern_.size(); }
    bool is_lobe() const { return teeth_ == 1; }

private:
    Segment segment(std::size_t i) const; // of tooth i / segments_per_tooth()
    double z(bool far) const { return far ? z1_ : z0_; }

    void add_teeth(const ResolvedZone& zone);
    void add_lobe(const ResolvedCam& cam);

    int index_, teeth_ = 1; // how often the pattern comes around
    double sign_, root_radius_ = 0, tip_radius_ = 0, z0_, z1_;
    std::vector<Segment> pattern_;
};

// What stands on one side of a plane between zones.
struct PlaneSide {
    const Rim* rim = nullptr; // one of the two, or neither where the chain ends
    const ToothZone* teeth = nullptr;
    int zone = -1;
};
struct JoinedPlane {
    std::optional<RimEdges> below_rim, above_rim;
    std::optional<ToothedRim> below_teeth, above_teeth;
};
// As join_rims, for a plane where at least one side is toothed. Throws CannotMake for a rim that crosses the
// teeth and is not a circle.
JoinedPlane join_teeth(Skin& skin, double z, const PlaneSide& below, const PlaneSide& above, bool open);

// All edges of a rim as one loop in rising θ, for a bore's mouth.
RimEdges flattened(const ToothedRim& rim);

} // namespace whorl::solid
