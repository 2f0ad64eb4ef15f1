// A zone's flat side and what is sunk into it: webs, grooves. Internal to the solid floor.
#pragma once

#include "solid/skin/skin.hpp"

#include <optional>

namespace whorl::solid {

// The flat face of a zone that lies at z and looks up (to the far end) or down; none where there are several, as
// where teeth are cut by a shoulder.
std::optional<std::size_t> flat_side(const Skin& skin, int zone, double z, bool up);

// How near to the axis a boundary comes, how far from it all of them go; mm.
double nearest(const Skin& skin, const std::vector<EdgeUse>& loop);
double farthest(const Skin& skin, const std::vector<std::vector<EdgeUse>>& loops);

// The join that all boundaries of a face share, made if there is none: they are sampled at each other's corners,
// see Join. Whoever adds a boundary to the plane adds its corners' angles.
int shared_join(Skin& skin, std::size_t face);

// Flat faces of a zone in a plane: the outer boundary and holes, all in rising θ. Gives its index.
std::size_t add_flat_face(Skin& skin, FaceRole role, int zone, bool up, double z,
                          std::vector<std::vector<EdgeUse>> rising);

} // namespace whorl::solid
