#include "form/coil/coil.hpp"

#include "form/coil/coil_load.hpp"
#include "form/coil/coil_shape.hpp"
#include "form/coil/coil_values.hpp"

#include "form/tooth/tooth_range.hpp"
#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

// z of a ground face over the centreline's near end.
double ground_level(const CoilBody& c, bool far) {
    return far ? c.line.rise() - c.far_turns.ground_height : c.near_turns.ground_height;
}

// What is ground off one end: between the end and where the face leaves the wire, the part of the wire's
// section beyond the face. Generalised Pappus: the section's element at the height y over the centreline
// sweeps (speed + y·upwards_turns) dθ.
double ground_off(const CoilBody& c, bool far) {
    const double rho = c.wire / 2, level = ground_level(c, far);
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

double mean_diameter_at(const CoilBody& c, double turn) {
    return 2 * c.line.radius(full_turn * turn);
}
double pitch_asked_at(const CoilBody& c, double turn) {
    if (turn < c.near_turns.dead - 1e-9) return c.near_turns.pitch;
    if (turn > c.line.shape().turns - c.far_turns.dead + 1e-9) return c.far_turns.pitch;
    return c.line.pitch(full_turn * std::clamp(turn, c.active_from, c.active_to));
}

double ground_cut(const CoilBody& c, bool far, double phi) {
    const double rho = c.wire / 2, level = ground_level(c, far);
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

double CoilBody::ground_to(bool far) const {
    if (!ground(far)) return far ? line.end() : 0;
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
        for (std::optional<Length>* tip : {&s.tip, &s.near.tip, &s.far.tip}) // kept as far as it can be
            if (*tip) *tip = std::clamp(**tip, mm(0.15 * wire), mm(0.9 * wire));
        if (!s.pitch.empty() && (s.active || s.total))
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

namespace {
// What follows from the centreline.
void measure(CoilBody& c) {
    c.least_distance = c.line.least_distance();
    c.least_bend = c.line.least_bend();
    c.clear_of_coils = c.line.least_clearance(3.2 * c.wire);
    c.wire_length = c.line.length();
    c.volume = pi * c.wire * c.wire / 4 * c.wire_length;
    for (const bool far : {false, true})
        if (c.ground(far)) c.volume -= ground_off(c, far);
}

// Its shape becomes that of the state in which it is made; what it is said to be stays that of the free one.
void make_sprung(ResolvedCoil& c) {
    const LoadCurve::Point at = at_state(c, *c.spec.made_at);
    c.made_at = at;
    ResolvedCoil made = shape_of(sprung(c, at));
    if (!c.has_ends()) {
        // turns that lie are held a little apart; those that don't yet give way for them, as far as there are any
        const double length = c.free_length - at.travel;
        LoadCurve::Point low = at, high = c.curve.points().back();
        double over = made.free_length - length, under = shape_of(sprung(c, high)).free_length - length;
        for (int k = 0; k < 12 && over > 1e-9 && under < 0; ++k) { // by chords, every other one by halves
            const double part = k % 2 ? 0.5 : over / (over - under);
            LoadCurve::Point middle = low;
            middle.load += part * (high.load - low.load);
            middle.travel += part * (high.travel - low.travel);
            made = shape_of(sprung(c, middle));
            const double off = made.free_length - length;
            if (std::abs(off) < 1e-9) break;
            off > 0 ? (low = middle, over = off) : (high = middle, under = off);
        }
    }
    measure(made);
    made.length = c.has_ends() ? made.body_length : made.free_length;
    static_cast<CoilBody&>(c) = std::move(made);
}
} // namespace

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
    if (s.works.size() > 2) throw InputError("A spring works between two states at most, such as 32..24.");
    ResolvedCoil c = shape_of(s);
    const double d = c.wire;
    measure(c);
    const double begin = c.near_turns.dead, end = c.total - c.far_turns.dead;
    const double cubes = gauss<gauss_12>(begin, end, std::max(4, static_cast<int>(c.active)),
                                         [&](double turn) { return std::pow(mean_diameter_at(c, turn), 3); });
    c.rate = m->shear_modulus * std::pow(d, 4) / (8 * cubes);
    if (s.kind == SpringKind::compression)
        close_coil(c, m->shear_modulus);
    else
        load_ends(c, m->elastic_modulus);
    c.curve = load_curve(c);
    list_values(c);
    if (s.made_at) make_sprung(c);
    return c;
}

} // namespace whorl
