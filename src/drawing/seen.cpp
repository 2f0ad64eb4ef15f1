#include "drawing/seen.hpp"

#include "drawing/runs.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <unordered_map>

namespace whorl::drawing {

At Gaze::at(const solid::Point& p) const {
    return {p.x * right[0] + p.y * right[1] + p.z * right[2], p.x * up[0] + p.y * up[1] + p.z * up[2]};
}

double Gaze::depth(const solid::Point& p) const {
    return p.x * towards[0] + p.y * towards[1] + p.z * towards[2];
}

Gaze from_end(const Gaze& side, bool near) {
    Gaze g{.right = {}, .up = side.up, .towards = side.right};
    if (near)
        for (double& v : g.towards)
            v = -v;
    for (std::size_t k = 0; k < 3; ++k) // up × towards
        g.right[k] = g.up[(k + 1) % 3] * g.towards[(k + 2) % 3] - g.up[(k + 2) % 3] * g.towards[(k + 1) % 3];
    return g;
}

namespace {

using Id = std::uint32_t;

std::uint64_t side_key(Id a, Id b) {
    return a < b ? (std::uint64_t{a} << 32) | b : (std::uint64_t{b} << 32) | a;
}

struct Spot { // in the picture, and how near
    At at;
    double depth = 0;
};

Spot between(const Spot& a, const Spot& b, double t) {
    return {a.at + t * (b.at - a.at), a.depth + t * (b.depth - a.depth)};
}

// A straight bit of an edge or outline; its ends' keys tell which bits go on into each other.
struct Bit {
    Spot a, b;
    std::uint64_t from = 0, to = 0;
    Spot off = {}; // out of the body there, a unit long
};

// A picture's box in cells about as wide as high, so many for so many things.
struct Cells {
    Box box;
    int nx = 1, ny = 1;
    Cells(const Box& b, std::size_t things) : box(b) {
        const double w = std::max(b.width(), 1e-9), h = std::max(b.height(), 1e-9);
        const double most = std::clamp(static_cast<double>(things), 16.0, 160000.0),
                     side = std::sqrt(w * h / most);
        nx = std::clamp(static_cast<int>(w / side), 1, 20000);
        ny = std::clamp(static_cast<int>(h / side), 1, 20000);
    }
    int column(double x) const {
        return std::clamp(static_cast<int>((x - box.left) / std::max(box.width(), 1e-12) * nx), 0, nx - 1);
    }
    int row(double y) const {
        return std::clamp(static_cast<int>((y - box.bottom) / std::max(box.height(), 1e-12) * ny), 0, ny - 1);
    }
    std::size_t at(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(nx) + static_cast<std::size_t>(x);
    }
    std::size_t count() const { return static_cast<std::size_t>(nx) * static_cast<std::size_t>(ny); }
};

// The triangles in the picture, in the cells of a grid.
class Cover {
public:
    Cover(const std::vector<Spot>& spots, const solid::Mesh& mesh, const Box& box, bool cut)
        : spots_(spots), mesh_(mesh), grid_(box, mesh.triangles.size() / 2), cut_(cut) {
        cells_.resize(grid_.count());
        for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
            const auto& t = mesh.triangles[i];
            Box b;
            double deepest = std::numeric_limits<double>::max();
            for (const Id id : t) {
                b.hold(spots[id].at);
                deepest = std::min(deepest, spots[id].depth);
            }
            if (cut && deepest > 0) continue; // taken away
            const At u = spots[t[1]].at - spots[t[0]].at, v = spots[t[2]].at - spots[t[0]].at;
            if (std::abs(u.x * v.y - u.y * v.x) < 1e-14 * std::max(1.0, b.width() * b.height()))
                continue; // on edge
            for (int y = grid_.row(b.bottom); y <= grid_.row(b.top); ++y)
                for (int x = grid_.column(b.left); x <= grid_.column(b.right); ++x)
                    cells_[grid_.at(x, y)].push_back(static_cast<Id>(i));
        }
    }

    // Whether something lies more than `clear` before it, not beyond the plane of the cut.
    bool hides(const Spot& p, double clear) const {
        for (const Id i : cells_[grid_.at(grid_.column(p.at.x), grid_.row(p.at.y))]) {
            const auto& t = mesh_.triangles[i];
            const Spot &a = spots_[t[0]], &b = spots_[t[1]], &c = spots_[t[2]];
            if (std::max({a.depth, b.depth, c.depth}) <= p.depth + clear) continue;
            const At u = b.at - a.at, v = c.at - a.at, w = p.at - a.at;
            const double whole = u.x * v.y - u.y * v.x;
            const double s = (w.x * v.y - w.y * v.x) / whole, q = (u.x * w.y - u.y * w.x) / whole;
            if (s < 0 || q < 0 || s + q > 1) continue;
            const double depth = a.depth + s * (b.depth - a.depth) + q * (c.depth - a.depth);
            if (depth > p.depth + clear && (!cut_ || depth <= 1e-9)) return true;
        }
        return false;
    }

private:
    const std::vector<Spot>& spots_;
    const solid::Mesh& mesh_;
    Cells grid_;
    bool cut_;
    std::vector<std::vector<Id>> cells_;
};

// Where bits cross each other in the picture, as places 0 to 1 along each.
std::vector<std::vector<double>> crossings(const std::vector<Bit>& bits, const Box& box) {
    const Cells grid(box, bits.size());
    std::vector<std::vector<Id>> cells(grid.count());
    for (std::size_t i = 0; i < bits.size(); ++i) {
        // the cells that it passes, row by row
        const At a = bits[i].a.at, b = bits[i].b.at;
        const At low = a.y < b.y ? a : b, high = a.y < b.y ? b : a;
        const int y0 = grid.row(low.y), y1 = grid.row(high.y);
        for (int y = y0; y <= y1; ++y) {
            double x0 = std::min(a.x, b.x), x1 = std::max(a.x, b.x);
            if (y1 > y0) {
                const double row = box.height() / grid.ny, slope = (high.x - low.x) / (high.y - low.y);
                const double from = std::clamp(box.bottom + (y - 0.01) * row, low.y, high.y),
                             to = std::clamp(box.bottom + (y + 1.01) * row, low.y, high.y);
                const double xa = low.x + (from - low.y) * slope, xb = low.x + (to - low.y) * slope;
                x0 = std::min(xa, xb), x1 = std::max(xa, xb);
            }
            for (int x = grid.column(x0); x <= grid.column(x1); ++x)
                cells[grid.at(x, y)].push_back(static_cast<Id>(i));
        }
    }
    std::vector<std::vector<double>> out(bits.size());
    for (const auto& in_cell : cells)
        for (std::size_t k = 0; k < in_cell.size(); ++k)
            for (std::size_t l = k + 1; l < in_cell.size(); ++l) {
                const Bit &p = bits[in_cell[k]], &q = bits[in_cell[l]];
                const At u = p.b.at - p.a.at, v = q.b.at - q.a.at, w = q.a.at - p.a.at;
                const double whole = u.x * v.y - u.y * v.x;
                if (std::abs(whole) < 1e-14 * (std::hypot(u.x, u.y) * std::hypot(v.x, v.y) + 1e-30)) continue;
                const double s = (w.x * v.y - w.y * v.x) / whole, t = (w.x * u.y - w.y * u.x) / whole;
                if (s < -1e-9 || s > 1 + 1e-9 || t < -1e-9 || t > 1 + 1e-9) continue;
                if (s > 1e-9 && s < 1 - 1e-9) out[in_cell[k]].push_back(s);
                if (t > 1e-9 && t < 1 - 1e-9) out[in_cell[l]].push_back(t);
            }
    return out;
}

// Beyond the plane of the cut: nothing, a part or all of a bit.
bool keep_behind(Bit& bit, std::uint64_t fresh) {
    if (bit.a.depth > 0 && bit.b.depth > 0) return false;
    if (bit.a.depth <= 0 && bit.b.depth <= 0) return true;
    const double t = bit.a.depth / (bit.a.depth - bit.b.depth);
    const Spot on = between(bit.a, bit.b, t);
    (bit.a.depth > 0 ? bit.a : bit.b) = on;
    (bit.a.depth > 0 ? bit.from : bit.to) = fresh;
    return true;
}

// Edges where two faces meet at an angle; a flank that runs smoothly into its root has none.
std::vector<Bit> edges(const solid::Mesh& mesh, const solid::Shading& shading, const std::vector<Spot>& spots,
                       const Gaze& gaze) {
    struct Meeting {
        std::array<solid::Point, 2> normals;
        int known = 0;
    };
    std::unordered_map<std::uint64_t, Meeting> meetings;
    meetings.reserve(shading.lines.size());
    for (const auto& l : shading.lines)
        meetings[side_key(l[0], l[1])];
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i)
        for (std::size_t k = 0; k < 3; ++k) {
            const auto found = meetings.find(side_key(mesh.triangles[i][k], mesh.triangles[i][(k + 1) % 3]));
            if (found == meetings.end() || found->second.known > 1) continue;
            const solid::Point &a = shading.normals[i][k], &b = shading.normals[i][(k + 1) % 3];
            found->second.normals[static_cast<std::size_t>(found->second.known++)] = {
                (a.x + b.x) / 2, (a.y + b.y) / 2, (a.z + b.z) / 2};
        }
    std::vector<Bit> out;
    for (const auto& l : shading.lines) {
        const Meeting& m = meetings[side_key(l[0], l[1])];
        const auto& [a, b] = m.normals;
        const solid::Point sum{a.x + b.x, a.y + b.y, a.z + b.z};
        const double size = std::max(1e-9, std::sqrt(sum.x * sum.x + sum.y * sum.y + sum.z * sum.z));
        const Spot off{(1 / size) * gaze.at(sum), gaze.depth(sum) / size};
        const double cosine = (a.x * b.x + a.y * b.y + a.z * b.z) /
                              std::max(1e-12, std::sqrt((a.x * a.x + a.y * a.y + a.z * a.z) *
                                                        (b.x * b.x + b.y * b.y + b.z * b.z)));
        if (m.known == 2 && cosine > 0.9998) continue; // about 1°
        out.push_back({spots[l[0]], spots[l[1]], l[0], l[1], off});
    }
    return out;
}

// Where the surface turns away from the viewer, triangle by triangle.
void add_outlines(std::vector<Bit>& out, const solid::Mesh& mesh, const solid::Shading& shading,
                  const std::vector<Spot>& spots, const Gaze& gaze) {
    for (std::size_t i = 0; i < mesh.triangles.size(); ++i) {
        const auto& t = mesh.triangles[i];
        std::array<double, 3> facing;
        int front = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            facing[k] = gaze.depth(shading.normals[i][k]);
            if (std::abs(facing[k]) < 1e-9) facing[k] = 0;
            front += facing[k] >= 0;
        }
        if (front == 0 || front == 3) continue;
        std::array<Spot, 2> ends;
        std::array<std::uint64_t, 2> keys{};
        std::size_t n = 0;
        for (std::size_t k = 0; k < 3 && n < 2; ++k) {
            const std::size_t l = (k + 1) % 3;
            if ((facing[k] >= 0) == (facing[l] >= 0)) continue;
            // from the lower id, so that both triangles of a side find the same point
            const bool turn = t[k] > t[l];
            const std::size_t first = turn ? l : k, second = turn ? k : l;
            const double at = facing[first] / (facing[first] - facing[second]);
            keys[n] = at == 0 ? t[first] : at == 1 ? t[second] : side_key(t[k], t[l]);
            ends[n++] = between(spots[t[first]], spots[t[second]], at);
        }
        if (n != 2 || keys[0] == keys[1]) continue;
        // the normal lies in the picture there: that of the corners, less what of it looks at the viewer
        At off{0, 0};
        for (const solid::Point& normal : shading.normals[i])
            off = off + gaze.at(normal);
        off = (1 / std::max(1e-9, std::hypot(off.x, off.y))) * off;
        out.push_back({ends[0], ends[1], keys[0], keys[1], {off, 0}});
    }
}

std::vector<Run> cut_of(const solid::Mesh& mesh, const std::vector<Spot>& spots) {
    std::vector<Bit> bits;
    for (const auto& t : mesh.triangles) {
        std::array<bool, 3> before;
        int count = 0;
        for (std::size_t k = 0; k < 3; ++k)
            count += before[k] = spots[t[k]].depth >= 0;
        if (count == 0 || count == 3) continue;
        Bit bit;
        for (std::size_t k = 0; k < 3; ++k) {
            const std::size_t l = (k + 1) % 3;
            if (before[k] == before[l]) continue;
            const bool turn = t[k] > t[l];
            const Spot &p = spots[turn ? t[l] : t[k]], &q = spots[turn ? t[k] : t[l]];
            const Spot on = between(p, q, p.depth / (p.depth - q.depth));
            // counter-clockwise around the material for the viewer: its triangles are so from outside
            (before[k] ? bit.a : bit.b) = on;
            (before[k] ? bit.from : bit.to) = side_key(t[k], t[l]);
        }
        bits.push_back(bit);
    }
    std::unordered_map<std::uint64_t, std::size_t> begins;
    for (std::size_t i = 0; i < bits.size(); ++i)
        begins[bits[i].from] = i;
    std::vector<Run> out;
    std::vector<bool> used(bits.size());
    for (std::size_t i = 0; i < bits.size(); ++i) {
        if (used[i]) continue;
        Run run{{}, true};
        for (std::size_t at = i; !used[at];) {
            used[at] = true;
            run.points.push_back(bits[at].a.at);
            const auto next = begins.find(bits[at].to);
            if (next == begins.end()) break;
            at = next->second;
        }
        tidy(run, 1e-9);
        if (run.points.size() > 2) out.push_back(std::move(run));
    }
    return out;
}

} // namespace

double area(const std::vector<Run>& cut) {
    double out = 0;
    for (const Run& r : cut)
        for (std::size_t i = 0; i < r.points.size(); ++i) {
            const At a = r.points[i], b = r.points[(i + 1) % r.points.size()];
            out += (a.x * b.y - a.y * b.x) / 2;
        }
    return out;
}

bool inside(const std::vector<Run>& cut, At p) {
    bool in = false;
    for (const Run& r : cut)
        for (std::size_t i = 0; i < r.points.size(); ++i) {
            const At a = r.points[i], b = r.points[(i + 1) % r.points.size()];
            if ((a.y > p.y) != (b.y > p.y) && p.x < a.x + (p.y - a.y) / (b.y - a.y) * (b.x - a.x)) in = !in;
        }
    return in;
}

Seen see(const solid::Mesh& mesh, const solid::Shading& shading, const Look& look) {
    Seen out;
    std::vector<Spot> spots(mesh.points.size());
    double nearest = -std::numeric_limits<double>::max(), farthest = -nearest;
    Box box;
    for (std::size_t i = 0; i < spots.size(); ++i) {
        spots[i] = {look.gaze.at(mesh.points[i]), look.gaze.depth(mesh.points[i])};
        if (std::abs(spots[i].depth) < 1e-9) spots[i].depth = 0;
        box.hold(spots[i].at);
        nearest = std::max(nearest, spots[i].depth);
        farthest = std::min(farthest, spots[i].depth);
    }
    out.box = box;
    if (look.cut) out.cut = cut_of(mesh, spots);
    std::vector<Bit> bits = edges(mesh, shading, spots, look.gaze);
    add_outlines(bits, mesh, shading, spots, look.gaze);
    if (look.cut) {
        std::vector<Bit> kept;
        std::uint64_t fresh = std::uint64_t{1} << 63; // keys of their own
        for (Bit& b : bits)
            if (keep_behind(b, fresh++)) kept.push_back(b);
        bits = std::move(kept);
    }
    // seen along their length they are points
    std::erase_if(bits,
                  [](const Bit& b) { return std::hypot(b.b.at.x - b.a.at.x, b.b.at.y - b.a.at.y) < 1e-9; });
    const Cover cover(spots, mesh, box, look.cut);
    const double size = std::max({box.width(), box.height(), nearest - farthest});
    const double clear = 1e-6 * size;
    const double off =
        2.5 * look.chord; // out of the triangles beside it, which lie within a chord of the surface
    const auto places = crossings(bits, box);
    std::vector<Link2> seen, hidden;
    for (std::size_t i = 0; i < bits.size(); ++i) {
        const Bit& bit = bits[i];
        std::vector<double> at = places[i];
        std::sort(at.begin(), at.end());
        at.insert(at.begin(), 0);
        at.push_back(1);
        for (std::size_t k = 0; k + 1 < at.size(); ++k) {
            if (at[k + 1] - at[k] < 1e-9) continue;
            Spot middle = between(bit.a, bit.b, (at[k] + at[k + 1]) / 2);
            middle = {middle.at + off * bit.off.at, middle.depth + off * bit.off.depth};
            const bool covered = (look.cut && middle.depth < -2 * off && inside(out.cut, middle.at)) ||
                                 cover.hides(middle, clear);
            if (covered && !look.hidden) continue;
            const bool first = k == 0, last = k + 2 == at.size();
            (covered ? hidden : seen)
                .push_back({between(bit.a, bit.b, at[k]).at, between(bit.a, bit.b, at[k + 1]).at,
                            first ? bit.from : no_key, last ? bit.to : no_key});
        }
    }
    const double near = 1e-7 * std::max(1e-3, size);
    out.lines = chained(std::move(seen), near);
    out.hidden = chained(std::move(hidden), near);
    if (!out.hidden.empty()) out.hidden = without(out.hidden, out.lines, near * 100);
    if (look.cut) out.lines = without(out.lines, out.cut, near * 100); // the cut's edges are drawn as such
    return out;
}

} // namespace whorl::drawing
