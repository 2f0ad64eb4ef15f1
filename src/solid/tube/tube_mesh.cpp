// A tube's mesh: rings of points along the wire. Where a ground face has cut the wire, a row goes from one
// side of the cut over what is left to the other, and closes to a ring where the cut ends.
#include "solid/tube/tube_body.hpp"

#include "quantity/about.hpp"
#include "quantity/expression.hpp"
#include "quantity/numeric.hpp"
#include "solid/skin/build_skin.hpp"

#include <algorithm>
#include <cmath>

namespace whorl::solid {
namespace {

constexpr double most_triangles = 4e6;

std::size_t index(int i) {
    return static_cast<std::size_t>(i);
}

struct Steps {
    int around = 16;    // of the wire, a multiple of 8
    double along = 0.1; // rad
};

// Half the chord across the wire, half along it.
Steps steps_for(const TubeBody& body, double chord) {
    const auto angle = [&](double radius) {
        return 2 * std::acos(std::max(0.5, 1 - chord / 2 / std::max(radius, chord)));
    };
    const double rho = body.coil.wire / 2;
    Steps s;
    s.along = std::min(pi / 6, angle(body.coil.largest_mean / 2 + rho));
    if (body.coil.round)
        s.around = std::max(16, 8 * static_cast<int>(std::ceil(2 * pi / angle(rho) / 8)));
    else
        for (s.around = 8; s.around < 4096 && side_warp(body, s.along, 2 * pi / s.around) > chord / 2;)
            s.around *= 2;
    const double triangles = 2.0 * s.around * (body.coil.line.end() - body.coil.line.begin()) / s.along;
    if (triangles > most_triangles)
        throw CannotMake("At a chord of " + number_text(chord, 4) + " mm this spring would need about " +
                             number_text(triangles / 1e6, 1) + " million triangles; at most " +
                             number_text(most_triangles / 1e6, 0) + " million are made. A chord of " +
                             number_text(chord * triangles / most_triangles * 1.1, 3) + " mm would do.",
                         0);
    return s;
}

class TubeMesher {
public:
    TubeMesher(const TubeBody& body, double chord)
        : body_(body), steps_(steps_for(body, chord)), m_(steps_.around), shape_(body.coil.shape()) {}

    Mesh mesh() {
        const std::size_t lengths = body_.cuts.size() - 1;
        std::vector<std::uint32_t> before;
        for (std::size_t i = 0; i < lengths; ++i) {
            Rows rows;
            if (body_.coil.ground(false) && i == 0)
                rows = near_rows();
            else if (body_.coil.ground(true) && i + 1 == lengths)
                rows = far_rows(before);
            else
                rows = plain_rows(i, before);
            before = last_ring(rows);
            lengths_.push_back(std::move(rows));
        }
        std::size_t face = 0;
        for (; face < body_.faces.size() && body_.faces[face].kind == TubeFace::wall; ++face)
            add_wall(face);
        for (; face < body_.faces.size(); ++face)
            add_flat(face);
        for (const TubeEdge& e : body_.edges)
            mesh_.edge_points.push_back(points_of(e));
        if (body_.coil.spec.hand == Hand::left) // the loops of a right-hand coil, seen in a mirror
            for (auto& t : mesh_.triangles)
                std::swap(t[1], t[2]);
        return std::move(mesh_);
    }

private:
    // Points of a length, row after row of rising θ; a row has its columns in rising φ from `first_phi` on,
    // and its last column is its first where it is a whole ring.
    struct Rows {
        std::vector<std::vector<std::uint32_t>> at;
        int corner = 0;       // column of the first multiple of 45° between strips
        double first_phi = 0; // of a whole ring
        int cut_rows =
            0; // near: rows 0 … cut_rows are cut, the last of them just closed; far: likewise from the end
        int cut_corner = 0; // of these, counted from the tip, where the cut's edge has its corner
    };

    std::uint32_t point(double theta, double phi) {
        if (theta != at_) { // what a ring's points have in common
            at_ = theta;
            centre_ = centre_at(body_, theta);
            frame_ = body_.coil.line.frame(theta);
        }
        const auto [x, y] = shape_.at(phi);
        const Vec3 p = centre_ + x * frame_.outwards + y * frame_.upwards;
        mesh_.points.push_back({p.x, p.y, p.z});
        mesh_.unrolled.push_back({theta, phi, 0});
        return static_cast<std::uint32_t>(mesh_.points.size() - 1);
    }
    std::vector<std::uint32_t> ring(double theta, double first_phi) {
        std::vector<std::uint32_t> row;
        row.reserve(static_cast<std::size_t>(m_) + 1);
        for (int j = 0; j < m_; ++j)
            row.push_back(point(theta, first_phi + 2 * pi * j / m_));
        row.push_back(row.front());
        return row;
    }
    // A ring's points counted from another φ on, a multiple of a quarter turn away.
    std::vector<std::uint32_t> shifted(const std::vector<std::uint32_t>& ring, int quarters) const {
        std::vector<std::uint32_t> row;
        for (int j = 0; j <= m_; ++j)
            row.push_back(ring[static_cast<std::size_t>(((j + quarters * m_ / 4) % m_ + m_) % m_)]);
        return row;
    }
    // The last row as a ring from φ = 0 on.
    std::vector<std::uint32_t> last_ring(const Rows& rows) const {
        return shifted(rows.at.back(), static_cast<int>(std::lround(-rows.first_phi / (pi / 2))));
    }
    int steps(double from, double to) const {
        return std::max(1, static_cast<int>(std::ceil((to - from) / steps_.along - 1e-9)));
    }
    Rows plain_rows(std::size_t i, const std::vector<std::uint32_t>& before) {
        Rows r;
        r.corner = m_ / 8;
        const double from = body_.cuts[i], to = body_.cuts[i + 1];
        const int n = steps(from, to);
        r.at.push_back(before.empty() ? ring(from, 0) : before);
        for (int k = 1; k <= n; ++k)
            r.at.push_back(ring(k == n ? to : from + (to - from) * k / n, 0));
        return r;
    }
    // φ of the columns of a cut row: evenly in three parts between its sides and the two corners. Of flat-sided wire each
    // part is a side, and the columns of the ground side are all one point.
    std::vector<std::uint32_t> cut_row(double theta, double low, double corner0, double corner1,
                                       double high) {
        std::vector<std::uint32_t> row;
        const int b = m_ / 4, a = body_.coil.round ? 3 * m_ / 8 : b;
        row.reserve(static_cast<std::size_t>(m_) + 1);
        if (!body_.coil.round) row.assign(static_cast<std::size_t>(m_ / 8), point(theta, low));
        for (int j = 0; j < a; ++j)
            row.push_back(j == 0 && !row.empty() ? row.front() : point(theta, low + (corner0 - low) * j / a));
        for (int j = 0; j < b; ++j)
            row.push_back(point(theta, corner0 + (corner1 - corner0) * j / b));
        for (int j = 0; j <= a; ++j)
            row.push_back(point(theta, corner1 + (high - corner1) * j / a));
        row.resize(static_cast<std::size_t>(m_) + 1, row.back());
        return row;
    }
    // φ on the outer side at which rows are cut, from the tip to just before the cut ends: evenly, with the
    // cut's corner at 45° below (near) or over (far) the level among them.
    std::vector<double> cut_angles(bool far, int& corner) const {
        const double outer = chord_angle(far), s = far ? 1 : -1, middle = s * pi / 4, end = s * pi / 2;
        // as many as keep the rows no farther apart than others
        const auto enough = [&](double from, double to) {
            for (int n = std::max(2, m_ / 8);; n = n * 3 / 2) {
                double widest = 0, before = ground_cut(body_.coil, far, from);
                for (int k = 1; k <= n; ++k) {
                    const double theta = ground_cut(body_.coil, far, from + (to - from) * k / n);
                    widest = std::max(widest, std::abs(theta - before));
                    before = theta;
                }
                if (widest <= steps_.along * 1.001 || n > 2000) return n;
            }
        };
        const int n1 = enough(outer, middle), n2 = body_.coil.round ? enough(middle, end) : 0;
        corner = n1; // where flat-sided wire's ground side begins, and its rows are whole
        std::vector<double> out;
        for (int k = 0; k <= n1; ++k)
            out.push_back(outer + (middle - outer) * k / n1);
        for (int k = 1; k <= n2; ++k)
            out.push_back(middle + (end - middle) * k / n2);
        return out;
    }
    // φ of the ground face's corner on the wire's outer side: of the cut's ends the one between −45° and 45°.
    double chord_angle(bool far) const {
        for (const TubeEdge& e : body_.edges)
            for (const double phi : {e.begin, e.end})
                if (e.kind == TubeEdge::cut && e.far == far && std::abs(phi) < pi / 4 - 1e-9) return phi;
        return 0;
    }
    Rows near_rows() {
        Rows r;
        r.corner = 3 * m_ / 8;
        r.first_phi = -pi / 2;
        const auto angles = cut_angles(false, r.cut_corner);
        r.cut_rows = static_cast<int>(angles.size()) - 1;
        for (std::size_t k = 0; k + 1 < angles.size(); ++k)
            r.at.push_back(cut_row(k == 0 ? 0 : ground_cut(body_.coil, false, angles[k]), angles[k], pi / 4,
                                   3 * pi / 4, pi - angles[k]));
        const double theta = ground_cut(body_.coil, false, angles.back());
        r.at.push_back(ring(theta, -pi / 2));
        const double to = body_.cuts[1];
        const int n = steps(theta, to);
        for (int k = 1; k <= n; ++k)
            r.at.push_back(ring(k == n ? to : theta + (to - theta) * k / n, -pi / 2));
        return r;
    }
    Rows far_rows(const std::vector<std::uint32_t>& before) {
        Rows r;
        r.corner = 3 * m_ / 8;
        r.first_phi = -3 * pi / 2;
        const auto angles = cut_angles(true, r.cut_corner);
        r.cut_rows = static_cast<int>(angles.size()) - 1;
        const double from = body_.cuts[body_.cuts.size() - 2], end = body_.cuts.back(),
                     theta = ground_cut(body_.coil, true, angles.back());
        r.at.push_back(shifted(before, -3));
        const int n = steps(from, theta);
        for (int k = 1; k <= n; ++k)
            r.at.push_back(ring(from + (theta - from) * k / n, -3 * pi / 2));
        for (std::size_t k = angles.size() - 1; k-- > 0;)
            r.at.push_back(cut_row(k == 0 ? end : ground_cut(body_.coil, true, angles[k]), -pi - angles[k],
                                   -3 * pi / 4, -pi / 4, angles[k]));
        return r;
    }
    void add_wall(std::size_t face) {
        const TubeFace& f = body_.faces[face];
        const auto i = static_cast<std::size_t>(
            std::lower_bound(body_.cuts.begin(), body_.cuts.end(), f.theta0 - 1e-9) - body_.cuts.begin());
        const Rows& r = lengths_[i];
        // columns of the strip: φ in the rows' own range
        const auto column = [&](double phi) {
            return static_cast<int>(std::lround((phi - r.first_phi) / (2 * pi) * m_));
        };
        int c0 = column(f.phi0), c1 = column(f.phi1);
        const std::size_t last = r.at.size() - 1, cut = static_cast<std::size_t>(r.cut_rows);
        const bool ground_side = !body_.coil.round && cut > 0 && ((c0 + c1) / 2) % m_ == 0;
        const std::size_t from = ground_side && i == 0 ? cut : 0,
                          to = ground_side && i != 0 ? last - cut : last;
        for (std::size_t k = from; k < to; ++k)
            for (int c = c0; c < c1; ++c) {
                const auto j =
                    static_cast<std::size_t>(((c % m_) + m_) % m_); // a row's last column closes it
                quad(r.at[k][j], r.at[k + 1][j], r.at[k + 1][j + 1], r.at[k][j + 1], face);
            }
    }
    // Counter-clockwise from outside of a right-hand coil: θ on, then φ.
    void quad(std::uint32_t a, std::uint32_t b, std::uint32_t c, std::uint32_t d, std::size_t face) {
        add(a, b, c, face);
        add(a, c, d, face);
    }
    void add(std::uint32_t a, std::uint32_t b, std::uint32_t c, std::size_t face) {
        if (a == b || b == c || c == a) return;
        mesh_.triangles.push_back({a, b, c});
        mesh_.face.push_back(static_cast<std::uint32_t>(face));
    }

    void add_flat(std::size_t face) {
        const TubeFace& f = body_.faces[face];
        const Rows& r = f.far ? lengths_.back() : lengths_.front();
        const auto& tip = f.far ? r.at.back() : r.at.front();
        if (f.kind == TubeFace::tip) { // a disc, or what the ground face leaves of it
            const std::size_t n = tip.front() == tip.back() ? tip.size() - 1 : tip.size();
            if (!body_.coil.round) return add_around_middle(tip, n, face);
            for (std::size_t j = 1; j + 1 < n; ++j)
                f.far ? add(tip[0], tip[j + 1], tip[j], face) : add(tip[0], tip[j], tip[j + 1], face);
            return;
        }
        // rows of two, from the tip to where they meet
        for (int k = 0; k < r.cut_rows; ++k) {
            const auto row = [&](int n) -> const std::vector<std::uint32_t>& {
                return f.far ? r.at[r.at.size() - 1 - static_cast<std::size_t>(n)]
                             : r.at[static_cast<std::size_t>(n)];
            };
            const auto &here = row(k), &there = row(k + 1);
            if (!body_.coil.round && k + 1 == r.cut_rows) { // up to the ground side's edge
                const std::uint32_t a = f.far ? here.back() : here.front(),
                                    b = f.far ? here.front() : here.back();
                const auto edge = ground_edge(f.far);
                add(a, b, edge.front(), face);
                for (std::size_t j = 0; j + 1 < edge.size(); ++j)
                    add(a, edge[j], edge[j + 1], face);
                continue;
            }
            f.far ? quad(here.back(), here.front(), there.front(), there.back(), face)
                  : quad(here.front(), here.back(), there.back(), there.front(), face);
        }
    }

    // Triangles from a point inside, since an edge's points lie on one line.
    void add_around_middle(const std::vector<std::uint32_t>& tip, std::size_t n, std::size_t face) {
        Point sum{};
        for (std::size_t j = 0; j < n; ++j) {
            const Point& p = mesh_.points[tip[j]];
            sum = {sum.x + p.x, sum.y + p.y, sum.z + p.z};
        }
        const auto of = static_cast<double>(n);
        const UnrolledPoint at = mesh_.unrolled[tip[0]];
        const auto middle = static_cast<std::uint32_t>(mesh_.points.size());
        mesh_.points.push_back({sum.x / of, sum.y / of, sum.z / of});
        mesh_.unrolled.push_back(at);
        for (std::size_t j = 0; j < n; ++j) {
            const std::uint32_t a = tip[j], b = tip[(j + 1) % n];
            body_.faces[face].far ? add(middle, b, a, face) : add(middle, a, b, face);
        }
    }
    // Where flat-sided wire's ground side begins, from its inner to its outer corner.
    std::vector<std::uint32_t> ground_edge(bool far) const {
        const Rows& r = far ? lengths_.back() : lengths_.front();
        const auto cut = static_cast<std::size_t>(r.cut_rows);
        const auto& row = far ? r.at[r.at.size() - 1 - cut] : r.at[cut];
        std::vector<std::uint32_t> out;
        for (int j = -m_ / 8; j <= m_ / 8; ++j)
            out.push_back(row[static_cast<std::size_t>(((far ? -j : j) + m_) % m_)]);
        return out;
    }
    // A cut's points on its outer (`outer`) or inner side, from the tip on.
    std::uint32_t cut_point(bool far, bool outer, int k) const {
        const Rows& r = far ? lengths_.back() : lengths_.front();
        if (!body_.coil.round && k == r.cut_rows)
            return outer ? ground_edge(far).back() : ground_edge(far).front();
        const auto& row =
            far ? r.at[r.at.size() - 1 - static_cast<std::size_t>(k)] : r.at[static_cast<std::size_t>(k)];
        return outer != far ? row.front() : row.back();
    }

    std::vector<std::uint32_t> points_of(const TubeEdge& e) const {
        std::vector<std::uint32_t> out;
        if (e.kind == TubeEdge::chord) {
            const auto a = cut_point(e.far, true, 0), b = cut_point(e.far, false, 0);
            const Point &p = mesh_.points[a], &c = body_.corners[index(e.from)];
            const bool first = std::hypot(p.x - c.x, p.y - c.y, p.z - c.z) < 1e-7;
            return first ? std::vector{a, b} : std::vector{b, a};
        }
        if (e.kind == TubeEdge::cut) {
            const Rows& r = e.far ? lengths_.back() : lengths_.front();
            const double s = e.far ? 1 : -1, begin = s * e.begin,
                         end = s * e.end; // rising from the tip's outer side
            const double low = std::min(begin, end), high = std::max(begin, end);
            std::vector<std::uint32_t> rising;
            if (low < pi / 4 - 1e-9) {
                for (int k = 0; k <= r.cut_corner; ++k)
                    rising.push_back(cut_point(e.far, true, k));
            } else if (high > 3 * pi / 4 + 1e-9) {
                for (int k = r.cut_corner; k >= 0; --k)
                    rising.push_back(cut_point(e.far, false, k));
            } else if (!body_.coil.round) {
                rising = ground_edge(e.far);
                std::reverse(rising.begin(), rising.end());
            } else {
                for (int k = r.cut_corner; k <= r.cut_rows; ++k)
                    rising.push_back(cut_point(e.far, true, k));
                for (int k = r.cut_rows - 1; k >= r.cut_corner; --k)
                    rising.push_back(cut_point(e.far, false, k));
            }
            if (begin > end) std::reverse(rising.begin(), rising.end());
            return rising;
        }
        const auto cut_at = [&](double theta) {
            return static_cast<std::size_t>(
                std::lower_bound(body_.cuts.begin(), body_.cuts.end(), theta - 1e-9) - body_.cuts.begin());
        };
        if (e.kind == TubeEdge::rail) {
            const double low = std::min(e.begin, e.end), high = std::max(e.begin, e.end);
            const std::size_t next = cut_at(low + 2e-9); // behind the length it is in
            const Rows& r = lengths_[next - 1];
            const int c = static_cast<int>(std::lround((e.at - r.first_phi) / (2 * pi) * m_));
            for (const auto& row : r.at) {
                const std::uint32_t p = row[static_cast<std::size_t>(((c % m_) + m_) % m_)];
                if (const double theta = mesh_.unrolled[p].theta; theta > low - 1e-9 && theta < high + 1e-9)
                    out.push_back(p);
            }
            if (e.begin > e.end) std::reverse(out.begin(), out.end());
            return out;
        }
        const std::size_t c = cut_at(e.at);
        const bool last = c == body_.cuts.size() - 1, tip = (c == 0 || last) && body_.coil.ground(last);
        const Rows& r = last ? lengths_.back() : lengths_[c];
        const auto& row = last ? r.at.back() : r.at.front();
        double from = e.begin, to = e.end;
        if (tip) { // columns by their place between the sides and the corners
            const double corner0 = last ? -3 * pi / 4 : pi / 4; // the rows' middle lies a quarter turn on
            const double shift = 2 * pi * std::round((corner0 + pi / 4 - (from + to) / 2) / (2 * pi));
            from += shift, to += shift;
            const auto column = [&](double phi) {
                return std::abs(phi - corner0) < 1e-9            ? 3 * m_ / 8
                       : std::abs(phi - corner0 - pi / 2) < 1e-9 ? 5 * m_ / 8
                       : phi < corner0                           ? (body_.coil.round ? 0 : m_ / 8)
                                                                 : (body_.coil.round ? m_ : 7 * m_ / 8);
            };
            const int a = column(from), b = column(to);
            for (int j = a; j != b; j += b > a ? 1 : -1)
                out.push_back(row[static_cast<std::size_t>(j)]);
            out.push_back(row[static_cast<std::size_t>(b)]);
            return out;
        }
        const auto column = [&](double phi) {
            return static_cast<int>(std::lround((phi - r.first_phi) / (2 * pi) * m_));
        };
        const int a = column(from), b = column(to);
        for (int j = a;; j += b > a ? 1 : -1) {
            out.push_back(row[static_cast<std::size_t>(((j % m_) + m_) % m_)]);
            if (j == b) break;
        }
        return out;
    }

    const TubeBody& body_;
    Steps steps_;
    int m_;
    WireShape shape_;
    std::vector<Rows> lengths_;
    double at_ = -1; // θ of the next two
    Vec3 centre_;
    Centreline::Frame frame_;
    Mesh mesh_;
};

} // namespace

double side_warp(const TubeBody& body, double along, double around) {
    // a facet over Δθ whose ends are Δr apart has its diagonal's middle k·Δθ·Δr/(4·r) off the screw surface of k mm per radian
    const CoilBody& c = body.coil;
    const double inner = std::max(c.wire / 10, (c.smallest_mean - c.wire) / 2), columns = 2 * pi / around / 4;
    double steepest = 0;
    for (const Profile::Point& p : c.line.shape().pitch)
        steepest = std::max(steepest, p.value);
    return steepest / (2 * pi) * along * (c.wire / columns) / (4 * inner);
}

Mesh triangulate(const TubeBody& body, double chord) {
    return TubeMesher(body, chord).mesh();
}

Shading shade(const TubeBody& body, const Mesh& mesh) {
    Shading out;
    out.normals.resize(mesh.triangles.size());
    out.zone.assign(mesh.triangles.size(), 0);
    const auto flat_normal = [&](const TubeFace& f) -> Point {
        if (f.kind == TubeFace::ground) return {0, 0, f.far ? 1.0 : -1.0};
        const Vec3 along = body.coil.line.frame(f.far ? body.coil.line.end() : body.coil.line.begin()).along;
        const double s = f.far ? 1 : -1;
        return {s * along.x, s * along.y, s * along.z};
    };
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const TubeFace& f = body.faces[mesh.face[i]];
        for (std::size_t k = 0; k < 3; ++k) {
            const UnrolledPoint& at = mesh.unrolled[mesh.triangles[i][k]];
            out.normals[i][k] =
                f.kind == TubeFace::wall ? normal_at(body, f, at.theta, at.r) : flat_normal(f);
        }
    }
    for (std::size_t e = 0; e < body.edges.size(); ++e) {
        const TubeEdge& edge = body.edges[e];
        const bool at_tip = edge.kind == TubeEdge::ring && (edge.at < body.coil.line.begin() + 1e-9 ||
                                                            edge.at > body.coil.line.end() - 1e-9);
        const bool corner = edge.kind == TubeEdge::rail && !body.coil.round;
        if (edge.kind != TubeEdge::cut && edge.kind != TubeEdge::chord && !at_tip && !corner) continue;
        const auto& ids = mesh.edge_points[e];
        for (std::size_t k = 0; k + 1 < ids.size(); ++k)
            out.lines.push_back({ids[k], ids[k + 1]});
    }
    return out;
}

} // namespace whorl::solid
