// A rack's body: bands of its outline, cut off by the four sides of the bar.
//
// Seen from above, every line of the outline is a straight line across the face: where it crosses the bar's
// rectangle it begins and ends, and between two of them lies one band, plane or round. From the corner that
// the bands reach first, two chains of the rectangle's sides run to the corner they reach last, both in
// rising order of the bands; each line runs from one chain to the other.
#include "solid/bar/bar_body.hpp"

#include "quantity/numeric.hpp"

#include <algorithm>
#include <cmath>
#include <stdexcept>

namespace whorl::solid {
namespace {

constexpr double same_place = 2e-7;   // mm
constexpr double too_near_end = 1e-4; // mm

Point plus(const Point& a, const Point& b, double k = 1) {
    return {a.x + k * b.x, a.y + k * b.y, a.z + k * b.z};
}

// A band of the outline from one line to the next, along η, the normal to the teeth.
struct Band {
    double from = 0; // η where it begins
    FaceRole role = FaceRole::crest;
    bool round = false, mirrored = false;
    TransverseCurve curve; // round: an arc, whose y is η less `shift` (mirrored: minus that)
    double shift = 0;
    double height = 0, slope = 0; // plane: at η = from, and dx/dη
    // φ of an arc is the angle from the direction of rising height towards rising η
    double phi(double eta) const {
        const double y = mirrored ? shift - eta : eta - shift;
        const double s = std::clamp((y - curve.y0) / curve.radius, -1.0, 1.0);
        // the arc turns its back to the teeth (roots) or away from them (tips)
        const double a = curve.from < -pi / 2 ? pi - std::asin(s) : std::asin(s);
        return mirrored ? -a : a;
    }
    double centre_eta() const { return mirrored ? shift - curve.y0 : shift + curve.y0; }
    double at(double eta) const {
        return round ? curve.x0 + curve.radius * std::cos(phi(eta)) : height + slope * (eta - from);
    }
};

// The outline laid along a rectangle of the face.
class Plan {
public:
    explicit Plan(const ResolvedRack& r)
        : cos_(1 / std::hypot(1, r.lean)), sin_(r.lean * cos_), first_(r.first_space),
          half_(in_mm(r.spec.width) / 2), length_(r.length) {
        if (r.half_outline.empty()) throw std::logic_error("rack_body: these teeth have no outline");
        // the corners in order round the rectangle, and which of them the bands reach first
        corner_[0] = {-half_, 0};
        corner_[1] = {half_, 0};
        corner_[2] = {half_, length_};
        corner_[3] = {-half_, length_};
        start_ = r.lean > 0 ? 1 : 0;
        lay(r);
    }

    struct Place {
        double w = 0, z = 0;
    };
    double eta(const Place& p) const { return (p.z - first_) * cos_ - p.w * sin_; }
    const Place& corner(std::size_t k) const { return corner_[(start_ + k) % 4]; }
    std::size_t corner_index(std::size_t k) const { return (start_ + k) % 4; }
    // of the chain to the right (up the rectangle, counter-clockwise) or to the left
    std::size_t middle(bool left) const { return left ? 3 : 1; }
    Place on_chain(bool left, double at) const {
        const Place &a = corner(0), &m = corner(middle(left)), &b = corner(2);
        const double ea = eta(a), em = eta(m), eb = eta(b);
        const bool first = at <= em;
        const Place &p = first ? a : m, &q = first ? m : b;
        const double ep = first ? ea : em, eq = first ? em : eb;
        const double k = eq > ep ? std::clamp((at - ep) / (eq - ep), 0.0, 1.0) : 1;
        return {p.w + k * (q.w - p.w), p.z + k * (q.z - p.z)};
    }
    double breadth(double at) const {
        const Place a = on_chain(false, at), b = on_chain(true, at);
        return std::hypot(a.w - b.w, a.z - b.z);
    }
    const std::vector<Band>& bands() const { return bands_; }
    double cosine() const { return cos_; }
    double sine() const { return sin_; }
    double first() const { return first_; }

private:
    void lay(const ResolvedRack& r) {
        const double low = eta(corner(0)), high = eta(corner(2));
        const double pitch = pi * in_mm(r.spec.module), tip = r.tip_height;
        std::vector<Band> space; // of one space, its middle at η = 0
        const auto& half = r.half_outline;
        const auto put = [&](const TransverseCurve& c, bool mirrored, FaceRole role) {
            Band b;
            b.role = role;
            b.round = c.shape == CurveShape::arc;
            b.mirrored = mirrored;
            b.curve = c;
            const TransversePoint p = whorl::point_at(c, c.from), q = whorl::point_at(c, c.to);
            b.from = mirrored ? -q.y : p.y;
            b.height = mirrored ? q.x : p.x;
            b.slope = (q.x - p.x) / (q.y - p.y) * (mirrored ? -1 : 1);
            space.push_back(b);
        };
        const auto role_of = [&](std::size_t i) {
            const TransverseCurve& c = half[i];
            if (i == 1 && c.shape == CurveShape::arc) return FaceRole::root;
            const TransversePoint p = whorl::point_at(c, c.from), q = whorl::point_at(c, c.to);
            return std::abs(p.x - r.form_height) < 1e-9 && std::abs(q.x - r.flank_tip_height) < 1e-9
                       ? FaceRole::flank
                       : FaceRole::chamfer;
        };
        for (std::size_t i = half.size() - 2; i >= 1; --i)
            put(half[i], true, role_of(i));
        Band root;
        root.role = FaceRole::root;
        root.from = -half.front().y1;
        root.height = r.root_height;
        space.push_back(root);
        for (std::size_t i = 1; i + 1 < half.size(); ++i)
            put(half[i], false, role_of(i));
        Band land;
        land.height = tip;
        land.from = half.back().y0;
        space.push_back(land);

        const bool open_near = in_mm(r.spec.near_plain) == 0, open_far = in_mm(r.spec.far_plain) == 0;
        const int first = open_near ? static_cast<int>(std::floor(low / pitch)) - 1 : 0,
                  last = open_far ? static_cast<int>(std::ceil(high / pitch)) + 1 : r.teeth;
        land.from = low;
        bands_ = {land};
        for (int j = first; j <= last; ++j)
            for (Band b : space) {
                b.from += j * pitch;
                b.shift = j * pitch;
                if (b.from >= high - too_near_end) continue;
                if (b.from <= low + too_near_end) { // the last of these is the one that the corner lies in
                    if (!b.round) b.height += b.slope * (low - b.from);
                    b.from = low;
                    bands_ = {b};
                    continue;
                }
                bands_.push_back(b);
            }
    }

    double cos_, sin_, first_, half_, length_;
    Place corner_[4];
    std::size_t start_ = 0;
    std::vector<Band> bands_;
};

class RackMaker {
public:
    explicit RackMaker(const ResolvedRack& r)
        : plan_(r), lift_(in_mm(r.spec.height) / 2 - r.tip_height), back_(-in_mm(r.spec.height) / 2) {}

    BarBody make() {
        chain(false);
        chain(true);
        tops();
        walls();
        body_.back = back_;
        return std::move(body_);
    }

private:
    struct Link { // of a chain: up to this corner by this edge, in this band
        int corner = -1, edge = -1;
        std::size_t band = 0;
    };

    int add_corner(const Plan::Place& p, double height) {
        body_.corners.push_back({height + lift_, p.w, p.z});
        return static_cast<int>(body_.corners.size()) - 1;
    }

    Point centre_of(const Band& b) const { // on the cylinder's axis, where w = 0
        return {b.curve.x0 + lift_, 0, plan_.first() + b.centre_eta() / plan_.cosine()};
    }
    // Along the teeth, so turned that a positive φ goes from the height towards rising η.
    Point along() const { return {0, -plan_.cosine(), -plan_.sine()}; }
    Point across() const { return {0, -plan_.sine(), plan_.cosine()}; } // rising η

    // An edge of the chain inside one band, in rising η.
    int add_edge(const Band& b, int from, int to, const Plan::Place& p, const Plan::Place& q) {
        BarEdge e;
        e.from = from;
        e.to = to;
        const double ep = plan_.eta(p), eq = plan_.eta(q);
        if (b.round && eq - ep > 1e-12) {
            e.bowed = true;
            e.phi_from = b.phi(ep);
            e.phi_to = b.phi(eq);
            // the side runs by (dw, dz) for each η; so does the ellipse from the axis
            const double dw = (q.w - p.w) / (eq - ep), dz = (q.z - p.z) / (eq - ep);
            const double off = b.centre_eta() - ep;
            e.centre = {b.curve.x0 + lift_, p.w + dw * off, p.z + dz * off};
            e.u = {b.curve.radius, 0, 0};
            e.v = {0, dw * b.curve.radius, dz * b.curve.radius};
        }
        body_.edges.push_back(e);
        return static_cast<int>(body_.edges.size()) - 1;
    }

    void chain(bool left) {
        auto& links = chains_[left];
        const auto& bands = plan_.bands();
        const auto end = [&](std::size_t k, double height) {
            int& corner = top_[plan_.corner_index(k)];
            if (corner < 0) corner = add_corner(plan_.corner(k), height);
            return corner;
        };
        Plan::Place at = plan_.corner(0);
        int corner = end(0, bands.front().at(plan_.eta(at)));
        links.push_back({corner, -1, 0});
        const Plan::Place middle = plan_.corner(plan_.middle(left)), last = plan_.corner(2);
        const double turn = plan_.eta(middle);
        bool turned = false;
        for (std::size_t i = 0; i < bands.size(); ++i) {
            const bool final = i + 1 == bands.size();
            const double to = final ? plan_.eta(last) : bands[i + 1].from;
            const auto go = [&](const Plan::Place& place, int next) {
                links.push_back({next, add_edge(bands[i], corner, next, at, place), i});
                corner = next;
                at = place;
            };
            if (!turned && turn < to - same_place) {
                turned = true;
                go(middle, end(plan_.middle(left), bands[i].at(turn)));
            }
            if (final) {
                if (!turned) // the sides at the far end all lie in the last band's last place
                    go(middle, end(plan_.middle(left), bands[i].at(turn)));
                if (std::hypot(last.w - at.w, last.z - at.z) > same_place) go(last, end(2, bands[i].at(to)));
                break;
            }
            const Plan::Place place = std::abs(turn - to) <= same_place ? middle : plan_.on_chain(left, to);
            const bool in_corner = std::abs(turn - to) <= same_place;
            if (in_corner) turned = true;
            const double height = bands[i + 1].at(to);
            go(place, in_corner ? end(plan_.middle(left), height) : add_corner(place, height));
            line_[left].push_back(corner);
        }
    }

    void tops() {
        const auto& bands = plan_.bands();
        std::vector<int> rails;
        for (std::size_t i = 0; i + 1 < bands.size(); ++i) {
            BarEdge e;
            e.from = line_[0][i];
            e.to = line_[1][i];
            rails.push_back(static_cast<int>(body_.edges.size()));
            body_.edges.push_back(e);
        }
        for (std::size_t i = 0; i < bands.size(); ++i) {
            const Band& b = bands[i];
            BarFace f;
            f.role = b.role;
            for (const Link& l : chains_[0])
                if (l.edge >= 0 && l.band == i) f.loop.push_back({l.edge, true, 0});
            if (i + 1 < bands.size()) f.loop.push_back({rails[i], true, 0});
            for (auto l = chains_[1].rbegin(); l != chains_[1].rend(); ++l)
                if (l->edge >= 0 && l->band == i) f.loop.push_back({l->edge, false, 0});
            if (i > 0) f.loop.push_back({rails[i - 1], false, 0});
            if (b.round) {
                f.round = true;
                f.origin = centre_of(b);
                f.normal = along();
                f.radius = b.curve.radius;
                f.across = {1, 0, 0};
                f.inward = b.curve.from < -pi / 2;
            } else {
                const double length = std::hypot(1, b.slope);
                f.origin = body_.corners[static_cast<std::size_t>(
                    body_.edges[static_cast<std::size_t>(f.loop.front().edge)].from)];
                f.normal = plus({1 / length, 0, 0}, across(), -b.slope / length);
            }
            body_.faces.push_back(std::move(f));
        }
    }

    void walls() {
        const double back = back_;
        int low[4], upright[4], floor[4];
        for (std::size_t k = 0; k < 4; ++k) {
            const Point p = body_.corners[static_cast<std::size_t>(top_[k])];
            body_.corners.push_back({back, p.y, p.z});
            low[k] = static_cast<int>(body_.corners.size()) - 1;
        }
        const auto straight = [&](int from, int to) {
            BarEdge e;
            e.from = from;
            e.to = to;
            body_.edges.push_back(e);
            return static_cast<int>(body_.edges.size()) - 1;
        };
        for (std::size_t k = 0; k < 4; ++k) {
            upright[k] = straight(top_[k], low[k]);
            floor[k] = straight(low[k], low[(k + 1) % 4]);
        }
        // the chains' edges, sorted to the side of the rectangle they lie on, in order round it
        std::vector<EdgeUse> side[4];
        for (const bool left : {false, true}) {
            std::size_t at = left ? 3 : 0; // the sides in rising order of the bands, counted from the start
            const int turn = top_[plan_.corner_index(plan_.middle(left))];
            for (const Link& l : chains_[left]) {
                if (l.edge < 0) continue;
                side[plan_.corner_index(at)].push_back({l.edge, !left, 0});
                if (l.corner == turn) at = left ? 2 : 1;
            }
        }
        constexpr double out[4][2]{{0, -1}, {1, 0}, {0, 1}, {-1, 0}}; // outward normals (y, z)
        for (std::size_t k = 0; k < 4; ++k) {
            auto& edges = side[k];
            // round the rectangle; the wall takes them the other way
            const bool of_left = !edges.empty() && !edges.front().forward;
            if (!of_left) std::reverse(edges.begin(), edges.end());
            BarFace f;
            f.role = k % 2 == 0 ? FaceRole::end : FaceRole::plain;
            f.origin = body_.corners[static_cast<std::size_t>(low[k])];
            f.normal = {0, out[k][0], out[k][1]};
            for (const EdgeUse& u : edges)
                f.loop.push_back({u.edge, !u.forward, 0});
            f.loop.push_back({upright[k], true, 0});
            f.loop.push_back({floor[k], true, 0});
            f.loop.push_back({upright[(k + 1) % 4], false, 0});
            body_.faces.push_back(std::move(f));
        }
        BarFace f;
        f.origin = {back, 0, 0};
        f.normal = {-1, 0, 0};
        for (int k = 3; k >= 0; --k)
            f.loop.push_back({floor[k], false, 0});
        body_.faces.push_back(std::move(f));
    }

    Plan plan_;
    double lift_, back_;
    BarBody body_;
    std::vector<Link> chains_[2];
    std::vector<int> line_[2]; // the corner of each line on either chain
    int top_[4]{-1, -1, -1, -1};
};

} // namespace

BarBody rack_body(const ResolvedRack& r) {
    return RackMaker(r).make();
}

double rack_volume(const ResolvedRack& r) {
    const Plan plan(r);
    const auto& bands = plan.bands();
    double sum = 0;
    for (std::size_t i = 0; i < bands.size(); ++i) {
        const double to = i + 1 < bands.size() ? bands[i + 1].from : plan.eta(plan.corner(2));
        std::vector<double> cuts{bands[i].from, to};
        for (const bool left : {false, true})
            if (const double e = plan.eta(plan.corner(plan.middle(left))); e > cuts[0] && e < to)
                cuts.push_back(e);
        std::sort(cuts.begin(), cuts.end());
        for (std::size_t k = 0; k + 1 < cuts.size(); ++k) {
            // over η, on a rounding over its angle, in which it is smooth
            const Band& b = bands[i];
            const double from = b.round ? b.phi(cuts[k]) : cuts[k],
                         until = b.round ? b.phi(cuts[k + 1]) : cuts[k + 1];
            sum += gauss<gauss_12>(from, until, 1, [&](double at) {
                const double eta = b.round ? b.centre_eta() + b.curve.radius * std::sin(at) : at;
                const double stretch = b.round ? b.curve.radius * std::cos(at) : 1;
                return stretch * (b.at(eta) + r.body()) * plan.breadth(eta);
            });
        }
    }
    return sum;
}

} // namespace whorl::solid
