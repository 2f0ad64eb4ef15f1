#include "solid/build_skin.hpp"

#include "solid/zone_skin.hpp"

namespace whorl::solid {

Skin build_skin(const ResolvedPiece& piece) {
    std::vector<std::unique_ptr<ZoneSkin>> zones;
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        zones.push_back(piece.zones[i].thread ? thread_zone_skin(piece.zones[i], i)
                                              : plain_zone_skin(piece.zones[i], i));
    Skin skin;
    const std::size_t n = zones.size();
    std::vector<std::optional<RimEdges>> near(n), far(n);
    for (std::size_t plane = 0; plane <= n; ++plane) {
        const bool has_below = plane > 0, has_above = plane < n;
        const Rim below = has_below ? zones[plane - 1]->far_rim() : Rim{};
        const Rim above = has_above ? zones[plane]->near_rim() : Rim{};
        const double z = in_mm(has_above ? piece.zones[plane].start : piece.zones[plane - 1].end());
        Joined joined = join_rims(skin, z, has_below ? &below : nullptr, static_cast<int>(plane) - 1,
                                  has_above ? &above : nullptr, static_cast<int>(plane));
        if (has_below) far[plane - 1] = std::move(joined.below);
        if (has_above) near[plane] = std::move(joined.above);
    }
    for (std::size_t i = 0; i < n; ++i)
        zones[i]->add_faces(skin, *near[i], *far[i]);
    return skin;
}

} // namespace whorl::solid
