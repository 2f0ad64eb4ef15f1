#include "model/forms/gear.hpp"

#include "model/number_json.hpp"
#include "model/ready_zone.hpp"

#include "model/edit.hpp"
#include "model/forms/common_rows.hpp"
#include "model/forms/teeth.hpp"
#include "model/resolve_zone.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

std::span<const Row> FormModel<GearForm>::rows() {
    static const Row rows[]{
        module_row(),
        teeth_row("Number of teeth, 5 to 1000"),
        pressure_angle_row("Of the basic rack, normal"),
        helix_angle_row("At the pitch circle; 0 for a spur gear, a minus sign turns it round"),
        helix_hand_row("Of the helix; Ctrl+H flips it"),
        profile_shift_row(),
        basic_rack_row(),
        tip_shortening_row(),
        tip_edge_row(),
        thinning_row(),
        length_row("Face width", "Length of the teeth; in a bore, clear it to go through", "a zone"),
        web_row()};
    return rows;
}

bool FormModel<GearForm>::found(const nlohmann::json& zone) {
    return stands_in(zone, "teeth") && !stands_in(part_at(zone, "teeth"), "rack");
}

void FormModel<GearForm>::save(const Zone&, nlohmann::ordered_json&) {}
void FormModel<GearForm>::load(Zone&, const nlohmann::json&) {}

std::string FormModel<GearForm>::what(const Zone& z) {
    return z.in_bore() ? "an internal gear" : "a gear";
}

std::string FormModel<GearForm>::designation(const Zone& z, const Job&, const Names& names) {
    std::optional<Length> length; // none: through
    if (!z.length.text.empty()) length = resolve_length(z.length, names);
    return write_gear(gear_spec(z, {}, names), length);
}

void FormModel<GearForm>::resolve(ZoneInPiece& where) {
    ResolvedZone& r = where.out;
    require_ends(where, {EndKind::flat},
                 "A toothed zone ends flat; its tips are broken by the tip edge instead.");
    const GearSpec s = gear_spec(where.zone, where.place, where.names);
    ResolvedWheel wheel;
    wheel.gear = at(where.place + "teeth", [&] { return resolve_gear(s); });
    r.diameter = r.far_diameter = mm(2 * wheel.gear.tip_radius);
    // the teeth go on from those of the zone before, where they are the same but for their hand
    for (const ResolvedZone& other : where.before.zones) {
        const auto* teeth = other.as<ResolvedWheel>();
        if (!teeth || other.where != r.where || std::abs(in_mm(other.end() - r.start)) > 1e-9) continue;
        GearSpec alike = teeth->gear.spec;
        alike.hand = s.hand;
        if (alike == s) wheel.turned = teeth->turned + teeth->gear.twist * in_mm(other.length);
    }
    r.form = std::move(wheel);
}

Radii FormModel<GearForm>::radii(const ResolvedZone& z) {
    const ResolvedGear& g = *z.gear();
    return {std::min(g.tip_radius, g.root_radius), std::max(g.tip_radius, g.root_radius)};
}

void FormModel<GearForm>::keep(Zone& now, const Zone& was) {
    if (!now.in_bore()) now.web = was.web;
}

Job FormModel<GearForm>::counterpart(const Job& job, ZoneRef at) {
    return add_mate(job, at.piece, at.zone);
}

Zone zone_asked(const GearSpec& gear, const Designation& whole) {
    Zone z;
    z.form = GearForm{teeth_asked(gear, whole.unit)};
    if (gear.internal) z.where = Where::near_bore;
    z.length = {length_text(whole.length.value_or(gear.module * 10), whole.unit), whole.unit};
    return z;
}

// A gear is one zone; an internal one the bore of a ring that leaves three modules under its roots.
Piece piece_asked(const GearSpec& g, const Designation& d) {
    Piece p;
    p.name = write_gear(g, d.length);
    Zone z = zone_asked(g, d);
    if (g.internal) {
        const double outside = 2 * resolve_gear(g).root_radius + 6 * in_mm(g.module);
        Zone body = plain(mm(std::ceil(outside)), d.length.value_or(g.module * 10));
        z.length = {"", d.unit};
        p.zones = {body, z};
        return p;
    }
    if (d.body.web) z.web = {"standard", {}};
    p.zones = {z};
    add_bore(p, d.body, d.unit);
    return p;
}

} // namespace whorl
