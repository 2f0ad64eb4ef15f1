#include "check/form_checks.hpp"

#include "quantity/expression.hpp"
#include "solid/skin/build_skin.hpp"

#include <cmath>
#include <tuple>

namespace whorl {
namespace {

class EndChecks : ZoneLook {
public:
    explicit EndChecks(const ZoneLook& look) : ZoneLook(look), z_(look.resolved()) {}

    void run() {
        if (z_.web) ends_reach_web();
        ends_do_not_fit();
    }

private:
    std::string number(double millimetres) const { return length_text(mm(millimetres), unit); }
    Edit typed(Field f, std::string text, LengthUnit in) const {
        return {piece, zone, f, std::move(text), in};
    }
    Edit edit_mm(Field f, double v) const { return typed(f, number(v), unit); }

    void ends_do_not_fit() {
        if (z_.thread() && !z_.thread()->section.sweepable()) return; // said already
        const double need = in_mm(solid::shortest_for_ends(z_)), length = in_mm(z_.length);
        if (length >= need) return;
        const double want = std::ceil(need * 10 + 1e-9) / 10;
        stop("ends_do_not_fit",
             "The ends of this zone need " + shown(std::ceil(need * 1000) / 1000) + " but it is only " +
                 shown(length) + " long; make it longer or its chamfers and run-outs shorter.",
             length, need, Remedy{"Length " + number(want), {edit_mm(field::length, want)}});
    }

    // A chamfer that comes in to the web's ring, or a countersink that goes out to its hub.
    void ends_reach_web() {
        constexpr double least_land = 2e-3; // mm on the diameter
        const auto meets = [&](std::size_t at_zone, Field field, const std::string& what, double at,
                               const std::string& limit_name, double limit) {
            Edit flat = typed(field, "flat", unit);
            flat.zone = at_zone;
            stop("end_meets_web",
                 what + " of Ø " + shown(at) + " meets the web, whose " + limit_name + " Ø " + shown(limit) +
                     "; make that end flat, or the web's ring narrower.",
                 at, limit, Remedy{"Flat end", {flat}});
        };
        for (const auto& [end, field, sunk] : {std::tuple{&z_.near_end, field::near_end, z_.web->near},
                                               std::tuple{&z_.far_end, field::far_end, z_.web->far}}) {
            const double at = in_mm(end->is_dome() ? end->tip_diameter : end->diameter),
                         rim = 2 * z_.web->rim;
            if (sunk && (end->kind == EndKind::chamfer || end->is_dome()) && at < rim + least_land)
                meets(zone, field, end->is_dome() ? "The rounded end" : "The chamfer", at, "rim begins at",
                      rim);
        }
        for (std::size_t i = 0; i < whole.zones.size(); ++i) {
            const ResolvedZone& bore = whole.zones[i];
            if (!bore.in_bore()) continue;
            for (const auto& [end, field, sunk, open] :
                 {std::tuple{&bore.near_end, field::near_end, z_.web->near, bore.start - z_.start},
                  std::tuple{&bore.far_end, field::far_end, z_.web->far, bore.end() - z_.end()}}) {
                const double at = in_mm(end->diameter), hub = 2 * z_.web->hub;
                if (sunk && end->kind == EndKind::chamfer && std::abs(in_mm(open)) < 1e-9 &&
                    at > hub - least_land)
                    meets(i, field, "The countersink", at, "hub has", hub);
            }
        }
    }

    const ResolvedZone& z_;
};

} // namespace

void check_ends(const ZoneLook& look) {
    EndChecks(look).run();
}

void check_form(const ResolvedPlain&, const ZoneLook& look) {
    check_ends(look);
    check_edges(look);
    check_cross_holes(look);
}

} // namespace whorl
