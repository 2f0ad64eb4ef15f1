#include "solid/mesh/tooth_mesh.hpp"

#include "quantity/numeric.hpp"
#include "solid/mesh/diagonals.hpp"
#include "solid/mesh/grid_mesh.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

double cross(const Point& a, const Point& b, const Point& c) {
    return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
}

// Ear clipping of a counter-clockwise polygon in a plane square to the axis. An ear is taken when no other
// corner lies in it; of the first few found the best shaped.
void clip(Mesh& mesh, std::uint32_t face, bool over, Ids polygon) {
    polygon.erase(std::unique(polygon.begin(), polygon.end()), polygon.end());
    while (polygon.size() > 1 && polygon.front() == polygon.back())
        polygon.pop_back();
    const auto at = [&](std::size_t i) -> const Point& { return mesh.points[polygon[i % polygon.size()]]; };
    // whether all corners but one lie on a line: taking that one away would leave triangles without area
    const auto leaves_nothing = [&](std::size_t without) {
        const std::size_t n = polygon.size();
        const std::size_t a = without == 0 ? 1 : 0, b = n - 1 == without ? n - 2 : n - 1;
        const Point &p = at(a), &q = at(b);
        const double reach = (p.x - q.x) * (p.x - q.x) + (p.y - q.y) * (p.y - q.y);
        for (std::size_t i = 0; i < n; ++i)
            if (i != without && i != a && i != b && std::abs(cross(p, q, at(i))) > 1e-7 * reach) return false;
        return true;
    };
    std::vector<Corners> clipped;
    std::size_t start = 0;
    while (polygon.size() > 3) {
        const std::size_t n = polygon.size();
        std::size_t ear = n, found = 0;
        double best = 0;
        for (std::size_t k = 0; k < n && found < 4; ++k) {
            const std::size_t i = (start + k) % n;
            const Point &a = at(i + n - 1), &b = at(i), &c = at(i + 1);
            const double area = cross(a, b, c);
            // three on a line come out as their coordinates' rounding
            const double side = std::hypot(c.x - a.x, c.y - a.y), size = std::abs(b.x) + std::abs(b.y);
            if (area <= 1e-14 + 1e-14 * size * side) continue;
            bool blocked = false;
            for (std::size_t j = 0; j < n && !blocked; ++j) {
                if (j == i || j == (i + 1) % n || j == (i + n - 1) % n) continue;
                const Point& p = at(j);
                blocked = cross(a, b, p) >= 0 && cross(b, c, p) >= 0 && cross(c, a, p) >= 0;
            }
            if (blocked || leaves_nothing(i)) continue;
            ++found;
            const auto square = [](const Point& p, const Point& q) {
                return (p.x - q.x) * (p.x - q.x) + (p.y - q.y) * (p.y - q.y);
            };
            const double quality = area / std::max({square(a, b), square(b, c), square(c, a)});
            if (quality > best) best = quality, ear = i;
            if (best > 0.25) break;
        }
        if (ear == n)
            throw std::logic_error("mesh: a toothed end has no ear on face " + std::to_string(face));
        clipped.push_back({polygon[(ear + n - 1) % n], polygon[ear], polygon[(ear + 1) % n]});
        polygon.erase(polygon.begin() + static_cast<long>(ear));
        start = ear; // go on beside it
    }
    if (polygon.size() == 3) clipped.push_back({polygon[0], polygon[1], polygon[2]});
    // a sector's; the whole end of a wheel with a few teeth is looked at as well
    constexpr std::size_t few = 400;
    if (clipped.size() <= few)
        turn_diagonals(
            clipped,
            [&](auto i, auto j, auto k) {
                const Point &a = mesh.points[i], &b = mesh.points[j], &c = mesh.points[k];
                const auto square = [](const Point& p, const Point& q) {
                    return (p.x - q.x) * (p.x - q.x) + (p.y - q.y) * (p.y - q.y);
                };
                return cross(a, b, c) / std::max({square(a, b), square(b, c), square(c, a)});
            },
            [](auto i, auto j) { return i == j; });
    for (const Corners& t : clipped)
        triangle(mesh, face, over, t[0], t[1], t[2]);
}

double angle_of(const Point& p) {
    return std::atan2(p.y, p.x);
}

// A loop's points in rising order, and where each of its edges begins among them.
struct LoopPoints {
    Ids ids; // closed: the first is not repeated
    std::vector<EdgeUse> uses;
    std::vector<std::size_t> begin;
    bool winds = false; // once around the axis
};
LoopPoints rising_points(const Skin& skin, const Mesh& mesh, const std::vector<EdgeUse>& loop) {
    LoopPoints out;
    out.uses = loop;
    // the loop rises if its arcs about the axis do
    double gain = 0;
    for (const EdgeUse& u : loop) {
        const Edge& e = skin.edges[static_cast<std::size_t>(u.edge)];
        gain += (e.end.theta - e.begin.theta) * (u.forward ? 1 : -1);
    }
    out.winds = std::abs(gain) > pi;
    if (gain < 0) {
        std::reverse(out.uses.begin(), out.uses.end());
        for (auto& u : out.uses)
            u.forward = !u.forward;
    }
    for (const EdgeUse& u : out.uses) {
        out.begin.push_back(out.ids.empty() ? 0 : out.ids.size() - 1);
        add_points(mesh, u, out.ids);
    }
    out.ids.pop_back();
    return out;
}

bool is_tooth(const Skin& skin, const EdgeUse& u) {
    return skin.edges[static_cast<std::size_t>(u.edge)].shape == EdgeShape::tooth;
}

} // namespace

bool has_teeth(const Skin& skin, const Face& f) {
    return std::any_of(f.loops.begin(), f.loops.end(), [&](const auto& loop) {
        return std::any_of(loop.begin(), loop.end(), [&](const EdgeUse& u) { return is_tooth(skin, u); });
    });
}

ToothMesher::ToothMesher(const Skin& skin, double step, double chord) : step_(step), chord_(chord) {
    for (const Face& f : skin.faces) {
        if (f.kind != FaceKind::toothed || f.tooth.curve->shape == CurveShape::circle ||
            f.tooth.curve->by_angle)
            continue;
        auto& s = samples_[f.tooth.curve.get()];
        if (!s.empty()) continue;
        s = samples(*f.tooth.curve, chord);
        for (std::size_t i = 0; i + 1 < s.size(); ++i) {
            const auto p = whorl::point_at(*f.tooth.curve, s[i]),
                       q = whorl::point_at(*f.tooth.curve, s[i + 1]);
            longest_ = std::max(longest_, std::hypot(p.x - q.x, p.y - q.y));
        }
    }
}

const std::vector<double>& ToothMesher::samples_of(const TransverseCurve& curve) const {
    return samples_.at(&curve);
}

int ToothMesher::rows_of(const Edge& rail) const {
    const double twist = std::abs(rail.end.theta - rail.begin.theta);
    const double finest = std::min(step_, longest_ > 0 ? 4 * chord_ / longest_ : step_);
    return std::clamp(static_cast<int>(std::ceil(twist / finest - 1e-9)), 1, 4000);
}

void ToothMesher::add_toothed(const Skin& skin, Mesh& mesh, std::size_t index) const {
    const Face& f = skin.faces[index];
    const auto face = static_cast<std::uint32_t>(index);
    // near edges, the rail at their end, far edges back, the rail at their begin; turned over in a bore
    std::vector<EdgeUse> loop = f.loops.front();
    if (f.inward) {
        std::reverse(loop.begin(), loop.end());
        for (auto& u : loop)
            u.forward = !u.forward;
    }
    // begin with the first near edge: the one after the rail that runs down
    std::size_t down = 0;
    for (std::size_t i = 0; i < loop.size(); ++i) {
        const Edge& e = skin.edges[static_cast<std::size_t>(loop[i].edge)];
        if (e.rail && (loop[i].forward ? e.end.z < e.begin.z : e.end.z > e.begin.z)) down = i;
    }
    std::rotate(loop.begin(), loop.begin() + static_cast<long>((down + 1) % loop.size()), loop.end());
    Ids near, far, left, right;
    for (const EdgeUse& u : loop) {
        const Edge& e = skin.edges[static_cast<std::size_t>(u.edge)];
        if (!e.rail)
            add_points(mesh, u, right.empty() ? near : far);
        else
            add_points(mesh, u, right.empty() ? right : left);
    }
    std::reverse(far.begin(), far.end());
    std::reverse(left.begin(), left.end());
    const TransverseCurve& c = *f.tooth.curve;
    const bool circle = c.shape == CurveShape::circle;
    // rows in between: the outline's samples, or for an arc about the axis as many parts as it has at its
    // near end
    std::vector<double> along;
    if (circle) {
        const double width = c.to - c.from;
        const int parts = std::max(1, static_cast<int>(std::ceil(width / step_ - 1e-9)));
        for (int i = 1; i < parts; ++i)
            along.push_back(static_cast<double>(i) / parts);
    } else if (!c.by_angle) { // a lobe is not twisted: no rows in between
        const auto& s = samples_of(c);
        for (std::size_t i = 1; i + 1 < s.size(); ++i)
            along.push_back((s[i] - c.from) / (c.to - c.from));
        if (f.tooth.mirrored) {
            std::reverse(along.begin(), along.end());
            for (double& a : along)
                a = 1 - a;
        }
    }
    // where a point lies along the outline, in rising order
    const auto chain = [&](Ids ids) {
        Chain out;
        if (!circle && !c.by_angle &&
            ids.size() == along.size() + 2) { // flanks carry the same samples at both ends
            out.at.push_back(0);
            out.at.insert(out.at.end(), along.begin(), along.end());
            out.at.push_back(1);
            out.ids = std::move(ids);
            return out;
        }
        for (std::size_t i = 0; i < ids.size(); ++i) {
            double at;
            if (circle) {
                const Point &p = mesh.points[ids[i]], &first = mesh.points[ids.front()];
                at = std::remainder(angle_of(p) - angle_of(first), full_turn);
                if (i > 0 && at < 0) at += full_turn;
            } else {
                const double t = parameter_at(f.tooth, mesh.unrolled[ids[i]]);
                at = (f.tooth.mirrored ? c.to - t : t - c.from) / (c.to - c.from);
            }
            out.at.push_back(at);
        }
        const double scale = circle ? std::max(1e-12, out.at.back()) : 1;
        for (double& a : out.at)
            a /= scale;
        out.ids = std::move(ids);
        return out;
    };
    Chain low = chain(near);
    const Chain high = chain(far);
    const std::size_t rows = right.size() - 1;
    const double z0 = mesh.points[near.front()].z, z1 = mesh.points[far.front()].z;
    for (std::size_t row = 1; row <= rows; ++row) {
        Chain next;
        if (row == rows) {
            next = high;
        } else {
            const double z = z0 + (z1 - z0) * static_cast<double>(row) / static_cast<double>(rows);
            next.ids.push_back(left[row]);
            next.at.push_back(0);
            for (const double a : along) {
                const double t = f.tooth.mirrored ? c.to - a * (c.to - c.from) : c.from + a * (c.to - c.from);
                const UnrolledPoint p = point_at(f.tooth, t, z);
                next.ids.push_back(static_cast<std::uint32_t>(mesh.points.size()));
                next.at.push_back(a);
                mesh.points.push_back({p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z});
                mesh.unrolled.push_back(p);
            }
            next.ids.push_back(right[row]);
            next.at.push_back(1);
        }
        zip(mesh, face, f.inward, low, next);
        low = std::move(next);
    }
}

namespace {
// The ring between a lobe's outline and the other boundary, or the axis: both go round one way all along and
// are sampled at the same angles (Join), so that strips from ray to ray can't fold.
void add_ring(Mesh& mesh, std::uint32_t face, const Face& f, const Ids& outline, const Ids& other,
              bool around) {
    if (other.empty()) {
        const auto centre = static_cast<std::uint32_t>(mesh.points.size());
        mesh.points.push_back({0, 0, f.a});
        mesh.unrolled.push_back({0, 0, f.a});
        for (std::size_t i = 0; i < outline.size(); ++i)
            triangle(mesh, face, !f.up, centre, outline[i], outline[(i + 1) % outline.size()]);
        return;
    }
    const double begin = angle_of(mesh.points[outline.front()]);
    const auto chain = [&](const Ids& ids) {
        Chain out;
        std::size_t first = 0; // the point nearest to where the outline begins
        double miss = 1e300;
        for (std::size_t i = 0; i < ids.size(); ++i)
            if (const double off = std::abs(std::remainder(angle_of(mesh.points[ids[i]]) - begin, full_turn));
                off < miss)
                miss = off, first = i;
        for (std::size_t i = 0; i <= ids.size(); ++i) {
            const std::uint32_t id = ids[(first + i) % ids.size()];
            const double turned = std::remainder(angle_of(mesh.points[id]) - begin, full_turn);
            out.ids.push_back(id);
            out.at.push_back(i == 0            ? 0
                             : i == ids.size() ? full_turn
                                               : turned + (turned < out.at.back() - pi ? full_turn : 0));
        }
        return out;
    };
    const Chain wide = chain(around ? outline : other), narrow = chain(around ? other : outline);
    zip(mesh, face, !f.up, wide, narrow);
}
} // namespace

void ToothMesher::add_flat(const Skin& skin, Mesh& mesh, std::size_t index) const {
    const Face& f = skin.faces[index];
    const auto face = static_cast<std::uint32_t>(index);
    std::vector<LoopPoints> loops;
    std::vector<bool> toothed;
    for (const auto& loop : f.loops) {
        loops.push_back(rising_points(skin, mesh, loop));
        toothed.push_back(
            std::any_of(loop.begin(), loop.end(), [&](const EdgeUse& u) { return is_tooth(skin, u); }));
    }
    const std::size_t teeth = toothed[0] ? 0 : 1;
    const LoopPoints& outline = loops[teeth];
    const auto flanks = static_cast<std::size_t>(std::count_if(
        outline.uses.begin(), outline.uses.end(), [&](const EdgeUse& u) { return is_tooth(skin, u); }));
    const auto radius = [&](std::uint32_t id) { return mesh.unrolled[id].r; };
    // places where the face is cut into sectors: the arcs about the axis that look at the other boundary
    const auto reach = [&](const Ids& ids) {
        double r = 0;
        for (const auto id : ids)
            r = std::max(r, radius(id));
        return r;
    };
    // which of the two encloses the other; in a bore the order of loops says nothing
    const bool around = loops.size() == 1 || reach(outline.ids) > reach(loops[1 - teeth].ids);
    double edge = around ? 1e300 : 0;
    std::vector<std::size_t> cuts;
    const bool lobe = std::any_of(outline.uses.begin(), outline.uses.end(), [&](const EdgeUse& u) {
        return is_tooth(skin, u) && skin.edges[static_cast<std::size_t>(u.edge)].tooth.curve->by_angle;
    });
    if (lobe && outline.winds)
        return add_ring(mesh, face, f, outline.ids, loops.size() == 2 ? loops[1 - teeth].ids : Ids{}, around);
    for (const bool collect : {false, true})
        for (std::size_t i = 0; i < outline.uses.size(); ++i) {
            if (is_tooth(skin, outline.uses[i])) continue;
            const double r = radius(outline.ids[outline.begin[i]]);
            if (collect && std::abs(r - edge) < 1e-9) {
                // one for each arc, also where it is in pieces
                const std::size_t before = (i + outline.uses.size() - 1) % outline.uses.size();
                if (is_tooth(skin, outline.uses[before])) cuts.push_back(outline.begin[i]);
            } else if (!collect) {
                edge = around ? std::min(edge, r) : std::max(edge, r);
            }
        }
    // the end of one tooth or the shoulder over one space, or what a neighbour leaves of a lobe
    if (lobe || (loops.size() == 1 && flanks < 10)) {
        Ids polygon = outline.ids;
        double area = 0;
        for (std::size_t i = 0; i < polygon.size(); ++i) {
            const Point &a = mesh.points[polygon[i]], &b = mesh.points[polygon[(i + 1) % polygon.size()]];
            area += a.x * b.y - a.y * b.x;
        }
        if (area < 0) std::reverse(polygon.begin(), polygon.end());
        clip(mesh, face, !f.up, std::move(polygon));
        return;
    }
    // the other boundary, or the point on the axis
    Ids other;
    if (loops.size() == 2) {
        other = loops[1 - teeth].ids;
    } else {
        other.push_back(static_cast<std::uint32_t>(mesh.points.size()));
        mesh.points.push_back({0, 0, f.a});
        mesh.unrolled.push_back({0, 0, f.a});
    }
    const auto nearest = [&](std::uint32_t id) {
        std::size_t best = 0;
        double miss = 1e300;
        const double a = angle_of(mesh.points[id]);
        for (std::size_t i = 0; i < other.size(); ++i)
            if (const double off = std::abs(std::remainder(angle_of(mesh.points[other[i]]) - a, full_turn));
                off < miss)
                miss = off, best = i;
        return best;
    };
    std::vector<std::size_t> partner;
    partner.reserve(cuts.size());
    for (const std::size_t c : cuts)
        partner.push_back(other.size() == 1 ? 0 : nearest(outline.ids[c]));
    for (std::size_t k = 0; k < cuts.size(); ++k) {
        const std::size_t next = (k + 1) % cuts.size(), n = outline.ids.size(), m = other.size();
        Ids sector, rest;
        for (std::size_t i = cuts[k];; i = (i + 1) % n) {
            sector.push_back(outline.ids[i]);
            if (i == cuts[next] && sector.size() > 1) break;
        }
        for (std::size_t i = partner[k];; i = (i + 1) % m) {
            rest.push_back(other[i]);
            if (i == partner[next]) break;
        }
        if (around) {
            std::reverse(rest.begin(), rest.end());
            sector.insert(sector.end(), rest.begin(), rest.end());
            clip(mesh, face, !f.up, std::move(sector));
        } else {
            std::reverse(sector.begin(), sector.end());
            rest.insert(rest.end(), sector.begin(), sector.end());
            clip(mesh, face, !f.up, std::move(rest));
        }
    }
}

int wall_rows(double bulge, double chord) {
    return std::clamp(static_cast<int>(std::ceil(std::sqrt(bulge / chord))), 1, 32);
}

void add_wall(const Skin& skin, Mesh& mesh, std::size_t index, double chord) {
    const Face& f = skin.faces[index];
    // along the smaller radius, outwards at the end, back along the larger, inwards at the begin; along may be
    // in parts
    const std::vector<EdgeUse> loop = f.inward ? reversed(f.loops.front()) : f.loops.front();
    const auto edge = [&](std::size_t i) -> const Edge& {
        return skin.edges[static_cast<std::size_t>(loop[i % loop.size()].edge)];
    };
    std::size_t first = 0;
    for (std::size_t i = 0; i < loop.size(); ++i)
        if (edge(i).across && !edge(i + 1).across && loop[(i + 1) % loop.size()].forward) first = i + 1;
    Ids side[4];
    std::size_t at_side = 0;
    for (std::size_t k = first; k < first + loop.size(); ++k) {
        if (k > first && edge(k).across != edge(k - 1).across) ++at_side;
        add_points(mesh, loop[k % loop.size()], side[at_side]);
    }
    for (const std::size_t k : {2, 3})
        std::reverse(side[k].begin(), side[k].end());
    const double span = f.wall->to() - f.wall->from();
    const auto at = [&](std::uint32_t id) {
        const UnrolledPoint& p = mesh.unrolled[id];
        // counted in the wall's own turn
        const double middle = f.wall->point((f.wall->from() + f.wall->to()) / 2, p.r).theta.c[0];
        const double theta = middle + std::remainder(p.theta - middle, full_turn);
        return (f.wall->parameter(theta, p.r) - f.wall->from()) / span;
    };
    const auto chain = [&](const Ids& ids) {
        Chain out{ids, {}};
        for (std::size_t i = 0; i < ids.size(); ++i)
            out.at.push_back(i == 0 ? 0 : i + 1 == ids.size() ? 1 : at(ids[i]));
        return out;
    };
    const auto face = static_cast<std::uint32_t>(index);
    const int rows = wall_rows(f.wall_bulge, chord);
    Chain low = chain(side[0]);
    const Chain high = chain(side[2]);
    const std::vector<double> along = low.at;
    for (int row = 1; row <= rows; ++row) {
        Chain next;
        if (row == rows) {
            next = high;
        } else {
            const double r = f.wall->inner() + (f.wall->outer() - f.wall->inner()) * row / rows;
            for (std::size_t i = 0; i < along.size(); ++i) {
                next.at.push_back(along[i]);
                if (i == 0 || i + 1 == along.size()) {
                    next.ids.push_back(side[i == 0 ? 3 : 1][static_cast<std::size_t>(row)]);
                    continue;
                }
                const WallSlopes w = f.wall->point(f.wall->from() + along[i] * span, r);
                const UnrolledPoint p{w.theta.c[0], r, w.z.c[0]};
                next.ids.push_back(static_cast<std::uint32_t>(mesh.points.size()));
                mesh.points.push_back({p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z});
                mesh.unrolled.push_back(p);
            }
        }
        zip(mesh, face, f.inward, low, next);
        low = std::move(next);
    }
}

int bend_rows(const Skin& skin, const Edge& e, double chord) {
    const double radius = skin.way.parts()[static_cast<std::size_t>(e.bend)].radius;
    double thickest =
        0; // rows are shared by all faces of the bend, so that they need no more rows than edges
    for (const UnrolledPoint& c : skin.corners)
        thickest = std::max(thickest, c.r);
    const double reach = radius + std::min(thickest, radius), angle = std::abs(e.end.z - e.begin.z) / radius;
    const double step = 2 * std::acos(std::clamp(1 - chord / reach, -1.0, 1.0));
    return std::clamp(static_cast<int>(std::ceil(angle / step)), 1, 2000);
}

void add_bent(const Skin& skin, Mesh& mesh, std::size_t index) {
    const Face& f = skin.faces[index];
    const auto face = static_cast<std::uint32_t>(index);
    const auto side = four_sides(skin, mesh, f, [&](const Edge& e) { return e.bend >= 0; });
    const double begin = mesh.unrolled[side[0].front()].theta, z0 = mesh.unrolled[side[0].front()].z,
                 z1 = mesh.unrolled[side[2].front()].z;
    const auto chain = [&](const Ids& ids) { // places by θ, counted on from the first
        Chain out{ids, {}};
        for (const std::uint32_t id : ids) {
            const double turned = std::remainder(mesh.unrolled[id].theta - begin, full_turn);
            out.at.push_back(turned < -1e-9 ? turned + full_turn : turned);
        }
        return out;
    };
    Chain low = chain(side[0]);
    const Chain high = chain(side[2]);
    const std::vector<double> angles = low.at;
    const std::size_t rows = side[1].size() - 1;
    for (std::size_t row = 1; row <= rows; ++row) {
        Chain next;
        if (row == rows) {
            next = high;
        } else {
            const double z = z0 + (z1 - z0) * static_cast<double>(row) / static_cast<double>(rows);
            for (std::size_t i = 0; i < angles.size(); ++i) {
                next.at.push_back(angles[i]);
                if (i == 0 || i + 1 == angles.size()) {
                    next.ids.push_back(side[i == 0 ? 3 : 1][row]);
                    continue;
                }
                const UnrolledPoint p{begin + angles[i], f.a, z};
                next.ids.push_back(static_cast<std::uint32_t>(mesh.points.size()));
                mesh.points.push_back({p.r * std::cos(p.theta), p.r * std::sin(p.theta), p.z});
                mesh.unrolled.push_back(p);
            }
        }
        zip(mesh, face, f.inward, low, next);
        low = std::move(next);
    }
}

} // namespace whorl::solid
