// The textbook way to a thread, for the benchmark: sweep a section along a helix and cut it from a cylinder.
#include "solid/solid.hpp"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepLib.hxx>
#include <BRepOffsetAPI_MakePipeShell.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <GCE2d_MakeSegment.hxx>
#include <GProp_GProps.hxx>
#include <Geom2d_TrimmedCurve.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <TopoDS_Wire.hxx>

#include <cmath>
#include <numbers>

namespace whorl::solid {

TextbookResult textbook_thread(double crest_radius, double root_radius, double pitch, double root_flat,
                               int turns) {
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
    TextbookResult r;
    GProp_GProps g;
    BRepGProp::VolumeProperties(cut.Shape(), g);
    r.volume = g.Mass();
    r.valid = !cut.HasErrors() && BRepCheck_Analyzer(cut.Shape()).IsValid() && r.volume > 0;
    return r;
}

} // namespace whorl::solid
