#include "form/thread/own_section.hpp"

#include "quantity/expression.hpp"
#include "quantity/input_error.hpp"
#include "quantity/numeric.hpp"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

using std::numbers::pi;
constexpr double same_level = 1e-6; // of the pitch
constexpr double upright = 1e-9;

struct Arc {
    double radius = 0; // 0: straight
    double z = 0, h = 0;
};

Arc arc_between(const OwnPoint& a, const OwnPoint& b) {
    const double dz = b.z - a.z, dh = b.h - a.h, chord = std::hypot(dz, dh), bow = std::abs(a.bow);
    if (bow < 1e-9 || chord < 1e-12) return {};
    const double radius = (chord * chord / 4 + bow * bow) / (2 * bow);
    // square to the chord, towards larger h
    const double nz = -dh / chord, nh = dz / chord;
    const double to_centre = (a.bow > 0 ? -1 : 1) * (radius - bow);
    return {radius, (a.z + b.z) / 2 + nz * to_centre, (a.h + b.h) / 2 + nh * to_centre};
}

std::string point_name(std::size_t i) {
    return "Point " + std::to_string(i + 1);
}

// Level parts of an arc's circle between its ends: where it would have to be cut.
bool turns_between(const OwnPoint& a, const OwnPoint& b, const Arc& arc) {
    return arc.radius > 0 && arc.z > a.z + same_level && arc.z < b.z - same_level;
}

double height_at(const OwnPoint& a, const OwnPoint& b, double z) {
    const Arc arc = arc_between(a, b);
    if (arc.radius > 0) {
        const double x = z - arc.z, y = std::sqrt(std::max(0.0, arc.radius * arc.radius - x * x));
        return arc.h + (a.bow > 0 ? y : -y);
    }
    return b.z - a.z > upright ? a.h + (b.h - a.h) * (z - a.z) / (b.z - a.z) : a.h;
}

// The direction of the outline at the beginning or end of piece a–b, as an angle from z.
double direction(const OwnPoint& a, const OwnPoint& b, bool at_end) {
    const double chord = std::atan2(b.h - a.h, b.z - a.z), length = std::hypot(b.z - a.z, b.h - a.h);
    const double half_turn = length > 0 ? 2 * std::atan(2 * a.bow / length) : 0; // half the arc's angle
    return chord + (at_end ? -half_turn : half_turn);
}

} // namespace

void require_section_name(const std::string& name) {
    const bool good = !name.empty() && name.size() <= 40 && std::all_of(name.begin(), name.end(), [](char c) {
        return std::isalnum(static_cast<unsigned char>(c)) || c == '-' || c == '_';
    });
    if (!good)
        throw InputError("A section's name has 1 to 40 letters, digits, - or _, such as rope_groove.", 0,
                         name.size());
}

void require_usable(const OwnSection& s) {
    require_section_name(s.name);
    const auto& p = s.points;
    const bool one_arc = p.size() == 2 && p.front().bow != 0; // a half circle, say
    if ((p.size() < 3 && !one_arc) || p.size() > most_own_points)
        throw InputError("A section has 3 to 64 points, or 2 with an arc between; this one has " +
                         std::to_string(p.size()) + ".");
    for (std::size_t i = 0; i < p.size(); ++i)
        if (!std::isfinite(p[i].z) || !std::isfinite(p[i].h) || !std::isfinite(p[i].bow) ||
            std::abs(p[i].z) > 100 || std::abs(p[i].h) > 100 || std::abs(p[i].bow) > 100)
            throw InputError(point_name(i) + " is not a number that can be used.");
    if (std::abs(p.front().h) > same_level || std::abs(p.back().h) > same_level)
        throw InputError("The first and the last point must lie at the crest, at the same height.");
    const double width = p.back().z - p.front().z;
    if (!(width > 0.01 && width <= 1 + upright))
        throw InputError("The groove is " + outside_text(width, 0.01, 1) +
                         " pitches wide; it must be between 0.01 and one pitch.");
    double deepest = 0;
    for (std::size_t i = 0; i + 1 < p.size(); ++i) {
        const OwnPoint &a = p[i], &b = p[i + 1];
        if (b.z < a.z - upright)
            throw InputError(point_name(i + 1) + " lies behind the point before it: the outline overhangs.");
        if (std::hypot(b.z - a.z, b.h - a.h) < 1e-5)
            throw InputError(point_name(i + 1) + " lies on the point before it.");
        const Arc arc = arc_between(a, b);
        if (arc.radius > 0) {
            // both ends on one half of the circle, or it would run back under itself
            const double side = a.bow > 0 ? 1 : -1;
            if (side * (a.h - arc.h) < -1e-6 * arc.radius - upright ||
                side * (b.h - arc.h) < -1e-6 * arc.radius - upright)
                throw InputError("The arc after " + std::string("point ") + std::to_string(i + 1) +
                                 " overhangs; its bow must be smaller.");
            if (turns_between(a, b, arc)) deepest = std::min(deepest, arc.h + side * arc.radius);
            if (turns_between(a, b, arc) && side > 0 && arc.h + arc.radius > same_level)
                throw InputError("The arc after point " + std::to_string(i + 1) + " rises above the crest.");
        }
        deepest = std::min(deepest, b.h);
        if (b.h > same_level) throw InputError(point_name(i + 1) + " lies above the crest.");
    }
    if (deepest > -0.01)
        throw InputError("The groove must be at least a hundredth of the pitch deep; this one is " +
                         outside_text(-deepest, 0.01, 10) + ".");
    if (deepest < -10) throw InputError("The groove may be at most ten pitches deep.");
    // down once, then up once
    bool rising = false;
    for (std::size_t i = 0; i + 1 < p.size(); ++i) {
        const OwnPoint &a = p[i], &b = p[i + 1];
        std::vector<double> heights{a.h};
        if (const Arc arc = arc_between(a, b); turns_between(a, b, arc))
            heights.push_back(arc.h + (a.bow > 0 ? arc.radius : -arc.radius));
        heights.push_back(b.h);
        for (std::size_t k = 0; k + 1 < heights.size(); ++k) {
            if (heights[k + 1] > heights[k] + same_level) rising = true;
            if (rising && heights[k + 1] < heights[k] - same_level)
                throw InputError("The outline falls again at point " + std::to_string(i + 2) +
                                 "; from the crest it must fall to one root and rise to the next crest.");
        }
    }
}

namespace {

// The outline with its arcs cut where they are level, moved by the layer along its normal.
std::vector<OwnPoint> cut_outline(const std::vector<OwnPoint>& p) {
    std::vector<OwnPoint> out;
    for (std::size_t i = 0; i < p.size(); ++i) {
        out.push_back(p[i]);
        if (i + 1 == p.size()) {
            out.back().bow = 0;
            break;
        }
        const Arc arc = arc_between(p[i], p[i + 1]);
        if (!turns_between(p[i], p[i + 1], arc)) continue;
        const double side = p[i].bow > 0 ? 1 : -1;
        OwnPoint level{arc.z, arc.h + side * arc.radius, 0};
        const auto bow = [&](const OwnPoint& a, const OwnPoint& b) {
            const double half = std::hypot(b.z - a.z, b.h - a.h) / 2;
            return side * (arc.radius - std::sqrt(std::max(0.0, arc.radius * arc.radius - half * half)));
        };
        out.back().bow = bow(p[i], level);
        level.bow = bow(level, p[i + 1]);
        out.push_back(level);
    }
    return out;
}

std::vector<OwnPoint> moved(const std::vector<OwnPoint>& p, double pitch, double by) {
    const std::size_t n = p.size();
    const bool flat = p.front().z + pitch - p.back().z > upright;
    std::vector<OwnPoint> out = p;
    const auto next_of = [&](std::size_t i) {
        OwnPoint b = p[(i + 1) % n];
        if (i + 1 >= n) b.z += pitch;
        return b;
    };
    for (std::size_t i = 0; i < n; ++i) {
        // the piece before and the piece after; the crest's flat lies between the last point and the first
        double before, after;
        if (i == 0)
            before = flat ? 0 : direction(p[n - 2], p[n - 1], true);
        else
            before = direction(p[i - 1], p[i], true);
        if (i + 1 == n)
            after = flat ? 0 : direction(p[0], p[1], false);
        else
            after = direction(p[i], next_of(i), false);
        const double nz = -std::sin(before) - std::sin(after), nh = std::cos(before) + std::cos(after);
        const double k = 1 + std::cos(before - after);
        if (k < 0.05) return {}; // a needle: it has no side to move to
        out[i].z += by * nz / k;
        out[i].h += by * nh / k;
    }
    for (std::size_t i = 0; i + 1 < n; ++i) {
        if (p[i].bow == 0) continue;
        const double chord = std::atan2(p[i + 1].h - p[i].h, p[i + 1].z - p[i].z);
        const double mz = (p[i].z + p[i + 1].z) / 2 - std::sin(chord) * (p[i].bow + by),
                     mh = (p[i].h + p[i + 1].h) / 2 + std::cos(chord) * (p[i].bow + by);
        const double now = std::atan2(out[i + 1].h - out[i].h, out[i + 1].z - out[i].z);
        out[i].bow = -std::sin(now) * (mz - (out[i].z + out[i + 1].z) / 2) +
                     std::cos(now) * (mh - (out[i].h + out[i + 1].h) / 2);
    }
    return out;
}

} // namespace

std::vector<GroovePoint> groove_of(const OwnSection& section, double pitch, double crest, Side side,
                                   double layer) {
    std::vector<OwnPoint> p = section.points;
    for (OwnPoint& q : p)
        q = {q.z * pitch, q.h * pitch, q.bow * pitch};
    p.back().bow = 0;
    p = cut_outline(p);
    if (layer != 0) p = moved(p, pitch, side == Side::external ? -layer : layer);
    if (p.size() < 2) return {};
    const double sign = side == Side::external ? 1 : -1;
    const double lean = 0.0005; // mm, of an upright flank
    // the top of an upright flank steps to the open side, away from the groove's middle
    for (std::size_t i = 0; i + 1 < p.size(); ++i)
        if (p[i].bow == 0 && p[i + 1].z - p[i].z < lean) {
            if (p[i + 1].h < p[i].h)
                p[i].z = p[i + 1].z - lean;
            else
                p[i + 1].z = p[i].z + lean;
        }
    const auto radius = [&](double h) { return sign * (crest + h); };
    std::vector<ProfilePiece> pieces;
    for (std::size_t i = 0; i + 1 < p.size(); ++i) {
        const Arc arc = arc_between(p[i], p[i + 1]);
        if (p[i + 1].z - p[i].z < 1e-9 * pitch) {
            if (std::abs(p[i + 1].h - p[i].h) < 1e-9 * pitch) continue;
            return {};
        }
        pieces.push_back(
            {{p[i].z, radius(p[i].h)}, {p[i + 1].z, radius(p[i + 1].h)}, arc.radius, {arc.z, radius(arc.h)}});
    }
    const double end = p.front().z + pitch - p.back().z;
    if (end < -1e-9 * pitch) return {};
    if (end > 1e-9 * pitch)
        pieces.push_back(
            {{p.back().z, radius(p.back().h)}, {p.front().z + pitch, radius(p.front().h)}, 0, {}});
    return groove_of(pieces, pitch, side);
}

OwnShape shape_of(const OwnSection& section) {
    const std::vector<OwnPoint> p = cut_outline(section.points);
    OwnShape out;
    std::size_t root = 0;
    for (std::size_t i = 0; i < p.size(); ++i) {
        out.depth = std::max(out.depth, -p[i].h);
        if (p[i].h < p[root].h - same_level) root = i;
    }
    for (std::size_t i = 0; i + 1 < p.size(); ++i)
        if (p[i].bow == 0 && p[i].h < -out.depth + same_level && p[i + 1].h < -out.depth + same_level)
            out.root_flat = p[i + 1].z - p[i].z;
    out.crest_flat = p.front().z + 1 - p.back().z;
    // the groove's walls at a height, by bisection on each monotone piece
    const auto wall = [&](double h, bool rising, double& angle) {
        for (std::size_t i = 0; i + 1 < p.size(); ++i) {
            if (rising != (i >= root)) continue;
            const OwnPoint &a = p[i], &b = p[i + 1];
            if (std::min(a.h, b.h) > h || std::max(a.h, b.h) < h || std::abs(b.h - a.h) < same_level)
                continue;
            const auto before = [&](double at) { return (height_at(a, b, at) > h) == (b.h < a.h); };
            const double z = halved(a.z, b.z, before, upright).middle();
            if (const Arc arc = arc_between(a, b); arc.radius > 0)
                angle = std::atan2(std::abs(h - arc.h), std::abs(z - arc.z));
            else
                angle = std::atan2(b.z - a.z, std::abs(b.h - a.h));
            return z;
        }
        return rising ? p.back().z : p.front().z;
    };
    const auto width = [&](double h) {
        double unused = 0;
        return wall(h, true, unused) - wall(h, false, unused);
    };
    out.pitch_line = -out.depth / 2;
    if (width(-1e-4 * out.depth) > 0.5 && width(-0.9999 * out.depth) < 0.5)
        out.pitch_line = halved(-out.depth, 0, [&](double h) { return width(h) <= 0.5; }).middle();
    (void)wall(out.pitch_line, false, out.lower_angle);
    (void)wall(out.pitch_line, true, out.upper_angle);
    return out;
}

OwnSection own_section_of(const ThreadSection& s, const std::string& name) {
    OwnSection out{name, {}};
    if (!s.sweepable()) return out;
    const double sign = s.side == Side::external ? 1 : -1;
    auto at = [&](const GroovePoint& g, double by) {
        return OwnPoint{(g.z + by) / s.pitch, sign * g.r / s.pitch, 0};
    };
    const auto bow_of = [&](const GroovePoint& g, const OwnPoint& a, const OwnPoint& b) {
        if (g.arc_radius <= 0) return 0.0;
        const double half = std::hypot(b.z - a.z, b.h - a.h) / 2, radius = g.arc_radius / s.pitch;
        const double bow = radius - std::sqrt(std::max(0.0, radius * radius - half * half));
        const double centre = sign * g.centre_r / s.pitch;
        return a.h + b.h > 2 * centre ? bow : -bow;
    };
    for (std::size_t i = 0; i < s.groove.size(); ++i)
        out.points.push_back(at(s.groove[i], 0));
    for (std::size_t i = 0; i + 1 < s.groove.size(); ++i)
        out.points[i].bow = bow_of(s.groove[i], out.points[i], out.points[i + 1]);
    if (s.side == Side::internal) {
        // the screw's outline: what is the nut's crest is its root. Heights are turned over, and the outline
        // begins at the nut's root.
        std::size_t lowest = 0;
        for (std::size_t i = 0; i < out.points.size(); ++i)
            if (out.points[i].h < out.points[lowest].h - same_level) lowest = i;
        std::size_t last = lowest; // the end of the nut's root
        while (last + 1 < out.points.size() && out.points[last + 1].h < out.points[lowest].h + same_level)
            ++last;
        std::vector<OwnPoint> turned(out.points.begin() + static_cast<long>(last), out.points.end());
        turned.back().bow = 0;
        for (std::size_t i = 0; i <= lowest; ++i) {
            OwnPoint q = out.points[i];
            q.z += 1;
            turned.push_back(q);
        }
        turned.back().bow = 0;
        for (OwnPoint& q : turned)
            q = {q.z, -q.h, -q.bow};
        out.points = turned;
        // h of the nut is minus the radius, so what was turned over is plus the radius again
    }
    const double top = out.points.front().h, middle = (out.points.front().z + out.points.back().z) / 2;
    for (OwnPoint& q : out.points) {
        q.h -= top;
        q.z -= middle;
    }
    out.points.back().h = 0;
    return out;
}

double middle_of(const OwnSection& section, Side side) {
    const auto& ends = section.points;
    if (side == Side::external) return (ends.front().z + ends.back().z) / 2;
    const std::vector<OwnPoint> p = cut_outline(ends);
    double depth = 0, first = 0, last = 0;
    for (const OwnPoint& q : p)
        depth = std::max(depth, -q.h);
    bool any = false;
    for (const OwnPoint& q : p)
        if (q.h < -depth + same_level) {
            if (!any) first = q.z;
            last = q.z;
            any = true;
        }
    return (first + last) / 2;
}

OwnSection with_point_after(OwnSection s, std::size_t i) {
    if (i + 1 >= s.points.size() || s.points.size() >= most_own_points) return s;
    const OwnPoint a = s.points[i], b = s.points[i + 1];
    const double chord = std::atan2(b.h - a.h, b.z - a.z);
    OwnPoint middle{(a.z + b.z) / 2 - std::sin(chord) * a.bow, (a.h + b.h) / 2 + std::cos(chord) * a.bow, 0};
    if (const Arc arc = arc_between(a, b); arc.radius > 0) {
        const double half = std::hypot(middle.z - a.z, middle.h - a.h) / 2;
        const double bow = std::copysign(
            arc.radius - std::sqrt(std::max(0.0, arc.radius * arc.radius - half * half)), a.bow);
        s.points[i].bow = middle.bow = bow;
    }
    s.points.insert(s.points.begin() + static_cast<long>(i) + 1, middle);
    return s;
}

OwnSection without_point(OwnSection s, std::size_t i) {
    if (i == 0 || i + 1 >= s.points.size()) return s; // the crest's edges stay
    s.points[i - 1].bow = 0;
    s.points.erase(s.points.begin() + static_cast<long>(i));
    return s;
}

} // namespace whorl
