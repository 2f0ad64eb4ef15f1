#include "solid/skin/walls.hpp"

#include "model/forms/forms.hpp"
#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

// The least (outer) or largest (bore) radius of a zone at z inside it, run-outs taken as full grooves.
double limit_at(const ResolvedZone& zone, double z, bool least) {
    const Radii at = radii_at(zone, z);
    double r = least ? at.smallest : at.largest;
    for (const auto& [end, from, at_end] :
         {std::tuple{&zone.near_end, z - in_mm(zone.start), in_mm(zone.diameter)},
          std::tuple{&zone.far_end, in_mm(zone.end()) - z, in_mm(zone.far_diameter)}})
        if (end->is_edge()) {
            if (from < in_mm(end->dome_height)) r = in_mm(end->radius_at(from));
        } else if (end->has_cap()) {
            r = std::min(r, in_mm(end->radius_at(from)));
        } else if (end->kind == EndKind::chamfer &&
                   !(zone.in_bore() && !zone.swept() && std::abs(in_mm(end->diameter) - at_end) < 2e-4)) {
            const double re = in_mm(end->diameter) / 2, slant = from * std::tan(in_rad(end->angle));
            const bool sunk = !least && re > (zone.swept() ? r : at_end / 2); // a countersink
            // a bore's bottom lowers it as well; corners are not filled
            const bool lowers = least || (!zone.swept() && zone.outline() == Outline::round);
            if (sunk)
                r = std::max(r, re - slant);
            else if (lowers)
                r = std::min(r, re + slant);
        }
    return r;
}

// Where a wall's outside or inside may change its slope, in rising z.
std::vector<double> wall_places(const ResolvedPiece& piece) {
    std::vector<double> places;
    for (const auto& z : piece.zones) {
        places.insert(places.end(), {in_mm(z.start), in_mm(z.end())});
        if (z.silhouette())
            for (const double at : z.silhouette()->wall->breaks(in_mm(z.start), in_mm(z.end())))
                places.push_back(at);
        for (const auto& [end, at, side] :
             {std::tuple{&z.near_end, in_mm(z.start), 1.0}, std::tuple{&z.far_end, in_mm(z.end()), -1.0}}) {
            const double cap = at + side * in_mm(end->dome_height);
            if (end->has_cap()) places.push_back(cap);
            if (end->kind == EndKind::chamfer && !end->is_dome())
                places.push_back(cap + side * std::abs(in_mm(z.outer_radius()) - in_mm(end->diameter) / 2) /
                                           std::tan(in_rad(end->angle)));
        }
    }
    std::sort(places.begin(), places.end());
    return places;
}

} // namespace

void require_walls(const ResolvedPiece& piece) {
    const double whole = in_mm(piece.length());
    const std::vector<double> places = wall_places(piece);
    for (std::size_t b = 0; b < piece.zones.size(); ++b) {
        const ResolvedZone& bore = piece.zones[b];
        if (!bore.in_bore()) continue;
        if (in_mm(bore.start) < -1e-9 || in_mm(bore.end()) > whole + 1e-9)
            throw CannotMake("This bore is " + number_text(in_mm(bore.length), 3) +
                                 " mm long and leaves the piece, which has " + number_text(whole, 3) +
                                 " mm; make it shorter, or empty its length to go through.",
                             b);
        for (const auto& other : piece.zones)
            if (other.in_bore() && other.where != bore.where &&
                in_mm(bore.start) < in_mm(other.end()) - 1e-9 &&
                in_mm(other.start) < in_mm(bore.end()) - 1e-9)
                throw CannotMake(
                    "The bores from both ends run into each other; make one of them shorter, or one "
                    "go through.",
                    b);
        for (const double p : places)
            for (const double z : {p - 1e-7, p + 1e-7}) {
                if (z <= in_mm(bore.start) || z >= in_mm(bore.end())) continue;
                for (const auto& outer : piece.zones) {
                    if (outer.in_bore() || z <= in_mm(outer.start) || z >= in_mm(outer.end())) continue;
                    if (bore.is_hollow() && outer.silhouette()) continue; // keeps its distance by itself
                    const double inner_r = limit_at(bore, z, false), outer_r = limit_at(outer, z, true);
                    if (inner_r > outer_r - 1e-3)
                        throw CannotMake(
                            "This bore reaches Ø " + number_text(2 * inner_r, 3) + " mm at " +
                                number_text(std::max(z, 0.0), 2) +
                                " mm along the piece, where its outside has only Ø " +
                                number_text(2 * outer_r, 3) +
                                " mm: no wall is left. Make the bore narrower or the outside wider.",
                            b);
                }
            }
    }
}

std::optional<LeastWall> least_wall(const ResolvedPiece& piece) {
    std::optional<LeastWall> out;
    const auto look = [&](double z) {
        for (const ResolvedZone& bore : piece.zones) {
            if (!bore.in_bore() || z <= in_mm(bore.start) || z >= in_mm(bore.end())) continue;
            for (const ResolvedZone& outer : piece.zones) {
                if (outer.in_bore() || z <= in_mm(outer.start) || z >= in_mm(outer.end())) continue;
                if (bore.is_hollow() && outer.silhouette()) {
                    const ResolvedSilhouette& s = *bore.silhouette();
                    if (!out || s.least_wall < out->thickness - 1e-6)
                        out = LeastWall{s.least_wall, s.thinnest_at};
                    continue;
                }
                const double wall = limit_at(outer, z, true) - limit_at(bore, z, false);
                if (!out || wall < out->thickness - 1e-6) out = LeastWall{wall, z};
            }
        }
    };
    const std::vector<double> places = wall_places(piece);
    for (std::size_t i = 0; i + 1 < places.size(); ++i)
        for (int k = 0; k <= 8; ++k) {
            const double a = places[i] + 1e-7, b = places[i + 1] - 1e-7;
            if (b > a) look(a + (b - a) * k / 8);
        }
    return out;
}

} // namespace whorl::solid
