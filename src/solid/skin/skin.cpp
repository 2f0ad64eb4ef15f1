#include "solid/skin/skin.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace whorl::solid {

namespace {
constexpr double turn_angle = 2 * std::numbers::pi;

UnrolledPoint moved(UnrolledPoint p, int turns) {
    p.theta += turns * turn_angle;
    return p;
}
} // namespace

UnrolledPoint point_at(const Bow& b, double phi) {
    const double c = std::cos(phi), s = std::sin(phi);
    return {b.centre.theta + b.u.theta * c + b.v.theta * s, b.centre.r + b.u.r * c + b.v.r * s,
            b.centre.z + b.u.z * c + b.v.z * s};
}

UnrolledPoint point_at(const ToothCurve& c, double parameter, double z) {
    const TransversePoint p = whorl::point_at(*c.curve, parameter);
    return {c.turned + c.twist * z + (c.mirrored ? -p.angle() : p.angle()), c.sign * p.radius(), z};
}

double parameter_at(const ToothCurve& c, const UnrolledPoint& p) {
    const double angle = std::remainder(p.theta - c.turned - c.twist * p.z, turn_angle);
    return whorl::parameter_at(*c.curve, c.sign * p.r, c.mirrored ? -angle : angle);
}

double along_hole(const CrossHole& h, const UnrolledPoint& p) {
    return p.r * std::cos(p.theta - h.towards);
}
double around_hole(const CrossHole& h, const UnrolledPoint& p) {
    return std::atan2(p.z - h.z, p.r * std::sin(p.theta - h.towards));
}

// The face's radius there leaves u = ±√(r² − y²); a plane's distance u·cos δ + y·sin δ.
UnrolledPoint point_at(const Mouth& m, double t) {
    const double y = m.hole.radius * std::cos(t), z = m.hole.z + m.hole.radius * std::sin(t);
    double u;
    if (m.plane) {
        const double turned = m.side_theta - m.hole.towards;
        u = (m.a - y * std::sin(turned)) / std::cos(turned);
    } else {
        const double r = m.a + m.b * z;
        u = (m.behind ? -1 : 1) * std::sqrt(std::max(0.0, r * r - y * y));
    }
    const double theta = m.hole.towards + (m.behind ? turn_angle / 2 + std::atan2(-y, -u) : std::atan2(y, u));
    return {theta, std::hypot(u, y), z};
}

std::vector<double> bow_turns(const Bow& b) {
    std::vector<double> out;
    if (std::hypot(b.u.theta, b.v.theta) < 1e-12) return out;
    const double low = std::min(b.from, b.to), high = std::max(b.from, b.to);
    const double at = std::atan2(b.v.theta, b.u.theta), half = std::numbers::pi;
    for (int k = -4; k <= 4; ++k)
        if (const double phi = at + k * half; phi > low + 1e-6 && phi < high - 1e-6) out.push_back(phi);
    return out;
}

double bow_parameter(const Bow& b, double theta) {
    const double reach = std::hypot(b.u.theta, b.v.theta), shift = std::atan2(b.v.theta, b.u.theta);
    const double x = std::acos(std::clamp((theta - b.centre.theta) / reach, -1.0, 1.0));
    // φ = shift ± x, of which one lies in the range
    double best = b.from, miss = 1e9;
    const double low = std::min(b.from, b.to), high = std::max(b.from, b.to);
    for (const double phi : {shift + x, shift - x})
        for (const double turn : {-turn_angle, 0.0, turn_angle}) {
            const double p = phi + turn, m = std::max({0.0, low - p, p - high});
            if (m < miss) miss = m, best = std::clamp(p, low, high);
        }
    return best;
}

double first_parameter(const Edge& e) {
    if (e.shape == EdgeShape::tooth || e.shape == EdgeShape::traced || e.shape == EdgeShape::mouth ||
        e.shape == EdgeShape::shaped)
        return e.tooth_from;
    return e.shape == EdgeShape::bow ? e.bow.from : e.shape == EdgeShape::flat_trace ? e.begin.theta : 0;
}
double last_parameter(const Edge& e) {
    if (e.shape == EdgeShape::tooth || e.shape == EdgeShape::traced || e.shape == EdgeShape::mouth ||
        e.shape == EdgeShape::shaped)
        return e.tooth_to;
    return e.shape == EdgeShape::bow ? e.bow.to : e.shape == EdgeShape::flat_trace ? e.end.theta : 1;
}

double height_at(const FlatTrace& t, double r) {
    return t.z0 + t.slope * r +
           (t.ball > 0 ? t.above * std::sqrt(std::max(0.0, t.ball * t.ball - r * r)) : 0);
}

UnrolledPoint point_at(const Edge& e, double x) {
    if (e.shape == EdgeShape::bow) return point_at(e.bow, x);
    if (e.shape == EdgeShape::tooth) return point_at(e.tooth, x, e.begin.z);
    if (e.shape == EdgeShape::mouth) return point_at(*e.mouth, x);
    if (e.shape == EdgeShape::shaped) {
        const double phi = e.across ? x : e.level, z = e.across ? e.level : x;
        return {phi + e.patch->turned(z), e.tooth.sign * e.patch->radius(phi, z), z};
    }
    if (e.shape == EdgeShape::traced) {
        const double t = e.across ? e.level : x, r = e.across ? x : e.level;
        const WallSlopes at = e.wall->point(t, r);
        return {at.theta.c[0], r, at.z.c[0]};
    }
    if (e.shape == EdgeShape::flat_trace) {
        const double r = e.trace.distance / std::cos(x - e.trace.theta);
        return {x, r, height_at(e.trace, r)};
    }
    return {e.begin.theta + x * (e.end.theta - e.begin.theta), e.begin.r + x * (e.end.r - e.begin.r),
            e.begin.z + x * (e.end.z - e.begin.z)};
}

UnrolledPoint start_of(const Skin& skin, const EdgeUse& use) {
    const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
    return moved(use.forward ? e.begin : e.end, use.turn);
}

UnrolledPoint end_of(const Skin& skin, const EdgeUse& use) {
    const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
    return moved(use.forward ? e.end : e.begin, use.turn);
}

double off_surface(const Face& f, const UnrolledPoint& p) {
    switch (f.kind) {
    case FaceKind::flat:
        return p.z - f.a;
    case FaceKind::round:
        return p.r - (f.a + f.b * p.z + f.c * p.theta);
    case FaceKind::side:
        return p.r - f.a / std::cos(p.theta - f.side_theta);
    case FaceKind::curved: {
        // measured from the arc's centre, which also serves where the arc's tangent is steep
        const double x = p.z - f.rail_slope * p.theta - f.arc_z, y = p.r - (f.a + f.b * p.z + f.c * p.theta);
        return std::hypot(x, y) - std::abs(f.arc_radius);
    }
    case FaceKind::hole:
        return std::hypot(p.r * std::sin(p.theta - f.hole->towards), p.z - f.hole->z) - f.hole->radius;
    case FaceKind::shaped: // along the radius
        return f.tooth.sign * p.r - f.patch->radius(p.theta - f.patch->turned(p.z), p.z);
    case FaceKind::scoop:
        return off_scoop(*f.scoop, {p.theta, f.tooth.sign * p.r, p.z});
    case FaceKind::wall: // along the axis
        return p.z - f.wall->point(f.wall->parameter(p.theta, p.r), p.r).z.c[0];
    case FaceKind::toothed: {
        const ToothCurve& c = f.tooth;
        const double r = c.sign * p.r;
        if (c.curve->shape == CurveShape::circle) return r - c.curve->radius;
        // square to the curve, which serves where it leaves the root circle and its radius stands still
        const double t = parameter_at(c, p);
        const UnrolledPoint on = point_at(c, t, p.z);
        const TransverseJet j = jet_at(*c.curve, t);
        const double angle = whorl::point_at(*c.curve, t).angle(), co = std::cos(angle), si = std::sin(angle);
        const double along = j.x.c[1] * co + j.y.c[1] * si, across = j.y.c[1] * co - j.x.c[1] * si;
        const double around = (c.mirrored ? -r : r) * (p.theta - on.theta), out = r - c.sign * on.r;
        return (out * across - around * along) / std::max(1e-300, std::hypot(along, across));
    }
    }
    return 0;
}

namespace {
double rail_length(const Skin& skin, const Face& f) {
    for (const EdgeUse& use : f.loops.front())
        if (const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)]; e.rail)
            return std::abs(e.end.z - e.begin.z);
    return 0;
}
} // namespace

namespace {
// ∫∫ r²/2·(θ_t·z_r − θ_r·z_t) dt dr, by Gauss points.
double wall_volume(const Face& f) {
    const DrumWall& w = *f.wall;
    const double sum = gauss<gauss_8>(w.from(), w.to(), 8, w.inner(), w.outer(), 1, [&](double t, double r) {
        const WallSlopes at = w.point(t, r);
        return r * r / 2 * (at.theta.c[1] * at.z.c[2] - at.theta.c[2] * at.z.c[1]);
    });
    return f.inward ? -sum : sum;
}
} // namespace

namespace {
// ∫∫ of (x, y)·n/2 over the wall, n to the hole's axis: −ρ²/2·cos²t, as a contour integral over the mouths.
double hole_volume(const Skin& skin, const Face& f) {
    double sum = 0;
    for (const EdgeUse& use : f.loops.front()) {
        const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
        if (e.shape != EdgeShape::mouth) continue;
        sum -= gauss<gauss_8>(use.forward ? e.tooth_from : e.tooth_to,
                              use.forward ? e.tooth_to : e.tooth_from, 8, [&](double t) {
                                  const double y = f.hole->radius * std::cos(t);
                                  return y * y / 2 * along_hole(*f.hole, point_at(e, t));
                              });
    }
    return sum;
}
} // namespace

namespace {
// ∫∫ ρ²/2 dφ dz, by Gauss points between the heights at which the wall changes its course.
double shaped_volume(const Face& f) {
    const ShapedPatch& p = *f.patch;
    const std::vector<double> at = p.wall->breaks(p.z0, p.z1);
    double sum = 0;
    for (std::size_t i = 0; i + 1 < at.size(); ++i)
        if (p.is_turned()) // arcs that are nearly upright want more of them
            sum += gauss<gauss_8>(at[i], at[i + 1], 6, [&](double z) {
                const double r = p.wall->outer()(z);
                return (p.to - p.from) / 2 * r * r;
            });
        else
            sum += gauss<gauss_8>(-(p.to - p.from) / 2, (p.to - p.from) / 2, 1, at[i], at[i + 1], 1,
                                  [&](double phi, double z) {
                                      const double r = p.radius(p.middle() + phi, z);
                                      return r * r / 2;
                                  });
    return f.inward ? -sum : sum;
}
} // namespace

double volume(const Skin& skin) {
    // V = ∫∫ r²/2 dθ ds = ∮ H ds with H = ∫ r²/2 dθ and s = z or, on curved faces, z − slope·θ. r is linear
    // in θ there, so Simpson's rule gives H exactly.
    double total = 0;
    std::map<const TransverseCurve*, double> swept_by; // teeth share their curves
    for (const Face& f : skin.faces) {
        if (f.kind == FaceKind::flat) continue;
        if (f.kind == FaceKind::shaped || f.kind == FaceKind::scoop) {
            total +=
                f.kind == FaceKind::shaped ? shaped_volume(f) : (f.inward ? -1 : 1) * scoop_volume(*f.scoop);
            continue;
        }
        if (f.kind == FaceKind::wall || f.kind == FaceKind::hole) {
            total += f.kind == FaceKind::hole ? hole_volume(skin, f) : wall_volume(f);
            continue;
        }
        if (f.kind == FaceKind::toothed) {
            // its ends are flat, so each curve sweeps the same from rail to rail everywhere along the axis
            const TransverseCurve* c = f.tooth.curve.get();
            const auto known = swept_by.find(c);
            const double twice =
                known != swept_by.end() ? known->second : swept_by[c] = swept(*c, c->from, c->to);
            total += (f.inward ? -0.5 : 0.5) * twice * rail_length(skin, f);
            continue;
        }
        const double slope = f.kind == FaceKind::curved ? f.rail_slope : 0;
        for (const auto& loop : f.loops) {
            const double theta0 = start_of(skin, loop.front()).theta;
            for (const EdgeUse& use : loop) {
                const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
                const double p0 = first_parameter(e), p1 = last_parameter(e);
                const int parts = e.shape == EdgeShape::straight                                ? 1
                                  : e.shape == EdgeShape::traced || e.shape == EdgeShape::mouth ? 8
                                                                                                : 4;
                const double sum = gauss<gauss_8>(p0, p1, parts, [&](double x) {
                    const UnrolledPoint p = moved(point_at(e, x), use.turn);
                    double ds; // ds/dx
                    if (e.shape == EdgeShape::straight) {
                        ds = (e.end.z - e.begin.z) - slope * (e.end.theta - e.begin.theta);
                    } else if (e.shape == EdgeShape::bow) {
                        const double c = std::cos(x), s = std::sin(x);
                        ds = (-e.bow.u.z * s + e.bow.v.z * c) -
                             slope * (-e.bow.u.theta * s + e.bow.v.theta * c);
                    } else if (e.shape == EdgeShape::mouth) {
                        ds = e.mouth->hole.radius * std::cos(x);
                    } else if (e.shape == EdgeShape::traced) {
                        ds = e.wall->point(x, e.level).z.c[1]; // on a cylinder, where slope is 0
                    } else {
                        const double by_r = e.trace.ball > 0 ? -p.r / (p.z - e.trace.z0) : e.trace.slope;
                        ds = by_r * p.r * std::tan(x - e.trace.theta);
                    }
                    double h;
                    if (f.kind == FaceKind::side) {
                        // H = a²/2·tan(θ − θf), θ moved with the chart
                        const double turned = std::remainder(p.theta - f.side_theta, turn_angle);
                        h = f.a * f.a / 2 * std::tan(turned);
                    } else {
                        // r at θ0, at the middle and here, for the same s
                        const double gain = f.c + (f.kind == FaceKind::curved ? f.b * slope : 0);
                        const double r2 = p.r, r0 = p.r - gain * (p.theta - theta0), r1 = (r0 + r2) / 2;
                        h = (p.theta - theta0) / 12 * (r0 * r0 + 4 * r1 * r1 + r2 * r2);
                    }
                    return h * ds;
                });
                total += use.forward ? sum : -sum;
            }
        }
    }
    return total;
}

void require_closed(const Skin& skin) {
    const auto complain = [](const std::string& what) { throw std::logic_error("skin: " + what); };
    std::vector<int> forward(skin.edges.size()), backward(skin.edges.size());
    for (std::size_t i = 0; i < skin.faces.size(); ++i) {
        const Face& f = skin.faces[i];
        const auto name = [&] {
            return "face " + std::to_string(i) + " (kind " + std::to_string(static_cast<int>(f.kind)) +
                   ", role " + std::to_string(static_cast<int>(f.role)) + ", zone " + std::to_string(f.zone) +
                   ", bore " + std::to_string(f.bore) + ")";
        };
        for (const auto& loop : f.loops) {
            if (loop.empty()) complain(name() + " has an empty loop");
            for (std::size_t k = 0; k < loop.size(); ++k) {
                const EdgeUse& use = loop[k];
                const Edge& e = skin.edges.at(static_cast<std::size_t>(use.edge));
                (use.forward ? forward : backward)[static_cast<std::size_t>(use.edge)]++;
                const EdgeUse& next = loop[(k + 1) % loop.size()];
                const Edge& n = skin.edges.at(static_cast<std::size_t>(next.edge));
                if ((use.forward ? e.to : e.from) != (next.forward ? n.from : n.to))
                    complain(name() + " has a broken loop at edge " + std::to_string(k));
                const UnrolledPoint end = end_of(skin, use), begin = start_of(skin, next);
                const bool wraps = f.kind == FaceKind::flat || f.kind == FaceKind::hole;
                if (!wraps && std::abs(end.theta - begin.theta) > 1e-9)
                    complain(name() + " jumps in theta at edge " + std::to_string(k) + " by " +
                             std::to_string(end.theta - begin.theta));
                const double middle = (first_parameter(e) + last_parameter(e)) / 2;
                for (const UnrolledPoint& p :
                     {start_of(skin, use), end, moved(point_at(e, middle), use.turn)})
                    if (const double off = off_surface(f, p); !(std::abs(off) <= 1e-7))
                        complain(name() + " has edge " + std::to_string(k) + " " + std::to_string(off * 1e6) +
                                 " nm off its surface");
            }
        }
    }
    for (std::size_t i = 0; i < skin.edges.size(); ++i) {
        const Edge& e = skin.edges[i];
        if (forward[i] != 1 || backward[i] != 1)
            complain("edge " + std::to_string(i) + " is used " + std::to_string(forward[i]) +
                     " times forward and " + std::to_string(backward[i]) + " times backward");
        for (const auto& [p, q] : {std::pair{e.begin, point_at(e, first_parameter(e))},
                                   std::pair{e.end, point_at(e, last_parameter(e))}})
            if (!(std::abs(p.r - q.r) + std::abs(p.z - q.z) + std::abs(p.theta - q.theta) * p.r < 1e-7))
                complain("edge " + std::to_string(i) + " does not end in its corners");
    }
}

std::vector<EdgeUse> reversed(std::vector<EdgeUse> loop) {
    std::reverse(loop.begin(), loop.end());
    for (auto& u : loop)
        u.forward = !u.forward;
    return loop;
}

int add_straight(Skin& skin, int from, const UnrolledPoint& begin, int to, const UnrolledPoint& end,
                 int join) {
    Edge e;
    e.from = from;
    e.to = to;
    e.begin = begin;
    e.end = end;
    e.join = join;
    skin.edges.push_back(e);
    return static_cast<int>(skin.edges.size()) - 1;
}

int add_straight(Skin& skin, int from, double begin_theta, int to, double end_theta) {
    const auto &p = skin.corners[static_cast<std::size_t>(from)],
               &q = skin.corners[static_cast<std::size_t>(to)];
    return add_straight(skin, from, {begin_theta, p.r, p.z}, to, {end_theta, q.r, q.z});
}

void reflect(Skin& skin) {
    const auto turn_over = [](UnrolledPoint& p) { p.r = -p.r; };
    for (auto& c : skin.corners)
        turn_over(c);
    for (auto& e : skin.edges) {
        turn_over(e.begin);
        turn_over(e.end);
        turn_over(e.bow.centre);
        turn_over(e.bow.u);
        turn_over(e.bow.v);
        e.trace.distance = -e.trace.distance;
        e.trace.slope = -e.trace.slope;
        e.tooth.sign = -e.tooth.sign;
    }
    for (auto& f : skin.faces) {
        for (auto& loop : f.loops) {
            std::reverse(loop.begin(), loop.end());
            for (auto& u : loop)
                u.forward = !u.forward;
        }
        if (f.kind == FaceKind::flat) {
            // a bar's end becomes the bottom of a hole, which looks the other way; shoulders keep theirs
            if (f.role == FaceRole::end) f.up = !f.up;
            continue;
        }
        f.inward = !f.inward;
        f.tooth.sign = -f.tooth.sign;
        f.a = -f.a;
        f.b = -f.b;
        f.c = -f.c;
        // the arc's point at φ goes to the one at −φ, and its edges' parameters with it
        if (f.kind == FaceKind::curved) f.arc_from = -f.arc_from, f.arc_to = -f.arc_to;
    }
    // bows follow: cos φ stays, sin φ changes sign with r
    for (auto& e : skin.edges)
        if (e.shape == EdgeShape::bow) {
            e.bow.from = -e.bow.from;
            e.bow.to = -e.bow.to;
            for (double UnrolledPoint::*m : {&UnrolledPoint::theta, &UnrolledPoint::r, &UnrolledPoint::z})
                e.bow.v.*m = -(e.bow.v.*m);
        }
}

Offset append(Skin& to, Skin&& more) {
    const Offset o{static_cast<int>(to.corners.size()), static_cast<int>(to.edges.size()),
                   static_cast<int>(to.faces.size()), static_cast<int>(to.joins.size())};
    to.corners.insert(to.corners.end(), more.corners.begin(), more.corners.end());
    for (Edge& e : more.edges) {
        e.from += o.corner;
        e.to += o.corner;
        if (e.join >= 0) e.join += o.join;
        to.edges.push_back(e);
    }
    for (Face& f : more.faces) {
        for (auto& loop : f.loops)
            for (auto& u : loop)
                u.edge += o.edge;
        to.faces.push_back(std::move(f));
    }
    to.joins.insert(to.joins.end(), more.joins.begin(), more.joins.end());
    return o;
}

} // namespace whorl::solid
