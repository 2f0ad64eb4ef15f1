#include "form/coil/coil_load.hpp"

#include "form/coil/coil_shape.hpp"
#include "form/coil/coil_values.hpp"
#include "form/coil/curved_twist.hpp"
#include "form/coil/station_places.hpp"
#include "form/word_reader.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace whorl {
namespace {

bool gapes(const ResolvedCoil& c, bool far) {
    const EndTurns& e = c.turns_at(far);
    return e.dead > 0 && e.pitch > (e.dead <= 1 ? c.axial : tight_pitch(c.spec)) + 1e-9;
}

} // namespace

bool closes_at_once(const ResolvedCoil& c) {
    return c.is_cylinder() && c.of_one_pitch() && !gapes(c, false) && !gapes(c, true);
}

double standing(const ResolvedCoil& c, double travel) {
    if (c.spec.kind == SpringKind::torsion) return travel;
    return c.free_length + (c.spec.kind == SpringKind::compression ? -travel : travel);
}

namespace {

// The height that a turn takes when it lies on the next one.
double lying(const ResolvedCoil& c, double turn) {
    // from half a turn before to half a turn behind, at the ends over the last whole turn
    const double over = std::min(1.0, c.total), from = std::clamp(turn - over / 2, 0.0, c.total - over);
    const double step = c.line.radius(2 * pi * (from + over)) - c.line.radius(2 * pi * from);
    if (!c.round) return std::abs(step) < c.wire ? c.axial : 0;
    return std::sqrt(std::max(0.0, c.wire * c.wire - step * step));
}

double shear_modulus_of(const ResolvedCoil& c) {
    return find_spring_wire(c.spec.material)->shear_modulus;
}
TwistOver twist_of(const ResolvedCoil& c) {
    return {c.shape(), c.smallest_mean, c.largest_mean};
}

// What a turn gives under one newton, mm, and how far it can fall. The diameter is the mean one.
struct Turn {
    double gives = 0, falls = 0, diameter = 0;
    double lies_at() const { return falls / gives; } // N
};
Turn turn_at(const ResolvedCoil& c, const TwistOver& twist, double turn) {
    Turn t;
    t.diameter = mean_diameter_at(c, turn);
    t.gives = pi * std::pow(t.diameter, 3) / (4 * shear_modulus_of(c) * twist.twist(t.diameter));
    const bool near = turn < c.near_turns.dead - 1e-9;
    const bool far = turn > c.total - c.far_turns.dead + 1e-9;
    if ((near && !gapes(c, false)) || (far && !gapes(c, true))) return t; // lies already
    t.falls = std::max(0.0, pitch_asked_at(c, turn) - lying(c, turn));
    return t;
}

constexpr int parts_of_turn = 240;

std::vector<LoadCurve::Point> closing(const ResolvedCoil& c) {
    std::vector<LoadCurve::Point> out{{0, 0, 0}};
    const double to_stress = 1 / (2 * c.shape().twist_modulus()); // τ = F·D/(2·Wt)
    if (closes_at_once(c)) {
        const double travel = std::max(0.0, c.free_length - c.solid_length), load = c.rate * travel;
        if (travel > 0) out.push_back({travel, load, to_stress * load * c.largest_mean});
        return out;
    }
    const TwistOver twist = twist_of(c);
    const int n = std::max(1, static_cast<int>(std::ceil(c.total * parts_of_turn)));
    std::vector<Turn> open;
    for (int i = 0; i < n; ++i)
        if (const Turn t = turn_at(c, twist, c.total * (i + 0.5) / n); t.falls > 0) open.push_back(t);
    std::ranges::sort(open, {}, &Turn::lies_at);
    std::vector<double> widest(open.size() + 1, 0.0); // of those that lie no sooner
    for (std::size_t i = open.size(); i-- > 0;)
        widest[i] = std::max(widest[i + 1], open[i].diameter);
    const double piece = c.total / n;
    double gives = 0, fallen = 0, lying_moment = 0; // N·mm, in those that lie
    for (const Turn& t : open)
        gives += t.gives * piece;
    for (std::size_t i = 0; i < open.size(); ++i) {
        const Turn& t = open[i];
        const double load = t.lies_at();
        if (load > out.back().load * (1 + 1e-9))
            out.push_back(
                {fallen + load * gives, load, to_stress * std::max(lying_moment, load * widest[i])});
        gives -= t.gives * piece;
        fallen += t.falls * piece;
        lying_moment = std::max(lying_moment, load * t.diameter);
    }
    return out;
}

using Points = std::vector<LoadCurve::Point>;

LoadCurve::Point along(const Points& p, double x, double LoadCurve::Point::*by) {
    if (p.empty()) return {};
    if (x <= p.front().*by) return p.front();
    const auto at = std::ranges::lower_bound(p, x, {}, by);
    if (at == p.end()) return p.back();
    const LoadCurve::Point &a = *(at - 1), &b = *at;
    const double t = (x - a.*by) / (b.*by - a.*by);
    return {a.travel + t * (b.travel - a.travel), a.load + t * (b.load - a.load),
            a.stress + t * (b.stress - a.stress)};
}

} // namespace

LoadCurve::Point LoadCurve::at_travel(double travel) const {
    return along(points_, travel, &Point::travel);
}
LoadCurve::Point LoadCurve::at_load(double load) const {
    return along(points_, load, &Point::load);
}

LoadCurve load_curve(const ResolvedCoil& c) {
    if (c.spec.kind == SpringKind::compression) return LoadCurve(closing(c));
    if (c.spec.kind == SpringKind::torsion) {
        const double most = c.permissible_moment > 0 ? c.permissible_moment : 360 * c.torsion_rate;
        return LoadCurve(
            {{},
             {most / c.torsion_rate, most,
              most / c.shape().bend_modulus() * (c.round ? bending_factor(c.smallest_mean / c.wire) : 1)}});
    }
    const double by_load = c.largest_mean / (2 * c.shape().twist_modulus()),
                 most = c.permissible_force > c.initial_tension * 1.001
                            ? c.permissible_force
                            : c.initial_tension + c.rate * 2 * c.largest_mean;
    return LoadCurve({{0, c.initial_tension, by_load * c.initial_tension},
                      {(most - c.initial_tension) / c.rate, most, by_load * most}});
}

LoadCurve::Point at_state(const ResolvedCoil& c, const SprungState& s) {
    const LoadCurve::Point most = c.curve.points().back();
    const bool torsion = c.spec.kind == SpringKind::torsion,
               compression = c.spec.kind == SpringKind::compression;
    const auto refuse = [&](const std::string& asked, const std::string& least, const std::string& highest) {
        throw InputError("This spring can't stand at " + asked + ": it goes from " + least + " to " +
                         highest + ".");
    };
    const std::string load_unit = torsion ? " N·mm" : " N";
    if (s.load) {
        if (s.value < -1e-9 || s.value > most.load * (1 + 1e-9) + 1e-9)
            refuse(number_text(s.value, 3) + load_unit, "0", number_text(most.load, 3) + load_unit);
        LoadCurve::Point p = c.curve.at_load(s.value);
        p.load = s.value; // less than what holds an extension spring together
        return p;
    }
    const double travel = torsion ? s.value : compression ? c.free_length - s.value : s.value - c.free_length;
    if (travel < -1e-6 || travel > most.travel + 1e-6) {
        const auto shown = [&](double t) {
            return torsion ? number_text(t, 2) + "°" : number_text(standing(c, t), 3) + " mm";
        };
        refuse(torsion ? number_text(s.value, 3) + "°" : number_text(s.value, 3) + " mm", shown(0),
               shown(most.travel));
    }
    return c.curve.at_travel(travel);
}

CoilSpec sprung(const ResolvedCoil& c, const LoadCurve::Point& at) {
    CoilSpec s = c.spec;
    s.made_at.reset();
    s.free_length.reset();
    s.length_over = LengthOver::faces;
    if (!s.active && !s.total) s.active = c.active;
    if (by_height(s.diameters)) { // which are those of the free one: their turns stay
        const std::vector<double> turns = diameter_places(c);
        for (std::size_t i = 0; i < turns.size(); ++i)
            s.diameters[i].by = StationBy::turns, s.diameters[i].at = turns[i];
    }
    if (s.kind == SpringKind::extension) {
        s.pitch = {CoilStation{mm(c.pitch + at.travel / c.active)}};
        return s;
    }
    if (s.kind == SpringKind::torsion) {
        const double turns = c.total + at.travel / 360;
        s.measured = CoilDiameter::mean;
        for (CoilStation& D : s.diameters) {
            const double was = mean_of(c.spec, D.value);
            D.value = mm(was * c.total / turns);
            if (D.by == StationBy::turns) D.at *= turns / c.total;
        }
        s.active = turns;
        s.total.reset();
        const bool stands_apart = !s.pitch.empty() || c.spec.free_length;
        s.pitch.clear();
        if (stands_apart) s.pitch = {CoilStation{mm(std::max(tight_pitch(s), c.pitch * c.total / turns))}};
        return s;
    }
    const TwistOver twist = twist_of(c);
    const auto pressed =
        [&](double turn) { // its pitch then, half a hundredth of the wire off the next one at least
            const Turn t = turn_at(c, twist, turn);
            const double lies = lying(c, turn), nests = c.wire * c.wire - lies * lies,
                         least = !c.round ? std::max(coils_apart * lies, 0.01 * c.axial)
                                          : std::sqrt(std::max(1e-4 * c.wire * c.wire,
                                                               std::pow(coils_apart * c.wire, 2) - nests));
            return std::max(c.is_cylinder() ? tight_pitch(s) : least,
                            pitch_asked_at(c, turn) - std::min(t.falls, at.load * t.gives));
        };
    s.pitch.clear();
    if (closes_at_once(c)) {
        const double p = std::max(tight_pitch(s), c.pitch - at.travel / c.active);
        s.pitch = {CoilStation{mm(p)}};
        if (c.round) { // its diameter grows: EN 13906-1's growth, which has the wire's thickness for the solid pitch, on the way
            s.measured = CoilDiameter::mean;
            s.diameters = {
                CoilStation{mm(c.largest_mean + 0.1 * (c.pitch - p) * (c.pitch + 0.2 * p) / c.largest_mean)}};
        }
        return s;
    }
    for (const bool far : {false, true}) {
        const EndTurns& e = c.turns_at(far);
        WireEnd& own = far ? s.far : s.near;
        if (!gapes(c, far)) continue;
        own.gap.reset();
        own.pitch = mm(pressed(far ? c.total - e.dead / 2 : e.dead / 2));
    }
    if (c.is_cylinder() && c.of_one_pitch()) {
        s.pitch = {CoilStation{mm(pressed((c.active_from + c.active_to) / 2))}};
        return s;
    }
    const int n = std::max(2, static_cast<int>(std::ceil(8 * (c.active_to - c.active_from))));
    for (int i = 0; i <= n; ++i) {
        const double turn = c.active_from + (c.active_to - c.active_from) * i / n;
        s.pitch.push_back({mm(pressed(turn)), StationBy::turns, turn});
    }
    return s;
}

void close_coil(ResolvedCoil& c) {
    const TwistOver twist = twist_of(c);
    const double d = c.axial,
                 by_load = 1 / (2 * c.shape().twist_modulus()); // of the stress, and the diameter
    double over =
        0; // EN 13906-1: 1.5·d at two closed ends that are not ground, coils on each other d at open ones
    for (const bool far : {false, true})
        if (!c.ground(far)) over += c.turns_at(far).closed ? 0.75 * d : d / 2;
    c.stressed_diameter = c.largest_mean;
    if (c.is_cylinder()) {
        c.solid_length = c.total * d + over;
    } else {
        const int parts = std::max(8, static_cast<int>(std::ceil(4 * c.total)));
        c.solid_length = std::max(
            d, gauss<gauss_12>(0, c.total, parts, [&](double turn) { return lying(c, turn); }) + over);
    }
    if (closes_at_once(c)) {
        c.force_at_solid = c.straight_to = c.rate * std::max(0.0, c.free_length - c.solid_length);
        c.stress_at_solid = by_load * c.force_at_solid * c.largest_mean;
        return;
    }
    // G·d⁴·(p − s)/(8·D³) and G·d·(p − s)/(π·D²): at the stations, where they mostly are least and most, and every three degrees
    const double from = c.near_turns.dead, to = c.total - c.far_turns.dead;
    std::vector<double> places;
    const int steps = 120 * static_cast<int>(std::ceil(c.active));
    for (int i = 0; i <= steps; ++i)
        places.push_back(from + (to - from) * i / steps);
    for (const double b : c.line.breaks())
        if (b / full_turn > from && b / full_turn < to) places.push_back(b / full_turn);
    c.straight_to = 1e300;
    for (const double turn : places) {
        const Turn t = turn_at(c, twist, turn);
        const double force = t.lies_at(), stress = by_load * force * t.diameter;
        c.force_at_solid = std::max(c.force_at_solid, force);
        c.straight_to = std::min(c.straight_to, force);
        if (stress > c.stress_at_solid) c.stress_at_solid = stress, c.stressed_diameter = t.diameter;
    }
    for (const bool far : {false, true})
        if (gapes(c, far)) // lie first, or last
            c.force_at_solid = std::max(
                c.force_at_solid,
                turn_at(c, twist, far ? c.total - c.far_turns.dead / 2 : c.near_turns.dead / 2).lies_at());
}

// EN 13906-2 and -3: what an extension spring holds before its coils part, and what a torsion spring turns by.
void load_ends(ResolvedCoil& c, double elastic_modulus) {
    const double d = c.wire, D = c.largest_mean, w = D / d;
    const auto strength = strength_of(c.spec);
    if (c.spec.kind == SpringKind::torsion) {
        // M/α = E·d⁴/(3667·D·n), each turn by its own diameter: D·n = ∫D dn
        const double over = gauss<gauss_12>(0, c.total, std::max(4, static_cast<int>(c.total)),
                                            [&](double turn) { return 2 * c.line.radius(2 * pi * turn); });
        c.torsion_rate = c.round ? elastic_modulus * std::pow(d, 4) / (3667 * over)
                                 : elastic_modulus * c.shape().bend() / (180 * over);
        if (strength)
            c.permissible_moment =
                0.7 * *strength * pi * d * d * d / (32 * bending_factor(c.smallest_mean / d));
        return;
    }
    const double by_stress = pi * d * d * d / (8 * D);
    c.initial_tension = c.spec.initial_tension ? *c.spec.initial_tension
                        : strength             ? std::max(0.0, 0.075 - 0.00375 * w) * *strength * by_stress
                                               : 0;
    if (strength) c.permissible_force = 0.45 * *strength * by_stress;
}

namespace {
SprungState read_state(std::string_view text, SpringKind kind, LengthUnit unit, const Names& names) {
    std::string number(text);
    while (!number.empty() && number.back() == ' ')
        number.pop_back();
    const std::string low = lowered_line(number);
    SprungState s;
    for (const std::string_view of : {"nmm", "n·mm", "n"})
        if (!s.load && low.size() > of.size() && low.ends_with(of) &&
            !std::isalpha(static_cast<unsigned char>(low[low.size() - of.size() - 1]))) {
            s.load = true;
            number.resize(number.size() - of.size());
        }
    const bool torsion = kind == SpringKind::torsion;
    s.value =
        s.load || torsion ? evaluate_number(number, names) : in_mm(evaluate_length(number, unit, names));
    if (s.value < 0)
        throw InputError(torsion ? "A spring is wound by an angle such as 30, or a moment such as 500Nmm."
                                 : "A spring stands at a length such as 32, or under a force such as 40N.",
                         0, text.size());
    return s;
}

} // namespace

std::vector<SprungState> read_states(std::string_view text, SpringKind kind, LengthUnit unit,
                                     const Names& names) {
    std::vector<SprungState> out;
    for (std::size_t from = 0;;) {
        const std::size_t to = text.find("..", from);
        try {
            out.push_back(read_state(text.substr(from, to - from), kind, unit, names));
        } catch (const InputError& e) {
            throw InputError(e.what(), from + e.position, e.extent);
        }
        if (to == text.npos) return out;
        from = to + 2;
    }
}

FatigueLine read_fatigue(std::string_view text, const Names& names) {
    const std::size_t dots = text.find("..");
    if (dots == text.npos)
        throw InputError("A fatigue line is two stresses, such as 650..900: the upper one at a lower of 0, "
                         "and where both meet, MPa.",
                         0, text.size());
    FatigueLine f;
    f.zero = evaluate_number(std::string(text.substr(0, dots)), names);
    f.meet = evaluate_number(std::string(text.substr(dots + 2)), names);
    if (!(f.zero > 0 && f.meet >= f.zero && f.meet <= 5000))
        throw InputError("The fatigue line's stresses rise, from above 0 to at most 5000 MPa: the upper one "
                         "at a lower of 0, then where "
                         "both meet.",
                         0, text.size());
    return f;
}

std::string write_fatigue(const FatigueLine& line) {
    return number_text(line.zero, 4) + ".." + number_text(line.meet, 4);
}

std::optional<std::pair<double, double>> working_stresses(const ResolvedCoil& c) {
    if (c.spec.works.size() != 2) return {};
    const double w = c.largest_mean / c.wire;
    const double k = c.spec.kind == SpringKind::torsion ? 1 // its stress has its q already
                     : c.round                          ? (w + 0.5) / (w - 0.75)
                                                        : curved_twist(c.shape(), c.largest_mean).stress;
    const double a = k * at_state(c, c.spec.works[0]).stress, b = k * at_state(c, c.spec.works[1]).stress;
    return std::minmax(a, b);
}

std::string write_states(const std::vector<SprungState>& states, SpringKind kind, LengthUnit unit) {
    const bool torsion = kind == SpringKind::torsion;
    std::string text;
    for (const SprungState& s : states)
        text += (text.empty() ? "" : "..") +
                (s.load ? number_text(s.value, 6) + (torsion ? "Nmm" : "N")
                        : number_text(torsion ? s.value : in_unit(mm(s.value), unit), 6));
    return text;
}

} // namespace whorl
