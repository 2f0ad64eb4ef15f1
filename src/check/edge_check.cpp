#include "check/form_checks.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

// Radii between which a zone ends at one of its planes, mm.
struct Reach {
    double least, most;
};
Reach reach_at(const ResolvedZone& z, bool far) {
    const ResolvedEnd& e = far ? z.far_end : z.near_end;
    if (e.is_dome()) return {in_mm(e.tip_diameter) / 2, in_mm(e.tip_diameter) / 2};
    Reach own{in_mm(z.smallest_radius()), in_mm(z.largest_radius())};
    if (z.as<ResolvedPlain>() && z.outline() == Outline::round && !z.keyway())
        own.least = own.most = in_mm(far ? z.far_diameter : z.diameter) / 2;
    if (e.kind == EndKind::chamfer) {
        const double r = in_mm(e.diameter) / 2;
        if (z.in_bore())
            own = {std::max(own.least, r), std::max(own.most, r)};
        else
            own = {std::min(own.least, r), std::min(own.most, r)};
    }
    return own;
}

const ResolvedZone* neighbour(const ResolvedPiece& piece, const ResolvedZone& z, bool far) {
    const double plane = in_mm(far ? z.end() : z.start);
    for (const ResolvedZone& other : piece.zones)
        if (&other != &z && other.in_bore() == z.in_bore() &&
            std::abs(in_mm(far ? other.start : other.end()) - plane) < 1e-9)
            return &other;
    return nullptr;
}

class EdgeCheck : ZoneLook {
public:
    explicit EdgeCheck(const ZoneLook& look) : ZoneLook(look), z_(look.resolved()) {}

    void end(bool far) const {
        const ResolvedEnd& e = far ? z_.far_end : z_.near_end;
        if (!e.is_edge()) return;
        const ResolvedZone* const next = neighbour(whole, z_, far);
        // of a bore its open end is a rim, its closed one the bottom's corner
        const double plane = in_mm(far ? z_.end() : z_.start);
        const bool bottom = z_.in_bore() && !next && plane > 1e-9 && plane < in_mm(whole.length()) - 1e-9;
        // on a cone an arc takes more or less of the face than its radius
        const double own = in_mm(far ? z_.far_diameter : z_.diameter) / 2, asked = in_mm(e.dome_radius),
                     taken = std::abs(in_mm(e.arc_middle) - own), part = taken / asked;
        const Reach there = next ? reach_at(*next, far ? false : true) : Reach{};
        // how far the face stands on, beyond its own surface: an outer shoulder's height, a bore's step inwards
        const double rises = !next          ? (bottom ? own : -own)
                             : z_.in_bore() ? own - there.most
                                            : there.least - own,
                     falls = !next          ? (bottom ? 0 : own)
                             : z_.in_bore() ? there.least - own
                                            : own - there.most;
        if (e.kind == EndKind::fillet) {
            if (rises < 1e-6)
                return found(far, "no_shoulder",
                             "There is no shoulder at the " + name(far) +
                                 " end of this zone for a fillet to fill; an edge is rounded with radius.",
                             asked, 0, "radius", std::min(asked, next ? falls : 0.95 * own));
            if (taken > rises + 1e-9)
                found(far, "fillet_too_large",
                      "A fillet of " + shown(asked) + " is larger than the shoulder it stands at, which is " +
                          shown(rises) + " high.",
                      asked, rises, "fillet", rises / part);
            return;
        }
        if (bottom || (next && falls < 1e-6))
            return found(far, "no_edge",
                         "The " + name(far) +
                             " end of this zone is no edge: what follows stands on; a corner is filled with "
                             "fillet.",
                         asked, 0, "fillet", std::min(asked, rises));
        if (next && taken > falls + 1e-9)
            found(far, "radius_too_large",
                  "An edge rounded by " + shown(asked) + " is more than its shoulder, which is " +
                      shown(falls) + " high.",
                  asked, falls, "radius", falls / part);
    }

private:
    static std::string name(bool far) { return far ? "far" : "near"; }
    static double floored(double v) { return v < 0.05 ? v : std::floor(v * 20 + 1e-9) / 20; }
    // The remedy is `kind` with this radius, down to a twentieth of a millimetre; flat where that is next to
    // nothing.
    void found(bool far, const char* id, std::string sentence, double value, double limit, std::string kind,
               double radius) const {
        const double down = floored(radius);
        const Field f = far ? field::far_end : field::near_end;
        Remedy remedy = edit("Flat end", f, "flat");
        if (down > 0.02) {
            remedy.edits.front().text = kind + " " + number_text(down, 6);
            kind.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(kind.front())));
            remedy.label = kind + " " + shown(down);
        }
        stop(id, std::move(sentence), value, limit, std::move(remedy));
    }

    const ResolvedZone& z_;
};

} // namespace

void check_edges(const ZoneLook& look) {
    const EdgeCheck check(look);
    check.end(false);
    check.end(true);
}

} // namespace whorl
