// Where the solid view's piece and its counterpart stand, and the box about them.
#include "app/solid_view.hpp"

#include "model/forms/follower.hpp"
#include "quantity/expression.hpp"
#include "together/pair_place.hpp"

#include <cmath>
#include <numbers>

namespace whorl::app {

bool SolidView::pair_shown() const {
    return together_ && session_.together() && !session_.mesh() && counterpart_.made() && piece_.made();
}

bool SolidView::gears_shown() const {
    return together_ && session_.mesh() && session_.mesh()->mesh.meshes && counterpart_.made() &&
           piece_.made();
}

bool SolidView::beside_shown() const {
    return together_ && session_.beside() && counterpart_.made() && piece_.made();
}

bool SolidView::follower_shown() const {
    const auto* z = session_.resolved_zone();
    return (together_ || session_.running() || session_.roll() != 0) && session_.follower() && z &&
           z->motion() && counterpart_.made() && piece_.made();
}

namespace {
double middle_of(const ResolvedZone& z) {
    return in_mm(z.start + z.length / 2);
}
float degrees(double angle) {
    return static_cast<float>(std::remainder(in_deg(rad(angle)), 360));
}
MeshStanding standing_of(const ShownMesh& mesh, double roll) {
    return mesh_standing(mesh, mesh.here_zone, mesh.there_zone, roll);
}
} // namespace

QMatrix4x4 SolidView::piece_place() const {
    QMatrix4x4 place;
    const auto& m = session_.mesh();
    const auto* z = session_.resolved_zone();
    if (m && gears_shown() && !(m->rack && m->second_first))
        place.rotate(degrees(standing_of(*m, session_.roll()).turn), 0, 0, 1);
    else if (z && z->gear())
        place.rotate(degrees(session_.roll()), 0, 0, 1);
    else if (z && z->motion())
        place.rotate(degrees(z->turns_clockwise() ? -session_.roll() : session_.roll()), 0, 0, 1);
    return place;
}

QMatrix4x4 SolidView::counterpart_place() const {
    if (gears_shown()) return matrix_of(standing_of(*session_.mesh(), session_.roll()).second);
    if (beside_shown()) return matrix_of(session_.beside()->place);
    if (follower_shown()) return matrix_of(follower_standing(*session_.resolved_zone(), session_.roll()));
    const Together& pair = *session_.together();
    return matrix_of(thread_standing(pair.mating, piece_.preview()->piece, pair.here.zone,
                                     counterpart_.preview()->piece, pair.there.zone, travel()));
}

SolidView::Extent SolidView::extent() const {
    if (gripped_extent_) return *gripped_extent_;
    if (!piece_.preview()) return {};
    const ResolvedPiece& piece = piece_.preview()->piece;
    Extent e{0, in_mm(piece.length()), in_mm(piece.largest_radius()), 0, 0};
    if (piece.bent()) e = extent_of_bent(piece);
    if (gears_shown()) {
        const auto& mesh = *session_.mesh();
        if (mesh.rack) { // a box about both, as they stand in the middle of the rack's travel
            const double gear =
                in_mm((mesh.second_first ? counterpart_ : piece_).preview()->piece.largest_radius());
            const double back = mesh.mesh.centre + mesh.rack->body(), half = mesh.rack->length / 2;
            const double wide =
                std::max(in_mm(mesh.rack->spec.width),
                         in_mm((mesh.second_first ? mesh.there_zone : mesh.here_zone).length));
            if (mesh.second_first)
                return {0, mesh.rack->length, (back + gear) / 2,
                        (back + gear) / 2 - in_mm(mesh.rack->spec.height) / 2};
            const double zone = middle_of(mesh.here_zone);
            return {zone - wide / 2, zone + wide / 2, std::max((back + gear) / 2, std::min(half, 2.5 * gear)),
                    (back - gear) / 2};
        }
        const double there = mesh.mesh.internal == mesh.second_first ? mesh.mesh.centre : -mesh.mesh.centre;
        const double reach = in_mm(counterpart_.preview()->piece.largest_radius());
        const double low = std::min(-e.radius, there - reach), high = std::max(e.radius, there + reach);
        e.aside = (low + high) / 2;
        e.radius = (high - low) / 2;
        const double shift = in_mm(mesh.here_zone.start + mesh.here_zone.length / 2) -
                             in_mm(mesh.there_zone.start + mesh.there_zone.length / 2);
        e.from = std::min(e.from, shift);
        e.to = std::max(e.to, shift + in_mm(counterpart_.preview()->piece.length()));
        return e;
    }
    if (beside_shown()) return extent_with_beside(e);
    if (follower_shown()) return extent_with_follower(e);
    if (!pair_shown()) return e;
    const Mating& m = session_.together()->mating;
    const ResolvedPiece& other = counterpart_.preview()->piece;
    const double length = in_mm(other.length());
    for (const double at : {m.usual, travel()}) {
        e.from = std::min(e.from, m.flipped ? at - length : at);
        e.to = std::max(e.to, m.flipped ? at : at + length);
    }
    e.radius = std::max(e.radius, in_mm(other.largest_radius()));
    if (piece_.preview()->piece.bent()) { // on one of its legs
        e = extent_of_bent(piece_.preview()->piece);
        const double reach = in_mm(other.largest_radius());
        e.from -= reach;
        e.to += reach;
        e.radius += reach;
    } else if (other.bent()) {
        e.radius = std::max(e.radius, length);
    }
    return e;
}

// About the part's middle: a bent piece has no single axis.
SolidView::Extent SolidView::extent_of_bent(const ResolvedPiece& piece) {
    const BentLine way = piece.centreline();
    const double r = in_mm(piece.largest_radius());
    std::array<double, 3> low{1e300, 1e300, 1e300}, high{-1e300, -1e300, -1e300};
    constexpr int steps = 200;
    for (int i = 0; i <= steps; ++i) {
        const Direction at = way.frame_at(way.length() * i / steps).origin;
        for (std::size_t k = 0; k < 3; ++k) {
            low[k] = std::min(low[k], at[k] - r);
            high[k] = std::max(high[k], at[k] + r);
        }
    }
    return extent_of_box(low, high);
}

SolidView::Extent SolidView::extent_of_box(const std::array<double, 3>& low,
                                           const std::array<double, 3>& high) {
    return {low[2], high[2], std::max(high[0] - low[0], high[1] - low[1]) / 2, (low[0] + high[0]) / 2,
            (low[1] + high[1]) / 2};
}

SolidView::Extent SolidView::extent_with_beside(Extent e) const {
    std::array<double, 3> low{e.aside - e.radius, e.aside_y - e.radius, e.from},
        high{e.aside + e.radius, e.aside_y + e.radius, e.to};
    const ResolvedPiece& other = counterpart_.preview()->piece;
    Extent o{0, in_mm(other.length()), in_mm(other.largest_radius()), 0, 0};
    if (other.bent()) o = extent_of_bent(other);
    const Standing& s = session_.beside()->place;
    for (int corner = 0; corner < 8; ++corner) {
        const double at[]{o.aside + (corner & 1 ? 1 : -1) * o.radius,
                          o.aside_y + (corner & 2 ? 1 : -1) * o.radius, corner & 4 ? o.to : o.from};
        for (std::size_t k = 0; k < 3; ++k) {
            const double v = s.origin[k] + at[0] * s.x[k] + at[1] * s.y[k] + at[2] * s.z[k];
            low[k] = std::min(low[k], v);
            high[k] = std::max(high[k], v);
        }
    }
    return extent_of_box(low, high);
}

// Room for the follower wherever it stands in a turn, so that the picture keeps still.
SolidView::Extent SolidView::extent_with_follower(Extent e) const {
    const ResolvedZone& cam = *session_.resolved_zone();
    const ResolvedPiece& f = counterpart_.preview()->piece;
    const double length = in_mm(f.length()), radius = in_mm(f.largest_radius());
    double low = -e.radius, high = e.radius, beside = e.radius;
    for (int k = 0; k < 24; ++k) {
        const Standing s = follower_standing(cam, 2 * std::numbers::pi * k / 24);
        for (const double along : {0.0, length}) {
            const double x = s.origin[0] + along * s.z[0], y = s.origin[1] + along * s.z[1],
                         z = s.origin[2] + along * s.z[2];
            const double about = std::abs(s.z[2]) > 0.5 ? 0 : radius; // a roller lies along the cam
            low = std::min(low, x - radius);
            high = std::max(high, x + radius);
            beside = std::max(beside, std::abs(y) + radius);
            e.from = std::min(e.from, z - about);
            e.to = std::max(e.to, z + about);
        }
    }
    e.aside = (low + high) / 2;
    e.radius = std::max((high - low) / 2, beside);
    return e;
}

} // namespace whorl::app
