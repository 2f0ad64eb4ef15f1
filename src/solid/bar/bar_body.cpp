#include "solid/bar/bar_body.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <stdexcept>

namespace whorl::solid {
namespace {

Point plus(const Point& a, const Point& b, double k = 1) {
    return {a.x + k * b.x, a.y + k * b.y, a.z + k * b.z};
}
double dot(const Point& a, const Point& b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}
Point cross(const Point& a, const Point& b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
double length(const Point& a) {
    return std::sqrt(dot(a, a));
}

std::size_t index(int i) {
    return static_cast<std::size_t>(i);
}

// φ at which a bowed edge is sampled, its ends included: the same places on every edge of one band.
std::vector<double> samples_of(const BarEdge& e, double chord) {
    const double radius = length(e.u);
    const double step = 2 * std::acos(std::max(0.0, 1 - chord / radius));
    const double grid = std::numbers::pi / std::max(4.0, std::ceil(std::numbers::pi / step));
    const double low = std::min(e.phi_from, e.phi_to), high = std::max(e.phi_from, e.phi_to);
    std::vector<double> out{low};
    for (double k = std::floor(low / grid) + 1; k * grid < high - 0.05 * grid; ++k)
        if (k * grid > low + 0.05 * grid) out.push_back(k * grid);
    out.push_back(high);
    if (e.phi_from > e.phi_to) std::reverse(out.begin(), out.end());
    return out;
}

class BarMesher {
public:
    BarMesher(const BarBody& body, double chord) : body_(body) {
        mesh_.points = body.corners;
        mesh_.edge_points.resize(body.edges.size());
        phi_.resize(body.edges.size());
        for (std::size_t i = 0; i < body.edges.size(); ++i) {
            const BarEdge& e = body.edges[i];
            auto& ids = mesh_.edge_points[i];
            ids.push_back(static_cast<std::uint32_t>(e.from));
            if (e.bowed) {
                const auto& at = phi_[i] = samples_of(e, chord);
                for (std::size_t k = 1; k + 1 < at.size(); ++k) {
                    ids.push_back(static_cast<std::uint32_t>(mesh_.points.size()));
                    mesh_.points.push_back(point_at(e, body, at[k]));
                }
            }
            ids.push_back(static_cast<std::uint32_t>(e.to));
        }
    }

    Mesh take() {
        for (std::size_t f = 0; f < body_.faces.size(); ++f) {
            face_ = static_cast<std::uint32_t>(f);
            const BarFace& face = body_.faces[f];
            if (face.round)
                ladder(face);
            else if (face.normal.x == 0)
                wall(face);
            else
                fan(face);
        }
        return std::move(mesh_);
    }

private:
    // The boundary's points in order, each once.
    std::vector<std::uint32_t> around(const BarFace& f) const {
        std::vector<std::uint32_t> out;
        for (const EdgeUse& u : f.loop) {
            auto ids = mesh_.edge_points[index(u.edge)];
            if (!u.forward) std::reverse(ids.begin(), ids.end());
            out.insert(out.end(), ids.begin(), ids.end() - 1);
        }
        return out;
    }
    void triangle(std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        mesh_.triangles.push_back({a, b, c});
        mesh_.face.push_back(face_);
    }

    // Convex, with no point on its sides but the corners.
    void fan(const BarFace& f) {
        const auto p = around(f);
        for (std::size_t i = 1; i + 1 < p.size(); ++i)
            triangle(p[0], p[i], p[i + 1]);
    }

    // Between the two sides of a round band, whose rulings run from one to the other: bowed edges that the
    // loop takes forwards make one side, those it takes backwards the other.
    void ladder(const BarFace& f) {
        struct Rung {
            std::uint32_t id;
            double phi;
        };
        std::vector<Rung> one, two;
        const auto put = [&](std::vector<Rung>& side, const EdgeUse& u) {
            const auto& ids = mesh_.edge_points[index(u.edge)];
            const auto& at = phi_[index(u.edge)];
            for (std::size_t k = side.empty() ? 0 : 1; k < ids.size(); ++k)
                side.push_back({ids[k], at[k]});
        };
        for (const EdgeUse& u : f.loop)
            if (u.forward && body_.edges[index(u.edge)].bowed) put(one, u);
        for (auto u = f.loop.rbegin(); u != f.loop.rend(); ++u)
            if (!u->forward && body_.edges[index(u->edge)].bowed) put(two, *u);
        if (one.empty() || two.empty()) throw std::logic_error("triangulate: a rounding without a side");
        const double sense = one.back().phi > one.front().phi ? 1 : -1;
        std::size_t a = 0, b = 0;
        while (a + 1 < one.size() || b + 1 < two.size()) {
            const bool up_one = b + 1 >= two.size() ||
                                (a + 1 < one.size() && sense * one[a + 1].phi <= sense * two[b + 1].phi);
            const std::uint32_t next = up_one ? one[a + 1].id : two[b + 1].id;
            if (one[a].id != two[b].id && next != one[a].id && next != two[b].id)
                triangle(one[a].id, next, two[b].id);
            ++(up_one ? a : b);
        }
    }

    // A wall stands on the straight edge of the back; its upper boundary runs along that without turning
    // back, so what is convex can be cut off as it comes (a monotone mountain).
    void wall(const BarFace& f) {
        auto p = around(f);
        // begins at the lower corner from which the upper boundary goes up
        std::size_t k = 0;
        const std::size_t n = p.size();
        const auto low = [&](std::size_t i) { return mesh_.points[p[i % n]].x <= body_.back; };
        while (!(low(k) && !low(k + 1)))
            ++k;
        std::rotate(p.begin(), p.begin() + static_cast<long>(k), p.end());
        std::vector<std::uint32_t> open{p[0]};
        const auto rising = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            const Point &u = mesh_.points[a], &v = mesh_.points[b], &w = mesh_.points[c];
            return dot(f.normal, cross(plus(v, u, -1), plus(w, u, -1)));
        };
        for (std::size_t i = 1; i < n; ++i) {
            while (open.size() >= 2 && rising(open[open.size() - 2], open.back(), p[i]) > 1e-12) {
                triangle(open[open.size() - 2], open.back(), p[i]);
                open.pop_back();
            }
            open.push_back(p[i]);
        }
        if (open.size() != 2) throw std::logic_error("triangulate: a rack's wall turns back");
    }

    const BarBody& body_;
    Mesh mesh_;
    std::vector<std::vector<double>> phi_; // of each bowed edge's points
    std::uint32_t face_ = 0;
};

} // namespace

Point point_at(const BarEdge& e, const BarBody& body, double phi) {
    if (phi == e.phi_from) return body.corners[index(e.from)];
    if (phi == e.phi_to) return body.corners[index(e.to)];
    return plus(plus(e.centre, e.u, std::cos(phi)), e.v, std::sin(phi));
}

double off_surface(const BarFace& f, const Point& p) {
    const Point d = plus(p, f.origin, -1);
    if (!f.round) return std::abs(dot(d, f.normal));
    return std::abs(length(plus(d, f.normal, -dot(d, f.normal))) - f.radius);
}

Point normal_at(const BarFace& f, const Point& p) {
    if (!f.round) return f.normal;
    const Point d = plus(p, f.origin, -1), out = plus(d, f.normal, -dot(d, f.normal));
    const double k = (f.inward ? -1 : 1) / std::max(1e-300, length(out));
    return {out.x * k, out.y * k, out.z * k};
}

void require_closed(const BarBody& body) {
    constexpr double tolerance = 1e-7; // mm
    std::vector<int> forward(body.edges.size(), 0), backward(body.edges.size(), 0);
    for (std::size_t f = 0; f < body.faces.size(); ++f) {
        const BarFace& face = body.faces[f];
        const auto wrong = [&](const std::string& what) {
            throw std::logic_error("rack: face " + std::to_string(f) + " " + what);
        };
        for (std::size_t i = 0; i < face.loop.size(); ++i) {
            const EdgeUse &u = face.loop[i], &next = face.loop[(i + 1) % face.loop.size()];
            ++(u.forward ? forward : backward)[index(u.edge)];
            const BarEdge &e = body.edges[index(u.edge)], &g = body.edges[index(next.edge)];
            if ((u.forward ? e.to : e.from) != (next.forward ? g.from : g.to)) wrong("has an open loop");
            for (int k = 0; k <= 4; ++k) {
                const double part = k / 4.0;
                const Point &a = body.corners[index(e.from)], &b = body.corners[index(e.to)];
                const Point p = e.bowed ? point_at(e, body, e.phi_from + part * (e.phi_to - e.phi_from))
                                        : plus(a, plus(b, a, -1), part);
                if (off_surface(face, p) > tolerance) wrong("does not hold its edge");
            }
            if (e.bowed &&
                length(plus(plus(plus(e.centre, e.u, std::cos(e.phi_from)), e.v, std::sin(e.phi_from)),
                            body.corners[index(e.from)], -1)) > tolerance)
                wrong("has an arc that misses its corner");
        }
    }
    for (std::size_t e = 0; e < body.edges.size(); ++e)
        if (forward[e] != 1 || backward[e] != 1)
            throw std::logic_error("rack: edge " + std::to_string(e) + " is not shared by two faces");
}

Mesh triangulate(const BarBody& body, double chord) {
    return BarMesher(body, chord).take();
}

} // namespace whorl::solid
