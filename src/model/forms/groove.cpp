#include "model/forms/groove.hpp"

#include "model/pair_model.hpp"
#include "model/ready_zone.hpp"
#include "standard/running_fit.hpp"

#include "form/groove/section_points.hpp"
#include "model/forms/common_rows.hpp"
#include "model/resolve_zone.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

const GrooveForm& groove(const Zone& z) {
    return std::get<GrooveForm>(z.form);
}
GrooveForm& groove(Zone& z) {
    return std::get<GrooveForm>(z.form);
}
const ResolvedGroove& groove(const ResolvedZone& z) {
    return *z.groove();
}

bool has_angle(const Zone& z) {
    return groove(z).shape == GrooveShape::vee || groove(z).shape == GrooveShape::trapezium;
}

bool is_own(const Zone& z) {
    return groove(z).shape == GrooveShape::own;
}
bool is_not_own(const Zone& z) {
    return !is_own(z);
}

// Another section: one of one's own begins with what the groove was.
constexpr ChoiceWord shape_words[]{{"rect", "rectangle"}, {"round"}, {"vee", "v"}, {"trapezium"}, {"own"}};

void set_shape(Zone& z, const Typed& t) {
    GrooveForm& f = groove(z);
    const auto shape = static_cast<GrooveShape>(choose(t, shape_words));
    if (shape == GrooveShape::own && f.points.text.empty()) {
        const auto or_else = [&](const Number& n, double usual) {
            return n.text.empty() ? usual : in_mm(resolve_length(n, t.names));
        };
        const double w = or_else(f.width, 2), h = or_else(f.depth, w / 2);
        const double lean = f.shape == GrooveShape::rectangle ? 0 : std::min(w / 4, h / 2);
        std::vector<OwnPoint> p{{0, 0, 0}, {lean, -h, 0}, {w - lean, -h, 0}, {w, 0, 0}};
        f.points = {write_section_points(p, t.unit), t.unit};
    }
    if (shape != GrooveShape::own && f.shape == GrooveShape::own && f.depth.text.empty() &&
        f.across.text.empty())
        f.depth = {"1", LengthUnit::millimetre};
    f.shape = shape;
}

Row shape_row() {
    return {.field = field::groove,
            .label = "Groove",
            .tip = "Its section in the axial plane: rect, round, vee, trapezium or own",
            .of = "a groove",
            .kind = RowKind::choice,
            .choice = choice_of<&GrooveForm::shape, shape_words>,
            .set = set_shape,
            .kept = {.key = "shape", .always = true}};
}

int starts_of(const Zone& z, const Names& names) {
    const Number& asked = groove(z).starts;
    if (asked.text.empty()) return 1;
    const double n = evaluate_number(asked.text, names);
    if (!(n >= 1 && n <= most_groove_starts) || n != std::floor(n))
        throw InputError("A groove has a whole number of starts, 1 to " + std::to_string(most_groove_starts) +
                             ".",
                         0, asked.text.size());
    return static_cast<int>(n);
}
Length lead_of(const Zone& z, const Names& names) {
    return resolve_length(groove(z).pitch, names) * starts_of(z, names);
}

Row turns_row() {
    return {
        .field = field::turns,
        .label = "Turns",
        .tip = "Over the zone's length, quarters too; typing it sets the pitch",
        .of = "a thread or a groove",
        .kind = RowKind::number,
        .get =
            [](const Zone& z, const Reading& as) {
                if (z.length.text.empty()) return std::string();
                return number_text(resolve_length(z.length, as.names) / lead_of(z, as.names), 4);
            },
        .set =
            [](Zone& z, const Typed& t) {
                const double turns = evaluate_number(t.text, t.names);
                if (!(turns > 1e-3 && turns < 1e5)) t.refuse("The number of turns must be more than zero.");
                if (z.length.text.empty())
                    t.refuse("This groove goes through; give the zone a length first, or type the pitch.");
                groove(z).pitch = {
                    exact_number(resolve_length(z.length, t.names) / (turns * starts_of(z, t.names)), t.unit),
                    t.unit};
            },
        .shown = [](const Zone&, const ResolvedZone& r,
                    const Reading&) { return Shown{number_text(in_mm(r.length) / groove(r).lead(), 3)}; }};
}

} // namespace

std::span<const Row> FormModel<GrooveForm>::rows() {
    static const Row rows[]{
        shape_row(),
        diameter_row(member<&GrooveForm::diameter>, "Of the surface it is cut into"),
        far_diameter_row(member<&GrooveForm::far_diameter>,
                         "At the far end, for grooves on a cone; clear it for a cylinder"),
        {.field = field::points,
         .label = "Points",
         .tip =
             "position:depth along the axis, blanks between; position:depth:arc says how high an arc to the "
             "next point stands over its chord, into the metal",
         .of = "a groove of one's own section or a silhouette",
         .kind = RowKind::text,
         .number = member<&GrooveForm::points>,
         .get =
             [](const Zone& z, const Reading& as) {
                 const Number& n = groove(z).points;
                 return n.unit == as.unit || n.text.empty()
                            ? n.text
                            : write_section_points(parse_section_points(n.text, n.unit, as.names), as.unit);
             },
         .set =
             [](Zone& z, const Typed& t) {
                 (void)parse_section_points(t.text, t.unit, t.names);
                 groove(z).points = t.number();
             },
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading&) {
                 return Shown{std::to_string(groove(r).spec.points.size()) + " points"};
             },
         .applies = is_own,
         .kept = {.key = "points"}},
        {.field = field::groove_width,
         .label = "Width",
         .tip = "Along the axis, at the surface",
         .of = "a groove",
         .kind = RowKind::length,
         .number = member<&GrooveForm::width>,
         .applies = [](const Zone& z) { return groove(z).shape != GrooveShape::vee && !is_own(z); },
         .kept = {.key = "width"}},
        {.field = field::groove_angle,
         .label = "Angle",
         .tip = "Between the flanks",
         .of = "a groove with flanks aslant",
         .kind = RowKind::angle,
         .number = member<&GrooveForm::angle>,
         .usual = "60",
         .applies = has_angle,
         .kept = {.key = "angle"}},
        {.field = field::groove_depth,
         .label = "Depth",
         .tip = "From the surface; typed, the diameter across the grooves follows. Clear it for half-round",
         .of = "a groove",
         .kind = RowKind::length,
         .number = member<&GrooveForm::depth>,
         .set =
             [](Zone& z, const Typed& t) {
                 set_length(groove(z).depth, t);
                 if (!t.text.empty()) groove(z).across = {};
             },
         .shown =
             [](const Zone& z, const ResolvedZone& r, const Reading& as) {
                 const std::string value = shown_length(groove(r).depth, as.unit);
                 return Shown{groove(z).depth.text.empty() ? "follows, " + value : value, symbol(as.unit)};
             },
         .applies = is_not_own,
         .kept = {.key = "depth"}},
        {.field = field::across_grooves,
         .label = "Across grooves",
         .tip = "Diameter across the groove bottoms; typed, the depth follows",
         .of = "a groove",
         .kind = RowKind::length,
         .number = member<&GrooveForm::across>,
         .set =
             [](Zone& z, const Typed& t) {
                 set_length(groove(z).across, t);
                 if (!t.text.empty()) groove(z).depth = {};
             },
         .shown =
             [](const Zone& z, const ResolvedZone& r, const Reading& as) {
                 const std::string value = shown_length(groove(r).across, as.unit);
                 return Shown{groove(z).across.text.empty() ? "follows, " + value : value, symbol(as.unit)};
             },
         .applies = is_not_own,
         .kept = {.key = "across"}},
        {.field = field::pitch,
         .label = "Pitch",
         .tip = "Along the axis from groove to groove; the lead is the pitch × the starts",
         .of = "a thread or a groove",
         .kind = RowKind::length,
         .number = member<&GrooveForm::pitch>,
         .kept = {.key = "pitch", .always = true}},
        lead_row([](const Zone& z, const Reading& as) { return length_text(lead_of(z, as.names), as.unit); },
                 [](Zone& z, const Typed& t) {
                     const Length lead = resolve_length(t.number(), t.names);
                     groove(z).pitch = {exact_number(lead / starts_of(z, t.names), t.unit), t.unit};
                 },
                 [](const Zone&, const ResolvedZone& r, const Reading& as) {
                     return length_shown(groove(r).lead(), as.unit);
                 }),
        {.field = field::starts,
         .label = "Starts",
         .tip = "Number of grooves side by side, 1 to 60",
         .of = "a thread or a groove",
         .kind = RowKind::count,
         .number = member<&GrooveForm::starts>,
         .usual = "1",
         .kept = {.key = "starts"}},
        turns_row(),
        hand_row<&GrooveForm::hand>("right or left"),
        start_angle_row(member<&GrooveForm::start_angle>),
        geometry_row<&GrooveForm::simplified>(
            "The real groove, or the plain surface it is cut into; exports say which"),
        length_row("Length", "Length of the zone, its ends included; of a bore, clear it to go through",
                   "a zone"),
        zone_finish_row(),
        follows_row(),
        repeat_row(),
        near_end_row(),
        far_end_row()};
    return rows;
}

void FormModel<GrooveForm>::save(const Zone&, nlohmann::ordered_json&) {}
void FormModel<GrooveForm>::load(Zone& z, const nlohmann::json&) {
    groove(z).depth = {}; // unless it is said
}

std::string FormModel<GrooveForm>::what(const Zone& z) {
    return std::string("a groove") + (z.in_bore() ? " in a bore" : "");
}

namespace {
GrooveSpec groove_spec(const Zone& z, const std::string& place, const Names& names) {
    const GrooveForm& f = groove(z);
    GrooveSpec s;
    const auto length = [&](const Number& n, const char* key, const char* what) {
        return at(place + "groove." + key, [&] { return length_in_range(n, names, what, 0.001); });
    };
    s.shape = f.shape;
    s.hand = f.hand;
    s.side = z.in_bore() ? Side::internal : Side::external;
    const bool own = f.shape == GrooveShape::own;
    if (own)
        s.points = at(place + "groove.points",
                      [&] { return parse_section_points(f.points.text, f.points.unit, names); });
    s.diameter = length(f.diameter, "diameter", "diameter");
    if (f.shape != GrooveShape::vee && !own) s.width = length(f.width, "width", "width of a groove");
    s.depth.reset();
    if (!f.depth.text.empty() && !own) s.depth = length(f.depth, "depth", "depth of a groove");
    if (!f.across.text.empty() && !own) s.across = length(f.across, "across", "diameter across the grooves");
    if (f.depth.text.empty() && f.across.text.empty() && f.shape != GrooveShape::round && !own)
        throw JobError(
            InputError("A groove needs its depth, such as 1.5, or the diameter across its bottoms."),
            place + "groove.depth");
    if (!f.angle.text.empty())
        s.angle = at(place + "groove.angle", [&] { return in_rad(evaluate_angle(f.angle.text, names)); });
    s.pitch = length(f.pitch, "pitch", "pitch");
    s.starts = at(place + "groove.starts", [&] { return starts_of(z, names); });
    return s;
}
} // namespace

std::string FormModel<GrooveForm>::designation(const Zone& z, const Job& job, const Names& names) {
    std::optional<Length> length; // none: through
    if (!z.length.text.empty()) length = resolve_length(z.length, names);
    return write_groove(groove_spec(z, {}, names), length, job.unit);
}

void FormModel<GrooveForm>::resolve(ZoneInPiece& where) {
    require_ends(where, {EndKind::flat, EndKind::chamfer, EndKind::run_out, EndKind::milled},
                 "A grooved zone ends flat (the groove runs past it), in a chamfer, or the groove "
                 "runs out or is milled; put a plain zone beside it for another end.");
    const GrooveSpec s = groove_spec(where.zone, where.place, where.names);
    ResolvedGrooving out{at(where.place + "groove", [&] { return resolve_groove(s); }), 0, where.out.start};
    const GrooveForm& f = groove(where.zone);
    where.out.diameter = where.out.far_diameter = s.diameter;
    if (!f.far_diameter.text.empty())
        where.out.far_diameter = at(where.place + "groove.far_diameter", [&] {
            return length_in_range(f.far_diameter, where.names, "far diameter", 0.1);
        });
    out.simplified = f.simplified;
    out.taper = in_mm(where.out.far_diameter - where.out.diameter) / 2 / in_mm(where.out.length);
    if (!(std::abs(out.taper) <= 1))
        throw JobError(InputError("A cone with grooves is at most 45° steep; make the zone longer.", 0,
                                  f.far_diameter.text.size()),
                       where.place + "groove.far_diameter");
    if (!f.start_angle.text.empty())
        out.groove.section.start_angle = at(where.place + "groove.start_angle", [&] {
            return in_rad(evaluate_angle(f.start_angle.text, where.names));
        });
    where.out.form = std::move(out);
}

Radii FormModel<GrooveForm>::radii_at(const ResolvedZone& zone, double z) {
    return swept_radii_at(zone, z);
}

Radii FormModel<GrooveForm>::radii(const ResolvedZone& z) {
    const double surface = in_mm(z.diameter) / 2, far = in_mm(z.far_diameter) / 2, depth = groove(z).depth;
    if (z.simplified()) return {std::min(surface, far), std::max(surface, far)};
    if (z.in_bore()) return {std::min(surface, far), std::max(surface, far) + depth};
    return {std::min(surface, far) - depth, std::max(surface, far)};
}

void FormModel<GrooveForm>::keep(Zone& now, const Zone& was) {
    const auto* old = was.as<GrooveForm>();
    if (!old) return;
    groove(now).start_angle = old->start_angle;
    groove(now).simplified = old->simplified;
    now.near_end = was.near_end;
    now.far_end = was.far_end;
}

namespace {
// The middle of the running fit, written as what it is: the bore's size less its clearance.
Number pin_diameter(const Zone& bush, const Names& names) {
    const Number& bore = groove(bush).diameter;
    const auto fit = standard::running_fit(resolve_length(bore, names));
    const double less = fit ? in_mm(fit->middle()) : 0;
    const bool plain = bore.text.find_first_not_of("0123456789.") == std::string::npos;
    return {(plain ? bore.text : "(" + bore.text + ")") + " - " +
                number_text(in_unit(mm(less), bore.unit), 6) +
                (plain ? "" : std::string(" ") + symbol(bore.unit)),
            bore.unit};
}
} // namespace

// A bush's pin: it turns in the grooved bore.
template<>
const PairModel& pair_model<PairKind::bush_and_pin>() {
    static const PairModel model{.of = "a grooved bush and its pin",
                                 .fits =
                                     [](const Zone& first, const Zone& second) {
                                         const PlainForm* pin = second.as<PlainForm>();
                                         return first.as<GrooveForm>() && first.in_bore() && pin &&
                                                pin->outline == Outline::round && !second.in_bore();
                                     },
                                 .freedom = always<Freedom::shift>,
                                 .follow =
                                     [](Zone& second, const Zone& first, const Job& job) {
                                         std::get<PlainForm>(second.form).diameter =
                                             pin_diameter(first, resolve_names(job));
                                     }};
    return model;
}

Job FormModel<GrooveForm>::counterpart(const Job& before, ZoneRef ref) {
    Job job = before;
    const Piece& bush = job.pieces.at(ref.piece);
    const Zone& bore = bush.zones.at(ref.zone);
    if (!bore.in_bore())
        throw InputError("A grooved bore has its pin as a counterpart; grooves outside have none.");
    const Names names = resolve_names(job);
    const ResolvedPiece made = resolve_piece(bush, names);
    const Length d = groove(bore).far_diameter.text.empty() ? made.zones.at(ref.zone).diameter : mm(0);
    if (!standard::running_fit(d) || in_mm(d) <= 0)
        throw InputError("A pin that turns in a bore is made for cylinders up to 500 mm, ISO 286-2.");
    // as long as the bush and as much as the bore is wide beyond either end
    Zone pin = plain(d, rounded(made.length() + d * 2, 1));
    std::get<PlainForm>(pin.form).diameter = pin_diameter(bore, names);
    pin.near_end = pin.far_end = chamfer(45);
    Piece piece;
    piece.name = ("Pin for " + bush.name).substr(0, 80);
    piece.finish = "steel";
    piece.zones = {pin};
    job.pieces.push_back(std::move(piece));
    job.pairs.push_back({ref, {job.pieces.size() - 1, 0}, true, {}});
    return job;
}

Zone zone_asked(const GrooveSpec& s, const Designation& whole) {
    const auto length = [&](Length l) { return Number{exact_number(l, whole.unit), whole.unit}; };
    GrooveForm f;
    f.shape = s.shape;
    f.hand = s.hand;
    f.diameter = length(s.diameter);
    f.width = length(s.width);
    f.depth = s.depth ? length(*s.depth) : Number{};
    f.across = s.across ? length(*s.across) : Number{};
    if (s.shape == GrooveShape::vee || s.shape == GrooveShape::trapezium)
        f.angle = {number_text(in_deg(rad(s.angle)), 9), {}};
    if (s.shape == GrooveShape::own) f.points = {write_section_points(s.points, whole.unit), whole.unit};
    f.pitch = length(s.pitch);
    if (s.starts > 1) f.starts = {std::to_string(s.starts), {}};
    Zone z;
    if (s.side == Side::internal) z.where = Where::near_bore;
    z.length = whole.length               ? length(*whole.length)
               : s.side == Side::internal ? Number{}
                                          : length(s.diameter);
    z.form = std::move(f);
    return z;
}

// One in a bore is cut into a tube, its wall three times as thick as the groove is deep or a sixth of the bore.
Piece piece_asked(const GrooveSpec& s, const Designation& d) {
    Piece p;
    p.name = write_groove(s, d.length, d.unit);
    Zone z = zone_asked(s, d);
    if (s.side == Side::internal) {
        const double depth = resolve_groove(s).depth, wall = std::max(3 * depth, in_mm(s.diameter) / 6);
        p.zones.push_back(plain(rounded(s.diameter + mm(2 * wall), 1), d.length.value_or(s.diameter * 2)));
        z.length = {};
    }
    p.zones.push_back(std::move(z));
    return p;
}

} // namespace whorl
