// What a sheet asks of a coil.
#include "model/forms/coil_texts.hpp"

#include "model/forms/common_rows.hpp"
#include "model/number_json.hpp"

namespace whorl {
namespace {

constexpr const char* measured_letters[]{"D", "De", "Di"};

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

std::string wire_text(const Zone& z, const Reading& as) {
    const Number& n = coil(z).wire;
    return n.unit == as.unit ? n.text : write_wire(read_wire(n.text, n.unit, as.names), as.unit);
}

constexpr ChoiceWord ends_words[]{{"closed"}, {"closed ground", "ground"}, {"open"}, {"open ground"}};

bool is_compression(const Zone& z) {
    return coil(z).kind == SpringKind::compression;
}
// Whether something is left to be said for both ends.
bool ends_together(const Zone& z) {
    return is_compression(z) && (coil(z).near_wire.text.empty() || coil(z).far_wire.text.empty());
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
    f.pitch = f.dead = f.tip = f.initial_tension = f.near_wire = f.far_wire = f.works = f.fatigue =
        f.made_at = {};
    f.length_over = LengthOver::faces;
    f.ground = false;
    if (kind == SpringKind::compression) {
        f.ends = CoilEnds::closed;
        f.pitch = {"2*(" + std::string(axial_part(f.wire.text)) + ")", f.wire.unit};
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
                             if (!is_compression(z)) put_text(to, "kind", word(coil(z).kind));
                         },
                     .load =
                         [](Zone& z, const nlohmann::json& from) {
                             for (int k = 0; k < spring_kind_count; ++k)
                                 if (text_at(from, "kind", "compression") == word(static_cast<SpringKind>(k)))
                                     coil(z).kind = static_cast<SpringKind>(k);
                         }}};
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
            .kept = {.key = "length_over"}};
}

constexpr ChoiceWord grade_words[]{{"1"}, {"2"}, {"3"}};
Row grade_row() {
    return {.field = field::tolerance_grade,
            .label = "Grade",
            .tip = "Quality grade of EN 15800: 1 fine, 2 usual, 3 coarse; what free length and loads may be "
                   "off follows",
            .of = "a compression spring",
            .kind = RowKind::choice,
            .choice = {grade_words, [](const Zone& z) { return static_cast<std::size_t>(coil(z).grade - 1); },
                       [](Zone& z, std::size_t at) { coil(z).grade = static_cast<int>(at) + 1; }},
            .applies = is_compression,
            .kept = {.key = "grade",
                     .save =
                         [](const Zone& z, nlohmann::ordered_json& to) {
                             if (coil(z).grade != 2) put_whole(to, "grade", coil(z).grade);
                         },
                     .load = [](Zone& z,
                                const nlohmann::json& from) { coil(z).grade = whole_at(from, "grade", 2); }}};
}

// One state, or two; how many there are is looked at when it is resolved.
template<Number CoilForm::*Kept>
Row state_row(Field field, const char* label, const char* tip, const char* usual) {
    return {.field = field,
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
                               : write_states(read_states(n.text, coil(z).kind, n.unit, as.names),
                                              coil(z).kind, as.unit);
                },
            .set =
                [](Zone& z, const Typed& t) {
                    if (!t.text.empty()) (void)read_states(t.text, coil(z).kind, t.unit, t.names);
                    coil(z).*Kept = t.number();
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
         .tip = "Its diameter, such as 2; of square or rectangular wire 3 x 2, across the axis and along it",
         .of = "a coil",
         .kind = RowKind::text,
         .number = member<&CoilForm::wire>,
         .get = wire_text,
         .set =
             [](Zone& z, const Typed& t) {
                 (void)read_wire(t.text, t.unit, t.names);
                 coil(z).wire = t.number();
             },
         .shown =
             [](const Zone&, const ResolvedZone& r, const Reading& as) {
                 const ResolvedCoil& c = coil(r);
                 return Shown{shown_length(c.wire, as.unit) +
                                  (c.round ? "" : " × " + shown_length(c.axial, as.unit)),
                              symbol(as.unit)};
             },
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
                 const bool turns_said = !coil(z).active.text.empty() || !coil(z).total.text.empty();
                 if (!t.text.empty() && (turns_said || stations_in(t.text, t.unit).size() == 1))
                     z.length = {};
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
         .applies = ends_together,
         .kept = {.key = "ends",
                  .save =
                      [](const Zone& z, nlohmann::ordered_json& to) {
                          put_text(to, "ends", coil(z).ends == CoilEnds::closed ? "closed" : "open");
                          if (coil(z).ground) put_true(to, "ground");
                      },
                  .load =
                      [](Zone& z, const nlohmann::json& from) {
                          coil(z).ends =
                              text_at(from, "ends", "closed") == "open" ? CoilEnds::open : CoilEnds::closed;
                          coil(z).ground = true_at(from, "ground");
                      }}},
        {.field = field::tip_thickness,
         .label = "Wire's end",
         .tip = "Thickness that grinding leaves of the wire's end; clear it for half the wire",
         .of = "a coil with ground ends",
         .kind = RowKind::length,
         .number = member<&CoilForm::tip>,
         .usual = "half the wire",
         .applies = [](const Zone& z) { return coil(z).ground && ends_together(z); },
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
        grade_row(),
        state_row<&CoilForm::works>(field::works, "Works between",
                                    "Two lengths such as 32..24, or forces 40N..65N, of a torsion spring "
                                    "angles 10..45 or moments 200Nmm..500Nmm: "
                                    "loads, stresses, their range and the work follow. One alone will do",
                                    "not said"),
        {.field = field::fatigue,
         .label = "Fatigue line",
         .tip = "Your own, for the stresses it works between: the upper one permitted at a lower of 0 and "
                "where both meet, in "
                "MPa, such as 650..900. It is drawn beside the load, and the safety of the range follows",
         .of = "a coil",
         .kind = RowKind::text,
         .number = member<&CoilForm::fatigue>,
         .set =
             [](Zone& z, const Typed& t) {
                 if (!t.text.empty()) (void)read_fatigue(t.text, t.names);
                 coil(z).fatigue = t.number();
             },
         .usual = "none",
         .applies = [](const Zone& z) { return coil(z).works.text.find("..") != std::string::npos; },
         .kept = {.key = "fatigue"}},
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
         .usual = "0°",
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
                             nlohmann::ordered_json& to) { put_text(to, "material", coil(z).material); },
                  .load =
                      [](Zone& z, const nlohmann::json& from) {
                          coil(z).material = text_at(from, "material", spring_wires().front().name);
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
                          if (coil(z).wire_class != "SM") put_text(to, "wire_class", coil(z).wire_class);
                      },
                  .load =
                      [](Zone& z, const nlohmann::json& from) {
                          coil(z).wire_class = text_at(from, "wire_class", "SM");
                      }}}};
    return rows;
}

} // namespace whorl
