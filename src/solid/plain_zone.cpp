// A plain round zone: a cylinder, with a cone at either end if it is chamfered.
#include "solid/build_skin.hpp"
#include "solid/zone_skin.hpp"

#include "quantity/expression.hpp"

#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

constexpr double full_turn = 2 * std::numbers::pi;

struct Cone {
    double end_radius = 0; // at the end plane
    double height = 0;     // 0: the end is flat
};

Cone cone_of(const ResolvedEnd& end, double radius) {
    if (end.kind != EndKind::chamfer) return {radius, 0};
    const double r = in_mm(end.diameter) / 2;
    if (r >= radius - 1e-4) return {radius, 0};
    return {r, (radius - r) / std::tan(in_rad(end.angle))};
}

class PlainZone final : public ZoneSkin {
public:
    PlainZone(const ResolvedZone& zone, std::size_t index)
        : index_(static_cast<int>(index)), radius_(in_mm(zone.diameter) / 2), z0_(in_mm(zone.start)),
          z1_(in_mm(zone.end())), near_(cone_of(zone.near_end, radius_)),
          far_(cone_of(zone.far_end, radius_)) {
        if (near_.height + far_.height > z1_ - z0_ - 1e-6)
            throw CannotMake("The chamfers of this zone need " + number_text(near_.height + far_.height, 3) +
                                 " mm but the zone is only " + number_text(z1_ - z0_, 3) +
                                 " mm long; make it longer or the chamfers smaller.",
                             index);
    }

    Rim near_rim() const override { return {{0, near_.end_radius}}; }
    Rim far_rim() const override { return {{0, far_.end_radius}}; }

    void add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const override {
        Level level{near.corner_at(0), near.path(0, full_turn), near_.end_radius, z0_};
        if (near_.height > 0)
            level = add_band(skin, level, circle(skin, z0_ + near_.height), FaceRole::chamfer);
        const Level top{far.corner_at(0), far.path(0, full_turn), far_.end_radius, z1_};
        if (far_.height > 0) {
            level = add_band(skin, level, circle(skin, z1_ - far_.height), FaceRole::plain);
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

    Level circle(Skin& skin, double z) const {
        skin.corners.push_back({0, radius_, z});
        const int c = static_cast<int>(skin.corners.size()) - 1;
        skin.edges.push_back({c, c, {0, radius_, z}, {full_turn, radius_, z}, -1});
        return {c, {{static_cast<int>(skin.edges.size()) - 1, true, 0}}, radius_, z};
    }

    // The face between two circles, cut open along the generator at θ = 0.
    Level add_band(Skin& skin, const Level& low, Level high, FaceRole role) const {
        skin.edges.push_back({low.corner, high.corner, {0, low.r, low.z}, {0, high.r, high.z}, -1});
        const int seam = static_cast<int>(skin.edges.size()) - 1;
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
    double radius_, z0_, z1_;
    Cone near_, far_;
};

} // namespace

std::unique_ptr<ZoneSkin> plain_zone_skin(const ResolvedZone& zone, std::size_t index) {
    return std::make_unique<PlainZone>(zone, index);
}

} // namespace whorl::solid
