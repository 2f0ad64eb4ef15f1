#include "model/forms/rack.hpp"

#include "model/ready_zone.hpp"

#include "model/edit.hpp"
#include "model/forms/common_rows.hpp"
#include "model/forms/teeth.hpp"
#include "model/number_json.hpp"
#include "model/resolve_zone.hpp"

#include <cmath>

namespace whorl {
namespace {

const RackForm& rack(const Zone& z) {
    return std::get<RackForm>(z.form);
}
RackForm& rack(Zone& z) {
    return std::get<RackForm>(z.form);
}

// Of the whole; typed, the teeth follow from it.
Row whole_length_row() {
    Row r = length_row("Length", "Of the whole rack; typed, the teeth follow from it", "a zone");
    r.set = [](Zone& z, const Typed& t) {
        set_length(z.length, t);
        rack(z).teeth.count = {};
    };
    r.shown = [](const Zone&, const ResolvedZone& z, const Reading& as) {
        return Shown{(z.rack()->spec.length ? "" : "follows, ") + shown_length(z.rack()->length, as.unit),
                     symbol(as.unit)};
    };
    return r;
}

// Typed, the length follows from them.
Row whole_teeth_row() {
    Row r = teeth_row("Whole teeth; typed, the length follows from them");
    r.set = [](Zone& z, const Typed& t) {
        rack(z).teeth.count = t.number();
        z.length = {};
    };
    return r;
}

template<Number RackForm::*Member>
Row bar_row(Field field, const char* label, const char* tip) {
    return {.field = field,
            .label = label,
            .tip = tip,
            .of = "a rack",
            .kind = RowKind::length,
            .number = member<Member>,
            .set = [](Zone& z, const Typed& t) { rack(z).*Member = t.number(); }};
}

template<Number RackForm::*Member, Length RackSpec::*Resolved>
Row plain_end_row(Field field, const char* label) {
    Row r = bar_row<Member>(field, label,
                            "Left uncut beyond the last space; clear it to cut the rack off in the middle of "
                            "a space");
    r.shown = [](const Zone&, const ResolvedZone& z, const Reading& as) {
        const double uncut = in_mm(z.rack()->spec.*Resolved);
        return uncut == 0 ? Shown{"in a space"}
                          : Shown{shown_length(uncut, as.unit) + " uncut", symbol(as.unit)};
    };
    return r;
}

} // namespace

std::span<const Row> FormModel<RackForm>::rows() {
    static const Row height = [] {
        Row r = bar_row<&RackForm::height>(field::body_height, "Height",
                                           "Of the body, from its back to the tips");
        r.key = "height";
        return r;
    }();
    static const Row kept_only = [] { // files of racks may hold one, which means nothing
        Row r = profile_shift_row();
        r.applies = [](const Zone&) { return false; };
        return r;
    }();
    static const Row rows[]{
        module_row(),
        whole_teeth_row(),
        whole_length_row(),
        bar_row<&RackForm::width>(field::face_width, "Face width", "Across the teeth"),
        height,
        plain_end_row<&RackForm::near_plain, &RackSpec::near_plain>(field::near_plain, "Near end"),
        plain_end_row<&RackForm::far_plain, &RackSpec::far_plain>(field::far_plain, "Far end"),
        pressure_angle_row("Of the flanks, normal"),
        helix_angle_row("Between the teeth and the breadth of the face; a minus sign turns it round"),
        helix_hand_row("As of a gear; its gear has the other one. Ctrl+H flips it"),
        basic_rack_row(),
        tip_shortening_row(),
        tip_edge_row(),
        thinning_row(),
        kept_only};
    return rows;
}

// The bar stands in an object of its own, by which a rack is told from a gear.
bool FormModel<RackForm>::found(const nlohmann::json& zone) {
    return stands_in(zone, "teeth") && stands_in(part_at(zone, "teeth"), "rack");
}

void FormModel<RackForm>::save(const Zone& z, nlohmann::ordered_json& to) {
    nlohmann::ordered_json& bar = part_of(to, "rack");
    put_number(bar, "face_width", rack(z).width);
    put_number(bar, "height", rack(z).height);
    if (!rack(z).near_plain.text.empty()) put_number(bar, "near_plain", rack(z).near_plain);
    if (!rack(z).far_plain.text.empty()) put_number(bar, "far_plain", rack(z).far_plain);
}

void FormModel<RackForm>::load(Zone& z, const nlohmann::json& from) {
    const nlohmann::json& bar = part_at(from, "rack");
    rack(z).width = number_at(bar, "face_width");
    rack(z).height = number_at(bar, "height");
    rack(z).near_plain = number_at(bar, "near_plain");
    rack(z).far_plain = number_at(bar, "far_plain");
}

std::string FormModel<RackForm>::what(const Zone&) {
    return "a rack";
}

std::string FormModel<RackForm>::designation(const Zone& z, const Job&, const Names& names) {
    return write_rack(rack_spec(z, {}, names));
}

void FormModel<RackForm>::resolve(ZoneInPiece& where) {
    if (where.zone.in_bore())
        throw JobError(
            InputError("A rack is a bar with teeth along it; it can't be a thread, a hexagon or a bore."),
            where.place + "teeth");
    const RackSpec s = rack_spec(where.zone, where.place, where.names);
    ResolvedBar bar{at(where.place + "teeth", [&] { return resolve_rack(s); })};
    where.out.length = mm(bar.rack.length);
    where.out.diameter = where.out.far_diameter = s.height;
    where.out.form = std::move(bar);
}

Radii FormModel<RackForm>::radii(const ResolvedZone& z) {
    const RackSpec& s = z.rack()->spec;
    const double across = std::hypot(in_mm(s.height), in_mm(s.width)) / 2;
    return {in_mm(s.height) / 2, across};
}

void FormModel<RackForm>::keep(Zone&, const Zone&) {}

Job FormModel<RackForm>::counterpart(const Job& job, ZoneRef at) {
    return add_mate(job, at.piece, at.zone);
}

Zone zone_asked(const RackSpec& s, const Designation& whole) {
    const auto length = [&](Length l) { return Number{exact_number(l, whole.unit), whole.unit}; };
    Zone z;
    RackForm f;
    f.teeth = teeth_asked(s, whole.unit);
    f.width = length(s.width);
    f.height = length(s.height);
    if (in_mm(s.near_plain) > 0) f.near_plain = length(s.near_plain);
    if (in_mm(s.far_plain) > 0) f.far_plain = length(s.far_plain);
    z.length = s.teeth ? Number{} : length(*s.length);
    z.form = std::move(f);
    return z;
}

Piece piece_asked(const RackSpec& r, const Designation& d) {
    Piece p;
    p.name = write_rack(r);
    p.zones = {zone_asked(r, d)};
    return p;
}

} // namespace whorl
