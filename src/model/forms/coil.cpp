#include "model/forms/coil.hpp"

#include "model/pair_model.hpp"
#include "model/ready_zone.hpp"

#include "form/coil/stations.hpp"
#include "model/forms/common_rows.hpp"
#include "model/number_json.hpp"
#include "model/resolve_zone.hpp"

#include <nlohmann/json.hpp>

namespace whorl {
namespace {

constexpr const char* measured_words[]{"mean", "outside", "inside"};
constexpr const char* measured_letters[]{"D", "De", "Di"};

const CoilForm& coil(const Zone& z) {
    return std::get<CoilForm>(z.form);
}
CoilForm& coil(Zone& z) {
    return std::get<CoilForm>(z.form);
}
const ResolvedCoil& coil(const ResolvedZone& z) {
    return *z.coil();
}

// Diameters at the stations: 20, 52..30..52.
std::vector<Length> diameters(const Number& n, const Names& names) {
    std::vector<Length> out;
    for (const Station& one : stations_in(n.text, n.unit))
        try {
            out.push_back(evaluate_length(one.text, n.unit, names));
        } catch (const InputError& e) {
            throw InputError(e.what(), one.at + e.position, e.extent);
        }
    return out;
}

std::string diameters_text(const Zone& z, const Reading& as) {
    const CoilForm& f = coil(z);
    std::string text;
    if (f.diameters.unit == as.unit) {
        text = f.diameters.text;
    } else {
        for (const Length d : diameters(f.diameters, as.names))
            text += (text.empty() ? "" : "..") + length_text(d, as.unit);
    }
    return f.measured == CoilDiameter::mean ? text
                                            : std::string(measured_letters[int(f.measured)]) + " " + text;
}

// "20", "D 20", "De 22", "Di18..12"
void set_diameters(Zone& z, const Typed& t) {
    std::string text = t.text;
    auto measured = CoilDiameter::mean;
    for (const auto kind : {CoilDiameter::outside, CoilDiameter::inside, CoilDiameter::mean})
        if (const std::string_view letters = measured_letters[int(kind)]; text.starts_with(letters)) {
            measured = kind;
            text.erase(0, letters.size());
            break;
        }
    text.erase(0, std::min(text.find_first_not_of(' '), text.size()));
    if (text.empty())
        t.refuse(
            "A coil's diameter is the mean one, such as 20, or De 22 outside, Di 18 inside; several with "
            "two dots between, such as 52..30..52, are spread over its turns.");
    const Number n{text, t.unit};
    (void)diameters(n, t.names);
    coil(z).measured = measured;
    coil(z).diameters = n;
}

constexpr ChoiceWord ends_words[]{{"closed"}, {"closed ground", "ground"}, {"open"}, {"open ground"}};

// A length or pitch typed hands the other one back, as active turns and all of them do.
Row free_length_row() {
    Row r = length_row("Free length",
                       "Over the ground faces where the ends are ground; typed, the pitch follows", "a zone");
    r.set = [](Zone& z, const Typed& t) {
        set_length(z.length, t);
        coil(z).pitch = {};
    };
    r.shown = [](const Zone&, const ResolvedZone& z, const Reading& as) {
        return Shown{(coil(z).spec.free_length ? "" : "follows, ") +
                         shown_length(coil(z).free_length, as.unit),
                     symbol(as.unit)};
    };
    r.key = "free_length";
    return r;
}

template<Number CoilForm::*Kept, Number CoilForm::*Other, double ResolvedCoil::*Value>
Row turns_row(Field field, const char* label, const char* tip, const char* file_key) {
    return {.field = field,
            .label = label,
            .tip = tip,
            .of = "a coil",
            .kind = RowKind::number,
            .number = member<Kept>,
            .set =
                [](Zone& z, const Typed& t) {
                    if (!t.text.empty()) (void)evaluate_number(t.text, t.names);
                    coil(z).*Kept = t.number();
                    if (Kept != Other && !t.text.empty()) coil(z).*Other = {};
                },
            .shown =
                [](const Zone& z, const ResolvedZone& r, const Reading&) {
                    return Shown{(coil(z).*Kept).text.empty() ? "follows, " + number_text(coil(r).*Value, 4)
                                                              : number_text(coil(r).*Value, 4)};
                },
            .kept = {.key = file_key}};
}

} // namespace

std::span<const Row> FormModel<CoilForm>::rows() {
    static const Row rows[]{
        {.field = field::wire_diameter,
         .label = "Wire",
         .tip = "Diameter of the wire",
         .of = "a coil",
         .kind = RowKind::length,
         .number = member<&CoilForm::wire>,
         .kept = {.key = "wire", .always = true}},
        {.field = field::coil_diameter,
         .label = "Diameter",
         .tip =
             "Mean diameter, or De 22 outside, Di 18 inside; several such as 52..30..52 are spread over the "
             "turns",
         .of = "a coil",
         .kind = RowKind::text,
         .number = member<&CoilForm::diameters>,
         .get = diameters_text,
         .set = set_diameters,
         .shown =
             [](const Zone& z, const ResolvedZone& r, const Reading& as) {
                 std::string text;
                 for (const Length d : coil(r).spec.diameters)
                     text += (text.empty() ? "" : " .. ") + shown_length(in_mm(d), as.unit);
                 return Shown{std::string(measured_words[int(coil(z).measured)]) + " " + text,
                              symbol(as.unit)};
             },
         .kept = {.key = "diameters", .always = true}},
        free_length_row(),
        {.field = field::pitch,
         .label = "Pitch",
         .tip = "Of the active turns; typed, the free length follows",
         .of = "a thread or a coil",
         .kind = RowKind::length,
         .number = member<&CoilForm::pitch>,
         .set =
             [](Zone& z, const Typed& t) {
                 set_length(coil(z).pitch, t);
                 if (!t.text.empty()) z.length = {};
             },
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading& as) {
                 return Shown{(coil(r).spec.pitch ? "" : "follows, ") + shown_length(coil(r).pitch, as.unit),
                              symbol(as.unit)};
             },
         .kept = {.key = "pitch"}},
        turns_row<&CoilForm::active, &CoilForm::total, &ResolvedCoil::active>(
            field::active_coils, "Active turns", "Turns that give; typed, the turns in all follow", "active"),
        turns_row<&CoilForm::total, &CoilForm::active, &ResolvedCoil::total>(
            field::total_coils, "Turns in all", "All turns; typed, the active ones follow", "total"),
        turns_row<&CoilForm::dead, &CoilForm::dead, &ResolvedCoil::dead>(
            field::dead_coils, "Dead turns", "Of both ends together; clear it for one at each closed end",
            "dead"),
        {.field = field::coil_ends,
         .label = "Ends",
         .tip = "open or closed, and ground or not",
         .of = "a coil",
         .kind = RowKind::choice,
         .choice = {
             ends_words,
             [](const Zone& z) { return std::size_t{coil(z).ends == CoilEnds::open} * 2 + coil(z).ground; },
             [](Zone& z, std::size_t at) {
                 coil(z).ends = at < 2 ? CoilEnds::closed : CoilEnds::open;
                 coil(z).ground = at % 2 == 1;
                 if (!coil(z).ground) coil(z).tip = {};
             }},
         .kept = {.key = "ends",
                  .save =
                      [](const Zone& z, nlohmann::ordered_json& to) {
                          to["ends"] = coil(z).ends == CoilEnds::closed ? "closed" : "open";
                          if (coil(z).ground) to["ground"] = true;
                      },
                  .load =
                      [](Zone& z, const nlohmann::json& from) {
                          coil(z).ends =
                              from.value("ends", "closed") == "open" ? CoilEnds::open : CoilEnds::closed;
                          coil(z).ground = from.value("ground", false);
                      }}},
        {.field = field::tip_thickness,
         .label = "Wire's end",
         .tip = "Thickness that grinding leaves of the wire's end; clear it for half the wire",
         .of = "a coil with ground ends",
         .kind = RowKind::length,
         .number = member<&CoilForm::tip>,
         .usual = "half the wire",
         .applies = [](const Zone& z) { return coil(z).ground; },
         .kept = {.key = "tip"}},
        hand_row<&CoilForm::hand>("Of the coils; Ctrl+H flips it"),
        {.field = field::spring_wire,
         .label = "Spring wire",
         .tip = "The wire's standard, which gives its moduli and its density",
         .of = "a coil",
         .kind = RowKind::choice,
         .get = [](const Zone& z, const Reading&) { return coil(z).material; },
         .set =
             [](Zone& z, const Typed& t) {
                 std::string known;
                 for (const SpringWire& w : spring_wires()) {
                     if (t.text == w.name) {
                         coil(z).material = w.name;
                         return;
                     }
                     known += (known.empty() ? "" : ", ") + std::string(w.name);
                 }
                 t.refuse("There is no spring wire '" + t.text + "' here; there are " + known + ".");
             },
         .choices =
             [](const ResolvedZone&) {
                 Words all;
                 for (const SpringWire& w : spring_wires())
                     all.push_back(w.name);
                 return all;
             },
         .kept = {.key = "material",
                  .save = [](const Zone& z,
                             nlohmann::ordered_json& to) { to["material"] = coil(z).material; },
                  .load =
                      [](Zone& z, const nlohmann::json& from) {
                          coil(z).material = from.value("material", spring_wires().front().name);
                      }}}};
    return rows;
}

void FormModel<CoilForm>::save(const Zone& z, nlohmann::ordered_json& to) {
    if (coil(z).measured != CoilDiameter::mean) to["measured"] = measured_words[int(coil(z).measured)];
}
void FormModel<CoilForm>::load(Zone& z, const nlohmann::json& from) {
    for (int i = 0; i < 3; ++i)
        if (from.value("measured", "mean") == measured_words[i])
            coil(z).measured = static_cast<CoilDiameter>(i);
}

std::string FormModel<CoilForm>::what(const Zone&) {
    return "a spring";
}

namespace {
CoilSpec coil_spec(const Zone& z, const std::string& place, const Names& names) {
    const CoilForm& f = coil(z);
    CoilSpec s;
    s.wire = at(place + "wire", [&] { return resolve_length(f.wire, names); });
    s.measured = f.measured;
    s.diameters = at(place + "diameters", [&] { return diameters(f.diameters, names); });
    const auto length = [&](const char* key, const Number& n) -> std::optional<Length> {
        if (n.text.empty()) return {};
        return at(place + key, [&] { return resolve_length(n, names); });
    };
    const auto turns = [&](const char* key, const Number& n) -> std::optional<double> {
        if (n.text.empty()) return {};
        return at(place + key, [&] { return evaluate_number(n.text, names); });
    };
    s.free_length = length("length", z.length);
    s.pitch = length("pitch", f.pitch);
    s.active = turns("active", f.active);
    s.total = turns("total", f.total);
    s.dead = turns("dead", f.dead);
    s.ends = f.ends;
    s.ground = f.ground;
    s.tip = length("tip", f.tip);
    s.hand = f.hand;
    s.material = f.material;
    return s;
}
} // namespace

std::string FormModel<CoilForm>::designation(const Zone& z, const Job&, const Names& names) {
    return write_spring(coil_spec(z, {}, names), coil(z).wire.unit);
}

void FormModel<CoilForm>::resolve(ZoneInPiece& where) {
    if (where.zone.in_bore())
        throw JobError(InputError("A coil is a piece of its own; it can't stand in a bore."),
                       where.place + "coil");
    const CoilSpec s = coil_spec(where.zone, where.place, where.names);
    ResolvedSpring spring{at(where.place + "coil", [&] { return resolve_coil(s); })};
    where.out.length = mm(spring.coil.free_length);
    where.out.diameter = where.out.far_diameter = mm(spring.coil.outside());
    where.out.form = std::move(spring);
}

Radii FormModel<CoilForm>::radii(const ResolvedZone& z) {
    const ResolvedCoil& c = coil(z);
    return {(c.smallest_mean - c.wire) / 2, (c.largest_mean + c.wire) / 2};
}

void FormModel<CoilForm>::keep(Zone& now, const Zone& was) {
    if (const auto* old = was.as<CoilForm>()) coil(now).material = old->material;
}

// A spring holds the follower of a cam's lobe on: the lobe takes its rate over.
namespace {
void give_rate(Zone& second, const Zone& first, const Job& job) {
    try {
        const Piece alone{.name = {}, .reason = {}, .finish = {}, .zones = {first}};
        const ResolvedPiece r = resolve_piece(alone, resolve_names(job));
        second.as<LobeForm>()->rate = {number_text(r.zones[0].coil()->rate, 6), {}};
    } catch (const InputError&) {
        // what does not resolve is refused with its own sentence
    }
}
} // namespace

template<>
const PairModel& pair_model<PairKind::spring_and_lobe>() {
    static const PairModel model{
        .of = "a spring and a cam's lobe",
        .fits = [](const Zone& first,
                   const Zone& second) { return first.as<CoilForm>() && second.as<LobeForm>(); },
        .follow = give_rate};
    return model;
}

Job FormModel<CoilForm>::counterpart(const Job&, ZoneRef) {
    throw InputError("A spring has no counterpart to be made; it can hold the follower of a cam's lobe on.");
}

Zone zone_asked(const CoilSpec& s, const Designation& whole) {
    const auto length = [&](Length l) { return Number{exact_number(l, whole.unit), whole.unit}; };
    const auto turns = [](std::optional<double> n) { return n ? Number{number_text(*n, 9), {}} : Number{}; };
    Zone z;
    CoilForm f;
    f.wire = length(s.wire);
    f.measured = s.measured;
    f.diameters = {{}, whole.unit};
    for (const Length d : s.diameters)
        f.diameters.text += (f.diameters.text.empty() ? "" : "..") + exact_number(d, whole.unit);
    f.pitch = s.pitch ? length(*s.pitch) : Number{};
    f.active = turns(s.active);
    f.total = turns(s.total);
    f.dead = turns(s.dead);
    f.ends = s.ends;
    f.ground = s.ground;
    if (s.tip) f.tip = length(*s.tip);
    f.hand = s.hand;
    f.material = s.material;
    z.length = s.free_length ? length(*s.free_length) : Number{};
    z.form = std::move(f);
    return z;
}

Piece piece_asked(const CoilSpec& c, const Designation& d) {
    Piece p;
    p.name = write_spring(c, d.unit);
    p.finish = "steel";
    p.zones = {zone_asked(c, d)};
    return p;
}

} // namespace whorl
