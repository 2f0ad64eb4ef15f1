// The track of a drum cam: bands of the drum on either side of it, its walls, and its bottom (or a rib's top)
// between them. All of them are cut at the same joints of the motion, from rim to rim.
#include "solid/skin/build_skin.hpp"
#include "solid/skin/zone_skin.hpp"

#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

constexpr double full_turn = 2 * std::numbers::pi;
using Loop = std::vector<EdgeUse>;

class DrumZone final : public ZoneSkin {
public:
    DrumZone(const ResolvedZone& zone, std::size_t index)
        : index_(static_cast<int>(index)), drum_(*zone.drum()), z0_(in_mm(zone.start)),
          z1_(in_mm(zone.end())) {
        if (drum_.trouble != DrumTrouble::none)
            throw CannotMake("This drum cam can't be made; the checks say why.", index);
        drum_.zero += z0_;
        for (const WallStretch& s : wall_stretches(drum_)) // a line is both walls at once
            for (int side = 0; side < (drum_.is_line() ? 1 : 2); ++side)
                walls_[side].push_back(
                    std::make_shared<const DrumWall>(drum_, s.part, side == 0 ? -1 : 1, s.from, s.to));
        // all walls take as many rows, so that they share those of their joints
        for (const auto& list : walls_)
            for (const auto& w : list)
                bulge_ = std::max(bulge_, w->bulge());
    }

    // The rims have corners where the walls' joints stand.
    Rim near_rim() const override { return rim(0); }
    Rim far_rim() const override { return rim(drum_.is_line() ? 0 : 1); }

    void add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const override {
        if (drum_.is_line()) return add_line(skin, near, far);
        const std::size_t n = walls_[0].size();
        // corners and edges of both walls: level 0 on the drum, 1 on the other
        std::vector<int> corner[2][2], along[2][2], across[2];
        const double level[2]{drum_.radius, drum_.other_radius};
        for (int side = 0; side < 2; ++side)
            for (int l = 0; l < 2; ++l)
                for (std::size_t j = 0; j < n; ++j) {
                    skin.corners.push_back(place(side, j, level[l]));
                    corner[side][l].push_back(static_cast<int>(skin.corners.size()) - 1);
                }
        const auto add = [&](Edge e) {
            skin.edges.push_back(std::move(e));
            return static_cast<int>(skin.edges.size()) - 1;
        };
        for (int side = 0; side < 2; ++side)
            for (std::size_t j = 0; j < n; ++j) {
                const auto& wall = walls_[side][j];
                for (int l = 0; l < 2; ++l) {
                    Edge e = traced(wall, level[l], false);
                    e.from = corner[side][l][j];
                    e.to = corner[side][l][(j + 1) % n];
                    e.tooth_from = wall->from();
                    e.tooth_to = wall->to();
                    finish(e);
                    along[side][l].push_back(add(std::move(e)));
                }
                Edge e = traced(wall, wall->from(), true); // from the smaller radius to the larger
                const int in = level[0] < level[1] ? 0 : 1;
                e.from = corner[side][in][j];
                e.to = corner[side][1 - in][j];
                e.tooth_from = wall->inner();
                e.tooth_to = wall->outer();
                finish(e);
                across[side].push_back(add(std::move(e)));
            }
        // straight on the drum from either rim, and across the bottom
        std::vector<int> rail[3];
        for (std::size_t j = 0; j < n; ++j) {
            const UnrolledPoint low = place(0, j, level[0]), high = place(1, j, level[0]);
            rail[0].push_back(add_straight(skin, near.corner_at(low.theta), {low.theta, level[0], z0_},
                                           corner[0][0][j], low));
            rail[1].push_back(add_straight(skin, corner[0][1][j], place(0, j, level[1]), corner[1][1][j],
                                           place(1, j, level[1])));
            rail[2].push_back(add_straight(skin, corner[1][0][j], high, far.corner_at(high.theta),
                                           {high.theta, level[0], z1_}));
        }
        for (std::size_t j = 0; j < n; ++j) {
            const std::size_t next = (j + 1) % n;
            const int turn = next == 0 ? 1 : 0;
            const auto whole = [&](int side, int l) { return Loop{{along[side][l][j], true, 0}}; };
            const double from_low = place(0, j, level[0]).theta, from_high = place(1, j, level[0]).theta;
            const double to_low = next_theta(0, j), to_high = next_theta(1, j);
            const bool last = next == 0;
            add_band(skin, level[0], FaceRole::plain, near.path(from_low, to_low), rail[0][next], whole(0, 0),
                     rail[0][j], last);
            add_band(skin, level[1], FaceRole::root, whole(0, 1), rail[1][next], whole(1, 1), rail[1][j],
                     last);
            add_band(skin, level[0], FaceRole::plain, whole(1, 0), rail[2][next],
                     far.path(from_high, to_high), rail[2][j], last);
            for (int side = 0; side < 2; ++side) {
                // its own normal looks to the near end, see DrumWall
                Face f;
                f.kind = FaceKind::wall;
                f.role = FaceRole::flank;
                f.zone = index_;
                f.wall = walls_[side][j];
                f.wall_bulge = bulge_;
                f.inward = (side == 0) != drum_.is_rib();
                const int in = level[0] < level[1] ? 0 : 1;
                Loop loop{{along[side][in][j], true, 0},
                          {across[side][next], true, turn},
                          {along[side][1 - in][j], false, 0},
                          {across[side][j], false, 0}};
                f.loops = {f.inward ? reversed(std::move(loop)) : std::move(loop)};
                skin.faces.push_back(std::move(f));
            }
        }
    }

private:
    // The drum's surface in two bands that meet along the line.
    void add_line(Skin& skin, const RimEdges& near, const RimEdges& far) const {
        const std::size_t n = walls_[0].size();
        const double r = drum_.radius;
        std::vector<int> corner, along, below, above;
        for (std::size_t j = 0; j < n; ++j) {
            skin.corners.push_back(place(0, j, r));
            corner.push_back(static_cast<int>(skin.corners.size()) - 1);
        }
        for (std::size_t j = 0; j < n; ++j) {
            Edge e = traced(walls_[0][j], r, false);
            e.from = corner[j];
            e.to = corner[(j + 1) % n];
            e.tooth_from = walls_[0][j]->from();
            e.tooth_to = walls_[0][j]->to();
            finish(e);
            skin.edges.push_back(std::move(e));
            along.push_back(static_cast<int>(skin.edges.size()) - 1);
            const UnrolledPoint p = place(0, j, r);
            below.push_back(add_straight(skin, near.corner_at(p.theta), {p.theta, r, z0_}, corner[j], p));
            above.push_back(add_straight(skin, corner[j], p, far.corner_at(p.theta), {p.theta, r, z1_}));
        }
        for (std::size_t j = 0; j < n; ++j) {
            const std::size_t next = (j + 1) % n;
            const double from = place(0, j, r).theta, to = next_theta(0, j);
            const Loop line{{along[j], true, 0}};
            add_band(skin, r, FaceRole::plain, near.path(from, to), below[next], line, below[j], next == 0);
            add_band(skin, r, FaceRole::plain, line, above[next], far.path(from, to), above[j], next == 0);
        }
    }
    // A face of a cylinder between two boundaries in rising θ and the straight edges beside them.
    void add_band(Skin& skin, double r, FaceRole role, Loop low, int right, const Loop& high, int left,
                  bool last) const {
        Face f;
        f.kind = FaceKind::round;
        f.role = role;
        f.zone = index_;
        f.a = r;
        Loop loop = std::move(low);
        loop.push_back({right, true, last ? 1 : 0});
        for (auto it = high.rbegin(); it != high.rend(); ++it)
            loop.push_back({it->edge, !it->forward, it->turn});
        loop.push_back({left, false, 0});
        f.loops = {std::move(loop)};
        skin.faces.push_back(std::move(f));
    }

    Edge traced(const std::shared_ptr<const DrumWall>& wall, double level, bool across) const {
        Edge e;
        e.shape = EdgeShape::traced;
        e.wall = wall;
        e.level = level;
        e.across = across;
        e.wall_bulge = bulge_;
        return e;
    }
    static void finish(Edge& e) {
        e.begin = point_at(e, e.tooth_from);
        e.end = point_at(e, e.tooth_to);
    }
    // Where the wall's stretch j begins.
    UnrolledPoint place(int side, std::size_t j, double r) const {
        const DrumWall& w = *walls_[side][j];
        const WallJet at = w.along(w.from(), r);
        return {at.theta.c[0], r, at.z.c[0]};
    }
    double next_theta(int side, std::size_t j) const {
        return j + 1 < walls_[side].size() ? place(side, j + 1, drum_.radius).theta
                                           : place(side, 0, drum_.radius).theta + full_turn;
    }
    Rim rim(int side) const {
        std::vector<RimPoint> points;
        for (std::size_t j = 0; j < walls_[side].size(); ++j)
            points.push_back({place(side, j, drum_.radius).theta, drum_.radius});
        return sorted_rim(std::move(points));
    }

    int index_;
    ResolvedDrum drum_;
    double z0_, z1_, bulge_ = 0;
    std::vector<std::shared_ptr<const DrumWall>> walls_[2]; // near, far
};

} // namespace

std::unique_ptr<ZoneSkin> drum_zone_skin(const ResolvedZone& zone, std::size_t index) {
    return std::make_unique<DrumZone>(zone, index);
}

} // namespace whorl::solid
