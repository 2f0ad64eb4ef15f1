#include "model/forms/plain.hpp"

#include "model/ready_zone.hpp"

#include "model/forms/common_rows.hpp"
#include "model/forms/cross_rows.hpp"
#include "model/number_json.hpp"
#include "model/resolve_zone.hpp"

#include <cmath>
#include <numbers>

namespace whorl {
namespace {

constexpr ChoiceWord outline_words[]{{"round"}, {"hex", "hexagon", "hexagon"}, {"square"}, {"flat"}};

const PlainForm& plain(const Zone& z) {
    return std::get<PlainForm>(z.form);
}
bool is_round(const Zone& z) {
    return plain(z).outline == Outline::round;
}
bool is_flat(const Zone& z) {
    return plain(z).outline == Outline::flat;
}

std::string keyway_text(const Zone& z, const Reading& as) {
    const Number& n = z.keyway;
    if (n.text.empty()) return "none";
    const auto cross = n.text.find('x');
    if (n.unit == as.unit || cross == std::string::npos) return n.text;
    return typed_as({n.text.substr(0, cross), n.unit}, as.unit, as.names) + " x " +
           typed_as({n.text.substr(cross + 1), n.unit}, as.unit, as.names);
}

} // namespace

std::span<const Row> FormModel<PlainForm>::rows() {
    static const Row across{
        .field = field::diameter,
        .label = "Across flats",
        .tip = "Width across the flats",
        .of = "a plain, threaded or knurled zone",
        .kind = RowKind::length,
        .number = member<&PlainForm::diameter>,
        .shown = [](const Zone&, const ResolvedZone& r,
                    const Reading& as) { return length_shown(in_mm(r.diameter), as.unit); },
        .applies = [](const Zone& z) { return !is_round(z) && !is_flat(z); },
        .frees_pair = true,
    };
    static const Row width = [] {
        Row d = across;
        d.label = "Width";
        d.tip = "Of the flat bar's wide face";
        d.applies = is_flat;
        return d;
    }();
    static const Row diameter = [] {
        Row d = across;
        d.label = "Diameter";
        d.tip = "Nominal diameter";
        d.applies = is_round;
        d.kept = {.key = "diameter", .always = true};
        return d;
    }();
    static const std::vector<Row> rows = [] {
        std::vector<Row> all{
            {.field = field::outline,
             .label = "Outline",
             .tip = "round, hex, square or flat",
             .of = "a plain zone",
             .kind = RowKind::choice,
             .choice = choice_of<&PlainForm::outline, outline_words>,
             .kept = {.key = "outline"}},
            across,
            width,
            diameter,
            {.field = field::thickness,
             .label = "Thickness",
             .tip = "Of the flat bar, square to its wide face",
             .of = "a flat bar",
             .kind = RowKind::length,
             .number = member<&PlainForm::thickness>,
             .applies = is_flat,
             .kept = {.key = "thickness",
                      .save =
                          [](const Zone& z, nlohmann::ordered_json& to) {
                              if (is_flat(z)) put_number(to, "thickness", plain(z).thickness);
                          },
                      .load =
                          [](Zone& z, const nlohmann::json& from) {
                              if (stands_in(from, "thickness"))
                                  std::get<PlainForm>(z.form).thickness = number_at(from, "thickness");
                          }}},
            {.field = field::keyway,
             .label = "Keyway",
             .tip = "standard for a parallel key of DIN 6885-1, or width x depth in the hub such as 5 x 2.3",
             .of = "a plain round bore",
             .kind = RowKind::text,
             .get = keyway_text,
             .set =
                 [](Zone& z, const Typed& t) {
                     const std::string w = t.lowered();
                     z.keyway = w == "none"       ? Number{}
                                : w == "standard" ? Number{"standard", {}}
                                                  : t.number();
                 },
             .shown =
                 [](const Zone&, const ResolvedZone& r, const Reading& as) {
                     const ResolvedKeyway* k = r.keyway();
                     if (!k) return Shown{"none"};
                     return Shown{shown_length(in_mm(k->width), as.unit) + " × " +
                                      shown_length(in_mm(k->depth), as.unit),
                                  symbol(as.unit)};
                 },
             .choices =
                 [](const ResolvedZone&) {
                     return Words{"standard", "none"};
                 },
             .applies = [](const Zone& z) { return z.in_bore() && is_round(z); }},
            {.field = field::far_diameter,
             .label = "Far diameter",
             .tip = "Diameter at the far end, for a conical zone; clear it for a cylinder",
             .of = "a plain round zone (a thread has a taper instead)",
             .kind = RowKind::length,
             .number = member<&PlainForm::far_diameter>,
             .shown =
                 [](const Zone&, const ResolvedZone& r, const Reading& as) {
                     return r.far_diameter == r.diameter ? Shown{"the same"}
                                                         : length_shown(in_mm(r.far_diameter), as.unit);
                 },
             .applies = is_round,
             .kept = {.key = "far_diameter"}},
            length_row("Length", "Length of the zone, its ends included; of a bore, clear it to go through",
                       "a zone"),
            web_row(),
            zone_finish_row(),
            follows_row(),
            repeat_row(),
            near_end_row(),
            far_end_row()};
        for (Row& row : cross_hole_rows())
            all.push_back(row);
        return all;
    }();
    return rows;
}

void FormModel<PlainForm>::save(const Zone&, nlohmann::ordered_json&) {}
void FormModel<PlainForm>::load(Zone&, const nlohmann::json&) {}

std::string FormModel<PlainForm>::what(const Zone& z) {
    return std::string("a plain ") +
           (is_round(z)                           ? "round "
            : plain(z).outline == Outline::square ? "square "
            : is_flat(z)                          ? "flat "
                                                  : "hexagonal ") +
           (z.in_bore() ? "bore" : "zone");
}

std::string FormModel<PlainForm>::designation(const Zone& z, const Job& job, const Names& names) {
    std::optional<Length> length; // none: through
    if (!z.length.text.empty()) length = resolve_length(z.length, names);
    return write_designation(PlainBar{resolve_length(plain(z).diameter, names), plain(z).outline,
                                      is_flat(z) ? resolve_length(plain(z).thickness, names) : mm(0)},
                             length, job.unit);
}

void FormModel<PlainForm>::resolve(ZoneInPiece& at) {
    const PlainForm& f = plain(at.zone);
    ResolvedPlain plain;
    plain.outline = f.outline;
    at.out.diameter = at.out.far_diameter = whorl::at(
        at.place + "diameter", [&] { return length_in_range(f.diameter, at.names, "diameter", 0.1); });
    if (!f.far_diameter.text.empty())
        at.out.far_diameter = whorl::at(at.place + "far_diameter", [&] {
            if (f.outline != Outline::round)
                throw InputError("Only a plain round zone can be conical.", 0, f.far_diameter.text.size());
            return length_in_range(f.far_diameter, at.names, "far diameter", 0.1);
        });
    if (f.outline == Outline::flat) {
        if (at.zone.in_bore())
            throw JobError(InputError("A bore is round, hex or square; only an outer zone is flat."),
                           at.place + "outline");
        plain.thickness = whorl::at(at.place + "thickness", [&] {
            const Length t = length_in_range(f.thickness, at.names, "thickness", 0.1);
            if (!(in_mm(t) <= in_mm(at.out.diameter) - 1e-3))
                throw InputError("A flat bar is thinner than it is wide: less than " +
                                     number_text(in_mm(at.out.diameter), 3) +
                                     " mm here; a square one is square.",
                                 0, f.thickness.text.size());
            return t;
        });
    }
    at.out.form = plain;
    plain.cross = resolve_cross_holes(at);
    at.out.form = plain;
    if (at.zone.keyway.text.empty()) return;
    plain.keyway = whorl::at(at.place + "keyway", [&] { return resolve_keyway(at.zone, at.out, at.names); });
    for (const ResolvedZone& other : at.before.zones)
        if (other.gear() && !other.in_bore()) {
            plain.keyway->at = other.turned() + other.gear()->pitch_angle() / 2;
            break;
        }
    at.out.form = plain;
}

Radii FormModel<PlainForm>::radii_at(const ResolvedZone& zone, double z) {
    if (zone.outline() != Outline::round) return radii(zone); // the same all along
    const double x = in_mm(zone.length) > 0 ? (z - in_mm(zone.start)) / in_mm(zone.length) : 0,
                 r = in_mm(zone.diameter) / 2 + x * in_mm(zone.far_diameter - zone.diameter) / 2;
    return {r, zone.keyway() ? radii(zone).largest : r};
}

Radii FormModel<PlainForm>::radii(const ResolvedZone& z) {
    const double near = in_mm(z.diameter) / 2, far = in_mm(z.far_diameter) / 2;
    if (const auto* plain = z.as<ResolvedPlain>(); plain && plain->outline == Outline::flat)
        return {in_mm(plain->thickness) / 2, std::hypot(near, in_mm(plain->thickness) / 2)};
    if (z.outline() != Outline::round)
        return {near, near / std::cos(std::numbers::pi / (z.outline() == Outline::square ? 4 : 6))};
    if (const ResolvedKeyway* k = z.keyway())
        return {near, std::hypot(near + in_mm(k->depth), in_mm(k->width) / 2)};
    return {std::min(near, far), std::max(near, far)};
}

void FormModel<PlainForm>::keep(Zone& now, const Zone& was) {
    if (is_round(now)) (now.in_bore() ? now.keyway : now.web) = now.in_bore() ? was.keyway : was.web;
    if (!was.as<PlainForm>()) return;
    if (!now.in_bore()) std::get<PlainForm>(now.form).cross = plain(was).cross;
    now.near_end = was.near_end;
    now.far_end = was.far_end;
    if (!is_round(now)) // a quarter of a circle belongs to a cylinder
        for (EndTreatment* e : {&now.near_end, &now.far_end})
            if (e->kind == EndKind::edge || e->kind == EndKind::fillet) *e = {};
}

Job FormModel<PlainForm>::counterpart(const Job&, ZoneRef) {
    throw InputError("Only a threaded or toothed zone has a counterpart; this one is plain.");
}

Zone zone_asked(const PlainBar& bar, const Designation& whole) {
    PlainForm f;
    f.outline = bar.outline;
    if (bar.outline == Outline::flat) f.thickness = {exact_number(bar.thickness, whole.unit), whole.unit};
    f.diameter = {exact_number(bar.diameter, whole.unit), whole.unit};
    Zone z;
    z.form = f;
    z.length = {length_text(whole.length.value_or(bar.diameter * 3), whole.unit), whole.unit};
    return z;
}

Piece piece_asked(const PlainBar& bar, const Designation& d) {
    Piece p;
    p.name = write_designation(bar, d.length, d.unit);
    p.zones = {zone_asked(bar, d)};
    add_bore(p, d.body, d.unit);
    return p;
}

} // namespace whorl
