#include "form/silhouette/silhouette.hpp"

#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>

namespace whorl {
namespace {

constexpr double least_radius = 0.05, steepest_slope = 40; // mm; dr/dz, 88.6°

std::string show(double v) {
    return number_text(v, 3);
}
std::string degrees(double rad) {
    return number_text(rad * 180 / pi, 2) + "°";
}

void require_points(const SilhouetteSpec& s) {
    const auto& p = s.points;
    if (p.size() < 2 || p.size() > static_cast<std::size_t>(most_silhouette_points))
        throw InputError("A silhouette goes through 2 to " + std::to_string(most_silhouette_points) +
                         " points, such as 0:30 60:38 180:16, height:radius; here are " +
                         std::to_string(p.size()) + ".");
    if (std::abs(p.front().at) > 1e-9)
        throw InputError(
            "A silhouette's first point is at the height 0, where its zone begins; this one is at " +
            show(p.front().at) + ".");
    for (std::size_t i = 0; i < p.size(); ++i) {
        if (i > 0 && p[i].at - p[i - 1].at < 0.01)
            throw InputError("The silhouette folds back: after the point at " + show(p[i - 1].at) +
                             " mm comes one at " + show(p[i].at) +
                             ". Heights rise from point to point, by 0.01 mm or more.");
        if (!(p[i].value >= least_radius && p[i].value <= 5000))
            throw InputError("The radius at the height " + show(p[i].at) + " is " + show(p[i].value) +
                             " mm; it must be between 0.05 and 5000 mm.");
        if (p[i].slope && std::abs(*p[i].slope) > steepest_slope)
            throw InputError("A slope is between -88° and 88° to the axis.");
    }
}

// In the piece's heights, stretched to the zone.
std::vector<CurvePoint> placed(const std::vector<CurvePoint>& points, double z0, double z1) {
    const double stretch = (z1 - z0) / points.back().at;
    std::vector<CurvePoint> out = points;
    for (CurvePoint& p : out) {
        p.at = z0 + p.at * stretch;
        if (p.slope) *p.slope /= stretch;
    }
    out.back().at = z1;
    return out;
}

void require_clear(const RadiusCurve& curve, double z0) {
    if (const auto least = curve.least(); least.value < least_radius)
        throw InputError("Between its points the silhouette comes to a radius of " + show(least.value) +
                         " mm at the height " + show(least.at - z0) +
                         "; it stays off the axis by 0.05 mm at least. Add a point there, or take monotone.");
    if (const auto steep = curve.steepest(); steep.value > steepest_slope)
        throw InputError("At the height " + show(steep.at - z0) + " the silhouette is " +
                         degrees(std::atan(steep.value)) +
                         " steep to the axis; at most 88°. Move its points further apart along the axis.");
}

RadiusCurve depth_curve(const FluteSpec& f, double from, double to, double z0) {
    std::vector<CurvePoint> points;
    if (f.depths.empty()) {
        const double third = (to - from) / 3;
        points = {{from, 0, 0}, {from + third, f.depth, 0}, {to - third, f.depth, 0}, {to, 0, 0}};
        return {points, Course::monotone};
    }
    for (CurvePoint p : f.depths) {
        p.at += z0;
        if (p.value < -1e-9)
            throw InputError("A flute's depth is not below 0; at the height " + show(p.at - z0) + " it is " +
                             show(p.value) + ".");
        if (p.at < from - 1e-9 || p.at > to + 1e-9)
            throw InputError("The depth at the height " + show(p.at - z0) +
                             " lies outside the flutes, which run from " + show(from - z0) + " to " +
                             show(to - z0) + " mm.");
        if (!points.empty() && p.at - points.back().at < 0.01)
            throw InputError("The depths' heights rise from point to point, by 0.01 mm or more.");
        points.push_back(p);
    }
    // flutes fade out at both ends
    const auto fade = [&](double z, bool first) {
        CurvePoint* const end = first ? &points.front() : &points.back();
        if (std::abs(end->at - z) > 0.01 - 1e-9) {
            const CurvePoint none{z, 0, 0};
            first ? void(points.insert(points.begin(), none)) : points.push_back(none);
            return;
        }
        if (std::abs(end->value) > 1e-9)
            throw InputError("Flutes fade out: at the height " + show(z - z0) +
                             " where they end the depth is 0, not " + show(end->value) + ".");
        *end = {z, 0, end->slope.value_or(0)};
    };
    fade(from, true);
    fade(to, false);
    return {points, Course::monotone};
}

// The heights at which a curve is looked at.
std::vector<double> looks(const ShapedWall& wall, double from, double to, int between) {
    std::vector<double> out;
    const std::vector<double> at = wall.breaks(from, to);
    for (std::size_t i = 0; i + 1 < at.size(); ++i)
        for (int k = 0; k < between; ++k)
            out.push_back(at[i] + (at[i + 1] - at[i]) * k / between);
    out.push_back(to);
    return out;
}

struct Deepest {
    double at = 0, depth = 0;          // the largest
    double tightest = 0, possible = 0; // depth and limit where it comes nearest to it
    double tightest_at = 0;
};
Deepest deepest_of(const ShapedWall& wall) {
    Deepest out;
    const Flutes& f = *wall.flutes();
    double ratio = -1;
    for (const double z : looks(wall, f.from, f.to, 12)) {
        const double d = f.depth(z), possible = deepest_scallop(wall.outer()(z), f.count);
        if (d > out.depth) out.at = z, out.depth = d;
        if (d / possible > ratio)
            ratio = d / possible, out.tightest = d, out.possible = possible, out.tightest_at = z;
    }
    return out;
}

// A scallop within this part of its limit is one.
constexpr double undercut = 0.97;

void add(std::vector<ResolvedValue>& out, const char* key, const char* label, ValueKind kind, double value,
         std::string source) {
    out.push_back(valued(key, label, kind, value, std::move(source)));
}

std::vector<ResolvedValue> values_of(const ResolvedSilhouette& s) {
    std::vector<ResolvedValue> out;
    const RadiusCurve& r = s.wall->outer();
    const auto largest = r.largest(), least = r.least(), steep = r.steepest();
    const auto from = [&](double z) { return "at " + show(z - s.z0) + " mm from the near end"; };
    if (!s.spec.wall) {
        add(out, "largest_diameter", "Largest Ø", ValueKind::length, 2 * largest.value, from(largest.at));
        add(out, "least_diameter", "Least Ø", ValueKind::length, 2 * least.value, from(least.at));
        add(out, "steepest", "Steepest", ValueKind::angle, std::atan(steep.value),
            "to the axis, " + from(steep.at));
    }
    if (const Flutes* f = s.wall->flutes(); f && !s.spec.wall) {
        add(out, "flute_depth_possible", "Deepest possible", ValueKind::length, s.deepest_possible,
            "R·(1 − (1 − sin α)/cos α), α = 180°/N");
        if (s.ridge > 0)
            add(out, "over_ridges", "Over the ridges", ValueKind::length,
                2 * s.wall->ridge_radius(deepest_of(*s.wall).at), "where the flutes are deepest");
        if (f->twist != 0) {
            add(out, "lead", "Lead", ValueKind::length, 2 * pi / std::abs(f->twist),
                "height of a whole turn");
            add(out, "lead_angle", "Flute's lean", ValueKind::angle,
                std::atan(std::abs(f->twist) * largest.value), "to the axis on the largest Ø");
        }
    }
    if (s.spec.wall) {
        add(out, "least_wall", "Least wall", ValueKind::length, s.least_wall,
            "measured, " + from(s.thinnest_at));
        add(out, "thickest_wall", "Thickest wall", ValueKind::length, s.thickest_wall, "measured");
        double draft = 1e9;
        constexpr int parts = 800;
        for (int i = 0; i <= parts; ++i) {
            const double z = s.body_from + (s.z1 - s.body_from) * i / parts;
            const double ridge = r.jet(z).c[1];
            draft = std::min(draft, ridge);
            if (s.wall->fluted(z)) draft = std::min(draft, ridge - s.wall->flutes()->depth.jet(z).c[1]);
        }
        add(out, "draft", "Least draft", ValueKind::angle, std::atan(draft),
            draft < 0 ? "of the inside towards its mouth; negative: undercut"
                      : "of the inside towards its mouth");
        add(out, "contents", "Contents, ml", ValueKind::number, s.contents / 1000, "to the brim");
        add(out, "mouth", "Mouth Ø", ValueKind::length, 2 * r(s.z1), "inside, at the open end");
    }
    return out;
}

} // namespace

ResolvedSilhouette resolve_silhouette(const SilhouetteSpec& s, double z0, double z1) {
    require_points(s);
    ResolvedSilhouette out;
    out.spec = s;
    out.z0 = z0;
    out.z1 = z1;
    RadiusCurve outer(placed(s.points, z0, z1), s.course);
    require_clear(outer, z0);
    if (!s.flutes) {
        out.wall = std::make_shared<const ShapedWall>(std::move(outer));
        out.values = values_of(out);
        return out;
    }
    const FluteSpec& f = *s.flutes;
    if (s.in_bore)
        throw InputError("Flutes wind around the outside; a hollow takes over those of its silhouette.");
    if (f.count < least_flutes || f.count > most_flutes)
        throw InputError("A silhouette has " + std::to_string(least_flutes) + " to " +
                         std::to_string(most_flutes) + " flutes; " + std::to_string(f.count) + " are not.");
    const double from = z0 + f.from.value_or(0), to = z0 + f.to.value_or(z1 - z0);
    if (!(from >= z0 - 1e-9 && to <= z1 + 1e-9 && to - from >= 1))
        throw InputError("The flutes run from " + show(from - z0) + " to " + show(to - z0) +
                         " mm; the zone has " + show(z1 - z0) + " mm, and they are 1 mm long at least.");
    if (!(std::abs(f.twist) <= 40 * pi))
        throw InputError("Flutes wind by at most 7200° either way; " + degrees(f.twist) + " is more.");
    Flutes flutes;
    flutes.count = f.count;
    flutes.from = std::max(from, z0);
    flutes.to = std::min(to, z1);
    flutes.depth = depth_curve(f, flutes.from, flutes.to, z0);
    flutes.twist = f.twist / (flutes.to - flutes.from);
    flutes.start = f.turned;
    flutes.contact = pi / f.count;
    const Deepest deep = deepest_of(ShapedWall(outer, flutes));
    out.deepest = deep.depth;
    out.deepest_possible = undercut * deep.possible;
    if (deep.depth < 1e-3) throw InputError("Flutes are 0.001 mm deep at least.");
    if (deep.tightest > out.deepest_possible)
        throw InputError("The flutes are " + show(deep.tightest) + " mm deep at the height " +
                         show(deep.tightest_at - z0) + ", where " + std::to_string(f.count) +
                         " of them on Ø " + show(2 * outer(deep.tightest_at)) + " are at most " +
                         number_text(std::floor(out.deepest_possible * 1000) / 1000, 3) +
                         ": deeper ones undercut their ridges. Make them shallower, or fewer.");
    if (f.ridge > 0) {
        const double radius = outer(deep.at), a = pi / f.count,
                     most = round_radius(radius, deep.depth, f.count, 0.1 * a);
        if (f.ridge > most)
            throw InputError("Ridges are rounded by at most " +
                             number_text(std::floor(most * 1000) / 1000, 3) + " mm here; " + show(f.ridge) +
                             " mm would leave no flute between them.");
        flutes.contact = contact_angle(radius, deep.depth, f.count, f.ridge);
        out.ridge = f.ridge;
    }
    out.wall = std::make_shared<const ShapedWall>(std::move(outer), std::move(flutes));
    out.values = values_of(out);
    return out;
}

namespace {

// The least of f(s) − √(w² − (s − z)²), its slope and bend by z. Where the foot s lies inside the curve the slope is
// f'(s), and from z = s + w·f'/q, q = √(1 + f'²), the bend is f''/(1 + w·f''/q³); at the curve's ends it is a circle's.
BentPoint inset(const ShapedWall& wall, bool middles, double w, double z) {
    const double low = std::max(z - w, wall.outer().from()), high = std::min(z + w, wall.outer().to());
    const auto at = [&](double s) {
        const double x = s - z;
        return (middles ? wall.least_radius(s) : wall.outer()(s)) - std::sqrt(std::max(0.0, w * w - x * x));
    };
    constexpr int coarse = 16;
    double best = low, value = at(low);
    for (int k = 1; k <= coarse; ++k)
        if (const double s = low + (high - low) * k / coarse, v = at(s); v < value) best = s, value = v;
    const double step = (high - low) / coarse;
    double s = lowest_between(std::max(low, best - step), std::min(high, best + step), 1.6e-7 * step, at);
    const auto curve = [&](double height) {
        Jet f = wall.outer().jet(height);
        if (middles && wall.fluted(height)) f = f - wall.flutes()->depth.jet(height);
        return f;
    };
    if (s - low > 1e-6 && high - s > 1e-6)
        for (int i = 0; i < 3; ++i) { // the foot itself, by Newton's steps from there
            const Jet f = curve(s);
            const double q = std::hypot(1, f.c[1]), rate = 1 + w * 2 * f.c[2] / (q * q * q);
            if (!(rate > 0.05)) break;
            s = std::clamp(s - (s + w * f.c[1] / q - z) / rate, low, high);
        }
    const double x = s - z, deep = std::sqrt(std::max(1e-6 * w * w, w * w - x * x));
    const Jet f = curve(s);
    const double q = std::hypot(1, f.c[1]), rate = 1 + w * 2 * f.c[2] / (q * q * q);
    const bool inside = std::abs(-x / deep - f.c[1]) < 1e-4 * q && rate > 0.05;
    const double bend = inside ? 2 * f.c[2] / rate : w * w / (deep * deep * deep);
    return {z, f.c[0] - deep, -x / deep, bend, bend};
}

struct Inside {
    std::vector<BentPoint> ridges, middles; // at the same heights
};
// Heights are added until pieces of degree 5 through them keep within `within` of both curves.
Inside inside_of(const ShapedWall& wall, bool smooth, double w, const std::vector<double>& heights,
                 double within) {
    Inside out;
    const bool two = wall.flutes() && !smooth;
    constexpr double aside = 1e-5; // on either side of a height where the outside changes its bend
    const auto at = [&](bool middles, double z) {
        BentPoint p = inset(wall, middles, w, z);
        p.bend_before = inset(wall, middles, w, z - aside).bend_before;
        p.bend_behind = inset(wall, middles, w, z + aside).bend_behind;
        return p;
    };
    struct Both {
        BentPoint ridge, middle;
    };
    const auto both = [&](double z) {
        Both p{at(smooth, z), {}};
        if (two) p.middle = at(true, z);
        return p;
    };
    const auto off = [&](const BentPoint& a, const BentPoint& b, bool middles) {
        const RadiusCurve piece(std::vector<BentPoint>{a, b});
        double worst = 0;
        for (const double x : {0.25, 0.5, 0.75}) {
            const double z = a.at + x * (b.at - a.at);
            worst = std::max(worst, std::abs(piece(z) - inset(wall, middles, w, z).value));
        }
        return worst;
    };
    Both last = both(heights.front());
    const auto keep = [&](const Both& p) {
        out.ridges.push_back(p.ridge);
        out.middles.push_back(p.middle);
    };
    keep(last);
    for (std::size_t i = 1; i < heights.size(); ++i) {
        std::vector<Both> ahead{both(heights[i])};
        while (!ahead.empty()) {
            const Both &a = last, b = ahead.back();
            if (b.ridge.at - a.ridge.at > 0.1 && out.ridges.size() + ahead.size() < 200 &&
                (off(a.ridge, b.ridge, smooth) > within || (two && off(a.middle, b.middle, true) > within))) {
                ahead.push_back(both((a.ridge.at + b.ridge.at) / 2));
                continue;
            }
            last = b;
            ahead.pop_back();
            keep(last);
        }
    }
    return out;
}

struct Walls {
    double least = 1e300, thickest = 0, thinnest_at = 0;
};
Walls measured(const std::shared_ptr<const ShapedWall>& outside,
               const std::shared_ptr<const ShapedWall>& inside, double z0, double z1) {
    Walls out;
    // flutes that wind are no mirror of themselves: all of a scallop is looked at
    const double a = outside->half_angle(), start = outside->flutes() ? outside->flutes()->start : 0;
    const int around = outside->flutes() ? 8 : 0, rows = 32;
    double phi_at = start;
    const auto look = [&](double phi, double z) {
        const double wall = wall_at(outside, inside, phi, z);
        out.thickest = std::max(out.thickest, wall);
        if (wall >= out.least) return false;
        out.least = wall, out.thinnest_at = z, phi_at = phi;
        return true;
    };
    for (int k = 0; k <= rows; ++k)
        for (int i = 0; i <= around; ++i)
            (void)look(start + (around > 0 ? a * (2.0 * i / around - 1) : 0), z0 + (z1 - z0) * k / rows);
    // down to the thinnest place, by steps that halve where none brings anything
    double along = (z1 - z0) / rows / 2, across = around > 0 ? a / around : 0;
    for (int i = 0; i < 24 && along > 1e-2; ++i) {
        const double phi = phi_at, z = out.thinnest_at;
        bool better = look(phi, std::min(z + along, z1)) || look(phi, std::max(z - along, z0));
        if (across > 0)
            better =
                look(phi_at + across, out.thinnest_at) || look(phi_at - across, out.thinnest_at) || better;
        if (!better) along /= 2, across /= 2;
    }
    return out;
}

} // namespace

double wall_at(const std::shared_ptr<const ShapedWall>& outside,
               const std::shared_ptr<const ShapedWall>& inside, double phi, double z) {
    const auto on = [](const std::shared_ptr<const ShapedWall>& wall, double at, double height) {
        return ShapedPatch{wall, at, at, height, height}.slopes(at, height);
    };
    const Flutes *fi = inside->flutes(), *fo = outside->flutes();
    // where no flute winds inside, φ is counted from the outside's scallops all the same
    const double theta =
        phi + (fi ? inside->turned(z) + fi->start - (fo ? fo->start : 0) : outside->turned(z));
    const double phi_in = theta - inside->turned(z);
    const double r = on(inside, phi_in, z).radius;
    const double px = r * std::cos(theta), py = r * std::sin(theta);
    double best = 1e300;
    const double nudge = fo ? 0.12 * outside->half_angle() : 0;
    for (const double off : {-nudge, nudge}) {
        double t = theta + off, h = z;
        for (int i = 0; i < 8; ++i) {
            const auto s = on(outside, t - outside->turned(h), h);
            const double by_z = s.by_z - outside->twist(h) * s.by_phi, c = std::cos(t), n = std::sin(t);
            const double ex = px - s.radius * c, ey = py - s.radius * n, ez = z - h;
            best = std::min(best, std::sqrt(ex * ex + ey * ey + ez * ez));
            const double ax = s.by_phi * c - s.radius * n, ay = s.by_phi * n + s.radius * c, bx = by_z * c,
                         by = by_z * n;
            const double aa = ax * ax + ay * ay, ab = ax * bx + ay * by, bb = bx * bx + by * by + 1,
                         ae = ax * ex + ay * ey, be = bx * ex + by * ey + ez, det = aa * bb - ab * ab;
            const double dt = (ae * bb - be * ab) / det, dh = (be * aa - ae * ab) / det;
            t += std::clamp(dt, -0.1, 0.1);
            h = std::clamp(h + dh, outside->outer().from(), outside->outer().to());
            if (std::abs(dt) * s.radius < 1e-4 && std::abs(dh) < 1e-4) break; // 1e-8 mm of distance
        }
        if (!fo) break;
    }
    return best;
}

namespace {
// How high the dish of a hollow is that begins at z0: the ball's part between the flat of its tip and the circle in
// which the wall at a distance w from the outside stands on it.
double dish_height(const SilhouetteSpec& s, const ShapedWall& outside, double w, double z0, double z1) {
    if (!s.dish) return 0;
    const double ball = *s.dish;
    const auto radius = [&](double h) { return inset(outside, s.smooth, w, std::min(z0 + h, z1)).value; };
    const auto height = [&](double r) {
        const double tip = dish_tip(r);
        return std::sqrt(ball * ball - tip * tip) - std::sqrt(std::max(0.0, ball * ball - r * r));
    };
    const auto below = [&](double h) { return h < height(radius(h)); }; // where the wall stands on the ball
    const double high = halved(0, std::min(z1 - z0, ball), below).high;
    const double r = radius(high), h = height(r);
    if (!(ball >= 1.02 * r))
        throw InputError("The dish of a bottom has a radius of " + show(ball) + " mm; here it is at least " +
                         show(std::ceil(1.02 * r * 100) / 100) + ", a little more than the hollow's own.");
    if (z0 + h > z1 - 0.5)
        throw InputError("The dish of the bottom is as high as the hollow; give it a larger radius.");
    return h;
}
} // namespace

double ResolvedSilhouette::outline(double z) const {
    if (!spec.dish || z >= body_from) return wall->ridge_radius(z);
    const double tip = dish_tip(wall->outer()(body_from)), ball = *spec.dish,
                 below = std::sqrt(ball * ball - tip * tip) - std::max(0.0, z - z0); // the ball's middle
    return std::sqrt(std::max(0.0, ball * ball - below * below));
}

double dish_tip(double radius) {
    return std::max(0.02, 0.02 * radius) / 2;
}

ResolvedSilhouette resolve_hollow(const SilhouetteSpec& s, const ResolvedSilhouette& outside, double z0,
                                  double z1) {
    const ShapedWall& o = *outside.wall;
    const double asked = *s.wall, least = o.outer().least().value - outside.deepest;
    if (!(asked >= 0.05 && asked <= 500))
        throw InputError("A wall is between 0.05 and 500 mm thick; " + show(asked) + " mm is not.");
    if (z0 < outside.z0 - 1e-9 || z1 > outside.z1 + 1e-9 || z1 - z0 < 0.5)
        throw InputError("A hollow lies in one silhouette, which runs from " + show(outside.z0) + " to " +
                         show(outside.z1) + " mm along the piece; this one would run from " + show(z0) +
                         " to " + show(z1) +
                         ". Bore what stands above it, and keep its bottom thinner than it is high.");
    const auto refuse_closed = [&] {
        throw InputError("A wall of " + show(asked) +
                         " mm leaves no hollow where the silhouette is narrowest, about " + show(least) +
                         " mm from the axis; make it thinner.");
    };
    ResolvedSilhouette out;
    out.spec = s;
    out.z0 = z0;
    out.z1 = z1;
    const Flutes* f = o.flutes();
    const bool fluted = f && !s.smooth && f->to > z0 && f->from < z1;
    double w = asked, last_w = 0, last_least = 0;
    const double bottom = z0;
    for (int round = 0;; ++round) {
        z0 = bottom + dish_height(s, o, w, bottom, z1);
        std::vector<double> heights{z0, z1};
        double from = z0, to = z1;
        const auto inwards = [&](double z) { // where the inside of a point of the outside is
            const double slope = o.outer().jet(z).c[1];
            return z + w * slope / std::hypot(1, slope);
        };
        if (fluted) {
            // where the depth rises steeply the scallops' inside begins before its foot does
            const auto misses = [&](double z) {
                return inset(o, false, w, z).value - inset(o, true, w, z).value > 0.01;
            };
            from = std::clamp(inwards(f->from), z0, z1);
            to = std::clamp(inwards(f->to), z0, z1);
            for (int i = 0; i < 4 && from > z0 && misses(from); ++i)
                from = std::max(z0, from - w / 4);
            for (int i = 0; i < 4 && to < z1 && misses(to); ++i)
                to = std::min(z1, to + w / 4);
            heights.insert(heights.end(), {from, to});
        }
        for (const double z : o.breaks(outside.z0, outside.z1))
            if (const double in = inwards(z); in > z0 && in < z1) heights.push_back(in);
        std::sort(heights.begin(), heights.end());
        std::vector<double> apart;
        for (const double h : heights)
            if (apart.empty() || h - apart.back() > 0.02 || h == z1) apart.push_back(h);
        if (apart.size() > 2 && apart[apart.size() - 1] - apart[apart.size() - 2] < 0.02)
            apart.erase(apart.end() - 2);
        const auto snapped = [&](double h) {
            return *std::min_element(apart.begin(), apart.end(),
                                     [&](double a, double b) { return std::abs(a - h) < std::abs(b - h); });
        };
        from = snapped(from), to = snapped(to);
        const Inside in = inside_of(o, s.smooth, w, apart, 5e-4);
        for (const BentPoint& p : in.ridges)
            if (!(p.value > least_radius)) refuse_closed();
        RadiusCurve outer(in.ridges);
        if (!fluted) {
            out.wall = std::make_shared<const ShapedWall>(std::move(outer));
        } else {
            std::vector<BentPoint> depth;
            for (std::size_t i = 0; i < in.ridges.size(); ++i) {
                const BentPoint &r = in.ridges[i], &m = in.middles[i];
                const double z = r.at;
                if (z < from - 1e-9 || z > to + 1e-9) continue;
                BentPoint d{z, r.value - m.value, r.slope - m.slope, r.bend_before - m.bend_before,
                            r.bend_behind - m.bend_behind};
                const bool first = std::abs(z - from) < 1e-9, end = std::abs(z - to) < 1e-9;
                if (first && d.value > 0.05)
                    throw InputError(
                        "The flutes begin at " + show(f->from - outside.z0) +
                        " mm, below the hollow's bottom, and are " + show(d.value) +
                        " mm deep there; let them begin above it, make the bottom thinner, or the "
                        "hollow smooth.");
                if (first || end) d.value = 0, d.slope = 0;
                d.value = std::max(0.0, d.value);
                depth.push_back(d);
            }
            if (depth.size() < 2)
                throw InputError("The flutes leave no room in this hollow; make it smooth.");
            Flutes flutes = *f;
            flutes.depth = RadiusCurve(depth);
            flutes.from = from;
            flutes.to = to;
            flutes.start = f->start + f->twist * (from - f->from);
            const ShapedWall made(outer, flutes);
            const Deepest deep = deepest_of(made);
            if (deep.tightest > undercut * 1.01 * deep.possible)
                throw InputError("With a wall of " + show(asked) +
                                 " mm the flutes' insides would undercut their "
                                 "ridges at the height " +
                                 show(deep.tightest_at - outside.z0) +
                                 "; make the flutes shallower, the wall thinner, or the hollow smooth.");
            out.wall = std::make_shared<const ShapedWall>(made);
        }
        const Walls walls = measured(outside.wall, out.wall, z0, z1);
        out.least_wall = walls.least;
        out.thickest_wall = walls.thickest;
        out.thinnest_at = walls.thinnest_at;
        if (std::abs(walls.least - asked) < 2e-3 || round == 7) break;
        // what the last step brought tells how far to go
        const double gained = round == 0 ? 1 : (walls.least - last_least) / (w - last_w);
        last_least = walls.least, last_w = w;
        w += (asked - walls.least) / std::clamp(gained, 0.2, 2.0);
    }
    out.body_from = z0;
    out.contents = out.wall->volume(z0, z1);
    if (s.dish) { // the ball's part between the tip's flat and the wall
        const auto upto = [&](double y) { return pi * y * (*s.dish * *s.dish - y * y / 3); };
        const double r = out.wall->outer()(z0), y = std::sqrt(*s.dish * *s.dish - r * r);
        out.contents += upto(y + z0 - bottom) - upto(y);
    }
    out.values = values_of(out);
    return out;
}

} // namespace whorl
