// The textbook ways to a thread, a gear, a spring, cams, a bent clamp and a fluted vessel, for `whorl bench` to be held against: sweep a section
// along a helix with the kernel and cut, draw a spline through points, cut with the roller place by place. A
// program of its own, so that the product needs none of the kernel that this takes.
//
//   whorl-textbook thread CREST_RADIUS ROOT_RADIUS PITCH ROOT_FLAT TURNS      (mm)
//   whorl-textbook gear DESIGNATION WIDTH
//   whorl-textbook spring WIRE MEAN_DIAMETER PITCH TURNS
//   whorl-textbook cam DESIGNATION
//   whorl-textbook drum DESIGNATION STEP                                         (degrees)
//   whorl-textbook clamp CREST_RADIUS ROOT_RADIUS PITCH ROOT_FLAT TURNS SHANK BEND_RADIUS      (mm)
//   whorl-textbook vessel DESIGNATION SECTIONS
// prints: milliseconds, volume in mm³, 1 where the result is valid.
#include "form/cam/cam.hpp"
#include "form/cam/drum.hpp"
#include "form/silhouette/silhouette.hpp"
#include "form/tooth/gear_designation.hpp"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepLib.hxx>
#include <BRepOffsetAPI_MakePipe.hxx>
#include <BRepOffsetAPI_MakePipeShell.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <GCE2d_MakeSegment.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <GProp_GProps.hxx>
#include <Geom2d_TrimmedCurve.hxx>
#include <GeomAPI_PointsToBSpline.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Circ.hxx>

#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <numbers>
#include <string>
#include <vector>

namespace whorl {
namespace {

struct TextbookResult {
    bool valid = false;
    double volume = 0; // mm³
};

struct ThreadedBar {
    TopoDS_Shape shape;
    bool done = false;
};
// Helix edge, section swept as a pipe shell, boolean cut from a cylinder.
ThreadedBar threaded_bar(double crest_radius, double root_radius, double pitch, double root_flat, int turns) {
    using std::numbers::pi;
    Handle(Geom_CylindricalSurface) cylinder =
        new Geom_CylindricalSurface(gp_Ax3(gp_Pnt(0, 0, -pitch), gp::DZ()), crest_radius);
    Handle(Geom2d_TrimmedCurve) line =
        GCE2d_MakeSegment(gp_Pnt2d(0, 0), gp_Pnt2d(2 * pi * (turns + 2), pitch * (turns + 2)));
    TopoDS_Edge helix = BRepBuilderAPI_MakeEdge(line, cylinder);
    BRepLib::BuildCurves3d(helix);
    const TopoDS_Wire spine = BRepBuilderAPI_MakeWire(helix);
    const double beyond = 0.05 * pitch, low = root_flat / 2;
    const double high = low + (crest_radius + beyond - root_radius) * std::tan(pi / 6);
    BRepBuilderAPI_MakePolygon section;
    section.Add(gp_Pnt(root_radius, 0, -pitch - low));
    section.Add(gp_Pnt(crest_radius + beyond, 0, -pitch - high));
    section.Add(gp_Pnt(crest_radius + beyond, 0, -pitch + high));
    section.Add(gp_Pnt(root_radius, 0, -pitch + low));
    section.Close();
    BRepOffsetAPI_MakePipeShell sweep(spine);
    sweep.SetMode(gp_Dir(0, 0, 1));
    sweep.Add(section.Wire());
    sweep.Build();
    sweep.MakeSolid();
    const TopoDS_Shape blank = BRepPrimAPI_MakeCylinder(crest_radius, turns * pitch);
    BRepAlgoAPI_Cut cut(blank, sweep.Shape());
    cut.Build();
    return {cut.Shape(), !cut.HasErrors()};
}

TextbookResult measured(const TopoDS_Shape& shape, bool valid) {
    GProp_GProps g;
    BRepGProp::VolumeProperties(shape, g);
    return {valid && BRepCheck_Analyzer(shape).IsValid() && g.Mass() > 0, g.Mass()};
}

TextbookResult textbook_thread(double crest_radius, double root_radius, double pitch, double root_flat,
                               int turns) {
    const ThreadedBar bar = threaded_bar(crest_radius, root_radius, pitch, root_flat, turns);
    return measured(bar.shape, bar.done);
}

// A circle swept along two shanks and the half turn between them, a thread joined to either end.
TextbookResult textbook_clamp(double crest_radius, double root_radius, double pitch, double root_flat,
                              int turns, double shank, double bend_radius) {
    const ThreadedBar leg = threaded_bar(crest_radius, root_radius, pitch, root_flat, turns);
    const double from = turns * pitch, top = from + shank, across = 2 * bend_radius;
    const gp_Pnt a(0, 0, from), b(0, 0, top), c(bend_radius, 0, top + bend_radius), d(across, 0, top),
        e(across, 0, from);
    BRepBuilderAPI_MakeWire spine(BRepBuilderAPI_MakeEdge(a, b),
                                  BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(b, c, d).Value()),
                                  BRepBuilderAPI_MakeEdge(d, e));
    const TopoDS_Edge circle = BRepBuilderAPI_MakeEdge(gp_Circ(gp_Ax2(a, gp::DZ(), gp::DX()), crest_radius));
    const TopoDS_Shape disc = BRepBuilderAPI_MakeFace(BRepBuilderAPI_MakeWire(circle).Wire(), true).Shape();
    const TopoDS_Shape bar = BRepOffsetAPI_MakePipe(spine.Wire(), disc).Shape();
    gp_Trsf aside;
    aside.SetTranslation(gp_Vec(across, 0, 0));
    BRepAlgoAPI_Fuse first(bar, leg.shape);
    BRepAlgoAPI_Fuse both(first.Shape(), BRepBuilderAPI_Transform(leg.shape, aside, true).Shape());
    const TextbookResult made = measured(both.Shape(), leg.done && !first.HasErrors() && !both.HasErrors());
    // the kernel may lose a leg without a word
    return {made.valid && made.volume > 1.001 * measured(bar, true).volume, made.volume};
}

// A circle swept along a helix, both ends cut flat.
TextbookResult textbook_spring(double wire, double mean_diameter, double pitch, double turns) {
    using std::numbers::pi;
    const double radius = mean_diameter / 2, rise = turns * pitch;
    Handle(Geom_CylindricalSurface) cylinder = new Geom_CylindricalSurface(gp_Ax3(gp::XOY()), radius);
    Handle(Geom2d_TrimmedCurve) line = GCE2d_MakeSegment(gp_Pnt2d(0, 0), gp_Pnt2d(2 * pi * turns, rise));
    TopoDS_Edge helix = BRepBuilderAPI_MakeEdge(line, cylinder);
    BRepLib::BuildCurves3d(helix);
    const gp_Dir along(0, 2 * pi * radius, pitch);
    const TopoDS_Edge circle =
        BRepBuilderAPI_MakeEdge(gp_Circ(gp_Ax2(gp_Pnt(radius, 0, 0), along, gp_Dir(1, 0, 0)), wire / 2));
    const TopoDS_Wire spine = BRepBuilderAPI_MakeWire(helix);
    BRepOffsetAPI_MakePipeShell sweep(spine);
    sweep.SetMode(true);
    sweep.Add(BRepBuilderAPI_MakeWire(circle).Wire());
    sweep.Build();
    sweep.MakeSolid();
    TopoDS_Shape body = sweep.Shape();
    TextbookResult r;
    r.valid = true;
    for (const double z : {-wire, rise}) { // ground at the centreline's ends
        const TopoDS_Shape off = BRepPrimAPI_MakeBox(gp_Pnt(-mean_diameter, -mean_diameter, z),
                                                     2 * mean_diameter, 2 * mean_diameter, wire);
        BRepAlgoAPI_Cut cut(body, off);
        cut.Build();
        r.valid = r.valid && !cut.HasErrors();
        body = cut.Shape();
    }
    GProp_GProps g;
    BRepGProp::VolumeProperties(body, g);
    r.volume = g.Mass();
    r.valid = r.valid && BRepCheck_Analyzer(body).IsValid() && r.volume > 0;
    return r;
}

// One tooth space cut from a disc and the cut repeated around the axis.
TextbookResult textbook_gear(const ResolvedGear& gear, double width) {
    std::vector<gp_Pnt> flank; // from the root arc's end past the tip
    for (const TransverseCurve& c : gear.half_outline)
        if (c.shape != CurveShape::circle)
            for (int i = flank.empty() ? 0 : 1; i <= 12; ++i) {
                const TransversePoint p = whorl::point_at(c, c.from + (c.to - c.from) * i / 12);
                flank.emplace_back(p.x, p.y, -1);
            }
    const double past = 1.02 * gear.tip_radius / std::hypot(flank.back().X(), flank.back().Y());
    const auto mirrored = [](const gp_Pnt& p) { return gp_Pnt(p.X(), -p.Y(), p.Z()); };
    const auto curve = [&](bool other) {
        TColgp_Array1OfPnt points(1, static_cast<int>(flank.size()));
        for (std::size_t i = 0; i < flank.size(); ++i)
            points(static_cast<int>(i) + 1) = other ? mirrored(flank[i]) : flank[i];
        return BRepBuilderAPI_MakeEdge(GeomAPI_PointsToBSpline(points, 3, 8, GeomAbs_C2, 1e-4).Curve())
            .Edge();
    };
    const gp_Pnt out(flank.back().X() * past, flank.back().Y() * past, -1);
    const Handle(Geom_TrimmedCurve) root =
        GC_MakeArcOfCircle(mirrored(flank.front()), gp_Pnt(gear.root_radius, 0, -1), flank.front());
    BRepBuilderAPI_MakeWire wire;
    wire.Add(BRepBuilderAPI_MakeEdge(root));
    wire.Add(curve(false));
    wire.Add(BRepBuilderAPI_MakeEdge(flank.back(), out));
    wire.Add(BRepBuilderAPI_MakeEdge(out, mirrored(out)));
    wire.Add(BRepBuilderAPI_MakeEdge(mirrored(out), mirrored(flank.back())));
    wire.Add(curve(true));
    const TopoDS_Shape space =
        BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire.Wire()), gp_Vec(0, 0, width + 2)).Shape();
    TopoDS_Shape body = BRepPrimAPI_MakeCylinder(gear.tip_radius, width).Shape();
    TextbookResult r;
    r.valid = true;
    for (int k = 0; k < gear.spec.teeth; ++k) {
        gp_Trsf turn;
        turn.SetRotation(gp::OZ(), k * gear.pitch_angle());
        BRepAlgoAPI_Cut cut(body, BRepBuilderAPI_Transform(space, turn).Shape());
        cut.Build();
        r.valid = r.valid && !cut.HasErrors();
        body = cut.Shape();
    }
    GProp_GProps g;
    BRepGProp::VolumeProperties(body, g);
    r.volume = g.Mass();
    r.valid = r.valid && BRepCheck_Analyzer(body).IsValid() && r.volume > 0;
    return r;
}

// A spline through the profile's point of every degree, pushed along the axis.
TextbookResult textbook_cam(const CamDesignation& d) {
    const ResolvedCam cam = resolve_cam(d.spec);
    TColgp_Array1OfPnt points(1, 361);
    for (int k = 0; k <= 360; ++k) {
        const double theta = (k % 360) * std::numbers::pi / 180;
        const TransversePoint p = follower_at(d.spec, cam.motion, theta).touches;
        const double c = std::cos(theta), s = std::sin(theta);
        points(k + 1) = gp_Pnt(p.x * c + p.y * s, p.y * c - p.x * s, 0);
    }
    const TopoDS_Edge edge =
        BRepBuilderAPI_MakeEdge(GeomAPI_PointsToBSpline(points, 3, 8, GeomAbs_C2, 1e-4).Curve());
    const TopoDS_Wire outline = BRepBuilderAPI_MakeWire(edge).Wire();
    return measured(
        BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(outline), gp_Vec(0, 0, in_mm(*d.length))).Shape(),
        true);
}

// The roller cut from the drum at every step of its way.
TextbookResult textbook_drum(const DrumDesignation& d, double step) {
    const ResolvedDrum drum = resolve_drum(d.spec, *d.length);
    TopoDS_Shape body = BRepPrimAPI_MakeCylinder(drum.radius, drum.length).Shape();
    bool valid = true;
    for (double at = 0; at < 360 - step / 2; at += step) {
        const double theta = at * std::numbers::pi / 180;
        const gp_Dir out(std::cos(theta), -std::sin(theta), 0);
        const gp_Pnt foot(drum.other_radius * out.X(), drum.other_radius * out.Y(),
                          drum.zero + drum.motion.at(theta)[0]);
        BRepAlgoAPI_Cut cut(
            body,
            BRepPrimAPI_MakeCylinder(gp_Ax2(foot, out), drum.half_width, 2 * in_mm(d.spec.depth)).Shape());
        cut.Build();
        valid = valid && !cut.HasErrors();
        body = cut.Shape();
    }
    return measured(body, valid);
}

// Its outside and its inside, each a loft through outlines of arcs at so many heights; the one cut out of the other.
TopoDS_Shape lofted(const ShapedWall& wall, double z0, double z1, int sections) {
    BRepOffsetAPI_ThruSections loft(true, false, 1e-5);
    const Flutes& f = *wall.flutes();
    for (int k = 0; k < sections; ++k) {
        const double z = z0 + (z1 - z0) * k / (sections - 1), outer = wall.outer()(z),
                     inner = std::min(wall.least_radius(z), outer * 0.9999);
        const double half = wall.half_angle(), turned = f.start + wall.turned(z);
        const auto at = [&](double r, double theta) {
            return gp_Pnt(r * std::cos(theta), r * std::sin(theta), z);
        };
        BRepBuilderAPI_MakeWire wire;
        for (int i = 0; i < f.count; ++i) {
            const double middle = turned + 2 * half * i;
            wire.Add(BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(at(outer, middle - half), at(inner, middle),
                                                                at(outer, middle + half))
                                                 .Value())
                         .Edge());
        }
        loft.AddWire(wire.Wire());
    }
    loft.Build();
    return loft.Shape();
}
TextbookResult textbook_vessel(const std::string& words, int sections) {
    const SilhouetteSpec spec = parse_silhouette(words).spec;
    SilhouetteSpec outside = spec;
    outside.wall = {};
    const double high = spec.points.back().at;
    const ResolvedSilhouette o = resolve_silhouette(outside, 0, high),
                             in = resolve_hollow(spec, o, spec.bottom, high);
    BRepAlgoAPI_Cut cut(lofted(*o.wall, 0, high, sections), lofted(*in.wall, spec.bottom, high, sections));
    return measured(cut.Shape(), !cut.HasErrors());
}

TextbookResult made(const std::vector<std::string>& words) {
    const auto number = [&](std::size_t i) { return std::strtod(words.at(i).c_str(), nullptr); };
    if (words.at(0) == "thread")
        return textbook_thread(number(1), number(2), number(3), number(4), static_cast<int>(number(5)));
    if (words.at(0) == "vessel") return textbook_vessel(words.at(1), static_cast<int>(number(2)));
    if (words.at(0) == "clamp")
        return textbook_clamp(number(1), number(2), number(3), number(4), static_cast<int>(number(5)),
                              number(6), number(7));
    if (words.at(0) == "gear") return textbook_gear(resolve_gear(parse_gear(words.at(1)).spec), number(2));
    if (words.at(0) == "cam") return textbook_cam(parse_cam(words.at(1)));
    if (words.at(0) == "drum") return textbook_drum(parse_drum(words.at(1)), number(2));
    return textbook_spring(number(1), number(2), number(3), number(4));
}

} // namespace
} // namespace whorl

int main(int argc, char** argv) {
    try {
        const auto start = std::chrono::steady_clock::now();
        const whorl::TextbookResult r = whorl::made({argv + 1, argv + argc});
        const std::chrono::duration<double, std::milli> took = std::chrono::steady_clock::now() - start;
        std::printf("%.6g %.9g %d\n", took.count(), r.volume, r.valid ? 1 : 0);
        return 0;
    } catch (...) { // the kernel's failures among them, which are no std::exception
        std::fputs("whorl-textbook: this can't be made; see its source for what it takes\n", stderr);
        return 2;
    }
}
