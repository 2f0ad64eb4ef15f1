#include "check/edge_check.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
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

class EdgeCheck {
public:
    EdgeCheck(std::vector<Finding>& out, const ResolvedPiece& piece, std::size_t index, std::size_t zone,
              LengthUnit unit)
        : out_(out), piece_(piece), z_(piece.zones[zone]), index_(index), zone_(zone), unit_(unit) {}

    void end(bool far) const {
        const ResolvedEnd& e = far ? z_.far_end : z_.near_end;
        if (!e.is_edge()) return;
        const ResolvedZone* const next = neighbour(piece_, z_, far);
        // of a bore its open end is a rim, its closed one the bottom's corner
        const double plane = in_mm(far ? z_.end() : z_.start);
        const bool bottom = z_.in_bore() && !next && plane > 1e-9 && plane < in_mm(piece_.length()) - 1e-9;
        const double own = in_mm(z_.diameter) / 2, asked = in_mm(e.dome_radius);
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
                             asked, 0, "Radius " + shown(asked), "radius " + text(asked));
            if (asked > rises + 1e-9)
                return found(far, "fillet_too_large",
                             "A fillet of " + shown(asked) +
                                 " is larger than the shoulder it stands at, which "
                                 "is " +
                                 shown(rises) + " high.",
                             asked, rises, "Fillet " + shown(floored(rises)),
                             "fillet " + text(floored(rises)));
            return;
        }
        if (bottom || (next && falls < 1e-6))
            return found(
                far, "no_edge",
                "The " + name(far) +
                    " end of this zone is no edge: what follows stands on; its corner is filled with "
                    "fillet.",
                asked, 0, "Fillet " + shown(std::min(asked, floored(rises))),
                "fillet " + text(std::min(asked, floored(rises))));
        if (next && asked > falls + 1e-9)
            found(far, "radius_too_large",
                  "An edge rounded by " + shown(asked) + " is more than its shoulder, which is " +
                      shown(falls) + " high.",
                  asked, falls, "Radius " + shown(floored(falls)), "radius " + text(floored(falls)));
    }

private:
    static std::string name(bool far) { return far ? "far" : "near"; }
    static double floored(double v) { return v < 0.05 ? v : std::floor(v * 20 + 1e-9) / 20; }
    static std::string text(double v) { return number_text(v, 6); }
    std::string shown(double millimetres) const {
        return number_text(in_unit(mm(millimetres), unit_), unit_ == LengthUnit::inch ? 4 : 3) + " " +
               symbol(unit_);
    }
    void found(bool far, const char* id, std::string sentence, double value, double limit, std::string words,
               std::string end) const {
        const Field f = far ? field::far_end : field::near_end;
        out_.push_back(
            {Severity::stop, id, std::move(sentence), index_, zone_, value, limit,
             Remedy{std::move(words), {Edit{index_, zone_, f, std::move(end), LengthUnit::millimetre}}}});
    }

    std::vector<Finding>& out_;
    const ResolvedPiece& piece_;
    const ResolvedZone& z_;
    std::size_t index_, zone_;
    LengthUnit unit_;
};

} // namespace

void check_edges(std::vector<Finding>& out, const ResolvedPiece& piece, std::size_t piece_index,
                 std::size_t zone, LengthUnit unit) {
    const EdgeCheck check(out, piece, piece_index, zone, unit);
    check.end(false);
    check.end(true);
}

} // namespace whorl
