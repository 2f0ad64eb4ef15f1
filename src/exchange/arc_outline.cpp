#include "exchange/arc_outline.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace whorl {
namespace {

struct Place {
    double x, y, tx, ty; // a point and the unit tangent in the curve's direction
};

using Curve = std::function<TransverseJet(double)>;

Place place_at(const Curve& c, double t) {
    const TransverseJet j = c(t);
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

void add_curve(std::vector<ArcPoint>& out, const Curve& c, double from, double to, double tolerance,
               int depth) {
    const Place a = place_at(c, from), b = place_at(c, to);
    const auto arcs = biarc(a, b);
    double worst = 0;
    for (int i = 1; i < 16; ++i) {
        const TransverseJet j = c(from + (to - from) * i / 16);
        const TransversePoint p{j.x.c[0], j.y.c[0]};
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

} // namespace

void add_arcs(std::vector<ArcPoint>& out, const Curve& curve, double from, double to, double tolerance) {
    add_curve(out, curve, from, to, tolerance, 0);
}

std::vector<ArcPoint> run_backwards(const std::vector<ArcPoint>& outline) {
    const std::size_t n = outline.size();
    std::vector<ArcPoint> out;
    for (std::size_t i = 0; i < n; ++i) {
        const ArcPoint& p = outline[(n - i) % n];
        out.push_back({p.x, p.y, -outline[(2 * n - i - 1) % n].bulge});
    }
    return out;
}

std::string arcs_dxf(const std::vector<ArcPoint>& outline, bool closed, const std::string& note,
                     const std::vector<double>& circles) {
    return arcs_dxf(std::vector<std::vector<ArcPoint>>{outline}, closed, note, circles);
}

std::string arcs_dxf(const std::vector<std::vector<ArcPoint>>& outlines, bool closed, const std::string& note,
                     const std::vector<double>& circles) {
    const auto number = [](double v) { return number_text(v, 9); };
    std::string s = "999\n" + note + "\n";
    s += "0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1009\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n";
    for (const auto& outline : outlines) {
        s += "0\nPOLYLINE\n8\nOUTLINE\n66\n1\n10\n0\n20\n0\n30\n0\n70\n" + std::string(closed ? "1" : "0") +
             "\n";
        for (const auto& p : outline)
            s += "0\nVERTEX\n8\nOUTLINE\n10\n" + number(p.x) + "\n20\n" + number(p.y) + "\n30\n0\n42\n" +
                 number_text(p.bulge, 12) + "\n";
        s += "0\nSEQEND\n8\nOUTLINE\n";
    }
    for (const double r : circles)
        s += "0\nCIRCLE\n8\nCIRCLES\n10\n0\n20\n0\n30\n0\n40\n" + number(r) + "\n";
    return s + "0\nENDSEC\n0\nEOF\n";
}

std::string svg_path(const std::vector<ArcPoint>& outline, bool closed) {
    const auto number = [](double v) { return number_text(v, 6); };
    const std::size_t n = outline.size(), last = closed ? n : n - 1;
    std::string s = "M" + number(outline[0].x) + " " + number(-outline[0].y);
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
    return s + (closed ? " Z" : "");
}

std::string arcs_svg(const std::vector<ArcPoint>& outline, bool closed, const std::string& title, Frame f,
                     double stroke) {
    return arcs_svg(std::vector<std::vector<ArcPoint>>{outline}, closed, title, f, stroke);
}

std::string arcs_svg(const std::vector<std::vector<ArcPoint>>& outlines, bool closed,
                     const std::string& title, Frame f, double stroke) {
    const auto number = [](double v) { return number_text(v, 6); };
    // y runs down in SVG
    std::string s =
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" + number(f.width) + "mm\" height=\"" +
        number(f.height) + "mm\" viewBox=\"" + number(f.x0) + " " + number(-f.y0 - f.height) + " " +
        number(f.width) + " " + number(f.height) + "\">\n<title>" + title +
        "</title>\n<path fill=\"none\" stroke=\"#1E2A32\" stroke-width=\"" + number(stroke) + "\" d=\"";
    for (std::size_t i = 0; i < outlines.size(); ++i)
        s += (i > 0 ? " " : "") + svg_path(outlines[i], closed);
    return s + "\"/>\n</svg>\n";
}

} // namespace whorl
