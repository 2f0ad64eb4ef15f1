#include "build/piece_values.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"
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
        const double length = in_mm(z.length), full = in_mm(z.largest_radius());
        const auto look = [&](double at) { // from the zone's near end
            const BarFrame f = way.frame_at(in_mm(z.start) + at);
            const double radius =
                std::min({full, in_mm(z.near_end.radius_at(at)), in_mm(z.far_end.radius_at(length - at))});
            const double beyond = radius * std::sqrt(std::max(0.0, 1 - f.t[2] * f.t[2]));
            low = std::min(low, f.origin[2] - beyond);
            high = std::max(high, f.origin[2] + beyond);
        };
        const bool flat_ends = z.near_end.kind == EndKind::flat && z.far_end.kind == EndKind::flat;
        const int n = z.bend() ? 4000 : flat_ends ? 1 : 400;
        for (int i = 0; i <= n; ++i)
            look(length * i / n);
        for (const bool far : {false, true}) { // the edge behind a chamfer
            const ResolvedEnd& end = far ? z.far_end : z.near_end;
            if (in_mm(end.radius_at(0)) >= full || in_mm(end.radius_at(length)) < full) continue;
            const double in =
                halved(
                    0, length, [&](double at) { return in_mm(end.radius_at(at)) < full; }, 0, 50)
                    .high;
            look(far ? length - in : in);
        }
    }
    out.value = high - low;
    out.source = "along its near end, outside to outside";
    return out;
}

// ∫(x² + y²) dV over the triangulation, by tetrahedra with the origin. Its chords lie inside round surfaces: what the
// volume is short of there, this is short of twice.
double moment_about_axis(const solid::Mesh& mesh, double volume) {
    double sum = 0;
    for (const auto& t : mesh.triangles) {
        const solid::Point &a = mesh.points[t[0]], &b = mesh.points[t[1]], &c = mesh.points[t[2]];
        const double six_volumes =
            a.x * (b.y * c.z - b.z * c.y) + a.y * (b.z * c.x - b.x * c.z) + a.z * (b.x * c.y - b.y * c.x);
        const auto squares = [](double p, double q, double r) {
            return p * p + q * q + r * r + p * q + q * r + r * p;
        };
        sum += six_volumes / 60 * (squares(a.x, b.x, c.x) + squares(a.y, b.y, c.y));
    }
    const double part = volume / solid::volume(mesh);
    return sum * part * part;
}

void add_ends(std::vector<ResolvedValue>& out, const ResolvedPiece& piece) {
    const BentLine way = piece.centreline();
    const BarFrame end = way.frame_at(way.length());
    constexpr const char* keys[]{"far_end_x", "far_end_y", "far_end_z"};
    constexpr const char* labels[]{"Far end, x", "Far end, y", "Far end, z"};
    for (std::size_t k = 0; k < 3; ++k)
        out.push_back(
            {.key = keys[k],
             .label = labels[k],
             .value = std::abs(end.origin[k]) < 1e-9 ? 0 : end.origin[k],
             .source = "of the centreline from the near end, z along it, x in the first bend's plane"});
    out.push_back({.key = "angle_between_ends",
                   .label = "Between the ends",
                   .kind = ValueKind::angle,
                   .value = std::acos(std::clamp(end.t[2], -1.0, 1.0)),
                   .source = "of the centreline's directions, near to far"});
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
    const bool has_axis =
        !preview.piece.bent() &&
        std::ranges::none_of(preview.piece.zones, [](const ResolvedZone& z) { return z.rack() != nullptr; });
    if (has_axis)
        out.push_back({.key = "moment_of_inertia",
                       .label = "Moment of inertia, g·mm²",
                       .kind = ValueKind::number,
                       .value = moment_about_axis(preview.mesh, preview.volume()) / 1000 * finish.density,
                       .source = "about the axis, ∫r²dm over the triangulation"});
    if (preview.piece.bent()) add_ends(out, preview.piece);
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
