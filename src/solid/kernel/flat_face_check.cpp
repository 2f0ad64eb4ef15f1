#include "solid/kernel/flat_face_check.hpp"

#include <BRepCheck_Edge.hxx>
#include <BRepCheck_ListOfStatus.hxx>
#include <BRepCheck_Vertex.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <Geom_Plane.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pnt2d.hxx>
#include <gp_Vec2d.hxx>

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_map>
#include <vector>

namespace whorl::solid {
namespace {

constexpr int samples = 12; // chords of an edge

bool fine(const BRepCheck_ListOfStatus& list) {
    return std::all_of(list.begin(), list.end(), [](BRepCheck_Status s) { return s == BRepCheck_NoError; });
}

// By itself, and on the face's plane.
bool edge_is_valid(const TopoDS_Edge& edge, const TopoDS_Face& face) {
    const BRep_Builder brep;
    TopoDS_Face alone = TopoDS::Face(face.EmptyCopied());
    TopoDS_Wire wire;
    brep.MakeWire(wire);
    brep.Add(wire, edge);
    brep.Add(alone, wire);
    const Handle(BRepCheck_Edge) check = new BRepCheck_Edge(edge);
    check->GeometricControls(true);
    check->InContext(alone);
    if (!fine(check->Status()) || !check->IsStatusOnShape(alone) || !fine(check->StatusOnShape(alone)))
        return false;
    for (TopoDS_Iterator v(edge); v.More(); v.Next()) {
        const Handle(BRepCheck_Vertex) at = new BRepCheck_Vertex(TopoDS::Vertex(v.Value()));
        at->InContext(edge);
        at->InContext(alone);
        if (!fine(at->Status()) || (at->IsStatusOnShape(edge) && !fine(at->StatusOnShape(edge))) ||
            (at->IsStatusOnShape(alone) && !fine(at->StatusOnShape(alone))))
            return false;
    }
    return true;
}

struct Chord {
    gp_Pnt2d from, to;
};

// At even parameters, a degree of turning to a chord at most.
std::vector<gp_Pnt2d> points_of(const Handle(Geom2d_Curve) & curve, double from, double to) {
    std::vector<gp_Pnt2d> out;
    const auto sample = [&](int chords) {
        out.clear();
        for (int k = 0; k <= chords; ++k)
            out.push_back(curve->Value(from + (to - from) * k / chords));
    };
    sample(samples);
    double turned = 0;
    for (std::size_t k = 0; k + 2 < out.size(); ++k) {
        const gp_Vec2d a(out[k], out[k + 1]), b(out[k + 1], out[k + 2]);
        if (a.Magnitude() > 0 && b.Magnitude() > 0) turned += std::abs(a.Angle(b));
    }
    constexpr double degree = 0.017453292519943295;
    if (turned > samples * degree)
        sample(static_cast<int>(std::ceil(turned * samples / (samples - 1) / degree)));
    return out;
}

double cross(const gp_Pnt2d& a, const gp_Pnt2d& b, const gp_Pnt2d& c) {
    return (b.X() - a.X()) * (c.Y() - a.Y()) - (b.Y() - a.Y()) * (c.X() - a.X());
}

// By more than the kernel's own confusion: chords that follow each other meet in a point, as far as it is rounded.
bool cross_each_other(const Chord& a, const Chord& b) {
    constexpr double touching = 1e-7; // mm
    const auto parted = [](const Chord& line, const gp_Pnt2d& p, const gp_Pnt2d& q) {
        const double least = touching * line.from.Distance(line.to), at = cross(line.from, line.to, p),
                     other = cross(line.from, line.to, q);
        return (at > least && other < -least) || (at < -least && other > least);
    };
    return parted(a, b.from, b.to) && parted(b, a.from, a.to);
}

// Whether any two chords cross: each against those in the same cells of a grid.
bool any_cross(const std::vector<Chord>& chords) {
    double x0 = 1e300, y0 = 1e300, x1 = -1e300, y1 = -1e300, length = 0;
    for (const Chord& c : chords) {
        for (const gp_Pnt2d* p : {&c.from, &c.to}) {
            x0 = std::min(x0, p->X()), x1 = std::max(x1, p->X());
            y0 = std::min(y0, p->Y()), y1 = std::max(y1, p->Y());
        }
        length += c.from.Distance(c.to);
    }
    const double cell =
        std::max({2 * length / static_cast<double>(chords.size()), (x1 - x0) / 4000, (y1 - y0) / 4000, 1e-9});
    std::unordered_map<std::uint64_t, std::vector<std::size_t>> grid;
    const auto column = [&](double x) { return static_cast<std::uint64_t>((x - x0) / cell); };
    const auto row = [&](double y) { return static_cast<std::uint64_t>((y - y0) / cell); };
    for (std::size_t i = 0; i < chords.size(); ++i) {
        const Chord& c = chords[i];
        const auto [left, right] = std::minmax({c.from.X(), c.to.X()}); // by value
        const auto [low, high] = std::minmax({c.from.Y(), c.to.Y()});
        for (std::uint64_t x = column(left); x <= column(right); ++x)
            for (std::uint64_t y = row(low); y <= row(high); ++y) {
                auto& here = grid[(x << 32) | y];
                for (const std::size_t j : here)
                    if (cross_each_other(c, chords[j])) return true;
                here.push_back(i);
            }
    }
    return false;
}

// A wire as the face goes along it: its chords, and the area it encloses, positive counter-clockwise.
struct Round {
    std::vector<Chord> chords;
    double area = 0;
};

// False where it is not one closed round.
bool go_round(const TopoDS_Wire& wire, const TopoDS_Face& face, Round& out) {
    struct Way {
        TopoDS_Edge edge;
        gp_Pnt2d begin, end;
        std::vector<gp_Pnt2d> points;
        double tolerance = 0;
    };
    std::vector<Way> ways;
    std::map<const TopoDS_TShape*, std::size_t> leaves; // by the vertex
    for (TopoDS_Iterator it(wire); it.More(); it.Next()) {
        const TopoDS_Edge edge = TopoDS::Edge(it.Value());
        if (!edge_is_valid(edge, face)) return false;
        double first = 0, last = 0;
        const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face, first, last);
        const TopoDS_Vertex from = TopExp::FirstVertex(edge, true);
        if (curve.IsNull() || from.IsNull()) return false;
        Way w;
        w.edge = edge;
        const bool forward = edge.Orientation() == TopAbs_FORWARD;
        w.points = points_of(curve, forward ? first : last, forward ? last : first);
        w.begin = w.points.front();
        w.end = w.points.back();
        w.tolerance = std::max(BRep_Tool::Tolerance(from), 1e-7);
        if (!leaves.emplace(from.TShape().get(), ways.size()).second) return false; // left twice
        ways.push_back(std::move(w));
    }
    if (ways.empty()) return false;
    std::size_t at = 0;
    for (std::size_t n = 0; n < ways.size(); ++n) {
        const Way& w = ways[at];
        for (std::size_t k = 0; k + 1 < w.points.size(); ++k) {
            out.chords.push_back({w.points[k], w.points[k + 1]});
            out.area += (w.points[k].X() * w.points[k + 1].Y() - w.points[k + 1].X() * w.points[k].Y()) / 2;
        }
        const auto next = leaves.find(TopExp::LastVertex(w.edge, true).TShape().get());
        if (next == leaves.end() ||
            w.end.Distance(ways[next->second].begin) > 2 * ways[next->second].tolerance)
            return false;
        at = next->second;
        if (at == 0) return n + 1 == ways.size(); // back where it began: with all of them, or too early
    }
    return false;
}

bool lies_in(const gp_Pnt2d& p, const Round& around) {
    bool in = false;
    for (const Chord& c : around.chords)
        if ((c.from.Y() > p.Y()) != (c.to.Y() > p.Y()) &&
            p.X() < c.from.X() + (p.Y() - c.from.Y()) / (c.to.Y() - c.from.Y()) * (c.to.X() - c.from.X()))
            in = !in;
    return in;
}

} // namespace

bool is_plane(const TopoDS_Face& face) {
    return !Handle(Geom_Plane)::DownCast(BRep_Tool::Surface(face)).IsNull();
}

bool flat_face_is_valid(const TopoDS_Face& given) {
    const TopoDS_Face face =
        TopoDS::Face(given.Oriented(TopAbs_FORWARD)); // wires are told for this side of the plane
    std::vector<Round> rounds;
    for (TopoDS_Iterator w(face); w.More(); w.Next()) {
        Round r;
        if (w.Value().ShapeType() != TopAbs_WIRE || !go_round(TopoDS::Wire(w.Value()), face, r)) return false;
        rounds.push_back(std::move(r));
    }
    if (rounds.empty()) return false;
    std::vector<Chord> all;
    for (const Round& r : rounds)
        all.insert(all.end(), r.chords.begin(), r.chords.end());
    if (any_cross(all)) return false;
    const auto outer = std::max_element(rounds.begin(), rounds.end(), [](const Round& a, const Round& b) {
        return std::abs(a.area) < std::abs(b.area);
    });
    return std::all_of(rounds.begin(), rounds.end(), [&](const Round& r) {
        if (&r == &*outer) return r.area > 0;
        return r.area < 0 && lies_in(r.chords.front().from, *outer);
    });
}

} // namespace whorl::solid
