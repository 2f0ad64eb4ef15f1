#include "form/cam/lobe_outline.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <functional>

namespace whorl {
namespace {

using Complex = std::complex<double>;
constexpr Complex i_unit{0, 1};
constexpr double widest_part = 85 * pi / 180; // in one curve: receivers weigh short faces better
constexpr double same_place = 1e-9;           // mm

// --- jets ---

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
    double side = 1; // the profile; −1: a groove's outer wall

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
                const auto [cp, sp] = cos_sin(constant(arm_at_rest(spec)) + (1 / l) * s);
                const double way_out = spec.opposite ? -1 : 1;
                f = {way_out * l * sp, l * cp - constant(in_mm(*spec.centre))};
                f1 = {way_out * (v * cp), (-1.0) * (v * sp)};
            } else {
                const double e = in_mm(spec.offset), rp = prime_radius(spec);
                f = {constant(std::sqrt(std::max(0.0, rp * rp - e * e))) + s, constant(-e)};
                f1 = {v, {}};
            }
            q = f;
            if (const double rho = roller_radius(spec); rho > 0) {
                const ComplexJet w = times_i(f) - f1; // the pitch curve's tangent, counter-clockwise
                q = q + scaled(side * rho * inverse_root(w.x * w.x + w.y * w.y), times_i(w));
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
    OutlineMaker(ResolvedCam& out, std::vector<LobeCurve>& curves, double side)
        : out_(out), curves_(curves), tracer_(std::make_shared<Tracer>()) {
        tracer_->side = side;
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
        if (!curves_.empty()) middle = end_ + std::remainder(middle - end_, full_turn);
        c.by_angle = c.shape != CurveShape::circle;
        LobeCurve l{std::move(c), middle, tracer_->way * t0, tracer_->way * t1, dwell};
        end_ = middle + point_at(l.curve, l.curve.to).angle();
        curves_.push_back(std::move(l));
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
                const auto as_before = [&](double at) { return (outwards(at) > 0) == (before > 0); };
                cuts.push_back(halved(t - (t1 - t0) / steps, t, as_before).middle());
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
        if (s.disc) return stuck();
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
        Complex centre = follower_reference(s, out_.motion.at(theta, part)).f * std::exp(-i_unit * theta);
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
    std::vector<LobeCurve>& curves_;
    std::shared_ptr<Tracer> tracer_;
    double end_ = 0; // where the last curve ended, rad
};

} // namespace

double arm_at_rest(const CamSpec& s) {
    const double l = in_mm(*s.arm), c = in_mm(*s.centre), rp = prime_radius(s);
    return std::acos(std::clamp((l * l + c * c - rp * rp) / (2 * l * c), -1.0, 1.0));
}

FollowerReference follower_reference(const CamSpec& s, const Derivatives& d) {
    if (s.swings()) {
        const double l = in_mm(*s.arm), psi = arm_at_rest(s) + d[0] / l;
        const double side = s.opposite ? -1 : 1;
        const Complex arm = l * Complex(side * std::sin(psi), std::cos(psi)),
                      way{side * std::cos(psi), -std::sin(psi)};
        return {arm - i_unit * in_mm(*s.centre), d[1] * way, d[2] * way - d[1] * d[1] / (l * l) * arm, way};
    }
    const double e = in_mm(s.offset), rp = prime_radius(s);
    return {{std::sqrt(std::max(0.0, rp * rp - e * e)) + d[0], -e}, d[1], d[2], 1};
}

void make_outline(ResolvedCam& cam) {
    OutlineMaker(cam, cam.outline, 1).make();
    if (cam.spec.disc && cam.trouble == CamTrouble::none) OutlineMaker(cam, cam.outer_wall, -1).make();
}

} // namespace whorl
