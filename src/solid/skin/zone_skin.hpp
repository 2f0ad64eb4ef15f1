// The lateral skin of one zone, in two steps: first its rims at both ends, then, once the rims are joined to
// the neighbours', the faces between them. Internal to the solid floor.
#pragma once

#include "model/resolve.hpp"
#include "solid/skin/rim.hpp"

#include <memory>

namespace whorl::solid {

class ZoneSkin {
public:
    virtual ~ZoneSkin() = default;
    virtual Rim near_rim() const = 0;
    virtual Rim far_rim() const = 0;
    virtual void add_faces(Skin& skin, const RimEdges& near_rim, const RimEdges& far_rim) const = 0;
};

// Throws CannotMake if the ends don't fit in the zone's length.
std::unique_ptr<ZoneSkin> plain_zone_skin(const ResolvedZone& zone, std::size_t index);
std::unique_ptr<ZoneSkin> prism_zone_skin(const ResolvedZone& zone, std::size_t index);
std::unique_ptr<ZoneSkin> keyed_zone_skin(const ResolvedZone& zone, std::size_t index);
std::unique_ptr<ZoneSkin> knurl_zone_skin(const ResolvedZone& zone, std::size_t index);
std::unique_ptr<ZoneSkin> drum_zone_skin(const ResolvedZone& zone, std::size_t index);
std::unique_ptr<ZoneSkin> silhouette_zone_skin(const ResolvedZone& zone, std::size_t index);
std::unique_ptr<ZoneSkin> thread_zone_skin(const ResolvedZone& zone, std::size_t index);

// A rounded end by itself, mm: an arc turned about the axis, from the circle it stands on (at z = base) to its
// tip: a sphere's part, or where the arc's centre runs around the axis a torus'. Radii in a bore are negative.
struct Dome {
    double tip = 0, base = 0; // z
    double tip_radius = 0, base_radius = 0;
    double radius = 0; // of the arc
    double middle = 0; // radius at which its centre runs
};
std::unique_ptr<ZoneSkin> dome_skin(const Dome& dome, std::size_t index);

// The length (mm) a threaded zone's ends take; 0 if its section can't be swept anyway.
double thread_zone_need(const ResolvedZone& zone);

} // namespace whorl::solid
