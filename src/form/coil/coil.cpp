#include "form/coil/coil.hpp"

#include "form/coil/coil_load.hpp"
#include "form/coil/coil_shape.hpp"
#include "form/coil/coil_values.hpp"
#include "form/coil/curved_twist.hpp"

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
    const WireShape wire = c.shape();
    const auto slice = [&](double theta) {
        const auto f = c.line.frame(theta);
        const double over = (level - c.line.height(theta)) / f.upwards.z; // the face over the wire's middle
        if (!wire.round) {
            const double y = std::clamp(over, -wire.axial / 2, wire.axial / 2),
                         edge = (far ? 1 : -1) * wire.axial / 2;
            return wire.across * (f.speed * std::abs(edge - y) +
                                  f.upwards_turns * (edge * edge - y * y) / 2 * (far ? 1 : -1));
        }
        // the part of the disc under the face (near), over it (far); `half` is half the angle it is seen at
        const double face = over / rho;
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
    if (s.material != "EN 10270-1" || s.axial) return {}; // the rule is of round wire
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
    const double up = c.shape().at(phi).y, level = ground_level(c, far);
    const double start = far ? c.line.end() : 0, most = std::min(c.line.end() / 2, 4 * pi);
    // z(θ) + y(φ)·(upwards)z = level, by bisection and Newton's method
    const auto off = [&](double theta) {
        return c.line.height(theta) + up * c.line.frame(theta).upwards.z - level;
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
    if (spec.axial) return 0;
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
// Between neighbouring coils. Flat-sided wire is cut by a plane through the axis: there the next turn's section stands ΔR and Δz
// away, both as high as the wire's height over the cosine of its slope.
double gap_between(const CoilBody& c) {
    if (c.round) return c.least_distance - c.wire;
    const double end = c.line.coil_end() - full_turn;
    if (end < 0) return 1e9;
    const int n = std::max(8, static_cast<int>(std::ceil(end / full_turn * 96)));
    double least = 1e9;
    for (int i = 0; i <= n; ++i) {
        const double a = end * i / n, b = a + full_turn, level = c.line.frame(a).upwards.z;
        least = std::min(least, std::max((c.line.height(b) - c.line.height(a)) * level - c.axial,
                                         std::abs(c.line.radius(b) - c.line.radius(a)) - c.wire));
    }
    return least;
}

// Between legs and the rest of flat-sided wire, as the middles of round wire as thick as it is broad would have it: a leg leaves a
// coil beside it room where it is its height above or below, or its breadth farther out or in.
double flat_clearance(const CoilBody& c, double along) {
    struct Sample {
        Vec3 at, outwards, upwards;
        double way;
        bool coil;
    };
    std::vector<Sample> all;
    const auto& breaks = c.line.breaks();
    double way = 0;
    for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
        const double from = breaks[i], to = breaks[i + 1];
        const bool coil = from > -1e-9 && to < c.line.coil_end() + 1e-9;
        const int n = std::max(6, static_cast<int>(std::ceil((to - from) / 0.05)));
        for (int k = all.empty() ? 0 : 1; k <= n; ++k) {
            const double theta = from + (to - from) * k / n;
            const Vec3 at = c.line.point(theta).at;
            const auto f = c.line.frame(theta);
            if (!all.empty()) way += norm(at - all.back().at);
            all.push_back({at, f.outwards, f.upwards, way, coil});
        }
    }
    double least = 1e9;
    for (const Sample& leg : all)
        for (const Sample& rest : all) {
            if (leg.coil || std::abs(leg.way - rest.way) < along) continue;
            const Vec3 off = leg.at - rest.at;
            const double x = std::abs(dot(off, rest.outwards)) - c.wire,
                         y = std::abs(dot(off, rest.upwards)) - c.axial,
                         z = std::abs(dot(off, cross(rest.outwards, rest.upwards))) -
                             std::max(c.wire, c.axial);
            least = std::min(least, std::max({x, y, z}));
        }
    return least + c.wire;
}

// What follows from the centreline.
void measure(CoilBody& c) {
    c.least_distance = c.line.least_distance();
    c.least_bend = c.line.least_bend();
    const double beyond = 3.2 * std::max(c.wire, c.axial);
    c.clear_of_coils = c.round ? c.line.least_clearance(beyond)
                       : !c.near_laid.stretches.empty() || !c.far_laid.stretches.empty()
                           ? flat_clearance(c, beyond)
                           : 1e9;
    c.wire_length = c.line.length();
    c.gap_between = gap_between(c);
    c.volume = c.shape().area() * c.wire_length; // Pappus: its middle is on the line
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
    measure(c);
    const double begin = c.near_turns.dead, end = c.total - c.far_turns.dead;
    const TwistOver twist(c.shape(), c.smallest_mean, c.largest_mean);
    const double gives =
        gauss<gauss_12>(begin, end, std::max(4, static_cast<int>(c.active)), [&](double turn) {
            const double D = mean_diameter_at(c, turn);
            return D * D * D / twist.twist(D);
        });
    c.rate = 4 * m->shear_modulus / (pi * gives);
    if (s.kind == SpringKind::compression)
        close_coil(c);
    else
        load_ends(c, m->elastic_modulus);
    c.curve = load_curve(c);
    list_values(c);
    if (s.made_at) make_sprung(c);
    return c;
}

} // namespace whorl
