// A plain round zone: a cylinder or a cone, with another cone at either end if it is chamfered or pointed.
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/skin/zone_skin.hpp"

#include "quantity/expression.hpp"

#include <cmath>

namespace whorl::solid {
namespace {

struct Cone {
    double end_height = 0;  // signed radius at the end plane
    double meet_height = 0; // and where the cone meets the zone's own surface
    double length = 0;      // 0: the end is flat
};

// `height` is the radius, or minus the radius in a bore, that the zone has at the end; `rise` its gain per mm
// inwards from there.
Cone cone_of(const ResolvedEnd& end, double height, double rise, std::size_t index) {
    const Cone flat{height, height, 0};
    if (end.kind != EndKind::chamfer) return flat;
    const double sign = height < 0 ? -1 : 1, r = sign * in_mm(end.diameter) / 2;
    // outside, a cone can only take material away; in a bore it may widen the mouth or close the bottom
    if (std::abs(r - height) < 1e-4 || (sign > 0 && r > height)) return flat;
    const double slant = (height > r ? 1 : -1) * std::tan(in_rad(end.angle));
    const double length = (height - r) / (slant - rise);
    if (!(length > 0))
        throw CannotMake(
            "The chamfer is more slender than this conical zone itself and never meets it; give it a "
            "larger angle to the axis.",
            index);
    return {r, height + rise * length, length};
}

class PlainZone final : public ZoneSkin {
public:
    PlainZone(const ResolvedZone& zone, std::size_t index)
        : index_(static_cast<int>(index)), sign_(zone.in_bore() ? -1 : 1),
          near_height_(sign_ * in_mm(zone.diameter) / 2), far_height_(sign_ * in_mm(zone.far_diameter) / 2),
          z0_(in_mm(zone.start)), z1_(in_mm(zone.end())), rise_((far_height_ - near_height_) / (z1_ - z0_)),
          near_(cone_of(zone.near_end, near_height_, rise_, index)),
          far_(cone_of(zone.far_end, far_height_, -rise_, index)) {
        if (near_.length + far_.length > z1_ - z0_ - 1e-6)
            throw CannotMake("The chamfers of this zone need " + number_text(near_.length + far_.length, 3) +
                                 " mm but the zone is only " + number_text(z1_ - z0_, 3) +
                                 " mm long; make it longer or the chamfers smaller.",
                             index);
    }

    Rim near_rim() const override { return {{0, near_.end_height}}; }
    Rim far_rim() const override { return {{0, far_.end_height}}; }

    void add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const override {
        Level level{near.corner_at(0), near.path(0, full_turn), near_.end_height, z0_};
        if (near_.length > 0)
            level =
                add_band(skin, level, circle(skin, near_.meet_height, z0_ + near_.length), FaceRole::chamfer);
        const Level top{far.corner_at(0), far.path(0, full_turn), far_.end_height, z1_};
        if (far_.length > 0) {
            level = add_band(skin, level, circle(skin, far_.meet_height, z1_ - far_.length), FaceRole::plain);
            add_band(skin, level, top, FaceRole::chamfer);
        } else {
            add_band(skin, level, top, FaceRole::plain);
        }
    }

private:
    // A circle around the axis: its corner at θ = 0 and its edges in rising θ.
    struct Level {
        int corner;
        std::vector<EdgeUse> edges;
        double r, z;
    };

    static Level circle(Skin& skin, double r, double z) {
        skin.corners.push_back({0, r, z});
        const int c = static_cast<int>(skin.corners.size()) - 1;
        return {c, {{add_straight(skin, c, {0, r, z}, c, {full_turn, r, z}), true, 0}}, r, z};
    }

    // The face between two circles, cut open along the generator at θ = 0.
    Level add_band(Skin& skin, const Level& low, Level high, FaceRole role) const {
        const int seam = add_straight(skin, low.corner, {0, low.r, low.z}, high.corner, {0, high.r, high.z});
        Face f;
        f.role = role;
        f.zone = index_;
        f.b = (high.r - low.r) / (high.z - low.z);
        f.a = low.r - f.b * low.z;
        std::vector<EdgeUse> loop = low.edges;
        loop.push_back({seam, true, 1});
        for (auto it = high.edges.rbegin(); it != high.edges.rend(); ++it)
            loop.push_back({it->edge, !it->forward, it->turn});
        loop.push_back({seam, false, 0});
        f.loops = {loop};
        skin.faces.push_back(std::move(f));
        return high;
    }

    int index_;
    double sign_, near_height_, far_height_, z0_, z1_, rise_;
    Cone near_, far_;
};

} // namespace

std::unique_ptr<ZoneSkin> plain_zone_skin(const ResolvedZone& zone, std::size_t index) {
    return std::make_unique<PlainZone>(zone, index);
}

} // namespace whorl::solid
