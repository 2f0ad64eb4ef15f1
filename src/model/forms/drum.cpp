#include "model/forms/drum.hpp"

#include "model/pair_model.hpp"
#include "model/ready_zone.hpp"

#include "model/forms/common_rows.hpp"
#include "model/forms/follower.hpp"
#include "model/resolve_zone.hpp"

#include <cmath>

namespace whorl {
namespace {

const DrumForm& drum(const Zone& z) {
    return std::get<DrumForm>(z.form);
}
DrumForm& drum(Zone& z) {
    return std::get<DrumForm>(z.form);
}

bool is_line(const Zone& z) {
    return drum(z).track == TrackKind::line;
}
bool has_walls(const Zone& z) {
    return drum(z).track != TrackKind::line;
}

bool is_groove(const Zone& z) {
    return drum(z).track == TrackKind::groove;
}
bool rounds_corners(const Zone& z) {
    return has_walls(z) && drum(z).keep_corners != CornerKind::sharp;
}

constexpr ChoiceWord track_words[]{{"groove"}, {"rib"}, {"line"}};
constexpr ChoiceWord wall_words[]{{"rolled"}, {"straight"}};
constexpr ChoiceWord corner_words[]{{"rounded"}, {"blended"}, {"sharp"}}; // the last of a groove only

Row track_row() {
    return {.field = field::track,
            .label = "Track",
            .tip = "A groove sunk into the drum, a rib raised from it, or a line scored on it, for marking",
            .of = "a drum cam",
            .kind = RowKind::choice,
            .choice = choice_of<&DrumForm::track, track_words>,
            .kept = {.key = "kind"}};
}

Row walls_row() {
    return {.field = field::walls,
            .label = "Walls",
            .tip = "As the roller leaves them, or sunk straight in; the sheet says how far they differ",
            .of = "a drum cam",
            .kind = RowKind::choice,
            .choice = choice_of<&DrumForm::straight, wall_words>,
            .applies = has_walls,
            .kept = {.key = "walls"}};
}

Row corners_row() {
    return {
        .field = field::keep_corners,
        .label = "Corners",
        .tip =
            "Rounded by a parabola; blended, so that the acceleration does not jump; or, of a groove, sharp: "
            "the inner wall has an edge there, the outer goes round the roller",
        .of = "a drum cam",
        .kind = RowKind::choice,
        .choice = choice_of<&DrumForm::keep_corners, corner_words>,
        .set =
            [](Zone& z, const Typed& t) {
                const std::span<const ChoiceWord> words(corner_words);
                drum(z).keep_corners =
                    static_cast<CornerKind>(choose(t, is_groove(z) ? words : words.first(2)));
            },
        .choices =
            [](const ResolvedZone& z) {
                return z.drum()->spec.track == TrackKind::groove ? Words{"rounded", "blended", "sharp"}
                                                                 : Words{"rounded", "blended"};
            },
        .kept = {.key = "keep_corners"}};
}

int whole_turns(const Number& turns, const Names& names) {
    const double n = evaluate_number(turns.text, names);
    if (n != std::floor(n) || n < 1 || n > most_turns)
        throw InputError("A track has a whole number of turns, from 1 to " + std::to_string(most_turns) +
                         ".");
    return static_cast<int>(n);
}

Row length_of(Field field, const char* label, const char* tip, NumberPlace number, const char* key,
              const char* usual = nullptr, bool (*applies)(const Zone&) = nullptr) {
    return {.field = field,
            .label = label,
            .tip = tip,
            .of = "a drum cam",
            .kind = RowKind::length,
            .number = number,
            .usual = usual,
            .applies = applies,
            .kept = {.key = key}};
}

Row corner_radius_row() {
    Row row = length_of(field::corners, "Corner radius",
                        "That sharp corners are rounded by, in the surface developed on the drum's Ø; "
                        "unless it is typed, half the width + 1 mm at the bottom",
                        member<&DrumForm::corners>, "corners", nullptr, rounds_corners);
    row.shown = [](const Zone&, const ResolvedZone& r, const Reading& as) {
        const ResolvedDrum& d = *r.drum();
        const double radius = d.spec.corner ? in_mm(*d.spec.corner) : d.usual_corner();
        return Shown{(d.spec.corner ? "" : "follows, ") + shown_length(radius, as.unit), symbol(as.unit)};
    };
    return row;
}

DrumSpec drum_spec(const Zone& z, const std::string& place, const Names& names) {
    const DrumForm& f = drum(z);
    DrumSpec s;
    s.timing = at(place + "track.timing", [&] { return parse_timing(f.timing.text, f.timing.unit, names); });
    if (!f.turns.text.empty())
        s.timing.turns = at(place + "track.turns", [&] { return whole_turns(f.turns, names); });
    // another track than a groove keeps none
    if (f.track == TrackKind::groove || f.keep_corners != CornerKind::sharp) s.corners = f.keep_corners;
    s.diameter = at(place + "track.diameter", [&] { return length_in_range(f.diameter, names, "diameter"); });
    s.width =
        at(place + "track.width", [&] { return length_in_range(f.width, names, "width of the track"); });
    s.depth =
        at(place + "track.depth", [&] { return length_in_range(f.depth, names, "depth of the track"); });
    s.track = f.track;
    s.walls = f.straight ? WallKind::straight : WallKind::envelope;
    if (!f.corners.text.empty())
        s.corner = at(place + "track.corners",
                      [&] { return length_in_range(f.corners, names, "radius of the corners"); });
    if (!f.arm.text.empty())
        s.arm = at(place + "track.arm", [&] { return length_in_range(f.arm, names, "follower's arm"); });
    if (!f.from.text.empty())
        s.from = at(place + "track.from", [&] { return resolve_length(f.from, names); });
    s.clockwise = f.clockwise;
    if (!f.at.text.empty())
        s.at = at(place + "track.at", [&] { return in_rad(evaluate_angle(f.at.text, names)); });
    if (!f.speed.text.empty())
        s.rpm = at(place + "track.speed", [&] { return evaluate_number(f.speed.text, names); });
    s.load = {load_number(f.mass, names, place + "track.mass"), 0,
              load_number(f.force, names, place + "track.force")};
    return s;
}

} // namespace

std::span<const Row> FormModel<DrumForm>::rows() {
    static const Row rows[]{
        timing_row<&DrumForm::timing>(),
        diameter_row(member<&DrumForm::diameter>, "The track's length around it is π·d by construction",
                     "Drum Ø"),
        {.field = field::track_turns,
         .label = "Turns of the track",
         .tip = "That the timing takes together; after several the track has crossed itself",
         .of = "a drum cam",
         .kind = RowKind::count,
         .number = member<&DrumForm::turns>,
         .usual = "1",
         .kept = {.key = "turns"}},
        track_row(),
        length_of(field::track_width, "Track width",
                  "Of a groove the roller's diameter, of a rib its thickness", member<&DrumForm::width>,
                  "width", nullptr, has_walls),
        length_of(field::track_depth, "Track depth", "Of a groove, or the height of a rib",
                  member<&DrumForm::depth>, "depth", nullptr, has_walls),
        walls_row(),
        corners_row(),
        corner_radius_row(),
        length_of(field::corners, "Corner radius", "That corners of the line are rounded by",
                  member<&DrumForm::corners>, "corners", "sharp", is_line),
        length_of(field::arm, "Swing, arm",
                  "Of a follower that swings, from its pivot to the roller; none: it moves along the axis",
                  member<&DrumForm::arm>, "arm", "none"),
        length_of(field::track_from, "Track from", "Of its middle at lift 0 from the near end",
                  member<&DrumForm::from>, "from", "in the middle"),
        sense_row<&DrumForm::clockwise>(),
        stands_at_row<&DrumForm::at>(),
        speed_row<&DrumForm::speed>(),
        load_row<&DrumForm::mass>(field::follower_mass, "Follower mass, g", "All that moves with the roller",
                                  "mass"),
        load_row<&DrumForm::force>(field::preload, "Force on follower, N",
                                   "That the follower is pushed back by: weight and work together", "force"),
        length_row("Length", "Of the drum", "a zone")};
    return rows;
}

void FormModel<DrumForm>::save(const Zone&, nlohmann::ordered_json&) {}
void FormModel<DrumForm>::load(Zone&, const nlohmann::json&) {}

std::string FormModel<DrumForm>::what(const Zone&) {
    return "a drum cam";
}

std::string FormModel<DrumForm>::designation(const Zone& z, const Job& job, const Names& names) {
    return write_drum(drum_spec(z, {}, names), resolve_length(z.length, names), job.unit);
}

void FormModel<DrumForm>::resolve(ZoneInPiece& where) {
    if (where.zone.in_bore())
        throw JobError(InputError("A drum cam's track stands on the outside of a piece, not in a bore."),
                       where.place + "track");
    require_ends(where, {EndKind::flat}, "A drum cam ends flat; add a plain zone with a chamfer beside it.");
    const DrumSpec s = drum_spec(where.zone, where.place, where.names);
    ResolvedTrack out{at(where.place + "track", [&] { return resolve_drum(s, where.out.length); })};
    where.out.diameter = where.out.far_diameter = s.diameter;
    where.out.form = std::move(out);
}

Radii FormModel<DrumForm>::radii(const ResolvedZone& z) {
    const ResolvedDrum& d = *z.drum();
    return {std::min(d.radius, d.other_radius), std::max(d.radius, d.other_radius)};
}

void FormModel<DrumForm>::keep(Zone&, const Zone&) {}

template<>
const PairModel& pair_model<PairKind::drum_and_roller>() {
    static const PairModel model{.of = "a drum cam's groove and its roller",
                                 .fits =
                                     [](const Zone& first, const Zone& second) {
                                         const DrumForm* d = first.as<DrumForm>();
                                         return d && d->track == TrackKind::groove && can_follow_cam(second);
                                     },
                                 .freedom = always<Freedom::turned>,
                                 .follow = follow_cam};
    return model;
}

Job FormModel<DrumForm>::counterpart(const Job& job, ZoneRef at) {
    return add_follower(job, at);
}

Zone zone_asked(const DrumSpec& s, const Designation& whole) {
    const auto length = [&](Length l) { return Number{exact_number(l, whole.unit), whole.unit}; };
    DrumForm f;
    f.timing = {write_timing(s.timing, whole.unit), whole.unit};
    f.diameter = length(s.diameter);
    f.width = length(s.width);
    f.depth = length(s.depth);
    f.track = s.track;
    f.straight = s.walls == WallKind::straight;
    if (s.timing.turns > 1) f.turns = {std::to_string(s.timing.turns), {}};
    f.keep_corners = s.corners;
    if (s.corner) f.corners = length(*s.corner);
    if (s.from) f.from = length(*s.from);
    f.clockwise = s.clockwise;
    if (s.at != 0) f.at = {number_text(in_deg(rad(s.at)), 9), {}};
    if (s.arm) f.arm = length(*s.arm);
    if (s.rpm != 60) f.speed = {number_text(s.rpm, 9), {}};
    f.mass = load_text(s.load.mass);
    f.force = load_text(s.load.force);
    Zone z;
    z.length = length(whole.length.value_or(mm(50)));
    z.form = std::move(f);
    return z;
}

Piece piece_asked(const DrumSpec& s, const Designation& d) {
    Piece p;
    p.name = "Drum cam d" + number_text(in_unit(s.diameter, d.unit), 4);
    p.zones = {zone_asked(s, d)};
    add_bore(p, d.body, d.unit);
    return p;
}

} // namespace whorl
