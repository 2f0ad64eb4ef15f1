#include "form/coil/coil.hpp"

#include "form/coil/coil_values.hpp"

#include "form/tooth/tooth_range.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr double apart = 1.005; // of the wire, closed coils of more than one dead turn

std::string turns_text(double turns) {
    return number_text(turns, 4) + (turns == 1 ? " turn" : " turns");
}

// All, active and dead turns, from any two, or one and what the ends say; else from length and pitch.
struct Turns {
    double total = 0, active = 0, dead = 0;
};

double usual_dead(const CoilSpec& s) {
    return s.dead ? *s.dead : s.ends == CoilEnds::closed ? 2 : 0;
}

// How much the free length is more than the rise of the centreline.
double over_rise(const CoilSpec& s) {
    const double d = in_mm(s.wire);
    if (!s.ground) return d;
    return -2 * (d / 2 - (s.tip ? in_mm(*s.tip) : d / 2));
}

double mean_of(const CoilSpec& s, Length diameter) {
    const double d = in_mm(s.wire), D = in_mm(diameter);
    return s.measured == CoilDiameter::outside ? D - d : s.measured == CoilDiameter::inside ? D + d : D;
}

// Coils that all but touch.
double tight_pitch(const CoilSpec& s) {
    const double d = in_mm(s.wire);
    double smallest = 1e9;
    for (const Length D : s.diameters)
        smallest = std::min(smallest, mean_of(s, D));
    const double rise = apart * d; // square to the coils; along the axis it is more
    return rise / std::sqrt(std::max(0.01, 1 - std::pow(rise / (pi * smallest), 2)));
}

double closed_pitch(const CoilSpec& s, double dead) {
    return dead <= 2 ? in_mm(s.wire) : tight_pitch(s);
}

Turns turns_of(const CoilSpec& s) {
    Turns t;
    t.dead = usual_dead(s);
    if (s.active && s.total) {
        t.active = *s.active;
        t.total = *s.total;
        if (s.dead && std::abs(t.total - t.active - *s.dead) > 1e-9)
            throw InputError("Of " + turns_text(t.total) + " in all " + turns_text(t.active) +
                             " active leave " + number_text(t.total - t.active, 4) + " dead, not " +
                             number_text(*s.dead, 4) + "; leave one of the three out.");
        t.dead = t.total - t.active;
    } else if (s.active) {
        t.active = *s.active;
        t.total = t.active + t.dead;
    } else if (s.total) {
        t.total = *s.total;
        t.active = t.total - t.dead;
    } else if (s.free_length && s.pitch) {
        const double rise = in_mm(*s.free_length) - over_rise(s) - t.dead * closed_pitch(s, t.dead);
        t.active = rise / in_mm(*s.pitch);
        t.total = t.active + t.dead;
    } else {
        throw InputError(
            "A spring needs its turns: n (active) or nt (all of them), or both length L and pitch p.");
    }
    if (t.dead < -1e-9)
        throw InputError("There are " + turns_text(t.total) + " in all; " + turns_text(t.active) +
                         " of them can't be active.");
    t.dead = std::max(0.0, t.dead);
    if (!(t.active >= 0.25 && t.total <= 500))
        throw InputError("This leaves " + turns_text(t.active) + " active of " + turns_text(t.total) +
                         "; a spring has at least 0.25 active and at most 500 in all.");
    return t;
}

// What is ground off one end: between the end and where the face leaves the wire, the part of the wire's
// section beyond the face. Generalised Pappus: the section's element at the height y over the centreline
// sweeps (speed + y·upwards_turns) dθ.
double ground_off(const ResolvedCoil& c, bool far) {
    const double rho = c.wire / 2, level = far ? c.line.rise() - c.ground_height : c.ground_height;
    const auto slice = [&](double theta) {
        const auto f = c.line.frame(theta);
        // the part of the disc under the face (near), over it (far); `half` is half the angle it is seen at
        const double face = (level - c.line.height(theta)) / f.upwards.z / rho;
        const double half = std::acos(std::clamp(far ? face : -face, -1.0, 1.0));
        const double area = rho * rho * (half - std::sin(half) * std::cos(half));
        const double moment = 2.0 / 3 * std::pow(rho * std::sin(half), 3) * (far ? 1 : -1);
        return f.speed * area + f.upwards_turns * moment;
    };
    // θ = leaves + (start − leaves)·q², in which the area's √ where the face leaves the wire is smooth
    const double start = far ? c.line.end() : 0, leaves = c.ground_to(far), span = start - leaves;
    return std::abs(
        gauss<gauss_12>(0, 1, 8, [&](double q) { return slice(leaves + span * q * q) * 2 * q * span; }));
}

void require_no_ends_of_others(const CoilSpec& s) {
    const bool compression = s.kind == SpringKind::compression, extension = s.kind == SpringKind::extension;
    for (const WireEnd* e : {&s.near, &s.far})
        if (e->kind != WireEndKind::plain && (compression || e->is_hook() != extension))
            throw InputError(
                compression ? "A compression spring has neither hooks nor legs; write extension spring or "
                              "torsion spring for them."
                : extension ? "An extension spring has hooks, not legs: half, full, side, eye, extended or "
                              "plain."
                            : "A torsion spring has legs, not hooks, such as leg 30.");
    if (s.initial_tension && !extension) throw InputError("Only an extension spring has an initial tension.");
    if (!compression && (s.ground || s.tip || s.dead.value_or(0) > 0))
        throw InputError(std::string("The ends of ") + (extension ? "an extension" : "a torsion") +
                         " spring are its hooks or legs; it has no dead turns and nothing ground.");
}

// Extension and torsion springs: all turns are active, wound tight unless a pitch says otherwise.
void shape_body(ResolvedCoil& c, CoilShape& shape) {
    const CoilSpec& s = c.spec;
    const bool extension = s.kind == SpringKind::extension;
    if (s.active && s.total && std::abs(*s.active - *s.total) > 1e-9)
        throw InputError("All turns of such a spring are active; write n or nt, or both alike.");
    const double tight = tight_pitch(s);
    c.pitch = s.pitch ? in_mm(*s.pitch) : tight;
    if (!s.active && !s.total)
        throw InputError(std::string(extension ? "An extension" : "A torsion") +
                         " spring needs its turns, such as n20.");
    c.active = c.total = s.active ? *s.active : *s.total;
    if (!(c.total >= 0.25 && c.total <= 500))
        throw InputError("A spring has 0.25 to 500 turns; these are " + turns_text(c.total) + ".");
    if (s.free_length) {
        if (extension)
            throw InputError("The free length of an extension spring follows from its turns and hooks; a "
                             "hook's clear height "
                             "makes it longer, such as extended 30.");
        if (s.pitch)
            throw InputError("A torsion spring's body follows from its pitch; leave one of them out.");
        c.pitch = (in_mm(*s.free_length) - c.wire) / c.total;
    }
    if (c.pitch < tight - 1e-9)
        throw InputError("The pitch is " + number_text(c.pitch, 4) + " mm; coils that touch have " +
                         number_text(tight, 4) + " mm.");
    shape.turns = c.total;
    shape.dead = 0;
    shape.pitch = shape.closed_pitch = c.pitch;
    const bool wound_tight = c.pitch < tight * (1 + 1e-9);
    c.body_length = wound_tight ? (c.total + (extension ? 1 : 1.5)) * c.wire : c.total * c.pitch + c.wire;

    const Centreline coil(shape);
    const bool cylinder = c.smallest_mean == c.largest_mean;
    const auto lay_at = [&](const WireEnd& e, double theta) {
        if (e.is_hook() && !cylinder)
            throw InputError("Hooks are made on coils of one diameter; this one has several.");
        return lay(e, {coil.radius(theta), std::asin(coil.frame(theta).along.z), c.wire});
    };
    c.near_laid = lay_at(s.near, 0);
    c.far_laid = lay_at(s.far, coil.coil_end());
    shape.near_end = c.near_laid.stretches;
    shape.far_end = c.far_laid.stretches;
    c.line = Centreline(shape);
    c.free_length = extension ? c.body_length + c.near_laid.clear + c.far_laid.clear : c.body_length;
}

// How far the wire's section at θ reaches from the axis, from 32 places around it and no less than between them.
double out_of(const ResolvedCoil& c, double theta) {
    const Vec3 at = c.line.point(theta).at;
    const auto f = c.line.frame(theta);
    constexpr int around = 32;
    const double rho = c.wire / 2;
    double most = 0;
    for (int k = 0; k < around; ++k) {
        const double phi = 2 * pi * k / around;
        const Vec3 q = at + (rho * std::cos(phi)) * f.outwards + (rho * std::sin(phi)) * f.upwards;
        most = std::max(most, std::hypot(q.x, q.y));
    }
    return most + rho * (1 - std::cos(pi / around));
}

// How far the wire reaches along the axis and away from it: the edge of its section is ρ·√(1 − t_z²) over its middle.
void measure_reach(ResolvedCoil& c) {
    const double rho = c.wire / 2;
    double low = 1e9, high = -1e9;
    const auto& breaks = c.line.breaks();
    for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
        const double from = breaks[i], to = breaks[i + 1];
        const auto edge = [&](double theta, double side) { // its height above, or below as a depth
            const auto f = c.line.frame(theta);
            return side * c.line.point(theta).at.z +
                   rho * std::sqrt(std::max(0.0, 1 - f.along.z * f.along.z));
        };
        constexpr int parts = 48;
        for (const double side : {1.0, -1.0}) {
            double best = from;
            for (int k = 0; k <= parts; ++k) {
                const double theta = from + (to - from) * k / parts;
                if (edge(theta, side) > edge(best, side)) best = theta;
                if (side > 0) c.reach = std::max(c.reach, out_of(c, theta));
            }
            const double step = (to - from) / parts;
            const double theta = lowest_between(std::max(from, best - step), std::min(to, best + step), 1e-9,
                                                [&](double at) { return -edge(at, side); });
            const double most = std::max(edge(theta, side), edge(best, side));
            side > 0 ? high = std::max(high, most) : low = std::min(low, -most);
        }
    }
    c.lowest = low;
    c.overall = high - low;
}

// All but what follows from the strength of materials.
ResolvedCoil shape_of(const CoilSpec& s) {
    require_no_ends_of_others(s);
    ResolvedCoil c;
    c.spec = s;
    c.wire = in_mm(s.wire);
    require_range(c.wire, 0.02, 200, "wire", " mm");
    if (s.diameters.empty() || s.diameters.size() > 50)
        throw InputError("A spring has 1 to 50 diameters, from its near end on.");
    CoilShape shape;
    for (const Length D : s.diameters)
        shape.diameters.push_back(mean_of(s, D));
    c.smallest_mean = *std::min_element(shape.diameters.begin(), shape.diameters.end());
    c.largest_mean = *std::max_element(shape.diameters.begin(), shape.diameters.end());
    if (c.smallest_mean == c.largest_mean) shape.diameters.resize(1);
    require_range(c.largest_mean, 0.1, 5000, "mean diameter", " mm");
    if (!(c.smallest_mean > 1.2 * c.wire))
        throw InputError("The mean diameter is " + number_text(c.smallest_mean, 3) + " mm; with a wire of " +
                         number_text(c.wire, 3) + " mm it must be more than " + number_text(1.2 * c.wire, 3) +
                         " mm, or the coils meet in the middle.");
    if (s.tip && !s.ground) throw InputError("Only a ground end has a thickness of its own.");
    if (s.tip)
        require_range(in_mm(*s.tip), 0.15 * c.wire, 0.9 * c.wire, "thickness of the wire's end", " mm");
    if (s.free_length) require_range(in_mm(*s.free_length), 0.1, 10000, "free length", " mm");
    if (s.pitch) require_range(in_mm(*s.pitch), 0.02, 5000, "pitch", " mm");
    if (s.dead) require_range(*s.dead, 0, 50, "number of dead turns", "");
    shape.left = s.hand == Hand::left;
    if (s.kind != SpringKind::compression) {
        shape_body(c, shape);
        measure_reach(c);
        return c;
    }
    const Turns t = turns_of(s);
    c.active = t.active;
    c.total = t.total;
    c.dead = t.dead;
    c.ground_height = s.ground ? c.wire / 2 - (s.tip ? in_mm(*s.tip) : c.wire / 2) : 0;
    shape.turns = t.total;
    shape.dead = t.dead / 2;
    shape.closed_pitch = closed_pitch(s, t.dead);
    const double closed = t.dead * shape.closed_pitch;
    if (s.ground && shape.dead > 0) // the pitch changes where the ground face has left the wire
        shape.window =
            std::max(0.02, std::min(shape.window,
                                    shape.dead - 0.11 - (c.wire / 2 + c.ground_height) / shape.closed_pitch));
    if (!s.free_length && !s.pitch) throw InputError("A spring needs its free length L or its pitch p.");
    c.free_length =
        s.free_length ? in_mm(*s.free_length) : closed + t.active * in_mm(*s.pitch) + over_rise(s);
    c.pitch = (c.free_length - over_rise(s) - closed) / t.active;
    if (s.pitch && s.free_length && std::abs(c.pitch - in_mm(*s.pitch)) > 1e-6 * c.pitch + 1e-9)
        throw InputError("With " + turns_text(t.active) + " active a free length of " +
                         number_text(c.free_length, 4) + " mm has the pitch " + number_text(c.pitch, 4) +
                         " mm, not " + number_text(in_mm(*s.pitch), 4) + "; leave one of them out.");
    if (!(c.pitch > 0.02))
        throw InputError("A free length of " + number_text(c.free_length, 3) + " mm leaves the " +
                         turns_text(t.active) + " active no pitch; " + number_text(t.dead, 3) +
                         " dead turns and the ends alone take " + number_text(closed + over_rise(s), 3) +
                         " mm.");
    shape.pitch = c.pitch;
    c.line = Centreline(shape);
    c.lowest = -c.wire / 2;
    c.overall = c.body_length = c.free_length;
    c.reach = c.outside() / 2;
    return c;
}

// The height that a turn takes when it lies on the next one.
double lying(const ResolvedCoil& c, double turn) {
    // from half a turn before to half a turn behind, at the ends over the last whole turn
    const double over = std::min(1.0, c.total), from = std::clamp(turn - over / 2, 0.0, c.total - over);
    const double step = c.line.radius(2 * pi * (from + over)) - c.line.radius(2 * pi * from);
    return std::sqrt(std::max(0.0, c.wire * c.wire - step * step));
}

// Solid length, and force and stress there: of a cylinder by EN 13906-1, else turn by turn.
void close(ResolvedCoil& c, double shear_modulus) {
    const double d = c.wire, over = c.spec.ground ? 0 : c.spec.ends == CoilEnds::closed ? 1.5 * d : d;
    c.stressed_diameter = c.largest_mean;
    if (c.smallest_mean == c.largest_mean) {
        c.solid_length = c.total * d + over;
        c.force_at_solid = c.straight_to = c.rate * std::max(0.0, c.free_length - c.solid_length);
        c.stress_at_solid = 8 * c.force_at_solid * c.largest_mean / (pi * d * d * d);
        return;
    }
    const int parts = std::max(8, static_cast<int>(std::ceil(4 * c.total)));
    c.solid_length =
        std::max(d, gauss<gauss_12>(0, c.total, parts, [&](double turn) { return lying(c, turn); }) + over);
    // G·d⁴·(p − s)/(8·D³) and G·d·(p − s)/(π·D²): a quarter of a degree is far finer than their change
    const int steps = 1440 * static_cast<int>(std::ceil(c.active));
    c.straight_to = 1e300;
    for (int i = 0; i <= steps; ++i) {
        const double turn = c.dead / 2 + c.active * i / steps, D = 2 * c.line.radius(2 * pi * turn),
                     falls = std::max(0.0, c.pitch - lying(c, turn));
        const double force = shear_modulus * std::pow(d, 4) * falls / (8 * D * D * D),
                     stress = shear_modulus * d * falls / (pi * D * D);
        c.force_at_solid = std::max(c.force_at_solid, force);
        c.straight_to = std::min(c.straight_to, force);
        if (stress > c.stress_at_solid) c.stress_at_solid = stress, c.stressed_diameter = D;
    }
}

// EN 13906-2 and -3: what an extension spring holds before its coils part, and what a torsion spring turns by.
void load_ends(ResolvedCoil& c, double elastic_modulus) {
    const double d = c.wire, D = c.largest_mean, w = D / d;
    const auto strength = strength_of(c.spec);
    if (c.spec.kind == SpringKind::torsion) {
        // M/α = E·d⁴/(3667·D·n), each turn by its own diameter: D·n = ∫D dn
        const double over = gauss<gauss_12>(0, c.total, std::max(4, static_cast<int>(c.total)),
                                            [&](double turn) { return 2 * c.line.radius(2 * pi * turn); });
        c.torsion_rate = elastic_modulus * std::pow(d, 4) / (3667 * over);
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

} // namespace

std::string_view word(SpringKind kind) {
    constexpr std::string_view words[]{"compression", "extension", "torsion"};
    return words[static_cast<std::size_t>(kind)];
}

const std::vector<std::string>& wire_classes() {
    static const std::vector<std::string> all{"SL", "SM", "DM", "SH", "DH"};
    return all;
}

std::optional<double> tensile_strength(const std::string& wire_class, double d) {
    if (wire_class == "SL") return 1720 - 660 * std::log10(d);
    if (wire_class == "SM" || wire_class == "DM") return 1980 - 740 * std::log10(d);
    if (wire_class == "SH" || wire_class == "DH") return 2220 - 820 * std::log10(d);
    return {};
}

std::optional<double> strength_of(const CoilSpec& s) {
    if (s.material != "EN 10270-1") return {};
    return tensile_strength(s.wire_class, in_mm(s.wire));
}

double bending_factor(double index) {
    return (index + 0.07) / (index - 0.75);
}

const std::vector<SpringWire>& spring_wires() {
    static const std::vector<SpringWire> all{{"EN 10270-1", 81500, 206000, 7.85},
                                             {"EN 10270-2", 79500, 206000, 7.85},
                                             {"EN 10270-3 1.4310", 70000, 185000, 7.9}};
    return all;
}

const SpringWire* find_spring_wire(const std::string& name) {
    for (const SpringWire& w : spring_wires())
        if (name == w.name) return &w;
    return nullptr;
}

double ground_cut(const ResolvedCoil& c, bool far, double phi) {
    const double rho = c.wire / 2, level = far ? c.line.rise() - c.ground_height : c.ground_height;
    const double start = far ? c.line.end() : 0, most = std::min(c.line.end() / 2, 4 * pi);
    // z(θ) + ρ·sin φ·(upwards)z = level, by bisection and Newton's method
    const auto off = [&](double theta) {
        return c.line.height(theta) + rho * std::sin(phi) * c.line.frame(theta).upwards.z - level;
    };
    double low = far ? start - most : start, high = far ? start : start + most;
    if (far ? off(high) <= 0 : off(low) >= 0) return start;
    double theta = start;
    for (int k = 0; k < 80; ++k) {
        const double v = off(theta);
        (v < 0 ? low : high) = theta;
        const double slope = c.line.point(theta).d1.z;
        double next = slope > 0 ? theta - v / slope : (low + high) / 2;
        if (!(next > low && next < high)) next = (low + high) / 2;
        if (std::abs(next - theta) < 1e-14 * (1 + theta)) return next;
        theta = next;
    }
    return theta;
}

double ResolvedCoil::ground_to(bool far) const {
    if (!spec.ground) return far ? line.end() : 0;
    return ground_cut(*this, far, far ? pi / 2 : -pi / 2);
}

std::vector<ResolvedValue> with_pounds(const std::vector<ResolvedValue>& values) {
    constexpr double pound = 4.4482216152605; // N
    std::vector<ResolvedValue> out;
    for (const ResolvedValue& v : values) {
        out.push_back(v);
        const bool rate = v.key == "spring_rate", force = v.key == "force_at_solid" || v.key == "straight_to";
        if (!v.value || (!rate && !force)) continue;
        ResolvedValue more = v;
        more.key += rate ? "_lbf_per_in" : "_lbf";
        more.label = v.label.substr(0, v.label.find(',')) + (rate ? ", lbf/in" : ", lbf");
        more.value = *v.value / pound * (rate ? LengthKind::millimetres_per_inch : 1);
        more.source = rate ? "1 lbf/in = 0.175127 N/mm" : "1 lbf = 4.448222 N";
        out.push_back(std::move(more));
    }
    return out;
}

double largest_wire(const CoilSpec& spec) {
    const auto keeps_apart = [&](double wire) {
        CoilSpec s = spec;
        s.wire = mm(wire);
        if (s.tip) s.tip = std::clamp(*spec.tip, mm(0.15 * wire), mm(0.9 * wire)); // kept as far as it can be
        if (s.pitch && (s.active || s.total))
            s.free_length.reset(); // which follows; it holds for one wire only
        try {
            const ResolvedCoil c = shape_of(s);
            return c.line.least_distance() >= wire && c.line.least_bend() > wire / 2;
        } catch (const InputError&) {
            return false;
        }
    };
    double low = in_mm(spec.wire), high = low;
    if (keeps_apart(low)) {
        while (keeps_apart(high) && high < 1e3)
            low = high, high *= 1.5;
    } else {
        while (!keeps_apart(low) && low > 1e-3)
            high = low, low /= 1.5;
        if (low <= 1e-3) return 0;
    }
    for (int k = 0; k < 14; ++k) {
        const double middle = (low + high) / 2;
        (keeps_apart(middle) ? low : high) = middle;
    }
    return std::floor(low * 1000) / 1000;
}

ResolvedCoil resolve_coil(const CoilSpec& s) {
    const SpringWire* m = find_spring_wire(s.material);
    if (!m) {
        std::string known;
        for (const SpringWire& w : spring_wires())
            known += (known.empty() ? "" : ", ") + std::string(w.name);
        throw InputError("There is no spring wire '" + s.material + "' here; there are " + known + ".");
    }
    if (std::ranges::find(wire_classes(), s.wire_class) == wire_classes().end())
        throw InputError("There is no wire class '" + s.wire_class +
                         "'; EN 10270-1 has SL, SM, DM, SH and DH.");
    ResolvedCoil c = shape_of(s);
    const double d = c.wire;
    c.least_distance = c.line.least_distance();
    c.least_bend = c.line.least_bend();
    c.clear_of_coils = c.line.least_clearance(3.2 * d);
    c.wire_length = c.line.length();
    const double begin = c.dead / 2, end = c.total - c.dead / 2;
    const double cubes =
        gauss<gauss_12>(begin, end, std::max(4, static_cast<int>(c.active)),
                        [&](double turn) { return std::pow(2 * c.line.radius(2 * pi * turn), 3); });
    c.rate = m->shear_modulus * std::pow(d, 4) / (8 * cubes);
    c.volume = pi * d * d / 4 * c.wire_length;
    if (s.ground) c.volume -= ground_off(c, false) + ground_off(c, true);
    if (s.kind == SpringKind::compression)
        close(c, m->shear_modulus);
    else
        load_ends(c, m->elastic_modulus);
    list_values(c);
    return c;
}

} // namespace whorl
