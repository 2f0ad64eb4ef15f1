#include "build/piece_values.hpp"

#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

// From one end of the piece to the other, in the direction of its near end: a bar of radius r reaches
// r·√(1 − (T·e)²) beyond its centreline along e.
ResolvedValue length_of(const ResolvedPiece& piece) {
    ResolvedValue out{.key = "overall_length",
                      .label = "Overall length",
                      .value = in_mm(piece.length()),
                      .source = "sum of its zones"};
    if (!piece.bent()) return out;
    const BentLine way = piece.centreline();
    double low = 0, high = 0;
    for (const ResolvedZone& z : piece.zones) {
        if (z.in_bore()) continue;
        const int n = z.bend() ? 4000 : 1;
        for (int i = 0; i <= n; ++i) {
            const BarFrame f = way.frame_at(in_mm(z.start) + in_mm(z.length) * i / n);
            const double beyond = in_mm(z.largest_radius()) * std::sqrt(std::max(0.0, 1 - f.t[2] * f.t[2]));
            low = std::min(low, f.origin[2] - beyond);
            high = std::max(high, f.origin[2] + beyond);
        }
    }
    out.value = high - low;
    out.source = "along its near end, outside to outside";
    return out;
}

} // namespace

std::vector<ResolvedValue> piece_values(const Preview& preview, const Piece& piece) {
    if (!preview.made()) return {};
    const Finish& finish = finish_of(piece);
    std::vector<ResolvedValue> out{
        {.key = "volume",
         .label = "Volume",
         .kind = ValueKind::volume,
         .value = preview.volume(),
         .source = "closed form over the exact skin"},
        {.key = "mass",
         .label = "Mass",
         .kind = ValueKind::mass,
         .value = preview.volume() / 1000 * finish.density,
         .source = "volume × " + number_text(finish.density, 2) + " g/cm³, " + finish.name},
        length_of(preview.piece)};
    if (preview.piece.bent())
        out.push_back({.key = "developed_length",
                       .label = "Developed length",
                       .value = in_mm(preview.piece.length()),
                       .source = "along the centreline, which keeps its length in a bend"});
    double thickest = 0;
    for (const ResolvedZone& z : preview.piece.zones)
        if (z.bend()) thickest = std::max(thickest, z.bend()->bar);
    if (thickest > 0 && finish.elongation > 0)
        out.push_back({.key = "least_bend_radius",
                       .label = "Smallest bend radius",
                       .value = least_bend_radius(thickest, finish.elongation),
                       .source = "to the centreline, cold: outside stretched by the " +
                                 number_text(100 * finish.elongation, 0) + " % at which " + finish.grade +
                                 " breaks"});
    if (const auto wall = solid::least_wall(preview.piece)) {
        const bool of_hollow =
            std::any_of(preview.piece.zones.begin(), preview.piece.zones.end(), [&](const ResolvedZone& z) {
                return z.is_hollow() && std::abs(z.silhouette()->least_wall - wall->thickness) < 1e-9;
            });
        out.push_back({.key = "least_wall",
                       .label = "Least wall",
                       .value = wall->thickness,
                       .source = std::string(of_hollow ? "of the hollow, measured in space, "
                                                       : "between bores and outside, square to the axis, ") +
                                 number_text(wall->at, 2) + " mm from the near end"});
    }
    for (const ResolvedZone& z : preview.piece.zones)
        if (z.is_hollow())
            for (const char* key : {"thickest_wall", "contents"})
                if (const ResolvedValue* v = find_value(z.silhouette()->values, key)) out.push_back(*v);
    return out;
}

} // namespace whorl
