// A knurled zone: in (θ, r, z) a polyhedron, of facets between grooves and ridges and, where an end is
// chamfered, of what is left under its cone.
//
// The pattern is laid out as convex polygons in the chart (θ, z), each with the plane r = a + b·z + c·θ it
// lies on; they are cut by the end planes, and by each cone into what stays below it and what the cone
// replaces. Neighbours are cut by the same lines in the same places, so that their corners coincide and are
// found by place.
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/skin/zone_skin.hpp"

#include "quantity/expression.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace whorl::solid {
namespace {

// What comes nearer than this to a cutting line lies on it.
constexpr double on_line = 1e-9; // mm
// A groove or ridge that ends nearer than this to an end plane, but not in it, would leave edges too short to
// check.
constexpr double too_near = 2e-4; // mm

// r = a + b·z + c·θ.
struct Plane {
    double a = 0, b = 0, c = 0;
    double at(double theta, double z) const { return a + b * z + c * theta; }
};
struct ChartPoint {
    double theta = 0, z = 0;
};
struct Patch {
    Plane plane;
    FaceRole role = FaceRole::flank;
    std::vector<ChartPoint> points; // counter-clockwise
};

// What lies on the side where `off` is not positive, a linear function of the chart.
template<class Off>
std::vector<ChartPoint> kept(const std::vector<ChartPoint>& polygon, Off off) {
    std::vector<ChartPoint> out;
    const std::size_t n = polygon.size();
    for (std::size_t i = 0; i < n; ++i) {
        const ChartPoint &p = polygon[i], &q = polygon[(i + 1) % n];
        const double a = off(p), b = off(q);
        if (a <= on_line) out.push_back(p);
        if ((a < -on_line && b > on_line) || (a > on_line && b < -on_line)) {
            const double t = a / (a - b);
            out.push_back({p.theta + t * (q.theta - p.theta), p.z + t * (q.z - p.z)});
        }
    }
    // nothing but a line or a point has no area
    const bool area =
        std::any_of(out.begin(), out.end(), [&](const ChartPoint& p) { return off(p) < -on_line; });
    return out.size() >= 3 && area ? out : std::vector<ChartPoint>();
}

struct Cone {
    double r = 0, slope = 0; // height at the end plane and gain per mm of z
    bool cut = false;
};

class KnurlZone final : public ZoneSkin {
public:
    KnurlZone(const ResolvedZone& zone, std::size_t index)
        : index_(static_cast<int>(index)), knurl_(*zone.knurl()), z0_(in_mm(zone.start)),
          z1_(in_mm(zone.end())), middle_((z0_ + z1_) / 2) {
        const auto cone = [&](const ResolvedEnd& e, double away) {
            Cone c;
            c.cut = e.kind == EndKind::chamfer && in_mm(e.diameter) / 2 < knurl_.radius - 1e-4;
            c.r = in_mm(e.diameter) / 2;
            c.slope = away * std::tan(in_rad(e.angle));
            return c;
        };
        near_ = cone(zone.near_end, 1);
        far_ = cone(zone.far_end, -1);
        double need = 0;
        for (const Cone& c : {near_, far_})
            if (c.cut) need += (knurl_.radius - c.r) / std::abs(c.slope);
        if (need > z1_ - z0_ - 1e-6)
            throw CannotMake("The chamfers of this zone need " + number_text(need, 3) +
                                 " mm but the zone is only " + number_text(z1_ - z0_, 3) +
                                 " mm long; make it longer or the chamfers smaller.",
                             index);
        settle();
        lay_out();
    }

    Rim near_rim() const override { return rim(z0_); }
    Rim far_rim() const override { return rim(z1_); }

    void add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const override {
        Corners corners(skin, *this, near, far);
        std::map<std::pair<int, int>, int> edges; // by the lower corner first
        for (const Patch& patch : patches_) {
            Face f;
            f.role = patch.role;
            f.zone = index_;
            f.a = patch.plane.a;
            f.b = patch.plane.b;
            f.c = patch.plane.c;
            std::vector<EdgeUse> loop;
            const std::size_t n = patch.points.size();
            for (std::size_t i = 0; i < n; ++i) {
                const ChartPoint &p = patch.points[i], &q = patch.points[(i + 1) % n];
                if (const RimEdges* rim = p.z == z0_ && q.z == z0_   ? &near
                                          : p.z == z1_ && q.z == z1_ ? &far
                                                                     : nullptr) {
                    const auto path = rim->path(p.theta, q.theta);
                    loop.insert(loop.end(), path.begin(), path.end());
                    continue;
                }
                const UnrolledPoint from{p.theta, patch.plane.at(p.theta, p.z), p.z},
                    to{q.theta, patch.plane.at(q.theta, q.z), q.z};
                const int a = corners.at(from), b = corners.at(to);
                const auto [known, is_new] = edges.try_emplace(std::minmax(a, b), 0);
                if (is_new) known->second = add_straight(skin, a, from, b, to);
                const Edge& e = skin.edges[static_cast<std::size_t>(known->second)];
                const bool forward = e.from == a;
                const double begins = forward ? e.begin.theta : e.end.theta;
                loop.push_back(
                    {known->second, forward, static_cast<int>(std::lround((p.theta - begins) / full_turn))});
            }
            f.loops = {std::move(loop)};
            skin.faces.push_back(std::move(f));
        }
    }

private:
    // Corners by their place; those of the rims are the rims'.
    class Corners {
    public:
        Corners(Skin& skin, const KnurlZone& zone, const RimEdges& near, const RimEdges& far)
            : skin_(skin), zone_(zone), near_(near), far_(far) {}
        int at(const UnrolledPoint& p) {
            if (p.z == zone_.z0_) return near_.corner_at(p.theta);
            if (p.z == zone_.z1_) return far_.corner_at(p.theta);
            const double theta = wrapped(p.theta);
            // one that is the same lies in a cell this one nearly lies in; across θ = 0, a turn on
            for (long row = cell(p.z - same); row <= cell(p.z + same); ++row)
                for (const double turn : {0.0, full_turn, -full_turn}) {
                    if ((turn > 0 && theta > same) || (turn < 0 && theta < full_turn - same)) continue;
                    for (long column = cell(theta + turn - same); column <= cell(theta + turn + same);
                         ++column)
                        if (const auto found = by_cell_.find({row, column}); found != by_cell_.end()) {
                            const UnrolledPoint& q = skin_.corners[static_cast<std::size_t>(found->second)];
                            if (std::abs(q.z - p.z) < same &&
                                std::abs(std::remainder(q.theta - p.theta, full_turn)) < same)
                                return found->second;
                        }
                }
            skin_.corners.push_back(p);
            return by_cell_[{cell(p.z), cell(theta)}] = static_cast<int>(skin_.corners.size()) - 1;
        }

    private:
        static constexpr double same = 2e-8, grid = 1e-6;
        static long cell(double v) { return std::lround(v / grid); }
        Skin& skin_;
        const KnurlZone& zone_;
        const RimEdges &near_, &far_;
        std::map<std::pair<long, long>, int> by_cell_;
    };

    double cone_at(const Cone& c, double z) const { return c.r + c.slope * (z - (c.slope > 0 ? z0_ : z1_)); }

    // Moves the pattern along the axis where a groove or a ridge would end a hair beside an end plane or
    // where a cone meets it.
    void settle() {
        const bool rings = knurl_.ring_pitch > 0, crossed = knurl_.spec.kind == KnurlKind::crossed;
        if (!rings && !crossed) return;
        // half steps of the pattern along z: ridges and grooves, or the rows of crossings
        const double step = rings ? knurl_.ring_pitch / 2 : pi / knurl_.teeth / knurl_.twist / 2;
        struct Height {
            double z;
            bool
                beside; // on it exactly is as bad as a hair beside it: a cone that would lie in rings' flanks
        };
        std::vector<Height> heights{{z0_, false}, {z1_, false}};
        for (const Cone& c : {near_, far_})
            if (c.cut)
                for (const double r : {knurl_.radius, knurl_.root()})
                    heights.push_back({(c.slope > 0 ? z0_ : z1_) + (r - c.r) / c.slope,
                                       rings && std::abs(std::abs(c.slope) - knurl_.depth / step) < 1e-6});
        const auto nearest = [&](double shift) {
            double least = 1e300;
            for (const Height& h : heights)
                if (const double off = std::abs(std::remainder(h.z - middle_ - shift, step));
                    h.beside || off > 1e-9)
                    least = std::min(least, off);
            return least;
        };
        for (int k = 0; k < 40; ++k)
            if (nearest(k * step / 97) > std::min(too_near, step / 97 / 4)) {
                middle_ += k * step / 97;
                return;
            }
    }

    // r over the phase u of one direction, where u runs within [from, to] and nothing turns back between.
    Plane plane_over(double from, double to, double height_from, double height_to, double u_a, double u_z,
                     double u_theta) const {
        // u = u_a + u_z·z + u_theta·θ
        const double k = (height_to - height_from) / (to - from);
        return {height_from + k * (u_a - from), k * u_z, k * u_theta};
    }

    void lay_out() {
        switch (knurl_.spec.kind) {
        case KnurlKind::ring:
            lay_rings();
            break;
        case KnurlKind::axial:
        case KnurlKind::left:
        case KnurlKind::right:
            lay_strips();
            break;
        case KnurlKind::crossed:
        case KnurlKind::crossed_ring:
            lay_cells();
            break;
        }
    }

    // Ridges and grooves of one direction, in lengths that turn no more than a quarter.
    void lay_strips() {
        const double step = pi / knurl_.teeth, length = z1_ - z0_; // half a tooth
        const int rows = std::max(1, static_cast<int>(std::ceil(std::abs(knurl_.twist) * length / (pi / 2))));
        const double around = knurl_.teeth / full_turn;
        for (int i = 0; i < 2 * knurl_.teeth; ++i) {
            const double r0 = i % 2 == 0 ? knurl_.root() : knurl_.radius,
                         r1 = i % 2 == 0 ? knurl_.radius : knurl_.root();
            // u = (θ − τ·(z − middle))·n/2π runs from i/2 to (i + 1)/2
            const Plane plane = plane_over(i / 2.0, (i + 1) / 2.0, r0, r1, around * knurl_.twist * middle_,
                                           -around * knurl_.twist, around);
            for (int row = 0; row < rows; ++row) {
                const double low = row == 0 ? z0_ : z0_ + length * row / rows,
                             high = row + 1 == rows ? z1_ : z0_ + length * (row + 1) / rows;
                const auto at = [&](int line, double z) {
                    return ChartPoint{line * step + knurl_.twist * (z - middle_), z};
                };
                add(plane, {at(i, low), at(i + 1, low), at(i + 1, high), at(i, high)});
            }
        }
    }

    void lay_rings() {
        const double half = knurl_.ring_pitch / 2;
        for (int i = static_cast<int>(std::floor((z0_ - middle_) / half)) - 1; middle_ + i * half < z1_;
             ++i) {
            const double r0 = i % 2 == 0 ? knurl_.root() : knurl_.radius,
                         r1 = i % 2 == 0 ? knurl_.radius : knurl_.root();
            const double low = middle_ + i * half, high = low + half;
            const double b = (r1 - r0) / half;
            for (int q = 0; q < 4; ++q)
                add({r0 - b * low, b, 0}, {{q * pi / 2, low},
                                           {(q + 1) * pi / 2, low},
                                           {(q + 1) * pi / 2, high},
                                           {q * pi / 2, high}});
        }
    }

    // Pyramids: four triangles between the lines i, i + 1 of one direction and j, j + 1 of the other.
    void lay_cells() {
        const int n = knurl_.teeth;
        const double around = n / full_turn;
        const bool rings = knurl_.ring_pitch > 0;
        const double apex = knurl_.spec.sunk ? knurl_.root() : knurl_.radius,
                     side = knurl_.spec.sunk ? knurl_.radius : knurl_.root();
        // u1 = n·(θ − τ·ζ)/2π, u2 = n·(θ + τ·ζ)/2π or ζ/p, ζ = z − middle
        const double twist = rings ? 0 : knurl_.twist;
        const auto place = [&](double u1, double u2) {
            return rings ? ChartPoint{u1 / around, middle_ + u2 * knurl_.ring_pitch}
                         : ChartPoint{(u1 + u2) / 2 / around, middle_ + (u2 - u1) / (2 * around * twist)};
        };
        // rows of cells: j itself, or j − i
        const double per_row = rings ? knurl_.ring_pitch : 1 / (2 * around * twist);
        const int first = static_cast<int>(std::floor((z0_ - middle_) / per_row)) - 2,
                  last = static_cast<int>(std::ceil((z1_ - middle_) / per_row)) + 2;
        for (int row = first; row <= last; ++row)
            for (int i = 0; i < n; ++i) {
                const int j = rings ? row : i + row;
                const ChartPoint top = place(i + 0.5, j + 0.5), c00 = place(i, j), c10 = place(i + 1, j),
                                 c11 = place(i + 1, j + 1), c01 = place(i, j + 1);
                if (std::max({c00.z, c10.z, c11.z, c01.z}) <= z0_ ||
                    std::min({c00.z, c10.z, c11.z, c01.z}) >= z1_)
                    continue;
                const double u1_a = around * twist * middle_, u1_z = -around * twist,
                             u2_a = rings ? -middle_ / knurl_.ring_pitch : -around * twist * middle_,
                             u2_z = rings ? 1 / knurl_.ring_pitch : around * twist,
                             u2_theta = rings ? 0 : around;
                add(plane_over(j, j + 0.5, side, apex, u2_a, u2_z, u2_theta), {c00, c10, top});
                add(plane_over(i + 1, i + 0.5, side, apex, u1_a, u1_z, around), {c10, c11, top});
                add(plane_over(j + 1, j + 0.5, side, apex, u2_a, u2_z, u2_theta), {c11, c01, top});
                add(plane_over(i, i + 0.5, side, apex, u1_a, u1_z, around), {c01, c00, top});
            }
    }

    void add(const Plane& plane, std::vector<ChartPoint> points) {
        double area = 0;
        for (std::size_t i = 0; i < points.size(); ++i) {
            const ChartPoint &p = points[i], &q = points[(i + 1) % points.size()];
            area += p.theta * q.z - q.theta * p.z;
        }
        if (area < 0) std::reverse(points.begin(), points.end());
        points = kept(kept(points, [&](const ChartPoint& p) { return z0_ - p.z; }),
                      [&](const ChartPoint& p) { return p.z - z1_; });
        // what was cut at an end plane lies in it
        for (ChartPoint& p : points) {
            if (std::abs(p.z - z0_) <= 2 * on_line) p.z = z0_;
            if (std::abs(p.z - z1_) <= 2 * on_line) p.z = z1_;
        }
        const auto over = [&](const Cone& c) {
            return [&](const ChartPoint& p) { return plane.at(p.theta, p.z) - cone_at(c, p.z); };
        };
        for (const Cone& c : {near_, far_}) {
            if (!c.cut || points.empty()) continue;
            const auto above = over(c);
            std::vector<ChartPoint> cut = kept(points, [&](const ChartPoint& p) { return -above(p); });
            if (!cut.empty())
                patches_.push_back({{c.r - c.slope * (c.slope > 0 ? z0_ : z1_), c.slope, 0},
                                    FaceRole::chamfer,
                                    std::move(cut)});
            points = kept(points, above);
        }
        if (!points.empty()) patches_.push_back({plane, FaceRole::flank, std::move(points)});
    }

    Rim rim(double z) const {
        std::vector<RimPoint> points;
        for (const Patch& patch : patches_)
            for (std::size_t i = 0; i < patch.points.size(); ++i) {
                const ChartPoint &p = patch.points[i], &q = patch.points[(i + 1) % patch.points.size()];
                if (p.z == z && q.z == z)
                    for (const ChartPoint& end : {p, q})
                        points.push_back({end.theta, patch.plane.at(end.theta, z)});
            }
        return sorted_rim(std::move(points));
    }

    int index_;
    const ResolvedKnurl knurl_;
    double z0_, z1_, middle_; // middle: where the pattern is laid out from
    Cone near_, far_;
    std::vector<Patch> patches_;
};

} // namespace

std::unique_ptr<ZoneSkin> knurl_zone_skin(const ResolvedZone& zone, std::size_t index) {
    return std::make_unique<KnurlZone>(zone, index);
}

} // namespace whorl::solid
