#include "solid/skin/bent_zones.hpp"

#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

// Where the faces of a bent piece are cut square to the bar: at both ends of every bend, and in it so that none
// bends by more than 120°, which receivers can cut and join.
std::vector<double> bend_cuts(const ResolvedPiece& piece) {
    std::vector<double> out;
    for (const ResolvedZone& z : piece.zones)
        if (const ResolvedBend* b = z.bend()) {
            const int n =
                std::max(1, static_cast<int>(std::ceil(b->angle / (2 * std::numbers::pi / 3) - 1e-9)));
            for (int k = 0; k <= n; ++k)
                out.push_back(in_mm(z.start) + in_mm(z.length) * k / n);
        }
    return out;
}

// How far an end treatment reaches into a plain zone, mm.
double reach_of(const ResolvedEnd& end, Length diameter) {
    const double cap = in_mm(end.dome_height);
    if (end.is_dome() || end.kind != EndKind::chamfer) return cap;
    return cap + std::abs(in_mm(diameter) - in_mm(end.diameter)) / 2 / std::tan(in_rad(end.angle));
}

// Only a cylinder follows a bend.
void require_bends_in_cylinders(const ResolvedPiece& piece, const ResolvedZone& bore, std::size_t index) {
    for (const ResolvedZone& z : piece.zones) {
        if (!z.bend() || in_mm(z.end()) < in_mm(bore.start) + 1e-9 ||
            in_mm(z.start) > in_mm(bore.end()) - 1e-9)
            continue;
        const bool cylinder = bore.as<ResolvedPlain>() && bore.outline() == Outline::round &&
                              !bore.keyway() && std::abs(in_mm(bore.diameter - bore.far_diameter)) < 1e-9;
        const double free_from = in_mm(bore.start) + reach_of(bore.near_end, bore.diameter),
                     free_to = in_mm(bore.end()) - reach_of(bore.far_end, bore.diameter);
        const double from = std::max(in_mm(z.start), in_mm(bore.start)),
                     to = std::min(in_mm(z.end()), in_mm(bore.end()));
        if (!cylinder || (from < free_from - 1e-9) || (to > free_to + 1e-9))
            throw CannotMake(std::string(bore.thread() ? "This thread" : "This bore's end or its shape") +
                                 " lies in the bend from " + number_text(in_mm(z.start), 2) + " to " +
                                 number_text(in_mm(z.end()), 2) +
                                 " mm along the centreline; only a plain round bore goes round it. Make it "
                                 "shorter, or the "
                                 "straight end longer.",
                             index);
    }
}

} // namespace

std::vector<ResolvedZone> bent_lengths(const ResolvedPiece& piece, std::size_t index) {
    const ResolvedZone& zone = piece.zones[index];
    if (!piece.bent() || (!zone.bend() && !zone.in_bore())) return {zone};
    if (zone.in_bore()) require_bends_in_cylinders(piece, zone, index);
    std::vector<double> at{in_mm(zone.start)};
    for (const double cut : bend_cuts(piece))
        if (cut > at.back() + 1e-9 && cut < in_mm(zone.end()) - 1e-9) at.push_back(cut);
    at.push_back(in_mm(zone.end()));
    std::vector<ResolvedZone> out;
    for (std::size_t k = 0; k + 1 < at.size(); ++k) {
        ResolvedZone part = zone;
        part.start = mm(at[k]);
        part.length = mm(at[k + 1] - at[k]);
        if (k > 0) part.near_end = {};
        if (k + 2 < at.size()) part.far_end = {};
        out.push_back(std::move(part));
    }
    return out;
}

void mark_bends(Skin& skin) {
    const auto& parts = skin.way.parts();
    const auto bend_at = [&](double low, double high) {
        if (high - low < 1e-9) return -1;
        const double middle = (low + high) / 2;
        for (std::size_t i = 0; i < parts.size(); ++i)
            if (!parts[i].straight() && middle > parts[i].from && middle < parts[i].to)
                return static_cast<int>(i);
        return -1;
    };
    for (Edge& e : skin.edges) {
        e.bend = bend_at(std::min(e.begin.z, e.end.z), std::max(e.begin.z, e.end.z));
        if (e.bend >= 0 && (e.shape != EdgeShape::straight || std::abs(e.begin.theta - e.end.theta) > 1e-9))
            throw std::logic_error("build_skin: an edge inside a bend does not run along the bar");
    }
    for (Face& f : skin.faces) {
        double low = 1e300, high = -1e300;
        for (const auto& loop : f.loops)
            for (const EdgeUse& u : loop)
                for (const double z : {start_of(skin, u).z, end_of(skin, u).z}) {
                    low = std::min(low, z);
                    high = std::max(high, z);
                }
        f.bend = bend_at(low, high);
        if (f.bend >= 0 && (f.kind != FaceKind::round || f.b != 0 || f.c != 0))
            throw std::logic_error("build_skin: a face inside a bend is no cylinder");
    }
}

} // namespace whorl::solid
