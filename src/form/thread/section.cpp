#include "form/thread/section.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

using std::numbers::pi;
constexpr double little_flat = 1e-3; // of the pitch

using P = ProfilePoint;
using Piece = ProfilePiece;

P on_arc(P centre, double radius, double phi) {
    return {centre.z + radius * std::cos(phi), centre.height + radius * std::sin(phi)};
}

} // namespace

std::vector<GroovePoint> groove_of(const std::vector<ProfileCorner>& corners, double pitch, Side side) {
    const std::size_t n = corners.size();
    if (n < 2) return {};
    const auto corner = [&](std::size_t i) { // i may run past the end: one pitch on
        ProfileCorner c = corners[i % n];
        const std::size_t pitches_on = i / n;
        c.z += static_cast<double>(pitches_on) * pitch;
        return c;
    };
    std::vector<Piece> pieces;
    std::vector<std::pair<P, P>> tangents(n + 1); // where the rounding of corner i begins and ends
    struct Arc {
        P centre{};
        double radius = 0;
    };
    std::vector<Arc> arcs(n);
    for (std::size_t i = 0; i < n; ++i) {
        ProfileCorner a = corner(i + n - 1), b = corner(i + n), c = corner(i + n + 1);
        a.z -= pitch, b.z -= pitch, c.z -= pitch;
        const double az = a.z - b.z, ah = a.height - b.height, cz = c.z - b.z, ch = c.height - b.height;
        const double la = std::hypot(az, ah), lc = std::hypot(cz, ch);
        if (!(la > 0 && lc > 0)) return {};
        if (b.rounding <= 0) {
            tangents[i] = {{b.z, b.height}, {b.z, b.height}};
            continue;
        }
        const double between = std::acos(std::clamp((az * cz + ah * ch) / (la * lc), -1.0, 1.0));
        const double reach = b.rounding / std::tan(between / 2);
        const double bz = az / la + cz / lc, bh = ah / la + ch / lc, lb = std::hypot(bz, bh);
        const double to_centre = b.rounding / std::sin(between / 2);
        tangents[i] = {{b.z + az / la * reach, b.height + ah / la * reach},
                       {b.z + cz / lc * reach, b.height + ch / lc * reach}};
        if (lb > 1e-12) arcs[i] = {{b.z + bz / lb * to_centre, b.height + bh / lb * to_centre}, b.rounding};
    }
    tangents[n] = {{tangents[0].first.z + pitch, tangents[0].first.height},
                   {tangents[0].second.z + pitch, tangents[0].second.height}};
    const double tiny = 1e-9 * pitch;
    for (std::size_t i = 0; i < n; ++i) {
        const auto& [begin, end] = tangents[i];
        if (arcs[i].radius > 0) {
            const P o = arcs[i].centre;
            // cut where the arc is level
            const double top =
                arcs[i].centre.height + (begin.height > o.height ? arcs[i].radius : -arcs[i].radius);
            const bool level_inside = begin.z < o.z - tiny && end.z > o.z + tiny;
            if (level_inside) {
                pieces.push_back({begin, {o.z, top}, arcs[i].radius, o});
                pieces.push_back({{o.z, top}, end, arcs[i].radius, o});
            } else {
                pieces.push_back({begin, end, arcs[i].radius, o});
            }
        }
        const P next = tangents[i + 1].first;
        const double length = std::hypot(next.z - end.z, next.height - end.height);
        if (next.z < end.z - tiny) return {}; // roundings overlap, or the profile overhangs
        // roundings that take up a whole straight piece must just meet
        if (arcs[i].radius > 0 && arcs[(i + 1) % n].radius > 0) {
            const ProfileCorner a = corner(i), b = corner(i + 1);
            const double whole = std::hypot(b.z - a.z, b.height - a.height),
                         used = std::hypot(end.z - a.z, end.height - a.height) +
                                std::hypot(next.z - b.z, next.height - b.height);
            if (used > whole + tiny) return {};
        }
        if (length > tiny) pieces.push_back({end, next, 0, {}});
    }
    return groove_of(pieces, pitch, side);
}

std::vector<GroovePoint> groove_of(const std::vector<ProfilePiece>& pieces, double pitch, Side side) {
    if (pieces.empty()) return {};
    const double sign = side == Side::external ? 1 : -1, tiny = 1e-9 * pitch;

    // the crest: the highest level piece, else the highest point
    double highest = -1e300;
    for (const Piece& p : pieces)
        highest = std::max({highest, p.from.height, p.to.height});
    std::size_t first = pieces.size();
    for (std::size_t i = 0; i < pieces.size(); ++i)
        if (pieces[i].radius == 0 && pieces[i].from.height > highest - tiny &&
            pieces[i].to.height > highest - tiny &&
            pieces[i].to.z - pieces[i].from.z > 0.999 * little_flat * pitch)
            first = i;
    std::vector<Piece> groove;
    const auto shifted = [&](Piece p, double by) {
        p.from.z += by, p.to.z += by, p.centre.z += by;
        return p;
    };
    const std::size_t m = pieces.size();
    if (first < m) {
        for (std::size_t k = 1; k < m; ++k) {
            const std::size_t i = first + k;
            groove.push_back(shifted(pieces[i % m], i >= m ? pitch : 0));
        }
    } else {
        // no flat: start at the top point and take half a little flat off both sides
        for (std::size_t i = 0; i < m; ++i)
            if (pieces[i].from.height > highest - tiny) first = i;
        if (first == m) return {};
        for (std::size_t k = 0; k < m; ++k) {
            const std::size_t i = first + k;
            groove.push_back(shifted(pieces[i % m], i >= m ? pitch : 0));
        }
        // where a piece is at a height between its ends
        const auto place = [](const Piece& p, double height) {
            if (p.radius > 0) {
                const double y = height - p.centre.height,
                             x = std::sqrt(std::max(0.0, p.radius * p.radius - y * y));
                return p.centre.z + (p.from.z + p.to.z > 2 * p.centre.z ? x : -x);
            }
            return p.from.z + (p.to.z - p.from.z) * (height - p.from.height) / (p.to.height - p.from.height);
        };
        // the first pieces from either side that come down to a height; both go down from the top point
        const auto falling = [&](double height) {
            std::size_t k = 0;
            while (k < m && groove[k].to.height >= height)
                ++k;
            return k;
        };
        const auto rising = [&](double height) {
            std::size_t k = m;
            while (k > 0 && groove[k - 1].from.height >= height)
                --k;
            return k; // one past it
        };
        // the level at which the crest is as wide as the little flat
        double low = highest, high = highest;
        for (const Piece& p : groove)
            low = std::min({low, p.from.height, p.to.height});
        const double lowest = low;
        for (int i = 0; i < 100 && high - low > 1e-13 * pitch; ++i) {
            const double level = (low + high) / 2;
            const std::size_t a = falling(level), b = rising(level);
            if (a == m || b == 0) return {};
            const double width = place(groove[a], level) + pitch - place(groove[b - 1], level);
            (width < little_flat * pitch ? high : low) = level;
        }
        const double level = low;
        if (level <= lowest + tiny) return {};
        const std::size_t a = falling(level), b = rising(level);
        if (a >= b) return {};
        groove[a].from = {place(groove[a], level), level};
        groove[b - 1].to = {place(groove[b - 1], level), level};
        groove =
            std::vector<Piece>(groove.begin() + static_cast<long>(a), groove.begin() + static_cast<long>(b));
    }
    // the middle: half way between the crests
    const double middle = (groove.front().from.z + groove.back().to.z) / 2;
    std::vector<GroovePoint> out;
    for (const Piece& p : groove) {
        if (!(p.to.z > p.from.z)) return {};
        out.push_back(
            {p.from.z - middle, sign * p.from.height, p.radius, p.centre.z - middle, sign * p.centre.height});
    }
    out.push_back({groove.back().to.z - middle, sign * groove.back().to.height, 0, 0, 0});
    for (const auto& p : out)
        if (!(p.r > 0)) return {};
    return out;
}

std::vector<GroovePoint> mirrored(const std::vector<GroovePoint>& groove) {
    std::vector<GroovePoint> out;
    for (std::size_t i = groove.size(); i-- > 0;) {
        GroovePoint p{-groove[i].z, groove[i].r};
        if (i > 0) { // the piece before it now follows it
            const GroovePoint& piece = groove[i - 1];
            p.arc_radius = piece.arc_radius;
            p.centre_z = -piece.centre_z;
            p.centre_r = piece.centre_r;
        }
        out.push_back(p);
    }
    return out;
}

double groove_radius(const ThreadSection& s, double z) {
    for (std::size_t i = 0; i + 1 < s.groove.size(); ++i) {
        const GroovePoint &a = s.groove[i], &b = s.groove[i + 1];
        if (z < a.z || z > b.z) continue;
        if (a.arc_radius > 0) {
            const double x = z - a.centre_z,
                         y = std::sqrt(std::max(0.0, a.arc_radius * a.arc_radius - x * x));
            return a.centre_r + (a.r + b.r > 2 * a.centre_r ? y : -y);
        }
        return a.r + (b.r - a.r) * (z - a.z) / (b.z - a.z);
    }
    return s.crest_radius;
}

std::vector<GroovePoint> groove_polyline(const ThreadSection& s, double chord) {
    std::vector<GroovePoint> out;
    for (std::size_t i = 0; i < s.groove.size(); ++i) {
        const GroovePoint& a = s.groove[i];
        out.push_back({a.z, a.r});
        if (a.arc_radius <= 0 || i + 1 == s.groove.size()) continue;
        const GroovePoint& b = s.groove[i + 1];
        const double from = std::atan2(a.r - a.centre_r, a.z - a.centre_z);
        const double turn = std::remainder(std::atan2(b.r - a.centre_r, b.z - a.centre_z) - from, 2 * pi);
        const double step = 2 * std::acos(std::max(0.0, 1 - chord / a.arc_radius));
        const int parts = std::max(2, static_cast<int>(std::ceil(std::abs(turn) / std::max(step, 1e-3))));
        for (int k = 1; k < parts; ++k) {
            const P p = on_arc({a.centre_z, a.centre_r}, a.arc_radius, from + turn * k / parts);
            out.push_back({p.z, p.height});
        }
    }
    return out;
}

} // namespace whorl
