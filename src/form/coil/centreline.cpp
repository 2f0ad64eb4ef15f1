#include "form/coil/centreline.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {

double dot(Vec3 a, Vec3 b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}
Vec3 cross(Vec3 a, Vec3 b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
double norm(Vec3 a) {
    return std::sqrt(dot(a, a));
}

Centreline::Centreline(const CoilShape& shape)
    : shape_(shape), diameter_(shape.diameters), pitch_(shape.pitch) {
    breaks_ = {0, shape_.turns};
    for (const auto* all : {&shape_.diameters, &shape_.pitch})
        for (const Profile::Point& p : *all)
            if (p.turn > 0 && p.turn < shape_.turns) breaks_.push_back(p.turn);
    std::sort(breaks_.begin(), breaks_.end());
    breaks_.erase(std::unique(breaks_.begin(), breaks_.end(),
                              [](double a, double b) { return std::abs(a - b) < 1e-9; }),
                  breaks_.end());
    for (double& b : breaks_)
        b *= full_turn;
    near_ = laid(shape_.near_end, false);
    far_ = laid(shape_.far_end, true);
    for (const Stretch& s : near_)
        breaks_.insert(breaks_.begin(), -s.to);
    for (const Stretch& s : far_)
        breaks_.push_back(coil_end() + s.to);
}

std::vector<Centreline::Stretch> Centreline::laid(const std::vector<WireStretch>& asked, bool far) const {
    std::vector<Stretch> out;
    const double theta = far ? coil_end() : 0;
    const Frame f = coil_frame(theta);
    Onward here{.at = coil_point(theta).at,
                .d1 = {},
                .d2 = {},
                .t = (far ? 1 : -1) * f.along,
                .o = f.outwards,
                .a = (far ? 1 : -1) * f.upwards};
    const double radius = this->radius(theta);
    const auto go = [&](Stretch s, double by) {
        s.from = out.empty() ? 0 : out.back().to;
        s.to = s.from + by;
        s.at = here.at, s.t = here.t, s.o = here.o, s.a = here.a;
        out.push_back(s);
        here = onward(s, s.to);
    };
    for (const WireStretch& w : asked) {
        if (w.straight > 0) {
            const double by = std::min(0.25, w.straight / radius);
            go({.speed = w.straight / by}, by);
        }
        if (w.angle > 0) go({.radius = w.radius, .roll = w.roll}, w.angle);
    }
    return out;
}

Centreline::Onward Centreline::onward(const Stretch& s, double angle) {
    const double u = angle - s.from;
    if (s.radius == 0) return {s.at + (s.speed * u) * s.t, s.speed * s.t, {}, s.t, s.o, s.a};
    const double c = std::cos(u), n = std::sin(u), cr = std::cos(s.roll), sr = std::sin(s.roll), R = s.radius;
    const Vec3 b = cr * s.o + sr * s.a, m = cr * s.a - sr * s.o; // m stays
    const Vec3 t = c * s.t + n * b, turned = c * b - n * s.t;
    return {s.at + (R * n) * s.t + (R * (1 - c)) * b,
            R * t,
            R * turned,
            t,
            cr * turned - sr * m,
            sr * turned + cr * m};
}

std::pair<const Centreline::Stretch*, double> Centreline::stretch_at(double theta) const {
    const bool far = theta > coil_end();
    if (theta >= 0 && !far) return {nullptr, 0};
    const auto& all = far ? far_ : near_;
    if (all.empty()) return {nullptr, 0};
    const double angle = far ? theta - coil_end() : -theta;
    const auto found =
        std::find_if(all.begin(), all.end() - 1, [&](const Stretch& s) { return angle <= s.to; });
    return {&*found, angle};
}

double Centreline::coil_end() const {
    return shape_.turns * full_turn;
}
double Centreline::rise() const {
    return pitch_.integral(shape_.turns);
}

double Centreline::radius(double theta) const {
    return diameter_(theta / full_turn).v / 2;
}
double Centreline::height(double theta) const {
    return pitch_.integral(theta / full_turn);
}
double Centreline::pitch(double theta) const {
    return pitch_(theta / full_turn).v;
}
double Centreline::turn_at_height(double height) const {
    return pitch_.turn_at(height);
}

Centreline::Point Centreline::point(double theta) const {
    const auto [stretch, angle] = stretch_at(theta);
    if (!stretch) return coil_point(theta);
    const Onward p = onward(*stretch, angle);
    return {p.at, (theta < 0 ? -1 : 1) * p.d1, p.d2};
}

Centreline::Point Centreline::coil_point(double theta) const {
    const double turn = theta / full_turn, at = theta + shape_.start, hand = shape_.left ? -1 : 1;
    const Profile::Jet D = diameter_(turn), p = pitch_(turn);
    const double c = std::cos(at), s = std::sin(at), r = D.v / 2, r1 = D.d1 / 2 / full_turn,
                 r2 = D.d2 / 2 / (full_turn * full_turn);
    return {{r * c, hand * r * s, pitch_.integral(turn)},
            {r1 * c - r * s, hand * (r1 * s + r * c), p.v / full_turn},
            {(r2 - r) * c - 2 * r1 * s, hand * ((r2 - r) * s + 2 * r1 * c), p.d1 / (full_turn * full_turn)}};
}

Centreline::Frame Centreline::frame(double theta) const {
    const auto [stretch, angle] = stretch_at(theta);
    if (!stretch) return coil_frame(theta);
    const Onward p = onward(*stretch, angle);
    const double away = theta < 0 ? -1 : 1;
    Frame f;
    f.speed = norm(p.d1);
    f.along = away * p.t;
    f.outwards = p.o;
    f.upwards = away * p.a;
    f.upwards_turns = -dot(f.upwards, (1 / f.speed) * (p.d2 - dot(p.d2, f.along) * f.along));
    return f;
}

Centreline::Frame Centreline::coil_frame(double theta) const {
    const Point p = coil_point(theta);
    const double hand = shape_.left ? -1 : 1;
    Frame f;
    f.speed = norm(p.d1);
    f.along = (1 / f.speed) * p.d1;
    const double level = std::hypot(f.along.x, f.along.y);
    f.outwards = {hand * f.along.y / level, -hand * f.along.x / level, 0};
    f.upwards = hand * cross(f.outwards, f.along);
    const Vec3 turning = (1 / f.speed) * (p.d2 - dot(p.d2, f.along) * f.along);
    f.upwards_turns = -dot(f.upwards, turning);
    return f;
}

double Centreline::length() const {
    double sum = 0;
    for (std::size_t i = 0; i + 1 < breaks_.size(); ++i) {
        const double from = breaks_[i], to = breaks_[i + 1];
        sum += gauss<gauss_12>(from, to, std::max(1, static_cast<int>(std::ceil((to - from) / full_turn))),
                               [&](double theta) { return norm(point(theta).d1); });
    }
    return sum;
}

double Centreline::least_bend() const {
    double least = 1e9;
    const int n = static_cast<int>(std::ceil(shape_.turns * 24));
    for (int i = 0; i <= n; ++i) {
        const Point p = coil_point(coil_end() * i / n);
        const double v = norm(p.d1), k = norm(cross(p.d1, p.d2));
        if (k > 0) least = std::min(least, v * v * v / k);
    }
    for (const auto* end : {&near_, &far_})
        for (const Stretch& s : *end)
            if (s.radius > 0) least = std::min(least, s.radius);
    return least;
}

double Centreline::least_distance() const {
    double least = 1e9;
    if (shape_.turns <= 1) return least;
    const int n = std::max(24, static_cast<int>(std::ceil((shape_.turns - 1) * 24)));
    for (int i = 0; i <= n; ++i) {
        const double theta = (coil_end() - full_turn) * i / n;
        const Vec3 here = coil_point(theta).at;
        // Newton's method for the nearest point about a turn on
        double on = theta + full_turn;
        for (int k = 0; k < 4; ++k) {
            const Point p = coil_point(on);
            const Vec3 off = p.at - here;
            const double slope = dot(off, p.d1), bend = dot(p.d1, p.d1) + dot(off, p.d2);
            if (bend <= 0) break;
            on = std::clamp(on - slope / bend, theta + full_turn / 2,
                            std::min(coil_end(), theta + 1.5 * full_turn));
        }
        least = std::min(least, norm(coil_point(on).at - here));
    }
    return least;
}

double Centreline::least_clearance(double along) const {
    struct Sample {
        Vec3 at;
        double way;
        bool coil;
    };
    std::vector<Sample> all; // along the wire; between two of them the line is taken as straight
    double way = 0;
    for (std::size_t i = 0; i + 1 < breaks_.size(); ++i) {
        const double from = breaks_[i], to = breaks_[i + 1];
        const bool coil = from > -1e-9 && to < coil_end() + 1e-9;
        const int n = std::max(6, static_cast<int>(std::ceil((to - from) / 0.15)));
        for (int k = all.empty() ? 0 : 1; k <= n; ++k) {
            const Vec3 at = point(from + (to - from) * k / n).at;
            if (!all.empty()) way += norm(at - all.back().at);
            all.push_back({at, way, coil});
        }
    }
    const auto between = [](Vec3 p, Vec3 a, Vec3 b) { // a point and a side
        const Vec3 ab = b - a;
        const double t = std::clamp(dot(p - a, ab) / std::max(1e-30, dot(ab, ab)), 0.0, 1.0);
        return norm(p - a - t * ab);
    };
    double least = 1e9;
    for (const Sample& here : all) {
        if (here.coil) continue;
        for (std::size_t k = 0; k + 1 < all.size(); ++k) {
            if (all[k].way < here.way + along && all[k + 1].way > here.way - along) continue;
            least = std::min(least, between(here.at, all[k].at, all[k + 1].at));
        }
    }
    return least;
}

} // namespace whorl
