#include "form/coil/coil_values.hpp"

#include "form/coil/coil_load.hpp"
#include "form/coil/curved_twist.hpp"
#include "form/coil/find_spring.hpp"
#include "form/coil/spring_block.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

class Lister {
public:
    explicit Lister(ResolvedCoil& c) : c_(c), m_(*find_spring_wire(c.spec.material)), d_(c.axial) {}

    void list() {
        const SpringKind kind = c_.spec.kind;
        list_wire();
        if (kind == SpringKind::compression)
            list_compression();
        else if (kind == SpringKind::extension)
            list_extension();
        else
            list_torsion();
        length("wire_length", "Length of wire", c_.wire_length,
               c_.has_ends() ? "along the centreline, hooks or legs with it" : "along the centreline");
        number("mass", "Mass, g", c_.volume / 1000 * m_.density,
               std::string(c_.any_ground() ? "what is ground off taken away; " : "") +
                   number_text(m_.density, 2) + " g/cm³");
        if (kind == SpringKind::compression && cylinder()) list_frequency();
        list_states();
        if (kind == SpringKind::compression)
            if (const double widest = largest_wire(c_.spec); widest > 0)
                length("largest_wire", "Largest wire", widest, "with which the coils keep apart everywhere");
    }

private:
    bool cylinder() const { return c_.is_cylinder(); }

    void list_frequency() {
        if (c_.round)
            return number("natural_frequency", "Natural frequency, Hz",
                          3560 * d_ / (c_.active * c_.largest_mean * c_.largest_mean) *
                              std::sqrt(m_.shear_modulus / m_.density),
                          "EN 13906-1, 3560·d/(n·D²)·√(G/ρ), both ends held");
        const double mass = c_.shape().area() * pi * c_.largest_mean * c_.active / 1000 * m_.density; // g
        number("natural_frequency", "Natural frequency, Hz", std::sqrt(c_.rate * 1e6 / mass) / 2,
               "½·√(R/m), m the mass of the active turns, both ends held");
    }

    void list_wire() {
        const CoilSpec& s = c_.spec;
        const double d = c_.wire;
        if (c_.round) {
            length("wire_diameter", "Wire diameter", d, "as asked");
        } else {
            length("wire_across", "Wire, across the axis", d, "b, as asked");
            length("wire_axial", "Wire, along the axis", c_.axial, "h, as asked");
        }
        range("mean_diameter", "Mean diameter", c_.smallest_mean, c_.largest_mean,
              s.measured == CoilDiameter::mean ? "as asked" : "D = De − d = Di + d");
        range("outside_diameter", "Outside diameter", c_.smallest_mean + d, c_.largest_mean + d,
              said("De = D + d", "De = D + b"));
        range("inside_diameter", "Inside diameter", c_.smallest_mean - d, c_.largest_mean - d,
              said("Di = D − d", "Di = D − b"));
    }
    void list_index() {
        range("index", "Spring index", c_.smallest_mean / c_.wire, c_.largest_mean / c_.wire,
              said("EN 13906, w = D/d", "D/b, by the wire's side across the axis"), ValueKind::number);
    }
    // Of round wire, or of flat-sided.
    std::string said(const char* round, const char* flat) const { return c_.round ? round : flat; }
    void list_strength(double part, const char* what) {
        const auto strength = strength_of(c_.spec);
        if (!strength) return;
        number("tensile_strength", "Tensile strength, MPa", *strength,
               "least, by the rule of EN 10270-1 " + c_.spec.wire_class + ": " +
                   (c_.spec.wire_class == "SL"     ? "1720 − 660·lg d"
                    : c_.spec.wire_class[1] == 'M' ? "1980 − 740·lg d"
                                                   : "2220 − 820·lg d"));
        number("permissible_stress", "Permissible stress, MPa", part * *strength, what);
    }

    void list_extension() {
        const CoilSpec& s = c_.spec;
        const double d = d_, D = c_.largest_mean, by_stress = pi * d * d * d / (8 * D), w = D / d;
        length("free_length", "Free length", c_.free_length,
               "between the hooks, inside: L0 = LK + LH1 + LH2");
        length("body_length", "Body length", c_.body_length,
               !s.pitch.empty()
                   ? "n·p + d"
                   : "EN 13906-2, LK = (n + 1)·d; in the solid each turn is half a hundredth longer");
        length("overall_length", "Length over all", c_.overall, "of the solid along its axis");
        list_hook("near_hook", "Near hook, clear", s.near, c_.near_laid);
        list_hook("far_hook", "Far hook, clear", s.far, c_.far_laid);
        number("active_coils", "Active turns", c_.active, "as asked");
        number("total_coils", "Turns in all", c_.total, "all are active");
        list_ends_turned();
        list_index();
        number("spring_rate", "Spring rate, N/mm", c_.rate,
               "EN 13906-2, R = G·d⁴/(8·D³·n), once the coils part");
        number("shear_modulus", "Shear modulus, MPa", m_.shear_modulus,
               std::string("EN 13906-1, wire of ") + m_.name);
        number("initial_tension", "Initial tension, N", c_.initial_tension,
               s.initial_tension ? "as asked"
               : strength_of(s)
                   ? "as much as an automatic winds in: F0 = (0.075 − 0.00375·w)·Rm·π·d³/(8·D), EN 13906-2"
                   : "none asked; for this wire no limit is known here");
        list_strength(0.45, "EN 13906-2, 0.45·Rm, shear in the body");
        if (const auto strength = strength_of(s))
            number("most_initial_tension", "At most, N",
                   std::max(0.0, 0.135 - 0.00625 * w) * *strength * by_stress,
                   "wound on a bench: (0.135 − 0.00625·w)·Rm, EN 13906-2");
        if (c_.permissible_force <= 0) return;
        number("permissible_force", "Permissible force, N", c_.permissible_force,
               "Fn = τ·π·d³/(8·D) of the body");
        if (c_.permissible_force > c_.initial_tension)
            length("permissible_travel", "Travel to it",
                   (c_.permissible_force - c_.initial_tension) / c_.rate, "(Fn − F0)/R");
        const double r = std::min(bend_of(c_.near_laid), bend_of(c_.far_laid));
        if (r < 1e8)
            number("hook_stress", "Stress in the hook, MPa",
                   16 * c_.permissible_force * D / (pi * d * d * d) * bending_factor(2 * r / d) +
                       4 * c_.permissible_force / (pi * d * d),
                   "at that force: 16·F·D/(π·d³)·q + 4·F/(π·d²), q of its bend of r " + number_text(r, 3) +
                       " mm");
    }
    static double bend_of(const LaidEnd& e) { return e.tightest > 0 ? e.tightest : 1e9; }
    void list_hook(const char* key, const char* label, const WireEnd& e, const LaidEnd& laid) {
        if (!e.is_hook()) return;
        length(key, label, laid.clear,
               std::string(word(e.kind)) + (e.size ? " hook, as asked" : " hook, over the body") +
                   "; bent round " + number_text(laid.tightest, 3) + " mm");
    }
    void list_ends_turned() {
        const double turned = c_.total - std::floor(c_.total + 1e-9);
        add("end_angle", "Far end turned by", ValueKind::angle,
            "of the near one, seen along the axis: the turns beyond whole ones");
        c_.values.back().value = turned * 2 * pi < 1e-9 ? 0 : turned * 2 * pi;
    }

    void list_torsion() {
        const CoilSpec& s = c_.spec;
        length("body_length", "Body length", c_.body_length,
               !s.pitch.empty() || s.free_length
                   ? said("n·p + d", "n·p + h")
                   : said("EN 13906-3, (n + 1.5)·d, wound tight", "(n + 1.5)·h, wound tight"));
        length("overall_length", "Length over all", c_.overall, "of the solid along its axis");
        length("pitch", "Pitch", c_.pitch,
               !s.pitch.empty() ? "as asked" : "coils half a hundredth of the wire apart");
        number("active_coils", "Active turns", c_.active, "as asked");
        list_ends_turned();
        list_index();
        number("torsion_rate", "Torsion rate, N·mm/°", c_.torsion_rate,
               said("EN 13906-3, E·d⁴/(3667·D·n), legs held",
                    "E·h·b³/(2160·D·n), legs held: EN 13906-3 with the rectangle's b³·h/12"));
        const double legs = leg_length(s.near) + leg_length(s.far);
        if (legs > 0 && cylinder())
            number("torsion_rate_legs", "With its legs, N·mm/°",
                   c_.torsion_rate * c_.total / (c_.total + legs / (3 * pi * c_.largest_mean)),
                   "legs loaded at their ends, as beams: n + (l1 + l2)/(3·π·D) turns");
        number("elastic_modulus", "Modulus of elasticity, MPa", m_.elastic_modulus,
               std::string("EN 13906-1, wire of ") + m_.name);
        list_strength(0.7, "EN 13906-3, 0.7·Rm, bending");
        if (c_.permissible_moment <= 0) return;
        const double angle = c_.permissible_moment / c_.torsion_rate;
        number("permissible_moment", "Permissible moment, N·mm", c_.permissible_moment,
               "σ·π·d³/(32·q), q = (w + 0.07)/(w − 0.75)");
        add("permissible_angle", "Wound by", ValueKind::angle, "at that moment, M/R");
        c_.values.back().value = angle * pi / 180;
        if (!cylinder()) return;
        const double wound = c_.largest_mean * c_.total / (c_.total + angle / 360);
        length("wound_diameter", "Mean diameter then", wound, "D·n/(n + α/360°), wound in its own hand");
        length("largest_mandrel", "Largest mandrel", 0.98 * (wound - c_.wire),
               "0.98 of the inside diameter then");
    }
    static double leg_length(const WireEnd& e) {
        return e.kind == WireEndKind::leg && e.size ? in_mm(*e.size) : 0;
    }

    void list_compression() {
        const CoilSpec& s = c_.spec;
        const SpringWire& m = m_;
        const double d = d_;
        // coils of more than one dead turn at an end stand a little apart, or have a pitch of their own
        const bool apart_closed = [&] {
            for (const bool far : {false, true})
                if (c_.turns_at(far).dead > 0 && c_.turns_at(far).pitch != d) return true;
            return false;
        }();
        length("free_length", "Free length", c_.free_length,
               !s.free_length                       ? follows_from(apart_closed)
               : s.length_over == LengthOver::faces ? "as asked"
               : s.length_over == LengthOver::wire  ? "over the ends, from the length over the wire"
                                                    : "over the ends, from the length of the centreline");
        if (c_.any_ground() || s.length_over != LengthOver::faces)
            length("wire_to_wire", "Over the wire", c_.line.rise() + d,
                   "before it is ground: L0 and what is ground off");
        range("pitch", "Pitch", c_.smallest_pitch, c_.largest_pitch,
              !s.pitch.empty() ? "as asked" : "of the active coils, from the free length");
        if (!c_.of_one_pitch()) length("mean_pitch", "Mean pitch", c_.pitch, "of the active turns, ∫p/n");
        number("active_coils", "Active turns", c_.active,
               s.active  ? "as asked"
               : s.total ? "n = nt − dead turns"
                         : "from the free length and the pitch");
        number("total_coils", "Turns in all", c_.total, s.total ? "as asked" : "nt = n + dead turns");
        number("dead_coils", "Dead turns", c_.dead, dead_from());
        const EndTurns &near = c_.near_turns, &far = c_.far_turns;
        if (near.dead > 0 && far.dead > 0 && near.pitch == far.pitch) {
            list_closed_pitch("closed_pitch", "Pitch of dead turns", false);
        } else {
            list_closed_pitch("near_closed_pitch", "Pitch of near dead turns", false);
            list_closed_pitch("far_closed_pitch", "Pitch of far dead turns", true);
        }
        list_tips();
        list_index();
        number(
            "spring_rate", "Spring rate, N/mm", c_.rate,
            (cylinder()
                 ? said("EN 13906-1, R = G·d⁴/(8·D³·n)", "R = 4·G·It·c/(π·D³·n), c of the coil's curvature")
                 : said("each turn by its own diameter: R = G·d⁴/(8·∫D³ dn)",
                        "each turn by its own diameter: R = 4·G·It/(π·∫D³/c dn), c of its curvature")) +
                (closes_at_once(c_)                ? ""
                 : cylinder() && c_.of_one_pitch() ? ", once the closed turns lie"
                                                   : ", until the first turn lies down"));
        if (!c_.round) {
            number(
                "twist_constant", "Twisting It, mm⁴", c_.shape().twist(),
                "St Venant: a·b³·(1/3 − 64·b/(π⁵·a)·Σ tanh(k·π·a/2b)/k⁵), a the longer side, corners sharp");
            range("curvature_factor", "Curvature, c", curved_twist(c_.shape(), c_.largest_mean).stiffness,
                  curved_twist(c_.shape(), c_.smallest_mean).stiffness,
                  "by Michell's equation of a ring sector, over straight wire", ValueKind::number);
        }
        number("shear_modulus", "Shear modulus, MPa", m.shear_modulus,
               std::string("EN 13906-1, wire of ") + m.name);
        const bool cylinder = this->cylinder(), at_once = closes_at_once(c_);
        const bool ground = c_.near_turns.ground && c_.far_turns.ground,
                   alike = c_.near_turns.ground == c_.far_turns.ground &&
                           c_.near_turns.closed == c_.far_turns.closed;
        const char* ends = ground ? "" : !alike ? " + ends" : c_.near_turns.closed ? " + 1.5·d" : " + d";
        length("solid_length", "Solid length", c_.solid_length,
               !c_.round ? "nt·h, the wire's side along the axis; turns that nest take none, ends not ground "
                           "¾·h closed, ½·h open"
               : !cylinder ? std::string("turn by turn, nested: Lc = Σ √(d² − ΔR²)") + ends + ", at least d"
               : ground ? "EN 13906-1, Lc = nt·d"
               : !alike ? "Lc = nt·d, and 0.75·d at a closed, 0.5·d at an open end that is not ground"
               : c_.near_turns.closed ? "EN 13906-1, Lc = (nt + 1.5)·d"
                                      : "coils on each other: Lc = (nt + 1)·d");
        if (!at_once)
            number("straight_to", "Rate holds to, N", c_.straight_to,
                   said("the first turn lies down: F = G·d⁴·(p − s)/(8·D³), s = √(d² − ΔR²) as it lies; "
                        "stiffer beyond",
                        "the first turn lies down: F = 4·G·It·c·(p − s)/(π·D³), s = h as it lies, 0 where it "
                        "nests; stiffer "
                        "beyond"));
        number("force_at_solid", "Force at solid, N", c_.force_at_solid,
               at_once ? "F = R·(L0 − Lc)"
                       : said("the last turn lies down: F = G·d⁴·(p − s)/(8·D³)",
                              "the last turn lies down: F = 4·G·It·c·(p − s)/(π·D³)"));
        number("stress_at_solid", "Stress at solid, MPa", c_.stress_at_solid,
               !c_.round ? "τ = F·D/(2·Wt), St Venant's torsion, in the middle of the longer sides"
               : at_once ? "EN 13906-1, τ = 8·F·D/(π·d³)"
                         : "turn by turn as it lies down: τ = G·d·(p − s)/(π·D²), the largest");
        if (c_.round)
            list_round_compression();
        else
            number("corrected_stress_at_solid", "Corrected stress, MPa",
                   c_.stress_at_solid * curved_twist(c_.shape(), c_.stressed_diameter).stress,
                   "the largest by Michell's equation of a ring sector: curvature and direct shear");
        list_strength(0.56, "EN 13906-1, 0.56·Rm at solid");
        if (const auto strength = strength_of(s); strength && c_.stress_at_solid > 0)
            number("safety_at_solid", "Safety at solid", 0.56 * *strength / c_.stress_at_solid,
                   "permissible over the uncorrected stress there");
    }
    // What EN 13906-1 and EN 15800 have of round wire only.
    void list_round_compression() {
        const double d = d_, w = c_.stressed_diameter / d, k = (w + 0.5) / (w - 0.75);
        number("corrected_stress_at_solid", "Corrected stress, MPa", k * c_.stress_at_solid,
               "EN 13906-1, k = (w + 0.5)/(w − 0.75), for dynamic loads");
        if (cylinder()) {
            length("least_gap", "Least sum of gaps",
                   c_.active * (0.0015 * c_.largest_mean * c_.largest_mean / d + 0.1 * d),
                   "EN 13906-1, Sa = n·(0.0015·D²/d + 0.1·d), static");
            const auto buckles =
                buckling_travel(c_.free_length, c_.largest_mean, m_.shear_modulus, m_.elastic_modulus);
            if (buckles)
                length("buckling_travel", "Buckles at", *buckles,
                       "travel; EN 13906-1, both ends held square (ν = 0.5), nothing leads it");
            const double growth =
                0.1 * (c_.pitch * c_.pitch - 0.8 * c_.pitch * d - 0.2 * d * d) / c_.largest_mean;
            if (growth > 0 && c_.of_one_pitch())
                length("growth", "Grows outside by", growth,
                       "when solid; EN 13906-1, 0.1·(p² − 0.8·p·d − 0.2·d²)/D");
        }
        if (const auto t = spring_tolerance(c_)) {
            const std::string grade = "EN 15800, grade " + std::to_string(c_.spec.grade) + ": ";
            length("length_tolerance", "Free length, ±", t->length, grade + "aF·kF·Q/R");
            number("load_tolerance", "Load at solid, ± N", t->load(c_.force_at_solid),
                   grade + "(aF·kF + 0.015·F)·Q");
        }
    }

    std::string follows_from(bool apart_closed) const {
        const CoilSpec& s = c_.spec;
        std::string sum = c_.of_one_pitch() ? "L0 = n·p + " : "L0 = ∫p + ";
        sum += std::string("(nt − n)·") + (apart_closed ? "pc" : c_.round ? "d" : "h");
        if (c_.near_turns.ground != c_.far_turns.ground)
            return sum + said(" + d/2", " + h/2") + " at the end that is not ground";
        if (!c_.near_turns.ground) return sum + said(" + d", " + h");
        return sum + (s.tip || s.near.tip || s.far.tip ? said(" − d + 2·t", " − h + 2·t") : "") +
               ", over the ground faces";
    }
    std::string dead_from() const {
        const CoilSpec& s = c_.spec;
        const EndTurns &n = c_.near_turns, &f = c_.far_turns;
        if (n.dead != f.dead)
            return number_text(n.dead, 4) + " at the near, " + number_text(f.dead, 4) + " at the far end";
        if (s.dead) return "as asked";
        if (s.active && s.total) return "nt − n";
        if (s.near.turns || s.far.turns) return "as the ends say";
        return n.closed ? "one at each closed end" : "none with open ends";
    }
    void list_closed_pitch(const char* key, const char* label, bool far) {
        const EndTurns& e = c_.turns_at(far);
        if (e.dead <= 0 || e.pitch == d_) return;
        const WireEnd& own = far ? c_.spec.far : c_.spec.near;
        length(key, label, e.pitch,
               own.pitch ? "pc: as asked"
               : own.gap ? "pc: the wire and the gap asked"
                         : "pc: half a hundredth of the wire apart, square to the coils");
    }
    void list_tips() {
        const EndTurns &n = c_.near_turns, &f = c_.far_turns;
        const auto tip = [&](const EndTurns& e) { return d_ / 2 - e.ground_height; };
        const auto source = [&](const WireEnd& own) {
            return own.tip || (!own.is_turns() && c_.spec.tip) ? "as asked" : c_.round ? "d/2" : "h/2";
        };
        if (n.ground) length("tip_thickness", "Thickness of the wire's end", tip(n), source(c_.spec.near));
        if (f.ground && (!n.ground || tip(f) != tip(n)))
            length("far_tip_thickness", "Thickness of the far wire's end", tip(f), source(c_.spec.far));
    }

    // What it bears where it works, and where it is made.
    void list_states() {
        constexpr const char* keys[][4]{{"length_1", "load_1", "stress_1", "used_1"},
                                        {"length_2", "load_2", "stress_2", "used_2"},
                                        {"made_length", "made_load", "made_stress", "made_used"}};
        constexpr const char* names[]{"Working 1", "Working 2", "As made"};
        const bool torsion = c_.spec.kind == SpringKind::torsion;
        const auto permissible = find_value(c_.values, "permissible_stress");
        const std::optional<double> most = permissible ? permissible->value : std::nullopt;
        std::vector<LoadCurve::Point> at;
        const auto state = [&](std::size_t i, const SprungState& s) {
            const LoadCurve::Point p = at_state(c_, s);
            at.push_back(p);
            const std::string name = names[i];
            if (torsion) {
                add(keys[i][0], "", ValueKind::angle, "wound from the free angle");
                c_.values.back().value = p.travel * pi / 180;
            } else {
                length(keys[i][0], "", standing(c_, p.travel),
                       number_text(p.travel, 3) + " mm from the free length");
            }
            c_.values.back().label = name + (torsion ? ", angle" : ", length");
            number(keys[i][1], "", p.load,
                   s.load                                  ? "as asked"
                   : torsion                               ? "M = R·α"
                   : c_.spec.kind == SpringKind::extension ? "F = F0 + R·s"
                   : closes_at_once(c_)                    ? "F = R·s"
                                                           : "turn by turn, as they lie down");
            c_.values.back().label = name + (torsion ? ", N·mm" : ", N");
            if (const auto t = spring_tolerance(c_); t && i < 2) {
                number(i == 0 ? "load_tolerance_1" : "load_tolerance_2", "", t->load(p.load),
                       "EN 15800, grade " + std::to_string(c_.spec.grade) + ": (aF·kF + 0.015·F)·Q");
                c_.values.back().label = name + ", ± N";
            }
            number(keys[i][2], "", p.stress,
                   torsion ? said("σ = q·32·M/(π·d³)", "σ = 6·M/(h·b²), uncorrected")
                           : said("τ = 8·F·D/(π·d³)", "τ = F·D/(2·Wt)"));
            c_.values.back().label = name + ", MPa";
            if (most && *most > 0) {
                number(keys[i][3], "", 100 * p.stress / *most, "of the permissible stress");
                c_.values.back().label = name + ", %";
            }
        };
        for (std::size_t i = 0; i < std::min<std::size_t>(2, c_.spec.works.size()); ++i)
            state(i, c_.spec.works[i]);
        if (at.size() == 2) {
            const double range = std::abs(at[1].stress - at[0].stress);
            number("stress_range", "Stress range, MPa", range,
                   torsion && c_.round ? "between them, with q" : "between them, uncorrected");
            if (!torsion) {
                const auto [low, high] = *working_stresses(c_);
                number(
                    "corrected_stress_range", "Corrected range, MPa", high - low,
                    said("EN 13906-1, k = (w + 0.5)/(w − 0.75)", "by Michell's equation of a ring sector"));
            }
            if (const auto& line = c_.spec.fatigue) {
                const auto [low, high] = *working_stresses(c_);
                const double upper = line->upper(low);
                number("fatigue_upper", "Permitted upper, MPa", upper,
                       "your line " + write_fatigue(*line) +
                           ": τo = a + (1 − a/b)·τu at τu = " + number_text(low, 1));
                if (high > low)
                    number("fatigue_safety", "Safety of the range", (upper - low) / (high - low),
                           "what the line lets it range over what it does");
            }
            number("work", torsion ? "Work, N·mm" : "Work, mJ",
                   work_between(at[0], at[1]) * (torsion ? pi / 180 : 1),
                   "between them, the area under the curve");
        }
        if (c_.spec.made_at) state(2, *c_.spec.made_at);
    }
    double work_between(LoadCurve::Point a, LoadCurve::Point b) const {
        if (a.travel > b.travel) std::swap(a, b);
        double sum = 0;
        LoadCurve::Point before = a;
        for (const LoadCurve::Point& p : c_.curve.points()) {
            if (p.travel <= a.travel || p.travel >= b.travel) continue;
            sum += (p.travel - before.travel) * (p.load + before.load) / 2;
            before = p;
        }
        return sum + (b.travel - before.travel) * (b.load + before.load) / 2;
    }

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
    const SpringWire& m_;
    double d_;
};

} // namespace

void list_values(ResolvedCoil& coil) {
    Lister(coil).list();
}

} // namespace whorl
