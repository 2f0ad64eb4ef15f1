#include "solid/skin/cross_hole.hpp"

#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace whorl::solid {
namespace {

// A face's outer loop as a polygon of its (θ, z).
std::vector<std::array<double, 2>> polygon_of(const Skin& skin, const Face& f) {
    std::vector<std::array<double, 2>> out;
    for (const EdgeUse& use : f.loops.front()) {
        const Edge& e = skin.edges[static_cast<std::size_t>(use.edge)];
        const int parts = e.shape == EdgeShape::straight ? 1 : 32;
        for (int k = 0; k < parts; ++k) {
            const double x = static_cast<double>(use.forward ? k : parts - k) / parts;
            const UnrolledPoint p =
                point_at(e, first_parameter(e) + x * (last_parameter(e) - first_parameter(e)));
            out.push_back({p.theta + use.turn * full_turn, p.z});
        }
    }
    return out;
}

bool inside(const std::vector<std::array<double, 2>>& polygon, double theta, double z) {
    bool in = false;
    for (std::size_t i = 0, j = polygon.size() - 1; i < polygon.size(); j = i++) {
        const auto &p = polygon[i], &q = polygon[j];
        if ((p[1] > z) != (q[1] > z) && theta < p[0] + (z - p[1]) / (q[1] - p[1]) * (q[0] - p[0])) in = !in;
    }
    return in;
}

class Drill {
public:
    Drill(Skin& skin, const CrossHole& hole, std::size_t zone)
        : skin_(skin), hole_(std::make_shared<const CrossHole>(hole)), zone_(zone) {}

    void through(bool one_side) {
        const std::optional<Host> bore = host(true, false);
        if (!bore) {
            if (one_side)
                throw CannotMake(
                    "This cross hole goes in from one side, and there is no bore for it to end in; "
                    "let it go through, or make the piece hollow.",
                    zone_);
            const Opening high = open(outer(false), false), low = open(outer(true), true);
            return wall(high, low);
        }
        const Opening out = open(outer(false), false), in = open(*bore, false);
        wall(out, in);
        if (one_side) return;
        const std::optional<Host> behind = host(true, true);
        if (!behind)
            throw CannotMake("This cross hole meets the bore on one side only; turn it or move it.", zone_);
        const Opening back = open(*behind, true), last = open(outer(true), true);
        wall(back, last);
    }

private:
    // The face a mouth lies in, and how many turns its chart is away.
    struct Host {
        std::size_t face;
        int turn;
    };
    // Its edges in rising t, from 0 to half a turn and on to a whole one, and the corners at both these places.
    struct Opening {
        std::vector<int> upper, lower;
        int left, right; // corners at t = 0 and at half a turn
    };

    Host outer(bool behind) const {
        if (const auto found = host(false, behind)) return *found;
        throw CannotMake(
            "This cross hole would leave through something other than a plane, a cylinder or a cone, "
            "or through an edge; move it, or make it narrower.",
            zone_);
    }

    Mouth mouth_in(const Face& f, bool behind) const {
        Mouth m;
        m.hole = *hole_;
        m.plane = f.kind == FaceKind::side;
        m.a = f.a;
        m.b = f.b;
        m.side_theta = f.side_theta;
        m.behind = behind;
        return m;
    }

    std::optional<Host> host(bool in_bore, bool behind) const {
        const double looks = hole_->towards + (behind ? full_turn / 2 : 0);
        for (std::size_t i = 0; i < skin_.faces.size(); ++i) {
            const Face& f = skin_.faces[i];
            if ((f.bore > 0) != in_bore || (!in_bore && f.zone != static_cast<int>(zone_))) continue;
            if (f.kind == FaceKind::flat || f.kind == FaceKind::hole) continue;
            if (f.kind == FaceKind::side && std::cos(f.side_theta - looks) < 0.1) continue;
            const auto polygon = polygon_of(skin_, f);
            for (int turn = -2; turn <= 2; ++turn) {
                if (!inside(polygon, looks + turn * full_turn, hole_->z)) continue;
                const auto holds = [&] {
                    const Mouth m = mouth_in(f, behind);
                    for (int k = 0; k < 48; ++k) {
                        const UnrolledPoint p = point_at(m, full_turn * k / 48);
                        if (!inside(polygon, p.theta + turn * full_turn, p.z)) return false;
                    }
                    return true;
                };
                const bool plain = f.kind == FaceKind::side ||
                                   (f.kind == FaceKind::round && f.c == 0 && f.rail_slope == 0 && f.bend < 0);
                const bool narrow = f.kind == FaceKind::side || (f.a + f.b * hole_->z) > hole_->radius * 1.02;
                if (!plain || !narrow || !holds())
                    throw CannotMake(
                        std::string("This cross hole of Ø ") + number_text(2 * hole_->radius, 3) +
                            (!plain    ? " would run into a thread, a groove or another curved face"
                             : in_bore ? " is too wide for the bore it meets, or meets an end of it"
                                       : " reaches over an edge of its zone") +
                            "; move it, or make it narrower.",
                        zone_);
                return Host{i, turn};
            }
        }
        return {};
    }

    int corner(const UnrolledPoint& p) {
        skin_.corners.push_back(p);
        return static_cast<int>(skin_.corners.size()) - 1;
    }

    Opening open(const Host& at, bool behind) {
        const auto mouth = std::make_shared<const Mouth>(mouth_in(skin_.faces[at.face], behind));
        // split at the sides, and on a cone where it is widest around the axis: sin t = −b·ρ/r
        std::vector<double> places{0, full_turn / 2, full_turn};
        if (!mouth->plane && mouth->b != 0) {
            const double widest = std::asin(-mouth->b * hole_->radius / (mouth->a + mouth->b * hole_->z));
            for (const double t : {widest, full_turn / 2 - widest, widest + full_turn})
                if (t > 1e-6 && t < full_turn - 1e-6 && std::abs(t - full_turn / 2) > 1e-6)
                    places.push_back(t);
            std::sort(places.begin(), places.end());
        }
        Opening out{{}, {}, -1, -1};
        std::vector<EdgeUse> loop;
        int before = out.left = corner(point_at(*mouth, 0));
        for (std::size_t k = 0; k + 1 < places.size(); ++k) {
            const bool last = k + 2 == places.size();
            const int next = last ? out.left : corner(point_at(*mouth, places[k + 1]));
            if (std::abs(places[k + 1] - full_turn / 2) < 1e-9) out.right = next;
            Edge e;
            e.shape = EdgeShape::mouth;
            e.mouth = mouth;
            e.from = before;
            e.to = next;
            e.tooth_from = places[k];
            e.tooth_to = places[k + 1];
            e.begin = point_at(*mouth, places[k]);
            e.end = point_at(*mouth, places[k + 1]);
            const int made = static_cast<int>(skin_.edges.size());
            skin_.edges.push_back(std::move(e));
            (places[k] < full_turn / 2 - 1e-9 ? out.upper : out.lower).push_back(made);
            loop.push_back({made, true, at.turn});
            before = next;
        }
        // in rising t it runs counter-clockwise in (θ, z), behind and in a plane there clockwise; a hole is the other
        // way round than the loop it lies in
        Face& f = skin_.faces[at.face];
        if (behind == f.inward) loop = reversed(std::move(loop));
        f.loops.push_back(std::move(loop));
        return out;
    }

    // Between the opening at the greater u and the other.
    void wall(const Opening& high, const Opening& low) {
        const auto line = [&](int from, int to, double side) {
            const UnrolledPoint p = skin_.corners[static_cast<std::size_t>(from)],
                                q = skin_.corners[static_cast<std::size_t>(to)];
            Edge e;
            e.shape = EdgeShape::flat_trace;
            e.along_hole = true;
            e.trace = {hole_->radius, hole_->towards + side * full_turn / 4, hole_->z, 0};
            e.from = from;
            e.to = to;
            // within a quarter of a turn of the middle of its trace
            const auto beside = [&](UnrolledPoint x) {
                x.theta = e.trace.theta + std::remainder(x.theta - e.trace.theta, full_turn);
                return x;
            };
            e.begin = beside(p);
            e.end = beside(q);
            skin_.edges.push_back(e);
            return static_cast<int>(skin_.edges.size()) - 1;
        };
        const int left = line(high.left, low.left, 1), right = line(high.right, low.right, -1);
        const auto half = [&](const std::vector<int>& top, int down, const std::vector<int>& bottom, int up,
                              double from) {
            Face f;
            f.kind = FaceKind::hole;
            f.role = FaceRole::step;
            f.zone = static_cast<int>(zone_);
            f.inward = true;
            f.hole = hole_;
            f.arc_from = from;
            f.arc_to = from + full_turn / 2;
            std::vector<EdgeUse> loop;
            loop.reserve(top.size() + bottom.size() + 2);
            for (const int e : top)
                loop.push_back({e, true, 0});
            loop.push_back({down, true, 0});
            for (auto e = bottom.rbegin(); e != bottom.rend(); ++e)
                loop.push_back({*e, false, 0});
            loop.push_back({up, false, 0});
            f.loops = {std::move(loop)};
            skin_.faces.push_back(std::move(f));
        };
        half(high.upper, right, low.upper, left, 0);
        half(high.lower, left, low.lower, right, full_turn / 2);
    }

    Skin& skin_;
    std::shared_ptr<const CrossHole> hole_;
    std::size_t zone_;
};

} // namespace

std::vector<KeepClear> keep_clear_of(const ResolvedPiece& piece) {
    std::vector<KeepClear> out;
    for (const ResolvedZone& zone : piece.zones) {
        const ResolvedCrossHoles* holes = zone.cross();
        if (!holes) continue;
        double least = in_mm(zone.smallest_radius());
        for (const ResolvedZone& bore : piece.zones)
            if (bore.in_bore() && bore.start < zone.end() && zone.start < bore.end())
                least = std::min(least, in_mm(bore.smallest_radius()));
        out.push_back({holes->towards, std::asin(std::min(1.0, holes->radius / least)) + 0.02});
    }
    return out;
}

void drill_cross_holes(Skin& skin, const ResolvedPiece& piece) {
    for (std::size_t i = 0; i < piece.zones.size(); ++i)
        if (const ResolvedCrossHoles* holes = piece.zones[i].cross())
            for (const double z : holes->at)
                Drill(skin, {holes->radius, z, holes->towards}, i).through(holes->one_side);
}

} // namespace whorl::solid
