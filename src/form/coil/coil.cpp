#include "form/coil/coil.hpp"

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

double closed_pitch(const CoilSpec& s, double dead) {
    const double d = in_mm(s.wire);
    if (dead <= 2) return d;
    double smallest = 1e9;
    for (const Length D : s.diameters)
        smallest = std::min(smallest, mean_of(s, D));
    const double rise = apart * d; // square to the coils; along the axis it is more
    return rise / std::sqrt(std::max(0.01, 1 - std::pow(rise / (pi * smallest), 2)));
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

class Lister {
public:
    explicit Lister(ResolvedCoil& c) : c_(c) {}

    void list() {
        const CoilSpec& s = c_.spec;
        const SpringWire& m = *find_spring_wire(s.material);
        const double d = c_.wire;
        // coils of more than one dead turn at an end stand a little apart
        const bool apart_closed = c_.dead > 2;
        const std::string closed = apart_closed ? "pc" : "d";
        length("wire_diameter", "Wire diameter", d, "as asked");
        range("mean_diameter", "Mean diameter", c_.smallest_mean, c_.largest_mean,
              s.measured == CoilDiameter::mean ? "as asked" : "D = De − d = Di + d");
        range("outside_diameter", "Outside diameter", c_.smallest_mean + d, c_.largest_mean + d,
              "De = D + d");
        range("inside_diameter", "Inside diameter", c_.smallest_mean - d, c_.largest_mean - d, "Di = D − d");
        length("free_length", "Free length", c_.free_length,
               s.free_length ? "as asked"
               : s.ground
                   ? "L0 = n·p + (nt − n)·" + closed + (s.tip ? " − d + 2·t" : "") + ", over the ground faces"
                   : "L0 = n·p + (nt − n)·" + closed + " + d");
        length("pitch", "Pitch", c_.pitch,
               s.pitch ? "as asked" : "of the active coils, from the free length");
        number("active_coils", "Active turns", c_.active, s.active ? "as asked" : "n = nt − dead turns");
        number("total_coils", "Turns in all", c_.total, s.total ? "as asked" : "nt = n + dead turns");
        number("dead_coils", "Dead turns", c_.dead,
               s.dead                       ? "as asked"
               : s.active && s.total        ? "nt − n"
               : s.ends == CoilEnds::closed ? "one at each closed end"
                                            : "none with open ends");
        if (apart_closed)
            length("closed_pitch", "Pitch of dead turns", c_.line.shape().closed_pitch,
                   "pc: half a hundredth of the wire apart, square to the coils");
        if (s.ground)
            length("tip_thickness", "Thickness of the wire's end", d / 2 - c_.ground_height,
                   s.tip ? "as asked" : "d/2");
        range("index", "Spring index", c_.smallest_mean / d, c_.largest_mean / d, "EN 13906-1, w = D/d",
              ValueKind::number);
        number("spring_rate", "Spring rate, N/mm", c_.rate,
               c_.smallest_mean == c_.largest_mean
                   ? "EN 13906-1, R = G·d⁴/(8·D³·n)"
                   : "each turn by its own diameter: R = G·d⁴/(8·∫D³ dn), until the first lies down");
        number("shear_modulus", "Shear modulus, MPa", m.shear_modulus,
               std::string("EN 13906-1, wire of ") + m.name);
        const bool cylinder = c_.smallest_mean == c_.largest_mean;
        const char* ends = s.ground ? "" : s.ends == CoilEnds::closed ? " + 1.5·d" : " + d";
        length("solid_length", "Solid length", c_.solid_length,
               !cylinder ? std::string("turn by turn, nested: Lc = Σ √(d² − ΔR²)") + ends + ", at least d"
               : s.ground                   ? "EN 13906-1, Lc = nt·d"
               : s.ends == CoilEnds::closed ? "EN 13906-1, Lc = (nt + 1.5)·d"
                                            : "coils on each other: Lc = (nt + 1)·d");
        if (!cylinder)
            number("straight_to", "Rate holds to, N", c_.straight_to,
                   "the first turn lies down: F = G·d⁴·(p − s)/(8·D³), s = √(d² − ΔR²) as it lies; stiffer "
                   "beyond");
        number("force_at_solid", "Force at solid, N", c_.force_at_solid,
               cylinder ? "F = R·(L0 − Lc)" : "the last turn lies down: F = G·d⁴·(p − s)/(8·D³)");
        number("stress_at_solid", "Stress at solid, MPa", c_.stress_at_solid,
               cylinder ? "EN 13906-1, τ = 8·F·D/(π·d³)"
                        : "turn by turn as it lies down: τ = G·d·(p − s)/(π·D²), the largest");
        const double w = c_.stressed_diameter / d, k = (w + 0.5) / (w - 0.75);
        number("corrected_stress_at_solid", "Corrected stress, MPa", k * c_.stress_at_solid,
               "EN 13906-1, k = (w + 0.5)/(w − 0.75), for dynamic loads");
        if (cylinder)
            length("least_gap", "Least sum of gaps",
                   c_.active * (0.0015 * c_.largest_mean * c_.largest_mean / d + 0.1 * d),
                   "EN 13906-1, Sa = n·(0.0015·D²/d + 0.1·d), static");
        length("wire_length", "Length of wire", c_.wire_length, "along the centreline");
        number("mass", "Mass, g", c_.volume / 1000 * m.density,
               std::string("what is ground off taken away; ") + number_text(m.density, 2) + " g/cm³");
        if (c_.smallest_mean == c_.largest_mean)
            number("natural_frequency", "Natural frequency, Hz",
                   3560 * d / (c_.active * c_.largest_mean * c_.largest_mean) *
                       std::sqrt(m.shear_modulus / m.density),
                   "EN 13906-1, 3560·d/(n·D²)·√(G/ρ), both ends held");
        if (const double widest = largest_wire(s); widest > 0)
            length("largest_wire", "Largest wire", widest, "with which the coils keep apart everywhere");
    }

private:
    void add(const char* key, const char* label, ValueKind kind, std::string source) {
        ResolvedValue v;
        v.key = key;
        v.label = label;
        v.kind = kind;
        v.source = std::move(source);
        c_.values.push_back(std::move(v));
    }
    void length(const char* key, const char* label, double value, std::string source) {
        add(key, label, ValueKind::length, std::move(source));
        c_.values.back().value = value;
    }
    void number(const char* key, const char* label, double value, std::string source) {
        add(key, label, ValueKind::number, std::move(source));
        c_.values.back().value = value;
    }
    void range(const char* key, const char* label, double low, double high, std::string source,
               ValueKind kind = ValueKind::length) {
        add(key, label, kind, std::move(source));
        ResolvedValue& v = c_.values.back();
        if (low == high)
            v.value = low;
        else
            v.min = low, v.max = high;
    }

    ResolvedCoil& c_;
};

// All but what follows from the strength of materials.
ResolvedCoil shape_of(const CoilSpec& s) {
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
    const Turns t = turns_of(s);
    c.active = t.active;
    c.total = t.total;
    c.dead = t.dead;
    c.ground_height = s.ground ? c.wire / 2 - (s.tip ? in_mm(*s.tip) : c.wire / 2) : 0;
    shape.turns = t.total;
    shape.dead = t.dead / 2;
    shape.closed_pitch = closed_pitch(s, t.dead);
    shape.left = s.hand == Hand::left;
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

} // namespace

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
    ResolvedCoil c = shape_of(s);
    const double d = c.wire;
    c.least_distance = c.line.least_distance();
    c.least_bend = c.line.least_bend();
    c.wire_length = c.line.length();
    const double begin = c.dead / 2, end = c.total - c.dead / 2;
    const double cubes =
        gauss<gauss_12>(begin, end, std::max(4, static_cast<int>(c.active)),
                        [&](double turn) { return std::pow(2 * c.line.radius(2 * pi * turn), 3); });
    c.rate = m->shear_modulus * std::pow(d, 4) / (8 * cubes);
    close(c, m->shear_modulus);
    c.volume = pi * d * d / 4 * c.wire_length;
    if (s.ground) c.volume -= ground_off(c, false) + ground_off(c, true);
    Lister(c).list();
    return c;
}

} // namespace whorl
