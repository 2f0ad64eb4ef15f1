#include "model/forms/cross_rows.hpp"

#include "model/forms/common_rows.hpp"
#include "model/resolve_zone.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

constexpr int most_cross_holes = 40;

CrossHoles& holes(Zone& z) {
    return std::get<PlainForm>(z.form).cross;
}
const CrossHoles& holes(const Zone& z) {
    return std::get<PlainForm>(z.form).cross;
}

template<Number CrossHoles::*Member>
constexpr NumberPlace of_holes{[](Zone& z) -> Number& { return holes(z).*Member; },
                               [](const Zone& z) -> const Number& { return holes(z).*Member; }};

bool drilled(const Zone& z) {
    return !z.in_bore() && !holes(z).diameter.text.empty();
}
constexpr ChoiceWord side_words[]{{"through"}, {"one side", "one|side", "one"}};
constexpr const char* who = "a plain outer zone with a cross hole";

} // namespace

std::vector<Row> cross_hole_rows() {
    return {
        {.field = field::cross_hole,
         .label = "Cross hole",
         .tip = "Diameter of a hole square to the axis, for a split pin, a pin, oil or a screw; clear it for "
                "none",
         .of = "a plain outer zone",
         .kind = RowKind::length,
         .number = of_holes<&CrossHoles::diameter>,
         .set =
             [](Zone& z, const Typed& t) {
                 holes(z).diameter = t.lowered() == "none" ? Number{} : t.number();
                 if (holes(z).diameter.text.empty()) holes(z) = {};
             },
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading& as) {
                 return r.cross() ? length_shown(2 * r.cross()->radius, as.unit) : Shown{"none"};
             },
         .usual = "none",
         .applies = [](const Zone& z) { return !z.in_bore(); },
         .frees_pair = true,
         .kept = {.key = "cross_hole"}},
        {.field = field::cross_hole_at,
         .label = "… at",
         .tip = "From the zone's near end to the hole's axis, of several to the middle of their row",
         .of = who,
         .kind = RowKind::length,
         .number = of_holes<&CrossHoles::at>,
         .usual = "in the middle",
         .applies = drilled,
         .kept = {.key = "cross_hole_at"}},
        {.field = field::cross_hole_turned,
         .label = "… turned",
         .tip =
             "About the axis, in degrees; 0 is upwards in the side view, in a flat bar through its wide face",
         .of = who,
         .kind = RowKind::angle,
         .number = of_holes<&CrossHoles::turned>,
         .usual = "0",
         .applies = drilled,
         .kept = {.key = "cross_hole_turned"}},
        {.field = field::cross_hole_side,
         .label = "… goes",
         .tip = "through the piece, or from one side into its bore",
         .of = who,
         .kind = RowKind::choice,
         .choice = {side_words, [](const Zone& z) { return static_cast<std::size_t>(holes(z).one_side); },
                    [](Zone& z, std::size_t at) { holes(z).one_side = at == 1; }},
         .applies = drilled,
         .kept = {.key = "cross_hole_side"}},
        {.field = field::cross_holes,
         .label = "… in a row of",
         .tip = "How many along the zone",
         .of = who,
         .kind = RowKind::count,
         .number = of_holes<&CrossHoles::count>,
         .usual = "1",
         .applies = drilled,
         .frees_pair = true,
         .kept = {.key = "cross_holes"}},
        {.field = field::cross_hole_spacing,
         .label = "… apart",
         .tip = "From axis to axis of a row; clear it to spread them evenly along the zone",
         .of = who,
         .kind = RowKind::length,
         .number = of_holes<&CrossHoles::spacing>,
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading& as) {
                 return r.cross() ? length_shown(r.cross()->spacing, as.unit) : Shown{};
             },
         .applies = [](const Zone& z) { return drilled(z) && !holes(z).count.text.empty(); },
         .frees_pair = true,
         .kept = {.key = "cross_hole_spacing"}},
    };
}

std::optional<ResolvedCrossHoles> resolve_cross_holes(ZoneInPiece& where) {
    const CrossHoles& asked = holes(where.zone);
    if (asked.diameter.text.empty()) return {};
    if (where.zone.in_bore())
        throw JobError(
            InputError("A cross hole starts outside; this zone is a bore. It is asked of the outer "
                       "zone that lies around it.",
                       0, asked.diameter.text.size()),
            where.place + "cross_hole");
    ResolvedCrossHoles out;
    out.one_side = asked.one_side;
    out.radius = in_mm(at(where.place + "cross_hole",
                          [&] { return length_in_range(asked.diameter, where.names, "cross hole", 0.1); })) /
                 2;
    const double start = in_mm(where.out.start), length = in_mm(where.out.length);
    double middle = length / 2;
    if (!asked.at.text.empty())
        middle = in_mm(at(where.place + "cross_hole_at", [&] {
            return length_in_range(asked.at, where.names,
                                   "distance of the cross hole from the zone's near end");
        }));
    double turned = 0;
    if (!asked.turned.text.empty())
        turned = at(where.place + "cross_hole_turned",
                    [&] { return in_rad(evaluate_angle(asked.turned.text, where.names)); });
    if (where.out.outline() == Outline::flat) turned += std::numbers::pi / 2;
    out.towards = turned - 2 * std::numbers::pi * std::floor(turned / (2 * std::numbers::pi));
    int count = 1;
    if (!asked.count.text.empty())
        count = at(where.place + "cross_holes", [&] {
            const double n = evaluate_number(asked.count.text, where.names);
            if (!(n >= 1 && n <= most_cross_holes) || n != std::floor(n))
                throw InputError("A row has a whole number of cross holes, 1 to " +
                                     std::to_string(most_cross_holes) + ".",
                                 0, asked.count.text.size());
            return static_cast<int>(n);
        });
    out.spacing = length / count;
    if (count > 1 && !asked.spacing.text.empty())
        out.spacing = in_mm(at(where.place + "cross_hole_spacing", [&] {
            return length_in_range(asked.spacing, where.names, "distance between cross holes");
        }));
    for (int k = 0; k < count; ++k)
        out.at.push_back(start + middle + (k - (count - 1) / 2.0) * out.spacing);
    return out;
}

} // namespace whorl
