#include "form/coil/centreline.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

// 3x² − 2x³, held at 0 and 1 outside; its integral from 0 and its derivative.
double step(double x) {
    x = std::clamp(x, 0.0, 1.0);
    return x * x * (3 - 2 * x);
}
double step_integral(double x) {
    if (x <= 0) return 0;
    if (x >= 1) return x - 0.5;
    return x * x * x * (1 - x / 2);
}
double step_slope(double x) {
    return x <= 0 || x >= 1 ? 0 : 6 * x * (1 - x);
}

// Slopes at the stations, h apart: the mean of the secants beside, 0 at a turning point, three points at an
// end; then limited so that the two at each interval add up to at most twice its secant.
std::vector<double> monotone_slopes(const std::vector<double>& v, double h) {
    const std::size_t n = v.size();
    if (n < 2) return std::vector<double>(n, 0.0);
    std::vector<double> secant(n - 1), m(n);
    for (std::size_t i = 0; i + 1 < n; ++i)
        secant[i] = (v[i + 1] - v[i]) / h;
    if (n == 2) return {secant[0], secant[0]};
    for (std::size_t i = 1; i + 1 < n; ++i)
        m[i] = secant[i - 1] * secant[i] <= 0 ? 0 : (secant[i - 1] + secant[i]) / 2;
    const auto at_end = [](double near, double next) {
        const double slope = (3 * near - next) / 2;
        return slope * near <= 0 ? 0 : slope;
    };
    m[0] = at_end(secant[0], secant[1]);
    m[n - 1] = at_end(secant[n - 2], secant[n - 3]);
    for (std::size_t i = 0; i + 1 < n; ++i) {
        if (secant[i] == 0) {
            m[i] = m[i + 1] = 0;
            continue;
        }
        const double sum = (m[i] + m[i + 1]) / secant[i];
        if (sum > 2) m[i] *= 2 / sum, m[i + 1] *= 2 / sum;
    }
    return m;
}

} // namespace

double dot(Vec3 a, Vec3 b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}
Vec3 cross(Vec3 a, Vec3 b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
double norm(Vec3 a) {
    return std::sqrt(dot(a, a));
}

Centreline::Centreline(const CoilShape& shape) : shape_(shape) {
    const double turns = shape_.turns, active = turns - 2 * shape_.dead;
    const std::size_t n = shape_.diameters.size();
    slopes_ = monotone_slopes(shape_.diameters, n > 1 ? turns / static_cast<double>(n - 1) : turns);
    for (double& s : slopes_)
        s /= 2; // of the radius
    breaks_ = {0, turns};
    for (std::size_t i = 1; i + 1 < n; ++i)
        breaks_.push_back(turns * static_cast<double>(i) / static_cast<double>(n - 1));
    if (shape_.dead > 0 && shape_.pitch != shape_.closed_pitch) {
        window_ = std::min({shape_.window, shape_.dead / 2, active / 2});
        for (const double at : {shape_.dead, turns - shape_.dead})
            breaks_.insert(breaks_.end(), {at - window_, at + window_});
    }
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
    return height_at(shape_.turns).v;
}

Centreline::Value Centreline::radius_at(double turn) const {
    const auto& d = shape_.diameters;
    if (d.size() == 1) return {d[0] / 2, 0, 0};
    const double h = shape_.turns / static_cast<double>(d.size() - 1);
    const double at = std::clamp(std::floor(turn / h), 0.0, static_cast<double>(d.size() - 2));
    const auto i = static_cast<std::size_t>(at);
    const double t = turn / h - at, v0 = d[i] / 2, rise = (d[i + 1] - d[i]) / 2;
    const double a = slopes_[i] * h, b = slopes_[i + 1] * h;
    // quintic Hermite, second derivatives 0 at both ends
    const double t2 = t * t, t3 = t2 * t;
    Value r;
    r.v = v0 + rise * t3 * (10 - 15 * t + 6 * t2) + a * (t - t3 * (6 - 8 * t + 3 * t2)) -
          b * t3 * (4 - 7 * t + 3 * t2);
    r.d1 = (rise * t2 * (30 - 60 * t + 30 * t2) + a * (1 - t2 * (18 - 32 * t + 15 * t2)) -
            b * t2 * (12 - 28 * t + 15 * t2)) /
           h;
    r.d2 = (rise * t * (60 - 180 * t + 120 * t2) - a * t * (36 - 96 * t + 60 * t2) -
            b * t * (24 - 84 * t + 60 * t2)) /
           (h * h);
    return r;
}

Centreline::Value Centreline::height_at(double turn) const {
    const double low = shape_.closed_pitch, more = shape_.pitch - low;
    if (shape_.dead <= 0) return {shape_.pitch * turn, shape_.pitch, 0};
    if (window_ <= 0) return {low * turn, low, 0};
    const double w = 2 * window_, x = (turn - shape_.dead + window_) / w,
                 y = (turn - shape_.turns + shape_.dead + window_) / w;
    return {low * turn + more * w * (step_integral(x) - step_integral(y)), low + more * (step(x) - step(y)),
            more / w * (step_slope(x) - step_slope(y))};
}

double Centreline::radius(double theta) const {
    return radius_at(theta / full_turn).v;
}
double Centreline::height(double theta) const {
    return height_at(theta / full_turn).v;
}

Centreline::Point Centreline::point(double theta) const {
    const auto [stretch, angle] = stretch_at(theta);
    if (!stretch) return coil_point(theta);
    const Onward p = onward(*stretch, angle);
    return {p.at, (theta < 0 ? -1 : 1) * p.d1, p.d2};
}

Centreline::Point Centreline::coil_point(double theta) const {
    const Value r = radius_at(theta / full_turn), z = height_at(theta / full_turn);
    const double c = std::cos(theta), s = std::sin(theta), hand = shape_.left ? -1 : 1;
    const double r1 = r.d1 / full_turn, r2 = r.d2 / (full_turn * full_turn);
    return {
        {r.v * c, hand * r.v * s, z.v},
        {r1 * c - r.v * s, hand * (r1 * s + r.v * c), z.d1 / full_turn},
        {(r2 - r.v) * c - 2 * r1 * s, hand * ((r2 - r.v) * s + 2 * r1 * c), z.d2 / (full_turn * full_turn)}};
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
