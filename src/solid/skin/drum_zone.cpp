// The track of a drum cam: the drum's surface beside it, its walls, and its bottom (or a rib's top) between
// them. Every piece of a wall is a face; its two edges on the drum lead from node to node around the parts of
// the drum's surface that are left, of which the first and the last reach the rims. The bottom is cut across
// wherever both walls have a node, and about every crossing.
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"
#include "solid/skin/zone_skin.hpp"

#include "form/cam/track_walls.hpp"

#include <cmath>
#include <map>

namespace whorl::solid {
namespace {

using Loop = std::vector<EdgeUse>;

class DrumZone final : public ZoneSkin {
public:
    DrumZone(const ResolvedZone& zone, std::size_t index)
        : index_(static_cast<int>(index)), drum_(*zone.drum()), z0_(in_mm(zone.start)),
          z1_(in_mm(zone.end())) {
        if (drum_.trouble != DrumTrouble::none)
            throw CannotMake("This drum cam can't be made; the checks say why.", index);
        drum_.zero += z0_;
        walls_ = walls_of(drum_);
        for (const TrackPiece& p : walls_.pieces) {
            wall_.push_back(std::make_shared<const DrumWall>(p.wall));
            // all walls take as many rows, so that they share those of their joints
            bulge_ = std::max(bulge_, p.wall.bulge());
        }
        at_node_.resize(static_cast<std::size_t>(walls_.nodes), {-1, -1});
        for (std::size_t i = 0; i < wall_.size(); ++i)
            for (const int n : {walls_.pieces[i].begin, walls_.pieces[i].end}) {
                auto& list = at_node_[static_cast<std::size_t>(n)];
                (list[0] < 0 ? list[0] : list[1]) = static_cast<int>(i);
            }
        find_borders();
    }

    // The rims have corners where the nodes of the walls beside them stand.
    Rim near_rim() const override { return rim(near_); }
    Rim far_rim() const override { return rim(far_); }

    void add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const override {
        Made made = add_edges(skin);
        for (const std::vector<Step>& border : inner_) {
            Face f = band(drum_.radius, FaceRole::plain);
            f.loops = {loop_of(made, border)};
            skin.faces.push_back(std::move(f));
        }
        add_beside_rim(skin, made, near_, near, z0_);
        add_beside_rim(skin, made, far_, far, z1_);
        if (drum_.is_line()) return;
        for (std::size_t i = 0; i < wall_.size(); ++i)
            add_wall(skin, made, i);
        add_bottom(skin, made);
    }

private:
    // Corners of both levels, by node, and edges, by piece and by node.
    enum { drum_level, other_level };
    struct Made {
        std::vector<int> corner[2], along[2], across;
        std::map<std::pair<int, int>, int> rails; // on the other level, from one node to another
    };
    // A piece of a wall, run along or back, and how many turns it is moved in a border's chart.
    struct Step {
        int piece = 0;
        bool forward = true;
        int turn = 0;
    };

    double level(int l) const { return l == drum_level ? drum_.radius : drum_.other_radius; }
    const TrackPiece& piece(int i) const { return walls_.pieces[static_cast<std::size_t>(i)]; }
    UnrolledPoint end_of_wall(int i, bool at_end, double r) const {
        const DrumWall& w = *wall_[static_cast<std::size_t>(i)];
        const WallJet j = w.along(at_end ? w.to() : w.from(), r);
        return {j.theta.c[0], r, j.z.c[0]};
    }

    // The drum's surface lies beyond the far walls and before the near ones: a border of it runs along far
    // walls and back along near ones, from each to the other piece at its end.
    void find_borders() {
        std::vector<bool> done(wall_.size());
        for (std::size_t first = 0; first < wall_.size(); ++first) {
            if (done[first]) continue;
            std::vector<Step> border;
            double theta = 0, begin = 0;
            int i = static_cast<int>(first);
            do {
                done[static_cast<std::size_t>(i)] = true;
                Step s{i, piece(i).side == 1, 0};
                const double from = end_of_wall(i, !s.forward, drum_.radius).theta;
                if (border.empty())
                    begin = from;
                else
                    s.turn = static_cast<int>(std::lround((theta - from) / full_turn));
                theta = end_of_wall(i, s.forward, drum_.radius).theta + s.turn * full_turn;
                border.push_back(s);
                const int node = s.forward ? piece(i).end : piece(i).begin;
                const auto& both = at_node_[static_cast<std::size_t>(node)];
                i = both[0] == i ? both[1] : both[0];
            } while (i != static_cast<int>(first));
            const double wound = (theta - begin) / full_turn;
            if (std::abs(wound) < 0.5)
                inner_.push_back(std::move(border));
            else
                (wound > 0 ? far_ : near_) = std::move(border);
        }
        if (near_.empty() || far_.empty())
            throw CannotMake("The track of this drum cam leaves no way around it beside one of its ends.",
                             static_cast<std::size_t>(index_));
        // both in rising θ
        std::reverse(near_.begin(), near_.end());
    }

    // θ of the nodes where a border's pieces begin, in rising order.
    std::vector<double> angles(const std::vector<Step>& border) const {
        std::vector<double> out;
        out.reserve(border.size());
        for (const Step& s : border)
            out.push_back(end_of_wall(s.piece, false, drum_.radius).theta + s.turn * full_turn);
        return out;
    }
    Rim rim(const std::vector<Step>& border) const {
        std::vector<RimPoint> points;
        points.reserve(border.size());
        for (const double theta : angles(border))
            points.push_back({theta, drum_.radius});
        return sorted_rim(std::move(points));
    }

    Made add_edges(Skin& skin) const {
        Made made;
        const bool line = drum_.is_line();
        const auto nodes = static_cast<std::size_t>(walls_.nodes);
        const auto add = [&](Edge e) {
            skin.edges.push_back(std::move(e));
            return static_cast<int>(skin.edges.size()) - 1;
        };
        skin.corners.reserve(skin.corners.size() + 2 * nodes);
        for (int l = 0; l < (line ? 1 : 2); ++l) {
            made.corner[l].reserve(nodes);
            for (std::size_t n = 0; n < nodes; ++n) {
                const int i = at_node_[n][0];
                skin.corners.push_back(end_of_wall(i, piece(i).end == static_cast<int>(n), level(l)));
                made.corner[l].push_back(static_cast<int>(skin.corners.size()) - 1);
            }
        }
        if (line) join_nodes(skin, made);
        const std::size_t half = wall_.size() / 2;
        for (std::size_t i = 0; i < wall_.size(); ++i) {
            for (int l = 0; l < (line ? 1 : 2); ++l) {
                if (line && i >= half) { // a line is both walls at once
                    made.along[l].push_back(made.along[l][i - half]);
                    continue;
                }
                Edge e = traced(wall_[i], level(l), false);
                e.from = made.corner[l][static_cast<std::size_t>(walls_.pieces[i].begin)];
                e.to = made.corner[l][static_cast<std::size_t>(walls_.pieces[i].end)];
                e.tooth_from = wall_[i]->from();
                e.tooth_to = wall_[i]->to();
                finish(e);
                made.along[l].push_back(add(std::move(e)));
            }
        }
        if (line) return made;
        const int in = level(drum_level) < level(other_level) ? drum_level : other_level;
        for (std::size_t n = 0; n < nodes; ++n) { // from the smaller radius to the larger
            const auto i = static_cast<std::size_t>(at_node_[n][0]);
            const bool at_end = walls_.pieces[i].end == static_cast<int>(n);
            Edge e = traced(wall_[i], at_end ? wall_[i]->to() : wall_[i]->from(), true);
            e.from = made.corner[in][n];
            e.to = made.corner[1 - in][n];
            e.tooth_from = wall_[i]->inner();
            e.tooth_to = wall_[i]->outer();
            finish(e);
            made.across.push_back(add(std::move(e)));
        }
        return made;
    }

    // A line has one corner where the walls have two nodes, and where it crosses itself four.
    void join_nodes(Skin& skin, Made& made) const {
        auto& corner = made.corner[drum_level];
        const auto join = [&](int a, int b) {
            const int from = corner[static_cast<std::size_t>(b)], to = corner[static_cast<std::size_t>(a)];
            for (int& c : corner)
                if (c == from) c = to;
        };
        for (const TrackStation& s : walls_.stations) {
            join(s.in[0], s.in[1]);
            join(s.in[0], s.out[0]);
            join(s.in[0], s.out[1]);
        }
        // what is left of them, without gaps
        const auto first = skin.corners.size() - corner.size();
        std::vector<UnrolledPoint> kept;
        std::map<int, int> now;
        for (int& c : corner) {
            const auto [it, is_new] = now.try_emplace(c, static_cast<int>(first + kept.size()));
            if (is_new) kept.push_back(skin.corners[static_cast<std::size_t>(c)]);
            c = it->second;
        }
        skin.corners.resize(first);
        skin.corners.insert(skin.corners.end(), kept.begin(), kept.end());
    }

    static Loop loop_of(const Made& made, const std::vector<Step>& border) {
        Loop out;
        for (const Step& s : border)
            out.push_back({made.along[drum_level][static_cast<std::size_t>(s.piece)], s.forward, s.turn});
        return out;
    }

    // Bands between a rim and the border beside it, from node to node, with straight edges between them.
    void add_beside_rim(Skin& skin, const Made& made, const std::vector<Step>& border, const RimEdges& rim,
                        double z) const {
        const bool near = &border == &near_;
        const double r = drum_.radius;
        const std::size_t n = border.size();
        const std::vector<double> theta = angles(border);
        std::vector<int> rail;
        for (std::size_t j = 0; j < n; ++j) {
            const int node = piece(border[j].piece).begin;
            const UnrolledPoint at_rim{theta[j], r, z},
                p{theta[j], r, end_of_wall(border[j].piece, false, r).z};
            const int corner = made.corner[drum_level][static_cast<std::size_t>(node)];
            rail.push_back(near ? add_straight(skin, rim.corner_at(theta[j]), at_rim, corner, p)
                                : add_straight(skin, corner, p, rim.corner_at(theta[j]), at_rim));
        }
        for (std::size_t j = 0; j < n; ++j) {
            const std::size_t next = (j + 1) % n;
            const double to = next == 0 ? theta[0] + full_turn : theta[next];
            const Loop wall{
                {made.along[drum_level][static_cast<std::size_t>(border[j].piece)], true, border[j].turn}};
            const Loop edge = rim.path(theta[j], to);
            Loop loop = near ? edge : wall;
            loop.push_back({rail[next], true, next == 0 ? 1 : 0});
            for (const Loop& high = near ? wall : edge; const EdgeUse& u : reversed(high))
                loop.push_back(u);
            loop.push_back({rail[j], false, 0});
            Face f = band(r, FaceRole::plain);
            f.loops = {std::move(loop)};
            skin.faces.push_back(std::move(f));
        }
    }

    void add_wall(Skin& skin, const Made& made, std::size_t i) const {
        // its own normal looks to the near end, see DrumWall
        Face f;
        f.kind = FaceKind::wall;
        f.role = FaceRole::flank;
        f.zone = index_;
        f.wall = wall_[i];
        f.wall_bulge = bulge_;
        f.inward = (walls_.pieces[i].side == 0) != drum_.is_rib();
        const int in = level(drum_level) < level(other_level) ? drum_level : other_level;
        const auto across = [&](int node, bool at_end, bool forward) {
            const int e = made.across[static_cast<std::size_t>(node)];
            const double own = end_of_wall(static_cast<int>(i), at_end, level(drum_level)).theta,
                         there = level_theta(skin, e);
            return EdgeUse{e, forward, static_cast<int>(std::lround((own - there) / full_turn))};
        };
        Loop loop{{made.along[in][i], true, 0},
                  across(walls_.pieces[i].end, true, true),
                  {made.along[1 - in][i], false, 0},
                  across(walls_.pieces[i].begin, false, false)};
        f.loops = {f.inward ? reversed(std::move(loop)) : std::move(loop)};
        skin.faces.push_back(std::move(f));
    }
    // θ at which an edge across a wall stands on the drum.
    double level_theta(const Skin& skin, int across) const {
        const Edge& e = skin.edges[static_cast<std::size_t>(across)];
        return level(drum_level) < level(other_level) ? e.begin.theta : e.end.theta;
    }

    // Between the walls: from station to station, and about the crossings.
    void add_bottom(Skin& skin, Made& made) const {
        const std::size_t n = walls_.stations.size();
        for (std::size_t s = 0; s < n; ++s) {
            const TrackStation &from = walls_.stations[s], &to = walls_.stations[(s + 1) % n];
            Face f = band(level(other_level), FaceRole::root);
            Border border{skin, *this};
            for (const int i : between(0, from.out[0], to.in[0]))
                border.add({made.along[other_level][static_cast<std::size_t>(i)], true, 0});
            border.add(rail(skin, made, to.in[0], to.in[1]));
            std::vector<int> back = between(1, from.out[1], to.in[1]);
            std::reverse(back.begin(), back.end());
            for (const int i : back)
                border.add({made.along[other_level][static_cast<std::size_t>(i)], false, 0});
            border.add(rail(skin, made, from.out[1], from.out[0]));
            f.loops = {std::move(border.loop)};
            skin.faces.push_back(std::move(f));
        }
        for (const std::array<int, 4>& square : walls_.squares) {
            Face f = band(level(other_level), FaceRole::root);
            Border border{skin, *this};
            for (std::size_t k = 0; k < 4; ++k)
                border.add(rail(skin, made, square[k], square[(k + 1) % 4]));
            f.loops = {std::move(border.loop)};
            skin.faces.push_back(std::move(f));
        }
    }

    // A loop whose uses are moved by turns so that each begins where the one before ends.
    struct Border {
        const Skin& skin;
        const DrumZone& zone;
        Loop loop = {};
        void add(EdgeUse use) {
            if (!loop.empty())
                use.turn = static_cast<int>(
                    std::lround((end_of(skin, loop.back()).theta - start_of(skin, use).theta) / full_turn));
            loop.push_back(use);
        }
    };

    // The pieces of a side from one node to another.
    std::vector<int> between(int side, int from, int to) const {
        std::vector<int> out;
        for (int node = from; node != to || out.empty();) {
            const auto& both = at_node_[static_cast<std::size_t>(node)];
            const auto leaves = [&](int i) { return piece(i).side == side && piece(i).begin == node; };
            const int i = leaves(both[0]) ? both[0] : both[1];
            if (!leaves(i) || out.size() > wall_.size())
                throw std::logic_error("drum: a wall does not lead from station to station");
            out.push_back(i);
            node = piece(i).end;
        }
        return out;
    }

    // Straight in the developed bottom between two nodes, the same edge from either side.
    EdgeUse rail(Skin& skin, Made& made, int from, int to) const {
        const auto known = made.rails.find(std::minmax(from, to));
        if (known != made.rails.end()) {
            const Edge& e = skin.edges[static_cast<std::size_t>(known->second)];
            return {known->second, e.from == made.corner[other_level][static_cast<std::size_t>(from)], 0};
        }
        const int a = made.corner[other_level][static_cast<std::size_t>(from)],
                  b = made.corner[other_level][static_cast<std::size_t>(to)];
        const UnrolledPoint &p = skin.corners[static_cast<std::size_t>(a)],
                            &q = skin.corners[static_cast<std::size_t>(b)];
        const double to_theta = q.theta + full_turn * std::round((p.theta - q.theta) / full_turn);
        const int e = add_straight(skin, a, p.theta, b, to_theta);
        made.rails[std::minmax(from, to)] = e;
        return {e, true, 0};
    }

    Face band(double r, FaceRole role) const {
        Face f;
        f.kind = FaceKind::round;
        f.role = role;
        f.zone = index_;
        f.a = r;
        return f;
    }
    Edge traced(const std::shared_ptr<const DrumWall>& wall, double at, bool across) const {
        Edge e;
        e.shape = EdgeShape::traced;
        e.wall = wall;
        e.level = at;
        e.across = across;
        e.wall_bulge = bulge_;
        return e;
    }
    static void finish(Edge& e) {
        e.begin = point_at(e, e.tooth_from);
        e.end = point_at(e, e.tooth_to);
    }

    int index_;
    ResolvedDrum drum_;
    double z0_, z1_, bulge_ = 0;
    TrackWalls walls_;
    std::vector<std::shared_ptr<const DrumWall>> wall_;
    std::vector<std::array<int, 2>> at_node_; // the two pieces at each node
    std::vector<Step> near_, far_;            // borders around the axis, in rising θ
    std::vector<std::vector<Step>> inner_;    // those between crossings
};

} // namespace

std::unique_ptr<ZoneSkin> drum_zone_skin(const ResolvedZone& zone, std::size_t index) {
    return std::make_unique<DrumZone>(zone, index);
}

} // namespace whorl::solid
