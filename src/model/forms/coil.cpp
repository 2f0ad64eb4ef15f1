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

bool is_compression(const Zone& z) {
    return coil(z).kind == SpringKind::compression;
}

constexpr ChoiceWord kind_words[]{{"compression"}, {"extension"}, {"torsion"}};

// Another kind begins with what is usual for it; wire, diameter and turns stay.
void set_kind(Zone& z, std::size_t at) {
    CoilForm& f = coil(z);
    const auto kind = static_cast<SpringKind>(at);
    if (f.kind == kind) return;
    const Number turns = f.active.text.empty() ? f.total : f.active;
    const bool was_compression = f.kind == SpringKind::compression;
    f.kind = kind;
    f.pitch = f.dead = f.tip = f.initial_tension = f.near_wire = f.far_wire = {};
    f.ground = false;
    if (kind == SpringKind::compression) {
        f.ends = CoilEnds::closed;
        f.pitch = {"2*(" + f.wire.text + ")", f.wire.unit};
        z.length = {};
        return;
    }
    f.ends = CoilEnds::open;
    z.length = {};
    f.total = {};
    f.active = turns.text.empty() && was_compression ? Number{"10", {}} : turns;
    if (kind == SpringKind::extension) f.near_wire = f.far_wire = {"full", f.wire.unit};
}

Row kind_row() {
    return {.field = field::spring_kind,
            .label = "Kind",
            .tip = "compression, extension with hooks, or torsion with legs",
            .of = "a coil",
            .kind = RowKind::choice,
            .choice = {kind_words, [](const Zone& z) { return static_cast<std::size_t>(coil(z).kind); },
                       set_kind},
            .kept = {.key = "kind", // a file says the rest itself
                     .save =
                         [](const Zone& z, nlohmann::ordered_json& to) {
                             if (!is_compression(z)) to["kind"] = word(coil(z).kind);
                         },
                     .load =
                         [](Zone& z, const nlohmann::json& from) {
                             for (int k = 0; k < spring_kind_count; ++k)
                                 if (from.value("kind", "compression") == word(static_cast<SpringKind>(k)))
                                     coil(z).kind = static_cast<SpringKind>(k);
                         }}};
}

WireEnd wire_end(const Number& n, const Names& names) {
    return n.text.empty() ? WireEnd{} : parse_wire_end(n.text, n.unit, names);
}

// How the wire goes on at one end.
template<Number CoilForm::*Kept>
Row wire_end_row(Field field, const char* label, const char* file_key) {
    return {
        .field = field,
        .label = label,
        .tip =
            "A hook: half, full, side, eye 5, extended 30, or a leg: leg 30 axial, leg 30 bent 90 r 4 15; "
            "plain for "
            "neither. A number behind a hook's word is its clear height over the body, r its bends' radius",
        .of = "an extension or torsion spring",
        .kind = RowKind::text,
        .number = member<Kept>,
        .get =
            [](const Zone& z, const Reading& as) {
                const Number& n = coil(z).*Kept;
                if (n.text.empty()) return std::string("plain");
                return n.unit == as.unit ? n.text : write_wire_end(wire_end(n, as.names), as.unit);
            },
        .set =
            [](Zone& z, const Typed& t) {
                if (!t.text.empty()) (void)parse_wire_end(t.text, t.unit, t.names);
                coil(z).*Kept = t.lowered() == "plain" ? Number{} : t.number();
            },
        .shown =
            [](const Zone&, const ResolvedZone& r, const Reading& as) {
                const bool near = Kept == &CoilForm::near_wire;
                return Shown{write_wire_end(near ? coil(r).spec.near : coil(r).spec.far, as.unit)};
            },
        .choices =
            [](const ResolvedZone& r) {
                const std::string half = number_text(std::round(coil(r).largest_mean), 0);
                return coil(r).spec.kind == SpringKind::extension
                           ? Words{"full", "half", "side", "eye 5", "extended " + half, "plain"}
                           : Words{"leg " + half, "leg " + half + " axial", "leg " + half + " radial",
                                   "plain"};
            },
        .applies = [](const Zone& z) { return !is_compression(z); },
        .kept = {.key = file_key}};
}

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
    r.applies = [](const Zone& z) { return coil(z).kind != SpringKind::extension; };
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
            .applies = [](const Zone& z) { return Kept == &CoilForm::active || is_compression(z); },
            .kept = {.key = file_key}};
}

} // namespace

std::span<const Row> FormModel<CoilForm>::rows() {
    static const Row rows[]{
        kind_row(),
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
         .of = "a compression spring",
         .kind = RowKind::choice,
         .choice = {
             ends_words,
             [](const Zone& z) { return std::size_t{coil(z).ends == CoilEnds::open} * 2 + coil(z).ground; },
             [](Zone& z, std::size_t at) {
                 coil(z).ends = at < 2 ? CoilEnds::closed : CoilEnds::open;
                 coil(z).ground = at % 2 == 1;
                 if (!coil(z).ground) coil(z).tip = {};
             }},
         .applies = is_compression,
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
        wire_end_row<&CoilForm::near_wire>(field::near_wire, "Near wire", "near_wire"),
        wire_end_row<&CoilForm::far_wire>(field::far_wire, "Far wire", "far_wire"),
        {.field = field::initial_tension,
         .label = "Initial tension",
         .tip = "N, that holds the coils together; clear it for as much as an automatic winds in, EN 13906-2",
         .of = "an extension spring",
         .kind = RowKind::number,
         .number = member<&CoilForm::initial_tension>,
         .set =
             [](Zone& z, const Typed& t) {
                 if (!t.text.empty() && !(evaluate_number(t.text, t.names) >= 0))
                     t.refuse("An initial tension is not below zero.");
                 coil(z).initial_tension = t.number();
             },
         .shown =
             [](const Zone& z, const ResolvedZone& r, const Reading&) {
                 return Shown{(coil(z).initial_tension.text.empty() ? "follows, " : "") +
                                  number_text(coil(r).initial_tension, 4),
                              "N"};
             },
         .applies = [](const Zone& z) { return coil(z).kind == SpringKind::extension; },
         .kept = {.key = "initial_tension"}},
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
                      }}},
        {.field = field::wire_class,
         .label = "Wire class",
         .tip = "SL, SM, DM, SH or DH of EN 10270-1: its tensile strength and what may be asked of it follow",
         .of = "a coil of wire of EN 10270-1",
         .kind = RowKind::choice,
         .get = [](const Zone& z, const Reading&) { return coil(z).wire_class; },
         .set =
             [](Zone& z, const Typed& t) {
                 for (const std::string& c : wire_classes())
                     if (t.lowered().size() == 2 && t.lowered()[0] == std::tolower(c[0]) &&
                         t.lowered()[1] == std::tolower(c[1])) {
                         coil(z).wire_class = c;
                         return;
                     }
                 t.refuse("The classes of EN 10270-1 are SL, SM, DM, SH and DH.");
             },
         .choices = [](const ResolvedZone&) { return Words(wire_classes().begin(), wire_classes().end()); },
         .applies = [](const Zone& z) { return coil(z).material == "EN 10270-1"; },
         .kept = {.key = "wire_class",
                  .save =
                      [](const Zone& z, nlohmann::ordered_json& to) {
                          if (coil(z).wire_class != "SM") to["wire_class"] = coil(z).wire_class;
                      },
                  .load =
                      [](Zone& z, const nlohmann::json& from) {
                          coil(z).wire_class = from.value("wire_class", "SM");
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

std::string FormModel<CoilForm>::what(const Zone& z) {
    return is_compression(z)                       ? "a compression spring"
           : coil(z).kind == SpringKind::extension ? "an extension spring"
                                                   : "a torsion spring";
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
    s.wire_class = f.wire_class;
    s.kind = f.kind;
    if (s.kind != SpringKind::compression) {
        s.ends = CoilEnds::open;
        s.near = at(place + "near_wire", [&] { return wire_end(f.near_wire, names); });
        s.far = at(place + "far_wire", [&] { return wire_end(f.far_wire, names); });
    }
    s.initial_tension = turns("initial_tension", f.initial_tension);
    return s;
}
} // namespace

namespace {
std::string called_by(const CoilSpec& s, LengthUnit unit) {
    const auto size = [&](Length l) {
        return number_text(in_unit(l, unit), unit == LengthUnit::inch ? 4 : 3);
    };
    std::string kind(word(s.kind));
    kind[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(kind[0])));
    return kind + " spring " + size(s.wire) + " x " + size(s.diameters.front());
}
} // namespace

std::string FormModel<CoilForm>::called(const Zone& z, const Names& names) {
    return called_by(coil_spec(z, {}, names), coil(z).wire.unit);
}

std::string FormModel<CoilForm>::designation(const Zone& z, const Job&, const Names& names) {
    return write_spring(coil_spec(z, {}, names), coil(z).wire.unit);
}

void FormModel<CoilForm>::resolve(ZoneInPiece& where) {
    if (where.zone.in_bore())
        throw JobError(InputError("A coil is a piece of its own; it can't stand in a bore."),
                       where.place + "coil");
    const CoilSpec s = coil_spec(where.zone, where.place, where.names);
    ResolvedSpring spring{at(where.place + "coil", [&] { return resolve_coil(s); })};
    where.out.length = mm(spring.coil.overall);
    where.out.diameter = where.out.far_diameter = mm(spring.coil.outside());
    where.out.form = std::move(spring);
}

Radii FormModel<CoilForm>::radii(const ResolvedZone& z) {
    const ResolvedCoil& c = coil(z);
    return {(c.smallest_mean - c.wire) / 2, c.reach};
}

void FormModel<CoilForm>::keep(Zone& now, const Zone& was) {
    const auto* old = was.as<CoilForm>();
    if (!old) return;
    coil(now).material = old->material;
    coil(now).wire_class = old->wire_class;
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
    f.wire_class = s.wire_class;
    f.kind = s.kind;
    const auto end = [&](const WireEnd& e) {
        return e.kind == WireEndKind::plain ? Number{} : Number{write_wire_end(e, whole.unit), whole.unit};
    };
    f.near_wire = end(s.near);
    f.far_wire = end(s.far);
    if (s.initial_tension) f.initial_tension = {number_text(*s.initial_tension, 9), {}};
    z.length = s.free_length ? length(*s.free_length) : Number{};
    z.form = std::move(f);
    return z;
}

Piece piece_asked(const CoilSpec& c, const Designation& d) {
    Piece p;
    p.name = called_by(c, d.unit);
    p.finish = "steel";
    p.zones = {zone_asked(c, d)};
    return p;
}

} // namespace whorl
