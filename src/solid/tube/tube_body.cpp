#include "solid/tube/tube_body.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace whorl::solid {
namespace {

constexpr double eighth = pi / 4;
constexpr double most_angle = pi;           // of a length about the axis
constexpr double beyond_cut = 0.1 * 2 * pi; // a length goes on behind the ground face

std::size_t index(int i) {
    return static_cast<std::size_t>(i);
}
Point as_point(const Vec3& v) {
    return {v.x, v.y, v.z};
}

// φ at which a ground face meets the wire's end circle, on the outer side: sin φ = height over the
// centreline.
double ground_angle(const ResolvedCoil& c, bool far) {
    const double up = c.line.frame(far ? c.line.end() : 0).upwards.z;
    const double part = std::clamp(c.turns_at(far).ground_height / (c.axial / 2 * up), -1.0, 1.0);
    const double low = c.round ? std::asin(part) : std::atan(part);
    return far ? -low : low;
}

std::vector<double> cuts_of(const ResolvedCoil& c) {
    std::vector<double> fixed = c.line.breaks();
    for (const bool far_end : {false, true}) {
        if (!c.ground(far_end)) continue;
        const double end = far_end ? c.line.end() : 0,
                     cut = c.ground_to(far_end) + (far_end ? -1 : 1) * beyond_cut;
        for (const double b : c.line.breaks())
            if (std::abs(b - end) > 1e-9 && (far_end ? b > cut : b < cut))
                throw CannotMake(
                    "The ground face reaches " + number_text(std::abs(cut - end) / (2 * pi), 2) +
                        " turns along the wire, where its pitch or diameter changes already; give "
                        "the ends more dead turns, or leave them unground.",
                    0);
        fixed.push_back(cut);
    }
    std::sort(fixed.begin(), fixed.end());
    std::vector<double> cuts{c.line.begin()};
    for (std::size_t i = 0; i + 1 < fixed.size(); ++i) {
        const double from = fixed[i], to = fixed[i + 1];
        if (to - from < 1e-9) continue;
        // the lengths with ground faces stay whole
        const bool whole = (c.ground(false) && i == 0) || (c.ground(true) && i + 2 == fixed.size());
        const int n = whole ? 1 : static_cast<int>(std::ceil((to - from) / most_angle - 1e-9));
        for (int k = 1; k <= n; ++k)
            cuts.push_back(k == n ? to : from + (to - from) * k / n);
    }
    if (cuts.size() == 2) cuts.insert(cuts.begin() + 1, (cuts[0] + cuts[1]) / 2);
    return cuts;
}

class TubeMaker {
public:
    explicit TubeMaker(const ResolvedCoil& coil) {
        body_.coil = coil;
        body_.cuts = cuts_of(coil);
    }

    TubeBody make() {
        const std::size_t lengths = body_.cuts.size() - 1;
        for (std::size_t i = 0; i < lengths; ++i) {
            const bool first = i == 0, last = i + 1 == lengths;
            const bool near_cut = first && body_.coil.ground(false),
                       far_cut = last && body_.coil.ground(true);
            if ((near_cut || far_cut) && !body_.coil.round) {
                flat_walls(i, far_cut);
            } else if (near_cut) {
                wall(i, 1, 3), wall(i, 3, 9);
            } else if (far_cut) {
                wall(i, 5, 7), wall(i, 7, 13);
            } else {
                for (int k = 1; k < 9; k += 2)
                    wall(i, k, k + 2);
            }
        }
        for (const bool far : {false, true}) {
            tip(far);
            if (body_.coil.ground(far)) ground_face(far);
        }
        return std::move(body_);
    }

private:
    // Corners at cut `c` and φ; φ is told apart modulo a turn.
    int corner(std::size_t c, double phi) {
        const double in_turn = phi - 2 * pi * std::floor(phi / (2 * pi) + 1e-12);
        const auto key = std::pair(c, std::lround(in_turn * 1e9));
        const auto [it, is_new] = corners_.try_emplace(key, static_cast<int>(body_.corners.size()));
        if (is_new) body_.corners.push_back(point_at(body_, body_.cuts[c], phi));
        return it->second;
    }
    EdgeUse edge(const TubeEdge& e) {
        const auto key = std::tuple(int(e.kind), std::min(e.from, e.to), std::max(e.from, e.to));
        auto [it, is_new] = edges_.try_emplace(key, static_cast<int>(body_.edges.size()));
        if (is_new) body_.edges.push_back(e);
        return {it->second, body_.edges[index(it->second)].from == e.from, 0};
    }
    // The ring at a cut from φ to φ, in the pieces between its corners.
    void ring(std::vector<EdgeUse>& loop, std::size_t c, double from, double to) {
        const int step = to > from ? 1 : -1;
        double at = from;
        while (std::abs(to - at) > 1e-9) {
            // the next corner of the eighths: odd multiples of 45°
            double k = at / eighth;
            double next = step > 0 ? std::floor(k + 1e-9) + 1 : std::ceil(k - 1e-9) - 1;
            if (std::fmod(std::abs(next), 2) < 0.5) next += step;
            next *= eighth;
            if ((to - next) * step < 1e-9) next = to;
            TubeEdge e;
            e.kind = TubeEdge::ring;
            e.at = body_.cuts[c];
            e.from = corner(c, at);
            e.to = corner(c, next);
            e.begin = at;
            e.end = next;
            loop.push_back(edge(e));
            at = next;
        }
    }
    struct RailEnd {
        int corner = -1;
        double theta = 0;
    };
    RailEnd at_cut(std::size_t c, double phi) { return {corner(c, phi), body_.cuts[c]}; }
    RailEnd at_ground(bool far, double phi) {
        return {cut_corner(far, phi), ground_cut(body_.coil, far, phi)};
    }
    void rail(std::vector<EdgeUse>& loop, RailEnd from, RailEnd to, double phi) {
        TubeEdge e;
        e.kind = TubeEdge::rail;
        e.at = phi;
        e.from = from.corner;
        e.to = to.corner;
        e.begin = from.theta;
        e.end = to.theta;
        loop.push_back(edge(e));
    }
    void rail(std::vector<EdgeUse>& loop, std::size_t from, std::size_t to, double phi) {
        rail(loop, at_cut(from, phi), at_cut(to, phi), phi);
    }
    std::size_t end_cut(bool far) const { return far ? body_.cuts.size() - 1 : 0; }

    // The ground face's edge, from its corner on the wire's outer side round under (near) or over (far) the
    // wire to the inner side; in three pieces, since the strip it lies in is three circles' quarters wide.
    // near: outer … −45°, −135° … −180° − outer; far: outer … 45°, 135° … 180° − outer
    std::array<double, 4> cut_places(bool far) const {
        const double outer = ground_angle(body_.coil, far), s = far ? 1 : -1;
        return {outer, s * eighth, s * 3 * eighth, s * pi - outer};
    }
    void cut_piece(std::vector<EdgeUse>& loop, bool far, double from, double to) {
        TubeEdge e;
        e.kind = TubeEdge::cut;
        e.far = far;
        e.begin = from;
        e.end = to;
        e.from = cut_corner(far, from);
        e.to = cut_corner(far, to);
        loop.push_back(edge(e));
    }
    void cut(std::vector<EdgeUse>& loop, bool far, bool from_outside) {
        auto phi = cut_places(far);
        if (!from_outside) std::reverse(phi.begin(), phi.end());
        for (std::size_t k = 0; k < 3; ++k)
            cut_piece(loop, far, phi[k], phi[k + 1]);
    }
    int cut_corner(bool far, double phi) {
        const double theta = ground_cut(body_.coil, far, phi);
        const double end = body_.cuts[end_cut(far)];
        if (std::abs(theta - end) < 1e-9) return corner(end_cut(far), phi);
        const double in_turn = phi - 2 * pi * std::floor(phi / (2 * pi) + 1e-12);
        const auto key = std::pair(body_.cuts.size() + (far ? 1 : 0), std::lround(in_turn * 1e9));
        const auto [it, is_new] = corners_.try_emplace(key, static_cast<int>(body_.corners.size()));
        if (is_new) body_.corners.push_back(point_at(body_, theta, phi));
        return it->second;
    }

    // The strip of a length between two multiples of 45°, counter-clockwise in (θ, φ).
    void wall(std::size_t i, int k0, int k1) {
        TubeFace f;
        f.theta0 = body_.cuts[i];
        f.theta1 = body_.cuts[i + 1];
        f.phi0 = k0 * eighth;
        f.phi1 = k1 * eighth;
        const bool wide = k1 - k0 > 2, near_cut = wide && i == 0, far_cut = wide && i != 0;
        rail(f.loop, i, i + 1, f.phi0);
        if (far_cut) { // φ0 = −45° … 225°: up to the ground face, round it, on
            const double outer = ground_angle(body_.coil, true) + 2 * pi;
            ring(f.loop, i + 1, f.phi0, outer);
            cut(f.loop, true, true);
            ring(f.loop, i + 1, 3 * pi - (outer - 2 * pi), f.phi1);
        } else {
            ring(f.loop, i + 1, f.phi0, f.phi1);
        }
        rail(f.loop, i + 1, i, f.phi1);
        if (near_cut) { // φ = 405° down to 135°
            const double outer = ground_angle(body_.coil, false) + 2 * pi;
            ring(f.loop, i, f.phi1, outer);
            cut(f.loop, false, true);
            ring(f.loop, i, 3 * pi - outer, f.phi0);
        } else {
            ring(f.loop, i, f.phi1, f.phi0);
        }
        body_.faces.push_back(std::move(f));
    }

    // The four sides of flat-sided wire that a ground face ends: the one away from the face is whole, the others run to
    // the face's edge, three pieces of it.
    void flat_walls(std::size_t i, bool far) {
        const int away = far ? 5 : 1; // eighths at which the whole side begins
        wall(i, away, away + 2);
        const std::size_t tip = far ? i + 1 : i;
        const auto places = cut_places(far);
        for (int side = 0; side < 3;
             ++side) { // towards the axis, the ground one, away from the axis; far the other way round
            TubeFace f;
            f.theta0 = body_.cuts[i];
            f.theta1 = body_.cuts[i + 1];
            f.phi0 = (away + 2 + 2 * side) * eighth;
            f.phi1 = f.phi0 + 2 * eighth;
            const auto piece = static_cast<std::size_t>(far ? side : 2 - side);
            const bool whole0 = side == 0, whole1 = side == 2; // its rails go on to the tip
            const auto end = [&](bool whole, double phi) {
                return whole ? at_cut(tip, phi) : at_ground(far, phi);
            };
            const RailEnd first = end(whole0, f.phi0), last = end(whole1, f.phi1);
            // φ of the face's corner in the wire's end, in the strip's own turn
            const double level = places[far ? (whole0 ? 0U : 3U) : (whole0 ? 3U : 0U)];
            const double at_tip = level + 2 * pi * std::round(((f.phi0 + f.phi1) / 2 - level) / (2 * pi));
            if (far) {
                rail(f.loop, at_cut(i, f.phi0), first, f.phi0);
                if (whole0) ring(f.loop, tip, f.phi0, at_tip);
                cut_piece(f.loop, far, places[piece], places[piece + 1]);
                if (whole1) ring(f.loop, tip, at_tip, f.phi1);
                rail(f.loop, last, at_cut(i, f.phi1), f.phi1);
                ring(f.loop, i, f.phi1, f.phi0);
            } else {
                rail(f.loop, first, at_cut(i + 1, f.phi0), f.phi0);
                ring(f.loop, i + 1, f.phi0, f.phi1);
                rail(f.loop, at_cut(i + 1, f.phi1), last, f.phi1);
                if (whole1) ring(f.loop, tip, f.phi1, at_tip);
                cut_piece(f.loop, far, places[piece], places[piece + 1]);
                if (whole0) ring(f.loop, tip, at_tip, f.phi0);
            }
            body_.faces.push_back(std::move(f));
        }
    }

    void tip(bool far) {
        TubeFace f;
        f.kind = TubeFace::tip;
        f.role = FaceRole::end;
        f.far = far;
        const std::size_t c = end_cut(far);
        if (!body_.coil.ground(far)) {
            // seen from outside rising φ runs counter-clockwise at the near end
            ring(f.loop, c, eighth, eighth + (far ? -2 : 2) * pi);
            body_.faces.push_back(std::move(f));
            return;
        }
        const double outer = ground_angle(body_.coil, far), inner = far ? -pi - outer : pi - outer;
        TubeEdge e;
        e.kind = TubeEdge::chord;
        e.far = far;
        e.from = corner(c, inner);
        e.to = corner(c, outer);
        ring(f.loop, c, outer, inner);
        f.loop.push_back(edge(e));
        body_.faces.push_back(std::move(f));
    }

    void ground_face(bool far) {
        TubeFace f;
        f.kind = TubeFace::ground;
        f.role = FaceRole::end;
        f.far = far;
        TubeEdge e;
        e.kind = TubeEdge::chord;
        e.far = far;
        const double outer = ground_angle(body_.coil, far);
        e.from = corner(end_cut(far), outer);
        e.to = corner(end_cut(far), far ? -pi - outer : pi - outer);
        f.loop.push_back(edge(e));
        cut(f.loop, far, false);
        body_.faces.push_back(std::move(f));
    }

    TubeBody body_;
    std::map<std::pair<std::size_t, long>, int> corners_;
    std::map<std::tuple<int, int, int>, int> edges_;
};

} // namespace

TubeBody tube_body(const ResolvedCoil& coil) {
    TubeBody body = TubeMaker(coil).make();
    if (coil.spec.hand == Hand::left)
        for (TubeFace& f : body.faces)
            f.loop = reversed(std::move(f.loop));
    return body;
}

Vec3 centre_at(const TubeBody& body, double theta) {
    return body.coil.line.point(theta).at + Vec3{0, 0, body.coil.lift()};
}

Point point_at(const TubeBody& body, double theta, double phi) {
    const auto f = body.coil.line.frame(theta);
    const auto [x, y] = body.coil.shape().at(phi);
    return as_point(centre_at(body, theta) + x * f.outwards + y * f.upwards);
}

Point normal_at(const TubeBody& body, const TubeFace& wall, double theta, double phi) {
    const auto f = body.coil.line.frame(theta);
    if (body.coil.round) return as_point(std::cos(phi) * f.outwards + std::sin(phi) * f.upwards);
    // square to the side and to the way its points go along the wire, which a chord over a hundredth of a radian has within 1e-5
    const double middle = (wall.phi0 + wall.phi1) / 2, step = 5e-3;
    const Vec3 out = std::cos(middle) * f.outwards + std::sin(middle) * f.upwards,
               side = std::cos(middle) * f.upwards - std::sin(middle) * f.outwards;
    const double from = std::max(body.coil.line.begin(), theta - step),
                 to = std::min(body.coil.line.end(), theta + step);
    const Point a = point_at(body, from, phi), b = point_at(body, to, phi);
    Vec3 n = cross(side, Vec3{b.x - a.x, b.y - a.y, b.z - a.z});
    const double length = norm(n) * (dot(n, out) < 0 ? -1 : 1);
    return as_point((1 / length) * n);
}

double ground_level(const TubeBody& body, bool far) {
    const double height = body.coil.turns_at(far).ground_height,
                 over_end = far ? body.coil.line.rise() - height : height;
    return over_end + body.coil.lift();
}

Point point_at(const TubeBody& body, const TubeEdge& e, double t) {
    switch (e.kind) {
    case TubeEdge::ring:
        return point_at(body, e.at, t);
    case TubeEdge::rail:
        return point_at(body, t, e.at);
    case TubeEdge::cut:
        return point_at(body, ground_cut(body.coil, e.far, t), t);
    case TubeEdge::chord:
        break;
    }
    const Point &a = body.corners[index(e.from)], &b = body.corners[index(e.to)];
    return {a.x + t * (b.x - a.x), a.y + t * (b.y - a.y), a.z + t * (b.z - a.z)};
}

namespace {

// How far a point is off a face's surface.
double off_surface(const TubeBody& body, const TubeFace& f, const Point& p, double near_theta) {
    if (f.kind == TubeFace::ground) return std::abs(p.z - ground_level(body, f.far));
    const Vec3 at{p.x, p.y, p.z};
    if (f.kind == TubeFace::tip) {
        const double theta = f.far ? body.coil.line.end() : body.coil.line.begin();
        return std::abs(dot(at - centre_at(body, theta), body.coil.line.frame(theta).along));
    }
    double theta = near_theta; // the nearest point of the centreline, by Newton's method
    for (int k = 0; k < 6; ++k) {
        const auto c = body.coil.line.point(theta);
        const Vec3 off = at - centre_at(body, theta);
        theta += dot(off, c.d1) / (dot(c.d1, c.d1) - dot(off, c.d2));
    }
    const Vec3 off = at - centre_at(body, theta);
    if (body.coil.round) return std::abs(norm(off) - body.coil.wire / 2);
    const auto frame = body.coil.line.frame(theta);
    const double middle = (f.phi0 + f.phi1) / 2, x = std::round(std::cos(middle)),
                 y = std::round(std::sin(middle));
    return std::abs(x * dot(off, frame.outwards) + y * dot(off, frame.upwards) -
                    body.coil.shape().reach(x, y));
}

double theta_on(const TubeBody& body, const TubeEdge& e, double t) {
    switch (e.kind) {
    case TubeEdge::ring:
        return e.at;
    case TubeEdge::rail:
        return t;
    case TubeEdge::cut:
        return ground_cut(body.coil, e.far, t);
    case TubeEdge::chord:
        break;
    }
    return e.far ? body.coil.line.end() : body.coil.line.begin();
}

} // namespace

void require_closed(const TubeBody& body) {
    std::vector<int> forward(body.edges.size()), backward(body.edges.size());
    for (std::size_t i = 0; i < body.faces.size(); ++i) {
        const TubeFace& f = body.faces[i];
        const std::string which = "tube: face " + std::to_string(i);
        for (std::size_t k = 0; k < f.loop.size(); ++k) {
            const EdgeUse &u = f.loop[k], &next = f.loop[(k + 1) % f.loop.size()];
            const TubeEdge &e = body.edges[index(u.edge)], &n = body.edges[index(next.edge)];
            ++(u.forward ? forward : backward)[index(u.edge)];
            if ((u.forward ? e.to : e.from) != (next.forward ? n.from : n.to))
                throw std::logic_error(which + " is not connected");
            const double first = e.kind == TubeEdge::chord ? 0 : e.begin,
                         last = e.kind == TubeEdge::chord ? 1 : e.end;
            for (int s = 0; s <= 4; ++s) {
                const double t = first + (last - first) * s / 4;
                const Point p = point_at(body, e, t);
                if (f.kind == TubeFace::wall && e.kind == TubeEdge::chord)
                    throw std::logic_error(which + " has a chord on the wire");
                if (off_surface(body, f, p, theta_on(body, e, t)) > 1e-7)
                    throw std::logic_error(which + " has an edge off its surface");
                const Point& c = body.corners[index(s == 0 ? e.from : e.to)];
                if ((s == 0 || s == 4) && std::hypot(c.x - p.x, c.y - p.y, c.z - p.z) > 1e-7)
                    throw std::logic_error(which + " has an edge off its corner");
            }
        }
    }
    for (std::size_t i = 0; i < body.edges.size(); ++i)
        if (forward[i] != 1 || backward[i] != 1)
            throw std::logic_error("tube: edge " + std::to_string(i) + " is used " +
                                   std::to_string(forward[i]) + " and " + std::to_string(backward[i]) +
                                   " times");
}

} // namespace whorl::solid
