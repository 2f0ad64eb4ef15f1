#include "form/cam/cam.hpp"

#include "quantity/input_error.hpp"

#include <algorithm>
#include <cmath>
#include <complex>
#include <functional>
#include <numbers>

namespace whorl {
namespace {

using Complex = std::complex<double>;
constexpr double pi = std::numbers::pi;
constexpr double full_turn = 2 * pi;
constexpr Complex i_unit{0, 1};
constexpr double widest_part =
    85 * pi / 180;                         // of the outline in one curve: receivers weigh short faces better
constexpr double steepest = 80 * pi / 180; // pressure angle at which a follower jams for certain
constexpr double same_place = 1e-9;        // mm

void require_between(double v, double least, double most, const char* what, const char* unit = "mm") {
    if (v >= least && v <= most) return;
    throw InputError(std::string("The ") + what + " of a cam is " + outside_text(v, least, most) + " " +
                     unit + "; it must be between " + number_text(least, 3) + " and " + number_text(most, 3) +
                     " " + unit + ".");
}

// --- the follower, in the fixed plane ---

// Its reference point F as the lift goes, and F's derivatives by the cam's angle.
struct Reference {
    Complex f, f1, f2;
    Complex way; // the unit vector in which it moves outwards
};
double start_angle(const CamSpec& s) { // ψ0
    const double l = in_mm(*s.arm), c = in_mm(*s.centre), rp = prime_radius(s);
    return std::acos(std::clamp((l * l + c * c - rp * rp) / (2 * l * c), -1.0, 1.0));
}
Reference reference(const CamSpec& s, const Derivatives& d) {
    if (s.swings()) {
        const double l = in_mm(*s.arm), psi = start_angle(s) + d[0] / l;
        const Complex arm = l * Complex(std::sin(psi), std::cos(psi)), way{std::cos(psi), -std::sin(psi)};
        return {arm - i_unit * in_mm(*s.centre), d[1] * way, d[2] * way - d[1] * d[1] / (l * l) * arm, way};
    }
    const double e = in_mm(s.offset), rp = prime_radius(s);
    return {{std::sqrt(std::max(0.0, rp * rp - e * e)) + d[0], -e}, d[1], d[2], 1};
}

// --- the outline, in the cam, as jets ---

struct ComplexJet {
    Jet x, y;
};
ComplexJet operator*(const ComplexJet& a, const ComplexJet& b) {
    return {a.x * b.x - a.y * b.y, a.x * b.y + a.y * b.x};
}
ComplexJet operator+(const ComplexJet& a, const ComplexJet& b) {
    return {a.x + b.x, a.y + b.y};
}
ComplexJet operator-(const ComplexJet& a, const ComplexJet& b) {
    return {a.x - b.x, a.y - b.y};
}
ComplexJet times_i(const ComplexJet& a) {
    return {(-1.0) * a.y, a.x};
}
ComplexJet scaled(const Jet& k, const ComplexJet& a) {
    return {k * a.x, k * a.y};
}
// a^(−1/2), from k·a0·b_k = Σ (−j/2 − (k − j))·a_j·b_{k−j}
Jet inverse_root(const Jet& a) {
    Jet b = constant(1 / std::sqrt(a.c[0]));
    for (std::size_t k = 1; k < 4; ++k) {
        double sum = 0;
        for (std::size_t j = 1; j <= k; ++j)
            sum += (-0.5 * static_cast<double>(j) - static_cast<double>(k - j)) * a.c[j] * b.c[k - j];
        b.c[k] = sum / (static_cast<double>(k) * a.c[0]);
    }
    return b;
}

// What a traced curve keeps: everything its jets need.
struct Tracer {
    CamSpec spec;
    Motion motion;
    double way = -1; // dθ/dt: the outline is run in rising angle about the axis

    // Of the profile at the outline's parameter t, |θ| = |t|, by the formula of a part.
    ComplexJet operator()(double t, std::size_t part) const {
        const double theta = way * t;
        const Derivatives d = motion.at(theta, part);
        Jet s, v; // lift and velocity, as functions of t
        double factor = 1;
        for (std::size_t k = 0; k < 4; ++k) {
            if (k > 0) factor *= way / static_cast<double>(k);
            s.c[k] = d[k] * factor;
            v.c[k] = d[k + 1] * factor;
        }
        const auto [co, si] = cos_sin(Jet{{theta, way, 0, 0}});
        const ComplexJet back{co, (-1.0) * si}; // e^{−iθ}
        ComplexJet q;
        if (spec.follower == FollowerKind::flat) {
            q = ComplexJet{constant(in_mm(spec.base_radius)) + s, (-1.0) * v} * back;
        } else {
            ComplexJet f, f1;
            if (spec.swings()) {
                const double l = in_mm(*spec.arm);
                const auto [cp, sp] = cos_sin(constant(start_angle(spec)) + (1 / l) * s);
                f = {l * sp, l * cp - constant(in_mm(*spec.centre))};
                f1 = {v * cp, (-1.0) * (v * sp)};
            } else {
                const double e = in_mm(spec.offset), rp = prime_radius(spec);
                f = {constant(std::sqrt(std::max(0.0, rp * rp - e * e))) + s, constant(-e)};
                f1 = {v, {}};
            }
            q = f;
            if (const double rho = roller_radius(spec); rho > 0) {
                const ComplexJet w = times_i(f) - f1; // the pitch curve's tangent, counter-clockwise
                q = q + scaled(rho * inverse_root(w.x * w.x + w.y * w.y), times_i(w));
            }
            q = q * back;
        }
        if (spec.clockwise) q.y = (-1.0) * q.y;
        return q;
    }
    Complex point(double t, std::size_t part) const {
        const ComplexJet q = (*this)(t, part);
        return {q.x.c[0], q.y.c[0]};
    }
};

class OutlineMaker {
public:
    explicit OutlineMaker(ResolvedCam& out) : out_(out), tracer_(std::make_shared<Tracer>()) {
        tracer_->spec = out.spec;
        tracer_->motion = out.motion;
        tracer_->way = out.spec.clockwise ? 1 : -1;
    }

    void make() {
        const auto& parts = out_.motion.parts;
        const std::size_t n = parts.size();
        const double way = tracer_->way;
        for (std::size_t k = 0; k < n; ++k) {
            const std::size_t i = way > 0 ? k : n - 1 - k, next = way > 0 ? (i + 1) % n : (i + n - 1) % n;
            const MotionPart& p = parts[i];
            const double t0 = way > 0 ? p.from : -p.to, t1 = way > 0 ? p.to : -p.from;
            if (p.is_dwell())
                add_dwell(i, t0, t1);
            else
                add_traced(i, t0, t1);
            const double begin_next = way > 0 ? parts[next].from : -parts[next].to;
            bridge(i, t1, next, begin_next);
            if (out_.trouble != CamTrouble::none) return;
        }
    }

private:
    void add(TransverseCurve c, double middle, double t0, double t1, bool dwell) {
        // angles go on from curve to curve
        if (!out_.outline.empty()) middle = end_ + std::remainder(middle - end_, full_turn);
        c.by_angle = c.shape != CurveShape::circle;
        LobeCurve l{std::move(c), middle, tracer_->way * t0, tracer_->way * t1, dwell};
        end_ = middle + point_at(l.curve, l.curve.to).angle();
        out_.outline.push_back(std::move(l));
    }

    void add_dwell(std::size_t part, double t0, double t1) {
        const int pieces = std::max(1, static_cast<int>(std::ceil((t1 - t0) / widest_part - 1e-9)));
        for (int k = 0; k < pieces; ++k) {
            const double a = t0 + (t1 - t0) * k / pieces, b = t0 + (t1 - t0) * (k + 1) / pieces;
            const Complex q = tracer_->point((a + b) / 2, part);
            TransverseCurve c;
            c.radius = std::abs(q);
            c.from = -(b - a) / 2;
            c.to = (b - a) / 2;
            add(c, std::arg(q), a, b, true);
        }
    }

    // In pieces of which each comes nearer to the axis or goes away from it all along.
    void add_traced(std::size_t part, double t0, double t1) {
        const auto outwards = [&](double t) {
            const ComplexJet q = (*tracer_)(t, part);
            return q.x.c[0] * q.x.c[1] + q.y.c[0] * q.y.c[1];
        };
        std::vector<double> cuts{t0};
        constexpr int steps = 64;
        double before = outwards(t0 + (t1 - t0) / steps);
        for (int k = 2; k < steps; ++k) {
            const double t = t0 + (t1 - t0) * k / steps, here = outwards(t);
            if (before * here < 0) {
                double a = t - (t1 - t0) / steps, b = t;
                for (int j = 0; j < 60; ++j)
                    ((outwards((a + b) / 2) > 0) == (before > 0) ? a : b) = (a + b) / 2;
                cuts.push_back((a + b) / 2);
            }
            if (here != 0) before = here;
        }
        cuts.push_back(t1);
        for (std::size_t k = 0; k + 1 < cuts.size(); ++k) {
            const int pieces =
                std::max(1, static_cast<int>(std::ceil((cuts[k + 1] - cuts[k]) / widest_part - 1e-9)));
            for (int j = 0; j < pieces; ++j) {
                const double a = cuts[k] + (cuts[k + 1] - cuts[k]) * j / pieces,
                             b = j + 1 == pieces ? cuts[k + 1]
                                                 : cuts[k] + (cuts[k + 1] - cuts[k]) * (j + 1) / pieces;
                const double middle = std::arg(tracer_->point((a + b) / 2, part));
                const Jet co = constant(std::cos(middle)), si = constant(-std::sin(middle));
                TransverseCurve c;
                c.shape = CurveShape::traced;
                c.from = a;
                c.to = b;
                c.traced = std::make_shared<const std::function<TransverseJet(double)>>(
                    [tracer = std::shared_ptr<const Tracer>(tracer_), part, co, si](double t) {
                        const ComplexJet q = (*tracer)(t, part) * ComplexJet{co, si};
                        return TransverseJet{q.x, q.y};
                    });
                add(std::move(c), middle, a, b, false);
            }
        }
    }

    // Where the speed jumps from one part to the next the roller rests on an arc about its own centre, a flat
    // face on a straight line.
    void bridge(std::size_t part, double t, std::size_t next, double t_next) {
        const Complex a = tracer_->point(t, part), b = tracer_->point(t_next, next);
        if (std::abs(b - a) < same_place) return;
        const CamSpec& s = out_.spec;
        const double theta = tracer_->way * t;
        const auto stuck = [&] {
            out_.trouble = CamTrouble::speed_drops;
            out_.trouble_at = theta;
        };
        if (s.follower == FollowerKind::flat) {
            // onwards along the face, or back
            Complex face = i_unit * std::exp(-i_unit * theta);
            if (s.clockwise) face = -std::conj(face);
            if ((std::conj(face) * (b - a)).real() <= 0) return stuck();
            TransverseCurve c;
            c.shape = CurveShape::line;
            const double middle = std::arg((a + b) / 2.0);
            // cut where it is nearest to the axis
            const Complex p = a * std::exp(-i_unit * middle), q = b * std::exp(-i_unit * middle);
            const double at = std::clamp(-(std::conj(q - p) * p).real() / std::norm(q - p), 0.0, 1.0);
            std::vector<Complex> corners{a};
            if (at > 1e-6 && at < 1 - 1e-6) corners.push_back(a + at * (b - a));
            corners.push_back(b);
            for (std::size_t k = 0; k + 1 < corners.size(); ++k) {
                const double turned = std::arg((corners[k] + corners[k + 1]) / 2.0);
                const Complex from = corners[k] * std::exp(-i_unit * turned),
                              to = corners[k + 1] * std::exp(-i_unit * turned);
                TransverseCurve line = c;
                line.x0 = from.real();
                line.y0 = from.imag();
                line.x1 = to.real();
                line.y1 = to.imag();
                line.to = 1;
                add(line, turned, t, t, false);
            }
            return;
        }
        const double rho = roller_radius(s);
        Complex centre = reference(s, out_.motion.at(theta, part)).f * std::exp(-i_unit * theta);
        if (s.clockwise) centre = std::conj(centre);
        const double turn = std::arg((b - centre) / (a - centre));
        if (rho <= 0 || std::abs(std::abs(a - centre) - rho) > 1e-6 || turn >= 0) return stuck();
        // clockwise about the roller's centre: the hollow that it rests in; cut where it is nearest to the
        // axis
        const double from = std::arg(a - centre), nearest = std::arg(-centre);
        const double on_the_way = std::remainder(nearest - from, full_turn);
        std::vector<double> corners{0};
        if (on_the_way < -1e-6 && on_the_way > turn + 1e-6) corners.push_back(on_the_way);
        corners.push_back(turn);
        for (std::size_t k = 0; k + 1 < corners.size(); ++k) {
            const double begin = from + corners[k], end = from + corners[k + 1];
            const double turned = std::arg(centre + std::polar(rho, (begin + end) / 2));
            const Complex m = centre * std::exp(-i_unit * turned);
            TransverseCurve c;
            c.shape = CurveShape::arc;
            c.radius = rho;
            c.sense = -1;
            c.x0 = m.real();
            c.y0 = m.imag();
            c.from = -(begin - turned);
            c.to = -(end - turned);
            add(c, turned, t, t, false);
        }
    }

    ResolvedCam& out_;
    std::shared_ptr<Tracer> tracer_;
    double end_ = 0; // where the last curve ended, rad
};

// --- what is wrong with it, and its extremes ---

struct Extremes {
    double pressure = 0, pressure_at = 0;
    double convex = 1e300, convex_at = 0; // least radius of the profile, ≤ 0 where it is undercut
    double hollow = 1e300;
    double reach = 0;
};

// The largest value of a function near the best of even samples, by golden section.
template<class Function>
std::pair<double, double> largest_of(double from, double to, int samples, const Function& f) {
    int best = 0;
    double most = -1e300;
    for (int k = 0; k <= samples; ++k)
        if (const double v = f(from + (to - from) * k / samples); v > most) most = v, best = k;
    double a = from + (to - from) * std::max(0, best - 1) / samples,
           b = from + (to - from) * std::min(samples, best + 1) / samples;
    constexpr double golden = 0.6180339887498949;
    for (int k = 0; k < 40 && b - a > 1e-10; ++k) {
        const double c = b - golden * (b - a), d = a + golden * (b - a);
        if (f(c) >= f(d))
            b = d;
        else
            a = c;
    }
    const double at = (a + b) / 2, v = f(at);
    return v > most ? std::pair{at, v} : std::pair{from + (to - from) * best / samples, most};
}

// Curvature of the pitch curve (flat: of the profile), positive convex, and the pressure angle.
struct Bend {
    double curvature = 0, pressure = 0;
};
Bend bend_at(const CamSpec& s, const Derivatives& d) {
    if (s.follower == FollowerKind::flat) return {1 / (in_mm(s.base_radius) + d[0] + d[2]), 0};
    const Reference r = reference(s, d);
    const Complex w = i_unit * r.f - r.f1, w1 = i_unit * r.f1 - r.f2;
    const double size = std::abs(w);
    const Complex n = -i_unit * w, aside = std::conj(r.way) * n;
    return {(size * size - (std::conj(w) * w1).imag()) / (size * size * size), std::arg(aside)};
}
// … of the profile, from that of the pitch curve: 1/κ − ρ.
double profile_radius(const CamSpec& s, double curvature) {
    return (std::abs(curvature) < 1e-12 ? 1e12 : 1 / curvature) - roller_radius(s);
}

Extremes extremes_of(const CamSpec& s, const Motion& m) {
    Extremes e;
    const bool flat = s.follower == FollowerKind::flat;
    for (std::size_t i = 0; i < m.parts.size(); ++i) {
        const MotionPart& p = m.parts[i];
        const int samples = p.is_dwell() ? 1 : 48;
        const auto bend = [&](double theta) { return bend_at(s, m.at(theta, i)); };
        const auto pressure =
            largest_of(p.from, p.to, samples, [&](double t) { return std::abs(bend(t).pressure); });
        if (pressure.second > e.pressure) e.pressure = pressure.second, e.pressure_at = pressure.first;
        // the sharpest convex place: of a flat follower's the least r + s + s'', of which the sign tells
        const auto sharp = largest_of(p.from, p.to, samples, [&](double t) {
            if (!flat) return bend(t).curvature;
            const Derivatives d = m.at(t, i);
            return -(in_mm(s.base_radius) + d[0] + d[2]);
        });
        const double convex = flat               ? -sharp.second
                              : sharp.second > 0 ? profile_radius(s, sharp.second)
                                                 : 1e300;
        if (convex < e.convex) e.convex = convex, e.convex_at = sharp.first;
        if (!flat) {
            const auto deep = largest_of(p.from, p.to, samples, [&](double t) { return -bend(t).curvature; });
            if (deep.second > 1e-9) e.hollow = std::min(e.hollow, 1 / deep.second + roller_radius(s));
        } else {
            e.reach = std::max(e.reach, largest_of(p.from, p.to, samples, [&](double t) {
                                            return std::abs(m.at(t, i)[1]);
                                        }).second);
        }
    }
    return e;
}

// Whether the follower's reference point is where it can be, all around.
bool within_reach(const CamSpec& s, const Motion& m) {
    const double rp = prime_radius(s);
    if (!s.swings()) return std::abs(in_mm(s.offset)) < rp * 0.98 || s.follower == FollowerKind::flat;
    const double l = in_mm(*s.arm), c = in_mm(*s.centre);
    if (!(rp > std::abs(l - c) + 1e-6 && rp < l + c - 1e-6)) return false;
    const double psi = start_angle(s);
    return psi + m.highest / l < pi - 0.02 && psi + m.lowest / l > 0.02;
}

// A place of the profile that the follower would cut away on its way past, if there is one.
std::optional<double> cut_away(const CamSpec& s, const Motion& m) {
    const double rho = roller_radius(s);
    if (rho <= 0) return {};
    constexpr int n = 360;
    std::vector<Complex> centres, touches;
    for (int k = 0; k < n; ++k) {
        const double theta = full_turn * (k + 0.5) / n;
        const FollowerPlace f = follower_at(s, m, theta);
        const Complex back = std::exp(i_unit * (s.clockwise ? theta : -theta));
        centres.push_back(Complex(f.centre.x, f.centre.y) * back);
        touches.push_back(Complex(f.touches.x, f.touches.y) * back);
    }
    const double free = rho * rho * (1 - 1e-7);
    for (int k = 0; k < n; ++k)
        for (const Complex& c : centres)
            if (std::norm(touches[static_cast<std::size_t>(k)] - c) < free - 1e-4 * rho)
                return full_turn * (k + 0.5) / n;
    return {};
}

void look_for_trouble(ResolvedCam& out, const Extremes& e) {
    const Motion& m = out.motion;
    const auto trouble = [&](CamTrouble what, double at) {
        out.trouble = what;
        out.trouble_at = at;
    };
    if (m.angle_left() < -1e-9) return trouble(CamTrouble::past_full_turn, full_turn);
    if (m.parts.empty() || m.angle_left() > 1e-9 || std::abs(m.closure_gap()) > 1e-7)
        return trouble(CamTrouble::not_closed, m.turn);
    for (const CamJump& j : m.jumps)
        if (std::abs(j.lift) > 1e-7) return trouble(CamTrouble::not_closed, j.angle);
    if (!within_reach(out.spec, m)) return trouble(CamTrouble::no_reach, 0);
    if (in_mm(out.spec.base_radius) + m.lowest < 0.05) return trouble(CamTrouble::too_small, 0);
    if (e.pressure > steepest) return trouble(CamTrouble::jammed, e.pressure_at);
    if (e.convex < 1e-4) return trouble(CamTrouble::undercut, e.convex_at);
}

void measure(ResolvedCam& out) {
    out.least_radius = 1e300;
    for (const LobeCurve& l : out.outline)
        for (const double t : {l.curve.from, l.curve.to}) {
            const double r = point_at(l.curve, t).radius();
            out.least_radius = std::min(out.least_radius, r);
            out.largest_radius = std::max(out.largest_radius, r);
        }
}

void add_values(ResolvedCam& c) {
    const CamSpec& s = c.spec;
    const auto add = [&](const char* key, const char* label, ValueKind kind, double value,
                         const std::string& source) {
        c.values.push_back({.key = key, .label = label, .kind = kind, .value = value, .source = source});
    };
    const bool flat = s.follower == FollowerKind::flat;
    add("base_radius", "Base radius", ValueKind::length, in_mm(s.base_radius), "as asked, of the profile");
    if (roller_radius(s) > 0)
        add("prime_radius", "Prime radius", ValueKind::length, c.prime_radius,
            "base radius + radius of the follower");
    add("stroke", "Stroke", ValueKind::length, c.motion.highest - c.motion.lowest,
        s.swings() ? "from the timing, along the arc of the follower's centre" : "from the timing");
    if (s.swings()) {
        add("swing_angle", "Swing", ValueKind::angle, (c.motion.highest - c.motion.lowest) / in_mm(*s.arm),
            "stroke / arm");
        add("start_angle", "Arm at the beginning", ValueKind::angle, start_angle(s),
            "to the line of centres: acos((L² + C² − rp²)/(2·L·C))");
    }
    add("closure_gap", "Closure gap", ValueKind::length, c.motion.closure_gap(),
        "lift at the end less lift at the beginning");
    if (c.trouble == CamTrouble::none) {
        add("least_radius", "Least radius", ValueKind::length, c.least_radius,
            "of the profile from the axis");
        add("largest_radius", "Largest radius", ValueKind::length, c.largest_radius,
            "of the profile from the axis");
    }
    if (!flat && c.max_pressure_angle > 0)
        add("max_pressure_angle", "Largest pressure angle", ValueKind::angle, c.max_pressure_angle,
            (s.swings() ? std::string("between the normal and the arm's way")
                        : std::string("tan φ = (s' − e)/(√(rp² − e²) + s)")) +
                ", at " + number_text(c.max_pressure_at * 180 / pi, 1) + "°");
    if (c.least_curvature_radius < 1e100)
        add("least_radius_of_curvature", "Sharpest convex radius", ValueKind::length,
            c.least_curvature_radius,
            (flat ? std::string("r + s + s''")
                  : std::string("1/κ of the pitch curve − radius of the follower")) +
                ", at " + number_text(c.least_curvature_at * 180 / pi, 1) + "°");
    if (c.least_hollow_radius)
        add("least_hollow_radius", "Sharpest hollow radius", ValueKind::length, *c.least_hollow_radius,
            "1/κ of the pitch curve + radius of the follower");
    if (flat)
        add("face_needed", "Face needed", ValueKind::length, 2 * c.face_reach,
            "2 × the largest s': how far the touching point wanders");
    // at speed
    double v = 0, a = 0, j = 0;
    for (std::size_t i = 0; i < c.motion.parts.size(); ++i) {
        const MotionPart& p = c.motion.parts[i];
        const auto most = [&](std::size_t k) {
            return largest_of(p.from, p.to, p.is_dwell() ? 1 : 32,
                              [&](double t) { return std::abs(c.motion.at(t, i)[k]); })
                .second;
        };
        v = std::max(v, most(1));
        a = std::max(a, most(2));
        j = std::max(j, most(3));
    }
    const double omega = s.rpm * full_turn / 60;
    const std::string at = " at " + number_text(s.rpm, 3) + " rpm";
    add("max_velocity", "Largest speed, mm/s", ValueKind::number, v * omega, "s'·ω" + at);
    add("max_acceleration", "Largest acceleration, m/s²", ValueKind::number, a * omega * omega / 1000,
        "s''·ω²" + at);
    add("max_jerk", "Largest jerk, m/s³", ValueKind::number, j * omega * omega * omega / 1000,
        "s'''·ω³" + at +
            (std::any_of(c.motion.jumps.begin(), c.motion.jumps.end(),
                         [](const CamJump& jump) { return std::abs(jump.acceleration) > 1e-6; })
                 ? "; without end where the acceleration jumps"
                 : ""));
}

} // namespace

double roller_radius(const CamSpec& s) {
    if (s.follower == FollowerKind::roller) return in_mm(s.size) / 2;
    return s.follower == FollowerKind::mushroom ? in_mm(s.size) : 0;
}

double prime_radius(const CamSpec& s) {
    return in_mm(s.base_radius) + roller_radius(s);
}

FollowerPlace follower_at(const CamSpec& s, const Motion& m, double theta, std::size_t part) {
    const Derivatives d = m.at(theta, part);
    FollowerPlace out;
    Complex centre, touches, normal = 1;
    const Bend bend = bend_at(s, d);
    if (s.follower == FollowerKind::flat) {
        centre = in_mm(s.base_radius) + d[0];
        touches = {centre.real(), -d[1]};
        out.curvature_radius = centre.real() + d[2];
    } else {
        const Reference r = reference(s, d);
        const Complex w = i_unit * r.f - r.f1;
        centre = r.f;
        normal = -i_unit * w / std::abs(w);
        touches = r.f - roller_radius(s) * normal;
        out.pressure_angle = bend.pressure;
        out.curvature_radius = profile_radius(s, bend.curvature);
    }
    if (s.clockwise) {
        centre = std::conj(centre);
        touches = std::conj(touches);
        normal = std::conj(normal);
    }
    out.normal = {normal.real(), normal.imag()};
    out.centre = {centre.real(), centre.imag()};
    out.touches = {touches.real(), touches.imag()};
    return out;
}

FollowerPlace follower_at(const CamSpec& s, const Motion& m, double theta) {
    theta -= std::floor(theta / full_turn) * full_turn;
    return follower_at(s, m, theta, m.part_at(theta));
}

ResolvedCam resolve_cam(const CamSpec& spec) {
    require_between(in_mm(spec.base_radius), 0.5, 1000, "base radius");
    if (spec.follower == FollowerKind::roller)
        require_between(in_mm(spec.size), 0.1, 1000, "roller's diameter");
    if (spec.follower == FollowerKind::mushroom)
        require_between(in_mm(spec.size), 0.5, 10000, "mushroom's radius");
    require_between(spec.rpm, 0.001, 100000, "speed", "rpm");
    if (spec.arm.has_value() != spec.centre.has_value())
        throw InputError("A swinging follower needs its arm and the distance of its pivot from the axis, for "
                         "example swing "
                         "50 60.");
    if (spec.swings()) {
        require_between(in_mm(*spec.arm), 1, 5000, "follower's arm");
        require_between(in_mm(*spec.centre), 1, 5000, "pivot's distance");
        if (spec.follower == FollowerKind::flat)
            throw InputError("A flat follower moves straight here; swinging ones have a roller, a knife or a "
                             "mushroom face.");
        if (in_mm(spec.offset) != 0)
            throw InputError("A swinging follower has no offset; its pivot says where it stands.");
    }
    ResolvedCam out;
    out.spec = spec;
    out.motion = motion_of(spec.timing);
    out.prime_radius = prime_radius(spec);
    Extremes e;
    if (!out.motion.parts.empty() && within_reach(spec, out.motion)) e = extremes_of(spec, out.motion);
    out.max_pressure_angle = e.pressure;
    out.max_pressure_at = e.pressure_at;
    out.least_curvature_radius = e.convex;
    out.least_curvature_at = e.convex_at;
    if (e.hollow < 1e100) out.least_hollow_radius = e.hollow;
    out.face_reach = e.reach;
    look_for_trouble(out, e);
    if (out.trouble == CamTrouble::none) {
        OutlineMaker(out).make();
        if (out.trouble == CamTrouble::none)
            if (const auto at = cut_away(spec, out.motion)) {
                out.trouble = CamTrouble::cut_away;
                out.trouble_at = *at;
            }
        if (out.trouble == CamTrouble::none)
            for (LobeCurve& l : out.outline)
                l.turned += spec.at;
        else
            out.outline.clear();
        if (!out.outline.empty()) measure(out);
    }
    add_values(out);
    return out;
}

std::optional<double> smallest_base_radius(const CamSpec& spec, double limit) {
    const Motion m = motion_of(spec.timing);
    if (m.parts.empty()) return {};
    CamSpec s = spec;
    const auto holds = [&](double r) {
        s.base_radius = mm(r);
        if (!within_reach(s, m) || r + m.lowest < 0.1) return false;
        const Extremes e = extremes_of(s, m);
        return e.pressure <= limit && e.convex > std::max(1e-3, 0.02 * roller_radius(s));
    };
    double low = 0.5, high = 2;
    while (!holds(high)) {
        low = high;
        high *= 1.3;
        if (high > 2000) return {};
    }
    for (int i = 0; i < 40 && high - low > 1e-6; ++i)
        (holds((low + high) / 2) ? high : low) = (low + high) / 2;
    return high;
}

std::optional<double> largest_roller(const CamSpec& spec) {
    const Motion m = motion_of(spec.timing);
    CamSpec s = spec;
    const auto holds = [&](double rho) {
        s.follower = FollowerKind::roller;
        s.size = mm(2 * rho);
        return within_reach(s, m) && extremes_of(s, m).convex > std::max(1e-3, 0.02 * rho);
    };
    double low = 0.05, high = 4 * in_mm(spec.base_radius);
    if (!holds(low)) return {};
    if (holds(high)) return high;
    for (int i = 0; i < 50; ++i)
        (holds((low + high) / 2) ? low : high) = (low + high) / 2;
    return low;
}

} // namespace whorl
