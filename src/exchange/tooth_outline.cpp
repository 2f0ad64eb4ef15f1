#include "exchange/tooth_outline.hpp"

#include "form/tooth/gear_designation.hpp"
#include "quantity/expression.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace whorl {
namespace {

struct Place {
    double x, y, tx, ty; // a point and the unit tangent in the curve's direction
};

Place place_at(const TransverseCurve& c, double t) {
    const TransverseJet j = jet_at(c, t);
    const double length = std::hypot(j.x.c[1], j.y.c[1]);
    return {j.x.c[0], j.y.c[0], j.x.c[1] / length, j.y.c[1] / length};
}

// The bulge of the arc that leaves `a` along its tangent and ends in (x, y).
double bulge_from(const Place& a, double x, double y) {
    const double dx = x - a.x, dy = y - a.y;
    return std::tan(std::atan2(a.tx * dy - a.ty * dx, a.tx * dx + a.ty * dy) / 2);
}

// Two arcs with a common tangent between two places, their lengths of tangent equal (Bolton 1975).
std::array<ArcPoint, 2> biarc(const Place& a, const Place& b) {
    const double vx = b.x - a.x, vy = b.y - a.y, sx = a.tx + b.tx, sy = a.ty + b.ty;
    const double vv = vx * vx + vy * vy, vs = vx * sx + vy * sy, ss = sx * sx + sy * sy, q = 4 - ss;
    const double d = q < 1e-14 ? vv / (2 * vs) : (-vs + std::sqrt(vs * vs + q * vv)) / q;
    const double mx = (a.x + b.x + d * (a.tx - b.tx)) / 2, my = (a.y + b.y + d * (a.ty - b.ty)) / 2;
    const Place back{b.x, b.y, -b.tx, -b.ty};
    return {ArcPoint{a.x, a.y, bulge_from(a, mx, my)}, ArcPoint{mx, my, -bulge_from(back, mx, my)}};
}

// How far a point lies from an arc's circle, or its chord's line.
double off_arc(const ArcPoint& a, double ex, double ey, double x, double y) {
    const double dx = ex - a.x, dy = ey - a.y, chord = std::hypot(dx, dy);
    if (std::abs(a.bulge) < 1e-9) return std::abs(dx * (y - a.y) - dy * (x - a.x)) / chord;
    const double radius = chord * (1 + a.bulge * a.bulge) / (4 * a.bulge); // signed
    const double up = radius - a.bulge * chord / 2;                        // of the centre over the chord
    const double cx = a.x + dx / 2 - dy / chord * up, cy = a.y + dy / 2 + dx / chord * up;
    return std::abs(std::hypot(x - cx, y - cy) - std::abs(radius));
}

void add_curve(std::vector<ArcPoint>& out, const TransverseCurve& c, double from, double to, double tolerance,
               int depth) {
    const Place a = place_at(c, from), b = place_at(c, to);
    const auto arcs = biarc(a, b);
    double worst = 0;
    for (int i = 1; i < 16; ++i) {
        const TransversePoint p = point_at(c, from + (to - from) * i / 16);
        // of the two arcs the one whose side of the joint the point lies on
        const double along = (p.x - arcs[1].x) * (b.x - a.x) + (p.y - arcs[1].y) * (b.y - a.y);
        worst = std::max(worst, along < 0 ? off_arc(arcs[0], arcs[1].x, arcs[1].y, p.x, p.y)
                                          : off_arc(arcs[1], b.x, b.y, p.x, p.y));
    }
    if (worst > tolerance && depth < 12) {
        const double middle = (from + to) / 2;
        add_curve(out, c, from, middle, tolerance, depth + 1);
        add_curve(out, c, middle, to, tolerance, depth + 1);
        return;
    }
    out.push_back(arcs[0]);
    out.push_back(arcs[1]);
}

ArcPoint turned(const ArcPoint& p, double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {p.x * c - p.y * s, p.x * s + p.y * c, p.bulge};
}

} // namespace

std::vector<ArcPoint> tooth_outline(const ResolvedGear& g, bool whole, double tolerance) {
    // from the middle of a space up to where the tip's arc begins; the root's and the tip's arcs are whole
    std::vector<ArcPoint> up;
    for (std::size_t i = 1; i + 1 < g.half_outline.size(); ++i) {
        const TransverseCurve& c = g.half_outline[i];
        if (c.shape == CurveShape::line)
            up.push_back({c.x0, c.y0, 0});
        else
            add_curve(up, c, c.from, c.to, 0.9 * tolerance, 0);
    }
    const double tip_angle = g.half_outline.back().from, root_angle = g.half_outline.front().to,
                 pitch = g.pitch_angle();
    const ArcPoint tip{g.tip_radius * std::cos(tip_angle), g.tip_radius * std::sin(tip_angle),
                       std::tan((pitch - 2 * tip_angle) / 4)};
    // the flank on the other side of this space, from the tip down to the root: the mirror image, run
    // backwards
    std::vector<ArcPoint> down;
    down.push_back({tip.x, -tip.y, up.back().bulge});
    for (std::size_t i = up.size(); i-- > 0;)
        down.push_back({up[i].x, -up[i].y, i > 0 ? up[i - 1].bulge : std::tan(root_angle / 2)});
    std::vector<ArcPoint> space = down;
    space.insert(space.end(), up.begin(), up.end());
    space.push_back(tip);
    std::vector<ArcPoint> out;
    for (int k = 0; k < (whole ? g.spec.teeth : 1); ++k)
        for (std::size_t i = 0; i < space.size(); ++i) {
            // the tip's arc ends where the next space begins
            out.push_back(turned(space[i], k * pitch));
        }
    if (!whole) {
        out.back().bulge = 0;
        return out;
    }
    return out;
}

std::string gear_dxf(const ResolvedGear& g, bool whole, double tolerance) {
    const auto outline = tooth_outline(g, whole, tolerance);
    const auto number = [](double v) { return number_text(v, 9); };
    std::string s = "999\n" + write_gear(g.spec) + ", transverse outline in mm, within " +
                    number_text(tolerance, 6) + " mm\n";
    s += "0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1009\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n";
    s += "0\nPOLYLINE\n8\nOUTLINE\n66\n1\n10\n0\n20\n0\n30\n0\n70\n" + std::string(whole ? "1" : "0") + "\n";
    for (const auto& p : outline)
        s += "0\nVERTEX\n8\nOUTLINE\n10\n" + number(p.x) + "\n20\n" + number(p.y) + "\n30\n0\n42\n" +
             number_text(p.bulge, 12) + "\n";
    s += "0\nSEQEND\n8\nOUTLINE\n";
    if (whole)
        for (const double r : {g.pitch_radius, g.base_radius})
            s += "0\nCIRCLE\n8\nCIRCLES\n10\n0\n20\n0\n30\n0\n40\n" + number(r) + "\n";
    return s + "0\nENDSEC\n0\nEOF\n";
}

std::string gear_svg(const ResolvedGear& g, bool whole, double tolerance) {
    const auto outline = tooth_outline(g, whole, tolerance);
    const auto number = [](double v) { return number_text(v, 6); };
    const double reach = std::max(g.tip_radius, g.root_radius) * 1.05;
    double x0 = -reach, y0 = -reach, w = 2 * reach, h = 2 * reach;
    if (!whole) {
        double low = 1e300, high = 0, wide = 0;
        for (const auto& p : outline) {
            low = std::min(low, p.x);
            high = std::max(high, p.x);
            wide = std::max(wide, std::abs(p.y));
        }
        x0 = low - 1, w = high - low + 2, y0 = -wide - 1, h = 2 * wide + 2;
    }
    std::string s = "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" + number(w) + "mm\" height=\"" +
                    number(h) + "mm\" viewBox=\"" + number(x0) + " " + number(y0) + " " + number(w) + " " +
                    number(h) + "\">\n<title>" + write_gear(g.spec) + ", transverse outline within " +
                    number_text(tolerance, 6) +
                    " mm</title>\n<path fill=\"none\" stroke=\"#1E2A32\" "
                    "stroke-width=\"" +
                    number(0.02 * in_mm(g.spec.module)) + "\" d=\"";
    // y runs down in SVG
    const std::size_t n = outline.size(), last = whole ? n : n - 1;
    s += "M" + number(outline[0].x) + " " + number(-outline[0].y);
    for (std::size_t i = 0; i < last; ++i) {
        const ArcPoint &a = outline[i], &b = outline[(i + 1) % n];
        if (std::abs(a.bulge) < 1e-12) {
            s += " L" + number(b.x) + " " + number(-b.y);
            continue;
        }
        const double chord = std::hypot(b.x - a.x, b.y - a.y),
                     r = chord * (1 + a.bulge * a.bulge) / (4 * std::abs(a.bulge));
        s += " A" + number(r) + " " + number(r) + " 0 0 " + (a.bulge > 0 ? "0 " : "1 ") + number(b.x) + " " +
             number(-b.y);
    }
    return s + (whole ? " Z" : "") + "\"/>\n</svg>\n";
}

} // namespace whorl
