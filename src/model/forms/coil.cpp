#include "model/forms/coil.hpp"

#include "model/pair_model.hpp"
#include "model/ready_zone.hpp"

#include "form/coil/coil_load.hpp"
#include "model/forms/common_rows.hpp"
#include "model/number_json.hpp"
#include "model/resolve_zone.hpp"
#include "quantity/numeric.hpp"

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

// Stations in the unit they are read in.
std::string stations_text(const Number& n, const Reading& as) {
    return n.unit == as.unit || n.text.empty()
               ? n.text
               : write_stations(read_stations(n.text, n.unit, as.names), as.unit);
}
std::string shown_stations(const std::vector<CoilStation>& stations, LengthUnit unit) {
    std::string text;
    for (const CoilStation& s : stations) {
        text += (text.empty() ? "" : " .. ") + shown_length(in_mm(s.value), unit);
        if (s.by == StationBy::turns) text += " @ " + number_text(s.at, 3);
        if (s.by == StationBy::height) text += " @ z " + shown_length(s.at, unit);
    }
    return text;
}

std::string diameters_text(const Zone& z, const Reading& as) {
    const CoilForm& f = coil(z);
    const std::string text = stations_text(f.diameters, as);
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
    (void)read_stations(n.text, n.unit, t.names);
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
    f.pitch = f.dead = f.tip = f.initial_tension = f.near_wire = f.far_wire = f.works = f.made_at = {};
    f.length_over = LengthOver::faces;
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
            "plain for neither. A number behind a hook's word is its clear height over the body, r its "
            "bends' "
            "radius. Of a compression spring closed 1.5 ground tip 0.5, closed pitch 2.4 (or gap 0.6), open; "
            "cleared it is as Ends says",
        .of = "a coil",
        .kind = RowKind::text,
        .number = member<Kept>,
        .get =
            [](const Zone& z, const Reading& as) {
                const Number& n = coil(z).*Kept;
                if (n.text.empty()) return std::string(is_compression(z) ? "" : "plain");
                return n.unit == as.unit ? n.text : write_wire_end(wire_end(n, as.names), as.unit);
            },
        .set =
            [](Zone& z, const Typed& t) {
                if (!t.text.empty()) (void)parse_wire_end(t.text, t.unit, t.names);
                coil(z).*Kept = t.lowered() == "plain" ? Number{} : t.number();
            },
        .shown =
            [](const Zone&, const ResolvedZone& r, const Reading& as) {
                const WireEnd& e = Kept == &CoilForm::near_wire ? coil(r).spec.near : coil(r).spec.far;
                if (coil(r).has_ends() || e.is_turns()) return Shown{write_wire_end(e, as.unit)};
                return Shown{"as both ends"};
            },
        .choices =
            [](const ResolvedZone& r) {
                const std::string half = number_text(std::round(coil(r).largest_mean), 0);
                if (!coil(r).has_ends())
                    return Words{"closed",     "closed ground",
                                 "closed 1.5", "closed gap " + number_text(coil(r).wire / 4, 2),
                                 "open",       "open ground"};
                return coil(r).spec.kind == SpringKind::extension
                           ? Words{"full", "half", "side", "eye 5", "extended " + half, "plain"}
                           : Words{"leg " + half, "leg " + half + " axial", "leg " + half + " radial",
                                   "plain"};
            },
        .kept = {.key = file_key}};
}

// What the free length that is typed is of.
constexpr ChoiceWord over_words[]{{"faces"}, {"wire"}, {"centreline"}};
Row length_over_row() {
    return {.field = field::length_over,
            .label = "Length of",
            .tip = "What the free length is of: over the ends as they are (ground faces), over the wire "
                   "before it is "
                   "ground, or of the centreline",
            .of = "a compression spring",
            .kind = RowKind::choice,
            .choice = {over_words,
                       [](const Zone& z) { return static_cast<std::size_t>(coil(z).length_over); },
                       [](Zone& z, std::size_t at) { coil(z).length_over = static_cast<LengthOver>(at); }},
            .applies = [](const Zone& z) { return is_compression(z) && !z.length.text.empty(); },
            .kept = {.key = "length_over",
                     .save =
                         [](const Zone& z, nlohmann::ordered_json& to) {
                             if (coil(z).length_over != LengthOver::faces)
                                 to["length_over"] =
                                     over_words[static_cast<std::size_t>(coil(z).length_over)].text;
                         },
                     .load =
                         [](Zone& z, const nlohmann::json& from) {
                             for (std::size_t i = 0; i < std::size(over_words); ++i)
                                 if (from.value("length_over", "faces") == over_words[i].text)
                                     coil(z).length_over = static_cast<LengthOver>(i);
                         }}};
}

// What it works between, "32..24", "40N..65N".
std::vector<SprungState> works(const Number& n, SpringKind kind, const Names& names) {
    std::vector<SprungState> out;
    const auto parts = n.text.find("..");
    out.push_back(read_state(std::string_view(n.text).substr(0, parts), kind, n.unit, names));
    if (parts != n.text.npos)
        out.push_back(read_state(std::string_view(n.text).substr(parts + 2), kind, n.unit, names));
    return out;
}
std::string states_text(const std::vector<SprungState>& states, SpringKind kind, LengthUnit unit) {
    std::string text;
    for (const SprungState& s : states)
        text += (text.empty() ? "" : "..") + write_state(s, kind, unit);
    return text;
}

// One state, or two.
template<Number CoilForm::*Kept>
Row state_row(Field field, const char* label, const char* tip, const char* usual) {
    constexpr bool two = Kept == &CoilForm::works;
    return {
        .field = field,
        .label = label,
        .tip = tip,
        .of = "a coil",
        .kind = RowKind::text,
        .number = member<Kept>,
        .get =
            [](const Zone& z, const Reading& as) {
                const Number& n = coil(z).*Kept;
                return n.unit == as.unit || n.text.empty()
                           ? n.text
                           : states_text(works(n, coil(z).kind, as.names), coil(z).kind, as.unit);
            },
        .set =
            [](Zone& z, const Typed& t) {
                if (!t.text.empty() && works({t.text, t.unit}, coil(z).kind, t.names).size() > (two ? 2 : 1))
                    t.refuse("A spring is made in one state, such as 32 or 40N.");
                coil(z).*Kept = t.number();
            },
        .shown =
            [](const Zone& z, const ResolvedZone& r, const Reading& as) {
                const CoilSpec& s = coil(r).spec;
                if ((coil(z).*Kept).text.empty()) return Shown{two ? "not said" : "free"};
                return Shown{states_text(two ? s.works : std::vector{*s.made_at}, s.kind, as.unit)};
            },
        .usual = usual,
        .kept = {.key = field.key.data()}};
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
                 return Shown{std::string(measured_words[int(coil(z).measured)]) + " " +
                                  shown_stations(coil(r).spec.diameters, as.unit),
                              symbol(as.unit)};
             },
         .kept = {.key = "diameters", .always = true}},
        free_length_row(),
        length_over_row(),
        {.field = field::pitch,
         .label = "Pitch",
         .tip = "Of the active turns; typed, the free length follows. Several such as 4.6..2.1..4.6 are "
                "spread over "
                "them, or stand at turns, 4.6..2.1@3..4.6, or heights, 2.1@z22",
         .of = "a thread or a coil",
         .kind = RowKind::text,
         .number = member<&CoilForm::pitch>,
         .get = [](const Zone& z, const Reading& as) { return stations_text(coil(z).pitch, as); },
         .set =
             [](Zone& z, const Typed& t) {
                 if (!t.text.empty()) (void)read_stations(t.text, t.unit, t.names);
                 coil(z).pitch = t.number();
                 if (!t.text.empty() && stations_in(t.text, t.unit).size() == 1) z.length = {};
             },
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading& as) {
                 const auto& asked = coil(r).spec.pitch;
                 return Shown{asked.empty() ? "follows, " + shown_length(coil(r).pitch, as.unit)
                                            : shown_stations(asked, as.unit),
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
        state_row<&CoilForm::works>(field::works, "Works between",
                                    "Two lengths such as 32..24, or forces 40N..65N, of a torsion spring "
                                    "angles 10..45 or moments 200Nmm..500Nmm: "
                                    "loads, stresses, their range and the work follow. One alone will do",
                                    "not said"),
        state_row<&CoilForm::made_at>(
            field::made_at, "Made at",
            "The state it is made and shown in: a length such as 32, a force 40N, of a torsion "
            "spring an angle 30 or a moment 500Nmm; cleared it is free",
            "free"),
        hand_row<&CoilForm::hand>("Of the coils; Ctrl+H flips it"),
        {.field = field::start_angle,
         .label = "Wire begins at",
         .tip = "Angle about the axis at which the wire begins, in the direction of winding",
         .of = "a coil",
         .kind = RowKind::angle,
         .number = member<&CoilForm::start>,
         .usual = "0",
         .kept = {.key = "start"}},
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
    s.diameters =
        at(place + "diameters", [&] { return read_stations(f.diameters.text, f.diameters.unit, names); });
    const auto length = [&](const char* key, const Number& n) -> std::optional<Length> {
        if (n.text.empty()) return {};
        return at(place + key, [&] { return resolve_length(n, names); });
    };
    const auto turns = [&](const char* key, const Number& n) -> std::optional<double> {
        if (n.text.empty()) return {};
        return at(place + key, [&] { return evaluate_number(n.text, names); });
    };
    s.free_length = length("length", z.length);
    if (!f.pitch.text.empty())
        s.pitch = at(place + "pitch", [&] { return read_stations(f.pitch.text, f.pitch.unit, names); });
    s.length_over = f.length_over;
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
    if (s.kind != SpringKind::compression) s.ends = CoilEnds::open;
    s.near = at(place + "near_wire", [&] { return wire_end(f.near_wire, names); });
    s.far = at(place + "far_wire", [&] { return wire_end(f.far_wire, names); });
    if (!f.start.text.empty())
        s.start = at(place + "start", [&] { return in_rad(evaluate_angle(f.start.text, names)); });
    if (!f.works.text.empty()) s.works = at(place + "works", [&] { return works(f.works, s.kind, names); });
    if (!f.made_at.text.empty())
        s.made_at = at(place + "made_at", [&] { return works(f.made_at, s.kind, names).front(); });
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
    return kind + " spring " + size(s.wire) + " x " + size(s.diameters.front().value);
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
    const auto stations = [&](const std::vector<CoilStation>& all) {
        return all.size() == 1 && all[0].by == StationBy::spread
                   ? length(all[0].value)
                   : Number{write_stations(all, whole.unit), whole.unit};
    };
    f.diameters = stations(s.diameters);
    if (!s.pitch.empty()) f.pitch = stations(s.pitch);
    f.length_over = s.length_over;
    if (s.start != 0) f.start = {number_text(s.start * 180 / pi, 9), {}};
    if (!s.works.empty()) f.works = {states_text(s.works, s.kind, whole.unit), whole.unit};
    if (s.made_at) f.made_at = {write_state(*s.made_at, s.kind, whole.unit), whole.unit};
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
