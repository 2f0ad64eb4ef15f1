#include "form/silhouette/radius_curve.hpp"

#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr const char* course_words[]{"spline", "monotone", "arcs"};

double gain(const CurvePoint& a, const CurvePoint& b) {
    return (b.value - a.value) / (b.at - a.at);
}

// The slopes of a spline: natural ends, and said ones where they are said, by elimination (Thomas).
std::vector<double> spline_slopes(const std::vector<CurvePoint>& p) {
    const std::size_t n = p.size();
    std::vector<double> upper(n), right(n), out(n);
    for (std::size_t i = 0; i < n; ++i) {
        double below = 0, middle = 1, above = 0, value = 0;
        if (p[i].slope) {
            value = *p[i].slope;
        } else {
            if (i > 0) {
                const double h = p[i].at - p[i - 1].at;
                below = 1 / h;
                value += 3 * gain(p[i - 1], p[i]) / h;
            }
            if (i + 1 < n) {
                const double h = p[i + 1].at - p[i].at;
                above = 1 / h;
                value += 3 * gain(p[i], p[i + 1]) / h;
            }
            middle = 2 * (below + above);
        }
        if (i > 0) {
            middle -= below * upper[i - 1];
            value -= below * right[i - 1];
        }
        upper[i] = above / middle;
        right[i] = value / middle;
    }
    for (std::size_t i = n; i-- > 0;)
        out[i] = right[i] - (i + 1 < n ? upper[i] * out[i + 1] : 0);
    return out;
}

std::vector<double> monotone_slopes(const std::vector<CurvePoint>& p) {
    const std::size_t n = p.size();
    std::vector<double> out(n);
    for (std::size_t i = 0; i < n; ++i) {
        if (p[i].slope) {
            out[i] = *p[i].slope;
        } else if (i == 0 || i + 1 == n) {
            out[i] = i == 0 ? gain(p[0], p[1]) : gain(p[n - 2], p[n - 1]);
        } else {
            const double a = gain(p[i - 1], p[i]), b = gain(p[i], p[i + 1]);
            const double h = p[i].at - p[i - 1].at, k = p[i + 1].at - p[i].at;
            if (a * b > 0) out[i] = 3 * (h + k) / ((2 * k + h) / a + (k + 2 * h) / b);
        }
    }
    return out;
}

// Of the circle through three points at the one at `i`.
double circle_slope(const CurvePoint& a, const CurvePoint& b, const CurvePoint& c, const CurvePoint& here) {
    const double ax = b.at - a.at, ay = b.value - a.value, bx = c.at - a.at, by = c.value - a.value,
                 cross = ax * by - ay * bx;
    if (std::abs(cross) < 1e-12 * (bx * bx + by * by)) return gain(a, c);
    const double aa = ax * ax + ay * ay, bb = bx * bx + by * by;
    const double x = a.at + (by * aa - ay * bb) / (2 * cross),
                 y = a.value + (ax * bb - bx * aa) / (2 * cross);
    const double up = here.value - y;
    if (std::abs(up) < 1e-9) return gain(a, c); // upright there: the caller refuses what folds back
    return -(here.at - x) / up;
}

std::vector<double> arc_slopes(const std::vector<CurvePoint>& p) {
    const std::size_t n = p.size();
    std::vector<double> out(n);
    for (std::size_t i = 0; i < n; ++i)
        if (p[i].slope)
            out[i] = *p[i].slope;
        else if (n == 2)
            out[i] = gain(p[0], p[1]);
        else {
            const std::size_t first = std::min(i == 0 ? 0 : i - 1, n - 3);
            out[i] = circle_slope(p[first], p[first + 1], p[first + 2], p[i]);
        }
    return out;
}

} // namespace

std::string_view word(Course course) {
    return course_words[static_cast<int>(course)];
}

RadiusCurve::RadiusCurve(const std::vector<CurvePoint>& points, Course course) {
    const std::vector<double> slopes = course == Course::spline     ? spline_slopes(points)
                                       : course == Course::monotone ? monotone_slopes(points)
                                                                    : arc_slopes(points);
    for (std::size_t i = 0; i + 1 < points.size(); ++i) {
        const CurvePoint a{points[i].at, points[i].value, slopes[i]},
            b{points[i + 1].at, points[i + 1].value, slopes[i + 1]};
        if (course == Course::arcs)
            add_arcs(a, b);
        else
            add_cubic(a, b);
    }
}

RadiusCurve::RadiusCurve(const std::vector<BentPoint>& points) {
    for (std::size_t i = 0; i + 1 < points.size(); ++i) {
        const BentPoint &a = points[i], &b = points[i + 1];
        const double h = b.at - a.at, d = b.value - a.value - h * (a.slope + h * a.bend_behind / 2),
                     s = h * (b.slope - a.slope - h * a.bend_behind),
                     c = h * h * (b.bend_before - a.bend_behind);
        Piece p;
        p.from = a.at;
        p.to = b.at;
        p.c = {a.value,
               a.slope,
               a.bend_behind / 2,
               (10 * d - 4 * s + c / 2) / (h * h * h),
               (-15 * d + 7 * s - c) / (h * h * h * h),
               (6 * d - 3 * s + c / 2) / (h * h * h * h * h)};
        pieces_.push_back(p);
    }
}

void RadiusCurve::add_cubic(const CurvePoint& a, const CurvePoint& b) {
    const double h = b.at - a.at, d = gain(a, b);
    Piece p;
    p.from = a.at;
    p.to = b.at;
    p.c = {a.value, *a.slope, (3 * d - 2 * *a.slope - *b.slope) / h, (*a.slope + *b.slope - 2 * d) / (h * h),
           0,       0};
    pieces_.push_back(p);
}

void RadiusCurve::add_arc(double z0, double r0, double slope, double z1, double r1) {
    Piece p;
    p.from = z0;
    p.to = z1;
    const double size = std::hypot(1, slope), nz = -slope / size, nr = 1 / size, dz = z1 - z0, dr = r1 - r0,
                 along = nz * dz + nr * dr;
    if (std::abs(along) < 1e-12 * std::hypot(dz, dr)) {
        p.c = {r0, dr / dz, 0, 0, 0, 0};
    } else {
        const double reach = (dz * dz + dr * dr) / (2 * along); // to the centre, along the normal
        p.z = z0 + reach * nz;
        p.r = r0 + reach * nr;
        p.radius = std::abs(reach);
        p.side = reach > 0 ? -1 : 1;
    }
    pieces_.push_back(p);
}

void RadiusCurve::add_arcs(const CurvePoint& a, const CurvePoint& b) {
    const double la = std::hypot(1, *a.slope), lb = std::hypot(1, *b.slope);
    const double az = 1 / la, ar = *a.slope / la, bz = 1 / lb, br = *b.slope / lb;
    const double vz = b.at - a.at, vr = b.value - a.value, vv = vz * vz + vr * vr,
                 vt = vz * (az + bz) + vr * (ar + br), both = 2 * (1 - az * bz - ar * br);
    const double d = both < 1e-12 ? vv / (2 * vt) : (-vt + std::sqrt(vt * vt + both * vv)) / both;
    const double z = (a.at + b.at + d * (az - bz)) / 2, r = (a.value + b.value + d * (ar - br)) / 2;
    // the tangent at the joint runs from one leg's end to the other's
    const double tz = b.at - d * bz - a.at - d * az, tr = b.value - d * br - a.value - d * ar;
    if (!(d > 0) || !(tz > 0.02 * std::hypot(tz, tr)) || !(z > a.at && z < b.at))
        throw InputError("The arcs between the points at " + number_text(a.at, 3) + " and " +
                         number_text(b.at, 3) +
                         " mm would fold back; add a point between them, or take the spline.");
    add_arc(a.at, a.value, *a.slope, z, r);
    add_arc(z, r, tr / tz, b.at, b.value);
}

Jet RadiusCurve::jet_of(const Piece& p, double z) {
    if (p.radius == 0) {
        // by Horner's scheme, the derivatives along
        const double x = z - p.from;
        Jet out;
        for (std::size_t k = p.c.size(); k-- > 0;) {
            for (std::size_t i = 3; i > 0; --i)
                out.c[i] = out.c[i] * x + out.c[i - 1];
            out.c[0] = out.c[0] * x + p.c[k];
        }
        return out;
    }
    const Jet x = variable(z) + -p.z;
    return static_cast<double>(p.side) * square_root((-1.0) * (x * x) + p.radius * p.radius) + p.r;
}

double RadiusCurve::operator()(double z) const {
    if (z < from() || z > to()) return jet(z).c[0];
    const auto& p = *std::upper_bound(pieces_.begin(), pieces_.end() - 1, z,
                                      [](double at, const Piece& piece) { return at < piece.to; });
    if (p.radius > 0) return jet_of(p, z).c[0];
    const double x = z - p.from;
    return p.c[0] + x * (p.c[1] + x * (p.c[2] + x * (p.c[3] + x * (p.c[4] + x * p.c[5]))));
}

Jet RadiusCurve::jet(double z) const {
    if (z < from() || z > to()) {
        const double end = z < from() ? from() : to();
        const Jet at = jet_of(z < from() ? pieces_.front() : pieces_.back(), end);
        return {{at.c[0] + at.c[1] * (z - end), at.c[1], 0, 0}};
    }
    const auto next = std::upper_bound(pieces_.begin(), pieces_.end() - 1, z,
                                       [](double at, const Piece& p) { return at < p.to; });
    return jet_of(*next, z);
}

std::vector<double> RadiusCurve::breaks() const {
    std::vector<double> out{from()};
    for (const Piece& p : pieces_)
        out.push_back(p.to);
    return out;
}

std::vector<double> RadiusCurve::candidates() const {
    std::vector<double> out;
    for (const Piece& p : pieces_) {
        out.insert(out.end(), {p.from, p.to});
        if (p.radius > 0) {
            if (p.z > p.from && p.z < p.to) out.push_back(p.z);
            continue;
        }
        if (p.c[4] != 0 || p.c[5] != 0) { // looked for
            for (int k = 1; k < 24; ++k)
                out.push_back(p.from + (p.to - p.from) * k / 24);
            continue;
        }
        // r' = 0 and r'' = 0
        const double a = 3 * p.c[3], b = 2 * p.c[2], c = p.c[1], root = b * b - 4 * a * c;
        if (root >= 0) {
            const double q = -(b + std::copysign(std::sqrt(root), b)) / 2;
            if (a != 0) out.push_back(p.from + q / a);
            if (q != 0) out.push_back(p.from + c / q);
        }
        if (a != 0) out.push_back(p.from - b / (2 * a));
    }
    std::erase_if(out, [this](double z) { return !(z >= from() && z <= to()); });
    return out;
}

RadiusCurve::Extreme RadiusCurve::least() const {
    Extreme out{from(), (*this)(from())};
    for (const double z : candidates())
        if (const double r = (*this)(z); r < out.value) out = {z, r};
    return out;
}
RadiusCurve::Extreme RadiusCurve::largest() const {
    Extreme out{from(), (*this)(from())};
    for (const double z : candidates())
        if (const double r = (*this)(z); r > out.value) out = {z, r};
    return out;
}
RadiusCurve::Extreme RadiusCurve::steepest() const {
    Extreme out;
    for (const double z : candidates())
        if (const double slope = std::abs(jet(z).c[1]); slope >= out.value) out = {z, slope};
    return out;
}

} // namespace whorl
