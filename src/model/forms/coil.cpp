#include "model/forms/coil_texts.hpp"

#include "model/forms/common_rows.hpp"
#include "model/number_json.hpp"
#include "model/pair_model.hpp"
#include "model/ready_zone.hpp"
#include "model/resolve_zone.hpp"
#include "quantity/numeric.hpp"

namespace whorl {

WireEnd wire_end(const Number& n, const Names& names) {
    return n.text.empty() ? WireEnd{} : parse_wire_end(n.text, n.unit, names);
}

void FormModel<CoilForm>::save(const Zone& z, nlohmann::ordered_json& to) {
    if (coil(z).measured != CoilDiameter::mean)
        put_text(to, "measured", measured_words[int(coil(z).measured)]);
}
void FormModel<CoilForm>::load(Zone& z, const nlohmann::json& from) {
    for (int i = 0; i < 3; ++i)
        if (text_at(from, "measured", "mean") == measured_words[i])
            coil(z).measured = static_cast<CoilDiameter>(i);
}

std::string FormModel<CoilForm>::what(const Zone& z) {
    return coil(z).kind == SpringKind::compression ? "a compression spring"
           : coil(z).kind == SpringKind::extension ? "an extension spring"
                                                   : "a torsion spring";
}

namespace {
CoilSpec coil_spec(const Zone& z, const std::string& place, const Names& names) {
    const CoilForm& f = coil(z);
    CoilSpec s;
    s.kind = f.kind;
    const WireSize wire = at(place + "wire", [&] { return read_wire(f.wire.text, f.wire.unit, names); });
    s.wire = wire.across;
    s.axial = wire.axial;
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
    s.grade = s.kind == SpringKind::compression ? f.grade : 2;
    s.active = turns("active", f.active);
    s.total = turns("total", f.total);
    s.dead = turns("dead", f.dead);
    s.ends = f.ends;
    s.ground = f.ground;
    s.tip = length("tip", f.tip);
    s.hand = f.hand;
    s.material = f.material;
    s.wire_class = f.wire_class;
    if (s.kind != SpringKind::compression) s.ends = CoilEnds::open;
    s.near = at(place + "near_wire", [&] { return wire_end(f.near_wire, names); });
    s.far = at(place + "far_wire", [&] { return wire_end(f.far_wire, names); });
    if (!f.start.text.empty())
        s.start = at(place + "start", [&] { return in_rad(evaluate_angle(f.start.text, names)); });
    if (!f.works.text.empty())
        s.works = at(place + "works", [&] { return read_states(f.works.text, s.kind, f.works.unit, names); });
    if (!f.fatigue.text.empty())
        s.fatigue = at(place + "fatigue", [&] { return read_fatigue(f.fatigue.text, names); });
    if (!f.made_at.text.empty())
        s.made_at = at(place + "made_at", [&] {
            const auto states = read_states(f.made_at.text, s.kind, f.made_at.unit, names);
            if (states.size() > 1)
                throw InputError("A spring is made in one state, such as 32 or 40N.", 0,
                                 f.made_at.text.size());
            return states.front();
        });
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
    return kind + " spring " + size(s.wire) + (s.axial ? "x" + size(*s.axial) : "") + " x " +
           size(s.diameters.front().value);
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
        Piece alone;
        alone.zones = {first};
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
        .freedom = always<Freedom::none>,
        .follow = give_rate};
    return model;
}

namespace {
void follows_nothing(Zone&, const Zone&, const Job&) {}
} // namespace

template<>
const PairModel& pair_model<PairKind::spring_and_guide>() {
    static const PairModel model{.of = "a spring and the round rod or bore that guides it",
                                 .fits =
                                     [](const Zone& first, const Zone& second) {
                                         const PlainForm* guide = second.as<PlainForm>();
                                         return first.as<CoilForm>() && guide &&
                                                guide->outline == Outline::round;
                                     },
                                 .freedom = always<Freedom::shift>,
                                 .follow = follows_nothing};
    return model;
}

template<>
const PairModel& pair_model<PairKind::nested_springs>() {
    static const PairModel model{
        .of = "a spring in another one",
        .fits = [](const Zone& first,
                   const Zone& second) { return first.as<CoilForm>() && second.as<CoilForm>(); },
        .freedom = always<Freedom::shift>,
        .follow = follows_nothing};
    return model;
}

Job FormModel<CoilForm>::counterpart(const Job&, ZoneRef) {
    throw InputError(
        "A spring has no counterpart to be made; it can hold the follower of a cam's lobe on, be guided by a "
        "rod or a bore, or stand in another spring.");
}

Zone zone_asked(const CoilSpec& s, const Designation& whole) {
    const auto length = [&](Length l) { return Number{exact_number(l, whole.unit), whole.unit}; };
    const auto turns = [](std::optional<double> n) { return n ? Number{number_text(*n, 9), {}} : Number{}; };
    Zone z;
    CoilForm f;
    f.wire = s.axial ? Number{write_wire({s.wire, s.axial}, whole.unit), whole.unit} : length(s.wire);
    f.measured = s.measured;
    const auto stations = [&](const std::vector<CoilStation>& all) {
        return all.size() == 1 && all[0].by == StationBy::spread
                   ? length(all[0].value)
                   : Number{write_stations(all, whole.unit), whole.unit};
    };
    f.diameters = stations(s.diameters);
    if (!s.pitch.empty()) f.pitch = stations(s.pitch);
    f.length_over = s.length_over;
    f.grade = s.grade;
    if (s.start != 0) f.start = {number_text(s.start * 180 / pi, 9), {}};
    if (!s.works.empty()) f.works = {write_states(s.works, s.kind, whole.unit), whole.unit};
    if (s.fatigue) f.fatigue = {write_fatigue(*s.fatigue), {}};
    if (s.made_at) f.made_at = {write_states({*s.made_at}, s.kind, whole.unit), whole.unit};
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
