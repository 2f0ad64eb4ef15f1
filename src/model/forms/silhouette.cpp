#include "model/forms/silhouette.hpp"

#include "model/forms/common_rows.hpp"
#include "model/number_json.hpp"
#include "model/resolve_zone.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

const SilhouetteForm& shape(const Zone& z) {
    return std::get<SilhouetteForm>(z.form);
}
SilhouetteForm& shape(Zone& z) {
    return std::get<SilhouetteForm>(z.form);
}
const ResolvedSilhouette& shape(const ResolvedZone& z) {
    return *z.silhouette();
}

bool is_hollow(const Zone& z) {
    return !shape(z).wall.text.empty();
}
bool has_points(const Zone& z) {
    return !is_hollow(z);
}
bool may_flute(const Zone& z) {
    return !is_hollow(z) && !z.in_bore();
}
bool is_fluted(const Zone& z) {
    return may_flute(z) && !shape(z).flutes.text.empty();
}

bool has_colon(const std::string& text) {
    return text.find(':') != std::string::npos;
}

std::vector<CurvePoint> points_of(const Number& n, const Names& names) {
    return parse_points(n.text, n.unit, names);
}

template<auto Member>
std::string curve_get(const Zone& z, const Reading& as) {
    return points_in(shape(z).*Member, as.unit, as.names);
}

constexpr ChoiceWord course_words[]{{"spline"}, {"monotone"}, {"arcs", "arc"}};
constexpr ChoiceWord inside_words[]{{"fluted"}, {"smooth"}};

Row course_row() {
    return {.field = field::course,
            .label = "Course",
            .tip = "Between the points: spline (even curvature), monotone (nothing beyond them) or arcs",
            .of = "a silhouette",
            .kind = RowKind::choice,
            .choice = choice_of<&SilhouetteForm::course, course_words>,
            .applies = has_points,
            .kept = {.key = "course"}};
}

Row inside_row() {
    return {.field = field::inside,
            .label = "Inside",
            .tip = "fluted as its silhouette is, or smooth",
            .of = "a hollow",
            .kind = RowKind::choice,
            .choice = choice_of<&SilhouetteForm::smooth, inside_words>,
            .applies = is_hollow,
            .kept = {.key = "smooth", .flag = true}};
}

} // namespace

std::string points_in(const Number& n, LengthUnit unit, const Names& names) {
    if (n.text.empty() || n.unit == unit) return n.text;
    if (!has_colon(n.text)) return typed_as(n, unit, names);
    return write_points(points_of(n, names), unit);
}

std::span<const Row> FormModel<SilhouetteForm>::rows() {
    static const Row rows[]{
        {.field = field::points,
         .label = "Points",
         .tip = "height:radius from the near end, blanks between; height:radius:angle says the tangent's "
                "angle too",
         .of = "a silhouette",
         .kind = RowKind::text,
         .number = member<&SilhouetteForm::points>,
         .get = curve_get<&SilhouetteForm::points>,
         .set =
             [](Zone& z, const Typed& t) {
                 if (points_of(t.number(), t.names).size() < 2)
                     t.refuse("A silhouette goes through two points or more, such as 0:30 60:38 180:16, "
                              "height:radius.");
                 shape(z).points = t.number();
             },
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading&) {
                 return Shown{std::to_string(shape(r).spec.points.size()) + " points"};
             },
         .applies = has_points,
         .kept = {.key = "points"}},
        course_row(),
        {.field = field::wall,
         .label = "Wall",
         .tip = "The least that is left of it anywhere",
         .of = "a hollow",
         .kind = RowKind::length,
         .number = member<&SilhouetteForm::wall>,
         .set =
             [](Zone& z, const Typed& t) {
                 if (t.text.empty())
                     t.refuse("A hollow needs its wall, such as 1.5; delete the zone to fill it.");
                 set_length(shape(z).wall, t);
             },
         .applies = is_hollow,
         .kept = {.key = "wall"}},
        {.field = field::bottom,
         .label = "Bottom",
         .tip = "How thick it is, where the hollow's length is not said",
         .of = "a hollow",
         .kind = RowKind::length,
         .number = member<&SilhouetteForm::bottom>,
         .set =
             [](Zone& z, const Typed& t) {
                 set_length(shape(z).bottom, t);
                 if (!t.text.empty()) z.length = {};
             },
         .applies = [](const Zone& z) { return is_hollow(z) && z.where == Where::far_bore; },
         .kept = {.key = "bottom"}},
        inside_row(),
        {.field = field::flutes,
         .label = "Flutes",
         .tip = "How many wind around it, 3 to 60; clear it for none",
         .of = "a silhouette outside",
         .kind = RowKind::count,
         .number = member<&SilhouetteForm::flutes>,
         .usual = "none",
         .applies = may_flute,
         .kept = {.key = "flutes"}},
        {.field = field::flute_depth,
         .label = "Flute depth",
         .tip = "In a scallop's middle: the largest, or a curve height:depth such as 20:0 60:4 150:0",
         .of = "a fluted silhouette",
         .kind = RowKind::text,
         .number = member<&SilhouetteForm::flute_depth>,
         .get = curve_get<&SilhouetteForm::flute_depth>,
         .set =
             [](Zone& z, const Typed& t) {
                 if (t.text.empty()) t.refuse("Flutes need their depth, such as 4.");
                 if (has_colon(t.text))
                     (void)points_of(t.number(), t.names);
                 else
                     (void)resolve_length(t.number(), t.names);
                 shape(z).flute_depth = t.number();
             },
         .shown =
             [](const Zone& z, const ResolvedZone& r, const Reading& as) {
                 if (!has_colon(shape(z).flute_depth.text)) return length_shown(shape(r).deepest, as.unit);
                 return Shown{"up to " + shown_length(shape(r).deepest, as.unit), symbol(as.unit)};
             },
         .applies = is_fluted,
         .kept = {.key = "flute_depth"}},
        {.field = field::flutes_from,
         .label = "Flutes from",
         .tip = "Height from the near end at which they begin to show",
         .of = "a fluted silhouette",
         .kind = RowKind::length,
         .number = member<&SilhouetteForm::flutes_from>,
         .usual = "the near end",
         .applies = is_fluted,
         .kept = {.key = "flutes_from"}},
        {.field = field::flutes_to,
         .label = "Flutes to",
         .tip = "Height from the near end at which they have faded out",
         .of = "a fluted silhouette",
         .kind = RowKind::length,
         .number = member<&SilhouetteForm::flutes_to>,
         .usual = "the far end",
         .applies = is_fluted,
         .kept = {.key = "flutes_to"}},
        {.field = field::twist,
         .label = "Twist",
         .tip = "What the flutes wind by from end to end; right-hand, negative for left-hand",
         .of = "a fluted silhouette",
         .kind = RowKind::angle,
         .number = member<&SilhouetteForm::twist>,
         .usual = "0°",
         .applies = is_fluted,
         .kept = {.key = "twist"}},
        {.field = field::ridge,
         .label = "Ridges",
         .tip = "Radius of the ridges between flutes where these are deepest; clear it for sharp ones",
         .of = "a fluted silhouette",
         .kind = RowKind::length,
         .number = member<&SilhouetteForm::ridge>,
         .usual = "sharp",
         .applies = is_fluted,
         .kept = {.key = "ridge"}},
        {.field = field::start_angle,
         .label = "Start angle",
         .tip = "Turns the flutes about the axis",
         .of = "a fluted silhouette",
         .kind = RowKind::angle,
         .number = member<&SilhouetteForm::start_angle>,
         .usual = "0°",
         .applies = is_fluted,
         .kept = {.key = "start_angle"}},
        length_row(
            "Length",
            "Of the zone: the points are stretched to it; clear it for theirs. Of a hollow: its depth, clear "
            "it for all but its bottom",
            "a zone"),
        zone_finish_row(),
        follows_row(),
        repeat_row(),
        [] {
            Row row = near_end_row();
            row.label = "Bottom's shape";
            row.tip = "flat, or rounded and a radius: dished, part of a ball";
            row.applies = [](const Zone& z) { return is_hollow(z) && z.where == Where::far_bore; };
            row.choices = [](const ResolvedZone&) { return Words{"flat", "rounded 80"}; };
            return row;
        }()};
    return rows;
}

void FormModel<SilhouetteForm>::save(const Zone&, nlohmann::ordered_json&) {}
void FormModel<SilhouetteForm>::load(Zone& z, const nlohmann::json& from) {
    if (!stands_in(from, "points")) shape(z).points = {};
    if (!stands_in(from, "bottom")) shape(z).bottom = SilhouetteForm{}.bottom;
}

std::string FormModel<SilhouetteForm>::what(const Zone& z) {
    return is_hollow(z) ? "a hollow" : std::string("a silhouette") + (z.in_bore() ? " in a bore" : "");
}

namespace {

SilhouetteSpec spec_of(const Zone& z, const std::string& place, const Names& names) {
    const SilhouetteForm& f = shape(z);
    SilhouetteSpec s;
    const auto length = [&](const Number& n, const char* key, const char* what, double least) {
        return in_mm(at(place + "silhouette." + key, [&] { return length_in_range(n, names, what, least); }));
    };
    s.in_bore = z.in_bore();
    s.course = f.course;
    s.points.clear();
    if (is_hollow(z)) {
        s.wall = length(f.wall, "wall", "wall of a hollow", 0.05);
        s.smooth = f.smooth;
        if (!f.bottom.text.empty()) s.bottom = length(f.bottom, "bottom", "bottom of a hollow", 0.01);
        return s;
    }
    s.points = at(place + "silhouette.points", [&] { return points_of(f.points, names); });
    if (f.flutes.text.empty() || z.in_bore()) return s;
    FluteSpec flutes;
    flutes.count = at(place + "silhouette.flutes", [&] {
        const double n = evaluate_number(f.flutes.text, names);
        if (!(n >= least_flutes && n <= most_flutes) || n != std::floor(n))
            throw InputError("Flutes are a whole number from " + std::to_string(least_flutes) + " to " +
                                 std::to_string(most_flutes) + ".",
                             0, f.flutes.text.size());
        return static_cast<int>(n);
    });
    if (has_colon(f.flute_depth.text))
        flutes.depths = at(place + "silhouette.flute_depth", [&] { return points_of(f.flute_depth, names); });
    else
        flutes.depth = length(f.flute_depth, "flute_depth", "depth of flutes", 0.001);
    const auto angle = [&](const Number& n, const char* key) {
        return n.text.empty()
                   ? 0
                   : at(place + "silhouette." + key, [&] { return in_rad(evaluate_angle(n.text, names)); });
    };
    const auto height = [&](const Number& n, const char* key) {
        return in_mm(at(place + "silhouette." + key, [&] { return resolve_length(n, names); }));
    };
    if (!f.flutes_from.text.empty()) flutes.from = height(f.flutes_from, "flutes_from");
    if (!f.flutes_to.text.empty()) flutes.to = height(f.flutes_to, "flutes_to");
    flutes.twist = angle(f.twist, "twist");
    flutes.turned = angle(f.start_angle, "start_angle");
    if (!f.ridge.text.empty()) flutes.ridge = length(f.ridge, "ridge", "radius of the ridges", 0.001);
    s.flutes = std::move(flutes);
    return s;
}

} // namespace

std::string FormModel<SilhouetteForm>::designation(const Zone& z, const Job& job, const Names& names) {
    std::optional<Length> length;
    if (is_hollow(z) && z.near_end.kind == EndKind::rounded && !z.near_end.radius.text.empty()) {
        SilhouetteSpec s = spec_of(z, {}, names);
        s.dish = in_mm(resolve_length(z.near_end.radius, names));
        return write_silhouette(s, length, job.unit);
    }
    if (!z.length.text.empty()) length = resolve_length(z.length, names);
    return write_silhouette(spec_of(z, {}, names), length, job.unit);
}

Length FormModel<SilhouetteForm>::length(const Zone& z, const Names& names) {
    if (!z.length.text.empty() || z.in_bore()) return length_in_range(z.length, names, "length");
    const auto points = points_of(shape(z).points, names);
    const double last = points.empty() ? 0 : points.back().at;
    if (!(last >= shortest_length && last <= longest_length))
        throw InputError(
            "A silhouette goes through two points or more, the last at the height of its end, such as "
            "0:30 60:38 180:16.");
    return mm(last);
}

Length FormModel<SilhouetteForm>::bottom(const Zone& z, const Names& names) {
    if (!is_hollow(z) || z.where != Where::far_bore || shape(z).bottom.text.empty()) return mm(0);
    return length_in_range(shape(z).bottom, names, "bottom of a hollow");
}

void FormModel<SilhouetteForm>::resolve(ZoneInPiece& where) {
    const bool dished = is_hollow(where.zone) && where.zone.where == Where::far_bore &&
                        where.zone.near_end.kind == EndKind::rounded;
    for (const EndTreatment* e : {&where.zone.near_end, &where.zone.far_end})
        if (e->kind != EndKind::flat && !(dished && e == &where.zone.near_end))
            throw JobError(
                InputError("A silhouette ends flat; give it another point, or put a plain zone beside it "
                           "for another end."),
                where.place + (e == &where.zone.near_end ? "near_end" : "far_end"));
    SilhouetteSpec s = spec_of(where.zone, where.place, where.names);
    if (dished) {
        const Number& radius = where.zone.near_end.radius;
        if (radius.text.empty())
            throw JobError(InputError("A dished bottom has a radius, such as rounded 60."),
                           where.place + "near_end");
        s.dish = in_mm(at(where.place + "near_end",
                          [&] { return length_in_range(radius, where.names, "radius of a dish"); }));
    }
    const double z0 = in_mm(where.out.start), z1 = in_mm(where.out.end());
    const std::string place = where.place + "silhouette";
    ResolvedShape out;
    if (s.wall) {
        if (where.zone.where == Where::outer)
            throw JobError(InputError("A hollow lies in a bore of a silhouette."), place);
        const ResolvedZone* outside = nullptr;
        for (const ResolvedZone& z : where.before.zones)
            if (!z.in_bore() && z.silhouette() && in_mm(z.end()) > z0 + 1e-9 && in_mm(z.start) < z1 - 1e-9 &&
                (!outside || in_mm(z.end()) > in_mm(outside->end())))
                outside = &z;
        if (!outside)
            throw JobError(
                InputError("A hollow keeps its distance from the silhouette it lies in; here is none. "
                           "Write for example silhouette 0:30 60:38 180:16 for the outside first."),
                place);
        out.silhouette =
            at(place + ".wall", [&] { return resolve_hollow(s, *outside->silhouette(), z0, z1); });
    } else {
        out.silhouette = at(place + ".points", [&] { return resolve_silhouette(s, z0, z1); });
    }
    const RadiusCurve& r = out.silhouette.wall->outer();
    where.out.diameter = mm(2 * r(s.wall ? out.silhouette.body_from : z0));
    where.out.far_diameter = mm(2 * r(z1));
    where.out.form = std::move(out);
}

Radii FormModel<SilhouetteForm>::radii_at(const ResolvedZone& zone, double z) {
    const ShapedWall& w = *zone.silhouette()->wall;
    return {w.least_radius(z), w.outer()(z)};
}

Radii FormModel<SilhouetteForm>::radii(const ResolvedZone& z) {
    const ShapedWall& w = *shape(z).wall;
    return {w.outer().least().value - (w.flutes() ? w.flutes()->depth.largest().value : 0),
            w.outer().largest().value};
}

void FormModel<SilhouetteForm>::keep(Zone&, const Zone&) {}

Job FormModel<SilhouetteForm>::counterpart(const Job&, ZoneRef) {
    throw InputError("Only a threaded or toothed zone has a counterpart; this one is a silhouette.");
}

Zone hollow_zone(Length wall, Length bottom, LengthUnit unit) {
    SilhouetteForm f;
    f.points = {};
    f.wall = {exact_number(wall, unit), unit};
    f.bottom = {exact_number(bottom, unit), unit};
    Zone z;
    z.where = Where::far_bore;
    z.length = {};
    z.form = std::move(f);
    return z;
}

namespace {
Zone hollow_asked(const SilhouetteSpec& s, LengthUnit unit) {
    Zone z = hollow_zone(mm(s.wall.value_or(1)), mm(s.bottom), unit);
    shape(z).smooth = s.smooth;
    if (s.dish) {
        z.near_end.kind = EndKind::rounded;
        z.near_end.radius = {exact_number(mm(*s.dish), unit), unit};
    }
    return z;
}
} // namespace

bool has_silhouette(const Piece& piece) {
    return std::any_of(piece.zones.begin(), piece.zones.end(),
                       [](const Zone& z) { return !z.in_bore() && z.as<SilhouetteForm>(); });
}

Job with_hollow(const Job& before, std::size_t piece, const SilhouetteSpec& hollow, LengthUnit unit) {
    Job job = before;
    Piece& p = job.pieces.at(piece);
    if (!has_silhouette(p))
        throw InputError(
            "A hollow keeps its distance from a silhouette; this piece has none. Write for example "
            "silhouette 0:30 60:38 180:16 first.");
    Zone made = hollow_asked(hollow, unit);
    const auto there = std::find_if(p.zones.begin(), p.zones.end(),
                                    [](const Zone& z) { return z.as<SilhouetteForm>() && is_hollow(z); });
    if (there == p.zones.end()) {
        p.zones.push_back(std::move(made));
    } else {
        made.where = there->where;
        made.finish = there->finish;
        *there = std::move(made);
    }
    return job;
}

Job with_hollow(const Job& before, std::size_t piece) {
    const ResolvedPiece r = resolve_piece(before.pieces.at(piece), resolve_names(before));
    double widest = 0;
    for (const ResolvedZone& z : r.zones)
        if (!z.in_bore() && z.silhouette()) widest = std::max(widest, z.silhouette()->wall->widest());
    SilhouetteSpec s;
    s.wall = std::max(1.0, std::round(widest / 20 * 2) / 2);
    s.bottom = 2 * *s.wall;
    return with_hollow(before, piece, s);
}

Zone zone_asked(const SilhouetteSpec& s, const Designation& whole) {
    const LengthUnit unit = whole.unit;
    const auto length = [unit](double l) { return Number{exact_number(mm(l), unit), unit}; };
    const auto degrees = [](double rad_) {
        return rad_ == 0 ? Number{} : Number{number_text(in_deg(rad(rad_)), 9), {}};
    };
    if (s.points.empty()) {
        return hollow_asked(s, unit);
    }
    SilhouetteForm f;
    f.points = {write_points(s.points, unit), unit};
    f.course = s.course;
    if (s.flutes) {
        f.flutes = {std::to_string(s.flutes->count), {}};
        f.flute_depth = s.flutes->depths.empty() ? length(s.flutes->depth)
                                                 : Number{write_points(s.flutes->depths, unit), unit};
        if (s.flutes->from) f.flutes_from = length(*s.flutes->from);
        if (s.flutes->to) f.flutes_to = length(*s.flutes->to);
        f.twist = degrees(s.flutes->twist);
        f.start_angle = degrees(s.flutes->turned);
        if (s.flutes->ridge > 0) f.ridge = length(s.flutes->ridge);
    }
    Zone z;
    if (s.in_bore) z.where = Where::near_bore;
    z.length = whole.length ? Number{exact_number(*whole.length, whole.unit), whole.unit}
               : s.in_bore  ? length(s.points.back().at)
                            : Number{};
    z.form = std::move(f);
    return z;
}

// One in a bore is cut into a round bar a quarter wider; a hollow alone into a plain silhouette.
Piece piece_asked(const SilhouetteSpec& s, const Designation& d) {
    Piece p;
    p.name = s.points.empty() ? "Hollow" : "Silhouette";
    Zone zone = zone_asked(s, d);
    if (s.points.empty()) {
        Zone outside;
        outside.form = SilhouetteForm{};
        outside.length = {};
        p.zones.push_back(std::move(outside));
    } else if (s.in_bore) {
        const double largest = RadiusCurve(s.points, s.course).largest().value,
                     length = d.length ? in_mm(*d.length) : s.points.back().at;
        Zone outside;
        outside.form = PlainForm{.diameter = {exact_number(mm(std::ceil(2.5 * largest)), {}), {}}};
        outside.length = {exact_number(mm(length), {}), {}};
        p.zones.push_back(std::move(outside));
        zone.length = {};
    }
    p.zones.push_back(std::move(zone));
    if (s.wall && !s.points.empty()) {
        p.zones.push_back(hollow_asked(s, d.unit));
    }
    return p;
}

} // namespace whorl
