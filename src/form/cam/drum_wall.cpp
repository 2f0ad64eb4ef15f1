#include "form/cam/drum.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {

namespace {
constexpr double widest = 85 * std::numbers::pi / 180; // of a wall in one piece
} // namespace

std::vector<WallStretch> wall_stretches(const ResolvedDrum& d) {
    std::vector<WallStretch> out;
    const auto& parts = d.motion.parts;
    const double way = d.spec.clockwise ? 1 : -1;
    for (std::size_t k = 0; k < parts.size(); ++k) {
        const std::size_t i = way > 0 ? k : parts.size() - 1 - k;
        const double from = way > 0 ? parts[i].from : -parts[i].to,
                     to = way > 0 ? parts[i].to : -parts[i].from;
        const int pieces = std::max(1, static_cast<int>(std::ceil((to - from) / widest - 1e-9)));
        for (int j = 0; j < pieces; ++j)
            out.push_back({i, from + (to - from) * j / pieces,
                           j + 1 == pieces ? to : from + (to - from) * (j + 1) / pieces});
    }
    return out;
}

namespace {

// Of the same kind as one like it.
Jet constant(double v, const Jet&) {
    return whorl::constant(v);
}
Gradient constant(double v, const Gradient&) {
    return {{v, 0, 0}};
}
double constant(double v, double) {
    return v;
}

// The roller's place from its lift and the lift's slope by t.
template<class Number>
PathOf<Number> path_of(const Number& lift, const Number& slope, double zero, double arm, double middle) {
    if (arm <= 0) return {{}, lift + zero, {}, slope};
    const Number alpha = (1 / arm) * (lift + -middle), turning = (1 / arm) * slope;
    const auto [co, si] = cos_sin(alpha);
    return {arm * (co + -1), arm * si + (zero + arm * std::sin(middle / arm)), (-arm) * (si * turning),
            arm * (co * turning)};
}
// Lift and slope by t = way·θ.
std::pair<Jet, Jet> lift_by_t(const MotionPart& part, double way, double t) {
    const Derivatives d = motion_at(part, way * t);
    Jet g, slope;
    double factor = 1;
    for (std::size_t k = 0; k < 4; ++k) {
        if (k > 0) factor *= way / static_cast<double>(k);
        g.c[k] = d[k] * factor;
        slope.c[k] = d[k + 1] * factor * way;
    }
    return {g, slope};
}
double way_of(const ResolvedDrum& d) {
    return d.spec.clockwise ? 1 : -1;
}
double arm_of(const DrumSpec& s) {
    return s.arm ? in_mm(*s.arm) : 0;
}
double middle_lift(const Motion& m) {
    return (m.highest + m.lowest) / 2;
}

} // namespace

TrackPath path_at(const ResolvedDrum& d, std::size_t part, double t) {
    const auto [lift, slope] = lift_by_t(d.motion.parts[part], way_of(d), t);
    return path_of(lift, slope, d.zero, arm_of(d.spec), middle_lift(d.motion));
}

TrackPlace middle_at(const ResolvedDrum& d, double theta, std::size_t part) {
    if (!d.spec.arm) {
        const Derivatives g = d.motion.at(theta, part);
        const double slope = std::atan(way_of(d) * g[1] / d.radius);
        return {way_of(d) * theta, d.zero + g[0], slope, slope};
    }
    const TrackPath p = path_at(d, part, way_of(d) * theta);
    const double y = p.y.c[0], h = std::sqrt(std::max(0.0, d.radius * d.radius - y * y));
    const double slope = std::atan(p.dz.c[0] / (h + p.dy.c[0])),
                 alpha = (d.motion.at(theta, part)[0] - middle_lift(d.motion)) / arm_of(d.spec);
    return {way_of(d) * theta + std::atan2(y, h), p.z.c[0], slope - alpha, slope};
}
TrackPlace middle_at(const ResolvedDrum& d, double theta) {
    theta = d.motion.wrapped(theta);
    return middle_at(d, theta, d.motion.part_at(theta));
}

DrumWall::DrumWall(const ResolvedDrum& d, std::size_t part, double side, double from, double to)
    : DrumWall(d, part, side, from, to, {}, {}) {}

DrumWall::DrumWall(const ResolvedDrum& d, std::size_t part, double side, double from, double to,
                   std::optional<WallTrim> begin, std::optional<WallTrim> end)
    : part_(d.motion.parts[part]), arm_(arm_of(d.spec)), middle_(middle_lift(d.motion)), way_(way_of(d)),
      side_(side), from_(from), to_(to), rho_(d.half_width), zero_(d.zero), radius_(d.radius),
      other_(d.other_radius), at_(d.spec.at), kind_(d.spec.walls), begin_(begin), end_(end) {
    for (const std::size_t k : {0, 1}) {
        const double r = k == 0 ? inner() : outer();
        ends_[k] = {begin_ ? begin_->at(r) : from_, end_ ? end_->at(r) : to_};
    }
}

DrumWall DrumWall::around_corner(const ResolvedDrum& d, std::size_t before, std::size_t after, double side,
                                 double t_before, double t_after) {
    DrumWall out(d, after, side, t_after, t_after);
    out.corner_ = {path_at(d, before, t_before), path_at(d, after, t_after)};
    out.begin_turn_ = t_after;
    out.from_ = 0;
    out.to_ = 1;
    return out;
}

double DrumWall::bulge() const {
    double most = 0;
    const double r0 = inner(), r1 = outer(), rm = (r0 + r1) / 2;
    for (const double t : {from_, (from_ + to_) / 2, to_}) {
        const auto place = [&](double r) {
            const WallJet j = along(t, r);
            return std::array{r * std::cos(j.theta.c[0]), r * std::sin(j.theta.c[0]), j.z.c[0]};
        };
        const auto a = place(r0), b = place(r1), m = place(rm);
        double off = 0;
        for (std::size_t k = 0; k < 3; ++k)
            off += std::pow(m[k] - (a[k] + b[k]) / 2, 2);
        most = std::max(most, std::sqrt(off));
    }
    return most;
}

template<class Number>
WallOf<Number> DrumWall::at(const Number& t, const PathOf<Number>& p, const Number& r) const {
    const Number& slope = p.dz;
    if (kind_ == WallKind::straight) {
        // the middle on the drum, and the way around that it makes for one of t; beside it where the arm swings
        Number around = constant(radius_, t), turned = t;
        if (arm_ > 0) {
            const Number h = square_root((-1.0) * (p.y * p.y) + radius_ * radius_);
            around = radius_ * (p.dy * reciprocal(h) + 1);
            turned = t + angle_of(h, p.y);
        }
        const Number over = reciprocal(square_root(around * around + slope * slope));
        return {turned - (side_ * rho_ / radius_) * (slope * over) + at_,
                p.z + (side_ * rho_) * (around * over)};
    }
    // its axis at the drum's: in closed form
    const Number r2 = r * r, s2 = slope * slope, a = r2 - s2;
    const Number h2 = 0.5 * (a + square_root(a * a + 4 * (s2 * (r2 + -rho_ * rho_))));
    Number h = square_root(h2), reach = h, over = reciprocal(square_root(h2 + s2)),
           aside = (-side_ * rho_) * (slope * over);
    if (arm_ > 0)
        for (int i = 0; i < 8; ++i) { // every step doubles the places, of the derivatives too
            reach = h + p.dy;
            over = reciprocal(square_root(reach * reach + s2));
            aside = p.y + (-side_ * rho_) * (slope * over);
            const Number aside_by_h = (side_ * rho_) * (slope * reach * over * over * over);
            const Number off = h * h + aside * aside - r2;
            h = h - off * reciprocal(2 * h + 2 * (aside * aside_by_h));
        }
    return {t + angle_of(h, aside) + at_, p.z + (side_ * rho_) * (reach * over)};
}

template<class Number>
Number WallTrim::at(const Number& r) const { // Clenshaw
    const Number x = (2 / (outer - inner)) * (r + -(inner + outer) / 2);
    Number next = constant(0, r), after = next;
    for (std::size_t k = count; k-- > 1;) {
        const Number now = 2 * (x * next) - after + c[k];
        after = next;
        next = now;
    }
    return x * next - after + c[0];
}
template double WallTrim::at(const double&) const;

namespace {

// f's Taylor terms about u = 0, at the jet u, whose value is 0.
Jet composed(const Jet& f, const Jet& u) {
    return u * (u * (f.c[3] * u + f.c[2]) + f.c[1]) + f.c[0];
}
std::pair<Jet, Jet> lift_at(const MotionPart& part, double way, const Jet& t) {
    auto [lift, slope] = lift_by_t(part, way, t.c[0]);
    const Jet u{{0, t.c[1], t.c[2], t.c[3]}};
    if (u.c[1] != 1 || u.c[2] != 0 || u.c[3] != 0) {
        lift = composed(lift, u);
        slope = composed(slope, u);
    }
    return {lift, slope};
}
std::pair<Gradient, Gradient> lift_at(const MotionPart& part, double way, const Gradient& t) {
    const Derivatives d = motion_at(part, way * t.c[0]);
    return {chained(t, d[0], way * d[1]), chained(t, way * d[1], d[2])};
}

// The formula's own t at a parameter whose share of the way is `part`, over the radius.
template<class Number>
Number own(const std::optional<WallTrim>& begin, const std::optional<WallTrim>& end, double from, double to,
           const Number& part, const Number& r) {
    const Number a = begin ? begin->at(r) : constant(from, r), b = end ? end->at(r) : constant(to, r);
    return a + part * (b - a);
}

} // namespace

template<class Number>
WallOf<Number> DrumWall::at_own(const Number& t, const Number& r) const {
    if (corner_) { // the roller stands still, and its slope goes over into the next one's
        const TrackPath &p = (*corner_)[0], &q = (*corner_)[1];
        const auto between = [&](const Jet& a, const Jet& b) { return (b.c[0] - a.c[0]) * t + a.c[0]; };
        return at(constant(begin_turn_, t),
                  PathOf<Number>{constant(p.y.c[0], t), constant(p.z.c[0], t), between(p.dy, q.dy),
                                 between(p.dz, q.dz)},
                  r);
    }
    const auto [lift, slope] = lift_at(part_, way_, t);
    return at(t, path_of(lift, slope, zero_, arm_, middle_), r);
}

std::array<double, 2> DrumWall::ends_at(double r) const {
    if (r == inner()) return ends_[0];
    if (r == outer()) return ends_[1];
    return {begin_ ? begin_->at(r) : from_, end_ ? end_->at(r) : to_};
}

WallJet DrumWall::along(double t, double r) const {
    const Jet level = constant(r);
    if (!begin_ && !end_) return at_own(variable(t), level);
    const auto [a, b] = ends_at(r);
    const double stretch = (b - a) / (to_ - from_);
    return at_own({{a + stretch * (t - from_), stretch, 0, 0}}, level);
}

WallJet DrumWall::across(double t, double r) const {
    const Jet level = variable(r);
    if (!begin_ && !end_) return at_own(constant(t), level);
    return at_own(own(begin_, end_, from_, to_, constant((t - from_) / (to_ - from_)), level), level);
}

WallSlopes DrumWall::point(double t, double r) const {
    const Gradient level{{r, 0, 1}};
    if (!begin_ && !end_) return at_own(Gradient{{t, 1, 0}}, level);
    const Gradient part{{(t - from_) / (to_ - from_), 1 / (to_ - from_), 0}};
    return at_own(own(begin_, end_, from_, to_, part, level), level);
}

double DrumWall::parameter(double theta, double r) const {
    double low = from_, high = to_;
    bool low_known = false, high_known = false; // that it is between
    double t = std::clamp(theta - at_, low, high);
    for (int i = 0; i < 60; ++i) { // Newton, kept between
        const WallSlopes j = point(t, r);
        const double f = j.theta.c[0] - theta;
        if (f == 0 || (f > 0 && t == from_) || (f < 0 && t == to_)) return t;
        (f > 0 ? high : low) = t;
        (f > 0 ? high_known : low_known) = true;
        double next = t - f / j.theta.c[1];
        if (std::abs(next - t) < 1e-9 && next > from_ && next < to_) return next; // then within 1e-15
        if (!(next > low && next < high)) {
            if (f > 0 && !low_known)
                next = from_;
            else if (f < 0 && !high_known)
                next = to_;
            else
                next = (low + high) / 2;
        }
        if (std::abs(next - t) < 1e-15 * std::max(1.0, std::abs(t))) return next;
        t = next;
    }
    return t;
}

} // namespace whorl
