#include "model/forms/bend.hpp"

#include "model/forms/common_rows.hpp"
#include "model/pair_model.hpp"
#include "model/ready_zone.hpp"
#include "model/resolve_zone.hpp"

#include "standard/screw_hole.hpp"

#include <cmath>
#include <numbers>

namespace whorl {
namespace {

const BendForm& bend(const Zone& z) {
    return std::get<BendForm>(z.form);
}
constexpr ChoiceWord measured_words[]{{"centreline"}, {"inside"}};

Row measured_row() {
    return {.field = field::bend_measured,
            .label = "Radius to the",
            .tip = "Whether the radius reaches to the bar's centreline or to its inside",
            .of = "a bend",
            .kind = RowKind::choice,
            .choice = choice_of<&BendForm::inside, measured_words>,
            .kept = {.key = "measured"}};
}

BendSpec bend_spec(const Zone& z, const std::string& place, const Names& names) {
    const BendForm& f = bend(z);
    BendSpec s;
    s.diameter =
        at(place + "bend.diameter", [&] { return length_in_range(f.diameter, names, "diameter", 0.1); });
    s.angle = at(place + "bend.angle", [&] { return in_rad(evaluate_angle(f.angle.text, names)); });
    s.inside = f.inside;
    s.radius =
        at(place + "bend.radius", [&] { return length_in_range(f.radius, names, "radius of the bend"); });
    if (s.inside) s.radius += s.diameter / 2;
    if (!f.roll.text.empty())
        s.roll = at(place + "bend.roll", [&] { return in_rad(evaluate_angle(f.roll.text, names)); });
    return s;
}

bool is_u(const BendSpec& s) {
    return std::abs(s.angle - std::numbers::pi) < 1e-6;
}

} // namespace

std::span<const Row> FormModel<BendForm>::rows() {
    static const Row rows[]{diameter_row(member<&BendForm::diameter>, "Of the bar, outside"),
                            {.field = field::bend_angle,
                             .label = "Angle",
                             .tip = "That the bar is bent by: 90 for an elbow, 180 for a U",
                             .of = "a bend",
                             .kind = RowKind::angle,
                             .number = member<&BendForm::angle>,
                             .kept = {.key = "angle", .always = true}},
                            {.field = field::bend_radius,
                             .label = "Radius",
                             .tip = "Of the bend, more than half the bar's thickness to its centreline",
                             .of = "a bend",
                             .kind = RowKind::length,
                             .number = member<&BendForm::radius>,
                             .kept = {.key = "radius", .always = true}},
                            measured_row(),
                            {.field = field::roll,
                             .label = "Roll",
                             .tip = "Of its plane about the bar, from that of the bend before: 0 goes on the "
                                    "same way, 180 back again",
                             .of = "a bend",
                             .kind = RowKind::angle,
                             .number = member<&BendForm::roll>,
                             .usual = "0",
                             .kept = {.key = "roll"}},
                            zone_finish_row(),
                            follows_row(),
                            repeat_row()};
    return rows;
}

void FormModel<BendForm>::save(const Zone&, nlohmann::ordered_json&) {}
void FormModel<BendForm>::load(Zone&, const nlohmann::json&) {}

std::string FormModel<BendForm>::what(const Zone&) {
    return "a bend";
}

std::string FormModel<BendForm>::designation(const Zone& z, const Job& job, const Names& names) {
    return write_bend(bend_spec(z, {}, names), job.unit);
}

Length FormModel<BendForm>::length(const Zone& z, const Names& names) {
    return mm(resolve_bend(bend_spec(z, {}, names)).length());
}

void FormModel<BendForm>::resolve(ZoneInPiece& where) {
    if (where.zone.in_bore())
        throw JobError(InputError("A bend bends the whole bar; its bores follow it by themselves."),
                       where.place + "bend");
    require_ends(where, {EndKind::flat},
                 "A bend ends square to the bar; add a straight zone with an end of its own "
                 "beside it.");
    const BendSpec s = bend_spec(where.zone, where.place, where.names);
    ResolvedElbow out{at(where.place + "bend", [&] { return resolve_bend(s); })};
    where.out.diameter = where.out.far_diameter = s.diameter;
    where.out.form = std::move(out);
}

Radii FormModel<BendForm>::radii(const ResolvedZone& z) {
    return {z.bend()->bar, z.bend()->bar};
}

void FormModel<BendForm>::keep(Zone&, const Zone&) {}

// A U's two legs go through two holes of a plate.
namespace {
void follow_clamp(Zone& second, const Zone& first, const Job& job) {
    const Names names = resolve_names(job);
    const BendSpec s = bend_spec(first, {}, names);
    if (!is_u(s)) return; // only a U has two legs side by side
    CrossHoles& holes = std::get<PlainForm>(second.form).cross;
    if (!holes.spacing.text.empty()) // as much beside them as there was
        if (const Length more = s.radius * 2 - resolve_length(holes.spacing, names);
            std::abs(in_mm(more)) > 1e-9)
            second.length = millimetres(resolve_length(second.length, names) + more);
    holes.diameter = millimetres(standard::clearance_hole(s.diameter));
    holes.count = {"2", {}};
    holes.spacing = millimetres(s.radius * 2);
}
} // namespace

template<>
const PairModel& pair_model<PairKind::clamp_and_strap>() {
    static const PairModel model{.of = "a U-clamp and its strap",
                                 .fits =
                                     [](const Zone& first, const Zone& second) {
                                         const PlainForm* plate = second.as<PlainForm>();
                                         return first.as<BendForm>() && plate &&
                                                plate->outline == Outline::flat &&
                                                !plate->cross.diameter.text.empty();
                                     },
                                 .freedom = always<Freedom::shift>,
                                 .follow = follow_clamp};
    return model;
}

Job FormModel<BendForm>::counterpart(const Job& before, ZoneRef ref) {
    Job job = before;
    const Piece& clamp = job.pieces.at(ref.piece);
    const BendSpec s = bend_spec(clamp.zones.at(ref.zone), {}, resolve_names(job));
    if (!is_u(s))
        throw InputError("A bend by 180° has a plate across its legs as its counterpart; this one bends by " +
                         number_text(in_deg(rad(s.angle)), 3) +
                         "°. Threads and teeth have theirs when their zone is selected.");
    // three holes wide, which leaves one on either side of each; four fifths of the bar thick
    const Length hole = standard::clearance_hole(s.diameter), width = rounded(hole * 3, 1);
    PlainForm plate;
    plate.outline = Outline::flat;
    plate.diameter = millimetres(width);
    plate.thickness = millimetres(rounded(s.diameter * 0.8, 1));
    plate.cross.diameter = millimetres(hole);
    plate.cross.spacing = millimetres(s.radius * 2);
    Zone zone;
    zone.form = plate;
    zone.length = millimetres(rounded(s.radius * 2 + width, 1));
    Piece made;
    made.name = ("Plate for " + clamp.name).substr(0, 80);
    made.finish = clamp.finish;
    made.zones = {zone};
    job.pieces.push_back(std::move(made));
    job.pairs.push_back({ref, {job.pieces.size() - 1, 0}, true, {}});
    return job;
}

Zone zone_asked(const BendSpec& s, const Designation& whole) {
    const auto length = [&](Length l) { return Number{exact_number(l, whole.unit), whole.unit}; };
    BendForm f;
    f.diameter = length(s.diameter);
    f.angle = {number_text(in_deg(rad(s.angle)), 9), {}};
    f.inside = s.inside;
    f.radius = length(s.inside ? s.radius - s.diameter / 2 : s.radius);
    if (s.roll != 0) f.roll = {number_text(in_deg(rad(s.roll)), 9), {}};
    Zone z;
    z.length = {};
    z.form = std::move(f);
    return z;
}

// Between straight ends of twice the bar's diameter.
Piece piece_asked(const BendSpec& s, const Designation& d) {
    Piece p;
    p.name = write_bend(s, d.unit);
    const Zone end = plain(s.diameter, s.diameter * 2);
    p.zones = {end, zone_asked(s, d), end};
    return p;
}

} // namespace whorl
