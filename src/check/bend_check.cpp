#include "check/form_checks.hpp"

#include "form/bend/bend.hpp"
#include "model/forms/bend.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

// Where the bar comes nearest to itself: two places along the centreline, and what is free between them.
struct Nearest {
    double first = 0, second = 0, free = 1e300; // mm
};
// The bar's radius over its length, the largest of a zone all along it.
double radius_at(const ResolvedPiece& piece, double z) {
    double r = 0;
    for (const ResolvedZone& zone : piece.zones)
        if (!zone.in_bore() && z >= in_mm(zone.start) - 1e-9 && z <= in_mm(zone.end()) + 1e-9)
            r = std::max(r, in_mm(zone.largest_radius()));
    return r;
}
Nearest nearest_to_itself(const ResolvedPiece& piece, int most = 240) {
    const BentLine way = piece.centreline();
    const double whole = way.length();
    const int n = std::clamp(static_cast<int>(whole / std::max(0.05, radius_at(piece, 0) / 4)), 60, most);
    struct Place {
        double z, r;
        Direction at;
    };
    std::vector<Place> places;
    for (int i = 0; i <= n; ++i) {
        const double z = whole * i / n;
        places.push_back({z, radius_at(piece, z), way.frame_at(z).origin});
    }
    // two places are looked at together once the bar has turned by 108° between them; before, they are one stretch
    std::vector<double> turned{0};
    for (int i = 1; i <= n; ++i) {
        const BentPart& p = way.part_at(
            (places[static_cast<std::size_t>(i)].z + places[static_cast<std::size_t>(i - 1)].z) / 2);
        turned.push_back(turned.back() + (p.straight() ? 0 : whole / n / p.radius));
    }
    Nearest out;
    for (std::size_t i = 0; i < places.size(); ++i)
        for (std::size_t k = i + 1; k < places.size(); ++k) {
            if (turned[k] - turned[i] < 0.6 * pi) continue;
            const auto &a = places[i].at, &b = places[k].at;
            const double free = std::hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]) - places[i].r - places[k].r;
            if (free < out.free) out = {places[i].z, places[k].z, free};
        }
    return out;
}

// The piece with another radius of a bend.
ResolvedPiece with_radius(ResolvedPiece piece, std::size_t zone, double radius) {
    std::get<ResolvedElbow>(piece.zones[zone].form).bend.radius = radius;
    Length at = mm(0);
    for (ResolvedZone& z : piece.zones) {
        if (z.in_bore()) continue;
        if (z.bend()) z.length = mm(z.bend()->length());
        z.start = at;
        at += z.length;
    }
    return piece;
}

// The least radius of this bend, in half millimetres, at which the bar is clear of itself; none up to six times
// the one it has.
std::optional<double> clear_radius(const ResolvedPiece& piece, std::size_t zone, double added) {
    const double from = piece.zones[zone].bend()->radius;
    for (double r = from * 1.05; r < 6 * from; r *= 1.05) {
        const double round = std::ceil((r - added) * 2) / 2 + added;
        if (nearest_to_itself(with_radius(piece, zone, round), 120).free > 0.05) return round;
    }
    return {};
}

} // namespace

void check_form(const ResolvedElbow&, const ZoneLook& look) {
    check_ends(look);
    const ResolvedPiece& piece = look.whole;
    const std::size_t zone = look.zone;
    const ResolvedBend& b = *piece.zones[zone].bend();
    bool last = true; // the piece's last bend speaks for all of it
    for (std::size_t i = zone + 1; i < piece.zones.size(); ++i)
        if (piece.zones[i].bend()) last = false;
    if (last) {
        const Nearest near = nearest_to_itself(piece);
        if (near.free < 0) {
            const double added = b.spec.inside ? b.bar : 0;
            const auto radius = clear_radius(piece, zone, added);
            look.stop("bends_cross",
                      "The bar runs into itself: " + look.shown(near.first) + " and " +
                          look.shown(near.second) + " along the centreline it would overlap by " +
                          look.shown(-near.free) +
                          ". A larger radius, a smaller angle or a roll keeps it clear.",
                      near.free, 0,
                      radius ? std::optional(look.edit("Radius " + number_text(*radius - added, 3) + " mm",
                                                       field::bend_radius, number_text(*radius - added, 3)))
                             : std::nullopt);
            return;
        }
    }
    const Finish& finish = finish_called(piece.finish);
    const auto to = [&](double radius) {
        const double typed = b.spec.inside ? radius - b.bar : radius;
        return look.edit("Radius " + number_text(typed, 3) + " mm", field::bend_radius,
                         number_text(typed, 3));
    };
    if (finish.shaping != Shaping::cold) return;
    if (finish.elongation > 0) { // its own grade breaks where the outside is stretched by more than that
        const double least = least_bend_radius(b.bar, finish.elongation);
        if (b.radius >= least * 0.999) return;
        const double added = b.spec.inside ? b.bar : 0, radius = std::ceil((least - added) * 2) / 2 + added;
        // to as many digits as tell it from the limit
        const double stretched = 100 * b.bar / b.radius, limit = 100 * finish.elongation;
        int digits = 0;
        while (digits < 3 && number_text(stretched, digits) == number_text(limit, digits))
            ++digits;
        look.advise("bend_tight",
                    "Outside the bar is stretched by " + number_text(stretched, digits) + " %, and " +
                        finish.name + " (" + finish.grade + ") breaks at " + number_text(limit, digits) +
                        " %; cold it is bent to a radius of " + look.shown(least) +
                        " to the centreline or more.",
                    b.radius, least, to(radius));
        return;
    }
    // a rule of the shop: bent cold round less than its own thickness a bar may crack outside and flatten
    if (b.radius - b.bar < 2 * b.bar * 0.999) {
        look.advise("bend_tight",
                    "The inside radius is " + look.shown(b.radius - b.bar) +
                        ", less than the bar's thickness of " + look.shown(2 * b.bar) +
                        ": outside it is stretched by " + number_text(100 * b.bar / b.radius, 0) +
                        " %, which cold bending hardly bears.",
                    b.radius - b.bar, 2 * b.bar, to(3 * b.bar));
    }
}

} // namespace whorl
