#include "model/forms/lobe.hpp"

#include "model/edit.hpp"
#include "model/pair_model.hpp"

#include "model/ready_zone.hpp"

#include "model/forms/cam_rows.hpp"
#include "model/forms/common_rows.hpp"
#include "model/forms/follower.hpp"
#include "model/resolve_zone.hpp"

#include <sstream>

namespace whorl {
namespace {

const LobeForm& lobe(const Zone& z) {
    return std::get<LobeForm>(z.form);
}
LobeForm& lobe(Zone& z) {
    return std::get<LobeForm>(z.form);
}
const ResolvedCam& lobe(const ResolvedZone& z) {
    return *z.lobe();
}

// "50 60": arm and pivot, each an expression without blanks.
std::pair<Length, Length> swing_of(const Number& n, const Names& names) {
    std::istringstream words(n.text);
    std::string arm, centre, more;
    words >> arm >> centre >> more;
    if (centre.empty() || !more.empty())
        throw InputError(
            "A swinging follower is written by its arm and the distance of its pivot from the cam's axis, "
            "such as 50 60; none for one that moves straight.",
            0, n.text.size());
    return {resolve_length({arm, n.unit}, names), resolve_length({centre, n.unit}, names)};
}

constexpr ChoiceWord follower_words[]{{"roller"}, {"knife"}, {"flat"}, {"mushroom"}};

Row follower_row() {
    return {.field = field::follower,
            .label = "Follower",
            .tip = "What touches the lobe",
            .of = "a cam",
            .kind = RowKind::choice,
            .choice = choice_of<&LobeForm::follower, follower_words>,
            .kept = {.key = "follower", .always = true}};
}

Row length_of(Field field, const char* label, const char* tip, NumberPlace number, const char* key,
              bool (*applies)(const Zone&) = nullptr, const char* usual = nullptr) {
    return {.field = field,
            .label = label,
            .tip = tip,
            .of = "a cam's lobe",
            .kind = RowKind::length,
            .number = number,
            .usual = usual,
            .applies = applies,
            .kept = {.key = key}};
}

Row swing_row() {
    return {
        .field = field::swing,
        .label = "Swing",
        .tip =
            "Arm from pivot to roller, and the pivot's distance from the axis, such as 50 60; none: it moves "
            "straight",
        .of = "a cam's lobe",
        .kind = RowKind::text,
        .number = member<&LobeForm::swing>,
        .get =
            [](const Zone& z, const Reading& as) {
                const Number& n = lobe(z).swing;
                if (n.text.empty() || n.unit == as.unit) return n.text;
                const auto [arm, centre] = swing_of(n, as.names);
                return length_text(arm, as.unit) + " " + length_text(centre, as.unit);
            },
        .set =
            [](Zone& z, const Typed& t) {
                const bool none = t.text.empty() || t.lowered() == "none";
                if (!none) (void)swing_of(t.number(), t.names);
                lobe(z).swing = none ? Number{} : t.number();
                if (!none) lobe(z).offset = {};
            },
        .shown =
            [](const Zone& z, const ResolvedZone&, const Reading& as) {
                if (lobe(z).swing.text.empty()) return Shown{"none"};
                const auto [arm, centre] = swing_of(lobe(z).swing, as.names);
                return Shown{shown_length(in_mm(arm), as.unit) + ", pivot " +
                                 shown_length(in_mm(centre), as.unit),
                             symbol(as.unit)};
            },
        .applies =
            [](const Zone& z) {
                return lobe(z).conjugate.text.empty() && lobe(z).follower != FollowerKind::flat;
            },
        .kept = {.key = "swing"}};
}

} // namespace

namespace {
// A second lobe has all from the first.
bool own(const Zone& z) {
    return lobe(z).conjugate.text.empty();
}
bool grooved(const Zone& z) {
    return !lobe(z).disc.text.empty() && lobe(z).follower == FollowerKind::roller;
}
Row conjugate_row() {
    Row row = length_of(field::conjugate, "Followers apart",
                        "Of a conjugate pair: between the centres of both rollers; this lobe then has all "
                        "else from the one before it",
                        member<&LobeForm::conjugate>, "conjugate", [](const Zone& z) { return !own(z); });
    row.set = [](Zone& z, const Typed& t) { // cleared it would be a lobe of its own, with other rows
        if (t.text.empty()) t.refuse("How far both followers are apart is expected here, for example 60.");
        lobe(z).conjugate = t.number();
    };
    return row;
}
Row of_first(Row row) {
    if (!row.applies) row.applies = own;
    return row;
}
} // namespace

std::span<const Row> FormModel<LobeForm>::rows() {
    static const Row rows[]{
        of_first(timing_row<&LobeForm::timing>()),
        length_of(field::base_radius, "Base radius", "Of the profile, where the lift is 0",
                  member<&LobeForm::base_radius>, "base_radius", own),
        of_first(follower_row()),
        length_of(field::roller, "Roller Ø", "Of the follower's roller", member<&LobeForm::roller>, "roller",
                  [](const Zone& z) { return own(z) && lobe(z).follower == FollowerKind::roller; }),
        length_of(field::face_radius, "Face radius", "Of the mushroom's face", member<&LobeForm::face_radius>,
                  "face_radius",
                  [](const Zone& z) { return own(z) && lobe(z).follower == FollowerKind::mushroom; }),
        length_of(
            field::follower_offset, "Offset",
            "Of the follower's way from the axis; positive: on the side that eases the rise",
            member<&LobeForm::offset>, "offset",
            [](const Zone& z) {
                return own(z) && lobe(z).swing.text.empty() && lobe(z).follower != FollowerKind::flat;
            },
            "none"),
        swing_row(),
        length_of(
            field::disc, "Groove in a disc Ø",
            "A closed track that holds the roller both ways, sunk into the near face of a disc; none: an "
            "open "
            "cam",
            member<&LobeForm::disc>, "disc",
            [](const Zone& z) { return own(z) && lobe(z).follower == FollowerKind::roller; }, "none"),
        length_of(
            field::groove_depth, "Groove depth", "Of the track from the disc's face",
            member<&LobeForm::depth>, "depth", [](const Zone& z) { return own(z) && grooved(z); }, "5 mm"),
        conjugate_row(),
        of_first(sense_row<&LobeForm::clockwise>()),
        of_first(stands_at_row<&LobeForm::at>()),
        of_first(speed_row<&LobeForm::speed>()),
        of_first(load_row<&LobeForm::mass>(
            field::follower_mass, "Follower mass, g",
            "All that moves with the follower; of a swinging one reduced to its roller: moment of inertia / "
            "arm²",
            "mass")),
        of_first(load_row<&LobeForm::rate>(
            field::spring_rate, "Spring rate, N/mm",
            "Of the spring that holds the follower on; a spring of the job that goes with "
            "the lobe says it",
            "rate", true)),
        of_first(load_row<&LobeForm::force>(field::preload, "Force at lift 0, N",
                                            "That presses the follower on: spring, weight and work together",
                                            "force")),
        length_row("Width", "Length of the lobe along the shaft", "a zone")};
    return rows;
}

void FormModel<LobeForm>::save(const Zone&, nlohmann::ordered_json&) {}
void FormModel<LobeForm>::load(Zone&, const nlohmann::json&) {}

std::string FormModel<LobeForm>::what(const Zone&) {
    return "a cam's lobe";
}

namespace {
CamSpec cam_spec(const Zone& z, const std::string& place, const Names& names) {
    const LobeForm& f = lobe(z);
    CamSpec s;
    s.timing = at(place + "lobe.timing", [&] { return parse_timing(f.timing.text, f.timing.unit, names); });
    s.base_radius =
        at(place + "lobe.base_radius", [&] { return length_in_range(f.base_radius, names, "base radius"); });
    s.follower = f.follower;
    if (f.follower == FollowerKind::roller)
        s.size =
            at(place + "lobe.roller", [&] { return length_in_range(f.roller, names, "roller's diameter"); });
    else if (f.follower == FollowerKind::mushroom)
        s.size = at(place + "lobe.face_radius",
                    [&] { return length_in_range(f.face_radius, names, "face's radius"); });
    const bool flat = f.follower == FollowerKind::flat;
    if (!f.swing.text.empty() && !flat)
        at(place + "lobe.swing", [&] {
            const auto [arm, centre] = swing_of(f.swing, names);
            s.arm = arm;
            s.centre = centre;
            return 0;
        });
    else if (!f.offset.text.empty() && !flat)
        s.offset = at(place + "lobe.offset", [&] { return resolve_length(f.offset, names); });
    if (!f.disc.text.empty() && f.follower == FollowerKind::roller) {
        s.disc = at(place + "lobe.disc", [&] { return length_in_range(f.disc, names, "disc's diameter"); });
        if (!f.depth.text.empty())
            s.groove_depth =
                at(place + "lobe.depth", [&] { return length_in_range(f.depth, names, "groove's depth"); });
    }
    s.clockwise = f.clockwise;
    if (!f.at.text.empty())
        s.at = at(place + "lobe.at", [&] { return in_rad(evaluate_angle(f.at.text, names)); });
    if (!f.speed.text.empty())
        s.rpm = at(place + "lobe.speed", [&] { return evaluate_number(f.speed.text, names); });
    s.load = {load_number(f.mass, names, place + "lobe.mass"),
              load_number(f.rate, names, place + "lobe.rate"),
              load_number(f.force, names, place + "lobe.force")};
    return s;
}

// Of the second lobe of a pair: the first is the lobe before it that is none itself.
CamSpec second_spec(const ZoneInPiece& where) {
    const std::string place = where.place + "lobe.conjugate";
    const Number& asked = lobe(where.zone).conjugate;
    return at(place, [&] {
        const Length apart = length_in_range(asked, where.names, "distance of the followers");
        for (auto z = where.before.zones.rbegin(); z != where.before.zones.rend(); ++z)
            if (const ResolvedCam* first = z->lobe(); first && !first->spec.conjugate)
                return conjugate_of(first->spec, apart);
        throw InputError(
            "A second lobe follows the first one on its shaft; there is no lobe before this one.", 0,
            asked.text.size());
    });
}

// Whether the next lobe behind it is the second of its pair.
bool has_second(const ZoneInPiece& where) {
    for (const Zone* z = &where.zone + 1; z < where.all.data() + where.all.size(); ++z)
        if (z->as<LobeForm>()) return !own(*z);
    return false;
}

} // namespace

std::string FormModel<LobeForm>::designation(const Zone& z, const Job& job, const Names& names) {
    if (!own(z)) {
        CamSpec second;
        second.conjugate = resolve_length(lobe(z).conjugate, names);
        return write_cam(second, resolve_length(z.length, names), job.unit);
    }
    return write_cam(cam_spec(z, {}, names), resolve_length(z.length, names), job.unit);
}

void FormModel<LobeForm>::resolve(ZoneInPiece& where) {
    if (where.zone.in_bore())
        throw JobError(InputError("A cam's lobe stands on the outside of a piece, not in a bore."),
                       where.place + "lobe");
    require_ends(where, {EndKind::flat}, "A cam's lobe ends flat.");
    CamSpec s = own(where.zone) ? cam_spec(where.zone, where.place, where.names) : second_spec(where);
    s.held = own(where.zone) && has_second(where);
    ResolvedLobe out{at(where.place + "lobe", [&] { return resolve_cam(s, in_mm(where.out.length)); })};
    const double largest = s.disc                    ? in_mm(*s.disc) / 2
                           : out.cam.outline.empty() ? in_mm(s.base_radius) + out.cam.motion.highest
                                                     : out.cam.largest_radius;
    where.out.diameter = where.out.far_diameter = mm(2 * largest);
    where.out.form = std::move(out);
}

Radii FormModel<LobeForm>::radii(const ResolvedZone& z) {
    const ResolvedCam& c = lobe(z);
    if (c.spec.disc) return {in_mm(*c.spec.disc) / 2, in_mm(*c.spec.disc) / 2};
    if (!c.outline.empty()) return {c.least_radius, c.largest_radius};
    const double base = in_mm(c.spec.base_radius);
    return {base, base + c.motion.highest};
}

void FormModel<LobeForm>::keep(Zone&, const Zone&) {}

template<>
const PairModel& pair_model<PairKind::cam_and_follower>() {
    static const PairModel model{
        .of = "a cam and its follower",
        .fits = [](const Zone& first,
                   const Zone& second) { return first.as<LobeForm>() && can_follow_cam(second); },
        .freedom = always<Freedom::turned>,
        .follow = follow_cam};
    return model;
}

Job FormModel<LobeForm>::counterpart(const Job& job, ZoneRef at) {
    return add_follower(job, at);
}

namespace {
// Between the lobes of a pair: as thick as it can be below both.
Zone journal_for(const CamSpec& first, const CamSpec& second, double width) {
    const double low = std::min(in_mm(first.base_radius) + motion_of(first.timing).lowest,
                                in_mm(second.base_radius) + motion_of(second.timing).lowest);
    return plain(mm(std::max(1.0, std::floor(1.6 * low))), mm(std::max(1.0, std::round(width / 4))));
}
Zone second_lobe(const Zone& first, Number apart) {
    Zone z = first;
    z.form.emplace<LobeForm>(lobe(first)).conjugate = std::move(apart);
    return z;
}
} // namespace

Job add_conjugate(const Job& before, ZoneRef ref) {
    const Names names = resolve_names(before);
    const Piece& piece = before.pieces.at(ref.piece);
    const ResolvedPiece resolved = resolve_piece(piece, names);
    const ResolvedCam* first = resolved.zones.at(ref.zone).lobe();
    if (!first) throw InputError("Only a cam's lobe has a conjugate one.");
    if (first->spec.conjugate) throw InputError("This lobe is the second of its pair already.");
    const Length apart = rounded(usual_apart(first->spec), 0.5);
    const CamSpec second = conjugate_of(first->spec, apart);
    const Zone& zone = piece.zones[ref.zone];
    Job job = insert_zone(before, ref.piece, ref.zone + 1,
                          journal_for(first->spec, second, in_mm(resolved.zones[ref.zone].length)));
    return insert_zone(job, ref.piece, ref.zone + 2,
                       second_lobe(zone, {exact_number(apart, before.unit), before.unit}));
}

Zone zone_asked(const CamSpec& s, const Designation& whole) {
    const auto length = [&](Length l) { return Number{exact_number(l, whole.unit), whole.unit}; };
    LobeForm f;
    if (s.conjugate && s.timing.stretches.empty())
        f.conjugate = length(*s.conjugate);
    else
        f.timing = {write_timing(s.timing, whole.unit), whole.unit};
    f.base_radius = length(s.base_radius);
    f.follower = s.follower;
    if (s.follower == FollowerKind::roller) f.roller = length(s.size);
    if (s.follower == FollowerKind::mushroom) f.face_radius = length(s.size);
    if (in_mm(s.offset) != 0) f.offset = length(s.offset);
    if (s.swings())
        f.swing = {exact_number(*s.arm, whole.unit) + " " + exact_number(*s.centre, whole.unit), whole.unit};
    if (s.disc) {
        f.disc = length(*s.disc);
        f.depth = length(s.groove_depth);
    }
    f.clockwise = s.clockwise;
    if (s.at != 0) f.at = {number_text(in_deg(rad(s.at)), 9), {}};
    if (s.rpm != 60) f.speed = {number_text(s.rpm, 9), {}};
    f.mass = load_text(s.load.mass);
    f.rate = load_text(s.load.rate);
    f.force = load_text(s.load.force);
    Zone z;
    z.length = length(whole.length.value_or(of_unit(whole.unit == LengthUnit::inch ? 0.4 : 10, whole.unit)));
    z.form = std::move(f);
    return z;
}

Piece piece_asked(const CamSpec& s, const Designation& d) {
    Piece p;
    p.name = "Cam r" + number_text(in_unit(s.base_radius, d.unit), 4);
    p.zones = {zone_asked(s, d)};
    if (s.conjugate && !s.timing.stretches.empty()) {
        const double width = in_mm(d.length.value_or(of_unit(d.unit == LengthUnit::inch ? 0.4 : 10, d.unit)));
        p.zones.push_back(journal_for(s, conjugate_of(s, *s.conjugate), width));
        p.zones.push_back(second_lobe(p.zones[0], {exact_number(*s.conjugate, d.unit), d.unit}));
    }
    add_bore(p, d.body, d.unit);
    return p;
}

} // namespace whorl
