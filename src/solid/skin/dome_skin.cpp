// An arc turned about the axis: a dome, part of a sphere between the circle it stands on and a small flat at
// its tip, or a rounded edge or a fillet, a part of a torus. In two halves, so that no face closes on itself.
#include "solid/skin/zone_skin.hpp"

#include <cmath>
#include <numbers>

namespace whorl::solid {
namespace {

using std::numbers::pi;

class DomeSkin final : public ZoneSkin {
public:
    DomeSkin(const Dome& dome, std::size_t index)
        : index_(static_cast<int>(index)), radius_(dome.radius), middle_(dome.middle) {
        const double off = dome.base_radius - dome.middle;
        // a quarter of a circle is one whole, whatever its last place says
        const double square = dome.radius * dome.radius - off * off,
                     to_base = square > 1e-12 * dome.radius * dome.radius ? std::sqrt(square) : 0;
        const bool near = dome.tip < dome.base;
        centre_ = near ? dome.base + to_base : dome.base - to_base;
        if (std::abs(dome.tip_radius - dome.middle) < 1e-12) // it touches the plane of its tip
            centre_ = dome.tip + (near ? dome.radius : -dome.radius);
        z0_ = std::min(dome.tip, dome.base);
        z1_ = std::max(dome.tip, dome.base);
        r0_ = near ? dome.tip_radius : dome.base_radius;
        r1_ = near ? dome.base_radius : dome.tip_radius;
        hollow_ = off < 0;
    }

    Rim near_rim() const override { return {{0, r0_}, {pi, r0_}}; }
    Rim far_rim() const override { return {{0, r1_}, {pi, r1_}}; }

    void add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const override {
        const double low = at(r0_, z0_), high = at(r1_, z1_);
        int seam[2];
        for (const int half : {0, 1}) {
            const double theta = half * pi;
            Edge e;
            e.from = near.corner_at(theta);
            e.to = far.corner_at(theta);
            e.begin = {theta, r0_, z0_};
            e.end = {theta, r1_, z1_};
            e.shape = EdgeShape::bow;
            e.bow = {{theta, middle_, centre_}, {0, 0, radius_}, {0, radius_, 0}, low, high};
            seam[half] = static_cast<int>(skin.edges.size());
            skin.edges.push_back(e);
        }
        for (const int half : {0, 1}) {
            Face f;
            f.kind = FaceKind::curved;
            f.role = FaceRole::chamfer;
            f.zone = index_;
            f.a = middle_;
            f.arc_z = centre_;
            f.arc_radius = radius_;
            f.arc_from = low;
            f.arc_to = high;
            std::vector<EdgeUse> loop = near.path(half * pi, (half + 1) * pi);
            loop.push_back({seam[1 - half], true, half});
            for (const EdgeUse& u : far.path((half + 1) * pi, half * pi))
                loop.push_back(u);
            loop.push_back({seam[half], false, 0});
            f.loops = {std::move(loop)};
            skin.faces.push_back(std::move(f));
        }
    }

private:
    // The arc's angle φ at a point, in (−π, 0) where it is hollow.
    double at(double r, double z) const {
        const double phi = std::atan2(std::abs(r - middle_), z - centre_);
        return hollow_ ? -phi : phi;
    }

    int index_;
    double radius_, middle_, centre_, z0_, z1_, r0_, r1_;
    bool hollow_;
};

} // namespace

std::unique_ptr<ZoneSkin> dome_skin(const Dome& dome, std::size_t index) {
    return std::make_unique<DomeSkin>(dome, index);
}

} // namespace whorl::solid
