#include "exchange/tooth_outline.hpp"

#include "form/tooth/gear_designation.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace whorl {
namespace {

// The parameter at which a curve of a half outline is so far along.
double parameter_along(const TransverseCurve& c, double y) {
    if (c.shape == CurveShape::line) return std::clamp((y - c.y0) / (c.y1 - c.y0), 0.0, 1.0);
    return halved(c.from, c.to, [&](double t) { return point_at(c, t).y < y; }).middle();
}

// Adds the stretch of a curve that lies between two places along the rack, without its end.
class Tracer {
public:
    Tracer(const ResolvedRack& r, double tolerance)
        : r_(r), stretch_(r.pitch() / (std::acos(-1.0) * in_mm(r.spec.module))), tolerance_(tolerance) {}

    double along(double y, double middle, bool mirrored) const {
        return middle + (mirrored ? -y : y) * stretch_;
    }

    void add(const TransverseCurve& c, double middle, bool mirrored, double low, double high) {
        double from = c.from, to = c.to;
        if (mirrored) std::swap(from, to);
        const auto x = [&](double t) { return along(point_at(c, t).y, middle, mirrored); };
        if (x(to) <= low + 1e-9 || x(from) >= high - 1e-9) return;
        const auto cut = [&](double at) {
            return parameter_along(c, (mirrored ? middle - at : at - middle) / stretch_);
        };
        if (x(from) < low) from = cut(low);
        if (x(to) > high) to = cut(high);
        const auto jet = [&](double t) {
            // in rising x: the parameter of a mirrored curve runs backwards
            const double at = mirrored ? from + to - t : t;
            const TransverseJet j = jet_at(c, at);
            Jet along = stretch_ * j.y, up = j.x;
            if (mirrored)
                for (std::size_t k = 1; k < 4; k += 2)
                    along.c[k] = -along.c[k], up.c[k] = -up.c[k];
            if (mirrored) along = (-1.0) * along;
            along.c[0] += middle;
            up.c[0] += r_.body();
            return TransverseJet{along, up};
        };
        const double begin = std::min(from, to), end = std::max(from, to);
        if (c.shape == CurveShape::line) {
            const TransverseJet j = jet(begin);
            out.push_back({j.x.c[0], j.y.c[0], 0});
        } else if (stretch_ == 1) { // an arc as it is
            const TransverseJet j = jet(begin);
            const double angle = (end - begin) * -c.sense;
            out.push_back({j.x.c[0], j.y.c[0], std::tan(angle / 4)});
        } else if (begin > c.from || end < c.to) { // cut off at an end
            add_arcs(out, jet, begin, end, 0.9 * tolerance_);
        } else { // alike in every space: fitted once
            auto& arcs = fitted_[{&c, mirrored}];
            if (arcs.empty()) {
                add_arcs(arcs, jet, begin, end, 0.9 * tolerance_);
                for (ArcPoint& p : arcs)
                    p.x -= middle;
            }
            for (const ArcPoint& p : arcs)
                out.push_back({p.x + middle, p.y, p.bulge});
        }
    }

    std::vector<ArcPoint> out;

private:
    const ResolvedRack& r_;
    double stretch_, tolerance_;
    std::map<std::pair<const TransverseCurve*, bool>, std::vector<ArcPoint>>
        fitted_; // about a space's middle
};

} // namespace

std::vector<ArcPoint> rack_outline(const ResolvedRack& r, bool whole, double tolerance) {
    Tracer trace(r, tolerance);
    const auto& half = r.half_outline;
    const double pitch = r.pitch();
    const bool open_near = in_mm(r.spec.near_plain) == 0, open_far = in_mm(r.spec.far_plain) == 0;
    const double low = whole ? 0 : r.first_space - pitch / 2,
                 high = whole ? r.length : r.first_space + pitch / 2;
    const int first = !whole || !open_near ? 0 : -1,
              last = !whole     ? 0
                     : open_far ? static_cast<int>(std::ceil(r.length / pitch)) + 1
                                : r.teeth;
    const TransverseCurve& tip = half.back();
    if (whole && !open_near) trace.out.push_back({0, r.body() + r.tip_height, 0});
    for (int j = first; j <= last; ++j) {
        const double middle = r.first_space + j * pitch;
        const bool land_before = whole && (j > 0 || open_near),
                   land_after = whole && (j < r.teeth || open_far);
        if (land_before || !whole) trace.add(tip, middle, true, low, high);
        for (std::size_t i = half.size() - 1; i-- > 0;)
            trace.add(half[i], middle, true, low, high);
        for (std::size_t i = 0; i + 1 < half.size(); ++i)
            trace.add(half[i], middle, false, low, high);
        if (land_after || !whole) trace.add(tip, middle, false, low, high);
        if (whole && !land_after && trace.along(tip.y0, middle, false) < high)
            trace.out.push_back({trace.along(tip.y0, middle, false), r.body() + r.tip_height, 0});
    }
    // where the last piece ends
    const auto height_at_end = [&] {
        const double y = std::abs(std::remainder(high - r.first_space, pitch));
        if (whole && !open_far) return r.tip_height;
        for (const TransverseCurve& c : half)
            if (const double along = y * std::cos(in_rad(r.spec.helix_angle));
                along <= point_at(c, c.to).y + 1e-9)
                return point_at(c, parameter_along(c, along)).x;
        return r.tip_height;
    };
    trace.out.push_back({high, r.body() + height_at_end(), 0});
    // straight stretches in one line are one
    std::vector<ArcPoint> top;
    for (const ArcPoint& p : trace.out) {
        if (top.size() >= 2 && top[top.size() - 2].bulge == 0 && top.back().bulge == 0) {
            const ArcPoint &a = top[top.size() - 2], &b = top.back();
            if (std::abs((b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)) < 1e-12 * r.length)
                top.pop_back();
        }
        top.push_back(p);
    }
    if (!whole) return top;
    std::vector<ArcPoint> loop = top; // on over the back, then turned to run counter-clockwise
    loop.push_back({r.length, 0, 0});
    loop.push_back({0, 0, 0});
    return run_backwards(loop);
}

namespace {
std::string note_of(const ResolvedRack& r, double tolerance) {
    return write_rack(r.spec) + ", outline in mm" +
           (in_rad(r.spec.helix_angle) != 0 ? ", within " + number_text(tolerance, 6) + " mm"
                                            : std::string());
}
} // namespace

std::string rack_dxf(const ResolvedRack& r, bool whole, double tolerance) {
    return arcs_dxf(rack_outline(r, whole, tolerance), whole, note_of(r, tolerance));
}

std::string rack_svg(const ResolvedRack& r, bool whole, double tolerance) {
    const auto outline = rack_outline(r, whole, tolerance);
    double x0 = 1e300, x1 = -1e300, y0 = 1e300, y1 = -1e300;
    for (const auto& p : outline) {
        x0 = std::min(x0, p.x);
        x1 = std::max(x1, p.x);
        y0 = std::min(y0, p.y);
        y1 = std::max(y1, p.y);
    }
    return arcs_svg(outline, whole, note_of(r, tolerance), {x0 - 1, y0 - 1, x1 - x0 + 2, y1 - y0 + 2},
                    0.02 * in_mm(r.spec.module));
}

} // namespace whorl
