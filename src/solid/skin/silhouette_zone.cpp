// A silhouette's zone: rows of faces from height to height at which the wall changes its course, since receiving
// programs weigh a face of several spans wrong (by up to 9 %); turned about the axis where there are no flutes, and
// where flutes wind a face for each scallop and each ridge. No row of these turns by more than a sixth of a turn, no
// face of one is wider than that, and no turned one wider than half a turn.
#include "quantity/numeric.hpp"
#include "solid/skin/shaped_spline.hpp"
#include "solid/skin/zone_skin.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

// Seams stand off every plane through the axis that people like to cut in.
constexpr double seam = 0.3271, aside = 0.485;

class SilhouetteZone final : public ZoneSkin {
public:
    SilhouetteZone(const ResolvedZone& zone, std::size_t index)
        : index_(static_cast<int>(index)), sign_(zone.in_bore() ? -1 : 1), wall_(zone.silhouette()->wall) {
        const double z0 = in_mm(zone.start), z1 = in_mm(zone.end());
        heights_ = span_heights(wall_, z0, z1);
        if (const Flutes* f = wall_->flutes()) {
            const double from = std::max(f->from, z0), to = std::min(f->to, z1);
            const int rows =
                std::max(1, static_cast<int>(std::ceil(std::abs(f->twist) * (to - from) / (pi / 3))));
            for (int k = 0; k <= rows; ++k)
                heights_.push_back(k == rows ? to : from + (to - from) * k / rows);
            add_rails(*f);
        } else {
            rails_ = {seam, seam + pi};
        }
        std::sort(heights_.begin(), heights_.end());
        heights_.erase(
            std::unique(heights_.begin(), heights_.end(), [](double a, double b) { return b - a < 1e-9; }),
            heights_.end());
        heights_.front() = z0;
        heights_.back() = z1;
        rails_.push_back(rails_.front() + full_turn);
        seams_ = {0};
        for (std::size_t i = 1; i < rails_.size(); ++i)
            if (i + 1 == rails_.size() || rails_[i + 1] - rails_[seams_.back()] > pi + 1e-9)
                seams_.push_back(i);
    }

    Rim near_rim() const override { return rim(0); }
    Rim far_rim() const override { return rim(heights_.size() - 1); }

    void add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const override {
        std::vector<Level> levels(heights_.size());
        for (std::size_t k = 0; k < levels.size(); ++k)
            levels[k] = k == 0                   ? end_level(near, k)
                        : k + 1 == levels.size() ? end_level(far, k)
                                                 : inner_level(skin, k);
        for (std::size_t k = 0; k + 1 < levels.size(); ++k)
            add_row(skin, levels[k], levels[k + 1], k);
    }

private:
    using Loop = std::vector<EdgeUse>;

    // Where faces of flutes meet: at both sides of every scallop, and in those too wide or too deep for one face.
    void add_rails(const Flutes& f) {
        const double a = pi / f.count, contact = std::min(f.contact, a);
        std::vector<double> within{
            -contact}; // of one scallop and the ridge beyond it, from the scallop's middle
        add_parts(f, -contact, contact, within);
        if (contact < a) {
            within.push_back(contact);
            add_parts(f, contact, 2 * a - contact, within);
        }
        for (int i = 0; i < f.count; ++i)
            for (const double phi : within)
                rails_.push_back(f.start + 2 * a * i + phi);
    }
    // Not in halves, so that no border is the plane through a scallop's middle.
    void add_parts(const Flutes& f, double from, double to, std::vector<double>& out) const {
        const double widest = 62 * pi / 180;
        if (to - from < 0.02 || (to - from <= widest && across_error({wall_, f.start + from, f.start + to,
                                                                      f.from, f.to}) < across_tolerance))
            return;
        const double middle = from + aside * (to - from);
        add_parts(f, from, middle, out);
        out.push_back(middle);
        add_parts(f, middle, to, out);
    }
    // A circle or an outline: from rail to rail its edges in rising θ.
    struct Level {
        std::vector<int> corner;   // by rail; −1: none there
        std::vector<Loop> between; // to the next rail that has a corner
    };
    bool fluted_row(std::size_t row) const { return wall_->fluted((heights_[row] + heights_[row + 1]) / 2); }
    // Rails that have a corner at a height.
    std::vector<std::size_t> rails_at(std::size_t level) const {
        if ((level > 0 && fluted_row(level - 1)) || (level + 1 < heights_.size() && fluted_row(level))) {
            std::vector<std::size_t> all(rails_.size());
            for (std::size_t i = 0; i < all.size(); ++i)
                all[i] = i;
            return all;
        }
        return seams_;
    }
    double theta(std::size_t rail, std::size_t level) const {
        return rails_[rail] + wall_->turned(heights_[level]);
    }
    double radius(std::size_t level) const { return sign_ * wall_->outer()(heights_[level]); }

    Rim rim(std::size_t level) const {
        std::vector<RimPoint> points;
        for (const std::size_t i : rails_at(level))
            if (i + 1 < rails_.size()) points.push_back({theta(i, level), radius(level)});
        return sorted_rim(std::move(points));
    }

    Level end_level(const RimEdges& rim, std::size_t level) const {
        Level out = empty_level();
        const std::vector<std::size_t> at = rails_at(level);
        for (std::size_t k = 0; k + 1 < at.size(); ++k) {
            out.corner[at[k]] = rim.corner_at(theta(at[k], level));
            out.between[at[k]] = rim.path(theta(at[k], level), theta(at[k + 1], level));
        }
        out.corner.back() = out.corner.front();
        return out;
    }

    Level inner_level(Skin& skin, std::size_t level) const {
        Level out = empty_level();
        const std::vector<std::size_t> at = rails_at(level);
        const double z = heights_[level];
        const bool circle = !wall_->fluted(z);
        for (std::size_t k = 0; k + 1 < at.size(); ++k) {
            const double phi = rails_[at[k]];
            const ShapedPatch here{wall_, phi, rails_[at[k + 1]], z, z};
            out.corner[at[k]] = static_cast<int>(skin.corners.size());
            skin.corners.push_back(
                {theta(at[k], level), circle ? radius(level) : sign_ * here.radius(phi, z), z});
        }
        out.corner.back() = out.corner.front();
        for (std::size_t k = 0; k + 1 < at.size(); ++k) {
            const std::size_t i = at[k], j = at[k + 1];
            const int e = add_straight(skin, out.corner[i], theta(i, level), out.corner[j], theta(j, level));
            out.between[i] = {{e, true, 0}};
            if (circle) continue;
            Edge& edge = skin.edges.back();
            edge.shape = EdgeShape::shaped;
            edge.patch = std::make_shared<const ShapedPatch>(ShapedPatch{wall_, rails_[i], rails_[j], z, z});
            edge.across = true;
            edge.level = z;
            edge.tooth.sign = sign_;
            edge.tooth_from = rails_[i];
            edge.tooth_to = rails_[j];
        }
        return out;
    }
    Level empty_level() const {
        return {std::vector<int>(rails_.size(), -1), std::vector<Loop>(rails_.size())};
    }

    void add_row(Skin& skin, const Level& low, const Level& high, std::size_t row) const {
        std::vector<std::size_t> at = seams_;
        if (fluted_row(row)) {
            at.resize(rails_.size());
            for (std::size_t i = 0; i < at.size(); ++i)
                at[i] = i;
        }
        const double z0 = heights_[row], z1 = heights_[row + 1];
        std::vector<std::shared_ptr<const ShapedPatch>> patches;
        for (std::size_t k = 0; k + 1 < at.size(); ++k)
            patches.push_back(std::make_shared<const ShapedPatch>(
                ShapedPatch{wall_, rails_[at[k]], rails_[at[k + 1]], z0, z1}));
        std::vector<int> rails;
        for (std::size_t k = 0; k + 1 < at.size(); ++k) {
            const std::size_t i = at[k];
            const int e = add_straight(skin, low.corner[i], theta(i, row), high.corner[i], theta(i, row + 1));
            Edge& edge = skin.edges.back();
            edge.shape = EdgeShape::shaped;
            edge.patch = patches[k];
            edge.level = rails_[i];
            edge.tooth.sign = sign_;
            edge.tooth_from = z0;
            edge.tooth_to = z1;
            rails.push_back(e);
        }
        for (std::size_t k = 0; k + 1 < at.size(); ++k) {
            const bool last = k + 2 == at.size();
            Face f;
            f.kind = FaceKind::shaped;
            f.zone = index_;
            f.patch = patches[k];
            f.tooth.sign = sign_;
            const auto side = [&](const Level& level) {
                Loop out;
                for (std::size_t i = at[k]; i < at[k + 1]; ++i)
                    out.insert(out.end(), level.between[i].begin(), level.between[i].end());
                return out;
            };
            Loop loop = side(low);
            loop.push_back({rails[last ? 0 : k + 1], true, last ? 1 : 0});
            for (const EdgeUse& u : reversed(side(high)))
                loop.push_back(u);
            loop.push_back({rails[k], false, 0});
            f.loops = {std::move(loop)};
            skin.faces.push_back(std::move(f));
        }
    }

    int index_;
    double sign_;
    std::shared_ptr<const ShapedWall> wall_;
    std::vector<double> heights_;
    std::vector<double> rails_;      // φ, rising, the first again a turn later
    std::vector<std::size_t> seams_; // those at which turned faces meet
};

} // namespace

std::unique_ptr<ZoneSkin> silhouette_zone_skin(const ResolvedZone& zone, std::size_t index) {
    return std::make_unique<SilhouetteZone>(zone, index);
}

} // namespace whorl::solid
